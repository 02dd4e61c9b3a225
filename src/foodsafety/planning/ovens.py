"""Ovens by shelf and temperature: one temperature at a time in each, and time to come to another (OR-tools CP-SAT)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from itertools import combinations
from typing import Any

from ortools.sat.python import cp_model

from foodsafety.planning.problem import Problem, Task

Interval = Callable[[Task, Any], Any]


def oven_tasks(problem: Problem) -> list[Task]:
    """The tasks that stand in an oven."""
    return [task for task in problem.tasks.values() if task.oven and task.s]


def need_choosing(problem: Problem) -> bool:
    """True where it matters which oven a task is in: there are ovens, and not all are wanted at one temperature."""
    return bool(problem.ovens) and len({task.oven_heat for task in oven_tasks(problem)}) > 1


def share_ovens(
    model: cp_model.CpModel, problem: Problem, start: Mapping[str, Any], unit: int, interval: Interval
) -> dict[tuple[str, int], Any]:
    """Adds which oven everything stands in, shelf by shelf; two temperatures never share an oven, and the second waits
    until it has come to its own. A step and its waiting stay in one oven. Empty where any oven will do."""
    if not need_choosing(problem):
        return {}
    tasks = oven_tasks(problem)
    inside: dict[tuple[str, int], Any] = {}
    for key in dict.fromkeys(task.oven for task in tasks):
        for oven in range(len(problem.ovens)):
            inside[key, oven] = model.new_bool_var(f"{key} in oven {oven + 1}")
        model.add_exactly_one(inside[key, oven] for oven in range(len(problem.ovens)))
    for oven, shelves in enumerate(problem.ovens):
        rows = [interval(task, inside[task.oven, oven]) for task in tasks]
        model.add_cumulative(rows, [1] * len(rows), shelves)
    _heats_apart(model, problem, start, unit, inside)
    return inside


def _heats_apart(
    model: cp_model.CpModel,
    problem: Problem,
    start: Mapping[str, Any],
    unit: int,
    inside: Mapping[tuple[str, int], Any],
) -> None:
    """Of two temperatures in one oven the second begins when the first has ended and the oven has changed."""
    gap = -(-problem.oven_change_s // unit)
    for one, other in combinations(oven_tasks(problem), 2):
        if one.oven_heat == other.oven_heat:
            continue
        first = model.new_bool_var("")
        for oven in range(len(problem.ovens)):
            both = [inside[one.oven, oven], inside[other.oven, oven]]
            model.add(start[other.id] >= start[one.id] + one.s // unit + gap).only_enforce_if([*both, first])
            model.add(start[one.id] >= start[other.id] + other.s // unit + gap).only_enforce_if([*both, ~first])


def which_oven(problem: Problem, starts: Mapping[str, int], chosen: Mapping[str, int]) -> dict[str, int]:
    """The oven of each task (1 for the first): as it was ``chosen``, or, where any will do, the first with a free
    shelf. Nothing where nobody has said how many ovens there are."""
    tasks = sorted(oven_tasks(problem), key=lambda task: starts[task.id])
    spans: dict[str, tuple[int, int]] = {}
    for task in tasks:
        begin, end = spans.get(task.oven, (starts[task.id], 0))
        spans[task.oven] = (begin, max(end, starts[task.id] + task.s))
    places: dict[str, int] = {}
    for key, span in spans.items():
        free = (oven for oven in range(len(problem.ovens)) if _room_in(problem, oven, span, places, spans))
        oven = chosen.get(key, next(free, -1))
        if oven >= 0:
            places[key] = oven
    return {task.id: places[task.oven] + 1 for task in tasks if task.oven in places}


def _room_in(
    problem: Problem,
    oven: int,
    span: tuple[int, int],
    places: Mapping[str, int],
    spans: Mapping[str, tuple[int, int]],
) -> bool:
    """True if an oven has a shelf free for a stretch of time."""
    there = [spans[key] for key, place in places.items() if place == oven]
    return sum(1 for begin, end in there if begin < span[1] and span[0] < end) < problem.ovens[oven]

"""Who does what in a plan whose times stand (OR-tools CP-SAT): whoever has had hands on raw food is the one who
washes, raw work stays in one pair of hands, and work is spread evenly."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import pairwise
from typing import Any

from ortools.sat.python import cp_model

from foodsafety.planning.problem import Problem, Task

# Work, not time: the same plan has the same doers on any machine. The seconds only end what never should last so long.
# Where that finds nobody, more.
WORK = (0.02, 2.0)
SECONDS = 3.0
SEED = 7
# Somebody who does not wash after raw work is worse than raw work in two pairs of hands; both than uneven work.
_WASHES, _ONE_PAIR = 10_000, 1_000
# Worse than both: in the middle of something else.
_BESIDE = 100_000


def doers(problem: Problem, starts: Mapping[str, int]) -> dict[str, tuple[str, ...]]:
    """Names for every step at a bench that has names, bench by bench. Empty where nobody can be found: then the times
    stand without them."""
    found: dict[str, tuple[str, ...]] = {}
    for bench in problem.benches.values():
        tasks = [task for task in problem.tasks.values() if task.bench == bench.id and task.hands]
        if bench.names and tasks:
            found |= _at_bench(problem, tasks, starts, bench.names)
    return found


def _at_bench(
    problem: Problem, tasks: list[Task], starts: Mapping[str, int], names: tuple[str, ...]
) -> dict[str, tuple[str, ...]]:
    model = cp_model.CpModel()
    does: dict[tuple[str, str], Any] = {}
    model.minimize(sum(_bench(model, does, problem, tasks, starts, names)))
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = SECONDS
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = SEED
    found: dict[str, list[str]] = {}
    for work in WORK:
        solver.parameters.max_deterministic_time = work
        if solver.solve(model) in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            for (task, name), chosen in does.items():
                if solver.value(chosen):
                    found.setdefault(task, []).append(name)
            break
    return {task: tuple(who) for task, who in found.items()}


def unwashed(problem: Problem, people: Mapping[str, tuple[str, ...]]) -> dict[str, tuple[str, ...]]:
    """For each wash the people who had their hands on raw food before it and do not wash then."""
    found = {}
    for task in problem.tasks.values():
        late = {name for other in task.washes for name in people.get(other, ())} - set(people.get(task.id, ()))
        if late and task.id in people:
            found[task.id] = tuple(sorted(late))
    return found


def _bench(
    model: cp_model.CpModel,
    does: dict[tuple[str, str], Any],
    problem: Problem,
    tasks: list[Task],
    starts: Mapping[str, int],
    names: tuple[str, ...],
) -> list[Any]:
    """The choices of one bench, and what they cost."""
    for task in tasks:
        able = {task.named} if task.named in names else set(problem.doers(task))
        for name in names:
            does[task.id, name] = model.new_bool_var("")
            if name not in able:
                model.add(does[task.id, name] == 0)
        model.add(sum(does[task.id, name] for name in names) == task.hands)
    for at_s in {starts[task.id] for task in tasks}:
        there = [task for task in tasks if starts[task.id] <= at_s < starts[task.id] + task.s]
        for name in names:
            model.add_at_most_one(does[task.id, name] for task in there)
    return [
        _most_work(model, does, tasks, names),
        *_unlike(model, does, tasks, names),
        *_in_between(model, does, tasks, starts, names),
    ]


def _in_between(
    model: cp_model.CpModel,
    does: Mapping[tuple[str, str], Any],
    tasks: list[Task],
    starts: Mapping[str, int],
    names: tuple[str, ...],
) -> Iterator[Any]:
    """Steps that take no time, done by somebody in the middle of another: nobody's time is lost, but rather by one
    who is free."""
    for task in (task for task in tasks if not task.s):
        for other in tasks:
            if starts[other.id] < starts[task.id] < starts[other.id] + other.s:
                for name in names:
                    both = model.new_bool_var("")
                    model.add(both >= does[task.id, name] + does[other.id, name] - 1)
                    yield _BESIDE * both


def _most_work(
    model: cp_model.CpModel, does: Mapping[tuple[str, str], Any], tasks: list[Task], names: tuple[str, ...]
) -> Any:
    """How long whoever works longest is at work [s]; what everybody does is left out."""
    most = model.new_int_var(0, sum(task.s for task in tasks), "")
    for name in names:
        model.add(most >= sum(task.s * does[task.id, name] for task in tasks if task.hands < len(names)))
    return most


def _unlike(
    model: cp_model.CpModel, does: Mapping[tuple[str, str], Any], tasks: list[Task], names: tuple[str, ...]
) -> Iterator[Any]:
    """Raw work after which somebody does not wash, and raw work in a second pair of hands."""
    for task in tasks:
        rows = [other for other in task.washes if (other, names[0]) in does]
        for name in names:
            yield from (_WASHES * _only_first(model, does, other, task.id, name) for other in rows)
            yield from (_ONE_PAIR * _only_first(model, does, one, other, name) for one, other in pairwise(rows))


def _only_first(model: cp_model.CpModel, does: Mapping[tuple[str, str], Any], one: str, other: str, name: str) -> Any:
    """1 where somebody does the one and not the other."""
    only = model.new_bool_var("")
    model.add(only >= does[one, name] - does[other, name])
    return only

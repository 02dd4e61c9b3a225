"""Ovens by shelf and temperature."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.planning import Bench, Plan, Problem, Task, schedule, whole_lesson
from foodsafety.recipes import Dish, combined, process_from
from tests.builders import demo_recipe

CHANGE_S = 600
BENCHES = {"Gannet": ("SD", "RO"), "Puffin": ("AK", "JT")}


def problem(bakes: list[tuple[str, int]], ovens: tuple[int, ...]) -> Problem:
    """Things that bake: (heat, minutes), all free to begin at once."""
    tasks = {
        f"t{n}": Task(
            id=f"t{n}",
            bench="B",
            s=60 * minutes,
            people=0,
            passive=True,
            needs={"oven": 1},
            oven=f"t{n}",
            oven_heat=heat,
        )
        for n, (heat, minutes) in enumerate(bakes)
    }
    bench = Bench(id="B", people=1)
    resources = {"oven": sum(ovens)}
    return Problem(
        lesson_s=36_000, benches={"B": bench}, tasks=tasks, resources=resources, ovens=ovens, oven_change_s=CHANGE_S
    )


def faults(wanted: Problem, plan: Plan) -> list[str]:
    """What is wrong with how the ovens are used, by counting."""
    tasks = [task for task in wanted.tasks.values() if task.oven and task.s]
    spans = {task.id: (plan.starts[task.id], plan.starts[task.id] + task.s) for task in tasks}
    found = []
    for oven, shelves in enumerate(wanted.ovens, start=1):
        own = [task for task in tasks if plan.ovens.get(task.id) == oven]
        for at_s in {spans[task.id][0] for task in own}:
            there = [task.id for task in own if spans[task.id][0] <= at_s < spans[task.id][1]]
            if len(there) > shelves:
                found.append(f"{there} on {shelves} shelves")
        for one, other in combinations(own, 2):
            (a, b), (c, d) = spans[one.id], spans[other.id]
            if one.oven_heat != other.oven_heat and a < d + CHANGE_S and c < b + CHANGE_S:
                found.append(f"{one.id} and {other.id} in oven {oven}")
    return found + [f"{task.id} is in no oven" for task in tasks if task.id not in plan.ovens]


@pytest.mark.parametrize(
    ("bakes", "ovens", "minutes"),
    [
        ([("200", 30), ("200", 30)], (2,), 30),
        ([("200", 30), ("180", 30)], (2,), 70),
        ([("200", 30), ("180", 30)], (1, 1), 30),
        ([("200", 30), ("180", 30), ("200", 30)], (2, 1), 30),
        ([("200", 30), ("180", 20), ("160", 10)], (3,), 80),
        ([("? a", 10), ("? b", 10)], (2,), 30),
        ([("200", 10), ("200", 10), ("200", 10)], (2,), 20),
    ],
)
def test_two_temperatures_never_share_an_oven(
    bakes: list[tuple[str, int]], ovens: tuple[int, ...], minutes: int
) -> None:
    wanted = problem(bakes, ovens)
    plan = schedule(wanted, seconds=3.0)

    assert faults(wanted, plan) == []
    assert (plan.status, plan.makespan_s) == ("optimal", 60 * minutes)


@settings(max_examples=25, deadline=None)
@given(
    st.lists(st.tuples(st.sampled_from(["200", "180", "? x"]), st.integers(5, 40)), min_size=1, max_size=7),
    st.lists(st.integers(1, 3), min_size=1, max_size=3),
)
def test_no_plan_of_any_bakes_uses_an_oven_wrongly(bakes: list[tuple[str, int]], shelves: list[int]) -> None:
    wanted = problem(bakes, tuple(shelves))
    plan = schedule(wanted, seconds=1.0)

    assert plan.starts
    assert faults(wanted, plan) == []


def test_a_menu_of_two_ovens_heats_waits_for_the_second_heat_and_not_where_there_is_a_second_oven() -> None:
    dishes = [Dish(title=name, process=demo_recipe(name)["process"]) for name in ("fish-pie", "sausage-rolls")]
    process = process_from(combined(dishes, "Serve").process)
    counts = {"basin": 2, "sink": 2, "hob_ring": 8, "probe": 2}
    plans = {}
    for ovens in ((2,), (2, 2)):
        lesson = whole_lesson(process, BENCHES, counts, lesson_s=20_000, ovens=ovens)
        plans[ovens] = schedule(lesson.problem, seconds=3.0)
        assert faults(lesson.problem, plans[ovens]) == []
    heats = {step.oven_c for step in process.steps if step.oven_c}
    assert len(heats) >= 1
    assert (plans[2, 2].makespan_s or 0) <= (plans[2,].makespan_s or 0)


def test_a_step_and_its_waiting_stay_in_one_oven() -> None:
    bake = Task(id="1.bake", bench="B", s=300, people=1, needs={"oven": 1}, oven="1.bake", oven_heat="200")
    waits = replace(bake, id="1.bake waits", people=0, passive=True, s=1200, after=("1.bake",))
    other = replace(bake, id="2.bake", oven="2.bake", oven_heat="150")
    wanted = replace(problem([], (1, 1)), tasks={task.id: task for task in (bake, waits, other)}, resources={"oven": 2})
    plan = schedule(wanted, seconds=2.0)

    assert plan.ovens["1.bake"] == plan.ovens["1.bake waits"] != plan.ovens["2.bake"]

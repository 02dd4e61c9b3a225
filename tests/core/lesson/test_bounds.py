"""What the rule profile asks of the times between steps, and plans that keep it."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from foodsafety.lesson import safety_plan, time_bounds
from foodsafety.planning import Bound, broken, schedule, whole_lesson
from foodsafety.recipes import process_from
from foodsafety.rules import House, rule_profile
from tests.builders import DEMOS, AProcess, demo_recipe

COUNTS = {"basin": 2, "sink": 2, "oven": 2, "hob_ring": 8, "griddle": 2, "probe": 2, "slow_cooker": 2, "grill": 2}
BENCHES = {"Gannet": ("SD", "RO"), "Puffin": ("AK", "JT")}


def bounds_of(data: dict[str, Any], profile: str = "us-home") -> tuple[Bound, ...]:
    return time_bounds(safety_plan(process_from(data), rule_profile(profile), House()))


def raw_then_heat(wait: str = "rest") -> dict[str, Any]:
    """Raw chicken is cut, waits for an hour somewhere, and is cooked and eaten."""
    return (
        AProcess()
        .food("chicken", kind="chicken")
        .step("cut", "chicken", tools="board knife", hands="cook", minutes=10, id="cut")
        .step(wait, "chicken", minutes=60, waiting_min=60, id="stand")
        .step("heat", "chicken", tools="frying_pan", hands="cook", minutes=20, id="fry")
        .step("serve", "chicken", minutes=10, id="serve")
        .serve("chicken")
        .data
    )


def test_raw_food_goes_on_the_heat_within_its_time_and_the_fridge_stops_the_clock() -> None:
    [raw] = [row for row in bounds_of(raw_then_heat()) if row.rule == "raw-out-of-fridge"]

    assert (raw.first, raw.then, raw.s, raw.since_begin) == ("cut", "fry", 7200, True)
    assert raw.section
    assert [row for row in bounds_of(raw_then_heat("chill")) if row.rule == "raw-out-of-fridge"] == []


def test_some_of_it_in_the_fridge_stops_no_clock_for_the_rest() -> None:
    data = (
        AProcess()
        .food("chicken", kind="chicken")
        .food("beef", kind="beef_mince")
        .step("mix", "chicken beef", tools="bowl", hands="cook", minutes=10, id="mix")
        .step("chill", "beef", minutes=60, waiting_min=60, id="cold")
        .step("heat", "chicken beef", tools="frying_pan", hands="cook", minutes=20, id="fry")
        .serve("chicken", "beef")
        .data
    )

    assert [(row.first, row.then) for row in bounds_of(data) if row.rule == "raw-out-of-fridge"] == [("mix", "fry")]


def test_hot_food_reaches_the_plate_within_its_time() -> None:
    rows = [row for row in bounds_of(raw_then_heat()) if row.rule == "time-out"]

    assert {(row.first, row.then, row.since_begin) for row in rows} == {("fry", "serve", False)}


@pytest.mark.parametrize("path", DEMOS, ids=lambda path: path.stem)
def test_every_demo_is_planned_within_the_rules_times(path: Path) -> None:
    data = demo_recipe(path.stem)["process"]
    for profile in ("us-home", "uk"):
        bounds = bounds_of(data, profile)
        lesson = whole_lesson(process_from(data), BENCHES, COUNTS, lesson_s=9000, bounds=bounds)
        plan = schedule(lesson.problem, seconds=2.0)

        assert plan.starts
        assert broken(bounds, lesson, plan.starts) == ()


def test_a_bound_binds_the_plan_and_one_that_cannot_be_kept_is_told_with_by_how_much() -> None:
    data = raw_then_heat()
    short = Bound(rule="raw-out-of-fridge", section="1", first="cut", then="fry", s=30 * 60, since_begin=True)
    lesson = whole_lesson(process_from(data), BENCHES, COUNTS, lesson_s=9000)
    plan = schedule(lesson.problem, seconds=2.0)

    assert [(number, over) for _, number, over in broken((short,), lesson, plan.starts)] == [(1, 2400), (2, 2400)]
    bound = whole_lesson(process_from(data), BENCHES, COUNTS, lesson_s=9000, bounds=(short,))
    assert schedule(bound.problem, seconds=2.0).starts == {}, "an hour of standing does not fit into half an hour"
    loose = Bound(rule="time-out", section="1", first="fry", then="serve", s=0)
    kept = schedule(
        whole_lesson(process_from(data), BENCHES, COUNTS, lesson_s=9000, bounds=(loose,)).problem, seconds=2.0
    )
    for n in (1, 2):
        assert kept.starts[f"{n}.serve"] == kept.starts[f"{n}.fry"] + 1200

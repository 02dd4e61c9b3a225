"""Every planted slip is one that the program notices, and every control point has one."""

from functools import cache

import pytest

from foodsafety.lesson import Event, Plan, State, bricks, fold, rehearse, safety_plan
from foodsafety.lesson.slips import CREWS, PLANTED, crewed, plant
from foodsafety.recipes import process_from
from foodsafety.rules import rule_profile
from tests.builders import LEARNERS, a_process, demo_recipe

RECIPES = ("turkey-koftas", "sausage-rolls", "beef-beetroot", "custard-tart", "fish-pie", "rice-salad")


@cache
def crew(name: str) -> tuple[Plan, tuple[Event, ...]]:
    plan = safety_plan(process_from(demo_recipe(name)["process"]), rule_profile("us-home"))
    return plan, tuple(rehearse(plan, LEARNERS, seed=11))


def shown(plan: Plan, events: list[Event] | tuple[Event, ...]) -> tuple[State, dict[str, str]]:
    state = fold(plan, LEARNERS, events)
    rows = bricks(state, max(row.at_s for row in events) + 60, ended=True)
    return state, {row.control.id: row.status for row in rows}


def test_there_are_at_least_25_kinds() -> None:
    assert len(PLANTED) >= 25


# Where each slip must be found: planted there, it must show. What is cooked through later shows nothing, and is not
# planted; the part-cooked pie is in no demo recipe.
@pytest.mark.parametrize("slip", sorted(PLANTED.keys() - {"part_cooked_left"}))
def test_a_slip_has_a_place_in_some_recipe(slip: str) -> None:
    planted = [name for name in RECIPES if plant(*_of(name), slip) is not None]

    assert planted


def _of(name: str) -> tuple[Plan, tuple[str, ...], tuple[Event, ...]]:
    plan, events = crew(name)
    return plan, LEARNERS, events


def test_what_is_cooked_in_part_and_left_is_noticed() -> None:
    made = a_process().food("chicken", kind="chicken").food("pastry", kind="puff_pastry")
    made.step("part_cook", "chicken", tools="pan", id="brown").step("mix", "chicken pastry", makes="pie", id="fill")
    made.step("heat", "pie", tools="tin", id="bake", minutes=40).step("serve", "pie", id="serve").serve("pie")
    plan = safety_plan(made.build(), rule_profile("us-home"))

    assert any(control.rule == "part-cooked" for control in plan.controls)
    assert plant(plan, LEARNERS, rehearse(plan, LEARNERS, seed=3), "part_cooked_left") is not None


def test_where_nothing_comes_of_it_nothing_is_planted() -> None:
    assert plant(*_of("sausage-rolls"), "not_rinsed") is None, "the onions are cooked through"
    assert plant(*_of("rice-salad"), "done_too_early") is None, "rice has no limit in its middle"


def test_every_control_point_of_the_demo_recipes_is_put_out_by_some_slip() -> None:
    rules, broken = set(), set()
    for name in RECIPES:
        plan, events = crew(name)
        _state, before = shown(plan, events)
        by_id = {control.id: control.rule for control in plan.controls}
        rules |= set(by_id.values())
        for slip in PLANTED:
            changed = plant(plan, LEARNERS, events, slip)
            after = shown(plan, changed)[1] if changed else before
            broken |= {by_id[key] for key, status in after.items() if status != before[key] and status != "laid"}

    # Its breaches stand at the step where the ready food was met, with the brick of that step.
    assert rules - broken == {"raw-kept-apart"}


def test_a_slip_comes_no_sooner_than_it_is_wanted() -> None:
    plan, events = crew("turkey-koftas")
    late = max(row.at_s for row in events) + 1

    assert plant(plan, LEARNERS, events, "short_wash", from_s=late) is None
    first = next(row for row in events if row.kind == "hands_washed")
    changed = plant(plan, LEARNERS, events, "short_wash", from_s=first.at_s + 1)
    assert changed is not None
    assert next(row for row in changed if row.id == first.id) == first


@pytest.mark.parametrize("kind", CREWS)
def test_a_crew_says_what_it_says_when_it_can(kind: str) -> None:
    _plan, events = crew("turkey-koftas")
    rows = crewed(events, kind)

    assert [at for at, _row in rows] == sorted(at for at, _row in rows)
    assert all(at >= row.at_s for at, row in rows), "nothing reaches the log before it happens"
    if kind in ("steady", "offline"):
        assert [row.id for _at, row in sorted(rows, key=lambda r: r[1].at_s)] == [row.id for row in events]
    if kind == "offline":
        assert max(at - row.at_s for at, row in rows) > 300
    if kind == "silent":
        assert len(rows) < len(events) / 3

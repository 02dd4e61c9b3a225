"""What is different between two states of a recipe's steps."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.recipes import add_step_after, change_step, changes, move_step, remove_step, rename_food
from tests.builders import demo_recipe


@pytest.fixture
def pie() -> dict[str, Any]:
    return demo_recipe("fish-pie")["process"]


def told(before: dict[str, Any], after: dict[str, Any]) -> list[tuple[str, str, str]]:
    return [(row.kind, row.step or row.name, row.field) for row in changes(before, after)]


def test_nothing_changed_is_nothing(pie: dict[str, Any]) -> None:
    assert changes(pie, pie) == ()


def test_a_moved_step_is_one_difference_however_far_it_goes(pie: dict[str, Any]) -> None:
    assert told(pie, move_step(pie, "rinse-leeks", -2)) == [("step-moved", "rinse-leeks", "")]


def test_a_new_step_and_one_taken_out_are_told_from_either_side(pie: dict[str, Any]) -> None:
    wash = {"do": "wash_hands", "foods": [], "tools": [], "hands": pie["people"][:1], "title": "Wash"}
    more = add_step_after(pie, "rinse-leeks", wash)
    [new] = [step["id"] for step in more["steps"] if step not in pie["steps"]]
    assert told(pie, more) == [("step-added", new, "")]
    assert told(more, pie) == [("step-removed", new, "")]
    assert told(more, remove_step(more, new)) == [("step-removed", new, "")]


def test_each_field_of_a_step_is_told_with_both_values(pie: dict[str, Any]) -> None:
    step = next(step for step in pie["steps"] if step["do"] == "heat")
    after = change_step(pie, step["id"], {"minutes": 99, "waiting_min": 0, "core_c": 80})
    found = {row.field: (row.before, row.after) for row in changes(pie, after)}
    assert found["minutes"] == (step["minutes"], 99)
    assert found["end"][1]["core_c"] == 80


def test_a_food_with_another_name_is_one_gone_and_one_new(pie: dict[str, Any]) -> None:
    old = next(iter(pie["foods"]))
    found = told(pie, rename_food(pie, old, "kelp crisps"))
    assert ("food-removed", old, "") in found
    assert ("food-added", "kelp crisps", "") in found


def test_what_is_eaten_and_what_a_food_is_are_told(pie: dict[str, Any]) -> None:
    name, food = next((name, food) for name, food in pie["foods"].items() if food.get("kind"))
    other = {**pie, "serve": [], "foods": {**pie["foods"], name: {**food, "kind": "kelp"}}}
    assert told(pie, other) == [("food-changed", name, "kind"), ("served", "", "serve")]
    assert told(pie, {**pie, "serve": list(reversed(pie["serve"]))}) == []


@given(st.randoms(use_true_random=False))
def test_as_few_steps_as_explain_an_order_are_said_to_be_moved(random: Any) -> None:
    steps = [{"id": str(n), "do": "cut", "foods": [], "title": str(n)} for n in range(9)]
    before = {"steps": steps, "foods": {}, "serve": []}
    mixed = random.sample(steps, len(steps))
    moved = {row.step for row in changes(before, {**before, "steps": mixed})}
    assert {row.kind for row in changes(before, {**before, "steps": mixed})} <= {"step-moved"}
    kept = [step["id"] for step in mixed if step["id"] not in moved]
    assert kept == sorted(kept)
    assert bool(moved) == (mixed != steps)

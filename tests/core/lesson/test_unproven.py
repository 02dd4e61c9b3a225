"""What is made from a food that nobody showed to be cooked is not shown to be cooked either."""

import pytest

from foodsafety.lesson import Plan, safety_plan
from foodsafety.rules import rule_profile
from tests.builders import a_process


@pytest.fixture
def plan() -> Plan:
    process = (
        a_process()
        .food("chicken", kind="chicken")
        .step("heat", "chicken", tools="pan", makes="fried")
        .step("mix", "cream", tools="bowl", makes="sauce")
        .step("mix", "fried sauce", makes="casserole")
        .step("transfer", "casserole", tools="dish", makes="pie")
        .serve("pie", "sauce")
        .build()
    )
    return safety_plan(process, rule_profile("us-home"))


@pytest.mark.parametrize("food", ["fried", "casserole", "pie"])
def test_it_is_named_however_far_it_went(plan: Plan, food: str) -> None:
    assert plan.unproven_in(food, ()) == ("fried",)


@pytest.mark.parametrize("food", ["fried", "casserole", "pie"])
def test_once_it_is_proven_nothing_stands_against_what_it_became(plan: Plan, food: str) -> None:
    assert plan.unproven_in(food, {"fried"}) == ()


def test_another_food_proven_is_no_proof_of_it(plan: Plan) -> None:
    assert plan.unproven_in("pie", {"sauce"}) == ("fried",)


def test_what_it_never_went_into_is_free_of_it(plan: Plan) -> None:
    assert plan.unproven_in("sauce", ()) == ()

"""What is made from a food that nobody showed to be cooked is not shown to be cooked either."""

import pytest

from foodsafety.lesson import safety_plan, unproven_in
from foodsafety.rules import rule_profile
from tests.builders import ABench, a_process


@pytest.fixture
def bench() -> ABench:
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
    return ABench(safety_plan(process, rule_profile("us-home")), ("AK",))


def shown(bench: ABench, food: str, core_c: float = 76.0) -> ABench:
    for piece in "123":
        bench.says("core_read", food=food, piece=piece, core_c=core_c)
    return bench


@pytest.mark.parametrize("food", ["fried", "casserole", "pie"])
def test_it_is_named_however_far_it_went(bench: ABench, food: str) -> None:
    assert unproven_in(bench.state, food) == ("fried",)


@pytest.mark.parametrize("food", ["fried", "casserole", "pie"])
def test_once_it_is_proven_nothing_stands_against_what_it_became(bench: ABench, food: str) -> None:
    assert unproven_in(shown(bench.does("1"), "fried").state, food) == ()


def test_another_food_read_is_no_proof_of_it_and_says_so(bench: ABench) -> None:
    shown(bench, "sauce")

    assert unproven_in(bench.state, "pie") == ("fried",)
    assert [f.rule for f in bench.findings] == ["reading-proves-nothing"]


def test_what_it_never_went_into_is_free_of_it(bench: ABench) -> None:
    assert unproven_in(bench.state, "sauce") == ()


def test_a_lower_reading_takes_the_proof_back_from_everything_it_became(bench: ABench) -> None:
    shown(bench.does("1"), "fried").does("2", "3", "4").says("core_read", food="fried", piece="4", core_c=52.0)

    assert unproven_in(bench.state, "pie") == ("fried",)
    assert "raw_poultry" in bench.state.surfaces["pie"]

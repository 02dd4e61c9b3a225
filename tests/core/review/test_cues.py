"""A cue is an observation: what it says of food that is not cooked through never ends a hazard."""

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.lesson import safety_plan
from foodsafety.recipes import Process, process_from
from foodsafety.recipes.process import says_underdone
from foodsafety.review import not_for
from foodsafety.rules import rule_profile
from tests.builders import a_process

VULNERABLE = ["pregnant", "under_5"]


@pytest.mark.parametrize(
    "cue",
    [
        "until the yolk is runny",
        "still pink in the middle",
        "medium-rare",
        "not cooked through",
        "soft-boiled",
        "Barely set",
    ],
)
def test_it_is_not_cooked_through(cue: str) -> None:
    assert says_underdone(cue)


@pytest.mark.parametrize(
    "cue",
    [
        "until no longer pink",
        "no pink is left",
        "the juices run clear and are not pink",
        "white and yolk firm",
        "",
        "browned",
    ],
)
def test_it_says_nothing_of_the_kind(cue: str) -> None:
    assert not says_underdone(cue)


def eggs(cue: str) -> Process:
    process = a_process().food("egg", kind="egg").step("heat", "egg", tools="pan", id="boil", until=cue)
    return process_from(process.serve("egg").data)


def test_a_runny_egg_is_a_finding_and_not_for_the_vulnerable() -> None:
    runny, firm = eggs("until the yolk is runny"), eggs("until white and yolk are firm")

    assert [row.rule for row in find_contamination(runny)] == ["no-kill-step"]
    assert find_contamination(firm) == ()
    assert {row.rule for row in not_for(runny, VULNERABLE, [])} == {"raw-egg"}
    assert not_for(firm, VULNERABLE, []) == ()


def test_the_plan_still_asks_for_its_temperature() -> None:
    plan = safety_plan(eggs("runny"), rule_profile("us-home"))
    assert [control.measured for control in plan.controls if control.rule == "core-temperature"] == [("egg",)]


def test_what_heat_ends_of_itself_it_still_ends() -> None:
    process = (
        a_process()
        .food("beef", kind="beef")
        .food("leek", "unwashed_produce")
        .step("heat", "beef leek", tools="pan", until="medium-rare")
        .serve("beef", "leek")
    )
    found = find_contamination(process_from(process.data))
    assert {(row.soil, row.food) for row in found} == {("raw_meat", "beef"), ("raw_meat", "leek")}

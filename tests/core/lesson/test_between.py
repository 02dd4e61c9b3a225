"""What a bench has to wash between the steps of a recipe that does not say so."""

from dataclasses import replace

from foodsafety.lesson import Between, safety_plan, washed_between
from foodsafety.recipes import process_from
from foodsafety.rules import rule_profile
from tests.builders import LEARNERS, a_process, chicken_and_salad, koftas


def test_a_recipe_that_washes_all_it_has_to_is_asked_for_nothing_more() -> None:
    assert washed_between(koftas(), LEARNERS) == ()


def test_hands_and_kit_are_washed_before_they_meet_what_is_not_cooked() -> None:
    plan = safety_plan(chicken_and_salad().build(), rule_profile("us-home"))

    first = washed_between(plan, LEARNERS)[0]
    assert first == Between("chop", after=True, hands=True, kit=("board", "knife"))


def test_raw_work_after_the_salad_is_washed_away_behind_it_and_nothing_before() -> None:
    plan = safety_plan(chicken_and_salad().build(), rule_profile("us-home"))
    by_id = {step.id: step for step in plan.process.steps}
    order = [by_id[name] for name in ("cress", "chop", "fry", "serve")]

    rows = washed_between(plan, LEARNERS, order)
    assert [(row.step, row.after) for row in rows] == [("chop", True), ("fry", True)]
    assert rows[1] == Between("fry", after=True, hands=True, kit=()), "it goes into the pan by hand"


def test_a_recipe_robbed_of_its_washes_is_asked_for_them() -> None:
    process = koftas().process
    kept = tuple(step for step in process.steps if step.do not in ("wash_hands", "clean"))
    robbed = tuple(replace(step, after=tuple(n for n in step.after if n in {row.id for row in kept})) for step in kept)
    plan = safety_plan(replace(process, steps=robbed), rule_profile("us-home"))

    rows = washed_between(plan, LEARNERS)
    assert any(row.hands for row in rows)
    assert {"bowl", "board"} & {name for row in rows for name in row.kit}, "what held the raw turkey"
    assert "tongs" in {name for row in rows for name in row.kit}


def test_who_cooks_nothing_raw_washes_nothing_in_between() -> None:
    fruit = a_process().step("cut", "apple", tools="board knife", hands="AK").step("serve", "apple").serve("apple")

    assert washed_between(safety_plan(process_from(fruit.data), rule_profile("uk")), LEARNERS) == ()

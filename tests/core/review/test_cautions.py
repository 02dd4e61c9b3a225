"""Cautions at the step they belong to."""

from typing import Any

import pytest

from foodsafety.foods import match_food
from foodsafety.review import caution_rules, find_cautions
from tests.builders import a_process

# --- cautions and the read-through ---


def said(process: Any, text: str) -> set[str]:
    built = process.build()
    return {caution.id for caution in find_cautions(built, {step.id: text for step in built.steps})}


@pytest.mark.parametrize(
    ("verb", "foods", "tools", "text", "caution"),
    [
        ("cut", "onion", "knife", "Slice the onion", "knife-claw"),
        ("cut", "tomato", "knife", "Halve the tomatoes", "knife-bridge"),
        ("clean", "", "blender", "Wash the blender", "blades-in-suds"),
        ("heat", "soup", "microwave", "Heat it", "foil-in-microwave"),
        ("heat", "tart", "oven", "Bake on baking paper", "waxed-paper-in-oven"),
        ("touch", "meat", "", "Thread onto skewers", "hidden-picks"),
        ("heat", "soup", "saucepan", "Simmer", "steam"),
        ("heat", "fish", "frying_pan", "Fry", "pan-handle"),
        ("heat", "fish", "griddle", "Griddle", "towel-near-flame"),
    ],
)
def test_a_caution_stands_at_the_step_it_belongs_to(verb: str, foods: str, tools: str, text: str, caution: str) -> None:
    assert caution in said(a_process().step(verb, foods, tools=tools), text)


def test_dry_chilli_in_a_hot_pan_and_hot_oil() -> None:
    process = (
        a_process()
        .food("chilli", kind="chilli_powder")
        .food("oil", kind="oil")
        .step("heat", "chilli oil", tools="frying_pan")
    )

    assert {"dry-chilli-hot-pan", "hot-oil"} <= said(process, "Toast the chilli")


def test_every_caution_has_a_condition() -> None:
    assert all(set(rule) - {"severity"} for rule in caution_rules().values())


# One step for each rule that must say it, and one that must not.
SAID = {
    "steam": ("heat", "soup", "pot", "Simmer"),
    "hot-oil": ("heat", "oil", "frying_pan", "Heat the oil"),
    "deep-oil": ("heat", "fish", "pot", "Deep-fry the fish"),
    "knife-claw": ("cut", "carrot", "knife", "Slice"),
    "knife-bridge": ("cut", "tomato", "knife", "Quarter the tomatoes"),
    "grater": ("grate", "carrot", "grater", "Grate"),
    "peeler": ("peel", "carrot", "peeler", "Peel"),
    "blades-in-suds": ("clean", "", "food_processor", "Wash up"),
    "blender-hot": ("mix", "soup", "blender", "Blend the hot soup"),
    "blender": ("mix", "soup", "blender", "Blend"),
    "foil-in-microwave": ("heat", "soup", "microwave", "Warm"),
    "waxed-paper-in-oven": ("heat", "biscuit", "oven", "Bake on a lined tray"),
    "oven-hot": ("heat", "pie", "oven", "Bake"),
    "hidden-picks": ("touch", "beef", "", "Thread onto skewers"),
    "dry-chilli-hot-pan": ("heat", "chilli_powder", "frying_pan", "Toast the chilli"),
    "chilli-on-skin": ("cut", "chilli", "knife", "Slice the chilli"),
    "pan-handle": ("heat", "fish", "saucepan", "Poach"),
    "towel-near-flame": ("heat", "fish", "griddle", "Griddle"),
    "open-fire": ("heat", "fish", "barbecue", "Grill"),
    "fire-on-shore": ("heat", "fish", "grill", "Grill over the fire"),
    "kidney-bean-boil": ("heat", "kidney_beans_dry", "pot", "Boil"),
    "raw-poultry-splash": ("rinse", "chicken", "sink", "Rinse the chicken"),
    "sugar-burn": ("heat", "sugar", "saucepan", "Boil the syrup"),
    "lid-lift": ("heat", "stew", "slow_cooker", "Cook on low"),
    "heavy-hot-pot": ("pour", "pasta", "pot", "Drain the hot pasta"),
}


def _cautions_at(do: str, food: str, tool: str, text: str) -> set[str]:
    process = a_process()
    if food and match_food(food.replace("_", " ")):
        process.food(food, kind=food)
    process.step(do, food, tools=tool)
    built = process.build()
    return {caution.id for caution in find_cautions(built, {step.id: text for step in built.steps})}


def test_every_caution_has_a_step_here_that_must_say_it() -> None:
    assert set(SAID) == set(caution_rules())


@pytest.mark.parametrize("rule", SAID)
def test_a_caution_is_said_where_it_belongs(rule: str) -> None:
    assert rule in _cautions_at(*SAID[rule])


@pytest.mark.parametrize("rule", SAID)
def test_and_not_at_a_step_that_has_nothing_of_it(rule: str) -> None:
    assert rule not in _cautions_at("rest", "bread", "counter", "Leave it alone")

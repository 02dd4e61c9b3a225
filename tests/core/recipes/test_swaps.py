"""Swaps: another food, its soils, its limit."""

import pytest

from foodsafety.foods import food_kind, food_kinds
from foodsafety.lesson import safety_plan
from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    process_from,
    read_ingredient,
    swap,
    swapped_ingredient,
    swapped_process,
    swaps_for,
    time_factor,
    without_line,
)
from foodsafety.review import not_for
from foodsafety.rules import rule_profile
from tests.builders import a_process, demo_recipe

# --- swaps ---


def test_every_swap_changes_a_food_for_another_known_one() -> None:
    for kind in food_kinds():
        for row in swaps_for(kind):
            assert row.to != kind.id


def test_a_swap_brings_the_new_foods_soils_allergens_and_limit() -> None:
    recipe = demo_recipe("turkey-koftas")
    swapped = process_from(swapped_process(recipe["process"], 0, swap("lamb-mince")))

    plan = safety_plan(swapped, rule_profile("us-home"))

    assert swapped.foods["turkey"].soils == {"raw_meat"}
    assert plan.core_control("koftas").limit.value == 160


def test_a_swap_never_changes_the_limit_of_the_same_food() -> None:
    assert time_factor(2.0, 4.0) == 4.0
    assert rule_profile("us-home").cook["poultry"].main.temperature.value == 165


@pytest.mark.parametrize(
    ("line", "name", "low", "unit"),
    [
        ("3 tbsp chopped parsley", "dried-for-fresh-herb", 1.49, "g"),
        ("2 eggs", "pasteurised-egg", 100, "g"),
        ("100 g butter", "oil-for-butter", 80, "g"),
        ("250 ml milk", "oat-milk", 250, "ml"),
    ],
)
def test_a_swapped_line_has_the_amount_of_the_new_food(line: str, name: str, low: float, unit: str) -> None:
    new = swapped_ingredient(read_ingredient(line, "en-GB"), swap(name), "en-GB")

    assert (new.low, new.unit) == (pytest.approx(low, rel=0.01), unit)


def test_leaving_out_takes_the_food_from_every_step() -> None:
    left = process_from(without_line(demo_recipe("turkey-koftas")["process"], 7))

    assert "mint" not in left.foods
    assert all("mint" not in step.foods for step in left.steps)


def test_a_dish_cannot_lose_what_it_is_made_of() -> None:
    with pytest.raises(CoreError, match="nothing left to do"):
        without_line(
            a_process().food("egg", kind="egg").step("mix", "egg", makes="wash").serve("wash").data
            | {"foods": {"egg": {"kind": "egg", "line": 0}}},
            0,
        )


@pytest.mark.parametrize(
    ("name", "free_of"),
    [
        ("oat-milk", "milk"),
        ("soya-milk", "milk"),
        ("coconut-cream", "milk"),
        ("coconut-yoghurt", "milk"),
        ("plant-cheese", "milk"),
        ("seeds-for-nuts", "tree_nuts"),
        ("gluten-free-flour", "gluten"),
        ("corn-tortillas", "wheat"),
        ("rice-for-barley", "gluten"),
        ("tamari", "wheat"),
        ("egg-free-mayonnaise", "egg"),
    ],
)
def test_a_swap_is_free_of_what_it_is_for(name: str, free_of: str) -> None:
    assert free_of not in swap(name).allergens


def test_a_swap_into_the_very_allergen_is_not_offered() -> None:
    process = a_process().food("butter", kind="almond").step("mix", "butter", makes="dish").serve("dish").build()

    [row] = not_for(process, [], ["tree_nuts"])

    assert {"ground-nuts", "seeds-for-nuts"} <= {found.id for found in swaps_for(food_kind("almond"))}
    assert row.swaps == ("seeds-for-nuts",)

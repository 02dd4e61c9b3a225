"""Who may not eat what, and why."""

from typing import Any

import pytest

from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    process_from,
    swap,
)
from foodsafety.review import not_for
from foodsafety.rules import House
from tests.builders import a_process, demo_recipe

ALL = ["pregnant", "under_5", "under_1", "over_65", "weakened"]


# --- eaters ---


def rules_for(name: str, groups: list[str], allergens: tuple[str, ...] = (), **house: Any) -> set[tuple[str, str]]:
    process = process_from(demo_recipe(name)["process"])
    return {(row.rule, row.food) for row in not_for(process, groups, allergens, House(**house))}


def test_honey_is_not_for_anyone_under_one() -> None:
    assert ("honey", "honey") in rules_for("berry-bark", ["under_1"])
    assert ("honey", "honey") not in rules_for("berry-bark", ["over_65"])


def test_whole_nuts_are_not_for_the_under_fives() -> None:
    assert ("whole-nuts", "pistachios") not in rules_for("berry-bark", ["pregnant"])


def test_an_egg_baked_firm_is_for_everybody_and_a_runny_one_is_not() -> None:
    assert not {rule for rule, _ in rules_for("custard-tart", ALL)} & {"raw-egg", "runny-egg"}
    assert ("runny-egg", "eggs") in rules_for("custard-tart", ALL, eggs="assured_runny")


def test_raw_egg_in_what_is_served_names_the_swap() -> None:
    process = (
        a_process().food("egg", kind="egg").food("oil", kind="oil").step("mix", "egg oil", makes="mayo").serve("mayo")
    )

    [row] = [row for row in not_for(process.build(), ["pregnant"], ()) if row.rule == "raw-egg"]

    assert row.swaps == ("pasteurised-egg",)


def test_an_allergy_names_the_food_and_swaps_free_of_it() -> None:
    process = process_from(demo_recipe("turkey-koftas")["process"])

    [row] = [row for row in not_for(process, [], ["milk"]) if row.rule == "allergen"]

    assert (row.food, row.served) == ("yoghurt", "raita")
    assert all("milk" not in swap(name).allergens for name in row.swaps)
    assert row.swaps


def test_an_unknown_food_is_never_free_of_an_allergen() -> None:
    process = a_process().food("moonrock", "unknown").step("mix", "moonrock", makes="dish").serve("dish").build()

    assert [row.rule for row in not_for(process, [], ["peanut"])] == ["unknown-food"]


def test_an_unknown_group_of_eaters_is_named() -> None:
    with pytest.raises(CoreError, match="martians"):
        not_for(a_process().step("mix", "a").build(), ["martians"], ())


# --- who eats ---

HEATED, RAW = True, False


def _dish(kind: str, heated: bool, *, cut: bool = False):
    process = a_process().food("it", kind=kind).food("bread", kind="bread")
    if cut:
        process.step("cut", "it", tools="knife")
    if heated:
        process.step("heat", "it", tools="pan")
    return process.step("mix", "it bread", makes="dish").serve("dish").build()


@pytest.mark.parametrize(
    ("kind", "heated", "group", "rule"),
    [
        ("egg", RAW, "pregnant", "raw-egg"),
        ("egg", HEATED, "pregnant", None),
        ("beef", RAW, "over_65", "raw-meat"),
        ("beef", HEATED, "over_65", None),
        ("chicken", RAW, "under_5", "raw-poultry"),
        ("salmon", RAW, "weakened", "raw-fish"),
        ("oysters", RAW, "pregnant", "raw-shellfish"),
        ("flour", RAW, "under_5", "raw-flour"),
        ("beansprouts", RAW, "pregnant", "raw-sprouts"),
        ("beansprouts", HEATED, "pregnant", None),
        ("raw_milk", RAW, "under_5", "unpasteurised"),
        ("raw_milk", HEATED, "under_5", None),
        ("brie", RAW, "pregnant", "mould-ripened-cheese"),
        ("brie", HEATED, "pregnant", None),
        ("cheese", RAW, "pregnant", None),
        ("honey", HEATED, "under_1", "honey"),
        ("honey", HEATED, "under_5", None),
        ("smoked_salmon", RAW, "pregnant", "listeria-ready-to-eat"),
        ("liver", HEATED, "pregnant", "liver"),
        ("frozen_berries", RAW, "over_65", "frozen-berries"),
        ("frozen_berries", HEATED, "over_65", None),
        ("tuna_steak", HEATED, "pregnant", "high-mercury-fish"),
    ],
)
def test_what_is_not_for_whom(kind: str, heated: bool, group: str, rule: str | None) -> None:
    found = {row.rule for row in not_for(_dish(kind, heated), [group], ())}

    assert found == ({rule} if rule else set())


def test_whole_nuts_are_chopped_for_the_small() -> None:
    assert {row.rule for row in not_for(_dish("almond", RAW), ["under_5"], ())} == {"whole-nuts"}
    assert not not_for(_dish("almond", RAW, cut=True), ["under_5"], ())


def test_cutting_up_what_nuts_are_in_does_not_chop_them() -> None:
    process = a_process().food("it", kind="almond").step("mix", "it", makes="bark").step("cut", "bark").serve("bark")

    assert [row.rule for row in not_for(process.build(), ["under_5"], ())] == ["whole-nuts"]


def test_no_cut_we_can_see_quarters_a_grape() -> None:
    assert {row.rule for row in not_for(_dish("grape", RAW, cut=True), ["under_5"], ())} == {"whole-grapes"}


def test_what_is_partly_cooked_is_still_partly_raw() -> None:
    process = a_process().food("it", kind="egg").step("mix", "it", makes="mayo").step("heat", "it", tools="pan")

    assert {row.rule for row in not_for(process.serve("mayo", "it").build(), ["pregnant"], ())} == {"raw-egg"}

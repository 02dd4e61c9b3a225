"""Swaps, eaters, costs, cautions, the read-through and local limits, on the hostel's own recipes."""

import datetime as dt
import json
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.cooking import Probing, cook_verdict
from foodsafety.foods import allergen_sets, allergens_for, food_kind, food_kinds
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
from foodsafety.review import Price, bulk_saving, caution_rules, find_cautions, not_for, recipe_cost, review_recipe
from foodsafety.rules import House, LocalChange, changeable_limits, local_profile, profile_ids, rule_profile
from foodsafety.shelf import use_by
from tests.builders import a_process

DEMOS = Path(__file__).resolve().parents[2] / "src/bulwark/recipes/demo"
ALL = ["pregnant", "under_5", "under_1", "over_65", "weakened"]


def demo(name: str) -> dict[str, Any]:
    return json.loads((DEMOS / f"{name}.json").read_text(encoding="utf-8"))


@pytest.mark.parametrize("path", sorted(DEMOS.glob("*.json")), ids=lambda path: path.stem)
@pytest.mark.parametrize("code", profile_ids())
def test_every_demo_recipe_stands_up_to_every_profile(path: Path, code: str) -> None:
    process = process_from(demo(path.stem)["process"])

    assert not find_contamination(process, House())
    plan = safety_plan(process, rule_profile(code))
    assert {"fridge", "hands-arrive", "out", "label"} <= {control.id for control in plan.controls}


def test_the_nine_recipes_have_nine_hazard_patterns() -> None:
    patterns = set()
    for path in DEMOS.glob("*.json"):
        process = process_from(demo(path.stem)["process"])
        plan = safety_plan(process, rule_profile("us-home"))
        soils = frozenset(soil for food in process.foods.values() for soil in food.soils)
        patterns.add((soils, tuple(control.rule for control in plan.controls)))

    assert len(patterns) == 9


# --- swaps ---


def test_every_swap_changes_a_food_for_another_known_one() -> None:
    for kind in food_kinds():
        for row in swaps_for(kind):
            assert row.to != kind.id


def test_a_swap_brings_the_new_foods_soils_allergens_and_limit() -> None:
    recipe = demo("turkey-koftas")
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
    left = process_from(without_line(demo("turkey-koftas")["process"], 7))

    assert "mint" not in left.foods
    assert all("mint" not in step.foods for step in left.steps)


def test_a_dish_cannot_lose_what_it_is_made_of() -> None:
    with pytest.raises(CoreError, match="nothing to work on"):
        without_line(
            a_process().food("egg", kind="egg").step("mix", "egg", makes="wash").serve("wash").data
            | {"foods": {"egg": {"kind": "egg", "line": 0}}},
            0,
        )


# --- eaters ---


def rules_for(name: str, groups: list[str], allergens: tuple[str, ...] = (), **house: Any) -> set[tuple[str, str]]:
    process = process_from(demo(name)["process"])
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
    process = process_from(demo("turkey-koftas")["process"])

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


@pytest.mark.parametrize(("place", "count"), [("us", 9), ("uk-eu", 14)])
def test_allergen_sets_have_as_many_as_the_law_names(place: str, count: int) -> None:
    assert len(allergen_sets()[place].members) == count


@pytest.mark.parametrize(
    ("code", "kind", "named"),
    [
        ("us-home", "celery", set()),
        ("uk", "celery", {"celery"}),
        ("uk", "flour", {"gluten"}),
        ("us-home", "flour", {"wheat"}),
        ("canada", "mustard", {"mustard"}),
        ("us-home", "oysters", set()),
    ],
)
def test_what_must_be_named_depends_on_the_place(code: str, kind: str, named: set[str]) -> None:
    assert set(allergens_for(profile_id=code).named(food_kind(kind).allergens)) == named


# --- costs ---

PRICES = {
    "turkey_mince": Price(kind="turkey_mince", amount=Decimal("7.00"), per="kg", on=dt.date(2026, 11, 1)),
    "egg": Price(kind="egg", amount=Decimal("0.30"), per="each", on=dt.date(2026, 11, 1)),
    "milk": Price(kind="milk", amount=Decimal("1.20"), per="l", on=dt.date(2026, 11, 1)),
}


def test_a_batch_costs_what_its_lines_cost() -> None:
    cost = recipe_cost(
        [read_ingredient(t, "en-GB") for t in ("500 g turkey mince", "2 eggs", "250 ml milk", "1 l water")],
        PRICES,
        "en-GB",
    )

    assert (cost.total, cost.complete) == (Decimal("4.40"), True)
    assert cost.per(4) == Decimal("1.10")


@pytest.mark.parametrize(
    ("line", "why"), [("1 onion", "no-price"), ("milk, to serve", "no-amount"), ("1 jug milk", "no-weight")]
)
def test_a_line_without_a_cost_is_never_free(line: str, why: str) -> None:
    cost = recipe_cost([read_ingredient(line, "en-GB")], PRICES, "en-GB")

    if why == "no-weight":
        assert not cost.complete
    else:
        assert (cost.complete, cost.lines[0].cost, cost.lines[0].why) == (False, None, why)


def test_bulk_pays_only_as_far_as_the_freezer_keeps() -> None:
    found = bulk_saving(PRICES["turkey_mince"], pack=10, pack_price=Decimal(50), used_per_month=2)

    assert (found.saves, found.keeps_months, found.most, found.too_much) == (Decimal(2), 3, 6, True)


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


def test_a_read_through_counts_what_all_benches_need_and_what_is_lacking() -> None:
    recipe = demo("turkey-koftas")
    read = review_recipe(
        process_from(recipe["process"]), recipe["process"]["steps"], named=allergens_for(profile_id="uk"),
        profile=rule_profile("uk"), house=House(), benches=4, equipment={"grater": 3, "bowl": 40},
    )  # fmt: skip

    needs = {need.kind: need for need in read.needs}
    assert (needs["grater"].all, needs["grater"].lacking) == (4, 1)
    assert needs["bowl"].lacking == 0
    assert needs["tongs"].have is None
    assert {"hob_ring"} == {need.kind for need in read.sources}
    assert set(read.allergens) == {"gluten", "milk"}
    assert read.path_min <= read.active_min + read.waiting_min


def ends_of(process: Any) -> dict[tuple[str, str], str | None]:
    built = process.build()
    rows = [{"id": step.id, "minutes": 1} for step in built.steps]
    read = review_recipe(built, rows, named=allergens_for(), profile=rule_profile("uk"), house=House())
    return {(row.food, row.hazard): row.ends for row in read.hazards if row.soil}


def test_a_hazard_is_ended_only_by_what_ends_it() -> None:
    process = a_process().food("leek", kind="leek").food("moonrock", "unknown").food("salad", kind="lettuce")
    process.step("rinse", "leek", id="wash").step("heat", "leek moonrock", tools="pan", id="fry", makes="pan1")
    ends = ends_of(process.serve("pan1", "salad"))

    assert ends[("leek", "unwashed_produce")] == "wash"
    assert ends[("moonrock", "unknown")] is None
    assert ends[("salad", "unwashed_produce")] is None


def test_a_hazard_of_which_a_part_goes_another_way_is_not_ended() -> None:
    process = a_process().food("egg", kind="egg").step("mix", "egg", makes="mayo").step("heat", "egg", tools="pan")

    assert ends_of(process.serve("mayo", "egg")) == {("egg", "raw_egg"): None}


def test_what_can_be_done_ahead_says_where_it_is_kept() -> None:
    recipe = demo("custard-tart")
    read = review_recipe(
        process_from(recipe["process"]),
        recipe["process"]["steps"],
        named=allergens_for(),
        profile=rule_profile("uk"),
        house=House(),
    )

    assert {(row.step, row.place) for row in read.ahead} == {("cool", "out"), ("chill", "fridge")}


# --- local limits ---


def change(path: str, value: float, **more: Any) -> LocalChange:
    return LocalChange(
        **{
            "path": path,
            "value": value,
            "by": "RK",
            "on": dt.date(2026, 11, 1),
            "reason": "the inspector asked",
            **more,
        }
    )


@pytest.mark.parametrize(
    ("path", "value", "weaker"),
    [
        ("cook.poultry.temperature", 170, False),
        ("cook.poultry.temperature", 160, True),
        ("cook.whole_muscle.rest_s", 60, True),
        ("hold.cold.temperature", 45, True),
        ("hold.cold.temperature", 38, False),
        ("hold.hot.temperature", 150, False),
        ("clock.hot.limit_s", 3600, False),
        ("clock.hot.limit_s", 14400, True),
        ("dates.leftover_min_s", 86400, False),
        ("hands.scrub_s", 10, True),
        ("probe.pieces", 3, False),
    ],
)
def test_a_local_limit_is_flagged_where_it_is_weaker(path: str, value: float, weaker: bool) -> None:
    local = local_profile("us-home", [change(path, value)])

    assert (path in local.weaker) is weaker


def test_a_local_profile_changes_its_copy_and_never_the_base() -> None:
    before = rule_profile("us-home").cook["poultry"].main.temperature.value
    local = local_profile("us-home", [change("cook.poultry.temperature", 170)])

    assert local.cook["poultry"].main.temperature.value == 170
    assert rule_profile("us-home").cook["poultry"].main.temperature.value == before
    assert local_profile("us-home", []).changes == ()


@pytest.mark.parametrize(
    ("bad", "field"),
    [
        (change("cook.poultry.unit", 1), r"cook\.poultry\.unit"),
        (change("cook.dragon.temperature", 70), r"cook\.dragon"),
        (change("hands.scrub_s", -1), r"hands\.scrub_s"),
        (change("cook.poultry.temperature", 500), r"cook\.poultry"),
        (change("probe.pieces", 0), r"probe\.pieces"),
        (change("hands.scrub_s", 30, reason=" "), "say who"),
        (change("hands.scrub_s", 30, by=""), "say who"),
    ],
)
def test_a_local_limit_that_cannot_be_is_named(bad: LocalChange, field: str) -> None:
    with pytest.raises(CoreError, match=field):
        local_profile("us-home", [bad])


@pytest.mark.parametrize("code", profile_ids())
def test_every_figure_that_can_change_can_be_set_to_itself(code: str) -> None:
    same = [change(path, value) for path, value in changeable_limits(code).items() if value > 0]

    assert local_profile(code, same).weaker == frozenset()


# food class: us-foodservice, canada, anz as (value, unit, hold_s, rest_s)
COOK = {
    "poultry": ((165, "F", 0, 0), (74, "C", 0, 0), (75, "C", 0, 0)),
    "poultry_whole": ((165, "F", 0, 0), (82, "C", 0, 0), (75, "C", 0, 0)),
    "ground_meat": ((155, "F", 17, 0), (71, "C", 0, 0), (75, "C", 0, 0)),
    "whole_muscle": ((145, "F", 15, 0), (63, "C", 0, 0), (63, "C", 0, 180)),
    "whole_pork": ((145, "F", 15, 0), (71, "C", 0, 0), (70, "C", 0, 0)),
    "fish": ((145, "F", 15, 0), (70, "C", 0, 0), (63, "C", 0, 0)),
    "egg_dish": ((155, "F", 17, 0), (74, "C", 0, 0), (75, "C", 0, 0)),
    "reheat": ((165, "F", 15, 0), (74, "C", 0, 0), (75, "C", 0, 0)),
}


@pytest.mark.parametrize("food_class", COOK)
@pytest.mark.parametrize(("place", "code"), [(0, "us-foodservice"), (1, "canada"), (2, "anz")])
def test_a_cooking_limit_is_the_one_in_the_reference(food_class: str, place: int, code: str) -> None:
    row = rule_profile(code).cook[food_class]

    temperature = row.main.temperature
    assert (temperature.value, temperature.unit, row.main.hold_s, row.rest_s) == COOK[food_class][place]


@pytest.mark.parametrize(
    ("readings", "status"),
    [
        ([(0, 70.0)], "reached"),
        ([(0, 68.4), (10, 68.4)], "hold"),
        ([(0, 68.4), (17, 68.4)], "reached"),
        ([(0, 62.8), (180, 62.8)], "reached"),
        ([(0, 62.7), (180, 62.7)], "below"),
    ],
    ids=["158 F at once", "155 F too short", "155 F for 17 s", "145 F for 3 min", "below 145 F"],
)
def test_food_service_ground_meat_has_four_ways(readings: list, status: str) -> None:
    rules = rule_profile("us-foodservice")
    probings = [Probing(piece=str(i), at_s=at_s, core_c=core_c) for at_s, core_c in readings for i in range(3)]

    verdict = cook_verdict(probings, rules.cook["ground_meat"], rules, now_s=readings[-1][0])

    assert verdict.status == status


def test_food_service_roasts_follow_the_whole_table() -> None:
    row = rule_profile("us-foodservice").cook["roast"]

    table = {hold.temperature.value: hold.hold_s / 60 for hold in row.alternatives}
    assert (table[130], table[140], table[145]) == (112, 12, 4)


def test_food_service_dates_count_the_day_it_was_made() -> None:
    made = dt.datetime(2026, 3, 2, 12, 0)

    assert use_by(
        "hard_cooked_eggs", rule_profile("us-foodservice"), made_at=made, place="fridge"
    ).use_by == made + dt.timedelta(days=6)


def test_a_kitchens_own_hand_washing_time_can_only_be_longer() -> None:
    process = process_from(demo("turkey-koftas")["process"])

    assert [safety_plan(process, rule_profile("uk"), House(scrub_s=s)).scrub_s for s in (0, 10, 30)] == [20, 20, 30]

"""Several dishes as one process."""

from __future__ import annotations

from itertools import combinations
from typing import Any

import pytest

from foodsafety.contamination import analyse
from foodsafety.lesson import safety_plan
from foodsafety.quantities import CoreError
from foodsafety.recipes import Dish, combined, dishes_in, only_dishes, process_from
from foodsafety.rules import House, rule_profile
from tests.builders import DEMOS, demo_recipe

NAMES = sorted(path.stem for path in DEMOS)


def dish(name: str, lines_before: int = 0) -> Dish:
    data = demo_recipe(name)
    return Dish(title=data["title"], process=data["process"], lines_before=lines_before)


def menu(*names: str) -> dict[str, Any]:
    return combined([dish(name) for name in names], "Serve everything").process


@pytest.mark.parametrize("pair", list(combinations(NAMES, 2)), ids=" and ".join)
def test_nothing_of_a_dish_is_lost_and_nothing_it_found_is_hidden(pair: tuple[str, str]) -> None:
    found = combined([dish(pair[0]), dish(pair[1], lines_before=20)], "Serve everything")
    whole = process_from(found.process)

    for name, names in zip(pair, found.names, strict=True):
        alone = process_from(demo_recipe(name)["process"])
        assert {names[food] for food in alone.foods} <= set(whole.foods)
        assert {names[food] for food in alone.serve} <= set(whole.serve)
        for step in alone.steps:
            if step.do != "serve":
                alike = [row for row in whole.steps if row.do == step.do and row.planned_s == step.planned_s]
                assert any({names[food] for food in step.foods} == set(row.foods) for row in alike), step
        soils = {(names[food.id], soil) for food in alone.foods.values() for soil in food.soils}
        assert soils <= {(food.id, soil) for food in whole.foods.values() for soil in food.soils}
        there = {(row.rule, row.soil, row.food) for row in analyse(whole, House()).findings}
        for row in analyse(alone, House()).findings:
            assert (row.rule, row.soil, names.get(row.food, row.food)) in there, row
    assert [step.do for step in whole.steps].count("serve") <= 1
    assert safety_plan(whole, rule_profile("us-home"), House()).controls


def test_each_dish_keeps_its_own_boards_and_shares_what_stands_in_the_kitchen() -> None:
    found = process_from(menu("turkey-koftas", "fish-pie"))
    kinds = [tool.kind for tool in found.tools.values()]

    assert kinds.count("oven") == 1
    assert kinds.count("probe") == 1
    assert kinds.count("board") == 3


def test_what_has_nothing_raw_comes_first_and_all_is_eaten_together_at_the_end() -> None:
    data = menu("turkey-koftas", "rice-salad")
    steps = process_from(data).steps
    serving = next(step for step in steps if step.do == "serve")

    assert set(serving.foods) >= {"koftas"}
    assert steps.index(serving) >= len(steps) - 3
    assert data["steps"][-1]["title"] == "Serve everything" or serving is not steps[-1]


def test_the_lines_of_the_second_dish_come_after_those_of_the_first() -> None:
    one, two = demo_recipe("fish-pie"), demo_recipe("turkey-koftas")
    found = combined([dish("fish-pie"), dish("turkey-koftas", len(one["ingredients"]))], "Serve everything")
    lines = {found.names[1][name]: row["line"] for name, row in two["process"]["foods"].items() if "line" in row}

    for name, line in lines.items():
        assert found.process["foods"][name]["line"] == line + len(one["ingredients"])


def test_what_a_dish_is_to_be_free_of_the_menu_keeps_it_free_of() -> None:
    salad = {**demo_recipe("rice-salad")["process"]}
    served = salad["serve"][0]
    salad["free_of"] = {served: ["milk"]}
    koftas = dish("turkey-koftas")
    for first, second in ((Dish(title="Salad", process=salad), koftas), (koftas, Dish(title="Salad", process=salad))):
        assert process_from(combined([first, second], "Serve").process).free_of == {served: frozenset({"milk"})}


def test_the_same_dish_twice_is_two_dishes() -> None:
    found = process_from(menu("turkey-koftas", "turkey-koftas"))

    assert {"koftas", "koftas (Turkey koftas with cucumber raita)"} <= set(found.serve)


@pytest.mark.parametrize("names", [(), ("fish-pie",), ("fish-pie",) * 5])
def test_a_menu_has_two_to_four_dishes(names: tuple[str, ...]) -> None:
    with pytest.raises(CoreError, match="menu of dishes"):
        menu(*names)


@pytest.mark.parametrize("pair", list(combinations(NAMES, 2)), ids=" and ".join)
def test_a_bench_that_cooks_one_dish_of_a_menu_does_what_its_recipe_says(pair: tuple[str, str]) -> None:
    whole = menu(*pair)
    assert set(dishes_in(whole)) == {demo_recipe(name)["title"] for name in pair}
    assert only_dishes(whole, ()) is whole

    for data in map(demo_recipe, pair):
        alone, own = process_from(only_dishes(whole, [data["title"]])), process_from(data["process"])
        done, written = ([step.do for step in one.steps if step.do != "serve"] for one in (alone, own))
        assert done == written
        for name in ("foods", "tools", "serve", "discarded"):
            assert len(getattr(alone, name)) == len(getattr(own, name)), name
        found, known = ({(row.rule, row.soil) for row in analyse(one, House()).findings} for one in (alone, own))
        assert found == known


def test_a_step_of_no_dish_is_every_benchs_and_one_without_anything_for_it_nobodys() -> None:
    whole = menu(*NAMES[:2])
    title, other = dishes_in(whole)
    food = next(name for name, row in whole["foods"].items() if row["dish"] == other)
    more = [
        {"id": "all wash", "do": "wash_hands", "hands": whole["people"][:1]},
        {"id": "look", "do": "touch", "foods": [food]},
    ]

    kept = [row["id"] for row in only_dishes({**whole, "steps": [*more, *whole["steps"]]}, [title])["steps"]]

    assert "all wash" in kept
    assert "look" not in kept


def one_dish_of(whole: dict[str, Any], title: str, *more: dict[str, Any]) -> tuple[set[str], set[str]]:
    """The foods and the steps that a bench with one dish has, of a menu whose steps somebody changed."""
    kept = only_dishes({**whole, "steps": [*whole["steps"][:-1], *more, whole["steps"][-1]]}, [title])
    return set(process_from(kept).foods), {str(row["id"]) for row in kept["steps"]}


def test_what_a_dish_borrows_from_another_since_somebody_changed_its_steps_is_there_with_how_it_is_made() -> None:
    whole = menu("turkey-koftas", "fish-pie")
    koftas, pie = (demo_recipe(name)["title"] for name in ("turkey-koftas", "fish-pie"))
    raw = next(name for name, row in whole["foods"].items() if row["dish"] == pie and "haddock" in name)
    sauce = next(row["makes"] for row in whole["steps"] if row.get("dish") == pie and row.get("makes"))
    borrows = {"id": "borrow", "do": "mix", "dish": koftas, "foods": [raw, sauce], "makes": "odd mix"}

    foods, steps = one_dish_of(whole, koftas, borrows)
    assert raw in foods
    assert {row["id"] for row in whole["steps"] if row.get("makes") == sauce} <= steps


def test_a_step_of_another_dish_that_takes_a_food_of_ours_along_is_ours_too() -> None:
    whole = menu("turkey-koftas", "fish-pie")
    koftas, pie = (demo_recipe(name)["title"] for name in ("turkey-koftas", "fish-pie"))
    raw = next(name for name, row in whole["foods"].items() if row["dish"] == koftas and "turkey" in name)

    _foods, steps = one_dish_of(whole, koftas, {"id": "bake too", "do": "heat", "dish": pie, "foods": [raw]})
    assert "bake too" in steps

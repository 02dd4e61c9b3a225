"""Limits, figure by figure against the project's reference."""

import datetime as dt

import pytest

from foodsafety.cooking import Probing, cook_verdict
from foodsafety.rules import rule_profile
from foodsafety.shelf import StoredFood, use_by

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

    stored = StoredFood(made_at=made, place="fridge")

    assert use_by("hard_cooked_eggs", rule_profile("us-foodservice"), stored).use_by == made + dt.timedelta(days=6)

"""Each shipped limit against the project's reference figures, row by row."""

import datetime as dt

import pytest

from foodsafety.quantities import CoreError, c_from_f
from foodsafety.rules import house_from, profile_ids, rule_profile

# food class: us-home (value, unit, hold_s, rest_s), uk (value, unit, hold_s, rest_s)
COOK = {
    "poultry": ((165, "F", 0, 0), (70, "C", 120, 0)),
    "poultry_whole": ((165, "F", 0, 0), (70, "C", 120, 0)),
    "ground_meat": ((160, "F", 0, 0), (70, "C", 120, 0)),
    "whole_muscle": ((145, "F", 0, 180), (70, "C", 120, 0)),
    "whole_pork": ((145, "F", 0, 180), (70, "C", 120, 0)),
    "roast": ((145, "F", 0, 180), (70, "C", 120, 0)),
    "fish": ((145, "F", 0, 0), (70, "C", 120, 0)),
    "egg_dish": ((160, "F", 0, 0), (70, "C", 120, 0)),
    "reheat": ((165, "F", 0, 0), (70, "C", 120, 0)),
    "precooked_meat": ((165, "F", 0, 0), (70, "C", 120, 0)),
}


@pytest.mark.parametrize("food_class", COOK)
@pytest.mark.parametrize(("place", "code"), [(0, "us-home"), (1, "uk")])
def test_a_cooking_limit_is_the_one_in_the_reference(food_class: str, place: int, code: str) -> None:
    row = rule_profile(code).cook[food_class]

    assert row.main is not None
    temperature = row.main.temperature
    assert (temperature.value, temperature.unit, row.main.hold_s, row.rest_s) == COOK[food_class][place]


@pytest.mark.parametrize("code", profile_ids())
def test_every_row_names_its_section_and_lies_in_a_plausible_range(code: str) -> None:
    rules = rule_profile(code)

    for row in rules.cook.values():
        assert row.section
        assert row.main is None or 57 <= row.main.temperature.c <= 83
    assert all(-20 <= hold.temperature.c <= 65 and hold.section for hold in rules.hold.values())
    assert all(1800 <= clock.limit_s <= 6 * 3600 and clock.section for clock in rules.clocks.values())


@pytest.mark.parametrize(("code", "cold", "hot"), [("us-home", (40, "F"), (140, "F")), ("uk", (5, "C"), (63, "C"))])
def test_holding_limits(code: str, cold: tuple[float, str], hot: tuple[float, str]) -> None:
    holds = rule_profile(code).hold

    assert (holds["cold"].temperature.value, holds["cold"].temperature.unit) == cold
    assert (holds["hot"].temperature.value, holds["hot"].temperature.unit) == hot


@pytest.mark.parametrize(
    ("ambient_c", "limit_s"),
    [(None, 7200), (20.0, 7200), (c_from_f(90), 7200), (c_from_f(90.5), 3600), (35.0, 3600)],
    ids=["not measured", "cool", "exactly 90 F", "above 90 F", "hot"],
)
def test_the_two_hour_clock_is_one_hour_above_90_f(ambient_c: float | None, limit_s: float) -> None:
    assert rule_profile("us-home").clock_for("hot", ambient_c).limit_s == limit_s


def test_uk_cold_display_has_four_hours_and_hot_has_two() -> None:
    rules = rule_profile("uk")

    assert rules.clock_for("cold", 35.0).limit_s == 4 * 3600
    assert rules.clock_for("hot", 35.0).limit_s == 2 * 3600


def test_uk_equivalents_are_the_published_table() -> None:
    rows = rule_profile("uk").cook["poultry"].equivalents

    assert [(row.temperature.value, row.hold_s) for row in rows] == [
        (60, 2700),
        (65, 600),
        (70, 120),
        (75, 30),
        (80, 6),
    ]


def test_uk_chills_from_63_to_8_in_ninety_minutes() -> None:
    [stage] = rule_profile("uk").cooling.stages

    assert (stage.start.value, stage.end.value, stage.within_s) == (63, 8, 5400)


@pytest.mark.parametrize(
    ("code", "category", "cap_s"),
    [("us-home", "cooked_dish", 3 * 86400), ("uk", "cooked_dish", 172800), ("uk", "cooked_rice", 86400)],
)
def test_the_date_mark_is_the_shorter_figure_of_a_range(code: str, category: str, cap_s: float) -> None:
    assert rule_profile(code).dates.cap_s(category) == cap_s


def test_a_profile_says_when_a_person_should_review_it() -> None:
    assert all(rule_profile(code).review_by > dt.date(2026, 11, 1) for code in profile_ids())


def test_an_unknown_profile_is_named_with_the_ones_there_are() -> None:
    with pytest.raises(CoreError, match="us-home"):
        rule_profile("mars")


def test_a_house_rule_with_an_unknown_value_is_named() -> None:
    with pytest.raises(CoreError, match=r"house\.boards"):
        house_from({"boards": "none"})

"""The schools where they differ, figure by figure against the project's reference."""

import datetime as dt

import pytest

from foodsafety.cooking import Probing, cook_verdict
from foodsafety.quantities import c_from_f
from foodsafety.rules import profile_ids, rule_profile
from foodsafety.shelf import StoredFood, use_by

# cold, hot, freezer as the source states them
HOLDS = {
    "us-home": ((40, "F"), (140, "F"), (0, "F")),
    "us-foodservice": ((41, "F"), (135, "F"), (0, "F")),
    "uk": ((5, "C"), (63, "C"), (-18, "C")),
    "canada": ((4, "C"), (60, "C"), (-18, "C")),
    "anz": ((5, "C"), (60, "C"), (-18, "C")),
}


# hot food out at 20 C, cold food out at 20 C, hot food out at 35 C, in hours
CLOCKS = {
    "us-home": (2, 2, 1),
    "us-foodservice": (4, 4, 4),
    "uk": (2, 4, 2),
    "canada": (2, 2, 1),
    "anz": (4, 4, 4),
}


# cooling stages: from, to, unit, hours
COOLING = {
    "us-home": [],
    "us-foodservice": [(135, 70, "F", 2), (135, 41, "F", 6)],
    "uk": [(63, 8, "C", 1.5)],
    "canada": [],
    "anz": [(60, 21, "C", 2), (21, 5, "C", 4)],
}


# a casserole made at noon on 2 March is used by: days after
LEFTOVERS = {"us-home": 3, "us-foodservice": 3, "uk": 2, "canada": 2, "anz": 2}


EDGE = [("us-foodservice", "poultry", 165, "F"), ("canada", "poultry_whole", 82, "C"), ("anz", "fish", 63, "C")]


def test_all_five_schools_are_here() -> None:
    assert set(profile_ids()) == set(HOLDS)


@pytest.mark.parametrize("code", HOLDS)
def test_holding_temperatures(code: str) -> None:
    holds = rule_profile(code).hold

    stated = tuple((holds[name].temperature.value, holds[name].temperature.unit) for name in ("cold", "hot", "freezer"))
    assert stated == HOLDS[code]


@pytest.mark.parametrize("code", CLOCKS)
def test_clocks_for_food_out_of_control(code: str) -> None:
    rules = rule_profile(code)

    hours = [rules.clock_for(kind, c).limit_s / 3600 for kind, c in (("hot", 20.0), ("cold", 20.0), ("hot", 35.0))]
    assert tuple(hours) == CLOCKS[code]


@pytest.mark.parametrize("code", COOLING)
def test_cooling_stages(code: str) -> None:
    stages = rule_profile(code).cooling.stages

    assert [(s.start.value, s.end.value, s.start.unit, s.within_s / 3600) for s in stages] == COOLING[code]


@pytest.mark.parametrize("code", LEFTOVERS)
def test_leftovers(code: str) -> None:
    made = dt.datetime(2026, 3, 2, 12, 0)

    found = use_by("casserole", rule_profile(code), StoredFood(made_at=made, place="fridge"))

    assert found.use_by == made + dt.timedelta(days=LEFTOVERS[code])


@pytest.mark.parametrize(
    ("category", "days"), [("hard_cooked_eggs", 6), ("yoghurt", 5), ("raw_ground", 1), ("bacon_opened", 6)]
)
def test_the_food_service_date_caps_what_is_ready_to_eat(category: str, days: int) -> None:
    made = dt.datetime(2026, 3, 2, 12, 0)

    found = use_by(category, rule_profile("us-foodservice"), StoredFood(made_at=made, place="fridge"))

    assert found.use_by == made + dt.timedelta(days=days)


@pytest.mark.parametrize("code", profile_ids())
def test_every_school_has_the_same_rows_or_says_it_has_none(code: str) -> None:
    rows = set(rule_profile("us-home").cook) - {"plant_hot"}

    assert rows <= set(rule_profile(code).cook)


@pytest.mark.parametrize(("code", "food_class", "value", "unit"), EDGE)
@pytest.mark.parametrize(("off", "status"), [(0.0, "reached"), (-0.05, "below")], ids=["at the limit", "just below"])
def test_a_limit_is_met_exactly_at_it(
    code: str, food_class: str, value: float, unit: str, off: float, status: str
) -> None:
    rules = rule_profile(code)
    core_c = (c_from_f(value) if unit == "F" else value) + off
    probings = [Probing(piece=str(i), at_s=0.0, core_c=core_c) for i in range(3)]

    assert cook_verdict(probings, rules.cook[food_class], rules, now_s=0.0).status == status


@pytest.mark.parametrize("code", profile_ids())
@pytest.mark.parametrize("food_class", ["poultry", "ground_meat", "egg_dish"])
def test_too_few_pieces_are_never_a_pass(code: str, food_class: str) -> None:
    rules = rule_profile(code)

    assert (
        cook_verdict([Probing(piece="1", at_s=0.0, core_c=95.0)], rules.cook[food_class], rules, now_s=9999).status
        != "reached"
    )

"""The table of carrier kinds, row by row against what must hold of it."""

import pytest

from foodsafety.foods import (
    carrier_kinds,
    cloth_kinds,
    heated_tool_kinds,
    shelf_kinds,
    shelves_below,
    soil_brought_by,
    soils,
    splashed_kinds,
    tool_effort_s,
    wash_cost,
)


def test_no_kind_is_two_things_that_exclude_each_other() -> None:
    assert not heated_tool_kinds() & cloth_kinds()
    assert not heated_tool_kinds() & carrier_kinds("boards")
    assert not cloth_kinds() & carrier_kinds("utensils")
    assert not shelf_kinds() & carrier_kinds("utensils")


def test_what_a_splash_reaches_and_what_stands_on_a_shelf_is_fixed_in_its_place() -> None:
    assert splashed_kinds() <= carrier_kinds("fixed")
    assert shelf_kinds() <= carrier_kinds("fixed")


@pytest.mark.parametrize("kind", ["phone", "hair", "face", "money", "mouth", "bin"])
def test_what_brings_a_soil_of_its_own_brings_one_we_know_and_is_bought_no_second_time(kind: str) -> None:
    assert soil_brought_by(kind) in soils()
    assert kind in carrier_kinds("fixed") | {"cough"}


def test_tongs_in_a_pan_are_not_cooked_clean() -> None:
    assert not heated_tool_kinds() & carrier_kinds("utensils")
    assert "probe" not in heated_tool_kinds()


def test_drip_falls_down_and_stays_in_its_cupboard() -> None:
    assert "bottom_shelf" in shelves_below("top_shelf")
    assert shelves_below("crisper") == frozenset()
    assert shelves_below("bottom_oven_shelf") == frozenset()
    assert not shelves_below("top_oven_shelf") & shelves_below("top_shelf")
    assert shelves_below("board") == frozenset()
    for kind in shelf_kinds():
        assert kind not in shelves_below(kind)
        assert all(shelves_below(lower) < shelves_below(kind) for lower in shelves_below(kind))


def test_hands_cost_the_profiles_scrub_and_more() -> None:
    assert wash_cost(None, scrub_s=20, sanitise=True, drying="air").seconds > 20
    longer = wash_cost(None, scrub_s=60, sanitise=True, drying="air").seconds
    assert longer - wash_cost(None, scrub_s=20, sanitise=True, drying="air").seconds == 40


@pytest.mark.parametrize("kind", ["board", "knife", "tongs", "bowl", "grater", "something new"])
def test_sanitising_costs_more_than_washing_and_every_cost_is_plausible(kind: str) -> None:
    plain = wash_cost(kind, scrub_s=20, sanitise=False, drying="air")
    full = wash_cost(kind, scrub_s=20, sanitise=True, drying="paper")

    assert 5 <= plain.seconds < full.seconds <= 300
    assert 0.2 <= plain.litres < full.litres <= 10


def test_a_second_tool_is_quicker_than_a_wash() -> None:
    assert (
        0
        < tool_effort_s("handover")
        <= tool_effort_s("fetch")
        < wash_cost("knife", scrub_s=0, sanitise=False, drying="air").seconds
    )

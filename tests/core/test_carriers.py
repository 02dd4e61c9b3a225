"""The table of carrier kinds, row by row against what must hold of it."""

import pytest

from foodsafety.carriers import (
    below,
    cloth_kinds,
    effort_s,
    heated_tool_kinds,
    kinds_of,
    shelf_kinds,
    soil_brought_by,
    splashed_kinds,
    wash_cost,
)
from foodsafety.foods import soils


def test_no_kind_is_two_things_that_exclude_each_other() -> None:
    assert not heated_tool_kinds() & cloth_kinds()
    assert not heated_tool_kinds() & kinds_of("boards")
    assert not cloth_kinds() & kinds_of("utensils")
    assert not shelf_kinds() & kinds_of("utensils")


def test_what_a_splash_reaches_and_what_stands_on_a_shelf_is_fixed_in_its_place() -> None:
    assert splashed_kinds() <= kinds_of("fixed")
    assert shelf_kinds() <= kinds_of("fixed")


@pytest.mark.parametrize("kind", ["phone", "hair", "face", "money", "mouth", "bin"])
def test_what_brings_a_soil_of_its_own_brings_one_we_know_and_is_bought_no_second_time(kind: str) -> None:
    assert soil_brought_by(kind) in soils()
    assert kind in kinds_of("fixed") | {"cough"}


def test_tongs_in_a_pan_are_not_cooked_clean() -> None:
    assert not heated_tool_kinds() & kinds_of("utensils")
    assert "probe" not in heated_tool_kinds()


def test_drip_falls_down_and_stays_in_its_cupboard() -> None:
    assert "bottom_shelf" in below("top_shelf")
    assert below("crisper") == frozenset()
    assert below("bottom_oven_shelf") == frozenset()
    assert not below("top_oven_shelf") & below("top_shelf")
    assert below("board") == frozenset()
    for kind in shelf_kinds():
        assert kind not in below(kind)
        assert all(below(lower) < below(kind) for lower in below(kind))


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
        < effort_s("handover")
        <= effort_s("fetch")
        < wash_cost("knife", scrub_s=0, sanitise=False, drying="air").seconds
    )

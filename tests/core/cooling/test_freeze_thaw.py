"""Freezing and thawing planned."""

import math

import pytest

from foodsafety.cooling import (
    FrozenPiece,
    freezing_course,
    judge_thaw,
    thawing_course,
)
from foodsafety.foods import Composition
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile

KOFTA = Composition(water=0.70, protein=0.20, fat=0.08, carbohydrate=0.01, fibre=0.0, ash=0.01)


HOME = rule_profile("us-home")


# --- freezing and thawing -----------------------------------------------------------------------------------------


def a_piece(half_m: float = 0.02) -> FrozenPiece:
    return FrozenPiece(shape="slab", size_m=(half_m,), composition=KOFTA)


def test_a_thinner_bag_freezes_sooner_and_a_wrap_costs_time() -> None:
    thin = freezing_course(a_piece(0.01), where="freezer", around_c=-22, start_c=5).reached_s or math.inf
    thick = freezing_course(a_piece(0.02), where="freezer", around_c=-22, start_c=5).reached_s or math.inf
    boxed = FrozenPiece(shape="slab", size_m=(0.01,), composition=KOFTA, covers=("air_gap_10mm",))

    assert thin < thick
    assert (freezing_course(boxed, where="freezer", around_c=-22, start_c=5).reached_s or math.inf) > thin


@pytest.mark.parametrize(
    ("method", "where", "around_c", "allowed", "why"),
    [
        ("fridge", "fridge", 4.0, True, ""),
        ("room", "room", 21.0, False, "room"),
        ("running_water", "tap_water", 21.0, True, ""),
        ("running_water", "tap_water", 22.0, False, "too_warm_water"),
    ],
)
def test_thawing_is_allowed_as_the_schools_say(
    method: str, where: str, around_c: float, allowed: bool, why: str
) -> None:
    course = thawing_course(a_piece(0.01), where=where, around_c=around_c)
    found = judge_thaw(course, HOME, method=method, around_c=around_c)  # type: ignore[arg-type]

    assert (found.allowed, found.why) == (allowed, why)


def test_a_thick_piece_in_water_is_warm_outside_for_too_long() -> None:
    course = thawing_course(a_piece(0.06), where="tap_water", around_c=20.0)

    assert judge_thaw(course, HOME, method="cold_water", around_c=20.0).why == "surface_too_long"


@pytest.mark.parametrize(
    ("call", "field"),
    [
        (lambda: freezing_course(a_piece(), where="freezer", around_c=-18, start_c=5), "around_c"),
        (lambda: thawing_course(a_piece(), where="fridge", around_c=4, start_c=2), "start_c"),
        (lambda: thawing_course(a_piece(), where="fridge", around_c=0), "around_c"),
    ],
)
def test_what_never_freezes_or_thaws_is_refused_by_name(call: object, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        call()  # type: ignore[operator]

    assert wrong.value.field == field

"""Cold without a fridge: how much ice a box needs, how long it lasts, the water a tap would give.

A balance of heat: walls, openings and warm food against what ice takes up. The spare is added to
what is needed, never taken from it. Raw and ready-to-eat food travel in boxes of their own.
"""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, finite, positive
from foodsafety.rules import Profile
from foodsafety.shelf import Clock, ClockVerdict, judge_clock

_AIR_J_L_K = 1.2
_FOOD_J_KG_K = 3600.0
_ICE_J_KG_K = 2000.0
_STEP_S = 300.0
# No box takes more food, and no more produce is washed by hand.
MOST_FOOD_KG = 100.0
MOST_PRODUCE_KG = 500.0
_MOST_HOURS = 96 * 1.6
_BEYOND = 1.6  # how much longer than asked a course is looked at


@cache
def _file() -> Mapping[str, Any]:
    return tomllib.loads(data_text("cool_box.toml"))


def cool_boxes() -> Mapping[str, Mapping[str, Any]]:
    """Every cool box by id, with its name, litres and W/K."""
    return dict(_file()["boxes"])


def cold_packs() -> Mapping[str, Mapping[str, Any]]:
    """What keeps a box cold, by id."""
    return dict(_file()["cold"])


def _row(table: Mapping[str, Mapping[str, Any]], name: str, field: str) -> Mapping[str, Any]:
    if name not in table:
        raise CoreError(field, "not_one_of", value=name, allowed=tuple(table))
    return table[name]


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxTrip:
    """What a box is asked to do: so many hours at an ambient temperature, with so much food [kg]
    that goes in at ``food_c`` and is to be kept at ``keep_c``. Raises CoreError where it is no
    warmer outside than inside is to be."""

    box: str
    cold: str
    ambient_c: float
    hours: float
    food_kg: float
    food_c: float
    keep_c: float
    openings: int

    def __post_init__(self) -> None:
        _row(_file()["boxes"], self.box, "box")
        _row(_file()["cold"], self.cold, "cold")
        finite(self.ambient_c, "ambient_c", low=-20, high=60)
        positive(self.hours, "hours")
        finite(self.hours, "hours", high=_MOST_HOURS)
        finite(self.food_kg, "food_kg", low=0, high=MOST_FOOD_KG)
        finite(self.food_c, "food_c", low=-30, high=100)
        finite(self.keep_c, "keep_c", low=-5, high=15)
        if not 0 <= self.openings <= 500:
            raise CoreError("openings", "outside", value=self.openings, low=0, high=500)
        if self.ambient_c <= self.keep_c:
            raise CoreError("ambient_c", "not_warmer_outside", ambient_c=self.ambient_c, keep_c=self.keep_c)

    @property
    def case(self) -> Mapping[str, Any]:
        """The box's own figures."""
        return cool_boxes()[self.box]

    @property
    def ice(self) -> Mapping[str, Any]:
        """The figures of what keeps it cold."""
        return cold_packs()[self.cold]

    @property
    def ice_kj_kg(self) -> float:
        """What a kilogram of it takes up [kJ], from where it starts."""
        return float(self.ice["kj_kg"] + _ICE_J_KG_K / 1000 * max(0.0, -self.ice["starts_c"]))

    def opening_j(self, inside_c: float) -> float:
        """What one opening lets in [J] at a temperature inside."""
        opening = _file()["opening"]
        air_j_k = self.case["litres"] * _AIR_J_L_K
        return float(air_j_k * (self.ambient_c - inside_c) * opening["air_changed"] * opening["damp"])


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxNeed:
    """What a box needs [kg], what takes up its room [l], and what the heat [kJ] is made of."""

    cold_kg: float
    walls_kj: float
    openings_kj: float
    food_kj: float
    room_needed_l: float
    room_l: float
    fits: bool
    food_fits_kg: float


def box_need(trip: BoxTrip) -> BoxNeed:
    """Ice or packs for a trip, the spare added."""
    walls_kj = trip.case["w_k"] * (trip.ambient_c - min(trip.keep_c, 0.0)) * trip.hours * 3.6
    openings_kj = trip.openings * trip.opening_j(trip.keep_c) / 1000
    food_kj = trip.food_kg * _FOOD_J_KG_K * max(0.0, trip.food_c - trip.keep_c) / 1000
    cold_kg = _file()["spare"]["ice"] * (walls_kj + openings_kj + food_kj) / trip.ice_kj_kg
    food_l_kg = _file()["spare"]["food_l_kg"]
    cold_l = cold_kg * trip.ice["litres_per_kg"]
    room_l = cold_l + trip.food_kg * food_l_kg
    return BoxNeed(
        cold_kg=cold_kg,
        walls_kj=walls_kj,
        openings_kj=openings_kj,
        food_kj=food_kj,
        room_needed_l=room_l,
        room_l=trip.case["litres"],
        fits=room_l <= trip.case["litres"],
        food_fits_kg=max(0.0, (trip.case["litres"] - cold_l) / food_l_kg),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxCourse:
    """The air in a box over time [(s, C)], when the cold is used up and when it passes the limit
    [s; None: not within the time asked]."""

    points: tuple[tuple[float, float], ...]
    melted_s: float | None
    warm_s: float | None


def box_course(trip: BoxTrip, *, cold_kg: float) -> BoxCourse:
    """How a box with so much cold in it goes: level while there is ice, then warming with what is
    in it. Openings are spread evenly."""
    finite(cold_kg, "cold_kg", low=0, high=100)
    left_j = cold_kg * 1000 * trip.ice_kj_kg
    capacity = max(1.0, trip.food_kg) * _FOOD_J_KG_K + trip.case["litres"] * _AIR_J_L_K + cold_kg * 4180
    temp, time_s, end_s = float(trip.food_c), 0.0, trip.hours * 3600
    openings_a_step = trip.openings * _STEP_S / end_s
    rows, melted_s, warm_s = [(0.0, temp)], None, None
    while time_s < end_s:
        inward = trip.case["w_k"] * (trip.ambient_c - temp) * _STEP_S
        inward += openings_a_step * max(0.0, trip.opening_j(temp))
        taken = 0.0
        if left_j > 0:
            # What the ice can take in a step: from the food and the air around it.
            taken = min(left_j, inward + capacity * (temp - 0.5) * (1 - math.exp(-_STEP_S / 3600)))
            left_j -= taken
            if left_j <= 0:
                melted_s = time_s + _STEP_S
        temp += (inward - taken) / capacity
        time_s += _STEP_S
        rows.append((time_s, temp))
        if warm_s is None and temp > trip.keep_c and (melted_s is not None or cold_kg == 0):
            warm_s = time_s
    return BoxCourse(points=tuple(rows), melted_s=melted_s, warm_s=warm_s)


@dataclass(frozen=True, slots=True, kw_only=True)
class FieldWater:
    """Water to carry where there is no tap [l]."""

    hands_l: float
    produce_l: float
    kit_l: float
    total_l: float


def field_water(*, people: int, washes_each: int, produce_kg: float) -> FieldWater:
    """Water for hands, produce and kit, with a quarter to spare. None of it is for drinking."""
    if not 1 <= people <= 500:
        raise CoreError("people", "outside", value=people, low=1, high=500)
    if not 1 <= washes_each <= 50:
        raise CoreError("washes_each", "outside", value=washes_each, low=1, high=50)
    finite(produce_kg, "produce_kg", low=0, high=MOST_PRODUCE_KG)
    water = _file()["water"]
    hands = people * washes_each * water["hand_wash_l"] * water["spare"]
    produce = produce_kg * water["produce_l_kg"] * water["spare"]
    kit = water["kit_l"] * water["spare"]
    return FieldWater(hands_l=hands, produce_l=produce, kit_l=kit, total_l=hands + produce + kit)


def eat_by(profile: Profile, *, out_before_s: float, ambient_c: float | None) -> ClockVerdict:
    """How long food that leaves the box may still be out, time before counted in, in this heat."""
    limit = profile.clock_for("cold", ambient_c)
    return judge_clock(Clock(spent_s=finite(out_before_s, "out_before_s", low=0)), limit, now_s=0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxPlan:
    """A box for a trip: what it needs, how it goes with and without the cold, and how long its food
    may be out after it."""

    standing: Literal["out_too_long", "food_too_warm", "too_much", "planned"]
    need: BoxNeed
    with_cold: BoxCourse
    without: BoxCourse
    eat: ClockVerdict


def plan_box(trip: BoxTrip, profile: Profile, *, out_before_s: float) -> BoxPlan:
    """A trip planned under a profile: the food must be cold when it goes in."""
    if trip.hours > 96:
        raise CoreError("hours", "above", value=trip.hours, high=96)
    need = box_need(trip)
    longer = replace(trip, hours=max(trip.hours * _BEYOND, 1.0))
    eat = eat_by(profile, out_before_s=out_before_s, ambient_c=trip.ambient_c)
    standing: Literal["out_too_long", "food_too_warm", "too_much", "planned"] = "planned"
    if eat.standing == "over":
        standing = "out_too_long"
    elif profile.hold["cold"].temperature.passed_by(trip.food_c):
        standing = "food_too_warm"
    elif not need.fits:
        standing = "too_much"
    return BoxPlan(
        standing=standing,
        need=need,
        with_cold=box_course(longer, cold_kg=need.cold_kg),
        without=box_course(longer, cold_kg=0.0),
        eat=eat,
    )

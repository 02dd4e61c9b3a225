"""Cold without a fridge: how much ice a box needs, how long it lasts, the water a tap would give.

A balance of heat: walls, openings and warm food against what ice takes up. The spare is added to
what is needed, never taken from it. Raw and ready-to-eat food travel in boxes of their own.
"""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, finite, positive
from foodsafety.rules import Profile
from foodsafety.shelf import Clock, ClockVerdict, judge_clock

_AIR_J_L_K = 1.2
_FOOD_J_KG_K = 3600.0
_ICE_J_KG_K = 2000.0
_SPARE = 1.3
_STEP_S = 300.0


@cache
def _file() -> Mapping[str, Any]:
    return tomllib.loads(data_text("cool_box.toml"))


def cool_boxes() -> Mapping[str, Mapping[str, Any]]:
    """Every cool box by id, with its name, litres and W/K."""
    return dict(_file()["boxes"])


def cold_packs() -> Mapping[str, Mapping[str, Any]]:
    """What keeps a box cold, by id."""
    return dict(_file()["cold"])


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


def _row(table: Mapping[str, Mapping[str, Any]], name: str, field: str) -> Mapping[str, Any]:
    if name not in table:
        raise CoreError(field, f"{name!r} is not one of {', '.join(table)}")
    return table[name]


def box_need(
    *,
    box: str,
    cold: str,
    ambient_c: float,
    hours: float,
    food_kg: float,
    food_c: float,
    keep_c: float,
    openings: int,
) -> BoxNeed:
    """Ice or packs for so many hours at an ambient temperature. Raises CoreError where it is no
    warmer outside than inside is to be."""
    case, ice = _row(_file()["boxes"], box, "box"), _row(_file()["cold"], cold, "cold")
    finite(ambient_c, "ambient_c", low=-20, high=60)
    positive(hours, "hours")
    finite(hours, "hours", high=96)
    finite(food_kg, "food_kg", low=0, high=100)
    finite(food_c, "food_c", low=-30, high=100)
    finite(keep_c, "keep_c", low=-5, high=15)
    if not 0 <= openings <= 500:
        raise CoreError("openings", f"{openings} is outside 0 to 500")
    if ambient_c <= keep_c:
        raise CoreError("ambient_c", f"{ambient_c:g} C outside is no warmer than the {keep_c:g} C to keep")
    walls_kj = case["w_k"] * (ambient_c - min(keep_c, 0.0)) * hours * 3.6
    opening = _file()["opening"]
    one_kj = case["litres"] * _AIR_J_L_K * (ambient_c - keep_c) * opening["air_changed"] * opening["damp"] / 1000
    food_kj = food_kg * _FOOD_J_KG_K * max(0.0, food_c - keep_c) / 1000
    total = walls_kj + openings * one_kj + food_kj
    cold_kg = _SPARE * total / (ice["kj_kg"] + _ICE_J_KG_K / 1000 * max(0.0, -ice["starts_c"]))
    room = cold_kg * ice["litres_per_kg"] + food_kg * 1.6
    left_l = case["litres"] - cold_kg * ice["litres_per_kg"]
    return BoxNeed(
        cold_kg=cold_kg,
        walls_kj=walls_kj,
        openings_kj=openings * one_kj,
        food_kj=food_kj,
        room_needed_l=room,
        room_l=case["litres"],
        fits=room <= case["litres"],
        food_fits_kg=max(0.0, left_l / 1.6),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxCourse:
    """The air in a box over time [(s, C)], when the cold is used up and when it passes the limit
    [s; None: not within the time asked]."""

    points: tuple[tuple[float, float], ...]
    melted_s: float | None
    warm_s: float | None


def box_course(
    *,
    box: str,
    cold: str,
    cold_kg: float,
    ambient_c: float,
    hours: float,
    food_kg: float,
    food_c: float,
    keep_c: float,
    openings: int,
) -> BoxCourse:
    """How a box with so much cold in it goes: level while there is ice, then warming with what is
    in it. Openings are spread evenly."""
    case, ice = _row(_file()["boxes"], box, "box"), _row(_file()["cold"], cold, "cold")
    finite(cold_kg, "cold_kg", low=0, high=100)
    opening = _file()["opening"]
    left_j = cold_kg * 1000 * (ice["kj_kg"] + _ICE_J_KG_K / 1000 * max(0.0, -ice["starts_c"]))
    capacity = max(1.0, food_kg) * _FOOD_J_KG_K + case["litres"] * _AIR_J_L_K + cold_kg * 4180
    temp, time_s, end_s = float(food_c), 0.0, hours * 3600
    rows, melted_s, warm_s = [(0.0, temp)], None, None
    hour_share = _STEP_S / end_s
    while time_s < end_s:
        inward = case["w_k"] * (ambient_c - temp) * _STEP_S
        one = case["litres"] * _AIR_J_L_K * (ambient_c - temp) * opening["air_changed"] * opening["damp"]
        inward += openings * hour_share * max(0.0, one)
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
        if warm_s is None and temp > keep_c and (melted_s is not None or cold_kg == 0):
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
        raise CoreError("people", f"{people} is outside 1 to 500")
    if not 1 <= washes_each <= 50:
        raise CoreError("washes_each", f"{washes_each} is outside 1 to 50")
    finite(produce_kg, "produce_kg", low=0, high=500)
    water = _file()["water"]
    hands = people * washes_each * water["hand_wash_l"] * water["spare"]
    produce = produce_kg * water["produce_l_kg"] * water["spare"]
    kit = water["kit_l"] * water["spare"]
    return FieldWater(hands_l=hands, produce_l=produce, kit_l=kit, total_l=hands + produce + kit)


def eat_by(profile: Profile, *, out_before_s: float, ambient_c: float | None) -> ClockVerdict:
    """How long food that leaves the box may still be out, time before counted in, in this heat."""
    limit = profile.clock_for("cold", ambient_c)
    return judge_clock(Clock(spent_s=finite(out_before_s, "out_before_s", low=0)), limit, now_s=0.0)

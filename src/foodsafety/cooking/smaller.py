"""How much sooner smaller or thinner pieces are cooked, by the heat model: a figure for planning, never proof."""

from __future__ import annotations

import math
from functools import lru_cache

from foodsafety.foods import Composition
from foodsafety.heat import Body, FoodProperties, Surroundings, conduct, environment
from foodsafety.quantities import CoreError, positive


@lru_cache(maxsize=256)
def time_of_smaller(
    grams: float, composition: Composition, *, oven_c: float, target_c: float, part: float, start_c: float
) -> float:
    """The share of its time in an oven that a piece of ``part`` of the weight [g] takes from ``start_c`` until its
    middle is at ``target_c`` [C]. Reckoned for balls, which of all shapes keep their middle longest from the heat, in
    still air (the low coefficient): the share is rather too large than too small. Raises CoreError for an oven that
    never brings it there."""
    positive(grams, "grams")
    whole, less = (_until_s(grams * share, composition, oven_c, target_c, start_c) for share in (1.0, part))
    return less / whole


@lru_cache(maxsize=256)
def time_of_thinner(cook_s: float, composition: Composition, *, target_c: float, part: float, start_c: float) -> float:
    """The share of its time in a hot pan that a flat piece of ``part`` of the height takes from ``start_c`` until its
    middle is at ``target_c`` [C]. How high it is as written nobody says: as high as the model has it, for it to take
    ``cook_s`` [s]. Reckoned as turned all the while, each face on the pan (the low coefficient) half of the time: the
    share is rather too large than too small, and never above ``part``. Raises CoreError for a time in which no piece
    of food between 1 mm and 20 cm gets there."""
    positive(cook_s, "cook_s")
    food = FoodProperties(composition)
    height_m = 0.015
    for _ in range(_MOST_LOOKS):
        took_s = _flat_s(height_m, food, target_c, start_c)
        if abs(took_s / cook_s - 1) < _NEAR:
            break
        height_m *= (cook_s / took_s) ** _POWER
        if not _FLATTEST_M < height_m < _HIGHEST_M:
            raise CoreError("cook_s", "never_reached", target_c=target_c, lowest=_FLATTEST_M, highest=_HIGHEST_M)
    # Rather a lower piece: heat gets through it more easily, so that the share is the larger.
    height_m *= 1 - 2 * _NEAR
    return _flat_s(height_m * part, food, target_c, start_c) / _flat_s(height_m, food, target_c, start_c)


_FLATTEST_M, _HIGHEST_M = 0.001, 0.2
# A height is near enough when its time is, by this share of it. Between a piece that resists inside (the time goes with
# the square of the height) and one that resists at its face (with the height itself).
_NEAR, _POWER, _MOST_LOOKS = 0.02, 0.65, 12


def _flat_s(height_m: float, food: FoodProperties, target_c: float, start_c: float) -> float:
    pan = environment("pan")
    course = conduct(
        Body(shape="slab", size_m=(height_m / 2,), h=pan.low_h / 2),
        food,
        t0_c=start_c,
        around=Surroundings(((0.0, pan.usual_c),)),
        until_centre_c=target_c,
    )
    return float(course.times_s[-1])


def _until_s(grams: float, composition: Composition, oven_c: float, target_c: float, start_c: float) -> float:
    food = FoodProperties(composition)
    _k, kg_m3, _cp = food.at(start_c)
    radius_m = (3 * grams / 1000 / kg_m3 / (4 * math.pi)) ** (1 / 3)
    course = conduct(
        Body(shape="sphere", size_m=(radius_m,), h=environment("oven").low_h),
        food,
        t0_c=start_c,
        around=Surroundings(((0.0, oven_c),)),
        until_centre_c=target_c,
    )
    return float(course.times_s[-1])

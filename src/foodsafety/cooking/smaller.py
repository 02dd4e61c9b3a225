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
    low_m, high_m = _FLATTEST_M, _HIGHEST_M
    if not _flat_s(low_m, food, target_c, start_c) < cook_s < _flat_s(high_m, food, target_c, start_c):
        raise CoreError("cook_s", "never_reached", target_c=target_c, lowest=_FLATTEST_M, highest=_HIGHEST_M)
    while high_m - low_m > _FLATTEST_M / 10:
        middle_m = (low_m + high_m) / 2
        if _flat_s(middle_m, food, target_c, start_c) < cook_s:
            low_m = middle_m
        else:
            high_m = middle_m
    # The lower piece of the two: heat gets through it more easily, so that the share is the larger.
    return _flat_s(low_m * part, food, target_c, start_c) / _flat_s(low_m, food, target_c, start_c)


_FLATTEST_M, _HIGHEST_M = 0.001, 0.2


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

"""How much sooner smaller pieces are cooked, by the heat model: a figure for planning, never proof."""

from __future__ import annotations

import math
from functools import lru_cache

from foodsafety.foods import Composition
from foodsafety.heat import Body, FoodProperties, Surroundings, conduct, environment
from foodsafety.quantities import positive


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

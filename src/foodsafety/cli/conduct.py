"""Topic ``conduct``: heat through a body of food."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from foodsafety.cli.input import an_object, optional
from foodsafety.heat import (
    LONGEST_S,
    SIZES,
    Body,
    ConstantProperties,
    FoodProperties,
    Surroundings,
    composition_from,
    conduct,
)
from foodsafety.quantities import CoreError, finite


def _number_list(value: object, field: str) -> tuple[float, ...]:
    rows = value if isinstance(value, list) else [value]
    return tuple(finite(row, f"{field}[{i}]") for i, row in enumerate(rows))


def _surroundings(value: object) -> Surroundings:
    if not isinstance(value, list):
        return Surroundings(((0.0, finite(value, "ambient_c", low=-273.15, high=1500)),))
    points = []
    for i, row in enumerate(value):
        if not isinstance(row, list) or len(row) != 2:
            raise CoreError(f"ambient_c[{i}]", "not_a_pair")
        at_c = finite(row[1], f"ambient_c[{i}][1]", low=-273.15, high=1500)
        points.append((finite(row[0], f"ambient_c[{i}][0]", low=-1e9, high=1e9), at_c))
    if not points:
        raise CoreError("ambient_c", "no_points")
    return Surroundings(tuple(sorted(points, key=lambda row: row[0])))


def _food(data: Mapping[str, Any]) -> ConstantProperties | FoodProperties:
    food, freezing = an_object(data.get("food") or {}), data.get("freezing")
    if "composition" in food:
        t_f_c = None if freezing is None else finite(an_object(freezing).get("t_f_c"), "freezing.t_f_c")
        return FoodProperties(composition_from(food["composition"]), t_f_c)
    if freezing is not None:
        raise CoreError("food.composition", "freezing_needs_composition")
    return ConstantProperties(**{name: finite(food.get(name), f"food.{name}") for name in ("k", "rho", "cp")})


def _body(data: Mapping[str, Any]) -> Body:
    shape = data.get("shape")
    if shape not in SIZES:
        raise CoreError("shape", "not_one_of", value=shape, allowed=tuple(SIZES))
    return Body(shape=shape, size_m=_number_list(data.get("size_m"), "size_m"), h=finite(data.get("h"), "h"))


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``conduct``."""
    course = conduct(
        _body(data),
        _food(data),
        t0_c=finite(data.get("t0_c"), "t0_c", low=-60, high=160),
        around=_surroundings(data.get("ambient_c")),
        until_s=optional(data, "until_s", high=LONGEST_S),
        until_centre_c=optional(data, "until_centre_c", low=-60, high=160),
    )
    return {
        "times_s": course.times_s.tolist(),
        "centre_c": course.centre_c.tolist(),
        "mean_c": course.mean_c.tolist(),
        "surface_c": course.surface_c.tolist(),
        "reached_s": course.reached_s,
    }

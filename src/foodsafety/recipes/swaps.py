"""Swaps: one food for another, and what that changes. The limit is never swapped: it comes with
the new food's row in the profile."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from foodsafety.data import data_text
from foodsafety.foods import FoodKind, Locale, food_kind
from foodsafety.quantities import CoreError, positive
from foodsafety.recipes.ingredients import Ingredient
from foodsafety.recipes.scaling import weight_g


@dataclass(frozen=True, slots=True, kw_only=True)
class Swap:
    """``ratio`` is how much of the new food for one of the old by weight [1], as (low, high);
    ``g_each`` [g] for one piece where the old is counted. ``family`` groups swaps for people."""

    id: str
    sources: tuple[str, ...]
    to: str
    ratio: tuple[float, float]
    g_each: float | None
    family: str

    def replaces(self, kind: FoodKind) -> bool:
        """True if this swap can stand in for a food kind."""
        return kind.id != self.to and (kind.id in self.sources or f"group:{kind.group}" in self.sources)

    @property
    def allergens(self) -> frozenset[str]:
        """What the new food brings."""
        return food_kind(self.to).allergens if self.to else frozenset()


@cache
def _table() -> Mapping[str, Swap]:
    rows = tomllib.loads(data_text("swaps.toml"))
    table = {
        key: Swap(
            id=key,
            sources=tuple(row["from"]),
            to=row["to"],
            ratio=(positive(row["ratio"][0], f"{key}.ratio"), positive(row["ratio"][1], f"{key}.ratio")),
            g_each=row.get("g_each"),
            family=row["kind"],
        )
        for key, row in rows.items()
    }
    for row in table.values():
        food_kind(row.to, f"swaps.toml {row.id}.to")
    return table


def swap(swap_id: str) -> Swap:
    """A swap by id. Raises CoreError for an unknown one."""
    if swap_id not in _table():
        raise CoreError("swap", "no_such_swap", swap=swap_id)
    return _table()[swap_id]


def swaps_for(kind: FoodKind) -> tuple[Swap, ...]:
    """Every swap that can stand in for a food kind."""
    return tuple(row for row in _table().values() if row.replaces(kind))


def swapped_ingredient(item: Ingredient, row: Swap, locale: Locale) -> Ingredient:
    """The line with the new food, by weight if what the old weighs is known, else in its own unit
    at the same ratio."""
    new = food_kind(row.to)
    low, high, unit = _swapped_amounts(item, row, locale)
    return replace(
        item,
        low=low,
        high=high,
        unit=unit,
        food=new.name,
        kind=new.id,
        allergens=tuple(sorted(new.allergens)),
        preparation="",
        doubts=(),
        each_amount=None,
        each_unit=None,
    )


def _swapped_amounts(item: Ingredient, row: Swap, locale: Locale) -> tuple[float | None, float | None, str | None]:
    low, high = row.ratio
    weight = weight_g(item, locale)
    if row.g_each and item.low is not None and item.high is not None and item.unit is None:
        return item.low * row.g_each, item.high * row.g_each, "g"
    if weight is not None and item.unit not in ("g", "kg", "oz", "lb") and low != 1:
        return weight * low, weight * high, "g"
    return item.low * low if item.low else item.low, item.high * high if item.high else item.high, item.unit


def swapped_process(process: Mapping[str, Any], line: int, row: Swap) -> dict[str, Any]:
    """The process with the food of an ingredient line replaced, ids unchanged. Raises CoreError if
    no food of the process is on that line."""
    hit = [name for name, food in process["foods"].items() if food.get("line") == line]
    if not hit:
        raise CoreError("ingredient", "no_food_on_line")
    new = {name: {"kind": row.to, "line": line} for name in hit}
    return {**process, "foods": {**process["foods"], **new}}


def without_line(process: Mapping[str, Any], line: int) -> dict[str, Any]:
    """The process with an ingredient left out everywhere. Raises CoreError if a step would be left
    with nothing to work on."""
    gone = {name for name, food in process["foods"].items() if food.get("line") == line}
    steps = []
    for step in process["steps"]:
        left = [name for name in step.get("foods", []) if name not in gone]
        if step.get("foods") and not left:
            if step.get("makes"):
                raise CoreError("ingredient", "nothing_left_to_do", step=step.get("title", step["id"]))
            continue
        steps.append({**step, "foods": left})
    kept = {step["id"] for step in steps}
    steps = [{**step, "after": [name for name in step.get("after", []) if name in kept]} for step in steps]
    foods = {name: food for name, food in process["foods"].items() if name not in gone}
    return {**process, "foods": foods, "steps": steps, "serve": [name for name in process["serve"] if name not in gone]}


def time_factor(old_thickness: float, new_thickness: float) -> float:
    """How heating and cooling times change with thickness, both in the same unit: with its square,
    as conduction goes (Fourier number). It says when to start checking, never when food is done."""
    return (positive(new_thickness, "new_thickness") / positive(old_thickness, "old_thickness")) ** 2

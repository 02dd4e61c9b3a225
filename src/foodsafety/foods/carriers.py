"""Kinds of carrier: how the things that soils ride on behave, and what washing one costs."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal

from foodsafety.data import data_text

CarrierGroup = Literal["mouths", "boards", "holding", "utensils", "machines", "fixed", "ovens"]


@cache
def _table() -> dict[str, Any]:
    return tomllib.loads(data_text("carriers.toml"))


@cache
def heated_tool_kinds() -> frozenset[str]:
    """Kinds of vessel that a heat step heats together with the food in it."""
    return frozenset(_table()["heated"])


@cache
def cloth_kinds() -> frozenset[str]:
    """Kinds of cloth: hands dried on one catch what it holds."""
    return frozenset(_table()["cloths"])


@cache
def splashed_kinds() -> frozenset[str]:
    """Kinds of place that the splash of rinsed raw meat reaches."""
    return frozenset(_table()["splashed"])


@cache
def carrier_kinds(group: CarrierGroup) -> frozenset[str]:
    """The kinds of one group of the table."""
    return frozenset(_table()["kinds"][group])


@cache
def shelves_below(kind: str) -> frozenset[str]:
    """The shelves that drip from a shelf falls on; none where it is no shelf."""
    for cupboard in _table()["shelves"]:
        levels = cupboard["levels"]
        if kind in levels:
            return frozenset(levels[levels.index(kind) + 1 :])
    return frozenset()


@cache
def shelf_kinds() -> frozenset[str]:
    """Kinds of shelf: food put on one stands there until it is taken up again."""
    return frozenset(level for cupboard in _table()["shelves"] for level in cupboard["levels"])


@cache
def soil_brought_by(tool_kind: str) -> str | None:
    """The soil that a kind of thing carries by nature (a phone, a bin), or None."""
    found = _table()["brings"].get(tool_kind)
    return str(found) if found else None


@dataclass(frozen=True, slots=True, kw_only=True)
class WashCost:
    """What one wash takes: seconds of somebody's time and litres of water."""

    seconds: float
    litres: float


def wash_cost(
    kind: str | None, *, scrub_s: float, sanitise: bool, drying: Literal["air", "paper", "clean_cloth"]
) -> WashCost:
    """The cost of washing hands (``kind`` None; ``scrub_s`` [s] is the profile's scrub) or a tool.
    Ours, for ranking ways to mend a process: see carriers.toml."""
    row = _table()["wash"]
    by_hand_s = 0.0 if drying == "air" else float(row[f"{drying}_s"])
    if kind is None:
        return WashCost(seconds=row["hands_s"] + scrub_s, litres=row["hands_l"])
    size = "large" if kind in row["large"] else "small"
    seconds, litres = row[f"{size}_s"] + by_hand_s, row[f"{size}_l"]
    if sanitise:
        seconds, litres = seconds + row["sanitise_s"], litres + row["sanitise_l"]
    return WashCost(seconds=seconds, litres=litres)


def raw_stands_at_most_s() -> float:
    """How long [s] an order that we offer may leave raw food standing that the recipe does not."""
    return float(_table()["order"]["raw_stands_s"])


def tool_effort_s(what: Literal["fetch", "handover"]) -> float:
    """What a small change costs [s]: fetching a tool, or handing a step to somebody else."""
    return float(_table()["wash"][f"{what}_s"])

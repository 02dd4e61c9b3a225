"""What a dish is kept as, by what it is made of and whether it was heated."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from functools import cache
from typing import Any

from foodsafety.data import data_text
from foodsafety.foods import FoodKind
from foodsafety.shelf.storage import storage_category

# What nobody knows more of is kept as a cooked dish: the row of leftovers.
UNKNOWN_DISH = "cooked_dish"


@cache
def _rows() -> tuple[Mapping[str, Any], ...]:
    rows = tomllib.loads(data_text("dishes.toml"))["dish"]
    return tuple({**row, "category": storage_category(row["category"], "dishes.toml").id} for row in rows)


def dish_categories(kinds: Iterable[FoodKind | None], *, cooked: bool) -> tuple[str, ...]:
    """Every storage category that a dish made of these foods falls under; the strictest date of them
    counts. Cooked food is a leftover, and whatever leftover its parts are; food eaten as it is keeps
    as long as its shortest-lived part. An unknown part (None) makes it an unknown dish besides."""
    parts = list(kinds)
    known = [kind for kind in parts if kind is not None]
    words = {word for kind in known for word in (kind.group, kind.id)}
    found = {row["category"] for row in _rows() if _fits(row, words, cooked=cooked)}
    own = {kind.storage for kind in known if kind.storage}
    if cooked:
        found |= {UNKNOWN_DISH, *(part for part in own if storage_category(part).leftover)}
    else:
        found |= own - ({"eggs_in_shell"} if "raw_whites_or_yolks" in found else set())
    if not found or len(known) < len(parts):
        found.add(UNKNOWN_DISH)
    return tuple(sorted(found))


def _fits(row: Mapping[str, Any], words: set[str], *, cooked: bool) -> bool:
    if row.get("cooked", cooked) is not cooked or not words.isdisjoint(row.get("none_of", ())):
        return False
    return all(not words.isdisjoint(some) for some in row["all_of"])

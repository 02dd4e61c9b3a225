"""Topic ``parse``: ingredient lines."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from foodsafety.cli.input import a_list
from foodsafety.foods import AllergenSet, allergens_for, locale_from
from foodsafety.quantities import CoreError
from foodsafety.recipes import Ingredient, read_ingredient

MOST_LINES = 20_000


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``parse``."""
    locale = locale_from(data.get("locale"))
    named = allergens_for(locale=locale)
    return {"items": [_item(read_ingredient(line, locale), named) for line in _lines(data)]}


def _lines(data: Mapping[str, Any]) -> list[str]:
    lines = a_list(data, "lines", "ingredient lines")
    if len(lines) > MOST_LINES:
        raise CoreError("lines", "too_many", count=len(lines), most=MOST_LINES)
    for i, line in enumerate(lines):
        if not isinstance(line, str):
            raise CoreError(f"lines[{i}]", "not_a_text", value=line)
    return lines


def _item(item: Ingredient, named: AllergenSet) -> dict[str, Any]:
    return {
        "text": item.text,
        "low": item.low,
        "high": item.high,
        "unit": item.unit,
        "food": item.food,
        "preparation": item.preparation,
        "note": item.note,
        "kind": item.kind,
        "allergens": list(named.named(item.allergens)),
        "alternatives": list(item.alternatives),
        "doubts": list(item.doubts),
    }

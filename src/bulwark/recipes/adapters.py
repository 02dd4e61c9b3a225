"""Rows to core values and back."""

import hashlib
import json
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from bulwark.recipes.models import Recipe
from foodsafety.foods import allergen_sets, food_kind
from foodsafety.quantities import CoreError, finite
from foodsafety.recipes import NOT_LISTED, Document, Ingredient, KnownFoods, Process, process_from, read_ingredient
from foodsafety.review import eater_groups

# What a correction may set of a line.
CORRECTED = ("low", "high", "unit", "food", "kind", "preparation", "note")


def corrected(item: Ingredient, correction: Mapping[str, Any] | None) -> Ingredient:
    """A line as a person has corrected it; a line somebody has looked at has no doubts left but
    those it still deserves."""
    if not correction:
        return item
    kept = {key: correction[key] for key in CORRECTED if key in correction}
    kind = food_kind(kept["kind"]) if kept.get("kind") else None
    # What the kitchen said this food brings besides stays, unless it is another food now.
    same = frozenset(item.allergens) if kind and kind.id == item.kind else frozenset()
    allergens = tuple(sorted((kind.allergens if kind else frozenset()) | same | set(correction.get("allergens", []))))
    doubts = () if kind or not kept.get("food", item.food) else ("food-unknown",)
    return replace(item, **kept, allergens=allergens, doubts=doubts)


def to_ingredients(recipe: Recipe, known: KnownFoods | None = None) -> list[Ingredient]:
    """The recipe's lines, understood, with what was corrected."""
    named = {text for _, text, taken in recipe.source if taken == NOT_LISTED}
    items = [read_ingredient(line, recipe.measures, known) for line in recipe.ingredients]
    items = [replace(item, doubts=(*item.doubts, NOT_LISTED)) if item.text in named else item for item in items]
    return [corrected(item, recipe.corrections.get(str(i))) for i, item in enumerate(items)]


def to_process(recipe: Recipe) -> Process:
    """The recipe's process. Raises CoreError where it does not hold together."""
    return process_from(recipe.process)


def to_document(recipe: Recipe) -> Document:
    """The recipe as a document to be sent out: everything we know of it."""
    extension: dict[str, Any] = {
        "version": 1,
        "locale": recipe.measures,
        "process": recipe.process,
        "confirmed": recipe.confirmed_at is not None,
    }
    for name in ("corrections", "pieces", "variants", "eaters"):
        if getattr(recipe, name):
            extension[name] = getattr(recipe, name)
    return Document(
        title=recipe.title,
        summary=recipe.summary,
        serves=recipe.serves,
        servings_text=recipe.servings_text,
        ingredients=tuple(recipe.ingredients),
        instructions=tuple(recipe.instructions),
        notes=tuple(recipe.notes),
        extra=recipe.extra,
        extension=extension,
    )


def steps_version(recipe: Recipe) -> str:
    """A short name of the steps as they are now: they were read if this is what was on the screen."""
    return version_of(recipe.process)


def version_of(process: Mapping[str, Any]) -> str:
    """The same of steps in plain data."""
    text = json.dumps(process, sort_keys=True, ensure_ascii=False)
    return hashlib.sha256(text.encode()).hexdigest()[:16]


def sound_correction(row: Mapping[str, Any]) -> bool:
    """True if a correction of a line holds together."""
    try:
        if row.get("kind"):
            food_kind(str(row["kind"]))
        for key in ("low", "high"):
            if row.get(key) is not None:
                finite(row[key], key, low=0, high=1e6)
    except CoreError:
        return False
    return all(isinstance(row.get(key, ""), (str, type(None))) for key in ("unit", "food", "preparation", "note"))


def sound_variants(rows: Any) -> list[dict[str, Any]]:
    """Variants as far as they hold together."""
    return [
        {
            "name": str(row.get("name", ""))[:60],
            "who": str(row.get("who", ""))[:60],
            "lines": [str(line)[:200] for line in row.get("lines", [])][:20],
        }
        for row in rows[:40]
        if isinstance(row, Mapping) and isinstance(row.get("lines", []), list)
    ]


def sound_eaters(row: Any) -> dict[str, Any]:
    """Who eats, as far as it holds together."""
    tags = {tag for place in allergen_sets().values() for tag in place.members}
    groups = {
        str(k): int(v)
        for k, v in dict(row.get("groups") or {}).items()
        if k in eater_groups() and isinstance(v, int) and 0 < v < 1000
    }
    allergens = [tag for tag in row.get("allergens") or [] if tag in tags]
    count = row.get("count")
    return {
        "count": count if isinstance(count, int) and 0 < count < 10_000 else None,
        "groups": groups,
        "allergens": allergens,
    }

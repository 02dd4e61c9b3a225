"""Every line of a recipe beside what was understood."""

from typing import Any

from bulwark.presentation.care import allergen
from bulwark.recipes import wording
from bulwark.recipes.pages.context import RecipeContext
from foodsafety.foods import allergen_sets, food_kind, is_raw
from foodsafety.recipes import (
    NOT_LISTED,
    Ingredient,
)


def all_allergens() -> list[tuple[str, str]]:
    """Every allergen we know, with its words."""
    tags = sorted({tag for row in allergen_sets().values() for tag in row.members})
    return [(tag, allergen(tag)) for tag in tags]


def line_row(context: RecipeContext, i: int, item: Ingredient) -> dict[str, Any]:
    """One line beside what was understood."""
    kind = food_kind(item.kind) if item.kind else None
    asks = [name for name in item.doubts if name not in ("heading", "empty")]
    return {
        "i": i,
        "item": item,
        "text": context.recipe.ingredients[i],
        "amount": wording.amount(item) if item.food else "",
        "kind": kind,
        "ready": {"as_is": "ready to eat", "rinse": "ready once washed", "cook": "must be cooked"}[kind.ready]
        if kind
        else "",
        "raw": kind is not None and any(is_raw(name) for name in kind.soils),
        "soils": [wording.hazard(name) for name in sorted(kind.soils)] if kind else [],
        "allergens": wording.allergens(item.allergens),
        "doubts": [wording.doubt(name) for name in asks],
        "heading": "heading" in item.doubts,
        "unknown": "food-unknown" in item.doubts,
        "unlisted": NOT_LISTED in item.doubts,
        "corrected": str(i) in context.recipe.corrections,
    }

"""Every line of a recipe beside what was understood."""

from typing import Any

from bulwark.presentation.care import allergen
from bulwark.recipes import wording
from bulwark.recipes.pages.context import RecipeContext
from foodsafety.foods import allergen_sets, food_kind, food_kinds, kitchen_units
from foodsafety.recipes import (
    NOT_LISTED,
    Ingredient,
)


def lines_page(context: RecipeContext) -> dict[str, Any]:
    """Every line beside what was understood."""
    rows = [line_row(context, i, item) for i, item in enumerate(context.items)]
    taken = [row for row in context.recipe.source if row[2] not in ("blank", "ingredient", NOT_LISTED)]
    return {
        **context.base("lines"),
        "rows": rows,
        "doubtful": sum(1 for row in rows if row["doubts"]),
        "others": [{"number": number, "text": text, "taken": kind} for number, text, kind in taken],
        "kinds": food_kinds(),
        "units": [*kitchen_units()],
        "tags": all_allergens(),
    }


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
        "soils": [wording.hazard(name) for name in sorted(kind.soils)] if kind else [],
        "allergens": wording.allergens(item.allergens),
        "doubts": [wording.doubt(name) for name in asks],
        "heading": "heading" in item.doubts,
        "unknown": "food-unknown" in item.doubts,
        "unlisted": NOT_LISTED in item.doubts,
        "corrected": str(i) in context.recipe.corrections,
    }

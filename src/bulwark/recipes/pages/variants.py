"""Fillings per learner on one base."""

from typing import Any

from bulwark.recipes import wording
from bulwark.recipes.pages.context import RecipeContext
from foodsafety.foods import food_kind
from foodsafety.recipes import (
    Ingredient,
    read_ingredient,
)


def variants_page(context: RecipeContext) -> dict[str, Any]:
    """Fillings per learner on one base, and what each needs first."""
    rows = []
    for i, variant in enumerate(context.recipe.variants):
        items = [read_ingredient(line, context.recipe.measures, context.known) for line in variant["lines"]]
        rows.append(
            {
                "i": i,
                "variant": variant,
                "lines": "\n".join(variant["lines"]),
                "items": [_variant_item(item, context) for item in items],
                "allergens": wording.allergens(
                    sorted({tag for item in items for tag in context.named.named(item.allergens)})
                ),
            }
        )
    return {**context.base("variants"), "variants": rows}


def _variant_item(item: Ingredient, context: RecipeContext) -> dict[str, Any]:
    kind = food_kind(item.kind) if item.kind else None
    row = context.rules.cook.get(kind.cook_class or "") if kind and kind.ready == "cook" else None
    limit = ""
    if row and row.main:
        hold = f", {row.main.hold_s:g} s" if row.main.hold_s else ""
        limit = f"{row.main.temperature.value:g} °{row.main.temperature.unit}{hold}"
    elif row:
        limit = row.observation
    return {
        "item": item,
        "amount": wording.amount(item),
        "unknown": kind is None,
        "needs": kind.ready if kind else "unknown",
        "limit": limit,
        "section": row.section if row else "",
    }

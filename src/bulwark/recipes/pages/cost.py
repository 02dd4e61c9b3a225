"""What a recipe costs."""

from decimal import Decimal
from typing import Any

from bulwark.kitchens import selectors as kitchens
from bulwark.recipes import wording
from bulwark.recipes.pages.context import RecipeContext
from foodsafety.foods import food_kind
from foodsafety.review import RecipeCost, recipe_cost


def cost_page(context: RecipeContext) -> dict[str, Any]:
    """What it costs."""
    prices = kitchens.prices_of(context.recipe.organisation_id)
    cost: RecipeCost = recipe_cost(context.items, prices, context.recipe.measures)
    rows = [
        {
            "line": line,
            "amount": wording.amount(line.ingredient),
            "kind": food_kind(line.ingredient.kind) if line.ingredient.kind else None,
            "why": wording.missing_cost(line.why),
            "cost": line.cost.quantize(Decimal("0.01"), rounding="ROUND_UP") if line.cost is not None else None,
        }
        for line in cost.lines
    ]
    benches = context.kitchen.benches
    return {
        **context.base("cost"),
        "cost": cost,
        "rows": rows,
        "unpriced": sum(1 for row in rows if row["cost"] is None),
        "per_serving": cost.per(context.recipe.serves) if context.recipe.serves else None,
        "benches": benches,
        "all_benches": (cost.total * benches).quantize(Decimal("0.01")),
        "currency": context.decided.currency,
        "priced": sorted(((food_kind(name), price) for name, price in prices.items()), key=lambda row: row[0].name),
    }

"""Who eats, what is not for them, and what swaps change."""

from typing import Any

from bulwark.kitchens import selectors as kitchens
from bulwark.presentation import care
from bulwark.recipes import wording
from bulwark.recipes.pages.context import RecipeContext
from bulwark.recipes.pages.lines import all_allergens
from foodsafety.contamination import find_contamination
from foodsafety.foods import food_kind
from foodsafety.lesson import safety_plan
from foodsafety.recipes import (
    Process,
    swap,
    swaps_for,
)
from foodsafety.review import NotFor, eater_groups, not_for, recipe_cost


def not_for_rows(context: RecipeContext, process: Process) -> list[dict[str, Any]]:
    eaters = context.recipe.eaters or {}
    found = not_for(process, eaters.get("groups", {}), eaters.get("allergens", []), context.house)
    return [_not_for_row(row, context) for row in found]


def _not_for_row(row: NotFor, context: RecipeContext) -> dict[str, Any]:
    line = context.recipe.process["foods"].get(row.food, {}).get("line")
    return {
        "row": row,
        "eater": care.eater(row.eater),
        "why": care.not_for(row.rule),
        "line": line,
        "swaps": [{"id": name, "to": food_kind(swap(name).to).name} for name in row.swaps],
    }


def eaters_page(
    context: RecipeContext, line: int | None, swap_id: str | None, difference: dict[str, Any] | None
) -> dict[str, Any]:
    """Who eats, what they may not have, and swaps for every line."""
    eaters = context.recipe.eaters or {}
    lines = []
    for i, item in enumerate(context.items):
        kind = food_kind(item.kind) if item.kind else None
        if kind is None or not item.food:
            continue
        rows = [
            {"id": row.id, "to": food_kind(row.to).name, "family": wording.swap_family(row.family)}
            for row in swaps_for(kind)
        ]
        lines.append({"i": i, "item": item, "amount": wording.amount(item), "swaps": rows, "open": i == line})
    return {
        **context.base("eaters"),
        "groups": [(name, care.eater(name), eaters.get("groups", {}).get(name, "")) for name in eater_groups()],
        "count": eaters.get("count") or "",
        "tags": [(tag, name, tag in eaters.get("allergens", [])) for tag, name in all_allergens()],
        "not_for": not_for_rows(context, context.process),
        "lines": lines,
        "line": line,
        "swap_id": swap_id,
        "difference": difference,
    }


def _facts(context: RecipeContext) -> dict[str, Any]:
    process = context.process
    plan = safety_plan(process, context.rules, context.house)
    cores = {}
    for control in plan.controls:
        if control.rule == "core-temperature" and control.limit:
            cores[control.foods[-1]] = f"{control.limit.value:g} °{control.limit.unit}"
    tags = {tag for food in process.foods.values() for tag in context.named.named(food.allergens)}
    soils = {wording.hazard(name) for food in process.foods.values() for name in food.soils}
    soils |= {wording.hazard(name) for food in process.foods.values() if food.kind for name in food.kind.hazards}
    return {
        "allergens": {context.named.members[tag] for tag in tags},
        "hazards": soils,
        "cores": cores,
        "findings": {(f.rule, f.food, f.soil) for f in find_contamination(process, context.house)},
        "cost": recipe_cost(context.items, kitchens.prices_of(context.recipe.organisation_id), context.recipe.measures),
    }


def difference(before: RecipeContext, after: RecipeContext) -> dict[str, Any]:
    """What a swap changes: hazards, allergens, limits, findings, cost."""
    a, b = _facts(before), _facts(after)
    return {
        "title": after.recipe.title,
        "gone": {"allergens": sorted(a["allergens"] - b["allergens"]), "hazards": sorted(a["hazards"] - b["hazards"])},
        "new": {"allergens": sorted(b["allergens"] - a["allergens"]), "hazards": sorted(b["hazards"] - a["hazards"])},
        "cores": sorted(
            (food, a["cores"].get(food, "-"), limit)
            for food, limit in b["cores"].items()
            if a["cores"].get(food) != limit
        ),
        "cores_gone": sorted(food for food in a["cores"] if food not in b["cores"]),
        "findings": sorted(wording.finding(*row) for row in b["findings"] - a["findings"]),
        "cost_before": a["cost"],
        "cost_after": b["cost"],
        "same": all(a[key] == b[key] for key in ("allergens", "hazards", "cores", "findings")),
    }

"""A recipe scaled: amounts, portions, batches and times."""

import re
from collections.abc import Mapping
from typing import Any

from bulwark.presentation import phrases
from bulwark.recipes import wording
from bulwark.recipes.pages.context import RecipeContext
from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    Batches,
    cook_batches,
    equal_portions,
    factor_for_amount,
    factor_for_servings,
    scale_ingredient,
    time_factor,
    time_rule,
    tolerance_of,
    total_weight_g,
)


def amounts_page(context: RecipeContext, data: Mapping[str, Any]) -> dict[str, Any]:
    """The recipe scaled. Raises CoreError naming what is wrong with the wish."""
    factor = _factor(context, data)
    preserving = any(word in f"{context.recipe.title} {' '.join(context.recipe.notes)}".lower() for word in _PRESERVES)
    rows = []
    for item in context.items:
        if not item.food:
            continue
        tolerance = tolerance_of(item.kind, preserving=preserving)
        row = scale_ingredient(item, factor, context.recipe.measures, tolerance=tolerance)
        rows.append(
            {
                "item": item,
                "was": wording.amount(item),
                "now": wording.scaled(row),
                "help": wording.scaled_help(row),
                "exact": tolerance == "exact",
            }
        )
    total, unknown = total_weight_g(context.items, context.recipe.measures)
    process = context.process
    return {
        **context.base("amounts"),
        "factor": factor,
        "shown_factor": wording.number(factor),
        "rows": rows,
        "serves": context.recipe.serves * factor if context.recipe.serves else None,
        "total_g": total * factor,
        "unweighed": unknown,
        "portion": _portion(total * factor, context, factor),
        "parts": _part_portions(context, factor),
        "batches": _batches(data, factor),
        "times": [
            {
                "title": data_.get("title") or step.do,
                "was": phrases.minutes(float(data_.get("minutes") or 0)),
                "rule": wording.time_rule(time_rule(step, process)),
            }
            for step, data_ in _with_data(context)
            if data_.get("minutes")
        ],
        "asked": data,
    }


_PRESERVES = ("cure", "curing", "pickle", "preserv", "ferment", "jam", "brine", "canning")


def _with_data(context: RecipeContext) -> list[tuple[Any, Mapping[str, Any]]]:
    by_id = {str(row["id"]): row for row in context.recipe.process["steps"]}
    return [(step, by_id[step.id]) for step in context.process.steps]


def _factor(context: RecipeContext, data: Mapping[str, Any]) -> float:
    by = data.get("by")
    if by == "servings":
        return factor_for_servings(context.recipe.serves, data.get("servings") or 0)
    if by == "people":
        wanted = (data.get("people") or 0) * (data.get("each") or 1)
        return factor_for_servings(context.recipe.serves, wanted)
    if by == "have":
        line = data.get("line")
        if line is None or line >= len(context.items):
            raise CoreError("line", "ingredient_not_chosen")
        unit = data.get("have_unit") or "kg"
        return factor_for_amount(context.items[line], data.get("have") or 0, unit, context.recipe.measures)
    return 1.0


def _portion(total_g: float, context: RecipeContext, factor: float) -> dict[str, Any] | None:
    count = round((context.recipe.serves or 0) * factor)
    if count < 1 or total_g <= 0:
        return None
    portion = equal_portions(total_g, count, density_g_ml=1.0)
    scoop_ml = portion.scoop_ml if _spoonable(context) else None
    return {"each_g": wording.number(portion.each_g), "count": count, "scoop_ml": scoop_ml}


_WHOLE = re.compile(
    r"\b(?:skewer|kebab|burger|patt(?:y|ies)|fillet|drumstick|chop|wing|sausage|roll|pie|pizza|steak|thigh)",
    re.IGNORECASE,
)


def _spoonable(context: RecipeContext) -> bool:
    """True unless what is eaten comes in pieces: nobody portions skewers with a scoop."""
    recipe = context.recipe
    return not _WHOLE.search(" ".join([recipe.title, *recipe.ingredients, *context.process.serve]))


def _part_portions(context: RecipeContext, factor: float) -> list[dict[str, str]]:
    """The same for each thing that is made on the way: the filling by itself, not with its wrap."""
    count = round((context.recipe.serves or 0) * factor)
    rows = []
    lines = {name: row.get("line") for name, row in context.recipe.process["foods"].items()}
    for made in context.process.made if count else ():
        inside = [lines.get(name) for name in context.process.ingredients_of(made)]
        items = [context.items[line] for line in inside if line is not None and line < len(context.items)]
        total, unknown = total_weight_g(items, context.recipe.measures)
        if total > 0 and len(items) < len(context.items):
            each = equal_portions(total * factor, count).each_g
            rows.append({"food": made, "each_g": wording.number(each), "unknown": ", ".join(unknown)})
    return rows


def _batches(data: Mapping[str, Any], factor: float) -> Batches | None:
    if not data.get("pieces") or not data.get("fits"):
        return None
    return cook_batches(data["pieces"] * factor, data["fits"])


def thickness(old: float, new: float, minutes: float) -> dict[str, str]:
    """How a time changes with another thickness: when to start checking, never when it is done."""
    factor = time_factor(old, new)
    return {"factor": wording.number(factor), "minutes": phrases.minutes(round(minutes * factor, 1))}

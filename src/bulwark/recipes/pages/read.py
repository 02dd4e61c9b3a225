"""The read-through: a recipe looked over before anybody cooks it."""

from typing import Any

from bulwark.presentation import care, phrases
from bulwark.recipes import wording
from bulwark.recipes.pages.context import RecipeContext
from bulwark.recipes.pages.eaters import not_for_rows
from bulwark.recipes.pages.steps import breach_rows, step_rows
from bulwark.recipes.selectors import dishes_for
from foodsafety.lesson import safety_plan
from foodsafety.review import KitNeed, RecipeReview, review_recipe


def read_page(context: RecipeContext, benches: int) -> dict[str, Any]:
    """The read-through."""
    process = context.process
    read = _review(context, benches)
    rows = step_rows(context)
    for row in rows:
        row["cautions"] = [care.caution_text(c.id) for c in read.cautions.get(str(row["step"]["id"]), ())]
    titles = {str(row["step"]["id"]): row["step"].get("title") or row["verb"] for row in rows}
    return {
        **context.base("read"),
        **_kit(read),
        **_dangers(context, read, titles),
        **_hours(read, titles),
        "read": read,
        "benches": benches,
        "items": [{"item": item, "amount": wording.amount(item)} for item in context.items if item.food],
        "dishes": dishes_for(context.actor, context.recipe.pk) if context.recipe.confirmed_at else [],
        "headings": [item.text for item in context.items if not item.food],
        "steps": rows,
        "cold": context.rules.hold["cold"],
        "not_for": not_for_rows(context, process),
        "controls": len(safety_plan(process, context.rules, context.house).controls),
    }


def _review(context: RecipeContext, benches: int) -> RecipeReview:
    return review_recipe(
        context.process,
        context.recipe.process["steps"],
        named=context.named,
        profile=context.rules,
        house=context.house,
        benches=benches,
        equipment=context.kitchen.equipment,
    )


def _kit(read: RecipeReview) -> dict[str, Any]:
    """Where the food comes from and the kit, and what is lacking or was never counted."""
    needs = [_need(need) for need in (*read.sources, *read.needs)]
    return {
        "needs": needs,
        "lacking": [row for row in needs if row["need"].lacking],
        "uncounted": [row for row in needs if row["need"].have is None],
    }


def _dangers(context: RecipeContext, read: RecipeReview, titles: dict[str, str]) -> dict[str, Any]:
    """Hazards with the step that ends each, allergens, and what the process would carry over."""
    members = context.named.members
    return {
        "hazards": [
            {"row": row, "text": wording.hazard(row.hazard), "ends": titles.get(row.ends or "", "")}
            for row in read.hazards
        ],
        "allergens": [{"name": members[tag], "foods": foods} for tag, foods in read.allergens.items()],
        "named": context.named,
        "findings": breach_rows(read.findings, context.recipe.process, context.process),
    }


def _hours(read: RecipeReview, titles: dict[str, str]) -> dict[str, Any]:
    """What is made ahead, how long it all takes, and the steps without a time."""
    return {
        "ahead": [
            {
                "title": titles[row.step],
                "foods": ", ".join(row.foods),
                "minutes": phrases.minutes(row.waiting_min),
                "place": wording.place(row.place),
            }
            for row in read.ahead
        ],
        "times": {
            "active": phrases.minutes(read.active_min),
            "waiting": phrases.minutes(read.waiting_min),
            "path": phrases.minutes(read.path_min),
        },
        "untimed": [titles[name] for name in read.unknown_times],
    }


def _need(need: KitNeed) -> dict[str, Any]:
    return {"need": need, "name": wording.tool(need.kind)}

"""Bringing recipes in, what each still needs, and what is different between two."""

from typing import Any

from bulwark.people.actors import Actor
from bulwark.presentation.errors import error_sentence
from bulwark.recipes import wording
from bulwark.recipes.models import Recipe
from bulwark.recipes.pages.context import RecipeContext
from bulwark.recipes.selectors import other_titles
from foodsafety.contamination import analyse
from foodsafety.foods import LOCALES
from foodsafety.quantities import CoreError
from foodsafety.recipes import accepted, changes, finding_key, open_questions, process_from


def bring_page(**more: Any) -> dict[str, Any]:
    """The page that brings a recipe in."""
    return {"locales": LOCALES, "tab": "", "text": "", "error": None, **more}


def waiting_row(recipe: Recipe, actor: Actor) -> dict[str, Any]:
    """A recipe with what it still needs: lines of food, steps, questions, findings."""
    row: dict[str, Any] = {"recipe": recipe, "file": "", "error": checked_process(recipe)}
    if row["error"]:
        return row
    context = RecipeContext(recipe, actor)
    process, data = context.process, recipe.process
    questions = open_questions(context.items, data, process)
    findings = [found for found in analyse(process, context.house).findings if finding_key(found) not in accepted(data)]
    return {
        **row,
        "lines": sum(1 for item in context.items if item.food),
        "steps": len(process.steps),
        "holding": sum(1 for question in questions if question.holds),
        "mild": sum(1 for question in questions if not question.holds),
        "findings": len(findings),
    }


def changes_page(context: RecipeContext, other: Recipe) -> dict[str, Any]:
    """What is different between a recipe and another, or the one it was made from."""
    return {
        **context.base("read"),
        "other": other,
        "others": other_titles(context.actor, context.recipe.pk),
        "rows": [wording.change(row, context.actor.unit) for row in changes(other.process, context.recipe.process)],
    }


def checked_process(recipe: Recipe) -> str:
    """Why a recipe's process does not hold together, or nothing."""
    try:
        process_from(recipe.process)
    except CoreError as wrong:
        return error_sentence(wrong)
    return ""

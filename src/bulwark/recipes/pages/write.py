"""The words of a recipe, to be written or put right."""

from collections.abc import Mapping
from typing import Any

from bulwark.recipes.models import Recipe
from foodsafety.recipes import offered_words

_FIELDS = ("title", "summary", "serves", "ingredients", "instructions", "notes")


def write_page(
    recipe: Recipe | None, *, typed: Mapping[str, str] | None = None, wrong: Mapping[str, str] | None = None
) -> dict[str, Any]:
    """The words in fields. Where no ingredients or no method was found in what came in, lines from
    it are offered in the empty field, and said to be an offer; what a person typed stands first."""
    words = _words_of(recipe)
    offered: list[str] = []
    if typed is not None:
        words |= typed
    elif recipe is not None:
        offered = [name for name in ("ingredients", "instructions") if not words[name]]
        words |= _offered(recipe) if offered else {}
    return {"recipe": recipe, "tab": "", "form": words, "wrong": wrong or {}, "offered": offered}


def _words_of(recipe: Recipe | None) -> dict[str, Any]:
    if recipe is None:
        return dict.fromkeys(_FIELDS, "")
    return {
        "title": recipe.title,
        "summary": recipe.summary,
        "serves": recipe.serves or "",
        "ingredients": "\n".join(recipe.ingredients),
        "instructions": "\n".join(recipe.instructions),
        "notes": "\n".join(recipe.notes),
    }


def _offered(recipe: Recipe) -> dict[str, str]:
    rows = [text for _, text, taken in recipe.source if taken not in ("title", "serves", "heading", "blank")]
    ingredients, instructions = offered_words(recipe.ingredients, recipe.instructions, rows, recipe.measures)
    return {"ingredients": "\n".join(ingredients), "instructions": "\n".join(instructions)}

"""Bringing a recipe in, and whether its process holds together."""

from typing import Any

from bulwark.presentation.errors import error_sentence
from bulwark.recipes.models import Recipe
from foodsafety.foods import LOCALES
from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    process_from,
)


def bring_page(**more: Any) -> dict[str, Any]:
    """The page that brings a recipe in."""
    return {"locales": LOCALES, "tab": "", "text": "", "error": None, **more}


def checked_process(recipe: Recipe) -> str:
    """Why a recipe's process does not hold together, or nothing."""
    try:
        process_from(recipe.process)
    except CoreError as wrong:
        return error_sentence(wrong)
    return ""

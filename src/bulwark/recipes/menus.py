"""A menu: several recipes as one, which a bench cooks as a whole."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import accumulate
from typing import Any

from django.db import transaction

from bulwark.people.actors import Actor
from bulwark.recipes import wording
from bulwark.recipes.models import Recipe
from bulwark.recipes.services import LONGEST_TITLE, index
from foodsafety.quantities import CoreError
from foodsafety.recipes import Dish, combined


@transaction.atomic
def make_menu(*, recipes: Sequence[Recipe], by: Actor) -> Recipe:
    """One recipe of several, in the order given: its lines, steps, cost, allergens and eaters are those of all of
    them. Its steps are unconfirmed until somebody reads them: hands go from dish to dish. Raises CoreError for a
    recipe whose own steps nobody has confirmed, and for too few or too many."""
    for recipe in recipes:
        if recipe.confirmed_at is None:
            raise CoreError("recipe", "menu_of_confirmed", title=recipe.title)
        if recipe.locale != recipes[0].locale:
            raise CoreError("recipe", "menu_of_one_measure", title=recipe.title)
    before = [0, *accumulate(len(recipe.ingredients) for recipe in recipes)]
    dishes = [
        Dish(title=recipe.title[:60], process=recipe.process, lines_before=lines)
        for recipe, lines in zip(recipes, before, strict=False)
    ]
    made = combined(dishes, wording.serve_menu())
    serves = [recipe.serves for recipe in recipes if recipe.serves]
    menu = Recipe(
        organisation_id=by.organisation,
        title=wording.menu_title([recipe.title for recipe in recipes])[:LONGEST_TITLE],
        summary=wording.menu_summary([(recipe.title, recipe.serves) for recipe in recipes]),
        serves=min(serves) if serves else None,
        locale=recipes[0].locale,
        ingredients=[line for recipe in recipes for line in recipe.ingredients],
        instructions=[line for recipe in recipes for line in recipe.instructions],
        notes=[line for recipe in recipes for line in recipe.notes],
        variants=[row for recipe in recipes for row in recipe.variants],
        process=made.process,
        dishes=[recipe.pk for recipe in recipes],
    )
    for recipe, lines, names in zip(recipes, before, made.names, strict=False):
        menu.corrections |= {str(int(line) + lines): row for line, row in recipe.corrections.items()}
        menu.pieces |= {names.get(food, food): count for food, count in recipe.pieces.items()}
        menu.eaters = _eaters_of_both(menu.eaters, recipe.eaters or {})
    menu.save()
    index(menu)
    return menu


def _eaters_of_both(one: Mapping[str, Any], other: Mapping[str, Any]) -> dict[str, Any]:
    """Who eats one dish or the other eats of the menu."""
    groups: dict[str, int] = {}
    for row in (one, other):
        for name, count in (row.get("groups") or {}).items():
            groups[name] = max(count, groups.get(name, 0))
    allergens = sorted({*(one.get("allergens") or ()), *(other.get("allergens") or ())})
    counts = [row["count"] for row in (one, other) if row.get("count")]
    found = {"groups": groups, "allergens": allergens, **({"count": max(counts)} if counts else {})}
    return found if any(found.values()) else {}

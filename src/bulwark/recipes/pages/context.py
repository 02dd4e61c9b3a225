"""A recipe with its kitchen: what every recipe page starts from."""

from typing import Any

from bulwark.kitchens import selectors as kitchens
from bulwark.people.actors import Actor
from bulwark.recipes import wording
from bulwark.recipes.adapters import to_ingredients, to_process
from bulwark.recipes.models import Recipe
from foodsafety.foods import allergens_for
from foodsafety.recipes import Ingredient, Process, open_questions
from foodsafety.rules import Profile


class RecipeContext:
    """A recipe with its kitchen, read once for a page."""

    def __init__(self, recipe: Recipe, actor: Actor) -> None:
        self.recipe = recipe
        self.actor = actor
        self.kitchen = kitchens.kitchen_of(recipe.organisation_id)
        self.decided = kitchens.decided_by(recipe.organisation_id)
        self.rules: Profile = kitchens.rules_for(recipe.organisation_id, self.decided.profile)
        self.house = kitchens.house_of(self.decided)
        self.known = kitchens.known_foods(recipe.organisation_id)
        self.items: list[Ingredient] = to_ingredients(recipe, self.known)
        self.named = allergens_for(profile_id=self.decided.profile)

    @property
    def process(self) -> Process:
        """The recipe's process."""
        return to_process(self.recipe)

    def base(self, tab: str) -> dict[str, Any]:
        """What every recipe page needs."""
        not_known = [] if self.recipe.confirmed_at else self.not_known()
        return {"recipe": self.recipe, "tab": tab, "decided": self.decided, "rules": self.rules, "not_known": not_known}

    def not_known(self) -> list[str]:
        """The open questions that could hide a hazard, in words."""
        held = [row for row in open_questions(self.items, self.recipe.process, self.process) if row.holds]
        return [wording.question(row) for row in held]

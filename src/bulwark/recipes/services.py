"""Changes to recipes."""

from typing import Any

from django.db import transaction
from django.utils import timezone

from bulwark.people.models import Organisation
from bulwark.recipes.models import Recipe
from foodsafety.recipe import process_from


@transaction.atomic
def add_confirmed_recipe(*, organisation: Organisation, data: dict[str, Any]) -> Recipe:
    """Adds a recipe whose process a person has confirmed. Raises CoreError if it is not a process."""
    process_from(data["process"])
    return Recipe.objects.create(
        organisation=organisation,
        title=data["title"],
        summary=data["summary"],
        serves=data["serves"],
        ingredients=data["ingredients"],
        pieces=data["pieces"],
        process=data["process"],
        confirmed_at=timezone.now(),
    )

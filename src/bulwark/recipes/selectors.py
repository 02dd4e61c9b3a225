"""Recipes somebody may see."""

import json
from functools import cache
from pathlib import Path
from typing import Any

from django.db.models import QuerySet

from bulwark.people.actors import Actor
from bulwark.recipes.models import Recipe

_DEMO = Path(__file__).resolve().parent / "demo"


def recipes_for(actor: Actor) -> QuerySet[Recipe]:
    """The recipes of the actor's organisation."""
    if actor.kind != "educator":
        return Recipe.objects.none()
    return Recipe.objects.filter(organisation_id=actor.organisation_id)


@cache
def demo_recipe(name: str) -> dict[str, Any]:
    """One of the demo recipes as written in its file."""
    return json.loads((_DEMO / f"{name}.json").read_text(encoding="utf-8"))

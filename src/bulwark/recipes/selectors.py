"""Recipes somebody may see."""

import json
from functools import cache
from pathlib import Path
from typing import Any

from django.contrib.postgres.search import SearchQuery, SearchRank
from django.db.models import F, Q, QuerySet

from bulwark.people.actors import Actor
from bulwark.recipes.models import Recipe

_DEMO = Path(__file__).resolve().parent / "demo"
PAGE = 20


@cache
def demo_recipe(name: str) -> dict[str, Any]:
    """One of the demo recipes as written in its file."""
    return json.loads((_DEMO / f"{name}.json").read_text(encoding="utf-8"))


@cache
def demo_names() -> tuple[str, ...]:
    """The demo recipes, by file, sorted."""
    return tuple(sorted(path.stem for path in _DEMO.glob("*.json")))


def recipes_for(actor: Actor) -> QuerySet[Recipe]:
    """The organisation's recipes."""
    if actor.kind != "educator":
        return Recipe.objects.none()
    return Recipe.objects.filter(organisation_id=actor.organisation_id)


def recipe_page(actor: Actor, words: str, page: int) -> tuple[list[dict[str, Any]], bool]:
    """One page of recipes, those that match the words best first, and whether there are more.
    Any name of a food finds the recipes with it, and a slip of the finger does no harm."""
    rows = recipes_for(actor)
    words = words.strip()[:100]
    if words:
        query = SearchQuery(words, search_type="websearch", config="english")
        rows = rows.filter(Q(search=query) | Q(search_text__trigram_word_similar=words.lower()))
        rows = rows.annotate(rank=SearchRank(F("search"), query)).order_by("-rank", "title", "pk")
    else:
        rows = rows.order_by("title", "pk")
    start = PAGE * (page - 1)
    found = list(rows.values("pk", "title", "summary", "serves", "confirmed_at", "base_id")[start : start + PAGE + 1])
    return found[:PAGE], len(found) > PAGE

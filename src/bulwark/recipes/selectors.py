"""Recipes somebody may see."""

import re
from collections.abc import Sequence
from typing import Any

from django.db import connection
from django.db.models import QuerySet
from django.db.models.functions import Left

from bulwark.people.actors import Actor
from bulwark.recipes.models import Recipe as Recipe  # what other rooms call a recipe

PAGE = 20
# Rows as the list shows them, and whether there are more.
PageOfRecipes = tuple[list[dict[str, Any]], bool]
_SHOWN = ("pk", "title", "short", "serves", "confirmed_at")


def recipes_for(actor: Actor) -> QuerySet[Recipe]:
    """The organisation's recipes."""
    if actor.kind != "educator":
        return Recipe.objects.none()
    return Recipe.objects.filter(organisation_id=actor.organisation)


def steps_of(actor: Actor, recipe_id: int) -> dict[str, Any]:
    """The steps of a recipe as they are now, in plain data."""
    steps: dict[str, Any] = recipes_for(actor).values_list("process", flat=True).get(pk=recipe_id)
    return steps


MOST_TITLES = 200
MOST_WAITING = 60


def other_titles(actor: Actor, recipe_id: int) -> list[tuple[int, str]]:
    """The organisation's other recipes to choose from, by title."""
    rows = recipes_for(actor).filter(archived_at=None).exclude(pk=recipe_id).order_by("title")
    return list(rows.values_list("pk", "title")[:MOST_TITLES])


def dishes_for(actor: Actor, recipe_id: int) -> list[tuple[int, str]]:
    """The other recipes that somebody has confirmed, to be put into one menu with this one."""
    rows = recipes_for(actor).filter(archived_at=None).exclude(pk=recipe_id).exclude(confirmed_at=None)
    return list(rows.order_by("title").values_list("pk", "title")[:MOST_TITLES])


def dishes_of(menu: Recipe) -> list[Recipe]:
    """The recipes of a menu as they are now, as far as somebody has confirmed them and they are in use."""
    rows = Recipe.objects.filter(organisation_id=menu.organisation_id, pk__in=menu.dishes, archived_at=None)
    return [row for row in rows if row.confirmed_at is not None]


def recipe_with(organisation_id: int, recipe_id: int | None) -> Recipe | None:
    """A recipe of an organisation by its number."""
    return Recipe.objects.filter(organisation_id=organisation_id, pk=recipe_id or 0).first()


def recipe_page(actor: Actor, words: str, page: int, *, archived: bool = False) -> PageOfRecipes:
    """One page of recipes (``archived``: of those put away), those with the words in their title first, and
    whether there are more. Any name of a food finds the recipes with it; where nothing is found, the words
    nearest to those typed are looked for instead."""
    words = words.strip()[:100]
    if actor.organisation is None:
        return [], False
    if not words:
        rows = recipes_for(actor).filter(archived_at__isnull=not archived)
        return _one_page(rows.order_by("title", "pk"), page)
    found, more = _search(actor, "websearch_to_tsquery", words, _tokens(words), page)
    if found or page > 1:
        return found, more
    nearest = _nearest_words(actor, _tokens(words))
    if not nearest or not all(nearest):
        return [], False
    query = " & ".join(f"({' | '.join(near)})" for near in nearest)
    return _search(actor, "to_tsquery", query, [near[0] for near in nearest], page)


def archived_count(actor: Actor) -> int:
    """How many recipes are put away."""
    return recipes_for(actor).exclude(archived_at=None).count()


def waiting(actor: Actor, ids: Sequence[int]) -> list[Recipe]:
    """Of some recipes, or of all that nobody has confirmed yet, the newest first."""
    rows = recipes_for(actor).filter(archived_at=None).order_by("-pk")
    return list((rows.filter(pk__in=ids) if ids else rows.filter(confirmed_at=None))[:MOST_WAITING])


def _tokens(words: str) -> list[str]:
    return re.findall(r"[^\W\d_]{3,40}", words.lower())[:5]


# Typed on every key stroke: in SQL, since building these with the ORM took longer than running them.
# Those with a word of it in the title come first; ranking by the whole vector would fetch each one.
_SEARCH = """
    SELECT id, title, left(summary, 110), serves, confirmed_at FROM recipes_recipe
    WHERE organisation_id = %s AND archived_at IS NULL AND search @@ {reader}('english', %s)
    ORDER BY NOT title ~* ANY(%s), title, id LIMIT %s OFFSET %s
"""
_NEAREST = """
    SELECT typed.place, near.word, near.alike FROM unnest(%s::text[]) WITH ORDINALITY AS typed(word, place)
    CROSS JOIN LATERAL (
        SELECT word, similarity(word, typed.word) AS alike FROM recipes_searchword
        WHERE organisation_id = %s AND word %% typed.word ORDER BY alike DESC, word LIMIT 3
    ) AS near ORDER BY typed.place
"""


def _search(actor: Actor, reader: str, query: str, tokens: list[str], page: int) -> PageOfRecipes:
    with connection.cursor() as cursor:
        start = PAGE * (page - 1)
        cursor.execute(_SEARCH.format(reader=reader), [actor.organisation, query, tokens or [""], PAGE + 1, start])
        rows = [dict(zip(_SHOWN, row, strict=True)) for row in cursor.fetchall()]
    return rows[:PAGE], len(rows) > PAGE


def _nearest_words(actor: Actor, tokens: list[str]) -> list[list[str]]:
    """For each word typed, the known word most like it, and those about as near."""
    near: list[list[str]] = [[] for _ in tokens]
    best: dict[int, float] = {}
    with connection.cursor() as cursor:
        cursor.execute(_NEAREST, [tokens, actor.organisation])
        for place, word, alike in cursor.fetchall():
            if alike >= 0.95 * best.setdefault(place, alike):
                near[place - 1].append(word)
    return near


def _one_page(rows: QuerySet[Recipe], page: int) -> PageOfRecipes:
    start = PAGE * (page - 1)
    found = list(rows.annotate(short=Left("summary", 110)).values(*_SHOWN)[start : start + PAGE + 1])
    return found[:PAGE], len(found) > PAGE

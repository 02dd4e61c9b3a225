"""The allergens that must be named, by jurisdiction, and the words they hide behind."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from foodsafety.data import data_text, profile_folders, profile_text
from foodsafety.foods.words import plain_id


@dataclass(frozen=True, slots=True, kw_only=True)
class AllergenSet:
    """The allergens one place's law names: our tags, and its words for them."""

    id: str
    name: str
    profiles: tuple[str, ...]
    locales: tuple[str, ...]
    members: Mapping[str, str]
    within: Mapping[str, str]
    verify: bool

    def named(self, tags: Iterable[str]) -> dict[str, str]:
        """Those of the tags that this place names, with its words, in its order."""
        found = {self.within.get(tag, tag) for tag in tags}
        return {tag: word for tag, word in self.members.items() if tag in found}


def _profiles_with(allergen_set: str) -> tuple[str, ...]:
    """The profiles whose law names this set, as their own folders say."""
    return tuple(
        name
        for name in profile_folders()
        if tomllib.loads(profile_text(name, "limits.toml")).get("allergens") == allergen_set
    )


def _set_rows() -> dict[str, dict[str, Any]]:
    """The sets of every place, and those that a profile's own folder brings."""
    rows: dict[str, dict[str, Any]] = tomllib.loads(data_text("allergens.toml"))
    for name in profile_folders():
        own = tomllib.loads(profile_text(name, "allergens.toml"))
        rows |= {name: {"locales": [], **own}} if own else {}
    return rows


@cache
def allergen_sets() -> dict[str, AllergenSet]:
    """Every allergen set by id."""
    return {
        key: AllergenSet(
            id=key,
            name=row["name"],
            profiles=_profiles_with(key),
            locales=tuple(row["locales"]),
            members=row["members"],
            within=row.get("within", {}),
            verify=bool(row.get("verify", False)),
        )
        for key, row in _set_rows().items()
    }


@cache
def _allergen_words() -> dict[str, str]:
    return {word: tag for tag, words in tomllib.loads(data_text("allergen_words.toml")).items() for word in words}


def allergen_tag(name: str) -> str:
    """Our tag for an allergen as somebody writes it: "peanuts" is peanut, "dairy" is milk. A word
    nobody knows stays itself, and is tracked as it is."""
    plain = plain_id(name.removeprefix("allergen:"))
    return _allergen_words().get(plain, plain)


def allergens_for(*, profile_id: str | None = None, locale: str | None = None) -> AllergenSet:
    """The allergen set of a rule profile or a locale; the longest list where neither is known."""
    for row in allergen_sets().values():
        if profile_id in row.profiles or locale in row.locales:
            return row
    return max(allergen_sets().values(), key=lambda row: len(row.members))

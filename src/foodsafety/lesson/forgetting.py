"""What an entry says without names and words of anybody: what was done, when, and what was measured stay."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

# Where an entry names people, and where it holds words that somebody wrote. Nothing else of it is looked at: a learner
# may be called as a food is, or a store.
PEOPLE = ("learner", "by", "who")
WORDS = ("reason", "words", "note", "signer")
# What somebody wrote only in some entries: a food's name is needed, a timer's is not.
WORDS_OF = {"timer_set": ("name",)}
# What stands where words stood.
GONE = "\u2013"


def people_in(data: Mapping[str, Any]) -> frozenset[str]:
    """Everybody whom an entry names."""
    return frozenset(name for key in PEOPLE for name in _texts(data.get(key)))


def _texts(value: object) -> tuple[str, ...]:
    if isinstance(value, str):
        return (value,)
    return tuple(name for name in value if isinstance(name, str)) if isinstance(value, (list, tuple)) else ()


def forgotten(kind: str, data: Mapping[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """The same entry with everybody by another name of ``names``, and its words gone."""
    words = (*WORDS, *WORDS_OF.get(kind, ()))
    return {key: GONE if key in words and value else _named(key, value, names) for key, value in data.items()}


def _named(key: str, value: Any, names: Mapping[str, str]) -> Any:
    if key not in PEOPLE:
        return value
    if isinstance(value, (list, tuple)):
        return [names.get(one, one) if isinstance(one, str) else one for one in value]
    return names.get(value, value) if isinstance(value, str) else value


def other_names(people: Iterable[str]) -> dict[str, str]:
    """A name for each that says nothing of them: P1, P2, in an order that tells nothing but the alphabet's."""
    return {name: f"P{n}" for n, name in enumerate(sorted(set(people)), start=1)}

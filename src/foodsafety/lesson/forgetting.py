"""What an entry says without names and words of anybody: what was done, when, and what was measured stay."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

# Where an entry names people, and where it holds words that somebody wrote.
PEOPLE = ("learner", "by", "who", "to", "from", "people")
WORDS = ("reason", "words", "note", "signer", "said", "detail")
REMOVED = "removed"


def people_in(data: Mapping[str, Any]) -> frozenset[str]:
    """Everybody whom an entry names."""
    return frozenset(name for key in PEOPLE if key in data for name in _names(data[key]))


def _names(value: object) -> Iterable[str]:
    if isinstance(value, str):
        return (value,)
    return tuple(name for name in value if isinstance(name, str)) if isinstance(value, (list, tuple)) else ()


def forgotten(data: Mapping[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """The same entry with everybody by another name of ``names``, and its words removed."""
    return {key: REMOVED if key in WORDS and value else _other(value, names) for key, value in data.items()}


def _other(value: Any, names: Mapping[str, str]) -> Any:
    if isinstance(value, str):
        return names.get(value, value)
    if isinstance(value, (list, tuple)):
        return [_other(one, names) for one in value]
    if isinstance(value, Mapping):
        return {names.get(key, key): _other(one, names) for key, one in value.items()}
    return value


def other_names(people: Iterable[str]) -> dict[str, str]:
    """A name for each that says nothing of them: P1, P2, in an order that tells nothing but the alphabet's."""
    return {name: f"P{n}" for n, name in enumerate(sorted(set(people)), start=1)}

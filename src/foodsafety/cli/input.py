"""What every topic asks of its input."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any, TypeVar

from foodsafety.quantities import CoreError, finite
from foodsafety.rules import Profile, rule_profile


def an_object(data: object) -> Mapping[str, Any]:
    """The data, if it is a JSON object."""
    if not isinstance(data, Mapping):
        raise CoreError("input", "not_an_object")
    return data


def asked_profile(data: Mapping[str, Any]) -> Profile:
    """The rule profile the data asks for by ``code``."""
    code = data.get("code")
    if not isinstance(code, str):
        raise CoreError("code", "profile_needed")
    return rule_profile(code)


def a_list(data: Mapping[str, Any], field: str, of: str) -> list[Any]:
    """A field that must be a list; ``of`` says what of."""
    rows = data.get(field)
    if not isinstance(rows, list):
        raise CoreError(field, "not_a_list", of=of)
    return rows


def optional(data: Mapping[str, Any], field: str, *, low: float = -math.inf, high: float = math.inf) -> float | None:
    """A number that need not be there."""
    value = data.get(field)
    return None if value is None else finite(value, field, low=low, high=high)


_Word = TypeVar("_Word", bound=str)


def one_of(data: Mapping[str, Any], field: str, allowed: Sequence[_Word]) -> _Word | None:
    """One of the allowed words; None where the field is not there."""
    value = data.get(field)
    if value is None:
        return None
    found = next((word for word in allowed if word == value), None)
    if found is None:
        raise CoreError(field, "not_one_of", value=value, allowed=tuple(allowed))
    return found

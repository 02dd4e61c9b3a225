"""Topic ``coldstore``: a fridge or freezer judged by its log."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from foodsafety.cli.input import a_list, asked_profile, one_of
from foodsafety.cooling import StoreKind, judge_store
from foodsafety.quantities import CoreError, tidy_readings

_KINDS: tuple[StoreKind, ...] = ("fridge", "freezer")
_SAID = {"nothing": "cold", "move": "measure", "use_now": "measure"}


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``coldstore``; the last reading is now."""
    profile = asked_profile(data)
    kind = one_of(data, "kind", _KINDS)
    if kind is None:
        raise CoreError("kind", "not_one_of", value=None, allowed=_KINDS)
    readings = tidy_readings(a_list(data, "readings", "[seconds, Celsius]"), counts="higher")
    found = judge_store(readings, profile, kind=kind, now_s=readings[-1][0] if readings else 0.0)
    return {
        "verdict": _SAID.get(found.action, found.action),
        "warm_s": found.above_s,
        "hottest_c": found.worst_c,
        "action": found.action,
        "section": found.section,
    }

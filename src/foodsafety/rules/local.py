"""A kitchen's own limits laid over a shipped profile: signed, dated, reasoned, and flagged where weaker."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from foodsafety.quantities import CoreError, finite
from foodsafety.rules.profile import LocalChange, Profile, profile_data, profile_from_data, rule_profile

# Limits a kitchen may set, and which way is weaker: +1 if a higher figure is, -1 if a lower one.
_CHANGEABLE: tuple[tuple[str, int], ...] = (
    (r"cook\.\w+\.(?:temperature|hold_s|rest_s|stand_s)", -1),
    (r"hold\.(?:cold|freezer)\.temperature", 1),
    (r"hold\.hot\.temperature", -1),
    (r"clock\.\w+\.limit_s", 1),
    (r"cooling\.into_fridge_s", 1),
    (r"dates\.leftover_min_s", 1),
    (r"hands\.scrub_s", -1),
    (r"probe\.pieces", -1),
)


def _weaker_way(path: str) -> int | None:
    return next((way for pattern, way in _CHANGEABLE if re.fullmatch(pattern, path)), None)


def changeable_limits(profile_id: str) -> dict[str, float]:
    """Every limit of a shipped profile that a kitchen may set, with its figure there. Times [s],
    temperatures in the unit the profile states."""
    found: dict[str, float] = {}

    def walk(data: Mapping[str, Any], path: str) -> None:
        for key, value in data.items():
            here = f"{path}.{key}" if path else key
            if isinstance(value, Mapping):
                walk(value, here)
            elif isinstance(value, (int, float)) and not isinstance(value, bool) and _weaker_way(here) is not None:
                found[here] = float(value)

    walk(profile_data(profile_id), "")
    return found


def _check_change(change: LocalChange, base: Mapping[str, float]) -> None:
    if change.path not in base:
        raise CoreError(change.path, "not_a_limit")
    if not change.by.strip() or not change.reason.strip():
        raise CoreError(change.path, "unsigned_limit")
    if change.path.endswith("_s"):
        finite(change.value, change.path, low=0, high=90 * 86400)
    elif change.path == "probe.pieces":
        finite(change.value, change.path, low=1, high=20)
    else:
        finite(change.value, change.path, low=-40, high=212)


def local_profile(base_id: str, changes: Sequence[LocalChange]) -> Profile:
    """A shipped profile with a kitchen's own limits laid over it. The base is never altered; the
    last change of a limit counts. Raises CoreError naming a limit that may not be set so."""
    if not changes:
        return rule_profile(base_id)
    base = changeable_limits(base_id)
    data = profile_data(base_id)
    weaker: set[str] = set()
    for change in changes:
        _check_change(change, base)
        *folders, key = change.path.split(".")
        place = data
        for folder in folders:
            place = place[folder]
        place[key] = change.value
        way = _weaker_way(change.path) or 0
        weaker.discard(change.path)
        if (change.value - base[change.path]) * way > 0:
            weaker.add(change.path)
    return replace(profile_from_data(data), changes=tuple(changes), weaker=frozenset(weaker))

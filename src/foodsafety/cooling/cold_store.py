"""A fridge's or freezer's log judged: is it cold, since when not, and what of the food in it.

The air of an opened fridge warms long before the food does: a short peak is no breach. A log that
has stopped proves nothing about now.
"""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from typing import Literal

from foodsafety.data import data_text
from foodsafety.quantities import Series, Temperature
from foodsafety.rules import Profile

StoreKind = Literal["fridge", "freezer"]
StoreStanding = Literal["cold", "peak", "alarm", "silent", "no_reading"]
# What to do with the food: check its own temperature and move it, use it now, throw it away, or
# (freezer) it is still frozen hard.
StoreAction = Literal["nothing", "watch", "move", "use_now", "discard", "measure"]


@cache
def _file() -> dict[str, float]:
    return tomllib.loads(data_text("cold_stores.toml"))


@dataclass(frozen=True, slots=True, kw_only=True)
class StoreVerdict:
    """How a store stands: since when [s] its air is above the limit, for how long it has been above
    it over the whole log [s], the last and the worst reading [C], and what to do with its food."""

    standing: StoreStanding
    last_c: float | None
    worst_c: float | None
    above_since_s: float | None
    above_s: float
    action: StoreAction
    section: str


def judge_store(readings: Series, profile: Profile, *, kind: StoreKind, now_s: float) -> StoreVerdict:
    """A store's log [(s, C), in order] at a moment. Air above the limit is taken as food above it:
    a reading of the food itself may show better, the log cannot."""
    rule = profile.hold["freezer" if kind == "freezer" else "cold"]
    if not readings:
        return StoreVerdict(
            standing="no_reading",
            last_c=None,
            worst_c=None,
            above_since_s=None,
            above_s=0.0,
            action="measure",
            section=rule.section,
        )
    last_s, last_c = readings[-1]
    since, longest = _spells(readings, rule.temperature)
    # While nobody reads, a store that was warm is taken to be warm still.
    running = max(0.0, now_s - since) if since is not None else 0.0
    longest = max(longest, running)
    quiet: StoreStanding = "silent" if now_s - last_s > _file()["silent_s"] else "cold"
    warm: StoreStanding = "alarm" if running > _file()["grace_s"] else "peak"
    standing = quiet if since is None else warm
    return StoreVerdict(
        standing=standing,
        last_c=last_c,
        worst_c=max(temp for _, temp in readings),
        above_since_s=since,
        above_s=longest,
        action=_action(profile, kind, standing, longest, last_c),
        section=rule.section,
    )


def _spells(readings: Series, limit: Temperature) -> tuple[float | None, float]:
    """Since when [s] the air is above the limit (None: it is not), and the longest spell that has ended [s]."""
    since: float | None = None
    longest = 0.0
    for (t0, c0), (t1, c1) in pairwise(readings):
        crossing_s = t1 if c1 == c0 else t0 + (t1 - t0) * (limit.c - c0) / (c1 - c0)
        if limit.kept_by(c0) and not limit.kept_by(c1):
            since = crossing_s
        elif not limit.kept_by(c0) and since is None:
            since = t0
        if since is not None and limit.kept_by(c1):
            longest = max(longest, crossing_s - since)
            since = None
    if since is None and not limit.kept_by(readings[-1][1]):
        since = readings[-1][0]
    return since, longest


def _action(profile: Profile, kind: StoreKind, standing: StoreStanding, above_s: float, last_c: float) -> StoreAction:
    if standing == "silent":
        return "measure"
    if above_s <= _file()["grace_s"]:
        return "watch" if standing == "peak" else "nothing"
    if kind == "freezer" and last_c <= _file()["hard_frozen_c"]:
        return "watch"  # hard frozen still: quality, not safety
    clock = profile.clock_for("cold", None)
    if above_s > clock.limit_s:
        return "discard"
    if clock.warn_s is not None and above_s > clock.warn_s:
        return "use_now"
    return "move" if standing == "alarm" else "measure"

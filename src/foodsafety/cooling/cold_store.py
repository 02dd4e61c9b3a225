"""A fridge's or freezer's log judged: is it cold, since when not, and what of the food in it.

The air of an opened fridge warms long before the food does: a short peak is no breach. A log that
has stopped proves nothing about now.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.quantities import Series, Temperature
from foodsafety.rules import Profile

StoreKind = Literal["fridge", "freezer"]
StoreStanding = Literal["cold", "peak", "alarm", "silent", "no_reading"]
# What to do with the food: check its own temperature and move it, use it now, throw it away, or
# (freezer) it is still frozen hard.
StoreAction = Literal["nothing", "watch", "move", "use_now", "discard", "measure"]


@cache
def _file() -> dict[str, Any]:
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


@dataclass(frozen=True, slots=True)
class _Spells:
    """Spells above a temperature over a log: how long each was [s], and since when [s] the one that
    has not ended (None: none)."""

    ended_s: tuple[float, ...]
    since_s: float | None

    def lengths_s(self, now_s: float) -> tuple[float, ...]:
        """Every spell; while nobody reads, a store that was warm is taken to be warm still."""
        running = () if self.since_s is None else (max(0.0, now_s - self.since_s),)
        return (*self.ended_s, *running)


def judge_store(readings: Series, profile: Profile, *, kind: StoreKind, now_s: float) -> StoreVerdict:
    """A store's log [(s, C), in order] at a moment. Air above the limit is taken as food above it:
    a reading of the food itself may show better, the log cannot. Spells add up over the log; a short
    peak (a door, a defrost) adds nothing to the time held against food."""
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
    spells = _spells(readings, rule.temperature)
    standing = _standing(spells, readings[-1][0], now_s)
    warm = spells.lengths_s(now_s)
    if kind == "fridge":
        action = _fridge_action(profile, standing, warm)
    else:
        action = _freezer_action(profile, standing, readings, warm, now_s)
    return StoreVerdict(
        standing=standing,
        last_c=readings[-1][1],
        worst_c=max(temp for _, temp in readings),
        above_since_s=spells.since_s,
        above_s=sum(warm),
        action=action,
        section=rule.section,
    )


def _standing(spells: _Spells, last_s: float, now_s: float) -> StoreStanding:
    if spells.since_s is None:
        return "silent" if now_s - last_s > _file()["silent_s"] else "cold"
    return "alarm" if now_s - spells.since_s > _file()["grace_s"] else "peak"


def _spells(readings: Series, limit: Temperature) -> _Spells:
    """The spells above a limit, straight between readings."""
    since: float | None = None
    ended: list[float] = []
    for (t0, c0), (t1, c1) in pairwise(readings):
        crossing_s = t1 if c1 == c0 else t0 + (t1 - t0) * (limit.c - c0) / (c1 - c0)
        if limit.kept_by(c0) and not limit.kept_by(c1):
            since = crossing_s
        elif not limit.kept_by(c0) and since is None:
            since = t0
        if since is not None and limit.kept_by(c1):
            ended.append(crossing_s - since)
            since = None
    if since is None and not limit.kept_by(readings[-1][1]):
        since = readings[-1][0]
    return _Spells(tuple(ended), since)


def held_above_s(readings: Series, limit: Temperature, now_s: float) -> float:
    """The time [s] that air above a limit is held against the food in it: every spell that is longer than a peak."""
    return _held_s(_spells(readings, limit).lengths_s(now_s)) if readings else 0.0


def unread_s(readings: Series, from_s: float, until_s: float) -> float:
    """The time [s] of a stretch of which a store's log says nothing: every silence that is longer than a logger may be
    silent."""
    moments = (from_s, *(at_s for at_s, _c in readings if from_s <= at_s <= until_s), until_s)
    gaps = (after - before for before, after in pairwise(moments))
    return sum(gap for gap in gaps if gap > _file()["silent_s"])


def _held_s(spells_s: Iterable[float]) -> float:
    """The time [s] held against food: all that is longer than a peak."""
    return sum(one for one in spells_s if one > _file()["grace_s"])


def _fridge_action(profile: Profile, standing: StoreStanding, warm_s: tuple[float, ...]) -> StoreAction:
    if standing == "silent":
        return "measure"
    clock = profile.clock_for("cold", None)
    held_s = _held_s(warm_s)
    if clock.over(held_s):
        return "discard"
    if clock.warn_s is not None and clock.no_return(held_s):
        return "use_now"
    if sum(warm_s) <= _file()["grace_s"]:
        return "watch" if standing == "peak" else "nothing"
    return "move" if standing == "alarm" else "measure"


def _freezer_action(
    profile: Profile, standing: StoreStanding, readings: Series, warm_s: tuple[float, ...], now_s: float
) -> StoreAction:
    """A freezer's food is in question by how warm it got, not by how cold it is again: once it was no
    longer hard frozen it has thawed, and its time above cold holding counts as time out."""
    if standing == "silent":
        return "measure"
    thawed = _spells(readings, Temperature(value=_file()["hard_frozen_c"], unit="C")).lengths_s(now_s)
    cold = profile.hold["cold"].temperature
    out_s = held_above_s(readings, cold, now_s)
    clock = profile.clock_for("cold", None)
    if clock.over(out_s):
        return "discard"
    if _held_s(thawed):
        return "use_now" if clock.warn_s is not None and clock.no_return(out_s) else "measure"
    if _held_s(warm_s) or standing == "peak":
        return "watch"  # hard frozen still: quality, not safety
    return "nothing"

"""Out-of-temperature clocks: time adds up over trips and is never given back."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.quantities import Series, Temperature
from foodsafety.rules import ClockLimit, Profile


@dataclass(frozen=True, slots=True, kw_only=True)
class Clock:
    """Time a food has spent out of temperature control.

    ``spent_s`` over trips that have ended, ``since_s`` the start of the one that has not.
    """

    spent_s: float = 0.0
    since_s: float | None = None

    def out(self, at_s: float) -> Clock:
        """Out of control from ``at_s``; a clock already running runs on."""
        return self if self.since_s is not None else Clock(spent_s=self.spent_s, since_s=at_s)

    def back(self, at_s: float) -> Clock:
        """Under control again at ``at_s``; a time before the start counts nothing."""
        return Clock(spent_s=self.total_s(at_s))

    def total_s(self, now_s: float) -> float:
        """Seconds out so far; a clock that was set back cannot take any away."""
        running = max(0.0, now_s - self.since_s) if self.since_s is not None else 0.0
        return self.spent_s + running


ClockStanding = Literal["within", "over"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ClockVerdict:
    """A clock against its limit; at the limit exactly it is still within."""

    standing: ClockStanding
    total_s: float
    remaining_s: float
    limit: ClockLimit


def judge_clock(clock: Clock, limit: ClockLimit, *, now_s: float) -> ClockVerdict:
    """How a clock stands against a limit at a moment."""
    total_s = clock.total_s(now_s)
    return ClockVerdict(
        standing="over" if total_s > limit.limit_s else "within",
        total_s=total_s,
        remaining_s=max(0.0, limit.limit_s - total_s),
        limit=limit,
    )


def out_of_control_s(readings: Series, cold: Temperature, hot: Temperature) -> float:
    """Time [s] a food was between cold and hot holding, over every trip: exact for readings that are
    straight between their points. At a limit exactly it is still under control."""
    return sum(_between_s(start, end, cold.c, hot.c) for start, end in pairwise(readings))


def _between_s(start: tuple[float, float], end: tuple[float, float], low_c: float, high_c: float) -> float:
    (t0, c0), (t1, c1) = start, end
    if c0 == c1:
        return t1 - t0 if low_c + 1e-9 < c0 < high_c - 1e-9 else 0.0
    inside = min(max(c0, c1), high_c) - max(min(c0, c1), low_c)
    return max(0.0, inside) / abs(c1 - c0) * (t1 - t0)


ClockSchool = Literal["rules", "2_4", "4_6"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SchoolVerdict:
    """What a school of clocks says of a time out: back into the cold, use now, or throw away."""

    action: Literal["keep", "use_now", "discard"]
    limit_s: float
    remaining_s: float
    section: str


def school_verdict(
    out_s: float, school: ClockSchool, profile: Profile, *, ambient_c: float | None, readings: Series = ()
) -> SchoolVerdict:
    """A time out of control [s] held against a school of clocks. Exactly at a limit is still within.

    "4_6" gives six hours only where readings show that the food began at 41 F or below and never
    passed 70 F; without readings four count.
    """
    keep_s, limit_s, section = _school_limits(school, profile, ambient_c, readings)
    if out_s > limit_s:
        return SchoolVerdict(action="discard", limit_s=limit_s, remaining_s=0.0, section=section)
    if out_s > keep_s:
        return SchoolVerdict(action="use_now", limit_s=limit_s, remaining_s=limit_s - out_s, section=section)
    return SchoolVerdict(action="keep", limit_s=limit_s, remaining_s=keep_s - out_s, section=section)


@cache
def _schools() -> dict[str, dict[str, Any]]:
    return tomllib.loads(data_text("clock_schools.toml"))


def _school_limits(
    school: ClockSchool, profile: Profile, ambient_c: float | None, readings: Series
) -> tuple[float, float, str]:
    """Until when [s] it may go back into the cold, until when it may be used, and where that is written."""
    if school == "rules":
        clock = profile.clock_for("cold", ambient_c)
        return (clock.limit_s if clock.warn_s is None else clock.warn_s), clock.limit_s, clock.section
    row = _schools()["two_four" if school == "2_4" else "four_six"]
    cool = "cool_limit_s" in row and _stayed_cool(row, readings)
    return float(row["keep_s"]), float(row["cool_limit_s" if cool else "limit_s"]), row["section"]


def _stayed_cool(row: Mapping[str, Any], readings: Series) -> bool:
    """True only where readings show it."""
    begins, highest = Temperature(**row["begins_at"]), Temperature(**row["never_above"])
    return bool(readings) and begins.kept_by(readings[0][1]) and all(highest.kept_by(c) for _, c in readings)

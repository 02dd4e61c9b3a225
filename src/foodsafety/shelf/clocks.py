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
from foodsafety.rules import ClockLimit


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


ClockStanding = Literal["within", "use_now", "over"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ClockVerdict:
    """A clock against its limit: "within", "use_now" (too long out to go back into the cold), "over"."""

    standing: ClockStanding
    total_s: float
    remaining_s: float
    limit: ClockLimit


def judge_clock(clock: Clock, limit: ClockLimit, *, now_s: float) -> ClockVerdict:
    """How a clock stands against a limit at a moment."""
    total_s = clock.total_s(now_s)
    return ClockVerdict(
        standing=standing_of(total_s, limit),
        total_s=total_s,
        remaining_s=max(0.0, limit.limit_s - total_s),
        limit=limit,
    )


def standing_of(out_s: float, limit: ClockLimit) -> ClockStanding:
    """What a limit says of a time out [s]."""
    if limit.over(out_s):
        return "over"
    return "use_now" if limit.no_return(out_s) else "within"


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


def trips_out(readings: Series, cold: Temperature, hot: Temperature) -> tuple[Literal["cold", "hot", "began_out"], ...]:
    """Where each trip out of control began: from cold holding, from hot holding, or nobody saw it."""
    found: list[Literal["cold", "hot", "began_out"]] = []
    from_where: Literal["cold", "hot", "began_out"] = "began_out"
    out = False
    for _, core_c in readings:
        if cold.kept_by(core_c) or hot.met_by(core_c):
            from_where, out = ("cold" if cold.kept_by(core_c) else "hot"), False
        elif not out:
            found.append(from_where)
            out = True
    return tuple(found)


ClockSchool = Literal["rules", "2_4", "4_6"]
ClockAction = Literal["keep", "use_now", "discard", "cannot_judge"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SchoolVerdict:
    """What a school of clocks says of a time out: back into the cold, use now, throw away, or that
    it cannot be said (how long the food was out before, or how it began, nobody knows)."""

    action: ClockAction
    limit_s: float
    remaining_s: float
    section: str
    rule: str = ""


def school_verdict(out_s: float, school: Literal["2_4", "4_6"], readings: Series = ()) -> SchoolVerdict:
    """A time out of control [s] held against a school of clocks that a kitchen follows."""
    return _two_four(out_s) if school == "2_4" else _four_six(out_s, readings)


@cache
def _schools() -> dict[str, dict[str, Any]]:
    return tomllib.loads(data_text("clock_schools.toml"))


def _limit_of(row: Mapping[str, Any], limit_s: float) -> ClockLimit:
    return ClockLimit(
        limit_s=limit_s,
        warn_s=float(row["keep_s"]),
        action="discard",
        section=row["section"],
        or_more=bool(row.get("or_more", False)),
    )


def ruled_by(out_s: float, limit: ClockLimit, rule: str) -> SchoolVerdict:
    """A time out [s] under a limit."""
    actions: dict[ClockStanding, ClockAction] = {"within": "keep", "use_now": "use_now", "over": "discard"}
    standing = standing_of(out_s, limit)
    until_s = limit.warn_s if standing == "within" and limit.warn_s is not None else limit.limit_s
    return SchoolVerdict(
        action=actions[standing],
        limit_s=limit.limit_s,
        remaining_s=max(0.0, until_s - out_s),
        section=limit.section,
        rule=rule,
    )


def _two_four(out_s: float) -> SchoolVerdict:
    row = _schools()["two_four"]
    return ruled_by(out_s, _limit_of(row, float(row["limit_s"])), "two-four")


def _four_six(out_s: float, readings: Series) -> SchoolVerdict:
    """Six hours for food that is seen to begin cold, unless it passes 70 F; four for food that was hot;
    food that was neither when it was taken out is not under time control at all."""
    row = _schools()["four_six"]
    begins, hot, highest = (Temperature(**row[name]) for name in ("begins_at", "hot_at", "never_above"))
    four = _limit_of(row, float(row["limit_s"]))
    if readings and begins.kept_by(readings[0][1]):
        six = _limit_of(row, float(row["cool_limit_s"]))
        if not all(highest.kept_by(core_c) for _, core_c in readings):
            return SchoolVerdict(
                action="discard", limit_s=six.limit_s, remaining_s=0.0, section=six.section, rule="above-70-f"
            )
        return ruled_by(out_s, six, "four-six-cool")
    found = ruled_by(out_s, four, "four-six")
    if found.action == "discard" or (readings and hot.met_by(readings[0][1])):
        return found
    return SchoolVerdict(
        action="cannot_judge",
        limit_s=four.limit_s,
        remaining_s=0.0,
        section=four.section,
        rule="time-control-begins-cold-or-hot",
    )

"""Cooling judged: how long a food took through each stage of a profile's rule, and what is to come.

Crossings are exact, by interpolation. Nothing is rounded towards safe: a middle limit counts as
reached only when the curve stays at or below it until the end of the cooling.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from itertools import pairwise
from typing import Literal

from foodsafety.heat import CoolingCourses, Forecast, cooling_courses
from foodsafety.quantities import Series
from foodsafety.rules import CoolingStage, Profile

CoolingOutcome = Literal["pass", "fail", "unfinished", "not_started"]
# A stretch without readings [s] that is told beside the verdict: nobody saw what happened in it.
GAP_S = 3600.0


@dataclass(frozen=True, slots=True, kw_only=True)
class StageResult:
    """One stage of the rule: from when [s] its clock runs, when the limit was reached (None: not
    yet), by when it had to be."""

    stage: CoolingStage
    start_s: float
    reached_s: float | None
    due_s: float
    standing: Literal["met", "broken", "open"]


@dataclass(frozen=True, slots=True)
class CoolingWarning:
    """A stage that at this rate will be broken, and when its limit would be reached."""

    stage: StageResult
    ahead: Forecast


@dataclass(frozen=True, slots=True, kw_only=True)
class CoolingVerdict:
    """The verdict with its stages. ``failed_stage`` counts from 1. ``forecasts`` are, by limit [C],
    when the limits not yet reached will be; a limit about which nothing can be said is not in it.
    ``gaps`` are stretches [s] between readings longer than an hour."""

    verdict: CoolingOutcome
    start_s: float | None
    stages: tuple[StageResult, ...]
    failed_stage: int | None = None
    forecasts: Mapping[float, Forecast] = field(default_factory=dict)
    gaps: tuple[tuple[float, float], ...] = ()
    section: str = ""

    @property
    def crossings_s(self) -> Mapping[float, float | None]:
        """When each limit [C] was reached, on the readings' own time."""
        return {row.stage.end.c: row.reached_s for row in self.stages}

    @property
    def forecast_s(self) -> float | None:
        """When [s, on the readings' own time] the last limit will be reached at this rate."""
        last_c = min((row.stage.end.c for row in self.stages), default=0.0)
        return self.forecasts[last_c].at_s if last_c in self.forecasts else None

    @property
    def warning(self) -> CoolingWarning | None:
        """The first stage that at this rate will be broken; None where none will."""
        for row in self.stages:
            ahead = self.forecasts.get(row.stage.end.c)
            if row.standing == "open" and ahead is not None and ahead.at_s > row.due_s:
                return CoolingWarning(row, ahead)
        return None


def _falls(series: Series, limit_c: float) -> list[float]:
    """Every time at which the curve comes down to a limit from above it."""
    found = []
    for (t0, c0), (t1, c1) in pairwise(series):
        if c0 > limit_c >= c1:
            found.append(t0 + (t1 - t0) * (c0 - limit_c) / (c0 - c1))
    return found


def _start_s(series: Series, limit_c: float) -> float | None:
    """When the clock starts: where the curve falls through the limit, or at the first reading if
    that is already at or below it."""
    if series[0][1] <= limit_c:
        return series[0][0]
    return next(iter(_falls(series, limit_c)), None)


def _first_at_or_below(series: Series, limit_c: float, from_s: float) -> float | None:
    if series[0][1] <= limit_c and series[0][0] >= from_s:
        return series[0][0]
    return next((time_s for time_s in _falls(series, limit_c) if time_s >= from_s), None)


def _stays_below(series: Series, limit_c: float, from_s: float, until_s: float | None) -> float | None:
    """From when on the curve stays at or below a limit, up to a time; None if it does not."""
    part = series if until_s is None else _up_to(series, until_s)
    if not part or part[-1][1] > limit_c:
        return None
    falls = _falls(part, limit_c)
    return max(falls[-1], from_s) if falls else max(part[0][0], from_s)


def _up_to(series: Series, until_s: float) -> Series:
    """The curve up to a time, which may lie between two readings."""
    for (t0, c0), (t1, c1) in pairwise(series):
        if t0 < until_s < t1:
            return (*(row for row in series if row[0] <= t0), (until_s, c0 + (c1 - c0) * (until_s - t0) / (t1 - t0)))
    return tuple(row for row in series if row[0] <= until_s)


def _judged(series: Series, stages: tuple[CoolingStage, ...], start_s: float) -> tuple[StageResult, ...]:
    lowest = min(stage.end.c for stage in stages)
    done_s = _first_at_or_below(series, lowest, start_s)
    last_s = series[-1][0]
    rows: list[StageResult] = []
    for stage in stages:
        before = next((row for row in rows if row.stage.end.c == stage.start.c), None)
        begun_s = start_s if before is None else before.reached_s
        if begun_s is None:
            begun_s = last_s  # its clock has not begun: the stage before it is still open
        reached_s = done_s if stage.end.c == lowest else _stays_below(series, stage.end.c, begun_s, done_s)
        due_s = begun_s + stage.within_s
        if reached_s is not None:
            standing: Literal["met", "broken", "open"] = "met" if reached_s <= due_s else "broken"
        else:
            standing = "broken" if last_s > due_s else "open"
        rows.append(StageResult(stage=stage, start_s=begun_s, reached_s=reached_s, due_s=due_s, standing=standing))
    return tuple(rows)


def stages_of(profile: Profile, first_c: float | None = None) -> tuple[CoolingStage, ...]:
    """The stages of a profile's rule; where it measures none, from hot to cold holding within the
    time it gives to reach the fridge. Food first read (``first_c`` [C]) no hotter than food made at room
    temperature has that stage's time in all, where the profile has one."""
    rule = profile.cooling
    if rule.ambient and first_c is not None and rule.ambient.start.kept_by(first_c):
        return tuple(replace(stage, within_s=min(stage.within_s, rule.ambient.within_s)) for stage in rule.stages)
    hot, cold = profile.hold["hot"].temperature, profile.hold["cold"].temperature
    return rule.stages or (CoolingStage(start=hot, end=cold, within_s=rule.into_fridge_s),)


def judge_cooling(
    readings: Series, profile: Profile, *, around_c: float | None = None, look_ahead: bool = True
) -> CoolingVerdict:
    """The verdict on a cooling log [(s, C), in order]. Without a reading nothing has started.

    A profile that states no measured stages (into the fridge within a time) passes only a log that
    is cold within that time; otherwise a log alone cannot tell, and it stays unfinished.
    """
    rule = profile.cooling
    stages = stages_of(profile, readings[0][1] if readings else None)
    start_s = _start_s(readings, stages[0].start.c) if readings else None
    if start_s is None:
        return CoolingVerdict(verdict="not_started", start_s=None, stages=(), section=rule.section)
    rows = _judged(readings, stages, start_s)
    broken = next((n for n, row in enumerate(rows, start=1) if row.standing == "broken"), None)
    if broken is not None and not rule.stages:
        broken = None
        rows = tuple(_unjudged(row) for row in rows)
    open_rows = [row for row in rows if row.standing == "open"]
    verdict: CoolingOutcome = "fail" if broken else "unfinished" if open_rows else "pass"
    waiting = [row.stage.end.c for row in rows if row.reached_s is None] if look_ahead else []
    return CoolingVerdict(
        verdict=verdict,
        start_s=start_s,
        stages=rows,
        failed_stage=broken,
        forecasts=_forecasts(readings, waiting, cooling_courses(readings, around_c=around_c)) if waiting else {},
        gaps=tuple((a, b) for (a, _), (b, _) in pairwise(readings) if b - a > GAP_S),
        section=rule.section,
    )


def _unjudged(row: StageResult) -> StageResult:
    return StageResult(stage=row.stage, start_s=row.start_s, reached_s=row.reached_s, due_s=row.due_s, standing="open")


def _forecasts(readings: Series, limits_c: list[float], found: CoolingCourses | None) -> dict[float, Forecast]:
    if found is None:
        return {}
    ahead = {limit_c: found.reaches(limit_c) for limit_c in limits_c if readings[-1][1] > limit_c}
    return {limit_c: one for limit_c, one in ahead.items() if one is not None}

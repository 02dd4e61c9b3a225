"""Cooling judged: how long a food took through each stage of a profile's rule, and what is to come.

Crossings are exact, by interpolation. Nothing is rounded towards safe: a middle limit counts as
reached only when the curve stays at or below it until the end of the cooling.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from foodsafety.codes import CoolingStage, Profile
from foodsafety.quantities import Series

Verdict = Literal["pass", "fail", "unfinished", "not_started"]
LEAST_READINGS = 4
LONGEST_FORECAST_S = 48 * 3600.0


@dataclass(frozen=True, slots=True, kw_only=True)
class StageResult:
    """One stage of the rule: from when [s] its clock runs, when the limit was reached (None: not
    yet), by when it had to be."""

    stage: CoolingStage
    start_s: float
    reached_s: float | None
    due_s: float
    standing: Literal["met", "broken", "open"]


@dataclass(frozen=True, slots=True, kw_only=True)
class CoolingVerdict:
    """The verdict with its stages. ``failed_stage`` counts from 1. ``forecast_s`` is when [s, on the
    readings' own time] the last limit will be reached at this rate; None where nothing can be said."""

    verdict: Verdict
    start_s: float | None
    stages: tuple[StageResult, ...]
    failed_stage: int | None = None
    forecast_s: float | None = None
    section: str = ""

    @property
    def crossings_s(self) -> Mapping[float, float | None]:
        """When each limit [C] was reached, on the readings' own time."""
        return {row.stage.end.c: row.reached_s for row in self.stages}


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
    part = tuple(row for row in series if until_s is None or row[0] <= until_s)
    if not part or part[-1][1] > limit_c:
        return None
    falls = _falls(part, limit_c)
    return max(falls[-1], from_s) if falls else max(part[0][0], from_s)


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


def judge_cooling(readings: Series, profile: Profile) -> CoolingVerdict:
    """The verdict on a cooling log [(s, C), in order]. Without a reading nothing has started.

    A profile that states no measured stages (into the fridge within a time) passes only a log that
    is cold within that time; otherwise a log alone cannot tell, and it stays unfinished.
    """
    rule = profile.cooling
    stages = rule.stages or (
        CoolingStage(
            start=profile.hold["hot"].temperature, end=profile.hold["cold"].temperature, within_s=rule.into_fridge_s
        ),
    )
    start_s = _start_s(readings, stages[0].start.c) if readings else None
    if start_s is None:
        return CoolingVerdict(verdict="not_started", start_s=None, stages=(), section=rule.section)
    rows = _judged(readings, stages, start_s)
    broken = next((n for n, row in enumerate(rows, start=1) if row.standing == "broken"), None)
    if broken is not None and not rule.stages:
        broken = None
        rows = tuple(_unjudged(row) for row in rows)
    open_rows = [row for row in rows if row.standing == "open"]
    verdict: Verdict = "fail" if broken else "unfinished" if open_rows else "pass"
    last = min(stages, key=lambda stage: stage.end.c)
    forecast_s = forecast(readings, last.end.c) if any(row.reached_s is None for row in rows) else None
    return CoolingVerdict(
        verdict=verdict,
        start_s=start_s,
        stages=rows,
        failed_stage=broken,
        forecast_s=forecast_s,
        section=rule.section,
    )


def _unjudged(row: StageResult) -> StageResult:
    return StageResult(stage=row.stage, start_s=row.start_s, reached_s=row.reached_s, due_s=row.due_s, standing="open")


def forecast(readings: Series, limit_c: float) -> float | None:
    """When [s] the curve comes down to a limit at its present rate: an exponential through the last
    half of the readings towards surroundings that fit them best. None for fewer than four readings,
    for a curve that does not fall, or for surroundings that are not below the limit.

    Error: the lag at the beginning of a cooling makes an early forecast too late, never too early.
    """
    last_s, last_c = readings[-1]
    if last_c <= limit_c or len(readings) < LEAST_READINGS:
        return None
    half = [row for row in readings if row[0] >= (readings[0][0] + last_s) / 2]
    tail = half if len(half) >= LEAST_READINGS else list(readings[-LEAST_READINGS:])
    lowest_c = min(temp for _, temp in tail)
    best: tuple[float, float, float, float] | None = None
    for step in range(1, 200):
        around_c = min(lowest_c - 0.05, limit_c + 20) - 0.25 * step
        fit = _exponential(tail, around_c)
        if fit and (best is None or fit[0] < best[0]):
            best = (*fit, around_c)
    if best is None or best[3] >= limit_c:
        return None
    _, rate, start, around_c = best
    wait_s = (start - math.log(limit_c - around_c)) / rate
    found_s = tail[0][0] + wait_s
    return found_s if last_s <= found_s <= last_s + LONGEST_FORECAST_S else None


def _exponential(rows: list[tuple[float, float]], around_c: float) -> tuple[float, float, float] | None:
    """(squared error [C2], rate [1/s], log of the difference at the first row) of the best
    exponential fall towards ``around_c``; None if it does not fall."""
    first_s = rows[0][0]
    xs = [time_s - first_s for time_s, _ in rows]
    ys = [math.log(temp - around_c) for _, temp in rows]
    mean_x, mean_y = sum(xs) / len(xs), sum(ys) / len(ys)
    spread = sum((x - mean_x) ** 2 for x in xs)
    if not spread:
        return None
    slope = sum((x - mean_x) * (y - mean_y) for x, y in zip(xs, ys, strict=True)) / spread
    if slope >= -1e-9:
        return None
    start = mean_y - slope * mean_x
    wrong = sum((temp - around_c - math.exp(start + slope * x)) ** 2 for x, (_, temp) in zip(xs, rows, strict=True))
    return wrong, -slope, start

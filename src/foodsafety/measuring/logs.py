"""A log of temperatures looked at before it is believed.

Nothing is dropped: a reading that cannot be is kept and flagged, and no verdict rests on it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from foodsafety.quantities import Series, Unit, c_from_f

ReadingDoubt = Literal["jump", "impossible", "out_of_order", "repeated", "conflict", "missing", "unit"]

# No food's core moves faster than this [C/s] in a kitchen; a probe pulled out or a slip does.
_FASTEST_C_S = 0.5
_JUMP_C = 15.0
_LEAST_C, _MOST_C = -60.0, 300.0


@dataclass(frozen=True, slots=True)
class ReadingFlag:
    """Why a row [from 1] is not trusted or not counted."""

    row: int
    doubt: ReadingDoubt
    value: str


@dataclass(frozen=True, slots=True, kw_only=True)
class TemperatureLog:
    """A log as it was brought: ``series`` is what is believed [(s, C), in order, one per time],
    ``kept`` all that could be read, ``flags`` what was found wrong."""

    series: Series
    kept: Series
    flags: tuple[ReadingFlag, ...]
    gaps: tuple[tuple[float, float], ...]


def review_log(
    rows: Iterable[tuple[float | None, float | None]],
    *,
    counts: Literal["lower", "higher"],
    gap_s: float = 3600.0,
    unit: Unit = "C",
) -> TemperatureLog:
    """Readings [(s, temperature)], put in order; of conflicting repeats ``counts`` says which is
    believed. A jump that no food can make, or one that the next reading takes back, is flagged; so
    is a sudden one at the very end, which nothing has confirmed yet."""
    flags: list[ReadingFlag] = []
    at: dict[float, tuple[float, int]] = {}
    last_s: float | None = None
    for n, (time_s, value) in enumerate(rows, start=1):
        if time_s is None or value is None:
            flags.append(ReadingFlag(n, "missing", ""))
            continue
        reading_c = c_from_f(value) if unit == "F" else value
        if not _LEAST_C <= reading_c <= _MOST_C:
            flags.append(ReadingFlag(n, "impossible", f"{value:g}"))
            continue
        if last_s is not None and time_s < last_s:
            flags.append(ReadingFlag(n, "out_of_order", f"{value:g}"))
        last_s = time_s if last_s is None else max(last_s, time_s)
        if time_s in at:
            before = at[time_s][0]
            flags.append(ReadingFlag(n, "repeated" if before == reading_c else "conflict", f"{value:g}"))
            better = min(before, reading_c) if counts == "lower" else max(before, reading_c)
            at[time_s] = (better, n)
        else:
            at[time_s] = (reading_c, n)
    kept = [(time_s, reading_c, n) for time_s, (reading_c, n) in sorted(at.items())]
    jumps = _jumps(kept)
    flags += [ReadingFlag(n, "jump", f"{reading_c:g}") for _, reading_c, n in jumps]
    doubted = {n for _, _, n in jumps}
    series = tuple((time_s, reading_c) for time_s, reading_c, n in kept if n not in doubted)
    gaps = tuple((a, b) for (a, _), (b, _) in pairwise(series) if b - a > gap_s)
    return TemperatureLog(
        series=series,
        kept=tuple((time_s, reading_c) for time_s, reading_c, _ in kept),
        flags=tuple(sorted(flags, key=lambda flag: flag.row)),
        gaps=gaps,
    )


def _jumps(rows: list[tuple[float, float, int]]) -> list[tuple[float, float, int]]:
    found: list[tuple[float, float, int]] = []
    trusted: tuple[float, float, int] | None = None
    for i, row in enumerate(rows):
        after = rows[i + 1] if i + 1 < len(rows) else None
        if trusted is None or not (_too_fast(trusted, row) or (after and _spike(trusted, row, after))):
            trusted = row
        elif after and _agrees(row, after, trusted):
            trusted = row  # the next one agrees with it: it was the food that was moved
        else:
            found.append(row)
    return found


def _spike(before: tuple[float, float, int], row: tuple[float, float, int], after: tuple[float, float, int]) -> bool:
    """True for one reading far from both its neighbours, which agree: a probe that slipped out."""
    up, down = row[1] - before[1], row[1] - after[1]
    return up * down > 0 and min(abs(up), abs(down)) > _JUMP_C and abs(after[1] - before[1]) < abs(up) / 2


def _agrees(row: tuple[float, float, int], after: tuple[float, float, int], trusted: tuple[float, float, int]) -> bool:
    return not _too_fast(row, after) and abs(after[1] - row[1]) < abs(after[1] - trusted[1])


def _too_fast(a: tuple[float, float, int], b: tuple[float, float, int]) -> bool:
    change = abs(b[1] - a[1])
    return change > _JUMP_C and change > _FASTEST_C_S * (b[0] - a[0])

"""Readings and times as people type them."""

from __future__ import annotations

import re
from dataclasses import dataclass

from foodsafety.quantities import CoreError


@dataclass(frozen=True, slots=True, kw_only=True)
class TypedLog:
    """Readings typed by hand: rows of (s, temperature as typed), and the seconds after midnight of
    the time 0 where clock times were typed."""

    rows: tuple[tuple[float | None, float | None], ...]
    clock_s: float | None


MOST_LINES = 2000


def typed_readings(text: str) -> TypedLog:
    """One reading on each line: minutes (0, 12.5) or a clock time (13:20), then the temperature.
    Raises CoreError naming the line that is no such pair, or whose clock time is before the one above
    it; times are of one sort, and run on past midnight."""
    found: list[tuple[float, float]] = []
    clocks = 0
    for n, line in enumerate(text.splitlines(), start=1):
        if not line.strip():
            continue
        if n > MOST_LINES:
            raise CoreError("readings", "too_many_lines", most=MOST_LINES)
        parts = re.split(r"[\s;|]+|,(?=\s)", line.strip())
        parts = [part for part in parts if part]
        if len(parts) != 2 or (value := number_in(parts[1])) is None:
            raise CoreError(f"readings line {n}", "not_a_reading", line=line.strip()[:40])
        clock = clock_in(parts[0])
        minutes = None if clock is not None else number_in(parts[0])
        if clock is None and minutes is None:
            raise CoreError(f"readings line {n}", "not_a_time", value=parts[0][:20])
        clocks += clock is not None
        if clock is not None and found:
            clock = _run_on(clock, found[-1][0], n)
        found.append((clock if clock is not None else 60.0 * (minutes or 0.0), value))
    if not found:
        raise CoreError("readings", "no_readings")
    if clocks not in (0, len(found)):
        raise CoreError("readings", "mixed_times")
    first = found[0][0] if clocks else 0.0
    return TypedLog(rows=tuple((at_s - first, value) for at_s, value in found), clock_s=first if clocks else None)


_DAY_S = 86400.0
# A clock time this far before the line above it is past midnight; nearer than that it is out of order,
# and nobody can tell which of the two lines is wrong.
_LONGEST_STEP_S = 18 * 3600.0


def _run_on(clock_s: float, last_s: float, line: int) -> float:
    """A clock time after the one above it: times run forward, over midnight if need be."""
    while clock_s < last_s:
        clock_s += _DAY_S
    if clock_s - last_s > _LONGEST_STEP_S:
        raise CoreError(f"readings line {line}", "times_out_of_order")
    return clock_s


@dataclass(frozen=True, slots=True)
class PieceReading:
    """A core reading of one piece [s, temperature as typed]."""

    piece: str
    at_s: float
    value: float


def typed_probings(text: str) -> tuple[PieceReading, ...]:
    """One on each line: the piece, minutes or minutes:seconds, the temperature. Raises CoreError
    naming the line."""
    found = []
    for n, line in enumerate(text.splitlines(), start=1):
        if not line.strip():
            continue
        if n > MOST_LINES:
            raise CoreError("readings", "too_many_lines", most=MOST_LINES)
        parts = line.split()
        value = number_in(parts[2]) if len(parts) == 3 else None
        if value is None or len(parts[0]) > 12:
            raise CoreError(f"readings line {n}", "not_a_probing", line=line.strip()[:40])
        at_s = minutes_seconds(parts[1])
        if at_s is None:
            raise CoreError(f"readings line {n}", "not_minutes_seconds", value=parts[1][:20])
        found.append(PieceReading(parts[0], at_s, value))
    if not found:
        raise CoreError("readings", "no_readings")
    return tuple(found)


def minutes_seconds(text: str) -> float | None:
    """Seconds [s] from 7:30 or 7.5 minutes; None for anything else."""
    found = re.fullmatch(r"(\d{1,4}):([0-5]\d)", text.strip())
    if found:
        return 60.0 * int(found[1]) + int(found[2])
    number = number_in(text) if text.strip() else None
    return None if number is None else 60 * number


def clock_of_day(text: str) -> float | None:
    """Seconds after midnight of 18:30; None for anything else."""
    found = re.fullmatch(r"([01]?\d|2[0-3])[:.]([0-5]\d)", text.strip())
    return 3600.0 * int(found[1]) + 60.0 * int(found[2]) if found else None


def number_in(text: str) -> float | None:
    words = text.strip().replace("\u2212", "-").rstrip("°CFcf ").strip()
    if not re.fullmatch(r"[-+]?\d{1,12}(?:[.,]\d{1,9})?", words):
        return None
    return float(words.replace(",", "."))


def clock_in(text: str) -> float | None:
    found = re.fullmatch(r"(\d{1,2}):(\d{2})(?::(\d{2}))?", text)
    return 3600.0 * int(found[1]) + 60.0 * int(found[2]) + float(found[3] or 0) if found else None

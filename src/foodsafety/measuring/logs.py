"""A log of temperatures looked at before it is believed.

Nothing is dropped: a reading that cannot be is kept and flagged, and no verdict rests on it.
"""

from __future__ import annotations

import csv
import datetime as dt
import re
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from foodsafety.quantities import CoreError, Series, Unit, c_from_f

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


# --- as people type them -------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True, kw_only=True)
class TypedLog:
    """Readings typed by hand: rows of (s, temperature as typed), and the seconds after midnight of
    the time 0 where clock times were typed."""

    rows: tuple[tuple[float | None, float | None], ...]
    clock_s: float | None


MOST_LINES = 2000


def typed_readings(text: str) -> TypedLog:
    """One reading on each line: minutes (0, 12.5) or a clock time (13:20), then the temperature.
    Raises CoreError naming the line that is no such pair; times are of one sort."""
    found: list[tuple[float, float]] = []
    clocks = 0
    for n, line in enumerate(text.splitlines(), start=1):
        if not line.strip():
            continue
        if n > MOST_LINES:
            raise CoreError("readings", f"more than {MOST_LINES} lines: bring it as a log")
        parts = re.split(r"[\s;|]+|,(?=\s)", line.strip())
        parts = [part for part in parts if part]
        if len(parts) != 2 or (value := _number(parts[1])) is None:
            raise CoreError(f"readings line {n}", f"{line.strip()[:40]!r}: a time and a temperature are needed")
        clock = _clock(parts[0])
        minutes = None if clock is not None else _number(parts[0])
        if clock is None and minutes is None:
            raise CoreError(f"readings line {n}", f"{parts[0][:20]!r} is no time: minutes, or hours:minutes")
        clocks += clock is not None
        if clock is not None and found and clock + 43200 < found[-1][0] % 86400:
            clock += 86400  # past midnight
        found.append((clock if clock is not None else 60.0 * (minutes or 0.0), value))
    if not found:
        raise CoreError("readings", "at least one reading is needed")
    if clocks not in (0, len(found)):
        raise CoreError("readings", "some times are minutes and some are of the clock: use one sort")
    first = found[0][0] if clocks else 0.0
    return TypedLog(rows=tuple((at_s - first, value) for at_s, value in found), clock_s=first if clocks else None)


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
            raise CoreError("readings", f"more than {MOST_LINES} lines")
        parts = line.split()
        value = _number(parts[2]) if len(parts) == 3 else None
        if value is None or len(parts[0]) > 12:
            raise CoreError(f"readings line {n}", f"{line.strip()[:40]!r}: piece, minutes:seconds, temperature")
        at_s = minutes_seconds(parts[1])
        if at_s is None:
            raise CoreError(f"readings line {n}", f"{parts[1][:20]!r} is no time: minutes:seconds")
        found.append(PieceReading(parts[0], at_s, value))
    if not found:
        raise CoreError("readings", "at least one reading is needed")
    return tuple(found)


def minutes_seconds(text: str) -> float | None:
    """Seconds [s] from 7:30 or 7.5 minutes; None for anything else."""
    found = re.fullmatch(r"(\d{1,4}):([0-5]\d)", text.strip())
    if found:
        return 60.0 * int(found[1]) + int(found[2])
    number = _number(text) if text.strip() else None
    return None if number is None else 60 * number


def clock_of_day(text: str) -> float | None:
    """Seconds after midnight of 18:30; None for anything else."""
    found = re.fullmatch(r"([01]?\d|2[0-3])[:.]([0-5]\d)", text.strip())
    return 3600.0 * int(found[1]) + 60.0 * int(found[2]) if found else None


# --- CSV ---------------------------------------------------------------------------------------------

_TIME_NAMES = ("time", "timestamp", "date", "at", "when", "seconds", "s", "minutes", "min", "datetime", "clock")
_TEMP_NAMES = ("temperature", "temp", "celsius", "fahrenheit", "c", "f", "core", "reading", "value", "degrees")
RowProgress = Callable[[int], None]
MOST_ROWS = 2_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class CsvLog:
    """A temperature log as read from CSV: rows of (seconds since the first, value as written),
    when the first was (None where the log has bare numbers), and the unit its heading names."""

    rows: tuple[tuple[float | None, float | None], ...]
    first: dt.datetime | None
    unit: Unit | None
    channel: str


def read_log_csv(lines: Iterable[str], progress: RowProgress | None = None) -> CsvLog:
    """A log from lines of CSV, one after the other: a million rows are never held as text.

    The heading names a time and a temperature; ISO times, clock times or plain seconds or minutes;
    comma, semicolon or tab; a decimal comma where the separator is not one. A value that cannot be
    read is a missing reading, not the end. Raises CoreError naming the column that is not there.
    """
    source = iter(lines)
    heading = next((line for line in source if line.strip()), None)
    if heading is None:
        raise CoreError("log", "the file is empty: a heading and one reading per line are needed")
    heading = heading.lstrip("\ufeff")
    mark = max(",;\t", key=heading.count)
    names = [name.strip().lower() for name in next(csv.reader([heading], delimiter=mark))]
    at = _column(names, _TIME_NAMES, "time")
    temp = _column(names, _TEMP_NAMES, "temperature")
    rows: list[tuple[float | None, float | None]] = []
    first: dt.datetime | None = None
    day = 0
    last_clock = -1.0
    for n, row in enumerate(csv.reader(_bounded(source), delimiter=mark), start=1):
        if not any(cell.strip() for cell in row):
            continue
        if progress and n % 10_000 == 0:
            progress(n)
        moment = row[at].strip() if at < len(row) else ""
        value = _number(row[temp]) if temp < len(row) else None
        seconds: float | None = _number(moment)
        if seconds is not None and names[at].startswith("min"):
            seconds *= 60
        if seconds is None and (clock := _clock(moment)) is not None:
            if clock < last_clock - 43200:
                day += 1  # past midnight
            last_clock = clock
            seconds = clock + 86400 * day
        elif seconds is None and (when := _moment(moment)) is not None:
            first = first or when
            try:
                seconds = (when - first).total_seconds()
            except TypeError:
                seconds = None  # some with a zone, some without
        rows.append((seconds, value))
    if not rows:
        raise CoreError("log", "there is a heading and no reading below it")
    if all(seconds is None for seconds, _ in rows):
        raise CoreError("log.time", "no line has a time that can be read: 2026-06-13 14:05, 14:05 or seconds")
    return CsvLog(rows=tuple(rows), first=first, unit=_unit_of(names[temp]), channel=names[temp])


def _bounded(lines: Iterator[str]) -> Iterator[str]:
    for n, line in enumerate(lines):
        if n > MOST_ROWS:
            raise CoreError("log", f"more than {MOST_ROWS} rows: cut it into parts")
        yield line


def _column(names: list[str], known: tuple[str, ...], what: str) -> int:
    for word in known:
        for i, name in enumerate(names):
            if re.split(r"[^a-z]+", name)[0] == word or name == word:
                return i
    for i, name in enumerate(names):
        if any(len(word) > 3 and word in name for word in known):
            return i
    raise CoreError(f"log.{what}", f"no column for it in the heading: {', '.join(names)[:120]}")


def _unit_of(name: str) -> Unit | None:
    if "fahr" in name or re.search(r"(?:^|[^a-z])°?f(?:$|[^a-z])", name):
        return "F"
    if "cels" in name or re.search(r"(?:^|[^a-z])°?c(?:$|[^a-z])", name):
        return "C"
    return None


def _number(text: str) -> float | None:
    words = text.strip().replace("\u2212", "-").rstrip("°CFcf ").strip()
    if not re.fullmatch(r"[-+]?\d{1,12}(?:[.,]\d{1,9})?", words):
        return None
    return float(words.replace(",", "."))


def _clock(text: str) -> float | None:
    found = re.fullmatch(r"(\d{1,2}):(\d{2})(?::(\d{2}))?", text)
    return 3600.0 * int(found[1]) + 60.0 * int(found[2]) + float(found[3] or 0) if found else None


def _moment(text: str) -> dt.datetime | None:
    try:
        return dt.datetime.fromisoformat(text)
    except ValueError:
        return None


def question_log(values: Iterable[float], unit: Unit) -> Literal["looks_fahrenheit", "looks_celsius"] | None:
    """What to ask about a whole log before it is believed: one that begins like hot or fridge-cold
    food only in the other unit."""
    rows = sorted(values)
    if not rows:
        return None
    low, high = rows[0], rows[-1]
    if unit == "C" and high > 105 and low > 30 and c_from_f(high) <= 103:
        return "looks_fahrenheit"
    if unit == "F" and high <= 103 and low < 32 and high - low > 5:
        return "looks_celsius"
    return None

"""Temperature logs as loggers write them: CSV of any length, read line by line."""

from __future__ import annotations

import csv
import datetime as dt
import re
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

from foodsafety.measuring.logs import TemperatureLog, review_log
from foodsafety.measuring.typed import clock_in, number_in
from foodsafety.quantities import CoreError, Unit, c_from_f

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
        raise CoreError("log", "empty_file")
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
        value = number_in(row[temp]) if temp < len(row) else None
        seconds: float | None = number_in(moment)
        if seconds is not None and names[at].startswith("min"):
            seconds *= 60
        if seconds is None and (clock := clock_in(moment)) is not None:
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
        raise CoreError("log", "no_reading_below")
    if all(seconds is None for seconds, _ in rows):
        raise CoreError("log.time", "no_readable_time")
    return CsvLog(rows=tuple(rows), first=first, unit=_unit_of(names[temp]), channel=names[temp])


def _bounded(lines: Iterator[str]) -> Iterator[str]:
    for n, line in enumerate(lines):
        if n > MOST_ROWS:
            raise CoreError("log", "too_many_rows", most=MOST_ROWS)
        yield line


def _column(names: list[str], known: tuple[str, ...], what: str) -> int:
    for word in known:
        for i, name in enumerate(names):
            if re.split(r"[^a-z]+", name)[0] == word or name == word:
                return i
    for i, name in enumerate(names):
        if any(len(word) > 3 and word in name for word in known):
            return i
    raise CoreError(f"log.{what}", "no_such_column", allowed=tuple(names))


def _unit_of(name: str) -> Unit | None:
    if "fahr" in name or re.search(r"(?:^|[^a-z])°?f(?:$|[^a-z])", name):
        return "F"
    if "cels" in name or re.search(r"(?:^|[^a-z])°?c(?:$|[^a-z])", name):
        return "C"
    return None


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


@dataclass(frozen=True, slots=True, kw_only=True)
class ReviewedLog:
    """A CSV log looked over: its readings from 0 s on, what the first one's time of day was [s after
    midnight], and the question its unit raises, if any."""

    log: TemperatureLog
    first_s: float | None
    question: Literal["looks_fahrenheit", "looks_celsius"] | None


def log_of_csv(sheet: CsvLog, unit: Unit) -> ReviewedLog:
    """A logger's file looked over, read in ``unit``; where its heading names none that is asked about."""
    found = review_log(sheet.rows, counts="higher", unit=unit)
    begin_s = found.kept[0][0] if found.kept else 0.0
    log = TemperatureLog(
        series=tuple((at_s - begin_s, c) for at_s, c in found.series),
        kept=tuple((at_s - begin_s, c) for at_s, c in found.kept),
        flags=found.flags,
        gaps=tuple((a - begin_s, b - begin_s) for a, b in found.gaps),
    )
    values = [value for _at, value in sheet.rows if value is not None]
    return ReviewedLog(
        log=log,
        first_s=3600.0 * sheet.first.hour + 60.0 * sheet.first.minute if sheet.first else None,
        question=None if sheet.unit else question_log(values, unit),
    )

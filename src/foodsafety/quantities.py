"""Temperatures, readings and the questions worth asking about them."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

Unit = Literal["C", "F"]

# A reading typed in the unit its limit is stated in must compare equal to that limit
# after the trip through Celsius; this covers the float error of the trip and no more.
_TRIP_ERROR = 1e-9

# Outside this a kitchen probe is broken or the number is a slip.
LOWEST_C, HIGHEST_C = -60.0, 300.0
# Wet food at one atmosphere cannot pass boiling; a little room for brine and an uncalibrated probe.
HIGHEST_CORE_C = 103.0


class CoreError(ValueError):
    """Input that cannot be understood: the field, an id that says why, and the facts of it.

    There is no sentence in it: the web side's ``wording`` has one for every id, and ``detail`` is
    for programs and logs.
    """

    def __init__(self, field: str, why: str, **facts: object) -> None:
        self.field = field
        self.why = why
        self.facts = facts
        super().__init__(f"{field}: {self.detail}")

    @property
    def detail(self) -> str:
        """The reason in short, as "outside (value=3, low=5, high=9)"."""
        facts = ", ".join(f"{name}={_short(value)}" for name, value in self.facts.items())
        reason = self.why.replace("_", " ")
        return f"{reason} ({facts})" if facts else reason


def _short(value: object) -> str:
    text = " | ".join(map(str, value)) if isinstance(value, (tuple, list)) else str(value)
    return text if len(text) <= 300 else text[:300] + "..."


def c_from_f(f: float) -> float:
    """Celsius [C] from Fahrenheit [F]."""
    return (f - 32.0) * 5.0 / 9.0


def f_from_c(c: float) -> float:
    """Fahrenheit [F] from Celsius [C]."""
    return c * 9.0 / 5.0 + 32.0


@dataclass(frozen=True, kw_only=True)
class Temperature:
    """A limit, kept and compared in the unit its source states."""

    value: float
    unit: Unit

    @property
    def c(self) -> float:
        """The same temperature [C], for display and drawing."""
        return self.value if self.unit == "C" else c_from_f(self.value)

    @cached_property
    def least_c(self) -> float:
        """The lowest reading [C] that is at or above this limit."""
        least = self.value - _TRIP_ERROR
        return least if self.unit == "C" else c_from_f(least)

    def _of(self, reading_c: float) -> float:
        return reading_c if self.unit == "C" else f_from_c(reading_c)

    def met_by(self, reading_c: float) -> bool:
        """True if a reading [C] is at or above this limit."""
        return self._of(reading_c) >= self.value - _TRIP_ERROR

    def kept_by(self, reading_c: float) -> bool:
        """True if a reading [C] is at or below this limit."""
        return self._of(reading_c) <= self.value + _TRIP_ERROR

    def passed_by(self, reading_c: float) -> bool:
        """True if a reading [C] is above this limit: "above 90 F" excludes 90 F."""
        return not self.kept_by(reading_c)


def finite(value: object, field: str, *, low: float = -math.inf, high: float = math.inf) -> float:
    """A plain number within ``low..high``, or CoreError naming the field."""
    if value is None:
        raise CoreError(field, "number_missing")
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise CoreError(field, "not_a_number", value=value)
    try:
        number = float(value)
    except OverflowError:
        raise CoreError(field, "number_too_large") from None
    if not math.isfinite(number):
        raise CoreError(field, "not_finite")
    if not low <= number <= high:
        raise CoreError(field, "outside", value=number, low=low, high=high)
    return number


def positive(value: object, field: str) -> float:
    """A number above zero, or CoreError naming the field."""
    number = finite(value, field)
    if number <= 0:
        raise CoreError(field, "not_above_0", value=number)
    return number


Series = tuple[tuple[float, float], ...]


def tidy_readings(
    rows: Iterable[Sequence[object]],
    *,
    counts: Literal["lower", "higher"],
    field: str = "readings",
) -> Series:
    """Readings as (seconds, Celsius), sorted by time, one per time.

    A reading with a null is dropped, an identical repeat counts once. Of conflicting repeats
    at one time ``counts`` says which is believed: the lower for cooking, the higher for cooling.
    Raises CoreError naming the row that is not a pair of plausible numbers.
    """
    pick: Callable[[float, float], float] = min if counts == "lower" else max
    at: dict[float, float] = {}
    for i, row in enumerate(rows):
        if row is None:
            continue
        if isinstance(row, (str, bytes)) or not isinstance(row, Sequence) or len(row) != 2:
            raise CoreError(f"{field}[{i}]", "not_a_pair")
        if row[0] is None or row[1] is None:
            continue
        time_s = finite(row[0], f"{field}[{i}][0]", low=-1e12, high=1e12)
        reading_c = finite(row[1], f"{field}[{i}][1]", low=-273.15, high=1000)
        at[time_s] = pick(at[time_s], reading_c) if time_s in at else reading_c
    return tuple(sorted(at.items()))


Question = Literal[
    "impossible", "looks_fahrenheit", "looks_celsius", "too_hot_for_food", "too_cold_for_cooking", "odd_for_a_room"
]


def question_core(value: float, unit: Unit) -> Question | None:
    """What to ask about a core reading of cooked food before it is believed, or None.

    165 typed as Celsius and 74 typed as Fahrenheit are the slips seen at benches: a reading
    that makes sense only in the other unit is asked about, never converted in silence.
    """
    reading_c = value if unit == "C" else c_from_f(value)
    if not math.isfinite(value) or not LOWEST_C <= reading_c <= HIGHEST_C:
        return "impossible"
    if unit == "C" and reading_c > HIGHEST_CORE_C:
        return "looks_fahrenheit" if c_from_f(value) <= HIGHEST_CORE_C else "too_hot_for_food"
    if unit == "F" and reading_c > HIGHEST_CORE_C:
        return "too_hot_for_food"
    if unit == "F" and 40.0 <= value <= HIGHEST_CORE_C and reading_c < 40.0:
        return "looks_celsius"
    if reading_c < 0.0:
        return "too_cold_for_cooking"
    return None


COLDEST_ROOM_C, HOTTEST_ROOM_C = 0.0, 45.0


def question_room(value: float, unit: Unit) -> Question | None:
    """What to ask about the temperature of a kitchen, a hall or a field before it is believed, or
    None: 33 typed at a bench that reads Fahrenheit is a hot day, not a frost."""
    reading_c = value if unit == "C" else c_from_f(value)
    if not math.isfinite(value) or not LOWEST_C <= reading_c <= HIGHEST_C:
        return "impossible"
    if COLDEST_ROOM_C + 5 <= reading_c <= HOTTEST_ROOM_C:
        return None
    if unit == "F" and COLDEST_ROOM_C + 5 <= value <= HOTTEST_ROOM_C:
        return "looks_celsius"
    if unit == "C" and COLDEST_ROOM_C + 5 <= c_from_f(value) <= HOTTEST_ROOM_C:
        return "looks_fahrenheit"
    return "impossible" if reading_c > HOTTEST_ROOM_C + 15 else "odd_for_a_room"


def question_cold(value: float, unit: Unit) -> Question | None:
    """What to ask about a fridge or chilled-food reading before it is believed, or None."""
    reading_c = value if unit == "C" else c_from_f(value)
    if not math.isfinite(value) or not LOWEST_C <= reading_c <= HIGHEST_C:
        return "impossible"
    if unit == "C" and value >= 30.0:
        return "looks_fahrenheit"
    if unit == "F" and value < 20.0:
        return "looks_celsius"
    return None

"""Storage: until when food that is kept may be eaten, and why."""

from __future__ import annotations

import calendar
import datetime as dt
import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.foods import plain_id
from foodsafety.quantities import CoreError
from foodsafety.rules import ClockLimit, Profile

StoragePlace = Literal["fridge", "freezer"]
_DAY = {"d": 1, "wk": 7}


@dataclass(frozen=True, slots=True, kw_only=True)
class StorageLife:
    """A range of storage life; the shorter figure is the one used. Unit d, wk or mo."""

    low: int
    high: int
    unit: Literal["d", "wk", "mo"]

    def after(self, start: dt.datetime) -> dt.datetime:
        """The end of the shorter life, counted from ``start``."""
        if self.unit == "mo":
            return _months_after(start, self.low)
        return start + dt.timedelta(days=self.low * _DAY[self.unit])


@dataclass(frozen=True, slots=True, kw_only=True)
class StorageCategory:
    """A storage category: None for a place where this food may not be kept. ``raw_soil``: what it brings, raw as it is;
    nothing for food that is not raw."""

    id: str
    fridge: StorageLife | None
    freezer: StorageLife | None
    thawed: StorageLife | None
    leftover: bool
    verify: bool
    raw_soil: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StorageReason:
    """One step in working out a date: a rule id and its numbers."""

    rule: str
    section: str = ""
    low: float | None = None
    high: float | None = None
    unit: str = ""


_DISCARDS = (
    "out-too-long",
    "too-late-for-the-cold",
    "one-period-only",
    "life-used-up",
    "no-refreezing",
    "cooled-too-slowly",
)


@dataclass(frozen=True, slots=True, kw_only=True)
class UseBy:
    """Until when, or None: it does not keep there, or must be thrown away (see ``why``).

    ``by_the_hour``: the limit counts hours, so the date must be given with its hour.
    """

    use_by: dt.datetime | None
    why: tuple[StorageReason, ...]
    by_the_hour: bool = False

    @property
    def discard(self) -> bool:
        """True if the food must be thrown away, and may not be kept."""
        return any(reason.rule in _DISCARDS for reason in self.why)


def _months_after(start: dt.datetime, months: int) -> dt.datetime:
    """The same day some months on, or the last day of a shorter month: never later."""
    month0 = start.month - 1 + months
    year, month = start.year + month0 // 12, month0 % 12 + 1
    return start.replace(year=year, month=month, day=min(start.day, calendar.monthrange(year, month)[1]))


def _life(value: object, field: str) -> StorageLife | None:
    if value in (None, "no"):
        return None
    if not isinstance(value, list) or len(value) != 3 or value[2] not in ("d", "wk", "mo") or value[0] > value[1]:
        raise CoreError(field, "not_a_life")
    return StorageLife(low=value[0], high=value[1], unit=value[2])


@cache
def _categories() -> dict[str, StorageCategory]:
    words: dict[str, StorageCategory] = {}
    table: Mapping[str, Mapping[str, Any]] = tomllib.loads(data_text("storage.toml"))
    for key, row in table.items():
        category = StorageCategory(
            id=key,
            fridge=_life(row["fridge"], f"{key}.fridge"),
            freezer=_life(row["freezer"], f"{key}.freezer"),
            thawed=_life(row.get("thawed"), f"{key}.thawed"),
            leftover=bool(row.get("leftover", False)),
            verify=bool(row.get("verify", False)),
            raw_soil=str(row.get("raw", "")),
        )
        for word in (key, *row["names"]):
            if words.setdefault(plain_id(word), category).id != key:
                raise CoreError(f"storage.toml {key}", "names_two", word=word)
    return words


def storage_category_ids() -> tuple[str, ...]:
    """Every storage category once."""
    return tuple(dict.fromkeys(category.id for category in _categories().values()))


def storage_category(name: str, field: str = "category") -> StorageCategory:
    """A storage category by id or by any of its names; CoreError lists the ids for an unknown one."""
    found = _categories().get(plain_id(name))
    if found is None:
        raise CoreError(field, "unknown_category", value=name, allowed=tuple(storage_category_ids()))
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredFood:
    """What is known of a food when it is put away.

    ``out_s`` is the time [s] out of temperature control before, ``ambient_c`` the hottest around it
    meanwhile [C] (None: nobody measured). ``trips``: how often it has left the cold since it was put away,
    ``refrozen``: it was frozen again after a thaw. Times are
    moments, all with a zone or all without.
    """

    made_at: dt.datetime
    place: StoragePlace
    out_s: float = 0.0
    ambient_c: float | None = None
    frozen_at: dt.datetime | None = None
    thawed_at: dt.datetime | None = None
    trips: int = 0
    refrozen: bool = False


def out_limit(category: str, profile: Profile, ambient_c: float | None) -> ClockLimit:
    """How long food of a category may be out and still be kept: for cooked food also no longer than
    the cooling rule gives it to reach the fridge. The strictest speaks."""
    if not storage_category(category).leftover:
        return profile.clock_for("cold", ambient_c)
    cooling = ClockLimit(
        limit_s=profile.cooling.into_fridge_for(storage_category(category).id),
        action="discard",
        section=profile.cooling.section,
    )
    return min((profile.clock_for("hot", ambient_c), cooling), key=lambda row: row.warn_s or row.limit_s)


def use_by(name: str, profile: Profile, food: StoredFood) -> UseBy:
    """Until when food of a category may be eaten.

    Where a range is given the shorter figure counts. Out for longer than the profile allows means
    throwing the food away, whatever its life; time already out is taken off the rest. Freezing pauses
    the fridge clock and does not reset it: the days before it count after the thaw. Where nobody says
    when it was frozen, those days are unknown, and thawed food has one more. Times are elapsed times,
    also across a change of the clocks. Raises CoreError for times that run backwards.
    """
    kept = storage_category(name)
    _check_times(food)
    limit = out_limit(name, profile, food.ambient_c)
    if limit.no_return(food.out_s):
        over = limit.over(food.out_s) or profile.clock_for("cold", food.ambient_c).over(food.out_s)
        rule = "out-too-long" if over else "too-late-for-the-cold"
        at_s = limit.limit_s if limit.over(food.out_s) else limit.warn_s
        return UseBy(use_by=None, why=(StorageReason(rule=rule, section=limit.section, low=at_s, unit="s"),))
    if food.trips > 1 and (cold := profile.clock_for("cold", food.ambient_c)).one_period:
        return UseBy(use_by=None, why=(StorageReason(rule="one-period-only", section=cold.section),))
    if food.refrozen or (food.place == "freezer" and food.thawed_at is not None):
        return UseBy(use_by=None, why=(StorageReason(rule="no-refreezing", section=profile.document),))
    if food.place == "freezer":
        return _frozen(kept, profile, food)
    return _chilled(kept, profile, food)


def strictest_use_by(names: Iterable[str], profile: Profile, food: StoredFood) -> UseBy:
    """The same of food in several categories: one that may not be kept decides, else the earliest date."""
    found = [use_by(name, profile, food) for name in names]
    return min(found, key=lambda dated: (dated.use_by is not None, dated.use_by or food.made_at))


def _check_times(food: StoredFood) -> None:
    if food.out_s < 0:
        raise CoreError("out_minutes", "time_below_0")
    if food.frozen_at is not None and food.frozen_at < food.made_at:
        raise CoreError("frozen_at", "frozen_before_made")
    if food.thawed_at is not None and food.thawed_at < food.made_at:
        raise CoreError("thawed_at", "thawed_before_made")
    if food.thawed_at is not None and food.frozen_at is not None and food.thawed_at < food.frozen_at:
        raise CoreError("thawed_at", "thawed_before_frozen")


def _later(start: dt.datetime, seconds: float) -> dt.datetime:
    """So many seconds on, as a clock that nobody changes counts them."""
    if start.tzinfo is None:
        return start + dt.timedelta(seconds=seconds)
    return (start.astimezone(dt.UTC) + dt.timedelta(seconds=seconds)).astimezone(start.tzinfo)


def _elapsed_s(start: dt.datetime, end: dt.datetime) -> float:
    if start.tzinfo is None:
        return (end - start).total_seconds()
    return (end.astimezone(dt.UTC) - start.astimezone(dt.UTC)).total_seconds()


def _verify(kept: StorageCategory) -> tuple[StorageReason, ...]:
    return (StorageReason(rule="verify-locally", section=kept.id),) if kept.verify else ()


def _life_s(kept: StorageCategory, profile: Profile) -> tuple[float | None, tuple[StorageReason, ...], bool]:
    """The whole fridge life [s] of a category under a profile (None: it does not keep there), why, and
    whether it is counted in hours."""
    if kept.fridge is None:
        return None, (StorageReason(rule="not-for-fridge", section=kept.id),), False
    life = kept.fridge
    life_s = life.low * _DAY[life.unit] * 86400.0
    why = [StorageReason(rule="fridge-life", section=kept.id, low=life.low, high=life.high, unit=life.unit)]
    cap_s = profile.dates.cap_s(kept.id)
    if profile.dates.applies(kept.id, leftover=kept.leftover) and cap_s < life_s:
        why.append(StorageReason(rule="date-mark", section=profile.dates.section, low=cap_s, unit="s"))
        return cap_s, tuple(why), profile.dates.by_the_hour
    return life_s, tuple(why), False


def _frozen(kept: StorageCategory, profile: Profile, food: StoredFood) -> UseBy:
    if kept.freezer is None:
        return UseBy(use_by=None, why=(StorageReason(rule="not-for-freezer", section=kept.id),))
    frozen_at = food.frozen_at or food.made_at
    life_s, _, _ = _life_s(kept, profile)
    if life_s is not None and _elapsed_s(food.made_at, frozen_at) > life_s:
        return UseBy(use_by=None, why=(StorageReason(rule="life-used-up", section=kept.id, low=life_s, unit="s"),))
    life = kept.freezer
    reason = StorageReason(rule="freezer-quality", section=kept.id, low=life.low, high=life.high, unit=life.unit)
    return UseBy(use_by=life.after(frozen_at), why=(reason, *_verify(kept)))


def _chilled(kept: StorageCategory, profile: Profile, food: StoredFood) -> UseBy:
    life_s, why, hours = _life_s(kept, profile)
    if life_s is None:
        return UseBy(use_by=None, why=why)
    if not life_s:
        return UseBy(use_by=_same_day(food.made_at), why=(*why, *_verify(kept)))
    end = _later(food.made_at, life_s)
    if food.thawed_at is not None:
        end, hours_too = min(_thawed(kept, profile, food, food.thawed_at, life_s), key=lambda row: row[0])
        hours = hours or hours_too
        if food.frozen_at is not None and _elapsed_s(food.made_at, food.frozen_at) > life_s:
            return UseBy(use_by=None, why=(*why, StorageReason(rule="life-used-up", section=kept.id)))
        rule = "frozen-time-pauses" if food.frozen_at is not None else "frozen-when-unknown"
        why = (*why, StorageReason(rule=rule, section=kept.id))
    if food.out_s:
        end = _later(end, -food.out_s)
        why = (*why, StorageReason(rule="time-out", section="", low=food.out_s, unit="s"))
    start = food.thawed_at or food.made_at
    return UseBy(use_by=max(end, start), why=(*why, *_verify(kept)), by_the_hour=hours)


@cache
def _thawed_unknown_s() -> float:
    return float(tomllib.loads(data_text("thawing.toml"))["unknown_s"])


def _thawed(
    kept: StorageCategory, profile: Profile, food: StoredFood, thawed_at: dt.datetime, life_s: float
) -> list[tuple[dt.datetime, bool]]:
    """Every end that thawed food may have, and whether it is counted in hours."""
    left_s = life_s - _elapsed_s(food.made_at, food.frozen_at) if food.frozen_at is not None else _thawed_unknown_s()
    ends = [(_later(thawed_at, min(left_s, life_s)), food.frozen_at is None)]
    if kept.thawed:
        ends.append((_later(thawed_at, kept.thawed.low * _DAY[kept.thawed.unit] * 86400.0), False))
    if profile.dates.thawed_max_s is not None:
        ends.append((_later(thawed_at, profile.dates.thawed_max_s), True))
    return ends


def _same_day(start: dt.datetime) -> dt.datetime:
    """The end of the day it was made."""
    return start.replace(hour=23, minute=59, second=0, microsecond=0)

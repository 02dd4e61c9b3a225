"""Storage: until when food that is kept may be eaten, and why."""

from __future__ import annotations

import calendar
import datetime as dt
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.foods import plain_id
from foodsafety.quantities import CoreError
from foodsafety.rules import Profile

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
    """A storage category: None for a place where this food may not be kept."""

    id: str
    fridge: StorageLife | None
    freezer: StorageLife | None
    thawed: StorageLife | None
    leftover: bool
    verify: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class StorageReason:
    """One step in working out a date: a rule id and its numbers."""

    rule: str
    section: str = ""
    low: float | None = None
    high: float | None = None
    unit: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class UseBy:
    """Until when, or None: it may not be kept there, or must be thrown away (see ``why``)."""

    use_by: dt.datetime | None
    why: tuple[StorageReason, ...]

    @property
    def discard(self) -> bool:
        """True if the food must be thrown away now."""
        return any(reason.rule == "out-too-long" for reason in self.why)


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


def use_by(
    name: str,
    profile: Profile,
    *,
    made_at: dt.datetime,
    place: StoragePlace,
    out_s: float = 0.0,
    thawed_at: dt.datetime | None = None,
    ambient_c: float | None = None,
) -> UseBy:
    """Until when food of a category may be eaten.

    Where a range is given the shorter figure counts. Time already out [s] is taken off, and
    more of it than the profile's clock allows (shorter in the heat: ``ambient_c`` [C], None if
    nobody measured) means throwing the food away. Freezing pauses the
    fridge clock and does not reset it: after a thaw the fridge life that is left counts.
    """
    kept = storage_category(name)
    why: list[StorageReason] = []
    if thawed_at is not None and thawed_at < made_at:
        raise CoreError("thawed_at", "thawed_before_made")
    if out_s < 0:
        raise CoreError("out_minutes", "time_below_0")
    clock = profile.clock_for("hot" if kept.leftover else "cold", ambient_c)
    if out_s > clock.limit_s:
        why.append(StorageReason(rule="out-too-long", section=clock.section, low=clock.limit_s, unit="s"))
        return UseBy(use_by=None, why=tuple(why))
    if place == "freezer" and thawed_at is not None:
        why.append(StorageReason(rule="no-refreezing", section=profile.document))
    if place == "freezer" and thawed_at is None:
        return _frozen(kept, made_at, why)
    return _chilled(kept, profile, made_at, out_s, thawed_at, why)


def _frozen(kept: StorageCategory, made_at: dt.datetime, why: list[StorageReason]) -> UseBy:
    if kept.freezer is None:
        why.append(StorageReason(rule="not-for-freezer", section=kept.id))
        return UseBy(use_by=None, why=tuple(why))
    life = kept.freezer
    why.append(StorageReason(rule="freezer-quality", section=kept.id, low=life.low, high=life.high, unit=life.unit))
    if kept.verify:
        why.append(StorageReason(rule="verify-locally", section=kept.id))
    return UseBy(use_by=life.after(made_at), why=tuple(why))


def _chilled(
    kept: StorageCategory,
    profile: Profile,
    made_at: dt.datetime,
    out_s: float,
    thawed_at: dt.datetime | None,
    why: list[StorageReason],
) -> UseBy:
    life = kept.thawed if thawed_at is not None and kept.thawed else kept.fridge
    if life is None:
        why.append(StorageReason(rule="not-for-fridge", section=kept.id))
        return UseBy(use_by=None, why=tuple(why))
    start = made_at
    if thawed_at is not None:
        start = thawed_at
        why.append(StorageReason(rule="frozen-time-pauses", section=kept.id))
    end = life.after(start)
    why.append(StorageReason(rule="fridge-life", section=kept.id, low=life.low, high=life.high, unit=life.unit))
    cap_s = profile.dates.cap_s(kept.id)
    if profile.dates.applies(kept.id, leftover=kept.leftover) and start + dt.timedelta(seconds=cap_s) < end:
        end = start + dt.timedelta(seconds=cap_s)
        why.append(StorageReason(rule="date-mark", section=profile.dates.section, low=cap_s, unit="s"))
    if out_s:
        end -= dt.timedelta(seconds=out_s)
        why.append(StorageReason(rule="time-out", section="", low=out_s, unit="s"))
    if kept.verify:
        why.append(StorageReason(rule="verify-locally", section=kept.id))
    return UseBy(use_by=max(end, start) if life.low else _same_day(start), why=tuple(why))


def _same_day(start: dt.datetime) -> dt.datetime:
    """The end of the day it was made."""
    return start.replace(hour=23, minute=59, second=0, microsecond=0)

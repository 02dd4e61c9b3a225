"""What every kind of entry in a bench's log has: fields that are checked once, a move of the state,
a way of being told again."""

from __future__ import annotations

import re
from abc import abstractmethod
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field, fields
from types import MappingProxyType
from typing import Any, ClassVar, Self

from foodsafety.contamination import Trace
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.state import Move, State
from foodsafety.lesson.telling import Telling
from foodsafety.quantities import CoreError, Unit, finite

_INITIALS = re.compile(r"[\w .'-]{1,24}", re.UNICODE)


@dataclass(frozen=True, slots=True, kw_only=True)
class Event:
    """One immutable entry as it stands in the log. ``at_s`` is when it happened [s], by the bench's
    corrected clock."""

    id: str
    kind: str
    at_s: float
    data: Mapping[str, Any] = field(default_factory=lambda: MappingProxyType({}))
    by: str = ""


# Entries after which earlier ones do not count.
TAKES_BACK = ("voided", "taken_back", "shared_voided")


def voided(events: Iterable[Event]) -> frozenset[str]:
    """The entries of a log that do not count: those the front has voided, and what somebody who looked on has taken
    back of their own. Nobody takes back what another has seen."""
    rows = list(events)
    watched = {row.id: row.by for row in rows if row.kind == "watched"}
    targets = ((row, str(row.data.get("event"))) for row in rows if row.kind in TAKES_BACK)
    return frozenset(target for row, target in targets if row.kind != "taken_back" or watched.get(target) == row.by)


class Entry:
    """A kind of entry. A subclass is a frozen dataclass of the checked values: those, and nothing
    else that was sent, are what the log keeps.

    ``kind`` names it in the log; ``front_only`` says that only the educator may send it, ``watch_only`` that a bench
    may not, but whoever looks on at it, ``made_here`` that nobody
    may: the program writes it when something happens to the lesson.
    """

    kind: ClassVar[str]
    front_only: ClassVar[bool] = False
    watch_only: ClassVar[bool] = False
    made_here: ClassVar[bool] = False

    @classmethod
    @abstractmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        """The entry from plain data. Raises CoreError naming the field that is wrong."""

    @abstractmethod
    def move(self, state: State, at_s: float) -> Move:
        """The state after the entry, and the findings it causes."""

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        """What the entry says was done, as a step; most say nothing that touches anything."""

    def stored(self) -> dict[str, Any]:
        """The checked values as the log keeps them."""
        row = {f.name: getattr(self, f.name) for f in fields(self)}  # type: ignore[arg-type]
        return {name: _plain(value) for name, value in row.items() if value is not None}


def _plain(value: Any) -> Any:
    if isinstance(value, Typed):
        return {"value": value.value, "unit": value.unit, "confirmed": value.confirmed}
    return list(value) if isinstance(value, tuple) else value


@dataclass(frozen=True, slots=True)
class Typed:
    """A reading as it was typed, in its own unit, and whether a question about it was answered."""

    value: float
    unit: Unit
    confirmed: bool


@dataclass(frozen=True, slots=True)
class AtBench:
    """What an entry is checked against: the plan, and who is at the bench."""

    plan: Plan
    learners: tuple[str, ...]


def a_name(data: Mapping[str, Any], key: str = "learner") -> str:
    """Initials or a nickname."""
    name = data.get(key)
    if not isinstance(name, str) or not _INITIALS.fullmatch(name):
        raise CoreError(key, "initials_needed")
    return name


def a_learner(data: Mapping[str, Any], bench: AtBench, key: str = "learner") -> str:
    """Somebody at this bench."""
    name = a_name(data, key)
    if name not in bench.learners:
        raise CoreError(key, "not_at_this_bench", learner=name)
    return name


def one_of(data: Mapping[str, Any], key: str, allowed: Collection[str]) -> str:
    """One of the words allowed."""
    value = data.get(key)
    if not isinstance(value, str) or value not in allowed:
        raise CoreError(key, "not_one_of", value=str(value)[:60], allowed=tuple(sorted(allowed)))
    return value


def many_of(data: Mapping[str, Any], key: str, allowed: Collection[str]) -> tuple[str, ...]:
    """One or more of the words allowed, each once."""
    values = data.get(key)
    if isinstance(values, str):
        values = [values]
    if not isinstance(values, (list, tuple)) or not values:
        raise CoreError(key, "none_given")
    for value in values:
        if not isinstance(value, str) or value not in allowed:
            raise CoreError(key, "not_one_of", value=str(value)[:60], allowed=tuple(sorted(allowed)))
    return tuple(dict.fromkeys(values))


_SOIL = re.compile(r"[a-z0-9_-]{1,60}")
_MOST_SOILS = 60


def soil_ids(data: Mapping[str, Any], key: str = "soils") -> tuple[str, ...]:
    """Soils and allergens by their ids, as another bench had them; none is none."""
    found = _texts(data, key)
    for value in found:
        if not _SOIL.fullmatch(value):
            raise CoreError(key, "not_a_text", value=value[:60])
    return tuple(dict.fromkeys(found))


def sources_of(data: Mapping[str, Any], soils: tuple[str, ...]) -> tuple[str, ...]:
    """From which food each of some soils came, "" where that is not known; an entry of before says nothing of it."""
    found = _texts(data, "sources")
    if found and len(found) != len(soils):
        raise CoreError("sources", "not_a_list", of="foods")
    return found


def _texts(data: Mapping[str, Any], key: str) -> tuple[str, ...]:
    values = data.get(key) or ()
    if not isinstance(values, (list, tuple)) or len(values) > _MOST_SOILS:
        raise CoreError(key, "not_a_list", of="texts")
    for value in values:
        if not isinstance(value, str) or len(value) > 120:
            raise CoreError(key, "not_a_text", value=str(value)[:60])
    return tuple(values)


def brought(soils: tuple[str, ...], sources: tuple[str, ...], by: tuple[str, ...]) -> dict[str, Trace]:
    """What came from another bench, with where it came from: the food, as far as it is known, then ``by`` whom."""
    known = sources or ("",) * len(soils)
    return {name: Trace((source, *by) if source else by) for name, source in zip(soils, known, strict=True)}


def words(data: Mapping[str, Any], key: str, *, most: int = 300) -> str:
    """A few words of a person's own."""
    value = data.get(key)
    if not isinstance(value, str) or not value.strip():
        raise CoreError(key, "words_needed")
    if len(value) > most:
        raise CoreError(key, "too_long", count=len(value), most=most)
    return value.strip()


def typed(data: Mapping[str, Any]) -> Typed | None:
    """What was typed for a reading; None for a reading that came from an instrument."""
    row = data.get("entered")
    if row is None:
        return None
    if not isinstance(row, Mapping) or row.get("unit") not in ("C", "F"):
        raise CoreError("entered", "unit_needed")
    value = finite(row.get("value"), "entered.value", low=-1000, high=1000)
    # A whole number stays one: it is what the bench typed.
    kept = int(value) if value.is_integer() else value
    return Typed(kept, "F" if row["unit"] == "F" else "C", row.get("confirmed") is True)


def a_food(data: Mapping[str, Any], bench: AtBench) -> str:
    """A food of the recipe, by any name it goes by."""
    named = bench.plan.known.get(str(data.get("food")))
    return named or one_of(data, "food", bench.plan.process.food_ids)


def a_temperature_c(data: Mapping[str, Any], key: str = "core_c") -> float:
    """A temperature that a thermometer can show [C]."""
    return finite(data.get(key), key, low=-60, high=300)

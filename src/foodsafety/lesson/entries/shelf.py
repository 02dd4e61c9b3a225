"""Entries about food that is kept, part by part, after its lesson too: counted, moved, split, heated again, warm while
nobody looked, gone. What nobody knows is held against it, and nothing makes it keep longer."""

from __future__ import annotations

import re
from abc import abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Self, cast

from foodsafety.contamination import Finding
from foodsafety.cooling import check_fits, container
from foodsafety.lesson.breaches import mend, throw_away
from foodsafety.lesson.changed import changed
from foodsafety.lesson.chilling import chilling_of
from foodsafety.lesson.entry import AtBench, Entry, Typed, a_food, a_temperature_c, one_of, typed, words
from foodsafety.lesson.food_state import Box, Earlier, Gone, Part, PartEnd, PartPlace, Signed
from foodsafety.lesson.keeping import kept_food
from foodsafety.lesson.state import Move, State, Waste
from foodsafety.quantities import CoreError, finite

_PART = re.compile(r"[1-9][0-9]{0,2}")
MOST_PORTIONS = 500
PART_PLACES: tuple[PartPlace, ...] = ("fridge", "freezer", "out")
PART_ENDS: tuple[PartEnd, ...] = ("eaten", "discarded", "sent_home", "used", "missing")
# Why something is thrown away off a shelf, and no more of it at once [g].
WHY_DISCARDED = ("over", "spoiled", "store_failed", "recall", "not_needed")
_MOST_GRAMS = 100_000
# How what is kept is covered; the web side says what each means for freezing and for the microwave.
WRAPS = ("open", "lid", "film", "foil", "bag", "vacuum")
_MOST_LITRES = 500.0
_LONGEST_S = 400 * 86_400.0
_LONGEST_NAME = 40


def _part(data: Mapping[str, Any]) -> str:
    part = data.get("part", "1")
    if not isinstance(part, str) or not _PART.fullmatch(part):
        raise CoreError("part", "no_such_part", part=str(part)[:20])
    return part


def _portions(data: Mapping[str, Any], name: str = "portions") -> int:
    said = data.get(name)
    # A form sends its numbers as words.
    value = finite(
        int(said) if isinstance(said, str) and said.isdecimal() and len(said) < 5 else said,
        name,
        low=1,
        high=MOST_PORTIONS,
    )
    if value != int(value):
        raise CoreError(name, "not_whole", value=value)
    return int(value)


def _store(data: Mapping[str, Any]) -> str:
    """Which fridge or freezer, by its name; nothing where there is one."""
    name = data.get("store") or ""
    if not isinstance(name, str) or len(name) > _LONGEST_NAME or not name.isprintable():
        raise CoreError("store", "too_long", count=len(str(name)), most=_LONGEST_NAME)
    return " ".join(name.split())


def with_part(state: State, food: str, part: str, row: Part) -> State:
    """The state with one part of a kept food changed. Once all of it is gone, so is the food: thrown away where all of
    it was, which puts its breaches right, else eaten."""
    held = state.food(food)
    parts = {**held.parts, part: row}
    if not all(one.ended for one in parts.values()):
        return state.with_food(food, changed(held, parts=parts))
    at_s = max(one.ended_s or 0.0 for one in parts.values())
    if any(one.ended != "discarded" for one in parts.values()):
        return state.with_food(food, changed(held, parts=parts, gone=Gone(at_s=at_s, how="eaten"), kept=None))
    state = state.with_food(food, changed(held, parts=parts, gone=Gone(at_s=at_s, how="discarded"), kept=None))
    return mend(throw_away(state, food, at_s, "discarded"), food, at_s, "discarded")


def _over(state: State, food: str, row: Part, at_s: float) -> bool:
    """True for a part that may not be eaten any more: past its date, or thrown away whatever its date. What is hot
    enough just now is eaten."""
    found = kept_food(state, food, part=row, now_s=at_s)
    if found is None:
        return False
    if found.until is None:
        return found.throw_away or not (row.hot and row.place == "out")
    return found.until.timestamp() < at_s


def _open_part(state: State, food: str, part: str) -> Part | None:
    found = state.food(food).parts.get(part)
    return None if found is None or found.ended else found


class _OfPart(Entry):
    """An entry about one part of a kept food; about one that is not there, or is gone, it is noted and changes
    nothing."""

    __slots__ = ()
    food: str
    part: str

    def move(self, state: State, at_s: float) -> Move:
        row = _open_part(state, self.food, self.part)
        after = None if row is None else self.after(state, row, at_s)
        if after is None:
            return state, (Finding(rule="no-such-part", step="", food=self.food),)
        return with_part(state, self.food, self.part, after), ()

    @abstractmethod
    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        """The part after it; None where that cannot be."""


@dataclass(frozen=True, slots=True)
class PartCounted(_OfPart):
    """How many portions a part is, or in which store it stands, or both."""

    kind: ClassVar[str] = "part_counted"
    food: str
    part: str
    portions: int | None
    store: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        store = _store(data)
        portions = None if store and data.get("portions") in (None, "") else _portions(data)
        return cls(a_food(data, bench), _part(data), portions, store)

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        portions = row.portions if self.portions is None else self.portions
        return changed(row, portions=portions, store=self.store or row.store)


@dataclass(frozen=True, slots=True)
class PartBoxed(_OfPart):
    """What a part stands in: a kind of container, how many, so much [l] in all of them, and how it is covered."""

    kind: ClassVar[str] = "part_boxed"
    food: str
    part: str
    container: str
    count: int
    litres: float | None = None
    wrap: str = ""

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        said = data.get("litres")
        litres = None if said in (None, "") else finite(said, "litres", low=0.01, high=_MOST_LITRES)
        box, count = container(str(data.get("container", ""))), _portions({"count": data.get("count") or 1}, "count")
        if litres is not None:
            check_fits(box, litres, count)
        wrap = one_of(data, "wrap", WRAPS) if data.get("wrap") else ""
        return cls(a_food(data, bench), _part(data), box.id, count, litres, wrap)

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        box = Box(container=self.container, count=self.count, litres=self.litres, wrap=self.wrap)
        # Taken out of its vacuum later, it keeps the stricter date: nothing lengthens one.
        airless_s = at_s if self.wrap == "vacuum" and row.airless_s is None else row.airless_s
        return changed(row, box=box, airless_s=airless_s)


@dataclass(frozen=True, slots=True)
class PartRead(_OfPart):
    """A part was read [C] while it is kept. Food that was cold and is not any more has been warm for nobody knows how
    long: since it was last known to be cold. Hot food under rules that measure no stages tells nothing by being warm
    before it was ever cold."""

    kind: ClassVar[str] = "part_read"
    food: str
    part: str
    core_c: float
    entered: Typed | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), _part(data), a_temperature_c(data), typed(data))

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        read = changed(row, cold=(*row.cold, (at_s, self.core_c)))
        limit = state.plan.profile.hold["cold"].temperature
        if limit.kept_by(self.core_c) or row.place == "out" or not self._was_cold(state, row, at_s):
            return read
        known_s = max([s for s, core_c in row.cold if limit.kept_by(core_c)], default=row.since_s)
        warm_s = max(0.0, at_s - max(known_s, row.since_s))
        return changed(read, out_s=row.out_s + warm_s, hole_s=row.hole_s + warm_s, trips=row.trips + 1)

    def _was_cold(self, state: State, row: Part, at_s: float) -> bool:
        limit = state.plan.profile.hold["cold"].temperature
        seen = any(limit.kept_by(core_c) for _s, core_c in row.cold)
        never_hot = state.plan.clock_kind(self.food) == "cold"
        return seen or never_hot or chilling_of(state, self.food, row, at_s).standing == "cold"


@dataclass(frozen=True, slots=True)
class PartSeen(_OfPart):
    """Somebody who went through a shelf saw a part there, and counted it or not."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "part_seen"
    food: str
    part: str
    portions: int | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        portions = None if data.get("portions") in (None, "") else _portions(data)
        return cls(a_food(data, bench), _part(data), portions)

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        return changed(row, seen_s=at_s, portions=self.portions if self.portions is not None else row.portions)


# A cooling that somebody may sign for; what was measured stays.
_NOT_SHOWN = ("not-seen", "too-slow")


@dataclass(frozen=True, slots=True)
class PartSigned(_OfPart):
    """A person answers, in their name and with a reason, for food of which nobody measured that it was cold in time, or
    takes back an earlier date that a person has set. What was measured, and what the rules say, stays; and nobody signs
    for what is still to come."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "part_signed"
    food: str
    part: str
    signer: str
    reason: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), _part(data), words(data, "signer", most=80), words(data, "reason", most=300))

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        hole = row.unknown or chilling_of(state, self.food, row, at_s).standing in _NOT_SHOWN
        if not hole:
            return changed(row, until_s=None) if row.until_s is not None else None
        return changed(row, signed=Signed(at_s=at_s, signer=self.signer, reason=self.reason), until_s=None)


@dataclass(frozen=True, slots=True)
class PartMoved(_OfPart):
    """A part goes elsewhere: out of the freezer it thaws, on the bench its clock runs."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "part_moved"
    food: str
    part: str
    place: PartPlace
    store: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        place = cast(PartPlace, one_of(data, "place", PART_PLACES))
        return cls(a_food(data, bench), _part(data), place, _store(data))

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        return row.moved(at_s, self.place, self.store)


@dataclass(frozen=True, slots=True)
class PartSplit(Entry):
    """Some portions become a part of their own, with all that happened to them until then."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "part_split"
    food: str
    part: str
    portions: int

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), _part(data), _portions(data))

    def move(self, state: State, at_s: float) -> Move:
        row = _open_part(state, self.food, self.part)
        if row is None or (row.portions is not None and row.portions <= self.portions):
            return state, (Finding(rule="no-such-part", step="", food=self.food),)
        left = None if row.portions is None else row.portions - self.portions
        new = str(len(state.food(self.food).parts) + 1)
        if not _PART.fullmatch(new):
            return state, (Finding(rule="no-such-part", step="", food=self.food),)
        state = with_part(state, self.food, self.part, changed(row, portions=left))
        return with_part(state, self.food, new, changed(row, portions=self.portions)), ()


@dataclass(frozen=True, slots=True)
class PartGone(_OfPart):
    """A part, or some portions of it, is eaten, thrown away, sent home, used in another lesson, or not there when
    somebody looked for it."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "part_gone"
    food: str
    part: str
    how: PartEnd
    portions: int | None = None
    why: str | None = None
    grams: float | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        how = cast(PartEnd, one_of(data, "how", PART_ENDS))
        portions = None if data.get("portions") in (None, "") else _portions(data)
        why = one_of(data, "why", WHY_DISCARDED) if data.get("why") else None
        grams = None if data.get("grams") in (None, "") else finite(data["grams"], "grams", low=1, high=_MOST_GRAMS)
        return cls(a_food(data, bench), _part(data), how, portions, why, grams)

    def move(self, state: State, at_s: float) -> Move:
        row = _open_part(state, self.food, self.part)
        over = row is not None and self.how not in ("discarded", "missing") and _over(state, self.food, row, at_s)
        before = len(state.wasted)
        state, found = _OfPart.move(self, state, at_s)
        if self.how == "discarded" and not found:
            state = self._wasted(state, at_s, before)
        return state, (*found, *([Finding(rule=f"{self.how}-though-over", step="", food=self.food)] if over else ()))

    def _wasted(self, state: State, at_s: float, before: int) -> State:
        """What is thrown away is waste, a part of it too: for which reason, and how much [g] where it was weighed."""
        row = next(iter(state.wasted[before:]), Waste(food=self.food, at_s=at_s, how="discarded"))
        rule = row.rule or (f"shelf-{self.why}" if self.why else "")
        said = replace(row, rule=rule, value=self.grams, unit="g" if self.grams else "unweighed")
        return changed(state, wasted=(*state.wasted[:before], said, *state.wasted[before + 1 :]))

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        if self.portions is None:
            return row.end(at_s, self.how)
        if row.portions is None:
            return row  # nobody has counted them: nobody knows that these were the last
        if self.portions > row.portions:
            return None
        rest = row.portions - self.portions
        return changed(row, portions=rest) if rest else row.end(at_s, self.how)


@dataclass(frozen=True, slots=True)
class PartReheated(_OfPart):
    """A part was heated again and read [C]: it is eaten now, and never goes back. Where the rules want it held hot, one
    reading does not show that; a second one does, if nobody had to guess what was between them."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "part_reheated"
    food: str
    part: str
    core_c: float

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), _part(data), a_temperature_c(data))

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        limit = state.plan.profile.cook["reheat"].main
        meets = limit is not None and self.core_c >= limit.temperature.c
        seen_on = row.reheated_s is not None and at_s - row.reheated_s <= state.plan.profile.longest_gap_s
        since_s = (row.hot_since_s if seen_on and row.hot_since_s is not None else at_s) if meets else None
        hot = limit is not None and since_s is not None and at_s - since_s >= limit.hold_s
        return changed(row.moved(at_s, "out", row.store), reheated_s=at_s, hot_since_s=since_s, hot=hot)


@dataclass(frozen=True, slots=True)
class PartWarm(_OfPart):
    """For so long [s] a part stood warmer than its store should be, or nobody knows how warm: it counts as out. Without
    a time nobody knows for how long either, and it has no date until somebody signs for it."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "part_warm"
    food: str
    part: str
    warm_s: float | None
    known: bool
    unknown: bool | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        if data.get("unknown") in (True, "true", "on", "1"):
            return cls(a_food(data, bench), _part(data), None, known=False, unknown=True)
        warm_s = finite(data.get("warm_s"), "warm_s", low=0, high=_LONGEST_S)
        return cls(a_food(data, bench), _part(data), warm_s, data.get("known") in (True, "true", "on", "1"))

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        if self.warm_s is None:
            return changed(row, unknown=True, signed=None, judged_s=at_s)  # who signed before did not sign for this
        hole_s = row.hole_s + (0.0 if self.known else self.warm_s)
        trips = row.trips + (self.warm_s > 0 and row.place != "out")
        return changed(row, out_s=row.out_s + self.warm_s, hole_s=hole_s, trips=trips, judged_s=at_s)


@dataclass(frozen=True, slots=True)
class PartShortened(_OfPart):
    """Somebody sets an earlier date [s]; a later one changes nothing."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "part_shortened"
    food: str
    part: str
    until_s: float

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), _part(data), finite(data.get("until_s"), "until_s", low=0, high=1e11))

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        until_s = min(self.until_s, row.until_s if row.until_s is not None else self.until_s)
        return changed(row, until_s=until_s)


@dataclass(frozen=True, slots=True)
class PartLabelled(_OfPart):
    """Labels of a part were printed. What is printed after that says that it is printed again."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "part_labelled"
    food: str
    part: str
    count: int

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), _part(data), _portions(data, "count"))

    def after(self, state: State, row: Part, at_s: float) -> Part | None:
        return changed(row, prints=row.prints + 1)


@dataclass(frozen=True, slots=True)
class FromShelf(Entry):
    """A food of the recipe came off a shelf: kept before, until so long [s], and frozen before or not. Nothing that is
    made of it keeps longer."""

    front_only: ClassVar[bool] = True
    kind: ClassVar[str] = "from_shelf"
    food: str
    until_s: float
    thawed: bool

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        until_s = finite(data.get("until_s"), "until_s", low=0, high=1e11)
        return cls(a_food(data, bench), until_s, data.get("thawed") in (True, "true", "on", "1"))

    def move(self, state: State, at_s: float) -> Move:
        before = state.food(self.food).earlier
        earlier = Earlier(until_s=self.until_s, thawed=self.thawed)
        if before is not None:  # two parts went into it: the stricter of both
            until_s = min(before.until_s, self.until_s)
            earlier = Earlier(until_s=until_s, thawed=before.thawed or self.thawed)
        return state.with_food(self.food, changed(state.food(self.food), earlier=earlier)), ()

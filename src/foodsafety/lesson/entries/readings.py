"""Entries that measure: the core of food, its chilling, the fridge, the room, and what is seen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import reduce
from typing import Any, ClassVar, Self

from foodsafety.contamination import Finding, touch_all
from foodsafety.cooking import OBSERVATIONS, Probing, believed_c
from foodsafety.foods import is_raw, soil
from foodsafety.lesson.breaches import record
from foodsafety.lesson.changed import changed
from foodsafety.lesson.entry import AtBench, Entry, Typed, a_food, a_temperature_c, one_of, typed
from foodsafety.lesson.food_state import FoodState
from foodsafety.lesson.proving import judge, prove_by_sight
from foodsafety.lesson.state import Move, State
from foodsafety.lesson.telling import Telling, Told
from foodsafety.quantities import CoreError, finite
from foodsafety.recipes import Step

MOST_PIECE_LETTERS = 20


def _piece(data: Mapping[str, Any]) -> str:
    """Which piece; nobody said: the one there is."""
    piece = data.get("piece", "1")
    if not isinstance(piece, (str, int)) or isinstance(piece, bool) or not str(piece).strip():
        raise CoreError("piece", "piece_needed")
    if len(str(piece)) > MOST_PIECE_LETTERS:
        raise CoreError("piece", "piece_needed")
    return str(piece)


@dataclass(frozen=True, slots=True)
class CoreRead(Entry):
    """The core temperature of one piece [C], and the thermometer's stated error [C]."""

    kind: ClassVar[str] = "core_read"
    food: str
    piece: str
    core_c: float
    error_c: float
    entered: Typed | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        error_c = data.get("error_c")
        return cls(
            a_food(data, bench),
            _piece(data),
            a_temperature_c(data),
            finite(0.0 if error_c is None else error_c, "error_c", low=0, high=20),
            typed(data),
        )

    def move(self, state: State, at_s: float) -> Move:
        probing = Probing(at_s=at_s, piece=self.piece, core_c=self.core_c, error_c=self.error_c)
        believed = believed_c(self.core_c, self.error_c, state.plan.profile)
        state, findings = _probe_contact(state, self.food, believed)
        held = state.food(self.food)
        rule = state.plan.cook_rules.get(self.food)
        held = held.read(probing, rule.for_pieces(held.counted) if rule else None)
        if _all_hot(state, held):
            held = held.safe_at(at_s)
        state = judge(state.with_food(self.food, held), self.food, at_s)
        unasked = () if self.food in state.plan.provable else (_not_asked(self.food),)
        return record(state, findings, at_s), (*findings, *unasked)

    def tell(self, telling: Telling, at_s: float, before: State, after: State) -> None:
        probe = next((name for name, tool in telling.tools.items() if tool.kind == "probe"), "probe")
        telling.thing(probe, "probe")
        step = Step(id="probe", do="probe", foods=(self.food,), tools=(probe,))
        last = telling.steps[-1] if telling.steps else None
        if last is None or (last.do, last.foods) != ("probe", step.foods):
            telling.add(step, Told(what="probe", at_s=at_s))


MOST_PIECES = 500


@dataclass(frozen=True, slots=True)
class Counted(Entry):
    """How many pieces of a food there are: no more can be probed, and none may be left out."""

    kind: ClassVar[str] = "counted"
    food: str
    pieces: int

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        pieces = finite(data.get("pieces"), "pieces", low=1, high=MOST_PIECES)
        if not pieces.is_integer():
            raise CoreError("pieces", "not_whole")
        return cls(a_food(data, bench), int(pieces))

    def move(self, state: State, at_s: float) -> Move:
        held = changed(state.food(self.food), counted=self.pieces)
        rule = state.plan.cook_rules.get(self.food)
        if rule is not None and held.readings:
            counting = rule.for_pieces(self.pieces)
            held = changed(held, shown=reduce(counting.after, held.readings, counting.nothing))
        fewer = rule is not None and self.pieces < rule.needed
        noted = (Finding(rule="fewer-pieces", step="", food=self.food, evidence={"pieces": self.pieces}),)
        return judge(state.with_food(self.food, held), self.food, at_s), noted if fewer else ()


def _not_asked(food: str) -> Finding:
    """A reading of a food that no limit is known for proves nothing, and that must be seen."""
    return Finding(rule="reading-proves-nothing", step="", food=food)


def _all_hot(state: State, held: FoodState) -> bool:
    """True if the latest reading of every piece is at hot holding or above."""
    hot = state.plan.profile.hold["hot"].temperature
    latest = held.shown.latest if held.shown else {row.piece: row.core_c for row in held.readings}
    return all(hot.met_by(core_c) for core_c in latest.values())


def _probe_contact(state: State, food: str, core_c: float) -> tuple[State, tuple[Finding, ...]]:
    """A probe in an undercooked piece is soiled; the same probe in a cooked one carries it in."""
    limit = state.plan.provable.get(food)
    tools = tuple(tool.id for tool in state.plan.process.tools.values() if tool.kind == "probe")
    if limit is None or limit.main is None or not tools:
        return state, ()
    probe = tools[0]
    held = state.surfaces.get(probe, {})
    if not limit.main.temperature.met_by(core_c):
        surfaces, _ = touch_all(state.surfaces, (food, probe))
        return changed(state, surfaces=surfaces), ()
    raw = [name for name in held if is_raw(name)]
    if not raw:
        return state, ()
    soil_name = max(raw, key=lambda name: (soil(name).severity, name))
    control = state.plan.core_control(food)
    steps = control.steps if control else ()
    step = next((s for s in steps if s not in state.plan.heat_steps), steps[0] if steps else "")
    path = held[soil_name].to(food).path
    return state, (Finding(rule="probe-not-cleaned", step=step, soil=soil_name, food=food, path=path),)


@dataclass(frozen=True, slots=True)
class Observed(Entry):
    """What somebody saw: it proves a food only where its source gives no temperature to go by."""

    kind: ClassVar[str] = "observed"
    food: str
    what: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), one_of(data, "what", OBSERVATIONS))

    def move(self, state: State, at_s: float) -> Move:
        held = state.food(self.food)
        state = state.with_food(self.food, changed(held, seen=(*held.seen, self.what)))
        limit = state.plan.provable.get(self.food)
        if limit is not None and limit.main is None and self.what in _SHOWS and held.heated_s is not None:
            return prove_by_sight(state, self.food, at_s), ()
        return state, (Finding(rule="seen-proves-nothing", step="", food=self.food, evidence={"what": self.what}),)


# What the published rows without a temperature go by.
_SHOWS = frozenset({"opaque_flakes", "shells_open", "firm"})


@dataclass(frozen=True, slots=True)
class ColdRead(Entry):
    """The temperature of a food that is being chilled [C]."""

    kind: ClassVar[str] = "cold_read"
    food: str
    core_c: float
    entered: Typed | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), a_temperature_c(data), typed(data))

    def move(self, state: State, at_s: float) -> Move:
        held = state.food(self.food)
        held = changed(held, cold=(*held.cold, (at_s, self.core_c)))
        if state.plan.profile.hold["hot"].temperature.met_by(self.core_c):
            held = held.safe_at(at_s)
        return state.with_food(self.food, held), ()


@dataclass(frozen=True, slots=True)
class FridgeRead(Entry):
    """The temperature of the fridge [C]."""

    kind: ClassVar[str] = "fridge_read"
    core_c: float
    entered: Typed | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_temperature_c(data), typed(data))

    def move(self, state: State, at_s: float) -> Move:
        return changed(state, fridge=(*state.fridge, (at_s, self.core_c))), ()


@dataclass(frozen=True, slots=True)
class AmbientRead(Entry):
    """How hot it is around the food [C]; the hottest counts."""

    kind: ClassVar[str] = "ambient_read"
    ambient_c: float
    entered: Typed | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(finite(data.get("ambient_c"), "ambient_c", low=-40, high=60), typed(data))

    def move(self, state: State, at_s: float) -> Move:
        hottest = self.ambient_c if state.ambient_c is None else max(state.ambient_c, self.ambient_c)
        return changed(state, ambient_c=hottest), ()

"""Entries about a lesson that stops for a while: everybody out, back again, and what became of the heat."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Self

from foodsafety.lesson.changed import changed
from foodsafety.lesson.entry import AtBench, Entry, one_of
from foodsafety.lesson.food_state import FoodState
from foodsafety.lesson.state import Move, Pause, State
from foodsafety.quantities import CoreError

WHY_PAUSED = ("fire", "injury", "power", "other")


@dataclass(frozen=True, slots=True)
class Paused(Entry):
    """The lesson stops. No clock of food does."""

    kind: ClassVar[str] = "paused"
    front_only: ClassVar[bool] = True
    why: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(one_of(data, "why", WHY_PAUSED))

    def move(self, state: State, at_s: float) -> Move:
        if state.pause and state.pause.ended_s is None:
            return state, ()
        # What was off in the pause before, or is not said of it, is off still until the bench has read it.
        off = () if state.pause is None or state.pause.seen else (*state.pause.asks, *state.pause.off)
        return changed(state, pause=Pause(why=self.why, begun_s=at_s, off=off)), ()


@dataclass(frozen=True, slots=True)
class Resumed(Entry):
    """It goes on. Of each heat that was on, somebody has to say whether it went on too: as long as nobody has, it
    counts as off."""

    kind: ClassVar[str] = "resumed"
    front_only: ClassVar[bool] = True

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls()

    def move(self, state: State, at_s: float) -> Move:
        pause = state.pause
        if pause is None or pause.ended_s is not None:
            return state, ()
        heats = tuple(step for step, on_s in state.on_heat.items() if step not in state.done and on_s < at_s)
        held = {step: at_s - max(pause.begun_s, state.on_heat[step]) for step in heats}
        still_s = state.stood_still_s + at_s - pause.begun_s
        after = changed(state, pause=replace(pause, ended_s=at_s, asks=heats, held_s=held), stood_still_s=still_s)
        for step in heats:
            after = _held(after, step, held[step])
        return after, ()


@dataclass(frozen=True, slots=True)
class HeatSaid(Entry):
    """Whether a heat was off in the pause. Where it stayed on, its time went on, and its food did not stand out."""

    kind: ClassVar[str] = "heat_said"
    step: str
    off: bool

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        step = one_of(data, "step", bench.plan.heat_steps)
        said = data.get("off")
        if said not in (True, False, "true", "false"):
            raise CoreError("off", "not_one_of", value=str(said)[:20], allowed=("false", "true"))
        return cls(step, said in (True, "true"))

    def move(self, state: State, at_s: float) -> Move:
        pause = state.pause
        if pause is None or self.step not in pause.asks:
            return state, ()
        left = tuple(step for step in pause.asks if step != self.step)
        after = changed(state, pause=replace(pause, asks=left, off=(*pause.off, *((self.step,) if self.off else ()))))
        return (after if self.off else _held(after, self.step, -pause.held_s[self.step])), ()


def _held(state: State, step: str, off_s: float) -> State:
    """The heat's own time begins later by so long [s], for which its food was out of temperature control; less than 0
    takes that back."""
    rows = {name: _stood_out(state.food(name), off_s) for name in state.plan.step(step).foods}
    on_s = state.on_heat.get(step, 0.0) + off_s
    return changed(state, on_heat={**state.on_heat, step: on_s}, foods={**state.foods, **rows})


def _stood_out(food: FoodState, off_s: float) -> FoodState:
    # Held against raw food until it is shown to be cooked; what is given back is never taken off a later clock.
    if food.raw is not None and (food.proof is None or off_s < 0):
        return changed(food, raw=replace(food.raw, spent_s=max(0.0, food.raw.spent_s + off_s)))
    return changed(food, clock=replace(food.clock, spent_s=max(0.0, food.clock.spent_s + off_s)))


@dataclass(frozen=True, slots=True)
class BackSeen(Entry):
    """The bench has read what may still be used after a pause."""

    kind: ClassVar[str] = "back_seen"

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls()

    def move(self, state: State, at_s: float) -> Move:
        pause = state.pause
        if pause is None or pause.ended_s is None or pause.asks:
            return state, ()  # first somebody says what became of the heat
        return changed(state, pause=replace(pause, seen=True)), ()

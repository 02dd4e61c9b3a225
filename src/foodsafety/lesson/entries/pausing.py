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
        return changed(state, pause=Pause(why=self.why, begun_s=at_s)), ()


@dataclass(frozen=True, slots=True)
class Resumed(Entry):
    """It goes on. Of each heat that was on, somebody has to say whether it went on too."""

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
        return changed(state, pause=replace(pause, ended_s=at_s, asks=heats)), ()


@dataclass(frozen=True, slots=True)
class HeatSaid(Entry):
    """Whether a heat was off in the pause. Then its time did not go on, and its food stood out meanwhile."""

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
        return (_held(after, self.step) if self.off else after), ()


def _held(state: State, step: str) -> State:
    """The heat's own time begins later by the pause; its food was out of temperature control for as long."""
    pause = state.pause
    on_s = state.on_heat.get(step)
    if pause is None or pause.ended_s is None or on_s is None:
        return state
    off_s = pause.ended_s - max(pause.begun_s, on_s)
    rows = {name: _stood_out(state.food(name), off_s) for name in state.plan.step(step).foods}
    return changed(state, on_heat={**state.on_heat, step: on_s + off_s}, foods={**state.foods, **rows})


def _stood_out(food: FoodState, off_s: float) -> FoodState:
    if food.raw is not None and food.proof is None:  # held against it until it is shown to be cooked
        return changed(food, raw=replace(food.raw, spent_s=food.raw.spent_s + off_s))
    return changed(food, clock=replace(food.clock, spent_s=food.clock.spent_s + off_s))


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

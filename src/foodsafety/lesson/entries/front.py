"""Entries between a bench and the front: calls, answers, reasons, entries taken back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Self

from foodsafety.lesson.breaches import decide
from foodsafety.lesson.changed import changed
from foodsafety.lesson.entry import AtBench, Entry, a_food, one_of, words
from foodsafety.lesson.state import Move, State


@dataclass(frozen=True, slots=True)
class Called(Entry):
    """The bench calls the educator."""

    kind: ClassVar[str] = "called"

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls()

    def move(self, state: State, at_s: float) -> Move:
        return changed(state, called_s=at_s), ()


@dataclass(frozen=True, slots=True)
class Answered(Entry):
    """The educator went there."""

    kind: ClassVar[str] = "answered"
    front_only: ClassVar[bool] = True

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls()

    def move(self, state: State, at_s: float) -> Move:
        return changed(state, called_s=None), ()


@dataclass(frozen=True, slots=True)
class Reopened(Entry):
    """A lesson that had ended was taken up again, for a reason. What was judged at its end is judged anew."""

    kind: ClassVar[str] = "reopened"
    made_here: ClassVar[bool] = True
    reason: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(words(data, "reason"))

    def move(self, state: State, at_s: float) -> Move:
        return state, ()


@dataclass(frozen=True, slots=True)
class Waived(Entry):
    """A control point is left open for a reason; a limit that fails is a breach all the same."""

    kind: ClassVar[str] = "waived"
    front_only: ClassVar[bool] = True
    control: str
    reason: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(one_of(data, "control", bench.plan.by_id), words(data, "reason"))

    def move(self, state: State, at_s: float) -> Move:
        state = changed(state, waived={**state.waived, self.control: self.reason})
        return decide(state, self.reason, control=self.control), ()


@dataclass(frozen=True, slots=True)
class Decided(Entry):
    """The educator has seen the open breaches of a food and says that the bench goes on. Nothing is
    mended by it: the breach stays open, and the food may not be kept."""

    kind: ClassVar[str] = "decided"
    front_only: ClassVar[bool] = True
    food: str
    reason: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(a_food(data, bench), words(data, "reason"))

    def move(self, state: State, at_s: float) -> Move:
        return decide(state, self.reason, food=self.food), ()


@dataclass(frozen=True, slots=True)
class Voided(Entry):
    """An earlier entry was wrong: it stays in the log and is left out of the fold."""

    kind: ClassVar[str] = "voided"
    front_only: ClassVar[bool] = True
    event: str
    reason: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(words(data, "event", most=64), words(data, "reason"))

    def move(self, state: State, at_s: float) -> Move:
        return state, ()

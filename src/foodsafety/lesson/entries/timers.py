"""Entries about timers that a bench sets by hand: set, moved by some minutes, answered."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Self

from foodsafety.lesson.changed import changed
from foodsafety.lesson.entry import AtBench, Entry, words
from foodsafety.lesson.state import Move, State, Timer
from foodsafety.quantities import CoreError, finite

_ID = re.compile(r"[A-Za-z0-9-]{1,40}")
LONGEST_MIN = 24 * 60.0
MOST_NUDGE_MIN = 60.0
LONGEST_NAME = 40


def _which(data: Mapping[str, Any]) -> str:
    timer = data.get("timer")
    if not isinstance(timer, str) or not _ID.fullmatch(timer):
        raise CoreError("timer", "no_such_timer")
    return timer


@dataclass(frozen=True, slots=True)
class TimerSet(Entry):
    """A timer is set, for so many minutes from now. One that runs already is not set again."""

    kind: ClassVar[str] = "timer_set"
    timer: str
    name: str
    minutes: float

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        name = words(data, "name", most=LONGEST_NAME)
        return cls(_which(data), name, finite(data.get("minutes"), "minutes", low=0.25, high=LONGEST_MIN))

    def move(self, state: State, at_s: float) -> Move:
        if self.timer in state.timers:
            return state, ()
        timer = Timer(name=self.name, set_s=at_s, rings_s=at_s + 60 * self.minutes)
        return changed(state, timers={**state.timers, self.timer: timer}), ()


@dataclass(frozen=True, slots=True)
class TimerNudged(Entry):
    """A timer rings so many minutes later, or sooner; one that rang or was answered runs again."""

    kind: ClassVar[str] = "timer_nudged"
    timer: str
    by_min: float

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        by_min = finite(data.get("by_min"), "by_min", low=-MOST_NUDGE_MIN, high=MOST_NUDGE_MIN)
        return cls(_which(data), by_min)

    def move(self, state: State, at_s: float) -> Move:
        timer = state.timers.get(self.timer)
        if timer is None:
            return state, ()
        # What has rung is given minutes from now, not from when it rang.
        begin_s = max(timer.rings_s, at_s) if self.by_min > 0 else timer.rings_s
        moved = replace(timer, rings_s=max(begin_s + 60 * self.by_min, at_s), answered_s=None)
        return changed(state, timers={**state.timers, self.timer: moved}), ()


@dataclass(frozen=True, slots=True)
class TimerAnswered(Entry):
    """A timer is answered, or stopped before it rings. The first to do so counts."""

    kind: ClassVar[str] = "timer_answered"
    timer: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(_which(data))

    def move(self, state: State, at_s: float) -> Move:
        timer = state.timers.get(self.timer)
        if timer is None or timer.answered_s is not None:
            return state, ()
        return changed(state, timers={**state.timers, self.timer: replace(timer, answered_s=at_s)}), ()

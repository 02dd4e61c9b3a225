"""What an assistant has watched a learner do: seen right, seen wrong, not seen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Self

from foodsafety.contamination import Finding
from foodsafety.lesson.changed import changed
from foodsafety.lesson.entry import AtBench, Entry, a_learner, one_of, words
from foodsafety.lesson.state import Move, State, Watching

WATCHED = ("hands", "board", "grip", "probe", "spoon", "cough", "hair", "towel", "reheat")
SEEN = ("right", "wrong", "not_seen")


@dataclass(frozen=True, slots=True)
class TakenBack(Entry):
    """Somebody takes back what they have seen: it counts as if it had never been said, and that is seen. Whether it was
    theirs to take back is asked by ``entry.voided``."""

    kind: ClassVar[str] = "taken_back"
    watch_only: ClassVar[bool] = True
    event: str
    what: str
    learner: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        what, learner = one_of(data, "what", WATCHED), a_learner(data, bench)
        return cls(words(data, "event", most=64), what, learner)

    def move(self, state: State, at_s: float) -> Move:
        return state, (Finding(rule="watch-taken-back", step="", path=(self.learner,), evidence={"what": self.what}),)


@dataclass(frozen=True, slots=True)
class Watched(Entry):
    """Somebody looked on. It proves no control point; a hand-wash that was seen to go wrong was none."""

    kind: ClassVar[str] = "watched"
    watch_only: ClassVar[bool] = True
    what: str
    learner: str
    seen: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        return cls(one_of(data, "what", WATCHED), a_learner(data, bench), one_of(data, "seen", SEEN))

    def move(self, state: State, at_s: float) -> Move:
        row = Watching(what=self.what, learner=self.learner, seen=self.seen, at_s=at_s)
        state = changed(state, watched={**state.watched, (self.what, self.learner): row})
        if self.seen != "wrong":
            return state, ()
        person = state.person(self.learner)
        if self.what == "hands" and person.off:  # a wash that took nothing off has nothing to be taken back
            first = None if person.first_wash == person.washed else person.first_wash
            held = {**person.off, **state.surfaces.get(self.learner, {})}
            state = changed(state, surfaces={**state.surfaces, self.learner: held})
            state = state.with_person(self.learner, washed=None, first_wash=first, off={})
        return state, (Finding(rule="seen-wrong", step="", path=(self.learner,), evidence={"what": self.what}),)

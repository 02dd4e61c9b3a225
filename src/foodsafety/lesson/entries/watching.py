"""What an assistant has watched a learner do: seen right, seen wrong, not seen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Self

from foodsafety.contamination import Finding
from foodsafety.lesson.changed import changed
from foodsafety.lesson.entry import AtBench, Entry, a_learner, one_of
from foodsafety.lesson.state import Move, State, Watching

WATCHED = ("hands", "board", "grip", "probe", "spoon", "cough", "hair", "towel")
SEEN = ("right", "wrong", "not_seen")


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

"""Entries about a bench that has fallen behind: a dish that is not made after all, and what the front has told it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Self

from foodsafety.contamination import Finding
from foodsafety.lesson.changed import changed
from foodsafety.lesson.entry import AtBench, Entry, a_name, one_of
from foodsafety.lesson.food_state import FoodState, Gone
from foodsafety.lesson.leaving import may_leave_out, sides
from foodsafety.lesson.state import Advice, Move, State

# What the front can tell a bench that is behind: it is served later, somebody comes to help, an adult does, its kit is
# washed up after the lesson, nobody eats in it.
ADVICE = ("later", "help", "adult", "kit_later", "eat")


@dataclass(frozen=True, slots=True)
class NotMade(Entry):
    """A part of the meal of which nothing has been begun is left out. The control points that watch it alone are
    waived: they never count as laid."""

    kind: ClassVar[str] = "not_made"
    front_only: ClassVar[bool] = True
    food: str

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        known = {**data, "food": bench.plan.known.get(str(data.get("food")), data.get("food"))}
        return cls(one_of(known, "food", [side.food for side in sides(bench.plan)]))

    def move(self, state: State, at_s: float) -> Move:
        side = next((row for row in may_leave_out(state) if row.food == self.food), None)
        if side is None:
            if state.food(self.food).gone is not None:
                return state, ()
            return state, (Finding(rule="begun-already", step="", food=self.food),)
        gone = Gone(at_s=at_s, how="not_made")
        foods = {**state.foods, **{name: FoodState(gone=gone) for name in side.made}}
        nobody: dict[str, tuple[str, ...]] = dict.fromkeys(side.steps, ())
        return changed(
            state,
            foods=foods,
            done={**state.done, **dict.fromkeys(side.steps, at_s)},
            done_by={**state.done_by, **nobody},
            dropped=state.dropped | set(side.controls),
        ), ()


@dataclass(frozen=True, slots=True)
class Advised(Entry):
    """What the front has told a bench that is behind; ``of`` says who comes to help."""

    kind: ClassVar[str] = "advised"
    front_only: ClassVar[bool] = True
    what: str
    of: str | None = None

    @classmethod
    def read(cls, data: Mapping[str, Any], bench: AtBench) -> Self:
        what = one_of(data, "what", ADVICE)
        return cls(what, a_name(data, "of") if what == "help" else None)

    def move(self, state: State, at_s: float) -> Move:
        return changed(state, advice=(*state.advice, Advice(what=self.what, of=self.of, at_s=at_s))), ()

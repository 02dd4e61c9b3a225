"""What may still be used when a bench comes back from a pause: asked of the same clocks and proofs as ever."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from foodsafety.lesson.keeping import standing_why
from foodsafety.lesson.standing import clock_of
from foodsafety.lesson.state import State


@dataclass(frozen=True, slots=True, kw_only=True)
class Back:
    """A food and what to do with it: ``throw`` it away (``why``: rules), ``heat`` it to its limit, since the heat was
    off and nobody has shown it to be cooked, use it ``now`` (too long out to go back into the cold), or ``fine`` for
    so long [s]."""

    food: str
    what: Literal["throw", "heat", "now", "fine"]
    left_s: float
    why: tuple[str, ...] = ()


def coming_back(state: State, now_s: float) -> tuple[Back, ...]:
    """Every food that is out, or on a heat that was off, the worst first."""
    steps = (*state.pause.asks, *state.pause.off) if state.pause else ()
    off = {food for step in steps for food in state.plan.step(step).foods}
    rows = [_back(state, food, now_s, off=food in off) for food, held in state.foods.items() if not held.settled]
    order = ("throw", "heat", "now", "fine")
    return tuple(sorted((row for row in rows if row), key=lambda row: (order.index(row.what), row.left_s, row.food)))


def _back(state: State, food: str, now_s: float, *, off: bool) -> Back | None:
    verdict, why = clock_of(state, food, now_s), standing_why(state, food, now_s)
    held = state.food(food)
    if why:
        return Back(food=food, what="throw", left_s=0.0, why=why)
    if off and held.proof is None:
        return Back(food=food, what="heat", left_s=verdict.remaining_s)
    if held.clock.since_s is None:
        return None  # in the cold, or on a heat that went on
    what: Literal["now", "fine"] = "now" if verdict.standing == "use_now" else "fine"
    return Back(food=food, what=what, left_s=verdict.remaining_s)

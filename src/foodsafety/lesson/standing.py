"""How long a food has been out, against what limit: asked by the bricks, the shelf and the screens."""

from __future__ import annotations

from foodsafety.lesson.state import State
from foodsafety.shelf import Clock, ClockVerdict, judge_clock


def clock_of(state: State, food: str, now_s: float) -> ClockVerdict:
    """A food's time out of temperature control against the limit that is known now: the hottest
    surroundings ever read count for all of it, also when they became known later."""
    limit = state.plan.profile.clock_for(state.plan.clock_kind(food), state.ambient_c)
    return judge_clock(Clock(spent_s=state.food(food).out_s(now_s)), limit, now_s=now_s)


def stored_too_late(state: State, food: str) -> bool:
    """True if a food was put away although it had been out too long to go back into the cold."""
    kept = state.food(food).kept
    if kept is None:
        return False
    limit = state.plan.profile.clock_for(state.plan.clock_kind(food), state.ambient_c)
    into_fridge_s = state.plan.profile.cooling.into_fridge_s
    late = state.plan.clock_kind(food) == "hot" and kept.out_s > into_fridge_s
    return late or limit.no_return(kept.out_s)

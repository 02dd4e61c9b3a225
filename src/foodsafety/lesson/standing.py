"""How long a food has been out, against what limit: asked by the bricks, the shelf and the screens."""

from __future__ import annotations

from dataclasses import replace

from foodsafety.lesson.state import State
from foodsafety.rules import ClockLimit
from foodsafety.shelf import Clock, ClockVerdict, dish_categories, judge_clock


def storage_categories(state: State, food: str) -> tuple[str, ...]:
    """Every storage category that bears on a food: the one a person has said, or those of what it is
    made of. A raw ingredient that nothing was done with is kept as what it is."""
    held = state.food(food)
    if held.category:
        return (held.category,)
    process = state.plan.process
    kinds = [process.foods[name].kind for name in sorted(process.ingredients_of(food))]
    alone = kinds[0] if food in process.foods and held.heated_s is None else None
    if alone is not None and alone.storage:
        return (alone.storage,)
    heated = held.heated_s is not None or any(state.food(n).heated_s is not None for n in state.plan.behind(food))
    return dish_categories(kinds, cooked=heated or food in state.plan.hot_foods)


def clock_of(state: State, food: str, now_s: float) -> ClockVerdict:
    """A food's time out of temperature control against the limit that is known now: the hottest
    surroundings ever read count for all of it, also when they became known later."""
    return judge_clock(Clock(spent_s=state.food(food).out_s(now_s)), clock_limit(state, food), now_s=now_s)


def clock_limit(state: State, food: str) -> ClockLimit:
    """The clock of a food; where its rules want it in the fridge sooner (rice), that is when it may not go back."""
    kind = state.plan.clock_kind(food)
    limit, cooling = state.plan.profile.clock_for(kind, state.ambient_c), state.plan.profile.cooling
    if kind != "hot" or not cooling.caps:
        return limit
    sooner_s = min(cooling.into_fridge_for(name) for name in storage_categories(state, food))
    if sooner_s >= min(cooling.into_fridge_s, limit.warn_s or limit.limit_s):
        return limit
    return replace(limit, warn_s=sooner_s, section=f"{limit.section}; {cooling.section}")


def stored_too_late(state: State, food: str) -> bool:
    """True if a food was put away although it had been out too long to go back into the cold."""
    kept = state.food(food).kept
    if kept is None:
        return False
    into_fridge_s = state.plan.profile.cooling.into_fridge_s
    late = state.plan.clock_kind(food) == "hot" and kept.out_s > into_fridge_s
    return late or clock_limit(state, food).no_return(kept.out_s)

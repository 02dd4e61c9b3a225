"""What is worth looking at on a bench now, by what it is doing: for an adult who stands by."""

from __future__ import annotations

from foodsafety.lesson.state import State, next_step
from foodsafety.recipes import Step

MOST_WATCHED = 2


def to_watch(state: State) -> tuple[str, ...]:
    """What to look at now, the most pressing first, of ``entries.watching.WATCHED``: at most two. Hands before
    anything else, as long as somebody has not washed or is to wash next."""
    step = next_step(state)
    found = [*_hands(state, step), *(_at_step(state, step) if step else ()), "cough"]
    return tuple(dict.fromkeys(found))[:MOST_WATCHED]


def _hands(state: State, step: Step | None) -> tuple[str, ...]:
    unwashed = any(state.person(name).washed is None for name in state.present)
    return ("hands",) if unwashed or (step is not None and step.do == "wash_hands") else ()


def _at_step(state: State, step: Step) -> tuple[str, ...]:
    raw = step.id in state.plan.raw_steps
    if state.plan.reheated.get(step.id):
        return ("reheat", "probe")
    watched = {
        "probe": ("probe",),
        "cut": ("board", "grip") if raw else ("grip", "board"),
        "peel": ("grip",),
        "grate": ("grip",),
        "heat": ("towel", "spoon"),
        "part_cook": ("towel", "spoon"),
        "serve": ("spoon", "hair"),
    }
    return watched.get(step.do, ("board", "hair") if raw else ("hair", "towel"))

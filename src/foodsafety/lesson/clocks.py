"""What goes on by itself at a bench, and when it should be looked at: the times that the recipe gives, counted from
when a step really began."""

from __future__ import annotations

from dataclasses import dataclass

from foodsafety.lesson.ovens import on_heat_s
from foodsafety.lesson.state import State
from foodsafety.recipes import Step

# Work that goes on by itself once what comes before it is done.
_BY_ITSELF = frozenset({"rest", "chill", "freeze", "marinate"})
# A shorter time needs no clock of its own [s].
_SHORTEST_S = 60.0


@dataclass(frozen=True, slots=True, kw_only=True)
class StepClock:
    """A step that goes on: which, at what (``name``), since when, from when on somebody has to look (``rings_s``: the
    least time the recipe gives it), and when the longest is over (``over_s``) [s]."""

    step: str
    name: str
    began_s: float
    rings_s: float
    over_s: float


def under_way(state: State) -> dict[str, float]:
    """The steps that go on by themselves and since when [s]: those on the heat, and rests, chilling, freezing and
    marinating, once all that they come after is done. What nobody can know is not in it."""
    found = {}
    for step in state.plan.process.steps:
        if step.id in state.done:
            continue
        began_s = on_heat_s(state, step) if step.do == "heat" else _waits_since_s(state, step)
        if began_s is not None:
            found[step.id] = began_s
    return found


def _waits_since_s(state: State, step: Step) -> float | None:
    if step.do not in _BY_ITSELF or not step.waiting_s or not step.after:
        return None
    if any(step.id in other.after and other.id in state.done for other in state.plan.process.steps):
        return None  # what comes after it is done: it is over, though nobody has said so
    times = [state.done[name] for name in step.after if name in state.done]
    return max(times) if len(times) == len(step.after) else None


def step_clocks(state: State) -> tuple[StepClock, ...]:
    """The clock of every step that goes on and to which the recipe gives a time, the first to ring first. A step that
    is done has none; a pause in which the heat was off moves it."""
    rows = []
    for name, began_s in under_way(state).items():
        step = state.plan.step(name)
        if step.least_s >= _SHORTEST_S:
            what = step.makes or next(iter(step.foods), name)
            rows.append(
                StepClock(
                    step=name,
                    name=what,
                    began_s=began_s,
                    rings_s=began_s + step.least_s,
                    over_s=began_s + step.planned_s,
                )
            )
    return tuple(sorted(rows, key=lambda row: row.rings_s))

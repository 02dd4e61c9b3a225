"""Where a bench is on the lesson's plan: how long ago the plan was where the bench is now."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from foodsafety.lesson.clocks import under_way
from foodsafety.lesson.state import State
from foodsafety.planning import Reached


@dataclass(frozen=True, slots=True, kw_only=True)
class Late:
    """The step that is most behind the plan, and by how much [s]."""

    step: str
    s: float


def has_begun(state: State) -> bool:
    """True once somebody at the bench has entered any work: a wash, a step."""
    return bool(state.done or state.on_heat or any(person.first_wash for person in state.people.values()))


def gone_s(state: State, opened_s: float, now_s: float) -> float:
    """How much of the lesson has gone [s]: the time for which it stood still does not count."""
    pause = state.pause
    still_s = state.stood_still_s + (now_s - pause.begun_s if pause and pause.ended_s is None else 0.0)
    return max(0.0, now_s - opened_s - still_s)


def late_at(state: State, planned: Mapping[str, tuple[float, float]], now_gone_s: float, now_s: float) -> Late | None:
    """The step that is most behind. ``planned``: when each begins and ends by the plan, in seconds of the lesson; what
    is not in it is not asked. A step on the heat is as late as it began late; another one is late once it should have
    ended. None where nothing is, or where nobody at the bench has entered any work: what is silent is not behind, it is
    not known."""
    if not has_begun(state):
        return None
    rows = []
    for step, (begins_s, ends_s) in planned.items():
        if step in state.done or step not in state.plan.process.step_index:
            continue
        on_s = state.on_heat.get(step)
        late_s = now_gone_s - (now_s - on_s) - begins_s if on_s is not None else now_gone_s - ends_s
        if late_s > 0:
            rows.append(Late(step=step, s=late_s))
    return max(rows, key=lambda row: row.s, default=None)


def reached(state: State, now_s: float) -> Reached:
    """How far a bench is, as the planner asks it."""
    served = any(step.do == "serve" for step in state.plan.process.steps)
    eaten = served and any(food.gone is not None and food.gone.how == "eaten" for food in state.foods.values())
    return Reached(
        done=frozenset(state.done),
        going={step: max(0.0, now_s - began_s) for step, began_s in under_way(state).items()},
        washed=sum(1 for name in state.learners if state.person(name).first_wash is not None),
        eaten=eaten,
    )

"""The time a step takes: counted down as the window its recipe gives."""

import datetime as dt
from dataclasses import dataclass

from django.utils.timezone import get_current_timezone

from bulwark.presentation import phrases
from foodsafety.lesson import State, begun_s
from foodsafety.recipes import Step


@dataclass(frozen=True, slots=True, kw_only=True)
class StepTimer:
    """How long a step takes, in words, and what is left [s] to the least and to the most of it;
    None where nobody knows when it began."""

    window: str
    least_left_s: float | None = None
    most_left_s: float | None = None

    @property
    def at_its_time(self) -> bool:
        """True from the least time on."""
        return self.least_left_s is not None and self.least_left_s <= 0


def step_timer(state: State, step: Step, now_s: float) -> StepTimer | None:
    """The timer of a step that takes a time and is not done; none for work that is as long as it is."""
    if not step.planned_s or step.id in state.done or not (step.waiting_s or step.do in ("heat", "part_cook")):
        return None
    least, most = phrases.minutes(step.least_s / 60), phrases.minutes(step.planned_s / 60)
    window = most if least == most else phrases.from_to(least, most)
    begun = begun_s(state, step)
    if begun is None or (step.do == "heat" and step.id not in state.on_heat):
        return StepTimer(window=window)
    gone_s = now_s - begun
    return StepTimer(window=window, least_left_s=step.least_s - gone_s, most_left_s=step.planned_s - gone_s)


@dataclass(frozen=True, slots=True, kw_only=True)
class ByThePlan:
    """When a step should be done by the lesson's plan, on the clock, and by how many minutes it is behind that."""

    at: dt.datetime
    behind_min: int


def by_the_plan(ends_s: float | None, state: State, now_s: float) -> ByThePlan | None:
    """When a step should be done; the time for which the lesson stood still is added. None where no plan says."""
    if ends_s is None or state.paused:
        return None
    ends_s += state.stood_still_s
    at = dt.datetime.fromtimestamp(ends_s, tz=get_current_timezone())
    return ByThePlan(at=at, behind_min=max(0, int((now_s - ends_s) // 60)))

"""Hot food that was put away, until it is shown to be cold: what the rule asks to be measured, and by when."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from foodsafety.cooling import (
    ChillOffer,
    ChillPlan,
    ChillSituation,
    StageResult,
    chill_ways,
    container,
    covers_of,
    judge_cooling,
    left_to_cool,
    plan_chill,
    unknown_dish,
)
from foodsafety.heat import environment
from foodsafety.lesson.food_state import Kept, Part
from foodsafety.lesson.state import State
from foodsafety.quantities import Series, Temperature
from foodsafety.rules import Profile

ChillStanding = Literal["not-asked", "cooling", "cold", "too-slow", "not-seen"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Due:
    """A temperature that must have been measured by a moment [s]."""

    limit: Temperature
    at_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Chilling:
    """How a part cools. ``not-asked``: its rules measure no stages, or it was never hot. ``too-slow``: read above a
    limit after that was due. ``not-seen``: nobody read it in time, so nobody knows. ``due``: what is still to be shown,
    the nearest first; ``readings``: what counts [(s, C)], from when it was no longer held hot; ``section``: where the
    rule stands."""

    standing: ChillStanding
    readings: Series = ()
    due: tuple[Due, ...] = ()
    section: str = ""


def chilling_of(state: State, food: str, part: Part, now_s: float) -> Chilling:
    """Whether a part of a kept food has been shown to be cold in time, at a moment [s].

    Its clock runs from when it was no longer held hot, all the time before it was put away in one piece. From there on
    a straight line between readings lies above the curve of food that cools, so a limit counts as reached no sooner
    than it was. Source: the profile's cooling stages; one that presumes equipment (a chiller) is not asked of a
    fridge."""
    rule, held = state.plan.profile.cooling, state.food(food)
    measured = tuple(row for row in rule.stages if not row.needs)
    if held.kept is None or not measured or state.plan.clock_kind(food) != "hot" or food not in state.plan.controlled:
        return Chilling(standing="not-asked")
    readings = _readings(state, food, held.kept, part, measured[0].start.c)
    found = judge_cooling(readings, state.plan.profile, look_ahead=False)
    if found.verdict == "pass":
        return Chilling(standing="cold", readings=readings, section=rule.section)
    broken = [row for row in found.stages if row.standing == "broken"]
    if any(_read_above(readings, row) for row in broken):
        return Chilling(standing="too-slow", readings=readings, section=rule.section)
    due = _still_due(found.stages)
    if broken or any(row.at_s < now_s for row in due):
        return Chilling(standing="not-seen", readings=readings, section=rule.section)
    return Chilling(standing="cooling", readings=readings, due=due, section=rule.section)


def _readings(state: State, food: str, kept: Kept, part: Part, hot_c: float) -> Series:
    """From the moment at which it was no longer held hot, as if it had been at that limit then."""
    rows = sorted(set(state.food(food).cold) | set(part.cold))
    start_s = kept.at_s - kept.out_s
    return ((start_s, hot_c), *(row for row in rows if row[0] >= start_s))


def _read_above(readings: Series, row: StageResult) -> bool:
    """True if somebody read it above the limit when that was no longer allowed."""
    return any(at_s > row.due_s and not row.stage.end.kept_by(core_c) for at_s, core_c in readings)


def _still_due(stages: tuple[StageResult, ...]) -> tuple[Due, ...]:
    """What is not reached: a stage that waits for the one before it is due no later than that one allows."""
    rows: list[Due] = []
    for row in stages:
        if row.reached_s is None:
            waits = bool(rows) and row.stage.start.c == rows[-1].limit.c
            rows.append(Due(limit=row.stage.end, at_s=rows[-1].at_s + row.stage.within_s if waits else row.due_s))
    return tuple(rows)


@dataclass(frozen=True, slots=True, kw_only=True)
class ChillAhead:
    """What is to come of a part that cools: by when [s] each limit [C] is reached if it is left where it is (None: not
    within a day), whether that is in time, and, where it is not, what would do."""

    reached_s: dict[float, float | None]
    in_time: bool
    better: tuple[ChillPlan, ...]


# What may be made of ice at any time, and how cold it is [C].
_OFFERED = (("ice_bath", 0.5), ("stirred_ice_bath", 0.5))


def chill_ahead(chilling: Chilling, part: Part, profile: Profile, now_s: float) -> ChillAhead | None:
    """How a part that cools will go on, by the model of the chill planner: a forecast, never evidence. None where it
    does not cool, or nobody has said how much of it stands in what. The store is taken to be as warm as the rules
    allow; what would do is reckoned from now [s], with the temperature that the model gives it now."""
    box = part.box
    if chilling.standing != "cooling" or box is None or box.litres is None or part.place == "out":
        return None
    around_c = (profile.hold["cold" if part.place == "fridge" else "freezer"]).temperature.c
    around_c = min(around_c, min(row.limit.c for row in chilling.due) - 0.5)
    batch = unknown_dish(box.litres)
    way = left_to_cool(
        batch,
        container(box.container),
        where=environment(part.place).id,
        around_c=around_c,
        covers=covers_of(box.wrap),
        count=box.count,
    )
    situation = ChillSituation(batch=batch, readings=chilling.readings, profile=profile)
    stay = plan_chill(situation, way)
    reached = {row.limit.c: stay.verdict.crossings_s.get(row.limit.c) for row in chilling.due}
    if stay.passes:
        return ChillAhead(reached_s=reached, in_time=True, better=())
    course = stay.course.series(situation.now_c, situation.now_s)
    if now_s > situation.now_s:
        now_c = float(np.interp(now_s, [row[0] for row in course], [row[1] for row in course]))
        situation = replace(situation, readings=(*chilling.readings, (now_s, now_c)))
    offers = (ChillOffer(where=part.place, around_c=around_c), *(ChillOffer(where=w, around_c=c) for w, c in _OFFERED))
    ways = [plan for plan in chill_ways(situation, way, offers)[1:] if plan.passes]
    return ChillAhead(reached_s=reached, in_time=False, better=tuple(ways[:2]))

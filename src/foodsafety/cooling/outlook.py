"""A cooling batch looked at now: what was measured, what comes if nothing is done, what would do."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from foodsafety.cooling.judge import CoolingVerdict, judge_cooling, stages_of
from foodsafety.cooling.planner import (
    ChillBatch,
    ChillCourse,
    ChillOffer,
    ChillPlan,
    ChillSituation,
    ChillWay,
    chill_course,
    chill_ways,
    judge_planned,
)
from foodsafety.heat import CoolingCourses, cooling_courses
from foodsafety.measuring import TemperatureLog
from foodsafety.quantities import Series
from foodsafety.rules import Profile

# "chilled" and "too_slow" are measured; the "will" ones are forecast, and no evidence.
OutlookStanding = Literal["chilled", "cannot_judge", "too_slow", "will_chill", "will_be_late", "is_late", "not_started"]
_STEPS_AHEAD = 20
_LEAST_AHEAD_S, _LEAST_HORIZON_S = 1800.0, 5400.0
_BEYOND_THE_LAST_LIMIT = 1.06
_BATH_C = 0.5
_FRIDGE_C = 4.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ChillOutlook:
    """How a batch stands. ``measured`` is the verdict on the readings alone, ``final`` the one that
    counts: measured where that is settled, else with what is to come. ``ahead`` is the readings'
    own forecast [(s, low, middle, high C)], ``stay`` what comes if nothing is done [(s, C)],
    ``better`` the other ways that pass, best first."""

    standing: OutlookStanding
    situation: ChillSituation
    measured: CoolingVerdict
    final: CoolingVerdict
    model: ChillCourse
    forecast: CoolingCourses | None
    ahead: tuple[tuple[float, float, float, float], ...]
    stay: Series
    plans: tuple[ChillPlan, ...]
    until_s: float

    @property
    def better(self) -> tuple[ChillPlan, ...]:
        """The ways that pass, other than leaving it."""
        return tuple(plan for plan in self.plans[1:] if plan.passes)

    @property
    def settled(self) -> bool:
        """True if readings alone decide it."""
        return self.measured.verdict in ("pass", "fail")

    def stays_at_c(self, at_s: float) -> float | None:
        """What it has at a time [C] if nothing is done; None outside what is known."""
        for (t0, c0), (t1, c1) in pairwise(self.stay):
            if t0 <= at_s <= t1:
                return c0 if t1 == t0 else c0 + (c1 - c0) * (at_s - t0) / (t1 - t0)
        return None


def chill_outlook(
    batch: ChillBatch,
    log: TemperatureLog,
    profile: Profile,
    as_it_is: ChillWay,
    *,
    owned: Mapping[str, int] | None = None,
) -> ChillOutlook:
    """A batch judged by a profile that measures stages (see ``planning_profile``)."""
    situation = ChillSituation(batch=batch, readings=log.series, profile=profile)
    measured = judge_cooling(log.series, profile, look_ahead=False)
    model = chill_course(as_it_is, batch)
    found = cooling_courses(log.series, around_c=as_it_is.around_c)
    until_s = max(_horizon_s(profile, measured, situation), situation.now_s + _LEAST_AHEAD_S)
    ahead = _ahead(found, situation.now_s, until_s)
    stay = _stay(ahead, situation, model, until_s)
    final = measured
    if measured.verdict not in ("pass", "fail"):
        final = judge_planned((*log.series, *(row for row in stay if row[0] > situation.now_s)), profile)
    return ChillOutlook(
        standing=_standing(log, situation, measured, final),
        situation=situation,
        measured=measured,
        final=final,
        model=model,
        forecast=found,
        ahead=ahead,
        stay=stay,
        plans=chill_ways(situation, as_it_is, _offers(as_it_is), owned=owned),
        until_s=until_s,
    )


def _standing(
    log: TemperatureLog, situation: ChillSituation, measured: CoolingVerdict, final: CoolingVerdict
) -> OutlookStanding:
    if measured.verdict == "pass":
        with_doubted = judge_cooling(log.kept, situation.profile, look_ahead=False)
        return "chilled" if with_doubted.verdict == "pass" else "cannot_judge"
    if measured.verdict == "fail":
        return "too_slow"
    if final.verdict == "pass":
        return "will_chill"
    broken = next((row for row in final.stages if row.standing != "met"), None)
    if broken is None:
        return "not_started"
    return "is_late" if situation.now_s > broken.due_s else "will_be_late"


def _horizon_s(profile: Profile, verdict: CoolingVerdict, situation: ChillSituation) -> float:
    stages = stages_of(profile)
    chained = len(stages) > 1 and stages[1].start.c == stages[0].end.c
    within_s = sum(stage.within_s for stage in stages) if chained else stages[-1].within_s
    start_s = verdict.start_s if verdict.start_s is not None else situation.now_s
    return start_s + _BEYOND_THE_LAST_LIMIT * max(within_s, _LEAST_HORIZON_S)


def _ahead(
    found: CoolingCourses | None, from_s: float, until_s: float
) -> tuple[tuple[float, float, float, float], ...]:
    if found is None:
        return ()
    times = [from_s + (until_s - from_s) * n / _STEPS_AHEAD for n in range(1, _STEPS_AHEAD + 1)]
    return tuple((at_s, *found.at(at_s)) for at_s in times)


def _stay(
    ahead: Sequence[tuple[float, float, float, float]], situation: ChillSituation, model: ChillCourse, until_s: float
) -> Series:
    """The readings' own forecast where they tell one, else the model's course."""
    if not ahead:
        return tuple(row for row in model.series(situation.now_c, situation.now_s) if row[0] <= until_s)
    return ((situation.now_s, situation.now_c), *((at_s, middle) for at_s, _low, middle, _high in ahead))


def _offers(as_it_is: ChillWay) -> tuple[ChillOffer, ...]:
    """Where it could be put: the fridge and ice baths, and the blast chiller or fan where there is one."""
    cold_c = min(as_it_is.around_c, _FRIDGE_C) if as_it_is.where != "room" else _FRIDGE_C
    own = (ChillOffer(where=as_it_is.where, around_c=as_it_is.around_c),)
    return (
        ChillOffer(where="fridge", around_c=cold_c),
        ChillOffer(where="ice_bath", around_c=_BATH_C),
        ChillOffer(where="stirred_ice_bath", around_c=_BATH_C),
        *(own if as_it_is.where in ("fan_fridge", "blast") else ()),
    )

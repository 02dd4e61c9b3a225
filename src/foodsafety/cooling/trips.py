"""Food in and out of temperature control over several trips, by a school of clocks.

"As the rules say" follows the food's own course: food that comes off the heat cools by the cooling
stages, food made from ingredients at room temperature by theirs, and food from the fridge runs the
clock of cold food.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from foodsafety.cooling.judge import judge_cooling
from foodsafety.quantities import Series, Temperature
from foodsafety.rules import ClockLimit, CoolingStage, Profile
from foodsafety.shelf import (
    ClockSchool,
    GrowthBudget,
    SchoolVerdict,
    growth_budgets,
    out_of_control_s,
    ruled_by,
    school_verdict,
    trips_out,
)

MadeFrom = Literal["hot", "ambient", "cold"]
MADE_FROM: tuple[MadeFrom, ...] = ("hot", "ambient", "cold")


@dataclass(frozen=True, slots=True, kw_only=True)
class TripsVerdict:
    """Time out [s] over every trip, what the school says of it, and the growth budgets, the most
    used up first."""

    out_s: float
    ruled: SchoolVerdict
    budgets: tuple[GrowthBudget, ...]


def judge_trips(
    trusted: Series,
    kept: Series,
    profile: Profile,
    *,
    school: ClockSchool,
    ambient_c: float | None,
    made_from: MadeFrom | None = None,
) -> TripsVerdict:
    """A food's temperatures over its trips; the last reading is now.

    A reading nobody trusts (in ``kept``, not in ``trusted``) may not shorten the time, nor show that
    food stayed cool. ``made_from`` is how the food began, where its first reading does not tell.
    Without a reading, or with one alone of food that is out, nothing can be said.
    """
    verdicts = [_Course(rows, profile, ambient_c, made_from).ruled(school) for rows in (trusted, kept)]
    worst = max(verdicts, key=lambda found: (_BAD.index(found[1].action), found[0]))
    return TripsVerdict(
        out_s=max(out_s for out_s, _ in verdicts),
        ruled=worst[1],
        budgets=tuple(sorted(growth_budgets(kept).values(), key=lambda row: -row.spent)),
    )


_BAD = ("keep", "use_now", "cannot_judge", "discard")


class _Course:
    """One series of readings, judged as the food went."""

    def __init__(self, readings: Series, profile: Profile, ambient_c: float | None, made_from: MadeFrom | None) -> None:
        self.readings = readings
        self.profile = profile
        self.cold, self.hot = profile.hold["cold"].temperature, profile.hold["hot"].temperature
        self.clocks = {kind: profile.clock_for(kind, ambient_c) for kind in ("hot", "cold")}
        self.began = made_from or self._began()

    def _began(self) -> MadeFrom | None:
        """How the food began as its first reading shows; None where it was already out."""
        if not self.readings:
            return None
        first_c = self.readings[0][1]
        if self.hot.met_by(first_c):
            return "hot"
        return "cold" if self.cold.kept_by(first_c) else None

    @property
    def low(self) -> Temperature:
        """Above this the clock of cold food runs."""
        return self.clocks["cold"].starts_above or self.cold

    def _out_s(self, readings: Series) -> float:
        return out_of_control_s(readings, self.low, self.hot)

    def ruled(self, school: ClockSchool) -> tuple[float, SchoolVerdict]:
        """The time out [s] that counts, and what the school says of it."""
        out_s = self._out_s(self.readings)
        if school != "rules":
            found = school_verdict(out_s, school, self.readings)
        else:
            out_s, found = self._by_the_rules(out_s)
        return out_s, self._unless_unseen(found)

    def _unless_unseen(self, found: SchoolVerdict) -> SchoolVerdict:
        """One reading of food that is out tells nothing of how long it has been so."""
        alone = len(self.readings) == 1 and not self.low.kept_by(self.readings[0][1])
        if not self.readings or (alone and not self.hot.met_by(self.readings[0][1])):
            return _cannot(self.clocks["cold"], "how-long-nobody-saw")
        return found

    def _by_the_rules(self, out_s: float) -> tuple[float, SchoolVerdict]:
        if self._too_many_periods():
            limit = self.clocks["cold"]
            return out_s, SchoolVerdict(
                action="discard", limit_s=limit.limit_s, remaining_s=0.0, section=limit.section, rule="one-period"
            )
        stages = [stage for stage in self.profile.cooling.stages if not stage.needs]
        if self.began == "hot" and stages:
            return self._cooled(out_s)
        ambient = self.profile.cooling.ambient
        if self.began == "ambient" and ambient:
            return self._from_ambient(ambient)
        limit = self.clocks["hot" if self.began == "hot" else "cold"]
        found = ruled_by(out_s, limit, "clock-hot" if self.began == "hot" else "clock-cold")
        if self.began is None and limit.from_control and found.action != "discard" and out_s > 0:
            return out_s, _cannot(limit, "time-control-begins-cold-or-hot")
        return out_s, found

    def _too_many_periods(self) -> bool:
        """Out more often than a profile of single periods allows."""
        trips = trips_out(self.readings, self.low, self.hot)
        cold = sum(trip != "hot" for trip in trips)
        hot = sum(trip == "hot" for trip in trips)
        return (self.clocks["cold"].one_period and cold > 1) or (self.profile.clocks["hot"].one_period and hot > 1)

    def _cooled(self, out_s: float) -> tuple[float, SchoolVerdict]:
        """Off the heat: the stages of the cooling rule, then the clock of cold food."""
        found = judge_cooling(self.readings, self.profile, look_ahead=False)
        limit_s = max((row.due_s - (found.start_s or 0.0) for row in found.stages), default=0.0)
        last_s = self.readings[-1][0]
        if found.verdict == "fail":
            late = next(row for row in found.stages if row.standing == "broken")
            return out_s, SchoolVerdict(
                action="discard",
                limit_s=late.due_s - late.start_s,
                remaining_s=0.0,
                section=found.section,
                rule=f"cooling-stage-{found.failed_stage}",
            )
        if found.verdict == "pass":
            done_s = max(row.reached_s or 0.0 for row in found.stages)
            after = ((done_s, self.cold.c), *(row for row in self.readings if row[0] > done_s))
            return out_s, ruled_by(self._out_s(after), self.clocks["cold"], "clock-cold")
        due_s = min((row.due_s for row in found.stages if row.standing == "open"), default=last_s)
        return out_s, SchoolVerdict(
            action="keep", limit_s=limit_s, remaining_s=max(0.0, due_s - last_s), section=found.section, rule="cooling"
        )

    def _from_ambient(self, stage: CoolingStage) -> tuple[float, SchoolVerdict]:
        """Made from ingredients at room temperature: so long to be cold, then the clock of cold food."""
        limit = ClockLimit(limit_s=stage.within_s, action="discard", section=self.profile.cooling.section)
        cold_s = next((at_s for at_s, core_c in self.readings if stage.end.kept_by(core_c)), None)
        first = tuple(row for row in self.readings if cold_s is None or row[0] <= cold_s)
        out_s = self._out_s(first)
        found = ruled_by(out_s, limit, "cooling-from-ambient")
        if found.action == "discard" or cold_s is None:
            return out_s, found
        later = tuple(row for row in self.readings if row[0] >= cold_s)
        return self._out_s(self.readings), ruled_by(self._out_s(later), self.clocks["cold"], "clock-cold")


def _cannot(limit: ClockLimit, rule: str) -> SchoolVerdict:
    return SchoolVerdict(
        action="cannot_judge", limit_s=limit.limit_s, remaining_s=0.0, section=limit.section, rule=rule
    )

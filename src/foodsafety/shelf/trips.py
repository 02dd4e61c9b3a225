"""Food in and out of temperature control over several trips, by a school of clocks."""

from __future__ import annotations

from dataclasses import dataclass

from foodsafety.quantities import Series
from foodsafety.rules import Profile
from foodsafety.shelf.clocks import ClockSchool, SchoolVerdict, out_of_control_s, school_verdict
from foodsafety.shelf.growth import GrowthBudget, growth_budgets


@dataclass(frozen=True, slots=True, kw_only=True)
class TripsVerdict:
    """Time out [s] over every trip, what the school says of it, and the growth budgets, the most
    used up first."""

    out_s: float
    ruled: SchoolVerdict
    budgets: tuple[GrowthBudget, ...]


def judge_trips(
    trusted: Series, kept: Series, profile: Profile, *, school: ClockSchool, ambient_c: float | None
) -> TripsVerdict:
    """A food's temperatures over its trips. A reading nobody trusts (in ``kept``, not in
    ``trusted``) may not shorten the time, nor show that food stayed cool."""
    cold, hot = profile.hold["cold"].temperature, profile.hold["hot"].temperature
    out_s = max(out_of_control_s(trusted, cold, hot), out_of_control_s(kept, cold, hot))
    return TripsVerdict(
        out_s=out_s,
        ruled=school_verdict(out_s, school, profile, ambient_c=ambient_c, readings=kept),
        budgets=tuple(sorted(growth_budgets(kept).values(), key=lambda row: -row.spent)),
    )

"""A logger's file judged: food that cools by its trusted readings and by all of them, or a store."""

from __future__ import annotations

from dataclasses import dataclass

from foodsafety.cooling.judge import CoolingVerdict, judge_cooling
from foodsafety.measuring import TemperatureLog
from foodsafety.rules import Profile


@dataclass(frozen=True, slots=True, kw_only=True)
class CoolingCheck:
    """The verdict on a cooling log. ``hangs_on_doubt``: readings nobody can trust would change it,
    so it cannot be judged."""

    verdict: CoolingVerdict
    hangs_on_doubt: bool


def check_cooling(log: TemperatureLog, profile: Profile) -> CoolingCheck:
    """A log of cooling food against a profile."""
    found = judge_cooling(log.series, profile)
    return CoolingCheck(
        verdict=found, hangs_on_doubt=found.verdict != judge_cooling(log.kept, profile, look_ahead=False).verdict
    )

"""Topic ``clock``: food out of temperature control, by the rules or by a school of clocks."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from foodsafety.cli.input import a_list, asked_profile, one_of, optional
from foodsafety.cooling import MADE_FROM, judge_trips
from foodsafety.quantities import tidy_readings
from foodsafety.shelf import ClockSchool

_SAID = {"keep": "ok"}
SCHOOLS: tuple[ClockSchool, ...] = ("rules", "2_4", "4_6")


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``clock``; the last reading is now."""
    profile = asked_profile(data)
    readings = tidy_readings(a_list(data, "readings", "[seconds, Celsius]"), counts="higher")
    found = judge_trips(
        readings,
        readings,
        profile,
        school=one_of(data, "school", SCHOOLS) or "rules",
        ambient_c=optional(data, "ambient_c", low=-60, high=80),
        made_from=one_of(data, "made_from", MADE_FROM),
    )
    return {
        "verdict": _SAID.get(found.ruled.action, found.ruled.action),
        "out_s": found.out_s,
        "limit_s": found.ruled.limit_s,
        "remaining_s": found.ruled.remaining_s,
        "rule": found.ruled.rule,
        "section": found.ruled.section,
    }

"""Topic ``cooling``: cooling judged by a profile."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from foodsafety.cli.input import a_list, asked_profile, optional
from foodsafety.cooling import CoolingVerdict, judge_cooling
from foodsafety.quantities import tidy_readings


def _forecasts(found: CoolingVerdict) -> dict[str, Any]:
    return {
        str(round(limit_c)): {"at_s": one.at_s, "early_s": one.early_s, "late_s": one.late_s}
        for limit_c, one in found.forecasts.items()
    }


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``cooling``."""
    code = asked_profile(data)
    readings = tidy_readings(a_list(data, "readings", "[seconds, Celsius]"), counts="higher")
    found = judge_cooling(readings, code, around_c=optional(data, "ambient_c", low=-60, high=60))
    return _always(found) | {name: value for name, value in _sometimes(found).items() if value is not None}


def _always(found: CoolingVerdict) -> dict[str, Any]:
    return {
        "verdict": found.verdict,
        "failed_stage": found.failed_stage,
        "crossings_s": {str(round(limit_c)): at_s for limit_c, at_s in found.crossings_s.items()},
        "start_s": found.start_s,
        "section": found.section,
    }


def _sometimes(found: CoolingVerdict) -> dict[str, Any]:
    return {
        "forecast_s": found.forecast_s,
        "forecasts": _forecasts(found) or None,
        "gaps": [list(gap) for gap in found.gaps] or None,
    }

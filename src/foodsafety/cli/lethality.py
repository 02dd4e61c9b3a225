"""Topic ``lethality``: the kill along a temperature history."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from foodsafety.cli.input import a_list, optional
from foodsafety.cooking import Kinetics, lethality_of
from foodsafety.quantities import finite, positive, tidy_readings


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``lethality``."""
    rows = a_list(data, "readings", "[seconds, Celsius]")
    death = _kinetics(data)
    floor = optional(data, "floor_c", low=-273.15, high=1000)
    floor_c = -math.inf if floor is None else floor
    readings = tidy_readings(rows, counts="lower")
    found = lethality_of(readings, death, floor_c=floor_c, longest_gap_s=_gap_s(data))
    return {"log_reduction": found.log_reduction, "seconds_above_floor": found.seconds_above_floor}


def _gap_s(data: Mapping[str, Any]) -> float:
    gap = data.get("longest_gap_s")
    return math.inf if gap is None else positive(gap, "longest_gap_s")


def _kinetics(data: Mapping[str, Any]) -> Kinetics:
    return Kinetics(
        t_ref_c=finite(data.get("t_ref_c"), "t_ref_c", low=-273.15, high=1000),
        d_ref_s=finite(data.get("d_ref_s"), "d_ref_s"),
        z_c=finite(data.get("z_c"), "z_c"),
    )

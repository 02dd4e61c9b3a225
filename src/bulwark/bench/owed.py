"""Readings that are lacking, as a tablet without a network takes them (static/bulwark/cooked.js)."""

import json
from collections.abc import Sequence
from typing import Any

from foodsafety.cooking import error_borne_c
from foodsafety.lesson import Lacking, State
from foodsafety.quantities import HIGHEST_CORE_C


def as_json(rows: Sequence[Lacking], state: State) -> str:
    """The readings, and the rule they are held against, times in milliseconds; "" for none."""
    return json.dumps([_weighed_by(row, state) for row in rows]) if rows else ""


def _weighed_by(row: Lacking, state: State) -> dict[str, Any]:
    limit = row.rule.limit
    return {
        "food": row.food,
        "holds": [(hold.temperature.least_c, hold.hold_s) for hold in row.rule.holds],
        "then_s": limit.rest_s + limit.stand_s,
        "pieces": row.rule.needed,
        "most": row.most_pieces,
        "over_c": error_borne_c(state.plan.profile),
        "gap_s": state.plan.profile.longest_gap_s,
        "readings": [(_ms(one.at_s), one.piece, one.core_c, one.error_c) for one in row.readings],
        "off": None if row.off_heat_s is None else _ms(row.off_heat_s),
        "heats": row.heats,
        "again": row.again,
        "hottest_c": HIGHEST_CORE_C,
    }


def _ms(at_s: float) -> int:
    return round(at_s * 1000)

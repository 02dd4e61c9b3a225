"""Readings and times as people type them, and what was found wrong with them."""

from collections.abc import Mapping
from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.phrases import span
from foodsafety.measuring import TemperatureLog, TypedLog, clock_of_day, review_log, typed_readings
from foodsafety.quantities import CoreError, Unit

_MOST_DOUBTS, _MOST_GAPS = 8, 4
_DOUBTS = {
    "jump": _l("line %(row)d: %(value)s is a jump that no food makes; kept, not trusted"),
    "impossible": _l("line %(row)d: %(value)s is no temperature a kitchen has; kept, not trusted"),
    "out_of_order": _l("line %(row)d was out of order and has been put in its place"),
    "repeated": _l("line %(row)d says the same as another; counted once"),
    "conflict": _l("line %(row)d contradicts another at the same time; the worse one counts"),
    "missing": _l("line %(row)d has no reading"),
    "unit": _l("line %(row)d: is %(value)s in the other unit?"),
}


def read_typed(text: str, unit: Unit) -> tuple[TypedLog, TemperatureLog]:
    """Typed readings of a food that cools, looked over. Raises CoreError where none can be one."""
    found = typed_readings(text)
    log = review_log(found.rows, counts="higher", unit=unit)
    if not log.series:
        raise CoreError("readings", "no_food_reading")
    return found, log


def doubt_sentences(log: TemperatureLog) -> list[str]:
    """What was found wrong in a log, in sentences."""
    rows = [str(_DOUBTS[flag.doubt]) % {"row": flag.row, "value": flag.value} for flag in log.flags[:_MOST_DOUBTS]]
    if len(log.flags) > _MOST_DOUBTS:
        rows.append(_("and %(n)d more") % {"n": len(log.flags) - _MOST_DOUBTS})
    unseen = _("%(span)s without a reading: nobody saw what happened then")
    return rows + [unseen % {"span": span(b - a)} for a, b in log.gaps[:_MOST_GAPS]]


def asked_clock(asked: Mapping[str, Any], field: str) -> float | None:
    """A time of the clock [s after midnight]; None where none was typed. Raises CoreError for what
    is no time."""
    text = asked[field].strip()
    if not text:
        return None
    found = clock_of_day(text)
    if found is None:
        raise CoreError(field, "not_a_clock_time", value=text[:20])
    return found

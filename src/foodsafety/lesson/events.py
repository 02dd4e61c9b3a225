"""The entries of a bench's log: their kinds, and what each must say.

``check`` is for the edge, where a wrong field is named; the fold uses the same check and
turns anything unreadable into a finding.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Any

from foodsafety.lesson.plan import Plan
from foodsafety.quantities import CoreError, finite

READY_CHECKS = ("apron", "hair", "jewellery", "cuts", "well")
TOUCHED = {"face": "person", "hair": "person", "phone": "person", "cough": "person", "bin": "waste"}
CLEANING = ("clean", "wipe", "rinse")
GONE = ("eaten", "discarded")
_INITIALS = re.compile(r"[\w .'-]{1,24}", re.UNICODE)


@dataclass(frozen=True, slots=True, kw_only=True)
class Event:
    """One immutable entry. ``at_s`` is when it happened [s], by the bench's corrected clock."""

    id: str
    kind: str
    at_s: float
    data: Mapping[str, Any] = field(default_factory=lambda: MappingProxyType({}))
    by: str = ""


Payload = dict[str, Any]
PayloadCheck = Callable[[Mapping[str, Any], Plan], Payload]


def _learner(data: Mapping[str, Any], key: str = "learner") -> str:
    name = data.get(key)
    if not isinstance(name, str) or not _INITIALS.fullmatch(name):
        raise CoreError(key, "initials_needed")
    return name


def _one_of(data: Mapping[str, Any], key: str, allowed: Any) -> str:
    value = data.get(key)
    if not isinstance(value, str) or value not in allowed:
        raise CoreError(key, "not_one_of", value=value, allowed=tuple(sorted(allowed)))
    return value


def _many_of(data: Mapping[str, Any], key: str, allowed: Any) -> tuple[str, ...]:
    values = data.get(key)
    if isinstance(values, str):
        values = [values]
    if not isinstance(values, (list, tuple)) or not values:
        raise CoreError(key, "none_given")
    for value in values:
        if not isinstance(value, str) or value not in allowed:
            raise CoreError(key, "not_one_of", value=value, allowed=tuple(sorted(allowed)))
    return tuple(dict.fromkeys(values))


def _text(data: Mapping[str, Any], key: str, *, most: int = 300) -> str:
    value = data.get(key)
    if not isinstance(value, str) or not value.strip():
        raise CoreError(key, "words_needed")
    if len(value) > most:
        raise CoreError(key, "too_long", count=len(value), most=most)
    return value.strip()


def _ready(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"learner": _learner(data), "checks": _many_of(data, "checks", READY_CHECKS)}


def _unwell(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"learner": _learner(data)}


def _hands_washed(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"learner": _learner(data), "scrub_s": finite(data.get("scrub_s"), "scrub_s", low=0, high=600)}


def _touched(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"learner": _learner(data), "what": _one_of(data, "what", TOUCHED)}


def _step_done(data: Mapping[str, Any], plan: Plan) -> Payload:
    by = data.get("by")
    names = [by] if isinstance(by, str) else list(by or ())
    return {
        "step": _one_of(data, "step", plan.process.step_index),
        "by": tuple(_learner({"by": name}, "by") for name in names),
    }


def _cleaned(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"tools": _many_of(data, "tools", plan.process.tools), "how": _one_of(data, "how", CLEANING)}


def _swapped(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"tools": _many_of(data, "tools", plan.process.tools)}


def _reading_c(data: Mapping[str, Any]) -> float:
    return finite(data.get("core_c"), "core_c", low=-60, high=300)


def _fridge_read(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"core_c": _reading_c(data)}


def _food(data: Mapping[str, Any], plan: Plan) -> str:
    return _one_of(data, "food", plan.process.food_ids)


def _cold_read(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"food": _food(data, plan), "core_c": _reading_c(data)}


def _core_read(data: Mapping[str, Any], plan: Plan) -> Payload:
    piece = data.get("piece")
    if not isinstance(piece, (str, int)) or isinstance(piece, bool) or not str(piece).strip() or len(str(piece)) > 20:
        raise CoreError("piece", "piece_needed")
    return {
        "food": _food(data, plan),
        "piece": str(piece),
        "core_c": _reading_c(data),
        "error_c": finite(data.get("error_c", 0.0), "error_c", low=0, high=20),
    }


def _on_heat(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"step": _one_of(data, "step", plan.heat_steps)}


def _off_heat(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"food": _food(data, plan)}


def _ambient(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"ambient_c": finite(data.get("ambient_c"), "ambient_c", low=-40, high=60)}


def _stored(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"food": _food(data, plan), "place": _one_of(data, "place", ("fridge", "freezer"))}


def _gone(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"food": _food(data, plan), "how": _one_of(data, "how", GONE)}


def _waived(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"control": _one_of(data, "control", plan.by_id), "reason": _text(data, "reason")}


def _nothing(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {}


def _voided(data: Mapping[str, Any], plan: Plan) -> Payload:
    return {"event": _text(data, "event", most=64), "reason": _text(data, "reason")}


PAYLOAD_CHECKS: Mapping[str, PayloadCheck] = MappingProxyType(
    {
        "ready": _ready,
        "unwell": _unwell,
        "wash_started": _unwell,
        "hands_washed": _hands_washed,
        "touched": _touched,
        "step_done": _step_done,
        "cleaned": _cleaned,
        "swapped": _swapped,
        "fridge_read": _fridge_read,
        "cold_read": _cold_read,
        "core_read": _core_read,
        "on_heat": _on_heat,
        "off_heat": _off_heat,
        "ambient_read": _ambient,
        "stored": _stored,
        "gone": _gone,
        "remade": _off_heat,
        "cooked_again": _off_heat,
        "waived": _waived,
        "called": _nothing,
        "answered": _nothing,
        "voided": _voided,
    }
)


def check_payload(kind: str, data: object, plan: Plan) -> Payload:
    """The event's data, checked. Raises CoreError naming the field that is wrong."""
    if kind not in PAYLOAD_CHECKS:
        raise CoreError("kind", "unknown_entry", kind=kind)
    if not isinstance(data, Mapping):
        raise CoreError("data", "not_an_object")
    return PAYLOAD_CHECKS[kind](data, plan)

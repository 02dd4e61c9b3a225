"""Temperatures as people type them, at a bench or at the front: questioned, then kept in Celsius
beside what was typed."""

from typing import Any

from foodsafety.quantities import CoreError, Question, Unit, c_from_f, question_cold, question_core, question_room

# What asks about a reading of each kind, and the field that keeps it in Celsius.
READINGS = {
    "core_read": (question_core, "core_c"),
    "cold_read": (question_cold, "core_c"),
    "fridge_read": (question_cold, "core_c"),
    "ambient_read": (question_room, "ambient_c"),
}
# Asked about, and believed when a person says so.
_MAY_BE_KEPT = ("looks_celsius", "too_cold_for_cooking", "odd_for_a_room")


def question_reading(kind: str, data: dict[str, Any]) -> tuple[Question, float, Unit] | None:
    """What to ask about a typed reading, with its number and unit; None when it may pass: then the
    reading stands in ``data`` in Celsius [C] beside what was typed. Raises CoreError for no number."""
    ask, field = READINGS[kind]
    value, unit = data.pop("value", None), data.pop("unit", "C")
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise CoreError("value", "temperature_needed")
    if unit not in ("C", "F"):
        raise CoreError("unit", "unit_needed")
    confirmed = data.pop("confirmed", False) is True
    question = ask(float(value), unit)
    if question and not (confirmed and question in _MAY_BE_KEPT):
        return question, float(value), unit
    data[field] = float(value) if unit == "C" else c_from_f(float(value))
    data["entered"] = {"value": value, "unit": unit, "confirmed": confirmed}
    return None

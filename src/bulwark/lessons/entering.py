"""Any entry for any bench, made at the front: what each kind asks for, taken from the kind itself."""

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass, fields
from typing import Any

from django.utils import timezone

from bulwark.lessons import log_wording, selectors
from bulwark.lessons.adapters import step_texts
from bulwark.lessons.models import Bench
from bulwark.lessons.readings import READINGS, question_reading
from foodsafety.cooking import OBSERVATIONS
from foodsafety.lesson import CLEANING, ENTRIES, READY_CHECKS, TOUCHED, State, nameable
from foodsafety.quantities import CoreError
from foodsafety.shelf import storage_category_ids

# Made by the program, or by a form of their own on the bench's page.
_ELSEWHERE = frozenset({"came", "went", "voided", "waived", "decided", "answered", "called", "categorised"})
_ELSEWHERE |= {"timer_set", "timer_nudged", "timer_answered", "paused", "resumed", "heat_said", "back_seen", "watched"}
_ELSEWHERE |= {"advised", "not_made", "taken_back", "from_shelf"}
_ELSEWHERE |= {kind for kind in ENTRIES if kind.startswith("part_")}
_NUMBERS = frozenset({"scrub_s", "value", "pieces"})
_LEFT_OUT = frozenset({"entered", "error_c", "goes_on", "core_c", "ambient_c"})
# A temperature is typed in a unit and questioned, here as at a bench.
_READING = ("value", "unit", "confirmed")
_MANY = frozenset({"checks", "by", "tools", "foods", "confirmed"})


@dataclass(frozen=True, slots=True)
class Asked:
    """One field of an entry: what to choose from, or nothing for a number or a word."""

    name: str
    label: str
    options: tuple[tuple[str, str], ...] = ()
    many: bool = False
    is_number: bool = False


def kinds() -> list[tuple[str, str]]:
    """The kinds of entry that can be made here, each in words."""
    rows = [(kind, log_wording.kind_name(kind)) for kind, entry in ENTRIES.items() if not entry.made_here]
    return sorted([row for row in rows if row[0] not in _ELSEWHERE], key=lambda row: row[1])


def asked_for(bench: Bench, kind: str) -> list[Asked]:
    """The fields that a kind of entry asks for. Raises CoreError for a kind that is not made here."""
    if kind not in dict(kinds()):
        raise CoreError("kind", "unknown_entry_here", kind=kind[:60])
    state, _ = selectors.bench_state(bench)
    names = [field.name for field in fields(ENTRIES[kind]) if field.name not in _LEFT_OUT]  # type: ignore[arg-type]
    names += _READING if kind in READINGS else ()
    return [
        Asked(
            name=name,
            label=log_wording.field_name(name),
            options=_options(bench, state, kind, name),
            many=name in _MANY,
            is_number=name in _NUMBERS,
        )
        for name in names
    ]


def _options(bench: Bench, state: State, kind: str, name: str) -> tuple[tuple[str, str], ...]:
    """What a field may be, each with its words; nothing where it is written."""
    plan = state.plan
    if name == "step":
        only = {"on_heat": "heat", "left_out": "rinse"}.get(kind)
        wanted = {step.id for step in plan.process.steps if only in (None, step.do)}
        return tuple((key, str(row["title"])) for key, row in step_texts(bench.lesson).items() if key in wanted)
    said = {
        "learner": state.learners,
        "by": state.learners,
        "checks": READY_CHECKS,
        "tools": tuple(plan.process.tools),
        "foods": tuple(plan.process.foods),
        "food": nameable(plan.process),
        "place": ("fridge", "freezer"),
        "category": tuple(storage_category_ids()),
        "what": tuple(TOUCHED if kind == "touched" else OBSERVATIONS),
        "unit": _units(kind, plan.profile.unit),
        "confirmed": ("yes",),
        "how": CLEANING if kind == "cleaned" else ("eaten", "discarded"),
    }.get(name, ())
    return tuple((value, value.replace("_", " ")) for value in said)


def _units(kind: str, own: str) -> tuple[str, ...]:
    if kind == "waste_said":
        return ("g", "pieces", "unweighed")
    return ("C", "F") if own == "C" else ("F", "C")


def entry_of(
    kind: str, asked: list[Asked], posted: Mapping[str, Any], many: Mapping[str, list[str]]
) -> tuple[dict[str, Any], bool]:
    """What was filled in, as the entry's own fields; numbers are read, what is empty is left out. True with it where
    a temperature looks like one in another unit, and nobody has said that it really is. Raises CoreError."""
    data = _filled_in(asked, posted, many)
    if kind not in READINGS:
        return data, False
    data["confirmed"] = bool(data["confirmed"])
    return data, question_reading(kind, data) is not None


def _filled_in(asked: list[Asked], posted: Mapping[str, Any], many: Mapping[str, list[str]]) -> dict[str, Any]:
    data: dict[str, Any] = {}
    for field in asked:
        if field.many:
            data[field.name] = many.get(field.name, [])
        elif text := str(posted.get(field.name, "")).strip():
            data[field.name] = _number(field.name, text) if field.is_number else text
    return data


def _number(name: str, text: str) -> float:
    try:
        value = float(text[:30].replace(",", "."))
    except ValueError:
        raise CoreError(name, "not_a_number", value=text[:30]) from None
    return int(value) if value.is_integer() else value


def happened(bench: Bench, text: str) -> dt.datetime:
    """When it happened, by the clock on the wall: nothing said is now. Raises CoreError for a time that is none, or
    not in the lesson."""
    lesson, now = bench.lesson, selectors.lesson_now(bench.lesson)
    if not text.strip():
        return now
    try:
        clock = dt.time.fromisoformat(text.strip()[:8])
    except ValueError:
        raise CoreError("at", "not_a_clock_time", value=text[:20]) from None
    began = timezone.localtime(lesson.opened_at or now)
    moment = began.replace(hour=clock.hour, minute=clock.minute, second=clock.second, microsecond=0)
    moment = moment + dt.timedelta(days=1) if moment < began - dt.timedelta(minutes=1) else moment
    if not began - dt.timedelta(minutes=1) <= moment <= now + dt.timedelta(minutes=1):
        raise CoreError("at", "not_in_the_lesson")
    return min(max(moment, began), now)

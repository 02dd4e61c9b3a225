"""An entry on its way from a tablet into the log: read once, questioned, recorded."""

import datetime as dt
import json
import uuid
from dataclasses import dataclass
from typing import Any

from bulwark.bench import wording
from bulwark.lessons import selectors, services
from bulwark.lessons.readings import READINGS, question_reading
from bulwark.lessons.selectors import Bench
from bulwark.people.actors import Actor
from foodsafety.lesson import left_s
from foodsafety.quantities import CoreError

# What a person can say in one entry fits in this many times over.
MOST_ENTRY_BYTES = 8 * 1024


@dataclass(frozen=True, slots=True)
class Arrived:
    """An entry as it arrived."""

    id: uuid.UUID
    kind: str
    data: dict[str, Any]
    claimed: dt.datetime | None
    sent: dt.datetime | None


def json_body(body: bytes) -> dict[str, Any]:
    """What a tablet sent. Raises CoreError for what is no entry."""
    try:
        found = json.loads(body)
    except (ValueError, RecursionError):
        raise CoreError("body", "not_json_at_all") from None
    if not isinstance(found, dict) or not isinstance(found.get("data"), dict):
        raise CoreError("body", "not_an_entry")
    return found


def entry_from(body: dict[str, Any]) -> Arrived:
    """The entry. Raises CoreError naming the field that is wrong."""
    try:
        event_id = uuid.UUID(str(body.get("id")))
    except ValueError:
        raise CoreError("id", "not_a_uuid") from None
    claimed, sent = _moment(body.get("happened_at")), _moment(body.get("sent_at"))
    # A form's fields are all text, whoever sends it.
    numbers = ("value", "scrub_s", "pieces", "minutes", "by_min")
    body["data"] |= {
        key: float(value) for key in numbers if isinstance(value := body["data"].get(key), str) and _is_number(value)
    }
    return Arrived(event_id, str(body.get("kind")), body["data"], claimed, sent)


def _moment(value: object) -> dt.datetime | None:
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not 0 <= value < 4e12:
        return None
    return dt.datetime.fromtimestamp(value / 1000, tz=dt.UTC)


def _is_number(text: object) -> bool:
    try:
        float(str(text))
    except ValueError:
        return False
    return True


def question(entry: Arrived, bench: Bench) -> dict[str, Any] | None:
    """A number that looks like the wrong unit, and a step done long before its time, are asked about;
    None when the entry may pass. Raises CoreError for no number."""
    if entry.kind == "step_done":
        return _early_question(entry, bench)
    if entry.kind not in READINGS:
        return None
    asked = question_reading(entry.kind, entry.data)
    return wording.question_text(*asked) if asked else None


def _early_question(entry: Arrived, bench: Bench) -> dict[str, Any] | None:
    """A step that is tapped as done long before the time its recipe gives."""
    if entry.data.pop("early", False) is True or entry.data.get("goes_on") is True:
        return None
    state, _ = selectors.bench_state(bench)
    step = next((row for row in state.plan.process.steps if row.id == entry.data.get("step")), None)
    if step is None or step.id in state.done:
        return None
    really = selectors.really_at(claimed=entry.claimed, sent=entry.sent)
    at_s = selectors.happened_at(bench.lesson, really).timestamp()
    short_s = left_s(state, step, at_s)
    return wording.early_text(step, short_s) if short_s else None


def record(entry: Arrived, bench: Bench, actor: Actor) -> dict[str, Any]:
    """Writes it into the log; what the tablet is answered. Raises CoreError, LessonError."""
    really = selectors.really_at(claimed=entry.claimed, sent=entry.sent)
    recorded = services.record_event(
        bench=bench,
        by=actor,
        kind=entry.kind,
        data=entry.data,
        event_id=entry.id,
        at=selectors.happened_at(bench.lesson, really),
        really=really,
    )
    return {"code": "recorded", "seq": recorded.seq, "again": recorded.again}

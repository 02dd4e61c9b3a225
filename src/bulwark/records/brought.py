"""What a record from another installation shows: proven anew, and judged by what it brought along."""

from __future__ import annotations

import datetime as dt
from typing import Any

from django.db.models import QuerySet
from django.utils.timezone import localtime
from django.utils.translation import gettext as _

from bulwark.lessons import adapters, files, log_wording, pages, wording
from bulwark.people.actors import Actor
from bulwark.presentation.phrases import moment
from bulwark.records.models import BroughtRecord
from foodsafety.lesson import bricks, fold
from foodsafety.quantities import CoreError
from foodsafety.rules import profile_digest


def brought_for(actor: Actor) -> QuerySet[BroughtRecord]:
    """The organisation's records from elsewhere, without their bytes."""
    return BroughtRecord.objects.filter(organisation_id=actor.organisation)


def brought_page(row: BroughtRecord) -> dict[str, Any]:
    """The record: whether its chains hold, its bricks, its entries. Raises CoreError where this program cannot read
    it."""
    return {"row": row, **read_through(bytes(row.data))}


def read_through(data: bytes) -> dict[str, Any]:
    """A file read to its last entry. Raises CoreError for one that is none, or of which anything cannot be read: it
    comes from outside, and may say what no lesson says."""
    file = files.file_of(data)
    try:
        return _page(file)
    except (ArithmeticError, AttributeError, LookupError, RecursionError, TypeError, ValueError) as wrong:
        if isinstance(wrong, CoreError):
            raise
        raise CoreError("file", "broken_lesson_file") from wrong


def _page(file: files.LessonFile) -> dict[str, Any]:
    lesson = files.as_lesson(file)
    profile = adapters.to_profile(lesson)
    return {
        "lesson": lesson,
        "profile": profile,
        "broken": [break_text(*one) for one in files.breaks_in(file)],
        "entries": sum(len(bench.entries) for bench in file.benches),
        "benches": [_bench(file, bench, profile.unit) for bench in file.benches],
        "purged": sum(len(bench.purged) for bench in file.benches),
        "seal": file.seal,
        "signed": [{**row, "at": _moment(str(row.get("at", "")))} for row in file.signed],
        "other_rules": any(b.rules and b.rules != profile_digest(lesson.profile) for b in file.benches),
    }


def _moment(text: str) -> str:
    """A moment of a file as it is read; as it stands where it is none."""
    try:
        return moment(localtime(dt.datetime.fromisoformat(text)))
    except ValueError:
        return text


def _bench(file: files.LessonFile, bench: files.BenchFile, unit: str) -> dict[str, Any]:
    plan, events = files.plan_in(file, bench), files.events_in(bench)
    state = fold(plan, bench.learners, events)
    end_s = max((row.at_s for row in events), default=0.0)
    titles = {str(step["id"]): str(step.get("title") or "") for step in file.lesson["process"].get("steps", ())}
    return {
        "name": bench.name,
        "seq": bench.seq,
        "hash": bench.hash,
        "bricks": [
            {
                "name": wording.control_name(brick.control),
                "status": brick.status,
                "says": wording.status_name(brick.status),
                "value": wording.brick_value(brick, unit),
            }
            for brick in bricks(state, end_s, ended=file.lesson.get("closed_at") is not None)
        ],
        "incidents": pages.incident_rows(state, end_s),
        "log": [
            {"at_s": row.at_s, "text": log_wording.entry_sentence(row.kind, dict(row.data), titles, unit), "by": row.by}
            for row in events
        ],
    }


def break_text(bench: str, place: int, why: str) -> str:
    """One thing that does not hold, in words."""
    texts = {
        "context": _("%(bench)s: what it was judged by is not what its chain began with: recipe, limits or people"),
        "missing": _("%(bench)s, entry %(n)s: an entry before it is missing"),
        "link": _("%(bench)s, entry %(n)s: it does not follow from the entry before"),
        "changed": _("%(bench)s, entry %(n)s: it was changed after it was recorded"),
        "head": _("%(bench)s: its log does not end where its head says"),
    }
    return texts[why] % {"bench": bench, "n": place}

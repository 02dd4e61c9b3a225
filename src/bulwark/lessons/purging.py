"""Names and words taken out of old lessons, in a way that leaves their chains to be verified.

Of each entry that held some the hash of what it said is kept, and of what it says now; both stand, with the hash of
what each verdict rests on now, in a purge that is signed as a seal is. ``log.prove`` holds the logs against it.
"""

from __future__ import annotations

import datetime as dt
import hashlib
import json
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from django.core.signing import Signer
from django.db import connection, transaction
from django.db.models import QuerySet

from bulwark.lessons.context import context_hash
from bulwark.lessons.models import Bench, Event, Hurt, Learner, Lesson, LessonPurge, LogHead
from bulwark.people.actors import Actor
from foodsafety.lesson import forgotten, other_names, people_in


@dataclass(frozen=True, slots=True, kw_only=True)
class Preview:
    """What a purge of one lesson would take: so many learners' names, out of so many entries."""

    lesson: Lesson
    learners: int
    entries: int


def organisations_taught() -> set[int]:
    """Whoever has ended a lesson, by number."""
    return set(Lesson.objects.exclude(closed_at=None).values_list("organisation_id", flat=True))


def old_lessons(organisation_id: int, before: dt.date) -> list[Lesson]:
    """The lessons that ended before a day and still hold names, the oldest first."""
    rows = Lesson.objects.filter(organisation_id=organisation_id, stock=False, closed_at__date__lt=before)
    purged = LessonPurge.objects.values("lesson_id")
    return list(rows.exclude(pk__in=purged).order_by("closed_at", "pk"))


def old_hurts(organisation_id: int, before: dt.date) -> QuerySet[Hurt]:
    """Who was hurt before a day, where it still says who: kept for a time of its own, often longer than a lesson."""
    rows = Hurt.objects.filter(bench__lesson__organisation_id=organisation_id, at__date__lt=before)
    return rows.exclude(who="", words="")


def forget_hurts(organisation_id: int, before: dt.date) -> None:
    """Takes who it was and what was written out of old hurts; what was done about them stays."""
    old_hurts(organisation_id, before).update(who="", words="")


def preview(lesson: Lesson) -> Preview:
    """What would go, before anybody does it."""
    names = _names(lesson)
    return Preview(lesson=lesson, learners=len(names), entries=sum(1 for _ in _to_clean(lesson, names)))


def _names(lesson: Lesson) -> dict[str, str]:
    """Everybody in a lesson, each with a name that says nothing; devices and the program are nobody."""
    listed = Learner.objects.filter(bench__lesson=lesson).values_list("initials", flat=True)
    told = Event.objects.filter(bench__lesson=lesson).values_list("data", flat=True)
    return other_names({*listed, *(name for data in told for name in people_in(data))})


def _to_clean(lesson: Lesson, names: Mapping[str, str]) -> Iterable[tuple[Event, dict[str, object]]]:
    for row in Event.objects.filter(bench__lesson=lesson).order_by("bench_id", "seq"):
        cleaned = forgotten(row.kind, row.data, names)
        if cleaned != row.data:
            yield row, cleaned


@transaction.atomic
def purge(lesson_id: int, by: Actor) -> dict[str, str] | None:
    """Takes names and words out of a lesson, and answers once with who is called what now: that stands nowhere. None
    where somebody else has done it, or is doing it."""
    lesson = Lesson.objects.select_for_update(skip_locked=True).filter(pk=lesson_id).first()
    if lesson is None or LessonPurge.objects.filter(lesson_id=lesson_id).exists():
        return None
    names = _names(lesson)
    entries = [[row.bench_id, row.seq, *_cleaned(row.pk, cleaned)] for row, cleaned in list(_to_clean(lesson, names))]
    for learner in Learner.objects.filter(bench__lesson=lesson):
        Learner.objects.filter(pk=learner.pk).update(initials=names[learner.initials])
    _plan_without_names(lesson, names)
    contexts = _contexts(lesson)
    LessonPurge.objects.create(
        lesson_id=lesson_id,
        by=by.label,
        entries=entries,
        contexts=contexts,
        signature=signed(lesson_id, entries, contexts),
    )
    return names


def _plan_without_names(lesson: Lesson, names: Mapping[str, str]) -> None:
    """The plan as it was kept says who does what, and a variant for whom it is."""
    who = lesson.planned.get("who", {})
    if who:
        doers = {
            bench: {step: [names.get(n, n) for n in own] for step, own in rows.items()} for bench, rows in who.items()
        }
        lesson.planned = {**lesson.planned, "who": doers}
    lesson.variants = [
        {**row, "who": re.sub(r"[\w-]+", lambda found: names.get(found[0], found[0]), str(row.get("who", "")))}
        for row in lesson.variants
    ]
    Lesson.objects.filter(pk=lesson.pk).update(planned=lesson.planned, variants=lesson.variants)


def _cleaned(event_id: int, cleaned: Mapping[str, object]) -> list[str]:
    """The hashes of what an entry said, and of what it says now."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT bulwark_purge_event(%s, %s::jsonb)", [event_id, json.dumps(cleaned)])
        found: list[str] = cursor.fetchone()[0]
    return found


def _contexts(lesson: Lesson) -> dict[str, str]:
    """What each bench's verdict rests on, with the new names."""
    heads = {row.bench_id: row for row in LogHead.objects.filter(lesson_id=lesson.pk)}
    rows = Bench.objects.filter(lesson=lesson).prefetch_related("learners")
    found = {}
    for bench in rows:
        head = heads.get(bench.pk)
        if head is not None and head.context:
            learners = [learner.initials for learner in bench.learners.all()]
            found[str(bench.pk)] = context_hash(lesson, bench, learners, head.rules)
    return found


def signed(lesson_id: int, entries: object, contexts: object) -> str:
    """The signature of a purge, with the server's own key."""
    text = json.dumps([lesson_id, entries, contexts], sort_keys=True, separators=(",", ":"))
    return hashlib.sha256(Signer(salt="bulwark.purge").signature(text).encode()).hexdigest()


def purge_of(lesson_id: int) -> LessonPurge | None:
    """The purge of a lesson, where there was one."""
    return LessonPurge.objects.filter(lesson_id=lesson_id).first()


@dataclass(frozen=True, slots=True)
class Purged:
    """What purges say of entries and of what verdicts rest on: the hash of the data of (bench, place), and the context
    of a bench. ``foreign``: so many purges were signed with another key, where all of them were; ``forged``: those that
    are not ours where others are."""

    entries: Mapping[tuple[int, int], str]
    contexts: Mapping[int, str]
    foreign: int
    forged: tuple[int, ...]


def purged() -> Purged:
    """All purges there are, as far as they are signed with this server's key; of a database restored to another
    machine all of them count, and that is said."""
    rows = list(LessonPurge.objects.all())
    ours = [row for row in rows if signed(row.lesson_id, row.entries, row.contexts) == row.signature]
    counted = ours or rows
    return Purged(
        entries={(bench, seq): after for row in counted for bench, seq, _before, after in row.entries},
        contexts={int(bench): found for row in counted for bench, found in row.contexts.items()},
        foreign=len(rows) if rows and not ours else 0,
        forged=tuple(row.lesson_id for row in rows if ours and row not in ours),
    )

"""Records signed, written to a file, and brought in from one."""

from __future__ import annotations

from typing import Any

from bulwark.lessons import files
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import Actor
from bulwark.records.models import BroughtRecord, SignOff
from bulwark.records.selectors import head_of
from foodsafety.quantities import CoreError


def sign_off(*, lesson: lessons.Lesson, by: Actor, name: str, role: str, words: str) -> SignOff:
    """Somebody answers for the record of a lesson that is over. Raises CoreError for one that is not, and for a second
    signature under the same heads that says nothing new."""
    if not lesson.over:
        raise CoreError("lesson", "lesson_goes_on")
    head, before = head_of(lesson), SignOff.objects.filter(lesson=lesson).last()
    if before is not None and before.head == head and not words:
        raise CoreError("words", "signed_already")
    return SignOff.objects.create(lesson=lesson, name=name, role=role, words=words, head=head, by_id=by.user)


def lesson_zip(lesson: lessons.Lesson) -> bytes:
    """The whole lesson as a file, with who has signed for it."""
    signed = [
        {"name": row.name, "role": row.role, "words": row.words, "head": row.head, "at": row.at.isoformat()}
        for row in SignOff.objects.filter(lesson=lesson)
    ]
    return files.zip_of(files.lesson_file(lesson, signed))


def bring(*, by: Actor, data: bytes) -> tuple[BroughtRecord, bool]:
    """A record from another installation; True where it is new. The same lesson again takes the place of what came
    before only where it goes further. Raises CoreError for a file that is none, or cannot be judged."""
    file = files.file_of(data)
    lesson = files.as_lesson(file)
    for bench in file.benches:
        files.plan_in(file, bench)
        files.events_in(bench)
    fields: dict[str, Any] = {
        "title": str(lesson.title)[:160],
        "held_at": lesson.began_at,
        "data": data,
        "brought_by_id": by.user,
    }
    before = BroughtRecord.objects.filter(organisation_id=by.organisation, key=file.key).first()
    if before is not None and _entries(files.file_of(bytes(before.data))) >= _entries(file):
        return before, False
    return BroughtRecord.objects.update_or_create(organisation_id=by.organisation, key=file.key, defaults=fields)


def _entries(file: files.LessonFile) -> int:
    return sum(len(row.entries) for row in file.benches)

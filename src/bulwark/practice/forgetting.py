"""Names taken out of what is old, each kind of record in its own way."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass

from django.db import transaction
from django.db.models import QuerySet

from bulwark.board.services import without_names
from bulwark.lessons.purging import forget_hurts, old_hurts, old_lessons, organisations_taught, preview, purge
from bulwark.people.actors import Actor
from bulwark.practice import selectors
from bulwark.practice.models import Answer, Certificate, LessonFigures, Round
from bulwark.records.keeping import old_brought
from bulwark.records.models import BroughtRecord

__all__ = ["forget", "forget_others", "old_lessons", "older", "preview"]


@dataclass(frozen=True, slots=True)
class Old:
    """A record whose names would go."""

    title: str
    on: dt.date | None


@transaction.atomic
def forget(lesson_id: int, by: Actor) -> bool:
    """Takes names and words out of a lesson and of the rounds that were made for it; False where somebody else has done
    it, or is doing it."""
    names = purge(lesson_id, by)
    if names is None:
        return False
    without_names(lesson_id, names)
    LessonFigures.objects.filter(lesson_id=lesson_id).delete()  # counted with its names
    for found in Round.objects.filter(lesson_id=lesson_id).prefetch_related("answers"):
        _without_names(found)
    return True


def old_certificates(organisation_id: int, before: dt.date) -> QuerySet[Certificate]:
    """The certificates made before a day. One without a name certifies nobody: they go whole, and their codes with
    them."""
    return Certificate.objects.filter(organisation_id=organisation_id, made_on__lt=before)


def older(organisation_id: int, before: Mapping[str, dt.date]) -> dict[str, list[Old]]:
    """What of each kind of record is older than its day and still holds names, each by its title and its day."""
    rounds = old_rounds(organisation_id, before["answers"])
    hurts = old_hurts(organisation_id, before["hurts"]).select_related("bench__lesson")
    certificates = old_certificates(organisation_id, before["certificates"])
    return {
        "lessons": [Old(row.title, row.closed_at) for row in old_lessons(organisation_id, before["lessons"])],
        "answers": [Old(row.title, row.made_at) for row in rounds],
        "hurts": [Old(row.bench.lesson.title, row.at) for row in hurts],
        "certificates": [Old(row.title, row.made_on) for row in certificates],
        "brought": [Old(row.title, row.held_at) for row in old_brought(organisation_id, before["brought"])],
    }


@transaction.atomic
def forget_others(organisation_id: int, before: Mapping[str, dt.date]) -> None:
    """Takes the names out of all that is old and no lesson: lessons go one by one, for each is signed."""
    for found in old_rounds(organisation_id, before["answers"]).prefetch_related("answers"):
        _without_names(found)
    forget_hurts(organisation_id, before["hurts"])
    old_certificates(organisation_id, before["certificates"]).delete()
    for record in old_brought(organisation_id, before["brought"]):
        record.delete()


def organisations() -> list[int]:
    """Whoever has something that can hold names, by number."""
    kinds = (Round.objects, Certificate.objects, BroughtRecord.objects)
    rows = (*(row.values_list("organisation_id", flat=True) for row in kinds), organisations_taught())
    return sorted({number for row in rows for number in row})


def old_rounds(organisation_id: int, before: dt.date) -> QuerySet[Round]:
    """The rounds made before a day that still say whose answers are whose."""
    rows = Round.objects.filter(organisation_id=organisation_id, made_at__date__lt=before, answers__learner__gt="")
    return rows.distinct()


def _without_names(found: Round) -> None:
    """Each learner's first answers stay, and nobody's; what came after the first would count as another's."""
    first = {row.pk for row in selectors.first_answers(found)}
    Answer.objects.filter(round=found).exclude(pk__in=first).delete()
    Answer.objects.filter(round=found).update(learner="")

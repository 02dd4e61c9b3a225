"""What goes with the names of an old lesson in practice: whose answers they were."""

from __future__ import annotations

import datetime as dt

from django.db import transaction
from django.db.models import QuerySet

from bulwark.board.services import without_names
from bulwark.lessons.purging import old_lessons, organisations_taught, preview, purge
from bulwark.people.actors import Actor
from bulwark.practice import selectors
from bulwark.practice.models import Answer, LessonFigures, Round

__all__ = ["forget", "forget_rounds", "old_lessons", "old_rounds", "preview"]


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


def organisations() -> list[int]:
    """Whoever has a lesson or a round, by number."""
    rows = (Round.objects.values_list("organisation_id", flat=True), organisations_taught())
    return sorted({number for row in rows for number in row})


def old_rounds(organisation_id: int, before: dt.date) -> QuerySet[Round]:
    """The rounds made before a day that still say whose answers are whose."""
    rows = Round.objects.filter(organisation_id=organisation_id, made_at__date__lt=before, answers__learner__gt="")
    return rows.distinct()


def forget_rounds(organisation_id: int, before: dt.date) -> int:
    """Takes the names out of old rounds; how many there were."""
    found = list(old_rounds(organisation_id, before).prefetch_related("answers"))
    for row in found:
        _without_names(row)
    return len(found)


def _without_names(found: Round) -> None:
    """Each learner's first answers stay, and nobody's; what came after the first would count as another's."""
    first = {row.pk for row in selectors.first_answers(found)}
    Answer.objects.filter(round=found).exclude(pk__in=first).delete()
    Answer.objects.filter(round=found).update(learner="")

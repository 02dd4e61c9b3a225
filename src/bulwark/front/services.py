"""Changes to who stands in."""

from __future__ import annotations

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from bulwark.front.models import StandIn
from bulwark.lessons.selectors import Lesson
from bulwark.lessons.services import LessonError, new_code
from foodsafety.quantities import CoreError

MOST_STAND_INS = 10


@transaction.atomic
def hand_over(lesson: Lesson) -> StandIn:
    """A code with which somebody takes over the front. Raises LessonError where the lesson does not run, CoreError for
    too many of them."""
    lesson = Lesson.objects.select_for_update().get(pk=lesson.pk)
    if lesson.opened_at is None or lesson.over:
        raise LessonError("closed" if lesson.over else "not_open")
    last = StandIn.objects.filter(lesson=lesson).aggregate(last=Max("number"))["last"] or 0
    if last >= MOST_STAND_INS:
        raise CoreError("front", "too_many_stand_ins", most=MOST_STAND_INS)
    # Longer than a bench's: it opens all of them.
    return StandIn.objects.create(lesson=lesson, number=last + 1, code=f"{new_code()}{new_code()[:2]}")


def take_over(one: StandIn) -> bool:
    """Uses its code; False where another device was sooner."""
    return StandIn.objects.filter(pk=one.pk, used_at=None).update(used_at=timezone.now()) == 1


def send_away(one: StandIn) -> None:
    """What they wrote stays, and they see and write no more."""
    one.sent_away_at = timezone.now()
    one.save(update_fields=["sent_away_at"])

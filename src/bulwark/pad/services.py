"""Changes to who looks on."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from bulwark.lessons.selectors import Bench, Lesson
from bulwark.lessons.services import new_code
from bulwark.pad.models import Assistant
from foodsafety.quantities import CoreError

MOST_ASSISTANTS = 20


@transaction.atomic
def let_in(*, lesson: Lesson, benches: Sequence[Bench]) -> Assistant:
    """An assistant more, with a code. Raises CoreError for no bench, or too many of them."""
    if not benches:
        raise CoreError("benches", "none_given")
    Lesson.objects.select_for_update().get(pk=lesson.pk)
    last = Assistant.objects.filter(lesson=lesson).aggregate(last=Max("number"))["last"] or 0
    if last >= MOST_ASSISTANTS:
        raise CoreError("benches", "too_many_assistants", most=MOST_ASSISTANTS)
    # Longer than a bench's: it opens several.
    found = Assistant.objects.create(lesson=lesson, number=last + 1, code=f"{new_code()}{new_code()[:2]}")
    found.benches.set(benches)
    return found


def send_away(assistant: Assistant) -> None:
    """What they wrote stays, and they write no more."""
    assistant.sent_away_at = timezone.now()
    assistant.save(update_fields=["sent_away_at"])

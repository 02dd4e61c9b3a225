"""Changes to what is brought to a lesson, and to what is kept of one."""

import uuid
from collections.abc import Iterable, Mapping
from typing import Any

from django.db import transaction
from django.utils import timezone

from bulwark.lessons.selectors import lesson_now
from bulwark.lessons.services import record_event
from bulwark.people.actors import Actor
from bulwark.shelf.models import BroughtDish
from bulwark.shelf.stock import Item
from foodsafety.quantities import CoreError

MOST_BROUGHT = 20


def bring(*, lesson: Any, **said: Any) -> BroughtDish:
    """A dish more that is brought ready made. Raises CoreError for too many, or once the lesson is over."""
    if lesson.over:
        raise CoreError("lesson", "lesson_over")
    if BroughtDish.objects.filter(lesson=lesson).count() >= MOST_BROUGHT:
        raise CoreError("title", "too_many_brought", most=MOST_BROUGHT)
    return BroughtDish.objects.create(lesson=lesson, **said)


def do_not_bring(*, lesson: Any, dish_id: int) -> None:
    """A dish less. Raises CoreError once the lesson is over: its record stays as it was."""
    if lesson.over:
        raise CoreError("lesson", "lesson_over")
    BroughtDish.objects.filter(lesson=lesson, pk=dish_id).delete()


def enter(*, item: Item, by: Actor, kind: str, data: Mapping[str, Any]) -> None:
    """One entry about a part of a kept food, in the log of the bench that put it away: after its lesson by the clock on
    the wall. Raises CoreError naming the field that is wrong."""
    lesson, now = item.bench.lesson, timezone.now()
    at = now if lesson.over or lesson.pace == 1 else lesson_now(lesson, now)
    record_event(bench=item.bench, by=by, kind=kind, data=data, event_id=uuid.uuid4(), at=at)


@transaction.atomic
def store_failed(*, items: Iterable[Item], by: Actor, warm_s: float, known: bool) -> int:
    """Enters for everything in a store that it was too warm for so long [s]; for how many."""
    rows = list(items)
    for item in rows:
        data = {"food": item.food, "part": item.part, "warm_s": warm_s, "known": known}
        enter(item=item, by=by, kind="part_warm", data=data)
    return len(rows)

"""Changes to what is brought to a lesson."""

from typing import Any

from bulwark.shelf.models import BroughtDish
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

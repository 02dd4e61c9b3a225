"""Who stands in at the front of which lesson."""

from __future__ import annotations

from bulwark.front.models import StandIn
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Lesson
from bulwark.people.actors import Actor

# Where the session says who stands in.
SESSION = "stand_in"


def here(pk: object) -> StandIn | None:
    """A stand-in of a lesson that runs or has not been over for long, and who was not sent away."""
    if not isinstance(pk, int):
        return None
    rows = StandIn.objects.select_related("lesson__organisation")
    found = rows.filter(pk=pk, sent_away_at=None, lesson__opened_at__isnull=False).first()
    return None if found is None or lessons.long_over(found.lesson) else found


def with_code(code: str) -> StandIn | None:
    """Whoever has a code that nobody has used, of a lesson that runs."""
    rows = StandIn.objects.filter(sent_away_at=None, used_at=None)
    rows = rows.filter(lesson__opened_at__isnull=False, lesson__closed_at=None)
    return rows.filter(code=code.strip().upper()).first()


def of_lesson(lesson: Lesson) -> list[StandIn]:
    """Everybody to whom it was handed over, and who was not sent away."""
    return list(StandIn.objects.filter(lesson=lesson, sent_away_at=None))


def actor_of(one: StandIn) -> Actor:
    """Who their entries are from: a number, never a name. They see one lesson, in the unit of its rules."""
    unit = lessons.profile_of(one.lesson).unit
    return Actor(
        kind="stand_in",
        organisation_id=one.lesson.organisation_id,
        lesson_id=one.lesson_id,
        device=one.number,
        unit="F" if unit == "F" else "C",
    )

"""Changes to courses and to the days of lessons."""

from __future__ import annotations

import datetime as dt
from typing import Any

from django.db import transaction
from django.utils import timezone

from bulwark.diary.models import Course
from bulwark.groups.rosters import read_rules
from bulwark.groups.selectors import learners_of
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import services as lessons
from bulwark.lessons.selectors import Lesson, benches_of
from bulwark.people.actors import Actor
from foodsafety.planning import split
from foodsafety.quantities import CoreError


def make_course(*, by: Actor, name: str, group: Any = None) -> Course:
    """A new course."""
    return Course.objects.create(organisation_id=by.organisation, name=name, group=group)


def put_away(course: Course) -> None:
    """Takes a course from the lists; its lessons stay."""
    course.archived_at = timezone.now()
    course.save(update_fields=["archived_at"])


@transaction.atomic
def copy_lesson(*, lesson: Lesson, starts_at: dt.datetime, group: Any = None) -> Lesson:
    """The same lesson at another time: with its recipe as it is now, and the kitchen's rules as they are now. Another
    group is split fairly into as many benches by its own rules. Raises CoreError where it cannot be split."""
    benches: dict[str, Any] = {
        bench.name: [row.initials for row in bench.learners.all()] for bench in benches_of(lesson)
    }
    if group and group.pk != lesson.group_id:
        together, apart, _wrong = read_rules(group.rules)
        found = split(learners_of(group), len(benches), together=together, apart=apart)
        if not found.benches:
            raise CoreError("group", "rules_cannot_be_kept")
        benches = dict(zip(benches, found.benches, strict=True))
    new = lessons.create_lesson(
        recipe=lesson.recipe,
        place=lesson.place,
        starts_at=starts_at,
        length_min=lesson.length_min,
        benches=benches,
        kitchen=lesson.kitchen,
        group=group or lesson.group,
        **kitchens.lesson_rules(lesson.organisation_id),
    )
    for course in Course.objects.filter(lessons=lesson, archived_at=None):
        if group is None or course.group_id in (None, group.pk):
            course.lessons.add(new)
    return new

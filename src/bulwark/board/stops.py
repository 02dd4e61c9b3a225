"""A lesson over two: where it may stop, what each of the two cooks then, and until when the second must be over."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.utils import timezone

from bulwark.lessons.adapters import half_titles
from foodsafety.lesson import Plan
from foodsafety.planning import Stop, halved, planning_figures, safe_stops
from foodsafety.quantities import CoreError
from foodsafety.rules import Profile
from foodsafety.shelf import StoredFood, strictest_use_by


@dataclass(frozen=True, slots=True, kw_only=True)
class TwoLessons:
    """Where it stops, the process of each lesson, when the second begins at the latest that is proposed, and until
    when what is kept may be used."""

    stop: Stop
    first: Mapping[str, Any]
    second: Mapping[str, Any]
    starts_at: dt.datetime
    until: dt.datetime


def two_lessons(lesson: Any, plan: Plan) -> tuple[TwoLessons, ...]:
    """The ways to cook a lesson's recipe over two. The second is put as many days later as what is kept allows, a week
    at the most; there is none where it does not keep until the next day."""
    if lesson.opened_at or lesson.half:
        return ()
    found = []
    for stop in safe_stops(plan.process):
        try:
            first, second = halved(lesson.process, stop, half_titles(stop.kept, stop.place))
        except CoreError:
            continue
        until = _until(stop, lesson, plan.profile)
        starts_at = None if until is None else _second_at(lesson, until)
        if until is not None and starts_at is not None:
            found.append(TwoLessons(stop=stop, first=first, second=second, starts_at=starts_at, until=until))
    return tuple(found)


def _ends(lesson: Any, starts_at: dt.datetime) -> dt.datetime:
    return starts_at + dt.timedelta(minutes=lesson.length_min)


def _until(stop: Stop, lesson: Any, profile: Profile) -> dt.datetime | None:
    """Until when the kept food may be used, by the strictest of what it is; None where it may not be kept. It counts
    as made when the lesson begins."""
    food = StoredFood(made_at=timezone.localtime(lesson.starts_at), place=stop.place)
    return strictest_use_by(stop.categories, profile, food).use_by


def _second_at(lesson: Any, until: dt.datetime) -> dt.datetime | None:
    """The same hour, as many days later as the second lesson still ends in time."""
    starts = timezone.localtime(lesson.starts_at)
    for days in range(planning_figures()["halves"]["most_days"], 0, -1):
        second = timezone.make_aware((starts + dt.timedelta(days=days)).replace(tzinfo=None))
        if _ends(lesson, second) <= until:
            return second
    return None

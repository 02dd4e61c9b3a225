"""Rows to core values."""

import json
from functools import lru_cache
from typing import Any

from bulwark.lessons.models import Event, Lesson
from foodsafety.codes import house_from, profile
from foodsafety.events import Event as CoreEvent
from foodsafety.plan import Plan, safety_plan
from foodsafety.recipe import process_from


@lru_cache(maxsize=128)
def _plan(lesson: "_Key", profile_id: str, house: str) -> Plan:
    return safety_plan(process_from(lesson.process), profile(profile_id), house_from(json.loads(house)))


class _Key:
    """A lesson's process, known by the lesson: its copy never changes once made."""

    def __init__(self, lesson: Lesson) -> None:
        self.pk = lesson.pk
        self.process = lesson.process

    def __hash__(self) -> int:
        return hash(self.pk)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Key) and self.pk == other.pk and self.process == other.process


def to_plan(lesson: Lesson, *, profile_id: str | None = None) -> Plan:
    """The lesson's safety plan, under its own profile or another."""
    return _plan(_Key(lesson), profile_id or lesson.profile, json.dumps(lesson.house, sort_keys=True))


def to_event(row: Event) -> CoreEvent:
    """A row of the log as the core's event."""
    return CoreEvent(
        id=str(row.uuid), kind=row.kind, at_s=row.happened_at.timestamp(), data=row.data, by=row.recorded_by
    )


def step_texts(lesson: Lesson) -> dict[str, dict[str, Any]]:
    """Each step's title and detail as its recipe writes them."""
    return {row["id"]: row for row in lesson.process["steps"]}

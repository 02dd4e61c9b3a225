"""Rows to core values."""

import json
from functools import lru_cache
from typing import Any

from bulwark.lessons.models import Event, Lesson
from foodsafety.codes import house_from, profile
from foodsafety.events import Event as CoreEvent
from foodsafety.plan import Plan, safety_plan
from foodsafety.recipe import process_from


@lru_cache(maxsize=64)
def _plan(process: str, profile_id: str, house: str) -> Plan:
    return safety_plan(process_from(json.loads(process)), profile(profile_id), house_from(json.loads(house)))


def to_plan(lesson: Lesson, *, profile_id: str | None = None) -> Plan:
    """The lesson's safety plan, under its own profile or another."""
    return _plan(
        json.dumps(lesson.process, sort_keys=False),
        profile_id or lesson.profile,
        json.dumps(lesson.house, sort_keys=True),
    )


def to_event(row: Event) -> CoreEvent:
    """A row of the log as the core's event."""
    return CoreEvent(
        id=str(row.uuid), kind=row.kind, at_s=row.happened_at.timestamp(), data=row.data, by=row.recorded_by
    )


def step_texts(lesson: Lesson) -> dict[str, dict[str, Any]]:
    """Each step's title and detail as its recipe writes them."""
    return {row["id"]: row for row in lesson.process["steps"]}

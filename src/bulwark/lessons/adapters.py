"""Rows to core values."""

import datetime as dt
import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache
from types import MappingProxyType
from typing import Any

from bulwark.lessons import wording
from bulwark.lessons.models import Event, Lesson
from bulwark.presentation.phrases import capital, verb
from foodsafety.lesson import Event as CoreEvent
from foodsafety.lesson import Plan, safety_plan, under_names
from foodsafety.planning import HalfTitles, half_of
from foodsafety.recipes import only_dishes, process_from
from foodsafety.review import Caution, EatersJudged, find_cautions, judge_eaters
from foodsafety.rules import LocalChange, Profile, house_from, local_profile

NO_NAMES: Mapping[str, str] = MappingProxyType({})


@lru_cache(maxsize=128)
def _plan(lesson: "_Key", profile_id: str, limits: str, house: str, names: str, order: tuple[str, ...]) -> Plan:
    rules = local_profile(profile_id, [_change(row) for row in json.loads(limits)])
    known = json.loads(names)
    process = process_from(under_names(lesson.cooked, known))
    return replace(safety_plan(process, rules, house_from(json.loads(house))), known=known, order=order)


def _change(row: dict[str, Any]) -> LocalChange:
    kept = {key: row[key] for key in ("path", "value", "by", "reason")}
    return LocalChange(**kept, on=dt.date.fromisoformat(row["on"]))


def from_changes(base_id: str, changes: Iterable[LocalChange]) -> list[dict[str, Any]]:
    """Local limits as a lesson keeps them, with whether each is weaker than its base."""
    rows = list(changes)
    weaker = local_profile(base_id, rows).weaker
    return [
        {
            "path": row.path,
            "value": row.value,
            "by": row.by,
            "on": row.on.isoformat(),
            "reason": row.reason,
            "weaker": row.path in weaker,
        }
        for row in rows
    ]


def to_profile(lesson: Lesson) -> Profile:
    """The lesson's rule profile, with the local limits it was given."""
    return local_profile(lesson.profile, [_change(row) for row in lesson.local_limits])


class _Key:
    """A lesson's process, or what a bench cooks of it, known by the lesson: its copy never changes once made."""

    def __init__(self, lesson: Lesson, dishes: Sequence[str] = ()) -> None:
        self.pk = lesson.pk
        self.process = lesson.process
        self.dishes = tuple(dishes)

    @property
    def cooked(self) -> Mapping[str, Any]:
        """The steps of these dishes."""
        return only_dishes(self.process, self.dishes)

    def __hash__(self) -> int:
        return hash((self.pk, self.dishes))

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, _Key):
            return False
        return (self.pk, self.dishes) == (other.pk, other.dishes) and self.process == other.process


def to_plan(
    lesson: Lesson,
    *,
    profile_id: str | None = None,
    names: Mapping[str, str] = NO_NAMES,
    dishes: Sequence[str] = (),
    order: Sequence[str] = (),
) -> Plan:
    """The lesson's safety plan, under its own profile or another; its foods as a bench calls them now. ``dishes``: for
    a bench that cooks only these of a menu; ``order``: in which it does its steps."""
    asked = profile_id or lesson.profile
    # Another profile is only compared: the kitchen's own limits lie over the one it chose.
    limits = lesson.local_limits if asked == lesson.profile else []
    house = json.dumps(lesson.house, sort_keys=True)
    return _plan(_Key(lesson, dishes), asked, json.dumps(limits), house, json.dumps(dict(names)), tuple(order))


def to_event(row: Event) -> CoreEvent:
    """A row of the log as the core's event."""
    return CoreEvent(
        id=str(row.uuid), kind=row.kind, at_s=row.happened_at.timestamp(), data=row.data, by=row.recorded_by
    )


def step_texts(lesson: Lesson, dishes: Sequence[str] = ()) -> dict[str, dict[str, Any]]:
    """Each step's title and detail as its recipe writes them; a step without a title has its verb. ``dishes``: for a
    bench that cooks only these of a menu."""
    return {
        str(row["id"]): {**row, "title": row.get("title") or capital(verb(row["do"]))}
        for row in only_dishes(lesson.process, dishes)["steps"]
    }


@lru_cache(maxsize=128)
def _care(lesson: "_Key", eaters: str, house: str, names: str) -> tuple[tuple[Caution, ...], EatersJudged]:
    process = process_from(under_names(lesson.cooked, json.loads(names)))
    words = {str(row["id"]): f"{row.get('title', '')} {row.get('detail', '')}" for row in lesson.cooked["steps"]}
    judged = judge_eaters(process, json.loads(eaters), house_from(json.loads(house)))
    return find_cautions(process, words), judged


def to_care(
    lesson: Lesson, names: Mapping[str, str] = NO_NAMES, dishes: Sequence[str] = ()
) -> tuple[tuple[Caution, ...], EatersJudged]:
    """The cautions at the steps of a lesson, and what its eaters may not have; foods as a bench calls them now.
    ``dishes``: for a bench that cooks only these of a menu."""
    eaters, house = json.dumps(lesson.eaters, sort_keys=True), json.dumps(lesson.house, sort_keys=True)
    return _care(_Key(lesson, dishes), eaters, house, json.dumps(dict(names)))


def half_titles(kept: str, place: str) -> HalfTitles:
    """What the steps are called that only a half of a recipe has."""
    return HalfTitles(take_out=wording.take_out(kept, place), wash=wording.wash_before_leaving())


def as_half(process: Mapping[str, Any], mark: Mapping[str, Any]) -> dict[str, Any]:
    """A recipe's process as a lesson cooks it that has a half of it. Raises CoreError where it cannot be stopped there
    any more."""
    return half_of(process, mark, half_titles(mark["kept"], mark["place"]))

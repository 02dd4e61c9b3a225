"""A programme over a term or a grant, added up: reach, hours, what was practised, what broke and was mended, what was
thrown away, what was learnt. Small numbers stay untold."""

from __future__ import annotations

import datetime as dt
import time
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from bulwark.lessons import selectors as lessons
from bulwark.people.actors import Actor
from bulwark.practice import selectors
from bulwark.practice.models import LessonFigures, Round
from bulwark.records.selectors import head_of, waste_of
from foodsafety.lesson import bricks
from foodsafety.practice import Gain, gain_of_pairs

# A number of people below this could point to one of them.
FEWEST = 5
# So long one look counts lessons that nobody has counted yet [s]; the page asks on for the rest.
AT_ONCE_S = 1.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Counted:
    """What one lesson comes to."""

    lesson: lessons.Lesson
    learners: frozenset[str]
    hours: float
    laid: Mapping[str, int]
    due: int
    breaches: Mapping[str, int]
    mended: int
    grams: float
    cost: Decimal


@dataclass(slots=True, kw_only=True)
class Part:
    """A group, a place or all of it. ``reach``: so many different learners; None where they are too few to be told."""

    name: str
    lessons: int = 0
    learners: set[tuple[int, str]] = field(default_factory=set)
    person_hours: float = 0.0
    laid: Counter[str] = field(default_factory=Counter)
    due: int = 0
    breaches: Counter[str] = field(default_factory=Counter)
    mended: int = 0
    grams: float = 0.0
    cost: Decimal = Decimal(0)
    hidden: bool = False

    @property
    def per_100(self) -> float | None:
        """Breaches for each 100 control points that were due; None where none was."""
        return 100 * sum(self.breaches.values()) / self.due if self.due else None

    def add(self, row: Counted) -> None:
        """One more lesson."""
        self.lessons += 1
        self.learners |= {(row.lesson.group_id or -row.lesson.pk, name) for name in row.learners}
        self.person_hours += row.hours * len(row.learners)
        self.laid.update(row.laid)
        self.breaches.update(row.breaches)
        self.due += row.due
        self.mended += row.mended
        self.grams += row.grams
        self.cost += row.cost


def lessons_between(actor: Actor, since: dt.date, until: dt.date, group_id: int | None) -> list[lessons.Lesson]:
    """The lessons of a time that are over; rehearsals are none."""
    rows = lessons.lessons_for(actor).filter(rehearsal=False, stock=False, closed_at__isnull=False)
    rows = rows.filter(starts_at__date__gte=since, starts_at__date__lte=until).select_related("group", "recipe")
    return list(rows.filter(group_id=group_id) if group_id else rows)


def count(rows: Sequence[lessons.Lesson], *, for_s: float = AT_ONCE_S) -> tuple[list[Counted], int]:
    """What the lessons come to, and how many are still to be counted: what was counted before is kept as long as no
    entry came to the lesson since."""
    kept = {row.lesson_id: row for row in LessonFigures.objects.filter(lesson__in=rows)}
    heads = {row.pk: head_of(row, found) for row, found in zip(rows, lessons.heads_by_lesson(rows), strict=True)}
    found, left, end_at = [], 0, time.monotonic() + for_s
    for lesson in rows:
        held = kept.get(lesson.pk)
        if held is None or held.head != heads[lesson.pk]:
            if time.monotonic() > end_at:
                left += 1
                continue
            values = {"head": heads[lesson.pk], "data": _figures(lesson)}
            held, _new = LessonFigures.objects.update_or_create(lesson=lesson, defaults=values)
        found.append(_counted(lesson, held.data))
    return found, left


def _figures(lesson: lessons.Lesson) -> dict[str, Any]:
    """One lesson, counted from its logs."""
    benches = lessons.benches_of(lesson)
    lessons.read_logs(benches, whole=True)
    laid: Counter[str] = Counter()
    breaches: Counter[str] = Counter()
    due = mended = 0
    grams, cost, learners = 0.0, Decimal(0), set[str]()
    for bench in benches:
        state, _ = lessons.bench_state(bench)
        learners |= set(lessons.learners_of(bench))
        for brick in bricks(state, lessons.lesson_now(lesson).timestamp(), ended=True):
            due += brick.status != "not_done"
            laid[brick.control.rule] += brick.status in ("laid", "mended")
        breaches.update(row.finding.rule for row in state.incidents)
        mended += sum(1 for row in state.incidents if not row.open)
        for thrown in waste_of(bench, state):
            grams += thrown["grams"] or 0.0
            cost += thrown["cost"] or Decimal(0)
    return {
        "learners": sorted(learners),
        "laid": dict(laid),
        "due": due,
        "breaches": dict(breaches),
        "mended": mended,
        "grams": grams,
        "cost": str(cost),
    }


def _counted(lesson: lessons.Lesson, data: Mapping[str, Any]) -> Counted:
    ended = lesson.closed_at or lesson.began_at
    # A lesson that nobody closed for days was not taught for days.
    hours = min((ended - lesson.began_at).total_seconds() / 3600, 2 * lesson.length_min / 60)
    return Counted(
        lesson=lesson,
        learners=frozenset(data["learners"]),
        hours=max(0.0, hours),
        laid=data["laid"],
        due=data["due"],
        breaches=data["breaches"],
        mended=data["mended"],
        grams=data["grams"],
        cost=Decimal(data["cost"]),
    )


def parts(rows: Iterable[Counted], *, by: str) -> list[Part]:
    """The lessons by group or by place. What would tell of fewer than five people is hidden, and where that is one part
    alone another with it: it could be had by taking the others from the whole."""
    found: dict[str, Part] = {}
    for row in rows:
        name = (row.lesson.group.name if row.lesson.group else "") if by == "group" else row.lesson.place
        found.setdefault(name, Part(name=name)).add(row)
    ranked = sorted(found.values(), key=lambda part: len(part.learners))
    for part in ranked:
        part.hidden = len(part.learners) < FEWEST
    hidden = [part for part in ranked if part.hidden]
    if len(hidden) == 1 and len(ranked) > 1:
        ranked[1].hidden = True
    return sorted(ranked, key=lambda part: part.name)


def whole(rows: Iterable[Counted]) -> Part:
    """All of it; hidden where it is of fewer than five people."""
    found = Part(name="")
    for row in rows:
        found.add(row)
    found.hidden = len(found.learners) < FEWEST
    return found


def learnt(actor: Actor, since: dt.date, until: dt.date, group_id: int | None) -> Gain | None:
    """The gain of all learners who answered before and after in that time; None where they are fewer than five."""
    rows = Round.objects.filter(organisation_id=actor.organisation, matches__isnull=False)
    rows = rows.filter(made_at__date__gte=since, made_at__date__lte=until).prefetch_related("answers")
    pairs, who = list[tuple[bool, bool]](), set[tuple[int | None, str]]()
    for after in rows.filter(group_id=group_id) if group_id else rows:
        firsts = selectors.first_answers(after.matches) if after.matches is not None else []
        before = {(row.learner, row.number): row.right for row in firsts if row.learner}
        for row in selectors.first_answers(after):
            if (row.learner, row.number) in before:
                pairs.append((before[row.learner, row.number], row.right))
                who.add((after.group_id, row.learner))
    return gain_of_pairs(pairs) if len(who) >= FEWEST else None

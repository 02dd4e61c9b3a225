"""What is to be done today, what a week and a course practise."""

from __future__ import annotations

import datetime as dt
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from django.db.models import Q, QuerySet
from django.utils import timezone

from bulwark.diary.models import Course
from bulwark.diary.wording import FAMILIES
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench, Lesson
from bulwark.pack.selectors import Pack, Reminder
from bulwark.people.actors import Actor
from bulwark.shelf.index import shelved
from bulwark.shelf.models import Shelved
from foodsafety.foods import food_kind
from foodsafety.lesson import State, step_clocks
from foodsafety.planning import asked_of, planning_figures
from foodsafety.shelf import storage_category

# How far ahead something is worth saying today, and how far back food may still be on a shelf.
AHEAD = dt.timedelta(days=2)
BACK = dt.timedelta(days=10)
# So many parts of kept food stand on Today; the shelf has them all.
MOST_KEPT = 40


def courses_for(actor: Actor) -> QuerySet[Course]:
    """The organisation's courses that are in use."""
    return Course.objects.filter(organisation_id=actor.organisation, archived_at=None)


def lessons_between(actor: Actor, start: dt.datetime, end: dt.datetime) -> list[Lesson]:
    """Lessons that begin in a stretch of time, no rehearsal among them, in order."""
    rows = lessons.lessons_with_benches(actor).filter(starts_at__gte=start, starts_at__lt=end, rehearsal=False)
    return list(rows.select_related("recipe", "group", "kitchen", "organisation").order_by("starts_at", "pk"))


def any_lesson(actor: Actor, *, before: dt.datetime | None = None, since: dt.datetime | None = None) -> bool:
    """True if a lesson begins before or since a moment."""
    rows = lessons.lessons_for(actor).filter(rehearsal=False)
    return rows.filter(starts_at__lt=before).exists() if before else rows.filter(starts_at__gte=since).exists()


def reminders(rows: Iterable[Lesson], now: dt.datetime) -> list[Reminder]:
    """What has to be done for lessons that have not begun, as far as it is due soon or overdue."""
    packs = Pack.of_all([lesson for lesson in rows if lesson.opened_at is None])
    waiting = [row for pack in packs for row in pack.before() if not row.done]
    return sorted((row for row in waiting if row.at < now + AHEAD), key=lambda row: row.at)


def benches_lately(actor: Actor, now: dt.datetime) -> list[Bench]:
    """The benches of the last lessons, with what is new in their logs."""
    benches = list(lessons.benches_for(actor).filter(lesson__opened_at__gte=now - BACK, lesson__rehearsal=False))
    lessons.read_logs(benches)
    return benches


@dataclass(frozen=True, slots=True, kw_only=True)
class LateTimer:
    """A timer that outlived its lesson, or a step that goes on: an oven, a freezer, a marinade. ``kind`` and ``of``:
    the entry that ends it."""

    bench: Bench
    kind: str
    of: str
    name: str
    at: dt.datetime


def _still_on(state: State) -> Iterator[tuple[str, str, str, float]]:
    yield from (("timer_answered", name, timer.name, timer.rings_s) for name, timer in state.running)
    yield from (("step_done", clock.step, clock.name, clock.rings_s) for clock in step_clocks(state))


def timers_left(benches: Iterable[Bench]) -> list[LateTimer]:
    """The timers of lessons that are over and that nobody has answered, the first to ring first."""
    rows = [
        LateTimer(bench=bench, kind=kind, of=of, name=name, at=dt.datetime.fromtimestamp(at_s, tz=dt.UTC))
        for bench in benches
        if bench.lesson.over
        for kind, of, name, at_s in _still_on(lessons.bench_state(bench)[0])
    ]
    return sorted(rows, key=lambda row: row.at)


def kept_now(actor: Actor, now: dt.datetime) -> list[Shelved]:
    """Food on the shelf that is over or soon will be, what may not be kept at all first; and what cools and must be
    read."""
    rows = shelved(actor).filter(Q(until=None) | Q(until__lt=now + AHEAD) | Q(state="cooling"))
    return list(rows[:MOST_KEPT])


def practised(lesson: Lesson) -> tuple[str, ...]:
    """The families of control points that a lesson practises, in their order."""
    rules = {control.rule for control in lessons.plan_for(lesson).controls}
    return tuple(name for name, own in FAMILIES.items() if rules & set(own))


def techniques(lesson: Lesson) -> frozenset[str]:
    """The skills its steps ask."""
    process = lessons.plan_for(lesson).process
    return frozenset(skill for step in process.steps for skill in asked_of(process, step))


def hazards(lesson: Lesson) -> frozenset[str]:
    """What its ingredients bring that must not be eaten."""
    process = lessons.plan_for(lesson).process
    return frozenset(soil for food in process.foods.values() for soil in food.soils if soil != "unknown")


def not_practised(rows: Sequence[Lesson], now: dt.datetime) -> list[tuple[str, dt.datetime | None]]:
    """Families that no lesson of the last weeks has practised, with when one last did, as far as is known."""
    last: dict[str, dt.datetime] = {}
    for lesson in rows:
        if lesson.opened_at is not None:
            for name in practised(lesson):
                last[name] = max(lesson.starts_at, last.get(name, lesson.starts_at))
    since = now - dt.timedelta(days=planning_figures()["course"]["practised_within_d"])
    return [(name, last.get(name)) for name in FAMILIES if name not in last or last[name] < since]


@dataclass(frozen=True, slots=True, kw_only=True)
class BoughtTogether:
    """A food that several lessons of a course need: the days, and whether it keeps from the first to the last."""

    name: str
    days: tuple[dt.date, ...]
    keeps_d: float | None

    @property
    def keeps(self) -> bool:
        """True if it is known to keep so long."""
        return self.keeps_d is not None and (self.days[-1] - self.days[0]).days <= self.keeps_d


def bought_together(rows: Sequence[Lesson]) -> list[BoughtTogether]:
    """What is bought for two lessons at once, and whether it keeps: dry goods always do."""
    days: dict[str, list[dt.date]] = {}
    for pack in Pack.of_all([lesson for lesson in rows if lesson.opened_at is None]):
        for row in pack.shopping.rows:
            if row.kind and not row.have:
                days.setdefault(row.kind, []).append(timezone.localtime(pack.lesson.starts_at).date())
    found = []
    for name, own in days.items():
        if len(set(own)) > 1:
            kind = food_kind(name)
            own_days = tuple(sorted(set(own)))
            found.append(
                BoughtTogether(
                    name=kind.name, days=own_days, keeps_d=_keeps_d(kind.storage, cold=kind.temperature_control)
                )
            )
    return sorted(found, key=lambda row: (row.keeps, row.name))


def _keeps_d(storage: str | None, *, cold: bool) -> float | None:
    """How long a food keeps as it is bought [d], at the least its category says; None where nothing says so."""
    if storage is None:
        return None if cold else float(planning_figures()["course"]["dry_keeps_d"])
    life = storage_category(storage).fridge
    if life is None:
        return None
    start = dt.datetime(2000, 1, 1)  # noqa: DTZ001 - only the difference counts
    return (life.after(start) - start).days


def roles_had(rows: Iterable[Lesson]) -> dict[str, Counter[str]]:
    """How often each learner has had each role."""
    found: dict[str, Counter[str]] = {}
    for lesson in rows:
        for bench in lesson.benches.all():
            for learner in bench.learners.all():
                if learner.role:
                    found.setdefault(learner.initials, Counter())[learner.role] += 1
    return dict(sorted(found.items()))

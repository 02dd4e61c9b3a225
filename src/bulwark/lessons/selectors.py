"""Lessons, benches and what their logs prove. What a person may see is decided here."""

import datetime as dt
from dataclasses import dataclass

from django.db.models import Max, Prefetch, QuerySet
from django.utils import timezone

from bulwark.lessons.adapters import to_event, to_plan
from bulwark.lessons.models import Bench, Event, JoinTry, Learner, Lesson
from bulwark.people.actors import Actor
from foodsafety.plan import Plan
from foodsafety.session import State, fold, fold_on, opening_state


def lessons_for(actor: Actor) -> QuerySet[Lesson]:
    """Lessons of the actor's organisation; none for a bench or a stranger."""
    if actor.kind != "educator":
        return Lesson.objects.none()
    return Lesson.objects.filter(organisation_id=actor.organisation_id).select_related("organisation")


def lessons_with_benches(actor: Actor) -> QuerySet[Lesson]:
    """The same, with benches and learners fetched."""
    return lessons_for(actor).prefetch_related(Prefetch("benches", Bench.objects.prefetch_related("learners")))


def benches_for(actor: Actor) -> QuerySet[Bench]:
    """An educator's own benches; for a bench, itself, and only while its lesson is open."""
    rows = Bench.objects.select_related("lesson", "lesson__organisation").prefetch_related("learners")
    if actor.kind == "educator":
        return rows.filter(lesson__organisation_id=actor.organisation_id)
    if actor.kind == "bench":
        return rows.filter(pk=actor.bench_id, lesson__opened_at__isnull=False, lesson__closed_at=None)
    return rows.none()


def bench_known(bench_id: int) -> Bench | None:
    """A bench by id, whatever its lesson's state: only to say why it is not available."""
    return Bench.objects.select_related("lesson").filter(pk=bench_id).first()


def bench_with_code(code: str) -> Bench | None:
    """The bench that a join code belongs to."""
    return Bench.objects.select_related("lesson").filter(join_code=code).first()


def join_tries(address: str, *, since: dt.datetime) -> int:
    """Wrong join codes from an address since a moment."""
    return JoinTry.objects.filter(address=address, tried_at__gte=since).count()


def lesson_now(lesson: Lesson, at: dt.datetime | None = None) -> dt.datetime:
    """The time on the lesson's own clock: frozen once closed, faster in a rehearsal."""
    now = at or timezone.now()
    if lesson.closed_at:
        now = min(now, lesson.closed_at)
    if lesson.pace == 1 or lesson.opened_at is None:
        return now
    return lesson.opened_at + (now - lesson.opened_at) * lesson.pace


def plan_for(lesson: Lesson, profile_id: str | None = None) -> Plan:
    """The lesson's safety plan."""
    return to_plan(lesson, profile_id=profile_id)


def heads(lesson: Lesson) -> dict[int, int]:
    """The last place in the log of each bench, in one query; 0 where nothing has happened."""
    rows = Bench.objects.filter(lesson=lesson).annotate(last=Max("events__seq")).values_list("pk", "last")
    return {pk: last or 0 for pk, last in rows}


def events_of(bench: Bench) -> QuerySet[Event]:
    """A bench's log in the order recorded."""
    return Event.objects.filter(bench=bench).order_by("seq")


@dataclass(frozen=True, slots=True)
class _Snapshot:
    """A bench folded as far as ``seq``: a cache in this process, never the truth."""

    plan: Plan
    learners: tuple[str, ...]
    seq: int
    last_s: float
    state: State


_snapshots: dict[int, _Snapshot] = {}
_MOST_SNAPSHOTS = 256


def bench_state(bench: Bench) -> tuple[State, int]:
    """The bench's state folded from its log, and the place in the log it has reached.

    New entries are folded onto the last snapshot when they happened after it; an entry that
    arrives late, or that voids another, means folding the whole log again.
    """
    plan = to_plan(bench.lesson)
    learners = tuple(learner.initials for learner in bench.learners.all())
    held = _snapshots.get(bench.pk)
    if held is None or held.plan is not plan or held.learners != learners:
        held = _Snapshot(plan, learners, 0, float("-inf"), opening_state(plan, learners))
    rows = list(events_of(bench).filter(seq__gt=held.seq))
    if rows:
        held = _folded(bench, held, rows)
        if len(_snapshots) >= _MOST_SNAPSHOTS:
            _snapshots.pop(next(iter(_snapshots)))
        _snapshots[bench.pk] = held
    return held.state, held.seq


def _folded(bench: Bench, held: _Snapshot, rows: list[Event]) -> _Snapshot:
    events = [to_event(row) for row in rows]
    late = any(event.at_s < held.last_s for event in events) or any(event.kind == "voided" for event in events)
    if late and held.seq:
        events = [to_event(row) for row in events_of(bench)]
        state = fold(held.plan, held.learners, events)
    else:
        state = fold_on(held.state, events)
    last_s = max([event.at_s for event in events] + [held.last_s])
    return _Snapshot(held.plan, held.learners, rows[-1].seq, last_s, state)


def learners_of(bench: Bench) -> tuple[str, ...]:
    """Initials of the learners at a bench."""
    return tuple(Learner.objects.filter(bench=bench).values_list("initials", flat=True))

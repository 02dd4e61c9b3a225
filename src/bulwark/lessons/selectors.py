"""Lessons, benches and what their logs prove. What a person may see is decided here."""

import datetime as dt
import uuid
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Any, cast

from django.db import connection
from django.db.models import Exists, Max, OuterRef, Prefetch, Q, QuerySet, Subquery, prefetch_related_objects
from django.utils import timezone

from bulwark.kitchens.selectors import Kitchen, kitchen_of
from bulwark.lessons.adapters import NO_NAMES, step_texts, to_event, to_plan, to_profile
from bulwark.lessons.models import Bench as Bench
from bulwark.lessons.models import Device, Event, Hurt, Learner, LogHead
from bulwark.lessons.models import Lesson as Lesson
from bulwark.people.actors import Actor
from foodsafety.lesson import (
    TAKES_BACK,
    AtBench,
    Late,
    Names,
    Pause,
    Plan,
    ReplayedLog,
    State,
    fold,
    fold_on,
    gone_s,
    late_at,
    names_given,
    opening_state,
    process_from_log,
)
from foodsafety.rules import Profile

# The wall is drawn again at least this often, since time alone can break a limit.
REDRAW_S = 10
_MOST_SNAPSHOTS = 256
# What happened before a lesson ended is taken for so long after.
LATE_WITHIN = dt.timedelta(hours=48)


def lessons_for(actor: Actor) -> QuerySet[Lesson]:
    """Lessons of the actor's organisation; the one at which somebody stands in; none for a bench or a stranger."""
    return _logs_for(actor).filter(stock=False)


def _logs_for(actor: Actor) -> QuerySet[Lesson]:
    """The same, with the logs of what came onto the shelf without a lesson."""
    if not actor.at_front:
        return Lesson.objects.none()
    rows = Lesson.objects.filter(organisation_id=actor.organisation).select_related("organisation")
    return rows if actor.kind == "educator" else rows.filter(pk=actor.lesson_id or 0)


def lessons_with_benches(actor: Actor) -> QuerySet[Lesson]:
    """The same, with benches and learners fetched."""
    return lessons_for(actor).prefetch_related(Prefetch("benches", Bench.objects.prefetch_related("learners")))


def benches_for(actor: Actor) -> QuerySet[Bench]:
    """An educator's own benches; a stand-in's; for a bench, itself, and only while its lesson is open."""
    rows = Bench.objects.select_related("lesson", "lesson__organisation").prefetch_related("learners")
    if actor.at_front:
        return rows.filter(lesson__in=_logs_for(actor))
    if actor.kind == "bench":
        here = rows.filter(pk=actor.bench_id or 0, lesson__opened_at__isnull=False, lesson__closed_at=None)
        return here.exclude(devices__in=Device.objects.filter(pk=actor.device_id or 0, sent_away_at__isnull=False))
    return rows.none()


def _lately(actor: Actor, since: dt.datetime) -> QuerySet[Bench]:
    rows = benches_for(actor).filter(lesson__rehearsal=False, lesson__opened_at__gte=since)
    return rows.order_by("-lesson__opened_at", "position")


def benches_that_keep(actor: Actor) -> QuerySet[Bench]:
    """Benches of real lessons that have put something away, however long ago, each with how far its log goes as
    ``head``."""
    head = LogHead.objects.filter(bench_id=OuterRef("pk")).values("seq")[:1]
    kept = Exists(Event.objects.filter(bench=OuterRef("pk"), kind="stored"))
    rows = benches_for(actor).filter(kept, lesson__rehearsal=False, lesson__opened_at__isnull=False)
    return rows.annotate(head=Subquery(head))


def benches_that_cooked(actor: Actor, *, since: dt.datetime) -> QuerySet[Bench]:
    """Benches of real lessons begun since then."""
    return _lately(actor, since)


_opened: dict[int, Bench] = {}


def open_bench(actor: Actor) -> Bench | None:
    """The bench an entry goes to, remembered by this process: once its lesson is open nothing
    about it changes but that the lesson ends, which the INSERT itself looks at. For two days after its
    end it still takes what happened before."""
    if actor.kind != "bench" or actor.bench_id is None:
        return None
    if actor.bench_id not in _opened:
        rows = Bench.objects.select_related("lesson", "lesson__organisation").prefetch_related("learners")
        late = Q(lesson__closed_at__gt=timezone.now() - LATE_WITHIN)
        opened = rows.filter(pk=actor.bench_id, lesson__opened_at__isnull=False)
        bench = opened.filter(Q(lesson__closed_at=None) | late).first()
        if bench is None or bench.lesson.closed_at is not None or bench.lesson.rehearsal:
            return bench  # not remembered: it may be taken up again, or held, and then its clock runs on
        if len(_opened) >= _MOST_SNAPSHOTS:
            _opened.pop(next(iter(_opened)))
        _opened[bench.pk] = bench
    return _opened[actor.bench_id]


def is_sent_away(actor: Actor) -> bool:
    """True for a device that the educator has sent away from its bench."""
    return Device.objects.filter(pk=actor.device_id, sent_away_at__isnull=False).exists() if actor.device_id else False


def devices_for(actor: Actor) -> QuerySet[Device]:
    """The devices of an educator's own benches."""
    if actor.kind != "educator":
        return Device.objects.none()
    return Device.objects.select_related("bench").filter(bench__lesson__organisation_id=actor.organisation)


# A tablet tells every half minute that it is there.
SILENT_AFTER = dt.timedelta(seconds=90)


def devices_of(lesson: Lesson) -> list[tuple[Device, dt.datetime]]:
    """Every device of a lesson, bench by bench, with when it was last heard of: it said so, or an entry came."""
    rows = Event.objects.filter(bench__lesson=lesson, recorded_by__startswith="bench:")
    entries = {
        (row[0], row[1]): row[2] for row in rows.values_list("bench_id", "recorded_by").annotate(Max("recorded_at"))
    }
    devices = Device.objects.filter(bench__lesson=lesson).select_related("bench").order_by("bench__position", "number")
    return [(one, max(one.seen_at, entries.get((one.bench_id, f"bench:{one.number}"), one.seen_at))) for one in devices]


def forget_open_bench(bench_id: int) -> None:
    """Called when a remembered bench turns out to be closed."""
    _opened.pop(bench_id, None)


def at_bench(bench: Bench) -> AtBench:
    """What the entries of a bench are checked against; worked out once for each row read, and kept with it."""
    found = vars(bench).get("_at_bench")
    if found is None:
        found = vars(bench)["_at_bench"] = AtBench(plan_at(bench), _initials(bench))
    return cast("AtBench", found)


def bench_known(bench_id: int) -> Bench | None:
    """A bench by id, whatever its lesson's state: only to say why it is not available."""
    return Bench.objects.select_related("lesson").filter(pk=bench_id).first()


def bench_with_code(code: str) -> Bench | None:
    """The bench that a join code belongs to."""
    return Bench.objects.select_related("lesson").filter(join_code=code).first()


def lesson_now(lesson: Lesson, at: dt.datetime | None = None) -> dt.datetime:
    """The time on the lesson's own clock: frozen once closed, faster in a rehearsal, frozen while that is held."""
    held = (lesson.held_at, lesson.held_s)
    return _lesson_clock(lesson.opened_at, lesson.closed_at, lesson.pace, at or timezone.now(), held)


def _lesson_clock(
    opened_at: dt.datetime | None,
    closed_at: dt.datetime | None,
    pace: int,
    now: dt.datetime,
    held: tuple[dt.datetime | None, float],
) -> dt.datetime:
    """``held``: since when a rehearsal stands still, and for how long it stood before [s]."""
    now = min(moment for moment in (now, closed_at, held[0]) if moment) - dt.timedelta(seconds=held[1])
    return now if pace == 1 or opened_at is None else opened_at + (now - opened_at) * pace


def plan_for(lesson: Lesson, profile_id: str | None = None) -> Plan:
    """The lesson's safety plan."""
    return to_plan(lesson, profile_id=profile_id)


def plan_at(bench: Bench, names: Names | None = None) -> Plan:
    """What a bench cooks of its lesson, in the names it gives its foods."""
    order = bench.lesson.planned.get("order", {}).get(bench.name, ())
    return to_plan(bench.lesson, names=names.now if names else NO_NAMES, dishes=bench.dishes, order=order)


def plans_of(lesson: Lesson, profile_id: str | None = None) -> list[Plan]:
    """The lesson's safety plan, and those of benches that cook only some of its dishes: each once."""
    found = [plan_for(lesson, profile_id)]
    for bench in benches_of(lesson):
        plan = to_plan(lesson, profile_id=profile_id, dishes=bench.dishes)
        found += [plan] if all(plan is not one for one in found) else []
    return found


_TAG = """
SELECT l.opened_at, l.closed_at, l.pace, l.held_at, l.held_s,
    string_agg(b.id || '-' || coalesce((SELECT max(seq) FROM lessons_event e WHERE e.bench_id = b.id), 0), '.'
        ORDER BY b.id)
FROM lessons_lesson l LEFT JOIN lessons_bench b ON b.lesson_id = l.id
WHERE l.id = %s AND l.organisation_id = %s GROUP BY l.id
"""


def wall_tag(actor: Actor, lesson_id: int) -> str | None:
    """What the wall depends on: each bench's place in its log, and the passing of time; None if
    there is no such lesson for this actor. Every screen polls this, so it is one plain query."""
    if actor.kind == "stand_in" and actor.lesson_id != lesson_id:
        return None
    with connection.cursor() as cursor:
        cursor.execute(_TAG, [lesson_id, actor.organisation if actor.at_front else None])
        row = cursor.fetchone()
    if row is None:
        return None
    opened_at, closed_at, pace, held_at, held_s, heads = row
    now = _lesson_clock(opened_at, closed_at, pace, timezone.now(), (held_at, held_s))
    slot = 0 if closed_at else int(now.timestamp() // (REDRAW_S * pace))
    return f"{heads or ''}.{slot}{'h' if held_at else ''}"


def read_benches(rows: Iterable[Lesson]) -> None:
    """Fetches the benches of several lessons at once, with their learners; what is at hand is not asked again."""
    missing = [row for row in rows if "benches" not in getattr(row, "_prefetched_objects_cache", {})]
    prefetch_related_objects(missing, Prefetch("benches", Bench.objects.prefetch_related("learners")))


def benches_of(lesson: Lesson) -> list[Bench]:
    """A lesson's benches with their learners, each knowing its lesson: asked of the database once."""
    read_benches([lesson])
    benches = list(lesson.benches.all())
    for bench in benches:
        bench.lesson = lesson
    return benches


def lesson_at_work(actor: Actor, lesson_id: int) -> Lesson | None:
    """An actor's lesson with benches and learners, in two queries; None where there is none, or no bench."""
    rows = Bench.objects.select_related("lesson__organisation").prefetch_related("learners")
    benches = list(rows.filter(lesson_id=lesson_id, lesson__in=lessons_for(actor)))
    if not benches:
        return lessons_for(actor).filter(pk=lesson_id).first()
    lesson = benches[0].lesson
    lesson._prefetched_objects_cache = {"benches": benches}  # type: ignore[attr-defined]
    return lesson


@dataclass(frozen=True, slots=True)
class _ReadAhead:
    """The entries of a bench's log behind a place in it."""

    after: int
    events: list[Event]


def read_logs(benches: Sequence[Bench], *, whole: bool = False) -> None:
    """Fetches what is new in the logs of several benches at once, or all of them: each bench has its own at hand
    from here on, for as long as this object of it lives."""
    after = {bench.pk: 0 if whole else (held.seq if (held := _snapshots.get(bench.pk)) else 0) for bench in benches}
    wanted = Q(pk__in=[])
    for bench in benches:
        wanted |= Q(bench_id=bench.pk, seq__gt=after[bench.pk])
    found: dict[int, list[Event]] = {bench.pk: [] for bench in benches}
    for event in Event.objects.filter(wanted).order_by("seq"):
        found[event.bench_id].append(event)
    for bench in benches:
        bench.read_ahead = _ReadAhead(after[bench.pk], found[bench.pk])


def log_of(bench: Bench, *, after: int = 0) -> list[Event]:
    """A bench's log in the order recorded, behind a place in it."""
    ahead = bench.read_ahead
    if ahead is not None and ahead.after <= after:
        return [event for event in ahead.events if event.seq > after]
    return list(Event.objects.filter(bench=bench, seq__gt=after).order_by("seq"))


@dataclass(frozen=True, slots=True)
class _Snapshot:
    """A bench folded as far as ``seq``: a cache in this process, never the truth."""

    plan: Plan
    names: Names
    learners: tuple[str, ...]
    seq: int
    last_s: float
    state: State


_snapshots: dict[int, _Snapshot] = {}
# After these the whole log is folded again: what went before is not what it was.
_TURNS_BACK = (*TAKES_BACK, "named")


def _initials(bench: Bench) -> tuple[str, ...]:
    return tuple(learner.initials for learner in bench.learners.all())


def _still_fits(held: _Snapshot, bench: Bench) -> bool:
    return held.plan is plan_at(bench, held.names) and held.learners == _initials(bench)


def _unfolded(bench: Bench, names: Names) -> _Snapshot:
    plan, learners = plan_at(bench, names), _initials(bench)
    return _Snapshot(plan, names, learners, 0, float("-inf"), opening_state(plan, learners))


def bench_state(bench: Bench) -> tuple[State, int]:
    """The bench's state folded from its log, in the names that the bench gives its foods, and the place in the
    log it has reached.

    New entries are folded onto the last snapshot when they happened after it; an entry that
    arrives late, that voids another or names a food means folding the whole log again.
    """
    held = _snapshots.get(bench.pk)
    if held is None or not _still_fits(held, bench):
        held = _unfolded(bench, held.names if held else Names())
    rows = log_of(bench, after=held.seq)
    if rows:
        held = _folded(bench, held, rows)
        if len(_snapshots) >= _MOST_SNAPSHOTS:
            _snapshots.pop(next(iter(_snapshots)))
        _snapshots[bench.pk] = held
    return held.state, held.seq


def _folded(bench: Bench, held: _Snapshot, rows: list[Event]) -> _Snapshot:
    events = [to_event(row) for row in rows]
    last_s = max([event.at_s for event in events] + [held.last_s])
    back = any(event.at_s < held.last_s or event.kind in _TURNS_BACK for event in events)
    if not back:
        return replace(held, seq=rows[-1].seq, last_s=last_s, state=fold_on(held.state, events))
    events = [to_event(row) for row in log_of(bench)] if held.seq else events
    whole = _unfolded(bench, names_given(plan_at(bench).process, events))
    return replace(whole, seq=rows[-1].seq, last_s=last_s, state=fold(whole.plan, whole.learners, events))


def states_around(bench: Bench, event_id: uuid.UUID, at: dt.datetime) -> tuple[State, State]:
    """A bench as it stood at a moment without an entry that happened then, and with it."""
    whole = _unfolded(bench, names_of(bench))
    rows = Event.objects.filter(bench=bench, happened_at__lte=at).order_by("seq")
    events = [to_event(row) for row in rows]
    without = [event for event in events if event.id != str(event_id)]
    return fold(whole.plan, whole.learners, without), fold(whole.plan, whole.learners, events)


def names_of(bench: Bench) -> Names:
    """What a bench calls its foods, and every name it ever gave one."""
    return names_in(bench, Event.objects.filter(bench=bench, kind__in=_TURNS_BACK).order_by("seq"))


def names_in(bench: Bench, rows: Iterable[Event]) -> Names:
    """The names that entries of a bench give its foods."""
    return names_given(plan_at(bench).process, [to_event(row) for row in rows])


def retold(bench: Bench) -> ReplayedLog:
    """What the bench really did, as a process. Raises CoreError while it has done nothing."""
    whole = _unfolded(bench, names_of(bench))
    return process_from_log(whole.plan, whole.learners, [to_event(row) for row in log_of(bench)])


def heads_of(lesson: Lesson) -> dict[int, LogHead]:
    """How far the log of each bench goes, by bench."""
    return {row.bench_id: row for row in LogHead.objects.filter(lesson_id=lesson.pk)}


def heads_by_lesson(rows: Sequence[Lesson]) -> list[dict[int, LogHead]]:
    """The same of several lessons at once, in their order."""
    found: dict[int, dict[int, LogHead]] = {row.pk: {} for row in rows}
    for head in LogHead.objects.filter(lesson_id__in=list(found)):
        found[head.lesson_id][head.bench_id] = head
    return [found[row.pk] for row in rows]


def pause_of(benches: Sequence[Bench]) -> Pause | None:
    """The last time that a lesson stopped, whether it goes on again or not; None where it never did."""
    found = (bench_state(bench)[0].pause for bench in benches)
    return max((pause for pause in found if pause), key=lambda row: row.begun_s, default=None)


def hurts_of(lesson: Lesson) -> list[Hurt]:
    """Who was hurt in a lesson."""
    return list(Hurt.objects.filter(bench__lesson=lesson).select_related("bench"))


def long_over(lesson: Lesson) -> bool:
    """True where nothing is taken any more that happened in it."""
    return lesson.closed_at is not None and timezone.now() - lesson.closed_at > LATE_WITHIN


def lesson_before(lesson: Lesson) -> Lesson | None:
    """The last lesson of the same group, or place where it has none, that is over."""
    rows = Lesson.objects.filter(
        organisation_id=lesson.organisation_id, starts_at__lt=lesson.starts_at, closed_at__isnull=False, rehearsal=False
    ).exclude(pk=lesson.pk)
    rows = rows.filter(group_id=lesson.group_id) if lesson.group_id else rows.filter(place=lesson.place)
    return rows.order_by("-starts_at").first()


def taught_before(lesson: Lesson) -> Lesson | None:
    """The lesson whose debrief says what is to be taught in this one."""
    last = lesson_before(lesson)
    return last if last is not None and last.teach_next else None


def second_half(lesson: Lesson) -> Lesson | None:
    """The lesson that goes on with what this one has kept, where there is one."""
    return Lesson.objects.filter(first_half=lesson).first()


def step_titles(lesson: Lesson) -> dict[str, str]:
    """The titles of the lesson's steps, by id."""
    return {name: str(row["title"]) for name, row in step_texts(lesson).items()}


def learners_of(bench: Bench) -> tuple[str, ...]:
    """Initials of the learners at a bench."""
    return tuple(Learner.objects.filter(bench=bench).values_list("initials", flat=True))


def roles_had(group: Any) -> list[dict[str, str]]:
    """The roles of a group's earlier lessons, the oldest lesson first."""
    found: dict[int, dict[str, str]] = {}
    rows = Learner.objects.filter(bench__lesson__group=group, bench__lesson__rehearsal=False).exclude(role="")
    for lesson, initials, role in rows.order_by("bench__lesson__starts_at", "bench__lesson_id").values_list(
        "bench__lesson_id", "initials", "role"
    ):
        found.setdefault(lesson, {})[initials] = role
    return list(found.values())


def planned_at(bench: Bench) -> dict[str, tuple[float, float]]:
    """When a bench begins and ends each step by its plan [s of the lesson]; nothing where none was found."""
    rows = bench.lesson.planned.get("benches", {}).get(bench.name, {})
    return {step: (float(begins), float(ends)) for step, (begins, ends) in rows.items()}


def late_of(bench: Bench, state: State, now_s: float) -> Late | None:
    """The step of a bench that is most behind its plan; None before the lesson, after it, and while it stands still."""
    lesson = bench.lesson
    if lesson.opened_at is None or lesson.over or state.paused:
        return None
    return late_at(state, planned_at(bench), gone_s(state, lesson.opened_at.timestamp(), now_s), now_s)


def really_at(*, claimed: dt.datetime | None, sent: dt.datetime | None) -> dt.datetime:
    """When an entry happened, by this machine's clock.

    The device says when it happened and when it is sending, both by its own clock: how wrong that clock is
    cancels out. What says nothing, or something impossible, happens now.
    """
    now = timezone.now()
    ago = sent - claimed if claimed and sent else dt.timedelta(0)
    return now - ago if dt.timedelta(0) < ago < LATE_WITHIN else now


def happened_at(lesson: Lesson, really: dt.datetime) -> dt.datetime:
    """A moment on the lesson's own clock: nothing happens before the lesson opens or after it ends."""
    moment = lesson_now(lesson, really)
    return max(moment, lesson.opened_at) if lesson.opened_at else moment


def usual_benches(actor: Actor) -> tuple[str, str]:
    """Place and benches of the organisation's last lesson, as the lesson form writes them."""
    last = lessons_with_benches(actor).filter(rehearsal=False).order_by("-pk").first()
    if last is None:
        return "", ""
    rows = [f"{bench.name}: {', '.join(one.initials for one in bench.learners.all())}" for bench in last.benches.all()]
    return last.place, "\n".join(rows)


def kitchen_for(lesson: Lesson) -> Kitchen:
    """The kitchen of a lesson: its own, or the organisation's main one where nobody chose."""
    return lesson.kitchen or kitchen_of(lesson.organisation_id)


def profile_of(lesson: Lesson) -> Profile:
    """The lesson's rule profile, with the kitchen's own limits it was given."""
    return to_profile(lesson)

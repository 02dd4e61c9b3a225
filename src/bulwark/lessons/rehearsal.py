"""Rehearsing a lesson: simulated crews make the entries, at speed, through the real log."""

import datetime as dt
import threading
import time
import uuid

from django.db import close_old_connections, transaction
from django.utils import timezone

from bulwark.lessons import selectors, services
from bulwark.lessons.crews import PACE, Crewed, Rehearsal, rehearsal_of
from bulwark.lessons.models import Bench, Lesson
from bulwark.people.actors import bench_actor
from foodsafety.lesson import Event, Slip, crewed, plant, rehearse

# One planted slip in the demo: it is the third bench that slices cucumber with raw hands.
SLIP_BENCH = 2
SLIP: Slip = "unwashed_hands"


def copy_for_rehearsal(lesson: Lesson) -> Lesson:
    """A lesson like this one to rehearse in, so that the real one stays as it is."""
    benches = {bench.name: selectors.learners_of(bench) for bench in lesson.benches.all()}
    copy = services.create_lesson(
        recipe=lesson.recipe,
        place=lesson.place,
        starts_at=timezone.now(),
        length_min=lesson.length_min,
        benches=benches,
        profile_id=lesson.profile,
        house=lesson.house,
        local_limits=selectors.profile_of(lesson).changes,
    )
    # The recipe may have been edited since: what is rehearsed is what will be taught.
    copy.process, copy.pieces, copy.unconfirmed = lesson.process, lesson.pieces, lesson.unconfirmed
    copy.eaters, copy.variants = lesson.eaters, lesson.variants
    copy.save(update_fields=["process", "pieces", "unconfirmed", "eaters", "variants"])
    services.set_dishes(lesson=copy, dishes={bench.name: bench.dishes for bench in lesson.benches.all()})
    return copy


def script(lesson: Lesson, *, seed: int = 7) -> list[tuple[float, Bench, Event]]:
    """Every entry of every bench in the order they reach the log; the same seed gives the same lesson."""
    asked = rehearsal_of(lesson)
    seed = asked.seed if asked.benches is not None else seed
    rows: list[tuple[float, Bench, Event]] = []
    for i, bench in enumerate(lesson.benches.all()):
        slip: Slip = SLIP if i == SLIP_BENCH and asked.benches is None else "none"
        plan, learners = selectors.plan_at(bench), selectors.learners_of(bench)
        events = rehearse(plan, learners, seed=seed * 100 + i, slip=slip)
        own = (asked.benches or {}).get(bench.name, Crewed())
        planted = plant(plan, learners, events, own.slip, from_s=own.from_min * 60) if own.slip else None
        rows += [(at_s, bench, event) for at_s, event in crewed(planted or events, own.crew)]
    return sorted(rows, key=lambda row: row[0])


def no_place_for(lesson: Lesson, asked: Rehearsal) -> list[str]:
    """The benches whose slip the lesson has no place for."""
    found = []
    for i, bench in enumerate(lesson.benches.all()):
        own = (asked.benches or {}).get(bench.name, Crewed())
        plan, learners = selectors.plan_at(bench), selectors.learners_of(bench)
        events = rehearse(plan, learners, seed=asked.seed * 100 + i)
        if own.slip and plant(plan, learners, events, own.slip, from_s=own.from_min * 60) is None:
            found.append(bench.name)
    return found


def _begun(lesson: Lesson) -> dt.datetime:
    if lesson.opened_at is None:
        raise services.LessonError("not_open")
    return lesson.opened_at


def write(lesson: Lesson, bench: Bench, event: Event) -> None:
    """One simulated entry into the real log."""
    bench.lesson = lesson
    services.record_event(
        bench=bench,
        by=bench_actor(bench.pk),
        kind=event.kind,
        data=dict(event.data),
        event_id=uuid.uuid5(uuid.NAMESPACE_OID, f"{lesson.pk}:{bench.pk}:{event.id}"),
        at=_begun(lesson) + dt.timedelta(seconds=event.at_s),
    )


# How soon a rehearsal notices that it is held, or goes on [s].
_LOOKS_S = 0.5


def _wait_until(lesson: Lesson, at_s: float) -> None:
    """Until the lesson's own clock has come so far; as long as it is held, it does not. Somebody may end it."""
    while not lesson.over:
        due = _begun(lesson) + dt.timedelta(seconds=at_s / lesson.pace + lesson.held_s)
        left_s = (due - timezone.now()).total_seconds()
        if left_s <= 0 and lesson.held_at is None:
            return
        time.sleep(_LOOKS_S if lesson.held_at else min(_LOOKS_S, left_s))
        if lesson.held_at or left_s > _LOOKS_S:
            lesson.refresh_from_db(fields=["held_at", "held_s", "closed_at"])


@transaction.atomic
def hold(lesson: Lesson, *, on: bool) -> None:
    """Holds a rehearsal, so that it can be talked over, or lets it go on. Its clocks stand still: nothing cooks."""
    row = Lesson.objects.select_for_update().get(pk=lesson.pk)
    if not row.rehearsal or row.over or on == (row.held_at is not None):
        return
    now = timezone.now()
    if row.held_at is not None:
        row.held_s += (now - row.held_at).total_seconds()
    row.held_at = now if on else None
    row.save(update_fields=["held_at", "held_s"])


def play(lesson: Lesson, *, until_s: float | None = None, wait: bool = True) -> int:
    """Plays a rehearsal into the log at the lesson's pace; how many entries it made.

    Stops quietly when somebody ends the lesson.
    """
    made = 0
    for at_s, bench, event in script(lesson):
        if until_s is not None and at_s > until_s:
            break
        if wait:
            _wait_until(lesson, at_s)
        if made % 20 == 0:
            lesson.refresh_from_db()
        try:
            write(lesson, bench, event)
        except services.LessonError:
            break
        made += 1
    return made


def start(*, lesson: Lesson, pace: int = PACE, asked: Rehearsal | None = None) -> Lesson:
    """Begins a rehearsal of a lesson in the background; the lesson in which it plays."""
    rehearsed = copy_for_rehearsal(lesson)
    if asked is not None:
        rehearsed.rehearsed = asked.stored()
        rehearsed.save(update_fields=["rehearsed"])
    services.open_lesson(lesson=rehearsed, rehearsal_pace=pace)

    def run() -> None:
        try:
            play(rehearsed)
        finally:
            close_old_connections()

    threading.Thread(target=run, name=f"rehearsal-{rehearsed.pk}", daemon=True).start()
    return rehearsed

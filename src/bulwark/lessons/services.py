"""Changes to lessons, and the one way into the log."""

import datetime as dt
import logging
import secrets
import uuid
from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from django.conf import settings
from django.db import connection, transaction
from django.db.models import Max
from django.dispatch import Signal
from django.utils import timezone

from bulwark.groups.selectors import eaters_with, roles_of
from bulwark.lessons import wording
from bulwark.lessons.adapters import as_half, from_changes, half_titles
from bulwark.lessons.appending import LessonError as LessonError
from bulwark.lessons.appending import Recorded, append
from bulwark.lessons.context import context_hash
from bulwark.lessons.models import Bench, Device, Hurt, JoinTry, Learner, Lesson
from bulwark.lessons.seals import seal
from bulwark.lessons.selectors import (
    at_bench,
    bench_state,
    lesson_now,
    names_of,
    roles_had,
)
from bulwark.lessons.sharing import relay
from bulwark.lessons.signals import lesson_begun, lesson_ended
from bulwark.people.actors import Actor
from bulwark.recipes import services as recipes
from foodsafety.lesson import Entry, may_send, read_entry, sources
from foodsafety.planning import Stop, halved, rotated
from foodsafety.quantities import CoreError
from foodsafety.rules import LocalChange, profile_digest, rule_profile

# No letter or digit that can be taken for another when read off a screen across a room.
_CODE_LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"


def new_code() -> str:
    """A code that is read off a screen across a room."""
    return "".join(secrets.choice(_CODE_LETTERS) for _ in range(6))


@transaction.atomic
def create_lesson(
    *,
    recipe: Any,
    place: str,
    starts_at: dt.datetime,
    length_min: int,
    benches: Mapping[str, Iterable[str]],
    profile_id: str,
    house: Mapping[str, Any] | None = None,
    local_limits: Iterable[LocalChange] = (),
    kitchen: Any = None,
    group: Any = None,
) -> Lesson:
    """A lesson on a recipe, with its benches and learners; the roles of a group go round."""
    lesson = Lesson.objects.create(
        organisation_id=recipe.organisation_id,
        recipe=recipe,
        title=recipe.title,
        place=place,
        process=recipe.process,
        pieces=recipe.pieces,
        eaters=eaters_with(recipe.eaters or {}, group) if group else recipe.eaters or {},
        kitchen=kitchen,
        group=group,
        variants=recipe.variants or [],
        profile=profile_id,
        house=dict(house or {}),
        local_limits=from_changes(profile_id, local_limits),
        unconfirmed=recipe.confirmed_at is None,
        starts_at=starts_at,
        length_min=length_min,
    )
    rows = {name: list(learners) for name, learners in benches.items()}
    roles = rotated(list(rows.values()), [row.name for row in roles_of(group)], roles_had(group)) if group else {}
    for position, (name, learners) in enumerate(rows.items()):
        bench = Bench.objects.create(lesson=lesson, name=name, position=position, join_code=new_code())
        Learner.objects.bulk_create(
            Learner(bench=bench, initials=initials, role=roles.get(initials, ""), position=i)
            for i, initials in enumerate(learners)
        )
    return lesson


@transaction.atomic
def stock_log(
    *, organisation: Any, title: str, process: dict[str, Any], profile_id: str, began_at: dt.datetime, bench: str
) -> Bench:
    """A log of what came onto the shelf without a lesson, begun then: one bench with nobody at it, and foods with which
    nothing is done, in no list of recipes. Raises CoreError if they are no process."""
    data = {"title": title, "summary": "", "serves": 1, "ingredients": [], "pieces": {}, "process": process}
    recipe = recipes.add_confirmed_recipe(organisation=organisation, data=data)
    recipes.set_archived(recipe=recipe, archived=True)
    lesson = create_lesson(
        recipe=recipe, place="", starts_at=began_at, length_min=10, benches={bench: []}, profile_id=profile_id
    )
    Lesson.objects.filter(pk=lesson.pk).update(stock=True)
    open_lesson(lesson=lesson)
    now = timezone.now()
    Lesson.objects.filter(pk=lesson.pk).update(opened_at=min(began_at, now), closed_at=now)
    return Bench.objects.select_related("lesson__organisation").get(lesson=lesson)


def ask_at_benches(*, lesson_id: int, code: str) -> None:
    """The tablets of a lesson lead to these questions from now on."""
    Lesson.objects.filter(pk=lesson_id).update(asks=code)


def stop_asking(code: str) -> None:
    """No tablet leads to these questions any more."""
    Lesson.objects.filter(asks=code).update(asks="")


def move_lesson(*, lesson: Lesson, starts_at: dt.datetime) -> None:
    """The lesson at another time. Raises LessonError once it has begun."""
    if lesson.opened_at:
        raise LessonError("begun")
    lesson.starts_at = starts_at
    lesson.save(update_fields=["starts_at"])


def renew_lesson(*, lesson: Lesson, recipe: Any = None) -> None:
    """Takes the recipe's steps over as they are now, or those of another recipe in its place; a half stays one. Raises
    LessonError once the lesson has begun (what was taught is never changed), or where the recipe cannot be stopped
    any more where the half does."""
    if lesson.opened_at:
        raise LessonError("begun")
    half = None if recipe else lesson.half
    recipe = lesson.recipe = recipe or lesson.recipe
    try:
        lesson.process = as_half(recipe.process, half) if half else recipe.process
    except CoreError:
        raise LessonError("no_stop") from None
    lesson.title = wording.half_title(recipe.title, half["n"]) if half else recipe.title
    steps = {str(row["id"]) for row in lesson.process["steps"]}
    lesson.arranged = {step: how for step, how in lesson.arranged.items() if step in steps}
    lesson.pieces, lesson.variants = recipe.pieces, recipe.variants or []
    lesson.unconfirmed = recipe.confirmed_at is None
    eaters = recipe.eaters or {}
    lesson.eaters = eaters_with(eaters, lesson.group) if lesson.group else eaters
    lesson.save(update_fields=["recipe", "process", "pieces", "variants", "unconfirmed", "title", "eaters", "arranged"])


@transaction.atomic
def split_lesson(*, lesson: Lesson, stop: Stop, starts_at: dt.datetime) -> Lesson:
    """The lesson over two: it stops where it is safe, and a second one, which is returned, goes on. Raises LessonError
    once it has begun, or where it is a half already, and CoreError where the recipe cannot be stopped there."""
    if lesson.opened_at:
        raise LessonError("begun")
    if lesson.half:
        raise LessonError("is_half")
    first, second = halved(lesson.process, stop, half_titles(stop.kept, stop.place))
    benches = {bench.name: [row.initials for row in bench.learners.all()] for bench in lesson.benches.all()}
    new = create_lesson(
        recipe=lesson.recipe,
        place=lesson.place,
        starts_at=starts_at,
        length_min=lesson.length_min,
        benches=benches,
        profile_id=lesson.profile,
        house=lesson.house,
        kitchen=lesson.kitchen,
        group=lesson.group,
    )
    new.process, new.first_half, new.local_limits = second, lesson, lesson.local_limits
    new.unconfirmed, new.eaters, new.pieces = lesson.unconfirmed, lesson.eaters, lesson.pieces
    new.title = wording.half_title(lesson.title, 2)
    new.save()
    lesson.process, lesson.title = first, wording.half_title(lesson.title, 1)
    lesson.save(update_fields=["process", "title"])
    for course in lesson.courses.filter(archived_at=None):
        course.lessons.add(new)
    return new


@transaction.atomic
def join_halves(lesson: Lesson) -> None:
    """The whole recipe in one lesson again; the second is taken away. Raises LessonError once either has begun."""
    second = Lesson.objects.filter(first_half=lesson).first()
    if lesson.opened_at or (second and second.opened_at):
        raise LessonError("begun")
    if second is not None:
        Learner.objects.filter(bench__lesson=second).delete()
        second.benches.all().delete()
        second.delete()
    renew_lesson(lesson=lesson, recipe=lesson.recipe)


def set_dishes(*, lesson: Lesson, dishes: Mapping[str, Iterable[str]]) -> None:
    """Which dishes of the menu each bench cooks, by its name; a bench that is not named cooks all. Raises LessonError
    once the lesson has begun."""
    for bench in lesson.benches.all():
        chosen = list(dishes.get(bench.name, ()))
        if chosen == bench.dishes:
            continue
        if lesson.opened_at:
            raise LessonError("begun")
        bench.dishes = chosen
        bench.save(update_fields=["dishes"])


def set_teach_next(*, lesson: Lesson, rules: Iterable[str]) -> None:
    """What is to be taught next, by its rules."""
    lesson.teach_next = [rule[:60] for rule in dict.fromkeys(rules)][:12]
    lesson.save(update_fields=["teach_next"])


def set_arranged(*, lesson: Lesson, steps: Mapping[str, str]) -> None:
    """What the plan asks of steps at the bench (see ``Lesson.arranged``), instead of what it asked before."""
    if dict(steps) != lesson.arranged:
        lesson.arranged = dict(steps)
        lesson.save(update_fields=["arranged"])


def set_planned(
    *,
    lesson: Lesson,
    ends_s: float,
    benches: Mapping[str, Mapping[str, tuple[float, float]]],
    more: Mapping[str, Any] | None = None,
) -> None:
    """When each bench begins and ends each step by its plan, and when all ends [s of the lesson] (``Lesson.planned``);
    a step that is not in it keeps what it had. ``more``: the order, and who does what."""
    held = lesson.planned.get("benches", {})
    kept = {
        name: {**held.get(name, {}), **{step: list(at) for step, at in rows.items()}} for name, rows in benches.items()
    }
    lesson.planned = {**lesson.planned, "ends_s": ends_s, "benches": {**held, **kept}, **(more or {})}
    Lesson.objects.filter(pk=lesson.pk).update(planned=lesson.planned)


def set_shared(*, lesson: Lesson, kit: Iterable[str]) -> None:
    """Which kit the benches share from now on: its soils, and its cleaning, are those of all."""
    lesson.shared = sorted({name[:80] for name in kit})[:40]
    lesson.save(update_fields=["shared"])


def set_profile(*, lesson: Lesson, profile_id: str, local_limits: Iterable[LocalChange] = ()) -> None:
    """Chooses the rule profile, with the kitchen's own limits over it. A lesson that has begun
    keeps the limits it began with."""
    rule_profile(profile_id)
    if lesson.opened_at:
        raise LessonError("begun")
    lesson.profile, lesson.local_limits = profile_id, from_changes(profile_id, local_limits)
    lesson.save(update_fields=["profile", "local_limits"])


def set_house(*, lesson: Lesson, cook_equivalents: bool) -> None:
    """Records the kitchen's choice to accept the profile's table of equivalent holds."""
    if lesson.opened_at:
        raise LessonError("begun")
    lesson.house = {**lesson.house, "cook_equivalents": cook_equivalents}
    lesson.save(update_fields=["house"])


def _begin_chains(lesson: Lesson) -> None:
    """The chain of each bench begins with what its verdict rests on."""
    lesson = Lesson.objects.get(pk=lesson.pk)  # as it is kept, and will be read again
    rules = profile_digest(lesson.profile)
    with connection.cursor() as cursor:
        for bench in lesson.benches.prefetch_related("learners"):
            context = context_hash(lesson, bench, [one.initials for one in bench.learners.all()], rules)
            cursor.execute("SELECT bulwark_chain_begun(%s, %s, %s, %s)", [bench.pk, lesson.pk, rules, context])


@transaction.atomic
def open_lesson(*, lesson: Lesson, rehearsal_pace: int | None = None) -> None:
    """Starts the lesson: from now on benches can join. A second start changes nothing."""
    if lesson.closed_at:
        raise LessonError("closed")
    if lesson.opened_at is None:
        lesson.opened_at = timezone.now()
        lesson.pace = rehearsal_pace or 1
        lesson.rehearsal = rehearsal_pace is not None
        lesson.save(update_fields=["opened_at", "pace", "rehearsal"])
        _begin_chains(lesson)
        transaction.on_commit(lambda: _tell_rooms(lesson_begun, lesson))


def _tell_rooms(what: Signal, lesson: Lesson) -> None:
    for _heard, wrong in what.send_robust(lesson):
        if wrong is not None:
            logging.getLogger(__name__).error("of lesson %s not every room was told", lesson.pk, exc_info=wrong)


def close_lesson(*, lesson: Lesson) -> None:
    """Ends the lesson: benches are sent away, the record stays."""
    if lesson.opened_at is None:
        raise LessonError("not_open")
    if lesson.closed_at is None:
        lesson.closed_at = timezone.now()
        lesson.save(update_fields=["closed_at"])
        seal(lesson.pk)
        transaction.on_commit(lambda: _tell_rooms(lesson_ended, lesson))


# A lesson that ended by mistake is taken up again within the day; later it would be another one.
REOPEN_WITHIN = dt.timedelta(hours=24)


@transaction.atomic
def reopen_lesson(*, lesson: Lesson, by: Actor, reason: str) -> None:
    """Takes up a lesson that has ended. Every bench's log says so, and why. Raises CoreError without a reason,
    LessonError if it has not ended or ended too long ago."""
    lesson = Lesson.objects.select_for_update().get(pk=lesson.pk)
    if lesson.opened_at is None:
        raise LessonError("not_open")
    if lesson.closed_at is None:
        return  # a second tap
    if timezone.now() - lesson.closed_at > REOPEN_WITHIN:
        raise LessonError("long_over")
    lesson.closed_at = None
    lesson.save(update_fields=["closed_at"])
    for bench in lesson.benches.all():
        bench.lesson = lesson
        entry = read_entry("reopened", {"reason": reason}, at_bench(bench))
        now = timezone.now()
        append(bench, uuid.uuid4(), "reopened", entry.stored(), lesson_now(lesson, now), by, really=now)


@transaction.atomic
def join_bench(bench: Bench, *, before: Actor) -> Device:
    """A device more at a bench, with the next number; one that is at it already keeps its own, and leaves the
    bench it was at ``before``."""
    there = Device.objects.filter(pk=before.device_id or 0, bench=bench, sent_away_at=None).first()
    if there is not None:
        return there
    leave_bench(before)
    Bench.objects.select_for_update(no_key=True).get(pk=bench.pk)
    last = Device.objects.filter(bench=bench).aggregate(most=Max("number"))["most"] or 0
    now = timezone.now()
    return Device.objects.create(bench=bench, number=last + 1, joined_at=now, seen_at=now)


def note_seen(device_id: int, *, waiting: int) -> bool:
    """A device says that it is there, and how many entries wait on it. False if it has been sent away."""
    here = Device.objects.filter(pk=device_id, sent_away_at=None)
    return here.update(seen_at=timezone.now(), waiting=min(waiting, 100_000)) == 1


def leave_bench(actor: Actor) -> None:
    """A device goes from its bench: nothing more is waited for from it."""
    Device.objects.filter(pk=actor.device_id or 0, sent_away_at=None).update(sent_away_at=timezone.now())


def send_away(device: Device) -> None:
    """From now on the bench hears nothing from a device; what it wrote stays."""
    Device.objects.filter(pk=device.pk, sent_away_at=None).update(sent_away_at=timezone.now())


def set_on_paper(*, bench: Bench, on_paper: bool) -> None:
    """Whether a bench works on paper: nothing is expected of it before its card is typed in."""
    bench.on_paper = on_paper
    bench.save(update_fields=["on_paper"])


def renew_code(bench: Bench) -> None:
    """The bench's old code lets nobody in any more; who is in stays."""
    bench.join_code = new_code()
    bench.save(update_fields=["join_code"])


@transaction.atomic
def record_hurt(*, by: Actor, bench: Bench, food: str = "", **said: Any) -> Hurt:
    """Writes down that somebody was hurt. Food that is thrown away for it is in the lesson's log, and why is not.
    Raises CoreError for a food that is none of the bench, LessonError where the lesson is not open."""
    if food:
        data = {"food": food, "how": "discarded"}
        at = lesson_now(bench.lesson)
        record_event(bench=bench, by=by, kind="gone", data=data, event_id=uuid.uuid4(), at=at)
    return Hurt.objects.create(bench=bench, thrown=food, at=timezone.now(), by_id=by.user_id, **said)


@transaction.atomic
def pause_lesson(*, lesson: Lesson, by: Actor, why: str) -> None:
    """The lesson stops at every bench. Raises CoreError for no reason, LessonError where it is not open."""
    _tell_benches(lesson, by, "paused", {"why": why})


@transaction.atomic
def resume_lesson(*, lesson: Lesson, by: Actor) -> None:
    """It goes on at every bench. Raises LessonError where it is not open."""
    _tell_benches(lesson, by, "resumed", {})


def _tell_benches(lesson: Lesson, by: Actor, kind: str, data: Mapping[str, Any]) -> None:
    if lesson.over:
        raise LessonError("closed")
    at = lesson_now(lesson)
    for bench in lesson.benches.all():
        record_event(bench=bench, by=by, kind=kind, data=data, event_id=uuid.uuid4(), at=at)


def wrong_code(address: str | None) -> int:
    """Counts a wrong code, of a bench, a pad or the front; how many came from that address of late before it."""
    address = address or "0.0.0.0"  # noqa: S104 - an address counted, not bound
    since = timezone.now() - dt.timedelta(seconds=settings.JOIN_TRIES_WINDOW_S)
    tries = JoinTry.objects.filter(address=address, tried_at__gte=since).count()
    JoinTry.objects.create(address=address)
    return tries


def record_event(
    *,
    bench: Bench,
    by: Actor,
    kind: str,
    data: Mapping[str, Any],
    event_id: uuid.UUID,
    at: dt.datetime,
    really: dt.datetime | None = None,
) -> Recorded:
    """Appends one entry to a bench's log. The same id twice is one entry.

    ``at`` is when it happened by the lesson's clock, ``really`` by that on the wall: now, unless said. What
    happened before the lesson ended is taken for two days after. Raises CoreError naming the field that is wrong,
    LessonError if the lesson is not open.
    """
    if not may_send(kind, front=by.at_front, watches=by.kind == "assistant"):
        raise CoreError("kind", "unknown_entry_here", kind=kind[:60])
    lesson = bench.lesson
    if lesson.opened_at is None:
        raise LessonError("not_open")
    entry = _read(bench, kind, data)
    # An educator may still put the record right after the lesson: void, waive, say what became of food.
    # What is kept is what was checked, never what else was sent.
    really = really or timezone.now()
    recorded = append(bench, event_id, kind, entry.stored(), at, by, really=really)
    if lesson.shared:  # also where it was there already: nobody knows whether the others were told then
        relay(bench, event_id, kind, entry.stored(), at, really=really)
    return recorded


def _read(bench: Bench, kind: str, data: Mapping[str, Any]) -> Entry:
    """The entry, in the recipe's own names of foods: a bench may know them by others. Those are looked up
    only where they matter."""
    here = at_bench(bench)
    if kind != "named":
        try:
            return read_entry(kind, data, here)
        except CoreError as wrong:
            if wrong.why == "not_at_this_bench":  # somebody who came later: the log knows
                return read_entry(kind, data, replace(here, learners=bench_state(bench)[0].learners))
            if wrong.field not in ("food", "foods"):
                raise
    return read_entry(kind, data, replace(here, plan=replace(here.plan, known=names_of(bench).known)))


def come_to(*, bench: Bench, learner: str, by: Actor, soils: Mapping[str, str] | None = None) -> None:
    """Somebody joins a bench while the lesson runs, with what is on their hands from elsewhere: soils, each with the
    food that it came from. Raises CoreError for no
    name, and LessonError ("at_two_benches") for one who stands at another bench."""
    for other in bench.lesson.benches.all():
        if other.pk != bench.pk and learner in bench_state(other)[0].present:
            raise LessonError("at_two_benches")
    _says(bench, by, "came", {"learner": learner, "soils": list(soils or {}), "sources": list((soils or {}).values())})


def go_from(*, bench: Bench, learner: str, by: Actor, why: str = "left") -> None:
    """Somebody leaves a bench. Raises CoreError for one who is not there."""
    _says(bench, by, "went", {"learner": learner, "why": why})


@transaction.atomic
def move_to(*, bench: Bench, to: Bench, learner: str, by: Actor) -> None:
    """Somebody goes from one bench to another, with what is on their hands. Raises CoreError, and then neither log
    has an entry."""
    state = bench_state(bench)[0]
    names = sorted(state.surfaces.get(learner, {}).keys() - {"person"})
    soils = dict(zip(names, sources(state, learner, names), strict=True))
    go_from(bench=bench, learner=learner, by=by, why="moved")
    come_to(bench=to, learner=learner, by=by, soils=soils)


def _says(bench: Bench, by: Actor, kind: str, data: Mapping[str, Any]) -> None:
    """An entry that the front makes now."""
    record_event(bench=bench, by=by, kind=kind, data=data, event_id=uuid.uuid4(), at=lesson_now(bench.lesson))

"""Changes to what is brought to a lesson, and to what is kept of one."""

import datetime as dt
import uuid
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any

from django.db import transaction
from django.utils import timezone

from bulwark.devices.models import Instrument
from bulwark.devices.services import set_paper, use_paper, with_key
from bulwark.lessons.selectors import bench_state, lesson_now
from bulwark.lessons.services import record_event, stock_log
from bulwark.people.actors import Actor
from bulwark.shelf import wording
from bulwark.shelf.importing import BroughtIn
from bulwark.shelf.models import BroughtDish, NoteWords, PrintedLabel, RecallDrill
from bulwark.shelf.stock import Item
from foodsafety.quantities import CoreError, finite
from foodsafety.shelf import storage_category

MOST_BROUGHT, MOST_IN_TRAY, MOST_AT_ONCE = 20, 60, 10
MOST_LANGUAGE, MOST_SENTENCE = 40, 300


def bring(*, lesson: Any, **said: Any) -> BroughtDish:
    """A dish more that is brought ready made. Raises CoreError for too many, or once the lesson is over."""
    if lesson.over:
        raise CoreError("lesson", "lesson_over")
    if BroughtDish.objects.filter(lesson=lesson).count() >= MOST_BROUGHT:
        raise CoreError("title", "too_many_brought", most=MOST_BROUGHT)
    return BroughtDish.objects.create(lesson=lesson, **said)


def do_not_bring(*, lesson: Any, dish_id: int) -> None:
    """A dish less. Raises CoreError once the lesson is over: its record stays as it was."""
    if lesson.over:
        raise CoreError("lesson", "lesson_over")
    BroughtDish.objects.filter(lesson=lesson, pk=dish_id).delete()


# What may be used in another lesson.
_USABLE = frozenset({"good", "first", "today", "hole"})


def keep_for(*, item: Item, lesson: Any, portions: int | None) -> BroughtDish:
    """Keeps some of a part for a lesson: it stays where it is until that takes it. Raises CoreError for what may not be
    used, or not by then, for more than there is, or once that lesson is over."""
    if lesson.over:
        raise CoreError("lesson", "lesson_over")
    if item.standing not in _USABLE or item.until is None or item.until < lesson.starts_at:
        raise CoreError("item", "not_to_be_used", food=item.food)
    if portions is not None and item.portions is not None and portions > item.portions:
        raise CoreError("portions", "above", value=portions, high=item.portions)
    if BroughtDish.objects.filter(lesson=lesson).count() >= MOST_BROUGHT:
        raise CoreError("title", "too_many_brought", most=MOST_BROUGHT)
    return BroughtDish.objects.create(
        lesson=lesson,
        title=item.food[:80],
        category="",
        made_at=item.made_at,
        place=item.place,
        contains=", ".join(item.contains)[:120],
        bench=item.bench,
        food=item.food,
        part=item.part,
        portions=portions,
    )


@transaction.atomic
def take(*, dish: BroughtDish, item: Item, by: Actor, as_food: str) -> None:
    """A lesson takes what was kept for it: off the shelf, and its history into every bench of the lesson that cooks
    with it (``as_food``: which food of the recipe it is; nothing for a dish of its own). Raises CoreError where it may
    not be used, or the lesson does not run."""
    lesson = dish.lesson
    if lesson.opened_at is None or lesson.over:
        raise CoreError("lesson", "lesson_not_running")
    if item.standing not in _USABLE or item.until is None:
        raise CoreError("item", "not_to_be_used", food=item.food)
    if item.place == "freezer":
        raise CoreError("item", "still_frozen", food=item.food)
    dish = BroughtDish.objects.select_for_update().get(pk=dish.pk)
    if dish.taken_at is not None:
        return  # somebody else has taken it meanwhile
    if dish.portions is not None and item.portions is not None and dish.portions > item.portions:
        raise CoreError("portions", "above", value=dish.portions, high=item.portions)
    cooks = [row for row in lesson.benches.all() if as_food in bench_state(row)[0].plan.process.foods]
    if as_food and not cooks:
        raise CoreError("as_food", "not_one_of", value=as_food, allowed=("",))
    thawed = item.row.thawed_s is not None
    data = {"food": item.food, "part": item.part, "how": "used", "portions": dish.portions}
    enter(item=item, by=by, kind="part_gone", data=data)
    said, now = {"food": as_food, "until_s": item.until.timestamp(), "thawed": thawed}, timezone.now()
    for bench in cooks:
        at = lesson_now(lesson, now)
        record_event(bench=bench, by=by, kind="from_shelf", data=said, event_id=uuid.uuid4(), at=at)
    dish.taken_at, dish.until, dish.thawed, dish.as_food = timezone.now(), item.until, thawed, as_food
    dish.save(update_fields=["taken_at", "until", "thawed", "as_food"])


@transaction.atomic
def put(*, bench: Any, food: str, by: Actor, said: Mapping[str, Any]) -> None:
    """Where and in what a bench has put a food, as far as it was said. Raises CoreError naming the field."""
    now = lesson_now(bench.lesson, timezone.now())
    if said.get("portions") or said.get("store"):
        data = {"food": food, "part": "1", "portions": said.get("portions"), "store": said.get("store") or ""}
        record_event(bench=bench, by=by, kind="part_counted", data=data, event_id=uuid.uuid4(), at=now)
    if said.get("container"):
        box = {name: said.get(name) for name in ("container", "count", "litres", "wrap")}
        data = {"food": food, "part": "1", **box}
        record_event(bench=bench, by=by, kind="part_boxed", data=data, event_id=uuid.uuid4(), at=now)


@transaction.atomic
def print_on(*, printer: Instrument, item: Item, by: Actor, copies: int, pdf: bytes) -> PrintedLabel:
    """A part's labels on the simulated printer: into its tray, and into the log. Raises CoreError where the roll has
    not so many left; then nothing is printed."""
    use_paper(printer=printer, count=copies)
    row = PrintedLabel.objects.create(
        organisation_id=printer.organisation_id,
        printer=printer,
        key=item.key,
        name=item.food[:80],
        copies=copies,
        again=bool(item.row.prints),
        at=timezone.now(),
        pdf=pdf,
        printed_at=timezone.now() if printer.simulated else None,
    )
    enter(item=item, by=by, kind="part_labelled", data={"food": item.food, "part": item.part, "count": copies})
    # A tray is no archive; what waits for a printer waits.
    done = PrintedLabel.objects.filter(printer=printer, printed_at__isnull=False)
    kept = list(done.values_list("pk", flat=True)[:MOST_IN_TRAY])
    done.exclude(pk__in=kept).delete()
    return row


@transaction.atomic
def printer_called(*, serial: str, key: str, paper: object, printed: Iterable[object]) -> list[PrintedLabel]:
    """A real printer says how many labels are left on its roll and what it has printed, and is given what waits. Raises
    PermissionError for a serial and key that do not belong together, CoreError for a field that is wrong."""
    printer = with_key(serial, key, kind="printer")
    if paper is not None:
        set_paper(printer=printer, left=int(finite(paper, "paper", low=0, high=100_000)))
    done = [int(finite(one, "printed", low=1, high=1e12)) for one in printed]
    waiting = PrintedLabel.objects.filter(printer=printer, printed_at=None)
    waiting.filter(pk__in=done).update(printed_at=timezone.now())
    return list(waiting.order_by("at", "pk")[:MOST_AT_ONCE])


def say_words(*, organisation_id: int, language: str, words: Mapping[str, str]) -> NoteWords:
    """The sentences of a note for home in a language, in place of those before. Raises CoreError for too long a
    sentence or name."""
    for name, text in (("language", language), *words.items()):
        most = MOST_LANGUAGE if name == "language" else MOST_SENTENCE
        if len(text) > most:
            raise CoreError(name, "too_long", count=len(text), most=most)
    kept = {name: text for name, text in words.items() if text}
    row, _made = NoteWords.objects.update_or_create(
        organisation_id=organisation_id, language=language, defaults={"words": kept}
    )
    return row


@transaction.atomic
def bring_in(*, rows: Sequence[BroughtIn], by: Actor, profile_id: str, organisation: Any) -> int:
    """Puts food onto the shelf that comes from no lesson, each with what is known of it; for how many. A hole in what
    is known stays one: nobody eats it before somebody signs for it."""
    foods, named = dict[str, dict[str, Any]](), list[tuple[str, BroughtIn]]()
    for row in rows:
        same = sum(1 for one, _row in named if one == row.food or one.startswith(f"{row.food} "))
        name = row.food if row.food not in foods else f"{row.food} {same + 1}"
        soil = storage_category(row.category).raw_soil
        foods[name] = {"soils": [soil] if soil else [], "allergens": list(row.allergens)}
        named.append((name, row))
    served = {"id": "serve", "do": "serve", "foods": list(foods)}
    process = {"foods": foods, "steps": [served], "serve": list(foods)}
    bench = stock_log(
        organisation=organisation,
        title=wording.brought_in(),
        process=process,
        profile_id=profile_id,
        began_at=min(row.made_at for row in rows),
        bench=wording.brought_in_bench(),
    )
    for name, row in named:
        for kind, data in _known_of(name, row):
            record_event(bench=bench, by=by, kind=kind, data=data, event_id=uuid.uuid4(), at=row.made_at)
    return len(named)


def _known_of(name: str, row: BroughtIn) -> Iterator[tuple[str, dict[str, Any]]]:
    part = {"food": name, "part": "1"}
    yield "stored", {"food": name, "place": row.place}
    yield "categorised", {"food": name, "category": row.category}
    if row.portions is not None or row.store:
        yield "part_counted", {**part, "portions": row.portions, "store": row.store}
    if row.out_min is None:
        yield "part_warm", {**part, "unknown": True}
    elif row.out_min:
        yield "part_warm", {**part, "warm_s": 60 * row.out_min, "known": True}


def begin_drill(*, organisation_id: int, word: str) -> RecallDrill:
    """A recall that is practised, from now on."""
    return RecallDrill.objects.create(organisation_id=organisation_id, word=word.strip()[:60], began_at=timezone.now())


def end_drill(*, drill: RecallDrill, benches: int, parts: int) -> None:
    """Everything was found: how long it took stands from here on."""
    drill.ended_at, drill.benches, drill.parts = timezone.now(), benches, parts
    drill.save(update_fields=["ended_at", "benches", "parts"])


def counted(item: Item, kind: str, portions: Any) -> tuple[str, dict[str, Any]]:
    """What somebody who goes through a shelf enters: it is there, or it is not. Raises CoreError for anything else."""
    base = {"food": item.food, "part": item.part}
    if kind == "seen":
        return "part_seen", {**base, "portions": portions}
    if kind == "missing":
        return "part_gone", {**base, "how": "missing", "portions": None}
    raise CoreError("kind", "unknown_entry_here", kind=kind[:60])


def enter(
    *,
    item: Item,
    by: Actor,
    kind: str,
    data: Mapping[str, Any],
    event_id: uuid.UUID | None = None,
    at: dt.datetime | None = None,
) -> None:
    """One entry about a part of a kept food, in the log of the bench that put it away: after its lesson by the clock on
    the wall. ``at``: when it happened, now unless said. Raises CoreError naming the field that is wrong."""
    lesson, really = item.bench.lesson, at or timezone.now()
    when = really if lesson.over or lesson.pace == 1 else lesson_now(lesson, really)
    event_id = event_id or uuid.uuid4()
    record_event(bench=item.bench, by=by, kind=kind, data=data, event_id=event_id, at=when, really=really)


@transaction.atomic
def store_failed(*, warm: Iterable[tuple[Item, float, bool]], by: Actor) -> int:
    """Enters for everything in a store for how long [s] it was too warm, and whether that was measured; for how many.
    What was not changes nothing."""
    count = 0
    for item, warm_s, known in warm:
        if warm_s > 0:
            data = {"food": item.food, "part": item.part, "warm_s": warm_s, "known": known}
            enter(item=item, by=by, kind="part_warm", data=data)
            count += 1
    return count

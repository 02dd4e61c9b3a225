"""What stands on the shelves of an organisation: every part of every food that a bench has put away, by its log."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal, cast

from django.utils import timezone

from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench
from bulwark.people.actors import Actor
from bulwark.presentation import care
from bulwark.presentation.phrases import cook_text
from bulwark.shelf.models import FIRST
from bulwark.shelf.selectors import label_words
from foodsafety.cooling import depth_in
from foodsafety.foods import is_raw
from foodsafety.lesson import Chilling, Event, KeptFood, Part, State, advance, kept_food

Standing = Literal["over", "heat", "eat", "cooling", "today", "hole", "first", "good"]
# Recalls look back so far.
LOOK_BACK = dt.timedelta(days=400)


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """A part of a kept food on a shelf. ``standing``: over (thrown away, whatever it looks like), heat (heated again
    and not yet shown to be hot enough), eat (hot enough: eaten now, never kept), cooling (not yet shown to be cold),
    today (its time ends today), hole (for some time nobody knows how warm it was), first (used before the others),
    good. ``state``: what of this is so whatever the clock says."""

    bench: Bench
    food: str
    part: str
    row: Part
    raw: bool
    raw_egg: bool
    state: str
    standing: Standing
    chilling: Chilling | None
    until: dt.datetime | None
    by_the_hour: bool
    made_at: dt.datetime
    kept_as: tuple[str, ...]
    why: tuple[str, ...]
    contains: tuple[str, ...]
    not_for: tuple[care.NotForLine, ...]
    breach: str

    @property
    def key(self) -> str:
        """What it is called in an address."""
        return f"{self.bench.pk}-{self.part}-{self.food}"

    @property
    def place(self) -> str:
        """Fridge, freezer or out."""
        return self.row.place

    @property
    def store(self) -> str:
        """The store that somebody has named, or nothing."""
        return self.row.store

    @property
    def portions(self) -> int | None:
        """How many there are; None where nobody has counted."""
        return self.row.portions


def items_at(benches: Iterable[Bench], now: dt.datetime) -> list[Item]:
    """What these benches have put away and is not gone, the first to use first."""
    return sorted(_items(benches, now), key=_order)


def _order(item: Item) -> tuple[bool, float, str]:
    """What is over, or has no date, first."""
    return item.until is not None, item.until.timestamp() if item.until else 0.0, item.food


def _items(benches: Iterable[Bench], now: dt.datetime) -> Iterator[Item]:
    for bench in benches:
        state, _ = lessons.bench_state(bench)
        for food in state.kept:
            for name, row in state.food(food).parts.items():
                if row.ended is None and (item := item_of(bench, state, food, name, now)):
                    yield item


def item_of(bench: Bench, state: State, food: str, part: str, now: dt.datetime) -> Item | None:
    """One part as it stands; None where there is none."""
    row, zone = state.food(food).parts.get(part), timezone.get_current_timezone()
    found = kept_food(state, food, zone, part=row, now_s=now.timestamp()) if row and row.ended is None else None
    if row is None or found is None:
        return None
    soils, is_now = _raw_soils(state, food), state_of(row, found)
    return Item(
        bench=bench,
        food=food,
        part=part,
        row=row,
        raw=bool(soils),
        raw_egg="raw_egg" in soils,
        state=is_now,
        standing=standing_at(is_now, found.until, now),
        chilling=found.chilling,
        until=found.until,
        by_the_hour=found.use_by.by_the_hour,
        made_at=found.made_at,
        **label_words(bench.lesson, state, found),
    )


def _raw_soils(state: State, food: str) -> frozenset[str]:
    """What is raw in a food and has not been shown to be cooked, as its log carried it along: such food stands below
    everything else."""
    return frozenset(soil for soil in state.inside.get(food, ()) if is_raw(soil))


def state_of(row: Part, found: KeptFood) -> str:
    """What a part is whatever the clock says; nothing where its date alone decides."""
    if row.reheated_s is not None and row.place == "out" and not found.throw_away and found.until is None:
        return "eat" if row.hot else "heat"
    cools = found.chilling.standing if found.chilling else "not-asked"
    if found.until is None:
        unseen = (cools == "not-seen" or row.unknown) and not found.throw_away and row.signed is None
        return "hole" if unseen else ""
    signed_for = row.signed is not None and (row.unknown or cools == "not-seen")
    return "cooling" if cools == "cooling" else "hole" if row.hole_s or signed_for else ""


def standing_at(state: str, until: dt.datetime | None, now: dt.datetime) -> Standing:
    """How a part stands at a moment."""
    if state in ("eat", "heat") or (state == "hole" and until is None):
        return cast(Standing, state)
    if until is None or until <= now:
        return "over"
    if state:
        return cast(Standing, state)
    if timezone.localtime(until).date() <= timezone.localtime(now).date():
        return "today"
    return "first" if until <= now + FIRST else "good"


def found_item(actor: Actor, key: str, now: dt.datetime) -> Item | None:
    """An item by its key; None for what is gone, and for what is none of theirs."""
    found = _by_key(actor, key)
    return item_of(*found, now) if found else None


def gone_part(actor: Actor, key: str) -> tuple[str, Part] | None:
    """A food, and the part of it that a label speaks of and that is gone; None for what is none of theirs."""
    found = _by_key(actor, key)
    row = found[1].food(found[2]).parts.get(found[3]) if found else None
    return (found[2], row) if found and row is not None and row.ended else None


def _by_key(actor: Actor, key: str) -> tuple[Bench, State, str, str] | None:
    """The bench, its state, the food and the part of a key, where they are theirs."""
    pk, _, rest = key.partition("-")
    part, _, food = rest.partition("-")
    if not pk.isdecimal() or len(pk) > 9:
        return None
    bench = lessons.benches_for(actor).filter(pk=int(pk)).first()
    if bench is None:
        return None
    state, _seq = lessons.bench_state(bench)
    return bench, state, state.plan.known.get(food, food), part


@dataclass(frozen=True, slots=True, kw_only=True)
class Trace:
    """Where a food went: a bench that used it, who was at it, and what it made of it and keeps, or what became of
    it."""

    bench: Bench
    used: tuple[str, ...]
    learners: tuple[str, ...]
    parts: tuple[tuple[str, str, Part], ...]


def traced(actor: Actor, word: str) -> list[Trace]:
    """Every bench that used a food or made one of that name, the latest first; for a recall. Nothing is left out that
    was eaten or thrown away."""
    word, found = word.strip().casefold(), list[Trace]()
    rows = list(lessons.benches_that_cooked(actor, since=timezone.now() - LOOK_BACK)) if word else []
    lessons.read_logs(rows)
    for bench in rows:
        state, _ = lessons.bench_state(bench)
        process = state.plan.process
        used = tuple(name for name in (*process.foods, *process.made) if _is_of(state, name, word))
        if not used:
            continue
        inside = {n for n in (*process.foods, *process.made) if set(used) & {n, *state.plan.behind(n)}}
        names = sorted((food, name) for food in inside for name in state.food(food).parts)
        parts = tuple((food, name, state.food(food).parts[name]) for food, name in names)
        found.append(Trace(bench=bench, used=used, learners=state.learners, parts=parts))
    return found


def _is_of(state: State, name: str, word: str) -> bool:
    """True for a food of that name, or of a batch that somebody has said."""
    return word in name.casefold() or any(word in batch.casefold() for batch in state.food(name).batches)


def if_warm(item: Item, warm_s: float, *, known: bool, now: dt.datetime) -> Item | None:
    """How a part would stand had it been too warm for so long [s]."""
    return _after(item, now, "part_warm", warm_s=warm_s, known=known)


def if_thawed(item: Item, now: dt.datetime) -> Item | None:
    """How a frozen part would stand were it put into the fridge now."""
    return _after(item, now, "part_moved", place="fridge", store="")


def _after(item: Item, now: dt.datetime, kind: str, **data: object) -> Item | None:
    """How a part would stand after an entry that nobody has made."""
    state, _ = lessons.bench_state(item.bench)
    event = Event(id="if", kind=kind, at_s=now.timestamp(), data={"food": item.food, "part": item.part, **data})
    return item_of(item.bench, advance(state, event)[0], item.food, item.part, now)


def reheat_limit(item: Item) -> str:
    """To what a part is heated again, in the unit of its lesson's rules."""
    profile = lessons.profile_of(item.bench.lesson)
    return cook_text(profile.cook["reheat"], profile.unit)


def thickness_cm(item: Item) -> float | None:
    """How thick a part is [cm], rounded up; None where nobody has said what it stands in, or how much it is."""
    box = item.row.box
    if box is None or box.litres is None:
        return None
    return math.ceil(1000 * depth_in(box.container, box.litres, box.count)) / 10

"""Food that is kept: worked out from a bench's log."""

import datetime as dt
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Literal

from django.db.models import QuerySet
from django.utils import timezone

from bulwark.lessons import call_wording
from bulwark.lessons import selectors as lessons
from bulwark.lessons.adapters import to_care
from bulwark.people.actors import Actor
from bulwark.presentation import care
from bulwark.shelf import wording
from bulwark.shelf.models import BroughtDish, NoteWords, RecallDrill
from foodsafety.foods import allergen_sets, allergen_tag, soils
from foodsafety.lesson import KeptFood, Part, State, kept_food, storage_categories
from foodsafety.recipes import process_from
from foodsafety.review import judge_eaters
from foodsafety.rules import ClockLimit, Profile, house_from
from foodsafety.shelf import StoredFood, UseBy, out_limit, storage_category_ids, use_by


@dataclass(frozen=True, slots=True, kw_only=True)
class ShelfItem:
    """One kept food with its date and what its label says. ``unseen``: nobody measured in time that it was cold, and
    nobody has signed for it."""

    bench: Any
    food: str
    place: str
    made_at: dt.datetime
    stored_at: dt.datetime
    out_s: float
    use_by: dt.datetime | None
    discard: bool
    kept_as: tuple[str, ...]
    why: tuple[str, ...]
    contains: tuple[str, ...]
    not_for: tuple[care.NotForLine, ...]
    breach: str
    unseen: bool = False


def _stands_against(state: State, kept: KeptFood) -> str:
    """Why a food may not be kept at all, or nothing."""
    if kept.finding is not None:
        return call_wording.finding_title(kept.finding, state)
    if kept.unproven:
        return call_wording.never_proven(kept.unproven[0])
    return wording.stored_too_late() if kept.against else ""


def _contains(state: State, food: str) -> tuple[str, ...]:
    """The allergens of everything a food was made of, as its label names them."""
    process = state.plan.process
    allergens = {a for n in process.ingredients_of(food) for a in process.foods[n].allergens}
    return tuple(sorted(a.replace("_", " ") for a in allergens - soils().keys()))


def _not_for(lesson: Any, state: State, food: str) -> tuple[care.NotForLine, ...]:
    """Who may not have it, of what went into it."""
    _, judged = to_care(lesson, state.plan.known)
    inside = state.plan.process.ingredients_of(food)
    return tuple(line for line in care.not_for_lines(judged.rows) if line.food in inside)


def shelf_item(bench: Any, food: str, part: str = "") -> ShelfItem | None:
    """What is kept of a food from a bench as a part of it stands now, or None. Where no part is said, the one that is
    over first: a label never says more than is true of all."""
    state, _ = lessons.bench_state(bench)
    # A label that was printed before the food had its name still leads here.
    food = state.plan.known.get(food, food)
    here = [row for name, row in state.food(food).parts.items() if row.ended is None and part in ("", name)]
    found = [item for row in here if (item := _as_it_stands(bench, state, food, row))]
    return min(found, key=lambda item: (item.use_by is not None, item.use_by or item.made_at), default=None)


def _as_it_stands(bench: Any, state: State, food: str, away: Part) -> ShelfItem | None:
    now_s = timezone.now().timestamp()
    kept = kept_food(state, food, timezone.get_current_timezone(), part=away, now_s=now_s)
    if kept is None:
        return None
    return ShelfItem(
        bench=bench,
        food=food,
        place=away.place,
        made_at=kept.made_at,
        stored_at=kept.stored_at,
        out_s=away.out_until(now_s),
        use_by=kept.until,
        discard=kept.throw_away,
        unseen=_unseen(kept, away),
        **label_words(bench.lesson, state, kept),
    )


def _unseen(kept: KeptFood, away: Part) -> bool:
    """True for what nobody measured, or knows of, and nobody has signed for."""
    unknown = away.unknown or (kept.chilling is not None and kept.chilling.standing == "not-seen")
    return unknown and kept.until is None and not kept.throw_away and away.signed is None


def label_words(lesson: Any, state: State, kept: KeptFood) -> dict[str, Any]:
    """What a label says of a food besides its dates."""
    return {
        "kept_as": tuple(wording.category(name) for name in storage_categories(state, kept.food)),
        "why": tuple(wording.storage_reason(r.rule, r.low, r.high, r.unit, r.section) for r in kept.use_by.why),
        "contains": _contains(state, kept.food),
        "not_for": _not_for(lesson, state, kept.food),
        "breach": _stands_against(state, kept),
    }


def category_choices() -> list[tuple[str, str]]:
    """What a food may be said to be kept as."""
    return [(name, wording.category(name)) for name in storage_category_ids()]


def shelf_items(bench: Any) -> list[ShelfItem]:
    """Everything kept from a bench."""
    state, _ = lessons.bench_state(bench)
    return [item for food in state.kept if (item := shelf_item(bench, food))]


# --- off the shelf, for another lesson ---


def lessons_to_use_in(actor: Actor, now: dt.datetime) -> list[Any]:
    """The lessons for which something may be kept: those that run, and those of the next days."""
    rows = lessons.lessons_for(actor).filter(closed_at=None, rehearsal=False, starts_at__gte=now - dt.timedelta(days=1))
    return list(rows.order_by("starts_at", "pk")[:12])


def kept_for(item: Any) -> list[BroughtDish]:
    """The lessons for which some of a part is kept, and that have not taken it yet."""
    rows = BroughtDish.objects.filter(bench=item.bench, food=item.food, part=item.part, taken_at=None)
    return list(rows.filter(lesson__closed_at=None).select_related("lesson"))


def used_in(bench: Any) -> list[BroughtDish]:
    """The lessons that used something of what a bench kept."""
    return list(BroughtDish.objects.filter(bench=bench).exclude(taken_at=None).select_related("lesson"))


def off_the_shelf(lesson: Any) -> QuerySet[BroughtDish]:
    """What is kept on the shelf for a lesson, or was taken from there."""
    return BroughtDish.objects.filter(lesson=lesson, bench__isnull=False)


def note_words(actor: Actor) -> list[NoteWords]:
    """The languages in which the organisation has words for a note for home."""
    return list(NoteWords.objects.filter(organisation_id=actor.organisation))


def allergen_names() -> list[str]:
    """Every allergen by the name that a label gives it."""
    return sorted({name.replace("_", " ") for row in allergen_sets().values() for name in row.members})


def drill_running(actor: Actor) -> RecallDrill | None:
    """The recall that is being practised."""
    return RecallDrill.objects.filter(organisation_id=actor.organisation, ended_at=None).first()


def drills(actor: Actor) -> list[RecallDrill]:
    """The last recalls that were practised."""
    return list(RecallDrill.objects.filter(organisation_id=actor.organisation).exclude(ended_at=None)[:8])


# --- brought ready made ---

OUT = "out"
# Somebody has looked, and there is no allergen in it.
NONE = "none"


@dataclass(frozen=True, slots=True, kw_only=True)
class Brought:
    """A dish that is brought ready made, judged for when it is eaten: until when it may be, why, and whether it may.
    ``asked``: what nobody has said of it and could end it sooner; ``not_for``: who may not have it."""

    dish: BroughtDish
    use_by: dt.datetime | None
    by_the_hour: bool
    why: tuple[str, ...]
    may: bool
    asked: tuple[str, ...]
    not_for: tuple[care.NotForLine, ...] = ()

    @property
    def ok(self) -> bool:
        """True where it may be eaten and nothing is left to ask."""
        return self.may and not self.asked

    @property
    def says(self) -> str:
        """In a sentence."""
        return wording.brought(self.dish.title, self.dish.made_at, self.use_by, may=self.may, sure=not self.asked)


def eaten_at(lesson: Any) -> dt.datetime:
    """When what is brought has been eaten at the latest: at the lesson's end."""
    end: dt.datetime = lesson.starts_at + dt.timedelta(minutes=lesson.length_min)
    return timezone.localtime(end)


def brought_to(lesson: Any) -> list[Brought]:
    """What is brought ready made to a lesson."""
    return brought_to_all([lesson]).get(lesson.pk, [])


def brought_to_all(rows: Iterable[Any]) -> dict[int, list[Brought]]:
    """The same of several lessons, asked for once; a lesson to which nothing is brought is not in it."""
    by_id, found = {row.pk: row for row in rows}, dict[int, list[Brought]]()
    for dish in BroughtDish.objects.filter(lesson__in=by_id).select_related("bench__lesson__organisation"):
        lesson = by_id[dish.lesson_id]
        found.setdefault(lesson.pk, []).append(_judged(dish, lesson))
    return found


def _judged(dish: BroughtDish, lesson: Any) -> Brought:
    """Never better than what was said: what nobody has said is asked. Of what comes off the shelf its log says it."""
    if dish.bench is not None:
        return _off_the_shelf(dish, lesson)
    profile, made_at = lessons.profile_of(lesson), timezone.localtime(dish.made_at)
    asked = [] if _words_in(dish) else [wording.contents_not_said()]
    asked += [wording.no_allergen(word) for word in _words_in(dish) if word != NONE and not _is_allergen(word)]
    if dish.place == OUT:
        limit = out_limit(dish.category, profile, None)
        at_most_s = limit.warn_s or limit.limit_s
        until = UseBy(use_by=made_at + dt.timedelta(seconds=at_most_s), why=(), by_the_hour=True)
        why = [wording.out_for(at_most_s, limit.section)]
        asked += [wording.heat_not_said(row.above, row.limit_s) for row in _shorter_in_heat(profile, at_most_s)]
    else:
        place: Literal["fridge", "freezer"] = "freezer" if dish.place == "freezer" else "fridge"
        food = StoredFood(made_at=made_at, place=place, out_s=(dish.out_min or 0) * 60.0)
        until = use_by(dish.category, profile, food)
        why = [wording.storage_reason(r.rule, r.low, r.high, r.unit, r.section) for r in until.why]
        asked += [wording.way_not_said()] if dish.out_min is None else []
    return Brought(
        dish=dish,
        use_by=until.use_by,
        by_the_hour=until.by_the_hour,
        why=tuple(why),
        may=until.use_by is not None and eaten_at(lesson) <= until.use_by,
        asked=tuple(asked),
        not_for=_brought_not_for(dish, lesson),
    )


def _off_the_shelf(dish: BroughtDish, lesson: Any) -> Brought:
    """By its own history: what is gone, over or still frozen is not to be eaten."""
    asked, why = list[str](), tuple[str, ...]()
    until = dish.until
    if dish.taken_at is None:
        item = shelf_item(dish.bench, dish.food, dish.part)
        if item is None:
            asked.append(wording.not_there())
        else:
            until, why = (None if item.discard else item.use_by), item.why
            asked += [wording.still_frozen()] if item.place == "freezer" else []
    return Brought(
        dish=dish,
        use_by=until,
        by_the_hour=True,
        why=why,
        may=until is not None and eaten_at(lesson) <= until,
        asked=tuple(asked),
        not_for=_brought_not_for(dish, lesson),
    )


def _words_in(dish: BroughtDish) -> list[str]:
    """What was said to be in it, word by word."""
    return [word.strip().lower() for word in dish.contains.replace(";", ",").split(",") if word.strip()]


def _is_allergen(word: str) -> bool:
    return any(allergen_tag(word) in row.members for row in allergen_sets().values())


def _shorter_in_heat(profile: Profile, at_most_s: float) -> list[ClockLimit]:
    """A profile's clock for great heat, where it is the shorter one: nobody has measured how warm it is."""
    row = profile.clocks.get("in_heat")
    return [row] if row and row.above and row.limit_s < at_most_s else []


def _brought_not_for(dish: BroughtDish, lesson: Any) -> tuple[care.NotForLine, ...]:
    """Who may not have it, by the allergens that were said to be in it; judged as every dish is."""
    tags = [allergen_tag(word) for word in _words_in(dish) if _is_allergen(word)]
    if not tags:
        return ()
    served = {"id": "serve", "do": "serve", "foods": [dish.title]}
    food = {"soils": [], "allergens": tags}
    process = process_from({"foods": {dish.title: food}, "steps": [served], "serve": [dish.title]})
    return tuple(care.not_for_lines(judge_eaters(process, lesson.eaters, house_from(lesson.house)).rows))

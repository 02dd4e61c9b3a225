"""Food that is kept: worked out from a bench's log."""

import datetime as dt
from dataclasses import dataclass
from typing import Any

from django.utils import timezone

from bulwark.lessons import call_wording
from bulwark.lessons import selectors as lessons
from bulwark.lessons.adapters import to_care
from bulwark.presentation import care
from bulwark.shelf import wording
from foodsafety.foods import soils
from foodsafety.lesson import KeptFood, State, kept_food, storage_categories
from foodsafety.shelf import storage_category_ids


@dataclass(frozen=True, slots=True, kw_only=True)
class ShelfItem:
    """One kept food with its date and what its label says."""

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


def shelf_item(bench: Any, food: str) -> ShelfItem | None:
    """What is kept of a food from a bench, or None."""
    state, _ = lessons.bench_state(bench)
    # A label that was printed before the food had its name still leads here.
    food = state.plan.known.get(food, food)
    kept = kept_food(state, food, timezone.get_current_timezone())
    away = state.food(food).kept
    if kept is None or away is None:
        return None
    return ShelfItem(
        bench=bench,
        food=food,
        place=away.place,
        made_at=kept.made_at,
        stored_at=kept.stored_at,
        out_s=away.out_s,
        use_by=kept.until,
        discard=kept.throw_away,
        **_words(bench.lesson, state, kept),
    )


def _words(lesson: Any, state: State, kept: KeptFood) -> dict[str, Any]:
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

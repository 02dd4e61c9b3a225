"""Food that is kept: worked out from a bench's log."""

import datetime as dt
from dataclasses import dataclass
from typing import Any

from django.utils import timezone

from bulwark.lessons import call_wording
from bulwark.lessons import selectors as lessons
from bulwark.shelf import wording
from foodsafety.foods import soils
from foodsafety.lesson import State
from foodsafety.shelf import StoredFood, UseBy, storage_category, use_by


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
    why: tuple[str, ...]
    contains: tuple[str, ...]
    breach: str


def _categories(state: State, food: str) -> set[str]:
    """Every storage category that bears on a food: cooked food is a leftover, and whatever in it
    keeps for a shorter time as a leftover; food eaten as it is keeps as long as its
    shortest-lived part."""
    kinds = [state.plan.process.foods[name].kind for name in state.plan.process.ingredients_of(food)]
    parts = {kind.storage for kind in kinds if kind and kind.storage}
    if state.plan.core_control(food):
        return {"cooked_dish", *(part for part in parts if storage_category(part).leftover)}
    return parts or {"cooked_dish"}


def _dated(state: State, food: str, made_at: dt.datetime) -> UseBy:
    """The strictest date of all the categories; one that may not be kept there decides."""
    kept = state.kept[food]
    dates = [
        use_by(
            name,
            state.plan.profile,
            StoredFood(made_at=made_at, place=kept.place, out_s=kept.out_s, ambient_c=state.ambient_c),
        )
        for name in sorted(_categories(state, food))
    ]
    return min(dates, key=lambda dated: (dated.use_by is not None, dated.use_by or made_at))


def _stands_against(state: State, food: str) -> str:
    """Why a food may not be kept at all, or nothing."""
    breach = next((i for i in state.open_incidents if i.finding.food == food), None)
    if breach:
        return call_wording.finding_title(breach.finding, state)
    if state.plan.core_control(food) and food not in state.proven:
        return call_wording.never_proven(food)
    unproven = state.plan.unproven_in(food, state.proven)
    return call_wording.never_proven(unproven[0]) if unproven else ""


def _made_s(state: State, food: str) -> float:
    """When the food was made: proven cooked, or its last step before serving."""
    if food in state.proven:
        return state.proven[food]
    steps = [s.id for s in state.plan.process.steps if s.makes == food and s.id in state.done]
    return max((state.done[name] for name in steps), default=state.kept[food].at_s)


def _contains(state: State, food: str) -> tuple[str, ...]:
    """The allergens of everything a food was made of, as its label names them."""
    process = state.plan.process
    allergens = {a for n in process.ingredients_of(food) for a in process.foods[n].allergens}
    return tuple(sorted(a.replace("_", " ") for a in allergens - soils().keys()))


def shelf_item(bench: Any, food: str) -> ShelfItem | None:
    """What is kept of a food from a bench, or None."""
    state, _ = lessons.bench_state(bench)
    kept = state.kept.get(food)
    if kept is None:
        return None
    zone = timezone.get_current_timezone()
    made_at = dt.datetime.fromtimestamp(_made_s(state, food), tz=zone)
    dated = _dated(state, food, made_at)
    against = _stands_against(state, food)
    return ShelfItem(
        bench=bench,
        food=food,
        place=kept.place,
        made_at=made_at,
        stored_at=dt.datetime.fromtimestamp(kept.at_s, tz=zone),
        out_s=kept.out_s,
        use_by=None if against else dated.use_by,
        discard=dated.discard or bool(against),
        why=tuple(wording.storage_reason(r.rule, r.low, r.high, r.unit, r.section) for r in dated.why),
        contains=_contains(state, food),
        breach=against,
    )


def shelf_items(bench: Any) -> list[ShelfItem]:
    """Everything kept from a bench."""
    state, _ = lessons.bench_state(bench)
    return [item for food in state.kept if (item := shelf_item(bench, food))]

"""Pieces cut smaller, pressed thinner or chilled shallower: how much sooner they are done, by the heat model."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from bulwark.board.wording import How
from bulwark.kitchens.selectors import known_foods
from bulwark.recipes.adapters import to_ingredients
from foodsafety.cooking import time_of_smaller, time_of_thinner
from foodsafety.foods import food_kind, is_raw
from foodsafety.lesson import Plan
from foodsafety.planning import planning_figures
from foodsafety.quantities import CoreError
from foodsafety.recipes import Ingredient, Step, weight_g


@dataclass(frozen=True, slots=True, kw_only=True)
class Smaller:
    """A step that is done sooner: in the oven with pieces of half their weight [g] (0 elsewhere), in a pan with pieces
    half as high, in the fridge or freezer with food half as deep. How long it takes as written, and then [s]."""

    step: str
    how: How
    grams: float = 0.0
    before_s: float
    after_s: float


def smaller_of(lesson: Any, plan: Plan) -> dict[str, Smaller]:
    """The steps of a lesson whose pieces could be half as heavy: in an oven of a known heat, for a known time, of a
    known number and weight, and proven by a probe; or half as high: in a pan, for a known time, and proven so; or
    half as deep: in the cold, for long."""
    heats = [step for step in plan.process.steps if step.do == "heat" and step.planned_s]
    deep = [row for step in plan.process.steps if (row := _shallow(step, lesson, plan))]
    if not heats or not lesson.pieces:
        return {row.step: row for row in deep}
    items = to_ingredients(lesson.recipe, known_foods(lesson.organisation_id))
    found = [_smaller(step, lesson, plan, items) for step in heats if step.oven_c and step.waiting_s]
    found += [*(_thinner(step, lesson, plan) for step in heats if _in_pan(step, plan)), *deep]
    return {row.step: row for row in found if row is not None}


def _shallow(step: Step, lesson: Any, plan: Plan) -> Smaller | None:
    """What is mixed, neither baked nor in pieces, and waits long in the cold, half as deep. In a tub no deeper than it
    is wide it then takes at most three quarters of the time: that of a cube which is cooled through all its faces and
    is as warm everywhere (of half of it, half as much to cool by two thirds of the faces); whatever is flatter, or
    warmer inside, wins more."""
    figures = planning_figures()["smaller"]
    mixed = bool(step.foods) and all(name in plan.process.made for name in step.foods) and not _pieces(step, lesson)
    baked = {name for row in plan.process.steps if row.oven_c for name in (*row.foods, row.makes) if name}
    mixed = mixed and not any(baked & {name, *plan.process.made[name]} for name in step.foods)
    if step.do not in figures["cold"] or step.waiting_s < figures["long_s"] or not mixed:
        return None
    return Smaller(
        step=step.id, how="shallow", before_s=step.waiting_s, after_s=step.waiting_s * figures["shallow_share"]
    )


def _in_pan(step: Step, plan: Plan) -> bool:
    """True where pieces lie in a hot pan, and somebody stands by all the while."""
    kinds = {plan.process.tools[name].kind for name in step.tools}
    return step.oven_c is None and not step.waiting_s and not kinds.isdisjoint(planning_figures()["smaller"]["pans"])


def _pieces(step: Step, lesson: Any) -> int:
    """How many pieces a step heats; 0 where nobody has said, or what is cut afterwards: it was heated whole, and
    smaller slices are done no sooner."""
    cut_after = set(planning_figures()["smaller"]["cut_after"])
    named = [lesson.pieces[food] for food in step.foods if food in lesson.pieces]
    whole = [row for row in named if row.get("one") and not set(row["one"].split()) & cut_after]
    return max((int(row.get("count") or 0) for row in whole), default=0)


def _target_c(step: Step, plan: Plan) -> float | None:
    """What the middle of its food must reach [C], where a probe proves it."""
    holds = [limit.main for food, limit in plan.provable.items() if food in (*step.foods, step.makes)]
    return max((hold.temperature.c for hold in holds if hold), default=None)


def _thinner(step: Step, lesson: Any, plan: Plan) -> Smaller | None:
    target_c = _target_c(step, plan)
    raw = [plan.process.foods[name] for food in step.foods for name in sorted(plan.process.ingredients_of(food))]
    kinds = [food.kind for food in raw if food.kind and any(map(is_raw, food.soils))]
    if not _pieces(step, lesson) or target_c is None or not kinds:
        return None
    start_c = planning_figures()["smaller"]["start_c"]
    try:
        share = max(
            time_of_thinner(step.planned_s, kind.composition, target_c=target_c, part=0.5, start_c=start_c)
            for kind in kinds
        )
    except CoreError:
        return None
    return Smaller(step=step.id, how="thinner", before_s=step.planned_s, after_s=step.planned_s * share)


def _smaller(step: Step, lesson: Any, plan: Plan, items: list[Ingredient]) -> Smaller | None:
    count, target_c = _pieces(step, lesson), _target_c(step, plan)
    weights = {
        item.kind: weight_g(item, lesson.recipe.measures) or 0.0
        for item in _lines(step, lesson, plan, items)
        if item.kind
    }
    heaviest = max(weights, key=lambda kind: weights[kind], default=None)
    if not count or heaviest is None or not weights[heaviest] or target_c is None or step.oven_c is None:
        return None
    grams = sum(weights.values()) / count
    try:
        share = time_of_smaller(
            grams,
            food_kind(heaviest).composition,
            oven_c=step.oven_c,
            target_c=target_c,
            part=0.5,
            start_c=planning_figures()["smaller"]["start_c"],
        )
    except CoreError:
        return None
    return Smaller(step=step.id, how="smaller", grams=grams, before_s=step.waiting_s, after_s=step.waiting_s * share)


def _lines(step: Step, lesson: Any, plan: Plan, items: list[Ingredient]) -> list[Ingredient]:
    """The recipe's lines of what is in the oven."""
    parts = {part for food in step.foods for part in plan.process.ingredients_of(food)}
    lines = (lesson.process["foods"][part].get("line") for part in parts if part in lesson.process["foods"])
    return [items[line] for line in lines if line is not None and line < len(items)]

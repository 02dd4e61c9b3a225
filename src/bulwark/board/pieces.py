"""Pieces cut smaller: how much sooner an oven is done with them, by the heat model."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from bulwark.kitchens.selectors import known_foods
from bulwark.recipes.adapters import to_ingredients
from foodsafety.cooking import time_of_smaller
from foodsafety.foods import food_kind
from foodsafety.lesson import Plan
from foodsafety.planning import planning_figures
from foodsafety.quantities import CoreError
from foodsafety.recipes import Ingredient, Step, weight_g


@dataclass(frozen=True, slots=True, kw_only=True)
class Smaller:
    """A step in the oven whose pieces could weigh half [g]: how long it takes as written, and then [s]."""

    step: str
    grams: float
    before_s: float
    wait_s: float


def smaller_of(lesson: Any, plan: Plan) -> dict[str, Smaller]:
    """The steps of a lesson whose pieces could be half as heavy: in an oven of a known heat, for a known time, of a
    known number and weight, and proven by a probe."""
    steps = [step for step in plan.process.steps if step.do == "heat" and step.oven_c and step.waiting_s]
    if not steps or not lesson.pieces:
        return {}
    items = to_ingredients(lesson.recipe, known_foods(lesson.organisation_id))
    found = (_smaller(step, lesson, plan, items) for step in steps)
    return {row.step: row for row in found if row is not None}


def _smaller(step: Step, lesson: Any, plan: Plan, items: list[Ingredient]) -> Smaller | None:
    figures = planning_figures()["smaller"]
    # What is cut after the oven went into it whole: smaller slices bake no sooner.
    named = [lesson.pieces[food] for food in step.foods if food in lesson.pieces]
    whole = [row for row in named if row.get("one") and not set(row["one"].split()) & set(figures["cut_after"])]
    counts = [int(row.get("count") or 0) for row in whole]
    count = max(counts, default=0)
    weights = {
        item.kind: weight_g(item, lesson.recipe.measures) or 0.0
        for item in _lines(step, lesson, plan, items)
        if item.kind
    }
    heaviest = max(weights, key=lambda kind: weights[kind], default=None)
    holds = [limit.main for food, limit in plan.provable.items() if food in (*step.foods, step.makes)]
    limits = [hold.temperature.c for hold in holds if hold]
    if not count or heaviest is None or not weights[heaviest] or not limits or step.oven_c is None:
        return None
    grams = sum(weights.values()) / count
    try:
        share = time_of_smaller(
            grams,
            food_kind(heaviest).composition,
            oven_c=step.oven_c,
            target_c=max(limits),
            part=0.5,
            start_c=figures["start_c"],
        )
    except CoreError:
        return None
    return Smaller(step=step.id, grams=grams, before_s=step.waiting_s, wait_s=step.waiting_s * share)


def _lines(step: Step, lesson: Any, plan: Plan, items: list[Ingredient]) -> list[Ingredient]:
    """The recipe's lines of what is in the oven."""
    parts = {part for food in step.foods for part in plan.process.ingredients_of(food)}
    lines = (lesson.process["foods"][part].get("line") for part in parts if part in lesson.process["foods"])
    return [items[line] for line in lines if line is not None and line < len(items)]

"""What raw food lay in and that comes up again: "marinate in the yoghurt, grill, serve with the yoghurt"."""

from __future__ import annotations

import re
from collections.abc import Iterable

from foodsafety.foods import stem_words
from foodsafety.recipes.mentions import THE_REST, FoodsInHand
from foodsafety.recipes.proposed_steps import ReadStep, all_in

# What food lies in, and that is poured or dipped into.
WET = frozenset(
    {"yoghurt", "sauce", "chilled sauce", "cream", "milk", "mayonnaise", "drink", "vinegar", "syrup", "relish"}
)
# What is cooked in these is cooked with all that it lies in.
_COOKS_IT_ALL = frozenset({"saucepan", "pot", "slow_cooker", "oven_dish", "pressure_cooker", "microwave"})
_WET_HEAT = re.compile(r"\b(?:simmer|boil|stew|brais|poach|slow[- ]cook|bubbl|reduc)\w*", re.IGNORECASE)

_TOSSED = re.compile(r"\b(?:toss|turn|roll|dip|soak|steep)\b", re.IGNORECASE)


def _before_the_meat(kitchen: FoodsInHand, name: str) -> tuple[str, int] | None:
    """What a food was when it went to raw food of an animal, and the step in which it did."""
    for _ in kitchen.foods:
        into = kitchen.foods[name].into
        k = next(
            (k for k, step in enumerate(kitchen.steps) if into and step.makes == into and name in step.foods), None
        )
        if k is None or into is None:
            return None
        if all_in(kitchen.steps[: k + 1], [into]) & kitchen.came_raw:
            return (name, k) if name not in kitchen.came_raw else None
        name = into
    return None


def _cooked_with_it(kitchen: FoodsInHand, k: int) -> ReadStep | None:
    """The heat after a step that cooks its food without all that it lay in; None where all of it is cooked."""
    held = {kitchen.steps[k].makes}
    for step in kitchen.steps[k + 1 :]:
        if not held & {*step.foods}:
            continue
        held.add(step.makes)
        if step.do in ("heat", "part_cook"):
            kinds = {kitchen.tools.get(tool, "") for tool in step.tools}
            return None if kinds & _COOKS_IT_ALL or _WET_HEAT.search(step.text) else step
    return None


def _begun(kitchen: FoodsInHand, name: str) -> str | None:
    """The ingredient in something made of which only a part was used: "half the yoghurt", and then the rest of it."""
    parts = (kitchen.foods[part] for part in all_in(kitchen.steps, [name]) if part in kitchen.foods)
    last = stem_words(name)[-1:]
    return next((food.id for food in parts if food.split and not food.made and stem_words(food.id)[-1:] == last), None)


def left_of_the_soak(kitchen: FoodsInHand, text: str, names: Iterable[str], *, served: bool) -> dict[str, str]:
    """For each food of an order that means what raw food lay in and nobody cooked, what it was then: the rest of it, or
    what is served "with" it. Of what only a part was used, the rest is what it was bought as."""
    found: dict[str, str] = {}
    if not THE_REST.search(text) and not (served and "with " in text.lower()):
        return found
    for name in names:
        word = f"(?:{'|'.join(re.escape(part[:4]) for part in stem_words(name) or (name,))})"
        rest = re.search(
            rf"{THE_REST.pattern}(?: of)?(?: the| that| your)? (?:[a-z-]+ ){{0,2}}{word}", text, re.IGNORECASE
        )
        if rest and kitchen.foods[name].made and (begun := _begun(kitchen, name)):
            found[name] = begun
            continue
        beside = served and re.search(rf"\bwith (?:the|its|that|your) (?:[a-z-]+ ){{0,1}}{word}", text, re.IGNORECASE)
        soak = _before_the_meat(kitchen, name) if rest or beside else None
        if soak is None or kitchen.foods[kitchen.current(name)].raw:
            continue
        was, k = soak
        step = kitchen.steps[k]
        wet = any(kitchen.foods[part].group in WET for part in all_in(kitchen.steps, [was]) if part in kitchen.foods)
        soaked = step.do in ("marinate", "coat") or _TOSSED.search(step.text)
        if wet and soaked and _cooked_with_it(kitchen, k) is not None:
            found[name] = was
            kitchen.left_over.add(was)
    return found

"""What to offer a person where a text says too little: which lines are the method, what is eaten. An offer is
never taken by itself: somebody keeps it or changes it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from foodsafety.foods import Locale, is_raw, stem_words
from foodsafety.quantities import CoreError
from foodsafety.recipes.editing import add_step_after, change_step
from foodsafety.recipes.ingredients import read_ingredient
from foodsafety.recipes.instructions import orders, sentences
from foodsafety.recipes.named_foods import foods_named
from foodsafety.recipes.process import Process


def offered_words(
    ingredients: Sequence[str], instructions: Sequence[str], rows: Sequence[str], locale: Locale
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Ingredient lines and method lines to offer where one of them was not found: among the lines
    taken for the other, else in all of the text's ``rows``."""
    if not instructions:
        acting = tuple(row for row in ingredients if _acts(row, locale))
        instructions = acting or tuple(rows)
        ingredients = tuple(row for row in ingredients if row not in acting)
    if not ingredients:
        ingredients = foods_named("\n".join(rows), locale)
    return tuple(ingredients), tuple(instructions)


def _acts(row: str, locale: Locale) -> bool:
    """True if a line orders something and is no measured food."""
    item = read_ingredient(row, locale)
    if item.measured and item.kind and len(row) < 60:
        return False
    return any(order.do != "none" or len(row) > 30 for sentence in sentences(row) for order in orders(sentence))


def eaten_offers(process: Process) -> tuple[str, ...]:
    """Foods that go into nothing else and that no step serves, what is made first. An ingredient that
    no step touches is more likely forgotten than eaten as it is: it is offered only where there is
    nothing else. Where something is served, only what was made or came raw is asked about."""
    used = {name for step in process.steps if step.makes for name in step.foods if name != step.makes}
    handled = {name for step in process.steps for name in step.foods}
    known = used | {*process.serve, *process.discarded}
    left = [name for name in (*process.made, *process.foods) if name not in known]
    worked = [name for name in left if name not in process.foods or name in handled]
    if process.serve:
        prepared = {name for step in process.steps if step.do in _PREPARES for name in step.foods}
        return tuple(
            name
            for name in worked
            if name not in process.foods
            or _came_raw(process, name)
            or (name in prepared and not _is_fat(process, name))
        )
    return tuple(worked or left)


# Work that nobody does to a food that is not eaten.
_PREPARES = frozenset({"heat", "part_cook", "cut", "peel", "grate", "rinse", "pour", "mix"})


def _is_fat(process: Process, food: str) -> bool:
    kind = process.foods[food].kind
    return kind is not None and kind.group in ("oil", "butter", "water", "salt")


def _came_raw(process: Process, food: str) -> bool:
    return any(is_raw(name) for name in process.foods[food].soils)


def say_eaten(process: Mapping[str, Any], foods: Sequence[str], title: str) -> dict[str, Any]:
    """The process with what is eaten said: by the last step, if it serves, else by a new one. Raises
    CoreError for no food, and for one that the process has not."""
    if not foods:
        raise CoreError("serve", "nothing_served")
    last = process["steps"][-1]
    if last["do"] == "serve":
        return change_step(process, str(last["id"]), {"foods": list(dict.fromkeys([*last.get("foods", []), *foods]))})
    step = {"do": "serve", "foods": list(foods), "tools": [], "hands": [], "title": title}
    return add_step_after(process, str(last["id"]), step)


@dataclass(frozen=True, slots=True, kw_only=True)
class Unplaced:
    """A food whose way is not known: whether it is or holds something raw, the steps it may go into,
    and the one it most likely does ("" where it is more likely eaten as it is)."""

    food: str
    raw: bool
    steps: tuple[str, ...]
    step: str


def unplaced(process: Mapping[str, Any], checked: Process) -> tuple[Unplaced, ...]:
    """Foods that no step uses and that are not eaten as they are, those that came raw first: nobody
    knows their way to the plate. The step offered is one whose words name the food, else the first
    one that heats or mixes."""
    left = _untouched(checked)
    ids = tuple(step.id for step in checked.steps)
    rows = [
        Unplaced(food=name, raw=_came_raw(checked, name), steps=ids, step=_likely_step(process, name)) for name in left
    ]
    return tuple(sorted(rows, key=lambda row: not row.raw))


def _untouched(checked: Process) -> list[str]:
    used = {name for step in checked.steps for name in step.foods} | {*checked.serve, *checked.discarded}
    return [name for name in checked.foods if name not in used]


def raw_astray(checked: Process) -> tuple[str, ...]:
    """What is or holds something raw, and whose way nobody knows: in no step, or made and then in
    nothing. While there is any, nothing is known to be safe."""
    lost = [name for name in _untouched(checked) if _came_raw(checked, name)]
    return (*lost, *(row.food for row in loose_ends(checked) if row.raw))


def discard(process: Mapping[str, Any], food: str) -> dict[str, Any]:
    """The process with a food said to be thrown away."""
    return {**process, "discarded": list(dict.fromkeys([*process.get("discarded", []), food]))}


def loose_ends(checked: Process) -> tuple[Unplaced, ...]:
    """What is made or came raw, goes into nothing and is not served, though something is: each with
    the steps after the last that worked on it. What holds something raw is likeliest heated next."""
    return tuple(_loose(checked, food) for food in eaten_offers(checked)) if checked.serve else ()


def _loose(checked: Process, food: str) -> Unplaced:
    last = max((i for i, step in enumerate(checked.steps) if food in (*step.foods, step.makes)), default=-1)
    later = [step for step in checked.steps[last + 1 :] if step.do not in ("serve", "wash_hands", "clean")]
    raw = any(_came_raw(checked, name) for name in checked.ingredients_of(food) if name in checked.foods)
    heated = any(step.do == "heat" and food in step.foods for step in checked.steps)
    raw = raw and not heated
    hot = next((step.id for step in later if raw and step.do == "heat"), "")
    return Unplaced(food=food, raw=raw, steps=tuple(step.id for step in later), step=hot)


def _likely_step(process: Mapping[str, Any], food: str) -> str:
    steps: Sequence[Mapping[str, Any]] = process["steps"]
    words = set(stem_words(food))
    named = (row for row in steps if words & set(stem_words(f"{row.get('title', '')} {row.get('detail', '')}")))
    worked = (row for row in steps if row["do"] in ("mix", "heat", "coat", "marinate") and row.get("foods"))
    found = next(named, None) or next(worked, None) or steps[0]
    return str(found["id"])


def place_food(process: Mapping[str, Any], food: str, step_id: str) -> dict[str, Any]:
    """The process with a food put into a step, or, without a step, left out of the recipe. Raises
    CoreError for a food or a step that is not there, and for a food that a step uses."""
    made = {step.get("makes") for step in process["steps"]}
    if food not in process["foods"] and not (step_id and food in made):
        raise CoreError("food", "no_such_food", food=food)
    if step_id:
        step = next((row for row in process["steps"] if str(row["id"]) == step_id), None)
        foods = [*(step.get("foods", []) if step else []), food]
        return change_step(process, step_id, {"foods": list(dict.fromkeys(foods))})
    if any(food in row.get("foods", []) for row in process["steps"]):
        raise CoreError("food", "still_needed", food=food)
    foods_left = {name: row for name, row in process["foods"].items() if name != food}
    return {**process, "foods": foods_left, "serve": [name for name in process["serve"] if name != food]}

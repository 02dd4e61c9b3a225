"""What is not known about a recipe and is asked of a person, worst first. One list, asked by the command line, by
every page and before confirming."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from foodsafety.recipes.ingredients import NOT_LISTED, Ingredient
from foodsafety.recipes.offers import loose_ends, raw_astray, unplaced
from foodsafety.recipes.presumptions import weak_heats
from foodsafety.recipes.process import Process
from foodsafety.recipes.told import unread_rows


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """What is not known: about a sentence (its ``text``), an ingredient (by place), ``foods`` or a step (by
    id). ``harm`` ranks it, 3 worst; ``holds`` says that nothing is clean and nothing can be confirmed until it
    is answered. ``says``: the danger that a sentence which was read speaks of all the same, or ""."""

    why: str
    harm: int
    holds: bool
    text: str = ""
    ingredient: int | None = None
    step: str | None = None
    foods: tuple[str, ...] = ()
    says: str = ""


def open_questions(
    items: Sequence[Ingredient], data: Mapping[str, Any], process: Process | None
) -> tuple[Question, ...]:
    """Every open question about a recipe, worst first. ``process`` is ``data`` checked, or None if no step
    was read."""
    found = [*_sentences(data), *_foods(items), *_ways(data, process)]
    lines = {row.ingredient for row in found if row.why == "which-food" and row.holds}
    found += _stored_foods(data, process, lines)
    return tuple(sorted(found, key=lambda row: (not row.holds, -row.harm)))


def _sentences(data: Mapping[str, Any]) -> Iterator[Question]:
    for row in unread_rows(data):
        harm = 2 if row["holds"] else 1
        yield Question(why="unread", harm=harm, holds=row["holds"], text=row["text"], says=row["says"])


def _foods(items: Sequence[Ingredient]) -> Iterator[Question]:
    for n, item in enumerate(items):
        hidden = not {"food-unknown", "raw-hidden"}.isdisjoint(item.doubts)
        if hidden or not {"food-unsure", NOT_LISTED}.isdisjoint(item.doubts):
            yield Question(why="which-food", harm=2, holds=hidden, ingredient=n, foods=(item.food or item.text,))


def _stored_foods(
    data: Mapping[str, Any], process: Process | None, asked: Collection[int | None]
) -> Iterator[Question]:
    """Foods of the steps that nobody knows, but for those of lines that are asked about already: steps from a
    file have foods that stand in no line."""
    for food in process.foods.values() if process else ():
        if "unknown" in food.soils and data["foods"][food.id].get("line", -1) not in asked:
            yield Question(why="which-food", harm=2, holds=True, foods=(food.id,))


def _ways(data: Mapping[str, Any], process: Process | None) -> Iterator[Question]:
    if process is None:
        yield Question(why="no-steps", harm=3, holds=True)
        return
    if not process.serve:
        yield Question(why="nothing-served", harm=3, holds=True)
    lines = {name: row.get("line") for name, row in data["foods"].items()}
    astray = set(raw_astray(process))
    for found in unplaced(data, process):
        yield Question(
            why="unplaced",
            harm=3 if found.raw else 0,
            holds=found.food in astray,
            ingredient=lines.get(found.food),
            foods=(found.food,),
        )
    for step, foods in weak_heats(data, process).items():
        yield Question(why="which-heat", harm=3, holds=True, step=step, foods=tuple(foods))
    yield from _guessed(data, process)
    for end in loose_ends(process):
        last = next((step.id for step in reversed(process.steps) if end.food in (*step.foods, step.makes)), None)
        strays = end.food in astray  # else nothing raw is lost with it, and it is asked what it was made for
        yield Question(why="goes-nowhere", harm=3 if strays else 1, holds=strays, step=last, foods=(end.food,))


def _guessed(data: Mapping[str, Any], process: Process) -> Iterator[Question]:
    """Steps guessed from a sentence that no rule reads, with raw food in them: somebody has to say that they are right.
    Of other food a guess is only shown."""
    guessed = {str(step["id"]): step for step in data["steps"] if "guess" in (step.get("guesses") or ())}
    told, cooked, asked = data.get("told") or (), set[str](), set[int]()
    for step in process.steps:
        parts = {part for name in step.foods for part in process.ingredients_of(name) if part in process.foods}
        raw = {part for part in parts - cooked if _may_be_raw(process.foods[part].soils)}
        if step.id in guessed and raw:
            row = guessed[step.id]
            n = row.get("sentence")
            if n in asked:
                continue  # one answer for all that was guessed from a sentence
            asked |= {n} if isinstance(n, int) else set()
            said = told[n]["text"] if isinstance(n, int) and n < len(told) else row.get("detail") or row.get("title")
            yield Question(
                why="guessed", harm=3, holds=True, step=step.id, text=str(said or ""), foods=tuple(step.foods)
            )
        if step.do == "heat":
            cooked |= parts


def _may_be_raw(soils: Collection[str]) -> bool:
    return any(soil.startswith("raw_") or soil == "unknown" for soil in soils)

"""What is left of an ingredient of which a part went to raw meat: "half the soy sauce into the mince", the rest
in a dip. The rest was never near the meat, so it is a food of its own."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping

from foodsafety.recipes.amounts import NUMBER
from foodsafety.recipes.ingredients import Ingredient, read_ingredient
from foodsafety.recipes.mentions import PART_OF, FoodInHand, FoodsInHand
from foodsafety.recipes.proposed_steps import ReadStep, all_in

# Work that takes an ingredient out of its packet. What is coated, brushed or soaked goes into what is left as well.
_TAKES_OUT = frozenset({"mix", "transfer", "pour", "garnish"})
_MORE = r"(?:some |a little |a bit )?(?:more|extra(?! virgin))|another [a-z]+(?: of)?"
# What raw fingers take a pinch of has been touched.
_PINCHED = frozenset({"salt", "spice", "water"})
_MEASURED = (
    rf"{NUMBER} ?(?:g|kg|ml|l|oz|lbs?|cups?|tbsps?|tsps?|tablespoons?|teaspoons?|cloves?|sprigs?)\b(?: of)?(?: the)?"
)


def _says_of(step: ReadStep, amount: str, food: FoodInHand) -> bool:
    """True if the words of a step have an amount right before a food."""
    last = food.id.split()[-1].rstrip("s")
    if last.lower() not in step.text.lower():
        return False
    return re.search(rf"\b(?:{amount})\s+(?:[a-z-]+ ){{0,2}}{re.escape(last)}", step.text, re.IGNORECASE) is not None


def _takes_part(step: ReadStep, food: FoodInHand, whole: Ingredient) -> bool:
    """True if the words of a step take a part of a food: half of it, or less than its line has. The whole amount, or
    one in a unit that cannot be compared, is no part: the rest of it is then what the meat lay in."""
    if _says_of(step, PART_OF.pattern, food):
        return True
    last = food.id.split()[-1].rstrip("s")
    if last.lower() not in step.text.lower():
        return False
    said = re.search(rf"\b{_MEASURED}\s+(?:[a-z-]+ ){{0,2}}{re.escape(last)}", step.text, re.IGNORECASE)
    taken = read_ingredient(said[0], "en-GB") if said else None
    if taken is None or taken.low is None or whole.low is None:
        return False
    return taken.unit == whole.unit and taken.low < whole.low


def _first_with_raw(kitchen: FoodsInHand, name: str, whole: Ingredient) -> int | None:
    """The step in which a part of a food first goes to raw food of an animal, where the rest is used after it."""
    steps = kitchen.steps
    for k, step in enumerate(steps):
        if name not in step.foods or not (step.makes and all_in(steps[: k + 1], [step.makes]) & kitchen.came_raw):
            continue
        later = [row for row in steps[k + 1 :] if name in row.foods]
        food = kitchen.foods[name]
        part = _takes_part(step, food, whole)  # "half the soy sauce", "2 tbsp soy sauce" of four
        apart = step.do in _TAKES_OUT and (part or all(_says_of(row, _MORE, food) for row in later))
        dips = any(row.do in ("coat", "brush", "marinate") for row in later)
        return k if later and apart and not dips else None
    return None


def rests_kept_apart(kitchen: FoodsInHand, lines: Mapping[str, Ingredient]) -> Iterator[tuple[str, str]]:
    """Gives the rest of each such food a name of its own in the steps; yields the food and the name of its rest.
    ``lines`` are the foods' ingredient lines."""
    for name, food in list(kitchen.foods.items()):
        if food.made or food.raw or food.group in _PINCHED:
            continue
        k = _first_with_raw(kitchen, name, lines[name]) if name in lines else None
        if k is None:
            continue
        rest = f"rest of the {name}"
        for step in kitchen.steps[:k]:
            # What was rinsed or cut was all of it.
            step.foods = [one for old in step.foods for one in ((old, rest) if old == name else (old,))]
        for step in kitchen.steps[k + 1 :]:
            step.foods = [rest if old == name else old for old in step.foods]
        kitchen.put(FoodInHand(id=rest, names=[], group=food.group, grown=food.grown, part=food.part, unit=food.unit))
        yield name, rest

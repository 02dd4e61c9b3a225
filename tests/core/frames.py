"""Frames: everyday dishes whose sentences are filled at random, and what must come of every filling.

``python -m tests.core.frames 100`` fills each dish a hundred times and prints which sentences go wrong most.
"""

from __future__ import annotations

import random
import sys
import tomllib
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from foodsafety.recipes import Reading, read_recipe


@dataclass(frozen=True, slots=True)
class Filling:
    """One method of a dish: its sentences, which of what must come of it does not, and how many questions ask."""

    dish: str
    said: tuple[str, ...]
    wrong: tuple[str, ...]
    questions: int


@cache
def dishes() -> list[dict]:
    path = Path(__file__).parents[1] / "data" / "frames.toml"
    return tomllib.loads(path.read_text(encoding="utf-8"))["dish"]


def _bases(found: Reading, *works: str) -> list[set[str]]:
    """What each step of these sorts works on, down to the ingredients."""
    made = {row["makes"]: row["foods"] for row in found.data["steps"] if row.get("makes")}

    def base(name: str, inside: tuple[str, ...] = ()) -> set[str]:
        if name in inside or name not in made:
            return {name}
        return set().union(*(base(part, (*inside, name)) for part in made[name]))

    if works == ("served",):
        return [set().union(*map(base, found.data.get("serve") or ()))]
    return [set().union(*map(base, row["foods"])) for row in found.data["steps"] if row["do"] in works]


def _named(foods: set[str], food: str) -> bool:
    return any(food in name or name in food for name in foods)


def holds(found: Reading, must: str) -> bool:
    """True if a reading has what must come of it: "heat: eggs, bacon", "raw: lettuce", "minutes: beef, 40"."""
    work, _, rest = must.partition(": ")
    foods = rest.split(", ")
    heated = ("heat", "part_cook")
    if work == "raw":
        return not any(_named(step, foods[0]) for step in _bases(found, *heated))
    if work == "apart":
        return not any(all(_named(step, food) for food in foods) for step in _bases(found, *heated))
    if work == "minutes":
        rows = [row for row in found.data["steps"] if row["do"] in heated]
        pairs = zip(rows, _bases(found, *heated), strict=True)
        times = (row.get("minutes") or 0 for row, on in pairs if _named(on, foods[0]))
        return max(times, default=0) >= int(foods[1])
    works = heated if work == "heat" else tuple(work.split("|"))
    return any(all(_named(step, food) for food in foods) for step in _bases(found, *works))


def fillings(each: int, seed: int = 7) -> Iterator[Filling]:
    """So many fillings of every dish, the same ones for a seed."""
    for dish in dishes():
        pick = random.Random(f"{seed} {dish['name']}")
        for _ in range(each):
            said = tuple(filter(None, (pick.choice(ways) for ways in dish["said"])))
            text = "\n".join(["Supper", "", *dish["list"], "", "Method", *said, ""])
            found = read_recipe(text, "en-GB")
            wrong = tuple(must for must in dish["must"] if not holds(found, must))
            yield Filling(dish["name"], said, wrong, len(found.questions))


def main(each: int) -> None:
    every = list(fillings(each))
    for dish in dishes():
        own = [one for one in every if one.dish == dish["name"]]
        bad = [one for one in own if one.wrong]
        silent = sum(not one.questions for one in bad)
        print(f"{dish['name']}: {len(bad)} of {len(own)} wrong, {silent} of them without a question")
        for must, times in Counter(must for one in bad for must in one.wrong).most_common():
            blamed = Counter(said for one in bad if must in one.wrong for said in one.said)
            share = {said: n / sum(said in one.said for one in own) for said, n in blamed.items() if n > 1}
            worst = sorted(share, key=share.__getitem__, reverse=True)[:3]
            print(f"    {must} ({times}): " + "; ".join(f"{share[said]:.0%} {said}" for said in worst))


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 20)

"""Processes of several dishes over one kit, made up from a seed: for searches to be tried on."""

import random
from typing import Any

from foodsafety.recipes import Process, process_from

SOILS = ("raw_poultry", "raw_meat", "raw_egg", "raw_fish", "unwashed_produce", "wheat", "milk", "waste")


def crossed(seed: int, steps: int, *, soils: int = 4, waits: int = 4, people: int = 2, tools: int = 7) -> Process:
    """Dishes of two to four steps, raw or not, woven into each other; ``waits`` steps wait for
    another dish's."""
    dice = random.Random(seed)
    kinds = ("board", "knife", "bowl", "spoon")
    kit = {f"t{i}": {"kind": dice.choice(kinds)} for i in range(tools)} | {"pan": {"kind": "pan"}}
    crew = [f"p{i}" for i in range(people)]
    foods: dict[str, Any] = {}
    dishes: list[list[dict[str, Any]]] = []
    total = 0
    while total < steps:
        food = f"f{len(dishes)}"
        raw = dice.random() < 0.6
        foods[food] = {"soils": [dice.choice(SOILS[:soils])] if raw else []}
        length = min(dice.choice([2, 3, 4]), steps - total)
        hot = dice.randrange(length) if raw else -1
        dishes.append(
            [
                {
                    "do": "heat" if k == hot else "cut",
                    "foods": [food],
                    "tools": dice.sample(list(kit), 2),
                    "hands": [dice.choice(crew)],
                    "minutes": 5,
                }
                for k in range(length)
            ]
        )
        total += length
    served = [f"f{n}" for n in range(len(dishes))]
    woven: list[dict[str, Any]] = []
    while any(dishes):
        woven.append(dice.choice([dish for dish in dishes if dish]).pop(0))
    for i, step in enumerate(woven):
        step["id"] = f"s{i}"
        if i > 3 and dice.random() < waits * 2 / steps:
            step["after"] = [f"s{dice.randrange(i)}"]
    free = {served[0]: ["wheat"], served[-1]: ["milk"]} if soils > 5 else {}
    data = {"foods": foods, "tools": kit, "people": crew, "steps": woven, "serve": served, "free_of": free}
    return process_from(data)


def crowded(seed: int, steps: int = 40, *, tools: int = 22, people: int = 3) -> Process:
    """Forty steps over 25 carriers with all eight soils, everything meeting everything: the most
    an analysis is asked for at once."""
    dice = random.Random(seed)
    foods = {f"f{i}": {"soils": [SOILS[i]] if i < len(SOILS) else []} for i in range(16)}
    names = list(foods)
    kit = {f"t{i}": {"kind": dice.choice(["board", "knife", "bowl", "tongs", "plate", "pan"])} for i in range(tools)}
    crew = [f"p{i}" for i in range(people)]
    verbs = ["cut", "mix", "transfer", "coat", "heat", "rinse", "chill", "brush", "wash_hands", "clean"]
    rows: list[dict[str, Any]] = []
    for i in range(steps - 1):
        do = dice.choice(verbs)
        row: dict[str, Any] = {"id": f"s{i}", "do": do}
        row["foods"] = [] if do in ("wash_hands", "clean") else dice.sample(names, 2)
        row["tools"] = [] if do == "wash_hands" else dice.sample(list(kit), 3)
        row["hands"] = [] if do == "clean" else [dice.choice(crew)]
        if do == "mix" and dice.random() < 0.5:
            row["makes"] = f"m{i}"
            names.append(f"m{i}")
        rows.append(row)
    rows.append({"id": "end", "do": "serve", "foods": names[-5:]})
    data = {"foods": foods, "tools": kit, "people": crew, "steps": rows, "serve": names[-5:]}
    return process_from({**data, "free_of": {names[-1]: ["wheat"]}})


def peculiar(seed: int) -> Process:
    """A short process with the things that behave in a way of their own: towels, shelves, mouths,
    gloves, a phone."""
    dice = random.Random(seed)
    kinds = ["board", "towel", "hand_towel", "sink", "top_shelf", "bottom_shelf", "pan", "mouth", "phone", "tongs"]
    verbs = ["cut", "mix", "transfer", "heat", "rinse", "chill", "touch", "wash_hands", "clean", "wipe", "gloves_on"]
    foods = {f"f{i}": {"soils": [dice.choice(SOILS[:6])] if dice.random() < 0.5 else []} for i in range(3)}
    kit = dice.sample(kinds, 4)
    rows = []
    for i in range(dice.randint(3, 6)):
        do = dice.choice(verbs)
        dry = do in ("wash_hands", "clean", "gloves_on")
        rows.append(
            {
                "id": f"s{i}",
                "do": do,
                "foods": [] if dry else dice.sample(list(foods), dice.randint(1, 2)),
                "tools": dice.sample(kit, dice.randint(0, 2)),
                "hands": [dice.choice("AB")] if do != "clean" and dice.random() < 0.7 else [],
            }
        )
    data = {"foods": foods, "tools": {kind: {"kind": kind} for kind in kit}, "people": ["A", "B"], "steps": rows}
    return process_from({**data, "serve": ["f0", "f1"]})

"""Board work: one board, one knife, one pair of hands. Which order needs the fewest washes, how few can it be, and
what makes a board clean again?"""

from __future__ import annotations

import random
from dataclasses import replace
from functools import lru_cache
from itertools import permutations
from typing import Any

from foodsafety.contamination import find_contamination, rule_source
from foodsafety.foods import is_raw, raw_of_animals
from foodsafety.ordering import best_order, washes_as_written
from foodsafety.practice.heat_checks import practice_table
from foodsafety.practice.puzzle import Material, Sketch, right_choice, wrong_choice
from foodsafety.recipes import Food, Process, Step, Tool

_BOARD = {"board": Tool(id="board", kind="board"), "knife": Tool(id="knife", kind="knife")}
_COOK = "cook"
# What has to come before what, where something has: meat that must rest, a salad that would wilt.
Must = tuple[str, str] | None
# So many foods come to the board, by level; four are 24 orders, and each is counted.
_FOODS = {1: 3, 2: 3, 3: 4}


@lru_cache(maxsize=64)
def _cut_foods(material: Material) -> tuple[tuple[Food, bool], ...]:
    """What of a recipe could come to a board, and whether it meets heat before it is eaten."""
    process = material.plan.process
    found = []
    for name, food in sorted(process.foods.items()):
        uses = [step for step in process.steps if name in step.foods]
        if not uses or food.kind is None or food.kind.group not in practice_table()["board_groups"]:
            continue
        fates = material.plan.fates[process.step_index[uses[0].id]]
        cooked = not fates.raw.get(name)
        if raw_of_animals(food.soils) and not cooked:
            continue  # eaten raw as it is: no order of work helps
        found.append((food, cooked))
    return tuple(found)


def _board_process(rows: list[tuple[Food, bool]], must: Must = None) -> Process:
    """Each food cut on the one board by the one cook, then what is cooked is cooked, and all is served. ``must``: one
    that has to come before another."""
    foods = {food.id: replace(food, soils=frozenset(n for n in food.soils if is_raw(n))) for food, _ in rows}
    cuts = [
        Step(
            id=f"cut {food.id}",
            do="cut",
            foods=(food.id,),
            tools=("board", "knife"),
            hands=(_COOK,),
            after=(f"cut {must[0]}",) if must is not None and food.id == must[1] else (),
        )
        for food, _ in rows
    ]
    heats = [
        Step(id=f"heat {food.id}", do="heat", foods=(food.id,), after=(f"cut {food.id}",)) for food, hot in rows if hot
    ]
    served = Step(id="serve", do="serve", foods=tuple(foods), after=tuple(step.id for step in (*cuts, *heats)))
    return Process(foods=foods, tools=_BOARD, people=(_COOK,), steps=(*cuts, *heats, served), serve=tuple(foods))


@lru_cache(maxsize=4096)
def _washes(material: Material, names: tuple[str, ...]) -> int | None:
    """How many washes board work needs in this order."""
    by_name = {food.id: (food, hot) for food, hot in _cut_foods(material)}
    process = _board_process([by_name[name] for name in names])
    return washes_as_written(process, material.plan.house).washes


def _some_foods(material: Material, draw: random.Random, count: int) -> list[tuple[Food, bool]] | None:
    """So many foods of a recipe, a raw one and one that is eaten as it is among them."""
    rows = list(_cut_foods(material))
    raw = [row for row in rows if raw_of_animals(row[0].soils)]
    ready = [row for row in rows if not row[1]]
    if not raw or not ready or len(rows) < 3:
        return None
    some = [draw.choice(raw), draw.choice(ready)]
    rest = [row for row in rows if row not in some]
    draw.shuffle(rest)
    some += rest[: count - 2]
    draw.shuffle(some)
    return some


def _first(some: list[tuple[Food, bool]], draw: random.Random) -> Must:
    """In every second puzzle the raw food has to come before one that is eaten as it is: then a wash is needed."""
    raw = [food.id for food, _ in some if raw_of_animals(food.soils)]
    ready = [food.id for food, hot in some if not hot]
    return (raw[0], ready[0]) if draw.random() < 0.5 else None


def _asked(rows: list[tuple[Food, bool]], must: Must) -> dict[str, Any]:
    return {
        "must": list(must) if must else [],
        "foods": [
            {"food": food.id, "cooked": hot, "raw": raw_of_animals(food.soils)}
            for food, hot in sorted(rows, key=lambda row: row[0].id)
        ],
    }


def _counted(material: Material, names: list[str], must: Must) -> dict[tuple[str, ...], int]:
    """The washes of every order that may be; nothing where one of them cannot be washed clean."""
    may = [o for o in permutations(names) if must is None or o.index(must[0]) < o.index(must[1])]
    counted = {order: _washes(material, order) for order in may}
    known = {order: count for order, count in counted.items() if count is not None}
    return known if len(known) == len(counted) else {}


def board_order(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """Orders of board work, one of which needs fewer washes than the others."""
    some = _some_foods(material, draw, _FOODS[level])
    if some is None:
        return None
    must, names = _first(some, draw), sorted(food.id for food, _ in some)
    counted = _counted(material, names, must)
    if len(set(counted.values())) == 1:
        must, counted = None, _counted(material, names, None)  # all orders that may be are as good
    if not counted:
        return None
    fewest = min(counted.values())
    right = draw.choice([order for order, count in counted.items() if count == fewest])
    worse = [order for order, count in counted.items() if count != fewest]
    draw.shuffle(worse)
    if level > 1:
        worse.sort(key=lambda order: counted[order])  # the nearest are the hardest to tell
    return Sketch(
        rule="ready-to-eat-meets-raw",
        asks=_asked(some, must),
        right=right_choice(" ".join(right), order=list(right), washes=fewest),
        others=[
            wrong_choice(" ".join(order), {"why": "more-washes"}, order=list(order), washes=counted[order])
            for order in worse
        ],
        why={"washes": fewest},
        section=rule_source("ready-to-eat-meets-raw", material.plan.profile.id),
    )


def fewest_washes(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """How few washes board work can do with, in whatever order."""
    some = _some_foods(material, draw, _FOODS[level])
    if some is None:
        return None
    must = _first(some, draw)
    if must is not None:
        some.sort(key=lambda row: row[0].id != must[0])  # as written it may be done
    found = best_order(_board_process(some, must), material.plan.house)
    if found.washes is None or not found.proven:
        return None
    order = [name.removeprefix("cut ") for name in found.order if name.startswith("cut ")]
    near = [found.washes + step for step in (1, -1, 2, 3, -2, 4) if found.washes + step >= 0]
    return Sketch(
        rule="ready-to-eat-meets-raw",
        asks=_asked(some, must),
        right=right_choice(str(found.washes), washes=found.washes),
        others=[wrong_choice(str(n), {"why": "too-few" if n < found.washes else "too-many"}, washes=n) for n in near],
        why={"order": order, "washes": found.washes},
        section=rule_source("ready-to-eat-meets-raw", material.plan.profile.id),
        ordered=lambda row: int(row.id),
    )


# --- what makes it clean again? ----------------------------------------------------------------------------

# What may be done between the raw food and the next, to the board and knife or to the hands.
_TO_KIT = ("wash", "wipe", "rinse", "turn", "other_board", "other_kit")
_TO_HANDS = ("wash", "towel", "gloves", "rinse")


def clean_again(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """Raw food was on it; what comes next is eaten as it is. What is done in between?"""
    some = _some_foods(material, draw, 2)
    if some is None:
        return None
    some.sort(key=lambda row: not raw_of_animals(row[0].soils))
    what = draw.choice(("hands", "kit"))
    judged = {way: _harm(material, some, what, way) for way in (_TO_KIT if what == "kit" else _TO_HANDS)}
    right = [way for way, rule in judged.items() if not rule]
    wrong = [way for way in judged if judged[way]]
    draw.shuffle(wrong)
    if not right or not wrong:
        return None
    wrong.sort(key=lambda way: judged[way] != "board-not-separate")  # what only this kitchen's own rule forbids
    # Where a wash does, and so does other kit, one of them is offered.
    best = draw.choice(right)
    return Sketch(
        rule=judged[wrong[0]],
        asks={"what": what, "raw": some[0][0].id, "next": some[1][0].id},
        right=right_choice(best, way=best, what=what),
        others=[wrong_choice(way, {"why": "still-there"}, way=way, what=what) for way in wrong],
        why={"what": what},
        section=rule_source(judged[wrong[0]], material.plan.profile.id),
    )


_WASH_HANDS = Step(id="hands", do="wash_hands", hands=(_COOK,))
_WASH_KIT = Step(id="kit", do="clean", tools=("board", "knife"))
# What is done between the two foods, by what is asked about and the answer. What is not asked about is washed.
_BETWEEN: dict[tuple[str, str], tuple[Step, ...]] = {
    ("hands", "wash"): (_WASH_KIT, _WASH_HANDS),
    ("hands", "towel"): (_WASH_KIT,),
    ("hands", "rinse"): (_WASH_KIT,),
    ("hands", "gloves"): (_WASH_KIT, Step(id="gloves", do="gloves_on", hands=(_COOK,))),
    ("kit", "wash"): (_WASH_HANDS, _WASH_KIT),
    ("kit", "wipe"): (_WASH_HANDS, Step(id="wiped", do="wipe", tools=("board", "knife"))),
    ("kit", "rinse"): (_WASH_HANDS,),
    ("kit", "turn"): (_WASH_HANDS,),
    ("kit", "other_board"): (_WASH_HANDS,),
    ("kit", "other_kit"): (_WASH_HANDS,),
}


def _harm(material: Material, some: list[tuple[Food, bool]], what: str, way: str) -> str:
    """The rule that is broken where this and no more is done between the two foods; nothing where none is."""
    process = _board_process(some)
    steps, tools = list(process.steps), dict(process.tools)
    if way in ("other_board", "other_kit"):
        tools |= {"board 2": Tool(id="board 2", kind="board"), "knife 2": Tool(id="knife 2", kind="knife")}
        steps[1] = replace(steps[1], tools=("board 2", "knife 2" if way == "other_kit" else "knife"))
    changed = replace(process, steps=(steps[0], *_BETWEEN[what, way], *steps[1:]), tools=tools)
    return next((row.rule for row in find_contamination(changed, material.plan.house)), "")

"""Every kind of puzzle, made from a seed."""

from __future__ import annotations

import random
from collections.abc import Collection, Iterable, Iterator

from foodsafety.practice.board_work import board_order, clean_again, fewest_washes
from foodsafety.practice.eaters_asked import who_may_not
from foodsafety.practice.heat_checks import is_it_done, read_the_display, where_the_tip_goes
from foodsafety.practice.kitchen_sense import hob_wrong, how_much_is_part, which_tool
from foodsafety.practice.limits_asked import by_when, the_limit
from foodsafety.practice.next_moves import what_next
from foodsafety.practice.planted import find_the_slip, unsafe_contact
from foodsafety.practice.puzzle import Generator, Material, Puzzle
from foodsafety.practice.time_checks import cold_in_time, how_long_to_stand, until_when, which_shelf

# Each kind by its name, in the order of a lesson.
KINDS: dict[str, Generator] = {
    "limit": the_limit,
    "by-when": by_when,
    "find-slip": find_the_slip,
    "contact": unsafe_contact,
    "order": board_order,
    "fewest-washes": fewest_washes,
    "clean-again": clean_again,
    "tip": where_the_tip_goes,
    "display": read_the_display,
    "done": is_it_done,
    "stand": how_long_to_stand,
    "cold-in-time": cold_in_time,
    "shelf": which_shelf,
    "until": until_when,
    "next": what_next,
    "not-for": who_may_not,
    "part-of": how_much_is_part,
    "tool": which_tool,
    "hob": hob_wrong,
}
# So many seeds are tried on from one that makes nothing, or nothing new.
_TRIES = 40


def make(kind: str, material: Material, *, seed: int, level: int = 2) -> Puzzle | None:
    """The puzzle of a kind that a seed makes; None where it makes none. Raises KeyError for an unknown kind."""
    draw = random.Random(f"{kind} {seed} {level}")
    sketch = KINDS[kind](material, draw, level)
    return None if sketch is None else sketch.puzzle(kind, draw, seed, level)


def make_new(
    kind: str, material: Material, *, seed: int, level: int = 2, known: Collection[str] = (), rule: str = ""
) -> Puzzle | None:
    """The first puzzle of a kind from a seed on that is like none of those ``known``, about one ``rule`` where that is
    wanted; None where a recipe has no place for one."""
    for n in range(_TRIES):
        found = make(kind, material, seed=seed + n, level=level)
        if found is not None and found.likeness not in known and rule in ("", found.rule):
            return found
    return None


def a_round(
    material: Material, *, seed: int, count: int, level: int = 2, known: Iterable[str] = (), rules: Iterable[str] = ()
) -> list[Puzzle]:
    """So many puzzles of different kinds: first those about the ``rules`` that were missed, in their order, then the
    others, in an order of their own. No two alike, none like those ``known``."""
    seen, found = set(known), list[Puzzle]()
    for puzzle in _wanted(material, seed, level, seen, rules):
        if puzzle is not None:
            found.append(puzzle)
            seen.add(puzzle.likeness)
        if len(found) == count:
            break
    return found


def _wanted(material: Material, seed: int, level: int, seen: set[str], rules: Iterable[str]) -> Iterator[Puzzle | None]:
    """Puzzles to choose from: ``seen`` grows while it goes."""
    kinds = sorted(KINDS)
    random.Random(f"kinds {seed}").shuffle(kinds)
    asked: set[str] = set()
    for rule in rules:
        for kind in kinds:
            if kind not in asked and (found := make_new(kind, material, seed=seed, level=level, known=seen, rule=rule)):
                asked.add(kind)
                yield found
                break
    for again in range(3):
        for kind in kinds:
            if again or kind not in asked:
                yield make_new(kind, material, seed=seed + 1000 * again, level=level, known=seen)

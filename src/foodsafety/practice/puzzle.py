"""A puzzle: what is asked, what may be answered, which answer is right, and why.

Its words and drawings are the web side's; here stand facts and numbers, and every key is what the core computes.
"""

from __future__ import annotations

import hashlib
import json
import random
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from foodsafety.contamination import find_contamination
from foodsafety.foods import Locale
from foodsafety.lesson import Plan
from foodsafety.ordering import reordered, washes_as_written
from foodsafety.recipes import Process

LEVELS = (1, 2, 3)
# So many answers are offered, by level.
_CHOICES = {1: 3, 2: 4, 3: 5}


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """One answer. ``says``: the facts it is worded or drawn from; ``why``: what it is right or wrong for."""

    id: str
    says: Mapping[str, Any]
    right: bool
    why: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Puzzle:
    """One question from a group's own recipe. ``rule``: what it practises, by the name that the wall or a finding has
    for it; ``section``: where that is written; ``asks``: the facts of the question; ``why``: those of its explanation.
    The same kind, recipe, rules, level and seed make the same puzzle."""

    kind: str
    rule: str
    seed: int
    level: int
    asks: Mapping[str, Any]
    choices: tuple[Choice, ...]
    why: Mapping[str, Any] = field(default_factory=dict)
    section: str = ""

    @property
    def right(self) -> Choice:
        """The one right answer."""
        return next(row for row in self.choices if row.right)

    @property
    def likeness(self) -> str:
        """Two puzzles of one likeness ask the same: whatever their seeds, and whatever wrong answers stand beside the
        right one."""
        said = [self.kind, self.asks, _as_said(self.right)]
        return hashlib.sha256(json.dumps(said, sort_keys=True).encode()).hexdigest()[:32]


@dataclass(frozen=True, slots=True, kw_only=True)
class Amount:
    """So much of a food, in a kitchen measure: as a recipe's list has it."""

    food: str
    value: float
    unit: str


@dataclass(frozen=True, eq=False, kw_only=True)
class Material:
    """What puzzles are made of: a recipe read for one set of rules and one kitchen, and the amounts of its list. Each
    is only equal to itself, so that what is worked out of it once can be kept."""

    plan: Plan
    amounts: tuple[Amount, ...] = ()
    locale: Locale = "en-GB"

    @cached_property
    def safe(self) -> Process | None:
        """The recipe in the order written, with every wash that it needs; None where no number of washes helps."""
        process, house = self.plan.process, self.plan.house
        if not find_contamination(process, house):
            return process
        written = washes_as_written(process, house, washing_up=True, food_stays=True)
        if written.washes is None:
            return None
        made = reordered(process, written, house, scrub_s=self.plan.scrub_s).process
        return None if find_contamination(made, house) else made


# A generator: a puzzle, or None where the recipe has no place for one.
Generator = Callable[[Material, random.Random, int], "Sketch | None"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Sketch:
    """What a generator makes: a puzzle without its name and seed. ``others`` are wrong answers, the nearest first;
    ``ordered``: they stand in an order of their own (steps, numbers) and are not shuffled."""

    rule: str
    asks: Mapping[str, Any]
    right: Choice
    others: Sequence[Choice]
    why: Mapping[str, Any] = field(default_factory=dict)
    section: str = ""
    ordered: Callable[[Choice], Any] | None = None

    def puzzle(self, kind: str, draw: random.Random, seed: int, level: int) -> Puzzle | None:
        """The puzzle with as many answers as its level has; None where nothing could be wrong."""
        rows = [self.right, *self._apart()[: _CHOICES[level] - 1]]
        if len(rows) < 2:
            return None
        if self.ordered is not None:
            rows.sort(key=self.ordered)
        else:
            draw.shuffle(rows)
        return Puzzle(
            kind=kind,
            rule=self.rule,
            seed=seed,
            level=level,
            asks=self.asks,
            choices=tuple(rows),
            why=self.why,
            section=self.section,
        )

    def _apart(self) -> list[Choice]:
        """The wrong answers, each said once, and none that says what the right one does."""
        apart: dict[str, Choice] = {}
        for row in self.others:
            apart.setdefault(_as_said(row), row)
        apart.pop(_as_said(self.right), None)
        return list(apart.values())


def _as_said(row: Choice) -> str:
    return json.dumps(row.says, sort_keys=True)


def right_choice(name: str, **says: Any) -> Choice:
    """The right answer, of these facts."""
    return Choice(id=name, says=says, right=True)


def wrong_choice(name: str, why: Mapping[str, Any] | None = None, **says: Any) -> Choice:
    """A wrong answer, of these facts, and what is wrong with it."""
    return Choice(id=name, says=says, right=False, why=why or {})

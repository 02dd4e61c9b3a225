"""A bench's log being told again as steps of a process."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Literal

from foodsafety.lesson.plan import Plan
from foodsafety.recipes import Step, Tool

EntryKind = Literal[
    "step", "wash", "short-wash", "touched", "clean", "wipe", "swapped", "probe", "proved", "heat-step", "rinsed"
]


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """One step of the retold process: what the entry was, when [s], and the recipe's step if any."""

    what: EntryKind
    at_s: float
    recipe_step: str = ""
    who: str = ""


class Telling:
    """The steps told so far, the kit they need, and what was thrown away."""

    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self.tools: dict[str, Tool] = dict(plan.process.tools)
        self.foods = dict(plan.process.foods)
        self.steps: list[Step] = []
        self.told: dict[str, Told] = {}
        self.discarded: set[str] = set()

    def add(self, step: Step, told: Told) -> None:
        """One more step, under an id of its own."""
        name = step.id
        n = 2
        while name in self.told:
            name, n = f"{step.id}-{n}", n + 1
        self.steps.append(replace(step, id=name, after=()))
        self.told[name] = told

    def thing(self, name: str, kind: str) -> None:
        """Something that the recipe does not know and the log does."""
        self.tools.setdefault(name, Tool(id=name, kind=kind))

    def throw_away(self, food: str, parts: Iterable[str]) -> None:
        """A food thrown away to be made again: what was done to it, and to what is in nothing else,
        is told under names of its own; what follows is the new one."""
        names_of = self.plan.process
        n = 1
        while any(f"{food} {n}" in (*step.foods, step.makes) for step in self.steps):
            n += 1
        names = {name: f"{name} {n}" for name in parts}
        self.steps = [
            replace(
                step,
                foods=tuple(names.get(name, name) for name in step.foods),
                makes=names.get(step.makes, step.makes) if step.makes else None,
            )
            for step in self.steps
        ]
        for name in names.keys() & names_of.foods.keys():
            self.foods[names[name]] = replace(names_of.foods[name], id=names[name])
        self.discarded.add(names[food])

"""The safety plan: control points worked out from a process and a rule profile.

A control point says what must be shown, when it falls due and when its time has passed. What
the evidence is worth is judged by ``evidence``.
"""

from __future__ import annotations

from collections.abc import Container
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from foodsafety.contamination import DRY_VERBS, Fate, Surfaces
from foodsafety.foods import soil
from foodsafety.quantities import Temperature
from foodsafety.recipes import Process
from foodsafety.rules import ClockLimit, CookLimit, House, Profile

Phase = Literal["arrive", "cold_first", "raw", "wash_back", "cook", "serve"]
PHASES: tuple[Phase, ...] = ("arrive", "cold_first", "raw", "wash_back", "cook", "serve")

Rule = Literal[
    "fridge-cold",
    "hands-on-arrival",
    "ready-to-eat-clean",
    "chilled-in-time",
    "raw-kept-apart",
    "raw-out-of-fridge",
    "hands-after-raw",
    "kit-after-raw",
    "clean-utensils",
    "part-cooked",
    "core-temperature",
    "time-out",
    "leftovers-labelled",
]

# Soils that come in on raw food of animal origin or flour: the ones "raw" stands for.
NOT_RAW = frozenset({"unwashed_produce", "person", "waste", "chemical", "toxin"})
NO_HANDLING = DRY_VERBS | {"serve", "chill", "freeze", "rest", "heat", "probe", "wipe"}


@dataclass(frozen=True, slots=True, kw_only=True)
class ControlPoint:
    """A brick before any evidence.

    ``steps`` are the steps it watches; it is due once every step in ``due_after`` is done, and
    missed when ``missed_after`` is done without evidence. ``limit`` and ``limit_s`` are its
    critical limits, ``section`` where the profile states them.
    """

    id: str
    rule: Rule
    phase: Phase
    steps: tuple[str, ...] = ()
    due_after: tuple[str, ...] = ()
    missed_after: str | None = None
    carriers: tuple[str, ...] = ()
    foods: tuple[str, ...] = ()
    limit: Temperature | None = None
    limit_s: float | None = None
    cook: CookLimit | None = None
    clock: ClockLimit | None = None
    section: str = ""


@dataclass(frozen=True, kw_only=True)
class Plan:
    """A process read for one profile and one kitchen: its control points and its fate table."""

    process: Process
    profile: Profile
    house: House
    controls: tuple[ControlPoint, ...]
    fates: tuple[Fate, ...]
    raw_steps: tuple[str, ...]
    heat_steps: tuple[str, ...]

    @cached_property
    def by_id(self) -> dict[str, ControlPoint]:
        """Control points by id."""
        return {control.id: control for control in self.controls}

    @property
    def scrub_s(self) -> float:
        """How long hands are washed [s]: the profile's time, or the kitchen's own if longer."""
        return max(self.profile.scrub_s, self.house.scrub_s)

    @cached_property
    def courses(self) -> tuple[tuple[Phase, tuple[ControlPoint, ...]], ...]:
        """Control points in courses, in lesson order."""
        rows = ((phase, tuple(c for c in self.controls if c.phase == phase)) for phase in PHASES)
        return tuple((phase, row) for phase, row in rows if row)

    def fate(self, step_id: str) -> Fate:
        """What becomes of foods at a step."""
        return self.fates[self.process.step_index[step_id]]

    def heat_for(self, food_id: str) -> str | None:
        """The heat step that cooks a food, if there is one."""
        for step_id in self.heat_steps:
            step = self.process.steps[self.process.step_index[step_id]]
            if food_id in step.foods or food_id == step.makes:
                return step_id
        return None

    def core_control(self, food_id: str) -> ControlPoint | None:
        """The core temperature control of a food, if the plan has one."""
        return next((c for c in self.controls if c.rule == "core-temperature" and food_id in c.foods), None)

    def unproven_in(self, food_id: str, proven: Container[str]) -> tuple[str, ...]:
        """What had to be shown cooked and is not ``proven``, of a food and of everything it was made
        from: chicken folded into a sauce is still the chicken that nobody measured."""
        behind = {food_id}
        for step in reversed(self.process.steps):
            if step.makes in behind:
                behind.update(step.foods)
        controls = [c.foods for c in self.controls if c.rule == "core-temperature" and c.foods[-1] in behind]
        return tuple(foods[-1] for foods in controls if not any(name in proven for name in foods if name in behind))

    @cached_property
    def planned_s(self) -> dict[str, float]:
        """Seconds from the start of the lesson at which the recipe would begin each step."""
        at, starts = 0.0, {}
        for step in self.process.steps:
            starts[step.id] = at
            at += step.planned_s
        return starts

    @cached_property
    def phase_starts_s(self) -> dict[Phase, float]:
        """Seconds from the start at which the plan reaches each course."""
        starts: dict[Phase, float] = {}
        floor = 0.0
        for phase, row in self.courses:
            own = [self.planned_s[name] for c in row for name in c.steps if name in self.planned_s]
            floor = max(floor, min(own)) if own else floor
            starts[phase] = floor
        return starts


def is_raw(surfaces: Surfaces, food: str) -> bool:
    return any(soil(name).heat_clears and name not in NOT_RAW for name in surfaces.get(food, ()))


_CUTS = frozenset({"cut", "grate", "peel"})
_COOKS = frozenset({"heat", "part_cook"})


def _changed(process: Process, food_id: str, verbs: frozenset[str]) -> bool:
    """True if a step of these verbs works on the food, or on anything made with it."""
    return any(
        step.do in verbs and any(food_id == name or food_id in process.ingredients_of(name) for name in step.foods)
        for step in process.steps
    )


def needs_temperature_control(process: Process, food_id: str) -> bool:
    """True if anything in the food needs hot or cold holding; unknown foods count as needing it.

    Some foods come to need it on the way: cut leaves, tomatoes and melons, cooked starches and
    vegetables (FDA Food Code 2022, 1-201.10 "time/temperature control for safety food").
    """
    for name in process.ingredients_of(food_id):
        kind = process.foods[name].kind
        if kind is None or kind.temperature_control:
            return True
        if kind.control == "cut" and _changed(process, name, _CUTS):
            return True
        if kind.control == "cooked" and _changed(process, name, _COOKS):
            return True
    return False


def cook_class(process: Process, profile: Profile, foods: tuple[str, ...]) -> CookLimit | None:
    """The strictest cooking row among everything in the foods, or None if no row is known."""
    rows: list[CookLimit] = []
    for food in foods:
        for name in process.ingredients_of(food):
            kind = process.foods[name].kind
            if kind and kind.cook_class and kind.cook_class in profile.cook:
                rows.append(profile.cook[kind.cook_class])
    measured = [row for row in rows if row.main]
    return max(measured, key=lambda row: row.main.temperature.c if row.main else 0.0, default=rows[0] if rows else None)

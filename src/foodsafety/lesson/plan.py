"""The safety plan: what a process needs to be safe under a rule profile, and the questions that the
live lesson, the shelf and the drawings ask of it.

A control point says what must be shown, when it falls due and when its time has passed. What
the evidence is worth is judged by ``evidence``.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal

from foodsafety.contamination import DRY_VERBS, Fate
from foodsafety.cooking import CookRule, limit_of_kind, strictest
from foodsafety.foods import raw_of_animals, soil
from foodsafety.quantities import Temperature
from foodsafety.recipes import Food, Process, Step
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

NO_HANDLING = DRY_VERBS | {"serve", "chill", "freeze", "rest", "heat", "probe", "wipe"}


@dataclass(frozen=True, slots=True, kw_only=True)
class ControlPoint:
    """A brick before any evidence.

    ``steps`` are the steps it watches; it is due once every step in ``due_after`` is done, and
    missed when ``missed_after`` is done without evidence. ``limit`` and ``limit_s`` are its
    critical limits, ``section`` where the profile states them. ``measured`` are the foods that a
    core temperature must be read of.
    """

    id: str
    rule: Rule
    phase: Phase
    steps: tuple[str, ...] = ()
    due_after: tuple[str, ...] = ()
    missed_after: str | None = None
    carriers: tuple[str, ...] = ()
    foods: tuple[str, ...] = ()
    measured: tuple[str, ...] = ()
    limit: Temperature | None = None
    limit_s: float | None = None
    cook: CookLimit | None = None
    clock: ClockLimit | None = None
    section: str = ""


@dataclass(frozen=True, kw_only=True)
class Plan:
    """A process read for one profile and one kitchen: its control points and its fate table.

    ``provable`` are the foods that a core reading can show to be cooked, with their limits;
    ``reheated`` those that were ready and are heated again, by the step that does it; ``known`` are other
    names that foods go by in entries, with the process's own name of each. ``order``: the steps in the order in which
    a lesson's plan has them done, where that is not the written one.
    """

    process: Process
    profile: Profile
    house: House
    controls: tuple[ControlPoint, ...]
    fates: tuple[Fate, ...]
    raw_steps: tuple[str, ...]
    heat_steps: tuple[str, ...]
    provable: Mapping[str, CookLimit]
    reheated: Mapping[str, frozenset[str]]
    known: Mapping[str, str] = field(default_factory=dict)
    order: tuple[str, ...] = ()

    @cached_property
    def in_order(self) -> tuple[Step, ...]:
        """The steps in the order in which they are done; what the plan does not name, where it is written."""
        if not self.order:
            return self.process.steps
        at = {name: n for n, name in enumerate(self.order)}
        place, found = -1.0, dict[str, float]()
        for step in self.process.steps:
            place = at.get(step.id, place)
            found[step.id] = place
        return tuple(sorted(self.process.steps, key=lambda step: (found[step.id], self.process.step_index[step.id])))

    @cached_property
    def by_id(self) -> dict[str, ControlPoint]:
        """Control points by id."""
        return {control.id: control for control in self.controls}

    def step(self, step_id: str) -> Step:
        """A step by its id."""
        return self.process.steps[self.process.step_index[step_id]]

    @cached_property
    def cook_rules(self) -> dict[str, CookRule]:
        """For each food that a reading can prove, the rule that its readings are held against."""
        return {name: CookRule(limit, self.profile, house=self.house) for name, limit in self.provable.items()}

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

    def core_control(self, food_id: str) -> ControlPoint | None:
        """The core temperature control that a food is measured for, or that what it is made of is."""
        own = next((c for c in self._cores if food_id in c.measured), None)
        return own or next((c for c in self._cores if food_id in c.foods), None)

    def core_behind(self, food_id: str) -> ControlPoint | None:
        """The core temperature control of a food, or of anything it is made from."""
        names = (food_id, *sorted(self.behind(food_id)))
        return next((found for name in names if (found := self.core_control(name))), None)

    @cached_property
    def _cores(self) -> tuple[ControlPoint, ...]:
        return tuple(c for c in self.controls if c.rule == "core-temperature")

    @cached_property
    def controlled(self) -> frozenset[str]:
        """The foods that need hot or cold holding."""
        return frozenset(name for name in self.process.food_ids if needs_temperature_control(self.process, name))

    @cached_property
    def _behind(self) -> dict[str, frozenset[str]]:
        return {name: all_behind(self.process, name) for name in self.process.food_ids}

    def behind(self, food_id: str) -> frozenset[str]:
        """Every food that went into a food, over all its makings; not itself."""
        return self._behind.get(food_id, frozenset())

    @cached_property
    def _ahead(self) -> dict[str, frozenset[str]]:
        rows: dict[str, set[str]] = {name: set() for name in self.process.food_ids}
        for made, parts in self._behind.items():
            for part in parts:
                rows[part].add(made)
        return {name: frozenset(row) for name, row in rows.items()}

    def ahead(self, food_id: str) -> frozenset[str]:
        """Every food that a food goes into; not itself."""
        return self._ahead.get(food_id, frozenset())

    @cached_property
    def hot_foods(self) -> frozenset[str]:
        """Foods that are heated, and whatever is made from them."""
        heated = {n for s in self.process.steps if s.do == "heat" for n in (*s.foods, *((s.makes,) if s.makes else ()))}
        return frozenset(heated | {name for food in heated for name in self.ahead(food)})

    def clock_kind(self, food_id: str) -> Literal["hot", "cold"]:
        """Which clock a food out of temperature control runs by."""
        return "hot" if food_id in self.hot_foods else "cold"

    @cached_property
    def serve_step(self) -> dict[str, str]:
        """The step that serves each food: a step of that verb, or the last one."""
        last = self.process.steps[-1].id
        served = {name: step.id for step in self.process.steps if step.do == "serve" for name in step.foods}
        return {**dict.fromkeys(self.process.serve, last), **served}

    def served_in(self, food_id: str) -> str | None:
        """The step that serves a food, or anything made from it."""
        return next((self.serve_step[n] for n in (food_id, *sorted(self.ahead(food_id))) if n in self.serve_step), None)

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
        """Seconds from the start at which the recipe as written reaches each course."""
        return self.phases_at(self.planned_s)

    def phases_at(self, steps_s: Mapping[str, float]) -> dict[Phase, float]:
        """Seconds from the start at which each course is reached, where the steps begin so [s]."""
        starts: dict[Phase, float] = {}
        floor = 0.0
        for phase, row in self.courses:
            own = [steps_s[name] for c in row for name in c.steps if name in steps_s]
            floor = max(floor, min(own)) if own else floor
            starts[phase] = floor
        return starts


def all_behind(process: Process, food_id: str) -> frozenset[str]:
    """Every food that went into a food, over all its makings; not itself."""
    found: set[str] = set()
    waiting = [food_id]
    while waiting:
        for part in process.made.get(waiting.pop(), ()):
            if part not in found and part != food_id:
                found.add(part)
                waiting.append(part)
    return frozenset(found)


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


def brings_raw(food: Food) -> bool:
    """True if a food brings of itself what only a core reading shows to have ended."""
    return raw_of_animals(food.soils)


def in_microwave(process: Process, step: Step) -> bool:
    """True if a step heats in a microwave."""
    return any(process.tools[name].kind == "microwave" for name in step.tools)


def cook_limit(
    process: Process, profile: Profile, foods: Iterable[str], *, microwave: bool = False, reheat: bool = False
) -> CookLimit | None:
    """The strictest cooking row for everything in the foods, or None if no row is known. A food of
    which only its soils are known meets the row of the soil."""
    names = sorted({name for food in foods for name in process.ingredients_of(food)})
    rows: list[CookLimit] = []
    for name in names:
        food = process.foods[name]
        if food.kind is not None:
            found = limit_of_kind(food.kind, profile, microwave=microwave, reheat=reheat)
            rows += [found] if found else []
            continue
        classes = {soil(s).cook_class for s in food.soils}
        rows += [profile.cook[c] for c in sorted(filter(None, classes)) if c in profile.cook]
        rows += [profile.cook["microwave"]] if microwave and brings_raw(food) else []
    return strictest(rows)

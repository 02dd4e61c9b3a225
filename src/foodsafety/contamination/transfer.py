"""Contacts: what passes from what to what while a step is done, and where a food still goes.

Two moves that every use of the fold shares: ``do_step`` carries soils forward over one step,
``fates`` answers, for each food at each step, what it becomes part of on its way to the plate.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cache

from foodsafety.foods import (
    carrier_kinds,
    cloth_kinds,
    heated_tool_kinds,
    shelves_below,
    soil,
    soil_brought_by,
    splashed_kinds,
)
from foodsafety.recipes import Process, Step

# A trace longer than this is cut in the middle: nobody can read it, and a day of washing and
# soiling the same board must not grow without end.
LONGEST_TRACE = 24

DRY_VERBS = frozenset({"wash_hands", "clean", "gloves_on", "gloves_off"})


@dataclass(frozen=True, slots=True)
class Trace:
    """How a soil came to be where it is: carriers from the source on, and the step at which each
    caught it ("" for the source itself)."""

    path: tuple[str, ...]
    at: tuple[str, ...] = ()

    def to(self, carrier: str, step: str = "") -> Trace:
        """The same soil, carried one further."""
        path = (*self.path, carrier)
        at = (*(self.at or ("",) * len(self.path)), step)
        if len(path) > LONGEST_TRACE:
            half = LONGEST_TRACE // 2
            path, at = (*path[:half], *path[-half:]), (*at[:half], *at[-half:])
        return Trace(path, at)


Surfaces = Mapping[str, Mapping[str, Trace]]
Soils = dict[str, Trace]


@dataclass(frozen=True, slots=True)
class Transfer:
    """A soil passing onto a food from something else at a step."""

    food: str
    soil: str
    source: str
    path: tuple[str, ...]
    at: tuple[str, ...] = ()


@cache
def _ends(name: str) -> tuple[bool, bool]:
    found = soil(name)
    return found.heat_clears, found.rinse_clears


def tracked_soils(process: Process) -> frozenset[str]:
    """Allergens somebody must be kept free of; the others are simply food."""
    return frozenset(name for names in process.free_of.values() for name in names)


def opening_surfaces(process: Process, *, people: Iterable[str], unwashed: bool) -> dict[str, Soils]:
    """Soils before anything happens: on foods by kind, on tools by nature, on hands if unwashed."""
    surfaces: dict[str, Soils] = {}
    watched = tracked_soils(process)
    for food in process.foods.values():
        named = {name: Trace((food.id,)) for name in sorted(food.soils)}
        named.update({name: Trace((food.id,)) for name in sorted(food.allergens & watched)})
        if named:
            surfaces[food.id] = named
    for tool in process.tools.values():
        brought = soil_brought_by(tool.kind)
        if brought:
            surfaces[tool.id] = {brought: Trace((tool.id,))}
    if unwashed:
        for person in people:
            surfaces[person] = {"person": Trace((person,))}
    return surfaces


def touch_all(
    surfaces: Surfaces, members: Sequence[str], step: str = "", *, only_to: Sequence[str] = ()
) -> tuple[Surfaces, tuple[tuple[str, str, str], ...]]:
    """Everything in ``members`` touches: soils pass both ways; to ``only_to`` they pass one way.

    Returns the new surfaces and who caught what from whom, as (catcher, soil, source).
    """
    names: dict[str, str] = {}
    for member in members:
        for name, trace in surfaces.get(member, {}).items():
            # A soil comes most directly from whoever has the shortest trace, the first on a tie.
            held = names.get(name)
            if held is None or len(trace.path) < len(surfaces[held][name].path):
                names[name] = member
    if not names:
        return surfaces, ()
    after: dict[str, Mapping[str, Trace]] = dict(surfaces)
    caught: list[tuple[str, str, str]] = []
    for member in (*members, *only_to):
        held_soils = after.get(member, {})
        new = {name: surfaces[names[name]][name].to(member, step) for name in sorted(names) if name not in held_soils}
        if new:
            after[member] = {**held_soils, **new}
            caught.extend((member, name, names[name]) for name in new)
    return after, tuple(caught)


def clear_carriers(surfaces: Surfaces, carriers: Iterable[str], *, keep: Iterable[str] = ()) -> Surfaces:
    """The surfaces with every soil gone from the carriers, but for soils in ``keep``."""
    kept = frozenset(keep)
    after = dict(surfaces)
    for carrier in carriers:
        soils = {name: trace for name, trace in after.get(carrier, {}).items() if name in kept}
        if soils:
            after[carrier] = soils
        else:
            after.pop(carrier, None)
    return after


def _heat(surfaces: Surfaces, carriers: Iterable[str], *, through: bool) -> Surfaces:
    """Heat ends microbial soils; allergens, toxins and residues stay. Heat that stops short of cooking
    ``through`` ends nothing that only a core temperature shows to have ended."""
    carriers = tuple(carriers)
    return {
        name: row
        for name, held in surfaces.items()
        if (row := {n: t for n, t in held.items() if _stays(n, through=through)} if name in carriers else held)
    }


def _stays(name: str, *, through: bool) -> bool:
    return not _ends(name)[0] or (not through and soil(name).by_reading)


def heated_with(process: Process, step: Step) -> tuple[str, ...]:
    """The vessels of a heat step that are heated with the food in them."""
    return tuple(name for name in step.tools if process.tools[name].kind in heated_tool_kinds())


def washed_by(process: Process, step: Step, gloved: frozenset[str] = frozenset()) -> tuple[str, ...]:
    """The carriers a wash step leaves clean: bare hands, and tools that can be cleaned."""
    if step.do == "wash_hands":
        return tuple(person for person in step.hands if person not in gloved)
    if step.do == "clean":
        return tuple(tool for tool in step.tools if not soil_brought_by(process.tools[tool].kind))
    return ()


def dried_on(process: Process, step: Step) -> tuple[str, ...]:
    """The cloths that hands are dried on at a hand-wash."""
    if step.do != "wash_hands":
        return ()
    return tuple(tool for tool in step.tools if process.tools[tool].kind in cloth_kinds())


def mouths(process: Process, step: Step) -> tuple[str, ...]:
    """Mouths among the tools of a step: somebody tastes."""
    return tuple(name for name in step.tools if process.tools[name].kind in carrier_kinds("mouths"))


def splashed(process: Process, step: Step, foods_soils: Iterable[str]) -> tuple[str, ...]:
    """What the splash of raw meat rinsed at a step reaches without being touched."""
    if step.do != "rinse" or not any(soil(name).splashes for name in foods_soils):
        return ()
    return tuple(n for n, tool in process.tools.items() if tool.kind in splashed_kinds() and n not in step.tools)


def drips(process: Process, step: Step) -> tuple[tuple[str, tuple[str, ...]], ...]:
    """The shelves of a step, each with the shelves below it that its drip falls on."""
    rows = []
    for name in step.tools:
        under = shelves_below(process.tools[name].kind)
        lower = tuple(other for other, tool in process.tools.items() if tool.kind in under)
        if lower:
            rows.append((name, lower))
    return tuple(rows)


def step_members(process: Process, step: Step) -> tuple[str, ...]:
    """Everything that touches everything at a step: foods, tools and hands. A mouth only gives
    to what goes back."""
    eaten = mouths(process, step)
    tools = tuple(name for name in step.tools if name not in eaten) if eaten else step.tools
    return (*step.foods, *tools, *step.hands)


def _dry(surfaces: Surfaces, process: Process, step: Step, gloved: frozenset[str]) -> Surfaces:
    surfaces = clear_carriers(surfaces, washed_by(process, step, gloved))
    cloths = dried_on(process, step)
    if cloths:
        surfaces, _ = touch_all(surfaces, (*step.hands, *cloths), step.id)
    return surfaces


def _made(surfaces: Surfaces, step: Step) -> Surfaces:
    """A made food carries what its parts carried."""
    if step.makes is None or step.makes in step.foods:
        return surfaces
    soils: Soils = dict(surfaces.get(step.makes, {}))
    for part in step.foods:
        for name, trace in surfaces.get(part, {}).items():
            if name not in soils or len(trace.path) + 1 < len(soils[name].path):
                soils[name] = trace.to(step.makes, step.id)
    return {**surfaces, step.makes: soils} if soils else surfaces


def do_step(
    surfaces: Surfaces, process: Process, step: Step, gloved: frozenset[str] = frozenset()
) -> tuple[Surfaces, tuple[Transfer, ...]]:
    """The surfaces after a step, and what its foods caught while it was done."""
    if step.do in DRY_VERBS:
        return _dry(surfaces, process, step, gloved), ()
    catches: list[Transfer] = []
    for food, shelf in process.shelves_left.get(step.id, ()):
        surfaces, caught = touch_all(surfaces, (shelf, food), step.id)
        catches.extend(_transfers(process, surfaces, caught))
    splash = splashed(process, step, soil_names(surfaces, step.foods)) if step.do == "rinse" else ()
    surfaces, caught = touch_all(surfaces, step_members(process, step), step.id, only_to=splash)
    catches.extend(_transfers(process, surfaces, caught))
    for shelf, lower in drips(process, step):
        surfaces, _ = touch_all(surfaces, (shelf,), step.id, only_to=lower)
    for mouth in mouths(process, step):
        surfaces, _ = touch_all(surfaces, (mouth,), step.id, only_to=(*step.tools, *step.hands))
    return _ended(surfaces, process, step), tuple(catches)


def _ended(surfaces: Surfaces, process: Process, step: Step) -> Surfaces:
    """What a rinse leaves, what a made food takes over, what heat leaves."""
    if step.do == "rinse":
        # Running water over produce runs over the hands that hold it.
        under = (*step.foods, *step.hands)
        stays = [name for name in soil_names(surfaces, under) if not _ends(name)[1]]
        surfaces = clear_carriers(surfaces, under, keep=stays)
    surfaces = _made(surfaces, step)
    if step.do == "heat":
        foods = (*step.foods, step.makes) if step.makes else step.foods
        surfaces = _heat(surfaces, (*foods, *heated_with(process, step)), through=not step.underdone)
    return surfaces


def _transfers(process: Process, surfaces: Surfaces, caught: Iterable[tuple[str, str, str]]) -> Iterator[Transfer]:
    """What foods have just caught, with the trace they hold it by."""
    for member, name, source in caught:
        if member in process.food_ids:
            trace = surfaces[member][name]
            yield Transfer(member, name, source, trace.path, trace.at)


def soil_names(surfaces: Surfaces, carriers: Iterable[str]) -> tuple[str, ...]:
    """Soils found on any of the carriers, sorted."""
    return tuple(sorted({name for carrier in carriers for name in surfaces.get(carrier, ())}))


# --- the backward question ---------------------------------------------------------------------

# From a food to a served one: (food, the step that makes it), beginning with the food itself.
Way = tuple[tuple[str, str], ...]
Ahead = Mapping[str, Mapping[str, Way]]


@dataclass(frozen=True, slots=True)
class Fate:
    """For each food at a step: the served foods it becomes part of, with the way there.

    ``raw``: without meeting heat on the way. ``unrinsed``: without heat or rinsing. ``any``: by
    whatever way (an allergen does not care).
    """

    raw: Ahead
    any: Ahead
    unrinsed: Ahead

    def of(self, soil_name: str) -> Ahead:
        """Which question matters for a soil."""
        by_heat, by_rinse = _ends(soil_name)
        if not by_heat:
            return self.any
        return self.unrinsed if by_rinse else self.raw


def _merge(one: Mapping[str, Way], two: Mapping[str, Way]) -> dict[str, Way]:
    merged = dict(one)
    for target, way in two.items():
        if target not in merged or len(way) < len(merged[target]):
            merged[target] = way
    return merged


def _before(step: Step, after: Ahead, *, ends: frozenset[str]) -> Ahead:
    """The fate of foods before a step, from their fate after it; ``ends`` are the verbs that end it."""
    if step.do == "serve":
        return {**after, **{name: {name: ((name, ""),)} for name in step.foods}}
    stops = step.do in ends and not step.underdone
    new_food = step.makes is not None and step.makes not in step.foods
    if not stops and not new_food:
        return after
    known: dict[str, Mapping[str, Way]] = dict(after)
    if step.makes is not None and new_food:
        ways = after.get(step.makes, {})
        known.pop(step.makes, None)
        for part in step.foods:
            further: dict[str, Way] = {
                target: ((part, ""), (step.makes, step.id), *way[1:]) for target, way in ways.items()
            }
            known[part] = _merge(further, known.get(part, {}))
    if stops:
        for part in step.foods:
            known.pop(part, None)
    return known


_HEAT, _HEAT_OR_RINSE = frozenset({"heat"}), frozenset({"heat", "rinse"})


def fates(process: Process) -> tuple[Fate, ...]:
    """The fate of every food at each step, judged while the step is being done and before
    its own heat: index i answers for a food that catches a soil in step i."""
    serving = {name for step in process.steps if step.do == "serve" for name in step.foods}
    last: Ahead = {name: {name: ((name, ""),)} for name in process.serve if name not in serving}
    raw, unrinsed, anyhow = last, last, last
    answers: list[Fate] = []
    for step in reversed(process.steps):
        raw = _before(step, raw, ends=_HEAT)
        unrinsed = _before(step, unrinsed, ends=_HEAT_OR_RINSE)
        anyhow = _before(step, anyhow, ends=frozenset())
        answers.append(Fate(raw, anyhow, unrinsed))
    return tuple(reversed(answers))

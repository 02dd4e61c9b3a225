"""Contamination: what touched what, and whether it still meets a kill step before it is eaten.

A forward taint analysis over contacts, joined with a backward question for each food:
"does this still meet heat on its way to the plate?" The live lesson uses the same moves.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from foodsafety.codes import House
from foodsafety.foods import heated_tool_kinds, soil, soil_brought_by
from foodsafety.recipe import Process, Step

# A trace longer than this is cut in the middle: nobody can read it, and a day of washing and
# soiling the same board must not grow without end.
LONGEST_TRACE = 24

DRY_VERBS = frozenset({"wash_hands", "clean", "gloves_on", "gloves_off"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """A structured fact about what went wrong, or could; never a sentence.

    ``path`` runs from the source of the soil to the food that is eaten.
    """

    rule: str
    step: str
    soil: str = ""
    food: str = ""
    path: tuple[str, ...] = ()
    evidence: Mapping[str, Any] = field(default_factory=dict)

    @property
    def key(self) -> tuple[str, str, str, str]:
        """What makes two findings the same finding."""
        return (self.rule, self.step, self.soil, self.food)


@dataclass(frozen=True, slots=True)
class Trace:
    """How a soil came to be where it is: carriers from the source on."""

    path: tuple[str, ...]

    def to(self, carrier: str) -> Trace:
        """The same soil, carried one further."""
        path = (*self.path, carrier)
        if len(path) > LONGEST_TRACE:
            half = LONGEST_TRACE // 2
            path = (*path[:half], *path[-half:])
        return Trace(path)


Surfaces = Mapping[str, Mapping[str, Trace]]
Soils = dict[str, Trace]


@dataclass(frozen=True, slots=True)
class Catch:
    """A soil passing onto a food from something else at a step."""

    food: str
    soil: str
    source: str
    path: tuple[str, ...]


def opening(process: Process, *, people: Iterable[str], unwashed: bool) -> dict[str, Soils]:
    """Soils before anything happens: on foods by kind, on tools by nature, on hands if unwashed."""
    surfaces: dict[str, Soils] = {}
    for food in process.foods.values():
        named = {name: Trace((food.id,)) for name in sorted(food.soils)}
        named.update({name: Trace((food.id,)) for name in sorted(food.allergens & _tracked(process))})
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


def _tracked(process: Process) -> frozenset[str]:
    """Allergens somebody must be kept free of; the others are simply food."""
    return frozenset(name for names in process.free_of.values() for name in names)


def _best_source(members: tuple[str, ...], surfaces: Surfaces, name: str) -> str:
    """Where a soil most directly comes from: the shortest trace, first named on a tie."""
    holders = [member for member in members if name in surfaces.get(member, {})]
    return min(holders, key=lambda member: len(surfaces[member][name].path))


def touch(surfaces: Surfaces, members: tuple[str, ...]) -> tuple[Surfaces, tuple[tuple[str, str, str], ...]]:
    """Everything in ``members`` touches: soils pass both ways.

    Returns the new surfaces and who caught what from whom, as (catcher, soil, source).
    """
    present = sorted({name for member in members for name in surfaces.get(member, ())})
    if not present:
        return surfaces, ()
    after: dict[str, Mapping[str, Trace]] = dict(surfaces)
    caught: list[tuple[str, str, str]] = []
    for name in present:
        source = _best_source(members, surfaces, name)
        trace = surfaces[source][name]
        for member in members:
            if name in surfaces.get(member, ()):
                continue
            after[member] = {**after.get(member, {}), name: trace.to(member)}
            caught.append((member, name, source))
    return after, tuple(caught)


def clear(surfaces: Surfaces, carriers: Iterable[str], *, keep: Iterable[str] = ()) -> Surfaces:
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


def _heat(surfaces: Surfaces, carriers: Iterable[str]) -> Surfaces:
    """Heat ends microbial soils; allergens, toxins and residues stay."""
    after = dict(surfaces)
    for carrier in carriers:
        after[carrier] = {n: t for n, t in after.get(carrier, {}).items() if not soil(n).heat_clears}
        if not after[carrier]:
            del after[carrier]
    return after


def heated_with(process: Process, step: Step) -> tuple[str, ...]:
    """The vessels of a heat step that are heated with the food in them."""
    return tuple(name for name in step.tools if process.tools[name].kind in heated_tool_kinds())


def _wash(surfaces: Surfaces, process: Process, step: Step, gloved: frozenset[str]) -> Surfaces:
    if step.do == "wash_hands":
        bare = [person for person in step.hands if person not in gloved]
        return clear(surfaces, bare)
    if step.do == "clean":
        return clear(surfaces, [tool for tool in step.tools if not soil_brought_by(process.tools[tool].kind)])
    return surfaces


def _made(surfaces: Surfaces, step: Step) -> Surfaces:
    """A made food carries what its parts carried."""
    if step.makes is None or step.makes in step.foods:
        return surfaces
    soils: Soils = dict(surfaces.get(step.makes, {}))
    for part in step.foods:
        for name, trace in surfaces.get(part, {}).items():
            carried = trace.to(step.makes)
            if name not in soils or len(carried.path) < len(soils[name].path):
                soils[name] = carried
    if not soils:
        return surfaces
    return {**surfaces, step.makes: soils}


def do_step(
    surfaces: Surfaces, process: Process, step: Step, gloved: frozenset[str] = frozenset()
) -> tuple[Surfaces, tuple[Catch, ...]]:
    """The surfaces after a step, and what its foods caught while it was done."""
    if step.do in DRY_VERBS:
        return _wash(surfaces, process, step, gloved), ()
    members = (*step.foods, *step.tools, *step.hands)
    before = surfaces
    surfaces, caught = touch(surfaces, members)
    if step.do == "rinse":
        rinsed = [name for name in soil_names(surfaces, step.foods) if not soil(name).rinse_clears]
        surfaces = clear(surfaces, step.foods, keep=rinsed)
    surfaces = _made(surfaces, step)
    if step.do == "heat":
        foods = (*step.foods, step.makes) if step.makes else step.foods
        surfaces = _heat(surfaces, (*foods, *heated_with(process, step)))
    catches = tuple(
        Catch(member, name, source, (*before[source][name].path, member))
        for member, name, source in caught
        if member in process.food_ids
    )
    return surfaces, catches


def soil_names(surfaces: Surfaces, carriers: Iterable[str]) -> tuple[str, ...]:
    """Soils found on any of the carriers, sorted."""
    return tuple(sorted({name for carrier in carriers for name in surfaces.get(carrier, ())}))


# --- the backward question ---------------------------------------------------------------------

Ahead = Mapping[str, Mapping[str, tuple[str, ...]]]


@dataclass(frozen=True, slots=True)
class Fate:
    """For each food after a step: the served foods it becomes part of, with the way there.

    ``raw``: without meeting heat on the way. ``any``: by whatever way (an allergen does not care).
    """

    raw: Ahead
    any: Ahead


def _merge(one: Mapping[str, tuple[str, ...]], two: Mapping[str, tuple[str, ...]]) -> dict[str, tuple[str, ...]]:
    merged = dict(one)
    for target, way in two.items():
        if target not in merged or len(way) < len(merged[target]):
            merged[target] = way
    return merged


def _before(step: Step, after: Ahead, *, stops_at_heat: bool) -> Ahead:
    """The fate of foods before a step, from their fate after it."""
    if step.do == "serve":
        return {**after, **{name: {name: (name,)} for name in step.foods}}
    known: dict[str, Mapping[str, tuple[str, ...]]] = dict(after)
    if step.makes and step.makes not in step.foods:
        ways = after.get(step.makes, {})
        known.pop(step.makes, None)
        for part in step.foods:
            known[part] = _merge(known.get(part, {}), {target: (part, *way) for target, way in ways.items()})
    if stops_at_heat and step.do == "heat":
        for part in step.foods:
            known.pop(part, None)
    return known


def fates(process: Process) -> tuple[Fate, ...]:
    """The fate of every food at each step, judged while the step is being done and before
    its own heat: index i answers for a food that catches a soil in step i."""
    serving = {name for step in process.steps if step.do == "serve" for name in step.foods}
    last = {name: {name: (name,)} for name in process.serve if name not in serving}
    raw: Ahead = last
    anyhow: Ahead = last
    answers: list[Fate] = []
    for step in reversed(process.steps):
        raw = _before(step, raw, stops_at_heat=True)
        anyhow = _before(step, anyhow, stops_at_heat=False)
        answers.append(Fate(raw, anyhow))
    return tuple(reversed(answers))


def fate_of(fate: Fate, soil_name: str) -> Ahead:
    """Which question matters for this soil."""
    return fate.raw if soil(soil_name).heat_clears else fate.any


# --- judging -----------------------------------------------------------------------------------


def matters(process: Process, soil_name: str, target: str) -> bool:
    """Whether a soil on a served food is a finding: an allergen only where it must be absent."""
    if soil_name in _tracked(process):
        return soil_name in process.free_of.get(target, ())
    return True


def catch_rule(process: Process, catch: Catch, cooked: frozenset[str]) -> str:
    """The rule a catch breaks, by what was caught and where the food stood."""
    if catch.soil in _tracked(process):
        return "allergen-contact"
    if catch.soil == "person":
        return "unwashed-hands"
    if catch.food in cooked:
        return "cooked-meets-raw"
    return "ready-to-eat-meets-raw"


def catch_findings(
    process: Process, step: Step, fate: Fate, catches: Iterable[Catch], cooked: frozenset[str]
) -> tuple[Finding, ...]:
    """A finding for each catch that reaches a plate without a kill step."""
    found: list[Finding] = []
    for catch in catches:
        together_on_purpose = (step.makes is not None or step.do == "serve") and catch.source in step.foods
        if together_on_purpose and catch.soil not in _tracked(process):
            continue  # a mixture or a plate is judged whole: the food that brought the soil has its own finding
        for target, way in sorted(fate_of(fate, catch.soil).get(catch.food, {}).items()):
            if matters(process, catch.soil, target):
                found.append(
                    Finding(
                        rule=catch_rule(process, catch, cooked),
                        step=step.id,
                        soil=catch.soil,
                        food=target,
                        path=(*catch.path, *way[1:]),
                    )
                )
    return tuple({finding.key: finding for finding in reversed(found)}.values())[::-1]


def _served_raw(process: Process) -> tuple[Finding, ...]:
    """Foods that bring a soil of their own to the plate, with no kill step on the way."""
    found: dict[tuple[str, str, str, str], Finding] = {}
    serve_step = {name: step.id for step in process.steps if step.do == "serve" for name in step.foods}
    surfaces: Surfaces = {
        name: soils for name, soils in opening(process, people=(), unwashed=False).items() if name in process.foods
    }
    for step in process.steps:
        if step.do in DRY_VERBS:
            continue
        alone = Step(id=step.id, do=step.do, foods=step.foods, makes=step.makes)
        if step.makes:
            surfaces, _ = do_step(surfaces, process, alone)
        elif step.do in ("heat", "rinse"):
            for name in step.foods:
                one = Step(id=step.id, do=step.do, foods=(name,))
                surfaces, _ = do_step(surfaces, process, one)
        for target in step.foods if step.do == "serve" else ():
            _judge_served(process, surfaces, target, step.id, found)
    for target in process.serve:
        if target not in serve_step:
            _judge_served(process, surfaces, target, process.steps[-1].id, found)
    return tuple(found.values())


def _judge_served(
    process: Process,
    surfaces: Surfaces,
    target: str,
    step_id: str,
    found: dict[tuple[str, str, str, str], Finding],
) -> None:
    for name, trace in surfaces.get(target, {}).items():
        if not matters(process, name, target):
            continue
        if name in _tracked(process):
            rule = "allergen-inside"
        elif name == "unwashed_produce":
            rule = "produce-not-rinsed"
        else:
            rule = "no-kill-step"
        finding = Finding(rule=rule, step=step_id, soil=name, food=target, path=trace.path)
        found.setdefault(finding.key, finding)


def _odd_steps(process: Process) -> tuple[Finding, ...]:
    """Things a recipe should not ask for whatever follows, and what it leaves out."""
    found: list[Finding] = []
    for step in process.steps:
        if step.do != "rinse":
            continue
        for name in step.foods:
            food = process.foods.get(name)
            splashing = food.soils & {"raw_poultry", "raw_meat"} if food else frozenset()
            for soil_name in sorted(splashing):
                path = (name, *step.tools)
                found.append(Finding(rule="raw-meat-rinsed", step=step.id, soil=soil_name, food=name, path=path))
    if not process.serve and not any(step.do == "serve" for step in process.steps):
        found.append(Finding(rule="nothing-served", step=process.steps[-1].id))
    return tuple(found)


def contamination(process: Process, house: House | None = None) -> tuple[Finding, ...]:
    """Every contamination that reaches a plate, in the order of the steps as written."""
    house = house or House()
    surfaces: Surfaces = opening(process, people=process.people, unwashed=house.arrive == "unwashed")
    ahead = fates(process)
    cooked: frozenset[str] = frozenset()
    gloved: frozenset[str] = frozenset()
    found: list[Finding] = []
    for i, step in enumerate(process.steps):
        surfaces, catches = do_step(surfaces, process, step, gloved)
        found.extend(catch_findings(process, step, ahead[i], catches, cooked))
        if step.do == "gloves_on":
            gloved |= frozenset(step.hands)
        elif step.do == "gloves_off":
            gloved -= frozenset(step.hands)
        elif step.do == "heat":
            cooked |= frozenset((*step.foods, step.makes) if step.makes else step.foods)
    found.extend(_served_raw(process))
    found.extend(_odd_steps(process))
    order = process.step_index
    return tuple(sorted({f.key: f for f in reversed(found)}.values(), key=lambda f: (order[f.step], f.soil, f.food)))

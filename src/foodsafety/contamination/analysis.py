"""Contamination judged: what touched what, and whether it still meets a kill step before it is eaten.

A forward taint analysis over contacts, joined with a backward question for each food:
"does this still meet heat on its way to the plate?" The live lesson uses the same moves.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Any

from foodsafety.contamination.findings import UNWASHED_CONTACT, Finding, weighed
from foodsafety.contamination.house_rules import BoardUses, house_findings, now_gloved
from foodsafety.contamination.transfer import (
    DRY_VERBS,
    Fate,
    Surfaces,
    Transfer,
    do_step,
    fates,
    mouths,
    opening_surfaces,
    tracked_soils,
    washed_by,
)
from foodsafety.foods import soil
from foodsafety.recipes import Process, Step, washable
from foodsafety.rules import House


@dataclass(frozen=True, slots=True, kw_only=True)
class Cleared:
    """A soil on a food that a later step ends: no finding, but worth teaching. ``step`` is where
    the food caught it ("" if it brought it), ``by`` the step that ends it."""

    soil: str
    food: str
    step: str
    by: str
    path: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Analysis:
    """What one pass over a process tells: ``findings`` (someone may be harmed), ``practice`` (advice,
    never a reason to stop or to wash again), and what a later step ends."""

    findings: tuple[Finding, ...]
    practice: tuple[Finding, ...]
    cleared: tuple[Cleared, ...]


def soil_matters(process: Process, soil_name: str, target: str) -> bool:
    """Whether a soil on a served food is a finding: an allergen only where it must be absent."""
    if soil_name in tracked_soils(process):
        return soil_name in process.free_of.get(target, ())
    return True


def transfer_rule(
    process: Process, catch: Transfer, cooked: frozenset[str], gloved: frozenset[str] = frozenset()
) -> str:
    """The rule a catch breaks, by what was caught and where the food stood."""
    if catch.soil in tracked_soils(process):
        return "allergen-contact"
    if catch.source in gloved:
        return "gloves-not-changed"
    if catch.soil == "person":
        return "unwashed-hands"
    if soil(catch.soil).practice:
        return UNWASHED_CONTACT
    if catch.food in cooked:
        return "cooked-meets-raw"
    return "ready-to-eat-meets-raw"


def transfer_findings(
    process: Process,
    step: Step,
    fate: Fate,
    catches: Iterable[Transfer],
    cooked: frozenset[str],
    gloved: frozenset[str] = frozenset(),
) -> tuple[Finding, ...]:
    """A finding for each catch that reaches a plate without a kill step."""
    found: dict[tuple[str, str, str, str], Finding] = {}
    watched = tracked_soils(process)
    for catch in catches:
        from_food = catch.source in step.foods
        if from_food and (step.makes is not None or (step.do == "serve" and catch.soil not in watched)):
            continue  # a mixture or a plate is judged whole: the food that brought the soil has its own finding
        for target, way in sorted(fate.of(catch.soil).get(catch.food, {}).items()):
            if not soil_matters(process, catch.soil, target):
                continue
            finding = Finding(
                rule=transfer_rule(process, catch, cooked, gloved),
                step=step.id,
                soil=catch.soil,
                food=target,
                path=(*catch.path, *(food for food, _ in way[1:])),
                at=(*catch.at, *(at for _, at in way[1:])) if catch.at else (),
            )
            found.setdefault(finding.key, finding)
    return tuple(found.values())


def foods_alone(process: Process) -> Surfaces:
    """What each food brings of itself, before anything touches it."""
    start = opening_surfaces(process, people=(), unwashed=False)
    return {name: soils for name, soils in start.items() if name in process.foods}


def after_alone(surfaces: Surfaces, process: Process, step: Step) -> Surfaces:
    """What the foods have of themselves after a step: mixed together, heated or rinsed, but not
    touched by hands, kit or each other."""
    if step.do in DRY_VERBS:
        return surfaces
    alone = replace(step, tools=(), hands=())
    if step.makes:
        return do_step(surfaces, process, alone)[0]
    if step.do in ("heat", "rinse"):
        for name in step.foods:
            surfaces, _ = do_step(surfaces, process, replace(alone, foods=(name,)))
    return surfaces


def _served_raw(process: Process) -> Iterator[Finding]:
    """Foods that bring a soil of their own to the plate, with no kill step on the way."""
    serve_step = {name: step.id for step in process.steps if step.do == "serve" for name in step.foods}
    surfaces = foods_alone(process)
    for step in process.steps:
        surfaces = after_alone(surfaces, process, step)
        for target in step.foods if step.do == "serve" else ():
            yield from judge_served(process, surfaces, target, step.id)
    for target in process.serve:
        if target not in serve_step:
            yield from judge_served(process, surfaces, target, process.steps[-1].id)


def judge_served(process: Process, surfaces: Surfaces, target: str, step_id: str) -> Iterator[Finding]:
    """What a served food still has of itself (``surfaces`` of ``foods_alone``) that may harm."""
    for name, trace in surfaces.get(target, {}).items():
        if not soil_matters(process, name, target):
            continue
        rule = "produce-not-rinsed" if name == "unwashed_produce" else "no-kill-step"
        if name in tracked_soils(process):
            rule = "allergen-inside"
        yield Finding(rule=rule, step=step_id, soil=name, food=target, path=trace.path, at=trace.at)


def rinsed_raw(process: Process, step: Step) -> Iterator[Finding]:
    """Raw meat or poultry under the tap: it is spread, not ended."""
    for name in step.foods if step.do == "rinse" else ():
        food = process.foods.get(name)
        for soil_name in sorted(n for n in food.soils if soil(n).splashes) if food else ():
            path = (name, *step.tools)
            yield Finding(rule="raw-meat-rinsed", step=step.id, soil=soil_name, food=name, path=path)


def tasted(process: Process, surfaces: Surfaces, step: Step) -> Iterator[Finding]:
    """Whoever tastes has eaten: a raw soil on it has had no kill step."""
    for mouth in mouths(process, step):
        for food in step.foods:
            for name, trace in surfaces.get(food, {}).items():
                if name not in tracked_soils(process) and name != "person":
                    end = trace.to(mouth, step.id)
                    yield Finding(rule="raw-tasted", step=step.id, soil=name, food=food, path=end.path, at=end.at)


def _ended_by(process: Process, start: int, food: str, verbs: frozenset[str]) -> str:
    """The first step from ``start`` on that ends a soil on a food, or on what it has gone into."""
    holding = {food}
    for step in process.steps[start:]:
        if holding.isdisjoint(step.foods):
            continue
        if step.do in verbs and not step.underdone:
            return step.id
        if step.makes:
            holding.add(step.makes)
    return ""


def _verbs_that_end(name: str) -> frozenset[str]:
    what = soil(name)
    return frozenset(({"heat"} if what.heat_clears else set()) | ({"rinse"} if what.rinse_clears else set()))


def _explained(process: Process, finding: Finding) -> Finding:
    """The finding with what would still have cleared it, and what came too late."""
    if not finding.at or finding.rule in ("no-kill-step", "produce-not-rinsed", "allergen-inside", "raw-tasted"):
        return finding
    where = process.step_index
    bad = finding.at.index(finding.step) if finding.step in finding.at else len(finding.at) - 1
    for k in range(bad, 0, -1):
        carrier, before = finding.path[k - 1], finding.at[k]
        if not washable(process, carrier):
            continue
        evidence: dict[str, Any] = {"wash": (carrier, before)}
        soiled = where.get(finding.at[k - 1], -1)
        for step in process.steps[soiled + 1 : where[before]]:
            if step.do in ("wipe", "rinse") and carrier in step.tools:
                evidence["wiped"] = step.id
        late = (s.id for s in process.steps[where[before] + 1 :] if carrier in washed_by(process, s))
        first = next(late, "")
        if first:
            evidence["too_late"] = first
        return replace(finding, evidence={**finding.evidence, **evidence})
    return finding


def analyse(process: Process, house: House | None = None) -> Analysis:
    """Every contamination that reaches a plate, in the order of the steps as written, and every
    one that a later step ends."""
    house = house or House()
    walk = _Walk(process, house)
    found = [
        *walk.found,
        *_served_raw(process),
        *(found for step in process.steps for found in rinsed_raw(process, step)),
    ]
    if not process.serve and not any(step.do == "serve" for step in process.steps):
        found.append(Finding(rule="nothing-served", step=process.steps[-1].id))
    order = process.step_index
    unique = {finding.key: finding for finding in reversed(found)}
    rows = sorted(unique.values(), key=lambda f: (order[f.step], f.soil, f.food))
    harmful, practice = weighed((_explained(process, row) for row in rows), house)
    return Analysis(findings=harmful, practice=practice, cleared=tuple(walk.cleared.values()))


class _Walk:
    """The steps done one after another: what is found on the way, what is cleared, and what every
    carrier holds after each step."""

    def __init__(self, process: Process, house: House) -> None:
        self.process = process
        self.fates = fates(process)
        self.surfaces: Surfaces = opening_surfaces(process, people=process.people, unwashed=house.arrive == "unwashed")
        self.cooked: frozenset[str] = frozenset()
        self.gloved: frozenset[str] = frozenset()
        self.found: list[Finding] = []
        self.cleared: dict[tuple[str, str, str], Cleared] = {}
        self.house = house
        self.boards: BoardUses = {}
        for food in process.foods.values():
            for name in sorted(food.soils):
                if not self.fates[0].of(name).get(food.id):  # some of it may reach a plate another way
                    self._note_cleared(0, name, food.id, "", (food.id,))
        for i, step in enumerate(process.steps):
            self._do(i, step)

    def _do(self, i: int, step: Step) -> None:
        self.found.extend(tasted(self.process, self.surfaces, step))
        before = self.surfaces
        self.surfaces, catches = do_step(before, self.process, step, self.gloved)
        if catches:
            self.found.extend(transfer_findings(self.process, step, self.fates[i], catches, self.cooked, self.gloved))
        for catch in catches:
            if catch.food not in self.fates[i].of(catch.soil):
                self._note_cleared(i, catch.soil, catch.food, step.id, catch.path)
        self.gloved = now_gloved(self.gloved, step)
        self.boards, found = house_findings(
            self.process, self.house, before, step, self.fates[i], gloved=self.gloved, uses=self.boards
        )
        self.found.extend(found)
        if step.do == "heat":
            self.cooked |= frozenset((*step.foods, step.makes) if step.makes else step.foods)

    def _note_cleared(self, start: int, name: str, food: str, step: str, path: tuple[str, ...]) -> None:
        by = _ended_by(self.process, start, food, _verbs_that_end(name))
        if by:
            self.cleared.setdefault((name, food, step), Cleared(soil=name, food=food, step=step, by=by, path=path))


def find_contamination(process: Process, house: House | None = None) -> tuple[Finding, ...]:
    """Every contamination that reaches a plate, in the order of the steps as written."""
    return analyse(process, house).findings

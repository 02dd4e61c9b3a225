"""What is looked at on a flow map, and what is worked out about it."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType
from typing import Any

from bulwark.flow import adapters, drawings, wording
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import Actor
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.long_work import FIRST_LOOK_S, deadline
from bulwark.presentation.phrases import verb
from bulwark.recipes.pages import RecipeContext
from bulwark.recipes.selectors import Recipe
from foodsafety.contamination import Finding, Flow, combined_process, flow_of, severity
from foodsafety.ordering import (
    AllergenRun,
    Repair,
    WashPlan,
    allergen_run,
    elapsed_s,
    find_repairs,
    in_best_order,
    reordered,
)
from foodsafety.quantities import CoreError
from foodsafety.recipes import Process, process_from, reorder_steps
from foodsafety.rules import House, Profile


@dataclass(frozen=True, slots=True, kw_only=True)
class FlowQuery:
    """What somebody asks of the map: an order tried out, a finding, a step, a filter."""

    order: tuple[str, ...] = ()
    finding: int = 0
    at: int | None = None
    soil: str = ""
    carrier: str = ""


class Look:
    """A process as it is looked at, whatever it comes from; ``data`` is its plain form, if it has one."""

    def __init__(
        self,
        *,
        name: str,
        process: Process,
        house: House,
        rules: Profile,
        unit: str,
        asked: FlowQuery,
        data: Mapping[str, Any] = MappingProxyType({}),
    ) -> None:
        self.name, self.process, self.house, self.rules = name, process, house, rules
        self.unit, self.asked = unit, asked
        self.flow: Flow = flow_of(process, house)
        self.data = data
        self.titles: Mapping[str, str] = {}
        self.heats: Mapping[str, str] = {}
        self.vulnerable = False
        self.order = ""
        self.refused = ""
        self.discarded: frozenset[str] = frozenset()
        self.waiting: frozenset[str] = frozenset()
        # What nobody has said, so that nothing can be called safe: in words.
        self.not_known: tuple[str, ...] = ()

    def findings(self) -> tuple[Finding, ...]:
        """The findings, gravest first."""
        rows = self.flow.analysis.findings
        where = self.process.step_index
        return tuple(
            sorted(rows, key=lambda f: (-severity(f, vulnerable=self.vulnerable), where.get(f.step, 0), f.food))
        )

    def drawing(self) -> drawings.FlowMap:
        """The map."""
        found = self.findings()
        view = drawings.View(
            finding=found[self.asked.finding] if self.asked.finding < len(found) else None,
            at=self.asked.at,
            soil=self.asked.soil,
            carrier=self.asked.carrier,
        )
        return drawings.flow_map(self.flow, self.titles, self.heats, view)


def _not_known(recipe: Recipe, actor: Actor) -> tuple[str, ...]:
    """The open questions of a recipe that nobody answers for yet."""
    return () if recipe.confirmed_at else tuple(RecipeContext(recipe, actor).not_known())


class Sheet(Look):
    """A recipe's process: as written, or in an order somebody tries."""

    def __init__(self, recipe: Recipe, actor: Actor, asked: FlowQuery) -> None:
        decided = kitchens.decided_by(recipe.organisation_id)
        self.recipe, self.actor = recipe, actor
        data: Mapping[str, Any] = recipe.process
        refused = ""
        if asked.order:
            try:
                data = reorder_steps(recipe.process, asked.order)
            except CoreError as wrong:
                refused = error_sentence(wrong)
        super().__init__(
            name=recipe.title,
            process=process_from(data),
            data=data,
            house=kitchens.house_of(decided),
            rules=kitchens.rules_for(recipe.organisation_id, decided.profile),
            unit=actor.unit,
            asked=asked,
        )
        self.refused = refused
        self.not_known = _not_known(recipe, actor)
        self.titles = adapters.titles(self.data, self.process)
        self.heats = adapters.heats(self.data, actor.unit)
        self.scrub_s = max(self.rules.scrub_s, self.house.scrub_s)
        self.vulnerable = bool((recipe.eaters or {}).get("groups"))
        if self.tried:
            self.order = ",".join(step.id for step in self.process.steps)

    @property
    def tried(self) -> bool:
        """True if the order looked at is not the written one."""
        return self.data is not self.recipe.process


class PairLook(Look):
    """Two recipes at two benches that share what the kitchen has one of, and boards and cloths
    that go by the same name."""

    def __init__(self, recipe: Recipe, other: Recipe, actor: Actor, asked: FlowQuery) -> None:
        decided = kitchens.decided_by(recipe.organisation_id)
        one, two = process_from(recipe.process), process_from(other.process)
        super().__init__(
            name=wording.beside(recipe.title, other.title),
            process=combined_process(one, two, label=wording.short_title(other.title)),
            house=kitchens.house_of(decided),
            rules=kitchens.rules_for(recipe.organisation_id, decided.profile),
            unit=actor.unit,
            asked=asked,
        )
        self.not_known = (*_not_known(recipe, actor), *_not_known(other, actor))
        for prefix, row, process in (("a-", recipe, one), ("b-", other, two)):
            titles, heats = adapters.titles(row.process, process), adapters.heats(row.process, actor.unit)
            self.titles = {**self.titles, **{prefix + name: text for name, text in titles.items()}}
            self.heats = {**self.heats, **{prefix + name: text for name, text in heats.items()}}


class BenchLook(Look):
    """What a bench really did, from its log. Raises CoreError while it has done nothing."""

    def __init__(self, bench: Any, actor: Actor, asked: FlowQuery) -> None:
        plan, told = lessons.plan_for(bench.lesson), lessons.retold(bench)
        super().__init__(
            name=f"{bench.name}: {bench.lesson.title}",
            process=told.process,
            house=replace(plan.house, arrive="unwashed"),
            rules=plan.profile,
            unit=actor.unit,
            asked=asked,
        )
        self.discarded, self.unproven = told.discarded, told.unproven
        self.waiting = frozenset(told.process.serve) - told.served - told.discarded
        written = lessons.step_titles(bench.lesson)
        by_id = {step.id: step for step in told.process.steps}
        self.titles = {name: wording.told_title(row, written, by_id[name]) for name, row in told.told.items()}
        self.heats = {step.id: verb("heat") for step in told.process.steps if step.do == "heat"}

    def findings(self) -> tuple[Finding, ...]:
        """The findings; that a food not yet on a plate is still raw is none of them: it is said
        apart, as not proven."""
        return tuple(
            finding
            for finding in super().findings()
            if finding.rule not in ("no-kill-step", "produce-not-rinsed") or finding.food not in self.waiting
        )


def best_repair(sheet: Sheet) -> Repair | None:
    """The steps in the order that needs the fewest washes, as far as a first look finds it."""
    stop = deadline(FIRST_LOOK_S)
    return in_best_order(sheet.process, sheet.house, scrub_s=sheet.scrub_s, should_stop=stop)


def smallest_way(process: Process, house: House, *, scrub_s: float) -> Repair | None:
    """The first way that leaves nothing found, else the best order that a first look finds, if that leaves
    nothing."""
    ways = find_repairs(process, house, scrub_s=scrub_s)
    found = next((row for row in ways if not row.left), None)
    if found is None:
        best = in_best_order(process, house, scrub_s=scrub_s, should_stop=deadline(FIRST_LOOK_S))
        found = best if best and not best.left else None
    return found


def time_allowed_s(sheet: Sheet, ways: Sequence[Repair]) -> float:
    """How long the order as written takes once it is washed clean [s]: no other order should need more."""
    washed = [repair.elapsed_s for repair in ways if repair.kind == "wash" and not repair.left]
    return min(washed, default=elapsed_s(sheet.process))


def in_time(sheet: Sheet, ways: Sequence[Repair]) -> Repair | None:
    """The fewest washes in an order that takes no longer than the written one."""
    allowed_s = time_allowed_s(sheet, ways)
    return in_best_order(
        sheet.process, sheet.house, scrub_s=sheet.scrub_s, within_s=allowed_s, seconds=1.5, should_stop=deadline(1.5)
    )


def portion_run(sheet: Sheet, portion: str, allergen: str) -> AllergenRun:
    """The run for one portion, with the second tools that the kitchen is known to have."""
    kitchen = kitchens.kitchen_of(sheet.recipe.organisation_id)
    used = Counter(tool.kind for tool in sheet.process.tools.values())
    spare = None
    if kitchen.equipment:
        benches = max(1, kitchen.benches)
        spare = {kind: max(0, int(kitchen.equipment.get(kind, 0)) // benches - n) for kind, n in used.items()}
    return allergen_run(
        sheet.process, portion, [allergen], sheet.house, scrub_s=sheet.scrub_s, spare=spare, should_stop=deadline(1.5)
    )


def chosen_repair(sheet: Sheet, kind: str, plan: WashPlan | None = None) -> Repair:
    """The mend that somebody chose by its kind, worked out anew. Raises CoreError if there is none."""
    if plan is not None:
        return reordered(sheet.process, plan, sheet.house, scrub_s=sheet.scrub_s)
    if kind == "order":
        found = best_repair(sheet)
    elif kind == "in-time":
        found = in_time(sheet, find_repairs(sheet.process, sheet.house, scrub_s=sheet.scrub_s))
    else:
        found = next(
            (m for m in find_repairs(sheet.process, sheet.house, scrub_s=sheet.scrub_s) if m.kind == kind), None
        )
    if found is None:
        raise CoreError("way", "way_gone")
    return found

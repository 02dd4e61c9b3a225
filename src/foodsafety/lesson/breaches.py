"""Breaches as they are recorded and put right, and what is noted beside them."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import replace
from typing import Literal

from foodsafety.contamination import Finding, weighed
from foodsafety.foods import soil
from foodsafety.lesson.changed import changed
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.state import Incident, Noted, State, Waste

SERVED_UNPROVEN = ("served-below-limit", "served-not-measured")
_BY_CORE = (*SERVED_UNPROVEN, "probe-not-cleaned")
_WATCHERS = ("ready-to-eat-clean", "clean-utensils", "raw-kept-apart", "core-temperature", "time-out")


def control_of(plan: Plan, finding: Finding) -> str | None:
    """The control point that a finding breaks."""
    if finding.rule in _BY_CORE:
        names = (*finding.evidence.get("unproven", ()), finding.food)
        core = next((found for name in names if (found := plan.core_behind(name))), None)
        return core.id if core else None
    watching = [c for c in plan.controls if finding.step in c.steps]
    for rule in _WATCHERS:
        for control in watching:
            if control.rule == rule:
                return control.id
    return watching[0].id if watching else None


def told_unproven(state: State, food: str) -> bool:
    """True if it is a breach already that a food was served and never shown to be cooked."""
    return any(i.finding.food == food and i.finding.rule in SERVED_UNPROVEN for i in state.open_incidents)


def record(state: State, findings: Iterable[Finding], at_s: float) -> State:
    """The findings as incidents; good practice is noted and is no breach. Food that was thrown away
    harms nobody any more; food that was eaten does."""
    harmful, practice = weighed((f for f in findings if not state.food(f.food).discarded), state.plan.house)
    new = tuple(_incident(state, finding, at_s) for finding in harmful)
    state = changed(state, incidents=(*state.incidents, *new)) if new else state
    return note(state, practice, at_s)


def _incident(state: State, finding: Finding, at_s: float) -> Incident:
    control = control_of(state.plan, finding)
    return Incident(finding=finding, at_s=at_s, control=control, decided=state.waived.get(control or "", ""))


def decide(state: State, reason: str, *, food: str = "", control: str = "") -> State:
    """The educator's word on the open breaches of a food, or of a control point: the bench goes on."""

    def decided(incident: Incident) -> Incident:
        meant = incident.finding.food == food if food else incident.control == control
        return replace(incident, decided=reason) if incident.open and meant else incident

    return changed(state, incidents=tuple(decided(incident) for incident in state.incidents))


# What the recipe itself does: made again, it would be so again.
_INHERENT = frozenset({"no-kill-step", "produce-not-rinsed", "raw-meat-rinsed", "raw-tasted", "allergen-inside"})


def remade_helps(state: State, finding: Finding) -> bool:
    """True if making the food again, with clean hands and kit, can put a breach right: not where the
    recipe itself brings it about, and not where it happened again after the food was made anew."""
    before = (i for i in state.incidents if i.action == "remade" and i.finding.key == finding.key)
    return finding.rule not in _INHERENT and next(before, None) is None


def note(state: State, findings: Iterable[Finding], at_s: float) -> State:
    """Findings that must be seen and are no breach."""
    new = tuple(Noted(finding=f, at_s=at_s) for f in findings)
    return changed(state, noted=(*state.noted, *new)) if new else state


def hopeless_by_heat(finding: Finding) -> bool:
    """True if cooking again does not put it right: heat takes out no allergen, toxin or residue."""
    return bool(finding.soil) and not soil(finding.soil).heat_clears


def mended_by_heat(plan: Plan, finding: Finding) -> str:
    """The food that going back on the heat, and being shown hot, would put right; "" if none."""
    names = (*finding.evidence.get("unproven", ()), finding.food)
    return "" if hopeless_by_heat(finding) else next((name for name in names if name in plan.provable), "")


def throw_away(state: State, food: str, at_s: float, how: Literal["discarded", "remade"]) -> State:
    """Food is thrown away: what it was for is the first breach of it that is open."""
    rule = next((i.finding.rule for i in state.open_incidents if i.finding.food == food), "")
    return changed(state, wasted=(*state.wasted, Waste(food=food, at_s=at_s, how=how, rule=rule)))


def unsaid_waste(state: State) -> tuple[str, ...]:
    """The foods that were thrown away of which nobody has said how much, each once."""
    last = {row.food: row for row in state.wasted}
    return tuple(food for food, row in last.items() if not row.unit)


# So long after a breach was put right it is asked who did it [s].
_ASKED_S = 900.0


def unsaid_menders(state: State, now_s: float) -> tuple[str, ...]:
    """The foods whose breach was put right of late, and of which nobody has said by whom, each once."""
    rows = (row for row in state.incidents if row.mended_s is not None and now_s - row.mended_s < _ASKED_S)
    return tuple(dict.fromkeys(row.finding.food for row in rows if not row.mended_by and row.finding.food))


def mended_by(state: State, food: str, who: str) -> State:
    """Somebody put the breaches of a food right of which nobody had said by whom."""
    if not any(row.mended_s is not None and not row.mended_by and row.finding.food == food for row in state.incidents):
        return state
    rows = (
        replace(row, mended_by=who)
        if row.mended_s is not None and not row.mended_by and row.finding.food == food
        else row
        for row in state.incidents
    )
    return changed(state, incidents=tuple(rows))


def mend(state: State, food: str, at_s: float, action: str, *, rules: Collection[str] = ()) -> State:
    """Mark the open breaches of a food (of ``rules``, if given) as put right."""

    def mended(incident: Incident) -> Incident:
        found = incident.finding
        hopeless = action == "cooked_again" and hopeless_by_heat(found)
        mine = incident.open and found.food == food and (not rules or found.rule in rules)
        # Cooking one thing again does not show that another on the same plate was cooked.
        only_by_proof = action == "cooked_again" and found.rule in SERVED_UNPROVEN and not rules
        if mine and not hopeless and not only_by_proof:
            return replace(incident, mended_s=at_s, action=action)
        return incident

    if not any(i.open and i.finding.food == food for i in state.incidents):
        return state
    return changed(state, incidents=tuple(mended(i) for i in state.incidents))

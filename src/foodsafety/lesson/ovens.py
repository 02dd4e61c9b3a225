"""Ovens: what stands in one, and what another bench has in one that is shared. Heat is all that is shared of it: food
stands in its own dish."""

from __future__ import annotations

from foodsafety.contamination import Finding
from foodsafety.foods import carrier_kinds
from foodsafety.lesson.state import OvenUse, State
from foodsafety.recipes import Process, Step


def ovens_of(process: Process, step: Step) -> tuple[str, ...]:
    """The ovens among the kit of a step."""
    return tuple(name for name in step.tools if process.tools[name].kind in carrier_kinds("ovens"))


def on_heat_s(state: State, step: Step) -> float | None:
    """Since when a step that is not done is on the heat [s]; None once somebody has said that its food came off."""
    off = step.foods and all(state.food(name).off_heat_s is not None for name in step.foods)
    return None if off or step.id in state.done else state.on_heat.get(step.id)


def in_ovens(state: State) -> dict[str, tuple[str, ...]]:
    """The steps that are on the heat in an oven, with that."""
    rows = ((step, ovens_of(state.plan.process, step)) for step in state.plan.process.steps if step.do == "heat")
    return {step.id: ovens for step, ovens in rows if ovens and on_heat_s(state, step) is not None}


def uses_for(state: State, step: Step) -> tuple[OvenUse, ...]:
    """What other benches have in the ovens that a step needs, as far as this bench was told."""
    ovens = ovens_of(state.plan.process, step)
    return tuple(use for use in state.ovens.values() if use.oven in ovens)


def at_other_heat(step: Step, use: OvenUse) -> bool:
    """True if a step needs another heat than an oven is at for somebody else. A heat that nobody wrote is another one:
    nobody knows that it is the same."""
    return step.oven_c is None or use.oven_c is None or round(step.oven_c) != round(use.oven_c)


def heat_findings(state: State, step: Step, uses: tuple[OvenUse, ...]) -> tuple[Finding, ...]:
    """That a step is in an oven that is at another heat for another bench."""
    return tuple(
        Finding(
            rule="oven-at-other-heat",
            step=step.id,
            food=step.makes or next(iter(step.foods), ""),
            path=(use.bench, use.oven),
            evidence={"oven_c": use.oven_c, "wanted_c": step.oven_c, "theirs": use.food},
        )
        for use in uses
        if at_other_heat(step, use)
    )

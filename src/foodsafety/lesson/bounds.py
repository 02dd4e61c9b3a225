"""How far apart two steps may be: what the rule profile asks of a plan's times, taken from its control points."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from foodsafety.lesson.plan import ControlPoint, Plan
from foodsafety.planning import Bound
from foodsafety.recipes import Step

# What the clock of a hot day makes shorter.
_OUT = frozenset({"raw-out-of-fridge", "time-out"})
_KEPT_COLD = frozenset({"chill", "freeze", "marinate"})


def time_bounds(plan: Plan, *, ambient_c: float | None = None) -> tuple[Bound, ...]:
    """Bounds [s] that a lesson's plan must keep, each with its rule and where the profile states it: raw food from the
    first hand on it to the heat, part-cooked food to the heat that finishes it, hot food to the fridge, and hot food
    to the plate. ``ambient_c``: how warm the place is [C], where somebody has said so: a profile's clock for great
    heat is the shorter one."""
    heat = plan.profile.clocks.get("in_heat")
    hot = heat is not None and heat.above is not None and ambient_c is not None and ambient_c > heat.above.c
    rows = [bound for control in plan.controls for bound in _of(plan, control)]
    if heat is None or not hot:
        return tuple(rows)
    return tuple(
        replace(row, s=min(row.s, int(heat.limit_s)), section=heat.section) if row.rule in _OUT else row for row in rows
    )


def _of(plan: Plan, control: ControlPoint) -> Iterator[Bound]:
    if control.rule == "raw-out-of-fridge" and control.limit_s:
        first, *heats = control.steps
        for heat in heats:
            if not _kept_cold_between(plan, first, heat):
                yield _bound(control, first, heat, control.limit_s, since_begin=True)
    elif control.rule == "part-cooked" and control.limit_s and len(control.steps) > 1:
        yield _bound(control, control.steps[0], control.steps[1], control.limit_s)
    elif control.rule == "chilled-in-time" and control.clock:
        yield from _since_heat(plan, control, control.steps[0], control.clock.limit_s)
    elif control.rule == "time-out" and control.limit_s:
        for step in plan.process.steps:
            if step.do == "serve":
                yield from _since_heat(plan, control, step.id, control.limit_s)


def _since_heat(plan: Plan, control: ControlPoint, then: str, s: float) -> Iterator[Bound]:
    """From the last heat of what a step works on to that step, where nothing keeps it cold between."""
    process = plan.process
    at = process.step_index
    wanted = {part for name in process.steps[at[then]].foods for part in process.ingredients_of(name)}
    for part in sorted(wanted):
        heats = [
            step.id
            for step in process.steps[: at[then]]
            if step.do == "heat" and any(part in process.ingredients_of(name) for name in step.foods)
        ]
        if heats and not _kept_cold_between(plan, heats[-1], then):
            yield _bound(control, heats[-1], then, s)


def _kept_cold_between(plan: Plan, first: str, then: str) -> bool:
    """True if all that both steps work on stands in the cold on the way: that stops the clock. Some of it in the
    fridge stops nothing for the rest."""
    process, at = plan.process, plan.process.step_index

    def parts_of(step: Step) -> set[str]:
        return {part for name in step.foods for part in process.ingredients_of(name)}

    shared = parts_of(process.steps[at[first]]) & parts_of(process.steps[at[then]])
    between = process.steps[at[first] : at[then]]
    return bool(shared) and any(step.do in _KEPT_COLD and shared <= parts_of(step) for step in between)


def _bound(control: ControlPoint, first: str, then: str, s: float, *, since_begin: bool = False) -> Bound:
    return Bound(rule=control.rule, section=control.section, first=first, then=then, s=int(s), since_begin=since_begin)

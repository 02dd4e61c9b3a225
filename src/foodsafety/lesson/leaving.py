"""Parts of a meal that a bench may leave out when time is short: what can be dropped whole, and drops no check of what
is still eaten."""

from __future__ import annotations

from dataclasses import dataclass

from foodsafety.lesson.plan import Plan
from foodsafety.lesson.state import State

# Work that is never left out with a dish: hands and kit are soiled by more than one.
_STAYS = frozenset({"wash_hands", "clean", "wipe", "gloves_on", "gloves_off", "serve"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Side:
    """What is served beside something else: its ``food``, the ``steps`` that make only it, what they make (``made``),
    and the control points that watch nothing else."""

    food: str
    steps: frozenset[str]
    made: frozenset[str]
    controls: tuple[str, ...]


def sides(plan: Plan) -> tuple[Side, ...]:
    """Every part of a meal that can be left out whole: something else is served, at least one step falls away, and
    no core temperature is taken of it. What is measured is the meal, not a side of it."""
    served = tuple(plan.serve_step)
    found = [_side(plan, food) for food in served if len(served) > 1]
    return tuple(side for side in found if side.steps and plan.core_behind(side.food) is None)


def _side(plan: Plan, food: str) -> Side:
    process = plan.process
    others = {part for other in plan.serve_step if other != food for part in (other, *plan.behind(other))}
    own = {food, *plan.behind(food)} - others
    steps = {
        step.id
        for step in process.steps
        if step.do not in _STAYS and step.foods and {*step.foods, *([step.makes] if step.makes else [])} <= own
    }
    made = frozenset(name for name in own if name in process.made) | {food}
    controls = tuple(
        row.id
        for row in plan.controls
        if (row.steps and set(row.steps) <= steps) or (row.foods and set(row.foods) <= own)
    )
    return Side(food=food, steps=frozenset(steps), made=made, controls=controls)


def may_leave_out(state: State) -> tuple[Side, ...]:
    """Those of which nothing has been begun, while something else is still to be eaten. A part whose work nobody has
    touched soils nothing by not being made."""
    left = [food for food in state.plan.serve_step if state.food(food).gone is None]
    return tuple(
        side
        for side in sides(state.plan)
        if len(left) > 1 and side.food in left and not side.steps & {*state.done, *state.on_heat}
    )

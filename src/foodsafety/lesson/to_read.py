"""The readings that stand between a bench and its next step, with all that a tablet has to know to weigh them by
itself."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from foodsafety.contamination import Finding
from foodsafety.cooking import CookRule, Probing
from foodsafety.lesson.breaches import SERVED_UNPROVEN
from foodsafety.lesson.proving import heats_of
from foodsafety.lesson.state import State


@dataclass(frozen=True, slots=True, kw_only=True)
class Lacking:
    """A food that is not shown to be cooked through: the rule its readings are held against, for the pieces there are
    and at most (``most_pieces``), the readings so far, and when somebody said that it came off the heat [s]. ``heats``:
    steps not done that put it on the heat, of which ``again`` are those that make every reading before them void."""

    food: str
    rule: CookRule
    most_pieces: int
    readings: tuple[Probing, ...]
    off_heat_s: float | None
    heats: tuple[str, ...]
    again: tuple[str, ...]


def lacking(state: State, findings: Iterable[Finding]) -> tuple[Lacking, ...]:
    """What has to be read before none of these findings is left; nothing where readings alone would not be
    enough: where something else is in the way, a food was not on the heat yet, or its source gives no temperature."""
    found = tuple(findings)
    if any(row.rule not in SERVED_UNPROVEN for row in found):
        return ()
    return lacking_of(state, {name for row in found for name in row.evidence.get("unproven", ()) or (row.food,)})


def lacking_of(state: State, foods: Iterable[str]) -> tuple[Lacking, ...]:
    """The same of foods that are to be read; nothing where readings alone are not enough for one of them."""
    rows = [_of(state, food) for food in sorted(foods)]
    return tuple(row for row in rows if row) if all(rows) else ()


def _of(state: State, food: str) -> Lacking | None:
    held, rule = state.food(food), state.plan.cook_rules.get(food)
    if rule is None or rule.limit.main is None or not (held.on_since_s is not None or heats_of(state, food)):
        return None
    to_come = [step for step in state.plan.process.steps if step.do == "heat" and step.id not in state.done]
    return Lacking(
        food=food,
        rule=rule.for_pieces(held.counted),
        most_pieces=rule.needed,
        readings=held.readings,
        off_heat_s=held.off_heat_s,
        heats=tuple(step.id for step in to_come if food in (*step.foods, step.makes)),
        again=tuple(step.id for step in to_come if food in state.plan.reheated.get(step.id, ())),
    )

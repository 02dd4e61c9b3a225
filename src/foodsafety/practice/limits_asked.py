"""The control points of the recipe: how much is enough, and by when must it be shown?"""

from __future__ import annotations

import random
from collections.abc import Iterator
from typing import Any

from foodsafety.contamination import DRY_VERBS
from foodsafety.lesson import ControlPoint, Plan
from foodsafety.practice.puzzle import Choice, Material, Sketch, right_choice, wrong_choice
from foodsafety.quantities import Temperature

# Steps away from a limit that are far enough to be wrong and near enough to be thought of.
_TEMPERATURES = {"C": (-11, -6, -3, 3, 6), "F": (-20, -10, -5, 5, 10)}
_TIMES = (0.25, 0.5, 1.5, 2.0, 3.0)


def the_limit(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A control point of the recipe: what is its limit, under these rules?"""
    rows = [row for row in material.plan.controls if row.limit is not None or row.limit_s]
    if not rows:
        return None
    rule = draw.choice(sorted({row.rule for row in rows}))
    control = draw.choice([row for row in rows if row.rule == rule])
    if control.limit is not None:
        return _of_temperature(control, control.limit)
    return _of_time(control, control.limit_s or 0.0)


def _asks(control: ControlPoint, what: str) -> dict[str, Any]:
    return {"control": control.rule, "foods": list(control.foods), "watched": list(control.steps), "what": what}


def _of_temperature(control: ControlPoint, limit: Temperature) -> Sketch:
    at_most = control.rule in ("fridge-cold", "chilled-in-time")

    def said(value: float) -> dict[str, Any]:
        return {"limit": [value, limit.unit], "at_most": at_most}

    near = [limit.value + step for step in _TEMPERATURES[limit.unit]]
    return Sketch(
        rule=control.rule,
        asks=_asks(control, "temperature"),
        right=right_choice(f"{limit.value:g}", **said(limit.value)),
        others=[wrong_choice(f"{n:g}", _apart(n, limit.value, at_most=at_most), **said(n)) for n in near],
        why={"limit": [limit.value, limit.unit], "at_most": at_most},
        section=control.section,
        ordered=lambda row: float(row.id),
    )


def _of_time(control: ControlPoint, limit_s: float) -> Sketch:
    """Times out are at most so long; a scrub is at least so long."""
    at_most = control.rule not in ("hands-on-arrival", "hands-after-raw")

    def said(value_s: float) -> dict[str, Any]:
        return {"limit_s": value_s, "at_most": at_most}

    near = [_round(limit_s * part) for part in _TIMES]
    return Sketch(
        rule=control.rule,
        asks=_asks(control, "time"),
        right=right_choice(f"{limit_s:g}", **said(limit_s)),
        others=[wrong_choice(f"{n:g}", _apart(n, limit_s, at_most=at_most), **said(n)) for n in near if n != limit_s],
        why={"limit_s": limit_s, "at_most": at_most},
        section=control.section,
        ordered=lambda row: float(row.id),
    )


def _round(seconds: float) -> float:
    unit = 5.0 if seconds < 120 else 300.0 if seconds < 7200 else 1800.0 if seconds < 86400 else 43200.0
    return max(unit, round(seconds / unit) * unit)


def _apart(value: float, limit: float, *, at_most: bool) -> dict[str, str]:
    """A looser figure harms; a stricter one is safe, and not what the rules ask for."""
    return {"why": "too-loose" if (value > limit) == at_most else "stricter"}


# --- by when? ---------------------------------------------------------------------------------------------

_BACK = ("hands-after-raw", "kit-after-raw")


def latest_step(plan: Plan, control: ControlPoint) -> str | None:
    """The step before which a control point must be shown at the latest. What is washed after raw work is clean before
    the first food that is ready, or cooked, is handled again."""
    where = plan.process.step_index
    if control.rule in _BACK and control.due_after:
        since = max(where[name] for name in control.due_after)
        ready = [n for row in plan.controls if row.rule in ("ready-to-eat-clean", "clean-utensils") for n in row.steps]
        later = [name for name in (*ready, control.missed_after or "") if where.get(name, -1) > since]
        return min(later, key=lambda name: where[name], default=None)
    if control.rule == "ready-to-eat-clean":
        return min(control.steps, key=lambda name: where[name], default=None)
    if control.rule in ("fridge-cold", "hands-on-arrival", "clean-utensils", "core-temperature"):
        return control.missed_after
    return None


def by_when(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A control point of the recipe: before which step must it be shown, at the latest?"""
    plan = material.plan
    rows = [(row, step) for row in plan.controls if (step := latest_step(plan, row)) is not None]
    if not rows:
        return None
    rule = draw.choice(sorted({row.rule for row, _ in rows}))
    control, latest = draw.choice([pair for pair in rows if pair[0].rule == rule])
    where, others = plan.process.step_index, list(_other_steps(plan, control, latest))
    draw.shuffle(others)
    return Sketch(
        rule=control.rule,
        asks=_asks(control, "when"),
        right=right_choice(latest, step=latest),
        others=others,
        why={"step": latest},
        section=control.section,
        ordered=lambda row: where[row.id],
    )


def _other_steps(plan: Plan, control: ControlPoint, latest: str) -> Iterator[Choice]:
    """Steps before which it would be shown too late, or cannot be shown yet."""
    where = plan.process.step_index
    begun = max((where[name] for name in control.due_after), default=-1)
    for step in plan.process.steps:
        at = where[step.id]
        if step.do not in DRY_VERBS and (at > where[latest] or at <= begun):
            yield wrong_choice(step.id, {"why": "too-late" if at > where[latest] else "not-yet"}, step=step.id)

"""What a step asks of who does it: a knife, a hob, an oven, a machine's blade, hot oil."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping

from foodsafety.planning.figures import figures
from foodsafety.recipes import Process, Step

HEATS = ("heat", "part_cook")
_NUMBER = re.compile(r"\d+")


def skill_names() -> tuple[str, ...]:
    """All that can be shown to a learner and asked by a step."""
    return tuple(figures()["skills"])


def asked_of(process: Process, step: Step) -> frozenset[str]:
    """The skills that a step asks."""
    kinds = {process.tools[name].kind for name in step.tools if name in process.tools}
    rows = figures()["skills"]
    found = {name for name, row in rows.items() if _asks(row, process, step, kinds)}
    if step.do in HEATS and not any(rows[name].get("heated") for name in found):
        found |= {name for name, row in rows.items() if kinds & set(row.get("else", ()))}
        if not any(rows[name].get("heated") for name in found) and not kinds & set(figures()["heat"]["harmless"]):
            found |= set(figures()["heat"]["unnamed"])
    return frozenset(found)


def _asks(row: Mapping[str, Collection[str]], process: Process, step: Step, kinds: Collection[str]) -> bool:
    if step.do in row.get("does", ()):
        return True
    if not set(kinds) & set(row["tools"]) or (row.get("heated") and step.do not in HEATS):
        return False
    words = row.get("foods")
    if words is None:
        return True
    parts = {part for name in step.foods for part in process.ingredients_of(name) if part in process.foods}
    kinds_of_food = [kind.id.split("_") for part in parts if (kind := process.foods[part].kind)]
    return any(word in kind for kind in kinds_of_food for word in words)


def old_enough(age: str, skill: str, ages: Mapping[str, int] | None = None) -> bool:
    """True where a band ("10-11", "9", "16+") begins at the age a skill asks; and where no age is known. ``ages``: the
    kitchen's own, which stand above ours."""
    number, ours = _NUMBER.search(age), int(figures()["skills"][skill]["from_age"])
    return number is None or int(number[0]) >= (ages or {}).get(skill, ours)


def may_do(age: str, shown: Collection[str], ages: Mapping[str, int] | None = None) -> frozenset[str]:
    """The skills that somebody may use: shown to them, and old enough by a kitchen's own ages or ours."""
    return frozenset(name for name in skill_names() if name in shown and old_enough(age, name, ages))

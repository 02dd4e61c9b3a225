"""Measures halved with the spoons there are, tools and what they are for, and what is wrong around a hob."""

from __future__ import annotations

import random
from collections.abc import Mapping
from fractions import Fraction
from typing import Any

from foodsafety.foods import Locale, unit_ml
from foodsafety.practice.heat_checks import practice_table
from foodsafety.practice.puzzle import Choice, Material, Sketch, right_choice, wrong_choice
from foodsafety.recipes import SpoonMeasure, spoon_measures

_PARTS = {
    1: (Fraction(1, 2),),
    2: (Fraction(1, 2), Fraction(1, 4)),
    3: (Fraction(1, 2), Fraction(3, 2), Fraction(1, 3)),
}
# What a set of spoons cannot show apart, as a share of the whole.
_SAME = 0.005

Spoons = tuple[SpoonMeasure, ...]


def volume_ml(spoons: Spoons, locale: Locale) -> float:
    """What measures hold together [ml]."""
    return sum(float(row.amount) * (unit_ml(row.unit, locale) or 0.0) for row in spoons)


def how_much_is_part(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A part of an amount of the recipe, with the spoons and cups of a drawer."""
    rows = [row for row in material.amounts if row.unit in ("cup", "tbsp", "tsp") and row.value > 0]
    if not rows:
        return None
    row, part = draw.choice(rows), draw.choice(_PARTS[level])
    whole_ml = row.value * (unit_ml(row.unit, material.locale) or 0.0)
    target_ml = whole_ml * float(part)
    right, error = spoon_measures(target_ml, material.locale, _SAME)
    if error > _SAME:
        return None
    wrong = []
    for factor in (2.0, 0.5, 1.5, 0.75, 1.25, 3.0):
        found, away = spoon_measures(target_ml * factor, material.locale, _SAME)
        if away <= _SAME and abs(volume_ml(found, material.locale) - target_ml) > 4 * _SAME * target_ml:
            wrong.append(found)
    draw.shuffle(wrong)
    return Sketch(
        rule="measuring",
        asks={"food": row.food, "value": row.value, "unit": row.unit, "part": str(part)},
        right=right_choice(_named(right), spoons=_said(right)),
        others=[wrong_choice(_named(found), {"why": "not-it"}, spoons=_said(found)) for found in wrong],
        why={"whole_ml": round(whole_ml, 1), "part_ml": round(target_ml, 1)},
    )


def _named(spoons: Spoons) -> str:
    return "+".join(f"{row.amount}{row.unit}" for row in spoons)


def _said(spoons: Spoons) -> list[list[str]]:
    return [[str(row.amount), row.unit or ""] for row in spoons]


# --- which tool is this? ----------------------------------------------------------------------------------


def which_tool(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A tool, drawn: what is it for? One that the recipe uses where there is one."""
    uses: Mapping[str, str] = practice_table()["tools"]
    own = sorted({tool.kind for tool in material.plan.process.tools.values()} & set(uses))
    tool = draw.choice(own) if own and draw.random() < 0.6 else draw.choice(sorted(uses))
    others = [name for name in sorted(uses) if uses[name] != uses[tool]]
    draw.shuffle(others)
    return Sketch(
        rule="tools",
        asks={"tool": tool},
        right=right_choice(tool, tool=tool, use=uses[tool]),
        others=[wrong_choice(name, {"why": "other-tool"}, tool=name, use=uses[name]) for name in others],
        why={"use": uses[tool]},
    )


# --- what is wrong around this hob? -----------------------------------------------------------------------


def hob_dangers(scene: Mapping[str, Any]) -> tuple[str, ...]:
    """The things in a drawn scene that are wrong: what burns and lies near a flame, and a handle that points out over
    the edge."""
    table = practice_table()["hob"]
    found = []
    for name, row in scene.items():
        if row["what"] == "handle" and abs(row["deg"]) < table["handle_out_deg"]:
            found.append(name)
        if row["what"] == "burns" and row["from_flame_mm"] < table["burns_within_mm"]:
            found.append(name)
    return tuple(found)


_BURNS = ("towel", "paper", "oven_glove", "sleeve")


def hob_wrong(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """A hob with two pans and what lies around it, one thing of which is wrong."""
    if not any(step.do == "heat" for step in material.plan.process.steps):
        return None
    things = draw.sample(_BURNS, k=level)
    wrong = draw.choice(("handle", "handle 2", *things))
    scene = {name: _handle(name, draw, out=name == wrong) for name in ("handle", "handle 2")}
    scene |= {name: _burns(draw, near=name == wrong) for name in things}
    [found] = hob_dangers(scene)
    return Sketch(
        rule="burns-and-fire",
        asks={"scene": scene},
        right=Choice(id=found, says={"thing": found}, right=True),
        others=[wrong_choice(name, {"why": "lies-well"}, thing=name) for name in scene if name != found],
        why={"what": scene[found]["what"]},
    )


def _handle(name: str, draw: random.Random, *, out: bool) -> dict[str, Any]:
    """A handle [degrees from straight out over the edge]: turned in, those of the two pans to either side."""
    side = -1 if name == "handle" else 1
    return {"what": "handle", "deg": side * (draw.randrange(0, 30, 5) if out else draw.randrange(100, 160, 5))}


def _burns(draw: random.Random, *, near: bool) -> dict[str, Any]:
    """Something that burns, so far from the nearest flame [mm]."""
    return {"what": "burns", "from_flame_mm": draw.randrange(20, 140, 10) if near else draw.randrange(420, 680, 20)}

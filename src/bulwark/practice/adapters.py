"""Puzzles to plain data and back, and what they are made of."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.recipes import adapters as recipes
from bulwark.recipes.selectors import Recipe
from foodsafety.lesson import safety_plan
from foodsafety.practice import Amount, Choice, Material, Puzzle
from foodsafety.recipes import process_from
from foodsafety.rules import Profile, house_from


def to_data(puzzle: Puzzle) -> dict[str, Any]:
    """A puzzle as a round keeps it."""
    return {
        "kind": puzzle.kind,
        "rule": puzzle.rule,
        "seed": puzzle.seed,
        "level": puzzle.level,
        "asks": dict(puzzle.asks),
        "why": dict(puzzle.why),
        "section": puzzle.section,
        "likeness": puzzle.likeness,
        "choices": [
            {"id": row.id, "says": dict(row.says), "right": row.right, "why": dict(row.why)} for row in puzzle.choices
        ],
    }


def to_puzzle(data: Mapping[str, Any]) -> Puzzle:
    """The same as the core has it."""
    return Puzzle(
        kind=data["kind"],
        rule=data["rule"],
        seed=data["seed"],
        level=data["level"],
        asks=data["asks"],
        why=data["why"],
        section=data["section"],
        choices=tuple(Choice(id=r["id"], says=r["says"], right=r["right"], why=r["why"]) for r in data["choices"]),
    )


@lru_cache(maxsize=32)
def _material(steps: str, rules: _Rules, amounts: tuple[Amount, ...], locale: Any) -> Material:
    """What is worked out of a recipe once is kept for the next puzzle of it."""
    plan = safety_plan(process_from(json.loads(steps)), rules.profile, house_from(dict(rules.house)))
    return Material(plan=plan, amounts=amounts, locale=locale)


class _Rules:
    """A profile with a kitchen's own limits and house rules, known by what they say."""

    def __init__(self, profile: Profile, house: Mapping[str, Any]) -> None:
        self.profile, self.house = profile, tuple(sorted(house.items()))
        changes = [[row.path, str(row.value)] for row in profile.changes]
        self.key = json.dumps([profile.id, changes, self.house])

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Rules) and self.key == other.key

    def __hash__(self) -> int:
        return hash(self.key)


def material_of(recipe: Recipe, lesson: lessons.Lesson | None = None) -> Material:
    """What puzzles are made of: a lesson's own copy of the recipe and of its rules, or the recipe under the rules that
    hold in this kitchen now."""
    if lesson is not None:
        rules = _Rules(lessons.profile_of(lesson), lesson.house)
        process = lesson.process
    else:
        decided = kitchens.decided_by(recipe.organisation_id)
        rules = _Rules(kitchens.rules_for(recipe.organisation_id, decided.profile), decided.house)
        process = recipe.process
    amounts = tuple(
        Amount(food=item.food or item.text, value=item.low, unit=item.unit)
        for item in recipes.to_ingredients(recipe)
        if item.low and item.low == item.high and item.unit and (item.food or item.text)
    )
    return _material(json.dumps(process, sort_keys=True), rules, amounts, recipe.measures)

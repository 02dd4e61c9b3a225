"""Material for puzzles: the hostel's recipes, and small ones that hold what those do not."""

from functools import cache
from typing import Any

from foodsafety.lesson import safety_plan
from foodsafety.practice import Amount, Material
from foodsafety.recipes import process_from
from foodsafety.rules import House, rule_profile
from tests.builders import DEMOS, AProcess, demo_recipe

AMOUNTS = (Amount(food="flour", value=0.75, unit="cup"), Amount(food="oil", value=3, unit="tbsp"))
NAMES = tuple(path.stem for path in DEMOS)


@cache
def material(name: str, code: str = "us-home", **house: Any) -> Material:
    """One of the hostel's recipes under a set of rules and a kitchen's own."""
    process = process_from(demo_recipe(name)["process"])
    return Material(plan=safety_plan(process, rule_profile(code), House(**house)), amounts=AMOUNTS)


def material_of(process: AProcess, code: str = "us-home", **house: Any) -> Material:
    return Material(plan=safety_plan(process.build(), rule_profile(code), House(**house)), amounts=AMOUNTS)

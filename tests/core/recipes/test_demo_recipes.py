"""The hostel's own recipes under every profile."""

from pathlib import Path

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.lesson import safety_plan
from foodsafety.recipes import (
    process_from,
)
from foodsafety.rules import House, profile_ids, rule_profile
from tests.builders import DEMOS, demo_recipe


@pytest.mark.parametrize("path", DEMOS, ids=lambda path: path.stem)
@pytest.mark.parametrize("code", profile_ids())
def test_every_demo_recipe_stands_up_to_every_profile(path: Path, code: str) -> None:
    process = process_from(demo_recipe(path.stem)["process"])

    assert not find_contamination(process, House())
    plan = safety_plan(process, rule_profile(code))
    assert {"fridge", "hands-arrive", "out", "label"} <= {control.id for control in plan.controls}


def test_the_nine_recipes_have_nine_hazard_patterns() -> None:
    patterns = set()
    for path in DEMOS:
        process = process_from(demo_recipe(path.stem)["process"])
        plan = safety_plan(process, rule_profile("us-home"))
        soils = frozenset(soil for food in process.foods.values() for soil in food.soils)
        patterns.add((soils, tuple(control.rule for control in plan.controls)))

    assert len(patterns) == 9

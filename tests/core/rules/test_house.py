"""House rules."""

import pytest

from foodsafety.lesson import safety_plan
from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    process_from,
)
from foodsafety.rules import House, house_from, rule_profile
from tests.builders import demo_recipe


def test_a_kitchens_own_hand_washing_time_can_only_be_longer() -> None:
    process = process_from(demo_recipe("turkey-koftas")["process"])

    assert [safety_plan(process, rule_profile("uk"), House(scrub_s=s)).scrub_s for s in (0, 10, 30)] == [20, 20, 30]


# --- house rules ---


@pytest.mark.parametrize(
    ("rule", "value"),
    [
        ("boards", "two"),
        ("gloves", "maybe"),
        ("drying", "hair"),
        ("produce", "soap"),
        ("sanitise", "no"),
        ("eggs", "raw"),
        ("scrub_s", -1),
        ("scrub_s", 500),
        ("scrub_s", "20"),
    ],
)
def test_a_house_rule_that_cannot_be_is_named(rule: str, value: object) -> None:
    with pytest.raises(CoreError, match=rf"house\.{rule}"):
        house_from({rule: value})


def test_house_rules_have_a_default_each() -> None:
    assert house_from({}) == House()
    assert house_from({"drying": "paper", "scrub_s": 30}) == House(drying="paper", scrub_s=30.0)

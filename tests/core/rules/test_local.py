"""A kitchen's own limits."""

import datetime as dt
from typing import Any

import pytest

from foodsafety.quantities import CoreError
from foodsafety.rules import LocalChange, changeable_limits, local_profile, profile_ids, rule_profile

# --- local limits ---


def change(path: str, value: float, **more: Any) -> LocalChange:
    return LocalChange(
        **{
            "path": path,
            "value": value,
            "by": "RK",
            "on": dt.date(2026, 11, 1),
            "reason": "the inspector asked",
            **more,
        }
    )


@pytest.mark.parametrize(
    ("path", "value", "weaker"),
    [
        ("cook.poultry.temperature", 170, False),
        ("cook.poultry.temperature", 160, True),
        ("cook.whole_muscle.rest_s", 60, True),
        ("hold.cold.temperature", 45, True),
        ("hold.cold.temperature", 38, False),
        ("hold.hot.temperature", 150, False),
        ("clock.hot.limit_s", 3600, False),
        ("clock.hot.limit_s", 14400, True),
        ("dates.leftover_min_s", 86400, False),
        ("hands.scrub_s", 10, True),
        ("probe.pieces", 3, False),
    ],
)
def test_a_local_limit_is_flagged_where_it_is_weaker(path: str, value: float, weaker: bool) -> None:
    local = local_profile("us-home", [change(path, value)])

    assert (path in local.weaker) is weaker


def test_a_local_profile_changes_its_copy_and_never_the_base() -> None:
    before = rule_profile("us-home").cook["poultry"].main.temperature.value
    local = local_profile("us-home", [change("cook.poultry.temperature", 170)])

    assert local.cook["poultry"].main.temperature.value == 170
    assert rule_profile("us-home").cook["poultry"].main.temperature.value == before
    assert local_profile("us-home", []).changes == ()


@pytest.mark.parametrize(
    ("bad", "field"),
    [
        (change("cook.poultry.unit", 1), r"cook\.poultry\.unit"),
        (change("cook.dragon.temperature", 70), r"cook\.dragon"),
        (change("hands.scrub_s", -1), r"hands\.scrub_s"),
        (change("cook.poultry.temperature", 500), r"cook\.poultry"),
        (change("probe.pieces", 0), r"probe\.pieces"),
        (change("hands.scrub_s", 30, reason=" "), "unsigned limit"),
        (change("hands.scrub_s", 30, by=""), "unsigned limit"),
    ],
)
def test_a_local_limit_that_cannot_be_is_named(bad: LocalChange, field: str) -> None:
    with pytest.raises(CoreError, match=field):
        local_profile("us-home", [bad])


@pytest.mark.parametrize("code", profile_ids())
def test_every_figure_that_can_change_can_be_set_to_itself(code: str) -> None:
    same = [change(path, value) for path, value in changeable_limits(code).items() if value > 0]

    assert local_profile(code, same).weaker == frozenset()

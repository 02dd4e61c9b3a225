"""Fridges and freezers judged by their logs."""

import pytest

from foodsafety.cooling import judge_store
from foodsafety.rules import rule_profile

FOODSERVICE = rule_profile("us-foodservice")


# --- cold stores --------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("rows", "now_s", "standing", "action"),
    [
        ([], 0, "no_reading", "measure"),
        ([(0, 4.0), (600, 5.0)], 600, "cold", "nothing"),
        ([(0, 4.0), (600, 6.0)], 1200, "peak", "watch"),
        ([(0, 4.0), (600, 8.0)], 3600, "alarm", "move"),
        ([(0, 4.0), (600, 8.0), (9000, 8.0)], 15200, "alarm", "discard"),
        ([(0, 4.0), (600, 5.0)], 5000, "silent", "measure"),
        ([(0, 8.0)], 3000, "alarm", "move"),
    ],
    ids=["none", "at the limit", "short", "an hour", "over four hours", "silent", "silent and warm"],
)
def test_a_fridge_is_judged_by_how_long_its_air_was_above_the_limit(
    rows: list[tuple[float, float]], now_s: float, standing: str, action: str
) -> None:
    found = judge_store(tuple(rows), FOODSERVICE, kind="fridge", now_s=now_s)

    assert (found.standing, found.action) == (standing, action)


def test_a_freezer_that_is_still_hard_frozen_is_watched_and_one_that_thawed_is_not() -> None:
    hard = judge_store(((0, -18.0), (600, -9.0)), FOODSERVICE, kind="freezer", now_s=9000)
    thawed = judge_store(((0, -18.0), (600, 9.0)), FOODSERVICE, kind="freezer", now_s=20000)

    assert hard.action == "watch"
    assert thawed.action == "discard"


@pytest.mark.parametrize(("now_s", "standing", "action"), [(1800, "peak", "watch"), (1801, "alarm", "move")])
def test_a_peak_of_exactly_the_grace_is_a_peak(now_s: float, standing: str, action: str) -> None:
    found = judge_store(((0, 8.0),), FOODSERVICE, kind="fridge", now_s=now_s)

    assert (found.standing, found.action) == (standing, action)

"""Food in a store that failed: what it reached, what nobody knows, and a power cut before it is over."""

from __future__ import annotations

import pytest

from foodsafety.cooling import power_cut, unread_s, warmed
from foodsafety.foods import is_raw
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile
from foodsafety.shelf import storage_category, storage_category_ids

PROFILE, HOUR = rule_profile("us-home"), 3600.0


def log(*rows_c: float, every_s: float = 600.0) -> tuple[tuple[float, float], ...]:
    return tuple((n * every_s, at_c) for n, at_c in enumerate(rows_c))


def test_without_a_reading_nothing_is_known() -> None:
    assert warmed((), PROFILE, kind="fridge", now_s=HOUR, depth_m=0.05) is None


def test_a_thick_thing_is_above_the_limit_for_no_longer_than_the_air_was_and_a_while_after() -> None:
    warm = log(4, *[14] * 12, *[3] * 30)
    found = warmed(warm, PROFILE, kind="fridge", now_s=warm[-1][0], depth_m=0.06)
    air = warmed(warm, PROFILE, kind="fridge", now_s=warm[-1][0], depth_m=None)
    assert found is not None
    assert air is not None
    assert found.by_size
    assert not air.by_size
    assert 4 < found.low_c < found.high_c < 14
    assert air.high_c == 14


def test_a_thin_thing_gets_warmer_than_a_thick_one() -> None:
    warm = log(4, *[14] * 12)
    thin, thick = (warmed(warm, PROFILE, kind="fridge", now_s=2 * HOUR, depth_m=depth) for depth in (0.02, 0.08))
    assert thin is not None
    assert thick is not None
    assert thin.low_c > thick.low_c


@pytest.mark.parametrize(("first_c", "at_least_c"), [(2.0, PROFILE.hold["cold"].temperature.c), (11.0, 11.0)])
def test_food_is_taken_to_be_as_warm_as_the_limit_or_as_its_air_was_found(first_c: float, at_least_c: float) -> None:
    found = warmed(log(first_c, 1, 1), PROFILE, kind="fridge", now_s=1200, depth_m=0.05)
    assert found is not None
    assert found.low_c >= at_least_c - 1e-6


@pytest.mark.parametrize(
    ("readings", "silent_s"),
    [
        ((), 4 * HOUR),
        (log(*[4] * 25), 0.0),
        (log(*[4] * 13), 2 * HOUR),
        ((*log(4, 4), *((3 * HOUR + s, c) for s, c in log(4, 4, 4, 4, 4, 4, 4))), 3 * HOUR - 600),
        (tuple((HOUR + s, c) for s, c in log(*[4] * 19)), HOUR),
    ],
)
def test_every_silence_of_a_logger_is_time_of_which_nobody_knows(
    readings: tuple[tuple[float, float], ...], silent_s: float
) -> None:
    assert unread_s(readings, 0.0, 4 * HOUR) == silent_s


def test_a_store_without_power_is_cold_while_it_stays_shut_and_not_a_moment_once_it_is_opened() -> None:
    assert power_cut("fridge", off_s=0).warm_s(5 * HOUR) == HOUR
    assert power_cut("freezer", off_s=0).cold_until_s == power_cut("freezer", off_s=0, filled="half").cold_until_s
    assert power_cut("freezer", off_s=0, filled="full").cold_until_s == 48 * HOUR
    assert power_cut("fridge", off_s=0, lid_shut=False).warm_s(HOUR) == HOUR
    with pytest.raises(CoreError):
        power_cut("cellar", off_s=0)  # type: ignore[arg-type]


def test_what_is_stored_raw_brings_a_soil_that_is_raw_and_nothing_cooked_does() -> None:
    soils = {name: storage_category(name).raw_soil for name in storage_category_ids()}
    assert all(is_raw(soil) for soil in soils.values() if soil)
    assert {name for name, soil in soils.items() if not soil and name.startswith("raw")} == set()
    assert soils["cooked_dish"] == soils["hard_cooked_eggs"] == ""

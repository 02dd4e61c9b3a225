"""Forecasts held against coolings that the exact model makes, with a probe's noise."""

import math
import os

import numpy as np
import pytest

from foodsafety.cooling import judge_cooling
from foodsafety.heat import Body, ConstantProperties, Forecast, Surroundings, conduct, cooling_courses, forecast_at
from foodsafety.quantities import Series
from foodsafety.rules import rule_profile

SHAPES = {"slab": 1, "cylinder": 1, "sphere": 1, "finite_cylinder": 2, "brick": 3}


NOISE_C = 0.2
# A small dose; FORECASTS=200 is what the figures in the notes are from.
COUNT = int(os.environ.get("FORECASTS", "24"))


def a_cooling(seed: int, limit_c: float, *, every_s: float = 120.0) -> tuple[Series, float, float]:
    """Readings until 40 % of the drop to the surroundings, the true time to a limit, the surroundings."""
    draw = np.random.default_rng(seed)
    shape = str(draw.choice(list(SHAPES)))
    size = tuple(float(one) for one in draw.uniform(0.015, 0.06, SHAPES[shape]))
    body = Body(shape=shape, size_m=size, h=float(np.exp(draw.uniform(np.log(6), np.log(200)))))  # type: ignore[arg-type]
    food = ConstantProperties(k=float(draw.uniform(0.35, 0.6)), rho=1040, cp=float(draw.uniform(3300, 3900)))
    around_c, t0_c = float(draw.uniform(1, 4)), float(draw.uniform(60, 75))
    around = Surroundings(((0.0, around_c),))

    def reach(target_c: float) -> float:
        return conduct(body, food, t0_c=t0_c, around=around, until_centre_c=target_c).reached_s or 0.0

    stop_s = reach(t0_c - 0.4 * (t0_c - around_c))
    course = conduct(body, food, t0_c=t0_c, around=around, until_s=stop_s)
    times = np.arange(0, stop_s + 1, min(every_s, stop_s / 8))
    temps = np.interp(times, course.times_s, course.centre_c) + draw.normal(0, NOISE_C, len(times))
    rows = tuple((float(at_s), round(float(temp), 1)) for at_s, temp in zip(times, temps, strict=True))
    return rows, reach(limit_c), around_c


def scores(limit_c: float, *, known: bool, count: int) -> tuple[float, float]:
    """The share of so many coolings forecast within 10 %, and the share that their band covers."""
    near = covered = 0
    for seed in range(count):
        rows, exact_s, around_c = a_cooling(seed, limit_c)
        found = forecast_at(rows, limit_c, around_c=around_c if known else None)
        if found is not None:
            near += abs(found.at_s / exact_s - 1) <= 0.10
            covered += found.early_s <= exact_s <= (found.late_s or math.inf)
    return near / count, covered / count


def test_after_40_per_cent_of_the_drop_nine_of_ten_are_within_10_per_cent_and_the_band_is_honest() -> None:
    near, covered = scores(21.0, known=False, count=COUNT)

    assert near >= 0.9
    assert 0.85 <= covered <= 0.95


def test_with_the_fridge_measured_the_last_limit_is_within_10_per_cent_too() -> None:
    near, covered = scores(5.0, known=True, count=max(12, COUNT // 3))

    assert near >= 0.9
    assert covered >= 0.85


def falling(around_c: float, tau_s: float, until_s: float, every_s: float = 300.0) -> Series:
    return tuple(
        (n * every_s, around_c + (70 - around_c) * math.exp(-n * every_s / tau_s))
        for n in range(int(until_s / every_s) + 1)
    )


@pytest.mark.parametrize(("around_c", "tau_s"), [(4.0, 5400.0), (2.0, 9000.0), (18.0, 4000.0)])
def test_the_forecast_of_a_plain_exponential_is_its_own_end(around_c: float, tau_s: float) -> None:
    exact_s = tau_s * math.log((70 - around_c) / (21.0 - around_c))

    found = forecast_at(falling(around_c, tau_s, 0.5 * exact_s), 21.0)

    assert isinstance(found, Forecast)
    assert found.at_s == pytest.approx(exact_s, rel=0.06 if around_c < 10 else 0.25)
    assert found.early_s <= exact_s <= (found.late_s or math.inf)


def test_a_pot_moved_into_ice_is_forecast_from_what_came_after() -> None:
    on_the_bench = tuple((n * 300.0, 21 + 49 * math.exp(-n * 300 / 20000)) for n in range(12))
    start_s, start_c = on_the_bench[-1]
    in_ice = tuple((start_s + n * 120.0, 1 + (start_c - 1) * math.exp(-n * 120 / 1800)) for n in range(1, 9))
    exact_s = start_s + 1800 * math.log((start_c - 1) / 20)

    found = forecast_at((*on_the_bench, *in_ice), 21.0)

    assert found is not None
    assert found.at_s == pytest.approx(exact_s, rel=0.1)


def test_a_curve_that_levels_off_too_warm_has_no_forecast() -> None:
    assert forecast_at(falling(24.0, 2000.0, 9000.0), 21.0) is None


@pytest.mark.parametrize("rows", [((0.0, 70.0), (60.0, 69.0)), tuple((n * 60.0, 60.0 + n) for n in range(8))])
def test_too_few_readings_or_a_rise_has_no_forecast(rows: Series) -> None:
    assert forecast_at(rows, 21.0) is None


def test_the_band_is_narrower_the_longer_one_looks() -> None:
    def width_s(until_s: float) -> float:
        found = forecast_at(falling(3.0, 6000.0, until_s), 5.0)
        assert found is not None
        return (found.late_s or math.inf) - found.early_s

    assert width_s(16000.0) < width_s(6000.0)


def test_a_course_is_told_for_every_time_to_come_with_its_band() -> None:
    found = cooling_courses(falling(3.0, 6000.0, 5400.0), around_c=3.0)

    assert found is not None
    low, middle, high = found.at(9000.0)
    assert low <= middle <= high
    assert middle == pytest.approx(3 + 67 * math.exp(-1.5), abs=0.5)


def test_a_pot_that_cools_too_slowly_is_warned_of_while_something_can_still_be_done() -> None:
    slow = falling(4.0, 14000.0, 6000.0)
    found = judge_cooling(slow, rule_profile("us-foodservice"), around_c=4.0)

    assert found.verdict == "unfinished"
    assert found.warning is not None
    assert found.warning.stage.due_s < found.warning.ahead.at_s


def test_a_pot_that_cools_in_time_has_no_warning_and_an_hour_without_readings_is_told() -> None:
    quick = falling(3.0, 3000.0, 2400.0)

    assert judge_cooling(quick, rule_profile("us-foodservice"), around_c=3.0).warning is None
    late = (*quick, (quick[-1][0] + 4000.0, 20.0))
    assert judge_cooling(late, rule_profile("us-foodservice")).gaps == ((2400.0, 6400.0),)

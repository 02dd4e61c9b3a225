"""Out-of-temperature clocks and their schools."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.quantities import Temperature
from foodsafety.rules import rule_profile
from foodsafety.shelf import (
    Clock,
    judge_clock,
    out_of_control_s,
    school_verdict,
)

HOME = rule_profile("us-home")


H = 3600.0


# --- clocks ---------------------------------------------------------------------------------------------------------


def test_time_out_adds_up_over_trips_exactly() -> None:
    cold, hot = Temperature(value=5, unit="C"), Temperature(value=60, unit="C")
    rows = ((0.0, 4.0), (600.0, 10.0), (1800.0, 10.0), (2400.0, 4.0), (9000.0, 4.0), (9600.0, 5.0), (9900.0, 5.0))

    # Five sixths of each slope, the level part, and nothing at the limit itself.
    assert out_of_control_s(rows, cold, hot) == pytest.approx(500 + 1200 + 500)


@pytest.mark.parametrize(
    ("school", "hours", "action"),
    [
        ("2_4", 1.99, "keep"), ("2_4", 2.0, "use_now"), ("2_4", 3.99, "use_now"), ("2_4", 4.0, "discard"),
        ("4_6", 4.0, "cannot_judge"), ("4_6", 4.01, "discard"),
    ],
)  # fmt: skip
def test_each_school_of_clocks_at_its_limits(school: str, hours: float, action: str) -> None:
    assert school_verdict(hours * H, school).action == action  # type: ignore[arg-type]


def test_six_hours_only_for_food_shown_to_have_begun_cold_and_stayed_below_70_f() -> None:
    cool = ((0.0, 5.0), (5 * H, 20.0))

    def action(readings: tuple[tuple[float, float], ...]) -> str:
        return school_verdict(5 * H, "4_6", readings).action

    assert action(cool) == "use_now"
    assert action(((0.0, 5.0), (5 * H, 22.0))) == "discard"
    assert action(((0.0, 6.0), (5 * H, 20.0))) == "discard"


TWO_HOURS = rule_profile("us-home").clocks["hot"]


def test_time_out_adds_up_over_trips() -> None:
    clock = Clock().out(0).back(600).out(1000).back(1300)

    assert clock.total_s(9999) == 900


@pytest.mark.parametrize(("out_s", "standing"), [(7199, "within"), (7200, "within"), (7201, "over")])
def test_a_clock_is_within_at_its_limit_and_over_beyond_it(out_s: float, standing: str) -> None:
    assert judge_clock(Clock().out(0), TWO_HOURS, now_s=out_s).standing == standing


def test_a_device_clock_set_back_takes_no_time_away() -> None:
    assert Clock(spent_s=600).out(1000).total_s(500) == 600


@given(st.lists(st.floats(0, 1e5), min_size=1, max_size=10))
def test_a_clock_never_runs_backwards(moments: list[float]) -> None:
    clock, last = Clock(), 0.0
    for i, at_s in enumerate(sorted(moments)):
        clock = clock.out(at_s) if i % 2 == 0 else clock.back(at_s)
        assert clock.total_s(at_s) >= last
        last = clock.total_s(at_s)

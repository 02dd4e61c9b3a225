"""The time of a step rings by itself: from when it really began, until somebody has said that it is done."""

from __future__ import annotations

from foodsafety.lesson import safety_plan, step_clocks
from foodsafety.rules import rule_profile
from tests.builders import ABench, a_bench, a_process

MIN = 60.0


def slow() -> ABench:
    """A stew that cooks for 20 to 25 minutes, and rests."""
    made = a_process().food("beef", "raw_meat")
    made.step("heat", "beef", tools="pan", id="cook", minutes=25, low_min=20)
    made.step("rest", "beef", id="rest", minutes=5, waiting_min=5, after=["cook"])
    return ABench(safety_plan(made.serve("beef").build(), rule_profile("us-home")))


def test_a_clock_runs_from_when_the_food_went_on_the_heat_to_when_it_is_done() -> None:
    bench = slow()
    assert step_clocks(bench.state) == ()
    bench.says("on_heat", step="cook")
    [clock] = step_clocks(bench.state)
    assert (clock.step, clock.name) == ("cook", "beef")
    assert (clock.rings_s, clock.over_s) == (bench.now_s + 20 * MIN, bench.now_s + 25 * MIN)
    bench.does("cook")
    [rest] = step_clocks(bench.state)
    assert (rest.step, rest.over_s) == ("rest", bench.state.done["cook"] + 5 * MIN)
    assert step_clocks(bench.does("rest").state) == ()


def test_food_that_came_off_the_heat_has_no_clock_any_more() -> None:
    bench = slow().says("on_heat", step="cook").says("off_heat", food="beef")
    assert "cook" not in [clock.step for clock in step_clocks(bench.state)]


def test_a_rest_that_nobody_tapped_is_over_once_what_follows_it_is_done() -> None:
    made = a_process().food("beef", "raw_meat").step("heat", "beef", tools="pan", id="cook", minutes=25)
    made.step("rest", "beef", id="rest", minutes=5, waiting_min=5, after=["cook"])
    made.step("cut", "beef", tools="knife", hands="AK", id="slice", after=["rest"])
    bench = ABench(safety_plan(made.serve("beef").build(), rule_profile("us-home"))).does("cook")
    assert [clock.step for clock in step_clocks(bench.state)] == ["rest"]
    assert step_clocks(bench.does("slice").state) == ()


def test_a_heat_that_was_off_in_a_pause_rings_later() -> None:
    bench = a_bench().shapes_koftas().washes("AK").does("wash", "wash-up", "slice").says("on_heat", step="griddle")
    [before] = step_clocks(bench.state)
    bench.says("paused", why="power", after_s=60).says("resumed", after_s=600).says(
        "heat_said", step="griddle", off=True
    )
    [after] = step_clocks(bench.state)
    assert after.rings_s == before.rings_s + 600

"""A lesson that stops for a while: every clock of food goes on, and coming back nothing is taken for safe."""

from __future__ import annotations

import pytest

from foodsafety.lesson import Event, coming_back, fold, read_entry
from foodsafety.lesson.entry import AtBench
from foodsafety.quantities import CoreError
from tests.builders import LEARNERS, ABench, a_bench

MIN = 60.0


def at_the_griddle() -> ABench:
    return a_bench().shapes_koftas().washes("AK").does("wash", "wash-up", "slice").says("on_heat", step="griddle")


def what(bench: ABench, now_s: float) -> dict[str, str]:
    return {row.food: row.what for row in coming_back(bench.state, now_s)}


def test_a_pause_stops_no_clock_of_food() -> None:
    paused, plain = at_the_griddle(), at_the_griddle()
    paused.says("paused", why="fire", after_s=0)
    assert paused.state.paused
    paused.says("resumed", after_s=20 * MIN)
    plain.says("called", after_s=20 * MIN)
    now_s = paused.now_s
    for food in ("raita", "salad"):
        assert paused.state.food(food).out_s(now_s) == plain.state.food(food).out_s(now_s)
    assert not paused.state.paused


def test_a_heat_that_was_off_begins_later_and_its_food_stood_out_for_as_long() -> None:
    bench = at_the_griddle().says("paused", why="power", after_s=3 * MIN)
    on_s, out_s = bench.state.on_heat["griddle"], bench.state.food("koftas").out_s(bench.now_s)
    bench.says("resumed", after_s=20 * MIN)
    assert bench.state.pause
    assert bench.state.pause.asks == ("griddle",)
    bench.says("heat_said", step="griddle", off=True)

    assert bench.state.on_heat["griddle"] == on_s + 20 * MIN, "its three minutes on the heat stay three"
    assert bench.state.food("koftas").out_s(bench.now_s) == out_s + 20 * MIN
    [row] = [row for row in coming_back(bench.state, bench.now_s) if row.food == "koftas"]
    assert row.what == "heat"


def test_a_heat_that_stayed_on_has_gone_on() -> None:
    bench = at_the_griddle().says("paused", why="fire", after_s=3 * MIN)
    on_s, out_s = bench.state.on_heat["griddle"], bench.state.food("koftas").out_s(bench.now_s)
    bench.says("resumed", after_s=5 * MIN).says("heat_said", step="griddle", off=False)

    assert bench.state.on_heat["griddle"] == on_s
    assert bench.state.food("koftas").out_s(bench.now_s) == out_s
    assert "koftas" not in what(bench, bench.now_s), "it is on the heat, and its probe will say"


@pytest.mark.parametrize(("away_min", "then"), [(10, "fine"), (130, "throw")])
def test_what_was_out_has_so_long_left_or_is_thrown_away(away_min: float, then: str) -> None:
    bench = a_bench().shapes_koftas().says("paused", why="fire", after_s=MIN).says("resumed", after_s=away_min * MIN)
    [row] = coming_back(bench.state, bench.now_s)
    assert (row.food, row.what) == ("koftas", then), "everything else is in the fridge or needs no clock"
    left_s = max(0.0, 7200 - bench.state.food("koftas").out_s(bench.now_s))
    assert row.left_s == pytest.approx(left_s)


def test_as_long_as_nobody_has_said_that_the_heat_stayed_on_it_counts_as_off() -> None:
    bench = at_the_griddle().says("paused", why="power", after_s=MIN).says("resumed", after_s=130 * MIN)
    assert what(bench, bench.now_s) == {"koftas": "throw"}, "not said is not safe"
    bench.says("heat_said", step="griddle", off=True)
    assert what(bench, bench.now_s) == {"koftas": "throw"}

    on = at_the_griddle().says("paused", why="fire", after_s=MIN).says("resumed", after_s=130 * MIN)
    on.says("heat_said", step="griddle", off=False)
    assert "koftas" not in what(on, on.now_s), "it stayed on, and the probe decides"


def test_a_heat_that_began_in_the_pause_gets_back_no_more_than_was_held() -> None:
    bench = a_bench().shapes_koftas().washes("AK").does("wash", "wash-up", "slice")
    bench.says("paused", why="fire", after_s=MIN).says("on_heat", step="griddle", after_s=8 * MIN)
    on_s, out_s = bench.now_s, bench.state.food("koftas").out_s(bench.now_s)
    bench.says("resumed", after_s=2 * MIN)
    assert bench.state.on_heat["griddle"] == on_s + 2 * MIN
    bench.says("heat_said", step="griddle", off=False)
    assert (bench.state.on_heat["griddle"], bench.state.food("koftas").out_s(bench.now_s)) == (on_s, out_s)


def test_what_is_said_after_the_proof_takes_nothing_off_the_clock_that_runs_since() -> None:
    bench = at_the_griddle().says("paused", why="fire", after_s=MIN).says("resumed", after_s=20 * MIN)
    bench.does("griddle").probes(80, 80, 80)
    out_s = bench.state.food("koftas").out_s(bench.now_s + 600)
    bench.says("heat_said", step="griddle", off=False)
    assert bench.state.food("koftas").out_s(bench.now_s + 590) == out_s > 0


def test_a_second_pause_forgets_no_heat_that_nobody_has_spoken_of() -> None:
    bench = at_the_griddle().says("paused", why="power", after_s=MIN).says("resumed", after_s=20 * MIN)
    out_s = bench.state.food("koftas").out_s(bench.now_s)
    bench.says("paused", why="fire", after_s=MIN).says("resumed", after_s=5 * MIN)
    assert bench.state.food("koftas").out_s(bench.now_s) == out_s + 5 * MIN
    bench.says("heat_said", step="griddle", off=False)
    assert bench.state.food("koftas").out_s(bench.now_s) == out_s, "of the second pause alone it was said"
    assert what(bench, bench.now_s)["koftas"] == "heat"


def test_nobody_goes_on_before_the_heat_is_spoken_of() -> None:
    bench = at_the_griddle().says("paused", why="fire", after_s=MIN).says("resumed", after_s=MIN).says("back_seen")
    assert bench.state.pause
    assert not bench.state.pause.seen
    bench.says("heat_said", step="griddle", off=False).says("back_seen")
    assert bench.state.pause.seen


def test_twice_paused_twice_resumed_and_said_twice_is_once() -> None:
    bench = at_the_griddle().says("paused", why="fire", after_s=MIN).says("paused", why="power", after_s=MIN)
    assert bench.state.pause
    assert bench.state.pause.why == "fire"
    on_s = bench.state.on_heat["griddle"]
    bench.says("resumed", after_s=10 * MIN).says("resumed", after_s=10 * MIN)
    bench.says("heat_said", step="griddle", off=True).says("heat_said", step="griddle", off=True)
    assert bench.state.on_heat["griddle"] == on_s + 11 * MIN


def test_in_whatever_order_the_entries_arrive_the_bench_is_the_same() -> None:
    bench = at_the_griddle().says("paused", why="power", after_s=MIN).says("resumed", after_s=8 * MIN)
    bench.says("heat_said", step="griddle", off=True).says("back_seen")
    shuffled: list[Event] = [*bench.events[::2], *bench.events[1::2]]
    assert fold(bench.plan, LEARNERS, sorted(shuffled, key=lambda event: event.at_s)) == bench.state


@pytest.mark.parametrize(
    ("kind", "data", "field"),
    [
        ("paused", {"why": "lunch"}, "why"),
        ("paused", {}, "why"),
        ("heat_said", {"step": "mix", "off": True}, "step"),
        ("heat_said", {"step": "griddle", "off": "perhaps"}, "off"),
        ("heat_said", {"step": "griddle"}, "off"),
    ],
)
def test_a_wrong_field_is_named(kind: str, data: dict[str, object], field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        read_entry(kind, data, AtBench(a_bench().plan, LEARNERS))
    assert wrong.value.field == field

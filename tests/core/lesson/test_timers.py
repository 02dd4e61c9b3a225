"""Timers that a bench sets by hand: never lost, never doubled, and they ring until somebody answers."""

import itertools

import pytest

from foodsafety.lesson import Event, State, fold, read_entry
from foodsafety.lesson.entry import AtBench
from foodsafety.quantities import CoreError
from tests.builders import LEARNERS, a_bench

SET = {"timer": "t1", "name": "rice", "minutes": 12}


def folded(*events: tuple[float, str, dict]) -> State:
    plan = a_bench().plan
    rows = [Event(id=f"e{n}", kind=kind, at_s=at_s, data=data) for n, (at_s, kind, data) in enumerate(events)]
    return fold(plan, LEARNERS, rows)


def test_a_timer_rings_when_its_minutes_are_over_and_until_it_is_answered() -> None:
    state = folded((100, "timer_set", SET))

    [(name, timer)] = state.running
    assert (name, timer.name, timer.rings_s) == ("t1", "rice", 820)
    assert folded((100, "timer_set", SET), (900, "timer_answered", {"timer": "t1"})).running == ()


def test_the_one_that_rings_first_stands_first() -> None:
    state = folded(
        (0, "timer_set", SET),
        (10, "timer_set", {"timer": "t2", "name": "eggs", "minutes": 2}),
        (20, "timer_set", {"timer": "t3", "name": "rolls", "minutes": 30}),
    )

    assert [timer.name for _, timer in state.running] == ["eggs", "rice", "rolls"]


def test_a_second_tap_sets_no_second_timer_and_moves_none() -> None:
    state = folded((0, "timer_set", SET), (60, "timer_set", {**SET, "minutes": 40}))

    assert [timer.rings_s for _, timer in state.running] == [720]


@pytest.mark.parametrize(
    ("at_s", "by_min", "rings_s"),
    [(60, 1, 780), (60, -1, 660), (60, -30, 60), (800, 2, 920), (800, -2, 800)],
    ids=["later", "sooner", "never before now", "from now once it rang", "rings on"],
)
def test_a_timer_is_moved(at_s: float, by_min: float, rings_s: float) -> None:
    state = folded((0, "timer_set", SET), (at_s, "timer_nudged", {"timer": "t1", "by_min": by_min}))

    assert state.timers["t1"].rings_s == rings_s


def test_one_that_was_stopped_runs_again_when_it_is_given_more_time() -> None:
    state = folded(
        (0, "timer_set", SET),
        (30, "timer_answered", {"timer": "t1"}),
        (60, "timer_nudged", {"timer": "t1", "by_min": 5}),
    )

    assert [name for name, _ in state.running] == ["t1"]


def test_what_is_said_of_a_timer_that_nobody_set_changes_nothing() -> None:
    assert folded((0, "timer_answered", {"timer": "x"}), (1, "timer_nudged", {"timer": "x", "by_min": 1})).timers == {}


def test_timers_of_several_tablets_stand_the_same_in_whatever_order_they_arrive() -> None:
    events = [
        Event(id="a", kind="timer_set", at_s=0, data=SET),
        Event(id="b", kind="timer_set", at_s=5, data={"timer": "t2", "name": "eggs", "minutes": 3}),
        Event(id="c", kind="timer_nudged", at_s=9, data={"timer": "t1", "by_min": 1}),
        Event(id="d", kind="timer_answered", at_s=12, data={"timer": "t2"}),
    ]
    plan = a_bench().plan

    states = [fold(plan, LEARNERS, order) for order in itertools.permutations(events)]
    assert all(state.timers == states[0].timers for state in states)
    assert [name for name, _ in states[0].running] == ["t1"]


@pytest.mark.parametrize(
    ("kind", "data", "field"),
    [
        ("timer_set", {**SET, "minutes": 0}, "minutes"),
        ("timer_set", {**SET, "minutes": 1e9}, "minutes"),
        ("timer_set", {**SET, "minutes": "nan"}, "minutes"),
        ("timer_set", {**SET, "name": " "}, "name"),
        ("timer_set", {**SET, "name": "n" * 41}, "name"),
        ("timer_set", {**SET, "timer": "../x"}, "timer"),
        ("timer_nudged", {"timer": "t1", "by_min": 90}, "by_min"),
        ("timer_answered", {}, "timer"),
    ],
)
def test_what_is_no_timer_is_refused_by_its_field(kind: str, data: dict, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        read_entry(kind, data, AtBench(a_bench().plan, LEARNERS))
    assert wrong.value.field == field

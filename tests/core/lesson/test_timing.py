"""The time a recipe gives a step, and how many pieces there are to probe."""

from typing import Any

import pytest

from foodsafety.lesson import (
    Event,
    State,
    advance,
    begun_s,
    bricks,
    left_s,
    opening_state,
    pieces_needed,
    safety_plan,
    verdict_of,
)
from foodsafety.recipes import process_from
from foodsafety.rules import rule_profile

START_S = 1000.0


def pan(minutes: float | None = 10, low_min: float | None = None, do: str = "heat") -> State:
    """Chicken that is laid in a pan and then heated for so many minutes."""
    timed: dict[str, Any] = {"id": "2", "do": do, "foods": ["chicken"], "tools": ["pan"], "hands": []}
    timed |= {"minutes": minutes, "waiting_min": minutes} if minutes is not None else {}
    timed |= {"low_min": low_min} if low_min is not None else {}
    data = {
        "foods": {"chicken": {"kind": "chicken"}},
        "tools": {"pan": "frying_pan"},
        "people": ["A"],
        "serve": ["chicken"],
        "steps": [
            {"id": "1", "do": "transfer", "foods": ["chicken"], "tools": ["pan"], "hands": ["A"]},
            timed,
            {"id": "3", "do": "serve", "foods": ["chicken"], "tools": [], "hands": []},
        ],
    }
    state = opening_state(safety_plan(process_from(data), rule_profile("us-home")), ["A"])
    return says(state, START_S, "step_done", step="1", by=["A"])


def says(state: State, at_s: float, kind: str, **data: Any) -> State:
    return advance(state, Event(id=f"{kind}{at_s}", kind=kind, at_s=at_s, data=data))[0]


def noted(state: State) -> list[str]:
    return [row.finding.rule for row in state.noted]


@pytest.mark.parametrize(
    ("minutes", "low_min", "gone_s", "short_s"),
    [
        (10, None, 2, 598),  # a tap at once
        (10, None, 479, 121),
        (10, None, 480, 0),  # exactly four fifths of the time
        (10, None, 600, 0),
        (12, 5, 239, 61),  # a window counts from its least
        (12, 5, 240, 0),
        (1.5, None, 2, 0),  # too short to be asked about
        (None, None, 2, 0),  # the recipe gives no time
    ],
)
def test_what_is_short_of_its_time(minutes: float | None, low_min: float | None, gone_s: float, short_s: float) -> None:
    state = pan(minutes, low_min)
    step = state.plan.step("2")
    assert left_s(state, step, START_S + gone_s) == pytest.approx(short_s)
    done = says(state, START_S + gone_s, "step_done", step="2", by=["A"])
    assert ("done-early" in noted(done)) is (short_s > 0)


def test_time_runs_from_the_heat_where_somebody_said_so() -> None:
    state = says(pan(), START_S + 500, "on_heat", step="2")
    assert begun_s(state, state.plan.step("2")) == START_S + 500
    assert left_s(state, state.plan.step("2"), START_S + 600) == 500


def test_work_that_nobody_waits_for_has_no_time_to_be_short_of() -> None:
    state = pan(do="mix")
    assert left_s(state, state.plan.step("2"), START_S + 1) == 0


def test_a_chill_that_goes_on_is_not_early() -> None:
    state = pan(do="chill")
    assert "done-early" not in noted(says(state, START_S + 5, "step_done", step="2", by=["A"], goes_on=True))
    assert "done-early" in noted(says(state, START_S + 5, "step_done", step="2", by=["A"]))


def test_nobody_knows_when_the_first_step_began() -> None:
    state = opening_state(pan().plan, ["A"])
    assert left_s(state, state.plan.step("2"), START_S) == 0


def cooked(*pieces: str, core_c: float = 80.0) -> State:
    state = says(pan(), START_S + 600, "step_done", step="2", by=["A"])
    for i, piece in enumerate(pieces):
        state = says(state, START_S + 601 + i, "core_read", food="chicken", piece=piece, core_c=core_c)
    return state


def status(state: State) -> str:
    verdict = verdict_of(state, "chicken", START_S + 900)
    assert verdict is not None
    return verdict.status


@pytest.mark.parametrize(("counted", "needed"), [(None, 3), (1, 1), (2, 2), (3, 3), (24, 3)])
def test_no_more_pieces_are_asked_for_than_there_are(counted: int | None, needed: int) -> None:
    state = cooked()
    if counted:
        state = says(state, START_S + 700, "counted", food="chicken", pieces=counted)
    assert pieces_needed(state, "chicken") == needed


def test_one_piece_is_shown_by_itself_whether_it_was_counted_before_or_after() -> None:
    assert status(cooked("1")) == "too_few"
    assert status(says(cooked("1"), START_S + 700, "counted", food="chicken", pieces=1)) == "reached"
    before = says(cooked(), START_S + 600, "counted", food="chicken", pieces=1)
    assert status(says(before, START_S + 700, "core_read", food="chicken", piece="1", core_c=80.0)) == "reached"


def test_of_many_pieces_as_many_are_probed_as_the_rules_ask() -> None:
    assert status(says(cooked("1", "2", "3"), START_S + 700, "counted", food="chicken", pieces=24)) == "reached"
    assert status(says(cooked("1", "2"), START_S + 700, "counted", food="chicken", pieces=24)) == "too_few"


def test_counting_proves_nothing_by_itself_and_takes_nothing_below_the_limit() -> None:
    assert status(says(cooked(), START_S + 700, "counted", food="chicken", pieces=1)) == "not_measured"
    low = says(cooked("1", core_c=60.0), START_S + 700, "counted", food="chicken", pieces=1)
    assert status(low) == "below"


def test_hands_after_raw_work_that_nobody_is_named_for_are_everybodys() -> None:
    state = opening_state(pan().plan, ["A"])
    state = says(state, START_S, "step_done", step="1", by=[])
    state = says(state, START_S + 5, "hands_washed", learner="A", scrub_s=30.0)
    brick = next(row for row in bricks(state, START_S + 6) if row.control.rule == "hands-after-raw")
    assert brick.status == "laid"
    assert brick.evidence["left"] == ()


def test_more_pieces_than_were_thought_take_the_proof_back_until_they_are_shown() -> None:
    one = says(cooked("1"), START_S + 700, "counted", food="chicken", pieces=1)
    assert one.food("chicken").proof is not None
    more = says(one, START_S + 710, "counted", food="chicken", pieces=12)
    assert more.food("chicken").proof is None
    assert status(more) == "too_few"
    for n in ("2", "3"):
        more = says(more, START_S + 720 + int(n), "core_read", food="chicken", piece=n, core_c=80.0)
    assert more.food("chicken").proof is not None


@pytest.mark.parametrize(("pieces", "seen"), [(1, True), (2, True), (3, False), (24, False)])
def test_fewer_pieces_than_the_rules_ask_for_are_seen_by_a_person(pieces: int, seen: bool) -> None:
    state = says(cooked(), START_S + 700, "counted", food="chicken", pieces=pieces)
    assert ("fewer-pieces" in noted(state)) is seen

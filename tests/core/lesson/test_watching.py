"""What an assistant has watched: it proves nothing, and a wash that was seen to go wrong was none."""

from __future__ import annotations

import pytest

from foodsafety.lesson import SEEN, WATCHED, bricks, may_send, next_step, to_watch, would_breach
from tests.builders import a_bench


@pytest.mark.parametrize("what", WATCHED)
@pytest.mark.parametrize("seen", SEEN)
def test_what_was_seen_is_kept_and_lays_no_brick(what: str, seen: str) -> None:
    bench = a_bench()
    before = [(row.control.id, row.status) for row in bricks(bench.state, 100.0)]
    bench.says("watched", what=what, learner="AK", seen=seen)
    assert bench.state.watched[what, "AK"].seen == seen
    assert [(row.control.id, row.status) for row in bricks(bench.state, 100.0)] == before
    assert [row.finding.rule for row in bench.state.noted] == (["seen-wrong"] if seen == "wrong" else [])


def test_a_hand_wash_that_was_seen_to_go_wrong_leaves_on_the_hands_what_was_on_them() -> None:
    bench = a_bench().shapes_koftas(by="AK").does("wash-up").washes("AK")
    assert would_breach(bench.state, "slice", ["AK"]) == ()
    bench.says("watched", what="hands", learner="AK", seen="wrong")

    assert {row.soil for row in would_breach(bench.state, "slice", ["AK"])} >= {"raw_poultry"}
    assert bench.state.person("AK").washed is None
    hands = next(row for row in bricks(bench.state, bench.now_s) if row.control.rule == "hands-after-raw")
    assert (hands.status, hands.evidence["left"]) == ("due", ("AK",))
    bench.washes("AK")
    assert would_breach(bench.state, "slice", ["AK"]) == (), "washed again, and that was not seen to go wrong"


def test_seen_wrong_on_arrival_the_first_wash_does_not_count_either() -> None:
    bench = a_bench().arrives()
    bench.says("watched", what="hands", learner="JT", seen="wrong")
    arrive = next(row for row in bricks(bench.state, bench.now_s) if row.control.rule == "hands-on-arrival")
    assert arrive.status == "due"


def test_a_short_wash_that_counted_for_nothing_takes_nothing_away_either() -> None:
    bench = a_bench().shapes_koftas(by="AK").says("hands_washed", learner="AK", scrub_s=5)
    held = bench.state.surfaces["AK"]
    bench.says("watched", what="hands", learner="AK", seen="wrong")
    assert bench.state.surfaces["AK"] == held


def test_what_to_look_at_follows_what_the_bench_does() -> None:
    bench = a_bench()
    assert to_watch(bench.state)[0] == "hands", "nobody has washed"
    bench.arrives().does("grate", "stir", "chill")
    assert to_watch(bench.state) == ("board", "hair"), "raw turkey next"
    bench.does("mix", "shape")
    step = next_step(bench.state)
    assert step
    assert step.do == "wash_hands"
    assert to_watch(bench.state)[0] == "hands"
    bench.washes("AK").does("wash", "wash-up")
    assert to_watch(bench.state) == ("grip", "board"), "the salad is cut"


def test_nobody_but_who_looks_on_says_it_and_they_say_nothing_else() -> None:
    assert may_send("watched", front=False, watches=True)
    assert may_send("watched", front=True)
    assert not may_send("watched", front=False)
    for kind in ("core_read", "step_done", "hands_washed", "voided", "paused", "waived"):
        assert not may_send(kind, front=False, watches=True)

"""What may be done about a breach, best first, and how much was thrown away."""

import pytest

from foodsafety.lesson import Waste, brick_corrections, bricks, corrections, fold, unsaid_menders, unsaid_waste
from foodsafety.lesson.correcting import DOS, _actions, allowed
from foodsafety.rules import profile_ids
from tests.builders import ABench, a_bench


def ways(bench: ABench) -> list[str]:
    found = bench.state.open_incidents[0].finding
    return [row.do for row in corrections(bench.state, found, bench.now_s)]


def test_food_served_unproven_is_measured_first_then_cooked_on_then_thrown_away() -> None:
    bench = a_bench().cooks().does("serve")

    assert ways(bench) == ["measure", "cook_on", "discard"]
    assert ways(bench.says("cooked_again", food="koftas")) == ["measure", "discard"], "it is on the heat already"


def test_a_salad_that_met_raw_hands_is_made_again_once_and_the_hands_are_washed_while_they_carry_it() -> None:
    bench = a_bench().shapes_koftas().does("slice", by="AK")
    found = bench.state.open_incidents[0].finding
    first = corrections(bench.state, found, bench.now_s)

    assert [row.do for row in first][-2:] == ["remake", "discard"]
    assert ("wash", ("AK",)) in [(row.do, row.who) for row in first]
    bench.washes("AK")
    assert "wash" not in ways(bench), "they carry it no more"
    again = bench.says("remade", food=found.food).does("mix", "shape", by="AK").does("slice", by="AK")
    assert "remake" not in ways(again), "made anew, it happened again"


def test_what_is_eaten_leaves_nothing_but_to_ask() -> None:
    bench = a_bench().shapes_koftas().does("slice", by="AK")
    found = bench.state.open_incidents[0].finding
    bench.says("gone", food=found.food, how="eaten")

    assert [row.do for row in corrections(bench.state, found, bench.now_s)] == ["ask"]


def test_a_missed_brick_says_what_to_do_now_and_one_that_stands_says_nothing() -> None:
    bench = a_bench().washes().does("grate")
    rows = {brick.control.id: brick_corrections(bench.state, brick) for brick in bricks(bench.state, bench.now_s)}

    assert [row.do for row in rows["fridge"]] == ["ask"]
    assert all(not rows[b.control.id] for b in bricks(bench.state, bench.now_s) if b.status in ("todo", "laid", "due"))


def test_food_out_too_long_is_thrown_away_and_used_at_once_only_where_the_profile_says_so() -> None:
    assert allowed("time-out", "us-home") == ("discard",)
    assert allowed("time-out", "anz") == ("serve_now", "discard")
    assert allowed("time-out", "anz/schools") == ("serve_now", "discard"), "a house profile keeps its parent's"
    assert allowed("no such rule", "uk") == ("remake", "discard", "ask")
    for code in ("us-home", "anz"):
        bench = (
            a_bench(code).cooks().probes(80, 80, 80).does("probe", "plate", "serve").says("called", after_s=4 * 3600)
        )
        out = next(b for b in bricks(bench.state, bench.now_s) if b.control.rule == "time-out")
        assert out.status == "breach"
        dos = {row.do for row in brick_corrections(bench.state, out)}
        assert dos == {"discard"}, "after four hours nothing else is left anywhere"


@pytest.mark.parametrize("code", ["us-home", "anz"])
def test_what_was_put_away_too_late_is_still_to_be_thrown_away(code: str) -> None:
    bench = a_bench(code).cooks().probes(80, 80, 80).does("probe", "plate", "serve")
    bench.says("stored", food="koftas", place="fridge", after_s=3 * 3600)

    out = next(b for b in bricks(bench.state, bench.now_s) if b.control.rule == "time-out")
    dos = {(row.do, row.food) for row in brick_corrections(bench.state, out)}
    assert ("discard", "koftas") in dos
    assert ("serve_now", "koftas") not in dos, "it has been put back"


def test_every_action_of_the_data_is_one_that_we_know() -> None:
    actions = _actions()
    named = [do for row in actions["rules"].values() for do in row] + list(actions["other"])
    named += [do for own in actions["profile"].values() for row in own.values() for do in row]

    assert set(named) <= set(DOS)
    assert set(actions["profile"]) <= {code.split("/")[0] for code in profile_ids()}


# --- how much was thrown away --------------------------------------------------------------------------------------


def test_what_is_thrown_away_is_asked_about_until_somebody_says_how_much() -> None:
    bench = a_bench().shapes_koftas().does("slice", by="AK")
    found = bench.state.open_incidents[0].finding
    assert unsaid_waste(bench.state) == ()
    bench.says("remade", food=found.food)

    assert unsaid_waste(bench.state) == (found.food,)
    assert bench.state.wasted[0].rule == found.rule
    bench.says("waste_said", food=found.food, unit="g", value=240)
    assert unsaid_waste(bench.state) == ()
    bench.says("gone", food=found.food, how="discarded")
    assert unsaid_waste(bench.state) == (found.food,), "another time, another amount"
    bench.says("waste_said", food=found.food, unit="unweighed")
    assert [(row.value, row.unit, row.how) for row in bench.state.wasted] == [
        (240, "g", "remade"),
        (None, "unweighed", "discarded"),
    ]


def test_how_much_is_said_again_and_the_last_word_counts() -> None:
    bench = a_bench().cooks().says("gone", food="koftas", how="discarded")
    bench.says("waste_said", food="koftas", unit="g", value=2400).says(
        "waste_said", food="koftas", unit="pieces", value=8
    )

    assert bench.state.wasted == (Waste(food="koftas", at_s=bench.now_s - 20, how="discarded", value=8, unit="pieces"),)


def test_nothing_thrown_away_has_no_amount_and_the_fold_is_the_same_from_the_log() -> None:
    bench = a_bench().cooks().says("waste_said", food="koftas", unit="g", value=10)
    assert bench.state.wasted == ()
    bench.says("gone", food="koftas", how="discarded").says("waste_said", food="koftas", unit="g", value=10)

    assert fold(bench.plan, bench.state.learners, bench.events).wasted == bench.state.wasted


@pytest.mark.parametrize("value", [0, -1, 100_001, "much", None])
def test_an_amount_that_is_none_is_refused(value: object) -> None:
    bench = a_bench().cooks().says("gone", food="koftas", how="discarded")
    bench.says("waste_said", food="koftas", unit="g", value=value)

    assert bench.state.wasted[0].unit == ""
    assert [row.finding.rule for row in bench.state.noted][-1] == "entry-not-understood"


def test_who_put_it_right_is_asked_once_and_only_of_what_was_put_right() -> None:
    bench = a_bench().shapes_koftas().does("slice", by="AK")
    food = bench.state.open_incidents[0].finding.food
    assert unsaid_menders(bench.state, bench.now_s) == ()
    bench.says("mended_by", food=food, learner="JT")
    assert not [row for row in bench.state.incidents if row.mended_by], "nothing is put right yet"
    bench.says("remade", food=food)
    assert unsaid_menders(bench.state, bench.now_s) == (food,)
    assert unsaid_menders(bench.state, bench.now_s + 3600) == ()
    bench.says("mended_by", food=food, learner="JT").says("mended_by", food=food, learner="NB")
    assert {row.mended_by for row in bench.state.incidents if row.finding.food == food} == {"JT"}
    assert unsaid_menders(bench.state, bench.now_s) == ()

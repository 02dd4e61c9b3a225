"""The lesson told again: what carried it when, what was caught, what to teach."""

import pytest

from foodsafety.lesson import Incident, best_catch, bricks, fold, lanes, state_at, teach_next
from tests.builders import LEARNERS, ABench, a_bench


def slipped() -> ABench:
    """AK's hands are raw from the mince when they slice the salad; the salad is made again."""
    bench = a_bench().shapes_koftas().does("slice", by="AK")
    found = bench.state.open_incidents[0].finding
    return bench.says("remade", food=found.food).does("wash-up", by="AK").washes("AK").does("slice", by="AK")


def by_hand(bench: ABench) -> Incident:
    """The breach that AK's hands brought about."""
    return next(row for row in bench.state.incidents if "AK" in row.finding.path)


def test_hands_carry_it_from_the_mince_until_they_are_washed_and_the_salad_until_it_is_made_again() -> None:
    bench = slipped()
    incident = by_hand(bench)
    rows = {row.carrier: row for row in lanes(bench.plan, LEARNERS, bench.events, incident.finding)}

    hands = rows["AK"]
    assert hands.kind == "hands"
    assert hands.stretches[0].from_s < incident.at_s < (hands.stretches[0].to_s or 0)
    assert hands.stretches[0].ended == "hands_washed"
    food = rows[incident.finding.food]
    assert food.stretches[0].ended == "remade"
    assert food.stretches[0].from_s == incident.at_s
    assert incident.at_s in [at for at, _step in food.touched]


def test_what_goes_into_something_else_carries_it_no_further() -> None:
    bench = slipped()
    source = lanes(bench.plan, LEARNERS, bench.events, by_hand(bench).finding)[0]

    assert source.kind == "food"
    assert [row.ended for row in source.stretches] == ["joined"]


def test_a_moment_is_the_fold_of_what_had_happened_by_then() -> None:
    bench = slipped()
    began = bench.state.incidents[0].at_s

    before, after = (state_at(bench.plan, LEARNERS, bench.events, at) for at in (began - 1, began))
    assert before.incidents == ()
    assert after.open_incidents
    assert state_at(bench.plan, LEARNERS, bench.events, bench.now_s) == fold(bench.plan, LEARNERS, bench.events)


def test_an_entry_that_was_taken_back_is_in_no_moment() -> None:
    bench = a_bench().shapes_koftas().does("slice", by="AK")
    wrong = bench.events[-1].id
    bench.says("voided", event=wrong, reason="it was JT")

    assert state_at(bench.plan, LEARNERS, bench.events, bench.now_s - 1).incidents == ()


def test_a_low_reading_that_was_cooked_on_is_the_best_catch() -> None:
    bench = a_bench().cooks().probes(71).says("cooked_again", food="koftas", after_s=5)
    bench.says("cleaned", tools=["probe"], how="clean").probes(80, 80, 80, after_s=60)
    found = best_catch(bench.state, bench.events)

    assert found is not None
    assert (found.how, found.food, found.low_c) == ("measured", "koftas", 71)
    assert found.after_s > 60


def test_a_breach_put_right_is_a_catch_and_one_thrown_away_or_nothing_is_none() -> None:
    found = best_catch(slipped().state, slipped().events)
    assert found is not None
    assert found.how == "mended"
    thrown = a_bench().shapes_koftas().does("slice", by="AK")
    thrown.says("gone", food=thrown.state.open_incidents[0].finding.food, how="discarded")
    assert best_catch(thrown.state, thrown.events) is None
    assert best_catch(a_bench().state, []) is None


def test_what_stayed_open_is_taught_before_what_was_mended_and_what_was_missed() -> None:
    mended, still_open = slipped(), a_bench().cooks().does("serve")
    rows = teach_next(
        {
            name: (bench.state, bricks(bench.state, bench.now_s, ended=True))
            for name, bench in {"Gannet": mended, "Tern": still_open}.items()
        }
    )

    core = next(row for row in rows if row.rule == "core-temperature")
    assert ("Tern", "open") in [(name, how) for name, _s, _who, how in core.seen]
    hands = next(row for row in rows if row.rule == by_hand(mended).finding.rule)
    assert ("Gannet", "AK", "mended") in [(name, who, how) for name, _s, who, how in hands.seen]
    open_ones = [any(how == "open" for *_rest, how in row.seen) for row in rows]
    assert open_ones == sorted(open_ones, reverse=True)
    assert [row.rank for row in rows] == sorted((row.rank for row in rows), reverse=True)


@pytest.mark.parametrize("at", [-100.0, 0.0])
def test_before_anything_nothing_is_known(at: float) -> None:
    bench = slipped()

    assert state_at(bench.plan, LEARNERS, bench.events, at) == fold(bench.plan, LEARNERS, [])

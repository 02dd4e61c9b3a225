"""A log told again as a process: what was done, not what was planned."""

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.lesson import process_from_log
from foodsafety.quantities import CoreError
from foodsafety.rules import House
from tests.builders import ABench, koftas


def told(bench: ABench) -> list[tuple[str, tuple[str, ...], tuple[str, ...]]]:
    process = process_from_log(bench.plan, ("AK", "JT", "NB"), bench.events).process
    return [(step.do, step.foods, step.hands or step.tools) for step in process.steps]


def test_a_wash_too_short_is_no_wash() -> None:
    bench = ABench().says("hands_washed", learner="AK", scrub_s=5).says("hands_washed", learner="JT", scrub_s=25)

    assert [do for do, _, _ in told(bench)] == ["touch", "wash_hands"]


def test_hands_are_those_that_did_it() -> None:
    bench = ABench().washes().does("mix", by="NB")

    assert told(bench)[-1][2] == ("NB",)


def test_a_tapped_wash_step_proves_nothing() -> None:
    bench = ABench().washes("AK").does("mix").does("wash")

    assert [do for do, _, _ in told(bench)] == ["wash_hands", "mix"]


def test_heat_stands_where_the_probe_proved_it() -> None:
    bench = ABench(koftas()).washes().does("mix", "shape", "griddle")
    assert [do for do, _, _ in told(bench)][-1] == "part_cook"

    for piece in range(1, 9):
        bench.says("core_read", food="koftas", piece=str(piece), core_c=80.0)
    assert "heat" in [do for do, _, _ in told(bench)]


def test_a_voided_entry_is_left_out() -> None:
    bench = ABench().washes("AK").does("mix")
    bench.says("voided", event=bench.events[-1].id, reason="tapped by mistake")

    assert [do for do, _, _ in told(bench)] == ["wash_hands"]


def test_a_touched_phone_and_a_wipe_are_told() -> None:
    bench = ABench().washes("AK").says("touched", learner="AK", what="phone")
    bench.says("cleaned", tools=["board"], how="wipe").says("swapped", tools=["tongs"])

    assert [do for do, _, _ in told(bench)] == ["wash_hands", "touch", "wipe", "clean"]


def test_what_was_done_is_judged_as_any_process() -> None:
    bench = ABench().washes("AK").does("mix", "slice").does("serve")
    process = process_from_log(bench.plan, ("AK", "JT", "NB"), bench.events).process

    rules = {(f.rule, f.soil, f.food) for f in find_contamination(process, House(arrive="unwashed"))}
    assert ("ready-to-eat-meets-raw", "raw_poultry", "salad") in rules


def test_what_was_thrown_away_is_judged_and_said_to_be_gone() -> None:
    bench = ABench().washes("AK").does("mix", "slice").says("gone", food="salad", how="discarded").does("serve")
    retold = process_from_log(bench.plan, ("AK", "JT", "NB"), bench.events)

    assert retold.discarded == {"salad"}
    assert all("salad" not in step.foods for step in retold.process.steps if step.do == "serve")
    assert {f.food for f in find_contamination(retold.process) if f.soil == "raw_poultry"} >= {"salad"}


def test_what_is_made_again_is_another_food_from_then_on() -> None:
    bench = ABench().washes("AK").does("mix", "slice").says("remade", food="salad").washes("AK", "JT")
    bench.says("cleaned", tools=["board"], how="clean").says("swapped", tools=["knife", "salad plate"]).does(
        "slice", by="JT"
    )
    retold = process_from_log(bench.plan, ("AK", "JT", "NB"), bench.events)

    found = {f.food for f in find_contamination(retold.process) if f.soil == "raw_poultry" and "salad" in f.food}
    assert found == {"salad 1"}
    assert retold.discarded == {"salad 1"}


def test_what_no_reading_proved_is_named_whether_made_or_not() -> None:
    bench = ABench(koftas()).washes().does("grate")
    assert process_from_log(bench.plan, ("AK",), bench.events).unproven == ("koftas",)

    bench.does("mix", "shape", "griddle")
    for piece in range(1, 9):
        bench.says("core_read", food="koftas", piece=str(piece), core_c=80.0)
    assert process_from_log(bench.plan, ("AK",), bench.events).unproven == ()


def test_an_empty_log_is_said_plainly() -> None:
    with pytest.raises(CoreError):
        process_from_log(koftas(), ("AK",), [])

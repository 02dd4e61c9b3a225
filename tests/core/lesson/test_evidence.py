"""What the bricks say when evidence is there, missing, late or failed."""

import pytest

from foodsafety.lesson import (
    bricks,
    verdict_of,
)
from foodsafety.quantities import c_from_f
from tests.builders import ABench, a_bench


def status(bench: ABench, control: str, now_s: float | None = None) -> str:
    rows = {b.control.id: b.status for b in bricks(bench.state, bench.now_s if now_s is None else now_s)}
    return rows[control]


def soils(bench: ABench, carrier: str) -> set[str]:
    return set(bench.state.surfaces.get(carrier, ()))


# --- bricks -------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("readings_c", "expected"),
    [([], "due"), ([4.4], "laid"), ([c_from_f(40)], "laid"), ([4.5], "breach"), ([9.5, 4.0], "mended")],
    ids=["none", "below 40 F", "exactly 40 F", "above 40 F", "put right"],
)
def test_the_fridge_brick(readings_c: list[float], expected: str) -> None:
    bench = a_bench()
    for reading_c in readings_c:
        bench.says("fridge_read", core_c=reading_c)

    assert status(bench, "fridge") == expected


def test_a_brick_whose_time_passed_is_missed_and_late_evidence_mends_it() -> None:
    bench = a_bench().washes().does("grate", by="JT")

    assert status(bench, "fridge") == "missed"
    assert status(bench.says("fridge_read", core_c=4), "fridge") == "mended"


def test_a_waived_brick_says_so_and_keeps_the_reason() -> None:
    bench = a_bench().washes().does("grate").says("waived", control="fridge", reason="thermometer broken")

    assert status(bench, "fridge") == "waived"
    assert bench.state.waived == {"fridge": "thermometer broken"}


def test_a_breach_cannot_be_waived_away() -> None:
    bench = a_bench().shapes_koftas(by="AK").does("slice", by="AK").says("waived", control="clean-salad", reason="late")

    assert status(bench, "clean-salad") == "breach"


def test_a_reason_given_beforehand_does_not_make_a_failed_limit_pass() -> None:
    bench = a_bench().says("waived", control="fridge", reason="old thermometer").says("fridge_read", core_c=12)

    assert status(bench, "fridge") == "breach"


def test_everyone_who_touched_raw_must_wash_back() -> None:
    bench = a_bench().arrives().does("mix", by="AK").does("shape", by="JT").washes("AK")

    assert status(bench, "hands-back") == "due"
    assert status(bench.washes("JT"), "hands-back") == "laid"


def test_a_wash_between_mixing_and_shaping_counts_for_the_one_who_only_mixed() -> None:
    bench = a_bench().arrives().does("mix", by="AK").washes("AK").does("shape", by="JT").washes("JT")

    assert status(bench, "hands-back") == "laid"


# --- cooking --------------------------------------------------------------------------------------------


def test_heat_is_believed_when_the_probe_proves_it() -> None:
    bench = a_bench().cooks()

    assert "raw_poultry" in soils(bench, "koftas")
    assert soils(bench.probes(80, 81, 74), "koftas") == set()


@pytest.mark.parametrize(
    ("cores_c", "expected"),
    [((80, 81), "due"), ((80, 81, 73), "due"), ((80, 81, c_from_f(165)), "laid")],
    ids=["two pieces", "one too low", "exactly 165 F"],
)
def test_the_core_brick_needs_three_pieces_at_the_limit(cores_c: tuple[float, ...], expected: str) -> None:
    assert status(a_bench().cooks().probes(*cores_c), "core-griddle") == expected


def test_uk_koftas_are_proven_by_a_reading_after_two_minutes() -> None:
    bench = a_bench("uk").cooks().probes(75, 76, 77)

    verdict = verdict_of(bench.state, "koftas", bench.now_s)
    assert verdict
    assert (verdict.status, verdict.remaining_s) == ("hold", 120)
    assert "koftas" not in bench.state.proven
    assert "koftas" in bench.says("core_read", food="koftas", piece="1", core_c=74, after_s=120).state.proven


def test_serving_unmeasured_koftas_is_never_taken_for_safe() -> None:
    bench = a_bench().cooks().does("plate", "serve")

    assert "served-not-measured" in [i.finding.rule for i in bench.state.open_incidents]
    assert status(bench, "core-griddle") == "breach"


def test_serving_koftas_below_the_limit_is_told_apart_from_not_measuring() -> None:
    bench = a_bench().cooks().probes(80, 81, 70).does("plate", "serve")

    assert "served-below-limit" in [i.finding.rule for i in bench.state.open_incidents]


# --- clocks, leftovers ----------------------------------------------------------------------------------------


def served(code: str = "us-home") -> ABench:
    return (
        a_bench(code)
        .cooks()
        .probes(80, 80, 80)
        .says("cold_read", food="raita", core_c=4)
        .does("probe", "plate", "serve")
    )


@pytest.mark.parametrize(
    ("ambient_c", "after_s", "expected"),
    [(None, 7200 - 210, "due"), (None, 7201, "breach"), (35, 3601, "breach"), (30, 3601, "due")],
    ids=["within two hours", "over", "over one hour in the heat", "one hour in the cool"],
)
def test_the_clock_runs_from_the_last_hot_reading_and_not_from_serving(
    ambient_c: float | None, after_s: float, expected: str
) -> None:
    bench = served()
    if ambient_c is not None:
        bench.says("ambient_read", ambient_c=ambient_c, after_s=0)

    assert status(bench, "out", bench.now_s + after_s) == expected


def test_food_put_away_in_time_lays_the_bricks() -> None:
    bench = served().says("stored", food="koftas", place="fridge").says("gone", food="raita", how="eaten")

    assert (status(bench, "out"), status(bench, "label")) == ("laid", "laid")
    assert bench.state.kept["koftas"].out_s > 0


def test_food_out_too_long_is_mended_only_by_throwing_it_away() -> None:
    bench = served().says("gone", food="raita", how="eaten").says("stored", food="koftas", place="fridge", after_s=7300)

    assert status(bench, "out") == "breach"
    assert status(bench.says("gone", food="koftas", how="discarded"), "out") == "mended"


def test_raita_is_not_taken_for_cold_without_a_reading() -> None:
    bench = a_bench().cooks().probes(80, 80, 80).does("probe", "plate", "serve")

    assert status(bench, "chilled-chill") == "missed"


def raw_clock(bench: ABench, after_s: float) -> str:
    rows = {b.control.rule: b.status for b in bricks(bench.state, bench.now_s + after_s)}
    return rows["raw-out-of-fridge"]


def test_raw_food_that_waits_for_the_heat_is_out_and_on_the_heat_it_is_not() -> None:
    waiting = a_bench().shapes_koftas()
    heated = a_bench().shapes_koftas().says("on_heat", step="griddle")

    assert raw_clock(waiting, 3 * 3600) == "breach"
    assert raw_clock(heated, 3 * 3600) == "laid"


def test_on_the_heat_proves_nothing_cooked() -> None:
    bench = a_bench().shapes_koftas().says("on_heat", step="griddle", after_s=60)

    assert "koftas" not in bench.state.proven
    assert "raw_poultry" in soils(bench, "koftas")


def test_only_a_heat_step_can_begin_and_it_begins_once() -> None:
    bench = a_bench().shapes_koftas().says("on_heat", step="griddle").says("on_heat", step="griddle", after_s=900)

    assert bench.now_s - bench.state.on_heat["griddle"] == 900
    assert bench.says("on_heat", step="slice").findings[0].rule == "entry-not-understood"


def test_food_made_again_waits_for_the_heat_anew() -> None:
    bench = a_bench().shapes_koftas().says("on_heat", step="griddle").says("remade", food="koftas")

    assert "griddle" not in bench.state.on_heat

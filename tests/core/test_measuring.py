"""Logs looked over, instruments with faults, cold stores judged, thermometers checked."""

import datetime as dt
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.cooling import judge_store
from foodsafety.measuring import (
    DoorOpening,
    ProbeFaults,
    SimulatedCook,
    SimulatedStore,
    boiling_c,
    check_thermometer,
    clock_of_day,
    fitting_thermometers,
    minutes_seconds,
    pressure_kpa,
    probe_placement,
    probe_shows,
    probed_foods,
    question_log,
    read_log_csv,
    review_log,
    store_air,
    thermometer_kinds,
    typed_probings,
    typed_readings,
)
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile

FOODSERVICE = rule_profile("us-foodservice")


# --- readings ---------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("rows", "doubts"),
    [
        ([(0, 60), (600, 55), (610, 95), (1200, 50)], ["jump"]),
        ([(0, 60), (600, 55), (1200, 10)], []),
        ([(0, 60), (900, 50), (1800, 90), (2700, 40)], ["jump"]),
        ([(0, 60), (60, 20)], ["jump"]),
        ([(0, 60), (60, 20), (120, 19.5)], []),
        ([(0, 60), (600, 55), (300, 58)], ["out_of_order"]),
        ([(0, 60), (0, 60), (600, 50)], ["repeated"]),
        ([(0, 60), (0, 58), (600, 50)], ["conflict"]),
        ([(0, 60), (300, None), (600, 50)], ["missing"]),
        ([(0, 60), (300, 900), (600, 50)], ["impossible"]),
    ],
    ids=["jump of 40", "fast but possible", "out and in", "unconfirmed", "moved and confirmed", "order",
         "repeat", "conflict", "missing", "impossible"],
)  # fmt: skip
def test_what_is_wrong_with_a_log_is_flagged(rows: list[tuple[float, float | None]], doubts: list[str]) -> None:
    found = review_log(rows, counts="higher")

    assert [flag.doubt for flag in found.flags] == doubts


def test_a_jump_is_kept_and_not_trusted() -> None:
    found = review_log([(0, 60), (600, 55), (610, 95), (1200, 50)], counts="higher")

    assert (610, 95) in found.kept
    assert (610, 95) not in found.series


@pytest.mark.parametrize(("counts", "value"), [("higher", 60), ("lower", 58)])
def test_of_conflicting_repeats_the_worse_counts(counts: str, value: float) -> None:
    found = review_log([(0, 60), (0, 58), (600, 50)], counts=counts)  # type: ignore[arg-type]

    assert found.series[0] == (0, value)


@given(st.lists(st.tuples(st.floats(0, 1e6), st.floats(-50, 200)), max_size=30))
def test_nothing_is_lost_and_order_never_matters(rows: list[tuple[float, float]]) -> None:
    found, shuffled = review_log(rows, counts="higher"), review_log(rows[::-1], counts="higher")

    assert {at_s for at_s, _ in found.kept} == {at_s for at_s, _ in rows}
    assert set(found.series) <= set(found.kept)
    assert shuffled.series == found.series


def test_a_long_time_without_a_reading_is_a_gap() -> None:
    assert review_log([(0, 60), (5000, 40)], counts="higher").gaps == ((0, 5000),)


@pytest.mark.parametrize(
    ("text", "seconds", "values", "unit"),
    [
        ("time,temp C\n2026-06-13 14:00,60\n2026-06-13 14:30,45.5\n", [0, 1800], [60, 45.5], "C"),
        ("Clock;Core °F\n23:50;140,5\n00:10;120\n", [85800, 87000], [140.5, 120], "F"),
        ("minutes\ttemperature\n0\t60\n\n30\tERR\n", [0, 1800], [60, None], None),
        ("\ufeffseconds,id,celsius\n5,a,1\n6,b,2\n", [5, 6], [1, 2], "C"),
    ],
    ids=["iso", "clock past midnight, decimal comma, fahrenheit", "minutes and an error", "bom, seconds"],
)
def test_csv_logs_are_read_as_loggers_write_them(
    text: str, seconds: list[float], values: list[float | None], unit: str | None
) -> None:
    found = read_log_csv(text.splitlines(keepends=True))

    assert [row[0] for row in found.rows] == seconds
    assert [row[1] for row in found.rows] == values
    assert found.unit == unit


@pytest.mark.parametrize(
    ("text", "field"),
    [("", "log"), ("a,b\n1,2\n", "log.time"), ("time,b\n1,2\n", "log.temperature"), ("time,temp\n", "log"),
     ("time,temp\nx,2\n", "log.time")],
)  # fmt: skip
def test_a_csv_that_cannot_be_a_log_says_what_is_missing(text: str, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        read_log_csv(text.splitlines(keepends=True))

    assert wrong.value.field == field


def test_a_long_log_is_read_line_by_line_and_tells_how_far_it_is() -> None:
    told: list[int] = []
    lines = (f"{n},{20 - n / 10000:.2f}\n" for n in range(25_000))

    found = read_log_csv((line for part in (["seconds,celsius\n"], lines) for line in part), told.append)

    assert len(found.rows) == 25_000
    assert told == [10_000, 20_000]


@pytest.mark.parametrize(
    ("values", "unit", "question"),
    [([140, 120, 90], "C", "looks_fahrenheit"), ([60, 40, 5], "C", None), ([60, 20, 4], "F", "looks_celsius"),
     ([140, 70, 41], "F", None), ([], "C", None)],
)  # fmt: skip
def test_a_log_in_the_wrong_unit_is_asked_about(values: list[float], unit: str, question: str | None) -> None:
    assert question_log(values, unit) == question  # type: ignore[arg-type]


def test_typed_readings_take_minutes_or_clock_times_and_name_a_wrong_line() -> None:
    assert typed_readings("0 60\n20 57,5\n").rows == ((0.0, 60.0), (1200.0, 57.5))
    clock = typed_readings("23:50 60\n00:10 55")
    assert clock.rows == ((0.0, 60.0), (1200.0, 55.0))
    assert clock.clock_s == 23 * 3600 + 50 * 60
    for text, field in (("0 60\nhot", "readings line 2"), ("0 60\n13:20 50", "readings"), ("", "readings")):
        with pytest.raises(CoreError) as wrong:
            typed_readings(text)
        assert wrong.value.field == field


def test_typed_probings_and_times_of_the_clock() -> None:
    (first, second) = typed_probings("1 4:20 58\n2 7.5 61.5")
    assert (first.piece, first.at_s, first.value) == ("1", 260.0, 58.0)
    assert second.at_s == 450.0
    with pytest.raises(CoreError):
        typed_probings("1 58")
    assert minutes_seconds("7:30") == 450.0
    assert clock_of_day("18:30") == 66600.0
    assert clock_of_day("25:00") is None


# --- instruments ----------------------------------------------------------------------------------------------


def test_a_probe_lags_and_settles_drifts_and_runs_flat() -> None:
    faults = ProbeFaults(lag_s=4.0, noise_c=0.0, drift_c_day=1.0, battery_percent=20, drain_percent_h=10)

    def shows(in_food_s: float, age_s: float) -> object:
        return probe_shows(faults, 70.0, in_food_s=in_food_s, before_c=20.0, age_s=age_s, draw=random.Random(1))

    early, late, next_day = shows(4.0, 0.0), shows(60.0, 0.0), shows(60.0, 5400.0)
    assert early.celsius == pytest.approx(70 - 50 / 2.71828, abs=0.1)  # type: ignore[attr-defined]
    assert not early.settled  # type: ignore[attr-defined]
    assert late.celsius == 70.0
    assert late.settled
    assert next_day.celsius is None  # flat  # type: ignore[attr-defined]
    assert shows(60.0, 3600.0).celsius == pytest.approx(70.0, abs=0.1)  # type: ignore[attr-defined]


def test_a_probe_out_by_more_than_a_degree_is_not_called_calibrated() -> None:
    def calibrated(offset_c: float) -> bool:
        faults = ProbeFaults(offset_c=offset_c)
        return probe_shows(faults, 70, in_food_s=60, before_c=20, age_s=0, draw=random.Random(1)).calibrated

    assert calibrated(1.0)
    assert not calibrated(1.1)


def test_a_piece_on_the_griddle_warms_towards_its_surface() -> None:
    piece = SimulatedCook(half_m=0.009, start_c=8.0, surface_c=95.0)

    assert piece.core_c(0) == pytest.approx(8.0)
    assert 60 < piece.core_c(600) < piece.core_c(900) < 95


def test_a_store_goes_on_from_where_it_stood_as_if_run_in_one() -> None:
    store = SimulatedStore(set_c=3.0, doors=(DoorOpening(at_s=7000, for_s=600),))
    whole, _ = store_air(store, until_s=20000, every_s=300, seed=4)
    first, state = store_air(store, until_s=9000, every_s=300, seed=4)
    second, _ = store_air(store, until_s=20000, every_s=300, seed=4, state=state)

    assert (*first, *second) == whole


def test_a_door_is_a_peak_and_a_failure_an_alarm_that_ends_in_the_bin() -> None:
    door, _ = store_air(
        SimulatedStore(set_c=3.0, doors=(DoorOpening(at_s=7000, for_s=300),)), until_s=20000, every_s=300
    )
    off, _ = store_air(SimulatedStore(set_c=3.0, fails_s=3000), until_s=60000, every_s=300)

    assert max(c for _, c in door) > 5.0
    assert judge_store(door, FOODSERVICE, kind="fridge", now_s=20000).action in ("nothing", "measure")
    assert judge_store(door, FOODSERVICE, kind="fridge", now_s=20000).standing == "cold"
    assert judge_store(off, FOODSERVICE, kind="fridge", now_s=60000).action == "discard"


# --- cold stores --------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("rows", "now_s", "standing", "action"),
    [
        ([], 0, "no_reading", "measure"),
        ([(0, 4.0), (600, 5.0)], 600, "cold", "nothing"),
        ([(0, 4.0), (600, 6.0)], 1200, "peak", "watch"),
        ([(0, 4.0), (600, 8.0)], 3600, "alarm", "move"),
        ([(0, 4.0), (600, 8.0), (9000, 8.0)], 15200, "alarm", "discard"),
        ([(0, 4.0), (600, 5.0)], 5000, "silent", "measure"),
        ([(0, 8.0)], 3000, "alarm", "move"),
    ],
    ids=["none", "at the limit", "short", "an hour", "over four hours", "silent", "silent and warm"],
)
def test_a_fridge_is_judged_by_how_long_its_air_was_above_the_limit(
    rows: list[tuple[float, float]], now_s: float, standing: str, action: str
) -> None:
    found = judge_store(tuple(rows), FOODSERVICE, kind="fridge", now_s=now_s)

    assert (found.standing, found.action) == (standing, action)


def test_a_freezer_that_is_still_hard_frozen_is_watched_and_one_that_thawed_is_not() -> None:
    hard = judge_store(((0, -18.0), (600, -9.0)), FOODSERVICE, kind="freezer", now_s=9000)
    thawed = judge_store(((0, -18.0), (600, 4.0)), FOODSERVICE, kind="freezer", now_s=20000)

    assert hard.action == "watch"
    assert thawed.action == "discard"


# --- thermometers ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("altitude_m", "boils_c"), [(0, 100.0), (500, 98.3), (1500, 95.0), (3000, 90.0)])
def test_water_boils_lower_the_higher_one_stands(altitude_m: float, boils_c: float) -> None:
    assert boiling_c(altitude_m) == pytest.approx(boils_c, abs=0.25)


def test_the_air_of_the_standard_atmosphere_is_that_of_the_table() -> None:
    assert pressure_kpa(0) == pytest.approx(101.325)
    assert pressure_kpa(2000) == pytest.approx(79.50, abs=0.02)


@pytest.mark.parametrize(
    ("ice", "boil", "standing"),
    [(0.0, 100.0, "good"), (1.0, 100.9, "good"), (1.1, 101.0, "adjust"), (-1.5, 98.5, "adjust"), (1.5, 98.0, "replace"),
     (0.0, None, "cannot_judge"), (3.0, None, "adjust"), (None, None, "cannot_judge")],
)  # fmt: skip
def test_a_thermometer_is_good_only_if_both_points_are(ice: float | None, boil: float | None, standing: str) -> None:
    assert check_thermometer(ice_shows_c=ice, boil_shows_c=boil, altitude_m=0).standing == standing


def test_the_offset_takes_the_error_away_and_a_good_one_is_due_again() -> None:
    found = check_thermometer(ice_shows_c=0.6, boil_shows_c=100.6, altitude_m=0, on=dt.date(2026, 6, 13))

    assert found.offset_c == pytest.approx(-0.6, abs=0.01)
    assert found.error_c == pytest.approx(0.0, abs=0.01)
    assert found.next_due == dt.date(2026, 7, 13)


def test_a_patty_is_probed_from_its_side_and_a_dial_or_a_surface_reader_is_wrong_for_it() -> None:
    where = probe_placement("patty", thickness_m=0.02, width_m=0.09)
    right = {fit.kind.id: fit.why for fit in fitting_thermometers(where, thickness_m=0.02)}

    assert where.from_side
    assert where.depth_m == pytest.approx(0.045)
    assert right["thermistor"] == ""
    assert right["infrared"] == "surface_only"
    small = probe_placement("patty", thickness_m=0.01, width_m=0.05)
    assert {f.kind.id: f.why for f in fitting_thermometers(small, thickness_m=0.01)}["bimetal"] == "too_thick_sensor"


def test_every_food_has_a_place_for_the_tip_and_every_kind_settles() -> None:
    for food in probed_foods():
        assert 0 < probe_placement(food, thickness_m=0.06, width_m=0.1).depth_m <= 0.05
    assert all(kind.ready_s(60.0) > 0 for kind in thermometer_kinds().values())
    with pytest.raises(CoreError):
        probe_placement("soufflé", thickness_m=0.05, width_m=0.1)

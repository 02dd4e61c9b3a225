"""Temperature logs looked over."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.measuring import (
    clock_of_day,
    minutes_seconds,
    question_log,
    read_log_csv,
    review_log,
    typed_probings,
    typed_readings,
)
from foodsafety.quantities import CoreError

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

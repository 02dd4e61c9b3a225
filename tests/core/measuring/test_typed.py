"""Readings and times as people type them: taken as meant, or the line named."""

import pytest

from foodsafety.measuring.typed import (
    clock_of_day,
    minutes_seconds,
    number_in,
    typed_probings,
    typed_readings,
)
from foodsafety.quantities import CoreError


def test_minutes_or_clock_times_each_with_a_temperature() -> None:
    by_minutes = typed_readings("0 63\n12.5 48,5\n\n90 21")
    assert by_minutes.rows == ((0.0, 63.0), (750.0, 48.5), (5400.0, 21.0))
    assert by_minutes.clock_s is None
    by_clock = typed_readings("13:20 63\n14:05:30; 50")
    assert by_clock.rows == ((0.0, 63.0), (2730.0, 50.0))
    assert by_clock.clock_s == 13 * 3600 + 20 * 60


def test_clock_times_run_on_past_midnight() -> None:
    assert [at_s for at_s, _ in typed_readings("23:30 60\n00:15 40\n01:00 30").rows] == [0.0, 2700.0, 5400.0]
    overnight = typed_readings("22:00 65\n23:00 40\n05:00 8\n13:00 5\n22:30 4").rows
    assert [at_s / 3600 for at_s, _ in overnight] == [0.0, 1.0, 7.0, 15.0, 24.5]


def test_a_clock_time_out_of_order_is_asked_about_by_its_line() -> None:
    with pytest.raises(CoreError, match="line 2") as wrong:
        typed_readings("10:30 40\n10:20 41")
    assert wrong.value.why == "times_out_of_order"


@pytest.mark.parametrize(
    ("text", "field", "why"),
    [
        ("", "readings", "no_readings"),
        ("\n \n", "readings", "no_readings"),
        ("0 63\nwarm", "readings line 2", "not_a_reading"),
        ("0 63 12", "readings line 1", "not_a_reading"),
        ("0 hot", "readings line 1", "not_a_reading"),
        ("soon 63", "readings line 1", "not_a_time"),
        ("0 63\n13:20 50", "readings", "mixed_times"),
        ("0 1e3", "readings line 1", "not_a_reading"),
        ("0 nan", "readings line 1", "not_a_reading"),
    ],
)
def test_a_line_that_is_no_reading_is_named(text: str, field: str, why: str) -> None:
    with pytest.raises(CoreError) as wrong:
        typed_readings(text)
    assert (wrong.value.field, wrong.value.why) == (field, why)


def test_a_probing_is_a_piece_a_time_and_a_temperature() -> None:
    first, second = typed_probings("1 7:30 71.5\nleft 8 74")
    assert (first.piece, first.at_s, first.value) == ("1", 450.0, 71.5)
    assert (second.piece, second.at_s, second.value) == ("left", 480.0, 74.0)


@pytest.mark.parametrize(
    ("text", "field"),
    [("1 7:30", "readings line 1"), ("1 7:75 70", "readings line 1"), ("1 2 70\n2 3 warm", "readings line 2")],
)
def test_a_probing_that_is_none_names_its_line(text: str, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        typed_probings(text)
    assert wrong.value.field == field


@pytest.mark.parametrize("read", [typed_readings, typed_probings])
def test_more_lines_than_anybody_types_are_refused(read: object) -> None:
    with pytest.raises(CoreError) as wrong:
        read("1 1 70\n" * 2001 if read is typed_probings else "1 70\n" * 2001)  # type: ignore[operator]
    assert wrong.value.why == "too_many_lines"


@pytest.mark.parametrize(
    ("text", "seconds"),
    [("7:30", 450.0), ("7.5", 450.0), ("0", 0.0), ("7:60", None), ("", None), ("soon", None)],
)
def test_minutes_and_seconds(text: str, seconds: float | None) -> None:
    assert minutes_seconds(text) == seconds


@pytest.mark.parametrize(
    ("text", "seconds"), [("18:30", 66600.0), ("7.05", 25500.0), ("24:00", None), ("18:60", None), ("18", None)]
)
def test_a_time_of_day(text: str, seconds: float | None) -> None:
    assert clock_of_day(text) == seconds


@pytest.mark.parametrize(
    ("text", "number"),
    [("4.5 °C", 4.5), ("−18", -18.0), ("+3,2", 3.2), ("40F", 40.0), ("1e3", None), ("inf", None), ("", None)],
)
def test_a_number_is_read_as_written_and_nothing_else_is_one(text: str, number: float | None) -> None:
    assert number_in(text) == number

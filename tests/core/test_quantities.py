import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.quantities import (
    CoreError,
    Temperature,
    c_from_f,
    f_from_c,
    question_cold,
    question_core,
    tidy_readings,
)


@given(st.floats(-100, 400))
def test_a_temperature_converted_and_back_is_the_same(value_c: float) -> None:
    assert c_from_f(f_from_c(value_c)) == pytest.approx(value_c, abs=1e-9)


@pytest.mark.parametrize("limit_f", [130, 135, 140, 145, 155, 160, 165])
def test_a_reading_typed_in_fahrenheit_at_the_limit_meets_it(limit_f: int) -> None:
    assert Temperature(value=limit_f, unit="F").met_by(c_from_f(limit_f))


@pytest.mark.parametrize(
    ("reading_c", "met"),
    [(73.89, True), (73.88, False), (74.0, True), (73.0, False)],
    ids=["just above 165 F", "just below 165 F", "the rounded limit", "a degree below"],
)
def test_a_limit_is_compared_in_the_unit_of_its_source(reading_c: float, met: bool) -> None:
    assert Temperature(value=165, unit="F").met_by(reading_c) is met


def test_above_90_f_excludes_90_f() -> None:
    limit = Temperature(value=90, unit="F")

    assert not limit.passed_by(c_from_f(90))
    assert limit.passed_by(c_from_f(90.1))


@pytest.mark.parametrize(
    ("value", "unit", "question"),
    [
        (165, "C", "looks_fahrenheit"),
        (74, "F", "looks_celsius"),
        (74, "C", None),
        (165, "F", None),
        (240, "F", "too_hot_for_food"),
        (250, "C", "too_hot_for_food"),
        (900, "C", "impossible"),
        (float("nan"), "C", "impossible"),
        (-8, "C", "too_cold_for_cooking"),
        (20, "C", None),
    ],
)
def test_a_core_reading_in_the_wrong_unit_is_questioned(value: float, unit: str, question: str | None) -> None:
    assert question_core(value, unit) == question


@pytest.mark.parametrize(
    ("value", "unit", "question"),
    [
        (38, "C", "looks_fahrenheit"),
        (30, "C", "looks_fahrenheit"),
        (29.9, "C", None),
        (4, "F", "looks_celsius"),
        (20, "F", None),
        (4, "C", None),
        (38, "F", None),
        (9.5, "C", None),
    ],
)
def test_a_fridge_reading_in_the_wrong_unit_is_questioned(value: float, unit: str, question: str | None) -> None:
    assert question_cold(value, unit) == question


def test_readings_are_sorted_and_nulls_dropped() -> None:
    assert tidy_readings([[60, 70], [0, 20], [30, None], None, [60, 70]], counts="lower") == ((0, 20), (60, 70))


@pytest.mark.parametrize(("counts", "believed"), [("lower", 70.0), ("higher", 80.0)])
def test_of_two_readings_at_one_time_the_stricter_is_believed(counts: str, believed: float) -> None:
    assert tidy_readings([[0, 80], [0, 70]], counts=counts) == ((0.0, believed),)


@pytest.mark.parametrize("row", [[1], [1, "hot"], "ab", [True, 4], [0, float("inf")], [0, -300]])
def test_a_row_that_is_no_reading_is_named(row: object) -> None:
    with pytest.raises(CoreError, match=r"readings\[1\]"):
        tidy_readings([[0, 1], row], counts="lower")

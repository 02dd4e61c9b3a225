"""Lethality against closed forms and published tables; cook verdicts at their boundaries."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.cooking import Kinetics, Probing, cook_verdict, lethality_of
from foodsafety.quantities import CoreError, c_from_f
from foodsafety.rules import House, rule_profile

Z_7_5 = Kinetics(t_ref_c=70, d_ref_s=20, z_c=7.5)


def test_a_level_hold_is_time_over_d() -> None:
    found = lethality_of(((0, 70), (120, 70)), Z_7_5)

    assert found.log_reduction == pytest.approx(6.0, abs=1e-12)
    assert found.seconds_above_floor == 120


def test_a_ramp_is_the_closed_form() -> None:
    # integral of 10**((60 + t/6 - 70)/10)/20 dt over 0..60 s, by hand:
    expected = (6 * 10 / math.log(10)) * (1 - 10**-1) / 20

    found = lethality_of(((0, 60), (60, 70)), Kinetics(t_ref_c=70, d_ref_s=20, z_c=10))

    assert found.log_reduction == pytest.approx(expected, abs=1e-12)


@pytest.mark.parametrize(("temperature_c", "hold_s"), [(60, 45 * 60), (65, 600), (70, 120), (75, 30), (80, 6)])
def test_uk_equivalents_are_about_six_logs(temperature_c: float, hold_s: float) -> None:
    found = lethality_of(((0, temperature_c), (hold_s, temperature_c)), Z_7_5)

    # The table rounds up to handy times, and z is only about 7.5: six logs or up to one more.
    assert 6.0 <= found.log_reduction + 1e-9 <= 7.0


ROAST = [
    (130, 112 * 60), (131, 89 * 60), (133, 56 * 60), (135, 36 * 60), (136, 28 * 60), (138, 18 * 60), (140, 12 * 60),
    (142, 8 * 60), (144, 5 * 60), (145, 4 * 60), (147, 134), (149, 85), (151, 54), (153, 34), (155, 22), (157, 14),
]  # fmt: skip


@pytest.mark.parametrize(("f", "hold_s"), ROAST)
def test_the_roast_table_is_log_linear_with_z_10_f(f: int, hold_s: float) -> None:
    death = Kinetics(t_ref_c=c_from_f(147), d_ref_s=134, z_c=10 / 1.8)

    found = lethality_of(((0, c_from_f(f)), (hold_s, c_from_f(f))), death)

    # One decimal reduction by construction at 147 F; the rest within the table's whole minutes.
    assert found.log_reduction == pytest.approx(1.0, rel=0.17)


def test_nothing_is_credited_below_the_floor() -> None:
    assert lethality_of(((0, 54.3), (9999, 54.3)), Z_7_5).log_reduction == 0


def test_the_floor_itself_counts() -> None:
    assert lethality_of(((0, 54.4), (60, 54.4)), Z_7_5).seconds_above_floor == 60


def test_only_the_part_above_the_floor_counts() -> None:
    found = lethality_of(((0, 44.4), (100, 64.4)), Z_7_5)

    assert found.seconds_above_floor == pytest.approx(50)


@pytest.mark.parametrize("readings", [(), ((0, 80),)])
def test_without_two_readings_nothing_is_proven(readings: tuple[tuple[float, float], ...]) -> None:
    assert lethality_of(readings, Z_7_5).log_reduction == 0


@pytest.mark.parametrize(("field", "values"), [("d_ref_s", (70, 0, 7)), ("z_c", (70, 20, -1))])
def test_impossible_kinetics_are_named(field: str, values: tuple[float, float, float]) -> None:
    with pytest.raises(CoreError, match=field):
        Kinetics(t_ref_c=values[0], d_ref_s=values[1], z_c=values[2])


@given(
    st.lists(st.tuples(st.floats(0, 600), st.floats(0, 95)), min_size=2, max_size=8, unique_by=lambda row: row[0]),
    st.floats(1, 600),
)
def test_more_time_at_heat_never_lowers_the_kill(rows: list[tuple[float, float]], more_s: float) -> None:
    series = tuple(sorted(rows))
    longer = (*series, (series[-1][0] + more_s, series[-1][1]))

    assert lethality_of(longer, Z_7_5).log_reduction >= lethality_of(series, Z_7_5).log_reduction - 1e-12


# --- verdicts ------------------------------------------------------------------------------------


def verdict(code: str, food_class: str, rows: list[tuple[float, str, float]], now_s: float, **more: object) -> str:
    rules = rule_profile(code)
    probings = [Probing(at_s=at_s, piece=piece, core_c=core_c) for at_s, piece, core_c in rows]
    found = cook_verdict(probings, rules.cook[food_class], rules, now_s=now_s, **more)  # type: ignore[arg-type]
    return found.status if found.status not in ("hold", "rest") else f"{found.status} {found.remaining_s:.0f}"


def three(*cores_c: float, from_s: float = 0) -> list[tuple[float, str, float]]:
    return [(from_s + i, str(i + 1), core_c) for i, core_c in enumerate(cores_c)]


F165 = c_from_f(165)


@pytest.mark.parametrize(
    ("rows", "expected"),
    [
        ([], "not_measured"),
        (three(80, 80), "too_few"),
        (three(80, 80, 73.88), "below"),
        (three(80, 80, F165), "reached"),
        (three(60, 60, 60), "below"),
        ([(0, "1", 80), (1, "1", 80), (2, "1", 80)], "too_few"),
        ([*three(80, 80, 70), (9, "3", 75)], "reached"),
        ([*three(80, 80, 75), (9, "1", 70)], "below"),
    ],
    ids=["none", "two pieces", "just below", "exactly 165 F", "all low", "one piece thrice", "cooked on", "fell back"],
)
def test_poultry_at_home_the_lowest_of_three_pieces_counts(rows: list[tuple[float, str, float]], expected: str) -> None:
    assert verdict("us-home", "poultry", rows, now_s=20) == expected


@pytest.mark.parametrize(
    ("rows", "now_s", "expected"),
    [
        (three(75, 75, 70), 2, "hold 120"),
        (three(75, 75, 70), 62, "hold 60"),
        (three(75, 75, 70), 122, "confirm"),
        ([*three(75, 75, 70), (122, "3", 70)], 122, "reached"),
        ([*three(75, 75, 70), (121, "3", 70)], 121, "hold 1"),
        ([*three(75, 75, 70), (122, "1", 80)], 200, "confirm"),
        ([*three(75, 75, 70), (60, "3", 69.9), (90, "3", 71)], 125, "hold 85"),
    ],
    ids=[
        "begins",
        "half way",
        "over but not shown",
        "shown",
        "a second early",
        "another piece proves nothing",
        "interrupted",
    ],
)
def test_uk_two_minutes_begin_when_the_lowest_is_there_and_end_with_a_reading(
    rows: list[tuple[float, str, float]], now_s: float, expected: str
) -> None:
    assert verdict("uk", "poultry", rows, now_s=now_s) == expected


def test_uk_equivalents_count_only_where_the_kitchen_chose_them() -> None:
    rows = [*three(82, 83, 84), (8, "1", 82)]

    assert verdict("uk", "poultry", rows, now_s=8) == "hold 114"
    assert verdict("uk", "poultry", rows, now_s=8, house=House(cook_equivalents=True)) == "reached"


@pytest.mark.parametrize(
    ("rows", "off_s", "now_s", "expected"),
    [
        (three(63, 64, 65), None, 10, "rest 180"),
        (three(63, 64, 65), 10, 100, "rest 90"),
        (three(63, 64, 65), 10, 190, "confirm"),
        ([*three(63, 64, 65), (190, "1", 63)], 10, 190, "reached"),
        ([*three(63, 64, 65), (190, "1", 62.7)], 10, 190, "below"),
    ],
    ids=["on the heat", "resting", "over but not shown", "stayed", "fell"],
)
def test_a_steak_rests_off_the_heat_at_its_limit(
    rows: list[tuple[float, str, float]], off_s: float | None, now_s: float, expected: str
) -> None:
    assert verdict("us-home", "whole_muscle", rows, now_s=now_s, off_heat_s=off_s) == expected


def test_a_row_without_a_temperature_cannot_be_judged() -> None:
    assert verdict("us-home", "shellfish", three(90, 90, 90), now_s=9) == "cannot_judge"

"""Lethality against closed forms and published tables."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.cooking import (
    Kinetics,
    f_value_s,
    kill_targets,
    lethality_of,
)
from foodsafety.quantities import CoreError, c_from_f
from foodsafety.rules import rule_profile

HOME = rule_profile("us-home")


# --- lethality beside a verdict ------------------------------------------------------------------------


def test_nothing_is_credited_across_a_gap() -> None:
    death = Kinetics(t_ref_c=70, d_ref_s=20, z_c=7.5)
    gap_s = HOME.longest_gap_s
    rows = ((0.0, 70.0), (60.0, 70.0), (60.0 + gap_s + 1, 70.0))

    assert lethality_of(rows, death, longest_gap_s=gap_s).log_reduction == pytest.approx(3.0)
    assert f_value_s(rows, t_ref_c=70, z_c=7.5, longest_gap_s=gap_s) == pytest.approx(60.0)


def test_an_f_value_is_the_time_at_its_temperature_that_kills_as_much() -> None:
    assert f_value_s(((0.0, 77.5), (60.0, 77.5)), t_ref_c=70.0, z_c=7.5) == pytest.approx(600.0)


@pytest.mark.parametrize(
    ("organism", "at_c", "minutes", "logs"),
    [
        ("salmonella_poultry", 60.0, 25.2, 7.0),
        ("salmonella_poultry", (145 - 32) / 1.8, 8.4, 7.0),
        ("salmonella_poultry", (150 - 32) / 1.8, 2.7, 7.0),
        ("salmonella_beef", (145 - 32) / 1.8, 4.0, 6.5),
        ("listeria", 70.0, 2.0, 6.0),
    ],
)
def test_organisms_die_as_their_published_rows_say(organism: str, at_c: float, minutes: float, logs: float) -> None:
    row = next(target for target in kill_targets("us-home") if target.id == organism)

    found = lethality_of(((0.0, at_c), (minutes * 60, at_c)), row.death).log_reduction

    assert found == pytest.approx(logs, rel=0.08)


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

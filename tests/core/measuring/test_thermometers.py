"""Thermometers checked, chosen and placed."""

import datetime as dt

import pytest

from foodsafety.measuring import (
    boiling_c,
    check_thermometer,
    fitting_thermometers,
    pressure_kpa,
    probe_placement,
    probed_foods,
    thermometer_kinds,
)
from foodsafety.quantities import CoreError

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

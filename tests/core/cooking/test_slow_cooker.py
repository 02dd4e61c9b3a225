"""The slow cooker: filled, warmed up, timed."""

import pytest

from foodsafety.cooking import (
    WarmUp,
    cook_window,
    crock_fill,
    slow_cooker_times,
    warm_up,
)
from foodsafety.quantities import CoreError

H = 3600.0


# --- the slow cooker ------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("litres", "standing"), [(2.49, "under"), (2.5, "good"), (3.3, "good"), (3.4, "over")])
def test_a_slow_cooker_is_filled_from_half_to_two_thirds(litres: float, standing: str) -> None:
    assert crock_fill(litres, 5.0).standing == standing


def warms(**changes: object) -> WarmUp:
    asked: dict[str, object] = {"volume_l": 3.0, "size_l": 5.0, "setting": "low", "start_c": 6.0}
    return warm_up(**{**asked, **changes})  # type: ignore[arg-type]


def test_high_is_quicker_than_low_and_a_lifted_lid_costs_its_half_hour() -> None:
    low, high, lifted = warms(), warms(setting="high"), warms(lid_lifts_s=(1800.0,))

    assert (high.in_band_s or 0) < (low.in_band_s or 0)
    assert (lifted.in_band_s or 0) - (low.in_band_s or 0) == pytest.approx(1800, abs=150)


def test_frozen_food_and_odd_cookers_are_refused_by_name() -> None:
    for change, field in (
        ({"start_c": -1.0}, "start_c"),
        ({"size_l": 9.0}, "size_l"),
        ({"setting": "warm"}, "setting"),
    ):
        with pytest.raises(CoreError) as wrong:
            warms(**change)
        assert wrong.value.field == field


def test_a_cooker_that_never_gets_hot_is_no_pass() -> None:
    cold = warms(room_c=-9.0, volume_l=5.0, until_s=2 * H)

    assert cold.in_band_s is None
    assert not cold.within


def test_the_latest_moment_to_switch_on_counts_the_longer_figures() -> None:
    window = cook_window((6 * H, 8 * H), lid_lifts=2, rest_s=600)

    assert window.latest_s == 8 * H + 2 * 1800 + 600
    assert window.late_from_s == 3600 + 600
    assert window.late_to_s == 2700 + 600


def test_a_hob_recipe_becomes_hours_and_less_liquid() -> None:
    found = slow_cooker_times(simmer_s=2 * H, liquid_ml=900)

    assert found.low_s == (8 * H, 10 * H)
    assert found.high_s == (4 * H, 6 * H)
    assert found.liquid_ml == (450, 600)
    with pytest.raises(CoreError):
        slow_cooker_times(simmer_s=11 * H, liquid_ml=900)

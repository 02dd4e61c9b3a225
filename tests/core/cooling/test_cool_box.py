"""Cool boxes and water carried to the field."""

import pytest

from foodsafety.cooling import (
    BoxNeed,
    BoxTrip,
    box_course,
    box_need,
    eat_by,
    field_water,
    plan_box,
)
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile

HOME = rule_profile("us-home")


H = 3600.0


# --- the cool box -----------------------------------------------------------------------------------------------


def a_trip(**changes: object) -> BoxTrip:
    asked: dict[str, object] = {"box": "hard_25l", "cold": "ice", "ambient_c": 28.0, "hours": 5.0, "food_kg": 6.0,
                                "food_c": 4.0, "keep_c": 5.0, "openings": 10}  # fmt: skip
    return BoxTrip(**{**asked, **changes})  # type: ignore[arg-type]


def needs(**changes: object) -> BoxNeed:
    return box_need(a_trip(**changes))


def test_the_ice_for_a_box_is_its_heat_over_the_heat_of_melting_with_a_spare() -> None:
    found = needs(openings=0)

    # 0.85 W/K x 28 K x 5 h = 428 kJ; ice at -5 C takes 343.6 kJ/kg; three tenths spare: 1.62 kg.
    assert found.walls_kj == pytest.approx(428.4)
    assert found.cold_kg == pytest.approx(1.62, abs=0.01)


@pytest.mark.parametrize("change", [{"hours": 6.0}, {"ambient_c": 33.0}, {"openings": 40}, {"food_c": 12.0}])
def test_longer_hotter_opened_or_warmer_needs_more_ice(change: dict[str, float]) -> None:
    assert needs(**change).cold_kg > needs().cold_kg


def test_a_box_with_what_it_needs_stays_cold_for_the_hours_and_without_ice_does_not() -> None:
    full = box_course(a_trip(), cold_kg=needs().cold_kg)
    none = box_course(a_trip(), cold_kg=0.0)

    assert full.warm_s is None
    assert none.warm_s is not None
    assert none.warm_s < 5 * H


def test_no_warmer_outside_than_in_is_refused_by_name() -> None:
    with pytest.raises(CoreError) as wrong:
        needs(ambient_c=4.0)

    assert wrong.value.field == "ambient_c"


def test_in_the_heat_the_shorter_clock_counts() -> None:
    assert eat_by(HOME, out_before_s=900, ambient_c=25.0).remaining_s == 2 * H - 900
    assert eat_by(HOME, out_before_s=900, ambient_c=33.0).remaining_s == H - 900
    assert eat_by(HOME, out_before_s=7201, ambient_c=25.0).standing == "over"


def test_water_is_carried_for_every_wash_with_a_spare() -> None:
    assert field_water(people=12, washes_each=4, produce_kg=2).total_l == pytest.approx(54.5)


@pytest.mark.parametrize(
    ("change", "out_s", "standing"),
    [
        ({}, 0.0, "planned"),
        ({"food_c": 4.4}, 0.0, "planned"),
        ({"food_c": 12.0}, 0.0, "food_too_warm"),
        ({"food_kg": 20.0}, 0.0, "too_much"),
        ({}, 7201.0, "out_too_long"),
        ({}, 7200.0, "planned"),
    ],
    ids=["cold food", "at 40 F", "warm food", "more than fits", "out for over two hours", "out for two hours"],
)
def test_a_box_is_planned_only_for_cold_food_that_fits(change: dict[str, float], out_s: float, standing: str) -> None:
    assert plan_box(a_trip(**change), HOME, out_before_s=out_s).standing == standing

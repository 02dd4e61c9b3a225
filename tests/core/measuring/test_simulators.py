"""Simulated instruments, with faults."""

import random

import pytest

from foodsafety.cooling import judge_store
from foodsafety.measuring import (
    DoorOpening,
    ProbeFaults,
    SimulatedCook,
    SimulatedStore,
    probe_shows,
    store_air,
)
from foodsafety.rules import rule_profile

FOODSERVICE = rule_profile("us-foodservice")


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

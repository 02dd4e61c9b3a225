"""Slow cooker, cool box, freezing and thawing planned, growth, clocks, small sums."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.cooking import (
    Kinetics,
    WarmUp,
    cook_window,
    crock_fill,
    f_value_s,
    kill_targets,
    lethality_of,
    slow_cooker_times,
    warm_up,
)
from foodsafety.cooling import (
    BoxNeed,
    FrozenPiece,
    box_course,
    box_need,
    eat_by,
    field_water,
    freezing_course,
    judge_thaw,
    thawing_course,
)
from foodsafety.foods import Composition
from foodsafety.hygiene import basin_queue, sanitiser_dilution
from foodsafety.quantities import CoreError, Temperature
from foodsafety.recipes import part_can, portions
from foodsafety.rules import rule_profile
from foodsafety.shelf import growth_budgets, out_of_control_s, school_verdict

KOFTA = Composition(water=0.70, protein=0.20, fat=0.08, carbohydrate=0.01, fibre=0.0, ash=0.01)
HOME = rule_profile("us-home")
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


# --- the cool box -----------------------------------------------------------------------------------------------


def needs(**changes: object) -> BoxNeed:
    asked: dict[str, object] = {"box": "hard_25l", "cold": "ice", "ambient_c": 28.0, "hours": 5.0, "food_kg": 6.0,
                                "food_c": 4.0, "keep_c": 5.0, "openings": 10}  # fmt: skip
    return box_need(**{**asked, **changes})  # type: ignore[arg-type]


def test_the_ice_for_a_box_is_its_heat_over_the_heat_of_melting_with_a_spare() -> None:
    found = needs(openings=0)

    # 0.85 W/K x 28 K x 5 h = 428 kJ; ice at -5 C takes 343.6 kJ/kg; three tenths spare: 1.62 kg.
    assert found.walls_kj == pytest.approx(428.4)
    assert found.cold_kg == pytest.approx(1.62, abs=0.01)


@pytest.mark.parametrize("change", [{"hours": 6.0}, {"ambient_c": 33.0}, {"openings": 40}, {"food_c": 12.0}])
def test_longer_hotter_opened_or_warmer_needs_more_ice(change: dict[str, float]) -> None:
    assert needs(**change).cold_kg > needs().cold_kg


def test_a_box_with_what_it_needs_stays_cold_for_the_hours_and_without_ice_does_not() -> None:
    same = {"box": "hard_25l", "cold": "ice", "ambient_c": 28.0, "hours": 5.0, "food_kg": 6.0, "food_c": 4.0,
            "keep_c": 5.0, "openings": 10}  # fmt: skip
    full = box_course(cold_kg=needs().cold_kg, **same)  # type: ignore[arg-type]
    none = box_course(cold_kg=0.0, **same)  # type: ignore[arg-type]

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


# --- freezing and thawing -----------------------------------------------------------------------------------------


def a_piece(half_m: float = 0.02) -> FrozenPiece:
    return FrozenPiece(shape="slab", size_m=(half_m,), composition=KOFTA)


def test_a_thinner_bag_freezes_sooner_and_a_wrap_costs_time() -> None:
    thin = freezing_course(a_piece(0.01), where="freezer", around_c=-22, start_c=5).reached_s or math.inf
    thick = freezing_course(a_piece(0.02), where="freezer", around_c=-22, start_c=5).reached_s or math.inf
    boxed = FrozenPiece(shape="slab", size_m=(0.01,), composition=KOFTA, covers=("air_gap_10mm",))

    assert thin < thick
    assert (freezing_course(boxed, where="freezer", around_c=-22, start_c=5).reached_s or math.inf) > thin


@pytest.mark.parametrize(
    ("method", "where", "around_c", "allowed", "why"),
    [
        ("fridge", "fridge", 4.0, True, ""),
        ("room", "room", 21.0, False, "room"),
        ("running_water", "tap_water", 21.0, True, ""),
        ("running_water", "tap_water", 22.0, False, "too_warm_water"),
    ],
)
def test_thawing_is_allowed_as_the_schools_say(
    method: str, where: str, around_c: float, allowed: bool, why: str
) -> None:
    course = thawing_course(a_piece(0.01), where=where, around_c=around_c)
    found = judge_thaw(course, HOME, method=method, around_c=around_c)  # type: ignore[arg-type]

    assert (found.allowed, found.why) == (allowed, why)


def test_a_thick_piece_in_water_is_warm_outside_for_too_long() -> None:
    course = thawing_course(a_piece(0.06), where="tap_water", around_c=20.0)

    assert judge_thaw(course, HOME, method="cold_water", around_c=20.0).why == "surface_too_long"


@pytest.mark.parametrize(
    ("call", "field"),
    [
        (lambda: freezing_course(a_piece(), where="freezer", around_c=-18, start_c=5), "around_c"),
        (lambda: thawing_course(a_piece(), where="fridge", around_c=4, start_c=2), "start_c"),
        (lambda: thawing_course(a_piece(), where="fridge", around_c=0), "around_c"),
    ],
)
def test_what_never_freezes_or_thaws_is_refused_by_name(call: object, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        call()  # type: ignore[operator]

    assert wrong.value.field == field


# --- growth -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("organism", "at_c", "hours", "spent"),
    [
        ("salmonella", 25.0, 2.0, 1.0),
        ("salmonella", 15.0, 5.0, 1.0),
        ("salmonella", 8.0, 48.0, 1.0),
        ("salmonella", 5.0, 999.0, 0.0),
        ("salmonella", 10.5, 5.0, 1.0),
        ("listeria", 35.0, 1.0, 1.0),
        ("listeria", 4.0, 168.0, 1.0),
        ("staphylococcus", 25.0, 1.5, 0.5),
        ("bacillus", 18.0, 6.0, 1.0),
        ("clostridium", 25.0, 2.0, 1.0),
        ("e_coli", 15.0, 2.5, 0.5),
    ],
)
def test_every_band_spends_the_allowance_of_its_table(organism: str, at_c: float, hours: float, spent: float) -> None:
    found = growth_budgets(((0.0, at_c), (hours * H, at_c)))[organism]

    assert found.spent == pytest.approx(spent)


def test_fractions_of_several_bands_add_up_exactly_over_a_slope() -> None:
    # From 5 to 25 C in 2 h: 0.48 h in the first band, 1.1 h in the second, 0.4 h in the third.
    found = growth_budgets(((0.0, 5.0), (2 * H, 25.0)))["salmonella"]

    assert found.in_bands_s == pytest.approx((0.48 * H, 1.1 * H, 0.4 * H))
    assert found.spent == pytest.approx(0.48 / 48 + 1.1 / 5 + 0.4 / 2)


@given(st.lists(st.floats(-5, 55), min_size=2, max_size=10), st.floats(0, 20))
def test_more_time_or_warmth_never_gives_any_of_it_back(temps: list[float], more: float) -> None:
    rows = tuple((n * 600.0, temp) for n, temp in enumerate(temps))
    longer = (*rows, (rows[-1][0] + more * 60, temps[-1]))

    for key, found in growth_budgets(longer).items():
        assert found.spent >= growth_budgets(rows)[key].spent - 1e-12


# --- clocks ---------------------------------------------------------------------------------------------------------


def test_time_out_adds_up_over_trips_exactly() -> None:
    cold, hot = Temperature(value=5, unit="C"), Temperature(value=60, unit="C")
    rows = ((0.0, 4.0), (600.0, 10.0), (1800.0, 10.0), (2400.0, 4.0), (9000.0, 4.0), (9600.0, 5.0), (9900.0, 5.0))

    # Five sixths of each slope, the level part, and nothing at the limit itself.
    assert out_of_control_s(rows, cold, hot) == pytest.approx(500 + 1200 + 500)


@pytest.mark.parametrize(
    ("school", "hours", "action"),
    [
        ("2_4", 2.0, "keep"), ("2_4", 2.01, "use_now"), ("2_4", 4.0, "use_now"), ("2_4", 4.01, "discard"),
        ("4_6", 4.0, "use_now"), ("4_6", 4.01, "discard"),
        ("rules", 2.0, "keep"), ("rules", 2.01, "discard"),
    ],
)  # fmt: skip
def test_each_school_of_clocks_at_its_limits(school: str, hours: float, action: str) -> None:
    assert school_verdict(hours * H, school, HOME, ambient_c=None).action == action  # type: ignore[arg-type]


def test_six_hours_only_for_food_shown_to_have_begun_cold_and_stayed_below_70_f() -> None:
    cool = ((0.0, 5.0), (5 * H, 20.0))

    def action(readings: tuple[tuple[float, float], ...]) -> str:
        return school_verdict(5 * H, "4_6", HOME, ambient_c=None, readings=readings).action

    assert action(cool) == "use_now"
    assert action(((0.0, 5.0), (5 * H, 22.0))) == "discard"
    assert action(((0.0, 6.0), (5 * H, 20.0))) == "discard"


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


# --- small sums -------------------------------------------------------------------------------------


@pytest.mark.parametrize(("ppm", "standing"), [(49, "weak"), (50, "good"), (100, "good"), (101, "strong")])
def test_sanitiser_is_good_from_50_to_100_ppm(ppm: float, standing: str) -> None:
    found = sanitiser_dilution(litres=5, ppm=ppm, product_percent=5)

    assert found.standing == standing
    assert found.product_ml == pytest.approx(5 * ppm / 50)


def test_hands_are_washed_in_waves() -> None:
    found = basin_queue(people=16, basins=3, scrub_s=20, around_s=25)

    assert (found.waves, found.total_s, found.last_waits_s) == (6, 270, 225)


def test_cans_and_portions() -> None:
    can, made = part_can(needed_g=600, can_g=240), portions(batch_g=4200, portion_g=350, people=30)

    assert (can.cans, can.left_g, can.last_share) == (3, 120, 0.5)
    assert (made.portions, made.over_g, made.batches) == (12, 0, 3)


@pytest.mark.parametrize(
    ("call", "field"),
    [
        (lambda: sanitiser_dilution(litres=0, ppm=100, product_percent=5), "litres"),
        (lambda: basin_queue(people=5, basins=0, scrub_s=20), "basins"),
        (lambda: part_can(needed_g=1, can_g=0), "can_g"),
        (lambda: portions(batch_g=100, portion_g=200, people=5), "portion_g"),
        (lambda: field_water(people=0, washes_each=4, produce_kg=0), "people"),
    ],
)
def test_sums_that_cannot_be_name_their_field(call: object, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        call()  # type: ignore[operator]

    assert wrong.value.field == field

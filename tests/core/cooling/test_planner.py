"""Cooling planned backwards: every way it offers passes when it is worked out by itself."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.cooling import (
    ChillBatch,
    ChillCourse,
    ChillOffer,
    ChillSituation,
    chill_course,
    chill_ways,
    container,
    containers,
    greatest_size,
    judge_course,
    left_to_cool,
    plan_chill,
    start_by,
)
from foodsafety.foods import Composition
from foodsafety.heat import (
    Body,
    ConstantProperties,
    Surroundings,
    conduct,
    cover_layers,
    environment,
    environments,
    h_through,
    temperature_left,
)
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile

BROTH = Composition(water=0.88, protein=0.04, fat=0.03, carbohydrate=0.04, fibre=0.005, ash=0.005)


OFFERS = [
    ChillOffer(where="fridge", around_c=4.0),
    ChillOffer(where="fan_fridge", around_c=3.0),
    ChillOffer(where="ice_bath", around_c=0.5),
    ChillOffer(where="stirred_ice_bath", around_c=0.5),
]


def a_situation(*, texture: str = "thick", code: str = "us-foodservice", litres: float = 8.0) -> ChillSituation:
    batch = ChillBatch(litres=litres, composition=BROTH, texture=texture)  # type: ignore[arg-type]
    return ChillSituation(batch=batch, readings=((0.0, 60.0), (1200.0, 58.0)), profile=rule_profile(code))


def in_the_pot(situation: ChillSituation) -> object:
    return left_to_cool(situation.batch, container("pot_10l"), where="fridge", around_c=4.0)


@pytest.mark.parametrize("texture", ["thin", "thick"])
@pytest.mark.parametrize("code", ["us-foodservice", "uk", "anz", "us-home", "canada"])
def test_every_way_offered_passes_and_the_deep_pot_does_not(texture: str, code: str) -> None:
    situation = a_situation(texture=texture, code=code)

    stay, *found = chill_ways(situation, in_the_pot(situation), OFFERS)  # type: ignore[arg-type]

    assert not stay.passes
    assert found
    assert all(judge_course(situation, chill_course(plan.way, situation.batch)).verdict == "pass" for plan in found)


def test_one_container_fewer_than_offered_fails_or_does_not_hold_it() -> None:
    situation = a_situation()
    _, *found = chill_ways(situation, in_the_pot(situation), OFFERS)  # type: ignore[arg-type]

    for plan in (p for p in found if p.way.count > 1):
        fewer = plan.way.count - 1
        litres = situation.batch.litres / fewer
        full = litres > plan.way.container.holds_l
        depth_m = litres / 1000 / plan.way.container.area_m2
        way = type(plan.way)(
            container=plan.way.container, count=fewer, depth_m=depth_m, where=plan.way.where, around_c=plan.way.around_c
        )
        assert full or judge_course(situation, chill_course(way, situation.batch)).verdict != "pass"


def test_what_the_kitchen_has_comes_before_what_it_has_not() -> None:
    situation = a_situation()
    _, *found = chill_ways(situation, in_the_pot(situation), OFFERS, owned={"tray_half": 24})  # type: ignore[arg-type]

    assert found[0].way.container.id == "tray_half"
    assert [plan.missing for plan in found] == sorted(plan.missing for plan in found)


def test_the_depth_of_every_way_holds_the_whole_batch() -> None:
    situation = a_situation()
    _, *found = chill_ways(situation, in_the_pot(situation), OFFERS)  # type: ignore[arg-type]

    for plan in found:
        box = plan.way.container
        assert plan.way.count * plan.way.depth_m * box.area_m2 * 1000 == pytest.approx(8.0)
        assert plan.way.depth_m <= box.height_m


def test_ice_for_the_bath_is_at_least_the_heat_of_the_food_over_the_heat_of_melting() -> None:
    situation = a_situation(texture="thin")
    _, *found = chill_ways(situation, in_the_pot(situation), OFFERS)  # type: ignore[arg-type]
    bath = next(plan for plan in found if plan.way.where == "ice_bath")

    # 8 l of broth, 4.0 kJ/(kg K), from 58 to 5 C, over 333.6 kJ/kg: hand calculation 5.1 kg.
    assert 5.0 < bath.ice_kg < 8.0


def test_the_last_moment_to_begin_passes_and_ten_minutes_later_does_not() -> None:
    situation = a_situation()
    pot = in_the_pot(situation)
    staying = chill_course(pot, situation.batch)  # type: ignore[arg-type]
    best = next(p for p in chill_ways(situation, pot, OFFERS)[1:])  # type: ignore[arg-type]
    last_s = start_by(situation, best.course, staying)
    stay = staying.series(situation.now_c, situation.now_s)

    def verdict_from(at_s: float) -> str:
        at_c = float(np.interp(at_s, [r[0] for r in stay], [r[1] for r in stay]))
        between = tuple(row for row in stay[1:] if row[0] < at_s)
        whole = ChillSituation(
            batch=situation.batch, readings=(*situation.readings, *between, (at_s, at_c)), profile=situation.profile
        )
        return judge_course(whole, best.course).verdict

    assert verdict_from(last_s) == "pass"
    assert verdict_from(last_s + 600) == "fail"


@pytest.mark.parametrize("shape", ["slab", "cylinder", "sphere"])
def test_the_greatest_piece_passes_and_a_little_more_fails(shape: str) -> None:
    food = ConstantProperties(k=0.5, rho=1040.0, cp=3600.0)
    code = rule_profile("us-foodservice")
    size_m = greatest_size(shape, food, h=10.0, around_c=3.0, start_c=60.0, profile=code)  # type: ignore[arg-type]
    assert size_m is not None

    def passes(whole_m: float) -> bool:
        body = Body(shape=shape, size_m=(whole_m / 2,), h=10.0)  # type: ignore[arg-type]
        around = Surroundings(((0.0, 3.0),))
        at_70 = conduct(body, food, t0_c=60.0, around=around, until_centre_c=(70 - 32) / 1.8).reached_s or math.inf
        at_41 = conduct(body, food, t0_c=60.0, around=around, until_centre_c=5.0).reached_s or math.inf
        begin = conduct(body, food, t0_c=60.0, around=around, until_centre_c=(135 - 32) / 1.8).reached_s or 0.0
        return at_70 - begin <= 7200 and at_41 - begin <= 21600

    assert passes(size_m * 0.995)
    assert not passes(size_m * 1.03)


def test_air_that_is_not_below_the_limit_is_refused_by_name() -> None:
    with pytest.raises(CoreError) as wrong:
        greatest_size(
            "slab",
            ConstantProperties(k=0.5, rho=1000, cp=3600),
            h=10,
            around_c=6,
            start_c=60,
            profile=rule_profile("us-foodservice"),
        )

    assert wrong.value.field == "around_c"


@pytest.mark.parametrize(("litres", "field"), [(0.0, "litres"), (-1.0, "litres"), (501.0, "litres")])
def test_a_batch_that_cannot_be_names_its_field(litres: float, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        ChillBatch(litres=litres, composition=BROTH)

    assert wrong.value.field == field


def test_more_than_a_container_holds_does_not_fit() -> None:
    with pytest.raises(CoreError):
        left_to_cool(ChillBatch(litres=8, composition=BROTH), container("tub_1l"), where="fridge", around_c=4.0)


def test_a_lid_never_makes_it_quicker() -> None:
    situation = a_situation()
    bare = plan_chill(situation, left_to_cool(situation.batch, container("pot_10l"), where="blast", around_c=-2.0))
    lid = plan_chill(
        situation,
        left_to_cool(situation.batch, container("pot_10l"), where="blast", around_c=-2.0, covers=("plastic_lid",)),
    )

    assert (lid.cold_s or math.inf) >= (bare.cold_s or math.inf)


@given(st.floats(0.004, 0.2), st.sampled_from([5.0, 20.0, 150.0, 900.0]))
@settings(max_examples=40, deadline=None)
def test_what_is_left_of_the_step_falls_and_a_thicker_body_keeps_more(size_m: float, h: float) -> None:
    food, times = ConstantProperties(k=0.5, rho=1000.0, cp=3600.0), np.linspace(0, 40000, 60)
    thin = temperature_left(Body(shape="slab", size_m=(size_m,), h=h), food, times)
    thick = temperature_left(Body(shape="slab", size_m=(size_m * 1.2,), h=h), food, times)

    assert np.all(np.diff(thin) <= 1e-9)
    assert np.all(thick >= thin - 1e-6)


@pytest.mark.parametrize("shape", ["slab", "cylinder", "sphere"])
def test_the_series_agrees_with_the_modes(shape: str) -> None:
    food, body = ConstantProperties(k=0.5, rho=1000.0, cp=3600.0), Body(shape=shape, size_m=(0.03,), h=20.0)  # type: ignore[arg-type]
    course = conduct(body, food, t0_c=80.0, around=Surroundings(((0.0, 5.0),)), until_s=9000.0)
    left = temperature_left(body, food, course.times_s)

    assert 5 + 75 * left == pytest.approx(course.centre_c, abs=0.1)


def test_a_start_at_another_temperature_only_scales_a_course() -> None:
    course = ChillCourse(np.array([0.0, 3600.0]), np.array([1.0, 0.5]), 4.0)

    assert course.series(60.0)[1] == (3600.0, 32.0)
    assert course.series(24.0, 100.0)[1] == (3700.0, 14.0)


# --- places and what lies on the food ---------------------------------------------------------------------


def test_resistances_add_up_and_only_ever_take_away() -> None:
    assert h_through(10.0, ()) == pytest.approx(10.0)
    # 1 / (1/10 + 0.16): a still air gap of a centimetre.
    assert h_through(10.0, ("air_gap_10mm",)) == pytest.approx(3.846, abs=0.001)
    for name in cover_layers():
        assert h_through(25.0, (name,)) <= 25.0


def test_every_place_has_a_range_and_an_unknown_one_is_refused() -> None:
    assert all(0 < row.low_h <= row.high_h for row in environments().values())
    with pytest.raises(CoreError):
        environment("cupboard")


def test_containers_hold_what_their_sizes_say() -> None:
    # 30 x 24 x 6.5 cm, a tenth of room at the top: 4.2 l.
    assert containers()["tray_half"].holds_l == pytest.approx(4.21, abs=0.01)
    # 26 cm across, 19 cm high: 9.1 l.
    assert containers()["pot_10l"].holds_l == pytest.approx(9.08, abs=0.01)

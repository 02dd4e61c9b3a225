"""Conduction against exact series, product rules, another integrator and a finer grid."""

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import brentq
from scipy.special import j0, j1, jn_zeros

from foodsafety.foods import Composition
from foodsafety.heat import (
    LONGEST_S,
    Body,
    ConstantProperties,
    FoodProperties,
    Level,
    Surroundings,
    TemperatureCourse,
    composition_from,
    conduct,
    conduct_in_cells,
    conduct_in_shells,
    pan_fried,
)
from foodsafety.quantities import CoreError

FOOD = ConstantProperties(k=0.5, rho=1000.0, cp=3600.0)


STEP_C = 75.0


FRIDGE = Surroundings(((0.0, 5.0),))


KOFTA = Composition(water=0.70, protein=0.20, fat=0.08, carbohydrate=0.01, fibre=0.0, ash=0.01)


def series(kind: str, biot: float, fourier: float, terms: int = 150) -> tuple[float, float, float]:
    """What is left of the step at the centre, in the mean and at the surface (Carslaw and Jaeger)."""
    if kind == "slab":
        mu = np.array(
            [brentq(lambda m: m * np.tan(m) - biot, n * np.pi + 1e-12, (n + 0.5) * np.pi - 1e-12) for n in range(terms)]
        )
        a = 4 * np.sin(mu) / (2 * mu + np.sin(2 * mu))
        surface, mean = a * np.cos(mu), a * np.sin(mu) / mu
    elif kind == "sphere":
        mu = np.array(
            [
                brentq(lambda m: m * np.cos(m) - (1 - biot) * np.sin(m), n * np.pi + 1e-9, (n + 1) * np.pi - 1e-9)
                for n in range(terms)
            ]
        )
        a = 4 * (np.sin(mu) - mu * np.cos(mu)) / (2 * mu - np.sin(2 * mu))
        surface, mean = a * np.sin(mu) / mu, a * 3 * (np.sin(mu) - mu * np.cos(mu)) / mu**3
    else:
        zeros = np.concatenate(([0.0], jn_zeros(1, terms)))
        mu = np.array(
            [brentq(lambda m: m * j1(m) - biot * j0(m), zeros[n] + 1e-9, zeros[n + 1] - 1e-9) for n in range(terms)]
        )
        a = 2 / mu * j1(mu) / (j0(mu) ** 2 + j1(mu) ** 2)
        surface, mean = a * j0(mu), a * 2 * j1(mu) / mu
    left = np.exp(-(mu**2) * fourier)
    return float(a @ left), float(mean @ left), float(surface @ left)


def body(kind: str, biot: float, size_m: float = 0.03) -> Body:
    return Body(shape=kind, size_m=(size_m,), h=biot * FOOD.k / size_m)  # type: ignore[arg-type]


def after(fourier: float, size_m: float = 0.03) -> float:
    return fourier * size_m**2 * FOOD.rho * FOOD.cp / FOOD.k


def end_of(course: TemperatureCourse) -> tuple[float, float, float]:
    return float(course.centre_c[-1]), float(course.mean_c[-1]), float(course.surface_c[-1])


@pytest.mark.parametrize(
    ("kind", "biot"), list(itertools.product(("slab", "cylinder", "sphere"), (0.05, 0.2, 1.0, 5.0, 20.0, 100.0)))
)
@pytest.mark.parametrize("fourier", [0.05, 0.2, 1.0, 3.0])
def test_one_dimension_agrees_with_the_exact_series(kind: str, biot: float, fourier: float) -> None:
    course = conduct(body(kind, biot), FOOD, t0_c=80.0, around=FRIDGE, until_s=after(fourier))

    for got, exact in zip(end_of(course), series(kind, biot, fourier), strict=True):
        assert (got - 5.0) / STEP_C == pytest.approx(exact, abs=0.001)


@pytest.mark.parametrize("biot", [0.1, 2.0, 50.0])
def test_a_brick_and_a_tin_are_products_of_their_parts(biot: float) -> None:
    h, sizes = biot * FOOD.k / 0.02, (0.02, 0.03, 0.05)
    time_s = 1800.0
    parts = [series("slab", h * size / FOOD.k, time_s * FOOD.k / (FOOD.rho * FOOD.cp * size**2)) for size in sizes]
    round_part = series("cylinder", h * 0.02 / FOOD.k, time_s * FOOD.k / (FOOD.rho * FOOD.cp * 0.02**2))

    brick = conduct(Body(shape="brick", size_m=sizes, h=h), FOOD, t0_c=80.0, around=FRIDGE, until_s=time_s)
    tin = conduct(
        Body(shape="finite_cylinder", size_m=(0.02, 0.03), h=h), FOOD, t0_c=80.0, around=FRIDGE, until_s=time_s
    )

    centre, mean, _ = end_of(brick)
    assert (centre - 5) / STEP_C == pytest.approx(np.prod([part[0] for part in parts]), abs=0.002)
    assert (mean - 5) / STEP_C == pytest.approx(np.prod([part[1] for part in parts]), abs=0.002)
    assert (end_of(tin)[0] - 5) / STEP_C == pytest.approx(round_part[0] * parts[1][0], abs=0.002)


def other_integrator(around: Surroundings, end_s: float, size_m: float, h: float) -> float:
    """The centre of a slab by the method of lines with a stiff integrator of scipy's."""
    n = 200
    gap = size_m / n

    def rate(time_s: float, temps: np.ndarray) -> np.ndarray:
        flow = np.zeros(n + 1)
        through = FOOD.k * np.diff(temps) / gap
        flow[:-1] += through
        flow[1:] -= through
        flow[-1] += h * (around.at(time_s) - temps[-1])
        volume = np.full(n + 1, gap)
        volume[[0, -1]] /= 2
        return flow / (volume * FOOD.rho * FOOD.cp)

    with np.errstate(invalid="ignore"):  # it takes differences of a table that it has not filled yet
        found = solve_ivp(rate, (0, end_s), np.full(n + 1, 80.0), method="BDF", rtol=1e-7, atol=1e-7, max_step=120)
    return float(found.y[0, -1])


@pytest.mark.parametrize(
    "points",
    [
        ((0.0, 20.0), (3600.0, 5.0)),
        ((0.0, 80.0), (600.0, 80.0), (600.0, 2.0), (5400.0, 2.0)),
        ((0.0, 5.0), (1800.0, 30.0), (3600.0, 5.0)),
    ],
    ids=["falling", "out of the oven into ice", "taken out and put back"],
)
def test_changing_surroundings_agree_with_another_integrator(points: tuple[tuple[float, float], ...]) -> None:
    around = Surroundings(points)
    course = conduct(Body(shape="slab", size_m=(0.02,), h=20.0), FOOD, t0_c=80.0, around=around, until_s=7000.0)

    assert course.centre_c[-1] == pytest.approx(other_integrator(around, 7000.0, 0.02, 20.0), abs=0.1)


def test_the_time_to_a_temperature_is_where_the_curve_passes_it() -> None:
    found = conduct(body("slab", 1.0), FOOD, t0_c=80.0, around=FRIDGE, until_centre_c=21.0)
    again = conduct(body("slab", 1.0), FOOD, t0_c=80.0, around=FRIDGE, until_s=found.reached_s)

    assert found.reached_s is not None
    assert again.centre_c[-1] == pytest.approx(21.0, abs=0.001)


@given(st.floats(0.005, 0.08), st.floats(3, 600), st.floats(1.01, 2))
@settings(max_examples=40, deadline=None)
def test_a_deeper_pot_never_cools_sooner(depth_m: float, h: float, more: float) -> None:
    def time_s(size: float) -> float:
        found = conduct(Body(shape="slab", size_m=(size,), h=h), FOOD, t0_c=80.0, around=FRIDGE, until_centre_c=21.0)
        return found.reached_s or LONGEST_S

    assert time_s(depth_m * more) > time_s(depth_m)


FREEZING = [
    ("slab", 0.03, 20.0, 5.0, -25.0, -18.0),
    ("cylinder", 0.03, 300.0, 5.0, -25.0, -18.0),
    ("sphere", 0.04, 8.0, -18.0, 5.0, 0.0),
]


@pytest.mark.parametrize(("kind", "size_m", "h", "t0_c", "around_c", "target_c"), FREEZING)
def test_freezing_and_thawing_agree_with_a_finer_grid_and_keep_their_heat(
    kind: str, size_m: float, h: float, t0_c: float, around_c: float, target_c: float
) -> None:
    food = FoodProperties(KOFTA, -1.0)
    case = Body(shape=kind, size_m=(size_m,), h=h)  # type: ignore[arg-type]
    around = Surroundings(((0.0, around_c),))
    course, model = conduct_in_shells(case, food, t0_c, around, end_s=3e5, target_c=target_c)
    fine, _ = conduct_in_shells(case, food, t0_c, around, end_s=3e5, target_c=target_c, cells=160, tolerance_c=0.02)

    assert course.reached_s is not None
    assert course.reached_s == pytest.approx(fine.reached_s, rel=0.02)
    assert model.held_j() - model.start_j == pytest.approx(model.entered_j, rel=1e-6)


@pytest.mark.parametrize(
    ("kind", "size_m", "h", "t0_c", "around_c", "target_c", "fine"),
    [
        ("finite_cylinder", (0.05, 0.06), 20.0, 5.0, -25.0, -18.0, 40),
        ("finite_cylinder", (0.03, 0.02), 200.0, -18.0, 15.0, 0.0, 40),
        ("brick", (0.02, 0.03, 0.04), 20.0, 5.0, -25.0, -18.0, 20),
    ],
    ids=["tin frozen", "tin thawed in water", "brick frozen"],
)
def test_tins_and_bricks_freeze_and_thaw_as_on_a_finer_grid(
    kind: str, size_m: tuple[float, ...], h: float, t0_c: float, around_c: float, target_c: float, fine: int
) -> None:
    food = FoodProperties(KOFTA, -1.0)
    case, around = Body(shape=kind, size_m=size_m, h=h), Surroundings(((0.0, around_c),))  # type: ignore[arg-type]
    course, model = conduct_in_cells(case, food, t0_c, around, end_s=3e5, target_c=target_c)
    finer, _ = conduct_in_cells(case, food, t0_c, around, end_s=3e5, target_c=target_c, cells=fine, tolerance_c=0.05)
    start_j = model.table.heat_at(t0_c) * model.volumes.sum()

    assert course.reached_s == pytest.approx(finer.reached_s, rel=0.02)
    assert model.held_j() - start_j == pytest.approx(model.entered_j, rel=1e-6)


@pytest.mark.parametrize(("kind", "size_m"), [("finite_cylinder", (0.05, 0.06)), ("brick", (0.02, 0.05, 0.08))])
def test_a_grid_of_cells_gives_what_the_product_of_series_gives(kind: str, size_m: tuple[float, ...]) -> None:
    case = Body(shape=kind, size_m=size_m, h=15.0)  # type: ignore[arg-type]
    exact = conduct(case, FOOD, t0_c=80.0, around=FRIDGE, until_s=7200.0)
    grid, _ = conduct_in_cells(case, Level(FOOD), 80.0, FRIDGE, end_s=7200.0, target_c=None)

    assert grid.centre_c[-1] == pytest.approx(exact.centre_c[-1], abs=0.1)
    assert grid.mean_c[-1] == pytest.approx(exact.mean_c[-1], abs=0.1)


def test_a_coefficient_that_changes_is_the_course_in_two_parts() -> None:
    """Out of still air into stirred ice: the second part is steeper, and a change to the same
    coefficient changes nothing."""
    case = Body(shape="slab", size_m=(0.02,), h=8.0)
    still = conduct(case, FOOD, t0_c=80.0, around=FRIDGE, until_s=5400.0)
    same = conduct(case, FOOD, t0_c=80.0, around=Surroundings(((0.0, 5.0),), h_steps=((1800.0, 8.0),)), until_s=5400.0)
    ice = conduct(case, FOOD, t0_c=80.0, around=Surroundings(((0.0, 5.0),), h_steps=((1800.0, 500.0),)), until_s=5400.0)

    assert same.centre_c[-1] == pytest.approx(still.centre_c[-1], abs=0.05)
    assert np.interp(1800.0, ice.times_s, ice.centre_c) == pytest.approx(
        np.interp(1800.0, still.times_s, still.centre_c), abs=0.2
    )
    assert ice.centre_c[-1] < still.centre_c[-1] - 10


def test_a_piece_between_two_like_faces_is_half_of_the_symmetric_slab() -> None:
    hot = Surroundings(((0.0, 180.0),))
    both = pan_fried(
        0.04, FOOD, t0_c=5.0, below=hot, below_h=40.0, above=hot, above_h=40.0, until_s=3600.0, until_coldest_c=70.0
    )
    slab = conduct(Body(shape="slab", size_m=(0.02,), h=40.0), FOOD, t0_c=5.0, around=hot, until_centre_c=70.0)

    assert both.reached_s == pytest.approx(slab.reached_s, rel=0.002)


def test_a_patty_that_is_turned_is_done_sooner_than_one_that_is_not() -> None:
    pan, air = 180.0, 25.0

    def done_s(*, turned: bool) -> float:
        below = Surroundings(((0.0, pan), (240.0, pan), (240.0, air if turned else pan)))
        above = Surroundings(((0.0, air), (240.0, air), (240.0, pan if turned else air)))
        steps = ((240.0, 12.0), (240.0, 250.0)) if turned else ((240.0, 250.0), (240.0, 12.0))
        found = pan_fried(
            0.025,
            FOOD,
            t0_c=5.0,
            below=Surroundings(below.points, h_steps=steps[:1]),
            below_h=250.0,
            above=Surroundings(above.points, h_steps=steps[1:]),
            above_h=12.0,
            until_s=7200.0,
            until_coldest_c=60.0,
        )
        return found.reached_s or LONGEST_S

    assert done_s(turned=True) < 0.8 * done_s(turned=False)


def test_a_thin_brick_that_has_long_frozen_stays_as_cold_as_its_freezer() -> None:
    case, around = Body(shape="brick", size_m=(0.004, 0.004, 0.004), h=20.0), Surroundings(((0.0, -25.0),))

    course = conduct(case, FoodProperties(KOFTA, -1.0), t0_c=5.0, around=around, until_s=30 * 86400.0)

    assert course.times_s[-1] == pytest.approx(30 * 86400.0)
    assert course.centre_c[-1] == pytest.approx(-25.0, abs=0.01)


def test_freezing_takes_longer_than_cooling_as_far_without_it() -> None:
    case, around = Body(shape="slab", size_m=(0.02,), h=20.0), Surroundings(((0.0, -30.0),))
    frozen = conduct(case, FoodProperties(KOFTA, -1.0), t0_c=5.0, around=around, until_centre_c=-18.0)
    not_frozen = conduct(case, FoodProperties(KOFTA), t0_c=5.0, around=around, until_centre_c=-18.0)

    assert (frozen.reached_s or 0) > 2 * (not_frozen.reached_s or 0)


# --- properties: published figures ----------------------------------------------------------------------


@pytest.mark.parametrize(
    ("composition", "k", "rho", "cp"),
    [
        # Water at 20 C: handbook values.
        (Composition(water=1, protein=0, fat=0, carbohydrate=0, fibre=0, ash=0), 0.598, 998.0, 4182.0),
        # Lean meat of three quarters water: the usual range of measured values, its middle.
        (Composition(water=0.75, protein=0.22, fat=0.02, carbohydrate=0, fibre=0, ash=0.01), 0.50, 1060.0, 3600.0),
    ],
    ids=["water", "lean meat"],
)
def test_properties_are_those_of_the_handbooks(composition: Composition, k: float, rho: float, cp: float) -> None:
    found_k, found_rho, found_cp = FoodProperties(composition).at(20.0)

    assert found_k == pytest.approx(k, rel=0.06)
    assert found_rho == pytest.approx(rho, rel=0.02)
    assert found_cp == pytest.approx(cp, rel=0.03)


def test_ice_begins_at_the_freezing_point_and_grows() -> None:
    food = FoodProperties(KOFTA, -1.0)
    ice = dict(zip(np.round(food.grid_c, 2), food.ice, strict=True))

    assert ice[-0.98] == 0.0
    assert ice[-2.0] == pytest.approx((0.70 - 0.4 * 0.20) * 0.5)
    assert 0.55 < ice[-18.0] < 0.62
    assert np.all(np.diff(food.enthalpy) > 0)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"shape": "cone"}, "shape"),
        ({"size_m": (0.0,)}, "size_m[0]"),
        ({"size_m": (-1.0,)}, "size_m[0]"),
        ({"size_m": (0.1, 0.1)}, "size_m"),
        ({"h": 0.0}, "h"),
    ],
)
def test_a_body_that_cannot_be_names_its_field(change: dict[str, object], field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        Body(**{"shape": "slab", "size_m": (0.03,), "h": 10.0, **change})  # type: ignore[arg-type]

    assert wrong.value.field == field


def test_a_target_that_is_never_reached_is_said() -> None:
    with pytest.raises(CoreError) as wrong:
        conduct(body("slab", 1.0), FOOD, t0_c=80.0, around=Surroundings(((0.0, 25.0),)), until_centre_c=21.0)

    assert wrong.value.field == "until_centre_c"


@pytest.mark.parametrize(
    "data", [None, {"water": 0.5}, {"water": 0.9, "protein": 0.9}, {"water": 1.0, "sand": 0.1}, {"water": "much"}]
)
def test_a_composition_that_makes_no_whole_is_refused(data: object) -> None:
    with pytest.raises(CoreError):
        composition_from(data)


@pytest.mark.parametrize(
    ("time_s", "around_c"),
    [(-5.0, 20.0), (0.0, 20.0), (30.0, 12.5), (59.9, 5.025), (60.0, 2.0), (100.0, 2.0), (1e6, 2.0)],
)
def test_surroundings_are_straight_between_points_level_outside_and_may_jump(time_s: float, around_c: float) -> None:
    around = Surroundings(((0.0, 20.0), (60.0, 5.0), (60.0, 2.0), (120.0, 2.0)))

    assert around.at(time_s) == pytest.approx(around_c, abs=1e-6)


def test_a_time_that_comes_before_the_target_ends_the_course_unreached() -> None:
    course = conduct(body("slab", 1.0), FOOD, t0_c=80.0, around=FRIDGE, until_s=60.0, until_centre_c=21.0)

    assert course.reached_s is None
    assert course.times_s[-1] == pytest.approx(60.0)


def test_per_cent_and_fractions_are_the_same_composition() -> None:
    parts = {"water": 70, "protein": 20, "fat": 10}

    whole, share = composition_from(parts), composition_from({name: value / 100 for name, value in parts.items()})

    assert (share.water, share.protein, share.fat) == pytest.approx((whole.water, whole.protein, whole.fat), rel=1e-12)


@pytest.mark.parametrize("kind", ["slab", "cylinder", "sphere"])
def test_properties_that_hardly_vary_give_what_constant_ones_give(kind: str) -> None:
    water = FoodProperties(Composition(water=1, protein=0, fat=0, carbohydrate=0, fibre=0, ash=0))
    k, rho, cp = water.at(11.0)
    case, around = Body(shape=kind, size_m=(0.02,), h=15.0), Surroundings(((0.0, 10.0),))  # type: ignore[arg-type]

    varying = conduct(case, water, t0_c=12.0, around=around, until_s=3600.0)
    constant = conduct(case, ConstantProperties(k=k, rho=rho, cp=cp), t0_c=12.0, around=around, until_s=3600.0)

    assert varying.centre_c[-1] == pytest.approx(constant.centre_c[-1], abs=0.01)
    assert varying.surface_c[-1] == pytest.approx(constant.surface_c[-1], abs=0.01)

"""Heat and cold in the core, each beside a plain ``solve_ivp`` of the same problem at the same error."""

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.integrate import solve_ivp

from foodsafety.cooling import (
    ChillBatch,
    ChillOffer,
    ChillSituation,
    chill_ways,
    container,
    greatest_size,
    left_to_cool,
)
from foodsafety.foods import Composition
from foodsafety.heat import (
    SHELLS,
    Body,
    ConstantProperties,
    FoodProperties,
    HeatTable,
    Surroundings,
    conduct,
    conduct_in_shells,
)
from foodsafety.rules import rule_profile

KOFTA = Composition(water=0.70, protein=0.20, fat=0.08, carbohydrate=0.01, fibre=0.0, ash=0.01)
FOOD = ConstantProperties(k=0.5, rho=1040.0, cp=3600.0)
SLAB = Body(shape="slab", size_m=(0.025,), h=15.0)
FRIDGE = Surroundings(((0.0, 4.0),))
FREEZER = Surroundings(((0.0, -25.0),))
SIX_HOURS_S, FREEZE_S = 6 * 3600.0, 8 * 3600.0
CELLS = 32


@dataclass(frozen=True)
class Side:
    """Milliseconds and the greatest error [C] of the centre over the course."""

    ms: float
    error_c: float


def _ms(run: Callable[[], object], rounds: int = 7) -> float:
    run()
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        run()
        times.append(time.perf_counter() - start)
    return statistics.median(times) * 1000


def _by_lines(
    rates: Callable[[float, np.ndarray], np.ndarray], start: np.ndarray, end_s: float, rtol: float, atol: float
) -> object:
    """Plain solve_ivp of the cells, told that each depends on its neighbours only."""
    n = len(start)
    near = np.eye(n) + np.eye(n, k=1) + np.eye(n, k=-1)
    return solve_ivp(rates, (0, end_s), start, method="BDF", rtol=rtol, atol=atol, jac_sparsity=near, dense_output=True)


def _cells(n: int, size_m: float) -> tuple[np.ndarray, float]:
    volume = np.full(n + 1, size_m / n)
    volume[[0, -1]] /= 2
    return volume, size_m / n


def _plain_cooling(rtol: float, atol: float, n: int = SHELLS) -> object:
    volume, gap = _cells(n, SLAB.size_m[0])

    def rates(_t: float, temps: np.ndarray) -> np.ndarray:
        net = np.zeros(n + 1)
        through = FOOD.k * np.diff(temps) / gap
        net[:-1] += through
        net[1:] -= through
        net[-1] += SLAB.h * (4.0 - temps[-1])
        return net / (volume * FOOD.rho * FOOD.cp)

    return _by_lines(rates, np.full(n + 1, 65.0), SIX_HOURS_S, rtol, atol)


def _plain_freezing(rtol: float, atol: float, n: int = CELLS) -> tuple[object, HeatTable]:
    food = FoodProperties(KOFTA, -1.0)
    table = HeatTable(food, food.at(5.0)[1])
    volume, gap = _cells(n, SLAB.size_m[0])

    def rates(_t: float, heat: np.ndarray) -> np.ndarray:
        temps, _slope, k = table.at(heat)
        net = np.zeros(n + 1)
        through = 2 * k[1:] * k[:-1] / (k[1:] + k[:-1]) * np.diff(temps) / gap
        net[:-1] += through
        net[1:] -= through
        net[-1] += SLAB.h * (-25.0 - temps[-1])
        return net / volume

    return _by_lines(rates, np.full(n + 1, table.heat_at(5.0)), FREEZE_S, rtol, atol), table


def cooling() -> tuple[Side, Side]:
    """A 6 h cooling curve: ours, and solve_ivp at no smaller an error."""

    def ours() -> object:
        return conduct(SLAB, FOOD, t0_c=65.0, around=FRIDGE, until_s=SIX_HOURS_S)

    course = ours()
    exact = _plain_cooling(1e-9, 1e-9, 400).sol(course.times_s)[0]
    mine = Side(_ms(ours), float(np.abs(course.centre_c - exact).max()))
    other = _matched(
        lambda rtol: _plain_cooling(rtol, rtol * 10), lambda found: found.sol(course.times_s)[0], exact, mine
    )
    return mine, other


def freezing() -> tuple[Side, Side]:
    """Freezing a slab of 5 cm: ours, and solve_ivp of the same cells at no smaller an error in time."""
    food = FoodProperties(KOFTA, -1.0)

    def ours() -> object:
        return conduct_in_shells(SLAB, food, 5.0, FREEZER, end_s=FREEZE_S, target_c=None)[0]

    course = ours()
    fine, table = _plain_freezing(1e-8, 1.0)
    exact = table.at(fine.sol(course.times_s)[0])[0]
    mine = Side(_ms(ours, 5), float(np.abs(course.centre_c - exact).max()))
    other = _matched(
        lambda rtol: _plain_freezing(rtol, rtol * 1e8)[0],
        lambda found: table.at(found.sol(course.times_s)[0])[0],
        exact,
        mine,
    )
    return mine, other


def _matched(
    run: Callable[[float], object], centre: Callable[[object], np.ndarray], exact: np.ndarray, mine: Side
) -> Side:
    """solve_ivp at the loosest tolerance whose error is no greater than ours, or at its tightest."""
    for rtol in (1e-2, 3e-3, 1e-3, 3e-4, 1e-4, 3e-5, 1e-5, 1e-6, 1e-7):
        error_c = float(np.abs(centre(run(rtol)) - exact).max())
        if error_c <= max(1.5 * mine.error_c, 1e-4):
            break
    return Side(_ms(lambda: run(rtol), 3), error_c)


def backward_ms() -> float:
    """The slower of the two backward solves: the greatest depth, and every way for 8 litres."""
    code = rule_profile("us-foodservice")
    soup = Composition(water=0.88, protein=0.04, fat=0.03, carbohydrate=0.04, fibre=0.005, ash=0.005)
    batch = ChillBatch(litres=8, composition=soup)
    situation = ChillSituation(batch=batch, readings=((0.0, 60.0), (1200.0, 58.0)), profile=code)
    offers = [
        ChillOffer(where=name, around_c=c)
        for name, c in (("fridge", 4.0), ("ice_bath", 0.5), ("stirred_ice_bath", 0.5))
    ]
    pot = left_to_cool(batch, container("pot_10l"), where="fridge", around_c=4.0)
    deep = _ms(lambda: greatest_size("slab", FOOD, h=5, around_c=4, start_c=60, profile=code))
    return max(deep, _ms(lambda: chill_ways(situation, pot, offers), 5))

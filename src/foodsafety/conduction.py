"""Heat through food: conduction inside, convection at the surface, surroundings that change.

Constant properties: the equations, cut into shells, are solved by their modes, exactly in time
for surroundings that are straight between their points; finite cylinders and bricks are products
of such modes. Properties that vary, and freezing: enthalpy in shells, TR-BDF2 in time, with heat
conserved to rounding.

Error: against the series solutions within 0.1 C or 0.2 % of the step for Biot 0.05 to 100.
Source: Carslaw and Jaeger, Conduction of Heat in Solids; Bank et al. 1985 (TR-BDF2).
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
from scipy.linalg import eigh_tridiagonal
from scipy.special import j0, j1, jn_zeros

from foodsafety.bodies import PARTS, SIZES, Body, Constant, Course, Shape, Surroundings, shells
from foodsafety.enthalpy import Face, Level, Properties, in_shells
from foodsafety.properties import Array, FoodProperties
from foodsafety.quantities import CoreError, positive
from foodsafety.solids import in_cells

__all__ = [
    "LONGEST_S",
    "SIZES",
    "Body",
    "Constant",
    "Course",
    "Shape",
    "Surroundings",
    "conduct",
    "pan_fried",
    "remaining",
]

SHELLS = 140
POINTS = 121
LONGEST_S = 60 * 86400.0


# --- constant properties: modes --------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class _Modes:
    """Rates [1/s] and the weight of each mode at the centre, in the mean and at the surface."""

    rate: Array
    centre: Array
    mean: Array
    surface: Array


def _modes(kind: str, size_m: float, food: Constant, h: float) -> _Modes:
    volumes, areas, outer = shells(kind, size_m, SHELLS)
    conductance = food.k * areas * SHELLS / size_m
    diagonal = np.zeros(SHELLS + 1)
    diagonal[:-1] += conductance
    diagonal[1:] += conductance
    diagonal[-1] += h * outer
    root = np.sqrt(food.rho * food.cp * volumes)
    rate, shape = eigh_tridiagonal(diagonal / root**2, -conductance / (root[:-1] * root[1:]))
    weight = shape.T @ root
    share = volumes / volumes.sum()
    return _Modes(rate, shape[0] / root[0] * weight, ((share / root) @ shape) * weight, shape[-1] / root[-1] * weight)


# Modes of a product that matter nowhere are left out.
_LEAST_WEIGHT = 1e-9
_MOST_MODES = 40


def _product(parts: Sequence[_Modes]) -> _Modes:
    whole = parts[0]
    for part in parts[1:]:
        a = slice(None) if whole.rate.size <= 2000 else slice(0, 2000)
        b = slice(0, _MOST_MODES)
        rate = np.add.outer(whole.rate[a], part.rate[b]).ravel()
        centre = np.multiply.outer(whole.centre[a], part.centre[b]).ravel()
        mean = np.multiply.outer(whole.mean[a], part.mean[b]).ravel()
        surface = np.multiply.outer(whole.surface[a], part.centre[b]).ravel()
        matters = np.abs(centre) + np.abs(mean) + np.abs(surface) > _LEAST_WEIGHT
        order = np.argsort(rate[matters])
        whole = _Modes(rate[matters][order], centre[matters][order], mean[matters][order], surface[matters][order])
    return whole


def _lag(rate: Array, time_s: float, t0_c: float, around: Surroundings) -> Array:
    """For each mode, how far it lags behind the surroundings at a time [C]: what is left of the
    first difference, of every jump and of every slope since."""
    first_c = around.at(0.0)
    lag = (first_c - t0_c) * np.exp(-rate * time_s)
    points = [(0.0, first_c), *(row for row in around.points if row[0] > 0)]
    for (a, start_c), (b, end_c) in itertools.pairwise(points):
        if a >= time_s:
            break
        if b == a:
            lag += (end_c - start_c) * np.exp(-rate * (time_s - a))
            continue
        upto = min(b, time_s)
        slope = (end_c - start_c) / (b - a)
        lag += slope * (np.exp(-rate * (time_s - upto)) - np.exp(-rate * (time_s - a))) / rate
    return lag


class _Linear:
    """A body of constant properties."""

    def __init__(self, body: Body, food: Constant, t0_c: float, around: Surroundings) -> None:
        parts = [_modes(kind, size, food, body.h) for kind, size in zip(PARTS[body.shape], body.size_m, strict=True)]
        self.modes = _product(parts)
        self.t0_c, self.around = t0_c, around

    def at(self, time_s: float) -> tuple[float, float, float]:
        """Centre, mean and surface [C] at a time."""
        if time_s <= 0:
            return self.t0_c, self.t0_c, self.t0_c
        lag = _lag(self.modes.rate, time_s, self.t0_c, self.around)
        around_c = self.around.at(time_s)
        return tuple(around_c - float(row @ lag) for row in (self.modes.centre, self.modes.mean, self.modes.surface))  # type: ignore[return-value]

    def reaches(self, target_c: float, until_s: float) -> float | None:
        """When the centre first reaches a temperature, coming from where it began; None if it does
        not within ``until_s``."""
        above = self.t0_c > target_c

        def past(time_s: float) -> bool:
            centre = self.at(time_s)[0]
            return centre <= target_c if above else centre >= target_c

        if past(0.0):
            return 0.0
        slowest_s = 1 / float(self.modes.rate[0])
        ends = sorted({until_s, *(row[0] for row in self.around.points if 0 < row[0] < until_s)})
        before = 0.0
        for end in ends:
            # Small enough that a centre which turns round between two looks is not missed by much.
            for time_s in np.linspace(before, end, max(8, min(400, int(8 * (end - before) / slowest_s))))[1:]:
                if past(float(time_s)):
                    return _bisect(past, before, float(time_s))
                before = float(time_s)
        return None


def _bisect(past: Callable[[float], bool], low_s: float, high_s: float) -> float:
    for _ in range(60):
        middle = (low_s + high_s) / 2
        low_s, high_s = (low_s, middle) if past(middle) else (middle, high_s)
        if high_s - low_s < 1e-6 * max(1.0, high_s):
            break
    return high_s


def _course_of(linear: _Linear, end_s: float, reached_s: float | None) -> Course:
    times = np.linspace(0.0, end_s, POINTS)
    rows = np.array([linear.at(float(time_s)) for time_s in times])
    return Course(times_s=times, centre_c=rows[:, 0], mean_c=rows[:, 1], surface_c=rows[:, 2], reached_s=reached_s)


# --- one door ------------------------------------------------------------------------------------------


def conduct(
    body: Body,
    food: Constant | FoodProperties,
    *,
    t0_c: float,
    around: Surroundings,
    until_s: float | None = None,
    until_centre_c: float | None = None,
) -> Course:
    """The course of temperatures in a body from ``t0_c`` [C] all through, until a time [s], or until
    the centre reaches a temperature [C], whichever comes first.

    Food given by its composition is computed with properties that vary. Freezing starts from the
    food's own ``t_f_c``. Error: freezing and thawing within 2 % of the time on a finer grid.
    Raises CoreError for a target the surroundings never bring.
    """
    if until_s is None and until_centre_c is None:
        raise CoreError("until_s", "say until when: until_s, or until_centre_c")
    if until_s is not None:
        positive(until_s, "until_s")
    if until_centre_c is not None and until_s is None:
        _reachable(t0_c, until_centre_c, around)
    end_s = min(until_s or LONGEST_S, LONGEST_S)
    if isinstance(food, FoodProperties) or around.h_steps:
        return _varying(body, food, t0_c, around, end_s, until_centre_c, endless=until_s is None)
    linear = _Linear(body, food, t0_c, around)
    reached_s = linear.reaches(until_centre_c, end_s) if until_centre_c is not None else None
    if until_s is None and reached_s is None:
        raise CoreError(
            "until_centre_c", f"the centre does not reach {until_centre_c:g} C in {LONGEST_S / 86400:g} days"
        )
    return _course_of(linear, end_s if reached_s is None else max(reached_s, 1e-9), reached_s)


def _varying(
    body: Body,
    food: Constant | FoodProperties,
    t0_c: float,
    around: Surroundings,
    end_s: float,
    target_c: float | None,
    *,
    endless: bool,
) -> Course:
    freezing = isinstance(food, FoodProperties) and food.t_f_c is not None
    properties: Properties = food if isinstance(food, FoodProperties) else Level(food)
    if len(body.size_m) > 1:
        course, _ = in_cells(body, properties, t0_c, around, end_s=end_s, target_c=target_c)
    elif freezing:
        course, _ = in_shells(body, properties, t0_c, around, end_s=end_s, target_c=target_c)
    else:
        # Without freezing the curves are smooth: a fine grid costs little.
        course, _ = in_shells(
            body, properties, t0_c, around, end_s=end_s, target_c=target_c, cells=100, tolerance_c=0.004
        )
    if endless and target_c is not None and course.reached_s is None:
        raise CoreError("until_centre_c", f"the centre does not reach {target_c:g} C in {LONGEST_S / 86400:g} days")
    return course


_TERMS = 14
_BRACKET_STEPS = 30


@lru_cache(maxsize=4096)
def _series(kind: str, biot: float) -> tuple[Array, Array]:
    """Roots and weights of the exact series for the centre (Carslaw and Jaeger)."""
    n = np.arange(_TERMS)
    if kind == "slab":
        low, high = n * np.pi, (n + 0.5) * np.pi
    elif kind == "sphere":
        low, high = n * np.pi, (n + 1) * np.pi
    else:
        low, high = np.concatenate(([0.0], jn_zeros(1, _TERMS)))[:-1], jn_zeros(0, _TERMS)
    low, high = low + 1e-12, high - 1e-12

    def wrong(mu: Any) -> Array:
        if kind == "slab":
            return np.asarray(mu * np.sin(mu) - biot * np.cos(mu))
        if kind == "sphere":
            return np.asarray(mu * np.cos(mu) - (1 - biot) * np.sin(mu))
        return np.asarray(mu * j1(mu) - biot * j0(mu))

    rising = np.sign(wrong(np.asarray(high)))
    for _ in range(_BRACKET_STEPS):
        middle = (low + high) / 2
        over = np.sign(wrong(np.asarray(middle))) == rising
        low, high = np.where(over, low, middle), np.where(over, middle, high)
    mu = (low + high) / 2
    if kind == "slab":
        return mu, 4 * np.sin(mu) / (2 * mu + np.sin(2 * mu))
    if kind == "sphere":
        return mu, 4 * (np.sin(mu) - mu * np.cos(mu)) / (2 * mu - np.sin(2 * mu))
    return mu, 2 / mu * j1(mu) / (j0(mu) ** 2 + j1(mu) ** 2)


# Before this Fourier number the series has not settled, and the centre has hardly moved.
_LEAST_FOURIER = 0.01


def remaining(body: Body, food: Constant, times_s: Array) -> Array:
    """What is left of the step at the centre at each time [s], in steady surroundings: the exact
    series, a product of them for a tin or a brick. Error: below 1e-4 of the step, always too much
    left rather than too little."""
    left = np.ones_like(times_s)
    for kind, size in zip(PARTS[body.shape], body.size_m, strict=True):
        mu, weight = _series(kind, body.h * size / food.k)
        fourier = times_s * food.k / (food.rho * food.cp * size**2)
        row = np.exp(-np.multiply.outer(fourier, mu**2)) @ weight
        left = left * np.where(fourier < _LEAST_FOURIER, 1.0, np.clip(row, 0.0, 1.0))
    return left


def pan_fried(
    thickness_m: float,
    food: Constant | FoodProperties,
    *,
    t0_c: float,
    below: Surroundings,
    below_h: float,
    above: Surroundings,
    above_h: float,
    until_s: float,
    until_coldest_c: float | None = None,
) -> Course:
    """A piece between two surroundings that differ: on a pan and in the air, turned by exchanging
    them at a time (both as points and ``h_steps``). ``centre_c`` of the course is its slowest point.

    ``below_h`` and ``above_h`` [W/(m2 K)] are those at the start.
    """
    body = Body(shape="slab", size_m=(positive(thickness_m, "thickness_m"),), h=positive(above_h, "above_h"))
    properties: Properties = food if isinstance(food, FoodProperties) else Level(food)
    near = Face(positive(below_h, "below_h"), below)
    course, _ = in_shells(
        body,
        properties,
        t0_c,
        above,
        end_s=positive(until_s, "until_s"),
        target_c=until_coldest_c,
        cells=80,
        tolerance_c=0.01,
        near=near,
    )
    return course


def _reachable(t0_c: float, target_c: float, around: Surroundings) -> None:
    temps = [t0_c, *(row[1] for row in around.points)]
    if not min(temps) < target_c < max(temps) and target_c != t0_c:
        raise CoreError(
            "until_centre_c", f"{target_c:g} C is never reached between {min(temps):g} and {max(temps):g} C"
        )

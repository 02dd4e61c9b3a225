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
from typing import Literal

import numpy as np
from scipy.linalg import eigh_tridiagonal
from scipy.linalg.lapack import dgtsv

from foodsafety.properties import Array, FoodProperties
from foodsafety.quantities import CoreError, positive

Shape = Literal["slab", "cylinder", "sphere", "finite_cylinder", "brick"]
SIZES: dict[Shape, int] = {"slab": 1, "cylinder": 1, "sphere": 1, "finite_cylinder": 2, "brick": 3}
_POWER = {"slab": 0, "cylinder": 1, "sphere": 2}
# One-dimensional bodies that a finite shape is the product of, in the order of its sizes.
_PARTS: dict[Shape, tuple[str, ...]] = {
    "slab": ("slab",),
    "cylinder": ("cylinder",),
    "sphere": ("sphere",),
    "finite_cylinder": ("cylinder", "slab"),
    "brick": ("slab", "slab", "slab"),
}
SHELLS = 140
POINTS = 121
LONGEST_S = 60 * 86400.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Body:
    """A shape with its sizes [m]: half-thickness or radius, first the radius, then half-lengths.
    ``h`` [W/(m2 K)] at its surface, the resistance of a lid or wrap already in it."""

    shape: Shape
    size_m: tuple[float, ...]
    h: float

    def __post_init__(self) -> None:
        if self.shape not in SIZES:
            raise CoreError("shape", f"{self.shape!r} is not one of {', '.join(SIZES)}")
        if len(self.size_m) != SIZES[self.shape]:
            raise CoreError("size_m", f"a {self.shape} needs {SIZES[self.shape]} sizes, not {len(self.size_m)}")
        for i, size in enumerate(self.size_m):
            positive(size, f"size_m[{i}]")
        positive(self.h, "h")


@dataclass(frozen=True, slots=True, kw_only=True)
class Constant:
    """Properties that stay: k [W/(m K)], rho [kg/m3], cp [J/(kg K)]."""

    k: float
    rho: float
    cp: float

    def __post_init__(self) -> None:
        for name in ("k", "rho", "cp"):
            positive(getattr(self, name), f"food.{name}")


@dataclass(frozen=True, slots=True)
class Surroundings:
    """Temperature around the food [C] over time [s]: straight between its points, level before
    the first and after the last; two points at one time are a jump."""

    points: tuple[tuple[float, float], ...]

    def at(self, time_s: float) -> float:
        """The temperature at a time, after a jump."""
        before = [row for row in self.points if row[0] <= time_s]
        after = [row for row in self.points if row[0] > time_s]
        if not before:
            return self.points[0][1]
        if not after:
            return before[-1][1]
        (t0, c0), (t1, c1) = before[-1], after[0]
        return c0 + (c1 - c0) * (time_s - t0) / (t1 - t0)

    @property
    def last_s(self) -> float:
        """When it stops changing."""
        return max(0.0, self.points[-1][0])


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """Temperatures [C] over time [s], and when the centre reached its target (None: it did not)."""

    times_s: Array
    centre_c: Array
    mean_c: Array
    surface_c: Array
    reached_s: float | None = None


# --- constant properties: modes --------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class _Modes:
    """Rates [1/s] and the weight of each mode at the centre, in the mean and at the surface."""

    rate: Array
    centre: Array
    mean: Array
    surface: Array


def _shells(kind: str, size_m: float, count: int) -> tuple[Array, Array, float]:
    """Volumes of the shells around equidistant points, the areas between them, the outer area:
    all for a unit of length or angle."""
    power = _POWER[kind]
    edges = np.concatenate(([0.0], (np.arange(count) + 0.5) * size_m / count, [size_m]))
    volumes = np.diff(edges ** (power + 1)) / (power + 1)
    return volumes, edges[1:-1] ** power, size_m**power


def _modes(kind: str, size_m: float, food: Constant, h: float) -> _Modes:
    volumes, areas, outer = _shells(kind, size_m, SHELLS)
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
        parts = [_modes(kind, size, food, body.h) for kind, size in zip(_PARTS[body.shape], body.size_m, strict=True)]
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


# --- properties that vary, freezing ------------------------------------------------------------------

_GAMMA = 2 - np.sqrt(2.0)
_CELLS = 32
_TOLERANCE_C = 0.1
_MOST_STEPS = 20_000


class _Enthalpy:
    """A slab, cylinder or sphere whose properties follow its temperature. The unknown is the heat
    of each shell, in which freezing is smooth: a little heat never moves a temperature far."""

    def __init__(self, body: Body, food: FoodProperties, t0_c: float, around: Surroundings, cells: int) -> None:
        kind, size = body.shape, body.size_m[0]
        self.volumes, self.areas, self.outer = _shells(kind, size, cells)
        self.h, self.around = body.h, around
        self.gap = size / cells
        # Mass stays: the density of the food as it begins.
        rho = food.at(t0_c)[1]
        self.table = _HeatTable(food, rho)
        self.heat = np.full(cells + 1, self.table.heat_at(t0_c))
        self.time_s = 0.0
        self.entered_j = 0.0
        self.start_j = self.held_j()
        self._next: tuple[Array, float] = (self.heat, 0.0)

    def held_j(self) -> float:
        """Heat in the body [J] for a unit of length or angle."""
        return float(self.heat @ self.volumes)

    def _flows(self, temps: Array, k: Array, around_c: float) -> tuple[Array, Array]:
        """Net heat into each shell [W], and the conductances between them."""
        between = 2 * k[1:] * k[:-1] / (k[1:] + k[:-1]) * self.areas / self.gap
        through = between * (temps[1:] - temps[:-1])
        net = np.empty_like(temps)
        net[1:-1] = through[1:] - through[:-1]
        net[0] = through[0]
        net[-1] = self.h * self.outer * (around_c - temps[-1]) - through[-1]
        return net, between

    def _solve(self, guess: Array, known: Array, weight_s: float, around_c: float) -> tuple[Array, Array, float] | None:
        """Heats for which volume x heat - weight x net flow equals ``known``, by Newton; with the
        net flow there and what comes in from outside [W]."""
        heat = guess
        enough = 1e-8 * self.table.span
        for _ in range(30):
            temps, slope, k = self.table.at(heat)
            net, between = self._flows(temps, k, around_c)
            wrong = self.volumes * heat - weight_s * net - known
            loss = np.empty_like(heat)
            loss[1:-1] = between[1:] + between[:-1]
            loss[0] = between[0]
            loss[-1] = between[-1] + self.h * self.outer
            diagonal = self.volumes + weight_s * loss * slope
            *_, change, failed = dgtsv(
                -weight_s * between * slope[:-1], diagonal, -weight_s * between * slope[1:], wrong
            )
            if failed:
                return None
            heat = heat - change
            if np.abs(change).max() < enough:
                # One more look at the flows, so that what is conserved is exactly what was solved.
                return (
                    heat,
                    (self.volumes * heat - known) / weight_s,
                    float(self.h * self.outer * (around_c - temps[-1])),
                )
        return None

    def step(self, dt_s: float) -> float | None:
        """Tries one step of TR-BDF2; the error [C] it makes, None if it found no answer."""
        t, g = self.time_s, _GAMMA
        now = self.around.at(t)
        temps, _, k = self.table.at(self.heat)
        net0, _ = self._flows(temps, k, now)
        held0 = self.volumes * self.heat
        w1 = g * dt_s / 2
        middle = self._solve(self.heat, held0 + w1 * net0, w1, self.around.at(t + g * dt_s))
        if middle is None:
            return None
        heat1, net1, outside1 = middle
        a = 1 / (g * (2 - g))
        w2 = (1 - g) / (2 - g) * dt_s
        end = self._solve(heat1, a * self.volumes * heat1 + (1 - a) * held0, w2, self.around.at(t + dt_s))
        if end is None:
            return None
        heat2, net2, outside2 = end
        kappa = (-3 * g**2 + 4 * g - 2) / (12 * (2 - g))
        estimate = 2 * kappa * dt_s * (net0 / g - net1 / (g * (1 - g)) + net2 / (1 - g))
        slope = self.table.at(heat2)[1]
        error_c = float(np.sqrt(np.mean((estimate / self.volumes * slope) ** 2)))
        outside0 = float(self.h * self.outer * (now - temps[-1]))
        flux = a * w1 * (outside0 + outside1) + w2 * outside2
        self._next = (heat2, flux)
        return error_c

    def accept(self, dt_s: float) -> None:
        """Takes the step tried last."""
        self.heat, flux = self._next
        self.entered_j += flux
        self.time_s += dt_s

    def temperatures(self) -> tuple[float, float, float]:
        """Centre, mean by volume and surface [C]."""
        temps = self.table.at(self.heat)[0]
        return float(temps[0]), float(temps @ self.volumes / self.volumes.sum()), float(temps[-1])


class _HeatTable:
    """Temperature, its slope over heat, and conductivity, against heat [J/m3], at equal steps."""

    COUNT = 6000

    def __init__(self, food: FoodProperties, rho: float) -> None:
        heat = food.enthalpy * rho
        self.low, self.high = float(heat[0]), float(heat[-1])
        self.span = self.high - self.low
        self._grid_c, self._heat = food.grid_c, heat
        even = np.linspace(self.low, self.high, self.COUNT)
        self.temps = np.interp(even, heat, food.grid_c)
        self.k = np.interp(self.temps, food.grid_c, food.k)
        self.slopes = np.diff(self.temps) / np.diff(even)
        self.k_slopes = np.diff(self.k) / np.diff(even)
        self.per = (self.COUNT - 1) / self.span
        self.even = even

    def heat_at(self, at_c: float) -> float:
        """Heat [J/m3] at a temperature [C], as this table has it."""
        place = min(int(np.searchsorted(self.temps, at_c)) or 1, self.COUNT - 1)
        return float(self.even[place] - (self.temps[place] - at_c) / self.slopes[place - 1])

    def at(self, heat: Array) -> tuple[Array, Array, Array]:
        """(temperature [C], its slope [C m3/J], conductivity [W/(m K)]) at heats."""
        place = ((heat - self.low) * self.per).astype(np.intp)
        np.clip(place, 0, self.COUNT - 2, out=place)
        further = heat - self.even[place]
        slope = self.slopes[place]
        return self.temps[place] + slope * further, slope, self.k[place] + self.k_slopes[place] * further


def _varying(
    body: Body,
    food: FoodProperties,
    t0_c: float,
    around: Surroundings,
    *,
    end_s: float,
    target_c: float | None,
    cells: int = _CELLS,
    tolerance_c: float | None = None,
) -> tuple[Course, _Enthalpy]:
    allowed_c = tolerance_c or _TOLERANCE_C
    model = _Enthalpy(body, food, t0_c, around, cells)
    rows = [(0.0, t0_c, t0_c, t0_c)]
    corners = sorted({row[0] for row in around.points if 0 < row[0] < end_s} | {end_s})
    capacity = food.at(t0_c)[1] * food.at(t0_c)[2]
    dt_s = min(end_s, max(1e-3, 0.02 * model.gap**2 * capacity / food.at(t0_c)[0]))
    above, reached_s = (t0_c > target_c) if target_c is not None else False, None
    for _ in range(_MOST_STEPS):
        if model.time_s >= end_s - 1e-9 or reached_s is not None:
            break
        corner = next(time_s for time_s in corners if time_s > model.time_s + 1e-9)
        take_s = min(dt_s, corner - model.time_s)
        error_c = model.step(take_s)
        if error_c is None or (error_c > allowed_c and take_s > 1e-3):
            dt_s = take_s * (0.25 if error_c is None else max(0.2, 0.9 * (allowed_c / error_c) ** (1 / 3)))
            continue
        model.accept(take_s)
        rows.append((model.time_s, *model.temperatures()))
        centre_c = rows[-1][1]
        if target_c is not None and ((centre_c <= target_c) if above else (centre_c >= target_c)):
            (t0, c0, *_rest), (t1, c1, *_more) = rows[-2], rows[-1]
            reached_s = t1 if c1 == c0 else t0 + (t1 - t0) * (target_c - c0) / (c1 - c0)
        grow = 3.0 if error_c == 0 else min(3.0, 0.9 * (allowed_c / error_c) ** (1 / 3))
        dt_s = max(take_s, dt_s if take_s < dt_s else take_s) * grow
    table = np.array(rows)
    course = Course(
        times_s=table[:, 0],
        centre_c=table[:, 1],
        mean_c=table[:, 2],
        surface_c=table[:, 3],
        reached_s=reached_s,
    )
    return course, model


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

    Food given by its composition is computed with properties that vary; a finite shape of it with
    those of the middle between start and surroundings (error: some per cent of the time).
    Raises CoreError for a target the surroundings never bring.
    """
    if until_s is None and until_centre_c is None:
        raise CoreError("until_s", "say until when: until_s, or until_centre_c")
    if until_s is not None:
        positive(until_s, "until_s")
    if until_centre_c is not None and until_s is None:
        _reachable(t0_c, until_centre_c, around)
    end_s = min(until_s or LONGEST_S, LONGEST_S)
    if isinstance(food, FoodProperties) and len(body.size_m) > 1:
        if food.t_f_c is not None:
            raise CoreError("shape", "freezing is computed for a slab, a cylinder or a sphere")
        k, rho, cp = food.at((t0_c + around.points[-1][1]) / 2)
        food = Constant(k=k, rho=rho, cp=cp)
    if isinstance(food, FoodProperties):
        # Without freezing the curves are smooth: a fine grid costs little.
        fine = {} if food.t_f_c is not None else {"cells": 100, "tolerance_c": 0.004}
        return _varying(body, food, t0_c, around, end_s=end_s, target_c=until_centre_c, **fine)[0]  # type: ignore[arg-type]
    linear = _Linear(body, food, t0_c, around)
    reached_s = linear.reaches(until_centre_c, end_s) if until_centre_c is not None else None
    if until_s is None and reached_s is None:
        raise CoreError(
            "until_centre_c", f"the centre does not reach {until_centre_c:g} C in {LONGEST_S / 86400:g} days"
        )
    return _course_of(linear, end_s if reached_s is None else max(reached_s, 1e-9), reached_s)


def _reachable(t0_c: float, target_c: float, around: Surroundings) -> None:
    temps = [t0_c, *(row[1] for row in around.points)]
    if not min(temps) < target_c < max(temps) and target_c != t0_c:
        raise CoreError(
            "until_centre_c", f"{target_c:g} C is never reached between {min(temps):g} and {max(temps):g} C"
        )

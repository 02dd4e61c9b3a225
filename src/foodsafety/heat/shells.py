"""Conduction with properties that follow the temperature, freezing and thawing: heat in shells.

The unknown is the heat of each shell, in which freezing is smooth: a little heat never moves a
temperature far. One direction (slab, cylinder, sphere) is solved by TR-BDF2, which is implicit;
several (tin, brick) by a stabilised explicit scheme that needs no matrix (``cells``). Heat is
conserved to rounding in both.

Source: Bank et al. 1985, "Transient simulation of silicon devices and circuits" (TR-BDF2).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from scipy.linalg.lapack import dgtsv

from foodsafety.heat.geometry import Body, ConstantProperties, Surroundings, TemperatureCourse, cut_into_shells
from foodsafety.heat.properties import Array
from foodsafety.quantities import CoreError

_GAMMA = 2 - np.sqrt(2.0)
CELLS = 32
TOLERANCE_C = 0.1
AT_REST_C = 1e-3
_MOST_STEPS = 20_000


class Properties(Protocol):
    """What a heat table is made of: over ``grid_c`` [C], k [W/(m K)] and enthalpy [J/kg]."""

    @property
    def grid_c(self) -> Array: ...
    @property
    def k(self) -> Array: ...
    @property
    def enthalpy(self) -> Array: ...
    def at(self, at_c: float) -> tuple[float, float, float]: ...


class Level:
    """Constant properties, as a table that could vary."""

    def __init__(self, food: ConstantProperties) -> None:
        self._food = food
        self.grid_c = np.array([-100.0, 400.0])
        self.k = np.array([food.k, food.k])
        self.enthalpy = food.cp * self.grid_c

    def at(self, at_c: float) -> tuple[float, float, float]:
        """(k, rho, cp), the same at every temperature [C]."""
        return self._food.k, self._food.rho, self._food.cp


class HeatTable:
    """Temperature, its slope over heat, and conductivity, against heat [J/m3], at equal steps."""

    COUNT = 6000

    def __init__(self, food: Properties, rho: float) -> None:
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


@dataclass(frozen=True, slots=True)
class Face:
    """One side of a body: its surroundings and the coefficient there [W/(m2 K)]."""

    h: float
    around: Surroundings

    def at(self, time_s: float) -> tuple[float, float]:
        """(coefficient [W/(m2 K)], temperature around [C]) at a time [s]."""
        return self.around.h_at(time_s, self.h), self.around.at(time_s)


class HeatModel(Protocol):
    """What ``run`` drives: a body that takes steps in time and says how well it did."""

    time_s: float
    heat: Array

    def step(self, dt_s: float) -> float | None:
        """Tries one step; the error [C] it makes, None if it found no answer."""
        ...

    def rate(self) -> Array:
        """How fast every part takes up heat now [W/m3]; at a jump of the surroundings, before it."""
        ...

    def accept(self, dt_s: float) -> None:
        """Takes the step tried last."""
        ...

    def temperatures(self, heat: Array | None = None) -> tuple[float, float, float]:
        """Centre, mean and surface [C], now or with a given heat [J/m3]."""
        ...

    def at_rest(self) -> bool:
        """True if every part is as warm as its surroundings."""
        ...


class Shells:
    """A slab, cylinder or sphere. With a ``near`` face it is a slab of its whole thickness that
    loses or takes heat on both sides, each in its own way; its "centre" is then the point that is
    slowest to follow, wherever that is."""

    def __init__(
        self, body: Body, food: Properties, t0_c: float, around: Surroundings, cells: int, near: Face | None = None
    ) -> None:
        kind, size = body.shape, body.size_m[0]
        self.volumes, self.areas, self.outer = cut_into_shells(kind, size, cells)
        self.far, self.near = Face(body.h, around), near
        self.gap = size / cells
        # Mass stays: the density of the food as it begins.
        rho = food.at(t0_c)[1]
        self.table = HeatTable(food, rho)
        self.heat = np.full(cells + 1, self.table.heat_at(t0_c))
        self.t0_c, self.time_s = t0_c, 0.0
        self.entered_j = 0.0
        self.start_j = self.held_j()
        self._next: tuple[Array, float] = (self.heat, 0.0)

    def held_j(self) -> float:
        """Heat in the body [J] for a unit of length or angle."""
        return float(self.heat @ self.volumes)

    def _flows(self, temps: Array, k: Array, at_s: float) -> tuple[Array, Array, tuple[float, float], float]:
        """Net heat into each shell [W], the conductances between them and to the two faces
        [W/K], and what comes in through the faces [W]."""
        between = 2 * k[1:] * k[:-1] / (k[1:] + k[:-1]) * self.areas / self.gap
        through = between * (temps[1:] - temps[:-1])
        net = np.empty_like(temps)
        net[1:-1] = through[1:] - through[:-1]
        h, around_c = self.far.at(at_s)
        entering = h * self.outer * (around_c - temps[-1])
        net[0] = through[0]
        net[-1] = entering - through[-1]
        near = 0.0
        if self.near is not None:
            near, near_c = self.near.at(at_s)
            net[0] += near * (near_c - temps[0])
            entering += near * (near_c - temps[0])
        return net, between, (near, h * self.outer), float(entering)

    def _solve(self, guess: Array, known: Array, weight_s: float, at_s: float) -> tuple[Array, Array, float] | None:
        """Heats for which volume x heat - weight x net flow equals ``known``, by Newton; with the
        net flow there and what comes in from outside [W]."""
        heat = guess
        enough = 1e-8 * self.table.span
        for _ in range(30):
            temps, slope, k = self.table.at(heat)
            net, between, (near, far), entering = self._flows(temps, k, at_s)
            wrong = self.volumes * heat - weight_s * net - known
            loss = np.empty_like(heat)
            loss[1:-1] = between[1:] + between[:-1]
            loss[0] = between[0] + near
            loss[-1] = between[-1] + far
            diagonal = self.volumes + weight_s * loss * slope
            *_, change, failed = dgtsv(
                -weight_s * between * slope[:-1], diagonal, -weight_s * between * slope[1:], wrong
            )
            if failed:
                return None
            heat = heat - change
            if np.abs(change).max() < enough:
                return heat, (self.volumes * heat - known) / weight_s, entering
        return None

    def step(self, dt_s: float) -> float | None:
        """Tries one step of TR-BDF2; the error [C] it makes, None if it found no answer."""
        t, g = self.time_s, _GAMMA
        temps, _, k = self.table.at(self.heat)
        net0, _, _, outside0 = self._flows(temps, k, t)
        held0 = self.volumes * self.heat
        w1 = g * dt_s / 2
        middle = self._solve(self.heat, held0 + w1 * net0, w1, t + g * dt_s)
        if middle is None:
            return None
        heat1, net1, outside1 = middle
        a = 1 / (g * (2 - g))
        w2 = (1 - g) / (2 - g) * dt_s
        # A step that ends at a jump ends before it.
        end = self._solve(heat1, a * self.volumes * heat1 + (1 - a) * held0, w2, (t + dt_s) * (1 - 1e-12))
        if end is None:
            return None
        heat2, net2, outside2 = end
        kappa = (-3 * g**2 + 4 * g - 2) / (12 * (2 - g))
        estimate = 2 * kappa * dt_s * (net0 / g - net1 / (g * (1 - g)) + net2 / (1 - g))
        slope = self.table.at(heat2)[1]
        error_c = float(np.sqrt(np.mean((estimate / self.volumes * slope) ** 2)))
        flux = a * w1 * (outside0 + outside1) + w2 * outside2
        self._next = (heat2, flux)
        return error_c

    def accept(self, dt_s: float) -> None:
        """Takes the step tried last."""
        self.heat, flux = self._next
        self.entered_j += flux
        self.time_s += dt_s

    def at_rest(self) -> bool:
        """True if every part is as warm as its surroundings."""
        around_c = self.far.at(self.time_s)[1]
        return self.near is None and bool(np.abs(self.table.at(self.heat)[0] - around_c).max() < AT_REST_C)

    def rate(self) -> Array:
        """How fast every shell takes up heat now [W/m3]."""
        temps, _, k = self.table.at(self.heat)
        return np.asarray(self._flows(temps, k, self.time_s * (1 - 1e-12))[0] / self.volumes)

    def temperatures(self, heat: Array | None = None) -> tuple[float, float, float]:
        """Centre, mean by volume and surface [C]."""
        temps = self.table.at(self.heat if heat is None else heat)[0]
        mean_c = float(temps @ self.volumes / self.volumes.sum())
        if self.near is None:
            return float(temps[0]), mean_c, float(temps[-1])
        warming = mean_c > self.t0_c
        return float(temps.min() if warming else temps.max()), mean_c, float(temps[-1])


# Between two points of a course that are further apart than this [C] there are others: read straight,
# a thaw would otherwise be told minutes late.
_POINT_EACH_C = 0.2
_MOST_POINTS = 16


def _between(
    model: HeatModel, before: tuple[float, Array, Array], centre_c: float
) -> list[tuple[float, float, float, float]]:
    """Points within the step just taken, by the cubic through heat and rate at both its ends
    (Hermite; heat is smooth in time even while ice melts, temperature is not)."""
    start_s, heat0, rate0 = before
    count = min(_MOST_POINTS, int(abs(model.temperatures()[0] - centre_c) / _POINT_EACH_C))
    if not count:
        return []
    dt_s, heat1, rate1 = model.time_s - start_s, model.heat, model.rate()
    rows = []
    for n in range(1, count + 1):
        x = n / (count + 1)
        one, two = (1 + 2 * x) * (1 - x) ** 2, x * x * (3 - 2 * x)
        heat = one * heat0 + two * heat1 + dt_s * (x * (1 - x) ** 2 * rate0 - x * x * (1 - x) * rate1)
        rows.append((start_s + x * dt_s, *model.temperatures(heat)))
    return rows


def integrate(
    model: HeatModel,
    *,
    t0_c: float,
    corners_s: Sequence[float],
    end_s: float,
    target_c: float | None,
    allowed_c: float,
    first_s: float,
) -> TemperatureCourse:
    """Drives a model to ``end_s`` [s], or until its centre reaches ``target_c`` [C]; each step as
    long as an error of ``allowed_c`` [C] lets it be, and none over a corner of the surroundings."""
    rows = [(0.0, t0_c, t0_c, t0_c)]
    corners = sorted({time_s for time_s in corners_s if 0 < time_s < end_s} | {end_s})
    dt_s = min(end_s, max(1e-3, first_s))
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
        before = (model.time_s, model.heat, model.rate())
        model.accept(take_s)
        for row in (*_between(model, before, rows[-1][1]), (model.time_s, *model.temperatures())):
            (t0, c0, *_rest), (t1, c1, *_more) = rows[-1], row
            rows.append(row)
            if target_c is not None and ((c1 <= target_c) if above else (c1 >= target_c)):
                reached_s = t1 if c1 == c0 else t0 + (t1 - t0) * (target_c - c0) / (c1 - c0)
                break
        if corner == end_s and model.at_rest():
            rows.append((end_s, *model.temperatures()))  # nothing more happens until then
            break
        grow = 3.0 if error_c == 0 else min(3.0, 0.9 * (allowed_c / error_c) ** (1 / 3))
        dt_s = max(take_s, dt_s if take_s < dt_s else take_s) * grow
    else:
        raise CoreError("until_s", "too_thin_for_so_long")
    table = np.array(rows)
    return TemperatureCourse(
        times_s=table[:, 0],
        centre_c=table[:, 1],
        mean_c=table[:, 2],
        surface_c=table[:, 3],
        reached_s=reached_s,
    )


def conduct_in_shells(
    body: Body,
    food: Properties,
    t0_c: float,
    around: Surroundings,
    *,
    end_s: float,
    target_c: float | None,
    cells: int = CELLS,
    tolerance_c: float = TOLERANCE_C,
    near: Face | None = None,
) -> tuple[TemperatureCourse, Shells]:
    """The course of a one-dimensional body (see ``Shells``), and the model as it ended."""
    model = Shells(body, food, t0_c, around, cells, near)
    k, rho, cp = food.at(t0_c)
    course = integrate(
        model,
        t0_c=t0_c,
        corners_s=(*around.corners_s, *(near.around.corners_s if near else ())),
        end_s=end_s,
        target_c=target_c,
        allowed_c=tolerance_c,
        first_s=0.02 * model.gap**2 * rho * cp / k,
    )
    return course, model

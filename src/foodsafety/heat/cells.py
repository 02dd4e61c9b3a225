"""Tins and bricks whose properties follow the temperature, freezing and thawing included.

The heat of a grid of cells, one eighth (a brick) or a quarter of a section (a tin) of the body,
by a stabilised explicit scheme of second order: many cheap stages instead of a matrix.

Source: Sommeijer, Shampine and Verwer 1997, "RKC: an explicit solver for parabolic PDEs".
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache

import numpy as np

from foodsafety.heat.geometry import PARTS, Body, Surroundings, TemperatureCourse, cut_into_shells
from foodsafety.heat.properties import Array
from foodsafety.heat.shells import AT_REST_C, Face, HeatTable, Properties, integrate

CELLS_2D, CELLS_3D = 22, 13
TOLERANCE_C = 0.1
_MOST_STAGES = 60
_DAMPING = 2 / 13


@dataclass(frozen=True, slots=True)
class _Scheme:
    """Coefficients of a scheme with a number of stages, and the reach of its stability."""

    first: float
    rows: tuple[tuple[float, float, float, float], ...]
    times: tuple[float, ...]


@cache
def _scheme(stages: int) -> _Scheme:
    w0 = 1 + _DAMPING / stages**2
    t, d, dd = [1.0, w0], [0.0, 1.0], [0.0, 0.0]
    for j in range(2, stages + 1):
        t.append(2 * w0 * t[-1] - t[-2])
        d.append(2 * w0 * d[-1] - d[-2] + 2 * t[j - 1])
        dd.append(2 * w0 * dd[-1] - dd[-2] + 4 * d[j - 1])
    w1 = d[stages] / dd[stages]
    b = [0.0, 0.0, *(dd[j] / d[j] ** 2 for j in range(2, stages + 1))]
    b[0] = b[1] = b[2]
    rows, times = [], [0.0, 0.0]
    for j in range(2, stages + 1):
        mu_t = 2 * b[j] * w1 / b[j - 1]
        gamma = -(1 - b[j - 1] * t[j - 1]) * mu_t
        rows.append((2 * b[j] * w0 / b[j - 1], -b[j] / b[j - 2], mu_t, gamma))
        times.append(d[stages] / dd[stages] * dd[j] / d[j])
    times[1] = times[2] / d[2] if stages > 1 else 0.0
    return _Scheme(first=b[1] * w1, rows=tuple(rows), times=tuple(times))


def _stages_for(reach: float) -> int:
    """The least number of stages that is stable over a step of ``reach`` (time x spectral radius)."""
    return max(2, math.ceil(math.sqrt(1 + 1.54 * reach)))


class CellGrid:
    """A tin or a brick on a grid from its centre outward."""

    def __init__(self, body: Body, food: Properties, t0_c: float, around: Surroundings, cells: int) -> None:
        axes = [cut_into_shells(kind, size, cells) for kind, size in zip(PARTS[body.shape], body.size_m, strict=True)]
        self.face = Face(body.h, around)
        self.table = HeatTable(food, food.at(t0_c)[1])
        self.volumes = _outer([volumes for volumes, _, _ in axes])
        self.between: list[Array] = []  # area over distance between neighbours, along each axis
        self.skin = np.zeros_like(self.volumes)  # area at the surface
        for axis, (size, (_, areas, outer)) in enumerate(zip(body.size_m, axes, strict=True)):
            across = [volumes for volumes, _, _ in axes]
            across[axis] = areas * cells / size
            self.between.append(_outer(across))
            across[axis] = np.append(np.zeros(cells), outer)
            self.skin += _outer(across)
        self.heat = np.full(self.volumes.shape, self.table.heat_at(t0_c))
        self.time_s = self.entered_j = 0.0
        self._next = (self.heat, 0.0)
        self._rate: tuple[Array, float, float] | None = None

    def held_j(self) -> float:
        """Heat in the part of the body that is computed [J]."""
        return float((self.heat * self.volumes).sum())

    def _flow(self, heat: Array, at_s: float) -> tuple[Array, float, Array, Array]:
        """(heating rate [W/m3], what comes in from outside [W], slopes, conductivities)."""
        temps, slope, k = self.table.at(heat)
        h, around_c = self.face.at(at_s)
        inward = h * self.skin * (around_c - temps)
        net = inward.copy()
        for axis, area in enumerate(self.between):
            low, high = _pair(axis, temps.ndim)
            through = 2 * k[low] * k[high] / (k[low] + k[high]) * area * (temps[high] - temps[low])
            net[low] += through
            net[high] -= through
        return net / self.volumes, float(inward.sum()), slope, k

    def _radius(self, slope: Array, k: Array, at_s: float) -> float:
        """A bound of the fastest rate at which anything in the grid can change [1/s]."""
        loss = self.face.at(at_s)[0] * self.skin
        for axis, area in enumerate(self.between):
            low, high = _pair(axis, k.ndim)
            through = 2 * k[low] * k[high] / (k[low] + k[high]) * area
            loss[low] += 2 * through
            loss[high] += 2 * through
        return float((loss * slope / self.volumes).max())

    def step(self, dt_s: float) -> float | None:
        """Tries one step; the error [C] it makes, None where the step is too long to be stable."""
        t = self.time_s
        f0, in0, slope, k = self._flow(self.heat, t)
        # Freezing makes slopes steeper during a step: room for that.
        stages = _stages_for(1.3 * dt_s * self._radius(slope, k, t))
        if stages > _MOST_STAGES:
            return None
        scheme = _scheme(stages)
        before, heat = self.heat, self.heat + scheme.first * dt_s * f0
        got_before, got = 0.0, scheme.first * dt_s * in0
        # A step that was too long runs away; that is seen at its end, and it is tried again shorter.
        with np.errstate(over="ignore", invalid="ignore"):
            for j, (mu, nu, mu_t, gamma) in enumerate(scheme.rows, start=2):
                f, inward, _, _ = self._flow(heat, t + scheme.times[j - 1] * dt_s)
                rest = 1 - mu - nu
                new = rest * self.heat + mu * heat + nu * before + dt_s * (mu_t * f + gamma * f0)
                before, heat = heat, new
                got_before, got = got, mu * got + nu * got_before + dt_s * (mu_t * inward + gamma * in0)
            f1, _, slope1, _ = self._flow(heat, (t + dt_s) * (1 - 1e-12))
        estimate = 0.8 * (self.heat - heat) + 0.4 * dt_s * (f0 + f1)
        if not np.isfinite(estimate).all():
            return None
        self._next = (heat, got)
        return float(np.sqrt(np.mean((estimate * slope1) ** 2)))

    def accept(self, dt_s: float) -> None:
        """Takes the step tried last."""
        self.heat, entered = self._next
        self.entered_j += entered
        self.time_s += dt_s

    def at_rest(self) -> bool:
        """True if every part is as warm as its surroundings."""
        around_c = self.face.at(self.time_s)[1]
        return bool(np.abs(self.table.at(self.heat)[0] - around_c).max() < AT_REST_C)

    def rate(self) -> Array:
        """How fast every cell takes up heat now [W/m3]."""
        return self._flow(self.heat, self.time_s * (1 - 1e-12))[0]

    def temperatures(self, heat: Array | None = None) -> tuple[float, float, float]:
        """Centre, mean by volume and surface (the middle of its first face) [C]."""
        temps = self.table.at(self.heat if heat is None else heat)[0]
        middle = (0,) * (temps.ndim - 1)
        mean_c = float((temps * self.volumes).sum() / self.volumes.sum())
        return float(temps[0][middle] if temps.ndim > 1 else temps[0]), mean_c, float(temps[-1][middle])


def _outer(parts: list[Array]) -> Array:
    whole = parts[0]
    for part in parts[1:]:
        whole = np.multiply.outer(whole, part)
    return whole


@cache
def _pair(axis: int, ndim: int) -> tuple[tuple[slice, ...], tuple[slice, ...]]:
    """Indices of all cells but the last along an axis, and of all but the first."""
    low = tuple(slice(None, -1) if i == axis else slice(None) for i in range(ndim))
    high = tuple(slice(1, None) if i == axis else slice(None) for i in range(ndim))
    return low, high


def conduct_in_cells(
    body: Body,
    food: Properties,
    t0_c: float,
    around: Surroundings,
    *,
    end_s: float,
    target_c: float | None,
    cells: int | None = None,
    tolerance_c: float = TOLERANCE_C,
) -> tuple[TemperatureCourse, CellGrid]:
    """The course of a tin or a brick, and the model as it ended."""
    count = cells or (CELLS_2D if len(body.size_m) == 2 else CELLS_3D)
    model = CellGrid(body, food, t0_c, around, count)
    k, rho, cp = food.at(t0_c)
    course = integrate(
        model,
        t0_c=t0_c,
        corners_s=around.corners_s,
        end_s=end_s,
        target_c=target_c,
        allowed_c=tolerance_c,
        first_s=0.05 * (min(body.size_m) / count) ** 2 * rho * cp / k,
    )
    return course, model

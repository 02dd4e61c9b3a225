"""When a cooling (or warming) will reach a limit, from its readings so far, with an honest band.

In steady surroundings the centre of a body follows its exact course: at first it lags, by more the
quicker its surface follows, then it falls as an exponential. So the readings are held against
T = Ta + B F(k t)  for a grid of rates k, surroundings Ta and courses F (slabs, blocks of
several proportions, cylinders and spheres of several Biot numbers); B follows by least squares.
Each is weighed by how well it fits and by what is known beforehand of surroundings; the forecast
is the weighed middle, the band holds nine tenths of the weight.

Error: in 200 simulated coolings (all shapes, Biot 0.2 to 30, noise 0.2 C), after 40 % of the drop,
within 10 % of the time to 21 C in nine of ten. The last degrees above a fridge depend on how cold
it is: where nobody measured that, the band is wide, and says so.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq
from scipy.special import j0, j1, jn_zeros

from foodsafety.quantities import Series

Array = NDArray[np.float64]

LEAST_READINGS = 4
MOST_READINGS = 60
LONGEST_S = 48 * 3600.0
# A kitchen probe shows tenths and is held by a hand: no fit is believed closer than this [C].
_NOISE_C = 0.12
# No food is quite a slab in quite steady air: how many times its noise a fit is believed to.
_DOUBT = 1.85
_RATES = 100
_MISFIT = 1.8
_BIOTS = (0.02, 0.2, 0.5, 1.2, 2.5, 6.0, 20.0)
# Half-thicknesses in the directions in which a body cools, as multiples of its thinnest: the thicker
# ones lag behind and go on doing so.
_SIZES = (
    (1.0,),
    (1.0, 1.0),
    (1.0, 1.6),
    (1.0, 2.6),
    (1.0, 1.0, 1.0),
    (1.0, 1.0, 2.0),
    (1.0, 1.5, 1.5),
    (1.0, 1.6, 2.6),
    (1.0, 2.4, 2.4),
)
# Time in units of the slowest mode's own; denser at the beginning, where the centre lags.
_TAU = np.concatenate([np.linspace(0, 1.2, 121)[:-1], np.linspace(1.2, 14, 261)])


@cache
def _shapes() -> Array:
    """What is left of the step at the centre, over ``_TAU``: one row for each course."""
    rows = []
    for biot in _BIOTS:
        rows += [_brick(biot, sizes) for sizes in _SIZES]
        rows += [_course(kind, biot)[0] for kind in ("cylinder", "sphere")]
    return np.array(rows)


def _brick(biot: float, sizes: tuple[float, ...]) -> Array:
    """The product of slabs of several thicknesses, in units of its own slowest mode."""
    parts = [(_course("slab", biot * size), size) for size in sizes]
    rates = [mu**2 / size**2 for (_left, mu), size in parts]
    return np.asarray(
        np.prod(
            [
                np.interp(_TAU * rate / sum(rates), _TAU, left)
                for ((left, _mu), _size), rate in zip(parts, rates, strict=True)
            ],
            axis=0,
        )
    )


@cache
def _course(kind: str, biot: float) -> tuple[Array, float]:
    """The exact series of a body's centre (Carslaw and Jaeger), in units of its slowest mode, and
    the root of that mode."""
    mu = np.array([_root(kind, biot, n) for n in range(30)])
    if kind == "slab":
        share = 4 * np.sin(mu) / (2 * mu + np.sin(2 * mu))
    elif kind == "cylinder":
        share = 2 / mu * j1(mu) / (j0(mu) ** 2 + j1(mu) ** 2)
    else:
        share = 4 * (np.sin(mu) - mu * np.cos(mu)) / (2 * mu - np.sin(2 * mu))
    left = np.exp(-np.multiply.outer(_TAU, (mu / mu[0]) ** 2)) @ share
    # So early the series has not settled, and the centre has not moved.
    left[0.01 * mu[0] ** 2 > _TAU] = 1.0
    return np.clip(left, 1e-12, 1.0), float(mu[0])


def _root(kind: str, biot: float, n: int) -> float:
    if kind == "slab":
        ends = (n * np.pi, (n + 0.5) * np.pi)
        return float(brentq(lambda m: m * np.sin(m) - biot * np.cos(m), ends[0] + 1e-12, ends[1] - 1e-12))
    if kind == "sphere":
        ends = (n * np.pi, (n + 1) * np.pi)
        return float(brentq(lambda m: m * np.cos(m) - (1 - biot) * np.sin(m), ends[0] + 1e-9, ends[1] - 1e-9))
    low = 0.0 if n == 0 else float(jn_zeros(1, n)[-1])
    return float(brentq(lambda m: m * j1(m) - biot * j0(m), low + 1e-9, float(jn_zeros(0, n + 1)[-1]) - 1e-9))


@dataclass(frozen=True, slots=True, kw_only=True)
class Forecast:
    """When [s, on the readings' own time] a limit is reached: the middle, and the band in which
    nine of ten such courses reach it (``late_s`` None: one in twenty or more never does). ``chance``
    is the weight of the courses that reach it at all. ``around_c`` are the likeliest surroundings."""

    at_s: float
    early_s: float
    late_s: float | None
    chance: float
    around_c: float


@dataclass(frozen=True, slots=True)
class CoolingCourses:
    """The courses that fit, each with its weight: what every question about the time to come is
    asked of."""

    first_s: float
    last_s: float
    rate: Array
    around_c: Array
    size_c: Array
    size_sd_c: Array
    shape: NDArray[np.intp]
    weight: Array

    def _left(self, tau: Array) -> Array:
        """What is left of the step of each course at its own time."""
        place = np.clip(np.searchsorted(_TAU, tau) - 1, 0, len(_TAU) - 2)
        share = (tau - _TAU[place]) / (_TAU[place + 1] - _TAU[place])
        log = np.log(_shapes())
        return np.asarray(np.exp(log[self.shape, place] * (1 - share) + log[self.shape, place + 1] * share))

    def at(self, time_s: float) -> tuple[float, float, float]:
        """(low, middle, high) of the temperature [C] at a time to come."""
        found = self.around_c + self.size_c * self._left(self.rate * (time_s - self.first_s))
        low, middle, high = _quantiles(found, self.weight, (0.05, 0.5, 0.95))
        return low, middle, high

    def reaches(self, limit_c: float) -> Forecast | None:
        """When the limit is reached; None if most of the courses never reach it."""
        gone = limit_c - self.around_c
        possible = gone / self.size_c > 1e-6
        chance = float(self.weight[possible].sum())
        if chance <= 0.5:
            return None
        rate, size = self.rate[possible], self.size_c[possible]
        late = self._when(gone[possible] / size, self.shape[possible]) / rate
        spread = self.size_sd_c[possible] / np.abs(size) / rate
        times = np.concatenate([late - 1.2247 * spread, late, late + 1.2247 * spread])
        weight = np.concatenate([self.weight[possible] / 3] * 3)
        times = np.maximum(self.first_s + times, self.last_s)
        # Courses that never arrive count as arriving last.
        times = np.append(times, np.inf)
        weight = np.append(weight, 1 - chance)
        early, middle, last = _quantiles(times, weight, (0.05, 0.5, 0.95))
        if not np.isfinite(middle) or middle > self.last_s + LONGEST_S:
            return None
        around_c = float(np.average(self.around_c, weights=self.weight))
        return Forecast(
            at_s=middle, early_s=early, late_s=last if np.isfinite(last) else None, chance=chance, around_c=around_c
        )

    def _when(self, left: Array, shape: NDArray[np.intp]) -> Array:
        """At which of its own times each course has that share of its step left."""
        found = np.empty_like(left)
        for one in np.unique(shape):
            mine = shape == one
            # Beyond the table it is a plain exponential.
            curve = -np.log(_shapes()[one])
            deep = -np.log(np.minimum(left[mine], 1.0))
            slope = (curve[-1] - curve[-20]) / (_TAU[-1] - _TAU[-20])
            found[mine] = np.interp(deep, curve, _TAU) + np.maximum(deep - curve[-1], 0) / slope
        return found


def _quantiles(values: Array, weight: Array, shares: Sequence[float]) -> tuple[float, ...]:
    order = np.argsort(values)
    reached = np.cumsum(weight[order])
    return tuple(
        float(values[order][min(int(np.searchsorted(reached, share * reached[-1])), len(order) - 1)])
        for share in shares
    )


def _prior(around_c: float | None, error_c: float) -> tuple[Array, Array]:
    """Surroundings [C] that may be, with their weight: as measured, or as kitchens have them (a
    fridge most of all, a room, ice, a freezer)."""
    if around_c is not None:
        grid = around_c + error_c * np.linspace(-3, 3, 13)
        return grid, np.exp(-0.5 * ((grid - around_c) / error_c) ** 2)
    grid = np.concatenate([np.arange(-26.0, -2.0, 2.0), np.arange(-2.0, 8.0, 0.4), np.arange(8.0, 36.0, 1.0)])
    width = np.gradient(grid)
    fridge = np.exp(-0.5 * ((grid - 2.8) / 1.0) ** 2) / (1.0 * np.sqrt(2 * np.pi))
    room = np.exp(-0.5 * ((grid - 21.0) / 4.0) ** 2) / (4.0 * np.sqrt(2 * np.pi))
    return grid, (0.9 * fridge + 0.06 * room + 0.04 / (grid[-1] - grid[0])) * width


def _noise_c(temps: Array) -> float:
    """The noise of readings [C], from how far each lies off the line through its neighbours."""
    if len(temps) < 5:
        return _DOUBT * _NOISE_C
    off = temps[1:-1] - (temps[2:] + temps[:-2]) / 2
    return _DOUBT * max(_NOISE_C, float(np.median(np.abs(off)) * 1.4826 / np.sqrt(1.5)))


def _weigh(times: Array, temps: Array, rates: Array, around: Array, prior: Array, noise_c: float) -> list[Array]:
    """Weight, size and its spread for every (course, rate, surroundings)."""
    tau = np.multiply.outer(rates, times)
    shape = np.array([np.interp(tau, _TAU, row) for row in _shapes()])
    norm = (shape**2).sum(-1)
    with_temps, alone = shape @ temps, shape.sum(-1)
    size = (with_temps[..., None] - around * alone[..., None]) / norm[..., None]
    total = float(temps @ temps) - 2 * around * temps.sum() + around**2 * len(times)
    wrong = np.maximum(total - size**2 * norm[..., None], 0.0)
    log = -0.5 * wrong / noise_c**2 - 0.5 * np.log(norm[..., None]) + np.log(np.maximum(prior, 1e-30))
    weight = np.exp(log - log.max())
    return [weight, size, np.broadcast_to(noise_c / np.sqrt(norm)[..., None], weight.shape), wrong]


def cooling_courses(
    readings: Series, *, around_c: float | None = None, around_error_c: float = 0.4
) -> CoolingCourses | None:
    """The courses that fit readings [(s, C), in order]; None for fewer than four, for too short a
    time to tell a course from its noise, or for one that stands still.

    ``around_c`` are the surroundings where they are measured [C], with their error [C].
    """
    rows = readings
    while len(rows) >= LEAST_READINGS:
        found, wrong = _fitted(rows, around_c, around_error_c)
        if found is None or wrong < _MISFIT or len(rows) < 2 * LEAST_READINGS:
            return found
        # No one course explains them: the pot was moved. Only what came after tells what will be.
        rows = rows[max(1, len(rows) // 4) :]
    return None


def _fitted(rows: Series, around_c: float | None, around_error_c: float) -> tuple[CoolingCourses | None, float]:
    """The courses that fit, and by how many times the noise the best of them misses."""
    rows = _gathered(rows)
    first_s = rows[0][0]
    times = np.array([row[0] - first_s for row in rows])
    temps = np.array([row[1] for row in rows])
    noise_c = _noise_c(temps)
    if abs(temps[-1] - temps[0]) < 3 * noise_c or times[-1] <= 0:
        return None, 0.0
    around, prior = _prior(around_c, around_error_c)
    rates = np.geomspace(0.02 / times[-1], 12 / times[-1], _RATES)
    weight, *_ = _weigh(times, temps, rates, around, prior, noise_c)
    likely = np.flatnonzero(weight.sum(axis=(0, 2)) > 1e-5 * weight.sum())
    low, high = rates[max(0, likely[0] - 1)], rates[min(_RATES - 1, likely[-1] + 1)]
    rates = np.geomspace(low, high, _RATES)
    weight, size, spread, wrong = _weigh(times, temps, rates, around, prior, noise_c)
    # Only courses that go the way the readings go.
    weight = np.where(np.sign(size) == np.sign(temps[0] - temps[-1]), weight, 0.0)
    if not weight.sum():
        return None, 0.0
    kept = weight > 1e-4 * weight.max()
    shape, rate, near = np.nonzero(kept)
    miss = float(np.sqrt(wrong[weight > 0].min() / len(rows))) / noise_c
    found = CoolingCourses(
        first_s=first_s,
        last_s=rows[-1][0],
        rate=rates[rate],
        around_c=around[near],
        size_c=size[kept],
        size_sd_c=spread[kept],
        shape=shape,
        weight=weight[kept] / weight[kept].sum(),
    )
    return found, miss


def _gathered(rows: Series) -> Series:
    """At most so many readings: neighbours as their mean. More of them would only make a fit
    surer of itself than any body of food deserves."""
    if len(rows) <= MOST_READINGS:
        return rows
    parts = np.array_split(np.array(rows), MOST_READINGS)
    return tuple((float(part[:, 0].mean()), float(part[:, 1].mean())) for part in parts)


def forecast_at(readings: Series, limit_c: float, *, around_c: float | None = None) -> Forecast | None:
    """When a limit [C] is reached by a course that falls towards it; None where nothing can be
    said, or where it has been reached."""
    if not readings or readings[-1][1] <= limit_c:
        return None
    found = cooling_courses(readings, around_c=around_c)
    return found.reaches(limit_c) if found and float(np.average(found.size_c, weights=found.weight)) > 0 else None

"""Conduction with constant properties by modes, exact in time for surroundings straight between their points."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.linalg import eigh_tridiagonal

from foodsafety.heat.geometry import (
    PARTS,
    Body,
    ConstantProperties,
    Surroundings,
    cut_into_shells,
)
from foodsafety.heat.properties import Array

SHELLS = 140


# --- constant properties: modes --------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class _Modes:
    """Rates [1/s] and the weight of each mode at the centre, in the mean and at the surface."""

    rate: Array
    centre: Array
    mean: Array
    surface: Array


def _modes(kind: str, size_m: float, food: ConstantProperties, h: float) -> _Modes:
    volumes, areas, outer = cut_into_shells(kind, size_m, SHELLS)
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


class LinearBody:
    """A body of constant properties."""

    def __init__(self, body: Body, food: ConstantProperties, t0_c: float, around: Surroundings) -> None:
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

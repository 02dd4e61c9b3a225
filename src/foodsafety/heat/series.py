"""The series solution for a body of constant properties in steady surroundings."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import numpy as np
from scipy.special import j0, j1, jn_zeros

from foodsafety.heat.geometry import (
    PARTS,
    Body,
    ConstantProperties,
)
from foodsafety.heat.properties import Array

_TERMS = 14
_BRACKET_STEPS = 30


@lru_cache(maxsize=4096)
def _series_terms(kind: str, biot: float) -> tuple[Array, Array]:
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


def temperature_left(body: Body, food: ConstantProperties, times_s: Array) -> Array:
    """What is left of the step at the centre at each time [s], in steady surroundings: the exact
    series, a product of them for a tin or a brick. Error: below 1e-4 of the step, always too much
    left rather than too little."""
    left = np.ones_like(times_s)
    for kind, size in zip(PARTS[body.shape], body.size_m, strict=True):
        mu, weight = _series_terms(kind, body.h * size / food.k)
        fourier = times_s * food.k / (food.rho * food.cp * size**2)
        row = np.exp(-np.multiply.outer(fourier, mu**2)) @ weight
        left = left * np.where(fourier < _LEAST_FOURIER, 1.0, np.clip(row, 0.0, 1.0))
    return left

"""How much product makes a sanitiser of the strength wanted, and whether that is one for food surfaces."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from typing import Literal

from foodsafety.data import data_text
from foodsafety.quantities import finite, positive


@dataclass(frozen=True, slots=True, kw_only=True)
class SanitiserLimits:
    """Chlorine for surfaces that touch food [ppm], how long it stays wet [s] at about ``water_c``,
    and hot water instead."""

    least_ppm: float
    most_ppm: float
    contact_s: float
    water_c: float
    hot_water_c: float
    hot_water_s: float


@cache
def sanitiser_limits() -> SanitiserLimits:
    """The limits, with their source in ``hygiene.toml``."""
    return SanitiserLimits(**tomllib.loads(data_text("hygiene.toml"))["sanitiser"])


@dataclass(frozen=True, slots=True, kw_only=True)
class Dilution:
    """Product [ml] for so much water, and whether the strength is one for surfaces that touch
    food: "weak" does not sanitise, "strong" must be rinsed off."""

    product_ml: float
    standing: Literal["weak", "good", "strong"]


def sanitiser_dilution(*, litres: float, ppm: float, product_percent: float) -> Dilution:
    """Chlorine bleach of so many per cent available chlorine (by mass, at 1 kg/l), so that the
    mixture has ``ppm`` [mg/l]: V1 c1 = V2 c2."""
    finite(litres, "litres", high=1000)
    positive(litres, "litres")
    finite(ppm, "ppm", low=1, high=10_000)
    finite(product_percent, "product_percent", low=0.1, high=20)
    limits = sanitiser_limits()
    standing: Literal["weak", "good", "strong"] = (
        "weak" if ppm < limits.least_ppm else "strong" if ppm > limits.most_ppm else "good"
    )
    return Dilution(product_ml=litres * 1000 * ppm / (product_percent * 10_000), standing=standing)

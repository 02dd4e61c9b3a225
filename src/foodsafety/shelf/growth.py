"""The growth budget: how much of an organism's allowance of time and temperature is spent.

A teaching meter beside the legal clock, never in its place. It adds up over every trip and is
never given back; cooking does not undo a toxin that has been made.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from itertools import pairwise

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, Series, positive


@dataclass(frozen=True, slots=True, kw_only=True)
class GrowthBand:
    """Above one product temperature up to another [C] an organism may have so long [s] in all."""

    above_c: float
    upto_c: float
    allowed_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Organism:
    """An organism with its bands; ``toxin``: what it makes survives cooking."""

    id: str
    name: str
    toxin: bool
    bands: tuple[GrowthBand, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class GrowthBudget:
    """What a course of temperatures spent: the share of the allowance (1 is all of it), and the
    time [s] in each band."""

    organism: Organism
    spent: float
    in_bands_s: tuple[float, ...]


@cache
def organisms() -> dict[str, Organism]:
    """Every organism by id. Bands must meet without a gap."""
    found = {}
    for key, row in tomllib.loads(data_text("growth.toml")).items():
        bands = tuple(
            GrowthBand(above_c=b["above"], upto_c=b["upto"], allowed_s=3600 * positive(b["h"], f"{key}.h"))
            for b in row["bands"]
        )
        if any(a.upto_c != b.above_c for a, b in pairwise(bands)):
            raise CoreError(f"growth.toml {key}", "bands_do_not_meet")
        found[key] = Organism(id=key, name=row["name"], toxin=bool(row["toxin"]), bands=bands)
    return found


def _within_s(start: tuple[float, float], end: tuple[float, float], band: GrowthBand) -> float:
    """How long [s] a straight line is in a band."""
    (t0, c0), (t1, c1) = start, end
    if c0 == c1:
        return t1 - t0 if band.above_c < c0 <= band.upto_c else 0.0
    low, high = min(c0, c1), max(c0, c1)
    inside = min(high, band.upto_c) - max(low, band.above_c)
    return max(0.0, inside) / (high - low) * (t1 - t0)


def growth_budgets(readings: Series) -> Mapping[str, GrowthBudget]:
    """What each organism may have spent over readings [(s, C), in order], straight between them."""
    found = {}
    for key, organism in organisms().items():
        times = tuple(sum(_within_s(a, b, band) for a, b in pairwise(readings)) for band in organism.bands)
        spent = sum(time_s / band.allowed_s for time_s, band in zip(times, organism.bands, strict=True))
        found[key] = GrowthBudget(organism=organism, spent=spent, in_bands_s=times)
    return found

"""How much product makes a sanitiser of the strength wanted, and whether that is one for food surfaces."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from foodsafety.quantities import CoreError, finite, positive

# Unscented chlorine for food-contact surfaces: 50 to 100 ppm at about 24 C, 10 s or more; the
# product's label rules. Source: Food Code 4-501.114, and the project's reference, section 7.
LEAST_PPM, MOST_PPM = 50.0, 100.0
CONTACT_S = 10.0
HOT_WATER_C, HOT_WATER_S = 77.0, 30.0


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
    standing: Literal["weak", "good", "strong"] = "weak" if ppm < LEAST_PPM else "strong" if ppm > MOST_PPM else "good"
    return Dilution(product_ml=litres * 1000 * ppm / (product_percent * 10_000), standing=standing)


@dataclass(frozen=True, slots=True, kw_only=True)
class PartCan:
    """How many cans to open for an amount, what is left over [g], and the share of the last."""

    cans: int
    left_g: float
    last_share: float


def part_can(*, needed_g: float, can_g: float) -> PartCan:
    """Cans for an amount; what is left keeps in a covered container of its own, not in the can."""
    positive(can_g, "can_g")
    finite(needed_g, "needed_g", low=0, high=1e6)
    cans = math.ceil(needed_g / can_g - 1e-9)
    left = cans * can_g - needed_g
    return PartCan(cans=cans, left_g=max(0.0, left), last_share=1 - left / can_g if cans else 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Portions:
    """Whole portions [count] from an amount, what is over [g], and how many batches feed a group."""

    portions: int
    over_g: float
    batches: int


def portions(*, batch_g: float, portion_g: float, people: int) -> Portions:
    """Portions of a batch, and batches for so many people."""
    positive(portion_g, "portion_g")
    positive(batch_g, "batch_g")
    if not 1 <= people <= 10_000:
        raise CoreError("people", f"{people} is outside 1 to 10000")
    count = math.floor(batch_g / portion_g + 1e-9)
    if count == 0:
        raise CoreError("portion_g", f"one portion of {portion_g:g} g is more than the batch of {batch_g:g} g")
    return Portions(portions=count, over_g=batch_g - count * portion_g, batches=math.ceil(people / count))

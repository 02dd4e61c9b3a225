"""How much product makes a sanitiser of the strength wanted, and whether that is one for food surfaces."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from foodsafety.quantities import finite, positive

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

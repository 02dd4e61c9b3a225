"""Part of a can, and a batch shared out."""

from __future__ import annotations

import math
from dataclasses import dataclass

from foodsafety.quantities import CoreError, finite, positive


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


def batch_portions(*, batch_g: float, portion_g: float, people: int) -> Portions:
    """Portions of a batch, and batches for so many people."""
    positive(portion_g, "portion_g")
    positive(batch_g, "batch_g")
    if not 1 <= people <= 10_000:
        raise CoreError("people", "outside", value=people, low=1, high=10_000)
    count = math.floor(batch_g / portion_g + 1e-9)
    if count == 0:
        raise CoreError("portion_g", "portion_larger_than_batch", portion_g=portion_g, batch_g=batch_g)
    return Portions(portions=count, over_g=batch_g - count * portion_g, batches=math.ceil(people / count))

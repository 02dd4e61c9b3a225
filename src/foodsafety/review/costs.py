"""What a recipe costs, from prices with their dates. A line without a price is never counted as free."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from foodsafety.foods import Locale, food_kind, unit_ml
from foodsafety.quantities import CoreError, positive
from foodsafety.recipes import Ingredient, weight_g
from foodsafety.shelf import storage_category

PRICE_UNITS = ("kg", "l", "each")
PriceUnit = Literal["kg", "l", "each"]
# Nothing is bought by the pinch or from the tap.
FREE_KINDS = frozenset({"water"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Price:
    """What a unit of a food kind costs, and since when."""

    kind: str
    amount: Decimal
    per: PriceUnit
    on: dt.date


@dataclass(frozen=True, slots=True, kw_only=True)
class LineCost:
    """One line's cost, None where it cannot be known; ``why``: no-price, no-weight, no-amount, free."""

    ingredient: Ingredient
    cost: Decimal | None
    price: Price | None = None
    why: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class RecipeCost:
    """A batch. ``complete`` is False if some line has no cost: then the total is at least so much."""

    lines: tuple[LineCost, ...]
    total: Decimal
    complete: bool

    def per(self, count: float) -> Decimal:
        """The total shared among so many, rounded up to the cent."""
        return (self.total / Decimal(str(positive(count, "count")))).quantize(Decimal("0.01"), rounding="ROUND_UP")


def _units(item: Ingredient, per: PriceUnit, locale: Locale) -> float | None:
    kind = food_kind(item.kind) if item.kind else None
    if item.low is None or item.high is None:
        return None
    amount = (item.low + item.high) / 2
    grams = weight_g(item, locale)
    if per == "kg":
        return grams / 1000 if grams is not None else None
    if per == "l":
        ml = unit_ml(item.unit, locale)
        if ml is not None:
            return amount * ml / 1000
        return grams / kind.density_g_ml / 1000 if grams is not None and kind and kind.density_g_ml else None
    if item.unit is None or (unit_ml(item.unit, locale) is None and item.unit not in ("g", "kg", "oz", "lb")):
        return amount
    return grams / kind.piece_g if grams is not None and kind and kind.piece_g else None


def line_cost(item: Ingredient, prices: Mapping[str, Price], locale: Locale) -> LineCost:
    """What one line costs."""
    if item.kind in FREE_KINDS:
        return LineCost(ingredient=item, cost=Decimal(0), why="free")
    price = prices.get(item.kind or "")
    if price is None:
        return LineCost(ingredient=item, cost=None, why="no-price")
    if not item.measured:
        return LineCost(ingredient=item, cost=None, price=price, why="no-amount")
    units = _units(item, price.per, locale)
    if units is None:
        return LineCost(ingredient=item, cost=None, price=price, why="no-weight")
    return LineCost(ingredient=item, cost=price.amount * Decimal(str(units)), price=price)


def recipe_cost(items: Sequence[Ingredient], prices: Mapping[str, Price], locale: Locale) -> RecipeCost:
    """What a batch costs. Lines that are headings cost nothing; what cannot be priced is listed."""
    lines = tuple(line_cost(item, prices, locale) for item in items if item.food)
    total = sum((line.cost for line in lines if line.cost is not None), Decimal(0))
    return RecipeCost(
        lines=lines,
        total=total.quantize(Decimal("0.01"), rounding="ROUND_UP"),
        complete=all(line.cost is not None for line in lines),
    )


def cost_of_part(
    items: Sequence[Ingredient], grams: float, prices: Mapping[str, Price], locale: Locale
) -> Decimal | None:
    """What so much [g] of something made of these lines costs: its share by weight of what they cost, rounded up to the
    cent; never more than all of it. None where a line has no price or no weight."""
    weights = [weight_g(item, locale) for item in items if item.food]
    costs = [line_cost(item, prices, locale).cost for item in items if item.food]
    known = [weight for weight in weights if weight is not None]
    total = sum((cost for cost in costs if cost is not None), Decimal(0))
    if not known or len(known) < len(weights) or any(cost is None for cost in costs) or sum(known) <= 0:
        return None
    share = Decimal(str(min(1.0, positive(grams, "grams") / sum(known))))
    return (total * share).quantize(Decimal("0.01"), rounding="ROUND_UP")


@dataclass(frozen=True, slots=True, kw_only=True)
class BulkSaving:
    """A large pack beside the usual price. ``saves`` per kilogram or litre; ``keeps_months`` how long
    the freezer keeps it, None if it may not be frozen; ``use_within`` how much may be bought at
    most for what is used in that time."""

    saves: Decimal
    keeps_months: int | None
    most: float | None
    too_much: bool


def bulk_saving(price: Price, *, pack: float, pack_price: Decimal, used_per_month: float) -> BulkSaving:
    """Whether a pack (in the price's own unit) pays, within the freezer's limit for the food."""
    positive(pack, "pack")
    if pack_price < 0:
        raise CoreError("pack_price", "price_below_0")
    each = pack_price / Decimal(str(pack))
    kind = food_kind(price.kind)
    life = storage_category(kind.storage).freezer if kind.storage else None
    months = _months(life.low, life.unit) if life else None
    if kind.storage is None:
        return BulkSaving(saves=price.amount - each, keeps_months=None, most=None, too_much=False)
    most = used_per_month * months if months is not None else 0.0
    return BulkSaving(saves=price.amount - each, keeps_months=months, most=most, too_much=pack > most)


def _months(low: float, unit: str) -> int:
    return math.floor({"d": low / 30, "wk": low / 4.35, "mo": low}[unit])

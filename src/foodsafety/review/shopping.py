"""What to buy for a lesson: by sections of a shop, cold things last, in whole packs, with what is left over."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cache
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.foods import FoodKind, Locale, food_kind, unit_ml
from foodsafety.recipes import Ingredient, weight_g
from foodsafety.review.costs import FREE_KINDS, Price

Unit = Literal["g", "ml", "each"]
OTHER = "other"
_A_PRICE = {"kg": ("g", 1000), "l": ("ml", 1000), "each": ("each", 1)}


@dataclass(frozen=True, slots=True, kw_only=True)
class ToBuy:
    """One food. ``amount`` of ``unit`` is needed (None where a line gives none that can be added up: ``lines`` say
    what it says). ``packs`` of ``pack`` are bought and ``left`` is over; without a usual pack ``packs`` is 0 and the
    amount itself is bought. ``cost`` of all that is bought; None where no price is known for it."""

    kind: str | None
    name: str
    section: str
    cold: bool
    lines: tuple[str, ...]
    amount: float | None
    unit: Unit
    packs: int = 0
    pack: float = 0.0
    left: float = 0.0
    cost: Decimal | None = None
    allergens: frozenset[str] = frozenset()
    have: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppingList:
    """Everything to buy in the order in which a shop is walked; ``total`` is at least so much where not
    ``complete``."""

    rows: tuple[ToBuy, ...]
    total: Decimal
    complete: bool


@cache
def _data() -> dict[str, Any]:
    return tomllib.loads(data_text("shopping.toml"))


def shop_sections() -> tuple[str, ...]:
    """The sections of a shop in the order in which they are walked."""
    found = [str(row["id"]) for row in _data()["sections"]]
    return (OTHER, *found)


def shopping_list(
    dishes: Sequence[tuple[Sequence[Ingredient], float]],
    locale: Locale,
    *,
    prices: Mapping[str, Price] | None = None,
    have: Collection[str] = (),
) -> ShoppingList:
    """What to buy for dishes, each with how many times it is made. The larger of two amounts is taken ("2 to 3
    onions"). ``have``: kinds (or names, where the kind is unknown) that are there already: listed, not bought."""
    lines: dict[str, list[tuple[Ingredient, float]]] = {}
    for items, times in dishes:
        for item in items:
            if item.food and item.kind not in FREE_KINDS:
                lines.setdefault(item.kind or item.food.lower(), []).append((item, times))
    rows = [_to_buy(name, wanted, locale, prices or {}, name in have) for name, wanted in lines.items()]
    order = {name: n for n, name in enumerate(shop_sections())}
    rows.sort(key=lambda row: (order[row.section], row.name))
    bought = [row.cost for row in rows if not row.have]
    total = sum((cost for cost in bought if cost is not None), Decimal(0))
    return ShoppingList(rows=tuple(rows), total=total, complete=all(cost is not None for cost in bought))


def _to_buy(
    name: str, wanted: Sequence[tuple[Ingredient, float]], locale: Locale, prices: Mapping[str, Price], have: bool
) -> ToBuy:
    items = [item for item, _ in wanted]
    kind = food_kind(items[0].kind) if items[0].kind else None
    unit, amount = _sum(wanted, locale)
    section, cold = _section(kind)
    row = ToBuy(
        kind=kind.id if kind else None,
        name=kind.name if kind else str(items[0].food),
        section=section,
        cold=cold,
        lines=tuple(dict.fromkeys(item.text for item in items)),
        amount=amount,
        unit=unit,
        allergens=frozenset(tag for item in items for tag in item.allergens)
        | (kind.allergens if kind else frozenset()),
        have=have,
    )
    if amount is None:
        return row
    pack = _pack(kind, unit)
    if pack:
        packs = math.ceil(amount / pack - 1e-9)
        row = replace(row, packs=packs, pack=pack, left=packs * pack - amount)
    return replace(row, cost=_cost(kind, row, prices.get(name)))


def _sum(wanted: Sequence[tuple[Ingredient, float]], locale: Locale) -> tuple[Unit, float | None]:
    """All lines of one food added up in the one unit that holds for each, the larger end of every amount; None where
    one gives no amount or none that adds up."""
    units: tuple[Unit, ...] = ("each", "ml", "g")
    for unit in units:
        amounts = [_amount(item, unit, locale) for item, _ in wanted]
        if all(amount is not None for amount in amounts):
            return unit, sum((amount or 0.0) * times for amount, (_, times) in zip(amounts, wanted, strict=True))
    return "g", None


def _amount(item: Ingredient, unit: Unit, locale: Locale) -> float | None:
    if item.high is None:
        return None
    most = replace(item, low=item.high)
    if unit == "g":
        return weight_g(most, locale)
    if unit == "ml":
        ml = unit_ml(item.unit, locale)
        # What is weighed in the shop is not bought by the spoon.
        return item.high * ml if ml is not None and _is_liquid(item) else None
    return item.high if item.unit is None and not item.each_amount else None


def _is_liquid(item: Ingredient) -> bool:
    pack = _pack(food_kind(item.kind), "ml") if item.kind else None
    return pack is not None


def _section(kind: FoodKind | None) -> tuple[str, bool]:
    """Where a food stands in a shop, and whether it must stay cold; unknown food is asked for first."""
    for row in _data()["sections"]:
        if kind and kind.group in row["groups"]:
            return str(row["id"]), bool(row.get("cold"))
    return OTHER, bool(kind and kind.temperature_control)


def _pack(kind: FoodKind | None, unit: Unit) -> float | None:
    packs = _data()["packs"]
    row = (packs.get(kind.id) or packs.get(kind.group) or {}) if kind else {}
    size = row.get(unit)
    return float(size) if size else None


def _cost(kind: FoodKind | None, row: ToBuy, price: Price | None) -> Decimal | None:
    """What is bought costs: packs where there are packs."""
    if price is None or row.amount is None:
        return None
    unit, size = _A_PRICE[price.per]
    amount = row.packs * row.pack if row.packs else row.amount
    if unit != row.unit:
        changed = _into(amount, row.unit, unit, kind)
        if changed is None:
            return None
        amount = changed
    return (price.amount * Decimal(str(amount / size))).quantize(Decimal("0.01"), rounding="ROUND_UP")


def _into(amount: float, unit: Unit, to: str, kind: FoodKind | None) -> float | None:
    """An amount in another unit, by weight; None where nothing says how heavy it is."""
    weights = {"g": 1.0, "ml": kind.density_g_ml if kind else None, "each": kind.piece_g if kind else None}
    one, other = weights[unit], weights[to]
    return amount * one / other if one and other else None

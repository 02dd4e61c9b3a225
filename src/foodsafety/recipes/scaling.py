"""Scaling a recipe: amounts a kitchen can measure, and what does not scale.

The exact amount is always kept beside the one shown, so nothing is lost by scaling twice.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cache
from typing import Literal

from foodsafety.foods import FoodKind, Locale, convert_amount, food_kind, unit_g, unit_ml
from foodsafety.quantities import CoreError, positive
from foodsafety.recipes.ingredients import Ingredient
from foodsafety.recipes.process import Process, Step

Tolerance = Literal["exact", "about"]
# Groups whose amount the result depends on; salt and sugar join them where a recipe preserves.
_EXACT_GROUPS = frozenset({"leavening", "gelling agent", "curing salt"})
_EXACT_IN_PRESERVING = frozenset({"salt", "sugar", "vinegar"})
ALLOWED_ERROR = {"exact": 0.01, "about": 0.05}

# What measuring sets hold, as parts of a cup, a tablespoon and a teaspoon.
_CUPS = tuple(Fraction(n, d) for n, d in ((0, 1), (1, 4), (1, 3), (1, 2), (2, 3), (3, 4)))
# A part of a teaspoon that no one spoon holds is taken with two or three.
_SPOONS: dict[Fraction, tuple[Fraction, ...]] = {
    Fraction(n, 8): tuple(Fraction(part, 8) for part in parts)
    for n, parts in ((0, ()), (1, (1,)), (2, (2,)), (3, (2, 1)), (4, (4,)), (5, (4, 1)), (6, (6,)), (7, (6, 1)))
}
SMALLEST_SPOON_TSP = 1 / 8
_SPOONED = frozenset({"tsp", "tbsp", "dsp", "cup"})


def tolerance_of(kind_id: str | None, *, preserving: bool = False) -> Tolerance:
    """Whether an ingredient must be measured exactly: leavening, gelling and curing always, and
    salt, sugar and acid where the recipe preserves food."""
    if kind_id is None:
        return "about"
    group = food_kind(kind_id).group
    exact = group in _EXACT_GROUPS or (preserving and group in _EXACT_IN_PRESERVING)
    return "exact" if exact else "about"


@dataclass(frozen=True, slots=True, kw_only=True)
class SpoonMeasure:
    """One thing to measure: so many of a unit, as a fraction a kitchen has."""

    amount: Fraction
    unit: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Scaled:
    """An ingredient scaled. ``low`` ``high`` are exact in ``unit``; ``measures`` is what to take,
    its relative error ``error`` [1]. ``part`` says how to take part of an egg or a can: grams [g]
    after so many whole ones. ``doubts``: not-measurable, error-above-tolerance, below-smallest-spoon."""

    ingredient: Ingredient
    factor: float
    low: float | None
    high: float | None
    unit: str | None
    measures: tuple[SpoonMeasure, ...] = ()
    error: float = 0.0
    tolerance: Tolerance = "about"
    whole: int | None = None
    part_g: float | None = None
    part_ml: float | None = None
    doubts: tuple[str, ...] = ()


def _cup_options(cups: float) -> list[Fraction]:
    """Cups worth trying for a volume of so many; none at all only where spoons can do it."""
    near = [n + f for n in range(max(0, int(cups) - 1), int(cups) + 1) for f in _CUPS if float(n + f) <= cups * 1.06]
    return sorted({*near, *([Fraction(0)] if cups < 1.2 else [])})


@cache
def spoon_measures(ml: float, locale: Locale, allowed: float) -> tuple[tuple[SpoonMeasure, ...], float]:
    """The fewest cups, tablespoons and teaspoons that make a volume [ml] within ``allowed`` [1],
    and the relative error. Falls back to the closest where nothing is within it."""
    cup, tbsp, tsp = (unit_ml(unit, locale) or 1.0 for unit in ("cup", "tbsp", "tsp"))
    best: tuple[bool, int, float, tuple[SpoonMeasure, ...]] | None = None
    for cups, spoons, small in _spoonings(ml, cup, tbsp, tsp, allowed):
        error = abs(ml - float(cups) * cup - spoons * tbsp - float(small) * tsp) / ml
        amounts = ((cups, "cup"), (Fraction(spoons), "tbsp"), *((part, "tsp") for part in _spoonfuls(small)))
        measures = tuple(SpoonMeasure(amount=amount, unit=unit) for amount, unit in amounts if amount)
        row = (error > allowed, _scoops(measures) if error <= allowed else 0, round(error, 9), measures)
        if measures and (best is None or row[:3] < best[:3]):
            best = row
    if best is None:
        return (SpoonMeasure(amount=Fraction(1, 8), unit="tsp"),), abs(ml - tsp / 8) / ml
    return best[3], best[2]


def _spoonings(
    ml: float, cup: float, tbsp: float, tsp: float, allowed: float
) -> Iterator[tuple[Fraction, int, Fraction]]:
    """Cups, tablespoons and teaspoons worth trying for a volume [ml]."""
    for cups in _cup_options(ml / cup):
        left = ml - float(cups) * cup
        if left < -allowed * ml - 1e-9:
            continue
        top = 4 if cups else max(4, min(16, int(left // tbsp)))
        for spoons in sorted({max(0, min(top, round(left / tbsp) + d)) for d in (-1, 0)} | {0}):
            for small in _teaspoons((left - spoons * tbsp) / tsp):
                yield cups, spoons, small


def _spoonfuls(small: Fraction) -> tuple[Fraction, ...]:
    """Teaspoons as measuring spoons give them: 1 3/8 is 1 1/4 and 1/8."""
    whole = small.numerator // small.denominator
    parts = _SPOONS[small - whole]
    return (whole + parts[0], *parts[1:]) if parts else (Fraction(whole),)


def _scoops(measures: Iterable[SpoonMeasure]) -> int:
    """A measure is a scoop of each size: 2 1/2 cups is three scoops."""
    return sum(int(m.amount) + (m.amount.denominator > 1) for m in measures)


def _teaspoons(count: float) -> Iterable[Fraction]:
    if count < 0:
        return [Fraction(0)]
    whole = max(0, math.floor(count))
    near = [n + f for n in (whole, whole + 1) for f in _SPOONS if abs(float(n + f) - count) <= 0.5]
    return near or [Fraction(0)]


def scale_ingredient(item: Ingredient, factor: float, locale: Locale, *, tolerance: Tolerance = "about") -> Scaled:
    """An ingredient times ``factor``, as a kitchen can measure it. Raises CoreError for a factor
    that is not above 0."""
    positive(factor, "factor")
    low = item.low * factor if item.low is not None else None
    high = item.high * factor if item.high is not None else None
    base = Scaled(ingredient=item, factor=factor, low=low, high=high, unit=item.unit, tolerance=tolerance)
    if low is None or high is None:
        return base
    kind = food_kind(item.kind) if item.kind else None
    if item.unit in _SPOONED:
        return _spooned(base, low, locale)
    if unit_g(item.unit, locale) or unit_ml(item.unit, locale):
        return base
    return _counted(base, kind, low, locale)


def _spooned(base: Scaled, low: float, locale: Locale) -> Scaled:
    ml = low * (unit_ml(base.unit, locale) or 1.0)
    allowed = ALLOWED_ERROR[base.tolerance]
    kind = food_kind(base.ingredient.kind) if base.ingredient.kind else None
    g = ml * kind.density_g_ml if kind and kind.density_g_ml else None
    if ml < (1 - allowed) * SMALLEST_SPOON_TSP * (unit_ml("tsp", locale) or 1.0):
        return replace(base, part_g=g, part_ml=ml, doubts=("below-smallest-spoon",))
    measures, error = spoon_measures(ml, locale, allowed)
    if error <= allowed:
        return replace(base, measures=measures, error=error)
    return replace(base, measures=measures, error=error, part_g=g, doubts=("error-above-tolerance",))


def _counted(base: Scaled, kind: FoodKind | None, low: float, locale: Locale) -> Scaled:
    """Eggs, cans and pieces: whole ones first, then part of one by weight."""
    whole, part = int(low + 1e-9), low - int(low + 1e-9)
    if part < 1e-6:
        return replace(base, whole=whole, measures=(SpoonMeasure(amount=Fraction(whole), unit=base.unit),))
    each_g = _piece_g(base, kind, locale)
    each_ml = _piece_ml(base.ingredient, kind, each_g, locale)
    near = Fraction(round(low * 4), 4) or Fraction(1, 4)
    return replace(
        base,
        whole=whole,
        part_g=part * each_g if each_g else None,
        part_ml=part * each_ml if each_ml else None,
        measures=(SpoonMeasure(amount=near, unit=base.unit),),
        error=abs(float(near) - low) / low,
        doubts=() if each_g or each_ml else ("not-measurable",),
    )


def _piece_g(base: Scaled, kind: FoodKind | None, locale: Locale) -> float | None:
    """What one weighs [g]: as the line says, else as its kind does; None where neither says."""
    item = base.ingredient
    if item.each_amount and item.each_unit and unit_g(item.each_unit, locale):
        return convert_amount(item.each_amount, item.each_unit, "g", locale)
    return kind.piece_g if kind and (base.unit is None or kind.group == "egg") else None


def _piece_ml(item: Ingredient, kind: FoodKind | None, each_g: float | None, locale: Locale) -> float | None:
    """What one fills [ml]: as the line says; an egg by its weight."""
    if item.each_amount and item.each_unit and unit_ml(item.each_unit, locale):
        return convert_amount(item.each_amount, item.each_unit, "ml", locale)
    if each_g and kind and kind.group == "egg" and kind.density_g_ml:
        return each_g / kind.density_g_ml
    return None


def factor_for_servings(serves: int | None, wanted: float) -> float:
    """What to multiply by to feed ``wanted``. Raises CoreError where the recipe does not say for how many."""
    if not serves:
        raise CoreError("serves", "servings_unknown")
    return positive(wanted, "wanted") / serves


def factor_for_amount(item: Ingredient, amount: float, unit: str, locale: Locale) -> float:
    """What to multiply by to use up what there is: "I have 1.3 kg". Raises CoreError if the
    ingredient has no amount, or one that cannot be compared."""
    if not item.low:
        raise CoreError("ingredient", "no_amount")
    positive(amount, "amount")
    kind = food_kind(item.kind) if item.kind else None
    if item.unit is None or (unit_g(item.unit, locale) is None and unit_ml(item.unit, locale) is None):
        if item.each_amount and item.each_unit:
            have = convert_amount(
                amount, unit, item.each_unit, locale, density_g_ml=kind.density_g_ml if kind else None
            )
            return have / (item.low * item.each_amount)
        if kind is None or kind.piece_g is None:
            raise CoreError("unit", "weight_unknown", food=item.food)
        return convert_amount(amount, unit, "g", locale, density_g_ml=kind.density_g_ml) / (item.low * kind.piece_g)
    return convert_amount(amount, unit, item.unit, locale, density_g_ml=kind.density_g_ml if kind else None) / item.low


@dataclass(frozen=True, slots=True, kw_only=True)
class Batches:
    """Pieces that do not all fit at once."""

    pieces: int
    fits: int
    count: int
    last: int


def cook_batches(pieces: float, fits: int) -> Batches:
    """How often a pan or tray must be filled; the pieces are rounded up, never down."""
    whole = math.ceil(positive(pieces, "pieces") - 1e-9)
    if fits < 1:
        raise CoreError("fits", "no_piece_fits")
    count = -(-whole // fits)
    return Batches(pieces=whole, fits=fits, count=count, last=whole - (count - 1) * fits)


TimeRule = Literal["by-work", "by-batches", "by-depth", "by-thickness", "same"]
_BY_WORK = frozenset({"cut", "peel", "grate", "rinse", "mix", "coat", "touch", "garnish", "transfer", "pour", "brush"})


def time_rule(step: Step, process: Process) -> TimeRule:
    """How a step's time goes with the amount. Only handwork grows with it; cooking goes by
    thickness and by batches, and cooling by depth, which no factor tells."""
    if step.do in _BY_WORK:
        return "by-work"
    if step.do in ("chill", "freeze"):
        return "by-depth"
    if step.do in ("heat", "part_cook"):
        kinds = {process.tools[name].kind for name in step.tools}
        if kinds & {"frying_pan", "griddle", "grill", "barbecue"}:
            return "by-batches"
        if kinds & {"saucepan", "pot", "slow_cooker"}:
            return "by-depth"
        return "by-thickness"
    return "by-depth" if step.do == "rest" else "same"


# Scoops in common use [ml].
SCOOPS_ML = (15, 20, 30, 40, 50, 60, 75, 90, 100, 125, 150, 180, 240)


@dataclass(frozen=True, slots=True, kw_only=True)
class Portion:
    """Equal portions: each by weight [g], and the largest scoop [ml] near it and not above, if the density is known."""

    each_g: float
    scoop_ml: int | None


def equal_portions(total_g: float, count: int, *, density_g_ml: float | None = None) -> Portion:
    """A total [g] in ``count`` equal portions."""
    if count < 1:
        raise CoreError("count", "no_portion")
    each = positive(total_g, "total_g") / count
    ml = each / density_g_ml if density_g_ml else None
    fits = [size for size in SCOOPS_ML if ml is not None and 0.8 * ml <= size <= 1.02 * ml]
    return Portion(each_g=each, scoop_ml=max(fits) if fits else None)


def total_weight_g(items: Sequence[Ingredient], locale: Locale) -> tuple[float, tuple[str, ...]]:
    """What the ingredients weigh together [g], and the lines whose weight nobody knows."""
    total, unknown = 0.0, []
    for item in items:
        if item.low is None:
            continue
        weight = weight_g(item, locale)
        if weight is None:
            unknown.append(item.text)
        else:
            total += weight
    return total, tuple(unknown)


def weight_g(item: Ingredient, locale: Locale) -> float | None:
    """What an ingredient weighs [g]: measured, by density, by the size on the can or by the piece;
    None where that would be a guess."""
    if item.low is None or item.high is None:
        return None
    amount = (item.low + item.high) / 2
    kind = food_kind(item.kind) if item.kind else None
    if (g := unit_g(item.unit, locale)) is not None:
        return amount * g
    if (ml := unit_ml(item.unit, locale)) is not None:
        return amount * ml * kind.density_g_ml if kind and kind.density_g_ml else None
    if item.each_amount and item.each_unit:
        if (g := unit_g(item.each_unit, locale)) is not None:
            return amount * item.each_amount * g
        ml = unit_ml(item.each_unit, locale)
        return amount * item.each_amount * ml * kind.density_g_ml if ml and kind and kind.density_g_ml else None
    if item.unit == "stick" and kind and kind.group == "butter":
        return amount * STICK_OF_BUTTER_G
    if (item.unit is None or item.unit in ("clove", "stick", "stalk")) and kind and kind.piece_g:
        return amount * kind.piece_g
    return None


# Source: the project's reference figures, section 6.
STICK_OF_BUTTER_G = 113.0

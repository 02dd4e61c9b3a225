"""Kitchen units: the words for them, and how large each is in each locale."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Literal, cast

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, finite

Locale = Literal["en-US", "en-GB", "en-AU", "en-CA"]
LOCALES: tuple[Locale, ...] = ("en-US", "en-GB", "en-AU", "en-CA")


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenUnit:
    """A unit of mass or volume. Exactly one of ``g`` and ``ml`` has sizes, by locale or "other"."""

    id: str
    g: Mapping[str, float]
    ml: Mapping[str, float]
    words: tuple[str, ...]
    exact: tuple[str, ...]


def locale_from(value: object, field: str = "locale") -> Locale:
    """A locale we measure in. Raises CoreError naming the ones there are."""
    if value not in LOCALES:
        raise CoreError(field, "not_one_of", value=value, allowed=tuple(LOCALES))
    return value


def _sizes(value: object, field: str) -> Mapping[str, float]:
    if value is None:
        return {}
    if isinstance(value, Mapping):
        return {str(key): finite(size, field) for key, size in value.items()}
    return {"other": finite(value, field)}


@cache
def kitchen_units() -> Mapping[str, KitchenUnit]:
    """Every unit by id."""
    text = data_text("units.toml")
    return {
        key: KitchenUnit(
            id=key,
            g=_sizes(row.get("g"), f"units.toml {key}.g"),
            ml=_sizes(row.get("ml"), f"units.toml {key}.ml"),
            words=tuple(row["words"]),
            exact=tuple(row.get("exact", ())),
        )
        for key, row in tomllib.loads(text).items()
    }


def unit_g(unit: str | None, locale: Locale) -> float | None:
    """Mass [g] of one unit, or None if it is not a unit of mass."""
    row = kitchen_units().get(unit or "")
    return row.g.get(locale, row.g.get("other")) if row else None


def unit_ml(unit: str | None, locale: Locale) -> float | None:
    """Volume [ml] of one unit, or None if it is not a unit of volume."""
    row = kitchen_units().get(unit or "")
    return row.ml.get(locale, row.ml.get("other")) if row else None


def convert_amount(amount: float, unit: str, to: str, locale: Locale, *, density_g_ml: float | None = None) -> float:
    """An amount in another unit. Mass and volume meet only through a density [g/ml].

    Raises CoreError if a unit is unknown or the density is needed and missing: a guess would
    be a wrong recipe.
    """
    g, ml = unit_g(unit, locale), unit_ml(unit, locale)
    to_g, to_ml = unit_g(to, locale), unit_ml(to, locale)
    for name, sizes in (("unit", (g, ml)), ("to", (to_g, to_ml))):
        if sizes == (None, None):
            raise CoreError(name, "not_a_measure", value=unit if name == "unit" else to)
    if g is not None and to_g is not None:
        return amount * g / to_g
    if ml is not None and to_ml is not None:
        return amount * ml / to_ml
    if density_g_ml is None:
        raise CoreError("density", "density_needed", unit=unit, to=to)
    if ml is not None:
        return amount * ml * density_g_ml / cast(float, to_g)
    return amount * cast(float, g) / density_g_ml / cast(float, to_ml)

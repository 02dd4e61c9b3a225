"""What can contaminate food, and what ends it."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache

from foodsafety.data import data_text
from foodsafety.foods.allergens import allergen_tag
from foodsafety.foods.words import plain_id


@dataclass(frozen=True, slots=True, kw_only=True)
class Soil:
    """Something that can contaminate. ``severity`` 1-3 only ranks what is said first.

    ``raw``: raw food brings it of itself, and cooking ends it. ``by_reading``: a profile has a core
    temperature for the food that brings it, so in a lesson heat ends it only once a reading shows
    that. ``splashes``: rinsing spreads it over sink and neighbours instead of ending it. ``practice``:
    carried from one food to another it is advice, never a finding, unless the kitchen makes it a rule.
    ``cook_class``: its row of a cooking table, for a food of which no more is known.
    """

    id: str
    heat_clears: bool
    rinse_clears: bool = False
    severity: int = 1
    raw: bool = False
    by_reading: bool = False
    splashes: bool = False
    practice: bool = False
    cook_class: str | None = None


@cache
def _soil_file() -> dict[str, dict[str, dict[str, object]]]:
    return tomllib.loads(data_text("soils.toml"))


@cache
def soils() -> dict[str, Soil]:
    """Every soil by id. An id that is not here is an allergen (see ``soil``)."""
    return {
        key: Soil(
            id=key,
            heat_clears=bool(row["heat_clears"]),
            rinse_clears=bool(row.get("rinse_clears", False)),
            severity=int(str(row["severity"])),
            raw=bool(row.get("raw", False)),
            by_reading=bool(row.get("by_reading", False)),
            splashes=bool(row.get("splashes", False)),
            practice=bool(row.get("practice", False)),
            cook_class=str(row["cook_class"]) if "cook_class" in row else None,
        )
        for key, row in _soil_file()["soil"].items()
    }


@cache
def soil(soil_id: str) -> Soil:
    """A soil by id; one the table does not know is taken to survive heat, as an allergen does."""
    return soils().get(soil_id) or Soil(id=soil_id, heat_clears=False, severity=3)


def is_raw(soil_id: str) -> bool:
    """True for the soils that raw food brings of itself and that cooking ends."""
    return soil(soil_id).raw


def raw_of_animals(soil_ids: Iterable[str]) -> bool:
    """True if any of the soils ends only where a core reading shows it: raw food of animals."""
    return any(soil(name).by_reading for name in soil_ids)


def soil_tag(name: str) -> str:
    """Our id of a soil as somebody writes it; what is no soil of ours is an allergen."""
    plain = plain_id(name.removeprefix("allergen:"))
    return plain if plain in soils() and not name.startswith("allergen:") else allergen_tag(name)

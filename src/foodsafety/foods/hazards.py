"""What can contaminate food, and what ends it."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache

from foodsafety.data import data_text
from foodsafety.foods.allergens import allergen_tag
from foodsafety.foods.words import plain_id


@dataclass(frozen=True, slots=True, kw_only=True)
class Soil:
    """Something that can contaminate. ``severity`` 1-3 only ranks what is said first."""

    id: str
    heat_clears: bool
    rinse_clears: bool = False
    severity: int = 1


@cache
def _soil_file() -> dict[str, dict[str, dict[str, object]]]:
    return tomllib.loads(data_text("soils.toml"))


def is_raw(soil_id: str) -> bool:
    """True for the soils that raw food brings of itself and that cooking ends."""
    return soil_id.startswith("raw_")


@cache
def soils() -> dict[str, Soil]:
    """Every soil by id. An id that is not here is an allergen (see ``soil``)."""
    return {
        key: Soil(
            id=key,
            heat_clears=bool(row["heat_clears"]),
            rinse_clears=bool(row.get("rinse_clears", False)),
            severity=int(str(row["severity"])),
        )
        for key, row in _soil_file()["soil"].items()
    }


@cache
def soil(soil_id: str) -> Soil:
    """A soil by id; one the table does not know is taken to survive heat, as an allergen does."""
    return soils().get(soil_id) or Soil(id=soil_id, heat_clears=False, severity=3)


def soil_tag(name: str) -> str:
    """Our id of a soil as somebody writes it; what is no soil of ours is an allergen."""
    plain = plain_id(name.removeprefix("allergen:"))
    return plain if plain in soils() and not name.startswith("allergen:") else allergen_tag(name)

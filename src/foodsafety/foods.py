"""Food kinds, soils and tool kinds, read from the data files and checked on loading."""

from __future__ import annotations

import csv
import re
import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from foodsafety.quantities import CoreError


@dataclass(frozen=True, slots=True, kw_only=True)
class Soil:
    """Something that can contaminate. ``severity`` 1-3 only ranks what is said first."""

    id: str
    heat_clears: bool
    rinse_clears: bool = False
    severity: int = 1


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodKind:
    """What is known of a food before anyone touches it.

    ``temperature_control``: it needs hot or cold holding to stay safe once ready to eat.
    ``cook_class`` names its row in a profile's cooking table, ``storage`` its storage category.
    """

    id: str
    name: str
    soils: frozenset[str]
    allergens: frozenset[str]
    temperature_control: bool
    cook_class: str | None
    storage: str | None


def plain_id(text: str) -> str:
    """An id from words as people write them: "Raw poultry" is raw_poultry."""
    return re.sub(r"[^a-z0-9]+", "_", text.strip().lower()).strip("_")


def data_text(name: str) -> str:
    """The text of one of the core's own data files."""
    return (files("foodsafety") / "data" / name).read_text(encoding="utf-8")


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
        )
        for key, row in _soil_file()["soil"].items()
    }


@cache
def soil(soil_id: str) -> Soil:
    """A soil by id; one the table does not know is taken to survive heat, as an allergen does."""
    return soils().get(soil_id) or Soil(id=soil_id, heat_clears=False, severity=3)


@cache
def heated_tool_kinds() -> frozenset[str]:
    """Kinds of vessel that a heat step heats together with the food in it."""
    kinds = _soil_file()["tool"]["heated"]
    return frozenset(str(kind) for kind in kinds)


@cache
def soil_brought_by(tool_kind: str) -> str | None:
    """The soil that a kind of thing carries by nature (a phone, a bin), or None."""
    found = _soil_file()["tool"]["brings"].get(tool_kind)
    return str(found) if found else None


@cache
def _kinds_by_word() -> dict[str, FoodKind]:
    words: dict[str, FoodKind] = {}
    for row in csv.DictReader(data_text("foods.csv").splitlines()):
        kind = FoodKind(
            id=row["id"],
            name=row["name"],
            soils=frozenset(filter(None, row["soils"].split("|"))),
            allergens=frozenset(filter(None, row["allergens"].split("|"))),
            temperature_control=row["temperature_control"] == "yes",
            cook_class=row["cook_class"] or None,
            storage=row["storage"] or None,
        )
        unknown = kind.soils - soils().keys()
        if unknown:
            raise CoreError(f"foods.csv {kind.id}", f"unknown soil {sorted(unknown)}")
        for word in (kind.id, kind.name, *filter(None, row["synonyms"].split("|"))):
            if plain_id(word) in words and words[plain_id(word)].id != kind.id:
                raise CoreError(f"foods.csv {kind.id}", f"{word!r} names two kinds")
            words[plain_id(word)] = kind
    return words


def food_kinds() -> tuple[FoodKind, ...]:
    """Every food kind once, in the file's order."""
    return tuple({kind.id: kind for kind in _kinds_by_word().values()}.values())


def food_kind(name: str, field: str = "kind") -> FoodKind:
    """The food kind of this id, name or synonym. Raises CoreError for an unknown one:
    a food that nobody recognises must be asked about, never taken for harmless."""
    try:
        return _kinds_by_word()[plain_id(name)]
    except KeyError:
        raise CoreError(field, f"no food kind is called {name!r}; give its soils instead") from None

"""Where food stands while it cools, warms, freezes or thaws, and what covers it."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, finite, positive


@dataclass(frozen=True, slots=True, kw_only=True)
class Environment:
    """Surroundings met in kitchens: coefficients [W/(m2 K)] from low to high, their usual
    temperature [C]. ``stirred``: the water is kept moving."""

    id: str
    low_h: float
    high_h: float
    usual_c: float
    stirred: bool


@cache
def _file() -> Mapping[str, Mapping[str, float]]:
    return tomllib.loads(data_text("surroundings.toml"))


@cache
def environments() -> dict[str, Environment]:
    """Every place by id."""
    return {
        key: Environment(
            id=key,
            low_h=positive(row["low"], f"{key}.low"),
            high_h=finite(row["high"], f"{key}.high", low=row["low"]),
            usual_c=row["c"],
            stirred=bool(row["stirred"]),
        )
        for key, row in _file().items()
        if key != "layers"
    }


def environment(name: str, field: str = "place") -> Environment:
    """A place by id. Raises CoreError naming those there are."""
    if name not in environments():
        raise CoreError(field, "not_one_of", value=name, allowed=tuple(environments()))
    return environments()[name]


def cover_layers() -> Mapping[str, float]:
    """What may lie on a surface, by id, as a resistance [m2 K/W]."""
    return _file()["layers"]


def h_through(h: float, covers: Iterable[str]) -> float:
    """The coefficient [W/(m2 K)] that is left of ``h`` through lids, wraps and air gaps: their
    resistances add up in series."""
    resistance = 1 / positive(h, "h")
    for name in covers:
        if name not in cover_layers():
            raise CoreError("cover", "not_one_of", value=name, allowed=tuple(cover_layers()))
        resistance += cover_layers()[name]
    return 1 / resistance

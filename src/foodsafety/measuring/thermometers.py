"""Thermometers: checked against ice and boiling water, chosen for the food, put where it counts."""

from __future__ import annotations

import datetime as dt
import math
import tomllib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, finite

ICE_POINT_C = 0.0
HIGHEST_ALTITUDE_M, LOWEST_ALTITUDE_M = 6000.0, -430.0


@cache
def _file() -> Mapping[str, Mapping[str, Any]]:
    return tomllib.loads(data_text("thermometers.toml"))


@cache
def most_error_c() -> float:
    """By how much [C] a thermometer may be out at a point and still be used."""
    return float(_file()["check"]["most_error_c"])


def check_every_days() -> int:
    """How often a thermometer is checked."""
    return int(_file()["check"]["every_days"])


def pressure_kpa(altitude_m: float) -> float:
    """Air pressure [kPa] at an altitude [m], in the standard atmosphere (ISO 2533)."""
    finite(altitude_m, "altitude_m", low=LOWEST_ALTITUDE_M, high=HIGHEST_ALTITUDE_M)
    return float(101.325 * (1 - 2.25577e-5 * altitude_m) ** 5.25588)


def boiling_c(altitude_m: float) -> float:
    """Where water boils [C] at an altitude [m].

    Antoine's equation with the constants of Bridgeman and Aldrich 1964 for 1 to 100 C, turned
    round. Error: within 0.1 C; weather moves it by some tenths more.
    """
    mm_hg = pressure_kpa(altitude_m) * 7.50062
    return 1730.63 / (8.07131 - math.log10(mm_hg)) - 233.426


@dataclass(frozen=True, slots=True, kw_only=True)
class ThermometerCheck:
    """What a check of a thermometer says. ``offset_c`` is added to what it shows; ``spread_c`` is
    by how much the two points disagree; ``standing``: "good", "adjust" (out by more than 1 C at a
    point, the same way at each), "replace" (out by different amounts), "cannot_judge"."""

    standing: Literal["good", "adjust", "replace", "cannot_judge"]
    offset_c: float | None
    error_c: float | None
    spread_c: float | None
    next_due: dt.date | None


def check_thermometer(
    *, ice_shows_c: float | None, boil_shows_c: float | None, altitude_m: float | None, on: dt.date | None = None
) -> ThermometerCheck:
    """A thermometer against ice slush and boiling water. One point alone gives an offset and never
    "good": nobody saw the other end of its scale. At an altitude that nobody has said (None), boiling water is no
    point: it may boil anywhere."""
    boil_c = None if altitude_m is None else boiling_c(altitude_m)
    low = None if ice_shows_c is None else finite(ice_shows_c, "ice_shows_c", low=-30, high=60) - ICE_POINT_C
    boils = None if boil_shows_c is None else finite(boil_shows_c, "boil_shows_c", low=50, high=140)
    high = None if boils is None or boil_c is None else boils - boil_c
    found = [error for error in (low, high) if error is not None]
    if not found:
        return ThermometerCheck(standing="cannot_judge", offset_c=None, error_c=None, spread_c=None, next_due=None)
    offset_c = -sum(found) / len(found)
    standing = _check_standing(found)
    return ThermometerCheck(
        standing=standing,
        offset_c=offset_c,
        error_c=max(abs(error + offset_c) for error in found) if len(found) == 2 else None,
        spread_c=abs(found[0] - found[1]) if len(found) == 2 else None,
        next_due=on + dt.timedelta(days=check_every_days()) if on and standing == "good" else None,
    )


def _check_standing(errors_c: Sequence[float]) -> Literal["good", "adjust", "replace", "cannot_judge"]:
    """What the errors at one point or at both say."""
    if max(errors_c) - min(errors_c) > _file()["check"]["spread_c"]:
        return "replace"
    if max(abs(error) for error in errors_c) > most_error_c() + 1e-9:
        return "adjust"
    return "good" if len(errors_c) == 2 else "cannot_judge"


@dataclass(frozen=True, slots=True, kw_only=True)
class ThermometerKind:
    """A kind of thermometer: the length [m] that measures, the thinnest food [m] from above, its
    lag [s]."""

    id: str
    name: str
    sensor_m: float
    thinnest_m: float
    lag_s: float
    oven: bool
    surface_only: bool

    def ready_s(self, step_c: float, within_c: float = 0.5) -> float:
        """How long [s] until it shows a step [C] to within so much."""
        return self.lag_s * math.log(max(step_c / within_c, 1.0))


@cache
def thermometer_kinds() -> dict[str, ThermometerKind]:
    """Every kind of thermometer by id."""
    return {
        key: ThermometerKind(
            id=key,
            name=row["name"],
            sensor_m=row["sensor_m"],
            thinnest_m=row["thinnest_m"],
            lag_s=row["lag_s"],
            oven=row["oven"],
            surface_only=bool(row.get("surface_only", False)),
        )
        for key, row in _file().items()
        if key not in ("places", "check")
    }


@dataclass(frozen=True, slots=True, kw_only=True)
class ProbePlacement:
    """Where the tip goes in a food of so much thickness [m]: from the side where the food is too
    thin for it from above, ``depth_m`` in from there, clear of what ``clear`` names."""

    food: str
    shape: str
    from_side: bool
    depth_m: float
    clear: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ThermometerFit:
    """Whether a thermometer is right for a food, and why not."""

    kind: ThermometerKind
    right: bool
    why: Literal["", "surface_only", "too_thick_sensor", "needs_side"]


def probed_foods() -> tuple[str, ...]:
    """The foods that have a place for the tip."""
    return tuple(_file()["places"])


def probe_placement(food: str, *, thickness_m: float, width_m: float) -> ProbePlacement:
    """Where the tip goes. From above to the middle of the thickness; a thin food from its side, to
    the middle of its width, so that enough of the stem is in it."""
    row = _file()["places"].get(food)
    if row is None:
        raise CoreError("food", "not_one_of", value=food, allowed=tuple(probed_foods()))
    finite(thickness_m, "thickness_m", low=0.001, high=1.0)
    finite(width_m, "width_m", low=0.001, high=2.0)
    side = bool(row["side"])
    depth_m = (width_m if side else thickness_m) * row["depth"]
    return ProbePlacement(food=food, shape=row["shape"], from_side=side, depth_m=depth_m, clear=tuple(row["clear"]))


def fitting_thermometers(where: ProbePlacement, *, thickness_m: float) -> tuple[ThermometerFit, ...]:
    """Every kind of thermometer judged for a food: the part that measures must be in the food, and
    clear of the outside."""
    found = []
    for kind in thermometer_kinds().values():
        why: Literal["", "surface_only", "too_thick_sensor", "needs_side"] = ""
        if kind.surface_only:
            why = "surface_only"
        elif where.from_side and kind.sensor_m > 2 * where.depth_m:
            why = "too_thick_sensor"
        elif not where.from_side and thickness_m < kind.thinnest_m:
            why = "needs_side"
        found.append(ThermometerFit(kind=kind, right=not why, why=why))
    return tuple(found)

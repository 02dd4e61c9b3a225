"""Food in a store that failed: how warm it got by the store's own log and the food's size, and for how long it may have
been above the limit. And a power cut, before it is over: until when a shut store stays cold."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from itertools import pairwise
from typing import Any, Literal

from foodsafety.cooling.cold_store import StoreKind, held_above_s
from foodsafety.cooling.freeze_thaw import FrozenPiece
from foodsafety.cooling.planner import container, covers_of, unknown_dish
from foodsafety.data import data_text
from foodsafety.heat import Surroundings, conduct, environment
from foodsafety.quantities import CoreError, Series, Temperature, finite, positive
from foodsafety.rules import Profile

Filled = Literal["full", "half", "unknown"]


@cache
def _power() -> Mapping[str, Any]:
    found: Mapping[str, Any] = tomllib.loads(data_text("cold_stores.toml"))["power_cut"]
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Warmed:
    """What food in a store reached: its middle at the slow figure and its surface at the fast one [C], and for how
    long [s] its surface was above cold holding at the fast one. ``by_size``: worked out from its size; without one its
    air stands for it, and no middle is known."""

    low_c: float
    high_c: float
    above_s: float
    by_size: bool


def warmed(
    readings: Series, profile: Profile, *, kind: StoreKind, now_s: float, depth_m: float | None, wrap: str = ""
) -> Warmed | None:
    """How food was warmed that stood in a store all the time of its log [(s, C), in order], begun at the limit of the
    store, or as warm as its air was found. None without a reading. Spells no longer than a peak count for nothing where
    its size is not known, as in ``judge_store``."""
    if not readings:
        return None
    cold = profile.hold["cold"].temperature
    air_s, worst_c = held_above_s(readings, cold, now_s), max(at_c for _s, at_c in readings)
    if depth_m is None:
        return Warmed(low_c=min(at_c for _s, at_c in readings), high_c=worst_c, above_s=air_s, by_size=False)
    start_c = max(profile.hold["freezer" if kind == "freezer" else "cold"].temperature.c, readings[0][1])
    # To the millimetre, towards thin: many things of one size are worked out once.
    thin_m = max(0.001, int(depth_m * 1000) / 1000)
    return _warmed(tuple(readings), start_c, now_s, thin_m, wrap, cold, kind)


@lru_cache(maxsize=512)
def _warmed(
    readings: Series, start_c: float, now_s: float, depth_m: float, wrap: str, cold: Temperature, kind: StoreKind
) -> Warmed:
    begin_s = readings[0][0]
    points = [(at_s - begin_s, at_c) for at_s, at_c in readings]
    around, until_s = Surroundings(tuple(points)), positive(max(now_s - begin_s, 60.0), "now_s")
    place, dish = environment(kind), unknown_dish(1.0)
    piece = FrozenPiece(shape="slab", size_m=(depth_m / 2,), composition=dish.composition, covers=covers_of(wrap))
    food = piece.food if kind == "freezer" else dish.food
    low, high = (
        conduct(piece.body(h), food, t0_c=start_c, around=around, until_s=until_s) for h in (place.low_h, place.high_h)
    )
    surface = tuple(zip(high.times_s.tolist(), high.surface_c.tolist(), strict=True))
    above_s = sum(b - a for (a, x), (b, y) in pairwise(surface) if cold.passed_by(max(x, y)))
    return Warmed(
        low_c=float(low.centre_c.max()), high_c=float(high.surface_c.max()), above_s=float(above_s), by_size=True
    )


def depth_in(name: str, litres: float, count: int) -> float:
    """How deep [m] so much [l] stands in so many of a container."""
    return litres / 1000 / count / container(name).area_m2


@dataclass(frozen=True, slots=True, kw_only=True)
class PowerCut:
    """Until when [s] a store that stays shut is cold, by the rule, and where that stands."""

    cold_until_s: float
    section: str

    def warm_s(self, opens_s: float) -> float:
        """How long [s] it has not been cold for sure when it is opened."""
        return max(0.0, opens_s - self.cold_until_s)


def power_cut(kind: StoreKind, *, off_s: float, filled: Filled = "unknown", lid_shut: bool = True) -> PowerCut:
    """A cut since a moment [s]. A store of which nobody knows how full it is counts as half full; one that was opened
    is cold for no longer than it took."""
    finite(off_s, "off_s", low=-1e12, high=1e12)
    if kind not in ("fridge", "freezer"):
        raise CoreError("kind", "not_one_of", value=kind, allowed=("fridge", "freezer"))
    row = _power()
    hold_s = row["fridge_s"] if kind == "fridge" else row["freezer_full_s" if filled == "full" else "freezer_half_s"]
    return PowerCut(cold_until_s=off_s + (float(hold_s) if lid_shut else 0.0), section=str(row["section"]))

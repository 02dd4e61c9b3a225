"""Instruments that are not there: probes and loggers that measure what the thermal core computes,
with the faults of real ones. Seeded: the same seed gives the same faults and the same noise.
"""

from __future__ import annotations

import math
import random
from collections.abc import Iterator
from dataclasses import dataclass, field

from foodsafety.quantities import Series
from foodsafety.thermometers import MOST_ERROR_C

_FLAT_PERCENT = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ProbeFaults:
    """What is wrong with a probe: its lag (time constant) [s], noise [C], offset [C] when it was
    last checked, drift since [C per day], battery [%] when full and its use [% per hour]."""

    lag_s: float = 4.0
    noise_c: float = 0.2
    offset_c: float = 0.0
    drift_c_day: float = 0.0
    battery_percent: float = 100.0
    drain_percent_h: float = 0.5
    error_c: float = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Shown:
    """What a probe shows [C], None with a flat battery. ``settled``: its lag is over. ``calibrated``
    is what its last check says; a drift since then is not known to it."""

    celsius: float | None
    battery_percent: float
    settled: bool
    calibrated: bool
    error_c: float


def probe_shows(
    faults: ProbeFaults, true_c: float, *, in_food_s: float, before_c: float, age_s: float, draw: random.Random
) -> Shown:
    """What a probe shows ``in_food_s`` [s] after it was put from ``before_c`` into ``true_c``,
    ``age_s`` [s] after its battery was full and it was checked."""
    battery = max(0.0, faults.battery_percent - faults.drain_percent_h * age_s / 3600)
    behind = math.exp(-max(0.0, in_food_s) / faults.lag_s) if faults.lag_s > 0 else 0.0
    shown = true_c + (before_c - true_c) * behind
    shown += faults.offset_c + faults.drift_c_day * age_s / 86400 + draw.gauss(0, faults.noise_c)
    return Shown(
        celsius=round(shown, 1) if battery > _FLAT_PERCENT else None,
        battery_percent=round(battery, 1),
        settled=abs((before_c - true_c) * behind) < 0.3,
        calibrated=abs(faults.offset_c) <= MOST_ERROR_C,
        error_c=faults.error_c,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Opening:
    """A door that stands open from a time [s] for so long [s]."""

    at_s: float
    for_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ColdStore:
    """A fridge or freezer: what it is set to [C], how its air swings [C], its doors, when it
    defrosts [every so many s, for so many s] and when it fails [s; None: it does not]."""

    set_c: float
    room_c: float = 21.0
    swing_c: float = 0.6
    doors: tuple[Opening, ...] = ()
    defrost_every_s: float | None = None
    defrost_s: float = 1500.0
    fails_s: float | None = None
    mended_s: float | None = None
    noise_c: float = 0.1
    warms_s: float = 14 * 3600.0  # with the machine off and the door shut
    door_warms_s: float = 420.0
    cools_s: float = 900.0
    _step_s: float = field(default=15.0)


def store_air(store: ColdStore, *, until_s: float, every_s: float, seed: int = 1) -> Series:
    """The air of a store as its logger reads it [(s, C)]: a balance of machine, walls and door."""
    return tuple(_air(store, until_s, every_s, random.Random(seed)))  # noqa: S311 - a simulation


def _air(store: ColdStore, until_s: float, every_s: float, draw: random.Random) -> Iterator[tuple[float, float]]:
    air, wall = store.set_c, store.set_c  # what is stored and the walls hold the air back
    time_s, next_s = 0.0, 0.0
    step = store._step_s
    while time_s <= until_s:
        if time_s >= next_s:
            yield time_s, round(air + draw.gauss(0, store.noise_c), 1)
            next_s += every_s
        failed = store.fails_s is not None and time_s >= store.fails_s
        failed = failed and (store.mended_s is None or time_s < store.mended_s)
        open_now = any(row.at_s <= time_s < row.at_s + row.for_s for row in store.doors)
        every = store.defrost_every_s
        defrosting = every is not None and time_s >= every and time_s % every < store.defrost_s
        cycle = store.swing_c * math.sin(2 * math.pi * time_s / 1500)
        if failed or defrosting:
            towards, tau = store.room_c, store.warms_s if failed else store.warms_s / 6
        else:
            towards, tau = store.set_c + cycle, store.cools_s
        air += (towards - air) * (1 - math.exp(-step / tau))
        if open_now:
            air += (store.room_c - air) * (1 - math.exp(-step / store.door_warms_s))
        air += (wall - air) * (1 - math.exp(-step / 1200))
        wall += (air - wall) * (1 - math.exp(-step / 7200))
        time_s += step

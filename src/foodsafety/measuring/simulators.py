"""Instruments that are not there: probes and loggers that measure what the thermal core computes,
with the faults of real ones. Seeded: the same seed gives the same faults and the same noise.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass

import numpy as np

from foodsafety.heat import Body, ConstantProperties, temperature_left
from foodsafety.measuring.thermometers import most_error_c
from foodsafety.quantities import Series

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
class ProbeDisplay:
    """What a probe shows [C], None with a flat battery. ``settled``: its lag is over. ``calibrated``
    is what its last check says; a drift since then is not known to it."""

    celsius: float | None
    battery_percent: float
    settled: bool
    calibrated: bool
    error_c: float


def probe_shows(
    faults: ProbeFaults, true_c: float, *, in_food_s: float, before_c: float, age_s: float, draw: random.Random
) -> ProbeDisplay:
    """What a probe shows ``in_food_s`` [s] after it was put from ``before_c`` into ``true_c``,
    ``age_s`` [s] after its battery was full and it was checked."""
    battery = max(0.0, faults.battery_percent - faults.drain_percent_h * age_s / 3600)
    behind = math.exp(-max(0.0, in_food_s) / faults.lag_s) if faults.lag_s > 0 else 0.0
    shown = true_c + (before_c - true_c) * behind
    shown += faults.offset_c + faults.drift_c_day * age_s / 86400 + draw.gauss(0, faults.noise_c)
    return ProbeDisplay(
        celsius=round(shown, 1) if battery > _FLAT_PERCENT else None,
        battery_percent=round(battery, 1),
        settled=abs((before_c - true_c) * behind) < 0.3,
        calibrated=abs(faults.offset_c) <= most_error_c(),
        error_c=faults.error_c,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class DoorOpening:
    """A door that stands open from a time [s] for so long [s]."""

    at_s: float
    for_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SimulatedStore:
    """A fridge or freezer: what it is set to [C], how its air swings [C], its doors, when it
    defrosts [every so many s, for so many s] and when it fails [s; None: it does not]."""

    set_c: float
    room_c: float = 21.0
    swing_c: float = 0.6
    doors: tuple[DoorOpening, ...] = ()
    defrost_every_s: float | None = None
    defrost_s: float = 1500.0
    fails_s: float | None = None
    mended_s: float | None = None
    noise_c: float = 0.1
    warms_s: float = 14 * 3600.0  # with the machine off and the door shut
    door_warms_s: float = 420.0
    cools_s: float = 900.0


@dataclass(frozen=True, slots=True, kw_only=True)
class SimulatedStoreState:
    """Where a store's simulation stands: air and walls [C] at a time [s], and the next reading [s]."""

    time_s: float
    air_c: float
    wall_c: float
    next_s: float


def store_air(
    store: SimulatedStore, *, until_s: float, every_s: float, seed: int = 1, state: SimulatedStoreState | None = None
) -> tuple[Series, SimulatedStoreState]:
    """The air of a store as its logger reads it [(s, C)] up to a time, and where it stands then, so
    that it can be gone on with: a balance of machine, walls and door."""
    now = state or SimulatedStoreState(time_s=0.0, air_c=store.set_c, wall_c=store.set_c, next_s=0.0)
    air, wall, time_s, next_s = now.air_c, now.wall_c, now.time_s, now.next_s
    rows: list[tuple[float, float]] = []
    while time_s <= until_s:
        if time_s >= next_s:
            noise = random.Random(f"{seed}:{time_s:.0f}").gauss(0, store.noise_c)  # noqa: S311 - a simulation
            rows.append((time_s, round(air + noise, 1)))
            next_s += every_s
        air, wall = _one_step(store, time_s, air, wall)
        time_s += _STEP_S
    return tuple(rows), SimulatedStoreState(time_s=time_s, air_c=air, wall_c=wall, next_s=next_s)


_STEP_S = 15.0
_SWING_S, _AIR_TO_WALL_S, _WALL_TO_AIR_S = 1500.0, 1200.0, 7200.0


def _one_step(store: SimulatedStore, time_s: float, air: float, wall: float) -> tuple[float, float]:
    failed = store.fails_s is not None and time_s >= store.fails_s
    failed = failed and (store.mended_s is None or time_s < store.mended_s)
    every = store.defrost_every_s
    defrosting = every is not None and time_s >= every and time_s % every < store.defrost_s
    if failed or defrosting:
        towards, tau = store.room_c, store.warms_s if failed else store.warms_s / 6
    else:
        towards, tau = store.set_c + store.swing_c * math.sin(2 * math.pi * time_s / _SWING_S), store.cools_s
    air += (towards - air) * (1 - math.exp(-_STEP_S / tau))
    if any(row.at_s <= time_s < row.at_s + row.for_s for row in store.doors):
        air += (store.room_c - air) * (1 - math.exp(-_STEP_S / store.door_warms_s))
    # What is stored and the walls hold the air back, unless the machine is off: then they warm too.
    if not failed:
        air += (wall - air) * (1 - math.exp(-_STEP_S / _AIR_TO_WALL_S))
    wall += (air - wall) * (1 - math.exp(-_STEP_S / _WALL_TO_AIR_S))
    return air, wall


@dataclass(frozen=True, slots=True, kw_only=True)
class SimulatedCook:
    """A simulated piece on a griddle, heated by conduction from both sides: half its thickness [m],
    where it begins [C] and the steam-cooled surface it is heated from [C], with the coefficient
    there [W/(m2 K)]."""

    half_m: float
    start_c: float
    surface_c: float
    h: float = 250.0

    def core_c(self, on_heat_s: float) -> float:
        """Core temperature [C] after so many seconds on the heat."""
        body = Body(shape="slab", size_m=(self.half_m,), h=self.h)
        left = float(temperature_left(body, _PATTY, np.array([max(0.0, on_heat_s)]))[0])
        return self.surface_c + (self.start_c - self.surface_c) * left


_PATTY = ConstantProperties(k=0.45, rho=1050.0, cp=3500.0)

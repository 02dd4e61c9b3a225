"""How long a group takes to wash its hands at the basins there are."""

from __future__ import annotations

import math
import tomllib
from dataclasses import dataclass
from functools import cache

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, finite


@dataclass(frozen=True, slots=True, kw_only=True)
class BasinQueue:
    """Everyone's hands at the basins: from when until when [s] each wave washes, and the whole.
    ``long_enough``: the scrubbing is no shorter than every profile asks."""

    waves: int
    wave_s: float
    total_s: float
    last_waits_s: float
    long_enough: bool


@cache
def _hands() -> dict[str, float]:
    return dict(tomllib.loads(data_text("hygiene.toml"))["hands"])


def basin_queue(*, people: int, basins: int, scrub_s: float, around_s: float | None = None) -> BasinQueue:
    """How long a group takes to wash: wet, soap, scrub, rinse and dry, ``around_s`` [s] around the
    scrubbing (the usual time where it is not said), in waves of as many as there are basins."""
    around_s = _hands()["around_s"] if around_s is None else around_s
    for name, value, most in (("people", people, 500), ("basins", basins, 50)):
        if not 1 <= value <= most:
            raise CoreError(name, "outside", value=value, low=1, high=most)
    finite(scrub_s, "scrub_s", low=5, high=120)
    finite(around_s, "around_s", low=5, high=300)
    waves = math.ceil(people / basins)
    wave_s = scrub_s + around_s
    return BasinQueue(
        waves=waves,
        wave_s=wave_s,
        total_s=waves * wave_s,
        last_waits_s=(waves - 1) * wave_s,
        long_enough=scrub_s >= _hands()["least_scrub_s"],
    )

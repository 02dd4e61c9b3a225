"""A probe thermometer that is not there: it reads food warmed by the core's own model."""

import random
from typing import Any

from bulwark.lessons import selectors as lessons
from foodsafety.rehearse import Piece

# How long the koftas had been on when the bench said that the griddle step was done.
ON_BEFORE_DONE_S = 420.0
NOISE_C = 0.2


def simulated_reading(bench: Any, food: str, piece: str) -> dict[str, Any] | None:
    """One reading in the device protocol, or None where the food has not been on the heat.

    Each piece warms at its own rate, the same each time it is asked; the noise is not.
    """
    state, _ = lessons.bench_state(bench)
    heat = state.plan.heat_for(food)
    if heat is None or heat not in state.done:
        return None
    own = random.Random(f"{bench.pk}:{food}:{piece}")  # noqa: S311 - a simulation, nothing secret
    model = Piece(start_c=own.uniform(7, 11), surroundings_c=own.uniform(92, 97), lag_s=own.uniform(280, 360))
    now = lessons.lesson_now(bench.lesson)
    on_heat_s = max(0.0, now.timestamp() - state.done[heat] + ON_BEFORE_DONE_S)
    core_c = model.core_c(on_heat_s) + random.gauss(0, NOISE_C)
    return {
        "device": f"probe-{bench.pk}",
        "channel": 1,
        "celsius": round(core_c, 1),
        "error_c": 0.5,
        "battery_percent": 83,
        "calibrated": True,
        "at": now.isoformat(),
    }

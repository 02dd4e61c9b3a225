"""Rows of instruments to the core's own, and back."""

from typing import Any

from bulwark.devices.models import Instrument
from foodsafety.measuring import DoorOpening, ProbeFaults, SimulatedStore, SimulatedStoreState


def to_store(instrument: Instrument) -> SimulatedStore:
    """The store a logger sits in, with its faults; times count from the start of its own clock."""
    data: dict[str, Any] = instrument.settings
    freezer = instrument.kind == "freezer"
    return SimulatedStore(
        set_c=float(data.get("set_c", -19.0 if freezer else 3.4)),
        swing_c=float(data.get("swing_c", 0.8)),
        doors=tuple(DoorOpening(at_s=row[0], for_s=row[1]) for row in data.get("doors", [])),
        defrost_every_s=data.get("defrost_every_s", 8 * 3600.0 if freezer else None),
        fails_s=data.get("fails_s"),
        mended_s=data.get("mended_s"),
        warms_s=30 * 3600.0 if freezer else 7 * 3600.0,
    )


def to_state(instrument: Instrument) -> SimulatedStoreState | None:
    """Where its simulation stands."""
    data = instrument.settings.get("state")
    return SimulatedStoreState(**data) if data else None


def from_state(state: SimulatedStoreState) -> dict[str, float]:
    """The same for the row."""
    return {"time_s": state.time_s, "air_c": state.air_c, "wall_c": state.wall_c, "next_s": state.next_s}


def to_faults(instrument: Instrument | None) -> ProbeFaults:
    """What is wrong with a probe; a probe nobody has listed is a good one."""
    data: dict[str, Any] = instrument.settings if instrument else {}
    names = ("lag_s", "noise_c", "offset_c", "drift_c_day", "battery_percent", "drain_percent_h", "error_c")
    return ProbeFaults(**{name: float(data[name]) for name in names if name in data})

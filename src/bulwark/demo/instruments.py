"""The hostel's instruments: three stores, one of them opened too often, four probes, one bad, and a printer."""

import datetime as dt
from typing import Any

from django.utils import timezone

from bulwark.devices import selectors, services

STORES = (
    ("fridge", "Larder fridge", {"set_c": 3.0}),
    ("fridge", "Bench fridge", {"set_c": 3.2, "doors": [[72_000.0, 600.0], [79_200.0, 900.0]]}),
    ("freezer", "Tide-house freezer", {"set_c": -19.5}),
)
PROBES: tuple[tuple[str, dict[str, float]], ...] = (
    ("Probe A", {}),
    ("Probe B", {"noise_c": 0.15}),
    ("Probe C", {"lag_s": 6.0}),
    ("Probe D", {"offset_c": 1.8, "battery_percent": 14.0, "drain_percent_h": 2.0}),
)


def load(educator: Any) -> None:
    """Gives the demo organisation its instruments, with a day of readings behind them."""
    organisation_id = educator.organisation_id
    began = timezone.now() - dt.timedelta(hours=24)
    for kind, name, settings in STORES:
        row, _key = services.add_instrument(
            organisation_id=organisation_id, kind=kind, name=name, simulated=True, settings=settings, began=began
        )
        services.catch_up(row)
    for name, settings in PROBES:
        services.add_instrument(
            organisation_id=organisation_id, kind="probe", name=name, simulated=True, settings=settings
        )
    services.add_instrument(organisation_id=organisation_id, kind="printer", name="Pantry printer", simulated=True)


def wanted(educator: Any) -> bool:
    """True where the demo has no instruments yet."""
    return not selectors.any_of(educator.organisation_id)

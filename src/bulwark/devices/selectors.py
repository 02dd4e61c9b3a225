"""Instruments and what they read: probes at the benches, loggers in the cold stores."""

import datetime as dt
import random
from collections.abc import Iterable
from typing import Any

from django.db.models import Min, QuerySet
from django.utils import timezone

from bulwark.devices import adapters
from bulwark.devices.models import Instrument, InstrumentCheck, StoreReading
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench
from bulwark.people.actors import Actor
from foodsafety.measuring import ProbeDisplay, SimulatedCook, probe_shows, store_air
from foodsafety.quantities import Series

# How long the koftas had been on when the bench said that the griddle step was done.
ON_BEFORE_DONE_S = 420.0
CHANNELS = 4
# How often a simulated logger reads, and how far a store nobody has kept for long goes on: a week of it is enough.
EVERY_S = 300.0
_MOST_CATCH_UP_S = 7 * 86400.0
_ROOM_C = 20.0


def instruments_for(actor: Actor) -> QuerySet[Instrument]:
    """The instruments of an educator's own organisation."""
    if actor.kind != "educator":
        return Instrument.objects.none()
    return Instrument.objects.filter(organisation_id=actor.organisation)


def stores_for(actor: Actor) -> QuerySet[Instrument]:
    """Its fridges and freezers."""
    return instruments_for(actor).filter(kind__in=Instrument.STORES)


def store_names(organisation_id: int, kind: str = "") -> list[str]:
    """The stores of an organisation that have a logger, by name."""
    rows = Instrument.objects.filter(organisation_id=organisation_id, kind__in=[kind] if kind else Instrument.STORES)
    return sorted(set(rows.values_list("name", flat=True)))


def store_named(actor: Actor, kind: str, name: str) -> Instrument | None:
    """The logger of a store by its name, where it has one."""
    return stores_for(actor).filter(kind=kind, name__iexact=name).first() if name else None


def checks_before(organisation_id: int, day: dt.date) -> list[tuple[Instrument, InstrumentCheck | None]]:
    """The probes of an organisation, each with its last check on a day or before it; None where there was none."""
    rows = Instrument.objects.filter(organisation_id=organisation_id, kind="probe").prefetch_related("checks")
    return [(row, next((each for each in reversed(row.checks.all()) if each.on <= day), None)) for row in rows]


def printers_for(actor: Actor) -> list[Instrument]:
    """Its printers of labels."""
    return list(instruments_for(actor).filter(kind="printer"))


def with_serial(serial: str) -> Instrument | None:
    """A real instrument by the serial number it sends."""
    return Instrument.objects.filter(serial=serial, simulated=False).first()


def own_time(instrument: Instrument, now: dt.datetime | None = None) -> dt.datetime:
    """The time by the instrument's own clock: a simulated one may run fast."""
    moment = now or timezone.now()
    return instrument.clock_at + (moment - instrument.set_at) * instrument.pace


def ran_on(instrument: Instrument) -> list[tuple[dt.datetime, float]]:
    """Lets a simulated store run to its own present: what its logger has read since it was last kept. The instrument
    in hand is changed and nothing is written, so a look at it may be repeated; a real one has nothing to run."""
    if not instrument.simulated or instrument.kind not in Instrument.STORES:
        return []
    now = own_time(instrument)
    began = dt.datetime.fromisoformat(instrument.settings.get("began") or instrument.clock_at.isoformat())
    until_s = (now - began).total_seconds()
    state = adapters.to_state(instrument)
    if state is not None and until_s - state.time_s > _MOST_CATCH_UP_S:
        until_s = state.time_s + _MOST_CATCH_UP_S
        instrument.clock_at, instrument.set_at = began + dt.timedelta(seconds=until_s), timezone.now()
    rows, end = store_air(
        adapters.to_store(instrument), until_s=until_s, every_s=EVERY_S, seed=instrument.pk, state=state
    )
    instrument.settings |= {"began": began.isoformat(), "state": adapters.from_state(end)}
    return [(began + dt.timedelta(seconds=at_s), c) for at_s, c in rows]


def first_reading(instrument: Instrument) -> dt.datetime | None:
    """Since when a store has been read; None where nothing of it is kept."""
    first: dt.datetime | None = StoreReading.objects.filter(instrument=instrument, channel=1).aggregate(at=Min("at"))[
        "at"
    ]
    return first


def readings_since(
    instrument: Instrument, since: dt.datetime, fresh: Iterable[tuple[dt.datetime, float]] = ()
) -> list[tuple[dt.datetime, float]]:
    """What a store has read since a moment, in order; ``fresh`` is what is not kept yet."""
    rows = StoreReading.objects.filter(instrument=instrument, channel=1, at__gte=since).order_by("at")
    kept = dict(rows.values_list("at", "celsius"))
    return sorted({**{at: c for at, c in fresh if at >= since}, **kept}.items())


def as_series(rows: list[tuple[dt.datetime, float]], start: dt.datetime) -> Series:
    """Readings as the core has them: seconds after a moment."""
    return tuple(((at - start).total_seconds(), celsius) for at, celsius in rows)


def probe_of(bench: Bench) -> Instrument | None:
    """The probe that lies at a bench: the organisation's probes, shared out in order."""
    probes = list(Instrument.objects.filter(organisation_id=bench.lesson.organisation_id, kind="probe"))
    return probes[bench.position % len(probes)] if probes else None


def _piece(bench: Bench, food: str, piece: str) -> SimulatedCook:
    own = random.Random(f"{bench.pk}:{food}:{piece}")  # noqa: S311 - a simulation, nothing secret
    return SimulatedCook(half_m=own.uniform(0.0085, 0.0095), start_c=own.uniform(7, 11), surface_c=own.uniform(92, 97))


def simulated_reading(bench: Bench, food: str, piece: str, *, in_food_s: float) -> dict[str, Any] | None:
    """One reading in the device protocol, or None where the food has not been on the heat. The
    piece is warmed by conduction, each at its own rate, the same each time it is asked; the probe
    lags, drifts, has noise and a battery."""
    state, _ = lessons.bench_state(bench)
    heated_s = state.food(food).heated_s
    if heated_s is None:
        return None
    now = lessons.lesson_now(bench.lesson)
    on_heat_s = max(0.0, now.timestamp() - heated_s + ON_BEFORE_DONE_S)
    probe = probe_of(bench)
    shown = probe_shows(
        adapters.to_faults(probe),
        _piece(bench, food, piece).core_c(on_heat_s),
        in_food_s=in_food_s,
        before_c=_ROOM_C,
        age_s=max(0.0, (now - (bench.lesson.opened_at or now)).total_seconds()),
        draw=random.Random(),  # noqa: S311 - noise
    )
    return _as_protocol(shown, bench, probe, piece, now)


def _as_protocol(
    shown: ProbeDisplay, bench: Bench, probe: Instrument | None, piece: str, now: dt.datetime
) -> dict[str, Any]:
    """What a probe shows as the device protocol writes it: each piece has a channel of its own."""
    number = int(piece) if piece.isdecimal() else 1
    return {
        "device": f"probe-{probe.serial}" if probe else f"probe-{bench.pk}",
        "name": probe.name if probe else "",
        "channel": (number - 1) % CHANNELS + 1,
        "celsius": shown.celsius,
        "error_c": shown.error_c,
        "battery_percent": shown.battery_percent,
        "calibrated": shown.calibrated,
        "settled": shown.settled,
        "at": now.isoformat(),
    }


def any_of(organisation_id: int) -> bool:
    """True if an organisation has instruments."""
    return Instrument.objects.filter(organisation_id=organisation_id).exists()

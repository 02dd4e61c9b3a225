"""Changes to instruments, and readings taken in."""

import datetime as dt
import hashlib
import secrets
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any

from django.db import transaction
from django.utils import timezone

from bulwark.devices import selectors
from bulwark.devices.models import Instrument, InstrumentCheck, StoreReading
from bulwark.people.actors import Actor
from foodsafety.measuring import check_thermometer
from foodsafety.quantities import CoreError, finite

PACES = (1, 30, 300)
# How far a logger's clock may run ahead of ours before its readings are refused.
MOST_AHEAD = dt.timedelta(minutes=10)
MOST_AT_ONCE = 5000
MOST_INSTRUMENTS = 60


def add_instrument(
    *,
    organisation_id: int,
    kind: str,
    name: str,
    simulated: bool,
    settings: Mapping[str, Any] | None = None,
    began: dt.datetime | None = None,
) -> tuple[Instrument, str]:
    """A new instrument; for a real one also the key it posts with, told this once."""
    _check_instrument(organisation_id, kind, name)
    key = "" if simulated else secrets.token_urlsafe(24)
    now = timezone.now()
    row = Instrument.objects.create(
        organisation_id=organisation_id,
        kind=kind,
        name=name.strip()[:60],
        simulated=simulated,
        settings={**(settings or {}), **({"began": began.isoformat()} if simulated and began else {})},
        clock_at=now,
        set_at=now,
        key_hash=_hash(key) if key else "",
    )
    return row, key


def _check_instrument(organisation_id: int, kind: str, name: str) -> None:
    if kind not in dict(Instrument.KINDS):
        raise CoreError("kind", "not_an_instrument", kind=kind)
    if not name.strip():
        raise CoreError("name", "instrument_unnamed")
    if Instrument.objects.filter(organisation_id=organisation_id).count() >= MOST_INSTRUMENTS:
        raise CoreError("name", "too_many_instruments", most=MOST_INSTRUMENTS)


def _hash(key: str) -> str:
    return hashlib.sha256(key.encode()).hexdigest()


@transaction.atomic
def catch_up(instrument: Instrument) -> None:
    """Lets a simulated store run to its own present, and keeps what its logger read."""
    if not instrument.simulated or instrument.kind not in Instrument.STORES:
        return
    row = Instrument.objects.select_for_update().get(pk=instrument.pk)
    rows = selectors.ran_on(row)
    row.save(update_fields=["settings", "clock_at", "set_at"])
    _keep(row, [(1, at, c) for at, c in rows])


def keep_stores() -> int:
    """Keeps what every simulated store has read up to now; how many there are."""
    stores = list(Instrument.objects.filter(simulated=True, kind__in=Instrument.STORES))
    for row in stores:
        catch_up(row)
    return len(stores)


def _keep(instrument: Instrument, rows: Iterable[tuple[int, dt.datetime, float]]) -> int:
    """Keeps readings; those it has already change nothing. How many were brought."""
    made = [StoreReading(instrument=instrument, channel=n, at=at, celsius=c) for n, at, c in rows]
    StoreReading.objects.bulk_create(made, ignore_conflicts=True, batch_size=2000)
    return len(made)


@transaction.atomic
def disturb(*, instrument: Instrument, what: str) -> None:
    """A fault of a simulated store, from now on its own clock: its door left open for twenty minutes,
    its machine off, or mended."""
    catch_up(instrument)
    row = Instrument.objects.select_for_update().get(pk=instrument.pk)
    if not row.simulated or row.kind not in Instrument.STORES:
        raise CoreError("instrument", "only_simulated")
    now_s = row.settings["state"]["time_s"]
    if what == "door":
        row.settings["doors"] = [*row.settings.get("doors", [])[-20:], [now_s, 1200.0]]
    elif what == "fail":
        row.settings |= {"fails_s": now_s, "mended_s": None}
    elif what == "mend":
        row.settings |= {"mended_s": now_s}
    else:
        raise CoreError("what", "not_a_fault", what=what)
    row.save(update_fields=["settings"])


@transaction.atomic
def set_pace(*, instrument: Instrument, pace: int) -> None:
    """Lets a simulated instrument's clock run faster, from where it stands."""
    if pace not in PACES or not instrument.simulated:
        raise CoreError("pace", "not_one_of", value=pace, allowed=tuple(map(str, PACES)))
    catch_up(instrument)
    row = Instrument.objects.select_for_update().get(pk=instrument.pk)
    now = timezone.now()
    row.clock_at, row.set_at, row.pace = selectors.own_time(row, now), now, pace
    row.save(update_fields=["clock_at", "set_at", "pace"])


def with_key(serial: str, key: str, *, kind: str = "") -> Instrument:
    """A real instrument by the serial and key it sends. Raises PermissionError where they do not belong together."""
    found = selectors.with_serial(serial)
    if found is None or not secrets.compare_digest(found.key_hash, _hash(key)) or (kind and found.kind != kind):
        raise PermissionError(serial)
    return found


def take_in(*, serial: str, key: str, readings: Sequence[Any]) -> int:
    """Readings a real logger posts: [{"channel", "celsius", "at"}]. Raises CoreError naming what is
    wrong, PermissionError for a serial and key that do not belong together."""
    instrument = with_key(serial, key)
    if instrument.kind == "printer":
        raise PermissionError(serial)
    if len(readings) > MOST_AT_ONCE:
        raise CoreError("readings", "too_many", count=len(readings), most=MOST_AT_ONCE)
    rows = [_posted(row, f"readings[{i}]") for i, row in enumerate(readings)]
    return _keep(instrument, rows)


def _posted(row: Any, field: str) -> tuple[int, dt.datetime, float]:
    if not isinstance(row, Mapping):
        raise CoreError(field, "not_a_device_reading")
    channel = finite(row.get("channel", 1), f"{field}.channel", low=1, high=64)
    celsius = finite(row.get("celsius"), f"{field}.celsius", low=-90, high=120)
    try:
        at = dt.datetime.fromisoformat(str(row.get("at")))
    except ValueError:
        raise CoreError(f"{field}.at", "zoned_time_needed") from None
    if at.tzinfo is None:
        raise CoreError(f"{field}.at", "zone_missing")
    if at > timezone.now() + MOST_AHEAD:
        raise CoreError(f"{field}.at", "in_the_future")
    return int(channel), at, celsius


def bring_log(*, instrument: Instrument, rows: Sequence[tuple[dt.datetime, float]], kept: Callable[[int], None]) -> int:
    """A log brought as a file into a store's own readings; how many rows it had. ``kept`` is called with how many
    are kept so far, and may stop it by raising: those stay, and count once when the file is brought again."""
    for start in range(0, len(rows), MOST_AT_ONCE):
        _keep(instrument, [(1, at, c) for at, c in rows[start : start + MOST_AT_ONCE]])
        kept(min(start + MOST_AT_ONCE, len(rows)))
    return len(rows)


# Labels on a roll, and what a simulated printer is given to begin with.
ROLL = 50


def paper_left(printer: Instrument) -> int | None:
    """Labels left on a printer's roll; None for a real one that has not said so yet."""
    left = printer.settings.get("paper", ROLL if printer.simulated else None)
    return None if left is None else int(left)


def set_paper(*, printer: Instrument, left: int) -> None:
    """What a real printer says is left on its roll."""
    printer.settings["paper"] = left
    printer.save(update_fields=["settings"])


@transaction.atomic
def use_paper(*, printer: Instrument, count: int) -> None:
    """So many labels off the roll. Raises CoreError where there are not so many: then none is printed."""
    row = Instrument.objects.select_for_update().get(pk=printer.pk)
    left = paper_left(row)
    if left is None:
        return
    if left < count:
        raise CoreError("copies", "printer_out_of_paper", left=left, wanted=count)
    row.settings["paper"] = left - count
    row.save(update_fields=["settings"])


@transaction.atomic
def new_roll(*, printer: Instrument) -> None:
    """A new roll in a simulated printer."""
    row = Instrument.objects.select_for_update().get(pk=printer.pk)
    row.settings["paper"] = ROLL
    row.save(update_fields=["settings"])


def check(
    *, instrument: Instrument, by: Actor, ice_shows_c: float | None, boil_shows_c: float | None, altitude_m: int | None
) -> InstrumentCheck:
    """What a thermometer showed in ice slush and in boiling water today, and what that says of it. Raises CoreError
    where nothing was measured, or nothing that a thermometer shows there."""
    if ice_shows_c is None and boil_shows_c is None:
        raise CoreError("ice", "nothing_measured")
    found = check_thermometer(ice_shows_c=ice_shows_c, boil_shows_c=boil_shows_c, altitude_m=altitude_m)
    return InstrumentCheck.objects.create(
        instrument=instrument,
        on=timezone.localdate(),
        ice_shows_c=ice_shows_c,
        boil_shows_c=boil_shows_c,
        altitude_m=altitude_m,
        standing=found.standing,
        by=by.label[:40],
    )


def add_for(*, by: Actor, kind: str, name: str, simulated: bool) -> tuple[Instrument, str]:
    """An instrument for the asker's own organisation."""
    if by.organisation_id is None:
        raise CoreError("kind", "not_signed_in")
    return add_instrument(organisation_id=by.organisation_id, kind=kind, name=name, simulated=simulated)

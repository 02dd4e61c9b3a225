"""Files of loggers, taken in beside the server."""

import datetime as dt
from collections.abc import Iterable
from uuid import UUID

from django.urls import reverse
from django.utils import timezone
from django.utils.translation import ngettext
from django_tasks import task

from bulwark.devices import services
from bulwark.devices.models import Instrument
from bulwark.jobs import services as jobs
from bulwark.jobs.models import Job
from bulwark.people.actors import Actor
from foodsafety.measuring import read_log_csv
from foodsafety.quantities import CoreError, c_from_f


def ask_bring(*, by: Actor, instrument: Instrument, title: str, log: bytes) -> UUID:
    """Asks for a logger's CSV to be brought into a store's own readings; the job's id."""
    return jobs.ask(
        by=by, title=title, back=reverse("cold"), task=bring, taken=log, about={"instrument": instrument.pk}
    )


@task
def bring(job_id: str) -> None:
    """Reads a log, then keeps its readings."""
    jobs.work(job_id, _bring)


def _bring(job: Job, progress: jobs.Progress) -> None:
    store = Instrument.objects.filter(pk=job.about["instrument"]).first()
    if store is None:
        raise CoreError("log", "instrument_gone")
    rows, left_out = _dated_readings(bytes(job.taken).splitlines(), progress)

    def kept(count: int) -> None:
        job.says = _what_came(count, left_out)
        progress(len(rows) + left_out)

    kept(0)
    services.bring_log(instrument=store, rows=rows, kept=kept)


def _what_came(count: int, left_out: int) -> str:
    """What was kept and what was not, so that nothing is dropped in silence."""
    kept = ngettext(
        "%(n)d reading is kept; one that was there already counts once.",
        "%(n)d readings are kept; those that were there already count once.",
        count,
    ) % {"n": count}
    if not left_out:
        return kept
    lost = ngettext(
        "%(n)d line without a time or a temperature that can be read was left out.",
        "%(n)d lines without a time or a temperature that can be read were left out.",
        left_out,
    ) % {"n": left_out}
    return f"{kept} {lost}"


def _dated_readings(lines: Iterable[bytes], progress: jobs.Progress) -> tuple[list[tuple[dt.datetime, float]], int]:
    """The readings of a logger's CSV [°C], and how many lines have none. Raises CoreError where it cannot be
    read or has no dates."""
    sheet = read_log_csv((line.decode("utf-8", "replace") for line in lines), progress)
    if sheet.first is None:
        raise CoreError("log.time", "dates_needed")
    first = sheet.first if sheet.first.tzinfo else timezone.make_aware(sheet.first)
    rows = [
        (first + dt.timedelta(seconds=at_s), c_from_f(value) if sheet.unit == "F" else value)
        for at_s, value in sheet.rows
        if at_s is not None and value is not None
    ]
    return rows, len(sheet.rows) - len(rows)

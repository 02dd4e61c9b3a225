"""For how long names are kept, and what would go."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from django.utils import timezone

from bulwark.kitchens.selectors import decided_by
from bulwark.lessons import files
from bulwark.people.actors import Actor
from bulwark.records.models import BroughtRecord
from bulwark.records.models import Retention as Chosen
from foodsafety.rules import Retention, usual_retention

FEWEST_MONTHS, MOST_MONTHS = 1, 240


# What holds names, each kept for a time of its own.
KINDS = ("lessons", "answers", "hurts", "certificates", "brought")


def usual_of(organisation_id: int) -> Retention:
    """What the organisation's rule profile has where nobody has chosen, and where that comes from."""
    return usual_retention(decided_by(organisation_id).profile)


def kept_by(organisation_id: int) -> dict[str, int]:
    """For how many months an organisation keeps names, by kind of record."""
    chosen = Chosen.objects.filter(organisation_id=organisation_id).first()
    return {**usual_of(organisation_id).months, **(chosen.months_by_kind if chosen else {})}


def before(months: int) -> dt.date:
    """The day so many months ago: what is older may go. A month of 30 days would let something go too soon."""
    return timezone.localdate() - dt.timedelta(days=31 * months)


def choose(by: Actor, months: Mapping[str, int]) -> None:
    """An organisation's choice."""
    Chosen.objects.update_or_create(organisation_id=by.organisation, defaults={"months_by_kind": dict(months)})


def old_brought(organisation_id: int, day: dt.date) -> list[BroughtRecord]:
    """The records from elsewhere of lessons held before a day that still hold names. They go whole: a file is proven in
    the words it came with. One whose names were taken out where it was made stays."""
    rows = BroughtRecord.objects.filter(organisation_id=organisation_id, held_at__date__lt=day)
    return [row for row in rows if not any(bench.purged for bench in files.file_of(bytes(row.data)).benches)]

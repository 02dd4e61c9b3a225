"""For how long names are kept, and what would go."""

from __future__ import annotations

import datetime as dt

from django.utils import timezone

from bulwark.people.actors import Actor
from bulwark.records.models import Retention

# Where nobody has chosen: two years, which is ours and no law's. Ask what your own place asks for.
USUAL_MONTHS, FEWEST_MONTHS, MOST_MONTHS = 24, 1, 240


def months_of(organisation_id: int) -> int:
    """So many months an organisation keeps names."""
    found = Retention.objects.filter(organisation_id=organisation_id).first()
    return found.months if found else USUAL_MONTHS


def before(months: int) -> dt.date:
    """The day so many months ago: what is older may go. A month of 30 days would let something go too soon."""
    return timezone.localdate() - dt.timedelta(days=31 * months)


def set_months(by: Actor, months: int) -> None:
    """An organisation's choice."""
    Retention.objects.update_or_create(organisation_id=by.organisation, defaults={"months": months})

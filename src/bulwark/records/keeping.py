"""For how long names are kept, and what would go."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from django.utils import timezone

from bulwark.people.actors import Actor
from bulwark.records.models import Retention

# Where nobody has chosen: two years in the records of lessons, one for whose answers were whose. That is ours and no
# law's: ask what your own place asks for.
USUAL_MONTHS, USUAL_ANSWERS_MONTHS = 24, 12
FEWEST_MONTHS, MOST_MONTHS = 1, 240


@dataclass(frozen=True, slots=True)
class Kept:
    """So many months each kind of record keeps names."""

    lessons: int
    answers: int


def kept_by(organisation_id: int) -> Kept:
    """For how long an organisation keeps names."""
    found = Retention.objects.filter(organisation_id=organisation_id).first()
    return Kept(found.months, found.answers_months) if found else Kept(USUAL_MONTHS, USUAL_ANSWERS_MONTHS)


def before(months: int) -> dt.date:
    """The day so many months ago: what is older may go. A month of 30 days would let something go too soon."""
    return timezone.localdate() - dt.timedelta(days=31 * months)


def choose(by: Actor, kept: Kept) -> None:
    """An organisation's choice."""
    values = {"months": kept.lessons, "answers_months": kept.answers}
    Retention.objects.update_or_create(organisation_id=by.organisation, defaults=values)

"""For how long names are kept, and what would go."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from django.utils import timezone

from bulwark.kitchens.selectors import decided_by
from bulwark.people.actors import Actor
from bulwark.records.models import Retention as Chosen
from foodsafety.rules import Retention, usual_retention

FEWEST_MONTHS, MOST_MONTHS = 1, 240


@dataclass(frozen=True, slots=True)
class Kept:
    """So many months each kind of record keeps names."""

    lessons: int
    answers: int

    @classmethod
    def usual(cls, organisation_id: int) -> Kept:
        """What holds by the organisation's rule profile."""
        usual = usual_of(organisation_id)
        return cls(usual.lessons_months, usual.answers_months)


def usual_of(organisation_id: int) -> Retention:
    """What the organisation's rule profile has where nobody has chosen, and where that comes from."""
    return usual_retention(decided_by(organisation_id).profile)


def kept_by(organisation_id: int) -> Kept:
    """For how long an organisation keeps names."""
    found = Chosen.objects.filter(organisation_id=organisation_id).first()
    return Kept(found.months, found.answers_months) if found else Kept.usual(organisation_id)


def before(months: int) -> dt.date:
    """The day so many months ago: what is older may go. A month of 30 days would let something go too soon."""
    return timezone.localdate() - dt.timedelta(days=31 * months)


def choose(by: Actor, kept: Kept) -> None:
    """An organisation's choice."""
    values = {"months": kept.lessons, "answers_months": kept.answers}
    Chosen.objects.update_or_create(organisation_id=by.organisation, defaults=values)

"""What the logs of a group say of one learner."""

from __future__ import annotations

from typing import Any

from bulwark.lessons.models import Event, Hurt
from foodsafety.lesson import TAKES_BACK, people_in


def told_of(group: Any, initials: str) -> list[Event]:
    """What the logs of a group's lessons say that one learner did and was seen to do, the latest last; rehearsals and
    what was taken back left out."""
    rows = Event.objects.filter(bench__lesson__group=group, bench__lesson__rehearsal=False)
    backs = rows.filter(kind__in=TAKES_BACK).values_list("data__event", flat=True)
    not_counted = {str(name) for name in backs}
    mine = rows.filter(kind__in=("watched", "hands_washed"), data__learner=initials).select_related("bench__lesson")
    return [row for row in mine.order_by("happened_at") if str(row.uuid) not in not_counted]


def entries_naming(group: Any, initials: str) -> list[Event]:
    """Every entry of a group's lessons that names one learner, in order."""
    rows = Event.objects.filter(bench__lesson__group=group).select_related("bench__lesson").order_by("happened_at")
    return [row for row in rows if initials in people_in(row.data)]


def hurts_naming(group: Any, initials: str) -> list[Hurt]:
    """When one learner of a group was hurt, in order."""
    return list(Hurt.objects.filter(bench__lesson__group=group, who=initials).select_related("bench__lesson"))

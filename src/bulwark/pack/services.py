"""Changes to what an organisation says, and what was written on paper."""

import datetime as dt
import uuid
from collections.abc import Iterable, Mapping
from typing import Any

from django.db import transaction

from bulwark.lessons.selectors import Bench
from bulwark.lessons.services import record_event
from bulwark.pack.models import TalkingPoints
from bulwark.people.actors import Actor


def keep_talking(*, by: Actor, lines: str) -> None:
    """Keeps an organisation's talking points; with none, ours come back."""
    if lines.strip():
        TalkingPoints.objects.update_or_create(organisation_id=by.organisation, defaults={"lines": lines})
    else:
        TalkingPoints.objects.filter(organisation_id=by.organisation).delete()


@transaction.atomic
def type_in_card(
    *, bench: Bench, by: Actor, card: uuid.UUID, entries: Iterable[tuple[str, Mapping[str, Any], dt.datetime]]
) -> int:
    """All of a card at once, each entry when it happened; how many are new: a card sent twice is one card. Raises
    CoreError or LessonError, and then the log has none of it."""
    sent = (
        record_event(bench=bench, by=by, kind=kind, data=data, event_id=uuid.uuid5(card, str(n)), at=at)
        for n, (kind, data, at) in enumerate(entries)
    )
    return sum(not row.again for row in sent)

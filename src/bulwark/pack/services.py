"""Changes to what an organisation says."""

from bulwark.pack.models import TalkingPoints
from bulwark.people.actors import Actor


def keep_talking(*, by: Actor, lines: str) -> None:
    """Keeps an organisation's talking points; with none, ours come back."""
    if lines.strip():
        TalkingPoints.objects.update_or_create(organisation_id=by.organisation, defaults={"lines": lines})
    else:
        TalkingPoints.objects.filter(organisation_id=by.organisation).delete()

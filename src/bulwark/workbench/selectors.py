"""What of the workbench somebody may see."""

from collections.abc import Callable

from django.db.models import QuerySet

from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import Actor
from bulwark.workbench.models import Sheet
from foodsafety.cooling import containers
from foodsafety.rules import Profile, rule_profile


def sheets_of(actor: Actor, lesson_id: int) -> QuerySet[Sheet]:
    """The sheets attached to a lesson of one's own organisation."""
    return Sheet.objects.filter(lesson__in=lessons.lessons_for(actor), lesson_id=lesson_id)


def rules_of(actor: Actor) -> Callable[[str], Profile]:
    """Rule profiles as this actor's kitchen uses them; as they were shipped for who has none."""
    organisation_id = actor.organisation_id
    if organisation_id is None:
        return rule_profile
    return lambda code: kitchens.rules_for(organisation_id, code)


def containers_of(actor: Actor) -> dict[str, int] | None:
    """How many of each container the kitchen has counted; None where it has counted none."""
    if actor.organisation_id is None:
        return None
    counted = kitchens.kitchen_of(actor.organisation_id).equipment
    found = {name: int(counted[name]) for name in containers() if name in counted}
    return found or None


def usual_code(actor: Actor) -> str | None:
    """The profile this actor's kitchen goes by."""
    return kitchens.decided_by(actor.organisation_id).profile if actor.organisation_id else None

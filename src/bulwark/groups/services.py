"""Changes to groups."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from django.db import IntegrityError, transaction
from django.utils import timezone

from bulwark.groups.models import Group, Member
from bulwark.groups.rosters import Role, Roster
from bulwark.people.actors import Actor
from foodsafety.quantities import CoreError
from foodsafety.review import eater_groups

MOST_LEARNERS = 300


@transaction.atomic
def keep_group(
    *,
    by: Actor,
    group: Group | None,
    name: str,
    roster: Roster,
    roles: Sequence[Role] = (),
    rules: str = "",
    eaters: Mapping[str, int] | None = None,
) -> Group:
    """Keeps a group as it was read. Raises CoreError for nobody, too many, or a name that is taken."""
    learners = roster.learners
    if not learners:
        raise CoreError("group", "nobody_in_group")
    if len(learners) > MOST_LEARNERS:
        raise CoreError("group", "too_many_learners", count=len(learners), most=MOST_LEARNERS)
    group = group or Group(organisation_id=by.organisation)
    group.name, group.rules = name, rules
    group.roles = [{"name": row.name, "duties": list(row.duties)} for row in roles]
    group.eaters = {key: count for key, count in (eaters or {}).items() if key in eater_groups() and count}
    try:
        with transaction.atomic():
            group.save()
    except IntegrityError:
        raise CoreError("name", "name_taken", name=name) from None
    group.members.all().delete()
    Member.objects.bulk_create(
        Member(
            group=group,
            initials=row.learner.name,
            age=row.learner.age,
            allergies=sorted(row.learner.allergies),
            needs=row.needs,
            eats=row.eats,
            shown=sorted(row.learner.shown),
            position=position,
        )
        for position, row in enumerate(row for row in roster.rows if row.learner)
        if row.learner
    )
    return group


def put_away(group: Group) -> None:
    """Takes a group from the lists; lessons that were made with it keep it."""
    group.archived_at = timezone.now()
    group.name = f"{group.name[:60]} ({group.pk})"  # its name is free again
    group.save(update_fields=["archived_at", "name"])

"""Groups of learners as others ask for them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from django.db.models import Count, QuerySet

from bulwark.groups.models import Group, Member
from bulwark.groups.rosters import Role
from bulwark.people.actors import Actor
from foodsafety.foods import allergen_sets
from foodsafety.planning import Learner, May, may_do, skill_names

__all__ = ["Group", "Member"]


def groups_for(actor: Actor) -> QuerySet[Group]:
    """The organisation's groups that are not put away, with how many are in each."""
    found = Group.objects.filter(organisation_id=actor.organisation, archived_at=None)
    return found.annotate(size=Count("members"))


def members_of(group: Group) -> list[Member]:
    """Who is in it."""
    return list(group.members.all())


def learners_of(group: Group) -> tuple[Learner, ...]:
    """The same as the core knows them."""
    return tuple(
        Learner(name=row.initials, age=row.age, allergies=frozenset(row.allergies), shown=frozenset(row.shown))
        for row in members_of(group)
    )


def roles_of(group: Group) -> tuple[Role, ...]:
    """Its roles with their duties."""
    return tuple(Role(name=row["name"], duties=tuple(row.get("duties", ()))) for row in group.roles)


@dataclass(frozen=True, slots=True, kw_only=True)
class Said:
    """What a group says about who is at the benches: who may use what (None where nothing was said of anybody), who
    stands in no list, and allergies of theirs that no dish is checked for."""

    may: May | None = None
    unknown: tuple[str, ...] = ()
    unchecked: tuple[str, ...] = ()


def said_of(
    group: Group | None, benches: Iterable[tuple[str, Iterable[str]]], ages: Mapping[str, int] | None = None
) -> Said:
    """What is known of the learners at the benches of a lesson. Whoever the group does not know has been shown
    nothing, as far as anybody has said. ``ages``: the youngest that may use something, where the kitchen says so."""
    if group is None:
        return Said()
    rows = {row.initials: row for row in members_of(group)}
    tags = {tag for row in allergen_sets().values() for tag in row.members}
    unchecked = tuple(sorted({word for row in rows.values() for word in row.allergies} - tags))
    if not any(set(row.shown) & set(skill_names()) for row in rows.values()):
        return Said(unchecked=unchecked)
    may, unknown = {}, []
    for bench, names in benches:
        for name in names:
            row = rows.get(name)
            may[bench, name] = may_do(row.age, row.shown, ages) if row else frozenset()
            if row is None:
                unknown.append(name)
    return Said(may=may, unknown=tuple(unknown), unchecked=unchecked)


def eaters_with(eaters: Mapping[str, Any], group: Group) -> dict[str, Any]:
    """Who eats: as a recipe said, and those of the group. Words that are no allergen of ours check nothing."""
    tags = {tag for row in allergen_sets().values() for tag in row.members}
    members = [row for row in members_of(group) if row.eats]
    allergens = {*eaters.get("allergens", ()), *(tag for row in members for tag in row.allergies if tag in tags)}
    groups = {**eaters.get("groups", {})}
    for name, count in group.eaters.items():
        groups[name] = max(count, groups.get(name, 0))
    return {
        **eaters,
        "groups": groups,
        "allergens": sorted(allergens),
        "count": max(len(members), eaters.get("count") or 0),
    }

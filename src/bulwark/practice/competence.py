"""What each learner has been shown and has shown: for that learner and whoever teaches them, never side by side."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db.models import QuerySet
from django.http import Http404
from django.utils.formats import date_format
from django.utils.timezone import localtime

from bulwark.groups import selectors as groups
from bulwark.groups.selectors import Group, Member
from bulwark.lessons import selectors as lessons
from bulwark.lessons import told
from bulwark.lessons.wording import recorded_by, teach, watched_names
from bulwark.people.actors import Actor
from bulwark.practice import selectors
from bulwark.practice.models import Certificate


@dataclass(frozen=True, slots=True, kw_only=True)
class Shown:
    """Something a learner can show: how often it was seen right and wrong, and where it was last seen right."""

    what: str
    right: int
    wrong: int
    last_at: dt.datetime | None
    lesson: str
    by: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Answered:
    """A rule that a learner was asked about: of so many first answers so many were right."""

    rule: str
    right: int
    asked: int


def member_for(actor: Actor, member_id: int) -> Member:
    """A learner of one of the organisation's groups. Raises Http404 for any other."""
    found = (
        Member.objects.filter(group__in=groups.groups_for(actor)).select_related("group").filter(pk=member_id).first()
    )
    if found is None:
        raise Http404("no such learner")
    return found


def shown_by(member: Member) -> list[Shown]:
    """What an adult beside the bench has seen of a learner, and the hand-washes the logs hold."""
    rows = told.told_of(member.group, member.initials)
    by_what: dict[str, list[Any]] = {name: [] for name in watched_names()}
    for row in rows:
        if row.kind == "watched":
            by_what[row.data["what"]].append(row)
    return [_shown(name, by_what[name]) for name in by_what]


def _shown(what: str, rows: list[Any]) -> Shown:
    right = [row for row in rows if row.data["seen"] == "right"]
    last = right[-1] if right else None
    return Shown(
        what=what,
        right=len(right),
        wrong=sum(1 for row in rows if row.data["seen"] == "wrong"),
        last_at=last.happened_at if last else None,
        lesson=last.bench.lesson.title if last else "",
        by=recorded_by(last.recorded_by) if last else "",
    )


def washes_of(member: Member) -> int:
    """How many whole hand-washes the logs hold of a learner."""
    rows = [row for row in told.told_of(member.group, member.initials) if row.kind == "hands_washed"]
    return sum(1 for row in rows if (row.data.get("scrub_s") or 0) >= lessons.profile_of(row.bench.lesson).scrub_s)


def answered_by(member: Member) -> list[Answered]:
    """The rules a learner was asked about in their group's rounds."""
    held: dict[str, list[bool]] = {}
    for found in member.group.rounds.prefetch_related("answers"):
        for row in selectors.first_answers(found):
            if row.learner == member.initials:
                held.setdefault(found.puzzles[row.number]["rule"], []).append(row.right)
    return [Answered(rule=rule, right=sum(rows), asked=len(rows)) for rule, rows in held.items()]


def learner_page(member: Member) -> dict[str, Any]:
    """One learner: what was seen, what was answered, and what comes next."""
    shown, answered = shown_by(member), answered_by(member)
    names = watched_names()
    missed = [row for row in answered if row.right < row.asked]
    return {
        "member": member,
        "shown": [{"row": row, "name": names[row.what]} for row in shown],
        "answered": [{"row": row, "name": teach(row.rule)} for row in answered],
        "washes": washes_of(member),
        "told": list(member.shown),
        "next": [*(names[row.what] for row in shown if not row.right), *(teach(row.rule) for row in missed)],
        "certificates": certificates_for(member.group, member.initials),
        "can": [row.what for row in shown if row.right],
    }


def certificates_for(group: Group, initials: str) -> QuerySet[Certificate]:
    """The certificates of one learner of a group."""
    return Certificate.objects.filter(group=group, initials=initials)


def items_of(member: Member, chosen: Mapping[str, bool] | None = None) -> list[dict[str, str]]:
    """What a certificate of theirs says: each thing seen right at least once, with when, where and by whom."""
    names = watched_names()
    return [
        {
            "what": names[row.what],
            "on": date_format(localtime(row.last_at), "j F Y"),
            "lesson": row.lesson,
            "by": row.by,
        }
        for row in shown_by(member)
        if row.right and row.last_at is not None and (chosen is None or chosen.get(row.what))
    ]


def held_of(member: Member) -> dict[str, Any]:
    """Everything that is held of one learner under these initials in this group: the entries that name them, when they
    were hurt, their answers, their certificates."""
    events = told.entries_naming(member.group, member.initials)
    answers = [
        {"round": found.pk, "on": row.at.isoformat(), "number": row.number, "right": row.right}
        for found in member.group.rounds.prefetch_related("answers")
        for row in found.answers.all()
        if row.learner == member.initials
    ]
    rows = certificates_for(member.group, member.initials)
    return {
        "initials": member.initials,
        "group": member.group.name,
        "age": member.age,
        "allergies": list(member.allergies),
        "needs": member.needs,
        "shown": list(member.shown),
        "entries": [
            {"lesson": row.bench.lesson.title, "at": row.happened_at.isoformat(), "kind": row.kind, "data": row.data}
            for row in events
        ],
        "hurts": [
            {
                "lesson": row.bench.lesson.title,
                "at": row.at.isoformat(),
                "what": row.what,
                "care": row.care,
                "thrown": row.thrown,
                "words": row.words,
            }
            for row in told.hurts_naming(member.group, member.initials)
        ],
        "answers": answers,
        "certificates": [{"title": row.title, "on": row.made_on.isoformat(), "items": row.items} for row in rows],
    }

"""Rounds and answers as others ask for them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from django.db.models import QuerySet

from bulwark.groups.selectors import Group
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import Actor
from bulwark.practice.models import Answer, Round
from foodsafety.practice import Asked, Gain, due_rules, gain_of_groups, gain_of_pairs, practised_by

__all__ = ["Answer", "Round"]


def rounds_for(actor: Actor) -> QuerySet[Round]:
    """The organisation's rounds, the latest first."""
    return Round.objects.filter(organisation_id=actor.organisation).select_related("group", "lesson", "matches")


def round_with(code: str) -> Round | None:
    """The round that a code lets in to."""
    return Round.objects.select_related("group", "lesson").filter(code=code).first()


def known_likenesses(organisation_id: int, group: Group | None) -> set[str]:
    """What a group was asked before: nothing of it is asked again in the same words."""
    rows = Round.objects.filter(organisation_id=organisation_id, group=group).values_list("puzzles", flat=True)
    return {puzzle["likeness"] for row in rows for puzzle in row}


def learners_in(found: Round) -> list[str]:
    """The initials to answer by: those of the group, or of the lesson's benches."""
    if found.group is not None:
        return [row.initials for row in found.group.members.all()]
    if found.lesson is None:
        return []
    return sorted({name for bench in lessons.benches_of(found.lesson) for name in lessons.learners_of(bench)})


@dataclass(frozen=True, slots=True, kw_only=True)
class Counted:
    """How one puzzle was answered first: how many for each choice."""

    by_choice: Mapping[str, int]
    right: int
    answers: int


def first_answers(found: Round) -> list[Answer]:
    """Of each learner the first answer to each puzzle, and all that was counted by hands."""
    seen: set[tuple[int, str]] = set()
    rows = []
    for row in found.answers.all():
        if row.learner and (row.number, row.learner) in seen:
            continue
        seen.add((row.number, row.learner))
        rows.append(row)
    return rows


def counted(found: Round) -> dict[int, Counted]:
    """The answers of a round, puzzle by puzzle."""
    rows = first_answers(found)
    result = {}
    for number in range(len(found.puzzles)):
        mine = [row for row in rows if row.number == number]
        by_choice: Counter[str] = Counter()
        for row in mine:
            by_choice[row.choice] += row.count
        result[number] = Counted(
            by_choice=by_choice,
            right=sum(row.count for row in mine if row.right),
            answers=sum(row.count for row in mine),
        )
    return result


def asked_of(group: Group) -> list[Asked]:
    """Every rule that a group was asked, by the number of its lesson."""
    rows = []
    for number, found in enumerate(group.rounds.order_by("made_at").prefetch_related("answers"), start=1):
        for at, row in counted(found).items():
            if row.answers:
                rule = found.puzzles[at]["rule"]
                rows.append(Asked(lesson=number, rule=rule, right=row.right, answers=row.answers))
    return rows


def to_review(group: Group | None, lesson: lessons.Lesson | None) -> list[str]:
    """What a group is asked at the start of a lesson: what its last lesson says is to be taught next, or what broke in
    it, and what is due."""
    before = lessons.lesson_before(lesson) if lesson is not None else None
    missed = [*(before.teach_next if before is not None else ())]
    if before is not None and not missed:
        missed = _broken(before)
    if group is None:
        return missed
    return due_rules(asked_of(group), lesson=group.rounds.count() + 1, missed=missed)


def _broken(lesson: lessons.Lesson) -> list[str]:
    """What broke, or was seen to go wrong, at most benches of a lesson first; what was put right counts as well."""
    found: Counter[str] = Counter()
    for bench in lessons.benches_of(lesson):
        state, _ = lessons.bench_state(bench)
        # What nobody put right weighs more than what was mended; a mend is practised all the same.
        weighs = {row.finding.rule: 2 if row.open else 1 for row in sorted(state.incidents, key=lambda row: row.open)}
        seen = {practised_by(row.what): 1 for row in state.watched.values() if row.seen == "wrong"}
        found.update({**seen, **weighs})
    return [rule for rule, _ in found.most_common()]


@dataclass(frozen=True, slots=True, kw_only=True)
class RuleGain:
    """What was learnt of a rule, or of all of them (``rule`` empty); None where one of the two was not answered."""

    rule: str
    gain: Gain | None


def gains(before: Round, after: Round) -> list[RuleGain]:
    """The gain from one round to the one that matches it, by rule and in all. Learners who answered both are paired;
    where nobody did, the two groups are held against each other, and that is said."""
    rules = list(dict.fromkeys(puzzle["rule"] for puzzle in before.puzzles))
    rows = (first_answers(before), first_answers(after))
    return [RuleGain(rule=rule, gain=_gain(before, after, rows, rule)) for rule in ("", *rules)]


def _gain(before: Round, after: Round, rows: tuple[list[Answer], list[Answer]], rule: str) -> Gain | None:
    numbers = [n for n, puzzle in enumerate(before.puzzles) if rule in ("", puzzle["rule"])]
    one, two = ([row for row in part if row.number in numbers] for part in rows)
    firsts = {(row.learner, row.number): row.right for row in one if row.learner}
    pairs = [(firsts[row.learner, row.number], row.right) for row in two if (row.learner, row.number) in firsts]
    if pairs:
        return gain_of_pairs(pairs)
    return gain_of_groups(*_sums(one), *_sums(two))


def _sums(rows: Iterable[Answer]) -> tuple[int, int]:
    held = list(rows)
    return sum(row.count for row in held if row.right), sum(row.count for row in held)


def latest(actor: Actor, count: int = 30) -> list[dict[str, Any]]:
    """The latest rounds, with how they were answered."""
    rows = list(rounds_for(actor).prefetch_related("answers")[:count])
    return [{"round": row, "counted": list(counted(row).values())} for row in rows]

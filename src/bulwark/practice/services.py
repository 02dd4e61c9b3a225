"""Rounds made, answered and ended."""

from __future__ import annotations

import secrets
from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from bulwark.groups.selectors import Group, Member
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.lessons.services import ask_at_benches, new_code, stop_asking
from bulwark.people.actors import Actor
from bulwark.practice import adapters, competence, selectors
from bulwark.practice.models import Answer, Certificate, Round
from bulwark.recipes.selectors import Recipe
from foodsafety.practice import KINDS, Puzzle, a_round, make_new
from foodsafety.quantities import CoreError

MOST_PUZZLES, MOST_HANDS = 12, 200
# Seeds are read off paper.
_SEEDS = 1_000_000


def make_round(
    *,
    by: Actor,
    recipe: Recipe,
    lesson: lessons.Lesson | None,
    group: Group | None,
    kind: str,
    count: int,
    level: int,
    seed: int | None = None,
    only: str = "",
) -> Round:
    """A round of puzzles that this group was never asked. A review begins with what went wrong last time; ``only`` one
    kind of puzzle where that is wanted. Raises CoreError where the recipe has a place for none."""
    material = adapters.material_of(recipe, lesson)
    seed = secrets.randbelow(_SEEDS) if seed is None else seed
    known = selectors.known_likenesses(by.organisation, group)
    rules = selectors.to_review(group, lesson) if kind == Round.REVIEW else []
    if only:
        rows = [make_new(only, material, seed=seed + n, level=level, known=known) for n in range(count)]
        puzzles = list({row.likeness: row for row in rows if row is not None}.values())
    else:
        puzzles = a_round(material, seed=seed, count=count, level=level, known=known, rules=rules)
    return _keep(by, recipe, lesson, group, kind=kind, seed=seed, level=level, puzzles=puzzles)


def make_matching(*, by: Actor, before: Round) -> Round:
    """The round after a lesson that matches the one before it: of each puzzle another of the same kind, rule and level.
    Where the recipe has no other of one, the same is asked again."""
    material = adapters.material_of(before.recipe, before.lesson)
    known = selectors.known_likenesses(by.organisation, before.group)
    seed, puzzles = secrets.randbelow(_SEEDS), list[Puzzle]()
    for n, row in enumerate(before.puzzles):
        again = make_new(row["kind"], material, seed=seed + 50 * n, level=row["level"], known=known, rule=row["rule"])
        found = again or adapters.to_puzzle(row)
        known.add(found.likeness)
        puzzles.append(found)
    return _keep(
        by,
        before.recipe,
        before.lesson,
        before.group,
        kind=Round.AFTER,
        seed=seed,
        level=before.level,
        puzzles=puzzles,
        matches=before,
    )


def _keep(
    by: Actor,
    recipe: Recipe,
    lesson: lessons.Lesson | None,
    group: Group | None,
    *,
    puzzles: list[Puzzle],
    matches: Round | None = None,
    **fields: Any,
) -> Round:
    if not puzzles:
        raise CoreError("kind", "nothing_to_ask")
    process = lesson.process if lesson is not None else recipe.process
    titles = {str(step["id"]): str(step.get("title") or "") for step in process.get("steps", ())}
    made = Round.objects.create(
        organisation_id=by.organisation,
        recipe=recipe,
        lesson=lesson,
        group=group,
        title=lesson.title if lesson is not None else recipe.title,
        profile=lesson.profile if lesson is not None else adapters.material_of(recipe).plan.profile.id,
        puzzles=[adapters.to_data(row) for row in puzzles],
        titles=titles,
        code=new_code(),
        matches=matches,
        made_by_id=by.user,
        **fields,
    )
    if lesson is not None:
        ask_at_benches(lesson_id=lesson.pk, code=made.code)
    return made


@transaction.atomic
def answer(
    *, found: Round, number: int, choice: str, uuid: UUID, learner: str = "", count: int = 1
) -> tuple[Answer, bool]:
    """One answer, or the same one again; True where it is new. Raises CoreError naming what is wrong with it: a puzzle
    or an answer that there is not, a learner nobody knows, a round that is over."""
    if not 0 <= number < len(found.puzzles):
        raise CoreError("number", "no_such_puzzle")
    row = next((row for row in found.puzzles[number]["choices"] if row["id"] == choice), None)
    if row is None:
        raise CoreError("choice", "no_such_answer")
    if learner and learner not in selectors.learners_in(found):
        raise CoreError("learner", "nobody_of_that_name", learner=learner)
    before = Answer.objects.filter(round=found, uuid=uuid).first()
    if before is not None:
        return before, False
    if found.ended_at is not None:
        raise CoreError("round", "round_is_over")
    return Answer.objects.get_or_create(
        round=found,
        uuid=uuid,
        defaults={
            "number": number,
            "choice": choice,
            "right": row["right"],
            "learner": learner,
            "count": min(count, MOST_HANDS),
        },
    )


def end_round(found: Round) -> None:
    """No answer counts after this."""
    Round.objects.filter(pk=found.pk, ended_at=None).update(ended_at=timezone.now())
    stop_asking(found.code)


def known_kind(name: str) -> str:
    """A kind of puzzle by its name; any where none is wanted. Raises CoreError for another."""
    if name and name not in KINDS:
        raise CoreError("only", "not_one_of", value=name, allowed=tuple(KINDS))
    return name


def certify(*, by: Actor, member: Member, title: str, chosen: Mapping[str, bool]) -> Certificate:
    """A certificate of what a learner has shown. Raises CoreError where nothing of it was seen right."""
    items = competence.items_of(member, chosen)
    if not items:
        raise CoreError("chosen", "nothing_was_seen")
    profile = kitchens.rules_for(by.organisation, kitchens.decided_by(by.organisation).profile)
    return Certificate.objects.create(
        organisation_id=by.organisation,
        group=member.group,
        initials=member.initials,
        title=title,
        items=items,
        profile=profile.name[:40],
        edition=f"{profile.document}, {profile.edition}"[:160],
        code=f"{new_code()}-{new_code()}",
        made_on=timezone.localdate(),
        made_by_id=by.user,
    )


def take_back(certificate: Certificate) -> None:
    """It says no more: whoever looks it up sees that."""
    Certificate.objects.filter(pk=certificate.pk, taken_back_at=None).update(taken_back_at=timezone.now())

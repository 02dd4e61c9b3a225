"""Changes to what is decided about a lesson's plan."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from dataclasses import replace

from django.db import transaction

from bulwark.board.catching_up import CHEAP, Rest, planned_doers, planned_order, planned_times
from bulwark.board.choices import JOIN, LEAVE, SHARE_OUT, SPLIT, TAKE_BACK, Choices, changed, choices_from
from bulwark.board.models import PlanChange
from bulwark.board.pieces import smaller_of
from bulwark.board.selectors import board_of, standing
from bulwark.board.shares import cooked_now, shared_out
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench, Lesson
from bulwark.lessons.services import (
    LessonError,
    join_halves,
    move_to,
    record_event,
    renew_lesson,
    set_arranged,
    set_dishes,
    set_planned,
    split_lesson,
)
from bulwark.people.actors import Actor
from bulwark.recipes.selectors import dishes_of, recipe_with
from foodsafety.planning import hot_water_steps
from foodsafety.quantities import CoreError


@transaction.atomic
def change_plan(*, lesson: Lesson, by: Actor, do: str, of: str = "", value: str = "") -> PlanChange:
    """Makes one change to what stands now, whoever made it stand: two people who change different things both find
    theirs. Raises CoreError for what is no change."""
    Lesson.objects.select_for_update().get(pk=lesson.pk)
    last = PlanChange.objects.filter(lesson=lesson).last()
    stands = cooked_now(choices_from(last.choices) if last else Choices(), lesson)
    choices = changed(stands, do, of, value)
    if do == LEAVE:
        choices = replace(choices, menu=lesson.recipe_id)
        _leave_the_others(lesson, of)
    if do == SHARE_OUT:
        choices = shared_out(choices, lesson)
    if do == SPLIT:
        _split(lesson, of)
    if do == JOIN:
        _join(lesson)
    _cook(lesson, choices)
    told = ", ".join(value.splitlines())[:120]  # several dishes of a bench come one in a line
    return _keep(lesson, by, last, do=do, of=of, value=told, choices=choices, before=last.number if last else None)


@transaction.atomic
def set_at_once(*, lesson: Lesson, by: Actor, minutes: Mapping[str, str]) -> None:
    """How long all are asked and shown something first, and eat together: each that is said and another than it was is
    a change of its own. Raises CoreError, and then changes none."""
    for name, value in minutes.items():
        last = PlanChange.objects.filter(lesson=lesson).last()
        before = choices_from(last.choices) if last else Choices()
        if value and changed(before, name, "", value) != before:
            change_plan(lesson=lesson, by=by, do=name, value=value)


def _cook(lesson: Lesson, choices: Choices) -> None:
    """Every bench cooks what was chosen for it, and is told what the plan asks of its steps. Raises
    CoreError for another choice once the lesson has begun."""
    try:
        set_dishes(lesson=lesson, dishes=dict(choices.share))
    except LessonError:
        raise CoreError("lesson", "lesson_begun") from None
    plan = lessons.plan_for(lesson)
    water = hot_water_steps(plan.process)
    smaller = {step: row.how for step, row in smaller_of(lesson, plan).items() if step in choices.smaller}
    before = {step: "water" if step in water else "ahead" for step in choices.ahead}
    set_arranged(lesson=lesson, steps={**dict.fromkeys(choices.ready, "ready"), **before, **smaller})


def _leave_the_others(lesson: Lesson, dish: str) -> None:
    """The lesson takes one recipe of its menu. Raises CoreError for what is none of it."""
    found = next((row for row in dishes_of(lesson.recipe) if str(row.pk) == dish), None)
    if found is None:
        raise CoreError("of", "no_brick", value=dish[:60])
    if lesson.opened_at:
        raise CoreError("lesson", "lesson_begun")
    renew_lesson(lesson=lesson, recipe=found)


def _split(lesson: Lesson, step: str) -> None:
    """The lesson stops after a step, and a second one goes on. Raises CoreError where that is not safe, or once the
    lesson has begun."""
    found = board_of(lesson).halves.get(step)
    if found is None:
        raise CoreError("of", "no_safe_stop")
    try:
        split_lesson(lesson=lesson, stop=found.stop, starts_at=found.starts_at)
    except LessonError:
        raise CoreError("lesson", "lesson_begun") from None


def _join(lesson: Lesson) -> None:
    """Both halves are one lesson again. Raises CoreError once either has begun."""
    try:
        join_halves(lesson)
    except LessonError:
        raise CoreError("lesson", "lesson_begun") from None


def _cook_all_again(lesson: Lesson, menu: int | None) -> None:
    """The lesson takes its menu again. Raises CoreError where that is gone, or once the lesson has begun."""
    found = recipe_with(lesson.organisation_id, menu)
    if found is None:
        raise CoreError("of", "no_brick", value=str(menu))
    if lesson.opened_at:
        raise CoreError("lesson", "lesson_begun")
    renew_lesson(lesson=lesson, recipe=found)


@transaction.atomic
def take_back(*, lesson: Lesson, by: Actor) -> PlanChange | None:
    """Takes the last change back that still stands; None where none does."""
    Lesson.objects.select_for_update().get(pk=lesson.pk)
    rows = {row.number: row for row in PlanChange.objects.filter(lesson=lesson)}
    last = rows[max(rows)] if rows else None
    stands = standing(rows, last)
    if stands is None:
        return None
    if stands.do == LEAVE:
        _cook_all_again(lesson, choices_from(stands.choices).menu)
    if stands.do == SPLIT:
        _join(lesson)
    if stands.do == JOIN:
        _split(lesson, stands.of)
    to = rows.get(stands.before or 0)
    choices = choices_from(to.choices) if to else Choices()
    _cook(lesson, choices)
    before = to.number if to else None
    return _keep(lesson, by, last, do=TAKE_BACK, of=stands.of, value=stands.do, choices=choices, before=before)


def keep_plan(lesson: Lesson) -> None:
    """Keeps with a lesson that begins when each bench begins and ends each step by its plan."""
    board = board_of(lesson)
    if board.shown.starts:
        more = {"order": planned_order(board), "who": planned_doers(board)}
        set_planned(lesson=lesson, ends_s=board.shown.makespan_s or 0, benches=planned_times(board), more=more)


def plan_rest(lesson: Lesson) -> None:
    """Plans what is left of a lesson that runs anew, from what is done, and keeps that. Raises CoreError where no such
    plan was found."""
    rest = Rest(lesson)
    set_planned(lesson=lesson, ends_s=rest.ends_s, benches=rest.times())


@transaction.atomic
def take_way_back(*, bench: Bench, by: Actor, do: str, of: str = "", come_from: Bench | None = None) -> None:
    """Does one thing for a bench that has fallen behind, tells the bench, and plans the rest anew. Raises CoreError for
    what is none or cannot be, LessonError where the lesson is not open, and then does nothing."""
    lesson = Lesson.objects.select_for_update().get(pk=bench.lesson_id)
    bench.lesson = lesson
    if do not in CHEAP:
        raise CoreError("do", "not_one_of", value=do[:20], allowed=CHEAP)
    if lesson.over:
        raise LessonError("closed")
    if do == "help":
        if come_from is None:
            raise CoreError("bench", "nothing_given")
        come_from.lesson = lesson
        move_to(bench=come_from, to=bench, learner=of, by=by)
    if do == "eat":
        change_plan(lesson=lesson, by=by, do="eat", value="0")
    kind, data = ("not_made", {"food": of}) if do == "not_made" else ("advised", {"what": do, "of": of or None})
    # All eat together: what is said of that is said to all.
    for told in lessons.benches_of(lesson) if do == "eat" else (bench,):
        at = lessons.lesson_now(lesson)
        record_event(bench=told, by=by, kind=kind, data=data, event_id=uuid.uuid4(), at=at)
    plan_rest(lesson)


def _keep(
    lesson: Lesson,
    by: Actor,
    last: PlanChange | None,
    *,
    do: str,
    of: str,
    value: str,
    choices: Choices,
    before: int | None,
) -> PlanChange:
    return PlanChange.objects.create(
        lesson=lesson,
        number=last.number + 1 if last else 1,
        do=do,
        of=of,
        value=value,
        choices=choices.stored(),
        before=before,
        by_id=by.user_id,
    )


def without_names(lesson_id: int, names: Mapping[str, str]) -> None:
    """Whom somebody chose to do what, by names that say nothing: the changes of a plan stay."""
    for row in PlanChange.objects.filter(lesson_id=lesson_id):
        doers = row.choices.get("doers") or {}
        row.choices = {**row.choices, "doers": {task: [names.get(n, n) for n in who] for task, who in doers.items()}}
        if row.do == "doer":
            row.value = ",".join(names.get(name, name) for name in row.value.split(","))
        row.save(update_fields=["choices", "value"])

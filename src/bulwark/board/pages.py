"""What the plan board shows."""

from __future__ import annotations

import datetime as dt
from collections import Counter
from collections.abc import Mapping
from typing import Any

from django.utils import timezone

from bulwark.board import drawings, selectors, wording
from bulwark.board.catching_up import Rest
from bulwark.board.choices import USUAL_MIN
from bulwark.board.models import PlanChange
from bulwark.board.room_notes import room_notes
from bulwark.lessons import call_wording, catching_up
from bulwark.lessons import pages as lesson_pages
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench, Lesson
from bulwark.people.actors import Actor
from bulwark.presentation import phrases
from bulwark.presentation.phrases import capital
from foodsafety.lesson import Between, washed_between
from foodsafety.planning import hot_water_steps, step_task, with_what_comes_first
from foodsafety.quantities import CoreError
from foodsafety.recipes import Step


def _clock(lesson: Lesson, at_s: float) -> dt.datetime:
    return timezone.localtime(lesson.starts_at + dt.timedelta(seconds=at_s))


def steps_in_order(board: selectors.Board, bench: lessons.Bench) -> list[Step]:
    """A bench's steps in the order of the plan."""
    number = 1 + [row.pk for row in lessons.benches_of(board.lesson)].index(bench.pk)
    process, starts = lessons.plan_at(bench).process, board.shown.starts
    return sorted(
        process.steps, key=lambda step: (starts.get(step_task(number, step.id), -1), process.step_index[step.id])
    )


def washes_between(board: selectors.Board, bench: lessons.Bench) -> tuple[Between, ...]:
    """What a bench has to wash in between though the recipe does not say so."""
    learners = tuple(row.initials for row in bench.learners.all()) or ("",)
    return washed_between(lessons.plan_at(bench), learners, steps_in_order(board, bench))


def _left_out(board: selectors.Board) -> list[str]:
    """The washes that the recipe leaves out and the plan has, at the bench that has most of them."""
    counted = Counter((part.bench, part.kind) for part in board.whole.parts.values() if part.beside)
    benches = {bench for bench, _kind in counted}
    most = max(((counted[bench, "hands"], counted[bench, "kit"]) for bench in benches), default=(0, 0))
    return wording.washes_left_out(*most)


def board_page(board: selectors.Board, picked: str = "") -> dict[str, Any]:
    """The board, or what can never be; with the brick that is ``picked``."""
    titles = lessons.step_titles(board.lesson)
    page = {**_said(board, titles), "drawing": None}
    return {**page, **_drawn(board, titles, picked)} if board.shown.starts else page


def _said(board: selectors.Board, titles: Mapping[str, str]) -> dict[str, Any]:
    """What the board says in words, and what was asked of it."""
    whole, plan, room = board.whole, board.shown, board.room
    bound_at = f"{_clock(board.lesson, plan.bound_s):%H:%M}"
    return {
        "lesson": board.lesson,
        "board": board,
        "at_once": [(name, wording.at_once(name), room.choices.minutes(name)) for name in USUAL_MIN],
        "fits": plan.status in ("optimal", "feasible"),
        "headline": wording.headline(whole, plan),
        "proof": wording.proof(whole, plan, titles, bound_at),
        "decided": _decided(board, titles),
        "put": _put(board, titles),
        "unclean": "" if board.clean else wording.unclean(),
        "not_kept": wording.not_kept(board.broken, [name for name, _who in room.benches], titles),
        "hot_waits": wording.hot_waits(board.hot_waits_s),
        "shares": [
            (bench, dict(room.choices.share).get(bench, tuple(board.dishes)))
            for bench, _who in room.benches
            if board.dishes and not board.lesson.opened_at
        ],
        "granted": [
            *wording.taken_for_granted(whole),
            *wording.not_said(board.said),
            *wording.own_ages(board.own_ages),
            *wording.adults_steps(whole, titles),
            *wording.must_wash_too(whole, plan, titles),
            *_left_out(board),
            *room_notes(board),
            *lesson_pages.group_moved_on(board.lesson),
        ],
    }


def _drawn(board: selectors.Board, titles: Mapping[str, str], picked: str) -> dict[str, Any]:
    """The drawing with its times, the brick that is picked, and the same as a table."""
    names = _names(board, titles)
    drawing = _drawing(board, titles, names, picked)
    return {
        "drawing": drawing,
        "picked": _picked(board, picked, names) if picked in board.whole.parts else None,
        "ticks": [(x, f"{_clock(board.lesson, at * 60):%H:%M}") for x, at in drawing.ticks],
        "ends": f"{_clock(board.lesson, board.whole.problem.lesson_s):%H:%M}",
        "table": _table(board, titles),
    }


def _names(board: selectors.Board, titles: Mapping[str, str]) -> dict[str, str]:
    """Every brick in full."""
    tasks, people = board.whole.problem.tasks, board.shown.people
    return {
        part.id: wording.title(part, titles, people.get(part.id, ()), tasks[part.id].s / 60)
        for part in board.whole.parts.values()
    }


def _drawing(
    board: selectors.Board, titles: Mapping[str, str], names: Mapping[str, str], picked: str
) -> drawings.Drawing:
    words = {
        part.id: tuple(f"~ {text}" if part.typical else text for text in wording.choices(part, titles, board.process))
        for part in board.whole.parts.values()
    }
    return drawings.draw(
        board.whole,
        board.shown,
        drawings.Words(
            bricks=words,
            titles=names,
            shared={name: capital(wording.shared_name(name)) for name in board.whole.problem.resources},
        ),
        drawings.Marks(
            hot=frozenset(step.id for step in board.process.steps if step.do in ("heat", "part_cook")),
            pinned=frozenset(dict(board.room.choices.pins) if board.holds else ()),
            picked=picked,
        ),
        starts_min=_clock(board.lesson, 0).minute,
    )


def _table(board: selectors.Board, titles: Mapping[str, str]) -> list[dict[str, Any]]:
    """Every brick in the order in which they begin."""
    plan, problem = board.shown, board.whole.problem
    checks = {step.id for step in board.process.steps if step.do == "probe"}
    return [
        {
            "at": f"{_clock(board.lesson, plan.starts[part.id]):%H:%M}",
            "minutes": f"{problem.tasks[part.id].s / 60:g}",
            "bench": part.bench or "",
            "who": ", ".join(plan.people.get(part.id, ())) or (wording.shared_name("adult") if part.adult else ""),
            "step": part.step or "",
            "kind": part.kind,
            "check": part.step in checks,
            "what": wording.row_name(part, titles, board.process),
            "holds": wording.holds(problem.tasks[part.id], plan.ovens.get(part.id)),
            "over": plan.starts[part.id] + problem.tasks[part.id].s > problem.lesson_s,
        }
        for part in sorted(board.whole.parts.values(), key=lambda part: (plan.starts[part.id], part.id))
    ]


def _decided(board: selectors.Board, titles: Mapping[str, str]) -> list[dict[str, str]]:
    """What was decided besides where bricks are put: in words, with what takes it away."""
    choices = board.room.choices
    rows = [("less", thing, str(count)) for thing, count in choices.more]
    rows += [("no_adult", bench, str(count)) for bench, count in choices.adults]
    rows += [("not_ready", step, "") for step in sorted(choices.ready)]
    rows += [("not_ahead", step, "") for step in sorted(choices.ahead)]
    rows += [("not_smaller", step, "") for step in sorted(choices.smaller)]
    rows += [("together", "", wording.shared(choices.share))] if choices.share else []
    half, second = board.lesson.half, lessons.second_half(board.lesson)
    if half and second:
        rows.append(("join", half["stop"], wording.two_lessons(half["kept"], timezone.localtime(second.starts_at))))
    # What all do at once as a rule, and do not in this lesson.
    rows += [(name, "", str(usual)) for name, usual in USUAL_MIN.items() if usual and not choices.minutes(name)]
    return [
        {
            "do": do,
            "of": of,
            "value": value,
            "says": wording.decided(_called(board, do, of), of, value, titles, _ahead_words(board, of, titles)),
        }
        for do, of, value in rows
    ]


def _called(board: selectors.Board, do: str, of: str) -> str:
    """What a change is called: pieces in a pan are made thinner, not smaller, and water is put on before."""
    if do in ("ahead", "not_ahead") and of in hot_water_steps(board.process):
        return do.replace("ahead", "water")
    row = board.smaller.get(of) if do in ("smaller", "not_smaller") else None
    return do.replace("smaller", row.how) if row else do


def _ahead_words(board: selectors.Board, step: str, titles: Mapping[str, str]) -> wording.AheadWords:
    """How what is done before the lesson is kept, and what of it comes before a step."""
    others = with_what_comes_first(board.process, {step}) - {step}
    return wording.AheadWords(board.ahead_until, [titles[name] for name in sorted(others - board.room.choices.ahead)])


def dishes_ticked(board: selectors.Board, told: str) -> str:
    """The dishes that were ticked for a bench, one in a line; nothing for all of them."""
    return "" if set(told.splitlines()) == set(board.dishes) else told


def check_change(board: selectors.Board, do: str, of: str, value: str) -> None:
    """Raises CoreError for a change of what this lesson has not."""
    parts = board.whole.parts
    allowed: Mapping[str, Any] = {
        "put": parts,
        "doer": parts,
        "more": board.whole.problem.resources,
        "adult": dict(board.room.benches),
        "ready": dict.fromkeys(board.may_be_ready),
        "ahead": dict.fromkeys(board.may_be_ahead),
        "share": dict(board.room.benches),
        "smaller": board.smaller if do == "smaller" else {},
        "split": board.halves if do == "split" else {},
    }
    if do in allowed and of not in allowed[do]:
        raise CoreError("of", "no_brick", value=of[:60])
    for dish in value.splitlines() if do == "share" else ():
        if dish not in board.dishes:
            raise CoreError("value", "no_brick", value=dish[:60])
    may = board.who_may(of) if do == "doer" else ()
    for who in value.split(",") if do == "doer" and value else ():
        if who not in may:
            raise CoreError("value", "may_not_do", who=who[:24])


def changes_page(board: selectors.Board, *, by: Actor, seen: int | None) -> dict[str, Any]:
    """Every change of the plan, the last first, and those that others made since somebody last saw it."""
    titles = lessons.step_titles(board.lesson)
    rows: list[dict[str, Any]] = [
        {
            "number": row.number,
            "says": wording.change(_called(board, row.do, row.of), row.of, row.value, _brick_name(board, row, titles)),
            "who": (row.by.first_name or row.by.username) if row.by else "",
            "at": row.at,
            "others": row.by_id != by.user_id,
        }
        for row in board.changes
    ]
    return {
        "changes": rows[::-1],
        "seen": board.seen,
        "meanwhile": [row for row in rows if seen is not None and row["number"] > seen and row["others"]],
        "can_take_back": board.can_take_back,
    }


def _brick_name(board: selectors.Board, row: PlanChange, titles: Mapping[str, str]) -> str:
    """What a change was made to, in words."""
    part = board.whole.parts.get(row.of)
    if part is not None:
        name = titles[part.step] if part.step else wording.frame_names(part.kind)[-1]
        return f"{name} ({part.bench})" if part.bench else name
    if row.do in ("did", "not_did"):
        return row.of.partition(":")[2]
    if row.of in titles:
        return titles[row.of]
    return wording.shared_name(row.of) if row.of in board.whole.problem.resources else row.of


def _put(board: selectors.Board, titles: Mapping[str, str]) -> str:
    """What became of the bricks that somebody put somewhere, in a sentence."""
    if not board.room.choices.pins:
        return ""
    if not board.holds:
        return wording.cannot_hold(board.whole, board.plan, titles)
    ends = f"{_clock(board.lesson, board.plan.makespan_s or 0):%H:%M}"
    later = (board.plan.makespan_s or 0) - (board.free.makespan_s or 0)
    return wording.what_moved(list(board.moved.values()), ends, later)


def _picked(board: selectors.Board, name: str, names: Mapping[str, str]) -> dict[str, Any]:
    """The brick that is picked: what it is, when it begins, and whether somebody put it there."""
    at_min = board.shown.starts[name] // 60
    return {
        "id": name,
        "title": names[name],
        "bench": board.whole.parts[name].bench or "",
        "at_min": at_min,
        "at": f"{_clock(board.lesson, at_min * 60):%H:%M}",
        "pinned": name in dict(board.room.choices.pins),
        "doers": [
            (who, who in board.shown.people.get(name, ()), who in dict(board.room.choices.doers).get(name, ()))
            for who in board.who_may(name)
        ],
    }


def run_sheet(board: selectors.Board) -> dict[str, Any]:
    """The plan minute by minute, for whoever runs the lesson: what begins when, at which bench, by whom."""
    page = board_page(board)
    rows: list[dict[str, Any]] = []
    for row in page.get("table", []):
        if not rows or rows[-1]["at"] != row["at"]:
            rows.append({"at": row["at"], "rows": []})
        rows[-1]["rows"].append(row)
    return {**page, "moments": rows, "profile": lessons.plan_for(board.lesson).profile}


def _why(board: selectors.Board, way: selectors.Way) -> str:
    if way.do == "split":
        two = board.halves[way.of]
        return wording.split_why(two.stop.kept, two.stop.place, two.starts_at, two.until)
    if way.do != "smaller":
        return wording.way_why(_called(board, way.do, way.of), board.ahead_until)
    row = board.smaller[way.of]
    return wording.smaller_why(row.how, row.grams, row.before_s, row.after_s)


def ways_page(board: selectors.Board, *, already: int = 0, asked: int = 0, stop: bool = False) -> dict[str, Any]:
    """What would end it sooner; or how far the looking is, until nobody can think of more or somebody stops it.
    ``already``: how many were tried the time before, maybe by another process of the server, which knows its own plans
    only: the next round may be behind, and goes on all the same, not for ever."""
    lesson, titles = board.lesson, lessons.step_titles(board.lesson)
    ways = board.ways(selectors.WAYS_ROUND_S)
    return {
        "lesson": lesson,
        "tried": min(board.thinkable, max(already, board.tried)),
        "thinkable": board.thinkable,
        "all_tried": board.tried == board.thinkable,
        "asked": asked + 1,
        "goes_on": board.tried < board.thinkable and not stop and asked < selectors.MOST_ROUNDS,
        "before": f"{_clock(lesson, board.end_min * 60):%H:%M}" if board.shown.starts else "",
        "length_min": board.room.length_min,
        "seen": board.seen,
        "ways": [
            {
                "do": way.do,
                "of": way.of,
                "value": way.value,
                "name": wording.way(_called(board, way.do, way.of), way.of, titles, way.value),
                "why": _why(board, way),
                "at": f"{_clock(lesson, way.ends_min * 60):%H:%M}",
                "spare": board.room.length_min - way.ends_min,
                "spare_words": wording.spare(max(0, board.room.length_min - way.ends_min) * 60),
                "proven": way.proven,
            }
            for way in ways
        ],
    }


def ways_back_page(bench: Bench) -> dict[str, Any]:
    """What would help a bench that has fallen behind: how far it is behind, when all would end as it is, and the ways
    back. Raises CoreError where no plan is found from what is done."""
    rest = Rest(bench.lesson)
    return {
        "bench": bench,
        "call": catching_up.call_for(bench, rest.states[bench.name], rest.now_s),
        "ends": _live_clock(bench.lesson, -(-rest.ends_s // 60)),
        "unheard": phrases.listed([name for name in rest.unheard if name != bench.name]),
        "over_min": max(0, int(-(-(rest.ends_s - rest.lesson_s) // 60))),
        "ways": [
            {"way": way, "name": name, "why": why, "at": _live_clock(bench.lesson, way.ends_min)}
            for way in rest.ways(bench.name)
            for name, why in [call_wording.way_back(way.do, way.of, way.bench)]
        ],
    }


def _live_clock(lesson: Lesson, at_min: float) -> dt.datetime:
    """A moment of a lesson that runs: it counts from when it really began."""
    return timezone.localtime(lesson.began_at + dt.timedelta(minutes=at_min))

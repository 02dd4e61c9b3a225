"""A lesson's plan, worked out anew from its steps, its benches, what the kitchen has counted and what somebody has
decided: the decisions are kept, the plan never is."""

from __future__ import annotations

import json
import time
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from bulwark.board.choices import (
    LEAVE,
    SHARE_OUT,
    SPLIT,
    TAKE_BACK,
    USUAL_MIN,
    Choices,
    changed,
    choices_from,
    without_steps,
)
from bulwark.board.models import PlanChange
from bulwark.board.pieces import Smaller, smaller_of
from bulwark.board.shares import cooked_now, shared_out
from bulwark.board.solving import LOOK_S, Room, both_planned, cooked_at, plan_in, planned, whole_for
from bulwark.board.stops import TwoLessons, two_lessons
from bulwark.groups.selectors import said_of
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Lesson
from bulwark.recipes.selectors import dishes_of
from foodsafety.lesson import Plan as SafetyPlan
from foodsafety.lesson import safety_plan, time_bounds, washed_between
from foodsafety.planning import (
    EAT,
    Bound,
    LeftOut,
    Plan,
    Progress,
    ShouldStop,
    WholeLesson,
    ahead_steps,
    asked_of,
    broken,
    hot_water_steps,
    long_wait_s,
    may_be_added,
    shared_things,
)
from foodsafety.quantities import CoreError
from foodsafety.recipes import Process, dishes_in, only_dishes, process_from

# Where nobody is at a bench yet, two are planned for.
NOBODY = ("1", "2")
# No way out is begun after so long.
WAYS_S = 5.0
# A page that asks for them is told so often how far they are; what is planned already is not planned again.
WAYS_ROUND_S = 1.0
MOST_ROUNDS = 300
MOST_WAYS = 3


LeftOutBy = tuple[tuple[tuple[str, ...], tuple[LeftOut, ...]], ...]
# A change that could be made (what, of what, to what), and the lessons there would be: steps, and what they are planned
# for.
Thinkable = tuple[str, str, str, tuple[tuple[str, Room], ...]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """Something to change (``do`` of ``of``, as services.change_plan takes it), and when the lesson would end then
    [min]."""

    do: str
    of: str
    ends_min: int
    proven: bool
    value: str = ""


def decided_of(lesson: Lesson) -> Choices:
    """What has been decided about a lesson's plan."""
    last = PlanChange.objects.filter(lesson=lesson).last()
    return choices_from(last.choices) if last else Choices()


def decided_of_all(rows: Iterable[Lesson]) -> dict[int, Choices]:
    """The same of several lessons, asked for once; a lesson of which nothing was decided is not in it."""
    last = (
        PlanChange.objects.filter(lesson__in=[row.pk for row in rows])
        .order_by("lesson_id", "-number")
        .distinct("lesson_id")
    )
    return {row.lesson_id: choices_from(row.choices) for row in last}


def board_of(lesson: Lesson) -> Board:
    """A lesson's plan with what has been decided."""
    rows = list(PlanChange.objects.filter(lesson=lesson).select_related("by"))
    return Board(lesson, choices_from(rows[-1].choices) if rows else Choices(), rows)


def left_out_of(plan: SafetyPlan) -> tuple[LeftOut, ...]:
    """The washes of a bench's way through a recipe as written that it does not have."""
    rows = washed_between(plan, ("1",))
    hands = [LeftOut(step=row.step, after=row.after, hands=True) for row in rows if row.hands]
    return (*hands, *(LeftOut(step=row.step, after=row.after, hands=False) for row in rows if row.kit))


def standing(rows: Mapping[int, PlanChange], row: PlanChange | None) -> PlanChange | None:
    """The change that a row stands for: itself, or what taking back went back to; None for the plan as at first."""
    while row is not None and row.do == TAKE_BACK:
        row = rows.get(row.before or 0)
    return row


class Board:
    """One lesson's plan."""

    def __init__(self, lesson: Lesson, choices: Choices, changes: Sequence[PlanChange] = ()) -> None:
        self.lesson = lesson
        # How many ways out there may be, and how many of them were planned in the time there was.
        self.thinkable = self.tried = 0
        # Every change that was made, oldest first.
        self.changes = changes
        benches = lessons.benches_of(lesson)
        self._rules = lessons.plan_for(lesson)
        self.kitchen = kitchen = lessons.kitchen_for(lesson)
        choices = cooked_now(choices, lesson)
        counted = dict(kitchen.equipment)
        if kitchen.rings:  # counted by size
            counted.setdefault("hob_ring", sum(kitchen.rings.values()))
        self.room = Room(
            benches=tuple(
                (bench.name, tuple(row.initials for row in bench.learners.all()) or NOBODY) for bench in benches
            ),
            counts=tuple(sorted((name, int(counted[name])) for name in shared_things() if name in counted)),
            length_min=lesson.length_min,
            house=self._rules.house,
            # What is in the cupboard, and what is done already, changes no plan.
            choices=replace(choices, have=frozenset(), did=frozenset(), away_h=None, menu=None),
            may=None,
            ovens=tuple(kitchen.oven_shelves) or (1,) * int(counted.get("oven", 0)),
            bounds=time_bounds(self._rules, ambient_c=choices.ambient_c),
        )
        self.room = replace(self.room, left_out=self._left_out(lesson.process, self._rules, self.room.choices))
        if choices.smaller:
            self.room = self._with_smaller(choices)
        self.said = said_of(lesson.group, self.room.benches, kitchen.ages)
        # The youngest that may use something, where the kitchen and not the planner says so.
        self.own_ages: Mapping[str, int] = kitchen.ages if self.said.may is not None else {}
        if self.said.may is not None:
            self.room = replace(self.room, may=tuple(sorted(self.said.may.items())))
        self._steps = json.dumps(lesson.process, sort_keys=True)

    @cached_property
    def smaller(self) -> dict[str, Smaller]:
        """Steps in an oven whose pieces could be half as heavy, or in a pan and half as high."""
        return smaller_of(self.lesson, self._rules)

    def _with_smaller(self, choices: Choices) -> Room:
        takes = tuple((step, row.after_s) for step, row in self.smaller.items() if step in choices.smaller)
        return replace(self.room, choices=replace(self.room.choices, smaller=choices.smaller), takes=takes)

    @cached_property
    def dishes(self) -> tuple[str, ...]:
        """The dishes of a menu; none where the lesson is one recipe."""
        return dishes_in(self.lesson.process)

    @property
    def seen(self) -> int:
        """The last change it was worked out with."""
        return self.changes[-1].number if self.changes else 0

    @property
    def can_take_back(self) -> bool:
        """True where a change still stands."""
        rows = {row.number: row for row in self.changes}
        return standing(rows, rows.get(self.seen)) is not None

    @property
    def ahead_until(self) -> str:
        """How what is done before the lesson is kept cold: the profile's limit, in its unit."""
        limit = self._rules.profile.hold["cold"].temperature
        return f"{limit.value:g} °{limit.unit}"

    @property
    def may_be_ahead(self) -> tuple[str, ...]:
        """Steps that can be done before the lesson, those that only heat water the last."""
        return (*ahead_steps(self.process), *hot_water_steps(self.process))

    @property
    def may_be_ready(self) -> tuple[str, ...]:
        """Steps for which one can be brought ready made, since they take long by themselves. Nothing part-cooked is: it
        is never kept."""
        whole = self.whole
        waits = {part.step: whole.problem.tasks[part.id].s for part in whole.parts.values() if part.kind == "wait"}
        long = (step for step, wait_s in waits.items() if step and wait_s >= long_wait_s())
        return tuple(step for step in long if self._does_step(step) != "part_cook")

    @cached_property
    def process(self) -> Process:
        return process_from(self.lesson.process)

    @cached_property
    def _found(self) -> tuple[WholeLesson, Plan, bool]:
        return planned(self._steps, self.room, LOOK_S)

    def look_longer(self, seconds: float, progress: Progress, should_stop: ShouldStop) -> None:
        """Plans anew for so long; what is found takes the place of the plan."""
        self.__dict__["_found"] = plan_in(self._steps, self.room, seconds, progress, should_stop)

    @property
    def clean(self) -> bool:
        """False where even all handwork in its written order leaves a path for soil that the recipe does not have."""
        return self._found[2]

    @property
    def proven(self) -> bool:
        """True where no plan can be shorter, or it is proven that none fits."""
        return self.shown.makespan_s == self.shown.bound_s

    @property
    def whole(self) -> WholeLesson:
        """The problem, and what was taken for granted in it."""
        return self._found[0]

    @property
    def plan(self) -> Plan:
        """The shortest plan found."""
        return self._found[1]

    @cached_property
    def free(self) -> Plan:
        """The plan with no brick put anywhere."""
        return planned(self._steps, self.room.deciding(pins=()), LOOK_S)[1]

    @property
    def holds(self) -> bool:
        """True unless a brick was put where it cannot be."""
        return bool(self.plan.starts) or not self.room.choices.pins

    @property
    def shown(self) -> Plan:
        """What is drawn: the plan, or the free one where the bricks cannot be as they were put."""
        return self.plan if self.holds else self.free

    @property
    def broken(self) -> tuple[tuple[Bound, int, int], ...]:
        """The times between steps that the rules ask and that what is shown does not keep."""
        return broken(self.room.bounds, self.whole, self.shown.starts) if self.shown.starts else ()

    def who_may(self, task: str) -> tuple[str, ...]:
        """Who of its bench may do a task that takes one pair of hands: an adult's is nobody's there."""
        row = self.whole.problem.tasks[task]
        if row.bench is None or self.whole.parts[task].kind != "step" or row.hands != 1:
            return ()
        names = dict(self.room.benches).get(row.bench, ())
        if self.room.may is None:
            return names
        may, step = dict(self.room.may), self.process.steps[self.process.step_index[str(self.whole.parts[task].step)]]
        return tuple(name for name in names if asked_of(self.process, step) <= may.get((row.bench, name), frozenset()))

    @property
    def moved(self) -> dict[str, int]:
        """By how much bricks that nobody put begin elsewhere than in the free plan [min]."""
        put = dict(self.room.choices.pins)
        return {
            name: round((at_s - self.free.starts[name]) / 60)
            for name, at_s in self.plan.starts.items()
            if name not in put and name in self.free.starts and at_s != self.free.starts[name]
        }

    @property
    def hot_waits_s(self) -> int | None:
        """How long hot food waits at most before it is eaten [s]; None where none is."""
        starts, tasks = self.shown.starts, self.whole.problem.tasks
        waits = [
            starts[row.then] - starts[row.first] - tasks[row.first].s
            for row in self.whole.problem.waits
            if starts and (row.then == EAT or self._does(row.then) == "serve")
        ]
        return max(waits, default=None)

    def _does(self, task: str) -> str:
        step = self.whole.parts[task].step
        return self._does_step(step) if step else ""

    def _does_step(self, step: str) -> str:
        return self.process.steps[self.process.step_index[step]].do

    @property
    def end_min(self) -> int:
        """When the plan ends, in minutes from its beginning, rounded up."""
        return -(-(self.shown.makespan_s or self.shown.bound_s) // 60)

    def ways(self, seconds: float = WAYS_S) -> list[Way]:
        """What would end the lesson sooner, each already planned, as far as there is time for it: at least one that
        this process had not planned before. The soonest first."""
        known = planned.cache_info().misses
        thinkable = [*self._other_dishes(), *self._fewer_dishes(), *self._other_choices(), *self._two_lessons()]
        self.thinkable, found, until = len(thinkable), list[Way](), time.monotonic() + seconds
        for do, of, value, lessons_then in thinkable:
            if time.monotonic() > until and planned.cache_info().misses > known:
                break
            self.tried += 1
            ends, proven = both_planned(lessons_then)
            if ends and (ends < self.end_min or not self.shown.starts):
                found.append(Way(do=do, of=of, value=value, ends_min=ends, proven=proven))
        enough = any(way.ends_min <= self.room.length_min for way in found if way.do != SPLIT)
        soonest = sorted((way for way in found if not (enough and way.do == SPLIT)), key=lambda way: way.ends_min)
        # One of each kind before a second of any: they ask for different things.
        first = {way.do: way for way in reversed(soonest)}
        few = sorted(soonest, key=lambda way: first[way.do] is not way)[:MOST_WAYS]
        return sorted(few, key=lambda way: way.ends_min)

    def whole_in(self, room: Room) -> WholeLesson:
        """The problem of this lesson in another room, in the order that its own plan keeps."""
        return whole_for(self.process, cooked_at(self.lesson.process, room), room)

    @cached_property
    def halves(self) -> dict[str, TwoLessons]:
        """How the recipe may be cooked over two lessons, by the step after which it stops; not where the benches share
        a menu's dishes."""
        return {} if self.room.choices.share else {row.stop.step: row for row in two_lessons(self.lesson, self._rules)}

    def _two_lessons(self) -> Iterator[Thinkable]:
        """Only where one is not enough: nobody comes twice to end sooner."""
        fits = bool(self.shown.starts) and self.end_min <= self.room.length_min
        for step, row in () if fits else self.halves.items():
            room = replace(self.room, choices=without_steps(self.room.choices), takes=())
            yield SPLIT, step, "", tuple(self._cooking(room, half) for half in (row.first, row.second))

    def _left_out(self, process: Mapping[str, Any], rules: SafetyPlan, choices: Choices) -> LeftOutBy:
        """The washes that the rules ask for and a process leaves out, for all of it and for the dishes that a bench
        cooks alone."""
        combinations = sorted({(), *(dishes for _bench, dishes in choices.share)})
        made = ((dishes, process_from(only_dishes(process, dishes)) if dishes else None) for dishes in combinations)
        plans = (
            (dishes, safety_plan(own, rules.profile, rules.house) if own is not None else rules) for dishes, own in made
        )
        return tuple((dishes, left_out_of(plan)) for dishes, plan in plans)

    def _cooking(self, room: Room, process: Mapping[str, Any]) -> tuple[str, Room]:
        """Another process in a room, with what the rules ask of its times."""
        plan = safety_plan(process_from(process), self._rules.profile, self._rules.house)
        bounds = time_bounds(plan, ambient_c=room.choices.ambient_c)
        left_out = self._left_out(process, plan, room.choices)
        return json.dumps(process, sort_keys=True), replace(room, bounds=bounds, left_out=left_out)

    def _other_choices(self) -> Iterator[Thinkable]:
        for do, of, value in self._thinkable():
            try:
                choices = changed(self.room.choices, do, of, value)
            except CoreError:
                continue
            room = self._with_smaller(choices) if do == "smaller" else replace(self.room, choices=choices)
            yield do, of, value, ((self._steps, room),)

    def _other_dishes(self) -> Iterator[Thinkable]:
        """Of a menu a dish at each bench, in turn: everybody eats of all."""
        if len(self.dishes) > 1 and len(self.room.benches) > 1 and self.lesson.opened_at is None:
            choices = shared_out(self.room.choices, self.lesson)
            if choices.share != self.room.choices.share:
                room = replace(self.room, choices=replace(choices, pins=(), doers=()))
                room = replace(room, left_out=self._left_out(self.lesson.process, self._rules, room.choices))
                yield SHARE_OUT, "", "", ((self._steps, room),)

    def _fewer_dishes(self) -> Iterator[Thinkable]:
        """Of a menu one dish alone: what was decided about steps of the others falls away."""
        lesson = self.lesson
        for dish in dishes_of(lesson.recipe) if lesson.recipe.dishes and lesson.opened_at is None else ():
            room = replace(self.room, choices=without_steps(self.room.choices), takes=())
            yield LEAVE, str(dish.pk), dish.title, (self._cooking(room, dish.process),)

    def _thinkable(self) -> Iterator[tuple[str, str, str]]:
        """What could be changed: one more of what is shared, what was put let go, nothing shown first, an adult more
        where a bench ends last, cold work done ahead, or what takes long brought ready made."""
        choices, whole = self.room.choices, self.whole
        for thing in whole.problem.resources:
            if thing in may_be_added():
                yield "more", thing, ""
        if choices.pins:
            yield "let_all_go", "", ""
        yield from ((name, "", "0") for name in USUAL_MIN if choices.minutes(name))
        if self._last_bench:
            yield "adult", self._last_bench, ""
        for step in self.may_be_ready:
            yield "ready", step, ""
        yield from (("smaller", step, "") for step in self.smaller if step not in choices.smaller)
        for step in self.may_be_ahead:
            if step not in choices.ahead:
                yield "ahead", step, ""

    @property
    def _last_bench(self) -> str:
        """The bench that ends last."""
        starts, tasks = self.shown.starts, self.whole.problem.tasks
        if not starts:
            return ""
        ends = {row.bench: starts[row.id] + row.s for row in sorted(tasks.values(), key=lambda row: starts[row.id])}
        return str(max(ends, key=lambda bench: (ends[bench], bench is not None), default=""))

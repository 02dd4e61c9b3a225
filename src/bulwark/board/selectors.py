"""A lesson's plan, worked out from its steps, its benches and what the kitchen has counted. Nothing of it is stored."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

from bulwark.kitchens.selectors import kitchen_of
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Lesson
from foodsafety.contamination import analyse
from foodsafety.planning import (
    Plan,
    Progress,
    ShouldStop,
    WholeLesson,
    schedule,
    shared_things,
    step_task,
    whole_lesson,
)
from foodsafety.recipes import Process, process_from
from foodsafety.rules import House

# A page waits so long for the shortest plan, and so long for each way out.
LOOK_S = 0.8
# Where nobody is at a bench yet, two are planned for.
NOBODY = ("1", "2")
WAY_LOOK_S = 0.5
MOST_WAYS = 3
# What is waited for so long is worth bringing ready made [s].
LONG_WAIT_S = 1200
# Another one of these can be found or borrowed.
MORE_OF = ("basin", "sink", "hob_ring", "oven", "griddle", "grill", "microwave", "slow_cooker", "probe")


@dataclass(frozen=True, slots=True, kw_only=True)
class Room:
    """What a plan is made for: initials by bench, how many there are of what is shared, the period and how long is
    shown first [min]."""

    benches: tuple[tuple[str, tuple[str, ...]], ...]
    counts: tuple[tuple[str, int], ...]
    length_min: int
    show_min: int
    house: House
    ready_made: frozenset[str] = frozenset()
    # Where somebody has put a brick, by task [min].
    pins: tuple[tuple[str, int], ...] = ()

    def with_more(self, thing: str, had: int) -> Room:
        """With one more of something."""
        return replace(self, counts=tuple(sorted({**dict(self.counts), thing: had + 1}.items())))


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """Something to change, and when the lesson would end then [min]. ``kind``: "more" of a ``thing``, "show" nothing
    first, what was put is "free" again, or one is "ready" so that nobody waits for the step ``thing``."""

    kind: str
    thing: str
    ends_min: int
    proven: bool


class Board:
    """One lesson's plan."""

    def __init__(self, lesson: Lesson, show_min: int, pins: Mapping[str, int] | None = None) -> None:
        self.lesson = lesson
        benches = lessons.benches_of(lesson)
        counted = kitchen_of(lesson.organisation_id).equipment
        self.room = Room(
            benches=tuple(
                (bench.name, tuple(row.initials for row in bench.learners.all()) or NOBODY) for bench in benches
            ),
            counts=tuple(sorted((name, int(counted[name])) for name in shared_things() if name in counted)),
            length_min=lesson.length_min,
            show_min=show_min,
            house=lessons.plan_for(lesson).house,
            pins=tuple(sorted((pins or {}).items())),
        )
        self._steps = json.dumps(lesson.process, sort_keys=True)

    @cached_property
    def process(self) -> Process:
        return process_from(self.lesson.process)

    @cached_property
    def _found(self) -> tuple[WholeLesson, Plan, bool]:
        return _planned(self._steps, self.room, LOOK_S)

    def look_longer(self, seconds: float, progress: Progress, should_stop: ShouldStop) -> None:
        """Plans anew for so long; what is found takes the place of the plan."""
        self.__dict__["_found"] = _plan(self._steps, self.room, seconds, progress, should_stop)

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
        return _planned(self._steps, replace(self.room, pins=()), LOOK_S)[1]

    @property
    def holds(self) -> bool:
        """True unless a brick was put where it cannot be."""
        return bool(self.plan.starts) or not self.room.pins

    @property
    def shown(self) -> Plan:
        """What is drawn: the plan, or the free one where the bricks cannot be as they were put."""
        return self.plan if self.holds else self.free

    @property
    def moved(self) -> dict[str, int]:
        """By how much bricks that nobody put begin elsewhere than in the free plan [min]."""
        put = dict(self.room.pins)
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
            if starts and self._does(row.then) == "serve"
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

    def ways(self) -> list[Way]:
        """What would end the lesson sooner, each already planned: one more of what is shared, nothing shown first,
        or what takes long brought ready made. The soonest first."""
        found = []
        for thing, number in self.whole.problem.resources.items():
            if thing in MORE_OF:
                found.append(("more", thing, self.room.with_more(thing, number)))
        if self.room.pins:
            found.append(("free", "", replace(self.room, pins=())))
        if self.room.show_min:
            found.append(("show", "", replace(self.room, show_min=0)))
        waits = {
            part.step: self.whole.problem.tasks[part.id].s for part in self.whole.parts.values() if part.kind == "wait"
        }
        for step, wait_s in waits.items():
            # Meat that is part-cooked is never kept: nothing of it is brought ready made.
            if step and wait_s >= LONG_WAIT_S and self._does_step(step) != "part_cook":
                found.append(("ready", step, replace(self.room, ready_made=frozenset({step}))))
        ways = []
        for kind, thing, room in found:
            plan = _planned(self._steps, room, WAY_LOOK_S)[1]
            ends = -(-(plan.makespan_s or 0) // 60)
            if ends and ends < self.end_min:
                proven = plan.makespan_s == plan.bound_s
                ways.append(Way(kind=kind, thing=thing, ends_min=ends, proven=proven))
        return sorted(ways, key=lambda way: way.ends_min)[:MOST_WAYS]


@lru_cache(maxsize=64)
def _planned(steps: str, room: Room, seconds: float) -> tuple[WholeLesson, Plan, bool]:
    return _plan(steps, room, seconds)


def _plan(
    steps: str,
    room: Room,
    seconds: float,
    progress: Progress | None = None,
    should_stop: ShouldStop | None = None,
) -> tuple[WholeLesson, Plan, bool]:
    """A plan, and whether it makes no path for soil that the written order does not have. Where it makes one, all that
    hands do stays in its order, and it is asked again."""
    data = json.loads(steps)
    process = process_from(data)
    fixed = {name: at_min * 60 for name, at_min in room.pins}
    hint = _planned(steps, replace(room, pins=()), LOOK_S)[1].starts if room.pins else None
    for as_written in (False, True):
        whole = _whole(process, room, as_written=as_written)
        plan = schedule(
            whole.problem,
            seconds=seconds,
            fixed=fixed,
            hint=hint or None,
            progress=progress,
            should_stop=should_stop,
        )
        clean = not plan.starts or _is_clean(data, process, room, plan.starts)
        if clean:
            break
    return whole, plan, clean


def _whole(process: Process, room: Room, *, as_written: bool = False) -> WholeLesson:
    return whole_lesson(
        process,
        dict(room.benches),
        dict(room.counts),
        lesson_s=room.length_min * 60,
        show_s=room.show_min * 60,
        ready_made=room.ready_made,
        as_written=as_written,
    )


def _is_clean(
    data: Mapping[str, list[dict[str, str]]], process: Process, room: Room, starts: Mapping[str, int]
) -> bool:
    written = {(row.rule, row.soil, row.food) for row in analyse(process, room.house).findings}
    for number in range(1, len(room.benches) + 1):
        order = sorted(data["steps"], key=lambda row: starts[step_task(number, row["id"])])
        found = analyse(process_from({**data, "steps": order}), room.house).findings
        if not {(row.rule, row.soil, row.food) for row in found} <= written:
            return False
    return True

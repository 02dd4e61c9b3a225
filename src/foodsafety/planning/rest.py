"""What is left of a lesson that runs: the same problem without what is done, shorter by what has begun."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, replace

from foodsafety.planning.lesson_tasks import Part, WholeLesson
from foodsafety.planning.problem import Problem, Task


@dataclass(frozen=True, slots=True, kw_only=True)
class Reached:
    """How far a bench is: the steps it has ``done``, for how long those that go on have gone on (``going``) [s], how
    many of it have ``washed`` their hands, and whether it has ``eaten``."""

    done: frozenset[str] = frozenset()
    going: Mapping[str, float] = field(default_factory=dict)
    washed: int = 0
    eaten: bool = False

    @property
    def begun(self) -> bool:
        """True once it has done anything of the recipe."""
        return bool(self.done or self.going)


def rest_of(
    whole: WholeLesson, reached: Mapping[str, Reached], gone_s: float, *, kit_later: Collection[str] = ()
) -> Problem:
    """What is left after ``gone_s`` [s] of a lesson, from now on (0) to its end. ``kit_later``: benches whose kit is
    washed up after it. A step of which nobody knows when it began takes as long as all of it: what is not known is
    never taken for done. Ties to what is done are left out; the clocks of the live lesson watch those."""
    started, left = any(row.begun for row in reached.values()), dict[str, Task]()
    for task in whole.problem.tasks.values():
        part = whole.parts[task.id]
        if part.bench is None:
            stays = not all(row.eaten for row in reached.values()) if part.kind == "eat" else not started
            found = task if stays else None
        elif part.kind in ("wash_kit", "wash_up") and part.bench in kit_later:
            found = None
        else:
            found = _left(whole, part, task, reached.get(part.bench, Reached()))
        if found is not None:
            left[task.id] = found
    problem = replace(whole.problem, tasks=left).only(tuple(left))
    return replace(problem, lesson_s=max(0, int(whole.problem.lesson_s - gone_s)))


def _left(whole: WholeLesson, part: Part, task: Task, row: Reached) -> Task | None:
    """What is left of a task of a bench; None where nothing is."""
    if part.kind == "ready":
        return None if row.begun or row.washed else task
    if part.beside in row.done:
        return None  # what it was for is done
    if part.step is None:
        if part.kind != "wash":
            return task
        return None if row.begun or int(part.id.rpartition(" ")[2]) <= row.washed else task  # one a person, on arrival
    if part.step in row.done:
        return None
    gone_s = row.going.get(part.step)
    if gone_s is None:
        return task
    work = whole.problem.tasks.get(task.id.removesuffix(" waits"), task)
    if work is not task:  # its waiting begins once the hands have done their part of it
        gone_s = max(0.0, gone_s - work.s)
    short_s = -(-max(0.0, task.s - gone_s) // 30) * 30
    return replace(task, s=int(short_s)) if short_s else None

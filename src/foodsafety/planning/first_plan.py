"""A plan at once, by a rule of thumb: whatever most still hangs on goes first. The solver begins from it."""

from __future__ import annotations

import random
from collections.abc import Mapping

from foodsafety.planning.bounds import tails_s
from foodsafety.planning.problem import Problem, Task


class _Line:
    """How much of one capacity is taken when: steps that are placed, as (begin, end, amount)."""

    def __init__(self, capacity: int) -> None:
        self.capacity = capacity
        self.rows: list[tuple[int, int, int]] = []

    def free_from(self, begin: int, s: int, amount: int) -> int:
        """The first moment from ``begin`` on at which ``amount`` is free for ``s`` [s]."""
        while True:
            clash = self._clash(begin, begin + s, amount)
            if clash is None:
                return begin
            begin = clash

    def _clash(self, begin: int, end: int, amount: int) -> int | None:
        """Where too much is taken between two moments: when the first of those there ends."""
        there = [row for row in self.rows if row[0] < end and row[1] > begin]
        moments = {begin, *(row[0] for row in there if row[0] > begin)}
        for at in sorted(moments):
            now = [row for row in there if row[0] <= at < row[1]]
            if sum(row[2] for row in now) + amount > self.capacity:
                return min(row[1] for row in now)
        return None


def first_plan(problem: Problem, draw: random.Random | None = None) -> dict[str, int] | None:
    """Starts [s] of every step in a plan that keeps order, capacities and what is counted from an end. What must
    follow within a time may be late. None where a step can never be done, or steps wait for each other."""
    if problem.cycle or problem.never:
        return None
    tails = tails_s(problem)
    tied: dict[str, list[Task]] = {}
    for task in problem.tasks.values():
        if task.from_end and task.from_end[0]:
            tied.setdefault(task.from_end[0], []).append(task)
    if any(row.id in tied for rows in tied.values() for row in rows):
        return None  # counted from the end of what is itself counted from an end: the solver's
    lines = {key: _Line(capacity) for key, capacity in problem.capacities.items()}
    starts: dict[str, int] = {}
    waiting = [task for task in problem.tasks.values() if not (task.from_end and task.from_end[0])]
    while waiting:
        ready = [
            task
            for task in waiting
            if all(name in starts for one in (task, *tied.get(task.id, ())) for name in one.after)
        ]
        if not ready:
            return None
        task = max(ready, key=lambda row: tails[row.id] * (draw.uniform(0.7, 1.3) if draw else 1.0))
        waiting.remove(task)
        _place(problem, task, tied.get(task.id, []), starts, lines)
    return starts


def _place(problem: Problem, task: Task, tied: list[Task], starts: dict[str, int], lines: Mapping[str, _Line]) -> None:
    """Places a step and all that is counted from its end, at the first moment at which all of it can be."""
    group = [(task, 0), *((one, task.s - (one.from_end or (None, 0))[1]) for one in tied)]
    ends = {name: starts[name] + problem.tasks[name].s for one, _ in group for name in one.after}
    begin = max(0, *(-offset for _, offset in group))
    if task.from_end:  # from the end of the lesson
        begin = max(begin, problem.lesson_s - task.from_end[1])
    begin = max([begin, *(ends[name] - offset for one, offset in group for name in one.after)])
    moved = True
    while moved:
        moved = False
        for one, offset in group:
            for key, amount in problem.demands(one):
                free = lines[key].free_from(begin + offset, one.s, amount)
                if free > begin + offset:
                    begin, moved = free - offset, True
    for one, offset in group:
        starts[one.id] = begin + offset
        for key, amount in problem.demands(one):
            if one.s:
                lines[key].rows.append((begin + offset, begin + offset + one.s, amount))

"""How long a lesson must be at least, by counting work: what the solver need not find out by itself."""

from __future__ import annotations

from collections.abc import Mapping

from foodsafety.planning.problem import Problem


def least_s(problem: Problem) -> int:
    """No plan ends before [s]. Of everything that can run out: the work that begins no earlier than some moment, and
    after which some time still has to pass, shared among all there is of it, with that moment and that time."""
    heads, tails = heads_s(problem), tails_s(problem)
    found = max((heads[task.id] + tails[task.id] for task in problem.tasks.values()), default=0)
    work: dict[str, list[tuple[int, int, int]]] = {}
    for task in problem.tasks.values():
        for key, amount in problem.demands(task):
            work.setdefault(key, []).append((heads[task.id], tails[task.id] - task.s, task.s * amount))
    for key, rows in work.items():
        capacity = problem.capacities[key]
        if capacity <= 0:
            continue
        for begin in {row[0] for row in rows}:
            late = sorted((row for row in rows if row[0] >= begin), key=lambda row: -row[1])
            total = 0
            for _, rest, size in late:
                total += size
                found = max(found, begin + -(-total // capacity) + rest)
    return found


def heads_s(problem: Problem) -> Mapping[str, int]:
    """The earliest each step can begin, by what comes before it alone [s]."""
    found: dict[str, int] = {}
    for name in problem.in_order:
        task = problem.tasks[name]
        found[name] = max((found[other] + problem.tasks[other].s for other in task.after), default=0)
    return found


def tails_s(problem: Problem) -> Mapping[str, int]:
    """How long it takes at least from the beginning of each step to the end of all that comes after it [s]."""
    rest = dict.fromkeys(problem.tasks, 0)
    for name in reversed(problem.in_order):
        task = problem.tasks[name]
        for other in task.after:
            rest[other] = max(rest[other], task.s + rest[name])
    return {name: task.s + rest[name] for name, task in problem.tasks.items()}

"""Why it does not fit: the fewest steps that together cannot be."""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping

from foodsafety.planning.bounds import least_s
from foodsafety.planning.first_plan import first_plan
from foodsafety.planning.model import PlanModel, makespan
from foodsafety.planning.problem import Problem

LOOK_S = 0.5


def conflict_of(problem: Problem, fixed: Mapping[str, int], *, seconds: float) -> tuple[str, ...]:
    """Steps of a problem that does not fit which do not fit by themselves either, while they would with any of them
    less. More than the fewest where ``seconds`` are not enough."""
    until = time.monotonic() + seconds

    def is_too_much(part: Problem) -> bool:
        return least_s(part) > part.lesson_s

    def is_impossible(part: Problem) -> bool:
        return time.monotonic() < until and not may_fit(part, fixed)

    # By counting work first: that asks no solver, and mostly leaves little for it.
    kept = _fewest(problem, is_too_much) if is_too_much(problem) else tuple(problem.tasks)
    return _fewest(problem.only(kept), is_impossible)


def _fewest(problem: Problem, fails: Callable[[Problem], bool]) -> tuple[str, ...]:
    """Takes steps away, many at a time and then one by one, as long as the rest still fails."""
    kept = list(problem.tasks)
    size = max(1, len(kept) // 2)
    while size:
        at = 0
        while at < len(kept):
            rest = kept[:at] + kept[at + size :]
            if rest and fails(problem.only(rest)):
                kept = rest
            else:
                at += size
        size //= 2
    return tuple(kept)


def may_fit(problem: Problem, fixed: Mapping[str, int]) -> bool:
    """False where it is proven that a problem does not fit into its lesson."""
    plan = None if fixed or problem.within else first_plan(problem)
    if plan and makespan(problem, plan) <= problem.lesson_s:
        return True
    return PlanModel(problem, fixed, must_fit=True).solve(LOOK_S, None, None).status != "infeasible"

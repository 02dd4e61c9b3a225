"""Why it does not fit: the fewest steps that together cannot be."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from foodsafety.planning.bounds import least_s
from foodsafety.planning.first_plan import first_plan
from foodsafety.planning.model import PlanModel, ShouldStop, makespan
from foodsafety.planning.problem import Problem

LOOK_S = 0.5
# What a look costs besides the solver, about.
LEAST_LOOK_S = 0.003


def conflict_of(
    problem: Problem, fixed: Mapping[str, int], *, seconds: float, should_stop: ShouldStop | None = None
) -> tuple[str, ...]:
    """Steps of a problem that does not fit which do not fit by themselves either, while they would with any of them
    less. More than the fewest where the solver's work of so many ``seconds`` is not enough, or nobody waits for it."""
    left_s = seconds

    def is_too_much(part: Problem) -> bool:
        return least_s(part) > part.lesson_s

    def is_impossible(part: Problem) -> bool:
        nonlocal left_s
        if left_s <= 0 or (should_stop and should_stop()):
            return False
        fits, took_s = may_fit(part, fixed)
        left_s -= took_s
        return not fits

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


def may_fit(problem: Problem, fixed: Mapping[str, int]) -> tuple[bool, float]:
    """False where a problem is proven not to fit into its lesson, and how long the solver worked on it [s]."""
    plan = None if fixed or problem.within else first_plan(problem)
    if plan and makespan(problem, plan) <= problem.lesson_s:
        return True, LEAST_LOOK_S
    model = PlanModel(problem, fixed, must_fit=True)
    return model.solve(LOOK_S, None, None).status != "infeasible", max(LEAST_LOOK_S, model.took_s)

"""Topic ``schedule``: the steps of a lesson fitted into its period."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from foodsafety.planning import problem_from, schedule


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``schedule``; seconds throughout. What does not fit is ``infeasible``, with the fewest steps that together
    cannot be; ``starts`` then hold a plan that runs over, where there is one."""
    plan = schedule(problem_from(data))
    answer: dict[str, Any] = {
        "starts": dict(plan.starts),
        "makespan_s": plan.makespan_s,
        "bound_s": plan.bound_s,
        "status": plan.status,
    }
    if plan.people:
        answer["people"] = {step: list(names) for step, names in plan.people.items()}
    if plan.conflict:
        answer["conflict"] = list(plan.conflict)
    return answer

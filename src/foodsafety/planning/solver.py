"""The shortest plan, proven, or why there is none."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import replace

from foodsafety.planning.bounds import least_s
from foodsafety.planning.doers import doers
from foodsafety.planning.first_plan import first_plan
from foodsafety.planning.model import SEED, Plan, PlanModel, Progress, ShouldStop, makespan
from foodsafety.planning.ovens import need_choosing
from foodsafety.planning.problem import Problem
from foodsafety.planning.reasons import conflict_of

# So many plans by rule of thumb for a lesson of so many tasks; fewer for a larger one, whose plans take longer.
FIRST_PLANS, FIRST_TASKS = 12, 160
REASONS_S = 4.0
WAITS_S = 1.0


def schedule(
    problem: Problem,
    *,
    seconds: float = 10.0,
    fixed: Mapping[str, int] | None = None,
    hint: Mapping[str, int] | None = None,
    progress: Progress | None = None,
    should_stop: ShouldStop | None = None,
    thorough: bool = True,
) -> Plan:
    """The shortest plan of a problem, or what cannot be. ``fixed``: steps that begin when somebody has put them [s].
    ``hint``: a plan from before. Not more than ``seconds`` of work, as long again at most for the reasons why it does
    not fit, and a second for shorter waits; the same problem gives the same plan where that is enough.
    ``should_stop`` ends it. ``thorough``: False leaves out the reasons and the waits."""
    if problem.cycle:
        return Plan(status="infeasible", conflict=problem.cycle)
    if problem.never:
        return Plan(status="infeasible", conflict=problem.never[:1])
    if not problem.tasks:
        return Plan(status="optimal", makespan_s=0)
    model = PlanModel(problem, fixed or {})
    begin = hint or _best_first(problem)
    model.hint(begin)
    found = model.solve(seconds, progress, should_stop)
    if found.status == "unknown" and not fixed and (thumb := _by_thumb(problem, begin or {})):
        found = thumb
    if found.starts and problem.waits and thorough:
        found = model.shorten(found, min(seconds, WAITS_S), should_stop)
    if found.starts:
        found = replace(found, people=doers(problem, found.starts))
    if found.status == "infeasible" or found.bound_s > problem.lesson_s:
        conflict: tuple[str, ...] = ()
        if thorough:
            conflict = conflict_of(problem, fixed or {}, seconds=min(seconds, REASONS_S), should_stop=should_stop)
        return replace(found, status="infeasible", conflict=conflict)
    if found.makespan_s is not None and found.makespan_s > problem.lesson_s:
        return replace(found, status="unknown")  # none that fits was found, and none proven not to be
    return found


def _by_thumb(problem: Problem, starts: Mapping[str, int]) -> Plan | None:
    """The plan by rule of thumb, where the solver had not even the time to look at it: on a busy machine a plan that is
    not proven is better than none. None where it is not whole, or keeps not all that it has to."""
    tasks = problem.tasks
    if set(starts) != set(tasks) or need_choosing(problem):
        return None
    late = any(starts[row.then] > starts[row.first] + tasks[row.first].s + row.s for row in problem.within)
    named = {task.id for task in tasks.values() if task.hands and task.bench and problem.benches[task.bench].names}
    # Who may do what was not asked when it was made: it stands only where somebody is found for everything.
    if late or (any(task.who for task in tasks.values()) and set(doers(problem, starts)) != named):
        return None
    return Plan(status="feasible", starts=starts, makespan_s=makespan(problem, starts), bound_s=least_s(problem))


def _best_first(problem: Problem) -> Mapping[str, int] | None:
    """The best of some plans by a rule of thumb."""
    draw = random.Random(SEED)  # noqa: S311 - nothing secret
    count = max(1, min(FIRST_PLANS, round(FIRST_PLANS * (FIRST_TASKS / len(problem.tasks)) ** 2)))
    plans = [plan for n in range(count) if (plan := first_plan(problem, draw if n else None))]
    return min(plans, key=lambda plan: makespan(problem, plan), default=None)

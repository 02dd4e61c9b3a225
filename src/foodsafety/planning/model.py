"""The constraint model of a plan (OR-tools CP-SAT): each step an interval, people of a bench and shared resources
cumulative capacities. The plan may run past the end of the lesson, unless it is asked only whether it fits."""

from __future__ import annotations

import threading
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import reduce
from math import gcd
from typing import Any, Literal

from ortools.sat.python import cp_model

from foodsafety.planning.bounds import least_s
from foodsafety.planning.ovens import need_choosing, share_ovens, which_oven
from foodsafety.planning.problem import Problem, Task

WORKERS = 2
SEED = 7
STOPS_EVERY_S = 0.05

Status = Literal["optimal", "feasible", "infeasible", "unknown"]
# (the end of the best plan so far [s] or None, what is proven that none can end before [s])
Progress = Callable[[int | None, int], None]
ShouldStop = Callable[[], bool]


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """What was found. ``starts`` [s] of every step and ``people`` by name at benches that have names; ``makespan_s``:
    when the last step ends; ``bound_s``: no plan ends before. ``infeasible`` where it does not fit: then ``conflict``
    are the fewest steps that together cannot be, and ``starts`` hold a plan that runs over, if there is one."""

    status: Status
    starts: Mapping[str, int] = field(default_factory=dict)
    people: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    makespan_s: int | None = None
    bound_s: int = 0
    conflict: tuple[str, ...] = ()
    # Which oven a task stands in, 1 for the first.
    ovens: Mapping[str, int] = field(default_factory=dict)


def makespan(problem: Problem, starts: Mapping[str, int]) -> int:
    """When the last step ends [s]."""
    return max((starts[task.id] + task.s for task in problem.tasks.values()), default=0)


class PlanModel:
    """The model of one problem, in units as long as all its times have in common."""

    def __init__(self, problem: Problem, fixed: Mapping[str, int], *, must_fit: bool = False) -> None:
        self.problem = problem
        self.unit = reduce(gcd, _times(problem, fixed)) or 1
        self.model = cp_model.CpModel()
        self.horizon = (problem.lesson_s if must_fit else problem.horizon_s + self.unit) // self.unit
        self.start: dict[str, Any] = {}
        self.does: dict[tuple[str, str], Any] = {}
        self.took_s = 0.0
        for task in problem.tasks.values():
            self.start[task.id] = self.model.new_int_var(0, max(0, self.horizon - task.s // self.unit), task.id)
        for name, at_s in fixed.items():
            if name in self.start:
                self.model.add(self.start[name] == at_s // self.unit)
        self._ties()
        self._capacities()
        self.inside = share_ovens(self.model, problem, self.start, self.unit, self._interval_if)
        self.end = self.model.new_int_var(0, self.horizon, "end")
        for task in problem.tasks.values():
            self.model.add(self.end >= self.start[task.id] + task.s // self.unit)
        self.model.add(self.end >= -(-least_s(problem) // self.unit))
        if not must_fit:
            self.model.minimize(self.end)

    def _interval_if(self, task: Task, there: Any) -> Any:
        return self.model.new_optional_fixed_size_interval_var(self.start[task.id], task.s // self.unit, there, "")

    def _ties(self) -> None:
        tasks = self.problem.tasks
        for task in tasks.values():
            for name in task.after:
                self.model.add(self.start[task.id] >= self.start[name] + tasks[name].s // self.unit)
            if task.from_end:
                of, before_s = task.from_end
                end = self.problem.lesson_s // self.unit if of is None else self.start[of] + tasks[of].s // self.unit
                self.model.add(self.start[task.id] == end - before_s // self.unit)
        for row in self.problem.within:
            first_end = self.start[row.first] + tasks[row.first].s // self.unit
            self.model.add(self.start[row.then] <= first_end + row.s // self.unit)

    def _capacities(self) -> None:
        held: dict[str, list[tuple[Any, int]]] = {}
        for task in self.problem.tasks.values():
            if not task.s:
                continue
            interval = self.model.new_fixed_size_interval_var(self.start[task.id], task.s // self.unit, task.id)
            for key, amount in self.problem.demands(task):
                held.setdefault(key, []).append((interval, amount))
        for key, rows in held.items():
            capacity = self.problem.capacities[key]
            if sum(amount for _, amount in rows) <= capacity:
                continue
            if all(2 * amount > capacity for _, amount in rows):
                self.model.add_no_overlap([interval for interval, _ in rows])
            else:
                self.model.add_cumulative([interval for interval, _ in rows], [amount for _, amount in rows], capacity)
        for bench in self.problem.benches.values():
            tasks = [task for task in self.problem.tasks.values() if task.bench == bench.id and task.hands]
            if bench.names and any(task.who for task in tasks):
                self._doers(bench.names, tasks)

    def _doers(self, names: tuple[str, ...], tasks: list[Task]) -> None:
        """Who does what, where not everybody may do everything."""
        busy: dict[str, list[Any]] = {name: [] for name in names}
        for task in tasks:
            chosen = []
            for name in self.problem.doers(task):
                does = self.does[task.id, name] = self.model.new_bool_var(f"{name} at {task.id}")
                chosen.append(does)
                if task.s:
                    busy[name].append(
                        self.model.new_optional_fixed_size_interval_var(
                            self.start[task.id], task.s // self.unit, does, f"{name} at {task.id}"
                        )
                    )
            self.model.add(sum(chosen) == task.hands)
        for intervals in busy.values():
            self.model.add_no_overlap(intervals)

    def hint(self, starts: Mapping[str, int] | None) -> None:
        """A plan to begin from."""
        for name, at_s in (starts or {}).items():
            if name in self.start:
                self.model.add_hint(self.start[name], at_s // self.unit)
        if starts and set(starts) >= set(self.problem.tasks):
            self.model.add_hint(self.end, makespan(self.problem, starts) // self.unit)

    def shorten(self, plan: Plan, seconds: float, should_stop: ShouldStop | None) -> Plan:
        """The same plan, ending no later, in which food waits less: the sum of all waits by their weights is the least
        found in so many seconds."""
        tasks, sums = self.problem.tasks, []
        for row in self.problem.waits:
            sums.append(row.weight * (self.start[row.then] - self.start[row.first] - tasks[row.first].s // self.unit))
        self.model.add(self.end <= (plan.makespan_s or 0) // self.unit)
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        self.hint(plan.starts)
        self.model.minimize(sum(sums))
        found = self.solve(seconds, None, should_stop)
        return replace(plan, starts=found.starts, ovens=found.ovens) if found.starts else plan

    def solve(self, seconds: float, progress: Progress | None, should_stop: ShouldStop | None) -> Plan:
        """Runs the solver: ``optimal``, ``feasible``, ``infeasible`` whatever the lesson's length, or ``unknown``."""
        solver = cp_model.CpSolver()
        solver.parameters.max_time_in_seconds = seconds
        solver.parameters.num_workers = WORKERS
        solver.parameters.random_seed = SEED
        watch = _Watch(self.unit, progress)
        if progress:
            solver.best_bound_callback = watch.bound_is
        done = threading.Event()
        if should_stop:
            threading.Thread(target=_stop_when, args=(solver, should_stop, done), daemon=True).start()
        try:
            status = solver.solve(self.model, watch)
        finally:
            done.set()
        self.took_s = solver.wall_time
        if status == cp_model.INFEASIBLE:
            return Plan(status="infeasible")
        bound_s = max(0, round(solver.best_objective_bound)) * self.unit if status == cp_model.FEASIBLE else 0
        if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return Plan(status="unknown", bound_s=max(bound_s, watch.bound * self.unit))
        starts = {name: solver.value(var) * self.unit for name, var in self.start.items()}
        end_s = makespan(self.problem, starts)
        return Plan(
            status="optimal" if status == cp_model.OPTIMAL else "feasible",
            starts=starts,
            makespan_s=end_s,
            ovens=which_oven(self.problem, starts, {k: o for (k, o), at in self.inside.items() if solver.value(at)}),
            bound_s=end_s if status == cp_model.OPTIMAL else bound_s,
        )


class _Watch(cp_model.CpSolverSolutionCallback):
    """Tells how far it is."""

    def __init__(self, unit: int, progress: Progress | None) -> None:
        super().__init__()
        self.unit, self.progress = unit, progress
        self.bound = 0
        self.best: int | None = None

    def on_solution_callback(self) -> None:
        """A better plan."""
        self.best = round(self.objective_value)
        self.bound = max(self.bound, round(self.best_objective_bound))
        self._tell()

    def bound_is(self, bound: float) -> None:
        """A better bound."""
        self.bound = max(self.bound, round(bound))
        self._tell()

    def _tell(self) -> None:
        if self.progress:
            self.progress(None if self.best is None else self.best * self.unit, self.bound * self.unit)


def _stop_when(solver: cp_model.CpSolver, should_stop: ShouldStop, done: threading.Event) -> None:
    while not done.wait(STOPS_EVERY_S):
        if should_stop():
            solver.stop_search()
            return


def _times(problem: Problem, fixed: Mapping[str, int]) -> list[int]:
    """Every time there is; their common divisor is the unit. Limits are no reason for a finer one."""
    found = [task.s for task in problem.tasks.values()]
    found += [task.from_end[1] for task in problem.tasks.values() if task.from_end]
    if any(task.from_end and task.from_end[0] is None for task in problem.tasks.values()):
        found.append(problem.lesson_s)
    if need_choosing(problem):
        found.append(problem.oven_change_s)
    return [*found, *fixed.values()]

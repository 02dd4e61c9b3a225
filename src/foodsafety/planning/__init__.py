"""Lessons fitted into their period: the shortest plan of steps, people and shared things, or why there is none."""

from foodsafety.planning.model import Plan, Progress, ShouldStop, makespan
from foodsafety.planning.problem import Bench, Problem, Task, Within, problem_from
from foodsafety.planning.solver import schedule

__all__ = [
    "Bench",
    "Plan",
    "Problem",
    "Progress",
    "ShouldStop",
    "Task",
    "Within",
    "makespan",
    "problem_from",
    "schedule",
]

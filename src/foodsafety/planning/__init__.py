"""Lessons fitted into their period: the shortest plan of steps, people and shared things, or why there is none."""

from foodsafety.planning.doers import unwashed
from foodsafety.planning.figures import behind_s, long_wait_s, may_be_added
from foodsafety.planning.figures import figures as planning_figures
from foodsafety.planning.groups import ALLERGIES, Allergies, Learner, Split, rules_broken, split
from foodsafety.planning.halves import HALF, TAKE_OUT, HalfTitles, Stop, half_of, halved, safe_stops
from foodsafety.planning.lesson_tasks import (
    ADULT,
    EAT,
    Around,
    Bound,
    LeftOut,
    May,
    Part,
    WholeLesson,
    Wish,
    broken,
    shared_things,
    step_task,
    whole_lesson,
)
from foodsafety.planning.model import Plan, Progress, ShouldStop, makespan
from foodsafety.planning.problem import Bench, Problem, Task, Wait, Within, problem_from
from foodsafety.planning.rest import Reached, rest_of
from foodsafety.planning.roles import rotated
from foodsafety.planning.skills import asked_of, may_do, skill_names
from foodsafety.planning.solver import schedule
from foodsafety.planning.step_order import ahead_steps, hot_water_steps, with_what_comes_first

__all__ = [
    "ADULT",
    "ALLERGIES",
    "EAT",
    "HALF",
    "TAKE_OUT",
    "Allergies",
    "Around",
    "Bench",
    "Bound",
    "HalfTitles",
    "Learner",
    "LeftOut",
    "May",
    "Part",
    "Plan",
    "Problem",
    "Progress",
    "Reached",
    "ShouldStop",
    "Split",
    "Stop",
    "Task",
    "Wait",
    "WholeLesson",
    "Wish",
    "Within",
    "ahead_steps",
    "asked_of",
    "behind_s",
    "broken",
    "half_of",
    "halved",
    "hot_water_steps",
    "long_wait_s",
    "makespan",
    "may_be_added",
    "may_do",
    "planning_figures",
    "problem_from",
    "rest_of",
    "rotated",
    "rules_broken",
    "safe_stops",
    "schedule",
    "shared_things",
    "skill_names",
    "split",
    "step_task",
    "unwashed",
    "whole_lesson",
    "with_what_comes_first",
]

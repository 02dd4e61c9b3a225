"""Whether food was cooked: lethality, the verdict on readings, and the slow cooker."""

from foodsafety.cooking.check import CookCheck, DoubtedReading, OrganismKill, check_cook, limit_for, organism_kills
from foodsafety.cooking.lethality import CREDIT_FLOOR_C, Kinetics, f_value_s, kill_targets, lethality_of
from foodsafety.cooking.slow_cooker import (
    SlowCookerPlan,
    WarmUp,
    cook_window,
    crock_fill,
    crock_sizes_l,
    danger_band_c,
    plan_slow_cooker,
    slow_cooker_times,
    warm_up,
)
from foodsafety.cooking.verdict import OBSERVATIONS, CookVerdict, Probing, cook_verdict

__all__ = [
    "CREDIT_FLOOR_C",
    "OBSERVATIONS",
    "CookCheck",
    "CookVerdict",
    "DoubtedReading",
    "Kinetics",
    "OrganismKill",
    "Probing",
    "SlowCookerPlan",
    "WarmUp",
    "check_cook",
    "cook_verdict",
    "cook_window",
    "crock_fill",
    "crock_sizes_l",
    "danger_band_c",
    "f_value_s",
    "kill_targets",
    "lethality_of",
    "limit_for",
    "organism_kills",
    "plan_slow_cooker",
    "slow_cooker_times",
    "warm_up",
]

"""Whether food was cooked: lethality, the verdict on readings, and the slow cooker."""

from foodsafety.cooking.check import CookCheck, DoubtedReading, OrganismKill, check_cook, organism_kills
from foodsafety.cooking.lethality import CREDIT_FLOOR_C, Kinetics, f_value_s, kill_targets, lethality_of
from foodsafety.cooking.limits import APPLIANCES, Appliance, limit_for, limit_of_kind, strictest
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
from foodsafety.cooking.smaller import time_of_smaller, time_of_thinner
from foodsafety.cooking.verdict import (
    OBSERVATIONS,
    CookRule,
    CookVerdict,
    Probing,
    ShownSoFar,
    believed_c,
    cook_verdict,
    error_borne_c,
    reading_order,
)

__all__ = [
    "APPLIANCES",
    "CREDIT_FLOOR_C",
    "OBSERVATIONS",
    "Appliance",
    "CookCheck",
    "CookRule",
    "CookVerdict",
    "DoubtedReading",
    "Kinetics",
    "OrganismKill",
    "Probing",
    "ShownSoFar",
    "SlowCookerPlan",
    "WarmUp",
    "believed_c",
    "check_cook",
    "cook_verdict",
    "cook_window",
    "crock_fill",
    "crock_sizes_l",
    "danger_band_c",
    "error_borne_c",
    "f_value_s",
    "kill_targets",
    "lethality_of",
    "limit_for",
    "limit_of_kind",
    "organism_kills",
    "plan_slow_cooker",
    "reading_order",
    "slow_cooker_times",
    "strictest",
    "time_of_smaller",
    "time_of_thinner",
    "warm_up",
]

"""Whether food was cooked: lethality, the verdict on readings, and the slow cooker."""

from foodsafety.cooking.lethality import CREDIT_FLOOR_C, Kinetics, f_value_s, kill_targets, lethality_of
from foodsafety.cooking.slow_cooker import WarmUp, cook_window, crock_fill, crock_sizes_l, slow_cooker_times, warm_up
from foodsafety.cooking.verdict import OBSERVATIONS, CookVerdict, Probing, cook_verdict

__all__ = [
    "CREDIT_FLOOR_C",
    "OBSERVATIONS",
    "CookVerdict",
    "Kinetics",
    "Probing",
    "WarmUp",
    "cook_verdict",
    "cook_window",
    "crock_fill",
    "crock_sizes_l",
    "f_value_s",
    "kill_targets",
    "lethality_of",
    "slow_cooker_times",
    "warm_up",
]

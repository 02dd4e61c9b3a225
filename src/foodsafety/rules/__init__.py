"""Rule profiles: a jurisdiction's limits, a kitchen's own limits laid over them, and its house rules."""

from foodsafety.rules.house import HOUSE_CHOICES, LONGEST_SCRUB_S, House, house_from
from foodsafety.rules.local import changeable_limits, local_profile
from foodsafety.rules.profile import (
    MODEL_CODE,
    ClockLimit,
    CookLimit,
    CoolingStage,
    DateMark,
    Hold,
    LocalChange,
    Profile,
    profile_digest,
    profile_ids,
    ranked_profiles,
    rule_profile,
)
from foodsafety.rules.retention import Retention, usual_retention

__all__ = [
    "HOUSE_CHOICES",
    "LONGEST_SCRUB_S",
    "MODEL_CODE",
    "ClockLimit",
    "CookLimit",
    "CoolingStage",
    "DateMark",
    "Hold",
    "House",
    "LocalChange",
    "Profile",
    "Retention",
    "changeable_limits",
    "house_from",
    "local_profile",
    "profile_digest",
    "profile_ids",
    "ranked_profiles",
    "rule_profile",
    "usual_retention",
]

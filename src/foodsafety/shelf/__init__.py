"""Time out of temperature control, the growth budget, and how long food keeps."""

from foodsafety.shelf.clocks import (
    Clock,
    ClockAction,
    ClockSchool,
    ClockVerdict,
    SchoolVerdict,
    judge_clock,
    out_of_control_s,
    ruled_by,
    school_verdict,
    standing_of,
    trips_out,
)
from foodsafety.shelf.dishes import dish_categories
from foodsafety.shelf.growth import GrowthBudget, growth_budgets
from foodsafety.shelf.storage import (
    StorageReason,
    StoredFood,
    UseBy,
    out_limit,
    storage_category,
    storage_category_ids,
    strictest_use_by,
    use_by,
)

__all__ = [
    "Clock",
    "ClockAction",
    "ClockSchool",
    "ClockVerdict",
    "GrowthBudget",
    "SchoolVerdict",
    "StorageReason",
    "StoredFood",
    "UseBy",
    "dish_categories",
    "growth_budgets",
    "judge_clock",
    "out_limit",
    "out_of_control_s",
    "ruled_by",
    "school_verdict",
    "standing_of",
    "storage_category",
    "storage_category_ids",
    "strictest_use_by",
    "trips_out",
    "use_by",
]

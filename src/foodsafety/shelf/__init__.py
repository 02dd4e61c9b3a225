"""Time out of temperature control, the growth budget, and how long food keeps."""

from foodsafety.shelf.clocks import Clock, ClockVerdict, judge_clock, out_of_control_s, school_verdict
from foodsafety.shelf.growth import GrowthBudget, growth_budgets
from foodsafety.shelf.storage import StorageReason, UseBy, storage_category, storage_category_ids, use_by
from foodsafety.shelf.trips import TripsVerdict, judge_trips

__all__ = [
    "Clock",
    "ClockVerdict",
    "GrowthBudget",
    "StorageReason",
    "TripsVerdict",
    "UseBy",
    "growth_budgets",
    "judge_clock",
    "judge_trips",
    "out_of_control_s",
    "school_verdict",
    "storage_category",
    "storage_category_ids",
    "use_by",
]

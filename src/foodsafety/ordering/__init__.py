"""The order that needs the fewest washes, and the smallest repairs of a process, each proven or with its bound."""

from foodsafety.ordering.allergen_free import AllergenRun, allergen_run
from foodsafety.ordering.compiled import Compiled
from foodsafety.ordering.constraint_model import Freedom, OrderModel
from foodsafety.ordering.reordering import in_best_order, reordered, washes_needed
from foodsafety.ordering.repair_costs import Repair, elapsed_s, wash_count
from foodsafety.ordering.repairs import find_repairs
from foodsafety.ordering.search import SearchProgress, ShouldStop, WashPlan, best_order, washes_as_written

__all__ = [
    "AllergenRun",
    "Compiled",
    "Freedom",
    "OrderModel",
    "Repair",
    "SearchProgress",
    "ShouldStop",
    "WashPlan",
    "allergen_run",
    "best_order",
    "elapsed_s",
    "find_repairs",
    "in_best_order",
    "reordered",
    "wash_count",
    "washes_as_written",
    "washes_needed",
]

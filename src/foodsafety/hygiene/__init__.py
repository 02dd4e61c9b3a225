"""Clean hands and surfaces in figures: sanitiser, and the queue at the basins."""

from foodsafety.hygiene.basins import basin_queue
from foodsafety.hygiene.sanitiser import CONTACT_S, HOT_WATER_C, HOT_WATER_S, LEAST_PPM, MOST_PPM, sanitiser_dilution

__all__ = ["CONTACT_S", "HOT_WATER_C", "HOT_WATER_S", "LEAST_PPM", "MOST_PPM", "basin_queue", "sanitiser_dilution"]

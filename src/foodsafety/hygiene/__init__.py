"""Clean hands and surfaces in figures: sanitiser, and the queue at the basins."""

from foodsafety.hygiene.basins import BasinQueue, basin_queue
from foodsafety.hygiene.sanitiser import Dilution, sanitiser_dilution, sanitiser_limits

__all__ = ["BasinQueue", "Dilution", "basin_queue", "sanitiser_dilution", "sanitiser_limits"]

"""Every page of the shelf."""

from bulwark.shelf.views.brought import bench_put, brought, brought_lines, brought_not, brought_taken, shelf_keep
from bulwark.shelf.views.printed import (
    bench_label,
    label,
    note_words,
    printer_calls,
    shelf_labels,
    shelf_note,
    tray,
    tray_label,
)
from bulwark.shelf.views.shelves import (
    recall,
    shelf,
    shelf_act,
    shelf_export,
    shelf_failure,
    shelf_power,
    shelf_work,
    take_stock,
    take_stock_entry,
    take_stock_here,
)

__all__ = [
    "bench_label",
    "bench_put",
    "brought",
    "brought_lines",
    "brought_not",
    "brought_taken",
    "label",
    "note_words",
    "printer_calls",
    "recall",
    "shelf",
    "shelf_act",
    "shelf_export",
    "shelf_failure",
    "shelf_keep",
    "shelf_labels",
    "shelf_note",
    "shelf_power",
    "shelf_work",
    "take_stock",
    "take_stock_entry",
    "take_stock_here",
    "tray",
    "tray_label",
]

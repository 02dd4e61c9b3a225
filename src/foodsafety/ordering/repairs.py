"""Ways to repair a process: washes, second tools, other hands, moved steps, or another order.

Each repair is a whole process again, judged anew: it says what it still leaves, and what it costs
in seconds, litres and tools. The counts come from ``search`` (order and washes alone, exact) and
``constraint_model`` (everything else, proven or with its bound).
"""

from __future__ import annotations

from collections.abc import Mapping

from foodsafety.contamination import (
    find_contamination,
)
from foodsafety.ordering.constraint_model import Freedom
from foodsafety.ordering.house_repairs import gloved, own_boards
from foodsafety.ordering.rebuilding import kitchen_of
from foodsafety.ordering.repair_costs import (
    Repair,
    RepairKind,
)
from foodsafety.recipes import Process, Step
from foodsafety.rules import House

REPAIR_S = 1.5


_FREEDOMS: Mapping[RepairKind, Freedom] = {
    "wash": Freedom(),
    "tool": Freedom(washes=False, tools=True),
    "hands": Freedom(washes=False, people=True),
    "move": Freedom(washes=False, moves=True),
    "mixed": Freedom(moves=True, tools=True, people=True),
}


def find_repairs(
    process: Process, house: House | None = None, *, scrub_s: float = 20.0, seconds: float = REPAIR_S
) -> tuple[Repair, ...]:
    """The smallest repairs of a process in the order written, each of its own kind, fewest changes
    first; of equal ones the quickest. Empty where there is nothing to repair, or nothing helps.

    A repair counts only if it leaves fewer findings than there are. ``scrub_s`` [s] is the
    profile's hand-wash, ``seconds`` the time for each kind.
    """
    kitchen = kitchen_of(process, house, scrub_s)
    now = find_contamination(process, kitchen.house)
    if not now:
        return ()
    found = [kitchen.solved(freedom, kind, seconds=seconds) for kind, freedom in _FREEDOMS.items()]
    found += [own_boards(kitchen, now), gloved(kitchen, now)]
    rows = [repair for repair in found if repair and repair.changes and len(repair.left) < len(now)]
    # A mixture is worth its many kinds only where no single kind does as much with as few changes.
    pure = min(((len(m.left), m.changes) for m in rows if m.kind != "mixed"), default=None)
    rows = [m for m in rows if m.kind != "mixed" or pure is None or (len(m.left), m.changes) < pure]
    unique: dict[tuple[Step, ...], Repair] = {}
    for row in sorted(rows, key=lambda m: (len(m.left), m.changes, m.cost.seconds)):
        unique.setdefault(row.process.steps, row)
    return tuple(unique.values())

"""One eater's portion kept free of allergens."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from foodsafety.contamination import (
    Finding,
    find_contamination,
)
from foodsafety.ordering.constraint_model import Freedom
from foodsafety.ordering.rebuilding import Kitchen, kitchen_of
from foodsafety.ordering.reordering import in_best_order
from foodsafety.ordering.repair_costs import (
    Repair,
    RepairCost,
    elapsed_s,
    wash_count,
)
from foodsafety.ordering.repairs import REPAIR_S
from foodsafety.ordering.search import ShouldStop
from foodsafety.recipes import Process
from foodsafety.rules import House


@dataclass(frozen=True, slots=True, kw_only=True)
class AllergenRun:
    """How to keep one eater's portion free. ``repair`` is None where it cannot be done with these
    tools; ``why`` are the findings that no order, wash or second tool ends."""

    repair: Repair | None
    why: tuple[Finding, ...]


def allergen_run(
    process: Process,
    portion: str,
    allergens: Iterable[str],
    house: House | None = None,
    *,
    scrub_s: float = 20.0,
    spare: Mapping[str, int] | None = None,
    seconds: float = REPAIR_S,
    should_stop: ShouldStop | None = None,
) -> AllergenRun:
    """The order, and the tools, that keep a served food free of allergens; other findings are
    not its concern. ``spare`` counts, by kind, the tools the kitchen has beyond those written:
    a second tool is only used where there is one (None: where it is not fixed)."""
    watched = frozenset(allergens)
    asked = replace(process, free_of={portion: watched})
    kitchen = kitchen_of(asked, house, scrub_s)
    candidates = [_as_it_stands(kitchen), in_best_order(asked, house, scrub_s=scrub_s, should_stop=should_stop)]
    if spare is None or any(spare.get(tool.kind, 0) for tool in process.tools.values()):
        freedom = Freedom(moves=True, tools=True)
        candidates.append(kitchen.solved(freedom, "mixed", seconds=seconds))
    rows = [repair for repair in candidates if repair]
    for repair in sorted(rows, key=lambda m: (m.cost.tools, m.changes, m.cost.seconds)):
        if not _of_allergens(repair.left, watched) and _has_tools(repair, process, spare):
            return AllergenRun(repair=repair, why=())
    # What the most that can be done still leaves: the steps as they stand may hide it behind a wash.
    most = min(rows, key=lambda m: (len(_of_allergens(m.left, watched)), -m.changes, -m.washes))
    return AllergenRun(repair=None, why=_of_allergens(most.left, watched))


def _of_allergens(findings: Iterable[Finding], watched: frozenset[str]) -> tuple[Finding, ...]:
    return tuple(finding for finding in findings if finding.soil in watched)


def _has_tools(repair: Repair, process: Process, spare: Mapping[str, int] | None) -> bool:
    if spare is None:
        return True
    used: dict[str, int] = {}
    for _, old in repair.copies:
        kind = process.tools[old].kind
        used[kind] = used.get(kind, 0) + 1
    return all(count <= spare.get(kind, 0) for kind, count in used.items())


def _as_it_stands(kitchen: Kitchen) -> Repair:
    process = kitchen.process
    return Repair(
        kind="order",
        process=process,
        changes=0,
        cost=RepairCost(seconds=0, litres=0, tools=0),
        washes=wash_count(process),
        elapsed_s=elapsed_s(process),
        left=find_contamination(process, kitchen.house),
    )

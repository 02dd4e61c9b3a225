"""What the flow map is asked, checked at the edge."""

import json
from collections.abc import Mapping

from bulwark.flow.selectors import FlowQuery
from foodsafety.ordering import WashPlan
from foodsafety.quantities import CoreError
from foodsafety.recipes import MAX_STEPS, WASHES, Process, washable

MOST_TEXT = 40_000


def asked_of(query: Mapping[str, str]) -> FlowQuery:
    """What a query asks. A thing that cannot be is left aside: the map shows itself as written."""
    order = tuple(filter(None, query.get("order", "")[:MOST_TEXT].split(",")))
    return FlowQuery(
        order=order if len(order) <= MAX_STEPS else (),
        finding=_whole(query.get("finding")) or 0,
        at=_whole(query.get("at")),
        soil=query.get("soil", "")[:80],
        carrier=query.get("carrier", "")[:80],
    )


def _whole(text: str | None) -> int | None:
    return int(text) if text and text.isdecimal() and len(text) < 5 else None


def plan_of(text: str, process: Process) -> WashPlan:
    """An order that a long look found, as its form brings it back. Raises CoreError unless it
    names each step once, in an order that can be done, and washes what can be washed."""
    try:
        data = json.loads(text[:MOST_TEXT])
        order = tuple(str(name) for name in data["order"])
        before = tuple((str(step), tuple(str(name) for name in names)) for step, names in data["wash_before"])
    except (ValueError, KeyError, TypeError):
        raise CoreError("plan", "order_unreadable") from None
    by_id = {step.id: step for step in process.steps}
    if sorted(order) != sorted(by_id):
        raise CoreError("plan", "steps_changed")
    made, seen = set(process.foods), set[str]()
    for name in order:
        step = by_id[name]
        if not made.issuperset(step.foods) or not seen.issuperset(step.after):
            raise CoreError("plan", "step_too_early", step=name)
        seen.add(name)
        made |= {step.makes} if step.makes else set()
    for name, carriers in before:
        if name not in by_id or by_id[name].do in WASHES or not all(washable(process, c) for c in carriers):
            raise CoreError("plan", "cannot_be_washed", step=name)
    return WashPlan(order=order, washes=sum(len(names) for _, names in before), wash_before=before, proven=False)


def plan_text(plan: WashPlan) -> str:
    """The same as text, for a form to bring back."""
    return json.dumps({"order": plan.order, "wash_before": plan.wash_before})

"""What the flow map is asked, checked at the edge."""

from collections.abc import Mapping

from bulwark.flow.pages import Asked
from foodsafety.recipe import MAX_STEPS

MOST_TEXT = 40_000


def asked_of(query: Mapping[str, str]) -> Asked:
    """What a query asks. A thing that cannot be is left aside: the map shows itself as written."""
    order = tuple(filter(None, query.get("order", "")[:MOST_TEXT].split(",")))
    return Asked(
        order=order if len(order) <= MAX_STEPS else (),
        finding=_whole(query.get("finding")) or 0,
        at=_whole(query.get("at")),
        soil=query.get("soil", "")[:80],
        carrier=query.get("carrier", "")[:80],
    )


def _whole(text: str | None) -> int | None:
    return int(text) if text and text.isdecimal() and len(text) < 5 else None

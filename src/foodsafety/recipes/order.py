"""One order of a text: what it says to do, as plain words and figures."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Order:
    """One thing the text says to do. ``do`` is a verb of a process or "none" for setting up;
    ``verb`` the word used, ``text`` the words from it to the next order, ``lead`` what stands
    before it ("In a bowl,"). ``object_of`` is the text of a later order whose object this one shares
    ("peel and grate the carrots"). Times in minutes, temperatures [C]; None where nothing is said."""

    do: str
    verb: str
    text: str
    lead: str = ""
    low_min: float | None = None
    high_min: float | None = None
    oven_c: float | None = None
    core_c: float | None = None
    gas_mark: float | None = None
    level: str = ""
    until: str = ""
    object_of: str = ""

    @property
    def words(self) -> str:
        """Everything that belongs to this order."""
        return f"{self.lead} {self.text}".strip()


def time_of(order: Order) -> tuple[str, float | None]:
    """The words that an order's time stands in, and the time [min]: the same for "leeks in, 8 min." and "8 min"."""
    return order.text[:24].rstrip(" .!"), order.high_min

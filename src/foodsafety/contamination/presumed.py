"""Which of a finding's contacts nobody said: the reader took the hands or the kit for granted."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from foodsafety.contamination.findings import Finding
from foodsafety.recipes import Process, is_presumed


@dataclass(frozen=True, slots=True, kw_only=True)
class PresumedContact:
    """A contact that a finding rests on and that nobody said: at ``step``, by ``carrier`` (a tool or a
    person, ``by_hand``), with ``food``."""

    step: str
    carrier: str
    by_hand: bool
    food: str


def presumed_contact(
    process: Process, steps: Mapping[str, Mapping[str, Any]], found: Finding
) -> PresumedContact | None:
    """The last contact on a finding's way to the plate that was presumed, by the steps in plain data; None
    where the text says each."""
    for k in range(len(found.at) - 1, 0, -1):
        step = steps.get(found.at[k])
        for carrier, food in ((found.path[k - 1], found.path[k]), (found.path[k], found.path[k - 1])):
            if step is not None and food in process.food_ids and is_presumed(process, step, carrier):
                by_hand = carrier in process.people
                return PresumedContact(step=found.at[k], carrier=carrier, by_hand=by_hand, food=food)
    return None

"""Which of a finding's contacts nobody said: the reader took the hands or the kit for granted."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from foodsafety.contamination.analysis import analyse
from foodsafety.contamination.findings import Finding
from foodsafety.recipes import Process, is_presumed, process_from, say_way
from foodsafety.rules import House

# Answers tried one after another; a recipe has a few.
_MOST_ANSWERS = 24


@dataclass(frozen=True, slots=True, kw_only=True)
class PresumedContact:
    """A contact that a finding rests on and that nobody said: at ``step``, by ``carrier`` (a tool or a
    person, ``by_hand``), with ``food``."""

    step: str
    carrier: str
    by_hand: bool
    food: str


def said_and_asked(
    data: Mapping[str, Any], findings: Sequence[Finding], house: House
) -> tuple[tuple[Finding, ...], tuple[PresumedContact, ...]]:
    """The findings that stand whatever a person answers about what nobody said, and the contacts to ask about, each
    once: the others hang on them. ``data`` is the process in plain data, ``findings`` what its analysis found.
    A finding is left to a question only while another answer takes it away."""
    steps = {str(step["id"]): step for step in data["steps"]}
    asked: dict[tuple[str, str], PresumedContact] = {}
    for found in findings:
        contact = presumed_contact(process_from(data), steps, found)
        if contact is not None:
            asked.setdefault((contact.step, contact.carrier), contact)
    now = data
    left = list(findings)
    for _ in range(_MOST_ANSWERS):
        process, steps = process_from(now), {str(step["id"]): step for step in now["steps"]}
        contacts = (presumed_contact(process, steps, found) for found in left)
        open_one = next((contact for contact in contacts if contact is not None), None)
        if open_one is None:
            break
        now = say_way(now, open_one.step, open_one.carrier, "another", _clean)
        left = list(analyse(process_from(now), house).findings)
    stand = {(found.rule, found.food, found.soil) for found in left}
    kept = tuple(found for found in findings if (found.rule, found.food, found.soil) in stand)
    return kept, tuple(asked.values()) if len(kept) < len(findings) else ()


def _clean(sort: str) -> list[str]:
    return [f"clean {sort}", f"another clean {sort}", *(f"clean {sort} {n}" for n in range(3, 3 + _MOST_ANSWERS))]


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

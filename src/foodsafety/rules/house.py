"""House rules: what a kitchen has chosen where the schools differ."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from foodsafety.quantities import CoreError, finite


@dataclass(frozen=True, slots=True, kw_only=True)
class House:
    """A kitchen's choices where the schools differ.

    ``boards``: "one_in_order" lets one board serve raw and ready to eat if cleaned between;
    "separate" keeps a board for each. ``drying``, ``produce`` and ``eggs`` say how hands and kit
    are dried, how produce is washed and how firm eggs are cooked. ``scrub_s`` [s] is the kitchen's
    own hand-washing time, 0 for the profile's; it can only be longer. ``cook_equivalents`` opens
    a profile's table of equivalent holds. ``arrive`` says whether hands count as unwashed when a
    process begins, ``unwashed_contact`` whether what unwashed produce leaves on other food is advice
    or a finding.
    """

    boards: Literal["one_in_order", "separate"] = "one_in_order"
    gloves: Literal["bare", "gloves"] = "bare"
    sanitise: Literal["sanitise", "wash"] = "sanitise"
    drying: Literal["air", "paper", "clean_cloth"] = "air"
    produce: Literal["running_water", "brush", "soak_and_rinse"] = "running_water"
    eggs: Literal["firm", "assured_runny"] = "firm"
    scrub_s: float = 0.0
    cook_equivalents: bool = False
    arrive: Literal["washed", "unwashed"] = "washed"
    unwashed_contact: Literal["advice", "rule"] = "advice"


HOUSE_CHOICES: dict[str, tuple[object, ...]] = {
    "boards": ("one_in_order", "separate"),
    "gloves": ("bare", "gloves"),
    "drying": ("air", "paper", "clean_cloth"),
    "produce": ("running_water", "brush", "soak_and_rinse"),
    "sanitise": ("sanitise", "wash"),
    "eggs": ("firm", "assured_runny"),
    "cook_equivalents": (True, False),
    "arrive": ("washed", "unwashed"),
    "unwashed_contact": ("advice", "rule"),
}
LONGEST_SCRUB_S = 120.0


def house_from(data: Mapping[str, Any] | None) -> House:
    """House rules from plain data. A choice we know with a value we do not raises CoreError;
    a rule for a part that does not exist yet is left aside."""
    chosen: dict[str, Any] = {}
    for key, value in (data or {}).items():
        if key == "scrub_s":
            chosen[key] = finite(value, "house.scrub_s", low=0, high=LONGEST_SCRUB_S)
            continue
        allowed = HOUSE_CHOICES.get(key)
        if allowed is None:
            continue
        if value not in allowed:
            raise CoreError(f"house.{key}", "not_one_of", value=value, allowed=list(allowed))
        chosen[key] = value
    return House(**chosen)

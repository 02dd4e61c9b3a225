"""What a contact breaks, as a fact: its rule, its path, how much it weighs and where the rule is written."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cache
from typing import Any

from foodsafety.data import data_text, profile_text
from foodsafety.foods import soil
from foodsafety.rules import MODEL_CODE, House

MOST_SEVERE = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """A structured fact about what went wrong, or could; never a sentence.

    ``path`` runs from the source of the soil to the food that is eaten; ``at`` says, for each
    member of it, at which step the soil came there ("" for the source). ``step`` is the first bad
    contact. ``evidence`` may hold ``wash`` (the carrier to wash and the step before which it would
    still clear this), ``too_late`` (a step that washes it afterwards) and ``wiped`` (one that only
    wiped or rinsed it in between).
    """

    rule: str
    step: str
    soil: str = ""
    food: str = ""
    path: tuple[str, ...] = ()
    at: tuple[str, ...] = ()
    evidence: Mapping[str, Any] = field(default_factory=dict)

    @property
    def key(self) -> tuple[str, str, str, str]:
        """What makes two findings the same finding."""
        return (self.rule, self.step, self.soil, self.food)


@cache
def _sources(profile_id: str) -> dict[str, str]:
    return tomllib.loads(profile_text(profile_id, "contact_sources.toml"))


@cache
def _common_sources() -> dict[str, str]:
    return tomllib.loads(data_text("contact_rules.toml"))


def rule_source(rule: str, profile_id: str = MODEL_CODE) -> str:
    """Where a contact rule is written, under a profile; the model code's text where neither the
    profile nor guidance in general has one; empty for a rule of another subject."""
    return _sources(profile_id).get(rule) or _common_sources().get(rule) or _sources(MODEL_CODE).get(rule, "")


def severity(finding: Finding, *, vulnerable: bool = False) -> int:
    """How much a finding matters, 1 to 4: by its soil, one more for vulnerable eaters. A house
    rule or a thing left out weighs 1. It only ranks: every finding stands."""
    base = soil(finding.soil).severity if finding.soil and finding.rule not in HOUSE_RULES else 1
    return min(MOST_SEVERE, base + vulnerable)


HOUSE_RULES = frozenset({"board-not-separate", "bare-hands-on-ready-to-eat"})


# What unwashed produce leaves on other food: never worded as raw.
UNWASHED_CONTACT = "ready-to-eat-meets-unwashed"


def practice_only(soil_name: str, house: House) -> bool:
    """True if a soil carried from food to food is advice in this kitchen, not a finding."""
    return soil(soil_name).practice and house.unwashed_contact == "advice"


def weighed(findings: Iterable[Finding], house: House) -> tuple[tuple[Finding, ...], tuple[Finding, ...]]:
    """Findings parted by weight: those that may harm someone, and good practice."""
    rows = tuple(findings)
    advice = tuple(f for f in rows if f.rule == UNWASHED_CONTACT and practice_only(f.soil, house))
    return tuple(f for f in rows if f not in advice), advice

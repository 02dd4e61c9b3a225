"""For how long names are kept where nobody has chosen, by rule profile."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass

from foodsafety.data import data_text, profile_text


@dataclass(frozen=True, slots=True, kw_only=True)
class Retention:
    """So many months names stay in records of lessons, and whose answers were whose. ``source`` is the section that
    says so; empty where none does, and the figures are the project's own."""

    lessons_months: int
    answers_months: int
    source: str


def usual_retention(profile_id: str) -> Retention:
    """What holds by a rule profile until an organisation chooses."""
    usual, own = tomllib.loads(data_text("retention.toml")), tomllib.loads(profile_text(profile_id, "retention.toml"))
    return Retention(**{**usual, **own})

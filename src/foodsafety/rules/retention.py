"""For how long names are kept where nobody has chosen, by rule profile."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass

from foodsafety.data import data_text, profile_text


@dataclass(frozen=True, slots=True)
class Retention:
    """So many months names stay, by kind of record: records of lessons, whose answers were whose, who was hurt,
    certificates, records from elsewhere. ``source`` is the section that says so; empty where none does, and the figures
    are the project's own."""

    months: Mapping[str, int]
    source: str


def usual_retention(profile_id: str) -> Retention:
    """What holds by a rule profile until an organisation chooses."""
    usual, own = tomllib.loads(data_text("retention.toml")), tomllib.loads(profile_text(profile_id, "retention.toml"))
    months = {**usual["months"], **own.get("months", {})}
    return Retention(months=months, source=own.get("source", usual["source"]))

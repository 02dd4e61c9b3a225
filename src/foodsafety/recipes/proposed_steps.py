"""A step as it was read, with the words it came from and what was guessed."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any


def all_in(steps: Iterable[ReadStep], foods: Iterable[str]) -> set[str]:
    """Foods with everything that has gone into them by these steps, made or not."""
    parts = {step.makes: step.foods for step in steps if step.makes}
    left, seen = list(foods), set[str]()
    while left:
        at = left.pop()
        if at not in seen:
            seen.add(at)
            left += parts.get(at, [])
    return seen


@dataclass(slots=True, kw_only=True)
class ReadStep:
    """One proposed step; ``text`` the words it came from, ``guesses`` what nobody said."""

    id: str
    do: str
    text: str
    foods: list[str] = field(default_factory=list)
    tools: list[str] = field(default_factory=list)
    hands: list[str] = field(default_factory=list)
    makes: str | None = None
    after: list[str] = field(default_factory=list)
    active_min: float = 0.0
    waiting_min: float = 0.0
    low_min: float | None = None
    oven_c: float | None = None
    core_c: float | None = None
    level: str = ""
    until: str = ""
    source: str = ""
    guesses: list[str] = field(default_factory=list)

    def as_data(self) -> dict[str, Any]:
        """The step in the process's own form, with what only people and the plan read."""
        always = ("foods", "tools", "hands")
        return {key: value for key, value in self._fields().items() if key in always or not _is_unsaid(value)}

    def _fields(self) -> dict[str, Any]:
        return {
            "id": self.id,
            "do": self.do,
            "foods": self.foods,
            "tools": self.tools,
            "hands": self.hands,
            "makes": self.makes,
            "after": self.after,
            "minutes": self.active_min + self.waiting_min,
            "waiting_min": self.waiting_min,
            "low_min": self.low_min,
            "heat": _said({"oven_c": self.oven_c, "level": self.level or None}),
            "end": _said({"core_c": self.core_c, "cue": self.until or None}),
            "title": _title(self.text),
            "detail": self.text,
            "source": self.source,
            "guesses": self.guesses,
        }


def _said(fields: dict[str, Any]) -> dict[str, Any]:
    return {key: value for key, value in fields.items() if value is not None}


def _is_unsaid(value: object) -> bool:
    return value in (None, [], {}, "", 0.0)


def _title(text: str) -> str:
    """The first words of an order, as a step's name."""
    parts = re.split(r"[,.;:()]| until | for \d| and ", text)
    first = next((part.strip() for part in parts if re.search(r"[^\W\d_]{2}", part)), "")
    short = first if len(first) <= 48 else first[:48].rsplit(" ", 1)[0]
    return short[:1].upper() + short[1:]


def part_cook(cook: ReadStep, rest: ReadStep, staged_min: float) -> None:
    """Parts a cook so long before its end [min]: what it ends with goes to the rest of it. One that is no longer than
    that keeps its time, and somebody is asked to look."""
    rest.tools, rest.level, rest.guesses = list(cook.tools), cook.level, []
    cook.until, cook.core_c = "", None
    whole = cook.active_min + cook.waiting_min
    if whole and whole <= staged_min:
        rest.guesses = ["time"]
    elif cook.waiting_min:
        rest.active_min, rest.waiting_min = 0.0, staged_min
        cook.waiting_min -= staged_min
    elif whole:
        cook.active_min -= staged_min
    cook.low_min = cook.low_min - staged_min if cook.low_min and cook.low_min > staged_min else None

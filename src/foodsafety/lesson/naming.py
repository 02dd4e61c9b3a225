"""What a bench calls its foods. A name is for people: the log keeps the recipe's own names, so that a name may be
given, changed and taken back while older entries go on meaning what they meant."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from foodsafety.lesson.entry import Event, voided
from foodsafety.recipes import Process, rename_food


@dataclass(frozen=True, slots=True)
class Names:
    """``called``: each renamed food of the recipe by what it is called now. ``known``: every name that was ever
    given, by the food of the recipe that it was given to; no two foods share one."""

    called: Mapping[str, str] = field(default_factory=dict)
    known: Mapping[str, str] = field(default_factory=dict)

    @property
    def now(self) -> Mapping[str, str]:
        """Every name a food ever had, the recipe's own among them, by what it is called now."""
        return {name: self.called.get(food, food) for name, food in self.known.items()} | dict(self.called)


def names_given(process: Process, events: Iterable[Event]) -> Names:
    """The names that a log gives, in the order recorded; ``process`` is the recipe's own. A voided entry names
    nothing, but what it said is still known: a label may say it. A name that is or was another thing's names
    nothing: it was taken first."""
    rows = list(events)
    not_counted = voided(rows)
    called: dict[str, str] = {}
    known: dict[str, str] = {}
    for row in rows:
        food, name = str(row.data.get("food")), str(row.data.get("name"))
        if row.kind != "named" or food not in process.food_ids:
            continue
        if name in taken_names(process, food) or known.get(name, food) != food:
            continue
        if row.id not in not_counted:
            called[food] = name
        if name != food:
            known[name] = food
    return Names({food: name for food, name in called.items() if food != name}, known)


def taken_names(process: Process, food: str) -> frozenset[str]:
    """The names of all else in a process: other foods, kit, people."""
    return frozenset({*process.food_ids, *process.tools, *process.people} - {food})


def nameable(process: Process) -> tuple[str, ...]:
    """The foods of a recipe, what is made before what it is made of: that is what lacks a name most often."""
    return (*process.made, *(name for name in process.foods if name not in process.made))


def under_names(data: Mapping[str, Any], now: Mapping[str, str]) -> Mapping[str, Any]:
    """A recipe's process with its foods called what the bench calls them ``now``."""
    own = {*data["foods"], *(step.get("makes") for step in data["steps"])}
    for food, name in now.items():
        if food in own and food != name:
            data = rename_food(data, food, name)
    return data

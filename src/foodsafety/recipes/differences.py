"""What is different between two states of a process in plain data: a recipe and the lesson that was made from it,
or a recipe and its copy."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Any, Literal

ChangeKind = Literal[
    "step-added",
    "step-removed",
    "step-moved",
    "step-changed",
    "food-added",
    "food-removed",
    "food-changed",
    "served",
    "discarded",
]
# What of a step is compared, and what stands where nothing is said.
_COMPARED: tuple[tuple[str, Any], ...] = (
    ("do", ""),
    ("title", ""),
    ("foods", []),
    ("tools", []),
    ("hands", []),
    ("makes", ""),
    ("minutes", 0),
    ("waiting_min", 0),
    ("heat", {}),
    ("end", {}),
    ("through", []),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One difference: of a step (by its id, with its title) or of a food, and for what is changed the field
    with its value before and after."""

    kind: ChangeKind
    step: str = ""
    name: str = ""
    field: str = ""
    before: Any = None
    after: Any = None


def changes(before: Mapping[str, Any], after: Mapping[str, Any]) -> tuple[Change, ...]:
    """Every difference that matters to somebody who cooks, steps first, in the order of the later process."""
    return (*_steps(before, after), *_foods(before, after), *_fates(before, after))


def _steps(before: Mapping[str, Any], after: Mapping[str, Any]) -> Iterator[Change]:
    old = {str(step["id"]): step for step in before["steps"]}
    new = {str(step["id"]): step for step in after["steps"]}
    for name, step in old.items():
        if name not in new:
            yield Change(kind="step-removed", step=name, name=str(step.get("title") or step["do"]))
    moved = _moved([name for name in old if name in new], [name for name in new if name in old])
    for name, step in new.items():
        title = str(step.get("title") or step["do"])
        if name not in old:
            yield Change(kind="step-added", step=name, name=title)
            continue
        if name in moved:
            yield Change(kind="step-moved", step=name, name=title)
        for key, nothing in _COMPARED:
            was, now = old[name].get(key) or nothing, step.get(key) or nothing
            if was != now:
                yield Change(kind="step-changed", step=name, name=title, field=key, before=was, after=now)


def _moved(old: list[str], new: list[str]) -> set[str]:
    """The steps that stand elsewhere among those that both have: as few as explain the new order."""
    kept = {
        name
        for block in SequenceMatcher(None, old, new, autojunk=False).get_matching_blocks()
        for name in old[block.a : block.a + block.size]
    }
    return set(old) - kept


def _foods(before: Mapping[str, Any], after: Mapping[str, Any]) -> Iterator[Change]:
    old, new = before["foods"], after["foods"]
    for name in old:
        if name not in new:
            yield Change(kind="food-removed", name=name)
    for name, food in new.items():
        if name not in old:
            yield Change(kind="food-added", name=name)
            continue
        for key in ("kind", "soils", "allergens"):
            was, now = old[name].get(key), food.get(key)
            if was != now:
                yield Change(kind="food-changed", name=name, field=key, before=was, after=now)


def _fates(before: Mapping[str, Any], after: Mapping[str, Any]) -> Iterator[Change]:
    fates: tuple[tuple[ChangeKind, str], ...] = (("served", "serve"), ("discarded", "discarded"))
    for kind, key in fates:
        was, now = list(before.get(key) or []), list(after.get(key) or [])
        if sorted(was) != sorted(now):
            yield Change(kind=kind, field=key, before=was, after=now)

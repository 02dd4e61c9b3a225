"""In which order the steps of a recipe may be done: what each waits for, and what can be done before the lesson."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import cache

from foodsafety.foods import carrier_kinds, is_raw
from foodsafety.planning.figures import figures
from foodsafety.recipes import Process, Step


@cache
def shared_kinds() -> Mapping[str, str]:
    """What of the things that benches share each kind of tool is."""
    rows = {**figures()["shared"], "oven": carrier_kinds("ovens")}
    return {kind: name for name, kinds in rows.items() for kind in kinds}


def parts_of(process: Process, step: Step) -> set[str]:
    """The foods of a recipe that a step has its hands on, by what they were made of."""
    return {part for name in step.foods for part in process.ingredients_of(name)}


def befores(process: Process, *, as_written: bool = False) -> dict[str, tuple[str, ...]]:
    """For each step the steps it waits for: those it says, and of those written before it

    - all that share a food or a tool with it,
    - every wash of hands, where hands do it, and of the washes every step with hands on raw food,
    - where both have hands on raw food, since one pair of hands does that work and washes after it,
    - where hands do both, all if one of the two is on raw food and the other is not: whoever does the one may do the
      other, and nobody says that they wash in between,
    - everything, where it is the serving.

    ``as_written``: all that hands do stays in its order, whatever it is."""
    found: dict[str, tuple[str, ...]] = {}
    seen: list[_Seen] = []
    raw = raw_handed(process)
    for step in process.steps:
        this = _Seen(
            step=step,
            foods={*step.foods, *([step.makes] if step.makes else [])},
            tools={name for name in step.tools if shared_kinds().get(process.tools[name].kind) != "oven"},
            raw=step.id in raw,
        )
        found[step.id] = tuple(other.step.id for other in seen if _waits(this, other, as_written=as_written))
        seen.append(this)
    return found


def raw_handed(process: Process) -> frozenset[str]:
    """The steps at which hands are on food that is raw, or was and has not been cooked to the end."""
    found: set[str] = set()
    cooked: set[str] = set()
    for step in process.steps:
        parts = parts_of(process, step)
        soils = {soil for name in parts - cooked if name in process.foods for soil in process.foods[name].soils}
        if step.hands and any(is_raw(soil) for soil in soils):
            found.add(step.id)
        if step.do == "heat":
            cooked |= parts
    return frozenset(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Seen:
    """A step with what it has its hands on."""

    step: Step
    foods: set[str]
    tools: set[str]
    raw: bool


def _waits(this: _Seen, other: _Seen, *, as_written: bool) -> bool:
    """True if a step must not begin before one written before it has ended."""
    step, first = this.step, other.step
    if first.id in step.after or step.do == "serve" or other.foods & this.foods or other.tools & this.tools:
        return True
    if not (step.hands and first.hands):
        return False
    washes = "wash_hands" in (step.do, first.do)
    if this.raw and other.raw:  # one pair of hands does it all, and washes
        return True
    return as_written or (first.do == "wash_hands") or (washes and other.raw) or (not washes and other.raw != this.raw)


def ahead_steps(process: Process) -> tuple[str, ...]:
    """Steps that can be done before the lesson: cold work at food that is neither raw nor unknown, whoever or whatever
    does it, behind nothing but other such work and hand-washing."""
    found: list[str] = []
    before = befores(process)
    free = {step.id for step in process.steps if step.do == "wash_hands"}
    for step in process.steps:
        parts = [process.foods[name] for name in parts_of(process, step) if name in process.foods]
        cold = step.do in figures()["ahead"]["does"] and not any(_holds_back(soil) for f in parts for soil in f.soils)
        if cold and set(before[step.id]) <= free | set(found):
            found.append(step.id)
    return tuple(found)


def hot_water_steps(process: Process) -> tuple[str, ...]:
    """Steps that only heat water, and what only puts it into the pot: it can be hot when the lesson begins."""
    found: list[str] = []
    before = befores(process)
    free = {step.id for step in process.steps if step.do == "wash_hands"}
    for step in process.steps:
        kinds = [process.foods[name].kind for name in parts_of(process, step) if name in process.foods]
        only = bool(kinds) and all(kind is not None and kind.group == "water" for kind in kinds)
        if only and step.do in figures()["water"]["does"] and set(before[step.id]) <= free | set(found):
            found.append(step.id)
    return tuple(found)


def _holds_back(soil: str) -> bool:
    return soil == "unknown" or is_raw(soil)


def with_what_comes_first(process: Process, ahead: Collection[str]) -> frozenset[str]:
    """Steps done before the lesson, with those that must be done before them: what is cut then is rinsed then."""
    before, may = befores(process), {*ahead_steps(process), *hot_water_steps(process)}
    found: set[str] = set()
    waiting = [name for name in ahead if name in may]
    while waiting:
        name = waiting.pop()
        found.add(name)
        waiting += [other for other in before[name] if other in may - found]
    return frozenset(found)

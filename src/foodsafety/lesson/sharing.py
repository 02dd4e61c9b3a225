"""What an entry at one bench means for the others, where they share kit: whose board has met raw, whose is clean."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from foodsafety.foods import carrier_kinds
from foodsafety.lesson.ovens import in_ovens
from foodsafety.lesson.state import State
from foodsafety.recipes import Step

# A fridge that benches share, among the names of kit.
FRIDGE = "fridge"


@dataclass(frozen=True, slots=True, kw_only=True)
class SharedChange:
    """A shared tool that was soiled (with ``soils``), or cleaned (none)."""

    tool: str
    soils: tuple[str, ...] = ()
    # From which food each of them came.
    sources: tuple[str, ...] = ()


def shared_changes(before: State, after: State, shared: Iterable[str]) -> tuple[SharedChange, ...]:
    """What one entry has changed about the shared kit of its bench: newly soiled, or cleaned."""
    found = []
    tools = after.plan.process.tools
    for tool in shared:
        if tool not in tools or tools[tool].kind in carrier_kinds("ovens"):
            continue
        then, now = frozenset(before.surfaces.get(tool, ())), frozenset(after.surfaces.get(tool, ()))
        if new := tuple(sorted(now - then)):
            found.append(SharedChange(tool=tool, soils=new, sources=sources(after, tool, new)))
        elif not now and (then or after.cleaned.get(tool) != before.cleaned.get(tool)):
            found.append(SharedChange(tool=tool))
    return tuple(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class OvenChange:
    """A step whose food went ``into`` an oven that is shared, or came out of it."""

    oven: str
    step: Step
    into: bool


def oven_changes(before: State, after: State, shared: Iterable[str]) -> tuple[OvenChange, ...]:
    """What one entry of a bench has changed about the ovens that it shares."""
    ovens = frozenset(shared)
    then, now = ({(step, oven) for step, has in in_ovens(at).items() for oven in has} for at in (before, after))
    moved = sorted((then ^ now), key=lambda row: (row in now, row))
    plan = after.plan
    return tuple(OvenChange(oven=oven, step=plan.step(n), into=(n, oven) in now) for n, oven in moved if oven in ovens)


def sources(state: State, carrier: str, soils: Iterable[str]) -> tuple[str, ...]:
    """From which food each of some soils on a carrier came, "" where that is not known."""
    foods, held = state.plan.process.food_ids, state.surfaces.get(carrier, {})
    firsts = (held[name].path[:1] if name in held else () for name in soils)
    return tuple(first[0] if first and first[0] in foods else "" for first in firsts)

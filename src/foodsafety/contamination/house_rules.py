"""What a kitchen's own school asks besides what the rules do: boards kept apart, gloves on food that gets
no more heat. Asked step by step, by the analysis and by the live lesson alike."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from foodsafety.contamination.findings import Finding
from foodsafety.contamination.transfer import DRY_VERBS, Fate, Surfaces
from foodsafety.foods import carrier_kinds, is_raw
from foodsafety.recipes import Process, Step
from foodsafety.rules import House

_NO_HOLD = DRY_VERBS | {"serve", "chill", "freeze", "rest", "heat", "probe", "rinse"}


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardUse:
    """What a board has met: raw food with its soil, and food that gets no more heat."""

    raw: tuple[str, str] | None = None
    eaten: str = ""


BoardUses = Mapping[str, BoardUse]


def boards_used(process: Process, surfaces: Surfaces, step: Step, fate: Fate, uses: BoardUses) -> BoardUses:
    """What the boards have met once a step is done, washed between or not; ``surfaces`` are those
    before it: what its food brings."""
    boards = [name for name in step.tools if process.tools[name].kind in carrier_kinds("boards")]
    if step.do in DRY_VERBS or not boards or not step.foods:
        return uses
    soiled = [(food, name) for food in step.foods for name in surfaces.get(food, ()) if is_raw(name)]
    clean = [food for food in step.foods if fate.raw.get(food)]
    changes = {}
    for board in boards:
        use = uses.get(board, BoardUse())
        if soiled:
            changes[board] = replace(use, raw=use.raw or soiled[0])
        elif clean:
            changes[board] = replace(use, eaten=use.eaten or clean[0])
    return {**uses, **changes}


def boards_mixed(step: Step, uses: BoardUses, before: BoardUses) -> Iterator[Finding]:
    """Under the school of separate boards: a board that from this step on has served both."""
    for board, use in uses.items():
        if use.raw is not None and use.eaten and use != before.get(board):
            food, soil_name = use.raw
            path = (food, board, use.eaten)
            yield Finding(rule="board-not-separate", step=step.id, soil=soil_name, food=use.eaten, path=path)


def bare_hands(process: Process, step: Step, fate: Fate, gloved: frozenset[str]) -> Iterator[Finding]:
    """Under the school of gloves: bare hands on food that gets no more heat. Washing produce is
    free of it, and so is what a utensil does (FDA Food Code 2022, 3-301.11(B))."""
    bare = [name for name in step.hands if name not in gloved]
    utensil = any(process.tools[name].kind in carrier_kinds("utensils") for name in step.tools)
    if not bare or step.do in _NO_HOLD or utensil:
        return
    for food in step.foods:
        for target in sorted(fate.raw.get(food, {}))[:1]:
            path = (bare[0], food) if target == food else (bare[0], food, target)
            yield Finding(rule="bare-hands-on-ready-to-eat", step=step.id, soil="person", food=target, path=path)


def house_findings(
    process: Process,
    house: House,
    surfaces: Surfaces,
    step: Step,
    fate: Fate,
    *,
    gloved: frozenset[str],
    uses: BoardUses,
) -> tuple[BoardUses, tuple[Finding, ...]]:
    """What a step breaks of the kitchen's own rules, and what its boards have met since."""
    found: list[Finding] = []
    used = uses
    if house.boards == "separate":
        used = boards_used(process, surfaces, step, fate, uses)
        found += boards_mixed(step, used, uses)
    if house.gloves == "gloves":
        found += bare_hands(process, step, fate, gloved)
    return used, tuple(found)


def now_gloved(gloved: frozenset[str], step: Step) -> frozenset[str]:
    """Who wears gloves after a step."""
    if step.do == "gloves_on":
        return gloved | frozenset(step.hands)
    if step.do == "gloves_off":
        return gloved - frozenset(step.hands)
    return gloved

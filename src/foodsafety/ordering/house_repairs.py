"""Repairs that a house rule asks for: separate boards, and gloves."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from foodsafety.contamination import (
    DRY_VERBS,
    Finding,
    find_contamination,
)
from foodsafety.foods import is_raw, wash_cost
from foodsafety.ordering.rebuilding import Kitchen, with_second_tools
from foodsafety.ordering.repair_costs import (
    FETCH_S,
    HANDOVER_S,
    FreshNames,
    Repair,
    RepairCost,
    elapsed_s,
    wash_count,
    wash_steps,
)
from foodsafety.recipes import Process, Step


def own_boards(kitchen: Kitchen, now: Sequence[Finding]) -> Repair | None:
    """Under the school of separate boards: a board of its own for what is ready to eat."""
    mixed = dict.fromkeys(finding.path[1] for finding in now if finding.rule == "board-not-separate")
    if not mixed:
        return None
    names = FreshNames(kitchen.process)
    second = {board: names.tool(board) for board in mixed}
    grown = with_second_tools(kitchen.process, {new: old for old, new in second.items()})
    return _house_repair(
        kitchen,
        replace(grown, steps=tuple(_on_own_boards(kitchen.process, second))),
        changes=len(second),
        cost=RepairCost(seconds=FETCH_S * len(second), litres=0, tools=len(second)),
        copies=tuple((new, old) for old, new in second.items()),
    )


def _on_own_boards(process: Process, second: Mapping[str, str]) -> Iterator[Step]:
    """The steps with the second board wherever nothing raw is handled."""
    raw = {food.id for food in process.foods.values() if any(is_raw(s) for s in food.soils)}
    cooked: set[str] = set()
    for step in process.steps:
        handles_raw = any(name not in cooked and raw & process.ingredients_of(name) for name in step.foods)
        swap = {} if handles_raw or step.do in DRY_VERBS else second
        tools = tuple(swap.get(name, name) for name in step.tools)
        if step.do == "clean":
            tools = tuple(dict.fromkeys((*tools, *(second[name] for name in tools if name in second))))
        yield replace(step, tools=tools)
        if step.do == "heat":
            cooked |= {*step.foods, *((step.makes,) if step.makes else ())}


def gloved(kitchen: Kitchen, now: Sequence[Finding]) -> Repair | None:
    """Under the school of gloves: fresh gloves, over washed hands, for each step that needs them."""
    bare = {finding.step for finding in now if finding.rule == "bare-hands-on-ready-to-eat"}
    if not bare:
        return None
    names = FreshNames(kitchen.process)
    groups = [_in_gloves(kitchen, step, names) if step.id in bare else (step,) for step in kitchen.process.steps]
    written = kitchen.process.step_index
    steps = tuple(step for group in groups for step in group)
    hands = sum(len(step.hands) for step in kitchen.process.steps if step.id in bare)
    each = wash_cost(None, scrub_s=kitchen.scrub_s, sanitise=False, drying=kitchen.house.drying)
    return _house_repair(
        kitchen,
        replace(kitchen.process, steps=steps),
        changes=hands,
        cost=RepairCost(seconds=(each.seconds + FETCH_S + HANDOVER_S) * hands, litres=each.litres * hands, tools=0),
        added=tuple(step.id for step in steps if step.id not in written),
    )


def _in_gloves(kitchen: Kitchen, step: Step, names: FreshNames) -> tuple[Step, ...]:
    wash = wash_steps(kitchen.process, kitchen.house, kitchen.scrub_s, step.hands, names)
    on = Step(id=names.step(), do="gloves_on", hands=step.hands, planned_s=FETCH_S)
    off = Step(id=names.step(), do="gloves_off", hands=step.hands, planned_s=HANDOVER_S)
    return (*wash, on, step, off)


def _house_repair(
    kitchen: Kitchen,
    repaired: Process,
    *,
    changes: int,
    cost: RepairCost,
    added: tuple[str, ...] = (),
    copies: tuple[tuple[str, str], ...] = (),
) -> Repair:
    return Repair(
        kind="house",
        process=repaired,
        changes=changes,
        cost=cost,
        washes=wash_count(repaired),
        elapsed_s=elapsed_s(repaired),
        left=find_contamination(repaired, kitchen.house),
        added=added,
        copies=copies,
    )

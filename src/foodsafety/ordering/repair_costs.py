"""What a repair costs in washes, seconds, litres and tools."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from foodsafety.contamination import (
    Finding,
    now_gloved,
    washed_by,
)
from foodsafety.foods import tool_effort_s, wash_cost
from foodsafety.ordering.search import WashPlan
from foodsafety.recipes import Process, Step
from foodsafety.rules import House

RepairKind = Literal["wash", "tool", "hands", "move", "mixed", "order", "house"]
# One change outweighs any difference in seconds between two plans with as many changes.
CHANGE = 100_000
FETCH_S, HANDOVER_S = tool_effort_s("fetch"), tool_effort_s("handover")
# No single change takes longer [s]: what the bound on their number is worked out with.
DEAREST_S = 300


@dataclass(frozen=True, slots=True, kw_only=True)
class RepairCost:
    """What a repair takes: seconds of work, litres of water, tools more than were written."""

    seconds: float
    litres: float
    tools: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Repair:
    """One way to repair a process.

    ``process`` is the repaired one; ``added`` are the ids of its new wash steps, ``moved`` of the
    steps out of their written order; ``copies`` (new tool, what it stands in for); ``handed``
    (step, from, to). ``changes`` counts them all. ``left`` is what it does not clear. ``proven``:
    nothing with fewer changes of this kind clears as much. ``plan`` is the order it comes from, if any.
    """

    kind: RepairKind
    process: Process
    changes: int
    cost: RepairCost
    washes: int
    elapsed_s: float
    left: tuple[Finding, ...]
    added: tuple[str, ...] = ()
    moved: tuple[str, ...] = ()
    copies: tuple[tuple[str, str], ...] = ()
    handed: tuple[tuple[str, str, str], ...] = ()
    proven: bool = True
    bound: int = 0
    plan: WashPlan | None = None


def wash_count(process: Process) -> int:
    """Carriers washed by the wash steps as written, each one once a step; a wash with gloves on
    washes nobody's hands."""
    gloved: frozenset[str] = frozenset()
    count = 0
    for step in process.steps:
        count += len(washed_by(process, step, gloved))
        gloved = now_gloved(gloved, step)
    return count


def through_gloves(steps: Sequence[Step], added: Sequence[str], names: FreshNames) -> tuple[list[Step], list[str]]:
    """The steps with gloves taken off before a new hand-wash, and fresh ones put on after it."""
    gloved: frozenset[str] = frozenset()
    rows: list[Step] = []
    more: list[str] = []
    for step in steps:
        hands = tuple(name for name in step.hands if name in gloved)
        if step.id in added and step.do == "wash_hands" and hands:
            off = Step(id=names.step(), do="gloves_off", hands=hands, planned_s=HANDOVER_S)
            on = Step(id=names.step(), do="gloves_on", hands=hands, planned_s=FETCH_S)
            rows.extend((off, step, on))
            more.extend((off.id, on.id))
        else:
            rows.append(step)
        gloved = now_gloved(gloved, step)
    return rows, more


def elapsed_s(process: Process) -> float:
    """How long the steps take in their order [s]: each begins when its hands, its tools and its
    foods are free. Hands are free while a step waits by itself; tools and foods are not. Steps
    without a time count as none."""
    free: dict[str, float] = {}
    ends: dict[str, float] = {}
    for step in process.steps:
        things = [*step.foods, *step.tools, *((step.makes,) if step.makes else ())]
        start = max(
            (free.get(name, 0.0) for name in (*things, *step.hands)),
            default=0.0,
        )
        start = max([start, *(ends.get(name, 0.0) for name in step.after)])
        end = start + step.planned_s
        ends[step.id] = end
        free.update(dict.fromkeys(things, end))
        free.update(dict.fromkeys(step.hands, end - step.waiting_s))
    return max(ends.values(), default=0.0)


class FreshNames:
    """Ids that nothing has yet."""

    def __init__(self, process: Process) -> None:
        self.steps = {step.id for step in process.steps}
        self.things = {*process.food_ids, *process.tools, *process.people}

    def step(self) -> str:
        n = 1
        while f"wash-{n}" in self.steps:
            n += 1
        self.steps.add(f"wash-{n}")
        return f"wash-{n}"

    def tool(self, like: str) -> str:
        n = 2
        while f"{like} {n}" in self.things:
            n += 1
        self.things.add(f"{like} {n}")
        return f"{like} {n}"


def wash_steps(
    process: Process, house: House, scrub_s: float, carriers: Iterable[str], names: FreshNames
) -> tuple[Step, ...]:
    """Steps that wash the carriers: one for all hands, one for all tools."""
    hands = tuple(name for name in carriers if name in process.people)
    tools = tuple(name for name in carriers if name not in process.people)
    rows = []
    if hands:
        cost_s = wash_cost(None, scrub_s=scrub_s, sanitise=False, drying=house.drying).seconds
        rows.append(Step(id=names.step(), do="wash_hands", hands=hands, planned_s=cost_s))
    if tools:
        cost_s = sum(carrier_wash_cost(process, house, scrub_s, name).seconds for name in tools)
        rows.append(Step(id=names.step(), do="clean", tools=tools, planned_s=cost_s))
    return tuple(rows)


def carrier_wash_cost(process: Process, house: House, scrub_s: float, carrier: str) -> RepairCost:
    tool = process.tools.get(carrier)
    sanitise = house.sanitise == "sanitise" and tool is not None
    row = wash_cost(tool.kind if tool else None, scrub_s=scrub_s, sanitise=sanitise, drying=house.drying)
    return RepairCost(seconds=row.seconds, litres=row.litres, tools=0)


def total_cost(costs: Iterable[RepairCost], *, tools: int = 0, seconds: float = 0) -> RepairCost:
    rows = tuple(costs)
    return RepairCost(
        seconds=seconds + sum(row.seconds for row in rows),
        litres=sum(row.litres for row in rows),
        tools=tools,
    )


def with_order(process: Process, steps: Sequence[Step]) -> Process:
    """The process with other steps; what a step waits for stays only where the order agrees."""
    seen: set[str] = set()
    rows = []
    for step in steps:
        rows.append(replace(step, after=tuple(name for name in step.after if name in seen)))
        seen.add(step.id)
    return replace(process, steps=tuple(rows))

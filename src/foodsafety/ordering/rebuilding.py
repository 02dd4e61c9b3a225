"""What every repair is worked out for, and how a solution becomes a process again."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from foodsafety.contamination import (
    find_contamination,
)
from foodsafety.ordering.compiled import Compiled
from foodsafety.ordering.constraint_model import BREACH, Freedom, OrderModel, Solution
from foodsafety.ordering.repair_costs import (
    CHANGE,
    DEAREST_S,
    FETCH_S,
    HANDOVER_S,
    FreshNames,
    Repair,
    RepairKind,
    carrier_wash_cost,
    elapsed_s,
    through_gloves,
    total_cost,
    wash_count,
    wash_steps,
    with_order,
)
from foodsafety.recipes import Process, Step, Tool
from foodsafety.rules import House


@dataclass(frozen=True, slots=True)
class Kitchen:
    """What a repair is worked out for."""

    process: Process
    house: House
    scrub_s: float
    compiled: Compiled

    def built(self, solution: Solution, kind: RepairKind) -> Repair:
        """The repaired process of a solution."""
        rows = _Rebuilding(self, solution)
        repaired, added = rows.process()
        moved = tuple(self.process.steps[i].id for i in sorted(solution.moved))
        return Repair(
            kind=kind,
            process=repaired,
            changes=len(rows.washed) + len(rows.second) + len(solution.handed) + len(moved),
            cost=total_cost(
                (carrier_wash_cost(rows.grown, self.house, self.scrub_s, name) for name in rows.washed),
                tools=len(rows.second),
                seconds=FETCH_S * len(rows.second) + HANDOVER_S * len(rows.handed),
            ),
            washes=wash_count(repaired),
            elapsed_s=elapsed_s(repaired),
            left=find_contamination(repaired, self.house),
            added=added,
            moved=moved,
            copies=tuple((new, self.compiled.names[m]) for m, new in rows.second.items()),
            handed=tuple((self.process.steps[i].id, a, b) for (i, a), b in rows.handed.items()),
            proven=solution.proven,
            bound=int(max(0.0, solution.bound - BREACH * len(solution.breaches)) // (CHANGE + DEAREST_S)),
        )

    def solved(self, freedom: Freedom, kind: RepairKind, *, seconds: float) -> Repair | None:
        """The fewest changes of one kind."""
        model = OrderModel(self.compiled, freedom, self._weights(freedom))
        found = model.solve(seconds=seconds)
        return self.built(found, kind) if found else None

    def _weights(self, freedom: Freedom) -> Mapping[str, int]:
        weights = {"wash": CHANGE, "tool": CHANGE + round(FETCH_S), "hand": CHANGE + round(HANDOVER_S)}
        if freedom.moves:
            weights["move"] = CHANGE
        for m, name in enumerate(self.compiled.names):
            if m in self.compiled.washable:
                cost = carrier_wash_cost(self.process, self.house, self.scrub_s, name)
                weights[f"wash:{m}"] = weights[f"wash:{-1 - m}"] = CHANGE + round(cost.seconds)
        return weights


class _Rebuilding:
    """A solution turned back into steps: second tools take their places, hands change over, and
    washes stand before the steps that need them."""

    def __init__(self, kitchen: Kitchen, solution: Solution) -> None:
        self.kitchen, self.solution = kitchen, solution
        process, names = kitchen.process, kitchen.compiled.names
        self.fresh = FreshNames(process)
        self.second = {m: self.fresh.tool(names[m]) for m in dict.fromkeys(m for m, _ in solution.copied)}
        self.handed = {(i, names[a]): names[b] for i, a, b in solution.handed}
        self.grown = with_second_tools(process, {new: names[m] for m, new in self.second.items()})
        self.washed: list[str] = []

    def process(self) -> tuple[Process, tuple[str, ...]]:
        """The process rebuilt, and the ids of the steps it gained."""
        steps: list[Step] = []
        added: list[str] = []
        for i in with_idle(self.kitchen.process, self.solution.order):
            new = self._washes_before(i)
            added.extend(row.id for row in new)
            steps.extend((*new, self._changed(i)))
        steps, gloves = through_gloves(steps, added, self.fresh)
        return with_order(self.grown, steps), (*added, *gloves)

    def _washes_before(self, i: int) -> tuple[Step, ...]:
        names = self.kitchen.compiled.names
        carriers = [self.second[-1 - m] if m < 0 else names[m] for m in self.solution.washed.get(i, ())]
        self.washed.extend(carriers)
        return wash_steps(self.grown, self.kitchen.house, self.kitchen.scrub_s, carriers, self.fresh)

    def _changed(self, i: int) -> Step:
        """A written step with its second tools and its other hands."""
        step, names = self.kitchen.process.steps[i], self.kitchen.compiled.names
        swap = {names[m]: self.second[m] for m, at in set(self.solution.copied) if at == i}
        return replace(
            step,
            tools=tuple(swap.get(name, name) for name in step.tools),
            hands=tuple(self.handed.get((i, name), name) for name in step.hands),
        )


def with_second_tools(process: Process, second: Mapping[str, str]) -> Process:
    """The process with more tools: each new one of the kind of the one it stands in for."""
    new = {name: Tool(id=name, kind=process.tools[old].kind) for name, old in second.items()}
    return replace(process, tools={**process.tools, **new})


def with_idle(process: Process, order: Sequence[int]) -> list[int]:
    """The order with the steps that no search looks at (putting on gloves) again before the step
    they stood before."""
    known = set(order)
    waiting: list[int] = []
    before: dict[int, list[int]] = {}
    for i in range(len(process.steps)):
        if i not in known:
            waiting.append(i)
        elif waiting:
            before[i] = waiting
            waiting = []
    return [*(k for i in order for k in (*before.get(i, ()), i)), *waiting]


def kitchen_of(process: Process, house: House | None, scrub_s: float) -> Kitchen:
    house = house or House()
    return Kitchen(process, house, scrub_s, Compiled(process, house, food_stays=True))

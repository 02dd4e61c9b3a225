"""The fewest washes a process needs, as written and in the best order.

Exact: a uniform-cost search over which steps are done and which carriers are soiled. Each
carrier washed counts once. It stops at ``LARGEST_SEARCH`` states and then says it has not
proved its answer.
"""

from __future__ import annotations

import heapq
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations

from foodsafety.codes import House
from foodsafety.foods import heated_tool_kinds, soil
from foodsafety.hygiene import DRY_VERBS, fate_of, fates, opening
from foodsafety.recipe import WASHES, Process, Step, washable

LARGEST_SEARCH = 60_000


@dataclass(frozen=True, slots=True, kw_only=True)
class WashPlan:
    """An order of the steps, the washes it needs, and where they go.

    ``washes`` is None where no number of washes helps: something that cannot be washed (a
    phone, a bin) touches food that goes to the plate.
    """

    order: tuple[str, ...]
    washes: int | None
    wash_before: tuple[tuple[str, tuple[str, ...]], ...]
    proven: bool


@dataclass(frozen=True, slots=True)
class _Node:
    """What the search knows at one point; soils are bits, one integer per carrier."""

    soiled: tuple[int, ...]
    order: tuple[int, ...]
    washed: tuple[tuple[int, tuple[int, ...]], ...]


class _Problem:
    """A process compiled to integers for the search."""

    def __init__(self, process: Process, house: House) -> None:
        self.process = process
        self.steps = process.steps
        start = opening(process, people=process.people, unwashed=house.arrive == "unwashed")
        carriers = sorted({*process.food_ids, *process.tools, *process.people})
        self.index = {name: i for i, name in enumerate(carriers)}
        self.names = carriers
        soils = sorted({name for row in start.values() for name in row})
        self.bit = {name: 1 << i for i, name in enumerate(soils)}
        self.heat_keeps = sum(bit for name, bit in self.bit.items() if not soil(name).heat_clears)
        self.rinse_keeps = sum(bit for name, bit in self.bit.items() if not soil(name).rinse_clears)
        self.start = tuple(sum(self.bit[name] for name in start.get(carrier, ())) for carrier in carriers)
        self.washable = frozenset(self.index[name] for name in carriers if washable(process, name))
        self.guarded = self._guarded()
        self.before = self._before()

    def _guarded(self) -> list[dict[int, int]]:
        """For each step, the foods that must not catch which soils there."""
        rows: list[dict[int, int]] = []
        for step, fate in zip(self.steps, fates(self.process), strict=True):
            row: dict[int, int] = {}
            for food in step.foods:
                bits = 0
                for name, bit in self.bit.items():
                    for target in fate_of(fate, name).get(food, ()):
                        free_of = self.process.free_of
                        tracked = any(name in names for names in free_of.values())
                        if not tracked or name in free_of.get(target, ()):
                            bits |= bit
                if bits:
                    row[self.index[food]] = bits
            rows.append(row)
        return rows

    def _before(self) -> list[int]:
        """For each step, a mask of the steps that must come first: ``after``, and whatever
        handles the same food earlier in the order written."""
        masks: list[int] = []
        at = self.process.step_index
        for i, step in enumerate(self.steps):
            mask = sum(1 << at[name] for name in step.after)
            mine = {*step.foods, step.makes} - {None}
            for j, earlier in enumerate(self.steps[:i]):
                if mine & ({*earlier.foods, earlier.makes} - {None}):
                    mask |= 1 << j
            masks.append(mask)
        return masks

    def apply(self, i: int, soiled: tuple[int, ...]) -> tuple[tuple[int, ...], bool]:
        """Soils after step i, and whether a guarded food caught something from a carrier."""
        step = self.steps[i]
        if step.do in DRY_VERBS:
            return soiled, False
        state = list(soiled)
        foods = [self.index[name] for name in step.foods]
        others = [self.index[name] for name in (*step.tools, *step.hands)]
        from_foods = 0
        from_others = 0
        for m in foods:
            from_foods |= state[m]
        for m in others:
            from_others |= state[m]
        guarded = self.guarded[i]
        broken = any(from_others & ~state[m] & ~from_foods & guarded.get(m, 0) for m in foods)
        for m in (*foods, *others):
            state[m] |= from_foods | from_others
        if step.do == "rinse":
            for m in foods:
                state[m] &= self.rinse_keeps
        if step.makes and self.index[step.makes] not in foods:
            made = self.index[step.makes]
            for m in foods:
                state[made] |= state[m]
            foods.append(made)
        if step.do == "heat":
            kinds = heated_tool_kinds()
            vessels = [self.index[name] for name in step.tools if self.process.tools[name].kind in kinds]
            for m in (*foods, *vessels):
                state[m] &= self.heat_keeps
        return tuple(state), broken

    def _as_written(self, step: Step, soiled: tuple[int, ...]) -> tuple[tuple[int, ...], tuple[int, ...]]:
        """A wash step done just as written: (carriers washed, soils after)."""
        group = tuple(self.index[name] for name in (step.hands if step.do == "wash_hands" else step.tools))
        state = list(soiled)
        for m in group:
            if m in self.washable:
                state[m] = 0
        return group, tuple(state)

    def choices(
        self, i: int, soiled: tuple[int, ...], *, fixed: bool
    ) -> Iterator[tuple[tuple[int, ...], tuple[int, ...]]]:
        """Ways to do step i cleanly: (carriers washed, soils after). In a fixed order the wash
        steps are done and counted; in a free one washes are placed only where they pay."""
        step = self.steps[i]
        if fixed and step.do in WASHES:
            yield self._as_written(step, soiled)
            return
        if step.do in DRY_VERBS:
            yield (), soiled
            return
        dirty = [m for m in (self.index[n] for n in (*step.tools, *step.hands)) if soiled[m] and m in self.washable]
        for count in range(len(dirty) + 1):
            for group in combinations(dirty, count):
                state = list(soiled)
                for m in group:
                    state[m] = 0
                after, broken = self.apply(i, tuple(state))
                if not broken:
                    yield group, after


def _search(problem: _Problem, *, fixed: bool, limit: int) -> WashPlan:
    """The cheapest clean run; ``fixed`` keeps the order as written."""
    total = len(problem.steps)
    goal = (1 << total) - 1
    counter = 0
    queue: list[tuple[int, int, int, _Node]] = [(0, 0, 0, _Node(problem.start, (), ()))]
    best: dict[tuple[int, tuple[int, ...]], int] = {(0, problem.start): 0}
    expanded = 0
    while queue:
        cost, _, _, node = heapq.heappop(queue)
        done = sum(1 << i for i in node.order)
        if done == goal:
            return _plan(problem, node, cost, proven=True)
        if best[(done, node.soiled)] < cost:
            continue
        expanded += 1
        if expanded > limit:
            break
        for i in _open_steps(problem, done, fixed=fixed):
            for group, after in problem.choices(i, node.soiled, fixed=fixed):
                key = (done | 1 << i, after)
                price = cost + len(group)
                if best.get(key, price + 1) <= price:
                    continue
                best[key] = price
                counter += 1
                washed = (*node.washed, (i, group)) if group else node.washed
                # Deeper first among equals, then the order as written: ties read naturally.
                heapq.heappush(queue, (price, -len(node.order) - 1, counter, _Node(after, (*node.order, i), washed)))
    order = tuple(step.id for step in problem.steps)
    return WashPlan(order=order, washes=None, wash_before=(), proven=expanded <= limit)


def _open_steps(problem: _Problem, done: int, *, fixed: bool) -> list[int]:
    todo = [i for i in range(len(problem.steps)) if not done >> i & 1]
    if fixed:
        return todo[:1]
    ready = [i for i in todo if problem.before[i] & ~done == 0]
    free = [i for i in ready if problem.steps[i].do in WASHES]
    # A wash step changes nothing in this search (washes are placed where they pay), so doing
    # one at once loses no order.
    return free[:1] or ready


def _plan(problem: _Problem, node: _Node, cost: int, *, proven: bool) -> WashPlan:
    names = problem.names
    return WashPlan(
        order=tuple(problem.steps[i].id for i in node.order),
        washes=cost,
        wash_before=tuple((problem.steps[i].id, tuple(names[m] for m in group)) for i, group in node.washed),
        proven=proven,
    )


def needed_as_written(process: Process, house: House | None = None) -> WashPlan:
    """The order as written: the washes it asks for, and the fewest more that make it clean."""
    return _search(_Problem(process, house or House()), fixed=True, limit=LARGEST_SEARCH)


def best_order(process: Process, house: House | None = None, *, limit: int = LARGEST_SEARCH) -> WashPlan:
    """The order of the steps that needs the fewest washes.

    Proven unless the search stopped at ``limit`` states: then the order as written stands.
    """
    problem = _Problem(process, house or House())
    found = _search(problem, fixed=False, limit=limit)
    if found.proven:
        return found
    written = _search(problem, fixed=True, limit=limit)
    return WashPlan(order=written.order, washes=written.washes, wash_before=written.wash_before, proven=False)

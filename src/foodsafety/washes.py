"""The fewest washes a process needs, as written and in the best order.

Exact: a uniform-cost search over which steps are done and which carriers are soiled. Each
carrier washed counts once. It stops at ``LARGEST_SEARCH`` states, answers with the better of two
plain rules, and says that it has not proved it.
"""

from __future__ import annotations

import heapq
import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from itertools import combinations

from foodsafety.codes import House
from foodsafety.foods import heated_tool_kinds, soil
from foodsafety.hygiene import DRY_VERBS, Surfaces, do_step, fate_of, fates, opening
from foodsafety.recipe import WASHES, Process, Step, washable

LARGEST_SEARCH = 40_000


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
        self.guards = fates(process)
        self.brought = self._brought()
        self.bit = self._bits(sorted({name for row in start.values() for name in row}))
        self.heat_keeps = self._mask(name for name in self.bit if not soil(name).heat_clears)
        self.rinse_keeps = self._mask(name for name in self.bit if not soil(name).rinse_clears)
        self.own = [self._mask(own) for own in self.brought]
        self.start = tuple(self._mask(start.get(carrier, ())) for carrier in carriers)
        self.washable = frozenset(self.index[name] for name in carriers if washable(process, name))
        self.guarded = self._guarded()
        self.before = self._before()
        self.members = [self._members(step) for step in self.steps]

    def _mask(self, names: Iterable[str]) -> int:
        bits = 0
        for name in names:
            bits |= self.bit[name]
        return bits

    def _members(self, step: Step) -> frozenset[int]:
        names = (*step.foods, *step.tools, *step.hands, *((step.makes,) if step.makes else ()))
        return frozenset(self.index[name] for name in names)

    def _bits(self, soils: list[str]) -> dict[str, int]:
        """A bit for each soil; one for all that heat clears where it makes no difference which it
        is: where no food that must stay clean is raw itself or shares a step with a raw one."""
        tracked = {name for names in self.process.free_of.values() for name in names}
        alike = {n for n in soils if soil(n).heat_clears and not soil(n).rinse_clears and n not in tracked}
        if not self._same_for_all(alike):
            alike = set()
        names = sorted(set(soils) - alike)
        bits = {name: 1 << i for i, name in enumerate(names)}
        return bits | dict.fromkeys(sorted(alike), 1 << len(names))

    def _same_for_all(self, alike: set[str]) -> bool:
        return not any(
            alike & own and any(fate.raw.get(food) for food in step.foods)
            for step, fate, own in zip(self.steps, self.guards, self.brought, strict=True)
        )

    def _brought(self) -> list[set[str]]:
        """For each step, the soils its foods bring of themselves, not by way of a carrier."""
        surfaces: Surfaces = opening(self.process, people=(), unwashed=False)
        rows: list[set[str]] = []
        for step in self.steps:
            rows.append({name for food in step.foods for name in surfaces.get(food, ())})
            alone = Step(id=step.id, do=step.do, foods=step.foods, makes=step.makes)
            surfaces = {n: row for n, row in surfaces.items() if n not in self.process.tools}
            surfaces, _ = do_step(surfaces, self.process, alone)
        return rows

    def _guarded(self) -> list[dict[int, int]]:
        """For each step, the foods that must not catch which soils there."""
        rows: list[dict[int, int]] = []
        for step, fate in zip(self.steps, self.guards, strict=True):
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
        carried = (from_others | from_foods) & ~self.own[i]
        broken = any(carried & ~state[m] & guarded.get(m, 0) for m in foods)
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
        dirty = self._worth_washing(step, soiled)
        for count in range(len(dirty) + 1):
            for group in combinations(dirty, count):
                state = list(soiled)
                for m in group:
                    state[m] = 0
                after, broken = self.apply(i, tuple(state))
                if not broken:
                    yield group, after

    def _worth_washing(self, step: Step, soiled: tuple[int, ...]) -> list[int]:
        """Soiled carriers of a step, but for those its own food would soil again just so."""
        kit = [self.index[name] for name in (*step.tools, *step.hands)]
        stays = 0
        for m in (*(self.index[name] for name in step.foods), *(m for m in kit if m not in self.washable)):
            stays |= soiled[m]
        return [m for m in kit if soiled[m] & ~stays and m in self.washable]

    def changes_nothing(self, i: int, soiled: tuple[int, ...]) -> bool:
        """True if step i can be done now, unwashed, with no trace: then nothing is gained by
        waiting. (A vessel that its heat would clear later is something to wait for.)"""
        step = self.steps[i]
        kinds = heated_tool_kinds()
        if step.do == "heat" and any(self.process.tools[name].kind in kinds for name in step.tools):
            return False
        after, broken = self.apply(i, soiled)
        return not broken and after == soiled

    def in_use(self, soiled: tuple[int, ...], done: int) -> tuple[int, ...]:
        """Soils that still matter: a carrier that no step to come uses is as good as clean."""
        used: set[int] = set()
        for i, members in enumerate(self.members):
            if not done >> i & 1:
                used |= members
        return tuple(bits if m in used else 0 for m, bits in enumerate(soiled))


def _search(problem: _Problem, *, fixed: bool, limit: int) -> WashPlan | None:
    """The cheapest clean run, or None if more than ``limit`` states would have to be looked at.
    ``fixed`` keeps the order as written."""
    total = len(problem.steps)
    counter = 0
    queue: list[tuple[int, int, int, _Node]] = [(0, 0, 0, _Node(problem.start, (), ()))]
    best: dict[tuple[int, tuple[int, ...]], int] = {(0, problem.start): 0}
    while queue:
        cost, _, _, node = heapq.heappop(queue)
        if len(node.order) == total:
            return _plan(problem, node, cost, proven=True)
        done = sum(1 << i for i in node.order)
        if best[(done, node.soiled)] < cost:
            continue
        for i in _open_steps(problem, done, node.soiled, fixed=fixed):
            for group, left in problem.choices(i, node.soiled, fixed=fixed):
                after = problem.in_use(left, done | 1 << i)
                key = (done | 1 << i, after)
                price = cost + len(group)
                if best.get(key, price + 1) <= price:
                    continue
                best[key] = price
                counter += 1
                if counter > limit:
                    return None
                washed = (*node.washed, (i, group)) if group else node.washed
                # Deeper first among equals, then the order as written: ties read naturally.
                heapq.heappush(queue, (price, -len(node.order) - 1, counter, _Node(after, (*node.order, i), washed)))
    order = tuple(step.id for step in problem.steps)
    return WashPlan(order=order, washes=None, wash_before=(), proven=True)


def _open_steps(problem: _Problem, done: int, soiled: tuple[int, ...], *, fixed: bool) -> list[int]:
    todo = [i for i in range(len(problem.steps)) if not done >> i & 1]
    if fixed:
        return todo[:1]
    ready = [i for i in todo if problem.before[i] & ~done == 0]
    # Washes are placed where they pay, so a wash step changes nothing here either.
    free = (i for i in ready if problem.steps[i].do in WASHES or problem.changes_nothing(i, soiled))
    first = next(free, None)
    return ready if first is None else [first]


def _plain_run(problem: _Problem, *, fixed: bool) -> WashPlan:
    """A run by a plain rule, for when the search is too large: the next step (as written, or
    the one that needs the fewest washes and then soils least), with the fewest washes it needs."""
    node, cost, done = _Node(problem.start, (), ()), 0, 0
    for _ in problem.steps:
        rows = []
        for i in _open_steps(problem, done, node.soiled, fixed=fixed):
            for group, left in problem.choices(i, node.soiled, fixed=fixed):
                rows.append((len(group), sum(map(bool, left)), i, group, left))
                break  # the first way that works washes least
        if not rows:
            order = tuple(step.id for step in problem.steps)
            return WashPlan(order=order, washes=None, wash_before=(), proven=False)
        washes, _, i, group, left = min(rows)
        cost += washes
        done |= 1 << i
        node = _Node(left, (*node.order, i), (*node.washed, (i, group)) if group else node.washed)
    return _plan(problem, node, cost, proven=False)


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
    problem = _Problem(process, house or House())
    return _search(problem, fixed=True, limit=LARGEST_SEARCH) or _plain_run(problem, fixed=True)


def best_order(process: Process, house: House | None = None, *, limit: int = LARGEST_SEARCH) -> WashPlan:
    """The order of the steps that needs the fewest washes.

    Proven unless the search would pass ``limit`` states (fewer where each costs more, beyond 40
    steps): then the better of the order as written
    and a plain rule is given, unproven.
    """
    problem = _Problem(process, house or House())
    found = _search(problem, fixed=False, limit=limit * 40 // max(40, len(process.steps)))
    if found:
        return found
    runs = [_plain_run(problem, fixed=False), needed_as_written(process, house)]
    best = min(runs, key=lambda run: math.inf if run.washes is None else run.washes)
    return replace(best, proven=False)

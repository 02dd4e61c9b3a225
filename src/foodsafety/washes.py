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
from foodsafety.compiled import Compiled, Soiled
from foodsafety.recipe import Process

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

    soiled: Soiled
    order: tuple[int, ...]
    washed: tuple[tuple[int, tuple[int, ...]], ...]


class _Problem:
    """The choices a search has at each point."""

    def __init__(self, compiled: Compiled) -> None:
        self.compiled = compiled
        self.total = len(compiled.steps)

    def choices(self, i: int, soiled: Soiled, *, fixed: bool) -> Iterator[tuple[tuple[int, ...], Soiled]]:
        """Ways to do step i cleanly: (carriers washed, soils after). In a fixed order the wash
        steps are done and counted; in a free one washes are placed only where they pay."""
        step = self.compiled.steps[i]
        if fixed and step.wash:
            yield step.washed, self.compiled.as_written(i, soiled)
            return
        if step.dry:
            yield (), soiled
            return
        dirty = self.compiled.worth_washing(i, soiled)
        for count in range(len(dirty) + 1):
            for group in combinations(dirty, count):
                state = list(soiled)
                for m in group:
                    state[m] = 0
                after, broken = self.compiled.apply(i, tuple(state))
                if not broken:
                    yield group, after

    def in_use(self, soiled: Soiled, done: int) -> Soiled:
        """Soils that still matter: a carrier that no step to come uses is as good as clean."""
        used: set[int] = set()
        for i, step in enumerate(self.compiled.steps):
            if not done >> i & 1:
                used.update(step.carriers)
        return tuple(bits if m in used else 0 for m, bits in enumerate(soiled))


def _search(problem: _Problem, *, fixed: bool, limit: int) -> WashPlan | None:
    """The cheapest clean run, or None if more than ``limit`` states would have to be looked at.
    ``fixed`` keeps the order as written."""
    total = problem.total
    counter = 0
    queue: list[tuple[int, int, int, _Node]] = [(0, 0, 0, _Node(problem.compiled.start, (), ()))]
    best: dict[tuple[int, tuple[int, ...]], int] = {(0, problem.compiled.start): 0}
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
    order = tuple(step.id for step in problem.compiled.process.steps)
    return WashPlan(order=order, washes=None, wash_before=(), proven=True)


def _open_steps(problem: _Problem, done: int, soiled: tuple[int, ...], *, fixed: bool) -> list[int]:
    todo = [i for i in range(problem.total) if not done >> i & 1]
    if fixed:
        return todo[:1]
    ready = [i for i in todo if problem.compiled.before[i] & ~done == 0]
    # Washes are placed where they pay, so a wash step changes nothing here either.
    free = (i for i in ready if problem.compiled.steps[i].wash or problem.compiled.changes_nothing(i, soiled))
    first = next(free, None)
    return ready if first is None else [first]


def _plain_run(problem: _Problem, *, fixed: bool) -> WashPlan:
    """A run by a plain rule, for when the search is too large: the next step (as written, or
    the one that needs the fewest washes and then soils least), with the fewest washes it needs."""
    node, cost, done = _Node(problem.compiled.start, (), ()), 0, 0
    for _ in range(problem.total):
        rows = []
        for i in _open_steps(problem, done, node.soiled, fixed=fixed):
            for group, left in problem.choices(i, node.soiled, fixed=fixed):
                rows.append((len(group), sum(map(bool, left)), i, group, left))
                break  # the first way that works washes least
        if not rows:
            order = tuple(step.id for step in problem.compiled.process.steps)
            return WashPlan(order=order, washes=None, wash_before=(), proven=False)
        washes, _, i, group, left = min(rows)
        cost += washes
        done |= 1 << i
        node = _Node(left, (*node.order, i), (*node.washed, (i, group)) if group else node.washed)
    return _plan(problem, node, cost, proven=False)


def _plan(problem: _Problem, node: _Node, cost: int, *, proven: bool) -> WashPlan:
    names, steps = problem.compiled.names, problem.compiled.process.steps
    return WashPlan(
        order=tuple(steps[i].id for i in node.order),
        washes=cost,
        wash_before=tuple((steps[i].id, tuple(names[m] for m in group)) for i, group in node.washed),
        proven=proven,
    )


def needed_as_written(process: Process, house: House | None = None) -> WashPlan:
    """The order as written: the washes it asks for, and the fewest more that make it clean."""
    problem = _Problem(Compiled(process, house or House()))
    return _search(problem, fixed=True, limit=LARGEST_SEARCH) or _plain_run(problem, fixed=True)


def best_order(process: Process, house: House | None = None, *, limit: int = LARGEST_SEARCH) -> WashPlan:
    """The order of the steps that needs the fewest washes.

    Proven unless the search would pass ``limit`` states (fewer where each costs more, beyond 40
    steps): then the better of the order as written
    and a plain rule is given, unproven.
    """
    problem = _Problem(Compiled(process, house or House()))
    found = _search(problem, fixed=False, limit=limit * 40 // max(40, len(process.steps)))
    if found:
        return found
    runs = [_plain_run(problem, fixed=False), needed_as_written(process, house)]
    best = min(runs, key=lambda run: math.inf if run.washes is None else run.washes)
    return replace(best, proven=False)

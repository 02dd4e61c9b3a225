"""Washes counted: how many a written order needs, and the order that needs the fewest.

Exact: an A* search over which steps are done and which carriers are soiled. Each carrier washed
counts once. Stopped early, it answers with the best order a narrow search finds, and with the
number that is proven to be the least any order could need.
"""

from __future__ import annotations

import heapq
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field, replace
from itertools import combinations
from operator import and_

from foodsafety.ordering.compiled import Compiled, Soiled, union, washed_off
from foodsafety.recipes import Process
from foodsafety.rules import House

# States a search may keep, in any order and in the order written; past that it says what it has proven.
LARGEST_SEARCH = 60_000
WRITTEN_SEARCH = 10_000
NARROW = 60
MOST_FREE = 7


@dataclass(frozen=True, slots=True, kw_only=True)
class WashPlan:
    """An order of the steps, the washes it needs, and where they go.

    ``washes`` is None where no number of washes helps: something that cannot be washed (a
    phone, a bin) touches food that goes to the plate. ``bound``: no order needs fewer.
    """

    order: tuple[str, ...]
    washes: int | None
    wash_before: tuple[tuple[str, tuple[str, ...]], ...]
    proven: bool
    bound: int = 0


# Told now and then how many washes are proven to be needed at least.
SearchProgress = Callable[[int], None]
ShouldStop = Callable[[], bool]


@dataclass(frozen=True, slots=True)
class _Node:
    """What the search knows at one point; soils are bits, one integer per carrier."""

    soiled: Soiled
    order: tuple[int, ...]
    washed: tuple[tuple[int, tuple[int, ...]], ...]

    def then(self, i: int, group: tuple[int, ...], after: Soiled) -> _Node:
        """Step i done, its group washed before it."""
        washed = (*self.washed, (i, group)) if group else self.washed
        return _Node(after, (*self.order, i), washed)


class _Problem:
    """The choices a search has at each point."""

    def __init__(self, compiled: Compiled, *, washing_up: bool = False) -> None:
        self.compiled = compiled
        # Carriers that the written steps wash somewhere: with ``washing_up`` they end clean.
        washed = {m for step in compiled.steps for m in step.washed} if washing_up else set()
        self.ends_clean = sorted(washed & compiled.washable)
        self.total = len(compiled.steps)
        self.carriers = [step.carriers for step in compiled.steps]
        self.guarded = [step.guarded_bits for step in compiled.steps]
        self.exact = True
        self._relevant: dict[int, Soiled] = {}
        self.needed_clean = self._clean_users()
        self.forced = {m: self._forced(m) for m in self.needed_clean}

    def choices(self, i: int, soiled: Soiled, *, fixed: bool) -> Iterator[tuple[tuple[int, ...], Soiled]]:
        """Ways to do step i cleanly: (carriers washed, soils after). In a fixed order the wash
        steps are done and counted; in a free one washes are placed only where they pay."""
        step = self.compiled.steps[i]
        if fixed and step.wash:
            yield step.washed, self.compiled.as_written(i, soiled)
        elif step.dry:
            yield (), soiled
        else:
            yield from self._clean_choices(i, soiled)

    def _clean_choices(self, i: int, soiled: Soiled) -> Iterator[tuple[tuple[int, ...], Soiled]]:
        dirty = self.compiled.worth_washing(i, soiled)
        threat = self.compiled.threatened(i, soiled)
        forced = [m for m in dirty if soiled[m] & threat]
        free = [m for m in dirty if not soiled[m] & threat]
        for group in self._groups(forced, free):
            after, broken = self.compiled.apply(i, washed_off(soiled, group))
            if not broken:
                yield group, after

    def _groups(self, forced: list[int], free: list[int]) -> Iterator[tuple[int, ...]]:
        """What may be washed before a step: all that it needs clean, and of the rest any part, so
        that its soil goes no further. Of very many only none, one or all are tried."""
        counts: Iterable[int] = range(len(free) + 1)
        if len(free) > MOST_FREE:
            self.exact = False
            counts = (0, 1, len(free))
        for count in counts:
            for some in combinations(free, count):
                yield (*forced, *some)

    def relevant(self, done: int) -> Soiled:
        """For each carrier, the soils that still matter: it is used by a step to come, and some
        step to come must keep them off its food."""
        known = self._relevant.get(done)
        if known is None:
            known = self._relevant[done] = self._still_matters(done)
        return known

    def _still_matters(self, done: int) -> Soiled:
        to_come = [i for i in range(self.total) if not done >> i & 1]
        guarded = union(self.guarded[i] for i in to_come)
        used = {m for i in to_come for m in self.carriers[i]}
        matters = [guarded if m in used else 0 for m in range(len(self.compiled.names))]
        for m in self.ends_clean:
            matters[m] = -1
        return tuple(matters)

    def washing_up(self, soiled: Soiled) -> tuple[int, ...]:
        """What is still to be washed when everything is done."""
        return tuple(m for m in self.ends_clean if soiled[m])

    def least_ahead(self, done: int, soiled: Soiled) -> int:
        """Washes that no order escapes: carriers soiled now that a step to come needs clean, or
        that a step to come soils before another one, which waits for it, needs them clean."""
        count = 0
        for m, rows in self.needed_clean.items():
            held = soiled[m]
            soiled_now = held and any(held & bits and not done >> i & 1 for i, bits in rows)
            if soiled_now or any(not (done >> i & 1 or done >> j & 1) for i, j in self.forced[m]):
                count += 1
        return count

    def _clean_users(self) -> dict[int, list[tuple[int, int]]]:
        """For each carrier that can be washed and that no heat clears: the steps that need it clean, of what."""
        vessels = {m for step in self.compiled.steps for m in step.vessels}
        rows: dict[int, list[tuple[int, int]]] = {}
        for i, step in enumerate(self.compiled.steps):
            for m in step.kit if self.guarded[i] else ():
                if m in self.compiled.washable and m not in vessels:
                    rows.setdefault(m, []).append((i, self.guarded[i]))
        return rows

    def _forced(self, m: int) -> list[tuple[int, int]]:
        """Pairs of steps: the first soils the carrier whatever the order, the second waits for the
        first and needs it clean."""
        return [
            (i, j)
            for j, bits in self.needed_clean[m]
            for i, step in enumerate(self.compiled.steps)
            if self.compiled.before[j] >> i & 1 and m in step.kit and step.own & bits
        ]

    def changes_nothing(self, i: int, done: int, soiled: Soiled) -> bool:
        """True if step i can be done now, unwashed, leaving nothing that matters later: then
        nothing is gained by waiting. (A vessel that its heat would clear for another step is
        something to wait for.)"""
        step = self.compiled.steps[i]
        if step.dry:
            return True
        after_mask = done | 1 << i
        matters = self.relevant(after_mask)
        if any(matters[m] for m in step.vessels):
            return False
        after, broken = self.compiled.apply(i, soiled)
        return not broken and all(not after[m] & ~soiled[m] & matters[m] for m in self.carriers[i])


class _Seen:
    """The states met so far: one that is done with the same steps, no dearer and nowhere more
    soiled, makes another one needless."""

    def __init__(self, bits: int) -> None:
        self.width = max(1, bits)
        self.rows: dict[int, list[tuple[int, int]]] = {}
        self.count = 0

    def _packed(self, soiled: Soiled) -> int:
        packed = 0
        for bits in soiled:
            packed = packed << self.width | bits
        return packed

    def is_new(self, done: int, soiled: Soiled, cost: int) -> bool:
        """True if nothing met so far is as good; then it is met."""
        packed = self._packed(soiled)
        rows = self.rows.setdefault(done, [])
        for price, held in rows:
            if price <= cost and held & ~packed == 0:
                return False
        rows[:] = [(price, held) for price, held in rows if not (cost <= price and packed & ~held == 0)]
        rows.append((cost, packed))
        self.count += 1
        return True

    def still_best(self, done: int, soiled: Soiled, cost: int) -> bool:
        """True unless something better has been met since."""
        return (cost, self._packed(soiled)) in self.rows[done]


_Entry = tuple[int, int, int, int, int, _Node]
"""In the queue: cost so far and the least that must still come; deeper first among equals, then the
order as written, so that ties read naturally; the cost, the steps done, and the node."""


@dataclass(slots=True)
class _Search:
    """A uniform-cost search that can be stopped: ``bound`` is then what is proven."""

    problem: _Problem
    fixed: bool
    limit: int
    stop: ShouldStop | None = None
    progress: SearchProgress | None = None
    bound: int = 0
    met: int = 0
    queue: list[_Entry] = field(default_factory=list)

    def run(self) -> WashPlan | None:
        """The cheapest clean run, or None if more than ``limit`` states would have to be looked at."""
        problem, total = self.problem, self.problem.total
        start = problem.compiled.start
        seen = _Seen(max(problem.compiled.bit.values(), default=0).bit_length())
        seen.is_new(0, start, 0)
        self.queue = [(0, 0, 0, 0, 0, _Node(start, (), ()))]
        while self.queue:
            least, _, _, cost, done, node = heapq.heappop(self.queue)
            self._proven(least)
            if done >= 1 << total:
                return _plan(problem, node, cost, bound=cost)
            if len(node.order) == total:
                self._wash_up(cost, done, node)
            elif seen.still_best(done, node.soiled, cost):
                if seen.count > self.limit or (self.stop and self.stop()):
                    return None
                self._grow(cost, done, node, seen)
        return _hopeless(problem, proven=problem.exact)

    def _proven(self, least: int) -> None:
        if least > self.bound:
            self.bound = least
            if self.progress:
                self.progress(least)

    def _wash_up(self, cost: int, done: int, node: _Node) -> None:
        """Everything is done: what must end clean is washed, and the run waits its turn again."""
        total = self.problem.total
        up = cost + len(self.problem.washing_up(node.soiled))
        # No two entries are alike: of equal ones the queue would compare the nodes themselves.
        self.met += 1
        heapq.heappush(self.queue, (up, -total - 1, self.met, up, done | 1 << total, node))

    def _grow(self, cost: int, done: int, node: _Node, seen: _Seen) -> None:
        for i, group, after in _ways_on(self.problem, done, node, fixed=self.fixed):
            mask, price = done | 1 << i, cost + len(group)
            if seen.is_new(mask, after, price):
                self.met += 1
                ahead = 0 if self.fixed else self.problem.least_ahead(mask, after)
                then = node.then(i, group, after)
                heapq.heappush(self.queue, (price + ahead, -len(then.order), self.met, price, mask, then))


def _ways_on(
    problem: _Problem, done: int, node: _Node, *, fixed: bool
) -> Iterator[tuple[int, tuple[int, ...], Soiled]]:
    """Every way on from a node: the step done, the carriers washed before it, and the soils after."""
    for i in _open_steps(problem, done, node.soiled, fixed=fixed):
        matters = problem.relevant(done | 1 << i)
        for group, left in problem.choices(i, node.soiled, fixed=fixed):
            yield i, group, tuple(map(and_, left, matters))


def _open_steps(problem: _Problem, done: int, soiled: Soiled, *, fixed: bool) -> list[int]:
    todo = [i for i in range(problem.total) if not done >> i & 1]
    if fixed:
        return todo[:1]
    ready = [i for i in todo if problem.compiled.before[i] & ~done == 0]
    free = next((i for i in ready if problem.changes_nothing(i, done, soiled)), None)
    return ready if free is None else [free]


def _hopeless(problem: _Problem, *, proven: bool) -> WashPlan:
    order = tuple(step.id for step in problem.compiled.process.steps)
    return WashPlan(order=order, washes=None, wash_before=(), proven=proven)


_Row = tuple[int, int, int, int, _Node]
"""In the narrow search: cost and the least ahead, carriers soiled, cost, the steps done, the node."""


def _narrow(problem: _Problem, *, fixed: bool, bound: int) -> WashPlan:
    """The best run among the most promising at each step, fewer of them the longer the process:
    for when the search is too large."""
    width = max(2, NARROW * 25 // max(25, problem.total) // (1 + problem.total // 150))
    rows: list[_Row] = [(0, 0, 0, 0, _Node(problem.compiled.start, (), ()))]
    for _ in range(problem.total):
        nexts = _best_of_each_state(problem, rows, fixed=fixed)
        if not nexts:
            return _scrubbed(problem, fixed=fixed, bound=bound)
        rows = sorted(nexts, key=lambda row: (*row[:2], row[4].order))[:width]
    ended = [(row[2] + len(problem.washing_up(row[4].soiled)), row[4]) for row in rows]
    cost, node = min(ended, key=lambda row: (row[0], row[1].order))
    return _plan(problem, node, cost, bound=bound)


def _best_of_each_state(problem: _Problem, rows: list[_Row], *, fixed: bool) -> list[_Row]:
    """One step on from every row; of those that reach the same state only the best."""
    best: dict[tuple[int, Soiled], _Row] = {}
    for _, _, cost, done, node in rows:
        for i, group, after in _ways_on(problem, done, node, fixed=fixed):
            mask, price = done | 1 << i, cost + len(group)
            ahead = 0 if fixed else problem.least_ahead(mask, after)
            row = (price + ahead, sum(map(bool, after)), price, mask)
            known = best.get((mask, after))
            if known is None or row < known[:4]:
                best[mask, after] = (*row, node.then(i, group, after))
    return [*best.values()]


def _scrubbed(problem: _Problem, *, fixed: bool, bound: int) -> WashPlan:
    """The order as written with everything soiled washed before every step: if that is not clean,
    nothing is."""
    node, cost = _Node(problem.compiled.start, (), ()), 0
    for i in range(problem.total):
        washes = [*problem.choices(i, node.soiled, fixed=fixed)]
        if not washes:
            return _hopeless(problem, proven=fixed and problem.exact)
        group, after = washes[-1]
        cost += len(group)
        node = node.then(i, group, after)
    return _plan(problem, node, cost, bound=bound)


def _plan(problem: _Problem, node: _Node, cost: int, *, bound: int) -> WashPlan:
    names, steps = problem.compiled.names, problem.compiled.process.steps
    return WashPlan(
        order=tuple(steps[i].id for i in node.order),
        washes=cost,
        wash_before=tuple((steps[i].id, tuple(names[m] for m in group)) for i, group in node.washed),
        proven=cost <= bound and problem.exact,
        bound=bound,
    )


def washes_as_written(
    process: Process,
    house: House | None = None,
    *,
    washing_up: bool = False,
    food_stays: bool = False,
    limit: int = WRITTEN_SEARCH,
    should_stop: ShouldStop | None = None,
) -> WashPlan:
    """The order as written: the washes it asks for, and the fewest more that make it clean.
    ``washing_up``, ``food_stays``, ``limit`` and ``should_stop`` as in ``best_order``."""
    problem = _Problem(Compiled(process, house or House(), food_stays=food_stays), washing_up=washing_up)
    search = _Search(problem, fixed=True, limit=limit, stop=should_stop)
    return search.run() or _narrow(problem, fixed=True, bound=search.bound)


def best_order(
    process: Process,
    house: House | None = None,
    *,
    washing_up: bool = False,
    food_stays: bool = False,
    limit: int = LARGEST_SEARCH,
    progress: SearchProgress | None = None,
    should_stop: ShouldStop | None = None,
) -> WashPlan:
    """The order of the steps that needs the fewest washes.

    Proven, unless the search would pass ``limit`` states or ``should_stop`` says so (a deadline, or
    nobody waiting any more): then the best order of a narrow search, with the ``bound`` that is
    proven. ``progress`` hears that bound as it rises. ``washing_up``: whatever the written steps
    wash somewhere is clean at the end too, and that is counted. ``food_stays``: nothing is washed
    while the food of the step lies in it.
    """
    problem = _Problem(Compiled(process, house or House(), food_stays=food_stays), washing_up=washing_up)
    search = _Search(problem, fixed=False, limit=limit, stop=should_stop, progress=progress)
    found = search.run()
    if found:
        return found
    narrow = _narrow(problem, fixed=False, bound=search.bound)
    written = washes_as_written(process, house, washing_up=washing_up, food_stays=food_stays)
    if narrow.washes is None or (written.washes is not None and written.washes < narrow.washes):
        proven = written.washes is not None and written.washes <= search.bound
        return replace(written, bound=search.bound, proven=proven)
    return narrow

"""Orders and repairs as one optimum: which steps, hands and tools, with how few changes.

A constraint model (OR-tools CP-SAT) of the same contacts that ``compiled`` runs forward. Each
carrier runs through the steps that use it in a circuit; a soil it holds after one step it holds
before the next, unless it is washed in between. Every soil variable is only pushed upward, so a
plan that the model calls clean is clean; ``search`` and ``repairs`` run it again to be sure.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from ortools.sat.python import cp_model

from foodsafety.foods import carrier_kinds, heated_tool_kinds
from foodsafety.ordering.compiled import Compiled

# A guarded food that catches something outweighs any number of changes.
BREACH = 1_000_000_000
WORKERS = 2

# (what has been found so far, what is proven that nothing can be below)
BoundProgress = Callable[[float, float], None]
IsCancelled = Callable[[], bool]


@dataclass(frozen=True, slots=True, kw_only=True)
class Freedom:
    """What may be changed. ``washes``: extra washes; ``moves``: the order of the steps; ``tools``:
    a second one of a tool; ``people``: who does a step. ``written_washes``: the wash steps of the
    process stand and are done; else washes are placed only where they pay. ``within_s``: the whole
    may not take longer [s]."""

    washes: bool = True
    moves: bool = False
    tools: bool = False
    people: bool = False
    written_washes: bool = True
    within_s: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Solution:
    """One answer of the model, in indices of ``Compiled``.

    ``washed``: for each step, the carriers washed before it. ``copied``: (tool, step) where a
    second one is used. ``handed``: (step, from, to). ``moved``: steps out of their written order.
    ``breaches``: steps where a guarded food still catches something. ``bound``: no plan is below it.
    """

    order: tuple[int, ...]
    washed: Mapping[int, tuple[int, ...]] = field(default_factory=dict)
    copied: tuple[tuple[int, int], ...] = ()
    handed: tuple[tuple[int, int, int], ...] = ()
    moved: frozenset[int] = frozenset()
    breaches: tuple[int, ...] = ()
    cost: float = 0.0
    bound: float = 0.0
    proven: bool = False


@dataclass(slots=True)
class _Node:
    """A carrier at a step, if it is used there: ``there`` is None where it always is."""

    step: int
    carrier: int
    there: Any
    before: dict[int, Any]
    after: dict[int, Any]


class OrderModel:
    """The model of one process under one freedom."""

    def __init__(self, compiled: Compiled, freedom: Freedom, weights: Mapping[str, int]) -> None:
        self.compiled = compiled
        self.freedom = freedom
        self.weights = weights
        self.model = cp_model.CpModel()
        self.bits = [1 << n for n in range(max(compiled.bit.values(), default=0).bit_length())]
        self.used = [
            i for i, step in enumerate(compiled.steps) if not step.dry or (freedom.written_washes and step.wash)
        ]
        self.rank: dict[int, Any] = {}
        self.start: dict[int, Any] = {}
        self.moved: dict[int, Any] = {}
        self.wash: dict[tuple[int, int], Any] = {}
        self.copy_at: dict[tuple[int, int], Any] = {}
        self.copy_of: dict[int, Any] = {}
        self.hand_to: dict[tuple[int, int, int], Any] = {}
        self.breach: dict[int, Any] = {}
        self.mix: dict[tuple[int, int], Any] = {}
        self.nodes: dict[int, list[_Node]] = {}
        self.slot: dict[tuple[int, int], list[_Node]] = {}
        self._times()
        self._places()
        for i in self.used:
            self._contacts(i)
        for carrier, nodes in self.nodes.items():
            self._runs_through(carrier, nodes)
        self._goal()

    # --- order and time ------------------------------------------------------------------------

    def _times(self) -> None:
        n = len(self.used)
        for place, i in enumerate(self.used):
            self.rank[i] = self.model.new_int_var(0, n - 1, f"rank{i}") if self.freedom.moves else place
        if self.freedom.within_s is not None:
            self._within(int(self.freedom.within_s))
        if self.freedom.moves:
            for i in self.used:
                self.moved[i] = self.model.new_bool_var(f"moved{i}")
            for b, j in enumerate(self.used):
                for i in self.used[:b]:
                    self._in_written_order(i, j)

    def _within(self, limit_s: int) -> None:
        for i in self.used:
            self.start[i] = self.model.new_int_var(0, limit_s, f"start{i}")
            self.model.add(self.start[i] + int(self.compiled.process.steps[i].planned_s) <= limit_s)

    def _in_written_order(self, i: int, j: int) -> None:
        """Step i before j where it must; else as long as neither counts as moved."""
        if self._must(i, j):
            self._follows(i, j, waits=True)
        elif "move" in self.weights:
            unmoved = (~self.moved[i], ~self.moved[j])
            self.model.add(self.rank[i] < self.rank[j]).only_enforce_if(*unmoved)

    def _must(self, i: int, j: int) -> bool:
        return bool(self.compiled.before[j] >> i & 1)

    def _follows(self, i: int, j: int, *, waits: bool, given: Any = None) -> None:
        """Step j comes after i; with ``waits`` also after what i waits for by itself."""
        rows = [self.model.add(self.rank[j] >= self.rank[i] + 1)] if self.freedom.moves else []
        if self.start:
            step = self.compiled.process.steps[i]
            length_s = step.planned_s if waits else step.planned_s - step.waiting_s
            rows.append(self.model.add(self.start[j] >= self.start[i] + int(length_s)))
        if given is not None:
            for row in rows:
                row.only_enforce_if(given)

    # --- who and what is at each step ------------------------------------------------------------

    def _places(self) -> None:
        for i in self.used:
            step = self.compiled.steps[i]
            for m in step.carriers:
                if m in step.kit and self._may_copy(m):
                    self._with_copy(i, m)
                elif m in step.kit and self._is_person(m) and self.freedom.people:
                    self._with_handover(i, m)
                else:
                    self._node(i, m, m, None)

    def _is_person(self, m: int) -> bool:
        return self.compiled.names[m] in self.compiled.process.people

    def _may_copy(self, m: int) -> bool:
        tool = self.compiled.process.tools.get(self.compiled.names[m])
        if not self.freedom.tools or tool is None or m not in self.compiled.washable:
            return False
        return tool.kind not in heated_tool_kinds() | carrier_kinds("fixed")

    def _node(self, i: int, slot: int, carrier: int, there: Any) -> _Node:
        new = self.model.new_bool_var
        row = _Node(i, carrier, there, {b: new("") for b in self.bits}, {b: new("") for b in self.bits})
        self.nodes.setdefault(carrier, []).append(row)
        self.slot.setdefault((i, slot), []).append(row)
        return row

    def _with_copy(self, i: int, m: int) -> None:
        """A tool at a step is the one written or a second one of it, numbered below zero."""
        if m not in self.copy_of:
            self.copy_of[m] = self.model.new_bool_var(f"copy{m}")
        use = self.model.new_bool_var(f"copy{m}@{i}")
        self.copy_at[m, i] = use
        self.model.add_implication(use, self.copy_of[m])
        self._node(i, m, m, ~use)
        self._node(i, m, -1 - m, use)

    def _with_handover(self, i: int, m: int) -> None:
        """A step is done by whoever is written or by somebody who is not at it yet."""
        kit = self.compiled.steps[i].kit
        others = [self.compiled.index[name] for name in self.compiled.process.people]
        free = [other for other in others if other not in kit]
        for other in free:
            self.hand_to[i, m, other] = self.model.new_bool_var(f"hand{i}:{m}>{other}")
            self._node(i, m, other, self.hand_to[i, m, other])
        if not free:
            self._node(i, m, m, None)
            return
        stays = self.model.new_bool_var(f"stay{i}:{m}")
        self.model.add_exactly_one([stays, *(self.hand_to[i, m, other] for other in free)])
        self._node(i, m, m, stays)

    # --- contacts ---------------------------------------------------------------------------------

    def _contacts(self, i: int) -> None:
        step = self.compiled.steps[i]
        if step.wash:
            self._wash_step(i)
            return
        for b in self.bits:
            self.mix[i, b] = self.model.new_bool_var(f"mix{i}:{b}")
        for m in (*step.foods, *step.kit):
            for row in self.slot[i, m]:
                self._touches(i, row)
        for m in (*step.beside, *step.tasted, *(() if step.made is None else (step.made,))):
            for row in self.slot[i, m]:
                self._catches(i, m, row)
        self._stood(i)
        self._guards(i)

    def _touches(self, i: int, row: _Node) -> None:
        """What touches at a step brings its soils into the mix, unless it is washed, and takes the mix along."""
        clean = self._washed_before(row, i, row.carrier not in self.compiled.steps[i].foods)
        for b in self.bits:
            self._if([*self._dirty(row, b, clean), *self._there(row)], self.mix[i, b])
            if not self._ends(i, row.carrier, b):
                self._if([self.mix[i, b], *self._there(row)], row.after[b])

    def _catches(self, i: int, m: int, row: _Node) -> None:
        """What stands beside, is made, or goes back into the bowl keeps its soils and may catch more."""
        step = self.compiled.steps[i]
        for b in self.bits:
            self._if([row.before[b]], row.after[b])
            if m in step.beside or (m == step.made and not self._ends(i, m, b)):
                self._if([self.mix[i, b]], row.after[b])
            if m in step.tasted and b & self.compiled.person:
                self.model.add(row.after[b] == 1)

    def _dirty(self, row: _Node, b: int, clean: Any) -> list[Any]:
        return [row.before[b]] if clean is None else [row.before[b], ~clean]

    def _stood(self, i: int) -> None:
        """A food brings along what was on its shelf, and leaves there what was on itself."""
        step = self.compiled.steps[i]
        for food, shelf in step.stood:
            for row in self.slot[i, shelf]:
                known = (row.carrier, i) in self.wash
                clean = self.wash[row.carrier, i] if known else self._washed_before(row, i, True)
                for b in self.bits:
                    met = self._dirty(row, b, clean)
                    self._if(met, self.mix[i, b])
                    self._if(met, row.after[b])
                    for own in self.slot[i, food]:
                        self._if([own.before[b]], row.after[b])

    def _ends(self, i: int, m: int, b: int) -> bool:
        """True if the step itself ends soil b on m."""
        step = self.compiled.steps[i]
        if step.heat and (m in step.foods or m in step.vessels or m == step.made):
            return not b & self.compiled.heat_keeps
        return step.rinse and (m in step.rinsed or m == step.made) and not b & self.compiled.rinse_keeps

    def _washed_before(self, row: _Node, i: int, kit: bool) -> Any:
        carrier = row.carrier if row.carrier >= 0 else -1 - row.carrier
        if not kit or not self.freedom.washes or carrier not in self.compiled.washable:
            return None
        if row.carrier in self.compiled.lying_in[i]:
            return None  # the step's own food lies in it
        self.wash[row.carrier, i] = self.model.new_bool_var(f"wash{row.carrier}@{i}")
        return self.wash[row.carrier, i]

    def _wash_step(self, i: int) -> None:
        step = self.compiled.steps[i]
        for m in step.cloths:
            for row in self.slot[i, m]:
                for b in self.bits:
                    self._if([row.before[b]], row.after[b])
                    for name in (*step.washed, *(n for n in step.cloths if n != m)):
                        for other in self.slot[i, name]:
                            self._if([row.before[b]], other.after[b])

    def _guards(self, i: int) -> None:
        bits = self.compiled.steps[i].guarded_bits
        if not bits:
            return
        self.breach[i] = self.model.new_bool_var(f"breach{i}")
        for b in self.bits:
            if b & bits:
                self._if([self.mix[i, b]], self.breach[i])

    def _there(self, row: _Node) -> list[Any]:
        return [] if row.there is None else [row.there]

    def _if(self, met: list[Any], then: Any) -> None:
        self.model.add_bool_or([*(~one for one in met), then])

    # --- a carrier's way through the steps ---------------------------------------------------------

    def _runs_through(self, carrier: int, nodes: list[_Node]) -> None:
        own = carrier if carrier >= 0 else None
        waits = own is None or not self._is_person(own)
        none = self.model.new_bool_var("")
        arcs: list[tuple[int, int, Any]] = [(0, 0, none)]
        for a, first in enumerate(nodes, start=1):
            arcs += self._ends_of_way(a, first, self.compiled.start[own] if own is not None else 0)
            for z, then in enumerate(nodes, start=1):
                if a != z and self._may_follow(first, then, nodes):
                    arcs.append((a, z, self._way_on(first, then, waits=waits)))
        if all(node.there is not None for node in nodes):
            for node in nodes:
                self.model.add_implication(none, ~node.there)
        else:
            self.model.add(none == 0)
        self.model.add_circuit(arcs)

    def _ends_of_way(self, a: int, node: _Node, start: int) -> list[tuple[int, int, Any]]:
        """A carrier's way may begin here, with the soils it starts with, end here, or pass by."""
        opens = self.model.new_bool_var("")
        for b in self.bits:
            if start & b:
                self.model.add_implication(opens, node.before[b])
        passes = [] if node.there is None else [(a, a, ~node.there)]
        return [(0, a, opens), (a, 0, self.model.new_bool_var("")), *passes]

    def _way_on(self, first: _Node, then: _Node, *, waits: bool) -> Any:
        """From one step straight to another: what it held after the one it holds before the other."""
        arc = self.model.new_bool_var("")
        self._follows(first.step, then.step, waits=waits, given=arc)
        for b in self.bits:
            self._if([arc, first.after[b]], then.before[b])
        return arc

    def _may_follow(self, first: _Node, then: _Node, nodes: list[_Node]) -> bool:
        i, j = first.step, then.step
        if self._must(j, i) or (not self.freedom.moves and self.rank[j] <= self.rank[i]):
            return False
        always = [row.step for row in nodes if row.there is None and row.step not in (i, j)]
        return not any(self._between(i, k, j) for k in always)

    def _between(self, i: int, k: int, j: int) -> bool:
        return (self._must(i, k) and self._must(k, j)) if self.freedom.moves else i < k < j

    # --- the goal -----------------------------------------------------------------------------------

    def _goal(self) -> None:
        weigh = self.weights.get
        terms = [BREACH * row for row in self.breach.values()]
        terms += [weigh(f"wash:{carrier}", weigh("wash", 1)) * row for (carrier, _), row in self.wash.items()]
        terms += [weigh("tool", 1) * row for row in self.copy_of.values()]
        terms += [weigh("hand", 1) * row for row in self.hand_to.values()]
        if "move" in self.weights:
            terms += [weigh("move", 1) * row for row in self.moved.values()]
        self.goal = sum(terms) if terms else 0
        self.model.minimize(self.goal)

    def hint(self, order: tuple[int, ...], washed: Mapping[int, tuple[int, ...]]) -> None:
        """A plan to start from."""
        if self.freedom.moves:
            for place, i in enumerate(i for i in order if i in self.rank):
                self.model.add_hint(self.rank[i], place)
        for (carrier, i), row in self.wash.items():
            self.model.add_hint(row, carrier in washed.get(i, ()))

    def solve(
        self, *, seconds: float, progress: BoundProgress | None = None, cancelled: IsCancelled | None = None
    ) -> Solution | None:
        """The best answer found within ``seconds``, proven or with the bound that was; None if
        none was found at all."""
        solver = cp_model.CpSolver()
        solver.parameters.max_time_in_seconds = seconds
        solver.parameters.num_workers = WORKERS
        solver.parameters.random_seed = 7
        watch = _Watch(solver, progress)
        with _stop_when(solver, cancelled):
            status = solver.solve(self.model, watch)
        if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return None
        return self._answer(solver, proven=status == cp_model.OPTIMAL)

    def _answer(self, solver: cp_model.CpSolver, *, proven: bool) -> Solution:
        on = solver.boolean_value
        order = sorted(self.used, key=lambda i: (solver.value(self.rank[i]), i))
        washed: dict[int, tuple[int, ...]] = {}
        for (carrier, i), row in sorted(self.wash.items()):
            if on(row):
                washed[i] = (*washed.get(i, ()), carrier)
        return Solution(
            order=tuple(order),
            washed=washed,
            copied=tuple(key for key, row in self.copy_at.items() if on(row)),
            handed=tuple(key for key, row in self.hand_to.items() if on(row)),
            moved=frozenset(i for i, row in self.moved.items() if on(row)) if "move" in self.weights else frozenset(),
            breaches=tuple(i for i, row in self.breach.items() if on(row)),
            cost=solver.objective_value,
            bound=solver.best_objective_bound,
            proven=proven,
        )


class _Watch(cp_model.CpSolverSolutionCallback):
    """Tells how far a search has come."""

    def __init__(self, solver: cp_model.CpSolver, progress: BoundProgress | None) -> None:
        super().__init__()
        self.progress = progress
        self.found = float("inf")
        if progress:
            solver.best_bound_callback = lambda bound: progress(self.found, bound)

    def on_solution_callback(self) -> None:
        """Called by the solver at each better plan."""
        self.found = self.objective_value
        if self.progress:
            self.progress(self.found, self.best_objective_bound)


class _stop_when:  # noqa: N801 - reads as a verb where it is used
    """Stops a search as soon as somebody has asked for it."""

    def __init__(self, solver: cp_model.CpSolver, cancelled: IsCancelled | None) -> None:
        self.solver, self.cancelled = solver, cancelled
        self.over = threading.Event()

    def _look(self) -> None:
        while not self.over.wait(0.1):
            if self.cancelled and self.cancelled():
                self.solver.stop_search()
                return

    def __enter__(self) -> None:
        if self.cancelled:
            threading.Thread(target=self._look, daemon=True).start()

    def __exit__(self, *wrong: object) -> None:
        self.over.set()

"""Ways to repair a process: washes, second tools, other hands, moved steps, or another order.

Each repair is a whole process again, judged anew: it says what it still leaves, and what it costs
in seconds, litres and tools. The counts come from ``search`` (order and washes alone, exact) and
``constraint_model`` (everything else, proven or with its bound).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from foodsafety.contamination import (
    DRY_VERBS,
    Finding,
    Surfaces,
    do_step,
    find_contamination,
    opening_surfaces,
    washed_by,
)
from foodsafety.foods import wash_cost
from foodsafety.ordering.compiled import Compiled
from foodsafety.ordering.constraint_model import BREACH, Freedom, OrderModel, Solution
from foodsafety.ordering.repair_costs import (
    CHANGE,
    DEAREST_S,
    FETCH_S,
    HANDOVER_S,
    FreshNames,
    Repair,
    RepairCost,
    RepairKind,
    carrier_wash_cost,
    elapsed_s,
    through_gloves,
    total_cost,
    wash_count,
    wash_steps,
    with_order,
)
from foodsafety.ordering.search import SearchProgress, ShouldStop, WashPlan, best_order, washes_as_written
from foodsafety.recipes import WASHES, Process, Step, Tool
from foodsafety.rules import House

REPAIR_S = 1.5


@dataclass(frozen=True, slots=True)
class _Kitchen:
    """What a mend is worked out for."""

    process: Process
    house: House
    scrub_s: float
    compiled: Compiled

    def built(self, solution: Solution, kind: RepairKind) -> Repair:
        """The mended process of a solution."""
        process, compiled = self.process, self.compiled
        names = FreshNames(process)
        second = {m: names.tool(compiled.names[m]) for m, _ in dict.fromkeys((m, 0) for m, _ in solution.copied)}
        copied = {(m, i) for m, i in solution.copied}
        handed = {(i, compiled.names[a]): compiled.names[b] for i, a, b in solution.handed}
        tools = {
            **process.tools,
            **{new: Tool(id=new, kind=process.tools[compiled.names[m]].kind) for m, new in second.items()},
        }
        grown = replace(process, tools=tools)
        steps: list[Step] = []
        washed: list[str] = []
        added: list[str] = []
        for i in _with_idle(process, solution.order):
            step = process.steps[i]
            carriers = [second[-1 - m] if m < 0 else compiled.names[m] for m in solution.washed.get(i, ())]
            new = wash_steps(grown, self.house, self.scrub_s, carriers, names)
            added.extend(row.id for row in new)
            washed.extend(carriers)
            swap = {compiled.names[m]: second[m] for m, at in copied if at == i}
            changed = replace(
                step,
                tools=tuple(swap.get(name, name) for name in step.tools),
                hands=tuple(handed.get((i, name), name) for name in step.hands),
            )
            steps.extend((*new, changed))
        steps, gloves = through_gloves(steps, added, names)
        added.extend(gloves)
        mended = with_order(grown, steps)
        return Repair(
            kind=kind,
            process=mended,
            changes=len(washed) + len(second) + len(solution.handed) + len(solution.moved),
            cost=total_cost(
                (carrier_wash_cost(grown, self.house, self.scrub_s, name) for name in washed),
                tools=len(second),
                seconds=FETCH_S * len(second) + HANDOVER_S * len(handed),
            ),
            washes=wash_count(mended),
            elapsed_s=elapsed_s(mended),
            left=find_contamination(mended, self.house),
            added=tuple(added),
            moved=tuple(process.steps[i].id for i in sorted(solution.moved)),
            copies=tuple((new, compiled.names[m]) for m, new in second.items()),
            handed=tuple((process.steps[i].id, a, b) for (i, a), b in handed.items()),
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


def _with_idle(process: Process, order: Sequence[int]) -> list[int]:
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


def _kitchen(process: Process, house: House | None, scrub_s: float) -> _Kitchen:
    house = house or House()
    return _Kitchen(process, house, scrub_s, Compiled(process, house))


_FREEDOMS: Mapping[RepairKind, Freedom] = {
    "wash": Freedom(),
    "tool": Freedom(washes=False, tools=True),
    "hands": Freedom(washes=False, people=True),
    "move": Freedom(washes=False, moves=True),
    "mixed": Freedom(moves=True, tools=True, people=True),
}


def find_repairs(
    process: Process, house: House | None = None, *, scrub_s: float = 20.0, seconds: float = REPAIR_S
) -> tuple[Repair, ...]:
    """The smallest mends of a process in the order written, each of its own kind, fewest changes
    first; of equal ones the quickest. Empty where there is nothing to mend, or nothing helps.

    A mend counts only if it leaves fewer findings than there are. ``scrub_s`` [s] is the
    profile's hand-wash, ``seconds`` the time for each kind.
    """
    kitchen = _kitchen(process, house, scrub_s)
    now = find_contamination(process, kitchen.house)
    if not now:
        return ()
    found = [kitchen.solved(freedom, kind, seconds=seconds) for kind, freedom in _FREEDOMS.items()]
    found += [_own_boards(kitchen, now), _gloved(kitchen, now)]
    rows = [mend for mend in found if mend and mend.changes and len(mend.left) < len(now)]
    # A mixture is worth its many kinds only where no single kind does as much with as few changes.
    pure = min(((len(m.left), m.changes) for m in rows if m.kind != "mixed"), default=None)
    rows = [m for m in rows if m.kind != "mixed" or pure is None or (len(m.left), m.changes) < pure]
    rows.sort(key=lambda m: (len(m.left), m.changes, m.cost.seconds))
    unique: list[Repair] = []
    for row in rows:
        if not any(row.process.steps == other.process.steps for other in unique):
            unique.append(row)
    return tuple(unique)


def _own_boards(kitchen: _Kitchen, now: Sequence[Finding]) -> Repair | None:
    """Under the school of separate boards: a board of its own for what is ready to eat."""
    mixed = dict.fromkeys(finding.path[1] for finding in now if finding.rule == "board-not-separate")
    if not mixed:
        return None
    process, names = kitchen.process, FreshNames(kitchen.process)
    second = {board: names.tool(board) for board in mixed}
    raw = {
        name for food in process.foods.values() for name in [food.id] if any(s.startswith("raw_") for s in food.soils)
    }
    cooked: set[str] = set()
    steps = []
    for step in process.steps:
        handles_raw = any(
            part in raw and name not in cooked for name in step.foods for part in process.ingredients_of(name)
        )
        swap = {} if handles_raw or step.do in DRY_VERBS else second
        tools = tuple(swap.get(name, name) for name in step.tools)
        if step.do == "clean":
            tools = tuple(dict.fromkeys((*tools, *(second[name] for name in tools if name in second))))
        steps.append(replace(step, tools=tools))
        if step.do == "heat":
            cooked |= {*step.foods, *((step.makes,) if step.makes else ())}
    tools_now = {**process.tools, **{new: Tool(id=new, kind=process.tools[old].kind) for old, new in second.items()}}
    mended = replace(process, tools=tools_now, steps=tuple(steps))
    return _plain_repair(
        kitchen,
        mended,
        changes=len(second),
        cost=RepairCost(seconds=FETCH_S * len(second), litres=0, tools=len(second)),
        copies=tuple((new, old) for old, new in second.items()),
    )


def _gloved(kitchen: _Kitchen, now: Sequence[Finding]) -> Repair | None:
    """Under the school of gloves: fresh gloves, over washed hands, for each step that needs them."""
    bare = {finding.step for finding in now if finding.rule == "bare-hands-on-ready-to-eat"}
    if not bare:
        return None
    names = FreshNames(kitchen.process)
    steps: list[Step] = []
    added: list[str] = []
    for step in kitchen.process.steps:
        if step.id not in bare:
            steps.append(step)
            continue
        wash = wash_steps(kitchen.process, kitchen.house, kitchen.scrub_s, step.hands, names)
        on = Step(id=names.step(), do="gloves_on", hands=step.hands, planned_s=FETCH_S)
        off = Step(id=names.step(), do="gloves_off", hands=step.hands, planned_s=HANDOVER_S)
        steps.extend((*wash, on, step, off))
        added.extend((*(row.id for row in wash), on.id, off.id))
    hands = sum(len(step.hands) for step in kitchen.process.steps if step.id in bare)
    each = wash_cost(None, scrub_s=kitchen.scrub_s, sanitise=False, drying=kitchen.house.drying)
    cost = RepairCost(seconds=(each.seconds + FETCH_S + HANDOVER_S) * hands, litres=each.litres * hands, tools=0)
    return _plain_repair(
        kitchen, replace(kitchen.process, steps=tuple(steps)), changes=hands, cost=cost, added=tuple(added)
    )


def _plain_repair(
    kitchen: _Kitchen,
    mended: Process,
    *,
    changes: int,
    cost: RepairCost,
    added: tuple[str, ...] = (),
    copies: tuple[tuple[str, str], ...] = (),
) -> Repair:
    return Repair(
        kind="house",
        process=mended,
        changes=changes,
        cost=cost,
        washes=wash_count(mended),
        elapsed_s=elapsed_s(mended),
        left=find_contamination(mended, kitchen.house),
        added=added,
        copies=copies,
    )


# --- another order -------------------------------------------------------------------------------


def _washing_up(process: Process, steps: Sequence[Step], house: House) -> list[Step]:
    """The steps with the written wash steps again for what they wash and what would end soiled,
    each after the last use of what it washes."""
    surfaces: Surfaces = opening_surfaces(process, people=process.people, unwashed=house.arrive == "unwashed")
    for step in steps:
        surfaces, _ = do_step(surfaces, process, step)
    rows = list(steps)
    left = {name for name, soils in surfaces.items() if soils}
    for written in reversed([step for step in process.steps if step.do in WASHES]):
        carriers = [name for name in washed_by(process, written) if name in left]
        left -= set(carriers)
        if not carriers:
            continue
        names = tuple(carriers)
        # Hands are dried on paper then: the written towel may have been used since.
        hands = written.do == "wash_hands"
        kept = replace(written, hands=names, tools=()) if hands else replace(written, tools=names)
        uses = (k for k, s in enumerate(rows) if {*s.tools, *s.hands} & set(carriers) and s.do not in WASHES)
        last = max(uses, default=len(rows) - 1)
        while last + 1 < len(rows) and rows[last + 1].do in WASHES:
            last += 1
        rows.insert(last + 1, kept)
    return rows


def reordered(process: Process, plan: WashPlan, house: House | None = None, *, scrub_s: float = 20.0) -> Repair:
    """The process in the order of a plan, with the washes it needs where they pay; of the written
    wash steps only the washing up stays."""
    kitchen = _kitchen(process, house, scrub_s)
    names, where = FreshNames(process), process.step_index
    needed = dict(plan.wash_before)
    order = [where[name] for name in plan.order if process.steps[where[name]].do not in DRY_VERBS]
    kept = [i for i in _with_idle(process, order) if process.steps[i].do not in WASHES]
    steps: list[Step] = []
    added: list[str] = []
    for i in kept:
        new = wash_steps(process, kitchen.house, scrub_s, needed.get(process.steps[i].id, ()), names)
        added.extend(row.id for row in new)
        steps.extend((*new, process.steps[i]))
    steps, gloves = through_gloves(steps, added, names)
    added.extend(gloves)
    # A process of washes alone stays as it is: there is no order to speak of.
    mended = with_order(process, _washing_up(process, steps, kitchen.house)) if kept else process
    written = [step.id for step in process.steps if step.do not in DRY_VERBS]
    now = [step.id for step in mended.steps if step.id in set(written)]
    moved = _moved(written, now)
    carriers_washed = [name for _, group in plan.wash_before for name in group]
    return Repair(
        kind="order",
        process=mended,
        changes=len(moved),
        cost=total_cost(carrier_wash_cost(process, kitchen.house, scrub_s, name) for name in carriers_washed),
        washes=wash_count(mended),
        elapsed_s=elapsed_s(mended),
        left=find_contamination(mended, kitchen.house),
        added=tuple(added),
        moved=moved,
        proven=plan.proven,
        bound=plan.bound,
        plan=plan,
    )


def _moved(written: Sequence[str], now: Sequence[str]) -> tuple[str, ...]:
    """The fewest steps that, taken out, leave both orders the same."""
    place = {name: i for i, name in enumerate(written)}
    runs: dict[str, tuple[str, ...]] = {}
    for name in now:
        earlier = [run for last, run in runs.items() if place[last] < place[name]]
        runs[name] = (*sorted(earlier, key=len)[-1], name) if earlier else (name,)
    stay = set(sorted(runs.values(), key=len)[-1]) if runs else set()
    return tuple(name for name in now if name not in stay)


def in_best_order(
    process: Process,
    house: House | None = None,
    *,
    scrub_s: float = 20.0,
    within_s: float | None = None,
    seconds: float = 2.0,
    progress: SearchProgress | None = None,
    should_stop: ShouldStop | None = None,
) -> Repair | None:
    """The process in the order that needs the fewest washes. With ``within_s`` [s], of the orders
    that take no longer than that, looked for at most ``seconds``. None where no number of washes helps."""
    plan = best_order(process, house, washing_up=True, progress=progress, should_stop=should_stop)
    if plan.washes is None:
        return None
    mend = reordered(process, plan, house, scrub_s=scrub_s)
    if within_s is None or mend.elapsed_s <= within_s:
        return mend
    kitchen = _kitchen(process, house, scrub_s)
    freedom = Freedom(moves=True, written_washes=False, within_s=within_s)
    found = OrderModel(kitchen.compiled, freedom, {"wash": 1}).solve(seconds=seconds, cancelled=should_stop)
    if found is None or found.breaches:
        return None
    steps = process.steps
    timely = WashPlan(
        order=tuple(steps[i].id for i in found.order),
        washes=sum(map(len, found.washed.values())),
        wash_before=tuple(
            (steps[i].id, tuple(kitchen.compiled.names[m] for m in found.washed[i]))
            for i in found.order
            if i in found.washed
        ),
        proven=found.proven,
        bound=max(plan.bound, int(found.bound)),
    )
    return reordered(process, timely, house, scrub_s=scrub_s)


def washes_needed(process: Process, house: House | None = None, *, should_stop: ShouldStop | None = None) -> int | None:
    """Washes of the order as written: those it asks for, the fewest more that it needs, and what
    is still to be washed up of what it washes before."""
    return washes_as_written(process, house, washing_up=True, should_stop=should_stop).washes


# --- one eater's portion ---------------------------------------------------------------------------


@dataclass(frozen=True, slots=True, kw_only=True)
class AllergenRun:
    """How to keep one eater's portion free. ``mend`` is None where it cannot be done with these
    tools; ``why`` are the findings that no order, wash or second tool ends."""

    mend: Repair | None
    why: tuple[Finding, ...]


def allergen_run(
    process: Process,
    portion: str,
    allergens: Iterable[str],
    house: House | None = None,
    *,
    scrub_s: float = 20.0,
    spare: Mapping[str, int] | None = None,
    seconds: float = REPAIR_S,
    should_stop: ShouldStop | None = None,
) -> AllergenRun:
    """The order, and the tools, that keep a served food free of allergens; other findings are
    not its concern. ``spare`` counts, by kind, the tools the kitchen has beyond those written:
    a second tool is only used where there is one (None: where it is not fixed)."""
    watched = frozenset(allergens)
    asked = replace(process, free_of={portion: watched})
    kitchen = _kitchen(asked, house, scrub_s)
    candidates = [_as_it_stands(kitchen), in_best_order(asked, house, scrub_s=scrub_s, should_stop=should_stop)]
    if spare is None or any(spare.get(tool.kind, 0) for tool in process.tools.values()):
        freedom = Freedom(moves=True, tools=True)
        candidates.append(kitchen.solved(freedom, "mixed", seconds=seconds))
    rows = [mend for mend in candidates if mend]
    for mend in sorted(rows, key=lambda m: (m.cost.tools, m.changes, m.cost.seconds)):
        if not _of_allergens(mend.left, watched) and _has_tools(mend, process, spare):
            return AllergenRun(mend=mend, why=())
    # What the most that can be done still leaves: the steps as they stand may hide it behind a wash.
    most = min(rows, key=lambda m: (len(_of_allergens(m.left, watched)), -m.changes, -m.washes))
    return AllergenRun(mend=None, why=_of_allergens(most.left, watched))


def _of_allergens(findings: Iterable[Finding], watched: frozenset[str]) -> tuple[Finding, ...]:
    return tuple(finding for finding in findings if finding.soil in watched)


def _has_tools(mend: Repair, process: Process, spare: Mapping[str, int] | None) -> bool:
    if spare is None:
        return True
    used: dict[str, int] = {}
    for _, old in mend.copies:
        kind = process.tools[old].kind
        used[kind] = used.get(kind, 0) + 1
    return all(count <= spare.get(kind, 0) for kind, count in used.items())


def _as_it_stands(kitchen: _Kitchen) -> Repair:
    process = kitchen.process
    return Repair(
        kind="order",
        process=process,
        changes=0,
        cost=RepairCost(seconds=0, litres=0, tools=0),
        washes=wash_count(process),
        elapsed_s=elapsed_s(process),
        left=find_contamination(process, kitchen.house),
    )

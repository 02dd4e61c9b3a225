"""Another order: the steps as a plan has them, with the washes it needs and the washing up."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from itertools import takewhile

from foodsafety.contamination import (
    DRY_VERBS,
    Surfaces,
    analyse,
    do_step,
    find_contamination,
    opening_surfaces,
    washed_by,
)
from foodsafety.foods import is_raw, raw_of_animals, raw_stands_at_most_s
from foodsafety.ordering.constraint_model import Freedom, OrderModel
from foodsafety.ordering.rebuilding import Kitchen, kitchen_of, with_idle
from foodsafety.ordering.repair_costs import (
    FreshNames,
    Repair,
    carrier_wash_cost,
    elapsed_s,
    through_gloves,
    total_cost,
    wash_count,
    wash_steps,
    with_order,
)
from foodsafety.ordering.search import SearchProgress, ShouldStop, WashPlan, best_order, washes_as_written
from foodsafety.recipes import WASHES, Process, Step
from foodsafety.rules import House


def _washing_up(process: Process, steps: Sequence[Step], house: House) -> list[Step]:
    """The steps with the written wash steps again for what they wash and what would end soiled,
    each after the last use of what it washes."""
    surfaces = _surfaces_after(process, steps, house)
    rows = list(steps)
    left = {name for name, soils in surfaces.items() if soils}
    for written in reversed([step for step in process.steps if step.do in WASHES]):
        carriers = tuple(name for name in washed_by(process, written) if name in left)
        left -= set(carriers)
        if carriers:
            # Hands are dried on paper then: the written towel may have been used since.
            hands = written.do == "wash_hands"
            kept = replace(written, hands=carriers, tools=()) if hands else replace(written, tools=carriers)
            rows.insert(_after_last_use(rows, carriers), kept)
    return rows


def _after_last_use(rows: Sequence[Step], carriers: Sequence[str]) -> int:
    """The place after the last step that uses any of them, and after the washes that follow it."""
    uses = (k for k, s in enumerate(rows) if {*s.tools, *s.hands} & set(carriers) and s.do not in WASHES)
    place = max(uses, default=len(rows) - 1) + 1
    while place < len(rows) and rows[place].do in WASHES:
        place += 1
    return place


def reordered(process: Process, plan: WashPlan, house: House | None = None, *, scrub_s: float = 20.0) -> Repair:
    """The process in the order of a plan, with the washes it needs where they pay; of the written
    wash steps only the washing up stays."""
    kitchen = kitchen_of(process, house, scrub_s)
    repaired, added = _in_order(kitchen, plan)
    written = [step.id for step in process.steps if step.do not in DRY_VERBS]
    moved = _moved(written, [step.id for step in repaired.steps if step.id in set(written)])
    carriers_washed = [name for _, group in plan.wash_before for name in group]
    return Repair(
        kind="order",
        process=repaired,
        changes=len(moved),
        cost=total_cost(carrier_wash_cost(process, kitchen.house, scrub_s, name) for name in carriers_washed),
        washes=wash_count(repaired),
        elapsed_s=elapsed_s(repaired),
        left=find_contamination(repaired, kitchen.house),
        added=added,
        moved=moved,
        proven=plan.proven,
        bound=plan.bound,
        plan=plan,
    )


def _in_order(kitchen: Kitchen, plan: WashPlan) -> tuple[Process, tuple[str, ...]]:
    """The process in the order of a plan, and the ids of the steps it gains."""
    process, names, where = kitchen.process, FreshNames(kitchen.process), kitchen.process.step_index
    needed = dict(plan.wash_before)
    order = [where[name] for name in plan.order if process.steps[where[name]].do not in DRY_VERBS]
    kept = [process.steps[i] for i in with_idle(process, order) if process.steps[i].do not in WASHES]
    steps = [*_arrival(process)]
    added: list[str] = []
    surfaces = _surfaces_after(process, steps, kitchen.house)
    for step in kept:
        # Hands washed on arrival are clean until they touch something.
        soiled = [n for n in needed.get(step.id, ()) if n not in process.people or surfaces.get(n)]
        new = wash_steps(process, kitchen.house, kitchen.scrub_s, soiled, names)
        added.extend(row.id for row in new)
        for row in (*new, step):
            surfaces, _ = do_step(surfaces, process, row)
        steps.extend((*new, step))
    steps, gloves = through_gloves(steps, added, names)
    # A process of washes alone stays as it is: there is no order to speak of.
    repaired = with_order(process, _washing_up(process, steps, kitchen.house)) if kept else process
    return repaired, (*added, *gloves)


def _surfaces_after(process: Process, steps: Iterable[Step], house: House) -> Surfaces:
    """What rides on what once some steps are done, from the beginning."""
    surfaces: Surfaces = opening_surfaces(process, people=process.people, unwashed=house.arrive == "unwashed")
    for step in steps:
        surfaces, _ = do_step(surfaces, process, step)
    return surfaces


def _arrival(process: Process) -> tuple[Step, ...]:
    """The hand-washes written before anything is touched: they stay where they are."""
    return tuple(takewhile(lambda step: step.do == "wash_hands", process.steps))


def raw_stands_s(process: Process) -> dict[str, float]:
    """For each raw food, how long [s] it stands between its first handling and its heat, as planned."""
    at_s, began, stands = 0.0, dict[str, float](), dict[str, float]()
    for step in process.steps:
        for name in sorted(_raw_in(process, step) - stands.keys()):
            if step.do == "heat":
                stands[name] = at_s - began.get(name, at_s)
            elif step.do not in ("chill", "freeze"):
                began.setdefault(name, at_s)
        at_s += step.planned_s - step.waiting_s  # nobody stands by while something cooks
    return stands


def _raw_in(process: Process, step: Step) -> set[str]:
    parts = {name for food in step.foods for name in process.ingredients_of(food)}
    return {name for name in parts if raw_of_animals(process.foods[name].soils)}


def _sound(written: Process, repaired: Process, house: House) -> bool:
    """True if another order leaves no raw food standing longer than it may, and lays no cooked food
    where something raw lies that only a later heat would end."""
    before, after = raw_stands_s(written), raw_stands_s(repaired)
    if any(stands_s > max(before.get(name, 0.0), raw_stands_at_most_s()) for name, stands_s in after.items()):
        return False
    return _cooked_again(repaired, house) <= _cooked_again(written, house)


def _cooked_again(process: Process, house: House) -> set[tuple[str, str]]:
    """Cooked foods that catch something raw before they are heated again: (food, soil)."""
    cooked, where = _first_heat(process), process.step_index
    return {
        (row.food, row.soil)
        for row in analyse(process, house).cleared
        if row.step and is_raw(row.soil) and cooked.get(row.food, len(where)) < where[row.step]
    }


def _first_heat(process: Process) -> dict[str, int]:
    """For each food that is heated, the place of the first step that does it."""
    found: dict[str, int] = {}
    for i, step in enumerate(process.steps):
        if step.do == "heat":
            found |= {name: found.get(name, i) for name in (*step.foods, *((step.makes,) if step.makes else ()))}
    return found


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
    that take no longer than that, looked for at most ``seconds``. An order that would leave raw food
    standing is not offered: then it is the one written, with its washes. None where no number of washes
    helps."""
    plan = best_order(process, house, washing_up=True, food_stays=True, progress=progress, should_stop=should_stop)
    if plan.washes is None:
        return None
    repair = reordered(process, plan, house, scrub_s=scrub_s)
    if not _sound(process, repair.process, house or House()):
        plan = washes_as_written(process, house, washing_up=True, food_stays=True, should_stop=should_stop)
        if plan.washes is None:
            return None
        repair = reordered(process, plan, house, scrub_s=scrub_s)
    if within_s is None or repair.elapsed_s <= within_s:
        return repair
    timely = _timely_plan(kitchen_of(process, house, scrub_s), plan, within_s, seconds, should_stop)
    found = reordered(process, timely, house, scrub_s=scrub_s) if timely else None
    return found if found and _sound(process, found.process, house or House()) else None


def _timely_plan(
    kitchen: Kitchen, plan: WashPlan, within_s: float, seconds: float, should_stop: ShouldStop | None
) -> WashPlan | None:
    """The plan with the fewest washes of those that take at most ``within_s``."""
    freedom = Freedom(moves=True, written_washes=False, within_s=within_s)
    found = OrderModel(kitchen.compiled, freedom, {"wash": 1}).solve(seconds=seconds, cancelled=should_stop)
    if found is None or found.breaches:
        return None
    steps, names = kitchen.process.steps, kitchen.compiled.names
    washed = [(i, found.washed[i]) for i in found.order if i in found.washed]
    return WashPlan(
        order=tuple(steps[i].id for i in found.order),
        washes=sum(map(len, found.washed.values())),
        wash_before=tuple((steps[i].id, tuple(names[m] for m in group)) for i, group in washed),
        proven=found.proven,
        bound=max(plan.bound, int(found.bound)),
    )


def washes_needed(process: Process, house: House | None = None, *, should_stop: ShouldStop | None = None) -> int | None:
    """Washes of the order as written: those it asks for, the fewest more that it needs, and what
    is still to be washed up of what it washes before."""
    return washes_as_written(process, house, washing_up=True, should_stop=should_stop).washes

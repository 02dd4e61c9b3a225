"""A lesson solved in a room: the problem, the shortest plan of it, and whether its order keeps soil where it was."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from bulwark.board.choices import Choices
from foodsafety.contamination import analyse
from foodsafety.planning import (
    Around,
    Bound,
    LeftOut,
    Plan,
    Progress,
    ShouldStop,
    WholeLesson,
    Wish,
    schedule,
    step_task,
    whole_lesson,
)
from foodsafety.recipes import Process, only_dishes, process_from
from foodsafety.rules import House

# A page waits so long for the shortest plan, as for each way out.
LOOK_S = WAY_LOOK_S = 0.5
# And so long for one that had no plan at all by then: on a busy machine that says nothing about the way.
WAY_LAST_LOOK_S = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Room:
    """What a plan is made for: initials by bench, how many there are of what is shared, the period [min], and what
    somebody has decided."""

    benches: tuple[tuple[str, tuple[str, ...]], ...]
    counts: tuple[tuple[str, int], ...]
    length_min: int
    house: House
    choices: Choices
    # Who may use which skills, by bench and name; None where nobody has said.
    may: tuple[tuple[tuple[str, str], frozenset[str]], ...] | None
    # Shelves of each oven, where the kitchen has said so.
    ovens: tuple[int, ...]
    # What the rule profile asks of the times between steps.
    bounds: tuple[Bound, ...]
    # How long steps take whose pieces are smaller [s].
    takes: tuple[tuple[str, float], ...] = ()
    # What the rules have washed though the recipe does not say so, by the dishes that are cooked (none: all of them).
    left_out: tuple[tuple[tuple[str, ...], tuple[LeftOut, ...]], ...] = ()

    def deciding(self, **choices: Any) -> Room:
        """With other choices."""
        return replace(self, choices=replace(self.choices, **choices))


def both_planned(lessons_then: Sequence[tuple[str, Room]]) -> tuple[int, bool]:
    """When the longest ends [min], 0 where one has no plan or makes a path for soil; and whether that is proven."""
    looks = [_looked_at(steps, room) for steps, room in lessons_then]
    if not all(plan.makespan_s and clean for plan, clean in looks):
        return 0, False
    return -(-max(plan.makespan_s or 0 for plan, _ in looks) // 60), all(
        plan.makespan_s == plan.bound_s for plan, _ in looks
    )


def _looked_at(steps: str, room: Room) -> tuple[Plan, bool]:
    """A way's plan, and whether it is clean."""
    plan, clean = planned(steps, room, WAY_LOOK_S, thorough=False)[1:]
    return (plan, clean) if plan.makespan_s else planned(steps, room, WAY_LAST_LOOK_S, thorough=False)[1:]


@lru_cache(maxsize=256)
def planned(steps: str, room: Room, seconds: float, *, thorough: bool = True) -> tuple[WholeLesson, Plan, bool]:
    return plan_in(steps, room, seconds, thorough=thorough)


def plan_in(
    steps: str,
    room: Room,
    seconds: float,
    progress: Progress | None = None,
    should_stop: ShouldStop | None = None,
    *,
    thorough: bool = True,
) -> tuple[WholeLesson, Plan, bool]:
    """A plan, and whether it makes no path for soil that the written order does not have. Where it makes one, all that
    hands do stays in its order, and it is asked again."""
    data = json.loads(steps)
    process, cooks = process_from(data), cooked_at(data, room)
    fixed = {name: at_min * 60 for name, at_min in room.choices.pins}
    hint = planned(steps, room.deciding(pins=()), LOOK_S)[1].starts if fixed else None
    # Where the rules' times cannot all be kept, the plan is shown without them, and says which it breaks.
    for as_written, bounded in ((False, True), (True, True), (False, False), (True, False)):
        whole = whole_for(process, cooks, room if bounded else replace(room, bounds=()), as_written=as_written)
        plan = schedule(
            whole.problem,
            seconds=seconds,
            fixed=fixed,
            hint=hint or None,
            progress=progress,
            should_stop=should_stop,
            thorough=thorough,
        )
        clean = not plan.starts or _is_clean(data, process, room, plan.starts)
        if clean and (plan.starts or not room.bounds):
            break
    return whole, plan, clean


def cooked_at(data: Mapping[str, Any], room: Room) -> dict[str, Process]:
    """What each bench cooks that does not cook all of a menu."""
    made = {dishes: process_from(only_dishes(data, dishes)) for dishes in {dishes for _, dishes in room.choices.share}}
    return {bench: made[dishes] for bench, dishes in room.choices.share}


def whole_for(process: Process, cooks: Mapping[str, Process], room: Room, *, as_written: bool = False) -> WholeLesson:
    choices = room.choices
    return whole_lesson(
        process,
        dict(room.benches),
        dict(room.counts),
        lesson_s=room.length_min * 60,
        around=Around(review_s=choices.review_min * 60, show_s=choices.show_min * 60, eat_s=choices.eat_min * 60),
        wish=Wish(
            ready_made=choices.ready,
            ahead=choices.ahead,
            more=dict(choices.more),
            adults=dict(choices.adults),
            doers=dict(choices.doers),
            takes=dict(room.takes),
        ),
        may=None if room.may is None else dict(room.may),
        bounds=room.bounds,
        ovens=room.ovens,
        cooks=cooks,
        left_out=_left_out(room),
        as_written=as_written,
    )


def _left_out(room: Room) -> dict[str, tuple[LeftOut, ...]]:
    """The washes that the recipe of each bench leaves out."""
    share, known = dict(room.choices.share), dict(room.left_out)
    return {bench: known.get(share.get(bench, ()), ()) for bench, _who in room.benches}


def _is_clean(
    data: Mapping[str, list[dict[str, str]]], process: Process, room: Room, starts: Mapping[str, int]
) -> bool:
    written = {(row.rule, row.soil, row.food) for row in analyse(process, room.house).findings}
    orders = set()
    share = dict(room.choices.share)
    for number, (bench, _who) in enumerate(room.benches, start=1):
        dishes = share.get(bench, ())
        # What is done before the lesson comes first. Benches that go by one order are looked at once.
        rows = only_dishes(data, dishes)["steps"]
        at = [(starts.get(step_task(number, row["id"]), -1), n, row["id"]) for n, row in enumerate(rows)]
        orders.add((dishes, tuple(name for _at_s, _n, name in sorted(at))))
    for dishes, order in orders:
        cooked = only_dishes(data, dishes)
        steps = sorted(cooked["steps"], key=lambda row: order.index(row["id"]))
        found = analyse(process_from({**cooked, "steps": steps}), room.house).findings
        if not {(row.rule, row.soil, row.food) for row in found} <= written:
            return False
    return True

"""A bench's log told again as a process: what was really done, in the order it was done.

The flow map of a lesson is drawn from it. Heat stands where the readings proved it, not where
somebody tapped the step; a wash that was too short is no wash.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from foodsafety.contamination import heated_with
from foodsafety.lesson.entries import read_entry
from foodsafety.lesson.entry import TAKES_BACK, AtBench, Event, voided
from foodsafety.lesson.folding import advance
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.proving import heats_of
from foodsafety.lesson.state import State, opening_state
from foodsafety.lesson.telling import Telling, Told
from foodsafety.quantities import CoreError
from foodsafety.recipes import Process, Step


@dataclass(frozen=True, slots=True, kw_only=True)
class ReplayedLog:
    """A log as a process; ``told`` says for each of its steps where it comes from. What was thrown
    away is in ``discarded``: it is judged as if it had been eaten, since that is what throwing it
    away prevented. ``unproven`` are foods that no reading has shown to be cooked: whether they were
    made or not, nothing raw on them is ruled out. ``served`` are those that an entry serves; the
    recipe's other plates are judged too, but nobody has eaten them as far as is recorded."""

    process: Process
    told: dict[str, Told]
    discarded: frozenset[str] = frozenset()
    unproven: tuple[str, ...] = ()
    served: frozenset[str] = frozenset()


def _tell(telling: Telling, event: Event, before: State, after: State) -> None:
    """What an entry says was done, and what it proved."""
    try:
        entry = read_entry(event.kind, event.data, AtBench(before.plan, before.learners))
    except CoreError:
        return
    entry.tell(telling, event.at_s, before, after)
    for food in sorted(after.proven.keys() - before.proven.keys()):
        _tell_proof(telling, event, after, food)


def _tell_proof(telling: Telling, event: Event, state: State, food: str) -> None:
    heats = heats_of(state, food)
    vessels = heated_with(telling.plan.process, heats[-1]) if heats else ()
    step = Step(id="proved", do="heat", foods=(food,), tools=vessels)
    telling.add(step, Told(what="proved", at_s=event.at_s, recipe_step=heats[-1].id if heats else ""))


def _process(telling: Telling, people: tuple[str, ...]) -> Process:
    """The log as a process."""
    process, discarded = telling.plan.process, telling.discarded
    steps = tuple(
        replace(step, foods=tuple(n for n in step.foods if n not in discarded)) if step.do == "serve" else step
        for step in telling.steps
    )
    served = {name for step in steps if step.do == "serve" for name in step.foods}
    plates = served or {name for name in process.serve if name not in discarded}
    hands = tuple(dict.fromkeys((*people, *(name for step in steps for name in step.hands))))
    serve = tuple(sorted(plates | discarded))
    return replace(process, foods=telling.foods, tools=telling.tools, people=hands, steps=steps, serve=serve)


def process_from_log(plan: Plan, learners: Iterable[str], events: Iterable[Event]) -> ReplayedLog:
    """A log as a process, in the order in which things happened; voided entries are left out.

    Raises CoreError while nothing has been done that touches anything.
    """
    names = tuple(learners)
    telling = Telling(plan)
    state = opening_state(plan, names)
    rows = sorted(events, key=lambda row: row.at_s)
    not_counted = voided(rows)
    for row in rows:
        if row.id in not_counted or row.kind in TAKES_BACK:
            continue
        after, _ = advance(state, row)
        _tell(telling, row, state, after)
        state = after
    if not telling.steps:
        raise CoreError("log", "nothing_done_yet")
    process = _process(telling, names)
    return ReplayedLog(
        process=process,
        served=frozenset(name for step in process.steps if step.do == "serve" for name in step.foods),
        told=telling.told,
        discarded=frozenset(telling.discarded),
        unproven=tuple(name for name in _to_be_proven(plan) if not state.food(name).proof and not _gone(state, name)),
    )


def _gone(state: State, food: str) -> bool:
    return state.food(food).discarded


def _to_be_proven(plan: Plan) -> tuple[str, ...]:
    """The foods that a core temperature has to prove: what a heat step makes, or else all it heats."""
    return tuple(dict.fromkeys(n for c in plan.controls if c.rule == "core-temperature" for n in c.measured))

"""A bench's log folded, entry by entry, to its state and the findings each entry causes."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from foodsafety.contamination import (
    Finding,
)
from foodsafety.lesson.events import Event, check_payload
from foodsafety.lesson.handlers import HANDLERS
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.state import Move, State, opening_state
from foodsafety.quantities import CoreError


def advance(state: State, event: Event) -> Move:
    """The state after an event, and the findings that event causes.

    An event seen before changes nothing. One that cannot be read changes nothing but leaves a
    finding, so that it is never taken for a pass. Voiding is done by ``fold``.
    """
    if event.id in state.seen:
        return state, ()
    return _take(replace(state, seen=state.seen | {event.id}), event)


def _take(state: State, event: Event) -> Move:
    try:
        data = check_payload(event.kind, event.data, state.plan)
        learner = data.get("learner")
        if learner is not None and learner not in state.learners:
            raise CoreError("learner", "not_at_this_bench", learner=learner)
    except CoreError as wrong:
        return state, (Finding(rule="entry-not-understood", step="", evidence={"field": wrong.field, "id": event.id}),)
    return HANDLERS[event.kind](state, event.at_s, data)


def fold(plan: Plan, learners: Iterable[str], events: Iterable[Event]) -> State:
    """The state after a whole log, in the order in which things happened.

    Entries voided by a later one are left out; the log itself keeps both.
    """
    return fold_on(opening_state(plan, learners), events)


def fold_on(state: State, events: Iterable[Event]) -> State:
    """The state after more of the same log; each entry must have happened after those folded.

    The same as ``advance`` over each, but what was seen is gathered once.
    """
    rows = sorted(events, key=lambda row: row.at_s)
    voided = {str(row.data.get("event")) for row in rows if row.kind == "voided"}
    seen = set(state.seen)
    for row in rows:
        if row.id in seen:
            continue
        seen.add(row.id)
        if row.id not in voided:
            state, _ = _take(state, row)
    return replace(state, seen=frozenset(seen))

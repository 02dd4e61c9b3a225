"""A bench's log folded, entry by entry, to its state and the findings each entry causes."""

from __future__ import annotations

from collections.abc import Iterable

from foodsafety.contamination import Finding
from foodsafety.lesson.breaches import note
from foodsafety.lesson.changed import changed
from foodsafety.lesson.entries import ENTRIES, read_entry
from foodsafety.lesson.entry import AtBench, Event, voided
from foodsafety.lesson.plan import Plan
from foodsafety.lesson.proving import settle
from foodsafety.lesson.state import Move, State, opening_state
from foodsafety.quantities import CoreError


def advance(state: State, event: Event) -> Move:
    """The state after an event, and the findings that event causes.

    An event seen before changes nothing. One that cannot be read changes nothing but leaves a
    finding, so that it is never taken for a pass. Every finding stands in the state as well: as an
    incident, or noted. Voiding is done by ``fold``.
    """
    if event.id in state.seen:
        return state, ()
    return _take(changed(state, seen=state.seen | _noticed(event)), event)


def _noticed(event: Event) -> frozenset[str]:
    """What an entry adds to what was seen at a bench: nothing where the program wrote it, as nobody was there."""
    kind = ENTRIES.get(event.kind)
    return frozenset() if kind is not None and kind.made_here else frozenset({event.id})


def _take(state: State, event: Event) -> Move:
    state = settle(state, event.at_s)
    try:
        entry = read_entry(event.kind, event.data, AtBench(state.plan, state.learners))
    except CoreError as wrong:
        evidence = {"field": wrong.field, "id": event.id, "kind": event.kind}
        unread = (Finding(rule="entry-not-understood", step="", evidence=evidence),)
        return note(state, unread, event.at_s), unread
    before, noted = len(state.incidents), len(state.noted)
    state, findings = entry.move(state, event.at_s)
    if not findings and len(state.incidents) == before:
        return state, ()
    told = {id(i.finding) for i in state.incidents[before:]} | {id(n.finding) for n in state.noted[noted:]}
    state = note(state, [f for f in findings if id(f) not in told], event.at_s)
    return state, (*findings, *_late(state, before, findings))


def _late(state: State, before: int, findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Findings that an entry caused about something before it: a plate whose proof was taken back."""
    return tuple(i.finding for i in state.incidents[before:] if not any(i.finding is f for f in findings))


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
    not_counted = voided(rows)
    seen = set(state.seen)
    for row in rows:
        if row.id in seen:
            continue
        seen |= _noticed(row)
        if row.id not in not_counted:
            state, _ = _take(state, row)
    return changed(state, seen=frozenset(seen))

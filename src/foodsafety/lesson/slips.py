"""Slips planted into what a crew says: one at each control point at least, for assistants and educators to notice.

A slip changes a crew's entries as a real slip would: something is not done, is done too short, too early, too late or
by the wrong hands. It is planted only where the lesson has a place for it.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

from foodsafety.lesson.entry import Event
from foodsafety.lesson.evidence import bricks
from foodsafety.lesson.folding import fold
from foodsafety.lesson.plan import Plan

_Changed = Sequence[Event] | None


@dataclass(frozen=True, slots=True)
class Script:
    """What a crew of a bench says, and where a slip may go from on [s]."""

    plan: Plan
    learners: tuple[str, ...]
    events: tuple[Event, ...]
    from_s: float

    def first(self, *kinds: str, **data: Any) -> int | None:
        """The first entry of a kind, after the moment from which a slip may be, that says this."""
        for n, row in enumerate(self.events):
            if row.kind in kinds and row.at_s >= self.from_s and all(row.data.get(k) == v for k, v in data.items()):
                return n
        return None

    def without(self, n: int | None) -> _Changed:
        """Without one entry."""
        return None if n is None else [*self.events[:n], *self.events[n + 1 :]]

    def without_all(self, keep: Callable[[Event], bool]) -> _Changed:
        """With what is kept; None where that is all."""
        rows = [row for row in self.events if row.at_s < self.from_s or keep(row)]
        return rows if len(rows) < len(self.events) else None

    def saying(self, n: int | None, **data: Any) -> _Changed:
        """With one entry that says something else."""
        if n is None:
            return None
        row = self.events[n]
        return [*self.events[:n], replace(row, data={**row.data, **data}), *self.events[n + 1 :]]

    def with_one(self, n: int | None, kind: str, **data: Any) -> _Changed:
        """With one more entry just before another."""
        if n is None:
            return None
        row = Event(id=f"slip-{kind}-{n}", kind=kind, at_s=self.events[n].at_s - 1, data=data)
        return [*self.events[:n], row, *self.events[n:]]

    def later(self, n: int | None, by_s: float) -> _Changed:
        """With everything from one entry on so much later."""
        if n is None:
            return None
        return [*self.events[:n], *(replace(row, at_s=row.at_s + by_s) for row in self.events[n:])]

    def step_of(self, rule: str) -> str | None:
        """The first step at which a control point of a rule is at stake."""
        return next((c.steps[0] for c in self.plan.controls if c.rule == rule and c.steps), None)

    def done(self, step: str | None) -> int | None:
        """The entry that says that a step is done."""
        return self.first("step_done", step=step) if step else None

    def before_ready(self) -> int | None:
        """The first work on food that is eaten as it is."""
        return self.done(self.step_of("ready-to-eat-clean"))

    def raw_done(self) -> int | None:
        """The first work on raw food."""
        return self.done(self.step_of("raw-kept-apart") or self.step_of("raw-out-of-fridge"))


def _no_washes(script: Script, *, raw: bool) -> _Changed:
    """Whoever did a step with hands did not wash before it, for all the washes after raw food or all on arrival."""
    at = script.raw_done()
    edge = script.events[at].at_s if at is not None else float("inf")
    who = script.learners[0]
    if raw and at is not None:
        by = script.events[at].data.get("by") or [who]
        who = str(by[0])
    kinds = ("hands_washed", "wash_started")
    return script.without_all(
        lambda row: row.kind not in kinds or row.data.get("learner") != who or (row.at_s > edge) != raw
    )


def _salad_by_raw_hands(script: Script) -> _Changed:
    """The work on ready food after the raw is done by whoever has raw hands, unwashed."""
    at = script.raw_done()
    if at is None:
        return None
    by, after = list(script.events[at].data.get("by") or script.learners[:1]), script.events[at].at_s
    steps = {s for c in script.plan.controls if c.rule == "ready-to-eat-clean" for s in c.steps}
    rows = [
        replace(row, data={**row.data, "by": by})
        if row.kind == "step_done" and row.data.get("step") in steps and row.at_s > after
        else row
        for row in script.events
        if not (row.kind in ("hands_washed", "wash_started") and row.data.get("learner") in by and row.at_s > after)
    ]
    return rows if rows != list(script.events) else None


def _cores(script: Script, change: Callable[[Event], Event | None]) -> _Changed:
    changed = [change(row) if row.kind == "core_read" else row for row in script.events]
    rows = [row for row in changed if row is not None]
    return rows if rows != list(script.events) else None


def _kit_after_raw(script: Script) -> int | None:
    """The first time that kit is cleaned, as a step or by itself."""
    steps = {s.id for s in script.plan.process.steps if s.do == "clean"}
    for n, row in enumerate(script.events):
        if row.kind == "cleaned" or (row.kind == "step_done" and row.data.get("step") in steps):
            return n
    return None


def _wiped(script: Script) -> _Changed:
    n = _kit_after_raw(script)
    if n is None:
        return None
    row = script.events[n]
    step = next((s for s in script.plan.process.steps if s.id == row.data.get("step")), None)
    tools = list(step.tools) if step is not None else list(row.data.get("tools", ()))
    wiped = replace(row, kind="cleaned", data={"tools": tools, "how": "wipe"})
    return [*script.events[:n], wiped, *script.events[n + 1 :]] if tools else None


def _unready(script: Script, missing: str) -> _Changed:
    n = script.first("ready")
    checks = [row for row in (script.events[n].data.get("checks") or ()) if row != missing] if n is not None else []
    return script.saying(n, checks=checks)


def _ill_and_at_work(script: Script) -> _Changed:
    """Somebody who is ill goes on all the same: what they do is done by one who handles no food."""
    n = script.first("step_done")
    by = list(script.events[n].data.get("by") or ()) if n is not None else []
    return script.with_one(n, "unwell", learner=by[0]) if by else None


def _early(script: Script) -> _Changed:
    """The long heat is tapped as done when it has hardly begun, and nobody measures."""
    steps = {s.id: s for s in script.plan.process.steps}
    for n, row in enumerate(script.events):
        step = steps.get(str(row.data.get("step")))
        if row.kind == "step_done" and step is not None and step.do == "heat" and step.planned_s >= 300 and n:
            moved = replace(row, at_s=script.events[n - 1].at_s + 0.1 * step.planned_s)
            gone = row.at_s - moved.at_s
            after = [replace(r, at_s=r.at_s - gone) for r in script.events[n + 1 :] if r.kind != "core_read"]
            return [*script.events[:n], moved, *after]
    return None


# Each slip by its name: what it changes in a script; None where the lesson has no place for it.
PLANTED: dict[str, Callable[[Script], _Changed]] = {
    "no_wash_on_arrival": lambda s: _no_washes(s, raw=False),
    "short_wash": lambda s: s.saying(s.first("hands_washed"), scrub_s=6.0),
    "no_wash_after_raw": lambda s: _no_washes(s, raw=True),
    "salad_by_raw_hands": _salad_by_raw_hands,
    "kit_not_cleaned": lambda s: s.without(_kit_after_raw(s)),
    "kit_only_wiped": _wiped,
    "fridge_not_read": lambda s: s.without_all(lambda row: row.kind != "fridge_read"),
    "fridge_warm": lambda s: s.saying(s.first("fridge_read"), core_c=9.5),
    "not_measured": lambda s: _cores(s, lambda _row: None),
    "one_piece_measured": lambda s: _cores(s, lambda row: row if row.data.get("piece") == "1" else None),
    "too_low_and_served": lambda s: _cores(s, lambda row: replace(row, data={**row.data, "core_c": 54.0})),
    "probe_not_cleaned": lambda s: s.without_all(lambda row: row.kind != "cleaned" or not _only_probes(s, row)),
    "cold_not_measured": lambda s: s.without_all(lambda row: row.kind != "cold_read"),
    "cold_too_warm": lambda s: s.saying(s.first("cold_read"), core_c=9.0),
    "raw_left_out": lambda s: s.later(_after(s.raw_done()), 3 * 3600.0),
    "left_standing": lambda s: s.later(s.first("stored", "gone"), 5 * 3600.0),
    "nothing_put_away": lambda s: s.without_all(lambda row: row.kind not in ("stored", "gone")),
    "part_cooked_left": lambda s: s.later(_after(s.done(s.step_of("part-cooked"))), 2 * 3600.0),
    "cough": lambda s: s.with_one(s.before_ready(), "touched", learner=_doer(s), what="cough"),
    "phone": lambda s: s.with_one(s.before_ready(), "touched", learner=_doer(s), what="phone"),
    "hair_touched": lambda s: s.with_one(s.before_ready(), "touched", learner=_doer(s), what="hair"),
    "bin_touched": lambda s: s.with_one(s.before_ready(), "touched", learner=_doer(s), what="bin"),
    "apron_off": lambda s: _unready(s, "apron"),
    "hair_loose": lambda s: _unready(s, "hair"),
    "ring_on": lambda s: _unready(s, "jewellery"),
    "cut_uncovered": lambda s: _unready(s, "cuts"),
    "ill_and_at_work": _ill_and_at_work,
    "not_rinsed": lambda s: s.without(s.done(next((r.id for r in s.plan.process.steps if r.do == "rinse"), None))),
    "done_too_early": _early,
}


def _only_probes(script: Script, row: Event) -> bool:
    tools = script.plan.process.tools
    return all(name in tools and tools[name].kind == "probe" for name in row.data.get("tools", ()))


def _after(n: int | None) -> int | None:
    return None if n is None else n + 1


def _doer(script: Script) -> str:
    """Who works on the ready food first."""
    n = script.before_ready()
    by = list(script.events[n].data.get("by") or ()) if n is not None else []
    return str(by[0]) if by else script.learners[0]


def plant(
    plan: Plan, learners: Sequence[str], events: Sequence[Event], slip: str, *, from_s: float = 0.0
) -> list[Event] | None:
    """A crew's entries with a slip in them, from a moment [s] on; None where the lesson has no place for it, or where
    nothing comes of it (what is not rinsed is cooked through later). Raises KeyError for a slip that there is not."""
    script = Script(plan, tuple(learners), tuple(events), from_s)
    changed = PLANTED[slip](script)
    if changed is None or _shown(plan, learners, changed) == _shown(plan, learners, events):
        return None
    return sorted(changed, key=lambda row: row.at_s)


def _shown(plan: Plan, learners: Sequence[str], events: Sequence[Event]) -> tuple[object, ...]:
    """All that anybody could notice of a bench: its bricks, its breaches, what was noted, and who is ready."""
    state = fold(plan, learners, events)
    end_s = max((row.at_s for row in events), default=0.0) + 60
    walls = tuple((row.control.id, row.status) for row in bricks(state, end_s, ended=True))
    ready = tuple(sorted((name, tuple(sorted(person.ready)), person.unwell) for name, person in state.people.items()))
    found = tuple(sorted(row.finding.key for row in state.incidents))
    return walls, found, tuple(row.finding.rule for row in state.noted), ready


# How a crew works: as planned, slower, without a word after the beginning, or cut off for ten minutes in the middle.
CREWS = ("steady", "slow", "silent", "offline")
_SLOWER, _OFFLINE_S = 1.4, 600.0


def crewed(events: Sequence[Event], crew: str) -> list[tuple[float, Event]]:
    """When each entry reaches the log [s], and the entry: a slow crew does everything later; of a silent one nothing
    comes after it is ready; of one without a network what happens in ten minutes comes when they are over."""
    if crew == "slow":
        rows = [replace(row, at_s=row.at_s * _SLOWER) for row in events]
        return [(row.at_s, row) for row in rows]
    if crew == "silent":
        return [(row.at_s, row) for row in events if row.kind in ("ready", "fridge_read")]
    if crew == "offline" and events:
        cut = events[len(events) // 3].at_s
        back = cut + _OFFLINE_S
        return sorted(((back if cut <= row.at_s < back else row.at_s, row) for row in events), key=lambda row: row[0])
    return [(row.at_s, row) for row in events]

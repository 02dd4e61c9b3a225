"""A bench's card typed in afterwards: its rows in order, and the entries that the ticks on it are."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from django.utils import timezone
from django.utils.translation import gettext as _

from bulwark.lessons import selectors
from bulwark.lessons.models import Bench
from foodsafety.lesson import READY_CHECKS, Plan
from foodsafety.quantities import CoreError, c_from_f
from foodsafety.recipes import Step

# Where a clock begins or ends, the card's time is needed: one that nobody wrote would be a guess about safety.
_TIMED = frozenset({"heat", "part_cook", "chill", "freeze", "serve"})


@dataclass(frozen=True, slots=True)
class Row:
    """One row of a card: what it is of (``kind``), the step or food, its words, and what it asks for."""

    name: str
    kind: str
    says: str
    of: str = ""
    timed: bool = False
    doer: bool = False
    people: tuple[str, ...] = ()
    readings: tuple[str, ...] = ()
    choices: tuple[tuple[str, str], ...] = ()


@dataclass(slots=True)
class Typed:
    """What was typed into a card, and the entries so far, with the moment of each that is known."""

    data: Mapping[str, str]
    many: Mapping[str, Sequence[str]]
    entries: list[tuple[str, dict[str, Any], dt.datetime | None]] = field(default_factory=list)

    def add(self, kind: str, at: dt.datetime | None, **data: Any) -> None:
        """One more entry."""
        self.entries.append((kind, data, at))


def rows_of(bench: Bench) -> list[Row]:
    """A bench's card from the top down."""
    plan, learners = selectors.plan_at(bench), selectors.bench_state(bench)[0].learners
    titles = selectors.step_titles(bench.lesson)
    rows = [Row("ready", "ready", _("Ready: all five ticked"), people=learners)]
    if any(c.rule == "fridge-cold" for c in plan.controls):
        rows.append(Row("fridge", "fridge_read", _("The fridge reads"), timed=True, readings=("1",)))
    rows.append(Row("arrive", "wash", _("Hands on arrival, counted to the end"), people=learners))
    first_raw = next((c.steps[0] for c in plan.controls if c.rule == "raw-out-of-fridge" and c.steps), "")
    for step in plan.process.steps:
        rows += _rows_at(plan, step, titles[step.id], learners, first_raw)
    chosen = (
        ("fridge", _("into the fridge")), ("freezer", _("into the freezer")),
        ("eaten", _("all eaten")), ("discarded", _("thrown away")),
    )  # fmt: skip
    kept = (
        Row(f"kept-{n}", "kept", _("What became of the %(food)s") % {"food": food}, of=food, timed=True, choices=chosen)
        for n, food in enumerate(_kept(plan))
    )
    return [*rows, *kept]


def _kept(plan: Plan) -> tuple[str, ...]:
    return next((c.foods for c in plan.controls if c.rule == "leftovers-labelled"), plan.process.serve)


def _rows_at(plan: Plan, step: Step, title: str, learners: tuple[str, ...], first_raw: str) -> list[Row]:
    """The row of a step, and of what is measured once it is done."""
    if step.do == "wash_hands":
        return [Row(f"step-{step.id}", "wash", title, of=step.id, people=learners)]
    timed = step.do in _TIMED or step.id == first_raw
    rows = [Row(f"step-{step.id}", "step", title, of=step.id, timed=timed, doer=step.do not in ("probe", "serve"))]
    pieces = tuple(str(n + 1) for n in range(plan.profile.pieces))
    for control in plan.controls:
        if control.rule == "core-temperature" and control.due_after and control.due_after[-1] == step.id:
            for food in control.measured:
                says = _("In the middle of the %(food)s, each piece") % {"food": food}
                rows.append(Row(f"core-{step.id}-{food}", "core_read", says, of=food, timed=True, readings=pieces))
        if control.rule == "chilled-in-time" and control.steps and control.steps[-1] == step.id:
            for food in control.foods:
                says = _("%(food)s reads, cold") % {"food": food}
                rows.append(Row(f"cold-{step.id}-{food}", "cold_read", says, of=food, timed=True, readings=("1",)))
    return rows


def entries_of(bench: Bench, data: Mapping[str, str], many: Mapping[str, Sequence[str]], unit: str) -> list[Any]:
    """The entries of a card in its order: kind, what it says, and when. A time that nobody wrote lies between its
    neighbours; where a clock hangs on it, it has to be written. Raises CoreError naming the row."""
    typed, plan = Typed(data, many), selectors.plan_at(bench)
    for row in rows_of(bench):
        _add(typed, row, bench, unit, plan.scrub_s)
    if not typed.entries:
        raise CoreError("card", "nothing_ticked")
    return _at_their_times(bench, typed.entries)


def _add(typed: Typed, row: Row, bench: Bench, unit: str, scrub_s: float) -> None:
    at = _clock(bench, typed.data.get(f"at-{row.name}", ""), row.says)
    ticked = [name for name in typed.many.get(row.name, ()) if name]
    values = [(piece, text) for piece in row.readings if (text := typed.data.get(f"{row.name}-{piece}", "").strip())]
    if row.timed and at is None and (ticked or values):
        raise CoreError(row.says, "time_needed")
    if row.kind == "ready":
        for name in ticked:
            typed.add("ready", at, learner=name, checks=list(READY_CHECKS))
    elif row.kind == "wash":
        for name in ticked:
            typed.add("hands_washed", at, learner=name, scrub_s=scrub_s)
        if row.of and ticked:
            typed.add("step_done", at, step=row.of, by=[])
    elif row.kind == "step" and ticked:
        by = typed.data.get(f"by-{row.name}", "")
        typed.add("step_done", at, step=row.of, by=[by] if by else [])
    elif row.kind == "kept" and ticked and ticked[0] in dict(row.choices):
        if ticked[0] in ("fridge", "freezer"):
            typed.add("stored", at, food=row.of, place=ticked[0])
        else:
            typed.add("gone", at, food=row.of, how=ticked[0])
    for piece, text in values:
        own = {"fridge_read": {}, "cold_read": {"food": row.of}, "core_read": {"food": row.of, "piece": piece}}[
            row.kind
        ]
        typed.add(row.kind, at, **own, core_c=_celsius(text, unit, row.says))


def _celsius(text: str, unit: str, says: str) -> float:
    try:
        value = float(text[:12].replace(",", "."))
    except ValueError:
        raise CoreError(says, "not_a_number", value=text[:12]) from None
    return value if unit == "C" else c_from_f(value)


def _clock(bench: Bench, text: str, says: str) -> dt.datetime | None:
    if not text.strip():
        return None
    try:
        clock = dt.time.fromisoformat(text.strip()[:8])
    except ValueError:
        raise CoreError(says, "not_a_clock_time", value=text[:20]) from None
    began = timezone.localtime(bench.lesson.began_at)
    at = began.replace(hour=clock.hour, minute=clock.minute, second=clock.second, microsecond=0)
    at = at if at >= began.replace(second=0, microsecond=0) else at + dt.timedelta(days=1)  # past midnight
    if at > selectors.lesson_now(bench.lesson):
        raise CoreError(says, "not_happened_yet", value=text[:20])
    return max(at, began)


def _at_their_times(bench: Bench, entries: Sequence[tuple[str, dict[str, Any], dt.datetime | None]]) -> list[Any]:
    """Each entry with its time: those that nobody wrote are spread between their neighbours, in order. Raises CoreError
    for a time before that of an earlier row."""
    known = [(-1, bench.lesson.began_at)]
    for n, (_kind, _data, at) in enumerate(entries):
        if at is not None and at < known[-1][1]:
            raise CoreError("card", "out_of_order", value=timezone.localtime(at).strftime("%H:%M"))
        if at is not None:
            known.append((n, at))
    known.append((len(entries), max(known[-1][1], selectors.lesson_now(bench.lesson))))
    found, k = [], 0
    for n, (kind, data, at) in enumerate(entries):
        while known[k + 1][0] < n:
            k += 1
        (n0, t0), (n1, t1) = known[k], known[k + 1]
        found.append((kind, data, at or t0 + (t1 - t0) * ((n - n0) / max(1, n1 - n0))))
    return found


def card_page(bench: Bench, data: Mapping[str, str], many: Mapping[str, Sequence[str]]) -> dict[str, Any]:
    """The card as a form, with what was typed."""
    rows = [
        {
            "row": row,
            "at": data.get(f"at-{row.name}", ""),
            "by": data.get(f"by-{row.name}", ""),
            "ticked": list(many.get(row.name, ())),
            "values": [(piece, data.get(f"{row.name}-{piece}", "")) for piece in row.readings],
        }
        for row in rows_of(bench)
    ]
    state = selectors.bench_state(bench)[0]
    return {"bench": bench, "lesson": bench.lesson, "rows": rows, "learners": state.learners, "begun": bool(state.done)}

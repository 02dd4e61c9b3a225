"""A bench's card typed in afterwards: its rows in order, and the entries that the ticks on it are."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from django.utils import timezone

from bulwark.board.pages import steps_in_order, washes_between
from bulwark.lessons import selectors as lessons
from bulwark.lessons.readings import question_reading
from bulwark.lessons.selectors import Bench
from bulwark.pack import wording
from bulwark.pack.selectors import Pack
from foodsafety.lesson import READY_CHECKS, Between, Plan
from foodsafety.quantities import CoreError
from foodsafety.recipes import Step

# Where a clock begins or ends, the card's time is needed: one that nobody wrote would be a guess about safety.
_TIMED = frozenset({"heat", "part_cook", "rest", "chill", "freeze", "serve"})


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
    kit: tuple[str, ...] = ()


@dataclass(slots=True)
class Typed:
    """What was typed into a card, and the entries so far, with the moment of each that is known."""

    data: Mapping[str, str]
    many: Mapping[str, Sequence[str]]
    entries: list[tuple[str, dict[str, Any], dt.datetime | None]] = field(default_factory=list)

    def add(self, kind: str, at: dt.datetime | None, **data: Any) -> None:
        """One more entry."""
        self.entries.append((kind, data, at))


def rows_of(pack: Pack, bench: Bench) -> list[Row]:
    """A bench's card from the top down, in the order of the plan, as it is printed."""
    plan, learners = lessons.plan_at(bench), lessons.bench_state(bench)[0].learners
    titles = lessons.step_titles(bench.lesson)
    rows = [Row("ready", "ready", wording.all_ready(), people=learners)]
    if any(c.rule == "fridge-cold" for c in plan.controls):
        rows.append(Row("fridge", "fridge_read", wording.fridge_reads(), timed=True, readings=("1",)))
    rows.append(Row("arrive", "wash", wording.counted_wash(wording.hands_on_arrival(), plan.scrub_s), people=learners))
    first_raw = next((c.steps[0] for c in plan.controls if c.rule == "raw-out-of-fridge" and c.steps), "")
    washes, order = washes_between(pack.board, bench), steps_in_order(pack.board, bench)
    readings = list(_readings(plan, order))
    for step in order:
        own = _row_at(step, titles[step.id], learners, step.id == first_raw, plan.scrub_s)
        before, after = (
            [row for n, wash in enumerate(washes) if wash.step == step.id and wash.after is late
             for row in _rows_between(n, wash, learners, plan.scrub_s)]
            for late in (False, True)
        )  # fmt: skip
        early, late = ([row for at, is_late, row in readings if at == step.id and is_late is k] for k in (False, True))
        rows += [*before, *early, own, *late, *after]
    chosen = wording.what_became()
    kept = (
        Row(f"kept-{n}", "kept", wording.became_of(food), of=food, timed=True, choices=chosen)
        for n, food in enumerate(_kept(plan))
    )
    return [*rows, *kept]


def _rows_between(n: int, wash: Between, learners: tuple[str, ...], scrub_s: float) -> list[Row]:
    """What has to be washed here though the recipe does not say so."""
    says = wording.counted_wash(wording.hands_between(), scrub_s)
    rows = [Row(f"wash-{n}", "wash", says, people=learners)] if wash.hands else []
    return [*rows, *([Row(f"clean-{n}", "clean", wording.kit_between(wash.kit), kit=wash.kit)] if wash.kit else [])]


def _kept(plan: Plan) -> tuple[str, ...]:
    return next((c.foods for c in plan.controls if c.rule == "leftovers-labelled"), plan.process.serve)


def _row_at(step: Step, title: str, learners: tuple[str, ...], first_raw: bool, scrub_s: float) -> Row:
    """The row of a step."""
    if step.do == "wash_hands":
        return Row(f"step-{step.id}", "wash", wording.counted_wash(title, scrub_s), of=step.id, people=learners)
    timed = step.do in _TIMED or first_raw
    return Row(f"step-{step.id}", "step", title, of=step.id, timed=timed, doer=step.do not in ("probe", "serve"))


def _readings(plan: Plan, order: Sequence[Step]) -> Iterator[tuple[str, bool, Row]]:
    """What is measured: at which step, whether behind it, and its row. A middle is read where the recipe probes it,
    else once it comes off the heat; what was chilled is read before it is served."""
    at = {step.id: n for n, step in enumerate(order)}
    pieces = tuple(str(n + 1) for n in range(plan.profile.pieces))
    for control in plan.controls:
        if control.rule == "core-temperature" and control.due_after:
            due = control.due_after[-1]
            for food in control.measured:
                probed = (s.id for s in order[at[due] + 1 :] if s.do == "probe" and food in s.foods)
                says = wording.middle_of(food)
                yield (
                    next(probed, due),
                    True,
                    Row(f"core-{due}-{food}", "core_read", says, of=food, timed=True, readings=pieces),
                )
        if control.rule == "chilled-in-time" and control.steps:
            due = control.steps[-1]
            served = next((s.id for s in order[at[due] + 1 :] if s.do == "serve"), None)
            for food in control.foods:
                row = Row(
                    f"cold-{due}-{food}", "cold_read", wording.reads_cold(food), of=food, timed=True, readings=("1",)
                )
                yield served or due, served is None, row


def entries_of(
    pack: Pack, bench: Bench, data: Mapping[str, str], many: Mapping[str, Sequence[str]], unit: str
) -> list[Any]:
    """The entries of a card in its order: kind, what it says, and when. A time that nobody wrote lies between its
    neighbours; where a clock hangs on it, it has to be written. Raises CoreError naming the row."""
    typed, plan = Typed(data, many), lessons.plan_at(bench)
    for row in rows_of(pack, bench):
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
    elif row.kind == "clean" and ticked:
        typed.add("cleaned", at, tools=list(row.kit), how="clean")
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
        typed.add(row.kind, at, **own, **_reading(row, text, unit, f"really-{row.name}" in typed.data))


def _reading(row: Row, text: str, unit: str, really: bool) -> dict[str, Any]:
    """A temperature as it is typed anywhere: asked about where it looks like one in another unit."""
    data: dict[str, Any] = {"value": _number(text, row.says), "unit": unit, "confirmed": really}
    if question_reading(row.kind, data):
        raise CoreError(row.says, "reading_in_doubt", value=text[:12], unit=unit)
    return data


def _number(text: str, says: str) -> float:
    try:
        return float(text[:12].replace(",", "."))
    except ValueError:
        raise CoreError(says, "not_a_number", value=text[:12]) from None


def _in_doubt(row: Row, data: Mapping[str, str], unit: str) -> bool:
    """True where something is typed of which a person has to say that it really is."""
    for piece in row.readings:
        try:
            _reading(row, data.get(f"{row.name}-{piece}", ""), unit, really=False)
        except CoreError as wrong:
            if wrong.why == "reading_in_doubt":
                return True
    return False


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
    # Leftovers go into the fridge after the end, when a lesson's own clock stands; one that is rehearsed has no other.
    if at > (timezone.now() if bench.lesson.pace == 1 else lessons.lesson_now(bench.lesson)):
        raise CoreError(says, "not_happened_yet", value=text[:20])
    return max(at, began)


def _at_their_times(bench: Bench, entries: Sequence[tuple[str, dict[str, Any], dt.datetime | None]]) -> list[Any]:
    """Each entry with its time, by time: several people work at once, so that the times of a card go to and fro. One
    that nobody wrote lies between its neighbours, or with the row above it where the row below was done before."""
    known = [(-1, bench.lesson.began_at), *((n, at) for n, (_kind, _data, at) in enumerate(entries) if at is not None)]
    known.append((len(entries), max(known[-1][1], lessons.lesson_now(bench.lesson))))
    found, k = [], 0
    for n, (kind, data, at) in enumerate(entries):
        while known[k + 1][0] < n:
            k += 1
        (n0, t0), (n1, t1) = known[k], known[k + 1]
        between = t0 + max(dt.timedelta(), t1 - t0) * ((n - n0) / max(1, n1 - n0))
        found.append((kind, data, at or between))
    return sorted(found, key=lambda entry: entry[2])


_PRINTED = {"at": "", "who": "", "step": "", "detail": ""}


def _asked(row: Row) -> dict[str, Any]:
    """What is to be written or ticked on a printed row: a box for each of several people, who tick their own."""
    names = row.people if len(row.people) > 1 else ()
    boxes = " ".join(f"☐ {says}" for says in (*names, *(says for _key, says in row.choices)))
    return {"check": bool(row.readings), "pieces": row.readings, "detail": boxes}


def printed_rows(pack: Pack, bench: Bench, rows: Sequence[Mapping[str, Any]]) -> list[dict[str, Any]]:
    """A printed card's rows: those of the plan, and in their places what is read, washed or kept besides, so that the
    card on paper asks for all that is typed in from it."""
    found, place, counted = [dict(row) for row in rows], 0, wording.counted(lessons.plan_at(bench).scrub_s)
    for row in rows_of(pack, bench):
        own = _own_place(found, row)
        if own is not None:
            place = own + 1
            if row.people:
                says = (found[own]["detail"], counted if row.kind == "wash" else "", _asked(row)["detail"])
                found[own]["detail"] = " ".join(text for text in says if text)
            continue
        place = len(found) if row.kind == "kept" else place
        if row.kind == "core_read" and place:
            found[place - 1]["check"] = False  # a probing whose reading has a row of its own
        found.insert(place, {**_PRINTED, "what": row.says, "kind": row.kind, **_asked(row)})
        place += 1
    return found


def _own_place(found: Sequence[Mapping[str, Any]], row: Row) -> int | None:
    """Where the plan has a row of its own for this one: by its step, or the first of getting ready and of arriving."""
    kind = {"ready": "ready", "arrive": "wash"}.get(row.name)
    steps = row.of if row.kind in ("step", "wash") else ""
    rows = (n for n, said in enumerate(found) if (steps and said["step"] == steps) or (kind and said["kind"] == kind))
    return next(rows, None)


def card_page(
    pack: Pack, bench: Bench, data: Mapping[str, str], many: Mapping[str, Sequence[str]], unit: str
) -> dict[str, Any]:
    """The card as a form, with what was typed."""
    rows = [
        {
            "row": row,
            "at": data.get(f"at-{row.name}", ""),
            "by": data.get(f"by-{row.name}", ""),
            "ticked": list(many.get(row.name, ())),
            "values": [(piece, data.get(f"{row.name}-{piece}", "")) for piece in row.readings],
            "in_doubt": _in_doubt(row, data, unit),
            "really": f"really-{row.name}" in data,
        }
        for row in rows_of(pack, bench)
    ]
    state = lessons.bench_state(bench)[0]
    shown = {"bench": bench, "lesson": bench.lesson, "rows": rows, "unit": unit}
    return {**shown, "learners": state.learners, "begun": bool(state.done)}

"""What the debrief shows: a bench as it stood at a moment, how it came to that, and what to teach next."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterator, Sequence
from typing import Any

from django.utils import timezone

from bulwark.debrief import drawings, wording
from bulwark.lessons import call_wording, catching_up, log_wording, selectors
from bulwark.lessons import drawings as walls
from bulwark.lessons import wording as lesson_wording
from bulwark.lessons.adapters import to_event
from bulwark.lessons.selectors import Bench, Lesson
from bulwark.presentation.phrases import capital, degrees, short_limit
from foodsafety.lesson import (
    Brick,
    Event,
    Incident,
    State,
    ToTeach,
    best_catch,
    bricks,
    lanes,
    state_at,
    teach_next,
)

_READ = ("core_read", "cold_read")


class Debrief:
    """One lesson after its end, or as far as it is."""

    def __init__(self, lesson: Lesson, unit: str) -> None:
        self.lesson, self.unit = lesson, unit
        self.benches = selectors.benches_of(lesson)
        selectors.read_logs(self.benches, whole=True)
        self.states = {bench.pk: selectors.bench_state(bench)[0] for bench in self.benches}
        self.began_s = lesson.began_at.timestamp()
        end = selectors.lesson_now(lesson)
        self.length_s = max(60.0, end.timestamp() - self.began_s)
        self.zone = timezone.get_current_timezone()

    def clock(self, at_s: float) -> str:
        """A moment by the clock on the wall."""
        return dt.datetime.fromtimestamp(at_s, tz=self.zone).strftime("%H:%M")

    def events(self, bench: Bench) -> list[Event]:
        """What a bench's log says."""
        return [to_event(row) for row in selectors.log_of(bench)]

    def incidents(self, bench: Bench) -> list[Incident]:
        """The breaches of a bench as they began."""
        return sorted(self.states[bench.pk].incidents, key=lambda row: row.at_s)

    def tabs(self) -> list[dict[str, Any]]:
        """Each bench with how many breaches its log has."""
        return [{"bench": bench, "n": len(self.incidents(bench))} for bench in self.benches]

    def first_bench(self) -> Bench | None:
        """The bench with the most that is open, else the most breaches."""

        def much(bench: Bench) -> tuple[int, int]:
            rows = self.incidents(bench)
            return sum(row.open for row in rows), len(rows)

        return max(self.benches, key=much, default=None)

    def bench_of(self, pk: int | None) -> Bench | None:
        """The bench that is asked for, else the first."""
        return next((bench for bench in self.benches if bench.pk == pk), None) or self.first_bench()

    def moment(self, bench: Bench, at: int | None) -> dict[str, Any]:
        """A bench at a moment, so many seconds after the beginning; the beginning of its first breach where no moment
        is asked for, else the end."""
        rows = self.incidents(bench)
        seconds = self._asked(rows, at)
        at_s = self.began_s + seconds
        state, events = self.states[bench.pk], self.events(bench)
        found = next((row for row in reversed(rows) if row.at_s <= at_s + 1), rows[0] if rows else None)
        drawing = self._drawing(bench, state, events, found, at_s)
        return {
            "bench": bench,
            "seconds": seconds,
            "most": round(self.length_s),
            "clock": self.clock(at_s),
            **self._wall(bench, state_at(state.plan, state.learners, events, at_s), at_s),
            "drawing": drawing,
            "began": self._began(found, state) if found else None,
            "nothing": wording.nothing_began() if not rows else None,
            "before": next((m for m in reversed(drawing.marks) if m.s < seconds - 1), None),
            "after": next((m for m in drawing.marks if m.s > seconds + 1), None),
            "last_words": self._said_last(events, at_s),
        }

    def _asked(self, rows: Sequence[Incident], at: int | None) -> int:
        """The moment that is shown, in whole seconds: never before what began in it."""
        first = math.ceil(rows[0].at_s - self.began_s) if rows else round(self.length_s)
        return min(max(0, first if at is None else at), round(self.length_s))

    def _wall(self, bench: Bench, then: State, at_s: float) -> dict[str, Any]:
        """The wall of one bench as it stood, course by course, and its hands."""
        wall = walls.draw_wall(
            [(bench.pk, bench.name, then, bricks(then, at_s), at_s)],
            then.plan,
            started=self.lesson.began_at,
            elapsed_s=at_s - self.began_s,
            unit=self.unit,
            against=walls.AgainstPlan(starts_s=catching_up.against_plan([bench], at_s).starts_s),
        )
        names = [course.name for course in wall.courses]
        return {"wall": list(zip(names, wall.benches[0].courses, strict=True)), "hands": wall.benches[0].hands}

    def _began(self, incident: Incident, state: State) -> dict[str, Any]:
        done = self.clock(incident.mended_s) if incident.mended_s is not None else ""
        return {
            "clock": self.clock(incident.at_s),
            "title": call_wording.finding_title(incident.finding, state),
            "path": wording.headline(incident, state),
            "became": wording.what_became(incident, done),
            "open": incident.open,
        }

    def _said_last(self, events: Sequence[Event], at_s: float) -> list[tuple[str, str]]:
        rows = sorted((row for row in events if row.at_s <= at_s), key=lambda row: row.at_s)[-3:]
        titles = selectors.step_titles(self.lesson)
        return [
            (self.clock(row.at_s), log_wording.entry_sentence(row.kind, row.data, titles, self.unit)) for row in rows
        ]

    def _drawing(
        self, bench: Bench, state: State, events: Sequence[Event], found: Incident | None, at_s: float
    ) -> drawings.Drawing:
        scale = drawings.Scale(self.began_s, self.length_s)
        own = lanes(state.plan, state.learners, events, found.finding) if found else ()
        names = [lesson_wording.hands_name(row.carrier) if row.kind == "hands" else capital(row.carrier) for row in own]
        chart, line, height = drawings.heights(len(own))
        drawn = drawings.drawn_lanes(own, scale, names, lesson_wording.ended_by())
        limits = (row.main.temperature for row in state.plan.provable.values() if row.main)
        least = min(limits, key=lambda row: row.c, default=None)
        limit = least.c if least is not None else None
        return drawings.Drawing(
            height=height,
            lanes=tuple(drawn),
            chart_y=chart,
            points=tuple(self._points(events, scale, chart, limit)),
            limit_y=drawings.chart_y(limit, chart) if limit is not None else None,
            limit_words=short_limit(least, self.unit) if least is not None else "",
            line_y=line,
            marks=tuple(self._marks(bench, events, scale, limit)),
            ticks=tuple(
                row for row in scale.ticks(self.zone) if abs(row[0] - scale.x(at_s)) > drawings.UNDER_THE_MARKER
            ),
            now_x=scale.x(at_s),
            danger=(drawings.chart_y(60.0, chart), drawings.chart_y(5.0, chart)),
        )

    def _points(
        self, events: Sequence[Event], scale: drawings.Scale, chart: float, limit: float | None
    ) -> list[drawings.Point]:
        found = []
        for row in sorted(events, key=lambda row: row.at_s):
            core_c = row.data.get("core_c")
            if row.kind not in _READ or not isinstance(core_c, (int, float)):
                continue
            low = row.kind == "core_read" and limit is not None and core_c < limit
            words = f"{capital(str(row.data.get('food')))} {degrees(core_c, self.unit, cold=row.kind == 'cold_read')}"
            place = {"x": scale.x(row.at_s), "y": drawings.chart_y(core_c, chart)}
            found.append(drawings.Point(**place, words=words, low=low, short=degrees(core_c, self.unit)))
        return drawings.labelled(found)

    def _marks(
        self, bench: Bench, events: Sequence[Event], scale: drawings.Scale, limit: float | None
    ) -> list[drawings.Mark]:
        """What one can go to on the time line, in its order."""
        rows = [*self._breach_marks(bench), *self._low_marks(events, limit)]
        rows += [(row.at_s, "pause", "") for row in events if row.kind == "paused"]
        return [
            drawings.Mark(
                x=scale.x(at),
                s=max(0, math.ceil(at - self.began_s)),
                kind=kind,
                words=f"{self.clock(at)} {wording.mark(kind)}: {words}".rstrip(": "),
            )
            for at, kind, words in sorted(rows)
        ]

    def _breach_marks(self, bench: Bench) -> Iterator[tuple[float, str, str]]:
        state = self.states[bench.pk]
        for row in self.incidents(bench):
            yield row.at_s, "breach", call_wording.finding_title(row.finding, state)
            if row.mended_s is not None:
                yield row.mended_s, "mended", call_wording.mended_line(row)
        yield from ((row.at_s, "waste", row.food) for row in state.wasted if row.how == "discarded")

    def _low_marks(self, events: Sequence[Event], limit: float | None) -> Iterator[tuple[float, str, str]]:
        for event in events:
            core_c = event.data.get("core_c")
            if event.kind == "core_read" and limit is not None and isinstance(core_c, (int, float)) and core_c < limit:
                yield event.at_s, "low", f"{event.data.get('food')} {degrees(core_c, self.unit)}"

    def to_teach(self) -> list[dict[str, Any]]:
        """What to teach next, what matters most first."""
        now_s = self.began_s + self.length_s
        told = {
            bench.name: (state, bricks(state, now_s, ended=self.lesson.over))
            for bench in self.benches
            if (state := self.states[bench.pk]).seen
        }
        return [self._lesson_of(row) for row in teach_next(told)]

    def _lesson_of(self, row: ToTeach) -> dict[str, Any]:
        at = [(name, self.clock(s) if s else "", who) for name, s, who, _how in row.seen]
        return {
            "rule": row.rule,
            "title": lesson_wording.teach(row.rule),
            "where": wording.where(row, at),
            "marked": row.rule in self.lesson.teach_next,
        }

    def sheets(self) -> list[dict[str, Any]]:
        """One page for each bench, in plain words: what was proven, what was not, what was mended, the best catch."""
        return [self._sheet(bench) for bench in self.benches]

    def _sheet(self, bench: Bench) -> dict[str, Any]:
        state = self.states[bench.pk]
        rows = bricks(state, self.began_s + self.length_s, ended=self.lesson.over)
        shown = [row for row in rows if row.status in ("laid", "mended")]
        catch = best_catch(state, self.events(bench))
        breaches = [(row, self.clock(row.at_s), self._title(row, state)) for row in self.incidents(bench)]
        return {
            "bench": bench,
            "took_part": bool(state.seen),
            "line": wording.bench_line(len(shown), len(rows)),
            "proven": wording.proven(shown),
            "not_shown": [_brick_words(row) for row in rows if row not in shown],
            "mended": [(at, said, call_wording.mended_line(row)) for row, at, said in breaches if not row.open],
            "open": [(at, said) for row, at, said in breaches if row.open],
            "catch": wording.catch(catch, self.unit) if catch else "",
        }

    def _title(self, incident: Incident, state: State) -> str:
        return call_wording.finding_title(incident.finding, state)


def _brick_words(brick: Brick) -> tuple[str, str]:
    return lesson_wording.control_name(brick.control), lesson_wording.status_name(brick.status)


def debrief_page(lesson: Lesson, unit: str, *, bench: int | None, at: int | None) -> dict[str, Any]:
    """The whole page."""
    debrief = Debrief(lesson, unit)
    chosen = debrief.bench_of(bench)
    return {
        "lesson": lesson,
        "tabs": debrief.tabs(),
        "chosen": chosen,
        "moment": debrief.moment(chosen, at) if chosen else None,
        "teach": debrief.to_teach(),
    }


def moment_page(lesson: Lesson, unit: str, *, bench: int | None, at: int | None) -> dict[str, Any]:
    """Only the bench at a moment."""
    debrief = Debrief(lesson, unit)
    chosen = debrief.bench_of(bench)
    return {"lesson": lesson, "chosen": chosen, "moment": debrief.moment(chosen, at) if chosen else None}


def sheets_page(lesson: Lesson, unit: str) -> dict[str, Any]:
    """The pages to print: one for the class, one for each bench."""
    debrief = Debrief(lesson, unit)
    return {"lesson": lesson, "sheets": debrief.sheets(), "teach": debrief.to_teach()[:5]}

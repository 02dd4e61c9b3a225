"""A lesson that runs, held against its plan: what is left of it, when it will end, and the cheapest ways back."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property

from bulwark.board.selectors import Board, board_of
from bulwark.board.solving import Room
from bulwark.groups.selectors import said_of
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench, Lesson
from foodsafety.foods import is_raw
from foodsafety.lesson import State, gone_s, has_begun, may_leave_out, reached
from foodsafety.planning import ADULT, Plan, Reached, WholeLesson, makespan, rest_of, schedule, step_task
from foodsafety.quantities import CoreError
from foodsafety.recipes import dishes_in, only_dishes

# Each way is looked at for so long [s], and no more than so many are shown.
LOOK_S, MOST_WAYS = 0.4, 3
# The cheapest first: what costs nobody anything, then somebody's time, then a dish.
CHEAP = ("later", "help", "kit_later", "adult", "eat", "not_made")
Times = dict[str, dict[str, tuple[float, float]]]


@dataclass(frozen=True, slots=True, kw_only=True)
class WayBack:
    """Something that would end a running lesson sooner: ``do`` it, ``of`` whom (a learner, a food), who comes from
    another bench (``bench``), and when it would end then [min of the lesson]. ``fits``: within its period."""

    do: str
    of: str = ""
    bench: str = ""
    ends_min: int = 0
    fits: bool = False


def planned_times(board: Board) -> Times:
    """When each bench begins and ends each step by its plan, with its waiting [s of the lesson]."""
    return _times(board.whole, board.shown.starts, 0.0)


def planned_order(board: Board) -> dict[str, list[str]]:
    """The order in which each bench that cooks several dishes does its steps: only where the plan makes no path for
    soil that the written order does not have."""
    if not board.clean or not board.shown.starts:
        return {}
    found = {}
    for number, (bench, _who) in enumerate(board.room.benches, start=1):
        cooked = only_dishes(board.lesson.process, dict(board.room.choices.share).get(bench, ()))
        if len(dishes_in(cooked)) > 1:
            at = {row["id"]: board.shown.starts.get(step_task(number, row["id"]), -1) for row in cooked["steps"]}
            found[bench] = sorted(at, key=lambda name: at[name])
    return found


def planned_doers(board: Board) -> dict[str, dict[str, list[str]]]:
    """Who does each step by the plan, where it takes one pair of hands."""
    found: dict[str, dict[str, list[str]]] = {}
    for name, who in board.shown.people.items():
        part = board.whole.parts[name]
        if part.step is not None and part.bench is not None and len(who) == 1:
            found.setdefault(part.bench, {})[part.step] = list(who)
    return found


def _times(whole: WholeLesson, starts: Mapping[str, int], from_s: float) -> Times:
    found: Times = {}
    for name, at_s in starts.items():
        part = whole.parts[name]
        if part.step is None or part.bench is None:
            continue
        begins, ends = from_s + at_s, from_s + at_s + whole.problem.tasks[name].s
        row = found.setdefault(part.bench, {})
        before = row.get(part.step, (begins, ends))
        row[part.step] = (min(before[0], begins), max(before[1], ends))
    return found


class Rest:
    """What is left of a lesson that runs."""

    def __init__(self, lesson: Lesson) -> None:
        self.lesson = lesson
        self.board = board_of(lesson)
        self.benches = lessons.benches_of(lesson)
        lessons.read_logs(self.benches)
        self.states: dict[str, State] = {row.name: lessons.bench_state(row)[0] for row in self.benches}
        self.now_s = lessons.lesson_now(lesson).timestamp()
        opened_s = lesson.began_at.timestamp()
        # The least that has gone at any bench: they all stood still together.
        self.gone_s = min(gone_s(state, opened_s, self.now_s) for state in self.states.values())
        # Of these nobody knows how far they are: they are taken to be where the plan has them, and that is said.
        self.unheard = tuple(row.name for row in self.benches if row.on_paper or not has_begun(self.states[row.name]))
        self.reached = {name: reached(state, self.now_s) for name, state in self.states.items()}
        self.reached |= {row.name: self._by_plan(row) for row in self.benches if row.name in self.unheard}
        self.kit_later, self._adults = self._advised("kit_later"), self._advised("adult")

    def _advised(self, what: str) -> frozenset[str]:
        """The benches that were told something."""
        return frozenset(name for name, state in self.states.items() if any(row.what == what for row in state.advice))

    def _by_plan(self, bench: Bench) -> Reached:
        """How far a bench should be by its plan."""
        times = lessons.planned_at(bench)
        done = frozenset(step for step, (_begins_s, ends_s) in times.items() if ends_s <= self.gone_s)
        going = {
            step: self.gone_s - begins_s
            for step, (begins_s, ends_s) in times.items()
            if begins_s < self.gone_s < ends_s
        }
        return Reached(done=done, going=going)

    def _here(self, come: Mapping[str, str] | None = None, goes: str = "") -> tuple[tuple[str, tuple[str, ...]], ...]:
        """Who is at each bench now, with one who would come to it, and without one who would go."""
        rows = []
        for bench, planned in self.board.room.benches:
            here = self.states[bench].present or planned
            more = [
                *([f"{ADULT} 1"] if bench in self._adults else []),
                *([come[bench]] if come and bench in come else []),
            ]
            rows.append((bench, (*(name for name in here if name != goes), *more)))
        return tuple(rows)

    def _room(self, come: Mapping[str, str] | None = None, goes: str = "") -> Room:
        """The room as it is now; what was put somewhere before the lesson is not held to any more."""
        benches = self._here(come, goes)
        said = said_of(self.lesson.group, benches, lessons.kitchen_for(self.lesson).ages)
        may = None if said.may is None else tuple(sorted(said.may.items()))
        room = self.board.room
        return replace(room, benches=benches, may=may, choices=replace(room.choices, pins=(), doers=()))

    @cached_property
    def as_it_is(self) -> tuple[WholeLesson, Plan]:
        """What is left, planned with nothing changed. Raises CoreError where there is no such plan."""
        return self._planned(self._room())

    @property
    def ends_s(self) -> float:
        """When the lesson would end if nothing is changed [s of the lesson]."""
        return self.gone_s + (self.as_it_is[1].makespan_s or 0)

    @property
    def lesson_s(self) -> float:
        """How long it may last [s]."""
        return self.lesson.length_min * 60

    def times(self) -> Times:
        """When what is left would begin and end now; what is done stands as it was planned."""
        whole, plan = self.as_it_is
        return _times(whole, plan.starts, self.gone_s)

    def _planned(
        self, room: Room, *, kit_later: str = "", left_out: tuple[str, frozenset[str]] | None = None
    ) -> tuple[WholeLesson, Plan]:
        """What is left in a room. What the rules ask of the times between steps is asked where it can be kept."""
        rows = dict(self.reached)
        if left_out:
            bench, steps = left_out
            rows[bench] = replace(rows[bench], done=rows[bench].done | steps)
        later = self.kit_later | ({kit_later} if kit_later else set())
        for one in (room, replace(room, bounds=())):
            whole = self.board.whole_in(one)
            problem = rest_of(whole, rows, self.gone_s, kit_later=later)
            plan = schedule(problem, seconds=LOOK_S, thorough=False)
            if plan.starts or not problem.tasks:
                left = replace(whole, problem=problem)
                return left, replace(plan, makespan_s=makespan(problem, plan.starts) if plan.starts else 0)
        raise CoreError("lesson", "no_plan")

    def ways(self, bench: str) -> list[WayBack]:
        """What would end the lesson sooner for a bench that is behind, each solved from what is done, the cheapest of
        those that fit first. None of them drops a check of what is eaten."""
        found = [row for row in self._ways(bench) if row.do == "later" or row.ends_min < -(-self.ends_s // 60)]
        found.sort(key=lambda row: (not row.fits, CHEAP.index(row.do) if row.fits else row.ends_min))
        first = {row.do: row for row in reversed(found)}
        return [row for row in found if first[row.do] is row][:MOST_WAYS]

    def _ways(self, bench: str) -> Iterator[WayBack]:
        if self.ends_s <= self.lesson_s:
            yield self._way("later", self.ends_s)
        for other in self.board.room.benches:
            who = self._helper(other[0]) if other[0] != bench else None
            if who:
                room = self._room({bench: who}, goes=who)
                yield from self._if_planned("help", room, of=who, from_bench=other[0])
        if bench not in self.kit_later:
            yield from self._if_planned("kit_later", self._room(), kit_later=bench)
        if bench not in self._adults:
            yield from self._if_planned("adult", self._room({bench: f"{ADULT} 1"}))
        if self._room().choices.eat_min:
            room = self._room()
            yield from self._if_planned("eat", replace(room, choices=replace(room.choices, eat_min=0)))
        for side in may_leave_out(self.states[bench]):
            yield from self._if_planned("not_made", self._room(), of=side.food, left_out=(bench, side.steps))

    def _helper(self, bench: str) -> str | None:
        """Who could be spared at a bench: not the last one there, and nobody with raw food on their hands."""
        state = self.states[bench]
        clean = [name for name in state.present if not any(is_raw(soil) for soil in state.surfaces.get(name, ()))]
        return clean[-1] if len(state.present) > 1 and clean else None

    def _if_planned(
        self,
        do: str,
        room: Room,
        *,
        of: str = "",
        from_bench: str = "",
        kit_later: str = "",
        left_out: tuple[str, frozenset[str]] | None = None,
    ) -> Iterator[WayBack]:
        try:
            _whole, plan = self._planned(room, kit_later=kit_later, left_out=left_out)
        except CoreError:
            return
        yield self._way(do, self.gone_s + (plan.makespan_s or 0), of=of, bench=from_bench)

    def _way(self, do: str, ends_s: float, *, of: str = "", bench: str = "") -> WayBack:
        return WayBack(do=do, of=of, bench=bench, ends_min=int(-(-ends_s // 60)), fits=ends_s <= self.lesson_s)

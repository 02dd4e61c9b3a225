"""Geometry of the wall: courses, benches, glazes, and where the plan line lies."""

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass, field
from zlib import crc32

from bulwark.lessons import call_wording, log_wording, wording
from foodsafety.contamination import heated_with
from foodsafety.lesson import PHASES, Brick, ControlPoint, Phase, Plan, State, step_clocks

GLAZES = 4
# From these numbers of benches on, bricks give up some of their words, then all of them.
CLOSE_FROM, DENSE_FROM = 5, 7


def glaze(name: str) -> int:
    """One of the four glazes, by name, so that it holds on refresh."""
    return crc32(name.encode()) % GLAZES


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnBrick:
    """A brick ready to be drawn."""

    id: str
    status: str
    name: str
    value: str
    hint: str
    label: str
    glaze: int
    long: bool
    left_s: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnHands:
    """Learners whose hands are in the same state."""

    state: str
    word: str
    who: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnBench:
    """One column: its courses from the top down, its call, its foundation."""

    id: int
    name: str
    courses: tuple[tuple[DrawnBrick, ...], ...]
    call: call_wording.Call | None
    rank: int
    calm: str
    absent: bool
    on_paper: bool
    timer_name: str
    timer_s: int | None
    # Counted down to when a timer rings that the bench set; below nought it rings.
    rings: bool
    hands: tuple[DrawnHands, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnCourse:
    """A row's name and the time the plan reaches it. The plan line lies in the joint beneath the
    course that is ``on``: everything below it should be laid by now."""

    name: str
    at: dt.datetime
    on: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Wall:
    """The whole wall."""

    courses: tuple[DrawnCourse, ...]
    benches: tuple[DrawnBench, ...]
    calls: int
    density: str


@dataclass(frozen=True, slots=True, kw_only=True)
class AgainstPlan:
    """A lesson held against its plan: when that reaches each course [s], what is said of it to which benches, and
    which of them work on paper, by their ids."""

    starts_s: Mapping[Phase, float] = field(default_factory=dict)
    calls: Mapping[int, call_wording.Call] = field(default_factory=dict)
    paper: frozenset[int] = frozenset()


def draw_brick(brick: Brick, *, owner: str, unit: str, long: bool) -> DrawnBrick:
    """A brick with its words; ``owner`` keeps ids apart on one page."""
    return DrawnBrick(
        id=f"{owner}-{brick.control.id}".replace(" ", "-"),
        status=brick.status,
        name=wording.control_name(brick.control),
        value=wording.brick_value(brick, unit),
        hint=wording.brick_hint(brick, unit),
        label=wording.brick_label(brick, unit),
        glaze=glaze(f"{owner}{brick.control.id}"),
        long=long,
        left_s=round(brick.remaining_s) if brick.status == "due" and brick.remaining_s is not None else None,
    )


def _long(row: tuple[ControlPoint, ...], course: int, place: int) -> bool:
    """In a course of two one brick is long; the side alternates so that joints never line up."""
    return len(row) == 1 or (len(row) == 2 and (course + place) % 2 == 0)


def _course(
    plan: Plan, phase: Phase, rows: tuple[Brick, ...], index: int, owner: str, unit: str
) -> tuple[DrawnBrick, ...]:
    """A course of one bench's wall, by its own plan: benches that cook other dishes have other bricks."""
    controls = dict(plan.courses).get(phase, ())
    bricks = {brick.control.id: brick for brick in rows}
    return tuple(
        draw_brick(bricks[c.id], owner=owner, unit=unit, long=_long(controls, index, place))
        for place, c in enumerate(controls)
    )


def _hands(state: State, now_s: float) -> tuple[DrawnHands, ...]:
    """Hands grouped by state, raw first; at most two groups fit a foundation."""
    order = {"raw": 0, "bare": 1, "dry": 2, "clean": 3, "away": 4}
    groups: dict[tuple[str, str], list[str]] = {}
    for learner in state.learners:
        groups.setdefault(log_wording.hands_of(state, learner, now_s), []).append(learner)
    rows = sorted(groups.items(), key=lambda row: order[row[0][0]])
    return tuple(DrawnHands(state=key[0], word=key[1], who=" ".join(who)) for key, who in rows)


# A timer that rings so soon [s] stands where else the clock of food stands.
_RINGS_SOON_S = 120.0


def _timer(state: State, now_s: float, *, ended: bool) -> tuple[str, int | None, bool]:
    """The clock that matters most at a bench: what rings soon (a timer that was set, a step that goes on), what is
    cooking, what is out, else what rings next. Counted up, but for what rings (True). Nothing rings after the end."""
    rows = [(timer.rings_s, timer.name) for _id, timer in state.running]
    rows += [(clock.rings_s, clock.name) for clock in step_clocks(state)]
    first = None if ended else min(rows, default=None)
    timer = (first[1], round(first[0] - now_s), True) if first else None
    if timer and timer[1] <= _RINGS_SOON_S:
        return timer
    return _food_clock(state, now_s) or timer or ("", None, False)


def _food_clock(state: State, now_s: float) -> tuple[str, int, bool] | None:
    """What is out longest, or what is cooking."""
    heat = next((name for name in state.plan.heat_steps if name in state.done), None)
    served = any(step.do == "serve" and step.id in state.done for step in state.plan.process.steps)
    if heat and not served:
        step = state.plan.process.steps[state.plan.process.step_index[heat]]
        names = (*heated_with(state.plan.process, step), *([step.makes] if step.makes else step.foods))
        return names[0], round(now_s - state.done[heat]), False
    watched = [(n, held) for n, held in state.foods.items() if held.clock.since_s is not None and not held.settled]
    if not watched:
        return None
    food, held = max(watched, key=lambda row: row[1].out_s(now_s))
    return f"{food} out", round(held.out_s(now_s)), False


def draw_wall(
    rows: list[tuple[int, str, State, tuple[Brick, ...], float]],
    plan: Plan,
    *,
    started: dt.datetime,
    elapsed_s: float,
    unit: str,
    ended: bool = False,
    against: AgainstPlan | None = None,
) -> Wall:
    """The wall of a lesson; ``rows`` are (id, name, state, bricks, now) of each bench. ``against``: its plan, where one
    was found; else the plan line goes by the recipe as written."""
    # Benches that cook other dishes of a menu may have courses that the menu as a whole has not.
    plans = (plan, *(row[2].plan for row in rows))
    written = {phase: at for one in reversed(plans) for phase, at in one.phase_starts_s.items()}
    against = against or AgainstPlan()
    starts = {**written, **against.starts_s}
    phases = [phase for phase in PHASES if phase in starts]
    reached = [i for i, phase in enumerate(phases) if starts[phase] <= elapsed_s]
    here = [row for row in rows if row[2].seen or not ended]
    calls = {
        pk: call_wording.bench_call(state, bricks, now_s, ended=ended, behind=against.calls.get(pk))
        for pk, _, state, bricks, now_s in here
    }
    ranked = sorted((call.rank, -call.waits_s, pk) for pk, call in calls.items() if call)[:3]
    ranks = {pk: i + 1 for i, (_rank, _waits, pk) in enumerate(ranked)}
    benches = []
    for pk, name, state, bricks, now_s in rows:
        timer_name, timer_s, rings = _timer(state, now_s, ended=ended)
        benches.append(
            DrawnBench(
                id=pk,
                name=name,
                courses=tuple(
                    _course(state.plan, phase, bricks, i, str(pk), unit)
                    for i, phase in reversed(list(enumerate(phases)))
                ),
                call=calls[pk] if pk in ranks else None,
                rank=ranks.get(pk, 0),
                calm=_calm(bricks),
                absent=ended and not state.seen,
                on_paper=pk in against.paper,
                timer_name=timer_name,
                timer_s=timer_s,
                rings=rings,
                hands=_hands(state, now_s),
            )
        )
    return Wall(
        courses=tuple(
            DrawnCourse(
                name=wording.phase_name(phase, plan),
                at=started + dt.timedelta(seconds=starts[phase]),
                on=i == max(reached, default=0),
            )
            for i, phase in reversed(list(enumerate(phases)))
        ),
        benches=tuple(benches),
        calls=len(ranked),
        density="dense" if len(rows) >= DENSE_FROM else "close" if len(rows) >= CLOSE_FROM else "",
    )


def _calm(bricks: tuple[Brick, ...]) -> str:
    laid = sum(1 for brick in bricks if brick.status in ("laid", "mended"))
    return f"{laid}/{len(bricks)}"

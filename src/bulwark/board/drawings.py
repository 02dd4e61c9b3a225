"""Where everything stands on the plan board: minutes from left to right, a row for everybody. Geometry alone."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from foodsafety.planning import Part, Plan, WholeLesson

WIDTH = 1240
LEFT = 112
RIGHT = 1164
HEAD = 40
LANE = 28
WAIT = 20
GAP = 12
SHARED = 24
# A letter of a brick's words, and of its smallest, at their size.
LETTER = 5.8
# A plan that runs over is shown so far past the end of the lesson.
MOST_OVER = 1.3
TICKS_MIN = (5, 10, 15, 30, 60, 120)


@dataclass(frozen=True, slots=True, kw_only=True)
class Brick:
    """A step on the board. ``words``: what fits into it, nothing where nothing does. ``over``: where, from its own
    left, the lesson has ended."""

    id: str
    x: float
    y: float
    width: float
    height: float
    kind: str
    words: tuple[str, ...]
    title: str
    raw: bool = False
    over: float | None = None

    hot: bool = False
    upright: bool = False
    pinned: bool = False
    picked: bool = False

    @property
    def mid_x(self) -> float:
        """The middle of its words from the left: on the larger side of the wall where that goes through it."""
        if self.late_width > self.width / 2:
            return self.late_x + 8 + (self.late_width - 8) / 2
        return self.x + (self.width - self.late_width) / 2

    @property
    def mid_y(self) -> float:
        """Its middle from the top."""
        return self.y + self.height / 2

    @property
    def label(self) -> str:
        """What it is called: all of it, with the words that are seen on it."""
        seen = " ".join(self.words)
        return self.title if seen in self.title else f"{seen}: {self.title}"

    @property
    def pin_x(self) -> float:
        """Where the pin of a brick that was put is, from the left."""
        return self.x + 7

    @property
    def pin_y(self) -> float:
        """The same from the top."""
        return self.y + 7

    @property
    def raw_y(self) -> float:
        """Where the band of raw food begins, at its foot."""
        return self.y + self.height - 7

    @property
    def drop_y(self) -> float:
        """The tip of the drop of a wash."""
        return self.mid_y - 7

    @property
    def late_x(self) -> float:
        """Where, of its width, the lesson has ended."""
        return self.x + min(self.width, self.over or 0.0)

    @property
    def late_width(self) -> float:
        """How much of it lies past the end of the lesson."""
        return 0.0 if self.over is None else self.x + self.width - self.late_x

    @property
    def lines(self) -> list[tuple[str, float]]:
        """Its words with the height of their feet."""
        top = self.y + self.height / 2 + (1.0 if self.raw else 4.5) - (len(self.words) - 1) * 7.5
        return [(text, top + n * 15) for n, text in enumerate(self.words)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """A bench: its name, who stands where, and how many minutes it ends before or after the lesson."""

    name: str
    y: float
    height: float
    people: tuple[tuple[str, float], ...]
    bricks: tuple[Brick, ...]
    spare_min: int

    @property
    def over(self) -> str:
        """How long it ends after the lesson: minutes, or hours and minutes."""
        hours, minutes = divmod(-self.spare_min, 60)
        return f"{hours}:{minutes:02}" if hours else str(minutes)


@dataclass(frozen=True, slots=True, kw_only=True)
class Full:
    """A time at which all there is of something is taken."""

    x: float
    width: float
    words: str

    @property
    def mid_x(self) -> float:
        """Its middle from the left."""
        return self.x + self.width / 2


@dataclass(frozen=True, slots=True, kw_only=True)
class Shared:
    """A thing that benches share: how much of it is taken when (bars), and where it is full."""

    name: str
    number: int
    y: float
    bars: tuple[tuple[float, float, float, float], ...]
    full: tuple[Full, ...]
    words: str = ""

    @property
    def foot(self) -> float:
        """The floor its bars stand on."""
        return self.y + SHARED - 6


@dataclass(frozen=True, kw_only=True)
class Drawing:
    """The whole board."""

    height: float
    wall_x: float
    rows: tuple[Row, ...]
    shared: tuple[Shared, ...]
    ticks: tuple[tuple[float, int], ...]
    show: Brick | None = None
    shared_y: float = 0.0
    # Some of it lies past what is shown.
    cut: bool = False
    minutes: float = 0.0

    @property
    def shared_height(self) -> float:
        """How tall the panel of shared things is."""
        return self.height - self.shared_y

    @property
    def wall_left(self) -> float:
        """The left side of the wall at the lesson's end."""
        return self.wall_x - 7

    @property
    def flag_left(self) -> float:
        """The left side of the flag with the time on it."""
        return self.wall_x - 26

    @property
    def wall_height(self) -> float:
        """From the flag to the floor."""
        return self.height - 30

    @property
    def joints(self) -> list[float]:
        """Where the bricks of the wall meet."""
        return [30.0 + n * 26 for n in range(1, int(self.wall_height // 26) + 1)]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Marks:
    """What stands out: steps that heat, bricks that were put, the one that is picked."""

    hot: frozenset[str]
    pinned: frozenset[str]
    picked: str


class _Scale:
    def __init__(self, lesson_s: int, end_s: int) -> None:
        self.to_s = min(max(lesson_s, end_s), lesson_s * MOST_OVER)
        self.cut = end_s > self.to_s

    def x(self, at_s: float) -> float:
        return round(LEFT + (RIGHT - LEFT) * min(at_s, self.to_s) / self.to_s, 1)


def draw(
    whole: WholeLesson,
    plan: Plan,
    words: Mapping[str, Sequence[str]],
    titles: Mapping[str, str],
    *,
    hot: frozenset[str],
    names: Mapping[str, str],
    pinned: frozenset[str] = frozenset(),
    picked: str = "",
    starts_min: int = 0,
) -> Drawing:
    """The board of a plan. ``words``: for each task what could be written on it, the longest first; ``titles``: what it
    says in full; ``hot``: steps that heat; ``names``: what is shared, in words; ``pinned``:
    bricks that were put where they are; ``picked``: the one that is looked at; ``starts_min``: its beginning by the
    clock, in minutes after an hour, so that the times above are round ones."""
    problem = whole.problem
    scale = _Scale(problem.lesson_s, plan.makespan_s or 0)
    wall_x = scale.x(problem.lesson_s)
    marks = _Marks(hot=hot, pinned=pinned, picked=picked)
    rows: list[Row] = []
    y = float(HEAD)
    for bench in problem.benches.values():
        parts = [part for part in whole.parts.values() if part.bench == bench.id]
        rows.append(_row(bench.id, bench.names, parts, y, whole, plan, scale, words, titles, marks))
        y += rows[-1].height + GAP
    show = whole.parts.get("show")
    tall = None
    if show:
        width = scale.x(plan.starts["show"] + problem.tasks["show"].s) - LEFT
        tall = _brick(show, LEFT, HEAD, width, y - GAP - HEAD, words["show"], titles["show"], None, upright=True)
    shared_y = y + 6
    shared = tuple(
        replace(_shared(name, number, shared_y + 8 + n * SHARED, whole, plan, scale), words=names[name])
        for n, (name, number) in enumerate(problem.resources.items())
    )
    step = next((n for n in TICKS_MIN if scale.to_s / 60 / n <= 12), TICKS_MIN[-1])
    ticks = tuple((scale.x(at * 60), at) for at in range(-starts_min % step, int(scale.to_s // 60) + 1, step))
    return Drawing(
        height=shared_y + len(shared) * SHARED + 16,
        wall_x=wall_x,
        rows=tuple(rows),
        shared=shared,
        ticks=ticks,
        show=tall,
        shared_y=shared_y,
        cut=scale.cut,
        minutes=scale.to_s / 60,
    )


def _row(
    name: str,
    people: Sequence[str],
    parts: Iterable[Part],
    y: float,
    whole: WholeLesson,
    plan: Plan,
    scale: _Scale,
    words: Mapping[str, Sequence[str]],
    titles: Mapping[str, str],
    marks: _Marks,
) -> Row:
    parts = sorted(parts, key=lambda part: plan.starts[part.id])
    waiting = [part for part in parts if whole.problem.tasks[part.id].hands == 0]
    lanes = _lanes([(plan.starts[part.id], plan.starts[part.id] + whole.problem.tasks[part.id].s) for part in waiting])
    above = (max(lanes, default=-1) + 1) * WAIT
    top = y + above
    height = above + len(people) * LANE
    bricks = []
    end_s = 0
    for part in parts:
        task = whole.problem.tasks[part.id]
        begin, end = plan.starts[part.id], plan.starts[part.id] + task.s
        end_s = max(end_s, end)
        if begin >= scale.to_s or not task.s:
            continue
        x, width = scale.x(begin), scale.x(end) - scale.x(begin)
        wall = scale.x(whole.problem.lesson_s)
        over = max(0.0, wall - x) if end > whole.problem.lesson_s else None
        if part in waiting:
            at, tall = y + lanes[waiting.index(part)] * WAIT, WAIT
        else:
            at_it = [people.index(who) for who in plan.people[part.id]]
            at, tall = top + min(at_it) * LANE, LANE * (max(at_it) - min(at_it) + 1)
        brick = _brick(part, x, at, width, tall, words[part.id], titles[part.id], over)
        bricks.append(
            replace(
                brick,
                hot=part.kind == "step" and part.step in marks.hot,
                pinned=part.id in marks.pinned,
                picked=part.id == marks.picked,
            )
        )
    return Row(
        name=name,
        y=y,
        height=height,
        people=tuple((who, top + n * LANE + LANE / 2 + 5) for n, who in enumerate(people)),
        bricks=tuple(bricks),
        spare_min=(whole.problem.lesson_s - end_s) // 60,
    )


def _brick(
    part: Part,
    x: float,
    y: float,
    width: float,
    height: float,
    words: Sequence[str],
    title: str,
    over: float | None,
    *,
    upright: bool = False,
) -> Brick:
    room = (height if upright else width) - 8
    fit = next((text for text in words if len(text) * LETTER <= room), "")
    lines: tuple[str, ...] = (fit,) if fit else ()
    if not fit and words and height >= 2 * LANE:
        lines = _wrapped(words[0], int(room / LETTER), int(height // 15))
        upright = not lines and width >= 16 and len(words[-1]) * LETTER <= height - 8
        lines = (words[-1],) if upright else lines
    return Brick(
        id=part.id,
        x=x,
        y=y + 1,
        width=max(1.0, width - 1.5),
        height=height - 2,
        kind=part.kind,
        words=lines,
        title=title,
        raw=part.raw,
        over=over,
        upright=upright,
    )


def _wrapped(text: str, letters: int, lines: int) -> tuple[str, ...]:
    """Whole words in lines of so many letters; nothing where they do not all fit."""
    found: list[str] = []
    for word in text.split():
        if found and len(found[-1]) + 1 + len(word) <= letters:
            found[-1] += f" {word}"
        else:
            found.append(word)
    return tuple(found) if len(found) <= lines and all(len(row) <= letters for row in found) else ()


def _lanes(spans: Sequence[tuple[int, int]]) -> list[int]:
    """For each span, in order of their beginnings, the first lane that is free."""
    free: list[int] = []
    found = []
    for begin, end in spans:
        lane = next((n for n, until in enumerate(free) if until <= begin), len(free))
        free[lane : lane + 1] = [end]
        found.append(lane)
    return found


def _shared(name: str, number: int, y: float, whole: WholeLesson, plan: Plan, scale: _Scale) -> Shared:
    rows = [
        (plan.starts[task.id], plan.starts[task.id] + task.s, task.needs[name])
        for task in whole.problem.tasks.values()
        if task.needs.get(name) and task.s
    ]
    moments = sorted({moment for begin, end, _ in rows for moment in (begin, end)})
    bars: list[tuple[float, float, float, float]] = []
    full: list[tuple[int, int]] = []
    for begin, end in pairwise(moments):
        taken = sum(amount for first, last, amount in rows if first <= begin < last)
        if not taken or begin >= scale.to_s:
            continue
        x, width = scale.x(begin), scale.x(end) - scale.x(begin)
        tall = (SHARED - 10) * min(1.0, taken / number) if number else SHARED - 10
        bars.append((x, y + SHARED - 6 - tall, width, tall))
        if taken >= number and full and abs(full[-1][1] - begin) < 1:
            full[-1] = (full[-1][0], end)
        elif taken >= number:
            full.append((begin, end))
    return Shared(
        name=name,
        number=number,
        y=y,
        bars=tuple(bars),
        full=tuple(
            Full(x=scale.x(begin), width=scale.x(end) - scale.x(begin), words=str((end - begin) // 60))
            for begin, end in full
        ),
    )

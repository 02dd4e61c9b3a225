"""Where everything stands on the plan board: minutes from left to right, a row for everybody. Geometry alone."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
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
# A brick that is narrower has its words upright.
LEAST_LETTERS = 7
# A plan that runs over is shown so far past the end of the lesson.
MOST_OVER = 1.3
TICKS_MIN = (5, 10, 15, 30, 60, 120)
MOST_TICKS = 12


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
    def washes(self) -> bool:
        """True for hands that are washed: a drop is drawn on it."""
        return self.kind in ("wash", "hands")

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
    # What all do at once, as tall as all benches together.
    at_once: tuple[Brick, ...] = ()
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
class Marks:
    """What stands out: steps that heat, bricks that were put where they are, the one that is picked."""

    hot: frozenset[str] = frozenset()
    pinned: frozenset[str] = frozenset()
    picked: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Words:
    """What is written: on each brick what could be, the longest first; what each says in full; and what is shared."""

    bricks: Mapping[str, Sequence[str]]
    titles: Mapping[str, str]
    shared: Mapping[str, str]


class _Scale:
    def __init__(self, lesson_s: int, end_s: int) -> None:
        self.to_s = min(max(lesson_s, end_s), lesson_s * MOST_OVER)
        self.cut = end_s > self.to_s

    def x(self, at_s: float) -> float:
        return round(LEFT + (RIGHT - LEFT) * min(at_s, self.to_s) / self.to_s, 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Sheet:
    """All that a row is drawn from."""

    whole: WholeLesson
    plan: Plan
    scale: _Scale
    words: Words
    marks: Marks

    def span(self, name: str) -> tuple[int, int]:
        """When a task begins and ends [s]."""
        begin = self.plan.starts[name]
        return begin, begin + self.whole.problem.tasks[name].s


def draw(whole: WholeLesson, plan: Plan, words: Words, marks: Marks, *, starts_min: int = 0) -> Drawing:
    """The board of a plan. ``starts_min``: when the lesson begins, in minutes after an hour, so that times above are
    round ones."""
    scale = _Scale(whole.problem.lesson_s, plan.makespan_s or 0)
    sheet = _Sheet(whole=whole, plan=plan, scale=scale, words=words, marks=marks)
    rows: list[Row] = []
    y = float(HEAD)
    for bench in whole.problem.benches.values():
        rows.append(_row(sheet, bench.id, bench.names, y))
        y += rows[-1].height + GAP
    shared_y = y + 6
    shared = [
        _shared(sheet, name, number, shared_y + 8 + n * SHARED)
        for n, (name, number) in enumerate(whole.problem.resources.items())
    ]
    step = next((n for n in TICKS_MIN if scale.to_s / 60 / n <= MOST_TICKS), TICKS_MIN[-1])
    return Drawing(
        height=shared_y + len(shared) * SHARED + 16,
        wall_x=scale.x(whole.problem.lesson_s),
        rows=tuple(rows),
        shared=tuple(shared),
        ticks=tuple((scale.x(at * 60), at) for at in range(-starts_min % step, int(scale.to_s // 60) + 1, step)),
        at_once=tuple(
            _brick(sheet, part, HEAD, y - GAP - HEAD, upright=True)
            for part in whole.parts.values()
            if part.bench is None and plan.starts[part.id] < scale.to_s
        ),
        shared_y=shared_y,
        cut=scale.cut,
        minutes=scale.to_s / 60,
    )


def _row(sheet: _Sheet, name: str, people: Sequence[str], y: float) -> Row:
    parts = [part for part in sheet.whole.parts.values() if part.bench == name]
    parts.sort(key=lambda part: sheet.plan.starts[part.id])
    lanes = _waiting_lanes(sheet, parts)
    above = (max(lanes.values(), default=-1) + 1) * WAIT
    bricks = []
    for part in parts:
        begin, end = sheet.span(part.id)
        if begin >= sheet.scale.to_s or begin == end:
            continue
        if part.id in lanes:
            bricks.append(_brick(sheet, part, y + lanes[part.id] * WAIT, WAIT))
        else:
            at_it = [people.index(who) for who in sheet.plan.people[part.id]]
            for first, last in _side_by_side(at_it):
                bricks.append(_brick(sheet, part, y + above + first * LANE, LANE * (last - first + 1)))
    end_s = max((sheet.span(part.id)[1] for part in parts), default=0)
    return Row(
        name=name,
        y=y,
        height=above + len(people) * LANE,
        people=tuple((who, y + above + n * LANE + LANE / 2 + 5) for n, who in enumerate(people)),
        bricks=tuple(bricks),
        spare_min=(sheet.whole.problem.lesson_s - end_s) // 60,
    )


def _side_by_side(lanes: Sequence[int]) -> list[tuple[int, int]]:
    """The lanes of those who do something together, the first and last of each that lie side by side."""
    found: list[tuple[int, int]] = []
    for n in sorted(lanes):
        if found and found[-1][1] == n - 1:
            found[-1] = (found[-1][0], n)
        else:
            found.append((n, n))
    return found


def _waiting_lanes(sheet: _Sheet, parts: Sequence[Part]) -> dict[str, int]:
    """Above the people, a lane for whatever waits with nobody at it."""
    waiting = [part.id for part in parts if sheet.whole.problem.tasks[part.id].hands == 0]
    return dict(zip(waiting, _lanes([sheet.span(name) for name in waiting]), strict=True))


def _brick(sheet: _Sheet, part: Part, y: float, height: float, *, upright: bool = False) -> Brick:
    begin, end = sheet.span(part.id)
    x, width = sheet.scale.x(begin), sheet.scale.x(end) - sheet.scale.x(begin)
    words, upright = _fitting(sheet.words.bricks[part.id], width, height, upright=upright)
    lesson_s = sheet.whole.problem.lesson_s
    return Brick(
        id=part.id,
        x=x,
        y=y + 1,
        width=max(1.0, width - 1.5),
        height=height - 2,
        kind=part.kind,
        words=words,
        title=sheet.words.titles[part.id],
        raw=part.raw,
        over=max(0.0, sheet.scale.x(lesson_s) - x) if end > lesson_s else None,
        upright=upright,
        hot=part.kind == "step" and part.step in sheet.marks.hot,
        pinned=part.id in sheet.marks.pinned,
        picked=part.id == sheet.marks.picked,
    )


def _fitting(words: Sequence[str], width: float, height: float, *, upright: bool) -> tuple[tuple[str, ...], bool]:
    """The longest words that fit, in lines or upright where the brick is tall; nothing is cut."""
    room = (height if upright else width) - 8
    fit = next((text for text in words if len(text) * LETTER <= room), "")
    if fit or not words or height < 2 * LANE:
        return ((fit,) if fit else ()), upright
    letters = int(room / LETTER)
    lines = _wrapped(words[0], letters, int(height // 15)) if letters >= LEAST_LETTERS else ()
    if not lines and width >= 16 and len(words[-1]) * LETTER <= height - 8:
        return (words[-1],), True
    return lines, False


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


def _shared(sheet: _Sheet, name: str, number: int, y: float) -> Shared:
    rows = [
        (*sheet.span(task.id), task.needs[name])
        for task in sheet.whole.problem.tasks.values()
        if task.needs.get(name) and task.s
    ]
    scale = sheet.scale
    bars: list[tuple[float, float, float, float]] = []
    full: list[tuple[int, int]] = []
    for begin, end in pairwise(sorted({moment for row in rows for moment in row[:2]})):
        taken = sum(amount for first, last, amount in rows if first <= begin < last)
        if not taken or begin >= scale.to_s:
            continue
        tall = (SHARED - 10) * min(1.0, taken / number) if number else SHARED - 10
        bars.append((scale.x(begin), y + SHARED - 6 - tall, scale.x(end) - scale.x(begin), tall))
        if taken >= number:
            joined = bool(full) and full[-1][1] == begin
            full[-1:] = [(full[-1][0], end)] if joined else [*full[-1:], (begin, end)]
    return Shared(
        name=name,
        number=number,
        y=y,
        bars=tuple(bars),
        full=tuple(_full(scale, begin, end) for begin, end in full),
        words=sheet.words.shared[name],
    )


def _full(scale: _Scale, begin: int, end: int) -> Full:
    return Full(x=scale.x(begin), width=scale.x(end) - scale.x(begin), words=str((end - begin) // 60))

"""Geometry of the debrief: lanes of what carried a soil, readings over the lesson, marks on its time line."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass, replace

from foodsafety.lesson import Lane

WIDTH, LEFT, RIGHT = 860, 116, 24
LANE, CHART, LINE = 52, 132, 92
_TOP = 12
# An hour nearer to the moment than this [px] would lie under its marker.
UNDER_THE_MARKER = 34.0
_COLD_C, _HOT_C = 0.0, 100.0
# Letters that fit before a lane.
_FITS = 14


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """A stretch of a lane [px], with what ended it in words."""

    x: float
    width: float
    ended: str

    @property
    def end(self) -> float:
        """Where its words stand, behind it."""
        return self.x + self.width + 6


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnLane:
    """One carrier: its line, where it carried the soil, and where it was at work."""

    name: tuple[str, str]
    kind: str
    y: float
    spans: tuple[Span, ...]
    touched: tuple[float, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Point:
    """A reading."""

    x: float
    y: float
    words: str
    low: bool
    # What stands beside it; nothing where another's words already stand.
    short: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    """Something on the time line that one can go to; ``s`` is when, from the beginning [s]."""

    x: float
    s: int
    kind: str
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawing:
    """The drawing of one bench at one moment. All places are in px of its own view box."""

    height: float
    lanes: tuple[DrawnLane, ...]
    chart_y: float
    points: tuple[Point, ...]
    limit_y: float | None
    limit_words: str
    line_y: float
    marks: tuple[Mark, ...]
    ticks: tuple[tuple[float, str], ...]
    now_x: float
    width: float = WIDTH
    left: float = LEFT
    right: float = WIDTH - RIGHT
    chart: float = CHART
    danger: tuple[float, float] = (0.0, 0.0)

    @property
    def across(self) -> float:
        """How wide the lesson is."""
        return self.right - self.left

    @property
    def danger_height(self) -> float:
        """How high the band between cold and hot holding is."""
        return round(self.danger[1] - self.danger[0], 1)


class Scale:
    """From a moment of the lesson [s] to its place across [px]."""

    def __init__(self, began_s: float, length_s: float) -> None:
        self.began_s, self.length_s = began_s, max(60.0, length_s)

    def x(self, at_s: float) -> float:
        """Its place; what happened before or after lies at the edge."""
        share = min(1.0, max(0.0, (at_s - self.began_s) / self.length_s))
        return round(LEFT + share * (WIDTH - LEFT - RIGHT), 1)

    def ticks(self, zone: dt.tzinfo) -> tuple[tuple[float, str], ...]:
        """Every quarter of an hour that lies in it, by the clock."""
        step = 900 if self.length_s <= 7200 else 1800
        first = int(-(-self.began_s // step) * step)
        rows = range(first, int(self.began_s + self.length_s) + 1, step)
        return tuple((self.x(at), dt.datetime.fromtimestamp(at, tz=zone).strftime("%H:%M")) for at in rows)


def drawn_lanes(rows: Sequence[Lane], scale: Scale, names: Sequence[str], ended: dict[str, str]) -> list[DrawnLane]:
    """The lanes from the top down. ``names``: what each is called; ``ended``: the kinds of entries that end a stretch,
    in words."""
    found = []
    for n, (lane, name) in enumerate(zip(rows, names, strict=True)):
        spans = []
        for row in lane.stretches:
            x = scale.x(row.from_s)
            to = scale.x(row.to_s) if row.to_s is not None else float(WIDTH - RIGHT)
            spans.append(Span(x=x, width=max(4.0, round(to - x, 1)), ended=ended.get(row.ended, "")))
        touched = tuple(scale.x(at) for at, _step in lane.touched)
        y = _TOP + n * LANE + LANE / 2
        found.append(DrawnLane(name=two_lines(name), kind=lane.kind, y=y, spans=tuple(spans), touched=touched))
    return found


# Words of readings stand so far apart [px] at least.
_APART = 74.0


def labelled(points: Sequence[Point]) -> list[Point]:
    """Points with words beside as many as there is room for: those that were too low first."""
    placed: list[float] = []
    kept: set[int] = set()
    for n in sorted(range(len(points)), key=lambda n: (not points[n].low, n)):
        if all(abs(points[n].x - x) >= _APART for x in placed):
            placed.append(points[n].x)
            kept.add(n)
    return [row if n in kept else replace(row, short="") for n, row in enumerate(points)]


def two_lines(name: str) -> tuple[str, str]:
    """A name of a lane, parted at a word where it is too long for one line."""
    if len(name) <= _FITS:
        return name, ""
    words = name.split()
    first = words[:1]
    while len(" ".join([*first, words[len(first)]])) <= _FITS and len(first) < len(words) - 1:
        first.append(words[len(first)])
    return " ".join(first), " ".join(words[len(first) :])


def chart_y(core_c: float, top: float) -> float:
    """The height of a reading in the chart that begins at ``top`` [px]; what lies beyond it lies at its edge."""
    share = (min(_HOT_C, max(_COLD_C, core_c)) - _COLD_C) / (_HOT_C - _COLD_C)
    return round(top + CHART * (1 - share), 1)


def heights(lanes: int) -> tuple[float, float, float]:
    """Where the chart and the time line begin, and how high all of it is [px]."""
    chart = _TOP + lanes * LANE + 12.0
    line = chart + CHART + 46.0
    return chart, line, line + LINE

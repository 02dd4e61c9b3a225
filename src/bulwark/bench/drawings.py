"""Geometry of the bench: the ring of a hand-wash, and the bars of probed pieces."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate
from typing import Any

CENTRE, OUTER, INNER, GAP_DEG = 248.0, 174.0, 108.0, 2.4
LABEL_R = 196.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Wedge:
    """One stage of the ring as a path, its label's place, and its check's place."""

    path: str
    name: str
    s: int
    scrub: bool
    label_x: float
    label_y: float
    lines: tuple[tuple[str, float], ...]
    anchor: str
    mid_x: float
    mid_y: float


def _point(radius: float, degrees: float) -> tuple[float, float]:
    angle = math.radians(degrees - 90)
    return round(CENTRE + radius * math.cos(angle), 1), round(CENTRE + radius * math.sin(angle), 1)


def _wedge_path(start: float, end: float) -> str:
    (ax, ay), (bx, by) = _point(OUTER, start), _point(OUTER, end)
    (cx, cy), (dx, dy) = _point(INNER, end), _point(INNER, start)
    large = int(end - start > 180)
    return f"M{ax} {ay}A{OUTER} {OUTER} 0 {large} 1 {bx} {by}L{cx} {cy}A{INNER} {INNER} 0 {large} 0 {dx} {dy}Z"


def wash_ring(stages: Sequence[dict[str, Any]]) -> list[Wedge]:
    """The stages of a wash as wedges, each as long as it takes, clockwise from the top."""
    total = sum(stage["s"] for stage in stages)
    ends = [360 * end / total for end in accumulate(stage["s"] for stage in stages)]
    return [_wedge(stage, start, end) for stage, start, end in zip(stages, [0.0, *ends], ends, strict=False)]


def _wedge(stage: dict[str, Any], start: float, end: float) -> Wedge:
    """One stage from ``start`` to ``end`` [degrees from the top, clockwise]."""
    middle = (start + end) / 2
    label_x, label_y = _point(LABEL_R, middle)
    mid_x, mid_y = _point((OUTER + INNER) / 2, middle)
    across = math.sin(math.radians(middle))
    return Wedge(
        path=_wedge_path(start + GAP_DEG / 2, end - GAP_DEG / 2),
        name=stage["name"],
        s=stage["s"],
        scrub=stage["scrub"],
        label_x=label_x,
        label_y=round(label_y + 6, 1),
        lines=tuple((word, round(label_y + 6 + 21 * i, 1)) for i, word in enumerate(stage["name"].split())),
        anchor="middle" if abs(across) < 0.3 else ("start" if across > 0 else "end"),
        mid_x=mid_x,
        mid_y=mid_y,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """A probed piece: its bar and the brick beneath; ``height`` is 0 where nothing was measured."""

    name: str
    value: str
    word: str
    state: str
    x: float
    width: float
    bar_x: float
    bar_width: float
    y: float
    height: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceChart:
    """Bars of probed pieces against the limit, with the hot and danger bands."""

    bars: tuple[Bar, ...]
    limit_y: float
    hot_y: float
    hot_text_y: float
    danger_height: float
    floor_y: float
    limit_text: str
    hot_text: str
    label: str


PLOT_LEFT, PLOT_RIGHT, TOP, FLOOR = 92.0, 724.0, 6.0, 150.0
# Two labels at the axis need this much between them to be read apart.
LABEL_GAP = 27.0
LOW_C, HIGH_C = 40.0, 92.0


def _y(temperature_c: float) -> float:
    share = (min(max(temperature_c, LOW_C), HIGH_C) - LOW_C) / (HIGH_C - LOW_C)
    return round(FLOOR - share * (FLOOR - TOP), 1)


Piece = tuple[str, float | None, str, str, str]
"""A piece to draw: name, core [°C] or None, value, word, state."""


def _bar(piece: Piece, x: float, width: float) -> Bar:
    name, core_c, value, word, state = piece
    y = _y(core_c) if core_c is not None else FLOOR
    return Bar(
        name=name,
        value=value,
        word=word,
        state=state,
        x=round(x, 1),
        width=round(width, 1),
        bar_x=round(x + width * 0.25, 1),
        bar_width=round(width * 0.5, 1),
        y=y,
        height=round(FLOOR - y, 1),
    )


def piece_chart(
    pieces: Sequence[Piece],
    *,
    limit_c: float,
    hot_c: float,
    limit_text: str,
    hot_text: str,
) -> PieceChart:
    """At most eight pieces as bars against the limit."""
    step = (PLOT_RIGHT - PLOT_LEFT) / max(len(pieces), 1)
    bars = tuple(_bar(piece, PLOT_LEFT + i * step + 4, step - 8) for i, piece in enumerate(pieces))
    limit_y, hot_y = _y(limit_c), _y(hot_c)
    below = hot_y >= limit_y
    return PieceChart(
        bars=bars,
        limit_y=limit_y,
        hot_y=hot_y,
        hot_text_y=max(hot_y, limit_y + LABEL_GAP) if below else min(hot_y, limit_y - LABEL_GAP),
        danger_height=round(FLOOR - _y(hot_c), 1),
        floor_y=FLOOR,
        limit_text=limit_text,
        hot_text=hot_text,
        label=", ".join(f"{bar.name} {bar.value} {bar.word}" for bar in bars),
    )

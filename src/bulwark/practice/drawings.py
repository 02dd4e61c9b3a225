"""Where the parts of a puzzle's drawing lie."""

from __future__ import annotations

import itertools
import math
import textwrap
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

LANE, ROW = 96, 64
# The name of a lane: so many letters a line, and so high a line is.
LETTERS, LINE = 11, 19


@dataclass(frozen=True, slots=True, kw_only=True)
class LaneHead:
    """The head of a lane: its name in lines that its neighbours leave room for, each with its height, its middle, and
    whether it is raw from the start. On a phone the whole name stands aslant."""

    name: str
    lines: tuple[tuple[int, str], ...]
    x: int
    raw: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class LaneCell:
    """A lane in one row: whether it is touched there, and whether it carries the soil before and after."""

    x: int
    touched: bool
    before: bool
    after: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class LaneRow:
    """One row of lanes: what is touched lies on one line, from ``from_x`` to ``to_x``."""

    cells: tuple[LaneCell, ...]
    from_x: int
    to_x: int


def lane_heads(asks: Mapping[str, Any], names: Mapping[str, str]) -> list[LaneHead]:
    """The lanes of a slip, from its source to what is eaten; their names end on one line."""
    lanes: Sequence[str] = asks["lanes"]
    told = [textwrap.wrap(names.get(lane, lane), LETTERS, break_long_words=False) for lane in lanes]
    most = max(len(lines) for lines in told)
    return [
        LaneHead(
            name=names.get(lane, lane),
            lines=tuple((LINE * (most - len(lines) + at) + 17, line) for at, line in enumerate(lines)),
            x=LANE * n + LANE // 2,
            raw=lane in asks["start"],
        )
        for n, (lane, lines) in enumerate(zip(lanes, told, strict=True))
    ]


def heads_height(heads: Sequence[LaneHead]) -> int:
    """How high the heads are together."""
    return LINE * max(len(head.lines) for head in heads) + 6


def aslant(heads: Sequence[LaneHead]) -> dict[str, float]:
    """Names aslant over the lanes of a phone, where the drawing is 160 px wide: letters of 16 px, in the drawing's own
    units, and how high the longest name is then."""
    letter = LANE * len(heads) / 10
    longest = max(len(head.name) for head in heads)
    return {"letter": round(letter, 1), "high": round(longest * 0.5 * letter * 0.87 + letter, 1)}


def lane_rows(asks: Mapping[str, Any]) -> list[LaneRow]:
    """The rows of a slip's drawing, a step each."""
    lanes: Sequence[str] = asks["lanes"]
    before, rows = set(asks["start"]), []
    for step in asks["steps"]:
        after = set(step["carries"])
        cells = tuple(
            LaneCell(
                x=LANE * n + LANE // 2, touched=lane in step["touches"], before=lane in before, after=lane in after
            )
            for n, lane in enumerate(lanes)
        )
        touched = [cell.x for cell in cells if cell.touched]
        rows.append(LaneRow(cells=cells, from_x=min(touched, default=0), to_x=max(touched, default=0)))
        before = after
    return rows


def lanes_width(asks: Mapping[str, Any]) -> int:
    """How wide the lanes are together."""
    return LANE * len(asks["lanes"])


# --- a piece in its pan -----------------------------------------------------------------------------------

_PIECE_W, _PIECE_H, _PAD, _SPOT_W = 640.0, 300.0, 50.0, 96.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """Where a tip lies, the letter that stands over it, and where the strip that is tapped for it begins."""

    letter: str
    id: str
    x: float
    y: float
    spot_x: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceDrawing:
    """A piece from its side: its box, its bone, and where each tip lies."""

    width: float
    height: float
    x: float
    y: float
    length: float
    thick: float
    bone: tuple[float, float, float] | None
    round: float
    spot: float
    places: tuple[Place, ...]


def piece(asks: Mapping[str, Any], tips: Iterable[tuple[str, str, Sequence[float]]]) -> PieceDrawing:
    """A piece drawn as large as there is room for, with the tips by their letters."""
    row = asks["piece"]
    scale = min((_PIECE_W - 2 * _PAD) / row["length_mm"], (_PIECE_H - 2 * _PAD) / row["thick_mm"])
    length, thick = scale * row["length_mm"], scale * row["thick_mm"]
    left, top = (_PIECE_W - length) / 2, _PIECE_H - thick - 24

    def at(x: float, y: float) -> tuple[float, float]:
        return round(left + scale * x, 1), round(top + thick - scale * y, 1)

    bone = None
    if row.get("bone"):
        bone = (*at(row["bone"][0], row["bone"][1]), round(scale * row["bone"][2], 1))
    placed = [(letter, name, *at(*tip)) for letter, name, tip in tips]
    # As wide as a thumb where there is room, and none over another.
    across = sorted(x for _letter, _name, x, _y in placed)
    spot = min([_SPOT_W, *(after - before for before, after in itertools.pairwise(across))])
    places = tuple(
        Place(letter=letter, id=name, x=x, y=y, spot_x=round(x - spot / 2, 1)) for letter, name, x, y in placed
    )
    return PieceDrawing(
        width=_PIECE_W,
        height=_PIECE_H,
        x=round(left, 1),
        y=round(top, 1),
        length=round(length, 1),
        thick=round(thick, 1),
        bone=bone,
        round=round(min(thick / 2.2, 60), 1),
        spot=round(spot, 1),
        places=places,
    )


# --- a dial -----------------------------------------------------------------------------------------------


def needle(value: float, low: float, high: float, *, radius: float) -> tuple[float, float]:
    """Where the needle of a dial ends, from its middle: over three quarters of a circle."""
    share = min(1.0, max(0.0, (value - low) / (high - low)))
    angle = math.radians(135 + 270 * share)
    return radius * math.cos(angle), radius * math.sin(angle)


@dataclass(frozen=True, slots=True, kw_only=True)
class Dial:
    """A dial: its marks (x, y, inner x, inner y, figure or nothing) and its needle."""

    marks: tuple[tuple[float, float, float, float, str], ...]
    needle: tuple[float, float]


def dial(value: float, unit: str) -> Dial:
    """A dial around a cooking temperature, with a figure at every ten and a mark at every one (two in F)."""
    low, high, small = (40, 100, 1) if unit == "C" else (100, 220, 2)
    marks = []
    for n in range(low, high + 1, small):
        whole = (n - low) % (10 if unit == "C" else 20) == 0
        x, y = needle(n, low, high, radius=100)
        inner_x, inner_y = needle(n, low, high, radius=86 if whole else 93)
        marks.append((x, y, inner_x, inner_y, str(n) if whole else ""))
    return Dial(marks=tuple(marks), needle=needle(value, low, high, radius=82))


# --- a hob ------------------------------------------------------------------------------------------------

# The two pans, and around which of them and in which direction [degrees] each other thing lies: far away, and close by,
# where no handle points.
_PANS = {"handle": (400.0, 170.0), "handle 2": (560.0, 170.0)}
_AROUND = ((400.0, 198, 158), (560.0, 352, 22), (400.0, 173, 158))
_FLAME, _PER_MM, _CLOSE = 60.0, 0.42, 200.0


@dataclass(frozen=True, slots=True, kw_only=True)
class HobThing:
    """Something at a hob: where it lies, by its letter; a handle has an end too."""

    letter: str
    x: float
    y: float
    to_x: float = 0.0
    to_y: float = 0.0


def hob(scene: Mapping[str, Mapping[str, Any]], letters: Mapping[str, str]) -> list[HobThing]:
    """A hob from above, its edge towards the cook at the bottom."""
    burns = [name for name, row in scene.items() if row["what"] == "burns"]
    found = []
    for name, row in scene.items():
        if name in _PANS:
            (x, y), angle = _PANS[name], math.radians(90 - row["deg"])
            end = (round(x + 116 * math.cos(angle), 1), round(y + 116 * math.sin(angle), 1))
            found.append(HobThing(letter=letters.get(name, ""), x=x, y=y, to_x=end[0], to_y=end[1]))
            continue
        pan_x, far, close = _AROUND[burns.index(name)]
        away = _FLAME + 44 + _PER_MM * row["from_flame_mm"]
        angle = math.radians(close if away < _CLOSE else far)
        x, y = pan_x + away * math.cos(angle), 170 + away * math.sin(angle)
        found.append(HobThing(letter=letters.get(name, ""), x=round(x, 1), y=round(y, 1)))
    return found

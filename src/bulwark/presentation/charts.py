"""Geometry of the curves: temperature over time, the bands behind it, limits as pillars of brick."""

import itertools
import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field, replace

from django.utils.translation import gettext as _

WIDTH = 900.0
PILLAR_W = 40.0
_BRICK_H = 18.0
_GLAZES = ("glaze", "glaze-c", "glaze", "glaze-b", "glaze-a", "glaze-b")


@dataclass(frozen=True, slots=True)
class Zone:
    """A band of temperature behind the curves: hot, danger or cold."""

    kind: str
    y: float
    h: float
    label: str
    label_x: float
    label_y: float


@dataclass(frozen=True, slots=True)
class Tick:
    """A mark on an axis with its text."""

    at: float
    text: str
    strong: bool = False


@dataclass(frozen=True, slots=True)
class Brick:
    """One brick of a pillar."""

    x: float
    y: float
    w: float
    h: float
    glaze: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Pillar:
    """A limit at a time: curves must pass beneath it. ``crack_y`` is where the worst one hits it."""

    x: float
    top: float
    bottom: float
    bricks: tuple[Brick, ...]
    label: str
    label_x: float
    anchor: str
    crack_y: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A curve: "actual", "stay" (what is, forecast), "way" (dashed), "bath" (dotted), "mean"."""

    kind: str
    path: str
    label: str
    note: str
    label_x: float
    label_y: float
    end: tuple[float, float] | None = None
    end_text: str = ""
    end_left: bool = False
    on_hot: bool = False


@dataclass(frozen=True, slots=True)
class Dot:
    """A reading; ``doubted`` ones are not believed."""

    x: float
    y: float
    text: str
    text_y: float
    doubted: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Chart:
    """A whole drawing."""

    width: float
    height: float
    left: float
    top: float
    right: float
    bottom: float
    zones: tuple[Zone, ...]
    y_ticks: tuple[Tick, ...]
    x_ticks: tuple[Tick, ...]
    pillars: tuple[Pillar, ...]
    lines: tuple[Line, ...]
    dots: tuple[Dot, ...]
    band: str
    now: Tick | None
    now_text: tuple[float, float, str] | None
    title: str
    desc: str
    uid: str

    @property
    def has_hot(self) -> bool:
        """True if there is a hot band for the walls' names to stand on."""
        return any(zone.kind == "hot" for zone in self.zones)

    @property
    def plot_w(self) -> float:
        """The width of the field."""
        return self.right - self.left

    @property
    def axis_x(self) -> float:
        """Where the temperatures end on the axis."""
        return self.left - 8


@dataclass(frozen=True, slots=True, kw_only=True)
class Curve:
    """What is to be drawn: points [(s, C)]."""

    kind: str
    points: Sequence[tuple[float, float]]
    label: str = ""
    note: str = ""
    end_text: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Wall:
    """A limit: by ``at_s`` the food must be at or below ``limit_c``; ``hit_c`` is what the course
    that is judged has there, where that is too much."""

    at_s: float
    limit_c: float
    label: str
    hit_c: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class ChartSpec:
    """Everything a chart is made of, in seconds and Celsius."""

    curves: tuple[Curve, ...]
    limits: tuple[float, ...]
    hot_c: float | None = None
    cold_c: float | None = None
    until_s: float
    low_c: float
    high_c: float
    walls: tuple[Wall, ...] = ()
    band: tuple[tuple[float, float, float], ...] = ()
    now: tuple[float, float] | None = None
    doubted: tuple[tuple[float, float], ...] = ()
    words: dict[str, str] = field(default_factory=dict)
    degrees: Callable[[float], str]
    clock: Callable[[float], str]
    title: str
    desc: str
    uid: str = "wb-chart"  # of its title and description: several drawings may share a page
    height: float = 410.0
    quiet: bool = False  # readings say no number: the curves' labels do


def band_words() -> dict[str, str]:
    """The usual names of the bands behind the curves."""
    return {"danger": _("danger band"), "hot": _("hot"), "cold": _("cold")}


@dataclass(slots=True)
class _Frame:
    """From seconds and Celsius to the drawing."""

    ask: ChartSpec
    left: float = 76.0
    top: float = 12.0
    right: float = WIDTH - 26.0
    taken: list[tuple[float, float, float, float]] = field(default_factory=list)

    @property
    def bottom(self) -> float:
        return self.ask.height - 46.0

    def x(self, at_s: float) -> float:
        share = at_s / self.ask.until_s if self.ask.until_s else 0.0
        return round(self.left + max(0.0, min(1.0, share)) * (self.right - self.left), 1)

    def y(self, temp: float) -> float:
        share = (temp - self.ask.low_c) / (self.ask.high_c - self.ask.low_c)
        return round(self.bottom - max(0.0, min(1.0, share)) * (self.bottom - self.top), 1)

    def place(self, width: float, height: float, spots: Iterable[tuple[float, float]]) -> tuple[float, float]:
        """The first spot [left, baseline] where a text covers nothing; else where it covers least."""
        best: tuple[float, tuple[float, float], tuple[float, float, float, float]] | None = None
        for x, y in spots:
            found = (
                min(max(x, self.left + 6), self.right - width - 6),
                min(max(y, self.top + height), self.bottom - 8),
            )
            box = (found[0], found[1] - height, found[0] + width, found[1] + 4)
            covered = sum(_overlap(box, other) for other in self.taken)
            if best is None or covered < best[0]:
                best = (covered, found, box)
            if not covered:
                break
        assert best is not None  # noqa: S101 - every caller names a spot
        self.taken.append(best[2])
        return best[1]


def _overlap(a: tuple[float, float, float, float], b: tuple[float, float, float, float]) -> float:
    return max(0.0, min(a[2], b[2]) - max(a[0], b[0])) * max(0.0, min(a[3], b[3]) - max(a[1], b[1]))


def _path(points: Iterable[tuple[float, float]]) -> str:
    rows = [f"{x:g} {y:g}" for x, y in points]
    return "M" + "L".join(rows) if rows else ""


def _zones(frame: _Frame, ask: ChartSpec) -> tuple[Zone, ...]:
    hot = frame.y(ask.hot_c) if ask.hot_c is not None else frame.top
    cold = frame.y(ask.cold_c) if ask.cold_c is not None else frame.bottom
    rows = [("danger", hot, cold, ask.words.get("danger", ""))]
    if ask.hot_c is not None and ask.hot_c < ask.high_c:
        rows.append(("hot", frame.top, hot, ask.words.get("hot", "")))
    if ask.cold_c is not None and ask.cold_c > ask.low_c:
        rows.append(("cold", cold, frame.bottom, ask.words.get("cold", "")))
    found = []
    for kind, top, bottom, label in rows:
        wide = _text_width(label, 19)
        x, y = 0.0, 0.0
        if label and bottom - top > 22:
            ys = [top + (bottom - top) * share + 7 for share in (0.5, 0.7, 0.3, 0.85, 0.15)]
            xs = (frame.left + 14, frame.right - wide - 20, (frame.left + frame.right) / 2)
            x, y = frame.place(wide, 18, [(x, min(max(y, top + 20), bottom - 6)) for x in xs for y in ys])
        found.append(Zone(kind, top, round(bottom - top, 1), label if y else "", round(x, 1), round(y, 1)))
    return tuple(found)


def _bricks(x: float, top: float, bottom: float) -> tuple[Brick, ...]:
    found: list[Brick] = []
    y, row = top + 2, 0
    while y < bottom - 4:
        h = min(_BRICK_H - 3, bottom - y - 2)
        if row % 2 == 0:
            found.append(Brick(x + 3, round(y, 1), 34, round(h, 1), _GLAZES[row % 6]))
        else:
            found.append(Brick(x + 3, round(y, 1), 14.3, round(h, 1), _GLAZES[row % 6]))
            found.append(Brick(x + 20.3, round(y, 1), 16.7, round(h, 1), _GLAZES[(row + 2) % 6]))
        y, row = y + _BRICK_H, row + 1
    return tuple(found)


def _pillars(frame: _Frame, ask: ChartSpec) -> tuple[Pillar, ...]:
    found = []
    top = frame.y(ask.hot_c if ask.hot_c is not None else ask.high_c)
    for wall in ask.walls:
        if wall.at_s > ask.until_s:
            continue
        # The limit is at the pillar's left edge: a curve that is beneath it there passes.
        x = min(frame.x(wall.at_s), frame.right - PILLAR_W)
        bottom = frame.y(wall.limit_c)
        crack = frame.y(wall.hit_c) if wall.hit_c is not None else None
        late = x > frame.right - 150
        found.append(
            Pillar(
                x=x,
                top=top,
                bottom=bottom,
                bricks=_bricks(x, top, bottom),
                label=wall.label,
                label_x=x + PILLAR_W if late else x + PILLAR_W / 2,
                anchor="end" if late else "middle",
                crack_y=None if crack is None else min(max(crack, top + 18), bottom - 18),
            )
        )
        frame.taken.append((x - 4, top, x + PILLAR_W + 4, bottom))
    return tuple(found)


def _text_width(text: str, size: float) -> float:
    return len(text) * size * 0.5


def _lines(frame: _Frame, ask: ChartSpec) -> tuple[Line, ...]:
    found: list[Line] = []
    for curve in ask.curves:
        points = [(frame.x(at_s), frame.y(temp)) for at_s, temp in curve.points if at_s <= ask.until_s]
        if not points:
            continue
        end = None
        if curve.end_text:
            end = (points[-1][0], points[-1][1])
        found.append(
            Line(
                kind=curve.kind,
                path=_path(points),
                label=curve.label,
                note=curve.note,
                label_x=0,
                label_y=0,
                end=end,
                end_text=curve.end_text,
                end_left=points[-1][0] > frame.right - 110,
            )
        )
        frame.taken += [(x - 5, y - 5, x + 5, y + 5) for x, y in _along(points)]
    return tuple(found)


def _along(points: Sequence[tuple[float, float]], every: float = 16.0) -> list[tuple[float, float]]:
    """Places along a line, close enough together that no text slips between them."""
    found = list(points[:1])
    for a, b in itertools.pairwise(points):
        steps = max(1, int(math.hypot(b[0] - a[0], b[1] - a[1]) // every))
        if steps == 1 and math.hypot(b[0] - found[-1][0], b[1] - found[-1][1]) < every:
            continue
        found += [(a[0] + (b[0] - a[0]) * n / steps, a[1] + (b[1] - a[1]) * n / steps) for n in range(1, steps + 1)]
    return found


def _labels(frame: _Frame, ask: ChartSpec, lines: tuple[Line, ...]) -> tuple[Line, ...]:
    placed = []
    by_path = {
        _path([(frame.x(t), frame.y(c)) for t, c in curve.points if t <= ask.until_s]): curve for curve in ask.curves
    }
    for line in lines:
        if not line.label:
            placed.append(line)
            continue
        curve = by_path[line.path]
        points = [(frame.x(t), frame.y(c)) for t, c in curve.points if t <= ask.until_s]
        size = max(_text_width(line.label, 24), _text_width(line.note, 17))
        height = 46 if line.note else 24
        spots = []
        for share in (1.0,) if ask.quiet else (0.45, 0.6, 0.3, 0.75, 0.2, 0.9, 0.1):
            x, y = points[int(share * (len(points) - 1))]
            spots += [
                (x + 14, y - 12),
                (x - size - 14, y + height + 6),
                (x + 14, y + height + 8),
                (x - size - 14, y - 12),
            ]
        x, y = frame.place(size, height, spots)
        placed.append(
            replace(
                line,
                label_x=round(x, 1),
                label_y=round(y - (22 if line.note else 0), 1),
                on_hot=ask.hot_c is not None and y < frame.y(ask.hot_c),
            )
        )
    return tuple(placed)


# Two numbers under neighbouring dots need this much between them.
DOT_LABELS_APART = 64.0


def _says(frame: _Frame, ask: ChartSpec, n: int, count: int, every: int, x: float) -> bool:
    """True for the dots whose number is wanted: every so many, and the last where no "now" says it."""
    if ask.now is None:
        return n % every == 0 or n == count - 1
    return n < count - 1 and n % every == 0 and frame.x(ask.now[0]) - x > DOT_LABELS_APART / 2


def _dots(frame: _Frame, ask: ChartSpec) -> tuple[Dot, ...]:
    rows = [curve for curve in ask.curves if curve.kind == "actual"]
    points = [point for curve in rows for point in curve.points]
    # Not every dot of a long log can say its number.
    every = max(1, math.ceil(len(points) / 6))
    found, last_x = [], -100.0
    for n, (at_s, temp) in enumerate(points):
        x, y = frame.x(at_s), frame.y(temp)
        says = not ask.quiet and x - last_x > DOT_LABELS_APART and _says(frame, ask, n, len(points), every, x)
        if says:
            last_x = x
        says = says and x - frame.left > 24
        if says:
            frame.taken.append((x - 28, y + 14, x + 28, y + 36))
        if len(points) <= 60 or says:
            found.append(Dot(x, y, ask.degrees(temp) if says else "", round(y + 32, 1)))
    return (
        *found,
        *(
            Dot(frame.x(at_s), frame.y(temp), ask.degrees(temp), frame.y(temp) - 14, doubted=True)
            for at_s, temp in ask.doubted
        ),
    )


def _spread(values: Iterable[float], least: float) -> list[float]:
    kept: list[float] = []
    for value in values:
        if all(abs(value - other) >= least for other in kept):
            kept.append(value)
    return kept


def _step_s(until_s: float) -> float:
    for step in (60, 120, 300, 600, 900, 1800, 3600, 7200, 14400, 21600, 43200, 86400):
        if until_s / step <= 8:
            return float(step)
    return 172800.0


def chart(ask: ChartSpec) -> Chart:
    """The drawing of what was asked."""
    frame = _Frame(ask, top=12.0 if ask.hot_c is not None or not ask.walls else 34.0)
    pillars = _pillars(frame, ask)
    lines = _lines(frame, ask)
    dots = _dots(frame, ask)
    for limit in ask.limits:
        if ask.low_c <= limit <= ask.high_c:
            frame.taken.append((frame.left, frame.y(limit) - 1, frame.right, frame.y(limit) + 1))
    now = Tick(frame.x(ask.now[0]), ask.clock(ask.now[0])) if ask.now else None
    now_text = None
    if ask.now:
        frame.taken.append((frame.x(ask.now[0]) - 4, frame.top, frame.x(ask.now[0]) + 4, frame.bottom))
        now_text = (frame.x(ask.now[0]) + 12, frame.y(ask.now[1]) - 10, ask.degrees(ask.now[1]))
        frame.taken.append((now_text[0], now_text[1] - 24, now_text[0] + 56, now_text[1] + 4))
    lines = _labels(frame, ask, lines)
    zones = _zones(frame, ask)
    step = _step_s(ask.until_s)
    strong = {round(wall.at_s) for wall in ask.walls}
    marks = sorted(
        {*(step * n for n in range(int(ask.until_s // step) + 1)), *strong}, key=lambda s: (s not in strong, s)
    )
    xs = _spread((m for m in marks if m <= ask.until_s), ask.until_s * 0.075)
    if ask.now:
        xs = [at_s for at_s in xs if abs(frame.x(at_s) - frame.x(ask.now[0])) > 78]
    limits = [limit for limit in ask.limits if ask.low_c <= limit <= ask.high_c]
    ys = _spread(limits, (ask.high_c - ask.low_c) * 0.05)
    upper = [(frame.x(t), frame.y(high)) for t, _, high in ask.band if t <= ask.until_s]
    lower = [(frame.x(t), frame.y(low)) for t, low, _ in ask.band if t <= ask.until_s]
    return Chart(
        width=WIDTH,
        height=ask.height,
        left=frame.left,
        top=frame.top,
        right=frame.right,
        bottom=frame.bottom,
        zones=zones,
        y_ticks=tuple(Tick(frame.y(limit), ask.degrees(limit)) for limit in ys),
        x_ticks=tuple(Tick(frame.x(at_s), ask.clock(at_s), round(at_s) in strong) for at_s in sorted(xs)),
        pillars=pillars,
        lines=lines,
        dots=dots,
        band=_path([*upper, *reversed(lower)]) + "Z" if len(upper) > 1 else "",
        now=now,
        now_text=now_text,
        title=ask.title,
        desc=ask.desc,
        uid=ask.uid,
    )

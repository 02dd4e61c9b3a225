"""Geometry of the flow map: lanes, columns, bands, contacts, the wall and the violating path."""

import colorsys
import itertools
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path

from bulwark.flow import wording
from foodsafety.contamination import Band, Contact, Finding, Flow, Hop, Lane

TOKENS = Path(__file__).resolve().parent.parent / "static/bulwark/tokens.css"

LABEL_W = 152.0
MAP_W = 896.0
HEAD_H = 92.0
COLUMN_W = 66.0  # the least width in which two short words stand
FITS = 12  # so many steps stand on one screen
BODY_H = 476.0
WIDEST_PITCH, NARROWEST_PITCH = 50.0, 27.0
GROUP_H = 22.0
WALL_H = 44.0
BRICK_W = 62.0
KEY_W = 190.0


@cache
def palette() -> Mapping[str, str]:
    """The tokens' colours as #rrggbb by name: a downloaded or printed drawing has no style sheet."""
    text = TOKENS.read_text(encoding="utf-8")
    found = re.findall(r"--bw-([a-z0-9-]+):\s*hsl\((\d+) (\d+)% ([\d.]+)%\)", text)
    colours = {}
    for name, hue, saturation, lightness in found:
        red, green, blue = colorsys.hls_to_rgb(int(hue) / 360, float(lightness) / 100, int(saturation) / 100)
        colours[name.replace("-", "_")] = "#" + "".join(f"{round(255 * part):02x}" for part in (red, green, blue))
    return colours


@dataclass(frozen=True, slots=True)
class SoilLook:
    """How a soil is drawn: two colours, and a pattern that survives greyscale."""

    id: str
    name: str
    fill: str
    ink: str
    path: str
    width: float
    size: int = 12
    x: float = 0.0
    y: float = 0.0


# Each its own pattern as well as its own colour: chevrons, bars, waves, scales, rings, crosses.
_LOOKS: Mapping[str, tuple[str, str, str, float, int]] = {
    "raw_poultry": ("#df9aa9", "#73213b", "M1.5 -1 7 6 1.5 13", 2.8, 12),
    "raw_meat": ("#d98a86", "#6d1f1c", "M3 -1V13M8 -1V13", 2.6, 12),
    "raw_fish": ("#9fb4cc", "#1f3f63", "M-1 4Q3 -1 6 4T13 4M-1 10Q3 5 6 10T13 10", 2.2, 12),
    "raw_shellfish": ("#e3a98a", "#73361a", "M0 9A6 6 0 0 1 12 9M3 9A3 3 0 0 1 9 9", 2.0, 12),
    "raw_egg": ("#ecd27c", "#6b4d06", "M6 2.4A3.6 3.6 0 1 1 5.9 2.4Z", 2.2, 12),
    "raw_flour": ("#e4dac4", "#6a5d43", "M6 2V10M2 6H10", 2.2, 12),
    "unwashed_produce": ("#b7cda0", "#3c5526", "M1 11Q1 2 10 1Q10 10 1 11Z", 1.8, 12),
    "person": ("#d8c3b4", "#5e3d28", "M2 2 10 10M10 2 2 10", 2.2, 12),
    "waste": ("#b9b2a2", "#3d3829", "M0 3H7M5 9H12", 3.0, 12),
    "chemical": ("#c9b8da", "#46286b", "M0 0H6V6H0ZM6 6H12V12H6Z", 1.6, 12),
    "toxin": ("#b3a1b7", "#3f1f47", "M0 12 6 2 12 12", 2.4, 12),
}
_ALLERGEN = ("#c3c6e0", "#2c2f6b", "M0 12 12 0M-3 3 3 -3M9 15 15 9", 3.2, 12)


@cache
def soil_look(soil: str) -> SoilLook:
    """How one soil is drawn; an allergen has its own slanted lines."""
    fill, ink, path, width, size = _LOOKS.get(soil, _ALLERGEN)
    return SoilLook(soil, wording.soil(soil), fill, ink, path, width, size)


@dataclass(frozen=True, slots=True)
class Line:
    """A line of a step's title."""

    text: str
    y: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Head:
    """A step at the top of its column."""

    id: str
    number: int
    x: float
    left: float
    width: float
    lines: tuple[Line, ...]
    title: str
    bad: bool
    added: bool
    chosen: bool
    later: bool

    @property
    def label(self) -> str:
        """Its name for a screen reader: what is seen, and the whole title where that is shorter."""
        seen = " ".join((str(self.number), *(line.text for line in self.lines)))
        return seen if seen == f"{self.number} {self.title}" else f"{seen}: {self.title}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """A lane: its name and its line."""

    id: str
    name: str
    title: str
    squeeze: float | None
    y: float
    x1: float
    x2: float
    plain: bool
    heading: str
    heading_y: float
    size: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Ribbon:
    """A band of one soil."""

    soil: str
    ink: str
    lane: str
    x: float
    y: float
    width: float
    height: float
    title: str
    start: int
    dim: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Ring:
    """One member of a contact."""

    key: str
    x: float
    y: float
    step: int
    lane: str
    soiled: bool
    say: str
    dim: bool
    later: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Stem:
    """The line that joins the members of a contact."""

    x: float
    y1: float
    y2: float
    soiled: bool
    step: int
    dim: bool
    later: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Plaque:
    """A wash, a rinse or a heat on a lane."""

    what: str
    x: float
    y: float
    width: float
    height: float
    text: str
    step: int
    say: str
    dim: bool
    later: bool

    @property
    def mid(self) -> float:
        """The middle of the plaque."""
        return round(self.x + self.width / 2, 1)

    @property
    def line(self) -> float:
        """The base line of its text."""
        return round(self.y + self.height / 2 + 5.5, 1)

    @property
    def text_w(self) -> float:
        """The room its text fills, narrower than the plaque."""
        return round(min(self.width - 8, 9.5 * len(self.text)), 1)

    def _shape(self, path: str) -> str:
        return path.format(x=self.mid, y=round(self.y + self.height / 2, 1))

    @property
    def drop(self) -> str:
        """A drop of water in its middle."""
        return self._shape("M{x} {y}m0 -10c4 5.5 6.6 8.6 6.6 11.8a6.6 6.6 0 0 1 -13.2 0c0 -3.2 2.6 -6.3 6.6 -11.8Z")

    @property
    def flame(self) -> str:
        """A flame in its middle."""
        return self._shape(
            "M{x} {y}m1 -10c1 5 6 6.5 6 12a7 7 0 0 1 -14 0c0 -3.5 2 -5 3 -7.5c1 1.5 1.5 2.5 3 3c1 -2.5 .5 -5 2 -7.5Z"
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Leg:
    """One straight piece of the violating path."""

    x1: float
    y1: float
    x2: float
    y2: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Stop:
    """A numbered place on the violating path."""

    number: int
    x: float
    y: float
    step: int

    @property
    def line(self) -> float:
        """The base line of its number."""
        return round(self.y + 6, 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Brick:
    """A brick of the wall between kit and ready to eat."""

    x: float
    y: float
    width: float
    height: float
    glaze: int
    broken: bool

    @property
    def left_piece(self) -> str:
        """The left piece of a broken brick, pushed aside."""
        x, y, w, h = self.x - 1, self.y + 1, self.width * 0.34, self.height
        return f"M{x:.1f} {y:.1f}h{w + 4:.1f}l-5 {h * 0.4:.1f} 6 {h * 0.2:.1f} -5 {h * 0.4:.1f}h-{w:.1f}Z"

    @property
    def right_piece(self) -> str:
        """The right piece, pushed the other way."""
        x, y, w, h = self.x + self.width + 1, self.y - 1, self.width * 0.34, self.height
        return f"M{x:.1f} {y:.1f}h-{w:.1f}l5 {h * 0.4:.1f} -6 {h * 0.2:.1f} 5 {h * 0.4:.1f}h{w - 4:.1f}Z"


@dataclass(frozen=True, slots=True, kw_only=True)
class FlowMap:
    """The whole drawing, ready for its template."""

    label_w: float
    width: float
    height: float
    head_h: float
    heads: tuple[Head, ...]
    rows: tuple[Row, ...]
    ribbons: tuple[Ribbon, ...]
    rings: tuple[Ring, ...]
    stems: tuple[Stem, ...]
    plaques: tuple[Plaque, ...]
    legs: tuple[Leg, ...]
    stops: tuple[Stop, ...]
    arrow: tuple[float, float] | None
    bricks: tuple[Brick, ...]
    wall: tuple[float, float, float, float] | None
    raw_zone: tuple[float, float] | None
    ready_zone: tuple[float, float] | None
    bad_column: tuple[float, float] | None
    looks: tuple[SoilLook, ...]
    scrolls: bool
    title: str
    foot: float

    @property
    def raw_height(self) -> float:
        """How high the raw zone is."""
        return round(self.raw_zone[1] - self.raw_zone[0], 1) if self.raw_zone else 0.0

    @property
    def ready_height(self) -> float:
        """How high the ready-to-eat zone is."""
        return round(self.ready_zone[1] - self.ready_zone[0], 1) if self.ready_zone else 0.0

    @property
    def drop(self) -> float:
        """How far the bad step's column reaches down."""
        return round(self.height - 8, 1)

    @property
    def arrow_path(self) -> str:
        """The head of the violating path: it leaves for the plate."""
        if self.arrow is None:
            return ""
        x, y = self.arrow
        return f"M{x - 6:.1f} {y - 13:.1f}L{x + 13:.1f} {y:.1f}L{x - 6:.1f} {y + 13:.1f}Z"

    @property
    def whole_w(self) -> float:
        """The width of the drawing with its labels."""
        return round(self.label_w + self.width, 1)

    @property
    def key_y(self) -> float:
        """Where the key begins under the drawing."""
        return round(self.height + 50, 1)

    @property
    def whole_h(self) -> float:
        """The height of the drawing with its title and its key."""
        return round(self.key_y + 28 * (1 + max((round(look.y / 28) for look in self.looks), default=0)), 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class View:
    """What is asked of the drawing: a finding to light, a step to stop at, and what to filter by."""

    finding: Finding | None = None
    at: int | None = None
    soil: str = ""
    carrier: str = ""
    added: frozenset[str] = frozenset()


def flow_map(flow: Flow, titles: Mapping[str, str], heats: Mapping[str, str], view: View) -> FlowMap:
    """The drawing of a flow. ``titles`` names each step, ``heats`` says what each heats to."""
    return _Drawing(flow, titles, heats, view).drawn()


class _Drawing:
    def __init__(self, flow: Flow, titles: Mapping[str, str], heats: Mapping[str, str], view: View) -> None:
        self.flow = flow
        self.titles = titles
        self.heats = heats
        self.view = view
        self.steps = flow.process.steps
        n = max(1, len(self.steps))
        self.column = (MAP_W - LABEL_W - 14) / n if n <= FITS else COLUMN_W
        self.column = min(self.column, 96.0)
        self.width = self.column * n + 26
        self.lanes = flow.lanes
        self._rows()

    # --- places ------------------------------------------------------------------------------------

    def x_of(self, step: int) -> float:
        """The middle of a step's column."""
        return round((step + 0.5) * self.column + 4, 1)

    def _rows(self) -> None:
        groups = [lane.group for lane in self.lanes]
        walled = "ready" in groups and len(set(groups)) > 1
        rest = BODY_H - GROUP_H * len(set(groups)) - (WALL_H if walled else 0)
        pitch = min(WIDEST_PITCH, max(NARROWEST_PITCH, rest / max(1, len(self.lanes))))
        self.pitch = pitch
        self.band_h = min(22.0, pitch - 8)
        y, last = HEAD_H, ""
        self.y: dict[str, float] = {}
        self.heading: dict[str, float] = {}
        self.zones: dict[str, tuple[float, float]] = {}
        self.wall_y: float | None = None
        for lane in self.lanes:
            if lane.group != last:
                if lane.group == "ready" and walled:
                    self.wall_y = y + 8
                    y += WALL_H
                self.heading[lane.id] = y + 18
                self.zones[lane.group] = (y, y)
                y += GROUP_H
                last = lane.group
            self.y[lane.id] = round(y + pitch / 2, 1)
            y += pitch
            self.zones[lane.group] = (self.zones[lane.group][0], y)
        self.height = y

    # --- pieces ------------------------------------------------------------------------------------

    def drawn(self) -> FlowMap:
        flow, view = self.flow, self.view
        hops = flow.hops(view.finding) if view.finding else ()
        legs, stops = self._path(hops)
        bad = self.flow.process.step_index.get(view.finding.step) if view.finding else None
        looks = dict.fromkeys(band.soil for band in flow.bands)
        return FlowMap(
            label_w=LABEL_W,
            width=round(self.width, 1),
            height=round(self.height, 1),
            head_h=HEAD_H,
            heads=tuple(self._head(i, bad) for i in range(len(self.steps))),
            rows=tuple(self._row(lane) for lane in self.lanes),
            ribbons=tuple(self._ribbons()),
            rings=tuple(ring for contact in flow.contacts for ring in self._rings(contact)),
            stems=tuple(stem for contact in flow.contacts for stem in self._stems(contact)),
            plaques=tuple(self._plaques()),
            legs=legs,
            stops=stops,
            arrow=(round(self.width - 14, 1), self.y[hops[-1].lane]) if hops else None,
            bricks=tuple(self._bricks(hops)),
            wall=self._wall(),
            raw_zone=self.zones.get("raw"),
            ready_zone=self.zones.get("ready"),
            bad_column=(round(bad * self.column + 4, 1), round(self.column, 1)) if bad is not None else None,
            looks=self._key(looks),
            scrolls=len(self.steps) > FITS,
            title=wording.map_title(flow, view.finding),
            foot=round(self.height + 6, 1),
        )

    def _key(self, soils: Iterable[str]) -> tuple[SoilLook, ...]:
        across = max(1, int((self.width + LABEL_W - 40) // KEY_W))
        rows = enumerate(soil_look(name) for name in soils)
        return tuple(replace(look, x=(i % across) * KEY_W, y=(i // across) * 28) for i, look in rows)

    def _later(self, step: int) -> bool:
        return self.view.at is not None and step > self.view.at

    def _head(self, i: int, bad: int | None) -> Head:
        step = self.steps[i]
        title = self.titles.get(step.id) or wording.verb(step.do)
        return Head(
            id=step.id,
            number=i + 1,
            x=self.x_of(i),
            left=round(i * self.column + 4, 1),
            width=round(self.column, 1),
            lines=tuple(Line(text, 52.0 + 16 * k) for k, text in enumerate(wrapped(title, self.column))),
            title=title,
            bad=i == bad,
            added=step.id in self.view.added,
            chosen=self.view.at == i,
            later=self._later(i),
        )

    def _row(self, lane: Lane) -> Row:
        name, size = wording.lane_name(lane, self.flow.process), 18 if self.pitch >= 40 else 16
        room = LABEL_W - 26
        shown = name if len(name) <= 22 else name[:21].rstrip() + "…"
        return Row(
            id=lane.id,
            name=shown,
            title=name,
            squeeze=room if len(shown) * size * 0.54 > room else None,
            y=self.y[lane.id],
            x1=self.x_of(lane.first) if lane.first >= 0 else 4,
            x2=self.x_of(lane.last) if lane.last < len(self.steps) else round(self.width - 14, 1),
            plain=not self._shows_lane(lane.id),
            heading=wording.group_name(lane.group) if lane.id in self.heading else "",
            heading_y=self.heading.get(lane.id, 0.0),
            size=size,
        )

    def _shows_lane(self, lane: str) -> bool:
        return (
            not self.view.carrier
            or any(
                {lane, self.view.carrier} <= {member for member, _ in contact.members} for contact in self.flow.contacts
            )
            or lane == self.view.carrier
        )

    def _shows_soil(self, *soils: str) -> bool:
        return not self.view.soil or self.view.soil in soils

    def _ribbons(self) -> list[Ribbon]:
        rows: list[Ribbon] = []
        for lane in self.lanes:
            bands = [band for band in self.flow.bands if band.lane == lane.id]
            soils = sorted(dict.fromkeys(band.soil for band in bands))
            height = self.band_h / max(1, len(soils)) if len(soils) > 1 else self.band_h
            for band in bands:
                top = self.y[lane.id] - self.band_h / 2 + soils.index(band.soil) * height
                rows.append(self._ribbon(band, lane, top, height))
        return rows

    def _ribbon(self, band: Band, lane: Lane, top: float, height: float) -> Ribbon:
        n = len(self.steps)
        x1 = self.x_of(band.start) if band.start >= 0 else 4
        last = band.end if self.view.at is None else min(band.end, self.view.at)
        x2 = self.x_of(last) if last < n else round(self.width - 14, 1)
        return Ribbon(
            soil=band.soil,
            ink=soil_look(band.soil).ink,
            lane=band.lane,
            x=x1,
            y=round(top, 1),
            width=round(max(0.0, x2 - x1), 1),
            height=round(height, 1),
            title=wording.band(band, lane, self.flow),
            start=band.start,
            dim=not (self._shows_soil(band.soil) and self._shows_lane(band.lane)),
        )

    def _stems(self, contact: Contact) -> list[Stem]:
        step = self.steps[contact.step]
        if len(contact.members) < 2 or step.do in ("wash_hands", "clean", "gloves_on", "gloves_off"):
            return []
        ys = [self.y[lane] for lane, _ in contact.members]
        soiled = any(soils for _, soils in contact.members)
        dim = not self._shows_contact(contact)
        return [
            Stem(
                x=self.x_of(contact.step),
                y1=min(ys),
                y2=max(ys),
                soiled=soiled,
                step=contact.step,
                dim=dim,
                later=self._later(contact.step),
            )
        ]

    def _shows_contact(self, contact: Contact) -> bool:
        lanes = {lane for lane, _ in contact.members}
        soils = {soil for _, row in contact.members for soil in row}
        return (not self.view.carrier or self.view.carrier in lanes) and self._shows_soil(*soils)

    def _rings(self, contact: Contact) -> list[Ring]:
        step = self.steps[contact.step]
        marked = {mark.lane for mark in self.flow.marks if mark.step == contact.step}
        rows: list[Ring] = []
        for lane, soils in contact.members:
            if lane in marked:
                continue
            rows.append(
                Ring(
                    key=f"{contact.step}-{len(rows)}",
                    x=self.x_of(contact.step),
                    y=self.y[lane],
                    step=contact.step,
                    lane=lane,
                    soiled=bool(soils),
                    say=wording.contact(self.flow, contact, lane, self.titles.get(step.id, "")),
                    dim=not self._shows_contact(contact),
                    later=self._later(contact.step),
                )
            )
        return rows

    def _plaques(self) -> list[Plaque]:
        rows = []
        for mark in self.flow.marks:
            text = self.heats.get(self.steps[mark.step].id, "") if mark.what == "heat" else ""
            on_food = any(lane.id == mark.lane and lane.group != "kit" for lane in self.lanes)
            width = min(self.column + 2, 62.0) if mark.what == "heat" and text and on_food else 26.0
            height = min(32.0, self.pitch - 2)
            rows.append(
                Plaque(
                    what=mark.what,
                    x=round(self.x_of(mark.step) - width / 2, 1),
                    y=round(self.y[mark.lane] - height / 2, 1),
                    width=width,
                    height=height,
                    text=text if on_food else "",
                    step=mark.step,
                    say=wording.mark(self.flow, mark, self.titles.get(self.steps[mark.step].id, "")),
                    dim=not (self._shows_lane(mark.lane) and (not mark.ended or self._shows_soil(*mark.ended))),
                    later=self._later(mark.step),
                )
            )
        return rows

    def _path(self, hops: Sequence[Hop]) -> tuple[tuple[Leg, ...], tuple[Stop, ...]]:
        legs: list[Leg] = []
        stops: list[Stop] = []
        number = 0
        for before, now in itertools.pairwise(hops):
            x = self.x_of(max(now.step, 0))
            y1, y2 = self.y[before.lane], self.y[now.lane]
            came = self.x_of(before.step) if before.step >= 0 else x
            if came != x:
                legs.append(Leg(x1=came, y1=y1, x2=x, y2=y1))
            if y1 != y2:
                legs.append(Leg(x1=x, y1=y1, x2=x, y2=y2))
            number += 1
            # A food and what it becomes at the same step are one place: the first number stands.
            if not (stops and (stops[-1].x, stops[-1].y) == (x, y2)):
                stops.append(Stop(number=number, x=x, y=y2, step=now.step))
        if hops:
            end = hops[-1]
            served = self.flow.served.get(end.carrier)
            x = self.x_of(end.step) if end.step >= 0 else 4.0
            legs.append(Leg(x1=x, y1=self.y[end.lane], x2=round(self.width - 14, 1), y2=self.y[end.lane]))
            if served is not None and served != end.step:
                stops.append(Stop(number=number + 1, x=self.x_of(served), y=self.y[end.lane], step=served))
        return tuple(legs), tuple(stops)

    def _wall(self) -> tuple[float, float, float, float] | None:
        if self.wall_y is None:
            return None
        return (0.0, self.wall_y, round(self.width - 4, 1), WALL_H - 8)

    def _bricks(self, hops: Sequence[Hop]) -> list[Brick]:
        wall = self._wall()
        if wall is None:
            return []
        crossed = []
        for before, now in itertools.pairwise(hops):
            low, high = sorted((self.y[before.lane], self.y[now.lane]))
            if low < wall[1] < high:
                crossed.append(self.x_of(max(now.step, 0)))
        rows = []
        height = round((wall[3] - 6) / 2, 1)
        for course in (0, 1):
            x, k = wall[0] + 3, 0
            while x < wall[2] - 3:
                width = BRICK_W if k or not course else BRICK_W * 0.4
                width = min(width, wall[2] - 3 - x)
                broken = any(x - 6 < at < x + width + 6 for at in crossed)
                y = round(wall[1] + 2 + course * (height + 2), 1)
                rows.append(
                    Brick(
                        x=round(x, 1),
                        y=y,
                        width=round(width, 1),
                        height=height,
                        glaze=(k * 3 + course) % 4,
                        broken=broken,
                    )
                )
                x += width + 3
                k += 1
        return rows


# Words that a heading over a narrow column does without.
_SMALL_WORDS = frozenset("the a an of to in into on with and rest half its their your".split())


def wrapped(text: str, width: float) -> tuple[str, ...]:
    """A title in at most three lines of a column ``width`` [px] wide. Too long, it goes without
    its small words first; what is left out then ends in a dot."""
    most = max(6, int(width / 7.8))
    lines, whole = _laid(text.split(), most)
    if not whole:
        lines, _ = _laid([word for word in text.split() if word.lower() not in _SMALL_WORDS], most)
    return lines


def _laid(words: Sequence[str], most: int) -> tuple[tuple[str, ...], bool]:
    lines: list[str] = []
    for word in words:
        short = word if len(word) <= most else word[: most - 1] + "."
        if lines and len(lines[-1]) + 1 + len(short) <= most:
            lines[-1] += " " + short
        elif len(lines) < 3:
            lines.append(short)
        else:
            return tuple(lines), False
    return tuple(lines), True

"""Geometry of the flow map: lanes, columns, bands, contacts, the wall and the violating path."""

import itertools
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from bulwark.flow import wording
from bulwark.flow.drawings.looks import SoilLook, soil_look
from bulwark.flow.drawings.shapes import Brick, FlowMap, Head, Leg, Line, Plaque, Ribbon, Ring, Row, Stem, Stop
from bulwark.flow.drawings.wall import wall_bricks
from bulwark.flow.drawings.wrapping import wrapped
from bulwark.presentation.phrases import verb
from foodsafety.contamination import Band, Contact, Finding, Flow, Hop, Lane, Mark

LABEL_W = 152.0
MAP_W = 896.0
HEAD_H = 92.0
COLUMN_W = 66.0  # the least width in which two short words stand
FITS = 12  # so many steps stand on one screen
BODY_H = 476.0
WIDEST_PITCH, NARROWEST_PITCH = 50.0, 27.0
GROUP_H = 22.0
WALL_H = 44.0
KEY_W = 190.0


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
        self._place_lanes()

    # --- places ------------------------------------------------------------------------------------

    def x_of(self, step: int) -> float:
        """The middle of a step's column."""
        return round((step + 0.5) * self.column + 4, 1)

    def _place_lanes(self) -> None:
        groups = dict.fromkeys(lane.group for lane in self.lanes)
        walled = "ready" in groups and len(groups) > 1
        rest = BODY_H - GROUP_H * len(groups) - (WALL_H if walled else 0)
        self.pitch = min(WIDEST_PITCH, max(NARROWEST_PITCH, rest / max(1, len(self.lanes))))
        self.band_h = min(22.0, self.pitch - 8)
        self.height = HEAD_H
        self.y: dict[str, float] = {}
        self.heading: dict[str, float] = {}
        self.zones: dict[str, tuple[float, float]] = {}
        self.wall_y: float | None = None
        for lane in self.lanes:
            if lane.group not in self.zones:
                self._begin_group(lane, walled=walled)
            self.y[lane.id] = round(self.height + self.pitch / 2, 1)
            self.height += self.pitch
            self.zones[lane.group] = (self.zones[lane.group][0], self.height)

    def _begin_group(self, lane: Lane, *, walled: bool) -> None:
        """A heading over the first lane of a group, and the wall before what is ready to eat."""
        if lane.group == "ready" and walled:
            self.wall_y = self.height + 8
            self.height += WALL_H
        self.heading[lane.id] = self.height + 18
        self.zones[lane.group] = (self.height, self.height)
        self.height += GROUP_H

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
            plaques=tuple(self._plaque(mark) for mark in flow.marks),
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
        title = self.titles.get(step.id) or verb(step.do)
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
        marked = {mark.lane for mark in self.flow.marks if mark.step == contact.step}
        open_members = [(lane, bool(soils)) for lane, soils in contact.members if lane not in marked]
        return [
            Ring(
                key=f"{contact.step}-{i}",
                x=self.x_of(contact.step),
                y=self.y[lane],
                step=contact.step,
                lane=lane,
                soiled=soiled,
                say=wording.contact(self.flow, contact, lane, self.titles.get(self.steps[contact.step].id, "")),
                dim=not self._shows_contact(contact),
                later=self._later(contact.step),
            )
            for i, (lane, soiled) in enumerate(open_members)
        ]

    def _plaque(self, mark: Mark) -> Plaque:
        step = self.steps[mark.step].id
        text = self.heats.get(step, "") if mark.what == "heat" else ""
        on_food = any(lane.id == mark.lane and lane.group != "kit" for lane in self.lanes)
        width = min(self.column + 2, 62.0) if text and on_food else 26.0
        height = min(32.0, self.pitch - 2)
        return Plaque(
            what=mark.what,
            x=round(self.x_of(mark.step) - width / 2, 1),
            y=round(self.y[mark.lane] - height / 2, 1),
            width=width,
            height=height,
            text=text if on_food else "",
            step=mark.step,
            say=wording.mark(self.flow, mark, self.titles.get(step, "")),
            dim=not (self._shows_lane(mark.lane) and (not mark.ended or self._shows_soil(*mark.ended))),
            later=self._later(mark.step),
        )

    def _path(self, hops: Sequence[Hop]) -> tuple[tuple[Leg, ...], tuple[Stop, ...]]:
        legs: list[Leg] = []
        stops: list[Stop] = []
        for number, (before, now) in enumerate(itertools.pairwise(hops), start=1):
            x, y = self.x_of(max(now.step, 0)), self.y[now.lane]
            legs += self._legs(before, x, y)
            # A food and what it becomes at the same step are one place: the first number stands.
            if not (stops and (stops[-1].x, stops[-1].y) == (x, y)):
                stops.append(Stop(number=number, x=x, y=y, step=now.step))
        if hops:
            end, y = hops[-1], self.y[hops[-1].lane]
            legs.append(Leg(x1=self.x_of(end.step) if end.step >= 0 else 4.0, y1=y, x2=round(self.width - 14, 1), y2=y))
            served = self.flow.served.get(end.carrier)
            if served is not None and served != end.step:
                stops.append(Stop(number=len(hops), x=self.x_of(served), y=y, step=served))
        return tuple(legs), tuple(stops)

    def _legs(self, before: Hop, x: float, y: float) -> list[Leg]:
        """Along the lane it was on, then across to the lane it reaches at ``(x, y)``."""
        y1 = self.y[before.lane]
        came = self.x_of(before.step) if before.step >= 0 else x
        along = [Leg(x1=came, y1=y1, x2=x, y2=y1)] if came != x else []
        return along + ([Leg(x1=x, y1=y1, x2=x, y2=y)] if y1 != y else [])

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
        return wall_bricks(wall, crossed)

"""The flow of a process: lanes, contacts, bands of soil and what ends them, ready to be drawn.

Facts only, no geometry and no words. A lane is one carrier, or one food with what it turns into;
foods and tools that nothing rides on are folded into the steps that use them.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from foodsafety.contamination.analysis import Analysis, analyse
from foodsafety.contamination.findings import Finding
from foodsafety.contamination.house_rules import now_gloved
from foodsafety.contamination.transfer import (
    DRY_VERBS,
    Surfaces,
    do_step,
    drips,
    fates,
    heated_with,
    opening_surfaces,
    soil_names,
    splashed,
    step_members,
    washed_by,
)
from foodsafety.foods import is_raw
from foodsafety.recipes import Process, Step
from foodsafety.rules import House

# Lanes that can be told apart on a screen; beyond it, clean kit is folded and twins are joined.
MOST_LANES = 12

LaneGroup = Literal["raw", "kit", "ready"]
Ending = Literal["wash", "heat", "rinse", "", "gone"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Lane:
    """One line of the drawing. ``names`` are the carriers on it, in the order they appear: a food
    and what it is made into, or things that go through the very same steps. It is drawn from step
    ``first`` to step ``last`` (indices); ``made`` says at which step each made name begins."""

    id: str
    group: LaneGroup
    names: tuple[str, ...]
    first: int
    last: int
    made: Mapping[str, int]
    alike: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Contact:
    """What touches at a step: lane and the soils on it while it is done."""

    step: int
    members: tuple[tuple[str, tuple[str, ...]], ...]
    folded: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Band:
    """A soil on a lane from step ``start`` (-1: from the beginning) to step ``end``, where
    ``ending`` says what ended it ("": still there at the end; "gone": gone into another lane)."""

    lane: str
    soil: str
    start: int
    end: int
    ending: Ending


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    """A wash, a rinse or a heat on a lane at a step, whether it ended anything or not."""

    lane: str
    step: int
    what: Literal["wash", "heat", "rinse"]
    ended: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Hop:
    """One hop of a finding's path: the soil comes to ``carrier`` on ``lane`` at step ``step``."""

    lane: str
    carrier: str
    step: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Flow:
    """Everything the drawing shows."""

    process: Process
    lanes: tuple[Lane, ...]
    contacts: tuple[Contact, ...]
    bands: tuple[Band, ...]
    marks: tuple[Mark, ...]
    analysis: Analysis
    served: Mapping[str, int]

    def lane_of(self, carrier: str) -> str | None:
        """The lane a carrier is on, if it is not folded."""
        return next((lane.id for lane in self.lanes if carrier in lane.names), None)

    def hops(self, finding: Finding) -> tuple[Hop, ...]:
        """The path of a finding through the lanes; what is folded is left out."""
        where = self.process.step_index
        at = finding.at or ("", *(finding.step for _ in finding.path[1:]))
        rows = []
        for carrier, step in zip(finding.path, at, strict=False):
            lane = self.lane_of(carrier)
            if lane is not None:
                rows.append(Hop(lane=lane, carrier=carrier, step=where.get(step, -1)))
        return tuple(rows)


@dataclass(frozen=True, slots=True)
class _Moment:
    """A step as it was done: soils before, while everything touched, and after."""

    before: Surfaces
    during: Surfaces
    after: Surfaces
    touched: tuple[str, ...]


def _moments(process: Process, house: House) -> list[_Moment]:
    surfaces: Surfaces = opening_surfaces(process, people=process.people, unwashed=house.arrive == "unwashed")
    gloved: frozenset[str] = frozenset()
    rows = []
    for step in process.steps:
        after, _ = do_step(surfaces, process, step, gloved)
        dry = step.do in DRY_VERBS
        during = after if dry else _while_touching(process, step, surfaces)
        touched = (*step.hands, *step.tools) if dry else _all_reached(process, step, surfaces)
        rows.append(_Moment(surfaces, during, after, tuple(dict.fromkeys(touched))))
        surfaces = after
        gloved = now_gloved(gloved, step)
    return rows


def _while_touching(process: Process, step: Step, surfaces: Surfaces) -> Surfaces:
    """The soils while everything touches, before a wash or a heat ends any."""
    plain = Step(id=step.id, do="part_cook", foods=step.foods, tools=step.tools, hands=step.hands)
    return do_step(surfaces, process, plain)[0]


def _all_reached(process: Process, step: Step, surfaces: Surfaces) -> tuple[str, ...]:
    """What touches at a step, what it was lifted from, and what gets splashed or dripped on."""
    splash = splashed(process, step, soil_names(surfaces, step.foods)) if step.do == "rinse" else ()
    shelves = (shelf for _, shelf in process.shelves_left.get(step.id, ()))
    lower = (name for _, names in drips(process, step) for name in names)
    return (*step_members(process, step), *shelves, *splash, *lower)


def _food_lanes(process: Process) -> dict[str, str]:
    """For each food, the food whose lane it is on: a made food goes on where its main part ran,
    the raw one if there is one, else one that was itself made, else the first."""
    lane = {name: name for name in process.foods}
    taken: set[str] = set()
    for step in process.steps:
        made = step.makes
        if made is None or made in lane:
            continue
        parts = [name for name in step.foods if name in lane and lane[name] not in taken]
        raw = [
            n for n in parts if any(p in process.foods and process.foods[p].soils for p in process.ingredients_of(n))
        ]
        grown = [name for name in parts if name not in process.foods]
        main = next(iter((*raw, *grown, *parts)), None)
        lane[made] = lane[main] if main else made
    return lane


def _touches(process: Process, moments: Sequence[_Moment]) -> dict[str, tuple[int, ...]]:
    """For each carrier, the steps it is part of."""
    rows: dict[str, list[int]] = {}
    for i, (step, moment) in enumerate(zip(process.steps, moments, strict=True)):
        for name in dict.fromkeys((*moment.touched, *((step.makes,) if step.makes else ()))):
            rows.setdefault(name, []).append(i)
    return {name: tuple(steps) for name, steps in rows.items()}


def _worth_a_lane(
    process: Process, moments: Sequence[_Moment], touches: Mapping[str, tuple[int, ...]], analysis: Analysis
) -> frozenset[str]:
    """Carriers that are drawn: those that a soil rides on from one step to another, that a finding
    names, or that are served. Clean things that tie steps together come if there is room."""
    named = {name for finding in analysis.findings for name in finding.path}
    served = set(process.serve) | {name for step in process.steps if step.do == "serve" for name in step.foods}
    soiled = {name for name, steps in touches.items() if any(moments[i].before.get(name) for i in steps)}
    left = {
        name
        for name, steps in touches.items()
        if name not in process.food_ids
        and any(moments[i].after.get(name) or moments[i].during.get(name) for i in steps)
    }
    ahead = fates(process)
    eaten = {
        name
        for step, fate in zip(process.steps, ahead, strict=True)
        if any(fate.raw.get(food) for food in step.foods)
        for name in (*step.tools, *step.hands, *step.foods)
        if len(touches.get(name, ())) > 1
    }
    drawn = (named | served | soiled | left) & touches.keys()
    return frozenset(drawn | eaten if len(drawn | eaten) <= MOST_LANES else drawn)


def _group(process: Process, lane: str, names: Sequence[str]) -> LaneGroup:
    if lane not in process.food_ids:
        return "kit"
    known = process.foods.get(lane)
    if known and any(is_raw(name) or name == "unknown" for name in known.soils):
        return "raw"
    first = next((i for i, step in enumerate(process.steps) if set(names) & {*step.foods, step.makes}), 0)
    ahead = fates(process)[first].raw
    return "ready" if any(ahead.get(name) for name in names) else "raw"


def _lanes(
    process: Process, moments: Sequence[_Moment], touches: Mapping[str, tuple[int, ...]], worth: frozenset[str]
) -> list[Lane]:
    food_lane = _food_lanes(process)
    members: dict[str, list[str]] = {}
    for name in (*food_lane, *process.people, *process.tools):
        members.setdefault(food_lane.get(name, name), []).append(name)
    made = {step.makes: i for i, step in reversed([*enumerate(process.steps)]) if step.makes}
    lanes = []
    for lane, names in members.items():
        here = sorted(i for name in names for i in touches.get(name, ()))
        if here and not worth.isdisjoint(names):
            lanes.append(_lane(process, lane, names, here, made))
    order: dict[LaneGroup, int] = {"raw": 0, "kit": 1, "ready": 2}
    lanes.sort(key=lambda row: (order[row.group], _rank(process, moments, row)))
    return _joined(process, lanes, touches, moments) if len(lanes) > MOST_LANES else lanes


def _lane(process: Process, lane: str, names: Sequence[str], here: Sequence[int], made: Mapping[str, int]) -> Lane:
    """One lane over the steps ``here`` it is part of: kit is there throughout, and what is served to the end."""
    kit = lane not in process.food_ids
    return Lane(
        id=lane,
        group=_group(process, lane, names),
        names=tuple(names),
        first=-1 if kit or lane in process.foods else here[0],
        last=len(process.steps) if kit or set(names) & set(process.serve) else here[-1],
        made={name: made[name] for name in names if name in made},
    )


def _joined(
    process: Process, lanes: Sequence[Lane], touches: Mapping[str, tuple[int, ...]], moments: Sequence[_Moment]
) -> list[Lane]:
    """Lanes that go through the very same steps with the very same soils, as one."""
    kept: dict[tuple[object, ...], Lane] = {}
    for lane in lanes:
        single = len(lane.names) == 1 and lane.id not in process.people
        steps = touches.get(lane.id, ()) if single else ()
        soils = tuple(tuple(sorted(moments[i].during.get(lane.id, ()))) for i in steps)
        key = (lane.group, steps, soils) if single else (lane.id,)
        known = kept.get(key)
        kept[key] = replace(known, names=(*known.names, *lane.names), alike=True) if known else lane
    return list(kept.values())


def _rank(process: Process, moments: Sequence[_Moment], lane: Lane) -> tuple[int, int]:
    """Hands in the middle of the kit, between what touches raw food and what is eaten."""
    first = next((i for i, m in enumerate(moments) if set(lane.names) & set(m.touched)), len(moments))
    if lane.group != "kit":
        return (0, first)
    heats = any(step.do == "heat" and lane.id in step.tools for step in process.steps)
    return (0 if heats else 1 if lane.id in process.people else 2, first)


def _held(held: Surfaces, names: Iterable[str]) -> frozenset[str]:
    return frozenset(soil for name in names for soil in held.get(name, ()))


def _current(process: Process, lane: Lane, touches: Mapping[str, tuple[int, ...]], i: int) -> tuple[str, ...]:
    """The names of a lane that stand for it after step i: not yet gone into the next one on it,
    nor into another lane for good."""
    if lane.alike or lane.group == "kit":
        return lane.names if i <= lane.last else ()
    found = []
    for name in lane.names:
        steps = touches.get(name, ())
        begun = lane.made.get(name, -1) <= i
        spent = bool(steps) and steps[-1] <= i and _goes_into(process, steps[-1], name) is not None
        if begun and not spent:
            found.append(name)
    return tuple(found)


def _goes_into(process: Process, i: int, name: str) -> str | None:
    """What a food becomes part of at a step."""
    step = process.steps[i]
    return step.makes if name in step.foods and step.makes and step.makes not in step.foods else None


def _bands(
    process: Process, lane: Lane, moments: Sequence[_Moment], touches: Mapping[str, tuple[int, ...]]
) -> tuple[list[Band], list[Mark]]:
    bands: list[Band] = []
    marks: list[Mark] = []
    since = dict.fromkeys(sorted(_held(moments[0].before, lane.names)) if moments else (), -1)
    gloved: frozenset[str] = frozenset()
    for i, (step, moment) in enumerate(zip(process.steps, moments, strict=True)):
        what = _mark(process, step, lane, gloved)
        gloved = now_gloved(gloved, step)
        names = _current(process, lane, touches, i)
        # Kit only shows heat that ends what it brought; food shows all the heat it gets.
        held = moment.before if step.do in DRY_VERBS or lane.group == "kit" else moment.during
        met = _held(held, lane.names) if i in _steps_of(lane, touches) else frozenset(since)
        after = _held(moment.after, names)
        if what and (lane.group != "kit" or what == "wash" or met - after):
            marks.append(Mark(lane=lane.id, step=i, what=what, ended=tuple(sorted(met - after))))
        for name in sorted(since.keys() - after):
            bands.append(Band(lane=lane.id, soil=name, start=since.pop(name), end=i, ending=what or "gone"))
        for name in sorted(after - since.keys()):
            since[name] = i
    bands.extend(
        Band(lane=lane.id, soil=name, start=start, end=min(lane.last, len(moments)), ending="")
        for name, start in since.items()
    )
    return bands, marks


def _steps_of(lane: Lane, touches: Mapping[str, tuple[int, ...]]) -> frozenset[int]:
    return frozenset(i for name in lane.names for i in touches.get(name, ()))


def _mark(process: Process, step: Step, lane: Lane, gloved: frozenset[str]) -> Literal["wash", "heat", "rinse"] | None:
    if set(lane.names) & set(washed_by(process, step, gloved)):
        return "wash"
    if lane.group == "kit":
        return "heat" if step.do == "heat" and set(lane.names) & set(heated_with(process, step)) else None
    if not set(lane.names) & {*step.foods, step.makes}:
        return None
    return step.do if step.do in ("heat", "rinse") else None  # type: ignore[return-value]  # the two verbs are marks


def flow_of(process: Process, house: House | None = None) -> Flow:
    """The flow of a process in the order of its steps."""
    house = house or House()
    moments = _moments(process, house)
    analysis = analyse(process, house)
    touches = _touches(process, moments)
    lanes = _lanes(process, moments, touches, _worth_a_lane(process, moments, touches, analysis))
    drawn = [_bands(process, lane, moments, touches) for lane in lanes]
    served = {name: i for i, step in enumerate(process.steps) if step.do == "serve" for name in step.foods}
    return Flow(
        process=process,
        lanes=tuple(lanes),
        contacts=tuple(_contact(process, i, moment, lanes) for i, moment in enumerate(moments)),
        bands=tuple(band for bands, _ in drawn for band in bands),
        marks=tuple(mark for _, marks in drawn for mark in marks),
        analysis=analysis,
        served=served | {name: len(process.steps) - 1 for name in process.serve if name not in served},
    )


def _contact(process: Process, i: int, moment: _Moment, lanes: Sequence[Lane]) -> Contact:
    """What touches at a step: the lanes with the soils they hold then, and what has no lane."""
    lane_of = {name: lane.id for lane in lanes for name in lane.names}
    makes = process.steps[i].makes
    touched = (*moment.touched, *((makes,) if makes else ()))
    held: dict[str, set[str]] = {}
    for name in touched:
        if name in lane_of:
            held.setdefault(lane_of[name], set()).update(moment.during.get(name, ()))
    members = tuple((lane.id, tuple(sorted(held[lane.id]))) for lane in lanes if lane.id in held)
    return Contact(step=i, members=members, folded=tuple(name for name in touched if name not in lane_of))

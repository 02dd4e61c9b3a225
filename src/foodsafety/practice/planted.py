"""Slips planted into the order of work: where does it go wrong, and which contact did it?"""

from __future__ import annotations

import random
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from foodsafety.contamination import (
    DRY_VERBS,
    Finding,
    Surfaces,
    do_step,
    find_contamination,
    opening_surfaces,
    rule_source,
)
from foodsafety.foods import raw_of_animals
from foodsafety.practice.puzzle import Choice, Material, Sketch, right_choice, wrong_choice
from foodsafety.recipes import WASHES, Process, Step, Tool
from foodsafety.rules import House

# A drawing has room for so many steps, by level.
MOST_STEPS = {1: 5, 2: 7, 3: 8}
# So many slips are planted into one order of work, by level, where the recipe has room for them.
MOST_SLIPS = {1: 1, 2: 2, 3: 3}
# So many slips are tried as the next one before a puzzle does with fewer.
_TRIED = 24
# What passes from one thing to another: of these a drawing has a path.
CONTACTS = (
    "ready-to-eat-meets-raw",
    "cooked-meets-raw",
    "unwashed-hands",
    "gloves-not-changed",
    "ready-to-eat-meets-unwashed",
    "allergen-contact",
)


@dataclass(frozen=True, slots=True)
class PlantedSlip:
    """A process with one thing wrong in it, or several: what was done to which step, and the harm. Where it is several
    (``also``: each on its own), the one that is named is the one that first does harm."""

    process: Process
    change: str
    step: str
    findings: tuple[Finding, ...]
    house: House
    also: tuple[PlantedSlip, ...] = ()

    def opening(self) -> Surfaces:
        """What rides on what before anything is done."""
        return opening_surfaces(self.process, people=self.process.people, unwashed=self.house.arrive == "unwashed")

    @property
    def first(self) -> Finding:
        """The first harm it does."""
        where = self.process.step_index
        return min(self.findings, key=lambda row: (where[row.step], row.soil, row.food))

    @property
    def steps_between(self) -> int:
        """How many steps after the soil has set out harm is first done."""
        where, found = self.process.step_index, self.first
        began = [where[name] for name in found.at if name in where]
        return where[found.step] - min(began, default=where[found.step])


@lru_cache(maxsize=64)
def slips_in(material: Material) -> tuple[PlantedSlip, ...]:
    """Every slip that can be planted into a recipe and harms somebody, in a settled order."""
    if material.safe is None:
        return ()
    house = material.plan.house
    rows = (
        PlantedSlip(process, change, step, find_contamination(process, house), house)
        for change, step, process in _changes(material.safe)
    )
    return tuple(row for row in rows if row.findings)


def _changes(process: Process) -> Iterator[tuple[str, str, Process]]:
    """The recipe with one thing changed, and what was: each as a real slip would change it."""
    mouth = Tool(id="mouth", kind="mouth")
    for step in process.steps:
        if step.do in WASHES:
            yield "not-washed", step.id, _without(process, step)
        if step.do == "gloves_on":
            yield "no-gloves", step.id, _without(process, step)
        if step.do == "clean":
            yield "only-wiped", step.id, _with(process, replace(step, do="wipe"))
        if step.do == "rinse":
            yield "not-rinsed", step.id, _without(process, step)
        if step.do == "heat" and step.makes is None:
            yield "not-heated", step.id, _without(process, step)
        if step.do == "mix" and step.makes is not None:
            taste = Step(id=f"{step.id} taste", do="touch", foods=(step.makes,), tools=("mouth",), hands=step.hands)
            yield "tasted", taste.id, _with(process, step, taste, tools={**process.tools, "mouth": mouth})
        for food in step.foods if step.do in ("cut", "mix", "coat", "touch") else ():
            if food in process.foods and raw_of_animals(process.foods[food].soils):
                rinse = Step(id=f"{step.id} rinse", do="rinse", foods=(food,), hands=step.hands)
                yield "raw-rinsed", rinse.id, _with(process, rinse, step, at=step)
    yield from _same_kit(process)
    yield from _later(process)


def _later(process: Process) -> Iterator[tuple[str, str, Process]]:
    """Work put off until after a step it should have come before: the salad after the chicken, on the same board."""
    for i, step in enumerate(process.steps):
        if step.do in DRY_VERBS or step.do in ("serve", "heat", "probe"):
            continue
        ahead = enumerate(process.steps)
        bound = next((j for j, row in ahead if step.id in row.after or _needs(row, step, later=j > i)), i + 1)
        for j in range(i + 1, bound):
            other = process.steps[j]
            if other.do not in DRY_VERBS and {*step.tools, *step.hands} & {*other.tools, *other.hands}:
                rows = [*process.steps[:i], *process.steps[i + 1 : j + 1], step, *process.steps[j + 1 :]]
                yield "put-off", step.id, replace(process, steps=tuple(rows))


def _needs(row: Step, step: Step, *, later: bool) -> bool:
    """True if a later step works on what a step makes or works on."""
    return later and bool({*step.foods, step.makes or ""} & {*row.foods})


def _same_kit(process: Process) -> Iterator[tuple[str, str, Process]]:
    """A tool of one kind used where another was meant: the tongs of the raw food, its board, its plate."""
    for step in process.steps:
        if step.do in DRY_VERBS:
            continue
        for tool in step.tools:
            for other in process.tools:
                if other != tool and process.tools[other].kind == process.tools[tool].kind and other not in step.tools:
                    tools = tuple(other if name == tool else name for name in step.tools)
                    yield "same-kit", step.id, _with(process, replace(step, tools=tools))


def _with(process: Process, *rows: Step, at: Step | None = None, tools: Mapping[str, Tool] | None = None) -> Process:
    """A process with one of its steps replaced by these: the first of them names it, or ``at``."""
    place = at.id if at is not None else rows[0].id
    steps = [row for step in process.steps for row in (rows if step.id == place else (step,))]
    return replace(process, steps=tuple(steps), tools=process.tools if tools is None else tools)


def _without(process: Process, step: Step) -> Process:
    after = [
        replace(row, after=tuple(dict.fromkeys(n for m in row.after for n in (step.after if m == step.id else (m,)))))
        for row in process.steps
        if row.id != step.id
    ]
    return replace(process, steps=tuple(after))


def planted_too(slip: PlantedSlip, other: PlantedSlip) -> PlantedSlip | None:
    """A second slip planted beside a first. None where it cannot be, where it would do harm before the first, or where
    it does none of its own."""
    made = [row for change, step, row in _changes(slip.process) if (change, step) == (other.change, other.step)]
    if len(made) != 1:
        return None
    both = replace(slip, process=made[0], findings=find_contamination(made[0], slip.house), also=(*slip.also, other))
    harmed = [row.first for row in (slip, *slip.also)]
    own = other.first.key not in {row.key for row in slip.findings} and other.first in both.findings
    later = other.first.step not in {row.step for row in harmed}
    return both if own and later and all(row in both.findings for row in harmed) and both.first == slip.first else None


def _with_others(slip: PlantedSlip, slips: Sequence[PlantedSlip], draw: random.Random, level: int) -> PlantedSlip:
    """With as many slips beside it as its level has, or as the recipe has room for."""
    where, keys = slip.process.step_index, {row.key for row in slip.findings}
    after = where[slip.first.step]
    late = [row for row in slips if row.first.key not in keys and where.get(row.first.step, -1) > after]
    for other in draw.sample(late, min(len(late), _TRIED)):
        if len(slip.also) + 1 >= MOST_SLIPS[level]:
            break
        slip = planted_too(slip, other) or slip
    return slip


# --- where does it go wrong? ------------------------------------------------------------------------------


def find_the_slip(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """The order of work with one to three slips in it, drawn with what it passes through: at which step is harm first
    done?"""
    slips = slips_in(material)
    if not slips:
        return None
    slip = _with_others(draw.choice(_as_far(_evenly(slips, draw), level)), slips, draw, level)
    found, where, shown = slip.first, slip.process.step_index, _shown(slip, level)
    also = sorted(slip.also, key=lambda row: where[row.first.step])
    later = [row.first for row in also]
    return Sketch(
        rule=found.rule,
        asks={"finding": _said(found), "slips": 1 + len(later), **_drawn(slip, shown)},
        right=right_choice(found.step, step=found.step),
        others=[
            *(wrong_choice(row.step, {"why": "later"}, step=row.step) for row in later),
            *(wrong_choice(step.id, _why_not(slip, step), step=step.id) for step in _harmless(slip, shown)),
        ],
        why={**_how(slip), "also": [{"finding": _said(row.first), **_how(row)} for row in also]},
        section=rule_source(found.rule, material.plan.profile.id),
        ordered=lambda row: where[row.id],
    )


def _harmless(slip: PlantedSlip, shown: Sequence[Step]) -> list[Step]:
    """The drawn steps at which no harm is done, the nearest first. What else comes of the slip is left out, and where
    something is passed on the serving too: they would be a second answer."""
    found, where = slip.first, slip.process.step_index
    harm = {row.step for row in slip.findings}
    rows = [step for step in shown if step.id not in harm and (found.rule not in CONTACTS or step.do != "serve")]
    return sorted(rows, key=lambda step: abs(where[step.id] - where[found.step]))


def _evenly(slips: Sequence[PlantedSlip], draw: random.Random) -> list[PlantedSlip]:
    """The slips of one rule, drawn so that rules with few slips come as often as those with many."""
    rule = draw.choice(sorted({row.first.rule for row in slips}))
    return [row for row in slips if row.first.rule == rule]


def _as_far(slips: list[PlantedSlip], level: int) -> list[PlantedSlip]:
    """Of these the nearer half where it is to be easy, the farther half where it is to be hard: by how many steps lie
    between where the soil sets out and where it does harm."""
    rows, half = sorted(slips, key=lambda row: row.steps_between), len(slips) // 2
    if level == 1:
        return [row for row in rows if row.steps_between <= rows[half].steps_between] if half else rows
    return rows[half:] if level == 3 else rows


def _said(found: Finding) -> dict[str, Any]:
    return {
        "rule": found.rule,
        "step": found.step,
        "soil": found.soil,
        "food": found.food,
        "path": list(found.path),
        "at": list(found.at),
    }


def _shown(slip: PlantedSlip, level: int) -> list[Step]:
    """The steps that a drawing has room for: those on the way first, then what else touches its lanes, then the steps
    nearest to them."""
    found, process = slip.first, slip.process
    lanes, where = set(found.path) | {found.food}, process.step_index
    # What was done to it stands in the drawing too: a wash that is missing has left no step.
    needed = {name for name in found.at if name} | {found.step} | ({slip.step} & set(where))
    needed |= {name for row in slip.also for name in (row.step, row.first.step) if name in where}
    until = where[found.step]

    def late(step: Step) -> tuple[bool, bool, bool, int]:
        touches = bool(lanes & {*step.foods, *step.tools, *step.hands, step.makes or ""})
        return step.id not in needed, not touches, where[step.id] > until, abs(until - where[step.id])

    steps = sorted(process.steps, key=late)[: max(MOST_STEPS[level], len(needed))]
    return sorted(steps, key=lambda step: where[step.id])


def _drawn(slip: PlantedSlip, shown: Sequence[Step]) -> dict[str, Any]:
    """The lanes of the drawing and, for each step, what of them it touches and what carries the soil after it."""
    found, process = slip.first, slip.process
    lanes = [name for name in dict.fromkeys((*found.path, found.food)) if name]
    rows, wanted = [], {step.id for step in shown}
    surfaces = slip.opening()
    start = [name for name in lanes if found.soil in surfaces.get(name, ())]
    for step in process.steps:
        surfaces, _ = do_step(surfaces, process, step)
        if step.id not in wanted:
            continue
        carries = [name for name in lanes if found.soil in surfaces.get(name, ())]
        rows.append({**_row(step, lanes), "carries": carries})
    kinds = {name: "hands" if name in process.people else "tool" if name in process.tools else "food" for name in lanes}
    return {"lanes": lanes, "kinds": kinds, "start": start, "steps": rows}


def _row(step: Step, lanes: Sequence[str]) -> dict[str, Any]:
    """A step as plain data, with which of the lanes it touches."""
    members = {*step.foods, *step.tools, *step.hands, step.makes or ""}
    return {
        "id": step.id,
        "do": step.do,
        "foods": list(step.foods),
        "tools": list(step.tools),
        "hands": list(step.hands),
        "makes": step.makes or "",
        "touches": [name for name in lanes if name in members],
    }


def _why_not(slip: PlantedSlip, step: Step) -> dict[str, Any]:
    """Why it does not go wrong at a step."""
    where = slip.process.step_index
    if step.do in WASHES:
        return {"why": "wash"}
    if step.id in slip.first.at:
        return {"why": "on-the-way"}
    if where[step.id] > where[slip.first.step]:
        return {"why": "after"}
    return {"why": "no-harm"}


# --- which contact did it? --------------------------------------------------------------------------------


def unsafe_contact(material: Material, draw: random.Random, level: int) -> Sketch | None:
    """The step is told: which of what touches the food passed it on?"""
    passers = {id(row): by for row in slips_in(material) if (by := _passer(row)) is not None}
    slips = [row for row in slips_in(material) if id(row) in passers]
    if not slips:
        return None
    slip = draw.choice(_as_far(_evenly(slips, draw), level))
    found, by = slip.first, passers[id(slip)]
    return Sketch(
        rule=found.rule,
        asks={"finding": _said(found), **_drawn(slip, _shown(slip, level))},
        right=right_choice(by, carrier=by, kind=_kind(slip.process, by)),
        others=list(_innocent(slip, by, draw)),
        why=_how(slip),
        section=rule_source(found.rule, material.plan.profile.id),
    )


def _innocent(slip: PlantedSlip, by: str, draw: random.Random) -> Iterator[Choice]:
    """What did not pass it on: what is clean at that step, what it was on before, what is not there at all."""
    found, process = slip.first, slip.process
    step = process.steps[process.step_index[found.step]]
    here = [name for name in (*step.tools, *step.hands, *step.foods) if name not in (by, found.food)]
    elsewhere = [name for name in found.path[:-1] if name not in (by, *here, found.food)]
    used = {name for row in process.steps for name in (*row.tools, *row.hands)}
    unused = sorted(used - {by, found.food, *here, *elsewhere})
    draw.shuffle(unused)
    for why, names in (("clean-there", here), ("earlier", elsewhere), ("not-there", unused)):
        for name in names:
            yield wrong_choice(name, {"why": why}, carrier=name, kind=_kind(process, name))


def _how(slip: PlantedSlip) -> dict[str, Any]:
    """What was done to the recipe, and the way the soil took."""
    return {"change": slip.change, "step": slip.step, "path": list(slip.first.path), "at": list(slip.first.at)}


def _kind(process: Process, name: str) -> str:
    return "hands" if name in process.people else process.tools[name].kind if name in process.tools else "food"


def _passer(slip: PlantedSlip) -> str | None:
    """The one thing that had the soil on it when the step began; None where it is several, or none of what is there."""
    found, process = slip.first, slip.process
    if found.rule not in CONTACTS:
        return None
    surfaces = slip.opening()
    for step in process.steps:
        if step.id == found.step:
            had = [n for n in (*step.tools, *step.hands, *step.foods) if found.soil in surfaces.get(n, ())]
            return had[0] if len(had) == 1 else None
        surfaces, _ = do_step(surfaces, process, step)
    return None

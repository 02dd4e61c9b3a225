"""A recipe cooked at several benches as one problem: who washes when, which step waits for which, what is shared."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from typing import Any, Literal

from foodsafety.data import data_text
from foodsafety.foods import is_raw
from foodsafety.planning.problem import Bench, Problem, Task, Wait, Within
from foodsafety.recipes import Process, Step

PartKind = Literal["show", "ready", "wash", "step", "wait", "wash_up"]
HEATS = ("heat", "part_cook")


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """A brick of the plan: one step at one bench (``step``), or what the lesson has around it."""

    id: str
    kind: PartKind
    bench: str | None
    step: str | None = None
    # Nobody gave its time: it is a typical one.
    typical: bool = False
    # Hands are on raw food.
    raw: bool = False


@dataclass(frozen=True, kw_only=True)
class WholeLesson:
    """The problem, what each of its tasks is, and what was taken for granted: shared things nobody counted
    (``uncounted``, with how many were taken) and benches without learners (``nobody``)."""

    problem: Problem
    parts: Mapping[str, Part]
    uncounted: Mapping[str, int] = field(default_factory=dict)
    nobody: tuple[str, ...] = ()


def step_task(number: int, step: str) -> str:
    """The task of a step at a bench, by the bench's place among all (1 for the first)."""
    return f"{number}.{step}"


@cache
def _figures() -> Mapping[str, Any]:
    return tomllib.loads(data_text("planning.toml"))


@cache
def _shared_kinds() -> Mapping[str, str]:
    return {kind: name for name, kinds in _figures()["shared"].items() for kind in kinds}


def shared_things() -> tuple[str, ...]:
    """What benches share and a kitchen counts, by its kind."""
    return tuple(_figures()["uncounted"])


def whole_lesson(
    process: Process,
    benches: Mapping[str, Sequence[str]],
    counts: Mapping[str, int],
    *,
    lesson_s: int,
    show_s: int = 0,
    ready_made: frozenset[str] = frozenset(),
    as_written: bool = False,
) -> WholeLesson:
    """The problem of a recipe that every bench cooks. ``benches``: the learners of each, by initials. ``counts``: how
    many there are of what is shared; what is not in it nobody has counted. ``show_s``: a demonstration before anything
    else, at which all look. ``ready_made``: steps whose waiting is left out, since one was made before. What
    a step waits for, so that no plan makes a path for soil that the written order does not have, is in ``befores``."""
    parts: dict[str, Part] = {}
    tasks: dict[str, Task] = {}
    within: list[Within] = []

    def add(part: Part, task: Task) -> None:
        parts[part.id], tasks[task.id] = part, task

    if show_s:
        add(Part(id="show", kind="show", bench=None), Task(id="show", bench=None, s=show_s))
    before, raw = befores(process, as_written=as_written), raw_handed(process)
    for number, (bench, names) in enumerate(benches.items(), start=1):
        people = len(names) or _figures()["assumed"]["people"]
        for part, task, follows in _of_bench(
            process, before, raw, number, bench, people, shown=bool(show_s), ready_made=ready_made
        ):
            add(part, task)
            if follows:
                within.append(Within(first=follows, then=task.id, s=0))
    used = {name for task in tasks.values() for name in task.needs}
    missing = used - set(counts)
    uncounted = {name: number for name, number in _figures()["uncounted"].items() if name in missing}
    problem = Problem(
        lesson_s=lesson_s,
        benches={
            bench: Bench(id=bench, people=len(names) or _figures()["assumed"]["people"], names=tuple(names))
            for bench, names in benches.items()
        },
        tasks=tasks,
        within=tuple(within),
        waits=tuple(_waits_of(process, raw, len(benches), tasks)),
        resources={name: counts.get(name, uncounted.get(name, 0)) for name in sorted(used)},
    )
    nobody = tuple(bench for bench, names in benches.items() if not names)
    return WholeLesson(problem=problem, parts=parts, uncounted=uncounted, nobody=nobody)


def _of_bench(
    process: Process,
    before: Mapping[str, tuple[str, ...]],
    raw: frozenset[str],
    number: int,
    bench: str,
    people: int,
    *,
    shown: bool,
    ready_made: frozenset[str],
) -> Iterator[tuple[Part, Task, str]]:
    """The bricks of one bench, each with what it must follow at once, if anything."""
    frame = _figures()["frame"]
    ready = f"{number}:ready"
    yield (
        Part(id=ready, kind="ready", bench=bench),
        Task(id=ready, bench=bench, s=frame["ready"], people=people, after=("show",) if shown else ()),
        "",
    )
    washes = tuple(f"{number}:wash {n + 1}" for n in range(people))
    for name in washes:
        wash = Task(id=name, bench=bench, s=frame["wash"], needs={"basin": 1}, after=(ready,))
        yield Part(id=name, kind="wash", bench=bench), wash, ""
    last: dict[str, str] = {}
    for step in process.steps:
        name = step_task(number, step.id)
        after = (*washes, *(last[other] for other in before[step.id]))
        typical = not step.planned_s
        whole_s = step.planned_s or _figures()["typical_s"].get(step.do, _figures()["typical_s"]["other"])
        wait_s = min(step.waiting_s, whole_s) if step.planned_s else (whole_s if step.do in _WAITING else 0.0)
        active_s, held = _up(whole_s - wait_s), _held(process, step)
        if step.id in ready_made:
            wait_s = 0.0
        last[step.id] = name
        if active_s or not wait_s:
            at_it = people if step.do == "serve" else 1
            task = Task(id=name, bench=bench, s=active_s, people=at_it, needs=held, after=after)
            kind: PartKind = "wash" if step.do == "wash_hands" else "step"
            part = Part(id=name, kind=kind, bench=bench, step=step.id, typical=typical, raw=step.id in raw)
            yield part, task, ""
        if wait_s:
            waits = f"{name} waits" if active_s else name
            task = Task(
                id=waits,
                bench=bench,
                s=_up(wait_s),
                people=0,
                passive=True,
                needs=held if step.do in HEATS else {},
                after=(name,) if active_s else after,
            )
            part = Part(id=waits, kind="wait", bench=bench, step=step.id, typical=typical)
            yield part, task, name if active_s else ""
            last[step.id] = waits
    up = f"{number}:wash up"
    task = Task(id=up, bench=bench, s=frame["wash_up"], people=people, needs={"sink": 1}, after=tuple(last.values()))
    yield Part(id=up, kind="wash_up", bench=bench), task, ""


_WAITING = ("rest", "chill", "freeze", "marinate")


def _up(seconds: float) -> int:
    """Whole half minutes, never fewer."""
    return int(-(-seconds // 30)) * 30


def _held(process: Process, step: Step) -> dict[str, int]:
    """What a step holds of what benches share."""
    kinds = [process.tools[name].kind for name in step.tools if name in process.tools]
    if step.do in HEATS:
        shared = (_shared_kinds().get(kind) for kind in kinds)
        found = {name for name in shared if name and name not in ("blender", "probe")}
        # What stands in the oven, on the grill or in the microwave takes no ring.
        return dict.fromkeys(sorted(found - {"hob_ring"} if len(found) > 1 else found), 1)
    if step.do == "wash_hands":
        return {"basin": 1}
    if step.do in ("clean", "rinse"):
        return {"sink": 1}
    if step.do == "probe":
        return {"probe": 1}
    return {"blender": 1} if any(_shared_kinds().get(kind) == "blender" for kind in kinds) else {}


def _waits_of(process: Process, raw: frozenset[str], benches: int, tasks: Mapping[str, Task]) -> Iterator[Wait]:
    """Where food waits at a bench: hot food from its last cook to the serving, and raw food from the first hand
    on it to the heat that ends it."""
    serving = next((step.id for step in reversed(process.steps) if step.do == "serve"), None)
    weights = _figures()["waits"]
    cooks = [step for step in process.steps if step.do == "heat"]
    for number in range(1, benches + 1):
        if serving:
            for name in _eaten_hot(process):
                last = step_task(number, name)
                last = f"{last} waits" if f"{last} waits" in tasks else last
                yield Wait(first=last, then=step_task(number, serving), weight=weights["hot"])
        for cook in cooks:
            parts = _parts(process, cook)
            first = next((step for step in process.steps if step.id in raw and _parts(process, step) & parts), None)
            if first and process.step_index[first.id] < process.step_index[cook.id]:
                yield Wait(
                    first=step_task(number, first.id),
                    then=step_task(number, cook.id),
                    weight=weights["raw"],
                )


def _eaten_hot(process: Process) -> list[str]:
    """Every cook after which its food is neither cooked again nor chilled: it waits hot until it is eaten."""
    found: dict[str, set[str]] = {}
    for step in process.steps:
        if step.do in ("heat", "chill", "freeze"):
            parts = _parts(process, step)
            found = {name: left for name, held in found.items() if (left := held - parts)}
            if step.do == "heat":
                found[step.id] = parts
    return list(found)


def _parts(process: Process, step: Step) -> set[str]:
    return {part for name in step.foods for part in process.ingredients_of(name)}


def befores(process: Process, *, as_written: bool = False) -> dict[str, tuple[str, ...]]:
    """For each step the steps it waits for: those it says, and of those written before it

    - all that share a food or a tool with it,
    - every wash of hands, where hands do it, and of the washes every step with hands on raw food,
    - where hands do both, all if one of the two is on raw food and the other is not: whoever does the one may do the
      other, and nobody says that they wash in between,
    - everything, where it is the serving.

    ``as_written``: all that hands do stays in its order, whatever it is."""
    found: dict[str, tuple[str, ...]] = {}
    seen: list[_Seen] = []
    raw = raw_handed(process)
    for step in process.steps:
        this = _Seen(
            step=step,
            foods={*step.foods, *([step.makes] if step.makes else [])},
            tools={name for name in step.tools if _shared_kinds().get(process.tools[name].kind) != "oven"},
            raw=step.id in raw,
        )
        found[step.id] = tuple(other.step.id for other in seen if _waits(this, other, as_written=as_written))
        seen.append(this)
    return found


def raw_handed(process: Process) -> frozenset[str]:
    """The steps at which hands are on food that is raw, or was and has not been cooked to the end."""
    found: set[str] = set()
    cooked: set[str] = set()
    for step in process.steps:
        parts = _parts(process, step)
        soils = {soil for name in parts - cooked if name in process.foods for soil in process.foods[name].soils}
        if step.hands and any(is_raw(soil) for soil in soils):
            found.add(step.id)
        if step.do == "heat":
            cooked |= parts
    return frozenset(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Seen:
    """A step with what it has its hands on."""

    step: Step
    foods: set[str]
    tools: set[str]
    raw: bool


def _waits(this: _Seen, other: _Seen, *, as_written: bool) -> bool:
    """True if a step must not begin before one written before it has ended."""
    step, first = this.step, other.step
    if first.id in step.after or step.do == "serve" or other.foods & this.foods or other.tools & this.tools:
        return True
    if not (step.hands and first.hands):
        return False
    washes = "wash_hands" in (step.do, first.do)
    return as_written or (first.do == "wash_hands") or (washes and other.raw) or (not washes and other.raw != this.raw)

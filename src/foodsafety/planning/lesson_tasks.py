"""A recipe cooked at several benches as one problem: who washes when, which step waits for which, what is shared."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Literal

from foodsafety.planning.figures import figures
from foodsafety.planning.problem import Bench, Problem, Task, Wait, Within
from foodsafety.planning.skills import HEATS, asked_of, skill_names
from foodsafety.planning.step_order import befores, parts_of, raw_handed, shared_kinds, with_what_comes_first
from foodsafety.recipes import Process, Step

PartKind = Literal["review", "show", "ready", "wash", "hands", "kit", "step", "wait", "wash_kit", "eat", "wash_up"]
ADULT = "adult"
EAT = "eat"


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
    # Nobody at the bench may do it: it is an adult's.
    adult: bool = False
    # A wash that the recipe leaves out: the step that it belongs to.
    beside: str = ""


@dataclass(frozen=True, kw_only=True)
class WholeLesson:
    """The problem, what each of its tasks is, and what was taken for granted: shared things nobody counted
    (``uncounted``, with how many were taken), benches without learners (``nobody``), and skills that steps ask and of
    which nobody has said who has been shown them (``unsaid``)."""

    problem: Problem
    parts: Mapping[str, Part]
    uncounted: Mapping[str, int] = field(default_factory=dict)
    nobody: tuple[str, ...] = ()
    unsaid: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True, kw_only=True)
class LeftOut:
    """A wash that the rules ask for and the recipe leaves out: before ``step``, or after it, of ``hands`` or of kit."""

    step: str
    after: bool
    hands: bool


# Who may use which skills, by bench and name.
May = Mapping[tuple[str, str], frozenset[str]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Bound:
    """A step begins at most ``s`` [s] after another has ended, or has begun (``since_begin``): by which rule, and where
    the profile states it."""

    rule: str
    section: str
    first: str
    then: str
    s: int
    since_begin: bool = False


@dataclass(frozen=True, kw_only=True)
class Wish:
    """What somebody has decided. ``ready_made``: steps whose waiting is left out, since one was made before.
    ``ahead``: steps done before the lesson. ``more``: how many more there are of what is shared. ``adults``: how many
    adults more stand at a bench. ``doers``: who does a task. ``takes``: how long a step takes [s], where that is less
    than the recipe says: its waiting, or all of it where somebody stands by."""

    ready_made: frozenset[str] = frozenset()
    ahead: frozenset[str] = frozenset()
    more: Mapping[str, int] = field(default_factory=dict)
    adults: Mapping[str, int] = field(default_factory=dict)
    doers: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    takes: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Around:
    """What all do at once, how long [s]: questions before anything else, a demonstration at which all look, eating what
    was served. Nothing of it where it takes no time."""

    review_s: int = 0
    show_s: int = 0
    eat_s: int = 0


def step_task(number: int, step: str) -> str:
    """The task of a step at a bench, by the bench's place among all (1 for the first)."""
    return f"{number}.{step}"


def shared_things() -> tuple[str, ...]:
    """What benches share and a kitchen counts, by its kind."""
    return tuple(figures()["uncounted"])


def whole_lesson(
    process: Process,
    benches: Mapping[str, Sequence[str]],
    counts: Mapping[str, int],
    *,
    lesson_s: int,
    around: Around | None = None,
    wish: Wish | None = None,
    may: May | None = None,
    bounds: Sequence[Bound] = (),
    ovens: Sequence[int] = (),
    cooks: Mapping[str, Process] | None = None,
    left_out: Mapping[str, Sequence[LeftOut]] | None = None,
    as_written: bool = False,
) -> WholeLesson:
    """The problem of a recipe that every bench cooks. ``benches``: the learners of each, by initials. ``counts``: how
    many there are of what is shared; what is not in it nobody has counted. ``around``: what all do
    at once before and after. ``may``: who may use which skills; who is not in it has been shown nothing, and where
    nobody is, nothing is asked. ``bounds``: what the rules ask of the times between two steps, at every bench.
    ``ovens``: shelves of each oven, where they are known: one temperature at a time in each. ``cooks``: what a
    bench cooks, where it is not all of the recipe. ``left_out``: the washes that each bench is asked for and its recipe
    does not have; they take time like any other. What a step waits for, so
    that no plan makes a path for soil that the written order does not have, is in ``befores``."""
    wish = wish or Wish()
    wish = replace(wish, ahead=with_what_comes_first(process, wish.ahead))
    parts: dict[str, Part] = {}
    tasks: dict[str, Task] = {}
    within: list[Within] = []
    names = {
        bench: (*who, *(f"{ADULT} {n + 1}" for n in range(wish.adults.get(bench, 0)))) for bench, who in benches.items()
    }
    people = {bench: len(who) or figures()["assumed"]["people"] for bench, who in names.items()}
    around = around or Around()
    first = _all_at_once(around, parts, tasks)
    eat_s = _eating_s(process, around)
    orders = _orders(process, benches, cooks or {}, eat_s, as_written=as_written)
    for number, bench in enumerate(benches, start=1):
        order = replace(orders[bench], left_out=tuple((left_out or {}).get(bench, ())))
        for part, task, follows in _of_bench(order, number, bench, names[bench], people[bench], first=first, wish=wish):
            done = _done_by(part, task, order.process, names[bench], wish, may)
            parts[part.id], tasks[task.id] = replace(part, adult=ADULT in done.needs), done
            if follows:
                within.append(Within(first=follows, then=task.id, s=0))
    if eat_s:
        served = tuple(step_task(n, _serving(orders[bench].process)) for n, bench in enumerate(benches, start=1))
        served = tuple(name for name in served if name in tasks)
        parts[EAT] = Part(id=EAT, kind="eat", bench=None)
        tasks[EAT] = Task(id=EAT, bench=None, s=eat_s, after=served, everybody=True)
    used = {name for task in tasks.values() for name in task.needs}
    there = {ADULT: figures()["assumed"]["adults"], **counts}
    if ovens:
        there |= {"oven": sum(ovens)}
        ovens = (*ovens, *[1] * wish.more.get("oven", 0))
    uncounted = {name: number for name, number in figures()["uncounted"].items() if name in used - set(there)}
    problem = Problem(
        lesson_s=lesson_s,
        benches={bench: Bench(id=bench, people=people[bench], names=who) for bench, who in names.items()},
        tasks=tasks,
        within=(*within, *(row for row, _, _ in bounds_in(bounds, len(benches), tasks))),
        waits=tuple(row for n, bench in enumerate(benches, start=1) for row in _waits_of(orders[bench], n, tasks)),
        resources={name: {**uncounted, **there}[name] + wish.more.get(name, 0) for name in sorted(used)},
        ovens=tuple(ovens),
        oven_change_s=figures()["oven"]["change_s"],
    )
    asked = frozenset(skill for step in process.steps for skill in asked_of(process, step))
    return WholeLesson(
        problem=problem,
        parts=parts,
        uncounted=uncounted,
        nobody=tuple(bench for bench, who in names.items() if not who),
        unsaid=asked if may is None else frozenset(),
    )


def _orders(
    process: Process, benches: Collection[str], cooks: Mapping[str, Process], eat_s: int, *, as_written: bool
) -> dict[str, _Order]:
    """What each bench cooks, and in which order it may."""
    known: dict[int, _Order] = {}
    for one in (process, *cooks.values()):
        if id(one) not in known:
            before, served = befores(one, as_written=as_written), bool(_serving(one))
            known[id(one)] = _Order(process=one, before=before, raw=raw_handed(one), eats=served and eat_s > 0)
    return {bench: known[id(cooks.get(bench, process))] for bench in benches}


def _all_at_once(around: Around, parts: dict[str, Part], tasks: dict[str, Task]) -> str:
    """Adds what all do before anything else; the last of it."""
    last = ""
    rows: tuple[tuple[PartKind, int], ...] = (("review", around.review_s), ("show", around.show_s))
    for kind, s in rows:
        if s:
            parts[kind] = Part(id=kind, kind=kind, bench=None)
            tasks[kind] = Task(id=kind, bench=None, s=s, after=(last,) if last else ())
            last = kind
    return last


def _serving(process: Process) -> str:
    """The step after which it is eaten."""
    return next((step.id for step in reversed(process.steps) if step.do == "serve"), "")


def _eating_s(process: Process, around: Around) -> int:
    """How long all eat together [s]: a serving that takes longer than food takes to be put on plates has the eating in
    it. 0 where nothing is served."""
    served = [step.planned_s for step in process.steps if step.do == "serve"]
    if not served or not around.eat_s:
        return 0
    return max(around.eat_s, _up(max(served) - figures()["typical_s"]["serve"]))


def bounds_in(bounds: Sequence[Bound], benches: int, tasks: Mapping[str, Task]) -> Iterator[tuple[Within, Bound, int]]:
    """What bounds mean for the tasks of each bench (1 for the first); what is done before the lesson has none. What
    must not wait for the serving must not wait for the eating."""
    served = tasks[EAT].after if EAT in tasks else ()
    for number in range(1, benches + 1):
        for bound in bounds:
            first, then = step_task(number, bound.first), step_task(number, bound.then)
            if first not in tasks or then not in tasks:
                continue
            then = EAT if then in served else then
            done = f"{first} waits" if f"{first} waits" in tasks else first
            if bound.since_begin:
                yield Within(first=first, then=then, s=bound.s - tasks[first].s), bound, number
            else:
                yield Within(first=done, then=then, s=bound.s), bound, number


def broken(
    bounds: Sequence[Bound], lesson: WholeLesson, starts: Mapping[str, int]
) -> tuple[tuple[Bound, int, int], ...]:
    """The bounds that a plan does not keep, each with the bench (1 for the first) and by how much [s]."""
    tasks, found = lesson.problem.tasks, []
    for row, bound, number in bounds_in(bounds, len(lesson.problem.benches), tasks):
        over_s = starts[row.then] - starts[row.first] - tasks[row.first].s - row.s
        if over_s > 0:
            found.append((bound, number, over_s))
    return tuple(found)


@dataclass(frozen=True, kw_only=True)
class _Order:
    """A recipe, what each step waits for, the steps at which hands are on raw food, and whether they eat together."""

    process: Process
    before: Mapping[str, tuple[str, ...]]
    raw: frozenset[str]
    # They eat together after the serving.
    eats: bool
    left_out: tuple[LeftOut, ...] = ()

    @cached_property
    def washes(self) -> dict[str, tuple[str, ...]]:
        """For each wash of hands the steps on raw food since the last one."""
        found, since = {}, list[str]()
        for step in self.process.steps:
            if step.do == "wash_hands":
                found[step.id], since = tuple(since), []
            elif step.id in self.raw:
                since.append(step.id)
        return found


def _done_by(part: Part, task: Task, process: Process, names: tuple[str, ...], wish: Wish, may: May | None) -> Task:
    """A task with who does it: of those who may, whoever was chosen; an adult's where nobody at the bench may."""
    if task.hands != 1 or not names:
        return task
    able = set(names)
    if may is not None and part.step is not None:
        asked = asked_of(process, process.steps[process.step_index[part.step]])
        able = {name for name in names if asked <= may.get((task.bench or "", name), _all_if_adult(name))}
    if not able:
        return replace(task, people=0, needs={**task.needs, ADULT: 1})
    chosen = able & set(wish.doers.get(task.id, ()))
    return task if not chosen and able == set(names) else replace(task, who=frozenset(chosen or able))


def _all_if_adult(name: str) -> frozenset[str]:
    return frozenset(skill_names()) if name.startswith(f"{ADULT} ") else frozenset()


def _of_bench(
    order: _Order, number: int, bench: str, names: tuple[str, ...], people: int, *, first: str, wish: Wish
) -> Iterator[tuple[Part, Task, str]]:
    """The bricks of one bench, each with what it must follow at once, if anything. ``first``: what all do before."""
    frame, last = figures()["frame"], dict[str, str]()
    ready = f"{number}:ready"
    yield (
        Part(id=ready, kind="ready", bench=bench),
        Task(id=ready, bench=bench, s=frame["ready"], people=people, after=(first,) if first else ()),
        "",
    )
    washes = tuple(f"{number}:wash {n + 1}" for n in range(people))
    for n, name in enumerate(washes):
        who = names[n] if n < len(names) else ""
        wash = Task(id=name, bench=bench, s=frame["wash"], needs={"basin": 1}, after=(ready,), named=who)
        yield Part(id=name, kind="wash", bench=bench), wash, ""
    serving, eaten, alone = _serving(order.process), tuple[str, ...](), set[str]()
    owed = tuple[str, ...]()  # washes after what was done last: what comes next waits for them
    since: dict[str, str] = {}  # the tasks with hands on raw food since hands were washed
    for step in order.process.steps:
        if step.id in wish.ahead:
            continue
        worked = {at: at_it for at in last if (at_it := step_task(number, at)) not in alone}
        between = list(_left_out_at(order, step.id, number, bench, worked, since, after=False))
        yield from ((part, replace(task, after=task.after or washes), "") for part, task in between)
        if step.do == "wash_hands" or any(part.kind == "hands" for part, _ in between):
            since = {}
        after = (*washes, *_last_of(order.before, step.id, last), *eaten, *owed, *(task.id for _, task in between))
        for part, task, follows in _of_step(order, step, step_task(number, step.id), bench, people, after, wish):
            last[step.id] = task.id
            alone |= {task.id} if task.passive else set()
            yield part, task, follows
        if step.id in order.raw:
            since[step.id] = step_task(number, step.id)
        own = {step.id: step_task(number, step.id)}
        behind = list(_left_out_at(order, step.id, number, bench, own, since, after=True))
        if any(part.kind == "hands" for part, _ in behind):
            since = {}
        yield from ((part, task, "") for part, task in behind)
        owed = tuple(task.id for _, task in behind)
        eaten = (EAT,) if order.eats and step.id == serving else eaten
    yield from ((part, task, "") for part, task in _washing_up(order, number, bench, people, last, alone, washes))


def _left_out_at(
    order: _Order, step: str, number: int, bench: str, done: Mapping[str, str], since: Mapping[str, str], *, after: bool
) -> Iterator[tuple[Part, Task]]:
    """The washes that the recipe leaves out before a step or after it: hands by whoever had them on raw food ``since``
    the last time, kit at a sink, once the raw work of what is ``done`` by then is over, whatever cooks on by itself.
    Both by step, its task."""
    typical = figures()["typical_s"]
    raw = tuple(name for at, name in done.items() if at in order.raw) or tuple(done.values())
    kinds: tuple[tuple[PartKind, bool, str, str], ...] = (
        ("hands", True, "wash_hands", "basin"),
        ("kit", False, "clean", "sink"),
    )
    for kind, hands, do, at in kinds:
        if any(row.step == step and row.after == after and row.hands == hands for row in order.left_out):
            name = f"{step_task(number, step)} {kind} {'after' if after else 'before'}"
            own = tuple(since.values())
            waits = (*own, *(done.values() if after else ())) or raw if hands else raw
            task = Task(id=name, bench=bench, s=typical[do], needs={at: 1}, after=waits, washes=own if hands else ())
            yield Part(id=name, kind=kind, bench=bench, beside=step), task


def _washing_up(
    order: _Order,
    number: int,
    bench: str,
    people: int,
    last: Mapping[str, str],
    alone: Collection[str],
    washes: tuple[str, ...],
) -> Iterator[tuple[Part, Task]]:
    """All at once after the last step; where they eat together the kit by some, as soon as the last cook has begun, and
    what was eaten from by all after it. ``alone``: what goes on with nobody at it."""
    frame, up = figures()["frame"], f"{number}:wash up"
    if not order.eats:
        after = tuple(last.values()) or washes
        task = Task(id=up, bench=bench, s=frame["wash_up"], people=people, needs={"sink": 1}, after=after)
        yield Part(id=up, kind="wash_up", bench=bench), task
        return
    kit, at_it = f"{number}:wash kit", min(people, frame["at_kit"])
    steps = order.process.steps
    cooks = [n for n, step in enumerate(steps) if step.do == "heat"]
    until = max(cooks, default=order.process.step_index[_serving(order.process)] - 1)
    # What cooks by itself needs no waiting for.
    used = tuple(step_task(number, step.id) for step in steps[: until + 1] if step.id in last)
    cooked = tuple(name for name in used if name not in alone) or washes
    task = Task(id=kit, bench=bench, s=frame["wash_kit"], people=at_it, needs={"sink": 1}, after=cooked)
    yield Part(id=kit, kind="wash_kit", bench=bench), task
    after = (*last.values(), EAT, kit)
    task = Task(id=up, bench=bench, s=frame["wash_plates"], people=people, needs={"sink": 1}, after=after)
    yield Part(id=up, kind="wash_up", bench=bench), task


def _last_of(before: Mapping[str, tuple[str, ...]], step: str, last: Mapping[str, str]) -> Iterator[str]:
    """The tasks a step waits for; of one that is done before the lesson, those that that one waits for."""
    for other in before[step]:
        if other in last:
            yield last[other]
        else:
            yield from _last_of(before, other, last)


def _of_step(
    order: _Order, step: Step, name: str, bench: str, people: int, after: tuple[str, ...], wish: Wish
) -> Iterator[tuple[Part, Task, str]]:
    """A step's work, and its waiting after it."""
    typical = not step.planned_s
    whole_s = step.planned_s or figures()["typical_s"].get(step.do, figures()["typical_s"]["other"])
    if step.do == "serve" and order.eats:
        whole_s = min(whole_s, figures()["typical_s"]["serve"])
    wait_s = min(step.waiting_s, whole_s) if step.planned_s else (whole_s if step.do in _WAITING else 0.0)
    active_s, held = _up(whole_s - wait_s), _held(order.process, step)
    if step.id in wish.takes and not wait_s:
        active_s = min(active_s, _up(wish.takes[step.id]))
    wait_s = min(wait_s, wish.takes.get(step.id, wait_s))
    if step.id in wish.ready_made:
        wait_s = 0.0
    after = tuple(dict.fromkeys(after))
    if active_s or not wait_s:
        at_it = people if step.do == "serve" else 1
        kind: PartKind = "wash" if step.do == "wash_hands" else "step"
        part = Part(id=name, kind=kind, bench=bench, step=step.id, typical=typical, raw=step.id in order.raw)
        number = name.partition(".")[0]
        raw = tuple(f"{number}.{other}" for other in order.washes.get(step.id, ()))
        task = Task(id=name, bench=bench, s=active_s, people=at_it, needs=held, after=after, washes=raw)
        yield part, _in_oven(task, step, name), ""
    if wait_s:
        task = Task(
            id=f"{name} waits" if active_s else name,
            bench=bench,
            s=_up(wait_s),
            people=0,
            passive=True,
            needs=held if step.do in HEATS else {},
            after=(name,) if active_s else after,
        )
        part = Part(id=task.id, kind="wait", bench=bench, step=step.id, typical=typical)
        yield part, _in_oven(task, step, name), name if active_s else ""


def _in_oven(task: Task, step: Step, key: str) -> Task:
    """With the oven it stands in, by its temperature: one that nobody has named is like no other."""
    if "oven" not in task.needs:
        return task
    return replace(task, oven=key, oven_heat=f"? {step.id}" if step.oven_c is None else f"{step.oven_c:.0f}")


_WAITING = ("rest", "chill", "freeze", "marinate")


def _up(seconds: float) -> int:
    """Whole half minutes, never fewer."""
    return int(-(-seconds // 30)) * 30


def _held(process: Process, step: Step) -> dict[str, int]:
    """What a step holds of what benches share."""
    kinds = [process.tools[name].kind for name in step.tools if name in process.tools]
    if step.do in HEATS:
        shared = (shared_kinds().get(kind) for kind in kinds)
        found = {name for name in shared if name and name not in ("blender", "probe")}
        # What stands in the oven, on the grill or in the microwave takes no ring.
        return dict.fromkeys(sorted(found - {"hob_ring"} if len(found) > 1 else found), 1)
    if step.do == "wash_hands":
        return {"basin": 1}
    if step.do in ("clean", "rinse"):
        return {"sink": 1}
    if step.do == "probe":
        return {"probe": 1}
    return {"blender": 1} if any(shared_kinds().get(kind) == "blender" for kind in kinds) else {}


def _waits_of(order: _Order, number: int, tasks: Mapping[str, Task]) -> Iterator[Wait]:
    """Where food waits at a bench: hot food from its last cook until it is eaten, and raw food from the first hand
    on it to the heat that ends it."""
    process, weights = order.process, figures()["waits"]
    if serving := _serving(process):
        then = EAT if EAT in tasks else step_task(number, serving)
        for name in _eaten_hot(process):
            last = step_task(number, name)
            last = f"{last} waits" if f"{last} waits" in tasks else last
            if last in tasks:  # not what was hot before the lesson
                yield Wait(first=last, then=then, weight=weights["hot"])
    for cook in (step for step in process.steps if step.do == "heat"):
        parts = parts_of(process, cook)
        first = next((step for step in process.steps if step.id in order.raw and parts_of(process, step) & parts), None)
        if first and process.step_index[first.id] < process.step_index[cook.id]:
            yield Wait(first=step_task(number, first.id), then=step_task(number, cook.id), weight=weights["raw"])


def _eaten_hot(process: Process) -> list[str]:
    """Every cook after which its food is neither cooked again nor chilled: it waits hot until it is eaten."""
    found: dict[str, set[str]] = {}
    for step in process.steps:
        if step.do in ("heat", "chill", "freeze"):
            parts = parts_of(process, step)
            found = {name: left for name, held in found.items() if (left := held - parts)}
            if step.do == "heat":
                found[step.id] = parts
    return list(found)

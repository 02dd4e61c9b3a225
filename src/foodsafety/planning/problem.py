"""What is to be fitted into a lesson: benches with people, steps with what they need, and what ties them together."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from graphlib import CycleError, TopologicalSorter
from typing import Any

from foodsafety.quantities import CoreError, finite

MOST_STEPS = 2000
MOST_S = 7 * 86_400


@dataclass(frozen=True, slots=True, kw_only=True)
class Bench:
    """People who work at one place: so many, by ``names`` where these are known."""

    id: str
    people: int
    names: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Task:
    """A step: ``s`` [s] long without a break. ``people`` of its bench are at it all the while; a ``passive`` one
    needs nobody. ``needs``: how much of each shared resource it holds. ``after``: steps that have ended before it
    begins. ``from_end``: (step, s): it begins so long before the end of that step, or before the end of the lesson
    where no step is named. ``who``: only these may do it; empty for anybody. ``named``: who of its bench does it,
    where that changes no time. ``washes``: the steps after which whoever did them washes in this one. ``oven``: what
    stands in an oven, a step and its waiting alike, at ``oven_heat``: what is not alike shares no oven. ``everybody``:
    all people of all benches are at it, and at nothing else."""

    id: str
    bench: str | None
    s: int
    people: int = 1
    passive: bool = False
    needs: Mapping[str, int] = field(default_factory=dict)
    after: tuple[str, ...] = ()
    from_end: tuple[str | None, int] | None = None
    who: frozenset[str] = frozenset()
    named: str = ""
    oven: str = ""
    oven_heat: str = ""
    washes: tuple[str, ...] = ()
    everybody: bool = False

    @property
    def hands(self) -> int:
        """How many people it takes."""
        return 0 if self.passive or self.bench is None else self.people


@dataclass(frozen=True, slots=True, kw_only=True)
class Within:
    """``then`` begins at most ``s`` [s] after ``first`` has ended."""

    first: str
    then: str
    s: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Wait:
    """From the end of ``first`` to the beginning of ``then`` food waits: as short as can be, weighed by ``weight``
    against other waits, but never at the price of a longer lesson."""

    first: str
    then: str
    weight: int


@dataclass(frozen=True, kw_only=True)
class Problem:
    """All that has to fit into ``lesson_s`` [s]. Times are whole seconds: durations are rounded up and limits down."""

    lesson_s: int
    benches: Mapping[str, Bench]
    tasks: Mapping[str, Task]
    within: tuple[Within, ...] = ()
    waits: tuple[Wait, ...] = ()
    resources: Mapping[str, int] = field(default_factory=dict)
    # Shelves of each oven, where they are known, and how long one takes to come to another temperature [s].
    ovens: tuple[int, ...] = ()
    oven_change_s: int = 0

    def only(self, ids: Sequence[str]) -> Problem:
        """The same with some of the steps: what ties them to others is left out."""
        kept = set(ids)
        tasks = {}
        for task in self.tasks.values():
            if task.id not in kept:
                continue
            tied = task.from_end if task.from_end and (task.from_end[0] is None or task.from_end[0] in kept) else None
            after = tuple(name for name in task.after if name in kept)
            tasks[task.id] = replace(task, after=after, from_end=tied)
        rows = tuple(row for row in self.within if row.first in kept and row.then in kept)
        waits = tuple(row for row in self.waits if row.first in kept and row.then in kept)
        return replace(self, tasks=tasks, within=rows, waits=waits)

    @cached_property
    def horizon_s(self) -> int:
        """No plan that wastes nothing is longer [s]: everything one after the other, with the waits asked for."""
        waits = sum(task.from_end[1] for task in self.tasks.values() if task.from_end)
        changes = self.oven_change_s * sum(1 for task in self.tasks.values() if task.oven)
        return max(self.lesson_s, sum(task.s for task in self.tasks.values()) + waits + changes)

    def demands(self, task: Task) -> Iterator[tuple[str, int]]:
        """What a step holds of each capacity, by its key."""
        if task.hands and task.bench is not None:
            yield people_key(task.bench), task.hands
        if task.everybody:
            yield from ((people_key(bench.id), bench.people) for bench in self.benches.values())
        for name, amount in task.needs.items():
            if amount:
                yield f"resource {name}", amount

    @cached_property
    def capacities(self) -> Mapping[str, int]:
        """How much there is of everything that can run out, by its key."""
        found = {people_key(bench.id): bench.people for bench in self.benches.values()}
        return found | {f"resource {name}": amount for name, amount in self.resources.items()}

    @cached_property
    def _sorted(self) -> tuple[tuple[str, ...], tuple[str, ...]]:
        sorter = TopologicalSorter({task.id: task.after for task in self.tasks.values()})
        try:
            return tuple(sorter.static_order()), ()
        except CycleError as wrong:
            return (), tuple(wrong.args[1][:-1])

    @property
    def in_order(self) -> tuple[str, ...]:
        """The steps, each behind all that it comes after; nothing where they wait for each other."""
        return self._sorted[0]

    @property
    def cycle(self) -> tuple[str, ...]:
        """Steps that wait for each other in a circle; empty where there are none."""
        return self._sorted[1]

    @cached_property
    def never(self) -> tuple[str, ...]:
        """Steps that need more of something than there is of it, or more doers than may do them."""
        return tuple(
            task.id
            for task in self.tasks.values()
            if any(amount > self.capacities[key] for key, amount in self.demands(task))
            or (task.who and len(self.doers(task)) < task.hands)
        )

    def doers(self, task: Task) -> tuple[str, ...]:
        """Who at its bench may do a step, where the people there have names."""
        names = self.benches[task.bench].names if task.bench is not None else ()
        return tuple(name for name in names if not task.who or name in task.who)


def people_key(bench: str) -> str:
    """What the people of a bench are called among the capacities."""
    return f"people {bench}"


# --- from plain data -------------------------------------------------------------------------------------------------


def problem_from(data: Mapping[str, Any]) -> Problem:
    """A problem from plain data as DESIGN.md has it (topic ``schedule``). Raises CoreError naming the field.

    A step says ``from_end`` as a number of seconds, before the end of the step it comes ``after`` (the passive one of
    several), or as ``[step, seconds]`` or ``{step: seconds}``; a number in a step that comes after nothing counts from
    the end of the lesson.
    """
    lesson_s = math.floor(finite(data.get("lesson_s"), "lesson_s", low=0, high=MOST_S))
    resources = {
        name: _count(amount, f"resources.{name}") for name, amount in _mapping(data.get("resources", {}), "resources")
    }
    benches: dict[str, Bench] = {}
    for n, row in enumerate(_rows(data.get("benches"), "benches", "benches")):
        bench = _bench(row, f"benches[{n}]")
        if bench.id in benches:
            raise CoreError(f"benches[{n}].id", "id_used_twice", id=bench.id)
        benches[bench.id] = bench
    rows = _rows(data.get("steps"), "steps", "steps")
    if len(rows) > MOST_STEPS:
        raise CoreError("steps", "too_many_steps", count=len(rows), most=MOST_STEPS)
    tasks: dict[str, Task] = {}
    for n, row in enumerate(rows):
        task = _task(row, f"steps[{n}]", benches, resources)
        if task.id in tasks:
            raise CoreError(f"steps[{n}].id", "id_used_twice", id=task.id)
        tasks[task.id] = task
    for n, row in enumerate(rows):
        task = tasks[str(row["id"])]
        for name in task.after:
            _known(name, tasks, f"steps[{n}].after")
        tied = _from_end(row.get("from_end"), task, tasks, f"steps[{n}].from_end")
        # What begins before the end of another step does not wait for that one to end.
        after = tuple(name for name in task.after if tied is None or name != tied[0])
        tasks[task.id] = replace(task, after=after, from_end=tied)
    within = tuple(
        _within(row, tasks, f"within[{n}]") for n, row in enumerate(_rows(data.get("within", []), "within", "rows"))
    )
    return Problem(lesson_s=lesson_s, benches=benches, tasks=tasks, within=within, resources=resources)


def _mapping(value: object, name: str) -> list[tuple[str, Any]]:
    if not isinstance(value, Mapping):
        raise CoreError(name, "not_an_object")
    return list(value.items())


def _rows(value: object, name: str, of: str) -> list[Any]:
    if not isinstance(value, list):
        raise CoreError(name, "not_a_list", of=of)
    return value


def _object(row: object, name: str) -> Mapping[str, Any]:
    if not isinstance(row, Mapping):
        raise CoreError(name, "not_an_object")
    return row


def _text(row: Mapping[str, Any], name: str, of: str) -> str:
    value = row.get(of)
    if not isinstance(value, str) or not value:
        raise CoreError(f"{name}.{of}", "not_a_text", value=value)
    return value


def _count(value: object, name: str) -> int:
    number = finite(value, name, low=0, high=10_000)
    if number != int(number):
        raise CoreError(name, "not_whole", value=value)
    return int(number)


def _known(name: object, among: Mapping[str, Any], where: str) -> str:
    if not isinstance(name, str) or name not in among:
        raise CoreError(where, "not_one_of", value=name, allowed=tuple(among)[:20])
    return name


def _names(value: object, name: str) -> tuple[str, ...]:
    rows = _rows(value, name, "names")
    if not all(isinstance(row, str) and row for row in rows) or len(set(rows)) != len(rows):
        raise CoreError(name, "not_a_list", of="names")
    return tuple(rows)


def _bench(value: object, name: str) -> Bench:
    row = _object(value, name)
    found = _text(row, name, "id")
    people = row.get("people")
    if isinstance(people, list):
        names = _names(people, f"{name}.people")
        return Bench(id=found, people=len(names), names=names)
    return Bench(id=found, people=_count(people, f"{name}.people"))


def _task(value: object, name: str, benches: Mapping[str, Bench], resources: Mapping[str, int]) -> Task:
    row = _object(value, name)
    found = _text(row, name, "id")
    passive = row.get("passive", False)
    if not isinstance(passive, bool):
        raise CoreError(f"{name}.passive", "not_one_of", value=passive, allowed=(True, False))
    bench = row.get("bench")
    people = row.get("people", 0 if passive or bench is None else 1)
    who: tuple[str, ...] = _names(row.get("who", []), f"{name}.who")
    if isinstance(people, list):  # just these
        who = _names(people, f"{name}.people")
        people = len(who)
    needs = {}
    for key, amount in _mapping(row.get("needs", {}), f"{name}.needs"):
        needs[_known(key, resources, f"{name}.needs")] = _count(amount, f"{name}.needs.{key}")
    bench = None if bench is None else _known(bench, benches, f"{name}.bench")
    for one in who:
        _known(one, dict.fromkeys(benches[bench].names if bench else ()), f"{name}.who")
    return Task(
        id=found,
        bench=bench,
        s=math.ceil(finite(row.get("s"), f"{name}.s", low=0, high=MOST_S)),
        people=_count(people, f"{name}.people"),
        passive=passive,
        needs=needs,
        after=_names(row.get("after", []), f"{name}.after"),
        who=frozenset(who),
    )


def _from_end(value: object, task: Task, tasks: Mapping[str, Task], name: str) -> tuple[str | None, int] | None:
    if value is None:
        return None
    if isinstance(value, Mapping):  # {"simmer": 600}
        value = [part for pair in value.items() for part in pair]
    if isinstance(value, list):
        if len(value) != 2:
            raise CoreError(name, "not_a_list", of="[step, seconds]")
        return _known(value[0], tasks, name), round(finite(value[1], name, low=0, high=MOST_S))
    s = round(finite(value, name, low=0, high=MOST_S))
    waiting = [other for other in task.after if tasks[other].passive]
    named = waiting or list(task.after)
    return (named[-1] if named else None), s


def _within(row: object, tasks: Mapping[str, Task], name: str) -> Within:
    if not isinstance(row, list) or len(row) != 3:
        raise CoreError(name, "not_a_list", of="[step, step, seconds]")
    s = math.floor(finite(row[2], name, low=0, high=MOST_S))
    return Within(first=_known(row[0], tasks, name), then=_known(row[1], tasks, name), s=s)

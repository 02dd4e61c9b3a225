"""Is this a plan? Asked of plain data, by counting, with no part of the planner."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any


def faults(data: Mapping[str, Any], answer: Mapping[str, Any]) -> list[str]:
    """Everything that is wrong with a plan, in words; nothing where it can be cooked by."""
    steps = {row["id"]: row for row in data["steps"]}
    start = answer["starts"]
    if set(start) != set(steps):
        return ["not every step is planned"]
    end = {name: start[name] + row["s"] for name, row in steps.items()}
    found = [f"{name} begins before the lesson" for name in steps if start[name] < 0]
    found += [f"{name} ends after the lesson" for name in steps if end[name] > data["lesson_s"]]
    if answer["makespan_s"] != max(end.values(), default=0):
        found.append("the end is not the end")
    for name, row in steps.items():
        tied = row.get("from_end")
        if isinstance(tied, dict):
            [tied] = [list(pair) for pair in tied.items()]
        if tied is not None:
            of, before = tied if isinstance(tied, list) else (row["after"][-1] if row.get("after") else None, tied)
            if start[name] != (data["lesson_s"] if of is None else end[of]) - before:
                found.append(f"{name} does not begin {before} s before the end")
        else:
            of = None
        found += [f"{name} begins before {x} ends" for x in row.get("after", []) if x != of and start[name] < end[x]]
    found += [f"{b} begins late after {a}" for a, b, s in data.get("within", []) if start[b] - end[a] > s]
    moments = sorted({*start.values(), *end.values()})
    for at in moments:
        now = [row for name, row in steps.items() if start[name] <= at < end[name]]
        for bench in data["benches"]:
            people = bench["people"] if isinstance(bench["people"], int) else len(bench["people"])
            hands = sum(_hands(row) for row in now if row.get("bench") == bench["id"])
            if hands > people:
                found.append(f"{hands} people at {bench['id']} at {at}")
        for name, amount in data.get("resources", {}).items():
            taken = sum(row.get("needs", {}).get(name, 0) for row in now)
            if taken > amount:
                found.append(f"{taken} of {name} at {at}")
    return found + _people(data, answer, steps, start, end)


def _hands(row: Mapping[str, Any]) -> int:
    if row.get("passive") or row.get("bench") is None:
        return 0
    people = row.get("people", 1)
    return people if isinstance(people, int) else len(people)


def _people(
    data: Mapping[str, Any], answer: Mapping[str, Any], steps: Any, start: Mapping[str, int], end: Mapping[str, int]
) -> list[str]:
    named = {bench["id"]: bench["people"] for bench in data["benches"] if isinstance(bench["people"], list)}
    busy: dict[tuple[str, str], list[tuple[int, int]]] = {}
    found = []
    for name, row in steps.items():
        if row.get("bench") not in named or not _hands(row):
            continue
        at_it = answer.get("people", {}).get(name, [])
        if len(set(at_it)) != _hands(row) or not set(at_it) <= set(named[row["bench"]]):
            found.append(f"{name} is done by {at_it}")
        allowed = row["people"] if isinstance(row.get("people"), list) else row.get("who")
        if allowed and not set(at_it) <= set(allowed):
            found.append(f"{name} is done by somebody who may not: {at_it}")
        for one in at_it:
            # A step that takes no time takes nobody's.
            overlaps = any(a < end[name] and start[name] < b for a, b in busy.get((row["bench"], one), []))
            if overlaps and end[name] > start[name]:
                found.append(f"{one} is at {name} and elsewhere")
            if end[name] > start[name]:
                busy.setdefault((row["bench"], one), []).append((start[name], end[name]))
    return found

"""Two dishes, or two benches, as one process: what they share carries from one to the other."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from foodsafety.foods import carrier_kinds, cloth_kinds
from foodsafety.recipes import Process, Step


def _shared(kind: str, name: str, others: Process) -> bool:
    """Things there is one of in a kitchen are shared by kind; boards and cloths if they are the
    same one by name; everything else belongs to its bench."""
    if kind in carrier_kinds("fixed"):
        return True
    return kind in carrier_kinds("boards") | cloth_kinds() and name in others.tools


def _named(process: Process, label: str, first: Process | None) -> dict[str, str]:
    """New names for what would be taken for the other bench's."""
    if first is None:
        return {}
    taken = {*first.food_ids, *first.tools, *first.people}
    names = {name: f"{name} ({label})" for name in (*process.food_ids, *process.people) if name in taken}
    by_kind = {tool.kind: tool.id for tool in first.tools.values()}
    for tool in process.tools.values():
        if _shared(tool.kind, tool.id, first):
            names[tool.id] = by_kind.get(tool.kind, tool.id) if tool.kind in carrier_kinds("fixed") else tool.id
        elif tool.id in taken:
            names[tool.id] = f"{tool.id} ({label})"
    return names


def _renamed(process: Process, names: dict[str, str], prefix: str) -> Process:
    def new(name: str) -> str:
        return names.get(name, name)

    return Process(
        foods={new(name): replace(food, id=new(name)) for name, food in process.foods.items()},
        tools={new(name): replace(tool, id=new(name)) for name, tool in process.tools.items()},
        people=tuple(map(new, process.people)),
        steps=tuple(_renamed_step(step, new, prefix) for step in process.steps),
        serve=tuple(map(new, process.serve)),
        free_of={new(name): tags for name, tags in process.free_of.items()},
    )


def _renamed_step(step: Step, new: Callable[[str], str], prefix: str) -> Step:
    return replace(
        step,
        id=f"{prefix}{step.id}",
        foods=tuple(map(new, step.foods)),
        tools=tuple(map(new, step.tools)),
        hands=tuple(map(new, step.hands)),
        makes=new(step.makes) if step.makes else None,
        after=tuple(f"{prefix}{name}" for name in step.after),
    )


def _starts_s(steps: Sequence[Step]) -> list[float]:
    at, starts = 0.0, []
    for step in steps:
        starts.append(at)
        at += step.planned_s - step.waiting_s
    return starts


def combined_process(first: Process, second: Process, *, label: str) -> Process:
    """Both dishes, each in its own order, woven by the time at which each step begins; of equals
    the first dish goes first. ``label`` tells the second one's foods, kit and people apart."""
    a, b = _renamed(first, {}, "a-"), _renamed(second, _named(second, label, first), "b-")
    rows = [(at, 0, i, step) for i, (at, step) in enumerate(zip(_starts_s(a.steps), a.steps, strict=True))]
    rows += [(at, 1, i, step) for i, (at, step) in enumerate(zip(_starts_s(b.steps), b.steps, strict=True))]
    return Process(
        foods={**a.foods, **b.foods},
        tools={**a.tools, **b.tools},
        people=(*a.people, *b.people),
        steps=tuple(step for _, _, _, step in sorted(rows, key=lambda row: row[:3])),
        serve=(*a.serve, *b.serve),
        free_of={**a.free_of, **b.free_of},
    )

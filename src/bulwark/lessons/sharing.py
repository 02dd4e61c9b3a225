"""Benches that share kit: what happens to it at one is told to the logs of the others."""

import datetime as dt
import uuid
from collections.abc import Mapping
from typing import Any

from bulwark.lessons.appending import append
from bulwark.lessons.models import Bench, Event
from bulwark.lessons.selectors import benches_of, plan_at, states_around
from bulwark.people.actors import Actor
from foodsafety.lesson import FRIDGE, TAKES_BACK, OvenChange, oven_changes, shared_changes

_PROGRAM = Actor(kind="program")


def relay(
    bench: Bench, event_id: uuid.UUID, kind: str, data: Mapping[str, Any], at: dt.datetime, *, really: dt.datetime
) -> None:
    """Tells the other benches of a lesson what an entry has changed about the kit they share, as of the moment at which
    it happened. Told twice is told once: the ids follow from the entry's own."""
    others = [other for other in benches_of(bench.lesson) if other.pk != bench.pk]
    if kind in TAKES_BACK:
        _take_back(bench, others, str(data.get("event")), at, really=really)
        return
    rows = [(row, data) for row, data in _told(bench, event_id, kind, data, at)]
    for other in others:
        tools = plan_at(other).process.tools
        for name, (told, fields) in enumerate(rows):
            if told != "shared_fridge" and fields["tool"] not in tools:
                continue
            own = uuid.uuid5(event_id, f"{other.pk}:{name}:{fields.get('tool', FRIDGE)}")
            append(
                other, own, told, {**fields, "bench": bench.name, "source": str(event_id)}, at, _PROGRAM, really=really
            )


def _told(
    bench: Bench, event_id: uuid.UUID, kind: str, data: Mapping[str, Any], at: dt.datetime
) -> list[tuple[str, dict[str, Any]]]:
    """What is to be told: kinds of entry with their fields."""
    shared = bench.lesson.shared
    if kind == "fridge_read":
        return [("shared_fridge", {"core_c": data["core_c"]})] if FRIDGE in shared else []
    before, after = states_around(bench, event_id, at)
    kit = [name for name in shared if name != FRIDGE]
    soiled = [
        ("shared_kit", {"tool": row.tool, "soils": list(row.soils), "sources": list(row.sources)})
        for row in shared_changes(before, after, kit)
    ]
    return soiled + [("shared_oven", _oven(bench, row)) for row in oven_changes(before, after, kit)]


def _oven(bench: Bench, row: OvenChange) -> dict[str, Any]:
    step = row.step
    return {
        "tool": row.oven,
        "use": f"{bench.pk} {step.id} {row.oven}"[:120],
        "how": "in" if row.into else "out",
        "dish": (step.makes or ", ".join(step.foods))[:120],
        "oven_c": step.oven_c,
        "minutes": step.planned_s / 60 or None,
    }


def _take_back(bench: Bench, others: list[Bench], event: str, at: dt.datetime, *, really: dt.datetime) -> None:
    """What was told of an entry that does not count any more does not count either."""
    rows = Event.objects.filter(
        bench__in=others, kind__in=("shared_kit", "shared_fridge", "shared_oven"), data__source=event
    )
    by_bench = {other.pk: other for other in others}
    for row in rows:
        own, fields = uuid.uuid5(row.uuid, "taken back"), {"event": str(row.uuid), "bench": bench.name}
        append(by_bench[row.bench_id], own, "shared_voided", fields, at, _PROGRAM, really=really)

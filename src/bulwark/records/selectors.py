"""The record of a lesson: everything that happened, as the log proves it."""

import datetime as dt
import hashlib
import json
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from django.utils import timezone

from bulwark.devices import selectors as devices
from bulwark.devices.pages import check_row
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import pages, selectors
from bulwark.lessons.log import rows_of
from bulwark.lessons.purging import purge_of
from bulwark.lessons.seals import last_seal
from bulwark.lessons.selectors import Bench, Lesson
from bulwark.people.actors import Actor
from bulwark.presentation import phrases
from bulwark.presentation.sheets import csv_of
from bulwark.recipes.adapters import to_ingredients
from bulwark.records.models import SignOff
from bulwark.shelf.selectors import ShelfItem, shelf_items
from foodsafety.lesson import State
from foodsafety.review import cost_of_part


def lesson_record(lesson: Lesson, tag: str = "") -> dict[str, Any]:
    """Every bench's bricks, breaches, log and shelf, with the profile they were judged by and in its
    own unit, with Celsius beside it: whoever reads it, it says the same."""
    plan = selectors.plan_for(lesson)
    unit = plan.profile.unit
    heads = selectors.heads_of(lesson)
    head = head_of(lesson, heads)
    benches = [{**_bench_record(bench, unit), "head": heads.get(bench.pk)} for bench in _benches(lesson)]
    return {
        "lesson": lesson,
        "seal": last_seal(lesson.pk),
        "purged": purge_of(lesson.pk),
        "signed": [{"row": row, "goes_on": row.head != head} for row in SignOff.objects.filter(lesson=lesson)],
        "benches": benches,
        "attended": len({each.initials for row in benches for each in row["bench"].learners.all()}),
        "limits": _limits(benches),
        "probes": _probes(lesson, unit),
        "profile": plan.profile,
        "house": plan.house,
        "tag": tag,
        "unit": unit,
    }


def head_of(lesson: Lesson, heads: Mapping[int, Any] | None = None) -> str:
    """One hash over the heads of all benches of a lesson, as they stand."""
    rows = selectors.heads_of(lesson) if heads is None else heads
    text = json.dumps([[number, row.seq, row.hash] for number, row in sorted(rows.items())])
    return hashlib.sha256(text.encode()).hexdigest()


# What is measured with a thermometer: an inspector asks for these first.
MEASURED = ("core-temperature", "fridge-cold", "chilled-in-time")


def _with_celsius(row: dict[str, Any], unit: str) -> dict[str, Any]:
    """A reading in the profile's unit, with Celsius beside it where that is another one."""
    core_c = row["brick"].evidence.get("core_c")
    if unit == "C" or core_c is None or not row["value"]:
        return row
    cold = row["brick"].control.rule != "core-temperature"
    return {**row, "value": f"{row['value']} ({phrases.degrees(core_c, 'C', cold=cold)})"}


def _entry_with_celsius(row: dict[str, Any], unit: str) -> dict[str, Any]:
    data = row["event"].data
    celsius = data.get("core_c", data.get("ambient_c"))
    if unit == "C" or celsius is None:
        return row
    cold = row["event"].kind != "core_read"
    return {**row, "text": f"{row['text']} ({phrases.degrees(celsius, 'C', cold=cold)})"}


def _probes(lesson: Lesson, unit: str) -> list[dict[str, Any]]:
    """The thermometers of the kitchen, each with its last check on the day of the lesson or before it."""
    day = timezone.localtime(lesson.closed_at or lesson.opened_at or lesson.starts_at).date()
    rows = devices.checks_before(lesson.organisation_id, day)
    return [{"name": row.name, "check": check_row(check, unit)} for row, check in rows]


def _limits(benches: list[dict[str, Any]]) -> list[dict[str, str]]:
    """The critical limits of the lesson, each once, whichever bench has it."""
    rows = [row for bench in benches for row in bench["rows"]]
    found = {(row["name"], row["text"].limit): row for row in rows if row["text"].limit}
    return [{"name": name, "course": row["course"], "limit": limit} for (name, limit), row in found.items()]


def _benches(lesson: Lesson) -> list[Bench]:
    benches = selectors.benches_of(lesson)
    selectors.read_logs(benches, whole=True)
    return benches


def _bench_record(bench: Bench, unit: str) -> dict[str, Any]:
    state, rows = pages.brick_rows(bench, unit)
    return {
        "bench": bench,
        "took_part": bool(state.seen) or not bench.lesson.over,
        "rows": rows,
        "incidents": pages.incident_rows(state, selectors.lesson_now(bench.lesson).timestamp()),
        "waste": waste_of(bench, state),
        "notes": pages.note_rows(state),
        "log": [_entry_with_celsius(row, unit) for row in pages.log_rows(bench, unit)],
        "kept": shelf_items(bench),
        "lowest": [_with_celsius(row, unit) for row in rows if row["brick"].control.rule in MEASURED],
        "missed": [row for row in rows if row["brick"].status in ("missed", "not_done")],
        "thrown": sorted(food for food, held in state.foods.items() if held.discarded),
        "laid": sum(1 for row in rows if row["brick"].status in ("laid", "mended")),
    }


def waste_of(bench: Bench, state: State) -> list[dict[str, Any]]:
    """What a bench threw away, each with what it cost where it was weighed and every line of it has a price."""
    rows = pages.waste_rows(state)
    if not any(row["grams"] for row in rows):
        return [{**row, "cost": None} for row in rows]
    lesson = bench.lesson
    decided = kitchens.decided_by(lesson.organisation_id)
    prices = kitchens.prices_of(lesson.organisation_id)
    items = to_ingredients(lesson.recipe, kitchens.known_foods(lesson.organisation_id))
    known = {name: food for food, name in state.plan.known.items()}  # what the bench calls it now, and the lesson
    for row in rows:
        made_of = state.plan.process.ingredients_of(row["food"])
        lines = {lesson.process["foods"].get(known.get(part, part), {}).get("line") for part in made_of}
        parts = [item for n, item in enumerate(items) if n in lines]
        cost = cost_of_part(parts, row["grams"], prices, lesson.recipe.measures) if row["grams"] else None
        row["cost"], row["currency"] = cost, decided.currency
    return rows


@dataclass(slots=True)
class WasteOfMonth:
    """What was thrown away in a month for one reason: how often, how much of it was weighed [g], what that cost, and
    how often nobody weighed it or a price is missing."""

    month: dt.date
    why: str
    count: int = 0
    grams: float = 0.0
    cost: Decimal = Decimal(0)
    uncosted: int = 0


def waste_by_month(actor: Actor, since: dt.datetime) -> list[WasteOfMonth]:
    """What was thrown away by month and reason, the last month first."""
    benches = list(selectors.benches_that_cooked(actor, since=since))
    selectors.read_logs(benches)
    found: dict[tuple[dt.date, str], WasteOfMonth] = {}
    for bench in benches:
        state, _ = selectors.bench_state(bench)
        for row in waste_of(bench, state) if state.wasted else ():
            month = row["at"].date().replace(day=1)
            told = found.setdefault((month, row["why"]), WasteOfMonth(month, row["why"]))
            told.count += 1
            told.grams += row["grams"] or 0.0
            told.cost += row["cost"] or 0
            told.uncosted += row["cost"] is None
    return sorted(found.values(), key=lambda row: (row.month, row.count), reverse=True)


COLUMNS = ("bench", "place_in_log", "happened_at", "recorded_at", "kind", "what", "core_c", "by", "voided", "hash")


def record_rows(lesson: Lesson) -> str:
    """The whole log as CSV, with the profile and the caution above it."""
    return csv_of([*_head_rows(lesson), COLUMNS, *_rows(lesson)])


def record_sheet(lesson: Lesson) -> list[Sequence[object]]:
    """The same as rows of a workbook, the columns first."""
    return [COLUMNS, *_rows(lesson), [], *_head_rows(lesson)]


def record_lines(lesson: Lesson) -> str:
    """Every entry as a line of JSON, with the hash of the one before and its own."""
    return "".join(
        f"{json.dumps({'bench': bench, **entry}, ensure_ascii=False)}\n" for bench, entry in rows_of(lesson.pk)
    )


def _rows(lesson: Lesson) -> Iterator[list[object]]:
    unit = selectors.plan_for(lesson).profile.unit
    for bench in _benches(lesson):
        for cells in _bench_cells(bench, unit):
            yield [cells.get(column, "") for column in COLUMNS]


def _head_rows(lesson: Lesson) -> list[list[object]]:
    profile = selectors.plan_for(lesson).profile
    return [
        ["lesson", lesson.title, "place", lesson.place],
        ["rule profile", profile.id, "edition", profile.edition, profile.document],
        ["caution", phrases.caution()],
    ]


def _bench_cells(bench: Bench, unit: str) -> Iterator[dict[str, object]]:
    """What one bench's rows hold: its log, its breaches, what was noted, then what it kept."""
    state, _ = selectors.bench_state(bench)
    for cells in (
        *(_event_cells(row) for row in pages.log_rows(bench, unit)),
        *(_breach_cells(row) for row in pages.incident_rows(state, 0.0)),
        *(_waste_cells(row) for row in waste_of(bench, state)),
        *(_note_cells(row) for row in pages.note_rows(state)),
        *(_kept_cells(item) for item in shelf_items(bench)),
    ):
        yield {"bench": bench.name, **cells}


def _event_cells(row: dict[str, Any]) -> dict[str, object]:
    event = row["event"]
    return {
        "place_in_log": event.seq,
        "happened_at": event.happened_at.isoformat(),
        "recorded_at": event.recorded_at.isoformat(),
        "kind": event.kind,
        "what": f"{row['text']} ({row['after_end']})" if row["after_end"] else row["text"],
        "core_c": event.data.get("core_c", ""),
        "by": event.recorded_by,
        "voided": row["voided"],
        "hash": event.hash,
    }


def _breach_cells(row: dict[str, Any]) -> dict[str, object]:
    return {
        "kind": "breach",
        "what": f"{row['title']}. {row['path']}",
        "voided": "OPEN" if row["incident"].open else row["done"],
    }


def _waste_cells(row: dict[str, Any]) -> dict[str, object]:
    cost = f"{row['cost']} {row['currency']}" if row["cost"] is not None else ""
    told = ", ".join(text for text in (row["amount"], row["why"], cost) if text)
    return {"happened_at": row["at"].isoformat(), "kind": "thrown away", "what": f"{row['food']}: {told}"}


def _note_cells(row: dict[str, Any]) -> dict[str, object]:
    return {"happened_at": row["at"].isoformat(), "kind": "note", "what": row["title"]}


def _kept_cells(item: ShelfItem) -> dict[str, object]:
    until = item.use_by.isoformat() if item.use_by else "throw away"
    return {
        "happened_at": item.stored_at.isoformat(),
        "kind": "kept",
        "what": item.food,
        "voided": f"use by {until}",
    }

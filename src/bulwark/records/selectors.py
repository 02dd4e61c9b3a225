"""The record of a lesson: everything that happened, as the log proves it."""

import csv
import io
from typing import Any

from bulwark.lessons import pages, selectors
from bulwark.presentation import phrases
from bulwark.shelf.selectors import shelf_items


def lesson_record(lesson: Any, unit: str, tag: str = "") -> dict[str, Any]:
    """Every bench's bricks, breaches, log and shelf, with the profile they were judged by."""
    benches = []
    for bench in lesson.benches.prefetch_related("learners"):
        bench.lesson = lesson
        state, rows = pages.brick_rows(bench, unit)
        benches.append(
            {
                "bench": bench,
                "rows": rows,
                "incidents": pages.incident_rows(state),
                "log": pages.log_rows(bench, unit),
                "kept": shelf_items(bench),
                "laid": sum(1 for row in rows if row["brick"].status in ("laid", "mended")),
            }
        )
    plan = selectors.plan_for(lesson)
    return {
        "lesson": lesson,
        "benches": benches,
        "profile": plan.profile,
        "house": plan.house,
        "tag": tag,
        "unit": unit,
    }


def _plain(value: object) -> str:
    """A cell that no spreadsheet takes for a formula."""
    text = str(value)
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


COLUMNS = ("bench", "place_in_log", "happened_at", "recorded_at", "kind", "what", "core_c", "by", "voided", "hash")


def record_rows(lesson: Any, unit: str) -> str:
    """The whole log as CSV, with the profile and the caution above it."""
    plan = selectors.plan_for(lesson)
    out = io.StringIO()
    sheet = csv.writer(out, lineterminator="\r\n")
    sheet.writerow(["lesson", _plain(lesson.title), "place", _plain(lesson.place)])
    sheet.writerow(
        ["rule profile", plan.profile.id, "edition", _plain(plan.profile.edition), _plain(plan.profile.document)]
    )
    sheet.writerow(["caution", phrases.caution()])
    sheet.writerow(COLUMNS)
    for bench in lesson.benches.prefetch_related("learners"):
        bench.lesson = lesson
        for row in pages.log_rows(bench, unit):
            event = row["event"]
            sheet.writerow(
                [
                    _plain(bench.name),
                    event.seq,
                    event.happened_at.isoformat(),
                    event.recorded_at.isoformat(),
                    event.kind,
                    _plain(row["text"]),
                    event.data.get("core_c", ""),
                    _plain(event.recorded_by),
                    _plain(row["voided"].data.get("reason", "")) if row["voided"] else "",
                    event.hash,
                ]
            )
        state, _ = selectors.bench_state(bench)
        for incident in pages.incident_rows(state):
            found = incident["incident"]
            status = incident["done"] if not found.open else "OPEN"
            sheet.writerow(
                [
                    _plain(bench.name),
                    "",
                    "",
                    "",
                    "breach",
                    _plain(f"{incident['title']}. {incident['path']}"),
                    "",
                    "",
                    _plain(status),
                ]
            )
        for item in shelf_items(bench):
            until = item.use_by.isoformat() if item.use_by else "throw away"
            sheet.writerow(
                [
                    _plain(bench.name),
                    "",
                    item.stored_at.isoformat(),
                    "",
                    "kept",
                    _plain(item.food),
                    "",
                    "",
                    f"use by {until}",
                ]
            )
    return out.getvalue()

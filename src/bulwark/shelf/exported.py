"""What is kept, as rows for other programs: CSV, XLSX, JSON Lines. The same fields in all three."""

from __future__ import annotations

import datetime as dt
import json
from collections.abc import Iterable
from typing import Any

from django.utils import timezone

from bulwark.lessons import selectors as lessons
from bulwark.shelf.stock import Item

COLUMNS = (
    "code",
    "food",
    "part",
    "portions",
    "place",
    "store",
    "standing",
    "use_by",
    "read_by",
    "made_at",
    "out_min",
    "nobody_knows_min",
    "contains",
    "raw",
    "raw_egg",
    "lesson",
    "bench",
    "rules",
    "why",
)


def _row(item: Item) -> dict[str, Any]:
    """A part as it stands now. ``use_by`` is empty for what may not be kept: an empty date is never "for ever"."""
    profile, row = lessons.profile_of(item.bench.lesson), item.row
    until = None if item.standing in ("over", "heat", "eat") else item.until
    return {
        "code": item.key,
        "food": item.food,
        "part": item.part,
        "portions": row.portions,
        "place": row.place,
        "store": row.store,
        "standing": item.standing,
        "read_by": [
            {"limit": row.limit.value, "unit": row.limit.unit, "at": _moment(row.at_s)}
            for row in (item.chilling.due if item.chilling and item.standing == "cooling" else ())
        ],
        "use_by": timezone.localtime(until).isoformat() if until else None,
        "made_at": timezone.localtime(item.made_at).isoformat(),
        # Never rounded down: a minute that was begun counts.
        "out_min": -int(-row.out_until(timezone.now().timestamp()) // 60),
        "nobody_knows_min": -int(-row.hole_s // 60),
        "contains": list(item.contains),
        "raw": item.raw,
        "raw_egg": item.raw_egg,
        "lesson": item.bench.lesson.title,
        "bench": item.bench.name,
        "rules": f"{profile.id} {profile.edition}",
        "why": [text for text in (item.breach, *item.why) if text],
    }


def _moment(at_s: float) -> str:
    return timezone.localtime(dt.datetime.fromtimestamp(at_s, tz=dt.UTC)).isoformat()


def json_lines(items: Iterable[Item]) -> str:
    """One part a line."""
    return "".join(json.dumps(_row(item), ensure_ascii=False) + "\n" for item in items)


def sheet_rows(items: Iterable[Item]) -> list[list[object]]:
    """The heading and one row a part."""
    return [list(COLUMNS), *([_cell(row[name]) for name in COLUMNS] for row in map(_row, items))]


def _cell(value: Any) -> object:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, list):
        return "; ".join(
            one if isinstance(one, str) else f"{one['limit']:g} {one['unit']} by {one['at']}" for one in value
        )
    return "" if value is None else value

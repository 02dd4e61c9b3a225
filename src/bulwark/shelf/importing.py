"""Food that comes onto the shelf without a lesson: rows of a CSV, an XLSX or JSON Lines, each read once and whole."""

from __future__ import annotations

import csv
import datetime as dt
import io
import json
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from django.utils import timezone
from openpyxl import load_workbook

from bulwark.shelf import wording
from foodsafety.foods import allergen_sets, allergen_tag
from foodsafety.quantities import CoreError, finite
from foodsafety.shelf import storage_category

MOST_ROWS, MOST_BYTES = 500, 2 * 1024 * 1024
COLUMNS = ("food", "category", "made_at", "place", "store", "portions", "out_min", "contains")
UNKNOWN, NONE = "unknown", "none"


@dataclass(frozen=True, slots=True, kw_only=True)
class BroughtIn:
    """A food as a row says it. ``out_min``: how long it was out of the cold in all [min], None where nobody knows;
    ``allergens``: their tags."""

    food: str
    category: str
    made_at: dt.datetime
    place: str
    store: str
    portions: int | None
    out_min: float | None
    allergens: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Rows:
    """What a file says: its foods, and each row that cannot be taken, with why."""

    right: tuple[BroughtIn, ...]
    wrong: tuple[tuple[int, str], ...]


def read_rows(text: str) -> Rows:
    """CSV with its heading, or JSON Lines. Never half a row: one that is wrong is told, and nothing of it is taken."""
    right, wrong = list[BroughtIn](), list[tuple[int, str]]()
    for n, cells in _cells(text):
        try:
            if len(right) + len(wrong) >= MOST_ROWS:
                raise CoreError("rows", "too_many", count=n, most=MOST_ROWS)
            right.append(_row(cells))
        except CoreError as found:
            wrong.append((n, wording.wrong_row(found)))
    return Rows(right=tuple(right), wrong=tuple(wrong))


def text_of(name: str, data: bytes) -> str:
    """A file as text that somebody can put right: an XLSX becomes CSV. Raises CoreError for what is none of these."""
    if len(data) > MOST_BYTES:
        raise CoreError("file", "too_long", count=len(data), most=MOST_BYTES)
    if name.lower().endswith(".xlsx"):
        return _sheet_text(data)
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")


def _sheet_text(data: bytes) -> str:
    try:
        sheet = load_workbook(io.BytesIO(data), read_only=True, data_only=True).worksheets[0]
        rows = [[_plain(cell) for cell in row] for row in sheet.iter_rows(max_row=MOST_ROWS + 1, values_only=True)]
    except Exception as wrong:  # whatever a workbook that is none makes its reader raise
        raise CoreError("file", "not_a_workbook") from wrong
    out = io.StringIO()
    csv.writer(out).writerows(rows)
    return out.getvalue()


def _plain(cell: object) -> str:
    if cell is None:
        return ""
    return cell.isoformat() if isinstance(cell, dt.datetime) else str(cell)


def _cells(text: str) -> Iterator[tuple[int, Mapping[str, Any]]]:
    """The rows with their numbers, by the names of their columns."""
    if text.lstrip().startswith("{"):
        yield from ((n, _of_json(line)) for n, line in enumerate(text.splitlines(), start=1) if line.strip())
        return
    lines = text.splitlines()
    sign = ";" if lines and lines[0].count(";") > lines[0].count(",") else ","
    for n, row in enumerate(csv.DictReader(io.StringIO(text), delimiter=sign), start=2):
        cells = {str(name or "").strip().lower(): value for name, value in row.items()}
        if any(str(value or "").strip() for value in cells.values()):
            yield n, cells


def _of_json(line: str) -> Mapping[str, Any]:
    try:
        found = json.loads(line)
    except (ValueError, RecursionError):
        return {}
    return found if isinstance(found, dict) else {}


def _row(cells: Mapping[str, Any]) -> BroughtIn:
    """One row. Raises CoreError naming the field that is wrong."""
    food = " ".join(str(cells.get("food") or "").split())
    if not food or len(food) > 60 or not food.isprintable():
        raise CoreError("food", "words_needed")
    place = str(cells.get("place") or "fridge").strip().lower()
    if place not in ("fridge", "freezer"):
        raise CoreError("place", "not_one_of", value=place, allowed=("fridge", "freezer"))
    return BroughtIn(
        food=food,
        category=storage_category(str(cells.get("category") or "")).id,
        made_at=_moment(cells.get("made_at")),
        place=place,
        store=" ".join(str(cells.get("store") or "").split())[:40],
        portions=_whole(cells.get("portions"), "portions", 500),
        out_min=_out_min(cells.get("out_min")),
        allergens=_allergens(cells.get("contains")),
    )


def _moment(value: object) -> dt.datetime:
    try:
        found = dt.datetime.fromisoformat(str(value or "").strip())
    except ValueError:
        raise CoreError("made_at", "zoned_time_needed") from None
    at = found if found.tzinfo else timezone.make_aware(found)
    if at > timezone.now():
        raise CoreError("made_at", "in_the_future")
    return at


def _whole(value: object, field: str, most: int) -> int | None:
    if value in (None, ""):
        return None
    number = finite(_number(value, field), field, low=1, high=most)
    if number != int(number):
        raise CoreError(field, "not_whole", value=number)
    return int(number)


def _out_min(value: object) -> float | None:
    """Nobody may leave it unsaid: a number of minutes, or that nobody knows."""
    if isinstance(value, str) and value.strip().lower() == UNKNOWN:
        return None
    return finite(_number(value, "out_min"), "out_min", low=0, high=400 * 1440)


def _number(value: object, field: str) -> object:
    if not isinstance(value, str):
        return value
    try:
        return float(value.strip().replace(",", "."))
    except ValueError:
        raise CoreError(field, "not_a_number", value=value[:20]) from None


def _allergens(value: object) -> tuple[str, ...]:
    """Nobody may leave them unsaid either: their names, or "none"."""
    said: Iterable[object] = value if isinstance(value, list) else str(value or "").replace(";", ",").split(",")
    words = [word for one in said if (word := str(one).strip().lower())]
    if not words:
        raise CoreError("contains", "words_needed")
    known = {tag for row in allergen_sets().values() for tag in row.members}
    tags = [allergen_tag(word) for word in words if word != NONE]
    for word, tag in zip([word for word in words if word != NONE], tags, strict=True):
        if tag not in known:
            raise CoreError("contains", "not_an_allergen", tag=word[:30])
    return tuple(dict.fromkeys(tags))

"""What the shelf shows: stores as they look from the front, what is first to use, one item with its history."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable
from typing import Any

from django.utils import timezone

from bulwark.lessons import log_wording
from bulwark.lessons import pages as lesson_pages
from bulwark.people.actors import Actor
from bulwark.presentation import phrases
from bulwark.shelf import labels, stock, wording
from bulwark.shelf.stock import Item

# So many stand on a shelf, and so many are first to use.
ACROSS, FIRST_TO_USE = 4, 6
_PLACES = ("fridge", "freezer", "out")


def shelf_page(actor: Actor, *, key: str = "", word: str = "") -> dict[str, Any]:
    """The stores with what stands in them, by ``word`` where something is looked for; the item that is open."""
    now = timezone.now()
    items = stock.items_of(actor, now)
    opened = next((item for item in items if item.key == key), None)
    over = [item.food for item in items if item.standing == "over"]
    today = [item.food for item in items if item.standing == "today"]
    return {
        "headline": wording.headline(list(dict.fromkeys(over)), list(dict.fromkeys(today))),
        "now": timezone.localtime(now),
        "stores": _stores([item for item in items if _has(item, word)], key),
        "first": [_line(item, key) for item in items if item.standing != "over"][:FIRST_TO_USE],
        "open": _opened(opened, actor) if opened else None,
        "lost": _lost(actor, key) if key and not opened else "",
        "word": word,
        "traces": [_trace(row) for row in stock.traced(actor, word)] if word else [],
        "names": sorted({item.store for item in items if item.store}),
        "places": list(log_wording.part_places().items()),
        "ends": list(log_wording.part_ends().items()),
        "count": len(items),
    }


def _lost(actor: Actor, key: str) -> str:
    """What is said of a label whose food does not stand here any more, or never did."""
    gone = stock.gone_part(actor, key)
    if gone is None or gone[1].ended is None:
        return wording.no_such_item()
    food, row = gone
    at = timezone.localtime(dt.datetime.fromtimestamp(row.ended_s or 0.0, tz=dt.UTC))
    return wording.gone(phrases.capital(food), log_wording.part_ends()[gone[1].ended], at)


def _has(item: Item, word: str) -> bool:
    """By food, lesson, allergen or the code of its label."""
    wanted = word.strip().casefold()
    told = (item.food, item.bench.lesson.title, item.bench.name, item.key, item.store, *item.contains)
    return not wanted or any(wanted in text.casefold() for text in told)


def _stores(items: Iterable[Item], key: str) -> list[dict[str, Any]]:
    """Each store with its shelves: soonest on the left, raw only below."""
    by_store: dict[tuple[int, str], list[Item]] = {}
    for item in items:
        by_store.setdefault((_PLACES.index(item.row.place), item.store), []).append(item)
    return [
        {
            "name": name or wording.store_names()[_PLACES[place]],
            "place": _PLACES[place],
            "store": name,
            "ready": _shelves([row for row in rows if not row.raw], key),
            "raw": _shelves([row for row in rows if row.raw], key),
        }
        for (place, name), rows in sorted(by_store.items())
    ]


def _shelves(items: list[Item], key: str) -> list[list[dict[str, Any]]]:
    return [[_line(item, key) for item in items[at : at + ACROSS]] for at in range(0, len(items), ACROSS)]


def _line(item: Item, key: str = "") -> dict[str, Any]:
    """An item as its ticket says it."""
    left_s = (item.until - timezone.now()).total_seconds() if item.until else 0.0
    return {
        "item": item,
        "key": item.key,
        "name": phrases.capital(item.food),
        "says": wording.standing(item.standing),
        "left": wording.left(left_s) if item.standing == "today" else "",
        "until": _until(item),
        "contains": ", ".join(item.contains),
        "vessel": "raw" if item.raw else "jar" if item.row.place == "freezer" else "tub",
        "is_open": item.key == key,
    }


def _until(item: Item) -> str:
    """Until when, to the hour where the rule counts hours; nothing where it is over whatever the clock says."""
    if item.until is None:
        return ""
    local = timezone.localtime(item.until)
    if item.standing == "today":
        return wording.today_at(local)
    return phrases.moment(local) if item.by_the_hour or item.standing == "over" else phrases.day(local)


def _opened(item: Item, actor: Actor) -> dict[str, Any]:
    """One item: its history, how its date comes about, and what can be done with it."""
    rows = [row for row in lesson_pages.log_rows(item.bench, actor.unit) if not row["voided"]]
    own = [row for row in rows if row["event"].data.get("food") == item.food]
    frozen = item.row.place == "freezer"
    thawed = stock.if_thawed(item, timezone.now()) if frozen else None
    return {
        **_line(item),
        "thawed": _line(thawed) if thawed else None,
        "history": own[-6:],
        "frozen": frozen,
        "lesson": item.bench.lesson,
        "reheat": stock.reheat_limit(item),
        "sheets": _sheets(),
    }


def _sheets() -> list[tuple[str, str]]:
    return [(name, wording.sheet(s.paper, s.count, s.width_mm, s.height_mm)) for name, s in labels.SHEETS.items()]


def _trace(row: stock.Trace) -> dict[str, Any]:
    """A bench that used what was looked for, and what became of what it kept."""
    ends, places = log_wording.part_ends(), log_wording.part_places()
    return {
        "bench": row.bench,
        "lesson": row.bench.lesson,
        "used": ", ".join(row.used),
        "learners": ", ".join(row.learners),
        "parts": [
            (food, part, found.portions, ends[found.ended] if found.ended else places[found.place])
            for food, part, found in row.parts
        ],
    }


def failure_page(actor: Actor, place: str, store: str, hours: float, *, known: bool) -> dict[str, Any]:
    """What a store that was too warm for so long means for each thing in it, before anybody enters it."""
    now = timezone.now()
    inside = stock.in_store(actor, place, store)
    rows = [stock.if_warm(item, hours * 3600, known=known, now=now) for item in inside]
    return {
        "rows": [
            {"line": _line(before), "after": _line(after), "lost": after.standing == "over" != before.standing}
            for before, after in zip(inside, rows, strict=True)
            if after is not None
        ],
        "title": store or wording.store_names()[place],
        "place": place,
        "store": store,
        "hours": f"{hours:g}",
        "known": known,
    }


def note_page(item: Item) -> dict[str, Any]:
    """What a family has to know of what is taken home: no name of a child is on it."""
    made = timezone.localtime(item.made_at)
    return {"line": _line(item), "item": item, "made": made, "reheat": stock.reheat_limit(item)}

"""A store that failed, or will: how warm each thing in it got, and what that means for it by the rules."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import dataclass
from typing import Any

from django.utils import timezone

from bulwark.devices import selectors as devices
from bulwark.devices.models import Instrument
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import Actor
from bulwark.presentation import phrases
from bulwark.shelf import index, stock, wording
from bulwark.shelf.pages import line
from bulwark.shelf.stock import Item
from foodsafety.cooling import Filled, StoreKind, Warmed, depth_in, power_cut, unread_s, warmed

# So far back a store's own log is looked at.
LOOK_BACK = dt.timedelta(days=4)


@dataclass(frozen=True, slots=True, kw_only=True)
class Failed:
    """A thing in a store that failed: for how long [s] it counts as too warm, whether all of that was measured, what it
    reached (None: nobody knows), and how it stands then."""

    item: Item
    warm_s: float
    known: bool
    reached: Warmed | None
    after: Item

    @property
    def fate(self) -> str:
        """What is done with it: it stays, is used now, goes, or somebody closes its hole first."""
        if self.after.standing == "over":
            return "goes"
        if self.after.until is None:
            return "hole"
        soon = stock.standing_at("", self.after.until, timezone.now()) in ("today", "first")  # with a hole in it too
        return "now" if soon and self.warm_s > 0 else "stays"


def failed_by_hours(actor: Actor, place: str, store: str, warm_s: float, *, known: bool) -> list[Failed]:
    """Everything in a store that was too warm for so long [s], as somebody says."""
    now, found = timezone.now(), list[Failed]()
    for item in index.items_of(actor, now, place=place, store=store):
        after = stock.if_warm(item, warm_s, known=known, now=now)
        if after is not None:
            found.append(Failed(item=item, warm_s=warm_s, known=known, reached=None, after=after))
    return found


def failed_by_log(actor: Actor, place: str, store: str, logger: Instrument) -> list[Failed]:
    """Everything in a store, by what its logger has read since each of them stood in it: its air, or by its size where
    somebody said what it stands in. While the logger was silent nobody knows, and that counts as too warm. A store that
    had no logger yet is not held against what stood there."""
    now, found = timezone.now(), list[Failed]()
    fresh = devices.ran_on(logger)
    own_now = devices.own_time(logger)
    rows = devices.readings_since(logger, own_now - LOOK_BACK, fresh)
    begun = devices.first_reading(logger) or (rows[0][0] if rows else None)
    kind: StoreKind = "freezer" if place == "freezer" else "fridge"
    for item in index.items_of(actor, now, place=place, store=store):
        # What was entered before is not held against it twice.
        from_s = max(item.row.since_s, item.row.judged_s or 0.0)
        since = max(dt.datetime.fromtimestamp(from_s, tz=dt.UTC), now - LOOK_BACK)
        series = devices.as_series([row for row in rows if row[0] >= since], since)
        profile, box = lessons.profile_of(item.bench.lesson), item.row.box
        depth_m = depth_in(box.container, box.litres, box.count) if box and box.litres is not None else None
        until_s = (own_now - since).total_seconds()
        reached = warmed(
            series, profile, kind=kind, now_s=until_s, depth_m=depth_m, wrap=box.wrap if box is not None else ""
        )
        silent_s = unread_s(series, max(0.0, (begun - since).total_seconds()) if begun else 0.0, until_s)
        warm_s, known = min(until_s, (reached.above_s if reached else 0.0) + silent_s), silent_s == 0
        after = stock.if_warm(item, warm_s, known=known, now=now) if warm_s > 0 else item
        if after is not None:
            found.append(Failed(item=item, warm_s=warm_s, known=known, reached=reached, after=after))
    return found


def failed_in_cut(
    actor: Actor, place: str, store: str, *, since: dt.datetime, opens: dt.datetime, filled: Filled, shut: bool
) -> tuple[list[Failed], dt.datetime, str]:
    """What a power cut will have done to everything in a store when it is opened; until when it stays cold, and
    where that stands."""
    kind: StoreKind = "freezer" if place == "freezer" else "fridge"
    cut = power_cut(kind, off_s=since.timestamp(), filled=filled, lid_shut=shut)
    warm_s, found = cut.warm_s(opens.timestamp()), list[Failed]()
    for item in index.items_of(actor, timezone.now(), place=place, store=store):
        after = stock.if_warm(item, warm_s, known=False, now=opens)  # its own time runs on too
        if after is not None:
            found.append(Failed(item=item, warm_s=warm_s, known=False, reached=None, after=after))
    return found, dt.datetime.fromtimestamp(cut.cold_until_s, tz=dt.UTC), cut.section


def failure_page(actor: Actor, asked: dict[str, Any], rows: list[Failed], logger: Instrument | None) -> dict[str, Any]:
    """What a store that failed means for each thing in it, before anybody enters it: what goes first."""
    now = timezone.now()
    order = {"goes": 0, "hole": 1, "now": 2, "stays": 3}
    name = asked["store"] or wording.store_names()[asked["place"]]
    return {
        "rows": [_row(row, now, actor.unit) for row in sorted(rows, key=lambda row: order[row.fate])],
        "title": name,
        "place": asked["place"],
        "store": asked["store"],
        "hours": "" if asked["hours"] is None else f"{asked['hours']:g}",
        "known": asked["known"],
        "silent": logger is not None and not all(row.known for row in rows),
        "logger": logger,
        "counts": {fate: sum(1 for row in rows if row.fate == fate) for fate in order},
    }


def _row(row: Failed, now: dt.datetime, unit: str) -> dict[str, Any]:
    return {
        "line": line(row.item, now, unit=unit),
        "after": line(row.after, now, unit=unit),
        "fate": row.fate,
        "says": wording.fate(row.fate),
        "warm": phrases.duration(60 * math.ceil(row.warm_s / 60)) if row.warm_s else "",
        "reached": _reached(row.reached, unit),
        "known": row.known,
    }


def _reached(found: Warmed | None, unit: str) -> str:
    if found is None:
        return ""
    low, high = (phrases.degrees(at_c, unit, cold=True) for at_c in (found.low_c, found.high_c))
    return wording.reached(low, high, by_size=found.by_size)

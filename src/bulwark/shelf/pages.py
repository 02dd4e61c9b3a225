"""What the shelf shows: stores as they look from the front, what is first to use, one item with its history."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterable, Mapping
from typing import Any

from django.db.models import Count, F, Min, Q, QuerySet
from django.utils import timezone

from bulwark.devices import selectors as devices
from bulwark.lessons import call_wording, log_wording
from bulwark.lessons import pages as lesson_pages
from bulwark.lessons import selectors as lessons
from bulwark.people.actors import Actor
from bulwark.presentation import phrases
from bulwark.shelf import index, labels, selectors, stock, wording
from bulwark.shelf.models import Shelved
from bulwark.shelf.stock import Item
from foodsafety.cooling import BoxTrip, FrozenPiece, box_need, containers, plan_thawing, unknown_dish
from foodsafety.lesson import WRAPS, Box, Due, chill_ahead
from foodsafety.quantities import Temperature

# So many stand on a shelf, so many are first to use, so many are drawn of a store, and of all stores together.
ACROSS, FIRST_TO_USE, MOST_IN_STORE, MOST_AT_ONCE = 4, 6, 40, 60
# So many entries of an item's history since it was put away.
MOST_HISTORY = 10
_PLACES = ("fridge", "freezer", "out")
# What takes longer to thaw than this [s] is not thawed in a fridge.
THAW_MOST_S = 7 * 86_400.0


def shelf_page(actor: Actor, *, key: str = "", word: str = "", store: str = "", whole: bool = False) -> dict[str, Any]:
    """The stores with what stands in them, by ``word`` where something is looked for; the item that is open. Where
    there is too much for one page one store is drawn, and the others are named with how much is in them."""
    now = timezone.now()
    rows = index.shelved(actor)
    opened = stock.found_item(actor, key, now) if key else None
    found = rows.filter(_has(word)) if word else rows
    stores = _stores(found, now)
    shown = _shown(stores, opened, store, drawn_all=sum(row["count"] for row in stores) <= MOST_AT_ONCE)
    return {
        "headline": _headline(rows, now, actor.unit),
        "now": timezone.localtime(now),
        "stores": stores,
        "drawn": [_drawn(found, row, key, now, whole=whole) for row in shown],
        "first": [line(row, now, key) for row in _first(rows, now)],
        "open": _opened(opened, actor, now) if opened else None,
        "lost": _lost(actor, key) if key and not opened else "",
        "word": word,
        "names": _names(actor, stores),
        "places": list(log_wording.part_places().items()),
        "ends": [(n, text) for n, text in log_wording.part_ends().items() if n not in ("missing", "discarded")],
        "count": sum(row["count"] for row in stores),
    }


def _names(actor: Actor, stores: Iterable[dict[str, Any]]) -> list[str]:
    """Stores by name: those that have a logger, and those that somebody has named."""
    logged = {row.name for row in devices.stores_for(actor)}
    return sorted(logged | {row["store"] for row in stores if row["store"]})


def _lost(actor: Actor, key: str) -> str:
    """What is said of a label whose food does not stand here any more, or never did."""
    gone = stock.gone_part(actor, key)
    if gone is None or gone[1].ended is None:
        return wording.no_such_item()
    food, row = gone
    at = timezone.localtime(dt.datetime.fromtimestamp(row.ended_s or 0.0, tz=dt.UTC))
    return wording.gone(phrases.capital(food), log_wording.part_ends()[gone[1].ended], at)


def _has(word: str) -> Q:
    """By food, lesson, bench, store, allergen or the code of its label."""
    wanted = word.strip()
    bench, _, rest = wanted.partition("-")
    part, _, food = rest.partition("-")
    named = Q(food__icontains=wanted) | Q(bench__lesson__title__icontains=wanted) | Q(bench__name__icontains=wanted)
    named |= Q(store__icontains=wanted) | Q(contains__icontains=wanted.lower())
    coded = bench.isdecimal() and len(bench) < 10 and bool(food)
    return named | Q(bench=int(bench), part=part, food__iexact=food) if coded else named


def _stores(rows: QuerySet[Shelved], now: dt.datetime) -> list[dict[str, Any]]:
    """Every store that has something in it: how much, how much of that is over."""
    found = rows.order_by().values("place", "store")
    found = found.annotate(count=Count("pk"), over=Count("pk", filter=index.is_over(now)), soonest=Min("until"))
    stores = [
        {**row, "id": f"{row['place']}:{row['store']}", "name": row["store"] or wording.store_names()[row["place"]]}
        for row in found
    ]
    return sorted(stores, key=lambda row: (_PLACES.index(row["place"]), row["store"]))


def _shown(stores: list[dict[str, Any]], opened: Item | None, asked: str, *, drawn_all: bool) -> list[dict[str, Any]]:
    """The stores that are drawn: all, the one asked for, that of the open item, or the one in which most is over."""
    wanted = asked or (f"{opened.place}:{opened.store}" if opened else "")
    if drawn_all and not asked:
        return sorted(stores, key=lambda row: row["id"] != wanted)
    by_need = sorted(stores, key=lambda row: (row["id"] != wanted, -row["over"], row["soonest"] is None))
    return by_need[:1]


def _drawn(
    rows: QuerySet[Shelved], store: dict[str, Any], key: str, now: dt.datetime, *, whole: bool
) -> dict[str, Any]:
    """A store with its shelves: soonest on the left, what has an allergen in it below what has none, raw only below
    all."""
    inside = list(rows.filter(place=store["place"], store=store["store"])[: None if whole else MOST_IN_STORE])
    return {
        **store,
        "free": _shelves([line(row, now, key) for row in inside if not row.raw and not row.contains]),
        "ready": _shelves([line(row, now, key) for row in inside if not row.raw and row.contains]),
        "raw": _shelves([line(row, now, key) for row in inside if row.raw]),
        "more": store["count"] - len(inside),
    }


def _shelves(lines: list[dict[str, Any]]) -> list[list[dict[str, Any]]]:
    return [lines[at : at + ACROSS] for at in range(0, len(lines), ACROSS)]


def _headline(rows: QuerySet[Shelved], now: dt.datetime, unit: str) -> str:
    """What must be done at a shelf now."""
    over = rows.filter(index.is_over(now)).order_by("food").values_list("food", flat=True).distinct()[:4]
    today = rows.filter(index.ends_today(now)).order_by("food").values_list("food", flat=True).distinct()[:4]
    cooling = [row for row in rows.filter(state="cooling") if row.due]
    nearest = min(cooling, key=lambda row: row.due[0][2], default=None)
    read = wording.read_by(nearest.food, *_due(nearest.due[0]), unit) if nearest else ""
    holes = rows.filter(state="hole", until=None).order_by("food").values_list("food", flat=True).distinct()[:4]
    return wording.headline(list(over), list(today), read, list(holes))


def _due(row: list[Any]) -> tuple[Temperature, dt.datetime]:
    return Temperature(value=row[0], unit=row[1]), dt.datetime.fromtimestamp(row[2], tz=dt.UTC)


def _first(rows: QuerySet[Shelved], now: dt.datetime) -> list[Shelved]:
    """What is used first: what is hot or has a hole, then by its date."""
    return list(rows.exclude(index.is_over(now)).order_by(F("until").asc(nulls_first=True), "food")[:FIRST_TO_USE])


def line(row: Shelved | Item, now: dt.datetime, key: str = "", unit: str = "C") -> dict[str, Any]:
    """A part as its ticket says it."""
    standing = row.standing if isinstance(row, Item) else stock.standing_at(row.state, row.until, now)
    left_s = (row.until - now).total_seconds() if row.until else 0.0
    return {
        "key": row.key,
        "standing": standing,
        "portions": row.portions,
        "raw": row.raw,
        "name": phrases.capital(row.food),
        "says": wording.standing(standing),
        "left": wording.left(left_s) if standing == "today" else _cools(row, unit) if standing == "cooling" else "",
        "until": _until(row, standing),
        "contains": ", ".join(row.contains),
        "vessel": _vessel(row),
        "is_open": row.key == key,
        "why": row.why if isinstance(row, Item) else (),
    }


def _cools(row: Shelved | Item, unit: str) -> str:
    """What must be read next of a part that cools."""
    if isinstance(row, Item):
        due = [(one.limit, _at(one)) for one in (row.chilling.due if row.chilling else ())]
    else:
        due = [_due(one) for one in row.due]
    return wording.due_by(*due[0], unit) if due else ""


def _at(due: Due) -> dt.datetime:
    return dt.datetime.fromtimestamp(due.at_s, tz=dt.UTC)


def _vessel(row: Shelved | Item) -> str:
    """What it is drawn in: what somebody said it stands in, else by its place."""
    name = (row.row.box.container if row.row.box else "") if isinstance(row, Item) else row.container
    kind = "pot" if name.startswith("pot") else "tray" if name.startswith(("tray", "sheet")) else "tub" if name else ""
    return "raw" if row.raw else kind or ("jar" if row.place == "freezer" else "tub")


def _until(row: Shelved | Item, standing: str) -> str:
    """Until when, to the hour where the rule counts hours; nothing where it is over whatever the clock says."""
    if row.until is None:
        return ""
    local = timezone.localtime(row.until)
    if standing == "today":
        return wording.today_at(local)
    return phrases.moment(local) if row.by_the_hour or standing == "over" else phrases.day(local)


def _opened(item: Item, actor: Actor, now: dt.datetime) -> dict[str, Any]:
    """One item: its history, how its date comes about, and what can be done with it."""
    rows = [row for row in lesson_pages.log_rows(item.bench, actor.unit) if not row["voided"]]
    own = [row for row in rows if row["event"].data.get("food") == item.food]
    frozen = item.place == "freezer"
    thawed = stock.if_thawed(item, now) if frozen else None
    return {
        **line(item, now, unit=actor.unit),
        "item": item,
        "thawed": line(thawed, now) if thawed else None,
        "history": _since_kept(own),
        "frozen": frozen,
        "lesson": item.bench.lesson,
        "reheat": stock.reheat_limit(item),
        "sheets": _sheets(),
        "printers": devices.printers_for(actor),
        "cooling": _cooling(item, actor.unit),
        "box": wording.stands_in(item.row.box) if item.row.box else "",
        "box_now": _box(item.row.box),
        "boxes": [(row.id, row.name) for row in containers().values()],
        "wraps": [(name, wording.wraps()[name]) for name in WRAPS],
        "wrap_means": wording.wrap_means(item.row.box.wrap, frozen=frozen) if item.row.box else [],
        "lessons": selectors.lessons_to_use_in(actor, now),
        "kept_for": selectors.kept_for(item),
        "signable": item.row.until_s is not None or (item.standing == "hole" and item.until is None),
        "whys": list(call_wording.why_discarded().items()),
        "thick_cm": stock.thickness_cm(item) or "",
        "needed": "",
        "thaw": "",
        "thaw_wrong": "",
    }


def _since_kept(rows: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """The history of a part: the last that was done with it before it was put away, and all that came then."""
    at = next((n for n, row in enumerate(rows) if row["event"].kind == "stored"), len(rows))
    return [*rows[max(0, at - 1) : at + 1], *rows[at + 1 :][-MOST_HISTORY:]]


def _box(box: Box | None) -> dict[str, Any]:
    """What it stands in, as a form asks for it."""
    if box is None:
        return {"container": "", "count": 1, "litres": "", "wrap": ""}
    return {"container": box.container, "count": box.count, "litres": box.litres or "", "wrap": box.wrap}


def _cooling(item: Item, unit: str) -> dict[str, Any] | None:
    """How it cools, what must be read by when, and what the planner makes of it; None where nothing is asked."""
    look = item.chilling
    if look is None or look.standing == "not-asked":
        return None
    profile = lessons.profile_of(item.bench.lesson)
    ahead = chill_ahead(look, item.row, profile, timezone.now().timestamp())
    says = []
    if ahead and ahead.in_time:
        reached = [(row.limit, ahead.reached_s.get(row.limit.c)) for row in look.due]
        says = [
            wording.look_at(dt.datetime.fromtimestamp(at_s, tz=dt.UTC), limit, unit)
            for limit, at_s in reached
            if at_s is not None
        ]
    elif ahead:
        ways = " ".join(wording.chill_way(plan) for plan in ahead.better)
        says = [wording.will_be_late(ways)]
    return {
        "standing": look.standing,
        "says": wording.cooling_says(look.standing),
        "due": [wording.due_by(row.limit, _at(row), unit) for row in look.due],
        "ahead": says,
        "no_box": look.standing == "cooling" and ahead is None,
        "section": look.section,
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
        "used_in": selectors.used_in(row.bench),
    }


def note_page(item: Item, actor: Actor, asked: Mapping[str, Any]) -> dict[str, Any]:
    """What a family has to know of what is taken home, as a page and as one message, in the words of their language
    where the organisation has some: no name of a child is on it."""
    now = timezone.now()
    minutes, warm = asked.get("minutes", ""), asked.get("warm", "")
    told = line(item, now, unit=actor.unit)
    sets = selectors.note_words(actor)
    chosen = next((row for row in sets if str(row.pk) == asked.get("words", "")), None)
    words = chosen.words if chosen else {}
    good = bool(told["until"]) and told["standing"] not in ("over", "hole")
    says = _note_lines(item, told, words) if good else [wording.in_note("may_not", words)]
    way = _way_home(item, actor.unit, minutes, warm, now) if good else []
    if good and (chill := labels.label_words(item)["chill"]):
        way = [f"{chill}.", *way]
    return {
        "line": told,
        "item": item,
        "good": good,
        "says": says,
        "way": way,
        "text": f"{told['name']}: {' '.join([*says, *way])}",
        "languages": sets,
        "chosen": chosen,
        "minutes": minutes[:4],
        "warm": warm[:5],
    }


def _note_lines(item: Item, told: dict[str, Any], words: Mapping[str, str]) -> list[str]:
    made = phrases.day(timezone.localtime(item.made_at))
    allergens = ", ".join(words.get(f"allergen:{name}") or name for name in item.contains)
    return [
        wording.in_note("eat_by", words, until=told["until"]),
        wording.in_note("made", words, made=made),
        wording.in_note("frozen" if item.place == "freezer" else "fridge", words),
        wording.in_note("heat", words, limit=stock.reheat_limit(item)),
        wording.in_note("contains", words, allergens=allergens)
        if item.contains
        else wording.in_note("no_allergen", words),
        wording.in_note("smell", words),
    ]


def words_page(actor: Actor, language: str, typed: Mapping[str, str]) -> dict[str, Any]:
    """The sentences of a note for home, and what the organisation has of them in a language."""
    sets = selectors.note_words(actor)
    chosen = next((row for row in sets if row.language == language), None)
    known = {**(chosen.words if chosen else {}), **typed}
    english = {**wording.note_sentences(), **{f"allergen:{name}": name for name in selectors.allergen_names()}}
    rows = [{"id": name, "english": text, "said": known.get(name, "")} for name, text in english.items()]
    return {"language": language, "languages": sets, "rows": rows}


def _way_home(item: Item, unit: str, minutes: str, warm: str, now: dt.datetime) -> list[str]:
    """How long it may travel without anything cold, and with how many packs for longer; nothing where nobody said how
    warm it is outside, or how long the way is."""
    if not (minutes.isdecimal() and len(minutes) < 4 and warm.strip("-").replace(".", "", 1).isdecimal()):
        return []
    outside = Temperature(value=float(warm), unit="F" if unit == "F" else "C")
    profile = lessons.profile_of(item.bench.lesson)
    limit = profile.clock_for("cold", max(-40.0, min(60.0, outside.c)))
    left_s = (limit.warn_s or limit.limit_s) - item.row.out_until(now.timestamp())
    says = [wording.way_home(max(0, int(left_s // 60)), phrases.degrees(outside.c, unit, cold=True))]
    cold_c = profile.hold["cold"].temperature.c
    if left_s < 60 * int(minutes) and outside.c > cold_c:
        trip = BoxTrip(
            box="soft_15l",
            cold="packs",
            ambient_c=outside.c,
            hours=max(0.25, int(minutes) / 60),
            food_kg=1.0,
            food_c=cold_c,
            keep_c=cold_c,
            openings=1,
        )
        says.append(wording.with_packs(max(1, math.ceil(box_need(trip).cold_kg / 0.5)), int(minutes)))
    return says


def thaw_says(item: Item, needed: dt.datetime, thick_cm: float) -> str:
    """By when a frozen part goes into the fridge to be thawed when it is needed, reckoned slowly; and what stands in
    the way of that."""
    profile = lessons.profile_of(item.bench.lesson)
    half_m = thick_cm / 200
    piece = FrozenPiece(shape="slab", size_m=(half_m,), composition=unknown_dish(1.0).composition)
    around_c, frozen_c = (profile.hold[name].temperature.c for name in ("cold", "freezer"))
    took_s = plan_thawing(piece, profile, where="fridge", around_c=around_c, start_c=frozen_c).took_s
    hours = math.ceil((took_s or THAW_MOST_S) / 3600)
    start, now = needed - dt.timedelta(hours=hours), timezone.now()
    if start < now:
        return wording.thaw_too_late(hours)
    thawed = stock.if_thawed(item, start)
    if thawed is None or thawed.until is None or thawed.until < needed:
        kept = wording.thaw_not_kept(thawed.until) if thawed and thawed.until else wording.standing("over")
        return f"{wording.thaw_by(start, hours, needed)} {kept}"
    return wording.thaw_by(start, hours, needed)


def work_page(over: list[Item], place: str, store: str) -> dict[str, Any]:
    """What is over in a store, to be worked through."""
    now = timezone.now()
    title = store or wording.store_names().get(place, place)
    return {"rows": [line(item, now) for item in over], "title": title, "place": place, "store": store}


def put_page(bench: Any, food: str) -> dict[str, Any]:
    """Where and in what a bench has put a food."""
    state, _ = lessons.bench_state(bench)
    kept = state.food(state.plan.known.get(food, food)).kept
    part = state.food(state.plan.known.get(food, food)).parts.get("1")
    stores = devices.store_names(bench.lesson.organisation_id, kept.place if kept else "")
    return {
        "food": food,
        "name": phrases.capital(food),
        "kept": kept,
        "said": {
            "store": part.store if part else "",
            "portions": part.portions or "" if part else "",
            **_box(part.box if part else None),
        },
        "stores": stores,
        "boxes": [(row.id, row.name) for row in containers().values()],
        "wraps": [(name, wording.wraps()[name]) for name in WRAPS],
        "wrap_means": {
            name: " ".join(wording.wrap_means(name, frozen=bool(kept and kept.place == "freezer"))) for name in WRAPS
        },
    }


def count_page(actor: Actor) -> dict[str, Any]:
    """Everything on the shelves, store by store, to be gone through with a phone."""
    now, rows = timezone.now(), index.shelved(actor)
    stores = _stores(rows, now)
    by_store: dict[str, list[dict[str, Any]]] = {store["id"]: [] for store in stores}
    for row in rows:
        by_store[f"{row.place}:{row.store}"].append(line(row, now))
    return {"stores": [{**store, "lines": by_store[store["id"]]} for store in stores], "now_ms": now.timestamp() * 1000}


def recall_page(actor: Actor, word: str) -> dict[str, Any]:
    """Where something went, and the drills so far."""
    running = selectors.drill_running(actor)
    traces = stock.traced(actor, word) if word else []
    return {
        "word": word,
        "traces": [_trace(row) for row in traces],
        "running": running,
        "drills": selectors.drills(actor),
    }

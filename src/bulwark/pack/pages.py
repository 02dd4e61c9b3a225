"""What the pages and papers of a lesson's pack show."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from itertools import groupby
from types import MappingProxyType
from typing import Any

from django.utils import timezone

from bulwark.bench import wording as bench_wording
from bulwark.board import pages as board_pages
from bulwark.groups.selectors import roles_of
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import pages as lesson_pages
from bulwark.lessons import selectors as lessons
from bulwark.lessons.adapters import step_texts
from bulwark.pack import wording
from bulwark.pack.cards import printed_rows
from bulwark.pack.field import Field
from bulwark.pack.selectors import Pack
from bulwark.people.actors import Actor
from bulwark.presentation.phrases import capital, duration
from bulwark.recipes import wording as recipe_wording
from bulwark.recipes.wording import tool
from bulwark.shelf import index
from bulwark.shelf.models import Shelved
from bulwark.shelf.selectors import brought_to
from foodsafety.foods import AllergenSet, allergens_for, plain_id
from foodsafety.planning import planning_figures
from foodsafety.recipes import Process
from foodsafety.review import ToBuy, review_recipe

# A day more than the lesson: what is over by then is worth using in it.
USE_UP = dt.timedelta(days=1)


def pack_page(pack: Pack, way_min: int, actor: Actor) -> dict[str, Any]:
    """The shopping list to work through, dates, and everything that can be printed."""
    lesson, field = pack.lesson, Field(pack)
    end = lesson.starts_at + dt.timedelta(minutes=lesson.length_min)
    return {
        "use_up": [_on_shelf(row) for row in index.to_use_up(actor, end + USE_UP)[:8]],
        "lesson": lesson,
        "parts": [(part, wording.part_name(part)) for part in field.parts()],
        "reminders": pack.before(),
        "field": field,
        **(_boxes(pack) if field.no_tap else {}),
        **shopping_part(pack, way_min, _stock(actor, end)),
    }


def _stock(actor: Actor, end: dt.datetime) -> dict[str, list[dict[str, Any]]]:
    """What stands on the shelf and is still good when the lesson ends, by its name."""
    found: dict[str, list[dict[str, Any]]] = {}
    for row in index.good_on(actor, end):
        found.setdefault(plain_id(row.food), []).append(_on_shelf(row))
    return found


def _on_shelf(row: Shelved) -> dict[str, Any]:
    until = timezone.localtime(row.until) if row.until else None
    return {"key": row.key, "name": capital(row.food), "portions": row.portions, "until": until, "place": row.place}


def shopping_part(
    pack: Pack, way_min: int, stock: Mapping[str, list[dict[str, Any]]] = MappingProxyType({})
) -> dict[str, Any]:
    """What to buy, by sections; what was kept for this lesson is not bought, what else stands on the shelf (``stock``,
    by its name) is said beside its line."""
    found, decided = pack.shopping, kitchens.decided_by(pack.lesson.organisation_id)
    named = allergens_for(profile_id=pack.lesson.profile)
    profile = lessons.profile_of(pack.lesson)
    sections = [
        {
            "id": name,
            "name": wording.section(name),
            "rows": [
                {
                    **_bought(row, named.members, decided.currency),
                    "stock": [one for name in sorted(_names_of(row)) for one in stock.get(name, ())],
                }
                for row in rows
            ],
        }
        for name, rows in groupby(found.rows, key=lambda row: row.section)
    ]
    cold = any(row.cold and not row.have for row in found.rows)
    return {
        "sections": sections,
        "total": found.total,
        "complete": found.complete,
        "currency": decided.currency,
        "benches_count": pack.benches,
        "way_min": way_min,
        "way": wording.way_home(way_min, duration(profile.clocks["cold"].limit_s)) if cold else "",
        "ice": wording.ice_needed(way_min) if cold and way_min >= planning_figures()["way_home"]["long_min"] else "",
        "moved_on": lesson_pages.changed_since(pack.lesson, pack.lesson.recipe.process, "C"),
    }


def _names_of(row: ToBuy) -> set[str]:
    """What food on a shelf may be called that is this."""
    return {plain_id(name) for name in (row.kind, row.name) if name}


def _bought(row: ToBuy, named: Any, currency: str) -> dict[str, Any]:
    return {
        "id": row.kind or row.name.lower(),
        "name": row.name,
        "buy": wording.to_buy(row),
        "need": wording.quantity(row.amount, row.unit) if row.amount is not None and row.packs else "",
        "left": wording.quantity(row.left, row.unit) if row.packs and row.left >= 1 else "",
        "cost": f"{row.cost} {currency}" if row.cost is not None else "",
        "allergens": ", ".join(named.get(tag, tag.replace("_", " ")) for tag in sorted(row.allergens)),
        "have": row.have,
        "lines": row.lines,
    }


def shopping_rows(pack: Pack) -> list[list[object]]:
    """The shopping list as a sheet."""
    part = shopping_part(pack, 0)
    head: list[list[object]] = [["Section", "What", "Buy", "Needed", "Left over", "Cost", "Allergens to read", "There"]]
    return head + [
        [
            section["name"],
            row["name"],
            row["buy"],
            row["need"],
            row["left"],
            row["cost"],
            row["allergens"],
            "yes" if row["have"] else "",
        ]
        for section in part["sections"]
        for row in section["rows"]
    ]


def paper(pack: Pack, parts: list[str], *, letter: bool, way_min: int) -> dict[str, Any]:
    """Some parts of the pack, as they are printed."""
    made: dict[str, Any] = {
        "run-sheet": _run_sheet,
        "cards": _cards,
        "kit": _kit,
        "poster": _poster,
        "labels": _labels,
        "boxes": _boxes,
    }
    context: dict[str, Any] = {
        "lesson": pack.lesson,
        "parts": [(part, f"pack/_{part.replace('-', '_')}.html", wording.part_name(part)) for part in parts],
        "letter": letter,
        "profile": lessons.profile_of(pack.lesson),
        "asked": lesson_pages.open_lines(pack.lesson),
    }
    for part in parts:
        context |= shopping_part(pack, way_min) if part == "shopping" else made[part](pack)
    return context


def _run_sheet(pack: Pack) -> dict[str, Any]:
    page = board_pages.run_sheet(pack.board)
    talks = {f"{timezone.localtime(at):%H:%M}": words for at, words in pack.talks()}
    moments = [*page.get("moments", [])]
    there = {moment["at"] for moment in moments}
    moments += [{"at": at, "rows": []} for at in talks if at not in there]  # where something ends and nothing begins
    for moment in moments:
        moment["say"] = talks.get(moment["at"], "")
    return {
        **page,
        "moments": sorted(moments, key=lambda row: row["at"]),
        "before": pack.before(),
        "brought": brought_to(pack.lesson),
    }


def _cards(pack: Pack) -> dict[str, Any]:
    """A card for each bench: in front what it does and its limits, behind what keeps it clean."""
    page = board_pages.board_page(pack.board)
    plan = lesson_pages.plan_page(pack.lesson, pack.lesson.profile, lessons.profile_of(pack.lesson).unit)
    duties = {row.name: ", ".join(row.duties) for row in roles_of(pack.lesson.group)} if pack.lesson.group else {}
    cards = []
    for bench in lessons.benches_of(pack.lesson):
        rows = [row for row in page.get("table", []) if row["bench"] in (bench.name, "")]
        steps = step_texts(pack.lesson, bench.dishes)
        said = [{**row, "detail": steps.get(row["step"], {}).get("detail", "")} for row in _washes_as_one(rows)]
        said = printed_rows(pack, bench, said) if said else []
        cards.append(
            {
                "bench": bench,
                "rows": said,
                "roles": [
                    (one.initials, one.role, duties.get(one.role, "")) for one in bench.learners.all() if one.role
                ],
                "kit_order": _kit_order(pack, bench),
                "limits": lesson_pages.limits_of(lessons.plan_at(bench)),
            }
        )
    scrub_s = plan["plan"].profile.scrub_s
    return {
        "cards": cards,
        **{name: page[name] for name in ("headline", "not_kept", "unclean", "decided", "granted", "fits")},
        "brought": brought_to(pack.lesson),
        "not_for": plan["not_for"],
        "eaters_said": plan["eaters_said"],
        "stages": _stages(max(scrub_s, plan["plan"].house.scrub_s)),
    }


def _washes_as_one(rows: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """A card's rows with the hand-washes of arriving as one: who in which order."""
    washes = [row for row in rows if row["kind"] == "wash" and not row["step"]]
    if not washes:
        return rows
    first = {**washes[0], "who": ", ".join(row["who"] for row in washes if row["who"])}
    return [first if row is washes[0] else row for row in rows if row is washes[0] or row not in washes]


def _kit_order(pack: Pack, bench: lessons.Bench) -> list[tuple[str, list[str]]]:
    """Which food each board and knife of a bench meets, in the order of the plan: what is raw stands out by its
    order."""
    process, titles = lessons.plan_at(bench).process, lessons.step_titles(pack.lesson)
    kinds = ("board", "chopping_board", "cutting_board", "knife", "bowl", "mixing_bowl", "tongs")
    found: dict[str, list[str]] = {}
    for step in board_pages.steps_in_order(pack.board, bench):
        for name in step.tools:
            if process.tools[name].kind in kinds:
                found.setdefault(name, []).append(titles[step.id])
    return list(found.items())


def _kit(pack: Pack) -> dict[str, Any]:
    """What lies on the prep table for each bench, weighed out, and what stands in its kit bag."""
    plan = lessons.plan_for(pack.lesson)
    review = review_recipe(
        plan.process,
        pack.lesson.process["steps"],
        named=allergens_for(profile_id=pack.lesson.profile),
        profile=plan.profile,
        house=plan.house,
        benches=pack.benches,
    )
    return {
        "weighed": [
            {
                "text": item.text,
                "amount": recipe_wording.amount(item),
                "g": wording.quantity(grams, "g") if grams is not None else "",
                "only": ", ".join(only),
            }
            for item, grams, only in pack.weighed()
        ],
        "bag": [(tool(need.kind), need.each) for need in review.needs],
        "benches_count": pack.benches,
    }


def _stages(scrub_s: float) -> list[dict[str, Any]]:
    """The stages of a hand-wash with their seconds in words."""
    return [{**row, "words": duration(float(str(row["s"])))} for row in bench_wording.wash_stages(scrub_s)]


def _poster(pack: Pack) -> dict[str, Any]:
    plan = lessons.plan_for(pack.lesson)
    stages = _stages(max(plan.profile.scrub_s, plan.house.scrub_s))
    return {"stages": stages, "scrub_s": sum(int(str(row["s"])) for row in stages if row["scrub"])}


def _label(process: Process, food: str, named: AllergenSet) -> dict[str, Any]:
    """A food with what is in it."""
    parts = [process.foods[name] for name in process.ingredients_of(food)]
    inside = frozenset(tag for part in parts for tag in part.allergens)
    unknown = [part.id for part in parts if part.kind is None]
    return {"food": food, "contains": list(named.named(inside).values()), "unknown": unknown}


def _labels(pack: Pack) -> dict[str, Any]:
    """Labels for what may be kept: what is known now; the dates are written when it is put away."""
    named = allergens_for(profile_id=pack.lesson.profile)
    rows = [
        {"bench": bench.name, **_label(lessons.plan_at(bench).process, food, named)}
        for bench in lessons.benches_of(pack.lesson)
        for food in lessons.plan_at(bench).process.serve
    ]
    return {"labels": rows, "made_on": timezone.localtime(pack.lesson.starts_at).date()}


def _boxes(pack: Pack) -> dict[str, Any]:
    field = Field(pack)
    return {"boxes": field.boxes(), "heat_says": field.heat_says()}


def calendar(pack: Pack) -> list[dict[str, Any]]:
    """The lesson and its dates, for a calendar."""
    lesson = pack.lesson
    rows: list[dict[str, Any]] = [
        {
            "uid": f"lesson-{lesson.pk}",
            "says": wording.reminder("lesson", lesson.title),
            "at": lesson.starts_at,
            "minutes": lesson.length_min,
            "why": "",
            "place": lesson.place,
        }
    ]
    for n, row in enumerate([*pack.before(), *pack.within()]):
        rows.append(
            {
                "uid": f"lesson-{lesson.pk}-{row.kind}-{n}",
                "says": row.says,
                "at": row.at,
                "minutes": row.minutes,
                "why": row.why,
                "place": "",
            }
        )
    return rows


def ics(rows: list[dict[str, Any]]) -> bytes:
    """Dates as an iCalendar file (RFC 5545)."""
    from icalendar import Calendar, Event

    book = Calendar()
    book.add("prodid", "-//Bulwark//lesson//EN")
    book.add("version", "2.0")
    for row in rows:
        event = Event()
        event.add("uid", f"{row['uid']}@bulwark")
        event.add("summary", row["says"])
        at = row["at"].astimezone(dt.UTC)
        event.add("dtstart", at)
        event.add("dtend", at + dt.timedelta(minutes=row["minutes"]))
        event.add("dtstamp", timezone.now().astimezone(dt.UTC))
        if row["why"]:
            event.add("description", row["why"])
        if row["place"]:
            event.add("location", row["place"])
        book.add_component(event)
    return bytes(book.to_ical())

"""The programme report in words, bars and rows."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator, Mapping
from typing import Any

from django.utils import timezone
from django.utils.translation import gettext as _

from bulwark.groups import selectors as groups
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons.wording import teach
from bulwark.people.actors import Actor
from bulwark.practice import programme
from bulwark.practice.programme import FEWEST, Part


def report_page(actor: Actor, asked: Mapping[str, Any]) -> dict[str, Any]:
    """A report over a time; ``left`` lessons are still to be counted, and the page asks on."""
    rows = programme.lessons_between(actor, asked["since"], asked["until"], asked["group"])
    counted, left = programme.count(rows)
    everything = programme.whole(counted)
    return {
        "asked": asked,
        "groups": groups.groups_for(actor),
        "found": len(rows),
        "done": len(counted),
        "left": left,
        "whole": _line(everything),
        "parts": [_line(part) for part in programme.parts(counted, by=asked["by"])],
        "practised": _bars(everything.laid, hidden=False),
        "breaches": _bars(everything.breaches, hidden=everything.hidden),
        "gain": _gain(actor, asked),
        "currency": kitchens.decided_by(actor.organisation).currency,
        "fewest": FEWEST,
    }


def this_term() -> dict[str, Any]:
    """The last three months, where nobody has asked for a time."""
    today = timezone.localdate()
    return {"since": today - dt.timedelta(days=92), "until": today, "group": None, "by": "group"}


def _line(part: Part) -> dict[str, Any]:
    """A part as it is read; of too few people nothing that could point to one."""
    few = _("fewer than %(n)s") % {"n": FEWEST}
    return {
        "name": part.name or _("nobody’s"),
        "hidden": part.hidden,
        "lessons": part.lessons,
        "reach": few if part.hidden else len(part.learners),
        "hours": few if part.hidden else f"{part.person_hours:.0f}",
        "laid": sum(part.laid.values()),
        "due": part.due,
        "per_100": few if part.hidden else "–" if part.per_100 is None else f"{part.per_100:.1f}",
        "breaches": few if part.hidden else sum(part.breaches.values()),
        "mended": few if part.hidden else part.mended,
        "kg": f"{part.grams / 1000:.1f}",
        "cost": f"{part.cost:.2f}",
    }


def _bars(counts: Mapping[str, int], *, hidden: bool) -> list[dict[str, Any]]:
    """Rules by how often, the most first, each as long as its share of the longest [%]."""
    rows = [] if hidden else sorted(((n, rule) for rule, n in counts.items() if n), reverse=True)
    most = rows[0][0] if rows else 1
    return [{"name": teach(rule), "n": n, "wide": f"{60 * n / most:.1f}"} for n, rule in rows]


def _gain(actor: Actor, asked: Mapping[str, Any]) -> dict[str, str] | None:
    found = programme.learnt(actor, asked["since"], asked["until"], asked["group"])
    if found is None:
        return None
    return {
        "before": f"{100 * found.before:.0f}",
        "after": f"{100 * found.after:.0f}",
        "difference": f"{100 * found.difference:+.0f}",
        "low": f"{100 * found.low:+.0f}",
        "high": f"{100 * found.high:+.0f}",
        "pairs": str(found.pairs),
    }


def sheet_rows(page: Mapping[str, Any]) -> Iterator[list[Any]]:
    """The report as rows of a sheet, the first its heading."""
    names = ("name", "lessons", "reach", "hours", "laid", "due", "breaches", "per_100", "mended", "kg", "cost")
    yield list(names)
    for row in (*page["parts"], {**page["whole"], "name": _("all")}):
        yield [row[name] for name in names]
    yield []
    for title, key in ((_("practised"), "practised"), (_("breaches"), "breaches")):
        for row in page[key]:
            yield [title, row["name"], row["n"]]

"""What Today, the week and a course show."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from typing import Any
from urllib.parse import urlencode

from django.urls import reverse
from django.utils import timezone
from django.utils.translation import gettext as _

from bulwark.devices import pages as devices
from bulwark.devices.selectors import checks_before
from bulwark.diary import selectors, wording
from bulwark.diary.models import Course
from bulwark.groups import selectors as groups
from bulwark.groups.wording import shown
from bulwark.lessons import pages as lesson_pages
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Lesson
from bulwark.people.actors import Actor
from bulwark.presentation.phrases import capital, listed
from bulwark.recipes.wording import hazard
from bulwark.shelf import pages as shelf
from bulwark.shelf.models import Shelved
from bulwark.shelf.selectors import Brought, brought_to_all
from foodsafety.planning import planning_figures, skill_names

DAY = dt.timedelta(days=1)
# So many weeks back are looked at for what has not been practised.
WEEKS_BACK = 12


def today_page(actor: Actor) -> dict[str, Any]:
    """What must be done before today's lessons, what comes later by the clock, and the week."""
    now = timezone.localtime()
    midnight = now.replace(hour=0, minute=0, second=0, microsecond=0)
    soon = selectors.lessons_between(actor, midnight - 7 * DAY, midnight + 7 * DAY)
    todays = [row for row in soon if midnight <= timezone.localtime(row.starts_at) < midnight + DAY]
    ahead = [row for row in soon if row.starts_at >= midnight and row.opened_at is None]
    brought = brought_to_all(todays) if todays else {}
    cards = [_card(row, brought.get(row.pk, ())) for row in todays if row.opened_at is None]
    for_all = [*_stores(actor), *([] if (probes := _probes(actor)) is None else [probes])]
    return {
        "now": now,
        "cards": cards,
        "for_all": for_all,
        **_numbered([*for_all, *(brick for card in cards for brick in card["bricks"])], todays),
        "clock": _by_the_clock(actor, todays, ahead, now),
        **week_page(actor, now.date()),
        "running": list(lessons.lessons_with_benches(actor).exclude(opened_at=None).filter(closed_at=None)),
        "coming": [
            row
            for row in lessons.lessons_with_benches(actor).filter(opened_at=None)
            if row.pk not in {x.pk for x in todays}
        ],
        "over": list(lessons.lessons_for(actor).exclude(closed_at=None).order_by("-closed_at")[:12]),
    }


def _numbered(bricks: Sequence[dict[str, Any]], todays: Sequence[Lesson]) -> dict[str, Any]:
    """What is to be done gets a number, the most pressing first: what stands for all before what is one lesson's."""
    todo = [brick for brick in bricks if not brick["ok"]]
    for n, brick in enumerate(todo, start=1):
        brick["n"] = n
    first = next((row for row in todays if row.opened_at is None and row.starts_at > timezone.now()), None)
    return {"headline": wording.things(len(todo), f"{timezone.localtime(first.starts_at):%H:%M}" if first else "")}


def _card(lesson: Lesson, brought: Sequence[Brought]) -> dict[str, Any]:
    """A lesson of today as bricks: each laid, or still to be done."""
    plan, questions = lessons.plan_for(lesson), lesson_pages.open_lines(lesson)
    there = {row.initials for bench in lesson.benches.all() for row in bench.learners.all()}
    wanted = [row.initials for row in groups.members_of(lesson.group)] if lesson.group else []
    missing = [name for name in wanted if name not in there]
    read = not questions and not lesson.unconfirmed
    url = reverse("lesson_detail", args=[lesson.pk])
    moved = [_brick(_("Who eats"), text, url, ok=False) for text in lesson_pages.group_moved_on(lesson)]
    return {
        "lesson": lesson,
        "bricks": [
            *moved,
            *(_earlier(lesson, row) for row in brought),
            _brick(_("Safety plan"), wording.points(len(plan.controls)), reverse("plan", args=[lesson.pk])),
            _brick(
                _("Benches"),
                wording.placed(len(there), missing),
                reverse("lesson_detail", args=[lesson.pk]),
                ok=not missing,
            ),
            _brick(
                _("Recipe"),
                wording.read_state(lesson.unconfirmed, len(questions)),
                reverse("recipe_steps", args=[lesson.recipe_id]),
                ok=read,
            ),
        ],
    }


def _earlier(lesson: Lesson, row: Brought) -> dict[str, Any]:
    """A dish that is brought ready made."""
    url = reverse("brought", args=[lesson.pk])
    return _brick(row.dish.title, " ".join([f"{row.says}.", *row.asked]), url, ok=row.ok)


def _brick(name: str, says: str, url: str, *, ok: bool = True) -> dict[str, Any]:
    return {"name": name, "says": says, "url": url, "ok": ok, "n": 0}


def _stores(actor: Actor) -> list[dict[str, Any]]:
    """Every fridge and freezer, what is wrong first."""
    rows = devices.stores(actor)
    return [{**_brick(row.row.name, row.title, reverse("cold"), ok=row.state == "laid"), "cold": True} for row in rows]


def _probes(actor: Actor) -> dict[str, Any] | None:
    """Whether the probes were found good this month, each at both points; None where there are none."""
    rows = checks_before(actor.organisation, timezone.localdate())
    since = timezone.localdate() - dt.timedelta(days=planning_figures()["course"]["probes_checked_within_d"])
    good = sum(check is not None and check.standing == "good" and check.on >= since for _row, check in rows)
    if not rows:
        return None
    return _brick(_("Probes"), wording.probes(len(rows) - good, len(rows)), reverse("cold"), ok=good == len(rows))


def _kept(row: Shelved, now: dt.datetime, unit: str) -> dict[str, Any]:
    """Food on the shelf: to be read while it cools, to be used, or to be thrown away."""
    told = shelf.line(row, now, unit=unit)
    why, at = wording.eat_or_bin(row.bench.name), row.until or now
    if told["standing"] == "over":
        why = wording.over(row.bench.name)
    elif told["standing"] == "hole" and row.until is None:
        why = wording.not_seen_cold(row.bench.name)
    elif row.due:
        at, why = dt.datetime.fromtimestamp(row.due[0][2], tz=dt.UTC), wording.read_it(told["left"], row.bench.name)
    url = f"{reverse('shelf')}?{urlencode({'item': row.key})}"
    return {"at": at, "says": capital(row.food), "why": why, "kind": "food", "url": url}


def _by_the_clock(
    actor: Actor, todays: Sequence[Lesson], ahead: Sequence[Lesson], now: dt.datetime
) -> list[dict[str, Any]]:
    """Lessons, what must be done for later ones, and food whose time is up, in the order of the clock."""
    rows: list[dict[str, Any]] = [
        {"at": row.starts_at, "says": row.title, "why": "", "kind": "lesson"} for row in todays
    ]
    rows += [
        {"at": row.at, "says": row.says, "why": row.why, "kind": "todo", "reminder": row}
        for row in selectors.reminders(ahead, now)
    ]
    benches = selectors.benches_lately(actor, now)
    for timer in selectors.timers_left(benches):
        why = wording.timer_left(timer.bench.name, timer.bench.lesson.title)
        rows.append({"at": timer.at, "says": capital(timer.name), "why": why, "kind": "timer", "timer": timer})
    rows += [_kept(kept, now, actor.unit) for kept in selectors.kept_now(actor, now)]
    for row in rows:
        at = timezone.localtime(row["at"])
        row |= {"late": at < now and row["kind"] != "lesson", "today": at.date() == now.date(), "at": at}
    return sorted(rows, key=lambda row: row["at"])


def week_page(actor: Actor, day: dt.date) -> dict[str, Any]:
    """A week: what each lesson practises, bottom-up, and what none has practised lately."""
    monday = day - dt.timedelta(days=day.weekday())
    start = timezone.make_aware(dt.datetime.combine(monday, dt.time()))
    rows = selectors.lessons_between(actor, start, start + 7 * DAY)
    now = timezone.now()
    back = selectors.lessons_between(actor, now - 7 * WEEKS_BACK * DAY, now + DAY)
    days = [_day(monday + dt.timedelta(days=n), rows) for n in range(7)]
    return {
        "days": days,
        "monday": monday,
        # Where no lesson is, the weeks end: nobody turns pages for ever.
        "before": monday - dt.timedelta(days=7) if selectors.any_lesson(actor, before=start) else None,
        "after": monday + dt.timedelta(days=7) if selectors.any_lesson(actor, since=start + 7 * DAY) else None,
        "missing": [(wording.family(name), last) for name, last in selectors.not_practised(back, now)],
    }


def _day(date: dt.date, rows: Sequence[Lesson]) -> dict[str, Any]:
    """A day of the week with its lessons, what each practises from the top of its stack down."""
    own = [row for row in rows if timezone.localtime(row.starts_at).date() == date]
    return {
        "date": date,
        "is_today": date == timezone.localdate(),
        "lessons": [
            {
                "lesson": row,
                "done": row.opened_at is not None,
                "practises": [wording.family(name) for name in selectors.practised(row)][::-1],
            }
            for row in own
        ],
    }


def course_page(actor: Actor, course: Course) -> dict[str, Any]:
    """A course: its lessons in a row, what each practises, what none does, roles, and what is bought for two."""
    rows = list(
        course.lessons.prefetch_related("benches__learners")
        .select_related("recipe", "group", "kitchen", "organisation")
        .order_by("starts_at", "pk")
    )
    kinds = [
        *((wording.family(name), [name in selectors.practised(row) for row in rows]) for name in wording.FAMILIES),
        *((capital(shown(name)), [name in selectors.techniques(row) for row in rows]) for name in skill_names()),
    ]
    soils = sorted({soil for row in rows for soil in selectors.hazards(row)})
    kinds += [(capital(hazard(soil)), [soil in selectors.hazards(row) for row in rows]) for soil in soils]
    roles = selectors.roles_had(rows)
    names = sorted({role for counts in roles.values() for role in counts})
    return {
        "course": course,
        "rows": rows,
        "practises": kinds,
        "uncovered": [name for name, marks in kinds if not any(marks)] if rows else [],
        "role_names": names,
        "roles": [(who, [counts[name] for name in names]) for who, counts in roles.items()],
        "together": [
            {
                "name": row.name,
                "days": listed(f"{day:%-d %b}" for day in row.days),
                "keeps": row.keeps,
                "keeps_d": row.keeps_d,
            }
            for row in selectors.bought_together(rows)
        ],
        "others": list(
            lessons.lessons_for(actor).filter(rehearsal=False).exclude(courses=course).order_by("-starts_at")[:40]
        ),
        "groups": list(groups.groups_for(actor)),
    }

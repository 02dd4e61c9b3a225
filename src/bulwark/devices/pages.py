"""What the cold stores and the clocks of a lesson look like."""

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.utils import timezone
from django.utils.translation import gettext as _

from bulwark.devices import selectors, services, wording
from bulwark.devices.models import Instrument, InstrumentCheck
from bulwark.kitchens import selectors as kitchens
from bulwark.lessons import selectors as lessons
from bulwark.lessons.selectors import Bench, Lesson
from bulwark.people.actors import Actor
from bulwark.presentation import phrases
from bulwark.presentation.charts import Chart, ChartSpec, Curve, chart
from foodsafety.cooling import StoreVerdict, judge_cooling, judge_store
from foodsafety.lesson import State, clock_of
from foodsafety.quantities import Series, f_from_c
from foodsafety.rules import Profile

LOOK_BACK = dt.timedelta(hours=24)


@dataclass(frozen=True, slots=True, kw_only=True)
class StoreLook:
    """A store as it stands."""

    row: Instrument
    verdict: StoreVerdict
    title: str
    action: str
    state: str
    limit: str
    at: dt.datetime
    series: Series
    start: dt.datetime

    @property
    def brick(self) -> str:
        """The state as the workbench draws it."""
        return {"laid": "good", "breach": "breach", "due": "due"}.get(self.state, "open")


def store_look(row: Instrument, profile: Profile, unit: str) -> StoreLook:
    """A store brought up to its own present and judged."""
    fresh = selectors.ran_on(row)
    now = selectors.own_time(row)
    start = now - LOOK_BACK
    series = selectors.as_series(selectors.readings_since(row, start, fresh), start)
    found = judge_store(
        series, profile, kind="freezer" if row.kind == "freezer" else "fridge", now_s=LOOK_BACK.total_seconds()
    )
    rule = profile.hold["freezer" if row.kind == "freezer" else "cold"]
    return StoreLook(
        row=row,
        verdict=found,
        title=wording.store_title(found, unit),
        action=wording.store_action(found),
        state=wording.state_of(found),
        limit=phrases.short_limit(rule.temperature, unit, at_most=True),
        at=now,
        series=series,
        start=start,
    )


def stores(actor: Actor) -> list[StoreLook]:
    """Every cold store, the worst first."""
    if actor.organisation_id is None:
        return []
    profile = kitchens.rules_for(actor.organisation_id, kitchens.decided_by(actor.organisation_id).profile)
    found = [store_look(row, profile, actor.unit) for row in selectors.stores_for(actor)]
    rank = {"breach": 0, "missed": 1, "due": 2, "todo": 3, "laid": 4}
    return sorted(found, key=lambda look: (rank[look.state], look.row.name))


def kept_in(actor: Actor, place: str) -> list[str]:
    """What was put into the cold in the lessons of the last week and is not known to be gone: which
    store it is in nobody recorded, so all of it is in question."""
    since = timezone.now() - dt.timedelta(days=7)
    found = []
    for bench in lessons.benches_for(actor).filter(lesson__opened_at__gte=since, lesson__rehearsal=False):
        state, _seq = lessons.bench_state(bench)
        found += [
            _("%(food)s, %(bench)s, %(day)s")
            % {
                "food": phrases.capital(food.replace("_", " ")),
                "bench": bench.name,
                "day": f"{timezone.localtime(bench.lesson.opened_at):%-d %b}",
            }
            for food, kept in state.kept.items()
            if kept.place == place
        ]
    return found


# What is typed of a check before anything is.
_NOTHING = {"ice": "", "boil": ""}


def cold_page(actor: Actor, *, wrong: str = "", typed: Mapping[int, Mapping[str, str]] | None = None) -> dict[str, Any]:
    """The cold stores with their last day, and the probes with their last check; what was typed and is wrong stays."""
    looks = stores(actor)
    probes = selectors.checks_before(actor.organisation, timezone.localdate())
    return {
        "stores": [(look, _store_chart(look, actor), _in_question(look, actor)) for look in looks],
        "probes": [
            (row, check_row(check, actor.unit), {**_NOTHING, **(typed or {}).get(row.pk, {})}) for row, check in probes
        ],
        "wrong": wrong,
        "unit": actor.unit,
        "paces": services.PACES,
    }


def check_row(check: InstrumentCheck | None, unit: str) -> dict[str, Any] | None:
    """A check of a thermometer in words: what it showed, and what that says."""
    if check is None:
        return None
    shown = [
        wording.showed(point, f"{f_from_c(value) if unit == 'F' else value:.1f} °{unit}")
        for point, value in (("ice", check.ice_shows_c), ("boil", check.boil_shows_c))
        if value is not None
    ]
    if check.boil_shows_c is not None and check.altitude_m is None:
        shown.append(wording.height_not_said())
    return {"on": check.on, "shown": shown, "says": wording.checked(check.standing)}


def _in_question(look: StoreLook, actor: Actor) -> list[str]:
    return kept_in(actor, look.row.kind) if look.state != "laid" else []


def _store_chart(look: StoreLook, actor: Actor) -> Chart | None:
    if not look.series:
        return None
    profile = kitchens.rules_for(look.row.organisation_id, kitchens.decided_by(look.row.organisation_id).profile)
    rule = profile.hold["freezer" if look.row.kind == "freezer" else "cold"].temperature
    begin_s = min(look.series[0][0], LOOK_BACK.total_seconds() - 3600)
    rows = [(at_s - begin_s, c) for at_s, c in look.series]
    low, high = min(c for _s, c in rows), max(c for _s, c in rows)
    return chart(
        ChartSpec(
            curves=(Curve(kind="actual-line", points=rows),),
            limits=(rule.c,),
            cold_c=rule.c,
            until_s=LOOK_BACK.total_seconds() - begin_s,
            low_c=min(low - 1.5, rule.c - 4),
            high_c=max(high + 1.5, rule.c + 4),
            degrees=lambda c: look.limit if c == rule.c else phrases.degrees(c, actor.unit, cold=True),
            uid=f"store-{look.row.pk}",
            clock=lambda at_s: _clock_face(look.start, begin_s + at_s),
            title=f"{look.row.name}: {look.title}",
            desc=_("The air of the store over the last day against its limit."),
            height=240.0,
        )
    )


def _clock_face(start: dt.datetime, after_s: float) -> str:
    """Hours and minutes on the kitchen's clock, so long after a moment [s]."""
    local = timezone.localtime(start)
    total = round((3600.0 * local.hour + 60.0 * local.minute + after_s) / 60) % 1440
    return f"{total // 60:02d}:{total % 60:02d}"


def alarms(actor: Actor) -> list[StoreLook]:
    """The stores that somebody must see to."""
    return [look for look in stores(actor) if look.state in ("breach", "missed")]


# --- a lesson's clocks ----------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodClock:
    """One food's clock: a bar as wide as the share of its limit that is spent."""

    food: str
    bench: str
    place: str
    state: str
    text: str
    reading: str
    width: float
    limit: str
    rank: float
    warning: str


BAR_W = 400.0
_PLACES = {"fridge": "in the fridge", "freezer": "in the freezer"}


def _warning(state: State, food: str, unit: str) -> str:
    """What the readings of a food that cools say will happen, while something can still be done."""
    found = judge_cooling(state.food(food).cold, state.plan.profile)
    if found.verdict == "fail":
        return _("cooled too slowly: throw it away")
    if found.warning is None:
        return ""
    row, ahead = found.warning.stage, found.warning.ahead
    return _("at this rate %(c)s at %(at)s, due %(due)s: split it now") % {
        "c": phrases.short_limit(row.stage.end, unit),
        "at": f"{_local(ahead.at_s):%H:%M}",
        "due": f"{_local(row.due_s):%H:%M}",
    }


def _local(at_s: float) -> dt.datetime:
    return dt.datetime.fromtimestamp(at_s, tz=timezone.get_current_timezone())


def _clocks(bench: Bench, state: State, now_s: float, unit: str) -> list[FoodClock]:
    return [
        _food_clock(bench, state, food, now_s, unit)
        for food, held in state.foods.items()
        if held.gone is None and held.out_s(now_s) > 0
    ]


def _food_clock(bench: Bench, state: State, food: str, now_s: float, unit: str) -> FoodClock:
    standing = clock_of(state, food, now_s)
    limit = standing.limit
    running = state.food(food).clock.since_s is not None
    return FoodClock(
        food=phrases.capital(food.replace("_", " ")),
        bench=bench.name,
        place=_food_place(state, food, running=running),
        state=wording.clock_state(standing.total_s, limit.limit_s, running=running),
        text=wording.clock_text(standing.total_s, limit.limit_s, running=running),
        reading=_last_reading(state, food, unit),
        width=round(min(1.0, standing.total_s / limit.limit_s) * BAR_W, 1),
        limit=wording.span(limit.limit_s),
        rank=standing.remaining_s if running else 1e9,
        warning=_warning(state, food, unit),
    )


def _food_place(state: State, food: str, *, running: bool) -> str:
    kept = state.food(food).kept
    return _(_PLACES[kept.place]) if kept else (_("out") if running else _("under control"))


def _last_reading(state: State, food: str, unit: str) -> str:
    cold, cores = state.food(food).cold, state.food(food).readings
    last = cold[-1][1] if cold else cores[-1].core_c if cores else None
    return phrases.degrees(last, unit) if last is not None else _("not measured")


def keep_page(lesson: Lesson, actor: Actor) -> dict[str, Any]:
    """All clocks of a lesson, the nearest to its end first, and the cold stores."""
    now = lessons.lesson_now(lesson)
    rows: list[FoodClock] = []
    unmeasured = False
    for bench in lessons.benches_for(actor).filter(lesson=lesson):
        state, _seq = lessons.bench_state(bench)
        rows += _clocks(bench, state, now.timestamp(), actor.unit)
        unmeasured = unmeasured or state.ambient_c is None
    order = {"breach": 0, "due": 1, "running": 2, "laid": 3}
    return {
        "lesson": lesson,
        "clocks": sorted(rows, key=lambda row: (order[row.state], row.rank, row.bench)),
        "stores": stores(actor),
        "now": timezone.localtime(now),
        "unmeasured": unmeasured,
        "bar_w": BAR_W,
    }

"""Small tools: clocks and growth, sanitiser, basins, portions, and a log that is looked over."""

import math
from typing import Any

from django.utils.translation import gettext as _

from bulwark.presentation.charts import Ask, Curve, Wall, chart
from bulwark.presentation.units import shown
from bulwark.workbench.answers import Answer, Asker, Card, Meter, Table, clock_word, limit, source_line, span, temp
from bulwark.workbench.cold import doubts, read
from foodsafety.cooling import judge_cooling, judge_store
from foodsafety.hygiene import (
    CONTACT_S,
    HOT_WATER_C,
    HOT_WATER_S,
    LEAST_PPM,
    MOST_PPM,
    basin_queue,
    sanitiser_dilution,
)
from foodsafety.measuring import CsvLog, TemperatureLog, question_log, read_log_csv, review_log
from foodsafety.quantities import Series, Temperature
from foodsafety.recipes import part_can, portions
from foodsafety.rules import Profile
from foodsafety.shelf import growth_budgets, out_of_control_s, school_verdict


def grow(asked: dict[str, Any], asker: Asker) -> Answer:
    """Time out over several trips, by the clock chosen, with the growth budget beside it."""
    typed, log = read(asked["readings"], asker)
    profile = asker.rules(asked["code"])
    units = asker.units
    cold, hot = profile.hold["cold"].temperature, profile.hold["hot"].temperature
    # A reading nobody trusts may not shorten the time, nor show that food stayed cool.
    out_s = max(out_of_control_s(log.series, cold, hot), out_of_control_s(log.kept, cold, hot))
    ruled = school_verdict(out_s, asked["school"], profile, ambient_c=asked["ambient"], readings=log.kept)
    budgets = sorted(growth_budgets(log.kept).values(), key=lambda row: -row.spent)
    states: dict[str, tuple[Any, str, str]] = {
        "keep": (
            "good",
            _("Back into the fridge: %(t)s left") % {"t": span(ruled.remaining_s // 60 * 60)},
            _("%(out)s out in all, over every trip.") % {"out": span(out_s)},
        ),
        "use_now": (
            "due",
            _("Use it now; it may not go back"),
            _("%(out)s out in all. Throw it away after %(limit)s.")
            % {"out": span(out_s), "limit": span(ruled.limit_s)},
        ),
        "discard": (
            "breach",
            _("Throw it away"),
            _("%(out)s out in all; the limit is %(limit)s. Heating does not give the time back.")
            % {"out": span(out_s), "limit": span(ruled.limit_s)},
        ),
    }
    state, title, text = states[ruled.action]
    worst = budgets[0]
    rows = tuple(
        (
            row.organism.name,
            f"{math.ceil(row.spent * 100 - 1e-9)} %",
            _("its toxin survives cooking") if row.organism.toxin else "",
        )
        for row in budgets
    )
    end_s = log.series[-1][0]
    drawn = chart(
        Ask(
            curves=(Curve(kind="actual", points=log.series),),
            limits=(cold.c, hot.c, 21.0),
            hot_c=hot.c,
            cold_c=cold.c,
            until_s=max(end_s * 1.05, 600.0),
            low_c=min(cold.c - 5, min(c for _s, c in log.series) - 1),
            high_c=max(max(c for _s, c in log.series) + 6, 30.0),
            doubted=_doubted(log),
            words={"danger": _("danger band"), "hot": _("hot"), "cold": _("cold")},
            degrees=lambda c: temp(c, units, whole=abs(c - round(c)) < 0.05),
            clock=clock_word(typed.clock_s),
            title=title,
            desc=_("The food's temperature over its trips."),
            height=380.0,
        )
    )
    notes = doubts(log)
    if asked["ambient"] is None:
        notes.append(_("Nobody measured how hot it was around it: the shorter clock for hot places may apply."))
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=drawn,
        cards=(
            Card(
                kind="do" if ruled.action != "keep" else "plain",
                title=_("On the clock"),
                big=span(out_s),
                big_label=_("of %(l)s") % {"l": span(ruled.limit_s)},
                text=_("Between %(c)s and %(h)s. Trips add up; chilling stops the clock, it never sets it back.")
                % {"c": limit(cold, units), "h": limit(hot, units)},
            ),
            Card(
                title=_("Most used up"),
                big=f"{math.ceil(worst.spent * 100 - 1e-9)} %",
                big_label=worst.organism.name,
                text=_("Of its growth budget: a meter for teaching, never in place of the clock."),
            ),
        ),
        meters=tuple(
            Meter(
                name=row.organism.name,
                share=row.spent,
                text=f"{math.ceil(row.spent * 100 - 1e-9)} %",
                note=_("toxin: cooking does not undo it") if row.organism.toxin else "",
            )
            for row in budgets
        ),
        tables=(Table(title=_("Growth budget spent"), heads=(_("Organism"), _("Spent"), ""), rows=rows),),
        notes=tuple(notes),
        source=source_line(profile, ruled.section)
        + " "
        + _("Growth: FDA Fish and Fishery Products Hazards guide, appendix on growth."),
        extra={"good": state == "good"},
    )


def sanitiser(asked: dict[str, Any], asker: Asker) -> Answer:
    """How much bleach."""
    found = sanitiser_dilution(litres=asked["litres"], ppm=asked["ppm"], product_percent=asked["percent"])
    amount = shown(found.product_ml, "millilitres", asker.units, places=1)
    states: dict[str, tuple[Any, str, str]] = {
        "good": (
            "good",
            _("%(ml)s of bleach into %(l)s of water")
            % {"ml": amount, "l": shown(asked["litres"], "volume", asker.units)},
            _("Clean first, then sanitise, then leave it to dry in the air."),
        ),
        "weak": (
            "breach",
            _("Too weak to sanitise"),
            _("At least %(p)g ppm for surfaces that touch food.") % {"p": LEAST_PPM},
        ),
        "strong": (
            "due",
            _("Too strong for food surfaces"),
            _("At most %(p)g ppm without rinsing.") % {"p": MOST_PPM},
        ),
    }
    state, title, text = states[found.standing]
    teaspoons = found.product_ml / 4.93
    return Answer(
        state=state,
        title=title,
        text=text,
        cards=(
            Card(
                kind="do",
                title=_("Measure"),
                big=amount,
                big_label=_("bleach"),
                text=_("About %(n).1f teaspoons. Measure it, do not pour by eye; check with a test strip.")
                % {"n": teaspoons},
            ),
            Card(
                title=_("Leave it on"),
                big=span(CONTACT_S),
                big_label=_("at least"),
                text=_("Wet all the time, water at about %(c)s. The product's own label rules.")
                % {"c": temp(24.0, asker.units)},
            ),
            Card(
                title=_("Or hot water"),
                big=temp(HOT_WATER_C, asker.units),
                big_label=span(HOT_WATER_S),
                text=_("Under water for the whole time, on a rack."),
            ),
        ),
        notes=(
            _(
                "Never mix it with acids, vinegar, ammonia or another cleaner. Unscented bleach only; make it new each day. It takes no allergen away: washing does."
            ),
        ),
        source=_("50 to 100 ppm chlorine, 10 s: Food Code 4-501.114; the product label decides."),
        extra={"good": state == "good"},
    )


def hands(asked: dict[str, Any], asker: Asker) -> Answer:
    """Everyone's hands at the basins."""
    found = basin_queue(
        people=asked["people"], basins=asked["basins"], scrub_s=asked["scrub"], around_s=asked["around"]
    )
    short = asked["scrub"] < 20
    state: Any = "breach" if short else "good"
    title = _("Scrub for 20 s: this is too short") if short else _("All clean in %(t)s") % {"t": span(found.total_s)}
    rows = []
    for more in range(4):
        basins = asked["basins"] + more
        one = basin_queue(people=asked["people"], basins=basins, scrub_s=asked["scrub"], around_s=asked["around"])
        rows.append((str(basins), str(one.waves), span(one.total_s)))
    return Answer(
        state=state,
        title=title,
        text=_("%(n)d at %(b)d basins: %(w)d waves of %(s)s.")
        % {"n": asked["people"], "b": asked["basins"], "w": found.waves, "s": span(found.wave_s)},
        cards=(
            Card(
                kind="do",
                title=_("Plan for"),
                big=span(found.total_s),
                big_label=_("each time"),
                text=_("The last wave waits %(t)s: give it a task that needs no clean hands.")
                % {"t": span(found.last_waits_s)},
            ),
        ),
        tables=(Table(title=_("With more basins"), heads=(_("Basins"), _("Waves"), _("In all")), rows=tuple(rows)),),
        source=_("20 s or more in every profile; wetting, soaping, rinsing and drying come on top."),
        extra={"good": not short},
    )


def cans_and_portions(asked: dict[str, Any], asker: Asker) -> Answer:
    """Part of a can, and portions of a batch."""
    units = asker.units
    can = part_can(needed_g=asked["needed"], can_g=asked["can"])
    made = portions(batch_g=asked["batch"], portion_g=asked["portion"], people=asked["people"])
    enough = made.portions >= asked["people"]
    return Answer(
        state="good" if enough else "due",
        title=_("%(n)d portions, for %(p)d people") % {"n": made.portions, "p": asked["people"]}
        if enough
        else _("%(n)d portions: %(b)d batches for %(p)d people")
        % {"n": made.portions, "b": made.batches, "p": asked["people"]},
        text=_("%(g)s over.") % {"g": shown(made.over_g, "grams", units)},
        cards=(
            Card(
                kind="do",
                title=_("Cans to open"),
                big=str(can.cans),
                big_label=_("cans"),
                text=_("%(g)s left over: into a covered box of its own, dated, in the fridge; never in the open can.")
                % {"g": shown(can.left_g, "grams", units)}
                if can.left_g
                else _("Nothing left over."),
            ),
        ),
        tables=(
            Table(
                title=_("In numbers"),
                heads=(_("What"), _("How much")),
                rows=(
                    (_("Share of the last can"), f"{can.last_share * 100:.0f} %"),
                    (_("Left in it"), shown(can.left_g, "grams", units)),
                    (_("Portions of a batch"), str(made.portions)),
                    (_("Batches"), str(made.batches)),
                ),
            ),
        ),
        source=_("An opened can keeps like what is in it: see the storage limits of the profile."),
        extra={"good": enough},
    )


# --- a log ----------------------------------------------------------------------------------------------


def log(asked: dict[str, Any], asker: Asker) -> Answer:
    """A log pasted as CSV, looked over and judged."""
    return judged_log(read_log_csv(asked["log"].splitlines()), asked["kind"], asker.rules(asked["code"]), asker)


def judged_log(sheet: CsvLog, kind: str, profile: Profile, asker: Asker) -> Answer:
    """A log, looked over and judged as what it is said to be."""
    unit = sheet.unit or asker.units.temps
    found = review_log(sheet.rows, counts="higher", unit=unit)
    first_s = 3600.0 * sheet.first.hour + 60.0 * sheet.first.minute if sheet.first else None
    begin = found.kept[0][0] if found.kept else 0.0
    series = tuple((at_s - begin, c) for at_s, c in found.series)
    moved = TemperatureLog(
        series=series,
        kept=tuple((at_s - begin, c) for at_s, c in found.kept),
        flags=found.flags,
        gaps=tuple((a - begin, b - begin) for a, b in found.gaps),
    )
    notes = doubts(moved)
    values = [value for _at, value in sheet.rows if value is not None]
    if sheet.unit is None:
        question = question_log(values, unit)
        notes.append(_("The heading names no unit: read as °%(u)s.") % {"u": unit})
        if question:
            return Answer(
                state="open",
                title=_("Which unit is this?"),
                text=_(
                    "As °%(u)s these are not temperatures of such a log. Say C or F in the heading, or change the unit above."
                )
                % {"u": unit},
                notes=tuple(notes),
            )
    if not series:
        return Answer(
            state="open",
            title=_("Nothing to judge"),
            text=_("No line has both a time and a temperature that can be believed."),
            notes=tuple(notes),
        )
    return (_cooling_log if kind == "cooling" else _store_log)(moved, kind, profile, asker, notes, first_s)


def _doubted(log: TemperatureLog) -> Series:
    """What was kept and is not believed."""
    believed = set(log.series)
    return tuple(row for row in log.kept if row not in believed)


def _thinned(series: Series) -> Series:
    """A long log for drawing: of each stretch its highest and lowest, nothing in between."""
    if len(series) <= 400:
        return series
    size = math.ceil(len(series) / 200)
    found = []
    for start in range(0, len(series), size):
        part = series[start : start + size]
        found += sorted({max(part, key=lambda row: row[1]), min(part, key=lambda row: row[1])})
    return tuple(found)


def _log_chart(
    log: TemperatureLog,
    asker: Asker,
    title: str,
    first_s: float | None,
    limits: tuple[Temperature, ...],
    walls: tuple[Wall, ...],
) -> Any:
    units = asker.units
    drawn = _thinned(log.series)
    low, high = min(c for _s, c in drawn), max(c for _s, c in log.kept)
    hot = max((row.c for row in limits), default=None) if len(limits) > 1 else None
    return chart(
        Ask(
            curves=(Curve(kind="actual" if len(drawn) <= 60 else "actual-line", points=drawn),),
            limits=tuple(row.c for row in limits),
            hot_c=hot,
            cold_c=min(row.c for row in limits),
            until_s=max(drawn[-1][0] * 1.05, 600.0, *(wall.at_s * 1.08 for wall in walls), 0.0),
            low_c=min(low - 2, min(row.c for row in limits) - 5),
            high_c=max(high + 3, max(row.c for row in limits) + 5),
            walls=walls,
            doubted=_doubted(log)[:60],
            words={"danger": _("danger band"), "hot": _("hot"), "cold": _("cold")},
            degrees=lambda c: temp(c, units, whole=abs(c - round(c)) < 0.05),
            clock=clock_word(first_s),
            title=title,
            desc=_("The log over time against its limits."),
        )
    )


def _cooling_log(
    log: TemperatureLog, kind: str, profile: Profile, asker: Asker, notes: list[str], first_s: float | None
) -> Answer:
    clock = clock_word(first_s)
    found = judge_cooling(log.series, profile)
    everything = judge_cooling(log.kept, profile)
    stages = "; ".join(
        f"{limit(row.stage.end, asker.units)}: {clock(row.reached_s) if row.reached_s is not None else _('not reached')}"
        for row in found.stages
    )
    states: dict[str, tuple[Any, str]] = {
        "pass": ("good", _("Cooled in time")),
        "fail": ("breach", _("Cooled too slowly: throw it away")),
        "unfinished": ("due", _("Not finished: measure again")),
        "not_started": ("open", _("Still hot: the clock has not started")),
    }
    state, title = states[found.verdict]
    if found.verdict != everything.verdict:
        state, title = "open", _("Cannot be judged: it hangs on a reading nobody can trust")
    start = found.start_s or 0.0
    walls = tuple(Wall(at_s=row.due_s, limit_c=row.stage.end.c, label=span(row.due_s - start)) for row in found.stages)
    limits = (*(row.stage.end for row in found.stages), *(row.stage.start for row in found.stages[:1]))
    rows = tuple((clock(at_s), temp(c, asker.units)) for at_s, c in _thinned(log.series)[:60])
    return Answer(
        state=state,
        title=title,
        text=stages,
        chart=_log_chart(log, asker, title, first_s, limits or (profile.hold["cold"].temperature,), walls),
        tables=(Table(title=_("Readings"), heads=(_("At"), _("Core")), rows=rows),),
        notes=tuple(notes),
        source=source_line(profile, profile.cooling.section),
        extra={"good": state == "good"},
    )


ACTIONS = {
    "nothing": "Nothing to do.",
    "watch": "Shut the door; look again in a quarter of an hour.",
    "move": "Move the food to a fridge that is cold, and measure the food itself.",
    "use_now": "Use it now; it may not go back into the cold.",
    "discard": "Throw away what needs the cold.",
    "measure": "Measure the air and the food itself now.",
}


def _store_log(
    log: TemperatureLog, kind: str, profile: Profile, asker: Asker, notes: list[str], first_s: float | None
) -> Answer:
    found = judge_store(log.kept, profile, kind="freezer" if kind == "freezer" else "fridge", now_s=log.kept[-1][0])
    row = profile.hold["freezer" if kind == "freezer" else "cold"].temperature
    state: Any = "good"
    title = _("Cold all the time")
    if found.action in ("discard", "use_now", "move", "measure"):
        state = "breach" if found.action in ("discard", "move") else "due"
        title = {
            "discard": _("Too warm too long: throw away what needs the cold"),
            "use_now": _("Use what is in it now"),
            "move": _("Too warm: move the food"),
            "measure": _("It was too warm: measure the food"),
        }[found.action]
    elif found.above_s:
        title = _("Cold, with short peaks")
    return Answer(
        state=state,
        title=title,
        text=_("Above %(l)s for %(t)s at the longest; worst %(w)s, last %(c)s.")
        % {
            "l": limit(row, asker.units),
            "t": span(found.above_s),
            "w": temp(found.worst_c or 0.0, asker.units, up=True),
            "c": temp(found.last_c or 0.0, asker.units, up=True),
        },
        chart=_log_chart(log, asker, title, first_s, (row,), ()),
        cards=(Card(kind="do", title=_("What to do"), text=_(ACTIONS[found.action])),),
        notes=tuple(notes),
        source=source_line(profile, found.section),
        extra={"good": state == "good"},
    )

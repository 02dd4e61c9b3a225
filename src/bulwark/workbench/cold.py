"""Tools of the cold: the chill planner, freezing and thawing, the cool box."""

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise
from typing import Any

from django.utils.translation import gettext as _

from bulwark.presentation.charts import Ask, Chart, Curve, Wall, chart
from bulwark.presentation.phrases import capital
from bulwark.presentation.units import shown
from bulwark.workbench.answers import Answer, Asker, Card, Table, clock_word, hold_text, limit, source_line, span, temp
from foodsafety.cooling import (
    ChillBatch,
    ChillCourse,
    ChillOffer,
    ChillPlan,
    ChillSituation,
    CoolingVerdict,
    FrozenPiece,
    SolidShape,
    box_course,
    box_need,
    chill_course,
    chill_ways,
    cold_packs,
    container,
    eat_by,
    field_water,
    freezing_course,
    greatest_size,
    judge_cooling,
    judge_planned,
    judge_thaw,
    left_to_cool,
    planning_profile,
    stages_of,
    start_by,
    thawing_course,
)
from foodsafety.heat import ConstantProperties, CoolingCourses, cooling_courses, environment
from foodsafety.measuring import TemperatureLog, TypedLog, clock_of_day, review_log, typed_readings
from foodsafety.quantities import CoreError
from foodsafety.rules import Profile
from foodsafety.rules import rule_profile as shipped

_WHERE = {
    "fridge": ("in the fridge", "fridge"),
    "fan_fridge": ("in the fan fridge", "fan fridge"),
    "blast": ("in the blast chiller", "blast chiller"),
    "ice_bath": ("in an ice bath", "ice bath"),
    "stirred_ice_bath": ("in an ice bath, stirred", "stirred ice bath"),
    "room": ("in the room", "room"),
    "tap_water": ("in cold running water", "running water"),
    "freezer": ("in the freezer", "freezer"),
    "fan_freezer": ("in the fan freezer", "fan freezer"),
}


def _where(name: str) -> str:
    return _(_WHERE[name][0])


def read(text: str, asker: Asker, *, counts: str = "higher") -> tuple[TypedLog, TemperatureLog]:
    """Typed readings, looked over."""
    found = typed_readings(text)
    log = review_log(found.rows, counts="higher" if counts == "higher" else "lower", unit=asker.units.temps)
    if not log.series:
        raise CoreError("readings", "none of these can be a temperature of food")
    return found, log


def doubts(log: TemperatureLog) -> list[str]:
    """What was found wrong in a log, in sentences."""
    words = {
        "jump": _("line %(row)d: %(value)s is a jump that no food makes; kept, not trusted"),
        "impossible": _("line %(row)d: %(value)s is no temperature a kitchen has; kept, not trusted"),
        "out_of_order": _("line %(row)d was out of order and has been put in its place"),
        "repeated": _("line %(row)d says the same as another; counted once"),
        "conflict": _("line %(row)d contradicts another at the same time; the worse one counts"),
        "missing": _("line %(row)d has no reading"),
        "unit": _("line %(row)d: is %(value)s in the other unit?"),
    }
    rows = [words[flag.doubt] % {"row": flag.row, "value": flag.value} for flag in log.flags[:8]]
    if len(log.flags) > 8:
        rows.append(_("and %(n)d more") % {"n": len(log.flags) - 8})
    rows += [
        _("%(span)s without a reading: nobody saw what happened then") % {"span": span(b - a)} for a, b in log.gaps[:4]
    ]
    return rows


Ahead = tuple[tuple[float, float, float, float], ...]


def _ahead(found: CoolingCourses | None, from_s: float, until_s: float) -> Ahead:
    """What the readings say is to come: (s, low, middle, high) [C], in twenty steps."""
    if found is None:
        return ()
    times = [from_s + (until_s - from_s) * n / 20 for n in range(1, 21)]
    return tuple((at_s, *found.at(at_s)) for at_s in times)


def _at(points: Sequence[tuple[float, float]], at_s: float) -> float | None:
    for (t0, c0), (t1, c1) in pairwise(points):
        if t0 <= at_s <= t1:
            return c0 if t1 == t0 else c0 + (c1 - c0) * (at_s - t0) / (t1 - t0)
    return None


def _walls(verdict: CoolingVerdict, stay: Sequence[tuple[float, float]], start_s: float) -> tuple[Wall, ...]:
    names = [_("first wall"), _("second wall"), _("third wall")]
    walls = []
    for n, row in enumerate(verdict.stages):
        hit = _at(stay, row.due_s)
        over = hit is not None and row.stage.end.passed_by(hit)
        label = (
            f"{names[min(n, 2)]}, {span(row.due_s - start_s)}" if len(verdict.stages) > 1 else span(row.stage.within_s)
        )
        walls.append(Wall(at_s=row.due_s, limit_c=row.stage.end.c, label=label, hit_c=hit if over else None))
    return tuple(walls)


def _stays(ahead: Ahead, situation: ChillSituation, model: ChillCourse, until_s: float) -> list[tuple[float, float]]:
    """What comes if nothing is done: the readings' own forecast where they tell one, else the
    model's course."""
    if not ahead:
        return [row for row in model.series(situation.now_c, situation.now_s) if row[0] <= until_s]
    return [(situation.now_s, situation.now_c), *((at_s, middle) for at_s, _low, middle, _high in ahead)]


def chill(asked: dict[str, Any], asker: Asker) -> Answer:
    """The chill planner."""
    typed, log = read(asked["readings"], asker)
    rules = asker.rules(asked["code"])
    profile = planning_profile(rules)
    batch = ChillBatch(litres=asked["litres"], composition=asked["food"].composition, texture=asked["texture"])
    situation = ChillSituation(batch=batch, readings=log.series, profile=profile)
    around_c = asked["around"]
    covers = ("plastic_lid", "air_gap_30mm") if asked["lid"] else ()
    as_it_is = left_to_cool(batch, container(asked["box"]), where=asked["where"], around_c=around_c, covers=covers)
    verdict = judge_cooling(log.series, profile, look_ahead=False)
    model = chill_course(as_it_is, batch)
    found = cooling_courses(log.series, around_c=around_c)
    until_s = max(_horizon(profile, verdict, situation), situation.now_s + 1800)
    ahead = _ahead(found, situation.now_s, until_s)
    stay = _stays(ahead, situation, model, until_s)
    offers = _offers(around_c, asked["where"])
    plans = chill_ways(situation, as_it_is, offers, owned=asker.owned)
    better = [plan for plan in plans[1:] if plan.passes]
    outcome = judge_planned((*log.series, *(row for row in stay if row[0] > situation.now_s)), profile)
    done = verdict.verdict in ("pass", "fail")
    final = verdict if done else outcome
    clock = clock_word(typed.clock_s)
    state, title, text = _chill_words(asked, asker, situation, verdict, final, better, clock)
    if verdict.verdict == "pass" and judge_cooling(log.kept, profile, look_ahead=False).verdict != "pass":
        state, title = "open", _("Cannot be judged: measure again")
        text = _("It hangs on a reading nobody can trust; left out it was cooled in time, counted it was not.")
    drawn = _chill_chart(asked, asker, situation, final, stay, ahead, better, until_s, clock, title, log)
    cards = (
        () if done and verdict.verdict == "pass" else _chill_cards(asked, asker, situation, model, better, clock, final)
    )
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=drawn,
        cards=(*cards, _tag(asked, asker, rules, verdict)),
        tables=(
            _ways_table(asker, plans, clock),
            _stage_table(asker, final, clock),
            _greatest_table(asker, batch, around_c, profile),
        ),
        notes=(*doubts(log), *_chill_notes(rules, found, verdict)),
        source=source_line(rules, rules.cooling.section),
        extra={"good": state in ("good", "ahead")},
    )


def _horizon(profile: Profile, verdict: CoolingVerdict, situation: ChillSituation) -> float:
    start_s = verdict.start_s if verdict.start_s is not None else situation.now_s
    return start_s + 1.06 * max(
        sum(s.within_s for s in stages_of(profile)) if _chained(profile) else stages_of(profile)[-1].within_s, 5400.0
    )


def _chained(profile: Profile) -> bool:
    stages = stages_of(profile)
    return len(stages) > 1 and stages[1].start.c == stages[0].end.c


def _offers(around_c: float, where: str) -> list[ChillOffer]:
    cold = min(around_c, 4.0) if where != "room" else 4.0
    found = [ChillOffer(where="fridge", around_c=cold), ChillOffer(where="ice_bath", around_c=0.5)]
    found.append(ChillOffer(where="stirred_ice_bath", around_c=0.5))
    if where in ("fan_fridge", "blast"):
        found.append(ChillOffer(where=where, around_c=around_c))
    return found


def _times(plan: ChillPlan, clock: Any) -> str:
    return clock(plan.cold_s) if plan.cold_s is not None else _("not in time")


def _boxes(plan: ChillPlan) -> str:
    """The containers of a way: 5 full trays, a 6 litre pot."""
    box = plan.way.container
    return f"{plan.way.count} {box.plural}" if plan.way.count > 1 else _("one %(box)s") % {"box": box.name}


def way_name(plan: ChillPlan) -> str:
    """A way in a few words."""
    return f"{_boxes(plan)}, {_(_WHERE[plan.way.where][1])}"


def _way_title(plan: ChillPlan) -> str:
    if plan.way.where in ("ice_bath", "stirred_ice_bath"):
        stirred = plan.way.where == "stirred_ice_bath"
        first = _("Ice bath, stirred") if stirred else _("Stand it in an ice bath")
        return first if plan.way.count == 1 else f"{first}: {_boxes(plan)}"
    return _("Split it into %(n)s") % {"n": _boxes(plan)}


def _chill_words(asked, asker, situation, verdict, final, better, clock):  # type: ignore[no-untyped-def]
    units = asker.units
    last = min(stages_of(situation.profile), key=lambda stage: stage.end.c)
    if verdict.verdict == "pass":
        at = verdict.crossings_s[last.end.c]
        return (
            "good",
            _("Chilled in time"),
            _("%(limit)s reached at %(at)s, every wall passed.") % {"limit": limit(last.end, units), "at": clock(at)},
        )
    if verdict.verdict == "fail":
        row = verdict.stages[(verdict.failed_stage or 1) - 1]
        return (
            "breach",
            _("Too slow: throw it away"),
            _("%(limit)s was due at %(due)s and was not reached by then. Reheating does not make it safe.")
            % {"limit": limit(row.stage.end, units), "due": clock(row.due_s)},
        )
    if final.verdict == "pass":
        at = final.crossings_s[last.end.c]
        return (
            "ahead",
            _("Left as it is, it will chill in time"),
            _("Forecast: %(limit)s at %(at)s. Measure again: a forecast is no evidence.")
            % {"limit": limit(last.end, units), "at": clock(at)},
        )
    broken = next((row for row in final.stages if row.standing != "met"), None)
    if broken is None:
        return "open", _("Not judged yet"), _("The clock has not started.")
    word = _("Left as it is, it will not chill in time")
    best = (
        (better[0] and _("%(way)s passes under every wall.") % {"way": capital(way_name(better[0]))}) if better else ""
    )
    if broken.reached_s is not None:
        text = _("At this rate %(limit)s at %(at)s; it is due at %(due)s.") % {
            "limit": limit(broken.stage.end, units),
            "at": clock(broken.reached_s),
            "due": clock(broken.due_s),
        }
    else:
        text = _("At this rate it does not reach %(limit)s by %(due)s.") % {
            "limit": limit(broken.stage.end, units),
            "due": clock(broken.due_s),
        }
    if situation.now_s > broken.due_s:
        return "breach", word, text
    return (
        "breach",
        word,
        f"{text} {best or _('No way we know still brings it there in time: throw it away, or eat it hot now.')}",
    )


def _chill_chart(asked, asker, situation, final, stay, ahead, better, until_s, clock, title, log) -> Chart:  # type: ignore[no-untyped-def]
    profile = situation.profile
    stages = stages_of(profile)
    hot, cold = stages[0].start.c, min(stage.end.c for stage in stages)
    good = final.verdict == "pass"
    curves = [Curve(kind="actual", points=log.series)]
    if len(stay) > 1:
        curves.append(
            Curve(
                kind="stay-good" if good else "stay",
                points=stay,
                label=_("as it is"),
                note=_("forecast from the readings") if ahead else _("as the model has it"),
            )
        )
    shown_ways, kinds = [], set()
    for plan in better:
        kind = "bath" if "ice" in plan.way.where else "way"
        if kind not in kinds:
            kinds.add(kind)
            shown_ways.append((kind, plan))
    for kind, plan in shown_ways:
        series = [
            row for row in plan.course.series(situation.now_c, situation.now_s) if row[0] <= (plan.cold_s or until_s)
        ]
        if plan.cold_s is not None:
            series.append((plan.cold_s, cold))
        curves.append(
            Curve(
                kind=kind,
                points=series,
                label=_boxes(plan) if kind == "way" else _(_WHERE[plan.way.where][1]),
                end_text=clock(plan.cold_s) if plan.cold_s else "",
            )
        )
    high = max(hot + 12, max(c for _s, c in log.kept) + 4)
    start_s = final.start_s if final.start_s is not None else situation.now_s
    return chart(
        Ask(
            curves=tuple(curves),
            limits=tuple(sorted({stage.end.c for stage in stages} | {hot})),
            hot_c=hot,
            cold_c=cold,
            until_s=until_s,
            low_c=min(cold - 5, 0.0),
            high_c=high,
            walls=_walls(final, stay, start_s),
            band=tuple((at_s, low, high) for at_s, low, _middle, high in ahead),
            now=(situation.now_s, situation.now_c),
            doubted=tuple(sorted(set(log.kept) - set(log.series))),
            words={"danger": _("danger band"), "hot": _("hot"), "cold": _("cold")},
            degrees=lambda c: temp(c, asker.units, whole=abs(c - round(c)) < 0.05),
            clock=clock,
            title=title,
            desc=_("Core temperature over time against the limits. The tables below say the same in numbers."),
        )
    )


def _chill_cards(asked, asker, situation, model, better, clock, final):  # type: ignore[no-untyped-def]
    units = asker.units
    cards = []
    for n, plan in enumerate(better[:2]):
        by_s = start_by(situation, plan.course, model)
        depth = shown(plan.way.depth_m, "length", units, up=False, places=1)
        if "ice" in plan.way.where:
            text = _("%(ice)s of ice, water up to the level of the food, topped up as it melts.") % {
                "ice": shown(plan.ice_kg, "mass", units, up=True, places=1)
            }
            if plan.way.where == "stirred_ice_bath":
                text += " " + _("Stir food and bath every few minutes.")
        else:
            text = _("%(depth)s deep, uncovered or lids ajar, apart from each other %(where)s.") % {
                "depth": depth,
                "where": _where(plan.way.where),
            }
        if not plan.enough:
            text += " " + _("The kitchen has %(n)d of these.") % {"n": plan.owned or 0}
        cards.append(
            Card(
                kind="do" if n == 0 and final.verdict != "pass" else "plain",
                title=_way_title(plan) if n == 0 else _("Or: %(way)s") % {"way": way_name(plan)},
                text=text,
                big=clock(by_s // 60 * 60),  # a deadline is never rounded up
                big_label=_("Start before"),
                facts=((_("Cold at"), _times(plan, clock)),),
            )
        )
    return tuple(cards)


def _tag(asked: dict[str, Any], asker: Asker, profile: Profile, verdict: CoolingVerdict) -> Card:
    cold = profile.hold["cold"]
    ready = verdict.verdict == "pass"
    return Card(
        kind="tag",
        title=capital(asked["food"].name),
        facts=(
            (_("Keep at"), _("%(c)s or below") % {"c": hold_text(cold, asker.units)}),
            (_("Keeps"), span(profile.dates.leftover_min_s)),
            (_("Amount"), shown(asked["litres"], "volume", asker.units)),
        ),
        foot=_("Chilled in time: label it now")
        if ready
        else _("Label it when every container reads %(c)s") % {"c": hold_text(cold, asker.units)},
    )


def _ways_table(asker: Asker, plans: Sequence[ChillPlan], clock: Any) -> Table:
    rows = []
    for plan in plans[:14]:
        rows.append(
            (
                capital(way_name(plan)) if plan is not plans[0] else _("As it is"),
                shown(plan.way.depth_m, "length", asker.units, places=1),
                _times(plan, clock),
                _("passes") if plan.passes else _("fails"),
                shown(plan.ice_kg, "mass", asker.units, up=True, places=1) if plan.ice_kg else "",
                span(plan.way.effort_s),
                "" if plan.enough else _("kitchen has %(n)d") % {"n": plan.owned or 0},
            )
        )
    return Table(
        title=_("Every way, reckoned on the slow side"),
        heads=(_("Way"), _("Depth"), _("Cold at"), _("Rule"), _("Ice"), _("Effort"), ""),
        rows=tuple(rows),
    )


def _stage_table(asker: Asker, verdict: CoolingVerdict, clock: Any) -> Table:
    words = {"met": _("met"), "broken": _("broken"), "open": _("open")}
    rows = tuple(
        (
            _("%(a)s to %(b)s") % {"a": limit(row.stage.start, asker.units), "b": limit(row.stage.end, asker.units)},
            span(row.stage.within_s),
            clock(row.due_s),
            clock(row.reached_s) if row.reached_s is not None else _("not reached"),
            words[row.standing],
        )
        for row in verdict.stages
    )
    return Table(
        title=_("Stage by stage, readings and forecast together"),
        heads=(_("From, to"), _("Within"), _("Due"), _("Reached"), _("So")),
        rows=rows,
    )


@lru_cache(maxsize=512)
def _greatest(
    shape: SolidShape, food: ConstantProperties, h: float, around_c: float, start_c: float, code: str
) -> float | None:
    """The same for every amount, so it is not worked out anew at each key. A kitchen cannot change
    cooling stages: the shipped profile's are its own."""
    return greatest_size(shape, food, h=h, around_c=around_c, start_c=start_c, profile=shipped(code))


def _greatest_table(asker: Asker, batch: ChillBatch, around_c: float, profile: Profile) -> Table:
    """The greatest size that passes here when it begins hot, by shape and place."""
    names: tuple[tuple[SolidShape, str], ...] = (
        ("slab", _("layer, both sides free")),
        ("cylinder", _("roll or log")),
        ("sphere", _("ball, whole piece")),
    )
    hot_c = stages_of(profile)[0].start.c
    last_c = min(stage.end.c for stage in stages_of(profile))
    places = [(name, c) for name, c in (("fridge", around_c), ("blast", -2.0), ("ice_bath", 0.5)) if c < last_c]
    rows = []
    for shape, words in names:
        sizes = [_greatest(shape, batch.food, environment(name).low_h, c, hot_c, profile.id) for name, c in places]
        cut = [shown(s, "length", asker.units, up=False, places=1) if s else _("none") for s in sizes]
        rows.append((words, *cut))
    return Table(
        title=_("The greatest size that passes, begun at once from %(c)s") % {"c": temp(hot_c, asker.units)},
        heads=(_("Shape"), *(capital(_(_WHERE[name][1])) for name, _c in places)),
        rows=tuple(rows),
    )


def _chill_notes(profile: Profile, found: CoolingCourses | None, verdict: CoolingVerdict) -> list[str]:
    notes = []
    if not profile.cooling.stages:
        notes.append(
            _(
                "This profile measures no cooling stages: it wants the food in the fridge within %(t)s, shallow. The wall drawn is hot to cold holding within that time."
            )
            % {"t": span(profile.cooling.into_fridge_s)}
        )
    if found is None and verdict.verdict in ("unfinished", "not_started"):
        notes.append(_("Too few readings for a forecast of their own; the curve is the model's."))
    return notes


# --- freeze and thaw --------------------------------------------------------------------------------

_METHOD = {"fridge": "fridge", "fan_fridge": "fridge", "tap_water": "running_water", "room": "room"}


def freeze_or_thaw(asked: dict[str, Any], asker: Asker) -> Answer:
    """In by when, out by when, then where."""
    profile = asker.rules(asked["code"])
    half = asked["thick"] / 2
    sizes = (half, 2 * half, 3 * half) if asked["shape"] == "brick" else (half,)
    piece = FrozenPiece(
        shape=asked["shape"],
        size_m=sizes,
        composition=asked["food"].composition,
        covers=(asked["wrap"],) if asked["wrap"] else (),
    )
    freezing = asked["way"] == "freeze"
    if freezing != (asked["where"] in ("freezer", "fan_freezer")):
        raise CoreError("where", "freezing needs a freezer, thawing a place that is not one")
    if freezing:
        target_c = profile.hold["freezer"].temperature.c
        course = freezing_course(
            piece, where=asked["where"], around_c=asked["around"], start_c=asked["start"], target_c=target_c
        )
    else:
        course = thawing_course(piece, where=asked["where"], around_c=asked["around"], start_c=asked["start"])
    if course.reached_s is None:
        return Answer(
            state="breach",
            title=_("It does not get there within a week"),
            text=_("Make it thinner, or choose a quicker place."),
        )
    by_s = clock_of_day(asked["by"]) if asked["by"].strip() else None
    if asked["by"].strip() and by_s is None:
        raise CoreError("by", f"{asked['by'][:20]!r} is no time of the clock: 09:30")
    return _freeze_answer(asked, asker, profile, course, by_s, freezing=freezing)


def _day_clock(at_s: float) -> str:
    days, rest = divmod(at_s, 86400)
    text = f"{int(rest // 3600):02d}:{int(rest % 3600 // 60):02d}"
    word = {0: "", -1: _(" the day before"), -2: _(" two days before")}.get(int(days))
    return text + (word if word is not None else _(" %(n)d days before") % {"n": -int(days)})


def _freeze_answer(asked, asker, profile, course, by_s, *, freezing) -> Answer:  # type: ignore[no-untyped-def]
    units = asker.units
    took = course.reached_s
    standing = (
        None if freezing else judge_thaw(course, profile, method=_METHOD[asked["where"]], around_c=asked["around"])
    )
    start = None if by_s is None else by_s - took
    cards = []
    if start is not None:
        begin = _("Into the freezer by") if freezing else _("Out of the freezer by")
        cards.append(
            Card(
                kind="do",
                title=begin,
                big=_day_clock(start),
                big_label=_("At the latest"),
                text=_("Ready at %(by)s; reckoned with still, slow surroundings.") % {"by": asked["by"]},
            )
        )
    if standing:
        cards.append(Card(title=_("Then"), text=_then(standing.then, profile)))
    else:
        cards.append(
            Card(
                title=_("Then"),
                text=_("Label with the day. Freezing stops the fridge's clock and does not set it back."),
            )
        )
    if standing and not standing.allowed:
        why = {
            "room": _("Never thaw on the counter: the outside is warm for hours while the middle is still ice."),
            "too_warm_water": _("The water is warmer than 21 °C (70 °F)."),
            "surface_too_long": _("The outside is above the cold limit for %(t)s.")
            % {"t": span(standing.surface_out_s)},
        }[standing.why]
        state, title, text = "breach", _("Not this way"), why
    else:
        state, title = "ahead", _("Frozen through in %(t)s" if freezing else "Thawed in %(t)s") % {"t": span(took)}
        text = _("%(thick)s thick, %(where)s.") % {
            "thick": shown(asked["thick"], "length", units),
            "where": _where(asked["where"]),
        }
        if freezing and took > 24 * 3600:
            state, text = "due", text + " " + _("Over a day: freeze it flatter, or chill it in the fridge first.")
    points = list(zip(course.times_s.tolist(), course.centre_c.tolist(), strict=True))
    skin = list(zip(course.times_s.tolist(), course.surface_c.tolist(), strict=True))
    every = max(1, len(points) // 160)
    low, high = (
        min(min(c for _s, c in points), asked["around"]) - 3,
        max(max(c for _s, c in points), asked["around"], 6) + 3,
    )
    drawn = chart(
        Ask(
            curves=(
                Curve(kind="way", points=skin[::every], label=_("outside")),
                Curve(
                    kind="actual-line", points=[*points[::every], points[-1]], label=_("middle"), end_text=span(took)
                ),
            ),
            limits=(-18.0, 0.0, profile.hold["cold"].temperature.c, asked["around"]),
            cold_c=profile.hold["cold"].temperature.c,
            until_s=float(course.times_s[-1]) * 1.12,
            low_c=low,
            high_c=high,
            words={"cold": _("cold"), "danger": ""},
            degrees=lambda c: temp(c, units, whole=abs(c - round(c)) < 0.05),
            clock=clock_word(None),
            title=title,
            desc=_("Temperature of the middle and the outside over time."),
            height=420.0,
        )
    )
    marks = range(0, len(points), max(1, len(points) // 10))
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=drawn,
        cards=tuple(cards),
        tables=(
            Table(
                title=_("Over time"),
                heads=(_("After"), _("Middle"), _("Outside")),
                rows=tuple((span(points[n][0]), temp(points[n][1], units), temp(skin[n][1], units)) for n in marks),
            ),
        ),
        notes=(
            _("Food is taken to begin freezing at −1 °C; very sweet or salty food freezes lower and takes longer."),
        ),
        source=source_line(profile, profile.hold["freezer" if freezing else "cold"].section),
        extra={"good": state != "breach"},
    )


def _then(what: str, profile: Profile) -> str:
    return {
        "within_days": _(
            "Stays in the fridge; cook it within a day or two, by its own date. Catch the drip: lowest shelf, in a dish."
        ),
        "cook_at_once": _("Cook it at once."),
        "cook_or_chill": _("Cook it at once, or into the fridge before its surface has been warm too long."),
        "half_longer": _("Cooking from frozen takes about half as long again; the core decides."),
    }.get(what, _("Throw away what was thawed on the counter for hours."))


# --- the cool box -------------------------------------------------------------------------------------


def box(asked: dict[str, Any], asker: Asker) -> Answer:
    """Ice or packs for the hours, eat-by in the heat, water without a tap."""
    units = asker.units
    profile = asker.rules(asked["code"])
    keep = profile.hold["cold"].temperature
    hours = asked["hours"] / 3600
    same = {
        "box": asked["box"],
        "cold": asked["cold"],
        "ambient_c": asked["ambient"],
        "hours": hours,
        "food_kg": asked["food_kg"],
        "food_c": asked["food_c"],
        "keep_c": keep.c,
        "openings": asked["openings"],
    }
    need = box_need(**same)
    long = box_course(**{**same, "hours": max(hours * 1.6, 1.0)}, cold_kg=need.cold_kg)
    without = box_course(**{**same, "hours": max(hours * 1.6, 1.0)}, cold_kg=0.0)
    water = field_water(people=asked["people"], washes_each=asked["washes"], produce_kg=asked["produce"])
    eat = eat_by(profile, out_before_s=asked["out"], ambient_c=asked["ambient"])
    name = cold_packs()[asked["cold"]]["name"]
    amount = shown(need.cold_kg, "mass", units, up=True, places=1)
    hot_start = keep.passed_by(asked["food_c"])
    if hot_start:
        state, title = "breach", _("Chill the food first: a box keeps cold, it does not make cold")
        text = _("It goes in at %(t)s; the limit is %(limit)s.") % {
            "t": temp(asked["food_c"], units),
            "limit": limit(keep, units),
        }
    elif not need.fits:
        state, title = "due", _("Too much for one box")
        text = _("Food and ice need %(need)s; the box has %(room)s. Take a second one.") % {
            "need": shown(need.room_needed_l, "volume", units, up=True),
            "room": shown(need.room_l, "volume", units),
        }
    else:
        state, title = (
            "ahead",
            _("Take %(amount)s of %(cold)s for %(t)s") % {"amount": amount, "cold": name, "t": span(asked["hours"])},
        )
        text = _("Three tenths spare are in it. Measure in the box: at most %(limit)s.") % {"limit": limit(keep, units)}
    points = [row for row in long.points if row[0] <= asked["hours"] * 1.6]
    drawn = chart(
        Ask(
            curves=(
                Curve(kind="stay", points=[r for r in without.points if r[1] < 40], label=_("without ice")),
                Curve(
                    kind="actual-line",
                    points=points[:: max(1, len(points) // 160)],
                    label=_("with %(a)s") % {"a": amount},
                ),
            ),
            limits=(0.0, keep.c, asked["ambient"]),
            cold_c=keep.c,
            until_s=asked["hours"] * 1.6,
            low_c=-2.0,
            high_c=max(asked["ambient"] + 2, 12.0),
            walls=(
                Wall(at_s=asked["hours"], limit_c=keep.c, label=_("home again, %(t)s") % {"t": span(asked["hours"])}),
            ),
            words={"cold": _("cold"), "danger": _("danger band")},
            degrees=lambda c: temp(c, units, whole=abs(c - round(c)) < 0.05),
            clock=clock_word(None),
            title=title,
            desc=_("Temperature in the box over time, with and without ice."),
            height=400.0,
        )
    )
    eat_text = (
        _("Throw it away: it was out for %(t)s, the limit is %(l)s.")
        % {"t": span(eat.total_s), "l": span(eat.limit.limit_s)}
        if eat.standing == "over"
        else _("Once out of the box, in %(a)s. %(out)s are spent already.")
        % {"a": temp(asked["ambient"], units), "out": span(asked["out"])}
    )
    return Answer(
        state=state if eat.standing != "over" else "breach",
        title=title if eat.standing != "over" else _("Too long out already: throw it away"),
        text=text,
        chart=drawn,
        cards=(
            Card(
                kind="do",
                title=_("Eat within"),
                big=span(eat.remaining_s // 60 * 60),
                big_label=_("out of the box"),
                text=eat_text,
            ),
            Card(
                title=_("Two boxes"),
                text=_(
                    "Raw meat and fish in one, ready-to-eat food and drinks in another: the second is the one that is opened. Raw below, everything in closed boxes, a thermometer on top."
                ),
            ),
            Card(
                title=_("Water to carry"),
                big=shown(water.total_l, "volume", units, up=True),
                big_label=_("no tap"),
                facts=(
                    (_("Hands"), shown(water.hands_l, "volume", units, up=True)),
                    (_("Produce"), shown(water.produce_l, "volume", units, up=True)),
                    (_("Kit"), shown(water.kit_l, "volume", units, up=True)),
                ),
                text=_("With a tap on the can, soap, paper towels. Gel is no hand-wash."),
            ),
        ),
        tables=(
            Table(
                title=_("Where the warmth comes from"),
                heads=(_("From"), _("kJ")),
                rows=(
                    (_("Walls and lid"), f"{need.walls_kj:.0f}"),
                    (_("%(n)d openings") % {"n": asked["openings"]}, f"{need.openings_kj:.0f}"),
                    (_("Warm food"), f"{need.food_kj:.0f}"),
                ),
            ),
        ),
        source=source_line(profile, eat.limit.section),
        extra={"good": state in ("good", "ahead")},
    )

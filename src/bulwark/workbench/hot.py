"""Tools of the heat: the cook check, the slow cooker, the thermometer bench."""

import math
from typing import Any

from django.utils import timezone
from django.utils.translation import gettext as _

from bulwark.presentation.charts import Ask, Curve, chart
from bulwark.presentation.phrases import cook_text, listed
from bulwark.presentation.units import Units, shown
from bulwark.workbench.answers import Answer, Asker, Card, Table, clock_word, limit, source_line, span, temp
from foodsafety.cooking import (
    OBSERVATIONS,
    CookVerdict,
    Kinetics,
    Probing,
    cook_verdict,
    cook_window,
    crock_fill,
    f_value_s,
    kill_targets,
    lethality_of,
    slow_cooker_times,
    warm_up,
)
from foodsafety.measuring import (
    CHECK_EVERY_DAYS,
    check_thermometer,
    clock_of_day,
    fitting_thermometers,
    minutes_seconds,
    probe_placement,
    review_log,
    typed_probings,
)
from foodsafety.quantities import CoreError, c_from_f
from foodsafety.rules import CookLimit, Profile


def _limit_for(asked: dict[str, Any], profile: Profile) -> CookLimit:
    if asked["method"] == "microwave":
        return profile.cook["microwave"]
    if asked["method"] == "reheat":
        return profile.cook["reheat"]
    name = asked["food"].cook_class
    if name is None or name not in profile.cook:
        raise CoreError("food", f"{asked['food'].name} has no cooking limit here: it is eaten raw or held hot")
    return profile.cook[name]


def _observed(text: str) -> list[str]:
    """What was seen, in our own words where we know them."""
    words = {
        "browned": _("browned"),
        "juices_clear": _("juices clear"),
        "firm": _("firm"),
        "piping_hot": _("piping hot"),
        "opaque_flakes": _("opaque, flakes"),
        "shells_open": _("shells open"),
        "floats": _("floats"),
    }
    seen = text.lower().replace(" ", "_")
    return [words[key] for key in OBSERVATIONS if key in seen or key.split("_")[0] in seen]


def cook(asked: dict[str, Any], asker: Asker) -> Answer:
    """The cook check."""
    profile = asker.rules(asked["code"])
    row = _limit_for(asked, profile)
    units = asker.units
    rows = typed_probings(asked["readings"])
    probings, doubted = [], []
    for n, reading in enumerate(rows, start=1):
        value_c = c_from_f(reading.value) if units.temps == "F" else reading.value
        if not -60 <= value_c <= 103:
            doubted.append(
                _("line %(n)d: %(v)s is hotter or colder than food gets; kept, not trusted")
                % {"n": n, "v": f"{reading.value:g}"}
            )
            continue
        error = asked["error"] * (5 / 9 if units.temps == "F" else 1.0)
        probings.append(Probing(at_s=reading.at_s, piece=reading.piece, core_c=value_c, error_c=error))
    if not probings:
        raise CoreError("readings", "none of these can be the core of a food")
    read = probings
    probings, jumped = _trusted(read)
    doubted += jumped
    off_s = minutes_seconds(asked["off"]) if asked["off"].strip() else None
    if asked["off"].strip() and off_s is None:
        raise CoreError("off", f"{asked['off'][:20]!r} is no time: minutes:seconds")
    now_s = max(p.at_s for p in read)
    found = cook_verdict(probings, row, profile, now_s=now_s, off_heat_s=off_s, pieces_needed=asked["pieces"])
    state, title, text = _cook_words(found, row, asker)
    everything = cook_verdict(read, row, profile, now_s=now_s, off_heat_s=off_s, pieces_needed=asked["pieces"])
    if found.status == "reached" and everything.status != "reached":
        state, title = "open", _("Cannot be judged: probe it once more")
        text = _("It hangs on a reading nobody can trust; left out it would be cooked, counted it is not.")
    seen = _observed(asked["seen"])
    notes = [*doubted]
    if asked["seen"].strip():
        notes.append(
            _(
                "Seen: %(what)s. Recorded, and no proof: colour, juice and firmness come before and after the safe temperature."
            )
            % {"what": listed(seen) if seen else asked["seen"].strip()[:120]}
        )
    if profile.subtract_probe_error and asked["error"]:
        notes.append(_("The probe's error is taken off every reading before it is judged."))
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=_cook_chart(probings, row, asker, title, now_s),
        cards=_cook_cards(found, row, profile, probings, asker),
        tables=(_piece_table(probings, row, asker), _death_table(probings, profile, units)),
        notes=tuple(notes),
        source=source_line(profile, row.section),
        extra={"good": state == "good"},
    )


def _trusted(probings: list[Probing]) -> tuple[list[Probing], list[str]]:
    """Readings without the jumps no piece can make, and those in words."""
    kept: list[Probing] = []
    told = []
    for piece in dict.fromkeys(p.piece for p in probings):
        mine = [p for p in probings if p.piece == piece]
        log = review_log([(p.at_s, p.core_c) for p in mine], counts="lower")
        good = set(log.series)
        for p in mine:
            if (p.at_s, p.core_c) in good:
                kept.append(p)
            else:
                told.append(
                    _("piece %(piece)s at %(at)s: a jump, or a higher repeat; kept, not trusted")
                    % {"piece": piece, "at": clock_word(None)(p.at_s)}
                )
    return sorted(kept, key=lambda p: p.at_s), told


def _cook_words(found: CookVerdict, row: CookLimit, asker: Asker) -> tuple[Any, str, str]:
    units = asker.units
    lowest = temp(found.lowest_c, units, up=False) if found.lowest_c is not None else ""
    wants = cook_text(row, units.temps)
    piece = _("piece %(p)s") % {"p": found.lowest_piece}
    words = {
        "not_measured": ("open", _("Not measured"), _("Nothing here is called cooked without a reading.")),
        "too_few": (
            "due",
            _("Hot, but too few pieces"),
            _("%(n)d of %(of)d probed. Probe the rest: the smallest is not the slowest.")
            % {"n": found.pieces, "of": found.pieces_needed},
        ),
        "below": (
            "breach",
            _("Not cooked yet"),
            _("Lowest: %(piece)s, %(c)s. It wants %(wants)s. Keep cooking, clean the probe, probe it again.")
            % {"piece": piece, "c": lowest, "wants": wants},
        ),
        "hold": (
            "due",
            _("Hold it there %(t)s more") % {"t": span(found.remaining_s)},
            _("Lowest: %(piece)s, %(c)s.") % {"piece": piece, "c": lowest},
        ),
        "rest": (
            "due",
            _("Rest it %(t)s off the heat") % {"t": span(found.remaining_s)},
            _("Then one more reading of %(piece)s, still at the limit.") % {"piece": piece},
        ),
        "confirm": (
            "due",
            _("Probe %(piece)s once more") % {"piece": piece},
            _("The time is over; only a reading shows that it stayed hot."),
        ),
        "reached": (
            "good",
            _("Cooked"),
            _("Lowest: %(piece)s, %(c)s; it wants %(wants)s.") % {"piece": piece, "c": lowest, "wants": wants},
        ),
        "cannot_judge": (
            "open",
            _("No temperature to judge by"),
            _("This profile goes by: %(what)s. Recorded, never measured.") % {"what": row.observation},
        ),
    }
    return words[found.status]


def _cook_chart(probings: list[Probing], row: CookLimit, asker: Asker, title: str, now_s: float) -> Any:
    pieces = list(dict.fromkeys(p.piece for p in probings))
    target = row.main.temperature.c if row.main else 70.0
    curves = [
        Curve(
            kind="actual",
            points=mine,
            label=_("%(p)s: %(c)s") % {"p": piece, "c": temp(mine[-1][1], asker.units, up=False)},
        )
        for piece in pieces
        for mine in [[(p.at_s, p.core_c) for p in probings if p.piece == piece]]
    ]
    first_s = min(p.at_s for p in probings)
    moved = [Curve(kind=c.kind, points=[(s - first_s, t) for s, t in c.points], label=c.label) for c in curves]
    until = max(120.0, (now_s - first_s) * 1.15)
    low = min(min(p.core_c for p in probings) - 4, target - 12)
    return chart(
        Ask(
            curves=tuple(moved),
            limits=(target,),
            hot_c=target,
            until_s=until,
            low_c=low,
            high_c=max(max(p.core_c for p in probings) + 4, target + 8),
            words={"danger": _("not safe yet"), "hot": _("at the limit")},
            degrees=lambda c: temp(c, asker.units),
            quiet=True,
            clock=lambda s: f"{int((s + first_s) // 60)}:{int((s + first_s) % 60):02d}",
            title=title,
            desc=_("Core readings of each piece over time, against the limit."),
            height=420.0,
        )
    )


def _cook_cards(
    found: CookVerdict, row: CookLimit, profile: Profile, probings: list[Probing], asker: Asker
) -> tuple[Card, ...]:
    wants = Card(
        kind="do" if found.status in ("hold", "rest") else "plain",
        title=_("The limit"),
        big=limit(row.main.temperature, asker.units) if row.main else _("none"),
        big_label=_("lowest piece"),
        text=cook_text(row, asker.units.temps),
        facts=((_("Pieces probed"), _("%(n)d of %(of)d") % {"n": found.pieces, "of": found.pieces_needed}),),
    )
    after = {
        "below": _("Put it back. What touched the cold piece is soiled: probe, tongs, plate."),
        "too_few": _("Probe through the side, tip in the middle, clean between pieces."),
        "reached": _("Serve it now, keep it at %(hot)s or above, or chill it by the rule. Clean plate, clean tongs.")
        % {"hot": limit(profile.hold["hot"].temperature, asker.units)},
    }.get(found.status, _("Leave the lid on; read the lowest piece again."))
    cards = [wants, Card(title=_("What next"), text=after)]
    if profile.part_cook.limit_s:
        cards.append(
            Card(
                title=_("Part cooking"),
                text=_(
                    "Heated part of the way: at most %(t)s, cooled by the cooling rule at once, then cooked to the full limit. %(s)s"
                )
                % {"t": span(profile.part_cook.limit_s), "s": profile.part_cook.section},
            )
        )
    else:
        cards.append(Card(title=_("Part cooking"), text=_("Cook through in one go. Part-cooked food is raw food.")))
    return tuple(cards)


def _piece_table(probings: list[Probing], row: CookLimit, asker: Asker) -> Table:
    rows = []
    for p in probings:
        met = row.main is not None and row.main.temperature.met_by(p.core_c)
        clock = f"{int(p.at_s // 60)}:{int(p.at_s % 60):02d}"
        rows.append((p.piece, clock, temp(p.core_c, asker.units, up=False), _("at the limit") if met else _("below")))
    return Table(title=_("Readings"), heads=(_("Piece"), _("At"), _("Core"), _("So")), rows=tuple(rows))


def _f_s(probings: list[Probing], piece: str, death: Kinetics, profile: Profile) -> float:
    """The F-value [s] of one piece at an organism's own temperature."""
    series = tuple((p.at_s, p.core_c) for p in probings if p.piece == piece)
    return f_value_s(series, t_ref_c=death.t_ref_c, z_c=death.z_c, longest_gap_s=profile.longest_gap_s)


def _death_table(probings: list[Probing], profile: Profile, units: Units) -> Table:
    """What the readings of the slowest piece have killed: it explains the limit, it decides nothing."""
    rows = []
    for target in kill_targets(profile.id):
        worst = min(
            lethality_of(
                tuple((p.at_s, p.core_c) for p in probings if p.piece == piece),
                target.death,
                longest_gap_s=profile.longest_gap_s,
            ).log_reduction
            for piece in {p.piece for p in probings}
        )
        asked = f"{target.asked:g}" if target.asked else _("says nothing")
        least_s = min(_f_s(probings, piece, target.death, profile) for piece in {p.piece for p in probings})
        at = _("%(t)s at %(c)s") % {"t": span(math.floor(least_s)), "c": temp(target.death.t_ref_c, units)}
        rows.append((target.name, f"{int(worst * 10) / 10:.1f}", asked, at, target.source))
    return Table(
        title=_("Tenfold reductions shown by the readings (explains the limit, decides nothing)"),
        heads=(_("Organism"), _("Shown"), _("Asked"), _("As much as"), _("Source")),
        rows=tuple(rows),
    )


# --- the slow cooker ------------------------------------------------------------------------------------


def slow(asked: dict[str, Any], asker: Asker) -> Answer:
    """How full, on by when, how long in the danger band."""
    units = asker.units
    size = float(asked["size"])
    filled = crock_fill(asked["volume"], size)
    setting: Any = "low" if asked["setting"] == "high_first" else asked["setting"]
    converted = slow_cooker_times(simmer_s=asked["simmer"], liquid_ml=asked["liquid"])
    takes = converted.low_s if setting == "low" else converted.high_s
    lifts = [3600.0 * (n + 1) for n in range(asked["lifts"]) if 3600.0 * (n + 1) < takes[1]]
    if asked["volume"] > size:
        raise CoreError("volume", f"{asked['volume']:g} l do not fit into {size:g} l")
    went = warm_up(
        volume_l=asked["volume"],
        size_l=size,
        setting=setting,
        start_c=asked["start"],
        room_c=asked["room"],
        lid_lifts_s=lifts,
        high_first_s=3600.0 if asked["setting"] == "high_first" else 0.0,
        until_s=takes[1] + 3600,
    )
    serve = clock_of_day(asked["serve"]) if asked["serve"].strip() else None
    if asked["serve"].strip() and serve is None:
        raise CoreError("serve", f"{asked['serve'][:20]!r} is no time of the clock: 18:30")
    window = cook_window(takes, lid_lifts=len(lifts))
    band = span(went.in_band_s) if went.in_band_s is not None else _("all day")
    if not went.within:
        state, title = "breach", _("Too long in the danger band: %(t)s") % {"t": band}
        text = _("About %(l)s is the most. Start on high for an hour, take less, or heat the liquid first.") % {
            "l": span(went.limit_s)
        }
    elif filled.standing != "good":
        state = "due"
        title = _("Too full") if filled.standing == "over" else _("Not full enough")
        text = _("From %(a)s to %(b)s: half to two thirds.") % {
            "a": shown(filled.least_l, "volume", units, up=True, places=1),
            "b": shown(filled.most_l, "volume", units, up=False, places=1),
        }
    else:
        state, title = "ahead", _("Through the danger band in %(t)s") % {"t": band}
        text = _("A prediction. Measure: %(hot)s in the middle by %(l)s.") % {
            "hot": temp(60.0, units),
            "l": span(went.limit_s),
        }
    cards = []
    if serve is not None:
        cards.append(
            Card(
                kind="do",
                title=_("Switch it on"),
                big=_clock(serve - window.latest_s),
                big_label=_("At the latest"),
                text=_("For serving at %(s)s: %(a)s to %(b)s on %(set)s, %(n)d lid lifts at up to 30 min, 10 min rest.")
                % {
                    "s": asked["serve"],
                    "a": span(takes[0]),
                    "b": span(takes[1]),
                    "set": _("low") if setting == "low" else _("high"),
                    "n": len(lifts),
                },
            )
        )
        cards.append(
            Card(
                title=_("Goes in late"),
                big=_clock(serve - window.late_from_s),
                big_label=_("From"),
                text=_("Pasta, rice, soft vegetables, dairy, seafood, fresh herbs: the last 45 to 60 minutes."),
            )
        )
    cards.append(
        Card(
            title=_("From the hob"),
            facts=(
                (_("On low"), f"{span(converted.low_s[0])} – {span(converted.low_s[1])}"),
                (_("On high"), f"{span(converted.high_s[0])} – {span(converted.high_s[1])}"),
                (
                    _("Liquid"),
                    f"{shown(converted.liquid_ml[0], 'millilitres', units)} – {shown(converted.liquid_ml[1], 'millilitres', units)}",
                ),
                (_("Full"), f"{filled.share * 100:.0f} %"),
            ),
            text=_("Thawed food only. Dry beans boil for ten minutes first."),
        )
    )
    points = went.course[:: max(1, len(went.course) // 150)]
    drawn = chart(
        Ask(
            curves=(Curve(kind="stay-good" if went.within else "stay", points=points, label=_("in the pot")),),
            limits=(5.0, 60.0),
            hot_c=60.0,
            cold_c=5.0,
            until_s=went.course[-1][0],
            low_c=-2.0,
            high_c=104.0,
            words={"danger": _("danger band"), "hot": _("hot"), "cold": _("cold")},
            degrees=lambda c: temp(c, units, whole=True),
            clock=clock_word(None),
            title=title,
            desc=_("Predicted temperature of the contents over time."),
            height=420.0,
        )
    )
    marks = went.course[:: max(1, len(went.course) // 10)]
    return Answer(
        state=state,
        title=title,
        text=text,
        chart=drawn,
        cards=tuple(cards),
        tables=(
            Table(
                title=_("Over time"),
                heads=(_("After"), _("In the pot")),
                rows=tuple((span(s), temp(c, units, up=False)) for s, c in marks),
            ),
        ),
        notes=(_("Reckoned as one mixed mass with typical cookers; yours may be slower."),),
        source=_(
            "Half to two thirds full, thawed only, through the danger band within about 4 h, a lifted lid costs 15 to 30 min: food-safety guidance for slow cookers."
        ),
        extra={"good": went.within},
    )


def _clock(at_s: float) -> str:
    days, rest = divmod(at_s, 86400)
    text = f"{int(rest // 3600):02d}:{int(rest % 3600 // 60):02d}"
    return text if days == 0 else _("%(t)s the day before") % {"t": text}


# --- the thermometer bench ---------------------------------------------------------------------------------


def probe(asked: dict[str, Any], asker: Asker) -> Answer:
    """Ice point, boiling point, the right kind, where the tip goes."""
    units = asker.units
    found = check_thermometer(
        ice_shows_c=asked["ice"], boil_shows_c=asked["boil"], altitude_m=asked["altitude"], on=timezone.localdate()
    )
    where = probe_placement(asked["food"], thickness_m=asked["thick"], width_m=asked["wide"])
    fits = fitting_thermometers(where, thickness_m=asked["thick"])
    boils = temp(found.boiling_c, units)
    # A difference has no 32 in it.
    scale = 1.8 if units.temps == "F" else 1.0
    offset = f"{(found.offset_c or 0.0) * scale:+.1f} °{units.temps}".replace("-", "\u2212")
    states: dict[str, tuple[Any, str, str]] = {
        "good": (
            "good",
            _("Good: add %(o)s to what it shows") % {"o": offset},
            _("Ice and boiling water agree within 1 °C (2 °F). Due again in %(n)d days.") % {"n": CHECK_EVERY_DAYS},
        ),
        "adjust": (
            "breach",
            _("Out by more than 1 °C: adjust it before use"),
            _("It needs %(o)s. After adjusting, check both points again.") % {"o": offset},
        ),
        "replace": (
            "breach",
            _("Do not use it"),
            _("Its two points are wrong by different amounts: no offset mends that."),
        ),
        "cannot_judge": (
            "open",
            _("Check both points"),
            _("Ice slush and boiling water: one point alone says nothing about the other end."),
        ),
    }
    state, title, text = states[found.standing]
    kinds = {
        "": _("right"),
        "surface_only": _("shows the surface only, never the core"),
        "too_thick_sensor": _("measures over a longer stretch than the food has"),
        "needs_side": _("the food is too thin for it"),
    }
    clear = {"pan": _("pan"), "bone": _("bone"), "fat": _("fat"), "cavity": _("cavity"), "dish": _("dish")}
    side = _("from the side") if where.from_side else _("from above")
    depth = shown(where.depth_m, "length", units, places=1)
    return Answer(
        state=state,
        title=title,
        text=text,
        picture=where.shape,
        cards=(
            Card(
                title=_("Where the tip goes"),
                big=depth,
                big_label=side,
                text=_("The thickest part, clear of %(what)s. Wait until it stands still.")
                % {"what": listed([clear[c] for c in where.clear])},
            ),
            Card(
                title=_("Boiling here"),
                big=boils,
                big_label=_("water"),
                text=_("At %(a)s above the sea.") % {"a": shown(asked["altitude"], "altitude", units, places=0)},
            ),
        ),
        tables=(
            Table(
                title=_("Which kind for this food"),
                heads=(_("Kind"), _("Verdict"), _("Measures over"), _("Settles in"), _("In the oven")),
                rows=tuple(
                    (
                        fit.kind.name,
                        kinds[fit.why],
                        shown(fit.kind.sensor_m, "length", units, places=1) if fit.kind.sensor_m else "–",
                        span(fit.kind.ready_s(60.0)),
                        _("may stay") if fit.kind.oven else _("no"),
                    )
                    for fit in fits
                ),
            ),
        ),
        notes=(
            _(
                "Ice slush: more ice than water, stirred, two minutes. Boiling water: a rolling boil, tip off the bottom."
            ),
            _(
                "Clean and sanitise the probe before first use, between raw and ready-to-eat, and after every undercooked reading."
            ),
        ),
        source=_(
            "Within ±1 °C (±2 °F): Food Code 4-203.11. Boiling by altitude: standard atmosphere, Antoine's equation."
        ),
        extra={"good": state == "good", "from_side": where.from_side, "clear": where.clear},
    )

"""What the cook check says."""

import math
from collections.abc import Iterable, Sequence

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.phrases import Text, clock_word, cook_text, listed, span
from bulwark.presentation.units import Units, temp
from bulwark.presentation.units import limit as limit_text
from bulwark.workbench.answers import Card, State, Table, Verdict
from foodsafety.cooking import OBSERVATIONS, CookCheck, CookVerdict, DoubtedReading, OrganismKill, Probing
from foodsafety.measuring import most_error_c
from foodsafety.rules import CookLimit, Profile

_VERDICTS: dict[str, tuple[State, Text, Text]] = {
    "not_measured": ("open", _l("Not measured"), _l("Nothing here is called cooked without a reading.")),
    "too_few": (
        "due",
        _l("Hot, but too few pieces"),
        _l("%(n)d of %(of)d probed. Probe the rest: the smallest is not the slowest."),
    ),
    "below": (
        "breach",
        _l("Not cooked yet"),
        _l("Lowest: %(piece)s, %(c)s. It wants %(wants)s. Keep cooking, clean the probe, probe it again."),
    ),
    "hold": ("due", _l("Hold it there %(left)s more"), _l("Lowest: %(piece)s, %(c)s.")),
    "rest": (
        "due",
        _l("Rest it %(left)s off the heat"),
        _l("Covered and left alone. One more reading of %(piece)s, still at the limit, proves it better than a clock."),
    ),
    "confirm": (
        "due",
        _l("Probe %(piece)s once more"),
        _l("The time is over; only a reading shows that it stayed hot."),
    ),
    "reached": ("good", _l("Cooked"), _l("Lowest: %(piece)s, %(c)s; it wants %(wants)s.")),
    "cannot_judge": (
        "open",
        _l("No temperature to judge by"),
        _l("This profile goes by: %(observation)s. Recorded, never measured."),
    ),
}
_OBSERVATIONS = {
    "browned": _l("browned"),
    "juices_clear": _l("juices clear"),
    "firm": _l("firm"),
    "piping_hot": _l("piping hot"),
    "opaque_flakes": _l("opaque, flakes"),
    "shells_open": _l("shells open"),
    "floats": _l("floats"),
}
_RESTS_ON = {
    "clock": _l("The rest is over by the clock; no reading after it shows that it stayed hot."),
    "last_reading": _l("Nobody said when it came off the heat: the rest was counted from the last reading."),
}
_NEXT = {
    "below": _l("Put it back. What touched the cold piece is soiled: probe, tongs, plate."),
    "too_few": _l("Probe through the side, tip in the middle, clean between pieces."),
    "reached": _l("Serve it now, keep it at %(hot)s or above, or chill it by the rule. Clean plate, clean tongs."),
}


def verdict(found: CookCheck, limit: CookLimit, units: Units) -> Verdict:
    """Cooked, not yet, or why it cannot be said."""
    if found.hangs_on_doubt:
        text = _("It hangs on a reading nobody can trust; left out it would be cooked, counted it is not.")
        return Verdict("open", _("Cannot be judged: probe it once more"), text)
    one = found.verdict
    facts = {
        "n": one.pieces,
        "of": one.pieces_needed,
        "piece": _("piece %(p)s") % {"p": one.lowest_piece},
        "c": temp(one.lowest_c, units, up=False) if one.lowest_c is not None else "",
        "wants": cook_text(limit, units.temps),
        "left": span(one.remaining_s),
        "observation": limit.observation,
    }
    state, title, says = _VERDICTS[one.status]
    return Verdict(state, str(title) % facts, str(says) % facts)


def cards(found: CookVerdict, limit: CookLimit, profile: Profile, units: Units) -> tuple[Card, ...]:
    """The limit, what next, and what of part cooking."""
    wants = Card(
        kind="do" if found.status in ("hold", "rest") else "plain",
        title=_("The limit"),
        big=limit_text(limit.main.temperature, units) if limit.main else _("none"),
        big_label=_("lowest piece"),
        text=cook_text(limit, units.temps),
        facts=((_("Pieces probed"), _("%(n)d of %(of)d") % {"n": found.pieces, "of": found.pieces_needed}),),
    )
    hot = {"hot": limit_text(profile.hold["hot"].temperature, units)}
    then = str(_NEXT.get(found.status, _("Leave the lid on; read the lowest piece again."))) % hot
    return (wants, Card(title=_("What next"), text=then), _part_cooking(profile))


def _part_cooking(profile: Profile) -> Card:
    part = profile.part_cook
    if not part.limit_s:
        return Card(title=_("Part cooking"), text=_("Cook through in one go. Part-cooked food is raw food."))
    text = _(
        "Heated part of the way: at most %(t)s, cooled by the cooling rule at once, "
        "then cooked to the full limit. %(s)s"
    )
    return Card(title=_("Part cooking"), text=text % {"t": span(part.limit_s), "s": part.section})


def notes(found: CookCheck, seen: str, error_c: float, profile: Profile) -> tuple[str, ...]:
    """What was doubted, what was seen, and what the probe's error does."""
    rows = [_doubt(row) for row in found.doubted]
    if found.verdict.rests_on in _RESTS_ON:
        rows.append(str(_RESTS_ON[found.verdict.rests_on]))
    if seen.strip():
        said = _(
            "Seen: %(what)s. Recorded, and no proof: colour, juice and firmness come before and after the safe "
            "temperature."
        )
        rows.append(said % {"what": listed(_observed(seen)) or seen.strip()[:120]})
    if error_c and profile.subtract_probe_error:
        rows.append(_("The probe's error is taken off every reading before it is judged."))
    elif error_c > most_error_c():
        rows.append(_("This probe is out by more than guidance allows: its error is taken off every reading."))
    return tuple(rows)


def _doubt(row: DoubtedReading) -> str:
    if row.why == "impossible":
        text = _("line %(n)d: %(v)s is hotter or colder than food gets; kept, not trusted")
        return text % {"n": row.line, "v": f"{row.value:g}"}
    text = _("piece %(piece)s at %(at)s: a jump, or a higher repeat; kept, not trusted")
    return text % {"piece": row.piece, "at": clock_word(None)(row.at_s)}


def _observed(text: str) -> list[str]:
    """What was seen, in our own words where we know them."""
    seen = text.lower().replace(" ", "_")
    return [str(_OBSERVATIONS[key]) for key in OBSERVATIONS if key in seen or key.split("_")[0] in seen]


def minutes_seconds(at_s: float) -> str:
    """m:ss on the axis and in the table."""
    return f"{int(at_s // 60)}:{int(at_s % 60):02d}"


def piece_table(probings: Sequence[Probing], limit: CookLimit, units: Units) -> Table:
    """Every trusted reading."""

    def so(probing: Probing) -> str:
        met = limit.main is not None and limit.main.temperature.met_by(probing.core_c)
        return _("at the limit") if met else _("below")

    rows = ((p.piece, minutes_seconds(p.at_s), temp(p.core_c, units, up=False), so(p)) for p in probings)
    return Table(title=_("Readings"), heads=(_("Piece"), _("At"), _("Core"), _("So")), rows=tuple(rows))


def kill_table(kills: Iterable[OrganismKill], units: Units) -> Table:
    """What the readings of the slowest piece have killed: it explains the limit, it decides nothing."""

    def row(kill: OrganismKill) -> tuple[str, ...]:
        target = kill.target
        at = _("%(t)s at %(c)s") % {"t": span(math.floor(kill.f_value_s)), "c": temp(target.death.t_ref_c, units)}
        asked = f"{target.asked:g}" if target.asked else _("says nothing")
        return (target.name, f"{int(kill.log_reduction * 10) / 10:.1f}", asked, at, target.source)

    return Table(
        title=_("Tenfold reductions shown by the readings (explains the limit, decides nothing)"),
        heads=(_("Organism"), _("Shown"), _("Asked"), _("As much as"), _("Source")),
        rows=tuple(row(kill) for kill in kills),
    )


def curve_name(piece: str, last_c: float, units: Units) -> str:
    """A piece's curve."""
    return _("%(p)s: %(c)s") % {"p": piece, "c": temp(last_c, units, up=False)}


def band_words() -> dict[str, str]:
    """The bands behind the curves."""
    return {"danger": _("not safe yet"), "hot": _("at the limit")}


def chart_text() -> str:
    """What the drawing shows."""
    return _("Core readings of each piece over time, against the limit.")

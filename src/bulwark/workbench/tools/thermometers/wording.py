"""What the thermometer bench says."""

from collections.abc import Iterable

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.phrases import Text, listed, span
from bulwark.presentation.units import Units, shown, temp
from bulwark.workbench.answers import Card, State, Table, Verdict
from foodsafety.measuring import ProbePlacement, ThermometerCheck, ThermometerFit, boiling_c, check_every_days

_VERDICTS: dict[str, tuple[State, Text, Text]] = {
    "good": (
        "good",
        _l("Good: add %(offset)s to what it shows"),
        _l("Ice and boiling water agree within 1 °C (2 °F). Due again in %(days)d days."),
    ),
    "adjust": (
        "breach",
        _l("Out by more than 1 °C: adjust it before use"),
        _l("It needs %(offset)s. After adjusting, check both points again."),
    ),
    "replace": (
        "breach",
        _l("Do not use it"),
        _l("Its two points are wrong by different amounts: no offset mends that."),
    ),
    "cannot_judge": (
        "open",
        _l("Check both points"),
        _l("Ice slush and boiling water: one point alone says nothing about the other end."),
    ),
}
_FITS = {
    "": _l("right"),
    "surface_only": _l("shows the surface only, never the core"),
    "too_thick_sensor": _l("measures over a longer stretch than the food has"),
    "needs_side": _l("the food is too thin for it"),
}
_CLEAR_OF = {"pan": _l("pan"), "bone": _l("bone"), "fat": _l("fat"), "cavity": _l("cavity"), "dish": _l("dish")}
_STEP_C = 60.0


def verdict(found: ThermometerCheck, units: Units) -> Verdict:
    """Good, to be adjusted, to be replaced, or not known."""
    # A difference has no 32 in it.
    offset = (found.offset_c or 0.0) * (1.8 if units.temps == "F" else 1.0)
    facts = {"offset": f"{offset:+.1f} °{units.temps}".replace("-", "\u2212"), "days": check_every_days()}
    state, title, text = _VERDICTS[found.standing]
    return Verdict(state, str(title) % facts, str(text) % facts)


def cards(where: ProbePlacement, altitude_m: float, units: Units) -> tuple[Card, ...]:
    """Where the tip goes, and where water boils here."""
    return (
        Card(
            title=_("Where the tip goes"),
            big=shown(where.depth_m, "length", units, places=1),
            big_label=_("from the side") if where.from_side else _("from above"),
            text=_("The thickest part, clear of %(what)s. Wait until it stands still.")
            % {"what": listed(str(_CLEAR_OF[name]) for name in where.clear)},
        ),
        Card(
            title=_("Boiling here"),
            big=temp(boiling_c(altitude_m), units),
            big_label=_("water"),
            text=_("At %(a)s above the sea.") % {"a": shown(altitude_m, "altitude", units, places=0)},
        ),
    )


def table(fits: Iterable[ThermometerFit], units: Units) -> Table:
    """Every kind judged for the food."""
    return Table(
        title=_("Which kind for this food"),
        heads=(_("Kind"), _("Verdict"), _("Measures over"), _("Settles in"), _("In the oven")),
        rows=tuple(
            (
                fit.kind.name,
                str(_FITS[fit.why]),
                shown(fit.kind.sensor_m, "length", units, places=1) if fit.kind.sensor_m else "–",
                span(fit.kind.ready_s(_STEP_C)),
                _("may stay") if fit.kind.oven else _("no"),
            )
            for fit in fits
        ),
    )


def notes() -> tuple[str, ...]:
    """How the points are made, and when a probe is cleaned."""
    return (
        _("Ice slush: more ice than water, stirred, two minutes. Boiling water: a rolling boil, tip off the bottom."),
        _(
            "Clean and sanitise the probe before first use, between raw and ready-to-eat, and after every "
            "undercooked reading."
        ),
    )


def source() -> str:
    """Where the figures are from."""
    return _("Within ±1 °C (±2 °F): Food Code 4-203.11. Boiling by altitude: standard atmosphere, Antoine's equation.")

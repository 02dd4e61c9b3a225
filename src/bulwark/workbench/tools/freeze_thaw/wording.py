"""What the freezing and thawing planner says."""

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.phrases import day_clock, span
from bulwark.presentation.units import Units, shown, temp
from bulwark.workbench.answers import Card, Table, Verdict
from bulwark.workbench.places import where_words
from foodsafety.cooling import FreezePlan, ThawVerdict

_NOT_THIS_WAY = {
    "room": _l("Never thaw on the counter: the outside is warm for hours while the middle is still ice."),
    "too_warm_water": _l("The water is warmer than 21 °C (70 °F)."),
    "surface_too_long": _l("The outside is above the cold limit for %(t)s."),
}
_THEN = {
    "within_days": _l(
        "Stays in the fridge; cook it within a day or two, by its own date. Catch the drip: lowest shelf, in a dish."
    ),
    "cook_at_once": _l("Cook it at once."),
    "cook_or_chill": _l("Cook it at once, or into the fridge before its surface has been warm too long."),
    "half_longer": _l("Cooking from frozen takes about half as long again; the core decides."),
}


def verdict(plan: FreezePlan, thick_m: float, where: str, units: Units) -> Verdict:
    """How long it takes, or why not this way."""
    if plan.took_s is None:
        text = _("Make it thinner, or choose a quicker place.")
        return Verdict("breach", _("It does not get there within a week"), text)
    if plan.thaw and not plan.thaw.allowed:
        why = str(_NOT_THIS_WAY[plan.thaw.why]) % {"t": span(plan.thaw.surface_out_s)}
        return Verdict("breach", _("Not this way"), why)
    took = {"t": span(plan.took_s)}
    title = _("Thawed in %(t)s") % took if plan.thaw else _("Frozen through in %(t)s") % took
    text = _("%(thick)s thick, %(where)s.") % {"thick": shown(thick_m, "length", units), "where": where_words(where)}
    if plan.standing == "slow":
        return Verdict("due", title, text + " " + _("Over a day: freeze it flatter, or chill it in the fridge first."))
    return Verdict("ahead", title, text)


def cards(plan: FreezePlan, took_s: float, by: str, by_s: float | None) -> tuple[Card, ...]:
    """In or out by when, and what then."""
    then = Card(title=_("Then"), text=_then(plan.thaw))
    if by_s is None:
        return (then,)
    begin = Card(
        kind="do",
        title=_("Out of the freezer by") if plan.thaw else _("Into the freezer by"),
        big=day_clock(by_s - took_s),
        big_label=_("At the latest"),
        text=_("Ready at %(by)s; reckoned with still, slow surroundings.") % {"by": by},
    )
    return (begin, then)


def _then(thaw: ThawVerdict | None) -> str:
    if thaw is None:
        return _("Label with the day. Freezing stops the fridge's clock and does not set it back.")
    return str(_THEN.get(thaw.then, _("Throw away what was thawed on the counter for hours.")))


def table(plan: FreezePlan, units: Units) -> Table:
    """The course in ten rows."""
    course = plan.course
    rows = list(zip(course.times_s.tolist(), course.centre_c.tolist(), course.surface_c.tolist(), strict=True))
    return Table(
        title=_("Over time"),
        heads=(_("After"), _("Middle"), _("Outside")),
        rows=tuple((span(s), temp(c, units), temp(skin, units)) for s, c, skin in rows[:: max(1, len(rows) // 10)]),
    )


def outside() -> str:
    """The surface's curve."""
    return _("outside")


def middle() -> str:
    """The centre's curve."""
    return _("middle")


def after(seconds: float) -> str:
    """The end of a curve."""
    return span(seconds)


def band_words() -> dict[str, str]:
    """The bands behind the curves."""
    return {"cold": _("cold"), "danger": ""}


def chart_text() -> str:
    """What the drawing shows."""
    return _("Temperature of the middle and the outside over time.")


def notes() -> tuple[str, ...]:
    """What the model takes for granted."""
    return (_("Food is taken to begin freezing at −1 °C; very sweet or salty food freezes lower and takes longer."),)

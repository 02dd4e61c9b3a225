"""What the slow cooker says."""

from collections.abc import Mapping
from typing import Any

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import day_clock, span
from bulwark.presentation.units import Units, shown, temp
from bulwark.workbench.answers import Card, Table, Verdict
from foodsafety.cooking import SlowCookerPlan, danger_band_c


def verdict(plan: SlowCookerPlan, units: Units) -> Verdict:
    """Too long in the danger band, too full or too empty, or a prediction to be measured."""
    warm = plan.warm_up
    limit = {"l": span(warm.limit_s)}
    band = {"t": span(warm.in_band_s) if warm.in_band_s is not None else _("all day")}
    if plan.standing == "too_long_in_band":
        text = _("About %(l)s is the most. Start on high for an hour, take less, or heat the liquid first.")
        return Verdict("breach", _("Too long in the danger band: %(t)s") % band, text % limit)
    if plan.standing in ("over", "under"):
        text = _("From %(a)s to %(b)s: half to two thirds.") % {
            "a": shown(plan.fill.least_l, "volume", units, up=True, places=1),
            "b": shown(plan.fill.most_l, "volume", units, up=False, places=1),
        }
        return Verdict("due", _("Too full") if plan.standing == "over" else _("Not full enough"), text)
    text = _("A prediction. Measure: %(hot)s in the middle by %(l)s.") % (
        limit | {"hot": temp(danger_band_c()[1], units)}
    )
    return Verdict("ahead", _("Through the danger band in %(t)s") % band, text)


def cards(plan: SlowCookerPlan, asked: Mapping[str, Any], serve_s: float | None, units: Units) -> tuple[Card, ...]:
    """When to switch it on, what goes in late, and the hob's figures turned into its own."""
    timed = () if serve_s is None else (_on_by(plan, asked, serve_s), _late(plan, serve_s))
    return (*timed, _from_the_hob(plan, units))


def _on_by(plan: SlowCookerPlan, asked: Mapping[str, Any], serve_s: float) -> Card:
    text = _("For serving at %(s)s: %(a)s to %(b)s on %(set)s, %(n)d lid lifts at up to 30 min, 10 min rest.")
    facts = {
        "s": asked["serve"],
        "a": span(plan.takes_s[0]),
        "b": span(plan.takes_s[1]),
        "set": _("high") if asked["setting"] == "high" else _("low"),
        "n": plan.lid_lifts,
    }
    return Card(
        kind="do",
        title=_("Switch it on"),
        big=day_clock(serve_s - plan.window.latest_s),
        big_label=_("At the latest"),
        text=text % facts,
    )


def _late(plan: SlowCookerPlan, serve_s: float) -> Card:
    return Card(
        title=_("Goes in late"),
        big=day_clock(serve_s - plan.window.late_from_s),
        big_label=_("From"),
        text=_("Pasta, rice, soft vegetables, dairy, seafood, fresh herbs: the last 45 to 60 minutes."),
    )


def _from_the_hob(plan: SlowCookerPlan, units: Units) -> Card:
    times = plan.times
    low_ml, high_ml = (shown(ml, "millilitres", units) for ml in times.liquid_ml)
    return Card(
        title=_("From the hob"),
        facts=(
            (_("On low"), f"{span(times.low_s[0])} – {span(times.low_s[1])}"),
            (_("On high"), f"{span(times.high_s[0])} – {span(times.high_s[1])}"),
            (_("Liquid"), f"{low_ml} – {high_ml}"),
            (_("Full"), f"{plan.fill.share * 100:.0f} %"),
        ),
        text=_("Thawed food only. Dry beans boil for ten minutes first."),
    )


def table(plan: SlowCookerPlan, units: Units) -> Table:
    """The course in ten rows."""
    course = plan.warm_up.course
    marks = course[:: max(1, len(course) // 10)]
    return Table(
        title=_("Over time"),
        heads=(_("After"), _("In the pot")),
        rows=tuple((span(s), temp(c, units, up=False)) for s, c in marks),
    )


def curve_name() -> str:
    """The curve's label."""
    return _("in the pot")


def chart_text() -> str:
    """What the drawing shows."""
    return _("Predicted temperature of the contents over time.")


def notes() -> tuple[str, ...]:
    """What the prediction rests on."""
    return (_("Reckoned as one mixed mass with typical cookers; yours may be slower."),)


def source() -> str:
    """Where the figures are from."""
    return _(
        "Half to two thirds full, thawed only, through the danger band within about 4 h, a lifted lid costs 15 to "
        "30 min: food-safety guidance for slow cookers."
    )

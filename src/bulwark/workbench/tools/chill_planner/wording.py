"""What the chill planner says."""

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import Clock, capital, span
from bulwark.presentation.units import Units, limit
from bulwark.workbench.answers import Verdict
from bulwark.workbench.places import place_name
from foodsafety.cooling import ChillOutlook, ChillPlan, StageResult, stages_of
from foodsafety.rules import Profile


def verdict(look: ChillOutlook, clock: Clock, units: Units) -> Verdict:
    """Chilled, too slow, or what is to come."""
    if look.standing in ("chilled", "too_slow", "cannot_judge"):
        return _measured(look, clock, units)
    if look.standing == "not_started":
        return Verdict("open", _("Not judged yet"), _("The clock has not started."))
    if look.standing == "will_chill":
        text = _("Forecast: %(limit)s at %(at)s. Measure again: a forecast is no evidence.")
        return Verdict("ahead", _("Left as it is, it will chill in time"), text % _last(look, clock, units))
    return Verdict("breach", _("Left as it is, it will not chill in time"), _late(look, clock, units))


def _last(look: ChillOutlook, clock: Clock, units: Units) -> dict[str, str]:
    """The last limit and when it is reached."""
    end = min((stage.end for stage in stages_of(look.situation.profile)), key=lambda row: row.c)
    at_s = look.final.crossings_s.get(end.c)
    return {"limit": limit(end, units), "at": clock(at_s) if at_s is not None else ""}


def _measured(look: ChillOutlook, clock: Clock, units: Units) -> Verdict:
    if look.standing == "cannot_judge":
        text = _("It hangs on a reading nobody can trust; left out it was cooled in time, counted it was not.")
        return Verdict("open", _("Cannot be judged: measure again"), text)
    if look.standing == "chilled":
        text = _("%(limit)s reached at %(at)s, every wall passed.") % _last(look, clock, units)
        return Verdict("good", _("Chilled in time"), text)
    row = look.measured.stages[(look.measured.failed_stage or 1) - 1]
    text = _("%(limit)s was due at %(due)s and was not reached by then. Reheating does not make it safe.")
    return Verdict(
        "breach", _("Too slow: throw it away"), text % {"limit": limit(row.stage.end, units), "due": clock(row.due_s)}
    )


def _late(look: ChillOutlook, clock: Clock, units: Units) -> str:
    broken = next(row for row in look.final.stages if row.standing != "met")
    text = _rate(broken, clock, units)
    if look.standing == "is_late":
        return text
    if not look.better:
        return f"{text} {_('No way we know still brings it there in time: throw it away, or eat it hot now.')}"
    best = _("%(way)s passes under every wall.") % {"way": capital(way_name(look.better[0]))}
    return f"{text} {best}"


def _rate(broken: StageResult, clock: Clock, units: Units) -> str:
    facts = {"limit": limit(broken.stage.end, units), "due": clock(broken.due_s)}
    if broken.reached_s is None:
        return _("At this rate it does not reach %(limit)s by %(due)s.") % facts
    return _("At this rate %(limit)s at %(at)s; it is due at %(due)s.") % (facts | {"at": clock(broken.reached_s)})


def boxes(plan: ChillPlan) -> str:
    """The containers of a way: 5 full trays, a 6 litre pot."""
    box = plan.way.container
    return f"{plan.way.count} {box.plural}" if plan.way.count > 1 else _("one %(box)s") % {"box": box.name}


def way_name(plan: ChillPlan) -> str:
    """A way in a few words."""
    return f"{boxes(plan)}, {place_name(plan.way.where)}"


def way_title(plan: ChillPlan) -> str:
    """A way as an order."""
    if "ice" not in plan.way.where:
        return _("Split it into %(n)s") % {"n": boxes(plan)}
    stirred = plan.way.where == "stirred_ice_bath"
    first = _("Ice bath, stirred") if stirred else _("Stand it in an ice bath")
    return first if plan.way.count == 1 else f"{first}: {boxes(plan)}"


def cold_at(plan: ChillPlan, clock: Clock) -> str:
    """When a way is cold."""
    return clock(plan.cold_s) if plan.cold_s is not None else _("not in time")


def notes(profile: Profile, look: ChillOutlook) -> tuple[str, ...]:
    """What the plan borrows, and what it could not forecast."""
    rows = []
    if not profile.cooling.stages:
        text = _(
            "This profile measures no cooling stages: it wants the food in the fridge within %(t)s, shallow. The wall "
            "drawn is hot to cold holding within that time."
        )
        rows.append(text % {"t": span(profile.cooling.into_fridge_s)})
    if look.forecast is None and not look.settled:
        rows.append(_("Too few readings for a forecast of their own; the curve is the model's."))
    return tuple(rows)


def wall_name(n: int, count: int, after_s: float, within_s: float) -> str:
    """The name of a stage's wall."""
    if count < 2:
        return span(within_s)
    names = (_("first wall"), _("second wall"), _("third wall"))
    return f"{names[min(n, 2)]}, {span(after_s)}"


def as_it_is() -> str:
    """The curve of doing nothing."""
    return _("as it is")


def where_from(*, forecast: bool) -> str:
    """What the curve of doing nothing rests on."""
    return _("forecast from the readings") if forecast else _("as the model has it")


def chart_text() -> str:
    """What the drawing shows."""
    return _("Core temperature over time against the limits. The tables below say the same in numbers.")

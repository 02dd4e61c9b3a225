"""What a temperature log says."""

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.phrases import Clock, Text, span
from bulwark.presentation.units import Units, limit, temp
from bulwark.workbench.answers import Answer, Card, State, Table, Verdict
from foodsafety.cooling import CoolingCheck, StoreVerdict
from foodsafety.measuring import CsvLog
from foodsafety.quantities import Series, Temperature, Unit

_MOST_ROWS = 60
_COOLING: dict[str, tuple[State, Text]] = {
    "pass": ("good", _l("Cooled in time")),
    "fail": ("breach", _l("Cooled too slowly: throw it away")),
    "unfinished": ("due", _l("Not finished: measure again")),
    "not_started": ("open", _l("Still hot: the clock has not started")),
}
_STORE: dict[str, tuple[State, Text]] = {
    "discard": ("breach", _l("Too warm too long: throw away what needs the cold")),
    "use_now": ("due", _l("Use what is in it now")),
    "move": ("breach", _l("Too warm: move the food")),
    "measure": ("due", _l("It was too warm: measure the food")),
}
_STORE_ACTIONS = {
    "nothing": _l("Nothing to do."),
    "watch": _l("Shut the door; look again in a quarter of an hour."),
    "move": _l("Move the food to a fridge that is cold, and measure the food itself."),
    "use_now": _l("Use it now; it may not go back into the cold."),
    "discard": _l("Throw away what needs the cold."),
    "measure": _l("Measure the air and the food itself now."),
}


def unit_notes(sheet: CsvLog, unit: Unit) -> tuple[str, ...]:
    """The unit that was taken where the heading names none."""
    return () if sheet.unit else (_("The heading names no unit: read as °%(u)s.") % {"u": unit},)


def which_unit(unit: Unit, notes: tuple[str, ...]) -> Answer:
    """A log that makes no sense in the unit it was taken for."""
    text = _("As °%(u)s these are not temperatures of such a log. Say C or F in the heading, or change the unit above.")
    return Answer(state="open", title=_("Which unit is this?"), text=text % {"u": unit}, notes=notes)


def nothing_to_judge(notes: tuple[str, ...]) -> Answer:
    """A log without a reading that can be believed."""
    text = _("No line has both a time and a temperature that can be believed.")
    return Answer(state="open", title=_("Nothing to judge"), text=text, notes=notes)


def cooling_verdict(found: CoolingCheck, clock: Clock, units: Units) -> Verdict:
    """In time, too slow, not finished, not begun, or not to be judged."""
    text = "; ".join(
        f"{limit(row.stage.end, units)}: {clock(row.reached_s) if row.reached_s is not None else _('not reached')}"
        for row in found.verdict.stages
    )
    if found.hangs_on_doubt:
        return Verdict("open", _("Cannot be judged: it hangs on a reading nobody can trust"), text)
    state, title = _COOLING[found.verdict.verdict]
    return Verdict(state, str(title), text)


def store_verdict(found: StoreVerdict, rule: Temperature, units: Units) -> Verdict:
    """A fridge or freezer over its log."""
    text = _("Above %(l)s for %(t)s at the longest; worst %(w)s, last %(c)s.") % {
        "l": limit(rule, units),
        "t": span(found.above_s),
        "w": temp(found.worst_c or 0.0, units, up=True),
        "c": temp(found.last_c or 0.0, units, up=True),
    }
    if found.action in _STORE:
        state, title = _STORE[found.action]
        return Verdict(state, str(title), text)
    return Verdict("good", _("Cold, with short peaks") if found.above_s else _("Cold all the time"), text)


def store_cards(found: StoreVerdict) -> tuple[Card, ...]:
    """What to do about it."""
    return (Card(kind="do", title=_("What to do"), text=str(_STORE_ACTIONS[found.action])),)


def reading_table(series: Series, clock: Clock, units: Units) -> Table:
    """The readings in rows."""
    rows = tuple((clock(at_s), temp(c, units)) for at_s, c in series[:_MOST_ROWS])
    return Table(title=_("Readings"), heads=(_("At"), _("Core")), rows=rows)


def chart_text() -> str:
    """What the drawing shows."""
    return _("The log over time against its limits.")

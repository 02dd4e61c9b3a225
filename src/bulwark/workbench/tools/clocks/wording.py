"""What the clocks say."""

import math
from collections.abc import Iterable

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.phrases import Text, span
from bulwark.presentation.units import Units, limit
from bulwark.workbench.answers import Card, Meter, State, Table, Verdict
from foodsafety.cooling import TripsVerdict
from foodsafety.rules import Profile
from foodsafety.shelf import GrowthBudget

_VERDICTS: dict[str, tuple[State, Text, Text]] = {
    "keep": ("good", _l("Back into the fridge: %(left)s left"), _l("%(out)s out in all, over every trip.")),
    "use_now": (
        "due",
        _l("Use it now; it may not go back"),
        _l("%(out)s out in all. Throw it away after %(limit)s."),
    ),
    "cannot_judge": (
        "open",
        _l("Cannot be judged"),
        _l("%(out)s out as far as the readings go. What nobody saw is not taken for safe."),
    ),
    "discard": (
        "breach",
        _l("Throw it away"),
        _l("%(out)s out in all; the limit is %(limit)s. Heating does not give the time back."),
    ),
}


def verdict(found: TripsVerdict) -> Verdict:
    """Back into the cold, use it now, or throw it away."""
    facts = {
        "left": span(found.ruled.remaining_s // 60 * 60),  # a deadline is never rounded up
        "out": span(found.out_s),
        "limit": span(found.ruled.limit_s),
    }
    state, title, text = _VERDICTS[found.ruled.action]
    return Verdict(state, str(title) % facts, str(text) % facts)


def _percent(budget: GrowthBudget) -> str:
    return f"{math.ceil(budget.spent * 100 - 1e-9)} %"


def cards(found: TripsVerdict, profile: Profile, units: Units) -> tuple[Card, ...]:
    """The clock, and the budget that is used up most."""
    cold, hot = profile.hold["cold"].temperature, profile.hold["hot"].temperature
    worst = found.budgets[0]
    between = _("Between %(c)s and %(h)s. Trips add up; chilling stops the clock, it never sets it back.")
    return (
        Card(
            kind="do" if found.ruled.action != "keep" else "plain",
            title=_("On the clock"),
            big=span(found.out_s),
            big_label=_("of %(l)s") % {"l": span(found.ruled.limit_s)},
            text=between % {"c": limit(cold, units), "h": limit(hot, units)},
        ),
        Card(
            title=_("Most used up"),
            big=_percent(worst),
            big_label=worst.organism.name,
            text=_("Of its growth budget: a meter for teaching, never in place of the clock."),
        ),
    )


def meters(budgets: Iterable[GrowthBudget]) -> tuple[Meter, ...]:
    """A bar for each organism."""
    return tuple(
        Meter(
            name=row.organism.name,
            share=row.spent,
            text=_percent(row),
            note=_("toxin: cooking does not undo it") if row.organism.toxin else "",
        )
        for row in budgets
    )


def table(budgets: Iterable[GrowthBudget]) -> Table:
    """The same in rows."""
    survives = _("its toxin survives cooking")
    rows = ((row.organism.name, _percent(row), survives if row.organism.toxin else "") for row in budgets)
    return Table(title=_("Growth budget spent"), heads=(_("Organism"), _("Spent"), ""), rows=tuple(rows))


_RULES = {
    "two-four": _l("By the clock of 2 and 4 hours."),
    "four-six": _l("By time as the control: 4 hours, and never put back."),
    "four-six-cool": _l("By time as the control: 6 hours, as it began cold and stayed cool. Never put back."),
    "above-70-f": _l("It passed 70 °F (21 °C): under the clock of 6 hours it is thrown away at once."),
    "time-control-begins-cold-or-hot": _l(
        "Time as the control is for food that was cold or hot when taken out; this was neither. Say how it began."
    ),
    "how-long-nobody-saw": _l("One reading of food that is out does not say how long it has been out."),
    "one-period": _l("These rules allow one period out of temperature, and this is a second one."),
    "cooling": _l("It is cooling: by the stages of the cooling rule."),
    "cooling-stage-1": _l("It took too long through the first stage of the cooling rule."),
    "cooling-stage-2": _l("It took too long to be cold by the cooling rule."),
    "cooling-from-ambient": _l("Made at room temperature: by the time such food has to be cold."),
    "clock-hot": _l("By the clock of hot food."),
    "clock-cold": _l("By the clock of cold food."),
}


def notes(found: TripsVerdict, ambient_c: float | None) -> tuple[str, ...]:
    """By which clock it was judged, and what nobody measured."""
    rows = [str(_RULES[found.ruled.rule])] if found.ruled.rule in _RULES else []
    if ambient_c is None:
        rows.append(_("Nobody measured how hot it was around it: the shorter clock for hot places may apply."))
    return tuple(rows)


def growth_source() -> str:
    """Where the budgets are from."""
    return _("Growth: FDA Fish and Fishery Products Hazards guide, appendix on growth.")


def chart_text() -> str:
    """What the drawing shows."""
    return _("The food's temperature over its trips.")

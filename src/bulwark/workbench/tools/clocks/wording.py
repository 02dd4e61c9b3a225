"""What the clocks say."""

import math
from collections.abc import Iterable

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.presentation.phrases import Text, span
from bulwark.presentation.units import Units, limit
from bulwark.workbench.answers import Card, Meter, State, Table, Verdict
from foodsafety.rules import Profile
from foodsafety.shelf import GrowthBudget, TripsVerdict

_VERDICTS: dict[str, tuple[State, Text, Text]] = {
    "keep": ("good", _l("Back into the fridge: %(left)s left"), _l("%(out)s out in all, over every trip.")),
    "use_now": (
        "due",
        _l("Use it now; it may not go back"),
        _l("%(out)s out in all. Throw it away after %(limit)s."),
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


def notes(ambient_c: float | None) -> tuple[str, ...]:
    """What nobody measured."""
    if ambient_c is not None:
        return ()
    return (_("Nobody measured how hot it was around it: the shorter clock for hot places may apply."),)


def growth_source() -> str:
    """Where the budgets are from."""
    return _("Growth: FDA Fish and Fishery Products Hazards guide, appendix on growth.")


def chart_text() -> str:
    """What the drawing shows."""
    return _("The food's temperature over its trips.")

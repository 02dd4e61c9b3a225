"""What cans and portions say."""

from django.utils.translation import gettext as _

from bulwark.presentation.units import Units, shown
from bulwark.workbench.answers import Card, Table, Verdict
from foodsafety.recipes import PartCan, Portions


def verdict(made: Portions, people: int, units: Units) -> Verdict:
    """Enough for everybody, or how many batches."""
    over = _("%(g)s over.") % {"g": shown(made.over_g, "grams", units)}
    if made.portions >= people:
        return Verdict("good", _("%(n)d portions, for %(p)d people") % {"n": made.portions, "p": people}, over)
    title = _("%(n)d portions: %(b)d batches for %(p)d people")
    return Verdict("due", title % {"n": made.portions, "b": made.batches, "p": people}, over)


def cards(can: PartCan, units: Units) -> tuple[Card, ...]:
    """Cans to open, and what of the rest."""
    left = _("%(g)s left over: into a covered box of its own, dated, in the fridge; never in the open can.")
    text = left % {"g": shown(can.left_g, "grams", units)} if can.left_g else _("Nothing left over.")
    return (Card(kind="do", title=_("Cans to open"), big=str(can.cans), big_label=_("cans"), text=text),)


def table(can: PartCan, made: Portions, units: Units) -> Table:
    """The same in numbers."""
    return Table(
        title=_("In numbers"),
        heads=(_("What"), _("How much")),
        rows=(
            (_("Share of the last can"), f"{can.last_share * 100:.0f} %"),
            (_("Left in it"), shown(can.left_g, "grams", units)),
            (_("Portions of a batch"), str(made.portions)),
            (_("Batches"), str(made.batches)),
        ),
    )


def source() -> str:
    """Where storage limits stand."""
    return _("An opened can keeps like what is in it: see the storage limits of the profile.")

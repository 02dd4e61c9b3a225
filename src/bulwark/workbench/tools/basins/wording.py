"""What the hand-wash queue says."""

from collections.abc import Iterable

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import span
from bulwark.workbench.answers import Card, Table, Verdict
from foodsafety.hygiene import BasinQueue


def verdict(found: BasinQueue, people: int, basins: int) -> Verdict:
    """Long enough or not, and how long in all."""
    text = _("%(n)d at %(b)d basins: %(w)d waves of %(s)s.") % {
        "n": people,
        "b": basins,
        "w": found.waves,
        "s": span(found.wave_s),
    }
    if not found.long_enough:
        return Verdict("breach", _("Scrub for 20 s: this is too short"), text)
    return Verdict("good", _("All clean in %(t)s") % {"t": span(found.total_s)}, text)


def cards(found: BasinQueue) -> tuple[Card, ...]:
    """What to plan for."""
    text = _("The last wave waits %(t)s: give it a task that needs no clean hands.")
    return (
        Card(
            kind="do",
            title=_("Plan for"),
            big=span(found.total_s),
            big_label=_("each time"),
            text=text % {"t": span(found.last_waits_s)},
        ),
    )


def table(rows: Iterable[tuple[int, BasinQueue]]) -> Table:
    """The same with more basins."""
    return Table(
        title=_("With more basins"),
        heads=(_("Basins"), _("Waves"), _("In all")),
        rows=tuple((str(basins), str(queue.waves), span(queue.total_s)) for basins, queue in rows),
    )


def source() -> str:
    """Where the figure is from."""
    return _("20 s or more in every profile; wetting, soaping, rinsing and drying come on top.")

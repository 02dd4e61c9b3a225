"""What the debrief says, in plain words and without a name beyond initials."""

from collections.abc import Sequence

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from bulwark.lessons import call_wording, wording
from bulwark.presentation.phrases import capital, degrees, duration, listed
from foodsafety.lesson import Brick, Catch, Incident, State, ToTeach


def where(row: ToTeach, at: Sequence[tuple[str, str, str]]) -> str:
    """Where it showed: "Tern 10:58 VH; Puffin 11:03". ``at``: bench, clock time or "", and who or which food."""
    told = [" ".join(part for part in (bench, clock, who) if part) for bench, clock, who in at[:3]]
    more = len(row.seen) - len(told)
    if more > 0:
        told.append(ngettext("%(n)d more", "%(n)d more", more) % {"n": more})
    return "; ".join(told)


def headline(incident: Incident, state: State) -> str:
    """What happened, in one breath."""
    path = call_wording.path_sentence(incident.finding, state) if incident.finding.soil else ""
    return path or call_wording.finding_title(incident.finding, state)


def what_became(incident: Incident, clock: str) -> str:
    """How a breach ended, or that it never did."""
    if incident.open:
        said = _("It stayed open: nobody put it right.")
        return f"{said} {_('You let them go on: %(why)s.') % {'why': incident.decided}}" if incident.decided else said
    done = capital(call_wording.mended_line(incident))
    return _("%(done)s at %(clock)s.") % {"done": done, "clock": clock}


def nothing_began() -> tuple[str, str]:
    """Of a bench at which no breach was found."""
    return (
        _("Nothing was found to begin here"),
        _("No breach is in its log. What was not logged is not known: look at what is missing."),
    )


def catch(found: Catch, unit: str) -> str:
    """The best catch of a bench."""
    after = duration(found.after_s)
    if found.how == "measured":
        told = {"food": found.food, "low": degrees(found.low_c or 0.0, unit), "after": after}
        return _("%(food)s read %(low)s, too low: it went on cooking and was proven %(after)s later.") % told
    return _("%(food)s: seen and put right within %(after)s.") % {"food": capital(found.food), "after": after}


def proven(rows: Sequence[Brick]) -> str:
    """The control points that were laid, by name."""
    names = [wording.control_name(row.control) for row in rows]
    return capital(listed(list(dict.fromkeys(names)))) if names else _("Nothing")


def bench_line(laid: int, every: int) -> str:
    """How much of a bench's wall stands."""
    return _("%(laid)d of %(every)d control points shown") % {"laid": laid, "every": every}


def mark(kind: str) -> str:
    """A mark on the time line."""
    return {
        "breach": _("it began"),
        "mended": _("put right"),
        "low": _("too low"),
        "waste": _("thrown away"),
        "pause": _("paused"),
    }[kind]

"""Today and courses in words."""

from __future__ import annotations

from collections.abc import Sequence

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from bulwark.presentation.phrases import listed

# What a lesson practises: families of control points.
FAMILIES = {
    "hands": ("hands-on-arrival", "hands-after-raw"),
    "apart": ("raw-kept-apart", "ready-to-eat-clean", "kit-after-raw", "clean-utensils"),
    "core": ("core-temperature", "part-cooked"),
    "chill": ("fridge-cold", "chilled-in-time"),
    "time": ("raw-out-of-fridge", "time-out"),
    "dates": ("leftovers-labelled",),
}
MOST_NAMED = 4


def family(name: str) -> str:
    """A family of control points."""
    return {
        "hands": _("Hands"),
        "apart": _("Kept apart"),
        "core": _("Core"),
        "chill": _("Chill"),
        "time": _("Time out"),
        "dates": _("Dates"),
    }[name]


def points(n: int) -> str:
    """How many control points a plan has."""
    return ngettext("%(n)d point", "%(n)d points", n) % {"n": n}


def placed(learners: int, missing: Sequence[str]) -> str:
    """Whether everybody of a group has a bench."""
    if missing:
        shown = [*missing[:MOST_NAMED], *(["…"] if len(missing) > MOST_NAMED else [])]
        return ngettext("%(who)s has no bench", "%(who)s have no bench", len(missing)) % {"who": listed(shown)}
    return ngettext("%(n)d learner placed", "%(n)d learners placed", learners) % {"n": learners}


def read_state(unconfirmed: bool, questions: int) -> str:
    """How far a lesson's recipe has been read."""
    if questions:
        return ngettext("%(n)d question open", "%(n)d questions open", questions) % {"n": questions}
    return _("steps unconfirmed") if unconfirmed else _("read, no question open")


def probes(unchecked: int, of: int) -> str:
    """Whether the probes were checked lately."""
    if unchecked == 0:
        return _("all checked this month, and fit")
    if unchecked == of:
        return _("none checked and fit this month: ice water, then boiling water")
    return _("%(n)d of %(of)d not checked this month, or not fit: ice water, then boiling water") % {
        "n": unchecked,
        "of": of,
    }


def things(n: int, before: str) -> str:
    """How much is to be done before a lesson."""
    words = [_("Nothing"), _("One thing"), _("Two things"), _("Three things"), _("Four things"), _("Five things")]
    name = words[n] if n < len(words) else _("%(n)d things") % {"n": n}
    if before:
        return _("%(things)s before %(at)s") % {"things": name, "at": before}
    return _("%(things)s to do") % {"things": name}


def over(bench: str) -> str:
    """Food on the shelf that may not be eaten any more, or never might be kept."""
    return _("over: throw it away (%(bench)s)") % {"bench": bench}


def timer_left(bench: str, lesson: str) -> str:
    """Where a timer runs that outlived its lesson."""
    return _("A timer of %(bench)s, set in “%(lesson)s”.") % {"bench": bench, "lesson": lesson}


def read_it(due: str, where: str) -> str:
    """What must be measured of food that cools."""
    return _("read it: %(due)s (%(where)s)") % {"due": due, "where": where}


def not_seen_cold(where: str) -> str:
    """What cooled and was not measured in time."""
    return _("nobody measured that it was cold: bin it, or sign for it (%(where)s)") % {"where": where}


def eat_or_bin(where: str) -> str:
    """What is left to do with food whose time is up."""
    return _("eat or bin: %(where)s") % {"where": where}

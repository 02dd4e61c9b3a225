"""The pad in words."""

from __future__ import annotations

from django.utils.translation import gettext as _


def question(what: str) -> str:
    """What to look at, as a question."""
    return {
        "hands": _("Hands washed whole, 20 seconds, dried on paper?"),
        "board": _("Raw food on its own board, nothing ready near it?"),
        "grip": _("Fingers curled away from the blade?"),
        "probe": _("Probe in the thickest part, off pan and bone?"),
        "spoon": _("A clean spoon for every taste?"),
        "cough": _("Coughs and sneezes away from food, then a wash?"),
        "hair": _("Hair tied, sleeves up, nothing dangling?"),
        "towel": _("Paper for hands, dish towel for dishes, cloth for hot pans?"),
        "reheat": _("Stirred or turned, hot right through, measured, heated once only?"),
    }[what]


def is_wrong(what: str) -> str:
    """What would be wrong."""
    return {
        "hands": _("Wrong: no soap, thumbs or tips left out, dried on an apron or a dish towel"),
        "board": _("Wrong: raw on the bench or beside what is eaten as it is"),
        "grip": _("Wrong: fingers flat, or the knife pulled towards somebody"),
        "probe": _("Wrong: touching the pan, only the edge, not cleaned before"),
        "spoon": _("Wrong: back into the pot, or licked"),
        "cough": _("Wrong: into the hand and on with the work"),
        "hair": _("Wrong: loose hair over the board, a scarf near the flame"),
        "towel": _("Wrong: one towel for everything"),
        "reheat": _("Wrong: warm at the edge, cold in the middle, or for the second time"),
    }[what]


def shout(what: str) -> str:
    """What to say aloud at once when it is seen to go wrong."""
    return {
        "hands": _("Stop, wash again"),
        "board": _("Stop, another board"),
        "grip": _("Stop, curl your fingers"),
        "probe": _("Once more, into the thickest part"),
        "spoon": _("A new spoon"),
        "cough": _("Stop, wash; what did it fall on?"),
        "hair": _("Tie it back, then wash"),
        "towel": _("Take the right towel"),
        "reheat": _("Heat it on, then measure"),
    }[what]


def seen(name: str) -> str:
    """How it was seen."""
    return {"right": _("right"), "wrong": _("wrong"), "not_seen": _("not seen")}[name]


def refusal(code: str) -> str:
    """Why there is no pad."""
    return {
        "unknown": _("This code lets nobody in. Look at it again, or ask the educator for a new one."),
        "gone": _("This pad is not at a lesson any more. Type a code to look on at one."),
    }[code]

"""What each answer of a puzzle says."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from fractions import Fraction
from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from bulwark.lessons.call_wording import correction_line
from bulwark.practice.asking import Asking, as_fraction, at_moment, measure_name
from bulwark.presentation.care import eater
from bulwark.presentation.phrases import capital, degrees, duration, minutes
from foodsafety.cooling import container
from foodsafety.lesson import Correction
from foodsafety.practice import Choice

Says = Mapping[str, Any]


def answer(row: Asking, choice: Choice) -> str:
    """One answer in words."""
    return _ANSWERS[row.puzzle.kind](row, choice.says)


def _step(row: Asking, says: Says) -> str:
    return row.step(says["step"])


def _carrier(row: Asking, says: Says) -> str:
    return _("the hands") if says["kind"] == "hands" else str(says["carrier"])


def _of_limit(row: Asking, says: Says) -> str:
    at_most = says["at_most"]
    value = row.limit(*says["limit"], at_most=at_most) if "limit" in says else duration(says["limit_s"])
    return _("at most %(value)s") % {"value": value} if at_most else _("at least %(value)s") % {"value": value}


def _washes(row: Asking, says: Says) -> str:
    return (
        ngettext("%(n)s wash", "%(n)s washes", says["washes"]) % {"n": says["washes"]}
        if says["washes"]
        else _("no wash")
    )


def _way(row: Asking, says: Says) -> str:
    hands = says["what"] == "hands"
    texts = {
        "wash": _("Wash hands with soap, the whole time")
        if hands
        else _("Wash board and knife with hot water and soap, and sanitise"),
        "towel": _("Wipe them on the towel"),
        "gloves": _("Put gloves on over them"),
        "rinse": _("Hold them under the tap") if hands else _("Hold both under the tap"),
        "wipe": _("Wipe both with the cloth"),
        "turn": _("Turn the board over"),
        "other_board": _("Take another board, and the same knife"),
        "other_kit": _("Take another board and another knife"),
    }
    return texts[says["way"]]


def _do(row: Asking, says: Says) -> str:
    texts = {
        "done": _("It is done"),
        "cook_on": _("Cook on, then measure again"),
        "more_pieces": _("Measure more pieces first"),
        "hold": _("Keep it there, and measure at the end"),
        "rest": _("Off the heat, and let it rest"),
    }
    return texts[says["do"]]


def _move(row: Asking, says: Says) -> str:
    food = says["food"]
    texts = {
        "carry_on": _("Go on: it comes to no harm"),
        "wipe": _("Wipe it with the cloth, and go on"),
        "rinse": _("Rinse it under the tap, and go on"),
        "serve_now": _("Serve the %(food)s at once"),
        "chill": _("The %(food)s into the fridge"),
        "label": _("Write it on the label"),
        "rest": _("Let the %(food)s stand for five minutes"),
    }
    if says != row.puzzle.right.says:
        return texts[says["do"]] % {"food": food}
    return correction_line(Correction(do=says["do"], food=food, who=tuple(says["who"]), tools=tuple(says["tools"])))


def _vessel(row: Asking, says: Says) -> str:
    box = container(says["container"])
    told: dict[str, Any] = {
        "n": says["count"],
        "box": box.name if says["count"] == 1 else box.plural,
        "cm": f"{says['depth_mm'] / 10:g}",
    }
    where = {"fridge": _("in the fridge"), "room": _("left on the bench"), "ice_bath": _("in an ice bath")}[
        says["where"]
    ]
    # Rounds of before have no temperature of what is around it.
    told |= {"where": where, "c": degrees(says.get("around_c"), row.unit)}
    if "around_c" not in says:
        return _("%(n)s %(box)s, %(cm)s cm deep, %(where)s") % told
    return _("%(n)s %(box)s, %(cm)s cm deep, %(where)s at %(c)s") % told


def _place(row: Asking, says: Says) -> str:
    fridge, n = row.asks["fridge"], says["place"]
    if n == 0:
        return _("on top, above the %(food)s") % {"food": fridge[0]["food"]}
    if n == len(fridge):
        return _("at the bottom, below the raw %(food)s") % {"food": fridge[-1]["food"]}
    told = {"above": fridge[n - 1]["food"], "below": fridge[n]["food"]}
    return (
        _("below the %(above)s, above the raw %(below)s") % told
        if fridge[n]["raw"]
        else _("between %(above)s and %(below)s") % told
    )


def _spoons(row: Asking, says: Says) -> str:
    return " + ".join(f"{as_fraction(n)} {measure_name(unit, float(Fraction(n)))}" for n, unit in says["spoons"])


def _use(row: Asking, says: Says) -> str:
    texts = {
        "core": _("to measure the middle of the food"),
        "beat": _("to beat air into it"),
        "drain": _("to drain what was boiled or rinsed"),
        "grate": _("to grate"),
        "peel": _("to peel"),
        "turn": _("to turn and lift hot food without touching it"),
        "serve_soup": _("to serve soup"),
        "scrape": _("to scrape a bowl clean, and to fold"),
        "roll": _("to roll dough out"),
        "sift": _("to sift, and to hold lumps back"),
        "mash": _("to mash"),
        "glaze": _("to brush egg or oil on"),
    }
    return texts[says["use"]]


def _thing(row: Asking, says: Says) -> str:
    texts = {
        "handle": _("the handle of the left pan"),
        "handle 2": _("the handle of the right pan"),
        "towel": _("the towel"),
        "paper": _("the roll of paper"),
        "oven_glove": _("the oven glove"),
        "sleeve": _("the jacket"),
    }
    return texts[says["thing"]]


_ANSWERS: Mapping[str, Callable[[Asking, Says], str]] = {
    "limit": _of_limit,
    "by-when": _step,
    "find-slip": _step,
    "contact": _carrier,
    "order": lambda row, says: _(", then ").join(says["order"]),
    "fewest-washes": _washes,
    "clean-again": _way,
    "tip": lambda row, says: _("here"),
    "display": lambda row, says: degrees(says["core_c"], row.unit),
    "done": _do,
    "stand": lambda row, says: minutes(says["left_min"]),
    "cold-in-time": _vessel,
    "shelf": _place,
    "until": lambda row, says: at_moment(says["until"]),
    "next": _move,
    "not-for": lambda row, says: capital(eater(says["eater"])),
    "part-of": _spoons,
    "tool": _use,
    "hob": _thing,
}

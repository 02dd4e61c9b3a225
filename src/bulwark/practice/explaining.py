"""Why an answer is right, or is not: by its path and its rule, in a sentence or two."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from bulwark.practice.answering import answer
from bulwark.practice.asking import Asking, what_of
from bulwark.presentation.care import not_for
from bulwark.presentation.phrases import capital, degrees, degrees_apart, duration, listed, minutes
from bulwark.shelf.wording import storage_reason
from foodsafety.practice import Choice


def why(row: Asking) -> str:
    """Why the right answer is right."""
    return _WHY[row.puzzle.kind](row)


def why_not(row: Asking, choice: Choice) -> str:
    """What is wrong with another answer; empty where the explanation of the right one says it."""
    text = _WHY_NOT.get((row.puzzle.kind, choice.why.get("why", ""))) or _WHY_NOT.get(("", choice.why.get("why", "")))
    return str(text() if text else "")


# --- why it is right --------------------------------------------------------------------------------------


def _way(row: Asking) -> str:
    """The path of a soil, from step to step as the drawing numbers them."""
    found = row.finding
    what, hops = capital(what_of(found)), []
    for name, step in list(zip(found.path, found.at, strict=False))[1:]:
        n = row.number(step)
        told = {"name": _("the hands") if row.asks["kinds"].get(name) == "hands" else name, "n": n}
        hops.append(_("onto %(name)s at %(n)s") % told if n else _("onto %(name)s") % told)
    return _("%(what)s got %(hops)s.") % {"what": what, "hops": listed(hops)} if hops else ""


def _slip(row: Asking) -> str:
    later = [
        _("At %(n)s too: %(what)s") % {"n": row.number(other["finding"]["step"]), "what": _done_wrong(other["change"])}
        for other in row.why.get("also", ())
    ]
    return " ".join(filter(None, [_way(row), _done_wrong(row.why["change"]), *later]))


def _done_wrong(change: str) -> str:
    return {
        "not-washed": _("A wash is missing."),
        "only-wiped": _("It was only wiped: a cloth spreads it and ends nothing."),
        "not-rinsed": _("Nothing was rinsed: what grows in the ground is washed before it is eaten."),
        "not-heated": _("The heat is missing: nothing ends what is raw in it before it is eaten."),
        "tasted": _("Somebody tastes it before it is cooked, or puts the spoon back after tasting."),
        "raw-rinsed": _("Raw meat is not rinsed: the splash goes further than anybody sees."),
        "same-kit": _("Kit of the raw food was used for what is eaten as it is."),
        "put-off": _("It was put off until after the raw food."),
        "no-gloves": _("This kitchen asks for gloves on food that gets no more heat."),
    }[change]


def _order(row: Asking) -> str:
    text = _("%(order)s. All orders were counted.") % {"order": capital(answer(row, row.puzzle.right))}
    return text + " " + (_("What must come first costs a wash.") if row.asks["must"] else _ready_first())


def _ready_first() -> str:
    return _("What is eaten as it is comes before what is raw: then nothing is washed in between.")


def _fewest(row: Asking) -> str:
    told = {"order": _(", then ").join(row.why["order"]), "n": answer(row, row.puzzle.right)}
    return _("%(n)s: %(order)s; no order needs fewer.") % {**told, "n": capital(told["n"])}


def _display(row: Asking) -> str:
    told = {"off": degrees_apart(abs(row.asks["ice_c"]), row.unit), "is": answer(row, row.puzzle.right)}
    told["limit"] = row.limit(*row.why["limit"])
    high = _("In ice it shows %(off)s too much, and so it does in food: %(is)s.")
    low = _("In ice it shows %(off)s too little, and so it does in food: %(is)s.")
    done = _("The limit is %(limit)s: reached.") if row.why["reached"] else _("The limit is %(limit)s: not reached.")
    return f"{(high if row.asks['ice_c'] > 0 else low) % told} {done % told}"


def _done(row: Asking) -> str:
    held = row.why
    told: dict[str, Any] = {"limit": row.limit(*held["limit"]), "needed": held["needed"], "pieces": held["pieces"]}
    told |= {"low": degrees(held["lowest_c"], row.unit), "t": duration(held["remaining_s"])}
    texts = {
        "too_few": _("%(pieces)s of %(needed)s pieces were measured, and the one nobody measured may be the cold one."),
        "below": _("The lowest piece counts: %(low)s, and the limit is %(limit)s."),
        "hold": _("Every piece is at %(limit)s; it must stay there for %(t)s more."),
        "rest": _("Every piece is at %(limit)s; it must rest for %(t)s more."),
        "reached": _("The lowest piece is at %(low)s, the limit is %(limit)s, and it was held long enough."),
    }
    return texts[held["status"]] % told


def _stand(row: Asking) -> str:
    told = {"all": minutes(row.why["limit_min"]), "out": minutes(row.why["out_min"])}
    told["left"] = answer(row, row.puzzle.right)
    heat = _(" In this heat the shorter clock runs.") if row.why["in_heat"] else ""
    return (
        _("%(all)s in all, and %(out)s are used: %(left)s. Time out adds up, and cold does not give it back.") % told
        + heat
    )


def _cold(row: Asking) -> str:
    limits = [
        _("%(c)s within %(t)s") % {"c": row.limit(v, u, at_most=True), "t": duration(s)}
        for v, u, s in row.why["limits"]
    ]
    crossed = [(c, s) for c, s in row.puzzle.right.why["crossings_s"] if s is not None]
    told = {"limits": listed(limits)}
    text = _("It must come to %(limits)s.") % told
    if crossed:
        text += " " + _("This way it is at %(c)s after %(t)s: reckoned, so it is measured all the same.") % {
            "c": degrees(crossed[-1][0], row.unit, cold=True),
            "t": duration(crossed[-1][1]),
        }
    return text + (
        " " + _("These rules name no stages: those of the model code were taken.") if row.why["borrowed"] else ""
    )


def _until(row: Asking) -> str:
    lines = [storage_reason(r["rule"], r["low"], r["high"], r["unit"], r["section"]) for r in row.why["lines"]]
    return "; ".join(lines) + "."


def _again(row: Asking) -> str:
    if row.why["what"] == "hands":
        return _("Only soap, scrubbing and the whole time end what is on hands. Gloves over it carry it on.")
    return _("Only washing ends it, or kit that never had it. A cloth, a rinse and the other side carry it on.")


def _next(row: Asking) -> str:
    first = answer(row, row.puzzle.right)
    return _("%(first)s. Wiping and rinsing clear nothing, and what nobody has shown is not shown by going on.") % {
        "first": first
    }


def _not_for(row: Asking) -> str:
    told = {"who": answer(row, row.puzzle.right), "food": row.why["food"]}
    if row.puzzle.rule == "allergen-inside":
        return _("%(who)s: it is in the %(food)s.") % told
    return _("%(who)s: because of the %(food)s. %(why)s.") % {**told, "why": capital(not_for(row.why["rule"]))}


def _limit(row: Asking) -> str:
    return capital(_("%(value)s.") % {"value": answer(row, row.puzzle.right)})


def _when(row: Asking) -> str:
    return _("Before “%(step)s”: after that it has happened.") % {"step": answer(row, row.puzzle.right)}


def _part(row: Asking) -> str:
    told = {"spoons": answer(row, row.puzzle.right), "ml": f"{row.why['part_ml']:g}"}
    return _("%(spoons)s hold %(ml)s ml, and that is the part.") % told


def _tool(row: Asking) -> str:
    told = {"tool": capital(row.asks["tool"].replace("_", " ")), "use": answer(row, row.puzzle.right)}
    return _("%(tool)s: %(use)s.") % told


def _hob(row: Asking) -> str:
    if row.why["what"] == "handle":
        told = _("%(what)s points out over the edge: a sleeve or a child pulls the pan down. Turn it in.")
    else:
        told = _("%(what)s lies beside the flame, and burns. Away from the hob with it.")
    return told % {"what": capital(answer(row, row.puzzle.right))}


_WHY: Mapping[str, Callable[[Asking], str]] = {
    "limit": _limit,
    "by-when": _when,
    "find-slip": _slip,
    "contact": _slip,
    "order": _order,
    "fewest-washes": _fewest,
    "clean-again": _again,
    "tip": lambda row: _(
        "The middle of the thickest part is the last to be hot; bone and pan are hotter than the food."
    ),
    "display": _display,
    "done": _done,
    "stand": _stand,
    "cold-in-time": _cold,
    "shelf": lambda row: _("Raw stands below everything that is eaten as it is: what drips, drips down."),
    "until": _until,
    "next": _next,
    "not-for": _not_for,
    "part-of": _part,
    "tool": _tool,
    "hob": _hob,
}

# --- why it is not ----------------------------------------------------------------------------------------

_WHY_NOT: Mapping[tuple[str, str], Callable[[], str]] = {
    ("find-slip", "wash"): lambda: _("That is a wash: it ends something."),
    ("find-slip", "on-the-way"): lambda: _("It is on its way there, and has not reached what is eaten."),
    ("find-slip", "later"): lambda: _("Harm is done there too, but not first."),
    ("find-slip", "after"): lambda: _("By then it has happened."),
    ("find-slip", "no-harm"): lambda: _("Nothing is passed on there that is eaten."),
    ("contact", "clean-there"): lambda: _("That was clean when the step began."),
    ("contact", "earlier"): lambda: _("It was on that, but that does not touch the food here."),
    ("contact", "not-there"): lambda: _("That is not used at this step."),
    ("", "more-washes"): lambda: _("It can be done, with more washes."),
    ("", "too-few"): lambda: _("Then something raw gets through."),
    ("", "too-many"): lambda: _("It can be done with fewer."),
    ("", "still-there"): lambda: _("What was raw on it is still there."),
    ("tip", "bone"): lambda: _("That is the bone: it is hotter than the meat."),
    ("tip", "pan"): lambda: _("That is the pan, nearly: hotter than the food."),
    ("tip", "surface"): lambda: _("That is near the outside: hot first."),
    ("tip", "thin-end"): lambda: _("That is the thin end: done first."),
    ("", "not-corrected"): lambda: _("That is what it shows."),
    ("", "wrong-way"): lambda: _("That puts the error on the wrong way round."),
    ("", "starts-anew"): lambda: _("That is the whole time: the clock does not start anew."),
    ("", "not-in-heat"): lambda: _("Not in this heat."),
    ("", "only-the-last"): lambda: _("That counts only one of the times."),
    ("", "too-long"): lambda: _("That is longer than it may."),
    ("", "too-slow"): lambda: _("It stays warm for too long that way."),
    ("", "thaw-resets"): lambda: _("Thawing does not start the days anew."),
    ("", "freezer-counts"): lambda: _("In the freezer the days stand still."),
    ("", "out-not-counted"): lambda: _("The time out is taken off."),
    ("", "too-late"): lambda: _("That is too late."),
    ("", "not-yet"): lambda: _("Nothing raw has been touched by then."),
    ("", "drips"): lambda: _("Something raw would stand above what is eaten as it is."),
    ("", "too-loose"): lambda: _("That would let harm through."),
    ("", "stricter"): lambda: _("That is stricter than the rules; it would do no harm."),
    ("", "may"): lambda: _("Nothing that is known of it speaks against that; labels are read all the same."),
    ("", "carry_on"): lambda: _("Going on makes nothing safe."),
    ("", "wipe"): lambda: _("A cloth spreads it."),
    ("", "rinse"): lambda: _("Water alone ends nothing here."),
    ("", "lies-well"): lambda: _("That lies well."),
    ("", "other-tool"): lambda: _("There is another tool for that."),
}


def told(right: int, answers: int) -> str:
    """How many had it right."""
    if not answers:
        return _("Nobody has answered yet.")
    return ngettext("%(right)s of %(n)s answer right", "%(right)s of %(n)s answers right", answers) % {
        "right": right,
        "n": answers,
    }

"""How a use-by date was worked out, in words."""

import datetime as dt

from django.utils.formats import date_format
from django.utils.timezone import localtime
from django.utils.translation import gettext as _

from bulwark.presentation.phrases import (
    duration,
    listed,
)
from foodsafety.quantities import Temperature


def category(name: str) -> str:
    """A storage category in words."""
    return name.replace("_", " ")


def stored_too_late() -> str:
    """Why a food that was put away may not be kept."""
    return _("It was out too long to go back into the cold")


def brought_places() -> dict[str, str]:
    """Where a dish that is brought is kept until it is eaten."""
    return {"fridge": _("in a fridge"), "freezer": _("in a freezer"), "out": _("neither cold nor hot")}


def brought(title: str, made_at: dt.datetime, until: dt.datetime | None, *, may: bool, sure: bool) -> str:
    """A dish that is brought ready made, and whether it may be eaten then; ``sure``: nothing is left to ask."""
    told = {"title": title, "made": date_format(localtime(made_at), "j M, H:i")}
    if until is None:
        return _("%(title)s, made %(made)s: not to be eaten") % told
    told["until"] = date_format(localtime(until), "j M, H:i")
    if not may:
        return _("%(title)s, made %(made)s: good until %(until)s only, over before it is eaten") % told
    if not sure:
        return _("%(title)s, made %(made)s: ask first; use by %(until)s at the very latest") % told
    return _("%(title)s, made %(made)s: use by %(until)s") % told


def way_not_said() -> str:
    """What nobody has said of it."""
    return _("Nobody has said how long it is out of the cold in all: that time is still to be taken off.")


def contents_not_said() -> str:
    """What nobody has said of it."""
    return _("Nobody has said which allergens are in it: write “none” where there are none.")


def no_allergen(word: str) -> str:
    """What was said to be in it and is no allergen of ours."""
    return _("“%(word)s” is no allergen that Bulwark knows: nobody is checked for it.") % {"word": word}


def heat_not_said(above: Temperature | None, limit_s: float) -> str:
    """That nobody has measured how warm it is where it stands, and what that could mean."""
    told = {"above": f"{above.value:g} °{above.unit}" if above else "", "t": duration(limit_s)}
    return _("Nobody has measured how warm it is there: above %(above)s it is %(t)s.") % told


def out_for(seconds: float, section: str) -> str:
    """How long food may be out that nothing keeps cold or hot."""
    told = {"t": duration(seconds), "s": section}
    return _("Neither cold nor hot: at most %(t)s from when it was made (%(s)s)") % told


def storage_reason(rule: str, low: float | None, high: float | None, unit: str, section: str) -> str:
    """One step of how a use-by date was worked out."""
    units = {"d": _("days"), "wk": _("weeks"), "mo": _("months")}
    figures = [f"{figure:g}" for figure in dict.fromkeys((low, high)) if figure is not None]
    span = "–".join(figures)
    texts = {
        "fridge-life": _("Keeps %(span)s %(unit)s in the fridge; the shorter counts")
        % {"span": span, "unit": units.get(unit, unit)},
        "date-mark": _("The profile's date mark caps it at %(t)s (%(s)s)") % {"t": duration(low or 0), "s": section},
        "time-out": _("%(t)s out of the fridge is taken off") % {"t": duration(low or 0)},
        "freezer-quality": _("Best within %(span)s %(unit)s in the freezer")
        % {"span": span, "unit": units.get(unit, unit)},
        "out-too-long": _("Out of temperature for longer than %(t)s: throw it away") % {"t": duration(low or 0)},
        "too-late-for-the-cold": _("Out for %(t)s or more: it may not go back into the fridge. Throw it away")
        % {"t": duration(low or 0)},
        "one-period-only": _("Out of the cold a second time; the rules allow one period (%(s)s). Throw it away")
        % {"s": section},
        "life-used-up": _("It was frozen after its time in the fridge was over: throw it away"),
        "frozen-when-unknown": _("Nobody knows when it was frozen: its days before that count, so it keeps a day"),
        "not-for-freezer": _("Freezing spoils it"),
        "not-for-fridge": _("Not kept in a fridge"),
        "verify-locally": _("This figure varies between editions: verify locally"),
        "frozen-time-pauses": _("Freezing paused the fridge clock; it did not reset it"),
        "reheated-once": _("It was heated again: eaten now, never kept, never heated a third time"),
        "history-has-a-hole": _("For %(t)s nobody knows how warm it was: it is held against it")
        % {"t": duration(low or 0)},
        "shortened-by-hand": _("Somebody has set an earlier date"),
        "no-refreezing": _("Thawed food is not frozen again"),
    }
    return texts.get(rule, rule)


def standing(name: str) -> str:
    """How a part stands, as its ticket says it."""
    return {
        "over": _("over: throw away"),
        "heat": _("not hot enough: heat on"),
        "eat": _("hot: eat it now"),
        "today": _("today"),
        "hole": _("history has a hole"),
        "first": _("use first"),
        "good": _("good"),
    }[name]


def store_names() -> dict[str, str]:
    """Stores that nobody has named."""
    return {"fridge": _("Fridge"), "freezer": _("Freezer"), "out": _("Out on the bench")}


def headline(over: list[str], today: list[str]) -> str:
    """What has to be done at a shelf now, in one breath."""
    parts = []
    if today:
        parts.append(_("Use today: %(food)s.") % {"food": listed(today[:3])})
    if over:
        parts.append(_("Throw away: %(food)s.") % {"food": listed(over[:3])})
    return " ".join(parts) or _("Nothing has to be used or thrown away today.")


def no_such_item() -> str:
    """An item that is gone, or was never here."""
    return _(
        "That is not on this shelf: it has gone since, or its label is of another organisation or was mistyped. Look "
        "for it by its food; what nobody here knows is not eaten."
    )


def gone(food: str, how: str, at: dt.datetime) -> str:
    """What became of a part whose label was scanned again."""
    told = {"food": food, "how": how.lower(), "at": date_format(at, "j M, H:i")}
    return _("%(food)s: %(how)s on %(at)s. What you hold is not that, or was not entered: do not eat it.") % told


def store_entered(count: int) -> str:
    """That a store was too warm is in the log of all that stood in it."""
    return _("Entered for %(n)s parts. What is over now stands at the front of the shelf.") % {"n": count}


def today_at(at: dt.datetime) -> str:
    """Until when today."""
    return _("today %(t)s") % {"t": date_format(at, "H:i")}


def left(seconds: float) -> str:
    """How long something may still be used, rounded down to whole hours where there are several."""
    hours = int(seconds // 3600)
    return _("%(n)s h left") % {"n": hours} if hours >= 2 else _("%(t)s left") % {"t": duration(seconds)}


def keep_at(limit: str, *, frozen: bool) -> str:
    """Where a food is kept, and how cold."""
    return (_("In the freezer, at or below %(c)s") if frozen else _("In the fridge, at or below %(c)s")) % {"c": limit}


def sheet(paper: str, count: int, width_mm: float, height_mm: float) -> str:
    """A sheet of labels by its paper and the size of one."""
    told = {"paper": paper, "n": count, "w": f"{width_mm:g}", "h": f"{height_mm:g}"}
    return _("%(paper)s, %(n)s labels, %(w)s x %(h)s mm") % told

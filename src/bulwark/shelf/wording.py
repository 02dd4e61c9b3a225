"""How a use-by date was worked out, in words."""

import datetime as dt
import math
import re
from collections.abc import Mapping

from django.utils.formats import date_format
from django.utils.timezone import localtime
from django.utils.translation import gettext as _

from bulwark.lessons import log_wording
from bulwark.presentation.errors import error_sentence
from bulwark.presentation.phrases import (
    duration,
    listed,
    moment,
    short_limit,
)
from foodsafety.cooling import ChillPlan
from foodsafety.lesson import Box
from foodsafety.quantities import CoreError, Temperature


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


def not_there() -> str:
    """What was kept for a lesson and is gone."""
    return _("It does not stand on the shelf any more: its label says what became of it.")


def still_frozen() -> str:
    """What was kept for a lesson and must be thawed first."""
    return _("It is still frozen: put it into the fridge in time.")


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
        "cooled-too-slowly": _("Read too warm when it should have been cold (%(s)s): throw it away") % {"s": section},
        "not-seen-cold": _("Nobody measured in time that it was cold (%(s)s): not eaten unless somebody signs for it")
        % {"s": section},
        "nobody-knows-how-long": _("Nobody knows for how long it was out: not eaten unless somebody signs for it"),
        "signed-for": _("What nobody measured about it, somebody signed for"),
        "earliest-ingredient": _("Something in it was kept before: its date is the latest for all of it"),
        "history-has-a-hole": _("For %(t)s nobody knows how warm it was: it is held against it")
        % {"t": duration(low or 0)},
        "shortened-by-hand": _("Somebody has set an earlier date"),
        "vacuum-adds-nothing": _("Vacuum packing adds no day: without air, what grows in it cannot be seen or smelt"),
        "packed-without-air": _("Packed without air: at most %(t)s in the fridge (%(s)s)")
        % {"t": duration(low or 0), "s": section},
        "no-refreezing": _("Thawed food is not frozen again"),
    }
    return texts.get(rule, rule)


def standing(name: str) -> str:
    """How a part stands, as its ticket says it."""
    return {
        "over": _("over: throw away"),
        "heat": _("not hot enough: heat on"),
        "eat": _("hot: eat it now"),
        "cooling": _("cooling"),
        "today": _("today"),
        "hole": _("history has a hole"),
        "first": _("use first"),
        "good": _("good"),
    }[name]


def store_names() -> dict[str, str]:
    """Stores that nobody has named."""
    return {"fridge": _("Fridge"), "freezer": _("Freezer"), "out": _("Out on the bench")}


def headline(over: list[str], today: list[str], read: str, holes: list[str]) -> str:
    """What has to be done at a shelf now, in one breath; ``read``: what must be measured next; ``holes``: what nobody
    may eat before its hole is closed."""
    parts = [read] if read else []
    if today:
        parts.append(_("Use today: %(food)s.") % {"food": listed(today[:3])})
    if holes:
        parts.append(_("Sign for or throw away: %(food)s.") % {"food": listed(holes[:3])})
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


def read_by(food: str, limit: Temperature, at: dt.datetime, unit: str) -> str:
    """What must be measured next."""
    told = {"food": food, "limit": short_limit(limit, unit, at_most=True), "at": _clock(at)}
    return _("Read the %(food)s: %(limit)s by %(at)s.") % told


def due_by(limit: Temperature, at: dt.datetime, unit: str) -> str:
    """A limit that must be read by a moment, short."""
    return _("%(limit)s by %(at)s") % {"limit": short_limit(limit, unit, at_most=True), "at": _clock(at)}


def _clock(at: dt.datetime) -> str:
    local = localtime(at)
    return f"{local:%H:%M}" if local.date() == localtime().date() else moment(local)


def cooling_says(standing: str) -> str:
    """How a part cools, in a sentence."""
    return {
        "cold": _("Cold in time."),
        "too-slow": _("It was read too warm after that was due."),
        "not-seen": _("Nobody read it in time: nobody knows how it cooled."),
    }.get(standing, "")


def look_at(at: dt.datetime, limit: Temperature, unit: str) -> str:
    """When it is worth measuring, by the planner."""
    if at <= localtime():
        return _("Look at it now: it should have %(limit)s.") % {"limit": short_limit(limit, unit, at_most=True)}
    return _("Look at it at %(at)s: it should have %(limit)s then.") % {
        "at": _clock(at),
        "limit": short_limit(limit, unit, at_most=True),
    }


def will_be_late(way: str) -> str:
    """That it will not be cold in time as it stands, and what would do."""
    late = _("As it stands it will not be cold in time.")
    return f"{late} {way}" if way else late


def chill_way(plan: ChillPlan) -> str:
    """One way to cool it in time."""
    box, depth_cm = plan.way.container, 100 * plan.way.depth_m
    where = {
        "fridge": _("in the fridge"),
        "freezer": _("in the freezer"),
        "ice_bath": _("in an ice bath"),
        "stirred_ice_bath": _("in an ice bath, stirred"),
    }.get(plan.way.where, plan.way.where)
    told = {"n": plan.way.count, "box": box.name if plan.way.count == 1 else box.plural, "where": where}
    return _("%(n)s %(box)s, %(d)s cm deep, %(where)s.") % {**told, "d": f"{math.ceil(10 * depth_cm) / 10:g}"}


def wraps() -> dict[str, str]:
    """How what is kept is covered."""
    return {
        "open": _("open"),
        "lid": _("lid"),
        "film": _("film"),
        "foil": _("foil"),
        "bag": _("bag"),
        "vacuum": _("vacuum"),
    }


def wrap_means(wrap: str, *, frozen: bool) -> list[str]:
    """What its cover means for the freezer and for the microwave."""
    freezing = {
        "open": _("Open food dries out in a freezer: cover it."),
        "lid": _("Leave a finger's width: it grows as it freezes."),
        "film": _("Film alone lets it dry out after some weeks: a bag or a box around it."),
        "foil": _("Foil tears in a freezer, and acid food eats into it: a bag around it."),
        "bag": _("Press the air out and freeze it flat."),
        "vacuum": _("Cut fish open before it thaws: without air, what grows in it cannot be smelt."),
    }
    microwave = {
        "lid": _("In a microwave: lid ajar."),
        "film": _("In a microwave: film off, or pierced and not touching the food."),
        "foil": _("Never in a microwave in its foil."),
        "bag": _("In a microwave: out of its bag, unless the bag says it may."),
        "vacuum": _("In a microwave: cut open first."),
    }
    return [text for text in ((freezing.get(wrap) if frozen else None), microwave.get(wrap)) if text]


def stands_in(box: Box) -> str:
    """What a part stands in."""
    parts = [log_wording.stands_in(box.container, box.count)]
    if box.litres is not None:
        parts.append(_("%(l)s l in all") % {"l": f"{box.litres:g}"})
    if box.wrap:
        parts.append(wraps()[box.wrap])
    return ", ".join(parts)


def thaw_by(at: dt.datetime, hours: int, needed: dt.datetime) -> str:
    """By when a frozen part goes into the fridge."""
    told = {"at": moment(localtime(at)), "h": hours, "needed": moment(localtime(needed))}
    return _("Into the fridge by %(at)s: it takes up to %(h)s hours, and is needed %(needed)s.") % told


def thaw_too_late(hours: int) -> str:
    """That it will not be thawed by then."""
    return _("That is too soon: in the fridge it takes up to %(h)s hours. Never on the bench.") % {"h": hours}


def thaw_not_kept(until: dt.datetime) -> str:
    """That it is over before it is needed."""
    return _("Once thawed it keeps until %(u)s only, which is before then.") % {"u": moment(localtime(until))}


def fate(name: str) -> str:
    """What is done with a thing in a store that failed."""
    return {"goes": _("throw away"), "now": _("use now"), "hole": _("close the hole first"), "stays": _("may stay")}[
        name
    ]


def reached(low: str, high: str, *, by_size: bool) -> str:
    """How warm something got."""
    if by_size:
        return _("%(low)s in the middle at the least, %(high)s outside at the most") % {"low": low, "high": high}
    return _("air up to %(high)s; its size was not said") % {"high": high}


def only_if_cold(limit: Temperature, at: dt.datetime, unit: str) -> str:
    """What the date on a label hangs on while its food cools."""
    return _("Only if read at %(limit)s by %(at)s") % {
        "limit": short_limit(limit, unit, at_most=True),
        "at": _clock(at),
    }


def no_log() -> str:
    """That a store has no logger of that name, and nobody said for how long it was too warm."""
    return _("No logger has that store's name: say for how many hours it was too warm.")


def way_home(minutes: int, ambient_c: str) -> str:
    """How long it may be on its way without anything cold."""
    told = {"n": minutes, "c": ambient_c}
    if minutes <= 0:
        return _("It may not travel without an ice pack at %(c)s.") % told
    return _("Without an ice pack it may be on its way for at most %(n)s minutes at %(c)s.") % told


def with_packs(count: int, minutes: int) -> str:
    """How many ice packs a longer way needs."""
    told = {"n": count, "m": minutes}
    if count == 1:
        return _("For %(m)s minutes: in a cool bag with one frozen pack of half a kilogram.") % told
    return _("For %(m)s minutes: in a cool bag with %(n)s frozen packs of half a kilogram.") % told


def brought_in() -> str:
    """What the log of food from no lesson is called."""
    return _("Brought in")


def brought_in_bench() -> str:
    """Its one bench."""
    return _("Store")


def brought_in_count(count: int) -> str:
    """That so many foods stand on the shelf now."""
    return _("%(n)s foods stand on the shelf now.") % {"n": count}


def wrong_row(found: CoreError) -> str:
    """Why a row of a file is not taken."""
    return f"{found.field}: {error_sentence(found)}"


def note_sentences() -> dict[str, str]:
    """The sentences of a note for home, by id; what stands in braces is filled in."""
    return {
        "eat_by": _("Eat by {until}."),
        "made": _("Made on {made} in a lesson."),
        "frozen": _("Keep it frozen; thaw it in the fridge, and eat it within a day after that."),
        "fridge": _(
            "Straight into the fridge when you are home. On a way of more than half an hour: with an ice pack."
        ),
        "heat": _("If you heat it: once, to {limit} in the middle, and eat it then. Throw away what is left."),
        "contains": _("Contains {allergens}."),
        "no_allergen": _("We know of no allergen in it. Ask us if it matters to you."),
        "smell": _("If it smells wrong, or you do not know how long it stood: throw it away."),
        "may_not": _("This may not go home: throw it away."),
    }


def in_note(name: str, words: Mapping[str, str], **told: str) -> str:
    """A sentence of a note, in the words of a family's language where there are some."""
    text = words.get(name) or note_sentences()[name]
    for key, value in told.items():
        text = text.replace("{" + key + "}", value)
    return text


def words_lack(language_text: str, english: str) -> list[str]:
    """What a translated sentence must have in it and has not: what is filled in."""
    return [name for name in re.findall(r"\{\w+\}", english) if name not in language_text]


def words_without(sentence: str, lacking: list[str]) -> str:
    """That a translated sentence lacks what is filled in."""
    return _("“%(sentence)s” needs %(what)s in it.") % {"sentence": sentence, "what": listed(lacking)}


def language_unnamed() -> str:
    """That nobody said which language it is."""
    return _("Which language is it?")

"""Sentences of the bench: checks, stages of a wash, questions about a number typed."""

import datetime as dt
from collections.abc import Iterable, Sequence

from django.utils.formats import date_format
from django.utils.timezone import get_current_timezone
from django.utils.translation import gettext as _

from bulwark.lessons.log_wording import advice_line
from bulwark.presentation.phrases import capital, degrees, duration, listed, minutes, oven_heat
from foodsafety.foods import is_raw, soil
from foodsafety.lesson import Back, KeptFood, OvenUse, State, at_other_heat
from foodsafety.quantities import Question, c_from_f, f_from_c
from foodsafety.recipes import Step


def ready_checks() -> list[tuple[str, str]]:
    """The readiness checks, in the order they are asked."""
    return [
        ("apron", _("Apron on")),
        ("hair", _("Hair tied back")),
        ("jewellery", _("Jewellery off")),
        ("cuts", _("Cuts covered, or none")),
        ("well", _("Not ill in the last 48 hours")),
    ]


# What is said to a bench about the plan stands so long [s]; that its washing-up waits stands until the end.
_ADVICE_STANDS_S = 600.0


def advice(state: State, now_s: float) -> list[str]:
    """What the front has told a bench that is behind its plan, newest first."""
    rows = [row for row in state.advice if row.what == "kit_later" or now_s - row.at_s < _ADVICE_STANDS_S]
    return list(dict.fromkeys(advice_line(row.what, row.of) for row in reversed(rows)))


def arranged(how: str) -> str:
    """What the plan of the lesson asks of a step; nothing where it asks nothing that we know."""
    return {
        "smaller": _("As planned: pieces of half the size. The probe decides when they are done."),
        "thinner": _("As planned: pieces half as high. The probe decides when they are done."),
        "shallow": _("As planned: half as deep, in twice as many boxes."),
        "ready": _("As planned: one ready made is there. Go on with that one; nobody waits for this."),
        "ahead": _("As planned, this was done before the lesson. Look whether it has been; if not, do it now."),
        "water": _("As planned, this was put on before the lesson. Look whether it has been; if not, do it now."),
    }.get(how, "")


def sights() -> list[tuple[str, str]]:
    """What can be seen of food that no temperature is published for, and proves it."""
    return [
        ("shells_open", _("Every shell is open, closed ones thrown away")),
        ("opaque_flakes", _("Opaque all through")),
        ("firm", _("Firm all through")),
    ]


def a_piece() -> str:
    """One piece of a food whose pieces the recipe does not name."""
    return _("piece")


def how_hot(foods: Sequence[str]) -> str:
    """The heading of a panel that asks for a core temperature."""
    return _("Inside the %(food)s: how hot?") % {"food": listed(foods)}


def back_line(row: Back) -> str:
    """What to do with a food after a pause, and why."""
    told = {"food": capital(row.food), "left": duration(row.left_s)}
    if row.what == "throw":
        why = {"out-too-long": _("it was out too long")}.get(
            row.why[0] if row.why else "", _("it may not be used any more")
        )
        return _("%(food)s: throw it away, %(why)s.") % {**told, "why": why}
    return {
        "heat": _(
            "%(food)s: the heat was off. Back on, and to its limit by the probe; out for another %(left)s at most."
        ),
        "now": _("%(food)s: use it now, within %(left)s; it does not go back into the cold."),
        "fine": _("%(food)s: may still be used, for another %(left)s."),
    }[row.what] % told


def panel_name(title: str, food: str) -> str:
    """What a panel is called in the list of all steps: a step has its own title."""
    names = {
        "arrive": _("Everyone washes"),
        "washing-up": _("Wash up"),
        "fridge": _("Read the fridge"),
        "chilled": _("Temperature of the %(food)s") % {"food": food},
        "back": _("After the pause"),
        "leftovers": _("What became of the food"),
    }
    return names.get(title, title)


def soiled_word(soils: Iterable[str]) -> str:
    """What is on a tool, in two or three words; nothing for a clean one."""
    names = list(soils)
    if any(is_raw(name) for name in names):
        return _("raw on it")
    if any(soil(name).practice for name in names):
        return _("unwashed produce on it")
    return _("not clean") if names else ""


def cleaned(tools: Sequence[str]) -> str:
    """What a bench says once tools are clean."""
    return _("%(kit)s cleaned and sanitised") % {"kit": capital(listed(tools))}


def outlook(kept: KeptFood | None, place: str) -> str:
    """What a food would keep for in a place, or why it does not keep there."""
    if kept is None or kept.throw_away:
        return _("it may not be kept")
    if kept.until is None:
        spoils = any(reason.rule == "not-for-freezer" for reason in kept.use_by.why)
        return _("freezing spoils it") if spoils else _("it does not keep")
    if place == "freezer":
        return _("best before %(day)s") % {"day": date_format(kept.until, "j M Y")}
    return _("use by %(day)s") % {"day": date_format(kept.until, "D j M, H:i")}


def wash_stages(scrub_s: float) -> list[dict[str, object]]:
    """The stages of a hand-wash [s]; the five scrubbing ones share the profile's time."""
    scrub = [_("Palms"), _("Backs"), _("Between fingers"), _("Thumbs"), _("Nails")]
    each = -(-scrub_s // len(scrub))  # whole seconds, never less than the limit in all
    rows: list[dict[str, object]] = [
        {"name": _("Wet"), "s": 3, "scrub": False},
        {"name": _("Soap"), "s": 3, "scrub": False},
    ]
    rows += [{"name": name, "s": int(each), "scrub": True} for name in scrub]
    rows += [{"name": _("Rinse"), "s": 6, "scrub": False}, {"name": _("Dry"), "s": 12, "scrub": False}]
    return rows


def piece_word(status: str) -> str:
    """A probed piece in a word. One piece over the limit is not "safe": only the lowest of enough
    pieces decides."""
    return {"laid": _("over"), "due": _("too low"), "next": _("next"), "todo": _("not yet")}[status]


def question_text(question: Question, value: float, unit: str) -> dict[str, object]:
    """What to ask about a number that does not look right, and the answers there are."""
    typed = f"{value:g} °{unit}"
    title, text = _question_words(question, value, typed)
    other = "F" if unit == "C" else "C"
    swap = {"value": value, "unit": other, "label": _("It is %(v)s °%(u)s") % {"v": f"{value:g}", "u": other}}
    keep = {"confirmed": True, "label": _("It really is %(t)s") % {"t": typed}}
    answers = {
        "looks_fahrenheit": [swap],
        "looks_celsius": [swap, keep],
        "too_cold_for_cooking": [keep],
        "odd_for_a_room": [keep],
    }
    return {"title": title, "text": text, "answers": answers.get(question, [])}


def early_text(step: Step, short_s: float) -> dict[str, object]:
    """What to ask where a step is tapped as done long before its time."""
    cold = step.do in ("chill", "freeze")
    done = {"early": True, "label": _("It is done, before its time")}
    on = {"goes_on": True, "label": _("It goes on in the cold, we go on")}
    return {
        "title": _("The recipe gives it %(time)s") % {"time": minutes(step.least_s / 60)},
        "text": _("%(time)s of that are left.") % {"time": duration(short_s)},
        "answers": [on, done] if cold else [done],
        "again": _("Not yet"),
        "shown": "",
    }


def _question_words(question: Question, value: float, typed: str) -> tuple[str, str]:
    if question == "looks_fahrenheit":
        as_c = degrees(c_from_f(value), "C")
        text = _("%(v)s °F would be %(c)s. Which is it?") % {"v": f"{value:g}", "c": as_c}
        return _("%(t)s is hotter than food can be") % {"t": typed}, text
    if question == "looks_celsius":
        as_f = degrees(f_from_c(value), "C").replace("°C", "°F")
        text = _("%(v)s °C would be %(f)s. Which is it?") % {"v": f"{value:g}", "f": as_f}
        return _("%(t)s is very cold for this") % {"t": typed}, text
    if question == "odd_for_a_room":
        return _("%(t)s is odd for a room") % {"t": typed}, _("Is it the room or the field you stand in?")
    if question == "too_cold_for_cooking":
        return _("%(t)s is below freezing") % {"t": typed}, _("Look at the probe again.")
    return _("%(t)s cannot be right") % {"t": typed}, _("Look at the probe again and type what it shows.")


def field_text(message: str) -> str:
    """An entry that was refused, for the bench."""
    return _("That entry could not be read. %(why)s Call the educator.") % {"why": message}


def in_the_oven(use: OvenUse, step: Step, unit: str) -> tuple[str, bool]:
    """What another bench has in the oven that a step needs, and whether that is at another heat."""
    told = {"bench": use.bench, "food": capital(use.food), "oven": use.oven, "at": oven_heat(use.oven_c, unit)}
    text = _("%(food)s of %(bench)s in the shared %(oven)s at %(at)s") % told
    if use.until_s is not None:
        until = dt.datetime.fromtimestamp(use.until_s, tz=get_current_timezone())
        text = _("%(text)s until about %(time)s") % {"text": text, "time": f"{until:%H:%M}"}
    if not at_other_heat(step, use):
        return f"{text}.", False
    wanted = oven_heat(step.oven_c, unit)
    return _("%(text)s. This asks %(wanted)s: agree with them first.") % {"text": text, "wanted": wanted}, True


def refusal(code: str) -> tuple[str, str]:
    """Why a bench cannot be joined or used, and what to do."""
    texts = {
        "unknown": (
            _("That code is not known"),
            _("Check the six characters on the front screen and type them again."),
        ),
        "closed": (
            _("This lesson is over"),
            _("What reached the log is in the record. What still waits on this tablet stays on it: tell the educator."),
        ),
        "not_open": (_("This lesson has not started yet"), _("Wait for the educator to start it, then try again.")),
        "sent_away": (
            _("This tablet was sent away from the bench"),
            _("What it wrote is kept. Join again with the code on the front screen, or ask the educator."),
        ),
        "too_large": (_("That is too much for one entry"), _("It was not recorded. Call the educator.")),
        "too_fast": (_("Too many entries at once"), _("They are sent again in a moment.")),
        "not_joined": (
            _("This tablet is not at a bench"),
            _("Scan the QR code on the front screen, or type the bench's code."),
        ),
    }
    return texts[code]

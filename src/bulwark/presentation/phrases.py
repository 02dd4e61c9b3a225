"""Numbers, limits and lists as people read them, in one place that every app may use.

Numbers are never rounded towards safe: a hot reading is cut down, a cold one is cut up."""

import datetime as dt
import math
from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING

from django.utils.formats import date_format
from django.utils.translation import gettext as _

if TYPE_CHECKING:
    from django.utils.functional import _StrPromise

    # A sentence, or one that is looked up in the reader's language when it is shown.
    Text = str | _StrPromise
else:
    Text = str

from foodsafety.quantities import Temperature, f_from_c
from foodsafety.rules import CookLimit, Hold, Profile


def caution() -> str:
    """The line that stands under every verdict."""
    return _("A teaching aid: your local code and your licensed practice decide.")


# --- steps -------------------------------------------------------------------------------------

_VERBS = {
    "part_cook": "part-cook",
    "wash_hands": "wash hands",
    "gloves_on": "gloves on",
    "gloves_off": "gloves off",
    "touch": "handle",
    "transfer": "move",
    "rest": "rest or cool",
}


def verb(do: str) -> str:
    """A verb of the process as people say it."""
    return _(_VERBS.get(do, do.replace("_", " ")))


# --- numbers -----------------------------------------------------------------------------------


def _cut(value: float, *, up: bool) -> str:
    """One decimal at most, cut up or down; a whole number without its zero."""
    scaled = round(value * 10, 6)
    tenths = math.ceil(scaled) if up else math.floor(scaled)
    return f"{tenths / 10:g}"


def degrees(reading_c: float | None, unit: str, *, cold: bool = False) -> str:
    """A reading in the reader's unit; a cold one is cut up, any other down."""
    if reading_c is None:
        return _("not measured")
    value = reading_c if unit == "C" else f_from_c(reading_c)
    return f"{_cut(value, up=cold)} °{unit}"


def oven_heat(oven_c: float | None, unit: str) -> str:
    """What an oven is set to in the reader's unit, to the degree, as its dial has it."""
    return _("a heat that nobody wrote") if oven_c is None else f"{_in(oven_c, unit):.0f} °{unit}"


def degrees_apart(difference_c: float, unit: str) -> str:
    """A difference between two readings in the reader's unit, to a tenth."""
    return f"{difference_c if unit == 'C' else difference_c * 9 / 5:.1f} °{unit}"


def _in(celsius: float, unit: str) -> float:
    return celsius if unit == "C" else f_from_c(celsius)


def aim_degrees(celsius: float, unit: str) -> str:
    """A temperature to reach, to a tenth, rounded up: shown at most a thousandth below what it is."""
    return f"{_cut(_in(celsius, unit) - 0.001, up=True)} °{unit}"


def whole_degrees(core_c: float, unit: str) -> str:
    """A core reading cut down to the whole degree, for where there is room for no more."""
    return f"{math.floor(round(core_c if unit == 'C' else f_from_c(core_c), 6))}°"


def limit_degrees(limit: Temperature, unit: str, *, at_most: bool = False) -> str:
    """A limit in the reader's unit, to the tenth on its strict side, with the source's own figure
    beside it where that is stated in the other unit: the one conversion for every page."""
    shown = aim_degrees(limit.c, unit) if not at_most else f"{_cut(_in(limit.c, unit), up=False)} °{unit}"
    return shown if limit.unit == unit else f"{shown} ({limit.value:g} °{limit.unit})"


def short_limit(limit: Temperature, unit: str, *, at_most: bool = False) -> str:
    """The same without the source's own figure, for a brick."""
    return limit_degrees(limit, unit, at_most=at_most).split(" (")[0]


def minutes(value: float) -> str:
    """So many minutes, seconds where it is less than two, or hours."""
    if value >= 90:
        hours, rest = divmod(round(value), 60)
        return f"{hours} h {rest:02d}" if rest else f"{hours} h"
    if value < 2 and value != round(value):
        return f"{round(value * 60)} s"
    return f"{round(value, 1):g} min"


def from_to(least: str, most: str) -> str:
    """A window: "10 to 12 min"; a unit that both have is said once."""
    (low, _sep, unit), (_high, _sep2, other) = least.partition(" "), most.partition(" ")
    return _("%(low)s to %(high)s") % {"low": low if unit == other else least, "high": most}


def duration(seconds: float) -> str:
    """A length of time in words short enough for a brick."""
    seconds = max(0, math.floor(seconds))
    if seconds < 120:
        return _("%(n)s s") % {"n": seconds}
    minutes = seconds // 60
    if minutes < 120:
        return _("%(n)s min") % {"n": minutes}
    hours, rest = divmod(minutes, 60)
    if hours > 48 and not rest and not hours % 24:
        return _("%(n)s days") % {"n": hours // 24}
    return _("%(h)s h %(m)s min") % {"h": hours, "m": rest} if rest else _("%(h)s h") % {"h": hours}


def countdown(seconds: float) -> str:
    """m:ss, or h:mm:ss."""
    seconds = max(0, math.floor(seconds))
    minutes, rest = divmod(seconds, 60)
    hours, minutes = divmod(minutes, 60)
    return f"{hours}:{minutes:02}:{rest:02}" if hours else f"{minutes}:{rest:02}"


def listed(names: Iterable[str]) -> str:
    """a, b and c."""
    rows = list(names)
    if len(rows) < 2:
        return "".join(rows)
    return _("%(first)s and %(last)s") % {"first": ", ".join(rows[:-1]), "last": rows[-1]}


def capital(text: str) -> str:
    """The first letter large, the rest as it is."""
    return text[:1].upper() + text[1:]


def soil_name(soil: str) -> str:
    """A soil in words."""
    names = {
        "person": _("unwashed hands"),
        "unwashed_produce": _("unwashed produce"),
        "waste": _("waste"),
        "chemical": _("cleaning chemical"),
    }
    return names.get(soil, soil.replace("_", " "))


def hold_text(hold: Hold, unit: str) -> str:
    """A temperature, with its hold if it has one."""
    text = limit_degrees(hold.temperature, unit)
    return _("%(limit)s for %(time)s") % {"limit": text, "time": duration(hold.hold_s)} if hold.hold_s else text


def cook_text(limit: CookLimit, unit: str) -> str:
    """A cooking limit as one phrase."""
    if limit.main is None:
        return limit.observation
    text = hold_text(limit.main, unit)
    if limit.rest_s:
        text = _("%(limit)s, then %(time)s rest") % {"limit": text, "time": duration(limit.rest_s)}
    return text


def sentence(text: str) -> str:
    """A message as a sentence: its first letter large, a stop at its end."""
    text = text.strip()
    return capital(text) + ("" if text.endswith((".", "!", "?")) else ".")


def span(seconds: float) -> str:
    """A length of time: 2 h 35 min, 40 min, 20 s. No break within it."""
    if seconds < 3600:
        return duration(seconds)
    hours, rest = divmod(round(seconds / 60), 60)
    if hours >= 48:
        days, hours = divmod(hours, 24)
        return _("%(d)d days %(h)d h") % {"d": days, "h": hours} if hours else _("%(d)d days") % {"d": days}
    return f"{hours}\u00a0h {rest}\u00a0min" if rest else f"{hours}\u00a0h"


Clock = Callable[[float], str]


def clock_word(first_s: float | None) -> Clock:
    """Times on an axis: of the clock where that is known, else hours and minutes from the start."""

    def word(at_s: float) -> str:
        total = round(((first_s or 0.0) + at_s) / 60)
        hours, minutes = divmod(total, 60)
        if first_s is not None:
            return f"{hours % 24:02d}:{minutes:02d}"
        return f"{hours}:{minutes:02d}\u00a0h"

    return word


def day(at: dt.datetime) -> str:
    """A day: "Thu 3 Dec"."""
    return date_format(at, "D j M")


def moment(at: dt.datetime) -> str:
    """A day with its hour: "Thu 3 Dec, 10:30"."""
    return date_format(at, "D j M, H:i")


def day_clock(at_s: float) -> str:
    """A time of the clock that may lie on a day before."""
    days, rest = divmod(at_s, 86400)
    text = f"{int(rest // 3600):02d}:{int(rest % 3600 // 60):02d}"
    if not days:
        return text
    words = {-1: _("%(t)s the day before"), -2: _("%(t)s two days before")}
    return words.get(int(days), _("%(t)s %(n)d days before")) % {"t": text, "n": -int(days)}


def source_line(profile: Profile, section: str) -> str:
    """The rule behind a verdict: profile, document, edition, section."""
    return _("%(name)s: %(document)s, %(edition)s, %(section)s.") % {
        "name": profile.name,
        "document": profile.document,
        "edition": profile.edition,
        "section": section,
    }

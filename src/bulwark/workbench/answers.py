"""What a tool answers: a verdict in a sentence, a drawing, what to do, a table that says the same."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal

from django.utils.translation import gettext as _

from bulwark.presentation.charts import Chart
from bulwark.presentation.phrases import duration
from bulwark.presentation.units import Units, shown
from foodsafety.quantities import Temperature, f_from_c
from foodsafety.rules import HoldLimit, Profile

# "good" is shown by readings; "ahead" is reckoned or forecast, and no evidence of anything.
State = Literal["good", "ahead", "breach", "due", "open"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """Something at the side: what to do, or what is known. ``big`` is its one number."""

    title: str
    text: str = ""
    big: str = ""
    big_label: str = ""
    facts: tuple[tuple[str, str], ...] = ()
    foot: str = ""
    kind: Literal["do", "tag", "plain"] = "plain"


@dataclass(frozen=True, slots=True, kw_only=True)
class Table:
    """The same in rows."""

    title: str
    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Meter:
    """A share of an allowance, drawn as a bar of bricks; above 1 it is spent."""

    name: str
    share: float
    text: str
    note: str = ""

    @property
    def filled(self) -> range:
        """Bricks that are spent, of twenty."""
        return range(min(20, max(0, -(-round(self.share * 2000) // 100))))

    @property
    def left(self) -> range:
        """Bricks that are not."""
        return range(20 - len(self.filled))


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """A tool's whole answer."""

    state: State
    title: str
    text: str = ""
    chart: Chart | None = None
    picture: str = ""
    cards: tuple[Card, ...] = ()
    tables: tuple[Table, ...] = ()
    meters: tuple[Meter, ...] = ()
    notes: tuple[str, ...] = ()
    source: str = ""
    extra: dict[str, object] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Asker:
    """Who asks: in which units, under which rules, with which containers."""

    units: Units
    rules: Callable[[str], Profile]
    owned: dict[str, int] | None = None


def temp(celsius: float, units: Units, *, up: bool | None = None, whole: bool = False) -> str:
    """A temperature as it is read."""
    return shown(celsius, "temp", units, up=up, places=0 if whole else None)


def limit(row: Temperature, units: Units) -> str:
    """A limit: exact in the unit its source states, else cut to a tenth."""
    if row.unit == units.temps:
        return f"{row.value:g}\u00a0°{row.unit}"
    number = row.c if units.temps == "C" else f_from_c(row.c)
    return f"{number:.1f}".rstrip("0").rstrip(".") + f"\u00a0°{units.temps}"


def hold_text(row: HoldLimit, units: Units) -> str:
    """A holding limit."""
    return limit(row.temperature, units)


def span(seconds: float) -> str:
    """A length of time: 2 h 35 min, 40 min, 20 s. No break within it."""
    if seconds < 3600:
        return duration(seconds)
    minutes = round(seconds / 60)
    hours, rest = divmod(minutes, 60)
    if hours >= 48:
        days, hours = divmod(hours, 24)
        return _("%(d)d days %(h)d h") % {"d": days, "h": hours} if hours else _("%(d)d days") % {"d": days}
    return f"{hours}\u00a0h {rest}\u00a0min" if rest else f"{hours}\u00a0h"


def clock_word(first_s: float | None) -> Callable[[float], str]:
    """Times on an axis: of the clock where that is known, else hours and minutes from the start."""

    def word(at_s: float) -> str:
        total = round(((first_s or 0.0) + at_s) / 60)
        hours, minutes = divmod(total, 60)
        if first_s is not None:
            return f"{hours % 24:02d}:{minutes:02d}"
        return f"{hours}:{minutes:02d}\u00a0h"

    return word


def source_line(profile: Profile, section: str) -> str:
    """The rule behind a verdict: profile, document, edition, section."""
    return _("%(name)s: %(document)s, %(edition)s, %(section)s.") % {
        "name": profile.name,
        "document": profile.document,
        "edition": profile.edition,
        "section": section,
    }

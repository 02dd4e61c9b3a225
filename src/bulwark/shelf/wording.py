"""How a use-by date was worked out, in words."""

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import (
    duration,
)


def category(name: str) -> str:
    """A storage category in words."""
    return name.replace("_", " ")


def stored_too_late() -> str:
    """Why a food that was put away may not be kept."""
    return _("It was out too long to go back into the cold")


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
        "life-used-up": _("It was frozen after its time in the fridge was over: throw it away"),
        "frozen-when-unknown": _("Nobody knows when it was frozen: its days before that count, so it keeps a day"),
        "not-for-freezer": _("Freezing spoils it"),
        "not-for-fridge": _("Not kept in a fridge"),
        "verify-locally": _("This figure varies between editions: verify locally"),
        "frozen-time-pauses": _("Freezing paused the fridge clock; it did not reset it"),
        "no-refreezing": _("Thawed food is not frozen again"),
    }
    return texts.get(rule, rule)

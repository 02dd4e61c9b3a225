"""Cold stores and clocks in words."""

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import degrees, duration
from foodsafety.cooling import StoreVerdict


def span(seconds: float) -> str:
    """A length of time."""
    if seconds < 3600:
        return duration(seconds)
    hours, minutes = divmod(round(seconds / 60), 60)
    return f"{hours}\u00a0h {minutes:02d}"


def store_title(found: StoreVerdict, unit: str) -> str:
    """How a store stands, to be said aloud."""
    words = {
        "cold": _("Cold: %(c)s"),
        "peak": _("Warm for %(t)s: %(c)s"),
        "alarm": _("Too warm for %(t)s: %(c)s"),
        "silent": _("No reading lately; the last was %(c)s"),
        "no_reading": _("No reading yet"),
    }
    if found.standing == "cold" and found.action != "nothing":
        again = _("Cold again at %(c)s, but it was too warm for %(t)s")
        return again % {"c": degrees(found.last_c, unit, cold=True), "t": span(found.above_s)}
    warm = found.above_s if found.standing in ("peak", "alarm") else 0.0
    return words[found.standing] % {"c": degrees(found.last_c, unit, cold=True), "t": span(warm)}


def store_action(found: StoreVerdict) -> str:
    """What to do with the food in it."""
    words = {
        "nothing": _("Nothing to do."),
        "watch": _("Shut the door and look again in a quarter of an hour."),
        "move": _("Move the food to a store that is cold now. Measure the food itself, not the air."),
        "use_now": _("Use what needs the cold now; it may not go back."),
        "discard": _(
            "Throw away what needs the cold: meat, fish, dairy, eggs, cooked and cut food. "
            "It was warm for longer than the rules allow."
        ),
        "measure": _("Measure the air and the food itself: nobody knows how warm it is."),
    }
    return words[found.action]


def state_of(found: StoreVerdict) -> str:
    """The brick's state."""
    if found.action == "discard":
        return "breach"
    if found.standing == "cold" and found.action != "nothing":
        return "due"
    return {"cold": "laid", "peak": "due", "alarm": "breach", "silent": "missed", "no_reading": "todo"}[found.standing]


def clock_state(total_s: float, limit_s: float, *, running: bool) -> str:
    """A food's clock as a state: over, near its end (the last quarter), running, stopped."""
    if total_s > limit_s:
        return "breach"
    if running and total_s > 0.75 * limit_s:
        return "due"
    return "running" if running else "laid"


def clock_text(total_s: float, limit_s: float, *, running: bool) -> str:
    """The same in words."""
    if total_s > limit_s:
        return _("over by %(t)s: throw it away") % {"t": span(total_s - limit_s)}
    if running:
        return _("%(t)s left") % {"t": span(limit_s - total_s)}
    return _("stopped at %(t)s") % {"t": span(total_s)}


def checked(standing: str) -> str:
    """What a check says of a thermometer."""
    return {
        "good": _("good at both points"),
        "adjust": _("out by more than it may be: adjust it before use"),
        "replace": _("its points are wrong by different amounts: do not use it"),
        "cannot_judge": _("proven at one point at most: not known to be fit"),
    }[standing]


def showed(point: str, text: str) -> str:
    """What a thermometer showed at a point."""
    return {"ice": _("%s in ice slush"), "boil": _("%s in boiling water")}[point] % text


def height_not_said() -> str:
    """Why boiling water proves nothing here."""
    return _("where water boils nobody knows, for nobody has said how high this kitchen lies")

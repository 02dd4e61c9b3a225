"""The safety plan in words: limits, reasons, checks, corrections."""

from collections.abc import Mapping
from dataclasses import dataclass

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _l

from bulwark.lessons.wording import raw_food
from bulwark.presentation.phrases import (
    Text,
    capital,
    cook_text,
    duration,
    limit_degrees,
    listed,
)
from foodsafety.lesson import ControlPoint, Plan
from foodsafety.rules import Profile

# --- the safety plan -------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class PlanText:
    """A control point explained: its critical limit, why, how it is checked, what if not."""

    limit: str
    why: str
    check: str
    correct: str


_LIMITS: Mapping[str, Text] = {
    "fridge-cold": _l("%(cold)s or below"),
    "hands-on-arrival": _l("scrubbed for %(time)s or more"),
    "ready-to-eat-clean": _l("no contact with anything raw"),
    "chilled-in-time": _l("%(cold)s or below before serving"),
    "raw-kept-apart": _l("no contact with food that is eaten as it is"),
    "raw-out-of-fridge": _l("%(time)s at most before the heat"),
    "hands-after-raw": _l("scrubbed for %(time)s or more"),
    "kit-after-raw": _l("cleaned, then sanitised, before the next use"),
    "clean-utensils": _l("clean before they touch cooked food"),
    "time-out": _l("%(time)s at most"),
    "leftovers-labelled": _l("use by %(time)s after cooking at the latest"),
}


def _plan_limit(control: ControlPoint, unit: str) -> str:
    if control.rule == "core-temperature":
        if control.cook is None:
            return _("no limit in this profile")
        return _("lowest piece %(t)s") % {"t": cook_text(control.cook, unit)}
    if control.rule == "part-cooked":
        if not control.limit_s:
            return _("cooked through to the full limit")
        text = _("%(t)s of first heating at most, then cooked through to the full limit")
        return text % {"t": duration(control.limit_s)}
    return str(_LIMITS[control.rule]) % {
        "time": duration(control.limit_s or 0),
        "cold": limit_degrees(control.limit, unit, at_most=True) if control.limit else "",
    }


# Why, how it is checked, and what if not.
_TEXTS: Mapping[str, tuple[Text, Text, Text]] = {
    "fridge-cold": (
        _l("Bacteria that came in with the food grow slowly when it is cold, and fast when it is not."),
        _l("Read the fridge thermometer before the food comes out, and type it in."),
        _l("Move the food to a colder fridge, find out how long it was warm, and throw away what is in doubt."),
    ),
    "hands-on-arrival": (
        _l("Hands bring in what they touched on the way: doors, phones, hair, faces."),
        _l("Each learner washes with the timer before touching food."),
        _l("Wash now. Food already touched that will not be cooked is thrown away."),
    ),
    "ready-to-eat-clean": (
        _l("%(Food)s meets no more heat before it is eaten: whatever lands on it is eaten too."),
        _l("Every board, knife, bowl and hand is followed from contact to contact."),
        _l("Throw away the %(food)s that was touched, wash hands and kit, and make it again."),
    ),
    "chilled-in-time": (
        _l("%(Food)s is eaten cold; time in the warm cannot be undone by chilling later."),
        _l("Take its temperature when it comes out of the fridge to be served."),
        _l("Put it back until it is cold. If its time out has run over, throw it away."),
    ),
    "raw-kept-apart": (
        _l("Raw %(raw)s can carry bacteria that make people ill in small numbers."),
        _l("Bowls, boards and hands that met it are marked until they are washed."),
        _l("Stop, find what was touched, throw away what will not be cooked."),
    ),
    "raw-out-of-fridge": (
        _l("Out of the fridge bacteria multiply, and some leave a poison that cooking does not undo."),
        _l("The clock runs from the first step with raw %(raw)s until it is on the heat."),
        _l("Over the limit: throw it away."),
    ),
    "hands-after-raw": (
        _l("Hands are what carries raw %(raw)s to taps, handles and salad."),
        _l("Everyone who touched it washes with the timer."),
        _l("Wash now, and clean every handle and tool touched since."),
    ),
    "kit-after-raw": (
        _l("A board looks clean long before it is. Wiping and rinsing move bacteria about."),
        _l("%(Kit)s: detergent and hot water first, then sanitiser, then air-dry."),
        _l("Take it out of use until it is cleaned. Food it touched that will not be cooked is thrown away."),
    ),
    "clean-utensils": (
        _l("%(Kit)s that turned raw %(raw)s would put it back on the cooked ones."),
        _l("Clean or change them after the last turn, before anything cooked is lifted."),
        _l("Put the food back on the heat to the full limit, or throw it away."),
    ),
    "part-cooked": (
        _l("%(Food)s heated part of the way is raw in every respect, and warm: bacteria grow in it."),
        _l("Laid only when the full limit is proven. Its juices and %(kit)s count as raw until cleaned."),
        _l("Cook it through at once, in a clean pan and onto a clean plate, or throw it away."),
    ),
    "core-temperature": (
        _l("This heat is what makes %(food)s safe; colour, juices and firmness prove nothing."),
        _l("Probe the middle of at least %(n)s pieces, the thickest first. The lowest counts."),
        _l("Back on the heat, and probe again with a clean probe."),
    ),
    "time-out": (
        _l("Once served, food is between hot and cold, where bacteria grow fastest. Time out adds up."),
        _l("The clock starts when it is served and stops in the fridge."),
        _l("Over the limit: throw it away. It cannot be saved by reheating."),
    ),
    "leftovers-labelled": (
        _l("Nobody can see how old food in a fridge is."),
        _l("Say for each dish whether it is kept, eaten or thrown away; a label is worked out for what is kept."),
        _l("Without a label, throw it away."),
    ),
}


def plan_text(control: ControlPoint, plan: Plan, unit: str) -> PlanText:
    """A control point of the safety plan in words."""
    food, kit = listed(control.foods), listed(control.carriers)
    facts = {
        "food": food,
        "Food": capital(food),
        "kit": kit or _("whatever holds it"),
        "Kit": capital(kit),
        "raw": raw_food(plan),
        "n": plan.profile.pieces,
    }
    why, check, correct = (str(text) % facts for text in _TEXTS[control.rule])
    return PlanText(_plan_limit(control, unit), why, check + _hot_day(control, plan, unit), correct)


def _hot_day(control: ControlPoint, plan: Plan, unit: str) -> str:
    """The shorter clock of a hot room, where the profile has one."""
    in_heat = plan.profile.clocks.get("in_heat")
    if control.rule != "time-out" or not in_heat or not in_heat.above:
        return ""
    return _(" Above %(t)s in the room it is %(time)s.") % {
        "t": limit_degrees(in_heat.above, unit, at_most=True),
        "time": duration(in_heat.limit_s),
    }


_WATCHES = {
    "fridge-cold": ("hold.cold.",),
    "hands-on-arrival": ("hands.",),
    "hands-after-raw": ("hands.",),
    "chilled-in-time": ("hold.cold.", "clock."),
    "raw-out-of-fridge": ("clock.",),
    "time-out": ("clock.", "hold.hot."),
    "leftovers-labelled": ("dates.",),
    "core-temperature": ("probe.",),
}


def weaker_limits(control: ControlPoint, profile: Profile) -> list[str]:
    """The kitchen's own limits behind a control point that are weaker than the base profile's."""
    watched = _WATCHES.get(control.rule, ())
    if control.cook:
        watched = (*watched, f"cook.{control.cook.food_class}.")
    return sorted(path for path in profile.weaker if path.startswith(watched)) if watched else []

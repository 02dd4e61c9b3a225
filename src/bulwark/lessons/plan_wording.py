"""The safety plan in words: limits, reasons, checks, corrections."""

from dataclasses import dataclass

from django.utils.translation import gettext as _

from bulwark.lessons.wording import raw_food
from bulwark.presentation.phrases import (
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


def _plan_limit(control: ControlPoint, unit: str) -> str:
    time = duration(control.limit_s or 0)
    limit = control.limit
    texts = {
        "fridge-cold": lambda: _("%(t)s or below") % {"t": limit_degrees(limit, unit, at_most=True)},
        "hands-on-arrival": lambda: _("scrubbed for %(t)s or more") % {"t": time},
        "ready-to-eat-clean": lambda: _("no contact with anything raw"),
        "chilled-in-time": lambda: _("%(t)s or below before serving") % {"t": limit_degrees(limit, unit, at_most=True)},
        "raw-kept-apart": lambda: _("no contact with food that is eaten as it is"),
        "raw-out-of-fridge": lambda: _("%(t)s at most before the heat") % {"t": time},
        "hands-after-raw": lambda: _("scrubbed for %(t)s or more") % {"t": time},
        "kit-after-raw": lambda: _("cleaned, then sanitised, before the next use"),
        "clean-utensils": lambda: _("clean before they touch cooked food"),
        "part-cooked": lambda: (
            _("%(t)s of first heating at most, then cooked through to the full limit") % {"t": time}
            if control.limit_s
            else _("cooked through to the full limit")
        ),
        "core-temperature": lambda: (
            _("lowest piece %(t)s") % {"t": cook_text(control.cook, unit)}
            if control.cook
            else _("no limit in this profile")
        ),
        "time-out": lambda: _("%(t)s at most") % {"t": time},
        "leftovers-labelled": lambda: (
            _("use by %(t)s after cooking at the latest") % {"t": duration(control.limit_s or 0)}
        ),
    }
    return texts[control.rule]()


def plan_text(control: ControlPoint, plan: Plan, unit: str) -> PlanText:
    """A control point of the safety plan in words."""
    food = listed(control.foods)
    kit = listed(control.carriers)
    raw = raw_food(plan)
    in_heat = plan.profile.clocks.get("in_heat")
    hot_day = ""
    if control.rule == "time-out" and in_heat and in_heat.above:
        hot_day = _(" Above %(t)s in the room it is %(time)s.") % {
            "t": limit_degrees(in_heat.above, unit, at_most=True),
            "time": duration(in_heat.limit_s),
        }
    texts = {
        "fridge-cold": (
            _("Bacteria that came in with the food grow slowly when it is cold, and fast when it is not."),
            _("Read the fridge thermometer before the food comes out, and type it in."),
            _("Move the food to a colder fridge, find out how long it was warm, and throw away what is in doubt."),
        ),
        "hands-on-arrival": (
            _("Hands bring in what they touched on the way: doors, phones, hair, faces."),
            _("Each learner washes with the timer before touching food."),
            _("Wash now. Food already touched that will not be cooked is thrown away."),
        ),
        "ready-to-eat-clean": (
            _("%(food)s meets no more heat before it is eaten: whatever lands on it is eaten too.")
            % {"food": capital(food)},
            _("Every board, knife, bowl and hand is followed from contact to contact."),
            _("Throw away the %(food)s that was touched, wash hands and kit, and make it again.") % {"food": food},
        ),
        "chilled-in-time": (
            _("%(food)s is eaten cold; time in the warm cannot be undone by chilling later.") % {"food": capital(food)},
            _("Take its temperature when it comes out of the fridge to be served."),
            _("Put it back until it is cold. If its time out has run over, throw it away."),
        ),
        "raw-kept-apart": (
            _("Raw %(food)s can carry bacteria that make people ill in small numbers.") % {"food": raw},
            _("Bowls, boards and hands that met it are marked until they are washed."),
            _("Stop, find what was touched, throw away what will not be cooked."),
        ),
        "raw-out-of-fridge": (
            _("Out of the fridge bacteria multiply, and some leave a poison that cooking does not undo."),
            _("The clock runs from the first step with raw %(food)s until it is on the heat.") % {"food": raw},
            _("Over the limit: throw it away."),
        ),
        "hands-after-raw": (
            _("Hands are what carries raw %(food)s to taps, handles and salad.") % {"food": raw},
            _("Everyone who touched it washes with the timer."),
            _("Wash now, and clean every handle and tool touched since."),
        ),
        "kit-after-raw": (
            _("A board looks clean long before it is. Wiping and rinsing move bacteria about."),
            _("%(kit)s: detergent and hot water first, then sanitiser, then air-dry.") % {"kit": capital(kit)},
            _("Take it out of use until it is cleaned. Food it touched that will not be cooked is thrown away."),
        ),
        "clean-utensils": (
            _("%(kit)s that turned raw %(food)s would put it back on the cooked ones.")
            % {"kit": capital(kit), "food": raw},
            _("Clean or change them after the last turn, before anything cooked is lifted."),
            _("Put the food back on the heat to the full limit, or throw it away."),
        ),
        "part-cooked": (
            _("%(food)s heated part of the way is raw in every respect, and warm: bacteria grow in it.")
            % {"food": capital(food)},
            _("Laid only when the full limit is proven. Its juices and %(kit)s count as raw until cleaned.")
            % {"kit": kit or _("whatever holds it")},
            _("Cook it through at once, in a clean pan and onto a clean plate, or throw it away."),
        ),
        "core-temperature": (
            _("This heat is what makes %(food)s safe; colour, juices and firmness prove nothing.") % {"food": food},
            _("Probe the middle of at least %(n)s pieces, the thickest first. The lowest counts.")
            % {"n": plan.profile.pieces},
            _("Back on the heat, and probe again with a clean probe."),
        ),
        "time-out": (
            _("Once served, food is between hot and cold, where bacteria grow fastest. Time out adds up."),
            _("The clock starts when it is served and stops in the fridge.") + hot_day,
            _("Over the limit: throw it away. It cannot be saved by reheating."),
        ),
        "leftovers-labelled": (
            _("Nobody can see how old food in a fridge is."),
            _("Say for each dish whether it is kept, eaten or thrown away; a label is worked out for what is kept."),
            _("Without a label, throw it away."),
        ),
    }
    return PlanText(_plan_limit(control, unit), *texts[control.rule])


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

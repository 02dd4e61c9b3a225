"""Sentences for findings, control points, bricks and log entries, keyed by rule id.

Numbers are never rounded towards safe: a hot reading is cut down, a cold one is cut up.
"""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from django.utils.translation import gettext as _

from foodsafety.contamination import Finding
from foodsafety.cooking import CookVerdict
from foodsafety.lesson import Brick, ControlPoint, Phase, Plan, State
from foodsafety.quantities import Temperature, f_from_c
from foodsafety.rules import CookLimit, Hold, Profile


def caution() -> str:
    """The line that stands under every verdict."""
    return _("A teaching aid: your local code and your licensed practice decide.")


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


def whole_degrees(core_c: float, unit: str) -> str:
    """A core reading cut down to the whole degree, for where there is room for no more."""
    return f"{math.floor(round(core_c if unit == 'C' else f_from_c(core_c), 6))}°"


def limit_degrees(limit: Temperature, unit: str, *, at_most: bool = False) -> str:
    """A limit in the reader's unit, to the whole degree on its strict side, with the source's own
    figure beside it where that is stated in the other unit."""
    value = limit.c if unit == "C" else f_from_c(limit.c)
    whole = math.floor(round(value, 6)) if at_most else math.ceil(round(value, 6))
    shown = f"{whole} °{unit}"
    return shown if limit.unit == unit else f"{shown} ({limit.value:g} °{limit.unit})"


def short_limit(limit: Temperature, unit: str, *, at_most: bool = False) -> str:
    """The same without the source's own figure, for a brick."""
    return limit_degrees(limit, unit, at_most=at_most).split(" (")[0]


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


# --- names ---------------------------------------------------------------------------------------


def raw_food(plan: Plan) -> str:
    """What "raw" means in this recipe: its raw foods."""
    foods = next((c.foods for c in plan.controls if c.rule == "raw-kept-apart"), ())
    return listed(foods) or _("food")


LONGEST_COURSE = 14


def short_raw_food(plan: Plan) -> str:
    """The same where there is little room: several foods together are just food."""
    text = raw_food(plan)
    return text if len(text) <= LONGEST_COURSE else _("food")


def _kit_name(carriers: tuple[str, ...]) -> str:
    names = list(dict.fromkeys(name.split()[-1] for name in carriers))
    if len(names) <= 3:
        return capital(", ".join(names))
    return _("%(some)s and %(n)s more") % {"some": capital(", ".join(names[:2])), "n": len(names) - 2}


def phase_name(phase: Phase, plan: Plan) -> str:
    """A course's name."""
    names = {
        "arrive": _("Arrive"),
        "cold_first": _("Cold first"),
        "raw": _("Raw %(food)s") % {"food": short_raw_food(plan)},
        "wash_back": _("Wash back"),
        "cook": _("Cook"),
        "serve": _("Serve"),
    }
    return names[phase]


def control_name(control: ControlPoint) -> str:
    """What a brick is called on the wall."""
    first = control.foods[0] if control.foods else ""
    names = {
        "fridge-cold": _("Fridge"),
        "hands-on-arrival": _("Hands"),
        "ready-to-eat-clean": capital(first),
        "chilled-in-time": _("%(food)s chilled") % {"food": capital(first)} if len(first) < 9 else _("Chilled"),
        "raw-kept-apart": _("Kept apart"),
        "raw-out-of-fridge": _("Raw time"),
        "hands-after-raw": _("Hands"),
        "kit-after-raw": _kit_name(control.carriers),
        "clean-utensils": _("Clean %(tools)s") % {"tools": listed(control.carriers)},
        "part-cooked": _("Still raw"),
        "core-temperature": _("Core"),
        "time-out": _("Out time"),
        "leftovers-labelled": _("Leftovers labelled"),
    }
    return names[control.rule]


def soil_name(soil: str) -> str:
    """A soil in words."""
    names = {
        "person": _("unwashed hands"),
        "unwashed_produce": _("unwashed produce"),
        "waste": _("waste"),
        "chemical": _("cleaning chemical"),
    }
    return names.get(soil, soil.replace("_", " "))


def source_name(finding: Finding) -> str:
    """What a soil came from, as a cook would say it: "raw turkey" rather than "raw poultry"."""
    if finding.soil.startswith("raw_") and finding.path:
        return _("raw %(food)s") % {"food": finding.path[0]}
    return soil_name(finding.soil)


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


# --- findings and calls --------------------------------------------------------------------------------


def path_sentence(finding: Finding, state: State) -> str:
    """How it got there, in one breath: "raw poultry: turkey, AK's hands, cucumber, salad"."""
    people = set(state.learners)
    stops = [_("%(name)s's hands") % {"name": stop} if stop in people else stop for stop in finding.path]
    return f"{capital(soil_name(finding.soil))}: {' → '.join(stops)}" if stops else capital(soil_name(finding.soil))


def finding_title(finding: Finding, state: State) -> str:
    """What happened, or would happen, as a heading."""
    people = set(state.learners)
    carriers = [stop for stop in finding.path[1:-1] if stop in people or stop in state.plan.process.tools]
    last = carriers[-1] if carriers else ""
    by = _("%(name)s's hands") % {"name": last} if last in people else last
    texts = {
        "ready-to-eat-meets-raw": _("%(soil)s in the %(food)s")
        % {"soil": capital(source_name(finding)), "food": finding.food},
        "cooked-meets-raw": _("Cooked %(food)s met raw %(by)s") % {"food": finding.food, "by": by or _("food")},
        "unwashed-hands": _("Unwashed hands in the %(food)s") % {"food": finding.food},
        "probe-not-cleaned": _("The probe carried raw into cooked %(food)s") % {"food": finding.food},
        "served-not-measured": _("%(food)s served and never measured") % {"food": capital(finding.food)},
        "served-below-limit": _("%(food)s served below the limit") % {"food": capital(finding.food)},
        "allergen-contact": _("%(soil)s in the %(food)s") % {"soil": capital(finding.soil), "food": finding.food},
        "wash-too-short": _("Too short: wash again"),
        "wiped-not-cleaned": _("Wiping does not clean"),
    }
    return texts.get(finding.rule, finding.rule.replace("-", " "))


def correction(finding: Finding, state: State) -> str:
    """What to do about a breach, as an order that can be said aloud."""
    if finding.rule in ("served-not-measured", "served-below-limit"):
        return _("Back on the heat, and probe")
    if finding.rule in ("cooked-meets-raw", "probe-not-cleaned"):
        return (
            _("Throw the %(food)s away") % {"food": finding.food}
            if finding.rule == "cooked-meets-raw"
            else _("Clean the probe, cook on")
        )
    return _("Remake the %(food)s") % {"food": finding.food}


def never_proven(food: str) -> str:
    """Why a food that was never shown to be cooked cannot be kept."""
    return _("%(food)s: never shown to be cooked") % {"food": capital(food)}


def action_done(action: str) -> str:
    """A corrective action in the past."""
    texts = {
        "remade": _("thrown away and made again"),
        "discarded": _("thrown away"),
        "cooked_again": _("cooked again to the limit"),
    }
    return texts.get(action, action)


@dataclass(frozen=True, slots=True)
class Call:
    """Something to say aloud to a bench: who, then a verb."""

    state: str
    text: str
    why: str
    rank: int


def bench_call(state: State, rows: tuple[Brick, ...]) -> Call | None:
    """The one most pressing thing to say to a bench, or None."""
    for incident in state.open_incidents:
        return Call("breach", correction(incident.finding, state), finding_title(incident.finding, state), 0)
    for brick in rows:
        if brick.status == "breach":
            return _breach_call(brick)
    if state.called_s is not None:
        return Call("due", _("Go to them"), _("they called you"), 1)
    for brick in rows:
        if brick.status == "due" and brick.control.rule == "hands-after-raw":
            soiled = brick.evidence.get("soiled", ())
            if soiled:
                return Call("due", _("%(who)s: wash now") % {"who": ", ".join(soiled)}, _("raw on their hands"), 2)
        if brick.status == "due" and brick.control.rule == "time-out" and (brick.remaining_s or 1e9) < 1800:
            return Call("due", _("Clear the table"), _("food has been out too long soon"), 2)
    for brick in rows:
        if brick.status == "missed":
            return Call(
                "missed",
                _missed_call(brick.control),
                _("%(name)s: no evidence") % {"name": control_name(brick.control)},
                3,
            )
    return None


def _breach_call(brick: Brick) -> Call:
    rule = brick.control.rule
    if rule == "fridge-cold":
        return Call("breach", _("Move the cold food"), _("fridge too warm"), 0)
    if rule in ("time-out", "raw-out-of-fridge", "chilled-in-time"):
        food = listed(brick.evidence.get("foods", ()) or brick.control.foods)
        return Call("breach", _("Throw the %(food)s away") % {"food": food}, _("out too long"), 0)
    return Call("breach", control_name(brick.control), _("breach"), 0)


def _missed_call(control: ControlPoint) -> str:
    texts = {
        "fridge-cold": _("Read the fridge"),
        "hands-on-arrival": _("All wash now"),
        "chilled-in-time": _("Probe the %(food)s") % {"food": listed(control.foods)},
        "hands-after-raw": _("All wash now"),
        "kit-after-raw": _("Clean the kit"),
        "clean-utensils": _("Change the %(kit)s") % {"kit": listed(control.carriers)},
        "core-temperature": _("Probe before eating"),
    }
    return texts.get(control.rule, control_name(control))


# --- bricks ----------------------------------------------------------------------------------------------


def status_name(status: str) -> str:
    """A brick's state in words."""
    names = {
        "todo": _("not yet"),
        "due": _("due"),
        "laid": _("laid"),
        "missed": _("missed"),
        "breach": _("breach"),
        "mended": _("mended"),
        "waived": _("waived"),
    }
    return names[status]


def brick_value(brick: Brick, unit: str) -> str:
    """The evidence, or the time left, in the few characters a brick has."""
    evidence = brick.evidence
    rule = brick.control.rule
    if brick.status in ("laid", "mended"):
        if evidence.get("core_c") is not None:
            return degrees(evidence["core_c"], unit, cold=rule != "core-temperature")
        if evidence.get("scrub_s") is not None:
            return duration(evidence["scrub_s"])
        if rule in ("raw-out-of-fridge", "time-out"):
            return duration(evidence.get("out_s", 0))
        return ""
    if brick.status == "due":
        if rule == "hands-on-arrival":
            return f"{evidence.get('washed', 0)}/{evidence.get('learners', 0)}"
        if rule == "core-temperature" and evidence.get("core_c") is not None and brick.remaining_s is None:
            return degrees(evidence["core_c"], unit)
    return ""


def brick_hint(brick: Brick, unit: str) -> str:
    """The limit that an empty brick waits for."""
    control = brick.control
    if control.limit is None:
        return ""
    return short_limit(control.limit, unit, at_most=control.rule != "core-temperature")


def brick_label(brick: Brick, unit: str) -> str:
    """A brick's name for a screen reader: "Hands, due, 50 seconds"."""
    parts = [control_name(brick.control), status_name(brick.status)]
    value = brick_value(brick, unit)
    if value:
        parts.append(value)
    elif brick.remaining_s is not None:
        parts.append(_("%(t)s left") % {"t": duration(brick.remaining_s)})
    return ", ".join(parts)


# --- verdicts ----------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class VerdictText:
    """A verdict as a sentence with the number in it, and what to do next."""

    state: str
    title: str
    then: str
    remaining_s: float | None = None


def verdict_text(verdict: CookVerdict, piece: str, unit: str) -> VerdictText:
    """The verdict on a cook in words."""
    limit = cook_text(verdict.limit, unit)
    which = f"{piece} {verdict.lowest_piece}"
    value = degrees(verdict.lowest_c, unit)
    missing = max(0, verdict.pieces_needed - verdict.pieces)
    if verdict.status == "not_measured":
        return VerdictText("todo", _("Not measured yet"), _("The limit is %(limit)s") % {"limit": limit})
    if verdict.status == "cannot_judge":
        return VerdictText("due", _("Cannot be judged by temperature"), limit)
    if verdict.status == "too_few":
        return VerdictText(
            "due",
            _("Not proven yet: %(n)s more to probe") % {"n": missing},
            _("Lowest so far: %(which)s, %(value)s") % {"which": which, "value": value},
        )
    if verdict.status == "below":
        return VerdictText(
            "due",
            _("Not yet: %(which)s is %(value)s") % {"which": which, "value": value},
            _("Clean the probe, keep cooking, then probe it again. Limit %(limit)s") % {"limit": limit},
        )
    if verdict.status == "hold":
        return VerdictText(
            "due",
            _("Hold it there"),
            _("Lowest: %(which)s, %(value)s. Then probe it once more") % {"which": which, "value": value},
            verdict.remaining_s,
        )
    if verdict.status == "rest":
        return VerdictText(
            "due",
            _("Rest it off the heat"),
            _("Lowest: %(which)s, %(value)s") % {"which": which, "value": value},
            verdict.remaining_s,
        )
    if verdict.status == "confirm":
        return VerdictText(
            "due",
            _("Time is up: probe %(which)s again") % {"which": which},
            _("Only a reading proves that it stayed hot"),
        )
    return VerdictText(
        "laid",
        _("Reached: lowest is %(which)s, %(value)s") % {"which": which, "value": value},
        _("Limit %(limit)s") % {"limit": limit},
    )


# --- hands ---------------------------------------------------------------------------------------------------


# A wash that was begun and never ended (a tablet that died) is forgotten after this long.
_WASH_FORGOTTEN_S = 150


def hands_of(state: State, learner: str, now_s: float) -> tuple[str, str]:
    """A learner's hands: a state for the picture, and the word that always stands beside it."""
    if learner in state.unwell:
        return "away", _("not handling food")
    if now_s - state.washing.get(learner, -math.inf) < _WASH_FORGOTTEN_S:
        return "dry", _("washing")
    soils = state.surfaces.get(learner, {})
    raw = sorted(name for name in soils if name.startswith("raw_"))
    if raw:
        source = soils[raw[0]].path[0]
        return "raw", _("raw %(food)s") % {"food": source}
    if "waste" in soils:
        return "raw", _("waste")
    if "person" in soils:
        return "bare", _("not washed")
    return "clean", _("clean")


# --- the log ---------------------------------------------------------------------------------------------------


def entry_sentence(kind: str, data: Mapping[str, Any], titles: Mapping[str, str], unit: str) -> str:
    """One entry of the log in words."""
    who = str(data.get("learner", ""))
    food = capital(str(data.get("food", "")))
    by = data.get("by") or []
    by = [by] if isinstance(by, str) else list(by)
    core = data.get("core_c")
    texts = {
        "ready": lambda: _("%(who)s is ready to handle food") % {"who": who},
        "unwell": lambda: _("%(who)s does not handle food today") % {"who": who},
        "wash_started": lambda: _("%(who)s starts washing hands") % {"who": who},
        "hands_washed": lambda: (
            _("%(who)s washed hands, %(s)s s of scrubbing") % {"who": who, "s": f"{float(data['scrub_s']):g}"}
        ),
        "touched": lambda: _("%(who)s touched: %(what)s") % {"who": who, "what": data.get("what")},
        "step_done": lambda: (
            titles.get(str(data.get("step")), str(data.get("step"))) + (f", {listed(by)}" if by else "")
        ),
        "cleaned": lambda: (
            (_("Cleaned and sanitised: %(t)s") if data.get("how") == "clean" else _("Only wiped or rinsed: %(t)s"))
            % {"t": listed(data.get("tools", []))}
        ),
        "swapped": lambda: _("Took clean ones: %(t)s") % {"t": listed(data.get("tools", []))},
        "fridge_read": lambda: _("Fridge reads %(t)s") % {"t": degrees(core, unit, cold=True)},
        "cold_read": lambda: _("%(food)s reads %(t)s") % {"food": food, "t": degrees(core, unit, cold=True)},
        "core_read": lambda: (
            _("%(food)s, piece %(p)s: %(t)s in the middle")
            % {"food": food, "p": data.get("piece"), "t": degrees(core, unit)}
        ),
        "on_heat": lambda: (
            _("On the heat: %(step)s") % {"step": titles.get(str(data.get("step")), str(data.get("step")))}
        ),
        "off_heat": lambda: _("%(food)s off the heat") % {"food": food},
        "ambient_read": lambda: _("The room is at %(t)s") % {"t": degrees(data.get("ambient_c"), unit, cold=True)},
        "stored": lambda: _("%(food)s into the %(place)s") % {"food": food, "place": data.get("place")},
        "gone": lambda: (
            _("%(food)s thrown away") % {"food": food}
            if data.get("how") == "discarded"
            else _("%(food)s all eaten") % {"food": food}
        ),
        "remade": lambda: _("%(food)s thrown away, to be made again") % {"food": food},
        "cooked_again": lambda: _("%(food)s back on the heat") % {"food": food},
        "waived": lambda: _("Waived by the educator: %(r)s") % {"r": data.get("reason")},
        "called": lambda: _("The bench called the educator"),
        "answered": lambda: _("The educator answered"),
        "voided": lambda: _("An earlier entry was voided: %(r)s") % {"r": data.get("reason")},
    }
    return texts[kind]() if kind in texts else kind


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
        "not-for-freezer": _("Freezing spoils it"),
        "not-for-fridge": _("Not kept in a fridge"),
        "verify-locally": _("This figure varies between editions: verify locally"),
        "frozen-time-pauses": _("Freezing paused the fridge clock; it did not reset it"),
        "no-refreezing": _("Thawed food is not frozen again"),
    }
    return texts.get(rule, rule)


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

"""Sentences for findings, control points, bricks and log entries, keyed by rule id.

Numbers are never rounded towards safe: a hot reading is cut down, a cold one is cut up.
"""

from collections.abc import Sequence

from django.utils.translation import gettext as _

from bulwark.presentation.phrases import (
    capital,
    degrees,
    duration,
    listed,
    short_limit,
    soil_name,
)
from foodsafety.contamination import Finding
from foodsafety.foods import is_raw
from foodsafety.lesson import Brick, ControlPoint, Phase, Plan, State

# --- names ---------------------------------------------------------------------------------------


def not_known_heading() -> str:
    """Over the questions that nobody has answered."""
    return _("Not known: nothing here is called safe until it is answered")


def kept_heading() -> str:
    """Over the findings that somebody answered for."""
    return _("Findings that stay")


def watched_names() -> dict[str, str]:
    """What an adult looks at who stands by."""
    return {
        "hands": _("hand-wash"),
        "board": _("boards"),
        "grip": _("knife grip"),
        "probe": _("probe"),
        "spoon": _("tasting spoon"),
        "cough": _("coughs and sneezes"),
        "hair": _("hair and sleeves"),
        "towel": _("towels"),
        "reheat": _("reheating"),
    }


def why_paused() -> dict[str, str]:
    """Why a lesson stops."""
    return {
        "fire": _("Fire alarm or drill"),
        "injury": _("Somebody is hurt"),
        "power": _("The power is off"),
        "other": _("Something else"),
    }


def hurt_kinds() -> dict[str, str]:
    """How somebody was hurt."""
    return {
        "cut": _("Cut"),
        "burn": _("Burn or scald"),
        "fall": _("Slip or fall"),
        "other": _("Something else"),
    }


def hurt_care() -> dict[str, str]:
    """What was done for whoever was hurt, and for the food."""
    return {
        "cooled": _("Cooled under running water for 20 minutes"),
        "rinsed": _("Rinsed and pressed until it stopped"),
        "plaster": _("Waterproof plaster on, one that is seen in food"),
        "glove": _("Glove over it"),
        "kit": _("Knife, board and worktop cleaned and sanitized"),
        "first_aider": _("First-aider called"),
        "home": _("Somebody at home was told"),
    }


def first_aid(what: str) -> str:
    """What is said first."""
    lines = {
        "cut": _("Press on it. Rinse, plaster, glove. Whatever blood may have touched is thrown away, kit is cleaned."),
        "burn": _("Cool running water for 20 minutes, at once; nothing else on it. What was in the hands can wait."),
        "fall": _("Nobody moves them who need not. Dry the floor, then go on."),
        "other": _("Look after the person first."),
    }
    return f"{lines[what]} {_('Your first-aider decides, or the emergency number.')}"


def half_title(title: str, n: int) -> str:
    """A lesson of a recipe that is cooked over two."""
    return _("%(title)s, lesson %(n)d of 2") % {"title": title[:140], "n": n}


def take_out(kept: str, place: str) -> str:
    """The step with which the second of two lessons begins."""
    texts = {"freezer": _("Take %(food)s out of the freezer"), "fridge": _("Take %(food)s out of the fridge")}
    return texts[place] % {"food": kept}


def wash_before_leaving() -> str:
    """The last step of the first of two lessons, after raw food."""
    return _("Wash hands before leaving")


def half_note(n: int, kept: str, place: str) -> str:
    """What a half begins or ends with."""
    if n == 1:
        texts = {
            "freezer": _("The first of two lessons: it ends with %(food)s in the freezer, and nothing is eaten."),
            "fridge": _("The first of two lessons: it ends with %(food)s in the fridge, and nothing is eaten."),
        }
        return texts[place] % {"food": kept}
    return _("The second of two lessons: it begins with %(food)s from the first.") % {"food": kept}


def kept_at(bench: str, food: str, until: str) -> str:
    """What the first of two lessons has put away for the second."""
    return _("%(bench)s: %(food)s keeps until %(until)s.") % {"bench": bench, "food": food, "until": until}


def kept_too_short(bench: str, food: str, until: str) -> str:
    """What keeps for less time than until the second lesson has ended."""
    return _(
        "%(bench)s: %(food)s keeps only until %(until)s, and this lesson ends later: move it, or throw that away."
    ) % {
        "bench": bench,
        "food": food,
        "until": until,
    }


def not_kept(bench: str, food: str) -> str:
    """Of what nobody has said that it was put away."""
    return _("%(bench)s: nobody has said that %(food)s was put away cold. Without that it is not used.") % {
        "bench": bench,
        "food": food,
    }


def kept_thrown_away(bench: str, food: str) -> str:
    """Of what may not be used any more."""
    return _("%(bench)s: %(food)s of the first lesson must be thrown away, and is not used.") % {
        "bench": bench,
        "food": food,
    }


def first_half_not_over() -> str:
    """Of a second lesson whose first has not ended yet."""
    return _("The first lesson is not over: what it keeps is not known yet.")


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
    names = list(dict.fromkeys(_without_number(name).split()[-1] for name in carriers))
    if len(names) <= 3:
        return capital(", ".join(names))
    return _("%(some)s and %(n)s more") % {"some": capital(", ".join(names[:2])), "n": len(names) - 2}


def _without_number(name: str) -> str:
    """ "Bowl 2" is a bowl."""
    return name.rstrip("0123456789 ") or name


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


def group_moved_on(rows: Sequence[str]) -> str:
    """Who eats and was named only after the lesson was made."""
    return _("The group has changed since: no dish of this lesson is checked for %(who)s.") % {"who": listed(rows)}


def teach(rule: str) -> str:
    """What to teach next, as a heading; the rule's own words where we have none."""
    texts = {
        "ready-to-eat-meets-raw": _("Wash and change kit before what is eaten as it is"),
        "unwashed-hands": _("Wash hands after raw food, every time"),
        "gloves-not-changed": _("Gloves that met raw food come off"),
        "cooked-meets-raw": _("Clean tools and plates for cooked food"),
        "ready-to-eat-meets-unwashed": _("Unwashed produce is not clean yet"),
        "probe-not-cleaned": _("Clean the probe between readings"),
        "core-temperature": _("Probe the thickest part of each piece"),
        "allergen-contact": _("Keep the allergen apart, kit and hands too"),
        "no-kill-step": _("Nothing raw is served raw"),
        "produce-not-rinsed": _("Rinse what is eaten raw"),
        "raw-meat-rinsed": _("Raw meat is not rinsed"),
        "raw-tasted": _("Dough and batter are not tasted"),
        "hands-on-arrival": _("Hands first, before anything else"),
        "hands-after-raw": _("Hands again after raw food"),
        "kit-after-raw": _("Board and bowl washed after raw food"),
        "ready-to-eat-clean": _("Clean hands and kit for what is ready"),
        "clean-utensils": _("Clean tongs for what is cooked"),
        "raw-kept-apart": _("Raw food apart from ready food"),
        "raw-out-of-fridge": _("Raw food out of the fridge last"),
        "part-cooked": _("Part-cooked food goes on at once"),
        "chilled-in-time": _("Cold food is measured cold"),
        "fridge-cold": _("Look at the fridge first"),
        "time-out": _("How long food stands out"),
        "leftovers-labelled": _("A label before it goes in"),
        "served-not-measured": _("Nothing is served before it is measured"),
        "served-below-limit": _("The lowest piece counts"),
        "allergen-inside": _("Ask who may not eat it"),
        "board-not-separate": _("A board for raw, another for ready"),
        "bare-hands-on-ready-to-eat": _("Gloves on what gets no more heat"),
        "measuring": _("Measures"),
        "burns-and-fire": _("Burns and fire"),
    }
    return texts.get(rule, capital(rule.replace("-", " ")))


def allergic_here(learner: str, bench: str, tags: Sequence[str]) -> str:
    """Somebody comes to a bench that cooks what they are allergic to; "" where it does not."""
    if not tags:
        return ""
    told = {"who": learner, "bench": bench, "tags": listed(tags)}
    return _("%(who)s is allergic to what %(bench)s cooks: %(tags)s. They do not handle or eat it; you decide.") % told


def slip_name(slip: str) -> str:
    """A slip that can be planted in a rehearsal."""
    return {
        "no_wash_on_arrival": _("one does not wash on arrival"),
        "short_wash": _("a hand-wash of six seconds"),
        "no_wash_after_raw": _("no hand-wash after raw food"),
        "salad_by_raw_hands": _("raw hands on what is eaten as it is"),
        "kit_not_cleaned": _("kit not cleaned after raw food"),
        "kit_only_wiped": _("kit only wiped after raw food"),
        "fridge_not_read": _("the fridge is not looked at"),
        "fridge_warm": _("a warm fridge"),
        "not_measured": _("nothing is probed"),
        "one_piece_measured": _("only one piece is probed"),
        "probe_not_cleaned": _("the probe is not cleaned between two pieces"),
        "too_low_and_served": _("too low, and served"),
        "cold_not_measured": _("cold food is not measured"),
        "cold_too_warm": _("cold food too warm"),
        "raw_left_out": _("raw food left out for hours"),
        "left_standing": _("food left standing for hours"),
        "nothing_put_away": _("nothing is put away"),
        "part_cooked_left": _("part-cooked food is left"),
        "cough": _("a cough before the salad"),
        "phone": _("a telephone before the salad"),
        "hair_touched": _("hair touched before the salad"),
        "bin_touched": _("the bin touched before the salad"),
        "apron_off": _("no apron"),
        "hair_loose": _("hair not tied back"),
        "ring_on": _("jewellery on"),
        "cut_uncovered": _("a cut not covered"),
        "ill_and_at_work": _("somebody ill goes on"),
        "not_rinsed": _("produce not rinsed"),
        "done_too_early": _("done far too early"),
    }[slip]


def crew_name(crew: str) -> str:
    """How a rehearsed crew works."""
    return {
        "steady": _("as planned"),
        "slow": _("slow"),
        "silent": _("logs nothing after the beginning"),
        "offline": _("ten minutes without a network"),
    }[crew]


def no_place_for_slip(names: Sequence[str]) -> str:
    """Benches for which a slip was chosen that cannot happen there."""
    told = {"benches": listed(names)}
    return _("The slip chosen for %(benches)s has no place in this lesson, or not so late: choose another.") % told


def hands_name(learner: str) -> str:
    """A learner's hands as a carrier."""
    return _("%(name)s's hands") % {"name": learner}


def ended_by() -> dict[str, str]:
    """What ended that something carried a soil, by the kind of its entry."""
    return {
        "hands_washed": _("washed"),
        "cleaned": _("washed"),
        "swapped": _("changed"),
        "rinsed": _("rinsed"),
        "core_read": _("proven"),
        "remade": _("made again"),
        "gone": _("thrown away"),
        "step_done": _("cooked"),
        "joined": _("mixed in"),
    }


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


def source_name(finding: Finding) -> str:
    """What a soil came from, as a cook would say it: "raw turkey" rather than "raw poultry"."""
    if is_raw(finding.soil) and finding.path:
        return _("raw %(food)s") % {"food": finding.path[0]}
    return soil_name(finding.soil)


# --- bricks ----------------------------------------------------------------------------------------------


def reading_in_doubt(value: str, unit: str) -> str:
    """A reading typed at the front that looks like the wrong unit."""
    return _("%(value)s °%(unit)s looks wrong. Check the unit; tick “It really is” to keep it.") % {
        "value": value,
        "unit": unit,
    }


def why_waived(state: State, control: str) -> str:
    """Why a control point is left open: the educator's reason, or that its food is not made."""
    return _("not made") if control in state.dropped else state.waived.get(control, "")


def status_name(status: str) -> str:
    """A brick's state in words."""
    names = {
        "todo": _("not yet"),
        "due": _("due"),
        "laid": _("laid"),
        "missed": _("missed"),
        "not_done": _("not done"),
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


def tablet(number: int) -> str:
    """A device by its number at its bench."""
    return _("tablet %(n)s") % {"n": number}


def recorded_by(label: str) -> str:
    """Who made an entry, from how the log names them: the educator, a bench, one tablet of it."""
    kind, _sep, which = label.partition(":")
    if kind == "educator":
        return _("educator")
    if kind == "program":
        return _("told by another bench")
    if kind == "stand_in":
        return _("stand-in %(n)s") % {"n": which}
    return tablet(int(which)) if which.isdecimal() else _("bench")


def device_says(*, away: bool, silent_s: float | None, waiting: int) -> str:
    """Whether a device is there, and what waits on it."""
    if away:
        return _("sent away")
    if silent_s is not None:
        return _("silent for %(ago)s") % {"ago": duration(silent_s)}
    return _("%(n)s waiting on it") % {"n": waiting} if waiting else _("there")


def device_in_doubt(bench: str, name: str, says: str) -> str:
    """A device from which something may still come."""
    return _("%(bench)s, %(tablet)s: %(why)s") % {"bench": bench, "tablet": name, "why": says}


def after_the_end() -> str:
    """An entry that came after the lesson had ended."""
    return _("came after the lesson had ended")


def lesson_refusal(code: str) -> str:
    """Why something cannot be done with a lesson now."""
    texts = {
        "begun": _("The lesson has begun: it keeps the limits it began with."),
        "closed": _("This lesson is over."),
        "not_open": _("This lesson has not been started."),
        "at_two_benches": _("They stand at another bench of this lesson: let them go from there first."),
        "sent_away": _("This tablet was sent away from the bench."),
        "is_half": _("The recipe is cooked over two lessons already."),
        "no_stop": _("The recipe cannot be stopped there safely any more. Take the split back on the plan board."),
        "long_over": _("This lesson ended more than a day ago: make a new one."),
    }
    return texts[code]

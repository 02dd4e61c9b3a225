"""What is said aloud: findings, corrections, and the one call a bench needs most."""

from dataclasses import dataclass

from django.utils.translation import gettext as _

from bulwark.lessons.wording import control_name, source_name, watched_names
from bulwark.presentation.phrases import (
    capital,
    duration,
    listed,
    minutes,
    oven_heat,
    soil_name,
    verb,
)
from foodsafety.contamination import Finding
from foodsafety.lesson import Brick, ControlPoint, Correction, Incident, Noted, State, step_clocks

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
        "gloves-not-changed": _("%(food)s touched with gloves that met raw") % {"food": capital(finding.food)},
        "probe-not-cleaned": _("The probe carried raw into cooked %(food)s") % {"food": finding.food},
        "served-not-measured": _("%(food)s served and never measured") % {"food": capital(finding.food)},
        "served-below-limit": _("%(food)s served below the limit") % {"food": capital(finding.food)},
        "allergen-contact": _("%(soil)s in the %(food)s") % {"soil": capital(finding.soil), "food": finding.food},
        "ready-to-eat-meets-unwashed": _("Unwashed produce, then the %(food)s: wash in between")
        % {"food": finding.food},
        "no-kill-step": _("%(food)s served raw") % {"food": capital(finding.food)},
        "produce-not-rinsed": _("%(food)s served unrinsed") % {"food": capital(finding.food)},
        "raw-meat-rinsed": _("%(food)s rinsed raw: it splashes") % {"food": capital(finding.food)},
        "raw-tasted": _("%(food)s tasted raw") % {"food": capital(finding.food)},
        "allergen-inside": _("%(soil)s is in the %(food)s") % {"soil": capital(finding.soil), "food": finding.food},
        "done-early": _early_text(finding, state),
        "oven-at-other-heat": _other_heat(finding, state),
        **_noted_texts(finding),
    }
    return texts.get(finding.rule, finding.rule.replace("-", " "))


def _early_text(finding: Finding, state: State) -> str:
    """A step that was done long before the time its recipe gives."""
    done = next((step.do for step in state.plan.process.steps if step.id == finding.step), "")
    gone, least = finding.evidence.get("gone_s", 0.0), finding.evidence.get("least_s", 0.0)
    text = _("%(verb)s: done after %(gone)s; the recipe gives it %(least)s")
    return text % {"verb": capital(verb(done)), "gone": duration(gone), "least": minutes(least / 60)}


def seen_wrong() -> dict[str, str]:
    """What was seen to go wrong, and what is to be done now."""
    return {
        "hands": _("the hand-wash was seen to go wrong: wash again"),
        "board": _("raw and ready on one board: wash it, or take another"),
        "grip": _("fingers under the knife: show the claw grip"),
        "probe": _("the probe is not in the thickest part: again"),
        "spoon": _("tasted and stirred with one spoon: a new spoon"),
        "cough": _("coughed or sneezed over food: wash, and look what it fell on"),
        "hair": _("hair or sleeves loose: tie them back, then wash"),
        "towel": _("the wrong towel: one for hands, another for dishes"),
        "reheat": _("only warmed: heat it on until it is hot right through, and measure"),
    }


def _noted_texts(finding: Finding) -> dict[str, str]:
    """What is no breach and must be seen all the same."""
    evidence, who = finding.evidence, listed(finding.path)
    return {
        "wash-too-short": _("%(who)s washed %(s)s s of %(limit)s s: it does not count, wash again")
        % {"who": who, "s": f"{evidence.get('scrub_s', 0):g}", "limit": f"{evidence.get('limit_s', 0):g}"},
        "wiped-not-cleaned": _("%(kit)s only wiped or rinsed: that does not clean") % {"kit": capital(who)},
        "entry-not-understood": _("An entry could not be read (%(kind)s): it counts for nothing")
        % {"kind": evidence.get("kind", "")},
        "doer-not-at-this-bench": _("%(who)s is not at this bench: hands taken as unwashed") % {"who": who},
        "wash-step-without-wash": _("%(who)s did not wash at the washing step") % {"who": who},
        "doer-not-named": _("Nobody said who did it: everybody's hands are taken to have been in it"),
        "reading-proves-nothing": _("A reading of %(food)s proves nothing: no limit is known for it")
        % {"food": finding.food},
        "fewer-pieces": _("%(food)s: only %(n)s in all, the bench says; every one is measured")
        % {"food": capital(finding.food), "n": evidence.get("pieces", "")},
        "seen-proves-nothing": _("What was seen of %(food)s is kept and proves nothing") % {"food": finding.food},
        "board-not-separate": _("%(board)s used for raw and for the %(food)s: this kitchen keeps boards apart")
        % {"board": capital(finding.path[1] if len(finding.path) > 1 else ""), "food": finding.food},
        "bare-hands-on-ready-to-eat": _("%(who)s: bare hands on the %(food)s, this kitchen wears gloves")
        % {"who": finding.path[0] if finding.path else "", "food": finding.food},
        "seen-wrong": _("%(who)s: %(what)s") % {"who": who, "what": seen_wrong().get(str(evidence.get("what")), "")},
        "no-such-part": _("%(food)s: there is not so much of it, or it is gone already")
        % {"food": capital(finding.food)},
        "eaten-though-over": _("%(food)s was eaten, and it was over") % {"food": capital(finding.food)},
        "used-though-over": _("%(food)s was used again, and it was over") % {"food": capital(finding.food)},
        "sent_home-though-over": _("%(food)s was taken home, and it was over") % {"food": capital(finding.food)},
        "begun-already": _("%(food)s was to be left out and had been begun: it stays")
        % {"food": capital(finding.food)},
        "shared-kit-soiled": _("%(soil)s on the shared %(tool)s, from %(bench)s: wash it before you use it")
        % {
            "soil": capital(soil_name(finding.soil)),
            "tool": "".join(finding.path[1:]),
            "bench": "".join(finding.path[:1]),
        },
        "watch-taken-back": _("%(who)s: what was said of them was taken back, %(what)s")
        % {"who": who, "what": watched_names().get(str(evidence.get("what")), "")},
        "no-heat-for-this-food": _("%(food)s has no heat step to go back to") % {"food": capital(finding.food)},
    }


def _other_heat(finding: Finding, state: State) -> str:
    """Two dishes in one oven at two heats; which of them it is at, nobody has said."""
    evidence, (bench, oven) = finding.evidence, (*finding.path, "", "")[:2]
    text = _("%(oven)s: %(theirs)s of %(bench)s in it at %(at)s, %(food)s at %(wanted)s. Agree before anybody turns it")
    return text % {
        "oven": capital(oven),
        "theirs": evidence.get("theirs", ""),
        "bench": bench,
        "at": oven_heat(evidence.get("oven_c"), state.plan.profile.unit),
        "food": finding.food,
        "wanted": oven_heat(evidence.get("wanted_c"), state.plan.profile.unit),
    }


# Notes that stand until the person concerned has washed.
_UNTIL_WASHED = ("wash-too-short", "wash-step-without-wash")
_NOTE_STANDS_S = 600.0


def notes(state: State) -> list[tuple[float, str]]:
    """Everything noted that is no breach: when [s], and in words, oldest first."""
    return [(row.at_s, finding_title(row.finding, state)) for row in state.noted]


def fresh_notes(state: State, now_s: float) -> list[str]:
    """What was noted lately and still stands, newest first: for the bench and the wall."""
    rows = [row for row in state.noted if now_s - row.at_s < _NOTE_STANDS_S and not _settled(state, row)]
    return list(dict.fromkeys(finding_title(row.finding, state) for row in reversed(rows)))


def _settled(state: State, row: Noted) -> bool:
    """True once they have washed where that was the matter, or were seen to do right what was seen to go wrong."""
    rule, what = row.finding.rule, str(row.finding.evidence.get("what"))
    if rule == "seen-wrong":
        later = [state.watched.get((what, name)) for name in row.finding.path]
        if all(seen is not None and seen.seen == "right" and seen.at_s > row.at_s for seen in later):
            return True
    if rule == "shared-kit-soiled":
        return all(state.cleaned.get(name, 0.0) >= row.at_s for name in row.finding.path[1:])
    if rule not in _UNTIL_WASHED and (rule, what) != ("seen-wrong", "hands"):
        return False
    washes = [state.person(name).washed for name in row.finding.path]
    return all(wash is not None and wash.at_s > row.at_s for wash in washes)


def correction(finding: Finding, state: State) -> str:
    """What to do about a breach, as an order that can be said aloud."""
    if finding.rule in ("served-not-measured", "served-below-limit"):
        return _("Back on the heat, and probe")
    if finding.rule in ("no-kill-step", "produce-not-rinsed", "raw-meat-rinsed", "raw-tasted", "allergen-inside"):
        return _("Do not serve the %(food)s") % {"food": finding.food}
    if finding.rule in ("cooked-meets-raw", "probe-not-cleaned"):
        return (
            _("Throw the %(food)s away") % {"food": finding.food}
            if finding.rule == "cooked-meets-raw"
            else _("Clean the probe, cook on")
        )
    return _("Remake the %(food)s") % {"food": finding.food}


def correction_line(row: Correction) -> str:
    """One thing that may be done about a breach, as an order."""
    texts = {
        "measure": _("Measure the %(food)s"),
        "rest": _("Let the %(food)s rest to its end"),
        "cook_on": _("The %(food)s back on the heat, then measure"),
        "wash": _("Wash hands: %(who)s"),
        "clean": _("Clean or change: %(tools)s"),
        "remake": _("Throw the %(food)s away and make it again"),
        "chill": _("The %(food)s into the cold, then measure"),
        "serve_now": _("Serve the %(food)s at once; it never goes back into the fridge"),
        "label": _("Name, date and place for the %(food)s"),
        "discard": _("Throw the %(food)s away"),
        "ask": _("Ask the educator"),
    }
    return texts[row.do] % {"food": row.food, "who": listed(row.who), "tools": listed(row.tools)}


def why_discarded() -> dict[str, str]:
    """Why something is thrown away off a shelf."""
    return {
        "over": _("its time was over"),
        "spoiled": _("it had spoiled"),
        "store_failed": _("its store had failed"),
        "recall": _("it was recalled"),
        "not_needed": _("nobody needed it"),
    }


def wasted_for(rule: str, how: str) -> str:
    """Why food was thrown away: for a breach, to be made again, or as what was left."""
    texts = {
        **{f"shelf-{name}": text for name, text in why_discarded().items()},
        "served-not-measured": _("never shown to be cooked"),
        "served-below-limit": _("below the limit"),
        "ready-to-eat-meets-raw": _("raw food had met it"),
        "cooked-meets-raw": _("raw food had met it"),
        "unwashed-hands": _("unwashed hands"),
        "gloves-not-changed": _("gloves that met raw food"),
        "ready-to-eat-meets-unwashed": _("unwashed produce had met it"),
        "probe-not-cleaned": _("a probe that was not clean"),
        "allergen-contact": _("an allergen had met it"),
        "no-kill-step": _("it would have been served raw"),
        "raw-tasted": _("it was tasted raw"),
        "produce-not-rinsed": _("its produce was not rinsed"),
        "raw-meat-rinsed": _("raw meat was rinsed beside it"),
        "allergen-inside": _("an allergen is in it"),
    }
    if rule:
        return texts.get(rule, rule.replace("-", " "))
    return _("made again") if how == "remade" else _("left over, or not said why")


def never_proven(food: str) -> str:
    """Why a food that was never shown to be cooked cannot be kept."""
    return _("%(food)s: never shown to be cooked") % {"food": capital(food)}


def mended_line(incident: Incident) -> str:
    """How a breach was put right, and by whom where somebody has said so."""
    done = action_done(incident.action)
    return _("%(done)s by %(who)s") % {"done": done, "who": incident.mended_by} if incident.mended_by else done


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
    """Something to say aloud to a bench: who, then a verb. Ranked by harm, then by how long it has waited [s]."""

    state: str
    text: str
    why: str
    rank: int
    waits_s: float = 0.0


def bench_call(
    state: State, rows: tuple[Brick, ...], now_s: float, *, ended: bool = False, behind: Call | None = None
) -> Call | None:
    """The one most pressing thing to say to a bench, or None; no timer is called out once the lesson has ended.
    ``behind``: what is to be said of its plan: last, after every check."""
    for incident in state.alarms:
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
    forgotten = None if ended else _forgotten_timer(state, now_s)
    if forgotten:
        return forgotten
    fresh = fresh_notes(state, now_s)
    if fresh:
        return Call("due", _("Look at this"), fresh[0], 2)
    for brick in rows:
        if brick.status == "missed":
            return Call(
                "missed",
                _missed_call(brick.control),
                _("%(name)s: no evidence") % {"name": control_name(brick.control)},
                3,
            )
    return behind


def way_back(do: str, of: str, bench: str) -> tuple[str, str]:
    """Something that ends a lesson sooner for a bench that is behind, as an order, and what it asks for."""
    told = {"of": capital(of) if do == "not_made" else of, "bench": bench}
    texts = {
        "later": (_("Serve them later"), _("It still ends within the period. The plan goes on from where they are.")),
        "help": (_("%(of)s from %(bench)s helps"), _("With what is on their hands; they wash on arrival.")),
        "kit_later": (
            _("Their washing-up after the lesson"),
            _("Somebody does it then; kit that met raw food waits apart."),
        ),
        "adult": (_("An adult helps them"), _("With washed hands like everybody, until the end.")),
        "eat": (
            _("Eat after the lesson"),
            _("For all benches. What is made goes home or to the next meal: its note says until when."),
        ),
        "not_made": (
            _("Leave out: %(of)s"),
            _("Nothing of it has been begun. Its control points are waived and never count as laid."),
        ),
    }
    name, why = texts[do]
    return name % told, why


# Said after every check, the one of which nothing is heard first.
_OF_THE_PLAN = 4


def behind_call(title: str, late_s: float) -> Call:
    """A bench is so far behind with a step."""
    why = _("%(step)s: %(time)s behind the plan") % {"step": title, "time": minutes(late_s // 60)}
    return Call("due", _("Help them catch up"), why, _OF_THE_PLAN, late_s)


def silent_call(silent_s: float) -> Call:
    """Nothing is heard of a bench: that is no sign that all is well."""
    why = _("nothing entered for %(time)s") % {"time": minutes(silent_s // 60)}
    return Call("due", _("Ask how far they are"), why, _OF_THE_PLAN, silent_s)


def too_late_call(over_s: float) -> Call:
    """A bench was helped, and the plan from here on still ends after the period."""
    why = _("even so it ends %(time)s after the period") % {"time": minutes(-(-over_s // 60))}
    return Call("due", _("Help them catch up"), why, _OF_THE_PLAN)


# A timer that rings so long [s] and that nobody answers is called out.
_RINGS_UNANSWERED_S = 60.0


def _forgotten_timer(state: State, now_s: float) -> Call | None:
    """A timer that rings and that nobody answers, or a step whose longest time is over: forgotten food burns, or stands
    warm."""
    for _id, timer in state.running[:1]:
        if now_s - timer.rings_s >= _RINGS_UNANSWERED_S:
            since = _("rings for %(time)s, and nobody answers") % {"time": duration(now_s - timer.rings_s)}
            return Call("due", _("Look to the %(name)s") % {"name": timer.name}, since, 2)
    for clock in step_clocks(state):
        if now_s - clock.over_s >= _RINGS_UNANSWERED_S:
            since = _("its longest time is over for %(time)s") % {"time": duration(now_s - clock.over_s)}
            return Call("due", _("Look to the %(name)s") % {"name": clock.name}, since, 2)
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

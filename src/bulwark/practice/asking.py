"""What a puzzle asks."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from bulwark.flow.wording import finding_title
from bulwark.lessons.wording import source_name
from bulwark.presentation.phrases import capital, degrees, duration, limit_degrees, listed, minutes, moment, verb
from foodsafety.contamination import Finding
from foodsafety.practice import Puzzle
from foodsafety.quantities import Temperature


@dataclass(frozen=True, slots=True, kw_only=True)
class Asking:
    """A puzzle as it is worded: with the titles of the recipe's steps, in a unit of temperature."""

    puzzle: Puzzle
    titles: Mapping[str, str]
    unit: str

    @property
    def asks(self) -> Mapping[str, Any]:
        """The facts of the question."""
        return self.puzzle.asks

    @property
    def why(self) -> Mapping[str, Any]:
        """The facts of the explanation."""
        return self.puzzle.why

    @property
    def finding(self) -> Finding:
        """What goes wrong, where something does; what goes wrong first, where it is several things."""
        return finding_of(self.asks["finding"])

    def step(self, step_id: str) -> str:
        """A step by its title; one that the slip has changed, or that is no step of the recipe, by what is done in it:
        its title would tell what was meant."""
        row = next((step for step in self.asks.get("steps", ()) if step["id"] == step_id), None)
        slips = (self.why, *self.why.get("also", ()))
        changed = any(o.get("step") == step_id and o.get("change") in ("same-kit", "only-wiped") for o in slips)
        if row is None or (self.titles.get(step_id) and not changed):
            return self.titles.get(step_id) or step_id
        return _as_done(row)

    def number(self, step_id: str) -> int:
        """A step's number in the drawing, from 1; 0 where it has none."""
        return next((n for n, row in enumerate(self.asks["steps"], start=1) if row["id"] == step_id), 0)

    def limit(self, value: float, unit: str, *, at_most: bool = False) -> str:
        """A limit in this unit."""
        return limit_degrees(Temperature(value=value, unit="F" if unit == "F" else "C"), self.unit, at_most=at_most)


def finding_of(row: Mapping[str, Any]) -> Finding:
    """A finding from what a puzzle says of it."""
    return Finding(
        rule=row["rule"],
        step=row["step"],
        soil=row["soil"],
        food=row["food"],
        path=tuple(row["path"]),
        at=tuple(row["at"]),
    )


def _as_done(row: Mapping[str, Any]) -> str:
    """A step in the words of what is done in it."""
    told = {"foods": listed(row["foods"]), "tools": listed(row["tools"])}
    if "mouth" in row["tools"]:
        return _("Taste the %(foods)s") % told
    if row["do"] == "wipe":
        return _("Wipe with the cloth: %(tools)s") % told
    done = capital(f"{verb(row['do'])} {told['foods'] or told['tools']}")
    return _("%(done)s, with %(tools)s") % {"done": done, **told} if row["foods"] and row["tools"] else done


def used_in(row: Mapping[str, Any]) -> str:
    """What a step is done on and with."""
    hands = [_("hands")] if row["hands"] else []
    return listed([*row["foods"], *row["tools"], *hands])


def kind_name(kind: str) -> str:
    """A kind of puzzle."""
    return {
        "limit": _("the limit"),
        "by-when": _("by when"),
        "find-slip": _("find the slip"),
        "contact": _("which contact"),
        "order": _("the best order"),
        "fewest-washes": _("the fewest washes"),
        "clean-again": _("clean again"),
        "tip": _("where the tip goes"),
        "display": _("read the display"),
        "done": _("is it done"),
        "stand": _("how long it may stand"),
        "cold-in-time": _("cold in time"),
        "shelf": _("which shelf"),
        "until": _("until when"),
        "next": _("what next"),
        "not-for": _("who may not eat it"),
        "part-of": _("a part of it"),
        "tool": _("which tool"),
        "hob": _("around the hob"),
    }[kind]


def kinds_of_record() -> dict[str, tuple[str, str]]:
    """What holds names, and what becomes of it when they go."""
    return {
        "lessons": (_("Records of lessons"), _("initials become P1, P2; what somebody wrote is removed")),
        "answers": (_("Answers to questions"), _("they stay, and are nobody’s")),
        "hurts": (_("Who was hurt"), _("who it was and what was written go; what was done stays")),
        "certificates": (_("Certificates"), _("they go whole, and their codes with them")),
        "brought": (
            _("Records from elsewhere"),
            _("they go whole: ask their makers first for another"),
        ),
    }


# --- the question -----------------------------------------------------------------------------------------


def question(row: Asking) -> str:
    """What is asked, in one sentence."""
    return _QUESTIONS[row.puzzle.kind](row)


def what_of(found: Finding) -> str:
    """What gets through, as a cook would say it."""
    return _("what hands and mouths carry") if found.soil == "person" else source_name(found)


def _slip(row: Asking) -> str:
    found = row.finding
    if row.asks.get("slips", 1) > 1:
        slips = {2: _("Two things"), 3: _("Three things")}[row.asks["slips"]]
        return _("%(slips)s were done wrong here. At which step is harm first done?") % {"slips": slips}
    told = {"what": what_of(found), "food": found.food}
    by_rule = {
        "no-kill-step": _("Something was left out. At which step would somebody eat raw %(food)s?") % told,
        "produce-not-rinsed": _("Something was left out. At which step is that eaten?"),
        "raw-meat-rinsed": _("At which step does raw food get onto things nobody touches?"),
        "raw-tasted": _("At which step does somebody eat something raw?"),
    }
    return by_rule.get(found.rule) or _("Where does %(what)s first get through to the %(food)s?") % told


def _contact(row: Asking) -> str:
    told = {"step": row.step(row.finding.step), "what": what_of(row.finding), "food": row.finding.food}
    return _("“%(step)s”: what has %(what)s on it, and passes it to the %(food)s?") % told


def _foods(row: Asking) -> str:
    return listed([food["food"] for food in row.asks["foods"]])


def _done(row: Asking) -> str:
    return _("%(food)s on the heat, just measured. What next?") % {"food": capital(row.asks["food"])}


def _display(row: Asking) -> str:
    told = {"ice": degrees(row.asks["ice_c"], row.unit), "food": row.asks["food"]}
    return _("In melting ice this thermometer shows %(ice)s. How warm is it in the %(food)s?") % told


def _stand(row: Asking) -> str:
    trips = [minutes(n) for n in row.asks["trips_min"]]
    told = {"food": capital(row.asks["food"]), "out": listed(trips), "air": degrees(row.asks["ambient_c"], row.unit)}
    where = _("%(food)s, neither cold nor hot for %(out)s so far, and it is %(air)s here.") % told
    return f"{where} {_('How long may it stand still, and go into the fridge after?')}"


def _cold(row: Asking) -> str:
    food = row.asks["food"] or _("hot food")
    told = {"l": f"{row.asks['litres']:g}", "food": food, "c": degrees(row.asks["start_c"], row.unit)}
    return _("%(l)s litres of %(food)s at %(c)s. Which way is it cold in time?") % told


def _order(row: Asking) -> str:
    return _("One board, one knife: %(foods)s. Which order needs the fewest washes?") % {"foods": _foods(row)} + _must(
        row
    )


def _fewest(row: Asking) -> str:
    told = {"foods": _foods(row)}
    return (
        _("One board, one knife, one pair of hands: %(foods)s. How many washes must there be in between?") % told
        + _must(row)
        + _(" Board, knife and hands count one each.")
    )


def _must(row: Asking) -> str:
    """What has to come first, whatever it costs."""
    if not row.asks["must"]:
        return ""
    first, then = row.asks["must"]
    return _(" The %(first)s must come before the %(then)s.") % {"first": first, "then": then}


def _until(row: Asking) -> str:
    asks = row.asks
    parts = [_("made %(at)s") % {"at": at_moment(asks["made_at"])}]
    if asks["out_s"]:
        parts.append(_("out for %(t)s before it went into the fridge") % {"t": duration(asks["out_s"])})
    if asks["frozen_at"]:
        parts.append(_("frozen %(at)s") % {"at": at_moment(asks["frozen_at"])})
        parts.append(_("thawed %(at)s") % {"at": at_moment(asks["thawed_at"])})
    return _("%(food)s: %(history)s. Until when may it be eaten?") % {
        "food": capital(asks["food"]),
        "history": ", ".join(parts),
    }


def at_moment(text: str) -> str:
    """A moment that a puzzle says, as a cook would."""
    return moment(dt.datetime.fromisoformat(text))


def _shelf(row: Asking) -> str:
    told = {"item": row.asks["item"]}
    if row.asks["raw"]:
        return _("Into the fridge: raw %(item)s. Where?") % told
    return _("Into the fridge, ready to eat: %(item)s. Where?") % {"item": row.asks["item"]}


def _again(row: Asking) -> str:
    what = _("Your hands have held") if row.asks["what"] == "hands" else _("Board and knife have touched")
    told = {"what": what, "raw": row.asks["raw"], "next": row.asks["next"]}
    return _("%(what)s the raw %(raw)s. Next comes the %(next)s, which is eaten as it is. What first?") % told


def _next(row: Asking) -> str:
    what = _failed(row)
    if what:
        return _("At a bench: %(what)s. What is done about it?") % {"what": what}
    asks = row.asks
    finding = Finding(
        rule=row.puzzle.rule, step=asks["step"], soil=asks["soil"], food=asks["food"], path=tuple(asks["path"])
    )
    return _("At a bench: %(what)s. What is done first?") % {"what": finding_title(finding)}


def _failed(row: Asking) -> str:
    """A control point that was not kept, as what happened; nothing for what one thing has passed to another."""
    food = row.asks["food"] or _("food")
    texts = {
        "hands-after-raw": _("hands were not washed after the raw food"),
        "hands-on-arrival": _("somebody began without washing"),
        "kit-after-raw": _("the kit was not cleaned after the raw food"),
        "ready-to-eat-clean": _("work on the %(food)s began with what was not clean"),
        "clean-utensils": _("the cooked %(food)s met what was not clean"),
        "fridge-cold": _("the fridge was too warm, or nobody looked"),
        "raw-out-of-fridge": _("raw %(food)s out of the fridge for longer than it may"),
        "time-out": _("the %(food)s stood for longer than it may, and was never put away"),
        "chilled-in-time": _("nobody showed in time that the %(food)s had come to be cold"),
        "part-cooked": _("the part-cooked %(food)s stood for too long"),
        "leftovers-labelled": _("what is left of the %(food)s has no label"),
        "core-temperature": _("nobody showed that the %(food)s had cooked through"),
        "served-not-measured": _("%(food)s on the plate, and nobody has measured"),
        "served-below-limit": _("%(food)s on the plate, and one piece was too low"),
        "probe-not-cleaned": _("the probe went from a piece that was not done into one that is"),
    }
    return texts.get(row.puzzle.rule, "") % {"food": food}


def _limit(row: Asking) -> str:
    food = next(iter(row.asks["foods"]), "")
    texts = {
        "fridge-cold": _("How warm may the fridge be?"),
        "core-temperature": _("Which temperature must every piece of the %(food)s reach inside?"),
        "chilled-in-time": _("How cold must the %(food)s be before it is served?"),
        "hands-on-arrival": _("How long are hands washed before anything is touched?"),
        "hands-after-raw": _("How long are hands washed after the raw food?"),
        "raw-out-of-fridge": _("How long may raw %(food)s be out of the fridge in all?"),
        "time-out": _("How long may what is cooked stand neither hot nor cold?"),
        "part-cooked": _("How long may the heating of part-cooked %(food)s take at most?"),
        "leftovers-labelled": _("How long does what is left keep in the fridge?"),
    }
    return texts[row.asks["control"]] % {"food": food}


def _when(row: Asking) -> str:
    food = next(iter(row.asks["foods"]), "")
    texts = {
        "fridge-cold": _("Before which step has somebody read the fridge, at the latest?"),
        "hands-on-arrival": _("Before which step are all hands washed, at the latest?"),
        "hands-after-raw": _("After the raw food: before which step are hands washed, at the latest?"),
        "kit-after-raw": _("After the raw food: before which step is the kit clean, at the latest?"),
        "ready-to-eat-clean": _(
            "Before which step must hands and kit be clean, since nothing heats the %(food)s after it?"
        ),
        "clean-utensils": _("Before which step is there clean kit for what is cooked, at the latest?"),
        "core-temperature": _("Before which step must somebody have measured the %(food)s, at the latest?"),
    }
    return texts[row.asks["control"]] % {"food": food}


def _part(row: Asking) -> str:
    asks = row.asks
    told = {"part": as_fraction(asks["part"]), "n": as_fraction(str(Fraction(asks["value"]).limit_denominator(8)))}
    told |= {"unit": measure_name(asks["unit"], asks["value"]), "food": asks["food"]}
    return _("How much is %(part)s of %(n)s %(unit)s of %(food)s, with the spoons here?") % told


def as_fraction(text: str) -> str:
    """1/2 as a cook writes it, 3/2 as one and a half."""
    value = Fraction(text)
    whole, rest = divmod(value.numerator, value.denominator)
    part = f"{rest}/{value.denominator}" if rest else ""
    return " ".join(filter(None, [str(whole) if whole or not part else "", part]))


def measure_name(unit: str, value: float) -> str:
    """A kitchen measure, of so many."""
    if unit == "cup":
        return ngettext("cup", "cups", 1 if value <= 1 else 2)
    return unit


_QUESTIONS: Mapping[str, Callable[[Asking], str]] = {
    "limit": _limit,
    "by-when": _when,
    "find-slip": _slip,
    "contact": _contact,
    "order": _order,
    "fewest-washes": _fewest,
    "clean-again": _again,
    "tip": lambda row: _("Where does the tip of the probe go?"),
    "display": _display,
    "done": _done,
    "stand": _stand,
    "cold-in-time": _cold,
    "shelf": _shelf,
    "until": _until,
    "next": _next,
    "not-for": lambda row: _("Who may not eat this as it is: %(served)s?") % {"served": listed(row.asks["served"])},
    "part-of": _part,
    "tool": lambda row: _("What is this for?"),
    "hob": lambda row: _("What is wrong around this hob?"),
}

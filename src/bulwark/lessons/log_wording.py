"""What a bench did, in words: its log, its hands, its verdicts."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from django.utils.translation import gettext as _

from bulwark.lessons.wording import watched_names, why_paused
from bulwark.presentation.phrases import (
    capital,
    cook_text,
    degrees,
    duration,
    listed,
    minutes,
    soil_name,
)
from foodsafety.cooking import CookVerdict
from foodsafety.cooling import containers
from foodsafety.foods import is_raw
from foodsafety.lesson import State

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
            _("Lowest: %(which)s, %(value)s. The outside goes on heating the inside; leave it covered")
            % {"which": which, "value": value},
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
    person = state.person(learner)
    if person.unwell:
        return "away", _("not handling food")
    if person.away:
        return "away", _("not here")
    if person.washing_s is not None and now_s - person.washing_s < _WASH_FORGOTTEN_S:
        return "dry", _("washing")
    soils = state.surfaces.get(learner, {})
    raw = sorted(name for name in soils if is_raw(name))
    if raw:
        source = soils[raw[0]].path[0]
        return "raw", _("raw %(food)s") % {"food": source}
    if "waste" in soils:
        return "raw", _("waste")
    if "person" in soils:
        return "bare", _("not washed")
    return "clean", _("clean")


# --- the log ---------------------------------------------------------------------------------------------------


def _step_sentence(step: str, by: list[str], titles: Mapping[str, str]) -> str:
    """A step that was tapped: who did it. Washes are entries of their own; a tap is none."""
    return titles.get(step, step) + (f", {listed(by)}" if by else _(", tapped as done"))


def entry_sentence(kind: str, data: Mapping[str, Any], titles: Mapping[str, str], unit: str) -> str:
    """One entry of the log in words."""
    food = {**_of_food(data, titles), **_of_parts(data)}
    texts = {**_of_people(data, titles), **_of_readings(data, unit), **food, **_of_others(data)}
    return texts[kind]() if kind in texts else kind


def _of_people(data: Mapping[str, Any], titles: Mapping[str, str]) -> dict[str, Callable[[], str]]:
    """Hands, kit and steps, and what the educator said."""
    who = str(data.get("learner", ""))
    by = data.get("by") or []
    by = [by] if isinstance(by, str) else list(by)
    return {
        "ready": lambda: _("%(who)s is ready to handle food") % {"who": who},
        "unwell": lambda: _("%(who)s does not handle food today") % {"who": who},
        "came": lambda: _("%(who)s came to the bench: hands to be washed") % {"who": who},
        "went": lambda: (
            (_("%(who)s went to another bench") if data.get("why") == "moved" else _("%(who)s left")) % {"who": who}
        ),
        "wash_started": lambda: _("%(who)s starts washing hands") % {"who": who},
        "hands_washed": lambda: (
            _("%(who)s washed hands, %(s)s s of scrubbing") % {"who": who, "s": f"{float(data['scrub_s']):g}"}
        ),
        "touched": lambda: _("%(who)s touched: %(what)s") % {"who": who, "what": data.get("what")},
        "step_done": lambda: (
            _step_sentence(str(data.get("step")), by, titles)
            + (_(", goes on in the cold") if data.get("goes_on") else "")
        ),
        "cleaned": lambda: (
            (_("Cleaned and sanitised: %(t)s") if data.get("how") == "clean" else _("Only wiped or rinsed: %(t)s"))
            % {"t": listed(data.get("tools", []))}
        ),
        "swapped": lambda: _("Took clean ones: %(t)s") % {"t": listed(data.get("tools", []))},
        "waived": lambda: _("Waived by the educator: %(r)s") % {"r": data.get("reason")},
        "reopened": lambda: _("The lesson was taken up again: %(r)s") % {"r": data.get("reason")},
        "timer_set": lambda: (
            _("Timer set: %(name)s, %(min)s")
            % {"name": data.get("name"), "min": minutes(float(data.get("minutes") or 0))}
        ),
        "timer_nudged": lambda: _("A timer was moved by %(min)s min") % {"min": f"{float(data.get('by_min') or 0):+g}"},
        "timer_answered": lambda: _("A timer was answered"),
        "watched": lambda: watched_line(data),
        "taken_back": lambda: (
            _("Taken back by who looked on: %(who)s, %(what)s")
            % {"who": data.get("learner"), "what": watched_names().get(str(data.get("what")), "")}
        ),
        "paused": lambda: _("The lesson was paused: %(why)s") % {"why": why_paused().get(str(data.get("why")), "")},
        "resumed": lambda: _("The lesson went on"),
        "back_seen": lambda: _("The bench has read what may still be used"),
        "advised": lambda: _("Told by the educator: %(w)s") % {"w": advice_line(data.get("what"), data.get("of"))},
        "called": lambda: _("The bench called the educator"),
        "answered": lambda: _("The educator answered"),
        "voided": lambda: _("An earlier entry was voided: %(r)s") % {"r": data.get("reason")},
    }


def _of_parts(data: Mapping[str, Any]) -> dict[str, Callable[[], str]]:
    """What became of food that is kept, part by part."""
    told = {"food": capital(str(data.get("food", ""))), "part": data.get("part", "1"), "n": data.get("portions")}
    told["store"] = data.get("store") or part_places().get(str(data.get("place")), "")
    ends = {name: text.lower() for name, text in part_ends().items()}
    return {
        "part_counted": lambda: (
            (_("%(food)s, part %(part)s: %(n)s portions") if data.get("portions") else _("%(food)s: in the %(store)s"))
            % told
        ),
        "part_moved": lambda: (
            _("%(food)s, part %(part)s: now %(place)s %(store)s")
            % {**told, "place": part_places().get(str(data.get("place")), ""), "store": data.get("store") or ""}
        ).strip(),
        "part_split": lambda: _("%(food)s: %(n)s portions of part %(part)s on their own") % told,
        "part_gone": lambda: (
            _("%(food)s, part %(part)s, %(n)s: %(how)s")
            % {**told, "n": told["n"] or _("all of it"), "how": ends.get(str(data.get("how")), "")}
        ),
        "part_reheated": lambda: (
            _("%(food)s, part %(part)s: heated again, %(c)s °C") % {**told, "c": data.get("core_c")}
        ),
        "part_warm": lambda: (
            _("%(food)s, part %(part)s: nobody knows for how long it was out") % told
            if data.get("unknown")
            else (
                _("%(food)s, part %(part)s: too warm for %(t)s")
                if data.get("known")
                else _("%(food)s, part %(part)s: for %(t)s nobody knows how warm")
            )
            % {**told, "t": duration(float(data.get("warm_s") or 0))}
        ),
        "part_labelled": lambda: _("%(food)s, part %(part)s: %(c)s labels printed") % {**told, "c": data.get("count")},
        "part_shortened": lambda: _("%(food)s, part %(part)s: to be used earlier") % told,
        "part_boxed": lambda: (
            _("%(food)s, part %(part)s: stands in %(box)s")
            % {**told, "box": stands_in(str(data.get("container")), data.get("count") or 1)}
        ),
        "part_seen": lambda: _("%(food)s, part %(part)s: seen on its shelf") % told,
        "part_signed": lambda: (
            _("%(food)s, part %(part)s: %(who)s signed for it: %(why)s")
            % {**told, "who": data.get("signer"), "why": data.get("reason")}
        ),
        "from_shelf": lambda: _("%(food)s came off the shelf") % told,
    }


def stands_in(container_id: str, count: int) -> str:
    """So many of a kind of container: "2 half trays"."""
    found = containers().get(container_id)
    name = container_id if found is None else found.name if count == 1 else found.plural
    return f"{count} {name}"


def part_places() -> dict[str, str]:
    """Where a part can be."""
    return {"fridge": _("in the fridge"), "freezer": _("in the freezer"), "out": _("out on the bench")}


def part_ends() -> dict[str, str]:
    """What can become of a part."""
    return {
        "eaten": _("Eaten"),
        "used": _("Used in a lesson"),
        "sent_home": _("Taken home"),
        "discarded": _("Thrown away"),
        "missing": _("Not there when somebody looked"),
    }


def _of_others(data: Mapping[str, Any]) -> dict[str, Callable[[], str]]:
    """What another bench has done to what is shared."""
    return {
        "shared_kit": lambda: _shared_kit(data),
        "shared_fridge": lambda: (
            _("The fridge was read at %(bench)s: %(c)s °C")
            % {"bench": data.get("bench"), "c": f"{float(data.get('core_c') or 0):g}"}
        ),
        "shared_oven": lambda: _shared_oven(data),
        "shared_voided": lambda: _("An entry of %(bench)s was taken back") % {"bench": data.get("bench")},
    }


def _shared_oven(data: Mapping[str, Any]) -> str:
    told = {"tool": data.get("tool"), "bench": data.get("bench"), "food": capital(str(data.get("dish")))}
    if data.get("how") == "in":
        return _("%(food)s of %(bench)s went into the shared %(tool)s") % told
    return _("%(food)s of %(bench)s came out of the shared %(tool)s") % told


def _shared_kit(data: Mapping[str, Any]) -> str:
    told = {"tool": capital(str(data.get("tool"))), "bench": data.get("bench")}
    if not data.get("soils"):
        return _("%(tool)s was cleaned at %(bench)s") % told
    soils = listed(soil_name(name) for name in data["soils"])
    return _("%(tool)s was soiled at %(bench)s: %(soils)s") % {**told, "soils": soils}


def _of_readings(data: Mapping[str, Any], unit: str) -> dict[str, Callable[[], str]]:
    """What was measured."""
    food = capital(str(data.get("food", "")))
    core = data.get("core_c")
    return {
        "fridge_read": lambda: _("Fridge reads %(t)s") % {"t": degrees(core, unit, cold=True)},
        "cold_read": lambda: _("%(food)s reads %(t)s") % {"food": food, "t": degrees(core, unit, cold=True)},
        "core_read": lambda: (
            _("%(food)s, piece %(p)s: %(t)s in the middle")
            % {"food": food, "p": data.get("piece"), "t": degrees(core, unit)}
        ),
        "part_read": lambda: (
            _("%(food)s, part %(p)s: read at %(t)s")
            % {"food": food, "p": data.get("part", "1"), "t": degrees(core, unit, cold=True)}
        ),
        "counted": lambda: _("%(food)s: %(n)s in all") % {"food": food, "n": data.get("pieces")},
        "ambient_read": lambda: _("The room is at %(t)s") % {"t": degrees(data.get("ambient_c"), unit, cold=True)},
    }


def _of_food(data: Mapping[str, Any], titles: Mapping[str, str]) -> dict[str, Callable[[], str]]:
    """What happened to a food."""
    food = capital(str(data.get("food", "")))
    step = titles.get(str(data.get("step")), str(data.get("step")))
    return {
        "rinsed": lambda: _("Rinsed under running water: %(f)s") % {"f": listed(data.get("foods", []))},
        "left_out": lambda: _("Left out: %(s)s") % {"s": step},
        "on_heat": lambda: _("On the heat: %(step)s") % {"step": step},
        "heat_said": lambda: (
            (_("The heat was off in the pause: %(step)s") if data.get("off") else _("The heat stayed on: %(step)s"))
            % {"step": step}
        ),
        "observed": lambda: (
            _("%(food)s, seen: %(what)s") % {"food": food, "what": str(data.get("what")).replace("_", " ")}
        ),
        "off_heat": lambda: _("%(food)s off the heat") % {"food": food},
        "stored": lambda: _("%(food)s into the %(place)s") % {"food": food, "place": data.get("place")},
        "categorised": lambda: (
            _("%(food)s is kept as: %(what)s") % {"food": food, "what": str(data.get("category")).replace("_", " ")}
        ),
        "gone": lambda: (
            _("%(food)s thrown away") % {"food": food}
            if data.get("how") == "discarded"
            else _("%(food)s all eaten") % {"food": food}
        ),
        "not_made": lambda: _("%(food)s is left out of the meal") % {"food": food},
        "remade": lambda: _("%(food)s thrown away, to be made again") % {"food": food},
        "waste_said": lambda: _("%(food)s thrown away: %(amount)s") % {"food": food, "amount": waste_amount(data)},
        "batch_said": lambda: _("%(food)s is of batch %(b)s") % {"food": food, "b": data.get("batch")},
        "mended_by": lambda: _("%(food)s put right by %(who)s") % {"food": food, "who": data.get("learner")},
        "cooked_again": lambda: _("%(food)s back on the heat") % {"food": food},
        "named": lambda: _("%(food)s is called “%(name)s” here") % {"food": food, "name": data.get("name")},
        "decided": lambda: _("%(food)s: the educator decided: %(r)s") % {"food": food, "r": data.get("reason")},
    }


def waste_amount(data: Mapping[str, Any]) -> str:
    """How much was thrown away: "240 g", "3 pieces", or that nobody weighed it."""
    value, unit = data.get("value"), data.get("unit")
    if unit == "g" and isinstance(value, (int, float)):
        return f"{value:g} g"
    if unit == "pieces" and isinstance(value, (int, float)):
        return _("%(n)g pieces") % {"n": value}
    return _("nobody weighed it") if unit == "unweighed" else _("not said how much")


def advice_line(what: str | None, of: str | None) -> str:
    """What the front has told a bench that is behind its plan."""
    texts = {
        "later": _("You eat a little later: take your time, every check stays"),
        "help": _("%(of)s comes to help you"),
        "adult": _("An adult comes to help you"),
        "eat": _("Nobody eats now: what you made is packed up, and its note says until when"),
        "kit_later": _("Leave the washing-up: it is done after the lesson"),
    }
    return texts.get(what or "", what or "") % {"of": of or ""}


def why_voided(data: Mapping[str, Any]) -> str:
    """Why an entry does not count."""
    return str(data.get("reason") or _("taken back by who saw it"))


def watched_line(data: Mapping[str, Any]) -> str:
    """What somebody has watched a learner do."""
    seen = {"right": _("seen right"), "wrong": _("seen wrong"), "not_seen": _("not seen")}
    told = {"who": data.get("learner"), "what": watched_names().get(str(data.get("what")), "")}
    return _("%(who)s, %(what)s: %(seen)s") % {**told, "seen": seen.get(str(data.get("seen")), "")}


def kind_name(kind: str) -> str:
    """A kind of entry, as somebody would look for it in a list."""
    names = {
        "ready": _("Somebody is ready"),
        "unwell": _("Somebody does not handle food"),
        "wash_started": _("A hand-wash begins"),
        "hands_washed": _("Hands were washed"),
        "touched": _("Hands touched something"),
        "step_done": _("A step is done"),
        "cleaned": _("Kit was cleaned"),
        "swapped": _("Clean kit was taken"),
        "rinsed": _("Produce was rinsed"),
        "left_out": _("A step was left out"),
        "fridge_read": _("The fridge was read"),
        "cold_read": _("A chilled food was measured"),
        "core_read": _("A cooked food was measured"),
        "counted": _("Pieces were counted"),
        "observed": _("Something was seen"),
        "on_heat": _("On the heat"),
        "off_heat": _("Off the heat"),
        "came": _("Somebody came"),
        "went": _("Somebody left"),
        "ambient_read": _("The room was measured"),
        "stored": _("Put away"),
        "named": _("A food has another name"),
        "gone": _("Eaten or thrown away"),
        "remade": _("Thrown away, to be made again"),
        "waste_said": _("How much was thrown away"),
        "batch_said": _("Of which batch a food is"),
        "mended_by": _("Who put a breach right"),
        "cooked_again": _("Back on the heat"),
    }
    return names.get(kind, kind)


def field_name(name: str) -> str:
    """A field of an entry."""
    names = {
        "learner": _("Who"),
        "by": _("By"),
        "checks": _("Checks"),
        "step": _("Step"),
        "tools": _("Kit"),
        "foods": _("Foods"),
        "food": _("Food"),
        "place": _("Where"),
        "what": _("What"),
        "how": _("How"),
        "scrub_s": _("Seconds of scrubbing"),
        "value": _("Reading"),
        "unit": _("Unit"),
        "confirmed": _("It really is"),
        "pieces": _("How many"),
        "piece": _("Piece"),
        "name": _("Name"),
        "batch": _("Batch, as its packet says"),
    }
    return names.get(name, name)

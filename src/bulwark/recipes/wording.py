"""Sentences about recipes, keyed by the core's ids."""

from collections.abc import Iterable, Mapping, Sequence
from fractions import Fraction
from typing import Any

from django.utils.translation import gettext as _

from bulwark.presentation.care import allergen
from bulwark.presentation.phrases import aim_degrees, capital, listed, verb
from foodsafety.contamination import PresumedContact
from foodsafety.foods import food_kind, kitchen_units
from foodsafety.recipes import Change, Ingredient, Question, Scaled, SpoonMeasure

UNIT_SHOWN = {
    "fl_oz": "fl oz",
    "us_cup": "US cup",
    "metric_cup": "metric cup",
    "imperial_cup": "imperial cup",
    "us_pint": "US pint",
    "imperial_pint": "imperial pint",
}

_DOUBTS = {
    "food-unknown": "Nobody here knows this food. What is it?",
    "food-unsure": "Taken for this food, but the words say more. Is it right?",
    "not-listed": "Not in the list: only the method names it. Is it an ingredient?",
    "raw-hidden": "Another part of this line names a raw food. Give that food a line of its own, or say what this is.",
    "negative": "An amount below nothing cannot be. What is meant?",
    "unit-impossible": "This cannot be measured so. Which unit is meant?",
    "amount-odd": "This amount cannot be right. What is meant?",
    "heading": "Read as a heading.",
    "too-long": "Too long for one ingredient: kept as a note.",
    "empty": "Nothing is written here.",
}

_HAZARDS = {
    "raw_poultry": "raw poultry",
    "raw_meat": "raw meat",
    "raw_fish": "raw fish",
    "raw_shellfish": "raw shellfish",
    "raw_egg": "raw egg",
    "raw_flour": "raw flour",
    "unwashed_produce": "unwashed produce",
    "unknown": "nobody has said what it is",
    "person": "hands or breath",
    "waste": "waste",
    "chemical": "cleaning residue",
    "toxin": "a toxin",
    "listeria": "Listeria grows in it even in the fridge",
    "histamine": "warm fish makes histamine; heat does not take it away",
    "spore_toxin": "spores survive cooking; cooled slowly they make a toxin",
    "lectin": "toxic until boiled hard for 10 minutes",
    "runny_egg": "only safe firm, or from an assured scheme",
    "mould_ripened": "mould-ripened soft cheese",
    "raw_sprouts": "raw sprouts",
    "unpasteurised": "not pasteurised",
    "honey": "honey, never under one year",
    "whole_nuts": "whole nuts can choke",
    "grapes": "whole grapes can choke",
    "frozen_berries": "frozen berries are boiled first",
    "liver": "liver, much vitamin A",
    "high_mercury": "large fish, mercury",
    "raw_shellfish_eaten": "often eaten raw",
}

_SWAP_FAMILIES = {
    "dried-fresh": "dried for fresh",
    "fat": "another fat",
    "milk": "another milk",
    "nut": "another nut",
    "flour": "another flour",
    "egg": "another egg",
    "meat-free": "meat-free",
    "cut": "another cut or kind",
    "sugar": "another sugar",
    "leave-out": "instead",
}

_TIMES = {
    "by-work": "grows with the amount; more hands shorten it",
    "by-batches": "once for each batch, not once for all",
    "by-depth": "does not scale: goes with depth and size of the pot, so measure",
    "by-thickness": "does not scale: goes with thickness; a full oven takes longer, so measure",
    "same": "stays the same",
}

_TOOLS = {"hob_ring": "ring on the hob", "probe": "probe thermometer", "oven_dish": "oven dish", "cool_box": "cool box"}
_PLACES = {"fridge": "in the fridge", "freezer": "in the freezer", "out": "on the counter, within the clock"}


def doubt(name: str) -> str:
    """What to ask about a line."""
    return _(_DOUBTS.get(name, name))


def hazard(name: str) -> str:
    """A hazard or a soil in words."""
    return _(_HAZARDS.get(name, name.replace("_", " ")))


def swap_family(name: str) -> str:
    """What sort of swap it is."""
    return _(_SWAP_FAMILIES[name])


def time_rule(name: str) -> str:
    """How a step's time goes with the amount."""
    return _(_TIMES[name])


def tool(kind: str) -> str:
    """A kind of tool or heat source."""
    return _(_TOOLS.get(kind, kind.replace("_", " ")))


def place(name: str) -> str:
    """Where food waits."""
    return _(_PLACES[name])


def allergens(tags: Iterable[str]) -> str:
    """Several, parted by commas."""
    return ", ".join(allergen(tag) for tag in tags)


def fraction(amount: Fraction) -> str:
    """1 1/2 as cooks write it."""
    whole, part = divmod(amount, 1)
    signs = {
        Fraction(1, 2): "½",
        Fraction(1, 3): "⅓",
        Fraction(2, 3): "⅔",
        Fraction(1, 4): "¼",
        Fraction(3, 4): "¾",
        Fraction(1, 8): "⅛",
    }
    if not part:
        return str(whole)
    return f"{whole if whole else ''}{signs.get(part, f' {part}')}".strip()


def unit(name: str | None, amount: float = 1) -> str:
    """A unit as it is written after an amount."""
    if not name:
        return ""
    if name in kitchen_units():
        return UNIT_SHOWN.get(name, name) + ("s" if name == "cup" and amount > 1 else "")
    plural = {
        "loaf": "loaves",
        "leaf": "leaves",
        "pinch": "pinches",
        "dash": "dashes",
        "bunch": "bunches",
        "box": "boxes",
    }
    return plural.get(name, name + "s") if amount > 1 else name


def number(value: float) -> str:
    """An amount without noise: three figures that matter."""
    if value >= 100:
        return f"{value:,.0f}"
    return f"{value:.3g}" if value >= 1 else f"{value:.2g}"


def amount(item: Ingredient) -> str:
    """What was understood of a line's amount."""
    if item.low is None or item.high is None:
        return _("no amount")
    low, high = _fractional(item.low), _fractional(item.high)
    shown = low if item.low == item.high else f"{low}\u2013{high}"
    each = f" × {number(item.each_amount)} {unit(item.each_unit)}" if item.each_amount else ""
    return f"{shown} {unit(item.unit, item.high)}{each}".strip()


def _fractional(value: float) -> str:
    near = Fraction(value).limit_denominator(8)
    if value < 20 and abs(float(near) - value) < 1e-3 and near.denominator in (1, 2, 3, 4, 8):
        return fraction(near)
    return number(value)


def measures(rows: Iterable[SpoonMeasure]) -> str:
    """What to take: "1 cup + 2 tbsp"."""
    return " + ".join(f"{fraction(row.amount)} {unit(row.unit, float(row.amount))}".strip() for row in rows)


def scaled(row: Scaled) -> str:
    """A scaled amount as it is measured."""
    if row.low is None or row.high is None:
        return row.ingredient.note or _("as much as it takes")
    by_weight = row.ingredient.each_amount or row.ingredient.kind == "egg"
    if row.whole is not None and by_weight and (row.part_g or row.part_ml):
        return _part_of_one(row)
    if row.measures:
        return measures(row.measures)
    low, high = number(row.low), number(row.high)
    shown = low if row.low == row.high else f"{low}\u2013{high}"
    return f"{shown} {unit(row.unit, row.high)}".strip()


def _part_of_one(row: Scaled) -> str:
    whole = f"{row.whole} {unit(row.unit, row.whole)}".strip() if row.whole else ""
    part = f"{number(row.part_g)} g" if row.part_g else f"{number(row.part_ml or 0)} ml"
    return f"{whole} + {part}" if whole else part


def scaled_help(row: Scaled) -> str:
    """How to take part of an egg, a can or an odd spoon."""
    if row.low is None:
        return ""
    if row.whole is not None and row.part_g and row.ingredient.kind == "egg":
        ml = f" ({number(row.part_ml)} ml)" if row.part_ml else ""
        return _("Beat one more egg, tare the bowl, and weigh out %(g)s g%(ml)s.") % {"g": number(row.part_g), "ml": ml}
    if row.whole is not None and row.part_g and row.ingredient.each_amount:
        return _("Tare an empty bowl, then fill from the next one until the scale reads %(g)s g.") % {
            "g": number(row.part_g)
        }
    if "below-smallest-spoon" in row.doubts:
        return _below_smallest(row)
    if "error-above-tolerance" in row.doubts:
        return _no_spoon(row)
    if "not-measurable" in row.doubts:
        return _("Part of one: nobody has said what one weighs.")
    if row.error > 0.001 and row.measures:
        return _("%(p)s %% off, within what this food forgives.") % {"p": f"{100 * row.error:.1f}"}
    return ""


def _no_spoon(row: Scaled) -> str:
    if row.part_g:
        return _("No spoon has this: tare the bowl and weigh %(g)s g.") % {"g": number(row.part_g)}
    return _("No spoon has this: %(p)s %% off. Choose another size of batch.") % {"p": f"{100 * row.error:.0f}"}


# A pinch between two fingers is about 1/16 of a teaspoon.
_PINCH_ML = 0.3


def _below_smallest(row: Scaled) -> str:
    """An amount that no spoon holds: its weight, and how many pinches that is."""
    pinches = (row.part_ml or 0) / _PINCH_ML
    size = _("less than a pinch") if pinches < 0.75 else _("about a pinch") if pinches < 1.5 else _("about 2 pinches")
    if row.part_g:
        return _("Less than the smallest spoon: weigh %(g)s g (%(size)s of 0.3 ml).") % {
            "g": number(row.part_g),
            "size": size,
        }
    return _("Less than the smallest spoon: %(size)s of 0.3 ml.") % {"size": size}


def heat(step: Mapping[str, Any], unit_shown: str) -> str:
    """Heat and end point of a step."""
    parts = []
    row, end = step.get("heat") or {}, step.get("end") or {}
    if row.get("oven_c") is not None:
        parts.append(_("oven %(t)s") % {"t": _temperature(row["oven_c"], unit_shown)})
    if row.get("level"):
        parts.append(_("%(level)s heat") % {"level": row["level"]})
    if end.get("core_c") is not None:
        parts.append(_("core %(t)s") % {"t": aim_degrees(end["core_c"], unit_shown)})
    if end.get("cue"):
        parts.append(_("until %(cue)s") % {"cue": end["cue"]})
    return ", ".join(parts)


def _temperature(celsius: float, unit_shown: str) -> str:
    if unit_shown == "F":
        return f"{celsius * 9 / 5 + 32:.0f} °F"
    return f"{celsius:.0f} °C"


def missing_cost(why: str) -> str:
    """Why a line has no cost."""
    return {
        "no-price": _("no price yet"),
        "no-weight": _("nobody has said what one weighs"),
        "no-amount": _("no amount given"),
        "free": _("free"),
    }.get(why, "")


def guess(name: str) -> str:
    """What of a step nobody said."""
    return {
        "tools": _("tools presumed"),
        "vessel": _("in what was in use"),
        "hands": _("by hand, since nothing else is said"),
        "foods": _("foods guessed: no food is named"),
        "step": _("added: nothing says so"),
        "stands": _("only left for a time: nobody says whether it cooks or stands"),
        "told": _("only told of, or only if: nobody says that it is done here"),
        "guess": _("guessed from a sentence that no rule reads: look at it"),
        "named": _("the sentence names a food that no step of it has"),
        "time": _("the sentence names a time that no step of it takes"),
        "degrees": _("the sentence names a temperature that no step of it takes"),
        "work": _("the sentence orders something that no step of it does"),
        "called": _("the sentence speaks of something made that nothing here is called by"),
    }.get(name, name)


def taken(name: str) -> str:
    """What a row or a sentence of the text was taken for."""
    return {
        "title": _("title"),
        "summary": _("chatter"),
        "serves": _("how many it feeds"),
        "ingredient": _("ingredients"),
        "heading": _("heading"),
        "kit": _("kit"),
        "note": _("tip"),
        "tip": _("tip"),
        "storage": _("storage"),
        "chatter": _("chatter"),
        "unread": _("unread"),
        "step": _("setting up"),
        "refused": _("refused, read from the words"),
    }.get(name, name)


def untitled() -> str:
    """The title of a recipe that has none."""
    return _("Untitled recipe")


def no_instructions() -> str:
    """The one step of a recipe without a method."""
    return _("No instructions were read")


def stored_steps(why: str) -> str:
    """That the steps in a file do not hold together, and why."""
    return _("the steps stored in the file: %(why)s") % {"why": why}


def copied(title: str) -> str:
    """The title of a copy."""
    return _("%(title)s (copy)") % {"title": title}


def menu_title(titles: Sequence[str]) -> str:
    """The title of a menu."""
    return _("%(first)s with %(others)s") % {"first": titles[0], "others": listed(titles[1:])}


def menu_summary(dishes: Sequence[tuple[str, int | None]]) -> str:
    """What a menu is made of, and for how many each dish is."""
    rows = [
        _("%(title)s (serves %(n)d)") % {"title": title, "n": serves} if serves else title for title, serves in dishes
    ]
    return _("A menu of %(dishes)s.") % {"dishes": listed(rows)}


def serve_menu() -> str:
    """The step at which all dishes are eaten."""
    return _("Serve everything")


def without_food(title: str, food: str) -> str:
    """The title of a recipe with a food left out."""
    return _("%(title)s without %(food)s") % {"title": title, "food": food}


def with_food(title: str, food: str) -> str:
    """The title of a recipe with another food put in."""
    return _("%(title)s with %(food)s") % {"title": title, "food": food}


def answered(row: Mapping[str, str] | None) -> str:
    """What somebody said of a finding that stays; nothing where nobody did."""
    if row is None:
        return ""
    if row["how"] == "slip":
        return _("Kept as a slip to be taught.")
    return _("Cannot happen here: “%(reason)s”.") % {"reason": row["reason"]}


def accepted_finding(row: Mapping[str, str]) -> str:
    """A finding that stays, with what somebody said of it."""
    return f"{capital(finding(row['rule'], row['food'], row['soil']))} {answered(row)}"


def question(row: Question) -> str:
    """An open question that could hide a hazard, as a statement of what is not known."""
    said = {
        "which-food": _("Nobody has said what “%(food)s” is."),
        "no-steps": _("No step was read."),
        "nothing-served": _("Nobody has said what is eaten."),
        "unread": _("No danger? “%(text)s”") if row.says else _("Nobody has understood: “%(text)s”"),
        "unplaced": _("Nobody has said where it goes: %(food)s."),
        "goes-nowhere": _("Nobody has said what becomes of it: %(food)s."),
        "which-heat": _("Nobody has said where it is cooked through: %(food)s."),
        "guessed": _("Nobody has said that this guess is right: “%(text)s”"),
    }[row.why]
    return said % {"text": row.text, "food": ", ".join(row.foods)}


def change(row: Change, unit_shown: str) -> str:
    """One difference between two states of a recipe's steps, in a person's unit of temperature."""
    was, now = (_shown(row.field, value, unit_shown) for value in (row.before, row.after))
    names = {"name": row.name, "before": was, "after": now, "field": _field(row.field)}
    return {
        "step-added": _("New step: %(name)s"),
        "step-removed": _("Step taken out: %(name)s"),
        "step-moved": _("Step moved: %(name)s"),
        "step-changed": _("%(name)s: %(field)s was %(before)s, is %(after)s"),
        "food-added": _("New food: %(name)s"),
        "food-removed": _("Food taken out: %(name)s"),
        "food-changed": _("%(name)s: %(field)s was %(before)s, is %(after)s"),
        "served": _("Eaten was %(before)s, is %(after)s"),
        "discarded": _("Thrown away was %(before)s, is %(after)s"),
    }[row.kind] % names


def _field(name: str) -> str:
    return {
        "do": _("the work"), "title": _("the name"), "foods": _("the food"), "tools": _("the kit"),
        "hands": _("the hands"), "makes": _("what it makes"), "minutes": _("the minutes"),
        "waiting_min": _("the minutes of waiting"),
        "through": _("what was said of the heat"), "heat": _("the heat"), "end": _("the end point"),
        "kind": _("the food"), "soils": _("what is on it"), "allergens": _("the allergens"),
    }.get(name, name)  # fmt: skip


def _shown(field: str, value: Any, unit_shown: str) -> str:
    """A value before or after a change; nothing said is "nothing"."""
    if not value:
        return _("nothing")
    if field == "through":
        return _("that it cooks through")
    if field == "do":
        return verb(value)
    if field == "kind":
        return food_kind(value).name
    if field in ("heat", "end"):
        return heat({field: value}, unit_shown) or ", ".join(map(str, value.values()))
    if field in ("soils", "allergens"):
        return ", ".join((hazard if field == "soils" else allergen)(name) for name in value)
    return ", ".join(map(str, value)) if isinstance(value, (list, tuple)) else str(value)


def presumed(contact: PresumedContact) -> dict[str, str]:
    """A contact that nobody said, as a question with its two answers."""
    names = {"food": contact.food, "kit": contact.carrier}
    if contact.by_hand:
        asked, said, another = (
            _("Who touches the %(food)s here?"),
            _("Hands, as it was read"),
            _("Clean tongs or a spoon"),
        )
    else:
        asked, said = _("Does the %(food)s touch the same %(kit)s?"), _("Yes, the same %(kit)s")
        another = _("No, another one, clean")
    return {
        "asked": asked % names, "said": said % names, "another": another,
        "step": contact.step, "carrier": contact.carrier,
    }  # fmt: skip


def clean_kit(sort: str) -> list[str]:
    """Names for clean kit of a sort that takes the place of what is soiled, the plainest first."""
    names = (_("clean %(kit)s"), _("another clean %(kit)s"), _("third clean %(kit)s"))
    return [name % {"kit": sort} for name in names]


def edit_done(what: str) -> str:
    """What the last edit was, for the undo button."""
    return {
        "up": _("moving a step"), "down": _("moving a step"), "order": _("moving steps"), "split": _("parting a step"),
        "merge": _("joining steps"), "remove": _("taking out a step"), "add": _("adding a step"),
        "change": _("changing a step"), "words": _("changing the words"), "food": _("changing a food"),
        "blank": _("adding a step"),
        "kind": _("saying what a food is"), "way": _("saying what touches it"),
        "cooked": _("saying where it is cooked through"),
        "sure": _("saying that a guess is right"), "accept": _("answering for a finding"),
        "flow-first": _("putting it right"),
        "aside": _("putting a sentence aside"), "make": _("making a sentence a step"),
        "eaten": _("saying what is eaten"), "place": _("saying where food goes"), "fate": _("saying where food goes"),
    }.get(what, what)  # fmt: skip


def finding(rule: str, food: str, soil: str) -> str:
    """What the recipe's own order would do, in one sentence."""
    texts = {
        "ready-to-eat-meets-raw": _("%(soil)s reaches %(food)s, which is eaten as it is."),
        "cooked-meets-raw": _("%(soil)s reaches %(food)s after it was cooked."),
        "allergen-contact": _("%(soil)s reaches %(food)s, which should be free of it."),
        "served-raw": _("%(food)s is served with %(soil)s on it: no step ends it."),
        "no-kill-step": _("%(food)s is served with %(soil)s on it: no step ends it."),
        "wiped-not-cleaned": _("Wiping is taken for cleaning before %(food)s."),
        "probe-not-cleaned": _("The probe carries %(soil)s into %(food)s."),
        "unwashed-hands": _("Unwashed hands touch %(food)s."),
        "ready-to-eat-meets-unwashed": _("What was on unwashed produce reaches %(food)s."),
        "produce-not-rinsed": _("%(food)s is served unrinsed."),
        "raw-meat-rinsed": _("%(food)s is rinsed raw: that splashes it about."),
        "raw-tasted": _("%(food)s is tasted with %(soil)s in it."),
    }
    text = texts.get(rule, "%(food)s: " + rule.replace("-", " ") + " (%(soil)s)")
    return text % {"food": food, "soil": hazard(soil)}

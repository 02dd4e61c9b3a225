"""Amounts that are said after the food, and amounts that somebody takes back: "onions, two of them", "Parmesan, 1/2 lb,
grated", "two carrots, no, three"."""

from __future__ import annotations

import re
from functools import cache

from foodsafety.foods import match_food
from foodsafety.recipes.amounts import NUMBER, SPELLED_NUMBERS
from foodsafety.recipes.ingredient_words import ingredient_vocabulary, listed_words

_HEDGE = r"(?:,? (?:i suppose|i think|i guess|i reckon|or so|or thereabouts|give or take|ish|say|maybe))?"
_ABOUT = r"(?:it[’']?s|it is|that[’']?s|that[’']?ll be|weighing(?: in at)?|weighs|say|maybe|call it)"


_UNIT = (
    r"(?:g|kg|kilos?|grams?|grammes?|kilograms?|ml|litres?|liters?|l|oz|ounces?|lbs?|pounds?|cups?|pints?|tbsp|tsp"
    r"|(?:table|tea)spoons?)\b"
)


@cache
def _number() -> str:
    words = {*ingredient_vocabulary()["numbers"], *SPELLED_NUMBERS, "hundred"} - {"a", "an"}
    return rf"(?:{NUMBER}|(?:{'|'.join(sorted(words, key=len, reverse=True))})\b)"


@cache
def _taken_back() -> re.Pattern[str]:
    """ "no", "sorry", "make that", with the number that stands in place of the first."""
    begins = r"(?:no|sorry|wait|actually|i mean|i tell a lie|make (?:it|that)|scratch that|or rather)"
    turn = rf"(?:{begins}|it[’']?s|that[’']?s)"
    number = rf"({_number()}(?: ?{_UNIT})?)(?! of\b(?! (?:them|those)))(?: of (?:them|those))?"
    return re.compile(rf",? (?={begins}\b)(?:{turn}[, ]+)+{number}", re.IGNORECASE)


@cache
def _of_them() -> re.Pattern[str]:
    return re.compile(rf",? ({_number()}) of (?:them|those)\b", re.IGNORECASE)


@cache
def _weight_after() -> re.Pattern[str]:
    about = "|".join(map(re.escape, sorted(listed_words("about"), key=len, reverse=True)))
    number = rf"(?:a |an |another )?{_number()}(?:[ -]?(?:and )?{_number()})*"
    said = rf"(?:{_ABOUT}(?:,? what,?)? )?(?:(?:{about})\.? )?"
    pack = r"(?: (?:bags?|packs?|packets?|tubs?|box(?:es)?|blocks?|jars?|bottles?))?"
    return re.compile(
        rf"(?:,| -)? {said}({number} ?{_UNIT}){pack}{_HEDGE}(?: of ([a-z ]+))?",
        re.IGNORECASE,
    )


def said_after(text: str, *, counted: bool) -> re.Match[str] | None:
    """What belongs to an amount, at the start of what follows a food in a sentence; None where nothing does.
    ``counted``: the food has an amount already, which can only be taken back."""
    if found := _taken_back().match(text):
        return found if counted else None
    if counted:
        return None
    if found := _of_them().match(text):
        return found
    found = _weight_after().match(text)
    if found is None:
        return None
    told = re.match(_ABOUT, found[0].lstrip(", -"), re.IGNORECASE) is not None
    if found[2] and any(match_food(" ".join(found[2].split()[:n])) for n in (1, 2)):
        return None  # "the fish, that's 500 g of cod": the weight of a food that is named with it
    # "Butter, 50 g flour" and "the bacon, 200 g of the beans": a weight with a food of its own is that food's.
    ends = re.match(r"\s*(?:[,.;)]|$|and\b)", text[found.end() :]) is not None
    return found if ends and (told or (text[0] == "," and not found[2])) else None


# "Chickpeas 6 x 400 g tins".
_PACKED = re.compile(
    r"(?P<food>[a-z][a-z '-]+?)[,:]? (?P<amount>\d+ ?x ?\d+ ?(?:g|kg|ml|l|oz) ?"
    r"(?:tins?|cans?|jars?|packs?|packets?|bags?|bottles?|tubs?))\b(?P<rest>.*)$",
    re.IGNORECASE,
)


def amount_first(line: str) -> str:
    """A line with its amount where other lines have it: "two carrots, no, three" is "three carrots"."""
    if packed := _PACKED.match(line):
        return f"{packed['amount']} {packed['food']}{packed['rest']}"
    back = _taken_back().search(line)
    first = re.match(rf"(?:half an? |an? )?{_number()}?", line, re.IGNORECASE)
    if back and first and first[0]:
        unit = re.match(rf"\s*{_UNIT}(?: of\b)?", line[first.end() :], re.IGNORECASE)
        if unit and re.search(_UNIT, back[1], re.IGNORECASE):
            return f"{back[1]} {line[first.end() + unit.end() : back.start()].strip()}{line[back.end() :]}"
        return f"{back[1]} {line[first.end() : back.start()].strip()}{line[back.end() :]}"
    counted = _of_them().search(line)
    if counted and not (first and first[0]):
        return f"{counted[1]} {line[: counted.start()]}{line[counted.end() :]}"
    parts = re.split(r"(?:, | - )", line)
    head = re.fullmatch(r"(?:(?:an?|the|your|some) )?([a-z][a-z' -]*)", parts[0], re.IGNORECASE)
    for n, part in enumerate(parts[1:] if head else (), start=1):
        found = _weight_after().fullmatch(f" {part}")
        if found and head:
            rest = [*parts[1:n], *([found[2]] if found[2] else []), *parts[n + 1 :]]
            amount = re.sub(r"^an? (?=\d)", "", found[1])
            return ", ".join([f"{amount} {head[1]}", *rest])
    return line

"""Ingredient lines: what people write, as amount, unit, food and what is done to it.

Reading never fails and never drops a word: what is not an amount, a unit or a food stays in
``preparation`` or ``note``, and ``doubts`` says what a person should look at.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from foodsafety.data import data_text
from foodsafety.foods import (
    FoodKind,
    Locale,
    convert_amount,
    food_kind,
    kitchen_units,
    match_food,
    stem,
    stem_words,
    unit_g,
)

LONGEST_LINE = 500


@dataclass(frozen=True, slots=True, kw_only=True)
class Ingredient:
    """One line understood. ``low`` and ``high`` are None where no amount is given; ``unit`` is
    None for a plain count. ``each_amount`` ``each_unit`` is the size of one ("2 x 400 g tin").
    ``doubts`` are ids of what to ask: food-unknown, food-unsure, negative, unit-impossible,
    amount-odd, heading, too-long, empty."""

    text: str
    low: float | None = None
    high: float | None = None
    unit: str | None = None
    food: str | None = None
    preparation: str = ""
    note: str = ""
    kind: str | None = None
    allergens: tuple[str, ...] = ()
    alternatives: tuple[str, ...] = ()
    each_amount: float | None = None
    each_unit: str | None = None
    doubts: tuple[str, ...] = ()

    @property
    def measured(self) -> bool:
        """True if there is an amount."""
        return self.low is not None


@dataclass(frozen=True, slots=True, kw_only=True)
class KnownFood:
    """A food this organisation has been asked about once: what it is like, and what it brings."""

    kind: str
    allergens: tuple[str, ...] = ()


Known = Mapping[tuple[str, ...], KnownFood]


@cache
def _words() -> dict[str, Any]:
    return tomllib.loads(data_text("ingredient_words.toml"))


@cache
def _listed(name: str) -> frozenset[str]:
    return frozenset(_words()[name].split())


@cache
def _count_nouns() -> Mapping[str, str]:
    short = _words()["short"]
    return {stem(word): short.get(word, word) for word in _words()["count_nouns"].split()}


@cache
def _unit_words() -> tuple[dict[str, str], dict[str, str]]:
    """Unit ids by lower-case word, and by word whose capitals matter ("T" and "t")."""
    plain: dict[str, str] = {}
    exact: dict[str, str] = {}
    for row in kitchen_units().values():
        for word in row.words:
            plain[word] = row.id
            plain[word + "s"] = row.id
        for word in row.exact:
            exact[word] = row.id
    return plain, exact


_VULGAR = {
    "½": "1/2", "⅓": "1/3", "⅔": "2/3", "¼": "1/4", "¾": "3/4", "⅕": "1/5", "⅖": "2/5", "⅗": "3/5", "⅘": "4/5",
    "⅙": "1/6", "⅚": "5/6", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8",
}  # fmt: skip


def plain_line(text: str) -> str:
    """A line with one kind of dash, space, times sign and fraction."""
    for sign, plain in _VULGAR.items():
        text = re.sub(rf"(?<=\d)\s*{sign}", f" {plain}", text).replace(sign, plain)
    text = text.replace("⁄", "/").replace("×", "x").replace("\u2019", "'")
    text = re.sub(r"[\u2010-\u2015\u2212]", "-", text)
    return re.sub(r"\s+", " ", text).strip()


_NUMBER = r"(?:\d+ \d+/\d+|\d+-\d+/\d+(?!\d)|\d+/\d+|\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)?|\.\d+)"
_MIXED = re.compile(r"(\d+)(?:-| ?(?:&|and|\+) ?)(\d+)/(\d+)(?![\d/])")
_RANGE = re.compile(rf"({_NUMBER})\s*(?:-|to|or|–)\s*({_NUMBER})(?![\d/])", re.IGNORECASE)
_ONE = re.compile(_NUMBER)


def _value(text: str) -> float | None:
    text = text.replace("-", " ").strip()
    if re.fullmatch(r"\d{1,3}(,\d{3})+(\.\d+)?", text):
        text = text.replace(",", "")
    total = 0.0
    for part in text.replace(",", ".").split():
        if "/" in part:
            top, bottom = part.split("/")
            if float(bottom) == 0:
                return None
            total += float(top) / float(bottom)
        else:
            total += float(part)
    return total


class _Line:
    """What is left of a line while it is read, and what has been found."""

    def __init__(self, text: str, locale: Locale) -> None:
        self.rest = text
        self.locale = locale
        self.low: float | None = None
        self.high: float | None = None
        self.unit: str | None = None
        self.each: tuple[float, str] | None = None
        self.before: list[str] = []
        self.prepared: list[str] = []
        self.notes: list[str] = []
        self.alternatives: list[str] = []
        self.doubts: list[str] = []

    def take(self, pattern: str | re.Pattern[str]) -> re.Match[str] | None:
        """A match at the start of the rest, which is then used up."""
        ready = re.compile(pattern, re.IGNORECASE) if isinstance(pattern, str) else pattern
        found = ready.match(self.rest)
        if found:
            self.rest = self.rest[found.end() :].lstrip()
        return found

    def note(self, text: str) -> None:
        text = text.strip(" ,;.-")
        if text and text not in self.notes:
            self.notes.append(text)


def _take_amount(line: _Line) -> bool:
    """A number or a range at the start; words for numbers too."""
    mixed = _MIXED.match(line.rest)
    if mixed and 0 < int(mixed[2]) < int(mixed[3]) and int(mixed[1]) > 0:
        line.rest = line.rest[mixed.end() :].lstrip()
        line.low = line.high = int(mixed[1]) + int(mixed[2]) / int(mixed[3])
        return True
    found = line.take(_RANGE)
    if found and (low := _value(found[1])) is not None and (high := _value(found[2])) is not None:
        line.low, line.high = min(low, high), max(low, high)
        return True
    found = line.take(_ONE)
    if found:
        line.low = line.high = _value(found[0])
        if line.low is None:
            line.doubts.append("amount-odd")
        elif line.take(r"dozen\b"):
            line.low = line.high = 12 * line.low
        line.take(r"(?:of )?an?\b(?= )")
        return True
    return _take_number_words(line)


def _take_number_words(line: _Line) -> bool:
    numbers = _words()["numbers"]
    if line.take(r"half (?:a |an )?dozen\b"):
        line.low = line.high = 6.0
        return True
    found = re.match(r"(?:a )?(half|quarter|third)(?: of)?(?: an?)? ", line.rest, re.IGNORECASE)
    if found:
        line.rest = line.rest[found.end() :]
        line.low = line.high = float(numbers[found[1].lower()])
        return True
    found = re.match(rf"({'|'.join(numbers)})(?: (?:of|or (\w+)))?(?= )", line.rest, re.IGNORECASE)
    if not found:
        return False
    line.rest = line.rest[found.end() :].lstrip()
    line.low = line.high = float(numbers[found[1].lower()])
    if found[2] and found[2].lower() in numbers:
        line.high = float(numbers[found[2].lower()])
    if found[1].lower() in ("a", "an", "one"):
        if line.take(r"and a half\b"):
            line.low = line.high = 1.5
        elif line.take(r"dozen\b"):
            line.low = line.high = 12.0
        elif line.take(r"couple(?: of)?\b"):
            line.low = line.high = 2.0
    return True


_UNIT_WORD = re.compile(
    r"(?:us |uk |american |imperial |metric )?"
    r"(?:fl(?:uid)?\.?\s*o(?:z|unce)s?|dessert spoons?|[A-Za-z]+)\.?(?![A-Za-z'])"
)


def _unit_at(text: str) -> tuple[str, int] | None:
    """A unit of mass or volume at the start of a text: its id and where it ends."""
    plain, exact = _unit_words()
    found = _UNIT_WORD.match(text)
    if not found:
        return None
    word = found[0].rstrip(".")
    if word in exact:
        return exact[word], found.end()
    low = re.sub(r"\s+", " ", word.lower().replace(".", ""))
    low = re.sub(r"^fl ?oz", "fl oz", low)
    for name in (low, low.rstrip("s")):
        if name in plain:
            return plain[name], found.end()
    if " " in low:
        first = low.split()[0]
        at = text.index(" ")
        return (plain[first], at) if first in plain else None
    return None


def _take_unit(line: _Line) -> str | None:
    found = _unit_at(line.rest)
    if not found:
        return None
    unit, end = found
    # "2 c", "1 l" are units; "c" before a letter was refused above, but "T bone" is a food.
    line.rest = line.rest[end:].lstrip(" .")
    return unit


_MEASURE = re.compile(rf"({_NUMBER})(?:\s*(?:-|to)\s*({_NUMBER}))?[\s-]*(?=[A-Za-z])")


def _measure_at(text: str) -> tuple[float, str, int] | None:
    """A number with a unit of mass or volume at the start of a text."""
    found = _MEASURE.match(text)
    if not found:
        return None
    unit = _unit_at(text[found.end() :])
    value = _value(found[1])
    return (value, unit[0], found.end() + unit[1]) if unit and value is not None else None


def _container_follows(text: str, *, counted: bool = True) -> bool:
    """True if what comes next is something that a size before it is the size of."""
    words = re.findall(r"[a-z]+", text.lower())[:1]
    if not words:
        return False
    noun = stem(words[0])
    return (noun in _count_nouns() and noun not in _listed("not_sized")) or (counted and noun in _listed("sized_foods"))


def _written(amount: float, unit: str) -> str:
    return f"{amount:g} {unit.replace('_', ' ')}"


def _take_each(line: _Line) -> None:
    """The size of one: "2 x 400 g tins", "2 400 g tins", "1 (14.5 oz) can", "3 cm piece"."""
    times = line.take(r"x\s*(?=\d|\.)")
    bracket = re.match(r"\(([^()]*)\)", line.rest)
    inside = bracket[1] if bracket else line.rest
    measure = _measure_at(re.sub(r"^(?:about|approx\.?|around) ", "", inside))
    if bracket and measure:
        after = line.rest[bracket.end() :].lstrip()
        if _container_follows(after) or line.unit is None:
            line.each = measure[:2]
            line.note(bracket[1])
            line.rest = after
    elif measure and (times or _container_follows(line.rest[measure[2] :].lstrip(" -"))):
        line.each = measure[:2]
        line.note(_written(*measure[:2]))
        line.rest = line.rest[measure[2] :].lstrip(" -")
        _drop_slashed(line)


def _take_each_after(line: _Line) -> None:
    """ "1 can (540 ml) chickpeas": the size stands after what it is the size of."""
    bracket = re.match(r"\(((?:about |approx\.? )?[^()]*)\)", line.rest)
    measure = _measure_at(re.sub(r"^(?:about|approx\.?) ", "", bracket[1])) if bracket else None
    if line.unit in _count_nouns().values() and line.each is None and bracket and measure:
        line.each = measure[:2]
        line.note(bracket[1])
        line.rest = line.rest[bracket.end() :].lstrip()


def _drop_slashed(line: _Line) -> None:
    """The same amount again in other units: "225 g/8 oz", "1 kg/2 lb 4 oz"."""
    while line.rest.startswith("/"):
        measure = _measure_at(line.rest[1:].lstrip())
        if not measure:
            break
        skipped = len(line.rest[1:]) - len(line.rest[1:].lstrip()) + 1
        text = line.rest[1 : skipped + measure[2]]
        line.rest = line.rest[skipped + measure[2] :].lstrip()
        more = _measure_at(line.rest)
        if more and more[1] in ("oz", "fl_oz"):
            text += " " + line.rest[: more[2]]
            line.rest = line.rest[more[2] :].lstrip()
        line.note(text)


def _take_more(line: _Line) -> None:
    """A second part of the same amount: "2 lb 4 oz", "1 cup plus 2 tbsp"."""
    if line.unit is None or line.low is None or line.high is None:
        return
    joined = re.match(r"(?:,? ?(plus|and|\+|&|minus|less)\s+)", line.rest)
    start = joined.end() if joined else 0
    measure = _measure_at(line.rest[start:])
    if not measure:
        return
    amount, unit, end = measure
    same = (unit_g(unit, line.locale) is None) == (unit_g(line.unit, line.locale) is None)
    smaller = convert_amount(1, line.unit, unit, line.locale) > 1 if same else False
    if not same or not (joined or smaller):
        return
    sign = -1 if joined and joined[1] in ("minus", "less") else 1
    more = sign * convert_amount(amount, unit, line.unit, line.locale)
    line.note(f"{_written(line.low, line.unit)} {joined[1]} {_written(amount, unit)}" if joined else "")
    line.low, line.high = line.low + more, line.high + more
    line.rest = line.rest[start + end :].lstrip()


def _take_sizes(line: _Line) -> None:
    while True:
        found = re.match(r"([a-z-]+)(?:,? |$)", line.rest, re.IGNORECASE)
        if not found or found[1].lower() not in _listed("sizes") or not line.rest[found.end() :].strip():
            return
        name = match_food(re.split(r"[,(;]| - ", line.rest)[0])
        if name and name.first_word:
            return
        line.note(found[1])
        line.rest = line.rest[found.end() :].lstrip()


def _names_another(text: str, rest: str) -> bool:
    """True if taking the first words away makes it another food: "ground beef", "whole chicken"."""
    whole, left = (match_food(re.split(r"[,(;]| - ", part)[0]) for part in (text, rest))
    return whole is not None and (left is None or left.kind.id != whole.kind.id)


def _take_count_noun(line: _Line) -> None:
    """ "cloves of garlic", "tin chopped tomatoes"; not the food itself ("2 fillets")."""
    found = re.match(r"([a-z]+)s?\b\.?(?:-size[d]?)?( pieces?)?", line.rest, re.IGNORECASE)
    if not found:
        return
    noun = _count_nouns().get(stem(found[1].lower()))
    rest = line.rest[found.end() :].lstrip()
    if noun is None or ((not rest or rest[0] in ",;-") and noun in ("clove", "leaf", "fillet")):
        return
    if _names_another(line.rest, rest) and not rest.lower().startswith("of "):
        return
    line.unit = noun
    line.rest = rest


@cache
def _about_pattern() -> re.Pattern[str]:
    words = "|".join(map(re.escape, sorted(_listed("about"), key=len, reverse=True)))
    return re.compile(rf"(?:{words})\.?(?=\s|\d)|up to\b|at least\b", re.IGNORECASE)


def _open_quantity(line: _Line) -> None:
    """Everything before the food."""
    for words in _words()["vague"]:
        if line.take(rf"{words}\b(?! (?:dozen|hundred))"):
            line.note(words)
            break
    found = line.take(_about_pattern())
    if found and found[0].lower() in ("up to", "at least"):
        line.note(found[0].lower())
    dimension = re.match(
        rf"({_NUMBER}(?:\s*-\s*{_NUMBER})?)[\s-]?(cm|mm|inch(?:es)?|in|\")(?:\s*/\s*{_NUMBER}[\s-]?(?:cm|mm|inch(?:es)?|in|\"))?[\s-]+",
        line.rest,
        re.IGNORECASE,
    )
    if dimension:
        line.low = line.high = 1.0
        line.note(dimension[0])
        line.rest = line.rest[dimension.end() :]
        _take_count_noun(line)
        return
    measure = _measure_at(line.rest)
    if (
        measure
        and _container_follows(line.rest[measure[2] :].lstrip(" -"), counted=False)
        and not re.match(_RANGE, line.rest)
    ):
        line.low = line.high = 1.0
        _take_each(line)
        _take_sizes(line)
        _take_count_noun(line)
        return
    if not _take_amount(line):
        _take_sizes_then_noun(line, vague=bool(line.notes))
        return
    if line.take(r"x (?=\d)"):
        line.rest = "x " + line.rest
    _take_each(line)
    inches = line.take(rf"{_NUMBER}[\s-]?(?:cm|mm|inch(?:es)?|in)[\s-]+")
    if inches:
        line.note(inches[0])
    if line.each is None:
        _take_sizes(line)
        line.unit = _take_unit(line)
        if line.unit:
            _drop_slashed(line)
            _take_more(line)
    if line.unit is None:
        _take_sizes(line)
        _take_count_noun(line)
        _drop_slashed(line)
        _take_each_after(line)


def _take_sizes_then_noun(line: _Line, *, vague: bool) -> None:
    """ "pinch of salt", "large handful mint": one of it, though no number is written."""
    held = (line.rest, list(line.notes))
    _take_sizes(line)
    found = re.match(r"([a-z]+)\b(?: (?:pieces?))?(?= )", line.rest, re.IGNORECASE)
    noun = _count_nouns().get(stem(found[1].lower())) if found else None
    if noun and found and not _names_another(line.rest, line.rest[found.end() :]):
        line.low = line.high = None if vague else 1.0
        line.unit = noun
        line.rest = line.rest[found.end() :].lstrip()
    elif noun is None:
        line.rest, line.notes = held


def _close_brackets(line: _Line) -> None:
    for found in re.finditer(r"[(\[]([^()\[\]]*)[)\]]", line.rest):
        line.note(found[1])
    line.rest = re.sub(r"\s*[(\[][^()\[\]]*[)\]]\s*", " ", line.rest)
    line.rest = re.sub(r"\s+([,;])", r"\1", line.rest.replace("(", " ").replace(")", " "))
    line.rest = re.sub(r"\s+", " ", line.rest).strip()


@cache
def _note_pattern() -> re.Pattern[str]:
    return re.compile(rf"(?:^|\s)((?:{'|'.join(_words()['notes'])}))$", re.IGNORECASE)


def _split_tail(line: _Line) -> None:
    """What stands after the first comma or dash: preparation, or a note."""
    parts = re.split(r"\s*[,;]\s+|\s*[,;]$|\s+-+\s+|,(?=[A-Za-z])", line.rest)
    parts = [part.strip() for part in parts if part and part.strip()]
    if not parts:
        return
    # "boneless, skinless chicken thighs": only preparation before the comma is no food yet.
    while len(parts) > 1 and all(word in _listed("preparation") for word in re.findall(r"[a-z-]+", parts[0].lower())):
        line.prepared.append(parts.pop(0))
    line.rest = parts[0]
    for part in parts[1:]:
        if _note_pattern().fullmatch(part) or _note_pattern().match(" " + part):
            line.note(part)
        else:
            line.prepared.append(part)


def _strip_notes(line: _Line) -> None:
    for _ in range(4):
        found = _note_pattern().search(line.rest)
        if not found or not line.rest[: found.start()].strip():
            if found and not line.rest[: found.start()].strip():
                return
            return
        line.note(found[1])
        line.rest = line.rest[: found.start()].rstrip(" ,;-")


@cache
def _prepared_after() -> re.Pattern[str]:
    words = "|".join(map(re.escape, sorted(_listed("preparation"))))
    more = "and|into|in|small|large|pieces|cubes|chunks|slices|half|halves"
    return re.compile(rf"(?<=\S) ((?:(?:{words}|{more})(?: |$))+)$", re.IGNORECASE)


def _fresh_by_count(line: _Line, rest: str) -> bool:
    """ "3 chopped tomatoes" are fresh ones; by weight or in a tin they are the tinned kind."""
    found = match_food(rest)
    return line.unit in (None, "cup") and found is not None and found.kind.id == "tomato"


def _strip_preparation(line: _Line) -> None:
    """Preparation words before the food, unless the food's own name begins with them."""
    taken: list[str] = []
    while True:
        found = re.match(r"(and |& |but )?([a-z-]+)(?: |$)", line.rest, re.IGNORECASE)
        if not found or found[2].lower() not in _listed("preparation"):
            break
        rest = line.rest[found.end() :].strip()
        if not rest or (_names_another(line.rest, rest) and not _fresh_by_count(line, rest)):
            break
        taken.append((found[1] or "") + found[2])
        line.rest = rest
    if taken:
        line.prepared.insert(0, " ".join(taken))
    # and after it, without a comma: "parsley finely chopped"
    found = _prepared_after().search(line.rest)
    if found and found[1].split()[0].lower() in _listed("preparation"):
        kept = match_food(line.rest)
        if not (kept and kept.sure and len(stem_words(line.rest)) == 1):
            line.prepared.append(found[1].strip())
            line.rest = line.rest[: found.start()].strip()


def _split_alternatives(line: _Line) -> None:
    """ "butter or margarine": the first is the food, the rest could be."""
    parts = re.split(r"\s+or\s+", line.rest, flags=re.IGNORECASE)
    if len(parts) < 2:
        return
    head, *others = parts
    # "beef or chicken stock": the first borrows the last word of the second.
    last = others[-1].split()
    if len(last) > 1 and not last[0][0].isdigit() and match_food(head) and (joint := match_food(f"{head} {last[-1]}")):
        same = match_food(others[-1])
        own = match_food(head)
        if same and joint.kind.id == same.kind.id and own and own.kind.id != joint.kind.id:
            head = f"{head} {last[-1]}"
    line.rest = head
    line.alternatives.extend(others)
    line.note("or " + " or ".join(others))


def _noun_after(line: _Line) -> None:
    """ "2 garlic cloves": counted in cloves, of garlic."""
    words = line.rest.split()
    if line.unit or line.low is None or len(words) < 2:
        return
    noun = stem(words[-1].lower())
    kept = {stem_words(text) for text in _words()["kept_after"]}
    if noun in _listed("after_food") and stem_words(" ".join(words[-2:])) not in kept:
        line.unit = noun
        line.rest = " ".join(words[:-1])


def _kind_of(line: _Line, food: str, known: Known) -> tuple[str | None, tuple[str, ...], list[str]]:
    own = known.get(stem_words(food))
    if own:
        kind = food_kind(own.kind)
        return kind.id, tuple(sorted(kind.allergens | set(own.allergens))), []
    found = match_food(food)
    if found is None:
        return None, (), ["food-unknown"]
    counted = match_food(f"{food} {line.unit}") if line.unit in _count_nouns().values() else None
    if counted and counted.whole:
        found = counted
    for state in ("cooked", "leftover"):
        ready = match_food(f"{state} {food}") if state in " ".join(line.prepared).lower().split("un")[0] else None
        if ready and ready.kind.name.startswith(("cooked", "ready")):
            found = ready
    tinned = match_food(f"tinned {food}") if line.unit in ("tin", "can", "jar") else None
    if tinned and tinned.kind.name.startswith("tinned"):
        found = tinned
    sure = found.sure and not _two_foods(food, found.kind)
    kind, doubts = _in_context(line, food, found.kind), [] if sure else ["food-unsure"]
    return kind.id, tuple(sorted(kind.allergens)), doubts


def _two_foods(food: str, kind: FoodKind) -> bool:
    """ "olive oil and lemon juice": one line, two foods, and only one of them was taken."""
    parts = [match_food(part) for part in re.split(r"\s+(?:and|&)\s+|\s*/\s*", food)]
    kinds = {part.kind.id for part in parts if part}
    return len(parts) > 1 and len(kinds) > 1 and kind.id in kinds


_SPOONS = frozenset({"tsp", "tbsp", "dsp", "pinch", "dash", "grind", "shake", "twist", "grating", "smidgen"})
# A word that means the fresh thing by the piece and the ground one by the spoon.
_BY_SPOON = {"bell_pepper": "pepper_spice", "chilli": "chilli_powder", "ginger": "ground_ginger"}
_PLAIN_BY_SPOON = {("pepper",), ("chilli",), ("chili",), ("ginger",), ("coriander",)}


def _in_context(line: _Line, food: str, kind: FoodKind) -> FoodKind:
    """The kind a plain word means with this unit: a teaspoon of pepper is no vegetable."""
    words = stem_words(food)
    prepared = " ".join(line.prepared).lower()
    if words not in _PLAIN_BY_SPOON or re.search(r"chop|grat|minc|fresh|slic|tor|leav", prepared):
        return kind
    if line.unit in _SPOONS or (line.low is None and words == ("pepper",)):
        if words == ("coriander",):
            return food_kind("ground_coriander") if line.unit in ("tsp", "pinch") else kind
        return food_kind(_BY_SPOON.get(kind.id, kind.id))
    return kind


_BULLET = re.compile(r"^(?:[*•·▢☐◦‣▪+]\s*|-+\s+|\[[ xX]?\]\s*|\d{1,2}[.)]\s+(?=[\dA-Za-z]))+")
_JUICE = re.compile(
    r"^(?:the )?((?:finely |freshly |squeezed |grated |pared )*(?:juice|zest|rind|peel)"
    r"(?:(?:,| and| &|/) ?(?:grated |finely )*(?:juice|zest|rind))?)(?: of| from)(?: the)? ",
    re.IGNORECASE,
)


def _is_heading(text: str) -> bool:
    if text.startswith("#") or re.fullmatch(r"\*\*[^*]+\*\*:?|__[^_]+__:?", text):
        return True
    if text.endswith(":"):
        return True
    return bool(re.fullmatch(r"for (?:the|a) [^,\d]+", text, re.IGNORECASE)) or (
        text.isupper() and not re.search(r"\d", text) and match_food(text) is None
    )


def _empty(text: str, doubt: str) -> Ingredient:
    return Ingredient(text=text, doubts=(doubt,), note="heading" if doubt == "heading" else "")


def read_ingredient(text: str, locale: Locale, known: Known | None = None) -> Ingredient:
    """One ingredient line understood. Units take the size they have in ``locale``."""
    plain = plain_line(text)
    if not plain:
        return _empty(text, "empty")
    if len(plain) > LONGEST_LINE:
        return replace(_empty(text, "too-long"), note=plain)
    if re.match(r"-\s?\d", plain) and not re.match(r"-\s+\d", plain):
        return replace(read_ingredient(plain[1:], locale, known), text=text, low=None, high=None, doubts=("negative",))
    plain = _BULLET.sub("", plain).strip()
    if not plain:
        return _empty(text, "empty")
    if _is_heading(plain):
        return _empty(text, "heading")
    line = _Line(re.sub(r"\*\*|__|`", "", plain), locale)
    juice = _JUICE.match(line.rest)
    if juice:
        line.prepared.append(juice[1])
        line.rest = line.rest[juice.end() :]
    _open_quantity(line)
    _take_sizes(line)
    if line.take(r"each(?: of)?\b"):
        line.note("each")
    line.take(r"(?:of|the)\b(?: the\b)?")
    return _finish(text, line, known or {})


def _question_unit(line: _Line) -> None:
    word = re.match(r"(°\s?[CF]?|[a-z]+)", line.rest, re.IGNORECASE)
    if line.low is not None and line.unit is None and word:
        name = word[1].lower()
        if name.startswith("°") or stem(name) in _listed("not_units") or name in _listed("not_units"):
            line.doubts.append("unit-impossible")


def _finish(text: str, line: _Line, known: Known) -> Ingredient:
    _question_unit(line)
    _close_brackets(line)
    # An amount may stand last: "Plain flour, 200 g", "Butter - 50 g".
    if line.low is None:
        tail = re.search(rf"(?:,|:|\s-+|\s)\s*({_NUMBER}(?:\s*-\s*{_NUMBER})?\s*[A-Za-z. ]*)$", line.rest)
        if tail and (measure := _measure_at(tail[1])) and measure[2] >= len(tail[1].rstrip(" .")):
            line.low, line.unit = measure[0], measure[1]
            ranged = _RANGE.match(tail[1])
            line.high = _value(ranged[2]) if ranged else measure[0]
            line.rest = line.rest[: tail.start()].strip(" ,:-")
    _split_tail(line)
    _strip_notes(line)
    _strip_preparation(line)
    _take_sizes(line)
    _strip_preparation(line)
    _split_alternatives(line)
    _strip_notes(line)
    _noun_after(line)
    food = line.rest.strip(" .,;:-")
    kind, allergens, doubts = _kind_of(line, food, known) if food else (None, (), ["food-unknown"])
    if line.low is not None and line.low <= 0:
        doubts.append("amount-odd")
    if line.high is not None and line.high > 100_000:
        doubts.append("amount-odd")
    return Ingredient(
        text=text,
        low=line.low,
        high=line.high,
        unit=line.unit,
        food=food or None,
        preparation=", ".join(line.prepared),
        note="; ".join(line.notes),
        kind=kind,
        allergens=allergens,
        alternatives=tuple(line.alternatives),
        each_amount=line.each[0] if line.each else None,
        each_unit=line.each[1] if line.each else None,
        doubts=tuple(dict.fromkeys((*line.doubts, *doubts))),
    )

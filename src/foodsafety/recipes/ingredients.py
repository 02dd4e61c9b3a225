"""Ingredient lines: what people write, as amount, unit, food and what is done to it.

Reading never fails and never drops a word: what is not an amount, a unit or a food stays in
``preparation`` or ``note``, and ``doubts`` says what a person should look at.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache, lru_cache

from foodsafety.foods import (
    FoodKind,
    Locale,
    allergen_sets,
    allergen_tag,
    food_kind,
    is_raw,
    like_a_food,
    match_food,
    stem,
    stem_words,
)
from foodsafety.recipes.amounts import NUMBER, RANGE, in_digits, measure_at, number_value, open_quantity, take_sizes
from foodsafety.recipes.ingredient_words import (
    LONGEST_LINE,
    OpenLine,
    count_nouns,
    hides_raw,
    ingredient_vocabulary,
    listed_words,
    plain_line,
)
from foodsafety.recipes.plain_speech import plain_words
from foodsafety.recipes.preparations import (
    close_brackets,
    in_its_state,
    noun_after,
    split_alternatives,
    split_tail,
    strip_notes,
    strip_preparation,
)
from foodsafety.recipes.said_after import amount_first
from foodsafety.recipes.verb_forms import kit_words
from foodsafety.recipes.words import verb_classes

# The doubt about a food that only the method names.
NOT_LISTED = "not-listed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Ingredient:
    """One line understood. ``low`` and ``high`` are None where no amount is given; ``unit`` is
    None for a plain count. ``each_amount`` ``each_unit`` is the size of one ("2 x 400 g tin").
    ``doubts`` are ids of what to ask: food-unknown, food-unsure, raw-hidden, not-listed, negative, unit-impossible,
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


KnownFoods = Mapping[tuple[str, ...], KnownFood]


def soils_of(item: Ingredient) -> tuple[str, ...]:
    """The soils that an ingredient brings, as bought."""
    return tuple(sorted(food_kind(item.kind).soils)) if item.kind else ("unknown",) if item.food else ()


def is_hazardous(item: Ingredient) -> bool:
    """True if an ingredient came raw."""
    return any(is_raw(name) for name in soils_of(item))


def _kind_of(line: OpenLine, food: str, known: KnownFoods) -> tuple[str | None, tuple[str, ...], list[str]]:
    own = known.get(stem_words(food))
    if own:
        kind = food_kind(own.kind)
        return kind.id, tuple(sorted(kind.allergens | set(own.allergens))), []
    found = match_food(food)
    if found is None:
        like = None if set(food.lower().split()) & (verb_classes().keys() | kit_words()) else like_a_food(food)
        if like is None:
            return None, (), ["food-unknown"]
        return like.kind.id, tuple(sorted(like.kind.allergens)), ["food-unsure"]
    counted = match_food(f"{food} {line.unit}") if line.unit in count_nouns().values() else None
    if counted and counted.whole:
        found = counted
    found = in_its_state(line, food, found)
    like_cooked = ingredient_vocabulary()["cooked_like"]
    guessed = like_cooked.get(found.kind.group) if "cooked" in line.prepared and _is_raw_kind(found.kind) else None
    if guessed:
        return guessed, tuple(sorted(food_kind(guessed).allergens | found.kind.allergens)), ["food-unsure"]
    like_raw = ingredient_vocabulary()["raw_like"].get(found.kind.group)
    if (
        like_raw
        and like_raw != found.kind.id
        and re.search(
            r"\b(?:raw|uncooked|unpasteuri[sz]ed)\b", " ".join((*line.prepared, *line.notes, food)), re.IGNORECASE
        )
    ):
        return like_raw, tuple(sorted(food_kind(like_raw).allergens | found.kind.allergens)), ["food-unsure"]
    tinned = match_food(f"tinned {food}") if line.unit in ("tin", "can", "jar") else None
    if tinned and tinned.kind.name.startswith("tinned"):
        found = tinned
    beside = _named_beside(food, found.kind) | _counted_beside(line.text, found.kind)
    sure = found.sure and not _two_foods(food, found.kind) and not beside - _declared(line.text)
    kind, doubts = _in_context(line, food, found.kind), [] if sure else ["food-unsure"]
    return kind.id, tuple(sorted(kind.allergens | beside)), doubts


def _named_beside(food: str, kind: FoodKind) -> frozenset[str]:
    """Allergens of other foods that a line names beside the one that was taken: "milk 200ml mixed with water" holds
    milk, whatever else it is."""
    others = (match_food(part) for part in _BESIDE.split(food))
    return frozenset(name for row in others if row and row.kind.id != kind.id for name in row.kind.allergens) - (
        kind.allergens
    )


_CONTAINS = re.compile(
    r"\b(?:contains?|containing|may contain|with traces of|traces of|allergens?:)(?: traces of| bits of)?\s+([^().;]+)",
    re.IGNORECASE,
)


def _declared(text: str) -> frozenset[str]:
    """Allergens that a line says are in it: "curry paste (contains shrimp)"."""
    told = (part for found in _CONTAINS.finditer(text) for part in re.split(r",|/|&|\band\b|\bor\b", found[1]))
    tags = ((part, allergen_tag(part.strip())) for part in told if part.strip())
    known = {name for row in allergen_sets().values() for name in row.members}
    foods = ((tag, None if tag in known else match_food(part)) for part, tag in tags)
    return frozenset(name for tag, food in foods for name in (food.kind.allergens if food else {tag} & known))


_COUNTED_FIRST = re.compile(r"\s*(?:[\d½¼¾⅓⅔]|(?:an?|half|one|two|three|four|six) )", re.IGNORECASE)


def _counted_beside(text: str, kind: FoodKind) -> frozenset[str]:
    """The same of foods that stand behind it with an amount of their own: "2 carrots, 2 sticks celery"."""
    behind = re.split(r"[,;]|\s(?:and|&|plus|\+)\s", text)[1:]
    found = ((part, match_food(part)) for part in behind)
    others = (row for part, row in found if row and (row.whole or _COUNTED_FIRST.match(part)))
    return frozenset(name for row in others if row.kind.id != kind.id for name in row.kind.allergens) - kind.allergens


_BESIDE = re.compile(r"\s+(?:and|&|with|plus|in)\s+|\s*[/+]\s*|\s+\d+\s*(?:g|kg|ml|l|oz|lb)\s+", re.IGNORECASE)


@cache
def _not_cooked() -> re.Pattern[str]:
    return re.compile(str(ingredient_vocabulary()["not_cooked"]), re.IGNORECASE)


def _is_raw_kind(kind: FoodKind) -> bool:
    """True for a food that is raw from an animal, or raw flour."""
    return any(is_raw(name) for name in kind.soils)


def _two_foods(food: str, kind: FoodKind) -> bool:
    """ "olive oil and lemon juice": one line, two foods, and only one of them was taken."""
    parts = [match_food(part) for part in re.split(r"\s+(?:and|&)\s+|\s*/\s*", food)]
    kinds = {part.kind.id for part in parts if part}
    return len(parts) > 1 and len(kinds) > 1 and kind.id in kinds


_SPOONS = frozenset({"tsp", "tbsp", "dsp", "pinch", "dash", "grind", "shake", "twist", "grating", "smidgen"})
# A word that means the fresh thing by the piece and the ground one by the spoon.
_BY_SPOON = {"bell_pepper": "pepper_spice", "chilli": "chilli_powder", "ginger": "ground_ginger"}
_PLAIN_BY_SPOON = {("pepper",), ("chilli",), ("chili",), ("ginger",), ("coriander",)}


def _in_context(line: OpenLine, food: str, kind: FoodKind) -> FoodKind:
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
# "Olive oil ........ 3 tbsp".
_LEADER = re.compile(r"^([^.]+?)\s*(?:\.{3,}|…+|_{3,})\s*(\d.*)$")
# "You'll also want carrots": the carrots.
ALSO = re.compile(
    r"^(?:(?:(?:and|so|what|all|for \w+(?: people)?,?) )*(?:you|we|u|ya|i)(?:['’]?ll| will| gonna)? (?:also )?"
    r"(?:need|want|have|take)(?: also| as well| is| are)?|(?:need|get|grab|use|take)(?= (?:\d|[½¼¾⅓⅔]))"
    r"|also|plus|and also):? "
    r"(?=[a-z0-9])",
    re.IGNORECASE,
)
# "Walnuts if you like them": a note, whatever it says.
_IF_LIKED = re.compile(r",?\s+(if (?:you|we|they|anyone|anybody|nobody|there)\b[^()]*)$", re.IGNORECASE)
# "Whatever cooked veg we have": the food between.
_WHATEVER = re.compile(
    r"^(?:(?:about )?(?:whatever|whichever|any|some) )"
    r"((?:(?:cooked|leftover|raw|fresh|frozen|dried|green|soft) )*[a-z]+)"
    r" (?:that )?(?:we|you|they|i)(?:'ve| have)? (?:have|got|like|fancy|find|want|need to use)"
    r"(?: (?:in|left|over|around|to hand))*\b",
    re.IGNORECASE,
)
_JUICE = re.compile(
    r"^(?:the )?((?:finely |freshly |squeezed |grated |pared )*(?:juice|zest|rind|peel)"
    r"(?:(?:,| and| &|/) ?(?:grated |finely )*(?:juice|zest|rind))?)"
    r"(?:(?: of| from)(?: the)? |\s(?=(?:\d[\d/.]*|half|an?|one|two) ))",
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


def read_ingredient(text: str, locale: Locale, known: KnownFoods | None = None) -> Ingredient:
    """One ingredient line understood. Units take the size they have in ``locale``."""
    return _read(text, locale, known) if known else _read_once(text, locale)


@lru_cache(maxsize=4096)
def _read_once(text: str, locale: Locale) -> Ingredient:
    """A line is looked at many times while the rows of a text are told apart, and is read once."""
    return _read(text, locale, None)


# "01    Beef mince 10% fat    6.0 kg   chilled": a number of the sheet's own, the food, its amount, how it comes.
_SHEET_ROW = re.compile(
    r"\s*(?:0\d{1,2}|\d{2,3})(?:\s{2,}|\t)(?P<food>\S.*?)(?:\s{2,}|\t)\s*"
    r"(?P<amount>[\d.,]+\s?(?:kg|g|l|ml|ea|no|each))\b(?P<how>.*)$"
)


def _plain_row(text: str) -> str:
    """A line as plain words; a row of a numbered sheet in the order of other lines."""
    row = _SHEET_ROW.match(text)
    if row is None:
        return re.sub(r"\s+(?:-+>|→|=>)\s*$", "", plain_line(text))  # an arrow that points to a remark
    how = plain_line(row["how"])
    return plain_line(f"{row['amount']} {row['food']}") + (f", {how}" if how else "")


def _read(text: str, locale: Locale, known: KnownFoods | None) -> Ingredient:
    plain = _plain_row(text)
    if not plain:
        return _empty(text, "empty")
    if len(plain) > LONGEST_LINE:
        return replace(_empty(text, "too-long"), note=plain)
    if re.match(r"-\s?\d", plain) and not re.match(r"-\s+\d", plain):
        return replace(read_ingredient(plain[1:], locale, known), text=text, low=None, high=None, doubts=("negative",))
    plain = _IF_LIKED.sub(r" (\1)", ALSO.sub("", _BULLET.sub("", plain).strip()))
    if not plain:
        return _empty(text, "empty")
    if _is_heading(plain):
        return _empty(text, "heading")
    plain = _not_cooked().sub("", plain)
    # "Haddock - 400 g smoked" is 400 g smoked haddock.
    plain = _AMOUNT_BEHIND_A_DASH.sub(r"\2 \1\3", _KIND_BEHIND.sub(r"\2 \3 \1", plain))
    line = OpenLine(in_digits(plain_words(re.sub(r"\*\*|__|`", "", plain))), locale)
    line.rest = _LEADER.sub(r"\2 \1", line.rest)
    line.rest = amount_first(_WHATEVER.sub(r"\1", re.sub(r"^(\d+) bits of ", r"\1 pieces of ", line.rest)))
    juice = _JUICE.match(line.rest)
    if juice:
        line.prepared.append(juice[1])
        line.rest = line.rest[juice.end() :]
    open_quantity(line)
    take_sizes(line)
    if line.take(r"each(?: of)?\b"):
        line.note("each")
    if line.low is not None and line.take(r"and a half\b"):
        line.low, line.high = line.low + 0.5, (line.high or line.low) + 0.5
    line.take(r"(?:of|the)\b(?: (?:the|those|these|that|my|your)\b)?")
    return _finish(text, line, known or {})


def _question_unit(line: OpenLine) -> None:
    word = re.match(r"(°\s?[CF]?|[a-z]+)", line.rest, re.IGNORECASE)
    if line.low is not None and line.unit is None and word:
        name = word[1].lower()
        if name.startswith("°") or stem(name) in listed_words("not_units") or name in listed_words("not_units"):
            line.doubts.append("unit-impossible")


_EACH = re.compile(rf"({NUMBER}\s*[A-Za-z]+\.?)\s+each\b", re.IGNORECASE)


def _say_each(text: str, line: OpenLine) -> None:
    """The size of one, said after the food: "4 fillets, 150 g each", "10 steaks 225 g each"."""
    last = _EACH_LAST.search(line.rest)
    size = measure_at(last[1]) if last else None
    if last and size and line.low is not None and line.unit is None and line.each is None:
        line.note(last[0].strip())
        line.each, line.rest = size[:2], line.rest[: last.start()]
        return
    found = _EACH.search(text)
    measure = measure_at(found[1]) if found else None
    if found is None or measure is None or line.low is None or line.unit is not None or line.each is not None:
        return
    line.each = measure[:2]
    if found[0] not in " ".join(line.notes):
        line.note(found[0])


_EACH_LAST = re.compile(
    r"(?<![,(])(?<!about)(?<!approx)\s(\d[\d.]*\s?(?:g|kg|oz|lb|ml))\s+(?:each|apiece)\s*$", re.IGNORECASE
)
_KIND_BEHIND = re.compile(
    r"^([A-Za-z][A-Za-z ]{2,20}?)\s+-\s+(\d[\d.,/]*\s?(?:g|kg|ml|l|tsp|tbsp|oz|lb)s?)\s+([a-z][a-z ]{2,20})$",
    re.IGNORECASE,
)
# "Pancetta – 100 g, cubed", "beans – 1 x 400 g tin, drained".
_AMOUNT_BEHIND_A_DASH = re.compile(
    r"^([A-Za-z][A-Za-z ]+?)\s+[–—-]\s+"
    r"((?:\d+ ?x ?)?\d[\d.,/]*\s?(?:g|kg|ml|l|tsp|tbsp|oz|lb)?(?: (?:tins?|cans?))?)(,.*)$",
    re.IGNORECASE,
)
# "Lime half", "peanuts handful".
_LAST_WORD = re.compile(
    r"(?:,|:|\s-+|\s)\s*(?:an? )?(?:small |large |good |big )?"
    r"(half|handful|pinch|bunch|splash|dash|knob|drizzle|bag|packet|punnet|head|bulb)$",
    re.IGNORECASE,
)
_A_FEW_LAST = re.compile(
    r"(?:,|:|\s-+|\s)\s*(?:(?:an? )?(?:few|couple of|small|large|big)|some|several|few|sm|lg|lge|med) [a-z]+$",
    re.IGNORECASE,
)


def _with_its_state(text: str) -> tuple[str, str]:
    """A food, and how it is bought where that stands behind it: "prawns raw peeled"."""
    states = "|".join(sorted((*listed_words("preparation"), "raw", "frozen", "fresh"), key=len, reverse=True))
    found = re.search(rf"(?:\s+(?:{states}))+$", text, re.IGNORECASE)
    return (text[: found.start()], found[0].strip()) if found else (text, "")


def _amount_inside(line: OpenLine) -> bool:
    """Takes an amount that stands behind the food and before what is said of it: "choc 200g dark", "egg 1 + 1 for
    coating", "lemon 1/2"; False for any other line."""
    middle = re.match(
        rf"([A-Za-z][A-Za-z' ]*?)\s+({NUMBER}\s*(?:g|kg|oz|lb|ml|l))\b(?=\s+(?:-|[a-z])|\s*,)(.*)$", line.rest
    )
    name, state = _with_its_state(middle[1]) if middle else ("", "")
    known = match_food(name) if middle else None
    short = middle is not None and (len(middle[3].split()) <= 2 or re.match(r"\s*[-,]", middle[3]) is not None)
    if (
        middle and known and known.whole and short and (measure := measure_at(middle[2]))
    ):  # "choc 200g dark", "beets 9oz - cooked"
        line.low = line.high = measure[0]
        line.unit = measure[1]
        food = f"{state} {name}".strip()
        line.rest = f"{food}{middle[3]}" if re.match(r"\s*[-,]", middle[3]) else f"{middle[3].strip()} {food}"
        return True
    twice = re.search(r"\s(\d+) (?:and|plus|\+) (\d+) (for [a-z ]+)$", line.rest, re.IGNORECASE)
    if twice:  # "egg 1 + 1 for coating"
        line.low = line.high = float(twice[1]) + float(twice[2])
        line.note(twice[0].strip())
        line.rest = line.rest[: twice.start()].strip(" ,:-")
        return True
    part = re.search(r"\s(\d)/(\d)$", line.rest)
    if part and int(part[2]):  # "lemon 1/2"
        line.low = line.high = int(part[1]) / int(part[2])
        line.rest = line.rest[: part.start()].strip(" ,:-")
        return True
    return False


def _amount_behind(line: OpenLine) -> None:
    """An amount may stand last: "Plain flour, 200 g", "Butter - 50 g", "lime half"."""
    if line.low is not None:
        return
    times = re.search(r"\s[x×]\s?(\d{1,3})$", line.rest)
    if times:  # "shallots x3"
        line.low = line.high = float(times[1])
        line.rest = line.rest[: times.start()].strip(" ,:-")
        return
    if _amount_inside(line):
        return
    sized = rf"(?<=\d )(?:{'|'.join(sorted(listed_words('sizes'), key=len, reverse=True))}) (?=[a-z]+$)"
    line.rest = re.sub(sized, "", line.rest, flags=re.IGNORECASE)  # "3 heaped tbsp"
    tail = re.search(
        rf"(?:,|:|\s-+|\s)\s*(?:(?:about|around|roughly|approx\.?) )?({NUMBER}(?:\s*-\s*{NUMBER})?\s*[A-Za-z. ]*)$",
        line.rest,
    )
    if tail and (measure := measure_at(tail[1])) and measure[2] >= len(tail[1].rstrip(" .")):
        line.low, line.unit = measure[0], measure[1]
        ranged = RANGE.match(tail[1])
        line.high = number_value(ranged[2]) if ranged else measure[0]
        line.rest = line.rest[: tail.start()].strip(" ,:-")
    elif counted := re.search(
        r"(?<!for)\s(\d+)(?: (?:large|small|medium|big))?(?: ([a-z]+))?(?=,|$)", line.rest, re.IGNORECASE
    ):
        noun = stem(counted[2] or "")
        line.unit = count_nouns().get(noun, line.unit)
        line.low = line.high = float(counted[1])
        line.rest = (line.rest[: counted.start()] + line.rest[counted.end() :]).strip(" ,:-")
    elif (few := _A_FEW_LAST.search(line.rest)) and stem(few[0].split()[-1]) in count_nouns():
        before = line.rest[: few.start()].strip(" ,:-")
        if (match := match_food(before)) and match.sure:
            line.unit, line.rest = count_nouns()[stem(few[0].split()[-1])], before
            if few[0].split()[-2].lower() not in ("few", "of", "some", "several"):
                line.low = line.high = 1.0  # "tarragon, small bunch"
    elif worded := _LAST_WORD.search(line.rest):
        before = line.rest[: worded.start()].strip(" ,:-")
        if (match := match_food(before)) and match.sure:
            line.low = line.high = 0.5 if worded[1].lower() == "half" else 1.0
            line.unit = count_nouns().get(stem(worded[1].lower()), line.unit)
            line.rest = before


def _finish(text: str, line: OpenLine, known: KnownFoods) -> Ingredient:
    _question_unit(line)
    close_brackets(line)
    _amount_behind(line)
    _say_each(text, line)
    split_tail(line)
    strip_notes(line)
    strip_preparation(line)
    take_sizes(line)
    strip_preparation(line)
    split_alternatives(line)
    strip_notes(line)
    noun_after(line)
    food = line.rest.strip(" .,;:-")
    kind, allergens, doubts = _kind_of(line, food, known) if food else (None, (), ["food-unknown"])
    if hides_raw(text, kind) and not (
        "cooked" in line.prepared and kind in ingredient_vocabulary()["cooked_like"].values()
    ):
        doubts.append("raw-hidden")
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
        allergens=tuple(sorted({*allergens, *_declared(text)})),
        alternatives=tuple(line.alternatives),
        each_amount=line.each[0] if line.each else None,
        each_unit=line.each[1] if line.each else None,
        doubts=tuple(dict.fromkeys((*line.doubts, *doubts))),
    )

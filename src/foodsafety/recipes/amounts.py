"""Amounts, units and sizes taken from an ingredient line."""

from __future__ import annotations

import re
from functools import cache

from foodsafety.foods import (
    convert_amount,
    match_food,
    stem,
    unit_g,
)
from foodsafety.recipes.ingredient_words import OpenLine, count_nouns, ingredient_vocabulary, listed_words, unit_words

NUMBER = r"(?:\d+ \d+/\d+|\d+-\d+/\d+(?!\d)|\d+/\d+|\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)?|\.\d+)"
_MIXED = re.compile(r"(\d+)(?:-| ?(?:&|and|\+) ?)(\d+)/(\d+)(?![\d/])")
RANGE = re.compile(rf"({NUMBER})\s*(?:-|to|or|–)\s*({NUMBER})(?![\d/])", re.IGNORECASE)
ONE_NUMBER = re.compile(NUMBER)


def number_value(text: str) -> float | None:
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


_ONES = {w: i for i, w in enumerate("one two three four five six seven eight nine".split(), start=1)}
_TENS = {w: 10 * i for i, w in enumerate("ten twenty thirty forty fifty sixty seventy eighty ninety".split(), start=1)}
_TEENS = {
    w: i
    for i, w in enumerate(
        "eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen".split(), start=11
    )
}
SPELLED_NUMBERS = (*_ONES, *_TEENS, *_TENS)
_SPELLED = re.compile(
    rf"\b(?:(?P<h>a|another|{'|'.join(_ONES)}) )?(?P<hundred>hundred)(?: and)?(?:"
    rf" (?P<t>{'|'.join(_TENS)}))?(?:[- ](?P<o>{'|'.join(_ONES)}))?\b"
    rf"|\b(?P<teen>{'|'.join(_TEENS)})\b|\b(?P<t2>{'|'.join(_TENS)})(?:[- ](?P<o2>{'|'.join(_ONES)}))?\b",
    re.IGNORECASE,
)


def in_digits(text: str) -> str:
    """Spelled numbers from ten on in digits: "another hundred and fifty grams" is 150 grams."""

    def value(found: re.Match[str]) -> str:
        if found["teen"]:
            return str(_TEENS[found["teen"].lower()])
        hundreds = 100 * _ONES.get((found["h"] or "one").lower(), 1) if found["hundred"] else 0
        tens = _TENS.get((found["t"] or found["t2"] or "").lower(), 0)
        return str(hundreds + tens + _ONES.get((found["o"] or found["o2"] or "").lower(), 0))

    return _SPELLED.sub(value, text)


_FEW_MINUTES = re.compile(
    rf"\b({'|'.join(_ONES)})\b(?=(?: ?(?:-|–|to|or) ?(?:\w+))? (?:mins?\b|minutes?|hrs?\b|hours?))"
    rf"|(?<=\d )(?:or|to) ({'|'.join(_ONES)})\b(?= (?:mins?\b|minutes?|hrs?\b|hours?))",
    re.IGNORECASE,
)


# "Twenty-five", "thirty five"; not "twenty one-inch pieces".
_TWO_WORDS = re.compile(rf"\b({'|'.join(_TENS)})[- ]({'|'.join(_ONES)})\b(?!-)", re.IGNORECASE)


def few_minutes_in_digits(text: str) -> str:
    """Spelled numbers below ten in digits where they count minutes or hours: "in for another five mins"; and those of
    two words, which are one number."""
    text = _TWO_WORDS.sub(lambda found: str(_TENS[found[1].lower()] + _ONES[found[2].lower()]), text)
    return _FEW_MINUTES.sub(
        lambda found: str(_ONES[found[1].lower()]) if found[1] else f"to {_ONES[found[2].lower()]}", text
    )


def _take_amount(line: OpenLine) -> bool:
    """A number or a range at the start; words for numbers too."""
    line.take(
        r"an? (?:good|generous|scant|bare|heap(?:ed|ing)|level|rounded|brimming|big|small) (?=half|quarter|third|\d)"
    )
    mixed = _MIXED.match(line.rest)
    if mixed and 0 < int(mixed[2]) < int(mixed[3]) and int(mixed[1]) > 0:
        line.rest = line.rest[mixed.end() :].lstrip()
        line.low = line.high = int(mixed[1]) + int(mixed[2]) / int(mixed[3])
        return True
    found = line.take(RANGE)
    if found and (low := number_value(found[1])) is not None and (high := number_value(found[2])) is not None:
        line.low, line.high = min(low, high), max(low, high)
        return True
    found = line.take(ONE_NUMBER)
    if found:
        line.low = line.high = number_value(found[0])
        if line.low is None:
            line.doubts.append("amount-odd")
        elif line.take(r"dozen\b"):
            line.low = line.high = 12 * line.low
        line.take(r"(?:of )?an?\b(?= )")
        return True
    return _take_number_words(line)


def _take_number_words(line: OpenLine) -> bool:
    numbers = ingredient_vocabulary()["numbers"]
    if line.take(r"half (?:a |an )?dozen\b"):
        line.low = line.high = 6.0
        return True
    several = line.take(r"(two|three)[ -](quarter|third)s(?: of)?(?: an?)?(?= )")
    if several:  # "three quarters of a pint"
        line.low = line.high = numbers[several[1].lower()] * numbers[several[2].lower()]
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
    plain, exact = unit_words()
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


def _take_unit(line: OpenLine) -> str | None:
    found = _unit_at(line.rest)
    if not found:
        return None
    unit, end = found
    # "2 c", "1 l" are units; "c" before a letter was refused above, but "T bone" is a food.
    line.rest = line.rest[end:].lstrip(" .")
    return unit


_MEASURE = re.compile(rf"({NUMBER})(?:\s*(?:-|to)\s*({NUMBER}))?[\s-]*(?=[A-Za-z])")


def measure_at(text: str) -> tuple[float, str, int] | None:
    """A number with a unit of mass or volume at the start of a text."""
    found = _MEASURE.match(text)
    if not found:
        return None
    unit = _unit_at(text[found.end() :])
    value = number_value(found[1])
    return (value, unit[0], found.end() + unit[1]) if unit and value is not None else None


def _container_follows(text: str, *, counted: bool = True) -> bool:
    """True if what comes next is something that a size before it is the size of."""
    words = re.findall(r"[a-z]+", text.lower())[:1]
    if not words:
        return False
    noun = stem(words[0])
    return (noun in count_nouns() and noun not in listed_words("not_sized")) or (
        counted and noun in listed_words("sized_foods")
    )


def written_amount(amount: float, unit: str) -> str:
    return f"{amount:g} {unit.replace('_', ' ')}"


def _take_each(line: OpenLine) -> None:
    """The size of one: "2 x 400 g tins", "2 400 g tins", "1 (14.5 oz) can", "3 cm piece"."""
    times = line.take(r"x\s*(?=\d|\.)")
    bracket = re.match(r"\(([^()]*)\)", line.rest)
    inside = bracket[1] if bracket else line.rest
    measure = measure_at(re.sub(r"^(?:about|approx\.?|around) ", "", inside))
    if bracket and measure:
        after = line.rest[bracket.end() :].lstrip()
        if _container_follows(after) or line.unit is None:
            line.each = measure[:2]
            line.note(bracket[1])
            line.rest = after
    elif measure and (times or _container_follows(line.rest[measure[2] :].lstrip(" -"))):
        line.each = measure[:2]
        line.note(written_amount(*measure[:2]))
        line.rest = line.rest[measure[2] :].lstrip(" -")
        _drop_slashed(line)


def _take_each_after(line: OpenLine) -> None:
    """ "1 can (540 ml) chickpeas": the size stands after what it is the size of."""
    bracket = re.match(r"\(((?:about |approx\.? )?[^()]*)\)", line.rest)
    measure = measure_at(re.sub(r"^(?:about|approx\.?) ", "", bracket[1])) if bracket else None
    if line.unit in count_nouns().values() and line.each is None and bracket and measure:
        line.each = measure[:2]
        line.note(bracket[1])
        line.rest = line.rest[bracket.end() :].lstrip()


def _drop_slashed(line: OpenLine) -> None:
    """The same amount again in other units: "225 g/8 oz", "1 kg/2 lb 4 oz"."""
    while line.rest.startswith("/"):
        measure = measure_at(line.rest[1:].lstrip())
        if not measure:
            break
        skipped = len(line.rest[1:]) - len(line.rest[1:].lstrip()) + 1
        text = line.rest[1 : skipped + measure[2]]
        line.rest = line.rest[skipped + measure[2] :].lstrip()
        more = measure_at(line.rest)
        if more and more[1] in ("oz", "fl_oz"):
            text += " " + line.rest[: more[2]]
            line.rest = line.rest[more[2] :].lstrip()
        line.note(text)


def _take_more(line: OpenLine) -> None:
    """A second part of the same amount: "2 lb 4 oz", "1 cup plus 2 tbsp"."""
    if line.unit is None or line.low is None or line.high is None:
        return
    joined = re.match(r"(?:,? ?(plus|and|\+|&|minus|less)\s+)", line.rest)
    start = joined.end() if joined else 0
    measure = measure_at(line.rest[start:])
    if not measure:
        return
    amount, unit, end = measure
    same = (unit_g(unit, line.locale) is None) == (unit_g(line.unit, line.locale) is None)
    smaller = convert_amount(1, line.unit, unit, line.locale) > 1 if same else False
    if not same or not (joined or smaller):
        return
    sign = -1 if joined and joined[1] in ("minus", "less") else 1
    more = sign * convert_amount(amount, unit, line.unit, line.locale)
    line.note(f"{written_amount(line.low, line.unit)} {joined[1]} {written_amount(amount, unit)}" if joined else "")
    line.low, line.high = line.low + more, line.high + more
    line.rest = line.rest[start + end :].lstrip()


def take_sizes(line: OpenLine) -> None:
    while True:
        found = re.match(r"([a-z-]+)(?:,? |$)", line.rest, re.IGNORECASE)
        if not found or found[1].lower() not in listed_words("sizes") or not line.rest[found.end() :].strip():
            return
        name = match_food(re.split(r"[,(;]| - ", line.rest)[0])
        if name and name.first_word:
            return
        line.note(found[1])
        line.rest = line.rest[found.end() :].lstrip()


def names_another(text: str, rest: str) -> bool:
    """True if taking the first words away makes it another food: "ground beef", "whole chicken"."""
    whole, left = (match_food(re.split(r"[,(;]| - ", part)[0]) for part in (text, rest))
    return whole is not None and (left is None or left.kind.id != whole.kind.id)


def _take_count_noun(line: OpenLine) -> None:
    """ "cloves of garlic", "tin chopped tomatoes"; not the food itself ("2 fillets")."""
    found = re.match(r"([a-z]+)s?\b\.?(?:-size[d]?)?( pieces?)?", line.rest, re.IGNORECASE)
    if not found:
        return
    noun = count_nouns().get(stem(found[1].lower()))
    rest = line.rest[found.end() :].lstrip()
    if noun is None or ((not rest or rest[0] in ",;-") and noun in ("clove", "leaf", "fillet")):
        return
    if names_another(line.rest, rest) and not rest.lower().startswith("of "):
        return
    line.unit = noun
    line.rest = rest


@cache
def _about_pattern() -> re.Pattern[str]:
    words = "|".join(map(re.escape, sorted(listed_words("about"), key=len, reverse=True)))
    return re.compile(rf"(?:{words})\.?(?=\s|\d)|up to\b|at least\b", re.IGNORECASE)


def open_quantity(line: OpenLine) -> None:
    """Everything before the food."""
    for words in ingredient_vocabulary()["vague"]:
        if line.take(rf"{words}\b(?! (?:dozen|hundred))"):
            line.note(words)
            break
    found = line.take(_about_pattern())
    if found and found[0].lower() in ("up to", "at least"):
        line.note(found[0].lower())
    dimension = re.match(
        rf"({NUMBER}(?:\s*-\s*{NUMBER})?)[\s-]?(cm|mm|inch(?:es)?|in|\")(?:\s*/\s*{NUMBER}[\s-]?(?:cm|mm|inch(?:es)?|in|\"))?[\s-]+",
        line.rest,
        re.IGNORECASE,
    )
    if dimension:
        line.low = line.high = 1.0
        line.note(dimension[0])
        line.rest = line.rest[dimension.end() :]
        _take_count_noun(line)
        return
    measure = measure_at(line.rest)
    if (
        measure
        and _container_follows(line.rest[measure[2] :].lstrip(" -"), counted=False)
        and not re.match(RANGE, line.rest)
    ):
        _take_one_pack(line)
        return
    if not _take_amount(line):
        _take_sizes_then_noun(line, vague=bool(line.notes))
        return
    if line.take(r"x (?=\d)"):
        line.rest = "x " + line.rest
    _take_each(line)
    inches = line.take(rf"{NUMBER}[\s-]?(?:cm|mm|inch(?:es)?|in)[\s-]+")
    if inches:
        line.note(inches[0])
    if line.each is None:
        take_sizes(line)
        line.unit = _take_unit(line)
        if line.unit:
            _drop_slashed(line)
            _take_more(line)
    if line.unit is None:
        take_sizes(line)
        _take_count_noun(line)
        _drop_slashed(line)
        _take_each_after(line)


def _take_one_pack(line: OpenLine) -> None:
    """A size with what it is the size of, and no count: "400 g tin beans" is one, "250 g punnet tomatoes" 250 g."""
    _take_each(line)
    take_sizes(line)
    held = line.rest
    _take_count_noun(line)
    if line.each and line.rest != held and stem(held.split()[0].lower()) in listed_words("soft_packs"):
        (line.low, line.unit), line.high, line.each = line.each, line.each[0], None
    else:
        line.low = line.high = 1.0


def _take_sizes_then_noun(line: OpenLine, *, vague: bool) -> None:
    """ "pinch of salt", "large handful mint": one of it, though no number is written."""
    held = (line.rest, list(line.notes))
    take_sizes(line)
    found = re.match(r"([a-z]+)\b(?: (?:pieces?))?(?= )", line.rest, re.IGNORECASE)
    noun = count_nouns().get(stem(found[1].lower())) if found else None
    if noun and found and not names_another(line.rest, line.rest[found.end() :]):
        line.low = line.high = None if vague else 1.0
        line.unit = noun
        line.rest = line.rest[found.end() :].lstrip()
    elif noun is None:
        line.rest, line.notes = held

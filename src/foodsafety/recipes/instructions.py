"""Instructions: a sentence of a recipe as orders, each with its verb, times and temperatures."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from foodsafety.data import data_text
from foodsafety.quantities import c_from_f
from foodsafety.recipes.ingredient_words import plain_line


@dataclass(frozen=True, slots=True, kw_only=True)
class Order:
    """One thing the text says to do. ``do`` is a verb of a process or "none" for setting up;
    ``verb`` the word used, ``text`` the words from it to the next order, ``lead`` what stands
    before it ("In a bowl,"). ``object_of`` is the text of a later order whose object this one shares
    ("peel and grate the carrots"). Times in minutes, temperatures [C]; None where nothing is said."""

    do: str
    verb: str
    text: str
    lead: str = ""
    low_min: float | None = None
    high_min: float | None = None
    oven_c: float | None = None
    core_c: float | None = None
    gas_mark: float | None = None
    level: str = ""
    until: str = ""
    object_of: str = ""

    @property
    def words(self) -> str:
        """Everything that belongs to this order."""
        return f"{self.lead} {self.text}".strip()


@cache
def vocabulary() -> dict[str, Any]:
    """The data file of words."""
    return tomllib.loads(data_text("instructions.toml"))


@cache
def verb_classes() -> Mapping[str, str]:
    """The process verb of each word that gives an order."""
    return {word: do for do, words in vocabulary()["verbs"].items() for word in words.split()}


_SENTENCE = re.compile(r"(?<=[.!?;])\s+(?=[A-Z0-9(])|\n+")
_ABBREVIATION = re.compile(r"\b(approx|min|mins|hr|hrs|tbsp|tsp|oz|lb|no)\.(?=\s)", re.IGNORECASE)
_NUMBERED = re.compile(r"^\s*(?:step\s+)?\d{1,2}[.):]\s+|^\s*[-*•]\s+", re.IGNORECASE)


def sentences(text: str) -> list[str]:
    """A text as sentences; the dot of an abbreviation or a number ends none."""
    plain = "\n".join(_NUMBERED.sub("", plain_line(line)) for line in text.splitlines())
    plain = _ABBREVIATION.sub(r"\1", plain)
    return [part.strip() for part in _SENTENCE.split(plain) if part.strip(" .")]


# An order stands at the start, after a lead-in's comma, after "and", "then", or a semicolon.
_BEFORE = re.compile(
    r"(?:^|,\s+(?:and\s+|then\s+|or\s+|and then\s+)?|;\s*|\s+and\s+(?:then\s+)?|\s+then\s+|\(\s*|:\s+|\.\s+|\s+-\s+"
    r"|\bto (?=chill|cool|marinate|rest|prove|rise|soak|simmer|infuse|stand|set)|\bbefore (?=serv))"
    r"(?:(?:now|next|first|finally|meanwhile|carefully|gently|gradually|lightly|quickly|slowly|roughly|finely|coarsely"
    r"|thinly|thickly|generously|thoroughly|immediately|please|just|evenly|briefly|well|always|also|either|again"
    r"|straight away|at once|in the meantime|lastly|very|loosely|firmly|don't forget to|be sure to|make sure to"
    r"|you can|remember to|time to)[,]?\s+)*",
    re.IGNORECASE,
)
_WORD = re.compile(r"[A-Za-zé]+(?:-[a-zé]+)?")
_GERUND = {"serving": "serve"}
# A noun here, though the same word can be an order elsewhere.
_NOUN_AFTER = re.compile(r"^(?:of|is|are|has|have|should|will|was|mixture|sauce)\b", re.IGNORECASE)
_ORDER_GOES_ON = re.compile(
    r"(?:the|a|an|it|them|in|into|on|onto|over|for|until|with|to|aside|at|well|each|all|both|out|up|off"
    r"|again|together|under|gently|through|by|any|some|half|immediately|slowly|quickly|lightly|\d)\b",
    re.IGNORECASE,
)


@cache
def _nouns_too() -> frozenset[str]:
    return frozenset(vocabulary()["nouns_too"]["words"].split())


def _is_order(sentence: str, start: int, word: str, at_start: bool) -> bool:
    after = sentence[start + len(word) :].lstrip()
    if _NOUN_AFTER.match(after):
        return False
    if at_start:
        return True
    # "salt and pepper", "oil and butter": a bare noun after "and" is no order unless words follow
    # that an order has: an article, a preposition, a time.
    if word.lower() in _nouns_too():
        return bool(_ORDER_GOES_ON.match(after)) or after[:1] in ".;" or not after
    return True


_LETTING = frozenset({"leave", "let", "allow", "set", "put", "place", "return", "bring", "transfer", "need"})


def _continues(before: str, verb: str) -> bool:
    """ "Leave to cool" is one order, not two."""
    return before.strip().lower().startswith("to") and verb in _LETTING


# "In a bowl mix the mince": a place first, without a comma, then the order.
_PLACE = re.compile(
    r"^(?:in|into|on|onto|using|with)\s+(?:a|an|the|your|another|one)\s+(?:[\w-]+\s+){1,4}?(?=([a-z]+)\s+(?:the|your|a|an|all|in|together|\d))",
    re.IGNORECASE,
)


def _after_place(sentence: str) -> dict[int, tuple[int, str, str]]:
    found = _PLACE.match(sentence)
    do = verb_classes().get(found[1].lower()) if found else None
    return (
        {found.end(): (found.end(), found[1].lower(), do)}
        if found and do and found[1].lower() not in _kit_words()
        else {}
    )


def _order_starts(sentence: str) -> list[tuple[int, str, str]]:
    """Where orders stand: position, the word, its process verb."""
    found: dict[int, tuple[int, str, str]] = _after_place(sentence)
    for before in _BEFORE.finditer(sentence):
        word = _WORD.match(sentence, before.end())
        if not word:
            continue
        text = word[0].lower()
        text = _GERUND.get(text, text)
        for name in (text, text.split("-")[0] if "-" in text and text not in verb_classes() else text):
            do = verb_classes().get(name)
            if do and found and _continues(before[0], max(found.values())[1]):
                break
            if do and found and name in _kit_words() and max(found.values())[1] in ("wash", "clean", "rinse", "scrub"):
                break
            if do and _is_order(sentence, before.end(), word[0], before.start() == 0):
                found[before.end()] = (before.end(), name, do)
                break
    return [found[key] for key in sorted(found)]


def orders(sentence: str) -> list[Order]:
    """The orders of one sentence, in its order. A sentence without any gives none."""
    starts = _order_starts(sentence)
    if not starts:
        return []
    lead = sentence[: starts[0][0]].strip(" ,")
    result: list[Order] = []
    for i, (at, verb, do) in enumerate(starts):
        end = starts[i + 1][0] if i + 1 < len(starts) else len(sentence)
        text = re.sub(r"(?:,|;|\(|\band\b|\bthen\b|\bto\b|\s)+$", "", sentence[at:end].strip(), flags=re.IGNORECASE)
        result.append(_order(do, verb, text, lead if i == 0 else ""))
    return _share_objects(result)


_BARE = re.compile(r"^[\w-]+(?: (?:well|thoroughly|finely|roughly|thinly|carefully))?[.,]?$")


_PREPARES = frozenset({"cut", "peel", "grate", "rinse", "pour"})


def _share_objects(found: list[Order]) -> list[Order]:
    """A bare verb has the object of the order after it: "peel and grate the carrots"."""
    for i in range(len(found) - 2, -1, -1):
        order, after = found[i], found[i + 1]
        first = all(_BARE.match(row.text) for row in found[:i]) and not order.lead
        prepares = order.do in _PREPARES and after.do in _PREPARES
        if (
            _BARE.match(order.text)
            and (first or prepares)
            and order.do not in ("none", "wash_hands")
            and after.do != "serve"
        ):
            found[i] = replace(order, object_of=after.object_of or after.text)
    return found


def _order(do: str, verb: str, text: str, lead: str) -> Order:
    low, high = minutes_in(text)
    if low is None and lead:
        low, high = minutes_in(lead)
    oven_c, core_c, gas = temperatures_in(f"{lead} {text}")
    level = _LEVEL.search(f"{lead} {text}")
    until = re.search(r"\buntil\s+(.+?)(?:[.;]|$)", text, re.IGNORECASE)
    return Order(
        do=_sense(do, verb, text, lead),
        verb=verb,
        text=text,
        lead=lead,
        low_min=low,
        high_min=high,
        oven_c=oven_c,
        core_c=core_c,
        gas_mark=gas,
        level=(level[1] or level[2]).lower() if level else "",
        until=until[1].strip() if until else "",
    )


_IN_THE_OVEN = re.compile(
    r"\b(?:in|into|to) the (?:hot |preheated )?oven\b|\bunder the grill\b|\bin the microwave\b"
    r"|\bover (?:a|the) (?:low|medium|high|gentle|moderate)\b|\b(?:on|to|over) the (?:heat|hob|stove)\b"
)
_LEVEL = re.compile(
    r"\b(low|medium-low|medium-high|medium|high|gentle|moderate|fierce|hot)\s+(?:heat|flame|power|setting)\b"
    r"|\bon (low|high|medium)\b",
    re.IGNORECASE,
)


@cache
def _kit_words() -> frozenset[str]:
    return frozenset(vocabulary()["kit"]["words"].split())


@cache
def _kit() -> re.Pattern[str]:
    words = "|".join(sorted(_kit_words()))
    return re.compile(rf"\b(?:{words}|everything you used)\b")


def _sense(do: str, verb: str, text: str, lead: str) -> str:
    """What an order means with its object: "wash your hands", "put it in the fridge"."""
    low = text.lower()
    if (
        verb in ("wash", "clean", "scrub", "rinse", "sanitise", "sanitize")
        and not low.startswith("rinse out")
        and _kit().search(low[:80])
    ):
        return "wash_hands" if re.search(r"\bhands\b", low[:40]) else "clean"
    if verb in (
        "put",
        "place",
        "pop",
        "set",
        "return",
        "transfer",
        "leave",
        "stand",
        "move",
        "keep",
        "store",
        "rest",
        "cool",
    ):
        if re.search(r"\b(?:in|into|to) the (?:fridge|refrigerator|cool ?box)\b|\bin the cold\b", low):
            return "chill"
        if re.search(r"\b(?:in|into|to) the freezer\b", low):
            return "freeze"
        if _IN_THE_OVEN.search(low):
            return "heat"
        if verb in ("set", "leave", "put") and re.search(r"\baside\b|\bto (?:cool|rest|stand|one side)\b", low):
            return "rest"
    return _sense_of_word(do, verb, low, lead.lower())


@cache
def _senses() -> tuple[tuple[frozenset[str], re.Pattern[str], str], ...]:
    return tuple(
        (frozenset(row["verbs"].split()), re.compile(row["matches"]), row["do"]) for row in vocabulary()["senses"]
    )


def _sense_of_word(do: str, verb: str, low: str, lead: str) -> str:
    for verbs, pattern, sense in _senses():
        if verb in verbs and pattern.search(low):
            return sense
    return do


_NUM = (
    r"(?:\d+ \d+/\d+|\d+/\d+|\d+(?:\.\d+)?|an?|one|two|three|four|five|six|eight|ten|twelve|half an|a further|another)"
)
_UNIT_TIME = r"(hours?|hrs?|h|minutes?|mins?|min|seconds?|secs?)"
_TIME = re.compile(
    rf"({_NUM})(?:\s*(?:-|to|or)\s*({_NUM}))?(?:\s+(?:more|further|another))?[\s-]*{_UNIT_TIME}\b", re.IGNORECASE
)
_WORDS = {
    "a": 1.0,
    "an": 1.0,
    "one": 1.0,
    "two": 2.0,
    "three": 3.0,
    "four": 4.0,
    "five": 5.0,
    "six": 6.0,
    "eight": 8.0,
    "ten": 10.0,
    "twelve": 12.0,
    "half an": 0.5,
}


def _count(text: str) -> float | None:
    low = text.lower()
    if low in _WORDS:
        return _WORDS[low]
    try:
        return sum(float(p.split("/")[0]) / float(p.split("/")[1]) if "/" in p else float(p) for p in low.split())
    except (ValueError, ZeroDivisionError):
        return None


def _in_minutes(unit: str) -> float:
    return 60.0 if unit.lower().startswith("h") else 1 / 60 if unit.lower().startswith("s") else 1.0


def minutes_in(text: str) -> tuple[float | None, float | None]:
    """The time [min] a text gives, as (low, high). "1 hour 20 minutes" is one time; the first
    time counts ("30 minutes, turning after 10"); "on each side" counts twice."""
    counted = ((found, _count(found[1])) for found in _TIME.finditer(text))
    first = next(((found, low) for found, low in counted if low is not None), None)
    if first is None:
        return _vague_minutes(text)
    found, low = first
    scale = _in_minutes(found[3])
    high = _count(found[2]) if found[2] else low
    extra = _more_minutes(text[found.end() :]) if scale == 60 else 0.0
    times = 2 if re.search(r"\b(?:on each side|each side|per side|a side|on both sides)\b", text, re.IGNORECASE) else 1
    return times * (low * scale + extra), times * ((high if high is not None else low) * scale + extra)


def _vague_minutes(text: str) -> tuple[float | None, float | None]:
    """ "overnight", "a few minutes": as long as the vocabulary says."""
    for word, minutes in vocabulary()["vague_time"].items():
        if re.search(rf"\b{word}\b", text, re.IGNORECASE):
            return float(minutes), float(minutes)
    return None, None


def _more_minutes(rest: str) -> float:
    """What comes on top of hours: "and a half", "20 minutes"."""
    if re.match(r"\s+and a half\b", rest, re.IGNORECASE):
        return 30.0
    more = re.match(rf"\s*(?:and\s+)?({_NUM})[\s-]*(minutes?|mins?)\b", rest, re.IGNORECASE)
    return (_count(more[1]) or 0.0) if more else 0.0


_DEGREES = re.compile(
    r"(\d{2,3})\s*(?:°|º|degrees?|deg)?\s*(C|F|celsius|fahrenheit|centigrade)\b|(\d{2,3})\s*(?:°|º|degrees)(?!\w)",
    re.IGNORECASE,
)
_GAS = re.compile(r"\bgas\s*(?:mark)?\s*(\d{1,2}/\d|\d{1,2}|½|¼)", re.IGNORECASE)
_CORE_WORDS = re.compile(
    r"\b(?:core|inside|internal|middle|centre|center|thickest|probe|thermometer|reads?|all through)\b", re.IGNORECASE
)
LOWEST_OVEN_C = 105.0


def gas_mark_c(mark: float) -> float:
    """Oven temperature [C] of a gas mark: 250 F + 25 F per mark from 1; a half is 250 F, a quarter 225 F.

    Source: the project's reference figures, section 6.
    """
    return c_from_f(250 + 25 * mark if mark >= 1 else 250 if mark >= 0.5 else 225)


def temperatures_in(text: str) -> tuple[float | None, float | None, float | None]:
    """Temperatures a text gives: of the oven [C], of the core [C], and the gas mark. Of
    "200C/180C fan" the first is the oven's."""
    oven = core = None
    for found in _DEGREES.finditer(text):
        number = float(found[1] or found[3])
        unit = (found[2] or "C").upper()[0]
        celsius = c_from_f(number) if unit == "F" else number
        if not 20 <= celsius <= 320:
            continue
        around = text[max(0, found.start() - 60) : found.end() + 40]
        if celsius < LOWEST_OVEN_C and (_CORE_WORDS.search(around) or celsius >= 55):
            core = core if core is not None else celsius
        elif celsius >= LOWEST_OVEN_C or re.search(r"\boven\b", text):
            oven = oven if oven is not None else celsius
    gas = _GAS.search(text)
    mark = None
    if gas:
        mark = _count(gas[1].replace("½", "1/2").replace("¼", "1/4"))
        if oven is None and mark is not None:
            oven = gas_mark_c(mark)
    return oven, core, mark

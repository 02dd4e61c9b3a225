"""The minutes and the temperatures that words give."""

from __future__ import annotations

import re

from foodsafety.quantities import c_from_f
from foodsafety.recipes.amounts import in_digits
from foodsafety.recipes.words import vocabulary

_NUM = (
    r"(?:\d+ \d+/\d+|\d+/\d+|\d+(?:\.\d+)?|an?|one|two|three|four|five|six|eight|ten|twelve|half an?|(?:a )?couple of"
    r"|a further|another)"
)
_UNIT_TIME = r"(hours?|hrs?|h|minutes?|mins?|min|seconds?|secs?)"
_TIME = re.compile(
    rf"({_NUM})(?:\s*(?:-|to|or)\s*({_NUM}))?(?:\s+(?:more|further|another))?[\s-]*{_UNIT_TIME}\b"
    r"(?!(?<=a second) (?!(?:or|and|each|per|on|in)\b)[a-z])",  # "a second time", "a second bowl"
    re.IGNORECASE,
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
    "half a": 0.5,
    "half an": 0.5,
    "a couple of": 2.0,
    "couple of": 2.0,
}


# "20 minutes to half an hour".
_OR_LONGER = re.compile(rf"\s*(?:-|to|or)\s*({_NUM})[\s-]*{_UNIT_TIME}\b", re.IGNORECASE)


def _count(text: str) -> float | None:
    low = text.lower()
    if low in _WORDS:
        return _WORDS[low]
    try:
        return sum(float(p.split("/")[0]) / float(p.split("/")[1]) if "/" in p else float(p) for p in low.split())
    except (ValueError, ZeroDivisionError):
        return None


# "Two and a half hours", "hour and a quarter", "three quarters of an hour", "a half hour".
_AND_A_PART = re.compile(
    r"\b(?:(?P<n>\d+|a|an|one|two|three|four|five|six)(?: hours?)?|hour) and (?:a |three[ -])?"
    r"(?P<part>half|quarters?)(?: hours?)?\b"
    r"|\b(?P<alone>three[ -]quarters?|quarter|half)(?: of)?(?: an?)?[ -]hour\b",
    re.IGNORECASE,
)


# Ways of writing a time, brought to the plain one: "1/2 an hour", "between 10 and 12 minutes", "20/25 minutes", "1h30",
# "12 or so minutes".
_PLAIN_TIMES: tuple[tuple[re.Pattern[str], str], ...] = tuple(
    (re.compile(words, re.IGNORECASE), plain)
    for words, plain in (
        (r"(?:\b1/2|½) (?:of )?an? hour\b", "30 minutes"),
        (r"(?:\b1/2|½|\bhalf) (?:of )?a minute\b", "30 seconds"),
        (r"(?:\b1/4|¼) (?:of )?an? hour\b", "15 minutes"),
        (r"(?:\b3/4|¾) (?:of )?an? hour\b", "45 minutes"),
        (rf"\bbetween ({_NUM}) and ({_NUM})(?=[\s-]*{_UNIT_TIME}\b)", r"\1-\2"),
        (r"\b((?:[2-9]|[1-9]\d))/((?:[3-9]|[1-9]\d))(?= ?min(?:ute)?s\b)", r"\1-\2"),
        (r"\b(\d{1,2}) ?(?:h|hrs?) ?(\d\d)(?: ?m(?:in)?s?\b|(?=\s*(?:[,.;)]|$)))", r"\1 hours \2 minutes"),
        (rf"\b({_NUM}) (?:or so|odd|or thereabouts)(?=[\s-]+{_UNIT_TIME}\b)", r"\1"),
    )
)


def _plain_times(text: str) -> str:
    for pattern, plain in _PLAIN_TIMES:
        text = pattern.sub(plain, text)
    return text


def _with_part(found: re.Match[str]) -> str:
    """The time as minutes."""
    if found["alone"]:
        return f"{ {'t': 45, 'q': 15, 'h': 30}[found['alone'].lower()[0]] } minutes"
    if "hour" not in found[0].lower():
        return found[0]
    part = 30 if found["part"].lower() == "half" else 45 if "three" in found[0].lower().split(" and ")[1] else 15
    return f"{60 * (_count(found['n'] or 'an') or 0) + part:g} minutes"


def _in_minutes(unit: str) -> float:
    return 60.0 if unit.lower().startswith("h") else 1 / 60 if unit.lower().startswith("s") else 1.0


# By when something is to be done is no time that it takes.
_WITHIN = re.compile(
    rf"\bevery (?:{_NUM}|few|other|so often)?\s*(?:or (?:so|two|three) )?{_UNIT_TIME}\b|"
    rf"\b(?:within|inside(?: of)?) (?:the |about )?{_NUM}(?: further| more)?[\s-]*{_UNIT_TIME}\b",
    re.IGNORECASE,
)


def minutes_in(text: str) -> tuple[float | None, float | None]:
    """The time [min] a text gives, as (low, high). "1 hour 20 minutes" is one time; the first
    time counts ("30 minutes, turning after 10"); "on each side" counts twice."""
    text = _WITHIN.sub(" ", _AND_A_PART.sub(_with_part, _plain_times(in_digits(text))))
    counted = ((found, _count(found[1])) for found in _TIME.finditer(text))
    first = next(((found, low) for found, low in counted if low is not None), None)
    if first is None:
        return _vague_minutes(text)
    found, low = first
    scale, after = _in_minutes(found[3]), text[found.end() :]
    extra = _more_minutes(after) if scale == 60 else 0.0
    longer = None if found[2] else _OR_LONGER.match(after)
    most = _count(found[2] or (longer[1] if longer else found[1]))
    high = (most if most is not None else low) * (_in_minutes(longer[2]) if longer else scale) + extra
    times = 2 if re.search(r"\b(?:on each side|each side|per side|a side|on both sides)\b", text, re.IGNORECASE) else 1
    return times * (low * scale + extra), times * max(low * scale + extra, high)


# A number behind a word for waiting or heat, and nothing behind it that it could count: never of a temperature.
_BARE_MINUTES = re.compile(
    r"\b(?:simmer|boil|fry|bake|roast|soften|sweat|poach|steam|rest|stand|blanch)\b(?: (?:it|them|for|about))*"
    r" (?:another |for |about )*(\d{1,2})(?:(?:-| to | or )(\d{1,2}))?(?: more)?"
    r"(?=\s*(?:[,.;]|$|(?:,? or )?until\b|more\b))",
    re.IGNORECASE,
)


# "Boil potatoes 15-20", "simmer the rice, covered, for 20 to 25": two numbers behind the food.
_BARE_RANGE = re.compile(
    r"^(?:boil|simmer|bake|roast|steam|poach|fry|cook|braise|stew|put|place|pop)(?:(?: [a-z]+){1,3}"
    r"|\b[^.;]* (?:for|another))"
    r" (\d{1,2})(?:-| to | or )(\d{1,2})(?=\s*(?:[,.;]|$))",
    re.IGNORECASE,
)


def _vague_minutes(text: str) -> tuple[float | None, float | None]:
    """ "overnight", "a few minutes": as long as the vocabulary says; "simmer 45": minutes."""
    bare = _BARE_MINUTES.search(text) or _BARE_RANGE.search(text)
    if bare:
        return float(bare[1]), float(bare[2] or bare[1])
    for word, minutes in vocabulary()["vague_time"].items():
        if re.search(rf"\b{word}\b", text, re.IGNORECASE):
            return float(minutes), float(minutes)
    return None, None


def _more_minutes(rest: str) -> float:
    """What comes on top of hours: "and a half", "20 minutes"."""
    if re.match(r"\s+and a half\b", rest, re.IGNORECASE):
        return 30.0
    more = re.match(rf"\s*(?:and\s+)?({_NUM})[\s-]*(minutes?|mins?)\b", rest, re.IGNORECASE)
    more = more or re.match(r"\s+(10|15|20|25|30|35|40|45|50|55)(?=\s*(?:[.,;)]|$))", rest)  # "1 hour 15."
    return (_count(more[1]) or 0.0) if more else 0.0


_DEGREES = re.compile(
    r"(\d{2,3})\s*(?:°|º|degrees?|deg)?\s*(C|F|celsius|fahrenheit|centigrade)\b|(\d{2,3})\s*(?:°|º|degrees)(?!\w)",
    re.IGNORECASE,
)
_GAS = re.compile(r"\b(?:gas|reg(?:ulo)?)\s*(?:mark)?\s*(\d{1,2}/\d|\d{1,2}|½|¼)", re.IGNORECASE)
_CORE_WORDS = re.compile(
    r"\b(?:core|inside|internal|middle|centre|center|thickest|probe|thermometer|reads?|all through)\b", re.IGNORECASE
)
# A number alone, of the inside of food. No core is cooked to 130 C, nor to 60 F, so its size tells the scale.
_CORE_NUMBER = re.compile(
    r"(?:\b(?:reads?|hits?|registers|probe[ds]?(?: it| them| all| both)?(?: to| at| for)?"
    r"|(?:check|test)(?: that)?(?: it['’]?s| it is| they['’]?re| they are)(?: above| over| past)?)"
    r"|\bwants?(?: it(?: to be)?)?(?: at| over)?|\bcheck(?:s|ing)? for|\bafter(?= 7\d\b)"
    r"|\b(?P<weak>reach(?:es)?|says|shows|gets to))\s+(?:at least |about )?"
    r"(?P<read>1[3-9]\d|20\d|6\d|7\d|8\d|9\d)\b(?!\s*(?:g|ml|kg|min|sec|°|C\b|F\b))"
    r"|\b(?:(?:middle|cent(?:re|er)|inside|core|thickest part)\b[^.]{0,30}?\b(?P<inside>1[3-9]\d|20\d)"
    r"|\b(?:is|are|be)(?: at least| about)? (?P<is>1[3-9]\d|20\d|6\d|7\d|8\d)(?: degrees)?"
    r" (?:inside|in(?:side)? the (?:middle|cent(?:re|er)|thick\w*))"
    r"|(?:core|internal)(?: temp(?:erature)?)?(?: (?:is|of|at|to))?(?: at least| about)? (?P<core>6\d|7\d|8\d|9\d))\b"
    r"(?!\s*(?:g|ml|kg|min|sec|°|C\b|F\b))",
    re.IGNORECASE,
)
# "Until no pink shows and it reaches 160 degrees": the food, where nothing else is named that is heated.
_UNTIL_IT_REACHES = re.compile(
    r"^(?!.*\b(?:oil|fat|oven|grill|syrup|sugar|water|caramel)\b).*\b(?:un)?till? [^.;]*"
    r"\b(?:reach(?:es)?|hits?|gets to) (?:at least |about )?\d{3} ?(?:°|º|degrees)$",
    re.IGNORECASE | re.DOTALL,
)
_NOT_FOOD = re.compile(r"\b(?:oil|fat|oven|grill|syrup|sugar|pan|water)\b", re.IGNORECASE)


# "75 in the middle", "165 inside", "80 or more on the probe": where it is read says that it is a core.
_IS_INSIDE = (
    r"(?: or (?:more|above|over|higher))? (?:(?:in|at|inside|through|into) (?:the |its )?(?:very |dead )?"
    r"(?:middle|centre|center|core|thick(?:est)?|fattest|inside|biggest|deepest)|inside(?! (?:the|a) )"
    r"|(?:right|all) (?:the way )?through|throughout|on (?:the|a|your) (?:probe|thermometer))"
    r"(?! of (?:the|a|your) (?:oven|grill|barbecue|bbq|smoker|table|tray|room|pan)| shelf| rack| the (?:night|day))"
)
# "Till 75", "until it's 75", "until the thickest bit is 75".
_UNTIL_IT_IS = (
    r"\b(?:until|till?)(?: (?:it|they|(?:the|a) (?:middle|centre|center|core|inside|meat|chicken|turkey|beef|pork|lamb"
    r"|fish|probe|thermometer|(?:thick|fatt|bigg)est [a-z]+)))?"
    r"(?:['’]s| is| are| hits?| reads?| says?| shows?| reach(?:es)?| gets? to| comes? to| at least| over| above)* "
)
_INSIDE_NUMBER = re.compile(
    rf"(?<![\d.,/£$-])(?<!\bat )(?<!fan )(?<!gas )\b(?P<at>[6-8]\d|1[3-7]\d)(?={_IS_INSIDE})"
    rf"|{_UNTIL_IT_IS}(?P<until>[6-8]\d|1[3-7]\d)(?=[,.;!)]|$| or (?:more|above|over|higher)| degrees(?! ?f))",
    re.IGNORECASE,
)
# What is not to be, and what is set and not read.
_NO_CORE = re.compile(
    r"n['’]t\b|\b(?:not|never|forget|page|rather than|instead of|oven|drawer|warmer)\b", re.IGNORECASE
)
_LIQUID = re.compile(r"\b(?:water|milk|syrup|sugar)\b", re.IGNORECASE)
_ON_THE_SURFACE = re.compile(
    rf"{_NOT_FOOD.pattern}|\b(?:sauce|wok|griddle|barbecue|bbq|skillet|stone|fryer|smoker)\b", re.IGNORECASE
)


def _core_inside_c(text: str) -> float | None:
    """A core [C] with no letter, told by where it is read or by "until": from 130 on it is Fahrenheit. "Until" alone
    may be of the oil or the pan, if it is that hot, and of water or syrup if it is not."""
    found = _INSIDE_NUMBER.search(text)
    if found is None or _NO_CORE.search(text, 0, found.start()):
        return None
    number = float(found["at"] or found["until"])
    other = _ON_THE_SURFACE if number >= 130 else _LIQUID
    if found["until"] and other.search(text, 0, found.start()):
        return None
    return c_from_f(number) if number >= 130 else number


def _bare_core_c(text: str) -> float | None:
    """A core temperature [C] written as a number alone: "until the thickest part reads 165". What the oil
    or the oven reaches is none."""
    found = _CORE_NUMBER.search(text)
    if found is None:
        return _core_inside_c(text)
    before = text[max(0, found.start() - 40) : found.start()]
    inside = found["inside"] or found["core"] or found["is"]
    if not inside and (_NOT_FOOD.search(before) or (found["weak"] and not _CORE_WORDS.search(text))):
        return _core_inside_c(text)
    number = float(found["read"] or inside)
    return c_from_f(number) if number >= 130 else number


# "Set the oven to 180", "bake at 180": no weight and no time.
_OVEN_NUMBER = re.compile(
    r"\b(?:oven\b[^.]{0,24}?|(?:bake|roast)\b[^.]{0,60}?\bat |\bin at )\b([12345]\d\d)\b"
    r"(?!\s*(?:g|ml|°|C\b|F\b|(?:or|to|-)\s*\d|min|hour|hr))|\b([12]\d\d) ?fan\b|\bfan ([12]\d\d)\b",
    re.IGNORECASE,
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
    text = in_digits(text)
    oven = core = None
    for found in _DEGREES.finditer(text):
        number = float(found[1] or found[3])
        around = text[max(0, found.start() - 60) : found.end() + 40]
        # "A thermometer in the middle says 165 degrees": nobody cooks to 165 C inside.
        told = _CORE_WORDS.search(around) or _UNTIL_IT_REACHES.search(text[: found.end()])
        inside = 130 <= number <= 215 and told and not re.search(r"\b(?:oven|bake|roast)\b", around)
        unit = (found[2] or ("F" if inside else "C")).upper()[0]
        celsius = c_from_f(number) if unit == "F" else number
        if not 20 <= celsius <= 320:
            continue
        if re.match(r"\W*(?:hot )?(?:oil|fat|dripping|lard)\b", text[found.end() :], re.IGNORECASE):
            continue  # "fry in 170C oil"
        if celsius < LOWEST_OVEN_C and (_CORE_WORDS.search(around) or celsius >= 55):
            core = core if core is not None else celsius
        elif celsius >= LOWEST_OVEN_C or re.search(r"\boven\b", text):
            oven = oven if oven is not None else celsius
    core = core if core is not None else _bare_core_c(text)
    bare = _OVEN_NUMBER.search(text)
    if oven is None and bare:
        # A number alone: no oven is set to 250 C and more in words, and none below 250 F.
        number = float(bare[1] or bare[2] or bare[3])
        oven = c_from_f(number) if number >= 250 else number
    gas = _GAS.search(text)
    mark = None
    if gas:
        mark = _count(gas[1].replace("½", "1/2").replace("¼", "1/4"))
        if oven is None and mark is not None:
            oven = gas_mark_c(mark)
    return oven, core, mark

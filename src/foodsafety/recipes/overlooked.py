"""What a sentence says that none of its steps has: a second reading by other means than the first, which only asks.
What the first loses, nobody loses in silence."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Sequence

from foodsafety.foods import stem, stem_words
from foodsafety.quantities import c_from_f
from foodsafety.recipes.amounts import in_digits
from foodsafety.recipes.order import Order
from foodsafety.recipes.proposed_steps import ReadStep
from foodsafety.recipes.verb_forms import clause_words, nouns_too, verb_forms
from foodsafety.recipes.words import dish_words

# Work that safety hangs on: where it was told and not read, a hazard may be hidden, or its end.
_WATCHED = frozenset({"heat", "part_cook", "wash_hands", "rinse", "chill", "freeze", "clean", "probe", "cut", "mix"})
_AS_GOOD = {"part_cook": "heat", "rest": "chill", "wipe": "clean"}
_HANDS = re.compile(
    r"\b(?<!with )(?:wash|scrub|clean|soap) (?:(?:your|their|our|his|her|the|both|all) )*hands?\b", re.IGNORECASE
)
_DEGREES = re.compile(r"(?<![\d/.])\d{2,3}\s*(?:(?:°|º|degrees?\b|deg\b)\s*[CF]?\b|[CF]\b)")
_SAYS_DEGREES = re.compile(
    r"\b(?:say|read|show|hit|reach|register|want|check for)s?\s+(?:at least |about )?(?:[6-9]\d|1[3-9]\d|20\d)\b"
    r"(?! ?(?:g|ml|min|sec|%))"
    r"|\b(?:core|internal|probe|thermometer)\b.{0,24}\b(?:[6-9]\d|1[3-9]\d)\b(?! ?(?:g|ml|min|sec|%))"
    r"|\b(?:[6-9]\d|1[3-9]\d)"
    r"(?= (?:in|inside|at|through)\b.{0,14}\b(?:middle|cent(?:re|er)|thick\w*|core|inside)\b)"
)
_OF_FOOD = re.compile(
    r"(?<!\d)(?:[6-9]\d(?!\d)|(?:1[3-9]\d|20\d|21[0-5])\s*(?:°|º|degrees?|deg)?\s*F\b)", re.IGNORECASE
)
_IN_FOOD = re.compile(r"1[4-7]\d (?:in|inside) (?:the|every|each) [a-z]")
# "Till brown and 165 in the chicken": of food only where the last word is one.
_IN_FOOD = re.compile(
    r"\b(?P<c>[4-7]\d|1[0-7]\d) (?:in|inside) (?:the|every|each) (?P<food>[a-z]+)"
    r"(?=\W*$|[.,;!]| (?:then|and|before|when)\b)",
    re.IGNORECASE,
)
_NO_ORDER_AFTER = frozenset({"to", "not", "don't", "don’t", "never", "for", "without"})
# These order something wherever they begin.
_NO_NOUN = frozenset({"refrigerate", "reheat", "defrost", "thaw", "boil", "simmer"})
_POINTS = frozenset({"the", "your", "it", "them", "their", "these", "those", "both"})


def overlooked(
    text: str,
    orders: Iterable[Order],
    steps: Sequence[ReadStep],
    foods: frozenset[str],
    *,
    oven_c: float | None,
    is_known: Callable[[str], bool],
) -> list[str]:
    """What a plain sentence names and its ``steps`` have not: "degrees" for a temperature, "work" for an order on
    something named right behind it, "called" for something made that the kitchen does not know by that name.
    ``foods`` are the words that name food in this recipe, ``oven_c`` the oven's temperature so far [C]."""
    found = []
    if _degrees(text, steps, oven_c, foods):
        found.append("degrees")
    if _work(text, orders, steps, foods) or _cold_place(text, steps) or _shape(text, steps):
        found.append("work")
    if 0 < _times_taken(steps) < _times_told(text):
        found.append("time")
    if _is_called(text, is_known):
        found.append("called")
    return found


def core_told(text: str) -> float | None:
    """The one temperature of food [C] that a sentence names, wherever in it: "check one: we want 75 or more"."""
    said = in_digits(text)
    told = [
        found[0] for found in (*_DEGREES.finditer(said), *_SAYS_DEGREES.finditer(said)) if _OF_FOOD.search(found[0])
    ]
    last = _AT_THE_END.search(said)
    told = told or ([last[0]] if last else [])
    values = {int(number) for found in told for number in re.findall(r"\b(?:[6-9]\d|1[3-9]\d|20\d)(?!\d)", found)}
    if len(values) != 1 or _NO_TARGET.search(said):
        return None
    value = values.pop()
    return c_from_f(float(value)) if value >= 130 else float(value)


def core_in_food_told(text: str, foods: frozenset[str]) -> float | None:
    """The temperature [C] that food is cooked to, where only its own name says so: "till brown and 165 in the
    chicken". ``foods`` are the words that name food in this recipe."""
    told = [row for row in _IN_FOOD.finditer(in_digits(text)) if set(stem_words(row["food"])) & foods]
    value = int(told[0]["c"]) if len(told) == 1 else 0
    return None if not value else c_from_f(float(value)) if value >= 100 else float(value)


def too_low_told(text: str) -> float | None:
    """A reading [C] at which a text is content and that is no end of any cook: "probe it: 50 C". None where it speaks
    of the cold, or of what must not be."""
    said = in_digits(text)
    found = _TOO_LOW.search(said)
    return float(found[1]) if found and not _NO_TARGET.search(said) and not _IN_THE_COLD.search(said) else None


_TOO_LOW = re.compile(r"(?<![\d.])([45]\d) ?(?:°|º|degrees|deg)? ?C?\b(?! ?(?:min|sec|g\b|ml|%|F\b))", re.IGNORECASE)
_IN_THE_COLD = re.compile(r"\b(?:cold|cool\w*|chill\w*|fridge|freezer|minutes?|mins?)\b", re.IGNORECASE)


# "Probe the thickest one: 75."
_AT_THE_END = re.compile(r"[a-z](?:[:,=]|\.\.\.?|\s[-–])\s*(?:[6-9]\d|1[3-9]\d|20\d)\s*°?[CF]?\W*$")
# "Do not go over 75", "if it is under 75".
_NO_TARGET = re.compile(
    r"\b(?:not|never|over|above|under|below|if|unless|oven|fan|water|oil)\b|n['’]t\b", re.IGNORECASE
)


def _degrees(text: str, steps: Sequence[ReadStep], oven_c: float | None, foods: frozenset[str]) -> bool:
    """True for a temperature that nothing has. What no oven is set to is the food's own, whatever the oven is at."""
    said = in_digits(text)
    told = [*_DEGREES.finditer(said), *_SAYS_DEGREES.finditer(said)]
    in_food = core_in_food_told(text, foods) is not None
    of_food = in_food or any(_OF_FOOD.search(found[0]) for found in told)
    taken = any(step.core_c is not None or (step.oven_c is not None and not of_food) for step in steps)
    return (in_food or bool(told)) and not taken and (of_food or oven_c is None)


# "Into a labelled bag, refrigerator": where it goes, and not where it comes from.
_COLD_PLACE = re.compile(
    r"(?<!from )(?<!out of )\b(?:in|into|to) (?:the |a )?(?:fridge|freezer|refrigerator)\b"
    r"(?! (?:door|shelf|temperature))"
    r"|, (?:the )?(?:fridge|freezer|refrigerator)(?=\W*$|[,;.])",
    re.IGNORECASE,
)


def _cold_place(text: str, steps: Sequence[ReadStep]) -> bool:
    """True for a place in the cold that nothing goes to."""
    return bool(_COLD_PLACE.search(text)) and not any(step.do in ("chill", "freeze", "marinate") for step in steps)


# "Baguette in rounds under the grill": somebody cuts it.
_IN_SHAPE = re.compile(
    r"(?<!cut )\b(?:in|into) (?:[a-z]+ )?"
    r"(?:rounds|slices|strips|wedges|cubes|chunks|dice|rings|matchsticks|batons|ribbons)\b",
    re.IGNORECASE,
)


def _shape(text: str, steps: Sequence[ReadStep]) -> bool:
    """True for a shape that nothing is cut or formed into."""
    worked = any(step.do in ("cut", "grate", "peel", "touch") for step in steps)
    return bool(steps) and not worked and _IN_SHAPE.search(text) is not None


# A time that a step takes; not "within 2 hours", "after 5 minutes", "3 minutes a side", "every 10 minutes".
_TAKES = re.compile(
    r"(?<!within )(?<!after )(?<!every )(?<!about every )(?<!than )(?<!up to )\b\d+(?: ?(?:-|–|to) ?\d+)? ?"
    r"(?:min(?:ute)?s?|hours?|hrs?)\b"
    r"(?! (?:a|per|each) (?:side|500|kilo|kg|lb|pound)| (?:on )?each| before| ago| earlier| ahead)",
    re.IGNORECASE,
)


def _times_told(text: str) -> int:
    return len(_TAKES.findall(in_digits(text)))


def _times_taken(steps: Sequence[ReadStep]) -> int:
    return sum(bool(step.active_min + step.waiting_min) for step in steps)


def _work(text: str, orders: Iterable[Order], steps: Sequence[ReadStep], foods: frozenset[str]) -> bool:
    done = {_AS_GOOD.get(step.do, step.do) for step in steps}
    if _HANDS.search(text) and "wash_hands" not in done:
        return True
    read = {order.verb for order in orders}
    words = re.findall(r"[a-z'’-]+|[,.;:()]", text.lower())
    for i, word in enumerate(words):
        before, after = words[i - 1] if i else "", words[i + 1] if i + 1 < len(words) else ""
        if before in clause_words("determiners") | clause_words("prepositions") | _NO_ORDER_AFTER or word in foods:
            continue
        own = {_AS_GOOD.get(form.do, form.do) for form in verb_forms().get(word, ())}
        if steps and _is_told_by_participle(word, before, after, foods, done):
            return True
        if word in _NO_NOUN and before in ("", ",", ".", ";", "and", "then", "or") and not own & done:
            return True
        points = after in _POINTS
        if (word in nouns_too() and not points) or not (points or after in foods):
            continue
        forms = [form for form in verb_forms().get(word, ()) if form.kind == "base" and form.do in _WATCHED]
        if forms and not any(form.verb in read or _AS_GOOD.get(form.do, form.do) in done for form in forms):
            return True
    return False


# Work told by a participle: "tomatoes and coriander, rinsed, chopped".
_TOLD_BY_PARTICIPLE = frozenset({"rinse", "heat", "chill", "freeze"})


def _is_told_by_participle(word: str, before: str, after: str, foods: frozenset[str], done: set[str]) -> bool:
    """True for "rinsed" behind a food or a comma, of which no step was made; "roasted peppers" only says which."""
    if before not in foods | {",", "and"} or after in foods or after in clause_words("determiners"):
        return False
    forms = [form for form in verb_forms().get(word, ()) if form.kind == "ed" and form.do in _TOLD_BY_PARTICIPLE]
    return bool(forms) and all(_AS_GOOD.get(form.do, form.do) not in done for form in forms)


# "The pizza wheel", "the cake tin": kit.
_KIT_BEHIND = re.compile(r"[a-z-]+ (?:wheel|cutter|tin|stone|server|press|roller|plate)s?\b", re.IGNORECASE)
_WITH_WHAT = re.compile(
    r"\b(?:with|over|add|and|into|onto|on) (?:the|your|that|those|this) ([a-z-]+)(?: ([a-z-]+))?", re.IGNORECASE
)


def _is_called(text: str, is_known: Callable[[str], bool]) -> bool:
    """ "Strewn with the green mixture": something made that no food in hand is called by."""
    made = dish_words("dishes")
    for found in _WITH_WHAT.finditer(text):
        words = [word for word in found.groups() if word]
        spoken_of = {stem(word.lower()) for word in words} & made - {"finger"}
        if spoken_of and not _KIT_BEHIND.match(text[found.start(1) :]) and not is_known(" ".join(words)):
            return True
    return False

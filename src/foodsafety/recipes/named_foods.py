"""Foods named in running words, each with the amount in front of it or behind."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache

from foodsafety.foods import FoodKind, Locale, food_kind, is_raw, match_food, stem, stem_words
from foodsafety.recipes.ingredient_words import count_nouns
from foodsafety.recipes.ingredients import read_ingredient
from foodsafety.recipes.instructions import says_allergy, sentences
from foodsafety.recipes.mentions import shaped_into
from foodsafety.recipes.said_after import said_after
from foodsafety.recipes.verb_forms import kit_words, verb_forms
from foodsafety.recipes.vessels import kit_names
from foodsafety.recipes.words import dish_words, layout_pattern, made_nouns, verb_classes, vocabulary, word_set

_LONGEST_NAME = 5
# How many words before a food its amount may take: "a pound and a half of boneless skinless".
_LONGEST_AMOUNT = 9
_WORD = re.compile(r"[^\s,;:()]+")
# What stands between an amount and another food.
_PARTS = re.compile(
    r"[.,;:!?](?:\s|$)|\(|\s[-–—]\s|\b(?:with|into|over|on|up|hot|that|for)\b|^an? [a-z]+ the\b", re.IGNORECASE
)
_AMOUNT = re.compile(
    r"[\d½¼¾⅓⅔]|(?:an?|one|two|three|four|five|six|seven|eight|nine|ten|half|some|about|around|another|few|couple|several|dozen|"
    r"(?:a )?(?:pinch|handful|bunch|splash|knob|glug|drizzle|squeeze|dash|little|bit)|quarter|twelve"
    r"|twenty|fifty|hundred|juice)$",
    re.IGNORECASE,
)
_NAME_ENDS = re.compile(rf"{_PARTS.pattern}|\s(?:and|or|in|to|is|are|an?|the|if|when|that|which)\b", re.IGNORECASE)
# No name of a food has one of these in it.
_SAYS_MORE = re.compile(r"\b(?:if|is|are|that|which|when|there|they|it|the|and an?)\b|/", re.IGNORECASE)
# Before a food that something is only compared with.
_COMPARES = re.compile(
    r"\b(?:than|size of|colou?r of|as \w+ as|like)\s+(?:an?\s+|one\s+|the\s+)?$|\b(?:no|without(?: any)?)\s+$",
    re.IGNORECASE,
)
# Words that may stand between an amount and the name of its food: "boneless skinless free-range".
_MOST_BETWEEN = 3
_NO_NAME = frozenset("the it them this that each of and or in to more per a an water back".split())
_NO_FOODS = frozenset({"water", "ice", "ice water"})


_AT_A_TIME = re.compile(r"\b(?:an?|one|two|\d+) ?[a-z]+ at a time\b", re.IGNORECASE)
# "Browned in a heavy casserole": what it is cooked in.
_A_POT = re.compile(
    r"\b(in|into|to|from) (?:a|the|your) (?:(?:heavy|large|big|deep|wide|lidded|hot|flameproof|ovenproof|cast[- ]iron)"
    r"(?:,| and)? )*casserole(?: dish)?\b",
    re.IGNORECASE,
)


def foods_named(text: str, locale: Locale) -> tuple[str, ...]:
    """Ingredient lines for the foods that running text names, in the order of their first mention,
    each with the amount in front of it if one is there: "2 tablespoons olive oil". A food named
    again, or by a shorter name without an amount, is not offered twice."""
    found: list[_Named] = []
    shapes = set[str]()
    told = _A_POT.sub(r"\1 the pot", _IF_THERE_IS.sub(", ", _AT_A_TIME.sub("", text)))
    for sentence in sentences(_NO_MEAT.sub("match", told)):
        if says_allergy(sentence):
            continue  # what somebody may not eat is in no line for it
        # "Roll into 12 sausages": what is called sausages from here on is no food of its own.
        shapes |= {stem(match[1].lower()) for match in _shaped().finditer(sentence)}
        found += (row for row in _named_in(sentence, locale) if row.measured or not row.words <= shapes)
    kept: list[_Named] = []
    bought = [row for row in found if row.made]
    found = [row for row in found if not row.made]
    for at, row in enumerate(found):
        others = [other for other in kept if _is_same(row, other)]
        if not row.measured:
            plain = len(row.words) == 1  # "we'd do beef ... half a kilo of rump steak"
            later = (other for other in found[at:] if other.measured)
            others += [other for other in later if row.words <= other.words or (plain and row.kind == other.kind)]
        if not row.measured and _is_plain_word_for(row, kept):
            continue  # "the fish", of the smoked haddock
        if not row.measured and row.words in ({"seed"}, {"leftover"}):
            continue  # "pull the seeds out"
        if row.words <= _OF_A_BIRD and not row.measured and any(_is_bird(other.kind) for other in kept):
            continue  # "the thickest part of the thigh"
        if not others and row.kind not in _NO_FOODS and row.words != {"juice"}:
            kept.append(row)
    return tuple(row.line for row in (*kept, *_bought_ready(bought, kept, text)))


def _bought_ready(dishes: Sequence[_Named], kept: Sequence[_Named], text: str) -> Iterator[_Named]:
    """What is called like something made, and brings an allergen that none of the foods has: "flatbreads, warmed" where
    nobody has flour. What the text says it makes is none."""
    brought = {name for row in kept if (food := match_food(row.kind)) for name in food.kind.allergens}
    for row in dishes:
        food = match_food(row.kind)
        if (
            food is None
            or brought >= food.kind.allergens
            or re.search(rf"\bmak\w+ [^.;]*{row.line}", text, re.IGNORECASE)
        ):
            continue
        brought |= food.kind.allergens
        yield row


def _is_plain_word_for(row: _Named, kept: Sequence[_Named]) -> bool:
    """True for a plain word ("the fish", "the vegetables") that a food named before is meant by."""
    groups = vocabulary()["groups"].get(next(iter(row.words)), ()) if len(row.words) == 1 else ()
    known = (match_food(other.kind) for other in kept)
    fish = row.words == {"fish"}
    return any(food.kind.group in groups or (fish and "fish" in food.kind.allergens) for food in known if food)


def _is_same(row: _Named, other: _Named) -> bool:
    """True for a food that was named before. Two amounts are two uses ("1 egg yolk" for the crust, "4 eggs" for the
    filling), and raw food is never the ready food of a longer name ("hard-boiled eggs")."""
    twice = row.measured and other.measured
    if twice and row.line != other.line and not _ONE_MORE.match(row.line):
        return False
    shorter = row.words <= other.words and (
        row.kind == other.kind or not _is_raw_name(row.kind) or _is_raw_name(other.kind)
    )
    return shorter or (row.kind == other.kind and not twice)


def _is_raw_name(name: str) -> bool:
    found = match_food(name)
    return found is not None and any(is_raw(soil) for soil in found.kind.soils)


# "Four of you, or five if there's bread": the bread, and no five of them.
_NO_MEAT = re.compile(r"\bgame(?= (?:time|day|night|on|plan)\b)", re.IGNORECASE)
_IF_THERE_IS = re.compile(
    r"\s(?:\w+ )?if (?:there(?:['’]s| is| are)|you(?:['’]ve got| have)) (?:any |some |a bit of )?", re.IGNORECASE
)
_MAKES = re.compile(
    r"\b(?:mak(?:e|es|ing)|prepare|(?:mix|whip|knock|stack|build|whisk|stir) up|(?:throw|put|toss) together|do)"
    r"\s+(?:up\s+)?$",
    re.IGNORECASE,
)


def _is_what_it_makes(sentence: str, first: re.Match[str], last: re.Match[str]) -> bool:
    """ "I make a quick garlicky yoghurt: a cup of plain yoghurt, ...": what the foods behind it become."""
    one = first[0].lower() in ("a", "an", "the", "some")
    return one and sentence[last.end() :].startswith(":") and _MAKES.search(sentence[: first.start()]) is not None


_DISH_NAMED = re.compile(
    r"(?:an?|my|our) (?:[a-z-]+ ){0,3}(?:and|&|with) (?:[a-z-]+ ){1,3}(?:pie|stew|curry|soup|bake|salad|casserole|pasta"
    r"|hotpot|risotto|lasagne|pudding|tart|crumble|sandwich|stir[- ]fry|traybake|broth|quiche)\b",
    re.IGNORECASE,
)
_ONE_MORE = re.compile(r"(?:an?|one) ", re.IGNORECASE)
_OF_A_BIRD = frozenset({"thigh", "breast", "leg", "drumstick", "wing"})


def _is_bird(name: str) -> bool:
    found = match_food(name)
    return found is not None and "poultry" in found.kind.group


@dataclass(frozen=True, slots=True)
class _Named:
    """A food found in a sentence, with the words of its name."""

    line: str
    kind: str
    words: frozenset[str]
    measured: bool
    # It may be what comes of the others: "the flatbreads".
    made: bool = False


def _named_in(sentence: str, locale: Locale) -> Iterator[_Named]:
    words = list(_WORD.finditer(sentence))
    at = free = 0
    while at < len(words):
        found = _food_at(sentence, words, at)
        if found and found[1] == at and re.match(r"cloves?\b", words[at][0]) and words[at - 1][0].lower() == "garlic":
            found = None  # "a crushed garlic clove" has no cloves
        strange = _unknown_at(sentence[words[at].start() :], locale) if found is None else None
        if strange:
            yield strange
        if found is None or _is_measure(sentence, words, found[1]) or _is_kit(words, found[1]):
            at += 1
            continue
        kind, end = found
        start = _amount_start(sentence, words, free, at, end, locale)
        if start == at == end and _orders_something(sentence, words, at):
            at += 1  # "fry", "wrap", "fries them": a bare word that orders something is no food
            continue
        called = _DISH_NAMED.match(sentence[words[start].start() :])
        if called:  # "it's a chicken and leek pie": what all of it is
            past = words[start].start() + called.end()
            at = free = next((n for n in range(end + 1, len(words)) if words[n].start() >= past), len(words))
            continue
        if _is_allergy(words, end):
            at = free = end + 1
            continue
        dish = _is_a_dish(sentence, words, (start, at, end), kind)
        if dish or _is_to_be_made(sentence, words, (start, at, end)):
            # "The venison stew" is what comes of it all, "make a quick yoghurt: ..." of that.
            if dish and kind.group in ("bread", "pastry", "biscuit", "pasta"):
                ready = sentence[words[at].start() : words[end].end()].strip(" .!?")
                yield _Named(ready, kind.name, frozenset(stem_words(ready)), measured=False, made=True)
            at = free = end + 1
            continue
        if _COMPARES.search(sentence[: words[at].start()]) or _is_shape(sentence, words[start].start()):
            at = free = end + 1  # "the size of an egg", "roll into 12 sausages"
            continue
        name = frozenset(stem_words(sentence[words[at].start() : words[end].end()]))
        line = sentence[words[start].start() : words[end].end()].strip(" .!?'\"/|+&")
        article = words[start][0].lower() in ("a", "an") and start + 1 == at
        more = said_after(sentence[words[end].end() :], counted=start < at and not article)
        if more:
            line = sentence[words[start].start() : words[end].end() + more.end()]
        yield _Named(line, kind.name, name, measured=start < at or more is not None)
        until = words[end].end() + (more.end() if more else 0)
        at = free = next((n for n in range(end + 1, len(words)) if words[n].start() >= until), len(words))


def _is_a_dish(sentence: str, words: Sequence[re.Match[str]], place: tuple[int, int, int], kind: FoodKind) -> bool:
    """True for a food without an amount that is called like a dish: "the venison stew"."""
    start, at, end = place
    last = (stem_words(words[end][0]) or ("",))[-1]
    counted = re.match(r"\s*x\s*\d", sentence[words[end].end() :]) is not None  # "buns x 36"
    bought = end > at and bool(kind.allergens)  # "soy sauce", never "the sauce"
    return start == at and not counted and not bought and last in dish_words("dishes") | word_set("made", "meals")


def _is_to_be_made(sentence: str, words: Sequence[re.Match[str]], place: tuple[int, int, int]) -> bool:
    """True for what the foods behind it become, or what all of it is for: "for a stew", "make a quick yoghurt: ..."."""
    start, at, end = place
    last = (stem_words(words[end][0]) or ("",))[-1]
    article = words[start][0].lower() in ("a", "an") and start + 1 == at
    for_it = article and last in dish_words("dishes") and sentence[: words[start].start()].endswith("for ")
    mixed = article and last in word_set("made", "mixed")
    return bool(for_it or mixed or _is_what_it_makes(sentence, words[start], words[end]))


@cache
def _shaped() -> re.Pattern[str]:
    return re.compile(rf"{shaped_into().pattern}([a-z]+)", re.IGNORECASE)


_SHAPES = re.compile(r"\b(?:shape|form|mould|mold)(?: (?:up|out|it into|them into|into))?\s+$", re.IGNORECASE)


_ROLLS = re.compile(r"\b(?:roll|pat|press)(?: out)?\s+$", re.IGNORECASE)
_SO_MANY_ROLLED = re.compile(
    r"(?:\d+|two|three|four|six|eight|ten|twelve|sixteen|twenty|a dozen)\s+(?:[a-z]+ )?"
    r"(?:sausages|balls|meatballs|burgers|cakes|fingers)\b",
    re.IGNORECASE,
)


def _is_shape(sentence: str, at: int) -> bool:
    """True if what stands at a place is what other food is shaped into."""
    before = sentence[:at]
    if _SHAPES.search(before):
        return True  # "shape eight cakes"
    if _ROLLS.search(before) and _SO_MANY_ROLLED.match(sentence[at:]):
        return True  # "roll 16 sausages"
    return any(not before[found.end() :].strip() for found in shaped_into().finditer(before))


_WEIGHED = re.compile(r"\d[\d.,/]*\s?(?:g|kg|ml|l|oz|lbs?|cups?|tbsp|tsp)\b[^.,;:!?()]*", re.IGNORECASE)


# "20 minutes per 500 g plus 20": how long it takes.
_PLUS_MINUTES = re.compile(
    r"\d[\d.,/]*\s?(?:g|kg|lb|lbs|pound)s?,? (?:plus|and|\+)(?: (?:an? )?(?:extra|another))? (?:\d|half|twenty|thirty)"
    r"(?!\d*\s?(?:g|kg|ml)\b)",
    re.IGNORECASE,
)


@cache
def _counted() -> re.Pattern[str]:
    """ "Handful of corriander"."""
    nouns = "|".join(sorted(map(re.escape, count_nouns()), key=len, reverse=True))
    return re.compile(rf"(?:{nouns})s? of [a-z]{{4,}}[^.,;:!?()]*", re.IGNORECASE)


def _unknown_at(text: str, locale: Locale) -> _Named | None:
    """A food with an amount that nobody knows, or whose name nobody writes so: "500 g moonrock". It is asked
    about, never dropped."""
    weighed = _WEIGHED.match(text) or _counted().match(text)
    if weighed is None or _PLUS_MINUTES.match(text):
        return None
    line = _NAME_ENDS.split(" ".join(weighed[0].split()[:7]))[0].strip()
    item = read_ingredient(line, locale)
    words = stem_words(item.food or "")
    if not kit_words().isdisjoint(words) or layout_pattern("rows", "kit_ends").search(line):
        return None
    # A name that only its plain word tells ("100 g block marg") is found nowhere else.
    if item.measured and item.kind and not any(match_food(word[0]) for word in _WORD.finditer(line)):
        return _Named(line, food_kind(item.kind).name, frozenset(words), measured=True)
    if (
        not item.kind
        and words
        and any(form.kind == "ed" for form in verb_forms().get((item.food or "").split()[0], ()))
    ):
        return None  # "cooked prawns 200 g defrosted in the fridge"
    known = item.kind and ("food-unsure" not in item.doubts or any(match_food(word) for word in words))
    if not item.measured or known or not words or words[0] in _NO_NAME or not made_nouns().isdisjoint(words):
        return None
    return _Named(line, item.food or "", frozenset(words), measured=True)


_WEIGHS = re.compile(r"\s+\d[\d.,]*\s?(?:kg|g|lbs?|oz)\s*(?:[,;.)]|$)", re.IGNORECASE)


def _orders_something(sentence: str, words: Sequence[re.Match[str]], at: int) -> bool:
    """True for a bare word that may be a food and is an order here: "fry", but not in "brown mince",
    "melt the butter" and "mince 1.5 kg, 3 onions"."""
    low = words[at][0].lower()
    before = words[at - 1][0].lower() if at > 0 and sentence[words[at - 1].end() : words[at].start()].isspace() else ""
    if before in verb_classes() or before in ("the", "with", "of", "in") or _WEIGHS.match(sentence, words[at].end()):
        return False
    after = words[at + 1][0].lower() if at + 1 < len(words) else ""
    return low in verb_classes() or (after in ("it", "them", "the", "some", "this") and low in verb_forms())


def _is_measure(sentence: str, words: Sequence[re.Match[str]], end: int) -> bool:
    """ "Cloves of garlic": what counts a food is none itself."""
    after = [word[0].lower() for word in words[end + 1 : end + 2]]
    if words[end][0].lower() in ("clove", "cloves") and after == ["garlic"]:
        return True
    return after == ["of"] and any(_food_at(sentence, words, at) for at in (end + 2, end + 3) if at < len(words))


def _is_allergy(words: Sequence[re.Match[str]], end: int) -> bool:
    """ "A nut allergy": what somebody may not eat is named, and nothing of it is in the dish."""
    after = words[end + 1][0].lower() if end + 1 < len(words) else ""
    return after in ("allergy", "allergies", "allergic", "intolerance")


def _is_kit(words: Sequence[re.Match[str]], end: int) -> bool:
    """ "A tea towel", "a fish slice": kit that has a food in its name."""
    pair = [stem_words(word[0]) for word in words[end : end + 2]]
    if len(pair) == 2 and pair[1] in (("tub",), ("carton",), ("wrapper",)) and words[end + 1][0].lower().endswith("s"):
        return words[end - 1][0].lower() in ("in", "into", "old", "empty") if end else False  # "in margarine tubs"
    if len(pair) == 2 and pair[1] in (("water",), ("liquor",)):
        return True  # "500 ml fish water": what it was cooked in
    return len(pair) == 2 and (*pair[0], *pair[1]) in kit_names()


def _food_at(sentence: str, words: Sequence[re.Match[str]], at: int) -> tuple[FoodKind, int] | None:
    """The food whose name begins at a word, and its last word; the longest name wins."""
    does = any(form.kind in ("s", "ing") for form in verb_forms().get(words[at][0].lower(), ()))
    for end in range(min(at + _LONGEST_NAME, len(words)) - 1, at - 1, -1):
        name = sentence[words[at].start() : words[end].end()].strip(" .!?/|")
        if end > at and (does or _SAYS_MORE.search(name)):
            continue  # "puts mince", "giblets if there"
        found = match_food(name)
        if found and found.whole:
            return found.kind, end
    return None


# "Into a large bowl and mash": what comes next is another order.
_VESSEL_AND = re.compile(r"\b(?:bowl|pan|pot|jug|dish|tin|tray|plate|saucepan)s? and\b", re.IGNORECASE)


# "In the fat for ten minutes and the mince goes back": ten of no mince.
_OF_TIME = re.compile(r"\b(?:min(?:ute)?|hour|hr|sec(?:ond)?|day|night|week)s?\b", re.IGNORECASE)


def _is_squeezed(words: Sequence[re.Match[str]], at: int) -> bool:
    """ "Squeeze together the mince and oats": work, where "a squeeze of lemon" is an amount."""
    low = words[at][0].lower()
    after = words[at + 1][0].lower() if at + 1 < len(words) else ""
    before = words[at - 1][0].lower() if at else ""
    return low in ("squeeze", "pinch", "drizzle", "splash", "dash") and (
        after in ("the", "together", "in", "over", "out", "your", "all") or (after != "of" and not before)
    )


def _amount_start(sentence: str, words: Sequence[re.Match[str]], free: int, at: int, end: int, locale: Locale) -> int:
    """Where the amount in front of a food begins, or the food itself if none does; never in what
    belongs to the food before."""
    for start in range(max(free, at - _LONGEST_AMOUNT), at):
        between = sentence[words[start].start() : words[at].start()]
        apart = _PARTS.search(between) or _VESSEL_AND.search(between) or _OF_TIME.search(between)
        if apart or not _AMOUNT.match(words[start][0]) or _is_squeezed(words, start):
            continue
        counts = start + 1 + (stem(words[start + 1][0].lower()) in count_nouns())  # "8 slices of bread"
        if any(form.kind == "s" for word in words[counts:at] for form in verb_forms().get(word[0].lower(), ())):
            continue  # "person 3 puts 500 g mince"
        item = read_ingredient(sentence[words[start].start() : words[end].end()].strip(" .!?"), locale)
        if item.measured and item.kind and len((item.food or "").split()) <= end - at + 1 + _MOST_BETWEEN:
            return start
    return at

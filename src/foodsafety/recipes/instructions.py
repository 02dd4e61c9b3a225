"""Instructions: a sentence of a recipe as orders, each with its verb, times and temperatures."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import cache, lru_cache

from foodsafety.recipes.bare_clauses import BESIDE_THE_COLD, Clause
from foodsafety.recipes.clauses import clauses, without_asides
from foodsafety.recipes.fronted import verb_first
from foodsafety.recipes.ingredient_words import plain_line
from foodsafety.recipes.leads import order_first
from foodsafety.recipes.order import Order
from foodsafety.recipes.plain_speech import plain_saying
from foodsafety.recipes.times_and_heats import minutes_in, temperatures_in
from foodsafety.recipes.verb_forms import clause_words
from foodsafety.recipes.voices import in_plain_voice, note_in_full
from foodsafety.recipes.washes_told import hands_and_kit, is_left_out, wash_same, washes_kit
from foodsafety.recipes.words import clause_vocabulary, layout_pattern, verb_classes, vocabulary

_SENTENCE = re.compile(r"(?<=[.!?;])\s+(?=[A-Z0-9(\"'~])|(?<=[a-z]{3}[.!?])\s+(?=[a-z])|\n+")
_ABBREVIATION = re.compile(
    r"\b((?i:approx|tbsp|tsp|oz|lb|no|c|sp|chick|coc|choc|veg|toms|pots)|(?<=\d )in)\."
    r"(?=\s+(?!(?:lid|low|oven|simmer|stir|cook|add|bake|then|cover|boil|fry|serve|put|pour|mix|bring|top|drain)\b)[a-z0-9(])"
    # "8 min. off heat" is two sentences, "8 min. each side" is one.
    r"|\b((?i:mins?|hrs?))\.(?=\s+(?:(?!\d+ ?(?:g|kg|ml|l|tbsp|tsp|oz|lbs?|cups?|tins?) )"
    r"(?!(?:1[4-6]\d|[67]\d) ?(?:°|[FCfc]\b|degrees|in ))[0-9(]"
    r"|(?:each|per|a|until|til|till|on|in|at|or|over|if|and|with|to|for|from"
    r"|more|before|after|covered|uncovered|turning|stirring|total|max|side)\b))"
)
_NUMBERED = re.compile(
    r"^\s*\d{1,2}[.:]\d{2}\s*(?:am|pm|h)?\s+(?=[A-Z])"
    r"|^\s*(?:[01]\d|2[0-3])[0-5]\d(?:\s?[-–]\s?(?:[01]\d|2[0-3])[0-5]\d)?\s+(?=(?-i:[A-Z]))"
    r"|^\s*(?:step\s+)?\d{1,2}[.):]\s+|^\s*[-*•]\s+|^\s*[a-h]\)\s+",
    re.IGNORECASE,
)


_MINUTE_MARK = re.compile(r"^\(\d{1,3}(?: ?min\w*)?\)\s*(?=[A-Z])")


def sentences(text: str) -> list[str]:
    """A text as sentences; the dot of an abbreviation or a number ends none."""
    plain = "\n".join(_NUMBERED.sub("", plain_line(line)) for line in text.splitlines())
    plain = _ABBREVIATION.sub(lambda found: found[1] or found[2], plain)
    parts = [part.strip() for part in _SENTENCE.split(plain) if part.strip(" .")]
    found: list[str] = []
    for part in parts:
        if found and _belongs_before(part, found[-1]):
            found[-1] = f"{found[-1]} {part}"
        else:
            found.append(part)
    return [_MINUTE_MARK.sub("", one) for part in found for one in _served_or_kept(part)]


_SERVES = re.compile(r"^\W*(?:serve|eat|enjoy)\b", re.IGNORECASE)
_HOT_KIT = re.compile(
    r"\W*(?:very |smoking |medium )*(?:hot |hot, )?(?:dry |oiled |clean )?"
    r"(?:(?:pan|wok|griddle|skillet)\b[^.]{0,12}|ovens?\b.{0,6}\d{2,3}\b.{0,4})[.!]?$",
    re.IGNORECASE,
)


def _belongs_before(part: str, last: str) -> bool:
    """Two words are no sentence to ask about: "Chill it." belongs to what stands before it. "Keep it hot. Serve." are
    two all the same: the serving would hide that nobody keeps it hot, or that the same knife is used."""
    if _HOT_KIT.match(part) or _HOT_KIT.match(last):
        return False  # "Hot pan. Ladle in": where what follows is done
    if re.match(r"\w+: \w", part) or re.fullmatch(r"\W*hands?[.!]", last, re.IGNORECASE):
        return False  # "Hands: wash.", "Hands. Red boards out"
    short = len(part.split()) <= 2 or len(last.split()) <= 2
    told = (layout_pattern("sentences", what).search(last) for what in ("checking", "risky"))
    hides = short and _SERVES.match(part) and any(told)
    return short and not hides and re.search(r"[.!?]$", last) is not None


_THEN = re.compile(r"\s*(?:[,;]|\s[-–—]\s|\band\b)\s*(?:and )?then,?\s+(?=[a-z])(?![^()]*\))", re.IGNORECASE)
# "Halve the avocado, then toss with lime": all that the sentence was about.
_WITH_ALL = re.compile(
    r"(?:toss|mix|stir|combine|serve|fold|layer) (?:with|together|in|into|well|through)\b"
    r"|(?:straight |back |all )?(?:in|into|on|onto|over|under)\b",
    re.IGNORECASE,
)
_WASHES = frozenset({"rinse", "wash_hands", "clean"})
_NO_WORK = frozenset({"topic", "list", "none", "timed"})


def one_after_another(sentence: str, foods: frozenset[str]) -> list[str]:
    """A sentence parted at ", then", where what stands on either side is a sentence of its own: it says no more than a
    full stop would. ``foods`` are the words that name food."""
    halves = re.split(r";\s+(?![^()]*\))", sentence)
    shares = any(
        re.search(r"\b(?:rest|others?)\b", half, re.IGNORECASE) for half in halves[1:]
    )  # of what was said before
    if len(halves) > 1 and not shares and all(len(half.split()) > 1 for half in halves):
        each = [orders(half, foods) for half in halves]
        if all(one and one[0].do not in _NO_WORK for one in each[1:]):
            return [part for half in halves for part in one_after_another(half, foods)]
    found: list[str] = []
    for part in _THEN.split(sentence):
        own = orders(part, foods)
        alone = bool(own) and own[0].do not in _NO_WORK and len(part.split()) > 2
        hands = bool(found) and re.search(r"\bhands\b", found[-1]) and re.match(r"(?:wash|scrub) (?:them|both)\b", part)
        alone = alone and not hands  # "get your hands in, then wash them"
        if found and alone and own[0].lead == "" and not _WITH_ALL.match(part) and orders(found[-1], foods):
            found.append(part)
        else:
            found = [*found[:-1], f"{found[-1]}, then {part}"] if found else [part]
    return found


def _served_or_kept(sentence: str) -> list[str]:
    """A serving, and the keeping that stands for it after "or", which would be lost in it."""
    kept = layout_pattern("sentences", "kept_instead").search(sentence) if _SERVES.match(sentence) else None
    return [sentence[: kept.start()], sentence[kept.end() :]] if kept else [sentence]


# "Onions in, another five. Paprika, stir.": two notes in one row.
_SHORT_LAST = re.compile(r"(?<=[a-z][.!] )(?:[A-Z][a-z]+, [a-z]+|(?:simmer|boil|bake|fry|roast|rest|chill) \d+)[.!]?$")


# Named in passing by any recipe, and verbs too.
_ALWAYS = frozenset("salt pepper oil butter flour sugar cream".split())
# Named in general by any recipe: "rinse berries", "chop vegetables".
_ALWAYS |= frozenset("crust filling topping batter dough frosting icing".split())
_ALWAYS |= frozenset("vegetables veg veggies berries fruit fruits herbs greens spices nuts beans noodles".split())


def orders(sentence: str, foods: frozenset[str] = frozenset()) -> list[Order]:
    """The orders of one sentence, in its order. A sentence without any gives none. ``foods`` are words
    that name food."""
    return list(_orders(sentence, foods))


@lru_cache(maxsize=4_000)
def _orders(sentence: str, foods: frozenset[str]) -> list[Order]:
    """Rows are asked what they order many times while they are told apart; each is read once."""
    found, lead = _orders_in(sentence, foods), _ONLY_BEFORE.match(sentence)
    if lead is None or any(order.do not in _NO_WORK for order in found):
        return found
    rest = orders(sentence[lead.end() :], foods)
    if all(order.do in _NO_WORK for order in rest):
        return found
    return [replace(rest[0], lead=f"{lead[0].strip(' ,:;.')}, {rest[0].lead}".strip(" ,")), *rest[1:]]


# "Now 75 in the middle", "first the onion you cut small": what says only when, before words that are read without it.
_ONLY_BEFORE = re.compile(
    r"^\W*(?:(?:first(?: of all| off)?|now|then|next|also|after(?:wards| (?:that|this))|finally|lastly|last of all"
    r"|meanwhile|(?:in|at) the same time|to be (?:sure|safe|certain)|to finish|don['’]t guess|so|and|well|right"
    r"|ok)\b[,:;.]? )+",
    re.IGNORECASE,
)


def _orders_in(sentence: str, foods: frozenset[str]) -> list[Order]:
    last = _SHORT_LAST.search(sentence)
    if last:
        return [*orders(sentence[: last.start()], foods), *orders(last[0], foods)]
    warns = layout_pattern("sentences", "warning").search(sentence) is not None
    sentence = note_in_full(sentence, foods | _ALWAYS)
    sentence = _with_its_list(sentence)
    shares_out = _EQUALS.search(sentence) and _EQUALS.search(plain_saying(unlabelled(sentence)[1]))
    if shares_out or (sentence.rstrip().endswith("?") and not _READS.match(sentence)):
        return []  # "Cook 1 = fish": who does what, no order
    if _ALLERGY.match(sentence):
        return []
    if sets_out(sentence):
        return orders("Line the tray.")  # nothing is done with any food yet
    sentence = _LEFT_IN.sub(r"\1 remains\2", sentence)
    own = unlabelled(layout_pattern("sentences", "plated").sub("serve ", sentence))[1]
    own = order_first(own, foods | _ALWAYS)
    plain = verb_first(plain_saying(in_plain_voice(own, foods | _ALWAYS)), foods | _ALWAYS)
    told = [_order_of(clause) for clause in clauses(plain, foods | _ALWAYS)]
    found = [one for order in told if order for one in _set_up_and_on(order, foods)]
    only_told = layout_pattern("sentences", "only_told").search(sentence) is not None
    found = [order for order in found if not (only_told and order.do in _WASHES)]
    every = [one for order in found if not is_left_out(order) for one in hands_and_kit(order)]
    jobs = layout_pattern("sentences", "jobs").match(sentence) is not None
    if jobs and all(order.verb in clause_words("gives_out") for order in every):
        return []  # "person A takes the chicken, person B everything else"
    if warns:
        return [order for order in every if order.do == "topic"]  # "don't rinse the cod": what comes next is of it
    return wash_same(_share_objects(_served_with(every)))


# "75C?", alone in a row: somebody is to measure it.
_READS = re.compile(
    r"\W*(?:is it |are they |at )?(?:at least |over )?(?:1[3-9]\d|[67]\d|8\d) ?(?:°|degrees|deg)? ?[CF]?"
    r"(?:\+| or more| or above)?"
    r"(?: (?:in|at|inside|all the way|right) [^.,;?]{0,30})?\?\s*$"
    r"|\W*(?:is|are) (?:it|they|(?:the|each|your|every) [a-z ]{3,40}) (?:at|over|above|up to) (?:least )?\d{2,3}"
    r" ?°?[CF]?(?: yet)?\?"
)
_EQUALS = re.compile(r"(?:^|[.!?]\s)\s*[\w ]{1,20} = (?!(?:done|cooked|safe|ready)\b)")
# "In what is left in the pan": nobody leaves anything.
_LEFT_IN = re.compile(r"\b(what(?:ever)?)(?: is|['’]s) left( in\b)", re.IGNORECASE)


def _set_up_and_on(order: Order, foods: frozenset[str]) -> list[Order]:
    """ "Oven to 200, chicken on a rack, 40 minutes": what comes after setting up is work of its own."""
    head, comma, tail = order.text.partition(", ")
    if order.verb not in ("preheat", "cover") or order.do not in ("none", "transfer", "pour") or not comma:
        return [order]
    rest = orders(tail, foods)
    works = any(one.do not in _NO_WORK for one in rest)
    return [replace(order, text=head, low_min=None, high_min=None), *rest] if works else [order]


def sets_out(sentence: str) -> bool:
    """ "Three plates: flour / beaten egg / crumbs": set up to coat something, and nothing is done yet."""
    own = re.sub(r"^\W*\([^)]{2,30}\)\s*", "", unlabelled(sentence)[1])  # "Step 3 - (egg person) set up"
    return any(map(_SET_OUT.match, (sentence, own)))


_SET_OUT = re.compile(
    r"\W*(?:(?:one person|somebody|someone|one of you|a partner|the cook) sets (?:up|out) )?"
    r"(?:(?:you(?:['’]ll| will)? )?(?:set (?:up|out)|need|want|get|take|have|prepare|line up|lay out"
    r"|put out) )?(?:the |your )?"
    r"(?:[1-4]|one|two|three|four) (?:[a-z]+ )?(?:plates?|bowls?|dish(?:es)?|trays?|saucers?)"
    r"(?: ready| out|,? (?:each|side by side|in a row))?(?:\s*[:\-–,]|\s+(?=flour)| (?=of\b|with\b|for\b))"
    r"(?=.*\bflour\b)(?=.*\b(?:crumbs?|breadcrumbs|panko)\b)(?!.*\b(?:dip|coat|roll|dredge|turn)\b)",
    re.IGNORECASE,
)


# "Serve: rice, chilli, dollop yoghurt": what one has of it is no order.
_DOLLOP = re.compile(
    r"(?:dollop|drizzle|sprinkle|squeeze|scoop|spoon|splash|slick|dust) "
    r"(?!(?:the|it|them|some|an?|over|on|with|your)\b)",
    re.IGNORECASE,
)


def _served_with(found: list[Order]) -> list[Order]:
    if not found or found[0].do != "serve":
        return found
    more = [order for order in found[1:] if _DOLLOP.match(order.text)]
    said = ", ".join([found[0].text, *(order.words for order in more)])
    return [replace(found[0], text=said), *(order for order in found[1:] if order not in more)]


_NUMBER_LABEL = re.compile(
    r"\s*(?:\(\d+[^)]{0,12}\)\s*)?(?:(?:step|stage)\s*\d+\s*[-:.)]*\s*)?(?:\(\d+[^)]{0,12}\)\s*)?(?:[a-h][.)]\s+(?=[A-Z]))?",
    re.IGNORECASE,
)
_WHO = re.compile(r"([A-Za-z][\w ,+&'-]{0,48}(?:\s\([\w ,+&'-]{1,48}\))?):\s+(?=\S)")


# "Glaze. Whisk together the miso ...": a word of its own before the orders it heads.
_HEADED = re.compile(r"([A-Z][a-z]+(?: [a-z]+)?)\. (?=[A-Z][a-z]+ )")
_HEADINGS = frozenset(
    "glaze finish dressing coating topping filling garnish marinade brine rub crumb sauce base crust".split()
)
_ALLERGY = re.compile(
    r"^\W*(?:contains |for )?allerg(?:y|ies|ens?|y note)\b\s*[:-]"
    r"|^\W*(?:(?:nb|note|warning|caution)\W+)?contains:?\s+\w+(?:,|\s+and\b)",
    re.IGNORECASE,
)
# "Dip each finger: flour, egg, crumbs": with what the order before the colon is done.
_DONE_WITH = re.compile(r"^(\W*[A-Za-z]+(?: [a-z]+){0,3}): (?=[^:.]*,[^:.]*[.]?$)")


def _with_its_list(sentence: str) -> str:
    found = _DONE_WITH.match(sentence)
    verb = verb_classes().get(found[1].split()[0].lower()) if found else None
    if found is None or verb not in ("coat", "mix", "garnish", "brush") or len(found[1].split()) > 4:
        return sentence
    if found[1].strip().lower() in vocabulary()["made"]["cold"].split():
        return sentence  # "Dip: yoghurt, lime": what is made
    return f"{found[1]} with {sentence[found.end() :]}"


def unlabelled(sentence: str) -> tuple[str, str]:
    """What stands before a sentence's colon (who does it, or which part of the dish it is for), and the
    sentence itself."""
    number = _NUMBER_LABEL.match(sentence)
    rest = sentence[number.end() :] if number else sentence
    found = _WHO.match(rest)
    words = re.sub(r"\s\([^()]*\)$", "", found[1]).lower().split() if found else []
    if words and words[0] in ("in", "into", "under", "on", "over", "probe", "thermometer", "core"):
        return "", rest  # "under a hot grill: 12 minutes", "probe: 75": where and what, and nobody's name
    orders_work = (
        len(words) > 1 and words[0] in verb_classes() and words[0] not in clause_vocabulary()["words"]["people"].split()
    )
    if not found or len(words) > 7 or orders_work:
        headed = _HEADED.match(rest)
        if headed and (headed[1].split()[0].lower() not in verb_classes() or headed[1].lower() in _HEADINGS):
            return headed[1], rest[headed.end() :]
        return "", rest
    return found[1].strip(), rest[found.end() :]


def says_allergy(sentence: str) -> bool:
    """True if a sentence only lists what somebody may not eat."""
    return _ALLERGY.match(sentence) is not None


_TOLD_OF_IT = re.compile(
    r"([^,]+),\s*(?:which|that|who)\b[^,]*,\s*(?:(?:is|are|was|were|be|been|has|have|then|now)\s*)*$", re.IGNORECASE
)


def _order_of(clause: Clause) -> Order | None:
    """An order of a clause: in the passive, what is worked on stands before the verb."""
    text, lead = clause.text, clause.lead
    if clause.form == "passive":
        related = re.search(r"\b(?:which|that|who)\b.*?\b((?:the|all|both)\b.*)$", lead, re.IGNORECASE)
        told = _TOLD_OF_IT.match(lead)  # "the beans, which were soaked since the morning, are drained": the beans
        subject = told[1] if told else related[1] if related else without_asides(lead)
        subject = re.sub(r"\b(?:which|that|who)\b.*$", "", subject, flags=re.IGNORECASE)
        subject = re.sub(
            r"\b(?:is|are|be|been|being|was|were|has|have|having|then|now|must|first|should|may|will|well|where)\b",
            " ",
            subject,
        )
        rest = re.sub(r"^\S+\s*", "", text)
        subject = re.sub(r"^they$", "them", subject.strip(" ,"), flags=re.IGNORECASE) or "it"
        text, lead = re.sub(r"\s+", " ", f"{clause.verb} {subject} {rest}").strip(" ,"), ""
    return _order(clause.do, clause.verb, _IN_LAST.sub(r"\1 in \2\3", text), lead)


# "Fold the cream in": fold in the cream.
_IN_LAST = re.compile(
    r"^(fold|stir|whisk|beat|mix|tip|drop|pour|rub|crumble|squeeze|scrape|slide|work|toss|swirl|scatter)\s+"
    r"(?!in\b|it\b|them\b|that\b|everything\b|all\b)([^,;.]{2,40}?)\s+in(\W*)$",
    re.IGNORECASE,
)


_BARE = re.compile(r"^(?:pat (?:it )?dry|[\w-]+(?: (?:well|thoroughly|finely|roughly|thinly|carefully))?)[.,]?$")


_PREPARES = frozenset({"cut", "peel", "grate", "rinse", "pour"})
# "Wash and pat dry the lettuce", "peel and squeeze the lime": work with the same thing goes on.
_GOES_ON = _PREPARES | {"touch"}


def _share_objects(found: list[Order]) -> list[Order]:
    """A bare verb has the object of the order after it: "peel and grate the carrots"."""
    for i in range(len(found) - 2, -1, -1):
        order, after = found[i], found[i + 1]
        first = all(_BARE.match(row.text) for row in found[:i]) and not order.lead
        prepares = (order.do in _PREPARES or order.verb == "pat") and after.do in _GOES_ON
        if (
            _BARE.match(order.text)
            and (first or prepares)
            and order.do not in ("none", "wash_hands", "topic", "list")
            and after.do != "serve"
        ):
            of = after.object_of or after.text
            if order.do == "pour":  # "drain, mash with butter and milk": only what was in the water is drained
                of = re.split(r"\bwith\b", of, flags=re.IGNORECASE)[0]
            found[i] = replace(order, object_of=of)
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
    r"(?<!next )(?<!close )(?<!near )\b(?:in|into|to) (?:the|an?) (?:hot |preheated |warm )?oven\b"
    r"|\bunder the grill\b|\bin the microwave\b"
    r"|\bover (?:a|the) (?:low|medium|high|gentle|moderate)\b|\b(?:on|to|over) the (?:heat|hob|stove)\b"
)
_LEVEL = re.compile(
    r"\b(low|medium-low|medium-high|medium|high|gentle|moderate|fierce|hot)\s+(?:heat|flame|power|setting)\b"
    r"|\bon (low|high|medium)\b",
    re.IGNORECASE,
)


# A knife that is rinsed after raw meat is no clean knife.
_WASHES_TOO = re.compile(
    r"\b(?:soap|soapy|suds|detergent|liquid|hot|boiling|dish ?washer|steril\w+|saniti\w+|disinfect\w*)\b"
)


# Gel and a wet wipe take no raw meat off: they go on hands that are washed. A cloth may only dry them.
_GEL = re.compile(
    r"\b(?:with|using|in) (?:a |an |some |the |your )?(?:(?:hand|wet|baby|damp|alcohol|clean|antibacterial|paper) )*"
    r"(?:gel|saniti[sz]er|wipes?)\b"
)
_CLOTH = re.compile(r"\b(?:with|using) (?:a |an |some |the |your )?(?:[a-z]+ )?(?:cloth|towels?|tissues?|rag)\b")
_SUDS = re.compile(r"\bsoap(?:y|s)?\b")
_SOAP = re.compile(r"\b(?:soap|soapy|detergent|washing[- ]up liquid|saniti[sz]er|bleach)\b")


def _sense(do: str, verb: str, text: str, lead: str) -> str:
    """What an order means with its object: "wash your hands", "put it in the fridge"."""
    low = re.sub(r"\b(?:without|no)(?: any)? soap\b", " ", text.lower())
    if verb == "wash" and re.match(r"wash(?:es|ed)? up\b(?! to)", low):
        return "clean"
    if verb in ("wash", "scrub", "clean") and _SOAP.search(low) and "hand" not in low:
        return "clean"  # whatever it is, nobody eats it
    washed = re.split(r"\b(?:with|in|on|under|using|over|before|after|until|till)\b", low)[0]
    if verb in ("wash", "rinse") and re.search(r"\bfingers\b", washed) and "hands" not in washed:
        return "wipe"  # no wash of hands, and no rinse of what is in hand
    if (
        verb in ("wash", "clean", "scrub", "rinse", "sanitise", "sanitize")
        and not low.startswith("rinse out")
        and washes_kit(washed)
    ):
        if re.search(r"\bhands\b", washed[max(0, washed.find(verb)) :][:40]):
            gel = _GEL.search(low) or (verb != "wash" and _CLOTH.search(low)) or verb.startswith("saniti")
            wiped = (verb == "rinse" and not _WASHES_TOO.search(low)) or (gel and not _SUDS.search(low))
            return "wipe" if wiped else "wash_hands"
        return "wipe" if verb == "rinse" and not _WASHES_TOO.search(low) else "clean"
    stays = do in ("transfer", "rest") or verb in ("keep", "store", "return", "cover")
    if stays and BESIDE_THE_COLD.search(low):
        return "rest"
    if stays:
        cold = (
            r"\b(?:in|into|to) the (?:fridge|refrigerator|cool ?box|ice ?box|esky|cooler)\b"
            r"|\b(?:on|onto|in|into|at|to) (?:the |a |your )?(?:[a-z]+ )?"
            r"(?:shelf|bottom|back|coldest part|drawer|cold part)"
            r" (?:of|in) (?:the|your) (?:fridge|refrigerator)\b|\bon (?:the|a|your) (?:[a-z]+ )?fridge shelf\b"
            r"|\bin the cold\b(?! (?:pan|pot|oven|tin|dish|water|butter|fat|oil))"
        )
        if re.search(rf"{cold}|\bon (?:the )?ice\b", low):
            return "chill"
        if re.search(r"\b(?:in|into|to) the freezer\b", low):
            return "freeze"
        off = _sense_of_word("", verb, low, lead.lower()) == "rest"
        if _IN_THE_OVEN.search(low) and not low.startswith("keep hot") and not off:
            return "heat"
        if verb in ("set", "leave", "put") and re.search(r"\baside\b|\bto (?:cool|rest|stand|one side)\b", low):
            return "rest"
    sense = _sense_of_word(do, verb, low, lead.lower())
    return do if sense == "heat" and do in ("transfer", "rest") and _ON_A_PLATE.search(low) else sense


# "On a plate until the oil is hot": nothing is cooked there.
_ON_A_PLATE = re.compile(
    r"^(?!.*\b(?:oven|grill|microwave|hob|heat)\b)(?:(?!\buntil\b|\btill\b).)*\bon(?:to)? (?:an? |the "
    r"|your )?(?:[a-z]+ )?(?:plate|board|rack)\b"
)


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

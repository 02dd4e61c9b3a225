"""Orders in other voices, brought to the plain one: what is worked on first and the work behind it ("the onions want
chopping", "the onions get chopped", "the onions I chop"), and words that only lead up to an order ("time to chop")."""

from __future__ import annotations

import re
from collections.abc import Set
from functools import cache

from foodsafety.foods import stem
from foodsafety.recipes.chains import chain_in_full
from foodsafety.recipes.verb_forms import VerbForm, clause_words, form_of, kit_words, verb_forms
from foodsafety.recipes.words import dish_words, layout_pattern

_HEAD = (
    r"(?P<head>(?:^\W*|[,;:.]\s+|(?<=\s))(?:(?:and|then|so|next|now|first|meanwhile|everyone|everybody),?\s+)+"
    r"|^\W*|[,;:.]\s+)"
)
_WHAT = r"(?P<what>(?:[\w'’-]+(?:,? (?:and|&|\+)|,)? ){1,8}?)"
_JUST = r"(?:(?:then|just|also|now|only|all|both|will|would|can) )?"
_WANTS = re.compile(
    rf"{_HEAD}{_WHAT}{_JUST}(?:wants?|needs?|requires?) (?:a (?:good|quick|little|bit of) )?(?P<verb>[a-z-]+ing)\b",
    re.IGNORECASE,
)
_GETS = re.compile(
    rf"{_HEAD}{_WHAT}{_JUST}(?:(?:is|are|['’]re|['’]s) )?(?:gets?|getting) (?P<how>[a-z]+ly )?(?P<verb>[a-z-]+)\b",
    re.IGNORECASE,
)
# "So first off, ...": what only begins to tell.
_ONLY_BEGINS = re.compile(
    r"^\W*(?:(?:so|right|ok(?:ay)?|now|well|and)[,.]? (?:then,? )?)*(?:first off|first up|first of all"
    r"|first things first"
    r"|to (?:begin|start|kick (?:things )?off)(?: off)?(?: with)?|for starters|for a start),? (?=[a-z])"
    r"|^\W*so,? (?=(?:the|your|our|my|this|that|these|those) )",
    re.IGNORECASE,
)
# "I get the onion chopped really small", "have the oven dish buttered".
_GET_DONE = re.compile(
    r"(?P<head>(?:^\W*|[,;:.]\s+|(?<=\s)(?:and|then|so|next|now)\s+)(?:(?:you|we|i|they|everyone|everybody)"
    r"(?:['’]ll| will| then| just| always)* )?)(?:get|have) "
    r"(?P<what>(?:(?:the|your|our|my|those|these|all the|all of the|some|an?|\d+)\b ?(?:[\w'’-]+ ){1,5}?"
    r"|(?:it|them|everything) ))"
    r"(?:all |nice and |nicely |really |very |well |finely |thinly |roughly )*(?P<verb>[a-z-]+)\b(?! by\b)",
    re.IGNORECASE,
)
# What may stand behind the verb of "the onions I chop"; in "the onions I fry go in last" it only tells which.
_HOW_OR_WHERE = (
    r"in|into|on|onto|with|for|until|till|over|to|at|from|through|between|round|under|very|well|as|and|then|thin|thinly"
    r"|fine|finely|small|roughly|gently|apart|up|down|off|out|first|last|separately|whole|again|together|cold|dry"
)
_THEN_DOES = re.compile(
    rf"{_HEAD}{_WHAT}(?:i|you|we|they|she|he|one) {_JUST}(?P<verb>[a-z-]+)(?= (?:{_HOW_OR_WHERE})\b|[,.;!]|$)"
    r"(?![^,;.]*\b(?:is|are|was|were|goes?|should|must|will|has|have|needs?|wants?|makes?)\b)",
    re.IGNORECASE,
)
# "The fish bakes for 12 minutes", "the dough rests in the fridge": what is done to it, as much as what it does.
_DOES = re.compile(
    rf"{_HEAD}{_WHAT}{_JUST}(?P<verb>[a-z-]+s)(?= (?:(?:gently|slowly|together|away|on|quietly) )?"
    r"(?:for|until|till|about|another|in the (?:oven|fridge|pan|freezer)|under|uncovered|covered|\d)\b)",
    re.IGNORECASE,
)
_GOES_ON_BY_ITSELF = frozenset({"heat", "rest", "chill", "marinate", "freeze"})
# What only leads up to an order, and the order behind it: "time to chop", "ask a partner to grate", "start by rinsing".
_SOMEBODY = (
    r"(?:someone|somebody|everyone|everybody|people|them|each (?:person|child|pupil|group|team|pair|learner)"
    r"|(?:the|your|an?|one|two|some) (?:of (?:you|them|the [a-z]+)|(?:other )?(?:children|kids|group|class|others?|rest"
    r"|team|partners?|friend|helpers?|volunteers?|grown-?ups?|adults?|teacher|parent|person|people|child|pupils?"
    r"|learners?|students?|cook|leader)))"
)
_LED_UP = re.compile(
    rf"(?P<head>^\W*(?:[\w ]{{1,20}}: )?|[,;:.]\s+|(?<=\s)(?:and|then|so|next|now|first)\s+)(?:please )?(?:"
    r"(?:it['’]?s |it is )?(?:now )?time to|(?:your|the|my|our) (?:next|first|last|other) (?:job|step|task|thing) is to"
    r"|(?:all|what) (?:you|we|i) (?:need to )?do (?:now |next )?is(?: to)?"
    r"|it(?:['’]?s| is) (?:best|a good idea|worth it) to"
    r"|(?:do not|don['’]t|never) forget to|(?:be|make) sure (?:to|that you|you)(?: all)?|be ready to|be careful to"
    rf"|(?:get|ask|have|tell) {_SOMEBODY}(?: to)?|take (?:it in )?turns (?:to|and)|try to|aim to|the idea is to"
    r"|(?:i|we|you|they|he|she)(?:['’]m|['’]re|['’]s| am| are| is) (?:now |then |all )?(?:going|about) to"
    r"|(?:i|you|we|they)(?:['’]d| would) (?:now |then |always |usually )?"
    r"|(?:you|we|i) (?:might|could|may) (?:want|like) to"
    r")\s*(?P<verb>[a-z-]+)\b",
    re.IGNORECASE,
)
_LED_UP_TO_DOING = re.compile(
    r"(?P<head>^\W*(?:[\w ]{1,20}: )?|[,;:.]\s+|(?<=\s)(?:and|then|so|next|now|first)\s+)(?:"
    r"(?:start|begin|finish|end|carry on|follow (?:that|this|it))(?: off)? (?:by|with)"
    r"|(?:start|begin|finish|carry on|keep on)"
    r"|(?:next |then |now |after that )?(?:it['’]?s|it is|comes?|there['’]s)(?: the)?(?: turn of)?"
    r"|(?:get|move|go|press) (?:on|straight on)(?: to| with)|take (?:it in )?turns(?: at)?|set about|see to"
    r"|(?:i|we|you|they|he|she)(?:['’]ll be|['’]re| will be| are| am|['’]m))\s+(?P<verb>[a-z-]+ing)\b",
    re.IGNORECASE,
)
# "Hands: wash.", "Fish - cut into fingers"; what has an object of its own behind the verb is a part of the dish.
_NOTED = re.compile(
    rf"^(?P<head>\W*(?:(?:step )?\d+\W+)?(?:[A-Z][\w ]{{0,14}}: )?)(?P<what>(?:[\w'’-]+(?:,? (?:and|&|\+) |, | ))"
    rf"{{0,6}}?[\w'’-]+)\s*(?::|\s[-–—])\s+(?P<verb>[a-z-]+)(?= (?:{_HOW_OR_WHERE}|again|\d+)\b|[,.;!]|$)"
)
# "Cover with foil before baking for 40 minutes": how long says that it is ordered here, and not later.
_SO_LONG = r"[^,;.]*(?:\bfor (?:another |about )?\d|\bfor (?:an|half an) hour|\buntil\b|\btill\b|\d ?min)"
_BEFORE_OR_THEN = re.compile(
    rf",? (?:before (?P<before>[a-z-]+ing)\b(?={_SO_LONG})|followed by (?P<then>[a-z-]+ing)\b)", re.IGNORECASE
)
_BEFORE = re.compile(r",? before (?P<verb>[a-z-]+ing) (?P<what>[^,;.]+)", re.IGNORECASE)
_DONE_FIRST = re.compile(
    r"^(?P<head>\W*)(?:after|having"
    r"|(?:once|when|after|as soon as) (?:you|we|they|everyone|everybody)(?:['’]ve| have| has)) "
    r"(?P<verb>[a-z-]+) (?P<what>[^,;]+), (?:you can |you |we |they )?(?P<rest>[a-z].*)$",
    re.IGNORECASE | re.DOTALL,
)
_STANDS_FOR_FOOD = frozenset(
    "it they them these those everything meat fish vegetables veg lot rest half others ones hands wet dry".split()
)


# What is said not to be done, or only perhaps: no order in any voice.
_DOUBTED = re.compile(
    r"n['’]t\b|\b(?:not|never|nobody|nothing|neither|nor|hardly|rarely|seldom|barely|scarcely|no longer|would|might)\b",
    re.IGNORECASE,
)
_ONLY_IF = re.compile(r"[^,;.]*\b(?:if|unless|only when)\b", re.IGNORECASE)


def _is_doubted(found: re.Match[str]) -> bool:
    """True for "these leeks don't need washing", "they want washing if muddy"."""
    return bool(_DOUBTED.search(found[0]) or _ONLY_IF.match(found.string, found.end()))


@cache
def _no_subject() -> frozenset[str]:
    """Words that what is worked on never has in it: then it is another clause."""
    return clause_words("subordinate") | frozenset(
        "is are was were be been has have had do does did will would can could should must may not if to for you i we"
        " nobody no before after which that's".split()
    )


def in_plain_voice(sentence: str, foods: Set[str]) -> str:
    """A sentence with what is worked on behind its verb; any other as it is. ``foods`` are words that name food."""
    said = chain_in_full(_ONLY_BEGINS.sub("", sentence), foods)
    said = _LED_UP.sub(lambda found: _alone(found, "base"), said)
    said = _LED_UP_TO_DOING.sub(lambda found: _alone(found, "ing"), said)
    said = _WANTS.sub(lambda found: _ordered(found, foods, "ing"), said)
    said = _GETS.sub(lambda found: _done_to(found, foods), said)
    said = _GET_DONE.sub(lambda found: _ordered(found, foods, "ed"), said)
    said = _DOES.sub(lambda found: _does(found, foods), said)
    said = _BEFORE_OR_THEN.sub(_then, said)
    return _THEN_DOES.sub(lambda found: _ordered(found, foods, "base"), said)


def _does(found: re.Match[str], foods: Set[str]) -> str:
    form = form_of(found["verb"], "s")
    told = (
        form is not None and form.do in _GOES_ON_BY_ITSELF and found["what"].split()[-1].lower() not in ("it", "that")
    )
    return _ordered(found, foods, "s") if told else found[0]


def _then(found: re.Match[str]) -> str:
    form = form_of(found["before"] or found["then"], "ing")
    return found[0] if form is None or form.do == "serve" else f", then {form.verb}"


def done_behind(sentence: str) -> tuple[VerbForm, str, str] | None:
    """Work that a sentence names behind its own order ("heat the oil before browning the meat"): the verb, what it is
    done to, and the sentence as it is where nothing later orders it."""
    found = _BEFORE.search(sentence)
    form = found and form_of(found["verb"], "ing")
    if not found or not form or form.do in ("none", "serve", "touch", "transfer"):
        return None
    return form, found["what"], f"{sentence[: found.start()]}, then {form.verb} {sentence[found.start('what') :]}"


def done_first(sentence: str) -> tuple[VerbForm, str, str] | None:
    """What a sentence says is done before its own order ("after rinsing the rice, cook it"): the verb, what it is done
    to, and the order. Whether it was ordered before is for others to know."""
    found = _DONE_FIRST.match(sentence)
    form = found and (form_of(found["verb"], "ing") or form_of(found["verb"], "ed"))
    return (form, found["what"], found["rest"]) if found and form else None


# "Tomatoes: wedges".
_SHAPED = re.compile(
    r"^(?:the )?(?P<what>[a-z]+(?: [a-z]+)?): (?:in(?:to)? )?"
    r"(?P<how>(?:(?:thin|thick|fine|small|sm|big|chunky|even|rough|\d+(?:\.\d+)? ?[cm]m) )*"
    r"(?:strips|slices|rings|matchsticks|batons|cubes|dice|wedges|rounds|half moons|ribbons|coins|chunks|sticks|florets"
    r"|quarters|halves))(?=[.;,]|$)",
    re.IGNORECASE,
)


# "Prepare the onions (peeled, diced)".
_PREPARED = re.compile(
    r"^(?:prepare|prep|get ready) (?:the |your )?(?P<what>[a-z]+(?: [a-z]+)?)(?: \(|, |: )"
    r"(?P<how>(?:[a-z]+ly )?[a-z]+ed(?:(?:, | and |, and )(?:[a-z]+ly )?[a-z]+ed)*)\)?(?=[.;]|$)",
    re.IGNORECASE,
)


# "Hands: soap, warm water, 20 seconds".
_HANDS_NOTED = re.compile(
    r"^\W*(?:your |both )?hands?(?P<kit>(?:(?:,| and|, and| &) (?:the |that )?[a-z]+(?: [a-z]+)?)*)\s*[:–-]\s*"
    r"(?:with |use )?(?=[^.;]*\bsoap)(?![^.;]*\b(?:(?:no|without) soap|soap (?:is|was)|apart)\b)"
    r"(?!wash|rinse|scrub|dry|gloves?)(?=[a-z])",
    re.IGNORECASE,
)


def note_in_full(sentence: str, foods: Set[str]) -> str:
    """A note that names what is worked on before a colon ("Hands: wash."), as the order it is; any other as it is."""
    if _HANDS_NOTED.match(sentence):
        sentence = re.sub(
            r", (?=(?:warm|hot|running) )", " and ", _HANDS_NOTED.sub(r"Wash hands\g<kit> with ", sentence)
        )
    shaped = _SHAPED.match(sentence)
    if shaped and any(word in foods or stem(word) in foods for word in shaped["what"].lower().split()):
        return f"Cut {shaped['what']} into {shaped['how']}{sentence[shaped.end() :]}"
    ready = _PREPARED.match(sentence)
    if ready and any(word in foods or stem(word) in foods for word in ready["what"].lower().split()):
        forms = [form_of(word, "ed") for word in re.findall(r"[a-z]+ed\b", ready["how"].lower())]
        verbs = [form.verb for form in forms if form is not None]
        return f"{' and '.join(verbs).capitalize()} the {ready['what']}{sentence[ready.end() :]}" if verbs else sentence
    found = _NOTED.match(sentence)
    if found is None or found["verb"] in foods or form_of(found["what"].split()[0], "base"):
        return sentence  # "set out three bowls: flour, eggs"
    words = re.findall(r"[\w'’-]+", found["what"].lower())
    things = foods | kit_words()
    if not any(word in things or stem(word) in things for word in words):
        return sentence  # a part of the dish, or who does it
    order = _ordered(found, foods, "base")
    return sentence if order == found[0] else f"{order[:1].upper()}{order[1:]}{sentence[found.end() :]}"


_WORKED_THROUGH = re.compile(
    r"^(?P<what>[^,;.]+?) (?P<verb>[a-z]+ed|cut|put|beaten|torn|shaken) "
    r"(?P<where>(?:through|in|into|over|on|onto|under|with)\b[^,;.]*)",
    re.IGNORECASE,
)
_GOES_INTO = re.compile(
    r"^(?P<what>[^,;.]+?) (?:straight |right |all |back |directly |now )*(?:from [^,;.]*? )?"
    r"(?P<where>(?:into|onto) [^,;.]+)",
    re.IGNORECASE,
)
_GOES_IN = re.compile(r"^(?P<what>[^,;.]+?) in(?=[,.;]|$)", re.IGNORECASE)


# "Fit it snugly in a lidded pot", "loosen the skin with your fingertips": a verb that we do not know.
_STRANGE_VERB = re.compile(
    r"^(?:(?:then|and|now|next|so|first|gently|carefully|lightly) )*(?P<verb>[a-z]+) "
    r"(?P<what>(?:it|them|everything|(?:the|your|each|every|all the|both|half the)\b(?: [\w'’-]+){1,4}?)(?: [a-z]+ly)?)"
    r"(?P<where>,? (?:in|into|on|onto|over|under|between|around|round|inside|with|through|across"
    r"|to)\b[^,;.]*)?(?=[,.;]|$| and | so | until | till )",
    re.IGNORECASE,
)


def _strange_order(sentence: str, foods: Set[str]) -> str:
    """What a verb that nobody knows most likely orders, by what it is done to and where: food is put somewhere, or
    worked on by hand."""
    found = _STRANGE_VERB.match(sentence)
    if (
        found is None
        or found["verb"].lower() in verb_forms()
        or not layout_pattern("sentences", "looks_like_work").search(sentence)
    ):
        return ""
    words = {*re.findall(r"[a-z]+", found["what"].lower())}
    if words.isdisjoint(foods | {"it", "them", "everything", "skin", "flesh"}) and not foods & {
        stem(word) for word in words
    }:
        return ""
    where = (found["where"] or "").strip(" ,")
    placed = re.match(r"(?:in|into|on|onto|between|inside|to)\b", where) is not None
    return f"{'put' if placed else 'press'} {found['what']} {where}".strip()


# Work that takes food somewhere or joins it. A wash, a cook, a chill is never guessed: it would be taken for safe.
MAY_BE_GUESSED = frozenset(
    {"mix", "coat", "transfer", "pour", "garnish", "brush", "touch", "cut", "peel", "grate", "part_cook"}
)


def guessed_order(sentence: str, foods: Set[str]) -> str:
    """The likeliest order of words that give none by any rule: a food with what is done to it behind it, or with the
    place it goes to; "" where they name neither. Whoever uses it has to say that it is a guess."""
    strange = _strange_order(sentence.strip(), foods)
    if strange:
        return strange
    for pattern in (_WORKED_THROUGH, _GOES_INTO, _GOES_IN):
        found = pattern.match(sentence.strip())
        what = _worked_on(found["what"], foods)[1] if found else ""
        if not found or not what or not foods & {*re.findall(r"[a-z]+", what.lower())}:
            continue
        what = f"{what[:1].lower()}{what[1:]}"
        if pattern is _WORKED_THROUGH:
            form = form_of(found["verb"], "ed")
            if form is None or form.do not in MAY_BE_GUESSED:
                continue
            return f"{form.verb} {what} {found['where']}"
        return f"put {what} {found['where']}" if pattern is _GOES_INTO else f"add {what}"
    return ""


def _is_worked_on(what: str, foods: Set[str]) -> bool:
    words = re.findall(r"[\w'’-]+", what.lower())
    things = foods | _STANDS_FOR_FOOD | kit_words() | dish_words("dishes")
    named = any(word in things or stem(word) in things for word in words)
    return named and _no_subject().isdisjoint(words) and words[0] not in clause_words("prepositions")


def _alone(found: re.Match[str], kind: str) -> str:
    """The order without what leads up to it."""
    form = form_of(found["verb"], kind)
    return found[0] if form is None else f"{found['head']}{form.verb}"


def _ordered(found: re.Match[str], foods: Set[str], kind: str) -> str:
    """The verb first, and what it is done to behind it."""
    form = form_of(found["verb"], kind)
    before, what = _worked_on(found["what"], foods)
    if form is None or form.do == "none" or not what or _is_doubted(found) or (kind, form.verb) == ("ed", "soften"):
        return found[0]  # "have the butter softened" cooks nothing
    what = re.sub(r"^they\b", "them", what.strip(), flags=re.IGNORECASE)
    return f"{found['head']}{before}{form.verb} {what[:1].lower()}{what[1:]}".replace("  ", " ")


def _worked_on(what: str, foods: Set[str]) -> tuple[str, str]:
    """The end of some words that is what is worked on, with what stands before it: in "trim the leeks and hands", the
    hands. Nothing where no end of them is."""
    starts = [0, *(found.end() for found in re.finditer(r", (?:and |then )?| and | then ", what))]
    for start in starts:
        words = what[start:].split()
        orders = bool(words) and words[0].lower() not in foods and form_of(words[0], "base") is not None
        if words and not orders and _is_worked_on(what[start:], foods):
            return what[:start], what[start:]
    return "", ""


def _done_to(found: re.Match[str], foods: Set[str]) -> str:
    """The passive that every reader of clauses knows: "the onions are chopped"."""
    if form_of(found["verb"], "ed") is None or not _worked_on(found["what"], foods)[1] or _is_doubted(found):
        return found[0]
    return f"{found['head']}{found['what'].rstrip()} are {found['how'] or ''}{found['verb']}"

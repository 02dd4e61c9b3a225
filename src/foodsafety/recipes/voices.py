"""Orders in other voices, brought to the plain one: what is worked on first and the work behind it ("the onions want
chopping", "the onions get chopped", "the onions I chop"), and words that only lead up to an order ("time to chop")."""

from __future__ import annotations

import re
from collections.abc import Set
from functools import cache

from foodsafety.foods import stem
from foodsafety.recipes.verb_forms import VerbForm, clause_words, kit_words, verb_forms
from foodsafety.recipes.words import dish_words

_HEAD = r"(?P<head>^\W*|[,;:.]\s+|(?<=\s)(?:and|then|so|next|now|first|meanwhile)\s+)"
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
_LEADS_UP = re.compile(
    r"(?P<head>^\W*|[,;:.]\s+|(?<=\s)(?:and|then|so|next|now)\s+)"
    r"(?:(?:it['’]?s |it is )?(?:now )?time to"
    r"|(?:your|the|my|our) (?:next|first|last|other) (?:job|step|task|thing) is to"
    r"|(?:all|what) you (?:need to )?do (?:now |next )?is(?: to)?|it(?:['’]?s| is) best to)\s+(?=[a-z])",
    re.IGNORECASE,
)
# "Hands: wash.", "Fish - cut into fingers"; what has an object of its own behind the verb is a part of the dish.
_NOTED = re.compile(
    rf"^(?P<head>\W*(?:(?:step )?\d+\W+)?(?:[A-Z][\w ]{{0,14}}: )?)(?P<what>(?:[\w'’-]+(?:,? (?:and|&|\+) |, | ))"
    rf"{{0,6}}?[\w'’-]+)\s*(?::|\s[-–—])\s+(?P<verb>[a-z-]+)(?= (?:{_HOW_OR_WHERE}|again|\d+)\b|[,.;!]|$)"
)
_STANDS_FOR_FOOD = frozenset(
    "it they them these those everything meat fish vegetables veg lot rest half others ones hands wet dry".split()
)


@cache
def _no_subject() -> frozenset[str]:
    """Words that what is worked on never has in it: then it is another clause."""
    return clause_words("subordinate") | frozenset(
        "is are was were be been has have had do does did will would can could should must may not if to for you i we"
        " nobody no before after which that's".split()
    )


def in_plain_voice(sentence: str, foods: Set[str]) -> str:
    """A sentence with what is worked on behind its verb; any other as it is. ``foods`` are words that name food."""
    said = _LEADS_UP.sub(lambda found: found["head"], sentence)
    said = _WANTS.sub(lambda found: _ordered(found, foods, "ing"), said)
    said = _GETS.sub(lambda found: _done_to(found, foods), said)
    return _THEN_DOES.sub(lambda found: _ordered(found, foods, "base"), said)


def note_in_full(sentence: str, foods: Set[str]) -> str:
    """A note that names what is worked on before a colon ("Hands: wash."), as the order it is; any other as it is."""
    found = _NOTED.match(sentence)
    if found is None or found["verb"] in foods or _form(found["what"].split()[0], "base"):
        return sentence  # "set out three bowls: flour, eggs"
    words = re.findall(r"[\w'’-]+", found["what"].lower())
    things = foods | kit_words()
    if not any(word in things or stem(word) in things for word in words):
        return sentence  # a part of the dish, or who does it
    order = _ordered(found, foods, "base")
    return sentence if order == found[0] else f"{order[:1].upper()}{order[1:]}{sentence[found.end() :]}"


def _is_worked_on(what: str, foods: Set[str]) -> bool:
    words = re.findall(r"[\w'’-]+", what.lower())
    things = foods | _STANDS_FOR_FOOD | kit_words() | dish_words("dishes")
    named = any(word in things or stem(word) in things for word in words)
    return named and _no_subject().isdisjoint(words) and words[0] not in clause_words("prepositions")


def _form(word: str, kind: str) -> VerbForm | None:
    return next((form for form in verb_forms().get(word.lower(), ()) if form.kind == kind), None)


def _ordered(found: re.Match[str], foods: Set[str], kind: str) -> str:
    """The verb first, and what it is done to behind it."""
    form = _form(found["verb"], kind)
    if form is None or form.do == "none" or not _is_worked_on(found["what"], foods):
        return found[0]
    what = re.sub(r"^they\b", "them", found["what"].strip(), flags=re.IGNORECASE)
    return f"{found['head']}{form.verb} {what[:1].lower()}{what[1:]}".replace("  ", " ")


def _done_to(found: re.Match[str], foods: Set[str]) -> str:
    """The passive that every reader of clauses knows: "the onions are chopped"."""
    if _form(found["verb"], "ed") is None or not _is_worked_on(found["what"], foods):
        return found[0]
    return f"{found['head']}{found['what'].rstrip()} are {found['how'] or ''}{found['verb']}"

"""A food and all that is done with it, told by participles: "leek, washed well, sliced, softened in the same pan"."""

from __future__ import annotations

import re
from collections.abc import Set

from foodsafety.foods import stem
from foodsafety.recipes.verb_forms import clause_words, form_of

_LABEL = re.compile(r"^(\W*[A-Za-z][\w' -]{1,30}):\s+(?:then )?(?=(?:[a-z-]+ed|cut|put|torn|ground|beaten)\b)")
_BEGINS_WORKED = re.compile(r"\W*([a-z-]+)(?: [a-z]+ly)?,? ", re.IGNORECASE)
_WORD = re.compile(r"[\w'’/.-]*[\w'’-]")
# What one participle says: up to the next.
_ITS_WORDS = re.compile(r"(?:(?!, | and | then ).)*")
_NEXT = re.compile(r"(?:,? (?:and )?then |, and |, | and )(?P<verb>[a-z-]+)(?P<rest>(?:(?!, | and | then ).)*)")
# A list of ingredients says no place and no time.
_IS_AN_ORDER = re.compile(
    r"\b(?:in|into|on|onto|with|over|under|through) (?:the|an?|same|hot|cold|boiling|salted|plenty|your)\b"
    r"|\d ?(?:min|hour|hr)|\buntil\b|\btill\b| (?:on|in|over)(?=[,.;]|$)",
    re.IGNORECASE,
)
_ONLY_TOLD = re.compile(r"\b(?:last|ago|yesterday|could|may|might|if|not|already)\b", re.IGNORECASE)
_GOES_ON_TELLING = re.compile(r"\b(?:is|are|was|were|goes?|will|has|have)\b", re.IGNORECASE)
_LONGEST_NAME = 6


def chain_in_full(sentence: str, foods: Set[str]) -> str:
    """A sentence with its chain of participles as orders, one after another; any other as it is, and so is a list of
    ingredients. ``foods`` are words that name food."""
    told = _LABEL.sub(r"\1, ", sentence)
    begins = _BEGINS_WORKED.match(told)
    if begins and form_of(begins[1], "ed") and begins[1].lower() not in foods and not form_of(begins[1], "base"):
        told = f"It, {told[:1].lower()}{told[1:]}"  # "the potatoes: peeled, boiled", without its label
        foods = foods | {"it"}
    head = _food_and_first(told, foods)
    if head is None or not _IS_AN_ORDER.search(told) or _ONLY_TOLD.search(told):
        return sentence
    what, verb, at = head
    own = _ITS_WORDS.match(told, at)
    at = own.end() if own else at
    steps = [f"{verb} {what[:1].lower()}{what[1:]}{own[0] if own else ''}"]
    while found := _NEXT.match(told, at):
        form = form_of(found["verb"], "ed")
        if form is None or form.do == "none":
            break
        steps.append(f"{form.verb} it{found['rest']}")
        at = found.end()
    chained = len(steps) > 1 and not _GOES_ON_TELLING.search(told, at)
    return ", then ".join(steps) + told[at:] if chained else sentence


def _food_and_first(told: str, foods: Set[str]) -> tuple[str, str, int] | None:
    """The food that a sentence begins with, the work of the first participle behind it, and where that ends."""
    words = list(_WORD.finditer(told))[: _LONGEST_NAME + 1]
    for k, word in enumerate(words[1:], start=1):
        between = told[words[k - 1].end() : word.start()]
        if between not in (" ", ", ") or (between == ", " and form_of(word[0], "ed") is None):
            return None
        form = form_of(word[0], "ed")
        what = told[words[0].start() : words[k - 1].end()]
        if form is not None and form.do not in ("none", "serve") and _only_names(what, foods):
            return what, form.verb, word.end()
    return None


def _only_names(what: str, foods: Set[str]) -> bool:
    """True for words that only name a food: "two leeks"."""
    words = re.findall(r"[\w'’-]+", what.lower())
    plain = clause_words("determiners") | clause_words("before_food") | {"of", "and", "half", "few"}
    named = [word in foods or stem(word) in foods for word in words]
    return any(named) and all(
        name or word in plain or word.isdigit() or (k + 1 < len(words) and named[k + 1])
        for k, (word, name) in enumerate(zip(words, named, strict=True))
    )

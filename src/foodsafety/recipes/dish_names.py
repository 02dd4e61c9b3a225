"""What a recipe's own title calls the dish: "curry" of "Thursday's chicken curry with raita"."""

from __future__ import annotations

import re
from functools import cache

from foodsafety.foods import match_food, stem
from foodsafety.recipes.vessels import tools_in
from foodsafety.recipes.words import dish_words, vocabulary

# Between two things a title says: the name of the lesson and the dish, the dish and when it is made.
_SEGMENT = re.compile(r"\s[-–—]{1,2}\s|[:;|!?]|\.(?=\s)|\s{3,}")
# What comes with the dish, or says more of it.
_WITH_MORE = re.compile(
    r"\s+(?:with|w/|&|\+|and an?\b|and the|for|on|in|to|from|off|of|as|that|which|you|we|i|how|is|are|does|makes|feeds"
    r"|serves|when|like|from|before|after|by|under|without|(?=\d))(?:\s|$).*$|,\s+(?:my|our|her|his|the|a|an)\b.*$|\s*\(.*$"
    r"|,\s*\d.*$",
)


@cache
def _no_dishes() -> frozenset[str]:
    return frozenset(vocabulary()["made"]["no_dishes"].split())


def dish_of(title: str) -> str | None:
    """The word a title has for the dish, of its first row that has one: a dish word that ends a phrase
    ("beef and red wine pie"), else a plural that nobody knows as food ("bikkies"; "mocha pots", since pots are
    kit)."""
    rows = [part.strip() for row in title.lower().splitlines() for part in _SEGMENT.split(row)]
    # "Shepherd's pie, seniors' lunch": by the comma where the whole has no dish.
    parted = [part for row in rows if "," in row for part in row.split(",")]
    phrases = [_phrase(row) for row in [*rows, *parted]]
    known = (words[-1] for words in phrases if words and stem(words[-1]) in dish_words("dishes"))
    unknown = (words for words in phrases if 2 <= len(words) <= 6 and _is_plural(words[-1]))
    unnamed = (" ".join(words[-2:]) if tools_in(words[-1]) else words[-1] for words in unknown)
    return next(known, None) or next(unnamed, None)


def dish_in_opening(method: str) -> str | None:
    """The dish that the first sentence of a text without a title speaks of: "I'm doing the big bean soup"."""
    words = re.findall(r"[a-z'-]+", re.split(r"(?<=[.!?])\s", method.lower())[0])
    whole = {stem(word) for word in vocabulary()["made"]["whole"].split()}
    meant = {"the", "a", "an", "this", "my", "our", "your", "some"}
    told = (word for i, word in enumerate(words) if stem(word) in whole and meant & set(words[max(0, i - 4) : i]))
    return next(told, None)


def _phrase(row: str) -> list[str]:
    """The words of a row of a title up to what comes with the dish, without what a lesson is called by."""
    words = re.findall(r"[a-z][a-z'-]*", _WITH_MORE.sub("", f" {row}"))
    while len(words) > 1 and stem(words[-1]) in _no_dishes():
        words.pop()
    return words


def _is_plural(word: str) -> bool:
    """True for "bikkies", "pots"; not for a food, nor for what titles count."""
    plural = re.fullmatch(r"[a-z]{3,}s", word) is not None and not word.endswith(("ss", "us", "is"))
    return plural and stem(word) not in _no_dishes() and match_food(word) is None

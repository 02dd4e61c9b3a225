"""Foods of the list by a few of their letters: "poach ch. in the milk", "chkn in"."""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterable

from foodsafety.foods import stem_words, word_consonants
from foodsafety.recipes.ingredient_words import unit_words
from foodsafety.recipes.words import word_set

_DOTTED = re.compile(r"(?<![\w.'’])([A-Za-z]{2,5})\.(?=\s+(?:[a-z&+(]|$)|[,;)])")
_INITIAL = re.compile(r"(?<![\w.'’])([A-Za-z])\. ?([a-z]{4,})\b")
_OF_TIME = frozenset("min mins hr hrs sec secs approx temp deg no nos est max".split())
_NO_VOWELS = re.compile(r"(?<![\w.'’])([b-df-hj-np-tv-xz]{3,6})s?\b(?!['’])", re.IGNORECASE)


def food_words_in_full(text: str, foods: Iterable[str]) -> str:
    """A sentence with each word that stands for exactly one word of the ``foods`` written out: its first letters with a
    stop (one letter where the next word is the food's, "s. onions"), or its consonants. A word that several foods, or
    none, could be meant by stays as it is."""
    foods = list(foods)
    words = {word for name in foods for word in re.findall(r"[a-z]{4,}", name.lower())}
    words -= word_set("names", "too_plain")

    def dotted(found: re.Match[str]) -> str:
        short = found[1].lower()
        meant = {word for word in words if word.startswith(short)}
        whole = short in words or stem_words(short)[0] in {*words, *(stem_words(word)[0] for word in words)}
        return found[0] if whole or _is_measure(short) or len(meant) != 1 else meant.pop()

    def consonants(found: re.Match[str]) -> str:
        short = found[1].lower()
        meant = {word for word in words if word_consonants(word) == word_consonants(short) and word[0] == short[0]}
        known = _is_measure(short) or stem_words(short)[0] in words
        return found[0] if known or len(meant) != 1 else meant.pop()

    def initial(found: re.Match[str]) -> str:
        pairs = {pair for name in foods for pair in itertools.pairwise(name.lower().split())}
        meant = {
            first for first, last in pairs if first[0] == found[1].lower() and stem_words(last) == stem_words(found[2])
        }
        return f"{meant.pop()} {found[2]}" if len(meant) == 1 else found[0]

    return _NO_VOWELS.sub(consonants, _DOTTED.sub(dotted, _INITIAL.sub(initial, text)))


def _is_measure(short: str) -> bool:
    """True for what measures: "tsp", "min", "approx"."""
    return short in _OF_TIME or any(short in words or short in words.values() for words in unit_words())

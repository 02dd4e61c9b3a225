"""The food first and the verb behind it, as many languages have it: "Rice wash well", "One onion chop fine"."""

from __future__ import annotations

import re
from collections.abc import Sequence, Set

from foodsafety.foods import stem
from foodsafety.recipes.verb_forms import clause_words, nouns_too, verb_forms

_WORD = re.compile(r"[A-Za-z0-9/.'’-]*[A-Za-z0-9]")
_LONGEST = 6


def _orders(next_word: Sequence[re.Match[str]], foods: Set[str]) -> bool:
    """True for a verb behind "and": "potato wash and cook"."""
    low = next_word[0][0].lower() if next_word else ""
    return low not in foods and any(form.kind == "base" for form in verb_forms().get(low, ()))


def verb_first(sentence: str, foods: Set[str]) -> str:
    """A sentence that begins with nothing but a food and has its verb behind it, with the verb first; any other as it
    is. ``foods`` are words that name food."""
    head = _WORD.match(sentence)
    words = list(_WORD.finditer(sentence))[: _LONGEST + 2] if head else []
    named = False
    for n, word in enumerate(words[:-1]):
        low, behind = word[0].lower(), words[n + 1]
        if n and sentence[words[n - 1].end() : word.start()] not in (" ", " + ", " & "):
            return sentence  # a comma or a stop: what stands before it is none of its food
        if low in foods or stem(low) in foods:
            named = True
            continue
        base = any(form.kind == "base" for form in verb_forms().get(low, ()))
        ends = sentence[word.end()] in ",;" and low not in (nouns_too() - {"wash"}) | clause_words("cuts_of_meat")
        goes_on = sentence[word.end() : behind.start()] == " " and behind[0].lower() in clause_words("behind_verb")
        joined = (
            behind[0].lower() == "and" and low not in nouns_too() - {"wash"} and _orders(words[n + 2 : n + 3], foods)
        )
        if named and base and (ends or goes_on or joined):
            if low in clause_words("of_a_name") or (low == "wash" and "egg" in sentence[: word.start()].lower()):
                return sentence  # "lemon zest in"
            return f"{word[0]} {sentence[: word.start()].rstrip()}{sentence[word.end() :]}"
        if low not in clause_words("before_food") and low not in clause_words("determiners") and not low.isdigit():
            return sentence
    return sentence

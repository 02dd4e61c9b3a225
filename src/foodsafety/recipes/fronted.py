"""The food first and the verb behind it, as many languages have it: "Rice wash well", "One onion chop fine"."""

from __future__ import annotations

import re
from collections.abc import Set

from foodsafety.foods import stem
from foodsafety.recipes.verb_forms import clause_words, nouns_too, verb_forms

_WORD = re.compile(r"[A-Za-z0-9/.'’-]*[A-Za-z0-9]")
# Counts and orders of foods, beside the determiners.
_BEFORE = frozenset(
    "first second third other one two three four five six half whole big small large red green white spring and".split()
)
# What stands behind a verb whose food stood before it.
_BEHIND = frozenset(
    "well fine finely thin thinly small thick thickly roughly in on with until till for into through under over to at"
    " from off very gently slowly lightly about like".split()
)
# These behind a food are more of its name.
_NOUNS = frozenset(
    "zest juice skin peel shell mince flake crumb slice stick strip cube dip top core stone pit stock toast spread mix"
    " cream cut stew bake batter butter oil flour dough ball sauce dust".split()
)
# Cuts of meat: "pork chop, fried" chops nothing.
_CUTS = frozenset("chop fillet joint roast".split())
_LONGEST = 6


def verb_first(sentence: str, foods: Set[str]) -> str:
    """A sentence that begins with nothing but a food and has its verb behind it, with the verb first; any other as it
    is. ``foods`` are words that name food."""
    head = _WORD.match(sentence)
    words = list(_WORD.finditer(sentence))[: _LONGEST + 2] if head else []
    named = False
    for n, word in enumerate(words[:-1]):
        low, behind = word[0].lower(), words[n + 1]
        if n and sentence[words[n - 1].end() : word.start()] != " ":
            return sentence  # a comma or a stop: what stands before it is none of its food
        if low in foods or stem(low) in foods:
            named = True
            continue
        base = any(form.kind == "base" for form in verb_forms().get(low, ()))
        ends = sentence[word.end()] in ",;" and low not in nouns_too() | _CUTS
        goes_on = sentence[word.end() : behind.start()] == " " and behind[0].lower() in _BEHIND
        if named and base and (ends or goes_on):
            if low in _NOUNS or (low == "wash" and "egg" in sentence[: word.start()].lower()):
                return sentence  # "lemon zest in"
            return f"{word[0]} {sentence[: word.start()].rstrip()}{sentence[word.end() :]}"
        if low not in _BEFORE and low not in clause_words("determiners") and not low.isdigit():
            return sentence
    return sentence

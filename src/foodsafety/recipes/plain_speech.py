"""Words and ways of saying an order, brought to the plain ones before anything is read."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import cache, lru_cache

from foodsafety.recipes.amounts import few_minutes_in_digits, in_digits
from foodsafety.recipes.needed_words import needed_words
from foodsafety.recipes.words import clause_vocabulary


@cache
def _swaps(name: str) -> tuple[tuple[Sequence[str], re.Pattern[str], str], ...]:
    rows = clause_vocabulary()[name]
    return tuple((needed_words(row["words"]), re.compile(row["words"], re.IGNORECASE), row["is"]) for row in rows)


def _swapped(name: str, text: str) -> str:
    low = text.lower()
    for needed, pattern, plain in _swaps(name):
        for word in needed:
            if word in low:
                break
        else:
            if needed:
                continue
        if pattern.search(text):  # few of them are found; to look first is half the work
            text = pattern.sub(plain, text)
            low = text.lower()
    return text


@lru_cache(maxsize=4_000)
def plain_words(text: str) -> str:
    """A text with ways of writing one word brought to the plain one, and what is crossed out gone."""
    out = r"[^\])]*\b(?:crossed|struck|scribbled) out\b:?[^\])]*"
    text = re.sub(rf"\[{out}\]|\({out}\)", " ", text, flags=re.IGNORECASE)
    text = few_minutes_in_digits(text)
    text = _swapped("plain", text)
    return re.sub(r"\s+", " ", text).strip()


@lru_cache(maxsize=4_000)
def plain_saying(sentence: str) -> str:
    """A sentence with roundabout ways of giving an order brought to the plain order."""
    text = _swapped("saying", in_digits(plain_words(sentence)))
    return re.sub(r"\s+", " ", text).strip()

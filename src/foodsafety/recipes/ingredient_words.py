"""The vocabulary of ingredient lines, and a line while it is being read."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping
from functools import cache
from typing import Any

from foodsafety.data import data_text
from foodsafety.foods import (
    Locale,
    food_kind,
    is_raw,
    kitchen_units,
    match_food,
    stem,
)

LONGEST_LINE = 500


@cache
def ingredient_vocabulary() -> dict[str, Any]:
    return tomllib.loads(data_text("ingredient_words.toml"))


@cache
def listed_words(name: str) -> frozenset[str]:
    return frozenset(ingredient_vocabulary()[name].split())


@cache
def count_nouns() -> Mapping[str, str]:
    short = ingredient_vocabulary()["short"]
    return {stem(word): short.get(word, word) for word in ingredient_vocabulary()["count_nouns"].split()}


@cache
def unit_words() -> tuple[dict[str, str], dict[str, str]]:
    """Unit ids by lower-case word, and by word whose capitals matter ("T" and "t")."""
    plain: dict[str, str] = {}
    exact: dict[str, str] = {}
    for row in kitchen_units().values():
        for word in row.words:
            plain[word] = row.id
            plain[word + "s"] = row.id
        for word in row.exact:
            exact[word] = row.id
    return plain, exact


_VULGAR = {
    "½": "1/2", "⅓": "1/3", "⅔": "2/3", "¼": "1/4", "¾": "3/4", "⅕": "1/5", "⅖": "2/5", "⅗": "3/5", "⅘": "4/5",
    "⅙": "1/6", "⅚": "5/6", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8",
}  # fmt: skip


_FRACTION = re.compile(rf"((?<=\d)\s*)?([{''.join(_VULGAR)}])")


@cache
def _ready(pattern: str) -> re.Pattern[str]:
    """Kept here: there are more of these than the library keeps."""
    return re.compile(pattern, re.IGNORECASE)


def plain_line(text: str) -> str:
    """A line with one kind of dash, space, times sign and fraction."""
    text = _FRACTION.sub(lambda found: f"{'' if found[1] is None else ' '}{_VULGAR[found[2]]}", text)
    text = text.replace("⁄", "/").replace("×", "x").replace("\u2019", "'")
    text = re.sub(r"[\u2010-\u2015\u2212]", "-", text)
    return re.sub(r"\s+", " ", text).strip()


class OpenLine:
    """What is left of a line while it is read, and what has been found."""

    def __init__(self, text: str, locale: Locale) -> None:
        self.text = self.rest = text
        self.locale = locale
        self.low: float | None = None
        self.high: float | None = None
        self.unit: str | None = None
        self.each: tuple[float, str] | None = None
        self.before: list[str] = []
        self.prepared: list[str] = []
        self.notes: list[str] = []
        self.alternatives: list[str] = []
        self.doubts: list[str] = []

    def take(self, pattern: str | re.Pattern[str]) -> re.Match[str] | None:
        """A match at the start of the rest, which is then used up."""
        ready = _ready(pattern) if isinstance(pattern, str) else pattern
        found = ready.match(self.rest)
        if found:
            self.rest = self.rest[found.end() :].lstrip()
        return found

    def note(self, text: str) -> None:
        text = text.strip(" ,;.-")
        if text and text not in self.notes:
            self.notes.append(text)


# Where one food of a line ends and another may begin: a stop, a word that adds, an amount.
_NEXT_FOOD = re.compile(
    r"[,;()]|\s[-–—]\s|\s+(?:and|with|plus|some|&|\+)\s+|\bx?\d[\d/.]*\s*(?:x|g|kg|ml|l|oz|lbs?|tins?|cans?)?\b",
    re.IGNORECASE,
)


def hides_raw(text: str, kind: str | None) -> bool:
    """True if another part of a line names a raw food whose soil what was taken for it does not bring: a person has
    to see such a line, whatever else was understood of it. "Chicken 500 g eggs 2" hides one of them."""
    if kind is None:
        return False
    own = food_kind(kind).soils
    seen = {"raw_flour"} if any(map(is_raw, own)) else set()
    found = (match_food(part.strip()) for part in _NEXT_FOOD.split(text) if part.strip())
    return any(is_raw(name) for row in found if row and row.kind.id != kind for name in row.kind.soils - own - seen)

"""Words of a food's name brought to one form, so that "leeks" finds "leek"."""

from __future__ import annotations

import re
import unicodedata
from functools import lru_cache


def plain_id(text: str) -> str:
    """An id from words as people write them: "Raw poultry" is raw_poultry."""
    return re.sub(r"[^a-z0-9]+", "_", text.strip().lower()).strip("_")


_IRREGULAR = {
    "leaves": "leaf", "loaves": "loaf", "halves": "half", "knives": "knife", "chillies": "chilli",
    "cookies": "cookie", "molasses": "molasses", "brownies": "brownie", "quiches": "quiche", "calves": "calf",
    "avocadoes": "avocado", "chilies": "chili", "brioches": "brioche", "smoothies": "smoothie", "pies": "pie",
    "swiss": "swiss", "couscous": "couscous", "herbes": "herbes", "pancreas": "pancreas", "haggis": "haggis",
    "geese": "goose", "feet": "foot", "ribeyes": "ribeye", "veggies": "veggie", "radishes": "radish",
}  # fmt: skip


@lru_cache(maxsize=20_000)
def stem(word: str) -> str:
    """One form for the singular and the plural of a word; it need not be a word itself."""
    if word in _IRREGULAR:
        return _IRREGULAR[word]
    if len(word) <= 3 or word.endswith(("ss", "us", "is")):
        return word
    if word.endswith("ies"):
        return word[:-3] + "y"
    if word.endswith(("ches", "shes", "sses", "xes", "oes")):
        return word[:-2]
    return word[:-1] if word.endswith("s") else word


@lru_cache(maxsize=20_000)
def stem_words(text: str) -> tuple[str, ...]:
    """A text as stems: no accents, capitals, apostrophes or plurals."""
    plain = text.lower()
    if not plain.isascii():
        plain = unicodedata.normalize("NFKD", plain)
        plain = "".join(c for c in plain if not unicodedata.combining(c)).replace("\u2019", "")
    plain = plain.replace("'", "")
    return tuple(stem(word) for word in re.findall(r"[a-z0-9&%]+", plain))

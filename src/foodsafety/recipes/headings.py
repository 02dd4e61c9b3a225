"""Headings of a pasted text: the section that one opens, the part of the dish that one names."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import takewhile
from typing import Literal

from foodsafety.foods import stem_words
from foodsafety.recipes.food_rows import is_kit, is_kit_name, is_order, looks_like_ingredient, unmarked
from foodsafety.recipes.ingredients import Ingredient, is_hazardous, read_ingredient, soils_of
from foodsafety.recipes.words import layout_pattern, made_nouns

Part = Literal["title", "summary", "serves", "ingredient", "instruction", "note", "heading", "kit", "blank"]


def _bare_heading(row: str) -> str:
    plain = re.sub(r"^\W+|[*_=]+", "", unmarked(row)).strip()
    plain = layout_pattern("rows", "doer").sub("", plain)
    plain = re.sub(r"\s*[(\[][^)\]]*[)\]]\s*", " ", plain)
    plain = re.sub(r"\s+-\s+get .*$|\s*[-–—]+\s*$", "", plain)
    return plain.strip(" :.!").strip()


def section_of(row: str) -> Part | None:
    """The section that a heading opens, None where a row is no such heading."""
    if len(row.strip()) > 60 or len(unmarked(row).split()) > 9:
        return None
    plain = _bare_heading(row)
    if not plain or (row.rstrip().endswith(".") and len(plain.split()) > 4):
        return None
    parts: tuple[Part, ...] = ("ingredient", "kit", "instruction", "note")
    for part in parts:
        if layout_pattern("headings", part).fullmatch(plain):
            if part != "instruction" and not looks_like_heading(row) and len(plain.split()) > 3:
                return None
            return None if part in ("note", "kit") and _says_what_to_do(row, plain) else part
    return None


def _says_what_to_do(row: str, plain: str) -> bool:
    """True for work that begins like a heading: "tip the flour in", "tools down, wash hands". As a heading it would
    take all that comes after it with it."""
    marked = ":" in row or is_marked(row) or plain.isupper() or re.match(r"(?:to|if|for|how)\b", plain, re.IGNORECASE)
    return not marked and len(plain.split()) > 2 and is_order(plain)


def is_marked(row: str) -> bool:
    """True for a short row that signs make a heading: "# Filling", ">> LAYER TWO / the yellow bit"."""
    return re.match(r"\s*(?:#|>>|==)", row) is not None and len(row.split()) <= 8 and not row.rstrip().endswith(".")


def looks_like_heading(row: str) -> bool:
    text = row.strip()
    plain = re.sub(r"\([^)]*\)", "", text).strip()
    if not plain:
        return False
    return (
        is_marked(text)
        or plain.endswith(":")
        or bool(re.fullmatch(r"\*\*.+\*\*:?", text))
        or (plain.isupper() and len(plain) > 2)
        or bool(re.match(r"(?:for|to) (?:the |an? )?[a-z' -]+$", plain, re.IGNORECASE))
        or (len(plain.split()) <= 4 and plain[-1] not in ".!?,;" and not re.search(r"\d", plain))
    )


# No part of a dish is only this: a "spice mix" and a "herb oil" may be.
_SEASONS = frozenset(
    {"salt", "pepper", "black pepper", "oil", "olive oil", "vegetable oil", "cooking spray", "sea salt"}
)
_WASHES = re.compile(r"\W*(?:wash )?hands(?:(?:,| and| \+) [a-z]+)?\W*$", re.IGNORECASE)


def is_component(texts: Sequence[str], i: int) -> bool:
    """True if a row names a part of the dish: short, like a heading, with something under it."""
    text = texts[i].strip()
    if not text or len(text) > 40 or section_of(text) or _WASHES.match(text):
        return False
    doer = layout_pattern("rows", "doer").search(text)
    if doer and 0 < len(text[: doer.start()].split()) <= 4 and not is_order(text[: doer.start()]):
        return True
    item: Ingredient = read_ingredient(unmarked(text), "en-GB")
    grew = item.measured and "unwashed_produce" in soils_of(item)  # "Garlic, 6 cloves"
    counted = not grew and re.fullmatch(r"[A-Za-z][A-Za-z' -]+, \d+ [a-z]+", text)
    gap = i == 0 or not texts[i - 1].strip()
    if counted and gap and i + 1 < len(texts) and re.match(r"\W*\d", texts[i + 1]):
        return True
    if not looks_like_heading(texts[i]):
        return False
    if re.match(r"\W*(?:layer|part|component)\b", text, re.IGNORECASE):
        return True
    if item.measured or is_kit(text) or is_kit_name(text):
        return False
    plain = re.sub(r"\s*\([^()]*\)", "", text).strip(" #*")  # "Flatbreads (do first)"
    if plain.endswith(":") or plain.isupper() or re.match(r"(?:for|to) ", plain, re.IGNORECASE):
        return True
    if item.kind is None:
        return is_marked(text) or not _goes_on_with_the_list(texts, i)
    if i and looks_like_ingredient(texts[i - 1]) and (i + 1 == len(texts) or not texts[i + 1].strip()):
        return False  # the last of a list
    # A food's own name heads a part of the dish where something measured follows a gap: "Rice", "Custard".
    if all(part in _SEASONS for part in re.split(r"\s*(?:[,+&]|\band\b)\s*", plain.lower())):
        return False
    alone = (gap or _headed_above(texts, i)) and len(plain.split()) <= 2
    followed = i + 1 < len(texts) and read_ingredient(unmarked(texts[i + 1]), "en-GB").measured
    return alone and followed and (not is_hazardous(item) or _named_below(texts, i) or _made_of(texts, i, item))


def _headed_above(texts: Sequence[str], i: int) -> bool:
    """True where a part of the dish heads rows of the same block above: "Filling", its foods, "Pastry", its foods."""
    above = takewhile(str.strip, reversed(texts[: i - 1] if i else ()))
    headed = (row for row in above if looks_like_heading(row) and set(stem_words(row)[-1:]) & made_nouns())
    made = set(stem_words(texts[i])[-1:]) & made_nouns()
    return bool(made) and any(not read_ingredient(unmarked(row), "en-GB").measured for row in headed)


def _goes_on_with_the_list(texts: Sequence[str], i: int) -> bool:
    """True for a name that nobody knows in the middle of a list ("pike"): food that is never lost to a heading. A part
    of the dish stands after a gap, begins with a capital where the foods do not, or is called what is made of what
    comes under it, measured."""
    if i == 0 or not texts[i - 1].strip() or not looks_like_ingredient(texts[i - 1]):
        return False
    below = texts[i + 1] if i + 1 < len(texts) else ""
    if not below.strip():
        return True
    measured = read_ingredient(unmarked(below), "en-GB").measured
    small = unmarked(texts[i])[:1].islower()
    made = stem_words(texts[i])[-1:] and stem_words(texts[i])[-1] in made_nouns()
    as_the_others = small or unmarked(below)[:1].isupper() or unmarked(texts[i - 1])[:1].isupper()
    return as_the_others and not (measured and (made or not small))


def _made_of(texts: Sequence[str], i: int, item: Ingredient) -> bool:
    """True if the rows under a heading bring all that is raw in its food: "Pastry" over flour and butter is made."""
    below = [read_ingredient(unmarked(row), "en-GB") for row in takewhile(str.strip, texts[i + 1 :])]
    return len(below) > 1 and set(soils_of(item)) <= {soil for row in below for soil in soils_of(row)}


def _named_below(texts: Sequence[str], i: int) -> bool:
    """True if the rows under a heading name its food again. Raw food is never lost to a heading: where
    nothing below is it, the row itself is."""
    below = takewhile(str.strip, texts[i + 1 :])
    own = set(stem_words(texts[i]))
    return any(own & set(stem_words(row)) for row in below)


_PLACE = (
    r"\b(?:fridge|cupboard|store|pantry|freezer|esky|box|table|shelf|shop|shed|bag|basket|hamper|crate|home|trolley"
    r"|larder)"
)


def component_name(text: str) -> str:
    """The part of the dish that a heading names: "For the filling" is the filling."""
    plain = _bare_heading(text).lower()
    plain = re.sub(r"^ingredients?\s*(?:[-–—:/]|\bfor\b)\s*(?=\S)|(?<=\S)\s*[-–—:/]\s*ingredients?$", "", plain)
    plain = re.sub(r"^(?:layer|part|component) (?:\w+)\W+", "", plain)
    plain = re.sub(rf"^(?:(?:from|out of|in|at) (?:the )?(?=[a-z ]*{_PLACE})|bring (?:from )?(?=home))", "", plain)
    plain = re.sub(rf"^[a-z ]*?({_PLACE})$", r"\1", plain)
    plain = re.sub(r"^(?:for|to make|to)\s+(?:the\s+|an?\s+)?|^the\s+", "", re.sub(r"\s+", " ", plain))
    plain = re.sub(r"\s+for (?:one|two|each|every)\b.*$", "", plain)  # "base for one"
    return re.split(r",|\s+-\s+|\s\(|\d", plain)[0].strip()

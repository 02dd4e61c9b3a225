"""Food kinds from a data file, and how a name in a recipe finds its kind."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from difflib import get_close_matches
from functools import cache, lru_cache
from typing import Literal, cast

from foodsafety.data import data_text
from foodsafety.foods.hazards import soils
from foodsafety.foods.words import plain_id, stem_words
from foodsafety.quantities import CoreError, positive

Control = Literal["yes", "no", "cooked", "cut", "opened"]
Ready = Literal["as_is", "rinse", "cook"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Composition:
    """Mass fractions [1] of what the heat and cold models need; they sum to 1."""

    water: float
    protein: float
    fat: float
    carbohydrate: float
    fibre: float
    ash: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodKind:
    """What is known of a food before anyone touches it.

    ``ready`` is what makes it ready to eat; ``control`` when it needs hot or cold holding:
    always, never, or once cooked, cut or opened. ``cook_class`` names its row in a profile's
    cooking table, ``storage`` its storage category. ``density_g_ml`` is of the food as it is
    spooned or poured, ``piece_g`` one piece as bought; None where nobody should guess.
    ``hazards`` are what vulnerable eaters and the plan must know beyond soils.
    """

    id: str
    name: str
    group: str
    soils: frozenset[str]
    allergens: frozenset[str]
    ready: Ready
    control: Control
    cook_class: str | None
    storage: str | None
    hazards: frozenset[str]
    density_g_ml: float | None
    piece_g: float | None
    composition: Composition
    names: tuple[str, ...]

    @property
    def temperature_control(self) -> bool:
        """True if it needs hot or cold holding as it comes into the kitchen."""
        return self.control in ("yes", "opened")


def _table(name: str) -> list[dict[str, str]]:
    return [{key: value or "" for key, value in row.items()} for row in csv.DictReader(data_text(name).splitlines())]


def _words(text: str) -> frozenset[str]:
    return frozenset(filter(None, text.split("|")))


def _number(row: dict[str, str], key: str) -> float | None:
    return positive(float(row[key]), f"foods.csv {row['id']}.{key}") if row[key] else None


def _composition(text: str, where: str) -> Composition:
    parts = [float(part) / 100 for part in text.split("/")]
    if len(parts) != 6 or abs(sum(parts) - 1) > 0.02:
        raise CoreError(where, "not_percentages", text=text)
    total = sum(parts)
    water, protein, fat, carbohydrate, fibre, ash = (part / total for part in parts)
    return Composition(water=water, protein=protein, fat=fat, carbohydrate=carbohydrate, fibre=fibre, ash=ash)


_INHERITED = ("soils", "ready", "temperature_control", "cook_class", "storage", "hazards", "composition")


def _kind(row: dict[str, str], groups: dict[str, dict[str, str]]) -> FoodKind:
    where = f"foods.csv {row['id']}"
    group = groups.get(row["group"])
    if group is None:
        raise CoreError(f"{where}.group", "unknown_group", value=row["group"])
    full = {**row, **{key: row[key] or group[key] for key in _INHERITED}}
    unknown = _words(full["soils"]) - soils().keys()
    if unknown:
        raise CoreError(where, "unknown_soil", value=sorted(unknown))
    return FoodKind(
        id=row["id"],
        name=row["name"],
        group=row["group"],
        soils=_words(full["soils"]),
        allergens=_words(row["allergens"]),
        ready=cast(Ready, full["ready"]),
        control=cast(Control, full["temperature_control"]),
        cook_class=full["cook_class"] or None,
        storage=full["storage"] or None,
        hazards=_words(full["hazards"]),
        density_g_ml=_number(row, "density"),
        piece_g=_number(row, "piece_g"),
        composition=_composition(full["composition"], where),
        names=tuple(dict.fromkeys((row["name"], *filter(None, row["synonyms"].split("|"))))),
    )


@cache
def _kinds_by_word() -> dict[str, FoodKind]:
    """Kinds by id, name and synonym. A row's blank takes its group's value."""
    groups = {row["group"]: row for row in _table("food_groups.csv")}
    words: dict[str, FoodKind] = {}
    for row in _table("foods.csv"):
        kind = _kind(row, groups)
        for word in (kind.id, *kind.names):
            if plain_id(word) in words and words[plain_id(word)].id != kind.id:
                raise CoreError(f"foods.csv {kind.id}", "names_two", word=word)
            words[plain_id(word)] = kind
    return words


@cache
def food_kinds() -> tuple[FoodKind, ...]:
    """Every food kind once, in the file's order."""
    return tuple({kind.id: kind for kind in _kinds_by_word().values()}.values())


@cache
def _kinds_by_stem() -> dict[tuple[str, ...], FoodKind]:
    """Kinds by the stems of their names, so that singular and plural are one. The row whose own
    name it is wins over one that lists it as a synonym."""
    stems: dict[tuple[str, ...], FoodKind] = {}
    for names in (lambda kind: (kind.name,), lambda kind: kind.names, lambda kind: (kind.id.replace("_", " "),)):
        for kind in food_kinds():
            for word in names(kind):
                stems.setdefault(stem_words(word), kind)
    return stems


def food_kind(name: str, field: str = "kind") -> FoodKind:
    """The food kind of this id, name or synonym, singular or plural. Raises CoreError for an
    unknown one: a food that nobody recognises must be asked about, never taken for harmless."""
    found = _kinds_by_word().get(plain_id(name)) or _kinds_by_stem().get(stem_words(name))
    if found is None:
        raise CoreError(field, "unknown_kind", name=name)
    return found


# A match may be followed by these and still be about the same food.
_SHAPES = frozenset(
    [
        "piece",
        "fillet",
        "floret",
        "half",
        "chunk",
        "wedge",
        "strip",
        "slice",
        "cube",
        "stalk",
        "bulb",
        "head",
        "ball",
        "sheet",
        "stick",
        "pod",
        "spear",
        "rib",
        "sprig",
        "leaf",
        "quarter",
        "mix",
        "root",
        "end",
        "bunch",
        "heart",
        "ring",
        "segment",
        "crown",
        "steak",
        "frond",
        "stem",
        "seed",
        "flesh",
        "tip",
        "trimming",
    ]
)
_LONGEST_NAME = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodMatch:
    """A food kind found in words. ``sure`` is False if the words go on to something else;
    ``first_word`` and ``whole`` say whether the name begins the text, and is all of it."""

    kind: FoodKind
    sure: bool
    first_word: bool
    whole: bool


def _spans(length: int) -> Iterator[tuple[int, int]]:
    for size in range(min(_LONGEST_NAME, length), 0, -1):
        for start in range(length - size, -1, -1):
            yield start, start + size


@cache
def _words_of_names() -> tuple[str, ...]:
    return tuple(sorted({word for name in _kinds_by_stem() for word in name if len(word) > 4}))


def word_consonants(word: str) -> str:
    """The consonants of a word, doubled ones once, for words written without their vowels: "chkn", "flr"."""
    return re.sub(r"[aeiou]|(?<=.)(.)(?=\1)", "", word.replace("ck", "k"))


@cache
def _by_consonants() -> Mapping[str, list[str]]:
    found: dict[str, list[str]] = {}
    for word in _words_of_names():
        found.setdefault(word[0] + word_consonants(word), []).append(word)
    return found


@lru_cache(maxsize=20_000)
def _close_to(word: str) -> tuple[str, ...]:
    """The word of a food's name that a word is a slip of, or is short for; none where it may be several."""
    if len(word) > 2 and not re.search(r"[aeiouy]", word):
        meant = _by_consonants().get(word[0] + word_consonants(word), [])
        return tuple(meant) if len(meant) == 1 else ()
    return tuple(get_close_matches(word, _maybe_close(word), n=1, cutoff=_CLOSE)) if len(word) > 4 else ()


_CLOSE = 0.84


@cache
def _letters_of_names() -> tuple[tuple[str, frozenset[str]], ...]:
    return tuple((word, frozenset(word)) for word in _words_of_names())


def _maybe_close(word: str) -> list[str]:
    """The words of names that can be as close as that: a letter that only one of the two has is no letter in common,
    and few of those are allowed. Told in a tenth of the time that a comparison takes."""
    letters = frozenset(word)
    found = []
    for name, others in _letters_of_names():
        in_common = _CLOSE * (len(word) + len(name)) / 2
        if len(letters - others) <= len(word) - in_common and len(others - letters) <= len(name) - in_common:
            found.append(name)
    return found


def like_a_food(text: str) -> FoodMatch | None:
    """The food kind of words with a slip of spelling in them ("corriander"); never sure."""
    words = stem_words(text)
    if len(words) > 4:
        return None
    close = [_close_to(word) for word in words]
    mended = " ".join(found[0] if found else word for found, word in zip(close, words, strict=True))
    found = match_food(mended) if mended != " ".join(words) else None
    return replace(found, sure=False) if found else None


def match_food(text: str) -> FoodMatch | None:
    """The food kind that words are about: the longest name in them, the last one on a tie."""
    words = stem_words(text)[:40]
    stems = _kinds_by_stem()
    for start, end in _spans(len(words)):
        kind = stems.get(words[start:end])
        if kind:
            sure = all(word in _SHAPES for word in words[end:])
            return FoodMatch(kind=kind, sure=sure, first_word=start == 0, whole=end - start == len(words))
    return None

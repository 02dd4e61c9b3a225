"""Food kinds, soils and tool kinds, read from the data files and checked on loading."""

from __future__ import annotations

import csv
import re
import tomllib
import unicodedata
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Literal, cast

from foodsafety.data import data_text
from foodsafety.quantities import CoreError, positive


@dataclass(frozen=True, slots=True, kw_only=True)
class Soil:
    """Something that can contaminate. ``severity`` 1-3 only ranks what is said first."""

    id: str
    heat_clears: bool
    rinse_clears: bool = False
    severity: int = 1


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


def plain_id(text: str) -> str:
    """An id from words as people write them: "Raw poultry" is raw_poultry."""
    return re.sub(r"[^a-z0-9]+", "_", text.strip().lower()).strip("_")


@cache
def _soil_file() -> dict[str, dict[str, dict[str, object]]]:
    return tomllib.loads(data_text("soils.toml"))


@cache
def soils() -> dict[str, Soil]:
    """Every soil by id. An id that is not here is an allergen (see ``soil``)."""
    return {
        key: Soil(
            id=key,
            heat_clears=bool(row["heat_clears"]),
            rinse_clears=bool(row.get("rinse_clears", False)),
            severity=int(str(row["severity"])),
        )
        for key, row in _soil_file()["soil"].items()
    }


@cache
def soil(soil_id: str) -> Soil:
    """A soil by id; one the table does not know is taken to survive heat, as an allergen does."""
    return soils().get(soil_id) or Soil(id=soil_id, heat_clears=False, severity=3)


def _table(name: str) -> list[dict[str, str]]:
    return [{key: value or "" for key, value in row.items()} for row in csv.DictReader(data_text(name).splitlines())]


def _words(text: str) -> frozenset[str]:
    return frozenset(filter(None, text.split("|")))


def _number(row: dict[str, str], key: str) -> float | None:
    return positive(float(row[key]), f"foods.csv {row['id']}.{key}") if row[key] else None


def _composition(text: str, where: str) -> Composition:
    parts = [float(part) / 100 for part in text.split("/")]
    if len(parts) != 6 or abs(sum(parts) - 1) > 0.02:
        raise CoreError(where, f"six percentages that make 100 are needed, not {text!r}")
    total = sum(parts)
    water, protein, fat, carbohydrate, fibre, ash = (part / total for part in parts)
    return Composition(water=water, protein=protein, fat=fat, carbohydrate=carbohydrate, fibre=fibre, ash=ash)


_INHERITED = ("soils", "ready", "temperature_control", "cook_class", "storage", "hazards", "composition")


def _kind(row: dict[str, str], groups: dict[str, dict[str, str]]) -> FoodKind:
    where = f"foods.csv {row['id']}"
    group = groups.get(row["group"])
    if group is None:
        raise CoreError(f"{where}.group", f"there is no group {row['group']!r}")
    full = {**row, **{key: row[key] or group[key] for key in _INHERITED}}
    unknown = _words(full["soils"]) - soils().keys()
    if unknown:
        raise CoreError(where, f"unknown soil {sorted(unknown)}")
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
                raise CoreError(f"foods.csv {kind.id}", f"{word!r} names two kinds")
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
        raise CoreError(field, f"no food kind is called {name!r}; give its soils instead")
    return found


_IRREGULAR = {
    "leaves": "leaf", "loaves": "loaf", "halves": "half", "knives": "knife", "chillies": "chilli",
    "cookies": "cookie", "molasses": "molasses", "brownies": "brownie", "quiches": "quiche", "calves": "calf",
    "avocadoes": "avocado", "chilies": "chili", "brioches": "brioche", "smoothies": "smoothie", "pies": "pie",
    "swiss": "swiss", "couscous": "couscous", "herbes": "herbes", "pancreas": "pancreas", "haggis": "haggis",
    "geese": "goose", "feet": "foot", "ribeyes": "ribeye", "veggies": "veggie", "radishes": "radish",
}  # fmt: skip


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


def stem_words(text: str) -> tuple[str, ...]:
    """A text as stems: no accents, capitals, apostrophes or plurals."""
    plain = unicodedata.normalize("NFKD", text.lower())
    plain = "".join(c for c in plain if not unicodedata.combining(c)).replace("'", "").replace("\u2019", "")
    return tuple(stem(word) for word in re.findall(r"[a-z0-9&%]+", plain))


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
class Match:
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


def match_food(text: str) -> Match | None:
    """The food kind that words are about: the longest name in them, the last one on a tie."""
    words = stem_words(text)[:40]
    stems = _kinds_by_stem()
    for start, end in _spans(len(words)):
        kind = stems.get(words[start:end])
        if kind:
            sure = all(word in _SHAPES for word in words[end:])
            return Match(kind=kind, sure=sure, first_word=start == 0, whole=end - start == len(words))
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class AllergenSet:
    """The allergens one place's law names: our tags, and its words for them."""

    id: str
    name: str
    profiles: tuple[str, ...]
    locales: tuple[str, ...]
    members: Mapping[str, str]
    within: Mapping[str, str]
    verify: bool

    def named(self, tags: Iterable[str]) -> dict[str, str]:
        """Those of the tags that this place names, with its words, in its order."""
        found = {self.within.get(tag, tag) for tag in tags}
        return {tag: word for tag, word in self.members.items() if tag in found}


@cache
def allergen_sets() -> dict[str, AllergenSet]:
    """Every allergen set by id."""
    return {
        key: AllergenSet(
            id=key,
            name=row["name"],
            profiles=tuple(row["profiles"]),
            locales=tuple(row["locales"]),
            members=row["members"],
            within=row.get("within", {}),
            verify=bool(row.get("verify", False)),
        )
        for key, row in tomllib.loads(data_text("allergens.toml")).items()
    }


@cache
def _allergen_words() -> dict[str, str]:
    return {word: tag for tag, words in tomllib.loads(data_text("allergen_words.toml")).items() for word in words}


def allergen_tag(name: str) -> str:
    """Our tag for an allergen as somebody writes it: "peanuts" is peanut, "dairy" is milk. A word
    nobody knows stays itself, and is tracked as it is."""
    plain = plain_id(name.removeprefix("allergen:"))
    return _allergen_words().get(plain, plain)


def soil_tag(name: str) -> str:
    """Our id of a soil as somebody writes it; what is no soil of ours is an allergen."""
    plain = plain_id(name.removeprefix("allergen:"))
    return plain if plain in soils() and not name.startswith("allergen:") else allergen_tag(name)


def allergens_for(*, profile_id: str | None = None, locale: str | None = None) -> AllergenSet:
    """The allergen set of a rule profile or a locale; the longest list where neither is known."""
    for row in allergen_sets().values():
        if profile_id in row.profiles or locale in row.locales:
            return row
    return max(allergen_sets().values(), key=lambda row: len(row.members))

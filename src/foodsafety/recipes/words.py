"""The vocabularies of recipes: verbs and what they are in a process, kit, and ways of saying things."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Collection, Iterable, Mapping, Set
from functools import cache, lru_cache
from itertools import count
from typing import Any

from foodsafety.data import data_text
from foodsafety.foods import stem, stem_words


@cache
def vocabulary() -> dict[str, Any]:
    """The data files of instructions, of what an order means with its words, and of the names of what is made."""
    found: dict[str, Any] = {}
    for name in ("instructions.toml", "senses.toml", "made_food.toml"):
        found |= tomllib.loads(data_text(name))
    return found


@cache
def word_set(group: str, name: str) -> frozenset[str]:
    """A list of words of the data file of instructions."""
    return frozenset(vocabulary()[group][name].split())


@cache
def clause_vocabulary() -> dict[str, Any]:
    """The data files of sentences, and of ways of saying an order."""
    names = (
        "of_scraps",
        "of_sheets",
        "of_pages",
        "of_washing",
        "of_when_and_who",
        "of_work",
        "of_adding",
        "of_cooking",
        "of_talk",
    )
    files = (*(f"sayings_{name}.toml" for name in names), "sayings.toml")
    read = [tomllib.loads(data_text(name)) for name in files]
    named = {short: full for found in read for short, full in found.get("named", {}).items()}
    for _ in named:  # a name may stand in another
        named = {short: _in_full(full, named) for short, full in named.items()}
    sayings = [{**row, "words": _in_full(row["words"], named)} for found in read for row in found["saying"]]
    clauses = tomllib.loads(data_text("clauses.toml"))
    plain = [row for found in read for row in found.get("plain", ())]
    return {**clauses, "plain": [*clauses["plain"], *plain], "saying": sayings}


def _in_full(words: str, named: Mapping[str, str]) -> str:
    """A pattern with what the sayings have given a name to written out ("{kits}")."""
    return re.sub(r"\{([a-z_]+)\}", lambda found: named[found[1]], words)


@cache
def layout_vocabulary() -> dict[str, Any]:
    """The data file of layouts."""
    return tomllib.loads(data_text("layout.toml"))


@cache
def layout_pattern(group: str, name: str) -> re.Pattern[str]:
    """The words of a group of layouts, as one pattern."""
    rows = layout_vocabulary()[group][name]
    return re.compile("|".join(rows) if isinstance(rows, list) else rows, re.IGNORECASE)


def announces(text: str, foods: Set[str]) -> bool:
    """True of a sentence that only says which of its foods comes next: "first you make the rice"."""
    found = layout_pattern("sentences", "announces").match(text)
    named = set(stem_words(found["what"])) - {"the", "and", "with"} if found else set()
    return bool(named) and named <= foods


@cache
def verb_classes() -> Mapping[str, str]:
    """The process verb of each word that gives an order."""
    return {word: do for do, words in vocabulary()["verbs"].items() for word in words.split()}


# Groups of food that something is fried in or spread with.
FATS = frozenset({"oil", "butter"})
ORDINALS = ("second", "third", "fourth", "fifth", "sixth")


def first_free(names: Iterable[str], plain: str, taken: Collection[str]) -> str:
    """The first name that nothing has; a number where there are more of them than anybody has words for."""
    free = next((name for name in names if name not in taken), None)
    return free or next(name for n in count(7) if (name := f"{plain} {n}") not in taken)


def names_nothing(part: str) -> bool:
    """True for the heading of a list that says what to do with it, or where it lies: "put it together"."""
    return set(part.split()) <= word_set("made", "no_names")


@cache
def made_nouns() -> frozenset[str]:
    """Words for what is made of several foods: "mixture", "dough"."""
    return frozenset(stem(word) for word in vocabulary()["made"]["nouns"].split())


@cache
def dish_words(kind: str) -> frozenset[str]:
    """Words for made food: "dishes" for any, or those that are made cold, of flour, hot."""
    made = vocabulary()["made"]
    return frozenset(stem(word) for word in f"{made[kind]} {made['nouns'] if kind == 'dishes' else ''}".split())


@lru_cache(maxsize=500)
def words_of_foods(names: tuple[tuple[str, ...], ...]) -> frozenset[str]:
    """Words that name a food, as singular and plural; ``names`` are the names that foods have, as stems."""
    stems = {name[0] for name in names if len(name) == 1} - word_set("names", "too_plain")
    stems |= set(vocabulary()["groups"])
    # "Light soy sauce": what begins a food's name orders nothing in the middle of a list.
    pairs = {" ".join(name[:2]) for name in names if len(name) > 1}
    whites = {"whites"} if ("egg", "white") in names else set()
    return frozenset({*stems, *whites, *(form for word in stems for form in _plurals(word)), *pairs})


def _plurals(word: str) -> tuple[str, ...]:
    """How the plural of a word may be written: "anchovies", "leaves"."""
    ends = {"y": "ies", "f": "ves"}
    return (f"{word}s", f"{word}es", *([word[:-1] + ends[word[-1]]] if word[-1:] in ends else []))

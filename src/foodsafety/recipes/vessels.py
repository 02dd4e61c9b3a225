"""The tools that an instruction names, and which of them hold food on the heat or in the oven."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from functools import cache, lru_cache

from foodsafety.foods import stem_words
from foodsafety.recipes.mentions import word_stretches
from foodsafety.recipes.words import vocabulary


@cache
def _tool_words() -> list[tuple[tuple[str, ...], str]]:
    rows = [(stem_words(word), kind) for kind, words in vocabulary()["tools"].items() for word in words]
    return sorted(rows, key=lambda row: -len(row[0]))


@cache
def kit_names() -> frozenset[tuple[str, ...]]:
    """Every name of kit, in the words of a text."""
    return frozenset(name for name, _ in _tool_words())


DESCRIBING_WORDS = frozenset({"large", "small", "clean", "separate", "second", "medium", "serving", "mixing", "salad"})
ANOTHER_WORDS = frozenset({"another", "separate", "clean", "second", "fresh"})


@dataclass(frozen=True, slots=True, kw_only=True)
class NamedTool:
    """A tool a text names. ``new``: it says that this is not the one in use; ``sized``: the word that tells it from
    another of its kind, as the text writes it."""

    name: str
    kind: str
    new: bool
    a: bool
    any_pan: bool = False
    sized: str = ""


_BEFORE_A_TOOL = frozenset(
    {*DESCRIBING_WORDS, *ANOTHER_WORDS, "non", "stick", "big", "deep", "heavy", "lined", "wide", "lidded", "little"}
)


# A kitchen's own colours: what is red is another than what is green, whatever it is for there.
COLOURS = frozenset({"red", "green", "blue", "yellow", "white", "brown", "purple", "black", "orange"})
# Boards for what is eaten as it is: none of them is the board that raw meat was on under another name.
PURPOSES = frozenset({"veg", "vegetable", "salad", "produce", "fruit", "bread"})
_SIZES = frozenset({"small", "large", "big", "wide", "deep", "little"})


def tools_in(text: str) -> list[NamedTool]:
    """Tools a text names, in its order. "Large bowl" is a name of its own."""
    return list(_tools_in(text))


@lru_cache(maxsize=4_000)
def _tools_in(text: str) -> tuple[NamedTool, ...]:
    words = list(stem_words(text))
    # "Ladle it into bowls": several, and so none of those in use; "add it to the pots" is to those that are on.
    plurals = re.findall(r"[a-z]{3,}s\b", re.sub(r"\b(?:the|both|all) (?:stock)?pots\b", " ", text.lower()))
    several = {stem_words(word)[-1] for word in plurals if stem_words(word)}
    taken = [False] * len(words)
    found = []
    stretches = word_stretches(words)
    for name, kind in _tool_words():
        size = len(name)
        for i in stretches.get(name, ()):
            if not any(taken[i : i + size]) and not _is_no_tool(words, i, size):
                taken[i : i + size] = [True] * size
                tool = _tool_at(words, i, name, kind)
                found.append((i, replace(tool, a=tool.a or name[-1] in several)))
    return tuple(tool for _, tool in sorted(found, key=lambda row: row[0]))


_BOUGHT_IN = frozenset(
    {
        "spoon",
        "teaspoon",
        "ladle",
        "tin",
        "can",
        "jar",
        "bag",
        "box",
        "tub",
        "pot",
        "packet",
        "carton",
        "container",
        "cup",
        "glass",
        "mug",
    }
)


def _is_no_tool(words: list[str], i: int, size: int) -> bool:
    return any(no(words, i, size) for no in (_holds_what_is_bought, _orders_it, _is_a_sauce))


def _orders_it(words: list[str], i: int, size: int) -> bool:
    """ "Whisk 1/3 cup mayonnaise": the order, no kit."""
    after = words[i + size] if i + size < len(words) else ""
    determined = i > 0 and (words[i - 1] in _BEFORE_A_TOOL or words[i - 1] in ("the", "a", "an", "your", "with", "in"))
    return words[i] == "whisk" and after.isdigit() and not determined


_SAUCES = frozenset({"sauce", "rub", "seasoning", "glaze", "marinade", "flavour", "flavor", "spice", "relish"})


def _is_a_sauce(words: list[str], i: int, size: int) -> bool:
    """ "Barbecue sauce": a food."""
    return words[i] in ("barbecue", "bbq", "grill") and bool(_SAUCES & set(words[i + size : i + size + 1]))


def _holds_what_is_bought(words: list[str], i: int, size: int) -> bool:
    """ "2 tins chopped tomatoes", "a tub of cream": what food is bought in, no tool."""
    if words[i + size - 1] not in _BOUGHT_IN:
        return False
    after = words[i + size] if i + size < len(words) else ""
    if (
        i > 1
        and words[i - 1] in ("big", "large", "small")
        and words[i - 2].isdigit()
        and after not in ("", "in", "and")
    ):
        return True  # "6 big tins tuna"
    return after == "of" or (
        i > 0
        and (words[i - 1].isdigit() or words[i - 1] in ("g", "ml", "oz", "kg"))
        and after not in ("", "in", "and", "with")
    )


_COUNTED_AFTER = frozenset(
    {"minute", "min", "hour", "hr", "second", "sec", "tbsp", "tsp", "tablespoon", "teaspoon", "time"}
    | {"cup", "g", "kg", "ml", "l", "oz", "lb", "pint", "can", "tin", "clove", "handful", "pinch", "large", "egg"}
)


def _tool_at(words: list[str], i: int, name: tuple[str, ...], kind: str) -> NamedTool:
    """The tool named at a place, with what is said of it before."""
    j = i
    own_names = COLOURS | PURPOSES if kind == "board" else COLOURS
    while j and (words[j - 1] in _BEFORE_A_TOOL or words[j - 1] in own_names):
        j -= 1
    said = words[j:i] + list(name)
    own = next(
        (word for word in said if word in own_names or word in ("large", "small", "clean", "serving", "medium")), ""
    )
    end = i + len(name)
    after = words[end + 1] if end + 1 < len(words) else ""
    number = words[end] if end < len(words) and words[end].isdigit() and len(words[end]) == 1 else ""
    # "In a hot pan, 2 minutes each side", "whisk 1/3 cup mayonnaise".
    number = "" if after in _COUNTED_AFTER or after.isdigit() else number
    return NamedTool(
        name=f"{own} {kind.replace('_', ' ')} {number}".strip(),
        kind=kind,
        new=bool(ANOTHER_WORDS & set(said)),
        a=(words[j - 1] if j else "") in ("a", "an"),
        any_pan=name == ("pan",),
        sized=next((word for word in words[j:i] if word in _SIZES), ""),
    )


ON_THE_HEAT = frozenset({"frying pan", "saucepan", "pot", "griddle", "grill", "slow_cooker", "barbecue"})
GOES_IN_OVEN = frozenset({"tray", "tin", "oven_dish", "roasting_tin", "pot"})
VESSELS = frozenset(
    {
        "frying pan",
        "saucepan",
        "pot",
        "bowl",
        "jug",
        "tray",
        "tin",
        "oven_dish",
        "roasting_tin",
        "slow_cooker",
        "griddle",
        "grill",
        "barbecue",
        "blender",
        "food_processor",
        "mixer",
        "container",
        "bag",
        "plate",
        "mortar",
        "flask",
    }
)

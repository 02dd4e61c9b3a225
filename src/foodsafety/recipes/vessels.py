"""The tools that an instruction names, and which of them hold food on the heat or in the oven."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from foodsafety.foods import stem_words
from foodsafety.recipes.instructions import vocabulary
from foodsafety.recipes.mentions import word_stretches


@cache
def _tool_words() -> list[tuple[tuple[str, ...], str]]:
    rows = [(stem_words(word), kind) for kind, words in vocabulary()["tools"].items() for word in words]
    return sorted(rows, key=lambda row: -len(row[0]))


DESCRIBING_WORDS = frozenset({"large", "small", "clean", "separate", "second", "medium", "serving", "mixing", "salad"})
ANOTHER_WORDS = frozenset({"another", "separate", "clean", "second", "fresh"})


@dataclass(frozen=True, slots=True, kw_only=True)
class NamedTool:
    """A tool a text names. ``new``: it says that this is not the one in use."""

    name: str
    kind: str
    new: bool
    a: bool
    any_pan: bool = False


_BEFORE_A_TOOL = frozenset(
    {*DESCRIBING_WORDS, *ANOTHER_WORDS, "non", "stick", "big", "deep", "heavy", "lined", "wide", "lidded"}
)


def tools_in(text: str) -> list[NamedTool]:
    """Tools a text names, in its order. "Large bowl" is a name of its own."""
    words = list(stem_words(text))
    taken = [False] * len(words)
    found = []
    stretches = word_stretches(words)
    for name, kind in _tool_words():
        size = len(name)
        for i in stretches.get(name, ()):
            if not any(taken[i : i + size]):
                taken[i : i + size] = [True] * size
                found.append((i, _tool_at(words, i, name, kind)))
    return [tool for _, tool in sorted(found, key=lambda row: row[0])]


def _tool_at(words: list[str], i: int, name: tuple[str, ...], kind: str) -> NamedTool:
    """The tool named at a place, with what is said of it before."""
    j = i
    while j and words[j - 1] in _BEFORE_A_TOOL:
        j -= 1
    said = words[j:i] + list(name)
    own = next((word for word in said if word in ("large", "small", "clean", "serving")), "")
    return NamedTool(
        name=f"{own} {kind.replace('_', ' ')}".strip(),
        kind=kind,
        new=bool(ANOTHER_WORDS & set(said)),
        a=(words[j - 1] if j else "") in ("a", "an"),
        any_pan=name == ("pan",),
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

"""The forms of the verbs that give orders: base, third person, past participle, and "-ing"."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Literal

from foodsafety.recipes.words import clause_vocabulary, verb_classes, vocabulary


@dataclass(frozen=True, slots=True)
class VerbForm:
    verb: str
    do: str
    kind: Literal["base", "s", "ed", "ing"]


_VOWELS = "aeiou"


_IRREGULAR: Mapping[str, tuple[str, ...]] = {
    "cut": ("cut",), "put": ("put",), "set": ("set",), "let": ("let",), "spread": ("spread",), "split": ("split",),
    "beat": ("beaten", "beat"), "shake": ("shaken", "shook"), "take": ("taken", "took"), "throw": ("thrown", "threw"),
    "lay": ("laid",), "leave": ("left",), "bring": ("brought",), "keep": ("kept",), "break": ("broken", "broke"),
    "freeze": ("frozen",), "stand": ("stood",), "sit": ("sat",), "give": ("given", "gave"), "tear": ("torn", "tore"),
    "make": ("made",), "feed": ("fed",), "stick": ("stuck",), "sling": ("slung",), "wring": ("wrung",),
    "grind": (), "slit": ("slit",), "hang": ("hung",), "bind": ("bound",), "eat": ("eaten",), "sweep": ("swept",),
    "do": ("done",), "rise": ("risen",), "fling": ("flung",), "strew": ("strewn", "strewed"), "get": ("got",),
}  # fmt: skip


def _doubled(verb: str) -> str:
    """A verb before "-ed": "chop" is "chopp", "roll" and "steam" stay."""
    plain = re.sub(r"^.*-", "", verb)
    if plain in ("transfer",):  # spoken with its weight on the end
        return verb + verb[-1]
    short = re.fullmatch(rf"[^{_VOWELS}]*(?:qu)?[{_VOWELS}][^{_VOWELS}wxy]", plain)
    return verb + verb[-1] if short else verb


def _all_forms(verb: str) -> list[tuple[str, str]]:
    if verb.endswith("e") and not verb.endswith(("ee", "oe")):
        past, doing = verb + "d", verb[:-1] + "ing"
    elif verb.endswith("y") and verb[-2] not in _VOWELS:
        past, doing = verb[:-1] + "ied", verb + "ing"
    else:
        past, doing = _doubled(verb) + "ed", _doubled(verb) + "ing"
    ends_in_s = verb.endswith(("s", "x", "z", "ch", "sh", "o"))
    third = verb[:-1] + "ies" if verb.endswith("y") and verb[-2] not in _VOWELS else verb + ("es" if ends_in_s else "s")
    own = _IRREGULAR.get(verb, (past,))
    return [(third, "s"), *((word, "ed") for word in own), (doing, "ing")]


@cache
def verb_forms() -> Mapping[str, tuple[VerbForm, ...]]:
    found: dict[str, list[VerbForm]] = {}
    for verb, do in verb_classes().items():
        found.setdefault(verb, []).append(VerbForm(verb, do, "base"))
    for verb, do in verb_classes().items():
        for word, kind in _all_forms(verb):
            found.setdefault(word, []).append(VerbForm(verb, do, kind))  # type: ignore[arg-type]
    return {word: tuple(forms) for word, forms in found.items()}


def form_of(word: str, kind: str) -> VerbForm | None:
    """The verb that a word is a form of this kind of ("base", "s", "ed", "ing"); None where it is none."""
    return next((form for form in verb_forms().get(word.lower(), ()) if form.kind == kind), None)


@cache
def nouns_too() -> frozenset[str]:
    return frozenset(vocabulary()["nouns_too"]["words"].split())


@cache
def kit_words() -> frozenset[str]:
    """Words for what is washed rather than rinsed."""
    return frozenset(vocabulary()["kit"]["words"].split())


@cache
def clause_words(name: str) -> frozenset[str]:
    return frozenset(clause_vocabulary()["words"][name].split())


def begins_with_verb(text: str) -> bool:
    """True if the first word is an order's, and no name of a food as well: "check it"; not "oil"."""
    first = next(iter(re.findall(r"[a-z]+", text.lower())), "")
    return first not in nouns_too() and any(form.kind == "base" for form in verb_forms().get(first, ()))

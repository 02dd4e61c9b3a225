"""Texts as people paste them, annotated by hand, and how well the reader does on one.

A fact is read if a step of its sentence does it to its foods, asked if the program says that it did not
understand, and silent if neither: nobody would notice.
"""

import json
import re
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path
from typing import Any

from foodsafety.cli import run_read
from foodsafety.foods import stem_words

DATA = Path(__file__).resolve().parent.parent / "data"
WORK = {"cut", "mix", "coat", "marinate", "transfer", "pour", "brush", "touch", "peel", "grate", "garnish"}
VERBS = {
    "raw_touch": WORK | {"heat", "part_cook", "rinse"},
    "ready_work": WORK | {"serve"},
    "mix": {"mix", "coat", "marinate", "pour", "transfer", "brush", "garnish", "heat", "part_cook"},
    "heat": {"heat", "part_cook"},
    "marinate": {"marinate", "chill", "rest"},
    "serve": {"serve", "garnish"},
}


@dataclass(frozen=True)
class Wild:
    """One text: the foods it must not lose, and its facts as (kind, foods, exact piece of the text)."""

    name: str
    locale: Any
    text: str
    hazards: dict[str, str]
    facts: list[list[Any]]
    unsafe: bool


@dataclass
class Judged:
    read: int = 0
    asked: int = 0
    silent: int = 0
    lost: list[str] = field(default_factory=list)
    misses: list[str] = field(default_factory=list)


@cache
def wild_texts(lot: str = "wild") -> tuple[Wild, ...]:
    """The texts of a lot: "wild"; "first_sight", which were annotated before any reader saw them; "newest", the same
    and hardly learnt from; or "pages" and "later_pages", whole texts in the styles that people send, each learnt from
    once."""
    found = sorted((DATA / lot).glob("*.json"))
    rows = [(path.stem, json.loads(path.read_text(encoding="utf-8"))) for path in found]
    return tuple(
        Wild(name, row["locale"], "\n".join(row["text"]), row["hazards"], row["facts"], row.get("unsafe", False))
        for name, row in rows
    )


def inside(answer: dict[str, Any], name: str) -> set[str]:
    parts: dict[str, set[str]] = {}
    for step in answer["steps"]:
        if step["makes"]:
            parts.setdefault(step["makes"], set()).update(step["foods"])
    left, seen = [name], set()
    while left:
        at = left.pop()
        if at not in seen:
            seen.add(at)
            left += parts.get(at, ())
    return seen


def same(name: str, wanted: str) -> bool:
    return set(stem_words(wanted)) <= set(stem_words(name))


def near(quote: str, sentence: str) -> bool:
    plain = lambda text: " ".join(re.findall(r"\w+", text.lower()))  # noqa: E731 - used twice, here alone
    return plain(quote) in plain(sentence)


@cache
def answer_to(text: str, locale: Any) -> dict[str, Any]:
    """What the command line answers to a text, which several tests ask."""
    return run_read({"text": text, "locale": locale})


def judged(text: Wild) -> Judged:
    """How the reader does on a text."""
    answer = answer_to(text.text, text.locale)
    found = Judged()
    soils = [(row["food"] or "", row["soils"] + row["allergens"]) for row in answer["ingredients"]]
    for food, hazard in text.hazards.items():
        if not any(same(name, food) and hazard in has for name, has in soils):
            found.lost.append(f"{text.name}: {food}")
    steps = {step["id"]: step for step in answer["steps"]}
    asked_about = {row.get("sentence") for row in answer["questions"]} | {
        row.get("step") for row in answer["questions"]
    }
    for kind, foods, quote in text.facts:
        rows = [row for row in answer["sentences"] if near(quote, row["text"])]
        ids = [name for row in rows for name in row["steps"]]
        done = [
            steps[name]
            for name in ids
            if steps[name]["do"] in VERBS.get(kind, {kind}) or (kind == "probe" and steps[name]["core_c"])
        ]
        held = [
            set().union(*(inside(answer, n) for n in [*s["foods"], *([s["makes"]] if s["makes"] else [])]))
            if s["foods"]
            else set()
            for s in done
        ]
        if any(all(any(same(n, food) for n in names) for food in foods) for names in held) or (done and not foods):
            found.read += 1
            continue
        doubted = any(steps[name]["doubts"] for name in ids) or any(row["taken"] == "unread" for row in rows)
        if doubted or {row["n"] for row in rows} & asked_about or set(ids) & asked_about:
            found.asked += 1
        else:
            found.silent += 1
        found.misses.append(f"{text.name}: {kind} {', '.join(foods)}: {quote!r}")
    return found

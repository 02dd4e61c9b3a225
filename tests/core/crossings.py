"""Crossings: every way of saying something around an order (who, when, how long, how hot, what with) with every order.

``tests/data/crossings`` holds them: frames with places ``{a}`` and ``{b}``, and what fills them, each with what
must come of it: "heat chicken" (a step of that sort with that food), "heat chicken 10-12" (minutes), "heat chicken @75"
(its core), "heat chicken =200" (the oven). Two sorts may be right: "heat|probe". ``python -m tests.core.crossings``
reads them all and prints what is wrong.
"""

from __future__ import annotations

import re
import sys
import tomllib
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cache
from itertools import permutations
from pathlib import Path
from typing import Any, Literal

from foodsafety import cli

Read = Literal["read", "asked", "silent"]
_MUST = re.compile(
    r"(?P<works>\S+)(?: (?P<food>[a-z]+))?(?: (?P<low>\d+)-(?P<high>\d+))?(?: @(?P<core>\d+))?(?: =(?P<oven>\d+))?"
)


@dataclass(frozen=True, slots=True)
class Crossing:
    """One sentence, what is said before it, and all that must come of it."""

    name: str
    foods: tuple[str, ...]
    before: tuple[str, ...]
    said: str
    musts: tuple[str, ...]


@cache
def _data() -> list[dict[str, Any]]:
    files = sorted((Path(__file__).parents[1] / "data" / "crossings").glob("*.toml"))
    return [row for path in files for row in tomllib.loads(path.read_text(encoding="utf-8"))["crossing"]]


class _Filled(dict[str, str]):
    """A filling in a frame: {a}, or {a.third} for what else it is called."""

    def __getattr__(self, name: str) -> str:
        return self[name]

    def __format__(self, form: str) -> str:
        return self["is"][:1].upper() + self["is"][1:] if form == "A" else self["is"]


def crossings() -> Iterator[Crossing]:
    """Every frame with every filling; a frame of two with every pair."""
    for row in _data():
        fillings = [_Filled({"is": filling} if isinstance(filling, str) else filling) for filling in row["fillings"]]
        for frame in row["frames"]:
            said, _, only = frame.partition(" | ")
            places = [place for place in "ab" if re.search(rf"\{{{place}\b", said)]
            for chosen in permutations(fillings, len(places)):
                filled = dict(zip(places, chosen, strict=True))
                words = said.format(**filled)
                musts = [filled[place].get("must", row.get("must", "")) for place in only or places]
                yield Crossing(
                    row["name"],
                    tuple(row["foods"].split("; ")),
                    tuple(row["before"]),
                    words[:1].upper() + words[1:],
                    tuple(musts),
                )


def _inside(steps: list[dict[str, Any]], names: Iterable[str]) -> set[str]:
    """The names of foods, and of all that went into them."""
    made = {step["makes"]: step["foods"] for step in steps if step.get("makes")}
    found: set[str] = set()
    waiting = list(names)
    while waiting:
        name = waiting.pop()
        if name not in found:
            found.add(name)
            waiting += made.get(name, ())
    return found


def _has(step: dict[str, Any], must: re.Match[str], every: list[dict[str, Any]]) -> bool:
    minutes, core, oven = step["minutes"], step["core_c"], step["oven_c"]
    return (
        step["do"] in must["works"].split("|")
        and (not must["food"] or any(must["food"] in food for food in _inside(every, step["foods"])))
        and (not must["low"] or minutes == [float(must["low"]), float(must["high"])])
        and (not must["core"] or (core is not None and abs(core - float(must["core"])) < 1.2))
        and (not must["oven"] or (oven is not None and abs(oven - float(must["oven"])) < 5))
    )


def read(one: Crossing) -> Read:
    """What becomes of it. "Silent" is what nobody would notice."""
    text = "\n".join(["Supper", "", *one.foods, "", "Method", *one.before, one.said, "Serve with the lettuce.", ""])
    got = cli.run_read({"text": text, "locale": "en-GB"})
    rows = got["sentences"]
    first = next(k for k, row in enumerate(rows) if row["text"] == one.before[-1]) + 1
    own = [row for row in rows[first:] if not row["text"].startswith("Serve with")]
    steps = [step for step in got["steps"] if any(step["id"] in row["steps"] for row in own)]
    matched = [_MUST.fullmatch(must) for must in one.musts]
    if all(must is not None and any(_has(step, must, got["steps"]) for step in steps) for must in matched):
        return "read"
    numbers, ids = {row["n"] for row in own}, {step["id"] for step in steps}
    asked = any(row.get("sentence") in numbers or row.get("step") in ids for row in got["questions"])
    return "asked" if asked or any(step["doubts"] for step in steps) else "silent"


def main() -> None:
    """Prints every crossing that is read otherwise, and the count of each kind."""
    every = [one for one in crossings() if not sys.argv[1:] or one.name in sys.argv[1:]]
    for name in dict.fromkeys(one.name for one in every):
        found = [(read(one), one) for one in every if one.name == name]
        for how, one in found:
            if how != "read":
                print(f"{how:6} {one.said}  > {', '.join(one.musts)}")
        counts = {how: sum(one == how for one, _ in found) for how in ("read", "asked", "silent")}
        print(f"## {name}: {counts} of {len(found)}")


if __name__ == "__main__":
    main()

"""Ways of saying one piece of work: each is put after the same sentences, and read.

``tests/data/ways`` holds them: "@" a list of ingredients, "<" what is said before, ">>" what is said after, ">" the
works that would be right, the foods they are of, and the minutes; "!" a work that must not come of it. Every other row
is a way of saying it. ``python -m tests.core.ways`` reads them all and prints those that are read otherwise.
"""

from __future__ import annotations

import re
import sys
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path
from typing import Any, Literal

from foodsafety import cli
from foodsafety.foods import stem_words

DATA = Path(__file__).parents[1] / "data" / "ways"
Read = Literal["read", "asked", "silent"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """One sentence, and what has to come of it, or (``never``) must not."""

    said: str
    list: tuple[str, ...]
    before: tuple[str, ...]
    after: str
    works: frozenset[str]
    foods: tuple[str, ...]
    minutes: float | None
    never: bool


@cache
def ways() -> tuple[Way, ...]:
    return tuple(way for path in sorted(DATA.glob("*.txt")) for way in _ways_of(path.read_text(encoding="utf-8")))


def _ways_of(text: str) -> Iterator[Way]:
    now = Way(said="", list=(), before=(), after="", works=frozenset(), foods=(), minutes=None, never=False)
    for row in filter(None, map(str.strip, text.splitlines())):
        if row.startswith("@"):
            now = replace(now, list=tuple(part.strip() for part in row[1:].split(";")), after="")
        elif row.startswith("<"):
            now = replace(now, before=tuple(re.split(r"(?<=[.!?])\s+", row[1:].strip())), after="")
        elif row.startswith(">>"):
            now = replace(now, after=row[2:].strip())
        elif row.startswith((">", "!")):
            works, foods, minutes = (*row[1:].split(":"), "", "")[:3]
            now = replace(
                now,
                works=frozenset(works.strip().split("|")),
                foods=tuple(filter(None, map(str.strip, foods.split(",")))),
                minutes=float(minutes) if minutes.strip() else None,
                never=row[0] == "!",
            )
        else:
            yield replace(now, said=row)


def _holds(steps: list[dict[str, Any]], step: dict[str, Any], food: str) -> bool:
    """True if a step works on a food, or on what it has gone into."""
    made = {row["makes"]: row["foods"] for row in steps if row["makes"]}
    todo, seen = list(step["foods"]), set[str]()
    while todo:
        name = todo.pop()
        if set(stem_words(food)) <= set(stem_words(name)):
            return True
        todo += [] if name in seen else made.get(name, [])
        seen.add(name)
    return False


def read(way: Way) -> Read:
    """Whether a way of saying it is read as it is meant, asked about, or neither."""
    method = "\n".join(filter(None, (*way.before, way.said, way.after)))
    text = "Supper\n\n" + "\n".join(way.list) + f"\n\nMethod\n{method}\n"
    answer = cli.run_read({"text": text, "locale": "en-GB"})
    rows = [row for row in answer["sentences"] if row["text"] in way.said or way.said in row["text"]]
    ids = {step for row in rows for step in row["steps"]}
    every = list(answer["steps"])
    own = every if way.never else [step for step in every if step["id"] in ids]
    fits = [step for step in own if step["do"] in way.works]
    timed = [step for step in fits if way.minutes is None or way.minutes in (step["minutes"] or ())]
    each = [any(_holds(every, step, food) for step in timed) for food in way.foods]
    if (bool(timed) and all(each)) is not way.never:
        return "read"
    doubted = any(step["doubts"] for step in every if step["id"] in ids)
    numbers = {row["n"] for row in rows}
    asked = any(ask.get("sentence") in numbers or ask.get("step") in ids for ask in answer["questions"])
    return "asked" if doubted or asked or any(row["taken"] == "unread" for row in rows) else "silent"


def main() -> None:
    counted: Counter[str] = Counter()
    for way in ways():
        found = read(way)
        counted[found] += 1
        if found != "read":
            sign = "!" if way.never else ">"
            print(f"{found:6} {sign} {'|'.join(sorted(way.works))}: {', '.join(way.foods)}  |  {way.said}")
    print(", ".join(f"{name} {n}" for name, n in counted.items()), f"of {len(ways())}")


if __name__ == "__main__":
    sys.exit(main())

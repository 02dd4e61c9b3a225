"""Scores what the step reader finds against what a person wrote down: actions, foods, times, temperatures."""

import difflib
import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from foodsafety.foods import stem_words
from foodsafety.recipes import minutes_in, propose, read_ingredient

TEXTS = Path(__file__).resolve().parent.parent / "data" / "instruction_texts.txt"


@dataclass
class Wanted:
    do: str
    foods: frozenset[str]
    minutes: float | None
    oven_c: float | None
    core_c: float | None


@dataclass
class Text:
    title: str
    lines: list[str] = field(default_factory=list)
    instructions: list[str] = field(default_factory=list)
    rows: list[str] = field(default_factory=list)


@dataclass
class Score:
    right: int = 0
    of: int = 0
    wrong: list[str] = field(default_factory=list)

    def item(self, ok: bool, what: str) -> None:
        self.of += 1
        self.right += ok
        if not ok:
            self.wrong.append(what)


def texts() -> list[Text]:
    found: list[Text] = []
    for line in TEXTS.read_text(encoding="utf-8").splitlines():
        if line.startswith("== "):
            found.append(Text(line[3:]))
        elif line.startswith("- "):
            found[-1].lines.append(line[2:])
        elif line.startswith("> "):
            found[-1].instructions.append(line[2:])
        elif line and not line.startswith("#"):
            found[-1].rows.append(line)
    return found


def _ingredient(name: str, foods: list[str]) -> str:
    wanted = set(stem_words(name))
    fits = [food for food in foods if wanted <= set(stem_words(food))]
    assert fits, f"{name!r} is no ingredient of {foods}"
    return min(fits, key=len)


def _row(row: str, foods: list[str], made: dict[str, frozenset[str]]) -> Wanted:
    head, _, temps = row.partition(" @ ")
    minutes = re.match(r"[\d.]+", temps)
    oven, core = re.search(r" T ([\d.]+)", row), re.search(r" K ([\d.]+)", row)
    head = re.split(r" [TK] [\d.]+", head)[0]
    do, _, rest = head.partition(":")
    names, _, makes = rest.partition("=>")
    base: set[str] = set()
    for name in filter(None, (part.strip() for part in names.split(","))):
        base |= made[name] if name in made else {_ingredient(name, foods)}
    if makes.strip():
        made[makes.strip()] = frozenset(base)
    number = [float(found[1]) if found else None for found in (oven, core)]
    return Wanted(do, frozenset(base), float(minutes[0]) if minutes else None, number[0], number[1])


def wanted(text: Text, foods: list[str]) -> list[Wanted]:
    made: dict[str, frozenset[str]] = {}
    return [_row(row, foods, made) for row in text.rows]


def found(process: dict[str, Any]) -> list[Wanted]:
    parts: dict[str, frozenset[str]] = {}
    rows = []
    for step in process["steps"]:
        base: frozenset[str] = frozenset().union(*(parts.get(name, frozenset({name})) for name in step["foods"]))
        if step.get("makes"):
            parts[step["makes"]] = base
        heat, end = step.get("heat", {}), step.get("end", {})
        if "step" not in step.get("guesses", []):
            rows.append(Wanted(step["do"], base, step.get("minutes"), heat.get("oven_c"), end.get("core_c")))
    return rows


def compare(title: str, want: list[Wanted], got: list[Wanted], score: Score) -> None:
    matcher = difflib.SequenceMatcher(a=[w.do for w in want], b=[g.do for g in got], autojunk=False)
    paired: dict[int, int] = {}
    for a, b, size in matcher.get_matching_blocks():
        paired.update({a + i: b + i for i in range(size)})
    for i, w in enumerate(want):
        g = got[paired[i]] if i in paired else None
        where = f"{title}: {w.do} {', '.join(sorted(w.foods))}"
        score.item(g is not None, f"{where}: not found")
        for food in sorted(w.foods):
            score.item(g is not None and food in g.foods, f"{where}: without {food}")
        for food in sorted(g.foods - w.foods) if g else ():
            score.item(False, f"{where}: with {food} as well")
        for name in ("minutes", "oven_c", "core_c"):
            a, b = getattr(w, name), getattr(g, name) if g else None
            if a is not None or (g and b is not None):
                score.item(a is not None and b is not None and abs(a - b) < 0.5, f"{where}: {name} {b}, not {a}")
    for j, g in enumerate(got):
        if j not in paired.values():
            score.item(False, f"{title}: {g.do} {', '.join(sorted(g.foods))}: nobody said so")


def score_text(text: Text, score: Score) -> None:
    items = [read_ingredient(line, "en-GB") for line in text.lines]
    proposal = propose(items, text.instructions, from_list=False)
    foods = list(proposal.process["foods"])
    compare(text.title, wanted(text, foods), found(proposal.process), score)


def score_demo(recipe: dict[str, Any], score: Score) -> None:
    """Reads the words of a demo recipe's steps, against the process a person confirmed."""
    items = [read_ingredient(line, "en-GB") for line in recipe["ingredients"]]
    proposal = propose(items, [step["detail"] for step in recipe["process"]["steps"]], from_list=False)
    named = list(proposal.process["foods"])
    lines = {food: row["line"] for food, row in recipe["process"]["foods"].items()}
    own = {name: named[line] for name, line in lines.items()}
    want = []
    for row in found(recipe["process"]):
        want.append(Wanted(row.do, frozenset(own.get(f, f) for f in row.foods), row.minutes, row.oven_c, row.core_c))
    said = []
    for row, step in zip(want, recipe["process"]["steps"], strict=True):
        told = minutes_in(step["detail"])[1]
        said.append(Wanted(row.do, row.foods, told, row.oven_c, row.core_c))
    compare(recipe["title"], said, found(proposal.process), score)

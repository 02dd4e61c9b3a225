"""A group as somebody types or pastes it: a line each, or a sheet with a heading."""

from __future__ import annotations

import csv
import re
from dataclasses import dataclass

from django.utils.translation import gettext as _

from foodsafety.planning import Learner

MOST_LINES = 320
MOST_NAME = 24
MOST_LETTERS = 400
# What a column may be called, in small letters.
_HEADINGS = {
    "name": ("initials", "name", "names", "nickname", "who", "learner", "learners"),
    "age": ("age", "ages", "years", "age band"),
    "allergies": ("allergies", "allergy", "allergens", "allergic to"),
    "shown": ("shown", "skills", "can", "may", "has been shown"),
}
_AS_TYPED = ("name", "age", "allergies", "shown")
_NONE = frozenset({"", "-", "none", "no", "n/a", "nil"})
_RULE = re.compile(r"^(.+?)\s+(not with|without|apart from|with|and)\s+(.+)$", re.IGNORECASE)


@dataclass(frozen=True, slots=True, kw_only=True)
class Roster:
    """Who was read, and what was not taken as it stands, a line each."""

    learners: tuple[Learner, ...]
    doubts: tuple[str, ...]


def read_roster(text: str) -> Roster:
    """Initials, age, allergies, shown: in that order, or under headings in any order; commas, semicolons or tabs. A
    full name is shortened to initials, and that is said: no name is kept."""
    lines = [line[:MOST_LETTERS] for line in text.replace("\0", "").splitlines() if line.strip()]
    learners: list[Learner] = []
    doubts = []
    if len(lines) > MOST_LINES:
        doubts.append(_("Only the first %(n)d lines were read.") % {"n": MOST_LINES})
    mark = max(",;\t", key=lambda sign: sum(line.count(sign) for line in lines[:20]))
    rows = list(csv.reader(lines[:MOST_LINES], delimiter=mark))
    columns = _columns(rows[0]) if rows else None
    for line, row in zip(lines[1:] if columns else lines, rows[1:] if columns else rows, strict=False):
        cells = dict(zip(columns or _AS_TYPED, (cell.strip() for cell in row), strict=False))
        name = _short(cells.get("name", ""))
        if not name:
            doubts.append(_("“%(line)s” has nobody in it, and was left out.") % {"line": line[:60]})
            continue
        if name != cells["name"]:
            taken = {row.name for row in learners}
            name = next(one for one in (name, *(f"{name}{n}" for n in range(2, MOST_LINES + 2))) if one not in taken)
            doubts.append(_("A full name was shortened to %(name)s; it is not kept.") % {"name": name})
        if any(name == row.name for row in learners):
            doubts.append(_("%(name)s is there twice: the second was left out.") % {"name": name})
            continue
        learners.append(
            Learner(
                name=name,
                age=_band(cells.get("age", "")),
                allergies=_words(cells.get("allergies", "")),
                shown=_words(cells.get("shown", "")),
            )
        )
    return Roster(learners=tuple(learners), doubts=tuple(doubts))


def read_rules(text: str) -> tuple[list[tuple[str, str]], list[tuple[str, str]], list[str]]:
    """ "AK with JT", "NB not with SD", a line each: who must be together, who apart, and lines that are neither."""
    together, apart, doubts = [], [], []
    for line in text.replace("\0", "").splitlines():
        if not line.strip():
            continue
        rule = _RULE.match(line.strip())
        if rule is None:
            doubts.append(_("“%(line)s” is no rule: write “AK with JT” or “NB not with SD”.") % {"line": line[:60]})
        elif rule[2].lower() in ("with", "and"):
            together.append((rule[1].strip(), rule[3].strip()))
        else:
            apart.append((rule[1].strip(), rule[3].strip()))
    return together, apart, doubts


def bench_names(text: str) -> list[str]:
    """The benches of the lesson's form: what stands before the colon of each line."""
    names = (line.partition(":")[0].strip()[:40] for line in text.splitlines())
    return list(dict.fromkeys(name for name in names if name))


def _columns(row: list[str]) -> list[str] | None:
    """The columns of a heading; None for a row that is none."""
    found = [next((key for key, words in _HEADINGS.items() if cell.strip().lower() in words), "") for cell in row]
    return found if "name" in found else None


def _short(name: str) -> str:
    """Initials for what looks like a full name, two words or more; one word is left as a nickname."""
    words = name.split()
    return "".join(word[0] for word in words).upper()[:MOST_NAME] if len(words) > 1 else name[:MOST_NAME]


def _band(age: str) -> str:
    """Two years to a band for a number; a band as it is written."""
    if age.isdecimal() and len(age) < 4:
        low = int(age) // 2 * 2
        return f"{low}-{low + 1}"
    return age[:20]


def _words(cell: str) -> frozenset[str]:
    return frozenset(word for word in re.split(r"[\s;/+]+", cell.lower()[:200]) if word not in _NONE)

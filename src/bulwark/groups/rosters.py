"""A group as somebody types or pastes it, or as a sheet has it: a line each, with or without a heading."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from django.utils.translation import gettext as _

from bulwark.presentation.sheets import csv_of
from foodsafety.foods import allergen_sets, allergen_tag
from foodsafety.planning import Learner, skill_names

MOST_LINES = 320
MOST_NAME = 24
MOST_LETTERS = 400
MOST_ROLES = 12
# What a column may be called, in small letters.
_HEADINGS = {
    "name": ("initials", "name", "names", "nickname", "who", "learner", "learners", "student", "pupil", "member"),
    "age": ("age", "ages", "years", "age band", "year"),
    "allergies": ("allergies", "allergy", "allergens", "allergic to", "allergen"),
    "shown": ("shown", "skills", "can", "may", "has been shown", "can use"),
    "needs": ("needs", "need", "support", "help"),
    "eats": ("eats", "eats?", "eating", "tastes"),
}
_AS_TYPED = ("name", "age", "allergies", "shown", "needs", "eats")
_NONE = frozenset({"", "-", "none", "no", "n/a", "nil", "0"})
_NOT = frozenset({"no", "n", "not", "false", "0"})
_RULE = re.compile(r"^(.+?)\s+(not with|without|apart from|with|and)\s+(.+)$", re.IGNORECASE)
# What people call what has been shown.
_SKILLS = {
    "knives": "knife", "cutting": "knife", "stove": "hob", "stovetop": "hob", "cooker": "hob", "hobs": "hob",
    "ovens": "oven", "blender": "blade", "processor": "blade", "mandoline": "blade", "oil": "hot_oil",
    "frying": "hot_oil", "hot-oil": "hot_oil",
}  # fmt: skip
# What a spreadsheet would take for a formula.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """A line as it was written, who was read from it, and what was not taken as it stands."""

    line: str
    learner: Learner | None
    needs: str = ""
    eats: bool = True
    doubts: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Roster:
    """The lines that were read, and what is to be said of all of them."""

    rows: tuple[Row, ...] = ()
    said: tuple[str, ...] = ()

    @property
    def learners(self) -> tuple[Learner, ...]:
        """Who was read."""
        return tuple(row.learner for row in self.rows if row.learner)

    @property
    def doubts(self) -> tuple[str, ...]:
        """Everything that was not taken as it stands."""
        return (*self.said, *(doubt for row in self.rows for doubt in row.doubts))


def read_roster(text: str) -> Roster:
    """Initials, age, allergies, shown, needs, eats: in that order, or under headings in any order; commas, semicolons
    or tabs. A full name is shortened to initials, and that is said: no name is kept."""
    lines = [line[:MOST_LETTERS] for line in text.replace("\0", "").splitlines() if line.strip(" \t,;")]
    said = [_("Only the first %(n)d lines were read.") % {"n": MOST_LINES}] if len(lines) > MOST_LINES else []
    mark = max(",;\t", key=lambda sign: sum(line.count(sign) for line in lines[:20]))
    cells = [next(csv.reader([line], delimiter=mark), []) for line in lines[:MOST_LINES]]
    columns = _columns(cells[0]) if cells else None
    if columns:
        left = [cell.strip() for cell, column in zip(cells[0], columns, strict=True) if not column and cell.strip()]
        if left:
            said.append(_("Not read, since nothing here needs it: %(columns)s.") % {"columns": ", ".join(left)[:120]})
        lines, cells = lines[1:], cells[1:]
    rows: list[Row] = []
    for line, row in zip(lines, cells, strict=False):
        named = dict(zip(columns or _AS_TYPED, (cell.strip() for cell in row), strict=False))
        rows.append(_row(line, named, {one.learner.name for one in rows if one.learner}))
    return Roster(rows=tuple(rows), said=tuple(said))


def _row(line: str, cells: Mapping[str, str], taken: set[str]) -> Row:
    written = cells.get("name", "").lstrip("".join(_FORMULA)).strip()
    name = _short(written)
    if not name:
        doubt = _("“%(line)s” has nobody in it, and was left out.") % {"line": line[:60]}
        return Row(line=line, learner=None, doubts=(doubt,))
    doubts = []
    if name != written:
        name = next(one for one in (name, *(f"{name}{n}" for n in range(2, MOST_LINES + 2))) if one not in taken)
        doubts.append(_("A full name was shortened to %(name)s; it is not kept.") % {"name": name})
    if name in taken:
        doubt = _("%(name)s is there twice: the second was left out.") % {"name": name}
        return Row(line=line, learner=None, doubts=(doubt,))
    allergies, unknown = _allergies(cells.get("allergies", ""))
    if {"tree_nuts", "peanut"} <= set(allergies):
        doubts.append(_("“nuts” was taken for tree nuts and peanuts: write which, if it is one of them."))
    if unknown:
        doubts.append(
            _("“%(words)s” is no allergen that Bulwark knows: no dish is checked for it.")
            % {"words": ", ".join(unknown)}
        )
    learner = Learner(
        name=name,
        age=_band(cells.get("age", "")),
        allergies=frozenset((*allergies, *unknown)),
        shown=_shown(cells.get("shown", "")),
    )
    eats = cells.get("eats", "").lower() not in _NOT
    return Row(line=line, learner=learner, needs=cells.get("needs", "")[:120], eats=eats, doubts=tuple(doubts))


_WRITTEN = ("initials", "age", "allergies", "shown", "needs", "eats")


def written(rows: Iterable[Mapping[str, object]]) -> str:
    """A group as a sheet with headings, which reads the same again; no cell of it is a formula."""
    return csv_of([_WRITTEN, *([row[name] for name in _WRITTEN] for row in rows)], "\n")


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Role:
    """A role in the kitchen's own words, and what it has to do."""

    name: str
    duties: tuple[str, ...] = field(default=())


def read_roles(text: str) -> tuple[Role, ...]:
    """ "steward: washes up, watches timers", a line each."""
    found = {}
    for line in text.replace("\0", "").splitlines():
        name, _sep, duties = line.partition(":")
        if name.strip():
            rows = tuple(duty.strip()[:60] for duty in duties.split(",") if duty.strip())
            found[name.strip()[:40]] = Role(name=name.strip()[:40], duties=rows[:6])
    return tuple(found.values())[:MOST_ROLES]


def bench_lines(text: str) -> dict[str, list[str]]:
    """Who is at which bench, from lines of "Gannet: SD, RO": each name once at a bench, as it is written."""
    found: dict[str, list[str]] = {}
    for line in text.replace("\0", "").splitlines():
        name, _sep, people = line.partition(":")
        if name.strip():
            rows = found.setdefault(name.strip(), [])
            rows += [who for part in people.split(",") if (who := part.strip()) and who not in rows]
    return {name: list(dict.fromkeys(rows)) for name, rows in found.items()}


def twice_seated(benches: Mapping[str, Sequence[str]]) -> dict[str, list[str]]:
    """Who stands at more than one bench, and at which."""
    seats: dict[str, list[str]] = {}
    for bench, names in benches.items():
        for name in names:
            seats.setdefault(name, []).append(bench)
    return {name: rows for name, rows in seats.items() if len(rows) > 1}


def as_text(sheet: bytes) -> str:
    """A sheet's text, in whichever of the usual encodings it is."""
    encoding = "utf-16" if sheet[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8-sig"
    try:
        return sheet.decode(encoding)
    except UnicodeDecodeError:
        return sheet.decode("cp1252", errors="replace")


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


# Who says "nuts" may mean either, and is kept from both.
_EITHER = {"nuts": ("tree_nuts", "peanut"), "nut": ("tree_nuts", "peanut")}


def _allergies(cell: str) -> tuple[list[str], list[str]]:
    """The allergens of a cell by their tags, and words that are none."""
    known: list[str] = []
    unknown: list[str] = []
    for words in re.split(r"[;/+,]+|\band\b", cell.lower()[:200]):
        whole = " ".join(words.split())
        if whole in _NONE:
            continue
        for name in [whole] if _tag(whole) else whole.split():
            if name in _EITHER:
                known += _EITHER[name]
            elif tag := _tag(name):
                known.append(tag)
            else:
                unknown.append(name)
    return known, unknown


def _tag(words: str) -> str:
    """Our tag for an allergen; nothing for a word that is none."""
    tag = allergen_tag(words)
    return tag if any(tag in row.members for row in allergen_sets().values()) else ""


def _shown(cell: str) -> frozenset[str]:
    """What has been shown: skills by their ids, other words as they are."""
    text = re.sub(r"\bhot[ _-]oil\b", "hot-oil", cell.lower()[:200])
    words = [word for word in re.split(r"[\s;/+,]+", text) if word not in _NONE]
    return frozenset(name if (name := _SKILLS.get(word, word)) in skill_names() else word for word in words)

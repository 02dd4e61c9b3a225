"""Rows that a page broke in the middle of a sentence, put together again."""

from __future__ import annotations

import itertools
import re
from collections.abc import Callable, Sequence

from foodsafety.recipes.words import layout_pattern, layout_vocabulary

BULLET = re.compile(
    r"^\s*(?:(?:[-*+]\s+)?\[[ xX]?\]\s*|[-*•·▢☐◦‣▪+–]\s+|•|\d{1,3}[.)]\s+|\d{1,2}[.:]\d{2}\s*(?:am|pm|h)?\s+(?=[A-Z])"
    r"|(?:\d{1,2}:[0-5][05]|(?:[6-9]|1\d|2[0-3])\.[0-5][05])\s*(?:am|pm|h)?\s+(?=[a-z])"
    r"(?!(?:k?g|k?grams?|kilos?|ml|l|litres?|oz|ounces?|lbs?|pounds?|pints?|cups?|tsps?|tbsps?|sticks?|tins?|x|of)\b)"
    r"|(?:i{1,3}|iv|vi{0,3}|ix|x)[.)]\s+(?=[A-Z]))"
)


def without_shouting(text: str) -> str:
    """A text that is all in capitals, as a sentence is written; short rows keep theirs, which make them headings. Any
    other text as it is."""
    letters = [letter for letter in text if letter.isalpha()]
    if len(letters) < 80 or sum(letter.isupper() for letter in letters) < 0.8 * len(letters):
        return text
    return "\n".join(_spoken(row) for row in text.split("\n"))


def _spoken(row: str) -> str:
    if len(row.split()) <= 4 and not re.search(r"\d|[.,;]", row):
        return row
    plain = re.sub(r"(^|[.!?]\s+)(\W*)([a-z])", lambda m: f"{m[1]}{m[2]}{m[3].upper()}", row.lower())
    return re.sub(r"(\d ?°?)([cf])\b", lambda m: m[1] + m[2].upper(), plain)


_NUMBER_ALONE = re.compile(r"\s*(\d{1,2})[.)]?\s*$")


def with_their_numbers(text: str) -> str:
    """A text with each number that stands on a row by itself put before the row below, as saved pages have their steps:
    where they count 1, 2, 3. There are as many rows as before."""
    rows = text.split("\n")
    alone = [(n, int(found[1])) for n, row in enumerate(rows[:-1]) if (found := _NUMBER_ALONE.match(row))]
    counted = [number for _, number in alone] == list(range(1, len(alone) + 1))
    told = [rows[n + 1].strip() for n, _ in alone]
    # "1", "onion", "2", "eggs" are amounts: a step has words.
    long = sum(len(row.split()) > 3 for row in told) >= 0.5 * len(told)
    if len(alone) < 2 or not counted or not long or not all(row[:1].isalpha() for row in told):
        return text
    for n, number in alone:
        rows[n], rows[n + 1] = "", f"{number}. {rows[n + 1].lstrip()}"
    return "\n".join(rows)


def unbroken(rows: Sequence[str], begins: Callable[[str], bool] = lambda row: False) -> list[tuple[int, str]]:
    """Rows with their numbers, what was broken in the middle of a sentence put together again. ``begins`` says of a
    row that it is one of its own, whatever stands above: a food with its amount."""
    lower, limits = [row for row in rows if row.strip()], layout_vocabulary()["rows"]
    worded = [row for row in lower if row.lstrip()[0].isalpha()]  # "500 g mince" is neither small nor big
    small = sum(row.lstrip()[0].islower() for row in worded) > 0.4 * len(worded) and not _begins_big(lower)
    widest = max((len(row.strip()) for row in rows if len(row.strip()) < limits["widest_wrapped"]), default=0)
    columns = _columns(rows)
    if widest < _NARROW and sum(_breaks(row, below, widest) for row, below in itertools.pairwise(rows)) < 2:
        widest = limits["widest_wrapped"]  # one short row above another is no page: nothing says that it was broken
    broken_at = _wrapped_at(rows)
    found: list[tuple[int, str]] = []
    for number, row in enumerate(rows, start=1):
        text = row.strip()
        mid_clause = bool(found) and _is_mid_clause(found[-1][1].strip(), text, begins)
        goes_on = bool(
            found
            and text
            and (
                BULLET.match(found[-1][1])
                or _had_no_room(rows[number - 2].strip(), text, columns[number - 1] or widest)
                or mid_clause
            )
            and (not small or found[-1][1].strip()[-1:] == "(")
            and found[-1][0] == number - 1 - found[-1][1].count("\n")
            and (
                text[0].islower()
                or (text[0] == "(" and BULLET.match(found[-1][1]) and rows[number - 1][:1].isspace())
                or (
                    text[0].isdigit()
                    and re.search(r"\b(?:to|for|of|the|and|or|about|least|with|at|a)$|\d-$", found[-1][1].strip())
                )
            )
            and not BULLET.match(row)
            and not (begins(text) and _HANGS.search(found[-1][1].strip()) is None)
            and not layout_pattern("rows", "labelled").match(text)
            and found[-1][1].strip()
            and not re.search(r"[.!?:]\W*$", found[-1][1].strip())
            and (
                len(found[-1][1]) > 40
                or mid_clause
                or BULLET.match(found[-1][1])
                or columns[number - 1]
                or (len(found[-1][1]) > 24 and _HANGS.search(found[-1][1].strip()))
            )
        )
        apart = BULLET.match(row) or begins(text) or layout_pattern("rows", "labelled").match(text)
        if goes_on or (found and not apart and number > 1 and _breaks(rows[number - 2], row, broken_at)):
            found[-1] = (found[-1][0], f"{found[-1][1]}\n{row}")
        else:
            found.append((number, row))
    whole = ((number, re.sub(r"(?<=\d-)\s*\n\s*(?=\d)", "", row)) for number, row in found)  # "15-" and "20 minutes"
    return [(number, re.sub(r"\s*\n\s*", " ", row)) for number, row in whole]


# No row ends with one of these.
_HANGS = re.compile(
    r"(?:[,(&+]|\b(?:to|for|of|the|and|or|about|least|with|at|an?|in|into|on|until|till|from))$", re.IGNORECASE
)
_NARROWEST, _NARROW = 25, 60


def _columns(rows: Sequence[str]) -> list[int]:
    """For each row how wide the narrow column is that it stands in; 0 where it stands in none: four rows and more
    without a gap, nearly all that do not end a sentence about as long as the longest."""
    found, block = [0] * len(rows), list[int]()
    for i, row in enumerate([*rows, ""]):
        if row.strip():
            block.append(i)
            continue
        sizes = [len(rows[k].strip()) for k in block]
        full = sum(size >= 0.7 * max(sizes) for size in sizes[:-1]) if sizes else 0
        broken = [len(rows[k].strip()) for k in block[:-1] if _is_cut(rows[k].strip(), rows[k + 1].strip())]
        cut = len(broken) > 3 and all(size >= 0.7 * max(broken) for size in broken) and max(sizes) <= max(broken) + 4
        if len(block) > 3 and _NARROWEST <= max(sizes) <= _NARROW and (cut or full >= 0.8 * (len(block) - 1)):
            for k in block:
                found[k] = max(sizes)
        block = []
    return found


# So many rows, and such a share of the long ones, break where the next word had no room: a page of that width.
_BREAKS, _LONG, _MOSTLY = 5, 0.7, 0.6


def _wrapped_at(rows: Sequence[str]) -> int:
    """The width at which all of a text was broken, whatever its rows begin with; 0 where it was not."""
    limit = layout_vocabulary()["rows"]["widest_wrapped"]
    widest = max((len(row.rstrip()) for row in rows), default=0)
    if not _NARROWEST <= widest <= limit:
        return 0
    pairs = [(row, below) for row, below in itertools.pairwise(rows) if row.strip() and below.strip()]
    long = [(row, below) for row, below in pairs if len(row.rstrip()) > _LONG * widest]
    broken = sum(_breaks(row, below, widest) for row, below in long)
    return widest if broken >= _BREAKS and broken >= _MOSTLY * len(long) else 0


def _breaks(row: str, below: str, width: int) -> bool:
    """True for a row in which the first word of the row below had no room at a width."""
    first = below.split()[:1]
    return bool(width and row.strip() and first) and len(row.rstrip()) + 1 + len(first[0]) > width


def _is_cut(row: str, below: str) -> bool:
    """True for a row whose sentence goes on in the row below."""
    ends = re.search(r"[.!?:)]\W*$", row) or row.isupper() or BULLET.match(row)
    return not ends and (below[:1].islower() or _HANGS.search(row) is not None)


_JOINS = re.compile(r"(?:and|or|of|with|into|until|till)\b")


def _is_mid_clause(before: str, row: str, begins: Callable[[str], bool]) -> bool:
    """True for a row that begins with a word no sentence begins with, below one that is no food of a list."""
    return _JOINS.match(row) is not None and len(before) > _NARROWEST and not begins(before)


def _begins_big(rows: Sequence[str]) -> bool:
    """True if sentences inside the rows begin with a capital: then a row with a small one goes on."""
    starts = re.findall(r"[a-z]{2}[.!?]\s+([A-Za-z])", "\n".join(rows))
    return len(starts) > 1 and sum(start.isupper() for start in starts) > 0.8 * len(starts)


def _had_no_room(before: str, row: str, widest: int) -> bool:
    """True if a row may be the rest of the one before: its first word had no room there, or the one before
    cannot end where it does."""
    cut = _HANGS.search(before)
    rows = layout_vocabulary()["rows"]
    fits = min(widest, rows["widest_wrapped"]) * rows["roughly"]
    return cut is not None or len(before) + 1 + len(row.split()[0]) > fits

"""Rows that a page broke in the middle of a sentence, put together again."""

from __future__ import annotations

import re
from collections.abc import Sequence

from foodsafety.recipes.words import layout_pattern, layout_vocabulary

BULLET = re.compile(
    r"^\s*(?:(?:[-*+]\s+)?\[[ xX]?\]\s*|[-*•·▢☐◦‣▪+–]\s+|•|\d{1,3}[.)]\s+|\d{1,2}[.:]\d{2}\s*(?:am|pm|h)?\s+(?=[A-Z]))"
)


def unbroken(rows: Sequence[str]) -> list[tuple[int, str]]:
    """Rows with their numbers, what was broken in the middle of a sentence put together again."""
    lower, limits = [row for row in rows if row.strip()], layout_vocabulary()["rows"]
    small = sum(row.lstrip()[0].islower() for row in lower) > 0.4 * len(lower) and not _begins_big(lower)
    widest = max((len(row.strip()) for row in rows if len(row.strip()) < limits["widest_wrapped"]), default=0)
    found: list[tuple[int, str]] = []
    for number, row in enumerate(rows, start=1):
        text = row.strip()
        goes_on = bool(
            found
            and text
            and (BULLET.match(found[-1][1]) or _had_no_room(rows[number - 2].strip(), text, widest))
            and (not small or found[-1][1].strip()[-1:] == "(")
            and found[-1][0] == number - 1 - found[-1][1].count("\n")
            and (
                text[0].islower()
                or (
                    text[0].isdigit()
                    and re.search(r"\b(?:to|for|of|the|and|or|about|least|with|at|a)$", found[-1][1].strip())
                )
            )
            and not BULLET.match(row)
            and not layout_pattern("rows", "labelled").match(text)
            and found[-1][1].strip()
            and not re.search(r"[.!?:]\W*$", found[-1][1].strip())
            and (len(found[-1][1]) > 40 or BULLET.match(found[-1][1]))
        )
        if goes_on:
            found[-1] = (found[-1][0], f"{found[-1][1]}\n{row}")
        else:
            found.append((number, row))
    return [(number, re.sub(r"\s*\n\s*", " ", row)) for number, row in found]


def _begins_big(rows: Sequence[str]) -> bool:
    """True if sentences inside the rows begin with a capital: then a row with a small one goes on."""
    starts = re.findall(r"[a-z]{2}[.!?]\s+([A-Za-z])", "\n".join(rows))
    return len(starts) > 1 and sum(start.isupper() for start in starts) > 0.8 * len(starts)


def _had_no_room(before: str, row: str, widest: int) -> bool:
    """True if a row may be the rest of the one before: its first word had no room there, or the one before
    cannot end where it does."""
    cut = re.search(
        r"(?:[,(&+]|\b(?:to|for|of|the|and|or|about|least|with|at|an?|in|into|on|until|till|from))$", before
    )
    rows = layout_vocabulary()["rows"]
    fits = min(widest, rows["widest_wrapped"]) * rows["roughly"]
    return cut is not None or len(before) + 1 + len(row.split()[0]) > fits

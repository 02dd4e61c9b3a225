"""When a rule is asked again: the boxes of Leitner (So lernt man lernen, 1972), counted in lessons.

A rule begins in the first box. Answered right it moves up one, missed it goes back to the first; what stands in box n
is asked again after 2 ** (n - 1) lessons: 1, 2, 4, 8, 16.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

SOURCE = "Leitner 1972, boxes of 1, 2, 4, 8 and 16 lessons"
BOXES = 5
# Of a group so many must be right before a rule moves up [1]: the others would not see it again in time.
ENOUGH = 0.8


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """A rule asked of a group in its n-th lesson: of so many answers so many were right."""

    lesson: int
    rule: str
    right: int
    answers: int

    @property
    def known(self) -> bool:
        """True if enough of the group had it right. Nobody answering is not knowing."""
        return self.answers > 0 and self.right >= ENOUGH * self.answers


@dataclass(frozen=True, slots=True, kw_only=True)
class Boxed:
    """Where a rule stands: in which box, when it was last asked, and from which lesson on it is due."""

    rule: str
    box: int
    last: int
    due: int


def boxed(rows: Iterable[Asked]) -> Mapping[str, Boxed]:
    """Every rule that was asked, with its box."""
    found: dict[str, Boxed] = {}
    for row in sorted(rows, key=lambda row: row.lesson):
        before = found[row.rule].box if row.rule in found else 0
        box = min(BOXES, before + 1) if row.known else 1
        found[row.rule] = Boxed(rule=row.rule, box=box, last=row.lesson, due=row.lesson + 2 ** (box - 1))
    return found


def due_rules(rows: Iterable[Asked], *, lesson: int, missed: Iterable[str] = ()) -> list[str]:
    """What a group is asked at the start of a lesson: first what was missed or breached in the last one, then what is
    due, the longest overdue first."""
    held = boxed(rows)
    due = sorted((row for row in held.values() if row.due <= lesson), key=lambda row: (row.due, row.box, row.rule))
    return list(dict.fromkeys([*missed, *(row.rule for row in due)]))

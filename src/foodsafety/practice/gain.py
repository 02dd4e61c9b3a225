"""What a group learnt: the difference between two matched sets of questions, with an honest interval.

Newcombe's hybrid score intervals (Statistics in Medicine 17, 1998): method 10 for two unlike groups (pages 873 to 890),
and the one with Fleiss' correction for pairs (pages 2635 to 2650).
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

# 95 %: the normal quantile of 0.975.
_Z = 1.959963984540054


@dataclass(frozen=True, slots=True, kw_only=True)
class Gain:
    """The share that was right before and after [1], the difference, and between what it lies (95 %). ``pairs``: of so
    many the same learner answered both times; 0 where nobody knows whose answers they are."""

    before: float
    after: float
    low: float
    high: float
    asked_before: int
    asked_after: int
    pairs: int

    @property
    def difference(self) -> float:
        """After less before [1]."""
        return self.after - self.before

    @property
    def shown(self) -> bool:
        """True if the interval leaves out nought: a difference is shown, one way or the other."""
        return self.low > 0 or self.high < 0


def wilson(right: int, count: int) -> tuple[float, float]:
    """Wilson's score interval (1927) of a share [1]; all of it where nobody was asked."""
    if count <= 0:
        return 0.0, 1.0
    share, z2 = right / count, _Z * _Z
    middle = (share + z2 / (2 * count)) / (1 + z2 / count)
    half = _Z * math.sqrt(share * (1 - share) / count + z2 / (4 * count * count)) / (1 + z2 / count)
    return max(0.0, middle - half), min(1.0, middle + half)


def gain_of_pairs(pairs: Iterable[tuple[bool, bool]]) -> Gain | None:
    """The gain of learners who answered both times, each (before, after); None where there are none."""
    rows = list(pairs)
    if not rows:
        return None
    both = sum(1 for b, a in rows if b and a)
    only_after = sum(1 for b, a in rows if a and not b)
    only_before = sum(1 for b, a in rows if b and not a)
    neither = len(rows) - both - only_after - only_before
    tied = _tied(both, only_after, only_before, neither)
    return _gain(both + only_before, len(rows), both + only_after, len(rows), tied, pairs=len(rows))


def gain_of_groups(right_before: int, before: int, right_after: int, after: int) -> Gain | None:
    """The gain where nobody knows whose answers they are (hands up): wider. None where one of the two is empty."""
    if not before or not after:
        return None
    return _gain(right_before, before, right_after, after, 0.0, pairs=0)


def _tied(both: int, only_after: int, only_before: int, neither: int) -> float:
    """How far the two answers of a learner go together [-1 to 1], corrected for few pairs."""
    count = both + only_after + only_before + neither
    spread = (both + only_after) * (only_before + neither) * (both + only_before) * (only_after + neither)
    if not spread:
        return 0.0
    cross = both * neither - only_after * only_before
    corrected = max(cross - count / 2, 0.0) if cross > 0 else float(cross)
    return corrected / math.sqrt(spread)


def _gain(right_b: int, count_b: int, right_a: int, count_a: int, tied: float, *, pairs: int) -> Gain:
    before, after = right_b / count_b, right_a / count_a
    low_b, high_b = wilson(right_b, count_b)
    low_a, high_a = wilson(right_a, count_a)
    down = _length(after - low_a, high_b - before, tied)
    up = _length(high_a - after, before - low_b, tied)
    return Gain(
        before=before,
        after=after,
        low=max(-1.0, after - before - down),
        high=min(1.0, after - before + up),
        asked_before=count_b,
        asked_after=count_a,
        pairs=pairs,
    )


def _length(one: float, other: float, tied: float) -> float:
    return math.sqrt(max(0.0, one * one - 2 * tied * one * other + other * other))

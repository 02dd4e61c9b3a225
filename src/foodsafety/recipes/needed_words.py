"""Letters that a pattern cannot match without. To look for them first is far quicker than the pattern, and most of the
sayings are not in most of the sentences."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from re import _constants as code  # type: ignore[attr-defined]
from re import _parser as parser  # type: ignore[attr-defined]
from typing import Any

_SHORT = 2  # fewer letters than that are in any text


def _runs(parsed: Iterable[tuple[Any, Any]]) -> Iterator[tuple[str, ...]]:
    """What each part of a sequence needs, one of several where it branches."""
    run = ""
    for op, given in parsed:
        if op is code.LITERAL:
            run += chr(given).lower()
            continue
        if run:
            yield (run,)
            run = ""
        yield from _needs(op, given)
    if run:
        yield (run,)


def _needs(op: Any, given: Any) -> Iterator[tuple[str, ...]]:
    if op is code.SUBPATTERN:
        yield from _runs(given[-1])
    elif op in (code.MAX_REPEAT, code.MIN_REPEAT) and given[0] > 0:
        yield from _runs(given[2])
    elif op is code.ASSERT:
        yield from _runs(given[1])
    elif op is code.BRANCH:
        each = [_best(_runs(branch)) for branch in given[1]]
        if all(each):
            yield tuple(sorted({word for words in each for word in words}))


def _best(found: Iterable[tuple[str, ...]]) -> tuple[str, ...]:
    """What is hardest to find by chance: the longest letters, of the fewest words."""
    long = [words for words in found if min(map(len, words)) >= _SHORT]
    return max(long, key=lambda words: min(map(len, words)) - len(words) / 4, default=())


def needed_words(pattern: str) -> Sequence[str]:
    """In any text that a pattern matches without capitals, one of these stands in small letters; none where nothing
    can be said."""
    return _best(_runs(parser.parse(pattern, re.IGNORECASE)))

"""Titles broken into the lines of a narrow column."""

from collections.abc import Sequence

# Words that a heading over a narrow column does without.
_SMALL_WORDS = frozenset("the a an of to in into on with and rest half its their your".split())


def wrapped(text: str, width: float) -> tuple[str, ...]:
    """A title in at most three lines of a column ``width`` [px] wide. Too long, it goes without
    its small words first; what is left out then ends in a dot."""
    most = max(6, int(width / 7.8))
    lines, whole = _laid(text.split(), most)
    if not whole:
        lines, _ = _laid([word for word in text.split() if word.lower() not in _SMALL_WORDS], most)
    return lines


def _laid(words: Sequence[str], most: int) -> tuple[tuple[str, ...], bool]:
    lines: list[str] = []
    for word in words:
        short = word if len(word) <= most else word[: most - 1] + "."
        if lines and len(lines[-1]) + 1 + len(short) <= most:
            lines[-1] += " " + short
        elif len(lines) < 3:
            lines.append(short)
        else:
            return tuple(lines), False
    return tuple(lines), True

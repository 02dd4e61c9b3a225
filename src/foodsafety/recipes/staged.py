"""What goes in while something cooks, counted back from the end of the cook: "with six minutes left, stir in the
peas"."""

from __future__ import annotations

import re

from foodsafety.recipes.times_and_heats import minutes_in

_N = (
    r"(?:(?:about|around|roughly|only) )?(?P<time>(?:half an hour|an hour|a quarter of an hour"
    r"|(?:\d+|[a-z]+)(?:[- ](?:\d+|to \d+))? ?(?:mins?|minutes?|hrs?|hours?)))"
)
_DONE = (
    r"(?:the end|it['’]?s (?:done|ready|up)|they['’]?re (?:done|ready)|(?:it is|they are) (?:done|ready)"
    r"|(?:the )?time['’]?s? (?:is )?up|the cooking is done|you (?:serve|eat|drain|take))"
)
_BACK = (
    rf"\bwith (?:the last )?{_N} (?:to go|left|remaining|still to go|to spare)\b",
    rf"\b(?:for|in|during|over) (?:the|its|their) (?:last|final) {_N}\b",
    rf"\b{_N} (?:before|from) {_DONE}\b",
    rf"\b{_N} (?:off|short of) (?:being )?(?:done|ready|the end)\b",
)
_STAGED = tuple(re.compile(words, re.IGNORECASE) for words in _BACK)


def minutes_before_the_end(words: str) -> float | None:
    """How long before the end of what is cooking the words are done [min]; None where they do not say so."""
    found = next((match for pattern in _STAGED if (match := pattern.search(words))), None)
    return minutes_in(found["time"])[1] if found else None

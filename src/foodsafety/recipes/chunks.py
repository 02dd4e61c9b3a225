"""A sentence that no rule reads, chunk by chunk: each by the work, the place, the time or the foods in it, and the food
that the sentence began with as what it is all done to. What comes of it is a guess and is said to be one."""

from __future__ import annotations

import re
from collections.abc import Iterator, Set

from foodsafety.foods import stem
from foodsafety.recipes.clauses import without_asides
from foodsafety.recipes.part_cooking import looks_cooked
from foodsafety.recipes.verb_forms import VerbForm, nouns_too, verb_forms
from foodsafety.recipes.vessels import tools_in

_PARTED = re.compile(r"\s*(?:[,;]|\s[-–—]\s|\bthen\b|\+(?=\s*[a-z]+ed\b)|\band (?=[a-z]+ed\b))\s*", re.IGNORECASE)
_PLACE = re.compile(r"\b(?:into|in|onto|on to|on|over|under|inside|between|around|through)\b", re.IGNORECASE)
_IN_SHAPE = re.compile(
    r"^(?:in(?:to)? )?(?:\d+ ?[cm]m |[a-z]+ ){0,2}(?:rounds|slices|strips|cubes|dice|wedges|rings|ribbons"
    r"|florets|matchsticks"
    r"|batons|sticks|chunks|pieces|coins|halves|quarters|shreds)\b",
    re.IGNORECASE,
)
_LASTS = re.compile(
    r"\b(?:\d+|an?|half an|one|two|few) ?(?:more )?(?:mins?|minutes?|hrs?|hours?)\b|\buntil\b", re.IGNORECASE
)
_WHEN_IT_GOES_IN = re.compile(
    r"\b(?:then|next|last(?: of all)?|now|finally|too|as well|back(?: in)?|(?:right "
    r"|just )?at the (?:very )?end|to finish"
    r"|(?:a|one|two) [a-z]+ at a time|bit by bit|little by little|gradually|in (?:two|three) goes)\b",
    re.IGNORECASE,
)
_ALL_IN = re.compile(
    r"(?:everything|it all|the lot|all of it|they all)(?: (?:goes|go))? (?:back )?(?:in|together)\b", re.IGNORECASE
)
_ONLY_SAYS = re.compile(
    r"\b(?:is|are|was|were|will|would|should|must|can|could|may|might|has|have|had|if|because|so)\b"
)
_KEEPS = re.compile(r"(?:keep|hold|store|save|reserve)\b", re.IGNORECASE)
_LONGEST_NAME = 6


def chunked(sentence: str, foods: Set[str]) -> list[str]:
    """Plain orders that the chunks of a sentence most likely are; none where it names no food and no work that goes on.
    ``foods`` are words that name food."""
    plain = without_asides(sentence).strip(" .!")
    if _ONLY_SAYS.search(plain.lower()) or _KEEPS.match(plain):
        return []
    found, topic = list[str](), ""
    parts = [part for part in (part.strip(" .!") for part in _PARTED.split(plain)) if part]
    names = [_name_before(part, foods) for part in parts]
    if len(parts) > 1 and names == parts:
        return [f"add {', '.join(names)}"]  # "raisins, cinnamon": into what is being made
    for chunk, name in zip(parts, names, strict=True):
        found += _orders_of(chunk, name, topic, foods)
        topic = name or topic
    if not found and topic and _WHEN_IT_GOES_IN.search(sentence):
        return [f"add {topic}"]
    return found


def works_told(sentence: str, foods: Set[str]) -> int:
    """How many kinds of work the chunks of a sentence tell by a verb of their own."""
    return sum(re.match(r"(?:add|put|cook) ", order) is None for order in chunked(sentence, foods))


def _orders_of(chunk: str, before: str, topic: str, foods: Set[str]) -> Iterator[str]:
    words = list(re.finditer(r"[a-z'’-]+", chunk, re.IGNORECASE))
    worked = next(((word, form) for k, word in enumerate(words) if (form := _work(chunk, words, k, foods))), None)
    what = before or topic or "it"
    if _ALL_IN.match(chunk):
        yield "add everything"
    elif worked is not None:
        word, form = worked
        yield f"{form.verb} {what}{chunk[word.end() :]}"
    elif _IN_SHAPE.search(chunk[len(before) :].strip()) and (before or topic):
        yield f"cut {what} {chunk[len(before) :].strip()}"
    elif _PLACE.search(chunk) and (tools_in(chunk) or before):
        yield f"put {chunk}" if before else f"put {what} {chunk}"
        if looks_cooked(chunk.partition(" until ")[2]):
            yield f"cook it until {chunk.partition(' until ')[2]}"
    elif _LASTS.search(chunk) and (before or topic):
        yield f"cook {what} {chunk[len(before) :].strip()}"
    elif before and topic:
        yield f"add {chunk}"


def _work(chunk: str, words: list[re.Match[str]], k: int, foods: Set[str]) -> VerbForm | None:
    """The work that a word of a chunk is: a participle behind what it is done to, or a plain verb at its head."""
    low = words[k][0].lower()
    if low in foods or stem(low) in foods:
        return None
    for form in verb_forms().get(low, ()):
        if form.do in ("none", "serve"):
            continue
        if form.kind == "ed" or (form.kind == "base" and k == 0 and low not in nouns_too()):
            return form
    return None


def _name_before(chunk: str, foods: Set[str]) -> str:
    """The food that a chunk begins with: "two leeks", "the rest of the cheese"."""
    words = re.findall(r"[\w'’/.-]+", chunk)[:_LONGEST_NAME]
    last = max((k for k, word in enumerate(words) if word.lower() in foods or stem(word.lower()) in foods), default=-1)
    head = words[: last + 1]
    other = any(
        form.kind == "ed" or (form.kind == "base" and word.lower() not in nouns_too())
        for word in head
        if word.lower() not in foods
        for form in verb_forms().get(word.lower(), ())
    )
    placed = any(_PLACE.fullmatch(word) for word in head)
    return "" if other or placed else " ".join(head)

"""Washing as a sentence tells it: of hands and kit together, of what was named just before, and what nobody washes."""

from __future__ import annotations

import itertools
import re
from dataclasses import replace
from functools import cache

from foodsafety.recipes.order import Order
from foodsafety.recipes.verb_forms import kit_words
from foodsafety.recipes.words import word_set

_LEFT_OUT = re.compile(
    r"^(?:(?!\b(?:wash|rins|clean|scrub)).)*?"
    r"(?:\b(?:skip|without|instead of|rather than|no (?:time|need)|never|not|if)\b|n['’]t\b)"
    r".*?\b(?:wash|rins|clean|scrub)"
    r"|(?:n['’]t|\b(?:never|hardly|rarely|seldom|barely|scarcely))(?: (?:get|need|want))?\W*$",
    re.IGNORECASE,
)
# Some time, by some people, or where somebody thinks it needs it: nobody can count on it here.
_MAYBE = re.compile(
    r"\b(?:later|tomorrow|tonight|after (?:school|(?:the )?(?:lesson|class|session)s?)"
    r"|by (?:the )?(?:staff|caretaker)\b.*"
    r"|at the end(?: of the (?:lesson|day|class|session))?)\W*$"
    r"|\b(?:if|where|when) (?:(?:it|they|that) (?:is|are|looks?|feels?|seems?|needs?)|it['’]s|they['’]re)\b"
    r"(?! (?:all )?(?:done|ready|finished|over|cooked|hot|cool|cold|out|in|on|off|boiling|simmering)\b)"
    r"|\b(?:if|where|when|as) (?:it needs?|they need"
    r"|needed|necessary|you (?:like|want|wish)|sandy|dirty|gritty|muddy|visibly)\b"
    r"|\bunless\b|\b(?:some|many|most|other) (?:people|cooks|folk)\b",
    re.IGNORECASE,
)


def is_left_out(order: Order) -> bool:
    """ "Skip the hand wash", "the chicken doesn't get washed": a wash that is spoken of and that nobody does, or
    maybe."""
    washes = order.do in ("rinse", "wash_hands", "clean")
    return washes and bool(_LEFT_OUT.search(order.text) or _MAYBE.search(order.words))


@cache
def _plain_kit() -> re.Pattern[str]:
    words = "|".join(sorted(kit_words() | {"table", "bench"}))
    # "Rinse the tin of beans": those.
    return re.compile(rf"\b(?:(?:{words})(?:e?s)?(?! of (?!the tin))|everything you used)\b")


@cache
def kit_named() -> re.Pattern[str]:
    """The words for kit that is washed, and for what is called so only where it is all that is washed: "the sides"."""
    return re.compile(
        rf"{_plain_kit().pattern}|\b(?:{'|'.join(sorted(word_set('kit', 'washed_too')))})(?:e?s)?\b(?! of )"
    )


# Where, when and for whom: "the tomatoes at the sink", "the rice for the whole table and tick the box".
_BEHIND_WHAT_IS_WASHED = re.compile(
    r"\b(?:from|out of|off|both(?! (?:hands|boards|knives|bowls))|each|in|at|by|over|under|for|while|whilst"
    r"|when|before|after|until|till|so"
    r"|and (?=place|put|tick|write|tell|call|leave|set|get|take|show|carry|go|wait|pile|tip|pop|lay|drain))\b|,"
)


def washes_kit(told: str) -> bool:
    """True if kit is what is washed in ``told``, the words from the verb on: not "the lettuce from the bag", and not
    "both sides"."""
    own = _BEHIND_WHAT_IS_WASHED.split(told)[0]
    if len(own.split()) < 2 or not re.match(r"wash|rins|scrub|clean|saniti", told):
        # "wash in hot water the board and the knife", "it is work for the hands, which are then scrubbed"
        own = re.split(r"\b(?:from|out of|off|both|each|and place)\b|,", told)[0]
    return kit_named().search(own) is not None


def hands_and_kit(order: Order) -> list[Order]:
    """ "Wash your hands, the board and the knife": the hands, and then the kit."""
    kit = "|".join(sorted(kit_words() - {"hands", "sink"}))
    after = rf"(?:,|\band\b|\+).*\b(?:{kit})\b"
    whole = re.split(r"\b(?:with|in|under|before|after|for)\b", order.text.lower())[0]
    first = re.search(rf"\b(?:{kit})s?\b.*\bhands?\b", whole)  # "wash the bowl and your hands"
    if order.do != "wash_hands" or not (re.search(after, re.sub(r"\bhands?\b", " ", whole)) or first):
        return [order]
    left = re.sub(r"(?:,? and |, )?\b(?:your |the |both )?hands?\b,?(?: and)?", "", order.text, flags=re.IGNORECASE)
    clean = replace(order, do="clean", text=re.sub(r"\s+", " ", left).strip())
    order = replace(order, text=f"wash your hands {order.text[len(whole) :]}".strip())  # with none of the kit
    return [clean, order] if first else [order, clean]


# "Get your hands in and squidge, then wash them".
_HANDS_IN = re.compile(r"\b(?:your|their|our|both) hands\b", re.IGNORECASE)
# "Take off the leaves and wash them": those.
_SEVERAL = re.compile(
    r"\b(?:the|some|all|those|these|any|of|two|three|four|\d+) (?:[a-z]+ ){0,2}?(?!hands\b)[a-z]+s\b", re.IGNORECASE
)


def wash_same(found: list[Order]) -> list[Order]:
    """ "Scrape down the worktop, wash it": what is washed is kit, or hands, named in the order before."""
    hands = False  # spoken of so far
    for before, order in itertools.pairwise(found):
        hands = (hands or _HANDS_IN.search(before.text) is not None) and not _SEVERAL.search(before.text)
        food = before.do in ("cut", "peel", "grate")  # "segment the oranges over a bowl (wash them first)"
        it = order.do == "rinse" and re.match(r"\S+ (?:it|them)\b", order.text)
        if order.do == "rinse" and hands and re.match(r"(?:wash|scrub) (?:them|both)\b", order.text):
            found[found.index(order)] = replace(order, do="wash_hands", text=f"wash hands, {order.text}")
            continue
        worked_on = re.split(r"\b(?:in|into|on|onto|over|under|with|from)\b", before.text.lower())[0]
        if it and not food and _plain_kit().search(worked_on):
            found[found.index(order)] = replace(order, do="clean", object_of=before.text)
    return found

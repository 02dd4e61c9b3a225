"""What of a sentence orders nothing: stretches that say when, why or until what."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from foodsafety.recipes.verb_forms import clause_words, kit_words, nouns_too, verb_forms


@dataclass(frozen=True, slots=True)
class _Word:
    text: str
    low: str
    start: int
    end: int


_TOKEN = re.compile(r"[^\W\d_]+(?:[-'’][^\W\d_]+)*|\d+(?:[.,/]\d+)*|[^\w\s]")


GOES_ON = frozenset(
    "in into on onto over for until with to aside at well out up off again together under gently through by back down "
    "hard fast apart between among evenly immediately slowly quickly lightly once twice straight from"
    " around round occasionally "
    "away just whole as smooth dry till covered uncovered thin flat leaves bottom top sides ends edges corners".split()
)


# A place, a tool or a time may stand before the order.
FRONTED = frozenset(
    "in into on onto to with using from for over off under at while whilst when once as after meanwhile by "
    "before half halfway midway near towards during".split()
)


_JOINS = frozenset(
    {",", ";", ":", "-", "–", "—", "(", ")", "!", "?", ".", "and", "then", "or", "but", "so", "also", "*"}
)


@lru_cache(maxsize=4_000)
def _words(sentence: str) -> tuple[_Word, ...]:
    found = _TOKEN.finditer(sentence)
    return tuple(_Word(m[0], m[0].lower().replace("’", "'"), m.start(), m.end()) for m in found)


class Asides:
    """The words of a sentence, and the stretches of them that say when, why or until what."""

    def __init__(self, sentence: str, foods: frozenset[str]) -> None:
        self.text = sentence
        self.foods = foods
        self.words = _words(sentence)

    @property
    def aside(self) -> Sequence[tuple[int, int]]:
        """Stretches that say when, why or until what, by words."""
        return _asides_of(self.text, self.foods)

    def low(self, i: int) -> str:
        return self.words[i].low if 0 <= i < len(self.words) else ""

    def before(self, i: int) -> int:
        """The word before, past adverbs; -1 at the beginning."""
        i -= 1
        while i >= 0 and (
            self.low(i) in clause_words("adverbs") or (self.low(i).endswith("ly") and len(self.low(i)) > 4)
        ):
            if self.low(i) in ("then", "so", "also", "and"):
                return i
            i -= 1
        return i

    def find_asides(self) -> list[tuple[int, int]]:
        """The same, looked for."""
        found: list[tuple[int, int]] = []
        i = 0
        while i < len(self.words):
            if self._opens_aside(i):
                end = self._end_of_aside(i)
                found.append((i, end))
                i = end
            i += 1
        return found

    def _opens_aside(self, i: int) -> bool:
        low, after = self.low(i), self.low(i + 1)
        subjects = clause_words("people") | {
            "it",
            "they",
            "he",
            "she",
            "the",
            "that",
            "this",
            "there",
            "these",
            "those",
            "its",
        }
        told = any(form.kind == "ed" for form in verb_forms().get(self.low(i + 3), ()))
        if low == "where" and after in ("it", "they") and self.low(i + 2) in ("is", "are") and told:
            return False  # "into the oven, where it is left for an hour"
        if low in clause_words("subordinate"):
            return not (
                low == "once"
                and (
                    after in ("", ",", ".", "only")
                    or self.low(i - 1) in ("reheat", "turn", "stir")
                    or (self.low(i - 1) == "only" and after not in clause_words("determiners"))
                )
            )
        if low in ("as", "before", "after", "so", "or", "like", "than", "where"):
            verbs = {"is", "are", "will", "needed", "necessary", "possible"}
            if low == "so" and after in clause_words("people"):
                return False
            return (after in subjects and (low != "or" or self.low(i + 2) not in ("", ","))) or after in verbs
        return False

    def _end_of_aside(self, i: int) -> int:
        """One past the last word of an aside: its comma, or the order that follows it without one."""
        own = self.low(i)
        verbs = 0
        for j in range(i + 1, len(self.words)):
            low = self.low(j)
            if low in (";", ")", ".", "!", "?") or (low in ("-", "–") and self.words[j].start > self.words[j - 1].end):
                return j
            if low == "," and not self._listing(j):
                return j
            if low == "then" or (low == "and" and (self._strict_order(j + 1) or self._doing(j + 1))):
                return j
            if own in ("once", "when", "after", "while") and self._main_passive(i, j):
                return j
            if (
                own in ("once", "when", "while")
                and j > i + 2
                and low in ("i", "you", "we")
                and self._strict_order(j + 1)
            ):
                return j  # "while it's still half frozen I slice it"
            if own != "until" or self.low(j - 1) not in ("is", "are"):
                kinds = {form.kind for form in verb_forms().get(low, ())}
                if kinds:
                    verbs += 1
                may = self.low(j - 1) in ("can", "could", "will", "would")
                # "no pink when you pull one apart"
                may = may or (self.low(j - 1) in ("you", "we", "they") and self.low(j - 2) in ("when", "if", "as"))
                if may:
                    continue  # "until you can push a knife through"
                if verbs > 1 and "base" in kinds and self._strict_order(j):
                    return j
                if own in ("once", "when", "until") and j > i + 1 and "base" in kinds and self._strict_order(j):
                    return j
        return len(self.words)

    def _main_passive(self, start: int, j: int) -> bool:
        """ "Once it has boiled the pot is covered": what is done then, without a comma before it."""
        joined = {"and", "or", "of", *GOES_ON} | clause_words("be") | clause_words("prepositions")
        if self.low(j) not in ("the", "all", "each", "both") or self.low(j - 1) in joined:
            return False
        if not any(self.low(k) in clause_words("be") or self.low(k) in ("has", "have") for k in range(start + 1, j)):
            return False
        at = next((k for k in range(j + 2, j + 5) if self.low(k) in ("is", "are")), None)
        return at is not None and any(form.kind == "ed" for form in verb_forms().get(self.low(at + 1), ()))

    def _doing(self, i: int) -> bool:
        """ "... and lifting each lot out"."""
        forms = verb_forms().get(self.low(i), ())
        return any(form.kind == "ing" for form in forms) and self.low(i + 1) in clause_words("determiners")

    def _listing(self, comma: int) -> bool:
        """True if a comma parts things of a list rather than clauses: "until soft, golden and hot"."""
        nxt = comma + 1
        while self.low(nxt) in clause_words("adverbs"):
            nxt += 1
        return self.low(nxt) in ("or",) and self.low(nxt + 1) in ("until", "for", "about")

    def _strict_order(self, i: int) -> bool:
        """True if an order stands here without any doubt: a verb and then a determiner or pronoun."""
        while self.low(i) in clause_words("adverbs"):
            i += 1
        if self.low(i) in ("need", "want", "like") or not self._has_form(i):
            return False  # "until you need it"
        j = i + 1
        while self.low(j) in ("in", "on", "up", "out", "off", "over", "back", "down", "through") or self.low(
            j
        ) in clause_words("adverbs"):
            if self.low(j) in ("all", "both"):
                break
            j += 1
        after = self.low(j)
        before = self.low(i - 1)
        noun = self.low(i) in self.foods or self.low(i) in nouns_too()
        if (
            self.low(i) in self.foods
            and self.low(i + 1) in ("in", "on", "over")
            and before not in ("", ",", "and", "then")
        ):
            return False  # "put flour on a plate"
        if (
            noun
            and before in ("little", "more", "some", "soft", "cold", "melted")
            and self.low(i - 2) not in (",", "and")
        ):
            return False  # "in a little butter on a small fire"
        if noun and after not in clause_words("determiners"):
            return False
        if before in ("the", "a", "an", "of", "to", "your", "is", "are", "it", "they"):
            return False
        return after in clause_words("determiners") or after.isdigit() or after in self.foods

    def _after_a_place(self, i: int) -> bool:
        """ "Off the heat stir in mustard", "on the day thread onto skewers": the place or the day that a sentence
        begins with, and its order behind it without a comma."""
        if self.low(0) not in FRONTED or not 2 <= i <= 6 or self.low(i) in self.foods:
            return False
        before = self.low(i - 1)
        joined = clause_words("determiners") | clause_words("prepositions") | clause_words("be") | _JOINS
        if any(self.low(k) == "," for k in range(i)) or before in joined or before in ("good", "hot", "cold", "big"):
            return False
        after, then = self.low(i + 1), self.low(i + 2)
        there = then in clause_words("determiners") or then in self.foods or then in kit_words() or then.isdigit()
        return after in self.foods or (after in GOES_ON and there)

    def ended_at(self, i: int) -> bool:
        """True where an aside has ended without a comma, at the subject of what is done then."""
        return any(end == i and self._main_passive(start, i) for start, end in self.aside)

    def is_aside(self, i: int) -> bool:
        return any(start <= i < end for start, end in self.aside)

    def _has_form(self, i: int) -> bool:
        """True if a word may order something: "wash and grate the apple"."""
        return any(form.kind == "base" for form in verb_forms().get(self.low(i), ()))

    def _forbidden(self, i: int, before: int) -> bool:
        """ "Don't rinse it", "no need to", "nobody licks anything"."""
        if before >= 0 and re.fullmatch(r"nobody|no-one|none", self.low(i - 1)):
            return True
        if self._of_what_is_forbidden(i):
            return True
        near = " ".join(self.low(j) for j in range(max(0, before - 2), i))
        return bool(
            re.search(r"\b(?:don't|do not|don ' t|never|not|no need to|can't|cannot|won't|without|avoid)$", near)
        )

    def _of_what_is_forbidden(self, i: int) -> bool:
        """ "Don't roll warm filling": the word is part of what nobody is to do."""
        j = i - 1
        while j > 0 and i - j < 5 and self.low(j) not in _JOINS:
            negated = self.low(j - 1) in ("don't", "never") or (self.low(j - 1) == "not" and self.low(j - 2) == "do")
            if negated and self._has_form(j):
                return self.low(j) not in ("forget", "worry", "be", "panic", "skip", "wait", "hesitate")
            j -= 1
        return False


@lru_cache(maxsize=4_000)
def _asides_of(sentence: str, foods: frozenset[str]) -> tuple[tuple[int, int], ...]:
    """A sentence is asked for its asides by everyone who looks for its orders."""
    return tuple(Asides(sentence, foods).find_asides())

"""A sentence as clauses: where each order begins and ends, and what stands before it.

An order stands at the head of a clause, after a place ("On a clean board, slice ..."), after who does
it ("Child B rinses ..."), or in the passive ("the onions are softened"). What a clause says of when,
why and until what orders nothing.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from functools import cache, lru_cache

from foodsafety.foods import stem
from foodsafety.recipes.asides import FRONTED, GOES_ON, Asides
from foodsafety.recipes.bare_clauses import (
    Clause,
    Form,
    bare_clause,
    names_any,
    notes_in_a_row,
    opening_order,
    topic_clause,
    trim_lead,
    trimmed,
    with_bare_ends,
)
from foodsafety.recipes.verb_forms import VerbForm, clause_words, kit_words, nouns_too, verb_forms
from foodsafety.recipes.words import vocabulary, word_set


@lru_cache(maxsize=4_000)
def _is_amount(word: str) -> bool:
    """ "2", "1/3", "½", "1½", "200g": what is measured out."""
    return re.match(r"[\d¼½¾⅓⅔⅛⅜⅝⅞]", word) is not None


# Who is said to be at it: "she's chopping all that small".
_IS_DOING = frozenset({"she's", "he's", "they're", "we're", "i'm"})
_TELLS = frozenset("has have is are was takes gives contains comes makes keeps costs holds needs".split())
# Words of an amount before a food.
_COUNTED = frozenset("of head bunch handful stick sticks rib ribs half few pair couple leaf leaves".split())
# "The rice was cooled yesterday": told, and nobody does it now.
_DONE_BEFORE = re.compile(
    r"\b(?:yesterday|already|beforehand|earlier|the (?:day|night) before|(?:has|have) been"
    r"|(?:last|previous) (?:night|time|week|month|year|term|lesson|class|session)"
    r"|before (?:the|this|our|every) (?:lesson|class|session))\b",
    re.IGNORECASE,
)
# After a participle that tells how something is done.
_HOW = frozenset("in with on for until over under at up thin thick fine small roughly".split())


@cache
def _describing() -> frozenset[str]:
    """Words before the name of a food: "green", "large"."""
    return word_set("names", "too_plain") - clause_words("prepositions") - {"and", "or", "the", "not"}


class _Reading(Asides):
    """One sentence while its orders are looked for."""

    def __init__(self, sentence: str, foods: frozenset[str]) -> None:
        super().__init__(sentence, foods)
        self.found: dict[int, tuple[VerbForm, Form]] = {}

    def look(self) -> None:
        for i, word in enumerate(self.words):
            forms = (
                verb_forms().get(word.low) or verb_forms().get(word.low.split("-")[0], ())
                if "-" in word.low
                else verb_forms().get(word.low, ())
            )
            if not forms or word.low in clause_words("adverbs") or (self.is_aside(i) and not self._said_beforehand(i)):
                continue
            for form in forms:
                how = self._how(i, form)
                if how:
                    self.found[i] = (form, how)
                    break

    def orders(self) -> bool:
        """True if anything is ordered."""
        self.look()
        return bool(self.found)

    def _said_beforehand(self, i: int) -> bool:
        """ "The parsley, which must first be rinsed": work that a relative clause orders."""
        start = next((a for a, b in self.aside if a <= i < b), i)
        rinse = any(form.kind == "ed" and form.do == "rinse" for form in verb_forms().get(self.low(i), ()))
        return rinse and self.low(start) in ("which", "that") and self.low(self.before(i)) in ("be", "been")

    def _how(self, i: int, form: VerbForm) -> Form | None:
        before = self.before(i)
        prev = self.low(before) if before >= 0 else ""
        if self._forbidden(i, before):
            return None
        if form.kind == "base":
            return "order" if self._is_base(i, form, before, prev) else None
        if form.kind == "s":
            person = (
                prev in clause_words("people")
                or prev == "one"
                or (before < 0 and self._does(i, form))
                or (prev.isdigit() and re.fullmatch(r"[a-z#]", self.low(before - 1)) is not None)
                or (len(prev) == 1 and self.low(before - 1) in clause_words("people"))
                or (prev.isdigit() and self.low(before - 1) in clause_words("people"))
                or self._is_initials(before)
                or re.fullmatch(r"[A-Z]", self.words[before].text)  # "B washes and chops dill"
                or (prev in (",", "and", "then") and self._somebody_does() and self._goes_on(i))
                or (before == 0 and self._is_name(before) and self._goes_on(i))
            )
            return "order" if person and self.low(i + 1) not in ("of",) else None
        if form.kind == "ed":
            if prev in ("we", "i", "she", "he") or self._is_initial(before):
                return "order" if self._goes_on(i) or self.low(i + 1) in self.foods else None  # "H washed the chard"
            return "passive" if self._is_passive(i, form, before, prev) or self._is_noted(i, form) else None
        if prev in _IS_DOING and self._goes_on(i):
            return "order"
        if prev in ("", ",", "and", "then", ";", "(") or self.low(i - 1) in (",",):
            if self.low(i) in self.foods:
                return None
            heads = self.low(i + 1) in clause_words("determiners") or self.low(i + 1) in self.foods
            # "turning every minute", "breaking it up": how something is cooked
            how = self.low(i + 1) == "every" or (
                form.verb == "break" and self.low(i + 2) == "up" and self.low(i + 3) == ","
            )
            return "doing" if heads and before >= 0 and not how else None
        return None

    def _puts_the_mixture(self, i: int, form: VerbForm) -> bool:
        """ "Pour mixture into the tin" is an order, "cream mixture" none."""
        if i or self.low(1) not in ("mixture", "sauce") or self.low(0) in self.foods:
            return False
        return form.do not in ("mix", "coat") or self.low(0) in ("stir", "beat", "whisk", "mix", "knead", "fold")

    def _is_base(self, i: int, form: VerbForm, before: int, prev: str) -> bool:
        after = self.low(i + 1)
        if self._only_looks_it(i, form, before, prev):
            return False
        nouns = ("of", "is", "are", "has", "was", "should", "will", "mixture", "sauce")
        if after in nouns and form.verb != "get" and not self._puts_the_mixture(i, form):
            return False
        if re.match(r"['’]s$", after) or (after == "'" and self.low(i + 2) == "s"):
            return False
        if prev in (",", "and", "or", "the", "+", "&") and f"{stem(self.low(i))} {stem(after)}" in self.foods:
            return False
        goes_on = self._goes_on(i)
        if before < 0 or prev in (";", ":", ".", "!", "?", "then", "(", ")", "*", "-", "–", "—"):
            dash = prev in ("-", "–") and self.words[before].end == self.words[i].start
            noun = form.verb in nouns_too() and (self.low(i) in self.foods or form.verb in kit_words())
            bare = self._ends_at(i + 1) and not noun
            return not dash and (goes_on or form.verb not in nouns_too() or bare)
        if prev in (",", "and", "or", "but", "so", "also", "+", "&"):
            if prev in ("and", "or", "+", "&") and self._noun_pair(i, before):
                return False
            # "Wash + chop at home": two orders of which the second is a cut of meat elsewhere.
            paired = before - 1 in self.found and self.found[before - 1][1] == "order" and goes_on
            if (
                self.low(i) in self.foods
                and not paired
                and self.low(i + 1) not in clause_words("determiners")
                and self.low(i + 1) not in kit_words()
                and not (form.verb == "roll" and after in ("into", "out", "up"))
            ):
                return False
            free = self.low(i) not in self.foods
            with_next = prev == "," and after == "and" and free and self._has_form(i + 2) and self._goes_on(i + 2)
            # "1 punnet cress, rinse, snip": one bare order after another.
            with_next = with_next or (prev == after == "," and free and (self._has_form(i + 2) or form.do == "rinse"))
            return goes_on or form.verb not in nouns_too() or (after in ("", ".", ";") and free) or with_next
        if prev in clause_words("people") or (len(prev) == 1 and self.low(before - 1) in clause_words("people")):
            return True
        if prev in clause_words("modals") or (prev == "to" and self.low(before - 1) in clause_words("modals")):
            return True
        if prev == "to" and self.low(self.before(before)) not in ("",):
            return False
        if prev in clause_words("determiners") or prev in clause_words("prepositions") or prev in clause_words("be"):
            return False
        if form.verb in ("thin", "dry", "clean") and any(f.kind == "ed" for f in verb_forms().get(prev, ())):
            return False  # "sliced thin on the board"
        if form.verb == "set" and prev in kit_words() and after in ("over", "on", "in", "above"):
            return False  # "a bowl set over a pan"
        # No comma, no "then": only where nothing else it could be.
        fronted = self.low(0) in FRONTED and prev in kit_words()  # "in another bowl softly whip the cream"
        plain = not self.low(i - 1).endswith(("ly",)) or fronted
        return (self._strict_order(i) or self._after_a_place(i)) and plain and form.verb not in ("like", "need")

    def _only_looks_it(self, i: int, form: VerbForm, before: int, prev: str) -> bool:
        """ "An onion cut in half", "completely set": a word that says how something is, and looks like an order."""
        after = self.low(i + 1)
        if before < 0 and after in self.foods and self.low(i + 2) in _TELLS:
            return True  # "brown rice has more fibre"
        if _is_amount(prev) and form.verb in ("ladle", "scoop", "spoon", "slice", "splash", "squeeze", "drizzle"):
            return True  # "1 ladle stew"
        if form.verb in ("oil", "butter", "flour", "salt", "pepper") and after == "in":
            return True  # "oil in a pan, hot"
        if form.verb in ("warm", "cool", "dry") and self.low(i - 1) in ("keep", "kept", "keeping", "hold"):
            return True  # "keep warm in the oven" heats nothing
        if form.verb in ("clean", "dry") and after in ("!", ")"):
            return True  # "with your (clean!!) hands"
        if self.low(i - 1) in ("stays", "stay", "keeps", "gets", "remains", "feels", "still") and form.verb != "stir":
            return True  # "it stays warm in the middle"
        if form.verb == "skin" and after in ("down", "up", "on", "off", "side"):
            return True  # "cold pan, skin down"
        if prev in ("have", "has", "'ve") and any(other.kind == "ed" for other in verb_forms().get(self.low(i), ())):
            return True  # "the chicken you have cut"
        told = form.verb in ("cut", "set", "split") and prev in self.foods and before == i - 1
        return (told and after in ("in", "into")) or (form.verb == "set" and self.low(i - 1).endswith("ly"))

    def _ends_at(self, i: int) -> bool:
        """True where an order ends, or goes on to the next: "wash well, slice"."""
        i += self.low(i) in ("well", "thoroughly")
        return self.low(i) in ("", ".", ",", "and", "+", "&")

    def _does(self, i: int, form: VerbForm) -> bool:
        """ "Grates the onion", "lays burgers in the pan": what somebody does, who was named before."""
        follows = self.low(i + 1)
        told = form.verb in ("serve", "make", "feed", "keep", "take", "freeze", "need", "use")  # "serves six"
        if told or self.low(i) in self.foods or follows in ("of", "with", "and", "are", "to", ","):
            return False
        plain = form.verb not in nouns_too()
        verb = plain or self.low(i).endswith(("shes", "xes", "ches"))  # "washes dill"
        sure = follows in clause_words("determiners") or _is_amount(follows) or (verb and follows in self.foods)
        return sure or (plain and follows in ("on", "over", "in", "for"))

    def _somebody_does(self) -> bool:
        """True if a word before was read as what somebody does: "RO chops them and fries them"."""
        return any(form.kind == "s" for form, _ in self.found.values())

    def _is_initials(self, i: int) -> bool:
        """ "SD rinses the lentils"."""
        return i >= 0 and re.fullmatch(r"[A-Z]{2,3}", self.words[i].text) is not None and self.low(i) not in self.foods

    def _is_initial(self, i: int) -> bool:
        """ "H washed the chard", "SD rinsed the rice"; never "A chopped onion"."""
        said = self.words[i].text if i >= 0 else ""
        return re.fullmatch(r"[B-Z][A-Z]{0,2}", said) is not None and self.low(i) not in self.foods

    def _is_name(self, i: int) -> bool:
        """ "Anna chops the onions": a capital, and no word of the kitchen."""
        known = self.low(i) in self.foods or self.low(i) in kit_words() or self.low(i) in clause_words("determiners")
        return re.fullmatch(r"[A-Z][a-z]+", self.words[i].text) is not None and not known and not self._has_form(i)

    def _noun_pair(self, i: int, before: int) -> bool:
        """ "Wash the board and knife", "wash hands and griddle tongs": the second is no order."""
        washed = self.low(before - 1) == "hands" and self.low(i + 1) in kit_words()
        return washed or (self.low(i) in kit_words() and not self._goes_on(i))

    def _goes_on(self, i: int) -> bool:
        thing = self.low(i) in self.foods or self.low(i) in clause_words("things")
        if (
            thing
            and self.low(i + 1) in ("in", "on", "over", "back")
            and (self.low(i + 2) in ("", ",", ".", "for", "with", "top") or self._has_form(i + 2))
        ):
            return False
        while self.low(i + 1) in ("very", "quite", "nice", "also", "then", "just", "now", "well", "really"):
            i += 1
        after = self.low(i + 1)
        if after in self.foods and self.low(i + 2) not in ("and", ",") and self.low(i) in self.foods:
            return False
        if after in kit_words() | clause_words("heated") and self.low(i) not in self.foods:
            return True
        return (
            after in clause_words("determiners")
            or after in GOES_ON
            or _is_amount(after)
            or (after in _made_words() and self.low(i) not in self.foods)  # "mince mix" is no order
            or after in self.foods
            or f"{stem(after)} {stem(self.low(i + 2))}" in self.foods  # "curry powder"
            or (after in _describing() and self.low(i + 2) in self.foods)  # "green onions"
            or (self.low(i + 2) in self.foods and any(form.kind == "ed" for form in verb_forms().get(after, ())))
            or (self.low(i + 2) == "of" and self.low(i + 3) in self.foods)  # "toast slices of bread"
            or after.endswith("ly")
        )

    def _is_noted(self, i: int, form: VerbForm) -> bool:
        """ "Potatoes peeled and chopped, onions sliced": notes of what is done to foods that stand before it alone."""
        if form.do not in ("rinse", "cut", "peel", "grate") or self.low(i - 1) not in self.foods:
            return False
        head = i - 1
        while head >= 0 and self.low(head) not in (",", ";", ".", ":", "(", "-", "–"):
            head -= 1
        words = [self.low(k) for k in range(head + 1, i)]
        plain = self.foods | clause_words("determiners") | _describing() | {"and", "&", "+", *_COUNTED}
        ends = self.low(i + 1) in ("", ",", ".", ";", "and", "&", "+") or self.low(i + 1) in _HOW
        listed = [part for part in re.split(r"[,;]", self.text) if names_any(part, self.foods)]
        plainly = [
            part
            for part in listed
            if not any(f.kind == "ed" for w in part.lower().split() for f in verb_forms().get(w, ()))
        ]
        if len(plainly) > 2:
            return False  # "two carrots, two sticks of celery, an onion cut in half, a bay leaf": a list of foods
        return ends and len(words) <= 5 and all(word in plain or word.isdigit() for word in words)

    def _is_passive(self, i: int, form: VerbForm, before: int, prev: str) -> bool:
        if prev in clause_words("be"):
            long_ago = prev in ("was", "were", "been") and _DONE_BEFORE.search(self.text)
            perhaps = self.low(before - 1) in ("could", "might", "may")  # "the lettuce could be washed"
            return self.low(i + 1) not in ("that",) and not long_ago and not perhaps
        if prev in (",", "and", "then"):
            last = max(self.found, default=-1)
            if last >= 0 or prev != ",":
                return last >= 0 and self.found[last][1] == "passive" and i - last < 14
        # "An onion fried gently in butter": said of the food, where no other word orders anything.
        subject = self.low(0) in ("a", "an", "the", "then", "some") or self.low(0).isdigit() or before == 0
        how = self.low(i + 1) in _HOW or self.low(i + 1).endswith("ly") or self.low(i + 1) == "up"
        if before == i - 1 and prev in self.foods and not self.found and subject and how and i <= 5:
            return True
        # "Two leeks, washed well, sliced and sweated in butter": the food first, then all that is done with it.
        head = {self.low(k) for k in range(before)} if prev == "," else set()
        counted = self.low(0) in clause_words("determiners") or self.low(0).isdigit()
        prepares = form.do in ("rinse", "cut", "peel", "grate")  # "2 tins beans, drained, in" orders no draining
        return (
            prev == ","
            and prepares
            and (0 < before <= 5 or (before < 12 and head <= self.foods | clause_words("determiners") | {",", "and"}))
            and not self.found
            and counted
            and not head.isdisjoint(self.foods)
        )


@cache
def _made_words() -> frozenset[str]:
    """What is made and then worked on: "chill dough", "set sauce aside"."""
    return frozenset(f"mixture mix {vocabulary()['made']['stirred_up']}".split())


def _find_segments(sentence: str) -> list[tuple[int, int]]:
    """Stretches of a sentence that are read by themselves: between dashes, semicolons and brackets."""
    cuts = [0]
    for found in re.finditer(
        r";|\s[-–—]+\s|[()]|(?<=[a-z]):\s|(?<=[a-z!?])\.\s|(?<=\d)\.\s(?=[A-Z])|(?<=\d\d)\.\s(?=[a-z]{3})", sentence
    ):
        cuts += [found.start(), found.end()]
    cuts.append(len(sentence))
    return [(a, b) for a, b in zip(cuts[::2], cuts[1::2], strict=True) if sentence[a:b].strip(" ,.")]


def clauses(sentence: str, foods: frozenset[str] = frozenset()) -> list[Clause]:
    """The orders of one plain sentence (see ``plain_saying``), in its order; ``foods`` are words that
    name food, as the text writes them."""
    return [clause for piece in _pieces(sentence, foods) for clause in _in_segment(piece, foods)]


_GOES_ON_BEHIND = re.compile(
    r"\s*(?:for|until|till?|about|over|on|at|and(?= [a-z]+ (?:[a-z]+)?[.]?$))\b(?! (?:the|your|this) [a-z]+,)[^,;:]*",
    re.IGNORECASE,
)


def _pieces(sentence: str, foods: frozenset[str]) -> list[str]:
    """The stretches of a sentence. A list that goes on behind a bracket is one: "add the celery (I dice it on Sunday),
    a spoon of dill, and salt"; so is what only says how long: "bake in a hot oven (gas 6) for an hour"."""
    pieces: list[str] = []
    opened: int | None = None
    for start, end in _find_segments(sentence):
        piece = sentence[start:end]
        goes_on = opened is not None and sentence[start - 1 : start] == ")" and piece.startswith(",")
        behind = opened is not None and sentence[start - 1 : start] == ")" and _GOES_ON_BEHIND.match(piece) is not None
        if (
            opened is not None
            and ((goes_on and names_any(piece, foods)) or behind)
            and not _Reading(piece.strip(" ,"), foods).orders()
        ):
            pieces[opened] += piece.rstrip(" .")
            continue
        if sentence[start - 1 : start] == "(" and pieces:
            opened = len(pieces) - 1
        pieces.append(piece)
    return [piece.strip(" ,") for piece in pieces]


def _in_segment(piece: str, foods: frozenset[str]) -> list[Clause]:
    reading = _Reading(piece, foods)
    reading.look()
    marks = sorted(reading.found)
    if not marks:
        several = notes_in_a_row(piece, foods)
        if several:
            return several
        bare = (None if _FORBIDS.match(piece) or _OF_KIT.match(piece) else bare_clause(piece)) or topic_clause(
            piece, foods
        )
        return with_bare_ends(bare, foods) if bare else []
    starts = [_beginning(reading, marks, k) for k in range(len(marks))]
    found: list[Clause] = []
    for k, i in enumerate(marks):
        form, how = reading.found[i]
        end = reading.words[starts[k + 1]].start if k + 1 < len(marks) else len(piece)
        lead = piece[reading.words[starts[k]].start : reading.words[i].start]
        own = piece[reading.words[i].start : end]
        found.append(Clause(verb=form.verb, do=form.do, text=trimmed(own), lead=trim_lead(lead), form=how))
    opening = piece[: reading.words[starts[0]].start]
    before = opening_order(opening, foods)
    if before:
        return [*before, *(part for clause in found for part in with_bare_ends(clause, foods))]
    only_when = bool(found) and found[0].form == "passive" and not without_asides(opening)
    if opening.strip(" ,") and found and not only_when:
        found[0] = replace(found[0], lead=trim_lead(f"{opening} {found[0].lead}"))
    return [part for clause in found for part in with_bare_ends(clause, foods)]


# "The knife carries what is on it": what kit does orders nothing.
_OF_KIT = re.compile(
    r"\W*(?:the|your|a|an) (?:[a-z]+ )?(?:knife|board|fridge|freezer|oven|pan|bag|bowl|lid|cloth|towel|thermometer)"
    r" (?:carr(?:y|ies)|holds?|keeps?|does|makes?|gives?|needs?|lets?|has|saves?)\b",
    re.IGNORECASE,
)
_FORBIDS = re.compile(r"\W*(?:please )?(?:don['’]t|do not|never)\b", re.IGNORECASE)


def _beginning(reading: _Reading, marks: Sequence[int], k: int) -> int:
    """The word where an order's clause begins: after the join before it, with what is fronted."""
    i = marks[k]
    # What is only told of the subject stands inside: "the parsley, which must first be rinsed, is chopped".
    inner = k and reading.found[i][1] == "passive" and reading.is_aside(marks[k - 1]) and not reading.is_aside(i)
    before = k - 2 if inner else k - 1
    floor = marks[before] + 1 if before >= 0 else 0
    j = i
    while j > floor and reading.low(j - 1) not in (",", "and", "then", "but", "so", ";", ":", "("):
        if reading.ended_at(j):
            break
        j -= 1
    if reading.found[i][1] == "passive":
        # Its subject stands before what is only told of it: "the beans, which have been soaked, are drained".
        while (
            j > floor
            and not reading.ended_at(j)
            and (reading.is_aside(j) or (reading.low(j - 1) == "," and reading.is_aside(j - 2)))
        ):
            j -= 1
            while j > floor and reading.low(j - 1) not in (",", "and", "then", "but", "so", ";", ":", "("):
                j -= 1
        # All that the passive is said of: "the anchovies and the garlic are stirred in".
        while j > floor + 1 and reading.low(j - 1) == "and" and reading.low(j - 2) not in ("", ",", ";"):
            a = j - 1
            while a > floor and reading.low(a - 1) not in (",", "and", ";", "then"):
                a -= 1
            if any(
                reading.low(b) in clause_words("be") or reading.low(b) in clause_words("prepositions")
                for b in range(a, j - 1)
            ):
                break
            j = a
    if j <= floor and k:
        # No join between the two: the later begins at itself, or at its subject.
        return i if reading.found[i][1] == "order" else j
    # "..., in another bowl, whisk": the place belongs to what follows it.
    while j - 1 > floor and reading.low(j - 1) == ",":
        a = j - 1
        while a > floor and reading.low(a - 1) not in (",", "and", "then", ";"):
            a -= 1
        if reading.low(a) not in FRONTED or a <= floor:
            break
        j = a
    return j


def without_asides(text: str) -> str:
    """A text without what says when, why or until what."""
    reading = _Reading(text, frozenset())
    keep, at = [], 0
    for start, end in reading.aside:
        keep.append(text[at : reading.words[start].start])
        at = reading.words[end].start if end < len(reading.words) else len(text)
    return re.sub(r"\s+", " ", "".join([*keep, text[at:]])).strip(" ,")

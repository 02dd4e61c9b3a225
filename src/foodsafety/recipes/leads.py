"""What stands before an order without a comma: who does it ("that person then washes the board"), when, where and
what for ("while you wait chop the onion", "after that rinse the rice"), and what only leads up to it ("the trick is
to stir it now and then")."""

from __future__ import annotations

import re

from foodsafety.recipes.asides import FRONTED, Asides
from foodsafety.recipes.verb_forms import clause_words, form_of, kit_words, nouns_too, verb_forms

_FARTHEST = 14  # words before an order that still lead up to it
# Behind one of these a clause follows, which has a verb of its own before the order has.
_OPENS_CLAUSE = frozenset("when whenever while whilst once if as until till because since".split())
_OPENS_PLACE = frozenset(FRONTED - _OPENS_CLAUSE) | {"about", "around", "just", "without", "shortly", "immediately"}
_JOINS = frozenset(", ; : ( ) . ! ? - – — and or but then so nor".split())
_NO_END = frozenset("who which that to not never don't n't nobody and or".split())
_SAYS_SO = frozenset("is are was were has have had 's 're can could will would must may should do does did".split())
_SETS_UP = frozenset("like need have take set let want".split())  # too weak to part a sentence
# "The person on chicken": what somebody has been given, and no other food.
_GIVEN = frozenset("chicken meat fish egg eggs onions".split())
# A cook may be an order, and people, groups of them and pronouns are told of elsewhere.
_NO_DOER = frozenset("you we i they cook cooks everyone everybody nobody anybody someone somebody".split())
_PERSON = "|".join(sorted((clause_words("people") | clause_words("others")) - _NO_DOER))
_WHOSE = "the that this a an another one each every any your some both two three".replace(" ", "|")
_NUMBER = r"(?:[\da-h]\b|one|two|three|four|five|six)"
_DOER = re.compile(
    r"(?!(?:(?:some|many|most|other|few|a few) )?(?:people|cooks|chefs|adults|children|kids)\b)"  # only told of
    r"(?:(?:then|next|now|meanwhile|so|and),? )?(?:whoever|he|she|(?:some|any)(?:body|one)(?: else)?|another"
    rf"|(?:the|an?|another|your) (?:[a-z]+ )?cooks?|cook {_NUMBER}"
    rf"|(?:(?:{_WHOSE})(?: of)? )?(?:[\w'’-]+ ){{0,3}}?(?:{_PERSON})(?: {_NUMBER})?)(?= )",
    re.IGNORECASE,
)
_MANY = re.compile(
    r"\b(?:people|two|three|others|half|[a-z]+(?:ers|rs|nts|ls|ds|ps|ms|ren|nds|ults))\W*$", re.IGNORECASE
)
# "Team B to chop the onions", "JT to chop": who has what to do.
_SENT = re.compile(
    rf"^\W*(?:(?i:(?:team|bench|group|pair|table|station|cook|student|pupil|person|child|learner|chef)s? {_NUMBER})"
    r"|[A-Z]{2,3}(?:(?: and |, | & | \+ )[A-Z]{2,3})*) (?:(?:is|are|has|have) )?to (?=[a-z])"
)
# "The first thing to do is", "the trick here is to", "now is the time to", "ask the tallest to".
_WHAT_COMES = (
    r"(?:(?:the|your|our|my|their|his|her) )?(?:very |next |first |last |second |third |other |only |main |whole )*"
    r"(?:jobs?|task|thing|step|trick|secret|move|plan|rule|knack|work)"
    rf"(?: (?:here|now|then|next|of all|after that|\d+|{_NUMBER}))*"
    r"(?: (?:(?:that )?(?:you|we|i)(?: need to| have to| must)? do|to do|left(?: to do)?))?"
    r"(?: (?:here|now|next|then))* is(?: simply| just| now)?(?: to)?"
)
_ALL_THERE_IS = (
    r"all (?:that )?(?:you|we|i)(?:['’]ve| have|['’]ll| will| need) ?(?:got |have |left )?(?:left )?to do"
    r" (?:now |then |next |here )?is(?: to)?"
)
_ONLY_LEADS = re.compile(
    r"^\W*(?:(?:and|so|now|then|next|well|right|ok),? )*(?:as soon as (?:you can|possible),?|once more,?"
    rf"|{_WHAT_COMES}|{_ALL_THERE_IS}"
    r"|(?:now|this|here|that) is (?:the |your )?(?:time|moment|point|chance|when) (?:to|you|we)"
    r"|(?:ask|tell|send|want|need|trust|allow) (?:the|your|one|a|some|another|my|two) (?:[\w'’-]+ ){1,4}?to) (?=[a-z])",
    re.IGNORECASE,
)


class _Lead(Asides):
    """A sentence whose order is looked for behind what leads up to it."""

    def order_at(self) -> int | None:
        """The word that orders, behind a time, a place or a reason that no comma parts from it."""
        first = self.low(0)
        opened = first in _OPENS_CLAUSE or first in _OPENS_PLACE or first.isdigit() or first == "to"
        if not opened or (first in verb_forms() and self._orders_here(0)):
            return None
        told = first not in _OPENS_CLAUSE
        told = told and not (first in ("after", "before") and self.low(1) in clause_words("people"))
        for i in range(1, min(_FARTHEST, len(self.words))):
            if self.low(i) in _JOINS:
                return None
            if i > 1 and told and self._ends_before(i) and self._orders_here(i):
                return i
            told = told or self._says_something(i)
        return None

    def orders_at_once(self) -> bool:
        """True if the first word orders, beyond any doubt."""
        return self._orders_here(0)

    def _says_something(self, i: int) -> bool:
        """True of the verb of a clause: "while you wait", "once the timer goes", "when it is ready"."""
        low, prev = self.low(i), self.low(i - 1)
        kinds = {form.kind for form in verb_forms().get(low, ())}
        subject = prev in clause_words("people") or prev in ("it", "he", "she", "that", "this")
        plainly = low in _SAYS_SO or low.endswith(("'s", "'re", "'ve", "ing")) or "ing" in kinds
        return plainly or (subject and low not in clause_words("adverbs")) or (low.endswith("s") and i > 2)

    def _ends_before(self, i: int) -> bool:
        """True where what leads up may have ended before this word."""
        prev = self.low(i - 1)
        small = clause_words("determiners") | clause_words("prepositions") | clause_words("people") | _SAYS_SO
        small |= clause_words("modals") | clause_words("be")
        if prev in ("on", "up", "in", "out", "off", "down", "over") and self._says_something(i - 2):
            return True  # "while that is going on", "while the others tidy up"
        pronoun = prev in ("that", "this", "it", "them", "these", "those", "one", "two")
        return (pronoun and prev != "it") or (prev not in small and prev not in _NO_END and not prev.endswith("n't"))

    def _orders_here(self, i: int) -> bool:
        """True of a verb with what it is done to behind it."""
        if not (self._strict_order(i) or self._of_kit(i) or self._of_pair(i)):
            return False
        return self.low(i) not in self.foods and self.low(i) not in _SETS_UP

    def _of_pair(self, i: int) -> bool:
        """True of the first of two verbs with one object: "wash and dry the lettuce"."""
        two = self._has_form(i) and self.low(i + 1) == "and"
        return two and (self._has_form(i + 2) or self.low(i + 2) == "dry") and self._has_object(i + 2)

    def _of_kit(self, i: int) -> bool:
        plain = self._has_form(i) and self.low(i) not in nouns_too()
        return plain and (self.low(i + 1) in kit_words() or self.low(i + 1) == "hands")

    def done_at(self, start: int, *, many: bool) -> int | None:
        """The word that says what somebody named before ``start`` does."""
        for i in range(start, min(start + _FARTHEST, len(self.words))):
            if self.low(i) in _JOINS - {"then", "also", "so"}:
                return None
            forms = verb_forms().get(self.low(i), ())
            works = {form.kind for form in forms if form.do not in ("none", "serve", "topic")}
            noun = self.low(i - 1) in _NO_END | {"a", "an", "the", "your"}  # "two forks on a clean board"
            if works & ({"base", "s"} if many else {"s"}) and not noun and self._has_object(i):
                return i
        return None

    def _has_object(self, i: int) -> bool:
        after = self.low(i + 1)
        if after in ("in", "on", "up", "out", "off", "over", "down", "back"):
            after = self.low(i + 2)
        return after in clause_words("determiners") or after in self.foods or after in kit_words() or after.isdigit()


def _done_by(sentence: str, start: int, found: re.Match[str], foods: frozenset[str]) -> str | None:
    """What somebody does, named in ``found`` from ``start`` on, as the cook's; None where nobody does anything."""
    if re.search(r"\b(?:class|school|(?:her|his|their) own)\b", sentence[found.start() : found.end() + 60]):
        return None  # another class, somebody's own dish
    many = _MANY.search(found[0]) is not None
    lead = _Lead(sentence[start:], foods)
    after = found.end() - start
    first = next((k for k, word in enumerate(lead.words) if word.start >= after), len(lead.words))
    at = lead.done_at(first, many=many)
    if at is None or {lead.low(k) for k in range(at)} & foods - _GIVEN:
        return None
    base = form_of(lead.low(at), "s") is None
    return f"{'You' if base else 'The cook'} {lead.text[lead.words[at].start :]}"


_NEXT_DOER = re.compile(
    rf"(?:,? (?:and )?(?:while|whilst) |, (?:and |but )?|; (?:and )?| and )(?={_DOER.pattern})", re.I
)
# "..., and while that is going on chop the onion", "..., after which rinse the rice".
_AFTER_THAT = re.compile(
    r",? and,? (?=(?:while|whilst|when|once|after) (?:that|this|it|they|those|you)\b)"
    r"|,? after (?:which|that),? (?:you |we )?",
    re.IGNORECASE,
)


def _each_on_its_own(sentence: str, foods: frozenset[str]) -> str:
    """A sentence with what each person does in it, and what is done after that, parted by stops."""
    opening = re.match(r"\W*(?:while|whilst) ", sentence, re.IGNORECASE)
    first = _DOER.match(sentence, opening.end() if opening else 0)
    said = (_done_by(sentence, opening.end() if opening else 0, first, foods) if first else None) or sentence
    at = 0
    while found := _NEXT_DOER.search(said, at):
        doer = _DOER.match(said, found.end())
        own = _done_by(said, found.end(), doer, foods) if doer and said[: found.start()].strip() else None
        if own:
            said = f"{said[: found.start()]}. {own}"
        at = found.start() + 2 if own else found.end()
    return said


def order_first(sentence: str, foods: frozenset[str]) -> str:
    """A sentence without what only leads up to its order, with "the cook" for whoever else does it, and with a comma
    behind what says when, where or why; any other as it is. ``foods`` are words that name food."""
    said = _ONLY_LEADS.sub("", sentence, count=1)
    sent = None if said.isupper() else _SENT.match(said)
    if sent:
        said = said[sent.end() :]
    if said != sentence:
        first = re.match(r"[a-z]+", said, re.IGNORECASE)
        leads_to = first is not None and form_of(first[0], "base") is not None
        named = re.search(r"\bis\W*$", sentence[: len(sentence) - len(said)])  # "the secret is salt"
        return said if leads_to and (not named or _Lead(said, foods).orders_at_once()) else sentence
    said = _AFTER_THAT.sub(". ", _each_on_its_own(sentence, foods))
    return ". ".join(_with_comma(part, foods) for part in said.split(". "))


def _with_comma(said: str, foods: frozenset[str]) -> str:
    lead = _Lead(said, foods)
    at = lead.order_at()
    if at is None:
        return said
    start = lead.words[at].start
    return f"{said[:start].rstrip()}, {said[start:]}"

"""Orders about something else than the food in hand: kit, water, a food that nobody listed. "Warm the plates" cooks no
chicken, and "bake the potatoes" none either where no line has potatoes."""

from __future__ import annotations

import re
from collections.abc import Sequence

from foodsafety.foods import match_food, stem
from foodsafety.recipes.mentions import mentions
from foodsafety.recipes.order import Order
from foodsafety.recipes.referents import Referents
from foodsafety.recipes.verb_forms import clause_words, form_of
from foodsafety.recipes.vessels import GOES_IN_OVEN, ON_THE_HEAT, VESSELS, tools_in
from foodsafety.recipes.washes_told import kit_named
from foodsafety.recipes.words import dish_words, made_nouns, word_set

# Work whose object has to be the food in hand where none is named.
_OF_ITS_OBJECT = frozenset({"rinse", "heat", "part_cook", "chill", "freeze", "probe"})
# What stands before the object, and what it may be counted by: "warm through the gravy", "boil 4 potatoes".
_BEFORE_IT = re.compile(
    r"(?:(?:up|through|off|down|out|together|[a-z]+ly)\b ?)*"
    r"(?:(?P<points>the|your|our|my|some|any|all|each|an?|another)\b ?"
    r"|(?:those|these|this|that|both|couple of|few|pair of)\b ?)*",
    re.IGNORECASE,
)
_COUNTED = re.compile(r"((?:\d{1,2}|two|three|four|five|six) )([a-z]+)", re.IGNORECASE)
_SO_MUCH_OF = re.compile(r"^(?:[a-z]+ )?(?:batch|tray|load|lot|pile)e?s? of (?!the\b|it\b|them\b)", re.IGNORECASE)
_FIRST_WORD = re.compile(r"\W*([a-z-]+)\b\s*", re.IGNORECASE)
_NO_VERB = re.compile(
    r"(?:in|into|on|onto|at|under|over|to|with|for|from|back|straight|and|then|about|another)\b", re.IGNORECASE
)
_NOT_THE_OBJECT = re.compile(
    r"\b(?:in|into|on|onto|at|for|with|over|under|until|till|to|from|then|and|or|while|as|before|after|so|by|through|without"
    r"|about|around|again|more|once|twice|needs?|wants?|has|have|takes?|goes|go|is|are|get|gets)\b.*$|[,;:.(].*$|\d.*$|'s\b",
    re.IGNORECASE,
)
_TIMES = frozenset(
    "second seconds minute minutes min mins hour hours hr hrs time times day days night while degree".split()
)
_WATER = re.compile(r"\b(?:water|kettle)\b", re.IGNORECASE)


class AnotherThing(Referents):
    """Tells an order about something else from one about the food in hand."""

    def _is_of_another(self, order: Order, tools: Sequence[str], foods: Sequence[str]) -> bool:
        """True for work on something else than ``foods``, or, without any, than what is in hand. A fat that no line of
        the list has ("heat 1 tbsp oil") and kit only heat the pan; what nobody has a word for is lost, and asked
        about."""
        return (not foods and self._is_fat_of_no_line(order, tools)) or self._is_of_something_else(order)

    def _is_fat_of_no_line(self, order: Order, tools: Sequence[str]) -> bool:
        if order.do not in ("heat", "pour") and order.verb != "add":
            return False
        found = re.match(
            r"\w+ (?:up )?(?:(?:the|some|an?|\d+|little|bit|of|tbsp|tsp|spoons?|glug|splash) )*(\w+)", order.text
        )
        food = match_food(found[1]) if found else None
        if food is None or not food.sure or food.kind.group not in ("oil", "butter", "water"):
            return False
        pans = [tool for tool in tools if self.kitchen.tools[tool] in ON_THE_HEAT]
        self.kitchen.vessel = pans[-1] if pans else self.kitchen.vessel
        return True

    def _is_of_something_else(self, order: Order) -> bool:
        """True, whatever a pronoun behind it means, for an order with an object that is not in hand."""
        # "Put the water on, 10 minutes": what is put somewhere for so long is heated there.
        timed = order.do in ("transfer", "garnish") and order.high_min is not None
        if not (timed or order.do in _OF_ITS_OBJECT):
            return False
        again = order.verb == "reheat"  # what was never hot is not heated again
        if again and self._meant() and not any(self.kitchen.foods[name].heated for name in self._meant()):
            self.lost = True
            return True
        what, pointed_at = self._object(order)
        words = [word for word in re.findall(r"[a-z-]+", what.lower()) if word not in clause_words("adverbs")]
        if not words or not _TIMES.isdisjoint(words) or mentions(self.kitchen, what):
            return False
        if any(self._may_be_in_hand(word) for word in words):
            return False
        if order.do == "probe" and re.search(r"\b(?:probe|thermometer)s?\b", what):
            return False  # "stick the thermometer in"
        tools = tools_in(what)
        kit = tools or kit_named().search(what.lower())
        held = [name for tool in tools for name in self.kitchen.holds.get(self._tool(tool), ())]
        carries = any(tool.kind in VESSELS | GOES_IN_OVEN for tool in tools)
        if (kit and (held or again)) or (carries and (timed or order.do in ("chill", "freeze"))):
            return False  # "heat the pan": what it holds; and nobody chills an empty tub
        known = pointed_at or kit or _WATER.search(what) or any(self._is_food(word) for word in words)
        if not known:
            return False  # "fry crisp"
        pans = [self._tool(tool) for tool in tools if tool.kind in ON_THE_HEAT]
        if pans and order.do == "heat":
            self.kitchen.vessel, self.kitchen.off_heat = pans[-1], False
        self.lost |= not (kit or _WATER.search(what))
        return True

    def _object(self, order: Order) -> tuple[str, bool]:
        """The words for what an order works on, and whether something points at it ("the"). Of words without a verb
        they come first, unless that is a place: "potatoes in the oven for an hour", "dry skillet, 3 minutes a side"."""
        told = order.text
        first = _FIRST_WORD.match(told)
        verb = first is not None and self._orders(first[1].lower(), told[first.end() :])
        if first is None or _NO_VERB.match(told) or told[:1].isdigit():
            told = order.lead if order.do == "heat" else ""
        elif verb:
            told = told[first.end() :]
        if _NO_VERB.match(told) or told.split(" ")[0].lower() in clause_words("subordinate"):
            return "", False
        before = _BEFORE_IT.match(told)
        at = before.end() if before else 0
        counted = _COUNTED.match(told[at:])
        at += counted.end(1) if counted and self._is_food(counted[2]) else 0  # "4 potatoes"; not "20, lid off"
        what = _NOT_THE_OBJECT.sub("", _SO_MUCH_OF.sub("", told[at:])).strip(" -'")
        place = told != order.lead and not verb and (tools_in(what) or kit_named().search(what.lower()))
        return "" if place else what, bool(before and before["points"])

    @staticmethod
    def _orders(word: str, rest: str) -> bool:
        """True for a first word that orders something: "bake", or a word nobody knows before "the jars"."""
        form = form_of(word, "base")
        if form is not None:
            return form.do not in ("touch", "wipe")  # "dry skillet"
        return word not in clause_words("determiners") and re.match(r"(?:the|your|all|some|any)\b", rest) is not None

    @staticmethod
    def _is_food(word: str) -> bool:
        found = match_food(word)
        return found is not None and found.sure

    def _may_be_in_hand(self, word: str) -> bool:
        """True for a word that stands for food of this recipe, of what is made, or of a part of either."""
        made = bool({stem(word)} & (dish_words("dishes") | made_nouns()))
        if made and word in word_set("made", "never_meat"):
            return self._likely_made(stem(word), (), implied=False) is not None
        return made or word in word_set("names", "of_it")

"""Orders about something else than the food in hand: kit, water, a food that nobody listed. "Warm the plates" cooks no
chicken, and "bake the potatoes" none either where no line has potatoes."""

from __future__ import annotations

import re
from collections.abc import Sequence

from foodsafety.foods import match_food, stem
from foodsafety.recipes.mentions import PRONOUN, mentions
from foodsafety.recipes.order import Order
from foodsafety.recipes.referents import Referents
from foodsafety.recipes.verb_forms import clause_words
from foodsafety.recipes.vessels import ON_THE_HEAT, tools_in
from foodsafety.recipes.washes_told import kit_named
from foodsafety.recipes.words import dish_words, made_nouns, word_set

# Work whose object has to be the food in hand where none is named.
_OF_ITS_OBJECT = frozenset({"rinse", "heat", "part_cook", "chill", "freeze", "probe"})
# The object right behind the verb: "warm through the gravy", "boil a large pan of water".
_OBJECT = re.compile(
    r"(?!(?:in|into|on|onto|at|under|over|to|with|for|from|back|straight|and|then)\b)"
    r"[a-z-]+ (?:(?:up|through|off|down|out|together|[a-z]+ly) )*"
    r"(?P<one>(?:the|your|some|any|all|each|those|these|an?|another) )+(?P<what>[a-z][a-z' -]*)",
    re.IGNORECASE,
)
_NOT_THE_OBJECT = re.compile(
    r"\b(?:in|into|on|onto|at|for|with|over|under|until|till|to|from|then|and|or|while|as|before|after|so|by|through|without"
    r"|about|around|again|more|once|twice|few|couple)\b.*$|'s\b",
    re.IGNORECASE,
)
_TIMES = frozenset(
    "second seconds minute minutes min mins hour hours hr hrs time times day days night while degree".split()
)
_HOLDS_FOOD = re.compile(
    r"\b(?:tub|container|tray|box|bag|pot|pan|dish|bowl|jar|tin|batch|lot)(?:e?s)?\b", re.IGNORECASE
)
_WATER = re.compile(r"\b(?:water|kettle)\b", re.IGNORECASE)


class AnotherThing(Referents):
    """Tells an order about something else from one about the food in hand."""

    def _is_of_another(self, order: Order, tools: Sequence[str]) -> bool:
        """True for work on something that is not in hand. A fat that no line of the list has ("heat 1 tbsp oil") and
        kit only heat the pan; what nobody has a word for is lost, and asked about."""
        return self._is_fat_of_no_line(order, tools) or self._is_of_something_else(order)

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
        found = _OBJECT.match(order.text)
        # "Put the water on, 10 minutes": what is put somewhere for so long is heated there.
        timed = order.do in ("transfer", "garnish") and order.high_min is not None
        if (
            not (timed or order.do in _OF_ITS_OBJECT)
            or order.verb == "reheat"
            or not found
            or PRONOUN.search(order.text)
        ):
            return False
        what = _NOT_THE_OBJECT.sub("", found["what"]).strip(" -'")
        words = [word for word in re.findall(r"[a-z-]+", what.lower()) if word not in clause_words("adverbs")]
        if (
            not words
            or not _TIMES.isdisjoint(words)
            or any(self._may_be_in_hand(word) for word in words)
            or mentions(self.kitchen, what)
        ):
            return False
        if order.do == "probe" and re.search(r"\b(?:probe|thermometer)s?\b", what):
            return False  # "stick the thermometer in"
        kit = tools_in(what) or kit_named().search(what.lower())
        held = [name for tool in tools_in(what) for name in self.kitchen.holds.get(self._tool(tool), ())]
        if (kit and held) or ((timed or order.do in ("chill", "freeze")) and _HOLDS_FOOD.search(what)):
            return False  # "heat the pan": what it holds; and nobody chills an empty tub
        pans = [self._tool(tool) for tool in tools_in(what) if tool.kind in ON_THE_HEAT]
        if pans and order.do == "heat":
            self.kitchen.vessel, self.kitchen.off_heat = pans[-1], False
        self.lost |= not (kit or _WATER.search(what))
        return True

    def _may_be_in_hand(self, word: str) -> bool:
        """True for a word that stands for food of this recipe, of what is made, or of a part of either."""
        named = {stem(word)} & (dish_words("dishes") | made_nouns()) and word not in word_set("made", "never_meat")
        return bool(named) or word in word_set("names", "of_it")

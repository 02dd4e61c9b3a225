"""Words that only list foods, or name a time or a place, as the work that they mean here."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from foodsafety.foods import stem
from foodsafety.recipes.mentions import PLAIN_GROUPS, PRONOUN, mentions
from foodsafety.recipes.order import Order
from foodsafety.recipes.part_cooking import looks_cooked
from foodsafety.recipes.proposed_steps import ReadStep
from foodsafety.recipes.unsaid import INTO_ANOTHER, Unsaid
from foodsafety.recipes.verb_forms import verb_forms
from foodsafety.recipes.vessels import GOES_IN_OVEN, ON_THE_HEAT, VESSELS, tools_in
from foodsafety.recipes.washes_told import kit_named
from foodsafety.recipes.words import dish_words, layout_pattern, vocabulary, word_set

_SAYS_HEAT = re.compile(
    r"\b(?:oven|grill|hob|heat|pan|pot|wok|skillet|griddle|fire|flame|barbecue|bbq|coals|steamer|fryer|microwave"
    r"|slow cooker|simmer\w*|boil\w*|fry\w*|fried|bak\w+|roast\w*|side|sides|turn\w*|bubbl\w*|hot)\b",
    re.IGNORECASE,
)
_ONTO_KIT = re.compile(
    r"\b(?:on|onto|on to) (?:the |a |your )?(?:\w+ )?"
    r"(?:racks?|trays?|boards?|baking sheets?|griddle|grill|barbecue|bbq|hob|hot ?plate)\b",
    re.IGNORECASE,
)
_DONE_LOOK = re.compile(
    r"\b(?:pink|golden|brown(?:ed)?|crisp|charred|opaque|translucent|wilted|coloured)\b", re.IGNORECASE
)
_COOKS = re.compile(
    r"\b(?:(?:cook|boil|simmer|roast|steam|poach)(?:ed)?|bak(?:e|ed)|fr(?:y|ied)|bubble)\b(?! (?:bag|tin"
    r"|dish|pan|pot)s?\b)",
    re.IGNORECASE,
)


_PLACED = re.compile(r"\b(?:on|onto|over|in|into|out|across|along|around|between|inside|with)\b", re.IGNORECASE)

# "One mug of rice, two of water, lid on, twelve minutes": a pan of its own.
_BOILS_IN = re.compile(
    r"\b(?:rice|pasta|quinoa|lentils|barley|couscous|bulgh?ur|oats|noodles)\b.*\bwater\b", re.IGNORECASE
)


_HEAT = r"(?:heat|hob|stove|stovetop|fire|flame|gas|burner|ring|coals)"
_OFF_THE_HEAT = re.compile(
    rf"(?<!cm )(?<!inches )\boff (?:the |of the )?(?:{_HEAT}|boil)\b|\bkill the {_HEAT}\b|\b{_HEAT} off\b"
    # "20 minutes from the boil" are counted from then.
    rf"|(?<!cm )(?<!inches )(?<!minutes )(?<!mins )\bfrom (?:the )?(?:{_HEAT}|boil)\b"
    rf"|\b(?:turn|switch)(?:ed)? (?:it |(?:the )?(?:{_HEAT}|oven|grill) )?off\b"
    r"|\b(?:pull|push|slide|move|set) the pan (?:to one side|aside)\b"
    r"|\b(?:leave|left|let|set)\b[^.;]*\bto cool\b",
    re.IGNORECASE,
)
_BACK_ON = re.compile(
    r"\b(?:back (?:on|over|to)|return(?:ed)? (?:it |them |the [a-z]+ )?to|over|on) (?:to )?(?:the |a )?(?:\w+ )?"
    rf"{_HEAT}\b|\b(?:turn|switch) (?:it|the (?:{_HEAT}|oven|grill)) (?:back )?on\b"
    r"|\b(?:pre-?)?heat(?:s|ed|ing)? (?:up )?(?:the |your )?(?:oven|grill)\b"
    r"|\b(?:get|have) (?:the |some |a )?(?:oil|pan|wok|skillet|butter|fat|griddle)\b[a-z ]*\bhot\b",
    re.IGNORECASE,
)
# Where food lies that is cooked no more.
_BESIDE_THE_HEAT = frozenset({"plate", "board", "rack", "towel"})
_SETS = re.compile(r"\b(?:set|scrambled|firm|cooked|no runny|not runny|no longer runny)\b", re.IGNORECASE)


_TURNED_OVER = re.compile(r"^(?:turn|flip)\b|\bon the other side\b", re.IGNORECASE)
_KEPT_HOT = re.compile(r"\b(?:keep|keeps|kept|keeping|stay|hold|holding)(?: [a-z]+){0,2} (?:warm|hot)\b", re.IGNORECASE)
_ANOTHER = re.compile(r"\W*(?:another|a further|\d+(?: ?(?:-|to) ?\d+)? (?:more|further|extra))\b", re.IGNORECASE)
# "Turn down low and leave it 25 minutes".
LOW_HEAT = re.compile(
    r"\b(?:turn(?:ed)? (?:it |the heat )?(?:right |well )?down|(?:on|over) (?:a )?(?:very )?low)\b", re.IGNORECASE
)


OTHER_HALF = re.compile(r"\b(?:other half|rest|remainder|remaining)\b", re.IGNORECASE)
# "Next the onions", "stock next, all at once", "the onions follow", "now it's the peas' turn".
_ONE_MORE = re.compile(
    r"^\W*(?:(?:and|now|next|then|after that|last(?: of all)?|finally)"
    r"(?:,? (?:comes?|is|are|it is|it['’]s|with))*,? )+(?:the turn of )?"
    r"(?P<a>(?:the |your )?[a-z]+(?:(?:, | and |, and )(?:the )?[a-z]+| [a-z]+){0,4}?)(?:['’]s?)?"
    r"(?: turn| again| too| next| back)*"
    r"(?P<how>,? (?:all at once|bit by bit|(?:a|one) [a-z]+ at a time|(?:for )?\d[^.;]*|(?:stirr|whisk)ing[^.;]*))?"
    r"[.!]*$"
    r"|^\W*(?P<b>(?:the |your )?[a-z]+(?:(?:, | and |, and )(?:the )?[a-z]+| [a-z]+){0,3}?),? "
    r"(?:next|too|now|as well|follows?|after that|last(?: of all)?|joins? (?:it|them|the [a-z]+|in))(?: in)?[.!]*$",
    re.IGNORECASE,
)
_SAME_AGAIN = frozenset({"cut", "peel", "grate", "rinse"})
_FOLLOWS = re.compile(r"\b(?:follows?|next|too|joins?|as well)\b", re.IGNORECASE)
_GOES = frozenset(
    "go goes in into on onto out off with is are for to from of must should has have needs need can will be".split()
)
_WORK_ON_IT = re.compile(r"\W*([a-z]+)(?: (?:it|them|all|both|fine|finely|well)\b|[.,;]|$)", re.IGNORECASE)
# Left to cook by itself; and what says that there is heat.
_LEFT_TO_COOK = re.compile(r"\b(?:let|leave|leaves|left)\b", re.IGNORECASE)
_HEAT_NAMED = re.compile(
    r"\b(?:heat|hob|stove|flame|fire|gas|oven|grill|simmer\w*|boil\w*|bubbl\w*|low|medium|high|fr(?:y|ies|ied|ying))\b",
    re.IGNORECASE,
)
# "Cook half of it", "fry a little bit to taste": what becomes of the rest?
_SOME_OF_IT = re.compile(
    r"^\w+ (?:about )?(?:half(?! (?:an? )?hour)|an? (?:small |tiny )?(?:little|bit|piece|spoonful|sample)"
    r"|one (?:piece|of them)|some of)\b",
    re.IGNORECASE,
)
_STANDS_STILL = re.compile(
    r"\b(?:stand|rest|cool|sit|settle|set|soak|steep|off|aside|plate|board|rack|cold|cover with|side|foil|out"
    r"|next to|near|beside)\b",
    re.IGNORECASE,
)
# "Wait for the oven to reach 200C, 15 minutes": nothing is in it.
_FOR_THE_OVEN = re.compile(
    r"\b(?:wait (?:for|until|till)|give) (?:the )?"
    r"(?:oven|grill|griddle|barbecue|bbq|coals|fryer|pan|wok|kettle|water|hob)\b"
    r"|^\W*(?:run |turn |switch |put )?(?:the )?(?:oven|grill|barbecue|bbq|fryer|kettle|water|hob|dishwasher) on\b"
    r"|\b(?:oven|grill|griddle|barbecue|bbq|coals|fryer|pan|wok|kettle|water) to (?:reach|heat|get|come|warm|boil)\b",
    re.IGNORECASE,
)


# "Clean up after the fish", "clean everything it touched": no food.
_AFTER_FOOD = re.compile(
    rf"{kit_named().pattern}|\b(?:after|every\w+|anything|all that|whatever|touched|up|down|from|off|where|with)\b"
)


class ShortNotes(Unsaid):
    """Notes without a verb."""

    def _as_work(self, order: Order) -> Order:
        """Words that only list foods, or name a time or a place, as the work that they mean here."""
        was_off = self.kitchen.off_heat
        self._mind_the_heat(order.words, heats=order.do in ("heat", "part_cook"))
        if order.do == "timed":
            order = self._timed(order)
        if order.do == "list":
            order = self._listed(order)
        of_food = order.verb == "clean" and mentions(self.kitchen, order.text.partition(" that ")[0])
        if order.do == "clean" and of_food and not _AFTER_FOOD.search(order.text.lower()):
            order = replace(order, do="rinse")  # "clean the leeks"
        if order.verb == "soak" and order.do == "rest":
            named = [name for _, names in mentions(self.kitchen, order.text) for name in names]
            if len(named) > 1 and any(map(self._is_meat, named)):
                order = replace(order, do="marinate")  # "soak the chicken in the buttermilk": not the rice in the milk
        wiped = order.do == "wipe" and "away" not in order.text and mentions(self.kitchen, order.text)
        if wiped and not _AFTER_FOOD.search(order.text.lower()):
            order = replace(order, do="touch")  # "wipe the fish": no kit; "wipe the yoghurt away" is of what it lies on
        if was_off and self._only_stands(order):
            self.kitchen.off_heat = True
            return replace(order, do="rest", verb="leave")
        beside = order.do == "heat" and _TURNED_OVER.search(order.words) and (was_off or not self._was_cooking(order))
        if beside or (order.do == "heat" and _KEPT_HOT.search(order.words) and order.core_c is None):
            return replace(order, do="rest", verb="leave")  # what is kept warm is not cooked by it
        if self._sets_in_the_pan(order) or self._cooks_where_it_is(order):
            return replace(order, do="heat", verb="cook")
        if self._goes_in_the_oven(order):
            return replace(order, do="heat", verb="bake", text=re.sub(r"^add ", "bake ", order.text))
        if order.verb == "spread" and order.do == "transfer" and self._goes_on_what_lies_there(order):
            return replace(order, do="garnish")
        if order.do != "garnish":
            return order
        tools = tools_in(order.text)
        if _ONTO_KIT.search(order.text) and tools:  # "loaves on to the racks": nothing is joined
            return replace(order, do="transfer", verb="put", text=f"put {order.text}")
        vessels = [tool for tool in tools if tool.kind in VESSELS | {"cup"}]
        if order.verb == "top" and vessels and INTO_ANOTHER.search(order.text):  # "soy and honey in a cup"
            joins = re.search(r"\btogether\b|\+|\band\b", order.text)
            return replace(order, do="mix" if joins else "transfer", verb="put", text=f"put {order.text}")
        return order

    def _goes_on_what_lies_there(self, order: Order) -> bool:
        """ "Lay the dough on a tray. Spread passata and cheese.": no place is named, so on what is in hand."""
        named = [name for _, names in mentions(self.kitchen, order.text) for name in names]
        fresh = bool(named) and not any(self.kitchen.foods[name].into for name in named)
        lying = [name for name in self.kitchen.last if self.kitchen.foods[name].made and name not in named]
        return fresh and bool(lying) and not _PLACED.search(order.text)

    def _sets_in_the_pan(self, order: Order) -> bool:
        """ "Pour in, stir until set": egg in a hot pan is cooked by it."""
        kitchen = self.kitchen
        if order.do != "mix" or not _SETS.search(order.until) or order.verb not in ("stir", "fold", "toss", "work"):
            return False
        if _OFF_THE_HEAT.search(order.words) or self._taken_off():
            return False
        named = [name for _, names in mentions(kitchen, order.text) for name in names] or kitchen.last
        named = [kitchen.current(name) for name in named]
        egg = any(kitchen.foods[name].group == "egg" for name in self._base_of(named))
        return egg and (self._is_hot(kitchen.vessel) or any(tool.kind in ON_THE_HEAT for tool in tools_in(order.text)))

    def _cooks_where_it_is(self, order: Order) -> bool:
        """ "Leave it till it's gone see-through", in a pan on the heat: it cooks there."""
        hot = self._is_hot(self.kitchen.vessel) and not self.kitchen.off_heat and not self._taken_off()
        stays = looks_cooked(order.until) or (order.high_min and LOW_HEAT.search(order.words))
        return order.do == "rest" and order.verb in ("leave", "let") and hot and bool(stays)

    def _only_stands(self, order: Order) -> bool:
        """ "Turn off the gas. Let it cook for 20 minutes", "it steams for 10 minutes": no heat is named, and what lies
        in the pan that went off is what is meant. It stands, and nobody may go by it."""
        said = _LEFT_TO_COOK.search(self.whole) or order.verb in word_set("names", "cooks_off_the_heat")
        told = order.oven_c is not None or order.level or _HEAT_NAMED.search(order.words)
        held = {self.kitchen.current(name) for name in self.kitchen.holds.get(self.kitchen.vessel or "", ())}
        named = {self.kitchen.current(name) for _, names in mentions(self.kitchen, order.text) for name in names}
        return order.do == "heat" and bool(said) and not told and named <= held

    def _is_unsure(self, order: Order, foods: Sequence[str]) -> bool:
        """True where the foods of an order were found, and may be others: the sentence before was not understood, or
        it says "everything for" something that the list does not name."""
        lost = self.blind and PRONOUN.search(order.text) is not None and not mentions(self.kitchen, order.text)
        # "Boil the rice. Probe it", after the chicken was fried: it may be either.
        either = order.do == "probe" and PRONOUN.search(order.text) and not any(map(self._is_meat, foods))
        return bool(foods) and bool(lost or self._is_for_no_part(order) or (either and self._meat_in_hand()))

    def _is_of_some(self, order: Order, foods: Sequence[str]) -> bool:
        """ "Cook half of it", of raw meat, where nobody says what becomes of the rest."""
        some = order.do == "heat" and _SOME_OF_IT.match(order.text) and any(map(self._is_meat, foods))
        return bool(some) and not OTHER_HALF.search(self.whole + self._behind(self.whole))

    def _joins_what_cooks(self, text: str) -> str:
        """ "Next the onions", with a pan on the heat: they go in, unless the next sentence works on them."""
        one = _ONE_MORE.match(text)
        what = (one["a"] or one["b"]) if one else ""
        words = what.lower().split()
        hot = self._is_hot(self.kitchen.vessel) and not self.kitchen.off_heat and not self._taken_off()
        # "The apples follow", into the bowl that something is mixed in.
        last = self.kitchen.steps[-1:] if one and _FOLLOWS.search(text) else []
        hot = hot or any(step.do in ("mix", "pour") and self.kitchen.vessel in step.tools for step in last)
        again = self.kitchen.steps[-1:] if one and one["a"] and not hot else []
        if again and again[0].do in _SAME_AGAIN and mentions(self.kitchen, what) and not self._is_worked_on_next(text):
            return f"{again[0].do} {what}"  # "Dice the chicken. Then the lettuce."
        if one is None or not hot or self._is_worked_on_next(text) or not mentions(self.kitchen, what):
            return text
        no_food = [word for word in words if not mentions(self.kitchen, word)]  # "puree" is work, and a food
        works = (form.kind in ("base", "ed") for word in no_food for form in verb_forms().get(word, ()))
        if _GOES.intersection(words) or any(works):
            return text  # "then chop the onions", "the onions chopped next"
        return f"Add {what}{one['how'] or ''}"

    def _is_worked_on_next(self, text: str) -> bool:
        """True if the sentence after this one begins with work on what this one names: "Next the onions. Chop them"."""
        behind = _WORK_ON_IT.match(self._behind(text))
        return behind is not None and any(form.kind == "base" for form in verb_forms().get(behind[1].lower(), ()))

    def _may_cook_on(self, order: Order, foods: Sequence[str]) -> bool:
        """True for food in a pan on the heat that is left there for a time: whether it cooks or stands, nobody says."""
        left = order.do == "rest" and order.verb in ("leave", "let") and order.high_min is not None
        hot = self._is_hot(self.kitchen.vessel) and not self.kitchen.off_heat and not self._taken_off()
        held = {self.kitchen.current(name) for name in self.kitchen.holds.get(self.kitchen.vessel or "", ())}
        there = bool(held & set(foods))
        return left and hot and there and _STANDS_STILL.search(order.words) is None

    def _only_a_time(self, order: Order, foods: Sequence[str]) -> bool:
        """ "Cut the chicken. 20 minutes.", "put it in a bowl, give it 20 minutes": a time alone, of meat that lies in
        nothing hot. Whether it cooks, nobody says."""
        said = re.match(r"cook\b(?!.* there for )", order.text, re.IGNORECASE) is not None
        if order.do != "heat" or order.verb != "cook" or said or order.high_min is None:
            return False
        if order.oven_c is not None or order.level or order.core_c is not None or _SAYS_HEAT.search(order.words):
            return False
        kitchen = self.kitchen
        hot = ON_THE_HEAT | {"oven"} | (GOES_IN_OVEN if kitchen.oven_c is not None else set())
        tools = [tool for tool, kind in kitchen.tools.items() if kind in hot]
        lying = {kitchen.current(name) for tool in tools for name in kitchen.holds.get(tool, ())}
        meat = {kitchen.current(name) for name in foods if kitchen.foods[name].raw and self._is_meat(name)}
        last = next((step for step in reversed(kitchen.steps) if step.do not in ("wash_hands", "clean")), None)
        cooked = {name for step in kitchen.steps if step.do in ("heat", "part_cook") for name in step.foods}
        return bool(meat - lying - cooked) and not self._went_onto_what_cooks(last)

    def _left_open(self, step: ReadStep, order: Order, foods: Sequence[str]) -> list[str]:
        """What nobody says of a heat: whether food that is left cooks or stands, and whether it is done here at all."""
        stands = self._may_cook_on(order, foods) or (step.do == "heat" and self._only_a_time(order, foods))
        return [*(["stands"] if stands else []), *(["told"] if self._is_told(step, foods) else [])]

    def _is_told(self, step: ReadStep, foods: Sequence[str]) -> bool:
        """ "If the chicken is not done, fry it", "at home bake it": a cook of raw food that nobody may count on."""
        raw = any(self.kitchen.foods[name].raw for name in foods)
        told = (layout_pattern("sentences", name).search(self.whole) for name in ("only_told", "hedged"))
        return step.do == "heat" and raw and any(told)

    def _mind_the_heat(self, words: str, *, heats: bool) -> None:
        """Whether anything is on the heat by now."""
        if _OFF_THE_HEAT.search(words):
            self.kitchen.off_heat = True
        elif heats or _BACK_ON.search(words):
            self.kitchen.off_heat = False

    def _cooks_no_more(self, order: Order) -> bool:
        """True for a time that food stands: off the heat, or on the plate that it was lifted onto. "Kill the heat. Lid
        on, 10 min" cooks nothing that anybody may go by."""
        if order.oven_c is not None or order.level:
            return False
        last = next((row for row in reversed(self.kitchen.steps) if row.do not in ("wash_hands", "clean")), None)
        kinds = {self.kitchen.tools[tool] for tool in last.tools} if last and last.do == "transfer" else set()
        return self.kitchen.off_heat or (bool(kinds) and kinds <= _BESIDE_THE_HEAT)

    def _taken_off(self) -> bool:
        """True if what was last said of the pan is that it came off the heat."""
        steps = self.kitchen.steps
        return bool(steps) and _OFF_THE_HEAT.search(steps[-1].text) is not None

    def _goes_in_the_oven(self, order: Order) -> bool:
        """ "Ovens on 220. Lamb in.": what lies in its tin goes into the oven that is hot."""
        kitchen = self.kitchen
        if kitchen.oven_c is None or not re.fullmatch(r"add (?:the )?[\w ]+ in[.,!]*", order.text, re.IGNORECASE):
            return False
        named = {kitchen.current(name) for _, names in mentions(kitchen, order.text) for name in names}
        tins = [tool for tool, kind in kitchen.tools.items() if kind in GOES_IN_OVEN]
        lying = {kitchen.current(name) for tool in tins for name in kitchen.holds.get(tool, ())}
        bakes = any(kitchen.foods[name].raw or self._holds_flour(name) for name in named)  # no tuna out of its tins
        return bool(named) and named <= lying and bakes

    def _listed(self, order: Order) -> Order:
        """Words that only list foods: into the pan that is on the heat, on top of what is being put
        together, or what is put on the plate."""
        kitchen = self.kitchen
        if stem(self.headed) in dish_words("cold") | word_set("made", "stirred_up"):
            return replace(order, do="mix", verb="mix", text=f"mix {order.text}")  # "Salsa: tomatoes, onion, lime"
        if order.high_min and _BOILS_IN.search(order.text):
            return replace(order, do="heat", verb="boil", text=f"boil {order.text.rstrip('.')} in another pan")
        hot = kitchen.vessel is not None and kitchen.tools[kitchen.vessel] in ON_THE_HEAT
        into = re.search(r"(?:^|\s)in(?:to)? (?:an? |the |your )?(?:\w+ )?", order.text, re.IGNORECASE)
        if into and any(tool.kind in VESSELS for tool in tools_in(order.text[into.start() :])):
            return replace(order, do="mix", verb="add", text=f"add {order.text}")  # "into a dish with milk and sugar"
        if hot:
            return replace(order, do="mix", verb="add", text=f"add {order.text}")
        last = kitchen.steps[-1] if kitchen.steps else None
        if last is None:
            return replace(order, do="none")  # what is needed, before anything is done
        named = [name for _, names in mentions(kitchen, order.text) for name in names]
        if self._is_a_coating(named):
            return replace(order, do="coat", verb="coat", text=f"coat it in {order.text}")  # "egg, then crumbs"
        if kitchen.last and named and all(kitchen.foods[name].group in PLAIN_GROUPS for name in named):
            return replace(order, do="mix", verb="toss", text=f"toss with {order.text}")  # "oil and salt"
        if last.do in ("garnish", "transfer", "mix", "heat", "rest"):
            return replace(order, do="garnish", verb="top")
        fresh = len(named) > 1 and not any(kitchen.foods[name].used or kitchen.foods[name].made for name in named)
        if fresh and self._behind(self.whole).strip() and re.search(r"\w\)? \+ \w", self.whole):
            return replace(order, do="mix", verb="mix", text=f"mix {order.text}")  # "yoghurt + cucumber + garlic"
        if self._behind(self.whole).count("\n") > vocabulary()["made"]["most_after_plates"]:
            return replace(order, do="none")  # no plate is laid in the middle of the work: somebody has to say
        return replace(order, do="serve", verb="serve")

    def _behind(self, text: str) -> str:
        """The method after a sentence."""
        return self.method.partition(text)[2]

    def _is_a_coating(self, named: Sequence[str]) -> bool:
        """True for crumbs with egg or flour, while something lies ready to be coated."""
        groups = {self.kitchen.foods[name].group for name in named}
        meant = [name for name in self._meant() if name not in named]
        return bool(meant) and "crumb" in groups and groups <= {"crumb", "egg", "flour", "starch"} and len(groups) > 1

    def _was_cooking(self, order: Order) -> bool:
        """True if what an order turns over was on the heat last: "marinate it, turn it, 20 minutes" cooks nothing."""
        named = {self.kitchen.current(name) for _, names in mentions(self.kitchen, order.words) for name in names}
        about = named or set(self._meant())
        of_it = (row for row in reversed(self.kitchen.steps) if about & {self.kitchen.current(n) for n in row.foods})
        last = next((row for row in of_it if row.do not in ("wash_hands", "clean")), None)
        kinds = {self.kitchen.tools[tool] for tool in last.tools} if last else set()
        return last is not None and (last.do in ("heat", "part_cook") or bool(kinds & (ON_THE_HEAT | {"oven"})))

    def _lies_beside(self, last: ReadStep | None) -> bool:
        """True if raw meat was just brushed or coated, and not in the pan that is on the heat: the time it is given
        is none of the pan's."""
        worked = last is not None and last.do in ("brush", "coat", "marinate") and self.kitchen.vessel not in last.tools
        return worked and last is not None and any(self._is_meat(n) and self.kitchen.foods[n].raw for n in last.foods)

    def _went_onto_what_cooks(self, last: ReadStep | None) -> bool:
        """True if the last step put something onto or into what has been on the heat."""
        if (
            last is None
            or last.do not in ("transfer", "mix", "garnish", "pour", "coat", "brush")
            or len(last.foods) < 2
        ):
            return False
        hot = {
            base for row in self.kitchen.steps if row.do in ("heat", "part_cook") for base in self._base_of(row.foods)
        }
        cold = [name for name in last.foods if not self._base_of([name]) & hot]
        return len(cold) < len(last.foods)

    def _timed(self, order: Order) -> Order:
        """Words with nothing but foods and a time: on the heat where something is on it, else a rest."""
        kitchen = self.kitchen
        if re.search(r"\b(?:rest(?! of\b)|resting|stand|standing|must stay|sit)\b", order.text):
            return replace(order, do="rest", verb="leave")
        if _FOR_THE_OVEN.search(order.text):
            return replace(order, do="none")
        if _COOKS.search(order.text):
            return replace(order, do="heat", verb="cook")  # "after that cook 2 minutes more"
        if self._cooks_no_more(order):
            return replace(order, do="rest", verb="leave")
        last = next((step for step in reversed(kitchen.steps) if step.do not in ("wash_hands", "clean")), None)
        hot = kitchen.vessel is not None and kitchen.tools[kitchen.vessel] in ON_THE_HEAT | {"oven"}
        hot = hot and not self._lies_beside(last)
        hot = hot or order.oven_c is not None or bool(order.level)  # "low heat, 5 min"
        # "Oven 240. ... 10 minutes, till the edges are brown".
        hot = hot or (
            kitchen.oven_c is not None and re.search(r"\b(?:brown|gold|bubbl|crisp|risen)", order.until) is not None
        )
        hot = hot or re.search(r"\b(?:a|per|each) sides?\b|\bopening the (?:oven )?door\b", order.text) is not None
        hot = hot or (
            kitchen.oven_c is not None and kitchen.vessel is not None and kitchen.tools[kitchen.vessel] in GOES_IN_OVEN
        )
        hot = hot or _DONE_LOOK.search(order.until) is not None
        # "Another 35 minutes", of what was put on what is in the oven.
        hot = hot or (_ANOTHER.match(order.text) is not None and self._went_onto_what_cooks(last))
        if re.search(r"\b(?:off|proves?|proving|rises?|rising|light on|door open)\b", order.words):
            return replace(order, do="rest", verb="leave")  # "20 minutes in the oven, switched off"
        if re.search(r"\b(?:top|middle|bottom|lower|upper|centre) shelf\b|\bin (?:the|a hot) oven\b", order.text):
            return replace(order, do="heat", verb="bake")
        if re.search(
            r"\b(?:rack|on the tray|in the tin|on the side|worktop|counter|to cool|to rest|on a board)\b", order.text
        ):
            return replace(order, do="rest", verb="leave")
        cooking = last is not None and (last.do in ("heat", "part_cook") or "oven" in last.tools)
        named = any(tool.kind in ON_THE_HEAT for tool in tools_in(order.text))
        do = "heat" if hot or cooking or named else "rest" if last is not None else "none"
        return replace(order, do=do, verb="cook" if do == "heat" else "leave")

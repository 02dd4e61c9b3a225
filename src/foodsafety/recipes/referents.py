"""What an order is about: the foods it names as they are by now, what its pronouns mean, what it leaves
unsaid."""

from __future__ import annotations

import re
from collections.abc import Sequence

from foodsafety.foods import stem_words
from foodsafety.recipes.clauses import without_asides
from foodsafety.recipes.made_names import ALL_BACK
from foodsafety.recipes.meat_in_hand import AT_THE_BONE, EVERYTHING, MeatInHand
from foodsafety.recipes.mentions import (
    INTO_SHAPES,
    PART_OF,
    PARTICLE,
    PLAIN_GROUPS,
    PRONOUN,
    THE_LOT,
    THE_REST,
    made_match,
    mentions,
)
from foodsafety.recipes.order import Order
from foodsafety.recipes.soaked_in import left_of_the_soak
from foodsafety.recipes.verb_forms import clause_words, verb_forms
from foodsafety.recipes.vessels import VESSELS, tools_in
from foodsafety.recipes.words import FATS, made_nouns, word_set

# What was fried in: the pan.
FAT_LEFT = re.compile(
    r"\b(?:fat|oil|butter|juices|dripping)s? (?:that(?:'s| is)? |which )?(?:left|remains?|remaining)\b"
    r"|\b(?:remaining|leftover|bacon|pan|beef|duck) (?:fat|juices|dripping)\b|\b(?:the|to|in) drippings?\b"
    r"|\bsame (?:pan|pot|wok|skillet)\b|\bthat (?:fat|dripping)\b"
    r"|\bin(?:to)? the (?:[a-z]+ )?fat\b|\bin what (?:the [a-z]+|they|it) left(?: behind)?\b",
    re.IGNORECASE,
)
_WHEN_READY = re.compile(
    r"(?:meanwhile,? )?(?:when|once|as soon as|after) (?:the |your )?([a-z ]{3,30}?)"
    r" (?:is|are|has|have|looks?|feels?)\b",
    re.IGNORECASE,
)
_THE_OTHERS = re.compile(r"\bthe (?:rest|others?)\b(?! of)", re.IGNORECASE)
_LEFT_IN = re.compile(
    r"\b(?:what(?:ever)?['’]?s?|anything|everything)(?: is)? left in the ([a-z ]{2,20})", re.IGNORECASE
)
_ALL_IN = re.compile(
    r"^\W*(?:add |tip |put )?everything(?: else)? in(?:\W*$|\s*[,;.!]|\s+(?:and|for|at|now|together|again)\b)",
    re.IGNORECASE,
)
_TOGETHER_WITH = re.compile(r"\b(?:everything|it all|the lot) (?:goes |in |back )*together with\b", re.IGNORECASE)
OVER_ALL = re.compile(r"\bover (?:everything|it all|the lot|the whole thing|all of it)\b", re.IGNORECASE)
_ONE_EACH = re.compile(r"^\s*\w+ (?:one|two|some|a few) each\b", re.IGNORECASE)
_TOGETHER = re.compile(r"\beverything (?:together|around|about|up)\b", re.IGNORECASE)
_IT_ALL = re.compile(
    r"\b(?:it|them) all\b(?! over)|\ball (?=with\b)"
    r"|\ball of (?:it|them|this|these)\b|^\s*(?:\w+ )?all (?:this|that|these|those)\b",
    re.IGNORECASE,
)

# "Serve hot, in the buns": how it is served, before what it is served with.
_AS_IT_IS = re.compile(
    r"^(?:(?:piping |nice and )?(?:hot|warm|cold|pink|rare)(?: in the middle)?|at once|straight away|immediately|now)"
    r"(?:,? |, )(?=(?:in|on|over|with|into|onto)\b)"
)
_SO_MANY_OF = re.compile(r"\b(?:one|two|three|four|five|six|\d+|a few) of $", re.IGNORECASE)
_POUR_IN = re.compile(r"(?:pour|tip|slide|drop|throw) (?:it |them |everything )?in\W*$", re.IGNORECASE)
_OF_WHAT_IS_SAID = re.compile(
    r"\b(?:over|on|onto|with|into|want|wants|like|leave|give|keep|let|get)\s+$", re.IGNORECASE
)


class Referents(MeatInHand):
    """The foods that an order works on."""

    def _foods(self, order: Order) -> list[str]:
        """Foods an order names, as they are by now."""
        kitchen = self.kitchen
        if order.do in ("wash_hands", "clean", "wipe"):
            return []
        whole = self._text_of(order)
        left_out = self._left_out(whole)
        if order.do == "rinse":  # "rinse in cold water": with water, whatever the list has it for
            left_out |= {name for name, food in kitchen.foods.items() if food.group == "water"}
        every = ((i, [name for name in names if name not in left_out]) for i, names in mentions(kitchen, whole))
        found = [(i, self._there(order, names)) for i, names in every if names]
        self._of_which_a_part_is_used(whole, found)
        if order.do in ("brush", "coat", "garnish", "mix") and found and order.verb in word_set("names", "of_verbs"):
            # "Butter the rolls": the verb is a food of its own.
            found = [*found, *mentions(kitchen, order.verb)]
        ids = [*self._everything(whole, order), *self._both(whole), *(name for _, names in found for name in names)]
        ids = ids or (self._bought_in(whole) if order.do != "brush" else [])  # "oil the tin" oils no beans
        ids = self._not_gone(ids, order) + self._left_in(whole)
        named = [kitchen.current(name) for name in ids]
        ids += self._called(whole, named, verb=order.verb, implied=bool(PARTICLE.match(self._after_verb(order))))
        anew = self._divided(whole, found, served=order.do == "serve") | self._poured_anew(ids, order)
        left = {name: name for name in anew} | left_of_the_soak(kitchen, whole, ids, served=order.do == "serve")
        named = [left.get(name) or kitchen.current(name) for name in ids]
        if order.do in ("touch", "coat", "garnish", "brush") and re.match(
            r"(?:on|onto|over)\b", self._after_verb(order)
        ):
            named = [*self._led_by(order), *named]  # "crumbs + cheese, press onto the fish"
        if order.do == "probe" and not named:  # "it's ready when the thickest part of the thigh reads 75"
            told = {kitchen.current(name) for _, names in mentions(kitchen, self.whole) for name in names}
            named = list(told) if len(told) == 1 else []
        pronoun = self._pronoun(whole) if order.do != "probe" or not named else None
        if (
            pronoun
            and (order.do != "serve" or _ONE_EACH.search(whole))
            and not THE_LOT.search(whole)
            and (pronoun[0].lower() not in ("everything", "all") or _IT_ALL.search(whole))
        ):
            named = [*self._antecedents(order, pronoun[0].lower()), *named]
        if pronoun and order.do == "probe" and not any(map(self._is_meat, named)) and AT_THE_BONE.search(order.words):
            named = self._meat_in_hand() or named
        if not named:
            named = self._the_others(order) or self._led_by(order) or self._poured(order) or self._by_its_cut(order)
            if not named and order.do in ("transfer", "chill") and len(kitchen.steps) == self.began_at:
                named = self._cut_last()  # "tear the lettuce, cut the tomatoes. Put in a bowl."
        if named and order.do == "serve":
            named = [*self._on_the_plates(order), *named]
        if named and order.verb == "season" and not re.search(r"\bwith\b", whole):
            named += self._salt_and_pepper()
        return list(dict.fromkeys([*self._of_its_places(order, named), *named]))

    def _on_the_plates(self, order: Order) -> list[str]:
        """ "Bring the plates to the table with the toast": what the plates hold is served, too."""
        kitchen = self.kitchen
        moved = re.match(r"\S+ (?:the |your |all the )?(\w+) (?:to|out|round|over)\b", order.text, re.IGNORECASE)
        kinds = {tool.kind for tool in tools_in(moved[1])} if moved else set()
        held = [name for tool, names in kitchen.holds.items() if kitchen.tools[tool] in kinds for name in names]
        return [kitchen.current(name) for name in held]

    def _named_foods(self, order: Order) -> list[str]:
        """What an order names, else what it means: "while they are on you get your fish", the fish."""
        told = mentions(self.kitchen, self._text_of(order))
        named = [self.kitchen.current(name) for _, names in told for name in names]
        return list(dict.fromkeys(named)) or self._foods(order)

    def _pronoun(self, text: str) -> re.Match[str] | None:
        """The pronoun of an order, unless it only stands before a food: "both minces"."""
        words = self.kitchen.food_words()
        for found in PRONOUN.finditer(text):
            after = re.match(r"\s+(?:of )?(?:the )?([a-z]+)", text[found.end() :], re.IGNORECASE)
            if found[0].lower().endswith(("strips", "pieces")) and mentions(self.kitchen, found[0]):
                continue  # what was cut into them
            counted = _SO_MANY_OF.search(text[: found.start()])
            if counted and mentions(self.kitchen, text[: counted.start()]):
                continue  # "do your onions, two of them"
            said = re.search(r"(?:,|\band\b)\s+\w+\s+$", text[: found.start()], re.IGNORECASE)
            if found[0].lower() in ("it", "them") and said and mentions(self.kitchen, text[: said.start()]):
                continue  # "rinse the lettuce, dry it": what was named just before
            told = text[: found.start()]
            here = "," in told and mentions(self.kitchen, told.split(",")[0])
            if found[0].lower() in ("it", "them") and here and _OF_WHAT_IS_SAID.search(told):
                continue  # "shred the cabbage, squeeze of lime over it", "your onions, sliced, you want them slow"
            beside = found[0].lower() == "both" and mentions(self.kitchen, told)  # "the cucumber and dill, both washed"
            if not beside and (found[0].lower() != "both" or not after or after[1].lower() not in words):
                return found
        return None

    def _both(self, text: str) -> list[str]:
        """ "Both minces": every food of that name."""
        found = re.search(r"\bboth (?:of )?(?:the )?([a-z]+)", text, re.IGNORECASE)
        name = stem_words(found[1]) if found else ()
        return [food.id for food in self.kitchen.foods.values() if name in food.names and not food.made]

    def _bought_in(self, text: str) -> list[str]:
        """ "Drain both cans": the foods that came in them."""
        found = re.search(
            r"(?<!\bin )(?<!\binto )(?<!\bon )(?<!\bto )"
            r"\b(?:the|both|all|your|each) (can|tin|jar|packet|bag|box|tub|carton)s?\b(?! of)",
            text,
            re.IGNORECASE,
        )
        return [food.id for food in self.kitchen.foods.values() if found and food.unit == found[1].lower()]

    def _there(self, order: Order, names: list[str]) -> list[str]:
        """Of "the vegetables" that are pushed aside or drained those in the pan, else those used before."""
        if order.do in ("rinse", "cut", "peel") or order.verb in ("fill", "stuff"):
            names = self._no_spice(names)
        if len(names) < 2 or order.verb not in word_set("names", "of_what_is_there"):
            return names
        held = self._held(order, [])
        inside = [name for name in names if self.kitchen.current(name) in held]
        return inside or [name for name in names if self.kitchen.foods[name].used] or names

    def _left_in(self, text: str) -> list[str]:
        """ "What's left in the bag": what it holds."""
        found = _LEFT_IN.search(text)
        tools = tools_in(found[1]) if found else []
        return [name for tool in tools for name in self.kitchen.holds.get(self._tool(tool), [])]

    def _led_by(self, order: Order) -> list[str]:
        """ "Raspberries and sugar in a pan, boil": the foods of the words before, unless they say when."""
        lead = without_asides(order.lead)
        if (
            order.do not in ("heat", "cut", "peel", "mix", "rinse", "touch", "coat", "brush", "garnish")
            or not lead
            or lead.split()[0].lower() in clause_words("subordinate")
        ):
            return []
        return [self.kitchen.current(name) for _, names in mentions(self.kitchen, lead) for name in names]

    def _antecedents(self, order: Order, pronoun: str) -> list[str]:
        """What a pronoun means: the foods that the same sentence names before it, all that was prepared
        to go together, or what is in hand."""
        kitchen = self.kitchen
        pronoun = "all" if _IT_ALL.search(order.text) else pronoun
        lead = without_asides(order.lead)
        if lead and not re.match(r"(?:in|into|on|onto|with|using|to|from)\b", lead, re.IGNORECASE):
            ids = [kitchen.current(name) for _, names in mentions(kitchen, lead) for name in names]
            if ids:
                return ids
        if order.do == "coat" and pronoun in ("the pieces", "the bits", "the strips"):
            return [*self._before_the_coating(), *self._meant()]
        if pronoun in ("them", "these") and order.do in ("mix", "transfer") and (cut := self._cut_last()):
            return cut
        if pronoun == "them" and (inside := self._in_those_vessels()):
            return inside
        if order.verb in ("keep", "hold") and order.do == "heat" and (hot := self._kept_hot()):
            return hot
        if pronoun == "the lot" and order.do in ("cut", "grate", "peel") and (washed := self._washed_last()):
            return washed
        ready = _WHEN_READY.match(order.lead)
        told = [kitchen.current(n) for _, names in mentions(kitchen, ready[1]) for n in names] if ready else []
        if told and pronoun in ("it", "them"):
            return told  # "when the potatoes are done drain them"
        own = [
            food.id for food in kitchen.foods.values() if food.part == self.part_led and not (food.used or food.made)
        ]
        if self.part_led and pronoun in ("everything", "all", "the lot", "the whole lot") and len(own) > 1:
            return own  # "Sauce: whisk the lot."
        if pronoun == "both" and order.do in ("pour", "rinse", "cut", "chill") and len(last := self._last_two()) == 2:
            return last  # "Soak the peas. ... Drain both."
        if order.do in ("mix", "transfer", "coat", "marinate", "garnish", "serve") and (
            pronoun in ("everything", "all", "the lot", "the whole lot", "both")
        ):
            pile = [kitchen.current(name) for name in kitchen.pile]
            if pronoun == "both" and len(pile) >= 2:
                return pile[-2:]
            begun = any(step.source.startswith("step ") for step in kitchen.steps)
            if not begun and _IT_ALL.search(order.text):
                return self._first_part()  # what the list has cut is for later
            if re.match(r"put the lot in", order.text):  # "Into a tub.": what has been cut, not what came ready cut
                pile = self._worked_on(pile) or pile
            return self._with_the_loose(pile) or self._meant() or self._first_part()
        return self._still_raw(self._meant(), order) if order.do == "heat" else self._meant()

    def _with_the_loose(self, pile: list[str]) -> list[str]:
        """ "The lot": what has been prepared, with what was cooked or drained for it and lies by itself."""
        foods = self.kitchen.foods
        parts = {foods[name].part for name in pile}
        loose = [f.id for f in foods.values() if f.heated and not f.raw and not f.into and f.part in parts]
        loose = [name for name in loose if not self._is_put_away(name) and not self._cooks_still(name)]
        if re.search(r"\b(?:hold|keep)[a-z ]* cold\b", self.whole, re.IGNORECASE):
            return pile  # "all in a large bowl, hold cold": what is cut, and nothing from the pan
        return list(dict.fromkeys([*loose, *pile])) if pile else []

    def _cooks_still(self, name: str) -> bool:
        """True for food that nobody has taken from the oven, in a sentence since "while they cook"."""
        last = next((step for step in reversed(self.kitchen.steps) if name in (*step.foods, step.makes)), None)
        ovens = last is not None and any(self.kitchen.tools.get(tool) in ("oven", "grill") for tool in last.tools)
        measured = last is not None and last.do == "probe"
        return last is not None and (measured or (ovens and last.do in ("heat", "part_cook")))

    def _is_put_away(self, name: str) -> bool:
        """True for food that went into the cold and has not been named since."""
        last = next((step for step in reversed(self.kitchen.steps) if name in (*step.foods, step.makes)), None)
        return last is not None and last.do in ("chill", "freeze")

    def _first_part(self) -> list[str]:
        """What "it all" means before anything is in hand: all of the part of the dish that comes next."""
        fresh = [food for food in self.kitchen.foods.values() if not food.used and not food.made]
        return [food.id for food in fresh if food.part == fresh[0].part]

    def _the_others(self, order: Order) -> list[str]:
        """ "Shred the cabbage; coarsely grate the rest": of what was prepared last, what this sentence has not
        worked on."""
        if order.do not in ("cut", "grate", "peel", "mix") or not _THE_OTHERS.search(order.text):
            return []
        done = {name for step in self.kitchen.steps[self.began_at :] for name in step.foods}
        before = [step for step in self.kitchen.steps[: self.began_at] if step.do in ("rinse", "peel")]
        last = before[-1].foods if before else []
        return [self.kitchen.current(name) for name in last if name not in done] if done & set(last) else []

    def _poured(self, order: Order) -> list[str]:
        """What is in the vessel that an order names as what it works on: "pour bowl 2 into bowl 1"; what was in hand
        before the fat that is hot now: "butter in the pan, pour in"."""
        fat = all(self.kitchen.foods[name].group in FATS for name in self._meant()) and bool(self._meant())
        if fat and _POUR_IN.match(order.text):
            return self._before_the_fat()
        first = re.split(r"\b(?:in|into|on|onto|to|with|over|from|for|until)\b", self._after_verb(order))[0]
        for tool in tools_in(first):
            held = self.kitchen.holds.get(self._tool(tool), []) if tool.kind in VESSELS else []
            if held:
                return [self.kitchen.current(name) for name in held]
        return []

    def _after_its_verb(self, order: Order) -> str:
        """The words of an order without a verb that is a food here: "chop at home" names no lamb chop, "roll into
        balls" no bread roll."""
        text = order.object_of or order.text
        first = re.match(r"[a-z]+", text, re.IGNORECASE)
        solid = (
            food for food in self.kitchen.foods.values() if food.group not in PLAIN_GROUPS
        )  # "oil in the pan" is oil
        if first is None or not any(stem_words(first[0]) in food.names for food in solid):
            return text
        forms = verb_forms().get(first[0].lower(), ())
        verb = any(form.kind == "base" and (form.verb == order.verb or order.object_of) for form in forms)
        return text[first.end() :].strip() if verb else text

    def _text_of(self, order: Order) -> str:
        """The words of an order in which its foods stand: not what it becomes, nor until when."""
        text = without_asides(self._after_its_verb(order))
        text = re.sub(r"\buntil\b.*$", "", FAT_LEFT.sub(" the fat ", text), flags=re.IGNORECASE)
        text = re.sub(
            r"\bbefore \w+ing\b.*$|\b(?:never|rather than|instead of)\b.*$"
            r"|\bso (?:they|it|you|that|the [a-z]+) (?:do|does|did|will|can|wo|is|are)(?:n['’]?t)?\b.*$"
            r"|\b(?:as|so that|being careful|making sure|taking care)\b.*$",
            "",
            text,
            flags=re.IGNORECASE,
        )
        if order.do == "cut":  # "cut the pepper into strips": not the strips of turkey
            text = INTO_SHAPES.sub(" ", text)
        if order.verb in ("set", "keep", "reserve", "save", "hold"):
            text = re.sub(r"\bfor (?:the|later|your)\b.*$", "", text, flags=re.IGNORECASE)  # what it is kept for
        made = made_match(text)
        if made and made[0] not in self.kitchen.foods:
            text = text[: made[1]] + text[made[2] :]
        lead = without_asides(order.lead)
        lead = lead if re.match(r"(?:with|using|add|to|in|into|on|onto)\b", lead, re.IGNORECASE) else ""
        return f"{lead} {text}"

    def _divided(self, text: str, found: list[tuple[int, list[str]]], *, served: bool) -> set[str]:
        """Foods of which a part is meant ("half the cucumber", "the remaining oil"): they stay
        themselves, whatever the first part has gone into."""
        originals: set[str] = set()
        for pattern in (THE_REST, PART_OF):
            for match in pattern.finditer(text):
                at = len(stem_words(text[: match.end()]))
                after = [names for i, names in found if i >= at - 1]
                for name in after[0] if after else ():
                    # "The remaining sauce" is the one that was made, not soy sauce.
                    word = stem_words(text[match.end() :])[:1]
                    general = word and word[0] in made_nouns() and self.kitchen.foods[name].into
                    # "One pepper each" is served of what the peppers have become.
                    become = served and pattern is PART_OF and self.kitchen.foods[name].into is not None
                    if not self.kitchen.foods[name].made and not general and not become:
                        self.kitchen.foods[name].split = pattern is PART_OF  # after "the rest of it" none is left
                        originals.add(name)
        return originals

    def _of_which_a_part_is_used(self, text: str, found: list[tuple[int, list[str]]]) -> None:
        """ "The remaining oil": of two oils the one of which half was used."""
        for match in THE_REST.finditer(text):
            word, at = stem_words(text[match.end() :])[:1], len(stem_words(text[: match.end()]))
            begun = [food.id for food in self.kitchen.foods.values() if food.split and word in food.names]
            k = next((k for k, (i, _) in enumerate(found) if i >= at - 1), None)
            if k is not None and len(begun) == 1 and not any(self.kitchen.foods[name].made for name in found[k][1]):
                found[k] = (found[k][0], begun)

    def _poured_anew(self, names: Sequence[str], order: Order) -> set[str]:
        """Oil that is named again though some of it has gone into something: another glug of it, unless that is what
        lies in the pan in use."""
        held = self._held(order, [])
        foods = self.kitchen.foods
        elsewhere = set(self.kitchen.last).isdisjoint(held)
        oil = (name for name in names if foods[name].group == "oil" and foods[name].into)
        anew = (name for name in oil if elsewhere or self.kitchen.current(name) not in held)
        return set(anew) if order.do in ("mix", "brush", "coat") else set()

    def _left_out(self, text: str) -> set[str]:
        """ "Everything but the walnuts": the walnuts."""
        but = re.search(
            r"\b(?:that (?:isn'?t|is not|aren'?t|are not)|except|apart from|but(?: not)?) (.+)$", text, re.IGNORECASE
        )
        if but is None or not THE_LOT.search(text[: but.start()]):
            return set()
        return {name for _, names in mentions(self.kitchen, but[1]) for name in names}

    def _everything(self, text: str, order: Order) -> list[str]:
        """ "All the ingredients", "everything else": what has not been used yet."""
        if not THE_LOT.search(text) or OVER_ALL.search(text):
            return []
        if order.do == "rinse":  # all that grew: nobody means the mince
            return [known.id for known in self.kitchen.foods.values() if known.grown and not known.used]
        if _TOGETHER_WITH.search(text) and (hot := self._in_the_pans()):
            return hot  # "everything together with the tomatoes": what has been fried for it, not the rest of the list
        if ALL_BACK.search(text):
            return [food.id for food in self.kitchen.foods.values() if food.heated and not food.into]
        inside = re.search(r"\beverything (?:that is |that['’]s )?in (the [a-z ]+)", text)
        held = self._held(order, [self._tool(tool) for tool in tools_in(inside[1])] if inside else [])
        if order.verb in ("stir", "toss", "mix", "combine") and held and _TOGETHER.search(text):
            return [*self._dressed("toss with", held), *held]  # what is in the pan; what the sauce is for
        if EVERYTHING.search(text) and not _ALL_IN.search(text):
            lies_there = held if self._is_of_what_lies_there(order, text) else []
            if lies_there := list(dict.fromkeys([*lies_there, *self._just_shaped(order)])):
                return lies_there
        if out := self._out_of_the_pan(text, order, held):
            return out
        groups = {
            "dry": ("flour", "sugar", "leavening", "spice", "salt", "starch", "dry grain", "chocolate"),
            "wet": ("milk", "egg", "oil", "yoghurt", "butter", "water", "syrup", "drink", "cream"),
        }
        said = [word for word in groups if re.search(rf"\b{word} ingredients\b", text, re.IGNORECASE)]
        wanted = [group for word in said for group in groups[word]]
        if wanted:
            fresh = [known.id for known in self.kitchen.foods.values() if known.group in wanted and not known.used]
            parts = [self.kitchen.foods[name].part for name in fresh]
            first = self.kitchen.part_now if self.kitchen.part_now in parts else next(iter(parts), "")
            return [name for name in fresh if self.kitchen.foods[name].part == first]
        if _ALL_IN.search(text) or (order.verb in ("stuff", "fill", "load", "pile") and " with everything" in text):
            return [*held, *self._loose()]
        left_out = self._left_out(text)
        # "Serve with bread", "top with the salmon": in no pot before, and cooked by none.
        left_out |= {f.id for f in self.kitchen.foods.values() if f.unlisted}
        fresh = [f.id for f in self.kitchen.foods.values() if not f.used and not f.made and f.id not in left_out]
        if self.introduced is not None:  # there is no list: what no sentence has named yet is not there yet
            fresh = [name for name in fresh if name in self.introduced]
        fresh = self._for_that_part(text, fresh)
        # "Mix everything": with what has been cut or rinsed for it.
        pile = [] if re.search(r"\b(?:else|other|remaining|rest)\b", text) else self.kitchen.pile
        if pile is self.kitchen.pile and re.search(r"\bslow cooker|\bcrock", text):  # what has been browned as well
            known = self.kitchen.foods.values()
            pile = [f.id for f in known if (f.used or f.made) and not f.into and f.group not in PLAIN_GROUPS]
        if self.introduced is not None and _TOGETHER.search(text):
            free = [food for food in self.kitchen.foods.values() if not food.into and food.id not in left_out]
            return [food.id for food in free if food.made or food.id in self.introduced]
        every = self._of_one_part(text, [*(name for name in pile if name not in left_out), *fresh])
        # "Toss everything except the fish", where the fish was cooked last: what lies ready.
        return every or ([name for name in self._loose() if name not in left_out] if left_out else [])

    def _loose(self) -> list[str]:
        """ "Everything in": all that has been worked on, is ready and lies by itself."""
        foods = self.kitchen.foods.values()
        return [f.id for f in foods if (f.used or f.made) and not f.into and not f.raw and f.group not in PLAIN_GROUPS]

    def _of_one_part(self, text: str, fresh: list[str]) -> list[str]:
        """Of the foods not used yet those of the part of the dish that is said ("the kofta ingredients"), that the
        sentence begins with ("for the dip, whisk everything"), or that is in hand, or comes next; all where the
        list has no parts, and where "everything else" is meant."""
        foods = self.kitchen.foods
        parts = list(dict.fromkeys(foods[name].part for name in fresh))
        scope = next((part for part in (self.part_led, self.kitchen.part_now) if part and part in parts), "")
        if scope and re.search(r"\beverything else\b", text):  # with what the list has grated already
            return [food.id for food in foods.values() if food.part == scope and not food.into and not food.made]
        if scope and scope == self.part_led:
            return [name for name in fresh if foods[name].part == scope]
        if len(parts) < 2 or re.search(r"\b(?:else|other|remaining|rest)\b", text):
            return fresh
        own = re.search(r"\b(?:the|all) (?!other|remaining|dry|wet|rest)[a-z]+ ingredients\b", text, re.IGNORECASE)
        words = set(stem_words(text))
        said = [part for part in parts if part and words & set(stem_words(part))]
        hand = [foods[name].part for name in (*self.kitchen.pile, *self.kitchen.last) if foods[name].part in parts]
        if own and not said and "" in parts:
            return [name for name in fresh if not foods[name].part]  # "the cake ingredients" beside "for the drizzle"
        part = next(iter(said), "") or next((part for part in (*hand, *parts) if "" not in parts), "")
        return [name for name in fresh if foods[name].part == part] if part else fresh

    def _main(self, besides: Sequence[str]) -> list[str]:
        """What is being put together: the food made last that is not among these."""
        kitchen = self.kitchen
        free = [food.id for food in kitchen.foods.values() if food.made and not food.into and food.id not in besides]
        return [kitchen.main] if kitchen.main in free else free[-1:]

    def _after_verb(self, order: Order) -> str:
        text = re.sub(r"^[\w-]+\s*", "", order.object_of or order.text).lower()
        return _AS_IT_IS.sub("", text) if order.do == "serve" else text

    def _held(self, order: Order, tools: list[str]) -> list[str]:
        """What the vessel of an order holds: the one it names, or the one in use."""
        kitchen = self.kitchen
        named = [tool for tool in tools if kitchen.tools[tool] in VESSELS]
        vessel = named[-1] if named else kitchen.vessel
        return [kitchen.current(name) for name in kitchen.holds.get(vessel or "", [])]

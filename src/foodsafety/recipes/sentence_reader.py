"""Sentences of a method read one after another: what each is about, the orders in it, and what it says that none of
them has."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from foodsafety.foods import match_food, stem, stem_words
from foodsafety.recipes.abbreviated import food_words_in_full
from foodsafety.recipes.amounts import in_digits
from foodsafety.recipes.chunks import chunked, works_told
from foodsafety.recipes.clauses import without_asides
from foodsafety.recipes.instructions import orders, sets_out, unlabelled
from foodsafety.recipes.mentions import PLAIN_GROUPS, mentions
from foodsafety.recipes.order import Order
from foodsafety.recipes.overlooked import core_in_food_told, core_told, overlooked, too_low_told
from foodsafety.recipes.plain_speech import plain_words
from foodsafety.recipes.proposed_steps import ReadStep, all_in
from foodsafety.recipes.reader import StepReader
from foodsafety.recipes.staged import minutes_before_the_end
from foodsafety.recipes.times_and_heats import temperatures_in
from foodsafety.recipes.verb_forms import form_of, verb_forms
from foodsafety.recipes.vessels import ON_THE_HEAT, tools_in
from foodsafety.recipes.voices import MAY_BE_GUESSED, done_behind, done_first, guessed_order, note_in_full
from foodsafety.recipes.words import FATS, announces, dish_words, layout_pattern, made_nouns, word_set

_TIME = re.compile(
    r"\b(?:\d+(?:\s?(?:-|to)\s?\d+)?\s?(?:mins?|minutes?|hrs?|hours?)|(?<!within )an hour(?! (?:ago|before)))\b",
    re.IGNORECASE,
)
_FOR_SO_LONG = re.compile(rf"\bfor (?:about |around |another )?{_TIME.pattern}", re.IGNORECASE)
_TOPIC_FIRST = re.compile(
    r"^((?:[\w'’+&]+ ?){1,6}?)(?P<sign>\s[-–]\s+|\.\s+(?:\d[\w ]{0,8}\.\s+)?|,\s+)(?P<rest>[A-Za-z].*)$", re.DOTALL
)
_MADE_OF = re.compile(r"^(?:the |for the )?(?:[A-Za-z]+ ){0,2}([A-Za-z]+)\s*[-–:]\s+(?=\d|an? |half )", re.IGNORECASE)
_INTO_A_LOAF = re.compile(r"\binto (?:an?|one|two|\d+) (?:[a-z]+ )?(?:loaf|loaves)\b")  # meat may be shaped into it
_ON_A_TOPIC = frozenset({"cut", "mix", "peel", "grate", "rinse", "heat", "part_cook", "touch", "pour"})
_HOT_PAN = re.compile(r"\b(?:smoking|hot|high|(?:medium|low|gentle)[a-z-]* heat|cold pan)\b", re.IGNORECASE)
_ALL_OF_THAT = re.compile(
    r"[a-z]+ (?:up )?(?:all (?:of )?(?:that|this|those|these|them)|the lot|everything)\b", re.IGNORECASE
)
# "For the dip, ...", "Make the crema: ...".
_FOR_A_PART = re.compile(
    r"\W*(?:next|now|then|meanwhile|first|to start|finally)?,?\s*(?:for|(?:to )?(?:make|prepare|start with|start)) "
    r"(?:the |your |a )?((?:[a-z'-]+ ?){1,3})[,:;.]\s",
    re.IGNORECASE,
)
# How long an oven heats, when something begins: no time that food takes.
_SETS_A_CLOCK = re.compile(
    r"\b(?:oven|grill|pre-?heat\w*|timer|clock|kettle|ahead|before|earlier|check|barbecue|bbq|coals?|lesson|session)\b",
    re.IGNORECASE,
)
# A sentence that speaks of any of these is for a person, never for a guess.
_NEVER_GUESSED = ("asks", "risky", "used_again", "marinade", "tasting", "left_raw", "left_out")
# Kit that raw food is worked with.
TOUCHES_RAW = frozenset({"board", "knife", "tongs", "plate", "fork"})
# What food that waits is said to do, or to lie in.
_WAITS = re.compile(
    r"\b(?:rest|stand|leave|left|wait|sit|soak|steep|stay|keep|cool|chill|set|prov|ris|relax|hydrat|marinat|brine|salt|dry|dri"
    r"|drain|thaw|defrost|infus|macerat|ferment|aside|minutes? later|water|bowl|cover|cloth|towel|warm place|room)",
    re.IGNORECASE,
)
# What orders nothing, whatever it names.
_NO_ORDER = re.compile(
    r"\b(?:if|unless|don['’]t|do not|never|no|not|nobody|was|were|has|have|had|can|could|would|might|may|because|i|my"
    r"|delivered|bought|from the shop)\b|[?!]",
    re.IGNORECASE,
)
# Work that another word may have told.
_AS_WORK = {
    "heat": ("part_cook",),
    "part_cook": ("heat",),
    "mix": ("coat", "heat", "transfer"),
    "cut": ("grate", "peel"),
}
# What only says what is needed.
NEEDED = re.compile(
    r"^\W*(?:first |so |right,? )?(?:you|we|i)(?:'?ll| will)? (?:need|want|have|take|start with|are going to need)\b",
    re.IGNORECASE,
)
# "Roast until it reads 63 at the thickest".
_UNTIL_IT_READS = re.compile(
    r"(?:it|they|the [a-z ]+?|a (?:probe|thermometer)[a-z ]*?) (?:reads?|says?|shows?|reach(?:es)?|hits?) ",
    re.IGNORECASE,
)
# "Whoever touched the turkey", "the one with egg on their hands": it says who, and works on no food.
_WHO_DID_WHAT = re.compile(
    r"\b(?:whoever|who|anyone who|everyone who)(?: has| have)? (?:touched|handled|cut|did|held|chopped|sliced|prepared"
    r"|fried|cracked|shaped|mixed) (?:the |any |some )?(?:raw )?[a-z]+"
    r"|\bwith (?:the |raw )*[a-z]+ on (?:their|his|her|your) (?:hands|fingers)",
    re.IGNORECASE,
)
# "This is your pico."
_NAMED_NOW = re.compile(
    r"\W*(?:and |so )?(?:this|that)(?:['’]s| is) (?:now )?(?:your|our|my) ([a-z-]+)\b", re.IGNORECASE
)


@dataclass(frozen=True, slots=True)
class Touched:
    """What a sentence did: whether it orders anything, and whether it went on with the step before."""

    acts: bool
    went_on: bool


def _by_then(found: list[Order]) -> list[Order]:
    """ "Fifteen minutes before they're done, scatter over the cheese": when the order after it is done."""
    if len(found) < 2 or found[0].do != "timed" or minutes_before_the_end(found[0].text) is None:
        return found
    return [replace(found[1], lead=f"{found[0].text}, {found[1].lead}".strip(" ,")), *found[2:]]


def _names_a_heat_alone(text: str, found: Sequence[Order]) -> bool:
    """ "Risen, sausages 75.": words that name a food and a core orders nothing that was understood."""
    return all(order.do == "topic" for order in found) and re.search(r"\b(?:[67]\d|1[4-7]\d)\b", text) is not None


class SentenceReader(StepReader):
    """Reads a method, sentence by sentence."""

    def sentence(self, text: str, source: str) -> Touched:
        """Reads one sentence of the method."""
        self.went_on = self.washing = self.laying = self.lost = False
        self.heated_for = ("", None)
        self.began_at = len(self.kitchen.steps)
        text = self._with_what_comes_first(note_in_full(text, self.kitchen.food_words()))
        text = self.whole = food_words_in_full(text, (f.id for f in self.kitchen.foods.values() if not f.made))
        if self.introduced is not None:
            self.introduced |= {name for _, names in mentions(self.kitchen, text) for name in names}
        self._is_now(text)
        if self._only_sets_up(text):
            return Touched(acts=True, went_on=False)
        text = self._joins_what_cooks(self._topic_first(text))
        found = _by_then(self._of_a_list(self._at_one_heat(text, orders(text, self.kitchen.food_words()))))
        self._labelled(text, source)
        before = len(self.kitchen.steps)
        if self._lists_for(text, found):
            return Touched(acts=True, went_on=False)
        if self._only_names(text, found):
            return Touched(acts=False, went_on=False)
        if all(order.do in ("topic", "list", "none") for order in found) and self._is_hot_pan(text):
            return Touched(acts=True, went_on=False)
        timed = len(found) == 1 and found[0].do == "timed"
        if timed and works_told(text, self.kitchen.food_words()) > 1 and self._guess(text, source):
            return Touched(acts=True, went_on=False)  # "aubergine in rounds, brushed with oil, roasted 20 minutes"
        if not found or found[0].do in ("timed", "topic", "list", "none"):
            self._mind_the_heat(re.split(r"\d", text)[0], heats=False)  # "kill the heat. 10 minutes."
        for order in found:
            self.step(order, source)
        self._cut_together(before)
        self._leave_no_word(text, found, before)
        self._note_prepared(before)
        sets_up = any(order.do == "none" for order in found)
        nothing = self.lost and len(self.kitchen.steps) == before and not sets_up
        acts = bool(found) and not nothing and not _names_a_heat_alone(text, found)
        if acts and len(self.kitchen.steps) == before and not self.went_on:
            told = without_asides(plain_words(text))
            acts = not self._overlooked(told, found, ()) and bool(not _TIME.search(told) or _SETS_A_CLOCK.search(told))
        works = layout_pattern("sentences", "work").search(text) is not None or tools_in(text)
        if not self.went_on and len(self.kitchen.steps) == before and (not acts or self._goes_in(text, found)):
            acts = self._guess(text, source) or acts
        if not acts:
            self._speaks_of(text)
        self.blind = bool(not acts and (works or mentions(self.kitchen, text)))
        return Touched(acts=acts, went_on=self.went_on)

    def _only_sets_up(self, text: str) -> bool:
        """ "Swap the board for a clean one", "For the salad:", "three plates: flour, egg, crumbs"."""
        kitchen = self.kitchen
        scope = re.fullmatch(r"For the (.+):", text)
        if scope:
            own = [f.id for f in kitchen.foods.values() if f.part == scope[1] and not f.used and not f.made]
            kitchen.last = own or kitchen.last
            kitchen.part_now = scope[1] if own else kitchen.part_now
        elif sets_out(text):
            kitchen.set_out = list(dict.fromkeys(name for _, names in mentions(kitchen, text) for name in names))
        else:
            return self._takes_fresh_kit(plain_words(text))
        return True

    def _note_prepared(self, before: int) -> None:
        """What this sentence cut and grated: "toss it with oil" in the next is of all of that."""
        prepares = (row for row in self.kitchen.steps[before:] if row.do in ("cut", "grate", "peel"))
        cut = {name for row in prepares for name in row.foods}
        self.prepared = frozenset(name for name in cut if not self.kitchen.foods[name].raw)

    def _goes_in(self, text: str, found: Sequence[Order]) -> bool:
        """ "Raisins, cinnamon.", "then onion and carrot": foods alone, while something is made that they go into. What
        the next sentence works on is only named here."""
        steps = self.kitchen.steps
        made = bool(steps) and steps[-1].do in ("heat", "part_cook", "mix", "garnish", "pour")
        if not made or any(order.do not in ("topic", "none") for order in found) or not mentions(self.kitchen, text):
            return False
        return not self._is_worked_on_next(text)

    def _guess(self, text: str, source: str) -> bool:
        """Reads what no rule knows by its foods and the place or the work it names ("chicken straight from the walk-in
        into the pots", "the rest of the yoghurt stirred through"), and says that it is a guess. What comes after it
        would be of other food else."""
        plain = re.split(r"\s[-–—]\s|[;(]", plain_words(unlabelled(text)[1]))[0]
        watched = (layout_pattern("sentences", what).search(text) for what in _NEVER_GUESSED)
        if _NO_ORDER.search(plain) or any(watched) or any(tool.kind in TOUCHES_RAW for tool in tools_in(text)):
            return False
        foods = self.kitchen.food_words()
        parts = [without_asides(plain), *re.split(r",\s+", plain)[1:]]  # "off the heat, the yoghurt stirred through"
        one = next(filter(None, (guessed_order(part, foods) for part in parts)), "")
        told = [*filter(None, (one,))] or chunked(plain, foods)
        named = any(mentions(self.kitchen, found) for found in told)
        if not named and not any(
            re.match(r"(?:put|press) (?:it|them|everything|the skin|the flesh)\b", t) for t in told
        ):
            return False
        before = len(self.kitchen.steps)
        meant = [order for found in told for order in orders(found, foods)]
        # What heats may cook nothing through: a guess makes nothing safe.
        meant = [replace(order, do="part_cook") if order.do == "heat" else order for order in meant]
        if any(order.do not in MAY_BE_GUESSED for order in meant):
            return False
        for order in meant:
            self.step(order, source)
        new = self.kitchen.steps[before:]
        for step in new:
            step.guesses = list(dict.fromkeys([*step.guesses, "guess"]))
        return bool(new)

    def _with_what_comes_first(self, text: str) -> str:
        """ "After washing your hands, slice the bread": told once, and an order. What a step before has done is only
        spoken of."""
        found = done_first(text)
        if found is None:
            return self._with_what_comes_next(text)
        form, what, rest = found
        hands = re.search(r"\bhands\b", what, re.IGNORECASE) is not None
        named = {self.kitchen.current(name) for _, names in mentions(self.kitchen, what) for name in names}
        works = frozenset({form.do, *_AS_WORK.get(form.do, ())})
        done = [step for step in self.kitchen.steps if step.do in works or (hands and step.do == "wash_hands")]
        before = any(named & {self.kitchen.current(name) for name in step.foods} for step in done)
        if hands:
            before = bool(self.kitchen.steps) and self.kitchen.steps[-1].do == "wash_hands"
        return text if before or not (named or hands) else f"{form.verb} {what}, then {rest}"

    def _with_what_comes_next(self, text: str) -> str:
        """ "Heat the oil before browning the meat", where no later sentence orders the browning."""
        found = done_behind(text)
        later = self.method.partition(text)[2].lower()
        if found is None or (not later and text not in self.method):
            return text
        form, what, whole = found
        words = {word for word, forms in verb_forms().items() if any(f.verb == form.verb for f in forms)}
        again = not words.isdisjoint(re.findall(r"[a-z-]+", later))
        return text if again or not mentions(self.kitchen, what) else whole

    def _labelled(self, text: str, source: str) -> None:
        """What stands before a sentence's colon: whose board it is, the part of the dish, the food it is about."""
        label = unlabelled(text)[0]
        self._on_their_board(label, source)
        self.headed = label.lower() if stem(label.lower()) in dish_words("dishes") else ""
        self._begins_part(label)
        self.part_led = self._part_led(text) or self._part_words().get(stem_words(label)[-1] if label else "", "")
        about = [name for _, names in mentions(self.kitchen, label) for name in names] if label else []
        self.kitchen.last = [self.kitchen.current(name) for name in about] or self.kitchen.last
        unlisted = match_food(label) if label and not about else None
        if unlisted is not None and unlisted.sure:
            self.kitchen.last = []  # "cucumbers: wash": of a food that no line has, and never of what is in hand
        self.labelled = frozenset(self.kitchen.last if about else ())

    def _only_names(self, text: str, found: Sequence[Order]) -> bool:
        """ "You need a kilo of chicken.", "250 g berries.": what the next order is about. Into a hot pan it would be
        an addition."""
        short = len(text.split()) <= 7 and re.match(r"\W*\d", text) is not None
        alone = short and not self._is_hot(self.kitchen.vessel)
        needed = [name for _, names in mentions(self.kitchen, text) for name in names]
        if announces(text, self.kitchen.food_words()):
            self._begins_part(text)
            needed = [] if made_nouns() & set(stem_words(text)) else needed  # "make the pastry" is of no food yet
        elif not (NEEDED.match(text) or (alone and needed)):
            return False
        taken = len(needed) > 2 and NEEDED.match(text)  # "you take 200 g salmon, half a cucumber, one lime"
        if any(order.do not in ("topic", "list", "none") and not (taken and order.verb == "take") for order in found):
            return False
        self.kitchen.last = needed or self.kitchen.last
        return True

    def _begins_part(self, label: str) -> None:
        """ "FLATBREADS: combine the dry": what is in hand for the stew stays where it is."""
        kitchen, parts = self.kitchen, self._part_words()
        part = next((parts[word] for word in stem_words(label) if word in parts), "")
        own = [food for food in kitchen.foods.values() if food.part == part and not food.made]
        if part and part != kitchen.part_now and own and not any(food.used for food in own):
            kitchen.last, kitchen.pile, kitchen.vessel = [], [], None
        kitchen.part_now = part or kitchen.part_now

    def _on_their_board(self, label: str, source: str) -> None:
        """ "Person B (green board): slice the tomatoes": on that board, to the end of the paragraph."""
        boards = [tool for tool in tools_in(label) if tool.kind == "board"]
        if boards:
            self.own_board = self._tool(boards[0])
        elif label or source != self.own_board_of:
            self.own_board = ""
        self.own_board_of = source

    def _part_led(self, text: str) -> str:
        """The part of the dish that a sentence begins with: "for the dip, whisk everything", "make the crema: ..."."""
        led = _FOR_A_PART.match(text)
        words = stem_words(led[1])[-1:] if led else ()
        part = self._part_words().get(words[0], "") if words else ""
        if part:
            self._begins_part(part)
        return part

    def _speaks_of(self, text: str) -> None:
        """What nobody understood may still say what "it" is in the next sentence."""
        named = {self.kitchen.current(name) for _, names in mentions(self.kitchen, text) for name in names}
        aside = self.kitchen.last and self._goes_with_meat(list(named))  # "half way brush with hoisin": not the sauce
        if len(named) == 1 and not aside:
            self.kitchen.last = list(named)

    def _is_now(self, text: str) -> None:
        """ "This is your pico": what is in hand has a name."""
        self._is_about(without_asides(plain_words(text)))
        said = _NAMED_NOW.match(text)
        held = self._meant()
        if said and len(held) == 1 and self.kitchen.foods[held[0]].made and not mentions(self.kitchen, said[1]):
            self._call(held[0], said[1].lower())

    def _lists_for(self, text: str, found: Sequence[Order]) -> bool:
        """ "Coleslaw - 2 cabbages, 1 kg carrots": what goes into something that is made from here on."""
        label = _MADE_OF.match(text)
        if not label or stem(label[1].lower()) not in dish_words("dishes") or label[1].lower() in self.kitchen.foods:
            return False
        named = [name for _, names in mentions(self.kitchen, text[label.end() :]) for name in names]
        fresh = [name for name in named if not self.kitchen.foods[name].used]
        if any(order.do not in ("topic", "list", "none") for order in found) or len(fresh) < 2 or fresh != named:
            return False
        self.kitchen.last, self.kitchen.pile, self.kitchen.vessel = list(fresh), list(fresh), None
        return True

    def _is_hot_pan(self, text: str) -> bool:
        """ "Wok smoking.": the pan that what comes next goes into."""
        pans = [tool for tool in tools_in(text) if tool.kind in ON_THE_HEAT]
        if len(pans) != 1 or len(text.split()) > 6 or not _HOT_PAN.search(text):
            return False
        self.kitchen.vessel, self.kitchen.off_heat = self._tool(pans[0]), False
        return True

    def _topic_first(self, text: str) -> str:
        """ "Garlic - crush.", "Mince. Fry it in a dry pan": the food first, then what is done with it. The food is
        put in hand; what is left of the sentence is read."""
        found = _TOPIC_FIRST.match(text)
        named = [name for _, names in mentions(self.kitchen, found[1]) for name in names] if found else []
        ordered = orders(found[1], self.kitchen.food_words()) if found and named else []
        if not found or not named or any(o.do not in ("topic", "list", "none") for o in ordered):
            return text
        if len(named) > 1 and self._is_hot(self.kitchen.vessel):
            return text  # "barley + stock. Simmer": into the pan that is on the heat
        rest = orders(found["rest"], self.kitchen.food_words())
        bare = bool(rest) and rest[0].do in _ON_A_TOPIC and not mentions(self.kitchen, rest[0].words)
        if not bare or (found["sign"].strip() == "," and len(rest[0].words.split()) > 2):
            return text
        self.kitchen.last = [self.kitchen.current(name) for name in named]
        return found["rest"]

    def _of_a_list(self, found: list[Order]) -> list[Order]:
        """ "2 onions, 1 red pepper. Chop.": what is listed is what the order after it works on."""
        if len(found) < 2 or found[0].do != "list" or found[1].do not in ("cut", "rinse", "peel", "grate"):
            return found
        few = len(found[1].text.split()) <= 3 or _ALL_OF_THAT.match(found[1].text) is not None
        bare = few and not mentions(self.kitchen, found[1].words)
        return [replace(found[1], object_of=f"{found[1].verb} {found[0].text}"), *found[2:]] if bare else found

    def _at_one_heat(self, text: str, found: list[Order]) -> list[Order]:
        """The orders of a sentence with the oven's temperature that stands beside them: "into a tin, 170C
        (150 fan), 25 mins"."""
        oven_c = temperatures_in(text)[0]
        if oven_c is None:
            return found
        if re.search(r"\b(?:oven|fan|gas)\b", text, re.IGNORECASE):
            self.kitchen.oven_c = oven_c  # "hot oven, 425": no order, and it is set from here on
        told = any(order.oven_c is not None for order in found)
        bare = ("timed",) if told else ("timed", "heat")
        return [replace(order, oven_c=order.oven_c or oven_c) if order.do in bare else order for order in found]

    def _leave_no_word(self, text: str, found: Sequence[Order], first: int) -> None:
        """Says of the steps of a sentence what it names and they do not have: a food that none of them
        works on, a time, a temperature or an order that none of them takes. Somebody has to look at them."""
        went_on = self.kitchen.steps[first - 1 : first] if self.went_on and first else []
        steps = self.kitchen.steps[first:] or went_on
        if not steps:
            return
        plain = without_asides(plain_words(text))
        probes = [row for row in steps if row.do == "probe" and row.core_c is None]
        if len(probes) == 1:
            probes[0].core_c = core_told(plain_words(text)) or too_low_told(plain_words(text))
        for row in steps:
            if row.do == "heat" and row.core_c is None and _UNTIL_IT_READS.match(row.until):
                row.core_c = core_told(row.until)
            elif row.do in ("heat", "part_cook") and row.core_c is None:
                row.core_c = core_in_food_told(plain_words(text), self.kitchen.food_words())
        self._cooks_what_is_unnamed(steps)
        if self._names_more(plain, steps):
            steps[-1].guesses = [*steps[-1].guesses, "named"]
        timed = any(step.active_min + step.waiting_min or step.do == "wash_hands" for step in steps)
        every = in_digits(plain_words(text))
        if (_TIME.search(in_digits(plain)) or _FOR_SO_LONG.search(every)) and not timed and not self.went_on:
            steps[-1].guesses = [*steps[-1].guesses, "time"]
        told = [*self._overlooked(plain, found, steps), *(["work"] if self._only_waits(plain, steps) else [])]
        steps[-1].guesses = [*steps[-1].guesses, *dict.fromkeys(told)]

    def _is_about(self, plain: str) -> None:
        """Notes whether the food that was named last is one that no line has: what comes after is of that."""
        if mentions(self.kitchen, plain):
            self.of_no_line = False
        elif any(map(self._is_unlisted, re.findall(r"[a-z]+", _INTO_A_LOAF.sub(" ", plain.lower())))):
            self.of_no_line = True

    def _cooks_what_is_unnamed(self, steps: Sequence[ReadStep]) -> None:
        """ "Wrap the potatoes in foil and bake them for an hour", where no line has any: that the raw meat in hand is
        cooked by it is a guess, and cooks nothing through."""
        for step in steps if self.of_no_line else ():
            if step.do == "heat" and any(map(self._is_meat, step.foods)):
                step.do, step.guesses = "part_cook", [*step.guesses, "guess"]

    @staticmethod
    def _is_unlisted(word: str) -> bool:
        """True for a word that only names a food, and none that is in any pan."""
        form = form_of(word, "base")
        if form is not None and form.do == "heat":
            return False  # "stew for 25 minutes" names no stewing beef
        made = stem(word) in dish_words("dishes") | made_nouns() and word not in word_set("made", "never_meat")
        food = None if made or word in word_set("names", "of_it") else match_food(word)
        return food is not None and food.sure and food.kind.group not in PLAIN_GROUPS

    def _only_waits(self, plain: str, steps: Sequence[ReadStep]) -> bool:
        """ "Rice 12 minutes": read as waiting, which nobody said, of food that was never heated."""
        waits = [row for row in steps if row.do == "rest" and row.waiting_min]
        heated = {name for row in self.kitchen.steps if row.do in ("heat", "part_cook") for name in row.foods}
        heated |= {row.makes for row in self.kitchen.steps if row.makes and not heated.isdisjoint(row.foods)}
        return any(heated.isdisjoint(row.foods) for row in waits) and not _WAITS.search(plain)

    def _names_more(self, plain: str, steps: Sequence[ReadStep]) -> bool:
        """True if words name a food that none of these steps works on."""
        worked = [name for step in steps for name in (*step.foods, *([step.makes] if step.makes else []))]
        held = all_in(self.kitchen.steps, worked)
        told = _WHO_DID_WHAT.sub(" ", plain)
        named = {name for _, names in mentions(self.kitchen, told) for name in names}
        same = {re.sub(r" for [a-z ]+$| \d+$", "", name) for name in held}  # butter of another part of the dish
        named = {name for name in named if re.sub(r" for [a-z ]+$| \d+$", "", name) not in same}
        foods = self.kitchen.foods
        fats = {foods[name].group for name in held if name in foods} & FATS  # "half the oil", of two oils
        named = {name for name in named if foods[name].group not in fats}
        return any(self.kitchen.current(name) not in held for name in named)

    def _overlooked(self, plain: str, found: Sequence[Order], steps: Sequence[ReadStep]) -> list[str]:
        """What a second reading finds in a sentence that its steps have not."""
        return overlooked(
            plain, found, steps, self.kitchen.food_words(), oven_c=self.kitchen.oven_c, is_known=self._is_known
        )

    def _is_known(self, name: str) -> bool:
        """True if words name a food of the recipe, as it was or as it is by now, or kit."""
        return bool(mentions(self.kitchen, name) or tools_in(name))

    def _cut_together(self, first: int) -> None:
        """Three or more things cut one after another in one sentence are one piece of work."""
        steps = self.kitchen.steps
        run: list[ReadStep] = []
        for step in [*steps[first:], None]:
            same = step is not None and step.do == "cut" and not step.makes and (not run or step.tools == run[0].tools)
            if same and step is not None and not any(self.kitchen.foods[name].raw for name in step.foods):
                run.append(step)
                continue
            if len(run) > 2:
                head = run[0]
                head.foods = list(dict.fromkeys(name for row in run for name in row.foods))
                head.text = ", ".join(row.text for row in run)
                gone = {row.id for row in run[1:]}
                own = {head.id, *gone}  # one of them may have come after another: that is inside the step now
                head.after = list(dict.fromkeys(name for row in run for name in row.after if name not in own))
                self.kitchen.steps = [row for row in self.kitchen.steps if row.id not in gone]
                for row in self.kitchen.steps:
                    row.after = list(dict.fromkeys(head.id if name in gone else name for name in row.after))
                self.kitchen.last = list(head.foods)
            run = []

"""Instructions followed from top to bottom: what is in which vessel, and what has become of each food."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from foodsafety.foods import carrier_kinds, stem_words
from foodsafety.recipes.mentions import PRONOUN, mentions
from foodsafety.recipes.order import Order, time_of
from foodsafety.recipes.part_cooking import is_held_hot, leaves_raw, looks_cooked, meat_looks_done
from foodsafety.recipes.proposed_steps import ReadStep, part_cook
from foodsafety.recipes.referents import FAT_LEFT
from foodsafety.recipes.remembered import Remembered
from foodsafety.recipes.short_notes import LOW_HEAT, OTHER_HALF
from foodsafety.recipes.staged import minutes_before_the_end
from foodsafety.recipes.unsaid import OF_NO_FOOD
from foodsafety.recipes.vessels import ON_THE_HEAT, VESSELS, tools_in
from foodsafety.recipes.words import FATS, first_free, made_nouns, vocabulary, word_set

PERSON = "cook"
_NO_HANDS = frozenset({"heat", "rest", "chill", "freeze", "serve", "probe", "marinate", "part_cook"})
_CONTINUING = frozenset({"heat", "rest", "chill", "freeze", "marinate", "clean", "wash_hands", "touch"})
_WAITING_DO = frozenset({"rest", "chill", "freeze", "marinate"})
_HANDS = re.compile(r"\b(?:hands?|fingers?|fingertips)\b", re.IGNORECASE)
_IN_ITS_DISH = re.compile(r"\b(?:oven|shelf|fridge|freezer)\b", re.IGNORECASE)
# It all goes together: no marinade is left.
_STAYS = re.compile(r"\b(?:marinade|everything|the lot|all|mixture|filling|dough|oven|fridge|juices?)\b", re.IGNORECASE)
_OUT_OF_IT = re.compile(r"\b(?:out of|from) (?:the|its|their|that|this) (?:marinade|brine)\b", re.IGNORECASE)
_WATER_OVER = re.compile(
    r"^\w+ (?:the |some )?(?:just[- ])?(?:boiled |boiling |hot |cold )+water (?:from the kettle )?over\b", re.IGNORECASE
)
_AFTERWARDS = re.compile(r"\bto go\b|\bleave\b|\bcool\b|\brest\b|\bsteep\b|\bsoak\b|\baside\b", re.IGNORECASE)
_LAST_MINUTE = re.compile(r"\bfor the (?:last|final) (?:few )?minutes?\b", re.IGNORECASE)
_CUT_INTO = re.compile(
    r"\b(?:into|out) (?:[\w-]+ ){0,4}?"
    r"(pieces|halves|quarters|portions|strips|wedges|sticks|rings|chunks|cubes|batons|rounds|circles|discs|squares"
    r"|triangles|florets|ribbons|goujons|fingers)\b",
    re.IGNORECASE,
)
_BROKEN_TO = re.compile(
    r"\b(?:to|into) (?:an? )?(?:\w+ )?(crumbs|breadcrumbs|paste|powder|pulp|puree|rubble|dust|shreds)\b", re.IGNORECASE
)
# A part of it: "half the sauce", "2 tbsp", "some".
_KEPT_BACK = re.compile(
    r"\b(?:half(?! (?:an? )?hour)|some|a third|a quarter|a little|a few|a (?:ladle|spoon)ful"
    r"|\d+ ?(?:tbsp|tsp|ml|g|cups?|spoonfuls?))\b",
    re.IGNORECASE,
)
# "Pour half over the chicken", "reserve the other half": what is left is what it was.
_FIRST_HALF = re.compile(r"^\w+ (?:about )?(?:half|a third|two thirds|a quarter|most|some)\b", re.IGNORECASE)
_TO_CRUMBS = frozenset({"crush", "bash", "smash", "blitz", "crumble", "whizz", "pulse", "blend", "grind"})
_ONLY_THE_JUICES = re.compile(
    r"^\w+ (?:off )?(?:all |any |most of )?(?:the |its |their )?(?:cooking |pan )?"
    r"(?:juices?|liquid|liquor)\b(?! (?:and|over|back))",
    re.IGNORECASE,
)
_INTO_THE_HOT = re.compile(
    r"^\w+ (?:[\w-]+ ){0,4}?(?:back )?in\b"
    r"(?! (?:the|a|an|your|another|cold|hot) (?:bowl|fridge|freezer|bag|tub|box|dish|jug|cold))",
    re.IGNORECASE,
)
_NAMES_THE_COLD = re.compile(r"\b(?:fridge|freezer|refrigerator|chiller|cool ?room|ice)\b", re.IGNORECASE)
_GOES_ON_FOR = ("cover", "repeat", "continue", "turn")
_IN_HOT_FAT = re.compile(
    r"\bin(?:to)? (?:[\w-]+ ){0,4}?(?:hot|smoking|sizzling|foaming) (?:oil|fat|butter|dripping)\b(?! sauce)",
    re.IGNORECASE,
)
_DONE_AT_ONCE = frozenset({"rinse", "peel", "grate"})
_COLD = re.compile(r"\b(?:fridge|freezer|cold|cool|chill|ice)", re.IGNORECASE)
# The other hand holds the food.
_WORKED_BY_HAND = frozenset({"cut", "peel", "grate", "rinse"})


def _handles() -> frozenset[str]:
    """Kinds of tool that work food without a hand on it."""
    return carrier_kinds("utensils") | carrier_kinds("machines")


def _is_part_of_washing(order: Order, tools: Sequence[str]) -> bool:
    """ "Pour to rinse, dry with paper": hands that are being washed, and no work on anything else."""
    return order.do in ("pour", "rinse", "wipe", "touch", "rest") and all("towel" in tool for tool in tools)


class StepReader(Remembered):
    """Reads orders into steps, one after another."""

    def _is_of_kit(self, order: Order, tools: Sequence[str]) -> bool:
        """ "Soak the skewers", "grease the tin": no food of the recipe."""
        if order.do == "brush":
            return any(self.kitchen.tools[tool] in VESSELS for tool in tools)
        return bool(tools) and order.verb == "soak" and PRONOUN.search(order.text) is None

    def _is_of_before(self) -> bool:
        """True if the last step was read from a sentence before this one."""
        return len(self.kitchen.steps) == self.began_at

    def _originals(self, order: Order) -> list[str]:
        """The ingredients that an order names, whatever they have gone into."""
        return [name for _, names in mentions(self.kitchen, self._text_of(order)) for name in names]

    def _on_the_heat(self, step: ReadStep, order: Order, source: str) -> None:
        """ "Tip the chicken in, 6 mins": into a pan that is on the heat, the time is the heat's."""
        named = {tool.kind for tool in tools_in(order.text)}
        if named and named <= {"plate", "board", "rack"}:
            return  # "next to it on a plate, one minute"
        tools = [*step.tools, self.kitchen.vessel or ""]
        hot = any(self.kitchen.tools.get(tool) in ON_THE_HEAT for tool in tools) or _IN_HOT_FAT.search(order.words)
        cooking = None if hot else self._cooking_in(step)
        if self.kitchen.off_heat or not (hot or cooking):
            return
        self.kitchen.vessel = cooking or self.kitchen.vessel
        step.active_min = step.waiting_min = 0.0
        step.low_min = None
        self.step(replace(order, do="heat", verb="cook", text="cook it", lead="", object_of=""), source)

    def step(self, order: Order, source: str) -> None:
        """Reads one order into a step, or into the step before that it goes on with."""
        kitchen = self.kitchen
        if order.do == "timed" and self.heated_for == time_of(order):
            return  # the words of the order before, which was given its time already
        if order.do == "list" and self.laying:
            kitchen.set_out = self._foods(order)
            return
        self._back_in_the_fat(order)
        order = self._as_work(order)
        if order.oven_c is not None and order.do in ("none", "heat"):
            kitchen.oven_c = order.oven_c
        if self._keeps_back(order, source):
            return
        if order.do in ("none", "topic"):
            self._tastes_raw(order, source)
            self._set_up(order, source)
            return
        self.becomes = None
        foods = self._foods(order)
        tools, guesses = self._tools(order, foods)
        washes = self.washing and not (foods or order.object_of) and _is_part_of_washing(order, tools)
        if washes or self._goes_on(order, foods, tools):
            return
        self.washing, self.count = order.do == "wash_hands", self.count + 1
        step = ReadStep(id=f"s{self.count}", do=order.do, text=order.words, source=source, guesses=guesses, tools=tools)
        apart = not foods or PRONOUN.search(order.text)  # a pronoun may mean what the order names itself
        if (not foods and self._is_of_kit(order, tools)) or (apart and self._is_of_another(order, tools, foods)):
            return
        if not foods and order.do not in OF_NO_FOOD:
            foods = self._understood(order, tools)
            self.lost |= not foods  # nothing is in hand that it could mean: somebody has to say
            if not foods:
                return
            step.guesses = [*step.guesses, "foods"] if not PRONOUN.search(order.text) else step.guesses
        elif self._is_unsure(order, foods):
            step.guesses = [*step.guesses, "foods"]
        step.do = self._cooked_through(order, foods)
        step.guesses = [*step.guesses, *self._left_open(step, order, foods)]
        if order.do == "coat" and kitchen.set_out and not set(foods) & set(kitchen.set_out):
            foods, kitchen.set_out = [*foods, *kitchen.set_out], []
        self._done_to(step, order, foods, source)

    def _done_to(self, step: ReadStep, order: Order, foods: list[str], source: str) -> None:
        """Puts down a step with the foods that it works on, and what the kitchen is like after it."""
        kitchen = self.kitchen
        water = _WATER_OVER.match(order.text) and step.guesses  # over what lies in a bowl that is named, it is in there
        if order.do == "pour" and (_ONLY_THE_JUICES.match(order.text) or water):
            step.tools = []  # what it ran from stays where it is, what is under the water in something of its own
        self.either = False
        step.foods = self._with_contents(order, foods, step.tools)
        step.guesses = list(dict.fromkeys([*step.guesses, *(["foods"] if self.either else [])]))
        self._back_in_its_pan(step, order)
        step.hands = [PERSON] if self._by_hand(order, step, foods) else []
        if step.hands and order.do not in _WORKED_BY_HAND and not _HANDS.search(order.words):
            step.guesses = [*step.guesses, "hands"]
        self._times(step, order)
        self._make(step, order)
        if step.makes and order.do in ("pour", "garnish", "mix", "transfer") and _FIRST_HALF.search(order.text):
            parts = [name for name in step.foods if kitchen.foods[name].made]
            kitchen.divided = parts[0] if len(parts) == 1 else ""
        self._name_by_shape(step, order, foods)
        out = _OUT_OF_IT.search(order.words) is not None
        if step.do in ("transfer", "touch", "pour") and (out or not _STAYS.search(order.words)):
            self._lifted_out(step, self._originals(order), out=out)
        step.after = self._after(step)
        kitchen.steps.append(step)
        self._remember(step)
        self._in_its_pan(step, order, source)

    def _back_in_its_pan(self, step: ReadStep, order: Order) -> None:
        """ "Return the beef": into the pan in use."""
        vessel = self.kitchen.vessel
        inside = self.kitchen.holds.get(vessel or "", [])
        if order.verb == "return" and vessel and not step.tools and set(inside) & set(step.foods):
            step.tools = [vessel]
            step.guesses = [*step.guesses, "vessel"]

    def _name_by_shape(self, step: ReadStep, order: Order, foods: Sequence[str]) -> None:
        """What was mashed may be called mash from here on, what was cut into strips strips."""
        if order.verb == "mash" and len(step.foods) == 1 and not step.makes:
            self.kitchen.also_called(step.foods[0], ("mash",))
        crumbs = _BROKEN_TO.search(order.text) if len(foods) == 1 and not step.makes else None
        if len(foods) == 1 and not step.makes and order.verb in _TO_CRUMBS:
            self.kitchen.also_called(foods[0], ("crumb",))  # "crush the biscuits, mix with the crumbs"
        if crumbs:
            self.kitchen.also_called(foods[0], stem_words(crumbs[1]))
        shape = _CUT_INTO.search(order.text) if step.do == "cut" and len(foods) == 1 else None
        if shape:
            self.kitchen.also_called(foods[0], stem_words(shape[1]))

    def _back_in_the_fat(self, order: Order) -> None:
        """ "Into the fat that's left": into the pan that something was fried in."""
        kitchen = self.kitchen
        if FAT_LEFT.search(order.words) and not self._is_hot(kitchen.vessel):
            hot = [tool for row in kitchen.steps for tool in row.tools if kitchen.tools[tool] in ON_THE_HEAT]
            kitchen.vessel = hot[-1] if hot else kitchen.vessel

    def _in_its_pan(self, step: ReadStep, order: Order, source: str) -> None:
        """Heats what went into a pan on the heat for the time that the same words give."""
        if _LAST_MINUTE.search(order.words):
            order = replace(order, low_min=order.low_min or 1.0, high_min=order.high_min or 1.0)
        if self._before_its_end(step, order, source):
            return  # it goes into what cooks already
        if (
            step.do == "pour"
            and order.high_min
            and self.kitchen.oven_c
            and re.search(r"\bset\b|\bgolden\b", order.words)
        ):
            heat = replace(order, do="heat", verb="bake", text="bake it", lead="", object_of="")
            step.active_min, step.waiting_min, step.low_min = 0.0, 0.0, None
            self.step(heat, source)  # "oven 180. ... pour the egg in, 18-20 mins, must be set"
            return
        hot = self.kitchen.oven_c and not _NAMES_THE_COLD.search(self.whole)
        if step.do == "transfer" and order.high_min and hot and _INTO_THE_HOT.search(order.text):
            step.active_min, step.waiting_min, step.low_min = 0.0, 0.0, None
            self.step(replace(order, do="heat", verb="bake", text="bake it", lead="", object_of=""), source)
            return  # "fish goes in under the chips for the last 12 minutes"
        if self._lies_in_the_oven(step, order):
            step.active_min, step.waiting_min, step.low_min = 0.0, 0.0, None
            self.step(replace(order, do="part_cook", verb="bake", text="bake it", lead="", object_of=""), source)
            self.kitchen.steps[-1].guesses = [*self.kitchen.steps[-1].guesses, "guess"]
            return
        # "Poke the prawns in, until every one is pink", "break it about till there's no pink left".
        tucked = step.do in ("touch", "cut") and looks_cooked(order.until)
        if not (step.do in ("mix", "transfer", "garnish") or tucked) or _AFTERWARDS.search(order.words):
            return
        if step.do == "garnish" and order.oven_c and order.high_min:  # "fish on, 200 degrees, 20 minutes"
            self.step(replace(order, do="heat", verb="bake", text="bake it", lead="", object_of=""), source)
        elif order.high_min or looks_cooked(order.until):
            self._on_the_heat(step, order, source)
            if self.kitchen.steps[-1].do in ("heat", "part_cook"):
                self.heated_for = time_of(order)

    def _cooked_with(self, step: ReadStep) -> ReadStep | None:
        """The heat that what a step puts together was on before, where it is on it still."""
        if not step.makes or step.do not in ("mix", "transfer", "garnish", "pour"):
            return None
        heats = [row for row in self.kitchen.steps if row.do in ("heat", "part_cook") and row is not step]
        held = {self.kitchen.current(name) for name in (heats[-1].foods if heats else ())}
        return heats[-1] if self.kitchen.current(step.makes) in held else None

    def _before_its_end(self, step: ReadStep, order: Order, source: str) -> bool:
        """ "With six minutes left, stir in the peas": the cook is parted where they go in, and True. Other work that is
        done by then takes no such time."""
        staged = minutes_before_the_end(order.words)
        if not staged or step.do in ("heat", "part_cook"):
            return False
        cook = self._cooked_with(step)
        if cook is not None or step.do not in ("transfer", "chill", "rest", "marinate", "freeze"):
            step.active_min = step.waiting_min = 0.0
            step.low_min = None
        if cook is not None:
            last = replace(order, do="heat", verb="cook", text="cook it", lead="", object_of="", until=cook.until)
            self.step(replace(last, low_min=staged, high_min=staged, core_c=cook.core_c, oven_c=cook.oven_c), source)
            rest = self.kitchen.steps[-1]
            if rest is step:  # nothing was understood to cook on: the cook stays whole, and somebody looks
                step.guesses = [*step.guesses, "time"]
                return True
            part_cook(cook, rest, staged)
            self.heated_for = time_of(order)
        return cook is not None

    def _keeps_back(self, order: Order, source: str) -> bool:
        """ "Set aside 2 tbsp of the sauce": a part of what was made, which has a way of its own from here on."""
        kitchen = self.kitchen
        if order.verb not in word_set("made", "kept") or not _KEPT_BACK.search(order.text):
            return False
        if order.verb == "put" and not re.search(r"\b(?:aside|by|away|to one side|in the fridge)\b", order.text):
            return False  # "put a spoonful of filling on each circle"
        meant = self._meant() if order.verb in ("set", "reserve") else []
        left = kitchen.divided if OTHER_HALF.search(order.text) else ""
        foods = [left] if left in kitchen.foods else self._foods(order) or meant
        if len(foods) != 1 or not kitchen.foods[foods[0]].made:
            return False
        whole = kitchen.foods[foods[0]]
        self.count += 1
        step = ReadStep(id=f"s{self.count}", do="transfer", text=order.words, source=source, foods=[whole.id])
        step.makes = first_free((f"reserved {whole.id}",), f"reserved {whole.id}", {*kitchen.foods, *kitchen.tools})
        step.hands = [PERSON] if whole.raw else []
        step.guesses = ["hands"] if whole.raw else []
        if left:  # it was parted when the first half went elsewhere, not after
            used = [i for i, row in enumerate(kitchen.steps) if left in row.foods]
            parted_at = used[0] if used else len(kitchen.steps)
            step.after = [row.id for row in kitchen.steps[:parted_at] if row.makes == left]
            kitchen.steps.insert(parted_at, step)
        else:
            step.after = self._after(step)
            kitchen.steps.append(step)
        nouns = {*made_nouns(), *(name[-1] for name in whole.names)}
        kitchen.put(
            replace(
                whole,
                id=step.makes,
                into=None,
                called=True,
                names=[("reserved", noun) for noun in sorted(nouns)] + [("reserved",)],
            )
        )
        return True

    def _by_hand(self, order: Order, step: ReadStep, named: Sequence[str]) -> bool:
        """True if hands touch the food: said, or the only way that the work is done. How a raw food is
        moved is never taken for clean: where nothing says how, hands did it."""
        if order.do in _NO_HANDS:
            return False
        if _HANDS.search(order.words):
            return True
        if _IN_ITS_DISH.search(order.text) and any(
            self.kitchen.tools[tool] in VESSELS for tool in (*step.tools, self.kitchen.vessel or "") if tool
        ):
            return False  # the dish is moved, not what is in it
        held = "tools" not in step.guesses and any(self.kitchen.tools[tool] in _handles() for tool in step.tools)
        if held and order.do not in _WORKED_BY_HAND:
            return False
        if order.verb == "butter" and any(self.kitchen.foods[name].group == "bread" for name in named):
            return True  # bread is held while it is buttered
        if order.do in ("pour", "brush") or order.verb in word_set("hands", "without"):
            return False
        if order.do == "transfer" and named and self._hot_in_the_pan(named):
            return False
        # What is only in the pan already is not touched by adding more to it.
        joins = order.do in ("garnish", "transfer") or order.verb in ("add", "season", "salt")
        touched = named if joins and named else step.foods
        raw = any(self.kitchen.foods[name].raw for name in touched)
        return raw or order.do not in ("mix", "garnish") or order.verb in word_set("hands", "always")

    def _hot_in_the_pan(self, named: Sequence[str]) -> bool:
        """True for food that has been heated and still lies in what it was heated in: no hand goes in there."""
        foods = [self.kitchen.current(name) for name in named]
        hot = [tool for tool, kind in self.kitchen.tools.items() if kind in ON_THE_HEAT]
        held = {name for tool in hot for name in self.kitchen.holds.get(tool, ())}
        return all(name in held and self.kitchen.foods[name].heated for name in foods)

    def _cooked_through(self, order: Order, foods: list[str]) -> str:
        """Browning whole pieces of raw meat cooks the outside only."""
        raw = any(self.kitchen.foods[name].raw for name in foods)
        in_part = leaves_raw(order, self.whole) or self._only_looks_so(order, foods) or self._is_of_some(order, foods)
        return "part_cook" if (raw and in_part) or is_held_hot(order) else order.do

    def _only_looks_so(self, order: Order, foods: Sequence[str]) -> bool:
        """True for a cook that nobody ordered and only a look tells of ("keep stirring until the yoghurt is thick"),
        with meat in it that the look says nothing of: nobody may go by it."""
        told = order.high_min is not None or order.core_c is not None or meat_looks_done(order.until)
        said = re.match(r"cook(?! it$)", order.text, re.IGNORECASE) is not None
        inferred = order.verb == "cook" and not said
        return order.do == "heat" and inferred and not told and any(map(self._is_meat, foods))

    def _set_up(self, order: Order, source: str) -> None:
        """Preheating, covering, turning down: no step, though a time or an end may belong to the last one."""
        kitchen = self.kitchen
        if self._takes_fresh_kit(order.text):
            return
        if order.verb in ("get", "grab", "fetch", "collect"):  # "get the mince from the teacher, add it"
            named = [kitchen.current(name) for _, names in mentions(kitchen, order.text) for name in names]
            kitchen.last = list(dict.fromkeys(named)) or kitchen.last
        if order.verb in ("make", "start", "begin", "do", "prepare"):
            parts = self._part_words()
            kitchen.part_now = next((parts[word] for word in stem_words(order.text) if word in parts), kitchen.part_now)
        if order.do == "topic":
            kitchen.last = self._foods(order) or kitchen.last
            return
        named = (
            self._named_foods(order)
            if order.verb
            in ("start", "get", "take", "set", "use", "grab", "fetch", "begin", "buy", "lay", "check", "cover", "lid")
            else []
        )
        if order.verb == "open":  # "open the tin and press out the oil"
            named = self._bought_in(order.text)
        if order.verb == "discard":  # "discard the milk": what lay in it stays in hand
            gone = {kitchen.current(name) for _, names in mentions(kitchen, order.text) for name in names}
            kitchen.last = [name for name in kitchen.last if name not in gone] or kitchen.last
        self.laying = re.match(r"(?:set|lay) out\b", order.text, re.IGNORECASE) is not None
        if named and self.laying:
            kitchen.set_out = named
            return
        kitchen.last = named or kitchen.last
        pans = [tool for tool in tools_in(order.text) if tool.kind in ON_THE_HEAT]
        if pans and re.search(r"\bhot\b|\bheat|\bsmoking\b", order.text):
            kitchen.vessel = self._tool(pans[-1])
            oil = [name for name in kitchen.last if kitchen.foods[name].group in FATS and not kitchen.foods[name].into]
            if named and oil:  # "get a pan hot with a splash of oil in it"
                kitchen.holds[kitchen.vessel] = oil
            return
        last = kitchen.steps[-1] if kitchen.steps else None
        looks = order.verb in ("keep", "continue") and looks_cooked(order.until) and not _COLD.search(order.words)
        if last is None or not (looks or (order.high_min and order.verb in _GOES_ON_FOR)):
            return
        if looks and last.do in ("mix", "transfer", "pour", "garnish") and self._is_hot(kitchen.vessel):
            self._stands_or_cooks(order, source)  # "keep pulling the edges in until it is set"
        elif last.do in ("heat", "rest") and not last.waiting_min + last.active_min:
            self._times(last, order)
            self.went_on |= self._is_of_before()
        elif order.verb in ("cover", "turn") and last.do in ("mix", "transfer", "garnish", "pour", "heat", "part_cook"):
            self._stands_or_cooks(order, source)

    def _stands_or_cooks(self, order: Order, source: str) -> None:
        """ "Lid on, turn right down, 35 minutes": what is in the pan cooks on; "out, cover with foil, 30 minutes": what
        nobody says is on the heat still only stands."""
        hot = self._is_hot(self.kitchen.vessel) and not self.kitchen.off_heat
        told = LOW_HEAT.search(order.words) or looks_cooked(order.until) or self._simmers_raw()
        away = re.search(r"\b(?:out|foil|off|aside|cloth|towel|cling ?film|plate)\b", order.words)
        do, verb = ("rest", "leave") if away or not hot or not told else ("heat", "cook")
        self.step(replace(order, do=do, verb=verb, text=f"{verb} it", lead=order.words, object_of=""), source)

    def _goes_on(self, order: Order, foods: list[str], tools: list[str]) -> bool:
        """True if an order only continues the last step: "put in the oven and bake", "bring to the
        boil, then simmer"."""
        last = self.kitchen.steps[-1] if self.kitchen.steps else None
        named = bool(mentions(self.kitchen, order.text))
        if last is not None and self._stays_in_the_oven(order, last, foods):
            self._times(last, order)
            last.text = f"{last.text}, {order.words}"
            return True
        twice = last is not None and order.do == last.do == "probe" and not self._is_of_before() and not named
        if last is not None and twice and (order.core_c is None or last.core_c in (None, order.core_c)):
            last.core_c = order.core_c or last.core_c  # "probe the middle - 75C": said in two pieces
            return True
        in_it = last is not None and order.verb == "add" and last.do == "mix" and foods == [last.makes]
        if in_it and not self._dressed(order.text, foods):
            return True  # "fold the cream through the chocolate, then the whites": they are in it
        shaped = order.do == "touch" and order.verb in word_set("made", "shaping") and " into " in order.text
        if last is None or order.do != last.do or order.do not in _CONTINUING or shaped:
            return False
        if order.do == "heat" and not foods and self._fit_for(order, list(last.foods)) != last.foods:
            return False  # "fry the rice. 4 minutes a side": of the steak that waits
        if not foods and self.labelled and self.labelled.isdisjoint((*last.foods, last.makes)):
            return False  # "Spinach: wash, wilt": not the fish that was baked before
        new = [food for food in foods if food not in last.foods and food != last.makes]
        if order.do == "heat" and not foods and all(self.kitchen.foods[name].group == "oil" for name in last.foods):
            return False  # the oil is hot: what is fried is another matter
        if order.do in ("clean", "wash_hands") and [tool for tool in tools if tool not in last.tools]:
            return False
        if is_held_hot(order) or new or (last.active_min + last.waiting_min and order.high_min and order.do == "heat"):
            return False
        if last.active_min + last.waiting_min and order.high_min:
            return False
        self.went_on |= self._is_of_before()
        self._times(last, order)
        last.text = f"{last.text}, {order.words}" if order.words not in last.text else last.text
        last.until = order.until or last.until
        last.core_c = last.core_c or order.core_c
        last.level = last.level or order.level
        last.tools = list(dict.fromkeys((*last.tools, *tools)))
        return True

    def _stays_in_the_oven(self, order: Order, last: ReadStep, foods: list[str]) -> bool:
        """ "... into the oven, where it is left for three hours": the heat's time."""
        own = order.do == "rest" and order.verb in ("leave", "keep") and order.high_min is not None
        timed = last.active_min + last.waiting_min
        return (
            own and last.do == "heat" and "oven" in last.tools and not timed and set(foods) <= set(last.foods)
        ) and not re.search(r"\b(?:cool|rest|stand|out|off)\b", order.words)

    def _times(self, step: ReadStep, order: Order) -> None:
        minutes = order.high_min or 0.0
        if minutes > vocabulary()["times"]["longest_by_hand_min"] and step.do in _DONE_AT_ONCE:
            minutes = 0.0  # "rinse till clear, 12 min lid on": of something that was not understood, and asked about
        if minutes:
            waits = step.do in _WAITING_DO or order.verb in vocabulary()["waiting"]["verbs"].split() or minutes >= 25
            step.active_min, step.waiting_min = (0.0, minutes) if waits else (minutes, 0.0)
            step.low_min = order.low_min
        step.until = order.until or step.until
        step.core_c = order.core_c or step.core_c
        step.level = order.level or step.level
        if step.do == "heat":
            in_oven = "oven" in step.tools
            step.oven_c = order.oven_c or (self.kitchen.oven_c if in_oven else None) or step.oven_c

    def _after(self, step: ReadStep) -> list[str]:
        """The last step that worked on each of its foods, or made one."""
        wanted = set(step.foods)
        after = []
        for earlier in reversed([row for row in self.kitchen.steps if row is not step]):
            touched = (set(earlier.foods) | {earlier.makes}) & wanted
            if touched:
                after.append(earlier.id)
                wanted -= touched
        return list(reversed(after))

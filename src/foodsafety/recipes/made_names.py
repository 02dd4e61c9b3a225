"""What is made and what it is called: by the text, by its part of the dish, by the title, else by its
chief food and what has been done to it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import pairwise

from foodsafety.foods import stem, stem_words
from foodsafety.recipes.dish_names import dish_in_opening
from foodsafety.recipes.kitchenware import Kitchenware
from foodsafety.recipes.mentions import (
    NOT_MIXTURES,
    PLAIN_GROUPS,
    FoodInHand,
    made_match,
    mentions,
)
from foodsafety.recipes.order import Order
from foodsafety.recipes.proposed_steps import ReadStep, all_in
from foodsafety.recipes.verb_forms import verb_forms
from foodsafety.recipes.vessels import tools_in
from foodsafety.recipes.words import (
    FATS,
    ORDINALS,
    dish_words,
    first_free,
    made_nouns,
    names_nothing,
    verb_classes,
    vocabulary,
    word_set,
)

# Cut so, it falls onto what is in the vessel in use.
FALLS_ON = re.compile(
    r"\bover (?:the top|it|them|everything|the lot)\b|\bon top\b|\bstraight in\b(?!to)", re.IGNORECASE
)
_OF_KIT = re.compile(
    r"\S+[\s-]+(?:siz|shap|sheet|tin|dish|bowl|cutter|case|paper|board|pan|wheel|brush|bag|plate|platter|jar|box|tub"
    r"|spinner|server)"
)
JOINS = frozenset({"mix", "coat", "marinate"})
# "In your biggest casserole": kit.
_AS_KIT = r"\b(?:in|into|to|from|onto|of) (?:an?|the|that|your|this|its)(?: [a-z-]+){0,2} %s\b"
# "The soup", "any more curry"; never "curry powder".
_SPOKEN_OF = (
    r"\b(?:the|this|that|your|my|any|more|of) (?:[a-z-]+ )?%ss?\b"
    r"(?! (?:powder|paste|lea|sauce|base|mix|tin|dish|stock|flour|crumb|wheel|oven|stone|cutter|pan|pot|bowl))"
)
# Groups of food whose mixture with flour is no dough or pastry.
_NEVER_IN_DOUGH = (
    "vegetable",
    "allium",
    "brassica",
    "stock",
    "pulse",
    "poultry",
    "meat",
    "mince",
    "fish",
    "sausage",
    "root",
)
# Work after which made food may have another name.
_GOES_ON_AS = frozenset({"touch", "transfer", "cut", "heat", "part_cook", "chill", "rest", "mix", "freeze"})
_PUTS_TOGETHER = frozenset("mix whisk combine shake blend stir beat whizz blitz".split())
_TAKEN_OUT = re.compile(r"\b(?:lift|take|get|fish|pull)s? (?:it|them) out\b(?! of the (?:fridge|oven))", re.IGNORECASE)
# "We eat it with bread": no stew, though there is flour in it.
_BOUGHT = frozenset({"bread", "bun", "loaf"})
# "Put everything back in together", in the pan: what was cooked.
ALL_BACK = re.compile(
    r"\b(?:everything|all of it|the lot|it all) back\b"
    r"(?! (?:in|into|to) (?:the |your )?(?:fridge|freezer|cold|cupboard))",
    re.IGNORECASE,
)


def _root(made: str) -> str:
    """What a mixture was first called, before more went in."""
    return re.sub(r" with .+$| \d+$", "", re.sub(rf"^(?:seasoned|finished|{'|'.join(ORDINALS)}) ", "", made))


def _is_form_of(word: str, verb: str) -> bool:
    return any(form.verb == verb for form in verb_forms().get(word, ()))


class MadeNames(Kitchenware):
    """Food that is made while the text is read, and its names."""

    def _called(self, text: str, named: Sequence[str], *, verb: str, implied: bool) -> list[str]:
        """A name for made food that no one has given yet: "over the cold cake", "the raita". It is
        given to what it most likely means, and kept."""
        ids: list[str] = []
        words = [(match[0].lower(), match.start()) for match in re.finditer(r"[^\W\d_]+(?:-[^\W\d_]+)*", text)]
        for k, (word, at) in enumerate(words):
            noun = stem(word)
            before = [w for w, _ in words[max(0, k - 3) : k]]
            if before[-1:] in (["into"], ["in"]) and verb_classes().get(verb) == "cut":
                continue  # "cut them into wedges": a shape
            listed = len(named) > 1 and re.search(r"(?:,|\band|\+)\s*$", text[:at]) is not None
            told = [w for w in before if not _is_form_of(w, verb)]
            white = noun == "sauce" and before[-1:] in (["white"], ["cheese"])
            floury = self._floury_sauce() if white else None
            # What is named already keeps its name while the order is read.
            if floury is not None and floury not in (*ids, *named):
                ids.append(self._call(floury, f"{before[-1]} sauce"))
                continue
            if noun == stem(verb) or not self._may_be_called(noun, told, text[at:], listed=listed):
                continue
            if self._is_bought(word, words[k + 1][0] if k + 1 < len(words) else "") or tools_in(word):
                continue
            found = self._likely_made(noun, (*ids, *named), implied=implied)
            if found is None and (verb in _PUTS_TOGETHER or noun == "topping"):
                ids += self._of_the_part(noun)  # "mix the marinade": what is listed for it
            if found is not None:
                ids.append(self._call(found, word))
        return ids

    def _is_bought(self, word: str, after: str) -> bool:
        """True for the name of an ingredient, alone or with the word after it: "the chilli flakes"."""
        both = any(place == 0 for place, _ in mentions(self.kitchen, f"{word} {after}"))
        return both or bool(mentions(self.kitchen, word))

    def _may_be_called(self, noun: str, before: Sequence[str], rest: str, *, listed: bool = False) -> bool:
        """True if a word may stand for something made: a dish or a part of one, after "the", "each" or
        a food that it goes with."""
        if noun not in dish_words("dishes") and noun not in self._part_words():
            return False
        if re.match(r"\S+ (?:of|from)\b", rest):
            return False  # "wedges from the lime": a part of it
        if noun == "finger" and not {"your", "the", "his", "her", "their", "with", "between"}.isdisjoint(before):
            return False
        if _OF_KIT.match(rest) or (before and before[-1] not in ("cup", "cups") and tools_in(before[-1])):
            return False  # "on the grill bars"
        # "Loaves on to the racks": the first word, and several.
        if listed and re.match(r"\S+(?:[,.;]|$| and\b)", rest):
            return True  # "lettuce, burger, tomato, lid"
        # "Mix crust": a part that the list has, right behind the verb.
        several = not before and (
            noun in dish_words("cold") | word_set("made", "grows") | word_set("made", "stirred_up")
            or noun in self._part_words()
            or re.match(r"\S{3,}s\b", rest) is not None
        )
        return several or not word_set("made", "after").isdisjoint(before)

    def _of_the_part(self, noun: str) -> list[str]:
        """What is listed for a part of the dish and has gone into nothing yet."""
        part = self._part_words().get(noun)
        fresh = [f.id for f in self.kitchen.foods.values() if f.part == part and not f.made and not f.into]
        return fresh if part and len(fresh) > 1 else []

    def _part_words(self) -> dict[str, str]:
        """The last word of each part of the dish that the list has, and the part; and the title's words."""
        parts = {food.part for food in self.kitchen.foods.values() if food.part}
        return {stem_words(part)[-1]: part for part in parts if stem_words(part)}

    def _likely_made(self, noun: str, taken: Sequence[str], *, implied: bool) -> str | None:
        """What a word for made food most likely means: the part of the dish so called, what is of its
        sort, else what is in hand."""
        kitchen = self.kitchen
        free = [food for food in kitchen.foods.values() if food.made and not food.into and food.id not in taken]
        part = self._part_words().get(noun)
        if part:
            own = [food for food in free if food.part == part]
            return own[-1].id if own else None
        if noun in dish_words("cold"):
            # Never what is still raw.
            free = self._of_cut_leaves(noun, [food for food in free if not food.raw and not food.heated])
        elif noun in dish_words("of_flour"):
            free = [f for f in free if self._holds_flour(f.id) and not (noun in _BOUGHT and self._holds_meat(f.id))]
            if not free:
                return None  # "soup, bread": bread that is bought
        elif noun in dish_words("floury"):
            # A dough is never what has been cooked: "separate the dough", out of a tin.
            fresh = [food for food in free if not (food.heated and noun == "dough")]
            free = [food for food in fresh if self._holds_flour(food.id)] or fresh
            waits = any(food.group == "flour" and not food.used for food in kitchen.foods.values())
            if not free or (noun == "dough" and waits and not self._holds_flour(free[-1].id)):
                return None  # nobody has made it of the flour yet: what is in hand is none
        elif noun in word_set("made", "put_inside") and implied and any(f.id in self._meant() for f in free):
            # "Pour over the filling": on what lies there.
            free = [food for food in free if food.id not in self._meant()]
        elif noun in word_set("made", "put_inside"):
            free = [food for food in free if not self._holds_flour(food.id)] or free
        elif noun in NOT_MIXTURES:
            free = [food for food in free if self._holds_meat(food.id)] or free  # a burger is no slaw
        elif noun == "mash":
            free = [food for food in free if not self._holds_meat(food.id)]
            roots = [f.id for f in kitchen.foods.values() if f.group == "starchy root" and f.heated and not f.into]
            if not free:
                return next(iter(roots), None)  # the potatoes that were boiled, if nobody said "mash" before
        elif noun == "sauce":
            free = [f for f in free if f.heated or not (f.raw and self._holds_meat(f.id))]  # no dough of mince is one
            free = [f for f in free if ("mash",) not in f.names] or free  # the mash that was made meanwhile is none
            if not free:
                return None
        elif noun in dish_words("hot_ones"):
            free = [food for food in free if food.heated] or free
        if self.dish and noun == stem(self.dish.split()[-1]) and free:
            return max(free, key=lambda food: len(self._base_of([food.id]))).id  # the dish is most of it
        if free:
            # What is in hand, unless that is what the order works on without saying so.
            return next((food for food in free if (food.id in self._meant()) != implied), free[-1]).id
        worked = [name for name in self._meant() if name not in taken]
        if noun in {stem(word) for word in word_set("made", "never_meat")}:
            worked = [name for name in worked if not self._holds_meat(name)]
        if noun in dish_words("cold"):
            worked = [name for name in worked if not (kitchen.foods[name].raw or kitchen.foods[name].heated)]
        return worked[0] if worked else None

    def _of_cut_leaves(self, noun: str, free: Sequence[FoodInHand]) -> list[FoodInHand]:
        """ "Pile on the slaw", beside the sauce made after it: what holds what was cut or grated for it."""
        cut = {name for step in self.kitchen.steps if step.do in ("cut", "grate") for name in step.foods}
        of_those = [food for food in free if len(cut & self._base_of([food.id])) > 1]
        return of_those if of_those and noun in word_set("made", "of_cut_leaves") else list(free)

    def _floury_sauce(self) -> str | None:
        """ "The white sauce", beside the one of tomatoes: what was made of flour and milk."""
        free = [food.id for food in self.kitchen.foods.values() if food.made and not food.into]
        groups = {name: {self.kitchen.foods[at].group for at in self._base_of([name])} for name in free}
        return next((n for n in reversed(free) if {"flour", "milk"} <= groups[n] and not self._holds_meat(n)), None)

    def _holds_flour(self, name: str) -> bool:
        return any(self.kitchen.foods[at].group in ("flour", "pastry") for at in self._base_of([name]))

    def _call(self, name: str, word: str) -> str:
        """Gives made food the word the text has for it; one that we named ourselves gets it as its name."""
        food = self.kitchen.foods[name]
        self.kitchen.also_called(name, stem_words(word))
        titled = word in self.title.lower() and name.split()[0] not in self.title.lower()
        if food.made and food.called and titled:
            self.becomes = (name, word)  # dough until here, dumplings from here on
            return name
        return self.kitchen.rename(name, word) if food.made and not food.called else name

    def _make(self, step: ReadStep, order: Order) -> None:
        """Joining several foods makes a new one; shaping may only name it."""
        made = made_match(order.text)
        lead = re.match(r"for the ([a-z]+)\b", order.lead, re.IGNORECASE)
        named = made[0] if made else lead[1].lower() if lead and stem(lead[1].lower()) in made_nouns() else None
        if not named and self.headed and self.headed not in self.kitchen.foods and self._begins_the_headed(step):
            named = self.headed
        joins = step.do in JOINS or step.do in ("heat", "transfer", "pour", "touch", "brush", "garnish")
        joins = joins and order.verb not in ("drain", "strain")
        joins = joins or (step.do in ("grate", "cut", "peel") and self._falls_into(order, step.foods))
        if joins and len(step.foods) > 1:
            part = self._shared_part(step.foods)
            titled = self._titled(step.foods) if not named and not part and not self._one_part(step.foods) else None
            made_already = [name for name in step.foods if self.kitchen.foods[name].made]
            if len(made_already) == 1 and self.kitchen.foods[made_already[0]].called and len(step.foods) < 4:
                titled = None  # the text has a name for it: what is scattered over it gives it no other
            plain = named is not None and stem(named) in word_set("made", "plain")
            own = part or titled or self._floury(step.foods) if plain else None
            mixed = named or part or titled or self._mixture_of(step.foods, cooked=step.do == "heat", verb=order.verb)
            wanted = own or mixed
            step.makes = self._name(wanted, step.foods)
            self._new_food(
                step.makes,
                step.foods,
                called=bool((named and stem(named) not in word_set("made", "plain")) or part or titled),
            )
        elif named and step.foods and named not in self.kitchen.foods and self._names_it(step, order):
            step.makes = self._name(named, step.foods)
            self._new_food(step.makes, step.foods, called=True)
        elif self.becomes is not None and step.foods == [self.becomes[0]] and step.do in _GOES_ON_AS:
            step.makes = self._name(self.becomes[1], step.foods)
            self._new_food(step.makes, step.foods, called=True)
        elif step.do == "heat" and len(step.foods) == 1 and (dish := self._baked(step.foods[0])):
            step.makes = dish
            self._new_food(dish, step.foods, called=True)

    def _begins_the_headed(self, step: ReadStep) -> bool:
        """True for what the sentence's own label names: "Sauce. Put the berries in a pan with the sugar"."""
        fresh = not any(self.kitchen.foods[name].made for name in step.foods)
        return step.do == "mix" or (step.do in ("transfer", "heat") and len(step.foods) > 1 and fresh)

    def _baked(self, name: str) -> str | None:
        """The dish of the title, for a batter or a mixture of most that the list has once it is cooked."""
        food = self.kitchen.foods[name]
        raw_mix = food.made and not food.heated and _root(name).split()[-1] in ("dough", "batter", "mixture", "mix")
        dish = self._titled([name]) if raw_mix else None
        return dish if dish and dish not in self.kitchen.tools and stem(dish) not in dish_words("floury") else None

    def _names_it(self, step: ReadStep, order: Order) -> bool:
        """True for work that may give one food its name: moving it does only where it shapes it ("divide into 8
        koftas", never "transfer to a cake tin")."""
        shapes = step.do == "transfer" and order.verb in word_set("made", "shaping")
        return shapes or step.do in ("touch", "mix", "cut", "heat")

    def _falls_into(self, order: Order, foods: Sequence[str]) -> bool:
        """ "Grate the cucumber into the yoghurt": what is cut falls into another food."""
        if len(foods) > 1 and FALLS_ON.search(order.text.split(",")[0]):
            return True
        found = re.search(r"\b(?:in ?to|over) (?:the |your |that )?(.+)$", order.text, re.IGNORECASE)
        named = (
            {self.kitchen.current(name) for _, ids in mentions(self.kitchen, found[1]) for name in ids}
            if found
            else set()
        )
        return bool(named & set(foods) and set(foods) - named)

    def _lifted_out(self, step: ReadStep, named: Sequence[str], *, out: bool) -> None:
        """Raw food taken out of what it lay in is one food, and what it lay in another: the marinade that
        is left is raw, wherever it goes. ``out``: the text calls it one."""
        kitchen = self.kitchen
        whole = step.foods[0] if len(step.foods) == 1 else ""
        soaked = kitchen.foods.get(whole)
        mains = [name for name in named if name in kitchen.came_raw]
        if not mains and soaked and soaked.soaked and _TAKEN_OUT.search(step.text):  # "take it out"
            mains = [name for name in self._base_of([whole]) if name in kitchen.came_raw]
        if soaked is None or not ((soaked.soaked or out) and soaked.raw) or len(mains) != 1 or step.makes:
            return
        name = first_free((f"marinated {mains[0]}", f"drained {mains[0]}"), mains[0], {*kitchen.foods, *kitchen.tools})
        step.makes = name
        kitchen.put(FoodInHand(id=name, names=list(kitchen.foods[mains[0]].names), made=True, raw=True, called=True))
        kitchen.foods[mains[0]].into = name
        soaked.soaked = False
        kitchen.also_called(whole, ("marinade",))
        if not soaked.called:
            step.foods = [kitchen.rename(whole, "marinade")]

    def _not_gone(self, ids: list[str], order: Order) -> list[str]:
        """ "Butter the muffins", where the butter has gone into the eggs: more of it, and none of the eggs."""
        verb = {name for _, names in mentions(self.kitchen, order.verb) for name in names}
        left = [name for name in ids if name not in verb or not self.kitchen.foods[name].into]
        return left if left and order.verb in word_set("names", "of_verbs") else ids

    def name_the_dish(self) -> None:
        """Calls what most of the list has gone into what the text calls the dish ("soup"), where we named it and
        nothing else is called so."""
        kitchen = self.kitchen
        dish = self._dish_told()
        made = [name for name, food in kitchen.foods.items() if food.made or name == dish]
        plain = sum(not food.made for food in kitchen.foods.values())
        whole = self._most_of_it(plain)
        if dish is None or whole is None or any(set(dish.split()) <= set(name.split()) for name in made):
            return
        # A soup is one from the stock on; a pie is none before it is put together.
        grows = stem(dish) in dish_words("grows") | dish_words("cold")
        least = max(3, (0.25 if grows else 0.6) * plain)
        root = _root(whole.id).removeprefix("cooked ")
        others = [food.id for food in kitchen.foods.values() if food.made and not food.called and food is not whole]
        for name in [whole.id, *others]:  # the last of it has the plain name
            own = _root(name).removeprefix("cooked ") == root and len(self._base_of([name])) >= least
            if name == whole.id or own:
                parts = next((step.foods for step in kitchen.steps if step.makes == name), [])
                kitchen.rename(name, self._name(dish, parts))

    def _most_of_it(self, plain: int) -> FoodInHand | None:
        """What at least half of the list's foods, of which there are ``plain``, have gone into, where we named it."""
        free = [food for food in self.kitchen.foods.values() if food.made and not food.into and not food.called]
        whole = max(free, key=lambda food: len(self._base_of([food.id])), default=None)
        return whole if whole and len(self._base_of([whole.id])) >= max(3, 0.5 * plain) else None

    def _dish_told(self) -> str | None:
        """The title's word for the dish, else the one whole dish that the method speaks of."""
        said = f"the {self.title}\n{self.method}".lower()
        bought = {word for food in self.kitchen.foods.values() if not food.made for word in stem_words(food.id)[-1:]}
        came = {food.group for food in self.kitchen.foods.values() if not food.made}
        # "The bread": a baguette.
        bought |= {word for word, groups in vocabulary()["groups"].items() if came & {*groups}}
        whole = vocabulary()["made"]["whole"].split()
        told = {word for word in whole if stem(word) not in bought and re.search(_SPOKEN_OF % word, said)}
        told = {word for word in told if not (tools_in(word) and re.search(_AS_KIT % word, said))}
        opening = None if self.title.strip() else dish_in_opening(self.method)
        return self.dish or opening or (told.pop() if len(told) == 1 else None)

    def _one_part(self, foods: Sequence[str]) -> bool:
        """True if all that is put together is listed for one part of the dish."""
        return (
            len(
                {food.part for food in map(self.kitchen.foods.__getitem__, foods) if food.group not in PLAIN_GROUPS}
                - {""}
            )
            == 1
        )

    def _titled(self, foods: Sequence[str]) -> str | None:
        """The dish of the title, for what most of the ingredients have gone into."""
        dish = self.dish
        plain = [food for food in self.kitchen.foods.values() if not food.made]
        inside = self._base_of(foods)
        if dish is None or len(inside) < max(4, 0.6 * len(plain)) or dish in self.kitchen.foods:
            return None
        return None if any(food.id.endswith(dish) for food in plain) else dish

    def _base_of(self, foods: Sequence[str]) -> set[str]:
        """The ingredients that foods are made of."""
        return {name for name in all_in(self.kitchen.steps, foods) if not self.kitchen.foods[name].made}

    def _shared_part(self, foods: Sequence[str]) -> str | None:
        """The part of the dish that foods are all listed for, where it has a name of its own."""
        known = [self.kitchen.foods[name] for name in foods]
        parts = {food.part for food in known if food.group not in PLAIN_GROUPS}
        part = parts.pop() if len(parts) == 1 else ""
        if (
            not part
            or names_nothing(part)
            or part in self.kitchen.tools
            or any(food.id == part for food in known if food.made)
            or self._names_a_food(part)
        ):
            return None
        return part if part not in self.kitchen.foods or not self.kitchen.foods[part].made else None

    def _names_a_food(self, part: str) -> bool:
        """True for "for the fish" over a list that has the fish: flour, salt and paprika are no fish; nor are onions
        in lard "the meat", over a list that has beef."""
        word, kitchen = stem_words(part)[-1:], self.kitchen
        told = mentions(kitchen, f"the {part.split()[-1]}")  # "meat sauce" is a sauce
        raw = {name for _, names in told for name in names if name in kitchen.came_raw}
        return bool(raw) or any(f.part == part and not f.made and word in f.names for f in kitchen.foods.values())

    def _name(self, wanted: str, parts: Sequence[str]) -> str:
        """A name nothing has yet: what goes in tells one "egg mixture" from the next, never a number
        that only the program understands."""
        known = [self.kitchen.foods[name] for name in parts]
        plain = [_root(name.id) for name in known if name.group in PLAIN_GROUPS]
        added = [food.id for food in known if not food.made and food.group not in PLAIN_GROUPS]
        added += [root for food in known if food.made and (root := _root(food.id)) != wanted] + plain
        added = [name for name in added if name not in wanted]
        more = [f"{wanted} with {name}" for name in added]
        more += [f"{wanted} with {a} and {b}" for a, b in pairwise(added)]
        more += [f"finished {wanted}", *(f"{nth} {wanted}" for nth in ORDINALS)]
        return first_free((wanted, *more), wanted, {*self.kitchen.foods, *self.kitchen.tools})

    def _mixture_of(self, foods: Sequence[str], *, cooked: bool, verb: str) -> str:
        """A mixture is named after its chief food, and keeps the name as more goes in."""
        known = [self.kitchen.foods[name] for name in foods]
        made = next((food.id for food in known if food.made and not food.id.startswith("seasoned")), None)
        dough = self._floury(foods) if not cooked else None
        if dough and (made is None or not self.kitchen.foods[made].called):
            return dough
        meat = next((food for food in known if not food.made and food.id in self.kitchen.came_raw), None)
        if made and meat and not cooked and not self.kitchen.foods[made].called and not self._holds_meat(made):
            return f"{meat.id} mixture"  # fried onions with mince are the mince from here on
        if made and meat and not cooked and stem(_root(made)) in word_set("made", "dresses"):
            return f"{meat.id} with {_root(made)}"  # what a glaze goes on keeps its name
        if made:
            root = _root(made)
            return f"cooked {root}" if cooked and not root.startswith("cooked ") else root
        chief = next((food for food in known if food.group.startswith("raw")), None)
        chief = chief or next((food for food in known if food.made), None)
        chief = chief or next((food for food in known if food.group not in PLAIN_GROUPS), known[0])
        others = {food.group for food in known if food is not chief}
        if cooked:
            return f"cooked {chief.id}"
        if verb == "mash":
            return "mash"
        if others <= {"salt", "spice", "dried herb"}:
            return f"seasoned {chief.id}"
        if others <= FATS:
            return f"{chief.id} in {'butter' if 'butter' in others else 'oil'}"
        return chief.id if chief.id.endswith("mixture") else f"{chief.id} mixture"

    def _holds_meat(self, name: str) -> bool:
        return not self._base_of([name]).isdisjoint(self.kitchen.came_raw)

    def _floury(self, foods: Sequence[str]) -> str | None:
        """What the text calls flour once it is mixed: dough, pastry, batter."""
        known = [self.kitchen.foods[name] for name in foods]
        flour = any(food.group == "flour" for food in known) and not any(food.heated for food in known)
        base = {self.kitchen.foods[at].group for at in self._base_of(foods)}
        if any(word in group for group in base for word in _NEVER_IN_DOUGH):
            return None
        if not flour or any(food.group.startswith("raw") for food in known):
            return None
        nouns = vocabulary()["made"]["floury"].split()
        return next((noun for noun in nouns if noun in self.told and noun not in self.kitchen.foods), None)

    def _new_food(self, made: str, parts: Sequence[str], *, called: bool) -> None:
        kitchen = self.kitchen
        words = stem_words(re.sub(r" in (?:oil|butter)$", "", _root(made).removeprefix("cooked ")))
        names = {words, words[-1:]}
        if not set(words) & NOT_MIXTURES:
            names.add(("mixture",))
        known = [kitchen.foods[name] for name in parts]
        shared = {food.part for food in known if food.part}
        kitchen.put(
            FoodInHand(
                id=made,
                names=sorted((n for n in names if n), key=lambda n: -len(n)),
                made=True,
                raw=any(food.raw for food in known),
                heated=any(food.heated for food in known),
                called=called,
                part=shared.pop() if len(shared) == 1 else "",
            )
        )
        for name in parts:
            if not kitchen.foods[name].split or kitchen.foods[name].made:
                kitchen.foods[name].into = made

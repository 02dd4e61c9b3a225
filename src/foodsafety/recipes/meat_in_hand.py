"""What an order means that can only be meant of meat or fish: nobody carves a potato, and what has "both sides" that
are smeared with mustard is the chop, though only the mustard is named."""

from __future__ import annotations

import re
from collections.abc import Sequence

from foodsafety.foods import stem_words
from foodsafety.recipes.made_names import MadeNames
from foodsafety.recipes.mentions import mentions
from foodsafety.recipes.order import Order
from foodsafety.recipes.vessels import ON_THE_HEAT, VESSELS, tools_in
from foodsafety.recipes.words import FATS, dish_words, vocabulary, word_set

# Places on a piece of meat or fish.
_ITS_PLACES = re.compile(
    r"\b(?:both|each|every|either|all|the other) sides?\b|\b(?:under|beneath|underneath|over|on|into"
    r"|onto) the (?:skins?|flesh)\b"
    r"|\b(?:into|in|inside|up) the (?:cavity|cavities|slits?|slashes|cuts|holes|pockets?|incisions?)\b|\ball over\b"
    r"|\b(?:up |on the )inside\b(?! (?:the|a|an|of)\b)|\binside and out(?:side)?\b|\bthe skin\b"
    r"|\bthe (?:fat|fatty|skin|flesh) (?:edges?|sides?)\b",
    re.IGNORECASE,
)
_INSIDE_IT = re.compile(r"\b(?:cavity|cavities|slits?|slashes|incisions?)\b", re.IGNORECASE)
# "Let it relax, tented", "under foil before carving": what a joint does once it is cooked.
_AS_MEAT_RESTS = re.compile(r"\btent(?:ed)?\b|\bcarv|\bunder (?:some |the |loose )?foil\b|\brelax\b", re.IGNORECASE)
# "3 minutes a side": pieces that are turned.
_TURNED = re.compile(r"\b(?:a|per|each|on each|on both|one|first|second|other) sides?\b", re.IGNORECASE)
_ITS_CUT = re.compile(
    r"\b(?:the|each|every|your|both|all|a|one|these|those) (?:[a-z]+ )?"
    r"(?:chops?|steaks?|fillets?|cutlets?|joint|bird|escalopes?|medallions?|breasts?|legs?|thighs?|wings?|drumsticks?|shells?|rashers?)\b"
    r"|\b(?:head|tentacles|quill|carcass(?:es)?|bones|rind|crackling|fins|gills|guts|innards|giblets|wishbone|sinews?"
    r"|membranes?|silver ?skin)\b",
    re.IGNORECASE,
)
# "Fry six at a time, until dark gold": not the oil.
_FRIED_IN_IT = re.compile(r"\bat a time\b|\bbatch|\bsides?\b|\b(?:gold|brown|crisp)", re.IGNORECASE)
# "Paint it on", "push it under": nobody says on what.
_DIRECTED = re.compile(
    r"(?:^[a-z]+(?: [a-z]+ly)?|\b(?:it|them|this|that|these|those|some|half|all of it|the [a-z]+(?: [a-z]+)?))"
    r" (?:on|over|under|underneath|all over|on top|over the top|across(?: the top)?)$"
    r"|^[a-z]+ (?:on|over) (?:the rest|half|some|most|all|it)(?: of (?:it|that|them))?$"
    r"|^(?:brush|baste|paint|smear|rub|top|glaze|daub|spread) with [a-z ]+$"
    r"|^(?:push|poke|tuck|stuff|slide|press|work)\b.* in$",
    re.IGNORECASE,
)
# Where a probe goes into a joint or a bird: no pan of rice has one.
AT_THE_BONE = re.compile(r"\b(?:thick(?:est)?|fattest|joint|bone|thigh|breast|drumstick|leg|meat)\b", re.IGNORECASE)
# "Toss in the sauce", "massage it in", "turn to coat", "add the marinade": what is said of a sauce alone.
_DRESSES = re.compile(
    r"^(?:pour|spoon|tip|ladle|drizzle|brush|spread|smear|scatter|paint|slather|trickle|dollop|rub)"
    r" (?:all )?(?:on|over)\b"
    r"|^(?:toss|coat|cover|turn|roll|dip|dredge|smother|dress|baste|brush|rub|smear|mix|stir|marinate|top)"
    r"(?: \w+ly| well)? (?:in|with|through)\b"
    r"|^(?:rub|massage|work|press|smear|pat|stir|mix|toss) (?:it|them|this|that|the [a-z]+) "
    r"(?:in|into|on|all over|through)\b"
    r"|^(?:rub|massage|slather|smear) (?:it|them|this|that)$"
    r"|^(?:toss|mix|fold|stir)(?: it all| gently| well)? together\b"
    r"|^(?:turn|toss|stir|mix|shake)(?: (?:it|them))?(?: \w+ly| well)? to coat\b|^add\b",
    re.IGNORECASE,
)
_OF_A_SALAD = re.compile(r"\b(?:dress|dressing|vinaigrette|salad|slaw)\b", re.IGNORECASE)
EVERYTHING = re.compile(
    r"\beverything\b(?! (?:else|(?:that is |that['’]s )?left|remaining|on the list|listed))", re.IGNORECASE
)
# What goes in or on by itself, after all the rest.
_COMES_LATER = re.compile(
    r"(?:^|[.;]\s+|\n\W*(?:\d+[.)] )?)(?:then |finally |meanwhile,? )?"
    r"(?:(?:add|stir in|fold in|chop|grate|whisk|rinse|wash)"
    r"|(?:scatter|sprinkle|garnish|top|serve|finish)[^.;\n]*? with)"
    r" ([^.;\n]*)",
    re.IGNORECASE,
)
_ROLLED_OUT = re.compile(r"(?:roll|stretch) (?:it |them )?out\b|knead\b", re.IGNORECASE)
# "Tip everything into the blender": what was cooked, and not the bread that it is eaten with.
_INTO_COLD = re.compile(
    r"\bin(?:to)? (?:a |an |the |your |another )?(?:(?:large|big|clean|cold|deep|food|serving|mixing|heatproof) )*"
    r"(?:blender|processor|liquidi[sz]er|jug|bowl|colander|sieve|tubs?|containers?|box(?:es)?|jars?)\b",
    re.IGNORECASE,
)
_GOES_ON_IT = frozenset({"mix", "coat", "brush", "touch", "transfer", "garnish", "marinate"})


def fried_in(order: Order) -> bool:
    """True for words that say how something is fried: "3 minutes a side", "six at a time"."""
    return _FRIED_IN_IT.search(order.words) is not None


class MeatInHand(MadeNames):
    """Which meat or fish an order is about that does not say so."""

    def _is_meat(self, name: str) -> bool:
        """True for meat or fish that came raw, and for what holds any."""
        came = (self.kitchen.foods[base] for base in self._base_of([name]) & self.kitchen.came_raw)
        return any(food.group != "egg" for food in came)

    def _meat_in_hand(self, *, raw: bool = False) -> list[str]:
        """The meat or fish that was worked on last, else the only one that the recipe has; ``raw``: that no heat has
        worked through."""
        foods = self.kitchen.foods
        for step in reversed(self.kitchen.steps):
            names = [self.kitchen.current(step.makes)] if step.makes in foods else map(self.kitchen.current, step.foods)
            found = [name for name in names if self._is_meat(name) and (foods[name].raw or not raw)]
            if found:
                return list(dict.fromkeys(found))
        fresh = [food.id for food in foods.values() if not food.made and not food.used and self._is_meat(food.id)]
        return fresh if len(fresh) == 1 else []

    def _fit_for(self, order: Order, meant: list[str]) -> list[str]:
        """What an order without a food means: what was in hand, or the meat where only meat can be meant."""
        if any(map(self._is_meat, meant)):
            return meant
        if _ROLLED_OUT.match(order.text) and not any(map(self._holds_flour, meant)):
            known = self.kitchen.foods
            dough = [f.id for f in known.values() if f.made and not (f.into or f.heated) and self._holds_flour(f.id)]
            return dough[-1:] or meant  # "Mushrooms: wipe, slice. Roll out thin": nobody rolls a mushroom out
        only_meat = order.verb in word_set("names", "of_meat") and order.do in ("cut", "touch")
        only_meat = only_meat or (order.do == "rest" and _AS_MEAT_RESTS.search(order.words) is not None)
        if order.do in ("heat", "part_cook") and (waits := self._waits_for_its_sauce(order, meant)):
            return waits
        if order.do == "probe" or only_meat:
            return self._meat_in_hand() or meant
        if order.do not in ("heat", "part_cook"):
            return meant
        turned = _TURNED.search(order.words) is not None
        done = all(self.kitchen.foods[name].heated for name in meant)  # fritters that were just shaped are not
        meat = self._meat_in_hand(raw=True) if turned and done else []
        if any(self.kitchen.foods[name].used or self.kitchen.foods[name].made for name in meat):
            return meat  # "3 minutes a side": the steak that waits, not the mash that was made meanwhile
        coats = self._goes_with_meat(meant, coats=True) and not self._stirred_in_a_hot_pan()
        if meant and order.verb in word_set("names", "fries") and coats:
            return self._meat_in_hand(raw=True) or (self._meat_in_hand() if turned else []) or meant
        return self._waits_raw(order, meant) or meant

    def _stirred_in_a_hot_pan(self) -> bool:
        """ "Melt the butter, stir in the flour and cook for a minute": the sauce is in the pan, not what waits raw."""
        here = self.kitchen.steps[self.began_at :]
        return bool(here) and here[-1].do == "mix" and any(map(self._is_hot, here[-1].tools))

    def _waits_for_its_sauce(self, order: Order, meant: Sequence[str]) -> list[str]:
        """ "Trim the chicken. Mix the honey and soy sauce. Bake for 40 minutes": nobody bakes a marinade. Only of
        meat that was worked on right before it, and is not put away."""
        dry = order.oven_c is not None or order.verb in ("bake", "roast", "grill", "barbecue", "broil", "braai")
        if not dry or not meant or not (self._goes_with_meat(meant) or self._is_sauce(meant)):
            return []
        self.either = False
        on = self._worked_on_before(meant, order.text)
        raw = all(
            self.kitchen.foods[name].raw and self._is_meat(name) and not self.kitchen.foods[name].into for name in on
        )
        return on if raw and not self.either else []

    def _waits_raw(self, order: Order, meant: Sequence[str]) -> list[str]:
        """ "Cook the rice. Top shelf, hot grill, 8 minutes": what is put on another heat than the rice had is the fish
        that waits."""
        foods, kitchen = self.kitchen.foods, self.kitchen
        hot = {tool.kind for tool in tools_in(order.words)} & (ON_THE_HEAT | {"oven", "grill", "barbecue", "griddle"})
        plain = all(foods[name].heated and not foods[name].raw and len(self._base_of([name])) == 1 for name in meant)
        if not hot or not meant or not plain:
            return []  # a gratin of what was cooked is baked all the same
        had = {
            kitchen.tools.get(tool)
            for step in kitchen.steps
            if {*step.foods, step.makes} & set(meant)
            for tool in step.tools
        }
        waits = [food.id for food in foods.values() if food.raw and not food.into and (food.made or food.used)]
        waits = [name for name in waits if self._is_meat(name)]
        return waits if len(waits) == 1 and not hot & had else []

    def _goes_with_meat(self, names: Sequence[str], *, coats: bool = False) -> bool:
        """True for what is put on meat and is no dish by itself: fat, a coating, mustard and, unless only what
        ``coats`` it is asked for, a sauce."""
        own = {self.kitchen.foods[at].group for at in self._base_of(names)}
        put_on = vocabulary()["put_on_meat"]
        groups = {*put_on["coats"], *([] if coats else put_on["sauces"])}
        return own <= groups or ("crumb" in own and own <= groups | {"egg"})

    def _is_sauce(self, names: Sequence[str]) -> bool:
        """True for what was stirred together of honey, garlic and soy sauce: no dish by itself."""
        put_on = vocabulary()["put_on_meat"]
        groups, also = {*put_on["coats"], *put_on["sauces"], *put_on["stirred_in"]}, {*put_on["also"]}
        bases = [self.kitchen.foods[base] for base in self._base_of(names)]
        small = all(food.group in groups or any(also & {*name} for name in food.names) for food in bases)
        dry = {"flour", "crumb", "starch", "milk", "water", "butter", "oil"}  # a dough
        made = all(self.kitchen.foods[name].made for name in names)
        return made and len(bases) > 1 and small and any(food.group not in dry for food in bases)

    def _by_its_cut(self, order: Order) -> list[str]:
        """ "Snip the fat of each chop", of pork that the list calls loin."""
        return self._meat_in_hand() if _ITS_CUT.search(order.text) else []

    def _of_its_places(self, order: Order, named: Sequence[str]) -> list[str]:
        """ "Smear both sides with mustard", "work the butter under the skin": the meat whose sides and skin they
        are. None where meat is named, or a food that has a skin of its own."""
        if order.do not in _GOES_ON_IT or _ITS_PLACES.search(order.words) is None:
            return []
        foods = self.kitchen.foods
        if any(map(self._is_meat, named)):
            return []
        inside = _INSIDE_IT.search(order.words)  # "tuck the lemon into the cavity"
        if not inside and (any(foods[name].grown for name in named) or not self._goes_with_meat(named)):
            return []  # "butter the bread on both sides"
        loose = re.search(r"\b(?:all over|the skin)\b", order.words, re.IGNORECASE) and not any(
            map(self._is_meat, self._meant())
        )
        meat = self._meat_in_hand()
        return [] if loose and len(self._all_meat()) != 1 else meat

    def _cut_last(self) -> list[str]:
        """ "Halve the tomatoes and slice the cucumber; add them": all that was cut last, one after another, in the same
        row, where that is more than one food and no meat."""
        cut: list[str] = []
        for step in reversed(self.kitchen.steps):
            crushed = step.do == "mix" and len(step.foods) == 1 and not step.tools  # "crush the garlic", where it lies
            if not (crushed or step.do in ("cut", "grate")) or step.source != self.kitchen.steps[-1].source:
                break
            cut = [self.kitchen.current(name) for name in step.foods] + cut
        return cut if len(set(cut)) > 1 and not any(map(self._is_meat, cut)) else []

    def _out_of_the_pan(self, text: str, order: Order, held: Sequence[str]) -> list[str]:
        """ "Tip everything into the blender": what lies in the hot pan, with what is named beside it."""
        moves = order.do in ("transfer", "pour") and EVERYTHING.search(text) and self._is_hot(self.kitchen.vessel)
        if not moves or not held or not _INTO_COLD.search(text) or re.search(r"\btogether\b", text):
            return []
        but = re.split(r"\b(?:except|apart from|but)\b", text)[0]
        named = [self.kitchen.current(name) for _, names in mentions(self.kitchen, but) for name in names]
        out = {self.kitchen.current(name) for _, names in mentions(self.kitchen, text[len(but) :]) for name in names}
        return [name for name in dict.fromkeys([*held, *named]) if name not in out]

    def _just_shaped(self, order: Order) -> list[str]:
        """ "Shape 8 patties. Heat the oil and grill everything": those, and not what is still on the list."""
        if order.do not in ("heat", "part_cook"):
            return []
        lying = [food.id for food in self.kitchen.foods.values() if food.made and food.raw and not food.into]
        just = [name for step in self.kitchen.steps[-3:] for name in (*step.foods, step.makes)]
        return [name for name in lying if name in just] if len(lying) == 1 else []

    def _is_of_what_lies_there(self, order: Order, text: str) -> bool:
        """ "Simmer everything", "let everything stand", "tip the mince and eggs into a bowl and mix everything": what
        else is on the list is not in there."""
        if order.do in ("heat", "part_cook", "rest"):
            goes_on = order.verb in word_set("names", "goes_on_heating")
            return goes_on or not any(tool.kind in VESSELS for tool in tools_in(text))
        # "Tip the mince into a bowl. Season and work everything together": seasoning it puts nothing else there.
        begun = [step for step in self.kitchen.steps[self.began_at :] if step.makes]
        seasoned = [step for step in self.kitchen.steps[: self.began_at][-1:] if step.do == "transfer"]
        here = begun or seasoned
        return order.do == "mix" and any(step.makes and self.kitchen.vessel in step.tools for step in here)

    def _for_that_part(self, text: str, fresh: list[str]) -> list[str]:
        """ "Combine everything for the burgers", where no part of the list is called so: not what comes later; and of
        "everything in the tin" not what a later sentence only then chops, adds or scatters."""
        behind = self.method.partition(self.whole)[2] if self.whole in self.method else ""
        all_of_it = re.search(r"\beverything for (?:the|your)\b", text) is not None
        later = behind if all_of_it else " ".join(found[1] for found in _COMES_LATER.finditer(behind))
        named = {name for _, names in mentions(self.kitchen, later) for name in names}
        kept = [name for name in fresh if name not in named or self._is_meat(name)]  # shredded later, and cooked in it
        return kept if len(named) < len(fresh) and (all_of_it or len(kept) > 1) else fresh

    def _all_meat(self) -> list[str]:
        return [food.id for food in self.kitchen.foods.values() if not food.made and self._is_meat(food.id)]

    def _still_raw(self, meant: list[str], order: Order) -> list[str]:
        """What an order to heat means, where what was in hand last is never cooked: the last thing made or
        brought that is raw still, or that is hot."""
        foods = self.kitchen.foods
        lifted = [f.id for f in foods.values() if f.raw and not f.into and f.id.startswith(("marinated ", "drained "))]
        if lifted and meant and all(("marinade",) in foods[name].names for name in meant):
            return lifted[-1:]  # "tip the marinade into a jug. Grill for 12 minutes": what lay in it
        if meant and all(foods[name].group in FATS for name in meant):  # "oil in the pan. Fry 3 minutes a side"
            raw = [f.id for f in foods.values() if f.raw and not f.into and (f.made or f.used)]
            return raw[-1:] or (self._before_the_fat() if fried_in(order) else []) or meant
        salad = word_set("names", "salad") | dish_words("cold")
        if not meant or any(salad.isdisjoint(stem_words(name)) for name in meant):
            return meant
        raw = [
            food.id for food in self.kitchen.foods.values() if food.raw and not food.into and (food.made or food.used)
        ]
        hot = [food.id for food in self.kitchen.foods.values() if food.heated and food.made and not food.into]
        return raw[-1:] or hot[-1:] or meant

    def _before_the_fat(self) -> list[str]:
        """What was worked on before the fat that is hot now."""
        rows = (step for step in reversed(self.kitchen.steps) if step.foods)
        worked = ([self.kitchen.current(step.makes or name) for name in step.foods] for step in rows)
        before = (names for names in worked if not any(self.kitchen.foods[n].group in FATS for n in names))
        return list(dict.fromkeys(next(before, [])))

    def _dressed(self, text: str, foods: Sequence[str]) -> list[str]:
        """ "Toss in the sauce", which was made beside what was worked on before it: raw meat, or a salad."""
        if not _DRESSES.search(text) or not self._is_sauce(foods):
            return []
        on = [name for name in self._worked_on_before(foods, text) if not self.kitchen.foods[name].into]
        meat = [name for name in on if self._is_meat(name)]
        return [name for name in meat if self.kitchen.foods[name].raw] if meat else on

    def _beneath(self, order: Order, foods: Sequence[str]) -> list[str]:
        """ "Mix the miso and mirin and paint it on", "push it under": what the miso goes on, which is what was worked
        on before it."""
        text = re.sub(r" with (?:a|the|your) .*$", "", re.split(r"[,;(]", order.text)[0].strip(" ."))
        works = order.do in _GOES_ON_IT | {"pour"} and bool(foods) and not any(map(self._is_meat, foods))
        if not works or tools_in(text.partition(" ")[2]):
            return []
        if not _DIRECTED.search(text) and not _DIRECTED.search(order.text.strip(" .")):
            return self._coated(order, foods) or self._dressed(order.text.strip(" ."), foods)
        return self._worked_on_before(foods, order.text)

    def _coated(self, order: Order, foods: Sequence[str]) -> list[str]:
        """ "Coat each piece in flour, egg and breadcrumbs": the pieces, which are what was worked on before."""
        known = self.kitchen.foods
        bases = {known[base].group for base in self._base_of(foods)}
        coats = {*vocabulary()["put_on_meat"]["coats"], "egg", "milk", "water"}
        if (
            order.do != "coat"
            or order.verb == "batter"
            or not bases <= coats
            or not bases & {"crumb", "flour", "egg", "starch"}
        ):
            return []
        meant = re.search(r"\b(?:each|every|pieces?|them|it|one)\b", order.text, re.IGNORECASE)
        return self._worked_on_before(foods, order.text) or (self._meat_in_hand(raw=True) if meant else [])

    def _dresses_with(self, order: Order, foods: Sequence[str]) -> list[str]:
        """ "Dress the salad", "glaze the ham": with the sauce that was made for it and lies by itself."""
        if order.do == "coat" and self.kitchen.steps:  # "beat the egg, dip each cake": in the egg
            beaten = [self.kitchen.current(name) for name in self.kitchen.steps[-1].foods]
            coats = all(self.kitchen.foods[name].group in ("egg", "flour", "crumb", "milk") for name in beaten)
            return beaten if coats and beaten and set(beaten).isdisjoint(foods) else []
        if order.verb not in ("dress", "glaze", "baste") or any(map(self._is_sauce, ([name] for name in foods))):
            return []
        loose = [f.id for f in self.kitchen.foods.values() if f.made and not f.into and f.id not in foods]
        return [name for name in loose if self._is_sauce([name])][-1:]

    def _worked_on_before(self, foods: Sequence[str], text: str) -> list[str]:
        """What was worked on before these, and is none of what they hold nor put away; what was only cut meanwhile,
        where there is nothing else, unless a dressing is for it or it lies in a bowl."""
        own, beside, away = {*foods, *self._base_of(foods)}, list[str](), set[str]()
        dresses = _OF_A_SALAD.search(f"{text} {' '.join(foods)}") is not None
        for step in reversed(self.kitchen.steps):
            names = [self.kitchen.current(name) for name in ([step.makes] if step.makes else step.foods)]
            if step.do in ("chill", "freeze"):
                away.update(names)
            if not names or own & {*names, *self._base_of(names)} or away.issuperset(names):
                continue
            bowls = any(self.kitchen.tools.get(tool) in ("bowl", "dish", "platter") for tool in step.tools)
            if dresses or bowls or not all(self.kitchen.foods[name].grown for name in names):
                self.either = bool(beside)  # it may be for what was cut since
                return list(dict.fromkeys(names))
            beside = beside or list(dict.fromkeys(names))
        return beside

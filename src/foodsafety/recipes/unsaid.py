"""What an order leaves unsaid: what the vessel holds that its foods go to, what was in hand, what is being put
together."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import takewhile

from foodsafety.recipes.another_thing import AnotherThing
from foodsafety.recipes.made_names import FALLS_ON
from foodsafety.recipes.meat_in_hand import fried_in
from foodsafety.recipes.mentions import PARTICLE, PLAIN_GROUPS, PRONOUN, mentions
from foodsafety.recipes.order import Order
from foodsafety.recipes.proposed_steps import ReadStep
from foodsafety.recipes.referents import FAT_LEFT, OVER_ALL
from foodsafety.recipes.vessels import GOES_IN_OVEN, ON_THE_HEAT, VESSELS, tools_in
from foodsafety.recipes.words import FATS, names_nothing, vocabulary

# What works on no food.
OF_NO_FOOD = frozenset({"wash_hands", "clean", "wipe", "gloves_on", "gloves_off"})
# "Into a", "in the two largest": a vessel that is not the one in use.
INTO_ANOTHER = re.compile(
    r"\b(?:in ?to|in|on|onto|on to) (?:each of )?(?:a|an|your|another|two|three|four"
    r"|(?:the )?(?:(?:two|three|four) )?(?:other|second|separate|clean|big|biggest|large|largest|small|smallest)"
    r"|the (?:two|three|four))\b(.+)$"
)
_STIRRED_WHERE_IT_IS = re.compile(
    r"(?:it|them|everything) (?:up|about|around|round|apart|well|gently)\b", re.IGNORECASE
)
_IN_ITS_MIDDLE = re.compile(r"\bin(?:to)? the (?:middle|centre|center)\b|\bon(?:to)? (?:top|each)\b", re.IGNORECASE)


_TOSS = re.compile(r"toss(?: well| gently| lightly)?(?: to (?:coat|combine|dress))?[.!]?", re.IGNORECASE)


# What only stands there.
_STANDS = re.compile(
    r"\b(?:cool\w*|rest\w*|stand\w*|rise\w*|prov\w+|marinat\w+|dr(?:y|ain)\w*|room|fridge|freezer|set|sit|soak\w*)\b",
    re.IGNORECASE,
)

# "In each", "on one half of each", "down the long side", "in the middle of each square".
_ON_EACH = re.compile(
    r"\b(?:in|on|into|onto|inside|down|over)(?: (?:the |one )?(?:half|side|end|edge|corner|middle|cent(?:re|er)) of)?"
    r" each(?: one| (?:circle|round|square|disc|piece|sheet|strip|half|rectangle))?(?:,|[.]?$)"
    r"|\b(?:down|along|on|over|at|near|towards) (?:the |one |a )?(?:(?:long|short|wide|narrow|bottom) )?"
    r"(?:side|edge|half|end|corner)(?: (?:nearest|closest to|next to) you)?(?:,|[.]?$)",
    re.IGNORECASE,
)
_ONTO_NAMED = re.compile(
    r"\b(?:over|onto|on top of|all over|around|round|among|between|beside) (?:the |your |each |this )([a-z ]+)"
)
_INTO_WATER = re.compile(
    r" *(?:the |a |an )?(?:sink|basin|(?:very )?(?:iced?|cold)[ -](?:water|bath))\b", re.IGNORECASE
)
_OVER_IT_ALL = re.compile(
    r"(?:\w+ly )?over(?: (?:everything|it all|the lot|the whole thing|all of it|the top|the whole lot))?(?:,|[.]?$)",
    re.IGNORECASE,
)
_WITH = re.compile(r"(?:(?:together|well|gently|lightly) )?with ")
_ON_IT = re.compile(r"\bon\b(?! (?:the|a|an|each|your|top|one|both|every|this|that|it|them)\b)", re.IGNORECASE)
_OUT_OF_FOOD = re.compile(r"\b(?:out of|off)\b", re.IGNORECASE)


class Unsaid(AnotherThing):
    """The foods of an order that it does not name."""

    def _cooking_in(self, step: ReadStep) -> str | None:
        """The pot that some of a step's food was heated in last, and that nothing has moved since: "the carrots go in",
        by name of no pot."""
        kitchen = self.kitchen
        last = next((row for row in reversed(kitchen.steps) if row.do in ("heat", "part_cook")), None)
        pot = next((tool for tool in (last.tools if last else ()) if kitchen.tools[tool] in ON_THE_HEAT), None)
        heated = {last.makes, *last.foods} if last else set()
        since = kitchen.steps[kitchen.steps.index(last) + 1 : -1] if last else []
        moved = any(not heated.isdisjoint(row.foods) for row in since)
        stays = not moved and set(step.tools) <= {pot}
        return pot if step.makes and stays and not heated.isdisjoint(step.foods) else None

    def _simmers_raw(self) -> bool:
        """True if raw meat was just put into what simmers: under a lid it cooks on there."""
        last = self.kitchen.steps[-1]
        names = (name for name in (last.makes, *last.foods) if name)
        raw = any(self.kitchen.foods[name].raw and self._is_meat(name) for name in names)
        cold = re.search(r"\b(?:cold|cool\w*|chill\w*|fridge)\b", self.whole)  # "add to the cooled sauce"
        return bool(raw and not cold and last.do in ("mix", "transfer", "pour") and self._cooking_in(last))

    def _lies_in_the_oven(self, step: ReadStep, order: Order) -> bool:
        """ "Oven to 200. Chicken on a rack, 40 minutes": nobody says that it goes in, and where else would it go? A
        guess, which cooks nothing through. What comes out of the heat cools there."""
        lies = any(self.kitchen.tools[name] in GOES_IN_OVEN | {"rack"} for name in step.tools)
        cooked = any(self.kitchen.foods[self.kitchen.current(name)].heated for name in step.foods)
        hot = self.kitchen.oven_c is not None and (order.high_min or 0) >= vocabulary()["times"]["shortest_bake_min"]
        return step.do == "transfer" and lies and hot and not cooked and not _STANDS.search(self.whole)

    def _with_contents(self, order: Order, foods: list[str], tools: list[str]) -> list[str]:
        """The foods of an order with those it does not say: what the vessel holds, what was in hand."""
        more = self._of_its_part(foods, self._unsaid(order, foods, tools)) if foods else []
        if set(more) <= set(foods):
            more = self._beneath(order, foods) or self._dresses_with(order, foods)
        return list(dict.fromkeys((*(self.kitchen.current(name) for name in more), *foods)))

    def _of_its_part(self, foods: Sequence[str], more: list[str]) -> list[str]:
        """What is listed for the peppers goes onto the peppers, though the salad was in hand last."""
        kitchen = self.kitchen
        listed = [kitchen.foods[name] for name in foods if kitchen.foods[name].group not in PLAIN_GROUPS]
        parts = {food.part for food in listed}
        if len(parts) != 1 or "" in parts or any(food.made for food in listed) or not more:
            return more
        if all(kitchen.foods[name].group in FATS for name in more):
            return more  # the oil in the pan is of every part
        part = parts.pop()
        if names_nothing(part) or part in map(self._part_of, more):
            return more
        own = [food.id for food in kitchen.foods.values() if food.made and not food.into]
        own = [name for name in own if self._part_of(name) == part]
        return own[-1:] or more

    def _part_of(self, name: str) -> str:
        """The part of the dish that most of what a food is made of is listed for; "" for none."""
        base = [self.kitchen.foods[at] for at in self._base_of([name])]
        parts = [food.part for food in base if food.group not in PLAIN_GROUPS]
        return max(parts, key=parts.count, default="")

    def _tastes_raw(self, order: Order, source: str) -> None:
        """ "Add the mince and taste for salt": whoever tastes has eaten, though nothing is done to the food."""
        kitchen = self.kitchen
        heated = {part for row in kitchen.steps if row.do in ("heat", "part_cook") for part in self._base_of(row.foods)}
        raw = [name for name in kitchen.last if (self._base_of([name]) & set(kitchen.came_raw)) - heated]
        if order.verb == "taste" and raw:
            self.count += 1
            mouth = self._plain_tool("mouth")
            step = ReadStep(id=f"s{self.count}", do="touch", text=order.words, source=source, foods=raw, tools=[mouth])
            step.after = [kitchen.steps[-1].id] if kitchen.steps else []
            kitchen.steps.append(step)

    def _unsaid(self, order: Order, foods: list[str], tools: list[str]) -> list[str]:
        text = self._after_verb(order)
        held = self._held(order, tools)
        particle = PARTICLE.match(text)
        if FAT_LEFT.search(order.text):
            return [] if order.do == "heat" else held  # only the fat is there: what was fried in it lies elsewhere
        if order.do == "heat":
            return self._heated_with(order, text, foods, held)
        if order.do in ("cut", "grate") and FALLS_ON.search(text.split(",")[0]):
            return held  # "halve the tomatoes over the top"
        if self._stirred_in(order, foods, held):
            return held
        if order.do == "mix" and set(foods) == set(held) and _STIRRED_WHERE_IT_IS.match(text):
            return []  # "breaking it up with a spoon": what is in the pan, and nothing that lies elsewhere
        if order.do == "touch" and _OUT_OF_FOOD.search(text):
            return []  # "pull the vein out of each of them on the blue board"
        if order.do == "rest" and order.verb in ("soak", "steep") and particle and particle[1] == "in":
            return [name for name in self._meant() if name not in foods]  # "slice the onion, soak in lemon juice"
        if order.do not in ("mix", "pour", "transfer", "coat", "brush", "garnish", "serve", "touch", "marinate"):
            return []
        if order.do == "garnish":
            return self._garnished(text, foods, particle)
        if order.do == "transfer" and particle and _INTO_WATER.match(text[particle.end() :]):
            return []  # "stand them in the sink in iced water"
        if order.verb == "add" or (
            particle
            and particle[1] in ("in", "through")
            and order.do != "coat"
            and not self._vessel_next(text[particle.end() :])
        ):
            return self._added_to(order, text, foods, held)
        if order.verb in ("spread", "smear") and _ON_IT.search(text) and (base := self._dough_in_hand(foods)):
            return base  # "spread the passata on", with ham torn for it: on the dough
        if order.do in ("transfer", "mix") and _ON_EACH.search(text):
            return [name for name in self._meant() if name not in foods]  # "split the rolls, put a burger in each"
        beside = any(self.kitchen.tools[tool] in ("plate", "tray", "rack", "board", "skewer") for tool in tools)
        if particle and held and not set(held) & set(foods) and self._vessel_next(text[particle.end() :]):
            return [] if beside else held  # "drop them in the pot": with what is in there
        if particle or (
            order.verb in ("spread", "sprinkle", "scatter", "smear", "dot", "drizzle")
            and re.search(r"\ball over\b|\bon top\b|\bover[.]?$", text)
        ):
            return self._onto(order, text, foods)
        return self._joined(order, text, foods, tools)

    def _dough_in_hand(self, foods: Sequence[str]) -> list[str]:
        """The dough that was made last and lies raw, where it is not among the foods."""
        made = [food.id for food in self.kitchen.foods.values() if food.made and food.raw and not food.into]
        floury = [name for name in made if self._holds_flour(name) and not any(map(self._is_meat, [name]))]
        return floury[-1:] if floury and not set(floury) & set(foods) else []

    def _garnished(self, text: str, foods: list[str], particle: re.Match[str] | None) -> list[str]:
        """What "scatter the seeds", "cheese on top" put their foods on."""
        onto = _ONTO_NAMED.search(text)
        if onto and text[: onto.start()].strip() and mentions(self.kitchen, onto[1]):
            return []  # "scatter the peas over the fish"
        made = any(self.kitchen.foods[name].made for name in foods) and not re.search(r"\b(?:over|on top)[.]?$", text)
        if made and not particle:
            return []
        meant = [name for name in self._meant() if name not in foods]
        over = re.search(r"\b(?:over|on top)(?:,|[.]?$)", text) is not None
        over = over or text.startswith("over ")  # "squeeze over the lime"
        if over and not meant and self._cut_for(foods):
            return self._cut_for(foods)
        if over and meant and not any(self.kitchen.foods[n].made or self.kitchen.foods[n].heated for n in meant):
            # Not over what was only cut for it: over the dish, else over all that this sentence cut for it.
            cut = self._cut_for(foods)
            return self._main(foods) or (cut if set(cut) >= set(meant) else meant)
        return self._meant() if meant else self._main(foods)

    def _added_to(self, order: Order, text: str, foods: list[str], held: list[str]) -> list[str]:
        """What "add the peas" and "stir in the peas" put them to: what is in the pan, else what was in hand."""
        if order.verb == "add" and not held and (self._begins_in_hot() or self._begins_elsewhere(text)):
            return []
        if order.verb == "add" and re.match(r"(?:it |them |these |those )?(?:to|into|in)\b", text):
            return [*held, *self._meant()]
        if order.verb == "add" and re.match(r"(?:it |them )?(?:in )?(?:along |together )?with\b", text):
            meant = [name for name in self._meant() if name not in foods]
            there = [name for name in held if name not in (*foods, *meant)] if self._is_hot(self.kitchen.vessel) else []
            # "Rinse the beans. Add with the stock": to what is on the heat, else to what is being put together.
            return [*meant, *(there or self._main_in_reach([*foods, *meant], text))]
        if self._joins_named(text) or self._begins_in(text, held):
            return []
        if gone := self._just_lifted_out():
            return [name for name in held if name not in gone]  # "take the meat out. Onions in": what is left
        oiled = order.verb in ("toss", "turn", "roll") and all(self.kitchen.foods[name].group in FATS for name in foods)
        cut = [name for name in self._meant() if name in (self._cut_here() if oiled else self._cut_meanwhile(order))]
        more = [name for name in cut or held or self._meant() if name not in foods]
        return more or self._main_in_reach(foods, text) or self._salad_so_far(order, foods)

    def _salad_so_far(self, order: Order, foods: Sequence[str]) -> list[str]:
        """ "Tear up the lettuce. Halve the tomatoes and add them", with no bowl said: to the lettuce."""
        known = self.kitchen.foods
        if order.verb != "add" or not all(known[name].grown and not known[name].heated for name in foods):
            return []
        on = self._worked_on_before(foods, "salad")
        return on if all(known[name].grown and not known[name].heated and not known[name].into for name in on) else []

    def _in_its_tin(self, order: Order, tools: Sequence[str]) -> list[str]:
        """What an order to heat means without a food: what lies raw in the vessel it is done in, whatever was
        in hand last."""
        if order.do != "heat" or PRONOUN.search(order.text) or self.labelled:
            return []
        held = [self.kitchen.current(name) for tool in tools for name in self.kitchen.holds.get(tool, ())]
        return list(dict.fromkeys(name for name in held if self.kitchen.foods[name].raw))

    def _put_together(self, order: Order) -> list[str]:
        """ "Toss together": what has been prepared for it; "toss": that with what was just made."""
        if order.do != "mix":
            return []
        if _TOSS.fullmatch(order.text.strip()) and (cut := self._cut_just_before()):
            return list(dict.fromkeys((*cut, *self._meant())))
        if not re.search(r"\btogether\b", order.text):
            return []
        here = [row for row in self.kitchen.steps[self.began_at :] if row.do not in OF_NO_FOOD]
        own = [self.kitchen.current(name) for row in here for name in ([row.makes] if row.makes else row.foods)]
        if len(set(own)) > 1:
            return list(dict.fromkeys(own))  # "bash the biscuits, melt the butter, stir together"
        return self._with_the_loose([self.kitchen.current(name) for name in self.kitchen.pile])

    def _heated_with(self, order: Order, text: str, foods: list[str], held: list[str]) -> list[str]:
        """What is heated with the foods that an order to heat names: what fries in the pan, or what was in hand."""
        if self.labelled:
            return []  # "Rice: 25 minutes in the steamer", with beans in the pan
        if order.verb == "cook" and not re.match(r"cook\b", order.text, re.IGNORECASE):
            return held  # "Garlic and cumin, 2 mins": with what is in the pan
        if all(self.kitchen.foods[name].group in FATS for name in foods) and re.match(
            r"(?:it |them |(?:a few|one|two|three|four|six|\d+) )?(?:(?:of them |at a time |[a-z]+ly )*)(?:in|with)\b",
            text,
        ):
            return self._meant()  # "Fry in the oil": what is in hand
        if all(self.kitchen.foods[name].group in FATS for name in foods) and fried_in(order):
            return [name for name in self._still_raw(foods, order) if name not in foods]
        with_it = re.search(r"\bwith\b", text)
        if with_it and not mentions(self.kitchen, text[: with_it.start()]):
            return [name for name in self._meant() if name not in foods]  # "bring to the boil with the sugar"
        return held if held and all(self.kitchen.foods[name].group in FATS for name in held) else []

    def _onto(self, order: Order, text: str, foods: list[str]) -> list[str]:
        """What "over", "on" and "with" put something to: what is in hand; for "dress with yoghurt" all that was
        cut for it; for "pour it on, whisking" what is being made."""
        pile = [self.kitchen.current(name) for name in self.kitchen.pile]
        cut = self._cut_here()
        with_it = _WITH.match(text) is not None
        if len(cut) > 1 and order.verb in ("mix", "toss", "combine", "stir", "dress") and with_it:
            return [name for name in pile if name in cut]  # "shred the cabbage, grate the carrot, toss with oil"
        if order.verb in ("mix", "toss", "combine", "stir") and with_it and self._is_prepared():
            return [name for name in pile if name in self.prepared]
        if order.verb == "dress" and with_it and set(self._meant()) <= set(pile):
            return self._with_the_loose(pile)
        if order.do == "pour" and re.search(r"\b(?:whisk|stirr|beat)ing\b", text):
            return [name for name in self._meant() if name not in foods] or self._main(foods)
        if re.match(r"(?:it|them|those|these|that|this) (?:on|over|on top|over the top)(?:,|[.]?$)", text):
            there = [name for name in self._held(order, []) if name not in foods]
            return there or [name for name in self._meant() if name not in foods] or self._main(foods)
        if order.do == "serve":  # "serve over the pasta", which was boiled last: the sauce
            return [name for name in self._meant() if name not in foods] or self._main(foods)
        if order.do in ("pour", "transfer") and set(self._meant()) <= set(foods) and _OVER_IT_ALL.match(text):
            # "Whisk the eggs. Pour over the lot": not over the eggs.
            return self._main(foods) or [name for name in self._loose() if name not in foods]
        return self._meant()

    def _main_in_reach(self, foods: Sequence[str], text: str) -> list[str]:
        """What is being put together. "Add the green parts" to the salad that is in hand: not to the patties that lie
        in the fridge."""
        main = self._main(foods)
        made = all(self.kitchen.foods[name].made for name in foods) and not mentions(self.kitchen, text)
        return [] if made and any(map(self._is_put_away, main)) else main

    def _cut_just_before(self) -> list[str]:
        """ "Shred the cabbage. Whisk the mayonnaise and vinegar; toss": what was cut for what was just mixed."""
        steps = self.kitchen.steps
        if not steps or steps[-1].do != "mix" or not steps[-1].makes:
            return []
        before = takewhile(lambda row: row.do in ("cut", "grate", "peel", "rinse"), reversed(steps[:-1]))
        cut = [self.kitchen.current(name) for row in before for name in row.foods]
        return [name for name in cut if not self.kitchen.foods[name].raw and not self.kitchen.foods[name].heated]

    def _cut_for(self, foods: Sequence[str]) -> list[str]:
        """ "Shred the cabbage, warm the vinegar and pour over": what this sentence cut for it."""
        here = [row for row in self.kitchen.steps[self.began_at :] if row.do in ("cut", "grate")]
        return [name for row in here for name in row.foods if name not in foods]

    def _is_prepared(self) -> bool:
        """True at the head of a sentence for what the one before cut and grated."""
        return len(self.kitchen.steps) == self.began_at and set(self._meant()) <= self.prepared

    def _begins_elsewhere(self, text: str) -> bool:
        """ "Rest the batter in the fridge. Dripping in the tin": what lies in the cold is not in it."""
        named = any(tool.kind in VESSELS or tool.kind in ON_THE_HEAT for tool in tools_in(text))
        return named and any(map(self._is_put_away, self._meant()))

    def _begins_in_hot(self) -> bool:
        """True for an empty hot pan that nothing goes into but what is named: "get the wok smoking, add the pork"
        (what was cut meanwhile waits), "lift it onto a plate, peppers in" (so does what was lifted out)."""
        if not self._is_hot(self.kitchen.vessel):
            return False
        away = [tool for tool, kind in self.kitchen.tools.items() if kind in ("plate", "board", "rack")]
        moved = {name for tool in away for name in self.kitchen.holds.get(tool, ())}
        new = not any(self.kitchen.vessel in step.tools for step in self.kitchen.steps)
        return new or (bool(moved) and moved >= set(self._meant()))

    def _joined(self, order: Order, text: str, foods: list[str], tools: list[str]) -> list[str]:
        """What an order without a particle puts its foods to: said by "over", "inside" and "back", or by where
        they go."""
        held = self._held(order, tools)
        if re.search(r"\binside[.]?$|\b(?:over|on top)(?:,|[.]?$)", text) or OVER_ALL.search(text):
            said_last = set(self._meant()) <= set(foods)
            there = self._cut_for(foods) or self._main(foods) or [n for n in self._loose() if n not in foods]
            return there if said_last else self._meant()
        if order.do == "mix" and re.search(r"\bthe (?:rest|others?) in\b", text):
            return [name for name in held if name not in foods] or self._main(foods)  # "stir the rest in"
        if order.do in ("transfer", "mix") and _IN_ITS_MIDDLE.search(order.lead):
            return [name for name in self._meant() if name not in foods] or self._main(foods)
        # "Spoon the filling on", "stir the mayonnaise through".
        if order.do in ("mix", "transfer", "pour") and re.search(
            r"\b(?:on|through|in (?:the|their|its) (?:middle|centre|center))(?:, \w+ing)?[.]?$", text
        ):
            pile = [self.kitchen.current(name) for name in self.kitchen.pile]
            ways = (held, self._with_the_loose(pile) if order.do == "mix" else [], self._meant(), self._main(foods))
            others = ([name for name in way if name not in foods] for way in ways)
            return next((way for way in others if way), [])
        here = self.kitchen.steps[self.began_at :]
        goes = re.search(r"\b(?:in|on|onto|into|over|to|under|between|beside|out)\b", text)
        if order.verb in ("arrange", "lay", "press", "push") and here and here[-1].makes and not goes:
            return [here[-1].makes]  # "spread over the base, arrange the plums"
        if order.verb in ("fill", "stuff") and foods and not re.search(r"\b(?:with|from|up)\b", text):
            return [name for name in self._meant() if name not in foods]  # "fill the tortillas": with what is in hand
        if order.verb == "return" and held and not set(held) & set(foods):
            return held  # "return the beef": into the pan in use
        if re.search(r"\bback(?:,|[.]?$)|\b(?:back in|in) with\b", text) and not set(held) & set(foods):
            return held
        if order.do in ("transfer", "pour") and re.search(
            r"\b(?:the|your|those|that|all|an?|half|some|\d+) [a-z ]+ in(?:,|[.]?$| and\b)"
            r"|\bin (?:last|next|first|too|as well|now)(?:,|[.]?$)",
            text,
        ):
            return [name for name in held or self._meant() if name not in foods]  # "drop the chicken in"
        if (order.do in ("coat", "brush", "touch") or order.verb in ("season", "rub", "salt")) and self._only_with(
            text
        ):  # "beat the egg, brush the top with it": not the egg
            return [name for name in self._meant() if name not in foods] or self._main(foods)
        vessels = [tool for tool in tools if self.kitchen.tools[tool] in VESSELS]
        begins = INTO_ANOTHER.search(text) and not any(self.kitchen.holds.get(tool) for tool in vessels)
        begins = begins or any(self.kitchen.tools[tool] == "plate" for tool in vessels)  # it lies beside what is there
        if order.do in ("mix", "pour", "transfer") and not begins and self._into_held(text, order):
            return held
        if (
            order.do == "pour"
            and order.verb not in ("drain", "strain", "skim")
            and not re.search(r"\b(?:away|off|out|into|in|over|onto|through)\b", text)
        ):
            return held
        return []

    def _vessel_next(self, text: str) -> bool:
        """True if the next words are a vessel ("in a bowl"), not a food ("in the flour")."""
        words = " ".join(re.split(r"\b(?:with|and)\b|,", text)[0].split()[:5])
        return bool(tools_in(words)) and not mentions(self.kitchen, words)

    def _begins_in(self, text: str, held: list[str]) -> bool:
        """ "Flour and salt into your biggest bowl": what goes into an empty vessel begins something new."""
        named = INTO_ANOTHER.search(text)
        return bool(not held and named and any(tool.kind in VESSELS for tool in tools_in(named[1])))

    def _joins_named(self, text: str) -> bool:
        """ "Add the beans to the sauce": what it joins is named."""
        found = re.search(r"\bto (?:the|this|your) (.+?)(?: with\b| and\b|$)", text)
        return bool(found and mentions(self.kitchen, found[1]))

    def _only_with(self, text: str) -> bool:
        """ "Brush the tops with egg": what is brushed is no food by name."""
        found = re.match(r"(.+?)\bwith\b", text)
        return bool(found and not mentions(self.kitchen, found[1]) and not tools_in(found[1]))

    def _into_held(self, text: str, order: Order) -> bool:
        """ "Pour the stock into the pan", "lay the pork on top": it joins what is there."""
        if re.search(r"\bon top\b|\balongside\b", text):
            return True
        found = re.search(r"\b(?:into|in|to|on|onto) (?:the )?(.+)$", text)
        return bool(found and self._vessel_next(found[1]))

    def _is_for_no_part(self, order: Order) -> bool:
        """ "Everything for the hummus", of a list that does not say what that is."""
        found = re.search(r"\beverything for (?:the )?([a-z]+)", order.text, re.IGNORECASE)
        return found is not None and all(found[1] not in food.part for food in self.kitchen.foods.values())

    def _understood(self, order: Order, tools: Sequence[str]) -> list[str]:
        """What an order without a food is about."""
        meant = self._still_raw(self._meant(), order) if order.do == "heat" else self._meant()
        if order.do == "probe":
            hot = [row for row in self.kitchen.steps if row.do in ("heat", "part_cook")]
            if hot and not any(self.kitchen.foods[name].heated for name in self._meant()):
                ready = [hot[-1].makes] if hot[-1].makes else hot[-1].foods
                return list(dict.fromkeys(self.kitchen.current(name) for name in ready))  # not what was cut meanwhile
        foods = self._in_its_tin(order, tools) or self._put_together(order) or meant
        glazes = vocabulary()["made"]["glazes"]
        if order.do == "brush" and all(self.kitchen.foods[name].group in glazes for name in foods):
            return [*foods, *self._main(foods)]  # "beat the egg, brush": what is being put together
        return self._fit_for(order, foods)

"""The tools of an order: named, presumed, or the ones in use."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from dataclasses import replace
from itertools import takewhile

from foodsafety.foods import stem_words
from foodsafety.recipes.dish_names import dish_of
from foodsafety.recipes.ingredients import Ingredient
from foodsafety.recipes.mentions import PARTICLE, PLAIN_GROUPS, FoodsInHand, mentions
from foodsafety.recipes.order import Order
from foodsafety.recipes.vessels import COLOURS, GOES_IN_OVEN, ON_THE_HEAT, PURPOSES, VESSELS, NamedTool, tools_in
from foodsafety.recipes.words import ORDINALS, first_free, vocabulary

_OWN_NAME = re.compile(rf"\d|\b(?:{'|'.join(sorted(COLOURS | PURPOSES))})\b")


# "So there's no board to wash".
_NO_KIT = re.compile(r"\bno (?:[a-z]+ )?(?:board|knife|bowl|pan|pot|plate|tray|spoon|whisk|mixer)s?\b", re.IGNORECASE)
_THOSE_VESSELS = re.compile(
    r"\b(?:in|into|on|onto|between) [^,;.]*\b(?:trays|tubs|boxes|containers|bowls|buckets|jars|dishes)\b.*\bthem\b",
    re.IGNORECASE,
)
_WITHOUT_A_BOARD = frozenset({"tear", "snip", "crumble", "pick", "break", "pull"})


def _after_verb(order: Order) -> str:
    return re.sub(r"^[\w-]+\s*", "", order.object_of or order.text).lower()


_MEANWHILE = re.compile(r"\W*(?:meanwhile|in the meantime|while (?:it|they|that|those|the [a-z ]+?) )", re.IGNORECASE)

# "Swap the board for a clean one", "get a fresh knife", "change boards", "new board": kit for what comes next.
_FRESH = r"(?:clean|fresh|new|different|another|second|separate|green|red|blue|yellow|white|brown)"
_KIT = r"(?:chopping |cutting )?(?:boards?|kni(?:fe|ves))"
_FRESH_KIT = re.compile(
    r"^\W*(?:(?:now|then|next|and|so|please) )*"
    r"(?:(?:get|grab|fetch|take|use|bring|pick up|switch to|change to|swap to|go to|on ?to|with) (?:out )?)?"
    rf"(?:a |an |the |your )?{_FRESH} {_KIT}(?:(?: and|,| and then|, and) (?:a |an |the )?(?:{_FRESH} )?{_KIT})?"
    r"(?: out)?(?: now| please| from now on| from here on)?[.!]*$"
    rf"|^\W*(?:(?:now|then|next|and|so) )*(?:change|swap|switch|replace) (?:the |your )?{_KIT}(?: and (?:the )?{_KIT})?"
    rf"(?: for (?:a )?{_FRESH} ones?)?(?: now| please)?[.!]*$",
    re.IGNORECASE,
)
_PANS = frozenset({"frying pan", "saucepan", "pot"})
_BAKEWARE = frozenset({"tray", "tin", "oven_dish", "roasting_tin"})
_BAKEWARE_IN_SHORT = frozenset({"tray", "tin", "dish"})

# Into what is in use, and nothing else is named.
_IN_THERE = re.compile(
    r"^(?:it |them )?(?:back )?in\b"
    r"(?! (?:half|halves|two|three|four|quarters|\d|cold|hot|warm|iced?|water|lines?|rows?|piles?|heaps?|layers?"
    r"|(?:an?|the|one|its|your) (?:single |big |thin |neat )?(?:line|row|pile|heap|layer|ring|circle|cent(?:re|er)"
    r"|middle"
    r"|fridge|freezer|sink|bin|sun|shade|oven|microwave|cold|warm|water))\b)|\bin$"
)

# "Take the meat out", "set aside".
_LIFTED = re.compile(
    r"^(?:take|lift|scoop|fish|get|pull)\b.*\bout\b|^remove\b|\b(?:aside|to one side)\b", re.IGNORECASE
)


class Kitchenware:
    """What is in hand while a text is read, and the tools of each order."""

    def __init__(self, items: Sequence[Ingredient], parts: Sequence[str] = (), title: str = "") -> None:
        self.kitchen = FoodsInHand(items, parts)
        self.title = title
        self.dish = dish_of(title)
        # Every word of the method: what it calls dough is called dough when it is made.
        self.told: frozenset[str] = frozenset()
        self.count = 0
        # True after a hand-wash in the same sentence: "pour to rinse, dry with paper" is no step of its own.
        self.washing = False
        # The foods that the label of a sentence names: "Rice: rinse, boil for 10 minutes".
        self.labelled: frozenset[str] = frozenset()
        # How an order begins whose minutes went to the heat that it is on.
        self.heated_for: tuple[str, float | None] = ("", None)
        # True if a sentence went on with a step of the one before; how many steps there were at its beginning.
        self.went_on = False
        self.began_at = 0
        # The foods named so far, of a text that has no list; None where it has one.
        self.introduced: set[str] | None = None
        # What the sentence before cut or grated: "grate the carrots and shred the cabbage. Mix with the yoghurt."
        self.prepared: frozenset[str] = frozenset()
        # The made food that a label before the sentence names: "Glaze. Whisk together ...".
        self.headed = ""
        self.own_board = ""  # "Person B (green board): ...": the board of whoever does it
        self.own_board_of = ""
        self.fresh_kit = dict[str, str]()  # the board and knife that were taken for what comes next, by their kind
        self.part_led = ""  # the part of the dish that the sentence begins with
        # All of the method, and the sentence being read.
        self.method = ""
        self.whole = ""
        self.either = False  # what a sauce goes on may be one of two foods
        self.of_no_line = False  # the food that was named last stands in no list
        # A made food and what the text calls it from this order on.
        self.becomes: tuple[str, str] | None = None
        # True after a sentence that nobody understood: what "it" is may have been said there.
        self.blind = False
        # True if an order of the sentence was about nothing that is known.
        self.lost = False
        # True after "set out": the foods that follow are only put ready.
        self.laying = False

    def _no_spice(self, names: list[str]) -> list[str]:
        """ "Wash the pepper": where the list has one that grew beside the spice, that one."""
        foods = self.kitchen.foods
        last = {stem_words(name)[-1:] for name in names if foods[name].group == "spice"}
        return [food.id for food in foods.values() if food.grown and stem_words(food.id)[-1:] in last] or names

    def _salt_and_pepper(self) -> list[str]:
        """What one seasons with where nobody says with what."""
        plain = (food for food in self.kitchen.foods.values() if food.group in PLAIN_GROUPS and not food.used)
        return [food.id for food in plain if re.search(r"\b(?:salt|pepper)$", food.id)]

    def _meant(self) -> list[str]:
        """What an order without a food is about: what was in hand last, or the one food there is."""
        kitchen = self.kitchen
        if not kitchen.last and not any(food.used for food in kitchen.foods.values()):
            alone = [food.id for food in kitchen.foods.values() if food.group not in PLAIN_GROUPS]
            return alone if len(alone) == 1 else []
        return list(dict.fromkeys(kitchen.current(name) for name in kitchen.last))

    def _before_the_coating(self) -> list[str]:
        """What was worked on before what it is coated with: "seasoned flour on a plate, turn the pieces in it"."""
        last = set(self._meant())
        for step in reversed(self.kitchen.steps):
            names = [self.kitchen.current(step.makes or name) for name in step.foods[:1]]
            found = [name for name in names if name not in last and not last & {step.makes, *step.foods}]
            if found:
                return found
        return []

    def _last_two(self) -> list[str]:
        """The two foods that were worked on last, at once or one after another."""
        found: list[str] = []
        last = self.kitchen.steps[-1] if self.kitchen.steps else None
        if last is not None and len(last.foods) == 2 and not last.makes:  # "rinse the chives and dill and cut both"
            return [self.kitchen.current(name) for name in last.foods]
        for step in reversed(self.kitchen.steps):
            names = [self.kitchen.current(step.makes or name) for name in step.foods[:1]]
            found += [name for name in names if name not in found]
        return found[:2][::-1]

    def _worked_on(self, pile: Sequence[str]) -> list[str]:
        """What a step of the method has worked on, of what lies ready."""
        rows = (step for step in self.kitchen.steps if step.source.startswith("step "))
        worked = {self.kitchen.current(name) for step in rows for name in step.foods}
        return [name for name in pile if name in worked]

    def _in_the_pans(self) -> list[str]:
        """What lies in all that stands on the heat."""
        pans = [tool for tool, kind in self.kitchen.tools.items() if kind in ON_THE_HEAT]
        held = [self.kitchen.current(name) for tool in pans for name in self.kitchen.holds.get(tool, ())]
        return list(dict.fromkeys(held))

    def _kept_hot(self) -> list[str]:
        """ "Keep it above 63": what is hot in its pan, cooked last, whatever else was in hand since."""
        held = set(self._in_the_pans())
        heats = (step for step in reversed(self.kitchen.steps) if step.do == "heat")
        cooked = (self.kitchen.current(step.makes or step.foods[0]) for step in heats if step.foods)
        return [name for name in cooked if name in held][:1]

    def _in_those_vessels(self) -> list[str]:
        """ "Pour it into shallow trays, stand them in iced water": what has just gone into those."""
        last = self.kitchen.steps[-1] if len(self.kitchen.steps) > self.began_at else None
        said = last is not None and last.do in ("pour", "transfer") and _THOSE_VESSELS.search(self.whole)
        return [self.kitchen.current(name) for name in last.foods] if last is not None and said else []

    def _washed_last(self) -> list[str]:
        """ "Wash the leeks. Peel the carrots. Dice the lot": all that was washed and peeled, one after another."""
        before = takewhile(lambda row: row.do in ("rinse", "peel"), reversed(self.kitchen.steps))
        washed = [self.kitchen.current(name) for row in before for name in reversed(row.foods)]
        return list(dict.fromkeys(reversed(washed)))

    def _tools(self, order: Order, foods: Sequence[str]) -> tuple[list[str], list[str]]:
        """Tools an order names or presumes, and whether they were guessed."""
        kitchen = self.kitchen
        words = re.sub(
            r"\b(?:straight |right )?(?:from|out of|off) (?:(?:the|its|their|a) )?[a-z ]+?\b(?=[,.]|$|\band\b"
            r"|\binto?\b|\bto\b|\bonto?\b|\bon\b|\bwith\b|\busing\b|\bover\b)",
            " ",
            _NO_KIT.sub(" ", re.sub(r"\buntil\b.*$", "", order.words, flags=re.IGNORECASE)),
        )
        if order.do == "clean":  # "clean board and knife": those in use, and no clean board
            words = re.sub(r"\bclean\b", " ", words, flags=re.IGNORECASE)
        named = [tool for tool in tools_in(words) if tool.kind != order.verb]
        tools = [self._tool(tool) for tool in named]
        guesses: list[str] = []
        if order.do == "heat":
            tools, guesses = self._cooker(order, tools, foods)
        elif order.do in ("cut", "peel", "grate", "probe"):
            own = vocabulary()["presumes"][order.do]
            if order.do == "probe":  # "the middle of every tray" is where, not with what
                tools = [tool for tool in tools if kitchen.tools[tool] not in VESSELS]
            missing = [kind for kind in own if kind not in [kitchen.tools[tool] for tool in tools]]
            by_itself = {"scissors", "fork", "food_processor", "blender"}
            if order.verb in _WITHOUT_A_BOARD or by_itself & {kitchen.tools[tool] for tool in tools}:
                missing = []  # torn by hand, snipped into the pan
            tools.extend(self._plain_tool(kind) for kind in missing)
            guesses = ["tools"] if missing else []
        elif not tools and kitchen.vessel and self._goes_on_in_it(order, foods):
            tools, guesses = [self._where(order, foods)], ["vessel"]
        elif not tools and order.do in vocabulary()["presumes"]:
            if len(foods) < 2 and order.verb in ("crush", "bash", "bruise"):
                return [], []  # garlic is crushed where it lies
            tools = [self._plain_tool(kind, fresh=kind in VESSELS) for kind in vocabulary()["presumes"][order.do]]
            guesses = ["tools"]
        return list(dict.fromkeys(tools)), guesses

    def _is_hot(self, vessel: str | None) -> bool:
        return vessel is not None and self.kitchen.tools[vessel] in ON_THE_HEAT

    def _cut_here(self) -> set[str]:
        """What this sentence has cut, where it has done nothing else so far."""
        here = self.kitchen.steps[self.began_at :]
        lifted = all(row.do != "transfer" or not row.tools for row in here)  # "scoop out the avocado"
        every = lifted and all(row.do in ("cut", "grate", "peel", "rinse", "transfer") for row in here)
        return {name for row in here for name in row.foods} if every else set()

    def _cut_meanwhile(self, order: Order) -> set[str]:
        """ "Meanwhile shred the cabbage, stir in the yogurt": into the cabbage, not into what is in the oven."""
        return self._cut_here() if order.do == "mix" and _MEANWHILE.match(self.whole) else set()

    def _where(self, order: Order, foods: Sequence[str]) -> str:
        """The vessel in use, or the pan that what an order is about lies in: "beat the eggs, pour over", over what is
        in it; "shred it and stir it back in"."""
        kitchen = self.kitchen
        vessel = kitchen.vessel or ""
        own = {kitchen.current(name) for name in foods}
        held_by = [tool for tool, held in kitchen.holds.items() if own & {kitchen.current(name) for name in held}]
        if vessel in held_by and re.search(r"^pour\w* (?:it |them )?over\W*$", order.text, re.IGNORECASE):
            held_by += [tool for tool, held in kitchen.holds.items() if held and tool not in held_by]
        hot = [tool for tool in held_by if tool != vessel and kitchen.tools.get(tool) in ON_THE_HEAT]
        over = vessel in held_by and order.do in ("garnish", "pour") and re.search(r"\bover\b", order.text)
        back = vessel not in held_by and order.do == "mix" and re.search(r"\bback in\b(?!to)", order.text)
        return self._lies_in(order) or (hot[-1] if hot and (over or back) else vessel)

    def _lies_in(self, order: Order) -> str:
        """ "Pour the sauce over the fish", which lies in its dish: that dish; nothing where none is named."""
        kitchen = self.kitchen
        onto = re.search(r"\b(?:over|onto|on to|on top of) (?:the |your )?(.+)$", order.text, re.IGNORECASE)
        if not onto or order.do not in ("pour", "garnish"):
            return ""
        under = {kitchen.current(name) for _, names in mentions(kitchen, onto[1]) for name in names}
        lie_in = [tool for tool, held in kitchen.holds.items() if under & {kitchen.current(name) for name in held}]
        return lie_in[-1] if len(lie_in) == 1 and kitchen.tools.get(lie_in[0]) in VESSELS | GOES_IN_OVEN else ""

    def _just_lifted_out(self) -> set[str]:
        """What was taken out of its pan just now, and put nowhere."""
        last = self.kitchen.steps[-1] if self.kitchen.steps else None
        if last is None or last.do != "transfer" or last.tools or not _LIFTED.search(last.text):
            return set()
        return {self.kitchen.current(name) for name in (last.makes, *last.foods) if name}

    def _goes_on_in_it(self, order: Order, foods: Sequence[str]) -> bool:
        """True if an order that names no vessel is done in the one in use: it is about what is in it."""
        kitchen = self.kitchen
        lies_in_it = {kitchen.current(name) for name in kitchen.holds.get(kitchen.vessel or "", [])}
        if order.verb in ("drain", "strain") and lies_in_it and foods:
            # "Fry the onions. Drain the beans": those of a tin, and the onions stay where they are.
            return bool(lies_in_it & {kitchen.current(name) for name in foods})
        if order.do == "pour" or re.search(r"\bon top\b", order.text):
            return True
        if order.do == "transfer" and kitchen.vessel and _IN_THERE.search(_after_verb(order)):
            return True  # "tip in the beans", with the onions in the pot
        if order.do not in ("mix", "coat", "marinate", "chill", "rest", "freeze", "garnish"):
            return False
        if self._cut_meanwhile(order):
            return False
        held = {kitchen.current(name) for name in kitchen.holds.get(kitchen.vessel or "", [])}
        joins = order.do in ("mix", "coat") and len(foods) > 1 and PARTICLE.match(_after_verb(order)) is None
        about = {kitchen.current(name) for name in foods} | (set() if joins else set(self._meant()))
        if order.do == "rest" and not held and self._set_down(set(foods) or about):
            return False
        if self._stirred_in(order, foods, held):
            return True
        if self._into_another(order, held):
            return False
        # "Stir the yoghurt" with something else in the pan is done elsewhere; "stir in the yoghurt" is not.
        stirs = order.verb in ("stir", "fold", "whisk", "beat")
        into = re.search(r"\b(?:in|into|through|together|everything|all)\b", _after_verb(order))
        own = {kitchen.current(name) for name in foods}
        if held and len(own) > 1 and not held & own and re.search(r"\btogether\b", _after_verb(order)):
            return False  # "stir the cabbage and the yoghurt together", with a roast in the tin
        if held and stirs and own and not held & own and into is None:
            return False
        return not held or bool(held & about) or order.verb == "add" or stirs

    def _set_down(self, names: Collection[str]) -> bool:
        """ "Lift the joint onto a plate. Leave it for 10 minutes": there, and not in the pot it came from."""
        last = next((step for step in reversed(self.kitchen.steps) if {*step.foods, step.makes} & set(names)), None)
        moved = last if last is not None and last.do == "transfer" else None
        kinds = {self.kitchen.tools.get(tool) for tool in moved.tools} if moved else set()
        return not kinds.isdisjoint({"plate", "board", "rack"})

    def _stirred_in(self, order: Order, foods: Sequence[str], held: Collection[str]) -> bool:
        """ "Paprika, stir.": into the pan that is on the heat."""
        bare = re.fullmatch(r"(?:stir|mix)(?: (?:it|them))?(?: (?:in|well|through))?[.,!]*", order.text, re.IGNORECASE)
        fresh = order.lead or not any(self.kitchen.foods[name].used for name in foods)
        return bool(
            bare
            and fresh
            and held
            and self.kitchen.tools.get(self.kitchen.vessel or "") in ON_THE_HEAT
            and not set(held) & set(foods)
        )

    def _into_another(self, order: Order, held: set[str]) -> bool:
        """ "Stir the mint into the yoghurt": into an ingredient that is not in the vessel in use."""
        found = re.search(r"\b(?:into|through) (?:the |your |that )?(.+)$", order.text, re.IGNORECASE)
        named = [name for _, ids in mentions(self.kitchen, found[1]) for name in ids] if found else []
        return (
            bool(named)
            and all(name not in held and not self.kitchen.foods[name].into for name in named)
            and not any(self.kitchen.foods[name].made for name in named)
        )

    def _cooker(self, order: Order, tools: list[str], foods: Sequence[str]) -> tuple[list[str], list[str]]:
        """What a heat step is done on: said, told by the verb, or the vessel in use."""
        kitchen = self.kitchen
        cooker = next((kind for kind, verbs in vocabulary()["vessel"].items() if order.verb in verbs.split()), None)
        if (
            cooker == "oven"
            or (order.oven_c is not None and cooker is None)
            or (order.verb == "cook" and not tools and (self._waits_for_the_oven() or self._was_in_the_oven(foods)))
            or re.search(r"\boven\b", order.words, re.IGNORECASE)
        ):
            held = [kitchen.vessel] if kitchen.vessel and kitchen.tools[kitchen.vessel] in GOES_IN_OVEN else []
            return [*tools, *([] if tools else held), self._plain_tool("oven")], []
        if cooker in ("grill", "griddle", "barbecue", "microwave"):
            return [*tools, self._plain_tool(cooker)], []
        if tools:
            return tools, []
        if kitchen.vessel and kitchen.tools[kitchen.vessel] in ON_THE_HEAT:
            boils = order.verb in ("boil", "parboil", "blanch", "steam")
            apart = (
                boils or cooker in ("saucepan", "pot") or (cooker == "frying pan" and self._boils_in(kitchen.vessel))
            )
            if cooker and apart and self._is_full_of_others(foods, "" if boils else cooker):
                return [self._plain_tool(cooker, fresh=True)], ["tools"]  # "simmer the peas", with fishcakes frying
            return [kitchen.vessel], ["tools"]
        return [self._plain_tool(cooker or "saucepan")], ["tools"]

    def _boils_in(self, vessel: str) -> bool:
        """True for a pan in which something was put on to boil: nothing is fried in there."""
        last = next((row for row in reversed(self.kitchen.steps) if vessel in row.tools), None)
        return last is not None and re.match(r"(?:boil|simmer|steam|blanch)\b", last.text, re.IGNORECASE) is not None

    def _is_full_of_others(self, foods: Sequence[str], cooker: str) -> bool:
        """True while the pan on the heat is of another kind and holds none of these."""
        kitchen = self.kitchen
        full = {kitchen.current(name) for name in kitchen.holds.get(kitchen.vessel or "", [])}
        others = bool(full and foods) and full.isdisjoint(kitchen.current(name) for name in foods)
        return others and cooker != kitchen.tools.get(kitchen.vessel or "")

    def _was_in_the_oven(self, foods: Sequence[str]) -> bool:
        """True for what the last heat baked: "lift out the beans and give it another 5"."""
        heats = [row for row in self.kitchen.steps if row.do in ("heat", "part_cook")]
        return bool(heats) and "oven" in heats[-1].tools and bool(set(foods) & {*heats[-1].foods, heats[-1].makes})

    def _waits_for_the_oven(self) -> bool:
        """True with the oven on and what was laid in its tin last: "spread them on the tray. 25 minutes"."""
        vessel = self.kitchen.vessel
        return (
            self.kitchen.oven_c is not None
            and vessel is not None
            and self.kitchen.tools[vessel] in GOES_IN_OVEN
            and self.kitchen.tools[vessel] not in ON_THE_HEAT
        )

    def _plain_tool(self, kind: str, *, fresh: bool = False) -> str:
        """The tool of a kind that nobody names; a ``fresh`` vessel is none that is full. One that raw food has been
        in and left is taken again: nobody said that it was washed or another, so somebody is asked."""
        if kind == "board" and self.own_board:
            return self.own_board
        if kind in self.fresh_kit:
            return self.fresh_kit[kind]
        same = [name for name, other in self.kitchen.tools.items() if other == kind]
        empty = [name for name in same if not self.kitchen.holds.get(name)]
        if fresh and empty:
            return empty[-1]
        return self._tool(NamedTool(name=kind.replace("_", " "), kind=kind, new=fresh and bool(same), a=False))

    def _takes_fresh_kit(self, text: str) -> bool:
        """ "Swap the board for a clean one": what is cut from here on is cut there. "Clean board": nobody knows whether
        that is an order, so it is read as one to clean it."""
        if not _FRESH_KIT.match(text) or re.match(r"\W*clean (?!.*\b(?:fresh|new|another)\b)", text, re.IGNORECASE):
            return False
        for tool in tools_in(text):
            coloured = not (COLOURS | PURPOSES).isdisjoint(tool.name.split())
            self.fresh_kit[tool.kind] = self._tool(tool if coloured else replace(tool, name=tool.kind, new=True))
        return True

    def _tool(self, tool: NamedTool) -> str:
        """The id of a tool: "the bowl" is the one in use, "another bowl" a new one, and "a bowl"
        too if the one we have is not empty."""
        kitchen = self.kitchen
        same = [name for name, kind in kitchen.tools.items() if kind == tool.kind]
        # "A bowl" is another than one that raw food has been in, or that is full.
        used = {
            name
            for step in kitchen.steps
            for name in step.tools
            if any(kitchen.foods[f].raw for f in step.foods if f in kitchen.foods)
        }
        full = tool.a and tool.kind in VESSELS and any(kitchen.holds.get(name) or name in used for name in same)
        if tool.any_pan and tool.sized in kitchen.sized_pans:
            return kitchen.sized_pans[tool.sized]
        # "The small pan", with something on in one that nobody called small.
        other = bool(tool.any_pan and tool.sized and any(kitchen.holds.get(name) for name in same))
        hot = kitchen.vessel if kitchen.vessel and kitchen.tools[kitchen.vessel] in ON_THE_HEAT else None
        if tool.any_pan and not (
            hot or same or tool.new
        ):  # "the pan", with a bowl in use: the one that holds something
            pans = [name for name in kitchen.tools if kitchen.tools[name] in _PANS and kitchen.holds.get(name)]
            hot = pans[-1] if pans else None
        if tool.any_pan and not tool.a and hot and not other:
            return self._called_so(tool, hot)
        tool = replace(tool, new=tool.new or other)
        # "A roasting tin ... put the tin in the oven": the one in use, of whatever make.
        bakes = kitchen.vessel is not None and kitchen.tools[kitchen.vessel] in _BAKEWARE
        if bakes and not same and not tool.a and not tool.new and tool.name in _BAKEWARE_IN_SHORT:
            return str(kitchen.vessel)
        if same and not tool.new and not full and not _OWN_NAME.search(tool.name):
            if tool.name in kitchen.tools:
                return tool.name
            if kitchen.vessel in same:
                return str(kitchen.vessel)
            return same[-1]
        if tool.name in kitchen.tools and _OWN_NAME.search(tool.name):
            return tool.name
        taken = {*kitchen.tools, *kitchen.foods}
        more = (f"{nth} {tool.name}" for nth in ORDINALS)
        name = first_free((tool.name, *more), tool.name, taken)
        kitchen.tools[name] = tool.kind
        return self._called_so(tool, name)

    def _called_so(self, tool: NamedTool, name: str) -> str:
        """The id of a pan, remembered by the word for its size that the text has just used of it."""
        if tool.any_pan and tool.sized:
            self.kitchen.sized_pans[tool.sized] = name
        return name

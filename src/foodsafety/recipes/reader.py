"""Instructions followed from top to bottom: what is in which vessel, and what has become of each food."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Sequence
from itertools import count, pairwise

from foodsafety.foods import stem, stem_words
from foodsafety.recipes.ingredients import Ingredient
from foodsafety.recipes.instructions import Order, vocabulary
from foodsafety.recipes.mentions import (
    NOT_MIXTURES,
    PART_OF,
    PARTICLE,
    PRONOUN,
    THE_LOT,
    THE_REST,
    FoodInHand,
    FoodsInHand,
    made_match,
    made_nouns,
    mentions,
)
from foodsafety.recipes.proposed_steps import ReadStep
from foodsafety.recipes.vessels import GOES_IN_OVEN, ON_THE_HEAT, VESSELS, NamedTool, tools_in

PERSON = "cook"
_NO_HANDS = frozenset({"heat", "rest", "chill", "freeze", "serve", "probe", "marinate", "part_cook"})
_CONTINUING = frozenset({"heat", "rest", "chill", "freeze", "marinate", "clean", "wash_hands", "touch"})
_WAITING_DO = frozenset({"rest", "chill", "freeze", "marinate"})
_JOINS = frozenset({"mix", "coat", "marinate"})


class StepReader:
    """Reads orders into steps, one after another."""

    def __init__(self, items: Sequence[Ingredient]) -> None:
        self.kitchen = FoodsInHand(items)
        self.count = 0
        # The sentence of a hand-wash: "pour to rinse, dry with paper" in it is no step of its own.
        self.washing = ""

    def step(self, order: Order, source: str) -> None:
        kitchen = self.kitchen
        if order.oven_c is not None and order.do in ("none", "heat"):
            kitchen.oven_c = order.oven_c
        if order.do == "none":
            self._set_up(order)
            return
        foods = self._foods(order)
        tools, guesses = self._tools(order)
        if self._goes_on(order, foods, tools):
            return
        if source == self.washing and not foods and order.do not in ("clean", "wash_hands"):
            return
        self.washing = source if order.do == "wash_hands" else ""
        self.count += 1
        step = ReadStep(
            id=f"s{self.count}", do=self._cooked_through(order, foods), text=order.words, source=source, guesses=guesses
        )
        step.tools = tools
        if not foods and order.do not in ("wash_hands", "clean", "wipe", "gloves_on", "gloves_off"):
            foods = self._meant()
            step.guesses = [*step.guesses, "foods"] if not PRONOUN.search(order.text) else step.guesses
        step.foods = self._with_contents(order, foods, tools)
        step.hands = [] if order.do in _NO_HANDS else [PERSON]
        self._times(step, order)
        self._make(step, order)
        step.after = self._after(step)
        kitchen.steps.append(step)
        self._remember(step)

    def _cooked_through(self, order: Order, foods: list[str]) -> str:
        """Browning whole pieces of raw meat cooks the outside only."""
        raw = {"raw meat", "raw poultry"}
        if order.verb in ("brown", "sear") and any(self.kitchen.foods[name].group in raw for name in foods):
            return "part_cook"
        return order.do

    def _set_up(self, order: Order) -> None:
        """Preheating, covering, turning down: no step, though a time or an end may belong to the last one."""
        last = self.kitchen.steps[-1] if self.kitchen.steps else None
        if (
            order.verb in ("cover", "repeat", "continue", "turn")
            and last
            and last.do in ("heat", "rest")
            and order.high_min
            and not last.waiting_min + last.active_min
        ):
            self._times(last, order)

    def _goes_on(self, order: Order, foods: list[str], tools: list[str]) -> bool:
        """True if an order only continues the last step: "put in the oven and bake", "bring to the
        boil, then simmer"."""
        last = self.kitchen.steps[-1] if self.kitchen.steps else None
        if last is None or order.do != last.do or order.do not in _CONTINUING:
            return False
        new = [food for food in foods if food not in last.foods and food != last.makes]
        if order.do in ("clean", "wash_hands") and [tool for tool in tools if tool not in last.tools]:
            return False
        if new or (last.active_min + last.waiting_min and order.high_min and order.do == "heat"):
            return False
        if last.active_min + last.waiting_min and order.high_min:
            return False
        self._times(last, order)
        last.text = f"{last.text}, {order.words}" if order.words not in last.text else last.text
        last.until = order.until or last.until
        last.core_c = last.core_c or order.core_c
        last.level = last.level or order.level
        last.tools = list(dict.fromkeys((*last.tools, *tools)))
        return True

    def _times(self, step: ReadStep, order: Order) -> None:
        minutes = order.high_min or 0.0
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

    def _foods(self, order: Order) -> list[str]:
        """Foods an order names, as they are by now."""
        kitchen = self.kitchen
        if order.do in ("wash_hands", "clean", "wipe"):
            return []
        whole = self._text_of(order)
        found = mentions(kitchen, whole)
        ids = [*self._everything(whole), *(name for _, names in found for name in names)]
        named = [kitchen.current(name) for name in ids]
        ids += self._called(whole, named, implied=bool(PARTICLE.match(self._after_verb(order))))
        originals = self._divided(whole, found)
        named = [name if name in originals else kitchen.current(name) for name in ids]
        pronoun = PRONOUN.search(whole)
        if (
            pronoun
            and order.do != "serve"
            and not THE_LOT.search(whole)
            and pronoun[0].lower() not in ("everything", "all")
        ):
            named = [*self._meant(), *named]
        return list(dict.fromkeys(named))

    def _text_of(self, order: Order) -> str:
        """The words of an order in which its foods stand: not what it becomes, nor until when."""
        text = order.object_of or order.text
        text = re.sub(r"\buntil\b.*$", "", text, flags=re.IGNORECASE)
        text = re.sub(
            r"\bbefore \w+ing\b.*$|\b(?:as|so that|being careful|making sure|taking care)\b.*$",
            "",
            text,
            flags=re.IGNORECASE,
        )
        made = made_match(text)
        if made and made[0] not in self.kitchen.foods:
            text = text[: made[1]] + text[made[2] :]
        lead = order.lead if re.match(r"(?:with|using|add|to)\b", order.lead, re.IGNORECASE) else ""
        return f"{lead} {text}"

    def _called(self, text: str, named: Sequence[str], *, implied: bool) -> list[str]:
        """A name for a mixture that no one has given yet: "over the cold cake", "the raita"."""
        ids: list[str] = []
        for found in re.finditer(r"(?:\b(?:the|this|and|with|over)|,) ([a-z]+)(?: ([a-z]+))?", text, re.IGNORECASE):
            words = [stem(word.lower()) for word in found.groups() if word]
            name = next((word for word in words if word in made_nouns()), None)
            if name is None or mentions(self.kitchen, found[0]) or tools_in(found[0]):
                continue
            made = [f for f in self.kitchen.foods.values() if f.made and not f.into and f.id not in (*ids, *named)]
            if made:
                # What is in hand, unless that is what the order works on without saying so.
                likely = next((food for food in made if (food.id in self._meant()) != implied), made[-1])
                likely.names.append((name,))
                ids.append(likely.id)
        return ids

    def _divided(self, text: str, found: list[tuple[int, list[str]]]) -> set[str]:
        """Foods of which a part is meant ("half the cucumber", "the remaining oil"): they stay
        themselves, whatever the first part has gone into."""
        originals: set[str] = set()
        for pattern in (PART_OF, THE_REST):
            for match in pattern.finditer(text):
                at = len(stem_words(text[: match.end()]))
                after = [names for i, names in found if i >= at - 1]
                for name in after[0] if after else ():
                    if not self.kitchen.foods[name].made:
                        self.kitchen.foods[name].split = True
                        originals.add(name)
        return originals

    def _everything(self, text: str) -> list[str]:
        """ "All the ingredients", "everything else": what has not been used yet."""
        if not THE_LOT.search(text):
            return []
        groups = {
            "dry": ("flour", "sugar", "leavening", "spice", "salt", "starch", "dry grain", "chocolate"),
            "wet": ("milk", "egg", "oil", "yoghurt", "butter", "water", "syrup", "drink"),
        }
        for word, wanted in groups.items():
            if re.search(rf"\b{word} ingredients\b", text, re.IGNORECASE):
                return [known.id for known in self.kitchen.foods.values() if known.group in wanted and not known.used]
        return [known.id for known in self.kitchen.foods.values() if not known.used and not known.made]

    def _meant(self) -> list[str]:
        """What an order without a food is about: what was in hand last."""
        kitchen = self.kitchen
        return list(dict.fromkeys(kitchen.current(name) for name in kitchen.last))

    def _tools(self, order: Order) -> tuple[list[str], list[str]]:
        """Tools an order names or presumes, and whether they were guessed."""
        kitchen = self.kitchen
        named = [tool for tool in tools_in(order.words) if tool.kind != order.verb]
        tools = [self._tool(tool) for tool in named]
        guesses: list[str] = []
        if order.do == "heat":
            tools, guesses = self._cooker(order, tools)
        elif order.do in ("cut", "peel", "grate"):
            own = vocabulary()["presumes"][order.do]
            missing = [kind for kind in own if kind not in [kitchen.tools[tool] for tool in tools]]
            tools.extend(self._plain_tool(kind) for kind in missing)
            guesses = ["tools"] if missing else []
        elif (not tools and kitchen.vessel and (order.do == "pour" or re.search(r"\bon top\b", order.text))) or (
            not tools
            and order.do in ("mix", "coat", "marinate", "chill", "rest", "freeze", "garnish")
            and kitchen.vessel
        ):
            tools = [kitchen.vessel]
        elif not tools and order.do in vocabulary()["presumes"]:
            tools = [self._plain_tool(kind) for kind in vocabulary()["presumes"][order.do]]
            guesses = ["tools"]
        return list(dict.fromkeys(tools)), guesses

    def _cooker(self, order: Order, tools: list[str]) -> tuple[list[str], list[str]]:
        """What a heat step is done on: said, told by the verb, or the vessel in use."""
        kitchen = self.kitchen
        cooker = next((kind for kind, verbs in vocabulary()["vessel"].items() if order.verb in verbs.split()), None)
        if cooker == "oven" or re.search(r"\boven\b", order.words, re.IGNORECASE):
            held = [kitchen.vessel] if kitchen.vessel and kitchen.tools[kitchen.vessel] in GOES_IN_OVEN else []
            return [*tools, *([] if tools else held), self._plain_tool("oven")], []
        if cooker in ("grill", "griddle", "barbecue", "microwave"):
            return [*tools, self._plain_tool(cooker)], []
        if tools:
            return tools, []
        if kitchen.vessel and kitchen.tools[kitchen.vessel] in ON_THE_HEAT:
            return [kitchen.vessel], ["tools"]
        return [self._plain_tool(cooker or "saucepan")], ["tools"]

    def _plain_tool(self, kind: str) -> str:
        return self._tool(NamedTool(name=kind.replace("_", " "), kind=kind, new=False, a=False))

    def _tool(self, tool: NamedTool) -> str:
        """The id of a tool: "the bowl" is the one in use, "another bowl" a new one, and "a bowl"
        too if the one we have is not empty."""
        kitchen = self.kitchen
        same = [name for name, kind in kitchen.tools.items() if kind == tool.kind]
        full = tool.a and tool.kind in VESSELS and any(kitchen.holds.get(name) for name in same)
        if tool.any_pan and not tool.a and kitchen.vessel and kitchen.tools[kitchen.vessel] in ON_THE_HEAT:
            return kitchen.vessel
        if same and not tool.new and not full:
            if tool.name in kitchen.tools:
                return tool.name
            if kitchen.vessel in same:
                return str(kitchen.vessel)
            return same[-1]
        taken = {*kitchen.tools, *kitchen.foods}
        more = (f"{nth} {tool.name}" for nth in _ORDINALS)
        name = _first_free((tool.name, *more), tool.name, taken)
        kitchen.tools[name] = tool.kind
        return name

    def _with_contents(self, order: Order, foods: list[str], tools: list[str]) -> list[str]:
        """The foods of an order with those it does not say: what the vessel holds, what was in hand."""
        more = self._unsaid(order, foods, tools) if foods else []
        return list(dict.fromkeys((*(self.kitchen.current(name) for name in more), *foods)))

    def _unsaid(self, order: Order, foods: list[str], tools: list[str]) -> list[str]:
        text = self._after_verb(order)
        held = self._held(order, tools)
        particle = PARTICLE.match(text)
        if order.do == "heat":
            fats = held and all(self.kitchen.foods[name].group in _FATS for name in held)
            return held if fats else []
        if order.do not in ("mix", "pour", "transfer", "coat", "brush", "garnish", "serve", "touch", "marinate"):
            return []
        if order.do == "garnish":
            made = any(self.kitchen.foods[name].made for name in foods) and not re.search(
                r"\b(?:over|on top)[.]?$", text
            )
            return [] if made and not particle else self._meant() if particle or not made else []
        if order.verb == "add" or (
            particle
            and particle[1] in ("in", "through")
            and order.do != "coat"
            and not self._vessel_next(text[particle.end() :])
        ):
            return [] if self._joins_named(text) else held or self._meant()
        if particle:
            return self._meant()
        if order.do in ("coat", "brush", "touch") and self._only_with(text):
            return self._meant()
        if order.do in ("mix", "pour", "transfer") and self._into_held(text, order):
            return held
        return []

    def _after_verb(self, order: Order) -> str:
        return re.sub(r"^[\w-]+\s*", "", order.object_of or order.text).lower()

    def _held(self, order: Order, tools: list[str]) -> list[str]:
        """What the vessel of an order holds: the one it names, or the one in use."""
        kitchen = self.kitchen
        named = [tool for tool in tools if kitchen.tools[tool] in VESSELS]
        vessel = named[-1] if named else kitchen.vessel
        return [kitchen.current(name) for name in kitchen.holds.get(vessel or "", [])]

    def _vessel_next(self, text: str) -> bool:
        """True if the next words are a vessel ("in a bowl"), not a food ("in the flour")."""
        words = " ".join(text.split()[:5])
        return bool(tools_in(words)) and not mentions(self.kitchen, words)

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
        found = re.search(r"\b(?:into|in|to|on|onto) the (.+)$", text)
        return bool(found and self._vessel_next(found[1]))

    def _make(self, step: ReadStep, order: Order) -> None:
        """Joining several foods makes a new one; shaping may only name it."""
        made = made_match(order.text)
        lead = re.match(r"for the ([a-z]+)\b", order.lead, re.IGNORECASE)
        named = made[0] if made else lead[1].lower() if lead and stem(lead[1].lower()) in made_nouns() else None
        joins = step.do in _JOINS or step.do in ("heat", "transfer", "pour", "touch", "brush", "garnish")
        if joins and len(step.foods) > 1:
            wanted = named or self._mixture_of(step.foods, cooked=step.do == "heat", verb=order.verb)
            step.makes = self._name(wanted, step.foods)
            self._new_food(step.makes, step.foods)
        elif named and step.foods and named not in self.kitchen.foods and step.do in ("touch", "mix", "cut", "heat"):
            step.makes = self._name(named, step.foods)
            self._new_food(step.makes, step.foods)

    def _name(self, wanted: str, parts: Sequence[str]) -> str:
        """A name nothing has yet: what goes in tells one "egg mixture" from the next, never a number
        that only the program understands."""
        known = [self.kitchen.foods[name] for name in parts]
        plain = [_root(name.id) for name in known if name.group in _PLAIN]
        added = [food.id for food in known if not food.made and food.group not in _PLAIN]
        added += [root for food in known if food.made and (root := _root(food.id)) != wanted] + plain
        more = [f"{wanted} with {name}" for name in added]
        more += [f"{wanted} with {a} and {b}" for a, b in pairwise(added)]
        more += [f"finished {wanted}", *(f"{nth} {wanted}" for nth in _ORDINALS)]
        return _first_free((wanted, *more), wanted, {*self.kitchen.foods, *self.kitchen.tools})

    def _mixture_of(self, foods: Sequence[str], *, cooked: bool, verb: str) -> str:
        """A mixture is named after its chief food, and keeps the name as more goes in."""
        known = [self.kitchen.foods[name] for name in foods]
        made = next((food.id for food in known if food.made and not food.id.startswith("seasoned")), None)
        if made:
            root = _root(made)
            return f"cooked {root}" if cooked and not root.startswith("cooked ") else root
        chief = next((food for food in known if food.group.startswith("raw") or food.made), None)
        chief = chief or next((food for food in known if food.group not in _PLAIN), known[0])
        others = {food.group for food in known if food is not chief}
        if cooked:
            return f"cooked {chief.id}"
        if verb == "mash":
            return "mash"
        if others <= {"salt", "spice", "dried herb"}:
            return f"seasoned {chief.id}"
        if others <= _FATS:
            return f"{chief.id} in {'butter' if 'butter' in others else 'oil'}"
        return f"{chief.id} mixture"

    def _new_food(self, made: str, parts: Sequence[str]) -> None:
        kitchen = self.kitchen
        words = stem_words(re.sub(r" in (?:oil|butter)$", "", _root(made).removeprefix("cooked ")))
        names = {words, words[-1:]}
        if not set(words) & NOT_MIXTURES:
            names.add(("mixture",))
        kitchen.foods[made] = FoodInHand(
            id=made, names=sorted((n for n in names if n), key=lambda n: -len(n)), made=True
        )
        for name in parts:
            if not kitchen.foods[name].split or kitchen.foods[name].made:
                kitchen.foods[name].into = made

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

    def _remember(self, step: ReadStep) -> None:
        kitchen = self.kitchen
        for name in step.foods:
            kitchen.foods[name].used = True
        now = [step.makes] if step.makes else list(step.foods)
        if now:
            kitchen.last = now
        vessels = [tool for tool in step.tools if kitchen.tools[tool] in VESSELS]
        if vessels and step.do not in ("clean", "wipe", "cut", "probe"):
            kitchen.vessel = vessels[-1]
            kitchen.holds[vessels[-1]] = now
        elif step.do in _JOINS and kitchen.vessel in step.tools and kitchen.vessel:
            kitchen.holds[kitchen.vessel] = now
        if step.do == "transfer":
            for tool, held in list(kitchen.holds.items()):
                if tool not in vessels and set(held) & set(step.foods):
                    kitchen.holds[tool] = []


_ORDINALS = ("second", "third", "fourth", "fifth", "sixth")


def _first_free(names: Iterable[str], plain: str, taken: Collection[str]) -> str:
    """The first name that nothing has; a number where there are more of them than anybody has words for."""
    free = next((name for name in names if name not in taken), None)
    return free or next(name for n in count(7) if (name := f"{plain} {n}") not in taken)


def _root(made: str) -> str:
    """What a mixture was first called, before more went in."""
    return re.sub(r" with .+$| \d+$", "", re.sub(rf"^(?:seasoned|finished|{'|'.join(_ORDINALS)}) ", "", made))


_FATS = frozenset({"oil", "butter"})
_PLAIN = frozenset({"oil", "salt", "spice", "water", "herb", "dried herb", "butter"})

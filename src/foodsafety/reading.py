"""The step reader: from ingredients and instructions to a proposed process.

It follows what is in which vessel and what has become of each food. What it proposes is for a
person to confirm; what it had to guess is said in ``guesses``.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from functools import cache
from typing import Any

from foodsafety.foods import food_kind, stem, stem_words
from foodsafety.ingredients import Ingredient
from foodsafety.instructions import Order, orders, sentences, vocabulary

PERSON = "cook"
_NO_HANDS = frozenset({"heat", "rest", "chill", "freeze", "serve", "probe", "marinate", "part_cook"})
_CONTINUING = frozenset({"heat", "rest", "chill", "freeze", "marinate", "clean", "wash_hands", "touch"})
_WAITING_DO = frozenset({"rest", "chill", "freeze", "marinate"})
_JOINS = frozenset({"mix", "coat", "marinate"})
# Orders that move or change what a vessel holds, so that an order without a food means that.
_PRONOUN = re.compile(r"\b(?:it|them|both|these|this|everything|all)\b", re.IGNORECASE)
_PART = re.compile(
    r"\b(?:half|some|a third|a quarter|two.thirds|most|a little|a few|three.quarters|one)\b(?: of)?(?: the)?",
    re.IGNORECASE,
)
_REST = re.compile(r"\b(?:rest|remaining|reserved|other half|other|leftover)\b", re.IGNORECASE)
_ALL = re.compile(
    r"\ball (?:of )?the (?:other )?(?:remaining )?ingredients\b|\beverything(?: else)?\b"
    r"|\b(?:the )?(?:remaining|other|rest of the) ingredients\b|\bthe (?:\w+ )?ingredients\b",
    re.IGNORECASE,
)


@dataclass(slots=True, kw_only=True)
class ReadStep:
    """One proposed step; ``text`` the words it came from, ``guesses`` what nobody said."""

    id: str
    do: str
    text: str
    foods: list[str] = field(default_factory=list)
    tools: list[str] = field(default_factory=list)
    hands: list[str] = field(default_factory=list)
    makes: str | None = None
    after: list[str] = field(default_factory=list)
    active_min: float = 0.0
    waiting_min: float = 0.0
    low_min: float | None = None
    oven_c: float | None = None
    core_c: float | None = None
    level: str = ""
    until: str = ""
    source: str = ""
    guesses: list[str] = field(default_factory=list)

    def as_data(self) -> dict[str, Any]:
        """The step in the process's own form, with what only people and the plan read."""
        heat = {"oven_c": self.oven_c, "level": self.level or None}
        end = {"core_c": self.core_c, "cue": self.until or None}
        rows = {
            "id": self.id,
            "do": self.do,
            "foods": self.foods,
            "tools": self.tools,
            "hands": self.hands,
            "makes": self.makes,
            "after": self.after,
            "minutes": self.active_min + self.waiting_min,
            "waiting_min": self.waiting_min,
            "low_min": self.low_min,
            "heat": {key: value for key, value in heat.items() if value is not None},
            "end": {key: value for key, value in end.items() if value is not None},
            "title": _title(self.text),
            "detail": self.text,
            "source": self.source,
            "guesses": self.guesses,
        }
        return {
            key: value
            for key, value in rows.items()
            if value not in (None, [], {}, "", 0.0) or key in ("foods", "tools", "hands")
        }


def _title(text: str) -> str:
    """The first words of an order, as a step's name."""
    first = re.split(r"[,.;:(]| until | for \d| and ", text)[0].strip()
    short = first if len(first) <= 48 else first[:48].rsplit(" ", 1)[0]
    return short[:1].upper() + short[1:]


@dataclass(slots=True, kw_only=True)
class _Known:
    """A food while the text is read: what it may be called, and what it has gone into."""

    id: str
    names: list[tuple[str, ...]]
    group: str = ""
    into: str | None = None
    made: bool = False
    used: bool = False
    split: bool = False


@cache
def _tool_words() -> list[tuple[tuple[str, ...], str]]:
    rows = [(stem_words(word), kind) for kind, words in vocabulary()["tools"].items() for word in words]
    return sorted(rows, key=lambda row: -len(row[0]))


@cache
def _made_nouns() -> frozenset[str]:
    return frozenset(stem(word) for word in vocabulary()["made"]["nouns"].split())


# Too general to name an ingredient by itself: "fresh", "red", "plain".
_STOP = frozenset(
    (
        "fresh dried ground plain large small medium whole cold hot warm frozen raw free range ripe fine good quality "
        "light dark white red green brown black sweet soft hard salted unsalted tinned canned skinless boneless lean "
        "extra virgin smoked cooked"
    ).split()
)


def _names_of(item: Ingredient) -> list[tuple[str, ...]]:
    """What a text may call an ingredient, longest first: its own words, its kind's names, its last word."""
    own = stem_words(item.food or "")
    names = {own}
    names.update(own[i:] for i in range(1, len(own)))
    if len(own) > 1:
        # "turkey" for turkey mince, "cream" for double cream; never "red" for red onion
        names.update((word,) for word in own if word not in _STOP and len(word) > 2)
    if item.kind:
        names.update(stem_words(name) for name in food_kind(item.kind).names)
    # "herbs" are all of them, though one row of the table lists the word.
    names -= {("herb",)} - {own}
    return sorted((name for name in names if name and name[0] not in ("of", "and")), key=lambda name: -len(name))


class _Kitchen:
    """Foods, vessels and the last thing in hand while the text is read from top to bottom."""

    def __init__(self, items: Sequence[Ingredient]) -> None:
        self.foods: dict[str, _Known] = {}
        self.tools: dict[str, str] = {}
        self.holds: dict[str, list[str]] = {}
        self.vessel: str | None = None
        self.last: list[str] = []
        self.steps: list[ReadStep] = []
        self.oven_c: float | None = None
        for item in items:
            self._add_ingredient(item)

    def _add_ingredient(self, item: Ingredient) -> None:
        if not item.food:
            return
        name = item.food.lower()
        food_id, n = name, 2
        while food_id in self.foods:
            food_id, n = f"{name} {n}", n + 1
        group = food_kind(item.kind).group if item.kind else ""
        self.foods[food_id] = _Known(id=food_id, names=_names_of(item), group=group)

    def current(self, food_id: str) -> str:
        """What a food is by now: the thing it went into, or itself."""
        seen = set()
        while (into := self.foods[food_id].into) and food_id not in seen:
            seen.add(food_id)
            food_id = into
        return food_id


def _stretches(words: Sequence[str]) -> dict[tuple[str, ...], list[int]]:
    """Every run of up to six words, with where it begins."""
    found: dict[tuple[str, ...], list[int]] = {}
    for size in range(1, 7):
        for i in range(len(words) - size + 1):
            found.setdefault(tuple(words[i : i + size]), []).append(i)
    return found


def _mentions(kitchen: _Kitchen, text: str) -> list[tuple[int, list[str]]]:
    """Foods a text names, by place: for each stretch of words the foods with the longest name there."""
    words = list(stem_words(text))
    taken = [False] * len(words)
    found = _group_mentions(kitchen, words, taken, least=2)
    spans: list[tuple[int, int, str]] = []
    stretches = _stretches(words)
    for known in kitchen.foods.values():
        for name in known.names:
            if name in stretches:
                spans.extend((len(name), i, known.id) for i in stretches[name])
    for size in range(6, 0, -1):
        at: dict[int, list[str]] = {}
        for length, i, food_id in spans:
            if length == size and not any(taken[i : i + size]):
                at.setdefault(i, []).append(food_id)
        for i, ids in at.items():
            if not any(taken[i : i + size]):
                found.append((i, _likeliest(kitchen, _not_yet(ids, found), tuple(words[i : i + size]))))
                taken[i : i + size] = [True] * size
    found.extend(_group_mentions(kitchen, words, taken, least=1))
    return sorted(found)


def _not_yet(ids: list[str], found: list[tuple[int, list[str]]]) -> list[str]:
    """Those that the same text has not named already: "the haddock and smoked haddock"."""
    named = {name for _, names in found for name in names}
    return [name for name in dict.fromkeys(ids) if name not in named] or list(dict.fromkeys(ids))


def _likeliest(kitchen: _Kitchen, ids: list[str], name: tuple[str, ...]) -> list[str]:
    """Of several foods that one word may mean: the one made last, else the one it is the last word
    of ("beef" is stewing beef before it is beef stock), else one not yet used."""
    made = [food for food in ids if kitchen.foods[food].made]
    if made:
        return made[-1:]
    if len(ids) == 1:
        return ids
    heads = [food for food in ids if stem_words(food)[-len(name) :] == name] or ids
    fresh = [food for food in heads if not kitchen.foods[food].used]
    return fresh[:1] or heads[:1]


def _group_mentions(
    kitchen: _Kitchen, words: list[str], taken: list[bool], *, least: int
) -> list[tuple[int, list[str]]]:
    """ "The vegetables", "the fish": all ingredients of those food groups, if there are enough."""
    found = []
    for i, word in enumerate(words):
        groups = vocabulary()["groups"].get(word)
        if taken[i] or not groups:
            continue
        ids = [food.id for food in kitchen.foods.values() if food.group in groups]
        own = [
            food.id
            for food in kitchen.foods.values()
            if any(name == tuple(words[max(0, i - 1) : i + 1]) for name in food.names)
        ]
        if len(ids) >= least and not own:
            found.append((i, ids))
            taken[i] = True
    return found


_OWN = frozenset({"large", "small", "clean", "separate", "second", "medium", "serving", "mixing", "salad"})
_NEW = frozenset({"another", "separate", "clean", "second", "fresh"})


@dataclass(frozen=True, slots=True, kw_only=True)
class _NamedTool:
    """A tool a text names. ``new``: it says that this is not the one in use."""

    name: str
    kind: str
    new: bool
    a: bool
    any_pan: bool = False


def _tools_in(text: str) -> list[_NamedTool]:
    """Tools a text names, in its order. "Large bowl" is a name of its own."""
    words = list(stem_words(text))
    taken = [False] * len(words)
    found = []
    stretches = _stretches(words)
    for name, kind in _tool_words():
        size = len(name)
        for i in stretches.get(name, ()):
            if not any(taken[i : i + size]):
                taken[i : i + size] = [True] * size
                j = i
                while j and words[j - 1] in (
                    *_OWN,
                    *_NEW,
                    "non",
                    "stick",
                    "big",
                    "deep",
                    "heavy",
                    "lined",
                    "wide",
                    "lidded",
                ):
                    j -= 1
                before = words[j:i] + list(name)
                own = next((word for word in before if word in ("large", "small", "clean", "serving")), "")
                shown = f"{own} {kind.replace('_', ' ')}".strip()
                article = words[j - 1] if j else ""
                found.append(
                    (
                        i,
                        _NamedTool(
                            name=shown,
                            kind=kind,
                            new=bool(_NEW & set(before)),
                            a=article in ("a", "an"),
                            any_pan=name == ("pan",),
                        ),
                    )
                )
    return [tool for _, tool in sorted(found, key=lambda row: row[0])]


_PARTICLE = re.compile(
    r"(?:well |together |gently |back |straight |all |it |them )?"
    r"(in|into|through|with|over|onto|on|around|inside|between|to|among|alongside)\b"
)


class _Reader:
    """Reads orders into steps, one after another."""

    def __init__(self, items: Sequence[Ingredient]) -> None:
        self.kitchen = _Kitchen(items)
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
            step.guesses = [*step.guesses, "foods"] if not _PRONOUN.search(order.text) else step.guesses
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
        found = _mentions(kitchen, whole)
        ids = [*self._everything(whole), *(name for _, names in found for name in names)]
        named = [kitchen.current(name) for name in ids]
        ids += self._called(whole, named, implied=bool(_PARTICLE.match(self._after_verb(order))))
        originals = self._divided(whole, found)
        named = [name if name in originals else kitchen.current(name) for name in ids]
        pronoun = _PRONOUN.search(whole)
        if (
            pronoun
            and order.do != "serve"
            and not _ALL.search(whole)
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
        made = _made_match(text)
        if made and made[0] not in self.kitchen.foods:
            text = text[: made[1]] + text[made[2] :]
        lead = order.lead if re.match(r"(?:with|using|add|to)\b", order.lead, re.IGNORECASE) else ""
        return f"{lead} {text}"

    def _called(self, text: str, named: Sequence[str], *, implied: bool) -> list[str]:
        """A name for a mixture that no one has given yet: "over the cold cake", "the raita"."""
        ids: list[str] = []
        for found in re.finditer(r"(?:\b(?:the|this|and|with|over)|,) ([a-z]+)(?: ([a-z]+))?", text, re.IGNORECASE):
            words = [stem(word.lower()) for word in found.groups() if word]
            name = next((word for word in words if word in _made_nouns()), None)
            if name is None or _mentions(self.kitchen, found[0]) or _tools_in(found[0]):
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
        for pattern in (_PART, _REST):
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
        if not _ALL.search(text):
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
        named = [tool for tool in _tools_in(order.words) if tool.kind != order.verb]
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
            held = [kitchen.vessel] if kitchen.vessel and kitchen.tools[kitchen.vessel] in _GOES_IN_OVEN else []
            return [*tools, *([] if tools else held), self._plain_tool("oven")], []
        if cooker in ("grill", "griddle", "barbecue", "microwave"):
            return [*tools, self._plain_tool(cooker)], []
        if tools:
            return tools, []
        if kitchen.vessel and kitchen.tools[kitchen.vessel] in _ON_THE_HEAT:
            return [kitchen.vessel], ["tools"]
        return [self._plain_tool(cooker or "saucepan")], ["tools"]

    def _plain_tool(self, kind: str) -> str:
        return self._tool(_NamedTool(name=kind.replace("_", " "), kind=kind, new=False, a=False))

    def _tool(self, tool: _NamedTool) -> str:
        """The id of a tool: "the bowl" is the one in use, "another bowl" a new one, and "a bowl"
        too if the one we have is not empty."""
        kitchen = self.kitchen
        same = [name for name, kind in kitchen.tools.items() if kind == tool.kind]
        full = tool.a and tool.kind in _VESSELS and any(kitchen.holds.get(name) for name in same)
        if tool.any_pan and not tool.a and kitchen.vessel and kitchen.tools[kitchen.vessel] in _ON_THE_HEAT:
            return kitchen.vessel
        if same and not tool.new and not full:
            if tool.name in kitchen.tools:
                return tool.name
            if kitchen.vessel in same:
                return str(kitchen.vessel)
            return same[-1]
        name, n = tool.name, 2
        while name in kitchen.tools or name in kitchen.foods:
            name, n = f"{tool.name} {n}", n + 1
        kitchen.tools[name] = tool.kind
        return name

    def _with_contents(self, order: Order, foods: list[str], tools: list[str]) -> list[str]:
        """The foods of an order with those it does not say: what the vessel holds, what was in hand."""
        more = self._unsaid(order, foods, tools) if foods else []
        return list(dict.fromkeys((*(self.kitchen.current(name) for name in more), *foods)))

    def _unsaid(self, order: Order, foods: list[str], tools: list[str]) -> list[str]:
        text = self._after_verb(order)
        held = self._held(order, tools)
        particle = _PARTICLE.match(text)
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
        named = [tool for tool in tools if kitchen.tools[tool] in _VESSELS]
        vessel = named[-1] if named else kitchen.vessel
        return [kitchen.current(name) for name in kitchen.holds.get(vessel or "", [])]

    def _vessel_next(self, text: str) -> bool:
        """True if the next words are a vessel ("in a bowl"), not a food ("in the flour")."""
        words = " ".join(text.split()[:5])
        return bool(_tools_in(words)) and not _mentions(self.kitchen, words)

    def _joins_named(self, text: str) -> bool:
        """ "Add the beans to the sauce": what it joins is named."""
        found = re.search(r"\bto (?:the|this|your) (.+?)(?: with\b| and\b|$)", text)
        return bool(found and _mentions(self.kitchen, found[1]))

    def _only_with(self, text: str) -> bool:
        """ "Brush the tops with egg": what is brushed is no food by name."""
        found = re.match(r"(.+?)\bwith\b", text)
        return bool(found and not _mentions(self.kitchen, found[1]) and not _tools_in(found[1]))

    def _into_held(self, text: str, order: Order) -> bool:
        """ "Pour the stock into the pan", "lay the pork on top": it joins what is there."""
        if re.search(r"\bon top\b|\balongside\b", text):
            return True
        found = re.search(r"\b(?:into|in|to|on|onto) the (.+)$", text)
        return bool(found and self._vessel_next(found[1]))

    def _make(self, step: ReadStep, order: Order) -> None:
        """Joining several foods makes a new one; shaping may only name it."""
        made = _made_match(order.text)
        lead = re.match(r"for the ([a-z]+)\b", order.lead, re.IGNORECASE)
        named = made[0] if made else lead[1].lower() if lead and stem(lead[1].lower()) in _made_nouns() else None
        joins = step.do in _JOINS or step.do in ("heat", "transfer", "pour", "touch", "brush", "garnish")
        if joins and len(step.foods) > 1:
            step.makes = self._name(named or self._mixture_of(step.foods, cooked=step.do == "heat", verb=order.verb))
            self._new_food(step.makes, step.foods)
        elif named and step.foods and named not in self.kitchen.foods and step.do in ("touch", "mix", "cut", "heat"):
            step.makes = self._name(named)
            self._new_food(step.makes, step.foods)

    def _name(self, wanted: str) -> str:
        name, n = wanted, 2
        while name in self.kitchen.foods or name in self.kitchen.tools:
            name, n = f"{wanted} {n}", n + 1
        return name

    def _mixture_of(self, foods: Sequence[str], *, cooked: bool, verb: str) -> str:
        """A mixture is named after its chief food, and keeps the name as more goes in."""
        known = [self.kitchen.foods[name] for name in foods]
        made = next((food.id for food in known if food.made and not food.id.startswith("seasoned")), None)
        if made:
            return re.sub(r" \d+$", "", f"cooked {made}" if cooked and not made.startswith("cooked ") else made)
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
        words = stem_words(
            re.sub(r" in (?:oil|butter)( \d+)?$", "", made.removeprefix("seasoned ").removeprefix("cooked "))
        )
        names = {words, words[-1:]}
        if not set(words) & _NOT_MIXTURES:
            names.add(("mixture",))
        kitchen.foods[made] = _Known(id=made, names=sorted((n for n in names if n), key=lambda n: -len(n)), made=True)
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
        vessels = [tool for tool in step.tools if kitchen.tools[tool] in _VESSELS]
        if vessels and step.do not in ("clean", "wipe", "cut", "probe"):
            kitchen.vessel = vessels[-1]
            kitchen.holds[vessels[-1]] = now
        elif step.do in _JOINS and kitchen.vessel in step.tools and kitchen.vessel:
            kitchen.holds[kitchen.vessel] = now
        if step.do == "transfer":
            for tool, held in list(kitchen.holds.items()):
                if tool not in vessels and set(held) & set(step.foods):
                    kitchen.holds[tool] = []


_FATS = frozenset({"oil", "butter"})
_PLAIN = frozenset({"oil", "salt", "spice", "water", "herb", "dried herb", "butter"})
_NOT_MIXTURES = frozenset({"kofta", "ball", "burger", "patty"})
_ON_THE_HEAT = frozenset({"frying pan", "saucepan", "pot", "griddle", "grill", "slow_cooker", "barbecue"})
_GOES_IN_OVEN = frozenset({"tray", "tin", "oven_dish", "roasting_tin", "pot"})
_VESSELS = frozenset(
    {
        "frying pan",
        "saucepan",
        "pot",
        "bowl",
        "jug",
        "tray",
        "tin",
        "oven_dish",
        "roasting_tin",
        "slow_cooker",
        "griddle",
        "grill",
        "barbecue",
        "blender",
        "food_processor",
        "mixer",
        "container",
        "bag",
        "plate",
        "mortar",
        "flask",
    }
)


_MADE = re.compile(
    r"\b(?:into(?! the)|to (?:make|form|give)|form|make)\s+"
    r"(?:an? |the |\d+ |\w+ly |even |equal |small |large |smooth |soft |stiff |firm |thick |thin |round |flat |little "
    r"|short |long |walnut-sized |eight |six |twelve |four |ten |twenty |sixteen )*([a-z]+(?: [a-z]+)?)",
    re.IGNORECASE,
)


def _made_match(text: str) -> tuple[str, int, int] | None:
    """The name an order gives to what comes of it ("into 8 koftas", "to make a dough"), and where."""
    found = _MADE.search(text)
    if not found:
        return None
    words = found[1].lower().split()
    for word in reversed(words):
        if stem(word) in _made_nouns():
            name = word if len(words) == 1 else " ".join(words[: words.index(word) + 1])
            return name, found.start(), found.end()
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """What was read: a process in plain data, and the sentences in which nothing was found."""

    process: dict[str, Any]
    unread: tuple[str, ...]


def _ingredient_steps(reader: _Reader, items: Iterable[Ingredient]) -> None:
    """Work the ingredient list asks for: "1 onion, finely chopped"."""
    for i, item in enumerate(items):
        if not item.food or not item.preparation:
            continue
        for word, do, verb in (
            ("peel", "peel", "peel"),
            ("wash", "rinse", "wash"),
            ("scrub", "rinse", "scrub"),
            ("rinse", "rinse", "rinse"),
            ("chop|slice|dice|cut|halve|quarter|shred|trim|deseed|crush|mince|tear|torn|core|cube", "cut", "chop"),
            ("grate|zest", "grate", "grate"),
        ):
            if re.search(rf"\b(?:{word})\w*", item.preparation, re.IGNORECASE) and not re.search(
                r"\bready\b", item.preparation
            ):
                reader.step(Order(do=do, verb=verb, text=f"{verb} the {item.food}"), f"ingredient {i + 1}")


def propose(items: Sequence[Ingredient], instructions: Sequence[str], *, from_list: bool = True) -> Proposal:
    """The process a recipe's words describe. ``from_list`` also turns the preparation written
    beside ingredients into steps."""
    reader = _Reader(items)
    if from_list:
        _ingredient_steps(reader, items)
    unread = []
    for i, text in enumerate(instructions):
        for sentence in sentences(text):
            found = orders(sentence)
            if not found:
                unread.append(sentence)
            for order in found:
                reader.step(order, f"step {i + 1}")
    return Proposal(process=_process(reader, items), unread=tuple(unread))


def _process(reader: _Reader, items: Sequence[Ingredient]) -> dict[str, Any]:
    kitchen = reader.kitchen
    _finish_serving(reader)
    given = [name for name, food in kitchen.foods.items() if not food.made]
    kinds = dict(zip(given, (item for item in items if item.food), strict=True))
    # What nobody recognises is a soil of its own until somebody says what it is.
    foods = {name: _food_row(item, items.index(item)) for name, item in kinds.items()}
    return {
        "foods": foods,
        "tools": {
            name: {"kind": kind} for name, kind in kitchen.tools.items() if any(name in s.tools for s in kitchen.steps)
        },
        "people": [PERSON],
        "steps": [step.as_data() for step in kitchen.steps],
        "serve": next((step.foods for step in reversed(kitchen.steps) if step.do == "serve"), []),
    }


def _food_row(item: Ingredient, line: int) -> dict[str, Any]:
    if item.kind is None:
        return {"soils": ["unknown"], "line": line}
    more = sorted(set(item.allergens) - food_kind(item.kind).allergens)
    return {"kind": item.kind, "line": line, **({"allergens": more} if more else {})}


def _finish_serving(reader: _Reader) -> None:
    """What nothing else uses is what is served. A serving that is followed by more work stays as
    it was read; where the text ends without one, one is added and said to be."""
    kitchen = reader.kitchen
    left = [known.id for known in kitchen.foods.values() if known.made and known.into is None]
    last = kitchen.steps[-1] if kitchen.steps else None
    if last is not None and last.do == "serve":
        if not any(kitchen.foods[name].made for name in last.foods):
            last.foods = [*reader._meant(), *left[-1:], *last.foods]
        now = (kitchen.current(name) if kitchen.foods[name].made else name for name in last.foods)
        last.foods = list(dict.fromkeys(now))
        last.after = reader._after(last)
    elif (left or kitchen.last) and not any(step.do == "serve" and step.foods for step in kitchen.steps):
        reader.count += 1
        step = ReadStep(id=f"s{reader.count}", do="serve", text="Serve", source="", guesses=["step"])
        step.foods = left or reader._meant()
        step.after = reader._after(step)
        kitchen.steps.append(step)

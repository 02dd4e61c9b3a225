"""Which foods an instruction speaks of."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cache

from foodsafety.foods import food_kind, is_raw, match_food, stem, stem_words
from foodsafety.recipes.ingredients import NOT_LISTED, Ingredient
from foodsafety.recipes.proposed_steps import ReadStep
from foodsafety.recipes.verb_forms import verb_forms
from foodsafety.recipes.words import made_nouns, vocabulary, word_set, words_of_foods

# Orders that move or change what a vessel holds, so that an order without a food means that.
PRONOUN = re.compile(
    r"\b(?:it|them|both(?! (?:sides|ends|halves|hands))|everything"
    r"|all(?! over| around| the way| together| round| at| day| sides)"
    r"|each one|every one|(?:one|two|some|a few)(?= each\b| home\b)|half(?= (?:over|into|onto|in|on|between)\b)"
    r"|the (?:lot|whole lot|pieces|bits|strips|flesh|mix|mixture))\b"
    r"|\b(?:these|this|those|that)\b(?!['’]s\b| (?:is|are|one|way|time|point|side)\b)",
    re.IGNORECASE,
)
PART_OF = re.compile(
    r"\b(?:half(?! (?:over|into|onto|in|on|between)\b)|some|a third|a quarter|two.thirds|most"
    r"|a little|a few|three.quarters|one)\b(?: of)?(?: the)?"
    r"|\b(?:another|more|extra) (?:\w+ )?of(?: the)?\b|\d (?:tbsps?|tsps?|cups?|g|ml|oz) of the\b",
    re.IGNORECASE,
)
THE_REST = re.compile(r"\b(?:rest|remaining|reserved|other half|other|leftover)\b", re.IGNORECASE)
THE_LOT = re.compile(
    r"\ball (?:of )?the (?:other )?(?:remaining )?ingredients\b|\beverything(?: else)?\b"
    r"|\b(?:the )?(?:remaining|other|rest of the) ingredients\b|\bthe (?:\w+ )?ingredients\b",
    re.IGNORECASE,
)


@dataclass(slots=True, kw_only=True)
class FoodInHand:
    """A food while the text is read: what it may be called, what it has gone into, whether it is or holds
    something raw that no heat has worked on, whether heat has worked on it at all, whether the text gave
    it its name, whether it is produce that nobody has washed, whether no line of the list has it, the part of
    the dish it is listed for and what it is bought in."""

    id: str
    names: list[tuple[str, ...]]
    group: str = ""
    into: str | None = None
    made: bool = False
    used: bool = False
    split: bool = False
    raw: bool = False
    heated: bool = False
    called: bool = False
    soaked: bool = False
    grown: bool = False
    unlisted: bool = False
    part: str = ""
    unit: str = ""


def _animal_names(item: Ingredient) -> set[tuple[str, ...]]:
    """The animal a raw meat or fish is of, and "meat"."""
    kind = food_kind(item.kind or "")
    if not any(is_raw(name) for name in kind.soils) or kind.group in ("egg", "flour", "pastry"):
        return set()
    words = " ".join([item.food or "", *kind.names]).lower()
    found = {(animal,) for animal, pattern in vocabulary()["animals"].items() if re.search(rf"\b(?:{pattern})", words)}
    if "mince" in kind.group or "ground" in words:
        found.add(("mince",))
    return found | ({("bird",), ("thigh",)} if "poultry" in kind.group else set())


def _is_done_to_food(word: str) -> bool:
    """True for "peeled", "cooked": a word of a food's name that says what was done to it, and is no name of it."""
    return any(form.kind == "ed" for form in verb_forms().get(word, ()))


def _names_of(item: Ingredient) -> list[tuple[str, ...]]:
    """What a text may call an ingredient, longest first: its own words, its kind's names, its last word."""
    own = stem_words(item.food or "")
    names = {own}
    names.update(own[i:] for i in range(1, len(own)))
    if len(own) > 1:
        # "turkey" for turkey mince, "cream" for double cream; never "red" for red onion
        names.update(
            (word,)
            for word in own
            if word not in word_set("names", "too_plain")
            and len(word) > 2
            and not word.isdigit()
            and (word == own[-1] or not (word in word_set("names", "dish_before") or _is_done_to_food(word)))
            and not (word in vocabulary()["animals"] and own[-1] in word_set("names", "made_of_animal"))
        )
    if item.kind:
        names.update(stem_words(name) for name in food_kind(item.kind).names)
        if food_kind(item.kind).names[0].startswith("raw "):
            names.add(stem_words(food_kind(item.kind).names[0])[1:])  # chipolatas are sausages
        names.update(_animal_names(item))
        if f"{' '.join(own)} sauce" in food_kind(item.kind).names:
            names.add(("sauce",))  # marinara
        if food_kind(item.kind).group in ("canned fish", "smoked fish"):
            names.add(("fish",))
        if food_kind(item.kind).group == "egg":
            names.update((("yolk",), ("white",), ("egg", "yolk"), ("egg", "white")))
    if own and own[-1] in word_set("names", "is_split"):  # "spread the bottom halves with the slaw"
        names.update((which, "half") for which in ("bottom", "top", "base", "lower", "upper", "cut"))
    if item.kind in ("lemon", "lime", "orange"):
        names.add(("zest",))
    names.update((end,) for end in ("flake", "crumb") if own and own[-1].endswith(end))
    # "herbs" are all of them, though one row of the table lists the word.
    names -= {("herb",)} - {own}
    return sorted((name for name in names if name and name[0] not in ("of", "and")), key=lambda name: -len(name))


class FoodsInHand:
    """Foods, vessels and the last thing in hand while the text is read from top to bottom."""

    def __init__(self, items: Sequence[Ingredient], parts: Sequence[str] = ()) -> None:
        self.foods: dict[str, FoodInHand] = {}
        # The foods of each name, in their order; None while it has to be made anew.
        self._called: dict[tuple[str, ...], list[str]] | None = {}
        # Ingredients that came raw from an animal.
        self.came_raw: set[str] = set()
        self.tools: dict[str, str] = {}
        # The pan that the text calls "the wide pan", "the small pan", by that word.
        self.sized_pans: dict[str, str] = {}
        self.holds: dict[str, list[str]] = {}
        self.vessel: str | None = None
        self.last: list[str] = []
        # What has been set out to dip other food in.
        self.set_out: list[str] = []
        # What a part of went into something else; the other part is what it was.
        self.divided = ""
        # What raw food lay in and that comes up again as it is.
        self.left_over: set[str] = set()
        # What has been cut or rinsed since anything was put together.
        self.pile: list[str] = []
        # What is being put together.
        self.main = ""
        self.steps: list[ReadStep] = []
        # The pan came off the heat, or the heat was turned off, and nothing has been put on since.
        self.off_heat = False
        self.oven_c: float | None = None
        # The part of the dish that the text says it makes now.
        self.part_now = ""
        for i, item in enumerate(items):
            self.add_ingredient(item, parts[i] if i < len(parts) else "")

    def add_ingredient(self, item: Ingredient, part: str = "") -> None:
        """Takes an ingredient in hand, by a name that nothing else has."""
        if not item.food:
            return
        name = item.food.lower()
        food_id, n = name, 2
        if food_id in self.foods and part and f"{name} for {part}" not in self.foods:
            food_id = f"{name} for {part}"
        while food_id in self.foods:
            food_id, n = f"{name} {n}", n + 1
        kind = food_kind(item.kind) if item.kind else None
        raw = kind is not None and any(is_raw(name) for name in kind.soils)
        if raw and kind is not None and kind.group not in ("flour", "pastry"):
            self.came_raw.add(food_id)
        self.put(
            FoodInHand(
                id=food_id,
                names=_names_of(item),
                group=kind.group if kind else "",
                raw=raw,
                grown=kind is not None and "unwashed_produce" in kind.soils,
                unlisted=NOT_LISTED in item.doubts,
                part=part,
                unit=item.unit or "",
            )
        )

    def put(self, food: FoodInHand) -> None:
        """Takes a food in hand under its id."""
        anew = food.id in self.foods
        self.foods[food.id] = food
        if anew or self._called is None:
            self._called = None
            return
        for name in dict.fromkeys(food.names):
            self._called.setdefault(name, []).append(food.id)

    def also_called(self, food_id: str, name: tuple[str, ...]) -> None:
        """Gives a food one more name."""
        self.foods[food_id].names.append(name)
        self._called = None

    def called(self) -> Mapping[tuple[str, ...], Sequence[str]]:
        """The foods of each name, in the order in which they came."""
        if self._called is None:
            self._called = {}
            for food in self.foods.values():
                for name in dict.fromkeys(food.names):
                    self._called.setdefault(name, []).append(food.id)
        return self._called

    def rename(self, old: str, new: str) -> str:
        """Gives a made food the name that the text calls it by, everywhere."""
        if new in self.foods or new in self.tools:
            return old
        self.foods = {new if name == old else name: food for name, food in self.foods.items()}
        food = self.foods[new]
        food.id = new
        food.called = True
        food.names = [*food.names, stem_words(new)]
        self._called = None
        for other in self.foods.values():
            other.into = new if other.into == old else other.into
        self.holds = {tool: [new if name == old else name for name in held] for tool, held in self.holds.items()}
        self.main = new if self.main == old else self.main
        self.divided = new if self.divided == old else self.divided
        self.pile = [new if name == old else name for name in self.pile]
        self.last = [new if name == old else name for name in self.last]
        self.set_out = [new if name == old else name for name in self.set_out]
        for step in self.steps:
            step.foods = [new if name == old else name for name in step.foods]
            step.makes = new if step.makes == old else step.makes
        return new

    def forget(self, made: str, parts: Sequence[str]) -> None:
        """Takes a made food back: its parts are themselves again, wherever it was named."""
        for food in self.foods.values():
            food.into = None if food.into == made else food.into
        del self.foods[made]
        self._called = None
        self.last = [name for name in self.last if name != made] or list(parts)
        self.pile = [name for name in self.pile if name != made]
        self.set_out = [name for name in self.set_out if name != made]
        self.main = "" if self.main == made else self.main
        self.holds = {tool: [name for name in held if name != made] for tool, held in self.holds.items()}

    def food_words(self) -> frozenset[str]:
        """Words that name a food of this recipe, as singular and plural."""
        return words_of_foods(tuple(self.called()))

    def current(self, food_id: str) -> str:
        """What a food is by now: the thing it went into, or itself."""
        for _ in self.foods:  # as many turns as there are foods: no ring goes on for ever
            into = self.foods[food_id].into
            if not into:
                break
            food_id = into
        return food_id


def word_stretches(words: Sequence[str]) -> dict[tuple[str, ...], list[int]]:
    """Every run of up to six words, with where it begins."""
    found: dict[tuple[str, ...], list[int]] = {}
    for size in range(1, 7):
        for i in range(len(words) - size + 1):
            found.setdefault(tuple(words[i : i + size]), []).append(i)
    return found


def mentions(kitchen: FoodsInHand, text: str) -> list[tuple[int, list[str]]]:
    """Foods a text names, by place: for each stretch of words the foods with the longest name there."""
    words = _words_and_stops(text)
    stretches = word_stretches(words)
    taken = _inside_kit(words, stretches)
    found = _group_mentions(kitchen, words, taken, least=2)
    spans: list[tuple[int, int, str]] = []
    called = kitchen.called()
    for name, places in stretches.items():
        spans.extend((len(name), i, food_id) for food_id in called.get(name, ()) for i in places)
    # "Bun size bits": what something else is as big as.
    sized = {
        i for i, word in enumerate(words) if i + 1 < len(words) and words[i + 1] in ("size", "sized", "shaped", "shape")
    }
    spans = [row for row in spans if row[1] + row[0] - 1 not in sized]
    parts = _parts_spoken_of(kitchen, spans)
    for size in range(6, 0, -1):
        at: dict[int, list[str]] = {}
        for length, i, food_id in spans:
            if length == size and not any(taken[i : i + size]):
                at.setdefault(i, []).append(food_id)
        for i, ids in sorted(at.items()):
            if not any(taken[i : i + size]):
                found.append((i, _likeliest(kitchen, _not_yet(ids, found), tuple(words[i : i + size]), parts)))
                taken[i : i + size] = [True] * size
    found.extend(_group_mentions(kitchen, words, taken, least=1))
    return sorted(found)


def _words_and_stops(text: str) -> list[str]:
    """The words of a text, and a stop where no name goes on: "beans, tomatoes, ketchup" has no tomato ketchup."""
    words: list[str] = []
    for piece in re.split(r"[,;:()]|\.(?!\d)", text):
        words += ["|", *stem_words(piece)]
    return words[1:]


@cache
def _long_kit_names() -> tuple[tuple[str, ...], ...]:
    names = (stem_words(word) for rows in vocabulary()["tools"].values() for word in rows)
    return tuple(name for name in names if len(name) > 1)


def _inside_kit(words: Sequence[str], stretches: dict[tuple[str, ...], list[int]]) -> list[bool]:
    """Which words only say which kit is meant: "the stock pot" holds no stock, nor is the chicken on its board."""
    inside = [False] * len(words)
    for name in _long_kit_names():
        for i in stretches.get(name, ()):
            inside[i : i + len(name)] = [True] * len(name)
    own = word_set("names", "kit_of_a_food")
    for i, word in enumerate(words[1:]):
        inside[i] = inside[i] or word in own
    return inside


def _not_yet(ids: list[str], found: list[tuple[int, list[str]]]) -> list[str]:
    """Those that the same text has not named already: "the haddock and smoked haddock"."""
    named = {name for _, names in found for name in names}
    return [name for name in dict.fromkeys(ids) if name not in named] or list(dict.fromkeys(ids))


def _parts_spoken_of(kitchen: FoodsInHand, spans: Sequence[tuple[int, int, str]]) -> set[str]:
    """The parts of the dish that the foods of a text are listed for which only one food is called by."""
    called: dict[tuple[int, int], set[str]] = {}
    for length, i, food_id in spans:
        called.setdefault((i, length), set()).add(food_id)
    sure = {next(iter(ids)) for ids in called.values() if len(ids) == 1}
    return {kitchen.foods[name].part for name in sure if not kitchen.foods[name].made} - {""}


def _likeliest(kitchen: FoodsInHand, ids: list[str], name: tuple[str, ...], parts: Collection[str] = ()) -> list[str]:
    """Of several foods that one word may mean: the one made last, else the one it is the last word
    of ("beef" is stewing beef before it is beef stock), else one listed for the part of the dish that is spoken
    of (``parts``), else one not yet used."""
    own = [food for food in ids if kitchen.foods[food].part in parts and not kitchen.foods[food].made]
    if len(ids) > 1 and own and not all(food in own for food in ids):
        heads = [food for food in own if stem_words(food)[: len(name)] == name]
        # "Eggs into the flour": the plain flour of the batter, and not the flour for the gravy.
        heads = heads or [food for food in own if stem_words(food)[-len(name) :] == name and len(own) == 1]
        if heads and not any(kitchen.foods[food].made for food in ids):
            return heads[:1]
    made = [food for food in ids if kitchen.foods[food].made]
    exact = [food for food in ids if stem_words(food) == name and not kitchen.foods[food].used]
    if exact and len(ids) > 1 and not any(kitchen.foods[food].called for food in made):
        # "Sugar", with brown sugar in hand; but in the pan of the beans tinned tomatoes, not those of the salad.
        return _beside_in_hand(kitchen, ids, exact[0]) or exact[:1]
    if made:
        return made[-1:]
    if len(ids) == 1:
        return ids
    raw = (
        [food for food in ids if kitchen.foods[food].group.startswith("raw")]
        if name[0] in vocabulary()["animals"]
        else []
    )
    bare = {food: food.removesuffix(f" for {kitchen.foods[food].part}") for food in ids}
    heads = raw or [food for food in ids if stem_words(bare[food])[-len(name) :] == name] or ids
    listed = _of_part_in_hand(kitchen, heads) if len(heads) > 1 else []
    if listed:
        return listed
    # "The pork" is the pork belly, and no pork sausage of another name.
    heads = [food for food in heads if name[0] in stem_words(bare[food])] or heads
    hand = {*kitchen.last, *kitchen.pile}
    near = [food for food in heads if kitchen.foods[food].used and kitchen.current(food) in hand]
    near = [food for food in near if not kitchen.foods[kitchen.current(food)].heated]  # cooked, it is no onion any more
    fresh = [food for food in heads if not kitchen.foods[food].used]
    return near[:1] or fresh[:1] or heads[:1]


def _beside_in_hand(kitchen: FoodsInHand, ids: Sequence[str], exact: str) -> list[str]:
    """Where the food of just that name is listed for another part of the dish than all that is in hand: a food of the
    part in hand that may be called so and is not used yet."""
    foods = kitchen.foods
    hand = {foods[kitchen.current(name)].part for name in kitchen.last if name in foods}
    if len(hand) != 1 or foods[exact].part in hand:
        return []
    return [food for food in ids if foods[food].part in hand and not foods[food].used and not foods[food].made][:1]


def _of_part_in_hand(kitchen: FoodsInHand, ids: Sequence[str]) -> list[str]:
    """Of several foods of one name the one that is listed for what is made now ("rub the butter into the flour", of
    the pastry: not the flour of the filling), and that the method has not worked on yet."""
    hand = {kitchen.foods[kitchen.current(name)].part for name in kitchen.last if name in kitchen.foods}
    done = {name for row in kitchen.steps if row.source.startswith("step ") for name in row.foods}
    for part in (kitchen.part_now, hand.pop() if len(hand) == 1 else ""):
        found = [food for food in ids if part and kitchen.foods[food].part == part and food not in done]
        if found:
            return found[:1]
    return []


def _group_mentions(
    kitchen: FoodsInHand, words: list[str], taken: list[bool], *, least: int
) -> list[tuple[int, list[str]]]:
    """ "The vegetables", "the fish": all ingredients of those food groups, if there are enough."""
    found = []
    for i, word in enumerate(words):
        groups = vocabulary()["groups"].get(word)
        if taken[i] or not groups or words[i + 1 : i + 2] == ["of"]:
            continue  # "a leaf of lettuce"
        ids = [food.id for food in kitchen.foods.values() if food.group in groups]
        own = [
            food.id
            for food in kitchen.foods.values()
            if stem_words(food.id)[-1:] == (word,)
            or any(name == tuple(words[max(0, i - 1) : i + 1]) for name in food.names)
        ]
        ids = _those_meant(kitchen, ids, least)
        if word in ("veg", "vegetable"):  # the lettuce that was shredded before is none that goes into a pan
            salad = word_set("names", "salad")
            ids = [
                n
                for n in ids
                if not kitchen.foods[n].used or kitchen.foods[n].group != "leaf" or salad.isdisjoint(stem_words(n))
            ] or ids
        loose = [name for name in ids if not kitchen.foods[name].into]
        ids = loose if len(loose) >= least else ids
        if len(ids) >= least and not own:
            found.append((i, ids))
            taken[i] = True
    return found


def _those_meant(kitchen: FoodsInHand, ids: list[str], least: int) -> list[str]:
    """Of "the vegetables" those of the part that is made now, and of these the ones that were cut for it: never the
    garlic, nor the potatoes that wait in their water."""
    ids = [name for name in ids if "garlic" not in stem_words(name)] or ids
    own = [name for name in ids if kitchen.part_now and kitchen.foods[name].part == kitchen.part_now]
    ids = own if len(own) >= least else ids
    cut = {name for row in kitchen.steps if row.do in ("cut", "grate") for name in row.foods}
    ready = [name for name in ids if name in cut]
    return ready if len(ready) > 1 else ids


INTO_SHAPES = re.compile(
    r"\b(?:in|into) (?:[\w-]+ ){0,3}?"
    r"(?:strips|pieces|chunks|cubes|slices|wedges|sticks|rings|batons|rounds|dice|quarters)\b",
    re.IGNORECASE,
)
PARTICLE = re.compile(
    r"(?:well |together |gently |back |straight |all |it |them |up )?"
    r"(in|into|through|with|over|onto|on|around|inside|between|to|among|alongside)\b"
)
# Groups of food that season or grease another, and are not what a dish is of.
PLAIN_GROUPS = frozenset({"oil", "salt", "spice", "water", "herb", "dried herb", "butter"})
NOT_MIXTURES = frozenset({"kofta", "ball", "meatball", "burger", "patty", "fishcake", "rissole"})


@cache
def _sizes() -> str:
    """How many and how big, before the name of what is made."""
    return rf"(?:\d+\s+|\w+ly\s+|(?:{'|'.join(vocabulary()['made']['sizes'].split())})\s+)*"


@cache
def _made_pattern() -> re.Pattern[str]:
    return re.compile(
        rf"\b(?:into(?! the)|to (?:make|form|give)|form|make|to(?= an? ))\s+{_sizes()}([a-z]+(?: [a-z]+)?)",
        re.IGNORECASE,
    )


@cache
def shaped_into() -> re.Pattern[str]:
    """Work that shapes food, up to the name of what it becomes: "roll it into 12 small ..."."""
    verbs = "|".join(vocabulary()["made"]["shaping"].split())
    return re.compile(rf"\b(?:{verbs})\b[^.,;]*?\binto\s+{_sizes()}", re.IGNORECASE)


def made_match(text: str) -> tuple[str, int, int] | None:
    """The name an order gives to what comes of it ("into 8 koftas", "to make a dough"), and where."""
    found = _made_pattern().search(text)
    while found:
        made = _made_in(found, text)
        if made:
            return made
        found = _made_pattern().search(text, found.start() + 1)  # they may overlap: "form the mince into eight koftas"
    return None


def _made_in(found: re.Match[str], text: str) -> tuple[str, int, int] | None:
    words = found[1].lower().split()
    shaped = found[0].lower().startswith("into") and shaped_into().match(text) is not None
    if shaped and stem(words[0]) not in made_nouns() and match_food(words[0]) is not None:
        return words[0], found.start(), found.start(1) + len(words[0])
    for word in reversed(words):
        end = found.start(1) + found[1].lower().index(word) + len(word)
        if stem(word) in made_nouns() and not re.match(r"[\s-]*(?:size|shape|style)", text[end:]):
            name = word if len(words) == 1 else " ".join(words[: words.index(word) + 1])
            return name, found.start(), end
    return None

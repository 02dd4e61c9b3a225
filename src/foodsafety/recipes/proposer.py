"""From ingredients and instructions to a proposed process, for a person to confirm."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from foodsafety.foods import food_kind, stem_words
from foodsafety.recipes.headings import component_name, section_of
from foodsafety.recipes.ingredients import Ingredient, is_hazardous
from foodsafety.recipes.instructions import one_after_another, orders, sentences
from foodsafety.recipes.kept_apart import rests_kept_apart
from foodsafety.recipes.mentions import PLAIN_GROUPS, FoodsInHand
from foodsafety.recipes.order import Order
from foodsafety.recipes.proposed_steps import ReadStep, all_in
from foodsafety.recipes.reader import PERSON
from foodsafety.recipes.sentence_reader import SentenceReader
from foodsafety.recipes.storage_told import says_storage
from foodsafety.recipes.words import layout_pattern, vocabulary, word_set


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadSentence:
    """A sentence of the instructions: of which paragraph, the steps read from it, whether it orders
    anything at all, and whether it only says how leftovers keep."""

    text: str
    paragraph: int
    steps: tuple[str, ...]
    acts: bool
    aside: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """What was read: a process in plain data, and every sentence with what became of it."""

    process: dict[str, Any]
    sentences: tuple[ReadSentence, ...]

    @property
    def unread(self) -> tuple[str, ...]:
        """The sentences in which nothing was found."""
        return tuple(row.text for row in self.sentences if not row.acts)


def _ingredient_steps(reader: SentenceReader, items: Iterable[Ingredient]) -> None:
    """Work the ingredient list asks for: "1 onion, finely chopped". A list has no order of work: what is raw
    from an animal comes last."""
    for i, item in sorted(enumerate(items), key=lambda row: is_hazardous(row[1])):
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


def parts_of(items: Sequence[Ingredient]) -> tuple[str, ...]:
    """The part of the dish that each ingredient line stands under; "" for the whole."""
    part, found = "", []
    for item in items:
        if "heading" in item.doubts:
            part = component_name(item.text)
            part = "" if layout_pattern("headings", "ingredient").fullmatch(part) or section_of(item.text) else part
        found.append(part)
    return tuple(found)


def propose(
    items: Sequence[Ingredient],
    instructions: Sequence[str],
    *,
    from_list: bool = True,
    title: str = "",
) -> Proposal:
    """The process a recipe's words describe. ``from_list`` also turns the preparation written
    beside ingredients into steps; ``title`` names the dish."""
    reader = SentenceReader(items, parts_of(items), title)
    if from_list:
        _ingredient_steps(reader, items)
        reader.kitchen.last = []  # what the list has prepared is not what the words begin with
        # Raw meat that its line says is skinned is no part of "the lot" that was cut for a salad.
        reader.kitchen.pile = [name for name in reader.kitchen.pile if not reader.kitchen.foods[name].raw]
    reader.method = "\n".join(instructions)
    told = reader.method.lower()
    if items and all(item.text.lower() in told for item in items if item.food):
        reader.introduced = set()
    reader.told = frozenset(word for text in instructions for word in stem_words(text))
    rows = [_read(reader, text, i) for i, paragraph in enumerate(instructions) for text in sentences(paragraph)]
    reader.name_the_dish()
    return Proposal(process=_process(reader, items), sentences=tuple(rows))


_BARBECUE = re.compile(r"\b(?:bbq|barbecue|barbie|barby)\b", re.IGNORECASE)


# Where there is a plate of its own, "the plate" is that one.
_A_PLATE = re.compile(
    r"\b(?:an?|clean|fresh|same|big|large|their|its|each|two|\d) (?:\w+ )?plates?\b|\bplates\b"
    r"|\bback on(?:to)? the plate\b"
    r"|\b(?:carry|bring|take)\b[^.;]* on the plate\b",
    re.IGNORECASE,
)


def _hot_plate(text: str) -> str:
    """ "Onions on the plate", at a barbecue: the hot plate."""
    return re.sub(r"\b(on|onto|off) the plate\b(?! of)", r"\1 the griddle", text, flags=re.IGNORECASE)


# What leftovers are told to be done with.
_KEEPING = frozenset({"serve", "chill", "freeze", "heat", "rest", "none", "topic", "list", "timed", "transfer"})


def _only_keeps(sentence: str, foods: frozenset[str]) -> bool:
    """True if words only say how what is left over keeps. "Soften the leeks in what's left in the pan" heats a food of
    the recipe, and not again."""
    if not says_storage(sentence):
        return False
    found = orders(sentence, foods)
    again = word_set("names", "warms") | {"heat", "cook"}
    cooks = found and found[0].do == "heat" and not found[0].lead and found[0].verb not in again
    named = cooks and not foods.isdisjoint(stem_words(found[0].text))
    return not named and all(order.do in _KEEPING for order in found)


def _read(reader: SentenceReader, sentence: str, paragraph: int) -> ReadSentence:
    before = len(reader.kitchen.steps)
    if before and _only_keeps(sentence, reader.kitchen.food_words()):
        return ReadSentence(text=sentence, paragraph=paragraph, steps=(), acts=True, aside=True)
    known = {step.id for step in reader.kitchen.steps}
    went_on_with = reader.kitchen.steps[-1].id if before else None
    grills = _BARBECUE.search(reader.method) and not _A_PLATE.search(reader.method)
    said = _hot_plate(sentence) if grills else sentence
    foods = reader.kitchen.food_words()
    parts = [part for part in one_after_another(said, foods) if not (before and _only_keeps(part, foods))]
    touched = [reader.sentence(part, f"step {paragraph + 1}") for part in parts]
    new = [step for step in reader.kitchen.steps if step.id not in known]
    if new and not all(part.acts for part in touched):
        new[-1].guesses = [*new[-1].guesses, "work"]  # a part of the sentence that nobody understood
    last = went_on_with if touched[0].went_on else None
    steps = (*((last,) if last else ()), *(step.id for step in new))
    return ReadSentence(text=sentence, paragraph=paragraph, steps=steps, acts=any(part.acts for part in touched))


def _process(reader: SentenceReader, items: Sequence[Ingredient]) -> dict[str, Any]:
    kitchen = reader.kitchen
    _finish_serving(reader)
    _part_cooked(kitchen.steps, kitchen.came_raw)
    given = [name for name, food in kitchen.foods.items() if not food.made]
    kinds = dict(zip(given, (item for item in items if item.food), strict=True))
    # What nobody recognises is a soil of its own until somebody says what it is.
    foods = {name: _food_row(item, items.index(item)) for name, item in kinds.items()}
    foods |= {rest: dict(foods[name]) for name, rest in rests_kept_apart(kitchen, kinds)}
    return {
        "foods": foods,
        "tools": {
            name: {"kind": kind} for name, kind in kitchen.tools.items() if any(name in s.tools for s in kitchen.steps)
        },
        "people": [PERSON],
        "steps": [step.as_data() for step in kitchen.steps],
        "serve": _eaten(kitchen),
    }


def _by_now(kitchen: FoodsInHand, name: str) -> str:
    """What something served has become; an ingredient, and what raw food lay in, are themselves."""
    return kitchen.current(name) if kitchen.foods[name].made and name not in kitchen.left_over else name


def _eaten(kitchen: FoodsInHand) -> list[str]:
    """What is eaten: what the last serving serves, with what is scattered over it afterwards."""
    served = next((step.foods for step in reversed(kitchen.steps) if step.do == "serve"), [])
    return list(dict.fromkeys(_by_now(kitchen, name) for name in served))


def _part_cooked(steps: Sequence[ReadStep], raw: set[str]) -> None:
    """Of two heats of raw animal food with nothing between that ends the cooking, the last makes it
    safe: it is the one to measure, and the first is a part-cook."""
    for i, step in enumerate(steps):
        holds = {step.makes} if step.makes else set(step.foods)
        if step.do != "heat" or step.core_c or not all_in(steps[: i + 1], holds) & raw:
            continue
        for later in steps[i + 1 :]:
            ends = later.do in ("chill", "freeze", "serve", "rest") or (later.do == "probe" and later.core_c)
            if ends and holds & set(later.foods):
                break
            if later.do == "heat" and holds & set(later.foods):
                step.do = "part_cook"
                break
            if later.makes and holds & set(later.foods):
                holds.add(later.makes)


def _food_row(item: Ingredient, line: int) -> dict[str, Any]:
    if item.kind is None:
        return {"soils": ["unknown"], "line": line}
    kind = food_kind(item.kind)
    more = sorted(set(item.allergens) - kind.allergens)
    # What comes out of a tin or a jar was washed and heated in it: said, since the kind itself is not.
    soils: dict[str, Any] = {"soils": []} if kind.soils == {"unwashed_produce"} and _preserved(item) else {}
    if "raw-hidden" in item.doubts:
        soils = {"soils": [*sorted(kind.soils), "unknown"]}
    return {"kind": item.kind, "line": line, **soils, **({"allergens": more} if more else {})}


_TINNED = re.compile(
    r"\b(?:tinned|canned|jarred|bottled|(?:tins?|cans?|jars?|bottles?) of|in brine|in syrup)\b", re.IGNORECASE
)


def _preserved(item: Ingredient) -> bool:
    """True if the line says that the food comes out of a tin, a jar or a bottle."""
    return item.unit in ("tin", "can", "jar", "bottle") or _TINNED.search(item.text) is not None


def _made_ready(reader: SentenceReader) -> list[str]:
    """Foods that are ready and went into nothing: cut, peeled, grated or rinsed and then heated by nothing, or
    cooked. Somebody eats them, whether the text says so or not."""
    foods, steps = reader.kitchen.foods, reader.kitchen.steps
    prepared = {name for step in steps if step.do in _PREPARING for name in step.foods}
    others = {name for step in steps if step.do not in _PREPARING for name in step.foods}
    ready = [name for name in foods if not (foods[name].into or foods[name].raw)]
    cooked = {name for name in ready if foods[name].heated and foods[name].group not in PLAIN_GROUPS}
    return [name for name in ready if name in prepared - others or name in cooked]


_PREPARING = frozenset({"cut", "peel", "grate", "rinse"})


def _puts_on_the_plate(reader: SentenceReader, last: ReadStep) -> bool:
    """True if the last step of a text that serves nothing puts cooked or ready food where it is eaten:
    "spoon the curry over the rice"."""
    foods = reader.kitchen.foods
    served = any(step.do == "serve" for step in reader.kitchen.steps)
    puts = (
        last.do in ("garnish", "transfer", "pour")
        and layout_pattern("sentences", "plates").search(last.text) is not None
    )
    return puts and not served and bool(last.foods) and not any(foods[name].raw for name in last.foods)


def _turn_into_serving(reader: SentenceReader, last: ReadStep) -> None:
    """A step that puts food on plates as the serving, its foods side by side."""
    if last.makes:
        reader.kitchen.forget(last.makes, last.foods)
    last.do, last.makes = "serve", None


def _unserved(reader: SentenceReader, left: Sequence[str]) -> list[str]:
    """What was made and is ready, and is on no plate nor in anything that is: all of it where nothing is served
    at all. What is raw still is asked about, never served."""
    kitchen = reader.kitchen
    serving = [(i, step.foods) for i, step in enumerate(kitchen.steps) if step.do == "serve" and step.foods]
    if not serving:
        return list(left) or reader._meant()
    if len(kitchen.steps) - serving[-1][0] <= vocabulary()["made"]["most_laid_out"]:
        return []  # what follows is laid out with it
    served = [name for _, foods in serving for name in foods]
    eaten = {kitchen.current(name) for name in served} | set(served)
    return [name for name in left if name not in eaten and not kitchen.foods[name].raw]


_BESIDE = re.compile(r"\b(?:on|at) the side\b|\balongside\b|\b(?:beside|next to) (?:it|them)\b", re.IGNORECASE)


def _finish_serving(reader: SentenceReader) -> None:
    """What nothing else uses is what is served. A serving that is followed by more work stays as
    it was read; where the text ends without one, one is added and said to be."""
    kitchen = reader.kitchen
    left = [known.id for known in kitchen.foods.values() if known.made and known.into is None]
    last = kitchen.steps[-1] if kitchen.steps else None
    if last is not None and _puts_on_the_plate(reader, last):
        _turn_into_serving(reader, last)
        left = [known.id for known in kitchen.foods.values() if known.made and known.into is None]
    if last is not None and last.do == "serve":
        if not any(kitchen.foods[name].made for name in last.foods):
            last.foods = [*reader._meant(), *left[-1:], *last.foods]
        elif _BESIDE.search(last.text):  # "slaw and rolls on the side": of what else was made
            last.foods = [*[name for name in left if name not in last.foods][-1:], *last.foods]
        last.foods = list(dict.fromkeys(_by_now(kitchen, name) for name in last.foods))
        forgotten = [name for name in _made_ready(reader) if name not in last.foods]
        if forgotten:
            last.foods, last.guesses = [*last.foods, *forgotten], [*last.guesses, "foods"]
        last.after = reader._after(last)
    elif unserved := _unserved(reader, left):
        reader.count += 1
        step = ReadStep(id=f"s{reader.count}", do="serve", text="Serve", source="", guesses=["step"])
        step.foods = unserved
        step.after = reader._after(step)
        kitchen.steps.append(step)

"""A pasted recipe understood: every sentence and ingredient accounted for, and what is not known asked.

A sentence is a step, an ingredient, a heading, a tip, storage advice, chatter, or unread. What is not
known and could hide a hazard is a question; while one is open, nothing about the recipe is clean.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

from foodsafety.foods import Locale, raw_of_animals, stem_words
from foodsafety.recipes.documents import Document, read_document
from foodsafety.recipes.food_rows import unmarked
from foodsafety.recipes.ingredients import NOT_LISTED, Ingredient, KnownFoods, is_hazardous, read_ingredient, soils_of
from foodsafety.recipes.instructions import (
    one_after_another,
    orders,
    says_allergy,
    sentences,
    sets_out,
    unlabelled,
)
from foodsafety.recipes.layout import SERVES
from foodsafety.recipes.named_foods import foods_named
from foodsafety.recipes.plain_speech import plain_words
from foodsafety.recipes.process import Process, process_from
from foodsafety.recipes.proposer import ReadSentence, parts_of, propose
from foodsafety.recipes.questions import Question, open_questions
from foodsafety.recipes.sentence_reader import NEEDED, TOUCHES_RAW
from foodsafety.recipes.storage_told import says_storage
from foodsafety.recipes.unlisted import foods_told, raw_unlisted
from foodsafety.recipes.verb_forms import form_of
from foodsafety.recipes.vessels import tools_in
from foodsafety.recipes.words import announces, layout_pattern, vocabulary, word_set

Taken = Literal["step", "ingredient", "title", "serves", "heading", "tip", "storage", "chatter", "unread"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SentenceRead:
    """A sentence of the text, what it was taken for, and the steps read from it."""

    text: str
    taken: Taken
    steps: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """A recipe as it was understood."""

    document: Document
    items: tuple[Ingredient, ...]
    sentences: tuple[SentenceRead, ...]
    data: Mapping[str, Any]
    process: Process | None
    questions: tuple[Question, ...]

    @property
    def may_confirm(self) -> bool:
        """True if no open question could hide a hazard."""
        return self.process is not None and bool(self.process.serve) and not any(row.holds for row in self.questions)

    def food_of(self, place: int) -> str | None:
        """The food of the process that an ingredient line became."""
        return next((name for name, row in self.data["foods"].items() if row.get("line") == place), None)

    def used(self, place: int) -> list[str]:
        """The steps that work on an ingredient as it is."""
        food = self.food_of(place)
        return [str(row["id"]) for row in self.data["steps"] if food in row["foods"]]

    def component(self, place: int) -> str:
        """The part of the dish that an ingredient is listed for; "" for the whole."""
        return parts_of(self.items)[place]


def _aside(text: str) -> Taken:
    """What a sentence is that orders nothing."""
    if says_storage(text):
        return "storage"
    return "tip" if any(_says(what, text) for what in ("tip", "warning", "asks", "jobs")) else "chatter"


def _says(what: str, text: str) -> bool:
    """True if a sentence is, in the vocabulary of layouts, of a sort: "tip", "risky", "tasting", "work"."""
    return layout_pattern("sentences", what).search(text) is not None


def read_recipe(text: str, locale: Locale, known: KnownFoods | None = None) -> Reading:
    """A pasted recipe understood. Raises CoreError naming what cannot be read at all."""
    document = read_document(text)
    items = tuple(read_lines(document, locale, known))
    data, read = proposed_process(
        items, document.instructions, names_told(document), summary=document.summary, notes=document.notes
    )
    process = process_from(data) if data["steps"] else None
    told = tuple(_told(document, read, [row["text"] for row in data.get("unread", ())]))
    questions = open_questions(items, data, process)
    return Reading(document=document, items=items, sentences=told, data=data, process=process, questions=questions)


def names_told(document: Document) -> str:
    """The title and the short rows that stand under it: a class sheet names the dish in the second."""
    rows = [line for line in document.lines if line.taken != "blank"][:4]
    under = [line.text for line in rows if line.taken in ("summary", "heading") and len(line.text.split()) <= 8]
    return "\n".join([document.title, *under])


def proposed_process(
    items: Sequence[Ingredient],
    instructions: Sequence[str],
    title: str = "",
    *,
    summary: str = "",
    notes: Sequence[str] = (),
) -> tuple[dict[str, Any], tuple[SentenceRead, ...]]:
    """The process that a recipe's words describe, with the sentences nobody understood in it, and every
    sentence of the method with what it was taken for. ``summary`` is what was taken for talk about the dish, and
    ``notes`` for tips and kit: where they order work all the same, somebody is asked."""
    proposal = propose(items, instructions, title=title)
    steps = proposal.process["steps"]
    foods = _food_words(items)
    told = tuple(_of_method(row, foods) for row in proposal.sentences)
    sentence_of = {step: n for n, said in enumerate(told) for step in said.steps}
    for step in steps:
        if step["id"] in sentence_of:
            step["sentence"] = sentence_of[step["id"]]
    talk = [
        SentenceRead(text=part, taken="unread")
        for part in (*_ordered_in_talk(summary, items), *_cooked_in_notes(notes, items))
    ]
    left = _not_read(items, steps, [*talk, *told])
    rows = {"told": [{"text": said.text, "taken": said.taken} for said in told], **left}
    return {**proposal.process, **{name: found for name, found in rows.items() if found}}, told


def _food_words(items: Iterable[Ingredient]) -> frozenset[str]:
    """Words that name food in a recipe."""
    return frozenset({word for item in items for word in stem_words(item.food or "")} - word_set("names", "too_plain"))


def _not_read(
    items: Sequence[Ingredient], steps: Sequence[Mapping[str, Any]], told: Sequence[SentenceRead]
) -> dict[str, list[dict[str, Any]]]:
    """What was said and is in no step: what nobody understood, with whether it may hide a hazard, and what was
    taken for talk."""
    raw = _food_words(item for item in items if is_hazardous(item))
    animals = any(raw_of_animals(soils_of(item)) for item in items)
    by_id, cooked, last = {step["id"]: step for step in steps}, False, ""
    foods, raw_about = _food_words(items), False  # raw food has been worked on: its board and its hands are about
    has_lain = False  # raw food has been put together with something else, which is raw from there on
    # What raw food lay in is a food of its own: what becomes of it is followed.
    apart = any(str(step.get("makes") or "").startswith(("marinated ", "drained ")) for step in steps)
    came_raw = {item.food for item in items if item.food and raw_of_animals(soils_of(item))}
    found: dict[str, list[dict[str, Any]]] = {"unread": [], "aside": []}
    for said in told:
        last = said.steps[-1] if said.steps else last
        own = [by_id[name] for name in said.steps if name in by_id]
        # Some was set aside, and the raw food goes into the rest: nothing has lain in it before.
        first = not (has_lain or cooked) and any(not came_raw.isdisjoint(step["foods"]) for step in own)
        again = (_says("used_again", said.text) and not (first and _says("rest_of_it", said.text))) or (
            (not apart or "brine" in said.text.lower()) and _uses_marinade(said.text, cooked=cooked)
        )
        cooked = cooked or any(step["do"] == "heat" for step in own)
        worked = {word for step in own if step["do"] != "heat" for name in step["foods"] for word in stem_words(name)}
        raw_about = raw_about or (animals and not worked.isdisjoint(raw))
        has_lain = has_lain or any(step["do"] in _LIES_IN and not came_raw.isdisjoint(step["foods"]) for step in own)
        came_raw |= _made_raw(own, came_raw)
        says = _danger_said(said.text, own, raw, animals=animals, cooked=cooked, again=again)
        says = says or _danger_of_work(said.text, own, came_raw, animals=animals)
        if said.taken == "unread" or says:
            meets = raw_about and said.taken == "unread" and not foods.isdisjoint(stem_words(said.text))
            stands = says in ("left_out", "kept_long", "not_always", "warmed", "at_risk")
            holds = stands or meets or may_hide_a_hazard(said.text, raw, animals=animals)
            row = {"text": said.text, "holds": holds, "after": last}
            found["unread"].append({**row, "says": says} if says and said.taken != "unread" else row)
        elif said.taken in ("chatter", "tip", "storage"):
            found["aside"].append({"text": said.text, "holds": False, "after": last})
    return found


def _made_raw(steps: Sequence[Mapping[str, Any]], came_raw: set[str]) -> set[str]:
    """What is made of food that came raw, before any heat has worked on it: the patties."""
    makes = [step for step in steps if step["do"] != "heat" and not came_raw.isdisjoint(step["foods"])]
    return {str(step["makes"]) for step in makes if step.get("makes")}


def _danger_of_work(text: str, own: Sequence[Mapping[str, Any]], came_raw: set[str], *, animals: bool) -> str:
    """The same, of what the sentence orders: a cook that is not always done, what was cooked before and is only
    warmed, what people eat whom food makes ill more easily."""
    heated = [step for step in own if step["do"] in ("heat", "probe")]
    if _says("not_always", text) and any(not came_raw.isdisjoint(step["foods"]) for step in heated):
        return "not_always"
    if _says("warmed", text) and heated and all(came_raw.isdisjoint(step["foods"]) for step in heated):
        return "warmed"
    eaten = any(step["do"] == "serve" for step in own)
    return "at_risk" if animals and eaten and _says("at_risk", text) else ""


def _danger_said(
    text: str, own: Sequence[Mapping[str, Any]], raw: frozenset[str], *, animals: bool, cooked: bool, again: bool
) -> str:
    """Which danger a sentence speaks of, whatever was read from it: one of ``DANGERS``, or "". ``own`` are its steps,
    ``raw`` words for food that came raw; ``again``: what raw food lay in is spoken of."""
    if _says("tasting", text):
        return "tasting"
    if animals and again:
        return "used_again"
    if _says("left_out", text) and (cooked or animals or _says("spoils", text)):
        return "left_out"
    if cooked and _stands_long(own, raw):
        return "left_out"
    if cooked and own and _says("kept_long", text):
        return "kept_long"
    # "Serve pink in the middle": an order to heat that says so is no cook, and is asked about as one.
    pink = animals and _says("left_raw", text) and all(step["do"] != "part_cook" for step in own)
    return "left_raw" if pink else ""


def _stands_long(steps: Iterable[Mapping[str, Any]], raw: frozenset[str]) -> bool:
    """True for a rest of hours, of what holds food that came raw, with no cold in it: "let it cool in the pan for 4
    hours"."""
    return any(
        step["do"] == "rest"
        and step.get("waiting_min", 0) > vocabulary()["times"]["longest_stand_min"]
        and any(not raw.isdisjoint(stem_words(name)) for name in step["foods"])
        for step in steps
    )


def _uses_marinade(text: str, *, cooked: bool) -> bool:
    """True for what raw food lay in, spoken of again once something is ``cooked``: nobody knows what becomes of it."""
    return _says("marinade", text) and (cooked or _says("basted", text))


def may_hide_a_hazard(text: str, raw: frozenset[str], *, animals: bool) -> bool:
    """True if a sentence that nobody understood speaks of raw food, or of what raw food may be on: of kit, where some
    of it is of ``animals``."""
    if _says("risky", text) or _says("tasting", text) or not raw.isdisjoint(stem_words(text)):
        return True
    again = _says("left_raw", text) or _says("used_again", text) or _says("marinade", text)
    return animals and (again or any(tool.kind in TOUCHES_RAW for tool in tools_in(text)))


def read_lines(document: Document, locale: Locale, known: KnownFoods | None = None) -> Iterator[Ingredient]:
    """The ingredients of a document understood; of each that its list does not have, a person is asked."""
    listed = len(document.ingredients)
    for n, line in enumerate(ingredient_lines(document, locale)):
        item = read_ingredient(line, locale, known)
        yield replace(item, doubts=(*item.doubts, NOT_LISTED)) if 0 < listed <= n else item


def _measured_in_talk(text: str, locale: Locale) -> Iterator[str]:
    """A measured food among what was taken for talk is no talk."""
    return (line for line in foods_named(text, locale) if read_ingredient(line, locale).measured)


def ingredient_lines(document: Document, locale: Locale) -> tuple[str, ...]:
    """The ingredients of a document: its list with the raw foods that only its method names, or, where it
    has no list, every food that its method names. Raw food is never lost for want of a line."""
    whole = (part for text in document.instructions for part in sentences(text))
    parts = (part for one in whole for part in one_after_another(one, frozenset()))
    told = "\n".join(part for part in parts if not says_storage(part) and not _says("asks", part))
    told = "\n".join([told, *_measured_in_talk(document.summary, locale)])
    if document.ingredients:
        return (*document.ingredients, *raw_unlisted(document.ingredients, told, locale))
    return foods_told(told, locale)


_LINES: Mapping[str, Taken] = {
    "title": "title",
    "serves": "serves",
    "ingredient": "ingredient",
    "heading": "heading",
    "kit": "heading",
}


# Work that nobody only talks of.
_LIES_IN = frozenset({"mix", "coat", "marinate", "brush", "pour", "transfer", "touch"})
_WORKS = frozenset({"cut", "mix", "coat", "marinate", "heat", "part_cook", "rinse", "grate", "peel", "chill", "freeze"})


def _ordered_in_talk(summary: str, items: Sequence[Ingredient]) -> tuple[str, ...]:
    """Sentences of what was taken for talk about the dish that order work on its food: somebody has to look at them."""
    foods = _food_words(items)
    return tuple(
        part
        for part in sentences(summary)
        if set(stem_words(part)) & foods
        and not says_storage(part)
        and re.search(r"\bnothing\b", part, re.IGNORECASE) is None
        and any(order.do in _WORKS for order in orders(part, foods))
    )


def _cooked_in_notes(notes: Iterable[str], items: Sequence[Ingredient]) -> Iterator[str]:
    """Sentences of what was taken for tips and kit that begin by cooking, rinsing or cutting the recipe's own food, or
    by washing: a row that looked like a heading may have taken the method with it."""
    foods = _food_words(items)
    for part in (part for note in notes for part in sentences(unmarked(note)) if not says_storage(part)):
        first = next(iter(orders(part, foods)), None)
        if first is None or first.lead or first.verb in word_set("names", "warms") or _says("tip", part):
            continue
        on_food = first.do in _WORKS and not foods.isdisjoint(stem_words(first.text))
        if on_food or first.do in ("wash_hands", "clean"):
            yield part


def _told(document: Document, read: Sequence[SentenceRead], talk: Sequence[str] = ()) -> Iterator[SentenceRead]:
    """Every sentence of the text in its order; ``talk`` has those that were taken for talk and are none."""
    left = list(read)
    for line in document.lines:
        if line.taken == "blank":
            continue
        if line.taken == "instruction":
            for part in sentences(unmarked(line.text)):
                row = next((found for found in left if found.text == part), None)
                left = [found for found in left if found is not row]
                yield row or SentenceRead(text=part, taken="unread")  # never left out in silence
            continue
        if line.taken in ("note", "summary", "kit"):
            for part in sentences(line.text):
                aside = _aside(part) if line.taken == "summary" or says_storage(part) else _LINES.get(line.taken, "tip")
                yield SentenceRead(text=part, taken="unread" if any(part in said for said in talk) else aside)
            continue
        yield SentenceRead(text=line.text.strip(), taken=_LINES.get(line.taken, "chatter"))


def _of_method(row: ReadSentence, foods: frozenset[str]) -> SentenceRead:
    """What a sentence of the method was taken for."""
    if row.steps:
        return SentenceRead(text=row.text, taken="step", steps=row.steps)
    if _says("tasting", row.text):
        return SentenceRead(text=row.text, taken="unread")  # what eats raw food is no tip, however it is put
    aside = _aside(row.text)
    served = SERVES.match(row.text)
    if served and served["n"] and len(row.text) < 60:
        return SentenceRead(text=row.text, taken="serves")
    if says_allergy(row.text):
        return SentenceRead(text=row.text, taken="tip")
    left_raw = _says("left_raw", row.text) and not _says("asks", row.text)
    cooks = aside == "storage" and _COOKS_NOW.search(row.text) and not _WARMS_AGAIN.search(row.text)
    if left_raw or cooks or (aside == "tip" and _TIP_MEASURES.search(row.text)):
        return SentenceRead(text=row.text, taken="unread")  # "they should be browned, 75 in the centre"
    if announces(row.text, foods):
        return SentenceRead(text=row.text, taken="heading")
    if row.aside or aside != "chatter":
        return SentenceRead(text=row.text, taken=aside)
    if _says("talk", row.text) and not _says("risky", row.text) and not tools_in(row.text):
        return SentenceRead(text=row.text, taken="chatter")
    if _lists_foods(row.text) or (NEEDED.match(row.text) and set(stem_words(row.text)) & foods and not row.acts):
        known = not foods.isdisjoint(stem_words(row.text))  # else it stands in no list, and nobody would notice
        return SentenceRead(text=row.text, taken="ingredient" if known else "unread")
    if _says("checking", row.text):
        return SentenceRead(text=row.text, taken="unread")  # an order that became no step: somebody has to look at it
    if sets_out(row.text) or _only_bins(row.text, foods):
        return SentenceRead(text=row.text, taken="step")
    setting_up = not _says("risky", row.text) and not _OVEN_TIME.search(plain_words(row.text))
    if row.acts and setting_up and not set(stem_words(unlabelled(row.text)[1])) & foods:
        return SentenceRead(text=row.text, taken="step")  # setting up: "heat the oven"
    return SentenceRead(text=row.text, taken="unread" if _says_work(row.text, foods) else "chatter")


# "Put the tin in the oven for 25 minutes", with nothing in the tin: something is lost.
_OVEN_TIME = re.compile(
    r"^(?!.*\b(?:pre-?)?(?:heat|warm)\b).*\b(?:in|into) the (?:hot )?oven\b[^.;]*\b\d+ ?min", re.IGNORECASE
)


def _only_bins(text: str, foods: frozenset[str]) -> bool:
    """ "Discard the bay leaf": it is understood, and nothing comes of it."""
    found = orders(text, foods)
    return bool(found) and all(
        order.verb in ("bin", "discard", "compost") and order.high_min is None for order in found
    )  # "discard the marinade, 14 minutes" leaves something on the heat


_TIP_MEASURES = re.compile(
    r"\b(?:[6-9]\d|1[3-9]\d)\s?(?:°|degrees|C\b|F\b|(?=(?:in|at|inside) the (?:middle|cent(?:re|er)|thick)))"
    r"|\b(?:must|should|has to|have to)\b[^.;]*\b[67]\d\b(?! ?(?:g|ml|min|sec|%))",
    re.IGNORECASE,
)


_WARMS_AGAIN = re.compile(r"\bre-?heat|\bwarm", re.IGNORECASE)
# An oven's heat and a time: whatever else it says, it cooks something.
_COOKS_NOW = re.compile(
    r"\b(?:1[3-9]0|2[0-5]0|3[0-9][05]|4[0-5][05])\b(?! ?(?:g|ml))[^.;]*\b\d+ ?(?:mins?|minutes?)\b", re.IGNORECASE
)


def _lists_foods(text: str) -> bool:
    """True if a sentence only says what is needed: "You want 500 g mince, 2 onions and 8 buns"."""
    parts = [part for part in re.split(r",|\band\b|;", text) if part.strip()]
    measured = [
        part
        for part in parts
        if (item := read_ingredient(re.sub(r"^\D*?(?=\d)", "", part.strip(" .")), "en-GB")).measured and item.kind
    ]
    alone = len(parts) == 1 and len(text.split()) <= 7 and re.match(r"\W*\d", text) is not None
    return (len(measured) > 1 or (alone and bool(measured))) and len(measured) >= 0.5 * len(parts)


_BEING_DONE = re.compile(r"\b(?:is|are|be|gets?) (?:[a-z]+ly |then |all |first )?([a-z-]+)\b", re.IGNORECASE)
_HANDLED = frozenset({"cut", "peel", "grate", "rinse", "heat", "mix", "transfer", "chill", "freeze", "coat", "pour"})


def _is_done(text: str) -> bool:
    """ "Their skins are rubbed off and they are cut in wedges": work in the passive, whatever it is done to."""
    forms = (form_of(found[1], "ed") for found in _BEING_DONE.finditer(text))
    return any(form is not None and form.do in _HANDLED for form in forms)


def _says_work(text: str, foods: frozenset[str]) -> bool:
    """True if a sentence without an order still speaks of work: somebody has to look at it."""
    told = _says("work", text) or _says("risky", text) or _says("looks_like_work", text) or _is_done(text)
    return bool(told or set(stem_words(text)) & foods or tools_in(text))

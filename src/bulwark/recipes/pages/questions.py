"""The open questions of a recipe and the findings nobody has answered for, each with its answers."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django.utils.translation import gettext as _

from bulwark.presentation import phrases
from bulwark.recipes import dangers, wording
from bulwark.recipes.pages.context import RecipeContext
from bulwark.recipes.services import THROWN_AWAY
from foodsafety.foods import FoodKind, food_kind
from foodsafety.recipes import (
    Process,
    Question,
    Unplaced,
    boils_first_min,
    doubts_of,
    eaten_offers,
    guessed_with,
    loose_ends,
    unplaced,
)

# A step in plain data with its number.
Numbered = tuple[int, Mapping[str, Any]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """An answer of one tap: what its button says, its key, and the fields it sends."""

    label: str
    key: str
    fields: tuple[tuple[str, str], ...]


def question_rows(context: RecipeContext, process: Process, questions: Sequence[Question]) -> list[dict[str, Any]]:
    """The questions in words, numbered, worst first, each with its offers."""
    steps = {str(data["id"]): (i, data) for i, data in enumerate(context.recipe.process["steps"], start=1)}
    ways = {row.food: row for row in (*unplaced(context.recipe.process, process), *loose_ends(process))}
    asked: dict[str, Callable[..., dict[str, Any]]] = {
        "unread": _unread, "which-food": _which_food, "nothing-served": _nothing_served, "unplaced": _way,
        "goes-nowhere": _way, "which-heat": _which_heat, "guessed": _guessed,
    }  # fmt: skip
    rows = []
    for question in _one_a_line(questions):
        row = asked[question.why](question, context, ways, steps)
        rows.append({"why": question.why, "holds": question.holds, "step": question.step, "number": 0, **row})
    guessed = [str(row.step) for row in questions if row.why == "guessed"]
    asked_about = {step for one in guessed for step in guessed_with(context.recipe.process, one)}
    rows += [_doubt(*row) for step, row in steps.items() if step not in asked_about and _doubts(row[1])]
    for number, row in enumerate(rows, start=1):
        row["number"] = number
    return rows


def _one_a_line(questions: Sequence[Question]) -> list[Question]:
    """A food that nobody knows is asked what it is before it is asked where it goes."""
    which = [row for row in questions if row.why == "which-food" and row.holds]
    lines = {row.ingredient for row in which if row.ingredient is not None}
    foods = {food for row in which for food in row.foods}
    return [
        row
        for row in questions
        if row.why != "unplaced" or (row.ingredient not in lines and foods.isdisjoint(row.foods))
    ]


def _unread(question: Question, *_more: Any) -> dict[str, Any]:
    text = ("text", question.text)
    if question.says:
        return _danger(question, text)
    return {
        "title": _("What does this sentence order?"),
        "said": question.text,
        "note": _("It may hide raw work.") if question.holds else _("Nobody has understood it."),
        "offers": (
            Offer(label=_("Make it a step"), key="M", fields=(("what", "make"), text)),
            Offer(label=_("It orders nothing"), key="S", fields=(("what", "aside"), text)),
        ),
    }


def _danger(question: Question, text: tuple[str, str]) -> dict[str, Any]:
    """What a sentence that was read says all the same."""
    offer = Offer(label=_("It is no danger here"), key="S", fields=(("what", "aside"), text))
    title, note = dangers.title(question.says), dangers.note(question.says)
    return {"title": title, "said": question.text, "note": note, "offers": (offer,)}


def _which_food(question: Question, context: RecipeContext, *_more: Any) -> dict[str, Any]:
    place = question.ingredient
    if place is None:
        return _stored_food(question.foods[0])
    item = context.items[place]
    asked = (("what", "line"), ("line", str(place)))
    amounts = [(key, str(value)) for key, value in (("low", item.low), ("high", item.high)) if value is not None]
    known = (*asked, ("food", item.food or ""), ("unit", item.unit or ""), *amounts)
    return {
        "title": _("What is “%(food)s”?") % {"food": item.food},
        "said": context.recipe.ingredients[place],
        "note": " ".join(wording.doubt(name) for name in item.doubts),
        "offers": (
            *([_it_is(food_kind(item.kind), known)] if item.kind else []),
            Offer(label=_("It is no ingredient"), key="N", fields=(*asked, ("food", ""))),
        ),
        "line": place,
        "known": known,
        "food": item.food,
    }


def _stored_food(food: str) -> dict[str, Any]:
    """A food of steps that came from a file: no line of the recipe has it."""
    return {
        "title": _("What is “%(food)s”?") % {"food": food},
        "said": "",
        "note": wording.doubt("food-unknown"),
        "offers": (),
        "line": None,
        "known": (("what", "kind"), ("food", food)),
        "food": food,
    }


def _it_is(kind: FoodKind, known: tuple[tuple[str, str], ...]) -> Offer:
    return Offer(label=_("It is right: %(food)s") % {"food": kind.name}, key="Y", fields=(*known, ("kind", kind.id)))


def _way(
    question: Question, _context: RecipeContext, ways: Mapping[str, Unplaced], steps: Mapping[str, Numbered]
) -> dict[str, Any]:
    food, lost = question.foods[0], question.why == "unplaced"
    way = ways[food]
    titles = {name: _step_title(*steps[name]) for name in way.steps if name in steps}
    likely = way.step if way.step in titles else next(iter(titles), "")
    title = _("No step uses %(food)s. Where does it go?") if lost else _("What becomes of %(food)s?")
    said = (("what", "place" if lost else "fate"), ("food", food))
    return {
        "title": phrases.capital(title % {"food": food}),
        "said": "",
        "note": _("It is raw.") if way.raw else _("It holds nothing back."),
        "offers": tuple(_ways_on(said, lost, likely, titles)),
        "others": [(name, shown) for name, shown in titles.items() if name != likely],
        "into": said,
        "food": food,
    }


def _ways_on(said: tuple[tuple[str, str], ...], lost: bool, likely: str, titles: Mapping[str, str]) -> Iterator[Offer]:
    """Into the likeliest step; else what becomes of it without one."""
    if likely:
        label = _("Into %(step)s") % {"step": titles[likely]}
        yield Offer(label=label, key="Y", fields=(*said, ("into", likely)))
    if lost:
        yield Offer(label=_("It is left out"), key="N", fields=(*said, ("into", "")))
    else:
        yield Offer(label=_("It is thrown away"), key="N", fields=(*said, ("into", THROWN_AWAY)))
        yield Offer(label=_("It is eaten as it is"), key="E", fields=(*said, ("into", "")))


def _which_heat(
    question: Question, context: RecipeContext, _ways: Mapping[str, Unplaced], steps: Mapping[str, Numbered]
) -> dict[str, Any]:
    step = str(question.step)
    foods = {"foods": ", ".join(question.foods), "step": _step_title(*steps[step])}
    said = (("what", "cooked"), ("step", step))
    boils_min = max((boils_first_min(context.process, name) for name in question.foods), default=0.0)
    return {
        "title": phrases.capital(_("%(foods)s: cooked through here?") % foods),
        "said": foods["step"],
        "note": _("Dry beans boil hard for %(min)d minutes first: slower heat can leave them worse than raw (FSA).")
        % {"min": boils_min}
        if boils_min
        else _("No step that heats it has a time, or a temperature or an end that is enough for it."),
        "offers": (
            Offer(label=_("Yes: it is measured here"), key="Y", fields=(*said, ("how", "said"))),
            Offer(label=_("No: this only warms or colours it"), key="N", fields=(*said, ("how", "another"))),
        ),
    }


def _guessed(
    question: Question, context: RecipeContext, _ways: Mapping[str, Unplaced], steps: Mapping[str, Numbered]
) -> dict[str, Any]:
    step = str(question.step)
    same = guessed_with(context.recipe.process, step)
    rows = [row for one, row in steps.items() if one in same]
    names, one = ", ".join(_step_title(*row) for row in rows), len(rows) < 2
    return {
        "title": (_("Is step %(step)s right?") if one else _("Are these steps right: %(step)s?")) % {"step": names},
        "said": question.text,
        "note": _("Guessed from a sentence that no rule reads, and there is raw food in it."),
        "offers": (Offer(label=_("It is right"), key="Y", fields=(("what", "sure"), ("step", step))),),
    }


def _step_title(number: int, data: Mapping[str, Any]) -> str:
    return f"{number}. {data.get('title') or phrases.verb(data['do'])}"


def _doubts(data: Mapping[str, Any]) -> list[str]:
    """What was guessed of a step and may be wrong; kit that nobody named is only shown."""
    added = "step" if data["do"] == "serve" else ""
    return [name for name in doubts_of(data) if name != added]


def _doubt(number: int, data: Mapping[str, Any]) -> dict[str, Any]:
    step = str(data["id"])
    said = ", ".join(wording.guess(name) for name in _doubts(data))
    foods = ", ".join(data.get("foods", [])) or _("no food")
    return {
        "why": "doubt",
        "holds": False,
        "step": step,
        "number": 0,
        "title": _("Is step %(step)s right?") % {"step": _step_title(number, data)},
        "said": "",
        "note": _("Taken to be about: %(foods)s. %(said)s.") % {"foods": foods, "said": phrases.capital(said)},
        "offers": (Offer(label=_("It is right"), key="Y", fields=(("what", "sure"), ("step", step))),),
    }


def _nothing_served(_question: Question, context: RecipeContext, *_more: Any) -> dict[str, Any]:
    return {
        "title": _("What is eaten?"),
        "said": "",
        "note": _("No step serves anything yet."),
        "offers": (),
        "eaten": eaten_offers(context.process),
    }

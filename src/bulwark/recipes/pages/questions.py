"""The open questions of a recipe and the findings nobody has answered for, each with its answers."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django.utils.translation import gettext as _

from bulwark.presentation import phrases
from bulwark.recipes import wording
from bulwark.recipes.pages.context import RecipeContext
from bulwark.recipes.pages.steps import finding_row
from bulwark.recipes.services import THROWN_AWAY
from foodsafety.contamination import Finding
from foodsafety.foods import food_kind
from foodsafety.recipes import Process, Question, Unplaced, eaten_offers, finding_key, loose_ends, unplaced


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
    asked = {"unread": _unread, "which-food": _which_food, "unplaced": _way, "goes-nowhere": _way}
    rows = []
    for question in _one_a_line(questions):
        make: Callable[..., dict[str, Any]] = asked[question.why]
        row = make(question, context, ways, steps)
        rows.append({"why": question.why, "holds": question.holds, "step": question.step, "number": 0, **row})
    if not process.serve:
        rows.insert(0, _nothing_served(process))
    for number, row in enumerate(rows, start=1):
        row["number"] = number
    return rows


def _one_a_line(questions: Sequence[Question]) -> list[Question]:
    """A food that nobody knows is asked what it is before it is asked where it goes."""
    which = {row.ingredient for row in questions if row.why == "which-food" and row.holds}
    return [row for row in questions if row.why != "unplaced" or row.ingredient not in which]


def _unread(question: Question, *_more: Any) -> dict[str, Any]:
    text = ("text", question.text)
    return {
        "title": _("What does this sentence order?"),
        "said": question.text,
        "note": _("It may hide raw work.") if question.holds else _("Nobody has understood it."),
        "offers": (
            Offer(label=_("Make it a step"), key="M", fields=(("what", "make"), text)),
            Offer(label=_("It orders nothing"), key="S", fields=(("what", "aside"), text)),
        ),
    }


def _which_food(question: Question, context: RecipeContext, *_more: Any) -> dict[str, Any]:
    place = question.ingredient or 0
    item = context.items[place]
    kind = food_kind(item.kind) if item.kind else None
    asked = (("what", "line"), ("line", str(place)))
    amounts = [(key, str(value)) for key, value in (("low", item.low), ("high", item.high)) if value is not None]
    known = (*asked, ("food", item.food or ""), ("unit", item.unit or ""), *amounts)
    offers = []
    if kind:
        right = _("It is right: %(food)s") % {"food": kind.name}
        offers.append(Offer(label=right, key="Y", fields=(*known, ("kind", kind.id))))
    offers.append(Offer(label=_("It is no ingredient"), key="N", fields=(*asked, ("food", ""))))
    return {
        "title": _("What is “%(food)s”?") % {"food": item.food},
        "said": context.recipe.ingredients[place],
        "note": " ".join(wording.doubt(name) for name in item.doubts),
        "offers": tuple(offers),
        "line": place,
        "known": known,
        "food": item.food,
    }


def _way(
    question: Question,
    _context: RecipeContext,
    ways: Mapping[str, Unplaced],
    steps: Mapping[str, tuple[int, Mapping[str, Any]]],
) -> dict[str, Any]:
    food, lost = question.foods[0], question.why == "unplaced"
    way = ways[food]
    what = "place" if lost else "fate"
    titles = {name: _step_title(*steps[name]) for name in way.steps if name in steps}
    likely = [way.step] if way.step in titles else list(titles)[:1]

    def into(step: str) -> tuple[tuple[str, str], ...]:
        return (("what", what), ("food", food), ("into", step))

    offers = [Offer(label=_("Into %(step)s") % {"step": titles[name]}, key="Y", fields=into(name)) for name in likely]
    if lost:
        offers.append(Offer(label=_("It is left out"), key="N", fields=into("")))
    else:
        offers.append(Offer(label=_("It is thrown away"), key="N", fields=into(THROWN_AWAY)))
        offers.append(Offer(label=_("It is eaten as it is"), key="E", fields=into("")))
    title = _("No step uses %(food)s. Where does it go?") if lost else _("What becomes of %(food)s?")
    return {
        "title": phrases.capital(title % {"food": food}),
        "said": "",
        "note": _("It is raw.") if way.raw else _("It holds nothing back."),
        "offers": tuple(offers),
        "others": [(name, shown) for name, shown in titles.items() if name not in likely],
        "into": into("")[:2],
        "food": food,
    }


def _step_title(number: int, data: Mapping[str, Any]) -> str:
    return f"{number}. {data.get('title') or phrases.verb(data['do'])}"


def _nothing_served(process: Process) -> dict[str, Any]:
    return {
        "why": "eaten",
        "holds": True,
        "step": None,
        "number": 0,
        "title": _("What is eaten?"),
        "said": "",
        "note": _("No step serves anything yet."),
        "offers": (),
        "eaten": eaten_offers(process),
    }


def breach_rows(findings: Sequence[Finding], said: Mapping[tuple[str, ...], Mapping[str, str]]) -> list[dict[str, Any]]:
    """The findings with what somebody said of each, those that nobody answered for first."""
    rows = [{**finding_row(row), "step": row.step, "answer": said.get(finding_key(row))} for row in findings]
    for row in rows:
        row["key"] = "|".join(finding_key(row["finding"]))
    return sorted(rows, key=lambda row: row["answer"] is not None)

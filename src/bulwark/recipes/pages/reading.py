"""One screen from paste to confirmed: the text as it came on the steps read from it, and what is asked."""

import re
from collections.abc import Mapping, Sequence
from itertools import groupby
from typing import Any

from bulwark.presentation import phrases
from bulwark.recipes import wording
from bulwark.recipes.adapters import steps_version
from bulwark.recipes.pages.context import RecipeContext
from bulwark.recipes.pages.edits import last_edit
from bulwark.recipes.pages.lines import all_allergens, line_row
from bulwark.recipes.pages.questions import question_rows
from bulwark.recipes.pages.steps import breach_rows, finding_row, step_rows
from foodsafety.contamination import analyse
from foodsafety.foods import food_kinds, kitchen_units
from foodsafety.recipes import (
    NOT_LISTED,
    VERBS,
    open_questions,
    told_rows,
    unplaced,
    unread_rows,
)


def reading_page(context: RecipeContext) -> dict[str, Any]:
    """Everything the reading screen shows."""
    process, data = context.process, context.recipe.process
    looked = analyse(process, context.house)
    breaches = breach_rows(looked.findings, data, process)
    questions = question_rows(context, process, open_questions(context.items, data, process))
    open_breaches = [row for row in breaches if row["answer"] is None]
    lines = [line_row(context, i, item) for i, item in enumerate(context.items)]
    return {
        **context.base("steps"),
        "beds": _beds(context, questions, open_breaches),
        "lines": lines,
        "doubtful": sum(1 for row in lines if row["doubts"]),
        "frame": _frame(context),
        "questions": questions,
        "holding": sum(1 for row in questions if row["holds"]),
        "breaches": breaches,
        "open_breaches": open_breaches,
        "practice": [finding_row(finding) for finding in looked.practice],
        "tray": unplaced(data, process),
        "placed": len(process.foods) - len(unplaced(data, process)),
        "count": len(process.steps),
        "verbs": sorted((name, phrases.verb(name)) for name in VERBS),
        "choices": {"foods": sorted(process.food_ids), "tools": sorted(process.tools)},
        "kinds": food_kinds(),
        "units": [*kitchen_units()],
        "tags": all_allergens(),
        "undo": last_edit(context.recipe, context.actor),
        "version": steps_version(context.recipe),
        "serve": ", ".join(process.serve),
        "clean": not questions and not looked.findings,
        "taken_clean": sorted(f.id for f in process.foods.values() if f.kind and f.kind.soils - f.soils),
    }


def _frame(context: RecipeContext) -> list[dict[str, str]]:
    """The rows of the text that are neither an ingredient nor the method: headings, tips, chatter."""
    kept = ("blank", "ingredient", "instruction", NOT_LISTED)
    asked = [row["text"] for row in unread_rows(context.recipe.process)]
    return [
        {"text": text, "taken": wording.taken("unread" if any(said in text for said in asked) else taken)}
        for _n, text, taken in context.recipe.source
        if taken not in kept
    ]


def _beds(
    context: RecipeContext, questions: Sequence[Mapping[str, Any]], breaches: Sequence[Mapping[str, Any]]
) -> list[dict[str, Any]]:
    """The sentences, each on the steps read from it. Steps stand in the order they are done; a sentence
    without a step stands behind the one told before it."""
    told = told_rows(context.recipe.process)
    rows = step_rows(context)
    for row in rows:
        _mark(row, questions, breaches)
    beds = [
        _bed(place, list(group), told) for place, group in groupby(rows, key=lambda row: row["step"].get("sentence"))
    ]
    used = {bed["place"] for bed in beds}
    for place, sentence in enumerate(told):
        if place not in used:
            beds.insert(_behind(beds, place), _without_step(place, sentence, context.recipe.process, questions))
    return beds


def _bed(place: object, stones: list[dict[str, Any]], told: Sequence[Mapping[str, str]]) -> dict[str, Any]:
    """A sentence on its stones; steps that nothing in the text says lie on none."""
    text = told[place]["text"] if isinstance(place, int) and 0 <= place < len(told) else ""
    return {
        "place": place if text else None,
        "text": text,
        "stones": stones,
        "said": _said(text, stones),
        "added": bool(told) and not text,
    }


def _behind(beds: Sequence[Mapping[str, Any]], place: int) -> int:
    """Where a sentence goes: behind the last bed of the sentences told before it."""
    before = [i for i, bed in enumerate(beds) if bed["place"] is not None and bed["place"] < place]
    return before[-1] + 1 if before else 0


def _without_step(
    place: int, sentence: Mapping[str, str], process: Mapping[str, Any], questions: Sequence[Mapping[str, Any]]
) -> dict[str, Any]:
    text, taken = sentence["text"], sentence["taken"]
    unread = any(row["text"] == text for row in unread_rows(process))
    aside = any(row["text"] == text for row in unread_rows(process, "aside"))
    asked = (row["number"] for row in questions if row["why"] == "unread" and row["said"] == text)
    return {
        "place": place,
        "text": text,
        "stones": [],
        "hole": unread,
        "taken": wording.taken("chatter" if aside and taken in ("unread", "step") else taken),
        "number": next(asked, None),
        "may_be_step": taken != "ingredient",
    }


def _mark(row: dict[str, Any], questions: Sequence[Mapping[str, Any]], breaches: Sequence[Mapping[str, Any]]) -> None:
    """What is asked about a step, and whether it is broken."""
    step, foods = str(row["step"]["id"]), set(row["step"]["foods"])
    row["asked"] = [
        {"number": q["number"], "text": q.get("food") or ""}
        for q in questions
        if q["step"] == step or (q.get("food") in foods and q["why"] == "which-food")
    ]
    row["broken"] = [breach for breach in breaches if breach["step"] == step]
    row["off"] = bool(row["asked"] or row["guesses"])


def _said(text: str, stones: Sequence[Mapping[str, Any]]) -> list[tuple[str, int | None]]:
    """A sentence in pieces, each step's number where its words begin."""
    found, at = [], 0
    for stone in stones:
        opening = re.match(r"\W*([\w'’-]+)", str(stone["step"].get("detail") or ""))
        hit = re.search(rf"\b{re.escape(opening[1])}\b", text[at:], re.IGNORECASE) if opening else None
        if hit is None:
            continue
        found.append((text[at : at + hit.start()], None))
        found.append((text[at + hit.start() : at + hit.end()], stone["number"]))
        at += hit.end()
    return [*found, (text[at:], None)]

"""Topic ``read``: a pasted recipe understood, with what is not known asked."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from foodsafety.cli.analyse import finding_row
from foodsafety.contamination import PresumedContact, analyse, said_and_asked
from foodsafety.foods import allergens_for, locale_from
from foodsafety.quantities import CoreError
from foodsafety.recipes import Question, Reading, doubts_of, read_recipe, soils_of
from foodsafety.rules import MODEL_CODE, House


def run(data: Mapping[str, Any]) -> dict[str, Any]:
    """Topic ``read``."""
    text = data.get("text")
    if not isinstance(text, str):
        raise CoreError("text", "not_a_text", value=text)
    locale = locale_from(data.get("locale"))
    read = read_recipe(text, locale)
    steps = read.data["steps"]
    found = analyse(read.process, House()).findings if read.process else ()
    # What nobody knows is asked about as a food: no finding says more of it.
    found = tuple(row for row in found if row.soil != "unknown")
    stand, asked = said_and_asked(read.data, found, House()) if found else ((), ())
    named = allergens_for(locale=locale)
    return {
        "title": read.document.title,
        "serves": read.document.serves,
        "ingredients": [
            {
                "line": item.text,
                "food": item.food,
                "kind": item.kind,
                "low": item.low,
                "high": item.high,
                "unit": item.unit,
                "component": read.component(n),
                "soils": list(soils_of(item)),
                "allergens": sorted({*named.named(item.allergens), *item.allergens}),
                "used": read.used(n),
            }
            for n, item in enumerate(read.items)
            if item.food
        ],
        "steps": [_step(row, read) for row in steps],
        "sentences": [
            {"n": n, "text": row.text, "taken": row.taken, "steps": list(row.steps)}
            for n, row in enumerate(read.sentences)
        ],
        "serve": list(read.process.serve) if read.process else [],
        "findings": [finding_row(row, {}, MODEL_CODE) for row in stand],
        "questions": [*(_contact(row) for row in asked), *(_question(row, read) for row in read.questions)],
        "may_confirm": read.may_confirm and not asked,
    }


def _step(row: Mapping[str, Any], read: Reading) -> dict[str, Any]:
    tools = read.data["tools"]
    minutes = row.get("minutes") or None
    sentence = next((n for n, said in enumerate(read.sentences) if row["id"] in said.steps), None)
    return {
        "id": row["id"],
        "do": row["do"],
        "title": row.get("title", ""),
        "foods": list(row["foods"]),
        "tools": [{"id": name, "kind": tools[name]["kind"]} for name in row["tools"]],
        "hands": list(row["hands"]),
        "makes": row.get("makes"),
        "after": list(row.get("after", ())),
        "minutes": [row.get("low_min") or minutes, minutes] if minutes else None,
        "waiting": bool(row.get("waiting_min")),
        "oven_c": (row.get("heat") or {}).get("oven_c"),
        "core_c": (row.get("end") or {}).get("core_c"),
        "until": (row.get("end") or {}).get("cue"),
        "sentence": sentence,
        "doubts": doubts_of(row),
    }


def _contact(row: PresumedContact) -> dict[str, Any]:
    """A contact that nobody said and that something unsafe hangs on: who touches it, is it the same kit?"""
    why = "who-touches" if row.by_hand else "same-kit"
    return {"why": why, "step": row.step, "food": row.food, "carrier": row.carrier}


def _question(row: Question, read: Reading) -> dict[str, Any]:
    # Headings among the lines are no ingredients of the answer.
    line = None if row.ingredient is None else sum(1 for item in read.items[: row.ingredient] if item.food)
    sentence = next((n for n, said in enumerate(read.sentences) if row.text and said.text == row.text), None)
    place = {"sentence": sentence, "ingredient": line, "step": row.step}
    return {"why": row.why, **{key: value for key, value in place.items() if value is not None}}

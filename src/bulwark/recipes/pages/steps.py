"""The step editor, and how each step of a recipe is drawn and named."""

from collections.abc import Iterable
from typing import Any

from django.utils.translation import gettext as _

from bulwark.presentation import phrases
from bulwark.recipes import wording
from bulwark.recipes.adapters import steps_version
from bulwark.recipes.pages.context import RecipeContext
from foodsafety.contamination import Finding, analyse
from foodsafety.foods import is_raw
from foodsafety.recipes import (
    PERSON,
    VERBS,
    Process,
    Unplaced,
    eaten_offers,
    loose_ends,
    unplaced,
    unread_rows,
)


def finding_row(finding: Finding) -> dict[str, Any]:
    """A finding of the process in words."""
    return {
        "finding": finding,
        "soil": wording.hazard(finding.soil),
        "path": " → ".join(_("hands") if stop == PERSON else stop for stop in finding.path),
        "title": phrases.capital(wording.finding(finding.rule, finding.food, finding.soil)),
    }


def _raw_foods(process: Process) -> frozenset[str]:
    return frozenset(food.id for food in process.foods.values() if any(map(is_raw, food.soils)))


def _look(do: str, foods: Iterable[str], process: Process, raw: frozenset[str]) -> str:
    """How a step is drawn: what it means before any word is read."""
    if do in ("heat", "part_cook"):
        return "hot"
    if do in ("chill", "freeze"):
        return "cold"
    if do in ("wash_hands", "clean", "rinse"):
        return "wash"
    if any(raw & process.ingredients_of(name) for name in foods):
        return "raw"
    return "plain"


_BLANK_STEP: dict[str, Any] = {
    "title": "",
    "detail": "",
    "foods": [],
    "tools": [],
    "hands": [],
    "makes": "",
    "minutes": None,
    "waiting_min": None,
}


def step_rows(context: RecipeContext) -> list[dict[str, Any]]:
    """The steps of a recipe, each with how it looks and what is said at it."""
    process = context.process
    raw, cooked = _raw_foods(process), set[str]()
    rows = []
    for i, data in enumerate(context.recipe.process["steps"], start=1):
        foods = data.get("foods", [])
        live = frozenset(name for name in raw if name not in cooked)
        rows.append(
            {
                "step": {**_BLANK_STEP, **data},
                "number": i,
                "verb": phrases.verb(data["do"]),
                "look": _look(data["do"], foods, process, live),
                "heat": wording.heat(data, context.actor.unit),
                "minutes": phrases.minutes(float(data.get("minutes") or 0)) if data.get("minutes") else "",
                "waits": bool(data.get("waiting_min")),
                "guesses": [wording.guess(name) for name in data.get("guesses", [])],
                "presumed": data.get("guesses", []) == ["tools"],
                "heat_c": {"oven_c": None, "level": "", **(data.get("heat") or {})},
                "end": {"core_c": None, "cue": "", **(data.get("end") or {})},
                "cautions": [],
            }
        )
        if data["do"] == "heat":
            cooked |= {part for name in foods for part in process.ingredients_of(name)}
    return rows


def _with_steps(context: RecipeContext, row: Unplaced) -> dict[str, Any]:
    """A food whose way is not known, with the steps it may go into, numbered as they are shown."""
    named = [
        (i, data) for i, data in enumerate(context.recipe.process["steps"], start=1) if str(data["id"]) in row.steps
    ]
    steps = [(str(data["id"]), i, data.get("title") or phrases.verb(data["do"])) for i, data in named]
    return {"food": row.food, "raw": row.raw, "step": row.step, "steps": steps}


def steps_page(context: RecipeContext) -> dict[str, Any]:
    """The step editor."""
    last = context.recipe.edits.first()
    process = context.process
    looked = analyse(process, context.house)
    return {
        **context.base("steps"),
        "steps": step_rows(context),
        "verbs": sorted((name, phrases.verb(name)) for name in VERBS),
        "foods": sorted(process.food_ids),
        "tools": sorted(process.tools),
        "undo": wording.edit_done(last.what) if last else "",
        "findings": [finding_row(finding) for finding in looked.findings],
        "practice": [finding_row(finding) for finding in looked.practice],
        "version": steps_version(context.recipe),
        "unknown": [food.id for food in process.foods.values() if "unknown" in food.soils],
        "serve": ", ".join(process.serve),
        "unplaced": [_with_steps(context, row) for row in unplaced(context.recipe.process, process)],
        "loose": [_with_steps(context, row) for row in loose_ends(process)],
        "eaten_offers": () if process.serve else eaten_offers(process),
        "taken_clean": sorted(f.id for f in process.foods.values() if f.kind and f.kind.soils - f.soils),
        "guessed": sum(1 for step in context.recipe.process["steps"] if set(step.get("guesses", [])) - {"tools"}),
        "unread": unread_rows(context.recipe.process),
        "asides": unread_rows(context.recipe.process, "aside"),
    }

"""How each step of a recipe is drawn and named, and each finding about them."""

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from django.utils.translation import gettext as _

from bulwark.presentation import phrases
from bulwark.recipes import wording
from bulwark.recipes.pages.context import RecipeContext
from foodsafety.contamination import Finding, presumed_contact
from foodsafety.foods import is_raw
from foodsafety.recipes import PERSON, Process, accepted, doubts_of, finding_key, finding_name


def finding_row(finding: Finding) -> dict[str, Any]:
    """A finding of the process in words."""
    return {
        "finding": finding,
        "soil": wording.hazard(finding.soil),
        "path": " → ".join(_("hands") if stop == PERSON else stop for stop in finding.path),
        "title": phrases.capital(wording.finding(finding.rule, finding.food, finding.soil)),
    }


def breach_rows(findings: Sequence[Finding], data: Mapping[str, Any], process: Process) -> list[dict[str, Any]]:
    """The findings of a process (``data`` in its plain form) with what somebody said of each, those that nobody
    answered for first, and what of each was only presumed."""
    answers, steps = accepted(data), {str(step["id"]): step for step in data["steps"]}
    rows = [{**finding_row(row), "step": row.step, "answer": answers.get(finding_key(row))} for row in findings]
    for row in rows:
        row["key"] = finding_name(row["finding"])
        row["answered"] = wording.answered(row["answer"])
        contact = presumed_contact(process, steps, row["finding"])
        row["presumed"] = wording.presumed(contact) if contact else None
    return sorted(rows, key=lambda row: row["answer"] is not None)


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


def _chips(data: Mapping[str, Any], process: Process, raw: frozenset[str]) -> dict[str, Any]:
    """The foods, kit and hands of a step as they are shown on it: what is raw, what was presumed."""
    foods = [(name, bool(raw & process.ingredients_of(name))) for name in data.get("foods", [])]
    presumed = "tools" in data.get("guesses", [])
    soiled = any(is_raw for _name, is_raw in foods)
    return {
        "foods": foods,
        "tools": [(name, presumed) for name in data.get("tools", [])],
        "hands": bool(data.get("hands")) and data["do"] not in ("wash_hands", "gloves_on", "gloves_off"),
        "soiled": soiled,
        "makes": data.get("makes") or "",
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
                "chips": _chips(data, process, live),
                "guesses": [wording.guess(name) for name in doubts_of(data)],
                "heat_c": {"oven_c": None, "level": "", **(data.get("heat") or {})},
                "end": {"core_c": None, "cue": "", **(data.get("end") or {})},
                "cautions": [],
            }
        )
        if data["do"] == "heat":
            cooked |= {part for name in foods for part in process.ingredients_of(name)}
    return rows

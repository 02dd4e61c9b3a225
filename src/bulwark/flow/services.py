"""Changes that the flow map makes to a recipe's steps."""

from collections.abc import Mapping
from typing import Any

from bulwark.flow import adapters
from bulwark.flow.selectors import FlowQuery, Sheet, chosen_repair, portion_run, smallest_way
from bulwark.flow.wording import new_step_title
from bulwark.people.actors import Actor
from bulwark.recipes import services as recipes
from bulwark.recipes.selectors import Recipe
from foodsafety.contamination import flow_of
from foodsafety.ordering import WashPlan
from foodsafety.quantities import CoreError
from foodsafety.recipes import process_from, rinse_first


def use_way(*, sheet: Sheet, kind: str, plan: WashPlan | None = None) -> None:
    """Puts a way to mend in place of the recipe's steps: the best order (or the ``plan`` that a
    long look found), a mend by its kind, or ("tried") the order somebody tried out. Raises
    CoreError where it no longer applies."""
    process = sheet.data if kind == "tried" else adapters.to_plain(sheet.data, chosen_repair(sheet, kind, plan).process)
    recipes.replace_steps(
        recipe=sheet.recipe, before=sheet.recipe.process, process=process, what=f"flow-{kind}", by=sheet.actor
    )


def put_right(*, recipe: Recipe, actor: Actor) -> None:
    """The smallest change that clears what is found: produce is rinsed before it is used, then the first way
    that leaves nothing; where there is none, the produce is rinsed all the same. Raises CoreError where
    nothing can be done."""
    sheet = Sheet(recipe, actor, FlowQuery())
    data = rinsed = _produce_rinsed(sheet)
    process = process_from(rinsed)
    if flow_of(process, sheet.house).analysis.findings:
        way = smallest_way(process, sheet.house, scrub_s=sheet.scrub_s)
        data = adapters.to_plain(rinsed, way.process) if way else rinsed
    if data == sheet.data:
        raise CoreError("way", "way_gone")
    recipes.replace_steps(recipe=recipe, before=recipe.process, process=data, what="flow-first", by=actor)


def _produce_rinsed(sheet: Sheet) -> Mapping[str, Any]:
    data = sheet.data
    unrinsed = (row.path[0] for row in sheet.findings() if row.rule == "produce-not-rinsed" and row.path)
    for food in dict.fromkeys(unrinsed):
        if food in data["foods"]:
            data = rinse_first(data, food, new_step_title("rinse", [food]))
    return data


def use_allergen_run(*, sheet: Sheet, portion: str, allergen: str) -> None:
    """Puts the steps that keep one portion free of an allergen in place, and has it watched from
    then on. Raises CoreError where it cannot be done with these tools."""
    found = portion_run(sheet, portion, allergen)
    if found.repair is None:
        raise CoreError("allergen", "cannot_be_kept_free", food=portion, allergen=allergen)
    process = adapters.to_plain(sheet.data, found.repair.process)
    watched = {name: list(tags) for name, tags in (process.get("free_of") or {}).items()}
    watched[portion] = sorted({*watched.get(portion, []), allergen})
    process["free_of"] = watched
    recipes.replace_steps(
        recipe=sheet.recipe, before=sheet.recipe.process, process=process, what="flow-allergen", by=sheet.actor
    )

"""Changes that the flow map makes to a recipe's steps."""

from bulwark.flow import adapters
from bulwark.flow.selectors import Sheet, chosen_repair, portion_run
from bulwark.recipes import services as recipes
from foodsafety.ordering import WashPlan
from foodsafety.quantities import CoreError


def use_way(*, sheet: Sheet, kind: str, plan: WashPlan | None = None) -> None:
    """Puts a way to mend in place of the recipe's steps: the best order (or the ``plan`` that a
    long look found), a mend by its kind, or ("tried") the order somebody tried out. Raises
    CoreError where it no longer applies."""
    process = sheet.data if kind == "tried" else adapters.to_plain(sheet.data, chosen_repair(sheet, kind, plan).process)
    recipes.replace_steps(recipe=sheet.recipe, before=sheet.recipe.process, process=process, what=f"flow-{kind}")


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
    recipes.replace_steps(recipe=sheet.recipe, before=sheet.recipe.process, process=process, what="flow-allergen")

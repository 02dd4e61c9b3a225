"""Changes that the flow map makes to a recipe's steps."""

from bulwark.flow import adapters
from bulwark.flow.pages import Sheet, chosen_mend
from bulwark.recipes import services as recipes


def use_way(*, sheet: Sheet, kind: str) -> None:
    """Puts a way to mend in place of the recipe's steps: the best order, a mend by its kind, or
    ("tried") the order somebody tried out. Raises CoreError where it no longer applies."""
    process = sheet.data if kind == "tried" else adapters.to_plain(sheet.data, chosen_mend(sheet, kind).process)
    recipes.replace_steps(recipe=sheet.recipe, before=sheet.recipe.process, process=process, what=f"flow-{kind}")

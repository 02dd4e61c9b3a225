"""What the recipe pages show, put together from the core's answers and wording: one module a page."""

from bulwark.recipes.pages.amounts import amounts_page, thickness
from bulwark.recipes.pages.bring import bring_page, changes_page, checked_process, waiting_row
from bulwark.recipes.pages.context import RecipeContext
from bulwark.recipes.pages.cost import cost_page
from bulwark.recipes.pages.eaters import difference, eaters_page
from bulwark.recipes.pages.edits import meanwhile
from bulwark.recipes.pages.read import read_page
from bulwark.recipes.pages.reading import reading_page
from bulwark.recipes.pages.steps import finding_row, step_rows
from bulwark.recipes.pages.variants import variants_page
from bulwark.recipes.pages.write import write_page

__all__ = [
    "RecipeContext",
    "amounts_page",
    "bring_page",
    "changes_page",
    "checked_process",
    "cost_page",
    "difference",
    "eaters_page",
    "finding_row",
    "meanwhile",
    "read_page",
    "reading_page",
    "step_rows",
    "thickness",
    "variants_page",
    "waiting_row",
    "write_page",
]

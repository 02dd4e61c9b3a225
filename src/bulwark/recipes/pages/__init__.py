"""What the recipe pages show, put together from the core's answers and wording: one module a page."""

from bulwark.recipes.pages.amounts import amounts_page, thickness
from bulwark.recipes.pages.bring import bring_page, checked_process
from bulwark.recipes.pages.context import RecipeContext
from bulwark.recipes.pages.cost import cost_page
from bulwark.recipes.pages.eaters import difference, eaters_page
from bulwark.recipes.pages.lines import all_allergens, line_row, lines_page
from bulwark.recipes.pages.read import read_page
from bulwark.recipes.pages.steps import finding_row, step_rows, steps_page
from bulwark.recipes.pages.variants import variants_page
from bulwark.recipes.pages.write import write_page

__all__ = [
    "RecipeContext",
    "all_allergens",
    "amounts_page",
    "bring_page",
    "checked_process",
    "cost_page",
    "difference",
    "eaters_page",
    "finding_row",
    "line_row",
    "lines_page",
    "read_page",
    "step_rows",
    "steps_page",
    "thickness",
    "variants_page",
    "write_page",
]

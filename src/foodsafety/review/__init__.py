"""A recipe looked over before a lesson: what is needed, cautions, who must not eat it, what it costs."""

from foodsafety.review.cautions import Caution, caution_rules, find_cautions
from foodsafety.review.costs import PRICE_UNITS, Price, PriceUnit, RecipeCost, bulk_saving, cost_of_part, recipe_cost
from foodsafety.review.eaters import EatersJudged, NotFor, eater_groups, judge_eaters, not_for
from foodsafety.review.read_through import HEAT_SOURCES, KitNeed, RecipeReview, review_recipe
from foodsafety.review.shopping import ShoppingList, ToBuy, shop_sections, shopping_list

__all__ = [
    "HEAT_SOURCES",
    "PRICE_UNITS",
    "Caution",
    "EatersJudged",
    "KitNeed",
    "NotFor",
    "Price",
    "PriceUnit",
    "RecipeCost",
    "RecipeReview",
    "ShoppingList",
    "ToBuy",
    "bulk_saving",
    "caution_rules",
    "cost_of_part",
    "eater_groups",
    "find_cautions",
    "judge_eaters",
    "not_for",
    "recipe_cost",
    "review_recipe",
    "shop_sections",
    "shopping_list",
]

"""What there is in a kitchen: kinds of food, what can contaminate, what it rides on, and how it is measured out."""

from foodsafety.foods.allergens import AllergenSet, allergen_sets, allergen_tag, allergens_for
from foodsafety.foods.carriers import (
    carrier_kinds,
    cloth_kinds,
    heated_tool_kinds,
    raw_stands_at_most_s,
    shelf_kinds,
    shelves_below,
    soil_brought_by,
    splashed_kinds,
    tool_effort_s,
    wash_cost,
)
from foodsafety.foods.hazards import is_raw, raw_of_animals, soil, soil_tag, soils
from foodsafety.foods.kinds import (
    Composition,
    FoodKind,
    FoodMatch,
    food_kind,
    food_kinds,
    like_a_food,
    match_food,
    word_consonants,
)
from foodsafety.foods.units import LOCALES, Locale, convert_amount, kitchen_units, locale_from, unit_g, unit_ml
from foodsafety.foods.words import plain_id, stem, stem_words

__all__ = [
    "LOCALES",
    "AllergenSet",
    "Composition",
    "FoodKind",
    "FoodMatch",
    "Locale",
    "allergen_sets",
    "allergen_tag",
    "allergens_for",
    "carrier_kinds",
    "cloth_kinds",
    "convert_amount",
    "food_kind",
    "food_kinds",
    "heated_tool_kinds",
    "is_raw",
    "kitchen_units",
    "like_a_food",
    "locale_from",
    "match_food",
    "plain_id",
    "raw_of_animals",
    "raw_stands_at_most_s",
    "shelf_kinds",
    "shelves_below",
    "soil",
    "soil_brought_by",
    "soil_tag",
    "soils",
    "splashed_kinds",
    "stem",
    "stem_words",
    "tool_effort_s",
    "unit_g",
    "unit_ml",
    "wash_cost",
    "word_consonants",
]

"""What a dish is kept as comes from what it is made of."""

import pytest

from foodsafety.foods import food_kind
from foodsafety.shelf import dish_categories, storage_category_ids


@pytest.mark.parametrize(
    ("kinds", "cooked", "category"),
    [
        ("lettuce|olive oil", False, "dressed_leafy_salad"), ("mayonnaise|egg", True, "egg_mayonnaise"),
        ("egg|milk|sugar", True, "baked_custard"), ("pastry|cream", True, "cream_pastry"),
        ("oats|peanut butter|honey", False, "oat_bites"), ("chicken|chicken stock", True, "soup_stew"),
        ("rice|peas", True, "cooked_rice"), ("egg|cream", False, "raw_whites_or_yolks"),
        ("chicken", True, "cooked_dish"),
    ],
)  # fmt: skip
def test_a_dish_falls_under_its_row(kinds: str, cooked: bool, category: str) -> None:
    assert category in dish_categories([food_kind(name) for name in kinds.split("|")], cooked=cooked)


def test_raw_rows_are_not_for_cooked_dishes_nor_shell_life_for_broken_eggs() -> None:
    cooked = dish_categories([food_kind("chicken"), food_kind("egg")], cooked=True)
    assert not any(name.startswith("raw_") or name == "eggs_in_shell" for name in cooked)
    assert "eggs_in_shell" not in dish_categories([food_kind("egg"), food_kind("cream")], cooked=False)


def test_an_unknown_part_makes_it_an_unknown_dish_besides() -> None:
    assert "cooked_dish" in dish_categories([food_kind("yoghurt"), None], cooked=False)
    assert dish_categories([], cooked=False) == ("cooked_dish",)


def test_every_category_of_a_dish_exists() -> None:
    assert set(dish_categories([food_kind("rice")], cooked=True)) <= set(storage_category_ids())

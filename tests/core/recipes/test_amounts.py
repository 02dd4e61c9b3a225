"""Amounts as people write them: one row, one fact."""

import pytest

from foodsafety.recipes import read_ingredient


@pytest.mark.parametrize(
    ("line", "low", "high", "unit"),
    [
        ("2 eggs", 2, 2, None),
        ("2-3 eggs", 2, 3, None),
        ("2 to 3 eggs", 2, 3, None),
        ("two or three eggs", 2, 3, None),
        ("½ cup milk", 0.5, 0.5, "cup"),
        ("1½ cups milk", 1.5, 1.5, "cup"),
        ("1 1/2 cups milk", 1.5, 1.5, "cup"),
        ("1-1/2 cups milk", 1.5, 1.5, "cup"),
        ("1 and 1/2 cups milk", 1.5, 1.5, "cup"),
        ("1,5 l milk", 1.5, 1.5, "l"),
        ("1,500 ml milk", 1500, 1500, "ml"),
        (".5 l milk", 0.5, 0.5, "l"),
        ("half a litre milk", 0.5, 0.5, "l"),
        ("a pint of milk", 1, 1, "pint"),
        ("about 200 g flour", 200, 200, "g"),
        ("200g flour", 200, 200, "g"),
        ("200 grams flour", 200, 200, "g"),
        ("1 T. oil", 1, 1, "tbsp"),
        ("1 t. oil", 1, 1, "tsp"),
        ("1 Tbsp. oil", 1, 1, "tbsp"),
        ("2 tablespoonfuls oil", 2, 2, None),
        ("3 fl. oz. cream", 3, 3, "fl_oz"),
        ("3 fluid ounces cream", 3, 3, "fl_oz"),
        ("1 qt stock", 1, 1, "quart"),
        ("8 oz. butter", 8, 8, "oz"),
        ("2lb 8oz potatoes", 2.5, 2.5, "lb"),
        ("a handful of mint", 1, 1, "handful"),
        ("a pinch salt", 1, 1, "pinch"),
        ("a few sprigs of mint", None, None, "sprig"),
        ("salt", None, None, None),
        ("oil, for frying", None, None, None),
        ("half a dozen eggs", 6, 6, None),
        ("2 dozen eggs", 24, 24, None),
    ],
)
def test_amounts_as_people_write_them(line: str, low: float | None, high: float | None, unit: str | None) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.low, item.high) == (low, high)
    assert unit is None or item.unit == unit


@pytest.mark.parametrize(
    ("line", "amount", "unit"),
    [
        ("2 x 400 g tins tomatoes", 400, "g"),
        ("1 (14.5 oz) can tomatoes", 14.5, "oz"),
        ("400g tin tomatoes", 400, "g"),
        ("2 (6-ounce) salmon fillets", 6, "oz"),
        ("1 can (540 mL) chickpeas", 540, "ml"),
        ("1 8-ounce package cream cheese", 8, "oz"),
        ("1 x 1.5 kg whole chicken", 1.5, "kg"),
        ("2 tins tomatoes", None, None),
    ],
)
def test_the_size_of_one_is_kept(line: str, amount: float | None, unit: str | None) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.each_amount, item.each_unit) == (amount, unit)


@pytest.mark.parametrize(
    ("line", "food", "alternatives"),
    [
        ("2 tbsp butter or oil", "butter", ("oil",)),
        ("1 onion or 2 shallots", "onion", ("2 shallots",)),
        ("1 l beef or chicken stock", "beef stock", ("chicken stock",)),
        ("1 cup sugar, or to taste", "sugar", ()),
    ],
)
def test_alternatives_are_kept_beside_the_first(line: str, food: str, alternatives: tuple[str, ...]) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.food, item.alternatives) == (food, alternatives)

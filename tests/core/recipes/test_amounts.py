"""Amounts as people write them: one row, one fact."""

import pytest

from foodsafety.recipes import foods_named, read_ingredient


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


@pytest.mark.parametrize(
    ("line", "low", "unit", "food"),
    [
        ("Pecorino, 1/2 lb, grated", 0.5, "lb", "Pecorino"),
        ("leeks, two of them, sliced", 2, None, "leeks"),
        ("two parsnips, no, three", 3, None, "parsnips"),
        ("four tablespoons of plain yoghurt, no sorry, it's two", 2, "tbsp", "plain yoghurt"),
        ("100 grams of butter, make that 150 grams", 150, "g", "butter"),
        ("half a cup of milk, sorry, one cup", 1, "cup", "milk"),
        ("a rump steak, 2 pounds give or take", 2, "lb", "rump steak"),
        ("A leg of lamb, boned, weighing about 1.8 kg", 1.8, "kg", "leg of lamb"),
        ("the pancetta, it's about a hundred and twenty grams of smoked", 120, "g", "pancetta"),
        ("300g punnet strawberries", 300, "g", "strawberries"),
        ("2 tins tomatoes, no salt", 2, "tin", "tomatoes"),
        ("a 400g tin of tomatoes", 1, "tin", "tomatoes"),
    ],
)
def test_an_amount_that_is_said_after_the_food_or_taken_back(
    line: str, low: float, unit: str | None, food: str
) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.low, item.high, item.unit, item.food) == (low, low, unit, food)
    assert item.kind


def test_in_running_words_too_an_amount_is_the_one_that_was_meant() -> None:
    told = (
        "Start with the pancetta, it's about a hundred and twenty grams of smoked, then two carrots, no, three, "
        "and your leeks, two of them, and eight slices of white bread."
    )
    read = [read_ingredient(line, "en-GB") for line in foods_named(told, "en-GB")]

    assert [(item.food, item.low, item.unit) for item in read] == [
        ("pancetta", 120, "g"),
        ("carrots", 3, None),
        ("leeks", 2, None),
        ("white bread", 8, "slice"),
    ]

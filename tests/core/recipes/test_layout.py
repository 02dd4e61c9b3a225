"""What each row of a pasted text is, in layouts that people use."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.recipes import read_document
from foodsafety.recipes.layout import layout, serves_in


def parts(text: str) -> list[tuple[str, str]]:
    return [(row.part, row.text.strip()) for row in layout(text.splitlines()) if row.part != "blank"]


CARD = """CAUSEWAY COD -- feeds 12

cod fillets    2 kg
leeks    6 large
oats    1 cup
salt    2 tsp

1. Wash hands. Slice the leeks.
2. Cod on top, oats over, bake 25 min.
"""
SHEET = """Sheet 3: crab cakes
You will need:
2 mixing bowls
300 g cooked crab
whisk
1 egg
measuring jug

Jobs
Step 1 - Both wash hands.
Step 2 - Cook 1: Beat the egg.
"""
PARTS = """Tern's pie

For the filling
500 g lamb mince
2 onions

Bread, 2 loaves
400 g flour
1 tsp salt

What you do
Brown the mince.

TO FINISH
Slice the bread.
"""
BROKEN = """Leek soup for a gale

• 2 tbsp wholegrain
mustard
• 3 leeks

METHOD
Slice the leeks and cook them in a large pan with the
mustard until soft.
"""


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        (CARD, ["title", *["ingredient"] * 4, "instruction", "instruction"]),
        (
            SHEET,
            [
                "title",
                "heading",
                "kit",
                "ingredient",
                "kit",
                "ingredient",
                "kit",
                "heading",
                "instruction",
                "instruction",
            ],
        ),
        (
            PARTS,
            [
                "title",
                "heading",
                *["ingredient"] * 2,
                "heading",
                *["ingredient"] * 2,
                "heading",
                "instruction",
                "heading",
                "instruction",
            ],
        ),
        (BROKEN, ["title", "ingredient", "ingredient", "heading", "instruction"]),
        ("Toast\n1 tbsp moonrock\nServe the moonrock.", ["title", "ingredient", "instruction"]),
        (
            "Cod\n4 cod fillets\n2 leeks\n400g tin moonrock\n\n"
            "Fry the cod on medium till browned\nwet hands stop it sticking\n"
            "Serve the cod on a warm plate with whatever else there is.",
            ["title", *["ingredient"] * 3, *["instruction"] * 3],
        ),
        (
            "so the oat buns you wanted\n\n2 cups oats\n1 egg\nsalt n pepper\n\nmix it all up",
            ["title", *["ingredient"] * 3, "instruction"],
        ),
        (
            "Save | Print | Jump to recipe\nKelp salad\nIngredients\n1 lime\nMethod\nSlice it.",
            ["note", "title", "heading", "ingredient", "heading", "instruction"],
        ),
        (
            "Fish\nIngredients\n1 cod\nwibble the crust\nMethod\nBake it.",
            ["title", "heading", "ingredient", "ingredient", "heading", "instruction"],
        ),
        (
            "Fish\n1 cod fillet\n2 leeks\n\nFry the cod.\n\nTip: dry it first.\n\nLEFTOVERS\nTwo days.",
            ["title", *["ingredient"] * 2, "instruction", "note", "heading", "note"],
        ),
    ],
)
def test_rows_are_told_apart(text: str, expected: list[str]) -> None:
    assert [part for part, _ in parts(text)] == expected


def test_ingredients_know_the_part_of_the_dish_they_are_listed_for() -> None:
    rows = {row.text: row.component for row in layout(PARTS.splitlines()) if row.part == "ingredient"}
    assert rows == {"500 g lamb mince": "filling", "2 onions": "filling", "400 g flour": "bread", "1 tsp salt": "bread"}
    assert read_document(PARTS).ingredients[0] == "For the filling:"


def test_a_broken_line_is_put_together_again() -> None:
    assert parts(BROKEN)[1] == ("ingredient", "• 2 tbsp wholegrain mustard")
    assert read_document(BROKEN).instructions == (
        "Slice the leeks and cook them in a large pan with the mustard until soft.",
    )


def test_a_labelled_line_of_foods_is_a_part_of_its_own() -> None:
    text = "Lamb curry\nlamb 1 kg\nonions 2\nraita: 1 cup plain yogurt, 1/2 cucumber, salt\n\nFry the lamb."
    assert read_document(text).ingredients == (
        "lamb 1 kg", "onions 2", "raita:", "1 cup plain yogurt", "1/2 cucumber", "salt",
    )  # fmt: skip


def test_what_stands_under_a_parts_own_list_is_said_to_be_for_it() -> None:
    text = (
        "Tide trifle\n\nLAYER ONE: the base\n200 g sponge fingers\n2 tbsp sherry\n\nLay the fingers in a bowl.\n\n"
        "LAYER TWO: the cream\n300 ml cream\n1 tbsp sugar\n\nWhip the cream."
    )
    assert read_document(text).instructions[:2] == ("For the base:", "Lay the fingers in a bowl.")


@pytest.mark.parametrize(
    ("text", "serves"),
    [
        ("serves 6 hungry people", 6),
        ("Makes two", 2),
        ("24 servings", 24),
        ("feeds 5 or so", 5),
        ("in 20 minutes", None),
    ],
)
def test_how_many_it_feeds(text: str, serves: int | None) -> None:
    assert serves_in(text) == serves


@given(st.lists(st.text(alphabet="abc 12:.-\n#*gml", max_size=30), max_size=12))
def test_every_row_is_something_and_none_is_lost(rows: list[str]) -> None:
    text = "\n".join(rows)
    found = layout(text.splitlines())
    assert "".join("".join(row.text.split()) for row in found) == "".join(text.split())


@pytest.mark.parametrize("row", ["salt, pepper", "salt + pepper", "oil, salt", "Garlic, 6 cloves", "black pepper"])
def test_a_row_of_seasoning_breaks_no_list_and_heads_none(row: str) -> None:
    for rows in (["200 g rice", row, "8 green peppers"], [row, "200 g rice", "8 green peppers"]):
        text = "Supper\n\n" + "\n".join(rows) + "\n\nMethod\nPut everything in a pan and cook it."
        assert [said for part, said in parts(text) if part == "ingredient"] == rows


def test_a_food_with_its_amount_is_no_rest_of_a_long_row_above() -> None:
    rows = ["300 g mature Cheddar, grated", "ground turkey 6 lb", "juice of 1 lime", "1 tsp salt"]
    text = "Supper\n\n" + "\n".join(rows) + "\n\nMethod\nFry the turkey with the lime and scatter the cheese over."

    assert [said for part, said in parts(text) if part == "ingredient"] == rows

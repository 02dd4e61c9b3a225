"""Rows that are only a name, and short orders: no food is lost to a heading, to kit or to a verb."""

import pytest

from foodsafety.recipes import read_recipe
from foodsafety.recipes.layout import layout
from tests.core.recipes.test_rows_without_stops import work

ABOVE, BELOW = ["Supper", "", "500 g rice noodles", "2 limes"], ["", "Method", "Juice the limes and mix."]


@pytest.mark.parametrize("capital", [False, True])
@pytest.mark.parametrize(
    "name",
    """fish sauce;fish sauce (nam pla);bread;lard;barbecue sauce;stir-fry chicken;roast potatoes;brown shrimps;pike
    rack of lamb;leftover turkey;bread for mopping;milk to thin;coleslaw;raita;cockerel;snails;falafel;ponzu""".replace(
        "\n    ", ";"
    ).split(";"),
)
def test_a_name_alone_in_a_list_is_an_ingredient_and_so_is_what_stands_under_it(name: str, capital: bool) -> None:
    name = name.capitalize() if capital else name
    mint = "Mint" if capital else "mint"
    for rows in ([name, mint], [mint, name]):
        assert [row.part for row in layout([*ABOVE, *rows, *BELOW])][4:6] == ["ingredient", "ingredient"]


def test_a_part_of_the_dish_is_a_heading_still() -> None:
    rows = layout([*ABOVE, "Dressing", "2 tbsp oil", "1 lemon", "", "slaw", "1 cabbage", "2 carrots", *BELOW])
    assert [row.part for row in rows if row.text in ("Dressing", "slaw")] == ["heading", "heading"]
    assert [row.part for row in layout(["Soup", "", "1 leek", "2 potatoes", "Fry the leek", "Add the potatoes"])][
        2:
    ] == [
        *["ingredient"] * 2,
        *["instruction"] * 2,
    ]


@pytest.mark.parametrize(
    "said",
    """Go and scrub up.|Get scrubbed up before the salad.|Gloves off, wash.|Hands, board, knife. Properly.|Hands please!
    Hands first, then the lettuce.|Wash to the wrists.|Wash those paws.|Those hands need a wash.|Now go and wash.
    Make sure everyone washes their hands.|Make sure hands are washed.|Don't forget your hands.|And hands.
    Twenty seconds at the sink with soap.|Raw meat done so it's hands, knife, board.|Remember hands.
    Lather up for 20 seconds.""".replace("\n    ", "|").split("|"),
)
def test_hands_are_washed_whatever_it_is_called_and_the_chicken_is_not(said: str) -> None:
    found = [do for do, _ in work(f"Chop the chicken.\n{said}\nServe the lettuce.")]
    assert "wash_hands" in found
    assert "rinse" not in found


@pytest.mark.parametrize(
    "said", ["Sanitise hands with gel.", "Clean your hands with a wet wipe.", "Wash your hands with sanitiser."]
)
def test_gel_and_a_wipe_are_no_wash(said: str) -> None:
    assert "wash_hands" not in [do for do, _ in work(f"Chop the chicken.\n{said}\nServe the lettuce.")]


def test_a_place_and_a_time_before_the_order_are_an_order_of_their_own() -> None:
    rows = work("chicken under the grill 12 min, slice it up\nrice in boiling water 10 min, drain")
    assert rows[:2] == [("heat", ["chicken breast"]), ("cut", ["chicken breast"])]
    assert [do for do, _ in rows[2:4]] == ["heat", "pour"]


def test_everything_that_leaves_the_pan_is_what_lies_in_it() -> None:
    found = read_recipe(
        "Pate\n\n500 g chicken livers\n2 shallots\n1 baguette\n\nMethod\nFry the shallots and the livers for 8 minutes."
        "\nTip everything into a blender and blitz.\nServe with the baguette.\n",
        "en-GB",
    )
    moved = next(row for row in found.data["steps"] if row["do"] == "transfer")
    assert moved["foods"] == ["cooked chicken livers"]


def test_what_is_weighed_out_is_in_the_bowl() -> None:
    assert work("Weigh out the flour. Stir in the stock.")[1][1] == ["flour", "stock"]
    assert [do for do, _ in work("Chop the chicken. Check the oven is at 200.")] == ["cut", "serve"]

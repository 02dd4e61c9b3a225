"""What only whole pages showed: what a sentence does to those around it; kit, times and rests said in passing."""

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.recipes import process_from
from foodsafety.recipes.food_rows import several_foods
from tests.core.recipes.read import done, reading, step

HASH = ("8 chicken thighs", "1 lettuce", "1 cucumber", "2 onions", "1 tin of beans")


def found_in(method: str, *lines: str) -> set[str]:
    return {row.rule for row in find_contamination(process_from(reading(method, *lines).data))}


@pytest.mark.parametrize(
    "said", ["Chop the onions. (4 min)", "Chop the onions (4 min).", "Wipe the counters. (10 min)"]
)
def test_minutes_that_a_sheet_allows_for_work_heat_nothing(said: str) -> None:
    works = [do for do, _ in done(reading(f"Cut the chicken. {said}", *HASH))]

    assert "heat" not in works
    assert "part_cook" not in works


def test_minutes_in_brackets_behind_a_cook_are_its_time() -> None:
    cook = step(reading("Fry the chicken. (12 min)", *HASH), "heat")

    assert (cook["foods"], cook["low_min"]) == (["chicken thighs"], 12.0)


def test_both_are_the_two_that_were_just_rinsed_and_not_the_meat_before() -> None:
    read = reading(
        "Roast the chicken for an hour. Give the lettuce and cucumber a rinse and cut both into strips.", *HASH
    )

    assert ("cut", ["lettuce", "cucumber"]) in done(read)


def test_a_roux_cooks_where_it_is_and_not_into_the_fish_that_waits() -> None:
    fish = ("400 g coley", "300 ml milk", "50 g butter", "25 g flour", "500 g potatoes", "100 g peas")
    read = reading(
        "Cut the coley and put it in the dish. Melt half the butter in a small pan, stir in the flour and cook for 1 "
        "minute. Whisk in the milk and simmer for 5 minutes. Boil the potatoes for 15 minutes, drain and mash with "
        "the rest of the butter. Scatter the peas over the fish and pour the sauce on top.",
        *fish,
    )

    assert not any("coley" in foods for do, foods in done(read) if do in ("heat", "part_cook"))
    assert ("garnish", ["peas", "coley"]) in done(read)
    assert ("pour", ["peas mixture", "sauce"]) in done(read)


@pytest.mark.parametrize("to", ["Add to the pots with the stock.", "Tip the beans into the pots."])
def test_the_pots_are_those_that_are_on(to: str) -> None:
    read = reading(f"Fry the onions in a pot for 10 minutes. Rinse the beans. {to}", *HASH, "1 litre of stock")

    assert {"onions", "beans"} <= set(read.data["steps"][-2 if done(read)[-1][0] == "serve" else -1]["foods"])


@pytest.mark.parametrize("board", ["salad board", "veg board", "bread board", "produce board"])
def test_a_board_for_what_is_eaten_as_it_is_is_another_unless_the_meat_was_on_it(board: str) -> None:
    end = f"Wash your hands. Slice the cucumber on the {board} with a clean knife. Fry the chicken to 75C. Serve."

    assert "ready-to-eat-meets-raw" not in found_in(f"Rinse the cucumber. Cut the chicken on the board. {end}", *HASH)
    assert "ready-to-eat-meets-raw" in found_in(f"Rinse the cucumber. Cut the chicken on the {board}. {end}", *HASH)


@pytest.mark.parametrize("tools", ["two forks", "a knife", "forks"])
def test_a_clean_board_is_where_and_not_what_is_cleaned(tools: str) -> None:
    read = reading(f"Fry the chicken for 15 minutes. Shred it with {tools} on a clean board.", *HASH)

    assert ("cut", ["chicken thighs"]) in done(read)
    assert "clean" not in [do for do, _ in done(read)]


@pytest.mark.parametrize("held", ["Keep hot above 63 until service.", "Hold at 140F or above.", "Keep it over 63C."])
def test_what_is_held_hot_goes_on_hot_and_is_never_cooked_by_it(held: str) -> None:
    cooked = reading(f"Fry the chicken for 15 minutes to 75C. {held}", *HASH)

    assert ("part_cook", ["chicken thighs"]) in done(cooked)
    assert step(cooked, "heat")["end"]["core_c"] == 75
    assert "no-kill-step" in found_in(f"Brown the chicken for 1 minute. {held} Serve.", *HASH)


@pytest.mark.parametrize(
    "rest",
    [
        "Spoon what is left of the yoghurt over.",
        "Serve with what is left of the yoghurt.",
        "Pour over the rest of the yoghurt.",
    ],
)
def test_what_is_left_of_what_raw_meat_lay_in_is_raw_still(rest: str) -> None:
    read = reading(
        f"Turn the thighs in the yoghurt. Wash your hands. Chill overnight. Roast at 220C until 75C. {rest} Serve.",
        "8 chicken thighs",
        "200 g yoghurt",
    )

    assert find_contamination(process_from(read.data)) or not read.may_confirm


def test_an_oven_for_four_minutes_cooks_no_fish_through_without_a_question() -> None:
    assert not reading("Bake the coley at 200C for 4 minutes. Serve.", "400 g coley").may_confirm
    assert reading("Bake the coley at 200C for 20 minutes. Serve.", "400 g coley").may_confirm


@pytest.mark.parametrize(
    ("row", "foods"),
    [
        ("parsley, lemon", ["parsley", "lemon"]),
        ("cooked white rice, sliced green onions", ["cooked white rice", "sliced green onions"]),
        ("stock, chicken", ["stock, chicken"]),
        ("beans, kidney", ["beans, kidney"]),
        ("butter, melted", ["butter, melted"]),
    ],
)
def test_two_foods_in_a_row_are_two_and_a_name_behind_its_food_is_one(row: str, foods: list[str]) -> None:
    assert several_foods(row) == foods


def test_a_part_is_headed_in_the_middle_of_a_list_and_its_foods_are_its_own() -> None:
    read = reading(
        "Mix the mince and egg. Halve the pastry sheets. Pipe the filling down the long side. Bake for 25 minutes.",
        "Filling",
        "500 g chicken mince",
        "1 egg",
        "Pastry",
        "4 sheets of puff pastry",
        "2 tsp sesame seeds",
    )
    filled = step(read, "transfer")

    assert "Pastry" in [row.text for row in read.sentences if row.taken == "heading"]
    assert any("pastry" in name for name in filled["foods"])
    assert "filling" in filled["foods"]


def test_a_row_that_goes_on_with_of_or_and_is_no_sentence_of_its_own() -> None:
    read = reading(
        "Toss the onions with 1 tbsp of the oil\nand half the beans.\nFry for 5 minutes.", *HASH, "3 tbsp oil"
    )

    assert not [row for row in read.sentences if row.taken == "unread"]
    assert "tin of beans" not in str(read.questions)


def test_what_was_set_down_rests_there_and_what_goes_into_the_pot_goes_without_it() -> None:
    read = reading(
        "Simmer the gammon in the pot for 50 minutes. Lift it onto a plate and leave for 10 minutes. Barley into the "
        "pot, 35 minutes.",
        "1 gammon joint",
        "200 g pearl barley",
    )

    assert ("mix", ["pearl barley"]) in done(read)
    assert step(read, "rest")["tools"] == []

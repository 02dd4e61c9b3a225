"""What a third lot of whole pages showed: foods that a row hides behind another, eggs that are not known to be firm,
orders swallowed by the one before, and what goes with what."""

import json

import pytest

from foodsafety import cli
from foodsafety.recipes import process_from
from foodsafety.recipes.ingredients import read_ingredient
from tests.core.recipes.read import done, reading, step

PASTA = "\n\nMethod\n\nBoil the pasta for 10 minutes. Serve."


def listed(row: str) -> dict[str, list[str]]:
    """The foods read from a text with this row and what each brings."""
    told = cli.run_read({"text": f"Supper\n\n{row}{PASTA}", "locale": "en-GB"})
    return {row["food"]: row["soils"] for row in json.loads(json.dumps(told))["ingredients"]}


@pytest.mark.parametrize(
    "row",
    [
        "Serves 4: 300g pasta, 500 g chicken, 2 eggs",
        "For 4 you need 300 g pasta, 500 g chicken and 2 eggs",
        "for 4 people u want 300g pasta, 500 g chicken, 2 eggs",
        "u need 300g pasta, 500 g chicken, 2 eggs",
        "Get 300 g pasta and 500 g chicken and 2 eggs",
        "What you need is 300 g pasta, 500 g chicken and 2 eggs",
        "300 g pasta - 500 g chicken - 2 eggs",
    ],
)
def test_no_raw_food_is_lost_behind_a_count_or_another_food(row: str) -> None:
    foods = listed(row)

    assert "raw_poultry" in foods["chicken"]
    assert "raw_egg" in foods["eggs"]


@pytest.mark.parametrize("row", ["Serves 4. Takes 20 minutes.", "Makes 2 loaves, 500 g each", "Serves 4, 20 min, 180C"])
def test_a_count_of_eaters_alone_lists_nothing(row: str) -> None:
    assert listed(row).keys() == {"pasta"}


def test_a_lime_and_a_tub_are_two_and_a_cup_and_spoons_of_one_food_are_one() -> None:
    rows = "300 g pasta, 4 tomatoes, 2 onions, 1 lime and a small tub of sour cream\n1 cup and 2 tbsp flour"

    assert {"lime", "sour cream", "flour"} <= listed(rows).keys()


@pytest.mark.parametrize(
    ("row", "hides"),
    [
        ("500 g chicken (plus 2 eggs)", True),
        ("chicken 500 g eggs 2 onion 1", True),
        ("some mince some onions some cheese", True),
        ("500 g beef mince (or pork)", False),
        ("500 g chicken thighs, skin on", False),
        ("4 fish fillets (cod, haddock)", False),
    ],
)
def test_a_row_that_names_a_second_raw_food_is_asked_about(row: str, hides: bool) -> None:
    assert ("raw-hidden" in read_ingredient(row, "en-GB").doubts) is hides


EGGS = ("4 eggs", "1 tbsp oil", "300 ml milk")


@pytest.mark.parametrize(
    ("method", "asked"),
    [
        ("Boil the eggs for 6 minutes. Peel.", True),
        ("Put the eggs in cold water, bring to the boil and time 7 minutes.", True),
        ("Poach the eggs for 3 minutes.", True),
        ("Heat the oil in a frying pan. Fry the eggs for 3 minutes.", True),
        ("Boil the eggs for 10 minutes.", False),
        ("Heat the oil in a frying pan. Fry the eggs for 3 minutes until the yolks are firm.", False),
        ("Beat the eggs with the milk and fry for 3 minutes until set.", False),
    ],
)
def test_whole_eggs_cooked_briefly_are_asked_about(method: str, asked: bool) -> None:
    told = reading(f"{method} Serve.", *EGGS).questions

    assert any(row.why == "which-heat" for row in told) is asked


@pytest.mark.parametrize("method", ["Soft-boil the eggs for 6 minutes.", "Boil the eggs so the yolks stay soft."])
def test_soft_eggs_are_not_cooked_through(method: str) -> None:
    assert ("part_cook", ["eggs"]) in done(reading(f"{method} Serve.", *EGGS))


CHICKEN = ("500 g chicken", "2 onions", "1 tbsp oil", "2 lemons", "1 mushroom", "1 pepper")


@pytest.mark.parametrize(
    ("method", "does"),
    [
        ("Throw away the marinade and wash your hands.", "wash_hands"),
        ("Discard the crumbs and wash the plates in hot soapy water.", "clean"),
        ("Chuck out the oil that is left and then scrub the bowl.", "clean"),
    ],
)
def test_throwing_away_ends_where_the_wash_begins(method: str, does: str) -> None:
    assert does in [do for do, _ in done(reading(f"Cut the chicken. {method}", *CHICKEN))]


def test_saving_washing_up_washes_nothing() -> None:
    read = reading("Cut the chicken and fry it in the same pan, it saves washing up.", *CHICKEN)

    assert "clean" not in [do for do, _ in done(read)]


def test_a_clean_spoon_to_taste_with_is_no_cleaning() -> None:
    assert "clean" not in [do for do, _ in done(reading("Fry the onions. I'm tasting it, clean spoon.", *CHICKEN))]


def test_the_marinade_does_not_go_on_the_skewers() -> None:
    read = reading(
        "Mix the chicken with the oil and the lemon juice and leave for 3 hours. Lift the chicken from the marinade, "
        "thread onto skewers. Grill for 12 minutes.",
        *CHICKEN,
    )

    assert step(read, "heat")["foods"] == ["marinated chicken"]


def test_what_was_not_boiled_is_boiled_by_nobody() -> None:
    read = reading("Of the marinade that has not been boiled not a spoonful may touch the chicken.", *CHICKEN)

    assert "heat" not in [do for do, _ in done(read)]


def test_work_in_what_is_left_in_the_pot_is_no_storage_advice() -> None:
    text = "brown a pound of turkey in a pot for 8 minutes. scoop it out. in what's left in the pot soften an onion."
    told = cli.run_read({"text": text, "locale": "en-US"})

    assert any("onion" in row["foods"] for row in told["steps"] if row["do"] == "heat")


def test_custard_poured_over_the_lot_joins_the_dish() -> None:
    read = reading(
        "Fry the onions for 8 minutes and spoon into a dish. Whisk the eggs and milk in a jug. Pour evenly over the "
        "lot. Bake for 50 minutes.",
        *EGGS,
        "2 onions",
    )

    baked = [foods for do, foods in done(read) if do == "heat"][-1]
    assert {"onions", "eggs"} <= process_from(read.data).ingredients_of(baked[0])


def test_what_is_tipped_into_a_bowl_is_all_that_is_worked_together() -> None:
    read = reading("Tip the chicken into a bowl with the oil. Season and work everything together.", *CHICKEN)

    assert not any("lemons" in foods or "onions" in foods for _, foods in done(read))


def test_both_are_wiped_and_washed_before_they_are_sliced() -> None:
    read = reading("Wipe the mushroom, wash the pepper, and slice them both.", *CHICKEN)

    assert ("cut", ["mushroom", "pepper"]) in done(read)


@pytest.mark.parametrize(
    ("row", "method", "asked"),
    [
        ("4 beef burgers", "Grill the burgers from frozen for 4 minutes each side.", True),
        ("4 frozen beef burgers", "Grill for 4 minutes.", True),
        ("4 frozen beef burgers", "Grill for 20 minutes.", False),
        ("4 frozen beef burgers", "Grill for 8 minutes until 75 C in the middle.", False),
        ("4 frozen chicken breasts", "Defrost the chicken in the fridge. Fry for 10 minutes.", False),
    ],
)
def test_a_few_minutes_from_frozen_are_asked_about(row: str, method: str, asked: bool) -> None:
    assert any(one.why == "which-heat" for one in reading(f"{method} Serve.", row).questions) is asked


def test_rice_kept_cool_where_nobody_says_a_fridge_stands_out() -> None:
    read = reading("Boil the rice for 12 minutes. Keep it cool overnight. Serve.", "300 g rice")

    assert "chill" not in [do for do, _ in done(read)]
    assert step(read, "rest")["minutes"] == 480.0


def test_a_warning_in_passing_brings_no_raw_food_into_the_pan() -> None:
    read = reading(
        "Mix the chicken with the onions and shape into balls. Put them on a plate in the fridge. Heat the oil and fry "
        "the pepper, it must not be black.",
        *CHICKEN,
    )

    assert ("heat", ["oil", "pepper"]) in done(read)


def test_kit_in_a_row_of_foods_is_no_food() -> None:
    assert listed("300 g pasta, 2 eggs, 1 onion, red cutting board, wok").keys() == {"pasta", "eggs", "onion"}


def test_minutes_with_a_stop_end_an_order_before_the_next_amount() -> None:
    read = reading("Sweat the onions, 6 min. 25 g flour in, 1 min. Board + knife to wash.", "2 onions", "25 g flour")

    assert step(read, "heat")["minutes"] == 6.0
    assert done(read)[-1][0] in ("clean", "serve")
    assert "clean" in [do for do, _ in done(read)]


def test_a_paragraph_of_work_that_adds_an_amount_is_no_row_of_foods() -> None:
    text = (
        "Camp curry\n\nAt home the night before: dice 1.5 kg chicken thigh and put it in a bag. Peel and chop 3 onions "
        "and a small pumpkin, bag them together.\n\nAt camp\nFry the onions for 10 minutes. Add the chicken and simmer."
    )
    told = cli.run_read({"text": text, "locale": "en-AU"})

    assert "cut" in [row["do"] for row in told["steps"]]
    assert told["sentences"][1]["taken"] == "step"

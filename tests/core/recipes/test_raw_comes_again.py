"""What raw food lay in or on comes up again after it is cooked: it is followed, or somebody is asked."""

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.recipes import Reading, read_recipe

LIST = "500 g chicken thighs\n3 tbsp soy sauce\n1 tbsp honey\n4 buns"
WORSE = {"no-kill-step", "cooked-meets-raw", "ready-to-eat-meets-raw", "raw-tasted"}
BEGUN = (
    "Mix the soy and honey in a bowl, add the chicken and marinate for 30 minutes in the fridge.",
    "Whisk the soy and honey together. Pour over the chicken in a dish and leave for an hour.",
    "Put everything in a bag with the chicken and squash it about. Chill overnight.",
)


def read(method: str) -> Reading:
    return read_recipe(f"Sticky chicken\n\nIngredients\n{LIST}\n\nMethod\n{method}", "en-GB")


def looks_safe(found: Reading) -> bool:
    assert found.process is not None
    told = {row.rule for row in find_contamination(found.process)}
    return not told & WORSE and not any(question.holds for question in found.questions)


@pytest.mark.parametrize("begun", BEGUN)
@pytest.mark.parametrize(
    "ends",
    [
        "Lift the chicken out of its marinade onto a tray. Roast until 75C. Pour the marinade over and serve.",
        "Drain the chicken, keeping the marinade. Grill until it reads 75C. Pour the marinade over and serve.",
        "Grill the chicken until 75C, then drizzle with the reserved marinade. Serve.",
        "Shake the marinade off the chicken and grill until 75C. Spoon the marinade over the top.",
        "Cook the chicken in a hot pan until 75C. Add the marinade off the heat and serve.",
        "Grill the chicken, basting with the marinade, until it is 75C. Serve with the rest of it.",
        "Take the chicken out and pat dry. Fry until 75C. Toss back in the marinade and serve.",
    ],
)
def test_a_marinade_that_nobody_boils_never_looks_safe(begun: str, ends: str) -> None:
    assert not looks_safe(read(f"{begun} {ends}"))


def test_a_marinade_that_is_boiled_is_asked_about_no_more() -> None:
    ends = "Take the chicken out of the marinade and grill until 75C. Boil the marinade for 3 minutes. Serve it on top."
    assert looks_safe(read(f"{BEGUN[1]} {ends}"))


def test_food_lifted_out_of_a_marinade_is_one_food_and_the_marinade_another() -> None:
    found = read(f"{BEGUN[0]} Lift the chicken out of its marinade. Fry it until 75C. Serve.")
    assert found.process is not None
    made = [(step.foods, step.makes) for step in found.process.steps if step.do == "transfer"]
    assert made == [(("marinade",), "marinated chicken thighs")]


def test_what_raw_food_came_in_is_asked_about_when_cooked_food_goes_back_into_it() -> None:
    assert not looks_safe(read("Roast the chicken at 200C until 75C. Put it back in the bag it came in. Serve."))


@pytest.mark.parametrize("where", ["a plate", "the plate"])
def test_at_a_barbecue_the_plate_that_carried_raw_food_is_no_hot_plate(where: str) -> None:
    found = read(f"Carry the raw chicken out on {where}. Barbecue until 75C. Put it back on the plate and serve.")
    assert not looks_safe(found)


@pytest.mark.parametrize("said", ["Let the children finish the bowl.", "Whoever helped gets the beaters."])
def test_who_is_given_the_bowl_of_a_raw_batter_tastes_of_it(said: str) -> None:
    method = f"Beat it all in a bowl. {said} Bake at 180C for 20 minutes."
    text = f"Cake\n\nIngredients\n200 g flour\n2 eggs\n\nMethod\n{method}"
    assert any(question.holds for question in read_recipe(text, "en-GB").questions)


@pytest.mark.parametrize(
    "held",
    [
        "Hot hold above 63 max 2 hrs.",
        "Hold at 65C for 2 hours.",
        "Hold it in the oven at 70C for an hour.",
        "Put it in the hot cupboard for an hour.",
        "Leave in a warm oven for an hour.",
        "Put it in the slow cooker on warm for 4 hours.",
    ],
)
def test_food_that_is_held_hot_is_not_cooked_by_it(held: str) -> None:
    assert not looks_safe(read(f"Brown the chicken for 2 minutes. {held} Serve."))


def test_cooked_food_that_stands_out_for_hours_is_asked_about_and_in_the_fridge_it_is_not() -> None:
    assert not looks_safe(read("Roast the chicken at 200C until 75C. Leave it on the side until tomorrow. Serve."))
    assert looks_safe(
        read("Roast the chicken at 200C until 75C. Leave it out to cool, then in the fridge overnight. Serve.")
    )


def test_what_is_still_rosy_is_not_cooked_through() -> None:
    assert not looks_safe(read("Fry the chicken 2 minutes each side so it is still rosy. Serve."))


@pytest.mark.parametrize(
    "told",
    [
        "Roast the chicken until the probe says 60C. Serve.",
        "Roast the chicken at 60C for 2 hours. Serve.",
        "Mix the chicken and honey and taste for salt. Fry it until 75C. Serve.",
        "Coat the chicken in half the soy and honey. Grill until 75C. Serve with the rest of what you coated it in.",
        "Put the giblets in a bowl. Roast the chicken at 200C until 75C. Pour the soy over the giblets. Serve.",
        # What it lay in is served "with" it, or the rest of it is.
        "Marinate the chicken in the soy. Grill until 75C. Serve with the soy.",
        "Mix the soy and honey. Toss the chicken in it. Bake until 75C. Serve with the rest of the honey mix.",
        # What is read after the cook, what is said in passing.
        "Simmer the chicken 5 minutes. Probe it, it should be 58C in the middle. Serve.",
        "Fry the chicken 3 minutes. Don't turn it, the top stays raw. Serve.",
        "The chicken is given an hour in the fridge. Slice it. Serve.",
        "The chicken is given an hour in a warm oven. Serve.",
        "Fry the chicken 3 minutes. Don't overcook it, raw inside is right. Serve.",
        # All that the list has went to the meat: what is left of it is what the meat lay in.
        "Toss the chicken in 3 tbsp soy sauce. Grill until 75C. Serve with the rest of the soy sauce.",
        # A list with fat in it and a time says nothing of a pan.
        "Chop the chicken. Oil, soy and chicken, 30 min. Serve.",
    ],
)
def test_what_is_too_cool_or_tasted_raw_or_lay_under_raw_food_never_looks_safe(told: str) -> None:
    assert not looks_safe(read(told))


def test_what_is_tasted_once_it_is_cooked_is_nothing_to_speak_of() -> None:
    assert looks_safe(read("Fry the chicken for 20 minutes until 75C. Add the honey. Taste and season. Serve."))


@pytest.mark.parametrize(
    "told",
    [
        "Toss the chicken in the soy. Simmer it in a pan for 20 minutes until 75C. Serve with the soy.",
        "Mix half the soy with the honey, toss the chicken in it. Grill until 75C. Serve with the rest of the soy.",
    ],
)
def test_a_sauce_that_is_cooked_with_it_or_kept_back_is_nothing_to_speak_of(told: str) -> None:
    assert looks_safe(read(told))


@pytest.mark.parametrize(
    "off",
    [
        "Take the pan off the heat.",
        "Remove from the heat.",
        "Turn off the gas.",
        "Kill the heat.",
        "Off the heat.",
        "Lift onto a plate.",
        "Pull the pan to one side.",
    ],
)
@pytest.mark.parametrize("then", ["Lid on, 10 min.", "Cover for 10 minutes.", "10 minutes.", "Soy in, 10 min."])
def test_what_stands_once_the_heat_is_off_is_not_cooked(off: str, then: str) -> None:
    found = read(f"Brown the chicken. {off} {then} Serve.")
    heats = [row for row in found.data["steps"] if row["do"] == "heat"]

    assert not looks_safe(found)
    assert not heats or off.startswith("Lift")  # "soy in, 10 min": into the pan, perhaps, and it is asked about


@pytest.mark.parametrize(
    "on", ["Add the soy. Lid on, 35 min.", "Off the heat, stir in the soy. Back on the heat, 30 min."]
)
def test_what_goes_on_cooking_or_back_on_the_heat_is_cooked(on: str) -> None:
    assert looks_safe(read(f"Brown the chicken. {on} Serve."))

"""What a few more texts lost that were written without a look at the reader, each in its smallest case."""

from __future__ import annotations

import pytest

from foodsafety.recipes import read_recipe
from foodsafety.recipes.dish_names import dish_of
from foodsafety.recipes.instructions import orders
from foodsafety.recipes.storage_told import says_storage
from tests.core.recipes.test_texts_of_strangers import done, reading


def test_what_is_left_in_the_bowl_is_used_and_no_leftover() -> None:
    found = reading(
        "Mix the chicken and yoghurt in a bowl. Fry the onion. Tip in the chicken and whatever's left in the bowl and "
        "cook for 20 minutes.",
        "1 kg chicken thighs",
        "100 ml yoghurt",
        "1 onion",
    )
    assert any(do == "heat" and any("chicken" in name for name in foods) for do, foods in done(found))
    assert says_storage("Whatever's left goes in the fridge.")
    assert says_storage("If there's any over it gets boxed and chilled.")


@pytest.mark.parametrize(
    ("text", "verb"),
    [("Whisk 1/3 cup mayo.", "whisk"), ("Whisk ½ cup cream.", "whisk"), ("Cream 1½ cups sugar.", "cream")],
)
def test_an_order_before_a_fraction_is_an_order(text: str, verb: str) -> None:
    assert [(row.do, row.verb) for row in orders(text)] == [("mix", verb)]


def test_a_dressing_is_tossed_with_what_was_cut_for_it_and_not_with_the_meat() -> None:
    found = reading(
        "Shred the pork and stir in the barbecue sauce. Slaw: shred the cabbage. Whisk 1/3 cup mayo and 1 tbsp vinegar;"
        " toss.",
        "1 kg cooked pork",
        "3/4 cup barbecue sauce",
        "1/2 cabbage",
        "1/3 cup mayo",
        "1 tbsp vinegar",
    )
    assert "barbecue" not in found.data["tools"], "a sauce is no kit"
    mixed = [foods for do, foods in done(found) if do == "mix"]
    assert mixed[-2:] == [["mayo", "vinegar"], ["cabbage", "mayo mixture"]]


def test_the_probe_should_say_is_probed() -> None:
    found = reading(
        "Fry the chicken for 20 minutes. Cut the biggest bit open - no pink, and the probe should say 75.",
        "500 g chicken breast",
    )
    assert found.data["steps"][-2]["do"] == "probe"


def test_an_ice_bath_cools_and_heats_nothing() -> None:
    found = reading("Boil the eggs for 10 minutes. Transfer to an ice bath 10 min; peel.", "6 lg eggs")
    assert found.items[0].food == "eggs"
    assert [do for do, _ in done(found)][1:] == ["transfer", "chill", "peel"]


def test_vessels_and_verbs_are_no_foods() -> None:
    found = reading(
        "Boil the eggs. Scoop the yolks into a large bowl and mash with the mayonnaise. Stir 1/2 cup back in along "
        "with the mustard.",
        "6 eggs",
        "100 ml mayonnaise",
        "1 tsp mustard",
    )
    assert [item.food for item in found.items] == ["eggs", "mayonnaise", "mustard"]


def test_chilled_for_hours_before_it_is_served_is_a_step_though_it_also_says_how_long_it_keeps() -> None:
    found = reading("Mix the rice and the peas. Cover and refrigerate at least 2 hr (up to 2 days).", "rice", "peas")
    assert done(found)[-1][0] == "chill"


def test_a_dish_of_warm_water_holds_no_food() -> None:
    found = reading(
        "Fill a shallow dish with warm water. Dip the wrappers.", "16 rice paper wrappers", "32 cooked prawns"
    )
    assert all("cooked prawns" not in foods for _, foods in done(found))


@pytest.mark.parametrize("text", ["Oven 190C (170 fan).", "Oven to 190C", "Lid on."])
def test_setting_up_asks_for_nothing(text: str) -> None:
    assert {row.do for row in orders(text)} == {"none"}


def test_a_lid_on_a_low_heat_cooks_on() -> None:
    assert [(row.do, row.verb) for row in orders("Lid on, low, twenty minutes.")] == [("heat", "cook")]


def test_foods_in_a_row_with_something_said_in_brackets_are_parted() -> None:
    found = reading(
        "Whisk the yolks and sugar.", "200 g mascarpone. 2 egg yolks (fresh!). 50 g caster sugar. 12 biscuits"
    )
    assert [item.food for item in found.items] == ["mascarpone", "egg yolks", "caster sugar", "biscuits"]


@pytest.mark.parametrize("text", ["Pour mixture into pan", "Divide mixture among the cups.", "Stir mixture well"])
def test_the_mixture_is_worked_on_without_an_article(text: str) -> None:
    assert len(orders(text)) == 1


@pytest.mark.parametrize("text", ["Rinse berries under cold running water.", "Wash fruit well."])
def test_foods_in_general_are_rinsed(text: str) -> None:
    assert [row.do for row in orders(text)] == ["rinse"]


def test_a_unit_with_a_stop_ends_no_sentence_and_two_foods_on_a_line_are_both_taken() -> None:
    found = reading(
        "Stir everything.", "1 tsp. salt", "¼ tsp. pepper", "½ cup ketchup + 2 Tbsp. brown sugar for the glaze"
    )
    assert [item.food for item in found.items] == ["salt", "pepper", "ketchup", "brown sugar"]


def test_a_row_of_work_with_a_food_is_no_ingredient() -> None:
    found = reading("- cube chicken (red boards only)\n- roast it 20 min", "1 kg chicken thighs", "salt 2 tbsp")
    assert [item.food for item in found.items] == ["chicken thighs", "salt"]
    assert done(found)[0] == ("cut", ["chicken thighs"])


def test_juices_of_meat_are_no_lemon_juice() -> None:
    found = reading(
        "Mix the yoghurt and lemon juice, add the chicken, into walk-in overnight. Spread chicken on a tray, discard "
        "the marinade. Roast 25 min. Fry the onions to make a sauce. Chicken + juices into the sauce. Serve.",
        "1 kg chicken thighs",
        "1 l yoghurt",
        "1/2 cup lemon juice",
        "3 onions",
    )
    steps = done(found)
    assert "chill" in [do for do, _ in steps]
    assert [foods for do, foods in steps if do == "mix"][-1] == ["marinated chicken thighs", "sauce"]


def test_plates_are_set_out_and_the_fish_is_coated() -> None:
    found = reading(
        "Three plates: flour / beaten egg / crumbs. Cut the fish into fingers. Coat - flour, egg, crumbs - one hand "
        "wet, one dry. Bake 15 mins.",
        "2 pollock fillets",
        "1 egg",
        "50 g flour",
        "75 g dried breadcrumbs",
    )
    assert done(found)[0][0] == "cut"
    assert next(foods for do, foods in done(found) if do == "coat")[0] == "pollock fillets"


def test_rice_that_is_spread_to_cool_then_goes_into_the_fridge_is_chilled() -> None:
    found = reading(
        "Boil the rice and spread it on a tray to cool quick then fridge, no longer than a day.", "300 g rice"
    )
    assert [do for do, _ in done(found)] == ["heat", "transfer", "chill"]


def test_a_label_in_capitals_and_bullets_in_a_row_are_a_list() -> None:
    found = reading(
        "Mix crust stuff. Beat cream cheese and sugar. Spoon on. Rinse berries and slice.",
        "CRUST 1 cup biscuit crumbs • 3 tbsp melted butter • 1 tbsp sugar",
        "FILLING 8 oz cream cheese • 1/3 cup sugar • 1 tsp vanilla",
        "TOP 1 cup fresh strawberries",
    )
    foods = [item.food for item in found.items if item.food]
    assert foods == ["biscuit crumbs", "butter", "sugar", "cream cheese", "sugar", "vanilla", "fresh strawberries"]
    assert ("rinse", ["fresh strawberries"]) in done(found)


def test_a_row_between_that_nobody_knows_parts_no_food_from_its_list() -> None:
    found = reading(
        "Whip the whites. Whisk in the sugar.",
        "4 egg whites, room temp",
        "blurg of wibble",
        "1 cup sugar",
        "1 tsp vinegar",
    )
    assert found.items[0].food == "egg whites"
    assert reading("Whip.", "2 egg whites", "pinch cream of tartar", "1 cup sugar").items[1].food == "cream of tartar"


def test_a_measured_food_in_what_was_taken_for_talk_is_asked_about() -> None:
    found = read_recipe("Bits\n\nI use 4 egg whites for it.\n\n1 cup sugar\n1 tsp vinegar\n\nWhisk the sugar.", "en-GB")
    assert "egg whites" in [item.food for item in found.items]
    assert ("which-food", ("egg whites",)) in [(row.why, row.foods) for row in found.questions]


def test_a_whole_list_in_one_line_with_its_units_stopped_is_parted() -> None:
    found = reading(
        "Brown the hamburger. Put all in the roaster w/ rest of ingredients. Simmer 1 1/2 hrs.",
        "5 lbs. hamburger, 4 onions chopped, 1 can tomatoes, 1 can beans (drain & rinse), 1/2 c. chili powder, salt",
    )
    assert len(found.items) == 6
    assert not [row for row in found.questions if row.why == "unplaced"]


def test_a_part_of_the_list_is_mixed_without_an_article_and_baked_by_two_numbers() -> None:
    found = reading(
        "Mix crust with pastry blender, pat in pan. Bake 350 20 min. Beat filling, pour over hot crust, bake 20 min.",
        "Crust: 1 c flour, 1/2 c butter, 1/4 c powdered sugar",
        "Filling: 2 eggs, 1 c sugar, 2 T flour",
        title="Lemon bars",
    )
    assert [do for do, _ in done(found)] == ["mix", "touch", "heat", "mix", "pour", "heat"]
    assert not found.questions


def test_an_oven_s_number_with_its_minutes_is_a_bake() -> None:
    assert [(row.do, row.oven_c) for row in orders("180 for 45 mins.")] == [("heat", 180.0)]


def test_everything_together_with_something_is_what_was_fried_and_not_the_rest_of_the_list() -> None:
    found = reading(
        "Sweat the onions. Brown the lamb in the big pan. Everything together with the tomatoes, an hour, no lid.",
        "1 kg lamb mince",
        "2 onions",
        "2 tins tomatoes",
        "3 eggs",
        "200 g feta",
    )
    assert not any({"eggs", "feta"} & set(foods) for do, foods in done(found))


@pytest.mark.parametrize(
    ("title", "dish"),
    [
        ("Moussaka, sort of. Community cafe Tuesdays, 24 covers.", "moussaka"),
        ("Shepherd's pie, seniors' lunch program (serves 40)", "pie"),
        ("Beef, ale and mushroom pie", "pie"),
    ],
)
def test_a_dish_is_called_by_its_own_word_and_not_by_who_eats_it_when(title: str, dish: str) -> None:
    assert dish_of(title) == dish


def test_what_is_stirred_in_meanwhile_does_not_go_to_what_is_in_the_oven() -> None:
    found = reading(
        "Make 2 burgers from the mince and lay them on a tray. Bake for 20 minutes. "
        "Meanwhile shred the cabbage and carrot, stir in the yogurt. Serve.",
        "250 g turkey mince",
        "1/4 white cabbage",
        "1 carrot",
        "3 tbsp natural yogurt",
    )
    mixed = next(row for row in found.data["steps"] if row["do"] == "mix")
    assert mixed["foods"] == ["white cabbage", "carrot", "natural yogurt"]
    assert "tray" not in mixed["tools"]


def test_in_for_some_minutes_is_cooking() -> None:
    said = "Make burgers from the mince. Onto the tray, in for 18-20 mins, flipping halfway."
    heat = next(row for row in reading(said, "250 g turkey mince").data["steps"] if row["do"] == "heat")
    assert heat["tools"] == ["tray"]


@pytest.mark.parametrize(
    "said",
    ["Keep the first one warm in a low oven while you do the second.", "Keep the rest hot.", "Keep your rice warm."],
)
def test_an_order_to_keep_food_hot_that_became_no_step_is_asked_about(said: str) -> None:
    found = reading(f"Fry the burgers for 3 minutes. {said} Serve.", "4 beef burgers", "200 g cooked rice")
    assert ("unread", said) in [(row.why, row.text) for row in found.questions]


def test_all_that_goes_in_a_bowl_goes_in_and_mince_is_a_food() -> None:
    found = reading(
        "Mince, corn, onion and paprika all go in a bowl. Squish together.",
        "250 g turkey mince",
        "50 g tinned sweetcorn",
        "1 red onion",
        "1 tsp paprika",
    )
    assert done(found)[0] == ("transfer", ["turkey mince", "tinned sweetcorn", "red onion", "paprika"])
    assert not [row for row in found.questions if row.why == "unplaced"]


def test_the_first_food_of_a_list_is_one_though_it_is_rinsed_till_something() -> None:
    found = reading("Boil the rice.", "1 cup jasmine rice, rinsed till the water's nearly clear", "2 carrots")
    assert [item.food for item in found.items] == ["jasmine rice", "carrots"]


def test_a_list_that_a_heading_calls_so_is_one_whatever_a_food_sounds_like() -> None:
    found = read_recipe(
        "Quesadillas\n\nIngredients: 4 tortillas; 1 x 400 g can black beans, rinsed + drained; 120 g grated cheddar; "
        "2 tomatoes; spray oil.\n\nMethod: Mash the beans. Spread over the tortillas. Fry for 3 minutes.",
        "en-GB",
    )
    assert not [row for row in found.data["steps"] if row["do"] == "serve" and row.get("source", "").startswith("step")]
    assert {"black beans", "cheddar", "tomatoes"} <= {item.food for item in found.items}


def test_scallion_whites_are_no_egg_s_and_bones_in_the_bin_move_no_dish() -> None:
    found = reading(
        "Put the water and scallion whites in a pot with the chicken. Boil for an hour. Pull the meat off the bones; "
        "bones go in the bin.",
        "1 kg chicken thighs",
        "8 cups water",
        "2 scallions",
        "6 eggs",
    )
    assert all("eggs" not in foods for _, foods in done(found))
    assert [do for do, _ in done(found)][-1] != "transfer"


def test_what_is_scooped_out_for_a_salad_goes_into_it_with_what_was_cut() -> None:
    found = reading(
        "Dice the tomatoes, chop the chilli, halve and scoop the avocado, then toss with lime juice.",
        "2 tomatoes",
        "1 chilli",
        "1 avocado",
        "1 lime",
    )
    assert set(done(found)[-1][1]) == {"tomatoes", "chilli", "avocado", "lime"}


def test_damp_hands_shape_what_is_in_hand() -> None:
    found = reading("Mash the potatoes. With damp hands shape into 8 patties.", "600 g cooked potatoes")
    assert ("touch", ["potatoes"]) in done(found)

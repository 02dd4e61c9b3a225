"""Ways of writing down a recipe that were once read wrongly, each as the smallest text that shows it. They came
from texts written before the rule that reads them."""

from typing import Any

import pytest

from foodsafety.contamination import analyse
from foodsafety.recipes import Reading, minutes_in, read_ingredient, read_recipe
from foodsafety.rules import House

# A step as (what is done, the foods it names, what it makes).
Told = tuple[str, set[str], str | None]


def reading(method: str, *lines: str, title: str = "Crew tea") -> Reading:
    return read_recipe(f"{title}\n\nIngredients\n" + "\n".join(lines) + f"\n\nMethod\n{method}", "en-GB")


def told(found: Reading) -> list[Told]:
    return [(row["do"], set(row["foods"]), row.get("makes")) for row in found.data["steps"]]


def steps(method: str, *lines: str, title: str = "Crew tea") -> list[Told]:
    return told(reading(method, *lines, title=title))


def step(found: Reading, do: str) -> dict[str, Any]:
    return next(row for row in found.data["steps"] if row["do"] == do)


# --- what food is shaped into --------------------------------------------------------------------------------------


def test_what_food_is_rolled_into_names_it_and_is_no_food_of_its_own() -> None:
    found = reading(
        "Mix the lamb with the cumin and roll into 12 sausages. Griddle the sausages for 9 minutes. Serve.",
        "600 g lamb mince",
        "1 tsp ground cumin",
    )

    assert [item.food for item in found.items] == ["lamb mince", "ground cumin"]
    assert ("touch", {"seasoned lamb mince"}, "sausages") in told(found)
    assert ("heat", {"sausages"}, None) in told(found)


def test_sausages_that_come_before_anything_is_shaped_are_a_food_somebody_forgot() -> None:
    found = reading("Brown the sausages for 9 minutes. Shape the dough into 4 sausages.", "300 g dough")

    assert "sausages" in [item.food for item in found.items]


@pytest.mark.parametrize(
    "method",
    [
        "Shape into 8 koftas and grill for 10 minutes.",
        "Divide the mince into 8 even koftas. Grill them for 10 minutes.",
        "Form the mince into eight small koftas, then grill for 10 minutes.",
    ],
)
def test_koftas_are_what_the_mince_is_shaped_into(method: str) -> None:
    assert any(made == "koftas" for _, _, made in steps(method, "500 g lamb mince"))


# --- where work is done --------------------------------------------------------------------------------------------


def test_another_food_that_is_stirred_is_not_in_the_pan_in_use() -> None:
    found = reading(
        "Fry the mince in a pan for 10 minutes. Stir the yoghurt. Stir in the peas.",
        "500 g lamb mince",
        "150 g plain yoghurt",
        "100 g peas",
    )
    tools = {frozenset(row["foods"]): row["tools"] for row in found.data["steps"]}

    assert not set(tools[frozenset({"plain yoghurt"})]) & {"frying pan", "saucepan"}
    assert any("peas" in row["foods"] and len(row["foods"]) > 1 for row in found.data["steps"])


def test_a_bowl_nobody_named_is_not_the_one_that_raw_meat_is_in() -> None:
    found = reading(
        "Mix the chicken with the honey in a large bowl. Grill it for 20 minutes. "
        "Toss the cabbage with the yoghurt. Serve with the chicken.",
        "500 g chicken thighs",
        "2 tbsp honey",
        "1 cabbage, washed",
        "150 g natural yoghurt",
    )
    slaw = next(row for row in found.data["steps"] if "natural yoghurt" in row["foods"])

    assert "large bowl" not in slaw["tools"]
    assert "tools" in slaw["guesses"]


def test_the_bowl_that_is_named_again_is_the_same_one() -> None:
    found = reading(
        "Mix the chicken with the honey in the bowl. Grill it for 20 minutes. "
        "Toss the cabbage with the yoghurt in the bowl. Serve with the chicken.",
        "500 g chicken thighs",
        "2 tbsp honey",
        "1 cabbage, washed",
        "150 g natural yoghurt",
    )
    looked = analyse(found.process, House())

    assert any(row.soil == "raw_poultry" and "bowl" in row.path for row in looked.findings)


def test_several_bowls_are_none_of_those_in_use() -> None:
    found = reading(
        "Mix the beans and the bacon in a bowl. Boil the mixture in a pot for 20 minutes. Ladle the beans into bowls.",
        "400 g tinned beans",
        "100 g bacon",
    )

    assert "bowl" not in found.data["steps"][-1]["tools"]


def test_what_is_lifted_onto_a_plate_leaves_the_pan_in_use() -> None:
    found = reading(
        "Fry the pork in a wok for 5 minutes and lift it onto a clean plate. Peppers in, 3 minutes. Return the pork.",
        "400 g pork fillet",
        "2 red peppers",
    )
    peppers = next(row for row in found.data["steps"] if row["foods"] == ["red peppers"])

    assert not any("plate" in tool for tool in peppers["tools"])


def test_a_tool_in_the_words_of_an_end_is_no_tool_of_the_step() -> None:
    found = reading("Simmer the potatoes for 15 minutes until a knife goes through one.", "500 g potatoes")

    assert not any("knife" in tool for tool in step(found, "heat")["tools"])


def test_two_minutes_are_no_name_of_a_pan() -> None:
    found = reading("Fry the fish in a hot pan, 2 minutes each side.", "4 cod fillets")

    assert not any("2" in tool for tool in found.data["tools"])


def test_bacon_laid_in_cold_pans_is_not_chilled() -> None:
    assert not any(
        do == "chill" for do, _, _ in steps("Lay the bacon in the cold pans and fry it.", "12 rashers bacon")
    )


def test_food_that_stands_in_the_cold_is_chilled() -> None:
    assert ("chill", {"bacon"}, None) in steps("Leave the bacon in the cold.", "12 rashers bacon")


# --- what is meant --------------------------------------------------------------------------------------------------


def test_both_minces_are_two_foods_and_not_everything() -> None:
    [first, *_] = steps(
        "Put both minces and the egg in the bowl. Mix.",
        "250 g beef mince",
        "250 g pork mince",
        "1 egg",
        "300 g spaghetti",
    )

    assert first[1] == {"beef mince", "pork mince", "egg"}


def test_the_ingredients_of_a_part_are_those_of_that_part() -> None:
    text = (
        "Kofta flatbreads\n\nIngredients\nKofta\n500 g lamb mince\n1 onion\n\nFlatbreads\n300 g self-raising flour\n"
        "300 g natural yoghurt\n\nMethod\nCombine the kofta ingredients in a bowl using your hands. "
        "Grill for 12 minutes."
    )

    assert told(read_recipe(text, "en-GB"))[0][1] == {"lamb mince", "onion"}


def test_everything_is_what_was_cut_for_it_and_what_is_left() -> None:
    found = steps(
        "Wash the celery. Chop it. Mix everything in a bowl.", "2 sticks celery", "400 g tinned chickpeas", "3 tbsp oil"
    )

    assert ("mix", {"celery", "tinned chickpeas", "oil"}) in [(do, foods) for do, foods, _ in found]


def test_everything_else_is_what_has_not_been_used() -> None:
    found = steps(
        "Chop the celery. Mix everything else in a bowl.", "2 sticks celery", "400 g tinned chickpeas", "3 tbsp oil"
    )

    assert ("mix", {"tinned chickpeas", "oil"}) in [(do, foods) for do, foods, _ in found]


def test_what_is_tossed_together_is_what_was_prepared_for_it() -> None:
    found = steps(
        "Rinse the tomatoes and the mint. Dice the tomatoes, tear the mint, toss together.", "4 tomatoes", "mint"
    )

    assert any(do == "mix" and foods == {"tomatoes", "mint"} for do, foods, _ in found)


def test_both_cans_are_the_foods_that_came_in_them() -> None:
    found = steps(
        "Drain and rinse both cans in a colander.", "1 x 400g can kidney beans", "1 x 400g can chickpeas", "1 onion"
    )

    assert ("rinse", {"kidney beans", "chickpeas"}, None) in found


def test_a_part_that_is_set_aside_has_a_way_of_its_own() -> None:
    found = reading(
        "Whisk the soy, honey and vinegar in a small bowl. Set aside 2 tbsp for the noodles. Put the salmon on a tray "
        "and brush over the remaining sauce. Roast for 14 minutes. Boil the noodles for 5 minutes, drain, toss with "
        "the reserved sauce. Serve the noodles with the salmon.",
        "4 salmon fillets",
        "3 tbsp soy sauce",
        "1 tbsp honey",
        "1 tbsp rice vinegar",
        "2 nests egg noodles",
    )
    looked = analyse(found.process, House())

    assert any((made or "").startswith("reserved ") for _, _, made in told(found))
    assert not any(row.soil == "raw_fish" for row in looked.findings), "what was kept back never met the fish"


def test_the_remaining_sauce_is_the_one_that_was_made() -> None:
    found = steps(
        "Whisk the soy and honey. Brush the remaining sauce over the salmon. Roast for 14 minutes.",
        "4 salmon fillets",
        "3 tbsp soy sauce",
        "1 tbsp honey",
    )

    assert not any("soy sauce" in foods for do, foods, _ in found if do == "brush")


def test_what_is_spooned_on_goes_onto_what_is_in_hand() -> None:
    found = steps(
        "Roll out the pastry and cut 10 circles. Spoon the ricotta on and fold.", "375 g puff pastry", "250 g ricotta"
    )

    assert any(foods == {"puff pastry", "ricotta"} for _, foods, _ in found)


def test_what_is_stirred_through_is_mixed_with_what_was_grated_for_it() -> None:
    found = steps(
        "Grate the carrot, shred the cabbage and stir the mayonnaise through.", "1 carrot", "1 cabbage", "mayonnaise"
    )

    assert any(do == "mix" and foods == {"carrot", "cabbage", "mayonnaise"} for do, foods, _ in found)


def test_a_glaze_that_is_beaten_is_brushed_on_what_is_being_made() -> None:
    found = steps(
        "Spoon the ricotta on the pastry. Beat the egg, brush. Bake for 25 minutes.",
        "375 g puff pastry",
        "250 g ricotta",
        "1 egg",
    )
    brushed = next(foods for do, foods, _ in found if do == "brush")

    assert "egg" in brushed
    assert len(brushed) > 1


def test_onions_in_hand_are_meant_before_onions_nobody_has_touched() -> None:
    found = steps("Dice the onions. Onions into a pan, 8 minutes.", "4 yellow onions", "3 bunches green onions")

    assert not any("green onions" in foods for _, foods, _ in found)


def test_green_onions_that_are_washed_are_rinsed() -> None:
    found = steps("Wash hands. Wash green onions, slice on the salad board.", "3 bunches green onions", "1 lemon")

    assert ("rinse", {"green onions"}, None) in found
    assert ("cut", {"green onions"}, None) in found


def test_one_bare_order_after_another_is_each_read() -> None:
    found = steps("1 punnet cress, rinse, snip.", "1 punnet cress", "6 eggs")

    assert [(do, foods) for do, foods, _ in found][:2] == [("rinse", {"cress"}), ("cut", {"cress"})]


def test_words_before_a_bare_order_say_what_it_is_about() -> None:
    found = steps(
        "Raspberries and icing sugar in a pan, boil 1 minute.", "200 g raspberries", "1 tbsp icing sugar", "rice"
    )

    assert any(do == "heat" and foods == {"raspberries", "icing sugar"} for do, foods, _ in found)


def test_put_in_a_pan_with_water_takes_what_is_in_hand() -> None:
    found = steps(
        "Rinse the rice. Put in a pan with the water and boil for 12 minutes.", "250 g sushi rice", "330 ml water"
    )

    assert any(foods == {"sushi rice", "water"} for _, foods, _ in found)


def test_bread_is_not_the_buns_beside_it() -> None:
    found = steps("Crumble the bread.", "1 slice of bread", "4 burger buns")

    assert found[0][1] == {"bread"}


def test_never_inside_the_bird_puts_nothing_inside_it() -> None:
    found = steps(
        "Roll the stuffing into balls and fry them, never inside the bird.", "1.8 kg chicken", "200 g stuffing"
    )

    assert not any("chicken" in foods for _, foods, _ in found)


@pytest.mark.parametrize("word", ["bird", "thigh", "chicken"])
def test_parts_of_a_bird_are_the_bird(word: str) -> None:
    found = reading(f"Roast the chicken for 95 minutes. Check that the {word} reads 75C.", "1.8 kg chicken")

    assert step(found, "probe")["foods"] == ["chicken"]


# --- heat ----------------------------------------------------------------------------------------------------------


def test_a_fan_temperature_beside_a_time_is_the_oven() -> None:
    found = reading(
        "Beat the eggs with the cream. 180 fan, 25-30 mins, should be set with no wobble.", "4 eggs", "cream"
    )
    baked = step(found, "heat")

    assert (baked["heat"]["oven_c"], baked["minutes"], baked["end"]["cue"]) == (180, 30, "set with no wobble")


def test_a_temperature_in_the_same_sentence_makes_a_bare_time_a_bake() -> None:
    found = reading("Whisk the eggs and sugar. Into a lined tin, 170c (150 fan) 25 mins.", "3 eggs", "225 g sugar")

    assert step(found, "heat")["heat"]["oven_c"] == 170


def test_potatoes_that_are_on_for_a_time_are_boiled_and_cheese_on_top_is_not() -> None:
    assert steps("Spuds on, 20 mins.", "1 kg potatoes")[0][0] == "heat"
    assert steps("Put the potatoes in a dish, cheese on top.", "1 kg potatoes", "100 g cheese")[-1][0] != "heat"


def test_mash_on_top_is_no_mashing() -> None:
    found = steps("Mash the potatoes. Flake the fish into a dish. Mash on top.", "1 kg potatoes", "400 g cod")

    assert found[-1][0] != "mix"


def test_browning_to_a_temperature_is_the_whole_cook() -> None:
    found = reading("Brown the beef until no longer pink, 7-8 min, 160F.", "1 lb ground beef")

    assert found.data["steps"][0]["do"] == "heat"
    assert found.data["steps"][0]["end"]["core_c"] == pytest.approx(71.11, abs=0.01)


def test_browning_without_an_end_is_a_part_of_it() -> None:
    assert steps("Brown the beef for 5 minutes. Simmer it for 2 hours.", "800 g stewing beef")[0][0] == "part_cook"


@pytest.mark.parametrize(
    ("sentence", "do"),
    [
        ("Keep the stock at a simmer.", "heat"),
        ("Cover and keep the stock below 5 degrees until needed.", "chill"),
        ("Check the stock at 75+.", "probe"),
    ],
)
def test_keeping_and_checking_at_a_temperature(sentence: str, do: str) -> None:
    assert do in [row[0] for row in steps(sentence, "1 litre chicken stock")]


def test_food_is_only_frozen_where_it_goes_into_a_freezer() -> None:
    found = steps("Wings in 2 big freezer bags with the paprika.", "4 kg wings", "2 tbsp paprika")

    assert found[0][:2] == ("transfer", {"wings", "paprika"})
    assert "freeze" not in [do for do, _, _ in found]


# --- rows and sentences ----------------------------------------------------------------------------------------------


def test_a_row_that_begins_with_a_label_goes_on_with_nothing() -> None:
    found = read_recipe(
        "Roast, Sunday club\n\n1.8 kg chicken\nstuffing: 1 onion, 100 g breadcrumbs, handful sage, 1 egg\n"
        "roast potatoes: 1.5 kg potatoes, 4 tbsp dripping\n\nRoast the chicken at 190C for 95 minutes.",
        "en-GB",
    )

    assert [item.food for item in found.items if item.food] == [
        "chicken", "onion", "breadcrumbs", "sage", "egg", "potatoes", "dripping",
    ]  # fmt: skip


def test_heating_the_oven_is_no_ingredient() -> None:
    found = read_recipe(
        "Meatballs\n\n250g beef mince\n1 egg\n\n1. Heat oven to 190C.\n2. Mix the mince and egg.\n3. Bake it all.",
        "en-GB",
    )

    assert [item.food for item in found.items] == ["beef mince", "egg"]


def test_who_does_a_part_is_a_heading_and_orders_nothing() -> None:
    found = reading("Flatbreads - Cook B\nMix the flour and yoghurt.", "300 g flour", "300 g yoghurt")

    assert [do for do, _, _ in told(found)][:1] == ["mix"]


def test_numbers_without_a_dot_count_the_orders() -> None:
    found = reading("1 Rub the pork with the salt\n2 Put it in a pot\n3 Roast it for 8 hours", "1.5 kg pork", "salt")

    assert [row.text for row in found.sentences if row.taken == "step"] == [
        "Rub the pork with the salt", "Put it in a pot", "Roast it for 8 hours",
    ]  # fmt: skip


def test_a_list_that_begins_with_bare_numbers_stays_a_list() -> None:
    found = read_recipe("Slaw\n\n1 Onion\n2 Carrots\n3 Apples\n\nGrate the carrots and apples. Serve.", "en-GB")

    assert [item.low for item in found.items] == [1, 2, 3]


def test_a_list_in_one_row_parted_by_semicolons_is_a_list() -> None:
    found = read_recipe(
        "Pulled pork\n\nIngredients: pork shoulder 1.5kg; cider 250ml; salt 1 tsp.\n\nRoast the pork for 5 hours.",
        "en-GB",
    )

    assert [item.food for item in found.items if item.food] == ["pork shoulder", "cider", "salt"]


@pytest.mark.parametrize(
    ("text", "parts"),
    [
        ("Fry the cod 8 min. off heat, stir in the cream.", 2),
        ("Fry the cod 8 min. each side and serve.", 1),
        ("Fry the cod 8 min. Serve it at once now.", 2),
    ],
)
def test_the_dot_of_min_ends_a_sentence_where_nothing_of_the_time_follows(text: str, parts: int) -> None:
    found = reading(text, "4 cod fillets", "100 ml cream")

    assert sum(row.taken == "step" for row in found.sentences) == parts


@pytest.mark.parametrize(
    "sentence",
    ["Don't wash the chicken!", "Never leave it on the side."],
)
def test_a_warning_orders_nothing_and_holds_nothing(sentence: str) -> None:
    found = reading(f"Roast the chicken for 95 minutes. {sentence}", "1.8 kg chicken", "1 egg")

    assert next(row.taken for row in found.sentences if row.text == sentence) == "tip"


def test_a_warning_that_says_how_little_to_cook_it_is_no_tip() -> None:
    found = reading("Fry the burgers for 8 minutes. Never cook the beef past pink.", "500 g beef mince")

    assert next(row.taken for row in found.sentences if "past pink" in row.text) != "tip"


def test_everybody_who_washes_their_hands_washes_hands() -> None:
    found = steps("First off get everybody to wash their hands properly, twenty seconds.", "1 onion")

    assert found[0][0] == "wash_hands"


def test_wedges_of_a_lime_name_no_dish() -> None:
    found = steps(
        "Toss the noodles with the tofu. Serve with wedges from the other half of the lime.",
        "noodles",
        "tofu",
        "1 lime",
    )

    assert not any(made == "wedges" for _, _, made in found)


def test_no_name_is_said_twice() -> None:
    found = steps(
        "Mix the mince and cumin. Mix in the egg. Mix in the flour. Fry for 10 minutes.",
        "500 g lamb mince",
        "cumin",
        "1 egg",
        "50 g flour",
    )

    assert not any("mixture mixture" in (made or "") for _, _, made in found)


# --- ready variants ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("line", "kind", "asked"),
    [
        ("150 g cooked salmon fillet", "cooked_fish", False),
        ("200 g cooked pollock", "cooked_fish", True),
        ("300 g cooked turkey", "cooked_chicken", False),
        ("150 g salmon fillet", "salmon", False),
    ],
)
def test_cooked_food_is_not_its_raw_kind_and_what_is_only_like_it_is_asked(line: str, kind: str, asked: bool) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.kind, "food-unsure" in item.doubts) == (kind, asked)


def test_cooked_salmon_of_the_list_is_the_salmon_of_the_method() -> None:
    found = reading("Lay the salmon along the middle of the nori.", "150 g cooked salmon fillet", "4 sheets nori")

    assert len(found.items) == 2


def test_chicken_that_only_the_method_has_is_not_the_stock_of_the_list() -> None:
    found = reading("Simmer the chicken in the stock for 40 minutes.", "1 litre chicken stock")

    assert len(found.items) == 2
    assert any(row.why == "which-food" for row in found.questions)


# --- found with a third set of texts ---------------------------------------------------------------------------------


def test_mince_at_the_head_of_a_list_in_one_row_is_no_order() -> None:
    found = read_recipe(
        "Ragu for the tuesday lot\n\nMince 1.5 kg, 3 onions, 4 carrots, 6 cloves garlic, beef stock 600ml, cheese\n\n"
        "Brown the mince in a big pot. Onions and carrots in, soften 10. Simmer 45. Serve with the cheese.",
        "en-GB",
    )

    assert [item.food for item in found.items if item.food] == [
        "Mince", "onions", "carrots", "garlic", "beef stock", "cheese",
    ]  # fmt: skip
    assert found.items[0].kind == "beef_mince"


@pytest.mark.parametrize("words", ["Brown mince in a pot.", "Fry mince for 9 minutes.", "Mince 1.5 kg, brown it."])
def test_mince_that_only_the_method_names_is_not_lost(words: str) -> None:
    found = read_recipe(f"Ragu\n\n3 onions\n4 carrots\n2 tins tomatoes\n\n{words} Serve with the onions.", "en-GB")

    assert any(item.kind == "beef_mince" for item in found.items)


def test_garlic_that_is_minced_is_garlic_alone() -> None:
    found = read_recipe(
        "Aioli\n\n3 eggs\n2 lemons\n100 ml oil\n\nMince 2 cloves garlic. Whisk it with the oil.", "en-GB"
    )

    assert not any(item.kind in ("beef_mince", "spice") for item in found.items)


def test_one_food_that_nobody_knows_does_not_make_a_row_of_many_one_food() -> None:
    found = read_recipe(
        "Stew\n\n2 onions, 3 carrots, 500 g moonrock, 2 leeks, 4 potatoes, 1 litre beef stock\n\nBoil it all 45.",
        "en-GB",
    )

    assert len([item for item in found.items if item.food]) == 6
    assert any(row.why == "which-food" and row.holds for row in found.questions)


@pytest.mark.parametrize(
    ("line", "food", "low", "unit"),
    [
        ("peanut butter 3 heaped tbsp", "peanut butter", 3, "tbsp"),
        ("lime half", "lime", 0.5, None),
        ("peanuts handful", "peanuts", 1, "handful"),
        ("spring onion 2", "spring onion", 2, None),
    ],
)
def test_amounts_behind_their_food(line: str, food: str, low: float | None, unit: str | None) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.food, item.low, item.unit) == (food, low, unit)


def test_the_ingredients_of_a_part_take_nothing_of_another_that_was_cut() -> None:
    text = (
        "Laksa\n\nFor the paste:\n2 shallots\n1 tsp turmeric\n\nFor the soup:\n300g raw king prawns, peeled\n"
        "1 lime, cut into wedges\n600ml stock\n\nBlend the paste ingredients until smooth. Fry the paste for 3 minutes."
    )

    mixed = next(foods for do, foods, _ in told(read_recipe(text, "en-GB")) if do == "mix")
    assert mixed == {"shallots", "turmeric"}


@pytest.mark.parametrize("line", ["300 g raw king prawns", "300 g beef burgers", "4 eggs"])
def test_pink_ends_no_hazard_whatever_is_cooked(line: str) -> None:
    found = reading("Fry them for 4 minutes until pink. Serve.", line)

    assert any(row.rule == "no-kill-step" for row in analyse(found.process, House()).findings)


def test_skewers_that_soak_are_no_food() -> None:
    found = steps("Soak 6 wooden skewers. Cut the pepper.", "1 pepper")

    assert found[0][:2] == ("cut", {"pepper"})


def test_washing_up_is_of_kit() -> None:
    assert steps("Cut the chicken. Wash up.", "400 g chicken breast")[1][0] == "clean"


def test_vegetables_are_those_that_are_still_vegetables() -> None:
    found = steps(
        "Grate the cucumber into the yogurt. Cut the pepper and onion. Thread the chicken and veg onto skewers.",
        "400 g chicken thigh",
        "1 pepper",
        "1 red onion",
        "1 cucumber",
        "200 g yogurt",
    )

    threaded = next(foods for do, foods, _ in found if do == "touch")
    assert threaded == {"chicken thigh", "pepper", "red onion"}


def test_everything_but_the_walnuts_leaves_the_walnuts() -> None:
    found = steps("Blend everything but the walnuts.", "500 g yoghurt", "1 clove garlic", "50 g walnuts")

    assert found[0][1] == {"yoghurt", "garlic"}


@pytest.mark.parametrize(
    ("text", "minutes"),
    [
        ("simmer 45, stir now and then", (45, 45)),
        ("soften 8-10.", (8, 10)),
        ("boil 4 eggs", (None, None)),
        ("bake at 180.", (None, None)),
        ("roast 200.", (None, None)),
    ],
)
def test_a_bare_number_is_minutes_where_it_counts_nothing(
    text: str, minutes: tuple[float | None, float | None]
) -> None:
    assert minutes_in(text) == minutes


# --- found with a fourth set of texts ------------------------------------------------------------------------------


def test_who_cooks_what_orders_nothing_even_behind_another_sentence() -> None:
    found = reading("Jobs. Cook 1 = fish. Fry the fish for 6 minutes.", "4 cod fillets")

    assert [do for do, _, _ in told(found)][:1] == ["heat"]
    assert step(found, "heat")["minutes"] == 6


def test_what_each_group_needs_is_a_list_and_no_part_of_a_dish() -> None:
    found = read_recipe(
        "Tacos\n\nEach group needs\n500 g beef mince\n1 onion\n8 taco shells\n\nLearner 1\na) Wash hands. Chop it.\n"
        "b) Fry the onion 5 min, add the mince and cook to 71C.\n\nLearner 2\na) Warm the taco shells. Serve.",
        "en-GB",
    )

    assert [item.food for item in found.items if item.food] == ["beef mince", "onion", "taco shells"]
    assert not any("group" in (made or "") or "learner" in (made or "") for _, _, made in told(found))
    assert not any(row.text.startswith(("a)", "b)")) for row in found.sentences)


def test_how_a_food_comes_is_no_end_of_the_list_it_stands_in() -> None:
    found = steps(
        "Stir the chilli powder, beans (drained) and tomatoes into the mince.",
        "500 g beef mince",
        "2 tsp chilli powder",
        "1 tin kidney beans",
        "1 tin chopped tomatoes",
    )

    assert found[0][1] == {"beef mince", "chilli powder", "kidney beans", "chopped tomatoes"}


def test_fresh_tomatoes_are_not_those_that_are_cooked_already() -> None:
    found = steps(
        "Simmer the tinned tomatoes for 15 minutes. Wash the lettuce and tomatoes.",
        "1 tin chopped tomatoes",
        "2 tomatoes",
        "1 lettuce",
    )

    assert ("rinse", {"lettuce", "tomatoes"}, None) in found


def test_cooked_chicken_hides_nothing_raw_and_chicken_in_a_salad_is_raw() -> None:
    assert read_ingredient("1 1/2 lb cooked chicken breast, cold", "en-US").doubts == ("food-unsure",)
    assert read_ingredient("1 bag salad with chicken breast", "en-US").kind == "chicken"


@pytest.mark.parametrize(
    ("line", "food", "low"),
    [
        ("haddock - 400g smoked", "smoked haddock", 400),
        ("rice - 250g basmati", "basmati rice", 250),
        ("butter - 50g", "butter", 50),
    ],
)
def test_an_amount_between_a_food_and_its_kind(line: str, food: str, low: float) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.food, item.low, item.unit) == (food, low, "g")


def test_a_tea_towel_is_no_tea_and_a_fish_slice_no_fish() -> None:
    found = read_recipe(
        "Bread\n\nKnead 500 g flour with 300 ml water. Cover with a tea towel. Turn it with a fish slice.", "en-GB"
    )

    assert {item.kind for item in found.items} & {"tea", "cod"} == set()


def test_the_dough_things_are_the_ingredients_of_the_dough() -> None:
    found = read_recipe(
        "Pizza\n\nDOUGH (makes 4): 500g strong flour, 7g yeast, 300ml water\nTOPPING: 1 carton passata, 100g ham\n\n"
        "Mix the dough things in a big bowl. Bake 12 minutes.",
        "en-GB",
    )

    assert told(found)[0][1] == {"strong flour", "yeast", "water"}


def test_what_is_dried_after_a_rinse_is_what_was_rinsed() -> None:
    found = steps("Fry the fish for 6 minutes. Rinse the lettuce, dry it.", "4 cod fillets", "1 lettuce")

    assert ("rinse", {"lettuce"}, None) in found


def test_what_is_poured_on_while_whisking_joins_what_was_whisked() -> None:
    found = steps(
        "Whisk the yolks with the sugar. Heat the milk and pour it on, whisking.",
        "3 egg yolks",
        "25 g sugar",
        "300 ml milk",
    )

    assert any(do == "pour" and "milk" in foods and len(foods) > 1 for do, foods, _ in found)


def test_what_is_left_over_and_binned_is_no_work_on_what_is_kept() -> None:
    found = steps(
        "Coat the fish in the flour. Bin any flour left over. Fry for 6 minutes.", "4 cod fillets", "50 g flour"
    )

    assert [do for do, _, _ in found][:2] == ["coat", "heat"]


def test_raw_fish_that_its_line_says_is_skinned_is_no_part_of_a_salad() -> None:
    found = steps(
        "Rinse and slice the cucumber. Dress with the lemon.", "400 g cod, skinned and cut up", "1 cucumber", "1 lemon"
    )

    dressed = next(foods for do, foods, _ in found if do == "mix")
    assert dressed == {"cucumber", "lemon"}


@pytest.mark.parametrize("words", ["Keep the chicken refrigerated until needed.", "Keep the chicken at 41F."])
def test_food_that_is_kept_cold_is_chilled(words: str) -> None:
    assert steps(words, "400 g cooked chicken", "1 lemon")[0][0] == "chill"


# --- found with a fifth set of texts -------------------------------------------------------------------------------


def test_a_label_before_the_method_makes_no_list_of_it() -> None:
    found = read_recipe(
        "Bake\n\n* 400g pasta\n* 2 tins tuna\n* 50g butter\n* 50g flour\n* 600ml milk\n\nHere goes: get the pasta on, "
        "about 9 minutes. Drain the tuna. White sauce: melt the butter, stir in the flour, milk in slowly. Serve.",
        "en-GB",
    )

    assert [item.food for item in found.items] == ["pasta", "tuna", "butter", "flour", "milk"]
    assert len(found.data["steps"]) > 3


def test_a_label_before_bare_orders_makes_no_list_of_them() -> None:
    found = reading("Chips: peel, chip, rinse, dry. Blanch in the oil 6 min, drain, chill.", "3 kg maris piper", "oil")

    assert [item.food for item in found.items] == ["maris piper", "oil"]


def test_a_label_before_foods_still_makes_a_list() -> None:
    found = read_recipe(
        "Pie\n\nFilling: 4 eggs, 200 g sugar, 100 ml cream\nPastry: 200 g flour\n\nMix it all. Bake 30 min.", "en-GB"
    )

    assert [item.food for item in found.items if item.food] == ["eggs", "sugar", "cream", "flour"]


def test_two_amounts_with_a_plus_are_two_foods() -> None:
    found = read_recipe(
        "Porridge\n\noats 1.2 kg\nmilk 3 l + water 3 l\nsalt\n\nBring it all up slowly, 10 mins.", "en-GB"
    )

    assert [item.food for item in found.items] == ["oats", "milk", "water", "salt"]


def test_the_size_of_one_behind_its_name_is_no_part_of_the_name() -> None:
    item = read_ingredient("10 sirloin steaks 225g each", "en-GB")

    assert (item.food, item.low, item.each_amount, item.each_unit) == ("sirloin steaks", 10, 225, "g")


def test_a_short_name_in_running_words_is_not_lost() -> None:
    found = read_recipe("Pie\n\nPastry 200g wholemeal flour, 100g block marg. Rub in, bake 30 min.", "en-GB")

    assert "milk" in {tag for item in found.items for tag in item.allergens} or any(
        item.kind == "margarine" for item in found.items
    )


def test_a_nut_allergy_is_no_nut_and_the_nuts_are() -> None:
    plain = read_recipe(
        "Peaches\n\nBake 6 ripe peaches with 75 g sugar. Anyone with a nut allergy may have it.", "en-GB"
    )
    nuts = read_recipe("Peaches\n\nBake 6 ripe peaches with 75 g sugar. Scatter the nuts over. Serve.", "en-GB")

    assert [item.food for item in plain.items] == ["peaches", "sugar"]
    assert [item.food for item in nuts.items] == ["peaches", "sugar", "nuts"]


def test_the_meat_that_no_list_has_is_asked_about() -> None:
    found = reading("Brown the meat for 9 minutes. Add the carrots.", "3 carrots", "2 onions")

    assert any(row.why == "which-food" for row in found.questions)


def test_a_place_without_its_comma_is_a_place() -> None:
    found = steps("In a bowl rub 100 g butter into the flour.", "100 g butter", "150 g flour", "6 peaches")

    assert (found[0][0], found[0][1]) == ("mix", {"butter", "flour"})


# --- found when the whole change was read again: what turned "not said" into "safe" --------------------------------


@pytest.mark.parametrize(
    "line",
    [
        "300 g part-cooked chicken",
        "300 g half cooked chicken",
        "300 g chicken, to be cooked on the day",
        "300 g undercooked chicken",
        "300 g un-cooked chicken",
        "300 g uncooked chicken",
        "300 g chicken, not yet cooked",
        "300 g chicken (cook it first)",
    ],
)
def test_what_is_not_cooked_through_is_raw(line: str) -> None:
    item = read_ingredient(line, "en-GB")

    assert item.kind == "chicken"
    assert item.low == 300


def test_uncooked_prawns_are_raw() -> None:
    assert read_ingredient("200 g un-cooked prawns", "en-GB").kind == "prawns"


def test_a_bowl_that_raw_meat_has_left_is_taken_again_and_asked_about() -> None:
    found = reading(
        "Mix the chicken with the honey. Lift it onto a tray and roast it for 30 minutes. Toss the cabbage with the "
        "yoghurt. Serve with the chicken.",
        "500 g chicken thighs",
        "2 tbsp honey",
        "1 cabbage, washed",
        "150 g natural yoghurt",
    )
    slaw = next(row for row in found.data["steps"] if "natural yoghurt" in row["foods"])

    assert any("bowl" in tool for tool in slaw["tools"])
    assert any(
        row.soil == "raw_poultry" and any("bowl" in stop for stop in row.path)
        for row in analyse(found.process, House()).findings
    )


@pytest.mark.parametrize(
    "words",
    [
        "Throw the leftover marinade over the salad.",
        "Chuck the leftover marinade into the salad.",
        "Throw all of the marinade that is left over the salad.",
    ],
)
def test_a_marinade_that_is_thrown_over_a_salad_is_not_thrown_away(words: str) -> None:
    found = reading(
        f"Coat the chicken in the honey. Roast the chicken for 30 minutes. {words} Serve the salad.",
        "500 g chicken thighs",
        "2 tbsp honey",
        "1 bag washed salad",
    )
    row = next(row for row in found.sentences if row.text == words)

    assert row.taken == "unread" or row.steps


@pytest.mark.parametrize(
    "words", ["Throw away the leftover marinade.", "Bin any flour left over.", "Discard the marinade."]
)
def test_what_is_thrown_away_is_no_step_on_what_is_kept(words: str) -> None:
    found = steps(f"Roast the chicken for 30 minutes. {words}", "500 g chicken thighs", "50 g flour")

    assert [do for do, _, _ in found] == ["heat", "serve"]


def test_a_warning_with_an_order_behind_it_is_read() -> None:
    found = steps("Fry the chicken for 9 minutes. Do not leave it out but put it in the fridge.", "400 g chicken")

    assert "chill" in [do for do, _, _ in found]


@pytest.mark.parametrize(
    ("sentence", "taken"),
    [
        ("We're making turkey burgers.", "chatter"),
        ("Nuts and egg in these, so tell people.", "chatter"),
        ("We're making magic of the raw juices.", "unread"),
        ("Tell them of the trick with the turkey and the same board.", "unread"),
    ],
)
def test_talk_is_chatter_unless_it_may_hide_work_on_raw_food(sentence: str, taken: str) -> None:
    found = reading(f"{sentence} Fry the turkey for 9 minutes. Serve.", "400 g turkey mince", "1 egg")

    assert next(row.taken for row in found.sentences if row.text == sentence) == taken


@pytest.mark.parametrize("words", ["Transfer the chicken to a cake tin.", "Tip the chicken into a pie dish."])
def test_what_food_is_moved_into_does_not_name_it(words: str) -> None:
    assert all(made is None for _, _, made in steps(f"{words} Bake it for 30 minutes.", "500 g chicken thighs"))


def test_portions_and_tins_name_no_food() -> None:
    found = steps(
        "Mix the mince and eggs. Divide into 4 portions. Divide into two tins. Bake for 30 minutes.",
        "400 g beef mince",
        "2 eggs",
    )

    assert not {made for _, _, made in found} & {"portions", "tins"}


@pytest.mark.parametrize("words", ["Lid on, 20 mins.", "Gloves on, 5 min.", "Put the lid on, 20 mins."])
def test_kit_that_is_on_is_no_food_on_the_heat(words: str) -> None:
    found = steps(f"Simmer the chicken. {words} Serve.", "400 g chicken")

    assert not any("lid" in food or "glove" in food for _, foods, _ in found for food in foods)

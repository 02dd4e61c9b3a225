"""Notes as people jot them down, and dishes of several parts: each in its smallest case."""

import pytest

from foodsafety.recipes import Reading, process_from, read_document, read_ingredient, read_recipe, say_way, sentences
from foodsafety.recipes.dish_names import dish_of
from foodsafety.recipes.instructions import orders
from foodsafety.recipes.mentions import FoodInHand, FoodsInHand
from foodsafety.recipes.reading import _told
from tests.core.recipes.read import done, reading

BEANS = ("6 pork sausages", "2 onions", "1 tsp paprika", "1 tin butter beans")


def foods_of(found: Reading, do: str) -> list[str]:
    return next(foods for did, foods in done(found) if did == do)


# --- what the dish is called ---------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("title", "dish"),
    [
        ("Sunday beef and red wine pie", "pie"),
        ("COOKING CLUB WEEK 3: HAM AND SWEETCORN PIZZA SWIRLS", "swirls"),
        ("after school kitchen - oaty choc chip bikkies", "bikkies"),
        ("Mocha pots (off an old card)", "mocha pots"),
        ("FOODS I   LAB 4\nBUTTERMILK PANCAKES w/ BLUEBERRY SAUCE", "pancakes"),
        ("Snags, charred capsicum and a big green salad", None),
        ("Shoulder of lamb braised with white beans", None),
        ("Year 9 Food", None),
    ],
)
def test_the_title_says_what_the_dish_is_called(title: str, dish: str | None) -> None:
    assert dish_of(title) == dish


def test_a_soup_is_soup_from_the_stock_on() -> None:
    found = read_recipe(
        "I'm doing the big bean soup today. Fry 1 chopped onion in 1 tbsp oil. Add 500 ml stock and 2 carrots. "
        "Simmer 20 minutes. Add a tin of beans and serve.",
        "en-GB",
    )

    made = [row["makes"] for row in found.data["steps"] if row.get("makes")]
    assert made[-1] == "soup"
    assert made[-2].startswith("soup with")


def test_what_is_baked_of_dough_is_called_by_the_title() -> None:
    found = reading(
        "Rub the butter into the flour, add the oats and the sugar and mix to a dough. Bake for 12 minutes.",
        "100 g butter",
        "150 g flour",
        "50 g oats",
        "50 g sugar",
        title="Oaty bikkies",
    )

    assert found.data["steps"][-1]["foods"] == ["bikkies"]


# --- two parts of a dish -------------------------------------------------------------------------------------------

PIE = (
    "For the filling",
    "500 g braising steak",
    "2 tbsp plain flour",
    "1 onion",
    "For the pastry",
    "250 g plain flour",
    "125 g butter",
    "To serve",
    "1 cabbage",
    "a knob of butter",
)


def test_each_part_has_its_own_flour_and_butter() -> None:
    found = reading(
        "Toss the beef in the flour. Make the pastry. Rub the butter into the flour. Boil the cabbage for 4 minutes "
        "and stir through the knob of butter.",
        *PIE,
    )

    assert foods_of(found, "coat") == ["braising steak", "plain flour"]
    mixed = [foods for do, foods in done(found) if do == "mix"]
    assert mixed == [["butter", "plain flour for pastry"], ["cabbage", "butter for serve"]]
    assert all("named" not in row["guesses"] for row in found.data["steps"] if row.get("guesses"))


def test_what_is_listed_for_the_peppers_goes_onto_the_peppers() -> None:
    found = reading(
        "Stuff the peppers with the mince and bake for 40 minutes. Slice the cucumber and mix with the yoghurt. "
        "Scatter on the feta.",
        "For the peppers",
        "4 peppers",
        "400 g beef mince",
        "50 g feta",
        "For the salad",
        "1 cucumber",
        "100 g yoghurt",
    )

    onto = foods_of(found, "garnish")
    assert "feta" in onto
    assert not any("cucumber" in name or "salad" in name for name in onto)


# --- jotted down ---------------------------------------------------------------------------------------------------


def test_the_sticky_bits_are_no_ingredients() -> None:
    found = reading(
        "Fry the onions for 5 minutes. Pour in the wine and let it bubble, scraping up the sticky bits.",
        "2 onions",
        "200 ml red wine",
        "400 ml beef stock",
    )

    assert all("beef stock" not in foods for do, foods in done(found) if do == "heat")


def test_a_spice_that_is_only_stirred_goes_into_the_pan_and_minutes_count_once() -> None:
    found = reading(
        "Fry the sausages in a pan for 5 minutes. Onions in with the sausages, another five. Paprika, stir. "
        "Tip in the beans.",
        *BEANS,
    )

    minutes = [row.get("minutes") for row in found.data["steps"] if row["do"] in ("heat", "part_cook")]
    assert minutes == [5, 5]
    assert "pork sausages mixture" in next(foods for _, foods in done(found) if "paprika" in foods)


@pytest.mark.parametrize(
    ("words", "dos"),
    [
        ("Potatoes peeled and chopped, onions sliced.", ["peel", "cut", "cut"]),
        ("potatoes scrubbed and into boiling salted water 18 mins", ["rinse", "heat"]),
        ("Scissors and hands in the sink, please.", ["wash_hands"]),
        ("Pat the crumbs on with your fingers then wash them.", ["touch", "wash_hands"]),
        ("Scrub potatoes, boil whole till fork tender 25 min.", ["rinse", "heat"]),
        ("They must be 75 in the middle.", ["probe"]),
        ("Divide into 8, roll thin.", ["transfer", "touch"]),
        ("Toss any left out 4 hrs.", ["none"]),
        ("The meat we wash not.", []),
        ("Serve at once or cover and chill for up to 24 hours.", ["serve"]),
        ("The rest goes in fridge.", ["chill"]),
        ("Lower the potatoes into boiling water.", ["heat"]),
        ("Never put cooked meat back on the raw tray.", []),
        ("Serve from the hatch: potatoes, dollop onion, wedge of lime.", ["serve"]),
        ("potatoes as per packet", ["heat"]),
        ("Meat cut in chunks, in you go.", ["mix"]),
        ("Cold pan, skin down, medium heat.", []),
        ("Check the meat for bones with your fingertips.", ["touch"]),
        ("Deglaze with wine.", ["mix"]),
        ("Potatoes and onions in, two more folds.", ["mix"]),
    ],
)
def test_orders_in_few_words(words: str, dos: list[str]) -> None:
    foods = frozenset("potato potatoes onion onions meat crumbs".split())

    assert [order.do for order in orders(words, foods)] == dos


@pytest.mark.parametrize(
    ("words", "times"),
    [("Bake 15 to 20 more, or until golden.", (15, 20)), ("Press it 10m.", (10, 10)), ("Fry another 5.", (5, 5))],
)
def test_minutes_that_are_only_numbers(words: str, times: tuple[float, float]) -> None:
    assert [(order.low_min, order.high_min) for order in orders(words)] == [times]


def test_sugar_is_not_the_brown_sugar_in_hand() -> None:
    found = reading(
        "Rub the brown sugar into the pork. Warm the vinegar with the sugar.",
        "1 kg pork shoulder",
        "1 tbsp brown sugar",
        "200 ml vinegar",
        "2 tbsp sugar",
    )

    assert foods_of(found, "heat") == ["vinegar", "sugar"]


def test_what_a_label_names_is_what_its_sentence_cooks() -> None:
    found = reading("Simmer the beans for an hour. Rice: 25 minutes in the steamer.", "500 g dried beans", "300 g rice")

    assert [foods for do, foods in done(found) if do == "heat"] == [["dried beans"], ["rice"]]


def test_at_a_barbecue_the_plate_is_hot_and_the_sentence_stays_as_it_was_written() -> None:
    said = "Onions on the plate with a bit of oil, about half an hour."
    found = reading(f"Light the barbecue. {said}", "2 kg onions", "oil")

    assert ("heat", ["onions in oil"]) in done(found)
    assert said in [row.text for row in found.sentences]


def test_a_sentence_that_nobody_answers_for_is_unread_and_seen() -> None:
    document = read_document("Supper\n\n1 onion\n2 carrots\n\nMethod\nSlice the onion. Eat it.")

    assert [(row.text, row.taken) for row in _told(document, ()) if row.taken == "unread"] == [
        (text, "unread") for text in sentences("Slice the onion. Eat it.")
    ]


def test_what_is_poured_over_goes_over_what_was_cut_for_it() -> None:
    found = reading(
        "Shred the cabbage, warm the vinegar and pour over.", "1 red cabbage", "200 ml vinegar", "1 kg pork"
    )

    assert set(done(found)[2][1]) == {"red cabbage", "vinegar"}


def test_soy_sauce_in_the_middle_of_a_list_is_nothing_to_light() -> None:
    found = reading("Mix the vinegar, light soy sauce and sugar.", "1 tbsp vinegar", "1 tbsp light soy sauce", "sugar")

    assert foods_of(found, "mix") == ["vinegar", "light soy sauce", "sugar"]


def test_what_is_fried_in_oil_two_at_a_time_is_what_is_in_hand() -> None:
    found = reading("Flatten the chicken. Fry two at a time in the oil for 8 minutes.", "4 chicken breasts", "oil")

    assert set(foods_of(found, "heat")) >= {"chicken breasts", "oil"}


def test_what_went_out_of_the_pan_comes_back_into_it() -> None:
    found = reading(
        "Brown the beef in a pot and lift it onto a plate. Fry the onions in the pot. Return the beef, add the stock "
        "and simmer for 2 hours.",
        "500 g beef",
        "2 onions",
        "300 ml stock",
    )

    simmered = found.data["steps"][-1] if found.data["steps"][-1]["do"] == "heat" else found.data["steps"][-2]
    process = process_from(found.data)
    assert {"beef", "onions", "stock"} <= {part for name in simmered["foods"] for part in process.ingredients_of(name)}


def test_what_is_cut_over_the_top_falls_into_the_bowl() -> None:
    found = reading(
        "Whisk the oil in a bowl. Tear in the lettuce, halve the tomatoes over the top and crumble in the feta.",
        "2 tbsp oil",
        "1 lettuce",
        "3 tomatoes",
        "50 g feta",
    )

    assert len(process_from(found.data).ingredients_of(found.data["steps"][-1]["foods"][0])) == 4


def test_melted_and_bashed_are_stirred_together_and_called_crumbs() -> None:
    found = reading(
        "Bash the biscuits to crumbs, melt the butter, stir together. Spoon the crumbs into glasses.",
        "150 g biscuits",
        "60 g butter",
    )

    assert done(found)[-2:] == [("mix", ["biscuits", "butter"]), ("serve", ["biscuits in butter"])]


def test_the_thigh_that_a_probe_is_pushed_into_is_the_bird() -> None:
    found = reading(
        "Roast the chicken for 80 minutes. Bake the stuffing for 40 minutes. It's ready when a thermometer pushed "
        "into the thickest part of the thigh reads 75C.",
        "1 whole chicken",
        "200 g stuffing",
    )

    assert foods_of(found, "probe") == ["whole chicken"]


def test_a_labelled_row_alone_is_a_list() -> None:
    found = read_recipe(
        "Pasties\n\nPastry: plain flour 450 g, lard 100 g, butter 125 g, cold water about 8 tablespoons.\n"
        "Inside: beef skirt 400 g, potato 300 g, swede 150 g, plenty of pepper. One egg to glaze.\n\n"
        "Mix the flour and the water.",
        "en-GB",
    )

    assert {"plain flour", "lard", "butter", "water", "potato", "egg"} <= {item.food for item in found.items}


@pytest.mark.parametrize(
    ("line", "food"),
    [
        ("juice and zest 1 lemon", "lemon"),
        ("mint few sprigs", "mint"),
        ("4 bits of white fish", "white fish"),
        ("whatever cooked veg we have, about 500 g", "vegetables"),
        ("250 g cooked beetroot vac packed", "cooked beetroot"),
        ("1 hen (1.5 kg)", "hen"),
    ],
)
def test_lines_in_few_words(line: str, food: str) -> None:
    assert read_ingredient(line, "en-GB").food == food


def test_a_paragraph_of_foods_is_a_list() -> None:
    found = read_recipe(
        "Mince and tatties\n\nBeef mince 4 kg. Onions 1.5 kg. Stock 3 litres. Flour 100 g. Milk and butter for the "
        "mash. Peas, frozen, 1.5 kg.\n\n1. Brown the mince. 2. Add the stock. 3. Simmer 45 min.",
        "en-GB",
    )

    assert {"beef mince", "onions", "stock", "flour", "peas"} <= {(item.food or "").lower() for item in found.items}
    assert all("flour" not in row["foods"] for row in found.data["steps"])


def test_a_row_that_cooks_something_is_no_list_and_loses_no_food() -> None:
    found = read_recipe(
        "curry\n\nget 400g raw king prawns out, pat them dry\noil in the wok, onion in, 5 min\n"
        "2 tbsp curry paste, one more min, tin coconut milk, bring it up\nprawns in last, 3 mins",
        "en-GB",
    )

    assert {"raw king prawns", "onion", "curry paste", "coconut milk"} <= {item.food for item in found.items}


def test_brackets_in_a_labelled_row_part_nothing() -> None:
    found = read_recipe(
        "Fried rice\n\nIngredients: 3 cup cooked rice of yesterday (must be cold, from fridge), 1 cup kimchi and its "
        "juice, 4 slice bacon, 2 egg\n\nFry the bacon 4 minutes.",
        "en-GB",
    )

    assert [item.food for item in found.items if item.food] == ["cooked rice", "kimchi", "bacon", "egg"]


@pytest.mark.parametrize(
    ("text", "do", "foods"),
    [
        ("Put the potatoes on to boil for 15 minutes.", "heat", {"potatoes"}),
        ("Boil the potatoes. Set the salmon on a tray. When the potatoes are done drain them.", "pour", {"potatoes"}),
        ("Slice the onion. Oil the tin. Arrange it in the tin.", "transfer", {"onion"}),
        (
            "Peel the potatoes. Slice the onion and the carrot. Add the vegetables to the salmon.",
            "mix",
            {"salmon fillets", "onion", "carrot"},
        ),
        ("Boil the potatoes for 15 minutes. Salmon goes in last.", "transfer", {"potatoes", "salmon fillets"}),
    ],
)
def test_what_is_meant(text: str, do: str, foods: set[str]) -> None:
    found = reading(text, "500 g potatoes", "2 salmon fillets", "1 onion", "1 carrot", "1 tin chickpeas")

    assert set(foods_of(found, do)) == foods


def test_what_is_grilled_after_the_marinade_went_elsewhere_is_what_lay_in_it() -> None:
    found = reading(
        "Mix the chicken, honey and soy sauce in a bag and leave it in the fridge overnight. Thread the chicken onto "
        "skewers and tip the marinade into a mug. Grill for 12 minutes.",
        "500 g chicken thighs",
        "2 tbsp honey",
        "3 tbsp soy sauce",
    )

    assert foods_of(found, "heat") == ["marinated chicken thighs"]


def test_what_nobody_understood_still_says_what_it_is() -> None:
    found = reading(
        "The salmon wants a stern look first. Cut it into two pieces. Lay one piece in a dish.",
        "1 kg salmon",
        "1 bunch dill",
    )

    assert done(found)[:2] == [("cut", ["salmon"]), ("transfer", ["salmon"])]


def test_a_food_that_no_line_has_is_not_what_is_in_hand() -> None:
    found = reading("Mash the tuna with the mayo. Cucumbers: wash and slice.", "1 tin tuna", "3 tbsp mayo")

    assert all(do not in ("rinse", "cut") for do, _ in done(found))
    assert "unread" in [row.taken for row in found.sentences]


def test_a_cold_pan_is_where_the_next_minutes_are() -> None:
    found = reading("Score the duck. Cold pan, skin down, medium heat. 10 to 12 minutes.", "2 duck breasts")

    assert done(found)[1] == ("heat", ["duck breasts"])


def test_washed_kit_is_empty_and_what_lay_in_it_is_in_nothing_new() -> None:
    found = reading(
        "Mix the pork with the apple in a bowl and chill for 20 minutes. Wash hands, board and bowl. Mix the crème "
        "fraîche with the mustard in the bowl and add the green parts.",
        "500 g pork mince",
        "1 apple",
        "3 tbsp crème fraîche",
        "1 tbsp mustard",
    )

    process = process_from(found.data)
    last = [row for row in found.data["steps"] if row["do"] == "mix"][-1]
    assert all("pork mince" not in process.ingredients_of(name) for name in last["foods"])


def test_another_part_of_the_dish_begins_with_nothing_in_hand() -> None:
    found = read_recipe(
        "Stew with flatbreads\n\nStew\n2 onions\n1 tin tomatoes\n\nFlatbreads\nAP flour ........ 4 cups\n"
        "plain yogurt ........ 2 cups\nbaking powder ........ 4 tsp\n\nMethod\nSTEW: Fry onions 8 min. Add tomatoes.\n"
        "FLATBREADS: Combine dry. Add yogurt, knead 2 min.",
        "en-US",
    )

    process = process_from(found.data)
    kneaded = next(row for row in found.data["steps"] if row["do"] == "touch")
    parts = process.ingredients_of(kneaded["foods"][0])
    assert {"ap flour", "plain yogurt", "baking powder"} == parts


def test_it_is_what_the_same_words_cut() -> None:
    found = reading("Bake the fish. Shred the cabbage thin, squeeze of lime over it.", "4 fish", "1 cabbage", "1 lime")

    assert set(foods_of(found, "cut")) <= {"cabbage", "lime"}


def test_what_is_listed_before_a_simmer_goes_into_the_hot_pan() -> None:
    found = reading(
        "Sweat the leeks in a pot, 10 min.\nbarley + stock + thyme. simmer 25",
        "2 leeks",
        "100 g barley",
        "stock",
        "thyme",
    )

    process = process_from(found.data)
    last = [row for row in found.data["steps"] if row["do"] == "heat"][-1]
    assert last["minutes"] == 25
    assert process.ingredients_of(last["foods"][0]) == {"leeks", "barley", "stock", "thyme"}


@pytest.mark.parametrize(
    ("text", "do", "foods"),
    [
        ("Mix the marinade in a bag. Add the pork.", "mix", {"yoghurt", "cumin"}),
        ("Tip the pork in the sink and rinse it.", "rinse", {"pork"}),
        ("Fry the pork in a pot. Turn the heat up, in with the yoghurt.", "mix", {"pork", "yoghurt"}),
    ],
)
def test_what_is_meant_by_a_part_a_place_and_a_way_of_speaking(text: str, do: str, foods: set[str]) -> None:
    found = reading(text, "1 kg pork", "For the marinade", "4 tbsp yoghurt", "1 tsp cumin")

    assert set(foods_of(found, do)) == foods


def test_a_row_of_cooked_food_with_its_amount_behind_is_no_storage_advice() -> None:
    found = read_recipe(
        "Soup\n\nleftover roast turkey, 500g, picked off the bone & been in fridge\n2 leeks\n3 carrots\n\nslice leeks.",
        "en-GB",
    )

    assert "leftover roast turkey" in [item.food for item in found.items]


COLUMN = """Fish pie            serves 6

600g mixed white fish, in
big chunks
500ml whole milk
1kg floury potatoes

Put the fish in a wide pan with the
milk. Bring just to a simmer and then
leave for 5 minutes. Lift out with a
slotted spoon and keep the milk.
Meanwhile boil the potatoes for 15-
20 minutes, drain and mash."""


def test_a_narrow_column_is_read_as_its_sentences() -> None:
    found = read_recipe(COLUMN, "en-GB")

    said = [row.text for row in found.sentences]
    assert "Put the fish in a wide pan with the milk." in said
    assert "Meanwhile boil the potatoes for 15-20 minutes, drain and mash." in said
    assert not any(row.text.startswith("big chunks") for row in found.sentences)


def test_the_pork_is_the_pork_belly_and_no_sausage() -> None:
    found = reading(
        "Marinate the pork with the soy sauce for 20 minutes.",
        "200 g pork belly, diced",
        "2 Chinese sausages",
        "2 tbsp soy sauce",
    )

    assert foods_of(found, "marinate") == ["pork belly", "soy sauce"]


def test_everything_in_is_all_that_was_made_ready() -> None:
    found = reading(
        "Cook the pasta and drain it. Slice the pepper. Mix the yoghurt and lemon in a bowl. Everything in. Stir.",
        "250 g pasta",
        "1 pepper",
        "4 tbsp yoghurt",
        "1 lemon",
    )

    process = process_from(found.data)
    made = [row["makes"] for row in found.data["steps"] if row.get("makes")]
    assert process.ingredients_of(made[-1]) == {"pasta", "pepper", "yoghurt", "lemon"}


def test_fish_that_should_flake_and_be_63_is_measured() -> None:
    found = reading(
        "Bake the salmon for 12 minutes. It should flake and be 63 in the thickest bit.", "2 salmon fillets"
    )

    assert [row["end"]["core_c"] for row in found.data["steps"] if row["do"] == "probe"] == [63]


# --- counted back from the end -------------------------------------------------------------------------------------


def minutes(found: Reading) -> list[tuple[str, float]]:
    return [(row["do"], row.get("minutes", 0)) for row in found.data["steps"] if row["do"] != "serve"]


@pytest.mark.parametrize(
    "addition",
    [
        "With five minutes to go, stir in the peas.",
        "Stir in the peas for the last 5 minutes.",
        "Add the peas 5 minutes before the end.",
        "Peas in for the last five.",
        "Five minutes before they're done, scatter over the peas.",
    ],
)
def test_what_goes_in_before_the_end_parts_the_cook(addition: str) -> None:
    found = reading(f"Boil the potatoes for 20-25 minutes until tender. {addition}", "1 kg potatoes", "200 g peas")

    heats = [row for row in found.data["steps"] if row["do"] == "heat"]
    assert [(row["low_min"], row["minutes"]) for row in heats] == [(15, 20), (5, 5)]
    assert heats[-1]["end"] == {"cue": "tender"}
    assert "end" not in heats[0]
    assert process_from(found.data).ingredients_of(heats[-1]["foods"][0]) == {"potatoes", "peas"}
    assert sum(time for _, time in minutes(found)) == 25


def test_a_short_fry_is_parted_too() -> None:
    found = reading("Fry the onions for 10 minutes. Stir in the peas for the last 3 minutes.", "2 onions", "200 g peas")

    assert [row["minutes"] for row in found.data["steps"] if row["do"] == "heat"] == [7, 3]


def test_the_core_temperature_is_for_the_end_of_the_cook() -> None:
    found = reading(
        "Roast the chicken in the oven for 60 minutes until the core reads 75C. With 20 minutes to go, pour over the "
        "honey.",
        "1 whole chicken",
        "2 tbsp honey",
    )

    heats = [row for row in found.data["steps"] if row["do"] in ("heat", "part_cook")]
    assert [(row["do"], row["minutes"]) for row in heats] == [("part_cook", 40), ("heat", 20)]
    assert heats[1]["end"]["core_c"] == 75


def test_other_work_done_by_then_takes_no_such_time() -> None:
    found = reading(
        "Simmer the beef in the stock for 2 hours. With ten minutes to go, wipe the worktop and rinse the cabbage.",
        "500 g beef",
        "300 ml stock",
        "1 cabbage",
    )

    assert minutes(found)[1:] == [("wipe", 0), ("rinse", 0)]


def test_a_cook_no_longer_than_that_keeps_its_time_and_somebody_looks() -> None:
    found = reading("Fry the onions for 5 minutes. Stir in the peas for the last 10 minutes.", "2 onions", "200 g peas")

    heats = [row for row in found.data["steps"] if row["do"] == "heat"]
    assert [row["minutes"] for row in heats] == [5, 10]
    assert heats[1]["guesses"] == ["time"]


# --- answers -------------------------------------------------------------------------------------------------------


def test_an_answer_about_the_spoon_says_nothing_of_the_bowl() -> None:
    found = reading("Mix the mince with the egg. Mix the tomatoes with the oil.", "mince", "egg", "tomatoes", "oil")
    first = found.data["steps"][0]
    bowl, spoon = first["tools"]

    data = say_way(found.data, first["id"], spoon, "said", lambda sort: [f"clean {sort}"])
    asked = say_way(data, first["id"], bowl, "another", lambda sort: [f"clean {sort}"])

    assert data["steps"][0]["guesses"]
    assert data["steps"][0]["settled"] == [spoon]
    assert "clean bowl" in asked["steps"][0]["tools"]
    assert "tools" not in asked["steps"][0]["guesses"]


def test_what_is_set_out_keeps_its_name_when_the_text_gives_it_one() -> None:
    kitchen = FoodsInHand(())
    kitchen.put(FoodInHand(id="crumbs mixture", names=[("mixture",)], made=True))
    kitchen.set_out = ["crumbs mixture"]

    kitchen.rename("crumbs mixture", "coating")

    assert kitchen.set_out == ["coating"]

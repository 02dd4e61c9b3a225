"""As sheets for a class and scraps of a kitchen are written: what they are of, parts that are made, bare rows."""

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.recipes import process_from, read_recipe
from foodsafety.recipes.questions import open_questions
from tests.core.recipes.read import done, reading, step


@pytest.mark.parametrize(
    ("head", "title"),
    [
        ("Year 8 Food Tech, lesson 4\nLeek pancakes (serves 2)", "Leek pancakes (serves 2)"),
        ("FOOD TECH  Y9\nLEEK PANCAKES", "LEEK PANCAKES"),
        ("Cookery club week 2: leek pancakes", "leek pancakes"),
        ("Leek pancakes: the quick ones", "Leek pancakes: the quick ones"),
        ("Lesson 3\nWhat we learn today", "Lesson 3"),
    ],
)
def test_a_sheet_is_called_by_its_dish_and_not_by_its_class(head: str, title: str) -> None:
    text = f"{head}\n\n2 leeks\n100 g plain flour\n1 egg\n\nMethod\nSlice the leeks. Fry them."

    assert read_recipe(text, "en-GB").document.title == title


def test_pastry_over_its_flour_is_a_part_and_over_eggs_it_is_bought() -> None:
    method = "\n\nMethod\n1 Roll out the pastry.\n2 Bake 30 mins."
    made = read_recipe(f"Tart\n\nPastry\n150g plain flour\n75g butter\n\nFilling\n3 eggs{method}", "en-GB")
    bought = read_recipe(f"Tart\n\nPastry\n3 eggs\n200 ml milk{method}", "en-GB")

    assert [item.food for item in made.items if item.food] == ["plain flour", "butter", "eggs"]
    assert "Pastry" in [item.food for item in bought.items]


def test_an_oven_that_is_set_above_the_list_bakes_what_comes() -> None:
    text = "Leek tart\nOven 190C\n\n2 leeks\n3 eggs\n\nMethod\nWhisk the eggs with the leeks in a tin. Bake 30 mins."

    assert step(read_recipe(text, "en-GB"), "heat")["heat"]["oven_c"] == 190


def test_a_weighed_food_with_a_note_behind_it_is_in_the_list() -> None:
    rows = "rice from last night, 3kg, check label\nprawns raw peeled 1.5kg, thaw in fridge\neggs 20"
    found = read_recipe(f"Fried rice\n\n{rows}\n\n1. Fry it.", "en-GB")

    assert [(item.food, item.low, item.unit) for item in found.items] == [
        ("rice", 3, "kg"),
        ("raw peeled prawns", 1.5, "kg"),
        ("eggs", 20, None),
    ]


def test_toppings_without_amounts_are_foods_and_are_added_together() -> None:
    found = reading(
        "Simmer the lentils for 20 minutes.\nLadle soup into bowls.\nAdd toppings.",
        "200 g red lentils",
        "1 l water",
        "Toppings: grated cheddar, sour cream, coriander, tortilla chips",
        title="Lentil soup",
    )

    assert done(found)[-1][1][-4:] == ["cheddar", "sour cream", "coriander", "tortilla chips"]
    assert "milk" in {name for item in found.items for name in item.allergens}


def test_a_full_stop_behind_a_food_ends_a_sentence() -> None:
    found = reading("beat eggs. scramble in hot wok till set", "6 eggs")

    assert [do for do, _ in done(found)][:2] == ["mix", "heat"]


@pytest.mark.parametrize(
    ("text", "does"),
    [
        ("Board, knife and hands all go to the sink now.", {"clean", "wash_hands"}),
        ("Team 2 then scrubs up, and wipes down round the hob.", {"wash_hands"}),
        ("Tables wiped with the blue spray.", {"wipe"}),
        ("NB tray the raw chicken came on -> dishwasher, and hands!", {"clean", "wash_hands"}),
        ("hands", {"wash_hands"}),
        ("Scrub up the potatoes.", {"rinse"}),
        ("Green board for veg, red board for raw meat.", set()),
    ],
)
def test_kit_and_hands_are_washed_by_other_words_and_by_no_word_that_is_not_theirs(text: str, does: set[str]) -> None:
    found = reading(text, "400 g potatoes", "1 chicken breast")

    assert {do for do, _ in done(found)} - {"serve"} == does


def test_food_that_goes_in_before_the_end_is_added_and_its_time_counts_back() -> None:
    found = reading(
        "Simmer the stew for 45 mins. Ten minutes before the end the beans go in.", "500 g stewing beef", "1 tin beans"
    )

    assert any(do == "mix" and "beans" in foods for do, foods in done(found))


def test_what_is_only_told_of_a_dish_orders_nothing() -> None:
    found = reading(
        "Fry the koftas for 12 minutes, turning every minute, until there's no pink when you pull one apart.\n"
        "Onto a clean plate (not the one they sat on raw).\n2 days max.\nNever heat it twice.\n"
        "Why must minced meat be cooked through when a steak can be pink?\nNothing sits out over 2 hrs.",
        "500 g lamb koftas",
    )

    assert [do for do, _ in done(found) if do != "serve"] == ["heat"]
    assert [row.taken for row in found.sentences][-4:] == ["storage", "storage", "tip", "storage"]
    assert [item.food for item in found.items] == ["lamb koftas"]


@pytest.mark.parametrize(
    ("text", "soil"),
    [
        ("Marinate the chicken in lime. Cut the biggest piece in half: white all through. Serve.", "raw_poultry"),
        ("Mix the eggs and the flour. 20 minutes in the oven, switched off. Serve.", "raw_egg"),
        ("Dice the beef. Chill the tartare, 20-30. Serve.", "raw_meat"),
        ("Chicken wings 75. Toss with the oil. Serve.", "raw_poultry"),
        ("Slice the beef. Low in the oil for an hour. Serve.", "raw_meat"),
        ("Fry the chicken and prawns for 9 minutes until the prawns are pink. Serve.", "raw_poultry"),
    ],
)
def test_what_only_sounds_like_heat_cooks_nothing(text: str, soil: str) -> None:
    lines = (
        "2 chicken breasts",
        "1 kg chicken wings",
        "300 g beef fillet",
        "2 eggs",
        "200 g flour",
        "200 g raw prawns",
    )
    found = reading(text, *lines, "oil")
    assert found.process is not None

    assert ("no-kill-step", soil) in {(row.rule, row.soil) for row in find_contamination(found.process)}


def test_food_from_frozen_is_cooked_in_what_is_hot_and_not_in_cold_water() -> None:
    hot = reading("Peas from frozen, 4 minutes in boiling water.", "400 g peas")
    cold = reading("Prawns from frozen, 20 minutes in cold water. Serve.", "400 g raw prawns")

    assert done(hot)[0] == ("heat", ["peas"])
    assert "heat" not in {do for do, _ in done(cold)}
    assert cold.process is not None
    assert {row.rule for row in find_contamination(cold.process)} == {"no-kill-step"}


@pytest.mark.parametrize("kit", ["board", "knife"])
def test_the_same_kit_for_what_is_eaten_raw_holds_the_recipe_up(kit: str) -> None:
    found = reading(f"Dice the chicken. Fry it. Same {kit} for the cucumber. Serve.", "400 g chicken", "1 cucumber")

    assert f"Same {kit} for the cucumber." in [row.text for row in found.sentences if row.taken == "unread"]
    assert not found.may_confirm


@pytest.mark.parametrize("text", ["New potatoes scrub up nicely.", "Boards wiped.", "Board wiped with a dry cloth."])
def test_what_only_sounds_like_a_wash_washes_nothing(text: str) -> None:
    found = reading(f"Dice the chicken. {text} Fry it.", "400 g chicken", "500 g new potatoes")

    assert {do for do, _ in done(found)}.isdisjoint({"wash_hands", "clean"})


def test_work_beside_who_sees_to_what_is_read() -> None:
    found = reading("Person A takes the chicken and dices it, Person B does everything else. Fry it.", "400 g chicken")

    assert "transfer" in {do for do, _ in done(found)}
    assert [row.taken for row in found.sentences if row.text.startswith("Person")] == ["step"]


def test_raw_fish_beside_raw_meat_is_a_food_of_its_own() -> None:
    text = (
        "Dice the raw fish and put it on the lettuce. Fry two chicken breasts for 12 minutes until no longer pink."
        " Serve the chicken with the salad."
    )
    found = read_recipe(text, "en-GB")

    assert "raw fish" in [item.food for item in found.items]


def test_minutes_and_figures_of_nutrition_are_no_food() -> None:
    told = read_recipe(
        "Get two onions and three kilos of beef mince. The onions go in the fat for ten minutes and the mince goes"
        " back. Hands washed between the raw meat and anything else.",
        "en-GB",
    )
    listed = read_recipe(
        "Soup\n\n2 leeks\n1 l stock\n\nMethod\nBoil the leeks.\n\nNutrition per serving: 410 calories, 22 g fat",
        "en-GB",
    )

    assert [item.food for item in told.items] == ["onions", "beef mince"]
    assert [item.food for item in listed.items] == ["leeks", "stock"]


def test_a_core_beside_a_food_is_measured() -> None:
    found = reading("Bake the sausages for 30 mins.\nRisen, sausages 75.", "8 chipolatas")

    assert step(found, "probe")["end"]["core_c"] == 75


def test_a_gap_ends_the_foods_of_a_part_and_everything_for_it_is_its_own() -> None:
    rows = "Paste\n6 shallots\n6 cloves garlic\n\n1kg beef shin\n400ml coconut milk"
    found = read_recipe(f"Curry\n\n{rows}\n\nMethod\nWhizz everything for the paste. Fry it. Add the beef.", "en-GB")

    assert [found.component(n) for n, item in enumerate(found.items) if item.food] == ["paste", "paste", "", ""]
    assert done(found)[0] == ("mix", ["shallots", "garlic"])


def test_who_sees_to_what_moves_no_food() -> None:
    found = reading(
        "Person A takes the raw chicken, Person B everything else.\nPerson B: wash the pepper.\n"
        "Person A takes the chicken out of the pack.",
        "2 chicken thighs",
        "1 pepper",
    )

    assert [row.taken for row in found.sentences][-3] == "tip"
    assert done(found)[:2] == [("rinse", ["pepper"]), ("transfer", ["chicken thighs"])]


def test_what_a_dish_could_be_made_with_instead_is_none_of_its_food() -> None:
    found = reading("Bake the tuna for 20 minutes.\nVariations: use chicken or salmon in place of tuna.", "2 cans tuna")

    assert [item.food for item in found.items] == ["tuna"]


def test_what_a_school_provides_is_in_the_list_without_an_amount() -> None:
    head = "Burritos\nSchool provides: oil, rice (cooked this morning and chilled)\nBring: 2 tortillas, 1 onion"
    text = f"{head}\n\nFry the onion."
    assert [item.food for item in read_recipe(text, "en-GB").items if item.food] == [
        "oil",
        "rice",
        "tortillas",
        "onion",
    ]


def test_a_count_of_something_unknown_under_a_heading_is_asked_about_and_no_talk() -> None:
    text = "Rolls\n\nFor the rolls\n12 quillings\n100 g rice\n1 carrot\n\nMethod\nBoil the rice."
    assert [item.food for item in read_recipe(text, "en-GB").items if item.food] == ["quillings", "rice", "carrot"]


def test_a_weighed_food_that_only_the_method_has_is_an_ingredient() -> None:
    found = reading("The night before: cook 500 g rice, spread on a tray and chill.", "2 onions", "1 carrot")
    assert "rice" in [item.food for item in found.items]
    assert ("heat", ["rice"]) in done(found)


@pytest.mark.parametrize(
    ("said", "do", "foods"),
    [
        ("While it boils, somebody else should be chopping: leeks, carrots and celery, all small.", "cut", 3),
        ("First off wash the leeks, they're always gritty, and slice them.", "rinse", 1),
        ("An hour before eating, grate the carrots.", "grate", 1),
        ("Wash hands. Split & grate the carrots.", "cut", 1),
    ],
)
def test_who_does_it_and_when_is_told_before_the_order(said: str, do: str, foods: int) -> None:
    found = step(reading(said, "2 leeks", "3 carrots", "2 sticks celery"), do)
    assert len(found["foods"]) == foods
    assert not found.get("minutes")


def test_sides_that_are_folded_in_have_nothing_stirred_into_them() -> None:
    text = "Whisk the oil and vinegar. Put the carrot on each tortilla. Fold in the sides and roll up."
    found = reading(text, "1 tbsp oil", "1 tbsp vinegar", "4 tortillas", "1 carrot")
    assert not {"oil", "vinegar"} & {name for do, foods in done(found) if do == "touch" for name in foods}


def test_bread_that_is_served_with_a_stew_is_not_the_stew() -> None:
    found = reading(
        "Fry the onions. Add the lentils and tomatoes. Simmer 25 min. Serve with hunks of bread.",
        "2 onions",
        "1 tin lentils",
        "1 tin chopped tomatoes",
        "crusty bread to serve",
    )
    assert "bread" not in {row.get("makes") for row in found.data["steps"]}


def test_a_text_told_in_one_go_says_how_many_it_feeds() -> None:
    found = read_recipe(
        "So this is my aunt's leek pie, serves about five. You want three leeks and an egg. Bake it.", "en-GB"
    )
    assert found.document.serves == 5
    assert read_recipe("Leek pie (for 4)\n\n2 leeks\n1 egg\n\nMethod\nBake it.", "en-GB").document.serves == 4


def test_a_part_that_says_when_it_is_made_is_a_part_of_its_own() -> None:
    lists = "Flatbreads (do first)\n250 g self raising flour\n250 g yoghurt\n\nFalafel\n2 tins chickpeas\n1 onion"
    method = "Flatbreads: mix everything to a dough. Falafel: blitz the chickpeas with the onion."
    found = read_recipe(f"Lunch\n\n{lists}\n\nMethod\n{method}", "en-GB")

    assert ("mix", ["self raising flour", "yoghurt"]) in done(found)


def test_a_greeting_is_no_title_and_a_row_with_a_pan_in_its_label_is_food() -> None:
    rows = "For the tray: 500 g leeks, 1 tsp cumin\nFor the pan: 2 peppers, 1 onion"
    text = f"Hi all, here it is!\n\nLeek fajitas\n\n{rows}\n\nFry it."
    found = read_recipe(text, "en-GB")

    assert found.document.title == "Leek fajitas"
    assert [item.food for item in found.items if item.food] == ["leeks", "cumin", "peppers", "onion"]


def test_what_something_is_made_of_stands_in_brackets_behind_it() -> None:
    row = "For the table: 8 tortillas, guacamole (2 avocados, juice of 1 lime, 1 tomato), 100 g cheese"
    found = read_recipe(f"Wraps\n\n{row}\n\nMash the avocados with the lime. Fold in the tomato.", "en-GB")

    assert [item.food for item in found.items if item.food] == ["tortillas", "avocados", "lime", "tomato", "cheese"]


@pytest.mark.parametrize(
    ("said", "do", "foods"),
    [
        ("Put the rice on.", "heat", ["rice"]),
        ("Bash the chicken out between sheets of cling film to 1cm.", "touch", ["chicken"]),
        ("Meanwhile - SEPARATE BOARD - cut chicken into chunks.", "cut", ["chicken"]),
        ("Peas in if using.", "mix", ["peas"]),
    ],
)
def test_orders_in_the_words_of_a_kitchen(said: str, do: str, foods: list[str]) -> None:
    found = reading(f"Boil the stock. {said}", "300 g rice", "4 chicken breasts", "100 g peas", "1 l stock")
    own = found.data["steps"][1]

    assert own["do"] == do
    assert any(name.split()[0] == foods[0].split()[0] for name in own["foods"])


def test_what_is_put_back_is_what_was_cooked_and_not_the_rest_of_the_list() -> None:
    text = "Fry the peppers, take them out. Fry the leeks. Put everything back in for a minute. Warm the naans."
    steps = reading(text, "2 peppers", "2 leeks", "8 naans").data["steps"]
    back = next(row for row in steps if len(row["foods"]) > 1)

    assert sorted(back["foods"]) == ["leeks", "peppers"]


def test_a_pan_that_boils_is_not_fried_in() -> None:
    found = reading("Boil the rice. Flour the leeks. Shallow fry 4 mins a side.", "300 g rice", "2 leeks", "50 g flour")
    kinds = {name: row["kind"] for name, row in found.data["tools"].items()}
    boiled, fried = ([kinds[tool] for tool in row["tools"]] for row in found.data["steps"] if row["do"] == "heat")

    assert (boiled, fried) == (["saucepan"], ["frying pan"])


def test_bread_that_is_brown_is_a_line_of_the_list() -> None:
    found = read_recipe(
        "Soup\n\n2 leeks\n1 l stock\nbrown bread & butter\n\n1. Simmer the leeks in the stock.", "en-GB"
    )
    assert [row["do"] for row in found.data["steps"]] == ["heat", "serve"]


def test_rows_of_a_morning_by_the_clock_are_work_and_no_food() -> None:
    rows = "9.00 peel potatoes.\n10.30 ovens 190. trays in. 45 min.\n11.20 drain and mash with butter.\n11.30 gravy."
    found = read_recipe(f"Lunch club\n\npotatoes 8kg\nbutter 500g\n60 sausages\n\n{rows}", "en-GB")

    assert [item.food for item in found.items if item.food] == ["potatoes", "butter", "sausages"]
    assert ("peel", ["potatoes"]) in done(found)


def test_steps_numbered_by_the_romans_are_told_with_their_sentences() -> None:
    method = "i) Rinse rice and boil it 12 min.\nii) Chop leeks.\niii) Fry leeks.\niv) Serve."
    found = read_recipe(f"Rice\n\n200 g rice\n2 leeks\n\nMethod\n{method}", "en-GB")

    assert all(said.taken != "unread" for said in found.sentences)


def test_minutes_at_a_number_that_only_an_oven_has_are_baked() -> None:
    found = reading("Mix the leeks and cheese in a dish. 25-30 min at 180 till golden.", "2 leeks", "100 g cheese")
    assert (step(found, "heat")["heat"]["oven_c"], step(found, "heat")["minutes"]) == (180, 30)


def test_a_little_oil_is_no_little_gem_and_a_part_of_the_dish_no_line() -> None:
    text = "Gems\n\nFor the pickle\n1 carrot\n2 tbsp vinegar\n\nTo serve\n1 little gem\n\nMethod\n"
    found = read_recipe(
        f"{text}Toss the carrot with the vinegar. Heat a little oil. Serve with drained pickle.", "en-GB"
    )

    assert [item.food for item in found.items if item.food] == ["carrot", "vinegar", "little gem"]
    assert ("heat", ["little gem"]) not in done(found)


def test_what_is_made_and_served_by_nobody_is_asked_about_though_nothing_raw_is_in_it() -> None:
    text = "Boil the leeks and mix them with the butter. Boil the rice. Serve the rice."
    found = reading(text, "2 leeks", "50 g butter", "200 g rice")
    steps = [row | {"foods": ["rice"]} if row["do"] == "serve" else row for row in found.data["steps"]]
    data = {**found.data, "steps": steps, "serve": ["rice"]}
    asked = open_questions(found.items, data, process_from(data))

    assert [(row.foods, row.holds) for row in asked if row.why == "goes-nowhere"] == [(("leeks in butter",), False)]


def test_what_looks_like_the_clock_and_is_an_amount_keeps_it() -> None:
    found = read_recipe("Stew\n\n1.25 pounds chicken\n2.50 onions\n\nMethod\nFry it.", "en-GB")
    assert [(item.low, item.food) for item in found.items if item.food] == [(1.25, "chicken"), (2.5, "onions")]


def test_work_behind_a_warning_is_read_and_food_behind_a_wish_is_not_lost() -> None:
    found = reading("Don't let the children touch it, chop the leeks. Put it all back in the fridge.", "2 leeks")
    assert ("cut", ["leeks"]) in done(found)
    item = read_recipe("Pie\n\n1 tin beans, if you prefer use raw chicken\n2 leeks\n\nFry it.", "en-GB").items[0]
    assert "raw-hidden" in item.doubts


def test_water_poured_over_food_in_a_bowl_that_is_named_is_in_that_bowl() -> None:
    found = reading(
        "Put the chicken in a bowl. Pour boiling water over the noodles in the bowl.", "1 chicken", "100 g noodles"
    )
    assert step(found, "pour")["tools"] == ["bowl"]


def test_a_brine_is_asked_about_though_another_food_was_lifted_out_of_its_marinade() -> None:
    text = "Marinate the chicken in the soy. Lift it out of its marinade and fry until 75C. Spoon the brine over it."
    found = reading(text, "500 g chicken", "3 tbsp soy sauce", "1 tbsp honey")
    assert any(row.holds for row in found.questions)


def test_a_method_that_is_counted_is_no_list_whatever_its_rows_name() -> None:
    rows = ["1. Scrub the potatoes.", "2. Put the thighs on top and roast for 45 minutes.", "3. Wash your hands."]
    rows += ["4. A thermometer in the thickest thigh should read 75 C.", "5. Two thighs each, yoghurt on the side."]
    found = read_recipe("\n".join(["Tray of thighs", "", "8 chicken thighs", "500 g potatoes", "", *rows]), "en-GB")

    assert found.document.ingredients == ("8 chicken thighs", "500 g potatoes")
    assert [step["do"] for step in found.data["steps"]][-2:] == ["probe", "serve"]


def test_everything_is_not_what_is_only_chopped_or_added_later() -> None:
    foods = "8 chicken thighs\n2 red peppers\n2 tbsp oil\n100 g yoghurt\n1 handful mint"
    method = "Everything in the big tin, with the oil.\nRoast at 200 C for 45 minutes.\nChop the mint into the yoghurt."
    found = read_recipe(f"Thighs\n\n{foods}\n\nMethod\n{method}\nServe.\n", "en-GB")

    assert set(found.data["steps"][0]["foods"]) == {"chicken thighs", "red peppers", "oil"}

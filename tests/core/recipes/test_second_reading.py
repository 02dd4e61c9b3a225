"""What a sentence says and its steps have not is asked about; and what two lots of new texts showed to be lost."""

import pytest

from foodsafety.recipes import Reading, read_recipe
from foodsafety.recipes.documents import read_document
from foodsafety.recipes.ingredients import read_ingredient
from foodsafety.recipes.times_and_heats import temperatures_in
from tests.core.recipes.read import done, reading, step

# --- what is asked -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "guess"),
    [
        ("Fry the chicken for 8 minutes and see that it says 75 everywhere.", "degrees"),
        ("Heat the oven to 200C. Bake the chicken 30 minutes and make sure that you have 75 degrees.", "degrees"),
        ("Crack the eggs in a mug beat with a fork wash hands again because of the shells.", "work"),
        ("Fry the chicken and the onion and pile on the slaw.", "called"),
    ],
)
def test_what_no_step_of_a_sentence_has_is_asked_about(text: str, guess: str) -> None:
    found = reading(text, "2 chicken breasts", "2 eggs", "1 onion")

    assert guess in {name for row in found.data["steps"] for name in row.get("guesses", ())}


@pytest.mark.parametrize(
    "text",
    [
        "With clean hands lay out the wraps.",
        "Heat the oven to 180C. Bake the chicken for 40 minutes.",
        "Put the chicken in the cake tin and bake it at 180C.",
        "Work the butter into the flour with your fingers.",
    ],
)
def test_nothing_is_asked_that_is_not_said(text: str) -> None:
    found = reading(text, "2 chicken breasts", "8 wraps", "50 g butter", "100 g flour")
    guesses = {name for row in found.data["steps"] for name in row.get("guesses", ())}

    assert guesses.isdisjoint({"degrees", "work", "called"})


def test_a_temperature_in_a_sentence_without_a_step_is_not_passed_over() -> None:
    found = reading("Put the sausages in a pan. Fry for 20 minutes. The leader is happy at 78C.", "8 sausages")

    assert found.sentences[-1].taken == "unread"


# --- lines ---------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("line", "allergen"),
    [
        ("milk 200ml mixed with 75ml water", "milk"),
        ("2 carrots, 2 sticks celery", "celery"),
        ("prawns in garlic butter", "crustaceans"),
    ],
)
def test_no_allergen_of_a_line_is_lost_behind_its_first_food(line: str, allergen: str) -> None:
    item = read_ingredient(line, "en-GB")

    assert allergen in item.allergens
    assert "food-unsure" in item.doubts


def test_several_foods_of_a_line_are_a_line_each() -> None:
    text = "Soup\n\nFor the soup: 500g split peas; 2 carrots, 2 sticks celery, 1 onion, all diced; 1 bay leaf\n"

    assert read_document(text).ingredients == (
        "For the soup:",
        "500g split peas",
        "2 carrots, diced",
        "2 sticks celery, diced",
        "1 onion, diced",
        "1 bay leaf",
    )


def test_what_has_no_label_does_not_belong_to_the_label_before() -> None:
    found = read_recipe(
        "Fish\n\n4 salmon fillets\ntartare: 4 tbsp mayo, 1 tbsp capers, 2 gherkins\n4 potatoes\n", "en-GB"
    )
    parts = {item.food: found.component(n) for n, item in enumerate(found.items) if item.food}

    assert parts["capers"] == "tartare"
    assert parts["potatoes"] == ""


def test_a_heading_for_the_end_of_the_list_names_no_part() -> None:
    text = (
        "Cups\n\nFor the crema:\n1/2 cup yogurt\n1 lime\nTo assemble:\n1 lettuce\n1 avocado\n\n"
        "Method\nMake the crema: whisk everything together."
    )
    found = read_recipe(text, "en-US")

    assert done(found)[0] == ("mix", ["yogurt", "lime"])
    assert found.data["steps"][0]["makes"] == "crema"


def test_work_behind_a_label_is_no_list_of_foods() -> None:
    text = (
        "Fish\n\n4 salmon fillets\n4 potatoes\n2 tbsp oil\n"
        "grown ups: potatoes into chips, dry well, oil + salt, 220 for 35 min"
    )
    found = read_recipe(text, "en-GB")

    assert [do for do, _ in done(found)][:1] == ["cut"]
    assert step(found, "heat")["heat"]["oven_c"] == 220


def test_running_text_names_no_food_that_it_only_compares_with_or_does_without() -> None:
    text = (
        "Fish cakes\n\nYou want 400 g of smoked haddock, 400 g of potatoes and some flour. Poach the fish for eight"
        " minutes. Mash the potatoes, no milk no butter. Shape eight cakes. Fry till the colour of toast."
    )
    foods = {item.food for item in read_recipe(text, "en-GB").items}

    assert foods == {"smoked haddock", "potatoes", "flour"}


# --- what "everything" and "in" are --------------------------------------------------------------------------------


def test_everything_is_of_the_part_that_the_sentence_begins_with() -> None:
    text = (
        "Rolls\n\n250 g cooked prawns\n1 mango\nDip:\n3 tbsp peanut butter\n1 tbsp lime juice\n\nMethod\n"
        "Slice the mango. For the dip, whisk everything in a bowl. Arrange the prawns and mango on plates."
    )

    assert done(read_recipe(text, "en-GB"))[1] == (
        "mix",
        ["peanut butter", "lime juice"],
    )


def test_what_is_tipped_in_goes_into_the_pot_in_use() -> None:
    found = reading("Soften the onions in a big pot. Tip in the beans. Simmer 20 min.", "2 onions", "2 tins beans")

    assert [row["tools"] for row in found.data["steps"]][:3] == [["pot"]] * 3
    assert step(found, "transfer")["foods"] == ["onions", "beans"]


def test_the_lot_is_not_what_is_in_the_oven() -> None:
    found = reading(
        "Roast the chicken in the oven at 190C for 40 minutes. While it cooks, chop the tomatoes and slice the onion."
        " Tip the lot into a bowl.",
        "4 chicken thighs",
        "4 tomatoes",
        "1 onion",
    )

    assert step(found, "transfer")["foods"] == ["tomatoes", "onion"]


def test_a_list_goes_on_at_its_commas() -> None:
    found = reading(
        "Tip the beans, tomatoes, ketchup and paprika into a pan.",
        "1 tin beans",
        "1 tin tomatoes",
        "ketchup",
        "paprika",
    )

    assert done(found)[0][1] == ["beans", "tomatoes", "ketchup", "paprika"]


# --- ways of saying ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "first"),
    [
        ("Chicken into strips, finger-width.", ("cut", ["chicken"])),
        ("Eggs into the well.", ("mix", ["eggs"])),
        ("Mash anchovies + garlic to a paste.", ("mix", ["anchovies", "garlic"])),
        ("Wash all the veg.", ("rinse", ["carrots"])),
        ("Rice in boiling water 12 min.", ("heat", ["rice"])),
        ("Soak the rice in the milk while you chop the carrots.", ("rest", ["rice", "milk"])),
        ("Over this pour the milk.", ("pour", ["milk"])),
        ("Hands again!", ("wash_hands", [])),
        ("First thing they do is wash their hands.", ("wash_hands", [])),
        ("Under a hot grill: 12 minutes.", ("heat", ["chicken"])),
    ],
)
def test_an_order_is_read_however_it_is_put(text: str, first: tuple[str, list[str]]) -> None:
    lines = ["1 chicken", "2 eggs", "4 anchovies", "1 garlic", "200 g rice", "200 ml milk", "3 carrots"]
    if "grill" in text:
        lines = lines[:1]

    assert done(reading(text, *lines))[0] == first


def test_a_word_for_what_is_cut_while_something_soaks_is_an_order() -> None:
    found = reading("Soak the oats in the milk while you chop the onion.", "100 g oats", "200 ml milk", "1 onion")

    assert ("cut", ["onion"]) in done(found)


def test_a_low_heat_cooks_and_pouring_over_goes_into_the_pan() -> None:
    found = reading(
        "Soften the leeks in a pan. Beat the eggs. Pour over. Low heat, 5 min until set.", "2 leeks", "4 eggs"
    )

    last = found.data["steps"][-2:]
    assert any(row["do"] == "heat" and row["minutes"] == 5 for row in last)


def test_plates_set_out_are_what_each_piece_is_coated_with() -> None:
    found = reading(
        "Three plates: flour, the egg beaten, the crumbs. In that order, each cake goes through all three.",
        "8 fish cakes",
        "flour",
        "1 egg",
        "100 g breadcrumbs",
    )

    assert set(step(found, "coat")["foods"]) >= {"flour", "egg", "breadcrumbs"}


def test_half_an_hour_is_no_half_of_the_food() -> None:
    found = reading(
        "Mix the lamb and the mint. Put it on a tray in the fridge for half an hour.", "500 g lamb mince", "mint"
    )

    assert step(found, "chill")["foods"] == [step(found, "mix")["makes"]]


@pytest.mark.parametrize(
    ("text", "core_c"),
    [("until a thermometer in the middle says 165 degrees", 73.9), ("it has to get to 75 degrees", 75)],
)
def test_degrees_without_a_letter_are_those_that_food_is_cooked_to(text: str, core_c: float) -> None:
    assert temperatures_in(text)[1] == pytest.approx(core_c, abs=0.1)


# --- the third lot -------------------------------------------------------------------------------------------------


def kit(found: Reading) -> list[list[str]]:
    return [row["tools"] for row in found.data["steps"]]


def test_boards_of_two_colours_are_two_boards() -> None:
    found = reading(
        "Cut the chicken on the red board. Slice the tomatoes on the green board. Person B (blue board): shred the"
        " lettuce.",
        "2 chicken breasts",
        "2 tomatoes",
        "1 lettuce",
    )

    assert [names[0] for names in kit(found)[:3]] == ["red board", "green board", "blue board"]


def test_lists_behind_two_labels_in_one_row_are_two_lists() -> None:
    text = "Shopping: 2 chicken breasts, 1 lettuce, 4 wraps; dressing: 3 tbsp mayonnaise, 1 anchovy, 1 tsp lemon juice"
    found = read_recipe(f"Wraps\n\n{text}\n\nMethod\nSlice the lettuce.", "en-GB")
    parts = {item.food: found.component(n) for n, item in enumerate(found.items) if item.food}

    assert parts["chicken breasts"] == ""
    assert parts["anchovy"] == "dressing"


@pytest.mark.parametrize(
    ("row", "lines"),
    [
        ("1 tbsp each smoked paprika, salt", ("1 tbsp smoked paprika", "1 tbsp salt")),
        ("Two carrots, a small turnip, two leeks.", ("Two carrots", "a small turnip", "two leeks")),
    ],
)
def test_no_food_of_a_row_is_lost_behind_the_first(row: str, lines: tuple[str, ...]) -> None:
    assert read_document(f"Broth\n\n500 g lamb\n{row}\n\nMethod\nBoil it.").ingredients[1:] == lines


def test_crushed_biscuits_are_the_crumbs_and_folding_in_joins() -> None:
    found = reading(
        "Crush the biscuits. Melt the butter, mix with the crumbs. In another bowl beat the cheese, fold the cream in.",
        "150 g digestive biscuits",
        "60 g butter",
        "280 g soft cheese",
        "100 ml double cream",
    )

    assert ("mix", ["butter", "digestive biscuits"]) in done(found)
    assert ("mix", ["soft cheese", "double cream"]) in done(found)


@pytest.mark.parametrize(
    ("text", "minutes"),
    [
        ("Oven at 180, forty minutes.", 40),
        ("Sausages on, turn every couple of mins, 12-15 mins.", 15),
        ("Sausages on, low heat, 20 mins.", 20),
    ],
)
def test_a_heat_is_read_with_its_time(text: str, minutes: int) -> None:
    found = reading(f"Put the sausages on a tray. {text}", "8 sausages")
    heat = found.process.steps[-1] if found.process else None
    heats = [row for row in found.data["steps"] if row["do"] == "heat"]

    assert heat is not None
    assert heats[-1]["minutes"] == minutes


def test_what_is_kept_hot_is_not_cooked_by_it_and_whether_it_was_before_is_asked() -> None:
    found = reading(
        "Fry the sausages. Keep the cooked ones on the warm side, over 60, no longer than 2 hours.", "8 sausages"
    )

    assert [row["do"] for row in found.data["steps"]][:2] == ["heat", "part_cook"]
    assert not found.may_confirm
    assert "which-heat" in [row.why for row in found.questions]


def test_only_the_juices_are_poured_off() -> None:
    found = reading("Roast the pork in a tin. Pour the juices into a jug. Shred the pork.", "1 kg pork shoulder")

    assert all("jug" not in names for names in kit(found))


def test_a_word_in_no_list_is_no_meat() -> None:
    foods = [
        item.food for item in read_recipe("Snags\n\n8 sausages\n\nMethod\nGame time: fry the sausages.", "en-AU").items
    ]

    assert foods == ["sausages"]


# --- the fourth lot ------------------------------------------------------------------------------------------------


def test_the_half_that_is_kept_has_never_been_near_the_chicken() -> None:
    found = reading(
        "Whisk the oil and lemon juice. Pour half over the chicken in a bag and chill for an hour. Reserve the other"
        " half. Roast the chicken on a tray to 75C. Drizzle with the reserved dressing and serve.",
        "4 chicken thighs",
        "100 ml oil",
        "3 tbsp lemon juice",
        title="Greek chicken",
    )
    foods = [row["foods"] for row in found.data["steps"]]
    kept = next(i for i, row in enumerate(found.data["steps"]) if str(row.get("makes", "")).startswith("reserved"))

    assert kept < next(i for i, names in enumerate(foods) if "chicken thighs" in names)


def test_work_above_the_list_is_work_whoever_does_it() -> None:
    text = (
        "Pie\nChef 1: dice onion, fry in oil 5 min in big pan.\nChef 2: peel the potatoes, boil 15-20 min.\n"
        "Chef 2: drain, mash w/ butter.\n\n1 onion\n700g potatoes\n25g butter\n1 tbsp oil"
    )
    found = read_recipe(text, "en-GB")

    assert "butter" in {name for row in found.data["steps"] for name in row["foods"]}


@pytest.mark.parametrize(
    ("text", "first"),
    [
        ("Fry chopped onions in a big pot.", ("heat", ["onions"])),
        ("Toast slices of bread.", ("heat", ["bread"])),
        ("Thaw the soup overnight in the fridge.", ("chill", ["soup"])),
        ("Stick blend the soup.", ("mix", ["soup"])),
        ("Roast the onions (skin on) 200 deg for 40 mins.", ("heat", ["onions"])),
    ],
)
def test_more_orders_are_read(text: str, first: tuple[str, list[str]]) -> None:
    assert done(reading(text, "2 onions", "4 slices bread", "1 carton soup"))[0] == first


def test_each_of_several_foods_behind_one_amount_has_a_line() -> None:
    lines = read_document(
        "Soup\n\n2 tbsp oil\nOnion, carrot, celery – 1 of each, diced\nPasta – 100 g\n\nMethod\nBoil."
    ).ingredients

    assert [read_ingredient(line, "en-GB").food for line in lines[1:4]] == ["Onion", "carrot", "celery"]
    assert read_ingredient("Pancetta – 100 g, cubed", "en-GB").unit == "g"


def test_what_is_thrown_away_names_no_dish_and_what_is_measured_is_no_tip() -> None:
    found = reading(
        "Roast the chicken. Throw away the bag and whatever marinade is left in it. They should be browned, 75 in the"
        " centre. NB contains egg, milk.",
        "4 chicken thighs",
    )

    assert found.sentences[-1].taken == "tip"
    assert step(found, "heat")["end"]["core_c"] == 75.0
    assert all("marinade" not in str(row.get("makes")) for row in found.data["steps"])


def test_a_thermometer_that_is_put_in_is_a_reading_with_what_it_is_to_say() -> None:
    found = reading("Bake at 190C for 25 mins (stick the thermometer in - 75).", "1 pie")

    assert step(found, "probe")["end"]["core_c"] == 75.0


@pytest.mark.parametrize(
    ("text", "kinds"),
    [
        ("Chop the onions, then wash the bowl and your hands.", ["cut", "clean", "wash_hands"]),
        ("Chop the onions, then wash your hands and the board.", ["cut", "wash_hands", "clean"]),
        ("Chop the onions, then wash the board with clean hands.", ["cut", "clean"]),
        ("Chop the onions, on to boil (20 min).", ["cut", "heat"]),
        ("Chop the onions and bring the dish to the table.", ["cut", "serve"]),
        ("Fry the onions, then split them between two dishes.", ["heat", "transfer"]),
        ("Onions into thin strips, straight into bowl with oil.", ["cut", "mix"]),
    ],
)
def test_what_is_said_in_a_word_or_two_is_work(text: str, kinds: list[str]) -> None:
    steps = reading(text, "2 onions", "1 tbsp oil").data["steps"]
    assert [row["do"] for row in steps if row["do"] != "serve" or "table" in text] == kinds


def test_what_goes_on_what_lies_there_is_on_it_and_the_rest_of_it_too() -> None:
    found = reading(
        "Mix the flour and milk to a dough. Roll out and onto trays. Spread passata, oregano, cheese. Rest of the"
        " passata. Bake at 220C for 12 mins.",
        "200 g flour",
        "100 ml milk",
        "80 g mozz",
        "4 tbsp passata",
        "1 tsp oregano",
    )

    assert [row["do"] for row in found.data["steps"]] == ["mix", "touch", "garnish", "garnish", "heat", "serve"]
    assert not found.questions


def test_what_stands_away_from_the_meat_is_not_with_it_and_plates_are_served_with_what_is_on_them() -> None:
    found = reading(
        "Toast the bread. Put it away from the meat. Cut the beef small. Put it on plates. Bring the plates to the"
        " table with the toast.",
        "4 slices bread",
        "400 g beef fillet",
    )
    steps = found.data["steps"]

    assert not any({"bread", "beef fillet"} <= set(row["foods"]) for row in steps if row["do"] != "serve")
    assert set(steps[-1]["foods"]) == {"bread", "beef fillet"}


def test_what_is_poured_over_the_fish_is_in_the_dish_that_the_fish_lies_in() -> None:
    found = reading(
        "Boil the potatoes for 15 minutes. Drain, then mash. Soften the leek in a pan for 6 minutes. Cut the haddock"
        " into pieces. Straight into a pie dish. Pour the leek over the fish. Spoon the mash on top. Bake at 200C for"
        " 30 minutes.",
        "600 g potatoes",
        "1 leek",
        "400 g haddock",
    )
    steps = found.data["steps"]
    pour = next(row for row in steps if row["do"] == "pour" and "over" in row["title"])

    assert pour["tools"] == ["oven dish"]
    assert not any({"mash", "haddock"} <= set(row["foods"]) for row in steps)


@pytest.mark.parametrize(
    ("text", "core_c"),
    [("Core temp 75 or hotter - write it on your sheet.", 75.0), ("Grill - check it's 70 for two minutes.", 70.0)],
)
def test_a_temperature_in_a_short_note_is_read(text: str, core_c: float) -> None:
    found = reading(f"Grill the chicken for 10 minutes. {text}", "2 chicken breasts")

    assert step(found, "probe")["end"]["core_c"] == core_c


def test_what_nobody_does_is_no_work_and_a_dip_is_made_and_stands_beside() -> None:
    found = reading(
        "Grill the chicken for 10 minutes. Nobody licks anything. Dip: yoghurt, lime juice, salt. Plate the chicken,"
        " dip on the side.",
        "2 chicken breasts",
        "100 g yoghurt",
        "1 tbsp lime juice",
    )

    assert [row["do"] for row in found.data["steps"]] == ["heat", "mix", "serve"]


def test_no_pink_is_a_temperature_before_one_and_a_time_before_a_time() -> None:
    hot = reading("Fry the chicken until no pink and 75.", "2 chicken breasts")
    timed = reading("Fry the chicken - no pink, 5 mins.", "2 chicken breasts")

    assert step(hot, "heat")["end"]["core_c"] == 75.0
    assert step(timed, "heat")["minutes"] == 5.0
    assert "end" not in step(timed, "heat")

"""Talk, shorthand and translated English: orders between the words, what is left of a packet, who is at it."""

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.recipes import process_from, read_recipe
from foodsafety.recipes.questions import open_questions
from tests.core.recipes.read import done, reading, step


@pytest.mark.parametrize(
    ("said", "do", "foods"),
    [
        ("Leeks and spinach under the tap.", "rinse", ["leeks", "spinach"]),
        ("Leeks wash and cook with skin, 20 minutes.", "rinse", ["leeks"]),
        ("In the widest bowl you own go the leeks, the spinach and one egg.", "mix", ["leeks", "spinach", "egg"]),
        ("She's chopping the leeks small on the wooden board.", "cut", ["leeks"]),
        ("In another bowl whisk the egg and the milk.", "mix", ["egg", "milk"]),
        ("Smash the leeks with the milk.", "mix", ["leeks", "milk"]),
        ("The leeks are turned in a wide bowl with the spinach.", "mix", ["leeks", "spinach"]),
        ("Give leeks with spinach.", "serve", ["leeks", "spinach"]),
        ("Everybody gets a leek, some spinach.", "serve", ["leeks", "spinach"]),
        ("Egg last - get it in with a fork so you're not handling it.", "mix", ["egg"]),
        ("Before eating put milk and cut the leeks.", "cut", ["leeks"]),
        ("First the spinach I wash all, also the leeks.", "rinse", ["spinach"]),
        ("While that sits grate the leeks.", "grate", ["leeks"]),
        ("Leeks in half.", "cut", ["leeks"]),
        ("1 scoop spinach, 1 ladle leeks.", "serve", ["spinach", "leeks"]),
        ("Oil, leeks + spinach, 10 min.", "heat", ["leeks", "spinach"]),
    ],
)
def test_an_order_between_the_words_is_read(said: str, do: str, foods: list[str]) -> None:
    found = reading(said, "2 leeks", "100 g spinach", "1 egg", "200 ml milk")

    assert (do, foods) in [(what, [name for name in of if name in foods]) for what, of in done(found)]


@pytest.mark.parametrize(
    ("said", "washed"),
    [
        ("Wash up good, soap, all the way to the wrist.", ["wash_hands"]),
        ("Everyone: hands, aprons.", ["wash_hands"]),
        ("All: aprons on, hair tied, hands, sleeves up.", ["wash_hands"]),
        ("After this wash hand and table.", ["wash_hands", "clean"]),
        ("Board, knife, plates -> wash, rinse, sanitize.", ["clean"]),
        ("The mince goes back in the fridge, board and knife straight in the sink.", ["chill", "clean"]),
    ],
)
def test_what_is_washed_is_told_from_what_is_rinsed(said: str, washed: list[str]) -> None:
    found = reading(f"Shape the mince into balls. {said}", "300 g beef mince")

    assert [do for do, _ in done(found)][1 : 1 + len(washed)] == washed


@pytest.mark.parametrize(
    "said",
    [
        "Don't roll warm filling, the wraps go soggy.",
        "Fill in the recipe card.",
        "Never fry cold spinach.",
        "Brown spinach has three times the fibre!",
        "The knife carries whatever is on the outside to the inside.",
        "It's a spinach and leek pie for six, over.",
        "Nothing goes back in the ice box.",
        "Heats the oven to 190C.",
    ],
)
def test_what_nobody_is_to_do_is_no_work(said: str) -> None:
    found = reading(f"Fry the spinach for 5 minutes. {said}", "100 g spinach", "4 wraps")

    assert [do for do, _ in done(found) if do != "serve"] == ["heat"]


def test_a_number_that_is_taken_back_and_less_than_the_packet_says_are_no_minutes() -> None:
    back = reading("Bake it 75 mins... sorry 25 mins.", "4 eggs")
    less = reading("Boil the pasta 2 mins less than the packet says.", "200 g pasta")

    assert step(back, "heat")["minutes"] == 25
    assert not step(less, "heat").get("minutes")


RAW = ("500 g pork mince", "4 tbsp soy sauce", "2 tbsp vinegar", "a bunch of coriander")
THEN = "Shape into balls. Wash hands. Fry for 10 minutes until 75C."


@pytest.mark.parametrize(
    ("first", "then", "met"),
    [
        ("Mix the mince with half the soy sauce.", "Stir the vinegar and the rest of the soy sauce together.", False),
        ("Mix the mince with 2 tbsp soy sauce.", "Stir the vinegar and the remaining soy sauce together.", False),
        ("Mix the mince with the soy sauce.", "Stir the vinegar and some more soy sauce together.", False),
        # Nobody says that a part was taken out first, or it is what the meat lay in.
        ("Mix the mince with the soy sauce.", "Stir the vinegar and the rest of the soy sauce together.", True),
        ("Coat the mince in half the soy sauce.", "Stir the vinegar and the rest of the soy sauce together.", True),
    ],
)
def test_what_is_left_in_the_packet_never_met_the_meat(first: str, then: str, *, met: bool) -> None:
    found = reading(f"{first} {THEN} {then} Serve the balls with the dip.", *RAW)
    paths = [row.path for row in find_contamination(process_from(found.data)) if row.soil == "raw_meat"]

    assert any(path[:2] == ("pork mince", "soy sauce") for path in paths) is met


def test_kit_that_is_scraped_and_rinsed_is_not_washed() -> None:
    found = reading("Shape the mince into balls. Board, knife: scrape, rinse, dry.", "300 g beef mince")

    assert "clean" not in [do for do, _ in done(found)]


def test_what_was_rinsed_was_all_of_it() -> None:
    text = f"Rinse the coriander. Mix the mince with half the coriander. {THEN} Scatter over the remaining coriander."
    found = reading(text, *RAW)

    assert done(found)[0] == ("rinse", ["coriander", "rest of the coriander"])
    assert not [row for row in find_contamination(process_from(found.data)) if "coriander" in row.path]
    assert found.data["foods"]["rest of the coriander"] == found.data["foods"]["coriander"]


def test_a_reading_between_two_cooks_says_that_the_first_was_one() -> None:
    method = "Simmer the mince for 20 mins. Probe the mince, must be over 75C. Tip it into a tray. Bake 20 mins."

    assert step(reading(method, "400 g beef mince"), "heat")["minutes"] == 20
    assert reading(method.replace("Probe the mince, must be over 75C. ", ""), "400 g beef mince").data["steps"][0][
        "do"
    ] == ("part_cook")


def test_food_that_is_prepared_and_reaches_no_plate_is_asked_about() -> None:
    found = reading("Boil the pasta. Fry the leeks. Serve the leeks. Wash up.", "2 leeks", "200 g pasta")
    asked = open_questions(found.items, found.data, process_from(found.data))

    assert [row.foods for row in asked if row.why == "goes-nowhere"] == [("pasta",)]


def test_a_row_of_foods_joined_by_plus_and_fat_for_the_pan_are_in_the_list() -> None:
    rows = "2 leeks\n1 egg\noil for the pan\navocado + half a lemon + bag of rocket to go with"
    found = read_recipe(f"Leek fritters\n\n{rows}\n\n1. Fry the leeks.", "en-GB")

    assert [item.food for item in found.items] == ["leeks", "egg", "oil", "avocado", "lemon", "rocket"]


def test_a_paragraph_that_begins_with_a_tin_is_no_list() -> None:
    text = (
        "A pie of leeks\n\nA pie tin is lined with 6 slices of ham, their ends hanging over; the leeks are laid in.\n\n"
        "Covered with a lid of 200 g puff pastry, it is given forty minutes at 190C, by which time it has risen well."
    )
    found = read_recipe(text, "en-GB")

    assert {"ham", "leeks", "puff pastry"} <= {item.food for item in found.items}
    assert step(found, "heat")["minutes"] == 40


def test_the_weight_of_a_food_named_behind_another_word_is_that_foods() -> None:
    text = "Fish soup\n\nNow the fish, that's 400 g of cod and a bag of raw prawns, cut the cod into lumps."

    assert [item.food for item in read_recipe(text, "en-GB").items] == ["cod", "raw prawns"]


def test_what_is_put_on_plates_behind_a_label_is_served_and_no_list() -> None:
    found = reading(
        "1. Fry the leeks.\n2. Chop the lettuce.\nTo order: leeks, lettuce, 1 tbsp ranch.",
        "2 leeks",
        "1 lettuce",
        "100 ml ranch",
    )

    assert step(found, "serve")["foods"] == ["leeks", "lettuce", "ranch"]
    assert len(found.items) == 3


def test_a_cook_with_a_number_and_a_bracket_is_who_does_it() -> None:
    found = reading(
        "Cook 2 (only Cook 2 touches the meat): trim the pork on the red board.", "4 pork chops", "1 lettuce"
    )

    assert done(found)[:1] == [("cut", ["pork chops"])]


def test_a_text_that_begins_with_a_greeting_in_its_one_paragraph_is_read_all_the_same() -> None:
    text = (
        "Evening all, here is supper. Fry 2 leeks in 1 tbsp oil for ten minutes. Add 200 g spinach, then serve, over."
    )

    assert [do for do, _ in done(read_recipe(text, "en-GB"))] == ["heat", "mix", "serve"]


def test_what_is_packed_in_the_cold_is_not_mixed_and_waits_there() -> None:
    found = reading(
        "Pack in the ice box: pork, leeks, yoghurt. Big pan, 2 tbsp oil, leeks in, 10 min.",
        *("500 g pork", "2 leeks", "200 g yoghurt", "2 tbsp oil"),
    )

    assert done(found)[0] == ("chill", ["pork", "leeks", "yoghurt"])
    assert step(found, "heat")["foods"] == ["leeks in oil"]


def test_batter_in_the_fridge_is_not_in_the_tin_that_is_made_hot_meanwhile() -> None:
    found = reading(
        "batter: eggs, flour, milk, whisk smooth, rest 30 min fridge.\n"
        "dripping in tin, oven 220. sausages in, 15 min.\n"
        "pour batter round, quick. 25-30 min.\npuffed, brown, sausages 75.",
        *("8 pork sausages", "120 g plain flour", "3 eggs", "280 ml milk", "2 tbsp dripping"),
    )
    first, last = [row for row in found.data["steps"] if row["do"] in ("heat", "part_cook")][:2]

    assert step(found, "chill")["foods"] == ["batter"]
    assert "batter" not in " ".join(first["foods"])
    assert (first["minutes"], last["minutes"]) == (15, 30)
    assert step(found, "probe")["end"]["core_c"] == 75


@pytest.mark.parametrize(
    ("said", "do", "minutes"),
    [
        ("Lid on, 35 min.", "heat", 35),
        ("Cover, 12 mins low.", "heat", 12),
        ("Ten minutes stood, then serve.", "rest", 10),
        ("Let it go cold, half an hour.", "rest", 30),
    ],
)
def test_how_long_it_stays_covered_or_stands(said: str, do: str, minutes: float) -> None:
    found = reading(f"Fry the leeks in a pan. {said}", "2 leeks")

    assert [row["minutes"] for row in found.data["steps"] if row["do"] == do] == [minutes]


def test_the_wet_and_the_dry_are_both_put_together() -> None:
    found = reading("Mix wet into dry. Knead 5 mins.", "300 g flour", "1 tsp salt", "1 egg", "100 ml sour cream")

    assert set(done(found)[0][1]) == {"flour", "salt", "egg", "sour cream"}


def test_tins_behind_their_food_are_counted_and_are_no_kit() -> None:
    found = read_recipe(
        "Stew\n\nSTOCK CHECK\n- chickpeas 6 x 400g tins\n- onions 2kg\n\nMETHOD\nFry the onions.", "en-GB"
    )

    assert [(item.food, item.low, item.unit) for item in found.items if item.food] == [
        ("chickpeas", 6, "tin"),
        ("onions", 2, "kg"),
    ]
    assert not found.component(0)


def test_bread_that_is_called_like_something_made_keeps_its_wheat() -> None:
    lamb = "Lamb, 800 g of it, is grilled for ten minutes. Flatbreads, four, are warmed."
    made = "Flatbreads first: mix 200 g flour and 100 ml water. Fry the flatbreads for 2 minutes."

    assert "wheat" in {name for item in read_recipe(f"Supper\n\n{lamb}", "en-GB").items for name in item.allergens}
    assert [item.food for item in read_recipe(f"Supper\n\n{made}", "en-GB").items] == ["flour"]


def test_what_is_crossed_out_in_brackets_is_gone_and_pots_that_are_boiled_are_potatoes() -> None:
    text = "Mash\n\n(1/4 c oil - crossed out) 2 T butter, melted\n2 lb potatoes\n\nBoil pots till soft, drain."
    found = read_recipe(text, "en-CA")

    assert [item.food for item in found.items] == ["butter", "potatoes"]
    assert done(found)[0] == ("heat", ["potatoes"])


def test_work_in_what_was_taken_for_talk_is_unread_and_asked() -> None:
    head = "Leek pie\n\nA pie we love. Some of us would chop the raw chicken on Friday and fry it first.\n\n"
    found = read_recipe(f"{head}2 leeks\n300 g chicken breast\n\nMethod\nSlice the leeks. Bake them.", "en-GB")
    said = "Some of us would chop the raw chicken on Friday and fry it first."

    assert [row.taken for row in found.sentences if row.text == said] == ["unread"]
    assert [row.holds for row in found.questions if row.text == said] == [True]


def test_minutes_in_brackets_are_what_a_sheet_allows_and_cook_nothing() -> None:
    found = reading(
        "[5 min] Runner: whisk the eggs and milk.\n[10 min] Line Cook: pour it over the bread.\n[35 min] Bake.\n"
        "[10 min] Eat and fill out the sheet.",
        *("4 eggs", "200 ml milk", "6 slices bread"),
    )

    assert [do for do, _ in done(found)] == ["mix", "pour", "heat", "serve"]
    assert step(found, "heat")["minutes"] == 35


def test_everything_else_under_the_heading_of_a_part_is_of_that_part() -> None:
    text = (
        "Fish with salad\n\nWhat you need\n4 cod fillets\n1 mango\n\n"
        "Dressing\n2 tbsp fish sauce\n1 tbsp palm sugar, grated\n1 chilli\n\n"
        "Get the salad ready\nPeel the mango, cut it into matchsticks and put it in a bowl that is large enough.\n\n"
        "Dressing\nChop the chilli. Whisk with everything else until the sugar has gone and nothing grates.\n\n"
        "Cook the fish\nFry the fillets for 5 minutes in a hot pan until they flake and are opaque in the middle.\n"
    )
    found = read_recipe(text, "en-AU")

    assert ["chilli", "fish sauce", "palm sugar"] in [sorted(foods) for do, foods in done(found) if do == "mix"]
    assert [row.text for row in found.sentences if row.taken == "heading"][-2:] == ["Dressing", "Cook the fish"]
    assert [foods for do, foods in done(found) if do == "heat"] == [["cod fillets"]]


def test_a_few_words_above_a_paragraph_never_lose_a_washing() -> None:
    long = "Slice the leeks and put them in the pan with the oil, and stir them for ten minutes."
    text = f"Leeks\n\n2 leeks\n1 tbsp oil\n\nWash your hands\n{long}\n\nClean the board\n{long}\n"

    assert {"wash_hands", "clean"} <= {do for do, _ in done(read_recipe(text, "en-GB"))}


def test_the_pepper_that_is_washed_is_no_spice() -> None:
    found = reading(
        "Pepper wash, seeds take out. Fill the pepper with the rice.", "200 g rice", "salt, pepper", "8 green pepper"
    )

    assert done(found)[0] == ("rinse", ["green pepper"])


@pytest.mark.parametrize(
    ("said", "read"),
    [
        ("Check that it hits 165.", 73.9),
        ("The mince has to be 75, use my probe.", 75),
        ("Check the mince's at 75.", 75),
    ],
)
def test_a_reading_said_in_talk_is_wanted(said: str, read: float) -> None:
    found = read_recipe(f"Chilli\n\n500 g beef mince\n\nMethod\nFry the mince for 20 minutes. {said}", "en-GB")

    assert step(found, "probe")["end"]["core_c"] == pytest.approx(read, abs=0.1)


def test_fish_in_before_another_order_goes_in() -> None:
    found = reading(
        "Heat the oil in a pan. Fish in, skin side down, and press with a spatula.", "2 cod fillets", "1 tbsp oil"
    )

    assert ["oil", "cod fillets"] in [foods for _, foods in done(found)]


def test_a_text_all_in_capitals_is_read_like_any_other() -> None:
    text = (
        "LEEK AND CHICKEN PIE\n\n2 LEEKS\n300G CHICKEN BREAST\n1 SHEET PUFF PASTRY\n\nMETHOD\nSLICE THE LEEKS. FRY THE "
        "CHICKEN FOR 10 MINUTES UNTIL 75C. WASH YOUR HANDS. LAY THE PASTRY OVER AND BAKE AT 200C FOR 25 MINUTES."
    )
    found = read_recipe(text, "en-GB")

    assert [item.food for item in found.items] == ["leeks", "chicken breast", "puff pastry"]
    assert [do for do, _ in done(found)][:3] == ["cut", "heat", "wash_hands"]
    assert step(found, "heat")["end"]["core_c"] == 75


def test_what_stays_warm_is_not_warmed() -> None:
    found = reading("Fry the leeks. Don't wrap them hot, the leeks go soft and it stays warm for hours.", "2 leeks")

    assert [do for do, _ in done(found) if do != "serve"] == ["heat"]

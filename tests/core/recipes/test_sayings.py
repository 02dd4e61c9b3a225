"""Ways of saying things that texts by other people have, each in its smallest case."""

import pytest

from foodsafety import cli
from foodsafety.recipes import Reading, read_recipe
from foodsafety.recipes.instructions import orders
from foodsafety.recipes.times_and_heats import minutes_in
from tests.core.recipes.read import done, reading, step

# --- times and when ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("words", "minutes"),
    [
        ("Drain the beans a second time.", None),
        ("Stir for a second or two.", 1 / 60),
        ("Strip the bird within two hours.", None),
        ("Rest it for three and a half hours.", 210),
    ],
)
def test_a_time_is_one_that_work_takes(words: str, minutes: float | None) -> None:
    assert minutes_in(words)[0] == (pytest.approx(minutes) if minutes else None)


@pytest.mark.parametrize(
    ("words", "verb"),
    [
        (
            "Once it has been brought to a simmer the casserole is covered and transferred to an oven at 150C.",
            "transfer",
        ),
        ("When the oil is hot the onions are added.", "add"),
        ("The beans, which were soaked since the evening before, are drained.", "drain"),
        ("The tray goes to the oven, where it is left for an hour.", "leave"),
    ],
)
def test_what_is_done_then_needs_no_comma_before_it(words: str, verb: str) -> None:
    assert verb in [order.verb for order in orders(words)]


def test_what_is_left_in_the_oven_is_heated_for_that_time() -> None:
    found = reading("Put the lamb in a pot. It is put in the oven, where it is left for three hours.", "1 kg lamb")

    assert step(found, "heat")["minutes"] == 180
    assert all(do != "rest" for do, _ in done(found))


def test_minutes_of_rest_are_no_heat() -> None:
    found = reading("Roast the lamb at 180C for 1 hour. Twenty minutes' rest will improve it.", "1 kg leg of lamb")

    assert (step(found, "heat")["minutes"], step(found, "rest")["minutes"]) == (60, 20)


def test_what_stays_runny_is_not_cooked_through() -> None:
    found = reading("Fry the eggs 2 mins, yolks still runny. Serve.", "4 eggs")

    assert [do for do, _ in done(found)][:1] == ["part_cook"]
    text = "Eggs\n\n4 eggs\n\nMethod\nFry the eggs 2 mins, yolks still runny. Serve."
    assert "raw_egg" in [row["soil"] for row in cli.run_read({"text": text, "locale": "en-GB"})["findings"]]


# --- what an order is about ----------------------------------------------------------------------------------------


def test_kit_that_is_named_after_a_food_holds_none_of_it() -> None:
    found = reading("Boil the potatoes in the stock pot for 20 minutes.", "1 kg potatoes", "500 ml vegetable stock")

    assert step(found, "heat")["foods"] == ["potatoes"]


def test_both_are_the_last_two() -> None:
    found = reading(
        "Slice the onion. Grate the cucumber. Chop the mint. Stir both into the yoghurt.",
        "1 onion", "1 cucumber", "1 handful mint", "200 g yoghurt",
    )  # fmt: skip

    assert set(step(found, "mix")["foods"]) == {"cucumber", "mint", "yoghurt"}


def test_the_rest_is_what_was_rinsed_and_not_cut_yet() -> None:
    found = reading(
        "Rinse the cabbage, carrots and apple. Shred the cabbage; grate the rest.", "1 cabbage", "2 carrots", "1 apple"
    )

    assert step(found, "grate")["foods"] == ["carrots", "apple"]


def test_into_the_fat_that_is_left_is_into_the_pan() -> None:
    found = reading(
        "Brown the mince in a pan for 10 minutes. Lift it into a clean tub. "
        "Onions into the fat that's left, 15 mins till soft.",
        "500 g beef mince", "2 onions",
    )  # fmt: skip

    assert any(do == "heat" and "onions" in foods for do, foods in done(found))


def test_a_topic_stands_before_what_is_done_with_it() -> None:
    found = reading("Garlic - crush. Buns x 4, cut.", "2 garlic cloves", "4 buns")

    assert done(found)[:2] == [("mix", ["garlic"]), ("cut", ["buns"])]


def test_what_is_listed_before_a_bare_order_is_what_it_works_on() -> None:
    found = reading("2 onions, 3 carrots, 1 red pepper. Chop.", "2 onions", "3 carrots", "1 red pepper")

    assert step(found, "cut")["foods"] == ["onions", "carrots", "red pepper"]


def test_a_list_after_an_order_belongs_to_it() -> None:
    found = reading(
        "Dip each fillet: flour, egg, crumbs.", "4 cod fillets", "50 g plain flour", "2 eggs", "100 g breadcrumbs"
    )

    assert {"plain flour", "eggs", "breadcrumbs"} <= set(step(found, "coat")["foods"])


def test_everything_in_the_pan_is_not_what_is_still_in_the_list() -> None:
    found = reading(
        "Fry the onion in a pan for 5 minutes. Add the mince and fry for 5 minutes. "
        "Stir everything together with the flour. "
        "Grate the cheese.",
        "1 onion", "500 g beef mince", "1 tbsp plain flour", "50 g cheddar",
    )  # fmt: skip

    flour = next(foods for do, foods in done(found) if "plain flour" in foods)
    assert "cheddar" not in flour
    assert len(flour) == 2


def test_what_is_spread_on_a_plate_touches_nothing_that_was_made_before() -> None:
    found = reading(
        "Bash the cornflakes in a bag. Flour goes on a second plate.", "100 g cornflakes", "50 g plain flour"
    )

    assert ("transfer", ["plain flour"]) in done(found)


def test_what_goes_into_a_vessel_of_its_own_begins_anew() -> None:
    found = reading(
        "Fry the lentils in a pan for 5 minutes. Flour and salt in the two largest bowls, buttermilk in.",
        "200 g red lentils", "300 g plain flour", "1 tsp salt", "200 ml buttermilk",
    )  # fmt: skip

    assert set(step(found, "mix")["foods"]) == {"plain flour", "salt", "buttermilk"}


def test_what_is_left_in_the_bag_is_what_it_holds() -> None:
    found = reading(
        "Put the steak and soy sauce in a bag and marinate in the fridge for 4 hours. "
        "Lift out the steak. Grill it for 10 minutes. "
        "Rinse and tear the lettuce onto a plate. "
        "Lay the steak on the lettuce and pour what's left in the bag over everything.",
        "500 g flank steak", "100 ml soy sauce", "1 lettuce",
    )  # fmt: skip

    # The marinade that raw meat lay in, over what is eaten as it is.
    assert any(
        row["soil"] == "raw_meat" for row in cli.run_read({"text": as_text(found), "locale": "en-GB"})["findings"]
    )


def as_text(found: Reading) -> str:
    return (
        "Steak\n\n"
        + "\n".join(i.text for i in found.items)
        + "\n\nMethod\n"
        + " ".join(row.text for row in found.sentences if row.taken == "step")
    )


# --- who does it -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("who", ["Person 2:", "P2", "Child B -", "One"])
def test_what_somebody_does_is_an_order(who: str) -> None:
    found = reading(f"{who} grates the carrots.", "2 carrots")

    assert ("grate", ["carrots"]) in done(found)


def test_how_many_it_serves_is_no_serving() -> None:
    found = reading("Bake the potatoes at 200C for 1 hour. Serves 6 hungry people.", "6 potatoes")

    assert [row.taken for row in found.sentences][-1] == "serves"


# --- names -----------------------------------------------------------------------------------------------------------


def test_what_a_sentence_calls_it_is_its_name() -> None:
    found = reading(
        "Chop the tomatoes and the onion into a bowl with the lime. This is your pico. Chill it.",
        "3 tomatoes",
        "1 onion",
        "1 lime",
    )

    assert step(found, "chill")["foods"] == ["pico"]


def test_dough_is_called_dough_though_butter_and_sugar_came_first() -> None:
    found = reading(
        "Cream the butter and sugar. Stir in the flour. Roll the dough into balls. Bake at 180C for 12 minutes.",
        "100 g butter", "100 g sugar", "200 g plain flour",
    )  # fmt: skip

    assert "dough" in [row.get("makes") for row in found.data["steps"]]


def test_the_same_food_of_two_parts_is_told_apart_by_the_part() -> None:
    text = (
        "Tart\n\nPastry\n200 g plain flour\n50 g sugar\n100 g butter\n\nCustard\n4 egg yolks\n"
        "60 g sugar\n300 ml milk\n\nMethod\n"
    )
    found = read_recipe(text + "Rub the flour, sugar and butter together. Whisk the yolks with the sugar.", "en-GB")

    assert ("mix", ["egg yolks", "sugar for custard"]) in done(found)


# --- what nobody meant for food ---------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "never"),
    [
        ("Supper\n\nPerson 3 puts 500 g beef mince and 1 egg in a bowl.", "puts"),
        ("Supper\n\nRoast 1 chicken at 180C for 1 hour. Take out the bag of giblets if there is one.", "if"),
        ("Supper\n\nFry 500 g beef mince for 10 minutes. Allergy: nuts, shellfish.", "shellfish"),
    ],
)
def test_a_food_of_running_text_has_no_other_words_in_its_name(text: str, never: str) -> None:
    found = read_recipe(text, "en-GB")

    assert found.items
    assert all(never not in (item.food or "") for item in found.items)


def test_a_list_parted_by_slashes_under_a_label_is_a_list() -> None:
    found = reading("Fry it all.", "Each bench: 500 g turkey mince / 1 small onion / 1 egg / lettuce")

    assert [item.food for item in found.items if item.food] == ["turkey mince", "onion", "egg", "lettuce"]


def test_an_order_about_nothing_known_is_asked_about() -> None:
    found = reading("Bring to the boil. Then stir for 2 minutes.", "200 g rice", "2 onions")

    assert [row.taken for row in found.sentences if row.taken in ("step", "unread")] == ["unread", "unread"]


def test_what_may_be_said_in_a_sentence_nobody_understood_makes_it_doubtful() -> None:
    plain = reading("Fry the mince for 5 minutes. Slice it on a board.", "500 g beef mince")
    blind = reading("Fry the mince for 5 minutes. Pan two is for tomorrow. Slice it on a board.", "500 g beef mince")

    assert "foods" not in plain.data["steps"][1].get("guesses", [])
    assert any("foods" in row.get("guesses", []) for row in blind.data["steps"][1:])


# --- what nobody said is asked, not found ---------------------------------------------------------------------------


def test_a_finding_that_hangs_on_the_bowl_nobody_named_is_a_question() -> None:
    text = (
        "Chicken and slaw\n\n500 g chicken thighs\n2 tbsp honey\n1 cabbage\n3 tbsp yoghurt\n\nMethod\n"
        "Mix the chicken and honey in a bowl. Tip it into a tin. Wash your hands. Roast for 40 minutes at 200C. "
        "Rinse the cabbage. Shred the cabbage on a clean board with a clean knife. "
        "Stir the cabbage and yoghurt together. Serve."
    )
    got = cli.run_read({"text": text, "locale": "en-GB"})

    asked = [row for row in got["questions"] if row["why"] in ("same-kit", "who-touches")]
    assert asked
    assert not got["may_confirm"]
    assert not [row for row in got["findings"] if row["food"] != "chicken thighs" and row["soil"] == "raw_poultry"]


def test_a_finding_that_the_text_says_stays_one() -> None:
    text = (
        "Chicken and slaw\n\n500 g chicken thighs\n1 cabbage\n\nMethod\nCut the chicken on the board. "
        "Rinse the cabbage. Shred the cabbage on the same board. Fry the chicken for 20 minutes. "
        "Serve with the cabbage."
    )
    got = cli.run_read({"text": text, "locale": "en-GB"})

    assert any(row["soil"] == "raw_poultry" and row["food"] == "cabbage" for row in got["findings"])


# --- more of what is in hand ---------------------------------------------------------------------------------------


def test_what_is_needed_is_what_the_next_order_is_about() -> None:
    found = read_recipe("Skewers\n\nYou need 1 kg of chicken breast. Slice it into long strips on the board.", "en-GB")

    assert ("cut", ["chicken breast"]) in done(found)


def test_what_was_cut_into_strips_may_be_called_strips() -> None:
    found = reading(
        "Slice the chicken into long strips. Stir the peanut butter and coconut milk in a pan. "
        "Thread the strips on the skewers.",
        "500 g chicken breast",
        "200 g peanut butter",
        "1 tin coconut milk",
    )

    assert ("touch", ["chicken breast"]) in done(found)


def test_peas_are_simmered_in_another_pan_than_the_fish_that_fries() -> None:
    found = reading(
        "Fry the cod in a frying pan for 8 minutes. Meanwhile simmer the peas for 3 minutes.",
        "4 cod fillets",
        "300 g frozen peas",
    )

    heats = [row for row in found.data["steps"] if row["do"] == "heat"]
    assert set(heats[0]["tools"]).isdisjoint(heats[1]["tools"])


@pytest.mark.parametrize("words", ["Stand 10 min.", "Stand for 10 minutes.", "Sit 10 minutes."])
def test_standing_for_a_time_is_a_rest(words: str) -> None:
    found = reading(f"Bake the pie at 200C for 40 minutes. {words} Serve.", "1 pie, ready made")

    assert [order.do for order in orders(words)] == ["rest"]
    assert step(found, "rest")["minutes"] == 10


def test_taking_it_out_of_the_fridge_does_not_chill_it() -> None:
    found = reading("Beef out of fridge. Roast the beef for 1 hour at 180C.", "1 kg topside beef")

    assert "chill" not in [do for do, _ in done(found)]


def test_a_line_says_what_it_is_for() -> None:
    found = reading("Fry the cod for 8 minutes.", "4 cod fillets", "plain flour, for dusting", "3 tbsp sunflower oil")

    assert "plain flour" in [item.food for item in found.items]


def test_a_clock_before_a_row_numbers_it() -> None:
    found = read_recipe(
        "Stew\n\n1 kg beef shin\n2 onions\n\nMethod\n"
        "09.15 Chop the onions.\n09.45 Stew the beef and onions for 2 hours.",
        "en-GB",
    )

    assert [row.text for row in found.sentences if row.taken == "step"] == [
        "Chop the onions.",
        "Stew the beef and onions for 2 hours.",
    ]


# --- who did it, and where --------------------------------------------------------------------------------------------


@pytest.mark.parametrize("who", ["H washed", "We washed", "SD washed", "#3 washes"])
def test_what_somebody_did_is_an_order_too(who: str) -> None:
    found = reading(f"{who} the chard.", "200 g chard")

    assert ("rinse", ["chard"]) in done(found)


def test_a_chopped_onion_is_nobody_s_work() -> None:
    assert [order.do for order in orders("A chopped onion.")] == []


def test_lamb_in_its_tin_goes_into_the_oven_that_is_on() -> None:
    found = reading(
        "Rub the lamb with the oil and lay it in a roasting tin. Ovens on 220. Lamb in. 20 mins.",
        "2 kg leg of lamb",
        "2 tbsp oil",
    )

    assert step(found, "heat")["minutes"] == 20
    assert "oven" in [found.data["tools"][name]["kind"] for name in step(found, "heat")["tools"]]


def test_a_heading_over_a_food_gives_flour_and_salt_no_name() -> None:
    text = "Tacos\n\nFor the fish\n500 g cod\n50 g plain flour\n1 tsp salt\n\nMethod\n"
    found = read_recipe(text + "Shake the flour and salt in a bag. Add the fish.", "en-GB")

    assert {"plain flour", "salt"} == set(step(found, "mix")["foods"])
    assert "fish" not in [row.get("makes") for row in found.data["steps"]]


def test_mince_with_fried_onions_is_called_mince() -> None:
    found = reading("Fry the onion for 5 minutes. Add the mince. Fry for 10 minutes.", "1 onion", "500 g beef mince")

    assert "beef mince mixture" in [row.get("makes") for row in found.data["steps"]]


def test_one_each_is_served_of_what_it_has_become() -> None:
    found = reading(
        "Stuff the peppers with the turkey. Bake at 190C for 40 minutes. Serve one pepper each.",
        "4 peppers",
        "500 g turkey mince",
    )

    assert "peppers" not in step(found, "serve")["foods"]
    said = cli.run_read({"text": as_text(found), "locale": "en-GB"})["findings"]
    assert "raw_poultry" not in [row["soil"] for row in said]


def test_how_many_stands_behind_a_food() -> None:
    assert [(item.food, item.low) for item in reading("Chop them.", "shallots x3", "2 limes").items] == [
        ("shallots", 3.0),
        ("limes", 2.0),
    ]


def test_out_of_the_way_joins_nothing() -> None:
    found = reading(
        "Rinse the peppers and mint and get that out of the way. Slice the peppers.", "2 peppers", "1 handful mint"
    )

    assert [do for do, _ in done(found)][:2] == ["rinse", "cut"]
    assert not any(row.get("makes") for row in found.data["steps"])


# --- short notes -----------------------------------------------------------------------------------------------------


def test_what_lies_on_its_tray_is_heated_in_the_oven_that_is_on() -> None:
    found = reading("Heat oven 200C. Spread the sausages on a tray. 25 minutes at least now.", "20 pork sausages")

    assert "oven" in [found.data["tools"][name]["kind"] for name in step(found, "heat")["tools"]]


def test_into_chunks_is_cut() -> None:
    found = reading("Potatoes and parsnips into even chunks, boil for 18 mins.", "1 kg potatoes", "4 parsnips")

    assert done(found)[0] == ("cut", ["potatoes", "parsnips"])


def test_until_you_can_push_a_knife_through_is_no_work() -> None:
    found = reading("Boil the potatoes till you can push a knife through, about 18 mins.", "1 kg potatoes")

    assert [do for do, _ in done(found)] == ["heat", "serve"]


def test_two_dishes_in_one_text_do_not_run_into_each_other() -> None:
    found = reading(
        "Mix the chops and oil in a bag. Fridge overnight. Greek salad: 6 tomatoes, 2 cucumbers, 400 g feta. "
        "Wash + chop at home.",
        "16 lamb chops",
        "100 ml olive oil",
        "6 tomatoes",
        "2 cucumbers",
        "400 g feta",
    )

    assert all("lamb chops" not in food for do, foods in done(found) if do in ("rinse", "cut") for food in foods)
    assert "tomatoes" in step(found, "cut")["foods"]


def test_left_over_chicken_that_goes_in_is_no_advice_on_storage() -> None:
    found = reading("Simmer the stock for 20 minutes. Leftover roast chicken?", "1 l stock", "200 g roast chicken")

    assert [row.taken for row in found.sentences if "Leftover" in row.text] == ["unread"]


def test_everything_for_something_the_list_does_not_say_is_doubtful() -> None:
    found = reading("Everything for hummus in the food processor.", "1 tin chickpeas", "1 tbsp tahini", "1 cucumber")

    assert "foods" in found.data["steps"][0]["guesses"]


def test_flour_with_leeks_is_no_pastry() -> None:
    found = reading(
        "Fry the leeks for 10 minutes. Stir the flour into the leeks. Roll out the pastry.",
        "2 leeks",
        "50 g plain flour",
        "500 g puff pastry",
    )

    assert "pastry" not in [row.get("makes") for row in found.data["steps"]]


# --- what is no work, and what is not there yet ----------------------------------------------------------------------


@pytest.mark.parametrize(
    "words",
    [
        "Lower the heat.",
        "Scrape up the browned bits.",
        "Flour the bench.",
        "Collect your equipment.",
        "Cut one in half.",
        "Storage: airtight container, 3 days in the refrigerator.",
    ],
)
def test_this_works_on_no_food(words: str) -> None:
    found = reading(f"Fry the mince for 10 minutes. {words} Serve it all now.", "500 g beef mince")

    assert [do for do, _ in done(found)] == ["heat", "serve"]


def test_both_sides_are_of_what_is_in_hand() -> None:
    found = reading(
        "Slice the leek and the onion. Pat the chicken dry and season both sides with the salt.",
        "1 leek",
        "1 onion",
        "500 g chicken thighs",
        "1 tsp salt",
    )

    assert set(step(found, "mix")["foods"]) == {"chicken thighs", "salt"}


def test_a_spoonful_of_the_filling_on_each_circle_is_kept_back_from_nothing() -> None:
    found = reading(
        "Mix the mince and peas in a bowl. Roll out the pastry. Cut out 6 circles. "
        "Put a tablespoon of filling on one half of each circle.",
        "150 g beef mince",
        "1 tbsp frozen peas",
        "200 g shortcrust pastry",
    )

    last = [foods for do, foods in done(found) if do != "serve"][-1]
    assert "shortcrust pastry" in last
    assert len(last) == 2


def test_everything_of_a_text_without_a_list_is_what_it_has_named_so_far() -> None:
    found = read_recipe(
        "Bake\n\nBoil 500 g penne for 10 minutes. Drain 6 big tins tuna. Everything together in the dish. "
        "Rinse 1 kg tomatoes.",
        "en-GB",
    )

    mixed = next(row for row in found.data["steps"] if row.get("makes"))["foods"]
    assert len(mixed) == 2
    assert not any("tomato" in name for name in mixed)
    assert all("tin" not in row["tools"] for row in found.data["steps"])


def test_what_is_said_behind_a_food_does_not_lose_it() -> None:
    found = read_recipe(
        "Egg fried rice\n\ncold cooked rice from yesterday, about 3 cups (it HAS to have been in the fridge)\n3 eggs\n"
        "2 rashers bacon\n\nFry the bacon till crisp. Rice in, 4 min.",
        "en-GB",
    )

    assert "rice" in (found.items[0].food or "")


def test_eggs_in_the_bacon_fat_are_no_bacon() -> None:
    found = reading(
        "Fry the bacon for 5 minutes. Whisk the eggs, scramble in the bacon fat for 3 minutes.",
        "4 rashers bacon",
        "3 eggs",
    )

    assert [foods for do, foods in done(found) if do == "heat"][-1] == ["eggs"]


def test_both_are_the_last_two_that_were_prepared_and_not_what_is_cooked_beside_them() -> None:
    found = reading(
        "Boil the potatoes for 20 minutes.\nRinse the lemon and grate its zest.\nChop the dill.\n"
        "Mix both into the yoghurt.",
        "400 g potatoes",
        "1 lemon",
        "10 g dill",
        "100 g plain yoghurt",
    )
    [mixed] = [row for row in found.data["steps"] if row["do"] == "mix"]
    assert set(mixed["foods"]) == {"lemon", "dill", "plain yoghurt"}

"""What was found in texts written without a look at the reader, each in its smallest case."""

import pytest

from foodsafety.recipes import Reading, read_document, read_ingredient, read_recipe
from foodsafety.recipes.abbreviated import food_words_in_full


def reading(text: str, *lines: str, title: str = "Supper") -> Reading:
    return read_recipe(f"{title}\n\n" + "\n".join(lines) + f"\n\nMethod\n{text}", "en-GB")


def done(found: Reading) -> list[tuple[str, list[str]]]:
    return [(row["do"], row["foods"]) for row in found.data["steps"] if row["do"] != "serve"]


# --- foods by a few of their letters -------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("written", "meant"),
    [
        ("Poach ch. in the milk.", "Poach chicken in the milk."),
        ("chkn in, 5 min", "chicken in, 5 min"),
        ("1 tsp. salt", "1 tsp. salt"),
        ("Add bu. now", "Add bu. now"),  # butter or buns
        ("rest 5 mins.", "rest 5 mins."),
        ("dry it, try it", "dry it, try it"),
    ],
)
def test_a_short_word_is_the_one_food_that_it_may_be(written: str, meant: str) -> None:
    assert food_words_in_full(written, ["chicken breast", "milk", "butter", "buns"]) == meant


@pytest.mark.parametrize(
    ("line", "kind", "low", "unit"),
    [
        ("plain flr 2 oz", "flour", 2.0, "oz"),
        ("500 g chorizo (the raw kind)", "sausage", 500.0, "g"),
        ("100 g chorizo", "salami", 100.0, "g"),
        ("fresh chorizo 3", "sausage", 3.0, None),
        ("three quarters of a pint of milk", "milk", 0.75, "pint"),
        ("two thirds of a cup of sugar", "sugar", 2 / 3, "cup"),
        ("egg 1 + 1 for coating", "egg", 2.0, None),
        ("lemon 1/2", "lemon", 0.5, None),
        ("juice 1/2 lemon", "lemon", 0.5, None),
        ("tarragon sm bunch", "tarragon", 1.0, "bunch"),
        ("spr onions 4", "spring_onion", 4.0, None),
        ("200 g of those cooked peeled prawns", "cooked_prawns", 200.0, "g"),
        ("oil to fry", "oil", None, None),
    ],
)
def test_lines_of_ingredients(line: str, kind: str, low: float | None, unit: str | None) -> None:
    found = read_ingredient(line, "en-GB")

    assert (found.kind, found.low and pytest.approx(found.low), found.unit) == (kind, low, unit)


def test_one_long_row_with_dashes_lists_foods() -> None:
    found = read_document(
        "LAMB CURRY\n\nBring from home: lamb shoulder, diced, 1.2 kg (frozen solid) - 3 onions - 1 jar korma paste"
        " - 4 potatoes - 1 lemon\n\n1. Brown the lamb.\n2. Add the onions."
    )

    assert found.ingredients[1:] == (
        "lamb shoulder, diced, 1.2 kg (frozen solid)",
        "3 onions",
        "1 jar korma paste",
        "4 potatoes",
        "1 lemon",
    )


def test_plates_that_are_set_out_list_nothing() -> None:
    found = read_document(
        "CAKES\n\n4 eggs\n200 g flour\n\nShape 8 cakes.\n3 plates: flour / beaten egg / crumbs.\nFry for 5 minutes."
    )

    assert found.ingredients == ("4 eggs", "200 g flour")


def named(text: str) -> list[str]:
    return list(read_recipe(text, "en-GB").data["foods"])


def test_a_food_of_running_text_is_the_one_that_is_measured() -> None:
    text = "Right, we'll do beef.\nGet half a kilo of rump steak and slice it. Slice a red pepper and a yellow pepper."

    assert named(text) == ["rump steak", "red pepper", "yellow pepper"]


def test_raw_food_is_not_the_ready_food_of_a_longer_name() -> None:
    text = "We end up with two dozen hard-boiled eggs.\nBoil a dozen eggs for 12 minutes. Peel the eggs and chop them."

    assert named(text) == ["eggs"]


def test_what_is_made_of_the_foods_behind_it_is_none_of_them() -> None:
    text = "Supper\nI make a quick garlicky yoghurt: a cup of plain yoghurt and one clove of garlic, whisked in a bowl."

    assert named(text) == ["plain yoghurt", "garlic"]


# --- hands, kit and washing ----------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "do", "tool"),
    [
        ("Prick the sausages with a fork. That fork is done now, toss it in the dishwasher.", "clean", "fork"),
        ("Prick the sausages with a fork. Put the fork straight in the sink.", "clean", "fork"),
        ("Brush the sausages with oil (brush straight in hot soapy).", "clean", "brush"),
        ("Lift the sausages with tongs. Tongs in the hot wash-up water.", "clean", "tongs"),
        ("Prick the sausages with a fork. Wash up with soap before you touch anything else.", "wash_hands", None),
        ("Skin the sausages. Whoever did the skins washes hands NOW.", "wash_hands", None),
        ("Turn the sausages with tongs. Wash hands and griddle tongs.", "clean", "tongs"),
    ],
)
def test_washing_by_any_name(text: str, do: str, tool: str | None) -> None:
    steps = reading(text, "6 pork sausages", "1 tbsp oil").data["steps"]

    assert any(step["do"] == do and (tool is None or tool in step["tools"]) for step in steps)


@pytest.mark.parametrize(
    ("text", "food"),
    [
        ("Finish with a handful of rocket that you've rinsed and spun dry.", "rocket"),
        ("Put a leaf of lettuce, washed and patted dry, on each wrap.", "lettuce"),
        ("Leeks - wash WELL, slice.", "leeks"),
    ],
)
def test_what_is_rinsed_is_rinsed_wherever_it_is_said(text: str, food: str) -> None:
    found = reading(text, "1 bag rocket", "1 lettuce", "2 leeks", "4 wraps")

    assert ("rinse", [food]) in done(found)


# --- pans ----------------------------------------------------------------------------------------------------------


def test_a_pan_that_is_called_small_is_another_than_the_one_in_use() -> None:
    found = reading(
        "Boil the potatoes in a pan for 20 minutes. Melt the butter in the small pan. Stir flour into the small pan.",
        "1 kg potatoes",
        "50 g butter",
        "50 g flour",
    )
    pans = [step["tools"] for step in found.data["steps"]]

    assert pans[0] != pans[1]
    assert set(pans[1]) <= set(pans[2])


def test_what_is_fried_in_the_fat_of_something_is_alone_in_it() -> None:
    found = reading(
        "Fry the bacon in a pan until crisp. Scoop it into a bowl. Peppers into the bacon fat for 4 minutes.",
        "100 g bacon",
        "2 peppers",
    )

    assert ("heat", ["peppers"]) in done(found)


def test_the_oil_in_the_pan_is_of_every_part_of_a_dish() -> None:
    found = read_recipe(
        "Noodles and lassi\n\nNoodles\n200 g raw prawns\n1 tbsp oil\n2 tbsp soy sauce\n1 lime\n\nLassi\n"
        "300 ml yoghurt\n2 mangoes\n\nMethod\nMix the soy and lime juice to a sauce. Oil in wok, very hot. "
        "Prawns in, 3 minutes.",
        "en-GB",
    )

    assert ("mix", ["oil", "raw prawns"]) in done(found)


def test_breaking_it_up_takes_nothing_in_that_lies_elsewhere() -> None:
    found = reading(
        "Dice the peppers. Into a lidded tub. Put the mince in a big frypan. Fry it, breaking it up with a spoon.",
        "500 g beef mince",
        "2 peppers",
        "50 g grated cheese",
    )

    assert ("transfer", ["peppers"]) in done(found)
    assert ("mix", ["beef mince"]) in done(found)


def test_oil_that_is_named_again_is_another_glug_of_it() -> None:
    found = reading(
        "Rub the chicken with oil. Fry it for 12 minutes. Cube the bread, toss in oil.",
        "2 chicken breasts",
        "4 slices bread",
        "100 ml olive oil",
    )

    assert ("mix", ["bread", "olive oil"]) in done(found)


def test_a_list_goes_on_behind_a_bracket() -> None:
    found = reading(
        "Fold in the mayonnaise, two ribs of celery (I dice it on Sunday), a spoon of dill, and salt.",
        "50 g mayonnaise",
        "2 ribs celery",
        "1 tbsp dill",
        "1 pinch salt",
    )

    assert done(found)[0] == ("mix", ["mayonnaise", "celery", "dill", "salt"])


def test_until_a_knife_goes_through_puts_no_knife_anywhere() -> None:
    found = reading("Potatoes, peeled and cut up and on to boil, until a knife goes through.", "1 kg potatoes")

    assert [do for do, _ in done(found)] == ["cut", "heat"]


def test_a_main_clause_that_begins_with_who_does_it_ends_what_is_said_of_when() -> None:
    found = reading("While it's still half frozen I slice it on the red board.", "500 g rump steak")

    assert done(found) == [("cut", ["rump steak"])]


def test_a_fish_out_of_a_tin_is_the_fish() -> None:
    found = reading("Drain the fish. Flake it.", "1 tin salmon")

    assert all(foods == ["salmon"] for _, foods in done(found))
    assert list(found.data["foods"]) == ["salmon"]


@pytest.mark.parametrize(("words", "minutes"), [("Boil potatoes 15-20, drain.", 15), ("Bake it for 1 hour 15.", 75)])
def test_times_without_their_unit(words: str, minutes: float) -> None:
    step = next(row for row in reading(words, "1 kg potatoes").data["steps"] if row["do"] == "heat")

    assert minutes in (step["minutes"], step.get("low_min"))


# --- a third lot of texts ------------------------------------------------------------------------------------------


def test_a_verb_that_is_a_food_here_orders_all_the_same() -> None:
    found = reading(
        "Mix the turkey and egg. Wet your palms, roll into 16 balls and line them up on an oiled tray.",
        "500 g turkey mince",
        "1 egg",
        "4 bread rolls",
    )

    assert done(found)[1][0] == "touch"
    assert all("bread rolls" not in foods for _, foods in done(found))


def test_a_list_that_goes_into_the_pot_is_no_cutting() -> None:
    found = reading(
        "Put the chicken in a pot. Water to cover, two carrots, two sticks of celery, an onion cut in half, bay.",
        "1 whole chicken",
        "2 carrots",
        "2 sticks celery",
        "1 onion",
        "1 bay leaf",
    )

    assert done(found)[1] == ("mix", ["whole chicken", "carrots", "celery", "onion", "bay leaf"])


def test_meat_is_stripped_off_by_hand_and_not_peeled() -> None:
    found = reading("Boil the chicken for 90 minutes. Strip all the meat off with your fingers.", "1 whole chicken")
    step = next(row for row in found.data["steps"] if row["do"] == "cut")

    assert step["hands"] == ["cook"]


@pytest.mark.parametrize("label", ["FROM THE ESKY", "From the supply table", "DRY BOX", "Bring from home"])
def test_where_food_comes_from_names_no_part_of_the_dish(label: str) -> None:
    found = read_recipe(
        f"Tacos\n\n{label}:\n1 cup flour\n2 tsp paprika\n1 tsp salt\n\nMethod\nMix the flour, paprika and salt.",
        "en-GB",
    )

    assert label.lower() not in " ".join(str(row.get("makes")) for row in found.data["steps"])


def test_hot_oil_is_not_what_is_fried_next() -> None:
    found = reading(
        "Shake the fish in the flour. Oil in the pan till a bread cube sizzles. Fry 3 minutes a side.",
        "500 g cod",
        "50 g flour",
        "100 ml oil",
    )

    assert done(found)[-1] == ("heat", ["oil", "cod mixture"])


def test_the_remaining_oil_is_the_one_of_which_half_is_used() -> None:
    found = reading(
        "Heat half the oil in a wok. Fry the chicken for 5 minutes. Remove to a clean plate. Add remaining oil.",
        "1 chicken breast",
        "15 ml vegetable oil",
        "5 ml sesame oil",
    )

    assert any("vegetable oil" in foods for do, foods in done(found) if do == "mix")


def test_a_salad_that_is_thrown_together_begins_anew() -> None:
    found = reading(
        "Warm the passata in a pan and stack up a salad: a head of romaine torn and rinsed, a cucumber, sliced thin.",
        "1 jar passata",
        "1 romaine lettuce",
        "1 cucumber",
    )

    assert done(found)[0] == ("heat", ["passata"])
    assert any(do == "rinse" and "romaine lettuce" in foods for do, foods in done(found))


@pytest.mark.parametrize(
    ("line", "kind", "low", "unit"),
    [("choc 200g dark", "chocolate", 200.0, "g"), ("beets 9oz - cooked, vac pack", "beetroot", 9.0, "oz")],
)
def test_an_amount_in_the_middle(line: str, kind: str, low: float, unit: str) -> None:
    found = read_ingredient(line, "en-GB")

    assert (found.kind, found.low, found.unit) == (kind, low, unit)


@pytest.mark.parametrize(
    "text", ["They should be golden and completely set with no runny egg.", "Clean-up: all dishes washed, put away."]
)
def test_what_it_should_be_by_then_and_tidying_up_move_no_food(text: str) -> None:
    found = reading(f"Bake the eggs for 20 minutes. {text}", "4 eggs")

    assert done(found) == [("heat", ["eggs"])]


@pytest.mark.parametrize(
    ("said", "raw", "stock"), [("fish", "500 g hake", "fish"), ("chicken", "4 chicken thighs", "chicken")]
)
def test_the_fish_is_not_what_the_stock_was_made_of(said: str, raw: str, stock: str) -> None:
    found = reading(
        f"Bring the stock to a simmer in a pan. Lay the {said} on top and cook for 8 minutes.",
        raw,
        f"300 ml {stock} stock",
    )

    assert raw.split()[-1] in " ".join(food for _do, foods in done(found) for food in foods)
    assert not [row for row in found.questions if row.why == "left-out"]


# --- what stands on the list twice, and what is not in the pan --------------------------------------------------------


def test_everything_that_simmers_is_what_the_pan_holds_and_a_list_for_the_side_stays_out_of_it() -> None:
    found = reading(
        "Brown the lamb in a wide pan. Add the lentils with the peppers, and simmer everything for 30 minutes. "
        "Rinse the cucumber and the peppers, dice them and toss with the lime juice. Serve the pan with the salad.",
        "500 g diced lamb",
        "400 g tin lentils",
        "1 jar roasted peppers",
        "To go with it:",
        "1 cucumber",
        "2 peppers",
        "1 tbsp lime juice",
        title="Lentil pan",
    )
    heated = {food for do, foods in done(found) if do in ("heat", "part_cook") for food in foods}
    assert not heated & {"cucumber", "peppers", "lime juice"}
    assert ("cut", ["cucumber", "peppers"]) in done(found)
    assert not any("go with" in food for _, foods in done(found) for food in foods)


@pytest.mark.parametrize(
    ("said", "wanted"),
    [
        ("Leek and carrot finely chopped.", ("cut", ["leek", "carrot"])),
        ("Add the cod to the pan. Everyone who handled it washes hands.", ("wash_hands", [])),
        ("Add the cod to the pan. Whoever does the fish goes straight to the basin.", ("wash_hands", [])),
        ("Bring the milk to a boil. When it's boiling in with the cod.", ("mix", ["milk", "cod fillets"])),
        ("Fry the cod. Check one in the thick part, you're after 63.", ("probe", ["cod fillets"])),
        ("Roast the cod. Add the leek, and back in for 5 minutes.", ("heat", ["cod fillets mixture"])),
    ],
)
def test_ways_of_saying_an_order_that_were_lost(said: str, wanted: tuple[str, list[str]]) -> None:
    assert wanted in done(reading(said, "400 g cod fillets", "1 leek", "1 carrot", "500 ml milk", "1 loaf of bread"))


def test_bread_on_the_side_is_bread_and_a_list_s_heading_names_no_food() -> None:
    found = reading("Fry the cod. Bread on the side. Don't keep the fish.", "400 g cod fillets", "1 loaf of bread")
    assert not any(do in ("coat", "brush") for do, _ in done(found))
    assert "bread" in [food for row in found.data["steps"] if row["do"] == "serve" for food in row["foods"]]
    assert [row.taken for row in found.sentences if row.text == "Don't keep the fish."] == ["storage"]


def test_what_is_kept_cold_is_in_the_fridge() -> None:
    assert ("chill", ["cod fillets"]) in done(reading("Fry the cod. Keep cold till wanted.", "400 g cod fillets"))


@pytest.mark.parametrize("said", ["Test a strand.", "Break one open."])
def test_an_order_to_look_that_became_no_step_is_asked(said: str) -> None:
    found = reading(f"Fry the cod. {said}", "400 g cod fillets")
    assert [row.taken for row in found.sentences if row.text == said] == ["unread"]

"""As teams, restaurants and other languages write: the verb behind its food, cores on a probe, what a line contains."""

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.recipes import read_ingredient, read_recipe, soils_of
from foodsafety.recipes.fronted import verb_first
from tests.core.recipes.read import done, reading, step

FOODS = frozenset("rice onion carrot potatoes lemon egg pork".split())


@pytest.mark.parametrize(
    ("said", "meant"),
    [
        ("Rice wash in many waters and boil", "wash Rice in many waters and boil"),
        ("One onion chop fine and mix", "chop One onion fine and mix"),
        ("The carrot grate, then fry", "grate The carrot, then fry"),
        ("Potatoes boil for 20 minutes", "boil Potatoes for 20 minutes"),
        ("Lemon zest in", "Lemon zest in"),
        ("Egg wash on top", "Egg wash on top"),
        ("Pork chop, fried", "Pork chop, fried"),
        ("Wash the rice", "Wash the rice"),
        ("Rice, wash well", "Rice, wash well"),
    ],
)
def test_a_verb_behind_its_food_comes_first_and_what_is_more_of_a_name_stays(said: str, meant: str) -> None:
    assert verb_first(said, FOODS) == meant


@pytest.mark.parametrize(
    ("line", "allergens"),
    [
        ("900 g green curry paste (contains shrimp)", {"crustaceans"}),
        ("crisps (contains milk, soya)", {"milk", "soy"}),
        ("200 g chocolate, contains traces of nuts", {"tree_nuts"}),
        ("moon sauce (contains shrimp)", {"crustaceans"}),
        ("curry paste (may contain peanuts)", {"peanut"}),
    ],
)
def test_what_a_line_says_it_contains_is_in_it(line: str, allergens: set[str]) -> None:
    assert allergens <= set(read_ingredient(line, "en-GB").allergens)


def test_each_team_works_on_the_food_that_its_line_names() -> None:
    found = reading(
        "Otters: peppers – wash, deseed, slice.\nBadgers: sausages. Crumble in the skillet, cook to 75 on the probe.",
        "6 peppers",
        "2 kg sausages",
        "30 eggs",
    )

    assert [row for row in done(found) if row[0] in ("rinse", "cut")] == [
        ("rinse", ["peppers"]),
        ("cut", ["peppers"]),
        ("cut", ["peppers"]),
    ]
    assert done(found)[3][1] == ["sausages"]
    assert step(found, "heat")["end"]["core_c"] == 75


@pytest.mark.parametrize(
    ("text", "do", "core_c"),
    [
        ("Fry the sausages 4 min/side to 160F int.", "heat", 71.1),
        ("Fry the sausages for 12 minutes. Core ≥75 °C in three pieces.", "probe", 75),
        ("Fry the sausages for 12 minutes. The meat inside must have 75 degrees.", "probe", 75),
    ],
)
def test_a_core_is_a_core_however_it_is_said(text: str, do: str, core_c: float) -> None:
    found = reading(text, "2 kg sausages")

    assert step(found, do)["end"]["core_c"] == pytest.approx(core_c, abs=0.1)


def test_a_clean_bowl_that_food_goes_into_is_nobodys_washing_up() -> None:
    found = reading("Fry the sausages for 12 minutes. Lift out -> clean bowl. Hands after!", "2 kg sausages")

    assert [do for do, _ in done(found)][:3] == ["heat", "transfer", "wash_hands"]


def test_eggs_poured_in_after_the_butter_are_the_ones_that_are_cooked() -> None:
    found = reading(
        "Crack the eggs in a bowl, wash hands, beat with a fork, pinch salt.\nButter in the skillet, pour in, stir slow"
        " till set no runny bits. Serve.",
        "30 eggs",
        "butter",
        "salt",
    )

    assert done(found)[-2] == ("heat", ["seasoned eggs in butter"])


def test_stirring_cold_egg_until_it_is_firm_cooks_nothing() -> None:
    found = reading("Beat the eggs and the sugar in a bowl. Stir until set. Serve.", "4 eggs", "100 g sugar")

    assert "heat" not in [do for do, _ in done(found)]


def test_what_goes_down_the_sink_is_in_nothing_and_the_pieces_are_coated() -> None:
    found = reading(
        "Put the liver in a bowl with the milk. Tip the milk away down the sink. Pat the liver dry.\nPut the flour and"
        " the salt on a plate, turn each bit over in it.",
        "1 lb lamb's liver",
        "300 ml milk",
        "2 tbsp flour",
        "1 tsp salt",
    )

    assert "lamb's liver" in " ".join(step(found, "coat")["foods"])


def test_produce_that_only_the_serving_names_is_seen_and_a_choice_or_a_tip_is_not() -> None:
    found = reading("Boil the rice for 12 minutes. Serve with dill.", "200 g rice")
    other = reading("Boil the rice for 12 minutes. Serve with peas or cabbage. A friend uses peaches.", "200 g rice")

    assert "dill" in found.data["foods"]
    assert not {"cabbage", "peaches"} & set(other.data["foods"])


def test_searing_what_is_in_hand_cooks_its_outside_only() -> None:
    found = reading("Cut the chicken. Sear for 8 minutes. Serve.", "4 chicken thighs")

    assert ("part_cook", ["chicken thighs"]) in done(found)


def test_rinse_everything_means_what_grew() -> None:
    found = reading("Rinse everything. Fry the mince for 8 minutes.", "500 g pork mince", "2 carrots", "4 wraps")

    assert step(found, "rinse")["foods"] == ["carrots"]


@pytest.mark.parametrize(
    "text",
    ["Clean wok: carrots 2 mins.", "Shred the carrots, two forks, clean gloves.", "Lift the carrots -> clean bowl."],
)
def test_what_is_called_clean_is_not_washed_by_that(text: str) -> None:
    assert "clean" not in [do for do, _ in done(reading(text, "2 carrots"))]


def test_a_list_of_amounts_is_no_advice_on_keeping() -> None:
    found = reading(
        "Rub the lamb. 0700 Roast the lamb at 160C for 4 hours.",
        "2.5 kg lamb, 50 g salt, 20 g cumin, 500 ml water, 2 kg slaw (bought in, use by tomorrow)",
    )

    assert {"lamb", "salt", "cumin"} <= set(found.data["foods"])


def test_a_letter_with_a_stop_is_the_first_word_of_a_food() -> None:
    found = reading("Slice the s. onions.", "4 spring onions", "2 red onions")

    assert done(found)[0] == ("cut", ["spring onions"])


def test_seasoning_without_a_word_with_what_takes_salt_and_pepper_and_nothing_that_lies_beside() -> None:
    found = reading(
        "Slice the leeks. Season the chicken all over.", "3 leeks", "4 chicken thighs", "1 tsp salt", "pepper"
    )

    assert step(found, "mix")["foods"] == ["chicken thighs", "salt", "pepper"]


def test_water_of_the_list_is_not_what_leeks_are_washed_in() -> None:
    found = reading("Halve the leeks and swish in a bowl of cold water. Fry.", "3 leeks", "200 ml water")

    assert step(found, "rinse")["foods"] == ["leeks"]


@pytest.mark.parametrize(
    ("text", "line"),
    [
        ("Poach the eggs for 3 minutes, the yolk must run. Serve.", "4 eggs"),
        ("Fry the thighs skin side down for 6 minutes. Serve.", "4 chicken thighs"),
        ("Fry the eggs sunny side up for 3 minutes. Serve.", "4 eggs"),
    ],
)
def test_what_is_cooked_from_one_side_or_stays_soft_is_not_cooked_through(text: str, line: str) -> None:
    assert "part_cook" in [do for do, _ in done(reading(text, line))]


@pytest.mark.parametrize(
    "text",
    [
        "Fry the salmon skin side down for 4 minutes, turn and fry 4 more.",
        "Fry the salmon skin side down until opaque and cooked through.",
    ],
)
def test_both_sides_or_an_end_that_says_so_cook_it_through(text: str) -> None:
    assert "heat" in [do for do, _ in done(reading(text, "4 salmon fillets"))]


@pytest.mark.parametrize(
    "text",
    [
        "Coat the chicken in the yoghurt. Grill it for 15 minutes. Serve with what is left in the bowl as a dip.",
        "Marinate the chicken in the yoghurt. Grill it for 15 minutes. Serve with the leftover marinade.",
        "Grill the chicken for 15 minutes. Use the tongs that laid it on to lift it into the buns.",
        "Mix the chicken and the yoghurt. Let the children lick the spoon. Bake at 180C for 40 minutes.",
    ],
)
def test_nothing_is_confirmed_while_raw_food_may_be_eaten_by_a_sentence_nobody_understood(text: str) -> None:
    assert not reading(text, "500 g chicken mince", "200 g yoghurt", "4 buns").may_confirm


@pytest.mark.parametrize(
    "text",
    [
        "Marinate the chicken in the yoghurt. Throw the rest of the marinade away. Grill it for 15 minutes. Serve.",
        "Marinate the chicken in the yoghurt. Boil the rest of the marinade. Grill it for 15 minutes. Serve.",
        "Grill the chicken for 15 minutes. Nobody licks the spoon. Serve.",
    ],
)
def test_what_is_thrown_away_boiled_or_forbidden_holds_nothing_up(text: str) -> None:
    asked = reading(text, "500 g chicken mince", "200 g yoghurt").questions

    assert not [row for row in asked if row.why == "unread" and row.holds]


@pytest.mark.parametrize("line", ["1 l raw milk", "raw cream", "farm milk, unpasteurised"])
def test_milk_that_is_called_raw_is(line: str) -> None:
    assert read_ingredient(line, "en-GB").kind == "raw_milk"


@pytest.mark.parametrize(
    ("line", "low", "unit", "food"),
    [
        ("01    Beef mince 10% fat    6.0 kg   chilled", 6, "kg", "Beef mince 10% fat"),
        ("02    Onion, diced frozen   1.2 kg", 1.2, "kg", "Onion"),
        ("12  eggs", 12, None, "eggs"),
        ("frozen peas, a 1 kg bag", 1, "kg", "frozen peas"),
    ],
)
def test_a_number_of_the_sheet_is_no_amount(line: str, low: float, unit: str | None, food: str) -> None:
    item = read_ingredient(line, "en-GB")

    assert (item.low, item.unit, item.food) == (low, unit, food)


def test_without_a_list_meat_that_is_only_called_meat_is_seen() -> None:
    text = "My soup\n\nPut the hock in the pot with a carrot. Simmer it for two hours. Pull the meat off and serve."
    other = "My stew\n\nBrown the meat in a pan. Add a tin of tomatoes and simmer for an hour. Serve."

    assert "raw_meat" in {soil for food in read_recipe(text, "en-GB").items for soil in soils_of(food)}
    assert not read_recipe(other, "en-GB").may_confirm


@pytest.mark.parametrize(
    ("text", "does"),
    [
        ("Group 3: Washes dill, cuts fine. Serve.", "rinse"),
        ("Chop the dill (washed) and scatter it. Serve.", "rinse"),
        ("Hands, knife, board - hot soapy. Serve the dill.", "clean"),
    ],
)
def test_a_wash_said_in_passing_is_one(text: str, does: str) -> None:
    assert does in [do for do, _ in done(reading(text, "1 bunch of dill"))]


def test_what_is_cut_and_then_goes_into_the_pan_is_cut_alone() -> None:
    found = reading(
        "Dice the chicken, then straight into the hot pan with the oil. Fry until cooked through. Fill the wraps, roll"
        " them and cover with the cheese. Bake at 200C for 20 minutes. Serve.",
        "600 g chicken breast",
        "1 tbsp oil",
        "8 wraps",
        "150 g cheddar",
    )

    assert done(found)[:2] == [("cut", ["chicken breast"]), ("transfer", ["chicken breast", "oil"])]
    assert any({"wraps"} < set(foods) for do, foods in done(found) if do == "transfer")
    assert any("cheddar" in foods for do, foods in done(found) if do == "garnish")


def test_what_is_put_in_each_and_what_is_added_with_something_join_what_is_there() -> None:
    rolls = reading(
        "Grill the burgers for 14 minutes. Split the rolls. Put a burger in each. Serve.", "6 burgers", "6 rolls"
    )
    bake = reading(
        "Boil the penne for 10 minutes. Melt the butter, whisk in the milk and simmer for 5 minutes. Drain the tuna"
        " and add with the pasta. Serve.",
        "300 g penne",
        "2 tins tuna",
        "40 g butter",
        "600 ml milk",
    )

    assert {"burgers", "rolls"} <= {food for _, foods in done(rolls)[2:3] for food in foods}
    assert {"tuna", "penne"} < set(done(bake)[-2][1]), "with the sauce as well"


def test_a_hot_pan_is_no_food_and_what_is_only_served_with_it_is_in_no_pot() -> None:
    found = reading(
        "Soak the noodles for 5 minutes. Heat a large wok. Brown the sausages. They do not need to be cooked through."
        " Put everything in the slow cooker, put the lid on and cook on low for 7 hours. Serve with crusty bread.",
        "200 g noodles",
        "8 sausages",
        "1 tin tomatoes",
    )

    assert [do for do, _ in done(found)][:2] == ["rest", "part_cook"]
    assert set(done(found)[2][1]) == {"noodles", "sausages", "tomatoes"}


@pytest.mark.parametrize(
    "text",
    [
        "Slice the sausages. They do not need to be cooked through.",
        "Slice the sausages. The sausages don't have to be fully cooked.",
        "Slice the sausages. The sausages do not need to be washed.",
    ],
)
def test_what_need_not_be_done_is_done_by_nobody(text: str) -> None:
    assert {do for do, _ in done(reading(text, "8 sausages"))} <= {"cut", "serve"}


@pytest.mark.parametrize(
    ("text", "line"),
    [
        ("Sear the tuna until nearly cooked through. Serve.", "2 tuna steaks"),
        ("Sear the tuna until opaque on the outside. Serve.", "2 tuna steaks"),
        ("Fry the thighs until almost cooked. Serve.", "4 chicken thighs"),
        ("Fry the thighs skin side down for 6 minutes and don't turn them. Serve.", "4 chicken thighs"),
        ("Boil the pasta for 10 minutes. Off the heat, stir in the eggs until just set. Serve.", "4 eggs"),
        ("Boil the pasta. Take the pan off the heat. Stir in the eggs until set. Serve.", "4 eggs"),
        ("Dice the chicken. Into the chiller at 04C. Serve the chicken.", "500 g chicken"),
        ("Dice the chicken. Into the hotbox 75C. Serve the chicken.", "500 g chicken"),
    ],
)
def test_what_is_nearly_cooked_or_only_stands_in_the_warm_is_not_cooked(text: str, line: str) -> None:
    found = reading(text, line, "400 g pasta")

    assert found.process is not None
    assert "no-kill-step" in {row.rule for row in find_contamination(found.process)}


@pytest.mark.parametrize(
    "text",
    [
        "Serve the cooked chicken with the leftover marinade.",
        "Serve with fresh parsley and the rest of the marinade.",
        "Pour the rest of the marinade over before serving.",
        "Heat the plates and serve with the remaining marinade.",
    ],
)
def test_another_word_of_heat_or_of_something_fresh_makes_no_marinade_safe(text: str) -> None:
    before = "Marinate the chicken in the yoghurt. Grill the chicken for 15 minutes. "

    assert not reading(before + text, "500 g chicken", "200 g yoghurt").may_confirm


def test_raw_food_that_only_the_serving_names_was_not_in_the_pot_with_everything() -> None:
    found = reading(
        "Put everything in the pot and simmer for 20 minutes. Serve with the salmon.", "200 g rice", "1 leek"
    )

    assert found.process is not None
    assert ("no-kill-step", "raw_fish") in {(row.rule, row.soil) for row in find_contamination(found.process)}

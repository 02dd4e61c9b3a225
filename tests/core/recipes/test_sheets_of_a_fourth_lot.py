"""What a fourth lot of whole pages showed: kit that went unnamed behind "off" and "out of", a pan that a drained tin
emptied, a core temperature nobody saw, and what goes back, on or in without a verb."""

import pytest

from foodsafety.recipes import read_recipe
from foodsafety.recipes.ingredients import read_ingredient
from tests.core.recipes.read import done, reading, step


@pytest.mark.parametrize(
    ("said", "tools"),
    [
        ("Pull the skin off the chicken on the red board.", {"red board"}),
        ("Pull the sinew out of the chicken with the tip of a knife on the red board.", {"knife", "red board"}),
        ("Pull the bones out of the chicken over a plate.", {"plate"}),
        ("Lift the chicken off the plate with tongs.", {"tongs"}),
    ],
)
def test_kit_behind_what_it_comes_off_is_in_the_step(said: str, tools: set[str]) -> None:
    found = reading(f"{said} Fry the chicken for 20 minutes.", "400 g chicken")

    assert set(found.data["steps"][0]["tools"]) == tools


def test_what_is_pulled_out_of_one_food_is_not_mixed_with_what_cooks_meanwhile() -> None:
    found = reading(
        "Fry the onion 8 minutes. While it goes, take the prawns out of the packet and pull the vein out of each of"
        " them on the blue board. Add the prawns and fry 4 minutes.",
        "1 onion",
        "200 g raw prawns",
    )

    assert ("touch", ["raw prawns"]) in done(found)


@pytest.mark.parametrize(
    "said",
    [
        "Drain the beans. Add the beans and the stock.",
        "Drain the beans and add to the pan with the stock.",
        "Drain and rinse beans. In with the stock.",
        "Rinse the beans. Add with the stock.",
    ],
)
def test_a_drained_tin_leaves_the_pan_as_it_is(said: str) -> None:
    found = reading(f"Fry the onions. {said}", "2 onions", "1 tin white beans", "300 ml stock")

    assert {"onions", "white beans", "stock"} == set(step(found, "mix")["foods"])


@pytest.mark.parametrize(
    "said",
    [
        "That board's going straight in the sink and I'm giving my hands a wash.",
        "The board and the hands that handled the bird must be scrubbed before anything more is touched.",
        "Board, knife and hands washed.",
        "Board and knife you wash with hot water and soap, also hands.",
        "Straight onto a plate, board and knife into the hot soapy water, then wash your hands.",
    ],
)
def test_kit_and_hands_told_in_one_breath_are_both_washed(said: str) -> None:
    found = reading(f"Cut the chicken up on a board. {said} Fry the chicken for 20 minutes.", "400 g chicken")
    washed = {row["do"]: row["tools"] for row in found.data["steps"] if row["do"] in ("clean", "wash_hands")}

    assert "board" in washed["clean"]
    assert "plate" not in washed["clean"]
    assert washed["wash_hands"] == []


@pytest.mark.parametrize("said", ["Dice the onions, mince garlic.", "Chop the onions, mince garlic and fry both."])
def test_garlic_is_minced_and_no_mince_is_cut(said: str) -> None:
    found = reading(f"{said} Fry the beef mince 10 minutes.", "2 onions", "2 cloves garlic", "500 g beef mince")

    assert all("beef mince" not in foods for do, foods in done(found) if do == "cut")


@pytest.mark.parametrize(
    "said",
    [
        "165 in the chicken",
        "~~160~~ 165 in the chicken",
        "Golden all over, 165F.",
        "Cooked through, 165F in the middle.",
    ],
)
def test_a_core_told_in_a_scrap_is_probed(said: str) -> None:
    found = reading(f"Bake the chicken 30 min. {said}", "400 g chicken")

    assert step(found, "probe")["end"]["core_c"] == pytest.approx(73.9, abs=0.1)


@pytest.mark.parametrize(
    "said", ["Bake for 15 mins till brown and 165 in the chicken.", "Fry 12 min to 75 in the thigh."]
)
def test_a_core_behind_how_it_looks_is_its_end(said: str) -> None:
    found = reading(said, "400 g chicken thighs")

    assert 73 < step(found, "heat")["end"]["core_c"] <= 75


def test_meat_shaped_into_a_loaf_is_what_bakes() -> None:
    found = reading("Mix the beef and oats. Pat it into a loaf. Bake 50 minutes. Serve.", "500 g beef", "80 g oats")

    assert [do for do, foods in done(found) if foods == ["loaf"]] == ["heat", "serve"]


def test_a_part_called_the_meat_names_nothing_without_meat() -> None:
    text = "Goulash\n\nFor the meat\n600 g beef\n2 onions\n2 tbsp lard\n\nMethod\n\nFry the onions in the lard."
    read = read_recipe(f"{text} Add the meat and simmer 2 hours.", "en-GB")

    assert "beef" in read.data["steps"][1]["foods"]


@pytest.mark.parametrize("again", ["remaining marinade", "rest of the marinade"])
def test_a_marinade_that_nothing_raw_has_lain_in_may_be_used_up(again: str) -> None:
    rows = ("4 chicken thighs", "50 ml oil", "2 cloves garlic", "1 lemon")
    mixed = "Whisk together oil, garlic, lemon zest and juice. Set aside 2 tbsp."
    first = reading(f"{mixed} Toss the chicken in the {again}. Roast for 45 minutes.", *rows)
    later = reading(
        f"{mixed} Toss the chicken in half the marinade. Roast 45 minutes. Brush with the {again}. Serve.", *rows
    )

    assert [row.why for row in first.questions if row.why == "unread"] == []
    assert [row.holds for row in later.questions if row.why == "unread"] == [True]


def test_steps_numbered_on_rows_of_their_own_are_no_sentences() -> None:
    text = "Eggs\n\nIngredients\n4 eggs\n\nMethod\n1\nBoil the eggs for 10 minutes.\n2\nServe."
    read = read_recipe(text, "en-GB")

    assert [row.taken for row in read.sentences if row.taken == "unread"] == []
    assert [row["do"] for row in read.data["steps"]] == ["heat", "serve"]


def test_a_list_of_amounts_above_a_number_stays_as_it_is() -> None:
    read = read_recipe("Eggs\n\n2\n4 eggs\n\nMethod\nBoil the eggs for 10 minutes. Serve.", "en-GB")

    assert [row.food for row in read.items] == ["eggs"]


@pytest.mark.parametrize(
    ("line", "food", "amount"),
    [
        ("a good half cup of ketchup", "ketchup", 0.5),
        ("a scant 1/2 cup sugar", "sugar", 0.5),
        ("2 1/2 c stock", "stock", 2.5),
    ],
)
def test_how_full_a_cup_is_is_no_food(line: str, food: str, amount: float) -> None:
    item = read_ingredient(line, "en-US")

    assert (item.food, item.low, item.unit) == (food, amount, "cup")


def test_what_goes_back_without_a_verb_is_in_the_pot() -> None:
    found = reading(
        "fry the pork 6 min. out onto a plate.\nleeks in, 8 min.\npork back. cider in. simmer 1 1/2 hours.",
        "600 g pork",
        "2 leeks",
        "300 ml cider",
    )

    assert [row["minutes"] for row in found.data["steps"] if row["do"] == "heat"] == [8, 90]
    last = [row for row in found.data["steps"] if row["do"] == "heat"][-1]
    made = {row.get("makes"): row["foods"] for row in found.data["steps"]}
    inside = list(last["foods"])
    for name in inside:
        inside += made.get(name, [])
    assert {"pork", "leeks", "cider"} <= set(inside)


def test_what_is_spread_on_goes_onto_the_dough() -> None:
    found = reading(
        "Mix the flour and milk to a dough. Roll it into a circle. Tear up the ham. Spread the passata on.",
        "300 g flour",
        "150 ml milk",
        "4 slices ham",
        "6 tbsp passata",
    )

    assert "ham" not in found.data["steps"][-1]["foods"]

"""A sauce that is made beside raw meat or a salad: what it goes on is seldom said, and is what is cooked or served."""

import itertools

import pytest

from foodsafety.recipes import Reading, read_recipe

LIST = "600 g chicken breast\n3 tbsp honey\n2 tbsp soy sauce\n2 cloves garlic\n1 lemon\n1 lettuce"
SAUCES = [
    "Mix the honey, soy sauce and garlic.",
    "For the glaze, mix the honey, soy sauce and garlic.",
    "Whisk the honey with the soy sauce and garlic to make a sauce.",
]


def reading(*method: str) -> Reading:
    return read_recipe("\n".join(["Supper", "", *LIST.split("\n"), "", "Method", *method]) + "\n", "en-GB")


def holds(found: Reading, do: str) -> list[set[str]]:
    """What each step of a sort works on, down to the ingredients."""
    made = {row["makes"]: row["foods"] for row in found.data["steps"] if row.get("makes")}

    def base(name: str) -> set[str]:
        return set().union(*map(base, made[name])) if name in made else {name}

    return [set().union(*map(base, row["foods"])) for row in found.data["steps"] if row["do"] == do]


@pytest.mark.parametrize(
    "goes_on",
    """Spoon it over.;Brush half of it on.;Brush over half.;Pour over the sauce.;Rub it in.;Rub it all over.
    Add the sauce.;Smear it on with the back of a spoon.;Toss in the sauce.;Toss everything together.
    Baste with the mixture.;Coat with it.;Brush on the glaze.;Use half to brush the top.;Turn to coat.
    Dollop it on top.;Cover with the sauce.;Massage it in.;Get it all over with your hands.""".replace(
        "\n    ", ";"
    ).split(";"),
)
def test_it_goes_on_the_meat_that_waits_and_that_is_what_is_baked(goes_on: str) -> None:
    for before, sauce in itertools.product(["Trim the chicken.", "Put the chicken in a roasting tin."], SAUCES):
        baked = holds(reading(before, sauce, goes_on, "Bake for 40 minutes at 200C."), "heat")
        assert {"chicken breast", "honey", "soy sauce"} <= set().union(*baked)


@pytest.mark.parametrize(
    "goes_on", ["Pour over.", "Toss in the dressing.", "Dress with it.", "Toss everything together."]
)
@pytest.mark.parametrize("salad", ["Tear the lettuce into a bowl.", "Wash and slice the lettuce."])
def test_a_dressing_goes_on_the_salad_and_never_on_raw_chicken(goes_on: str, salad: str) -> None:
    dressing = "For the dressing, whisk the honey, soy sauce and lemon juice."
    found = reading("Trim the chicken and put it in the fridge.", salad, dressing, goes_on, "Serve.")
    assert any({"lettuce", "honey"} <= foods for do in ("mix", "garnish", "coat") for foods in holds(found, do))
    assert not any(
        {"chicken breast", "honey"} <= foods for do in ("mix", "garnish", "coat") for foods in holds(found, do)
    )


def test_where_it_may_be_for_either_it_is_asked() -> None:
    found = reading(
        "Trim the chicken.", "Slice the lettuce.", SAUCES[0], "Spoon it over.", "Bake for 40 minutes at 200C."
    )
    spooned = next(row for row in found.data["steps"] if row["do"] == "garnish")
    assert "foods" in spooned["guesses"]


def test_a_marinade_alone_is_never_what_is_baked() -> None:
    assert holds(reading("Trim the chicken.", SAUCES[0], "Bake for 40 minutes at 200C."), "heat") == [
        {"chicken breast"}
    ]


def test_what_is_thrown_away_leaves_a_time_to_be_asked_about() -> None:
    found = reading("Put the chicken in a roasting tin.", "Discard the garlic, 14 minutes.")
    assert next(row.taken for row in found.sentences if row.text.startswith("Discard")) == "unread"


@pytest.mark.parametrize(
    ("method", "do"),
    [
        ("Fry the garlic in a pan for 8 minutes.\nAdd the chicken and simmer, covered, for 20 minutes.", "heat"),
        ("Simmer the garlic and soy sauce.\nChicken in, cover, 20 minutes.", "heat"),
        ("Simmer the garlic and soy sauce.\nTurn off.\nAdd the chicken, cover, 20 minutes.", "rest"),
        ("Simmer the garlic and soy sauce, then take off the heat.\nAdd the chicken.\nCover, 20 minutes.", "rest"),
    ],
)
def test_under_a_lid_raw_meat_cooks_on_only_while_it_is_on_the_heat(method: str, do: str) -> None:
    rows = [row for row in reading(*method.split("\n")).data["steps"] if row["do"] in ("heat", "part_cook", "rest")]
    assert rows[-1]["do"] == do
    assert any("chicken breast" in foods for foods in holds(reading(*method.split("\n")), do))


def test_what_was_taken_out_of_the_pan_is_not_in_it() -> None:
    found = reading("Brown the chicken.", "Take it out.", "Lettuce and garlic in, 8 minutes.", "Put the chicken back.")
    assert holds(found, "mix")[0] == {"lettuce", "garlic"}


def test_a_white_sauce_beside_another_is_the_one_of_flour_and_milk() -> None:
    lines = "500 g beef mince\n9 lasagne sheets\n50 g butter\n50 g flour\n600 ml milk\n1 tin tomatoes"
    method = (
        "Fry the mince. Add the tomatoes and simmer for 20 minutes.\nFor the white sauce, cook the flour in the butter."
        "\nWhisk in the milk and cook till thick.\nLayer the meat, pasta, white sauce and more white sauce in a dish.\n"
        "Bake for 40 minutes at 180C.\n"
    )
    found = read_recipe(f"Supper\n\n{lines}\n\nMethod\n{method}", "en-GB")
    assert {"beef mince", "lasagne sheets", "flour", "milk"} <= holds(found, "heat")[-1]


@pytest.mark.parametrize(
    "method",
    [
        "Start the chicken off in the soy sauce, 6 minutes.",
        "Put the chicken in a pan. Bring to the boil and leave for 20 minutes off the heat.",
        "Put the chicken in a pan. Bring to a simmer and leave for 20 minutes off the heat.",
        "Chicken: 20 minutes in salted water.",
        "Chicken: hot water, 10 minutes.",
        "Chicken in the oil, 30 minutes.",
        "Slide the chicken onto the hot tray, 10 min.",
        "Heat the soy sauce in a pan. Chicken in, brown.",
        "Simmer the soy sauce. Add the chicken to the cooled sauce, cover, 10 minutes.",
        "Trim the chicken and put it in the fridge. Slice the lettuce. Mix the honey and soy sauce."
        " Bake for 40 minutes.",
        "Trim the chicken. Slice the lettuce. Mix the honey and soy sauce. Bake for 40 minutes.",
    ],
)
def test_what_is_not_said_cooks_no_chicken_through(method: str) -> None:
    found = reading(method)
    kept = [row for row in found.data["steps"] if row["do"] == "heat"]
    waits = any(row.why in ("which-heat", "goes-nowhere", "unread", "unplaced") for row in found.questions)
    cooked = [row for row, foods in zip(kept, holds(found, "heat"), strict=True) if "chicken breast" in foods]
    assert all(not row.get("minutes") for row in cooked)
    assert waits


@pytest.mark.parametrize(
    ("said", "washes"),
    [
        ("Hands rinsed without soap.", False),
        ("Rinse your hands, no soap.", False),
        ("Wash hands in hot soapy water with a clean cloth.", True),
        ("Wash your hands and dry with paper towels.", True),
    ],
)
def test_only_a_wash_with_soap_is_one(said: str, washes: bool) -> None:
    assert bool(holds(reading("Trim the chicken.", said, "Tear the lettuce."), "wash_hands")) == washes


def test_a_second_and_lower_reading_takes_nothing_from_the_first() -> None:
    found = reading("Bake the chicken for 40 minutes at 200C.", "Probe it to 75C, and check it holds 63C.")
    assert [row["end"]["core_c"] for row in found.data["steps"] if row["do"] == "probe"] == [75, 63]


def test_everything_for_a_dish_has_the_meat_that_is_worked_on_later() -> None:
    found = reading("Put everything for the chilli in the pot.", "Simmer for 40 minutes.", "Shred the chicken.")
    assert "chicken breast" in holds(found, "heat")[0]

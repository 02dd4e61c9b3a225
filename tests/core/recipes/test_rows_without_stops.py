"""Rows in small letters and without stops: what begins like a heading takes nothing with it."""

import pytest

from foodsafety.recipes import Reading, read_recipe

LIST = "500 g chicken breast\n1 lettuce\n2 tbsp flour\n300 ml stock\n200 g rice\n1 egg"


def reading(method: str) -> Reading:
    return read_recipe(f"Chicken supper\n\nIngredients\n{LIST}\n\nMethod\n{method}\n", "en-GB")


def work(method: str) -> list[tuple[str, list[str]]]:
    return [(row["do"], row["foods"]) for row in reading(method).data["steps"]]


def taken(found: Reading, text: str) -> str:
    return next(row.taken for row in found.sentences if row.text == text)


@pytest.mark.parametrize(
    "row",
    [
        "tip the flour in",
        "safety first wash hands",
        "tools down wash hands",
        "source the chicken",
        "make ahead the sauce",
        "variation use the lettuce",
        "allergens: milk",
        "equipment wash",
    ],
)
def test_what_comes_after_it_is_read_or_asked_about(row: str) -> None:
    found = reading(f"chop the chicken\n{row}\nfry the chicken for 10 minutes")
    cooked = any(row["do"] == "heat" and "chicken" in str(row["foods"]) for row in found.data["steps"])
    asked = any(row.why == "unread" and row.holds and "fry" in row.text for row in found.questions)
    assert cooked != asked


@pytest.mark.parametrize("row", ["fridge", "chill", "into the fridge", "wash", "drain", "mix", "check it", "taste it"])
def test_a_word_of_work_is_no_heading(row: str) -> None:
    assert taken(reading(f"chop the chicken\n{row}\nfry the chicken for 10 minutes"), row) in ("step", "unread")


def test_notes_stay_notes() -> None:
    found = reading(
        "Fry the chicken for 10 minutes.\nServe it.\n\nNotes\nReheat until piping hot.\nAny left keeps 2 days."
    )
    assert [row.taken for row in found.sentences[-2:]] in (["tip", "storage"], ["storage", "storage"])
    assert not any(row.why == "unread" for row in found.questions)


def test_waiting_that_nobody_said_is_doubted() -> None:
    waits = reading("chop the chicken\nrice 12 minutes\nfry the chicken for 10 minutes").data["steps"][1]
    assert waits["do"] == "rest"
    assert "work" in waits["guesses"]
    assert "work" not in reading("Leave the rice to soak for 12 minutes.").data["steps"][0].get("guesses", [])


@pytest.mark.parametrize(
    "said", ["Chicken on a rack over a foil-lined tray, 40 minutes.", "Put the chicken on a tray for 40 minutes."]
)
def test_what_lies_on_a_tray_by_a_hot_oven_is_guessed_to_go_in_and_cooks_nothing_through(said: str) -> None:
    found = reading(f"Heat the oven to 200C. {said} Serve the chicken.")
    step = next(row for row in found.data["steps"] if row["do"] in ("heat", "part_cook"))
    assert (step["do"], "guess" in step["guesses"]) == ("part_cook", True)
    assert not found.may_confirm


@pytest.mark.parametrize(
    "said",
    [
        "Put the chicken on a tray for 40 minutes to come to room temperature.",
        "Put the chicken on a rack in the fridge for 40 minutes.",
        "Put the chicken on a tray and leave it to rest for 40 minutes.",
    ],
)
def test_what_only_stands_there_is_not(said: str) -> None:
    assert not {"heat", "part_cook"} & {do for do, _ in work(f"Heat the oven to 200C. {said}")}


def test_work_behind_a_set_up_is_read() -> None:
    assert ("heat", ["rice"]) in work("Rice: rinse, cover with water, boil, lid, lowest heat 12 minutes.")
    assert not any(do == "heat" for do, _ in work("Heat the oven to 200C, fan 180, gas mark 6."))


def test_a_pot_that_is_called_a_casserole_names_no_dish() -> None:
    names = [
        row.get("makes")
        for row in reading(
            "Brown the chicken in a casserole. Boil the rice for 12 minutes, drain and mix with the lettuce and egg."
        ).data["steps"]
    ]
    assert not any(name and "casserole" in name for name in names)


def test_all_of_a_list_goes_in_and_its_time_is_the_pots() -> None:
    rows = work(
        "Bring the chicken to the boil in the stock in a big pot. It then wants an hour with the lid ajar. Shred the "
        "lettuce. When the hour is up the lettuce, rice and flour go in, and the whole thing has another 45 minutes."
    )
    assert [do for do, _ in rows] == ["part_cook", "cut", "transfer", "heat", "serve"]
    assert {"lettuce", "rice", "flour"} <= set(rows[2][1])


@pytest.mark.parametrize(
    ("said", "wanted"),
    [
        ("Get your hands in and squidge the chicken, only till it sticks, then wash them.", ["wash_hands"]),
        ("Rub the chicken with your hands, then take the leaves off the lettuce and wash them.", ["rinse"]),
        ("Scissors and hands in the sink, hot water, soap, twenty seconds.", ["clean", "wash_hands"]),
        ("Wash the table down with soapy water, and hands as well.", ["clean", "wash_hands"]),
        ("Wipe the table with a cloth, and hands as well.", []),
        ("Don't wash the board with soap, hands as well.", []),
    ],
)
def test_who_is_washed(said: str, wanted: list[str]) -> None:
    assert [do for do, _ in work(f"Chop the chicken. {said}") if do in ("wash_hands", "rinse", "clean")] == wanted


@pytest.mark.parametrize("thing", ["taps", "worktops", "spoons", "dishes", "sides", "zester", "pestle and mortar"])
def test_a_wash_of_kit_is_never_a_rinse_of_what_is_in_hand(thing: str) -> None:
    assert [do for do, _ in work(f"Chop the chicken. Wash the {thing}.")][1:2] == ["clean"]
    assert [do for do, _ in work(f"Chop the chicken. Rinse the {thing}.")][1:2] == ["wipe"]


def test_a_wash_of_something_nobody_knows_is_asked_about_and_one_of_its_grit_is_of_the_food() -> None:
    assert taken(reading("Chop the lettuce. Wash the oojah. Serve the lettuce."), "Wash the oojah.") == "unread"
    assert ("rinse", ["lettuce"]) in work("Take the lettuce apart and rinse the grit out.")
    assert ("rinse", ["rice"]) in work("Rinse the bag of rice.")


@pytest.mark.parametrize(
    "said",
    [
        "Warm the plates in the oven.",
        "Boil a pan of water for 10 minutes.",
        "Heat the jar lids in boiling water for 10 minutes.",
        "Sterilise the jars in the oven for 15 minutes.",
        "Bake the potatoes for an hour.",  # no line has any
        "Warm through the gravy.",
        "Fry some bread.",
        "Heat a baking sheet in the oven for 15 minutes.",
        "Wait for the oven to reach 200C, 15 minutes.",
        "Put a tray in the oven to heat for 10 minutes.",
        "Give the pan 3 minutes to heat.",
        "Heat the sauce for 10 minutes.",
        "Bring a pan of salted water to the boil.",
        "Simmer the syrup for 5 minutes.",
        "Put the water on, 10 minutes.",
        "Oven on, 15 minutes.",
        "Run the dishwasher on hot for 40 minutes.",
        # what points at nothing, and a pronoun that means what the order itself names
        "Bake potatoes for an hour.",
        "Bake 4 potatoes for an hour.",
        "Boil our potatoes for 20 minutes.",
        "Bake both loaves of bread for 40 minutes.",
        "Bake the potatoes for an hour until they are soft.",
        "Boil that pan of water and keep it there for 10 minutes.",
        "Heat plates in the oven for 10 minutes.",
        "Potatoes in the oven for an hour.",
        "The potatoes need an hour at 200C.",
        "Have the fryer at 180C for 10 minutes.",
        "Boil kettle, 5 minutes.",
        "Reheat the soup for 10 minutes.",
        "Bake a batch of scones for 15 minutes.",
        "Wrap the potatoes in foil and bake them for an hour.",
        "Prick the potatoes, then microwave for 8 minutes.",
        "Peel the potatoes. Boil for 20 minutes.",
        "Tip the mushrooms into the hot pan and fry for 5 minutes.",
    ],
)
@pytest.mark.parametrize("before", ["Chop the chicken.", "Brown the chicken for 2 minutes. Lift it onto a plate."])
def test_heat_on_something_else_cooks_no_chicken(said: str, before: str) -> None:
    rows = work(f"{before}\n{said}\nServe the chicken with the lettuce.")
    assert not [foods for do, foods in rows if do == "heat" and "chicken breast" in foods]
    held = reading(f"{before}\n{said}\nServe the chicken with the lettuce.").questions
    assert all(foods != ["chicken breast"] for do, foods in rows[2:] if do == "part_cook") or any(
        row.why == "guessed" and row.holds for row in held
    )


def test_heat_without_an_object_is_of_what_is_in_hand() -> None:
    for said in ("Bake for 20 minutes.", "Fry gently until golden.", "Cook the pieces for 9 minutes.", "Fry the rest."):
        rows = work(f"Chop the chicken.\n{said}\nServe the chicken.")
        assert [foods for do, foods in rows if do in ("heat", "part_cook")] == [["chicken breast"]], said


@pytest.mark.parametrize(
    ("row", "people"),
    [
        ("4 portions", 4),
        ("Gives 6 portions", 6),
        ("Makes enough for 6", 6),
        ("Feeds a crowd of 20", 20),
        ("No. of portions 16", 16),
        ("Batch: 50", 50),
        ("Recipe for 12", 12),
        ("Serves 4 | Prep 10 min | Cook 25 min", 4),
    ],
)
def test_how_many_it_serves_is_no_food(row: str, people: int) -> None:
    found = read_recipe(f"Fish pie\n{row}\n\nIngredients\n500 g cod\n\nMethod\nBake the cod for 20 minutes.", "en-GB")
    assert (found.document.serves, len(found.items)) == (people, 1)


@pytest.mark.parametrize(
    "said",
    [
        "Lift it out onto a plate. Mix the chicken and lettuce in a bowl, 10 minutes.",
        "Put it in a bowl. Add the lettuce and toss, 10 minutes.",
        "Take the pan off the heat. The lettuce and rice go in, and the whole thing has 10 minutes.",
        "Shred the lettuce. Tip the chicken over the lettuce on a plate, 5 minutes.",
        "Leave the chicken to cool. Shred the lettuce. Add the lettuce to the chicken, 10 minutes.",
    ],
)
def test_what_has_left_its_pan_or_cooled_is_not_cooked_on_by_a_time(said: str) -> None:
    rows = work(f"Brown the chicken in a frying pan for 2 minutes. {said} Serve.")
    assert [do for do, _ in rows if do in ("heat", "part_cook")] == ["part_cook"]

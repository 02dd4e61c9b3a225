"""What is said of kit, of the fridge, of another day or of other people: no wash, no chill and no reading here."""

import pytest

from foodsafety.recipes import read_recipe

LIST = "500 g chicken breast\n1 lettuce\n2 leeks"


def does(said: str) -> list[tuple[str, list[str]]]:
    """The work read from words between a raw chicken on the board and a salad on it."""
    method = f"Chop the chicken on the board.\n{said}\nTear the lettuce onto the board.\nServe the lettuce."
    steps = read_recipe(f"Supper\n\nIngredients\n{LIST}\n\nMethod\n{method}\n", "en-GB").data["steps"]
    return [(row["do"], row["foods"]) for row in steps[1:-2]]


@pytest.mark.parametrize(
    ("work", "said"),
    [
        *(
            ("clean", said)
            for said in (
                "The dishwasher will clean the board later.",
                "Wash the board after the lesson.",
                "Rinse the board under the tap.",
                "Rinse the board.",
                "Wash the board if it is dirty.",
                "Turn the board over.",
                "Soak the board.",
            )
        ),
        *(
            ("wash_hands", said)
            for said in (
                "Rinse your hands.",
                "Wash off your hands later.",
                "Wipe your hands on your apron.",
                "Nobody washes their hands yet.",
                "You do not have to wash your hands.",
                "You could wash your hands.",
                "We forgot to wash our hands.",
                "Good cooks wash their hands.",
                "At home you should wash your hands.",
                "Wash your hands? Not yet.",
                "Put gloves on.",
            )
        ),
        *(
            ("rinse", said)
            for said in (
                "Wash the lettuce if it is sandy.",
                "Wash the lettuce later.",
                "Some people wash the lettuce.",
                "No need to wash the lettuce.",
            )
        ),
        *(
            ("probe", said)
            for said in ("Check the fridge with the probe.", "Probe the water.", "The safe temperature is 75C.")
        ),
        *(
            ("chill", said)
            for said in (
                "The fridge should be at 5C or below.",
                "Leave the chicken on top of the fridge.",
                "Put the chicken next to the fridge.",
                "Chicken on top of the fridge, 2 hours.",
                "Chill the glasses.",
                "Make room in the fridge.",
            )
        ),
    ],
)
def test_it_is_no_such_work(work: str, said: str) -> None:
    assert work not in [do for do, _ in does(said)]


@pytest.mark.parametrize(
    ("said", "wanted"),
    [
        ("Clean the leeks.", ("rinse", ["leeks"])),
        ("Take the leeks out of the bag, wash them and dry them.", ("rinse", ["leeks"])),
        ("Wash the leeks from the box.", ("rinse", ["leeks"])),
        ("Rinse the board with hot soapy water.", ("clean", [])),
        ("Wash your hands if you touched the chicken.", ("wash_hands", [])),
        ("Probe the thickest part.", ("probe", ["chicken breast"])),
        ("Put the tub in the fridge.", ("chill", ["chicken breast"])),
    ],
)
def test_and_what_is_is(said: str, wanted: tuple[str, list[str]]) -> None:
    assert wanted in does(said)


@pytest.mark.parametrize(
    ("said", "core_c"),
    [
        ("Check one at the thickest part: we want 75 or more.", 75),
        ("Probe it, and do not stop under 75.", None),
        ("Probe the chicken, if it is 75 stop.", None),
    ],
)
def test_a_temperature_is_the_probes_wherever_the_sentence_has_it(said: str, core_c: float | None) -> None:
    text = f"Supper\n\nIngredients\n{LIST}\n\nMethod\nRoast the chicken for 40 minutes at 200C.\n{said}"
    probe = next(row for row in read_recipe(text, "en-GB").data["steps"] if row["do"] == "probe")
    assert probe.get("end", {}).get("core_c") == core_c


def test_hands_are_washed_with_none_of_the_kit_that_is_washed_beside_them() -> None:
    text = f"Supper\n\nIngredients\n{LIST}\n\nMethod\nChop the chicken. Wash your hands, the board and the knife."
    rows = read_recipe(text, "en-GB").data["steps"]
    tools = {row["do"]: row.get("tools", []) for row in rows}
    assert tools["wash_hands"] == []
    assert len(tools["clean"]) == 2


@pytest.mark.parametrize(
    "washed",
    [
        "Wash board and knife.",
        "Clean board and knife with hot soapy water.",
        "Board and knife washed.",
        "Wash up! Hands, board, knife.",
        "Wash your hands before anything else, board and knife too.",
    ],
)
def test_kit_that_is_cleaned_is_the_kit_that_was_used(washed: str) -> None:
    method = f"Cut the chicken into strips on the red board.\n{washed}\nFry the chicken."
    steps = read_recipe(f"Supper\n\nIngredients\n{LIST}\n\nMethod\n{method}\n", "en-GB").data["steps"]

    cleaned = {tool for row in steps if row["do"] == "clean" for tool in row["tools"]}
    assert {"red board", "knife"} <= cleaned
    assert "clean board" not in cleaned

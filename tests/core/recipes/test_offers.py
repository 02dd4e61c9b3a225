"""What is offered where a text says too little: never taken by itself, never a food twice."""

import pytest

from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    discard,
    eaten_offers,
    foods_named,
    loose_ends,
    offered_words,
    place_food,
    process_from,
    raw_astray,
    rename_food,
    say_eaten,
    unplaced,
)

SAID = (
    "You want about half a pound of cod, so a bowl with 2 tablespoons of olive oil and a tin of tomatoes goes on. "
    "Turn the cod in it, then 3 cloves of garlic and a handful of parsley."
)


def test_foods_in_running_words_come_with_their_amounts() -> None:
    assert foods_named(SAID, "en-GB") == (
        "about half a pound of cod",
        "2 tablespoons of olive oil",
        "a tin of tomatoes",
        "3 cloves of garlic",
        "a handful of parsley",
    )


def test_a_food_named_first_without_its_amount_is_offered_with_it() -> None:
    assert foods_named("Cut the cod small. You need 300 g cod.", "en-GB") == ("300 g cod",)


@pytest.mark.parametrize("text", ["", "Have a good time!", "Boil some water."])
def test_no_food_no_offer(text: str) -> None:
    assert foods_named(text, "en-GB") == ()


def test_a_method_among_the_ingredients_is_offered_as_one() -> None:
    lines = ["200 g rice", "1 onion", "Chop the onion and fry it for 5 minutes until it is soft"]
    assert offered_words(lines, (), lines, "en-GB") == (tuple(lines[:2]), (lines[2],))


def test_running_words_are_offered_as_the_method_and_searched_for_foods() -> None:
    ingredients, instructions = offered_words((), (), (SAID,), "en-GB")
    assert len(ingredients) == 5
    assert instructions == (SAID,)


@pytest.mark.parametrize(
    ("steps", "offers"),
    [
        ([{"id": "1", "do": "mix", "foods": ["leek", "cod"], "makes": "stew"}], ("stew",)),
        ([{"id": "1", "do": "heat", "foods": ["cod"]}], ("cod",)),
        ([{"id": "1", "do": "wash_hands", "foods": []}], ("leek", "cod")),
    ],
)
def test_what_goes_into_nothing_else_may_be_eaten(steps: list[dict[str, object]], offers: tuple[str, ...]) -> None:
    foods = {"leek": {"kind": "leek"}, "cod": {"kind": "cod"}}
    rows = [{"hands": ["cook"], "tools": [], **step} for step in steps]
    process = process_from({"foods": foods, "tools": {}, "people": ["cook"], "steps": rows, "serve": []})
    assert eaten_offers(process) == offers


def served(serve: list[str]) -> dict[str, object]:
    """Cod that is fried, and a slaw: what is served is said of some of it."""
    return {
        "foods": {"cod": {"kind": "cod"}, "leek": {"kind": "leek"}, "oil": {"kind": "oil"}},
        "tools": {},
        "people": ["cook"],
        "steps": [
            {"id": "1", "do": "heat", "foods": ["cod", "oil"], "hands": [], "tools": []},
            {"id": "2", "do": "mix", "foods": ["leek"], "makes": "slaw", "hands": ["cook"], "tools": []},
            {"id": "3", "do": "serve", "foods": serve, "hands": [], "tools": []},
        ],
        "serve": serve,
    }


def test_what_was_raw_or_made_and_is_not_served_is_asked_about() -> None:
    assert eaten_offers(process_from(served(["slaw"]))) == ("cod",)
    assert eaten_offers(process_from(served(["cod"]))) == ("slaw",)
    assert eaten_offers(process_from(served(["cod", "slaw"]))) == ()


def test_it_is_eaten_with_the_rest() -> None:
    said = say_eaten(served(["slaw"]), ["cod"], "Serve")
    assert said["serve"] == ["slaw", "cod"]
    assert len(said["steps"]) == 3


def test_a_raw_food_that_no_step_uses_is_asked_about_first_and_offered_where_the_words_name_it() -> None:
    data = served(["slaw"])
    data["foods"]["turkey mince"] = {"kind": "ground turkey"}  # type: ignore[index]
    data["foods"]["salt"] = {"kind": "salt"}  # type: ignore[index]
    data["steps"][1]["detail"] = "Mix the turkey into it"  # type: ignore[index]
    rows = unplaced(data, process_from(data))
    assert [(row.food, row.raw, row.step) for row in rows] == [("turkey mince", True, "2"), ("salt", False, "1")]

    placed = place_food(data, "turkey mince", "2")
    assert "turkey mince" in placed["steps"][1]["foods"]
    out = place_food(data, "turkey mince", "")
    assert "turkey mince" not in out["foods"]


@pytest.mark.parametrize(("food", "step", "says"), [("gone", "1", "no such food"), ("leek", "", "still needed")])
def test_a_place_that_cannot_be_is_refused(food: str, step: str, says: str) -> None:
    with pytest.raises(CoreError, match=says):
        place_food(served(["slaw"]), food, step)


def test_what_holds_something_raw_and_goes_nowhere_is_offered_to_the_next_heat() -> None:
    data = served(["slaw"])
    data["foods"]["turkey"] = {"kind": "ground turkey"}  # type: ignore[index]
    filling = {"id": "0", "do": "mix", "foods": ["turkey"], "makes": "filling", "hands": ["cook"], "tools": []}
    data["steps"] = [filling, *data["steps"]]  # type: ignore[misc]
    rows = loose_ends(process_from(data))
    assert [(row.food, row.raw, row.step) for row in rows] == [("filling", True, "1"), ("cod", False, "")]
    assert "filling" in place_food(data, "filling", "1")["steps"][1]["foods"]
    assert loose_ends(process_from({**served(["slaw"]), "serve": []})) == ()


def with_filling() -> dict[str, object]:
    """A raw filling that is made, and then goes into nothing."""
    data = served(["cod", "slaw"])
    data["foods"]["turkey"] = {"kind": "ground turkey"}  # type: ignore[index]
    filling = {"id": "0", "do": "mix", "foods": ["turkey"], "makes": "filling", "hands": ["cook"], "tools": []}
    data["steps"] = [filling, *data["steps"]]  # type: ignore[misc]
    return data


def test_while_a_raw_food_goes_astray_it_is_named_and_an_answer_of_any_kind_ends_it() -> None:
    data = with_filling()
    assert raw_astray(process_from(data)) == ("filling",)
    assert raw_astray(process_from(place_food(data, "filling", "1"))) == ()
    assert raw_astray(process_from(discard(data, "filling"))) == ()
    assert raw_astray(process_from(say_eaten(data, ["filling"], "Serve"))) == ()


def test_a_raw_food_in_no_step_goes_astray_and_what_is_not_raw_does_not() -> None:
    data = served(["cod", "slaw"])
    data["foods"]["salt"] = {"kind": "salt"}  # type: ignore[index]
    assert raw_astray(process_from(data)) == ()
    data["foods"]["egg"] = {"kind": "egg"}  # type: ignore[index]
    assert raw_astray(process_from(data)) == ("egg",)


def test_what_is_thrown_away_keeps_that_when_it_is_renamed() -> None:
    renamed = rename_food(discard(with_filling(), "filling"), "filling", "stuffing")
    assert process_from(renamed).discarded == ("stuffing",)
    assert raw_astray(process_from(renamed)) == ()

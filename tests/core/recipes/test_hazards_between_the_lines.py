"""Dangers that a text only hints at: each is found, or asked about before anything may be confirmed."""

from __future__ import annotations

import pytest

from foodsafety.contamination import find_contamination
from foodsafety.recipes import Reading, read_ingredient, read_recipe

CHICKEN = "500 g chicken breasts; 1 lettuce; 4 buns; 2 tbsp oil"
BEANS = "250 g kidney beans, dried; 1 onion"


def _read(method: str, foods: str = CHICKEN) -> Reading:
    rows = method.replace(". ", ".\n")
    return read_recipe("Supper\n\n" + foods.replace("; ", "\n") + f"\n\nMethod\n{rows}\n", "en-GB")


def _held_by(found: Reading) -> set[str]:
    return {question.why for question in found.questions if question.holds}


@pytest.mark.parametrize(
    ("method", "foods"),
    [
        ("Shape the mince into 4 burgers. Fry for 3 minutes a side. Serve pink in the middle.", "500 g beef mince"),
        ("Bake the wings for 30 minutes. Toss them in the bowl they were seasoned in. Serve.", "500 g chicken wings"),
        ("Leave the chicken on the side all day to thaw. Fry it for 20 minutes until 75 C. Serve.", CHICKEN),
        ("Boil the potatoes for 12 minutes. Leave on the buffet from 10 till 4. Serve.", "1 kg potatoes"),
        (
            "Mix the soy sauce with the chicken in a bowl. "
            "Grill the chicken for 20 minutes, brushing with what is in the bowl. Serve.",
            "500 g chicken thighs; 100 ml soy sauce",
        ),
    ],
)
def test_what_is_said_in_passing_holds_the_recipe_up(method: str, foods: str) -> None:
    assert "unread" in _held_by(_read(method, foods))


@pytest.mark.parametrize(
    ("method", "asked"),
    [
        ("Grill the sausages until they are brown. Serve.", True),
        ("Grill the sausages until no pink is left inside. Serve.", False),
        ("Grill the sausages for 15 minutes until they are brown. Serve.", False),
        ("Grill the sausages until they read 75 C inside. Serve.", False),
    ],
)
def test_a_brown_outside_is_no_cook(method: str, asked: bool) -> None:
    assert ("which-heat" in _held_by(_read(method, "500 g sausages"))) is asked


@pytest.mark.parametrize(
    ("method", "asked"),
    [
        ("Soak the beans overnight. Cook in the slow cooker with the onion on low for 8 hours. Serve.", True),
        ("Soak the beans overnight. Simmer for 5 minutes. Serve.", True),
        ("Soak the beans overnight. Bake in a dish with the onion for 3 hours at 150 C. Serve.", True),
        ("Boil the beans for 10 minutes. Put in the slow cooker with the onion for 8 hours. Serve.", False),
        ("Soak the beans overnight. Simmer the beans for an hour. Serve.", False),
    ],
)
def test_dry_beans_boil_before_anything_slower(method: str, asked: bool) -> None:
    assert ("which-heat" in _held_by(_read(method, BEANS))) is asked


@pytest.mark.parametrize(
    ("line", "kind"),
    [
        ("250 g kidney beans, dried", "kidney_beans_dry"),
        ("borlotti beans (dried) 250 g", "kidney_beans_dry"),
        ("400 g chickpeas, soaked overnight", "chickpeas_dry"),
        ("1 tin kidney beans, drained", "kidney_beans"),
        ("100 g salmon, smoked", "smoked_salmon"),
        ("50 g apricots, dried", "dried_apricots"),
        ("50 g apricots, not dried", "peach"),
    ],
)
def test_how_a_food_comes_is_part_of_what_it_is(line: str, kind: str) -> None:
    assert read_ingredient(line, "en-GB").kind == kind


@pytest.mark.parametrize("said", ["Chicken must not be washed.", "The chicken should never be rinsed."])
def test_what_must_not_be_done_is_not_ordered(said: str) -> None:
    assert all(
        step["do"] != "rinse" for step in _read(f"Dice the chicken. {said} Fry it for 12 minutes.").data["steps"]
    )


@pytest.mark.parametrize(
    ("changed", "rules"),
    [
        ("Swap the board and the knife for clean ones.", set()),
        ("Get a fresh board and knife.", set()),
        ("Change boards and knives.", set()),
        ("Turn the board over.", {"ready-to-eat-meets-raw"}),
        ("Take a clean board.", {"ready-to-eat-meets-raw"}),  # the knife is the same
    ],
)
def test_kit_that_is_changed_is_other_kit(changed: str, rules: set[str]) -> None:
    begun = f"Dice the chicken. Wash hands. {changed} Slice the lettuce. Fry the chicken for 12 minutes until 75 C."
    found = _read(f"{begun} Serve the chicken and lettuce in the buns.")
    assert found.process is not None

    told = {row.rule for row in find_contamination(found.process)}

    assert told & {"ready-to-eat-meets-raw"} == rules


@pytest.mark.parametrize(
    ("left", "do", "doubted"),
    [
        ("Put the lid on and leave it 25 minutes.", "rest", True),
        ("Leave it to stand for 25 minutes.", "rest", False),
        ("Take it off the heat and leave it 25 minutes.", "rest", False),
        ("Leave it next to the oven for 25 minutes.", "rest", False),
        ("Let it cook for 25 minutes.", "heat", False),
    ],
)
def test_what_is_left_in_the_pan_cooks_on_or_stands(left: str, do: str, doubted: bool) -> None:
    steps = _read(f"Dice the chicken. Fry the chicken in the oil for 4 minutes. {left}").data["steps"]
    last = next(step for step in reversed(steps) if step["do"] in ("rest", "heat"))

    assert last["do"] == do
    assert ("stands" in last.get("guesses", ())) is doubted

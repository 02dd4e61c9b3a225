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
        ("Roast the duck for 60 minutes. Serve pink.", "1 duck"),
        ("Steam the mussels for 4 minutes. Eat all of them, open or shut.", "1 kg mussels"),
        ("Cook the chicken to 75 C. Chill it. Next week serve it cold.", CHICKEN),
        ("Warm the stew a little. Serve with the rolls.", "500 g leftover beef stew; 4 rolls"),
        ("Fry the steak for 1 minute a side. Serve to the toddlers.", "1 beef steak"),
        ("Slice the chicken. If there is time, fry it for 12 minutes to 75 C. Serve.", CHICKEN),
        ("Slice the chicken. Fry it for 12 minutes to 75 C if you like. Serve.", CHICKEN),
        ("Cook the chicken to 75 C. Let it cool in the pan for 4 hours. Put it in the fridge. Serve cold.", CHICKEN),
        ("Cook the chicken to 75 C. Wrap it in foil and keep it in your bag till lunch.", CHICKEN),
        (
            "Coat the chicken in the yoghurt. Put the rest of the yoghurt from the same tub on the lettuce. "
            "Grill the chicken for 20 minutes until 75 C. Serve with the lettuce.",
            "500 g chicken thighs; 1 lettuce; 100 ml yoghurt",
        ),
    ],
)
def test_what_is_said_in_passing_holds_the_recipe_up(method: str, foods: str) -> None:
    assert "unread" in _held_by(_read(method, foods))


@pytest.mark.parametrize(
    "method",
    [
        "Fry the chicken for 12 minutes to 75 C. Serve with the lettuce, optional.",
        "Fry the chicken for 12 minutes to 75 C. If there is time, rinse the lettuce. Serve it with the chicken.",
        "Fry the chicken for 12 minutes to 75 C. Warm the buns a little. Serve. See you next week!",
    ],
)
def test_what_is_said_of_something_else_does_not(method: str) -> None:
    assert "unread" not in _held_by(_read(method))


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
    ("core_c", "foods", "asked"),
    [
        (65, "500 g chicken thighs", True),
        (70, "500 g chicken thighs", False),
        (65, "500 g pork mince", True),
        (71, "500 g pork mince", False),
        (63, "500 g beef steak", False),
        (63, "4 salmon fillets", False),
    ],
)
def test_a_reading_that_is_too_low_for_what_it_is_of_is_no_end(core_c: int, foods: str, asked: bool) -> None:
    assert ("which-heat" in _held_by(_read(f"Grill it until it reads {core_c} C. Serve.", foods))) is asked


def test_what_is_left_pink_in_the_pan_is_cooked_in_part() -> None:
    found = _read("Fry the onion. Add the liver, 1 minute a side, so that it is pink. Serve.", "200 g liver; 1 onion")
    assert next(step["do"] for step in found.data["steps"] if "liver mixture" in step["foods"]) == "part_cook"


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


@pytest.mark.parametrize(
    ("then", "cooks"),
    [
        ("Let it cook for 20 minutes.", False),
        ("Let the chicken steam for 20 minutes.", False),
        ("The chicken steams for 20 minutes.", False),
        ("Lid on, let it roast 20 minutes.", False),
        ("Let it cook for 20 minutes on a low heat.", True),
        ("Bake it at 200 C for 20 minutes.", True),
        ("Fry the chicken for 12 minutes.", True),
    ],
)
def test_what_cooks_by_itself_once_the_heat_is_off_only_stands(then: str, cooks: bool) -> None:
    steps = _read(f"Brown the chicken for 3 minutes in the oil. Turn off the gas. {then}").data["steps"]
    assert any(step["do"] == "heat" for step in steps) is cooks


def test_half_of_the_chicken_that_is_cooked_leaves_the_rest_raw() -> None:
    found = _read("Fry half of the chicken for 15 minutes to 75 C. Serve all of it with the lettuce.")
    assert [step["do"] for step in found.data["steps"]].count("heat") == 0


@pytest.mark.parametrize(
    ("method", "foods"),
    [
        ("Fry the chicken for 15 minutes. It need not reach 75 C. Serve.", CHICKEN),
        ("Fry the chicken for 15 minutes. If it is pink that is fine. Serve.", CHICKEN),
        ("Fry the chicken for 15 minutes, it will still be raw in the middle. Serve.", CHICKEN),
        ("Boil the rice. Spread it on the tray the raw chicken was on. Serve.", "300 g rice; 500 g chicken"),
        ("Keep the rice warm at 50 C for 4 hours. Bake the chicken 25 minutes.", "300 g rice; 500 g chicken"),
        ("Bake the chicken for 25 minutes to 75 C. Keep it in the fridge for 9 days. Serve cold.", CHICKEN),
        ("Bake the chicken for 25 minutes to 75 C. Reheat it twice. Serve.", CHICKEN),
        ("Bake the chicken for 25 minutes to 75 C. Put it back in the marinating bag with the oil. Serve.", CHICKEN),
        ("Leave the pate out for the afternoon. Spread on the loaf. Serve.", "500 g liver pate; 1 loaf"),
    ],
)
def test_what_is_said_to_be_fine_and_is_not_holds_the_recipe_up(method: str, foods: str) -> None:
    assert "unread" in _held_by(_read(method, foods))


def test_a_reading_of_50_ends_no_cook() -> None:
    assert "which-heat" in _held_by(_read("Fry the chicken until brown. Probe it: 50 C. Serve."))


def test_what_raw_food_was_soaked_in_is_no_dip() -> None:
    method = "Soak the chicken in the buttermilk. Take it out. Fry the chicken 15 minutes to 75 C. {} Serve."
    found = _read(method.format("Mix the buttermilk with herbs as a dip."), "500 g chicken; 100 ml buttermilk")
    assert found.process is not None

    assert {row.rule for row in find_contamination(found.process)} & {"no-kill-step"} or _held_by(found)


def test_what_comes_after_the_chicken_is_cut_as_the_chicken_was() -> None:
    steps = _read("Dice the chicken. Then the lettuce. Fry the chicken 15 minutes to 75 C. Serve.").data["steps"]
    assert [(step["do"], step["foods"]) for step in steps[:2]] == [("cut", ["chicken breasts"]), ("cut", ["lettuce"])]


@pytest.mark.parametrize(
    ("method", "asked"),
    [
        ("Fry the buns for 5 minutes. Cut the chicken. 20 minutes. Serve.", True),
        ("Cut the chicken. Put it in a bowl with the oil. Give it 20 minutes. Serve.", True),
        ("Cut the chicken. Put it in a bowl, set the timer for 20 minutes. Serve.", True),
        ("Cut the chicken. Put it in a hot pan. Give it 20 minutes. Serve.", False),
        ("Heat the oven to 200C. Lay the chicken on a tray. 20 minutes. Serve.", False),
        ("Cut the chicken. Cook it for 20 minutes. Serve.", False),
    ],
)
def test_a_time_alone_is_no_cook_of_what_lies_in_nothing_hot(method: str, asked: bool) -> None:
    found = _read(method)
    raw = (
        any(finding.rule == "no-kill-step" for finding in find_contamination(found.process)) if found.process else False
    )
    assert ("which-heat" in _held_by(found) or raw) is asked


@pytest.mark.parametrize(
    "told",
    [
        "If you fry the chicken for 12 minutes it goes dry.",
        "Fry the chicken for 12 minutes and it goes dry, so don't.",
        "I once fried the chicken for 12 minutes and regretted it.",
        "You could fry the chicken for 12 minutes instead.",
        "Some like to fry the chicken for 12 minutes.",
        "The packet says to fry the chicken for 12 minutes.",
        "Had we more time we would fry the chicken for 12 minutes.",
        "At home you can bake the chicken for 30 minutes.",
        "Tomorrow we bake the chicken for 30 minutes.",
        "In summer I grill the chicken for 12 minutes outside.",
        "The shop has roasted the chicken for 30 minutes.",
        "A bigger chicken takes 90 minutes in the oven.",
        "Chicken usually takes 35 minutes at 200C.",
        "When I was small we boiled the chicken for an hour.",
        "If the chicken is not done, fry it for 5 minutes more.",
        "Watch the teacher fry the chicken for 12 minutes.",
        "We will not fry the chicken for 12 minutes today.",
        "Most people fry the chicken for 12 minutes.",
    ],
)
def test_a_cook_that_is_only_told_of_holds_the_recipe_up(told: str) -> None:
    found = _read(f"Dice the chicken. Put it in a bowl. {told} Serve.")
    rules = {row.rule for row in find_contamination(found.process)} if found.process else set()
    assert _held_by(found) or "no-kill-step" in rules


@pytest.mark.parametrize(
    "said",
    [
        "You have 12 minutes to fry the chicken.",
        "If using a thick pan, heat it first. Fry the chicken for 12 minutes.",
        "If you have a griddle, fry the chicken on it for 12 minutes.",
        "Fry the chicken for 12 minutes, don't let it burn.",
    ],
)
def test_a_cook_that_is_ordered_does_not(said: str) -> None:
    assert not _held_by(_read(f"Dice the chicken. Put it in a bowl. {said} Serve."))


@pytest.mark.parametrize(
    ("method", "foods"),
    [
        ("Shape the mince into patties. Fry 1 min a side. Serve.", "500 g beef mince"),
        ("Stir-fry the chicken 2 min. Serve.", CHICKEN),
        ("Roast the chicken 40 min. ~~75~~ 60 in the chicken. Serve.", CHICKEN),
        ("Roast the chicken 40 min till brown and 50 in the chicken. Serve.", CHICKEN),
        ("Pat the mince into a loaf. Bake 50 minutes till 120 in the mince. Serve.", "500 g beef mince"),
        ("Mix the flour and eggs to a dough. Everyone gets a lump to eat. Bake the rest.", "300 g flour; 2 eggs"),
        ("Oil the chicken. Clear a shelf in the fridge and pop it in for 30 minutes. Serve.", CHICKEN),
        (
            "Heat the oven to 200C. Oil the chicken. Clear a shelf in the fridge and slide it in for 30 min. Serve.",
            CHICKEN,
        ),
        ("Oil the chicken. Open the freezer. Stick it in for 30 minutes. Serve.", CHICKEN),
        ("Close the fridge. Chicken inside for 30 minutes. Serve.", CHICKEN),
        ("Light the smoker. Chicken in. 165 in the smoker. Serve.", CHICKEN),
        ("Chicken on a tray. Hot, 160C. Serve.", CHICKEN),
        (
            "Soften the onion 5 minutes. Shape the mince into patties. Fry 1 min a side. Serve.",
            "500 g beef mince; 1 onion",
        ),
        (
            "Toss the lettuce in the remaining marinade. Fry the chicken 20 minutes. Serve with the lettuce.",
            "4 chicken thighs, marinated in oil; 1 lettuce",
        ),
        (
            "Cut the chicken on the board. Whether you wash the board is up to you. Cut the lettuce on the board. "
            "Fry the chicken for 20 minutes. Serve with the lettuce.",
            CHICKEN,
        ),
        (
            "Cut the chicken on the board. Board, knife and hands washed last night. Cut the lettuce on the board. "
            "Fry the chicken for 20 minutes. Serve with the lettuce.",
            CHICKEN,
        ),
        (
            "Lift the chicken off the tray with tongs. Fry the chicken for 20 minutes. Toss the lettuce with the "
            "tongs. Serve with the lettuce.",
            CHICKEN,
        ),
    ],
)
def test_scraps_of_sheets_make_nothing_look_safe(method: str, foods: str) -> None:
    found = _read(method, foods)

    assert _held_by(found) or find_contamination(found.process)


@pytest.mark.parametrize(
    "method", ["Stir-fry the chicken 5 min. Serve.", "Brown the chicken 8 min. Add the oil, 2 min. Serve."]
)
def test_minced_and_poultry_in_a_pan_for_long_enough_is_not_asked_about(method: str) -> None:
    assert "which-heat" not in _held_by(_read(method, "500 g chicken breasts; 2 tbsp oil"))

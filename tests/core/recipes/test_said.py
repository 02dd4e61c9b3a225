"""How things are said in a kitchen: many short texts counted, and the rules that they taught, one by one."""

import pytest

from foodsafety.recipes import read_recipe, trust_step
from foodsafety.recipes.instructions import orders
from tests.core.said import blocks, count

FOODS = (
    "500 g chicken thighs",
    "1 lettuce",
    "2 leeks",
    "3 tbsp yoghurt",
    "2 eggs",
    "1 tbsp oil",
    "200 g rice",
    "1 tbsp mustard",
)


# A dose: ``python -m tests.core.said`` reads them all.
EVERY = 3


def data(method: str, *lines: str):
    return read_recipe("Supper\n\nIngredients\n" + "\n".join(lines or FOODS) + f"\n\nMethod\n{method}", "en-GB")


def steps(method: str, *lines: str) -> list[tuple[str, list[str]]]:
    """What is done to what, but for the serving; a mixture by what is in it."""
    rows = data(method, *lines).data["steps"]
    parts = {row["makes"]: row["foods"] for row in rows if row.get("makes")}
    inside = lambda name: [part for at in parts[name] for part in inside(at)] if name in parts else [name]  # noqa: E731
    return [(row["do"], [p for name in row["foods"] for p in inside(name)]) for row in rows if row["do"] != "serve"]


def test_the_short_texts_are_read_as_well_as_they_once_were(score) -> None:
    every = [count(block) for block in blocks()[::EVERY]]
    read, asked, silent = (sum(getattr(one, name) for one in every) for name in ("read", "asked", "silent"))
    of = read + asked + silent
    score("short texts, orders read", read, of, [miss for one in every for miss in one.misses])
    assert read >= 0.83 * of
    assert silent <= 0.05 * of


# --- what cooks nothing -------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "method",
    [
        "Put the chicken in a cold pan until needed.",
        "Put the chicken on a plate until the oil is hot, 10 minutes.",
        "Keep the chicken warm in the oven.",
        "Keep the chicken hot in a low oven for 20 minutes.",
        "Brown the chicken. Keep warm in the oven 20 minutes.",
        "Brown the chicken. Hold it hot for 30 minutes.",
        "Brown the chicken. Off the heat, cover, turn once, 10 minutes.",
        "Brown the chicken in a hot pan until golden.",
        "Blister the chicken in a hot pan until brown.",
        "Chicken into a hot pan until brown outside.",
        "Torch the chicken until golden.",
        "Marinate the chicken for 20 minutes, turn, 20 minutes.",
        "Marinate the chicken in the yoghurt, turn it 10 minutes before cooking.",
        "Fry the leeks. Mix the chicken with the yoghurt. Another 20 minutes.",
        "Fry the leeks in a pan. Brush the chicken with yoghurt. A further 30 minutes.",
        "Fry the leeks in a pan. Mix the chicken with the yoghurt. Cover, 30 minutes.",
        "Fry the leeks until soft. Add the chicken. Keep stirring until the yoghurt is thick.",
        "Drizzle hot butter over the chicken, 10 minutes to soak.",
        "Brown the chicken. Out, cover with foil, 30 min.",
        "Brown the chicken. Put the lid on and turn the heat off, 20 minutes.",
        "Brown the chicken in the pan. Leave it till it's cooled and firm.",
        "Boil the rice. Turn off the heat. Chicken in, lid on, 10 minutes.",
        "Add the chicken to the marinade until tender, 4 hours in the fridge.",
        "The chicken was roasted yesterday. Serve the chicken.",
        "Cover the chicken and leave 30 minutes.",
        "Let the chicken relax, 20 minutes.",
        "Turn the chicken in the yoghurt, 30 minutes.",
        "Chicken into the yoghurt. Another 20 minutes.",
        "Chicken into hot oil, 30 seconds, out again.",
        "Sear the chicken in hot oil.",
        "Fry the rice. Chicken next to it on a plate, one minute.",
        "Leave the chicken until brown bread is toasted.",
        "Have the chicken browned by the butcher.",
    ],
)
def test_what_only_sounds_like_a_cook_is_none(method: str) -> None:
    assert not [foods for do, foods in steps(method) if do == "heat" and any("chicken" in name for name in foods)]


@pytest.mark.parametrize(
    "method",
    [
        "Lettuce, unwashed, torn in a bowl.",
        "The lettuce could be washed, sliced, tossed in a bowl.",
        "Lettuce washed last week, sliced into a bowl.",
        "Run the tap over the board, slice the lettuce.",
        "Lettuce dried and shredded into a bowl.",
    ],
)
def test_what_only_sounds_like_a_rinse_is_none(method: str) -> None:
    assert "rinse" not in [do for do, _ in steps(method)]


@pytest.mark.parametrize(
    "said", ["Run the knife under cold water.", "Rinse the board under the tap.", "Rinse your fingers."]
)
def test_water_alone_cleans_nothing_that_raw_meat_was_on(said: str) -> None:
    assert not {"clean", "wash_hands", "rinse"} & {do for do, _ in steps(f"Chop the chicken. {said}")}


@pytest.mark.parametrize(
    "method",
    [
        "Grill the chicken for 20 minutes and keep it warm.",
        "Fry the chicken in a pan 5 min, turn it, 5 minutes more.",
        "Brown the chicken in a pot. Add the rice. Put the lid on, turn right down, 35 minutes.",
        "Roast the leeks in the oven at 200. Lay the chicken on top of the leeks. Another 35 minutes.",
    ],
)
def test_a_cook_stays_one(method: str) -> None:
    assert [foods for do, foods in steps(method) if do == "heat" and "chicken thighs" in foods]


# --- meat that is meant -------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("method", "do", "meat"),
    [
        ("Trim the chicken. Smear both sides with mustard.", "brush", "chicken thighs"),
        ("Trim the chicken. Shred the lettuce. Fry the rice. 4 minutes a side in a hot pan.", "heat", "chicken thighs"),
        ("Roast the chicken for 40 minutes. Whisk the yoghurt. Carve.", "cut", "chicken thighs"),
        ("Roast the chicken for 40 minutes. Shred the lettuce. Rest under foil, 15 minutes.", "rest", "chicken thighs"),
        ("Slice the chicken. Mix the yoghurt and mustard and paint it on.", "brush", "chicken thighs"),
        ("Mix the yoghurt and mustard. Slash each thigh three times.", "cut", "chicken thighs"),
    ],
)
def test_what_can_only_be_meant_of_meat_is_of_the_meat(method: str, do: str, meat: str) -> None:
    assert any(kind == do and meat in foods for kind, foods in steps(method))


@pytest.mark.parametrize(
    "method",
    [
        "Slice the chicken. Butter the bread on both sides.",
        "Slice the chicken. Toast the bread. Mix the yoghurt and mustard and spread it on.",
        "Slice the chicken. Mix the mustard and yoghurt. Simmer 5 minutes.",
        "Slice the chicken. Mix the mustard and flour. Warm through for 5 minutes.",
        "Slice the chicken. Boil the rice for 12 minutes. Top with yoghurt and mustard. Bake 20 minutes in the oven.",
        "Slice the chicken. Mash the rice with the eggs, shape into fritters. 3 minutes a side in hot oil.",
    ],
)
def test_what_is_done_to_something_else_is_not_of_the_raw_chicken(method: str) -> None:
    lines = (*FOODS, "4 slices bread", "1 tbsp butter", "50 g flour")
    assert not [do for do, foods in steps(method, *lines)[1:] if "chicken thighs" in foods]


def test_a_dough_that_nobody_made_is_not_what_was_made_meanwhile() -> None:
    found = data("Mix the mince and onion. Roll the dough into ovals.", "500 g flour", "300 g beef mince", "1 onion")
    assert found.data["steps"][-1].get("guesses")


# --- a cook that is told otherwise --------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "method",
    [
        "Slice the leeks. Get them browning in the oil in a dry pan.",
        "Leeks into the hot pan, gently, until soft.",
        "Heat the oil in a pan. Then it's into the pan with the leeks and leave it be till they've gone see-through.",
        "Soften the leeks in a pan. Let the whole lot tick over for half an hour.",
        "Leeks, washed really well, sliced, softened in the oil for 10 minutes.",
        "Boil the rice. Add the leeks. Put the lid on, turn right down, 15 minutes.",
        "Put the leeks in the slow cooker. LOW for 8 hours.",
        "Leeks in a tin, 200 degrees, 20 minutes.",
        "Cut the leeks, half an hour in a hot oven.",
    ],
)
def test_leeks_are_cooked_however_it_is_said(method: str) -> None:
    assert any(do in ("heat", "part_cook") and "leeks" in str(foods) for do, foods in steps(method))


def test_what_is_put_back_into_the_pan_cooks_on_with_all_that_is_in_it() -> None:
    told = "Brown the venison in a pot. Add the leeks, put the bacon back, lid on, turn right down, 2 hours."
    do, foods = steps(f"Fry the bacon in a pot, fish it out. {told}", "1 kg venison", "100 g bacon", "2 leeks")[-1]
    assert (do, sorted(foods)) == ("heat", ["bacon", "leeks", "venison"])


def test_a_time_that_nothing_takes_is_not_understood() -> None:
    found = data("Rinse the rice till clear, 12 min lid on. Mix the yoghurt. Open the window, 25 minutes.")
    assert found.data["steps"][0]["do"] == "rinse"
    assert "time" in found.data["steps"][0]["guesses"]
    assert found.sentences[-1].taken == "unread"


def test_an_order_with_a_word_nobody_knows_is_not_taken_for_talk() -> None:
    assert data("Slice the leeks. Frobnicate the outside.").sentences[-1].taken == "unread"


def test_what_nobody_understood_of_the_salad_holds_back_once_raw_meat_lies_on_the_board() -> None:
    after = data("Chop the chicken on the board. Lettuce next, shredded. Fry the chicken for 20 minutes until 75C.")
    before = data("Lettuce next, shredded. Chop the chicken on the board. Fry the chicken for 20 minutes until 75C.")
    assert [question.holds for question in after.questions if question.why == "unread"] == [True]
    assert [question.holds for question in before.questions if question.why == "unread"] == [False]


# --- guessed, chunk by chunk --------------------------------------------------------------------------------------


def test_what_no_rule_reads_is_guessed_by_its_chunks_and_a_guessed_heat_cooks_nothing_through() -> None:
    found = data("Fry the leeks. Chicken in 1cm strips, brushed with mustard, roasted 20 minutes at 200.")
    rows = found.data["steps"][1:4]
    assert [row["do"] for row in rows] == ["cut", "brush", "part_cook"]
    assert all("guess" in row["guesses"] for row in rows)
    # One answer is for all three.
    asked = [question for question in found.questions if question.why == "guessed"]
    assert [(question.step, question.holds) for question in asked] == [(rows[0]["id"], True)]
    answered = trust_step(found.data, rows[0]["id"])["steps"][1:4]
    assert not any(row.get("guesses") for row in answered)


@pytest.mark.parametrize("said", ["Then leeks, scraping the bottom.", "Leeks right at the end."])
def test_foods_alone_go_into_what_is_being_made(said: str) -> None:
    do, foods = steps(f"Simmer the rice for 10 minutes. {said}")[-1]
    assert do == "mix"
    assert "leeks" in foods


# --- the words of kitchens ----------------------------------------------------------------------------------------

VERBS = {
    "cut": "grind cleave slit slash nick gouge spiralise gut",
    "peel": "shuck",
    "mix": "process pulp pulverise churn moisten dampen flavour spice",
    "coat": "batter bury smother cloak dunk",
    "transfer": "stack wedge sandwich mound pipe immerse plunge empty unmould",
    "heat": "blast blister bronze torch scorch singe wilt coddle barbeque",
    "touch": "pierce puncture stab spear stud truss tease tenderise encase bundle wring",
}


@pytest.mark.parametrize(("do", "verb"), [(do, verb) for do, verbs in VERBS.items() for verb in verbs.split()])
def test_the_verbs_of_a_kitchen_order_something(do: str, verb: str) -> None:
    assert [order.do for order in orders(f"{verb.capitalize()} the chicken.", frozenset({"chicken"}))] == [do]

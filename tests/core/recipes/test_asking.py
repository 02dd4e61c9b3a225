"""What a text leaves open is asked about: food that stands in no list, food hidden behind another, raw food that
is tasted, words that nobody understood. Each case once looked settled, and was not."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.cli import run_read
from foodsafety.contamination import analyse
from foodsafety.foods import FoodKind, food_kind
from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    NOT_LISTED,
    Reading,
    accept,
    accepted,
    accepted_rows,
    finding_key,
    ingredient_lines,
    process_from,
    read_document,
    read_ingredient,
    read_recipe,
    set_aside,
    soils_of,
    step_of_sentence,
    told_rows,
)
from foodsafety.rules import House
from tests.core.wild import wild_texts


def paste(method: str, *lines: str) -> str:
    return "Crew tea\n\nIngredients\n" + "\n".join(lines) + f"\n\nMethod\n{method}"


def reading(method: str, *lines: str) -> Reading:
    return read_recipe(paste(method, *lines), "en-GB")


def answer(method: str, *lines: str) -> dict[str, Any]:
    return run_read({"text": paste(method, *lines), "locale": "en-GB"})


RAW_AND_READY = ("400 g chicken breast", "1 cucumber")


def asked(found: Reading) -> set[tuple[str, bool]]:
    return {(row.why, row.holds) for row in found.questions}


# --- foods that only the method names --------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("method", "listed", "added"),
    [
        ("Brush the pastry with beaten egg. Bake it.", "1 sheet puff pastry", ["beaten egg"]),
        ("Boil the rice. Stir in 100 g bacon.", "200 g rice", ["100 g bacon"]),
        ("Boil the rice. Stir in 500 g moonrock.", "200 g rice", ["500 g moonrock"]),
        ("Boil the rice with 2 tbsp oil.", "200 g rice", []),
        ("Melt the butter in a pan. Fry the rice.", "200 g rice", ["butter"]),  # milk: an allergen with no line
        ("Heat some sesame oil in a wok. Fry the rice.", "200 g rice", ["sesame oil"]),
        ("Melt a knob of butter. Fry the rice.", "200 g rice\n50 ml milk", []),
        ("Boil the rice. Add the soy sauce.", "200 g rice", ["soy sauce"]),
        ("Boil the rice. Serve with crusty bread.", "200 g rice", ["crusty bread"]),
        ("Boil the rice. Stir in the sauce.", "200 g rice", []),
        ("Dust with flour and roll out.", "200 g butter", ["flour"]),
        ("Roll the mince into balls the size of an egg.", "400 g beef mince", []),
        ("Cut the beef smaller than an egg. Fry it.", "400 g stewing beef", []),
        ("Mix the flour to a dough. Bake the dough.", "300 g flour", []),
        ("Fry the burgers.", "4 beef burgers", []),
        ("Fry the fish for 8 minutes.", "4 cod fillets", []),
        ("Fry the meat for 8 minutes.", "400 g pork mince", []),
    ],
)
def test_raw_allergenic_and_unknown_food_that_stands_in_no_list_gets_a_line(
    method: str, listed: str, added: list[str]
) -> None:
    lines = ingredient_lines(read_document(paste(method, listed)), "en-GB")
    assert list(lines[len(listed.splitlines()) :]) == added


def test_a_food_without_a_line_is_asked_about_and_followed() -> None:
    found = reading("Brush the pastry with beaten egg. Bake it for 20 minutes.", "1 sheet puff pastry")
    egg = found.items[1]
    assert (egg.kind, egg.doubts) == ("egg", (NOT_LISTED,))
    assert ("which-food", False) in asked(found)
    assert ["puff pastry", "egg"] in [step["foods"] for step in found.data["steps"]]


def test_an_unknown_food_in_running_words_is_a_line_that_holds_back() -> None:
    found = read_recipe("Crew tea\n\nBoil 200 g rice for 12 minutes, then stir in 500 g moonrock and serve.", "en-GB")
    [unknown] = [item for item in found.items if item.kind is None]
    assert "moonrock" in unknown.text
    assert ("which-food", True) in asked(found)
    assert not found.may_confirm


# --- a raw food behind another -----------------------------------------------------------------------------------


@pytest.mark.parametrize("line", ["chicken and chips", "1 pack pork with rice", "prawn and leek risotto rice"])
def test_a_line_that_hides_raw_food_holds_back(line: str) -> None:
    found = reading(f"Heat the {line}. Serve it.", line)
    assert "raw-hidden" in found.items[0].doubts
    # asked of the line as it was written, not of a food that stands in no line
    assert [row.ingredient for row in found.questions if row.why == "which-food" and row.holds] == [0]


@pytest.mark.parametrize("line", ["500 ml chicken stock", "salt and pepper", "4 sage and onion sausages", "fish sauce"])
def test_a_line_that_only_sounds_raw_is_taken_as_it_stands(line: str) -> None:
    assert "raw-hidden" not in read_ingredient(line, "en-GB").doubts


@pytest.mark.parametrize(
    ("line", "soils"),
    [
        ("4 cod fillets", ("raw_fish",)),
        ("2 cans chick peas", ()),
        ("500 g moonrock", ("unknown",)),
        ("For the top:", ()),
    ],
)
def test_what_a_line_brings(line: str, soils: tuple[str, ...]) -> None:
    assert soils_of(read_ingredient(line, "en-GB")) == soils


# --- tasting ---------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "said",
    [
        "Taste the dough.",
        "Have a lick of the batter.",
        "Try nibbling some of the raw mix.",
        "Add salt and taste the raw mince before you go on.",
    ],
)
def test_tasting_raw_food_is_never_a_tip(said: str) -> None:
    found = reading(f"Knead the dough. {said} Bake the dough for 20 minutes.", "500 g bread dough")
    assert ("unread", True) in asked(found)
    assert not found.may_confirm


@pytest.mark.parametrize("said", ["No tasting of the dough!", "Bake the dough, then taste."])
def test_what_forbids_tasting_or_tastes_cooked_food_holds_nothing_back(said: str) -> None:
    assert ("unread", True) not in asked(reading(f"Bake the bread for 20 minutes. {said}", "1 bread loaf"))


# --- degrees ---------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("said", "oven_c", "core_c"),
    [
        ("Bake the pork at 180 for 40 minutes.", 180.0, None),
        ("Bake the pork in the oven for 120 minutes.", None, None),
        ("Fry the pork until the core is 75.", None, 75.0),
        ("Fry the pork until the middle reaches 71C.", None, 71.0),
        ("Bake the pork at 200C until the core reads 72C.", 200.0, 72.0),
        ("Bake the pork at gas 4.", 176.7, None),
        ("Fry the pork to 160F.", None, 71.1),
        ("Fry 2 of the pork chops for 12 minutes.", None, None),
    ],
)
def test_the_number_of_an_oven_is_never_the_foods_own(said: str, oven_c: float | None, core_c: float | None) -> None:
    step = next(row for row in answer(said, "4 pork chops")["steps"] if row["do"] == "heat")
    assert step["oven_c"] == (None if oven_c is None else pytest.approx(oven_c, abs=0.5))
    assert step["core_c"] == (None if core_c is None else pytest.approx(core_c, abs=0.1))


# --- steps that stand for their words ---------------------------------------------------------------------------


def test_things_cut_together_are_one_step_and_nothing_waits_for_itself() -> None:
    found = reading(
        "Slice the leeks, dice the carrots, chop the onion and shred the leeks on a board. Simmer them for 9 minutes.",
        "2 leeks",
        "2 carrots",
        "1 onion",
    )
    assert found.process is not None
    ids = [step.id for step in found.process.steps]
    for at, step in enumerate(found.process.steps):
        assert set(step.after) <= set(ids[:at])


def test_the_water_of_a_hand_wash_is_no_step_on_food() -> None:
    found = reading("Slice the leeks. Wash your hands, pour to rinse, dry with paper towels.", "2 leeks")
    assert [row["do"] for row in found.data["steps"]] == ["cut", "wash_hands", "serve"]


def test_a_food_as_big_as_another_stays_itself() -> None:
    found = reading("Roll the dough into balls the size of an egg. Bake them for 20 minutes.", "500 g bread dough")
    assert found.data["steps"][0]["foods"] == ["bread dough"]
    assert found.may_confirm


@pytest.mark.parametrize(
    ("lines", "foods"),
    [
        (["4 potatoes", "salt"], [["potatoes"]]),
        (["4 potatoes", "2 leeks"], []),  # which of them, nobody said: both are asked about, and so is the order
    ],
)
def test_an_order_without_a_food_is_about_the_only_one_there_is(lines: list[str], foods: list[list[str]]) -> None:
    found = reading("Bake at 180 for 40 minutes.", *lines)
    assert [row["foods"] for row in found.data["steps"] if row["do"] == "heat"] == foods
    assert (("unplaced", False) if foods else ("no-steps", True)) in asked(found)


def test_what_was_cut_and_went_nowhere_is_eaten_whatever_the_text_says() -> None:
    found = reading(
        "Cut the chicken on the board.\nCut the cucumber on it too.\nFry the chicken.\nServe it.", *RAW_AND_READY
    )
    serve = found.data["steps"][-1]
    assert (serve["do"], serve["foods"], serve["guesses"]) == ("serve", ["chicken breast", "cucumber"], ["foods"])
    assert [row.rule for row in analyse(found.process, House()).findings][:1] == ["ready-to-eat-meets-raw"]


LONG_AFTER = (
    "Serve the crackers to whoever waits.\nWhip the cream in a bowl.\nStir the yoghurt into the cream.\n"
    "Chill it for 2 hours.\nRinse the berries.\nScatter the berries over."
)


def test_what_is_made_long_after_a_serving_is_served_too() -> None:
    lines = ["1 box crackers", "200 ml whipping cream", "200 g yoghurt", "200 g strawberries"]
    long_after, soon = reading(LONG_AFTER, *lines), reading("Stir the yoghurt into the cream.\nServe it.", *lines)
    assert [step["do"] for step in long_after.data["steps"]].count("serve") == 2
    assert long_after.data["steps"][-1]["guesses"] == ["step"]
    [made] = long_after.data["serve"]
    assert made in [step.get("makes") for step in long_after.data["steps"]]
    assert [step["do"] for step in soon.data["steps"]].count("serve") == 1


def test_what_is_spooned_over_rice_at_the_end_is_served() -> None:
    found = reading(
        "Boil the rice.\nFry the cod for 8 minutes.\nSpoon the cod over the rice.", "200 g rice", "4 cod fillets"
    )
    last = found.data["steps"][-1]
    assert (last["do"], sorted(last["foods"]), last.get("makes")) == ("serve", ["cod fillets", "rice"], None)
    raw = reading("Boil the rice.\nLay the cod over the rice.", "200 g rice", "4 cod fillets")
    assert raw.data["steps"][-2]["do"] == "transfer"
    assert not raw.may_confirm or analyse(raw.process, House()).findings


def test_what_is_dropped_into_a_pot_is_with_what_is_in_there() -> None:
    found = reading(
        "Simmer the beef and stock in a pot for 2 hours.\nMix the flour and suet with water to a dough.\n"
        "Roll it into 12 dumplings.\nDrop them in the pot for 20 minutes.\nLadle it out.\nKeeps a day in the fridge.",
        "800 g stewing beef",
        "700 ml beef stock",
        "200 g self raising flour",
        "100 g suet",
    )
    dough = next(step for step in found.data["steps"] if step.get("makes") == "dough")
    dropped = next(step for step in found.data["steps"] if step["do"] == "transfer")
    assert "pot" not in dough["tools"]
    assert "dumplings" in dropped["foods"]
    assert len(dropped["foods"]) == 2
    assert [row.taken for row in found.sentences][-1] == "storage"


def test_what_goes_over_the_dish_goes_not_over_what_was_cut_for_it() -> None:
    found = reading(
        "Fry the cod and leeks in a pan for 8 minutes.\nRinse and chop the parsley.\n"
        "Squeeze the lemon over, scatter the parsley and serve.",
        "4 cod fillets",
        "2 leeks",
        "1 lemon",
        "parsley",
    )
    over = [step["foods"] for step in found.data["steps"] if step["do"] == "garnish"]
    assert [foods[-1] for foods in over] == ["lemon", "parsley"]
    assert all("parsley" not in foods or len(foods) == 2 for foods in over)


def test_everything_that_raw_food_touched_is_cleaned_and_the_food_is_not_rinsed() -> None:
    found = reading(
        "Roast the chicken for 80 minutes.\nWhile it's in wash up everything the chicken touched.\nServe the chicken.",
        "1 whole chicken",
    )
    assert [step["do"] for step in found.data["steps"]] == ["heat", "clean", "serve"]


def test_the_lot_is_what_was_cooked_and_what_was_cut() -> None:
    found = reading(
        "Boil the pasta for 11 minutes and drain it.\nWash the cucumber and dice it.\n"
        "Tip the lot into a bowl with the mayo.",
        "300 g pasta",
        "1 cucumber",
        "4 tbsp mayonnaise",
    )
    together = next(step for step in found.data["steps"] if step["do"] in ("transfer", "mix"))
    assert sorted(together["foods"]) == ["cucumber", "mayonnaise", "pasta"]


def test_the_dry_stuff_is_the_dry_ingredients_and_the_tin_goes_into_the_heated_oven() -> None:
    found = reading(
        "Heat oven to 160 fan, line a loaf tin.\nBeat the eggs and oil in a bowl.\n"
        "Stir the dry stuff together in another bowl, then fold it into the eggs.\nScrape into the tin.\n55 mins.",
        "2 eggs",
        "100 ml oil",
        "225 g self raising flour",
        "150 g sugar",
    )
    steps = found.data["steps"]
    assert ["self raising flour", "sugar"] in [sorted(step["foods"]) for step in steps]
    heat = next(step for step in steps if step["do"] == "heat")
    assert heat["minutes"] == 55


def test_a_cold_dish_of_the_title_is_never_the_raw_mixture() -> None:
    found = reading(
        "Mix the turkey and onion in a bowl.\nSlice the cucumber.\nGriddle them for 9 minutes.\nServe with the raita.",
        "500 g turkey mince",
        "1 onion",
        "1 cucumber",
    )
    made = {step["makes"]: step["foods"] for step in found.data["steps"] if step.get("makes")}
    assert "turkey mince" not in made.get("raita", [])
    heat = next(step for step in found.data["steps"] if step["do"] == "heat")
    assert heat["foods"] == ["turkey mince mixture"]


def test_what_is_stirred_into_another_food_is_not_in_the_pan() -> None:
    found = reading(
        "Fry the cod for 8 minutes.\nStir the mint into the yoghurt.\nServe.", "4 cod fillets", "mint", "200 g yoghurt"
    )
    mix = found.data["steps"][1]
    assert (mix["do"], mix["foods"]) == ("mix", ["mint", "yoghurt"])
    assert "frying pan" not in mix["tools"]


# --- rows above and in the list ---------------------------------------------------------------------------------


def taken(text: str) -> dict[str, str]:
    return {row.text: row.taken for row in read_recipe(text, "en-GB").sentences}


def test_work_above_the_list_is_work() -> None:
    text = "Bean pot\n\nSoak the beans overnight.\n\n200 g dried beans\n1 onion\n\nSimmer the beans with the onion."
    found = read_recipe(text, "en-GB")
    assert [row["do"] for row in found.data["steps"]] == ["rest", "heat", "serve"]
    assert {item.food for item in found.items} == {"dried beans", "onion"}


@pytest.mark.parametrize(
    "said", ["Bake this for a birthday.", "Serve it on a windy day.", "Our favourite since the ferry stopped."]
)
def test_chatter_above_the_list_is_chatter(said: str) -> None:
    text = f"Bean pot\n\n{said}\n\n200 g dried beans\n1 onion\n\nSimmer the beans with the onion."
    assert taken(text)[said] == "chatter"


@pytest.mark.parametrize(
    ("below", "first"),
    [
        (("300 g chicken thighs", "1 egg"), "heading"),  # named again below: the name of a part
        (("300 g bread", "1 egg"), "ingredient"),  # nothing below is it: the row itself is the food
    ],
)
def test_a_raw_food_is_never_lost_to_a_heading(below: tuple[str, ...], first: str) -> None:
    text = "Rissoles\n\nChicken\n" + "\n".join(below) + "\n\nMix it all together. Fry for 5 minutes."
    found = read_recipe(text, "en-GB")
    assert next(row.taken for row in found.sentences if row.text.strip().startswith("Chicken")) == first
    assert any(item.kind and item.kind.startswith("chicken") for item in found.items)


def test_keeping_advice_is_storage_and_keeping_apart_is_not() -> None:
    rows = taken(paste("Fry the cod.\nLeftovers keep two days in the fridge.\nLeave the cod to rest.", "4 cod fillets"))
    assert rows["Leftovers keep two days in the fridge."] == "storage"
    assert rows["Leave the cod to rest."] == "step"


@pytest.mark.parametrize(
    ("said", "kept"),
    [
        ("Serve at once or cover and chill in the fridge for later.", "or cover and chill in the fridge for later."),
        ("Eat now or freeze for another day.", "or freeze for another day."),
        ("Serve warm, or cool and refrigerate in a box.", "or cool and refrigerate in a box."),
        ("Serve straight away, or chill until needed.", "or chill until needed."),
    ],
)
def test_what_is_kept_instead_of_served_is_advice_and_not_lost_in_the_serving(said: str, kept: str) -> None:
    rows = taken(paste(f"Fry the cod for 6 minutes until it flakes.\n{said}", "4 cod fillets"))
    assert rows[kept] == "storage"
    assert "step" in [row for text, row in rows.items() if said.startswith(text)]


def test_a_choice_of_what_it_is_served_with_is_no_storage_advice() -> None:
    for said in ("Serve with bread or cold rice.", "Serve with rice or wrap in lettuce."):
        rows = taken(paste(f"Fry the cod for 6 minutes.\n{said}", "4 cod fillets", "1 lettuce"))
        assert "storage" not in rows.values(), said


# --- answers of a person -----------------------------------------------------------------------------------------


@pytest.fixture
def open_sentence() -> dict[str, Any]:
    return reading("Fry the cod for 8 minutes. Mind the raw juices. Serve the cod.", "4 cod fillets").data


def test_a_sentence_that_orders_nothing_is_kept_as_said_aside(open_sentence: dict[str, Any]) -> None:
    after = set_aside(open_sentence, "Mind the raw juices.")
    assert after.get("unread", []) == []
    assert [row["text"] for row in after["aside"]] == ["Mind the raw juices."]
    assert process_from(after).steps == process_from(open_sentence).steps


def test_a_sentence_becomes_a_step_by_hand_on_what_was_left(open_sentence: dict[str, Any]) -> None:
    after = step_of_sentence(open_sentence, "Mind the raw juices.", "cook")
    new = after["steps"][1]
    assert (new["do"], new["foods"], new["hands"], new["detail"]) == (
        "touch",
        ["cod fillets"],
        ["cook"],
        "Mind the raw juices.",
    )
    assert after.get("unread", []) == []
    assert process_from(after).steps[1].id == new["id"]


@pytest.mark.parametrize("move", [set_aside, lambda data, text: step_of_sentence(data, text, "cook")])
def test_a_sentence_that_is_not_of_the_recipe_is_refused(open_sentence: dict[str, Any], move: Any) -> None:
    with pytest.raises(CoreError) as wrong:
        move(open_sentence, "Boil the kelp.")
    assert wrong.value.why == "no_such_sentence"


def test_a_sentence_that_is_steps_already_is_not_made_one_again(open_sentence: dict[str, Any]) -> None:
    with pytest.raises(CoreError) as wrong:
        step_of_sentence(open_sentence, "Fry the cod for 8 minutes.", "cook")
    assert wrong.value.why == "sentence_has_steps"


def test_a_sentence_said_to_order_nothing_takes_its_steps_away() -> None:
    data = reading("Rinse the peas. Show the peas round the table. Boil the peas. Serve them.", "200 g peas").data
    [n] = [n for n, row in enumerate(told_rows(data)) if row["text"].startswith("Rinse")]
    after = set_aside(data, "Rinse the peas.")
    assert [step["do"] for step in data["steps"] if step.get("sentence") == n] == ["rinse"]
    assert n not in [step.get("sentence") for step in after["steps"]]
    assert "Rinse the peas." in [row["text"] for row in after["aside"]]
    assert process_from(after).serve == process_from(data).serve


def test_a_sentence_whose_food_is_needed_later_stays() -> None:
    data = reading("Mix the flour and eggs to a dough. Bake the dough.", "200 g flour", "2 eggs").data
    with pytest.raises(CoreError) as wrong:
        set_aside(data, "Mix the flour and eggs to a dough.")
    assert wrong.value.why in ("no_such_food", "used_before_made")


def test_every_step_knows_its_sentence() -> None:
    data = reading("Rinse the peas, then boil the peas.\nServe the peas.\nThey look lovely.", "200 g peas").data
    told = told_rows(data)
    assert [(row["text"], row["taken"]) for row in told] == [
        ("Rinse the peas, then boil the peas.", "step"),
        ("Serve the peas.", "step"),
        ("They look lovely.", "chatter"),
    ]
    assert [(step["do"], step["sentence"]) for step in data["steps"]] == [("rinse", 0), ("heat", 0), ("serve", 1)]


# --- findings that stay --------------------------------------------------------------------------------------------


@pytest.fixture
def breach() -> tuple[dict[str, Any], tuple[str, ...]]:
    data = reading(
        "Cut the chicken on the board. Cut the cucumber on the board. Fry the chicken. Serve it all.",
        "400 g chicken breast",
        "1 cucumber",
    ).data
    [found] = analyse(process_from(data), House()).findings[:1]
    return data, finding_key(found)


def test_a_finding_is_kept_as_a_slip_and_said_so_once(breach: tuple[dict[str, Any], tuple[str, ...]]) -> None:
    data, key = breach
    once = accept(data, key, "slip")
    again = accept(once, key, "cannot", "two boards here")
    assert accepted(once)[key]["how"] == "slip"
    assert [row["how"] for row in accepted_rows(again)] == ["cannot"]
    assert accepted(again)[key]["reason"] == "two boards here"
    assert process_from(again).steps == process_from(data).steps


@pytest.mark.parametrize(("how", "reason", "field"), [("cannot", "  ", "reason"), ("fine", "", "how"), ("", "", "how")])
def test_a_finding_is_not_waved_away(
    breach: tuple[dict[str, Any], tuple[str, ...]], how: str, reason: str, field: str
) -> None:
    data, key = breach
    with pytest.raises(CoreError) as wrong:
        accept(data, key, how, reason)
    assert wrong.value.field == f"accepted[0].{field}"


@pytest.mark.parametrize("field", ["unread", "aside", "told", "accepted"])
@pytest.mark.parametrize("hostile", ["text", [3], [{"text": 3}], [{"holds": True}], {"text": "x"}, [None]])
def test_stored_sentences_are_checked_as_everything_else(
    open_sentence: dict[str, Any], field: str, hostile: object
) -> None:
    with pytest.raises(CoreError) as wrong:
        process_from({**open_sentence, field: hostile})
    assert wrong.value.field.startswith(field)


# --- any text at all -------------------------------------------------------------------------------------------------

ROWS = sorted({row for text in wild_texts() for row in text.text.splitlines() if row.strip()})


@settings(max_examples=25, deadline=None)
@given(st.lists(st.sampled_from(ROWS), min_size=1, max_size=14), st.sampled_from(["\n", "\n\n", " "]))
def test_rows_of_many_recipes_in_any_order_never_break_the_reader(rows: list[str], between: str) -> None:
    found = read_recipe(between.join(rows), "en-GB")
    assert found.process is not None or not found.may_confirm
    names = {item.food for item in found.items if item.food}
    for item in found.items:
        kind: FoodKind | None = food_kind(item.kind) if item.kind else None
        raw = kind is not None and any(soil.startswith("raw") for soil in kind.soils)
        if raw and found.may_confirm:
            assert any(
                item.food and item.food.lower() in " ".join(step["foods"]).lower() for step in found.data["steps"]
            )
    assert len(names) <= len(found.items)

"""A pasted recipe understood: nothing is dropped, what is not known is asked, nothing unknown is clean."""

import contextlib
import json
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.cli import run_read
from foodsafety.contamination import analyse
from foodsafety.quantities import CoreError
from foodsafety.recipes import Reading, raw_astray, read_recipe
from foodsafety.rules import House
from tests.core.wild import Wild, answer_to, judged, wild_texts

TAKEN = {"step", "ingredient", "title", "serves", "heading", "tip", "storage", "chatter", "unread"}


def reading(method: str, *lines: str, title: str = "Crew tea") -> Reading:
    return read_recipe(f"{title}\n\nIngredients\n" + "\n".join(lines) + f"\n\nMethod\n{method}", "en-GB")


def steps(method: str, *lines: str, title: str = "Crew tea") -> list[tuple[str, list[str]]]:
    return [(row["do"], row["foods"]) for row in reading(method, *lines, title=title).data["steps"]]


def why(found: Reading) -> list[str]:
    return [row.why for row in found.questions if row.holds]


# --- texts that people might paste, annotated by hand ------------------------------------------------------------


LOTS = {
    "wild": (0.92, 0.04),
    "first_sight": (0.88, 0.06),
    "newest": (0.76, 0.09),
    "pages": (0.88, 0.04),
    "later_pages": (0.86, 0.07),
}


@pytest.mark.parametrize(("lot", "least", "most_silent"), [(lot, *floor) for lot, floor in LOTS.items()])
def test_the_annotated_texts_are_read_as_well_as_they_once_were(
    lot: str, least: float, most_silent: float, score
) -> None:
    read = asked = silent = 0
    lost, wrong = [], []
    for text in wild_texts(lot):
        found = judged(text)
        read, asked, silent = read + found.read, asked + found.asked, silent + found.silent
        lost += found.lost
        wrong += found.misses
    of = read + asked + silent
    score(f"annotated texts ({lot}), facts read", read, of, wrong)
    assert read >= least * of
    assert silent <= most_silent * of
    assert lost == []


@pytest.mark.parametrize("text", [row for lot in LOTS for row in wild_texts(lot)], ids=lambda text: text.name)
def test_no_annotated_text_looks_safe_and_is_not(text: Wild) -> None:
    answer = answer_to(text.text, text.locale)
    assert answer["steps"]
    assert bool(answer["findings"]) or not answer["may_confirm"] or not text.unsafe


# --- accounted for -----------------------------------------------------------------------------------------------


@settings(max_examples=60, deadline=None)
@given(st.text(alphabet="abcdefg \n.,:1245-", min_size=1, max_size=300))
def test_every_row_of_any_text_is_taken_for_something(text: str) -> None:
    with contextlib.suppress(CoreError):
        found = read_recipe(text, "en-GB")
        assert all(row.taken in TAKEN for row in found.sentences)
        said = "".join("".join(row.text.split()) for row in found.sentences)
        assert len(said) >= 0.6 * len("".join(c for c in text if c.isalnum()))


def test_raw_food_in_no_step_and_a_mixture_that_goes_nowhere_hold_back() -> None:
    found = reading("Boil the rice for 12 minutes. Serve the rice.", "200 g rice", "400 g chicken breast")
    assert raw_astray(found.process) == ("chicken breast",)
    assert why(found) == ["unplaced"]
    assert not found.may_confirm


def test_a_sentence_nobody_understood_is_a_question_and_holds_back_where_it_may_hide_raw_work() -> None:
    found = reading("Fry the cod for 8 minutes. Mind the raw juices. Serve the cod.", "4 cod fillets")
    assert why(found) == ["unread"]
    plain = reading("Fry the cod for 8 minutes. That pan again, 2 of them. Serve the cod.", "4 cod fillets")
    assert not why(plain)
    assert [row.text for row in plain.sentences if row.taken == "unread"] == ["That pan again, 2 of them."]


def test_what_a_sentence_names_and_no_step_has_is_doubted() -> None:
    found = reading("Whatever the leeks say, rinse the peas. Serve the peas.", "200 g peas", "2 leeks")
    assert found.data["steps"][0]["guesses"] == ["named"]
    assert [(row.why, row.ingredient) for row in found.questions] == [("unplaced", 1)]


def test_storage_advice_and_tips_are_no_steps() -> None:
    found = reading(
        "Fry the cod.\nServe it.\nAny left keeps two days in the fridge.\nTip: dry it well.", "4 cod fillets"
    )
    assert [row.taken for row in found.sentences[-2:]] == ["storage", "tip"]
    assert [row["do"] for row in found.data["steps"]] == ["heat", "serve"]


# --- what becomes of food ------------------------------------------------------------------------------------------


def test_made_food_is_called_what_the_text_calls_it() -> None:
    found = reading(
        "Mix the oats, egg and milk. Chill the dough for an hour. Bake the dough for 20 minutes. Serve.",
        "200 g oats", "1 egg", "50 ml milk", title="Oat bites",
    )  # fmt: skip
    assert found.data["steps"][0]["makes"] == "dough"


@pytest.mark.parametrize(
    ("method", "wanted"),
    [
        ("Slice the beef. Put it in the fridge.", ("chill", ["braising steak"])),
        ("Break up the beef in a pan with a fork and cook for 10 minutes.", ("heat", ["braising steak"])),
        ("The beef. Fry it for 5 minutes.", ("heat", ["braising steak"])),
    ],
)
def test_a_word_for_an_animal_and_a_pronoun_mean_the_raw_food(method: str, wanted: tuple[str, list[str]]) -> None:
    assert wanted in steps(method, "900 g braising steak", "400 ml beef stock")


def test_of_two_heats_of_raw_meat_the_last_makes_it_safe() -> None:
    done = [
        do
        for do, _ in steps(
            "Cook the mince for 5 minutes. Add the stock and simmer for 40 minutes.",
            "1 kg lamb mince",
            "1 litre stock",
        )
    ]
    assert done[:1] == ["part_cook"]
    assert "heat" in done


def test_a_cold_rest_between_two_heats_parts_them() -> None:
    done = [
        do for do, _ in steps("Simmer the mince for 40 minutes. Chill it. Reheat it for 10 minutes.", "1 kg lamb mince")
    ]
    assert done.count("part_cook") == 0


def test_what_raw_meat_lay_in_is_raw_wherever_it_goes() -> None:
    found = reading(
        "Mix the soy sauce and honey and pour over the steak. Chill overnight. Lift the steak out and grill it for "
        "10 minutes. Wash your hands. Tear the lettuce onto a plate. Pour the marinade over the lettuce. Serve the "
        "lettuce with the steak.",
        "1 flank steak", "50 ml soy sauce", "2 tbsp honey", "1 lettuce",
    )  # fmt: skip
    assert "marinade" in found.process.made
    assert any(row.soil == "raw_meat" for row in analyse(found.process, House()).findings)


@pytest.mark.parametrize(
    ("method", "by_hand"),
    [
        ("Mix the mince and egg with your hands.", True),
        ("Stir the mince and egg with a spoon.", False),
        ("Combine the mince and egg.", True),
        ("Whisk the egg into the mince.", False),
    ],
)
def test_hands_are_on_raw_food_unless_something_else_does_it(method: str, by_hand: bool) -> None:
    [step] = [row for row in reading(method, "500 g turkey mince", "1 egg").data["steps"] if row["do"] == "mix"]
    assert bool(step["hands"]) is by_hand


def test_foods_set_out_are_what_the_next_is_dipped_in() -> None:
    method = "Slice the cod. Set out three bowls: flour, egg, oats. Dip the cod in each in turn. Fry it for 6 minutes."
    rows = steps(method, "4 cod fillets", "2 tbsp flour", "1 egg", "60 g oats")
    assert ("coat", ["cod fillets", "flour", "egg", "oats"]) in rows


# --- the contract ----------------------------------------------------------------------------------------------------


def test_the_topic_answers_as_agreed() -> None:
    text = (
        "Gannet's cod\n\n4 cod fillets\n2 leeks\n\nFry the cod for 8 minutes until the middle reads 70C. Serve the cod."
    )
    answer = json.loads(json.dumps(run_read({"text": text, "locale": "en-GB"})))
    assert set(answer) == {
        "title",
        "serves",
        "ingredients",
        "steps",
        "sentences",
        "serve",
        "findings",
        "questions",
        "may_confirm",
    }
    assert answer["ingredients"][0] | {"used": []} == {
        "line": "4 cod fillets", "food": "cod fillets", "kind": "cod", "low": 4.0, "high": 4.0, "unit": None,
        "component": "", "soils": ["raw_fish"], "allergens": ["fish"], "used": [],
    }  # fmt: skip
    heat = answer["steps"][0]
    assert (heat["do"], heat["minutes"], heat["core_c"], heat["sentence"]) == ("heat", [8.0, 8.0], 70.0, 3)
    assert heat["id"] in answer["ingredients"][0]["used"]
    assert answer["questions"] == [{"why": "unplaced", "ingredient": 1}]


@pytest.mark.parametrize("text", [None, 3, ""])
def test_what_is_no_text_is_refused_by_name(text: object) -> None:
    with pytest.raises(CoreError) as wrong:
        run_read({"text": text, "locale": "en-GB"})
    assert wrong.value.field == "text"


def test_the_texts_are_all_there() -> None:
    assert len(list((Path(__file__).resolve().parents[2] / "data" / "wild").glob("*.json"))) >= 40

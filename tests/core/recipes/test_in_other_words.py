"""The same orders in other voices, other frames and other line ends: what is read of a text does not hang on them."""

import re
import textwrap
from collections.abc import Callable
from dataclasses import replace

import pytest

from foodsafety.recipes import read_recipe, trust_step
from foodsafety.recipes.broken_rows import unbroken
from foodsafety.recipes.instructions import one_after_another, orders
from foodsafety.recipes.process import process_from
from foodsafety.recipes.questions import open_questions
from foodsafety.recipes.voices import in_plain_voice
from tests.core.recipes.read import done, reading
from tests.core.wild import Wild, judged, wild_texts

FOODS = frozenset({"leek", "leeks", "egg", "beef", "mince", "rice"})


@pytest.mark.parametrize(
    "said",
    [
        "The leeks want chopping on the board.", "The leeks get chopped on the board.",
        "The leeks I chop on the board.",
        "Leeks: chop on the board.", "Time to chop the leeks on the board.",
        "Don't forget to chop the leeks on the board.",
        "Be sure to chop the leeks on the board.", "We're going to chop the leeks on the board.",
        "Ask a partner to chop the leeks on the board.", "Take turns to chop the leeks on the board.",
        "Start by chopping the leeks on the board.", "Next comes chopping the leeks on the board.",
        "Your next job is to chop the leeks on the board.", "I'd chop the leeks on the board.",
    ],
)  # fmt: skip
def test_an_order_in_any_voice_is_the_same_order(said: str) -> None:
    assert [(order.do, "leeks" in order.words) for order in orders(said, FOODS)] == [("cut", True)]


@pytest.mark.parametrize(
    "said",
    [
        "Do not chop the leeks.", "The leeks you chop go in last.", "If the leeks need chopping, say so.",
        "Set out three bowls: flour, eggs, oats.", "Sauce: fry the leeks in oil.",
    ],
)  # fmt: skip
def test_what_only_sounds_like_it_stays_as_it_is(said: str) -> None:
    assert in_plain_voice(said, FOODS) == said


@pytest.mark.parametrize(
    "said",
    [
        "Wash and dry your hands.", "Do a proper hand wash.", "Hand wash before the next job.", "Soap up those hands!",
        "Back to the sink to wash hands.", "Hands: wash.", "Hands get washed thoroughly.", "Hands need washing.",
        "20 seconds of soap and water for your hands.", "Hands washed.",
        "Trim the leeks, then wash and dry your hands.",
    ],
)  # fmt: skip
def test_a_hand_wash_is_one_however_it_is_put(said: str) -> None:
    assert [order.do for order in orders(said, FOODS)][-1] == "wash_hands"


@pytest.mark.parametrize(
    "said",
    [
        "These leeks don't need washing.", "The rice never needs rinsing.", "The leeks hardly need washing.",
        "The mince doesn't get washed.", "Skip the hand wash.", "You didn't have a hand wash.",
        "Without a hand wash, go on.", "Rather than do a hand wash, use gel.", "The leeks only need washing if muddy.",
        "If you have time for a hand wash, fine.", "No time for a hand wash.", "Hands clean, slice the leeks.",
    ],
)  # fmt: skip
def test_a_wash_that_is_left_out_in_any_voice_is_none(said: str) -> None:
    assert not {order.do for order in orders(said, FOODS)} & {"rinse", "wash_hands", "clean"}


def test_a_short_sentence_of_hands_is_never_what_stands_before_it() -> None:
    found = reading("Pat the mince dry. Hands: wash. Chop the leeks. Serve the leeks.", "500 g beef mince", "2 leeks")
    assert ("wash_hands", []) in done(found)
    assert "rinse" not in [do for do, _ in done(found)]


def test_then_parts_a_sentence_as_a_full_stop_does() -> None:
    said = "Fry the mince for 8 minutes, then wash your hands and then chop the leeks."
    assert len(one_after_another(said, FOODS)) == 3
    for whole in ("Fry it 5 minutes, then another 5.", "Dice the beef, then straight into the pan."):
        assert one_after_another(whole, FOODS) == [whole]


@pytest.mark.parametrize(
    ("method", "kinds"),
    [
        ("After washing your hands, slice the leeks. Serve.", ["wash_hands", "cut", "serve"]),
        ("Once you've rinsed the leeks, slice them. Serve.", ["rinse", "cut", "serve"]),
        ("Slice the leeks. Once you've sliced the leeks, rinse them. Serve.", ["cut", "rinse", "serve"]),
        ("Slice the leeks before frying the leeks. Serve.", ["cut", "heat", "serve"]),
        (
            "Slice the leeks before frying the leeks. Fry them in the pan for 5 minutes. Serve.",
            ["cut", "heat", "serve"],
        ),
        ("Cover the leeks with foil before baking for 40 minutes. Serve.", ["heat", "serve"]),
    ],
)
def test_what_is_said_to_come_first_or_after_is_ordered_once(method: str, kinds: list[str]) -> None:
    found = [do for do, _ in done(reading(method, "2 leeks")) if do not in ("transfer", "garnish", "touch")]
    assert found == kinds


# --- guessed, and said to be ---------------------------------------------------------------------------------------

GUESSED = (
    "Fry the leeks in the frying pan for 5 minutes. Chicken straight from the walk-in into the pots - don't leave it"
    " standing about. Simmer for 40 minutes. Serve."
)


def test_a_sentence_no_rule_reads_is_guessed_and_with_raw_food_in_it_holds_until_somebody_says_it_is_right() -> None:
    found = reading(GUESSED, "2 leeks", "500 g chicken thighs")
    guessed = next(row for row in found.data["steps"] if "guess" in row.get("guesses", ()))
    assert guessed["foods"] == ["chicken thighs"]
    assert [(row.why, row.step) for row in found.questions if row.holds] == [("guessed", guessed["id"])]
    assert not found.may_confirm
    sure = trust_step(found.data, guessed["id"])
    assert not [row for row in open_questions(found.items, sure, process_from(sure)) if row.holds]


def test_what_orders_nothing_is_not_guessed_at() -> None:
    found = reading(
        "The chicken was put into the pot by my aunt. Fry it for 20 minutes. Serve.", "500 g chicken thighs"
    )
    assert not any("guess" in row.get("guesses", ()) for row in found.data["steps"])


@pytest.mark.parametrize(
    ("said", "core_c", "minutes"),
    [
        ("Brown the mince until no pink shows and it reaches 160 degrees.", 71.1, None),
        ("Bake for 20 minutes, until the mince is 160 inside.", 71.1, 20),
        ("Heat the oil until it reaches 170 degrees.", None, None),
        ("Simmer for another five mins.", None, 5),
        ("Simmer the rice 12'.", None, 12),
    ],
)
def test_degrees_and_minutes_as_they_are_written(said: str, core_c: float | None, minutes: float | None) -> None:
    order = orders(said, FOODS)[0]
    assert order.core_c == (pytest.approx(core_c, abs=0.1) if core_c else None)
    assert order.low_min == minutes


def test_what_goes_to_the_cold_in_passing_and_is_in_no_step_is_doubted() -> None:
    found = reading("Peel the eggs under running water, into a bag, refrigerator. Serve.", "6 eggs")
    kinds = [do for do, _ in done(found)]
    assert "chill" in kinds or any("work" in row.get("guesses", ()) for row in found.data["steps"])


# --- rows ----------------------------------------------------------------------------------------------------------


def test_rows_of_a_freezer_recipe_under_to_freeze_are_work_and_of_others_advice() -> None:
    method = "Fry the leeks for 5 minutes.\n\nTO FREEZE\nFreeze on trays for 3 hours, then bag them."
    for title, frozen in (("Leek pasties for the freezer", True), ("Leek pasties", False)):
        found = reading(method, "2 leeks", title=title)
        assert ("freeze" in [do for do, _ in done(found)]) is frozen


def test_a_row_of_people_is_no_food() -> None:
    text = (
        "Egg cups\n\nROLES\nHead chef  Assistant  Dishwasher  Recorder\n\n2 eggs\n100 g rice\n\nMethod\nBoil the eggs."
    )
    assert [item.food for item in read_recipe(text, "en-GB").items if item.food] == ["eggs", "rice"]


def test_a_text_without_a_title_loses_no_food_to_it() -> None:
    found = read_recipe("120g plain flour\n2 eggs\n\nBeat the eggs and the flour. Bake for 20 minutes. Serve.", "en-GB")
    assert [item.food for item in found.items] == ["plain flour", "eggs"]


def test_rows_of_their_own_are_never_taken_for_one_that_was_broken() -> None:
    rows = [
        "Wash the leeks.",
        "Slice them thinly and fry them for ten minutes.",
        "Beat the eggs.",
        "pour over",
        "serve",
    ]
    assert [row for _, row in unbroken(rows)] == rows


# --- whole texts in other clothes ----------------------------------------------------------------------------------

_VERBS = (
    "Add|Cut|Chop|Slice|Mix|Stir|Fry|Cook|Bake|Put|Wash|Rinse|Drain|Heat|Pour|Serve|Boil|Simmer|Grate|Peel|Dice|Beat"
)


def _wrapped(text: str) -> str:
    return "\n".join(part for row in text.split("\n") for part in textwrap.wrap(row, 60) or [""])


def _led_up(lead: str) -> Callable[[str], str]:
    head = re.compile(rf"(?:(?<=\. )|(?<=\n))(?:{_VERBS})\b(?= (?:the|your|a|in|with|it|them) )")
    return lambda text: head.sub(lambda found: f"{lead} {found[0].lower()}", text)


@pytest.mark.parametrize(
    "told",
    [_wrapped, _led_up("Don't forget to"), _led_up("We're going to"), lambda text: text.replace(". Then ", ", then ")],
    ids=["wrapped", "do not forget", "going to", "then"],
)
def test_texts_in_other_clothes_are_read_as_well(told: Callable[[str], str], score) -> None:
    texts = wild_texts("first_sight")[::4]
    plain = sum(judged(text).read for text in texts)
    moved = sum(judged(_in_clothes(text, told)).read for text in texts)
    score("the same texts in other clothes, facts read", moved, plain, [])
    assert moved >= 0.96 * plain


def _in_clothes(text: Wild, told: Callable[[str], str]) -> Wild:
    facts = [[kind, foods, re.sub(r"\s+", " ", told(quote))] for kind, foods, quote in text.facts]
    return replace(text, text=told(text.text), facts=facts)

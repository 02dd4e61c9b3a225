"""Sentences as people write them, and the orders in them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.recipes import orders, sentences
from foodsafety.recipes.clauses import without_asides
from foodsafety.recipes.plain_speech import plain_saying, plain_words

FOODS = frozenset(
    "kelp cod cods leek leeks oats butter mussels crab barley rice beans onion onions lamb egg eggs cream parsley "
    "cheese buns flour milk lime limes salt pepper tomatoes lettuce mince turkey carrots peas oil".split()
)


def does(sentence: str) -> list[tuple[str, str]]:
    return [(order.do, order.verb) for order in orders(sentence, FOODS)]


@pytest.mark.parametrize(
    ("sentence", "expected"),
    [
        # after a place, a person, a when
        ("In a shallow dish stir together the oats and butter.", [("mix", "stir")]),
        ("On a clean board, finely shred the leeks.", [("cut", "shred")]),
        ("While that bubbles away, slice the leeks on the same board", [("cut", "slice")]),
        ("while those roast rinse the lettuce", [("rinse", "rinse")]),
        ("Once cool, flake the cod and tip it back into the pan.", [("touch", "flake"), ("transfer", "tip")]),
        ("With ten minutes to go, wipe down the table and rinse the parsley.", [("wipe", "wipe"), ("rinse", "rinse")]),
        ("Child B rinses the tomatoes.", [("rinse", "rinse")]),
        ("A grown-up bakes them for 12 - 14 mins.", [("heat", "bake")]),
        ("Step 4 - Cook 1: Cut the cod into fat fingers.", [("cut", "cut")]),
        ("(8) Chef: Rub the lamb with salt, wash hands.", [("coat", "rub"), ("wash_hands", "wash")]),
        ("you lay them on the board and you cut them up", [("transfer", "lay"), ("cut", "cut")]),
        # in the passive
        ("The cream is poured over and reduced by half.", [("garnish", "pour"), ("heat", "reduce")]),
        ("The onions and the leeks are stirred in and allowed to melt.", [("mix", "stir"), ("heat", "allow")]),
        ("The parsley, which must first be rinsed, is chopped.", [("rinse", "rinse"), ("cut", "chop")]),
        # without a verb
        ("Onions in, 4 mins", [("mix", "add"), ("timed", "")]),
        ("Fridge overnight, covered.", [("chill", "chill")]),
        ("Into a bowl with the lime and salt.", [("mix", "put")]),
        ("165F in the middle or it stays in", [("probe", "probe")]),
        ("4 mins a side on high", [("timed", "")]),
        ("Onions, peas, carrots.", [("list", "add")]),
        ("Rice first.", [("topic", "")]),
        ("Simmer 45 mins, peas in for the last 5.", [("heat", "simmer"), ("mix", "add"), ("timed", "")]),
        ("Cover with foil, in the oven, 40 minutes.", [("none", "cover"), ("heat", "bake")]),
        ("Board and knife in the sink, hot soapy water.", [("clean", "wash")]),
        # roundabout
        ("give that a stir with a spoon", [("mix", "stir")]),
        ("give them 5 mins", [("heat", "cook")]),
        ("in goes a thumb of ginger", [("mix", "add")]),
        ("get your hands in there until it holds", [("mix", "mix")]),
        ("forget about it for half an hour", [("rest", "leave")]),
        ("the buns go cut side down on the grill for 1 min", [("heat", "put")]),
        ("good wash of hands, board and knife here", [("wash_hands", "wash"), ("clean", "wash")]),
        ("Scrape down the worktop, wash it with hot soapy water.", [("wipe", "scrape"), ("clean", "wash")]),
        ("Chill for an hour before serving.", [("chill", "chill"), ("serve", "serve")]),
        # what only looks like an order
        ("Set out three bowls: flour, eggs, oats.", [("none", "set"), ("list", "add")]),
        ("Don't rinse the cod.", [("topic", "")]),
        ("Can I freeze it?", []),
        ("Cook 1 = cod.", []),
        ("Wash the board and knife.", [("clean", "wash")]),
        ("Mix the mince, salt and pepper in a bowl.", [("mix", "mix")]),
        ("The cod should be white and flaky.", []),
        ("Cut one open to look.", [("none", "cut")]),
    ],
)
def test_orders_are_found_where_people_put_them(sentence: str, expected: list[tuple[str, str]]) -> None:
    found = does(sentence)
    assert [row for row in found if row in expected or row[0] != "none"] == expected


@pytest.mark.parametrize(
    ("written", "plain"),
    [
        ("mix w/ a fork", "mix with a fork"),
        ("salt n pepper", "salt and pepper"),
        ("til golden", "until golden"),
        ("[do NOT stew - crossed out] serve", "serve"),
        ("simmer 10 - 12 mins", "simmer 10-12 mins"),
        ("throw em on", "throw them on"),
    ],
)
def test_ways_of_writing_a_word_are_brought_to_the_plain_one(written: str, plain: str) -> None:
    assert plain_words(written) == plain


def test_what_only_says_when_and_why_is_no_part_of_an_order() -> None:
    assert without_asides("add the peas while it bubbles, then stir") == "add the peas , then stir"
    assert plain_saying("I only have the one good knife") == "I own the one good knife"


@pytest.mark.parametrize(
    ("text", "parts"),
    [
        ("Bake 40 mins. Probe it.", ["Bake 40 mins. Probe it."]),
        ("Simmer for 5 mins. Add the peas to the pan.", ["Simmer for 5 mins.", "Add the peas to the pan."]),
        ("stir it well. then leave the lot to cool", ["stir it well.", "then leave the lot to cool"]),
        ("This is your relish. Chill it.", ["This is your relish. Chill it."]),
        ("(5) Chef: wash the leeks well now.", ["Chef: wash the leeks well now."]),
    ],
)
def test_sentences_end_where_they_end_and_two_words_stand_with_their_neighbour(text: str, parts: list[str]) -> None:
    assert sentences(text) == parts


@given(st.text(max_size=200))
def test_no_text_breaks_the_clauses(text: str) -> None:
    for sentence in sentences(text):
        assert all(order.do for order in orders(sentence, FOODS))

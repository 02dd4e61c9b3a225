"""What a sentence orders: one row, one fact."""

import pytest

from foodsafety.recipes import gas_mark_c, minutes_in, orders, temperatures_in


@pytest.mark.parametrize(
    ("mark", "celsius"), [(0.25, 107.2), (0.5, 121.1), (1, 135), (4, 176.7), (6, 204.4), (9, 246.1)]
)
def test_gas_marks(mark: float, celsius: float) -> None:
    assert gas_mark_c(mark) == pytest.approx(celsius, abs=0.05)


@pytest.mark.parametrize(
    ("sentence", "does"),
    [
        ("Chop the onion.", ["cut"]),
        ("Wash and slice the leeks.", ["rinse", "cut"]),
        ("Mash the potatoes.", ["mix"]),
        ("Crack the eggs into a bowl.", ["mix"]),
        ("Break the eggs into a bowl.", ["mix"]),
        ("Break the bark into pieces.", ["cut"]),
        ("Toss the chicken in the flour.", ["coat"]),
        ("Toss the salad.", ["mix"]),
        ("Rub the butter into the flour.", ["mix"]),
        ("Rub the meat with oil.", ["coat"]),
        ("Marinate for an hour.", ["marinate"]),
        ("Leave to marinate overnight.", ["marinate"]),
        ("Drain the pasta.", ["pour"]),
        ("Brush with egg.", ["brush"]),
        ("Grease the tin.", ["brush"]),
        ("Bring to the boil.", ["heat"]),
        ("Bring together into a dough.", ["mix"]),
        ("Turn the heat down.", ["none"]),
        ("Turn the koftas with the tongs.", ["heat"]),
        ("Turn out onto a rack.", ["transfer"]),
        ("Heat the oven to 200C.", ["none"]),
        ("Heat a large pan.", ["none"]),
        ("Heat the oil in a pan.", ["heat"]),
        ("Refrigerate for 2 hours.", ["chill"]),
        ("Leave to cool in the fridge.", ["chill"]),
        ("Put in the freezer.", ["freeze"]),
        ("Scatter over the herbs.", ["garnish"]),
        ("Check the core temperature.", ["probe"]),
        ("Check the seasoning.", ["none"]),
        ("Knead for 10 minutes.", ["touch"]),
        ("Wipe the board.", ["wipe"]),
        ("Sanitise the counter.", ["clean"]),
        ("Rinse out the tin.", ["none"]),
        ("Remove from the heat.", ["none"]),
        ("Meanwhile, peel the carrots.", ["peel"]),
        ("When golden, lift onto a plate.", ["transfer"]),
        ("Serve hot.", ["serve"]),
        ("Cover and simmer.", ["none", "heat"]),
        ("Salt and pepper.", ["topic"]),
        ("The onion and butter should be soft.", []),
    ],
)
def test_what_is_ordered(sentence: str, does: list[str]) -> None:
    assert [order.do for order in orders(sentence)] == does


@pytest.mark.parametrize(
    ("text", "do"),
    [
        ("Turn the chicken thighs in it with your hands.", "coat"),
        ("Turn the pork in the marinade.", "coat"),
        ("Turn the wings with clean hands until they are covered.", "coat"),
        ("Turn the chops over halfway.", "heat"),
        ("Turn them with tongs every few minutes.", "heat"),
        ("Turn the oven down to 160 C.", "none"),
    ],
)
def test_what_is_turned_by_hand_or_in_a_marinade_is_raw_work_and_never_heat(text: str, do: str) -> None:
    assert [order.do for order in orders(text)] == [do]


@pytest.mark.parametrize(
    ("said", "minutes"),
    [
        ("simmer for twenty minutes", 20),
        ("thirty-five minutes at 190C", 35),
        ("fifteen mins", 15),
        ("an hour and a quarter", 75),
        ("two and a half hours", 150),
        ("three quarters of an hour", 45),
        ("half an hour or so", 30),
        ("1 hour 20 minutes", 80),
        ("cut one and a half limes", None),
    ],
)
def test_times_in_words(said: str, minutes: float | None) -> None:
    assert minutes_in(said) == (minutes, minutes)


def test_degrees_in_words() -> None:
    assert temperatures_in("roast at a hundred and eighty degrees")[0] == 180

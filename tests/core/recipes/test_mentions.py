"""Foods a text names."""

import itertools

from foodsafety.recipes import read_ingredient
from foodsafety.recipes.mentions import FoodsInHand, mentions


def test_overlapping_names_are_read_from_the_left_whatever_order_they_are_known_in() -> None:
    """The same text once gave another answer in another run, as a set happened to be ordered."""
    lines = ("red onion", "onion soup", "soup bones")
    found = [
        mentions(FoodsInHand([read_ingredient(line, "en-GB") for line in order]), "pour the red onion soup")
        for order in itertools.permutations(lines)
    ]
    assert found[0][0] == (2, ["red onion"])
    assert all(row == found[0] for row in found)

"""What is said around an order (who, when, how long, how hot, of what, and what else in the same sentence) crossed with
orders: a dose of them; ``python -m tests.core.crossings`` reads all."""

from __future__ import annotations

from collections import Counter

from tests.core.crossings import Crossing, crossings, read

# What was reached when they were last learnt from.
READ_FLOOR = 0.97
EVERY = 61


def test_an_order_is_read_whatever_stands_around_it() -> None:
    said = list(crossings())[::EVERY]
    found = {one: read(one) for one in said}

    assert Counter(found.values())["read"] >= READ_FLOOR * len(said), [one.said for one in said if found[one] != "read"]
    assert Counter(found.values())["silent"] <= 0.01 * len(said), [one.said for one in said if found[one] == "silent"]


def test_what_must_come_of_a_crossing_can_fail() -> None:
    said, foods = "Fry the chicken for 10 to 12 minutes.", ("1 chicken breast", "1 lettuce")

    def crossed(must: str) -> str:
        return read(Crossing("", foods, ("Cut the chicken.",), said, (must,)))

    assert crossed("heat chicken 10-12") == "read"
    for must in ("heat chicken 12-12", "heat lettuce", "probe chicken", "heat chicken @75", "heat chicken =200"):
        assert crossed(must) != "read"

"""What to buy: nothing that is needed is missing, and what cannot be counted is said."""

from __future__ import annotations

import datetime as dt
from dataclasses import replace
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.foods import food_kinds
from foodsafety.recipes import read_ingredient
from foodsafety.review import Price, ShoppingList, ToBuy, shop_sections, shopping_list

ON = dt.date(2026, 9, 1)


def buy(*lines: str, times: float = 1, **more: object) -> ShoppingList:
    items = [read_ingredient(line, "en-GB") for line in lines]
    return shopping_list([(items, times)], "en-GB", **more)  # type: ignore[arg-type]


def row(found: ShoppingList, name: str) -> ToBuy:
    return next(one for one in found.rows if one.kind == name)


def test_amounts_are_added_up_and_rounded_up_to_packs() -> None:
    flour = row(buy("400 g plain flour", times=4), "flour")

    assert (flour.amount, flour.unit, flour.packs, flour.left) == (1600, "g", 2, 1400)
    assert row(buy("8 eggs"), "egg").packs == 2
    assert row(buy("3 dl milk", "2 tbsp milk"), "milk").packs == 1


def test_the_larger_end_is_bought() -> None:
    assert row(buy("2-3 eggs", times=3), "egg").amount == 9
    assert row(buy("200-300 g plain flour", times=2), "flour").amount == 600
    assert row(buy("100-200 ml milk"), "milk").amount == 200


def test_pieces_and_weights_of_one_food_are_added_by_weight() -> None:
    onion = row(buy("2 onions", "150 g onion"), "onion")

    assert onion.unit == "g"
    assert (onion.amount or 0) > 300


@pytest.mark.parametrize("line", ["some parsley", "salt to taste", "2 handfuls of rocket"])
def test_what_cannot_be_counted_is_listed_as_it_is_written(line: str) -> None:
    [only] = buy(line).rows

    assert only.amount is None
    assert only.lines == (line,)
    assert not buy(line).complete


def test_water_is_not_bought_and_what_is_there_is_listed_but_not_paid() -> None:
    prices = {"flour": Price(kind="flour", amount=Decimal("1.00"), per="kg", on=ON)}
    found = buy("500 ml water", "100 g plain flour", "200 g butter", prices=prices, have={"butter"})

    assert [one.kind for one in found.rows] == ["flour", "butter"]
    assert row(found, "butter").have
    assert (found.total, found.complete) == (Decimal("1.50"), True), "a pack of 1.5 kg is paid, not what is used"


def test_a_price_by_weight_pays_for_what_is_bought_by_the_piece() -> None:
    price = {"egg": Price(kind="egg", amount=Decimal("0.30"), per="each", on=ON)}
    assert row(buy("7 eggs", prices=price), "egg").cost == Decimal("3.60")
    missing = buy("7 eggs", "1 cucumber", prices=price)
    assert (missing.complete, missing.total) == (False, Decimal("3.60"))


def test_cold_things_come_last_and_raw_meat_last_of_all() -> None:
    found = buy("500 g turkey mince", "1 cucumber", "200 ml milk", "1 wobblefruit", "2 flatbreads", "150 g flour")

    assert [one.section for one in found.rows] == ["other", "produce", "bread", "dry", "chilled", "raw"]
    assert [one.cold for one in found.rows] == [False, False, False, False, True, True]


def test_every_food_that_is_bought_has_a_section() -> None:
    plain = read_ingredient("100 g flour", "en-GB")
    items = [replace(plain, kind=kind.id) for kind in food_kinds() if kind.group != "water"]

    assert [one.kind for one in shopping_list([(items, 1)], "en-GB").rows if one.section == "other"] == []


@given(
    st.lists(st.sampled_from(["100 g flour", "2 eggs", "200 ml milk", "1 onion", "30 g salt", "5 g thyme"]), min_size=1)
)
def test_never_less_is_bought_than_is_needed(lines: list[str]) -> None:
    for one in buy(*lines, times=3).rows:
        assert one.amount is not None
        if one.packs:
            assert one.packs * one.pack >= one.amount - 1e-6
            assert 0 <= one.left < one.pack
        assert set(shop_sections()) >= {one.section}

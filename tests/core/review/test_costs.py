"""What a recipe costs, and what is not known of it."""

import datetime as dt
from decimal import Decimal

import pytest

from foodsafety.recipes import (
    read_ingredient,
)
from foodsafety.review import Price, bulk_saving, recipe_cost

# --- costs ---

PRICES = {
    "turkey_mince": Price(kind="turkey_mince", amount=Decimal("7.00"), per="kg", on=dt.date(2026, 11, 1)),
    "egg": Price(kind="egg", amount=Decimal("0.30"), per="each", on=dt.date(2026, 11, 1)),
    "milk": Price(kind="milk", amount=Decimal("1.20"), per="l", on=dt.date(2026, 11, 1)),
}


def test_a_batch_costs_what_its_lines_cost() -> None:
    cost = recipe_cost(
        [read_ingredient(t, "en-GB") for t in ("500 g turkey mince", "2 eggs", "250 ml milk", "1 l water")],
        PRICES,
        "en-GB",
    )

    assert (cost.total, cost.complete) == (Decimal("4.40"), True)
    assert cost.per(4) == Decimal("1.10")


@pytest.mark.parametrize(
    ("line", "why"), [("1 onion", "no-price"), ("milk, to serve", "no-amount"), ("1 jug milk", "no-weight")]
)
def test_a_line_without_a_cost_is_never_free(line: str, why: str) -> None:
    cost = recipe_cost([read_ingredient(line, "en-GB")], PRICES, "en-GB")

    if why == "no-weight":
        assert not cost.complete
    else:
        assert (cost.complete, cost.lines[0].cost, cost.lines[0].why) == (False, None, why)


def test_bulk_pays_only_as_far_as_the_freezer_keeps() -> None:
    found = bulk_saving(PRICES["turkey_mince"], pack=10, pack_price=Decimal(50), used_per_month=2)

    assert (found.saves, found.keeps_months, found.most, found.too_much) == (Decimal(2), 3, 6, True)

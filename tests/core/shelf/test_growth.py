"""The growth budget."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.shelf import growth_budgets

H = 3600.0


# --- growth -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("organism", "at_c", "hours", "spent"),
    [
        ("salmonella", 25.0, 2.0, 1.0),
        ("salmonella", 15.0, 5.0, 1.0),
        ("salmonella", 8.0, 48.0, 1.0),
        ("salmonella", 5.0, 999.0, 0.0),
        ("salmonella", 10.5, 5.0, 1.0),
        ("listeria", 35.0, 1.0, 1.0),
        ("listeria", 4.0, 168.0, 1.0),
        ("staphylococcus", 25.0, 1.5, 0.5),
        ("bacillus", 18.0, 6.0, 1.0),
        ("clostridium", 25.0, 2.0, 1.0),
        ("e_coli", 15.0, 2.5, 0.5),
    ],
)
def test_every_band_spends_the_allowance_of_its_table(organism: str, at_c: float, hours: float, spent: float) -> None:
    found = growth_budgets(((0.0, at_c), (hours * H, at_c)))[organism]

    assert found.spent == pytest.approx(spent)


def test_fractions_of_several_bands_add_up_exactly_over_a_slope() -> None:
    # From 5 to 25 C in 2 h: 0.48 h in the first band, 1.1 h in the second, 0.4 h in the third.
    found = growth_budgets(((0.0, 5.0), (2 * H, 25.0)))["salmonella"]

    assert found.in_bands_s == pytest.approx((0.48 * H, 1.1 * H, 0.4 * H))
    assert found.spent == pytest.approx(0.48 / 48 + 1.1 / 5 + 0.4 / 2)


@given(st.lists(st.floats(-5, 55), min_size=2, max_size=10), st.floats(0, 20))
def test_more_time_or_warmth_never_gives_any_of_it_back(temps: list[float], more: float) -> None:
    rows = tuple((n * 600.0, temp) for n, temp in enumerate(temps))
    longer = (*rows, (rows[-1][0] + more * 60, temps[-1]))

    for key, found in growth_budgets(longer).items():
        assert found.spent >= growth_budgets(rows)[key].spent - 1e-12

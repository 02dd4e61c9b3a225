"""How long food keeps."""

import datetime as dt
from zoneinfo import ZoneInfo

import pytest

from foodsafety.foods import food_kinds
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile
from foodsafety.shelf import StoredFood, storage_category, storage_category_ids, use_by

MADE = dt.datetime(2026, 6, 13, 14, 0)


# The shorter figure of each range in the reference, for a home kitchen in the US: fridge days, freezer months.
LIVES = {
    "raw_ground": (1, 3), "raw_poultry_pieces": (1, 9), "raw_poultry_whole": (1, 12), "raw_steaks": (3, 4),
    "raw_sausage": (1, 1), "bacon_opened": (7, 1), "raw_lean_fish": (1, 6), "raw_fatty_fish": (1, 2),
    "raw_prawns": (3, 6), "eggs_in_shell": (21, None), "hard_cooked_eggs": (7, None), "raw_whites_or_yolks": (2, 12),
    "liquid_egg_opened": (3, None), "cooked_dish": (3, 2), "soup_stew": (3, 2), "cooked_patties": (3, 1),
    "egg_mayonnaise": (3, None), "cooked_rice": (3, 1), "cooked_grains": (3, 1), "cooked_vegetables": (3, 2),
    "cut_fruit": (3, 8), "cut_vegetables": (3, 8), "opened_dairy": (5, 1), "baked_custard": (3, None),
    "cream_pastry": (3, 1), "frozen_dessert": (None, 2), "oat_bites": (7, 3), "dressed_leafy_salad": (0, None),
}  # fmt: skip


def test_every_storage_row_is_checked_here() -> None:
    assert set(LIVES) == set(storage_category_ids())


@pytest.mark.parametrize("name", LIVES)
def test_a_storage_life_is_the_shorter_figure_of_the_reference(name: str) -> None:
    row = storage_category(name)
    days = None if row.fridge is None else row.fridge.low * (7 if row.fridge.unit == "wk" else 1)
    months = None if row.freezer is None else row.freezer.low

    assert (days, months) == LIVES[name]


def test_every_food_kind_is_kept_in_a_category_that_exists() -> None:
    assert {kind.storage for kind in food_kinds() if kind.storage} <= set(storage_category_ids())


@pytest.mark.parametrize(
    ("code", "name", "expected"),
    [
        ("us-home", "casserole", "2026-06-16T14:00"),
        ("uk", "casserole", "2026-06-15T14:00"),
        ("uk", "rice", "2026-06-14T14:00"),
        ("us-home", "raw mince", "2026-06-14T14:00"),
        ("uk", "bacon", "2026-06-20T14:00"),
        ("us-home", "dressed leafy salad", "2026-06-13T23:59"),
    ],
)
def test_use_by_under_a_profile(code: str, name: str, expected: str) -> None:
    assert use_by(
        name, rule_profile(code), StoredFood(made_at=MADE, place="fridge")
    ).use_by == dt.datetime.fromisoformat(expected)


def test_time_already_out_is_taken_off() -> None:
    found = use_by("casserole", rule_profile("us-home"), StoredFood(made_at=MADE, place="fridge", out_s=5400))

    assert found.use_by == MADE + dt.timedelta(days=3, seconds=-5400)


@pytest.mark.parametrize(("out_s", "thrown"), [(7200, False), (7201, True)])
def test_food_out_beyond_the_clock_is_thrown_away(out_s: float, thrown: bool) -> None:
    found = use_by("casserole", rule_profile("us-home"), StoredFood(made_at=MADE, place="fridge", out_s=out_s))

    assert (found.discard, found.use_by is None) == (thrown, thrown)


def test_a_freezer_month_never_ends_later_than_the_same_day() -> None:
    found = use_by("soup", rule_profile("us-home"), StoredFood(made_at=dt.datetime(2026, 12, 31, 9), place="freezer"))

    assert found.use_by == dt.datetime(2027, 2, 28, 9)


@pytest.mark.parametrize(
    ("name", "place", "rule"), [("custard", "freezer", "not-for-freezer"), ("ice cream", "fridge", "not-for-fridge")]
)
def test_what_may_not_be_kept_somewhere_has_no_date(name: str, place: str, rule: str) -> None:
    found = use_by(name, rule_profile("us-home"), StoredFood(made_at=MADE, place=place))  # type: ignore[arg-type]

    assert found.use_by is None
    assert rule in [reason.rule for reason in found.why]


def test_an_unknown_category_is_named() -> None:
    with pytest.raises(CoreError, match="category"):
        use_by("moon rock", rule_profile("uk"), StoredFood(made_at=MADE, place="fridge"))


def test_a_day_of_rice_is_a_day_also_when_the_clocks_change() -> None:
    """In London the clocks went back an hour on 25 October 2026 at 2:00."""
    made = dt.datetime(2026, 10, 24, 20, 0, tzinfo=ZoneInfo("Europe/London"))
    found = use_by("rice", rule_profile("uk"), StoredFood(made_at=made, place="fridge"))

    assert found.use_by is not None
    assert found.use_by.isoformat() == "2026-10-25T19:00:00+00:00"

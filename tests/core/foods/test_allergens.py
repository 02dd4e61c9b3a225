"""Allergens, as the law of each place names them."""

import pytest

from foodsafety.foods import allergen_sets, allergen_tag, allergens_for, food_kind, soil_tag


@pytest.mark.parametrize(("place", "count"), [("us", 9), ("uk-eu", 14)])
def test_allergen_sets_have_as_many_as_the_law_names(place: str, count: int) -> None:
    assert len(allergen_sets()[place].members) == count


@pytest.mark.parametrize(
    ("code", "kind", "named"),
    [
        ("us-home", "celery", set()),
        ("uk", "celery", {"celery"}),
        ("uk", "flour", {"gluten"}),
        ("us-home", "flour", {"wheat"}),
        ("canada", "mustard", {"mustard"}),
        ("us-home", "oysters", set()),
    ],
)
def test_what_must_be_named_depends_on_the_place(code: str, kind: str, named: set[str]) -> None:
    assert set(allergens_for(profile_id=code).named(food_kind(kind).allergens)) == named


@pytest.mark.parametrize(
    ("written", "tag"),
    [
        ("peanuts", "peanut"),
        ("Dairy", "milk"),
        ("allergen:tree nuts", "tree_nuts"),
        ("nuts", "tree_nuts"),
        ("kiwi", "kiwi"),
    ],
)
def test_an_allergen_is_one_however_it_is_written(written: str, tag: str) -> None:
    assert allergen_tag(written) == tag


def test_a_soil_of_ours_is_not_taken_for_an_allergen() -> None:
    assert (soil_tag("raw fish"), soil_tag("allergen:fish"), soil_tag("peanuts")) == ("raw_fish", "fish", "peanut")

"""The food table: each kind is what it claims to be, and nothing unknown passes for harmless."""

import pytest

from foodsafety.codes import profile, profile_ids
from foodsafety.foods import food_kind, food_kinds, plain_id, soil, soils
from foodsafety.quantities import CoreError


@pytest.mark.parametrize(
    ("words", "kind"),
    [
        ("Turkey mince", "turkey_mince"),
        ("ground turkey", "turkey_mince"),
        ("shrimp", "prawns"),
        ("zucchini", "courgette"),
        ("cilantro", "coriander"),
        ("Ground beef", "beef_mince"),
        ("greek yogurt", "yoghurt"),
    ],
)
def test_a_food_is_known_by_its_regional_names(words: str, kind: str) -> None:
    assert food_kind(words).id == kind


def test_an_unknown_food_is_asked_about() -> None:
    with pytest.raises(CoreError, match="soils instead"):
        food_kind("moon rock")


@pytest.mark.parametrize(
    ("name", "soil_id"),
    [
        ("chicken", "raw_poultry"),
        ("beef", "raw_meat"),
        ("egg", "raw_egg"),
        ("flour", "raw_flour"),
        ("mussels", "raw_shellfish"),
    ],
)
def test_raw_food_carries_its_soil(name: str, soil_id: str) -> None:
    assert soil_id in food_kind(name).soils


def test_every_raw_animal_food_has_a_cooking_row_in_every_profile() -> None:
    raw = {"raw_poultry", "raw_meat", "raw_fish", "raw_shellfish", "raw_egg"}
    classes = {kind.cook_class for kind in food_kinds() if kind.soils & raw}

    assert None not in classes
    assert all(classes <= set(profile(code).cook) for code in profile_ids())


def test_heat_ends_every_microbial_soil_and_no_residue() -> None:
    assert {row.id for row in soils().values() if not row.heat_clears} == {"chemical", "toxin", "unknown"}


def test_a_soil_nobody_listed_is_taken_to_survive_heat() -> None:
    assert not soil("sesame").heat_clears


@pytest.mark.parametrize(("text", "plain"), [("Raw poultry", "raw_poultry"), ("  tree-nuts ", "tree_nuts"), ("", "")])
def test_an_id_from_words(text: str, plain: str) -> None:
    assert plain_id(text) == plain

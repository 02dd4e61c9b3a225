"""The food table: each kind is what it claims to be, and nothing unknown passes for harmless."""

import pytest

from foodsafety.foods import food_kind, food_kinds, plain_id, soil, soils
from foodsafety.quantities import CoreError
from foodsafety.rules import profile_ids, rule_profile

PARTS = ("water", "protein", "fat", "carbohydrate", "fibre", "ash")


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
    with pytest.raises(CoreError, match="unknown kind"):
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
    assert all(classes <= set(rule_profile(code).cook) for code in profile_ids())


def test_heat_ends_every_microbial_soil_and_no_residue() -> None:
    assert {row.id for row in soils().values() if not row.heat_clears} == {"chemical", "toxin", "unknown"}


def test_a_soil_nobody_listed_is_taken_to_survive_heat() -> None:
    assert not soil("sesame").heat_clears


@pytest.mark.parametrize(("text", "plain"), [("Raw poultry", "raw_poultry"), ("  tree-nuts ", "tree_nuts"), ("", "")])
def test_an_id_from_words(text: str, plain: str) -> None:
    assert plain_id(text) == plain


def test_there_are_foods_enough_and_each_is_whole() -> None:
    kinds = food_kinds()

    assert len(kinds) >= 350
    assert all(abs(sum(getattr(kind.composition, part) for part in PARTS) - 1) < 1e-9 for kind in kinds)
    assert all(kind.density_g_ml is None or 0.05 <= kind.density_g_ml <= 1.5 for kind in kinds)
    assert all(kind.piece_g is None or 0.1 <= kind.piece_g <= 6000 for kind in kinds)


def test_raw_animal_food_is_never_ready_as_it_is() -> None:
    raw = {"raw_poultry", "raw_meat", "raw_fish", "raw_shellfish", "raw_egg", "raw_flour", "unknown"}

    assert {kind.id for kind in kinds_with(raw) if kind.ready == "as_is"} == set()


def kinds_with(soils_: set[str]) -> list:
    return [kind for kind in food_kinds() if kind.soils & soils_]

"""What the foods of ingredient lists bring, over some eight hundred names: right, or asked about, and never lost."""

import pytest

from foodsafety.foods import food_kind
from foodsafety.recipes.ingredients import read_ingredient, soils_of
from tests.core.wild import DATA

_ROWS = [row for row in (DATA / "foods_in_lists.txt").read_text("utf-8").splitlines() if not row.startswith("#")]
BRINGS = [(*row.partition(":")[0].split("|"), row.partition(":")[2].strip().split("; ")) for row in _ROWS]


@pytest.mark.parametrize(("soil", "allergen", "names"), BRINGS, ids=lambda part: part if isinstance(part, str) else "")
def test_no_food_loses_what_it_brings_in_silence(soil: str, allergen: str, names: list[str]) -> None:
    lost = []
    for name in names:
        item = read_ingredient(name if name[0].isdigit() else f"200 g {name}", "en-GB")
        asked = item.kind is None or "raw-hidden" in item.doubts
        if not asked and not ((not soil or soil in soils_of(item)) and (not allergen or allergen in item.allergens)):
            lost.append(name)
    assert lost == []


def test_most_of_them_are_known() -> None:
    every = [name for *_, names in BRINGS for name in names]
    unknown = [name for name in every if read_ingredient(f"200 g {name}", "en-GB").kind is None]
    assert len(unknown) <= 0.07 * len(every)


@pytest.mark.parametrize(
    ("name", "kind"),
    [
        ("halibut steak", "white fish"),
        ("sashimi-grade tuna", "oily fish"),
        ("live crab", "raw crustacean"),
        ("salmon mince", "oily fish"),
        ("beef olives", "raw meat"),
        ("chicken oysters", "raw poultry"),
    ],
)
def test_a_raw_food_is_not_taken_for_another_that_its_name_ends_in(name: str, kind: str) -> None:
    found = read_ingredient(f"200 g {name}", "en-GB").kind
    assert found is not None
    assert food_kind(found).group == kind

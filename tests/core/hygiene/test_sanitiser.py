"""Sanitiser strength."""

import pytest

from foodsafety.cooling import (
    field_water,
)
from foodsafety.hygiene import basin_queue, sanitiser_dilution
from foodsafety.quantities import CoreError
from foodsafety.recipes import batch_portions, part_can

# --- small sums -------------------------------------------------------------------------------------


@pytest.mark.parametrize(("ppm", "standing"), [(49, "weak"), (50, "good"), (100, "good"), (101, "strong")])
def test_sanitiser_is_good_from_50_to_100_ppm(ppm: float, standing: str) -> None:
    found = sanitiser_dilution(litres=5, ppm=ppm, product_percent=5)

    assert found.standing == standing
    assert found.product_ml == pytest.approx(5 * ppm / 50)


@pytest.mark.parametrize(
    ("call", "field"),
    [
        (lambda: sanitiser_dilution(litres=0, ppm=100, product_percent=5), "litres"),
        (lambda: basin_queue(people=5, basins=0, scrub_s=20), "basins"),
        (lambda: part_can(needed_g=1, can_g=0), "can_g"),
        (lambda: batch_portions(batch_g=100, portion_g=200, people=5), "portion_g"),
        (lambda: field_water(people=0, washes_each=4, produce_kg=0), "people"),
    ],
)
def test_sums_that_cannot_be_name_their_field(call: object, field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        call()  # type: ignore[operator]

    assert wrong.value.field == field

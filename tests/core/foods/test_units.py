"""Units, and what they hold in each place."""

import pytest

from foodsafety.foods import LOCALES, convert_amount, kitchen_units, locale_from, unit_g, unit_ml
from foodsafety.quantities import CoreError

# published figure of one unit, by locale: NIST HB 44 app. C; UK W&M Act 1985; AS 1325
ML = {
    "tsp": (4.929, 5, 5, 5),
    "tbsp": (14.787, 15, 20, 15),
    "cup": (236.588, 250, 250, 250),
    "fl_oz": (29.574, 28.413, 28.413, 28.413),
    "pint": (473.176, 568.261, 568.261, 568.261),
    "quart": (946.353, 1136.523, 1136.523, 1136.523),
    "gallon": (3785.412, 4546.09, 4546.09, 4546.09),
    "dl": (100, 100, 100, 100),
    "l": (1000, 1000, 1000, 1000),
}


G = {"g": 1, "kg": 1000, "oz": 28.3495, "lb": 453.592}


@pytest.mark.parametrize("unit", ML)
def test_a_volume_is_what_the_place_says(unit: str) -> None:
    assert [unit_ml(unit, place) for place in ("en-US", "en-GB", "en-AU", "en-CA")] == pytest.approx(ML[unit], abs=6e-4)


@pytest.mark.parametrize("unit", G)
def test_a_mass_is_the_same_everywhere(unit: str) -> None:
    assert [unit_g(unit, place) for place in LOCALES] == pytest.approx([G[unit]] * len(LOCALES), rel=2e-5)


def test_a_unit_is_of_mass_or_of_volume_and_never_both() -> None:
    for row in kitchen_units().values():
        assert bool(row.g) != bool(row.ml)


def test_a_locale_we_do_not_measure_in_is_named() -> None:
    with pytest.raises(CoreError, match="xx-XX"):
        locale_from("xx-XX")


@pytest.mark.parametrize("unit", ["parsec", "clove", ""])
def test_what_is_no_unit_is_not_converted(unit: str) -> None:
    with pytest.raises(CoreError, match="not a measure"):
        convert_amount(1, unit, "g", "en-GB")

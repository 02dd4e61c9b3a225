"""Scaling: amounts a kitchen can measure, exact underneath, and honest about what does not scale."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.foods import LOCALES, convert_amount, unit_ml
from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    ALLOWED_ERROR,
    Ingredient,
    cook_batches,
    equal_portions,
    factor_for_amount,
    factor_for_servings,
    process_from,
    read_ingredient,
    scale_ingredient,
    spoon_measures,
    time_rule,
    tolerance_of,
    total_weight_g,
    weight_g,
)
from tests.builders import a_process


def item(text: str, locale: str = "en-GB") -> Ingredient:
    return read_ingredient(text, locale)


def taken(text: str, factor: float, locale: str, tolerance: str = "about") -> list[tuple[str, str | None]]:
    scaled = scale_ingredient(item(text, locale), factor, locale, tolerance=tolerance)
    return [(str(measure.amount), measure.unit) for measure in scaled.measures]


@pytest.mark.parametrize(
    ("text", "factor", "locale", "measures"),
    [
        ("1/4 cup milk", 0.5, "en-US", [("2", "tbsp")]),
        ("1 cup flour", 1.5, "en-US", [("3/2", "cup")]),
        ("1 tbsp oil", 12, "en-US", [("3/4", "cup")]),
        ("1 tbsp oil", 1 / 3, "en-US", [("1", "tsp")]),
        ("1 tbsp oil", 0.25, "en-AU", [("1", "tsp")]),
        ("2 tsp cumin", 3, "en-GB", [("2", "tbsp")]),
    ],
)
def test_spoons_and_cups_a_kitchen_has(text: str, factor: float, locale: str, measures: list) -> None:
    assert taken(text, factor, locale) == measures


def test_a_tablespoon_is_20_ml_in_australia() -> None:
    assert {locale: unit_ml("tbsp", locale) for locale in LOCALES} == pytest.approx(
        {"en-US": 14.787, "en-GB": 15, "en-AU": 20, "en-CA": 15}, rel=1e-4
    )


def test_part_of_an_egg_is_by_weight_and_volume() -> None:
    scaled = scale_ingredient(item("2 eggs"), 0.75, "en-GB")

    assert (scaled.whole, scaled.part_g) == (1, pytest.approx(25))
    assert scaled.part_ml == pytest.approx(24.3, abs=0.1)


def test_part_of_a_can_is_by_weight() -> None:
    scaled = scale_ingredient(item("2 x 400 g tins tomatoes"), 0.8, "en-GB")

    assert (scaled.whole, scaled.part_g) == (1, pytest.approx(240))


def test_part_of_a_thing_of_unknown_weight_is_said_not_guessed() -> None:
    assert scale_ingredient(item("1 tin soup"), 0.5, "en-GB").doubts == ("not-measurable",)


@pytest.mark.parametrize(
    ("kind", "preserving", "tolerance"),
    [
        ("baking_powder", False, "exact"),
        ("gelatine", False, "exact"),
        ("curing_salt", False, "exact"),
        ("salt", False, "about"),
        ("salt", True, "exact"),
        ("onion", True, "about"),
        (None, True, "about"),
    ],
)
def test_leavening_gelling_and_curing_are_exact(kind: str | None, preserving: bool, tolerance: str) -> None:
    assert tolerance_of(kind, preserving=preserving) == tolerance


def test_an_exact_amount_no_spoon_has_is_given_by_weight() -> None:
    scaled = scale_ingredient(item("1 tsp baking powder"), 1 / 3, "en-GB", tolerance="exact")

    assert scaled.doubts == ("error-above-tolerance",)
    assert scaled.part_g == pytest.approx(5 / 3 * 0.9)


@given(
    st.floats(0.05, 40),
    st.sampled_from(["g", "kg", "ml", "tsp", "tbsp", "cup"]),
    st.floats(0.1, 12),
    st.sampled_from(LOCALES),
)
def test_scaling_and_scaling_back_is_exact(amount: float, unit: str, factor: float, locale: str) -> None:
    line = Ingredient(text="", low=amount, high=amount, unit=unit, food="flour", kind="flour")

    there = scale_ingredient(line, factor, locale)
    back = scale_ingredient(
        Ingredient(text="", low=there.low, high=there.high, unit=there.unit, food="flour"), 1 / factor, locale
    )

    assert back.low == pytest.approx(amount, rel=1e-12)


@given(st.floats(1.25, 3000), st.sampled_from(LOCALES))
def test_what_is_shown_is_the_volume_within_its_error(ml: float, locale: str) -> None:
    measures, error = spoon_measures(ml, locale, ALLOWED_ERROR["about"])

    shown = sum(float(m.amount) * (unit_ml(m.unit, locale) or 0) for m in measures)
    assert abs(shown - ml) / ml == pytest.approx(error, abs=1e-6)
    assert error <= 1 / 3


@given(
    st.floats(0.01, 5000),
    st.sampled_from([("g", "oz"), ("ml", "cup"), ("l", "pint"), ("kg", "lb"), ("tbsp", "g")]),
    st.sampled_from(LOCALES),
)
def test_converting_and_back_is_exact(amount: float, units: tuple[str, str], locale: str) -> None:
    there = convert_amount(amount, *units, locale, density_g_ml=0.53)

    assert convert_amount(there, units[1], units[0], locale, density_g_ml=0.53) == pytest.approx(amount, rel=1e-12)


@pytest.mark.parametrize(
    ("amount", "unit", "to", "locale", "expected"),
    [
        (1, "cup", "ml", "en-US", 236.588),
        (1, "lb", "g", "en-GB", 453.592),
        (1, "pint", "ml", "en-GB", 568.261),
        (8, "oz", "g", "en-CA", 226.796),
    ],
)
def test_conversions_against_published_figures(amount: float, unit: str, to: str, locale: str, expected: float) -> None:
    assert convert_amount(amount, unit, to, locale) == pytest.approx(expected, abs=5e-4)


def test_volume_and_mass_do_not_meet_without_a_density() -> None:
    with pytest.raises(CoreError, match="density"):
        convert_amount(1, "cup", "g", "en-US")


def test_using_up_what_there_is() -> None:
    assert factor_for_amount(item("500 g turkey mince"), 1.3, "kg", "en-GB") == pytest.approx(2.6)
    assert factor_for_amount(item("2 x 400 g tins tomatoes"), 1.2, "kg", "en-GB") == pytest.approx(1.5)
    assert factor_for_amount(item("4 chicken breasts"), 1.7, "kg", "en-GB") == pytest.approx(2.5)


@pytest.mark.parametrize("wanted", [0, -4, float("nan")])
def test_servings_must_be_above_nothing(wanted: float) -> None:
    with pytest.raises(CoreError, match="wanted"):
        factor_for_servings(4, wanted)


def test_a_recipe_that_does_not_say_for_how_many_is_asked_about() -> None:
    with pytest.raises(CoreError, match="servings unknown"):
        factor_for_servings(None, 8)


@pytest.mark.parametrize(
    ("pieces", "fits", "count", "last"), [(8, 8, 1, 8), (9, 8, 2, 1), (20, 6, 4, 2), (7.5, 8, 1, 8)]
)
def test_pieces_become_batches(pieces: float, fits: int, count: int, last: int) -> None:
    found = cook_batches(pieces, fits)

    assert (found.count, found.last) == (count, last)


@pytest.mark.parametrize(
    ("do", "tool", "rule"),
    [
        ("cut", "board", "by-work"),
        ("heat", "oven", "by-thickness"),
        ("heat", "frying_pan", "by-batches"),
        ("heat", "pot", "by-depth"),
        ("chill", "bowl", "by-depth"),
    ],
)
def test_only_handwork_grows_with_the_amount(do: str, tool: str, rule: str) -> None:
    process = process_from(a_process().step(do, "soup", tools=tool).data)

    assert time_rule(process.steps[0], process) == rule


def test_equal_portions_by_weight_and_scoop() -> None:
    portion = equal_portions(1200, 16, density_g_ml=1.0)

    assert (portion.each_g, portion.scoop_ml) == (75, 75)


def test_a_weight_nobody_knows_is_listed_not_guessed() -> None:
    total, unknown = total_weight_g([item("500 g mince"), item("2 eggs"), item("1 bunch mint")], "en-GB")

    assert (total, unknown) == (600, ("1 bunch mint",))
    assert weight_g(item("1 cup flour", "en-US"), "en-US") == pytest.approx(125.4, abs=0.1)
    assert Fraction(1, 2) == scale_ingredient(item("1 onion"), 0.5, "en-GB").measures[0].amount


@pytest.mark.parametrize(
    ("text", "taken"),
    [
        ("3/8 tsp salt", ["1/4 tsp", "1/8 tsp"]),
        ("6 tbsp salt", ["1/4 cup", "2 tbsp"]),
        ("1 1/2 tsp salt", ["3/2 tsp"]),
        ("5/8 tsp salt", ["1/2 tsp", "1/8 tsp"]),
    ],
)
def test_spoons_are_those_a_kitchen_has(text: str, taken: list[str]) -> None:
    row = scale_ingredient(read_ingredient(text, "en-US"), 1, "en-US")
    assert [f"{measure.amount} {measure.unit}" for measure in row.measures] == taken
    assert row.error < 1e-6


@pytest.mark.parametrize("text", ["0.05 tsp salt", "1/16 tsp salt"])
def test_less_than_the_smallest_spoon_is_never_rounded_up_in_silence(text: str) -> None:
    row = scale_ingredient(read_ingredient(text, "en-US"), 1, "en-US")
    assert row.measures == ()
    assert row.doubts == ("below-smallest-spoon",)
    assert row.part_g is not None
    assert row.part_g < 0.6

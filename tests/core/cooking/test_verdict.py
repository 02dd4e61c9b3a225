"""Cook verdicts at their boundaries."""

import pytest

from foodsafety.cooking import Probing, cook_verdict
from foodsafety.quantities import c_from_f
from foodsafety.rules import House, rule_profile

# --- verdicts ------------------------------------------------------------------------------------


def verdict(code: str, food_class: str, rows: list[tuple[float, str, float]], now_s: float, **more: object) -> str:
    rules = rule_profile(code)
    probings = [Probing(at_s=at_s, piece=piece, core_c=core_c) for at_s, piece, core_c in rows]
    found = cook_verdict(probings, rules.cook[food_class], rules, now_s=now_s, **more)  # type: ignore[arg-type]
    return found.status if found.status not in ("hold", "rest") else f"{found.status} {found.remaining_s:.0f}"


def three(*cores_c: float, from_s: float = 0) -> list[tuple[float, str, float]]:
    return [(from_s + i, str(i + 1), core_c) for i, core_c in enumerate(cores_c)]


F165 = c_from_f(165)


@pytest.mark.parametrize(
    ("rows", "expected"),
    [
        ([], "not_measured"),
        (three(80, 80), "too_few"),
        (three(80, 80, 73.88), "below"),
        (three(80, 80, F165), "reached"),
        (three(60, 60, 60), "below"),
        ([(0, "1", 80), (1, "1", 80), (2, "1", 80)], "too_few"),
        ([*three(80, 80, 70), (9, "3", 75)], "reached"),
        ([*three(80, 80, 75), (9, "1", 70)], "below"),
    ],
    ids=["none", "two pieces", "just below", "exactly 165 F", "all low", "one piece thrice", "cooked on", "fell back"],
)
def test_poultry_at_home_the_lowest_of_three_pieces_counts(rows: list[tuple[float, str, float]], expected: str) -> None:
    assert verdict("us-home", "poultry", rows, now_s=20) == expected


@pytest.mark.parametrize(
    ("rows", "now_s", "expected"),
    [
        (three(75, 75, 70), 2, "hold 120"),
        (three(75, 75, 70), 62, "hold 60"),
        (three(75, 75, 70), 122, "confirm"),
        ([*three(75, 75, 70), (122, "3", 70)], 122, "reached"),
        ([*three(75, 75, 70), (121, "3", 70)], 121, "hold 1"),
        ([*three(75, 75, 70), (122, "1", 80)], 200, "confirm"),
        ([*three(75, 75, 70), (60, "3", 69.9), (90, "3", 71)], 125, "hold 85"),
    ],
    ids=[
        "begins",
        "half way",
        "over but not shown",
        "shown",
        "a second early",
        "another piece proves nothing",
        "interrupted",
    ],
)
def test_uk_two_minutes_begin_when_the_lowest_is_there_and_end_with_a_reading(
    rows: list[tuple[float, str, float]], now_s: float, expected: str
) -> None:
    assert verdict("uk", "poultry", rows, now_s=now_s) == expected


def test_uk_equivalents_count_only_where_the_kitchen_chose_them() -> None:
    rows = [*three(82, 83, 84), (8, "1", 82)]

    assert verdict("uk", "poultry", rows, now_s=8) == "hold 114"
    assert verdict("uk", "poultry", rows, now_s=8, house=House(cook_equivalents=True)) == "reached"


@pytest.mark.parametrize(
    ("rows", "off_s", "now_s", "expected"),
    [
        (three(63, 64, 65), None, 10, "rest 172"),
        (three(63, 64, 65), 10, 100, "rest 90"),
        (three(63, 64, 65), 10, 190, "reached"),
        ([*three(63, 64, 65), (190, "1", 63)], 10, 190, "reached"),
        ([*three(63, 64, 65), (190, "1", 62.7)], 10, 190, "below"),
    ],
    ids=["on the heat", "resting", "over by the clock", "stayed", "fell"],
)
def test_a_steak_rests_off_the_heat_at_its_limit(
    rows: list[tuple[float, str, float]], off_s: float | None, now_s: float, expected: str
) -> None:
    assert verdict("us-home", "whole_muscle", rows, now_s=now_s, off_heat_s=off_s) == expected


def test_a_row_without_a_temperature_cannot_be_judged() -> None:
    assert verdict("us-home", "shellfish", three(90, 90, 90), now_s=9) == "cannot_judge"

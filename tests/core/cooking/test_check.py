"""A cook check of typed readings: what is trusted, what is doubted, and what hangs on the doubt."""

import pytest

from foodsafety.cooking import check_cook, limit_for, organism_kills
from foodsafety.cooking.check import CookCheck
from foodsafety.foods import food_kind
from foodsafety.measuring import PieceReading
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile

HOME = rule_profile("us-home")
POULTRY = HOME.cook["poultry"]  # 165 °F, in three pieces


def check(*rows: tuple[str, float, float], needed: int = 3, **more: float) -> CookCheck:
    readings = [PieceReading(piece, 60.0 * minute, value) for piece, minute, value in rows]
    return check_cook(readings, POULTRY, HOME, pieces_needed=needed, **more)


def test_three_pieces_at_the_limit_are_cooked_and_the_lowest_is_named() -> None:
    found = check(("1", 10, 76), ("2", 10.2, 74.5), ("3", 10.4, 80))
    assert found.verdict.status == "reached"
    assert found.verdict.lowest_piece == "2"
    assert not found.hangs_on_doubt


@pytest.mark.parametrize(("lowest_c", "status"), [(73.8, "below"), (73.89, "reached"), (74, "reached")])
def test_exactly_at_the_limit_is_met_and_a_tenth_below_is_not(lowest_c: float, status: str) -> None:
    """165 °F is 73.888… °C: compared in °F, as the source says it."""
    assert check(("1", 10, 80), ("2", 10.2, lowest_c), ("3", 10.4, 80)).verdict.status == status


def test_too_few_pieces_is_never_a_pass() -> None:
    found = check(("1", 10, 90), ("2", 10.2, 90))
    assert found.verdict.status == "too_few"
    assert (found.verdict.pieces, found.verdict.pieces_needed) == (2, 3)


@pytest.mark.parametrize("value", [-80.0, 400.0])
def test_what_no_food_can_have_is_kept_as_doubted_with_its_line(value: float) -> None:
    found = check(("1", 10, 76), ("2", 10.2, value), ("2", 10.3, 75), ("3", 10.4, 80))
    [doubted] = found.doubted
    assert (doubted.why, doubted.line, doubted.value) == ("impossible", 2, value)
    assert found.verdict.pieces == 3


def test_nothing_believable_at_all_is_an_error_and_no_verdict() -> None:
    with pytest.raises(CoreError) as wrong:
        check(("1", 10, 400))
    assert wrong.value.field == "readings"


def test_a_jump_no_piece_can_make_is_doubted_and_never_makes_a_pass() -> None:
    """20 °C, then 90 °C a second later, then 21 °C: the middle one is the probe, not the food."""
    rows = [("1", 10.0, 20.0), ("1", 10.02, 90.0), ("1", 10.04, 21.0)]
    found = check(*rows, needed=1)
    assert [row.why for row in found.doubted] == ["jump"]
    assert found.verdict.status == "below"


def test_a_reading_in_fahrenheit_is_compared_as_it_was_read() -> None:
    readings = [PieceReading(str(i), 600.0 + i, value) for i, value in enumerate((165.0, 170.0, 166.0))]
    assert check_cook(readings, POULTRY, HOME, pieces_needed=3, unit="F").verdict.status == "reached"
    readings[0] = PieceReading("0", 600.0, 164.9)
    assert check_cook(readings, POULTRY, HOME, pieces_needed=3, unit="F").verdict.status == "below"


def test_the_method_decides_the_limit() -> None:
    chicken, sugar = [food_kind("chicken")], [food_kind("sugar")]
    assert limit_for(chicken, HOME) == POULTRY
    found = limit_for(chicken, HOME, microwave=True)
    assert found is not None
    assert (found.main, found.stand_s) == (HOME.cook["microwave"].main, 120)
    assert limit_for(chicken, HOME, reheat=True) == HOME.cook["reheat"]
    assert limit_for(sugar, HOME) is None


def test_the_kill_is_that_of_the_piece_that_shows_the_least() -> None:
    hot = [PieceReading("1", t, 75.0) for t in (0.0, 60.0)]
    cool = [PieceReading("2", t, 60.0) for t in (0.0, 60.0)]
    both = check_cook([*hot, *cool], POULTRY, HOME, pieces_needed=2).trusted
    alone = check_cook(cool, POULTRY, HOME, pieces_needed=1).trusted
    worst = [row.log_reduction for row in organism_kills(alone, HOME)]
    assert worst
    assert [row.log_reduction for row in organism_kills(both, HOME)] == worst

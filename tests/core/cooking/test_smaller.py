"""How much sooner smaller pieces are done: never sooner than the ball it is reckoned for."""

import pytest

from foodsafety.cooking import time_of_smaller, time_of_thinner
from foodsafety.foods import food_kind
from foodsafety.quantities import CoreError

MINCE = food_kind("turkey_mince").composition


@pytest.mark.parametrize("grams", [20.0, 60.0, 150.0, 800.0])
@pytest.mark.parametrize("oven_c", [160.0, 200.0, 230.0])
def test_half_the_weight_takes_between_the_share_of_its_surface_and_of_its_width(grams: float, oven_c: float) -> None:
    share = time_of_smaller(grams, MINCE, oven_c=oven_c, target_c=74.0, part=0.5, start_c=5.0)

    # All resistance inside: the square of the radius; all outside: the radius itself.
    assert 0.5 ** (2 / 3) < share < 0.5 ** (1 / 3)


def test_the_smaller_the_sooner_and_all_of_it_takes_all_of_the_time() -> None:
    shares = [
        time_of_smaller(80.0, MINCE, oven_c=200.0, target_c=74.0, part=part, start_c=5.0)
        for part in (0.25, 0.5, 0.75, 1.0)
    ]

    assert shares == sorted(shares)
    assert shares[-1] == 1.0


@pytest.mark.parametrize(("grams", "oven_c"), [(0.0, 200.0), (60.0, 70.0)])
def test_what_never_gets_there_is_refused(grams: float, oven_c: float) -> None:
    with pytest.raises(CoreError):
        time_of_smaller(grams, MINCE, oven_c=oven_c, target_c=74.0, part=0.5, start_c=5.0)


@pytest.mark.parametrize("kind", ["turkey_mince", "salmon"])
@pytest.mark.parametrize("cook_min", [3, 9, 20])
def test_half_the_height_in_a_pan_takes_between_a_quarter_and_half_of_the_time(kind: str, cook_min: int) -> None:
    share = time_of_thinner(60.0 * cook_min, food_kind(kind).composition, target_c=74.0, part=0.5, start_c=5.0)

    # All resistance inside: the square of the height; all outside: the height itself.
    assert 0.25 < share < 0.5


def test_what_cooks_long_is_thick_and_wins_more_by_being_pressed_flat() -> None:
    shares = [
        time_of_thinner(60.0 * cook_min, MINCE, target_c=74.0, part=0.5, start_c=5.0) for cook_min in (3, 6, 12, 24)
    ]

    assert shares == sorted(shares, reverse=True)


@pytest.mark.parametrize("cook_s", [0.0, 0.1, 1e6])
def test_a_time_in_which_no_piece_is_done_is_refused(cook_s: float) -> None:
    with pytest.raises(CoreError):
        time_of_thinner(cook_s, MINCE, target_c=74.0, part=0.5, start_c=5.0)

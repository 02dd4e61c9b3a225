"""When a rule is asked again, and what may be said of a gain."""

import pytest

from foodsafety.lesson import WATCHED
from foodsafety.practice import Asked, boxed, due_rules, gain_of_groups, gain_of_pairs, practised_by
from foodsafety.practice.gain import wilson


def asked(lesson: int, rule: str, right: int, answers: int = 10) -> Asked:
    return Asked(lesson=lesson, rule=rule, right=right, answers=answers)


def test_what_is_known_comes_back_after_one_two_four_and_eight_lessons() -> None:
    rows = [asked(1, "time-out", 9), asked(2, "time-out", 8), asked(4, "time-out", 10)]
    assert [boxed(rows[:n])["time-out"].due for n in (1, 2, 3)] == [2, 4, 8]


def test_what_is_missed_or_asked_of_nobody_goes_back_to_the_first_box() -> None:
    rows = [asked(1, "time-out", 10), asked(2, "time-out", 7)]
    assert boxed(rows)["time-out"].box == 1
    assert boxed([asked(1, "time-out", 0, 0)])["time-out"].due == 2


def test_what_went_wrong_last_time_is_asked_first() -> None:
    rows = [asked(1, "time-out", 10), asked(1, "fridge-cold", 10), asked(3, "fridge-cold", 10)]
    assert due_rules(rows, lesson=4, missed=["unwashed-hands"]) == ["unwashed-hands", "time-out"]


def test_wilson_is_the_published_interval() -> None:
    # Newcombe 1998, table I: 81 of 263 and 0 of 20.
    assert wilson(81, 263) == pytest.approx((0.2553, 0.3662), abs=5e-5)
    assert wilson(0, 20) == pytest.approx((0.0, 0.1611), abs=5e-5)


def test_the_difference_of_two_groups_is_the_published_one() -> None:
    # Newcombe 1998 (873-890), table II, method 10: 56/70 against 48/80.
    found = gain_of_groups(48, 80, 56, 70)
    assert found is not None
    assert (found.difference, found.low, found.high) == pytest.approx((0.2, 0.0524, 0.3339), abs=5e-5)


def test_pairs_are_told_with_less_doubt_than_two_groups() -> None:
    pairs = [(True, True)] * 12 + [(False, True)] * 9 + [(True, False)] * 2 + [(False, False)] * 7
    found, loose = gain_of_pairs(pairs), gain_of_groups(14, 30, 21, 30)
    assert found is not None
    assert loose is not None
    assert found.difference == pytest.approx(loose.difference)
    assert found.high - found.low < loose.high - loose.low
    assert found.pairs == 30


def test_a_few_learners_show_nothing_and_nobody_shows_less() -> None:
    found = gain_of_pairs([(False, True), (False, True)])
    assert found is not None
    assert not found.shown or found.low < 0.2
    assert gain_of_pairs([]) is None
    assert gain_of_groups(0, 0, 3, 4) is None


def test_all_that_is_watched_is_practised() -> None:
    assert all(practised_by(name) for name in WATCHED)

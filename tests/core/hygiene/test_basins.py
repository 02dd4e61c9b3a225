"""Hands washed at the basins there are."""

from foodsafety.hygiene import basin_queue


def test_hands_are_washed_in_waves() -> None:
    found = basin_queue(people=16, basins=3, scrub_s=20, around_s=25)

    assert (found.waves, found.total_s, found.last_waits_s) == (6, 270, 225)

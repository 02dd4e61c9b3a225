"""Each kind of work said in many ways, and sentences that sound like work and are none of it."""

from __future__ import annotations

from collections import Counter

from tests.core.ways import read, ways

# What was reached when they were last learnt from. They are no measure of ways that nobody has written down yet.
READ_FLOOR, SILENT_CEILING = 0.92, 0.04
NEVER_FLOOR, NEVER_SILENT_CEILING = 0.85, 0.06
EVERY = 5


def test_each_kind_of_work_is_read_however_it_is_said() -> None:
    said = [way for way in ways() if not way.never][::EVERY]
    counted = Counter(read(way) for way in said)

    assert counted["read"] >= READ_FLOOR * len(said), counted
    assert counted["silent"] <= SILENT_CEILING * len(said), counted


def test_what_only_sounds_like_work_is_none() -> None:
    said = [way for way in ways() if way.never][::2]
    counted = Counter(read(way) for way in said)

    assert counted["read"] >= NEVER_FLOOR * len(said), counted
    assert counted["silent"] <= NEVER_SILENT_CEILING * len(said), counted

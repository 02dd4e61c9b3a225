"""Roles that go round."""

from __future__ import annotations

from collections import Counter

from hypothesis import given
from hypothesis import strategies as st

from foodsafety.planning import rotated


@given(st.integers(1, 5), st.integers(1, 5), st.integers(1, 12))
def test_at_a_bench_that_stays_nobody_has_a_role_twice_before_everybody_has_had_it(
    people: int, roles: int, lessons: int
) -> None:
    bench, names = [f"L{n}" for n in range(people)], [f"role {n}" for n in range(roles)]
    had: list[dict[str, str]] = []
    for _ in range(lessons):
        had.append(rotated([bench], names, had))
        assert len(set(had[-1].values())) == len(had[-1]) == min(people, roles)
    times = Counter((who, role) for row in had for who, role in row.items())
    if people >= roles:
        for role in names:
            counts = [times[who, role] for who in bench]
            assert max(counts) - min(counts) <= 1, (role, counts)


def test_each_bench_has_each_role_once_and_who_had_it_elsewhere_has_had_it() -> None:
    had = [{"AK": "chef", "JT": "steward"}]
    found = rotated([["AK", "SD"], ["JT", "RO"]], ["chef", "steward"], had)

    assert found == {"AK": "steward", "SD": "chef", "JT": "chef", "RO": "steward"}


def test_without_roles_or_learners_there_is_nothing_to_do() -> None:
    assert rotated([["AK"]], [], []) == {}
    assert rotated([[]], ["chef"], []) == {}

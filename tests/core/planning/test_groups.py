"""A group split fairly: what a split keeps, that none is fairer, and why there is none."""

from __future__ import annotations

import itertools
import random
from collections import Counter
from unittest.mock import patch

import pytest

from foodsafety.planning import ALLERGIES, Learner, Split, rules_broken, split
from foodsafety.quantities import CoreError


def somebody(name: str, age: str = "", allergies: str = "", shown: str = "") -> Learner:
    return Learner(name=name, age=age, allergies=frozenset(allergies.split()), shown=frozenset(shown.split()))


def crowd(seed: int, count: int = 32) -> list[Learner]:
    draw = random.Random(seed)
    return [
        somebody(
            f"L{n}",
            draw.choice(["8-9", "10-11", "12-13"]),
            " ".join(draw.sample(["nuts", "milk", "egg"], draw.choice([0, 0, 0, 1, 2]))),
            " ".join(draw.sample(["knife", "hob", "oven", "blade"], draw.randrange(4))),
        )
        for n in range(count)
    ]


def bench_of(found: Split, name: str) -> int:
    [bench] = [n for n, names in enumerate(found.benches) if name in names]
    return bench


@pytest.mark.parametrize("how", ALLERGIES)
@pytest.mark.parametrize("seed", range(3))
def test_thirty_two_at_eight_benches_under_six_rules(seed: int, how: str) -> None:
    group = crowd(seed)
    together = [("L0", "L1"), ("L2", "L3"), ("L8", "L9")]
    apart = [("L4", "L5"), ("L6", "L7"), ("L0", "L4")]

    found = split(group, 8, together=together, apart=apart, allergies=how)  # type: ignore[arg-type]

    assert sorted(name for bench in found.benches for name in bench) == sorted(row.name for row in group)
    assert {len(bench) for bench in found.benches} == {4}
    assert all(bench_of(found, one) == bench_of(found, other) for one, other in together)
    assert all(bench_of(found, one) != bench_of(found, other) for one, other in apart)
    assert found.uneven is not None


def test_sizes_differ_by_one_at_most() -> None:
    found = split(crowd(1, 14), 4)

    assert Counter(map(len, found.benches)) == {4: 2, 3: 2}


def test_ages_and_what_was_shown_are_spread() -> None:
    group = [somebody(f"Y{n}", "8-9", shown="knife") for n in range(4)] + [somebody(f"O{n}", "12-13") for n in range(4)]

    found = split(group, 4)

    assert (found.proven, found.uneven) == (True, {})
    assert all(sorted(name[0] for name in bench) == ["O", "Y"] for bench in found.benches)


def test_allergies_go_together_or_apart_as_asked() -> None:
    group = [somebody(f"N{n}", allergies="nuts") for n in range(3)] + [somebody(f"P{n}") for n in range(9)]

    near = split(group, 3, allergies="together")
    far = split(group, 3, allergies="apart")

    assert len({bench_of(near, f"N{n}") for n in range(3)}) == 1
    assert len({bench_of(far, f"N{n}") for n in range(3)}) == 3
    assert near.proven
    assert far.proven


@pytest.mark.parametrize("seed", range(4))
def test_none_is_fairer_than_what_trying_all_finds(seed: int) -> None:
    draw = random.Random(seed)
    group = [somebody(f"L{n}", draw.choice("abc"), shown=draw.choice(["", "knife", "hob"])) for n in range(7)]

    found = split(group, 2)

    assert found.proven
    names = [row.name for row in group]
    least = min(unfair(group, set(first)) for first in itertools.combinations(names, 4))
    assert unfair(group, set(found.benches[0])) == least == sum((found.uneven or {}).values())


def unfair(group: list[Learner], first: set[str]) -> int:
    """By how many learners two benches are less even than numbers allow, counted by hand."""
    total = 0
    traits = [("age", row.age) for row in group] + [("shown", skill) for row in group for skill in row.shown]
    for kind, value in set(traits):
        members = [row.name for row in group if (row.age == value if kind == "age" else value in row.shown)]
        low, high = len(members) // 2, -(-len(members) // 2)
        for count in (sum(name in first for name in members), sum(name not in first for name in members)):
            total += max(0, low - count, count - high)
    return total


def test_rules_that_cannot_all_be_kept_give_no_split() -> None:
    group = [somebody(name) for name in "ABCD"]
    found = split(group, 2, together=[("A", "B"), ("B", "C")])

    assert found.benches == ()
    assert set(found.conflict) == set("ABCD")


@pytest.mark.parametrize(
    ("names", "benches", "rules", "field"),
    [("AB", 3, [], "benches"), ("AB", 0, [], "benches"), ("AA", 1, [], "learners"), ("AB", 1, [("A", "Z")], "rules")],
)
def test_what_cannot_be_split_is_named(names: str, benches: int, rules: list[tuple[str, str]], field: str) -> None:
    with pytest.raises(CoreError) as error:
        split([somebody(name) for name in names], benches, apart=rules)

    assert error.value.field == field


def test_what_is_changed_by_hand_is_held_against_the_rules() -> None:
    benches = {"Gannet": ["A", "B"], "Puffin": ["C"]}
    together, apart = [("A", "B"), ("A", "C")], [("A", "B"), ("B", "C"), ("A", "nobody")]

    assert rules_broken(benches, together=together, apart=apart) == ((("A", "C"),), (("A", "B"),))
    assert rules_broken(benches) == ((), ())


def test_what_is_not_found_in_time_is_never_called_impossible() -> None:
    group = crowd(0)
    with patch("foodsafety.planning.groups.LONGER", 1e10):
        found = split(group, 8, together=[("L0", "L1")], seconds=1e-9)
    assert sorted(name for bench in found.benches for name in bench) == sorted(row.name for row in group)
    assert not found.proven, "any split, however fair"

    with pytest.raises(CoreError, match="no split in time"):
        split(group, 8, seconds=1e-9)

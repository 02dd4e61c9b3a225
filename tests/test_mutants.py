"""The planted faults of ``bin/mutants``: every one still finds its place, and a few are noticed here."""

import pytest

from tests.mutants import MUTANTS, ROOT, SOUND, Mutant, noticed


def test_there_are_at_least_eighty_each_with_a_rule_of_its_own() -> None:
    assert len(MUTANTS) >= 80
    assert len({mutant.rule for mutant in MUTANTS}) == len(MUTANTS)


@pytest.mark.parametrize("mutant", MUTANTS, ids=lambda mutant: mutant.rule)
def test_each_finds_its_place_once_and_changes_it(mutant: Mutant) -> None:
    text = (ROOT / mutant.path).read_text(encoding="utf-8")
    assert text.count(mutant.old) == 1
    assert mutant.old != mutant.new


def test_without_a_fault_nothing_is_noticed() -> None:
    assert not noticed(SOUND, 0)


@pytest.mark.parametrize("rule", ["a lower reading takes the proof back", "storing twice changes nothing"])
def test_a_planted_fault_is_noticed(rule: str) -> None:
    assert noticed(next(mutant for mutant in MUTANTS if mutant.rule == rule), 0)

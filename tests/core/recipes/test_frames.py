"""Everyday dishes, each sentence said in any of several ways: what must come of them, of a few fillings of each."""

from tests.core.frames import fillings, holds
from tests.core.recipes.test_rows_without_stops import reading


def test_any_way_of_saying_a_sentence_stands_beside_any_other(score) -> None:
    every = list(fillings(3, seed=11))
    wrong = [one for one in every if one.wrong]
    misses = [f"{one.dish}: {'; '.join(one.wrong)}: {' '.join(one.said)}" for one in wrong]
    score("fillings of everyday dishes", len(every) - len(wrong), len(every), misses)
    assert len(wrong) <= 0.08 * len(every)
    assert not [one for one in wrong if not one.questions]  # what goes wrong is asked about


def test_what_must_come_of_a_filling_can_fail() -> None:
    found = reading("Chop the chicken.\nFry the chicken for 10 minutes.\nServe with the lettuce.")
    for must in (
        "heat: chicken breast",
        "raw: lettuce",
        "minutes: chicken breast, 10",
        "served: chicken breast, lettuce",
    ):
        assert holds(found, must)
    for must in ("heat: lettuce", "raw: chicken breast", "minutes: chicken breast, 11", "probe: chicken breast"):
        assert not holds(found, must)

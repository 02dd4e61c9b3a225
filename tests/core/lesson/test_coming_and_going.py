"""Late joiners, leavers, and hands that come from another bench."""

import pytest

from foodsafety.lesson import fold
from tests.builders import LEARNERS, a_bench
from tests.core.lesson.test_evidence import status


def test_who_comes_late_has_unwashed_hands_and_opens_the_brick_of_hands_again() -> None:
    bench = a_bench().arrives()
    assert status(bench, "hands-arrive") == "laid"

    bench.says("came", learner="ZZ")
    assert bench.state.present == (*LEARNERS, "ZZ")
    assert status(bench, "hands-arrive") != "laid"
    touched = bench.does("grate", by="ZZ").state.open_incidents
    assert [row.finding.rule for row in touched] == ["unwashed-hands"]


def test_once_washed_they_count_like_anybody() -> None:
    bench = a_bench().arrives().says("came", learner="ZZ").washes("ZZ").does("grate", by="ZZ")

    assert bench.state.open_incidents == ()
    assert status(bench, "hands-arrive") in ("laid", "mended")


def test_hands_that_were_raw_at_another_bench_bring_it_along() -> None:
    bench = a_bench().arrives().says("came", learner="ZZ", soils=["raw_poultry"])
    found = bench.does("grate", by="ZZ").state.open_incidents

    assert "raw_poultry" in {row.finding.soil for row in found}


def test_who_went_is_asked_for_nothing_and_what_they_did_stays() -> None:
    bench = a_bench().arrives().does("grate", by="NB").says("went", learner="NB", why="left")

    assert "NB" not in bench.state.present
    assert bench.state.done_by["grate"] == ("NB",)
    assert fold(bench.plan, LEARNERS, bench.events) == bench.state


def test_a_bench_whose_unwashed_learner_went_has_its_brick_of_hands() -> None:
    bench = a_bench().washes("AK", "JT")
    assert status(bench, "hands-arrive") != "laid"

    assert status(bench.says("went", learner="NB", why="left"), "hands-arrive") == "laid"


def test_who_comes_back_washes_again() -> None:
    bench = a_bench().arrives().says("went", learner="NB", why="moved").says("came", learner="NB")

    assert bench.state.present == LEARNERS
    assert bench.state.person("NB").washed is None
    assert bench.state.surfaces["NB"]


@pytest.mark.parametrize("data", [{"learner": "board"}, {"learner": ""}, {"learner": "ZZ", "soils": ["no such soil"]}])
def test_a_name_of_kit_and_an_unknown_soil_are_no_newcomer(data: dict) -> None:
    bench = a_bench().says("came", **data)

    assert bench.state.learners == LEARNERS
    assert bench.state.noted[-1].finding.rule == "entry-not-understood"


def test_an_allergen_on_the_hands_comes_along_and_says_from_which_food() -> None:
    bench = a_bench().says("came", learner="ZZ", soils=["peanut", "raw_poultry"], sources=["satay", ""])
    held = bench.state.surfaces["ZZ"]
    assert held["peanut"].path == ("satay", "ZZ")
    assert held["raw_poultry"].path == ("ZZ",)
    assert held.keys() >= {"peanut", "raw_poultry", "person"}

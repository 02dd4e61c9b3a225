"""Two dishes cooked side by side: what they share carries, what they do not share does not."""

import pytest

from foodsafety.contamination import combined_process, find_contamination
from foodsafety.recipes import Process
from tests.builders import a_process


def lamb(tool: str) -> Process:
    process = a_process().food("lamb", "raw_meat").step("cut", "lamb", tools=tool, hands="cook", minutes=5)
    return process.step("heat", "lamb", tools="pot", minutes=60, waiting_min=60).serve("lamb").build()


def dip(tool: str) -> Process:
    process = a_process().step("chill", "yoghurt", tools="bowl", minutes=10)
    return process.step("cut", "carrots", tools=tool, hands="cook", minutes=5).serve("carrots", "yoghurt").build()


@pytest.mark.parametrize("tool", ["board", "sink", "counter", "dish_cloth"])
def test_what_two_benches_share_carries_raw_meat(tool: str) -> None:
    found = find_contamination(combined_process(lamb(tool), dip(tool), label="dip"))

    assert [finding.path for finding in found] == [("lamb", tool, "carrots")]


def test_knives_and_hands_belong_to_their_bench() -> None:
    both = combined_process(lamb("knife"), dip("knife"), label="dip")

    assert find_contamination(both) == ()
    assert {"cook", "cook (dip)"} == set(both.people)


def test_boards_of_other_names_are_other_boards() -> None:
    assert find_contamination(combined_process(lamb("board"), dip("board2"), label="dip")) == ()


def test_each_dish_keeps_its_own_order() -> None:
    both = combined_process(lamb("board"), dip("board"), label="dip")

    assert [step.id for step in both.steps] == ["a-1", "b-1", "a-2", "b-2"]


def test_a_dish_beside_itself_is_two_dishes() -> None:
    both = combined_process(lamb("knife"), lamb("knife"), label="other")

    assert set(both.serve) == {"lamb", "lamb (other)"}
    assert find_contamination(both) == ()

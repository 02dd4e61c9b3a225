"""A kitchen's own school at the bench: boards kept apart, gloves on ready-to-eat food."""

from typing import Any

from foodsafety.lesson import Event, State, advance, opening_state, safety_plan
from foodsafety.recipes import process_from
from foodsafety.rules import House, rule_profile
from tests.builders import AProcess, a_process


def bread_after_bird() -> AProcess:
    return (
        a_process()
        .food("bird", kind="chicken")
        .food("bread", kind="bread")
        .step("cut", "bird", tools="board", hands="A", id="cut")
        .step("clean", tools="board", id="wash-up")
        .step("cut", "bread", tools="board", hands="A", id="slice")
        .step("heat", "bird", tools="pan", id="fry")
        .step("serve", "bird bread", tools="plate", id="serve")
        .serve("bird", "bread")
    )


def in_a_kitchen(process: AProcess, **house: Any) -> State:
    return opening_state(safety_plan(process_from(process.data), rule_profile("us-home"), House(**house)), ["A", "B"])


def after(state: State, *entries: tuple[str, dict[str, Any]]) -> State:
    for kind, data in entries:
        at_s = 100.0 + len(state.seen)
        state, _ = advance(state, Event(id=str(len(state.seen)), kind=kind, at_s=at_s, data=data))
    return state


WASHED = ("hands_washed", {"learner": "A", "scrub_s": 25.0})
CUT = ("step_done", {"step": "cut", "by": ["A"]})
WASH_UP = ("step_done", {"step": "wash-up", "by": ["A"]})
SLICE = ("step_done", {"step": "slice", "by": ["A"]})


def seen(state: State) -> list[str]:
    return [row.finding.rule for row in state.noted]


def test_a_kitchen_that_keeps_boards_apart_sees_one_used_for_both_though_it_was_washed() -> None:
    apart = after(in_a_kitchen(bread_after_bird(), boards="separate"), WASHED, CUT, WASH_UP, WASHED, SLICE)
    in_order = after(in_a_kitchen(bread_after_bird()), WASHED, CUT, WASH_UP, WASHED, SLICE)

    assert (seen(apart), apart.incidents) == (["board-not-separate"], ())
    assert seen(in_order) == []


def test_another_board_taken_is_a_board_of_its_own() -> None:
    swapped = ("swapped", {"tools": ["board"]})
    assert seen(after(in_a_kitchen(bread_after_bird(), boards="separate"), WASHED, CUT, swapped, WASHED, SLICE)) == []


def test_a_kitchen_that_wears_gloves_sees_bare_hands_on_ready_to_eat_food() -> None:
    bare = after(in_a_kitchen(bread_after_bird(), gloves="gloves"), WASHED, SLICE)
    assert (seen(bare), bare.incidents) == (["bare-hands-on-ready-to-eat"], ())


def test_gloves_that_met_raw_carry_it_until_hands_are_washed_without_them() -> None:
    process = bread_after_bird().step("gloves_on", hands="A", id="gloves")
    gloved = after(in_a_kitchen(process), WASHED, ("step_done", {"step": "gloves", "by": ["A"]}), CUT, WASH_UP)

    assert [i.finding.rule for i in after(gloved, SLICE).incidents] == ["gloves-not-changed"]
    assert after(gloved, ("hands_washed", {"learner": "A", "scrub_s": 25.0}), SLICE).incidents == ()

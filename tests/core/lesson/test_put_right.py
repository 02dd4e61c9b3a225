"""What puts a breach right, and what does not: rinsing in time, making again, the educator's word."""

from typing import Any

from foodsafety.lesson import (
    Event,
    State,
    advance,
    bricks,
    kept_food,
    opening_state,
    remade_helps,
    safety_plan,
    unrinsed,
    would_breach,
    would_keep,
)
from foodsafety.recipes import process_from
from foodsafety.rules import rule_profile
from tests.builders import AProcess, a_process

WASHED = ("hands_washed", {"learner": "A", "scrub_s": 25.0})


def opened(process: AProcess) -> State:
    return opening_state(safety_plan(process_from(process.data), rule_profile("us-home")), ["A", "B"])


def after(state: State, *entries: tuple[str, dict[str, Any]]) -> State:
    for kind, data in entries:
        at_s = 100.0 + len(state.seen)
        state, _ = advance(state, Event(id=str(len(state.seen)), kind=kind, at_s=at_s, data=data))
    return state


def does(*steps: str) -> list[tuple[str, dict[str, Any]]]:
    return [("step_done", {"step": step, "by": ["A"]}) for step in steps]


def salad() -> AProcess:
    return (
        a_process()
        .food("leaves", kind="lettuce")
        .food("oil", kind="oil")
        .step("cut", "leaves", tools="knife", hands="A", id="cut")
        .step("mix", "leaves oil", tools="bowl", hands="A", makes="salad", id="mix")
        .step("serve", "salad", id="serve")
        .serve("salad")
    )


def dressing() -> AProcess:
    """A raw yolk that no heat ends."""
    return (
        a_process()
        .food("yolk", kind="egg")
        .food("oil", kind="oil")
        .step("mix", "yolk oil", tools="bowl", hands="A", makes="dressing", id="mix")
        .step("serve", "dressing", id="serve")
        .serve("dressing")
    )


def board() -> AProcess:
    return (
        a_process()
        .food("bird", kind="chicken")
        .food("bread", kind="bread")
        .step("cut", "bird", tools="board", hands="A", id="cut")
        .step("cut", "bread", tools="board", hands="A", id="slice")
        .step("heat", "bird", tools="pan", id="fry")
        .step("serve", "bird bread", id="serve")
        .serve("bird", "bread")
    )


def rules(state: State) -> list[str]:
    return [incident.finding.rule for incident in state.alarms]


def test_produce_that_no_step_rinses_is_asked_for_at_its_first_step_and_not_once_it_is_rinsed() -> None:
    state = opened(salad())
    cut = state.plan.step("cut")

    assert unrinsed(state, cut) == ("leaves",)
    rinsed = after(state, WASHED, ("rinsed", {"foods": ["leaves"]}))
    assert unrinsed(rinsed, cut) == ()
    assert rules(after(rinsed, *does("cut", "mix", "serve"))) == []


def test_unrinsed_it_is_a_breach_on_the_plate() -> None:
    assert rules(after(opened(salad()), WASHED, *does("cut", "mix", "serve"))) == ["produce-not-rinsed"]


def test_oil_is_not_asked_to_be_rinsed() -> None:
    state = after(opened(salad()), WASHED, *does("cut"))
    assert unrinsed(state, state.plan.step("mix")) == ("leaves",)


def test_raw_meat_under_the_tap_splashes_whoever_says_it_was_rinsed() -> None:
    assert rules(after(opened(board()), ("rinsed", {"foods": ["bird"]}))) == ["raw-meat-rinsed"]


def test_a_rinse_of_raw_meat_can_be_left_out_and_nothing_else_can() -> None:
    process = board().step("rinse", "bird", tools="sink", hands="A", id="rinse")
    state = after(opened(process), ("left_out", {"step": "rinse"}))
    assert ("rinse" in state.done, rules(state)) == (True, [])

    state = after(state, ("left_out", {"step": "fry"}))
    assert "fry" not in state.done
    assert [row.finding.rule for row in state.noted] == ["entry-not-understood"]


def test_what_the_recipe_itself_does_is_not_put_right_by_making_it_again() -> None:
    [incident] = after(opened(dressing()), WASHED, *does("mix", "serve")).alarms
    assert (incident.finding.rule, remade_helps(opened(dressing()), incident.finding)) == ("no-kill-step", False)


def test_a_breach_that_comes_back_after_making_it_again_is_not_made_a_third_time() -> None:
    once = after(opened(board()), WASHED, *does("cut", "slice"))
    [first] = once.alarms
    again = after(once, ("remade", {"food": "bread"}), *does("slice"))

    assert remade_helps(once, first.finding)
    assert not remade_helps(again, again.alarms[0].finding)


def test_food_that_is_thrown_away_is_judged_no_more() -> None:
    state = after(opened(board()), WASHED, *does("cut"), ("gone", {"food": "bread", "how": "discarded"}))

    assert would_breach(state, "slice", ["A"]) == ()
    assert rules(after(state, *does("slice"))) == []


def test_the_educators_word_lets_the_bench_go_on_and_mends_nothing() -> None:
    breached = after(opened(dressing()), WASHED, *does("mix", "serve"))
    decided = after(breached, ("decided", {"food": "dressing", "reason": "pasteurised eggs"}))

    assert (rules(breached), rules(decided)) == (["no-kill-step"], [])
    [incident] = decided.incidents
    assert (incident.open, incident.decided) == (True, "pasteurised eggs")
    kept = kept_food(after(decided, ("stored", {"food": "dressing", "place": "fridge"})), "dressing")
    assert kept is not None
    assert (kept.throw_away, kept.against) == (True, "breach")


def test_a_control_point_that_is_waived_is_not_asked_about_and_not_laid() -> None:
    state = after(
        opened(board()), WASHED, *does("cut"), WASHED, ("swapped", {"tools": ["board"]}), *does("slice", "fry")
    )
    core = next(c.id for c in state.plan.controls if c.rule == "core-temperature")
    waived = after(state, ("waived", {"control": core, "reason": "the probe is broken, it is thrown away after"}))

    assert {f.rule for f in would_breach(state, "serve", ["B"])} == {"served-not-measured", "unwashed-hands"}
    assert {f.rule for f in would_breach(waived, "serve", ["B"])} == {"unwashed-hands"}
    served = after(waived, WASHED, *does("serve"))
    assert rules(served) == []
    assert next(b.status for b in bricks(served, 999.0) if b.control.id == core) == "breach"
    assert [row.finding.rule for row in served.open_incidents] == ["served-not-measured"]


def test_what_would_keep_and_that_freezing_spoils_it_is_known_before_it_is_put_away() -> None:
    state = after(opened(salad()), WASHED, ("rinsed", {"foods": ["leaves"]}), *does("cut", "mix"))
    fridge, freezer = (would_keep(state, "salad", place, 200.0) for place in ("fridge", "freezer"))
    assert freezer is not None
    assert freezer.until is None
    assert [reason.rule for reason in freezer.use_by.why] == ["not-for-freezer"]
    assert fridge is not None
    assert fridge.until is not None
    assert state.food("salad").kept is None


def test_food_that_was_out_too_long_would_not_keep_either() -> None:
    state = after(opened(salad()), WASHED, ("rinsed", {"foods": ["leaves"]}), *does("cut", "mix"))
    late = would_keep(state, "salad", "fridge", 5 * 3600.0)
    assert late is not None
    assert late.throw_away


def test_food_that_was_eaten_raw_is_a_breach_whether_or_not_anybody_tapped_that_it_was_served() -> None:
    state = after(opened(dressing()), WASHED, *does("mix"), ("gone", {"food": "dressing", "how": "eaten"}))
    assert [i.finding.rule for i in state.open_incidents] == ["no-kill-step"]
    served = after(state, *does("serve"))
    assert [i.finding.rule for i in served.open_incidents] == ["no-kill-step"]  # told once


def test_food_that_was_eaten_after_it_was_served_raw_is_told_once() -> None:
    state = after(opened(dressing()), WASHED, *does("mix", "serve"), ("gone", {"food": "dressing", "how": "eaten"}))
    assert [i.finding.rule for i in state.open_incidents] == ["no-kill-step"]


def test_food_that_was_thrown_away_raw_harms_nobody() -> None:
    gone = ("gone", {"food": "dressing", "how": "discarded"})
    assert after(opened(dressing()), WASHED, *does("mix"), gone, *does("serve")).open_incidents == ()

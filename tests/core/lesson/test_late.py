"""A bench that falls behind its plan: what is called late, what may be left out, and what is left of the lesson."""

from __future__ import annotations

from foodsafety.lesson import bricks, gone_s, late_at, may_leave_out, reached
from foodsafety.planning import makespan, rest_of, schedule, whole_lesson
from tests.builders import LEARNERS, ABench, a_bench

MIN = 60.0


def behind() -> tuple[ABench, dict[str, tuple[float, float]]]:
    """A bench that has shaped its koftas, and a plan by which it should be further."""
    bench = a_bench().shapes_koftas()
    planned = {step.id: (60.0 * n, 60.0 * n + 60) for n, step in enumerate(bench.plan.process.steps)}
    return bench, planned


def test_the_step_that_is_most_behind_is_named_and_what_is_done_never_is() -> None:
    bench, planned = behind()
    late = late_at(bench.state, planned, 20 * MIN, bench.now_s)
    left = [step for step in planned if step not in bench.state.done]
    assert late is not None
    assert late.step == left[0]
    assert late.s == 20 * MIN - planned[left[0]][1]
    assert late_at(bench.state, {"mix": (0, 60)}, 20 * MIN, bench.now_s) is None


def test_food_on_the_heat_is_as_late_as_it_began() -> None:
    bench, _ = behind()
    bench.washes("AK").does("wash", "wash-up").says("on_heat", step="griddle")
    gone = 30 * MIN
    planned = {"griddle": (gone - 2 * MIN, gone + 8 * MIN)}
    late = late_at(bench.state, planned, gone + 3 * MIN, bench.now_s + 3 * MIN)
    assert late is not None
    assert late.s == 2 * MIN


def test_a_bench_that_has_entered_no_work_is_not_said_to_be_behind() -> None:
    assert late_at(a_bench().state, {"mix": (0, 60)}, 60 * MIN, 0.0) is None


def test_the_time_for_which_the_lesson_stood_still_does_not_count() -> None:
    bench, _ = behind()
    opened_s = bench.now_s
    bench.says("paused", why="fire", after_s=5 * MIN)
    assert gone_s(bench.state, opened_s, bench.now_s + 4 * MIN) == 5 * MIN
    bench.says("resumed", after_s=10 * MIN)
    assert gone_s(bench.state, opened_s, bench.now_s + 4 * MIN) == 9 * MIN


def test_a_side_nobody_has_begun_may_be_left_out_and_never_what_is_measured() -> None:
    bench = a_bench()
    assert {side.food for side in may_leave_out(bench.state)} == {"raita", "salad"}
    bench.shapes_koftas()
    assert "koftas" not in {side.food for side in may_leave_out(bench.state)}
    assert "raita" not in {side.food for side in may_leave_out(bench.state)}, "its cucumber is grated already"


def test_what_is_left_out_falls_away_with_its_checks_which_never_count_as_laid() -> None:
    bench = a_bench().shapes_koftas().says("not_made", food="salad")
    assert "slice" in bench.state.done
    gone = bench.state.food("salad").gone
    assert gone is not None
    assert gone.how == "not_made"
    rows = {brick.control.id: brick.status for brick in bricks(bench.state, bench.now_s)}
    assert rows["clean-salad"] == "waived"
    assert rows["core-griddle"] not in ("waived", "laid"), "what is still eaten is still measured"
    assert not [row for row in bench.state.open_incidents if row.finding.food == "salad"]


def test_what_has_been_begun_is_not_left_out_and_that_is_seen() -> None:
    bench = a_bench().shapes_koftas().washes("AK").does("wash", "wash-up", "slice").says("not_made", food="salad")
    assert bench.state.food("salad").gone is None
    assert [row.finding.food for row in bench.state.noted if row.finding.rule == "begun-already"] == ["salad"]


def test_what_is_left_of_a_lesson_is_shorter_by_what_is_done_and_never_by_what_is_not_known() -> None:
    bench = a_bench()
    whole = whole_lesson(bench.plan.process, {"1": LEARNERS}, {"basin": 1, "sink": 1}, lesson_s=5400)
    before = schedule(whole.problem, thorough=False)
    bench.shapes_koftas()
    problem = rest_of(whole, {"1": reached(bench.state, bench.now_s)}, 15 * MIN)
    rest = schedule(problem, thorough=False)
    assert problem.lesson_s == 5400 - 15 * 60
    assert not {f"1.{step}" for step in bench.state.done} & set(problem.tasks)
    left = {step.id for step in bench.plan.process.steps} - set(bench.state.done)
    for name, task in whole.problem.tasks.items():
        if whole.parts[name].step in left:
            assert problem.tasks[name].s == task.s, "nobody has said that it has begun"
    assert makespan(problem, rest.starts) < (before.makespan_s or 0)
    bench.washes("AK").does("wash", "wash-up").says("on_heat", step="griddle")
    on = rest_of(whole, {"1": reached(bench.state, bench.now_s + 3 * MIN)}, 18 * MIN).tasks
    whole_s = sum(task.s for name, task in whole.problem.tasks.items() if name.startswith("1.griddle"))
    assert sum(task.s for name, task in on.items() if name.startswith("1.griddle")) == whole_s - 3 * MIN


def test_the_washing_up_can_wait_until_after_the_lesson() -> None:
    bench = a_bench().shapes_koftas()
    whole = whole_lesson(bench.plan.process, {"1": LEARNERS}, {"basin": 1, "sink": 1}, lesson_s=5400)
    row = {"1": reached(bench.state, bench.now_s)}
    kinds = {whole.parts[name].kind for name in rest_of(whole, row, 900, kit_later=["1"]).tasks}
    assert "wash_up" in {whole.parts[name].kind for name in rest_of(whole, row, 900).tasks}
    assert not kinds & {"wash_up", "wash_kit"}


def test_what_is_made_after_all_is_checked_again() -> None:
    bench = a_bench().shapes_koftas().says("not_made", food="salad").says("remade", food="salad")
    assert "slice" not in bench.state.done
    rows = {brick.control.id: brick.status for brick in bricks(bench.state, bench.now_s)}
    assert rows["clean-salad"] in ("todo", "due")

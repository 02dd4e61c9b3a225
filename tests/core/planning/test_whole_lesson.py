"""A recipe at several benches as one problem, and the plans that come of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from foodsafety.contamination import analyse
from foodsafety.planning import (
    EAT,
    Around,
    Bound,
    LeftOut,
    Reached,
    WholeLesson,
    Wish,
    ahead_steps,
    asked_of,
    hot_water_steps,
    may_do,
    rest_of,
    schedule,
    step_task,
    unwashed,
    whole_lesson,
    with_what_comes_first,
)
from foodsafety.planning.step_order import befores, raw_handed
from foodsafety.recipes import process_from
from foodsafety.rules import House
from tests.builders import DEMOS, AProcess, demo_recipe
from tests.core.planning.checker import faults

BENCHES = {"Gannet": ("SD", "RO", "EL"), "Puffin": ("AK", "JT", "NB")}
COUNTS = {"basin": 2, "sink": 2, "oven": 2, "hob_ring": 8, "griddle": 2, "probe": 2, "slow_cooker": 2, "grill": 2}


def lesson_of(data: dict[str, Any], **more: Any) -> WholeLesson:
    wanted = {"lesson_s": 75 * 60, "counts": COUNTS, "benches": BENCHES, **more}
    return whole_lesson(process_from(data), wanted.pop("benches"), wanted.pop("counts"), **wanted)


def plain(lesson: WholeLesson, lesson_s: int) -> dict[str, Any]:
    """The problem as the checker, which knows nothing of the planner, reads it."""
    problem = lesson.problem
    steps = [
        {
            "id": task.id,
            "bench": task.bench,
            "s": task.s,
            "people": task.people,
            "passive": task.passive,
            "needs": dict(task.needs),
            "after": list(task.after),
        }
        for task in problem.tasks.values()
    ]
    return {
        "lesson_s": lesson_s,
        "benches": [{"id": bench.id, "people": list(bench.names)} for bench in problem.benches.values()],
        "steps": steps,
        "within": [[row.first, row.then, row.s] for row in problem.within],
        "resources": dict(problem.resources),
    }


@pytest.mark.parametrize("path", DEMOS, ids=lambda path: path.stem)
def test_every_demo_is_planned_to_the_minute_and_no_order_makes_a_new_path_for_soil(path: Path) -> None:
    data = demo_recipe(path.stem)["process"]
    lesson = lesson_of(data)

    plan = schedule(lesson.problem, seconds=4.0)

    answer = {"starts": plan.starts, "people": plan.people, "makespan_s": plan.makespan_s}
    assert faults(plain(lesson, 10**6), answer) == []
    assert unwashed(lesson.problem, plan.people) == {}, "whoever had raw hands is the one who washes"
    for n, names in enumerate(BENCHES.values(), start=1):
        assert [plan.people[f"{n}:wash {i + 1}"] for i in range(len(names))] == [(name,) for name in names]
    assert (plan.status == "optimal") == (plan.makespan_s is not None and plan.makespan_s <= 75 * 60)
    written = {(row.rule, row.soil, row.food) for row in analyse(process_from(data), House()).findings}
    for number in (1, 2):
        order = sorted(data["steps"], key=lambda row: plan.starts[step_task(number, row["id"])])
        cooked = process_from({**data, "steps": order})
        assert {(row.rule, row.soil, row.food) for row in analyse(cooked, House()).findings} <= written


def test_everybody_is_ready_and_has_washed_before_a_hand_is_laid_on_food() -> None:
    plan = schedule(lesson_of(demo_recipe()["process"], around=Around(show_s=300)).problem)

    for number in (1, 2):
        washed = [plan.starts[f"{number}:wash {n}"] for n in (1, 2, 3)]
        assert plan.starts[f"{number}:ready"] >= 300, "all have looked"
        assert max(washed) + 60 <= min(plan.starts[step_task(number, step)] for step in ("grate", "mix"))
    at = sorted(at for name, at in plan.starts.items() if ":wash " in name and not name.endswith("up"))
    assert all(at[n + 2] >= at[n] + 60 for n in range(len(at) - 2)), "two basins"


def test_hot_food_is_eaten_as_soon_as_it_is_done_and_raw_food_cooked_as_soon_as_it_is_touched() -> None:
    lesson = lesson_of(demo_recipe()["process"])
    plan, hasty = schedule(lesson.problem), schedule(replace(lesson.problem, waits=()))

    def waits(starts: Mapping[str, int]) -> int:
        rows = lesson.problem.waits
        return sum(
            row.weight * (starts[row.then] - starts[row.first] - lesson.problem.tasks[row.first].s) for row in rows
        )

    assert {(row.first, row.then) for row in lesson.problem.waits if row.first.startswith("1.")} == {
        ("1.griddle", "1.serve"),
        ("1.mix", "1.griddle"),
    }
    assert plan.makespan_s == hasty.makespan_s
    assert waits(plan.starts) <= waits(hasty.starts)
    assert plan.starts["1.serve"] - plan.starts["1.griddle"] - 9 * 60 == 5 * 60, "probed, plated, eaten"


def test_every_dish_that_is_eaten_hot_is_counted_and_what_is_chilled_is_not() -> None:
    heats = [
        {"id": "boil", "do": "heat", "foods": ["leek"], "tools": ["pan"], "minutes": 10},
        {"id": "fry", "do": "heat", "foods": ["turkey"], "tools": ["oven"], "minutes": 10},
        {"id": "serve", "do": "serve", "foods": ["turkey", "leek"]},
    ]
    chilled = [heats[0], {"id": "cool", "do": "chill", "foods": ["leek"]}, *heats[1:]]

    def hot(steps: list[dict[str, Any]]) -> set[str]:
        rows = lesson_of(process_of(*steps)).problem.waits
        return {row.first for row in rows if row.then == "1.serve"}

    assert hot(heats) == {"1.boil", "1.fry"}
    assert hot(chilled) == {"1.fry"}


def process_of(*steps: dict[str, Any]) -> dict[str, Any]:
    made = AProcess().food("turkey", "raw_poultry").food("leek", "unwashed_produce")
    made.tools = {"board": {"kind": "board"}, "pan": {"kind": "frying_pan"}, "oven": {"kind": "oven"}}
    made.people = ["cook"]
    return {**made.data, "steps": list(steps), "serve": ["turkey"]}


def test_a_step_waits_for_what_shares_a_food_a_tool_or_a_wash_with_it() -> None:
    steps = (
        {"id": "cut", "do": "cut", "foods": ["turkey"], "tools": ["board"], "hands": ["cook"]},
        {"id": "wash", "do": "wash_hands", "hands": ["cook"]},
        {"id": "slice", "do": "cut", "foods": ["leek"], "tools": ["board"], "hands": ["cook"]},
        {"id": "fry", "do": "heat", "foods": ["turkey"], "tools": ["pan"]},
    )
    tasks = lesson_of(process_of(*steps)).problem.tasks

    assert "1.cut" in tasks["1.wash"].after, "the wash of whoever has raw hands"
    assert {"1.cut", "1.wash"} <= set(tasks["1.slice"].after)
    assert "1.cut" in tasks["1.fry"].after
    assert "1.slice" not in tasks["1.fry"].after
    assert tasks["1.fry"].needs == {"hob_ring": 1}
    assert tasks["1.wash"].needs == {"basin": 1}


def test_waiting_follows_at_once_and_holds_the_oven() -> None:
    bake = {"id": "bake", "do": "heat", "foods": ["turkey"], "tools": ["oven"], "minutes": 40, "waiting_min": 38}
    lesson = lesson_of(process_of(bake))
    plan = schedule(lesson.problem)

    waits = lesson.problem.tasks["1.bake waits"]
    assert (waits.s, waits.passive, waits.needs) == (38 * 60, True, {"oven": 1})
    assert plan.starts["1.bake waits"] == plan.starts["1.bake"] + 120


def test_what_nobody_counted_or_timed_is_said_and_not_taken_for_enough() -> None:
    bake = {"id": "bake", "do": "heat", "foods": ["turkey"], "tools": ["oven"]}
    lesson = lesson_of(process_of(bake), counts={"basin": 2}, benches={"Gannet": (), "Tern": ("MO",)})

    assert lesson.uncounted == {"oven": 1, "sink": 1}
    assert lesson.problem.resources == {"basin": 2, "oven": 1, "sink": 1}
    assert lesson.nobody == ("Gannet",)
    assert lesson.parts["2.bake"].typical
    assert lesson_of(process_of(bake), counts={"oven": 0, "sink": 1}).problem.never == ("1.bake", "2.bake")


def test_raw_work_stays_in_one_pair_of_hands_and_two_who_touched_it_are_both_told_to_wash() -> None:
    lesson = lesson_of(demo_recipe("turkey-koftas")["process"], benches={"Gannet": ("SD", "RO", "EL")})
    plan = schedule(lesson.problem, seconds=2.0)

    raw = {plan.people[f"1.{step}"] for step in ("mix", "shape", "wash")}
    assert len(raw) == 1
    [wash] = [task for task in lesson.problem.tasks.values() if task.washes]
    people = {**plan.people, "1.mix": ("SD",), "1.shape": ("RO",), wash.id: ("RO",)}
    assert unwashed(lesson.problem, people) == {wash.id: ("SD",)}


SKILLED = frozenset({"knife", "hob", "oven"})


def test_a_step_asks_for_a_doer_who_may_and_is_an_adults_where_none_may() -> None:
    may = {("Gannet", "SD"): SKILLED, ("Gannet", "RO"): frozenset({"knife"}), ("Puffin", "AK"): frozenset[str]()}
    benches = {"Gannet": ("SD", "RO"), "Puffin": ("AK", "JT")}
    lesson = lesson_of(demo_recipe("turkey-koftas")["process"], benches=benches, may=may)
    plan = schedule(lesson.problem, seconds=2.0)

    assert plan.people["1.griddle"] == ("SD",)
    assert {name for name, part in lesson.parts.items() if part.adult} == {"2.griddle", "2.slice"}
    assert "2.griddle" not in plan.people
    assert lesson.problem.resources["adult"] == 1
    assert lesson.unsaid == frozenset()
    assert lesson_of(demo_recipe("turkey-koftas")["process"]).unsaid == {"knife", "hob"}


def test_an_adult_more_at_a_bench_may_do_everything_there() -> None:
    may = {("Gannet", "SD"): frozenset[str]()}
    wish = Wish(adults={"Gannet": 1}, doers={"1.mix": ("SD",)})
    lesson = lesson_of(demo_recipe("turkey-koftas")["process"], benches={"Gannet": ("SD",)}, may=may, wish=wish)
    plan = schedule(lesson.problem, seconds=2.0)

    assert plan.people["1.griddle"] == ("adult 1",)
    assert plan.people["1.mix"] == ("SD",)
    assert plan.people["1:wash 2"] == ("adult 1",), "with washed hands like everybody"


@pytest.mark.parametrize("path", DEMOS, ids=lambda path: path.stem)
def test_what_is_done_before_the_lesson_is_cold_touches_nothing_raw_and_leaves_no_path(path: Path) -> None:
    data = demo_recipe(path.stem)["process"]
    process = process_from(data)
    ahead = ahead_steps(process)
    lesson = lesson_of(data, wish=Wish(ahead=frozenset(ahead)))
    plan = schedule(lesson.problem, seconds=2.0)

    for name in ahead:
        step = process.steps[process.step_index[name]]
        assert step.do in ("rinse", "cut", "peel", "grate", "mix")
        assert name not in raw_handed(process)
        assert f"1.{name}" not in lesson.parts
    order = sorted(data["steps"], key=lambda row: plan.starts.get(step_task(1, row["id"]), -1))
    found = {
        (row.rule, row.soil, row.food) for row in analyse(process_from({**data, "steps": order}), House()).findings
    }
    assert found <= {(row.rule, row.soil, row.food) for row in analyse(process, House()).findings}


@pytest.mark.parametrize("path", DEMOS, ids=lambda path: path.stem)
def test_each_step_alone_done_before_the_lesson_takes_with_it_what_must_come_first(path: Path) -> None:
    process = process_from(demo_recipe(path.stem)["process"])
    before = befores(process)
    for name in ahead_steps(process):
        taken = with_what_comes_first(process, [name])
        lesson = lesson_of(demo_recipe(path.stem)["process"], wish=Wish(ahead=frozenset({name})))
        for one in taken:
            assert f"1.{one}" not in lesson.parts
            left = [other for other in before[one] if f"1.{other}" in lesson.parts]
            assert all(process.steps[process.step_index[other]].do == "wash_hands" for other in left), (one, left)


def test_water_alone_may_be_hot_when_they_come_and_nothing_else_that_is_heated() -> None:
    data = {
        "foods": {"water": {"kind": "water"}, "pasta": {"kind": "pasta"}, "oil": {"kind": "olive_oil"}},
        "tools": {"pot": {"kind": "pot"}, "pan": {"kind": "frying_pan"}},
        "people": ["cook"],
        "steps": [
            {"id": "fill", "do": "pour", "foods": ["water"], "tools": ["pot"], "hands": ["cook"], "minutes": 1},
            {"id": "boil", "do": "heat", "foods": ["water"], "tools": ["pot"], "minutes": 12, "waiting_min": 12},
            {"id": "oil", "do": "heat", "foods": ["oil"], "tools": ["pan"], "minutes": 2},
            {"id": "cook", "do": "heat", "foods": ["water", "pasta"], "makes": "dish", "tools": ["pot"], "minutes": 9},
            {"id": "serve", "do": "serve", "foods": ["dish"]},
        ],
        "serve": ["dish"],
    }
    process = process_from(data)
    assert hot_water_steps(process) == ("fill", "boil")

    taken = with_what_comes_first(process, ["boil"])
    assert taken == {"fill", "boil"}, "what is not in the pot cannot be hot"
    whole, early = (lesson_of(data, wish=Wish(ahead=names)) for names in (frozenset(), frozenset({"boil"})))
    assert {"1.fill", "1.boil"} <= set(whole.parts)
    assert not {"1.fill", "1.boil"} & set(early.parts)
    assert schedule(early.problem).makespan_s < schedule(whole.problem).makespan_s


@pytest.mark.parametrize(
    ("food", "soils", "may"), [("egg", ["raw_egg"], False), ("stuff", ["unknown"], False), ("herbs", [], True)]
)
def test_raw_or_unknown_food_is_not_prepared_before_whatever_does_it(food: str, soils: list[str], may: bool) -> None:
    process = AProcess().food(food, *soils).step("mix", food, tools="mixer", minutes=3, id="whip").serve(food).build()

    assert ahead_steps(process) == (("whip",) if may else ())


@pytest.mark.parametrize(
    ("tools", "asked"),
    [("", {"hob", "oven"}), ("frying_pan", {"hob"}), ("oven", {"oven"}), ("microwave", set()), ("tray", {"oven"})],
)
def test_a_heat_that_nobody_named_asks_for_somebody_who_may_use_either(tools: str, asked: set[str]) -> None:
    process = AProcess().food("onion", kind="onion").step("heat", "onion", tools=tools, id="h").serve("onion").build()

    assert asked_of(process, process.steps[0]) == asked


def test_whoever_was_chosen_and_may_not_does_not() -> None:
    may = {("Gannet", "SD"): SKILLED, ("Gannet", "RO"): frozenset[str]()}
    data = demo_recipe("turkey-koftas")["process"]
    wish = Wish(doers={"1.griddle": ("RO",), "1.mix": ("RO",)})
    plan = schedule(lesson_of(data, benches={"Gannet": ("SD", "RO")}, may=may, wish=wish).problem, seconds=2.0)

    assert plan.people["1.griddle"] == ("SD",)
    assert plan.people["1.mix"] == ("RO",)


@pytest.mark.parametrize(
    ("age", "shown", "may"),
    [
        ("10-11", ["knife", "hob"], {"knife", "hob"}),
        ("8-9", ["knife", "hob", "oven"], {"knife"}),
        ("", ["hot_oil"], {"hot_oil"}),
        ("12-13", ["hot_oil", "blade"], {"blade"}),
        ("16+", ["hot_oil", "juggling"], {"hot_oil"}),
        ("10-11", [], set()),
    ],
)
def test_what_somebody_may_use_was_shown_and_is_for_their_age(age: str, shown: list[str], may: set[str]) -> None:
    assert may_do(age, shown) == may


def test_a_kitchens_own_ages_stand_above_ours_and_say_nothing_of_the_rest() -> None:
    shown = ["knife", "hob", "hot_oil"]

    assert may_do("8-9", shown, {"hob": 8, "knife": 10}) == {"hob"}
    assert may_do("13", shown, {"hot_oil": 16}) == {"knife", "hob"}


def test_all_eat_at_once_what_was_served_at_every_bench_and_nobody_washes_up_before() -> None:
    lesson = lesson_of(demo_recipe()["process"], around=Around(review_s=180, show_s=300, eat_s=600))
    plan = schedule(lesson.problem)
    starts, tasks = plan.starts, lesson.problem.tasks

    assert (starts["review"], starts["show"]) == (0, 180)
    assert min(at for name, at in starts.items() if name not in ("review", "show")) >= 480
    served = [starts[name] + tasks[name].s for name in tasks[EAT].after]
    assert len(served) == len(BENCHES)
    assert starts[EAT] >= max(served)
    assert min(starts[name] for name in starts if name.endswith(":wash up")) >= starts[EAT] + 600
    at_work = [row for row in tasks.values() if row.hands]
    assert not [row.id for row in at_work if starts[EAT] - row.s < starts[row.id] < starts[EAT] + 600]
    answer = {"starts": starts, "people": plan.people, "makespan_s": plan.makespan_s}
    assert faults(plain(lesson, 10**6), answer) == []


def test_what_nobody_serves_is_eaten_by_nobody() -> None:
    data = demo_recipe()["process"]
    steps = [row for row in data["steps"] if row["do"] != "serve"]

    assert EAT not in lesson_of({**data, "steps": steps, "serve": []}, around=Around(eat_s=600)).parts


def test_hot_food_that_may_not_wait_for_the_plate_may_not_wait_for_the_eating() -> None:
    data = demo_recipe()["process"]
    heat, serve = (next(row["id"] for row in data["steps"] if row["do"] == do) for do in ("heat", "serve"))
    bound = Bound(rule="time-out", section="", first=heat, then=serve, s=60)
    lesson = lesson_of(data, around=Around(eat_s=600), bounds=[bound])

    assert {row.then for row in lesson.problem.within if row.s == 60} == {EAT}


def test_washes_that_the_recipe_leaves_out_take_time_between_the_raw_work_and_what_is_ready() -> None:
    data = demo_recipe("turkey-koftas")["process"]
    gone = {row["id"] for row in data["steps"] if row["do"] in ("wash_hands", "clean")}
    steps = [
        {**row, "after": [name for name in row.get("after", []) if name not in gone]}
        for row in data["steps"]
        if row["id"] not in gone
    ]
    bare = {**data, "steps": steps}
    process = process_from(bare)
    raw = [row["id"] for row in steps if row["id"] in raw_handed(process)]
    then = next(row["id"] for row in steps[1 + max(process.step_index[name] for name in raw) :] if row["do"] != "heat")
    asked = (LeftOut(step=then, after=False, hands=True), LeftOut(step=then, after=False, hands=False))

    without, whole = lesson_of(bare), lesson_of(bare, left_out=dict.fromkeys(BENCHES, asked))
    plan = schedule(whole.problem, seconds=4.0)
    answer = {"starts": plan.starts, "people": plan.people, "makespan_s": plan.makespan_s}

    hands, kit = step_task(1, f"{then} hands before"), step_task(1, f"{then} kit before")
    tasks = whole.problem.tasks
    assert set(tasks) - set(without.problem.tasks) >= {hands, kit}
    assert tasks[hands].needs == {"basin": 1}
    assert tasks[kit].needs == {"sink": 1}
    assert set(tasks[hands].washes) == {step_task(1, name) for name in raw}, "whoever had their hands on it"
    assert faults(plain(whole, plan.makespan_s or 0), answer) == []
    for wash in (hands, kit):
        assert plan.starts[step_task(1, then)] >= plan.starts[wash] + tasks[wash].s
        assert all(plan.starts[wash] >= plan.starts[step_task(1, name)] + tasks[step_task(1, name)].s for name in raw)
    assert rest_of(whole, {"Gannet": Reached(done=frozenset({then}))}, 0.0).tasks.keys().isdisjoint({hands, kit})

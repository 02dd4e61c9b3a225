"""Plans: what they keep, that they are the shortest, and why there is none."""

from __future__ import annotations

import itertools
import random
from dataclasses import replace
from typing import Any
from unittest.mock import patch

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.cli.schedule import run
from foodsafety.planning import Plan, Wait, problem_from, schedule
from foodsafety.planning.model import PlanModel
from foodsafety.quantities import CoreError
from tests.core.planning.checker import faults


def lesson(*steps: dict[str, Any], people: Any = 2, lesson_s: int = 7200, **more: Any) -> dict[str, Any]:
    """One bench with some steps."""
    rows = [{"bench": "Tern", "s": 600, "people": 1, **row} for row in steps]
    return {"lesson_s": lesson_s, "benches": [{"id": "Tern", "people": people}], "steps": rows, **more}


def planned(data: dict[str, Any]) -> dict[str, Any]:
    """The answer, if it is a plan that can be cooked by."""
    answer = run(data)
    assert faults(data, answer) == []
    return answer


def test_two_people_share_three_steps() -> None:
    answer = planned(lesson({"id": "a"}, {"id": "b"}, {"id": "c"}))

    assert (answer["status"], answer["makespan_s"], answer["bound_s"]) == ("optimal", 1200, 1200)


def test_waiting_needs_nobody() -> None:
    answer = planned(lesson({"id": "bake", "s": 1800, "passive": True, "people": 1}, {"id": "wash up"}, people=1))

    assert answer["makespan_s"] == 1800


def test_a_basin_is_one_persons_at_a_time() -> None:
    washes = [{"id": f"w{n}", "s": 60, "needs": {"basin": 1}} for n in range(4)]

    assert planned(lesson(*washes, people=4, resources={"basin": 1}))["makespan_s"] == 240
    assert planned(lesson(*washes, people=4, resources={"basin": 2}))["makespan_s"] == 120


def test_benches_share_the_oven_and_not_their_people() -> None:
    bake = {"s": 1200, "passive": True, "needs": {"oven": 1}, "people": 0}
    data = lesson({"id": "a", **bake}, {"id": "b", **bake, "bench": "Gannet"}, resources={"oven": 1})
    data["benches"].append({"id": "Gannet", "people": 2})

    assert planned(data)["makespan_s"] == 2400


@pytest.mark.parametrize("from_end", [600, ["simmer", 600], {"simmer": 600}])
def test_what_is_added_before_the_end_of_a_cook_is_counted_back_from_it(from_end: Any) -> None:
    answer = planned(
        lesson(
            {"id": "simmer", "s": 2400, "passive": True, "people": 0},
            {"id": "peel"},
            {"id": "add carrot", "s": 60, "after": ["peel", "simmer"], "from_end": from_end},
        )
    )

    assert answer["starts"]["add carrot"] == answer["starts"]["simmer"] + 1800
    assert answer["makespan_s"] == 2400


def test_what_must_be_peeled_first_puts_the_cook_off() -> None:
    answer = planned(
        lesson(
            {"id": "simmer", "s": 1200, "passive": True, "people": 0},
            {"id": "peel", "s": 1500},
            {"id": "add", "s": 60, "after": ["peel"], "from_end": ["simmer", 600]},
        )
    )

    assert answer["starts"]["simmer"] == 900


def test_from_the_end_of_the_lesson_where_nothing_is_named() -> None:
    answer = planned(lesson({"id": "put away", "from_end": 600}))

    assert answer["starts"] == {"put away": 6600}


def test_part_cooked_food_goes_back_within_its_limit() -> None:
    steps = (
        {"id": "sear", "s": 300},
        {"id": "chop", "s": 1800},
        {"id": "stew", "s": 1200, "after": ["sear", "chop"], "people": 0, "passive": True},
    )
    free = planned(lesson(*steps, people=2))
    tied = planned(lesson(*steps, people=2, within=[["sear", "stew", 600]]))

    assert free["makespan_s"] == tied["makespan_s"] == 3000
    assert tied["starts"]["stew"] - (tied["starts"]["sear"] + 300) <= 600


def test_food_waits_as_short_as_it_can_and_the_lesson_is_no_longer_for_it() -> None:
    data = lesson(
        {"id": "fry", "s": 600},
        {"id": "chop", "s": 3000},
        {"id": "serve", "after": ["fry", "chop"], "people": 2},
        people=2,
    )
    problem = problem_from(data)
    plain = schedule(problem)
    kind = schedule(replace(problem, waits=(Wait(first="fry", then="serve", weight=1),)))

    assert kind.makespan_s == plain.makespan_s == 3600
    assert kind.starts["fry"] + 600 == kind.starts["serve"]
    assert faults(data, {"starts": kind.starts, "makespan_s": kind.makespan_s}) == []


def test_who_may_not_is_not_asked_to() -> None:
    fry = {"s": 600, "who": ["AK"]}
    answer = planned(lesson({"id": "a", **fry}, {"id": "b", **fry}, {"id": "c"}, people=["AK", "JT"]))

    assert answer["people"]["a"] == answer["people"]["b"] == ["AK"]
    assert answer["makespan_s"] == 1200


def test_names_are_shared_out_and_work_takes_turns() -> None:
    answer = planned(lesson(*({"id": f"s{n}"} for n in range(6)), people=["AK", "JT", "MO"]))

    times = [name for names in answer["people"].values() for name in names]
    assert {name: times.count(name) for name in times} == {"AK": 2, "JT": 2, "MO": 2}


# --- what does not fit -----------------------------------------------------------------------------------------------


def test_it_says_which_steps_together_do_not_fit() -> None:
    bake = {"s": 2000, "passive": True, "people": 0, "needs": {"oven": 1}}
    steps = ({"id": "tart", **bake}, {"id": "chop"}, {"id": "pie", **bake}, {"id": "rinse", "s": 60})
    answer = run(lesson(*steps, lesson_s=3600, resources={"oven": 1}))

    assert (answer["status"], sorted(answer["conflict"])) == ("infeasible", ["pie", "tart"])
    assert answer["bound_s"] == answer["makespan_s"] == 4000, "how long it must be is known"


@pytest.mark.parametrize(
    ("steps", "more", "conflict"),
    [
        ([{"id": "a", "after": ["b"]}, {"id": "b", "after": ["c"]}, {"id": "c", "after": ["a"]}], {}, "abc"),
        ([{"id": "a", "people": 3}, {"id": "b"}], {}, "a"),
        ([{"id": "a", "needs": {"oven": 2}}, {"id": "b"}], {"resources": {"oven": 1}}, "a"),
        ([{"id": "a", "needs": {"basin": 1}}, {"id": "b"}], {"resources": {"basin": 0}}, "a"),
        ([{"id": "a"}, {"id": "b", "after": ["a"]}, {"id": "c", "after": ["b"]}], {"within": [["a", "c", 300]]}, "abc"),
    ],
)  # fmt: skip
def test_what_can_never_be_is_named(steps: list[dict[str, Any]], more: dict[str, Any], conflict: str) -> None:
    answer = run(lesson(*steps, **more))

    assert (answer["status"], sorted(answer["conflict"])) == ("infeasible", list(conflict))


def test_a_step_that_was_put_somewhere_stays_and_what_it_breaks_is_named() -> None:
    problem = problem_from(lesson({"id": "a"}, {"id": "b", "after": ["a"]}, {"id": "c"}))

    assert schedule(problem, fixed={"b": 1800}).starts["b"] == 1800
    broken = schedule(problem, fixed={"b": 300})
    assert (broken.status, sorted(broken.conflict)) == ("infeasible", ["a", "b"])


# --- the shortest ----------------------------------------------------------------------------------------------------


def full(seed: int) -> tuple[dict[str, Any], int]:
    """A lesson cut out of a block: everybody is busy from the beginning to its end, which is thereby the shortest."""
    draw = random.Random(seed)
    end = draw.choice([1800, 2400, 3600])
    benches = [{"id": f"B{n}", "people": draw.choice([1, 2, 3, 4])} for n in range(draw.choice([1, 2, 3]))]
    steps: list[dict[str, Any]] = []
    placed: dict[str, tuple[int, int]] = {}
    for bench in benches:
        for person in range(bench["people"]):
            cuts = sorted(draw.sample(range(120, end, 120), draw.randrange(2, 6)))
            for n, (begin, finish) in enumerate(itertools.pairwise([0, *cuts, end])):
                name = f"{bench['id']}-{person}-{n}"
                before = [other for other, (_, ended) in placed.items() if ended <= begin]
                steps.append(
                    {
                        "id": name,
                        "bench": bench["id"],
                        "s": finish - begin,
                        "people": 1,
                        "after": draw.sample(before, min(len(before), draw.randrange(3))),
                    }
                )
                placed[name] = (begin, finish)
    at = [sum(begin <= moment < finish for begin, finish in placed.values()) for moment in range(0, end, 60)]
    for row in draw.sample(steps, len(steps) // 3):
        row["needs"] = {"sink": 1}
    draw.shuffle(steps)
    return {"lesson_s": end + 1200, "benches": benches, "steps": steps, "resources": {"sink": max(at)}}, end


@pytest.mark.parametrize("seed", range(12))
def test_a_plan_that_is_known_to_be_the_shortest_is_found(seed: int) -> None:
    data, end = full(seed)

    answer = planned(data)

    assert (answer["status"], answer["makespan_s"], answer["bound_s"]) == ("optimal", end, end)


def tried(data: dict[str, Any]) -> int:
    """The end of the shortest of all plans, by trying every order, each step as early as it can be."""
    best = 10**9
    rows = data["steps"]
    for order in itertools.permutations(rows):
        start: dict[str, int] = {}
        for row in order:
            if any(name not in start for name in row.get("after", [])):
                break
            done = {name: start[name] + next(x["s"] for x in rows if x["id"] == name) for name in start}
            begin = max((done[name] for name in row.get("after", [])), default=0)
            for at in sorted({begin, *(moment for moment in done.values() if moment > begin)}):
                held = {"starts": {**start, row["id"]: at}, "makespan_s": max([*done.values(), at + row["s"]])}
                part = {**data, "steps": [x for x in rows if x["id"] in held["starts"]], "lesson_s": 10**9}
                if not faults(part, held):
                    start[row["id"]] = at
                    break
        else:
            best = min(best, max(start[row["id"]] + row["s"] for row in rows))
    return best


@pytest.mark.parametrize("seed", range(8))
def test_small_lessons_are_as_short_as_trying_every_order_finds(seed: int) -> None:
    draw = random.Random(100 + seed)
    steps: list[dict[str, Any]] = []
    for n in range(5):
        before = [row["id"] for row in steps]
        steps.append(
            {
                "id": f"s{n}",
                "s": draw.choice([120, 300, 420, 600]),
                "people": draw.choice([1, 1, 2]),
                "needs": {"sink": draw.choice([0, 1])},
                "after": draw.sample(before, min(len(before), draw.choice([0, 0, 1]))),
            }
        )
    data = lesson(*steps, people=2, resources={"sink": 1})

    answer = planned(data)

    assert (answer["status"], answer["makespan_s"]) == ("optimal", tried(data))


@st.composite
def lessons(draw: st.DrawFn) -> dict[str, Any]:
    benches = [
        {"id": f"B{n}", "people": draw(st.sampled_from([1, 2, 4, ["AK", "JT"], ["SD", "RO", "MO"]]))}
        for n in range(draw(st.integers(1, 3)))
    ]
    steps: list[dict[str, Any]] = []
    for n in range(draw(st.integers(0, 14))):
        before = [row["id"] for row in steps]
        passive = draw(st.booleans())
        bench = draw(st.sampled_from(benches))
        row: dict[str, Any] = {
            "id": f"s{n}",
            "bench": bench["id"],
            "s": draw(st.integers(0, 20)) * 60,
            "people": 0 if passive else 1,
            "passive": passive,
            "needs": draw(st.dictionaries(st.sampled_from(["sink", "oven"]), st.integers(0, 1))),
            "after": draw(st.lists(st.sampled_from(before), max_size=2, unique=True)) if before else [],
        }
        if isinstance(bench["people"], list) and not passive and draw(st.booleans()):
            row["who"] = bench["people"][:1]
        if row["after"] and draw(st.integers(0, 5)) == 0:
            row["from_end"] = [row["after"][-1], draw(st.integers(0, 10)) * 60]
        steps.append(row)
    ids = [row["id"] for row in steps]
    within = [[a, b, draw(st.integers(5, 40)) * 60] for a, b in itertools.pairwise(ids) if draw(st.integers(0, 6)) == 0]
    resources = {"sink": draw(st.integers(1, 2)), "oven": draw(st.integers(1, 2))}
    period = draw(st.integers(10, 200)) * 60
    return {"lesson_s": period, "benches": benches, "steps": steps, "within": within, "resources": resources}


@settings(max_examples=120)
@given(lessons())
def test_every_plan_of_any_kitchen_can_be_cooked_by(data: dict[str, Any]) -> None:
    plan = schedule(problem_from(data), seconds=2.0)

    if plan.status in ("optimal", "feasible"):
        answer = {"starts": plan.starts, "people": plan.people, "makespan_s": plan.makespan_s}
        assert faults(data, answer) == []
        assert plan.bound_s <= plan.makespan_s <= data["lesson_s"]
    else:
        assert plan.status == "infeasible"
        assert plan.conflict
        assert set(plan.conflict) <= {row["id"] for row in data["steps"]}
        alone = schedule(problem_from(data).only(plan.conflict), seconds=2.0)
        assert alone.status == "infeasible", "what is said not to fit together does not"


def test_a_step_that_takes_no_time_is_done_by_somebody_who_is_free_then() -> None:
    at = [{"id": "look", "s": 0, "from_end": 300}, {"id": "stir", "s": 600}]
    plan = run(lesson(*at, people=["AK", "JT"], lesson_s=600))

    assert plan["starts"] == {"look": 300, "stir": 0}
    assert set(plan["people"]["look"]) != set(plan["people"]["stir"])


def test_the_same_lesson_gives_the_same_plan() -> None:
    data, _ = full(3)

    assert run(data) == run(data)


def test_it_tells_how_far_it_is_and_can_be_stopped() -> None:
    told: list[tuple[int | None, int]] = []
    data, end = full(5)

    plan = schedule(problem_from(data), progress=lambda best, bound: told.append((best, bound)))
    stopped = schedule(problem_from(data), should_stop=lambda: True)

    assert plan.makespan_s == end
    assert told
    assert all(best is None or best >= bound for best, bound in told)
    assert stopped.status in ("optimal", "feasible", "unknown")


# --- what is sent ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"lesson_s": "long"}, "lesson_s"),
        ({"lesson_s": -1}, "lesson_s"),
        ({"benches": {}}, "benches"),
        ({"benches": [{"id": "Tern", "people": 1.5}]}, "benches[0].people"),
        ({"benches": [{"id": "Tern", "people": 2}, {"id": "Tern", "people": 2}]}, "benches[1].id"),
        ({"resources": {"sink": -1}}, "resources.sink"),
        ({"steps": [{"id": "a", "bench": "Gannet", "s": 60}]}, "steps[0].bench"),
        ({"steps": [{"id": "a", "bench": "Tern"}]}, "steps[0].s"),
        ({"steps": [{"id": "", "bench": "Tern", "s": 60}]}, "steps[0].id"),
        ({"steps": [{"id": "a", "s": 60}, {"id": "a", "s": 60}]}, "steps[1].id"),
        ({"steps": [{"id": "a", "s": 60, "after": ["b"]}]}, "steps[0].after"),
        ({"steps": [{"id": "a", "s": 60, "needs": {"oven": 1}}]}, "steps[0].needs"),
        ({"steps": [{"id": "a", "s": 60, "passive": "no"}]}, "steps[0].passive"),
        ({"steps": [{"id": "a", "s": 60, "from_end": ["b", 1]}]}, "steps[0].from_end"),
        ({"steps": [{"id": "a", "bench": "Tern", "s": 60, "who": ["XY"]}]}, "steps[0].who"),
        ({"within": [["a", "b"]]}, "within[0]"),
    ],
)
def test_what_cannot_be_read_is_named(wrong: dict[str, Any], field: str) -> None:
    with pytest.raises(CoreError) as error:
        run({**lesson({"id": "x"}), **wrong})

    assert error.value.field == field


def test_durations_are_rounded_up_and_limits_down() -> None:
    answer = run(lesson({"id": "a", "s": 60.2}, {"id": "b", "s": 60.2, "after": ["a"]}, lesson_s=121.9))

    assert answer["status"] == "infeasible"


def test_a_machine_too_busy_to_solve_still_has_a_plan_that_can_be_cooked_by_and_says_it_is_not_proven() -> None:
    steps = [{"id": f"s{n}", "after": [f"s{n - 1}"] if n % 3 else []} for n in range(12)]
    data = lesson(*steps, resources={"sink": 1})
    with patch.object(PlanModel, "solve", lambda *_args: Plan(status="unknown")):
        answer = run(data)
    assert faults(data, answer) == []
    assert answer["status"] == "feasible"
    assert answer["bound_s"] <= answer["makespan_s"]


def test_a_plan_by_rule_of_thumb_that_breaks_a_time_between_steps_is_none() -> None:
    data = lesson({"id": "a"}, {"id": "b"}, {"id": "c", "s": 1200, "after": ["b"]}, people=1, within=[["b", "a", 0]])
    with patch.object(PlanModel, "solve", lambda *_args: Plan(status="unknown")):
        assert run(data)["status"] == "unknown"


def test_a_plan_by_rule_of_thumb_stands_only_where_somebody_who_may_is_found_for_every_step() -> None:
    both = lesson({"id": "fry", "who": ["AK"]}, {"id": "bake", "who": ["AK"]}, people=["AK", "JT"])
    one = lesson({"id": "fry", "who": ["AK"]}, {"id": "slice", "who": ["JT"]}, people=["AK", "JT"])
    with patch.object(PlanModel, "solve", lambda *_args: Plan(status="unknown")):
        assert run(both)["status"] == "unknown", "both at once, and AK alone may"
        answer = run(one)
    assert faults(one, answer) == []

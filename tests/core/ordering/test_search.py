"""The best order against brute force over every order of small processes."""

import time
from collections.abc import Callable
from dataclasses import replace
from itertools import permutations

import pytest
from hypothesis import example, given, settings

from foodsafety.ordering import best_order, reordered, washes_as_written
from foodsafety.recipes import Process, process_from
from tests.builders import a_process, demo_recipe
from tests.core.contamination.test_analysis import process_of, steps
from tests.core.random_processes import crossed, crowded


def after(seconds: float) -> Callable[[], bool]:
    end = time.monotonic() + seconds
    return lambda: time.monotonic() > end


def test_salad_first_needs_no_wash() -> None:
    process = a_process().food("turkey", kind="turkey").step("cut", "turkey", tools="board knife", hands="AK", id="raw")
    process.step("cut", "cucumber", tools="board knife", hands="AK", id="salad").step(
        "heat", "turkey", tools="pan", id="cook"
    )
    process.serve("turkey", "cucumber")

    best = best_order(process.build())

    assert washes_as_written(process.build()).washes == 3
    assert (best.washes, best.proven) == (0, True)
    assert best.order.index("salad") < best.order.index("raw")


def test_precedence_can_make_washes_unavoidable() -> None:
    process = a_process().food("turkey", kind="turkey").step("cut", "turkey", tools="board", hands="AK", id="raw")
    process.step("cut", "cucumber", tools="board", hands="JT", id="salad", after=["raw"]).step(
        "heat", "turkey", id="cook"
    )

    best = best_order(process.serve("turkey", "cucumber").build())

    assert (best.washes, best.wash_before) == (1, (("salad", ("board",)),))


def test_a_phone_cannot_be_washed() -> None:
    process = a_process().step("touch", "cucumber", tools="phone", id="call").serve("cucumber")

    assert best_order(process.build()).washes is None


def test_a_search_that_stops_gives_an_order_and_an_honest_bound() -> None:
    process = crossed(3, 25)
    whole, stopped = best_order(process), best_order(process, limit=3)

    assert whole.proven
    assert not stopped.proven
    assert 0 < stopped.bound <= (whole.washes or 0) <= (stopped.washes or 0)
    assert sorted(stopped.order) == sorted(whole.order)


def test_a_search_tells_how_far_it_is_and_stops_when_told() -> None:
    heard: list[int] = []
    stopped = best_order(crossed(3, 25), progress=heard.append, should_stop=lambda: len(heard) > 1)

    assert heard == sorted(heard)
    assert len(heard) == 2
    assert not stopped.proven


@pytest.mark.parametrize("seed", range(12))
def test_twenty_five_steps_are_proven(seed: int) -> None:
    best = best_order(crossed(seed, 25, soils=3 + seed % 6, waits=seed % 7, people=1 + seed % 3))

    assert best.proven
    assert best.bound == best.washes


@pytest.mark.parametrize("seed", range(12))
def test_the_order_found_runs_clean(seed: int) -> None:
    process = crossed(seed, 16)

    assert not reordered(process, best_order(process)).left


def test_a_step_with_thirty_soiled_tools_is_no_hang_and_no_false_proof() -> None:
    tools = " ".join(f"bowl{n}" for n in range(30))
    process = a_process().food("turkey", "raw_poultry").step("mix", "turkey", tools=tools, id="raw")
    process.step("mix", "turkey", tools=tools, hands="AK", id="again").step(
        "cut", "bread2", hands="AK", id="bread", after=["again"]
    )
    process.step("heat", "turkey", tools="pan").serve("turkey", "bread2")

    assert best_order(process.build(), should_stop=after(1)).washes == 1


def test_the_demo_recipe_in_its_best_order_saves_washes() -> None:
    process = process_from(demo_recipe()["process"])

    best, written = best_order(process), washes_as_written(process)

    assert best.proven
    assert best.washes is not None
    assert written.washes is not None
    assert best.washes < written.washes


def every_order(process: Process) -> list[Process]:
    at = process.step_index
    mine = [{*step.foods, step.makes} - {None} for step in process.steps]
    orders = []
    for order in permutations(range(len(process.steps))):
        place = {step: i for i, step in enumerate(order)}
        kept = all(place[j] < place[i] for i in range(len(order)) for j in range(i) if mine[i] & mine[j])
        after = all(place[at[name]] < place[i] for i, step in enumerate(process.steps) for name in step.after)
        if kept and after:
            rows = tuple(process.steps[i] for i in order if process.steps[i].do not in ("wash_hands", "clean"))
            orders.append(replace(process, steps=rows))
    return orders


@given(steps.filter(lambda rows: len(rows) <= 5))
@settings(max_examples=60, deadline=None)
def test_the_best_order_is_what_brute_force_finds(rows: list[dict[str, object]]) -> None:
    process = process_of(rows)

    best = best_order(process)

    costs = [washes_as_written(order).washes for order in every_order(process) if order.steps]
    possible = [cost for cost in costs if cost is not None]
    assert best.proven
    assert best.washes == (min(possible, default=None) if costs else 0)


@given(steps)
@settings(max_examples=60, deadline=None)
def test_the_best_order_is_never_worse_than_the_given_one(rows: list[dict[str, object]]) -> None:
    process = process_of(rows)
    best, written = best_order(process).washes, washes_as_written(process).washes

    assert written is None or (best is not None and best <= written)
    assert sorted(best_order(process).order) == sorted(step.id for step in process.steps) or best is None


def of_raw(do: str, *tools: str) -> dict[str, object]:
    return {"do": do, "foods": ["raw"], "tools": list(tools), "hands": []}


# Two orders that come out alike in every figure.
ALIKE = [of_raw("cut", "board", "bowl"), of_raw("clean", "board", "bowl"), of_raw("cut", "board")]


@given(steps)
@example(ALIKE)
@settings(max_examples=60, deadline=None)
def test_washing_up_is_counted_in_both_and_never_makes_the_best_worse_than_the_written(
    rows: list[dict[str, object]],
) -> None:
    process = process_of(rows)
    best, written = best_order(process, washing_up=True).washes, washes_as_written(process, washing_up=True).washes
    between = best_order(process).washes

    assert written is None or (best is not None and between is not None and between <= best <= written)


@pytest.mark.parametrize("foods", ["turkey", "beef", "egg"])
def test_raw_food_cooked_alone_needs_no_wash(foods: str) -> None:
    process = a_process().food(foods, kind=foods).step("heat", foods, tools="pan", hands="AK").serve(foods)

    assert best_order(process.build()).washes == 0


def test_five_hundred_steps_are_answered_and_not_called_proven() -> None:
    process = crowded(5, 500)
    best = best_order(process, should_stop=after(0.2))

    assert sorted(best.order) == sorted(step.id for step in process.steps)
    assert not best.proven
    assert best.bound <= (best.washes or best.bound)

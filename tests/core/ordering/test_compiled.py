"""The process as integers says what the moves themselves say."""

import random

import pytest

from foodsafety.contamination import do_step, opening_surfaces
from foodsafety.ordering.compiled import Compiled, union, washed_off
from foodsafety.recipes import Process
from foodsafety.rules import House
from tests.builders import a_process
from tests.core.random_processes import crossed


def _bits(compiled: Compiled, soils: set[str]) -> int:
    return union(compiled.bit[name] for name in soils)


@pytest.mark.parametrize("seed", range(12))
def test_a_run_of_steps_soils_what_the_moves_soil(seed: int) -> None:
    """Some of the carriers are washed on the way, as a search would."""
    process = crossed(seed, 14)
    compiled, dice = Compiled(process, House()), random.Random(seed)
    state = compiled.start
    surfaces = opening_surfaces(process, people=process.people, unwashed=False)
    for i, step in enumerate(process.steps):
        washed = dice.sample(sorted(compiled.washable), 2)
        state = washed_off(state, washed)
        surfaces = {name: row for name, row in surfaces.items() if compiled.index[name] not in washed}
        state, _ = compiled.apply(i, state)
        surfaces, _ = do_step(surfaces, process, step)
        for name, m in compiled.index.items():
            assert state[m] == _bits(compiled, {*surfaces.get(name, {})}), (step.id, name)


def _raw_then_salad() -> Process:
    return (
        a_process()
        .food("turkey", "raw_poultry")
        .step("cut", "turkey", tools="board", id="raw")
        .step("cut", "salad", tools="board", id="salad")
        .step("heat", "turkey", tools="pan", id="cook")
        .serve("turkey", "salad")
        .build()
    )


def test_a_guarded_food_that_would_catch_something_breaks_the_step() -> None:
    compiled = Compiled(_raw_then_salad(), House())
    soiled, broken = compiled.apply(0, compiled.start)
    assert not broken
    assert compiled.apply(1, soiled)[1]
    assert compiled.threatened(1, soiled)
    board = compiled.index["board"]
    assert compiled.worth_washing(1, soiled) == [board]
    assert not compiled.apply(1, washed_off(soiled, [board]))[1]


def test_steps_of_one_food_keep_their_order_and_others_need_not() -> None:
    compiled = Compiled(_raw_then_salad(), House())
    raw, salad, cook = compiled.before
    assert raw == salad == 0
    assert cook == 1 << 0


def test_a_food_that_still_meets_heat_is_not_guarded() -> None:
    compiled = Compiled(_raw_then_salad(), House())
    assert [bool(step.guarded_bits) for step in compiled.steps] == [False, True, False]


def test_washing_everything_leaves_nothing_but_what_foods_bring() -> None:
    compiled = Compiled(_raw_then_salad(), House())
    soiled, _ = compiled.apply(0, compiled.start)
    clean = washed_off(soiled, compiled.washable)
    assert {name for name, m in compiled.index.items() if clean[m]} == {"turkey"}

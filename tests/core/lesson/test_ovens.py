"""An oven that benches share: what they tell each other of it, and when two dishes ask two heats of one."""

from __future__ import annotations

import pytest

from foodsafety.lesson import OvenUse, at_other_heat, oven_changes, safety_plan, shared_changes
from foodsafety.recipes import Step
from foodsafety.rules import rule_profile
from tests.builders import ABench, a_process


@pytest.fixture
def bench() -> ABench:
    process = a_process().food("leg", kind="chicken")
    process = process.step("heat", "leg", tools="oven tin", makes="roast").serve("roast")
    return ABench(safety_plan(process.build(), rule_profile("uk")), ("AK",))


def moved(bench: ABench, kind: str, **data: object) -> list[tuple[str, bool]]:
    before = bench.state
    after = bench.says(kind, **data).state
    return [(row.oven, row.into) for row in oven_changes(before, after, ["oven"])]


def test_what_goes_in_and_comes_out_is_told_once(bench: ABench) -> None:
    assert moved(bench, "on_heat", step="1") == [("oven", True)]
    assert moved(bench, "core_read", food="roast", core_c=40) == []
    assert moved(bench, "step_done", step="1", by=["AK"]) == [("oven", False)]


def test_no_raw_food_is_told_of_an_oven_and_is_of_a_tin(bench: ABench) -> None:
    before = bench.state
    after = bench.does("1").state
    assert [row.tool for row in shared_changes(before, after, ["oven", "tin"])] == ["tin"]


@pytest.mark.parametrize(
    ("wanted_c", "there_c", "other"), [(180, 180.2, False), (180, 200, True), (None, 180, True), (None, None, True)]
)
def test_a_heat_that_is_not_the_same_or_that_nobody_wrote_is_another(
    wanted_c: float | None, there_c: float | None, *, other: bool
) -> None:
    use = OvenUse(oven="oven", bench="Puffin", food="tart", oven_c=there_c, since_s=0, until_s=None)
    assert at_other_heat(Step(id="1", do="heat", oven_c=wanted_c), use) is other

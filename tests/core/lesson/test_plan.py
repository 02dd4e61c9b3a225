"""The control points worked out from the demo recipe, and how they follow the profile."""

import pytest

from foodsafety.lesson import Brick, bricks, safety_plan
from foodsafety.rules import rule_profile
from tests.builders import ABench, AProcess, a_process, koftas


def test_the_demo_lesson_rises_in_six_courses_of_thirteen_bricks() -> None:
    plan = koftas()

    assert [phase for phase, _ in plan.courses] == ["arrive", "cold_first", "raw", "wash_back", "cook", "serve"]
    assert len(plan.controls) == 13


@pytest.mark.parametrize(
    ("code", "limit", "hold_s", "cold"), [("us-home", (165, "F"), 0, (40, "F")), ("uk", (70, "C"), 120, (5, "C"))]
)
def test_switching_the_profile_changes_the_limits(code: str, limit: object, hold_s: float, cold: object) -> None:
    plan = koftas(code)
    core, fridge = plan.by_id["core-griddle"], plan.by_id["fridge"]

    assert core.limit
    assert fridge.limit
    assert ((core.limit.value, core.limit.unit), core.limit_s) == (limit, hold_s)
    assert (fridge.limit.value, fridge.limit.unit) == cold


def test_every_control_point_names_where_its_limit_comes_from() -> None:
    assert all(control.section for code in ("us-home", "uk") for control in koftas(code).controls)


def test_a_recipe_without_raw_food_has_no_wash_back() -> None:
    process = (
        a_process().food("yoghurt", kind="yoghurt").step("mix", "yoghurt", tools="bowl", hands="AK", makes="raita")
    )

    plan = safety_plan(process.step("serve", "raita").serve("raita").build(), rule_profile("us-home"))

    assert {control.rule for control in plan.controls} == {
        "fridge-cold", "hands-on-arrival", "ready-to-eat-clean", "time-out", "leftovers-labelled",
    }  # fmt: skip


def test_food_that_is_never_heated_has_no_core_temperature_to_hide_behind() -> None:
    process = (
        a_process()
        .food("turkey", kind="turkey")
        .step("cut", "turkey", hands="AK")
        .step("serve", "turkey")
        .serve("turkey")
    )

    plan = safety_plan(process.build(), rule_profile("us-home"))

    assert plan.core_control("turkey") is None


def test_the_strictest_food_of_a_mixture_sets_the_limit() -> None:
    process = a_process().food("beef", kind="beef mince").food("turkey", kind="turkey mince")
    process.step("mix", "beef turkey", hands="AK", makes="koftas").step("heat", "koftas").step("serve", "koftas").serve(
        "koftas"
    )

    control = safety_plan(process.build(), rule_profile("us-home")).core_control("koftas")

    assert control
    assert control.limit
    assert control.limit.value == 165


def part_cooked() -> AProcess:
    process = a_process().food("chicken", kind="chicken").step("part_cook", "chicken", tools="pan", id="sear")
    process.step("transfer", "chicken", tools="bowl", id="aside").step("heat", "chicken", tools="pan", id="finish")
    return process.step("serve", "chicken", id="serve")


@pytest.mark.parametrize(("code", "limit_s"), [("us-foodservice", 3600.0), ("uk", None), ("us-home", None)])
def test_part_cooked_food_has_a_control_point_of_its_own(code: str, limit_s: float | None) -> None:
    [control] = [c for c in safety_plan(part_cooked().build(), rule_profile(code)).controls if c.rule == "part-cooked"]

    assert (control.steps, control.carriers, control.limit_s) == (("sear", "finish"), ("bowl",), limit_s)
    assert control.section


def test_part_cooked_food_is_laid_only_by_proof() -> None:
    plan = safety_plan(part_cooked().build(), rule_profile("us-home"))
    bench = ABench(plan).washes().does("sear", "aside", "finish")
    assert brick_of(bench, "part-sear").status == "due"

    for piece in ("1", "2", "3"):
        bench.says("core_read", food="chicken", piece=piece, core_c=80.0)
    assert brick_of(bench, "part-sear").status == "laid"


def test_part_cooked_food_that_is_served_unproven_is_missed() -> None:
    bench = ABench(safety_plan(part_cooked().build(), rule_profile("us-home"))).washes().does("sear", "aside", "serve")

    assert brick_of(bench, "part-sear").status in ("missed", "breach")


def brick_of(bench: ABench, name: str) -> Brick:
    return next(brick for brick in bricks(bench.state, bench.now_s) if brick.control.id == name)


def marinated(*, kept_apart: bool) -> AProcess:
    """Chicken and yoghurt chilled together and baked; some of the yoghurt may be served cold."""
    process = (
        a_process()
        .food("chicken", kind="chicken")
        .food("yoghurt", kind="yoghurt")
        .step("chill", "yoghurt", id="keep")
        .step("mix", "chicken yoghurt", tools="bowl", hands="A", makes="marinade", id="mix")
        .step("chill", "marinade", id="chill")
        .step("heat", "marinade", tools="oven", id="bake")
    )
    served = ["marinade", "yoghurt"] if kept_apart else ["marinade"]
    return process.step("serve", " ".join(served), id="serve").serve(*served)


@pytest.mark.parametrize(("kept_apart", "asked"), [(False, []), (True, [("yoghurt",)])])
def test_the_cold_is_asked_of_what_is_eaten_cold_and_not_of_a_marinade_that_is_baked(
    kept_apart: bool, asked: list[tuple[str, ...]]
) -> None:
    plan = safety_plan(marinated(kept_apart=kept_apart).build(), rule_profile("us-home"))
    assert [c.foods for c in plan.controls if c.rule == "chilled-in-time"] == asked

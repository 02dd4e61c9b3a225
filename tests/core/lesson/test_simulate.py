"""A simulated crew makes entries that the fold understands, and its slip is found."""

import json
from pathlib import Path

import pytest

from foodsafety.foods import locale_from
from foodsafety.lesson import ENTRIES, SLIPS, Slip, bricks, fold, rehearse, safety_plan
from foodsafety.recipes import process_from, read_recipe
from foodsafety.rules import rule_profile
from tests.builders import DEMOS, LEARNERS, chicken_and_salad, koftas


@pytest.mark.parametrize("code", ["us-home", "uk"])
def test_a_careful_crew_lays_every_brick(code: str) -> None:
    plan = koftas(code)
    events = rehearse(plan, LEARNERS, seed=1)

    state = fold(plan, LEARNERS, events)
    assert {brick.status for brick in bricks(state, events[-1].at_s)} == {"laid"}
    assert state.incidents == ()


@pytest.mark.parametrize(
    ("slip", "control", "status", "rule"),
    [
        ("unwashed_hands", "clean-salad", "mended", "ready-to-eat-meets-raw"),
        ("raw_tongs", "utensils-griddle", "mended", "cooked-meets-raw"),
        ("warm_fridge", "fridge", "mended", None),
        ("too_early", "core-griddle", "mended", "served-not-measured"),
        ("forgotten_chill_reading", "chilled-chill", "missed", None),
    ],
)
def test_a_planted_slip_is_found_where_it_was_planted(slip: Slip, control: str, status: str, rule: str | None) -> None:
    plan = koftas()
    events = rehearse(plan, LEARNERS, seed=3, slip=slip)

    state = fold(plan, LEARNERS, events)
    assert {b.control.id: b.status for b in bricks(state, events[-1].at_s)}[control] == status
    assert [incident.finding.rule for incident in state.incidents] == ([rule] if rule else [])


def test_the_same_seed_gives_the_same_lesson() -> None:
    assert rehearse(koftas(), LEARNERS, seed=5) == rehearse(koftas(), LEARNERS, seed=5)


@pytest.mark.parametrize("slip", SLIPS)
def test_a_crew_only_makes_entries_a_bench_can_make(slip: Slip) -> None:
    events = rehearse(koftas("uk"), LEARNERS, seed=9, slip=slip)

    assert {event.kind for event in events} <= set(ENTRIES)
    assert [event.at_s for event in events] == sorted(event.at_s for event in events)


@pytest.mark.parametrize("path", DEMOS, ids=lambda path: path.stem)
def test_every_demo_recipe_can_be_rehearsed_without_a_raw_breach(path: Path) -> None:
    plan = safety_plan(process_from(json.loads(path.read_text(encoding="utf-8"))["process"]), rule_profile("us-home"))

    events = rehearse(plan, ("AK", "JT", "NB"), seed=3)

    state = fold(plan, ("AK", "JT", "NB"), events)
    assert set(state.done) == {step.id for step in plan.process.steps}
    assert [incident.finding.rule for incident in state.incidents] == []


def test_a_careful_crew_washes_and_measures_though_the_recipe_says_nothing_of_it() -> None:
    plan = safety_plan(chicken_and_salad().build(), rule_profile("us-home"))
    events = rehearse(plan, LEARNERS, seed=2)

    state = fold(plan, LEARNERS, events)
    assert state.incidents == ()
    assert {brick.status for brick in bricks(state, events[-1].at_s)} == {"laid"}


TEXTS = sorted((Path(__file__).parents[2] / "walk" / "texts").glob("*.txt"))


@pytest.mark.parametrize("path", TEXTS, ids=lambda path: path.stem)
def test_a_careful_crew_brings_about_no_breach_that_is_not_the_recipes_own(path: Path) -> None:
    """Recipes as people write them: none of them says when to wash."""
    process = read_recipe(path.read_text(encoding="utf-8"), locale_from("en-GB")).process
    assert process is not None
    plan = safety_plan(process, rule_profile("us-home"))

    state = fold(plan, LEARNERS, rehearse(plan, LEARNERS, seed=2))
    assert {row.finding.rule for row in state.incidents} <= {"produce-not-rinsed", "no-kill-step"}

"""What a bench calls its foods: a name is for people, and moves no verdict."""

from dataclasses import replace
from typing import Any

import pytest

from foodsafety.lesson import (
    Event,
    Plan,
    bricks,
    fold,
    nameable,
    names_given,
    process_from_log,
    safety_plan,
    under_names,
)
from foodsafety.recipes import process_from
from tests.builders import LEARNERS, ABench, a_bench, demo_recipe, koftas

DATA = demo_recipe()["process"]


def under(log: list[Event]) -> Plan:
    """The plan with the names that a log gives."""
    now = names_given(process_from(DATA), log).now
    plan = koftas()
    return replace(safety_plan(process_from(under_names(DATA, now)), plan.profile, plan.house), known=now)


def cooked() -> ABench:
    return a_bench().cooks().says("on_heat", step="griddle").probes(60, 76, 76, 76, 76, 76, 76, 76).probes(77)


def as_seen(plan: Plan, log: list[Event], names: dict[str, str]) -> list[Any]:
    """Each brick with its verdict, the foods in the recipe's own names."""
    state = fold(plan, LEARNERS, log)
    text = repr([(brick.control.id, brick.status, brick.evidence) for brick in bricks(state, 5000)])
    for name, own in names.items():
        text = text.replace(name, own)
    return [text, {names.get(food, food): held.proof is not None for food, held in state.foods.items()}]


@pytest.mark.parametrize("when", [0, 5, -1])
def test_a_name_given_at_any_moment_moves_no_verdict(when: int) -> None:
    log = cooked().events
    name = Event(id="n", kind="named", at_s=log[when].at_s, data={"food": "koftas", "name": "turkey torpedoes"})
    named = [*log, name]

    assert as_seen(under(named), named, {"turkey torpedoes": "koftas"}) == as_seen(koftas(), log, {})
    assert "turkey torpedoes" in fold(under(named), LEARNERS, named).foods


def test_what_comes_under_the_new_name_counts_for_the_food() -> None:
    bench = cooked().says("named", food="koftas", name="torpedoes")
    bench.events.append(Event(id="late", kind="core_read", at_s=5000, data=reading("torpedoes", 50.0)))
    bench.events.append(Event(id="own", kind="core_read", at_s=5001, data=reading("koftas", 51.0)))

    held = fold(under(bench.events), LEARNERS, bench.events).food("torpedoes")
    assert [row.core_c for row in held.readings][-2:] == [50.0, 51.0]


def reading(food: str, core_c: float) -> dict[str, Any]:
    return {"food": food, "piece": "1", "core_c": core_c, "error_c": 0.0}


def test_the_last_name_holds_and_all_names_stay_known() -> None:
    bench = a_bench().says("named", food="koftas", name="one").says("named", food="koftas", name="two")
    names = names_given(process_from(DATA), bench.events)

    assert names.called == {"koftas": "two"}
    assert names.now == {"one": "two", "two": "two", "koftas": "two"}


def test_a_name_is_given_back_and_its_entry_voided() -> None:
    bench = a_bench().says("named", food="koftas", name="one").says("named", food="koftas", name="koftas")
    assert names_given(process_from(DATA), bench.events).called == {}

    bench = a_bench().says("named", food="koftas", name="one")
    bench.says("voided", event=bench.events[-1].id, reason="the wrong food")
    assert names_given(process_from(DATA), bench.events).now == {"one": "koftas"}


def test_of_two_foods_given_one_name_the_first_has_it() -> None:
    others = [food for food in nameable(process_from(DATA)) if food != "koftas"]
    bench = a_bench().says("named", food="koftas", name="one").says("named", food=others[0], name="one")
    bench.says("named", food="koftas", name="two").says("named", food=others[0], name="one")

    assert names_given(process_from(DATA), bench.events).called == {"koftas": "two"}


@pytest.mark.parametrize("name", ["", "  ", "x" * 61, "\x00", "AK", "yoghurt", "tray", 5, None, ["koftas"]])
def test_a_name_that_is_none_or_another_things_is_refused(name: Any) -> None:
    plan = koftas()
    taken = {
        "yoghurt": next(food for food in plan.process.food_ids if food != "koftas"),
        "tray": next(iter(plan.process.tools)),
    }
    bench = ABench(plan).says("named", food="koftas", name=taken.get(name, name) if isinstance(name, str) else name)

    assert [finding.evidence["field"] for finding in bench.findings] == ["name"]


def test_a_name_another_food_once_had_is_refused() -> None:
    plan = replace(koftas(), known={"one": "koftas"})
    other = next(food for food in plan.process.food_ids if food != "koftas")

    assert [row.evidence["field"] for row in ABench(plan).says("named", food=other, name="one").findings] == ["name"]


def test_a_food_made_is_named_before_what_it_is_made_of() -> None:
    process = process_from(DATA)
    names = nameable(process)

    assert set(names) == set(process.food_ids)
    assert list(names[: len(process.made)]) == list(process.made)


def test_the_log_is_retold_in_the_names_of_the_bench() -> None:
    bench = cooked().says("named", food="koftas", name="torpedoes")
    told = process_from_log(under(bench.events), LEARNERS, bench.events)

    assert "torpedoes" in {step.makes for step in told.process.steps}
    assert "koftas" not in told.process.food_ids


def test_every_food_of_a_recipe_can_be_renamed() -> None:
    process = process_from(DATA)
    events = [
        Event(id=f"n{i}", kind="named", at_s=i, data={"food": food, "name": f"no {i}"})
        for i, food in enumerate(nameable(process))
    ]

    renamed = process_from(under_names(DATA, names_given(process, events).now))
    assert sorted(renamed.food_ids) == sorted(f"no {i}" for i in range(len(events)))


def test_a_name_for_no_food_of_the_recipe_is_not_understood() -> None:
    bench = a_bench().says("named", food="gravy", name="sauce")

    assert [row.evidence["field"] for row in bench.findings] == ["food"]
    assert names_given(bench.plan.process, bench.events).now == {}

"""Bad processes are named, never guessed at."""

import pytest

from foodsafety.quantities import CoreError
from foodsafety.recipes import MAX_STEPS, process_from
from tests.builders import a_process, demo_recipe


def broken(**change: object) -> dict[str, object]:
    data = (
        a_process().food("turkey", "raw_poultry").step("heat", "turkey", hands="AK", tools="pan").serve("turkey").data
    )
    return {**data, **change}


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"steps": []}, "steps"),
        ({"steps": None}, "steps"),
        ({"steps": "cook it"}, "steps"),
        ({"steps": [{"id": "1", "do": "fry"}]}, r"steps\[0\]\.do"),
        ({"steps": [{"do": "cut"}]}, r"steps\[0\]\.id"),
        ({"steps": [{"id": "1", "do": "cut", "foods": ["ghost"]}]}, "foods"),
        ({"steps": [{"id": "1", "do": "cut", "tools": ["ghost"]}]}, "tools"),
        ({"steps": [{"id": "1", "do": "cut", "hands": ["ghost"]}]}, "hands"),
        ({"steps": [{"id": "1", "do": "cut", "after": ["2"]}]}, r"steps\[0\]\.after"),
        ({"steps": [{"id": "1", "do": "cut", "after": 7}]}, r"steps\[0\]\.after"),
        ({"steps": [{"id": "1", "do": "cut", "minutes": -4}]}, r"steps\[0\]\.minutes"),
        ({"steps": [{"id": "1", "do": "cut"}, {"id": "1", "do": "cut"}]}, r"steps\[1\]\.id"),
        ({"foods": {"turkey": {}}}, r"foods\.turkey"),
        ({"foods": {"turkey": {"kind": "moon rock"}}}, r"foods\.turkey\.kind"),
        ({"foods": []}, "foods"),
        ({"serve": ["ghost"]}, r"serve\[0\]"),
        ({"free_of": {"ghost": ["milk"]}}, r"free_of\.ghost"),
        ({"people": ["turkey"]}, r"people\.turkey"),
    ],
)
def test_a_wrong_field_is_named(change: dict[str, object], field: str) -> None:
    with pytest.raises(CoreError, match=field):
        process_from(broken(**change))


def test_steps_that_wait_for_each_other_are_named() -> None:
    ring = [{"id": "1", "do": "cut", "after": ["2"]}, {"id": "2", "do": "cut", "after": ["1"]}]

    with pytest.raises(CoreError, match=r"in a ring \(steps=1 \| 2"):
        process_from(broken(steps=ring))


def test_a_food_used_before_it_is_made_is_named() -> None:
    process = a_process().step("mix", "mince", makes="koftas")
    process.steps.insert(0, {"id": "0", "do": "heat", "foods": ["koftas"]})

    with pytest.raises(CoreError, match="used before made"):
        process.build()


def test_steps_are_moved_only_where_after_demands_it() -> None:
    process = (
        a_process().step("cut", "a", id="late", after=["early"]).step("cut", "b", id="early").step("cut", "c", id="end")
    )

    assert [step.id for step in process.build().steps] == ["early", "late", "end"]


def test_too_many_steps_are_refused_and_many_are_read() -> None:
    rows = [{"id": str(i), "do": "wipe"} for i in range(MAX_STEPS + 1)]

    assert len(process_from(broken(steps=rows[:500])).steps) == 500
    with pytest.raises(CoreError, match="steps"):
        process_from(broken(steps=rows))


def test_the_demo_recipe_is_a_process() -> None:
    process = process_from(demo_recipe()["process"])

    assert process.ingredients_of("raita") == {"yoghurt", "cucumber for the raita", "mint"}

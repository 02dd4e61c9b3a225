"""The step editor's moves: each gives a process that holds together, or says why it cannot."""

import json
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.quantities import CoreError
from foodsafety.recipes import (
    add_step_after,
    change_step,
    merge_steps,
    move_step,
    process_from,
    remove_step,
    rename_food,
    reorder_steps,
    say_eaten,
    set_food,
    split_step,
)
from tests.builders import demo_recipe


@pytest.fixture
def pie() -> dict[str, Any]:
    return demo_recipe("fish-pie")["process"]


def ids(process: dict[str, Any]) -> list[str]:
    return [step["id"] for step in process["steps"]]


def test_a_step_moves_where_the_person_puts_it(pie: dict[str, Any]) -> None:
    moved = move_step(pie, "rinse-leeks", -2)

    assert ids(moved)[0] == "rinse-leeks"
    assert [step.id for step in process_from(moved).steps] == ids(moved)


def test_a_step_cannot_move_before_what_makes_its_food(pie: dict[str, Any]) -> None:
    with pytest.raises(CoreError, match="used before made"):
        move_step(pie, "bake", -10)


def test_dragging_names_every_step_once(pie: dict[str, Any]) -> None:
    with pytest.raises(CoreError, match="order incomplete"):
        reorder_steps(pie, ids(pie)[:-1])


def test_a_step_with_two_orders_is_parted_between_them() -> None:
    process = {
        "foods": {"leeks": {"kind": "leek"}},
        "tools": {"knife": "knife"},
        "people": ["cook"],
        "serve": ["leeks"],
        "steps": [
            {
                "id": "1",
                "do": "rinse",
                "foods": ["leeks"],
                "detail": "Wash the leeks and slice them thinly.",
                "minutes": 6,
            }
        ],
    }

    first, second = split_step(process, "1")["steps"]

    assert (first["do"], first["detail"]) == ("rinse", "Wash the leeks.")
    assert (second["do"], second["detail"], second["after"]) == ("cut", "Slice them thinly.", ["1"])
    assert first["minutes"] + second["minutes"] == 6


def test_joining_two_steps_keeps_their_foods_tools_and_time(pie: dict[str, Any]) -> None:
    joined = merge_steps(pie, "rinse-leeks")
    step = next(step for step in joined["steps"] if step["id"] == "rinse-leeks")

    assert step["do"] == "cut"
    assert set(step["tools"]) == {"colander", "veg board", "veg knife"}
    assert step["minutes"] == 7


def test_the_last_step_has_nothing_to_join(pie: dict[str, Any]) -> None:
    with pytest.raises(CoreError, match="no step after"):
        merge_steps(pie, "serve")


def test_a_step_whose_food_is_used_later_cannot_go(pie: dict[str, Any]) -> None:
    with pytest.raises(CoreError, match="filling"):
        remove_step(pie, "fill")


def test_a_removed_step_hands_on_what_it_waited_for(pie: dict[str, Any]) -> None:
    left = remove_step(pie, "wash")

    assert "wash" not in ids(left)
    assert "cut-fish" in next(step for step in left["steps"] if step["id"] == "fill")["after"]


def test_a_new_step_stands_after_its_neighbour(pie: dict[str, Any]) -> None:
    more = add_step_after(pie, "cut-fish", {"do": "wash_hands", "hands": ["cook"], "title": "Wash"})

    assert more["steps"][ids(pie).index("cut-fish") + 1]["do"] == "wash_hands"


@pytest.mark.parametrize(
    ("fields", "field"),
    [
        ({"do": "teleport"}, "do"),
        ({"minutes": -1}, "minutes"),
        ({"minutes": 5, "waiting_min": 9}, "waiting_min"),
        ({"oven_c": 900}, "oven_c"),
        ({"core_c": 400}, "core_c"),
        ({"foods": ["unicorn"]}, "unicorn"),
        ({"hands": ["nobody"]}, "nobody"),
    ],
)
def test_a_field_that_is_wrong_is_named(pie: dict[str, Any], fields: dict[str, Any], field: str) -> None:
    with pytest.raises(CoreError, match=field):
        change_step(pie, "bake", fields)


def test_a_cycle_is_refused(pie: dict[str, Any]) -> None:
    with pytest.raises(CoreError, match="ring"):
        change_step(pie, "slice", {"after": ["bake"]})


def test_an_unknown_food_can_be_said_to_be_a_kind_or_to_bring_soils(pie: dict[str, Any]) -> None:
    as_kind = process_from(set_food(pie, "peas", "lentils", [], ["celery"]))
    as_soils = process_from(set_food(pie, "peas", None, ["unwashed_produce"], []))

    assert (as_kind.foods["peas"].kind.id, as_kind.foods["peas"].allergens) == ("lentils", {"celery"})
    assert as_soils.foods["peas"].soils == {"unwashed_produce"}


@given(st.data())
def test_any_run_of_edits_leaves_a_process_that_holds_together(data: st.DataObject) -> None:
    process = demo_recipe("fish-pie")["process"]
    for _ in range(data.draw(st.integers(1, 6))):
        edit = data.draw(
            st.sampled_from(
                [
                    lambda p, s: move_step(p, s, -1),
                    lambda p, s: move_step(p, s, 2),
                    split_step,
                    merge_steps,
                    remove_step,
                ]
            )
        )
        step = data.draw(st.sampled_from(ids(process)))
        before = json.dumps(process)
        try:
            after = edit(process, step)
        except CoreError:
            after = process
        assert json.dumps(process) == before
        process = after
        process_from(process)


def test_a_food_that_is_made_is_called_the_same_wherever_it_is_named(pie: dict[str, Any]) -> None:
    step = next(step for step in pie["steps"] if step.get("makes") in pie["serve"])
    renamed = change_step(pie, step["id"], {"makes": "Thursday's pie", "foods": step["foods"]})

    assert "Thursday's pie" in renamed["serve"]
    assert step["makes"] not in process_from(renamed).food_ids
    assert ids(renamed) == ids(pie)


@pytest.mark.parametrize(("old", "new", "says"), [("leeks", "oven", "names two"), ("gone", "new", "no such food")])
def test_a_name_that_is_taken_or_of_nothing_is_refused(pie: dict[str, Any], old: str, new: str, says: str) -> None:
    with pytest.raises(CoreError, match=says):
        rename_food(pie, old, new)


def test_what_is_eaten_follows_the_serving_step(pie: dict[str, Any]) -> None:
    last = pie["steps"][-1]
    assert last["do"] == "serve"
    unserved = remove_step(pie, last["id"])
    assert unserved["serve"] == []
    said = say_eaten(unserved, list(last["foods"]), "Serve")
    assert said["serve"] == last["foods"]
    fewer = change_step(said, said["steps"][-1]["id"], {"foods": last["foods"][:1]})
    assert fewer["serve"] == last["foods"][:1]
    with pytest.raises(CoreError, match="nothing served"):
        say_eaten(unserved, [], "Serve")

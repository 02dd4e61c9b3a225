"""The read-through before a lesson."""

from typing import Any

from foodsafety.foods import allergens_for
from foodsafety.recipes import (
    process_from,
)
from foodsafety.review import review_recipe
from foodsafety.rules import House, rule_profile
from tests.builders import a_process, demo_recipe


def test_a_read_through_counts_what_all_benches_need_and_what_is_lacking() -> None:
    recipe = demo_recipe("turkey-koftas")
    read = review_recipe(
        process_from(recipe["process"]), recipe["process"]["steps"], named=allergens_for(profile_id="uk"),
        profile=rule_profile("uk"), house=House(), benches=4, equipment={"grater": 3, "bowl": 40},
    )  # fmt: skip

    needs = {need.kind: need for need in read.needs}
    assert (needs["grater"].all, needs["grater"].lacking) == (4, 1)
    assert needs["bowl"].lacking == 0
    assert needs["tongs"].have is None
    assert {"hob_ring"} == {need.kind for need in read.sources}
    assert set(read.allergens) == {"gluten", "milk"}
    assert read.path_min <= read.active_min + read.waiting_min


def ends_of(process: Any) -> dict[tuple[str, str], str | None]:
    built = process.build()
    rows = [{"id": step.id, "minutes": 1} for step in built.steps]
    read = review_recipe(built, rows, named=allergens_for(), profile=rule_profile("uk"), house=House())
    return {(row.food, row.hazard): row.ends for row in read.hazards if row.soil}


def test_a_hazard_is_ended_only_by_what_ends_it() -> None:
    process = a_process().food("leek", kind="leek").food("moonrock", "unknown").food("salad", kind="lettuce")
    process.step("rinse", "leek", id="wash").step("heat", "leek moonrock", tools="pan", id="fry", makes="pan1")
    ends = ends_of(process.serve("pan1", "salad"))

    assert ends[("leek", "unwashed_produce")] == "wash"
    assert ends[("moonrock", "unknown")] is None
    assert ends[("salad", "unwashed_produce")] is None


def test_a_hazard_of_which_a_part_goes_another_way_is_not_ended() -> None:
    process = a_process().food("egg", kind="egg").step("mix", "egg", makes="mayo").step("heat", "egg", tools="pan")

    assert ends_of(process.serve("mayo", "egg")) == {("egg", "raw_egg"): None}


def test_what_can_be_done_ahead_says_where_it_is_kept() -> None:
    recipe = demo_recipe("custard-tart")
    read = review_recipe(
        process_from(recipe["process"]),
        recipe["process"]["steps"],
        named=allergens_for(),
        profile=rule_profile("uk"),
        house=House(),
    )

    assert {(row.step, row.place) for row in read.ahead} == {("cool", "out"), ("chill", "fridge")}

"""The moves themselves: what one step passes on, what it ends, and what it cannot end."""

import pytest

from foodsafety.contamination.transfer import Trace, do_step, opening_surfaces, step_members
from foodsafety.recipes import Process
from tests.builders import AProcess, a_process


def soils_after(process: Process, *, unwashed: bool = False) -> dict[str, set[str]]:
    """What every carrier holds once all the steps are done."""
    surfaces = opening_surfaces(process, people=process.people, unwashed=unwashed)
    for step in process.steps:
        surfaces, _ = do_step(surfaces, process, step)
    return {name: set(held) for name, held in surfaces.items() if held}


def turkey() -> AProcess:
    return a_process().food("turkey", "raw_poultry")


def test_a_contact_passes_soils_both_ways() -> None:
    process = turkey().food("flour", "raw_flour").step("mix", "turkey flour", tools="bowl", hands="AK").build()
    both = {"raw_poultry", "raw_flour"}
    assert soils_after(process) == {"turkey": both, "flour": both, "bowl": both, "AK": both}


def test_what_a_soiled_tool_touches_next_catches_it_with_its_whole_path() -> None:
    process = (
        turkey().step("cut", "turkey", tools="board", id="s1").step("cut", "cucumber", tools="board", id="s2").build()
    )
    surfaces = opening_surfaces(process, people=(), unwashed=False)
    surfaces, first = do_step(surfaces, process, process.steps[0])
    surfaces, second = do_step(surfaces, process, process.steps[1])
    assert first == ()
    [caught] = second
    assert (caught.food, caught.soil, caught.path) == ("cucumber", "raw_poultry", ("turkey", "board", "cucumber"))
    assert surfaces["cucumber"]["raw_poultry"].at == ("", "s1", "s2")


@pytest.mark.parametrize(("how", "stays"), [("clean", False), ("wipe", True), ("rinse", True)])
def test_only_cleaning_clears_a_tool(how: str, stays: bool) -> None:
    process = turkey().step("cut", "turkey", tools="knife").step(how, tools="knife").build()
    assert ("knife" in soils_after(process)) is stays


@pytest.mark.parametrize("again", [1, 3])
def test_washing_hands_clears_those_hands_and_no_others(again: int) -> None:
    process = turkey().step("touch", "turkey", hands="AK JT")
    for _ in range(again):
        process = process.step("wash_hands", hands="AK")
    held = soils_after(process.build())
    assert "AK" not in held
    assert held["JT"] == {"raw_poultry"}


def test_gloves_are_no_wash() -> None:
    process = turkey().step("touch", "turkey", hands="AK").step("gloves_on", hands="AK").build()
    assert soils_after(process)["AK"] == {"raw_poultry"}


def test_heat_clears_the_food_and_the_vessel_heated_with_it_never_the_tool_beside_it() -> None:
    process = (
        turkey()
        .step("transfer", "turkey", tools="pan tongs")
        .step("heat", "turkey", tools="pan tongs", makes="cooked turkey")
        .build()
    )
    held = soils_after(process)
    assert "pan" not in held
    assert "cooked turkey" not in held
    assert held["tongs"] == {"raw_poultry"}


@pytest.mark.parametrize("soil", ["milk", "toxin", "chemical", "unknown"])
def test_heat_ends_no_allergen_toxin_residue_or_what_nobody_knows(soil: str) -> None:
    process = a_process().food("sauce", soil).step("heat", "sauce", tools="pan").build()
    assert soil in soils_after(process)["sauce"]


def test_rinsing_ends_what_produce_brings_and_nothing_raw() -> None:
    process = a_process().food("salad", "unwashed_produce").step("rinse", "salad", tools="colander").build()
    assert "salad" not in soils_after(process)
    process = turkey().step("rinse", "turkey", tools="sink").build()
    assert "raw_poultry" in soils_after(process)["turkey"]


def test_what_is_made_carries_what_its_parts_carried() -> None:
    process = turkey().step("mix", "turkey onion", makes="mince").build()
    assert soils_after(process)["mince"] == {"raw_poultry"}


def test_hands_that_arrive_unwashed_carry_the_person_until_they_are_washed() -> None:
    process = a_process().step("touch", "bread", hands="AK").build()
    assert soils_after(process, unwashed=True)["bread"] == {"person"}
    washed = a_process().step("wash_hands", hands="AK").step("touch", "bread", hands="AK").build()
    assert "bread" not in soils_after(washed, unwashed=True)
    assert "bread" not in soils_after(process, unwashed=False)


def test_the_shorter_way_is_the_one_that_is_told() -> None:
    """A food that meets a soil again by a longer way keeps the trace by which it has it."""
    process = (
        turkey()
        .step("mix", "turkey salad", tools="bowl")
        .step("touch", "turkey", hands="AK")
        .step("touch", "salad", hands="AK")
        .build()
    )
    surfaces = opening_surfaces(process, people=(), unwashed=False)
    for step in process.steps:
        surfaces, _ = do_step(surfaces, process, step)
    assert surfaces["salad"]["raw_poultry"].path == ("turkey", "salad")


def test_a_trace_that_nobody_could_read_is_cut_in_the_middle() -> None:
    trace = Trace(("turkey",))
    for i in range(60):
        trace = trace.to(f"board {i}", f"s{i}")
    assert len(trace.path) == len(trace.at) <= 24
    assert trace.path[0] == "turkey"
    assert trace.path[-1] == "board 59"


def test_members_of_a_step_are_its_foods_tools_and_hands() -> None:
    process = turkey().step("cut", "turkey", tools="board knife", hands="AK").build()
    assert set(step_members(process, process.steps[0])) == {"turkey", "board", "knife", "AK"}

"""Mends, orders within a time, and one eater's portion: judged by the analysis, not by the model."""

from dataclasses import replace
from itertools import combinations, product

import pytest
from hypothesis import given, settings

from foodsafety.contamination import find_contamination
from foodsafety.ordering import (
    Compiled,
    Freedom,
    OrderModel,
    allergen_run,
    best_order,
    elapsed_s,
    find_repairs,
    in_best_order,
    wash_count,
    washes_as_written,
    washes_needed,
)
from foodsafety.recipes import Process, Step, process_from
from foodsafety.rules import House
from tests.builders import AProcess, a_process, demo_recipe
from tests.core.contamination.test_analysis import process_of, steps
from tests.core.random_processes import crossed, peculiar


def mint_after_turkey() -> AProcess:
    """Raw turkey, then mint with the same hands; the hands are washed too late."""
    process = a_process().food("turkey", kind="turkey").step("mix", "turkey", tools="bowl", hands="AK", id="turkey")
    process.step("cut", "mint2", hands="AK", id="mint").step("wash_hands", hands="AK", id="wash")
    return process.step("heat", "turkey", tools="pan", id="cook").serve("turkey", "mint2")


def by_kind(process: Process, house: House | None = None) -> dict[str, object]:
    return {repair.kind: repair for repair in find_repairs(process, house)}


def test_nothing_to_repair_needs_no_repair() -> None:
    assert find_repairs(a_process().step("cut", "cucumber", hands="AK").serve("cucumber").build()) == ()


def test_one_wash_or_one_move_repairs_raw_hands_on_mint() -> None:
    ways = {repair.kind: repair for repair in find_repairs(mint_after_turkey().build())}

    assert ways["wash"].changes == 1
    assert ways["wash"].left == ()
    assert ways["move"].changes == 1
    assert ways["move"].left == ()
    assert ways["move"].cost.litres == 0
    assert all(repair.proven for repair in ways.values())


def test_another_pair_of_hands_repairs_it_too() -> None:
    process = mint_after_turkey().step("touch", "bread2", hands="JT").serve("turkey", "mint2", "bread2")
    [hands] = [repair for repair in find_repairs(process.build()) if repair.kind == "hands"]

    assert hands.handed in ((("mint", "AK", "JT"),), (("turkey", "AK", "JT"),))
    assert hands.left == ()


def test_second_tongs_repair_what_the_raw_ones_lift_off() -> None:
    process = a_process().food("koftas", kind="turkey").step("heat", "koftas", tools="pan tongs", id="cook")
    process.step("transfer", "koftas", tools="tongs plate", id="lift").serve("koftas")

    [tool] = [repair for repair in find_repairs(process.build()) if repair.kind == "tool"]

    assert tool.copies == (("tongs 2", "tongs"),)
    assert (tool.cost.tools, tool.cost.litres, tool.left) == (1, 0, ())


def test_a_sink_is_not_bought_twice() -> None:
    process = a_process().food("turkey", kind="turkey").step("cut", "turkey", tools="sink", id="raw")
    process.step("cut", "bread2", tools="sink", id="bread").step("heat", "turkey", tools="pan").serve(
        "turkey", "bread2"
    )

    assert "tool" not in by_kind(process.build())


def test_what_is_eaten_raw_is_repaired_by_no_wash() -> None:
    process = a_process().food("turkey", kind="turkey").step("cut", "turkey", tools="board").serve("turkey")

    assert find_repairs(process.build()) == ()


def test_the_glove_school_is_repaired_with_gloves_over_washed_hands() -> None:
    process = a_process().step("cut", "bread2", tools="board", hands="AK", id="cut").serve("bread2").build()
    [repair] = find_repairs(process, House(gloves="gloves"))

    assert [step.do for step in repair.process.steps] == ["wash_hands", "gloves_on", "cut", "gloves_off"]
    assert repair.left == ()


def test_the_school_of_separate_boards_is_repaired_with_a_second_board() -> None:
    process = a_process().food("turkey", kind="turkey").step("cut", "turkey", tools="board", id="raw")
    process.step("clean", tools="board").step("cut", "bread2", tools="board").step("heat", "turkey", tools="pan")
    house = House(boards="separate")

    [repair] = find_repairs(process.serve("turkey", "bread2").build(), house)

    assert repair.copies == (("board 2", "board"),)
    assert repair.left == ()
    assert find_repairs(process.build(), House(boards="one_in_order")) == ()


def test_sanitising_and_drying_by_hand_cost_more() -> None:
    process = (
        a_process()
        .food("turkey", kind="turkey")
        .step("cut", "turkey", tools="board")
        .step("cut", "bread2", tools="board")
    )
    process.step("heat", "turkey", tools="pan").serve("turkey", "bread2")

    def cost(house: House) -> float:
        [wash] = [repair for repair in find_repairs(process.build(), house) if repair.kind == "wash"]
        return wash.cost.seconds

    plain = cost(House(sanitise="wash", drying="air"))
    assert cost(House(sanitise="sanitise", drying="air")) > plain
    assert cost(House(sanitise="wash", drying="paper")) > plain


@given(steps)
@settings(max_examples=25, deadline=None)
def test_a_wash_repair_is_what_brute_force_finds(rows: list[dict[str, object]]) -> None:
    process = process_of(rows)
    found = [repair for repair in find_repairs(process) if repair.kind == "wash"]
    if not found or found[0].left:
        return

    assert found[0].changes == fewest_washes(process, most=found[0].changes)


def fewest_washes(process: Process, *, most: int) -> int:
    """Every way to wash one carrier before one step, singly, in pairs and so on."""
    places = [
        (i, carrier)
        for i, step in enumerate(process.steps)
        if step.do not in ("wash_hands", "clean")
        for carrier in (*step.tools, *step.hands)
    ]
    for count in range(most):
        for group in combinations(places, count):
            if not find_contamination(with_washes(process, group)):
                return count
    return most


def with_washes(process: Process, group: tuple[tuple[int, str], ...]) -> Process:
    rows: list[Step] = []
    for i, step in enumerate(process.steps):
        for n, (at, carrier) in enumerate(group):
            if at == i:
                hands = carrier in process.people
                do = "wash_hands" if hands else "clean"
                rows.append(
                    Step(id=f"w{n}", do=do, hands=(carrier,) if hands else (), tools=() if hands else (carrier,))
                )
        rows.append(step)
    return replace(process, steps=tuple(rows))


@pytest.mark.parametrize(("seed", "soils"), list(product(range(5), (2, 4))))
def test_the_constraint_model_and_the_search_prove_the_same_fewest_washes(seed: int, soils: int) -> None:
    process = crossed(seed, 9, soils=soils)
    model = OrderModel(Compiled(process, House()), Freedom(moves=True, written_washes=False), {"wash": 1})
    found = model.solve(seconds=30)

    assert found is not None
    assert found.proven
    assert not found.breaches
    assert round(found.cost) == best_order(process).washes


@pytest.mark.parametrize("seed", range(6))
def test_the_constraint_model_agrees_on_the_written_order(seed: int) -> None:
    process = crossed(seed, 14)
    found = OrderModel(Compiled(process, House()), Freedom(), {"wash": 1}).solve(seconds=30)

    assert found is not None
    assert round(found.cost) == washes_as_written(process).washes


@pytest.mark.parametrize("seed", range(60))
def test_towels_shelves_mouths_and_gloves_mean_the_same_to_model_and_search(seed: int) -> None:
    process = peculiar(seed)
    found = OrderModel(Compiled(process, House()), Freedom(), {"wash": 1}).solve(seconds=30)
    written = washes_as_written(process)

    assert found is not None
    if any(len(finding.path) == 2 for finding in find_contamination(process)):
        return  # food spoils food, or a phone touches it: no wash helps, and each says so in its own way
    assert bool(found.breaches) == (written.washes is None)
    assert written.washes is None or round(found.cost) + wash_count(process) == written.washes


def test_the_best_order_keeps_the_washing_up_after_raw() -> None:
    process = process_from(demo_recipe()["process"])
    best = in_best_order(process)

    assert best is not None
    assert best.left == ()
    assert best.washes <= wash_count(process)
    washed = {
        name for step in best.process.steps if step.do in ("clean", "wash_hands") for name in (*step.tools, *step.hands)
    }
    assert {"cook", "board", "mixing bowl"} <= washed


def test_an_order_within_the_time_takes_no_longer() -> None:
    process = a_process().food("beef", "raw_meat").step("cut", "beef", tools="board", hands="AK", id="raw", minutes=5)
    process.step("heat", "beef", tools="pot", id="stew", minutes=60, waiting_min=60)
    process.step("cut", "bread2", tools="board", hands="AK", id="bread", minutes=30).serve("beef", "bread2")
    written = process.build()

    fewest, quick = in_best_order(written), in_best_order(written, within_s=elapsed_s(written) + 120)

    assert fewest is not None
    assert quick is not None
    assert (fewest.washes, quick.washes) == (0, 2)
    assert quick.elapsed_s <= elapsed_s(written) + 120 < fewest.elapsed_s
    assert quick.left == ()


def test_time_counts_what_waits_for_hands_tools_and_food() -> None:
    process = a_process().step("chill", "custard", tools="fridge", hands="AK", minutes=30, waiting_min=28)
    process.step("cut", "bread", tools="board", hands="AK", minutes=5).step(
        "cut", "fruit", tools="board", hands="JT", minutes=5
    )

    # AK is free after 2 minutes and cuts until 7; JT waits for the board until 7, then cuts until 12.
    assert elapsed_s(process.build()) == 30 * 60
    assert washes_needed(process.build()) == 0


def shared_board() -> AProcess:
    process = a_process().food("crumbs", kind="breadcrumbs").step("cut", "crumbs", tools="board", id="crumb")
    return (
        process.step("cut", "fish2", tools="board", id="fish")
        .step("heat", "fish2", tools="pan")
        .serve("fish2", "crumbs")
    )


def test_an_order_keeps_one_portion_free_of_wheat() -> None:
    run = allergen_run(shared_board().build(), "fish2", ["wheat"])

    assert run.repair is not None
    assert not [finding for finding in run.repair.left if finding.soil == "wheat"]
    assert run.repair.cost.tools == 0


def test_an_allergen_in_the_portion_itself_cannot_be_kept_out() -> None:
    process = a_process().food("crumbs", kind="breadcrumbs").step("mix", "crumbs fish2", tools="bowl", makes="cakes")
    run = allergen_run(process.step("heat", "cakes", tools="pan").serve("cakes").build(), "cakes", ["wheat"])

    assert run.repair is None
    assert {finding.rule for finding in run.why} == {"allergen-inside"}


def test_foods_cooked_in_one_pan_together_cannot_be_kept_apart() -> None:
    process = a_process().food("crumbs", kind="breadcrumbs").step("heat", "crumbs fish2", tools="pan", id="fry")
    run = allergen_run(process.serve("fish2", "crumbs").build(), "fish2", ["wheat"])

    assert run.repair is None
    assert [finding.path for finding in run.why] == [("crumbs", "fish2")]


def test_a_second_tool_counts_only_where_the_kitchen_has_one() -> None:
    process = shared_board().build()
    without = allergen_run(process, "fish2", ["wheat"], spare={"board": 0})
    assert without.repair is not None
    assert without.repair.copies == ()

"""What we offer is never absurd: no washing of what food lies in, no raw food left standing, no arrival
wash lost."""

from foodsafety.ordering import find_repairs, in_best_order
from foodsafety.ordering.reordering import raw_stands_s
from foodsafety.recipes import Process
from foodsafety.rules import House
from tests.builders import a_process
from tests.core.random_processes import crossed


def washed_while_full(process: Process) -> list[tuple[str, str]]:
    """(wash step, tool) of everything cleaned while the food of the next step in it still lies there."""
    lies: dict[str, set[str]] = {}
    found = []
    steps = process.steps
    for i, step in enumerate(steps):
        if step.do == "clean":
            following = next((s for s in steps[i + 1 :] if s.do not in ("clean", "wash_hands")), None)
            full = {n for food in (following.foods if following else ()) for n in lies.get(food, ())}
            found += [(step.id, tool) for tool in step.tools if tool in full]
        elif step.foods:
            kit = {name for name in step.tools if process.tools[name].kind in ("bowl", "pan", "board", "skewer")}
            lies |= dict.fromkeys((*step.foods, *([step.makes] if step.makes else [])), kit)
    return found


def written_so(process: Process) -> set[tuple[str, str]]:
    return set(washed_while_full(process))


def test_no_repair_washes_what_the_food_of_the_step_lies_in() -> None:
    for seed in range(12):
        process = crossed(seed, 10)
        for way in find_repairs(process, House()):
            assert set(washed_while_full(way.process)) <= written_so(process), (seed, way.kind)
        best = in_best_order(process, House())
        assert best is None or not washed_while_full(best.process), seed


def test_a_skewer_is_not_washed_with_food_on_it() -> None:
    process = (
        a_process()
        .food("meat", "raw_meat")
        .step("transfer", "meat", tools="skewer", hands="A", id="thread")
        .step("heat", "meat", tools="grill skewer", id="grill")
        .step("serve", "meat", tools="plate", hands="B", id="serve")
        .serve("meat")
        .build()
    )
    for way in find_repairs(process, House()):
        before = way.process.step_index["grill"]
        assert not any("skewer" in s.tools for s in way.process.steps[:before] if s.do == "clean")


def long_salad() -> Process:
    return (
        a_process()
        .food("bird", "raw_poultry")
        .step("wash_hands", hands="A", id="arrive")
        .step("cut", "leaves", tools="board", hands="A", minutes=50, id="leaves")
        .step("cut", "bird", tools="board", hands="A", minutes=10, id="bird")
        .step("cut", "herbs", tools="board", hands="A", minutes=50, id="herbs")
        .step("heat", "bird", tools="pan tongs", minutes=15, id="fry")
        .serve("leaves", "herbs", "bird")
        .build()
    )


def test_no_order_leaves_raw_food_standing_longer_than_the_recipe_or_half_an_hour() -> None:
    process = long_salad()
    best = in_best_order(process, House())
    assert best is not None
    assert raw_stands_s(process)["bird"] == 60 * 60
    assert raw_stands_s(best.process)["bird"] <= 60 * 60


def test_the_wash_on_arrival_stays_first() -> None:
    best = in_best_order(long_salad(), House())
    assert best is not None
    assert best.process.steps[0].id == "arrive"

"""Contamination: written cases with the path each finding must carry."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.contamination import find_contamination
from foodsafety.recipes import process_from
from foodsafety.rules import House
from tests.builders import AProcess, a_process, demo_recipe


def kofta_and(cucumber_step: str = "cut") -> AProcess:
    """Raw turkey shaped by AK on a board; the cucumber is yet to come."""
    return a_process().food("turkey", kind="turkey mince").step("cut", "turkey", tools="board knife", hands="AK")


def found(process: AProcess, house: House | None = None) -> list[tuple[str, str, tuple[str, ...]]]:
    return [(f.rule, f.food, f.path) for f in find_contamination(process.build(), house)]


def test_raw_hands_carry_turkey_to_the_cucumber() -> None:
    process = kofta_and().step("cut", "cucumber", hands="AK").serve("cucumber")

    assert found(process) == [("ready-to-eat-meets-raw", "cucumber", ("turkey", "AK", "cucumber"))]


def test_the_same_board_carries_turkey_to_the_cucumber() -> None:
    process = kofta_and().step("cut", "cucumber", tools="board", hands="JT").serve("cucumber")

    assert found(process) == [("ready-to-eat-meets-raw", "cucumber", ("turkey", "board", "cucumber"))]


@pytest.mark.parametrize("wash", ["wash_hands", "clean"])
def test_washing_what_touches_ends_it(wash: str) -> None:
    process = kofta_and().step("wash_hands", hands="AK").step("clean", tools="board knife")
    process.step("cut", "cucumber", tools="board knife", hands="AK").serve("cucumber")

    assert found(process) == []


@pytest.mark.parametrize("instead", ["wipe", "rinse"])
def test_wiping_and_rinsing_a_board_are_not_cleaning(instead: str) -> None:
    process = (
        kofta_and().step(instead, tools="board").step("cut", "cucumber", tools="board", hands="JT").serve("cucumber")
    )

    assert [path for _, _, path in found(process)] == [("turkey", "board", "cucumber")]


def test_a_shared_cloth_carries_from_board_to_board() -> None:
    process = kofta_and().step("wipe", tools="board cloth").step("wipe", tools="cloth board2")
    process.step("cut", "cucumber", tools="board2", hands="JT").serve("cucumber")

    assert [path for _, _, path in found(process)] == [("turkey", "board", "cloth", "board2", "cucumber")]


def test_tongs_carry_raw_kofta_to_the_cooked_one() -> None:
    process = a_process().food("koftas", kind="turkey").step("heat", "koftas", tools="pan tongs")
    process.step("transfer", "koftas", tools="tongs").serve("koftas")

    assert found(process) == [("cooked-meets-raw", "koftas", ("koftas", "tongs", "koftas"))]


def test_cooked_food_back_on_the_raw_plate() -> None:
    process = (
        a_process()
        .food("koftas", kind="turkey")
        .step("transfer", "koftas", tools="plate")
        .step("heat", "koftas", tools="pan")
    )
    process.step("transfer", "koftas", tools="plate").serve("koftas")

    assert found(process) == [("cooked-meets-raw", "koftas", ("koftas", "plate", "koftas"))]


def test_a_brush_used_on_raw_then_on_cooked() -> None:
    process = a_process().food("turkey", kind="turkey").step("brush", "turkey", tools="brush")
    process.step("heat", "turkey", tools="tray").step("brush", "turkey", tools="brush").serve("turkey")

    assert found(process) == [("cooked-meets-raw", "turkey", ("turkey", "brush", "turkey"))]


def test_a_pan_is_cooked_clean_with_the_food_in_it() -> None:
    process = (
        a_process()
        .food("koftas", kind="turkey")
        .step("heat", "koftas", tools="pan")
        .step("transfer", "koftas", tools="pan")
    )

    assert found(process.serve("koftas")) == []


def test_no_alarm_where_a_proven_kill_step_follows() -> None:
    process = (
        kofta_and().step("cut", "onion", tools="board", hands="AK").step("heat", "onion", tools="pan").serve("onion")
    )

    assert found(process) == []


def test_part_cooking_is_no_kill_step() -> None:
    process = a_process().food("turkey", kind="turkey").step("part_cook", "turkey", tools="pan").serve("turkey")

    assert found(process) == [("no-kill-step", "turkey", ("turkey",))]


def test_everything_mixed_with_raw_is_raw() -> None:
    process = (
        a_process()
        .food("turkey", kind="turkey")
        .step("mix", "turkey onion", tools="bowl", makes="skewers")
        .serve("skewers")
    )

    assert found(process) == [("no-kill-step", "skewers", ("turkey", "skewers"))]


def test_raw_food_beside_ready_to_eat_food_in_one_step_reaches_it() -> None:
    process = a_process().food("turkey", kind="turkey").step("cut", "turkey pepper2", tools="board")
    process.step("heat", "turkey", tools="pan").serve("turkey", "pepper2")

    assert found(process) == [("ready-to-eat-meets-raw", "pepper2", ("turkey", "pepper2"))]


def test_putting_gloves_over_raw_hands_changes_nothing() -> None:
    process = kofta_and().step("gloves_on", hands="AK").step("cut", "cucumber", hands="AK").serve("cucumber")

    assert [path for _, _, path in found(process)] == [("turkey", "AK", "cucumber")]


def test_hands_washed_with_gloves_on_leave_the_gloves_raw() -> None:
    process = a_process().food("turkey", kind="turkey").step("gloves_on", hands="AK").step("cut", "turkey", hands="AK")
    process.step("wash_hands", hands="AK").step("cut", "cucumber", hands="AK").serve("cucumber")

    assert len(found(process)) == 1


def test_gloves_off_hands_washed_is_clean() -> None:
    process = a_process().food("turkey", kind="turkey").step("gloves_on", hands="AK").step("cut", "turkey", hands="AK")
    process.step("gloves_off", hands="AK").step("wash_hands", hands="AK").step("cut", "cucumber", hands="AK").serve(
        "cucumber"
    )

    assert found(process) == []


def test_a_touched_phone_brings_what_people_carry() -> None:
    process = a_process().step("touch", tools="phone", hands="AK").step("cut", "cucumber", hands="AK").serve("cucumber")

    assert found(process) == [("unwashed-hands", "cucumber", ("phone", "AK", "cucumber"))]


def test_hands_count_as_unwashed_where_the_house_says_so() -> None:
    process = a_process().step("cut", "cucumber", hands="AK").serve("cucumber")

    assert found(process) == []
    assert found(process, House(arrive="unwashed")) == [("unwashed-hands", "cucumber", ("AK", "cucumber"))]


def test_rinsing_raw_poultry_is_a_finding_of_its_own() -> None:
    process = (
        a_process()
        .food("turkey", kind="turkey")
        .step("rinse", "turkey", tools="sink")
        .step("heat", "turkey", tools="pan")
    )

    assert found(process.serve("turkey")) == [("raw-meat-rinsed", "turkey", ("turkey", "sink"))]


def test_the_sink_a_raw_bird_was_rinsed_in_reaches_the_salad() -> None:
    process = (
        a_process()
        .food("turkey", kind="turkey")
        .step("rinse", "turkey", tools="sink")
        .step("heat", "turkey", tools="pan")
    )
    process.step("rinse", "leaves", tools="sink").serve("turkey", "leaves")

    assert ("ready-to-eat-meets-raw", "leaves", ("turkey", "sink", "leaves")) in found(process)


def test_an_unrinsed_garnish_is_found_and_a_rinsed_one_is_not() -> None:
    unrinsed = a_process().food("mint", kind="mint").step("garnish", "mint").serve("mint")
    rinsed = a_process().food("mint", kind="mint").step("rinse", "mint").step("garnish", "mint").serve("mint")

    assert found(unrinsed) == [("produce-not-rinsed", "mint", ("mint",))]
    assert found(rinsed) == []


def test_heat_does_not_clear_an_allergen() -> None:
    process = (
        a_process().food("crumbs", "wheat").step("cut", "crumbs", tools="board").step("cut", "fish2", tools="board")
    )
    process.step("heat", "fish2", tools="pan").serve("fish2").free_of("fish2", "wheat")

    assert found(process) == [("allergen-contact", "fish2", ("crumbs", "board", "fish2"))]


def test_an_allergen_among_the_ingredients_is_found() -> None:
    process = (
        a_process().food("crumbs", kind="breadcrumbs").step("mix", "crumbs", makes="koftas").step("heat", "koftas")
    )

    assert found(process.serve("koftas").free_of("koftas", "wheat")) == [
        ("allergen-inside", "koftas", ("crumbs", "koftas"))
    ]


def test_an_allergen_nobody_must_avoid_is_only_food() -> None:
    process = a_process().food("crumbs", kind="breadcrumbs").step("mix", "crumbs", makes="koftas").serve("koftas")

    assert found(process) == []


def test_a_heat_step_clears_the_food_and_not_the_spoon_left_in() -> None:
    process = (
        a_process()
        .food("stew", kind="beef")
        .step("heat", "stew", tools="pot spoon")
        .step("mix", "salad2", tools="spoon")
    )

    assert ("ready-to-eat-meets-raw", "salad2", ("stew", "spoon", "salad2")) in found(process.serve("stew", "salad2"))


def test_nothing_served_is_a_finding_and_not_a_pass() -> None:
    assert [rule for rule, _, _ in found(a_process().step("cut", "cucumber"))] == ["nothing-served"]


def test_the_finding_names_the_first_bad_contact() -> None:
    process = (
        kofta_and().step("cut", "mint", hands="AK", id="chop").step("mix", "mint yoghurt", tools="bowl", makes="raita")
    )

    [finding] = find_contamination(process.serve("raita").build())

    assert (finding.step, finding.path) == ("chop", ("turkey", "AK", "mint", "raita"))


def test_the_demo_recipe_as_written_has_no_finding() -> None:
    assert find_contamination(process_from(demo_recipe()["process"])) == ()


def test_the_demo_recipe_with_its_wash_back_left_out_has_the_planted_one() -> None:
    data = demo_recipe()["process"]
    data["steps"] = [step for step in data["steps"] if step["id"] not in ("wash", "wash-up")]

    [finding] = find_contamination(process_from(data))

    assert (finding.rule, finding.step, finding.food) == ("ready-to-eat-meets-raw", "slice", "salad")


# --- properties on random small processes --------------------------------------------------------

FOODS, TOOLS, PEOPLE = ("raw", "salad", "bread"), ("board", "bowl"), ("AK", "JT")


steps = st.lists(
    st.fixed_dictionaries(
        {
            "do": st.sampled_from(
                ["cut", "mix", "heat", "transfer", "wash_hands", "clean", "wipe", "touch", "part_cook"]
            ),
            "foods": st.lists(st.sampled_from(FOODS), max_size=2, unique=True),
            "tools": st.lists(st.sampled_from(TOOLS), max_size=2, unique=True),
            "hands": st.lists(st.sampled_from(PEOPLE), max_size=1),
        }
    ),
    min_size=1,
    max_size=7,
)


def process_of(rows: list[dict[str, Any]], rename: dict[str, str] | None = None) -> Any:
    named = (rename or {}).get
    return process_from(
        {
            "foods": {"raw": {"soils": ["raw_poultry"]}, "salad": {"soils": []}, "bread": {"soils": []}},
            "tools": {named(tool, tool): {"kind": tool} for tool in TOOLS},
            "people": [named(person, person) for person in PEOPLE],
            "steps": [
                {
                    **row,
                    "id": f"s{i}",
                    "tools": [named(tool, tool) for tool in row["tools"]],
                    "hands": [named(person, person) for person in row["hands"]],
                }
                for i, row in enumerate(rows)
            ],
            "serve": ["salad", "bread"],
        }
    )


def reached(rows: list[dict[str, Any]]) -> set[tuple[str, str]]:
    """A plain slow search: which served foods hold the soil at the end, contact by contact."""
    dirty = {"raw"}
    for row in rows:
        members = {*row["foods"], *row["tools"], *row["hands"]}
        if row["do"] == "wash_hands":
            dirty -= set(row["hands"])
        elif row["do"] == "clean":
            dirty -= set(row["tools"])
        else:
            dirty |= members if members & dirty else set()
            if row["do"] == "heat":
                dirty -= set(row["foods"])
    return {("raw_poultry", food) for food in ("salad", "bread") if food in dirty}


@given(steps)
@settings(max_examples=150)
def test_the_analysis_agrees_with_a_plain_slow_search(rows: list[dict[str, Any]]) -> None:
    assert {(f.soil, f.food) for f in find_contamination(process_of(rows)) if f.soil} == reached(rows)


@given(steps, st.integers(0, 7))
def test_adding_a_wash_never_adds_a_contaminated_food(rows: list[dict[str, Any]], place: int) -> None:
    wash = {"do": "wash_hands", "foods": [], "tools": [], "hands": list(PEOPLE)}
    clean = {"do": "clean", "foods": [], "tools": list(TOOLS), "hands": []}
    more = [*rows[:place], wash, clean, *rows[place:]]

    before = {(f.soil, f.food) for f in find_contamination(process_of(rows))}
    assert {(f.soil, f.food) for f in find_contamination(process_of(more))} <= before


@given(steps)
def test_renaming_carriers_changes_nothing(rows: list[dict[str, Any]]) -> None:
    rename = {"board": "zz", "bowl": "aa", "AK": "QQ", "JT": "BB"}
    back = {new: old for old, new in rename.items()}

    plain = {(f.step, f.food, len(f.path)) for f in find_contamination(process_of(rows))}
    renamed = find_contamination(process_of(rows, rename))
    assert {(f.step, f.food, len(tuple(back.get(p, p) for p in f.path))) for f in renamed} == plain


@given(steps, st.integers(0, 6))
def test_removing_a_kill_step_never_removes_a_contaminated_food(rows: list[dict[str, Any]], place: int) -> None:
    place %= len(rows)
    if rows[place]["do"] != "heat":
        return
    weaker = [*rows[:place], {**rows[place], "do": "part_cook"}, *rows[place + 1 :]]

    before = {(f.soil, f.food) for f in find_contamination(process_of(rows))}
    assert before <= {(f.soil, f.food) for f in find_contamination(process_of(weaker))}

"""A bench in a lesson: what each entry does."""

import pytest

from foodsafety.lesson import (
    bricks,
    safety_plan,
    would_breach,
)
from foodsafety.rules import rule_profile
from tests.builders import ABench, a_bench, a_process


def status(bench: ABench, control: str, now_s: float | None = None) -> str:
    rows = {b.control.id: b.status for b in bricks(bench.state, bench.now_s if now_s is None else now_s)}
    return rows[control]


def soils(bench: ABench, carrier: str) -> set[str]:
    return set(bench.state.surfaces.get(carrier, ()))


# --- hands, board, cucumber -------------------------------------------------------------------------


def test_raw_turkey_marks_hands_board_and_bowl() -> None:
    bench = a_bench().shapes_koftas(by="AK")

    assert all("raw_poultry" in soils(bench, carrier) for carrier in ("AK", "board", "mixing bowl"))
    assert soils(bench, "JT") == set()


def test_going_on_with_raw_hands_would_breach_and_names_the_path() -> None:
    bench = a_bench().shapes_koftas(by="AK").does("wash-up", by="JT")

    [finding] = would_breach(bench.state, "slice", ["AK"])

    assert finding.path == ("turkey", "AK", "cucumber for the salad", "salad")


def test_the_same_board_would_breach_with_clean_hands() -> None:
    bench = a_bench().shapes_koftas(by="AK")

    assert [f.path[-3:] for f in would_breach(bench.state, "slice", ["JT"])] == [
        ("board", "cucumber for the salad", "salad")
    ]


@pytest.mark.parametrize("way", ["cleaned", "swapped"])
def test_a_clean_board_and_clean_hands_do_not_breach(way: str) -> None:
    more = {"how": "clean"} if way == "cleaned" else {}
    bench = a_bench().shapes_koftas(by="AK").says(way, tools=["board"], **more)

    assert would_breach(bench.state, "slice", ["JT"]) == ()


@pytest.mark.parametrize("how", ["wipe", "rinse"])
def test_wiping_the_board_leaves_it_raw(how: str) -> None:
    bench = a_bench().shapes_koftas().says("cleaned", tools=["board"], how=how)

    assert "raw_poultry" in soils(bench, "board")
    assert [finding.rule for finding in bench.findings] == ["wiped-not-cleaned"]


def test_going_on_all_the_same_is_a_breach_of_the_salad_brick() -> None:
    bench = a_bench().shapes_koftas(by="AK").does("slice", by="AK")

    [incident] = bench.state.open_incidents
    assert (incident.finding.rule, incident.finding.food, incident.control) == (
        "ready-to-eat-meets-raw",
        "salad",
        "clean-salad",
    )
    assert status(bench, "clean-salad") == "breach"


def test_thrown_away_and_made_again_the_brick_is_due_and_then_mended() -> None:
    bench = a_bench().shapes_koftas(by="AK").does("slice", by="AK").washes("AK").does("wash", "wash-up")
    bench.says("cleaned", tools=["knife", "salad plate"], how="clean").says("remade", food="salad")

    assert (status(bench, "clean-salad"), "slice" in bench.state.done) == ("due", False)
    assert "wash" in bench.state.done
    assert status(bench.does("slice", by="JT"), "clean-salad") == "mended"


def test_made_again_with_raw_hands_is_a_new_breach() -> None:
    bench = a_bench().shapes_koftas(by="AK").does("slice", by="AK").says("remade", food="salad").does("slice", by="AK")

    assert len(bench.state.incidents) == 2
    assert status(bench, "clean-salad") == "breach"


@pytest.mark.parametrize(("scrub_s", "clean"), [(19, False), (19.9, False), (20, True), (24, True)])
def test_a_wash_counts_from_twenty_seconds_of_scrubbing(scrub_s: float, clean: bool) -> None:
    bench = a_bench().washes("AK", scrub_s=scrub_s)

    assert (soils(bench, "AK") == set()) is clean
    assert bool(bench.findings) is not clean


def test_a_touched_phone_soils_washed_hands() -> None:
    bench = a_bench().arrives().says("touched", learner="JT", what="phone")

    assert [f.rule for f in would_breach(bench.state, "grate", ["JT"])] == ["unwashed-hands"]


def test_unwashed_hands_in_the_raita_are_a_breach() -> None:
    bench = a_bench().says("fridge_read", core_c=4).washes("AK", "NB").does("grate", by="JT")

    assert [i.finding.rule for i in bench.state.open_incidents] == ["unwashed-hands"]
    assert status(bench, "hands-arrive") == "missed"


def test_someone_unwell_does_not_hold_up_the_others() -> None:
    bench = a_bench().says("unwell", learner="NB").washes("AK", "JT")

    assert status(bench, "hands-arrive") == "laid"


def test_tongs_that_turned_raw_koftas_soil_the_cooked_ones() -> None:
    bench = (
        a_bench()
        .shapes_koftas()
        .washes("AK")
        .does("wash", "wash-up", "slice", "griddle")
        .probes(80, 81, 82)
        .does("plate")
    )

    assert [i.finding.path for i in bench.state.open_incidents] == [("turkey", "koftas", "tongs", "koftas")]
    assert status(bench, "utensils-griddle") == "breach"


def test_cooked_koftas_on_the_raw_board_are_found_whatever_the_order_of_the_steps() -> None:
    bench = a_bench().arrives().does("mix", "griddle").probes(80, 81, 82).says("cleaned", tools=["tongs"], how="clean")

    assert [i.finding.food for i in bench.does("shape", by="AK").state.open_incidents] == ["koftas"]


def two_in_one_pan() -> ABench:
    """Chicken and sausage in one pan, and an eater who must have no wheat in the chicken."""
    process = (
        a_process().food("chicken", kind="chicken").food("sausage", kind="sausage").food("crumbs", kind="breadcrumbs")
    )
    process.step("cut", "crumbs", tools="board", id="crumb").step("cut", "chicken", tools="board", id="cut")
    process.step("heat", "chicken sausage", tools="pan", id="fry").step("serve", "chicken sausage", id="serve")
    process.serve("chicken", "sausage").free_of("chicken", "wheat")
    return ABench(safety_plan(process.build(), rule_profile("us-home")))


def read_three(bench: ABench, food: str, core_c: float) -> ABench:
    for piece in "123":
        bench.says("core_read", food=food, piece=piece, core_c=core_c)
    return bench


def test_each_food_of_one_pan_needs_its_own_proof() -> None:
    bench = read_three(two_in_one_pan().does("cut", "fry"), "sausage", 80)

    assert status(bench, "core-fry") == "due"
    assert status(read_three(bench, "chicken", 80), "core-fry") == "laid"


def test_cooking_again_does_not_take_out_an_allergen() -> None:
    bench = two_in_one_pan().does("crumb", "cut", "fry").says("cooked_again", food="chicken")

    read_three(bench, "chicken", 85)
    assert [(i.finding.rule, i.open) for i in bench.state.incidents] == [("allergen-contact", True)]


def test_food_already_thrown_away_is_not_served() -> None:
    bench = a_bench().cooks().says("gone", food="koftas", how="discarded").does("serve")

    assert bench.state.open_incidents == ()


def test_back_on_the_heat_and_proven_mends_the_breach() -> None:
    bench = a_bench().cooks().does("serve").says("cooked_again", food="koftas").probes(85, 85, 85)

    assert status(bench, "core-griddle") == "mended"
    assert [i.action for i in bench.state.incidents] == ["cooked_again"]


def test_a_probe_from_an_undercooked_piece_must_be_cleaned() -> None:
    bench = a_bench().cooks().probes(70)

    dirty = bench.says("core_read", food="koftas", piece="2", core_c=80).findings
    assert [finding.rule for finding in dirty] == ["probe-not-cleaned"]


def test_a_probe_cleaned_in_between_is_no_finding() -> None:
    bench = a_bench().cooks().probes(70).says("cleaned", tools=["probe"], how="clean")

    assert bench.says("core_read", food="koftas", piece="2", core_c=80).findings == ()

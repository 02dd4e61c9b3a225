"""What has to be read before a step may go on, as a tablet without a network is told it."""

from foodsafety.lesson import lacking, lacking_of, safety_plan, would_breach
from foodsafety.rules import rule_profile
from tests.builders import ABench, a_bench, a_process


def owed(bench: ABench, by: str = "AK") -> list[tuple[str, int, int]]:
    """Food, pieces needed and readings so far of what is lacking before the plates."""
    rows = lacking(bench.state, would_breach(bench.state, "serve", [by]))
    return [(row.food, row.rule.needed, len(row.readings)) for row in rows]


def cooked() -> ABench:
    bench = a_bench("uk")
    bench.cooks()
    return bench


def test_what_is_cooked_and_not_measured_is_owed_readings_of_every_piece() -> None:
    assert owed(cooked()) == [("koftas", 3, 0)]


def test_what_was_read_goes_along_and_a_count_of_pieces_is_heeded() -> None:
    bench = cooked().probes(74)
    assert owed(bench) == [("koftas", 3, 1)]
    assert owed(bench.says("counted", food="koftas", pieces=2)) == [("koftas", 2, 1)]


def test_with_hands_in_the_way_too_readings_alone_are_not_enough() -> None:
    process = a_process().food("leg", kind="chicken").step("heat", "leg", makes="roast").step("serve", "roast")
    bench = ABench(safety_plan(process.serve("roast").build(), rule_profile("uk")), ("AK",)).does("1")
    unwashed = lacking(bench.state, would_breach(bench.state, "2", ["AK"]))
    washed = bench.washes("AK").state

    assert unwashed == ()
    assert [row.food for row in lacking(washed, would_breach(washed, "2", ["AK"]))] == ["roast"]


def test_what_was_never_on_the_heat_is_not_owed_readings_alone() -> None:
    bench = a_bench("uk").shapes_koftas().washes("AK")
    assert any(row.food == "koftas" for row in would_breach(bench.state, "serve", ["AK"]))
    assert owed(bench) == []


def test_what_is_proven_is_owed_nothing() -> None:
    bench = a_bench("us-home").cooks().probes(76, 77, 78)
    assert owed(bench) == []


def test_a_step_that_heats_it_again_voids_what_was_read_before() -> None:
    process = a_process().food("leg", kind="chicken").step("heat", "leg", makes="roast").step("chill", "roast")
    process = process.step("heat", "roast").step("serve", "roast").serve("roast")
    bench = ABench(safety_plan(process.build(), rule_profile("uk")), ("AK",)).washes("AK").does("1")
    [row] = lacking_of(bench.state, ["roast"])

    assert (row.heats, row.again) == (("3",), ("3",))

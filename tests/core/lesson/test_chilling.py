"""Hot food that was put away, until it is shown to be cold."""

from __future__ import annotations

import pytest

from foodsafety.cooling import judge_cooling
from foodsafety.lesson import AtBench, chill_ahead, chilling_of, kept_food, read_entry
from foodsafety.quantities import CoreError
from foodsafety.rules import rule_profile
from tests.builders import ABench
from tests.core.lesson.test_parts import HOUR, kept, the_part

ICE = {"container": "sheet", "count": 4, "litres": 3.0}
POT = {"container": "pot_10l", "count": 1, "litres": 8.0, "wrap": "lid"}


def standing(bench: ABench, after_s: float = 0.0) -> str:
    return chilling_of(bench.state, "koftas", the_part(bench), bench.now_s + after_s).standing


def until(bench: ABench, after_s: float = 0.0) -> bool:
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s + after_s)
    assert found is not None
    return found.until is not None


def test_it_cools_until_somebody_reads_it_or_its_time_is_over() -> None:
    bench = kept(code="us-foodservice")
    look = chilling_of(bench.state, "koftas", the_part(bench), bench.now_s)
    assert [row.limit.value for row in look.due] == [70, 41]
    assert look.due[1].at_s - look.due[0].at_s == 4 * HOUR
    assert (standing(bench), until(bench)) == ("cooling", True)
    assert (standing(bench, 3 * HOUR), until(bench, 3 * HOUR)) == ("not-seen", False)


def test_a_limit_that_waits_for_the_one_before_it_is_due_as_late_as_that_allows() -> None:
    bench = kept(code="anz")
    look = chilling_of(bench.state, "koftas", the_part(bench), bench.now_s)
    assert look.due[1].at_s - look.due[0].at_s == 4 * HOUR


@pytest.mark.parametrize("code", ["us-home", "uk", "canada"])
def test_rules_that_measure_no_stages_in_a_fridge_ask_for_no_reading(code: str) -> None:
    assert standing(kept(code=code), 30 * HOUR) == "not-asked"


def test_a_food_that_was_never_hot_is_not_asked_to_cool() -> None:
    bench = kept(code="us-foodservice").says("stored", food="salad", place="fridge")
    part = bench.state.food("salad").parts["1"]
    assert chilling_of(bench.state, "salad", part, bench.now_s + 9 * HOUR).standing == "not-asked"


def test_too_warm_when_it_was_due_is_thrown_away_and_no_signature_helps() -> None:
    bench = kept(code="us-foodservice").says("part_read", food="koftas", core_c=35, after_s=2.2 * HOUR)
    assert standing(bench) == "too-slow"
    bench.says("part_signed", food="koftas", signer="Deputy cook", reason="it smells fine")
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
    assert found is not None
    assert found.throw_away


def test_what_nobody_measured_has_a_date_again_once_somebody_signs_for_it() -> None:
    bench = kept(code="us-foodservice")
    bench.says("part_signed", food="koftas", signer="Deputy cook", reason="thin in a tray", after_s=9 * HOUR)
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
    assert found is not None
    assert found.until is not None
    assert "signed-for" in [row.rule for row in found.use_by.why]


def test_nobody_signs_for_what_is_still_to_come() -> None:
    bench = kept(code="us-foodservice")
    bench.says("part_signed", food="koftas", signer="Deputy cook", reason="it will be cold", after_s=60)
    assert [row.rule for row in bench.findings] == ["no-such-part"]
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s + 9 * HOUR)
    assert found is not None
    assert found.until is None


def test_a_signature_does_not_cover_a_hole_that_came_after_it() -> None:
    bench = kept(code="us-foodservice")
    bench.says("part_signed", food="koftas", signer="Deputy cook", reason="thin in a tray", after_s=9 * HOUR)
    bench.says("part_warm", food="koftas", unknown=True, after_s=HOUR)
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
    assert found is not None
    assert found.until is None


def test_of_two_parts_off_a_shelf_the_stricter_counts() -> None:
    bench = kept()
    for until_s, thawed in ((5_000.0, False), (9_000.0, True)):
        bench.says("from_shelf", food="salad", until_s=until_s, thawed=thawed)
    earlier = bench.state.food("salad").earlier
    assert earlier is not None
    assert (earlier.until_s, earlier.thawed) == (5_000.0, True)


def test_a_part_that_is_split_off_has_its_readings() -> None:
    bench = kept(code="us-foodservice").says("part_counted", food="koftas", portions=8)
    bench.says("part_read", food="koftas", core_c=18, after_s=HOUR).says("part_split", food="koftas", portions=2)
    assert the_part(bench, "2").cold == the_part(bench).cold != ()


def test_cold_food_that_is_read_warm_was_warm_since_it_was_last_known_to_be_cold() -> None:
    bench = kept().says("part_read", food="koftas", core_c=4, after_s=5 * HOUR)
    bench.says("part_read", food="koftas", core_c=9, after_s=HOUR)
    assert the_part(bench).hole_s == pytest.approx(HOUR)
    assert the_part(bench).trips == 1


def test_a_deep_pot_will_be_late_and_the_planner_says_what_would_do() -> None:
    bench = kept(code="us-foodservice").says("part_boxed", food="koftas", **POT)
    look = chilling_of(bench.state, "koftas", the_part(bench), bench.now_s)
    ahead = chill_ahead(look, the_part(bench), bench.state.plan.profile, bench.now_s)
    assert ahead is not None
    assert not ahead.in_time
    assert ahead.better
    assert all(plan.passes for plan in ahead.better)
    later = chill_ahead(look, the_part(bench), bench.state.plan.profile, look.due[0].at_s - 60)
    assert later is not None
    assert later.better == (), "a minute before it is due nothing helps any more"


def test_thin_in_trays_it_is_cold_in_time() -> None:
    bench = kept(code="us-foodservice").says("part_boxed", food="koftas", **ICE)
    look = chilling_of(bench.state, "koftas", the_part(bench), bench.now_s)
    ahead = chill_ahead(look, the_part(bench), bench.state.plan.profile, bench.now_s)
    assert ahead is not None
    assert ahead.in_time
    reached = [ahead.reached_s[row.limit.c] for row in look.due]
    assert all(at is not None and at <= row.at_s for at, row in zip(reached, look.due, strict=True))


def test_nothing_is_forecast_of_what_nobody_has_said_how_much_it_is() -> None:
    bench = kept(code="us-foodservice").says("part_boxed", food="koftas", container="sheet")
    look = chilling_of(bench.state, "koftas", the_part(bench), bench.now_s)
    assert chill_ahead(look, the_part(bench), bench.state.plan.profile, bench.now_s) is None


def test_more_than_a_container_holds_is_refused() -> None:
    at_bench = AtBench(kept().state.plan, ("AK",))
    said = {"food": "koftas", "container": "tub_1l", "count": 2, "litres": 8}
    with pytest.raises(CoreError) as wrong:
        read_entry("part_boxed", said, at_bench)
    assert wrong.value.field == "container"


def test_one_drop_through_both_limits_between_two_readings_is_cold_in_time() -> None:
    found = judge_cooling(((0.0, 60.0), (3000.0, 4.0)), rule_profile("anz"))
    assert found.verdict == "pass"

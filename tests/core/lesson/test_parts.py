"""Food that is kept, part by part: nothing that is done with it makes it keep longer."""

from __future__ import annotations

import datetime as dt
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.lesson import Part, State, clock_of, kept_food
from tests.builders import ABench, a_bench

HOUR, DAY = 3600.0, 86_400.0


def kept(place: str = "fridge", code: str = "us-home") -> ABench:
    """Koftas that are proven and put away."""
    bench = (
        a_bench(code)
        .cooks()
        .probes(80, 80, 80)
        .probes(80, 80, 80, after_s=30)
        .probes(80, 80, 80, after_s=30)
        .does("probe", "plate", "serve")
    )
    return bench.says("stored", food="koftas", place=place, after_s=600)


def the_part(bench: ABench, part: str = "1") -> Part:
    return bench.state.food("koftas").parts[part]


def left_s(state: State, row: Part, now_s: float) -> float:
    """How long a part would keep if it went into the fridge now; nothing where it may not be kept."""
    there = row if row.place == "fridge" else row.moved(now_s, "fridge", "")
    found = kept_food(state, "koftas", part=there, now_s=now_s)
    if found is None or found.until is None:
        return 0.0
    return max(0.0, found.until.timestamp() - now_s)


CODES = ("us-home", "us-foodservice", "uk", "anz", "canada")
ACTS = st.one_of(
    st.tuples(st.just("part_moved"), st.sampled_from(["fridge", "freezer", "out"])),
    st.tuples(st.just("part_split"), st.integers(1, 3)),
    st.tuples(st.just("part_warm"), st.floats(0, 2 * HOUR)),
    st.tuples(st.just("part_counted"), st.integers(1, 12)),
    st.tuples(st.just("part_reheated"), st.floats(40, 90)),
    st.tuples(st.just("part_boxed"), st.sampled_from(["vacuum", "lid"])),
)


@settings(max_examples=150, deadline=None)
@given(
    st.lists(st.tuples(ACTS, st.floats(0, 1.5 * DAY)), max_size=8),
    st.sampled_from(CODES),
)
def test_no_order_of_moves_splits_and_thaws_lengthens_a_life(rows: list[Any], code: str) -> None:
    bench = kept(code=code)
    before = {"1": left_s(bench.state, the_part(bench), bench.now_s)}
    lost: set[str] = set()
    assert before["1"] > DAY  # a dish that may not be kept at all would prove nothing
    for (kind, value), after_s in rows:
        part = sorted(bench.state.food("koftas").parts)[-1]
        fields: dict[str, Any] = {"food": "koftas", "part": part}
        fields |= {
            "part_moved": {"place": value},
            "part_split": {"portions": value},
            "part_warm": {"warm_s": value, "known": False},
            "part_counted": {"portions": value},
            "part_reheated": {"core_c": value},
            "part_boxed": {"container": "tub_2l", "wrap": value},
        }[kind]
        bench.says(kind, after_s=after_s, **fields)
        for name, row in bench.state.food("koftas").parts.items():
            now = left_s(bench.state, row, bench.now_s)
            assert now <= before.get(name, before[part]) + 1, (kind, name)
            before[name] = now
            lost |= {name} if row.refrozen or row.reheated_s is not None else set()
            if name in lost:
                found = kept_food(bench.state, "koftas", part=row, now_s=bench.now_s)
                assert found is not None
                assert found.until is None or found.until.timestamp() < bench.now_s, "once lost, never kept again"


def test_freezing_pauses_and_the_days_before_it_count_after_the_thaw() -> None:
    bench = kept()
    whole = left_s(bench.state, the_part(bench), bench.now_s)
    bench.says("part_moved", food="koftas", part="1", place="freezer", after_s=DAY)
    bench.says("part_moved", food="koftas", part="1", place="fridge", after_s=30 * DAY)
    now = left_s(bench.state, the_part(bench), bench.now_s)
    assert 0 < now <= whole - DAY
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
    assert found is not None
    assert "frozen-time-pauses" in [row.rule for row in found.use_by.why]


def test_what_was_thawed_is_not_frozen_again() -> None:
    bench = kept("freezer")
    for place in ("fridge", "freezer"):
        bench.says("part_moved", food="koftas", part="1", place=place, after_s=DAY / 2)
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
    assert found is not None
    assert found.until is None
    assert [row.rule for row in found.use_by.why] == ["no-refreezing"]


def test_a_part_that_is_split_off_has_the_history_of_the_whole() -> None:
    bench = kept().says("part_counted", food="koftas", part="1", portions=8)
    bench.says("part_warm", food="koftas", part="1", warm_s=1800, known=True)
    bench.says("part_split", food="koftas", part="1", portions=3)
    one, two = the_part(bench), the_part(bench, "2")
    assert (one.portions, two.portions) == (5, 3)
    assert replace(one, portions=3) == two


def test_what_nobody_knows_counts_as_out_and_is_said() -> None:
    bench = kept()
    bench.says("part_warm", food="koftas", part="1", warm_s=3 * HOUR, known=False, after_s=HOUR)
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
    assert found is not None
    assert found.throw_away
    assert the_part(bench).hole_s == 3 * HOUR
    assert the_part(bench).out_s >= 3 * HOUR


def test_heated_again_it_is_eaten_and_never_kept() -> None:
    bench = kept().says("part_reheated", food="koftas", part="1", core_c=76, after_s=DAY)
    assert the_part(bench).hot
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
    assert found is not None
    assert found.until is None
    bench = kept().says("part_reheated", food="koftas", part="1", core_c=60, after_s=DAY)
    assert not the_part(bench).hot


def test_a_person_can_only_shorten_a_date() -> None:
    bench = kept()
    first = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
    assert first is not None
    assert first.until is not None
    for days, until in ((30, first.until), (1, dt.datetime.fromtimestamp(bench.now_s + DAY, tz=dt.UTC))):
        bench.says("part_shortened", food="koftas", part="1", until_s=bench.now_s + days * DAY, after_s=0)
        found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
        assert found is not None
        assert found.until == until


def test_portions_go_until_none_is_left_and_the_food_is_gone_with_the_last() -> None:
    bench = kept().says("part_counted", food="koftas", part="1", portions=4)
    bench.says("part_gone", food="koftas", part="1", how="eaten", portions=3)
    assert the_part(bench).portions == 1
    assert bench.state.food("koftas").kept
    bench.says("part_gone", food="koftas", part="1", how="discarded")
    gone = bench.state.food("koftas").gone
    assert gone is not None
    assert gone.how == "discarded"
    noted = len(bench.state.noted)
    bench.says("part_moved", food="koftas", part="1", place="freezer")
    assert [row.finding.rule for row in bench.state.noted[noted:]] == ["no-such-part"]


@pytest.mark.parametrize("portions", [4, 5])
def test_not_more_is_split_off_or_taken_than_there_is(portions: int) -> None:
    bench = kept().says("part_counted", food="koftas", part="1", portions=4)
    bench.says("part_split", food="koftas", part="1", portions=portions)
    assert set(bench.state.food("koftas").parts) == {"1"}
    assert "no-such-part" in [row.finding.rule for row in bench.state.noted]


def test_rice_that_was_out_for_an_hour_is_used_and_not_kept_where_the_rules_say_so() -> None:
    for code, standing in (("uk", "use_now"), ("us-home", "within")):
        bench = a_bench(code).cooks().probes(80, 80, 80).does("probe", "plate", "serve")
        bench.says("categorised", food="koftas", category="cooked_rice")
        off_s = bench.now_s - bench.state.food("koftas").out_s(bench.now_s)
        assert clock_of(bench.state, "koftas", off_s + 1.1 * HOUR).standing == standing
        assert clock_of(bench.state, "koftas", off_s + 0.9 * HOUR).standing == "within"


@pytest.mark.parametrize("how", ["eaten", "used", "sent_home", "discarded"])
def test_what_was_over_and_eaten_all_the_same_is_noted(how: str) -> None:
    for after_s, over in ((DAY, False), (9 * DAY, True)):
        bench = kept().says("part_gone", food="koftas", part="1", how=how, after_s=after_s)
        told = [row.finding.rule for row in bench.state.noted if "though-over" in row.finding.rule]
        assert told == ([f"{how}-though-over"] if over and how != "discarded" else [])
    hot = kept().says("part_reheated", food="koftas", part="1", core_c=80, after_s=DAY)
    hot.says("part_gone", food="koftas", part="1", how=how)
    assert not [row for row in hot.state.noted if "though-over" in row.finding.rule]


def test_what_was_frozen_again_stays_lost_when_it_thaws_again() -> None:
    bench = kept("freezer")
    for place in ("fridge", "freezer", "fridge"):
        bench.says("part_moved", food="koftas", part="1", place=place, after_s=HOUR)
    found = kept_food(bench.state, "koftas", part=the_part(bench), now_s=bench.now_s)
    assert found is not None
    assert (found.until, [row.rule for row in found.use_by.why]) == (None, ["no-refreezing"])


def test_heated_again_after_a_date_that_somebody_has_set_it_is_over() -> None:
    bench = kept()
    bench.says("part_shortened", food="koftas", part="1", until_s=bench.now_s + HOUR)
    bench.says("part_reheated", food="koftas", part="1", core_c=80, after_s=2 * HOUR)
    bench.says("part_gone", food="koftas", part="1", how="eaten")
    assert "eaten-though-over" in [row.finding.rule for row in bench.state.noted]


def test_two_hot_readings_with_an_hour_between_them_show_no_hold() -> None:
    bench = kept(code="uk")
    bench.says("part_reheated", food="koftas", part="1", core_c=80)
    bench.says("part_reheated", food="koftas", part="1", core_c=80, after_s=HOUR)
    assert not the_part(bench).hot
    bench.says("part_reheated", food="koftas", part="1", core_c=80, after_s=60)
    bench.says("part_reheated", food="koftas", part="1", core_c=80, after_s=60)
    assert the_part(bench).hot


def test_some_of_what_nobody_has_counted_leaves_the_rest_on_the_shelf() -> None:
    bench = kept().says("part_gone", food="koftas", part="1", how="eaten", portions=2)
    assert the_part(bench).ended is None
    assert bench.state.food("koftas").kept


def test_thrown_away_from_the_shelf_puts_its_breach_right_as_at_the_bench() -> None:
    bench = a_bench().cooks().probes(60, 60, 60).does("probe", "plate", "serve")
    bench.says("stored", food="koftas", place="fridge")
    assert [row.finding.food for row in bench.state.open_incidents] == ["koftas"]
    bench.says("part_gone", food="koftas", part="1", how="discarded", after_s=HOUR)
    assert not bench.state.open_incidents
    assert [row.food for row in bench.state.wasted] == ["koftas"]

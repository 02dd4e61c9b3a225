"""The fold: total, ordered, and never fooled by a duplicate."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.lesson import ENTRIES, Event, State, advance, bricks, fold, opening_state, would_breach
from tests.builders import LEARNERS, READY, a_bench, koftas

# --- the fold ------------------------------------------------------------------------------------------------------


def test_a_second_tap_changes_nothing() -> None:
    bench = a_bench().arrives().does("mix")
    again, findings = advance(bench.state, bench.events[-1])

    assert again is bench.state
    assert findings == ()


def test_the_other_tablets_done_for_the_same_step_changes_nothing() -> None:
    bench = a_bench().arrives().does("mix", by="AK")
    before = bench.state.surfaces

    assert bench.does("mix", by="JT").state.surfaces == before


def test_a_voided_entry_is_left_out() -> None:
    bench = a_bench().says("fridge_read", core_c=40)
    wrong = bench.events[-1].id
    bench.says("fridge_read", core_c=4.0).says("voided", event=wrong, reason="typed for another fridge")

    state = fold(bench.plan, LEARNERS, bench.events)
    assert state.fridge == ((20, 4.0),)


def test_the_fold_takes_entries_in_the_order_they_happened() -> None:
    bench = a_bench().shapes_koftas(by="AK").washes("AK")

    assert fold(bench.plan, LEARNERS, reversed(bench.events)) == fold(bench.plan, LEARNERS, bench.events)


@pytest.mark.parametrize(
    ("kind", "data"),
    [
        ("step_done", {"step": "fly"}),
        ("hands_washed", {"learner": "ZZ", "scrub_s": 20}),
        ("hands_washed", {"learner": "AK", "scrub_s": "long"}),
        ("core_read", {"food": "koftas", "piece": "1", "core_c": None}),
        ("dance", {}),
    ],
)
def test_an_unreadable_entry_is_a_finding_and_never_a_pass(kind: str, data: dict[str, Any]) -> None:
    bench = a_bench()
    before = bricks(bench.state, 0)

    assert [f.rule for f in bench.says(kind, **data).findings] == ["entry-not-understood"]
    assert bricks(bench.state, 0) == before


PLAN = koftas()


STEPS = st.sampled_from([step.id for step in PLAN.process.steps])


WHO = st.sampled_from(LEARNERS)


FOOD = st.sampled_from(["koftas", "raita", "salad"])


TOOL = st.lists(st.sampled_from(["board", "tongs", "probe", "knife"]), min_size=1, max_size=2)


CORE = st.floats(-20, 120)


entry = st.one_of(
    st.tuples(st.just("step_done"), st.fixed_dictionaries({"step": STEPS, "by": st.lists(WHO, max_size=2)})),
    st.tuples(st.just("hands_washed"), st.fixed_dictionaries({"learner": WHO, "scrub_s": st.floats(0, 60)})),
    st.tuples(st.just("touched"), st.fixed_dictionaries({"learner": WHO, "what": st.sampled_from(["phone", "bin"])})),
    st.tuples(st.just("cleaned"), st.fixed_dictionaries({"tools": TOOL, "how": st.sampled_from(["clean", "wipe"])})),
    st.tuples(st.just("swapped"), st.fixed_dictionaries({"tools": TOOL})),
    st.tuples(
        st.just("core_read"), st.fixed_dictionaries({"food": FOOD, "piece": st.sampled_from("123"), "core_c": CORE})
    ),
    st.tuples(st.just("on_heat"), st.fixed_dictionaries({"step": STEPS})),
    st.tuples(st.just("cold_read"), st.fixed_dictionaries({"food": FOOD, "core_c": CORE})),
    st.tuples(st.just("fridge_read"), st.fixed_dictionaries({"core_c": CORE})),
    st.tuples(st.just("stored"), st.fixed_dictionaries({"food": FOOD, "place": st.just("fridge")})),
    st.tuples(st.just("gone"), st.fixed_dictionaries({"food": FOOD, "how": st.sampled_from(["eaten", "discarded"])})),
    st.tuples(st.sampled_from(["remade", "cooked_again", "off_heat"]), st.fixed_dictionaries({"food": FOOD})),
    st.tuples(st.just("ready"), st.fixed_dictionaries({"learner": WHO, "checks": st.just(READY)})),
    st.tuples(
        st.sampled_from([*ENTRIES, "nonsense"]),
        st.dictionaries(st.text(max_size=6), st.integers() | st.none(), max_size=3),
    ),
)


logs = st.lists(entry, max_size=40)


def state_after(rows: list[tuple[str, dict[str, Any]]]) -> State:
    state = opening_state(PLAN, LEARNERS)
    for i, (kind, data) in enumerate(rows):
        state, _ = advance(state, Event(id=str(i), kind=kind, at_s=float(i * 20), data=data))
    return state


@given(logs)
@settings(max_examples=120, deadline=None)
def test_no_sequence_of_entries_makes_the_fold_raise(rows: list[tuple[str, dict[str, Any]]]) -> None:
    state = state_after(rows)

    assert len(bricks(state, 1e6)) == len(PLAN.controls)
    for step in PLAN.process.steps:
        would_breach(state, step.id, LEARNERS[:1])


@given(logs, st.integers(0, 39))
@settings(max_examples=80, deadline=None)
def test_a_duplicate_entry_changes_nothing(rows: list[tuple[str, dict[str, Any]]], which: int) -> None:
    events = [Event(id=str(i), kind=kind, at_s=float(i), data=data) for i, (kind, data) in enumerate(rows)]
    repeated = [*events, *events[which : which + 1]]

    assert fold(PLAN, LEARNERS, repeated) == fold(PLAN, LEARNERS, events)


@given(logs, WHO)
@settings(max_examples=80, deadline=None)
def test_washing_never_adds_soil(rows: list[tuple[str, dict[str, Any]]], who: str) -> None:
    before = state_after(rows)
    after, _ = advance(before, Event(id="w", kind="hands_washed", at_s=9e5, data={"learner": who, "scrub_s": 30}))
    after, _ = advance(
        after, Event(id="c", kind="cleaned", at_s=9e5, data={"tools": ["board", "tongs"], "how": "clean"})
    )

    for carrier, held in after.surfaces.items():
        assert set(held) <= set(before.surfaces.get(carrier, ()))


@given(logs, WHO, WHO, st.sampled_from(["phone", "bin"]))
@settings(max_examples=80, deadline=None)
def test_the_order_of_independent_entries_does_not_matter(
    rows: list[tuple[str, dict[str, Any]]], one: str, two: str, what: str
) -> None:
    state = state_after(rows)
    wash = Event(id="w", kind="hands_washed", at_s=9e5, data={"learner": one, "scrub_s": 30})
    other = Event(id="o", kind="touched", at_s=9e5, data={"learner": two, "what": what})
    fridge = Event(id="f", kind="fridge_read", at_s=9e5, data={"core_c": 4})
    pair = (wash, fridge) if one == two else (wash, other)

    forth = advance(advance(state, pair[0])[0], pair[1])[0]
    back = advance(advance(state, pair[1])[0], pair[0])[0]
    assert forth == back


@given(logs)
@settings(max_examples=60, deadline=None)
def test_a_core_brick_is_laid_only_by_readings(rows: list[tuple[str, dict[str, Any]]]) -> None:
    unread = [row for row in rows if row[0] != "core_read"]
    rows_now = {b.control.id: b for b in bricks(state_after(unread), 1e6)}

    assert rows_now["core-griddle"].status != "laid"

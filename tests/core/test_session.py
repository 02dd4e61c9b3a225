"""A bench in a lesson: what each entry does, and what the bricks then say."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from foodsafety.lesson import (
    PAYLOAD_CHECKS,
    Event,
    State,
    advance,
    bricks,
    fold,
    opening_state,
    safety_plan,
    verdict_of,
    would_breach,
)
from foodsafety.quantities import c_from_f
from foodsafety.rules import rule_profile
from tests.builders import LEARNERS, READY, ABench, a_bench, a_process, koftas


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


# --- bricks -------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("readings_c", "expected"),
    [([], "due"), ([4.4], "laid"), ([c_from_f(40)], "laid"), ([4.5], "breach"), ([9.5, 4.0], "mended")],
    ids=["none", "below 40 F", "exactly 40 F", "above 40 F", "put right"],
)
def test_the_fridge_brick(readings_c: list[float], expected: str) -> None:
    bench = a_bench()
    for reading_c in readings_c:
        bench.says("fridge_read", core_c=reading_c)

    assert status(bench, "fridge") == expected


def test_a_brick_whose_time_passed_is_missed_and_late_evidence_mends_it() -> None:
    bench = a_bench().washes().does("grate", by="JT")

    assert status(bench, "fridge") == "missed"
    assert status(bench.says("fridge_read", core_c=4), "fridge") == "mended"


def test_a_waived_brick_says_so_and_keeps_the_reason() -> None:
    bench = a_bench().washes().does("grate").says("waived", control="fridge", reason="thermometer broken")

    assert status(bench, "fridge") == "waived"
    assert bench.state.waived == {"fridge": "thermometer broken"}


def test_a_breach_cannot_be_waived_away() -> None:
    bench = a_bench().shapes_koftas(by="AK").does("slice", by="AK").says("waived", control="clean-salad", reason="late")

    assert status(bench, "clean-salad") == "breach"


def test_a_reason_given_beforehand_does_not_make_a_failed_limit_pass() -> None:
    bench = a_bench().says("waived", control="fridge", reason="old thermometer").says("fridge_read", core_c=12)

    assert status(bench, "fridge") == "breach"


def test_everyone_who_touched_raw_must_wash_back() -> None:
    bench = a_bench().arrives().does("mix", by="AK").does("shape", by="JT").washes("AK")

    assert status(bench, "hands-back") == "due"
    assert status(bench.washes("JT"), "hands-back") == "laid"


def test_a_wash_between_mixing_and_shaping_counts_for_the_one_who_only_mixed() -> None:
    bench = a_bench().arrives().does("mix", by="AK").washes("AK").does("shape", by="JT").washes("JT")

    assert status(bench, "hands-back") == "laid"


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


# --- cooking --------------------------------------------------------------------------------------------


def test_heat_is_believed_when_the_probe_proves_it() -> None:
    bench = a_bench().cooks()

    assert "raw_poultry" in soils(bench, "koftas")
    assert soils(bench.probes(80, 81, 74), "koftas") == set()


@pytest.mark.parametrize(
    ("cores_c", "expected"),
    [((80, 81), "due"), ((80, 81, 73), "due"), ((80, 81, c_from_f(165)), "laid")],
    ids=["two pieces", "one too low", "exactly 165 F"],
)
def test_the_core_brick_needs_three_pieces_at_the_limit(cores_c: tuple[float, ...], expected: str) -> None:
    assert status(a_bench().cooks().probes(*cores_c), "core-griddle") == expected


def test_uk_koftas_are_proven_by_a_reading_after_two_minutes() -> None:
    bench = a_bench("uk").cooks().probes(75, 76, 77)

    verdict = verdict_of(bench.state, "koftas", bench.now_s)
    assert verdict
    assert (verdict.status, verdict.remaining_s) == ("hold", 120)
    assert "koftas" not in bench.state.proven
    assert "koftas" in bench.says("core_read", food="koftas", piece="1", core_c=74, after_s=120).state.proven


def test_serving_unmeasured_koftas_is_never_taken_for_safe() -> None:
    bench = a_bench().cooks().does("plate", "serve")

    assert "served-not-measured" in [i.finding.rule for i in bench.state.open_incidents]
    assert status(bench, "core-griddle") == "breach"


def test_serving_koftas_below_the_limit_is_told_apart_from_not_measuring() -> None:
    bench = a_bench().cooks().probes(80, 81, 70).does("plate", "serve")

    assert "served-below-limit" in [i.finding.rule for i in bench.state.open_incidents]


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


# --- clocks, leftovers ----------------------------------------------------------------------------------------


def served(code: str = "us-home") -> ABench:
    return (
        a_bench(code)
        .cooks()
        .probes(80, 80, 80)
        .says("cold_read", food="raita", core_c=4)
        .does("probe", "plate", "serve")
    )


@pytest.mark.parametrize(
    ("ambient_c", "after_s", "expected"),
    [(None, 7200 - 120, "due"), (None, 7201, "breach"), (35, 3601, "breach"), (30, 3601, "due")],
    ids=["within two hours", "over", "over one hour in the heat", "one hour in the cool"],
)
def test_serving_starts_the_out_of_temperature_clock(ambient_c: float | None, after_s: float, expected: str) -> None:
    bench = served()
    if ambient_c is not None:
        bench.says("ambient_read", ambient_c=ambient_c, after_s=0)

    assert status(bench, "out", bench.now_s + after_s) == expected


def test_food_put_away_in_time_lays_the_bricks() -> None:
    bench = served().says("stored", food="koftas", place="fridge").says("gone", food="raita", how="eaten")

    assert (status(bench, "out"), status(bench, "label")) == ("laid", "laid")
    assert bench.state.kept["koftas"].out_s > 0


def test_food_out_too_long_is_mended_only_by_throwing_it_away() -> None:
    bench = served().says("gone", food="raita", how="eaten").says("stored", food="koftas", place="fridge", after_s=7300)

    assert status(bench, "out") == "breach"
    assert status(bench.says("gone", food="koftas", how="discarded"), "out") == "mended"


def test_raita_is_not_taken_for_cold_without_a_reading() -> None:
    bench = a_bench().cooks().probes(80, 80, 80).does("probe", "plate", "serve")

    assert status(bench, "chilled-chill") == "missed"


def raw_clock(bench: ABench, after_s: float) -> str:
    rows = {b.control.rule: b.status for b in bricks(bench.state, bench.now_s + after_s)}
    return rows["raw-out-of-fridge"]


def test_raw_food_that_waits_for_the_heat_is_out_and_on_the_heat_it_is_not() -> None:
    waiting = a_bench().shapes_koftas()
    heated = a_bench().shapes_koftas().says("on_heat", step="griddle")

    assert raw_clock(waiting, 3 * 3600) == "breach"
    assert raw_clock(heated, 3 * 3600) == "laid"


def test_on_the_heat_proves_nothing_cooked() -> None:
    bench = a_bench().shapes_koftas().says("on_heat", step="griddle", after_s=60)

    assert "koftas" not in bench.state.proven
    assert "raw_poultry" in soils(bench, "koftas")


def test_only_a_heat_step_can_begin_and_it_begins_once() -> None:
    bench = a_bench().shapes_koftas().says("on_heat", step="griddle").says("on_heat", step="griddle", after_s=900)

    assert bench.now_s - bench.state.on_heat["griddle"] == 900
    assert bench.says("on_heat", step="slice").findings[0].rule == "entry-not-understood"


def test_food_made_again_waits_for_the_heat_anew() -> None:
    bench = a_bench().shapes_koftas().says("on_heat", step="griddle").says("remade", food="koftas")

    assert "griddle" not in bench.state.on_heat


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
        st.sampled_from([*PAYLOAD_CHECKS, "nonsense"]),
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

"""Entries as they arrive: what each kind needs, and which field is named when it is wrong."""

from typing import Any

import pytest

from foodsafety.lesson import ENTRIES, READY_CHECKS, AtBench, may_send, read_entry, safety_plan
from foodsafety.quantities import CoreError
from foodsafety.recipes import process_from
from foodsafety.rules import rule_profile
from tests.builders import LEARNERS, demo_recipe

_KOFTAS = demo_recipe("turkey-koftas")["process"]
_RINSE = {"id": "rinse", "do": "rinse", "foods": ["cucumber for the salad"], "tools": [], "hands": ["cook"]}
PLAN = safety_plan(process_from({**_KOFTAS, "steps": [_RINSE, *_KOFTAS["steps"]]}), rule_profile("us-home"))
BENCH = AtBench(PLAN, LEARNERS)
STEP = PLAN.process.steps[0].id
HEAT = sorted(PLAN.heat_steps)[0]
FOOD = sorted(PLAN.process.food_ids)[0]
RINSE = next(step.id for step in PLAN.process.steps if step.do == "rinse")
SIDE = "salad"
BOUGHT = sorted(PLAN.process.foods)[0]
TOOL = sorted(PLAN.process.tools)[0]
CONTROL = sorted(PLAN.by_id)[0]

RIGHT: dict[str, dict[str, Any]] = {
    "ready": {"learner": "AK", "checks": [*READY_CHECKS]},
    "unwell": {"learner": "AK"},
    "wash_started": {"learner": "AK"},
    "hands_washed": {"learner": "AK", "scrub_s": 21.5},
    "touched": {"learner": "AK", "what": "phone"},
    "step_done": {"step": STEP, "by": ["AK", "JT"]},
    "cleaned": {"tools": [TOOL], "how": "clean"},
    "swapped": {"tools": [TOOL]},
    "rinsed": {"foods": [BOUGHT]},
    "left_out": {"step": RINSE},
    "fridge_read": {"core_c": 4.2},
    "cold_read": {"food": FOOD, "core_c": 4.9},
    "core_read": {"food": FOOD, "piece": "1", "core_c": 74.1, "error_c": 0.5},
    "counted": {"food": FOOD, "pieces": 2},
    "observed": {"food": FOOD, "what": "browned"},
    "on_heat": {"step": HEAT},
    "off_heat": {"food": FOOD},
    "ambient_read": {"ambient_c": 22.0},
    "stored": {"food": FOOD, "place": "fridge"},
    "categorised": {"food": FOOD, "category": "soup_stew"},
    "named": {"food": FOOD, "name": "patties"},
    "came": {"learner": "ZZ", "soils": ["raw_poultry"], "sources": ["turkey"]},
    "went": {"learner": "AK", "why": "left"},
    "gone": {"food": FOOD, "how": "discarded"},
    "waste_said": {"food": FOOD, "unit": "g", "value": 240},
    "batch_said": {"food": BOUGHT, "batch": "L 2271-B"},
    "mended_by": {"food": FOOD, "learner": "AK"},
    "remade": {"food": FOOD},
    "part_counted": {"food": FOOD, "part": "1", "portions": 8, "store": "Larder fridge"},
    "part_moved": {"food": FOOD, "part": "1", "place": "freezer", "store": ""},
    "part_split": {"food": FOOD, "part": "1", "portions": 3},
    "part_gone": {"food": FOOD, "part": "1", "how": "discarded", "portions": 2, "why": "spoiled", "grams": 250},
    "part_reheated": {"food": FOOD, "part": "2", "core_c": 75.5},
    "part_warm": {"food": FOOD, "part": "1", "warm_s": 3600.0, "known": True},
    "part_labelled": {"food": FOOD, "part": "1", "count": 24},
    "part_boxed": {"food": FOOD, "part": "1", "container": "tray_half", "count": 2, "litres": 3.0, "wrap": "lid"},
    "part_seen": {"food": FOOD, "part": "1", "portions": 5},
    "from_shelf": {"food": BOUGHT, "until_s": 1_800_000_000.0, "thawed": True},
    "part_read": {"food": FOOD, "part": "1", "core_c": 4.5},
    "part_signed": {"food": FOOD, "part": "1", "signer": "Deputy cook", "reason": "seen cold at five by the assistant"},
    "part_shortened": {"food": FOOD, "part": "1", "until_s": 1_800_000_000.0},
    "cooked_again": {"food": FOOD},
    "waived": {"control": CONTROL, "reason": "the fridge has a display of its own"},
    "decided": {"food": FOOD, "reason": "the eggs are pasteurised"},
    "reopened": {"reason": "the soup was still to be probed"},
    "called": {},
    "timer_set": {"timer": "t1", "name": "rice", "minutes": 12},
    "timer_nudged": {"timer": "t1", "by_min": -1},
    "timer_answered": {"timer": "t1"},
    "watched": {"what": "hands", "learner": "AK", "seen": "right"},
    "taken_back": {"event": "e1", "what": "hands", "learner": "AK"},
    "paused": {"why": "fire"},
    "resumed": {},
    "heat_said": {"step": HEAT, "off": True},
    "back_seen": {},
    "not_made": {"food": SIDE},
    "advised": {"what": "help", "of": "ZZ"},
    "shared_kit": {"tool": TOOL, "soils": ["raw_poultry"], "bench": "Gannet", "source": "e1", "sources": ["turkey"]},
    "shared_fridge": {"core_c": 4.0, "bench": "Gannet", "source": "e1"},
    "shared_oven": {
        "tool": TOOL,
        "use": "Gannet: bake",
        "how": "in",
        "dish": "tart",
        "oven_c": 180.0,
        "minutes": 25.0,
        "bench": "Gannet",
        "source": "e1",
    },
    "shared_voided": {"event": "e1", "bench": "Gannet"},
    "answered": {},
    "voided": {"event": "e1", "reason": "wrong bench"},
}


def test_every_kind_has_a_case_here() -> None:
    assert set(ENTRIES) == set(RIGHT)


def test_only_the_front_gives_reasons_answers_and_takes_entries_back() -> None:
    at_the_bench = {"part_counted", "part_boxed", "part_read"}
    assert {kind for kind in ENTRIES if not may_send(kind, front=False)} == {
        "came",
        "went",
        "paused",
        "watched",
        "resumed",
        "waived",
        "answered",
        "voided",
        "categorised",
        "decided",
        "reopened",
        "not_made",
        "advised",
        "taken_back",
        "shared_kit",
        "shared_fridge",
        "shared_oven",
        "shared_voided",
        "from_shelf",
        *(kind for kind in RIGHT if kind.startswith("part_") and kind not in at_the_bench),
    }
    assert not may_send("dance", front=True)


def test_nobody_may_send_what_the_program_writes_itself() -> None:
    assert [kind for kind in ENTRIES if not may_send(kind, front=True)] == [
        "shared_kit",
        "shared_fridge",
        "shared_oven",
        "shared_voided",
        "reopened",
    ]


@pytest.mark.parametrize("kind", RIGHT)
def test_a_right_entry_is_kept_as_it_was_sent(kind: str) -> None:
    assert read_entry(kind, RIGHT[kind], BENCH).stored() == RIGHT[kind]


OPTIONAL = {("core_read", "error_c"), ("step_done", "by"), ("came", "soils"), ("shared_kit", "soils")}
OPTIONAL |= {
    (kind, name) for kind in RIGHT for name in ("part", "store", "known", "count", "litres", "wrap", "thawed")
} | {
    ("part_gone", "portions"),
    ("part_seen", "portions"),
    ("part_counted", "portions"),
    ("part_gone", "why"),
    ("part_gone", "grams"),
}
OPTIONAL |= {("shared_kit", "sources"), ("came", "sources"), ("shared_oven", "oven_c"), ("shared_oven", "minutes")}
FREE_WORDS = ("signer", "batch", "of", "bench", "source", "reason", "event", "piece", "learner", "name", "use", "dish")
NEEDED = [(kind, field) for kind, data in RIGHT.items() for field in data if (kind, field) not in OPTIONAL]


@pytest.mark.parametrize(("kind", "field"), NEEDED)
def test_a_field_that_is_missing_or_nonsense_is_named(kind: str, field: str) -> None:
    nonsense = [None, "", [], {}, float("nan"), *(() if field in FREE_WORDS else ("no such thing",))]
    for value in nonsense:
        with pytest.raises(CoreError) as wrong:
            read_entry(kind, {**RIGHT[kind], field: value}, BENCH)
        assert wrong.value.field == field


@pytest.mark.parametrize(
    ("kind", "field", "value"),
    [
        ("hands_washed", "scrub_s", -1),
        ("hands_washed", "scrub_s", 601),
        ("fridge_read", "core_c", -60.1),
        ("core_read", "core_c", 300.1),
        ("core_read", "error_c", -0.1),
        ("core_read", "piece", "x" * 21),
        ("core_read", "piece", True),
        ("ambient_read", "ambient_c", 61),
        ("waived", "reason", "x" * 301),
        ("voided", "event", "x" * 65),
        ("unwell", "learner", "x" * 25),
        ("unwell", "learner", "<b>"),
        ("ready", "checks", ["apron", "shoes"]),
        ("step_done", "by", 5),
        ("step_done", "by", {"AK": 1}),
        ("step_done", "by", ["AK"] * 41),
        ("step_done", "by", [["AK"]]),
    ],
)
def test_a_value_past_its_bound_is_refused(kind: str, field: str, value: object) -> None:
    with pytest.raises(CoreError) as wrong:
        read_entry(kind, {**RIGHT[kind], field: value}, BENCH)
    assert wrong.value.field == field


def test_a_kind_nobody_knows_and_data_that_is_no_object_are_refused() -> None:
    for kind, data, field in (("dance", {}, "kind"), ("called", [], "data"), ("called", None, "data")):
        with pytest.raises(CoreError) as wrong:
            read_entry(kind, data, BENCH)
        assert wrong.value.field == field


def test_a_reading_is_taken_as_it_was_shown_never_rounded() -> None:
    assert read_entry("core_read", {**RIGHT["core_read"], "core_c": 73.94}, BENCH).stored()["core_c"] == 73.94


def test_one_tool_may_be_named_alone_and_twice_is_once() -> None:
    assert read_entry("swapped", {"tools": TOOL}, BENCH).stored()["tools"] == [TOOL]
    assert read_entry("swapped", {"tools": [TOOL, TOOL]}, BENCH).stored()["tools"] == [TOOL]


def test_what_else_was_sent_is_not_kept() -> None:
    sent = {**RIGHT["core_read"], "junk": "x" * 200_000, "food_name": "cucumber"}

    assert read_entry("core_read", sent, BENCH).stored() == RIGHT["core_read"]


def test_a_wash_by_somebody_who_is_not_at_the_bench_is_refused() -> None:
    with pytest.raises(CoreError) as wrong:
        read_entry("hands_washed", {"learner": "ZZ", "scrub_s": 30}, BENCH)
    assert wrong.value.field == "learner"

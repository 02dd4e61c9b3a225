"""Every rule has its words, in both profiles and both units; nothing falls back to an id."""

import itertools
import re

import pytest

from bulwark.bench import drawings as bench_drawings
from bulwark.bench import wording as bench_wording
from bulwark.bench.probing import Tablet, probe_extra
from bulwark.lessons import call_wording, drawings, log_wording, plan_wording, wording
from bulwark.presentation import phrases
from foodsafety.contamination import Finding
from foodsafety.lesson import ENTRIES, PHASES, bricks, safety_plan, settle, verdict_of
from foodsafety.rules import rule_profile
from tests.builders import READY, ABench, a_bench, a_process, at, koftas

CASES = list(itertools.product(["us-home", "uk"], ["C", "F"]))


@pytest.mark.parametrize(("code", "unit"), CASES)
def test_every_control_point_is_explained(code: str, unit: str) -> None:
    plan = koftas(code)

    for control in plan.controls:
        text = plan_wording.plan_text(control, plan, unit)
        assert all([text.limit, text.why, text.check, text.correct, wording.control_name(control)])
        assert "None" not in f"{text}"


def test_every_course_has_a_name() -> None:
    assert len({wording.phase_name(phase, koftas()) for phase in PHASES}) == len(PHASES)


@pytest.mark.parametrize("kind", sorted(ENTRIES))
def test_every_kind_of_entry_has_a_sentence(kind: str) -> None:
    data = {
        "learner": "AK", "scrub_s": 20, "what": "phone", "step": "mix", "by": ["AK"], "tools": ["board"],
        "how": "clean", "core_c": 74.0, "food": "koftas", "piece": "1",
        "signer": "Deputy", "batch": "L 2", "container": "tray_half",
        "ambient_c": 21.0, "place": "fridge", "reason": "late", "pieces": 2, "category": "soup_stew",
        "name": "patties", "tool": "board", "soils": ["raw_poultry"], "bench": "Gannet",
        "portions": 4, "count": 24, "dish": "tart",
    }  # fmt: skip

    sentence = log_wording.entry_sentence(kind, data, {"mix": "Mix the turkey"}, "C")

    assert sentence != kind
    assert "None" not in sentence


RULES = [
    "ready-to-eat-meets-raw", "cooked-meets-raw", "unwashed-hands", "probe-not-cleaned", "served-not-measured",
    "served-below-limit", "wash-too-short", "wiped-not-cleaned", "ready-to-eat-meets-unwashed", "no-kill-step",
    "produce-not-rinsed", "raw-meat-rinsed", "raw-tasted", "allergen-inside", "entry-not-understood",
    "oven-at-other-heat",
    "doer-not-at-this-bench", "doer-not-named", "reading-proves-nothing", "seen-proves-nothing",
    "no-heat-for-this-food", "wash-step-without-wash", "watch-taken-back", "shared-kit-soiled", "begun-already",
]  # fmt: skip


@pytest.mark.parametrize("rule", RULES)
def test_every_finding_of_a_lesson_has_a_title(rule: str) -> None:
    finding = Finding(rule=rule, step="slice", soil="raw_poultry", food="salad", path=("turkey", "AK", "salad"))

    assert rule.replace("-", " ") not in call_wording.finding_title(finding, a_bench().state)


def test_a_path_names_hands_as_hands() -> None:
    finding = Finding(rule="x", step="slice", soil="raw_poultry", food="salad", path=("turkey", "AK", "board", "salad"))

    assert call_wording.path_sentence(finding, a_bench().state) == "Raw poultry: turkey → AK's hands → board → salad"


def call(bench: ABench) -> call_wording.Call | None:
    return call_wording.bench_call(bench.state, bricks(bench.state, bench.now_s), bench.now_s)


def test_a_calm_bench_gets_no_call() -> None:
    assert call(a_bench().arrives()) is None


@pytest.mark.parametrize(
    ("bench", "state", "text"),
    [
        (a_bench().says("fridge_read", core_c=9), "breach", "Move the cold food"),
        (a_bench().shapes_koftas(), "due", "AK: wash now"),
        (a_bench().shapes_koftas().does("slice"), "breach", "Remake the salad"),
        (a_bench().cooks().does("serve"), "breach", "Back on the heat, and probe"),
        (a_bench().arrives().says("called"), "due", "Go to them"),
        (
            a_bench()
            .arrives()
            .says("timer_set", timer="t1", name="rice", minutes=2)
            .says("ready", learner="AK", checks=READY, after_s=200),
            "due",
            "Look to the rice",
        ),
        (a_bench().washes().does("grate", by="JT"), "missed", "Read the fridge"),
    ],
    ids=["warm fridge", "raw hands", "raw salad", "unmeasured", "called", "forgotten timer", "forgot the fridge"],
)
def test_a_call_can_be_said_aloud(bench: ABench, state: str, text: str) -> None:
    found = call(bench)

    assert found
    assert (found.state, found.text) == (state, text)


@pytest.mark.parametrize(
    ("seconds", "shown"),
    [
        (0, "0 s"),
        (119, "119 s"),
        (120, "2 min"),
        (7199, "119 min"),
        (7200, "2 h"),
        (9000, "2 h 30 min"),
        (259200, "3 days"),
        (172800, "48 h"),
    ],
)
def test_a_length_of_time_is_cut_down_never_up(seconds: float, shown: str) -> None:
    assert phrases.duration(seconds) == shown


@pytest.mark.parametrize(("seconds", "shown"), [(59.9, "0:59"), (190, "3:10"), (3600, "1:00:00"), (-4, "0:00")])
def test_a_countdown(seconds: float, shown: str) -> None:
    assert phrases.countdown(seconds) == shown


# --- geometry -----------------------------------------------------------------------------------------


@pytest.mark.parametrize("scrub_s", [20, 23, 30])
def test_the_scrubbing_stages_never_add_up_to_less_than_the_limit(scrub_s: float) -> None:
    stages = bench_wording.wash_stages(scrub_s)

    assert sum(int(str(stage["s"])) for stage in stages if stage["scrub"]) >= scrub_s


def test_each_wedge_of_the_ring_is_as_long_as_its_stage() -> None:
    stages = bench_wording.wash_stages(20)
    wedges = bench_drawings.wash_ring(stages)

    assert [wedge.s for wedge in wedges] == [stage["s"] for stage in stages]
    assert all(re.fullmatch(r"M[-\d. ]+A.*Z", wedge.path) for wedge in wedges)
    assert len({(wedge.mid_x, wedge.mid_y) for wedge in wedges}) == len(wedges)


def test_a_bar_stands_above_the_limit_line_exactly_when_its_piece_does() -> None:
    rows = [
        ("kofta 1", 74.0, "74°", "over", "laid"),
        ("kofta 2", 73.0, "73°", "too low", "due"),
        ("kofta 3", None, "", "next", "next"),
    ]
    chart = bench_drawings.piece_chart(rows, limit_c=73.9, hot_c=60, limit_text="74 °C", hot_text="60 °C")

    assert [bar.y < chart.limit_y for bar in chart.bars] == [True, False, False]
    assert chart.bars[2].height == 0
    assert "kofta 2 73° too low" in chart.label


def wall(minutes: float, benches: int = 2) -> drawings.Wall:
    bench = a_bench().arrives().says("ready", learner="AK", checks=READY)
    rows = [(i, f"bench {i}", bench.state, bricks(bench.state, bench.now_s), bench.now_s) for i in range(benches)]
    return drawings.draw_wall(rows, bench.plan, started=at("2026-06-13T10:30"), elapsed_s=minutes * 60, unit="C")


def test_courses_rise_from_the_foundation_and_their_joints_do_not_line_up() -> None:
    drawn = wall(5)

    assert [course.name for course in drawn.courses][-1] == "Arrive"
    pairs = [row for row in drawn.benches[0].courses if len(row) == 2]
    assert all([brick.long for brick in row].count(True) == 1 for row in pairs)


@pytest.mark.parametrize(("minutes", "course"), [(0, "Cold first"), (10, "Raw turkey"), (30, "Cook"), (60, "Serve")])
def test_the_plan_line_lies_under_the_course_the_class_should_be_at(minutes: float, course: str) -> None:
    assert [row.name for row in wall(minutes).courses if row.on] == [course]


@pytest.mark.parametrize(("benches", "density"), [(4, ""), (5, "close"), (6, "close"), (7, "dense"), (12, "dense")])
def test_more_benches_give_up_words_before_shape(benches: int, density: str) -> None:
    drawn = wall(5, benches)

    assert drawn.density == density
    assert all(brick.label for bench in drawn.benches for row in bench.courses for brick in row)


@pytest.mark.parametrize(("tools", "foods", "named"), [("pan", "beef", "pan"), ("", "beef", "beef")])
def test_what_is_on_the_heat_is_named_and_never_by_the_steps_id(tools: str, foods: str, named: str) -> None:
    process = a_process().food("beef", "raw_meat").step("heat", foods, tools=tools, id="s20").serve("beef").build()
    bench = ABench(safety_plan(process, rule_profile("us-home"))).does("s20")
    rows = [(1, "Gannet", bench.state, bricks(bench.state, bench.now_s), bench.now_s)]
    drawn = drawings.draw_wall(rows, bench.plan, started=at("2026-06-13T10:30"), elapsed_s=60, unit="C")
    assert drawn.benches[0].timer_name == named


def test_a_timer_stands_on_the_wall_and_is_called_out_only_when_nobody_answers() -> None:
    bench = a_bench().arrives().says("timer_set", timer="t1", name="rice", minutes=2)
    rows = [(1, "Gannet", bench.state, bricks(bench.state, bench.now_s), bench.now_s + 150)]
    [drawn] = drawings.draw_wall(rows, bench.plan, started=at("2026-06-13T10:30"), elapsed_s=60, unit="C").benches

    assert (drawn.timer_name, drawn.timer_s, drawn.rings, drawn.call) == ("rice", -30, True, None)
    answered = bench.says("timer_answered", timer="t1", after_s=600)
    assert call(answered) is None


def test_no_timer_hides_the_clock_of_food_before_it_rings_nor_raw_hands_at_all() -> None:
    bench = a_bench().shapes_koftas().says("timer_set", timer="t1", name="rice", minutes=10)

    def clock(now_s: float, *, ended: bool = False) -> str:
        rows = [(1, "Gannet", bench.state, bricks(bench.state, now_s), now_s)]
        started = at("2026-06-13T10:30")
        drawn = drawings.draw_wall(rows, bench.plan, started=started, elapsed_s=60, unit="C", ended=ended)
        return drawn.benches[0].timer_name

    assert clock(bench.now_s).endswith(" out")
    assert clock(bench.now_s + 500) == "rice"
    assert clock(bench.now_s + 500, ended=True).endswith(" out")
    late = bricks(bench.state, bench.now_s + 900)
    found = call_wording.bench_call(bench.state, late, bench.now_s + 900)
    assert found
    assert found.text == "AK: wash now"


def test_a_food_that_rests_makes_way_for_one_not_probed_yet() -> None:
    process = (
        a_process()
        .food("beef", kind="beef_steak")
        .food("eggs", kind="egg")
        .step("heat", "beef eggs", tools="pan", hands="AK", id="fry")
        .serve("beef", "eggs")
        .build()
    )
    bench = ABench(safety_plan(process, rule_profile("us-home"))).does("fry")
    asked = []
    for piece in ("1", "2", "3"):
        bench.says("core_read", food="beef", piece=piece, core_c=80.0)
    for now_s in (bench.now_s + 1, bench.now_s + 400):
        tablet = Tablet(pieces={}, now_s=now_s, unit="C")
        asked.append(probe_extra(settle(bench.state, now_s), ("beef", "eggs"), (), tablet)["food"])
    assert verdict_of(bench.state, "beef", bench.now_s + 1).status == "rest"
    assert asked == ["eggs", "eggs"]


def test_a_glaze_holds_on_refresh() -> None:
    assert [drawings.glaze("fridge") for _ in range(3)] == [drawings.glaze("fridge")] * 3


def test_of_benches_behind_the_plan_the_one_that_is_most_behind_is_called_first() -> None:
    bench = a_bench().arrives().says("ready", learner="AK", checks=READY)
    rows = [(n, f"bench {n}", bench.state, bricks(bench.state, bench.now_s), bench.now_s) for n in (1, 2, 3)]
    calls = {1: call_wording.behind_call("shape", 400), 2: call_wording.silent_call(900), 3: None}
    against = drawings.AgainstPlan(starts_s={"cook": 60}, calls={pk: one for pk, one in calls.items() if one})
    drawn = drawings.draw_wall(
        rows, bench.plan, started=at("2026-06-13T10:30"), elapsed_s=60, unit="C", against=against
    )
    assert [row.rank for row in drawn.benches] == [2, 1, 0]
    assert [row.name for row in drawn.courses if row.on] == ["Cook"], "the line lies where the plan is"

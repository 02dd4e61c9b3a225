"""Nothing false is ever called safe: each rule of a lesson met, broken, exactly at its limit, missing."""

from typing import Any

import pytest

from foodsafety.cli import replay
from tests.builders import AProcess, a_process

H = 3600.0
SAFE_C = 76.0


class ALog:
    """A bench's log told in a few words, and what ``replay`` says of it."""

    def __init__(self, process: AProcess, code: str = "us-home", learners: str = "A B") -> None:
        self.process, self.code, self.learners = process, code, learners.split()
        self.events: list[dict[str, Any]] = []

    def at(self, at_s: float, kind: str, **fields: Any) -> "ALog":
        self.events.append({"at_s": at_s, "kind": kind, **fields})
        return self

    def washes(self, at_s: float, *who: str) -> "ALog":
        for name in who or self.learners:
            self.at(at_s, "hands_washed", learner=name, scrub_s=25)
        return self

    def does(self, at_s: float, *steps: str, by: str = "A") -> "ALog":
        for step in steps:
            self.at(at_s, "step_done", step=step, by=[by])
        return self

    def reads(self, at_s: float, food: str, *cores_c: float, first: int = 1, **more: Any) -> "ALog":
        for i, core_c in enumerate(cores_c):
            self.at(at_s + i, "core_read", food=food, piece=str(first + i), core_c=core_c, **more)
        return self

    def says(self, at_s: float) -> dict[str, Any]:
        data = {"process": self.process.data, "code": self.code, "learners": self.learners, "events": self.events}
        return replay.run({**data, "at_s": at_s})

    def brick(self, rule: str, at_s: float) -> str:
        return next(row["state"] for row in self.says(at_s)["bricks"] if row["rule"] == rule)

    def evidence(self, rule: str, at_s: float) -> dict[str, Any]:
        return next(row["evidence"] for row in self.says(at_s)["bricks"] if row["rule"] == rule)

    def food(self, name: str, at_s: float) -> dict[str, Any]:
        return dict(self.says(at_s)["foods"][name])

    def rules(self, at_s: float) -> list[str]:
        return [row["rule"] for row in self.says(at_s)["findings"]]


def chicken(kind: str = "chicken", *, probe: str = "") -> AProcess:
    return (
        a_process()
        .food("bird", kind=kind)
        .step("cut", "bird", tools="board", hands="A", id="cut")
        .step("heat", "bird", tools="pan tongs", id="fry")
        .step("serve", "bird", tools="plate", id="serve")
        .serve("bird")
    )


def cooked(code: str = "us-home", **more: Any) -> ALog:
    """Cut at 100 s, in the pan until 700 s."""
    return ALog(chicken(**more), code).washes(10).does(100, "cut").washes(150, "A").does(700, "fry", by="B")


# --- cooking -----------------------------------------------------------------------------------------------------


def test_three_pieces_prove_and_a_later_lower_one_takes_it_back_until_all_are_shown_again() -> None:
    log = cooked().reads(710, "bird", 76, 76, 76)
    assert (log.brick("core-temperature", 720), log.food("bird", 720)["proven"]) == ("laid", True)

    log.reads(740, "bird", 52, first=4)
    assert (log.brick("core-temperature", 750), log.food("bird", 750)["proven"]) == ("due", False)

    log.reads(800, "bird", 76, 76, 76)
    assert log.brick("core-temperature", 810) == "due"  # piece 4 was never shown hot

    log.reads(820, "bird", 76, first=4)
    assert log.brick("core-temperature", 830) == "laid"


def test_a_proof_taken_back_after_serving_is_a_breach_that_cooking_on_mends() -> None:
    log = cooked().reads(710, "bird", 76, 76, 76).does(730, "serve").reads(740, "bird", 52, first=4)
    assert (log.brick("core-temperature", 745), log.rules(745)) == ("breach", ["served-below-limit"])

    log.at(750, "cooked_again", food="bird").reads(900, "bird", 77, 77, 77)
    assert log.brick("core-temperature", 910) == "mended"


def test_a_proof_taken_back_soils_the_hands_and_the_plate_that_met_it_since() -> None:
    log = cooked().reads(710, "bird", 76, 76, 76).does(730, "serve").reads(740, "bird", 52, first=4)
    assert log.says(745)["hands"]["A"] == ["raw_poultry"]
    washed = cooked().reads(710, "bird", 76, 76, 76).does(730, "serve").washes(735, "A")
    assert washed.reads(740, "bird", 52, first=4).says(745)["hands"]["A"] == []


@pytest.mark.parametrize(("cores", "rule"), [((), "served-not-measured"), ((76, 76), "served-below-limit")])
def test_served_and_not_shown_is_a_breach_with_three_ways_out(cores: tuple[float, ...], rule: str) -> None:
    log = cooked().reads(710, "bird", *cores).does(730, "serve")
    assert (log.brick("core-temperature", 740), log.rules(740)) == ("breach", [rule])

    thrown = cooked().does(730, "serve").at(750, "gone", food="bird", how="discarded")
    assert thrown.brick("core-temperature", 760) == "mended"
    probed = cooked().does(730, "serve").reads(750, "bird", 76, 76, 76)
    assert probed.brick("core-temperature", 760) == "mended"


def test_eaten_and_never_shown_is_a_breach_where_no_step_serves() -> None:
    process = a_process().food("bird", kind="chicken").step("heat", "bird", tools="pan", id="fry").serve("bird")
    log = ALog(process).washes(10).does(700, "fry")
    assert log.rules(705) == []
    assert log.at(800, "gone", food="bird", how="eaten").rules(801) == ["served-not-measured"]


def stew() -> AProcess:
    return (
        a_process()
        .food("bird", kind="chicken")
        .food("cream", kind="cream")
        .step("heat", "bird", tools="pan tongs", id="fry")
        .step("mix", "bird cream", tools="pan spoon", makes="stew", id="cream")
        .step("heat", "stew", tools="pan", id="low", minutes=30)
        .step("serve", "stew", id="serve")
        .serve("stew")
    )


def test_a_later_warm_step_is_no_proof_of_what_was_never_measured() -> None:
    log = ALog(stew()).washes(10).does(600, "fry").does(700, "cream").does(2500, "low").does(2600, "serve")
    assert log.rules(2700) == ["served-not-measured"]
    assert log.food("stew", 2700)["proven"] is False
    assert log.brick("core-temperature", 2700) == "breach"


@pytest.mark.parametrize(("food", "at_s"), [("bird", 610), ("stew", 2510)])
def test_measured_before_or_after_it_went_into_the_sauce_is_measured(food: str, at_s: float) -> None:
    log = ALog(stew()).washes(10).does(600, "fry").does(700, "cream").does(2500, "low").does(2600, "serve")
    log.reads(at_s, food, 76, 76, 76)
    log.events.sort(key=lambda row: row["at_s"])
    assert (log.rules(2700), log.brick("core-temperature", 2700)) == ([], "laid")


def test_not_measured_when_its_time_has_passed_is_missed() -> None:
    process = chicken()
    process.steps.insert(2, {"id": "plate", "do": "transfer", "foods": ["bird"], "tools": ["tongs"], "hands": []})
    log = ALog(process).washes(10).does(100, "cut").washes(150, "A").does(700, "fry", by="B")
    assert log.brick("core-temperature", 705) == "due"
    assert log.does(720, "plate", by="B").brick("core-temperature", 725) == "missed"


@pytest.mark.parametrize(
    ("readings", "off_s", "now_s", "state"),
    [
        ([(710, 64)], 720, 899, "due"), ([(710, 64)], 720, 900, "laid"), ([(710, 64)], None, 800, "due"),
        ([(710, 64)], None, 893, "laid"), ([(710, 64), (800, 62)], 720, 1000, "due"), ([(710, 62)], 720, 2000, "due"),
        ([], 720, 2000, "due"),
    ],
    ids=["resting", "over by the clock", "nobody said", "over from the last reading", "broken", "below", "missing"],
)  # fmt: skip
def test_a_rest_ends(readings: list[tuple[float, float]], off_s: float | None, now_s: float, state: str) -> None:
    log = cooked(kind="beef")
    for at_s, core_c in readings:
        log.reads(at_s, "bird", core_c, core_c, core_c)
    if off_s:
        log.at(off_s, "off_heat", food="bird")
    assert log.brick("core-temperature", now_s) == state


def test_what_a_rest_rests_on_is_said() -> None:
    log = cooked(kind="beef").reads(710, "bird", 64, 64, 64)
    assert log.evidence("core-temperature", 1000)["rests_on"] == "last_reading"
    assert log.at(720, "off_heat", food="bird").evidence("core-temperature", 1000)["rests_on"] == "clock"


def reheated(kind: str, tool: str = "pan") -> AProcess:
    return (
        a_process()
        .food("dish", kind=kind)
        .step("heat", "dish", tools=tool, id="warm")
        .step("serve", "dish", id="serve")
        .serve("dish")
    )


@pytest.mark.parametrize("code", ["us-home", "us-foodservice", "uk", "canada", "anz"])
@pytest.mark.parametrize("kind", ["cooked rice", "cooked chicken", "ham"])
def test_ready_food_that_is_heated_again_has_a_brick_under_every_profile(code: str, kind: str) -> None:
    log = ALog(reheated(kind), code).washes(10).does(600, "warm")
    assert log.brick("core-temperature", 610) == "due"
    assert log.does(700, "serve").rules(710) == ["served-not-measured"]


def test_in_a_microwave_it_also_stands() -> None:
    log = ALog(reheated("cooked rice", "microwave")).washes(10).does(600, "warm").reads(610, "dish", 80, 80, 80)
    assert log.brick("core-temperature", 615) == "due"
    assert log.brick("core-temperature", 612 + 121) == "laid"


def test_cooked_chilled_and_heated_again_is_shown_twice() -> None:
    process = (
        a_process()
        .food("bird", kind="chicken")
        .step("heat", "bird", tools="pan tongs", id="fry")
        .step("chill", "bird", id="chill")
        .step("heat", "bird", tools="pan", id="again")
        .step("serve", "bird", id="serve")
        .serve("bird")
    )
    log = ALog(process).washes(10).does(600, "fry").reads(610, "bird", 76, 76, 76).does(900, "chill")
    log.does(5000, "again").does(5100, "serve")
    assert log.rules(5200) == ["served-not-measured"]
    assert log.reads(5150, "bird", 76, 76, 76).food("bird", 5200)["proven"]


def test_every_part_cooked_food_is_finished() -> None:
    process = (
        a_process()
        .food("bird", kind="chicken")
        .food("beef", kind="beef mince")
        .step("part_cook", "bird beef", tools="pan", id="brown")
        .step("heat", "bird beef", tools="pan", id="through")
        .step("serve", "bird beef", id="serve")
        .serve("bird", "beef")
    )
    log = ALog(process).washes(10).does(300, "brown").does(900, "through").reads(910, "bird", 76, 76, 76)
    assert (log.brick("part-cooked", 950), log.brick("core-temperature", 950)) == ("due", "due")
    log.reads(920, "beef", 76, 76, 76)
    assert (log.brick("part-cooked", 950), log.brick("core-temperature", 950)) == ("laid", "laid")


def test_each_raw_food_has_its_own_clock_until_its_own_heat() -> None:
    process = (
        a_process()
        .food("bird", kind="chicken")
        .food("beef", kind="beef mince")
        .step("cut", "bird", tools="board", hands="A", id="cut bird")
        .step("cut", "beef", tools="board2", hands="A", id="cut beef")
        .step("heat", "bird", tools="pan tongs", id="fry bird")
        .step("heat", "beef", tools="pan2 tongs2", id="fry beef")
        .serve("bird", "beef")
    )
    log = ALog(process).washes(10).does(100, "cut bird", "cut beef").does(900, "fry bird")
    assert log.brick("raw-out-of-fridge", 1000) == "due"
    assert log.brick("raw-out-of-fridge", 100 + 7200) == "due"
    assert log.brick("raw-out-of-fridge", 100 + 7201) == "breach"
    assert log.does(8000, "fry beef").brick("raw-out-of-fridge", 8100) == "breach"


def test_a_poor_probe_proves_less() -> None:
    assert cooked().reads(710, "bird", 74, 74, 74, error_c=1.0).brick("core-temperature", 720) == "laid"
    assert cooked().reads(710, "bird", 74, 74, 74, error_c=1.5).brick("core-temperature", 720) == "due"


def test_a_reading_without_a_piece_is_one_piece() -> None:
    log = cooked()
    for i in range(3):
        log.at(710 + i, "core_read", food="bird", core_c=80)
    assert log.brick("core-temperature", 720) == "due"


# --- time -------------------------------------------------------------------------------------------------------


def test_food_off_the_heat_runs_its_clock_until_it_is_away() -> None:
    log = cooked().reads(705, "bird", 76, 76, 76).at(710, "off_heat", food="bird").does(710 + 3 * H, "serve")
    log.at(710 + 3 * H + 600, "stored", food="bird", place="fridge")
    row = log.food("bird", 710 + 3 * H + 700)
    assert row["out_s"] == pytest.approx(3 * H + 600)
    assert (row["kept"], row["throw_away"], row["use_by_s"]) == ("fridge", True, None)


@pytest.mark.parametrize(("hours", "state"), [(2.0, "due"), (2.001, "breach")])
def test_served_or_not_out_too_long_is_a_breach(hours: float, state: str) -> None:
    log = cooked().reads(700, "bird", 76, 76, 76).at(710, "off_heat", food="bird").does(720, "serve")
    assert log.brick("time-out", 710 + hours * H) == state
    early = cooked().reads(700, "bird", 76, 76, 76).at(710, "off_heat", food="bird")
    assert (early.brick("time-out", 710 + hours * H) == "breach") is (state == "breach")


def test_a_hot_reading_shows_that_it_was_not_out_before() -> None:
    log = cooked().reads(705, "bird", 76, 76, 76).at(710, "off_heat", food="bird").reads(3000, "bird", 74, 74, 74)
    assert log.food("bird", 4000)["out_s"] == 4000 - 3002


def test_ready_food_out_before_serving_is_timed() -> None:
    process = (
        a_process()
        .food("yoghurt", kind="yoghurt")
        .step("mix", "yoghurt", tools="bowl", makes="dip", id="mix")
        .step("serve", "dip", id="serve")
        .serve("dip")
    )
    log = ALog(process).washes(10).does(100, "mix")
    assert log.food("dip", 100 + H)["out_s"] == H
    assert log.brick("time-out", 100 + 2 * H + 1) == "breach"


def test_handling_again_restarts_nothing_and_storing_twice_neither() -> None:
    log = cooked().reads(705, "bird", 76, 76, 76).at(710, "off_heat", food="bird").does(2000, "serve")
    log.at(3000, "stored", food="bird", place="fridge").at(9000, "stored", food="bird", place="freezer")
    row = log.food("bird", 9100)
    assert (row["out_s"], row["kept"]) == (3000 - 710, "fridge")


def test_what_is_made_takes_the_longest_clock_of_its_parts() -> None:
    process = (
        a_process()
        .food("yoghurt", kind="yoghurt")
        .food("cream", kind="cream")
        .step("cut", "yoghurt", tools="bowl", id="out")
        .step("mix", "yoghurt cream", tools="bowl", makes="dip", id="mix")
        .serve("dip")
    )
    log = ALog(process).washes(10).does(100, "out").does(1900, "mix")
    assert log.food("dip", 2000)["out_s"] == 1900


def test_heating_ready_food_again_gives_no_time_back() -> None:
    process = (
        a_process()
        .food("dish", kind="cooked chicken")
        .step("transfer", "dish", tools="plate", id="out")
        .step("heat", "dish", tools="pan", id="warm")
        .step("serve", "dish", id="serve")
        .serve("dish")
    )
    log = ALog(process).washes(10).does(100, "out").at(3700, "on_heat", step="warm").does(4300, "warm")
    log.reads(4300, "dish", 80, 80, 80).does(4310, "serve")
    assert log.food("dish", 4302 + 600)["out_s"] == 3600 + 600


def test_remade_food_begins_anew_in_everything() -> None:
    log = cooked().reads(705, "bird", 76, 76, 76).at(710, "off_heat", food="bird").does(720, "serve")
    log.at(3000, "stored", food="bird", place="fridge").at(4000, "remade", food="bird")
    row = log.food("bird", 4100)
    assert (row["out_s"], row["kept"], row["proven"]) == (0, None, False)
    assert log.brick("core-temperature", 4100) in ("todo", "due")
    log.does(4200, "cut").does(4900, "fry", by="B").reads(4910, "bird", 64, 64, 64)
    assert log.food("bird", 5000)["proven"] is False


def chilled() -> AProcess:
    return (
        a_process()
        .food("yoghurt", kind="yoghurt")
        .step("mix", "yoghurt", tools="bowl", makes="dip", id="mix")
        .step("chill", "dip", id="chill")
        .step("serve", "dip", id="serve")
        .serve("dip")
    )


@pytest.mark.parametrize(
    ("out_s", "ambient_c", "state"),
    [
        (5400, None, "laid"), (5400, 35, "breach"), (3600, 35, "laid"), (3601, 35, "breach"), (7200, 30, "laid"),
        (7201, None, "breach"),
    ],
)  # fmt: skip
def test_chilled_in_time_by_the_limit_of_the_surroundings(out_s: float, ambient_c: float | None, state: str) -> None:
    log = ALog(chilled()).washes(10).does(100, "mix").does(100 + out_s, "chill")
    log.at(200 + out_s, "cold_read", food="dip", core_c=4)
    if ambient_c is not None:
        log.at(300 + out_s, "ambient_read", ambient_c=ambient_c)  # known only afterwards, and it counts
    assert log.brick("chilled-in-time", 400 + out_s) == state


def test_the_hottest_surroundings_count_not_the_last() -> None:
    log = ALog(chilled()).washes(10).does(100, "mix").at(200, "ambient_read", ambient_c=35)
    log.at(300, "ambient_read", ambient_c=20)
    assert log.food("dip", 400)["limit_s"] == 3600


def test_put_away_too_late_is_a_breach_of_the_clock() -> None:
    log = ALog(chilled(), "anz").washes(10).does(0, "mix").at(2.5 * H, "stored", food="dip", place="fridge")
    assert log.brick("time-out", 3 * H) == "breach"
    soon = ALog(chilled(), "anz").washes(10).does(0, "mix").at(1.9 * H, "stored", food="dip", place="fridge")
    assert soon.brick("time-out", 3 * H) == "laid"


def test_chilled_without_a_reading_is_not_chilled() -> None:
    assert ALog(chilled()).washes(10).does(100, "mix", "chill").brick("chilled-in-time", 300) == "due"


@pytest.mark.parametrize(
    ("code", "minutes", "thrown"),
    [("anz", 119, False), ("anz", 120, True), ("us-home", 120, False), ("us-home", 121, True), ("uk", 239, False)],
)
def test_put_away_too_late_is_thrown_away_whatever_its_life(code: str, minutes: float, thrown: bool) -> None:
    log = ALog(chilled(), code).washes(10).does(0, "mix").at(minutes * 60, "stored", food="dip", place="fridge")
    row = log.food("dip", minutes * 60 + 60)
    assert (row["throw_away"], row["use_by_s"] is None) == (thrown, thrown)


def test_of_several_chilled_foods_the_worst_speaks() -> None:
    process = (
        a_process()
        .food("yoghurt", kind="yoghurt")
        .food("cream", kind="cream")
        .step("chill", "yoghurt cream", id="chill")
        .step("serve", "yoghurt cream", id="serve")
        .serve("yoghurt", "cream")
    )
    log = ALog(process).washes(10).does(100, "chill").at(200, "cold_read", food="cream", core_c=4)
    assert log.brick("chilled-in-time", 300) == "due"
    assert log.at(250, "cold_read", food="yoghurt", core_c=4).brick("chilled-in-time", 300) == "laid"


def test_what_is_made_again_has_no_old_readings() -> None:
    log = ALog(chilled()).washes(10).does(100, "mix", "chill").at(200, "cold_read", food="dip", core_c=4)
    log.at(300, "remade", food="dip").does(400, "mix", "chill")
    assert log.brick("chilled-in-time", 500) == "due"


def test_off_the_heat_is_forgotten_once_it_is_back_on() -> None:
    log = cooked(kind="beef").reads(710, "bird", 60, 60, 60).at(720, "off_heat", food="bird")
    log.at(730, "cooked_again", food="bird").reads(2000, "bird", 64, 64, 64).reads(2100, "bird", 65, 65, 65)
    # On the heat again and nobody said it is off: its rest counts from the last of these readings.
    assert log.brick("core-temperature", 2250) == "due"
    assert log.brick("core-temperature", 2102 + 180) == "laid"


def test_the_time_it_was_raw_counts_until_it_is_shown() -> None:
    assert cooked().food("bird", 800)["out_s"] == 600 + 100
    assert cooked().reads(710, "bird", 76, 76, 76).food("bird", 800)["out_s"] == 800 - 712


def test_a_food_of_unknown_kind_has_a_clock() -> None:
    process = a_process().food("thing").step("cut", "thing", tools="board", id="cut").serve("thing")
    assert ALog(process).washes(10).does(100, "cut").brick("time-out", 100 + 2 * H + 1) == "breach"


def test_out_too_long_is_thrown_away_before_it_is_stored_too() -> None:
    log = cooked().reads(705, "bird", 76, 76, 76).at(710, "off_heat", food="bird")
    assert log.food("bird", 710 + 2 * H)["throw_away"] is False
    assert log.food("bird", 711 + 2 * H)["why"] == ["out-too-long"]


def test_a_washing_step_tapped_past_is_no_wash() -> None:
    process = chicken()
    process.steps.insert(1, {"id": "wash", "do": "wash_hands", "foods": [], "tools": [], "hands": ["A"]})
    log = ALog(process).washes(10).does(100, "cut").does(150, "wash")
    assert log.rules(160) == ["wash-step-without-wash"]
    assert log.says(160)["hands"]["A"] == ["raw_poultry"]
    washed = ALog(process).washes(10).does(100, "cut").washes(140, "A").does(150, "wash")
    assert washed.rules(160) == []


def test_a_pan_is_clean_only_when_all_in_it_is_shown() -> None:
    process = (
        a_process()
        .food("bird", kind="chicken")
        .food("beef", kind="beef mince")
        .step("heat", "bird beef", tools="pan", id="fry")
        .step("transfer", "bread", tools="pan", id="toast")
        .step("serve", "bread bird beef", id="serve")
        .serve("bread", "bird", "beef")
    )
    log = ALog(process).washes(10).does(600, "fry", by="B").reads(610, "bird", 76, 76, 76)
    assert set(log.does(700, "toast", by="A").rules(710)) == {"ready-to-eat-meets-raw"}
    both = ALog(process).washes(10).does(600, "fry", by="B").reads(610, "bird", 76, 76, 76)
    assert both.reads(620, "beef", 76, 76, 76).does(700, "toast", by="A").rules(710) == []


def test_several_foods_are_away_only_when_all_are() -> None:
    process = (
        a_process()
        .food("yoghurt", kind="yoghurt")
        .food("cream", kind="cream")
        .step("serve", "yoghurt cream", id="serve")
        .serve("yoghurt", "cream")
    )
    log = ALog(process).washes(10).does(100, "serve").at(200, "gone", food="yoghurt", how="eaten")
    assert log.brick("time-out", 300) == "due"
    assert log.at(250, "gone", food="cream", how="eaten").brick("time-out", 300) == "laid"


# --- contamination, people -----------------------------------------------------------------------------------------


def salad() -> AProcess:
    return (
        a_process()
        .food("bird", kind="chicken")
        .step("heat", "bird", tools="pan", id="fry")
        .step("garnish", "salad", tools="plate", id="dress")
        .step("serve", "salad bird", id="serve")
        .serve("salad", "bird")
    )


@pytest.mark.parametrize(("by", "rules"), [("A", ["ready-to-eat-meets-raw"]), ("B", [])])
def test_whoever_lays_raw_meat_in_the_pan_has_raw_hands(by: str, rules: list[str]) -> None:
    log = ALog(salad()).washes(10).does(600, "fry", by="A").reads(610, "bird", 76, 76, 76).does(700, "dress", by=by)
    assert log.says(650)["hands"]["A"] == ["raw_poultry"]
    assert log.rules(750) == rules


def test_serving_with_raw_hands_is_a_breach() -> None:
    log = cooked().does(701, "fry").reads(710, "bird", 76, 76, 76)
    raw = ALog(chicken()).washes(10).does(100, "cut").does(700, "fry", by="B").reads(710, "bird", 76, 76, 76)
    assert log.does(720, "serve").rules(730) == []
    assert raw.does(720, "serve", by="A").rules(730) == ["cooked-meets-raw"]


def test_probing_with_raw_hands_is_a_breach() -> None:
    process = chicken()
    process.tools["probe"] = {"kind": "probe"}
    process.steps.insert(2, {"id": "probe", "do": "probe", "foods": ["bird"], "tools": ["probe"], "hands": []})
    log = ALog(process).washes(10).does(100, "cut").does(700, "fry", by="B").reads(710, "bird", 76, 76, 76)
    assert log.does(720, "probe", by="A").rules(730) == ["cooked-meets-raw"]


def test_a_step_by_nobody_is_by_anybody_and_one_by_a_stranger_is_by_unwashed_hands() -> None:
    nobody = ALog(chicken()).washes(10).at(100, "step_done", step="cut", by=[])
    assert nobody.says(110)["hands"] == {"A": ["raw_poultry"], "B": ["raw_poultry"]}
    assert [row["rule"] for row in nobody.says(110)["noted"]] == ["doer-not-named"]
    stranger = ALog(salad()).washes(10).does(100, "dress", by="Z")
    assert stranger.rules(110) == ["unwashed-hands", "doer-not-at-this-bench"]


@pytest.mark.parametrize(("scrub_s", "hands", "rules"), [(20, [], []), (19.9, ["person"], ["wash-too-short"])])
def test_a_wash_counts_from_its_limit_on(scrub_s: float, hands: list[str], rules: list[str]) -> None:
    log = ALog(chicken(), learners="A").at(10, "hands_washed", learner="A", scrub_s=scrub_s)
    assert (log.says(20)["hands"]["A"], log.rules(20)) == (hands, rules)


def test_what_cannot_be_read_or_only_wipes_is_told() -> None:
    log = ALog(chicken()).at(10, "dance").at(20, "cleaned", tools=["board"], how="wipe")
    log.at(30, "hands_washed", learner="ZZ", scrub_s=40).at(40, "core_read", food="bird", core_c="hot")
    assert log.rules(50) == [
        "entry-not-understood",
        "wiped-not-cleaned",
        "entry-not-understood",
        "entry-not-understood",
    ]


def test_unwashed_produce_is_judged_live_and_rinsing_rinses_the_hands() -> None:
    process = (
        a_process()
        .food("leaf", kind="lettuce")
        .step("cut", "leaf", tools="board", hands="A", id="cut")
        .step("cut", "bread", tools="board2", hands="A", id="bread")
        .step("serve", "leaf bread", id="serve")
        .serve("leaf", "bread")
    )
    log = ALog(process).washes(10).does(100, "cut", "bread", "serve")
    assert log.rules(200) == ["produce-not-rinsed"]
    assert [row["rule"] for row in log.says(200)["noted"]] == ["ready-to-eat-meets-unwashed"]
    process.steps.insert(0, {"id": "rinse", "do": "rinse", "foods": ["leaf"], "tools": [], "hands": ["A"]})
    assert ALog(process).washes(10).does(50, "rinse").does(100, "cut", "bread", "serve").says(200)["noted"] == []


def test_a_food_that_nobody_knows_is_asked_about_when_it_is_served() -> None:
    process = a_process().food("mystery", "unknown").step("serve", "mystery", id="serve").serve("mystery")
    assert ALog(process).washes(10).does(100, "serve").rules(110) == ["no-kill-step"]


def test_a_void_takes_an_entry_out_and_the_same_id_counts_once() -> None:
    log = cooked().at(705, "core_read", id="low", food="bird", piece="9", core_c=40).reads(710, "bird", 76, 76, 76)
    assert log.brick("core-temperature", 720) == "due"
    assert log.at(715, "voided", event="low", reason="wrong bench").brick("core-temperature", 720) == "laid"


def test_a_waiver_is_no_proof() -> None:
    log = cooked().at(705, "waived", control="core-fry", reason="no probe")
    assert log.brick("core-temperature", 710) == "waived"
    assert log.does(720, "serve").brick("core-temperature", 730) == "breach"

"""Cooling judged by each profile: exact at the limit, missing is never a pass."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from foodsafety.cooling import CoolingVerdict, judge_cooling
from foodsafety.rules import rule_profile

MINUTE, HOUR = 60.0, 3600.0


F135, F70, F41 = (135 - 32) / 1.8, (70 - 32) / 1.8, (41 - 32) / 1.8


def judged(code: str, *rows: tuple[float, float]) -> CoolingVerdict:
    return judge_cooling(tuple((hours * HOUR, temp) for hours, temp in rows), rule_profile(code))


@pytest.mark.parametrize(
    ("rows", "verdict", "failed"),
    [
        ([(0, F135), (2, F70), (6, F41)], "pass", None),
        ([(0, F135), (2.01, F70), (6, F41)], "fail", 1),
        ([(0, F135), (1.9, F70), (6.01, F41)], "fail", 2),
        ([(0, F135), (1.9, 20), (5, 10)], "unfinished", None),
        ([(0, F135), (2.5, 30)], "fail", 1),
        ([(0, F135), (1, 50)], "unfinished", None),
        ([(0, 90), (1, 80)], "not_started", None),
        ([(0, 40), (1.9, F70), (5.9, F41)], "pass", None),
        # 21.05 C has passed 70 F (21.11 C); 21.2 C has not.
        ([(0, F135), (2, 21.05), (6, 5.0)], "pass", None),
        ([(0, F135), (2, 21.2), (2.02, 21.0), (6, 5.0)], "fail", 1),
        # Warm again in between: the middle limit is reached when it stays reached.
        ([(0, F135), (1.5, 20), (2.1, 25), (2.5, 20), (6, 5)], "fail", 1),
    ],
)
def test_two_stages_under_the_food_code(rows: list[tuple[float, float]], verdict: str, failed: int | None) -> None:
    found = judged("us-foodservice", *rows)

    assert (found.verdict, found.failed_stage) == (verdict, failed)


def test_the_clock_starts_where_the_curve_falls_through_the_start() -> None:
    found = judged("us-foodservice", (0, 80), (1, F135 - (80 - F135)), (2.4, 20), (6, 4))

    assert found.start_s == pytest.approx(0.5 * HOUR)
    assert found.verdict == "pass"


@pytest.mark.parametrize(
    ("rows", "verdict", "failed"),
    [
        ([(0, 60), (2, 21), (6, 5)], "pass", None),
        ([(0, 60), (1, 21), (5.01, 5)], "fail", 2),
        ([(0, 60), (2.01, 21), (5, 5)], "fail", 1),
        ([(0, 60), (1, 21), (4, 8)], "unfinished", None),
    ],
)
def test_the_second_stage_of_anz_runs_from_the_first_ones_end(
    rows: list[tuple[float, float]], verdict: str, failed: int | None
) -> None:
    found = judged("anz", *rows)

    assert (found.verdict, found.failed_stage) == (verdict, failed)


@pytest.mark.parametrize(("hours", "verdict"), [(1.5, "pass"), (1.51, "fail")])
def test_one_stage_in_the_uk(hours: float, verdict: str) -> None:
    assert judged("uk", (0, 63), (hours, 8)).verdict == verdict


@pytest.mark.parametrize("code", ["us-home", "canada"])
def test_where_no_stage_is_measured_a_warm_log_is_no_verdict(code: str) -> None:
    assert judged(code, (0, 60), (1.9, 4)).verdict == "pass"
    assert judged(code, (0, 60), (3, 20)).verdict == "unfinished"


def test_no_reading_is_nothing_started() -> None:
    assert judge_cooling((), rule_profile("uk")).verdict == "not_started"


@given(st.lists(st.floats(-5, 90), min_size=2, max_size=12), st.floats(0.1, 3))
def test_a_slower_log_never_does_better(temps: list[float], stretch: float) -> None:
    rank = {"pass": 0, "unfinished": 1, "not_started": 1, "fail": 2}
    quick = tuple((i * 600.0, temp) for i, temp in enumerate(temps))
    slow = tuple((time_s * (1 + stretch), temp) for time_s, temp in quick)

    assert (
        rank[judge_cooling(slow, rule_profile("anz")).verdict]
        >= rank[judge_cooling(quick, rule_profile("anz")).verdict]
    )

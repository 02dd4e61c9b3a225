"""Topics ``cook``, ``clock``, ``coldstore``, ``store``: each rule met, broken, exactly at its limit, missing."""

from typing import Any

import pytest

from foodsafety.cli import clock, coldstore, cook, store
from foodsafety.quantities import CoreError, c_from_f

H, F = 3600.0, c_from_f


def cooked(code: str, kind: str | list[str], *readings: Any, **more: Any) -> Any:
    data = {"code": code, "readings": [["a", *row] if row and len(row) == 2 else row for row in readings], **more}
    data["kinds" if isinstance(kind, list) else "kind"] = kind
    data.setdefault("now_s", 0)
    return cook.run(data)


@pytest.mark.parametrize(
    ("code", "kind", "method", "limit_c"),
    [
        ("us-foodservice", "venison", "oven", F(165)), ("us-home", "rabbit", "oven", F(160)),
        ("us-foodservice", "stuffed fish", "oven", F(165)), ("uk", "venison", "oven", 70.0),
        ("us-home", ["beef", "chicken"], "hob", F(165)), ("canada", ["cod", "beef"], "hob", 70.0),
        ("us-home", "beef", "microwave", F(165)), ("canada", "whole chicken", "microwave", 82.0),
    ],
)  # fmt: skip
def test_the_limit_is_the_strictest_for_what_is_in_it(code: str, kind: Any, method: str, limit_c: float) -> None:
    assert cooked(code, kind, (0, 50), method=method)["limit_c"] == pytest.approx(limit_c)


@pytest.mark.parametrize(
    ("code", "kind", "limit_c"),
    [
        ("us-home", "cooked rice", F(165)), ("us-foodservice", "cooked rice", F(165)), ("anz", "cooked rice", 75.0),
        ("canada", "beef", 74.0),
        ("us-foodservice", "ham", F(135)), ("us-home", "ham", F(165)), ("us-foodservice", "chicken", F(165)),
    ],
)  # fmt: skip
def test_what_was_cooked_before_is_reheated(code: str, kind: str, limit_c: float) -> None:
    assert cooked(code, kind, (0, 50), reheat=True)["limit_c"] == pytest.approx(limit_c)


@pytest.mark.parametrize("kinds", [["beef", "cod"], ["cod", "beef"]])
def test_of_equal_rows_the_one_that_rests_speaks_in_either_order(kinds: list[str]) -> None:
    assert cooked("us-home", kinds, (0, 63), now_s=10)["verdict"] == "rest"


def test_a_longer_hold_counts_only_if_every_food_may_be_cooked_so() -> None:
    assert cooked("us-foodservice", "beef roast", (0, F(131)), (600, F(131)), now_s=600)["verdict"] == "hold"
    assert cooked("us-foodservice", ["beef roast", "cod"], (0, F(131)), (600, F(131)), now_s=600)["verdict"] == "below"


@pytest.mark.parametrize(
    ("readings", "verdict"),
    [
        ([(0, 76), ["b", 1, 76], ["c", 2, 76]], "reached"),
        ([(0, 76), ["b", 1, 76], ["c", 2, 52]], "below"),
        ([(0, 76), ["b", 1, 76], ["c", 2, 76], (300, 52)], "below"),
        ([(0, 76), ["b", 1, 76], ["c", 2, 76], (300, 52), (400, F(165))], "reached"),
        ([(0, 76), ["b", 1, 76]], "cannot_judge"),
        ([(0, None), [None, 1, 76], None], "cannot_judge"),
        ([(0, 76), (0, 60), ["b", 1, 76], ["c", 2, 76]], "below"),
    ],
)  # fmt: skip
def test_the_lowest_and_latest_of_all_pieces_counts(readings: list[Any], verdict: str) -> None:
    assert cooked("us-home", "chicken", *readings, pieces=3, now_s=500)["verdict"] == verdict


@pytest.mark.parametrize(
    ("readings", "verdict"),
    [
        ([(0, 70), (120, 70)], "reached"), ([(0, 70), (119, 70)], "hold"),
        ([(0, 70), (60, 69.9), (130, 70)], "hold"), ([(0, 70), (601, 70)], "hold"), ([(0, 70), (600, 70)], "reached"),
        ([(0, 70), (601, 70), (721, 70)], "reached"),
    ],
)  # fmt: skip
def test_a_hold_is_unbroken_read_and_without_a_long_gap(readings: list[Any], verdict: str) -> None:
    assert cooked("uk", "chicken", *readings, now_s=800)["verdict"] == verdict


def test_130_f_at_both_ends_of_112_minutes_proves_nothing() -> None:
    ends = cooked("us-foodservice", "beef roast", (0, F(130)), (6720, F(130)), now_s=6720)
    read = [(600.0 * i, F(130)) for i in range(12)] + [(6720.0, F(130))]

    assert (ends["verdict"], ends["wait_s"]) == ("hold", 6720)
    assert cooked("us-foodservice", "beef roast", *read, now_s=6720)["verdict"] == "reached"


@pytest.mark.parametrize(
    ("readings", "off_s", "now_s", "said"),
    [
        ([(0, 63)], 60, 100, ("rest", 140)), ([(0, 63)], 60, 240, ("reached", None)),
        ([(0, 63)], 60, 239, ("rest", 1)), ([(0, 63), (200, 62.7)], 60, 300, ("below", None)),
        ([(0, 63)], None, 100, ("rest", 80)), ([(0, 63), (90, 63)], None, 100, ("rest", 170)),
        ([(0, 55), (100, 63)], 50, 240, ("rest", 40)), ([(0, 55)], 50, 999, ("below", None)),
    ],
    ids=["resting", "by the clock", "early", "broken", "nobody said", "from the last", "not before the limit", "never"],
)  # fmt: skip
def test_a_rest_counts_off_the_heat_at_the_limit(readings: list[Any], off_s: Any, now_s: float, said: Any) -> None:
    found = cooked("us-home", "beef", *readings, off_heat_s=off_s, now_s=now_s)
    assert (found["verdict"], found.get("wait_s")) == said


@pytest.mark.parametrize(("error_c", "verdict"), [(0, "reached"), (1.0, "reached"), (1.1, "below")])
def test_a_thermometer_worse_than_guidance_allows_has_its_error_taken_off(error_c: float, verdict: str) -> None:
    assert cooked("us-home", "chicken", (0, 74.9), error_c=error_c)["verdict"] == verdict


@pytest.mark.parametrize("field", [{"kind": "moon rock"}, {"method": "sun"}, {"reheat": "yes"}, {"readings": [[1, 2]]}])
def test_what_cannot_be_read_is_refused_by_its_field(field: dict[str, Any]) -> None:
    with pytest.raises(CoreError) as wrong:
        cook.run({"code": "uk", "kind": "beef", "readings": [], "now_s": 0, **field})
    assert wrong.value.field.startswith(next(iter(field)))


# --- clock ---------------------------------------------------------------------------------------------------------


def clocked(code: str, *readings: tuple[float, float], **more: Any) -> str:
    return str(clock.run({"code": code, "readings": [list(row) for row in readings], **more})["verdict"])


def out_for(hours: float, at_c: float = 15.0) -> list[tuple[float, float]]:
    """Cold, then out at once for so long."""
    return [(0, 4), (0.001, at_c), (0.001 + hours * H, at_c)]


@pytest.mark.parametrize(
    ("code", "hours", "more", "verdict"),
    [
        ("us-home", 1.99, {}, "ok"), ("us-home", 2.01, {}, "discard"),
        ("us-home", 0.99, {"ambient_c": 33}, "ok"), ("us-home", 1.01, {"ambient_c": 33}, "discard"),
        ("us-home", 1.01, {"ambient_c": F(90)}, "ok"),
        ("anz", 1.99, {}, "ok"), ("anz", 2.001, {}, "use_now"), ("anz", 3.99, {}, "use_now"),
        ("anz", 4.001, {}, "discard"),
        ("uk", 3.99, {}, "ok"), ("uk", 4.01, {}, "discard"),
        ("us-foodservice", 3.99, {}, "ok"), ("us-foodservice", 4.01, {}, "discard"),
        ("us-home", 1.99, {"school": "2_4"}, "ok"), ("us-home", 2.001, {"school": "2_4"}, "use_now"),
        ("us-home", 4.001, {"school": "2_4"}, "discard"),
        ("us-home", 5.9, {"school": "4_6"}, "use_now"), ("us-home", 6.1, {"school": "4_6"}, "discard"),
    ],
)  # fmt: skip
def test_cold_food_out_for_so_long(code: str, hours: float, more: dict[str, Any], verdict: str) -> None:
    assert clocked(code, *out_for(hours), **more) == verdict


def test_exactly_four_hours_is_over_where_the_source_says_or_more() -> None:
    level = [(0.0, 20.0), (4 * H, 20.0)]
    assert clocked("anz", *level, made_from="cold") == "discard"
    assert clocked("uk", *level, made_from="cold") == "ok"


def test_six_hours_above_70_f_is_thrown_away_and_food_that_began_warm_has_no_time_control() -> None:
    assert clocked("us-foodservice", (0, 4), (H, 22), school="4_6") == "discard"
    assert clocked("us-foodservice", (0, 4), (H, F(70)), school="4_6") == "use_now"
    assert clocked("us-foodservice", (0, 20), (H, 20), school="4_6") == "cannot_judge"
    assert clocked("us-foodservice", (0, 20), (H, 20)) == "cannot_judge"
    assert clocked("us-foodservice", (0, 60), (H, 40), school="4_6") == "use_now"


@pytest.mark.parametrize(
    ("code", "readings", "verdict"),
    [
        ("us-foodservice", [(0, 70), (2 * H, 20), (3 * H, 15)], "ok"),
        ("us-foodservice", [(0, 70), (2 * H, 30), (3 * H, 25)], "discard"),
        ("us-foodservice", [(0, 70), (2 * H, 20), (7 * H, 6)], "discard"),
        ("anz", [(0, 70), (2 * H, 20), (5.9 * H, 5)], "ok"), ("us-home", [(0, 70), (3 * H, 30)], "discard"),
        ("uk", [(0, 70), (2.6 * H, 30)], "discard"),
    ],
)  # fmt: skip
def test_hot_food_follows_its_own_course_and_not_the_clock_of_cold_food(
    code: str, readings: list[tuple[float, float]], verdict: str
) -> None:
    assert clocked(code, *readings) == verdict


def test_food_made_at_room_temperature_has_four_hours_to_41_f() -> None:
    assert clocked("us-foodservice", (0, 22), (3.9 * H, 8), made_from="ambient") == "ok"
    assert clocked("us-foodservice", (0, 22), (4.1 * H, 6), made_from="ambient") == "discard"
    cold_in_time = [(0, 22), (3.9 * H, 4), (6 * H, 4), (6.01 * H, 15), (7 * H, 15)]
    assert clocked("us-foodservice", *cold_in_time, made_from="ambient") == "ok"


def test_the_uk_allows_one_period_above_8_c_and_none_after() -> None:
    once = [(0, 5), (600, 12), (1200, 5), (9000, 7)]
    assert clocked("uk", *once) == "ok"
    assert clocked("uk", *once, (9600, 12)) == "discard"


def test_one_reading_of_food_that_is_out_says_nothing_of_how_long() -> None:
    assert [clocked("us-home", (0, c)) for c in (20, 4, 60)] == ["cannot_judge", "ok", "ok"]
    assert clocked("us-home") == "cannot_judge"


# --- coldstore ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("kind", "readings", "verdict"),
    [
        ("fridge", [(0, 4), (H, 4)], "cold"), ("fridge", [(0, 9), (1799, 9), (1799.001, 4)], "cold"),
        ("fridge", [(0, 9), (1801, 9), (1801.001, 4)], "measure"),
        ("fridge", [(0, 9), (H, 9), (H + 1, 3), (2 * H, 3), (2 * H + 1, 9), (3.2 * H, 9)], "discard"),
        ("fridge", [(0, 3), (1200, 9)], "watch"),
        ("freezer", [(0, -18), (H, 12), (25 * H, 12), (26 * H, -18)], "discard"),
        ("freezer", [(0, -18), (60, 1), (3 * H, 1), (4 * H, -18)], "measure"),
        ("freezer", [(0, -18), (H, -9), (9 * H, -9), (10 * H, -18)], "watch"),
        ("freezer", [(0, -18), (H, -19)], "cold"),
        ("fridge", [], "measure"),
    ],
)  # fmt: skip
def test_spells_add_up_and_a_freezer_that_thawed_is_in_question(kind: str, readings: Any, verdict: str) -> None:
    found = coldstore.run({"code": "us-home", "kind": kind, "readings": [list(row) for row in readings]})
    assert found["verdict"] == verdict


def test_the_warm_time_is_that_of_every_spell() -> None:
    rows = [[0, 9], [600, 9], [600.5, 3], [900, 3], [900.5, 9], [1500, 9]]
    assert coldstore.run({"code": "us-home", "kind": "fridge", "readings": rows})["warm_s"] == pytest.approx(
        1200, abs=2
    )


# --- store ---------------------------------------------------------------------------------------------------------


def stored(code: str, category: str, **more: Any) -> tuple[Any, bool]:
    found = store.run({"code": code, "category": category, "made_at": "2026-03-02T12:00:00", "place": "fridge", **more})
    return found["use_by"], found["throw_away"]


@pytest.mark.parametrize(
    ("code", "category", "minutes", "thrown"),
    [
        ("us-home", "cut fruit", 120, False), ("us-home", "cut fruit", 121, True), ("anz", "yoghurt", 119, False),
        ("anz", "yoghurt", 120, True), ("anz", "cut fruit", 200, True), ("anz", "leftovers", 240, True),
        ("us-foodservice", "leftovers", 121, True), ("us-foodservice", "cut fruit", 240, False),
        ("uk", "leftovers", 121, True),
    ],
)  # fmt: skip
def test_out_too_long_is_thrown_away_whatever_its_life(code: str, category: str, minutes: int, thrown: bool) -> None:
    use_by, throw_away = stored(code, category, out_minutes=minutes)
    assert (throw_away, use_by is None) == (thrown, thrown)


def test_it_is_one_hour_where_it_was_hot() -> None:
    assert stored("us-home", "leftovers", out_minutes=61, hottest_c=35) == (None, True)
    assert stored("us-home", "leftovers", out_minutes=60, hottest_c=35)[1] is False


@pytest.mark.parametrize(
    ("code", "category", "frozen", "thawed", "use_by"),
    [
        ("us-home", "leftovers", "2026-03-04T12:00:00", "2026-04-01T08:00:00", "2026-04-02T08:00:00"),
        ("us-home", "leftovers", "2026-03-02T12:00:00", "2026-04-01T08:00:00", "2026-04-04T08:00:00"),
        ("us-home", "leftovers", None, "2026-04-01T08:00:00", "2026-04-02T08:00:00"),
        ("uk", "raw steak", "2026-03-02T12:00:00", "2026-04-01T08:00:00", "2026-04-02T08:00:00"),
        ("us-foodservice", "hard boiled eggs", "2026-03-05T12:00:00", "2026-04-01T08:00:00", "2026-04-04T08:00:00"),
        ("us-home", "raw prawns", "2026-03-02T12:00:00", "2026-04-01T08:00:00", "2026-04-02T08:00:00"),
        ("us-home", "leftovers", "2026-03-06T12:00:00", "2026-04-01T08:00:00", None),
        ("us-home", "leftovers", "2026-03-04T12:00:00", None, "2026-03-05T12:00:00"),
    ],
    ids=["two days used", "none used", "unknown", "uk a day", "in the seven", "thawed row", "too late", "still frozen"],
)  # fmt: skip
def test_freezing_pauses_and_never_resets(code: str, category: str, frozen: Any, thawed: Any, use_by: Any) -> None:
    assert stored(code, category, frozen_at=frozen, thawed_at=thawed)[0] == use_by


def test_a_day_of_rice_is_given_with_its_hour() -> None:
    assert stored("uk", "rice", made_at="2026-03-02")[0] == "2026-03-03T00:00:00"
    assert stored("us-home", "rice", made_at="2026-03-02")[0] == "2026-03-05"


@pytest.mark.parametrize(
    ("category", "place", "said"), [("custard", "freezer", (None, False)), ("ice cream", "fridge", (None, False))]
)
def test_what_does_not_keep_has_no_date_and_is_not_therefore_thrown_away(category: str, place: str, said: Any) -> None:
    assert stored("us-home", category, place=place) == said


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"frozen_at": "2026-03-01T12:00:00"}, "frozen_at"), ({"thawed_at": "2026-03-01T12:00:00"}, "thawed_at"),
        ({"category": "moon rock", "made_at": "then"}, "category"),
        ({"frozen_at": "2026-03-03T12:00:00Z"}, "frozen_at"),
    ],
)  # fmt: skip
def test_times_that_run_backwards_are_refused_by_name(more: dict[str, Any], field: str) -> None:
    with pytest.raises(CoreError) as wrong:
        stored("uk", more.pop("category", "rice"), **more)
    assert wrong.value.field == field

"""Timers at the bench, steps tapped before their time, rooms in the wrong unit, any temperature."""

import json
from typing import Any

import pytest
from django.urls import reverse

from bulwark.lessons import selectors
from foodsafety.lesson import State
from tests.web.conftest import Hostel, post_entry
from tests.web.test_measuring import current, panel, screen

READY = ["apron", "hair", "jewellery", "cuts", "well"]


@pytest.fixture
def cooking(hostel: Hostel) -> Hostel:
    """Up to the griddle."""
    hostel.open()
    for name in ("AK", "JT"):
        hostel.says("ready", learner=name, checks=READY)
        hostel.says("hands_washed", learner=name, scrub_s=20)
    hostel.says("fridge_read", core_c=3.0)
    for step in ("grate", "stir", "chill", "mix", "shape", "wash", "wash-up", "slice"):
        hostel.says("step_done", step=step, by=["AK"])
        hostel.says("hands_washed", learner="AK", scrub_s=20)
    return hostel


def state_of(hostel: Hostel) -> State:
    return selectors.bench_state(hostel.puffin)[0]


def sent(hostel: Hostel, kind: str, **data: Any) -> tuple[int, dict[str, Any]]:
    answer = post_entry(hostel.tablet(), kind, data=data)
    return answer.status_code, json.loads(answer.content)


def test_a_step_tapped_at_once_is_asked_about_and_recorded_as_early(cooking: Hostel) -> None:
    status, body = sent(cooking, "step_done", step="griddle", by=["AK"])
    assert (status, body["code"]) == (409, "question")
    assert body["again"] == "Not yet"
    assert "griddle" not in state_of(cooking).done

    status, _ = sent(cooking, "step_done", step="griddle", by=["AK"], early=True)
    assert status == 200
    assert "done-early" in [row.finding.rule for row in state_of(cooking).noted]
    assert "the recipe gives it" in screen(cooking)


def test_a_step_without_a_time_is_not_asked_about(cooking: Hostel) -> None:
    sent(cooking, "step_done", step="griddle", by=["AK"], early=True)
    assert sent(cooking, "step_done", step="fresh-tongs", by=["AK"])[0] == 200


def test_a_heat_step_counts_down_from_when_it_went_on(cooking: Hostel) -> None:
    assert current(screen(cooking)) == "step-griddle"
    assert "The recipe gives it" in panel(screen(cooking), "step-griddle")
    cooking.says("on_heat", step="griddle")
    assert "data-down" in panel(screen(cooking), "step-griddle")


@pytest.mark.parametrize(
    ("value", "unit", "status", "kept_c"),
    [(21, "C", 200, 21.0), (70, "F", 200, 21.11), (33, "F", 409, None), (70, "C", 409, None), (2, "C", 409, None)],
)
def test_a_room_in_the_wrong_unit_is_asked_about(
    cooking: Hostel, value: float, unit: str, status: int, kept_c: float | None
) -> None:
    assert sent(cooking, "ambient_read", value=value, unit=unit)[0] == status
    found = state_of(cooking).ambient_c
    assert found == (pytest.approx(kept_c, abs=0.01) if kept_c is not None else None)


def test_a_cold_hall_is_believed_when_somebody_says_so(cooking: Hostel) -> None:
    assert sent(cooking, "ambient_read", value=2, unit="C", confirmed=True)[0] == 200
    assert state_of(cooking).ambient_c == 2.0


def test_anything_that_is_there_can_be_measured_at_any_step(cooking: Hostel) -> None:
    dialog = screen(cooking).split('id="measure"')[1].split("</dialog>")[0]
    assert 'data-food="koftas"' in dialog
    assert 'data-food="raita"' in dialog
    assert 'data-kind="ambient_read"' in dialog
    assert 'data-food="turkey"' not in dialog  # it went into the koftas


def test_the_number_of_pieces_is_said_with_one_tap(cooking: Hostel) -> None:
    sent(cooking, "step_done", step="griddle", by=["AK"], early=True)
    sent(cooking, "step_done", step="fresh-tongs", by=["AK"])
    assert "Pieces in all" in panel(screen(cooking), "step-probe")
    assert sent(cooking, "counted", food="koftas", pieces="1")[0] == 200
    sent(cooking, "core_read", food="koftas", piece="1", value=76, unit="C")
    assert "Reached" in panel(screen(cooking), "step-probe")


def test_pieces_that_are_no_number_are_named(cooking: Hostel) -> None:
    status, body = sent(cooking, "counted", food="koftas", pieces="a few")
    assert (status, body["field"]) == (422, "pieces")


def front(hostel: Hostel, **fields: str) -> str:
    path = reverse("bench_entry", args=[hostel.puffin.pk])
    return hostel.client().post(path, fields, follow=True).content.decode()


def test_the_front_takes_a_temperature_for_a_bench_and_asks_as_the_bench_would(cooking: Hostel) -> None:
    asked = {"kind": "core_read", "food": "koftas", "piece": "2", "value": "74", "unit": "F"}
    html = front(cooking, **asked)
    assert "looks wrong" in html
    assert 'value="74"' in html  # what was typed is still there
    assert state_of(cooking).food("koftas").readings == ()

    front(cooking, **{**asked, "unit": "C"})
    assert [row.core_c for row in state_of(cooking).food("koftas").readings] == [74.0]


def test_the_record_says_the_profiles_unit_and_celsius_whoever_reads_it(cooking: Hostel) -> None:
    cooking.says("core_read", food="koftas", piece="1", core_c=76.0)
    html = cooking.client().get(f"/lessons/{cooking.lesson.pk}/record/").content.decode()
    assert "168.8 °F in the middle (76 °C)" in html

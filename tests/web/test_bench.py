"""Joining, and entries as they arrive: questions, repeats, clocks that are wrong."""

import datetime as dt
import uuid

import pytest
from django.test import Client
from django.utils import timezone

from bulwark.bench.screens import bench_screen
from bulwark.bench.selectors import COOKIE
from bulwark.lessons import selectors
from bulwark.lessons.models import Device, Event
from bulwark.presentation.patience import LONGEST_S, WAIT
from tests.web.conftest import Hostel, post_entry


def test_a_code_typed_in_small_letters_with_spaces_joins(hostel: Hostel) -> None:
    code = hostel.open().puffin.join_code
    client = Client()

    response = client.post("/join/", {"code": f" {code[:3].lower()} {code[3:].lower()} "})

    assert response["Location"] == "/b/"
    assert b"Puffin" in client.get("/b/").content


@pytest.mark.parametrize("code", ["ZZZZZZ", "a", "", "<script>alert(1)</script>"])
def test_an_unknown_code_gets_a_plain_message_and_keeps_what_was_typed(hostel: Hostel, code: str) -> None:
    response = Client().post("/join/", {"code": code})

    assert response.status_code in (404, 422)
    assert b"That code is not known" in response.content
    assert b"<script>alert" not in response.content


def test_a_lesson_not_started_says_wait(hostel: Hostel) -> None:
    response = Client().post("/join/", {"code": hostel.puffin.join_code})

    assert (response.status_code, b"has not started yet" in response.content) == (409, True)


def test_a_look_at_a_code_joins_nothing_and_says_nothing_of_it(hostel: Hostel) -> None:
    right, wrong = (Client().get(f"/j/{code}/") for code in (hostel.open().puffin.join_code, "ZZZZZZ"))

    assert Device.objects.count() == 0
    assert COOKIE not in right.cookies
    assert right.content.count(b"Puffin") == 0
    assert (right.status_code, wrong.status_code) == (200, 200)


def test_wrong_codes_are_answered_later_and_later_and_the_right_one_at_once(hostel: Hostel) -> None:
    code = hostel.open().puffin.join_code
    client = Client()
    waits = [float(client.post("/join/", {"code": "ZZZZZZ"}).get(WAIT, 0)) for _ in range(12)]

    assert waits[:4] == [0, 0, 0, 0]
    assert waits[4:] == sorted(waits[4:])
    assert waits[-1] == LONGEST_S
    right = client.post("/join/", {"code": code})
    assert (right.status_code, right.get(WAIT)) == (302, None)
    assert Client(REMOTE_ADDR="10.0.0.9").post("/join/", {"code": "ZZZZZZ"}).get(WAIT) is None


@pytest.mark.parametrize(
    ("kind", "value", "unit", "answer"),
    [
        ("core_read", 165, "C", "It is 165 °F"),
        ("core_read", 74, "F", "It is 74 °C"),
        ("fridge_read", 38, "C", "It is 38 °F"),
    ],
)
def test_a_reading_in_the_wrong_unit_is_questioned(
    hostel: Hostel, kind: str, value: float, unit: str, answer: str
) -> None:
    tablet = hostel.open().tablet()

    response = post_entry(tablet, kind, data={"value": value, "unit": unit, "food": "koftas", "piece": "1"})

    assert response.status_code == 409
    assert answer in [row["label"] for row in response.json()["answers"]]
    assert Event.objects.count() == 0


def test_a_reading_no_food_can_have_cannot_be_confirmed(hostel: Hostel) -> None:
    data = {"value": 165, "unit": "C", "food": "koftas", "piece": "1", "confirmed": True}

    assert post_entry(hostel.open().tablet(), "core_read", data=data).status_code == 409


def test_the_answer_to_the_question_is_recorded_with_what_was_typed(hostel: Hostel) -> None:
    data = {"value": 74, "unit": "C", "food": "koftas", "piece": "1"}

    assert post_entry(hostel.open().tablet(), "core_read", data=data).status_code == 200
    stored = Event.objects.get().data
    assert (stored["core_c"], stored["entered"]) == (74.0, {"value": 74, "unit": "C", "confirmed": False})


@pytest.mark.parametrize(
    ("kind", "data", "field"),
    [
        ("core_read", {"value": "hot", "unit": "C"}, "value"),
        ("core_read", {"value": 74, "unit": "K"}, "unit"),
        ("core_read", {"value": 74, "unit": "C", "food": "moon", "piece": "1"}, "food"),
        ("step_done", {"step": "fly", "by": ["AK"]}, "step"),
        ("hands_washed", {"learner": "AK", "scrub_s": -1}, "scrub_s"),
        ("dance", {}, "kind"),
    ],
)
def test_a_wrong_field_is_named(hostel: Hostel, kind: str, data: dict[str, object], field: str) -> None:
    response = post_entry(hostel.open().tablet(), kind, data=data)

    assert (response.status_code, response.json()["field"]) == (422, field)
    assert Event.objects.count() == 0


@pytest.mark.parametrize("body", ["", "{", "[]", '{"id": 1}', '{"id":"x","kind":"called","data":{}}', "[" * 5000])
def test_what_is_not_an_entry_is_refused_quietly(hostel: Hostel, body: str) -> None:
    response = hostel.open().tablet().post("/b/entries/", body, content_type="application/json")

    assert response.status_code == 422


def test_the_same_entry_sent_again_is_recorded_once(hostel: Hostel) -> None:
    tablet, event_id = hostel.open().tablet(), str(uuid.uuid4())

    answers = [post_entry(tablet, "called", id=event_id).json()["again"] for _ in range(2)]

    assert answers == [False, True]
    assert Event.objects.count() == 1


@pytest.mark.parametrize("skew_h", [0, -7, 5], ids=["right", "slow by 7 h", "fast by 5 h"])
def test_a_tablet_clock_that_is_hours_wrong_cancels_out(hostel: Hostel, skew_h: int) -> None:
    hostel.open()
    hostel.lesson.opened_at = timezone.now() - dt.timedelta(hours=1)
    hostel.lesson.save()
    sent = timezone.now() + dt.timedelta(hours=skew_h)
    happened = sent - dt.timedelta(minutes=4)

    post_entry(hostel.tablet(), "called", happened_at=happened.timestamp() * 1000, sent_at=sent.timestamp() * 1000)

    ago = timezone.now() - Event.objects.get().happened_at
    assert abs(ago - dt.timedelta(minutes=4)) < dt.timedelta(seconds=5)


def test_nothing_happens_before_the_lesson_or_after_now(hostel: Hostel) -> None:
    tablet, now = hostel.open().tablet(), timezone.now().timestamp() * 1000

    post_entry(tablet, "called", happened_at=now - 3_600_000, sent_at=now)
    post_entry(tablet, "called", happened_at=now + 3_600_000, sent_at=now)

    hostel.lesson.refresh_from_db()
    first, second = Event.objects.order_by("seq")
    assert first.happened_at == hostel.lesson.opened_at
    assert second.happened_at <= timezone.now()


def test_a_plain_form_works_without_script(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()

    response = tablet.post("/b/entries/", {"id": str(uuid.uuid4()), "kind": "step_done", "step": "mix", "by": "AK"})

    assert response["Location"] == "/b/"
    assert Event.objects.get().data == {"step": "mix", "by": ["AK"]}


def test_the_screen_sends_every_panel_along_and_shows_one(hostel: Hostel) -> None:
    html = hostel.open().tablet().get("/b/").content.decode()

    panels = [part.split(">")[0] for part in html.split("data-panel=")[1:]]
    assert len(panels) == 13 + 6
    assert sum("hidden" not in panel for panel in panels) == 1


def test_the_screen_names_what_stands_in_the_way_of_each_learner(hostel: Hostel) -> None:
    hostel.open()
    for name in ("AK", "JT"):
        hostel.says("hands_washed", learner=name, scrub_s=20)
    hostel.says("step_done", step="mix", by=["AK"])

    html = hostel.tablet().get("/b/screen/").content.decode()

    slice_panel = html.split('data-panel="step-slice"')[1].split("data-panel=")[0]
    assert 'data-interlock="AK"' in slice_panel
    assert 'data-interlock="JT"' not in slice_panel


def test_the_simulated_probe_reads_warmer_as_time_passes(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    assert tablet.get("/b/probe/?food=koftas&piece=1").status_code == 404
    hostel.says("step_done", step="griddle", by=[])

    reading = tablet.get("/b/probe/?food=koftas&piece=1").json()
    assert 40 < reading["celsius"] < 97  # between where it began and the griddle
    assert {"device", "channel", "celsius", "error_c", "battery_percent", "calibrated", "at"} <= set(reading)


def test_the_state_of_one_screen_costs_few_queries(hostel: Hostel, django_assert_max_num_queries) -> None:
    tablet = hostel.open().tablet()
    hostel.says("step_done", step="mix", by=["AK"])
    tablet.get("/b/screen/")

    with django_assert_max_num_queries(4):
        tablet.get("/b/screen/")


def test_the_snapshot_is_only_a_cache(hostel: Hostel) -> None:
    hostel.open().says("fridge_read", core_c=4)
    state, seq = selectors.bench_state(hostel.puffin)
    selectors._snapshots.clear()

    assert selectors.bench_state(hostel.puffin) == (state, seq)


def test_a_step_says_which_two_come_after_it(hostel: Hostel) -> None:
    bench = hostel.open().puffin
    rows = [panel for panel, _ in bench_screen(bench, unit="C")["panels"] if panel.kind in ("step", "clean")]

    assert rows[0].extra["then"][0] == ("", rows[1].name)
    assert all(len(panel.extra["then"]) <= 2 for panel in rows)


@pytest.mark.parametrize(("sent", "status"), [("12", 200), ("soon", 422), ("-3", 422)])
def test_a_timer_is_set_by_a_form_and_by_nothing_else(hostel: Hostel, sent: str, status: int) -> None:
    tablet = hostel.open().tablet()
    response = post_entry(tablet, "timer_set", data={"timer": "t1", "name": "rice", "minutes": sent})

    assert response.status_code == status
    assert Event.objects.filter(kind="timer_set").count() == (status == 200)
    if status == 200:
        assert b"rice" in tablet.get("/b/").content


def test_a_rehearsal_whose_clock_is_its_own_gives_a_tablet_no_readings_to_weigh(hostel: Hostel) -> None:
    hostel.open().arrive()
    for step in ("grate", "stir", "chill", "mix", "shape"):
        hostel.says("step_done", step=step, by=["AK"])
    hostel.says("on_heat", step="griddle")
    hostel.says("step_done", step="griddle", by=["AK"], goes_on=True)
    real = bench_screen(hostel.puffin, unit="C")
    rehearsed = hostel.puffin
    rehearsed.lesson.rehearsal = True
    played = bench_screen(rehearsed, unit="C")

    owed = [[panel.extra.get("owed", "") for panel, _ in screen["panels"]] for screen in (real, played)]
    assert any(owed[0])
    assert not any(owed[1])

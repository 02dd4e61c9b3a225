"""Tablets at a bench: by number, sent away, silent; and what comes after a lesson has ended."""

import datetime as dt
import json
import uuid
from typing import Any
from unittest.mock import patch

import pytest
from django.db import OperationalError
from django.test import Client
from django.utils import timezone

from bulwark.bench import limits
from bulwark.lessons import selectors, services
from bulwark.lessons.models import Bench, Device, Event, Lesson
from bulwark.people.actors import bench_actor
from bulwark.records.selectors import lesson_record
from tests.web.conftest import Hostel, post_entry

MINUTE = dt.timedelta(minutes=1)


def here(tablet: Client, waiting: object = 0) -> Any:
    return tablet.post("/b/here/", json.dumps({"data": {"waiting": waiting}}), content_type="application/json")


def ago(tablet: Client, minutes: float, kind: str = "called", id: str | None = None) -> Any:
    """An entry of so many minutes ago, by a clock that is an hour wrong."""
    sent = (timezone.now() + 60 * MINUTE).timestamp() * 1000
    return post_entry(tablet, kind, id=id, happened_at=sent - minutes * 60_000, sent_at=sent)


def ended(hostel: Hostel, *, minutes_ago: float) -> None:
    """The lesson was opened an hour before and has ended."""
    end = timezone.now() - minutes_ago * MINUTE
    Lesson.objects.filter(pk=hostel.lesson.pk).update(opened_at=end - 60 * MINUTE, closed_at=end)
    selectors.forget_open_bench(hostel.puffin.pk)


# --- tablets ---------------------------------------------------------------------------------------------------------


def test_the_log_says_which_tablet_of_the_bench_it_was(hostel: Hostel) -> None:
    hostel.open()
    for tablet in (hostel.tablet(), hostel.tablet()):
        assert post_entry(tablet, "called").status_code == 200

    assert list(Event.objects.values_list("recorded_by", flat=True)) == ["bench:1", "bench:2"]
    page = hostel.client().get(f"/lessons/{hostel.lesson.pk}/record/").content.decode()
    assert "tablet 2" in page


def test_a_tablet_that_is_sent_away_says_nothing_more_and_hears_nothing_more(hostel: Hostel) -> None:
    away, stays = (hostel.open().tablet() for _ in range(2))
    post_entry(away, "called")
    client = hostel.client()
    assert client.post(f"/devices/{Device.objects.get(number=1).pk}/away/").status_code == 302

    assert [post_entry(one, "called").status_code for one in (away, stays)] == [403, 200]
    assert [one.get("/b/").status_code for one in (away, stays)] == [403, 200]
    assert [one.get("/b/screen/").status_code for one in (away, stays)] == [403, 200]
    assert [one.get("/b/live/").status_code for one in (away, stays)] == [404, 200]
    assert [here(one).status_code for one in (away, stays)] == [403, 200]
    assert b"sent away" in client.get(f"/lessons/{hostel.lesson.pk}/").content


def test_a_tablet_that_joins_twice_is_one_and_one_that_leaves_is_not_waited_for(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    tablet.post("/join/", {"code": hostel.puffin.join_code})
    assert Device.objects.count() == 1

    tablet.post("/join/", {"code": hostel.gannet.join_code})
    assert list(Device.objects.filter(sent_away_at=None).values_list("bench__name", flat=True)) == ["Gannet"]
    tablet.post("/b/leave/")
    assert not Device.objects.filter(sent_away_at=None).exists()


def test_a_new_code_lets_nobody_in_with_the_old_and_leaves_in_who_is(hostel: Hostel) -> None:
    old = hostel.open().puffin.join_code
    tablet = hostel.tablet()
    hostel.client().post(f"/benches/{hostel.puffin.pk}/code/")

    assert Client().post("/join/", {"code": old}).status_code == 404
    assert Client().post("/join/", {"code": hostel.puffin.join_code}).status_code == 302
    assert tablet.get("/b/").status_code == 200


@pytest.mark.parametrize("path", ["/devices/{device}/away/", "/benches/{bench}/code/", "/lessons/{lesson}/reopen/"])
def test_another_organisation_sends_nobody_away(hostel: Hostel, path: str) -> None:
    hostel.open().tablet()
    stranger = Hostel("Farside Bothy").client()
    numbers = {"device": Device.objects.get().pk, "bench": hostel.puffin.pk, "lesson": hostel.lesson.pk}

    assert stranger.post(path.format(**numbers), {"reason": "ours now"}).status_code == 404
    assert Client().post(path.format(**numbers), {"reason": "ours now"}).status_code == 302
    assert Device.objects.get().sent_away_at is None


def test_a_tablet_is_told_the_time_and_tells_what_waits(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    told = here(tablet, 3).json()["now"] / 1000

    assert abs(told - timezone.now().timestamp()) < 5
    assert Device.objects.get().waiting == 3


@pytest.mark.parametrize("waiting", [None, -1, True, "many", 10**400, [3], {}])
def test_what_is_no_number_of_entries_is_none(hostel: Hostel, waiting: object) -> None:
    tablet = hostel.open().tablet()

    assert here(tablet, waiting).status_code == 200
    assert Device.objects.get().waiting in (0, 100_000)


def test_one_device_that_speaks_without_end_is_slowed_and_no_other(hostel: Hostel) -> None:
    fast, other = (hostel.open().tablet() for _ in range(2))
    with patch.object(limits, "BURST", 5), patch.object(limits, "A_SECOND", 0.0):
        limits._left.clear()
        answers = [post_entry(fast, "called").status_code for _ in range(8)]
        assert answers == [200] * 5 + [429] * 3
        assert post_entry(other, "called").status_code == 200


def test_what_one_device_may_say_comes_back_with_time() -> None:
    limits._left.clear()
    assert sum(limits.may_speak(1, 0.0) for _ in range(500)) == limits.BURST
    assert not limits.may_speak(1, 0.1)
    assert sum(limits.may_speak(1, 10.0) for _ in range(500)) == pytest.approx(10 * limits.A_SECOND, abs=2)


def test_an_entry_that_is_far_too_large_is_refused_unread(hostel: Hostel) -> None:
    answer = post_entry(hostel.open().tablet(), "called", data={"x": "y" * 9000})

    assert (answer.status_code, answer.json()["code"]) == (413, "too_large")
    assert Event.objects.count() == 0


# --- after the end ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("ended_ago", "entry_ago", "status"),
    [
        (10, 11, 200),
        (10, 9, 410),
        (10, 0, 410),
        (47 * 60, 47 * 60 + 1, 200),
        (49 * 60, 49 * 60 + 1, 410),
    ],
)
def test_what_happened_before_the_end_is_taken_for_two_days(
    hostel: Hostel, ended_ago: float, entry_ago: float, status: int
) -> None:
    tablet = hostel.open().tablet()
    ended(hostel, minutes_ago=ended_ago)

    assert ago(tablet, entry_ago).status_code == status
    assert Event.objects.count() == (1 if status == 200 else 0)


def test_two_days_after_the_end_nothing_is_taken_whoever_says_when_it_was(hostel: Hostel) -> None:
    bench = hostel.open().puffin
    ended(hostel, minutes_ago=49 * 60)
    bench.lesson.refresh_from_db()
    before = bench.lesson.closed_at - MINUTE
    entry = {"kind": "called", "data": {}, "event_id": uuid.uuid4(), "at": before, "really": before}

    with pytest.raises(services.LessonError):
        services.record_event(bench=bench, by=bench_actor(bench.pk), **entry)


def test_a_late_entry_counts_where_it_happened_and_is_marked(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    ended(hostel, minutes_ago=10)
    ago(tablet, 30)
    ago(tablet, 20)

    hostel.lesson.refresh_from_db()
    [row] = [row for row in lesson_record(hostel.lesson)["benches"] if row["bench"].name == "Puffin"]
    assert [entry["after_end"] != "" for entry in row["log"]] == [True, True]
    happened = [entry["event"].happened_at for entry in row["log"]]
    assert [round((hostel.lesson.closed_at - at).total_seconds() / 60) for at in happened] == [20, 10]


def test_an_educator_is_warned_before_the_end_of_what_may_still_come(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    hostel.tablet(hostel.gannet)
    here(tablet, 2)
    Device.objects.filter(bench=hostel.gannet).update(seen_at=timezone.now() - 7 * MINUTE)
    client, close = hostel.client(), f"/lessons/{hostel.lesson.pk}/close/"

    page = client.post(close)
    assert page.status_code == 200
    assert b"Puffin, tablet 1: 2 waiting on it" in page.content
    assert b"Gannet, tablet 1: silent for 7 min" in page.content
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.closed_at is None

    assert client.post(close, {"sure": "1"}).status_code == 302
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.closed_at is not None


def test_a_tablet_that_enters_is_not_silent_though_it_says_nothing_else(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    Device.objects.update(seen_at=timezone.now() - 7 * MINUTE)
    post_entry(tablet, "called")

    assert hostel.client().post(f"/lessons/{hostel.lesson.pk}/close/")["Location"].endswith("/record/")


def test_a_lesson_from_which_nothing_may_come_ends_at_once(hostel: Hostel) -> None:
    here(hostel.open().tablet())
    answer = hostel.client().post(f"/lessons/{hostel.lesson.pk}/close/")

    assert answer["Location"].endswith("/record/")


@pytest.mark.parametrize(
    ("ended_ago", "reason", "reopened"),
    [(5, "still cooking", True), (5, " ", False), (25 * 60, "still cooking", False)],
)
def test_a_lesson_is_taken_up_again_within_the_day_for_a_reason(
    hostel: Hostel, ended_ago: float, reason: str, reopened: bool
) -> None:
    tablet = hostel.open().tablet()
    ended(hostel, minutes_ago=ended_ago)
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/reopen/", {"reason": reason})

    hostel.lesson.refresh_from_db()
    assert (hostel.lesson.closed_at is None) is reopened
    assert post_entry(tablet, "called").status_code == (200 if reopened else 410)
    told = Event.objects.filter(kind="reopened")
    assert [row.data for row in told] == ([{"reason": reason}] * Bench.objects.count() if reopened else [])


def test_taken_up_again_the_clock_of_a_bench_that_was_late_runs_on(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    ended(hostel, minutes_ago=10)
    ago(tablet, 30)
    client = hostel.client()
    for _ in range(2):
        client.post(f"/lessons/{hostel.lesson.pk}/reopen/", {"reason": "the soup is still to be probed"})
    ago(tablet, 0)

    last = Event.objects.filter(bench=hostel.puffin, kind="called").order_by("-seq")[0]
    assert timezone.now() - last.happened_at < dt.timedelta(seconds=30)
    assert Event.objects.filter(bench=hostel.puffin, kind="reopened").count() == 1


def test_a_bench_that_nobody_came_to_took_no_part_though_its_lesson_was_taken_up_again(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    post_entry(tablet, "called")
    hostel.close().client().post(f"/lessons/{hostel.lesson.pk}/reopen/", {"reason": "too early"})
    hostel.lesson.refresh_from_db()
    assert hostel.lesson.closed_at is None
    hostel.close()

    rows = {row["bench"].name: row["took_part"] for row in lesson_record(hostel.lesson)["benches"]}
    assert rows == {"Gannet": False, "Puffin": True}


def test_nobody_forges_that_a_lesson_was_taken_up_again(hostel: Hostel) -> None:
    hostel.open()
    client = hostel.client()
    client.post(f"/benches/{hostel.puffin.pk}/entry/", {"kind": "reopened", "reason": "so it seems"})

    assert post_entry(hostel.tablet(), "reopened", data={"reason": "so it seems"}).status_code == 422
    assert Event.objects.count() == 0


def test_an_entry_claimed_from_the_future_or_long_ago_is_of_now() -> None:
    now = timezone.now()
    for claimed, sent in ((now + MINUTE, now), (now - 50 * 60 * MINUTE, now), (None, now), (now, None)):
        assert abs(selectors.really_at(claimed=claimed, sent=sent) - now) < dt.timedelta(seconds=5)


# --- the database is away --------------------------------------------------------------------------------------------


def test_a_database_that_is_away_is_said_and_refuses_no_entry(hostel: Hostel) -> None:
    tablet, client = hostel.open().tablet(), hostel.client()
    with patch("bulwark.lessons.services.read_entry", side_effect=OperationalError("the connection is lost")):
        answer = post_entry(tablet, "called", id=str(uuid.uuid4()))
    with patch("bulwark.lessons.selectors.lessons_for", side_effect=OperationalError("the connection is lost")):
        page = client.get(f"/lessons/{hostel.lesson.pk}/record/")

    client.raise_request_exception = False
    with patch("django.contrib.sessions.backends.db.SessionStore.load", side_effect=OperationalError("it is gone")):
        before = client.get("/recipes/")  # before any view

    assert (before.status_code, before["Retry-After"]) == (503, "5")
    assert (answer.status_code, answer.json()) == (503, {"code": "away"})
    assert (page.status_code, page["Retry-After"]) == (503, "5")
    assert b'http-equiv="refresh"' in page.content

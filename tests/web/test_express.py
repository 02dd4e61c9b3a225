"""The short way of an entry: only what is plainly a tablet's of ours takes it, and nothing it leaves is lost."""

import io
import json
import uuid
from typing import Any

import pytest
from django.conf import LazySettings
from django.test import Client

from bulwark.bench import express
from bulwark.bench.selectors import COOKIE
from bulwark.lessons import services
from bulwark.lessons.models import Device, Event
from tests.web.conftest import Hostel

TOKEN = "k" * 32


def request_of(
    tablet: Client, kind: str = "called", data: dict[str, Any] | None = None, **other: Any
) -> dict[str, Any]:
    """What an entry of a tablet looks like to the server."""
    body = json.dumps({"id": str(other.pop("id", uuid.uuid4())), "kind": kind, "data": data or {"learner": "SD"}})
    body = other.pop("body", body)
    return {
        "REQUEST_METHOD": "POST",
        "PATH_INFO": "/b/entries/",
        "CONTENT_TYPE": "application/json",
        "CONTENT_LENGTH": str(len(body)),
        "HTTP_HOST": "127.0.0.1:8000",
        "HTTP_ORIGIN": "http://127.0.0.1:8000",
        "HTTP_COOKIE": f"csrftoken={TOKEN}; {COOKIE}={tablet.cookies[COOKIE].value}",
        "HTTP_X_CSRFTOKEN": TOKEN,
        "wsgi.url_scheme": "http",
        "wsgi.input": io.BytesIO(body.encode()),
        **other,
    }


def test_a_plain_entry_goes_into_the_log_at_once_and_twice_is_one(hostel: Hostel) -> None:
    tablet, name = hostel.open().tablet(), uuid.uuid4()

    first, again = (json.loads(express.at_once(request_of(tablet, id=name)) or b"{}") for _ in range(2))

    assert first == {"code": "recorded", "seq": 1, "again": False}
    assert (again["code"], again["again"]) == ("recorded", True)
    assert list(Event.objects.values_list("kind", "recorded_by")) == [("called", "bench:1")]


@pytest.mark.parametrize(
    "other",
    [
        {"HTTP_X_CSRFTOKEN": "j" * 32},
        {"HTTP_X_CSRFTOKEN": ""},
        {"HTTP_X_CSRFTOKEN": "", "HTTP_COOKIE": "csrftoken="},
        {"HTTP_ORIGIN": "http://elsewhere.example"},
        {"HTTP_ORIGIN": "null"},
        {"HTTP_ORIGIN": "", "wsgi.url_scheme": "https"},
        {"HTTP_HOST": "elsewhere.example", "HTTP_ORIGIN": "http://elsewhere.example"},
        {"REQUEST_METHOD": "PUT"},
        {"CONTENT_LENGTH": "9000"},
        {"body": "{"},
        {"body": '{"data": 5}'},
        {"body": "[" * 2000},
        {"kind": "core_read", "data": {"food": "koftas", "value": 165, "unit": "C", "learner": "SD"}},
        {"kind": "no_such_kind"},
        {"kind": "wash_started", "data": {"learner": "\x00"}},
        {"kind": "wash_started", "data": {"learner": "\ud800"}},
    ],
)
def test_what_is_not_plain_is_left_to_the_long_way_with_its_body_whole(hostel: Hostel, other: dict[str, Any]) -> None:
    tablet = hostel.open().tablet()
    asked = request_of(tablet, **other)
    before = asked["wsgi.input"].getvalue()

    assert express.at_once(asked) is None

    assert asked["wsgi.input"].read() == before
    assert Event.objects.count() == 0


def test_under_tls_an_entry_in_the_clear_takes_the_long_way(hostel: Hostel, settings: LazySettings) -> None:
    tablet = hostel.open().tablet()
    settings.BEHIND_TLS = True
    safe = {"wsgi.url_scheme": "https", "HTTP_ORIGIN": "https://127.0.0.1:8000"}

    assert express.at_once(request_of(tablet)) is None
    assert express.at_once(request_of(tablet, **safe)) is not None


def test_a_device_that_was_sent_away_and_a_lesson_that_is_over_take_the_long_way(hostel: Hostel) -> None:
    tablet = hostel.open().tablet()
    services.send_away(Device.objects.get())
    assert express.at_once(request_of(tablet)) is None

    other = hostel.tablet()
    services.close_lesson(lesson=hostel.lesson)
    assert express.at_once(request_of(other)) is None
    assert Event.objects.count() == 0

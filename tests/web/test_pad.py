"""An adult looks on at some benches with a code: what they see is kept, and they say nothing else."""

from __future__ import annotations

import re
import uuid
from typing import Any

import pytest
from django.test import Client

from bulwark.lessons.models import Event
from bulwark.lessons.selectors import bench_state
from bulwark.pad.models import Assistant
from tests.web.conftest import Hostel

pytestmark = pytest.mark.django_db


def let_in(hostel: Hostel, *benches: str) -> Assistant:
    ids = [row.pk for row in hostel.lesson.benches.all() if row.name in benches]
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/pads/", {"benches": ids})
    return Assistant.objects.latest("pk")


def phone(one: Assistant) -> Client:
    client = Client()
    assert client.post("/pad/join/", {"code": one.code.lower()}).status_code == 302
    return client


def saw(client: Client, bench: Any, **data: str) -> Any:
    said = {"bench": str(bench.pk), "what": "hands", "learner": "AK", "seen": "right", **data}
    body = {"id": str(uuid.uuid4()), "kind": said.pop("kind", "watched"), "data": said}
    return client.post("/pad/entries/", body, content_type="application/json")


def test_let_in_with_a_code_they_see_their_benches_and_what_to_look_at(hostel: Hostel) -> None:
    hostel.open()
    one = let_in(hostel, "Puffin")
    page = hostel.client().get(f"/lessons/{hostel.lesson.pk}/pads/").content.decode()
    assert one.code in page
    assert re.fullmatch(r"[A-Z2-9]{8}", one.code)
    html = " ".join(phone(one).get("/pad/").content.decode().split())
    assert "Puffin" in html
    assert "Gannet" not in html
    assert "Hands washed whole, 20 seconds, dried on paper?" in html
    assert 'data-who="AK"' in html


def test_what_was_seen_to_go_wrong_is_called_out_and_in_the_log_without_a_name(hostel: Hostel) -> None:
    hostel.open()
    for name in ("AK", "JT"):
        hostel.says("hands_washed", learner=name, scrub_s=20)
    client = phone(let_in(hostel, "Puffin"))
    assert saw(client, hostel.puffin, seen="wrong").status_code == 200

    wall = " ".join(hostel.client().get(f"/lessons/{hostel.lesson.pk}/wall/").content.decode().split())
    assert "AK: the hand-wash was seen to go wrong: wash again" in wall
    [event] = Event.objects.filter(kind="watched")
    assert event.recorded_by == "assistant:1"
    assert event.data == {"what": "hands", "learner": "AK", "seen": "wrong"}
    log = hostel.client().get(f"/benches/{hostel.puffin.pk}/").content.decode()
    assert "AK, hand-wash: seen wrong" in log
    hostel.says("hands_washed", learner="AK", scrub_s=20)
    wall = hostel.client().get(f"/lessons/{hostel.lesson.pk}/wall/").content.decode()
    assert "was seen to go wrong" not in wall


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"kind": "core_read"}, "kind"),
        ({"kind": "paused"}, "kind"),
        ({"kind": "voided"}, "kind"),
        ({"learner": "SD"}, "learner"),
        ({"what": "mood"}, "what"),
        ({"seen": "perhaps"}, "seen"),
    ],
)
def test_they_say_nothing_else(hostel: Hostel, change: dict[str, str], field: str) -> None:
    hostel.open()
    answer = saw(phone(let_in(hostel, "Puffin")), hostel.puffin, **change)
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert not Event.objects.filter(kind__in=("watched", "core_read", "paused")).exists()


def test_another_bench_another_organisation_and_whoever_was_sent_away_are_refused(hostel: Hostel) -> None:
    hostel.open()
    one = let_in(hostel, "Puffin")
    client = phone(one)
    assert saw(client, hostel.gannet, learner="SD").status_code == 422
    other = Hostel("Gull Rock Hostel").open()
    assert saw(client, other.puffin).status_code == 422
    assert other.client().get(f"/lessons/{hostel.lesson.pk}/pads/").status_code == 404
    assert other.client().post(f"/lessons/{hostel.lesson.pk}/pads/1/away/").status_code == 404
    assert saw(hostel.tablet(), hostel.puffin).status_code == 403, "a bench's tablet is no pad"

    hostel.client().post(f"/lessons/{hostel.lesson.pk}/pads/1/away/")
    assert saw(client, hostel.puffin).status_code == 403
    assert client.get("/pad/").status_code == 403
    assert Client().post("/pad/join/", {"code": one.code}).status_code == 404
    assert not Event.objects.filter(kind="watched").exists()


def test_a_code_lets_in_only_while_the_lesson_is_open_and_never_without_a_bench(hostel: Hostel) -> None:
    one = let_in(hostel, "Puffin")
    assert Client().post("/pad/join/", {"code": one.code}).status_code == 404, "it has not begun"
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/pads/", {"benches": []})
    assert Assistant.objects.count() == 1
    hostel.open()
    client = phone(one)
    hostel.close()
    assert Client().post("/pad/join/", {"code": one.code}).status_code == 404
    assert client.get("/pad/").status_code == 200, "what waits on it is still taken"


@pytest.mark.parametrize("body", ["", "[]", "{}", '{"id": 3}', '{"data": []}', "x" * 200_000])
def test_anything_else_is_refused_in_words(hostel: Hostel, body: str) -> None:
    hostel.open()
    client = phone(let_in(hostel, "Puffin"))
    answer = client.post("/pad/entries/", body, content_type="application/json")
    assert answer.status_code == 422
    assert answer.json()["message"]


def take_back(client: Client, bench: Any, event: str) -> Any:
    data = {"bench": str(bench.pk), "what": "hands", "learner": "AK", "event": event}
    body = {"id": str(uuid.uuid4()), "kind": "taken_back", "data": data}
    return client.post("/pad/entries/", body, content_type="application/json")


def test_what_was_sent_is_taken_back_by_who_saw_it_and_that_is_seen(hostel: Hostel) -> None:
    hostel.open()
    hostel.says("hands_washed", learner="AK", scrub_s=20)
    client = phone(let_in(hostel, "Puffin"))
    saw(client, hostel.puffin, seen="wrong")
    assert bench_state(hostel.puffin)[0].person("AK").washed is None
    event = str(Event.objects.get(kind="watched").uuid)

    other = phone(let_in(hostel, "Puffin"))
    assert take_back(other, hostel.puffin, event).status_code == 200
    assert bench_state(hostel.puffin)[0].person("AK").washed is None, "nobody takes back what another has seen"
    assert take_back(client, hostel.puffin, event).status_code == 200
    assert bench_state(hostel.puffin)[0].person("AK").washed is not None
    wall = " ".join(hostel.client().get(f"/lessons/{hostel.lesson.pk}/wall/").content.decode().split())
    assert "AK: what was said of them was taken back, hand-wash" in wall
    log = hostel.client().get(f"/benches/{hostel.puffin.pk}/").content.decode()
    assert "taken back by who saw it" in log


def test_a_pad_takes_nothing_back_that_a_bench_has_said(hostel: Hostel) -> None:
    hostel.open()
    washed = str(hostel.says("hands_washed", learner="AK", scrub_s=20))
    assert take_back(phone(let_in(hostel, "Puffin")), hostel.puffin, washed).status_code == 200
    assert bench_state(hostel.puffin)[0].person("AK").washed is not None

"""The front of a lesson, handed over with one code to somebody without an account."""

import pytest
from django.test import Client
from django.utils import timezone

from bulwark.front.models import StandIn
from bulwark.lessons import selectors, services
from bulwark.lessons.models import Event
from tests.web.conftest import Hostel


def handed_over(hostel: Hostel) -> Client:
    """A device that has taken the front over."""
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/hand-over/")
    code = StandIn.objects.get(lesson=hostel.lesson).code
    client = Client()
    taken = client.post("/front/join/", {"code": code.lower()})
    assert taken.status_code == 302
    assert taken["Location"] == f"/lessons/{hostel.lesson.pk}/wall/"
    return client


def test_a_stand_in_runs_the_lesson_and_the_log_says_so(hostel: Hostel) -> None:
    hostel.open().arrive()
    client = handed_over(hostel)
    pk, bench = hostel.lesson.pk, hostel.puffin.pk
    assert client.get(f"/lessons/{pk}/wall/").status_code == 200
    assert client.get(f"/lessons/{pk}/wall/fragment/").status_code == 200
    assert client.get(f"/benches/{bench}/").status_code == 200
    hostel.says("called")
    client.post(f"/benches/{bench}/entry/", {"kind": "answered"})
    assert selectors.bench_state(hostel.puffin)[0].called_s is None
    assert Event.objects.filter(kind="answered").get().recorded_by == "stand_in:1"
    assert "stand-in 1" in hostel.client().get(f"/benches/{bench}/").content.decode()
    client.post(f"/lessons/{pk}/pause/", {"why": "fire"})
    assert selectors.bench_state(hostel.gannet)[0].paused
    assert client.post(f"/lessons/{pk}/close/", {"sure": "1"})["Location"] == "/front/"
    assert "The lesson is over" in client.get("/front/").content.decode()


@pytest.mark.parametrize(
    "path",
    "/ /recipes/ /groups/ /rules/ /kitchen/ /people/ /lessons/{pk}/ /lessons/{pk}/record/ /lessons/{pk}/pads/ "
    "/lessons/{pk}/hand-over/ /lessons/{pk}/board/ /lessons/{pk}/pack/".split(),
)
def test_nothing_else_of_the_kitchen_is_open_to_a_stand_in(hostel: Hostel, path: str) -> None:
    client = handed_over(hostel.open())
    page = client.get(path.format(pk=hostel.lesson.pk))
    assert page.status_code == 403
    assert "You stand in at one lesson" in page.content.decode()


def test_no_other_lesson_is_open_to_a_stand_in(hostel: Hostel) -> None:
    client = handed_over(hostel.open())
    other = Hostel("Tern Rock Hostel").open()
    same_house = services.create_lesson(
        recipe=hostel.lesson.recipe,
        place="",
        starts_at=timezone.now(),
        length_min=60,
        benches={"Skua": ["ZZ"]},
        profile_id="us-home",
    )
    services.open_lesson(lesson=same_house)
    for lesson in (other.lesson, same_house):
        bench = lesson.benches.first().pk
        assert client.get(f"/lessons/{lesson.pk}/wall/").status_code == 404
        assert client.get(f"/lessons/{lesson.pk}/wall/fragment/").status_code == 404
        assert client.get(f"/lessons/{lesson.pk}/live/").status_code == 404
        assert client.get(f"/benches/{bench}/").status_code == 404
        assert client.post(f"/benches/{bench}/entry/", {"kind": "answered"}).status_code == 404


def test_a_code_lets_one_device_in_and_is_worth_nothing_once_used_or_taken_back(hostel: Hostel) -> None:
    client = handed_over(hostel.open())
    one = StandIn.objects.get()
    assert Client().post("/front/join/", {"code": one.code}).status_code == 404
    assert Client().post("/front/join/", {"code": "ABCDEFGH"}).status_code == 404
    wall = f"/lessons/{hostel.lesson.pk}/wall/"
    assert client.get(wall).status_code == 200
    hostel.client().post(f"/lessons/{hostel.lesson.pk}/hand-over/1/away/")
    assert client.get(wall).status_code == 302, "to the sign-in"
    count = Event.objects.count()
    client.post(f"/benches/{hostel.puffin.pk}/entry/", {"kind": "answered"})
    assert Event.objects.count() == count
    assert client.get("/front/").status_code == 403


def test_a_lesson_that_does_not_run_is_not_handed_over(hostel: Hostel) -> None:
    page = hostel.client().post(f"/lessons/{hostel.lesson.pk}/hand-over/", follow=True)
    assert not StandIn.objects.exists()
    assert "has not been started" in page.content.decode()
    other = Hostel("Tern Rock Hostel").open().client()
    assert other.post(f"/lessons/{hostel.lesson.pk}/hand-over/").status_code == 404

"""A fire drill in the middle of a lesson."""

from __future__ import annotations

import pytest

from bulwark.lessons.models import Event
from tests.web.conftest import Hostel, post_entry

pytestmark = pytest.mark.django_db


def paused(hostel: Hostel, **asked: str) -> int:
    return hostel.client().post(f"/lessons/{hostel.lesson.pk}/pause/", asked).status_code


def bench(hostel: Hostel) -> str:
    return " ".join(hostel.tablet().get("/b/").content.decode().split())


def wall(hostel: Hostel) -> str:
    return " ".join(hostel.client().get(f"/lessons/{hostel.lesson.pk}/wall/").content.decode().split())


@pytest.fixture
def cooking(hostel: Hostel) -> Hostel:
    hostel.open()
    hostel.arrive()
    for step in ("grate", "stir", "chill", "mix", "shape"):
        hostel.says("step_done", step=step, by=["AK"])
    hostel.says("on_heat", step="griddle")
    return hostel


def test_one_tap_stops_every_bench_and_says_so_in_front(cooking: Hostel) -> None:
    assert "Paused" not in wall(cooking)
    assert paused(cooking, why="fire") == 302
    assert Event.objects.filter(kind="paused").count() == 2
    assert "Fire alarm or drill" in wall(cooking)
    assert "Every clock of food goes on." in wall(cooking)
    assert "is-paused" in bench(cooking)
    assert "Leave everything. Listen to the educator." in bench(cooking)


def test_coming_back_the_bench_says_what_became_of_the_heat_before_it_goes_on(cooking: Hostel) -> None:
    paused(cooking, why="power")
    paused(cooking, resume="1")
    html = bench(cooking)
    assert 'data-current="back-' in html
    assert "Was the heat off? <b>Koftas on the griddle</b>" in html
    assert "read the fridge before anything out of it is used" in html
    assert "Seen, go on" not in html

    answer = post_entry(cooking.tablet(), "heat_said", data={"step": "griddle", "off": "true"})
    assert answer.status_code == 200
    html = bench(cooking)
    assert "Koftas: the heat was off. Back on, and to its limit by the probe" in html
    assert "Seen, go on" in html
    post_entry(cooking.tablet(), "back_seen", data={})
    assert 'data-current="back-' not in bench(cooking)
    log = cooking.client().get(f"/benches/{cooking.puffin.pk}/").content.decode()
    assert "The heat was off in the pause" in log


def test_a_bench_cannot_stop_the_lesson_and_nobody_stops_another_organisations(cooking: Hostel) -> None:
    assert post_entry(cooking.tablet(), "paused", data={"why": "fire"}).status_code == 422
    other = Hostel("Gull Rock Hostel")
    assert other.client().post(f"/lessons/{cooking.lesson.pk}/pause/", {"why": "fire"}).status_code == 404
    assert paused(cooking, why="lunch") == 302
    assert not Event.objects.filter(kind="paused").exists()
    cooking.close()
    paused(cooking, why="fire")
    assert not Event.objects.filter(kind="paused").exists()

"""A timer outlives its lesson: it stands on Today until somebody answers it."""

import pytest

from bulwark.lessons import call_wording
from bulwark.lessons.models import Event
from bulwark.lessons.selectors import bench_state
from foodsafety.lesson import step_clocks
from tests.web.conftest import Hostel, post_entry

pytestmark = pytest.mark.django_db


def today(hostel: Hostel) -> str:
    return " ".join(hostel.client().get("/").content.decode().split())


def test_what_still_runs_when_the_lesson_ends_stands_on_today_until_it_is_answered(hostel: Hostel) -> None:
    hostel.open()
    post_entry(hostel.tablet(), "timer_set", data={"timer": "t1", "name": "bark in the freezer", "minutes": 90})
    post_entry(hostel.tablet(), "timer_set", data={"timer": "t2", "name": "rice", "minutes": 5})
    post_entry(hostel.tablet(), "timer_answered", data={"timer": "t2"})
    assert "Bark in the freezer" not in today(hostel), "while the lesson runs it is on the wall"
    hostel.close()

    text = today(hostel)
    assert "Bark in the freezer" in text
    assert "A timer of Puffin" in text
    assert "Rice" not in text
    asked = {"kind": "timer_answered", "timer": "t1", "next": "/"}
    answer = hostel.client().post(f"/benches/{hostel.puffin.pk}/entry/", asked)
    assert answer["Location"] == "/"
    assert "Bark in the freezer" not in today(hostel)


def test_the_front_sets_a_timer_for_a_bench_and_answers_it(hostel: Hostel) -> None:
    hostel.open()
    path, client = f"/benches/{hostel.puffin.pk}/", hostel.client()
    client.post(f"{path}entry/", {"kind": "timer_set", "timer": "front-1", "name": "oven", "minutes": "20"})
    assert Event.objects.get(kind="timer_set").data["minutes"] == 20
    assert "oven" in hostel.tablet().get("/b/").content.decode(), "the bench has it too"
    page = client.get(path).content.decode()
    assert "<b>oven</b>" in page
    client.post(f"{path}entry/", {"kind": "timer_answered", "timer": "front-1"})
    assert "<b>oven</b>" not in client.get(path).content.decode()


@pytest.mark.parametrize("minutes", ["0", "-5", "soon", "99999"])
def test_a_timer_from_the_front_without_a_time_is_refused_in_words(hostel: Hostel, minutes: str) -> None:
    hostel.open()
    asked = {"kind": "timer_set", "timer": "front-1", "name": "oven", "minutes": minutes}
    hostel.client().post(f"/benches/{hostel.puffin.pk}/entry/", asked, follow=True)
    assert not Event.objects.filter(kind="timer_set").exists()


def test_a_step_that_is_still_on_when_the_lesson_ends_stands_on_today_until_it_is_said_to_be_done(
    hostel: Hostel,
) -> None:
    hostel.open()
    hostel.says("on_heat", step="griddle")
    hostel.close()
    assert "Koftas" in today(hostel)
    asked = {"kind": "step_done", "step": "griddle", "next": "/"}
    hostel.client().post(f"/benches/{hostel.puffin.pk}/entry/", asked)
    assert Event.objects.filter(kind="step_done").exists()
    assert "Koftas" not in today(hostel)


def test_a_cook_whose_longest_time_is_over_is_called_out(hostel: Hostel) -> None:
    hostel.open().arrive()
    hostel.says("on_heat", step="griddle")
    page = hostel.client().get(f"/lessons/{hostel.lesson.pk}/wall/").content.decode()
    assert "Look to the koftas" not in page
    assert "koftas" in page.partition('class="tm"')[2][:200], "its clock stands at the foot of the wall"
    state, _ = bench_state(hostel.puffin)
    [clock] = step_clocks(state)
    found = call_wording.bench_call(state, (), clock.over_s + 90)
    assert found is not None
    assert found.text == "Look to the koftas"

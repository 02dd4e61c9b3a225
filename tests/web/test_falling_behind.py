"""A bench that falls behind the lesson's plan: what the wall says, which ways back there are, and what taking one
does."""

import datetime as dt
from collections.abc import Callable
from typing import Any

import pytest
from django.utils import timezone

from bulwark.board import services as board
from bulwark.board.catching_up import Rest
from bulwark.lessons import selectors
from bulwark.lessons.models import Event, Lesson
from tests.web.conftest import Hostel


@pytest.fixture
def late(hostel: Hostel) -> Hostel:
    """A lesson 40 minutes old: Gannet is at the griddle, Puffin has mixed and nothing more."""
    hostel.open()
    board.keep_plan(Lesson.objects.get(pk=hostel.lesson.pk))
    began = timezone.now() - dt.timedelta(minutes=40)
    Lesson.objects.filter(pk=hostel.lesson.pk).update(opened_at=began, starts_at=began)
    hostel.lesson.refresh_from_db()
    hostel.arrive()
    for step in ("grate", "stir", "chill", "mix"):
        hostel.says("step_done", step=step, by=["AK"])
    for name in ("SD", "RO"):
        hostel.says("hands_washed", hostel.gannet, learner=name, scrub_s=20)
    for step in ("grate", "stir", "chill", "mix", "shape", "wash", "wash-up", "slice"):
        hostel.says("step_done", hostel.gannet, step=step, by=["SD"])
    hostel.says("hands_washed", hostel.gannet, learner="SD", scrub_s=20)
    hostel.says("on_heat", hostel.gannet, step="griddle")
    return hostel


def wall(hostel: Hostel) -> str:
    return hostel.client().get(f"/lessons/{hostel.lesson.pk}/wall/").content.decode()


def test_a_lesson_that_begins_keeps_its_plan(
    hostel: Hostel, django_capture_on_commit_callbacks: Callable[..., Any]
) -> None:
    with django_capture_on_commit_callbacks(execute=True):
        hostel.open()
    planned = Lesson.objects.get(pk=hostel.lesson.pk).planned["benches"]
    assert set(planned) == {"Gannet", "Puffin"}
    for times in planned.values():
        assert times["mix"][0] < times["mix"][1] <= times["griddle"][0]


def test_the_wall_says_who_is_behind_and_never_before_a_check(late: Hostel) -> None:
    page = wall(late)
    assert "Help them catch up" in page
    assert "min behind the plan" in page
    state, _ = selectors.bench_state(late.puffin)
    assert selectors.late_of(late.puffin, state, selectors.lesson_now(late.puffin.lesson).timestamp())
    late.says("called")
    assert "Go to them" in wall(late)
    assert "Help them catch up" not in wall(late), "they called: that is said first"


def test_every_way_back_is_solved_from_what_is_done_and_ends_sooner(late: Hostel) -> None:
    rest = Rest(Lesson.objects.get(pk=late.lesson.pk))
    ways = rest.ways("Puffin")
    assert ways
    assert len({row.do for row in ways}) == len(ways)
    for row in ways:
        assert row.do == "later" or row.ends_min < -(-rest.ends_s // 60)
        assert row.fits == (row.ends_min <= late.lesson.length_min)
    page = late.client().get(f"/benches/{late.puffin.pk}/behind/").content.decode()
    assert "As it is, all would end at" in page
    assert page.count("<form") == len(ways)


def test_a_helper_comes_with_their_hands_and_the_bench_is_told(late: Hostel) -> None:
    client = late.client()
    done = client.post(
        f"/benches/{late.puffin.pk}/behind/take/", {"do": "help", "of": "RO", "bench": "Gannet"}, follow=True
    )
    assert done.status_code == 200
    puffin, _ = selectors.bench_state(late.puffin)
    gannet, _ = selectors.bench_state(late.gannet)
    assert "RO" in puffin.present
    assert "RO" not in gannet.present
    assert "RO comes to help you" in late.tablet().get("/b/").content.decode()
    assert "Help them catch up" not in wall(late), "the plan goes on from where they are"


def test_a_dish_left_out_takes_its_steps_along_and_no_check_of_what_is_eaten(late: Hostel) -> None:
    before = {row.id for row in selectors.bench_state(late.puffin)[0].plan.controls}
    late.client().post(f"/benches/{late.puffin.pk}/behind/take/", {"do": "not_made", "of": "salad"})
    state, _ = selectors.bench_state(late.puffin)
    assert "slice" in state.done
    assert "clean-salad" in state.dropped
    assert state.dropped < before
    assert not any(row.startswith("core") for row in state.dropped)
    page = late.client().get(f"/benches/{late.puffin.pk}/").content.decode()
    assert "Salad is left out of the meal" in page
    assert "not made" in page


def test_a_way_that_is_none_changes_nothing(late: Hostel) -> None:
    count = Event.objects.count()
    client, path = late.client(), f"/benches/{late.puffin.pk}/behind/take/"
    for sent in (
        {"do": "sing"},
        {"do": "help", "of": "RO"},
        {"do": "help", "of": "XX", "bench": "Gannet"},
        {"do": "not_made", "of": "koftas"},
        {"do": "help", "of": "RO", "bench": "Nowhere"},
    ):
        page = client.post(path, sent, follow=True).content.decode()
        assert "bw-note is-error" in page, sent
    assert Event.objects.count() == count


def test_another_organisation_finds_no_bench_here(late: Hostel) -> None:
    other = Hostel("Tern Rock Hostel").client()
    assert other.get(f"/benches/{late.puffin.pk}/behind/").status_code == 404
    assert other.post(f"/benches/{late.puffin.pk}/behind/take/", {"do": "kit_later"}).status_code == 404


def test_the_bench_sees_until_when_its_step_should_be_done(late: Hostel) -> None:
    page = late.tablet().get("/b/").content.decode()
    assert "By the plan done at" in page
    assert "min behind" in page


def test_a_bench_of_which_nothing_is_heard_is_asked_unless_it_works_on_paper(db: None) -> None:
    quiet = Hostel("Tern Rock Hostel").open()
    board.keep_plan(Lesson.objects.get(pk=quiet.lesson.pk))
    assert "Ask how far they are" not in wall(quiet), "it has only begun"
    Lesson.objects.filter(pk=quiet.lesson.pk).update(opened_at=timezone.now() - dt.timedelta(minutes=50))
    assert wall(quiet).count("Ask how far they are") == 2
    client = quiet.client()
    client.post(f"/benches/{quiet.puffin.pk}/paper/", {"on": "1"})
    page = wall(quiet)
    assert page.count("Ask how far they are") == 1
    assert "On paper" in page
    client.post(f"/benches/{quiet.puffin.pk}/paper/", {"on": "0"})
    assert wall(quiet).count("Ask how far they are") == 2


def test_of_a_bench_nobody_hears_the_plan_is_taken_and_that_is_said(late: Hostel) -> None:
    late.client().post(f"/benches/{late.gannet.pk}/paper/", {"on": "1"})
    page = late.client().get(f"/benches/{late.puffin.pk}/behind/").content.decode()
    assert "Nothing is heard of Gannet" in page
